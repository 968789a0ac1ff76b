"""The Family view: which family, and its pages."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.register.kinds.family import ClassRule
from kelvor.core.register.record import Record
from kelvor.ui.family.families import Families
from kelvor.ui.family.new_family import NewFamilyPanel
from kelvor.ui.family.options_page import OptionsPage
from kelvor.ui.family.papers import FamilyPapers
from kelvor.ui.family.picture_page import PicturePage
from kelvor.ui.family.rider_sizes_page import CHART, HEADS, RiderSizesPage
from kelvor.ui.family.rules_page import RulePanel, RulesPage
from kelvor.ui.family.shown.class_rules import CAUTION
from kelvor.ui.family.shown.options import CAUTION as OPTIONS_CAUTION
from kelvor.ui.family.shown.rider_sizes import CAUTION as WHOM_CAUTION
from kelvor.ui.family.sizes_page import SizesPage
from kelvor.ui.session.session import Session

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window


class FamilyView(QWidget):
    """Pages of one family at a time."""

    def __init__(self, window: Window) -> None:
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
        self.rules = RulesPage(self.session, self.families, self.family)
        self.options = OptionsPage(self.session, self.families, self.family)
        self.whom = RiderSizesPage(self.session, self.families, self.family)
        self.papers = FamilyPapers(window)
        for page, words in (
            (self.sizes, "Sizes"),
            (self.picture, "In one picture"),
            (self.rules, "Class rules"),
            (self.options, "Options"),
            (self.whom, "For whom"),
        ):
            self.tabs.addTab(page, words)
        column.addWidget(self.tabs, 1)
        self.tabs.currentChanged.connect(lambda _: self.refresh())
        self.which.currentIndexChanged.connect(lambda _: self.refresh())
        self.families.told.connect(self.refresh)
        self.families.made.connect(self.choose)
        self.sizes.opened.connect(self._open)
        self.rules.edit_asked.connect(self.edit_rule)
        self.rules.file_asked.connect(self._rule_file)
        self.rules.sheet_asked.connect(self._rule_sheet)
        self.options.print_asked.connect(self._matrix)
        self.whom.print_asked.connect(self._chart)
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

    def edit_rule(self, record: Record | None) -> RulePanel:
        """Type a class rule: a new one, or one anew."""
        panel = RulePanel(self, self.session, self.rules.rules_, record, self.rules.choose_rule)
        self._window.dialogs.show(panel)
        return panel

    def _rule_file(self, which: str, record: Record | None) -> None:
        if which == "read":
            self.papers.read_rule(self.rules.rules_)
        elif record is not None:
            self.papers.write_rule(record)

    def _rule_sheet(self, told: tuple[ClassRule, list[tuple[str, ...]], list[tuple[str, str]]]) -> None:
        from kelvor.exchange.paper import Chapter

        rule, margins, quotas = told
        days = ", ".join(
            w for w in (rule.source, rule.since and f"from {rule.since}", rule.until and f"until {rule.until}") if w
        )
        chapters = [Chapter("Margins", days, margins, (200, 150, 160), ("Limit", "Board", "Margin"))]
        if quotas:
            chapters.append(Chapter("Quotas", "", quotas, (220, 290), ("Quota", "Boards")))
        self.papers.ask(f"Rule sheet: {rule.name}", f"{rule.name} rule sheet", chapters, CAUTION)

    def _matrix(self, told: tuple[tuple[str, ...], list[tuple[str, ...]], list[tuple[str, ...]], str]) -> None:
        from kelvor.exchange.paper import Chapter

        heads, rows, stock, stocked = told
        wide = (110, 110, *(290 / max(len(heads) - 2, 1),) * (len(heads) - 2))
        plain = [tuple(cell.replace("\n", ", ") for cell in row) for row in rows]
        chapters = [Chapter("Options", "", plain, wide, heads), Chapter(stocked, "", stock, (330, 180), ("Thing", ""))]
        family = self.family()
        name = family.value.name if family is not None else self.session.board.name
        self.papers.ask(f"Options of {name}", f"{name} options", chapters, OPTIONS_CAUTION)

    def _chart(self, told: tuple[str, list[tuple[str, ...]], list[tuple[str, ...]]]) -> None:
        from kelvor.exchange.paper import Chapter

        head, rows, chart = told
        family = self.family()
        name = family.value.name if family is not None else self.session.board.name
        chapters = [Chapter(head, "", rows, (110, 50, 80, 110, 160), HEADS)] if head else []
        chapters.append(Chapter("Size chart", "", chart, (60, 150, 150, 150), CHART))
        self.papers.ask(f"Which board: {name}", f"{name} size chart", chapters, WHOM_CAUTION)

    def _open(self, board_id: int) -> None:
        def go(window: Window) -> None:
            self.session.file.open_board(self.session.workshop.saving.ids(board_id))
            window.show_view("shape")

        self._window.guarded(go)


def family_view(window: Window) -> FamilyView:
    """The Family view of a window."""
    return FamilyView(window)
