"""Saving: one queue for everything a window puts into the workshop file, in order; what the disk refuses waits here."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from PySide6.QtCore import QObject, QTimer, Signal

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import admitted, field_problems
from kelvor.workshop.opening import FileHeld
from kelvor.workshop.store import Store
from kelvor.workshop.writes import Ids, KeepCards, LeaveAt, Write

T = TypeVar("T")

AGAIN_HELD_MS = 250
"""A file that another program holds is tried again this soon."""
AGAIN_MS = 4000
"""Any other trouble is looked at again this often: a disk may have room, a file be back."""


class Saving(QObject):
    """The queue of writes of one window. It never drops one: a write leaves it when it is on the disk."""

    changed = Signal()
    """Something began to wait, or waits no longer."""
    cleaned = Signal(str)
    """Signs that cannot be shown were taken out of something, which is named."""

    def __init__(self, parent: QObject, store: Store, written: Callable[[Write, Any], None]) -> None:
        """`written` is told each write that is on the disk, and what came of it."""
        super().__init__(parent)
        self.ids = Ids()
        self.trouble: InputError | None = None
        """Why the first write waits."""
        self._store, self._written = store, written
        self._queue: list[Write] = []
        self.done: list[Write] = []
        """Everything this window wrote since it opened the file."""
        self._held_back = False
        self._told = (0, "")
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.save)

    @property
    def waiting(self) -> list[Write]:
        """What somebody did that is not on the disk. Where a window stands is remembered, but nobody's work."""
        return [write for write in self._queue if not isinstance(write, LeaveAt)]

    def everything(self) -> list[Write]:
        """All that waits, in order."""
        return list(self._queue)

    def waits(self, kind: type | tuple[type, ...]) -> bool:
        """Whether a write of a kind waits."""
        return any(isinstance(write, kind) for write in self._queue)

    def admitted(self, value: T, what: str, before: T | None = None) -> T:
        """A value as the file takes it, before a window shows it: signs that cannot be shown are taken out, which is
        said. Raises InputError where a field is outside what it can be; a text that an older Kelvor kept longer
        `before` may stay so.
        """
        longer = before is not None and any(problem.bearable for problem in field_problems(before))
        found = admitted(value, what, bearable=longer)
        if found is not value:
            self.cleaned.emit(what)
        return found

    def put(self, write: Write) -> None:
        """Write it, now or as soon as the disk takes it; raises InputError like :meth:`admitted`, and forgets it
        then: nothing waits that the file would never take.
        """
        if not isinstance(write, KeepCards):  # counted here; nobody wrote it
            write = admitted(write, write.words, bearable=True)
        if isinstance(write, LeaveAt) and self._queue and isinstance(self._queue[-1], LeaveAt) and not self._held_back:
            self._queue.pop()
        self._queue.append(write)
        if isinstance(self.trouble, FileHeld) and self._timer.isActive():
            self._tell()  # it was held a moment ago, and is soon tried again
        else:
            self._drain()

    def save(self) -> bool:
        """Try again what waits; True when nothing does any more."""
        self._drain()
        return not self.waiting

    def hold_back(self, held: bool) -> None:
        """Keep what comes in the queue while the file is being copied, or go on."""
        self._held_back = held
        if not held:
            self._drain()

    def follow(self, store: Store, ids: Ids, written: int) -> None:
        """From now on into another file, in which the first `written` of what waited are already."""
        self._store, self.ids, self.done = store, ids, []
        del self._queue[:written]
        self.trouble = None
        self.hold_back(False)
        if not self._queue:  # ids of the file before mean nothing any more
            self.ids = Ids({key: real for key, real in ids.items() if key < 0})

    def give_up(self) -> None:
        """Let go of what waits: somebody said so."""
        self._queue.clear()
        self._drain()

    def rest(self) -> None:
        """Try nothing again by itself any more."""
        self._timer.stop()

    def _drain(self) -> None:
        while self._queue and not self._held_back:
            write = self._queue[0]
            try:
                result = write.into(self._store, self.ids)
            except InputError as error:
                self.trouble = error
                self._timer.start(AGAIN_HELD_MS if isinstance(error, FileHeld) else AGAIN_MS)
                break
            self.trouble = None
            self._queue.pop(0)
            if not isinstance(write, LeaveAt):
                self.done.append(write)
            self._written(write, result)
        else:
            self._timer.stop()
        self._tell()

    def _tell(self) -> None:
        now = (len(self.waiting), str(self.trouble or ""))
        if now != self._told:
            self._told = now
            self.changed.emit()

    def words(self) -> str:
        """What waits and why, as a sentence or two."""
        waiting, trouble = self.waiting, self.trouble
        if not waiting or trouble is None:
            return ""
        more = f" and {len(waiting) - 1} more" if len(waiting) > 1 else ""
        what = f"{waiting[0].words}{more}"
        verb = "wait" if more else "waits"
        if isinstance(trouble, FileHeld):
            return f"Another program holds the file: {what} {verb} here, and Kelvor tries again by itself."
        return f"Not saved: {trouble.what}. {what[0].upper()}{what[1:]} {verb} in this window. {trouble.accepts}."
