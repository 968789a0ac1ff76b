"""Figures: what a method leaves open, the band of a difference, and a typed value that is taken as it is."""

import math
import unittest

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figure, FigureDefinition, difference_band, told_apart
from kelvor.core.base.limits import Limit, within
from kelvor.core.base.units import Quantity

FORCE = FigureDefinition("force", "Force", Quantity.FORCE, band_share=0.1, band_least=2.0)


def figure(value, *, method=0.0, **moves):
    return Figure(definition=FORCE, value=value, band_of_difference=method, moves=tuple(moves.items()))


class Bands(unittest.TestCase):
    def test_a_method_leaves_its_share_and_its_least_open(self):
        self.assertAlmostEqual(FORCE.band_of(-30.0), 5.0)
        self.assertAlmostEqual(FORCE.band_of(0.0), 2.0)

    def test_of_a_difference_counts_half_of_it_at_most_and_what_moves_one_board_alone(self):
        """√(0.3² + 0.4²) where the method is the less; half the difference where it is the more."""
        here, there = figure(12.0, method=0.3, mass=1.4, drag=2.0), figure(10.0, method=0.2, mass=1.0, drag=2.0)
        self.assertAlmostEqual(difference_band(here, there), 0.5)
        self.assertTrue(told_apart(here, there))
        self.assertAlmostEqual(difference_band(figure(12.0, method=9.0), figure(10.0)), 1.0)
        self.assertFalse(told_apart(figure(12.0, mass=2.5), figure(10.0)))
        uncounted = difference_band(here, there, counted=False)
        self.assertAlmostEqual(uncounted, math.hypot(0.3, 0.8))


class Typed(unittest.TestCase):
    def test_what_a_limit_allows_is_taken_as_it_is(self):
        self.assertEqual(within(Limit(0.1, 60, unit="m/min"), 9.0, "Feed"), 9.0)
        with self.assertRaisesRegex(InputError, "Feed"):
            within(Limit(0.1, 60, unit="m/min"), 61.0, "Feed")


if __name__ == "__main__":
    unittest.main()
