"""Boards as they are proposed: they close, leave foam about what is let in, and balance their rider on the foil."""

import unittest
from dataclasses import replace

from kelvor.core.base.disciplines import FOILING
from kelvor.core.base.findings import Severity
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.new_board.balance import in_balance
from kelvor.core.new_board.proposals import brief_for, proposals, proposed_board
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.surface.sections import Resolution
from tests.support import some

MASSES = (50.0, 65.0, 80.0, 95.0, 110.0)


class Proposed(unittest.TestCase):
    def test_every_discipline_and_rider_gets_a_board_without_a_warning(self):
        cases = [(discipline, mass) for discipline in PHASES for mass in MASSES]
        for discipline, mass in {*some(cases, 8), *((d, 50.0) for d in PHASES)}:
            brief = brief_for(replace(Brief(), rider=replace(Brief().rider, mass=mass)), discipline)
            for proposal in proposals(brief):
                with self.subTest(discipline=discipline, mass=mass, school=proposal.school):
                    board = in_balance(proposed_board("First", proposal), brief)
                    found = evaluate(board, brief, Resolution.COARSE)
                    warned = [f.text for f in found.findings if f.severity is not Severity.NOTE]
                    self.assertEqual(warned, [])

    def test_a_foil_board_balances_its_rider_in_the_middle_of_its_tracks(self):
        """The figure that is told, against what the tracks give."""
        cases = [(discipline, mass) for discipline in FOILING for mass in MASSES]
        for discipline, mass in some(cases, 5):
            brief = brief_for(replace(Brief(), rider=replace(Brief().rider, mass=mass)), discipline)
            for proposal in proposals(brief):
                with self.subTest(discipline=discipline, mass=mass, school=proposal.school):
                    plain = proposed_board("First", proposal)
                    board = in_balance(plain, brief)
                    needed = evaluate(board, brief, Resolution.COARSE).figures["track_needed"]
                    self.assertAlmostEqual(needed.value, board.mast_x, delta=3e-3)
                    self.assertNotIn("too short", needed.note)
                    self.assertEqual(board.fittings.tracks.mast, 0.0)
                    missed = evaluate(plain, brief, Resolution.COARSE).figures["track_needed"].value - plain.mast_x
                    self.assertGreater(abs(missed), 0.02)


if __name__ == "__main__":
    unittest.main()
