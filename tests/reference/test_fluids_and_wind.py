"""Viscosity, vapour pressure and air against library values; wind over water and apparent wind against closed forms."""

import unittest
from math import cos, degrees, log, radians, sqrt

from kelvor.core.base.fluids import Water, air_density, vapour_pressure
from kelvor.core.base.units import KNOT
from kelvor.core.tank.laws.wind import apparent, at_height


class Fluids(unittest.TestCase):
    """iapws 1.5.5 for fresh water and vapour, ambiance 1.3.1 for ISA air; sea water by Sharqawy 2010 (memory)."""

    def test_viscosity_of_fresh_and_sea_water(self):
        # both formulas state 1.5 % on viscosity; against these tables they do far better
        for kind, celsius, expected in (("fresh", 15, 1.1386e-6), ("fresh", 25, 0.8927e-6), ("sea", 15, 1.189e-6)):
            with self.subTest(kind=kind, celsius=celsius):
                self.assertAlmostEqual(Water(kind=kind, celsius=celsius).viscosity / expected, 1.0, delta=0.001)

    def test_vapour_pressure_of_fresh_water(self):
        self.assertAlmostEqual(vapour_pressure(15), 1705.8, delta=0.3)
        self.assertAlmostEqual(vapour_pressure(100) / 101325, 1.0, delta=0.002)

    def test_air(self):
        self.assertAlmostEqual(air_density(15), 1.2250, delta=1e-4)
        self.assertAlmostEqual(air_density(30), 1.1644, delta=1e-4)


class Wind(unittest.TestCase):
    """The log law with Charnock 0.0144, solved to its end (closed form): shares of the wind at 10 m."""

    def test_gradient(self):
        for knots, shares in ((15, (0.692, 0.778, 0.833, 0.894)), (25, (0.656, 0.752, 0.814, 0.882))):
            for height, expected in zip((0.3, 0.8, 1.5, 3.0), shares, strict=True):
                with self.subTest(knots=knots, height=height):
                    self.assertAlmostEqual(at_height(knots * KNOT, 10, height) / (knots * KNOT), expected, delta=6e-4)

    def test_roughness_solves_its_own_law(self):
        speed = at_height(10.0, 10.0, 2.0)
        # two heights give the friction velocity; its roughness must be Charnock's plus the smooth part
        friction = (10.0 - speed) * 0.40 / log(10 / 2)
        rough = 10 / 2.718281828459045 ** (10.0 * 0.40 / friction)
        self.assertAlmostEqual(rough, 0.0144 * friction**2 / 9.80665 + 0.11 * 1.4607e-5 / friction, delta=2e-6)

    def test_below_the_waves_it_stays(self):
        self.assertEqual(at_height(8.0, 10, 0.1), at_height(8.0, 10, 0.3))
        self.assertEqual(at_height(0.0, 10, 2), 0.0)

    def test_apparent_wind(self):
        for wind, angle, speed, felt, off in ((7.5, 90, 10, 12.500, 36.870), (7.5, 120, 12, 10.500, 38.213)):
            found, at = apparent(wind, speed, radians(angle))
            self.assertAlmostEqual(float(found), felt, places=3)
            self.assertAlmostEqual(degrees(float(at)), off, places=3)
            self.assertAlmostEqual(
                float(found), sqrt(wind**2 + speed**2 + 2 * wind * speed * cos(radians(angle))), places=9
            )


if __name__ == "__main__":
    unittest.main()
