"""A window on the demo workshop, driven as a designer would; one application for all tests."""

import shutil
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

import shiboken6
from PySide6.QtCore import QCoreApplication, QEvent, QEventLoop, QPoint, QPointF, Qt, QTimer, qInstallMessageHandler
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from kelvor.core.evaluation import evaluation, live
from kelvor.core.tank.floating import stage
from kelvor.ui.background import runner
from kelvor.ui.ride import ride_requests
from kelvor.ui.session import slow_results
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import LIGHT
from kelvor.ui.theme.style import apply_theme
from kelvor.ui.window.application import make_application, make_window
from kelvor.workshop.store import Store
from tests.support import demo_at
from tests.ui.inline import Inline, kept_float, kept_geometry, kept_stiffness

NEVER = 10**7
_HARMLESS = ("propagateSizeHints", "This plugin does not support")
_warnings: list[str] = []


def _heard(kind, context, message):
    if not any(words in message for words in _HARMLESS):
        _warnings.append(message)


class WindowCase(unittest.TestCase):
    """`window`, `session`, `bench` on a fresh copy of the demo; a test that makes Qt warn fails.

    What the window asks of its workers is counted beside it once a process; a class about the workers sets
    `real_workers`. A board settles (float, stiffness, ride) when a test says so; a class about what follows by itself
    sets `settles`, one about what coefficients leave open in the bands `banded`, one that looks at rides `rides`.
    """

    real_workers = False
    settles = False
    banded = False
    rides = False

    @classmethod
    def setUpClass(cls):
        cls.app = make_application()
        qInstallMessageHandler(_heard)
        apply_theme(cls.app, LIGHT)
        runner.close_workers()
        if not cls.settles:
            cls.enterClassContext(mock.patch.object(slow_results, "SETTLE_AFTER_MS", NEVER))
        if not cls.banded:
            cls.enterClassContext(mock.patch.object(ride_requests, "BANDS_AFTER_MS", NEVER))
        if not cls.real_workers:
            runner._pools.update({priority: Inline(cls.rides) for priority in runner.COUNTS})
            cls.enterClassContext(mock.patch.object(evaluation, "float_stage", kept_float))
            cls.enterClassContext(mock.patch.object(evaluation, "stiffness_stage", kept_stiffness))
            cls.enterClassContext(mock.patch.object(live, "geometry", kept_geometry))
            cls.enterClassContext(mock.patch.object(stage, "FINE", stage.COARSE))  # window and core alike

    @classmethod
    def tearDownClass(cls):
        runner.close_workers()

    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.path = self.folder / "demo.kelvor"
        demo_at(self.path)
        _warnings.clear()
        self.window = self.open_window()
        self.session, self.shape, self.bench = self.window.session, self.window.shape, self.window.shape.bench

    def open_window(self):
        window = make_window(Store.open(self.path), Settings(self.folder / "settings.json"))
        window.resize(1280, 800)
        window.show()
        window.activateWindow()
        self.app.processEvents()
        window.session.finish_start()  # by itself after its first picture; see StartPath
        return window

    def tearDown(self):
        for panel in self.window.findChildren(QLineEdit, "typed"):
            panel.deleteLater()
        self.window.close()
        self.session.workshop.store.close()
        self.window.deleteLater()
        QCoreApplication.sendPostedEvents(self.window, QEvent.Type.DeferredDelete)
        self.app.processEvents()
        self.assertEqual([w for w in QApplication.topLevelWidgets() if w.isVisible()], [], "a window was left open")
        shutil.rmtree(self.folder, ignore_errors=True)
        self.assertEqual(_warnings, [])

    def close_panels(self):
        """Small windows that are open close."""
        for panel in self.window.dialogs.shown:
            if shiboken6.isValid(panel):
                panel.close()

    # hands

    def mouse(self, widget, kind, x, y, button=Qt.MouseButton.LeftButton, modifiers=Qt.KeyboardModifier.NoModifier):
        held = Qt.MouseButton.NoButton if kind is QEvent.Type.MouseButtonRelease else button
        point = QPointF(x, y)
        event = QMouseEvent(kind, point, QPointF(widget.mapToGlobal(point.toPoint())), button, held, modifiers)
        QCoreApplication.sendEvent(widget, event)

    def drag(self, widget, start, *path, release=True, modifiers=Qt.KeyboardModifier.NoModifier):
        """Press at `start`, move along `path` (points), release at its end."""
        self.mouse(widget, QEvent.Type.MouseButtonPress, start.x(), start.y(), modifiers=modifiers)
        for point in path:
            self.mouse(widget, QEvent.Type.MouseMove, point.x(), point.y(), modifiers=modifiers)
        if release:
            self.mouse(widget, QEvent.Type.MouseButtonRelease, path[-1].x(), path[-1].y(), modifiers=modifiers)
        self.app.processEvents()

    def key(self, widget, key, modifiers=Qt.KeyboardModifier.NoModifier, times=1):
        for _ in range(times):
            QTest.keyClick(widget, key, modifiers)
        self.app.processEvents()

    def click(self, widget, x, y):
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(round(x), round(y)))
        self.app.processEvents()

    def type_over(self, holder, words):
        """Type into the open editor of `holder` and press Enter."""
        editors = [e for e in holder.findChildren(QLineEdit, "typed") if e.isVisible()]
        self.assertEqual(len(editors), 1)
        editor = editors[0]
        editor.selectAll()
        QTest.keyClicks(editor, words)
        QTest.keyClick(editor, Qt.Key.Key_Return)
        self.app.processEvents()
        return editor

    def trigger(self, key):
        self.window.actions_by_key[key].trigger()
        self.app.processEvents()

    def wait_for(self, condition, seconds=20.0):
        end = time.monotonic() + seconds
        waking = QTimer()  # what is no event of ours, such as a process that ends, is looked at again
        waking.start(15)
        while not condition() and time.monotonic() < end:
            self.app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
        self.assertTrue(condition())

    # eyes

    def ledger(self, key):
        return next(row for row in self.shape.ledger.rows() if row.key == key)

    def lever_text(self, key):
        return self.shape.levers.row(key).value

    def problem(self):
        return self.shape.problem.text() if self.shape.problem.isVisible() else ""

    def tape_words(self):
        return self.window.tape.words.toolTip()
