"""What differs from one board, what to take of it, what becomes of it, and the page that tells it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QHBoxLayout, QPushButton, QVBoxLayout

from kelvor.core.base.errors import KelvorError, RefusedEdit
from kelvor.core.base.limits import text_of, typed_name
from kelvor.core.compare.adopting import ZONES, Zone, adopted
from kelvor.core.compare.compare_jobs import ledger_job
from kelvor.core.compare.curves import Datum
from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.compare.words import first_words
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.register.kinds.words import Decision
from kelvor.core.register.record import Verdict
from kelvor.core.shape.checks.checks import check_geometry
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.compare.felt_dialog import FeltDialog
from kelvor.ui.compare.prototypes import sent_boards
from kelvor.ui.compare.shown.compare import (
    NOBODY,
    ZONE_WORDS,
    gave,
    ledger_lines,
    taken_title,
    taken_words,
)
from kelvor.ui.controls.panel import heading, plain_label
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.rack.decide_row import DecideRow
from kelvor.ui.rack.shown.rack import MARKS
from kelvor.ui.session.session import Session
from kelvor.ui.session.shown_boards import Shown

AskWhere = Callable[[str, str, str, Callable[[Path], object]], None]
"""Asks for a file, given a title, kinds and a name, and calls back with its path."""


class LedgerPanel(QFrame):
    """The right side of Compare."""

    turned = Signal()
    """Another board was chosen."""

    def __init__(self, session: Session, ask_where: AskWhere, datum: Callable[[], Datum]) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.session, self._ask_where, self._datum = session, ask_where, datum
        self._writing = WorkerQuestion(
            self,
            "The page was not written",
            lambda paths: session.message.emit("note", f"Page written: {paths[0]}"),
            failed=partial(session.message.emit, "problem"),
            here=True,
        )
        self._known: tuple[tuple[object, ...], list[Difference]] | None = None
        self._asked = WorkerQuestion(
            self,
            "What explains the difference was not found",
            self._explained,
            failed=partial(session.message.emit, "problem"),
        )
        column = QVBoxLayout(self)
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
        self.other.currentIndexChanged.connect(lambda _: self.turned.emit())
        column.addWidget(self.other)
        self.first = plain_label()
        self.first.setWordWrap(True)
        column.addWidget(self.first)
        self.rows = RowsView("Ledger of differences", value_share=1.6)
        column.addWidget(self.rows, 1)
        self._taking(column)
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

    def _taking(self, column: QVBoxLayout) -> None:
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

    def refresh(self) -> None:
        """Show what differs from the chosen board."""
        names = [other.name for other in self.session.overlays.others()]
        if [self.other.itemText(i) for i in range(self.other.count())] != names:
            self.other.blockSignals(True)
            self.other.clear()
            self.other.addItems(names)
            self.other.blockSignals(False)
        self._show_ledger()

    def chosen(self) -> Shown | None:
        """The board that is compared with the one on the bench."""
        others, index = self.session.overlays.others(), self.other.currentIndex()
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
        self.deciding.label.set_words(self._deciding_words(other))
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
            why = typed_name(self.deciding.why.text(), "Why", text_of(Decision, "why"))
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
        if not self.session.overlays.others():
            self.session.message.emit("problem", NOBODY)
            return
        names = ", ".join([self.session.live.board.name, *(o.name for o in self.session.overlays.others())])
        name = "".join(c if c.isalnum() or c in " -,." else "-" for c in names)[:80]
        self._ask_where("Page to hand over", "Page (*.pdf);;Overlays (*.svg)", f"{name}.pdf", self.write_page)

    def write_page(self, path: Path) -> None:
        """Write the page of the boards that are compared, beside the window."""
        from kelvor.exchange.handing_over import hand_over_job

        session = self.session
        sent = sent_boards(session)
        felt = session.workshop.registers.least_felt()
        self._writing.ask(
            hand_over_job, [(sent, path, self._datum(), self.with_rider.isChecked(), session.system, felt)]
        )
