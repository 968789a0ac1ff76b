"""The one runner of long work: jobs for worker processes.

What is asked anew drops what was asked before. Results arrive in the window's thread, failures as a sentence. A worker
that dies is replaced, and all of them end with the window. What follows the hand (float, stiffness, ride) has a worker
of its own, so that nothing longer stands in its way.
"""

from __future__ import annotations

import os
import threading
import time
import traceback
from collections.abc import Callable, Sequence
from contextlib import suppress
from functools import partial
from itertools import count
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject

from kelvor.core.base.errors import KelvorError
from kelvor.ui.background.cross_thread import Mailbox

if TYPE_CHECKING:
    from concurrent.futures import Executor, Future, ProcessPoolExecutor
    from multiprocessing.process import BaseProcess

POINTER, IDLE = "pointer", "idle"
COUNTS = {POINTER: 1, IDLE: 2}
"""Workers for what follows the hand, and for all else."""
TIMEOUT = 0.7
"""What a worker is at when the window closes may take this long to end by itself [s]."""
PLACES = 1 << 14
"""So many kinds of question are told apart."""
_newest: Any = None
"""The newest asking of each kind, shared with the workers: what waits in a pool cannot be taken out of it, but passed
over.
"""
_places, _askings = count(), count(1)
_pools: dict[str, ProcessPoolExecutor] = {}
"""The workers, as far as they have been asked: one set for all windows of the process."""
_elsewhere: tuple[Executor, int] | None = None
"""Workers on other machines, and how many jobs they take at once."""
_trouble = ""
"""Why there are none, until that is said."""
_address = ""
"""Where they are."""


def _begin(newest: Any) -> None:
    """In the worker: be nice to the window, and end when it does, however it ends."""
    import multiprocessing

    global _newest  # noqa: PLW0603 - of the worker, shared with the window
    _newest = newest

    with suppress(OSError):
        os.nice(5)
    window = multiprocessing.parent_process()
    if window is not None:
        threading.Thread(target=_end_with, args=(window,), daemon=True).start()


def _unless_overtaken(place: int, asking: int, work: Callable[..., Any], *job: Any) -> Any:
    """In the worker: a job of an asking that is still the newest of its kind; nothing of any other."""
    return work(*job) if _newest is None or _newest[place] == asking else None


def _end_with(window: BaseProcess) -> None:
    window.join()
    os._exit(0)


def _workers(priority: str) -> ProcessPoolExecutor:
    global _newest  # noqa: PLW0603 - one for all workers
    if priority not in _pools:
        import multiprocessing  # loaded after the first picture
        from concurrent.futures import ProcessPoolExecutor

        # workers on small matrices: threads of a linear algebra library would only be in each other's way
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        os.environ["PYTHONSAFEPATH"] = "1"  # a worker imports nothing that lies in the folder somebody stands in
        spawn = multiprocessing.get_context("spawn")
        if _newest is None:
            _newest = spawn.Array("Q", PLACES, lock=False)
        _pools[priority] = ProcessPoolExecutor(COUNTS[priority], spawn, _begin, (_newest,))
    return _pools[priority]


def work_at(address: str) -> None:
    """Send work to the scheduler at an address as soon as it answers, or nowhere; somebody has said so."""
    global _address  # noqa: PLW0603 - one pool for all windows of the process
    if address != _address:
        _leave_elsewhere()
        _address = address
        if address:
            threading.Thread(target=_connect, args=(address,), daemon=True).start()


def _connect(address: str) -> None:
    global _address, _elsewhere, _trouble  # noqa: PLW0603 - one pool for all windows of the process
    from kelvor.ui.background.more_machines import workers_at

    try:
        found = workers_at(address)
    except KelvorError as error:
        _trouble = f"This machine works alone: {error}"
        if address == _address:
            _address = ""  # to be tried again on somebody's word
        return
    if address == _address:
        _elsewhere = found
    else:
        found[0].shutdown(wait=False)


def _leave_elsewhere() -> None:
    global _address, _elsewhere
    if _elsewhere is not None:
        _elsewhere[0].shutdown(wait=False)
    _address, _elsewhere = "", None


def workers_started() -> bool:
    """Whether worker processes run, or begin to."""
    return bool(_pools)


def close_workers() -> None:
    """End the worker processes, whatever they are at, within a second; the next question starts new ones."""
    _leave_elsewhere()
    for priority in tuple(_pools):
        _close(priority)


def _close(priority: str) -> None:
    pool = _pools.pop(priority, None)
    if pool is None:
        return
    workers = list((getattr(pool, "_processes", None) or {}).values())
    pool.shutdown(wait=not workers, cancel_futures=True)
    end = time.monotonic() + TIMEOUT
    for worker in workers:
        worker.join(max(0.0, end - time.monotonic()))
        if worker.is_alive():  # files are written whole or not at all
            worker.terminate()


def executor() -> Executor:
    """What runs many small jobs for a thread of the window: workers elsewhere where there are some, else those here."""
    return _workers(IDLE) if _elsewhere is None else _elsewhere[0]


class WorkerQuestion(QObject):
    """One kind of question to the workers: several jobs, of which the newest asking wins."""

    def __init__(
        self,
        parent: QObject,
        words: str,
        done: Callable[[list[Any]], None],
        progress: Callable[[int, Any], None] | None = None,
        *,
        failed: Callable[[str], None],
        here: bool = False,
        priority: str = IDLE,
    ) -> None:
        """What is asked for, in words that begin a sentence; all are called in the window's thread.

        What writes or reads files is done `here`, never on another machine, and so is what has a `priority` of its own.
        `done` takes all results in the order of the jobs; `progress` how many there are, and the newest; `failed` a
        sentence, once an asking: what was there before stays.
        """
        super().__init__(parent)
        self._words, self._done, self._progress, self._failed = words, done, progress, failed
        self._here, self._priority = here or priority != IDLE, priority
        self._place, self._asked = next(_places) % PLACES, 0
        self._question: tuple[Callable[..., Any], Sequence[tuple[Any, ...]]] | None = None
        self._work: Callable[..., Any] | None = None
        self._jobs: Sequence[tuple[Any, ...]] = ()
        self._sent = 0
        self._results: dict[int, Any] = {}
        self._mail = Mailbox(self._take)

    @property
    def under_way(self) -> bool:
        """Whether results are still awaited."""
        return len(self._results) < len(self._jobs)

    @property
    def counted(self) -> int:
        """How many results have arrived."""
        return len(self._results)

    @property
    def jobs(self) -> int:
        """How many jobs the newest asking has."""
        return len(self._jobs)

    def ask(self, work: Callable[..., Any], jobs: Sequence[tuple[Any, ...]]) -> None:
        """Begin anew with one call of `work` for each of `jobs`; asked once more should a worker die over it."""
        self._question = work, jobs
        self._send(work, jobs)

    def _send(self, work: Callable[..., Any], jobs: Sequence[tuple[Any, ...]]) -> None:
        self.drop()
        self._work, self._jobs = work, jobs
        elsewhere = 0 if self._elsewhere() is None or _elsewhere is None else _elsewhere[1]
        for _ in range(max(COUNTS[self._priority], elsewhere)):
            self._send_next()

    def _elsewhere(self) -> Executor | None:
        """Workers on other machines, for what may go there; why there are none is said once."""
        global _trouble
        if self._here:
            return None
        if _trouble:
            words, _trouble = _trouble, ""
            self._failed(words)
        return None if _elsewhere is None else _elsewhere[0]

    def _send_next(self) -> None:
        """Give the workers one job more. What waits is kept here: a pool that breaks over a cancelled job
        never mends.
        """
        if self._work is None or self._sent >= len(self._jobs):
            return
        from concurrent.futures.process import BrokenProcessPool

        index = self._sent
        self._sent += 1
        far = self._elsewhere()
        if far is not None:
            far.submit(self._work, *self._jobs[index]).add_done_callback(partial(self._mail.leave, self._asked, index))
            return
        here = self._place, self._asked, self._work, *self._jobs[index]
        pool = _workers(self._priority)
        self._tell_workers()
        try:
            future = pool.submit(_unless_overtaken, *here)
        except BrokenProcessPool:  # a worker was killed: begin with new ones
            _close(self._priority)
            future = _workers(self._priority).submit(_unless_overtaken, *here)
        future.add_done_callback(partial(self._mail.leave, self._asked, index))

    def drop(self) -> None:
        """Give up what is under way; what a worker has begun it ends, unheard, and what waits it passes over."""
        self._asked = next(_askings)
        self._tell_workers()
        self._work, self._jobs, self._sent, self._results = None, (), 0, {}

    def _tell_workers(self) -> None:
        if _newest is not None:
            _newest[self._place] = self._asked

    def _take(self, asked: int, index: int, future: Future[Any]) -> None:
        if asked != self._asked or future.cancelled():
            return
        from concurrent.futures.process import BrokenProcessPool

        try:
            self._results[index] = future.result()
        except BrokenProcessPool:
            again, self._question = self._question, None
            if again is None:  # twice over the same question: it would only kill the next worker too
                self._fail("the process that worked on it ended twice")
            else:
                self._send(*again)
            return
        except KelvorError as error:
            self._fail(str(error))
            return
        except Exception as error:  # a fault of ours: told once, and its trace where faults are looked for
            traceback.print_exception(error)
            self._fail(f"something went wrong inside Kelvor, {type(error).__name__}")
            return
        self._send_next()
        if self._progress is not None:
            self._progress(len(self._results), self._results[index])
        if not self.under_way:
            self._done([self._results[i] for i in range(len(self._jobs))])

    def _fail(self, why: str) -> None:
        self.drop()
        self._failed(f"{self._words}: {why.rstrip('.')}.")
