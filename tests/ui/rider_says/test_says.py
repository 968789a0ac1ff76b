"""The rider says…, driven as a designer would: a word typed, candidates read, one made a version and taken back."""

import shiboken6
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.evaluation.jobs import lever_job
from kelvor.core.levers.catalogue import levers
from kelvor.core.register.kinds.words import Decision
from kelvor.ui.ride.ride_requests import RideRequests
from tests.ui.case import WindowCase


class Says(WindowCase):
    rides = True

    def setUp(self):
        super().setUp()
        self.wait_for(lambda: self.session.service(RideRequests).ride is not None)
        self.panel = self.open()

    def open(self):
        self.trigger("board.says")
        panel = self.window.dialogs.shown[-1]
        self.wait_for(lambda: panel.candidates)
        return panel

    def tearDown(self):
        for panel in self.window.dialogs.shown:
            if shiboken6.isValid(panel):
                panel.close()
        super().tearDown()

    def say(self, words):
        self.panel.typed.clear()
        QTest.keyClicks(self.panel.typed, words)
        self.wait_for(lambda: self.panel.candidates and not self.panel.counting.isVisible())

    def cells(self, change):
        table = self.panel.table
        at = next(i for i in range(table.rowCount()) if table.item(i, 1).text().startswith(change))
        return at, [table.item(at, j).text() for j in range(table.columnCount())]

    def test_a_word_finds_the_sentence_and_its_candidates_are_counted_here(self):
        self.say("pump")
        self.assertEqual([self.panel.list.item(0).text()], ["The tail drags when I pump or lift off"])
        self.assertRegex(self.panel.speaks.text(), r"pitch to spare, tail \d+\.\d°")
        cells = self.cells("Rocker, tail cut angle +1.0°")[1]
        effect = lever_job(self.session.subject(), "layer.Tail cut.angle", 1.0, ("pitch_to_spare",))
        moved = {key: by for key, by, _ in effect.changes}["pitch_to_spare"]
        self.assertIn(f"pitch to spare, tail {moved * 57.29578:.1f}° more room", cells[2])
        self.assertTrue(cells[3].startswith("less margin: "), cells[3])  # what it costs in safety comes first
        self.panel.table.selectRow(self.cells("Rocker, tail cut angle +1.0°")[0])
        self.assertRegex(
            self.panel.more.text(), r"By phase: .*lift off: least wind to lift off 0\.1 kn later \(±0\.\d+\), worse"
        )
        self.assertIn("No effect beyond the band on ", self.panel.more.text())
        self.say("light")
        self.assertEqual(self.cells("Rails, edge radius")[1][2], "nothing computed speaks for it")
        self.panel.typed.clear()
        QTest.keyClicks(self.panel.typed, "zebra")
        self.assertIn("try one word", self.panel.problem.text())

    def test_one_press_makes_a_version_and_its_outcome_is_shown_beside_it(self):
        before, first = self.session.board, self.session.current
        self.say("pump")
        at, cells = self.cells("Rocker, tail cut angle +1.0°")
        self.assertEqual(cells[4], "once, not kept")  # in the demo workshop
        self.panel.table.selectRow(at)
        QTest.mouseClick(self.panel.do, Qt.MouseButton.LeftButton)
        step = self.session.steps[self.session.current]
        self.assertEqual(step.parent, first)
        self.assertIn("The rider says: The tail drags", step.reason)
        self.assertNotEqual(self.session.board, before)
        self.session.versions.decide(step.id, Decision(verdict="kept", why="lifts off at once", who="Ronja"))
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        self.assertEqual(self.session.board, before)
        self.trigger("edit.redo")
        self.trigger("edit.redo")
        self.trigger("edit.redo")
        self.panel = self.open()
        self.say("pump")
        self.assertEqual(self.cells("Rocker, tail cut angle +1.0°")[1][4], "2 times, 1 kept")

    def test_a_board_that_changes_meanwhile_is_counted_anew(self):
        self.say("pump")
        asked, told = self.panel._board, [w.score for w in self.panel.candidates]
        self.assertTrue(self.window.shape.levers.pull("tail_rocker", "45 mm"))
        self.session.results.settle_now()
        self.wait_for(lambda: self.panel._board != asked and self.panel.candidates, 40)
        self.assertNotEqual([w.score for w in self.panel.candidates], told)
        self.panel.table.selectRow(self.cells("Rocker, tail +5.0 mm")[0])
        lever = next(v for v in levers(self.session.board) if v.key == "tail_rocker")
        now = lever.read(self.session.board)
        QTest.mouseClick(self.panel.do, Qt.MouseButton.LeftButton)
        self.assertAlmostEqual(lever.read(self.session.board), now + 0.005, places=4)
