"""Tables as wide as their words, keys that work everywhere, work on other machines asked for."""

import os
from unittest import mock

from PySide6.QtCore import QEvent, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
)

from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.hand_out.dialog import HandOutDialog
from kelvor.ui.window import views as registry
from kelvor.ui.window.finder import Finder
from tests.ui.case import WindowCase


class OtherMachines(WindowCase):
    def setUp(self):
        self.enterContext(mock.patch.dict("os.environ", {"KELVOR_WORKERS": "tcp://127.0.0.1:8786"}))
        self.sent = self.enterContext(mock.patch("kelvor.ui.background.runner.work_at"))
        self.enterContext(mock.patch("kelvor.ui.background.workers_dialog.work_at", self.sent))
        super().setUp()

    def test_an_address_is_asked_for_once_and_nothing_is_sent_before(self):
        dialog = self.window.dialogs.shown[-1]
        told = " ".join(label.text() for label in dialog.findChildren(QLabel))
        self.assertIn("tcp://127.0.0.1:8786", told)
        self.assertIn("can do here all that you can", told)
        self.assertEqual(self.sent.mock_calls, [])
        dialog.do.click()
        self.assertEqual(self.sent.mock_calls, [mock.call("tcp://127.0.0.1:8786")])
        self.window.dialogs.shown.clear()
        self.window.dialogs.work_elsewhere()  # the next start
        self.assertEqual(self.window.dialogs.shown, [])
        self.assertEqual(len(self.sent.mock_calls), 2)
        os.environ["KELVOR_WORKERS"] = "tcp://127.0.0.1:9999"
        self.window.dialogs.work_elsewhere()
        refuse = next(b for b in self.window.dialogs.shown[-1].findChildren(QPushButton) if "alone" in b.text())
        refuse.click()
        self.assertEqual(self.sent.mock_calls[2:], [mock.call("")])
        self.window.dialogs.shown.clear()
        self.window.dialogs.work_elsewhere()
        self.assertEqual((self.window.dialogs.shown, len(self.sent.mock_calls)), ([], 3))


class Tables(WindowCase):
    def test_columns_are_as_wide_as_their_words_however_often_they_are_filled(self):
        table = figures_table(("Measure", "Read", "Verdict"))
        table.show()
        for longest in ("short", "a name of a measure that is longer than any other of its column"):
            rows = [(f"row {i}", f"{i}.0 cm", "") for i in range(120)]
            rows[77] = (longest, "12 345.6 cm", "")
            fill_table(table, rows)
            self.assertEqual([table.item(77, j).text() for j in range(2)], [longest, "12 345.6 cm"])
            for j in range(2):
                widest = max(table.fontMetrics().horizontalAdvance(row[j]) for row in rows)
                self.assertGreater(table.columnWidth(j), widest)
                self.assertLess(table.columnWidth(j), widest + 60)
        table.selectRow(77)
        fill_table(table, rows[:90])
        self.assertEqual((table.rowCount(), table.currentRow()), (90, 77))
        table.close()

    def test_no_table_measures_all_its_cells_at_each_one_that_is_set(self):
        """Qt's ResizeToContents did: 3 000 logged days took seven minutes."""
        for view in registry.VIEWS:
            self.window.show_view(view.key)
        tables = self.window.findChildren(QTableWidget)
        self.assertGreater(len(tables), 15)
        for table in tables:
            header = table.horizontalHeader()
            modes = {header.sectionResizeMode(k) for k in range(header.count())}
            self.assertNotIn(QHeaderView.ResizeMode.ResizeToContents, modes, table.accessibleName())


class Keys(WindowCase):
    def test_our_keys_win_over_a_text_fields_own(self):
        """On X11 Ctrl+E, Ctrl+K and Ctrl+U are end, cut and clear of a line to a text field: this one takes any key."""

        class Greedy(QLineEdit):
            def event(self, event):
                if event.type() is QEvent.Type.ShortcutOverride:
                    event.accept()
                    return True
                return super().event(event)

        field = Greedy(self.window)
        field.show()
        system = self.session.system
        for key, kind in ((Qt.Key.Key_U, None), (Qt.Key.Key_K, Finder), (Qt.Key.Key_E, HandOutDialog)):
            field.setFocus()
            QTest.keyClicks(field, "half typed")
            self.key(field, key, Qt.KeyboardModifier.ControlModifier)
            if kind is not None:
                self.assertIsInstance(self.window.dialogs.shown[-1], kind)
                self.window.dialogs.shown[-1].close()
                self.window.activateWindow()
                self.app.processEvents()
        self.assertIsNot(self.session.system, system)
        self.assertEqual(field.text(), "half typed" * 3)

    def test_undo_is_the_fields_while_it_can_take_back_what_was_typed(self):
        self.shape.levers.pull("volume", "41")
        steps = self.session.current
        field = QLineEdit(self.window)
        field.setAccessibleName("Try")
        field.show()
        field.setFocus()
        QTest.keyClicks(field, "abc")
        self.key(field, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual((field.text(), self.session.current), ("", steps))
        self.key(field, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertNotEqual(self.session.current, steps)
