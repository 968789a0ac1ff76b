"""Closed forms: ellipsoid, thin ellipsoid shell, half-ellipse lamina, composite centre.

Ellipsoid: V = 4/3 π abc, I = V/5 (b²+c²). Half-ellipse: area π/2 ab, centroid 4h/3π. Shell second moments:
numeric reference values for semi-axes 1.2/0.3/0.06 m (surface integral, converged to six digits).
"""

import unittest
from dataclasses import dataclass
from math import pi

import numpy as np

from kelvor.core.build.mass.properties import MassProperties, combined
from kelvor.core.shape.surface.moments import section_areas, solid, surface_zones
from kelvor.core.shape.surface.sections import Columns

A, B, C = 1.2, 0.3, 0.06


@dataclass(eq=False)
class Body:
    """Half-curves of a body, as the moments want them."""

    x: np.ndarray
    y: np.ndarray
    z: np.ndarray
    half_width: np.ndarray
    keel: np.ndarray
    deck: np.ndarray
    columns: Columns
    inner: np.ndarray


def ellipsoid(n=321, m=161):
    x = -A * np.cos(np.linspace(0, pi, n))
    r = np.sqrt(np.maximum(0, 1 - (x / A) ** 2))
    angle = np.linspace(-pi / 2, pi / 2, m)
    y, z = np.outer(r, B * np.cos(angle)), np.outer(r, C * np.sin(angle))
    return Body(x, y, z, r * B, -r * C, r * C, Columns(m // 3, m // 2, 2 * m // 3, m - 1, m), np.zeros(n))


class Ellipsoid(unittest.TestCase):
    def test_solid(self):
        body = ellipsoid()
        found = solid(body.x, section_areas(body))
        volume = 4 / 3 * pi * A * B * C
        self.assertAlmostEqual(volume, 0.090478, places=6)
        # faceting loses volume as the square of the step: 2e-4 at this resolution
        self.assertAlmostEqual(found.volume / volume, 1, delta=2.5e-4)
        for value, expected in ((found.ixx, 0.0016938), (found.iyy, 0.026123), (found.izz, 0.027686)):
            self.assertAlmostEqual(value / expected, 1, delta=6e-4)
        self.assertAlmostEqual(found.x, 0, places=9)

    def test_even_skin(self):
        parts = surface_zones(ellipsoid()).values()
        self.assertAlmostEqual(sum(p.area for p in parts), 2.38388, delta=1e-3)
        whole = combined(MassProperties(mass=p.area, x=p.x, z=p.z, roll=p.ixx, pitch=p.iyy, yaw=p.izz) for p in parts)
        for value, expected in ((whole.roll, 0.061873), (whole.pitch, 0.867598), (whole.yaw, 0.921246)):
            self.assertAlmostEqual(value / expected, 1, delta=1e-3)

    def test_half_ellipse_lamina(self):
        t = np.linspace(0, pi / 2, 400)
        y, z = 0.35 * np.cos(t), 0.06 * np.sin(t)
        # the flat side is the bottom: from its centre out to the edge, then back over the arc
        half = Body(
            np.array([0.0]),
            np.concatenate([[0.0], y])[None],
            np.concatenate([[0.0], z])[None],
            None,
            None,
            None,
            None,
            None,
        )
        found = section_areas(half)
        self.assertAlmostEqual(float(found.area[0]), 0.032987, places=6)
        self.assertAlmostEqual(float(found.first_z[0] / found.area[0]), 0.025465, places=6)


class Composite(unittest.TestCase):
    def test_centre_of_board_and_rider(self):
        """7 kg at the origin and 75 kg at (−0.2, 0.9) m."""
        # Steiner by hand: 2 + 3 (0.4² + 0.3²)
        self.assertAlmostEqual(MassProperties(mass=3, x=0.4, z=-0.3, pitch=2).pitch_about(0.0, 0.0), 2.75)
        both = combined([MassProperties(mass=7, x=0, z=0), MassProperties(mass=75, x=-0.2, z=0.9)])
        self.assertAlmostEqual(both.x, -0.18293, places=5)
        self.assertAlmostEqual(both.z, 0.82317, places=5)

    def test_steiner(self):
        """A 2.5 kg plate 1.4 × 0.47 m: 0.45 kg m² about its centre, 0.68 about an axis 0.30 m away (closed form)."""
        plate = MassProperties(mass=2.5, x=0.7, z=0, yaw=2.5 * (1.4**2 + 0.47**2) / 12)
        self.assertAlmostEqual(plate.yaw_about(0.7), 0.4543, places=3)
        self.assertAlmostEqual(plate.yaw_about(0.4), 0.6793, places=3)
