"""Scans: a known motion found again, planted dents and twist, other boards refused; files read and refused by name."""

import tempfile
import unittest
from pathlib import Path

import numpy as np
import trimesh

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import System
from kelvor.core.made.scan import Surface, laid_on
from kelvor.core.shape.surface.sections import Resolution, sections
from kelvor.core.shape.surface.surface import mesh
from kelvor.demo.boards import demo_boards
from kelvor.exchange.scans import laid_scan, read_points
from kelvor.ui.build.shown.scan import scan_summary

PLY = (
    "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\n"
    "property list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n{} 0 1 {}\n"
)

BOARDS = {name: board for name, board, _ in demo_boards()}
BOARD = BOARDS["dunlin-39"]
TURN, SHIFT = np.radians([3.0, -2.0, 8.0]), np.array([0.12, -0.05, 0.03])


def scanned(shape, count=20_000, noise=0.0, dents=(), twist=0.0, seed=1):
    """Points over a design as trimesh strews them, with what is planted; and where they truly lie."""
    body = mesh(shape)
    triangles = trimesh.Trimesh(body.vertices, body.triangles, process=False)
    points, faces = trimesh.sample.sample_surface(triangles, count, seed=seed)
    points, normal = np.asarray(points), triangles.face_normals[faces]
    rng = np.random.default_rng(seed)
    moved = points + normal * rng.normal(0.0, noise, count)[:, None] if noise else points.copy()
    top = points[:, 2] > np.interp(points[:, 0], shape.x, (shape.keel + shape.deck) / 2)
    for x, y, deep, wide in dents:
        off = deep * np.exp(-((points[:, 0] - x) ** 2 + (points[:, 1] - y) ** 2) / (2 * wide**2)) * top
        moved -= normal * off[:, None]
    middle = (shape.x[0] + shape.x[-1]) / 2
    moved[:, 2] += np.tan(twist) * (points[:, 0] - middle) / (shape.x[-1] - shape.x[0]) * points[:, 1]
    return moved


def away(points):
    """The same, turned and moved, in millimetres, by trimesh's own matrices."""
    turn = trimesh.transformations.rotation_matrix(np.linalg.norm(TURN), TURN)[:3, :3]
    return 1000 * (points @ turn.T + SHIFT)


class Laid(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.shape = sections(BOARD, Resolution.NORMAL)

    def test_a_known_motion_is_found_to_a_hundredth_of_a_millimetre(self):
        true = scanned(self.shape)
        found = laid_on(away(true), self.shape)
        self.assertEqual(found.unit, "mm")
        self.assertLess(float(np.abs(found.points - true).max()), 1e-5)
        self.assertLess(found.most, 5e-5)
        self.assertEqual(found.places, ())
        self.assertLess(abs(found.twist), 1e-5)

    def test_it_is_read_in_metres_centimetres_and_inches_too(self):
        true = away(scanned(self.shape, 4000)) / 1000
        for unit, scale in (("m", 1.0), ("cm", 100.0), ("inches", 1 / 0.0254)):
            found = laid_on(true * scale, self.shape)
            self.assertEqual(found.unit, unit)
            self.assertLess(found.most, 5e-5)

    def test_planted_dents_and_noise(self):
        dents = ((0.9, 0.12, 0.003, 0.015), (0.5, -0.15, 0.002, 0.012))
        found = laid_on(away(scanned(self.shape, 120_000, 0.0002, dents)), self.shape)
        self.assertEqual(len(found.places), 2)
        for place, (x, y, deep, _) in zip(found.places, dents, strict=True):
            self.assertLess(np.hypot(place.x - x, place.y - y), 0.012)
            self.assertAlmostEqual(place.off, -deep, delta=0.0006)
        self.assertAlmostEqual(found.usual, 1.645 * 0.0002, delta=0.00005)

    def test_planted_twist(self):
        for degrees in (0.5, -0.3):
            found = laid_on(away(scanned(self.shape, 20_000, 0.0001, twist=np.radians(degrees))), self.shape)
            self.assertAlmostEqual(np.degrees(found.twist), degrees, delta=0.06)

    def test_distances_are_those_a_general_library_finds(self):
        """trimesh's nearest places on the same triangles, without its index: every triangle looked at."""
        body = mesh(sections(BOARD, Resolution.COARSE))
        triangles = trimesh.Trimesh(body.vertices, body.triangles, process=False).triangles
        rng = np.random.default_rng(4)
        points = body.vertices[rng.integers(len(body.vertices), size=40)] + rng.normal(0.0, 0.004, (40, 3))
        theirs = []
        for p in points:
            near = trimesh.triangles.closest_point(triangles, np.tile(p, (len(triangles), 1)))
            theirs.append(np.linalg.norm(near - p, axis=1).min())
        ours, _ = Surface(sections(BOARD, Resolution.COARSE)).off(points, careful=True)
        np.testing.assert_allclose(np.abs(ours), theirs, atol=2e-5)

    def test_another_board_and_no_board_are_refused(self):
        wide = scanned(sections(BOARDS["stint-33"], Resolution.COARSE), 4000) * [1.04, 1.5, 1.5]
        for points, words in (
            (away(scanned(sections(BOARDS["shearwater-76"], Resolution.COARSE), 3000)), "the board 145"),
            (np.random.default_rng(1).normal(0.0, 1.0, (50, 3)), "50 points are too few"),
            (away(wide), "from the design"),
        ):
            with self.assertRaises(InputError) as caught:
                laid_on(points, self.shape)
            self.assertIn(words, str(caught.exception))


class Doubted(unittest.TestCase):
    def laid(self, scan, design):
        points = away(scanned(sections(BOARDS[scan], Resolution.COARSE), 4000, noise=0.0004))
        return laid_on(points, sections(BOARDS[design], Resolution.NORMAL))

    def test_a_board_that_is_the_same_end_for_end_may_lie_the_wrong_way_round(self):
        """Twin-tips are drawn so; a directional board is not."""
        found = self.laid("redshank-139", "redshank-139")
        self.assertEqual([way for way, _, _ in found.also], ["nose for tail"])
        words = scan_summary(found, System.METRIC)
        self.assertIn("It lies as closely nose for tail", words)
        self.assertIn("decides", words)
        for name in ("dunlin-39", "skua-102"):
            found = self.laid(name, name)
            self.assertEqual((found.also, found.another), ((), False), name)
            self.assertNotIn("decide", scan_summary(found, System.METRIC))

    def test_another_boards_scan_is_asked_about(self):
        """Once accepted without a word: nine tenths within 22 mm, or 3 cm longer."""
        for scan, design in (("redshank-139", "dunlin-39"), ("dipper-138", "dipper-141")):
            found = self.laid(scan, design)
            self.assertTrue(found.another)
            words = scan_summary(found, System.METRIC)
            self.assertIn("Is it this board?", words)
            self.assertIn(f"{100 * BOARDS[design].length:.1f} cm × ", words)
        self.assertIn("138.1 cm × 42.", words)


class Files(unittest.TestCase):
    def setUp(self):
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def test_meshes_and_clouds_of_any_kind_come_to_the_same(self):
        shape = sections(BOARD, Resolution.NORMAL)
        points = away(scanned(shape, 6000))
        body = mesh(shape)
        turned = trimesh.Trimesh(away(body.vertices), body.triangles, process=False)
        turned.export(self.folder / "a.stl")
        trimesh.PointCloud(points).export(self.folder / "b.ply")
        np.savetxt(self.folder / "c.xyz", points, fmt="%.3f")
        np.savetxt(self.folder / "d.csv", points, fmt="%.3f", delimiter=",", header="x,y,z", comments="")
        for name in ("a.stl", "d.csv"):
            found = laid_scan(BOARD, self.folder / name)
            self.assertEqual(found.unit, "mm")
            self.assertLess(found.usual, 0.0002)
        for name in ("b.ply", "c.xyz"):
            np.testing.assert_allclose(read_points(self.folder / name), points, atol=6e-4)

    def test_what_is_no_scan_is_refused_with_its_place(self):
        for name, text, words in (
            ("a.xyz", "1 2 3\n4 5\n", "a.xyz, line 2: a point has three numbers"),
            ("b.csv", "x,y,z\n1,2,3\n1,two,3\n", "b.csv, line 3: “1,two,3” is no point"),
            ("c.ply", "ply\nformat nonsense\n", "c.ply: it is broken, or no PLY"),
            ("d.jpg", "x", "is no scan"),
            ("e.xyz", "", "not one point"),
            ("f.xyz", "1 2 3\n1 nan 3\n", "f.xyz, line 2: “1 nan 3” is no point"),
            ("g.obj", "v 0 0 0\nv 1 0 0\nv 0 1 1e999\nf 1 2 3\n", "g.obj: a point of it has no place"),
            ("h.ply", PLY.format(3, 7), "h.ply: a face of it names a point that is not there"),
        ):
            path = self.folder / name
            path.write_text(text, encoding="utf-8")
            with self.assertRaises(InputError) as caught:
                read_points(path)
            self.assertIn(words, str(caught.exception))
        with self.assertRaises(InputError):
            read_points(self.folder / "missing.stl")
