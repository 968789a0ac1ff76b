"""Trade-offs: linear steps against SciPy's linear programming, curves against random boards in the same bounds."""

import unittest

import numpy as np
from scipy.optimize import linprog

from kelvor.core.base.errors import InputError
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.subject import Subject
from kelvor.core.seek.problem import move_of
from kelvor.core.seek.trade import best_corner, trade_off, traded
from kelvor.core.seek.typed_demands import trying
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

BOARD, BRIEF = next((board, brief) for name, board, brief in demo_boards() if name == "dunlin-39")
START = {"volume": 0.0379, "yaw_inertia": 0.45, "planform_area": 0.5, "mass": 2.6}


def curve(first, second, keys, **more):
    problem = traded(BOARD, first, second, START, [move_of(BOARD, key, 3.0) for key in keys])
    evaluate = trying(Subject(BOARD, BRIEF, HANDBOOK, HANDBOOK_COEFFICIENTS), problem)
    return problem, evaluate, trade_off(problem, evaluate, **more)


class Corner(unittest.TestCase):
    def test_it_is_what_linear_programming_finds(self):
        rng = np.random.default_rng(7)
        for _ in range(80):
            n = int(rng.integers(2, 7))
            gain, row, need = rng.normal(size=n), rng.normal(size=n), float(rng.normal())
            low, high = -rng.uniform(0, 2, n), rng.uniform(0, 2, n)
            ours = best_corner(gain, row, need, low, high)
            theirs = linprog(-gain, A_ub=-row[None], b_ub=[-need], bounds=list(zip(low, high, strict=True)))
            if theirs.success:
                self.assertAlmostEqual(float(gain @ ours), -theirs.fun, places=7)
                self.assertGreaterEqual(float(row @ ours), need - 1e-9)
            else:
                self.assertAlmostEqual(float(row @ ours), float(np.where(row > 0, high, low) @ row), places=9)


class Curves(unittest.TestCase):
    def test_no_random_board_in_the_same_bounds_lies_beyond_the_curve(self):
        """Litres against swing weight: 160 boards at random, seed 3."""
        keys = ["width", "thickness", "length", "thickness_nose"]
        problem, evaluate, found = curve("volume", "yaw_inertia", keys)
        self.assertGreaterEqual(len(found.points), 6)
        litres = np.array([p.values["volume"] for p in found.points])
        swing = np.array([p.values["yaw_inertia"] for p in found.points])
        self.assertTrue(np.all(np.diff(litres) < 0) and np.all(np.diff(swing) < 0))  # more of the one costs the other
        order = np.argsort(litres)
        rng = np.random.default_rng(3)
        low, high = (np.array(end) for end in zip(*problem.room, strict=True))
        points = [tuple(x) for x in rng.uniform(low, high, (160, len(keys)))]
        beyond = []
        for values in evaluate(points):
            if values is not None and litres.min() <= values["volume"] <= litres.max():
                best = float(np.interp(values["volume"], litres[order], swing[order]))
                beyond.append((best - values["yaw_inertia"]) / np.ptp(swing))
        self.assertGreater(len(beyond), 60)
        self.assertLess(max(beyond), 0.01)

    def test_its_ends_are_the_best_of_each_and_bounds_hold(self):
        problem, evaluate, found = curve("volume", "mass", ["width", "thickness"], points=5)
        room = np.array(problem.room)
        for point in found.points:
            self.assertTrue(np.all(np.array(point.x) >= room[:, 0] - 1e-9))
            self.assertTrue(np.all(np.array(point.x) <= room[:, 1] + 1e-9))
        corners = [(a, b) for a in room[0] for b in room[1]]
        most = max(v["volume"] for v in evaluate(corners) if v is not None)
        self.assertAlmostEqual(found.points[0].values["volume"], most, delta=1e-5)
        lightest = min(v["mass"] for v in evaluate(corners) if v is not None)
        self.assertAlmostEqual(found.points[-1].values["mass"], lightest, delta=1e-3)

    def test_where_nothing_is_traded_there_is_one_board(self):
        _, _, found = curve("volume", "planform_area", ["width"], points=5)
        self.assertEqual(len(found.points), 1)

    def test_it_can_be_stopped_and_keeps_what_was_found(self):
        heard = []
        _, _, found = curve(
            "volume",
            "yaw_inertia",
            ["width", "length"],
            told=lambda k, n: heard.append((k, n)),
            stop=lambda: len(heard) > 2,
        )
        self.assertLess(len(found.points), 9)
        self.assertGreaterEqual(len(found.points), 2)

    def test_a_figure_against_itself_is_refused(self):
        with self.assertRaises(InputError):
            traded(BOARD, "volume", "volume", START, [move_of(BOARD, "width")])
