"""The Family view: which family, and its pages."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.record import Record
from kelvor.ui.families import Families
from kelvor.ui.family.new_family import NewFamilyPanel
from kelvor.ui.family.picture_page import PicturePage
from kelvor.ui.family.sizes_page import SizesPage
from kelvor.ui.session import Session

if TYPE_CHECKING:
    from kelvor.ui.main_window import MainWindow


class FamilyView(QWidget):
    """Pages of one family at a time."""

    def __init__(self, window: MainWindow) -> None:
        super().__init__()
        self._window = window
        self.session: Session = window.session
        self.setObjectName("ground")
        self.families = Families(self.session)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 4)
        column.setSpacing(4)
        self.tabs = QTabWidget()
        self.which = QComboBox()
        self.which.setAccessibleName("Which family")
        self.which.setMinimumWidth(260)
        self.new = QPushButton("New family…")
        self.new.clicked.connect(lambda _=False: self.ask_new())
        row = QHBoxLayout()
        row.addWidget(QLabel("Family"))
        row.addWidget(self.which)
        row.addWidget(self.new)
        row.addStretch(1)
        column.addLayout(row)
        self.sizes = SizesPage(self.session, self.families, self.family)
        self.picture = PicturePage(self.session, self.families, self.family)
        for page, words in ((self.sizes, "Sizes"), (self.picture, "In one picture")):
            self.tabs.addTab(page, words)
        column.addWidget(self.tabs, 1)
        self.tabs.currentChanged.connect(lambda _: self.refresh())
        self.which.currentIndexChanged.connect(lambda _: self.refresh())
        self.families.told.connect(self.refresh)
        self.families.made.connect(self.choose)
        self.sizes.opened.connect(self._open)
        self.session.workshop.records_changed.connect(self.refresh)
        self.session.steps_changed.connect(self.refresh)
        self.session.board_opened.connect(self.refresh)
        self.session.units_changed.connect(self.refresh)

    def showEvent(self, event: QShowEvent) -> None:
        """What happened meanwhile is shown when it comes into view."""
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Show the page that is looked at."""
        if not self.isVisible():
            return
        there = [(r.uid, r.value.name) for r in self.families.all()]
        if there != [(self.which.itemData(i), self.which.itemText(i)) for i in range(self.which.count())]:
            chosen = self.which.currentData()
            self.which.blockSignals(True)
            self.which.clear()
            for uid, name in there:
                self.which.addItem(name, uid)
            self.which.setCurrentIndex(max(0, self.which.findData(chosen)))
            self.which.blockSignals(False)
        self.tabs.currentWidget().refresh()  # type: ignore[attr-defined]

    def family(self) -> Record | None:
        """The chosen family."""
        return next((r for r in self.families.all() if r.uid == self.which.currentData()), None)

    def choose(self, uid: str) -> None:
        """Choose a family."""
        self.refresh()
        self.which.setCurrentIndex(self.which.findData(uid))

    def ask_new(self) -> NewFamilyPanel:
        """Ask for a new family of the board on the bench."""
        panel = NewFamilyPanel(self, self.session, self.families)
        self._window.dialogs.show(panel)
        return panel

    def _open(self, board_id: int) -> None:
        def go(window: MainWindow) -> None:
            self.session.file.open_board(self.session.workshop.saving.ids(board_id))
            window.show_view("shape")

        self._window.guarded(go)


def family_view(window: MainWindow) -> FamilyView:
    """The Family view of a window."""
    return FamilyView(window)
