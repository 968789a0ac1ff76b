"""The table of coefficients: each has its words and source, and each moves a figure that somebody reads."""

import unittest
from dataclasses import fields, replace
from functools import cache

from kelvor.core.evaluation.bands import Moved
from kelvor.core.evaluation.evaluation import evaluate, ride_case, with_ride
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.pictures import Chart
from kelvor.core.ride.stage import ride
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import ABOUT, Coefficients
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from tests.support import demo, evaluated

READERS = {
    "Hand wing": "sandpiper-46", "Sail": "skua-102", "Kite": "phalarope-174", "Rider": "skua-102", "Paddle": "heron-14",
    "Hull": "shearwater-76", "Air": "sandpiper-46", "Foil": "sandpiper-46", "Fins": "skua-102", "Turning": "tern-71",
    "Landing": "tern-71", "Water": "heron-14",
}  # fmt: skip
"""A board that reads the coefficients of each group."""
OTHERS = {
    "arm_share": "sandpiper-46", "harness_share": "phalarope-174", "lying_drag_area": "merganser-12",
    "body_drag": "stint-33",
    "limb_length": "stint-33", "running_trim": "sandpiper-46", "deck_ends": "heron-14",
    "touch_share": "sandpiper-46", "air_form": "eider-148", "air_skin": "eider-148", "side_push": "martlet-147",
    "step_ahead": "shearwater-76",
    "rider_centre": "sandpiper-46", "mast_centre": "eider-148", "foil_heel": "eider-148", "sail_stalled": "eider-148",
    "fin_reserve": "tern-71", "kite_dive": "redshank-139", "kite_dive_whole": "redshank-139", "step_back": "heron-14",
    "added_mass": "redshank-139", "release_angle": "whimbrel-97", "awash": "dunlin-39", "hull_yaw": "heron-14",
    "slide_heel": "dipper-138", "tail_breaks": "dipper-138", "chop_from": "shearwater-76", "roll_share": "tern-71",
    "pump_reserve": "whimbrel-97",
}  # fmt: skip
"""Coefficients that another board of the demo reads."""


BINDS_AT = {"kite_steered": "high", "tail_breaks": "low", "release_angle": "low"}
"""The end of their range at which limits bind that do not on boards as they are drawn."""
BEFORE_THE_RIDE = ("cruise", "roll_share", "mast_mass", "wing_mass", "fuselage_mass", "rig_height", "rider_centre")
"""Coefficients that the live path or the float read."""


@cache
def read(slug, table, *, whole=False, pictures=True):
    """What is shown of a board: figures and their bands, and what its pictures draw."""
    if whole:
        found = evaluate(*demo(slug), Resolution.COARSE, coefficients=table)
    else:
        still = replace(evaluated(slug), live=replace(evaluated(slug).live, coefficients=table))
        found = with_ride(
            still, ride(ride_case(still), condition_of(still.live.brief), still.floating, pictures=pictures)
        )
    shown = {key for phase in found.phases for key in phase.phase.figures}
    lines = {
        (key, line.name): tuple(line.y)
        for key, picture in found.ride.pictures.items()
        if isinstance(picture, Chart)
        for line in picture.lines
    }
    lines["quiver"] = tuple((row.gear, row.note, row.most) for row in found.ride.quiver)
    return (lines if pictures else {}) | {
        key: (figure.value if figure.valid else None, figure.band)
        for key, figure in found.figures.items()
        if key in shown
    }


@cache
def ridden(slug):
    """A board whose ride is counted with any coefficient moved."""
    return Moved(ride_case(evaluated(slug)), condition_of(demo(slug)[1]))


def moved(slug, key, by, *, whole):
    """Whether moving a coefficient moves a figure that is shown, or else its band or a picture."""
    if key in ridden(slug).read and ridden(slug).moves(key):
        return True
    other = replace(TABLE, **{key: getattr(TABLE, key) + by})
    return any(
        read(slug, other, whole=whole, pictures=p) != read(slug, TABLE, whole=whole, pictures=p) for p in (False, True)
    )


class Table(unittest.TestCase):
    def test_every_coefficient_is_declared_whole(self):
        self.assertEqual(set(ABOUT), {f.name for f in fields(Coefficients)})
        for key, about in ABOUT.items():
            with self.subTest(key):
                value = getattr(TABLE, key)
                self.assertTrue(
                    about.low <= value - about.band and value + about.band <= about.high, "its band leaves its range"
                )
                self.assertGreater(about.band, 0)
                self.assertTrue(about.label[0].isalpha() and about.source)
                self.assertRegex(about.source, r"judgement|common practice|memory|lifting line|neuralfoil")

    def test_each_moved_by_its_band_moves_a_figure_that_is_shown(self):
        idle = []
        for key, about in ABOUT.items():
            if about.group == "Loads":  # what a proof load follows: see the proofs of made boards
                continue
            slug = OTHERS.get(key, READERS[about.group])
            ways = [about.band, -about.band]
            if key in BINDS_AT:
                ways = [getattr(about, BINDS_AT[key]) - getattr(TABLE, key)]
            if not any(moved(slug, key, by, whole=key in BEFORE_THE_RIDE) for by in ways):
                idle.append((key, slug))
        self.assertEqual(idle, [])


if __name__ == "__main__":
    unittest.main()
