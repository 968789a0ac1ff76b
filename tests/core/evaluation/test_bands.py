"""Bands by moved coefficients: what is moved, by how much, and what two boards share of it."""

import math
import unittest
from dataclasses import replace

from kelvor.core.base.figures import difference_band, told_apart
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.evaluation.evaluation import ride_case
from kelvor.core.evaluation.uncertainty import PerturbedRide, Watched, moves_by_figure, with_bands, with_counted_bands
from kelvor.core.ride.condition import condition_of
from kelvor.core.tank.laws.coefficients import ABOUT, HANDBOOK_COEFFICIENTS
from tests.support import demo, evaluated


class Bands(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.slug = "martlet-147"
        cls.settled = evaluated(cls.slug)
        cls.moved = PerturbedRide(ride_case(cls.settled), condition_of(demo(cls.slug)[1]))
        cls.moves = {key: cls.moved.moves(key) for key in cls.moved.read}

    def test_only_what_is_read_is_moved(self):
        watched = Watched(HANDBOOK_COEFFICIENTS)
        self.assertEqual(watched.form_drag, HANDBOOK_COEFFICIENTS.form_drag)
        self.assertEqual(watched.read, {"form_drag"})
        self.assertIn("form_drag", self.moved.read)  # a wake board floats before it planes
        for key in ("sail_lift_most", "kite_elevation", "mast_chord", "stroke_rate"):
            self.assertNotIn(key, self.moved.read)

    def test_a_band_is_the_methods_and_the_root_of_the_squares_of_all_moves(self):
        wider = with_bands(self.settled.ride, self.moves)
        before = {f.key: f for f in self.settled.ride.figures}
        grown = 0
        for figure in wider.figures:
            self.assertFalse(figure.counting)
            squares = before[figure.key].band ** 2 + sum(
                by[figure.key] ** 2 for by in self.moves.values() if figure.key in by
            )
            self.assertAlmostEqual(figure.band, math.sqrt(squares), delta=1e-12 + 1e-9 * figure.band)
            grown += figure.band > before[figure.key].band * 1.001
        self.assertGreater(grown, 3)

    def test_a_kite_riders_hold_moves_by_the_share_it_is_said_to(self):
        slug = "redshank-139"
        _, brief = demo(slug)
        moves = PerturbedRide(ride_case(evaluated(slug)), condition_of(brief)).moves("harness_share")
        self.assertAlmostEqual(moves["side_force"], ABOUT["harness_share"].band * brief.rider.mass * GRAVITY, places=6)

    def test_what_both_boards_share_is_no_band_of_their_difference(self):
        """A board beside itself shares all; beside one whose coefficients count nothing, none. The method leaves half
        of a small difference open and of a large one what it leaves of any two boards.
        """
        again = with_counted_bands(evaluated(self.slug), condition_of(demo(self.slug)[1]))
        one = {f.key: f for f in with_bands(self.settled.ride, self.moves).figures}
        told = [key for key in moves_by_figure(self.moves) if one[key].valid and one[key].moves]
        self.assertGreater(len(told), 3)
        for key in told:
            now, whole = one[key], one[key].band_of_difference
            for by, method in ((0.0, 0.0), (whole, whole / 2), (10 * whole, whole)):
                other = replace(again.figures[key], value=now.value + by)
                self.assertAlmostEqual(difference_band(now, other), method, delta=1e-9 * now.band)
                self.assertFalse(by == 0.0 and told_apart(now, other))
            left = math.hypot(*(move for _, move in now.moves))
            alone = replace(now, moves=(), value=now.value + 10 * whole)
            self.assertAlmostEqual(difference_band(now, alone), math.hypot(whole, left), places=9)
            self.assertEqual(told_apart(now, alone), 10 * whole > math.hypot(whole, left))

    def test_a_difference_too_small_to_read_is_none(self):
        figure = evaluated(self.slug).figures["volume"]
        self.assertFalse(told_apart(figure, replace(figure, value=figure.value + 1e-6, band_of_difference=0.0)))
        self.assertTrue(told_apart(figure, replace(figure, value=figure.value + 1e-3, band_of_difference=0.0)))

    def test_of_a_lever_what_coefficients_leave_open_is_reckoned(self):
        """0.4 of the difference and a fiftieth of the band, beside half of the difference for the method."""
        figure = next(f for f in self.settled.ride.figures if f.valid and f.band > 0)
        other = replace(figure, value=figure.value + 0.1 * figure.band_of_difference, moves=())
        gap = 0.1 * figure.band_of_difference
        self.assertAlmostEqual(
            difference_band(figure, other, counted=False), math.hypot(gap / 2, 0.4 * gap + figure.band / 50), places=12
        )


if __name__ == "__main__":
    unittest.main()
