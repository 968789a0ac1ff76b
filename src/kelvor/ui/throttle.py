"""Run now, then at most every so often; the last call wins."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QElapsedTimer, QObject, QTimer


class Throttle(QObject):
    """Calls `work` at once, and during a burst at most every `interval` ms; the burst's last call is always done."""

    def __init__(self, parent: QObject, interval: int, work: Callable[[], None]) -> None:
        super().__init__(parent)
        self._work = work
        self._since = QElapsedTimer()
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(interval)
        self._timer.timeout.connect(self._run)

    def call(self) -> None:
        """Ask for the work."""
        if not self._since.isValid() or self._since.elapsed() >= self._timer.interval():
            self._run()
        elif not self._timer.isActive():
            self._timer.start()

    def _run(self) -> None:
        self._since.start()
        self._work()
