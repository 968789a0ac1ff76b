"""Tests: one question each, what to sail next, and what the runs say, no further than they go."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QPushButton, QTableWidget, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import limit_of, within
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import TrialRun
from kelvor.core.water.sessions.log import Logged
from kelvor.core.water.trials.from_track import legs
from kelvor.core.water.trials.trial_records import Test
from kelvor.ui.controls.panel import caution_label, heading, panel, plain_label, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.pairs_picture import PairsPicture
from kelvor.ui.water.shown.trials import (
    PEAKS,
    explained,
    next_words,
    since_words,
    trial_headline,
    trial_run_rows,
)
from kelvor.ui.water.small_panels import line, number
from kelvor.ui.water.trials import Trials

HEADS = ("Question", "Says")
RUNS = ("Run", "Which", "Speed", "Sailed", "Rider", "Wind", "Felt")
NONE = "No test yet. Plan one: one question, one difference, and what you have time for."


class TestsPage(QWidget):
    """The tests at the left, the chosen one at the right."""

    plan_asked = Signal()
    strike_asked = Signal(object)
    card_asked = Signal(object)
    logger_asked = Signal(object)
    """The simulated logger is to sail what is left of a test."""

    def __init__(self, session: Session, trials: Trials, chosen: Callable[[], Logged | None]) -> None:
        """`chosen` tells the session that is shown under Sessions, where somebody chose one."""
        super().__init__()
        self.session, self.trials, self._session = session, trials, chosen
        self._uid = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._list(), 0)
        row.addWidget(self._test(), 1)
        self._ticks = QTimer(self)
        self._ticks.setInterval(1000)
        self._ticks.timeout.connect(self._tell_clock)

    def _list(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        frame.setFixedWidth(470)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("Tests"))
        self.table: QTableWidget = figures_table(HEADS)
        self.table.setWordWrap(True)
        self.table.itemSelectionChanged.connect(self._chosen)
        column.addWidget(self.table, 1)
        buttons = QHBoxLayout()
        self.plan = QPushButton("Plan a test…")
        self.plan.clicked.connect(self.plan_asked)
        self.card = QPushButton("Card for the beach…")
        self.card.clicked.connect(lambda: self.card_asked.emit(self.test()))
        buttons.addWidget(self.plan)
        buttons.addWidget(self.card)
        column.addLayout(buttons)
        column.addWidget(caution_label(PEAKS))
        return frame

    def _test(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(16, 10, 16, 10)
        column.setSpacing(6)
        self.question, self.says = heading(""), plain_label()
        self.question.setTextFormat(Qt.TextFormat.PlainText)
        self.says.setFont(font(20, 700))
        self.why = plain_label()
        self.why.setWordWrap(True)
        self.why.setFont(font(12))
        for widget in (self.question, self.says, self.why):
            widget.setWordWrap(True)
            column.addWidget(widget)
        self.picture = PairsPicture()
        column.addWidget(self.picture)
        self.runs: QTableWidget = figures_table(RUNS)
        column.addWidget(self.runs, 1)
        self.next, self.clock = plain_label(), plain_label()
        self.next.setFont(font(13, 600))
        self.clock.setObjectName("quiet")
        row = QHBoxLayout()
        row.addWidget(self.next)
        row.addWidget(self.clock)
        row.addStretch(1)
        column.addLayout(row)
        column.addLayout(self._to_write())
        last = QHBoxLayout()
        self.decided = line("What is decided on it")
        self.decided.editingFinished.connect(self.decide)
        last.addWidget(QLabel("Decided"))
        last.addWidget(self.decided, 1)
        last.addWidget(self.track_button)
        last.addWidget(self.logger_button)
        last.addWidget(self.strike_button)
        column.addLayout(last)
        self.problem = problem_label()
        column.addWidget(self.problem)
        return frame

    def _to_write(self) -> QHBoxLayout:
        """The row in which a run is typed."""
        row = QHBoxLayout()
        self.value, self.wind = line("kn", 66), line("wind, kn", 78)
        self.value.setAccessibleName("Speed of the run, kn")
        self.rider, self.felt = line("Rider", 110), line("What it felt like")
        self.both = QCheckBox("out and back")
        self.both.setChecked(True)
        self.write_button, self.track_button = QPushButton("Write the run"), QPushButton("From the track")
        self.strike_button = QPushButton("Strike out…")
        self.logger_button = QPushButton("Simulated logger…")
        self.logger_button.setToolTip("Sail what is left at a truth you state, and see what the test makes of it")
        self.logger_button.clicked.connect(lambda: self.logger_asked.emit(self.test()))
        self.track_button.setToolTip("Cut the track of the chosen session at its stops ashore: a run between two stops")
        self.write_button.clicked.connect(self.write)
        self.track_button.clicked.connect(self.take_track)
        self.strike_button.clicked.connect(self._strike)
        for field in (self.value, self.wind, self.rider, self.felt):
            field.returnPressed.connect(self.write)
        for part in (self.value, self.both, self.wind, self.rider, self.felt, self.write_button):
            row.addWidget(part, 1 if part is self.felt else 0)
        return row

    # showing

    def showEvent(self, event: QShowEvent) -> None:
        """The clock runs while it is looked at."""
        super().showEvent(event)
        self._ticks.start()

    def hideEvent(self, event: QHideEvent) -> None:
        """The clock rests."""
        super().hideEvent(event)
        self._ticks.stop()

    def _tell_clock(self) -> None:
        """How long ago the last run of a test in progress was."""
        test = self.test()
        last = test.counted[-1].at if test is not None and test.counted and not test.done else ""
        self.clock.setText(since_words(last, datetime.now(UTC)))

    def test(self) -> Test | None:
        """The chosen test."""
        return self.trials.get(self._uid)

    def refresh(self) -> None:
        """Show the tests, and the chosen one."""
        tests = self.trials.all()
        self.table.blockSignals(True)
        fill_table(self.table, [(test.value.question, self._state(test)) for test in tests])
        self.table.setColumnWidth(0, 250)
        self.table.resizeRowsToContents()
        at = next((i for i, test in enumerate(tests) if test.record.uid == self._uid), 0 if tests else -1)
        if at >= 0:
            self.table.selectRow(at)
            self._uid = tests[at].record.uid
        self.table.blockSignals(False)
        self._show()

    def _state(self, test: Test) -> str:
        if not test.done and test.answer.said in ("cannot tell", "not shown"):
            return f"in progress, {len(test.counted)} runs"
        return trial_headline(test.value, test.answer)

    def choose(self, uid: str) -> None:
        """Show a test."""
        self._uid = uid
        self.refresh()

    def _chosen(self) -> None:
        at, tests = self.table.currentRow(), self.trials.all()
        if 0 <= at < len(tests):
            self._uid = tests[at].record.uid
            self.problem.setText("")
            self._show()

    def _show(self) -> None:
        test = self.test()
        for part in (self.value, self.wind, self.rider, self.felt, self.both, self.write_button, self.track_button,
                     self.strike_button, self.decided, self.card):  # fmt: skip
            part.setEnabled(test is not None)
        if test is None:
            self.question.setText(NONE)
            for label in (self.says, self.why, self.next):
                label.setText("")
            fill_table(self.runs, [])
            return
        found = test.answer
        self.question.setText(f"{test.value.question} {test.value.board}")
        self.says.setText(trial_headline(test.value, found))
        mark = " Its runs are of the simulated logger." if test.simulated else ""
        self.why.setText(explained(test.value, found) + mark)
        self.picture.show_test(test.value, test.counted, found)
        fill_table(self.runs, trial_run_rows(test.value, test.runs))
        riders = list(dict.fromkeys(run.rider for run in test.counted if run.rider))
        self.next.setText(next_words(test.value, test.counted, riders))
        self.write_button.setEnabled(not test.done)
        self.logger_button.setEnabled(not test.done)
        self._tell_clock()
        if not self.rider.isModified():
            self.rider.setText(riders[-1] if riders else self.session.brief.rider.name)
        if not self.decided.hasFocus():
            self.decided.setText(test.value.decided)

    # doing

    def write(self) -> None:
        """Write the next run."""
        test = self.test()
        if test is None:
            return
        try:
            value = number(self.value.text(), "Run", "Type its speed like 23.4") * KNOT
            wind = number(self.wind.text(), "Wind", "Like 15, or nothing") * KNOT if self.wind.text().strip() else 0.0
            if value <= 0:
                raise InputError("it stood still", where="Run", accepts="Type its speed like 23.4")
            self.trials.sail(
                test,
                within(limit_of(TrialRun, "value"), value, "Speed"),
                both_ways=self.both.isChecked(),
                rider=self.rider.text().strip(),
                wind=within(limit_of(TrialRun, "wind"), wind, "Wind"),
                felt=self.felt.text().strip(),
            )
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        for field in (self.value, self.wind, self.felt):
            field.clear()
        self.problem.setText("")
        self.value.setFocus()
        self.refresh()

    def take_track(self) -> None:
        """Take the runs of the chosen session's track, or the newest of this board, from where the test stands."""
        test, logbook = self.test(), self.session.service(Logbook)
        if test is None:
            self.problem.setText("Plan a test first.")
            return
        try:
            one, track = self.trials.track_for(test, self._session())
        except InputError as error:
            self.problem.setText(str(error))
            return
        read = logbook.look_at(track)
        if read is None:
            self.problem.setText("The track is being read: once more in a moment.")
            return
        wind = one.value.wind_from if one.value.wind_from is not None else read.wind.bearing if read.wind else None
        cut = legs(read, test.value.measure, wind)
        taken = self.trials.from_track(test, cut, track.value.sha, simulated=track.origin == "simulated")
        self.problem.setText(f"{taken} runs from {track.value.name} of {one.value.day}, cut at stops ashore.")
        self.refresh()

    def decide(self) -> None:
        """Keep what was decided on the test."""
        from dataclasses import replace

        test = self.test()
        if test is not None and self.decided.text().strip() != test.value.decided:
            self.trials.change(test, replace(test.value, decided=self.decided.text().strip()))

    def _strike(self) -> None:
        test, at = self.test(), self.runs.currentRow()
        if test is not None and 0 <= at < len(test.runs):
            self.strike_asked.emit(test.runs[at])
        else:
            self.problem.setText("Choose the run that is to be struck out.")
