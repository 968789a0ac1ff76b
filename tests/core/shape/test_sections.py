"""Layers, rails and the surface they make: a shaper's checks."""

import unittest
from dataclasses import replace
from math import radians, tan

import numpy as np
from shapely.geometry import Polygon
from trimesh.intersections import mesh_plane

from kelvor.core.base.findings import Severity
from kelvor.core.shape.checks.checks import check_geometry, check_value
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.baseline import relevelled
from kelvor.core.shape.parts.layers import Layout, Plinth, ShapingLayer
from kelvor.core.shape.parts.rails import Rails
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.section_view import section_measures
from kelvor.core.shape.surface.sections import Resolution, core_sections, sections
from tests.support import cut_away, plain_board, random_board, shape_of, trimesh_of, v_layer


class Layers(unittest.TestCase):
    def test_v_holding_keel_then_rail(self):
        """V of 5°: deck still; volume down, then up; the edge exactly half-width × tan 5° above the keel."""
        flat = geometry(plain_board())
        for holds, sign in (("keel", -1), ("rail", 1)):
            board = geometry(plain_board(layers=(v_layer(5, holds),)))
            with self.subTest(holds):
                np.testing.assert_array_equal(board.shape.deck, flat.shape.deck)
                self.assertGreater(sign * (board.solid.volume - flat.solid.volume), 3e-4)
                rise = board.shape.edge_z - board.shape.keel
                np.testing.assert_allclose(rise, board.shape.edge_y * tan(radians(5)), atol=1e-12)
                held = board.shape.keel if holds == "keel" else board.shape.edge_z
                np.testing.assert_allclose(held, board.board.rocker.at(board.shape.x), atol=1e-12)

    def test_hollow_and_belly_read_their_depth(self):
        for kind, holds, reads in (("hollow", "rail", 0.004), ("hollow", "keel", 0.004), ("belly", "keel", -0.004)):
            layer = ShapingLayer(kind=kind, name="l", amount=Schedule.constant(0.004), holds=holds)
            shape = shape_of(plain_board(layers=(layer,)), Resolution.FINE)
            i = int(np.argmax(shape.half_width))
            with self.subTest(kind=kind, holds=holds):
                self.assertAlmostEqual(shape.keel[i] - shape.edge_z[i], reads, places=9)
                if kind == "hollow":
                    self.assertAlmostEqual(section_measures(shape, i).hollow, 0.004, delta=5e-5)

    def test_bevel_lies_in_its_width_from_the_edge(self):
        layer = ShapingLayer(
            kind="bevel",
            name="b",
            amount=Schedule.constant(radians(20)),
            layout=Layout("edge", Schedule.constant(0.03)),
        )
        shape = shape_of(plain_board(layers=(layer,)))
        i = int(np.argmax(shape.half_width))
        self.assertAlmostEqual(shape.edge_z[i] - shape.keel[i], 0.03 * tan(radians(20)), places=9)
        inside = shape.y[i, : shape.columns.edge] <= shape.edge_y[i] - 0.0301
        np.testing.assert_allclose(shape.z[i, : shape.columns.edge][inside], shape.keel[i], atol=1e-12)
        self.assertLess(np.abs(shape.y[i] - (shape.edge_y[i] - 0.03)).min(), 1e-9)  # a column runs on the crease

    def test_cut_away_6_to_10_degrees(self):
        """Box level, deck still, tail foam warned."""
        flat, thin = geometry(plain_board(layers=(cut_away(6),))), geometry(plain_board(layers=(cut_away(10, 0.28),)))
        for cut in (flat, thin):
            x = cut.shape.x
            np.testing.assert_allclose(cut.shape.deck, cut.board.rocker.at(x) + cut.board.thickness.at(x), atol=1e-15)
        tracks = (thin.shape.x > 0.305) & (thin.shape.x < 0.6)
        self.assertLess(np.ptp(thin.shape.keel[tracks]), 1e-12)
        self.assertAlmostEqual(
            thin.shape.keel[0] - thin.board.rocker.at(np.array([0.0]))[0], 0.28 * tan(radians(10)), places=9
        )
        self.assertNotIn("thin_tail", [f.code for f in check_geometry(flat)])
        warned = [f for f in check_geometry(thin) if f.code == "thin_tail"]
        self.assertEqual(len(warned), 1)
        self.assertAlmostEqual(warned[0].value, thin.shape.deck[0] - thin.shape.keel[0], places=6)

    def test_plinth_is_flat_and_level_and_v_begins_outboard(self):
        plinth = Plinth(name="p", width=0.13, start=Place("mast", -0.16), end=Place("mast", 0.16))
        rocker = plain_board().rocker
        bowed = replace(rocker, weights=tuple(replace(w, ruler=None) for w in rocker.weights))
        shape = shape_of(plain_board(layers=(v_layer(6), plinth), rocker=bowed))
        on = (shape.x > 0.2901) & (shape.x < 0.6099)
        strip = shape.z[on][:, : shape.columns.edge][shape.y[on][:, : shape.columns.edge] <= 0.0649]
        self.assertLess(np.ptp(strip), 1e-9)
        i = int(np.argmin(np.abs(shape.x - 0.45)))
        reference = bowed.at(shape.x[i : i + 1])[0]
        self.assertAlmostEqual(shape.edge_z[i] - reference, (shape.edge_y[i] - 0.065) * tan(radians(6)), places=6)

    def test_rails_follow_their_schedules(self):
        rails = Rails(
            apex=Schedule.constant(0.3),
            tuck=Schedule.constant(0.025),
            chamfer=Schedule.constant(0.05),
            edge_radius=Schedule.constant(0.006),
        )
        board = plain_board(rails=rails)
        shape = shape_of(board, Resolution.FINE)
        i = int(np.argmax(shape.half_width))
        y, z, c = shape.y[i], shape.z[i], shape.columns
        self.assertAlmostEqual(y.max(), shape.half_width[i], places=12)
        self.assertEqual(int(np.argmax(y)), c.apex)
        deck_edge = shape.deck[i] - 0.004
        self.assertAlmostEqual((z[c.apex] - shape.edge_z[i]) / (deck_edge - shape.edge_z[i]), 0.3, places=6)
        self.assertAlmostEqual(shape.half_width[i] - shape.edge_y[i], 0.025, places=12)
        self.assertAlmostEqual(y[c.deck_edge], shape.half_width[i] - 0.05, places=9)
        # the edge's radius: the circle through three points of the arc
        k = c.edge + 4
        a, b, d = (np.array([y[j], z[j]]) for j in (k - 3, k, k + 3))
        area = abs((b[0] - a[0]) * (d[1] - a[1]) - (b[1] - a[1]) * (d[0] - a[0])) / 2
        radius = np.linalg.norm(b - a) * np.linalg.norm(d - b) * np.linalg.norm(d - a) / (4 * area)
        self.assertAlmostEqual(radius, 0.006, delta=0.0015)
        lean = shape_of(replace(board, rails=replace(rails, fullness=Schedule.constant(0.0))))
        full = shape_of(replace(board, rails=replace(rails, fullness=Schedule.constant(1.0))))
        self.assertGreater(geometry(full.board).solid.volume, geometry(lean.board).solid.volume + 5e-4)

    def test_core_is_the_finished_board_less_its_skin(self):
        """1 mm of skin: 2.0 mm off thickness and width."""
        board = plain_board()
        board = replace(board, skin=replace(board.skin, deck=0.001, bottom=0.001, rail=0.001))
        outer, inner = shape_of(board, Resolution.FINE), core_sections(board, Resolution.FINE)
        self.assertAlmostEqual(outer.half_width.max() - inner.half_width.max(), 0.001, delta=1e-6)
        self.assertAlmostEqual((outer.deck - outer.keel).max() - (inner.deck - inner.keel).max(), 0.002, delta=1e-6)
        self.assertAlmostEqual(inner.x[-1] - inner.x[0], board.length - 0.002, delta=2e-5)


class BaseLine(unittest.TestCase):
    def test_relevelling_reads_heights_anew_and_keeps_the_shape(self):
        measured = geometry(plain_board())
        for kind in ("table", "aft flat", "tracks", "middle"):
            again = geometry(relevelled(measured, kind))
            with self.subTest(kind):
                self.assertAlmostEqual(again.solid.volume, measured.solid.volume, places=12)
                self.assertAlmostEqual(float(again.keel_line.min()), 0.0, delta=2e-3)
        tilted = replace(
            plain_board(),
            rocker=plain_board().rocker.with_values(
                plain_board().rocker.values + 0.02 * np.array(plain_board().rocker.places)
            ),
        )
        level = geometry(relevelled(geometry(tilted), "tracks"))
        self.assertAlmostEqual(level.board.base.slope, 0.02, places=6)
        self.assertAlmostEqual(float(level.keel_line[-1]), float(measured.keel_line[-1]), delta=5e-5)


class Surface(unittest.TestCase):
    """General reference libraries: trimesh for closure and moments, shapely for folds."""

    def test_random_legal_boards_close_without_folds(self):
        closed = 0
        for seed in range(30):
            board = random_board(seed)
            shape = sections(board, Resolution.COARSE)
            if isinstance(shape, tuple):
                self.assertTrue(all(f.severity is Severity.FATAL and f.text for f in shape))
                continue
            body = trimesh_of(shape)
            with self.subTest(seed):
                self.assertTrue(body.is_watertight)
                self.assertTrue(body.is_winding_consistent)
                self.assertGreater(body.volume, 0)
                self.assertLess(abs(body.volume / geometry(board).solid.volume - 1), 6e-3)
                rising = np.diff(shape.y[:, : shape.columns.apex + 1], axis=1)
                falling = np.diff(shape.y[:, shape.columns.apex :], axis=1)
                self.assertGreaterEqual(rising.min(), -1e-12)
                self.assertLessEqual(falling.max(), 1e-12)
                for i in range(4, len(shape.x) - 4, 7):
                    half = np.concatenate([np.stack([shape.y[i], shape.z[i]], 1)])
                    self.assertTrue(
                        Polygon(half).buffer(0).area > 0 and Polygon(np.round(half, 9)).is_valid, f"section {i}"
                    )
                areas = body.area_faces
                self.assertGreater(areas.min(), 1e-13)
                closed += 1
        self.assertGreater(closed, 22)

    def test_figures_agree_with_the_exported_mesh_and_converge(self):
        board = plain_board(layers=(v_layer(5), cut_away(7)))
        measured = geometry(board)
        gaps = []
        for resolution in (Resolution.COARSE, Resolution.NORMAL, Resolution.FINE):
            body = trimesh_of(shape_of(board, resolution))
            gaps.append(abs(body.volume / trimesh_of(shape_of(board, Resolution.FINE)).volume - 1))
            if resolution is Resolution.NORMAL:
                self.assertLess(abs(body.volume / measured.solid.volume - 1), 1e-3)
                inertia = np.diag(body.moment_inertia)
                np.testing.assert_allclose(
                    [measured.solid.ixx, measured.solid.iyy, measured.solid.izz], inertia, rtol=5e-3
                )
                np.testing.assert_allclose([measured.solid.x, measured.solid.z], body.center_mass[[0, 2]], atol=2e-4)
                self.assertAlmostEqual(sum(s.area for s in measured.shells.values()), body.area, delta=2e-3 * body.area)
                self.assertAlmostEqual(body.extents[0], board.length, places=9)
                self.assertAlmostEqual(body.extents[1], 2 * measured.shape.half_width.max(), places=9)
        self.assertGreater(gaps[0], gaps[1])

    def test_thickness_against_vertical_cuts_of_the_mesh(self):
        board = plain_board(layers=(v_layer(4),))
        shape = shape_of(board)
        body = trimesh_of(shape)
        for x in (0.4, 0.75, 1.1):
            # just off the keel, which itself runs in edges of the mesh
            y = 1e-4
            cut = mesh_plane(body, [1.0, 0.0, 0.0], [x + 1e-5, 0.0, 0.0])
            a, b = cut[:, 0], cut[:, 1]
            over = (a[:, 1] < y) != (b[:, 1] < y)
            hits = a[over, 2] + (y - a[over, 1]) / (b[over, 1] - a[over, 1]) * (b[over, 2] - a[over, 2])
            expected = board.thickness.at(np.array([x]))[0] - y * tan(radians(4))
            self.assertEqual(len(hits), 2)
            self.assertAlmostEqual(np.ptp(hits), expected, delta=1.5e-4)


class Refusals(unittest.TestCase):
    def test_each_bad_value_is_named_with_place_and_limit(self):
        good = plain_board()
        outline, thickness = good.outline, good.thickness
        swapped = replace(
            outline,
            batten=replace(
                outline.batten,
                weights=(outline.batten.weights[0], *outline.batten.weights[2:0:-1], *outline.batten.weights[3:]),
            ),
        )
        cases = {
            "weight_order": [replace(good, outline=swapped)],
            "limit": [
                replace(good, length=0.0002),
                replace(good, length=20.0),
                replace(good, thickness=thickness.with_values(-thickness.values)),
                replace(good, rails=replace(good.rails, apex=Schedule.constant(1.4))),
                replace(good, layers=(cut_away(80),)),
                replace(good, layers=(v_layer(75),)),
                replace(good, fittings=replace(good.fittings, tracks=replace(good.fittings.tracks, length=-0.3))),
                replace(good, materials=replace(good.materials, deck_areal_mass=-1.0)),
                replace(good, materials=replace(good.materials, core_density=0.5)),
            ],
            "schedule_order": [replace(good, crown=Schedule(((0.5, 0.01), (0.2, 0.01))))],
        }
        self.assertEqual(check_value(good), ())
        for code, boards in cases.items():
            for board in boards:
                with self.subTest(code):
                    found = {f.code: f for f in check_value(board)}
                    self.assertIn(code, found)
                    self.assertTrue(found[code].advice)

    def test_lines_that_cross_leave_no_board_and_say_where(self):
        crossing = plain_board(layers=(cut_away(25),))
        found = geometry(crossing)
        self.assertIsInstance(found, tuple)
        self.assertEqual(found[0].code, "deck_meets_bottom")
        self.assertAlmostEqual(found[0].place, 0.0, delta=0.02)
        found = geometry(plain_board(layers=(v_layer(25),)))
        self.assertEqual(found[0].code, "rail_gone")
        self.assertIn("cm from the tail", found[0].text)
