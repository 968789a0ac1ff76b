"""Compare: the board on the bench against its reference and the boards laid behind it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QPushButton, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.compare.adopting import ZONES, Zone, adopted
from kelvor.core.compare.curves import DATUMS, Datum, place_of, slide
from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.compare.sent import ledger_job
from kelvor.core.compare.words import first_words
from kelvor.core.errors import InputError, KelvorError, RefusedEdit
from kelvor.core.limits import named, text_of
from kelvor.core.live import Live, evaluate_live
from kelvor.core.record import Decision, Verdict
from kelvor.core.shape.checks import check_geometry
from kelvor.ui.bench.shown import Shown
from kelvor.ui.compare.family_page import FamilyPage
from kelvor.ui.compare.felt_dialog import FeltDialog
from kelvor.ui.compare.gathered import sent_boards
from kelvor.ui.compare.lines_page import LinesPage
from kelvor.ui.compare.overlay import Laid, OverlayView
from kelvor.ui.compare.phases_page import PhasesPage
from kelvor.ui.presenters.compare import ZONE_WORDS, gave, ledger_lines, taken_title, taken_words
from kelvor.ui.presenters.rack import MARKS
from kelvor.ui.runner import Asked
from kelvor.ui.session import Session
from kelvor.ui.widgets.decide_row import DecideRow
from kelvor.ui.widgets.panel import heading, panel, plain_label
from kelvor.ui.widgets.rows import RowsView

if TYPE_CHECKING:
    from kelvor.ui.main_window import MainWindow
    from kelvor.ui.solid.solid_view import SolidView

LINES, OVER, SOLID, PHASES, FAMILY = range(5)
"""The pages."""
THROUGH = "In colour {} stands out of the board on the bench, white it lies inside, speckled they are alike."
AskWhere = Callable[[str, str, str, Callable[[Path], object]], None]
NOBODY = "Nothing to compare with yet: choose boards in the rack and press Compare, or make a version the reference."


class CompareView(QWidget):
    """Boards over one another at the left; at the right what differs, what to take from it, and what becomes of it."""

    def __init__(self, session: Session, ask_where: AskWhere) -> None:
        """`ask_where` asks for a file, given a title, kinds and a name, and calls back with its path."""
        super().__init__()
        self.session, self._ask_where = session, ask_where
        self._writing = Asked(
            self,
            "The page was not written",
            lambda paths: session.said.emit("note", f"Page written: {paths[0]}"),
            failed=partial(session.said.emit, "problem"),
        )
        self._known: tuple[tuple[object, ...], list[Difference]] | None = None
        self._asked = Asked(
            self,
            "What explains the difference was not found",
            self._explained,
            failed=partial(session.said.emit, "problem"),
        )
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 4)
        row.setSpacing(8)
        row.addWidget(self._shown_panel(), 17)
        row.addWidget(self._told_panel(), 11)
        for signal in (session.live_changed, session.settled, session.units_changed, session.riding.ridden):
            signal.connect(self._renew)
        session.workshop.records_changed.connect(self._renew)
        self.refresh()

    def _shown_panel(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 8, 12, 10)
        self.told = plain_label()
        self.told.setObjectName("wrong")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.tabs = QTabWidget()
        self.lines_page, self.overlay, self.phases = LinesPage(self.session), OverlayView(), PhasesPage(self.session)
        self.curve, self.lines, self.parts = self.lines_page.curve, self.lines_page.lines, self.lines_page.parts
        self.overlay.taken_out.told = self.session.said.emit
        over = QWidget()
        inside = QVBoxLayout(over)
        inside.setContentsMargins(0, 4, 0, 0)
        self.matching = QComboBox()
        self.matching.setAccessibleName("Sections match")
        self.matching.addItem("as far from where they are laid together", False)
        self.matching.addItem("at the same share of the length", True)
        self.matching.currentIndexChanged.connect(lambda _: self.refresh())
        self._over_bar = bar = QHBoxLayout()
        bar.addWidget(QLabel("Sections"))
        bar.addWidget(self.matching)
        bar.addStretch(1)
        inside.addLayout(bar)
        inside.addWidget(self.overlay, 1)
        self.family = FamilyPage(self.session)
        self.family.opened.connect(self._open)
        pages = (
            (self.lines_page, "Lines"),
            (over, "Over one another"),
            (self.phases, "Phases"),
            (self.family, "Family"),
        )
        for page, words in pages:
            self.tabs.addTab(page, words)
        self.solid: SolidView | None = None
        self._solid_page, self._solid_bar = QWidget(), QHBoxLayout()
        self._solid_column = QVBoxLayout(self._solid_page)
        self._solid_column.setContentsMargins(0, 4, 0, 0)
        self._solid_words = QLabel()
        self._solid_words.setObjectName("quiet")
        self._solid_bar.addWidget(self._solid_words, 1)
        self._solid_column.addLayout(self._solid_bar)
        self.tabs.insertTab(2, self._solid_page, "Solid")
        self.datum = QComboBox()
        self.datum.setAccessibleName("Laid together at")
        for datum in DATUMS:
            self.datum.addItem(f"at the {datum}", datum)
        self.datum.currentIndexChanged.connect(lambda _: self.refresh())
        self._datum_words = QLabel("Laid together")
        self._datum_words.setBuddy(self.datum)
        self._place_datum(0)
        self.tabs.currentChanged.connect(self._turned)
        column.addWidget(self.tabs, 1)
        return frame

    def _told_panel(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(14, 10, 14, 10)
        top = QHBoxLayout()
        top.addWidget(heading("What differs"))
        top.addStretch(1)
        self.felt = QPushButton("What is felt…")
        self.felt.setToolTip("The least difference of each lever that your riders feel: the ledger is in its order")
        self.felt.clicked.connect(lambda _=False: self.ask_felt())
        top.addWidget(self.felt)
        column.addLayout(top)
        self.other = QComboBox()
        self.other.setAccessibleName("Compared with")
        self.other.currentIndexChanged.connect(lambda _: self.refresh())
        column.addWidget(self.other)
        self.first = plain_label()
        self.first.setWordWrap(True)
        column.addWidget(self.first)
        self.rows = RowsView("Ledger of differences", value_share=1.6)
        column.addWidget(self.rows, 1)
        label = plain_label()
        label.setObjectName("group")
        label.setText("Take a part of it onto the board on the bench")
        column.addWidget(label)
        row = QHBoxLayout()
        self.zone = QComboBox()
        self.zone.setAccessibleName("Part to take")
        for zone in ZONES:
            self.zone.addItem(ZONE_WORDS[zone], zone)
        self.take = QPushButton("Take it on")
        self.take.setToolTip("One step on the board on the bench; Ctrl+Z takes it back")
        self.take.clicked.connect(lambda _=False: self.take_on())
        row.addWidget(self.zone, 1)
        row.addWidget(self.take)
        column.addLayout(row)
        self.taken = plain_label()
        self.taken.setWordWrap(True)
        self.taken.setObjectName("quiet")
        self.taken.setVisible(False)
        column.addWidget(self.taken)
        self.deciding = DecideRow()
        self.deciding.decided.connect(self.decide)
        column.addWidget(self.deciding)
        row = QHBoxLayout()
        self.page = QPushButton("Page to hand over…")
        self.page.setToolTip("What changed and why, what will be felt, overlays to scale: PDF, or the overlays as SVG")
        self.page.clicked.connect(lambda _=False: self.ask_page())
        self.with_rider = QCheckBox("with rider and place")
        row.addWidget(self.page)
        row.addWidget(self.with_rider)
        row.addStretch(1)
        column.addLayout(row)
        return frame

    def _place_datum(self, page: int) -> None:
        """Where boards are laid together is chosen on the pages that lay them together."""
        bar = {LINES: self.lines_page.bar, OVER: self._over_bar, SOLID: self._solid_bar}.get(page)
        if bar is not None:
            bar.addWidget(self._datum_words)
            bar.addWidget(self.datum)

    def _turned(self, page: int) -> None:
        self._place_datum(page)
        self.refresh()

    # showing

    def showEvent(self, event: object) -> None:
        """What happened meanwhile is shown when it comes into view."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()

    def _renew(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the boards there are."""
        session = self.session
        others = session.others()
        datum: Datum = DATUMS[max(self.datum.currentIndex(), 0)]
        lacking = [other.name for other in others if place_of(other.live, datum) is None]
        if place_of(session.live, datum) is None:
            lacking.insert(0, "the board on the bench")
        self.told.setText(
            NOBODY
            if not others
            else f"No {datum} on {', '.join(lacking)}: not laid over the others."
            if lacking
            else ""
        )
        self.told.setVisible(bool(self.told.text()))
        page = self.tabs.currentIndex()
        if page == LINES:
            self.lines_page.refresh(datum)
        elif page == OVER:
            self._lay_over(others, datum)
        elif page == SOLID:
            self._lay_through()
        elif page == PHASES:
            self.phases.refresh()
        elif not session.previewing:
            self.family.refresh()
        names = [other.name for other in others]
        if [self.other.itemText(i) for i in range(self.other.count())] != names:
            self.other.blockSignals(True)
            self.other.clear()
            self.other.addItems(names)
            self.other.blockSignals(False)
        self._show_ledger()

    def _lay_over(self, others: tuple[Shown, ...], datum: Datum) -> None:
        own = self.session.live
        laid = []
        for other in others:
            slid = slide(own, other.live, datum)
            if slid is not None:
                laid.append(Laid(other.live, other.name, other.role, slid))
        self.overlay.show_boards(own, tuple(laid), self.session.system, by_share=bool(self.matching.currentData()))

    def _lay_through(self) -> None:
        """The chosen board through the one on the bench, as solids."""
        if self.solid is None:
            from kelvor.ui.solid.solid_view import SolidView

            self.solid = SolidView(self.session)
            self.solid.water = False
            self._solid_column.addWidget(self.solid, 1)
        other, datum = self.chosen(), self.datum.currentData()
        slid = None if other is None else slide(self.session.live, other.live, datum)
        over = None if other is None or slid is None else (other.live, slid, other.role)
        self._solid_words.setText(THROUGH.format(other.name) if over is not None and other is not None else "")
        if _told(over) != _told(self.solid.over):
            self.solid.lay_over(over)

    def shut(self) -> None:
        """The window closes."""
        if self.solid is not None:
            self.solid.close_scene()

    def chosen(self) -> Shown | None:
        """The board that is compared with the one on the bench."""
        others, index = self.session.others(), self.other.currentIndex()
        return others[index] if 0 <= index < len(others) else None

    def _show_ledger(self) -> None:
        other, session = self.chosen(), self.session
        for part in (self.other, self.zone, self.take, self.deciding, self.page):
            part.setEnabled(other is not None)
        if other is None:
            self.first.setText("")
            self.rows.set_rows([])
            return
        own = session.workshop.registers.least_felt()
        pair = session.live.board, other.live.board, tuple(own.items())
        if self._known is None or self._known[0] != pair:
            self._known = pair, ledger(session.live, other.live, explained=False, own=own)
            self._asked.ask(ledger_job, [(session.subject(), session.subject(other.live), own)])
        self._show_differences(other.name)
        self.deciding.label.setText(self._deciding_words(other))
        self.deciding.setEnabled(other.step != 0)

    def _deciding_words(self, other: Shown) -> str:
        record = self.session.workshop.registers.decision(other.step) if other.step else None
        if record is None:
            return f"Decide on {other.name}"
        why = f": {record.value.why}" if record.value.why else ""
        return f"{other.name} is {MARKS[record.value.verdict].lower()}{why}"

    def _show_differences(self, name: str) -> None:
        found = self._known[1] if self._known is not None else []
        self.first.setText(first_words(found, name, self.session.system))
        self.rows.set_rows(ledger_lines(found, self.session.system))

    def _open(self, board: int) -> None:
        try:
            self.session.open_board(board)
        except InputError as error:
            self.session.said.emit("problem", str(error))

    def _explained(self, results: list[list[Difference] | None]) -> None:
        """What explains the difference is known: it comes first."""
        if self._known is not None and results[0] is not None:
            self._known = self._known[0], results[0]
            self._show_differences(self.other.currentText())

    # doing

    def take_on(self, zone: Zone | None = None) -> bool:
        """Take a part of the chosen board onto the one on the bench: one step, and what it did in words."""
        other, session = self.chosen(), self.session
        if other is None:
            return False
        zone = zone or self.zone.currentData()
        assert zone is not None
        before = session.live
        try:
            found = adopted(session.board, other.live.board, zone)
        except RefusedEdit as error:
            return self._say(str(error), wrong=True)
        if found.board == session.board:
            return self._say(f"The two have the same {ZONE_WORDS[zone].lower()}: nothing to take.", wrong=False)
        after = evaluate_live(found.board, session.brief, table=session.table, coefficients=session.coefficients)
        if isinstance(after, tuple):
            return self._say(f"{after[0].text}. {after[0].advice}".rstrip(". ") + ".", wrong=True)
        changes = gave(before, after, session.workshop.registers.least_felt())
        if not session.commit(found.board, changes, title=taken_title(zone, other.name)):
            self.taken.setVisible(False)  # a lock refused it, and the window says which
            return False
        known = {(f.code, f.said) for f in check_geometry(before.geometry)}
        new = tuple(f for f in check_geometry(session.live.geometry) if (f.code, f.said) not in known)
        return self._say(taken_words(found, changes, new, session.system), wrong=False)

    def _say(self, words: str, *, wrong: bool) -> bool:
        self.taken.setObjectName("wrong" if wrong else "quiet")
        self.taken.style().polish(self.taken)
        self.taken.setText(words)
        self.taken.setVisible(True)
        return not wrong

    def decide(self, verdict: Verdict) -> bool:
        """Keep, drop or park the chosen board at the step that is shown."""
        other = self.chosen()
        if other is None or not other.step:
            return False
        try:
            why = named(self.deciding.why.text(), "Why", text_of(Decision, "why"))
        except KelvorError as error:
            return self._say(str(error), wrong=True)
        registers = self.session.workshop.registers
        before = registers.decision(other.step)
        who = before.value.who if before is not None else ""
        words = f"{verdict}, {other.name}, version {other.number}"
        registers.decide(other.step, other.board, Decision(verdict=verdict, why=why, who=who), words)
        self.deciding.why.clear()
        self._show_ledger()
        return True

    def ask_felt(self) -> None:
        """Show the table of what is felt, to be typed over."""
        self.felt_dialog = FeltDialog(self.window(), self.session)
        self.felt_dialog.show()

    def ask_page(self) -> None:
        """Ask where the page goes."""
        if not self.session.others():
            self.session.said.emit("problem", NOBODY)
            return
        names = ", ".join([self.session.live.board.name, *(o.name for o in self.session.others())])
        name = "".join(c if c.isalnum() or c in " -,." else "-" for c in names)[:80]
        self._ask_where("Page to hand over", "Page (*.pdf);;Overlays (*.svg)", f"{name}.pdf", self.write_page)

    def write_page(self, path: Path) -> None:
        """Write the page of the boards that are compared, beside the window."""
        from kelvor.exchange.handing_over import hand_over_job

        session = self.session
        sent = sent_boards(session)
        datum: Datum = self.datum.currentData()
        felt = session.workshop.registers.least_felt()
        self._writing.ask(hand_over_job, [(sent, path, datum, self.with_rider.isChecked(), session.system, felt)])


def _told(over: tuple[Live, float, str] | None) -> tuple[object, ...]:
    """What makes one board laid through another the same as before."""
    return () if over is None else (id(over[0]), *over[1:])


def compare_view(window: MainWindow) -> CompareView:
    """The Compare view of a window."""
    return CompareView(window.session, window.ask_where)
