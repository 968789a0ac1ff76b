"""A search beside the window: a thread that asks the workers round by round, tells how far it is, and can be stopped
and gone on with.
"""

from __future__ import annotations

import threading
from concurrent.futures import Executor
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from kelvor.core.errors import KelvorError
from kelvor.core.seeking.answer import Answer, answered
from kelvor.core.seeking.asking import trying
from kelvor.core.seeking.engine import State, search
from kelvor.core.seeking.problem import Problem
from kelvor.ui.runner import executor

if TYPE_CHECKING:
    from kelvor.core.subject import Subject


class Seeking(QObject):
    """One search at a time; the newest wins."""

    went = Signal(object)
    """A round is done: its state, from which the search can be gone on with."""
    done = Signal(object, object)
    """It has ended: the problem, and the answer."""
    failed = Signal(str)

    _round = Signal(int, object)
    _ended = Signal(int, object, object)
    _broken = Signal(int, str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._asked = 0
        self._stop = threading.Event()
        self.under_way = False
        self._round.connect(self._told)
        self._ended.connect(self._took)
        self._broken.connect(self._broke)

    def seek(self, subject: Subject, problem: Problem, state: State | None = None) -> None:
        """Begin, or go on from a state."""
        self.stop()
        self._asked += 1
        self._stop = threading.Event()
        self.under_way = True
        arguments = (self._asked, subject, problem, state, self._stop, executor())
        threading.Thread(target=self._run, args=arguments, daemon=True).start()

    def stop(self) -> None:
        """End it after the boards that are being tried; what it came to is told."""
        self._stop.set()

    def forget(self) -> None:
        """End it, and hear nothing more of it."""
        self._asked += 1
        self.under_way = False
        self._stop.set()

    def _run(
        self, asked: int, subject: Subject, problem: Problem, state: State | None, stop: threading.Event, by: Executor
    ) -> None:
        """In the thread: nothing of the window is touched."""
        try:
            evaluate = trying(subject, problem, by, all_by_it=True)
            found = search(problem, evaluate, state, lambda here: self._round.emit(asked, here), stop.is_set)
            self._ended.emit(asked, problem, answered(problem, found, evaluate))
        except KelvorError as error:
            self._say_broken(asked, str(error))
        except Exception as error:
            self._say_broken(asked, f"The search ended: {error}")

    def _say_broken(self, asked: int, words: str) -> None:
        try:
            self._broken.emit(asked, words)
        except RuntimeError:  # the window is gone
            return

    def _told(self, asked: int, state: State) -> None:
        if asked == self._asked:
            self.went.emit(state)

    def _took(self, asked: int, problem: Problem, answer: Answer) -> None:
        if asked == self._asked:
            self.under_way = False
            self.done.emit(problem, answer)

    def _broke(self, asked: int, words: str) -> None:
        if asked == self._asked:
            self.under_way = False
            self.failed.emit(words)
