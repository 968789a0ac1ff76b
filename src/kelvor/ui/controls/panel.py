"""The sheets of paper that every view lays out, and their titles."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetricsF, QResizeEvent
from PySide6.QtWidgets import QFrame, QLabel, QPushButton, QSizePolicy, QWidget

from kelvor.ui.theme.style import font


def panel() -> QFrame:
    """A sheet of paper."""
    frame = QFrame()
    frame.setObjectName("panel")
    return frame


def plain_tip(words: str) -> str:
    """Words for a tip, which takes what looks like markup for markup."""
    import html

    return f"<span>{html.escape(words, quote=False)}</span>" if "<" in words else words


def plain_label(parent: QWidget | None = None) -> QLabel:
    """A label for words that somebody typed or a file said: shown as they are, never taken for markup, and cut rather
    than widening the window.
    """
    label = QLabel(parent) if parent is not None else QLabel()
    label.setTextFormat(Qt.TextFormat.PlainText)
    label.setMinimumWidth(1)
    return label


def problem_label() -> QLabel:
    """Plain words of what is wrong, over as many lines as they need."""
    label = plain_label()
    label.setObjectName("wrong")
    label.setWordWrap(True)
    return label


def caution_label(words: str) -> QLabel:
    """A caution under what it is about, small, over as many lines as it needs."""
    label = plain_label()
    label.setText(words)
    label.setObjectName("quiet")
    label.setFont(font(12))
    label.setWordWrap(True)
    return label


def undo_button(take_back: Callable[[], None]) -> QPushButton:
    """A button that takes back what was done last, in a window of its own."""
    button = QPushButton("Undo")
    button.setAutoDefault(False)
    button.setToolTip("Takes back what was done last (Ctrl+Z)")
    button.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
    button.clicked.connect(take_back)
    return button


class Elided(QLabel):
    """A line of plain words that gives way where there is no room for it; the tip tells it whole."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._words = ""

    def set_words(self, words: str) -> None:
        """Show other words."""
        self._words = words
        self.setToolTip(plain_tip(words))
        self._fit()

    def words(self) -> str:
        """All of them."""
        return self._words

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Words take the room there is."""
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = max(60, self.width())
        self.setText(QFontMetricsF(self.font()).elidedText(self._words, Qt.TextElideMode.ElideRight, room))


def heading(words: str) -> QLabel:
    """A panel's title."""
    label = plain_label()
    label.setText(words)
    label.setFont(font(14, 700))
    return label
