"""Calculations too long for the window's own thread: done beside it one item at a time, dropped when asked anew."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from typing import Any

from PySide6.QtCore import QObject, Signal, SignalInstance


class Background(QObject):
    """Runs the items of an iterator in a thread; the newest asking wins, what it overtook is never shown."""

    _step = Signal(int, object)
    _end = Signal(int, object)

    def __init__(self, parent: QObject, done: Callable[[list[Any]], None], progress: Callable[[int], None]) -> None:
        """`done` takes all items, `progress` how many there are so far; both are called in the window's thread."""
        super().__init__(parent)
        self._thread = ThreadPoolExecutor(1, "kelvor")
        self._asked = 0
        self._items: list[Any] = []
        self._done, self._progress = done, progress
        self._step.connect(self._stepped)
        self._end.connect(self._ended)

    def ask(self, work: Iterator[Any]) -> None:
        """Begin anew; whatever is under way ends after its item."""
        self._asked += 1
        self._items = []
        self._thread.submit(self._run, self._asked, work)

    def drop(self) -> None:
        """Give up what is under way."""
        self._asked += 1

    def _run(self, asked: int, work: Iterator[Any]) -> None:
        failed = None
        try:
            for item in work:
                if asked != self._asked:
                    return
                self._say(self._step, asked, item)
        except Exception as error:
            failed = error
        self._say(self._end, asked, failed)

    def _say(self, signal: SignalInstance, *words: object) -> None:
        with suppress(RuntimeError):  # the window may be gone before its last item is
            signal.emit(*words)

    def _stepped(self, asked: int, item: object) -> None:
        if asked == self._asked:
            self._items.append(item)
            self._progress(len(self._items))

    def _ended(self, asked: int, failed: Exception | None) -> None:
        if asked != self._asked:
            return
        if failed is not None:
            raise failed
        self._done(self._items)
