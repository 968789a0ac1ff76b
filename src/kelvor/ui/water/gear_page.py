"""Gear: hours, incidents, what is to be retired; the ladder of fins; what suits a wind, by log and by tank."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.units import KNOT, text
from kelvor.core.evaluation.live import Live
from kelvor.core.register.kinds.water import Incident, RetireRule
from kelvor.core.register.record import record_name
from kelvor.core.water.sessions.ladder import fin_ladder, suited
from kelvor.core.water.sessions.wear import WORN, Worn, worn
from kelvor.ui.controls.panel import heading, panel, plain_label, problem_label
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.ride.shown.mechanism import FELT, mechanism_words, tank_suits
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.logbook import Logbook, today
from kelvor.ui.water.shown.gear import CAUTION, incident_rows, ladder_rows, worn_rows
from kelvor.ui.water.small_panels import line, number

HEADS = ("Gear", "Kind", "Hours", "Sessions", "Last", "Asks for")
LADDER = ("Fin", "Depth", "Of width", "Sessions", "Wind, kn", "10 s, kn", "Said last")
SUITS = ("Ridden in such a wind", "Sessions", "10 s, kn", "Said last")


class GearPage(QWidget):
    """What wears at the left; ladder and what suits at the right."""

    strike_asked = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.found: tuple[Worn, ...] = ()
        self._live: tuple[str, Live] | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._worn(), 5)
        row.addWidget(self._right(), 6)

    def _worn(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("Hours and incidents"))
        self.table = figures_table(HEADS)
        self.table.itemSelectionChanged.connect(self._show_incidents)
        column.addWidget(self.table, 3)
        self.incidents = RowsView("What happened to it", value_share=0.97, row_height=22)
        column.addWidget(self.incidents, 2)
        row = QHBoxLayout()
        self.kind = QComboBox()
        self.kind.setAccessibleName("What happened")
        for kind in ("crack", "repair", "blow", "other"):
            self.kind.addItem(kind.capitalize(), kind)
        self.words = line("What happened")
        self.words.returnPressed.connect(self.write)
        self.retired = QCheckBox("retired with it")
        self.write_button = QPushButton("Write it down")
        self.write_button.clicked.connect(self.write)
        for part in (self.kind, self.words, self.retired, self.write_button):
            row.addWidget(part, 1 if part is self.words else 0)
        column.addLayout(row)
        rule = QHBoxLayout()
        self.hours, self.source = line("h", 60), line("by whom: the maker, this workshop")
        self.hours.setAccessibleName("Hours after which this kind is looked at")
        self.rule_button = QPushButton("Look at this kind after so many hours")
        self.rule_button.clicked.connect(self.set_rule)
        for part in (self.hours, self.source, self.rule_button):
            rule.addWidget(part, 1 if part is self.source else 0)
        column.addLayout(rule)
        self.problem = problem_label()
        column.addWidget(self.problem)
        caution = QLabel(CAUTION)
        caution.setObjectName("quiet")
        caution.setFont(font(11))
        caution.setWordWrap(True)
        column.addWidget(caution)
        return frame

    def _right(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        head = QHBoxLayout()
        head.addWidget(heading("Fin ladder"))
        self.board = QComboBox()
        self.board.setAccessibleName("Of which board")
        self.board.activated.connect(lambda _: self._another_board())
        head.addWidget(self.board, 1)
        column.addLayout(head)
        self.ladder = figures_table(LADDER)
        column.addWidget(self.ladder, 2)
        self.plan = plain_label()
        self.plan.setWordWrap(True)
        self.plan.setFont(font(12))
        column.addWidget(self.plan)
        feel = QHBoxLayout()
        self.feel = QComboBox()
        self.feel.setAccessibleName("The rider says")
        for key in FELT:
            self.feel.addItem(f"The rider says “{key}”", key)
        self.feel.activated.connect(lambda _: self._show_mechanism())
        feel.addWidget(self.feel)
        feel.addStretch(1)
        column.addLayout(feel)
        self.mechanism = plain_label()
        self.mechanism.setWordWrap(True)
        self.mechanism.setFont(font(12))
        column.addWidget(self.mechanism)
        today_ = QHBoxLayout()
        today_.addWidget(heading("What suits"))
        self.wind = line("wind, kn", 90)
        self.wind.setText("15")
        self.wind.textChanged.connect(lambda _: self._show_suited())
        today_.addWidget(self.wind)
        today_.addStretch(1)
        column.addLayout(today_)
        self.suits = figures_table(SUITS)
        column.addWidget(self.suits, 2)
        self.tank = plain_label()
        self.tank.setWordWrap(True)
        self.tank.setFont(font(12))
        column.addWidget(self.tank)
        return frame

    # showing

    def refresh(self) -> None:
        """Show all gear."""
        registers, log = self.session.workshop.registers, self.session.service(Logbook).all()
        rules = [r.value for r in registers.of("retire rule")]
        keep = self._chosen_uid()
        self.found = worn(registers.of(*WORN), log, registers.of("incident"), rules)
        self.table.blockSignals(True)
        fill_table(self.table, worn_rows(self.found))
        at = next((i for i, w in enumerate(self.found) if w.record.uid == keep), 0 if self.found else -1)
        if at >= 0:
            self.table.selectRow(at)
        self.table.blockSignals(False)
        boards = list(dict.fromkeys(one.setup.board for one in log if one.setup is not None))
        here = self.board.currentText()
        self.board.clear()
        self.board.addItems(boards)
        if here in boards:
            self.board.setCurrentText(here)
        self._show_incidents()
        self._show_ladder()
        self._show_suited()
        self._show_mechanism()

    def chosen(self) -> Worn | None:
        """The chosen piece of gear."""
        at = self.table.currentRow()
        return self.found[at] if 0 <= at < len(self.found) else None

    def _chosen_uid(self) -> str:
        worn_ = self.chosen()
        return worn_.record.uid if worn_ is not None else ""

    def _show_incidents(self) -> None:
        self.incidents.set_rows(incident_rows(self.chosen()))

    def _show_ladder(self) -> None:
        session, registers = self.session, self.session.workshop.registers
        live = self._ridden()
        width = 2 * float(live.geometry.shape.half_width.max()) if live is not None else 0.0
        fins, incidents = registers.of("fin"), registers.of("incident")
        rungs = fin_ladder(fins, incidents, session.service(Logbook).all(), self.board.currentText(), width)
        fill_table(self.ladder, ladder_rows(rungs, session.system))
        told = "From too large downward: each rung a session or a test, until it slides."
        best = session.results.as_counted().get("fin_best")
        if self._on_bench() and best is not None and best.value == best.value:
            least = text(best.value, best.definition.quantity, session.system)
            told += f" The tank, for {session.brief.rider.name} and the gear in use: {least} with a margin."
        untried = next((rung for rung in rungs if not rung.sessions), None)
        self.plan.setText(f"{told} Next: {untried.name}, not ridden yet." if untried is not None and rungs else told)

    def _on_bench(self) -> bool:
        """Whether the ladder's board is of the design on the bench."""
        live = self._ridden()
        return live is not None and live.board.name == self.session.board.name

    def _another_board(self) -> None:
        self._show_ladder()
        self._show_mechanism()

    def _ridden(self) -> Live | None:
        """The board of the ladder as it was drawn; None for one that is only a name."""
        session, name = self.session, self.board.currentText()
        if self._live is not None and self._live[0] == name:
            return self._live[1]
        setups = (one.setup for one in session.service(Logbook).all())
        uid = next((s.made for s in setups if s is not None and s.board == name), "")
        record = session.workshop.registers.get(uid) if uid else None
        if record is None or not record.step:
            return None
        ids = session.workshop.saving.ids
        try:
            brief = session.workshop.store.brief(ids(record.board or 0))
            live = session.drawn(session.board_at(ids(record.step)), brief)
        except InputError:
            return None
        self._live = name, live
        return live

    def _show_mechanism(self) -> None:
        live = self._ridden()
        felt, system = str(self.feel.currentData()), self.session.system
        self.mechanism.setText("" if live is None else mechanism_words(felt, live.geometry, live.figures, system))

    def _show_suited(self) -> None:
        try:
            wind = number(self.wind.text(), "Wind", "Such as 15") * KNOT
        except InputError as error:
            self.tank.setText(str(error))
            return
        found = suited(self.session.service(Logbook).all(), wind)
        fill_table(
            self.suits, [(s.words, str(s.sessions), f"{s.best / KNOT:.1f}" if s.best else "", s.said) for s in found]
        )
        self.tank.setText(tank_suits(self.session.brief, self.session.results.as_counted(), wind, found))

    # doing

    def write(self) -> None:
        """Write what happened to the chosen gear."""
        worn_ = self.chosen()
        if worn_ is None:
            self.problem.setText("Choose what it happened to.")
            return
        words = self.words.text().strip()
        if not words and not self.retired.isChecked():
            self.problem.setText("Type what happened.")
            return
        incident = Incident(
            what=worn_.record.uid,
            name=record_name(worn_.record),
            day=today().isoformat(),
            words=words,
            kind=self.kind.currentData(),
            retired=self.retired.isChecked(),
        )
        self.session.workshop.registers.keep(
            "incident", incident, f"{record_name(worn_.record)}: {incident.kind}", origin="measured"
        )
        self.words.clear()
        self.retired.setChecked(False)
        self.problem.setText("")

    def set_rule(self) -> None:
        """After how many hours the chosen kind is looked at."""
        worn_ = self.chosen()
        try:
            if worn_ is None:
                raise InputError("nothing is chosen", where="Gear", accepts="Choose a piece of its kind")
            hours = number(self.hours.text(), "Hours", "Such as 120")
            rule = RetireRule(kind=worn_.record.kind, hours=hours, source=self.source.text().strip() or "this workshop")
            if not 0.5 <= hours <= 10_000:
                raise InputError(f"{hours:g} h", where="Hours", accepts="0.5 to 10 000")
            registers = self.session.workshop.registers
            uid = next((r.uid for r in registers.of("retire rule") if r.value.kind == rule.kind), "")
            registers.keep("retire rule", rule, f"{rule.kind}: looked at after {hours:g} h", uid=uid)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
