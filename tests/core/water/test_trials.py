"""Tests on the water: published data sets, power, false claims where there is nothing, a current that wins nothing."""

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import Trial, TrialRun
from kelvor.core.water.tracks.reading import track_read
from kelvor.core.water.trials import results
from kelvor.core.water.trials.from_track import legs
from kelvor.core.water.trials.planning import (
    balanced,
    least_shown,
    pairs_for,
    power_of,
    riders_for,
    run_order,
)
from kelvor.core.water.trials.results import answer, paired
from tests.core.water.test_tracks import kept
from tests.support import some

TRIAL = Trial(question="q", differs="the fin", a="A", b="B", margin=0.12)
SLEEP = ((0.7, 1.9), (-1.6, 0.8), (-0.2, 1.1), (-1.2, 0.1), (-0.1, -0.1), (3.4, 4.4), (3.7, 5.5), (0.8, 1.6),
         (0.0, 4.6), (2.0, 3.4))  # fmt: skip
"""Additional sleep by two drugs, ten patients: Student (1908), Biometrika 6, p. 20."""
SHOES = tuple(zip((13.2, 8.2, 10.9, 14.3, 10.7, 6.6, 9.5, 10.8, 8.8, 13.3),
                  (14.0, 8.8, 11.2, 14.2, 11.8, 6.4, 9.8, 11.3, 9.3, 13.6), strict=True))  # fmt: skip
"""Wear of boys' shoes: Box, Hunter and Hunter, Statistics for Experimenters (memory)."""


def in_pairs(pairs, plus=0.0):
    """Runs in pairs whose order alternates, far apart in number so that no covariate is asked for."""
    runs = []
    for k, (a, b) in enumerate(pairs):
        order = ("A", "B") if k % 2 == 0 else ("B", "A")
        for i, change in enumerate(order):
            value = (a if change == "A" else b) + plus
            runs.append(TrialRun(trial="t", number=2 * k + i + 1, change=change, value=value, both_ways=True))
    return runs


def simulated(true, pairs, scatter, seed, drift=0.0, gusts=0.3, slope=0.5):
    """Runs of a stated truth: pairs scatter by so much, wind drifts and is measured."""
    rng = np.random.default_rng(seed)
    order = run_order(balanced(pairs))
    runs = []
    for i, change in enumerate(order):
        wind = 8.0 + drift * i / len(order) + rng.normal(0, gusts)
        value = 12.0 + true * (change == "B") + slope * (wind - 8.0) + rng.normal(0, scatter / 2**0.5)
        runs.append(
            TrialRun(trial="t", number=i + 1, change=change, value=float(value), both_ways=True, wind=float(wind))
        )
    return runs


class Published(unittest.TestCase):
    def test_student_1908(self):
        """t 4.0621, 9 degrees of freedom, p 0.002833, 95 % from 0.7001 to 2.4599."""
        found = self.in_blocks(SLEEP)
        self.assertEqual(found.freedom, 9)
        self.assertAlmostEqual(found.difference / (found.half / 2.2621572), 4.0621, places=3)
        self.assertAlmostEqual(found.chance, 0.002833, places=6)
        self.assertAlmostEqual(found.difference - found.half, 0.7001, places=4)
        self.assertAlmostEqual(found.difference + found.half, 2.4599, places=4)
        self.assertEqual(found.said, "faster")

    def test_boys_shoes(self):
        """0.41, t 3.3489, p 0.008539, 0.1330 to 0.6870; alike within 1.0 (TOST p 0.000474), not within 0.6 (0.0775)."""
        found = self.in_blocks(SHOES)
        self.assertAlmostEqual(found.difference, 0.41, places=9)
        self.assertAlmostEqual(found.chance, 0.008539, places=6)
        self.assertAlmostEqual(found.half, 0.2770, places=4)
        self.assertLess(found.difference + found.half90, 1.0)
        self.assertGreater(found.difference + found.half90, 0.6)

    def in_blocks(self, pairs):
        """Plain pairs: the published answers take nothing into account beside them."""
        with mock.patch.object(results, "WITH_COVARIATES", 99):
            return answer(replace(TRIAL, margin=1.0), in_pairs(pairs, 10.0))


class Planning(unittest.TestCase):
    def test_pairs_for_a_difference_against_a_published_library(self):
        """Pairs for 80 and 90 % by scatter over difference (statsmodels 0.15.0, TTestPower)."""
        for scatter, eighty, ninety in ((0.5, 5, 5), (1.0, 10, 13), (1.5, 20, 26), (2.0, 34, 44), (3.0, 73, 97)):
            self.assertEqual(pairs_for(1.0, scatter, beside=False), eighty)
            self.assertEqual(pairs_for(1.0, scatter, 0.9, beside=False), ninety)
        self.assertEqual([pairs_for(0.12, s, beside=False) for s in (0.1, 0.2, 0.4)], [8, 24, 90])
        self.assertIsNone(pairs_for(0.01, 1.0))

    def test_the_least_that_shows_and_its_pairs_agree(self):
        for pairs in (4, 8, 24):
            least = least_shown(pairs, 0.2)
            self.assertAlmostEqual(power_of(pairs, least / 0.2), 0.8, places=6)
            self.assertEqual(pairs_for(least * 1.0001, 0.2), pairs)

    def test_a_balanced_order_carries_no_steady_drift(self):
        for pairs in (2, 4, 6, 8, 12):
            order = np.array([1.0 if c == "B" else -1.0 for c in run_order(balanced(pairs))])
            self.assertEqual(order.sum(), 0)
            self.assertEqual(order @ np.arange(len(order)), 0)
        riders = riders_for(balanced(8), 2)
        each = [(c, r) for c, r in zip(run_order(balanced(8)), riders, strict=True)]
        self.assertEqual(len({each.count(pair) for pair in set(each)}), 1)

    def test_orders_that_are_none_are_refused(self):
        for order in ("", "ABC", "AAB"):
            with self.assertRaises(InputError):
                run_order(order)
        with self.assertRaises(InputError):
            balanced(1)


class Answers(unittest.TestCase):
    def test_a_thousand_tests_of_nothing_claim_a_difference_in_five_of_a_hundred(self):
        for pairs, drift in ((4, 0.0), (8, 0.6)):
            claims = sum(
                answer(TRIAL, simulated(0.0, pairs, 0.2, seed, drift, slope=0.0 if pairs == 4 else 0.5)).said
                in ("faster", "slower")
                for seed in range(1000)
            )
            self.assertAlmostEqual(claims / 1000, 0.05, delta=0.015)

    def test_speeds_typed_to_a_tenth_or_a_half_of_a_knot_claim_no_more(self):
        """Six of a hundred in a thousand each; of fewer what chance leaves to them."""
        for grain, scatter, pairs, count, most in (
            (0.1, 0.05, 4, 250, 0.09), (0.1, 0.1, 8, 250, 0.09), (0.5, 0.1, 3, 250, 0.09), (0.5, 0.3, 4, 1000, 0.06),
            (0.5, 0.3, 8, 250, 0.09),
        ):  # fmt: skip
            claims = 0
            for seed in range(count):
                runs = simulated(0.0, pairs, scatter * KNOT, seed)
                typed = [replace(run, value=round(run.value / KNOT / grain) * grain * KNOT) for run in runs]
                claims += answer(TRIAL, typed).said in ("faster", "slower")
            self.assertLessEqual(claims / count, most, (grain, scatter, pairs))

    def test_runs_that_read_alike_claim_nothing(self):
        runs = [replace(run, value=20.3 * KNOT) for run in simulated(0.0, 4, 0.2, 1)]
        found = answer(TRIAL, runs)
        self.assertEqual((found.said, found.chance), ("alike", 1.0))
        self.assertIn("All runs read alike", found.notes[0])
        # a reading of half a knot is off by 0.25: three differences of it are known to 0.5 / √18 kn
        half = [replace(run, value=(20.5 if run.change == "B" else 20.0) * KNOT) for run in runs[:6]]
        found = answer(TRIAL, half)
        self.assertAlmostEqual(found.half / KNOT, 4.302653 * 0.5 / 18**0.5, places=5)
        self.assertNotIn(found.said, ("faster", "slower"))

    def test_what_is_planned_is_what_is_found_with_wind_and_order_beside(self):
        for pairs in some((6, 8, 12), 2):
            effect = least_shown(pairs, 0.2)
            found = sum(answer(TRIAL, simulated(effect, pairs, 0.2, seed)).said == "faster" for seed in range(600))
            self.assertAlmostEqual(found / 600, 0.80, delta=0.06, msg=pairs)

    def test_one_per_cent_is_found_at_the_planned_number_of_pairs(self):
        """0.12 of 12 m/s, pairs that scatter by 0.2: 24 pairs, found in 80 ± 4 of a hundred."""
        pairs = pairs_for(0.12, 0.2)
        found = sum(answer(TRIAL, simulated(0.12, pairs, 0.2, seed)).said == "faster" for seed in range(1000))
        self.assertAlmostEqual(found / 1000, 0.80, delta=0.04)

    def test_wind_that_drifts_is_taken_out_where_it_is_measured(self):
        runs = simulated(0.12, 24, 0.05, 3, drift=2.0, gusts=0.8)
        with_wind = answer(TRIAL, runs)
        without = answer(TRIAL, [replace(run, wind=0.0) for run in runs])
        self.assertIn("wind", with_wind.beside)
        self.assertLess(with_wind.half, 0.5 * without.half)
        self.assertAlmostEqual(with_wind.difference, 0.12, delta=with_wind.half)

    def test_not_shown_says_how_many_pairs_would_and_they_do(self):
        runs = simulated(0.10, 6, 0.25, 11)
        found = answer(TRIAL, runs)
        self.assertEqual(found.said, "not shown")
        wanted = found.pairs + found.more
        self.assertGreaterEqual(power_of(wanted, 0.12 / found.scatter), 0.8)
        self.assertLess(power_of(wanted - 1, 0.12 / found.scatter), 0.8)

    def test_alike_within_what_matters(self):
        found = answer(replace(TRIAL, margin=0.3), simulated(0.0, 12, 0.2, 5))
        self.assertEqual(found.said, "alike")

    def test_what_does_not_bear_on_the_question_cannot_tell(self):
        runs = simulated(0.5, 8, 0.1, 1)
        self.assertEqual(answer(TRIAL, runs).said, "faster")
        for trial, given, words in (
            (replace(TRIAL, more="the sail too"), runs, "More than one thing differed: the fin, and the sail too"),
            (TRIAL, runs[:4], "1 more pair at least"),
            (TRIAL, [replace(run, both_ways=False) for run in runs], "the current is not known"),
        ):
            found = answer(trial, given)
            self.assertEqual(found.said, "cannot tell")
            self.assertIn(words, found.why)
        one_way = [replace(run, both_ways=False) for run in runs]
        self.assertEqual(answer(replace(TRIAL, current=0.2), one_way).said, "faster")

    def test_struck_runs_leave_the_pairs(self):
        runs = simulated(0.0, 4, 0.2, 1)
        self.assertEqual(len(paired(runs)), 4)
        struck = [replace(run, struck="a gust") if run.number == 3 else run for run in runs]
        self.assertEqual(answer(TRIAL, struck).pairs, 3)


class FromATrack(unittest.TestCase):
    """The simulated logger sails out and back on one line, ashore between: a current of half a knot wins nothing."""

    def sailed(self, faster=0.0, current=0.5 * KNOT, seed=1):
        rng = np.random.default_rng(seed)
        plan = [{"seconds": 120}]
        for change in run_order(balanced(6)):
            speed = 8.0 + faster * (change == "B") + rng.normal(0, 0.02)
            there, back = ({"heading": heading, "speed": speed, "seconds": 100} for heading in (100.0, 280.0))
            plan += [there, back, {"seconds": 150}]
        set_ = [current * np.sin(np.radians(100)), current * np.cos(np.radians(100))]
        return track_read(kept(plan, current=set_, noise={"place": 0.6, "speed": 0.05, "seed": seed}))

    def answered(self, read):
        cut = legs(read, "mean speed")
        order = run_order(balanced(6))
        self.assertEqual(len(cut), len(order))
        self.assertTrue(all(leg.both_ways for leg in cut))
        runs = [
            TrialRun(trial="t", number=i + 1, change=change, value=leg.value, both_ways=leg.both_ways)
            for i, (change, leg) in enumerate(zip(order, cut, strict=True))
        ]
        return answer(replace(TRIAL, margin=0.1), runs), cut

    def test_a_planted_current_never_makes_a_winner(self):
        for seed in range(4):
            found, cut = self.answered(self.sailed(seed=seed))
            self.assertIn(found.said, ("alike", "not shown"))
            for leg in cut:
                self.assertAlmostEqual(leg.value, 8.0, delta=0.25)

    def test_a_planted_difference_is_found_through_the_current(self):
        found, _ = self.answered(self.sailed(faster=0.25))
        self.assertEqual(found.said, "faster")
        self.assertAlmostEqual(found.difference, 0.25, delta=0.06)
