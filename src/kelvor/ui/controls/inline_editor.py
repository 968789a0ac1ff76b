"""A value typed over where it stands: Enter or leaving takes it, Escape gives it up, nonsense stays to be mended."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QWidget
from shiboken6 import isValid

from kelvor.ui.theme.style import font


class TypedOver(QLineEdit):
    """An editor over a value. `typed` is asked with the words and says whether they could be used."""

    def __init__(self, holder: QWidget, name: str, shown: str, place: QRect, typed: Callable[[str], None]) -> None:
        super().__init__(shown, holder)
        self.setObjectName("typed")
        self.setAccessibleName(name)
        self.setFont(font(13, 600))
        self.setGeometry(place)
        self._before, self._typed, self._closed = shown, typed, False
        self.selectAll()
        self.show()
        self.setFocus()

    def take(self) -> None:
        """Use what was typed; unchanged words change nothing, so nothing can drift."""
        if self._closed:
            return
        if self.text() == self._before:
            self.put_away()
        else:
            self._typed(self.text())

    def accept_typed(self, ok: bool) -> None:
        """Close after words that could be used, or stay open to be mended."""
        if ok:
            self.put_away()
        else:
            self.setProperty("wrong", "true")
            self.style().polish(self)
            self.setFocus()

    def put_away(self) -> None:
        """Close, and give the keyboard back."""
        if not self._closed:
            self._closed = True
            self.hide()
            holder = self.parentWidget()
            if holder is not None:
                holder.setFocus()
            self.deleteLater()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter takes, Escape gives up."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.take()
        elif event.key() == Qt.Key.Key_Escape:
            self.put_away()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving takes what was typed, unless it waits to be mended."""
        super().focusOutEvent(event)
        if self.property("wrong") != "true":
            self.take()


class TypingHolder:
    """A widget over which one value at a time can be typed."""

    _editor: TypedOver | None = None

    def accept_typed(self, ok: bool) -> None:
        """Close the typed value, or keep it open to be mended."""
        if self._editor is not None:
            self._editor.accept_typed(ok)
            self._editor = None if ok else self._editor

    def close_typing(self) -> None:
        """Put the typed value away."""
        if self._editor is not None and isValid(self._editor):
            self._editor.put_away()
        self._editor = None
