"""Which board for whom: a customer at the left, the range judged at the right, the size chart below."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import KelvorError
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import Quantity, parse
from kelvor.core.brief.brief import Skill
from kelvor.core.evaluation.subject import Subject
from kelvor.core.family.rider_sizes import SEAS, Customer, fits, wanted_litres
from kelvor.core.family.size_state import size_ride_job
from kelvor.core.family.sizing import brief_of_size
from kelvor.core.levers.locks import volume_of
from kelvor.core.register.record import Record
from kelvor.core.ride.condition import condition_of
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.sections import Resolution
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.controls.panel import heading, panel, plain_label, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.families import Families
from kelvor.ui.family.shown.class_rules import wind_typed
from kelvor.ui.family.shown.families import rider_words
from kelvor.ui.family.shown.rider_sizes import (
    CAUTION,
    SEA_WORDS,
    SKILLS,
    answer_words,
    fit_cells,
    size_chart_rows,
)
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

HEADS = ("Board", "Litres", "Goes from", "To learn on (judgement)", "Why")
CHART = ("Rider", *(words.capitalize() for _, words in SKILLS))
NONE = "Make a family first: a range is its sizes and its parent."


class RiderSizesPage(QWidget):
    """The range for a customer."""

    print_asked = Signal(object)
    """Answer and chart are to be printed: head, rows, chart."""

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self._volumes: dict[Board, float] = {}
        self._boards: list[tuple[str, Board]] = []
        self._asking = WorkerQuestion(self, "The range was not judged", self._counted, failed=self._fail)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(8)
        column.addWidget(self._who(), 1)
        column.addWidget(self._chart(), 1)

    def _who(self) -> QWidget:
        frame, column, row = panel(), QVBoxLayout(), QHBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("Which board for whom"))
        self.mass, self.wind = QLineEdit("75 kg"), QLineEdit("15 kn")
        self.skill, self.sea = QComboBox(), QComboBox()
        for key, words in SKILLS:
            self.skill.addItem(words, key)
        self.skill.setCurrentIndex(1)
        for sea in SEAS:
            self.sea.addItem(sea, sea)
        for words, field, name in (
            ("Rider", self.mass, "Rider's weight"),
            ("skill", self.skill, "Skill"),
            ("wind they mostly have", self.wind, "Wind they mostly have"),
            ("water", self.sea, "Water"),
        ):
            field.setAccessibleName(name)
            field.setFixedWidth(100)
            row.addWidget(QLabel(words))
            row.addWidget(field)
        self.mass.returnPressed.connect(self.ask)
        self.wind.returnPressed.connect(self.ask)
        self.ask_button = QPushButton("Which board?")
        self.ask_button.clicked.connect(lambda _=False: self.ask())
        row.addWidget(self.ask_button)
        row.addStretch(1)
        column.addLayout(row)
        self.answer = plain_label()
        self.answer.setFont(font(16, 700))
        self.answer.setWordWrap(True)
        column.addWidget(self.answer)
        self.table: QTableWidget = figures_table(HEADS)
        column.addWidget(self.table, 1)
        self.more = plain_label()
        self.more.setWordWrap(True)
        self.more.setObjectName("quiet")
        column.addWidget(self.more)
        self.problem = problem_label()
        column.addWidget(self.problem)
        return frame

    def _chart(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("Size chart"))
        self.chart: QTableWidget = figures_table(CHART)
        self.chart.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        column.addWidget(self.chart, 1)
        self.print_button = QPushButton("For the customer, on paper…")
        self.print_button.clicked.connect(lambda _=False: self.ask_print())
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(self.print_button)
        column.addLayout(row)
        return frame

    # showing

    def refresh(self) -> None:
        """Show the size chart of the family as it is."""
        family = self.family()
        for widget in (self.ask_button, self.print_button):
            widget.setEnabled(family is not None)
        if family is None:
            self.chart.setRowCount(0)
            self.table.setRowCount(0)
            self.answer.setText("")
            self.problem.setText(NONE)
            return
        if self.problem.text() == NONE:
            self.problem.setText("")
        try:
            parent = self.families.parent_of(family)[1]
            boards = [(parent.name, parent), *((s.board.name, s.board) for s in self.families.sizes(family.uid))]
        except KelvorError as error:
            self._fail(str(error))
            return
        if boards != self._boards:
            self._boards = boards
            self.answer.setText("")  # what was said of other boards
            self.table.setRowCount(0)
        names = [(name, self._volume(board)) for name, board in boards]
        fill_table(
            self.chart,
            size_chart_rows(
                names, self._parent(family), self._power(family), self._discipline(family), self.session.system
            ),
        )

    def _volume(self, board: Board) -> float:
        if board not in self._volumes:
            self._volumes[board] = volume_of(board, Resolution.NORMAL)
        return self._volumes[board]

    def _parent(self, family: Record) -> tuple[float, float, Skill]:
        assert family.board is not None
        brief = self.families.brief_of(family.board)
        return self._volume(self.families.parent_of(family)[1]), family.value.mass, brief.rider.skill

    def _discipline(self, family: Record) -> Discipline:
        assert family.board is not None
        return self.families.brief_of(family.board).discipline

    def _power(self, family: Record) -> float:
        """The family's own power of litres with weight; one where it has no such rule."""
        rules = family.value.rules
        return next((r.amount for r in rules if r.about == "volume" and r.law == "with weight"), 1.0)

    def _fail(self, words: str) -> None:
        self.problem.setText(words)

    # asking

    def ask(self) -> None:
        """Judge the range for this customer."""
        family = self.family()
        if family is None or family.board is None:
            return
        self.problem.setText("")
        brief = self.families.brief_of(family.board)
        try:
            wind = wind_typed(self.wind.text()) if self.wind.text().strip() else 0.0
            mass = parse(self.mass.text(), Quantity.MASS, self.session.system)
            self._customer = Customer(mass, self.skill.currentData(), wind, self.sea.currentData())
            volume, parent_mass, skill = self._parent(family)
            power = self._power(family)
            self._wanted = wanted_litres(volume, parent_mass, skill, power, self._customer)
            learner = replace(self._customer, skill="learning")
            self._kind = brief.discipline
            self._learners = wanted_litres(volume, parent_mass, skill, power, learner)
        except KelvorError as error:
            self._fail(str(error))
            return
        session = self.session
        own = brief_of_size(brief, mass)
        own = replace(own, rider=replace(own.rider, skill=self._customer.skill))
        self.answer.setText("Looking at every board under this rider…")
        self._asking.ask(
            size_ride_job,
            [
                (name, Subject(board, own, session.table, session.coefficients), condition_of(own))
                for name, board in self._boards
            ],
        )

    def _counted(self, results: list[tuple[str, Figures] | None]) -> None:
        known = dict(result for result in results if result is not None)
        boards = [(name, self._volume(board), known.get(name, {})) for name, board in self._boards]
        found = fits(boards, self._customer, self._wanted)
        self.answer.setText(answer_words(found))
        fill_table(
            self.table,
            [fit_cells(fit, self._customer, self._learners, self._kind, self.session.system) for fit in found],
        )
        self.more.setText(f"{SEA_WORDS[self._customer.sea]} {CAUTION}")

    def rows(self, table: QTableWidget) -> list[tuple[str, ...]]:
        """What a table shows."""
        found = []
        for i in range(table.rowCount()):
            items = [table.item(i, j) for j in range(table.columnCount())]
            found.append(tuple(item.text() if item is not None else "" for item in items))
        return found

    def ask_print(self) -> None:
        """The answer and the chart on paper."""
        who = rider_words(self._customer.mass, self.session.system) if self.table.rowCount() else ""
        head = f"For a rider of {who}, {self.skill.currentText()}: {self.answer.text()}" if who else ""
        self.print_asked.emit((head, self.rows(self.table), self.rows(self.chart)))
