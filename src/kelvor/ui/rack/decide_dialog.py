"""What became of a version: kept, dropped or parked, why, and by whom."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QWidget

from kelvor.core.base.limits import text_of, typed_name
from kelvor.core.history.steps import Step
from kelvor.core.register.kinds.words import Decision
from kelvor.core.register.record import Verdict
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.rack.shown.rack import MARKS
from kelvor.ui.session.session import Session


class DecideDialog(Panel):
    """Verdict, why and who; what was decided before can be changed here."""

    guide = "keep#steps"

    def __init__(self, parent: QWidget, session: Session, step: Step, verdict: Verdict | None = None) -> None:
        super().__init__(parent, f"Decide on version {step.number}", "Decide")
        self.session, self._step = session, step.id
        before = session.workshop.registers.decision(step.id)
        value = before.value if before is not None else Decision()
        self.verdict = QComboBox()
        self.verdict.setAccessibleName("Decision")
        for key, words in MARKS.items():
            self.verdict.addItem(words, key)
        self.verdict.setCurrentIndex(self.verdict.findData(verdict or value.verdict))
        self.form.addRow("It is", self.verdict)
        self.why = self.field("Why", value.why)
        self.why.setMinimumWidth(420)
        self.why.setCursorPosition(0)
        self.who = self.field("Who decides", value.who)

    def act(self) -> bool:
        """Write it down."""
        why = typed_name(self.why.text(), "Why", text_of(Decision, "why"))
        who = typed_name(self.who.text(), "Who decides", text_of(Decision, "who"))
        self.session.versions.decide(self._step, Decision(verdict=self.verdict.currentData(), why=why, who=who))
        return True
