"""The planer a board is asked through, on prisms: Savitsky 1964, his worked example and openplaning 0.4.9.

The paper: 60 000 lb, beam 14 ft, deadrise 10°, LCG 29 ft, VCG 2 ft, 40 kn gives
a trim near 2.3° (from memory), wetted length over beam near 3.44 and 7.8 to 9.0
thousand pounds of drag by friction line. openplaning numbers were printed by a
run of that library with the weight 0.9 m above the keel, as a rider's is; it
takes V² where the paper takes the mean bottom speed, which costs up to 2.5 % of
drag, the tolerance here.
"""

import unittest
from math import radians

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE, FOOT, KNOT, POUND
from kelvor.core.tank.planing import savitsky
from tests.reference.prism import OPENPLANING, balanced, by_law, prism

POUND_FORCE = POUND * GRAVITY


class WorkedExample(unittest.TestCase):
    def test_the_papers_boat(self):
        """At a twentieth of its size, with Froude's and Reynolds' numbers kept."""
        small = 20.0
        beam, rise, weight = 14 * FOOT / small, radians(10), 60000 * POUND_FORCE / small**3
        planer = prism(beam, rise, density=1.94 * 515.379, viscosity=1.28e-5 * FOOT**2 / small**1.5)
        speed, lcg, vcg = 40 * KNOT / small**0.5, 29 * FOOT / small, 2 * FOOT / small
        found = balanced(planer, weight, beam, rise, speed, lcg, vcg)
        self.assertAlmostEqual(found.trim / DEGREE, 2.3, delta=0.1)
        self.assertAlmostEqual(found.wetted, 3.44, delta=0.06)
        self.assertGreater(found.drag * small**3 / POUND_FORCE, 7700)
        self.assertLess(found.drag * small**3 / POUND_FORCE, 9100)

    def test_lift_coefficient_of_the_example(self):
        q = 1.94 * 515.379 * (40 * KNOT) ** 2 / 2
        wanted = 60000 * POUND_FORCE / (q * (14 * FOOT) ** 2)
        # CL0 0.084 for the flat plate that carries it at 10° of deadrise
        self.assertAlmostEqual(float(savitsky.with_deadrise(0.084, radians(10))), wanted, delta=0.002)


class Prism(unittest.TestCase):
    def test_equilibria_of_openplaning(self):
        for mass, beam, rise, lcg, knots, trim, wetted, drag in OPENPLANING:
            with self.subTest(mass=mass, knots=knots):
                planer = prism(beam, radians(rise))
                found = balanced(planer, mass * GRAVITY, beam, radians(rise), knots * KNOT, lcg, 0.9)
                self.assertAlmostEqual(found.trim / DEGREE / trim, 1.0, delta=0.015)
                self.assertAlmostEqual(found.wetted / wetted, 1.0, delta=0.02)
                self.assertAlmostEqual(found.drag / drag, 1.0, delta=0.025)

    def test_drag_at_a_chosen_trim(self):
        """Beam 0.6 m, 90 kg, flat, 4° (closed form, sea)."""
        for knots, expected in ((15, 119), (20, 106), (25, 93), (30, 85)):
            found = prism(0.6).at(90 * GRAVITY, knots * KNOT, 4 * DEGREE)
            self.assertAlmostEqual(float(found.drag), expected, delta=0.6)

    def test_wherever_a_tenth_of_a_beam_is_wet_it_is_the_law(self):
        """Half a per cent of the wetted length and of the drag, from 0.13 to 3.5 beams."""
        seen = 0
        for beam, degrees in ((0.6, 0), (0.6, 5), (0.4, 10), (0.75, 0)):
            planer, rise = prism(beam, radians(degrees)), radians(degrees)
            for knots in (10, 15, 20, 30):
                for trim in (2, 4, 6, 10):
                    wetted, drag = by_law(90 * GRAVITY, beam, rise, knots * KNOT, radians(trim))
                    if not 0.13 < wetted < 3.5:
                        continue
                    found, seen = planer.at(90 * GRAVITY, knots * KNOT, radians(trim)), seen + 1
                    self.assertAlmostEqual(float(found.wetted) / beam / wetted, 1.0, delta=5.5e-3)
                    self.assertAlmostEqual(float(found.drag) / drag, 1.0, delta=5e-3)
        self.assertGreater(seen, 30)

    def test_a_prism_is_held_no_flatter_than_six_tenths_of_a_degree(self):
        """A judgement of the tank; a prism has no rocker, so the tail's trim is the whole bottom's."""
        self.assertAlmostEqual(np.degrees(prism(0.6).least), 0.6, delta=0.01)

    def test_the_waters_weight_is_a_part_of_archimedes(self):
        """0.2 to 0.7 of the buoyancy of the wedge under water: full buoyancy must never be added to it."""
        for wetted in (1.0, 2.0, 3.0):
            for trim in (3, 6, 10):
                moving = savitsky.moving_lift(trim * DEGREE, wetted)
                static = float(savitsky.standing_lift(moving, wetted, 2.0))
                wedge = wetted**2 * np.sin(trim * DEGREE) / 2.0**2
                self.assertTrue(0.2 <= static / wedge <= 0.72, static / wedge)


if __name__ == "__main__":
    unittest.main()
