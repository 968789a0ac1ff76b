"""Counting beside the window: the newest asking wins, faults are seen, and the thread is not the window's."""

import sys
import threading
import time
import unittest

from PySide6.QtCore import QObject

from kelvor.ui.application import make_application
from kelvor.ui.background import Background


class Counting(unittest.TestCase):
    def setUp(self):
        self.app = make_application()
        self.done, self.counts = [], []
        self.holder = QObject()
        self.background = Background(self.holder, self.done.append, self.counts.append)

    def wait_for(self, condition, seconds=10.0):
        end = time.monotonic() + seconds
        while not condition() and time.monotonic() < end:
            self.app.processEvents()
            time.sleep(0.002)
        self.assertTrue(condition())

    def test_all_items_arrive_in_order_in_the_windows_thread(self):
        threads = set()

        def work():
            for i in range(5):
                threads.add(threading.get_ident())
                yield i

        self.background.ask(work())
        self.wait_for(lambda: self.done)
        self.assertEqual(self.done, [[0, 1, 2, 3, 4]])
        self.assertEqual(self.counts, [1, 2, 3, 4, 5])
        self.assertNotIn(threading.get_ident(), threads)

    def test_the_newest_asking_wins_and_the_older_one_stops(self):
        gate, made = threading.Event(), []

        def slow():
            for i in range(100):
                made.append(i)
                yield i
                gate.wait(10)

        self.background.ask(slow())
        self.wait_for(lambda: made)
        self.background.ask(iter("ab"))
        gate.set()
        self.wait_for(lambda: self.done)
        self.assertEqual(self.done, [["a", "b"]])
        self.assertLess(len(made), 4)

    def test_dropped_work_is_never_shown(self):
        gate = threading.Event()

        def slow():
            yield 1
            gate.wait(10)
            yield 2

        self.background.ask(slow())
        self.background.drop()
        gate.set()
        self.background._thread.shutdown(wait=True)
        self.app.processEvents()
        self.assertEqual((self.done, self.counts), ([], []))

    def test_a_fault_beside_the_window_is_seen_in_it(self):
        seen, before = [], sys.excepthook
        sys.excepthook = lambda kind, error, trace: seen.append(error)
        try:
            self.background.ask(1 / (i - 2) for i in range(4))
            self.wait_for(lambda: seen)
        finally:
            sys.excepthook = before
        self.assertIsInstance(seen[0], ZeroDivisionError)
        self.assertEqual(self.done, [])
        self.background.ask(iter([7]))
        self.wait_for(lambda: self.done)

    def test_a_window_that_is_gone_takes_nothing(self):
        gate = threading.Event()

        def slow():
            gate.wait(10)
            yield 1

        thread = self.background._thread
        self.background.ask(slow())
        self.holder.deleteLater()
        del self.background
        self.app.sendPostedEvents(self.holder, 52)
        gate.set()
        thread.shutdown(wait=True)
        self.app.processEvents()
        self.assertEqual(self.done, [])
