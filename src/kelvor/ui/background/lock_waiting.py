"""Waiting for a lock: reading a file that another program holds goes on when it is let go; no window stands still."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, SignalInstance

from kelvor.core.base.errors import KelvorError
from kelvor.ui.background.timers import single_shot
from kelvor.workshop.opening import FileHeld

TRY_EVERY_MS = 120
"""Reading is tried again this often."""


class LockWait(QObject):
    """One wish at a time: the newest counts."""

    def __init__(self, parent: QObject, message: SignalInstance) -> None:
        """`message` takes them as :attr:`Session.message` does."""
        super().__init__(parent)
        self._message = message
        self._wish: Callable[[], None] | None = None
        self._timer = single_shot(self, TRY_EVERY_MS, self._again)

    def when_free(self, work: Callable[[], None]) -> None:
        """Do it now, or when the file is let go; raises what `work` raises for other reasons."""
        self.stop()
        try:
            work()
        except FileHeld:
            self._wish = work
            self._timer.start()
            self._message.emit("note", "Another program holds the file. Waiting for it … (Escape stops waiting)")

    def stop(self) -> bool:
        """Give up waiting; whether somebody was."""
        waited, self._wish = self._wish is not None, None
        self._timer.stop()
        if waited:
            self._message.emit("note", "")
        return waited

    def _again(self) -> None:
        wish = self._wish
        if wish is None:
            return
        try:
            wish()
        except FileHeld:
            self._timer.start()
            return
        except KelvorError as error:
            self._message.emit("problem", str(error))
        else:
            self._message.emit("note", "")
        self._wish = None
