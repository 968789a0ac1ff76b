"""Keep, drop or park: a line for the reason and three buttons."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kelvor.core.register.record import Verdict
from kelvor.ui.controls.panel import Elided

CHOICES: tuple[tuple[Verdict, str, str], ...] = (
    ("kept", "Keep", "It is gone on with"),
    ("dropped", "Drop", "It is not gone on with; it stays in the rack"),
    ("parked", "Park", "Not now"),
)


class DecideRow(QWidget):
    """A reason and a verdict. Whoever shows it clears `why` once that is written down."""

    decided = Signal(str)
    """“kept”, “dropped” or “parked” was pressed."""

    def __init__(self, words: str = "Decide") -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.label = Elided()
        self.label.setObjectName("group")
        self.label.set_words(words)
        column.addWidget(self.label)
        self.why = QLineEdit()
        self.why.setAccessibleName("Why")
        self.why.setPlaceholderText("why")
        column.addWidget(self.why)
        row = QHBoxLayout()
        self.verdicts: dict[Verdict, QPushButton] = {}
        for verdict, name, tip in CHOICES:
            button = QPushButton(name)
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, key=verdict: self.decided.emit(key))
            row.addWidget(button)
            self.verdicts[verdict] = button
        column.addLayout(row)
