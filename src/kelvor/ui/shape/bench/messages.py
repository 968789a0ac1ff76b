"""What is said over the bench: a problem told whole, or a note in one line beside the ruler's numbers."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QLabel, QWidget

from kelvor.ui.session.session import Session

if TYPE_CHECKING:
    from kelvor.core.evaluation.live import Live

RULER_WORDS = 96
"""Room for what the ruler counts from [px]."""


class SaidOver(QLabel):
    """Words over the ruler, not above it: a message must not move the drawing under the hand."""

    def __init__(self, session: Session, bench: QWidget) -> None:
        super().__init__(bench)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setObjectName("wrong")
        self.setWordWrap(True)
        self.setAutoFillBackground(True)
        self.setVisible(False)
        self.session = session
        self._bench = bench
        self._problem, self._words = False, ""
        self._said_of: Live | None = None

    def say(self, kind: str, words: str) -> None:
        """Say words, a "problem" or a "note"; without any, what is worth a look about the board."""
        self._said_of = self.session.live if words else None  # it stands until the board moves, whatever arrives
        if not words and (remark := self._remark()):
            kind, words = "note", remark
        self.setVisible(bool(words))
        self._words = words
        self._problem = kind == "problem" and bool(words)
        self.setObjectName("wrong" if kind == "problem" else "quiet")
        self.setToolTip(words)
        self.style().polish(self)
        self.place()

    def follow(self) -> None:
        """The board may have moved: a note about one that is gone gives way, a problem stays."""
        if not self._problem and self._said_of is not self.session.live:
            self.say("note", "")

    def place(self) -> None:
        """A problem is told whole over the ruler; a note stands in one line above its numbers."""
        width = self._bench.width() - 4
        self.setWordWrap(self._problem)
        self.setContentsMargins(*((12, 4, 12, 4) if self._problem else (0, 0, 0, 0)))
        if self._problem:
            self.setText(self._words)
            self.setGeometry(2, 1, width, max(28, self.heightForWidth(width)))
        else:
            room = width - RULER_WORDS
            size = QFontMetrics(self.font())
            self.setText(size.elidedText(self._words, Qt.TextElideMode.ElideRight, room - 8))
            self.setGeometry(RULER_WORDS, 0, room, 17)

    def _remark(self) -> str:
        """What is worth a look about the board, once that is known."""
        if not self.session.started:
            return ""
        from kelvor.ui.shown.panels import finding_remark

        return finding_remark(self.session.results.evaluation.findings, self.session.system)
