"""The rider says…: the sentence at the left; at the right what speaks of it and which changes might answer, counted on
the board on the bench.
"""

from __future__ import annotations

from collections.abc import Sequence
from textwrap import shorten

from PySide6.QtCore import Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError
from kelvor.core.compare.page import brief_words
from kelvor.core.evaluation.jobs import LeverEffect, candidate_job
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.lever import Lever
from kelvor.core.levers.locks import Change
from kelvor.core.register.record import Verdict
from kelvor.core.rider_says.saying import GROUPS, Candidate, Group, Saying, lever_for, said_of
from kelvor.core.rider_says.table import SAYINGS
from kelvor.core.rider_says.weighing import WeighedCandidate, outcomes, ranked_candidates, read_keys, weighed_candidate
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.background.timers import single_shot
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.rider_says.shown.sayings import HEADS, candidate_rows, fair_step_words, speaking
from kelvor.ui.session.session import Session
from kelvor.ui.water.trials import Trials

ASK_AFTER_MS = 200
"""What levers do is counted when typing rests this long."""


class SaysPanel(Panel):
    """A sentence, what speaks of it, its candidates; one press makes a version of one."""

    guide = "seek#the-rider-says"

    made = Signal()
    """A candidate became a version."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "The rider says…", "Make it a version")
        self.session = session
        self.saying: Saying | None = None
        self.candidates: list[WeighedCandidate] = []
        self._asked_of: list[tuple[Group, Candidate, Lever]] = []
        self._board = session.board
        self._asking = WorkerQuestion(self, "What a change does", self._counted, failed=self.problem.setText)
        self._at_rest = single_shot(self, ASK_AFTER_MS, self._ask)
        self.do.setDefault(False)
        self.do.setAutoDefault(False)
        self.do.setEnabled(False)
        self.explain(
            f"Ask first which fin or foil, what wind, and against which board. Counted for: "
            f"{brief_words(session.brief, True, session.system)}."
        )
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(self._sentences(), 2)
        row.addLayout(self._answers(), 7)
        self.column.insertWidget(2, holder, 1)
        self.resize(1180, 620)
        self._effects: Sequence[LeverEffect] = ()
        session.service(RideRequests).ridden.connect(self._ridden)
        self.typed.setFocus()
        self._tried, self._tests = self._decided(), Trials(session).all()
        self._look()

    def _sentences(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.typed = QLineEdit()
        self.typed.setAccessibleName("What the rider says")
        self.typed.setPlaceholderText("a word of it, such as slides")
        self.typed.textChanged.connect(self._look)
        column.addWidget(self.typed)
        self.list = QListWidget()
        self.list.setAccessibleName("Sentences")
        self.list.setWordWrap(True)
        self.list.currentRowChanged.connect(self._choose)
        column.addWidget(self.list, 1)
        return column

    def _answers(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.speaks, self.by_hand, self.more, self.schools = (plain_label() for _ in range(4))
        self.counting = QLabel()
        self.counting.setObjectName("quiet")
        self.table = figures_table(HEADS)
        self.table.setWordWrap(True)
        self.table.horizontalHeader().setStretchLastSection(False)
        for at in (2, 3):
            self.table.horizontalHeader().setSectionResizeMode(at, QHeaderView.ResizeMode.Stretch)
        self.table.currentCellChanged.connect(lambda *_: self._explain())
        for widget in (self.speaks, self.by_hand, self.table, self.counting, self.more, self.schools):
            if widget is not self.table:
                widget.setWordWrap(True)
            column.addWidget(widget, 1 if widget is self.table else 0)
        return column

    # the sentence

    def _look(self) -> None:
        """Show the sentences that hold what is typed."""
        self._found = said_of(SAYINGS, self.session.brief.discipline, self.typed.text())
        self.list.clear()
        for saying in self._found:
            self.list.addItem(QListWidgetItem(saying.words))
        if self._found:
            self.list.setCurrentRow(0)
        self.problem.setText("" if self._found else "No sentence of this discipline holds these words; try one word.")

    def _choose(self, at: int) -> None:
        if not 0 <= at < len(self._found):
            return
        self.saying = saying = self._found[at]
        session = self.session
        self._board = session.board
        self.candidates, self._effects = [], ()
        self._show()
        self._speak()
        self.by_hand.setText(f"By hand: {saying.hand}{f' {saying.caution}' if saying.caution else ''}")
        self.schools.setText(f"Where makers disagree: {saying.schools}" if saying.schools else "")
        there = levers(session.board)
        wanted = [(g, c, lever_for(session.board, there, c.lever)) for g, c in saying.grouped()]
        self._asked_of = [(g, c, lever) for g, c, lever in wanted if lever is not None]
        self.counting.setText("Counting what each does on this board…")
        self.counting.setVisible(bool(self._asked_of))
        self._asking.drop()
        self._at_rest.start()

    def _ask(self) -> None:
        """Typing rests: what each does is counted now, and not of every sentence on the way to a word."""
        if self.saying is not None and self.isVisible():
            keys, subject = read_keys(self.saying), self.session.subject()
            jobs = [(subject, lever.key, float(c.sign), keys) for _, c, lever in self._asked_of]
            self._asking.ask(candidate_job, jobs)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Nothing is counted for a panel that is gone."""
        self._at_rest.stop()
        self._asking.drop()
        super().closeEvent(event)

    def _speak(self) -> None:
        session = self.session
        waiting = session.service(RideRequests).ride is None
        if self.saying is not None:
            words = speaking(self.saying, session.results.figures(), session.system)
            self.speaks.setText("The ride is being counted…" if waiting else words)

    def _ridden(self) -> None:
        """A ride arrived: of a board that has changed since, or the first one."""
        if not self.isVisible():
            return
        if self.session.board != self._board:
            self._choose(self.list.currentRow())
        else:
            self._speak()
            self._weigh()

    def _counted(self, effects: Sequence[LeverEffect]) -> None:
        self._effects = effects
        self._weigh()

    def _weigh(self) -> None:
        session, saying = self.session, self.saying
        if saying is None or not self._effects or session.service(RideRequests).ride is None:
            return
        phases = [result.phase for result in session.results.evaluation.phases]
        figures = session.results.figures()
        found = ranked_candidates(
            weighed_candidate(saying, group, candidate, lever, effect, figures, phases)
            for (group, candidate, lever), effect in zip(self._asked_of, self._effects, strict=True)
        )
        self.candidates = sorted(found, key=lambda w: GROUPS.index(w.group))  # within a group as ranked
        self.counting.setVisible(False)
        self._show()
        if self.candidates and self.table.currentRow() < 0:
            self.table.selectRow(0)

    def _show(self) -> None:
        tried = [outcomes(w.candidate, w.lever, self._tried) for w in self.candidates]
        self.rows = candidate_rows(self.candidates, tried, self._tests, self.session.system)
        fill_table(self.table, [row.cells for row in self.rows])
        self.table.resizeRowsToContents()
        self._explain()

    def _explain(self) -> None:
        at = self.table.currentRow()
        there = 0 <= at < len(self.rows)
        self.more.setText(self.rows[at].more if there else "")
        self.do.setEnabled(there and not self.candidates[at].refused)

    def _decided(self) -> list[tuple[tuple[Change, ...], Verdict]]:
        """What was decided on in this workshop: the changes of each step with a verdict, of every board."""
        session, workshop = self.session, self.session.workshop
        steps, found = {session.board_id: session.steps}, []
        for record in workshop.registers.of("decision"):
            if record.board is None or record.step is None:
                continue
            if record.board not in steps:
                steps[record.board] = workshop.store.steps(record.board)
            step = steps[record.board].get(workshop.saving.ids(record.step))
            if step is not None:
                found.append((step.changes, record.value.verdict))
        return found

    # one press

    def act(self) -> bool:
        """Make a version of the chosen candidate."""
        session, saying, at = self.session, self.saying, self.table.currentRow()
        if saying is None or not 0 <= at < len(self.candidates):
            return False
        if session.board != self._board:
            raise InputError("the board has changed since: choose the sentence again", where="The rider says")
        one = self.candidates[at]
        lever, step = one.lever, one.candidate.sign * one.lever.step
        pulled = pull_lever(session.board, lever, lever.read(session.board) + step)
        words = fair_step_words(one, session.system)
        if not session.commit(pulled.board, pulled.changes, title=f"“{saying.words}”: {words}", held=True):
            return False
        reason = f"The rider says: {saying.words}. {self.rows[at].more}"
        session.versions.set_reason(session.current, shorten(reason, 380, placeholder=" …"))
        self.made.emit()
        return True
