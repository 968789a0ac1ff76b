"""Floating: box barge (wall-sided closed forms), Wigley hull (closed forms), and trimesh clipping of a board."""

import unittest
from dataclasses import dataclass
from math import degrees, radians

import numpy as np
from trimesh.intersections import slice_mesh_plane

from kelvor.core.tank.floating.balance import Load, free_balance, plane_at, righting_arm, sink
from kelvor.core.tank.floating.clipping import Hull, WaterPlane
from tests.support import cut_away, plain_board, shape_of, trimesh_of, v_layer

RHO = 1000.0


@dataclass
class Bare:
    x: np.ndarray
    y: np.ndarray
    z: np.ndarray


def barge(length=4.0, beam=0.6, depth=0.5):
    x = np.linspace(0, length, 41)
    y = np.tile(np.array([0, 0.5, 1, 1, 1, 0.5, 0]) * beam / 2, (len(x), 1))
    z = np.tile(np.array([0, 0, 0, 0.4, 1, 1, 1]) * depth, (len(x), 1))
    return Hull(Bare(x, y, z))


class BoxBarge(unittest.TestCase):
    """4 × 0.6 × 0.5 m, draught 0.2, KG 0.18: GM 0.07; GZ = sin φ (GM + ½ BM tan² φ) while wall-sided."""

    def setUp(self):
        self.hull = barge()
        self.mass = 4 * 0.6 * 0.2 * RHO

    def test_righting_arms(self):
        for heel, expected in ((10, 0.012560), (20, 0.027340), (30, 0.047500)):
            arm = righting_arm(self.hull.immersion, (Load(self.mass, 2, 0, 0.18),), RHO, radians(heel), 0, 0.5)
            self.assertAlmostEqual(arm, expected, places=6)

    def test_list_and_trim(self):
        listing = free_balance(self.hull.immersion, (Load(self.mass, 2, 0.03, 0.18),), RHO, 0, 0.5)
        self.assertTrue(listing.found)
        self.assertAlmostEqual(degrees(listing.heel), 20.454, delta=2e-3)
        trimming = free_balance(self.hull.immersion, (Load(self.mass, 2.15, 0, 0.18),), RHO, 0, 0.5)
        self.assertAlmostEqual(degrees(trimming.trim), -1.3043, delta=2e-4)  # weight ahead: nose down


class Wigley(unittest.TestCase):
    """Wigley hull, L 2, B 0.2, T 0.125: V 0.022222, KB 0.078125 (closed)."""

    def test_volume_and_centre(self):
        draught, beam = 0.125, 0.2
        x = np.linspace(-1, 1, 201)
        z = np.linspace(0, draught, 121)
        half = beam / 2 * np.outer(1 - x**2, 1 - ((z - draught) / draught) ** 2)
        lid = np.zeros((len(x), 1))
        hull = Hull(
            Bare(x, np.concatenate([half, lid], 1), np.concatenate([np.tile(z, (len(x), 1)), lid + draught], 1))
        )
        found = hull.immersion(WaterPlane(draught))
        self.assertAlmostEqual(found.volume / 0.0222222, 1, delta=2e-4)
        self.assertAlmostEqual(found.z / found.volume, 0.078125, delta=2e-5)
        half_full = hull.immersion(WaterPlane(draught / 2))
        # ∫∫ (1−x²)(1−(1−ζ)²) over the lower half: 5/24 of B·T times 4/3
        self.assertAlmostEqual(half_full.volume / (beam * draught * 5 / 24 * 4 / 3), 1, delta=3e-4)


class AgainstTrimesh(unittest.TestCase):
    """A board's immersed volume and moments against trimesh cutting the same mesh by the same plane."""

    def test_clipping(self):
        shape = shape_of(plain_board(layers=(v_layer(4), cut_away(6))))
        body, hull = trimesh_of(shape), Hull(shape)
        for depth, trim, heel in ((0.03, 0, 0), (0.05, 2, 0), (0.06, -1.5, 6), (0.05, 1, -12)):
            plane = plane_at(depth, radians(trim), radians(heel))
            normal = np.array([plane.pitch, plane.roll, -1.0])
            wet = slice_mesh_plane(body, normal, [0, 0, plane.depth], cap=False)
            # integrate with the water plane as origin, so that the missing cap adds nothing
            v = wet.vertices - [0, 0, plane.depth]
            a, b, c = (v[wet.faces[:, i]] for i in range(3))
            volumes = np.einsum("ij,ij->i", a, np.cross(b, c)) / 6
            moments = (volumes[:, None] * (a + b + c) / 4).sum(0)
            found = hull.immersion(plane)
            with self.subTest(depth=depth, trim=trim, heel=heel):
                self.assertAlmostEqual(found.volume, volumes.sum(), delta=2e-3 * volumes.sum())
                self.assertAlmostEqual(found.x / found.volume, moments[0] / volumes.sum(), delta=1e-3)
                self.assertAlmostEqual(found.y / found.volume, moments[1] / volumes.sum(), delta=5e-4)

    def test_sinkage_carries_the_load(self):
        hull = Hull(shape_of(plain_board()))
        depth = sink(hull.immersion, 20.0, RHO, 0.02, 0.05, -0.2, 0.5)
        self.assertAlmostEqual(RHO * hull.immersion(plane_at(depth, 0.02, 0.05)).volume, 20.0, places=6)
