"""Seek, driven as a designer would: targets typed, levers ticked, the answer read, made a version, taken back."""

import shiboken6
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.figures import by_key
from kelvor.core.live import evaluate_live
from tests.ui.case import WindowCase


class Seek(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("board.seek")
        self.panel = self.window.dialogs.shown[-1]
        for i in range(self.panel.targets.count()):
            self.panel.targets.item(i).setCheckState(Qt.CheckState.Unchecked)

    def tearDown(self):
        for panel in self.window.dialogs.shown:
            if shiboken6.isValid(panel):
                panel.close()
        super().tearDown()

    def ask(self, *targets, hold=""):
        for words in targets:
            self.panel.typed.setFocus()
            QTest.keyClicks(self.panel.typed, words)
            QTest.keyClick(self.panel.typed, Qt.Key.Key_Return)
        self.panel.hold.clear()
        QTest.keyClicks(self.panel.hold, hold)

    def move(self, *labels):
        for i in range(self.panel.levers.rowCount()):
            item = self.panel.levers.item(i, 0)
            item.setCheckState(Qt.CheckState.Checked if item.text() in labels else Qt.CheckState.Unchecked)

    def seek(self):
        QTest.mouseClick(self.panel.do, Qt.MouseButton.LeftButton)

    def wait_for_answer(self):
        self.wait_for(lambda: not self.panel.seeking.under_way and self.panel.answer is not None)

    def test_two_targets_are_met_made_a_version_with_reasons_and_taken_back(self):
        before, first = self.session.board, self.session.current
        self.ask("volume >= 40 L", "mass <= 2.68 kg", hold="length")
        self.move("Max width", "Thickness, Centre", "Rocker, Tail", "Length")
        self.seek()
        self.wait_for_answer()
        self.assertEqual(self.panel.head.text(), "Met, by the least change.")
        self.assertRegex(self.panel.lines.text(), r"Thickness, centre 8\.7 cm → 9\.\d cm: for volume")
        self.assertIn("Length: 145.5 cm (held)", self.panel.lines.text())
        QTest.mouseClick(self.panel.make, Qt.MouseButton.LeftButton)
        figures = by_key(evaluate_live(self.session.board, self.session.brief).figures)
        self.assertGreaterEqual(figures["volume"].value, 0.03995)
        self.assertLessEqual(figures["mass"].value, 2.685)
        self.assertAlmostEqual(self.session.board.length, before.length, places=4)
        self.assertIn("40.0 L", self.ledger("volume").value)  # what the strip shows is what was found
        step = self.session.steps[self.session.current]
        self.assertEqual(step.parent, first)
        self.assertIn("for volume", step.reason)
        while self.session.board != before:  # the reason, then the version
            self.trigger("edit.undo")
        self.assertEqual(self.session.current, first)

    def test_what_stands_in_the_way_is_said_and_bad_words_keep_what_was_typed(self):
        self.ask("volume >= 60 L", "mass <= 2.7 kg")
        self.move("Max width")
        self.seek()
        self.wait_for_answer()
        self.assertIn("The nearest it comes", self.panel.head.text())
        self.assertRegex(
            self.panel.lines.text(), r"no further than 55\.2 cm; 1\.0 cm beyond would buy 0\.\d L of volume"
        )
        self.ask("volume about 3")
        self.assertIn("volume about 3", self.panel.problem.text())
        self.assertEqual(self.panel.typed.text(), "volume about 3")
        self.seek()
        self.assertFalse(self.panel.seeking.under_way)  # nothing is sought past what was typed
        self.panel.typed.clear()
        self.move()
        self.seek()
        self.assertIn("nothing may move", self.panel.problem.text().lower())
        self.move("Max width")
        low = self.panel.levers.item(1, 2)
        low.setText("wide")
        self.seek()
        self.assertIn("wide", self.panel.problem.text())

    def test_a_search_that_is_stopped_or_cut_off_is_gone_on_with(self):
        self.ask("volume >= 40 L", "mass <= 2.68 kg")
        self.move("Max width", "Thickness, Centre", "Rocker, Tail")
        states = []
        self.panel.seeking.went.connect(states.append)
        self.panel.seeking.went.connect(lambda _: len(states) == 2 and self.panel.close())
        self.seek()
        self.wait_for(lambda: len(states) == 2)
        self.app.processEvents()
        self.trigger("board.seek")
        self.panel = self.window.dialogs.shown[-1]
        self.assertTrue(self.panel.go_on.isVisible())
        tried = []
        self.panel.seeking.went.connect(lambda state: tried.append(state.tried))
        QTest.mouseClick(self.panel.go_on, Qt.MouseButton.LeftButton)
        self.wait_for_answer()
        self.assertEqual(self.panel.head.text(), "Met, by the least change.")
        self.assertGreater(tried[0], states[0].tried)  # not from the beginning
        self.assertFalse(self.panel.go_on.isVisible())
