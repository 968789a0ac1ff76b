"""What can be typed acts: each part of a foil, a fin, a brief moves a figure of some board."""

import unittest
from dataclasses import fields, is_dataclass, replace
from typing import ClassVar

from kelvor.core.build.costing import to_buy
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.stage import ride
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.templates.marking import marks
from kelvor.exchange.drawings import fin_lines
from tests.support import demo, shape_of

DRAWN = ("outboard", "inserts", "pitch", "angle", "set_depth", "width", "length", "depth", "thickness")
"""What of a fitting is drawn or bought, and moves no figure on every board."""
ASKED = ("targets", "known", "hints", "refers")
"""What of a brief asks for figures and moves none."""


def figures(slug, *, board=None, quiver=False, **brief):
    """Every figure told of a demo board, its board or brief changed."""
    own, of = demo(slug)
    found = evaluate(board or own, replace(of, **brief), Resolution.COARSE)
    case = ride_case(found)
    told = ride(case, condition_of(case.brief), pictures=quiver)
    values = {f.key: (f.value, f.valid) for f in (*found.figures.values(), *told.figures)}
    return {**values, **{gear.gear: gear.most for gear in told.quiver}}


def papers(board):
    """What the papers of a board show of its fittings: marks, fins, what is bought."""
    measured = of_sections(shape_of(board, Resolution.COARSE))
    bought = to_buy(measured, board_mass(measured), HANDBOOK)
    return (
        repr([(m.words, m.points.tolist()) for m in marks(measured.shape)])
        + repr(bought)
        + repr([line.points.tolist() for _, line in fin_lines(measured.shape)])
    )


def each_changed(value):
    """A value with one number or switch within it changed, for each: its path and the value."""
    for field in fields(value):
        held = getattr(value, field.name)
        if is_dataclass(held):
            inner = ((path, {field.name: other}) for path, other in each_changed(held))
        elif isinstance(held, tuple) and held and is_dataclass(held[0]):
            inner = (
                (path, {field.name: (*held[:i], other, *held[i + 1 :])})
                for i, one in enumerate(held)
                for path, other in each_changed(one)
            )
        elif isinstance(held, bool):
            inner = [((), {field.name: not held})]
        elif isinstance(held, int | float):
            count = isinstance(held, int)
            inner = [((), {field.name: (held + 1 if held < 1 else held - 1) if count else held * 1.1 + 0.01})]
        else:
            continue
        yield from (((field.name, *path), replace(value, **changed)) for path, changed in inner)


class Acts(unittest.TestCase):
    plain: ClassVar[dict] = {}

    def moved(self, slug, *, quiver=False, **changed):
        """Whether a figure of a demo board moves."""
        if (slug, quiver) not in self.plain:
            self.plain[slug, quiver] = figures(slug, quiver=quiver)
        plain = self.plain[slug, quiver]
        return any(repr(plain.get(k)) != repr(v) for k, v in figures(slug, quiver=quiver, **changed).items())

    def test_every_part_of_a_brief(self):
        """On some board: a stance where none is strapped, watts where they are asked, gear in use."""
        idle = {}
        for slug in ("dunlin-39", "heron-14", "martlet-147"):
            for path, brief in each_changed(demo(slug)[1]):
                key = tuple(p for p in path if isinstance(p, str))
                if key[0] in ASKED or not idle.get(key, True):
                    continue
                new = {f.name: getattr(brief, f.name) for f in fields(brief)}
                idle[key] = not self.moved(slug, quiver="wings" in key, **new)
        self.assertEqual([key for key, stands in idle.items() if stands], [])
        self.assertGreater(len(idle), 20)

    def test_every_part_of_a_fitting(self):
        idle = {}
        for slug in ("tern-71", "dunlin-39", "guillemot-113"):
            board = demo(slug)[0]
            shown = papers(board)
            for path, fittings in each_changed(board.fittings):
                if not idle.get(path, True):
                    continue
                other = replace(board, fittings=fittings)
                drawn = path[-1] in DRAWN and papers(other) != shown
                idle[path] = not (drawn or self.moved(slug, board=other))
        self.assertEqual([key for key, stands in idle.items() if stands], [])
        self.assertGreater(len(idle), 40)

    def test_every_part_of_a_foil(self):
        foil = demo("dunlin-39")[1].foil
        for field in fields(foil):
            if field.name != "name":
                changed = replace(foil, **{field.name: getattr(foil, field.name) * 1.1 + 0.01})
                with self.subTest(field=field.name):
                    self.assertTrue(self.moved("dunlin-39", foils=(changed,), foil_in_use=0))


if __name__ == "__main__":
    unittest.main()
