"""What threads tell the window: left at an object that never goes, handed on to whom it is for while they are there.

A thread that told an object of the window itself could do so in the moment in which that goes, and take the program
along: whether it is still there can only be asked in the window's thread.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from itertools import count
from typing import Any
from weakref import WeakMethod

import shiboken6
from PySide6.QtCore import QObject, Qt, Signal

_numbers = count()
_takers: dict[int, WeakMethod[Callable[..., None]]] = {}


class _CrossThread(QObject):
    """The one object that threads tell; it stays as long as the program."""

    left = Signal(int, object)

    def __init__(self) -> None:
        super().__init__()
        # queued, so that what is left at once is not taken while it is still being asked for
        self.left.connect(self._hand_on, Qt.ConnectionType.QueuedConnection)

    def _hand_on(self, number: int, values: tuple[Any, ...]) -> None:
        method = _takers.get(number)
        take = None if method is None else method()
        if take is not None and shiboken6.isValid(getattr(take, "__self__", None)):
            take(*values)


@cache
def _letters() -> _CrossThread:
    return _CrossThread()


class Mailbox:
    """Where threads leave what `take`, a method of an object of the window, is to be called with."""

    def __init__(self, take: Callable[..., None]) -> None:
        """Made in the window's thread."""
        self._number = number = next(_numbers)
        _takers[number] = WeakMethod(take, lambda _: _takers.pop(number, None))
        self._left = _letters().left

    def leave(self, *values: Any) -> None:
        """Leave something, from any thread; it is taken in the window's thread, or by nobody."""
        self._left.emit(self._number, values)
