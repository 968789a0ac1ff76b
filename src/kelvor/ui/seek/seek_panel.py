"""Seek: what is asked, what may move and how far; the least change that meets it, or what stands in the way."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.units import text
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.levers.locks import Change
from kelvor.core.register.kinds.searches import Search
from kelvor.core.register.record import Record
from kelvor.core.seek.answer import Answer, answer_headline, answer_lines, lever_move_words
from kelvor.core.seek.engine import ROUNDS, State
from kelvor.core.seek.problem import Demand, Move, SeekProblem, demands_of, stated, with_levers_pulled
from kelvor.core.seek.typed_demands import demands_to_hold, target_of
from kelvor.ui.controls.panel import heading, plain_label
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.seek.levers_table import MovesTable
from kelvor.ui.seek.search_thread import Seeking
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font


class SeekPanel(Panel):
    """Targets at the left, levers in the middle, the answer at the right."""

    guide = "seek#seek"

    made = Signal()
    """The answer became a version."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Seek the least change", "Seek")
        self.session = session
        self.seeking = Seeking(self)
        self.answer: Answer | None = None
        self.problem_: SeekProblem | None = None
        self._record: Record | None = None
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(self._asked(), 4)
        self.moving = MovesTable(session)
        row.addWidget(self.moving, 6)
        row.addLayout(self._answered(), 6)
        self.column.insertWidget(1, holder, 1)
        self.resize(1120, 560)
        self.seeking.went.connect(self._went)
        self.seeking.done.connect(self._done)
        self.seeking.failed.connect(self._failed)
        self._fill()
        self._look_for_begun()
        self.do.setDefault(False)  # Enter in a field belongs to the field
        self.do.setAutoDefault(False)

    def _asked(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.addWidget(heading("What it should do"))
        self.targets = QListWidget()
        self.targets.setAccessibleName("Targets")
        self.targets.setWordWrap(True)
        self.targets.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column.addWidget(self.targets, 1)
        self.typed = QLineEdit()
        self.typed.setAccessibleName("A target more")
        self.typed.setPlaceholderText("volume >= 40 L, then Enter")
        self.typed.returnPressed.connect(self._entered)
        column.addWidget(self.typed)
        self.hold = QLineEdit()
        self.hold.setAccessibleName("What stays")
        self.hold.setPlaceholderText("stays as it is: length, mass")
        column.addWidget(self.hold)
        return column

    def _answered(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.head, self.lines = plain_label(), plain_label()
        self.head.setFont(font(15, 700))
        for label in (self.head, self.lines):
            label.setWordWrap(True)
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
            column.addWidget(label, 1 if label is self.lines else 0)
        self.progress = QProgressBar()
        self.progress.setRange(0, ROUNDS)
        self.progress.setTextVisible(False)
        self.progress.setVisible(False)
        column.addWidget(self.progress)
        self.tried = QLabel()
        self.tried.setObjectName("quiet")
        column.addWidget(self.tried)
        row = QHBoxLayout()
        self.go_on, self.make = QPushButton("Go on with it"), QPushButton("Make it a version")
        self.go_on.clicked.connect(self.resume)
        self.make.clicked.connect(self.make_it)
        self.go_on.setVisible(False)
        self.make.setEnabled(False)
        for button in (self.go_on, self.make):
            button.setAutoDefault(False)
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        return column

    # what is asked

    def _fill(self) -> None:
        session = self.session
        for demand in demands_of(session.brief, session.brief.targets):
            if demand.figure in BY_KEY and not BY_KEY[demand.figure].ranks:
                self._add(demand, on=True)

    def _add(self, demand: Demand, *, on: bool) -> None:
        definition = BY_KEY[demand.figure]
        value = text(demand.value, definition.quantity, self.session.system)
        item = QListWidgetItem(f"{definition.label} {demand.relation} {value}")
        item.setData(Qt.ItemDataRole.UserRole, (demand.figure, demand.relation, demand.value))
        item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
        self.targets.addItem(item)

    def _entered(self) -> None:
        """Enter adds what is typed; where nothing is typed, it seeks."""
        if self.typed.text().strip():
            self._add_typed()
        else:
            self.do.click()

    def _add_typed(self) -> bool:
        try:
            self._add(target_of(self.typed.text(), self.session.system), on=True)
        except InputError as error:
            self.problem.setText(str(error))
            return False
        self.typed.clear()
        self.problem.setText("")
        return True

    def _stated(self) -> SeekProblem:
        demands = []
        for i in range(self.targets.count()):
            item = self.targets.item(i)
            if item.checkState() is Qt.CheckState.Checked:
                figure, relation, value = item.data(Qt.ItemDataRole.UserRole)
                demands.append(Demand(figure=figure, relation=relation, value=value))
        names = [words for words in self.hold.text().split(",") if words.strip()]
        return stated(
            self.session.board, [*demands, *demands_to_hold(self.session.subject(), names)], self.moving.moves()
        )

    # seeking

    def act(self) -> bool:
        """Seek, or stop."""
        if self.seeking.under_way:
            self.seeking.stop()
            return False
        if self.typed.text().strip() and not self._add_typed():
            return False
        self.problem.setText("")
        self._begin(self._stated(), None)
        return False

    def _begin(self, problem: SeekProblem, state: State | None) -> None:
        self.answer, self.problem_ = None, problem
        self.make.setEnabled(False)
        self.go_on.setVisible(False)
        self.head.setText("Seeking…")
        self.lines.setText("")
        self.progress.setValue(0)
        self.progress.setVisible(True)
        self.do.setText("Stop")
        self.seeking.seek(self.session.subject(), problem, state)

    def _went(self, state: State) -> None:
        self.progress.setValue(min(state.round, ROUNDS))
        self.tried.setText(f"{state.tried} boards tried")
        if self.problem_ is not None and not state.done:
            self._keep(self.problem_, state)

    def _done(self, problem: SeekProblem, answer: Answer) -> None:
        self.answer, self.problem_ = answer, problem
        self.tried.clear()
        self.progress.setVisible(False)
        self.do.setText("Seek")
        self.head.setText(answer_headline(answer))
        lines = answer_lines(problem, answer, self.session.system)[1:]
        self.lines.setText("\n".join(f"· {words.strip()}" for words in lines))
        self.make.setEnabled(bool(answer.moved))
        self._let_go()

    def _failed(self, words: str) -> None:
        self.progress.setVisible(False)
        self.do.setText("Seek")
        self.head.setText("")
        self.problem.setText(words)

    def make_it(self) -> None:
        """The board that was found becomes a version, with the reasons."""
        if self.answer is None or self.problem_ is None:
            return
        session, problem, answer = self.session, self.problem_, self.answer
        if session.board != problem.board:
            self.problem.setText("The board has changed since: seek again.")
            return
        try:
            board = with_levers_pulled(problem, answer.x)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        changes = tuple(Change(m.label, m.quantity, m.before, m.after) for m in answer.moved)
        if session.commit(board, changes, title=f"Sought: {answer_headline(answer)}", held=True):
            reasons = "; ".join(lever_move_words(m, session.system) for m in answer.moved)
            session.versions.set_reason(session.current, reasons[:380])
            self.made.emit()
            self.close()

    # a search that is laid aside

    def _keep(self, problem: SeekProblem, state: State) -> None:
        asked = {"demands": [asdict(d) for d in problem.demands], "moves": [asdict(m) for m in problem.moves]}
        value = Search(asked=json.dumps(asked), state=json.dumps(asdict(state)))
        uid = self._record.uid if self._record is not None else ""
        registers = self.session.workshop.registers
        uid = registers.lay_aside("search", value, "a search", uid, self.session.board_id, self.session.current)
        self._record = registers.get(uid)

    def _let_go(self) -> None:
        if self._record is not None:
            here = self._record.value
            self.session.workshop.registers.lay_aside(
                "search",
                Search(asked=here.asked),
                "a search ended",
                self._record.uid,
                self.session.board_id,
                self.session.current,
            )

    def _look_for_begun(self) -> None:
        """A search on this version that was not ended can be gone on with."""
        ids, session = self.session.workshop.saving.ids, self.session
        for record in session.workshop.registers.of("search"):
            if record.value.state and record.step is not None and ids(record.step) == ids(session.current):
                self._record = record
                self.go_on.setVisible(True)
                self.head.setText("A search was begun on this version and not ended.")

    def resume(self) -> None:
        """Go on with what was begun."""
        if self._record is None:
            return
        asked: dict[str, Any] = json.loads(self._record.value.asked)
        here: dict[str, Any] = json.loads(self._record.value.state)
        slopes = here.pop("slopes")
        state = State(**{**here, "x": tuple(here["x"])}, slopes=tuple(map(tuple, slopes)) if slopes else None)
        try:
            problem = stated(
                self.session.board, [Demand(**d) for d in asked["demands"]], [Move(**m) for m in asked["moves"]]
            )
        except InputError as error:
            self.problem.setText(str(error))
            return
        self._begin(problem, state)

    def closeEvent(self, event: QCloseEvent) -> None:
        """What is under way is laid aside."""
        self.seeking.forget()
        super().closeEvent(event)
