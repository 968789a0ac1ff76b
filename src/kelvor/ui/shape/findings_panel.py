"""What is worth a look on the board: what, where, and what would do; a click shows the place."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session
from kelvor.ui.shape.notes import Notes
from kelvor.ui.shown.panels import finding_lines
from kelvor.ui.theme.style import font


class FindingsPanel(Panel):
    """Warnings first, then notes, each with its place and its advice; it follows the board."""

    guide = "first-steps#the-window"

    def __init__(self, parent: QWidget, session: Session, show: Callable[[float], None]) -> None:
        super().__init__(parent, "Worth a look", "")
        self.session, self._show = session, show
        self.list = QListWidget()
        self.list.setAccessibleName("What is worth a look, from the most serious")
        self.list.setFont(font(13))
        self.list.setWordWrap(True)
        self.list.setSpacing(2)
        self.list.setMinimumSize(540, 190)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemClicked.connect(self._go)
        self.list.itemActivated.connect(self._go)
        self.column.insertWidget(1, self.list)
        session.settled.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        session.workshop.records_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show what there is."""
        at = self.list.currentRow()
        self.list.clear()
        found = (*self.session.results.evaluation.findings, *Notes(self.session).findings())
        for words, place in finding_lines(found, self.session.system):
            item = QListWidgetItem(words)
            item.setData(Qt.ItemDataRole.UserRole, place)
            self.list.addItem(item)
        if not self.list.count():
            self.list.addItem("Nothing: the board closes, its lines run on, and all that is fitted clears.")
        self.list.setCurrentRow(max(0, min(at, self.list.count() - 1)))

    def _go(self, item: QListWidgetItem) -> None:
        place = item.data(Qt.ItemDataRole.UserRole)
        if place is not None:
            self._show(float(place))
