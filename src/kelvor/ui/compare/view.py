"""Compare: the board on the bench against its reference and the boards laid behind it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.compare.curves import DATUMS, Datum, datum_place
from kelvor.ui.compare.ledger_panel import AskWhere, LedgerPanel
from kelvor.ui.compare.lines_page import LinesPage
from kelvor.ui.compare.overlay import OverPage
from kelvor.ui.compare.phases_page import PhasesPage
from kelvor.ui.compare.prototypes_page import FamilyPage
from kelvor.ui.compare.shown.compare import NOBODY
from kelvor.ui.compare.solid_page import SolidPage
from kelvor.ui.controls.panel import panel, problem_label
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window

LINES, OVER, SOLID, PHASES, FAMILY = range(5)
"""The pages."""


class CompareView(QWidget):
    """Boards over one another at the left; at the right what differs, what to take from it, and what becomes of it."""

    def __init__(self, session: Session, ask_where: AskWhere) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 4)
        row.setSpacing(8)
        self.datum, self._datum_words = QComboBox(), QLabel("Laid together")
        row.addWidget(self._pages(), 17)
        self.ledger = LedgerPanel(session, ask_where, self._where)
        self.ledger.turned.connect(self.refresh)
        row.addWidget(self.ledger, 11)
        for signal in (
            session.live_changed,
            session.settled,
            session.units_changed,
            session.service(RideRequests).ridden,
        ):
            signal.connect(self._renew)
        session.workshop.records_changed.connect(self._renew)
        self.refresh()

    def _pages(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 8, 12, 10)
        self.told = problem_label()
        column.addWidget(self.told)
        self.tabs = QTabWidget()
        session = self.session
        self.lines, self.over, self.solid = LinesPage(session), OverPage(session), SolidPage(session)
        self.phases, self.family = PhasesPage(session), FamilyPage(session)
        self.family.opened.connect(self._open)
        for page, words in (
            (self.lines, "Lines"),
            (self.over, "Over one another"),
            (self.solid, "Solid"),
            (self.phases, "Phases"),
            (self.family, "Prototypes"),
        ):
            self.tabs.addTab(page, words)
        self.datum.setAccessibleName("Laid together at")
        for datum in DATUMS:
            self.datum.addItem(f"at the {datum}", datum)
        self.datum.currentIndexChanged.connect(lambda _: self.refresh())
        self._datum_words.setBuddy(self.datum)
        self._place_datum(LINES)
        self.tabs.currentChanged.connect(self._turned)
        column.addWidget(self.tabs, 1)
        return frame

    def _place_datum(self, page: int) -> None:
        """Where boards are laid together is chosen on the pages that lay them together."""
        bar = {LINES: self.lines.bar, OVER: self.over.bar, SOLID: self.solid.bar}.get(page)
        if bar is not None:
            bar.addWidget(self._datum_words)
            bar.addWidget(self.datum)

    def _turned(self, page: int) -> None:
        self._place_datum(page)
        self.refresh()

    def _where(self) -> Datum:
        return DATUMS[max(self.datum.currentIndex(), 0)]

    def showEvent(self, event: object) -> None:
        """What happened meanwhile is shown when it comes into view."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()

    def _renew(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the boards there are."""
        session, datum = self.session, self._where()
        others = session.overlays.others()
        lacking = [other.name for other in others if datum_place(other.live, datum) is None]
        if datum_place(session.live, datum) is None:
            lacking.insert(0, "the board on the bench")
        self.told.setText(
            NOBODY
            if not others
            else f"No {datum} on {', '.join(lacking)}: not laid over the others."
            if lacking
            else ""
        )
        self.told.setVisible(bool(self.told.text()))
        self.ledger.refresh()
        page = self.tabs.currentIndex()
        if page == LINES:
            self.lines.refresh(datum)
        elif page == OVER:
            self.over.refresh(datum)
        elif page == SOLID:
            self.solid.refresh(self.ledger.chosen(), datum)
        elif page == PHASES:
            self.phases.refresh()
        elif not session.previewing:
            self.family.refresh()

    def _open(self, board: int) -> None:
        try:
            self.session.file.open_board(board)
        except InputError as error:
            self.session.message.emit("problem", str(error))

    def shut(self) -> None:
        """The window closes."""
        self.solid.shut()


def compare_view(window: Window) -> CompareView:
    """The Compare view of a window."""
    return CompareView(window.session, window.files.ask_where)
