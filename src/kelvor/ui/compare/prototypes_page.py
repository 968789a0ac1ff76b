"""Prototypes in a table and as a family picture: what tells them apart, in the order of one figure."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.units import inside
from kelvor.core.compare.compare_jobs import curve_job
from kelvor.core.compare.curves import CURVES
from kelvor.core.compare.prototypes import Prototype, differing_figures, limits_seen, ranked_boards
from kelvor.core.evaluation.book import BOOK, BY_KEY
from kelvor.core.evaluation.subject import Subject
from kelvor.core.rack.cards import Drawn
from kelvor.core.rack.rack_jobs import card_job
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.compare.multiples import Multiples, Small, outline_of
from kelvor.ui.compare.prototypes import WHICH, prototypes_of
from kelvor.ui.compare.shown.prototypes import BEHIND, clearest_limit_words, columns, row_cells, small_words
from kelvor.ui.controls.copy_out import TakenOut, table_rows
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.session.overlays import Wanted, lay_behind
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.workshop.writes import KeepCards

OUTLINES = "outlines"
MOST = 60
"""So many boards are drawn in a picture of lines."""


class FamilyPage(QWidget):
    """A table whose first figure ranks the boards, or the boards small beside one another."""

    opened = Signal(int)
    """A board was asked for, by its id."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.boards: list[Prototype] = []
        self._lines: dict[tuple[str, str], tuple[Array, Array]] = {}
        self._asked_for: list[tuple[str, str]] = []
        self._cards: dict[int, Drawn] = {}
        self._missing: list[int] = []
        self._counting = WorkerQuestion(
            self,
            "Boards of the family were not counted",
            self._counted,
            failed=partial(session.message.emit, "problem"),
        )
        self._asked = WorkerQuestion(
            self,
            "Lines of the boards were not counted",
            self._take_lines,
            failed=partial(session.message.emit, "problem"),
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.addLayout(self._bar())
        self.seen = plain_label()
        self.seen.setWordWrap(True)
        column.addWidget(self.seen)
        self.table, self.picture = QTableWidget(0, 0), Multiples()
        self.table.setAccessibleName("Prototypes")
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.verticalHeader().setVisible(False)
        header = self.table.horizontalHeader()
        header.setSectionsMovable(True)
        header.setToolTip("Drag a figure to the front: the boards stand in its order")
        header.sectionMoved.connect(lambda *_: self._dragged())
        self.scrolled = QScrollArea()
        self.scrolled.setWidgetResizable(True)
        self.scrolled.setWidget(self.picture)
        self.taken_out = TakenOut(self.table, lambda: "Prototypes", partial(table_rows, self.table))
        self.taken_out.told = self.picture.taken_out.told = session.message.emit
        self.pages = QStackedWidget()
        self.pages.addWidget(self.table)
        self.pages.addWidget(self.scrolled)
        column.addWidget(self.pages, 1)
        self.which.currentIndexChanged.connect(lambda _: self.refresh())
        self.shown.currentIndexChanged.connect(lambda _: self._show())
        self.order.currentIndexChanged.connect(lambda _: self._show())
        self.falling.toggled.connect(lambda _: self._show())
        self.table.cellActivated.connect(lambda row, _column: self._open(row))

    def _bar(self) -> QHBoxLayout:
        """Which boards, shown how and in what order."""
        bar = QHBoxLayout()
        self.which, self.order, self.shown = QComboBox(), QComboBox(), QComboBox()
        for box, name in ((self.which, "Which boards"), (self.shown, "Shown as"), (self.order, "In the order of")):
            box.setAccessibleName(name)
            box.setToolTip(name)
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(10)
            bar.addWidget(box, 1)
        for key, words in WHICH:
            self.which.addItem(words, key)
        self.shown.addItem("As a table", "")
        self.shown.addItem("As outlines", OUTLINES)
        for curve in CURVES:
            self.shown.addItem(f"As lines: {inside(curve.words)}", curve.key)
        self.falling = QPushButton("Most first")
        self.falling.setCheckable(True)
        bar.addWidget(self.falling)
        self.behind = QPushButton("Lay behind")
        self.behind.setToolTip("Compare the chosen ones with the board on the bench, beside those compared already")
        self.behind.clicked.connect(lambda _=False: self.lay_chosen())
        bar.addWidget(self.behind)
        return bar

    def refresh(self) -> None:
        """Read the boards anew."""
        try:
            self.boards = prototypes_of(self.session, self.which.currentData(), self._cards)
        except InputError as error:
            self.session.message.emit("problem", str(error))
            return
        figures = differing_figures(self.boards, BOOK)
        kept = self.order.currentData()
        self.order.blockSignals(True)
        self.order.clear()
        for definition in figures:
            self.order.addItem(definition.label, definition.key)
        at = self.order.findData(kept)
        self.order.setCurrentIndex(
            at if at >= 0 else self.order.findData("volume") if self.order.findData("volume") >= 0 else 0
        )
        self.order.blockSignals(False)
        self._show()
        self._count_missing()

    def _count_missing(self) -> None:
        """Have the boards counted that were never counted; they are kept for the rack."""
        missing = [b for b in self.boards if not b.half and b.step and b.step not in self._cards]
        if not missing or self._counting.under_way:
            return
        jobs = []
        self._missing = []
        for board in missing:
            subject = self._subject(board)
            if subject is not None:
                jobs.append((subject,))
                self._missing.append(board.step)
        if jobs:
            self._counting.ask(card_job, jobs)

    def _counted(self, results: list[Drawn | None]) -> None:
        nothing = Drawn({}, ())
        found = dict(zip(self._missing, results, strict=True))
        self._cards |= {step: drawn or nothing for step, drawn in found.items()}
        kept = {step: drawn for step, drawn in found.items() if drawn is not None and step > 0}
        if kept:
            self.session.workshop.saving.put(KeepCards(kept))
        self.refresh()

    def _subject(self, board: Prototype) -> Subject | None:
        """A board as a worker needs it; None where it cannot be read."""
        session = self.session
        try:
            own = board.board == session.board_id
            store = session.workshop.store
            shape = session.board_at(board.step) if own else store.board(board.step)
            brief = session.brief if own else store.brief(board.board)
        except InputError:
            return None
        return Subject(shape, brief, session.table, session.coefficients)

    def shown_boards(self) -> list[Prototype]:
        """The boards in the order of the chosen figure."""
        key = self.order.currentData()
        return ranked_boards(self.boards, key, falling=self.falling.isChecked()) if key else self.boards

    def _show(self) -> None:
        system = self.session.system
        as_table = not self.shown.currentData()
        seen = clearest_limit_words(limits_seen(self.boards, BOOK), self.boards, self._here(), system)
        self.seen.setText(" ".join(words for words in ("" if as_table else BEHIND, seen) if words))
        self.seen.setVisible(bool(self.seen.text()))
        self.pages.setCurrentIndex(0 if as_table else 1)
        if as_table:
            self._fill()
        else:
            self._draw()

    def _here(self) -> str:
        return f"{self.session.board_id}.{self.session.current}"

    def _fill(self) -> None:
        boards, table = self.shown_boards(), self.table
        figures = differing_figures(boards, BOOK)
        key = self.order.currentData()
        figures = tuple(sorted(figures, key=lambda d: d.key != key))
        self._columns = columns(boards, figures)
        header = table.horizontalHeader()
        header.blockSignals(True)
        table.setRowCount(0)
        table.setColumnCount(0)  # columns that were dragged stand as they came again
        table.setColumnCount(len(self._columns))
        table.setHorizontalHeaderLabels([c.words for c in self._columns])
        table.setRowCount(len(boards))
        for i, board in enumerate(boards):
            for k, words in enumerate(row_cells(board, self._columns, self.session.system)):
                item = QTableWidgetItem(words)
                item.setToolTip(words)
                item.setFont(font(13, 600) if board.key == self._here() else font(13))
                right = self._columns[k].figure is not None
                side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
                item.setTextAlignment(int(side | Qt.AlignmentFlag.AlignVCenter))
                table.setItem(i, k, item)
        table.resizeColumnsToContents()
        for k in range(table.columnCount()):
            table.setColumnWidth(k, min(table.columnWidth(k), 220))
        header.blockSignals(False)

    def _dragged(self) -> None:
        """The figure that was dragged foremost ranks the boards."""
        header = self.table.horizontalHeader()
        order = [self._columns[header.logicalIndex(i)] for i in range(header.count())]
        first = next((c.figure for c in order if c.figure is not None), None)
        if first is not None and first.key != self.order.currentData():
            self.order.setCurrentIndex(self.order.findData(first.key))

    def _draw(self) -> None:
        curve, key, system = self.shown.currentData(), self.order.currentData(), self.session.system
        boards = self.shown_boards()[:MOST]
        found = []
        for board in boards:
            if curve == OUTLINES:
                x, y = outline_of(board.half, board.figures.get("length", 0.0))
            else:
                x, y = self._lines.get((board.key, curve), (np.zeros(0), np.zeros(0)))
            found.append(
                Small(board.key, board.name, small_words(board, BY_KEY.get(key or ""), system), x, y, curve == OUTLINES)
            )
        self.picture.show_boards(found, self._here())
        missing = [b for b in boards if curve != OUTLINES and (b.key, curve) not in self._lines and b.step]
        if missing and not self._asked.under_way:
            self._ask(missing, curve)

    def _ask(self, boards: list[Prototype], curve: str) -> None:
        jobs = []
        self._asked_for = []
        for board in boards:
            subject = self._subject(board)
            if subject is not None:  # else it stands there without a line
                jobs.append((subject, curve))
                self._asked_for.append((board.key, curve))
        if jobs:
            self._asked.ask(curve_job, jobs)

    def _take_lines(self, results: list[tuple[Array, Array] | None]) -> None:
        nothing = np.zeros(0), np.zeros(0)
        for key, found in zip(self._asked_for, results, strict=True):
            self._lines[key] = found or nothing
        self._show()

    def chosen(self) -> list[Prototype]:
        """The boards chosen in the table, or in the picture."""
        boards = self.shown_boards()
        if self.shown.currentData():
            return [board for board in boards if board.key == self.picture.key]
        rows = sorted({index.row() for index in self.table.selectionModel().selectedRows()})
        return [boards[row] for row in rows if row < len(boards)]

    def lay_chosen(self) -> None:
        """Compare the chosen ones, beside those compared already."""
        wanted = [b for b in self.chosen() if b.step and b.step != self.session.current]
        lay_behind(self.session, [Wanted(b.name, b.board, b.step, b.number) for b in wanted], beside=True)

    def _open(self, row: int) -> None:
        boards = self.shown_boards()
        if 0 <= row < len(boards) and boards[row].board not in (0, self.session.board_id):
            self.opened.emit(boards[row].board)
