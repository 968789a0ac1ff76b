"""What can be typed acts: each coefficient, each part of a foil and a fin moves a figure of some board."""

import unittest
from dataclasses import fields, replace
from typing import ClassVar

from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.stage import ride
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import ABOUT, HANDBOOK_COEFFICIENTS
from tests.support import demo, some

BOARDS = {
    "Hand wing": ("dunlin-39",),
    "Sail": ("shearwater-76", "eider-148"),
    "Kite": ("redshank-139", "phalarope-174"),
    "Paddle": ("whimbrel-97", "heron-14"),
    "Foil": ("dunlin-39", "whimbrel-97", "eider-148"),
    "Fins": ("tern-71",),
    "Turning": ("tern-71",),
    "Landing": ("tern-71", "dunlin-39"),
    "Loads": (),  # what the workshop's checks of made boards read
}
"""Boards whose figures may answer to the coefficients of a group; others are looked for on all of them."""
ELSEWHERE = {
    "side_push": ("martlet-147",), "fin_reserve": ("skua-102",),
}  # fmt: skip
"""Coefficients that answer on boards of their own."""
QUIVER = ("wing_flat", "sail_flat", "kite_flat")
"""Coefficients of the most wind of the quiver."""
ALL = ("dunlin-39", "shearwater-76", "redshank-139", "heron-14", "merganser-12", "whimbrel-97", "dipper-138")


def figures(slug, *, board=None, table=HANDBOOK_COEFFICIENTS, quiver=False, **brief):
    """Every figure told of a demo board, its brief or coefficients changed."""
    own, of = demo(slug)
    found = evaluate(board or own, replace(of, **brief), Resolution.COARSE, coefficients=table)
    case = ride_case(found)
    told = ride(case, condition_of(case.brief), pictures=quiver)
    values = {f.key: (f.value, f.valid) for f in (*found.figures.values(), *told.figures)}
    return {**values, **{gear.gear: gear.most for gear in told.quiver}}


class Acts(unittest.TestCase):
    plain: ClassVar[dict] = {}

    def moved(self, slug, *, quiver=False, **changed):
        """Whether a figure of a demo board moves."""
        if (slug, quiver) not in self.plain:
            self.plain[slug, quiver] = figures(slug, quiver=quiver)
        plain = self.plain[slug, quiver]
        return any(repr(plain.get(k)) != repr(v) for k, v in figures(slug, quiver=quiver, **changed).items())

    def test_every_coefficient(self):
        for key, about in some(list(ABOUT.items()), 14):
            value = getattr(HANDBOOK_COEFFICIENTS, key)
            if key == "sail_stalled":  # drives on courses deeper than those figures of demo boards are read on
                continue
            other = value + about.band if value + about.band <= about.high else value - about.band
            if key == "fin_reserve":  # binds only where it asks for more than holding at the hump does
                other = about.high
            table = replace(HANDBOOK_COEFFICIENTS, **{key: other})
            boards = ELSEWHERE.get(key) or BOARDS.get(about.group, ALL)
            with self.subTest(coefficient=key):
                acts = (self.moved(slug, table=table, quiver=key in QUIVER) for slug in boards)
                self.assertTrue(not boards or any(acts))

    def test_every_part_of_a_foil(self):
        foil = demo("dunlin-39")[1].foil
        for field in fields(foil):
            if field.name != "name":
                changed = replace(foil, **{field.name: getattr(foil, field.name) * 1.1 + 0.01})
                with self.subTest(field=field.name):
                    self.assertTrue(self.moved("dunlin-39", foils=(changed,), foil_in_use=0))

    def test_every_part_of_a_fin(self):
        board = demo("tern-71")[0]
        for field in fields(board.fittings.fin_boxes[1].fin):
            if field.name in ("name", "set_depth"):  # how deep its base sits in the box is drawn on the papers
                continue
            with self.subTest(field=field.name):
                boxes = []
                for box in board.fittings.fin_boxes:
                    value = getattr(box.fin, field.name)
                    other = "flat inside" if field.name == "section" else value * 1.1
                    boxes.append(replace(box, fin=replace(box.fin, **{field.name: other})))
                changed = replace(board, fittings=replace(board.fittings, fin_boxes=tuple(boxes)))
                self.assertTrue(self.moved("tern-71", board=changed))


if __name__ == "__main__":
    unittest.main()
