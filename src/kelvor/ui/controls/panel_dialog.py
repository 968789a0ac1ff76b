"""A small window beside the work that asks for a few things and does one."""

from __future__ import annotations

from collections.abc import Callable
from typing import ClassVar

from PySide6.QtWidgets import (
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.ui.controls.panel import plain_label, problem_label
from kelvor.ui.theme.style import font


class Panel(QDialog):
    """A small window with a title, a place for a problem, and one thing to do."""

    guide: ClassVar[str] = ""
    """The place in the guide that tells of it; the view's beneath it where it has none of its own."""

    def __init__(self, parent: QWidget, title: str, do: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setModal(False)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(18, 16, 18, 14)
        self.column.setSpacing(10)
        words = QLabel(title)
        words.setFont(font(15, 700))
        self.column.addWidget(words)
        self.form = QFormLayout()
        self.form.setSpacing(8)
        self.column.addLayout(self.form)
        self.problem = problem_label()
        self.problem.setMinimumWidth(320)
        self.column.addWidget(self.problem)
        row = QHBoxLayout()
        if self.guide:
            row.addWidget(self._guide_button())
        row.addStretch(1)
        self.close_button = QPushButton("Close")
        self.close_button.setAutoDefault(False)
        self.close_button.clicked.connect(self.close)
        row.addWidget(self.close_button)
        self.do = QPushButton(do)
        self.do.setDefault(True)
        self.do.clicked.connect(self._do)
        self.do.setVisible(bool(do))
        row.addWidget(self.do)
        self.column.addLayout(row)
        self._row_below = row

    def _guide_button(self) -> QPushButton:
        """Leads to this panel's place in the guide, as F1 does."""
        found = QPushButton("?")
        found.setAccessibleName("Guide")
        found.setToolTip("What the guide says of this (F1)")
        found.setFixedWidth(30)
        found.setAutoDefault(False)
        found.clicked.connect(lambda _: self._open_guide())
        return found

    def _open_guide(self) -> None:
        window = self.parentWidget()
        while window is not None and not hasattr(window, "dialogs"):
            window = window.parentWidget()
        if window is not None:
            window.dialogs.guide(self.guide)

    def button(self, words: str, do: Callable[[], None]) -> QPushButton:
        """Another thing to do, beside the first."""
        found = QPushButton(words)
        found.setAutoDefault(False)
        found.clicked.connect(lambda _: do())
        self._row_below.insertWidget(self._row_below.count() - 1, found)
        return found

    def _do(self) -> None:
        try:
            if self.act():
                self.close()
        except KelvorError as error:
            self.problem.setText(str(error))

    def act(self) -> bool:
        """What the button does; True closes the window."""
        return True

    def explain(self, words: str, row: int = 1) -> None:
        """Quiet words above what is asked for, or at another row."""
        label = plain_label()
        label.setObjectName("quiet")
        label.setWordWrap(True)
        label.setText(words)
        self.column.insertWidget(row, label)

    def field(self, words: str, shown: str) -> QLineEdit:
        """A line to type."""
        field = QLineEdit(shown)
        field.setAccessibleName(words)
        self.form.addRow(words, field)
        return field
