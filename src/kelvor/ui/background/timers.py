"""Timers that fire once."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer


def single_shot(owner: QObject, interval: int, call: Callable[[], None]) -> QTimer:
    """A timer of `owner` that calls once when it was started `interval` milliseconds ago."""
    timer = QTimer(owner)
    timer.setSingleShot(True)
    timer.setInterval(interval)
    timer.timeout.connect(call)
    return timer
