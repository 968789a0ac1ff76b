"""A search beside the window: a thread that asks the workers round by round, tells how far it is, and can be stopped
and gone on with.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.values import frozen
from kelvor.core.seek.answer import Answer, rounded_answer
from kelvor.core.seek.engine import State, search
from kelvor.core.seek.problem import SeekProblem
from kelvor.core.seek.trade import Trade, trade_off
from kelvor.core.seek.typed_demands import trying
from kelvor.ui.background.cross_thread import Mailbox
from kelvor.ui.background.runner import executor

if TYPE_CHECKING:
    from kelvor.core.evaluation.subject import Subject

Tell = Callable[[object], None]
Stop = Callable[[], bool]
Work = Callable[[Tell, Stop], object]


@frozen(eq=False)
class _Mail:
    """Where the thread leaves how far it is, what it came to, and why it ended."""

    rounds: Mailbox
    found: Mailbox
    broken: Mailbox


def _run(mail: _Mail, asked: int, problem: SeekProblem, work: Work, stop: threading.Event) -> None:
    """In the thread: nothing of the window is touched."""
    try:
        mail.found.leave(asked, problem, work(lambda here: mail.rounds.leave(asked, here), stop.is_set))
    except KelvorError as error:
        mail.broken.leave(asked, str(error))
    except Exception as error:
        mail.broken.leave(asked, f"The search ended: {error}")


class Seeking(QObject):
    """One search at a time; the newest wins."""

    went = Signal(object)
    """How far it is: a state from which a search can be gone on with, or points found and of how many."""
    done = Signal(object, object)
    """It has ended: the problem, and the answer or the curve."""
    failed = Signal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._asked = 0
        self._stop = threading.Event()
        self.under_way = False
        self._mail = _Mail(Mailbox(self._told), Mailbox(self._took), Mailbox(self._broke))

    def seek(self, subject: Subject, problem: SeekProblem, state: State | None = None) -> None:
        """Begin to seek the least change, or go on from a state."""

        def work(tell: Tell, stop: Stop) -> Answer:
            evaluate = trying(subject, problem, by, all_by_it=True)
            return rounded_answer(problem, search(problem, evaluate, state, tell, stop), evaluate)

        by = executor()
        self._start(problem, work)

    def trade(self, subject: Subject, problem: SeekProblem, also: tuple[str, ...]) -> None:
        """Begin a trade-off curve, its boards told with the figures in `also`."""

        def work(tell: Tell, stop: Stop) -> Trade:
            evaluate = trying(subject, problem, by, all_by_it=True, also=also)
            return trade_off(problem, evaluate, told=lambda found, of: tell((found, of)), stop=stop)

        by = executor()
        self._start(problem, work)

    def _start(self, problem: SeekProblem, work: Work) -> None:
        self.stop()
        self._asked += 1
        self._stop = threading.Event()
        self.under_way = True
        threading.Thread(target=_run, args=(self._mail, self._asked, problem, work, self._stop), daemon=True).start()

    def stop(self) -> None:
        """End it after the boards that are being tried; what it came to is told."""
        self._stop.set()

    def forget(self) -> None:
        """End it, and hear nothing more of it."""
        self._asked += 1
        self.under_way = False
        self._stop.set()

    def _told(self, asked: int, here: object) -> None:
        if asked == self._asked:
            self.went.emit(here)

    def _took(self, asked: int, problem: SeekProblem, found: object) -> None:
        if asked == self._asked:
            self.under_way = False
            self.done.emit(problem, found)

    def _broke(self, asked: int, words: str) -> None:
        if asked == self._asked:
            self.under_way = False
            self.failed.emit(words)
