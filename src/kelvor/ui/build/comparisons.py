"""What a layer buys, and ways to build the same shape side by side; both are counted beside the window."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from kelvor.core.evaluation.jobs import built_job, worth_job
from kelvor.core.levers.layer_benefit import Built, Worth, worth_asked
from kelvor.core.shape.parts.construction import Construction
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.build.shown.build import (
    AS_BUILT,
    side_heads,
    side_rows,
    side_sentence,
    worth_heads,
    worth_rows,
)
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

MOST = 8
"""Constructions shown beside each other."""


class LayersWorth(QWidget):
    """For every layer, what one more or one less changes."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        self.table = figures_table(worth_heads(session.table.rates.currency))
        column.addWidget(self.table, 1)
        self.words = QLabel()
        self.words.setObjectName("quiet")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.counting = WorkerQuestion(
            self, "What layers buy was not counted", self._show, self._so_far, failed=self.words.setText
        )

    def refresh(self) -> None:
        """Count anew for the board on the bench."""
        session = self.session
        if session.board.construction is None:
            self.counting.drop()
            fill_table(self.table, [])
            self.words.setText("Choose a construction: then each of its layers is counted here.")
            return
        self.words.setText("Counting…")
        asked = worth_asked(session.board.construction)
        self.counting.ask(worth_job, [(session.subject(), ply, change) for ply, change in asked])

    def _so_far(self, count: int, _newest: Worth | None) -> None:
        self.words.setText(f"Counting… {count} of {self.counting.jobs} changes so far")

    def _show(self, found: list[Worth | None]) -> None:
        worth = [item for item in found if item is not None]
        self.table.setHorizontalHeaderLabels(worth_heads(self.session.table.rates.currency))
        fill_table(self.table, worth_rows(tuple(worth)))
        self.words.setText(
            "One layer less (−1) or more (+1), all else as it is. Bends and twists: the whole board. Dents: under the "
            "front foot."
        )


class SideBySide(QWidget):
    """The shape on the bench as each construction of the workshop would build it."""

    chosen = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.ways: list[tuple[Construction, Built]] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        self.table = figures_table(side_heads(session.table.rates.currency))
        self.table.itemSelectionChanged.connect(self._said)
        column.addWidget(self.table, 1)
        self.sentence = QLabel()
        self.sentence.setWordWrap(True)
        column.addWidget(self.sentence)
        self.use = QPushButton("Build it this way")
        self.use.clicked.connect(self._use)
        column.addWidget(self.use, 0, Qt.AlignmentFlag.AlignLeft)
        self._asked: list[Construction] = []
        self.counting = WorkerQuestion(
            self, "Ways to build it were not counted", self._show, self._so_far, failed=self.sentence.setText
        )

    def refresh(self) -> None:
        """Count anew for the shape on the bench."""
        session, now = self.session, self.session.board.construction
        shown = list(session.workshop.tables.constructions(session.brief.discipline))
        if now is not None:
            shown = [replace(now, name=AS_BUILT), *(c for c in shown if c != now)]
        self._asked = shown[:MOST]
        self.counting.ask(built_job, [(session.subject(), way) for way in self._asked])

    def _so_far(self, count: int, _newest: Built | None) -> None:
        self.sentence.setText(f"Counting… {count} so far")

    def _show(self, found: list[Built | None]) -> None:
        ways = [(way, built) for way, built in zip(self._asked, found, strict=True) if built is not None]
        self.ways = ways
        self.table.setHorizontalHeaderLabels(side_heads(self.session.table.rates.currency))
        fill_table(self.table, side_rows(ways, self.session.system))
        self._said()

    def _other(self) -> tuple[Construction, Built] | None:
        """The chosen row, unless it is how the board is built now."""
        at, first = self.table.currentRow(), 0 if self.session.board.construction is None else 1
        return self.ways[at] if first <= at < len(self.ways) else None

    def _said(self) -> None:
        other = self._other()
        self.use.setEnabled(other is not None)
        if other is not None and self.session.board.construction is not None:
            self.sentence.setText(side_sentence(other, self.ways[0]))
        else:
            self.sentence.setText("Choose a row to compare it with the first, which is how the board is built now.")

    def _use(self) -> None:
        other = self._other()
        if other is not None:
            self.chosen.emit(other[0])
