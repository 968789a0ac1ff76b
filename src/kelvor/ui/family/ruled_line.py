"""The line above the drawing while a board is under a class rule; what it limits, and notes, go to the bench."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from kelvor.ui.session.session import Session
from kelvor.ui.shape.bench.picture import BenchPicture
from kelvor.ui.theme.style import font


class RuledLine(QLabel):
    """How the board stands to its class rule, what is broken first; not there without one."""

    def __init__(self, session: Session, bench: BenchPicture) -> None:
        super().__init__()
        self.session, self.bench = session, bench
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setVisible(False)
        self.setContentsMargins(14, 4, 14, 2)
        self.setFont(font(12, 600))

    def refresh(self) -> None:
        """Show how the board on the bench stands now."""
        session, registers = self.session, self.session.workshop.registers
        before = self.bench.limits, self.bench.notes
        self.bench.limits, self.bench.notes = (), ()
        if registers.of("note"):
            from kelvor.ui.shape.notes import Notes

            self.bench.notes = Notes(session).findings()
        shown = False
        if registers.of("entered"):
            from kelvor.ui.family.class_rules import ClassRules
            from kelvor.ui.family.shown.class_rules import rule_line_words

            found = ClassRules(session).here()
            if found is not None:
                rule, stands = found
                self.bench.limits, shown = rule.limits, True
                self.setText(rule_line_words(rule, stands, session.system))
                self.setObjectName("wrong" if stands.met is False else "quiet")
                self.style().polish(self)
        self.setVisible(shown)
        if before != (self.bench.limits, self.bench.notes):
            self.bench.update()
