"""Levers that choose a kind, and those of boxes, tracks, straps, pads, wingers and the deck: each does what it says and
says what it does.
"""

import math
import unittest
from dataclasses import replace

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.units import DEGREE, System
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.jobs import lever_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.lever import chosen_place
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards
from kelvor.ui.shown.lever_effects import Does
from kelvor.ui.shown.panels import lever_rows
from kelvor.ui.shown.wording import change_words

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}


def lever_of(board, end):
    return next(lever for lever in levers(board) if lever.key.endswith(end))


class Choices(unittest.TestCase):
    def test_a_box_is_chosen_by_its_first_letters_and_weighs_what_it_weighs(self):
        board, brief = DEMO["turnstone-77"]
        lever = lever_of(board, ".kind")
        pulled = pull_lever(board, lever, chosen_place(lever, "deep"))
        self.assertEqual(pulled.board.fittings.fin_boxes[0].kind, "deep box")
        self.assertEqual(change_words(pulled.changes[0], System.METRIC), "Twin fins, box: deep box")
        boxes = board.fittings.fin_boxes
        before, after = (evaluate(b, brief, Resolution.COARSE).figures["mass"].value for b in (board, pulled.board))
        added = boxes[0].count * (BOX_SIZES["deep box"][3] - BOX_SIZES[boxes[0].kind][3])
        self.assertAlmostEqual(after - before, added, delta=1e-6)

    def test_what_is_none_of_the_kinds_is_refused_with_what_there_is(self):
        lever = lever_of(DEMO["turnstone-77"][0], ".kind")
        for words in ("", "b0x", "t b"):
            with self.assertRaises(InputError) as caught:
                chosen_place(lever, words)
            self.assertIn("deep box, long box", str(caught.exception))

    def test_rows_show_the_kind_and_never_its_place(self):
        found = evaluate(*DEMO["turnstone-77"], Resolution.COARSE)
        rows, _ = lever_rows(found.live, System.METRIC, frozenset())
        shown = {row.label: row.value for row in rows}
        self.assertEqual(shown["Deck, colour"], "white")
        self.assertEqual(shown["Twin fins, section"], "both sides")
        self.assertEqual(shown["Twin fins, box"], "tab box")


class Parts(unittest.TestCase):
    def test_a_wingers_angle_is_its_step_over_its_run(self):
        board, _ = DEMO["turnstone-77"]
        lever = lever_of(board, "winger.0.angle")
        winger = board.outline.wingers[0]
        self.assertAlmostEqual(math.tan(lever.read(board)), winger.pull_in / winger.run)
        steep = pull_lever(board, lever, 45 * DEGREE).board.outline.wingers[0]
        self.assertAlmostEqual(steep.run, steep.pull_in)
        self.assertEqual(pull_lever(board, lever, 90 * DEGREE).board.outline.wingers[0].run, 0.0)
        with self.assertRaises(RefusedEdit):
            pull_lever(board, lever, 0.0)

    def test_longer_tracks_give_the_mast_more_room(self):
        board, brief = DEMO["dunlin-39"]
        lever = lever_of(board, "tracks.length")
        longer = pull_lever(board, lever, lever.read(board) + 0.04).board
        travel = [evaluate(b, brief, Resolution.COARSE).figures["track_travel"].value for b in (board, longer)]
        self.assertAlmostEqual(travel[1] - travel[0], 0.02, places=9)

    def test_a_raked_foil_asks_for_less_pitch_by_as_much(self):
        board, brief = DEMO["dunlin-39"]
        foils = tuple(replace(foil, rake=1.5 * DEGREE) for foil in brief.foils)
        flat, raked = (evaluate(board, b, Resolution.COARSE).figures for b in (brief, replace(brief, foils=foils)))
        self.assertAlmostEqual(flat["lift_off_pitch"].value - raked["lift_off_pitch"].value, 1.5 * DEGREE, places=9)
        self.assertAlmostEqual(raked["pitch_to_spare"].value - flat["pitch_to_spare"].value, 1.5 * DEGREE, places=9)


class Effects(unittest.TestCase):
    def test_a_lever_without_an_effect_says_so_and_one_with_tells_it(self):
        board, brief = DEMO["shearwater-76"]
        job = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        figures = evaluate(board, brief, Resolution.COARSE).figures
        idle, busy = lever_of(board, "finish.colour"), lever_of(board, "width")
        effects = {lever.key: lever_job(job, lever.key) for lever in (idle, busy)}
        does = Does(PHASES["slalom"], figures, effects)
        self.assertEqual(does.words(idle, System.METRIC), "No computed effect on the ride.")
        self.assertRegex(does.words(busy, System.METRIC), r"^\+1.0 cm: .*(earlier|later|to spare|more|less)")


if __name__ == "__main__":
    unittest.main()
