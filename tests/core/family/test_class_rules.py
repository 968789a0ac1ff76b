"""Class rules, seasons of winds in closed form, and boards to register against a general solver."""

import unittest
from dataclasses import replace

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.stats import weibull_min

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import by_key
from kelvor.core.base.units import System
from kelvor.core.brief.brief import Target
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.verdicts import Outcome
from kelvor.core.family.class_rules import (
    USUAL,
    check_rule,
    falls_under,
    quota_words,
    rule_standing,
    typed_limit,
)
from kelvor.core.family.season import Entrant, Winds, best_choice, board_changes
from kelvor.core.register.kinds.family import ClassRule, Quota
from kelvor.core.seek.typed_demands import target_of
from kelvor.demo.boards import demo_boards
from kelvor.ui.family.shown.class_rules import margin_words

BOARDS = {name: (board, brief) for name, board, brief in demo_boards()}
WINDOWS = {
    "a": (4, 7, 0.92), "b": (4.8, 8.5, 0.86), "c": (6, 10.5, 0.78), "d": (6.5, 9.5, 0.74), "e": (8, 12.5, 0.70),
    "f": (9, 14, 0.66), "g": (10.5, 16.5, 0.60), "h": (12, 18, 0.57),
}  # fmt: skip
"""An invented range: winds [m/s] from, to, and width [m]."""


def limit(words):
    demand = target_of(words)
    return Target(figure=demand.figure, relation=demand.relation, value=demand.value)


def figures(name):
    return by_key(evaluate_live(*BOARDS[name]).figures)


def solved(entrants, winds, most, quotas):
    """The same choice as a mixed integer programme, by SciPy's milp (HiGHS)."""
    ends = sorted({end for one in entrants for window in one.windows for end in window})
    middles = [(a + b) / 2 for a, b in zip(ends[:-1], ends[1:], strict=True)]
    parts = [winds.share(a, b) for a, b in zip(ends[:-1], ends[1:], strict=True)]
    covers = np.array([[any(lo <= m <= hi for lo, hi in one.windows) for one in entrants] for m in middles], float)
    n, m = len(entrants), len(parts)
    rows = [np.concatenate([np.ones(n), np.zeros(m)])]
    upper = [most]
    for k, quota in enumerate(quotas):
        rows.append(np.concatenate([[float(one.counts[k]) for one in entrants], np.zeros(m)]))
        upper.append(quota)
    for j in range(m):  # a part is covered only where one of its boards is chosen
        part = np.zeros(n + m)
        part[:n], part[n + j] = -covers[j], 1
        rows.append(part)
        upper.append(0)
    found = milp(
        np.concatenate([np.zeros(n), -np.array(parts)]),
        integrality=np.ones(n + m),
        bounds=Bounds(0, 1),
        constraints=LinearConstraint(np.array(rows), -np.inf, np.array(upper)),
    )
    return -found.fun


class Season(unittest.TestCase):
    def test_shares_of_a_season_in_closed_form_and_by_scipy(self):
        winds = Winds(7.0, 2.0)
        self.assertAlmostEqual(winds.scale, 7.89865, places=5)  # mean / Γ(3/2), Γ(3/2) = √π/2
        self.assertAlmostEqual(winds.share(5, 9), 0.396850, places=6)
        theirs = weibull_min(2.0, scale=winds.scale)
        self.assertAlmostEqual(theirs.mean(), 7.0, places=9)
        for low, high in ((0, 3), (4.2, 11), (15, 40)):
            self.assertAlmostEqual(winds.share(low, high), theirs.cdf(high) - theirs.cdf(low), places=12)
        for mean, shape in ((0.0, 2.0), (float("nan"), 2.0), (8.0, 0.1)):
            with self.assertRaisesRegex(InputError, "season"):
                Winds(mean, shape)

    def test_three_boards_of_eight_with_and_without_a_quota(self):
        """Looked through one by one, and by SciPy's milp: 0.777452 and, with one board over 72 cm, 0.714070."""
        winds = Winds(7.5, 2.0)
        entrants = [Entrant(name, ((lo, hi),), (wide > 0.72,)) for name, (lo, hi, wide) in WINDOWS.items()]
        free = best_choice(entrants, winds, 3)
        self.assertEqual([entrants[i].name for i in free.boards], ["a", "c", "g"])
        self.assertAlmostEqual(free.covered, 0.777452, places=6)
        held = best_choice(entrants, winds, 3, (1,))
        self.assertEqual([entrants[i].name for i in held.boards], ["b", "e", "h"])
        self.assertAlmostEqual(held.covered, 0.714070, places=6)
        self.assertAlmostEqual(solved(entrants, winds, 3, ()), free.covered, places=9)
        self.assertAlmostEqual(solved(entrants, winds, 3, (1,)), held.covered, places=9)

    def test_random_ranges_are_chosen_as_the_solver_chooses(self):
        rng = np.random.default_rng(6)
        for _ in range(12):
            entrants = []
            for k in range(9):
                lows = rng.uniform(3, 12, rng.integers(1, 3))
                windows = tuple((float(lo), float(lo + rng.uniform(1, 5))) for lo in lows)
                entrants.append(Entrant(str(k), windows, (bool(rng.random() < 0.4), bool(rng.random() < 0.3))))
            winds = Winds(float(rng.uniform(5, 10)), float(rng.uniform(1.5, 3)))
            most, quotas = int(rng.integers(2, 4)), (1, 1)
            try:
                ours = best_choice(entrants, winds, most, quotas).covered
            except InputError:
                continue
            self.assertAlmostEqual(ours, solved(entrants, winds, most, quotas), places=9)

    def test_gaps_and_handing_over_are_told(self):
        entrants = [Entrant("big", ((4, 7),)), Entrant("small", ((9, 14),)), Entrant("middle", ((6, 8),))]
        found = best_choice([entrants[0], entrants[1]], Winds(7.0), 2)
        self.assertEqual(found.gaps, ((7, 9),))
        self.assertEqual(board_changes(entrants), [("big", "middle", 6, 7), ("middle", "small", 9, 8)])
        for most, given, words in ((0, entrants, "no board may"), (2, [Entrant("x", ())], "no board has winds")):
            with self.assertRaisesRegex(InputError, words):
                best_choice(given, Winds(7.0), most)
        wide = [Entrant(str(k), ((4.0, 5.0),), (True,)) for k in range(3)]
        with self.assertRaisesRegex(InputError, "let no board"):
            best_choice(wide, Winds(7.0), 2, (0,))


class Rules(unittest.TestCase):
    def test_margins_are_those_of_the_board(self):
        found = figures("shearwater-76")
        rule = ClassRule(
            name="Open 76", limits=(limit("width <= 75 cm"), limit("length >= 220 cm"), limit("least_wind <= 10 kn"))
        )
        check_rule(rule)
        stands = rule_standing(rule, found, BOARDS["shearwater-76"][1])
        wide, long_, wind = stands.verdicts
        self.assertAlmostEqual(wide.margin, 0.75 - found["width"].value, places=9)
        self.assertEqual(wide.outcome.value, "short")
        self.assertGreater(long_.margin, 0)
        self.assertEqual(wind.outcome.value, "not computed")  # the board alone has no wind
        self.assertFalse(stands.met)
        wider = replace(rule, limits=(limit("width <= 80 cm"), limit("least_wind <= 10 kn")))
        self.assertIsNone(rule_standing(wider, found, BOARDS["shearwater-76"][1]).met)  # cannot be told

    def test_a_limit_is_met_by_what_makers_hold(self):
        """Once “meets” with 0.2 mm in hand. A width is held within 1.5 mm a side (common practice, no source: the
        measure sheet's own), or as a workshop says.
        """
        found, brief = figures("shearwater-76"), BOARDS["shearwater-76"][1]
        width = found["width"].value

        def stood(spare, tolerances=USUAL):
            limits = (Target(figure="width", relation="at most", value=width + spare),)
            return rule_standing(ClassRule(name="Open", limits=limits), found, brief, tolerances)

        close = stood(0.0002)
        self.assertEqual((close.verdicts[0].outcome, close.met), (Outcome.TOO_CLOSE, None))
        told = margin_words(close.verdicts[0], System.METRIC)
        self.assertEqual(told, "0.2 mm to spare, makers hold ± 3.0 mm: measure the made board")
        self.assertTrue(stood(0.0031).met)
        self.assertIs(stood(-0.0002).met, False)
        self.assertTrue(stood(0.0021, {"width": 0.001}).met)

    def test_quotas_count_boards(self):
        rule = ClassRule(name="Event", quotas=(Quota(most=3), Quota(most=1, which=limit("width >= 72 cm"))))
        check_rule(rule)
        boards = [figures(name) for name in ("shearwater-76", "shearwater-69", "skua-102")]
        self.assertEqual([falls_under(rule.quotas[1], f) for f in boards], [True, False, True])
        self.assertEqual(quota_words(rule.quotas[1]), "at most 1 board with width >= 72.0 cm")
        self.assertEqual(typed_limit(limit("mass<=7.2 kg")), "mass <= 7.20 kg")

    def test_what_contradicts_itself_is_told_with_its_place(self):
        fine = ClassRule(name="x", limits=(limit("width <= 80 cm"),))
        for changed, words in (
            ({"limits": ()}, "limits nothing"),
            ({"limits": (limit("width <= 80 cm"), limit("width >= 85 cm"))}, "at least 85.0 cm and at most 80.0 cm"),
            ({"limits": (replace(limit("width <= 80 cm"), figure="wobble"),)}, "no figure"),
            ({"limits": (replace(limit("width <= 80 cm"), figure="dent_front"),)}, "only ranks"),
            ({"since": "spring"}, "no day"),
            ({"since": "2027-05-01", "until": "2026-05-01"}, "ends before it begins"),
            ({"quotas": (Quota(most=1, which=limit("width >= 90 cm")),)}, "no board within the limits"),
        ):
            with self.subTest(words), self.assertRaisesRegex(InputError, words):
                check_rule(replace(fine, **changed))
