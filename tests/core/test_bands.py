"""Bands by moved coefficients: what is moved, by how much, and what two boards share of it."""

import math
import unittest
from dataclasses import replace

from kelvor.core.bands import Moved, Watched, by_figure, counted, with_bands
from kelvor.core.coefficients import ABOUT, HANDBOOK_COEFFICIENTS
from kelvor.core.evaluation import evaluate, ride_case
from kelvor.core.figures import difference_band
from kelvor.core.fluids import GRAVITY
from kelvor.core.ride.condition import condition_of
from kelvor.core.shape.sections import Resolution
from tests.support import demo, evaluated


class Bands(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.slug = "martlet-147"
        cls.settled = evaluated(cls.slug)
        cls.moved = Moved(ride_case(cls.settled), condition_of(demo(cls.slug)[1]))
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
            squares = before[figure.key].band ** 2 + sum(by[figure.key] ** 2 for by in self.moves.values() if figure.key in by)
            self.assertAlmostEqual(figure.band, math.sqrt(squares), delta=1e-12 + 1e-9 * figure.band)
            grown += figure.band > before[figure.key].band * 1.001
        self.assertGreater(grown, 3)

    def test_a_kite_riders_hold_moves_by_the_share_it_is_said_to(self):
        slug = "redshank-139"
        _, brief = demo(slug)
        moves = Moved(ride_case(evaluated(slug)), condition_of(brief)).moves("harness_share")
        self.assertAlmostEqual(moves["side_force"], ABOUT["harness_share"].band * brief.rider.mass * GRAVITY, places=6)

    def test_what_both_boards_share_is_no_band_of_their_difference(self):
        board, brief = demo(self.slug)
        turned = by_figure(self.moves)
        longer = evaluate(replace(board, outline=replace(board.outline)), brief, Resolution.COARSE)
        again = counted(longer, condition_of(brief))
        one = {f.key: f for f in with_bands(self.settled.ride, self.moves).figures}
        told = 0
        for key, moves in turned.items():
            now, then = one[key], again.figures[key]
            if not now.valid or not moves:
                continue
            self.assertAlmostEqual(difference_band(now, then), now.band_of_difference, delta=1e-9 * now.band)
            self.assertGreaterEqual(now.band, difference_band(now, then))
            told += 1
        self.assertGreater(told, 3)
        other = replace(one["planing_drag"], moves=()) if "planing_drag" in one else replace(one[next(iter(turned))], moves=())
        self.assertGreater(difference_band(one[other.key], other), one[other.key].band_of_difference)


if __name__ == "__main__":
    unittest.main()
