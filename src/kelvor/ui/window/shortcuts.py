"""Keys of ours that a text field has a use of its own for: ours win, so that a key does the same everywhere.

Copying and the like are told by nobody here; undoing is the field's as long as something typed into it can be taken
back.
"""

from __future__ import annotations

from collections.abc import Iterable

import shiboken6
from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit, QPlainTextEdit, QTextEdit, QWidget

_TEXT = (QLineEdit, QPlainTextEdit, QTextEdit, QAbstractSpinBox)


class Shortcuts(QObject):
    """Stands before the text field that has the keyboard."""

    def __init__(self, parent: QObject, keys: Iterable[str]) -> None:
        super().__init__(parent)
        self._keys = {QKeySequence(key).toString() for key in keys}
        self._undo, self._redo = QKeySequence("Ctrl+Z").toString(), QKeySequence("Ctrl+Shift+Z").toString()
        self._field: QWidget | None = None
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.focusChanged.connect(self._moved)
        self._moved(None, app.focusWidget())

    def _moved(self, _: QWidget | None, now: QWidget | None) -> None:
        if self._field is not None and shiboken6.isValid(self._field):
            self._field.removeEventFilter(self)
        self._field = now if isinstance(now, _TEXT) else None
        if self._field is not None:
            self._field.installEventFilter(self)

    def eventFilter(self, field: QObject, event: QEvent) -> bool:
        """Leave a key of ours to the window."""
        if event.type() is QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            key = QKeySequence(event.keyCombination()).toString()
            if key in self._keys and not self._typed(field, key):
                event.ignore()
                return True
        return False

    def _typed(self, field: QObject, key: str) -> bool:
        """Whether it takes back or does again what was typed here."""
        line = field.lineEdit() if isinstance(field, QAbstractSpinBox) else field
        if isinstance(line, QLineEdit):
            there = {self._undo: line.isUndoAvailable(), self._redo: line.isRedoAvailable()}
        elif isinstance(line, (QPlainTextEdit, QTextEdit)):
            there = {self._undo: line.document().isUndoAvailable(), self._redo: line.document().isRedoAvailable()}
        else:
            return False
        return there.get(key, False)
