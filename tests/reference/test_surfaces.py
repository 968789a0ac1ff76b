"""Surfaces of random boards of all families, checked apart: closed, outward, without folds; against shapely and
trimesh.

Sources: shapely for areas of sections and plans; trimesh for volumes of meshes. No other source is needed: these are
identities of closed surfaces.
"""

import unittest
from dataclasses import replace
from math import radians

import numpy as np
import shapely

from kelvor.core.shape.curves.outline import Outline, half_width, inner_edge
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import CrossStep, Ledge
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution, sections, sections_at
from kelvor.core.shape.surface.surface import mesh
from tests.support import closed_and_outward, folds, plain_board, random_family_board, shape_of, trimesh_of

COUNT = 30
"""`python -m tools.random_boards` does the same over thousands."""


class RandomSurfaces(unittest.TestCase):
    def test_closed_outward_unfolded_or_refused_in_words(self):
        closing = 0
        for seed in range(COUNT):
            shape = sections(random_family_board(50_000 + seed), Resolution.NORMAL)
            with self.subTest(seed=seed):
                if isinstance(shape, tuple):
                    self.assertTrue(shape[0].text and shape[0].advice)
                    self.assertIsNotNone(shape[0].place)
                    continue
                closing += 1
                self.assertEqual(folds(shape) + closed_and_outward(mesh(shape)), [])
        self.assertGreater(closing, 0.75 * COUNT)

    def test_three_resolutions_converge(self):
        for seed in (50_003, 50_011, 50_023, 50_042):
            board = random_family_board(seed)
            if isinstance(sections(board, Resolution.NORMAL), tuple):
                continue
            volumes = [
                trimesh_of(shape_of(board, r)).volume for r in (Resolution.COARSE, Resolution.NORMAL, Resolution.FINE)
            ]
            with self.subTest(seed):
                self.assertLess(abs(volumes[1] - volumes[2]), abs(volumes[0] - volumes[2]) + 2e-6)
                self.assertAlmostEqual(volumes[1] / volumes[2], 1.0, delta=1.5e-3)
                self.assertAlmostEqual(geometry(board).solid.volume / volumes[1], 1.0, delta=1e-3)


class Cuts(unittest.TestCase):
    """Stepped and cut-out bottoms against shapely: what the cut takes off each section is the polygon it should be."""

    def test_a_cut_out_takes_its_own_area_off_the_sections(self):
        wall = radians(60)
        ledge = Ledge(
            name="Cut",
            line=Schedule.constant(0.06),
            height=Schedule.constant(0.010),
            wall=wall,
            end=Place("tail", 0.30),
        )
        plain, cut = plain_board(), plain_board(layers=(ledge,))
        for x in (0.10, 0.20, 0.28):
            a, b = (sections_at(board, np.array([x]), Resolution.FINE) for board in (plain, cut))
            areas = [2 * shapely.Polygon(np.column_stack([s.y[0], s.z[0]])).area for s in (a, b)]
            top = 0.010 / np.tan(wall)
            edge = float(a.edge_y[0])
            taken = shapely.Polygon([(edge - 0.06, 0), (edge - 0.06 + top, 0.010), (edge, 0.010), (edge, 0)]).area
            with self.subTest(x):
                # the lower rail rises with the edge: it takes away less than half of its own width times the height
                # more
                self.assertGreaterEqual(areas[0] - areas[1], 2 * taken * 0.98)
                self.assertLess(areas[0] - areas[1], 2 * (taken + 0.010 * (float(a.half_width[0]) - edge)) * 1.02)
        ahead = [float(sections_at(board, np.array([0.34]), Resolution.FINE).keel[0]) for board in (plain, cut)]
        self.assertEqual(ahead[0], ahead[1])

    def test_a_cross_step_takes_its_slab_off(self):
        step = CrossStep(name="Step", at=Place("tail", 0.40), height=0.008, wall=radians(80))
        plain, cut = plain_board(), plain_board(layers=(step,))
        before, after = geometry(plain), geometry(cut)
        behind = before.shape.x < 0.398
        edges = np.interp(0.4, before.shape.x, before.shape.edge_y)
        slab = 0.008 * float(
            2 * np.trapezoid(np.append(before.shape.edge_y[behind], edges), np.append(before.shape.x[behind], 0.4))
        )
        self.assertGreater(before.solid.volume - after.solid.volume, 0.97 * slab)
        self.assertLess(before.solid.volume - after.solid.volume, 1.12 * slab)
        keel = after.shape.keel
        self.assertAlmostEqual(
            float(np.interp(0.39, after.shape.x, keel) - np.interp(0.39, before.shape.x, before.shape.keel)),
            0.008,
            places=5,
        )

    def test_notched_and_pointed_plans_against_shapely(self):
        board = plain_board()
        for tail, changes in (
            ("swallow", {"tail_depth": 0.10, "tail_spread": 0.12}),
            ("split", {"tail_depth": 0.14, "tail_spread": 0.05}),
            ("diamond", {"tail_depth": 0.08}),
        ):
            outline = replace(board.outline, tail=tail, corner_radius=0.0, **changes)
            self.assertIsInstance(outline, Outline)
            shape = shape_of(replace(board, outline=outline))
            x = np.linspace(0, board.length, 6001)
            half, inner = half_width(outline, board.length, x), inner_edge(outline, board.length, x)
            ring = np.concatenate([np.column_stack([x, half]), np.column_stack([x, -half])[::-1]])
            area = shapely.Polygon(ring).buffer(0).area
            notch = np.column_stack([x[inner > 0], inner[inner > 0]])
            if len(notch):
                area -= 2 * abs(shapely.Polygon(np.concatenate([notch, [[notch[-1, 0], 0], [notch[0, 0], 0]]])).area)
            with self.subTest(tail):
                self.assertAlmostEqual(
                    float(2 * np.trapezoid(shape.half_width - shape.inner, shape.x)) / area, 1.0, delta=1.5e-3
                )
                self.assertEqual(folds(shape) + closed_and_outward(mesh(shape)), [])
