"""The one runner: whatever order jobs end in, only the newest asking is shown, and what fails is said once."""

import contextlib
import io
import random
import socket
import subprocess
import sys
import threading
import time
import unittest
from concurrent.futures import Future
from unittest import mock

from PySide6.QtCore import QObject

from kelvor.core.base.errors import InputError
from kelvor.ui.background import more_machines, runner
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.window.application import make_application

GOING = """
import sys
from concurrent.futures import ThreadPoolExecutor
from PySide6.QtCore import QCoreApplication, QEvent, QObject
from kelvor.ui.background import runner
sys.setswitchinterval(1e-5)
app = QCoreApplication([])
runner._pools.update(dict.fromkeys(runner.COUNTS, ThreadPoolExecutor(4)))
for _ in range(150):
    window = QObject()
    for _ in range(30):
        runner.WorkerQuestion(window, "It", print, failed=print).ask(abs, [(1,)])
    window.deleteLater()
    del window
    app.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    app.processEvents()
runner._pools.clear()
print("still here")
"""
"""Windows that go while threads tell them what was counted: the program itself went with one of the first."""


class Held:
    """A pool in the test's hands: a job ends when the test says so."""

    def __init__(self):
        self.waiting = []

    def submit(self, work, /, *values):
        future = Future()
        self.waiting.append((future, work, values))
        return future

    def end(self, index=0):
        future, work, values = self.waiting.pop(index)
        try:
            future.set_result(work(*values))
        except Exception as error:
            future.set_exception(error)


def doubled(value):
    return 2 * value


def refused(value):
    raise InputError(f"{value} cannot be", where="here", accepts="Give less")


def faulty(value):
    return 1 / (value - value)


class RunnerCase(unittest.TestCase):
    def setUp(self):
        self.app = make_application()
        self.pool, self.holder = Held(), QObject()
        self.enterContext(mock.patch.dict(runner._pools, dict.fromkeys(runner.COUNTS, self.pool), clear=True))
        self.done, self.counts, self.failed, self.threads = [], [], [], set()
        self.asked = WorkerQuestion(
            self.holder,
            "The sum was not counted",
            self._take,
            lambda n, _: self.counts.append(n),
            failed=self.failed.append,
        )

    def _take(self, results):
        self.threads.add(threading.get_ident())
        self.done.append(results)

    def end(self, index=0):
        thread = threading.Thread(target=self.pool.end, args=(index,))  # results come from another thread
        thread.start()
        thread.join()
        self.app.processEvents()


class Running(RunnerCase):
    def test_results_come_in_the_order_of_the_jobs_in_the_windows_thread(self):
        self.asked.ask(doubled, [(i,) for i in range(4)])
        self.assertEqual(len(self.pool.waiting), runner.COUNTS[runner.IDLE])  # no more than there are workers
        while self.pool.waiting:
            self.end(len(self.pool.waiting) - 1)
        self.assertEqual((self.done, self.counts), ([[0, 2, 4, 6]], [1, 2, 3, 4]))
        self.assertEqual(self.threads, {threading.get_ident()})

    def test_what_is_counted_at_once_is_told_after_it_was_asked_for(self):
        ready = Future()
        ready.set_result(2)
        with mock.patch.object(self.pool, "submit", return_value=ready):
            self.asked.ask(doubled, [(1,), (1,)])
            self.assertEqual((self.done, self.counts, self.asked.under_way), ([], [], True))
            self.app.processEvents()
        self.assertEqual(self.done, [[2, 2]])

    def test_what_follows_the_hand_waits_for_nothing_longer(self):
        hand, heard = Held(), []
        quick = WorkerQuestion(
            self.holder, "It was not counted", heard.append, failed=self.failed.append, priority=runner.POINTER
        )
        with mock.patch.dict(runner._pools, {runner.POINTER: hand}):
            self.asked.ask(doubled, [(i,) for i in range(9)])  # all other workers are busy
            quick.ask(doubled, [(21,)])
            self.assertEqual((len(hand.waiting), len(self.pool.waiting)), (1, runner.COUNTS[runner.IDLE]))
            hand.end()
            self.app.processEvents()
        self.assertEqual((heard, self.done), ([[42]], []))
        self.asked.drop()

    def test_what_was_overtaken_or_dropped_is_never_shown(self):
        self.asked.ask(doubled, [(1,), (2,)])
        self.asked.ask(doubled, [(5,)])
        self.assertTrue(self.asked.under_way)
        for _ in range(3):
            self.end()
        self.assertEqual((self.done, self.counts), ([[10]], [1]))
        self.asked.ask(doubled, [(7,)])
        self.asked.drop()
        self.end()
        self.assertEqual(len(self.done), 1)
        self.assertFalse(self.asked.under_way)

    def test_a_worker_passes_over_what_was_overtaken(self):
        """A word typed letter by letter left 26 jobs to be counted one after another."""
        counted = []
        with mock.patch.object(runner, "_newest", [0] * runner.PLACES):
            for letter in range(20):
                self.asked.ask(counted.append, [(letter,), (letter,)])
            while self.pool.waiting:
                self.end()
            self.assertEqual(counted, [19, 19])
            self.assertEqual(len(self.done), 1)
            self.asked.ask(counted.append, [(20,)])
            self.asked.drop()
            self.end()
        self.assertEqual(counted, [19, 19])

    def test_what_fails_is_said_once_and_the_next_asking_goes_on(self):
        self.asked.ask(refused, [(3,), (4,)])
        for _ in range(2):
            self.end()
        self.assertEqual(self.failed, ["The sum was not counted: here: 3 cannot be. Give less."])
        self.assertFalse(self.asked.under_way)
        heard = io.StringIO()
        with contextlib.redirect_stderr(heard):
            self.asked.ask(faulty, [(3,)])
            self.end()
        self.assertEqual(
            self.failed[1:], ["The sum was not counted: something went wrong inside Kelvor, ZeroDivisionError."]
        )
        self.assertIn("Traceback", heard.getvalue())  # a fault of ours can be found
        self.asked.ask(doubled, [(3,)])
        self.end()
        self.assertEqual((self.done, len(self.failed)), ([[6]], 2))

    def test_a_window_that_is_gone_takes_nothing(self):
        self.asked.ask(doubled, [(3,)])
        self.holder.deleteLater()
        del self.asked
        self.app.sendPostedEvents(self.holder, 52)
        self.pool.end()
        self.app.processEvents()
        self.assertEqual(self.done, [])

    def test_windows_that_go_while_results_arrive_do_not_take_the_program_along(self):
        ended = subprocess.run([sys.executable, "-c", GOING], capture_output=True, text=True, check=False)
        self.assertEqual((ended.returncode, ended.stdout.split("\n")[-2]), (0, "still here"), ended.stderr[-500:])

    def test_races_of_askings_and_ends(self):
        """Two hundred askings and ends in any order: every asking that was not overtaken is shown once, and no
        other.
        """
        dice, last, shown = random.Random(5), None, []
        for i in range(200):
            if dice.random() < 0.4:
                last = [(dice.randrange(9) + 10 * i,) for _ in range(dice.randrange(1, 5))]
                self.asked.ask(doubled, last)
            elif self.pool.waiting:
                self.end(dice.randrange(len(self.pool.waiting)))
            if self.done:
                shown.append(self.done.pop())
                self.assertEqual(shown[-1], [2 * value for (value,) in last])
                self.assertEqual(self.done, [])
        while self.pool.waiting:
            self.end()
        self.assertEqual([*shown, *self.done][-1], [2 * value for (value,) in last])
        self.assertEqual(len({tuple(results) for results in shown}), len(shown))


class Elsewhere(RunnerCase):
    def test_counting_goes_to_other_machines_and_files_stay_here(self):
        far = Held()
        with mock.patch.object(runner, "_elsewhere", (far, 5)):
            self.asked.ask(doubled, [(i,) for i in range(9)])
            self.assertEqual((len(far.waiting), len(self.pool.waiting)), (5, 0))
            here = WorkerQuestion(
                self.holder, "The sheet was not written", self._take, failed=self.failed.append, here=True
            )
            here.ask(doubled, [(1,)])
            self.assertEqual(len(self.pool.waiting), 1)

    def test_why_this_machine_works_alone_is_said_once_and_it_works(self):
        with (
            mock.patch.object(runner, "_address", ""),
            mock.patch.object(runner, "_trouble", ""),
        ):
            runner.work_at("tcp://10.0.0.3:8786")
            self.asked.ask(doubled, [(1,)])
            for _ in range(1000):
                if runner._trouble:
                    break
                time.sleep(0.02)
            self.end()
            for _ in range(2):
                self.asked.ask(doubled, [(2,)])
                self.end()
        self.assertEqual(len(self.failed), 1)
        self.assertIn("only over TLS", self.failed[0])
        self.assertEqual(self.done, [[2], [4], [4]])

    def test_who_listens_and_says_nothing_is_not_waited_for(self):
        with socket.create_server(("127.0.0.1", 0)) as silent, mock.patch.object(more_machines, "TIMEOUT", 0.4):
            address = f"tcp://127.0.0.1:{silent.getsockname()[1]}"
            with self.assertRaises(InputError) as caught:
                more_machines.workers_at(address)
        self.assertIn(f"{address}: who listens there says nothing for", str(caught.exception))

    def test_an_address_is_taken_over_tls_or_on_this_machine_only(self):
        for good in ("tls://workshop.example:8786", "tcp://127.0.0.1:8786", "tcp://localhost:1", "tcp://[::1]:8786"):
            self.assertEqual(more_machines.valid_address(good), good)
        for bad, words in (
            ("tcp://192.168.1.4:8786", "only over TLS"),
            ("tcp://localhost.example:8786", "only over TLS"),
            ("http://localhost:8786", "is no address"),
            ("tls://host", "is no address"),
            ("tls://host:port", "is no address"),
            ("host:8786", "is no address"),
        ):
            with self.subTest(bad), self.assertRaises(InputError) as caught:
                more_machines.valid_address(bad)
            self.assertIn(words, str(caught.exception))
