"""Run soon, and at most every so often; the last call wins."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QElapsedTimer, QObject, QTimer


class Throttle(QObject):
    """Calls `work` once what is happening is done and painted, during a burst at most every `interval` ms; the last
    call is always done.
    """

    def __init__(self, parent: QObject, interval: int, work: Callable[[], None]) -> None:
        super().__init__(parent)
        self._work, self._interval = work, interval
        self._since = QElapsedTimer()
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._run)

    def call(self) -> None:
        """Ask for the work."""
        if not self._timer.isActive():
            wait = self._interval - self._since.elapsed() if self._since.isValid() else 0
            self._timer.start(max(0, wait))

    def _run(self) -> None:
        self._since.start()
        self._work()
