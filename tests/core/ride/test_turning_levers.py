"""Landing, turning and sliding as the strip tells them: one change of the bottom, a fin or a tail, all else kept.

Each trend says its ground: physics by the laws named, or common practice, no source.
"""

import unittest
from dataclasses import replace

from kelvor.core.base.units import DEGREE
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Layout, ShapingLayer
from tests.core.ride.test_first_levers import told
from tests.support import demo


def flat_bottom(board):
    """A board with nothing on its bottom."""
    return replace(board, layers=())


def with_form(board, kind, amount, width=None):
    """A board with one more form on its bottom, the same all along."""
    layout = Layout() if width is None else Layout("centre", Schedule.constant(width))
    layer = ShapingLayer(kind=kind, name=f"Tried {kind}", amount=Schedule.constant(amount), layout=layout)
    return replace(board, layers=(*board.layers, layer))


def touches(slug, boards, key="slam"):
    """First touch, or another figure, of boards under a demo board's brief."""
    wind = 16 if demo(slug)[1].wing is not None else 0
    return [told(slug, board)(key, wind).value for board in boards]


class FirstTouch(unittest.TestCase):
    """Physics: Wagner's entry of sections; that air closes a hollow is a judgement."""

    def test_a_hollow_is_never_softer_than_a_flat(self):
        flat = flat_bottom(demo("redshank-139")[0])
        hollows = touches("redshank-139", [with_form(flat, "hollow", depth) for depth in (0.0, 0.003, 0.008)])
        self.assertGreaterEqual(min(hollows[1:]), 0.999 * hollows[0])
        self.assertLess(max(hollows) / hollows[0], 1.05)

    def test_a_spine_is_softer_the_more_it_stands_out(self):
        flat = flat_bottom(demo("dipper-138")[0])
        spines = touches("dipper-138", [with_form(flat, "spine", depth, 0.12) for depth in (0.0, 0.0015, 0.003)])
        self.assertTrue(spines[0] > 1.002 * spines[1] and spines[1] > 1.002 * spines[2], spines)
        # a hollow as deep as the spine hides it from the water
        hidden = with_form(with_form(flat, "hollow", 0.006), "spine", 0.003, 0.12)
        self.assertAlmostEqual(touches("dipper-138", [hidden])[0] / spines[0], 1, delta=0.02)

    def test_a_double_on_a_keel_lies_between_flat_and_v(self):
        flat = flat_bottom(demo("tern-71")[0])
        vee = with_form(flat, "v", 4 * DEGREE)
        tried = touches("tern-71", [flat, with_form(vee, "double", 0.006), vee])
        self.assertTrue(tried[0] > 1.01 * tried[1] > 1.01 * 1.01 * tried[2], tried)

    def test_more_v_forward_softens_chop(self):
        board = demo("shearwater-76")[0]
        steeper = with_form(board, "v", 3 * DEGREE)
        before, after = touches("shearwater-76", [board, steeper], "chop_load")
        self.assertLess(after, 0.9 * before)


if __name__ == "__main__":
    unittest.main()
