"""Battens, rulers and schedules."""

import unittest
from dataclasses import replace

import numpy as np
from scipy.interpolate import CubicSpline

from kelvor.core.shape.checks.straight_edge import chord_gap, flat_run
from kelvor.core.shape.curves.battens import Batten, Ruler, Structure, Weight
from kelvor.core.shape.curves.outline import half_width, tip_radius
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.edits import with_tail_cut
from tests.support import plain_board

X = np.linspace(0, 1.5, 601)


class SplineAgainstSciPy(unittest.TestCase):
    """General reference library: scipy.interpolate.CubicSpline."""

    def setUp(self):
        rng = np.random.default_rng(1)
        self.x = np.sort(rng.uniform(0, 1.5, 7))
        self.y = rng.normal(size=7)
        self.at = np.linspace(self.x[0], self.x[-1], 200)

    def test_free_and_natural_ends(self):
        for end, bc in (("free", "not-a-knot"), ("natural", "natural")):
            structure = Structure(tuple(self.x), (False,) * 7, (None,) * 7, end, end)
            spline = CubicSpline(self.x, self.y, bc_type=bc)
            for order in (0, 1, 2):
                with self.subTest(end=end, order=order):
                    np.testing.assert_allclose(
                        structure.rows(self.at, order) @ self.y, spline(self.at, order), rtol=0, atol=1e-9 * 50**order
                    )

    def test_a_ruler_clamps_its_neighbour(self):
        weights = (Weight(0, 0), Weight(0.5, 0.1, ruler=None), Weight(0.7, 0.12, ruler=Ruler()), Weight(1.2, 0.2))
        batten = Batten(weights)
        spline = CubicSpline([0, 0.5, 0.7], [0, 0.1, 0.12], bc_type=("not-a-knot", (1, 0.08 / 0.5)))
        at = np.linspace(0, 0.7, 50)
        np.testing.assert_allclose(batten.at(at), spline(at), atol=1e-12)


class Rulers(unittest.TestCase):
    """A shaper's check: a 600 mm ruler is flat, and raising the nose does not stir it."""

    def test_ruler_reads_no_gap_and_no_curvature(self):
        for ruler in (Ruler(), Ruler(0.08, 0.2)):
            rocker = plain_board().rocker
            rocker = rocker.with_weight(1, replace(rocker.weights[1], ruler=ruler))
            inside = np.linspace(0.3001, 0.8999, 200)
            self.assertEqual(np.abs(rocker.at(inside, 2)).max(), 0.0)
            self.assertLess(chord_gap(X, rocker.at(X), 0.3, 0.9), 1e-15)
            raised = rocker.with_weight(4, replace(rocker.weights[4], value=rocker.weights[4].value + 0.020))
            self.assertEqual(np.abs(raised.at(inside) - rocker.at(inside)).max(), 0.0)
            self.assertGreater(float((raised.at(np.array([1.45])) - rocker.at(np.array([1.45])))[0]), 0.01)

    def test_tangent_is_continuous_and_blend_starts_without_curvature(self):
        rocker = plain_board().rocker
        blended = rocker.with_weight(1, replace(rocker.weights[1], ruler=Ruler(0.08, 0.2)))
        for batten in (rocker, blended):
            slopes = batten.at(np.array([0.9 - 1e-7, 0.9 + 1e-7]), 1)
            self.assertAlmostEqual(slopes[0], slopes[1], places=5)
        self.assertGreater(abs(float(rocker.at(np.array([0.9 + 1e-6]), 2)[0])), 0.05)
        self.assertLess(abs(float(blended.at(np.array([0.9 + 1e-6]), 2)[0])), 1e-4)

    def test_knuckle_breaks_the_slope_only_there(self):
        batten = Batten(
            (Weight(0, 0), Weight(0.4, 0.1), Weight(0.8, 0.05, knuckle=True), Weight(1.2, 0.2), Weight(1.5, 0.1))
        )
        before, after = batten.at(np.array([0.8 - 1e-7, 0.8 + 1e-7]), 1)
        self.assertGreater(abs(after - before), 0.1)
        self.assertLess(abs(float(np.diff(batten.at(np.array([0.4 - 1e-7, 0.4 + 1e-7]), 1))[0])), 1e-5)

    def test_flat_run_finds_a_ruler_with_its_tolerance(self):
        z = np.where(X < 0.3, (0.3 - X) ** 2, np.where(X > 0.9, (X - 0.9) ** 2, 0.0))
        start, end = flat_run(X, z, 1e-9)
        self.assertAlmostEqual(end - start, 0.6, delta=0.006)
        # by hand: between the tangent points the chord of two equal parabola ends bows by r² at each end
        start, end = flat_run(X, z, 5e-4)
        self.assertLessEqual(chord_gap(X, z, start, end), 5.3e-4)
        self.assertGreater(chord_gap(X, z, start - 0.02, end + 0.02), 5e-4)


class Schedules(unittest.TestCase):
    def test_never_overshoots(self):
        rng = np.random.default_rng(5)
        for _ in range(200):
            x = np.sort(rng.uniform(0, 1.5, 5))
            y = rng.uniform(0, 0.02, 5)
            found = Schedule(tuple(zip(x.tolist(), y.tolist(), strict=True))).at(X)
            self.assertGreaterEqual(found.min(), y.min() - 1e-15)
            self.assertLessEqual(found.max(), y.max() + 1e-15)
            self.assertAlmostEqual(Schedule(tuple(zip(x.tolist(), y.tolist(), strict=True))).value(float(x[2])), y[2])

    def test_constant_beyond_its_ends(self):
        s = Schedule(((0.4, 1.0), (0.8, 2.0)))
        self.assertEqual((s.value(0.0), s.value(1.4)), (1.0, 2.0))


class OutlineEnds(unittest.TestCase):
    def test_an_ellipse_from_seven_weights(self):
        """A closed form: the ellipse is met to about 0.1 mm, its tip radius is b²/a."""
        from kelvor.core.shape.curves.outline import Outline

        length, half = 1.5, 0.25
        places = length * (1 - np.cos(np.pi * np.linspace(0, 1, 9)[1:-1])) / 2
        ellipse = lambda x: half * np.sqrt(np.maximum(0, 1 - (2 * x / length - 1) ** 2))  # noqa: E731
        outline = Outline("round", "round", Batten(tuple(Weight(float(x), float(ellipse(x))) for x in places)))
        self.assertLess(np.abs(half_width(outline, length, X) - ellipse(X)).max(), 1.5e-4)
        self.assertAlmostEqual(tip_radius(outline, length, at_nose=True), half**2 / (length / 2), delta=1e-3)

    def test_round_tips_are_square_to_the_centreline(self):
        board = plain_board()
        x = board.length - np.array([1e-6, 4e-6])
        b = half_width(board.outline, board.length, x)
        self.assertAlmostEqual(
            b[1] / b[0], 2.0, places=3
        )  # a parabola's tip: half-width grows as the root of the distance

    def test_cutting_the_tail_moves_nothing_ahead(self):
        """A shaper's check: 30 mm off the tail moves nothing ahead of the mast by 0.1 mm."""
        board = plain_board()
        for amount in (0.03, -0.03, 0.08):
            cut = with_tail_cut(board, amount)
            with self.subTest(amount):
                self.assertAlmostEqual(cut.length, board.length - amount)
                self.assertAlmostEqual(cut.mast_x, board.mast_x - amount)
                x = np.linspace(board.mast_x, board.length - 1e-6, 300)
                for line in ("rocker", "thickness"):
                    self.assertLess(np.abs(getattr(cut, line).at(x - amount) - getattr(board, line).at(x)).max(), 1e-6)
                gap = half_width(cut.outline, cut.length, x - amount) - half_width(board.outline, board.length, x)
                self.assertLess(np.abs(gap).max(), 1e-4)
