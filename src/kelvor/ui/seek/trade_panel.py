"""Trade-off: two figures, what may move, and the boards of which none is better in both."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QProgressBar, QVBoxLayout, QWidget

from kelvor.core.base.figures import Better
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.levers.locks import Change
from kelvor.core.seek.problem import Demand, SeekProblem, demands_of, with_levers_pulled
from kelvor.core.seek.trade import POINTS, Trade, traded
from kelvor.ui.controls.panel import heading
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.seek.levers_table import MovesTable
from kelvor.ui.seek.search_thread import Seeking
from kelvor.ui.seek.shown.trade import trade_chart, trade_heads, trade_rows
from kelvor.ui.session.session import Session


class TradePanel(Panel):
    """The figures and levers at the left, the curve and its boards at the right."""

    guide = "seek#trade-off"

    made = Signal()
    """A board of the curve became a version."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Trade-off between two figures", "Draw the curve")
        self.session = session
        self.problem_: SeekProblem | None = None
        self.trade: Trade | None = None
        self.wishes: tuple[Demand, ...] = ()
        self.seeking = Seeking(self)
        self.seeking.went.connect(self._went)
        self.seeking.done.connect(self._done)
        self.seeking.failed.connect(self._failed)
        self._figures = session.results.figures()
        self._step = session.current
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(self._asked(), 5)
        row.addLayout(self._shown(), 8)
        self.column.insertWidget(1, holder, 1)
        self.resize(1180, 640)

    def _asked(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.addWidget(heading("One against the other"))
        self.first, self.second = QComboBox(), QComboBox()
        phases = [result.phase.headline for result in self.session.results.evaluation.phases]
        leads = list(dict.fromkeys((*phases, "volume", "mass", "yaw_inertia", *self._figures)))
        there = [key for key in leads if key in self._figures and self._can(key)]
        for combo, name, at in ((self.first, "First figure", 0), (self.second, "Second figure", 1)):
            combo.setAccessibleName(name)
            for key in there:
                combo.addItem(f"{BY_KEY[key].label}: {_sense(key)}", key)
            combo.setCurrentIndex(min(at, combo.count() - 1))
            column.addWidget(combo)
        self.moving = MovesTable(self.session)
        column.addWidget(self.moving, 1)
        return column

    def _can(self, key: str) -> bool:
        figure = self._figures[key]
        return not figure.definition.ranks and figure.exists and figure.valid

    def _shown(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.chart = ChartWidget("Trade-off")
        self.chart.empty = "Choose two figures and what may move, then draw the curve."
        column.addWidget(self.chart, 3)
        self.progress = QProgressBar()
        self.progress.setRange(0, POINTS)
        self.progress.setTextVisible(False)
        self.progress.setVisible(False)
        column.addWidget(self.progress)
        self.table = figures_table(("", "", "Wishes", "What moves"))
        self.table.setWordWrap(True)
        self.table.horizontalHeader().setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.table.itemDoubleClicked.connect(lambda _: self.make_it())
        self.table.currentCellChanged.connect(lambda *_: self._chosen())
        column.addWidget(self.table, 3)
        self.make = self.button("Make it a version", self.make_it)
        self.make.setEnabled(False)
        return column

    # the curve

    def act(self) -> bool:
        """Draw the curve, or stop."""
        if self.seeking.under_way:
            self.seeking.stop()
            return False
        session = self.session
        self.problem.setText("")
        values = {key: self._figures[key].value for key in self._figures}
        first, second = (combo.currentData() for combo in (self.first, self.second))
        problem = traded(session.board, first, second, values, self.moving.moves())
        wishes = demands_of(session.brief, session.brief.targets)
        self.wishes = tuple(w for w in wishes if w.figure in BY_KEY and not BY_KEY[w.figure].ranks)
        self.progress.setValue(0)
        self.progress.setVisible(True)
        self.do.setText("Stop")
        self._step = session.current
        self.seeking.trade(session.subject(), problem, tuple(w.figure for w in self.wishes))
        return False

    def _went(self, here: tuple[int, int]) -> None:
        self.progress.setValue(here[0])

    def _done(self, problem: SeekProblem, trade: Trade) -> None:
        self.problem_, self.trade = problem, trade
        self._ended()
        system = self.session.system
        self.table.setHorizontalHeaderLabels(list(trade_heads(problem)))
        fill_table(self.table, trade_rows(problem, trade, self.wishes, system))
        self.table.resizeRowsToContents()
        self.chart.show_chart(trade_chart(problem, trade, self.wishes, system), (), system)
        if len(trade.points) == 1:
            self.problem.setText("Nothing is traded here: one board within these bounds is best in both.")

    def _failed(self, words: str) -> None:
        self._ended()
        self.problem.setText(words)

    def _ended(self) -> None:
        self.progress.setVisible(False)
        self.do.setText("Draw the curve")
        self.make.setEnabled(False)

    def _chosen(self) -> None:
        at = self.table.currentRow()
        if self.trade is None or self.problem_ is None or not 0 <= at < len(self.trade.points):
            return
        self.make.setEnabled(True)
        self.chart.read_at(self.trade.points[at].values[self.problem_.keys[0]])

    def make_it(self) -> None:
        """The chosen board becomes a branch of the version the curve was drawn from; the curve stays for more."""
        session, problem, trade, at = self.session, self.problem_, self.trade, self.table.currentRow()
        if problem is None or trade is None or not 0 <= at < len(trade.points):
            return
        ids = session.workshop.saving.ids
        if ids(session.current) != ids(self._step):
            session.versions.go_to(self._step)
        if session.board != problem.board:
            self.problem.setText("The board has changed since: draw the curve again.")
            return
        x = trade.points[at].x
        changes = tuple(
            Change(lever.label, lever.quantity, now, now + by * lever.step)
            for lever, now, by in zip(problem.levers, problem.readings, x, strict=True)
            if abs(by) > 0.05
        )
        labels = " against ".join(BY_KEY[key].label.lower() for key in problem.keys)
        if session.commit(with_levers_pulled(problem, x), changes, title=f"Of the trade-off: {labels}", held=True):
            self.made.emit()

    def closeEvent(self, event: QCloseEvent) -> None:
        """What is under way is given up."""
        self.seeking.forget()
        super().closeEvent(event)


def _sense(key: str) -> str:
    return "the less the better" if BY_KEY[key].better is Better.LESS else "the more the better"
