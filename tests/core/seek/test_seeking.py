"""Seeking: shortest steps in closed form, boards against general optimisers, what stands in the way."""

import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from functools import cache

import numpy as np
from scipy.optimize import brentq, minimize, nnls

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import by_key
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.seek.answer import answer_headline, answer_lines, rounded_answer
from kelvor.core.seek.engine import misses, search
from kelvor.core.seek.least_distance import nonnegative, shortest
from kelvor.core.seek.problem import Demand, Move, by_hands, move_of, stated, with_levers_pulled
from kelvor.core.seek.typed_demands import figure_of, lever_of, target_of, trying
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

BOARDS = {name: (board, brief) for name, board, brief in demo_boards()}


def subject(name="dunlin-39"):
    return Subject(*BOARDS[name], HANDBOOK, HANDBOOK_COEFFICIENTS)


def least(figure, value):
    return Demand(figure=figure, relation="at least", value=value)


def most(figure, value):
    return Demand(figure=figure, relation="at most", value=value)


def asked(demands, keys, far=6.0, name="dunlin-39"):
    board = BOARDS[name][0]
    return stated(board, demands, [move_of(board, key, far) for key in keys])


def half_square(x):
    return 0.5 * x @ x


def sought(problem, name="dunlin-39", **more):
    evaluate = trying(subject(name), problem)
    return search(problem, evaluate, **more), evaluate


class ShortestSteps(unittest.TestCase):
    """Least distance programming: Lawson and Hanson 1974, ch. 23."""

    def test_corners_in_closed_form(self):
        """(3, 4)·x ≥ 10: (1.2, 1.6); with x₁ ≤ 1: (1, 1.75); with x₂ ≤ 1 too: a conflict of ¼ : ¾ : 1."""
        one = np.array([[3.0, 4.0]])
        np.testing.assert_allclose(shortest(one, np.array([10.0])).x, [1.2, 1.6], atol=1e-12)
        two = np.array([[3.0, 4.0], [-1.0, 0.0]])
        np.testing.assert_allclose(shortest(two, np.array([10.0, -1.0])).x, [1.0, 1.75], atol=1e-12)
        three = np.vstack([two, [0.0, -1.0]])
        found = shortest(three, np.array([10.0, -1.0, -1.0]))
        self.assertIsNone(found.x)
        np.testing.assert_allclose(found.pulls / found.pulls[2], [0.25, 0.75, 1.0], atol=1e-9)

    def test_it_agrees_with_slsqp_on_random_demands(self):
        rng, agreed = np.random.default_rng(4), 0
        for _ in range(60):
            n, m = rng.integers(2, 7), rng.integers(1, 6)
            matrix = rng.normal(size=(m, n))
            wanted = matrix @ rng.normal(size=n) + rng.uniform(0, 0.5)
            ours = shortest(matrix, wanted)
            if ours.x is None:
                continue
            limit = {"type": "ineq", "fun": lambda x, a=matrix, b=wanted: a @ x - b}
            theirs = minimize(half_square, np.zeros(n), jac=lambda x: x, method="SLSQP", constraints=[limit])
            if theirs.success:
                self.assertAlmostEqual(0.5 * ours.x @ ours.x, theirs.fun, delta=1e-6 * (1 + theirs.fun))
                np.testing.assert_array_less(wanted - matrix @ ours.x, 1e-7)
                agreed += 1
        self.assertGreater(agreed, 40)

    def test_nonnegative_least_squares_as_scipy_has_it(self):
        rng = np.random.default_rng(2)
        for _ in range(40):
            matrix, target = rng.normal(size=(6, 4)), rng.normal(size=6)
            np.testing.assert_allclose(nonnegative(matrix, target), nnls(matrix, target)[0], atol=1e-9)


class Boards(unittest.TestCase):
    def test_a_volume_by_thickness_alone(self):
        """One lever, one target: the least change is the root that SciPy's brentq finds."""
        board, brief = BOARDS["dunlin-39"]
        problem = asked([least("volume", 0.0405)], ["thickness"])

        def over(x):
            return by_key(evaluate_live(with_levers_pulled(problem, (x,)), brief).figures)["volume"].value - 0.0405

        found, _ = sought(problem)
        self.assertTrue(found.met)
        self.assertLess(over(0.0), 0)
        self.assertAlmostEqual(found.state.x[0], brentq(over, 0, 6), delta=0.04)
        self.assertIs(problem.board, board)

    def test_what_is_met_already_moves_nothing(self):
        problem = asked([least("volume", 0.030)], ["width", "thickness"])
        found, evaluate = sought(problem)
        self.assertEqual(found.size, 0.0)
        self.assertIn("met already", answer_headline(rounded_answer(problem, found, evaluate)))

    def test_active_and_inactive_bounds(self):
        board = BOARDS["dunlin-39"][0]
        wide = move_of(board, "width")
        tight = Move(lever="thickness", low=0.08, high=0.0880)
        problem = stated(board, [least("volume", 0.0395)], [wide, tight])
        found, evaluate = sought(problem)
        self.assertTrue(found.met)
        reading = problem.readings[1] + found.state.x[1] * problem.levers[1].step
        # the thickness stands at its bound, the width does the rest
        self.assertAlmostEqual(reading, 0.0880, delta=0.0002)
        free = asked([least("volume", 0.0395)], ["width", "thickness"])
        self.assertLess(sought(free)[0].size, found.size)
        made = with_levers_pulled(problem, rounded_answer(problem, found, evaluate).x)
        self.assertGreater(by_key(evaluate_live(made, BOARDS["dunlin-39"][1]).figures)["volume"].value, 0.0395 - 5e-5)

    def test_against_general_optimisers_on_the_same_problem(self):
        """SciPy's SLSQP (differences of half a step) and COBYQA: no worse by five per cent, with fewer boards."""
        demands = [
            least("volume", 0.040),
            most("mass", 2.70),
            most("yaw_inertia", 0.44),
            least("volume_centre_x", 0.668),
        ]
        problem = asked(demands, ["width", "thickness", "length", "tail_rocker", "nose_rocker", "width_1ft_nose"])
        found, evaluate = sought(problem)
        self.assertTrue(found.met)
        tried = []

        @cache
        def values(x):
            tried.append(x)
            return evaluate([x])[0]

        scales = (1e-3, 0.05, 0.02, 0.01)
        limits = [
            {
                "type": "ineq",
                "fun": lambda x, d=d, s=s: (
                    (1 if d.relation == "at least" else -1) * (values(tuple(np.round(x, 6)))[d.figure] - d.value) / s
                ),
            }
            for d, s in zip(demands, scales, strict=True)
        ]
        ended = []
        slsqp = {"eps": 0.5, "maxiter": 30, "ftol": 1e-3}
        cobyqa = {"initial_tr_radius": 1.0, "final_tr_radius": 0.05, "maxfev": 80}
        for method, options in (("SLSQP", slsqp), ("COBYQA", cobyqa)):
            tried.clear()
            values.cache_clear()
            bounds = {"bounds": problem.room, "constraints": limits, "options": options}
            theirs = minimize(half_square, np.zeros(6), method=method, **bounds)
            if min(float(limit["fun"](theirs.x)) for limit in limits) > -0.03:
                ended.append(method)
                self.assertLess(found.size, 1.05 * 2 * theirs.fun + 0.05, method)
                self.assertLessEqual(found.state.tried, len(tried) + 6, method)
        self.assertTrue(ended, "none of them met the targets")

    def test_no_fair_step_beside_it_does_better(self):
        """On boards of four kinds: of sixteen points beside the answer none meets as much with less change."""
        rng = np.random.default_rng(1)
        for name in ("dunlin-39", "curlew-102", "guillemot-113", "heron-14"):
            now = {f.key: f.value for f in evaluate_live(*BOARDS[name]).figures}
            demands = [least("volume", 1.04 * now["volume"]), most("mass", 1.005 * now["mass"])]
            problem = asked(demands, ["width", "thickness", "length"], name=name)
            found, evaluate = sought(problem, name)
            self.assertTrue(found.met, name)
            points = [tuple(np.array(found.state.x) + rng.uniform(-0.5, 0.5, 3)) for _ in range(16)]
            points += [tuple(0.8 * v for v in found.state.x)]  # less of the same change meets less
            for point, values in zip(points, evaluate(points), strict=True):
                smaller = float(np.sum(np.square(point))) < 0.97 * found.size
                missed = misses(problem, values, found.state.slopes) if values is not None else (np.inf,)
                good = all(miss <= ours + 0.005 for miss, ours in zip(missed, found.missed, strict=False))
                self.assertFalse(smaller and good, (name, point))

    def test_what_stands_in_the_way_is_named_with_what_giving_way_buys(self):
        problem = asked([least("volume", 0.060), most("mass", 2.7)], ["thickness", "width"], far=2)
        found, evaluate = sought(problem)
        answer = rounded_answer(problem, found, evaluate)
        self.assertFalse(answer.met)
        self.assertEqual(answer.worst, "volume")
        words = " ".join(answer_lines(problem, answer))
        self.assertRegex(words, r"Max width may go no further than 51\.2 cm; 1\.0 cm beyond would buy 0\.\d L")
        beyond = with_levers_pulled(problem, (answer.x[0], answer.x[1] + 1.0))
        figures = [
            by_key(evaluate_live(b, BOARDS["dunlin-39"][1]).figures)["volume"].value
            for b in (with_levers_pulled(problem, answer.x), beyond)
        ]
        told = next(one.buys for one in answer.obstacles if "width" in one.words)
        self.assertAlmostEqual(told, figures[1] - figures[0], delta=0.1 * told)  # and so it is

    def test_what_hands_make_is_judged_again(self):
        problem = asked([least("volume", 0.0395)], ["width", "thickness"])
        found, evaluate = sought(problem)
        answer = rounded_answer(problem, found, evaluate)
        self.assertTrue(answer.met and answer.rounded)
        for moved in answer.moved:
            grain = {"width": 0.002}.get(moved.lever, 0.002)
            self.assertAlmostEqual(
                (moved.after - moved.before) / grain, round((moved.after - moved.before) / grain), places=6
            )
        self.assertEqual(by_hands(problem, answer.x), answer.x)

    def test_a_ride_is_sought_alike_by_one_and_by_many(self):
        problem = asked([most("least_wind_up", 13.9 * 0.514444)], ["width", "width_1ft_tail"])
        self.assertTrue(problem.ridden)
        one = search(problem, trying(subject(), problem))
        with ThreadPoolExecutor(2) as many:
            two = search(problem, trying(subject(), problem, many))
        self.assertEqual(one.state.x, two.state.x)
        self.assertTrue(one.met)

    def test_it_can_be_stopped_and_gone_on_with(self):
        problem = asked([least("volume", 0.040), most("mass", 2.68)], ["width", "thickness", "length"])
        whole, evaluate = sought(problem)
        kept = []
        stopped = search(problem, evaluate, told=kept.append, stop=lambda: len(kept) >= 1)
        self.assertEqual(stopped.state.done, "stopped")
        gone_on = search(problem, evaluate, kept[0])
        self.assertEqual(gone_on.state.x, whole.state.x)

    def test_a_lever_that_is_refused_says_why(self):
        board = BOARDS["shearwater-69"][0]
        litres = by_key(evaluate_live(*BOARDS["shearwater-69"]).figures)["volume"].value
        moves = [move_of(board, key) for key in ("thickness", "tail_rocker")]
        problem = stated(board, [least("volume", 1.02 * litres)], moves)
        found, evaluate = sought(problem, "shearwater-69")
        self.assertTrue(found.met)
        self.assertTrue(
            any(
                words.startswith("Rocker, tail stays: A ruler lies at that end.")
                for words in rounded_answer(problem, found, evaluate).idle
            )
        )

    def test_four_targets_are_met_on_boards_of_every_kind(self):
        """4 % more litres, no more swing, half a per cent of mass, the centre 2 mm forward."""
        for name in ("curlew-102", "eider-148", "skua-102", "guillemot-113", "heron-14"):
            board, brief = BOARDS[name]
            now = {f.key: f.value for f in evaluate_live(board, brief).figures}
            demands = [
                least("volume", 1.04 * now["volume"]),
                most("mass", 1.005 * now["mass"]),
                most("yaw_inertia", now["yaw_inertia"]),
                least("volume_centre_x", now["volume_centre_x"] + 0.002),
            ]
            keys = ("width", "thickness", "length", "tail_rocker", "nose_rocker", "width_1ft_nose")
            problem = stated(board, demands, [move_of(board, key) for key in keys])
            with self.subTest(name):
                self.assertTrue(sought(problem, name)[0].met)


class Asking(unittest.TestCase):
    def test_figures_targets_and_levers_as_people_type_them(self):
        self.assertEqual(figure_of("least wind to lift off").key, "least_wind_up")
        self.assertEqual(figure_of("volume").key, "volume")
        self.assertEqual(target_of("volume >= 34 L"), least("volume", 0.034))
        self.assertEqual(target_of("mass≤2.7kg").relation, "at most")
        board = BOARDS["dunlin-39"][0]
        self.assertEqual(lever_of(board, "tail_cut").key, "layer.Tail cut.angle")
        self.assertEqual(lever_of(board, "width").key, "width")

    def test_what_cannot_be_sought_is_told_in_a_sentence(self):
        board = BOARDS["dunlin-39"][0]
        wide = move_of(board, "width")
        for demands, moves, words in (
            ([], [wide], "nothing is asked"), ([least("volume", 0.04)], [], "nothing may move"),
            ([least("volume", 0.04), most("volume", 0.03)], [wide], "both more and less"),
            ([least("volume", 0.04)], [replace(wide, low=0.6, high=0.5)], "wrong way round"),
            ([least("volume", 0.04)], [replace(wide, low=0.6, high=0.7)], "outside its bounds now"),
            ([least("volume", 0.04)], [Move(lever="wobble", low=0, high=1)], "is no lever of this board"),
            ([least("wobble", 1.0)], [wide], "is no figure"),
            ([least("volume", 0.04)], [Move(lever="finish.colour", low=0, high=1)], "is chosen, not moved"),
            ([least("dent_front", 1.0)], [wide], "only ranks boards"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaises(InputError) as caught:
                stated(board, demands, moves)
            self.assertIn(words, str(caught.exception))
        for words in ("volume", "wobble = 3", "volume = blue"):
            with self.assertRaises(InputError):
                target_of(words)

    def test_a_lever_that_does_nothing_for_the_target_stays(self):
        problem = asked([least("volume", 0.0395)], ["thickness", "stance"])
        found, evaluate = sought(problem)
        self.assertTrue(found.met)
        self.assertAlmostEqual(found.state.x[1], 0.0, places=6)
        self.assertIn(
            "  Stance does nothing for what is asked.", answer_lines(problem, rounded_answer(problem, found, evaluate))
        )
