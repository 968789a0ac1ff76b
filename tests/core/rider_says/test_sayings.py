"""Sentences of riders: every discipline has its own, every key is one, and what is computed judges what is said."""

import unittest

from kelvor.core.base.disciplines import AT_REST
from kelvor.core.base.units import Quantity
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.jobs import LeverEffect, lever_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.locks import Change
from kelvor.core.ride.phases import PHASES
from kelvor.core.rider_says.saying import Candidate, lever_for, said_of
from kelvor.core.rider_says.table import SAYINGS
from kelvor.core.rider_says.weighing import is_about, outcomes, ranked_candidates, read_keys, weighed_candidate
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

BOARDS = {name: (board, brief) for name, board, brief in demo_boards()}


class Table(unittest.TestCase):
    def test_eight_sentences_at_least_for_each_discipline_and_a_hand_or_lever_for_each_group(self):
        for discipline in AT_REST:
            with self.subTest(discipline):
                self.assertGreaterEqual(len(said_of(SAYINGS, discipline)), 8)
        for saying in SAYINGS:
            self.assertTrue(saying.hand.endswith("."), saying.words)
            self.assertTrue({key for key, _ in saying.wants} <= set(BY_KEY), saying.words)
        self.assertEqual(len({s.words for s in SAYINGS}), len(SAYINGS))

    def test_every_candidate_is_a_lever_of_some_board_and_every_sentence_finds_two_on_some(self):
        used, found = set(), dict.fromkeys((s.words for s in SAYINGS), 0)
        for board, brief in BOARDS.values():
            there = levers(board)
            for saying in said_of(SAYINGS, brief.discipline):
                here = [c.lever for _, c in saying.grouped() if lever_for(board, there, c.lever)]
                used.update(here)
                found[saying.words] = max(found[saying.words], len(here))
        self.assertEqual({c.lever for s in SAYINGS for _, c in s.grouped()} - used, set())
        self.assertEqual([words for words, most in found.items() if most < 2], [])

    def test_typed_words_find_by_other_words_too(self):
        self.assertEqual([s.words for s in said_of(SAYINGS, "slalom", "spins OUT")], ["The tail slides away"])
        self.assertEqual(said_of(SAYINGS, "slalom", "spins zebra"), [])


class Judging(unittest.TestCase):
    def judged(self, name, words):
        board, brief = BOARDS[name]
        subject = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        saying = said_of(SAYINGS, brief.discipline, words)[0]
        figures = evaluate(board, brief, Resolution.COARSE).figures
        there, rows = levers(board), []
        for group, candidate in saying.grouped():
            lever = lever_for(board, there, candidate.lever)
            if lever is not None:
                effect = lever_job(subject, lever.key, float(candidate.sign), read_keys(saying))
                rows.append(
                    weighed_candidate(saying, group, candidate, lever, effect, figures, PHASES[brief.discipline])
                )
        return board, brief, ranked_candidates(rows)

    def test_what_is_said_to_help_is_what_the_changed_board_does(self):
        """The first candidate, pulled and evaluated anew, moves the figure by what was told."""
        board, brief, rows = self.judged("shearwater-69", "tail slides")
        best = rows[0]
        self.assertTrue(best.holds)
        told = best.speaks[0]
        self.assertTrue(told.figure.key.startswith("fin_margin"))
        changed = pull_lever(board, best.lever, best.lever.read(board) + best.candidate.sign * best.lever.step).board
        pair = [evaluate(b, brief, Resolution.COARSE).figures[told.figure.key].value for b in (board, changed)]
        self.assertGreater(pair[1], pair[0])
        self.assertAlmostEqual(told.moved, pair[1] - pair[0], delta=0.02 * told.moved)
        self.assertEqual(sorted((r.score for r in rows if r.holds), reverse=True), [r.score for r in rows if r.holds])
        leads = {phase.name: moves for phase, moves in best.leads}
        self.assertEqual(len(leads), len(PHASES[brief.discipline]))
        for phase in PHASES[brief.discipline]:  # what is told of a phase is what its leading figure does
            before, after = (evaluate(b, brief, Resolution.COARSE).figures[phase.headline] for b in (board, changed))
            if (told := leads[phase.name]) is None:
                self.assertLess(abs(after.value - before.value), max(before.band, 1e-9))
            else:
                self.assertAlmostEqual(told.moved, after.value - before.value, delta=0.05 * abs(told.moved))
                self.assertEqual(told.helps, (told.moved > 0) == (before.definition.better.name == "MORE"))

    def test_a_habit_that_does_not_hold_here_comes_after_what_does_and_says_so(self):
        _, _, rows = self.judged("sandpiper-46", "track")
        verdicts = [r.holds for r in rows]
        self.assertIn(False, verdicts)
        self.assertLess(verdicts.index(True), verdicts.index(False))  # of two opposite moves one cannot help

    def test_what_lowers_a_margin_or_is_refused_says_so(self):
        _, brief, rows = self.judged("sandpiper-46", "pump")
        cut = next(r for r in rows if r.lever.key.endswith("cut.angle"))
        self.assertIn("reserve_volume", [m.figure.key for m in cut.lowers])
        saying = said_of(SAYINGS, brief.discipline, "pump")[0]
        refused = weighed_candidate(
            saying, cut.group, cut.candidate, cut.lever, LeverEffect("x", 0.0, refused="no"), {}, ()
        )
        self.assertEqual(ranked_candidates([refused, *rows])[-1].refused, "no")
        self.assertIsNone(refused.holds)

    def test_a_test_is_about_a_lever_by_what_was_typed_to_differ(self):
        there = {lever.key: lever for lever in levers(BOARDS["shearwater-69"][0])}
        rows = (
            ("the fin", "fin.0.fin.span", "width"),
            ("the mast base", "mast_track.at", "fin.0.fin.base"),
            ("rail", "rails.edge_radius", "length"),
        )
        for differs, about, other in rows:
            self.assertTrue(is_about(there[about], differs), differs)
            self.assertFalse(is_about(there[other], differs), differs)

    def test_outcomes_count_only_the_same_change_the_same_way(self):
        lever = next(v for v in levers(BOARDS["sandpiper-46"][0]) if v.key == "width")

        def change(after, label=lever.label):
            return (Change(label, Quantity.LENGTH, 0.5, after),)

        tried = [(change(0.51), "kept"), (change(0.52), "dropped"), (change(0.49), "kept"),
                 (change(0.51, "Length"), "kept")]  # fmt: skip
        self.assertEqual(outcomes(Candidate("width", 1, ""), lever, tried), (2, 1))
        self.assertEqual(outcomes(Candidate("width", -1, ""), lever, tried), (1, 1))
