"""The sheets of paper that every view lays out, and their titles."""

from __future__ import annotations

from PySide6.QtWidgets import QFrame, QLabel

from kelvor.ui.theme.style import font


def panel() -> QFrame:
    """A sheet of paper."""
    frame = QFrame()
    frame.setObjectName("panel")
    return frame


def heading(words: str) -> QLabel:
    """A panel's title."""
    label = QLabel(words)
    label.setFont(font(14, 700))
    return label
