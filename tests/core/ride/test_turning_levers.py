"""Landing, turning and sliding as the strip tells them: one change of the bottom, a fin or a tail, all else kept.

Each trend says its ground: physics by the laws named, or common practice, no source.
"""

import unittest
from dataclasses import replace

from kelvor.core.base.units import DEGREE
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.shape.curves.outline import Winger
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Channels, Layout, ShapingLayer
from kelvor.core.shape.surface.sections import Resolution
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


def touches_of(slug, key, **brief):
    """A figure of geometry and balance of a demo board under a changed brief."""
    return evaluate(demo(slug)[0], replace(demo(slug)[1], **brief), Resolution.COARSE).figures[key].value


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


def moved(board, by):
    """A board with all its fins forward by so much [m], on both ends where it has fins there."""

    def forward(box):
        return replace(box, at=replace(box.at, offset=box.at.offset + by))

    return with_fins(board, forward)


def with_fins(board, change):
    """A board with each fin box changed."""
    boxes = tuple(change(box) for box in board.fittings.fin_boxes)
    return replace(board, fittings=replace(board.fittings, fin_boxes=boxes))


def with_winger(board, pull_in):
    """A board with a winger a foot from its tail."""
    return replace(board, outline=replace(board.outline, wingers=(Winger(x=0.28, pull_in=pull_in, run=0.03),)))


def with_channels(board, depth):
    """A board with channels beside its fins."""
    layer = Channels(name="Tried", start=Place("tail", 0.02), end=Place("tail", 0.45), inner=0.08, depth=depth)
    return replace(board, layers=(*board.layers, layer))


class OnTheTail(unittest.TestCase):
    """Common practice; physics: arms of fins and rail about the back foot, slender plates."""

    def figures(self, slug, key, boards):
        return touches(slug, boards, key)

    def test_a_winger_and_fins_forward_make_it_looser(self):
        for slug in ("tern-71", "turnstone-77", "guillemot-113"):
            board = demo(slug)[0]
            by_winger = self.figures(slug, "turn_moment", [with_winger(board, by) for by in (0.0, 0.006, 0.012)])
            self.assertTrue(by_winger[0] > by_winger[1] > by_winger[2], (slug, by_winger))
            by_fins = self.figures(slug, "turn_moment", [moved(board, by) for by in (-0.02, 0.0, 0.02)])
            self.assertTrue(by_fins[0] > 1.04 * by_fins[1] > 1.04 * 1.04 * by_fins[2], (slug, by_fins))

    def test_a_tunnel_to_the_tail_holds_more_and_channels_answer_sideways(self):
        board = demo("tern-71")[0]
        tunnel = ShapingLayer(kind="tunnel", name="Tried", amount=Schedule(((0.0, 0.008), (0.5, 0.0))))
        plain, deep = self.figures("tern-71", "turn_moment", [board, replace(board, layers=(*board.layers, tunnel))])
        self.assertGreater(deep, 1.01 * plain)
        pushed = self.figures("tern-71", "turn_lets_go", [with_channels(board, depth) for depth in (0, 0.003, 0.006)])
        self.assertTrue(pushed[0] < pushed[1] < pushed[2] < 1.05 * pushed[0], pushed)

    def test_toe_lets_go_earlier(self):
        """Which fin is at the end of its lift first depends on its toe; straight-line drag is told beside."""
        board = demo("tern-71")[0]
        toed = [with_fins(board, lambda box, by=by: replace(box, toe=by * DEGREE)) for by in (0, 3)]
        straight, turned = self.figures("tern-71", "turn_lets_go", toed)
        self.assertLess(turned, 0.95 * straight)


class Slides(unittest.TestCase):
    """Common practice: less fin, and fins off the tip, are looser."""

    def test_smaller_wake_fins_slide_at_less_force(self):
        for slug in ("dipper-138", "redshank-139"):
            board = demo(slug)[0]
            sizes = [
                with_fins(board, lambda box, by=by: replace(box, fin=replace(box.fin, span=by * box.fin.span)))
                for by in (1.0, 0.75, 0.5)
            ]
            held = touches(slug, sizes, "slide_force")
            self.assertTrue(held[0] > held[1] > held[2], (slug, held))

    def test_fins_off_the_tip_are_looser(self):
        board = demo("dipper-138")[0]
        turned = touches("dipper-138", [moved(board, by) for by in (0.0, 0.05, 0.10)], "turn_moment")
        self.assertTrue(turned[0] > turned[1] > turned[2], turned)

    def test_rear_fins_out_let_a_wake_surfer_go(self):
        board = demo("martlet-147")[0]
        fronts = replace(board, fittings=replace(board.fittings, fin_boxes=board.fittings.fin_boxes[1:]))
        for key in ("slide_force", "turn_moment"):
            both, without = touches("martlet-147", [board, fronts], key)
            self.assertLess(without, 0.8 * both, key)


class Shim(unittest.TestCase):
    def test_a_degree_under_the_stabiliser_brings_the_lift_aft_and_the_mast_forward(self):
        """By hand: 18 % of the wing's area at 3.9 a radian lift 0.012 of it a degree, of 0.52 that it lifts flying, a
        fuselage behind: 1.6 cm for 0.7 m (coefficients of the table; riders speak of one to two centimetres, common
        practice, no source).
        """
        for slug in ("dunlin-39", "whimbrel-97"):
            brief = demo(slug)[1]
            shimmed = replace(brief.foil, shim=1 * DEGREE)
            plain, nosed = (
                touches_of(slug, "track_needed", foils=(foil,), foil_in_use=0) for foil in (brief.foil, shimmed)
            )
            self.assertAlmostEqual(nosed - plain, 0.023 * brief.foil.fuselage, delta=0.003)


class Sections(unittest.TestCase):
    """Physics: NACA 0009 against 0012 near a Reynolds number of 5e5 (neuralfoil 0.3.3)."""

    def test_a_thicker_fin_holds_more_and_drags_more(self):
        board = demo("shearwater-76")[0]
        thick = [
            with_fins(board, lambda box, by=by: replace(box, fin=replace(box.fin, thickness=by))) for by in (0.09, 0.12)
        ]
        margins, speeds = (touches("shearwater-76", thick, key) for key in ("fin_margin_push", "run_speed"))
        self.assertGreater(margins[1], margins[0] + 0.10)
        self.assertTrue(0.002 < 1 - speeds[1] / speeds[0] < 0.02, speeds)

    def test_a_shorter_fin_is_faster_and_holds_less_when_pushed(self):
        board = demo("shearwater-76")[0]
        spans = [
            with_fins(board, lambda box, by=by: replace(box, fin=replace(box.fin, span=by)))
            for by in (0.46, 0.40, 0.34)
        ]
        margins, speeds = (touches("shearwater-76", spans, key) for key in ("fin_margin_push", "run_speed"))
        self.assertTrue(margins[0] > margins[1] > margins[2], margins)
        self.assertTrue(speeds[0] < speeds[1] < speeds[2], speeds)

    def test_flat_inside_lifts_outward_as_toed_out(self):
        board = demo("tern-71")[0]
        flat = with_fins(board, lambda box: replace(box, fin=replace(box.fin, section="flat inside")))
        both, inside = touches("tern-71", [board, flat], "fins_engage")
        toe = board.fittings.fin_boxes[1].toe
        self.assertAlmostEqual(both, toe, delta=0.1 * DEGREE)
        self.assertAlmostEqual(inside, abs(toe - 0.8 * board.fittings.fin_boxes[1].fin.thickness), delta=0.1 * DEGREE)


if __name__ == "__main__":
    unittest.main()
