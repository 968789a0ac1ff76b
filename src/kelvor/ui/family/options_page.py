"""Options: construction × size × boxes × straps, with weight, cost and price; what a shop has to stock."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.core.family.options import Cell, boxes_of, options_job, straps_of
from kelvor.core.register.record import Record
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.controls.panel import caution_label, heading, panel, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.families import Families
from kelvor.ui.family.shown.options import CAUTION, FACTOR, matrix_rows, option_words, stock_rows
from kelvor.ui.session.session import Session

FIRST = 3
"""So many constructions are ticked at first."""


class OptionsPage(QWidget):
    """What is offered at the left, the matrix at the right, what to stock below."""

    print_asked = Signal(object)
    """The matrix is to be printed: rows, heads, stock."""

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self._sizes: list[tuple[str, Board]] = []
        self._cells: list[tuple[str, tuple[Cell, ...]]] = []
        self._asked_for: tuple[object, ...] = ()
        self._asking = WorkerQuestion(
            self, "The options were not counted", self._counted, self._went, failed=self._fail
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._left(), 0)
        row.addWidget(self._right(), 1)

    def _left(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        frame.setFixedWidth(286)
        column.setContentsMargins(12, 10, 12, 10)
        self.constructions, self.boxes, self.straps = QListWidget(), QListWidget(), QListWidget()
        for words, ticked, high in (("Constructions", self.constructions, 6), ("Boxes", self.boxes, 4),
                                    ("Straps", self.straps, 2)):  # fmt: skip
            ticked.setAccessibleName(words)
            ticked.itemChanged.connect(lambda _: self.count())
            column.addWidget(heading(words))
            column.addWidget(ticked, high)
        row = QHBoxLayout()
        self.factor, self.number = QLineEdit(f"{FACTOR:g}"), QLineEdit("1")
        for words, field, name in (
            ("Price is cost ×", self.factor, "Price over cost"),
            ("of each", self.number, "Boards of each to stock"),
        ):
            field.setAccessibleName(name)
            field.setFixedWidth(46)
            field.editingFinished.connect(self._show)
            row.addWidget(QLabel(words))
            row.addWidget(field)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(caution_label(CAUTION))
        return frame

    def _right(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        self.head = heading("Options")
        column.addWidget(self.head)
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setVisible(False)
        column.addWidget(self.progress)
        self.table: QTableWidget = figures_table(("Size", "Boxes and straps"))
        self.table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectItems)
        self.table.setSelectionMode(QTableWidget.SelectionMode.ExtendedSelection)
        self.table.setWordWrap(True)
        self.table.itemSelectionChanged.connect(self._show_stock)
        column.addWidget(self.table, 3)
        self.stock_head = heading("To stock")
        column.addWidget(self.stock_head)
        self.stock: QTableWidget = figures_table(("Thing", "How much"))
        column.addWidget(self.stock, 2)
        row = QHBoxLayout()
        self.problem = problem_label()
        self.print_button = QPushButton("Matrix on paper…")
        self.print_button.clicked.connect(lambda _=False: self.ask_print())
        row.addWidget(self.problem, 1)
        row.addWidget(self.print_button)
        column.addLayout(row)
        return frame

    # showing

    def refresh(self) -> None:
        """Offer what the family's boards can have, and count it."""
        family = self.family()
        try:
            rows = [(self.session.board.name, self.session.board)]
            if family is not None:
                parent = self.families.parent_of(family)[1]
                rows = [(parent.name, parent), *((s.board.name, s.board) for s in self.families.sizes(family.uid))]
        except KelvorError as error:
            self._fail(str(error))
            return
        self._sizes = sorted(rows, key=lambda row: row[1].length)
        first = rows[0][1]
        there = self.session.workshop.tables.constructions(self.session.brief.discipline)
        self._offer(self.constructions, [c.name for c in there], FIRST)
        self._offer(self.boxes, list(boxes_of(first)), 2)
        self._offer(self.straps, list(straps_of(first)), 2)
        self.count()

    def _offer(self, ticked: QListWidget, words: list[str], first: int) -> None:
        if [ticked.item(i).text() for i in range(ticked.count())] == words:
            return
        ticked.blockSignals(True)
        ticked.clear()
        for i, word in enumerate(words):
            item = QListWidgetItem(word)
            item.setCheckState(Qt.CheckState.Checked if i < first else Qt.CheckState.Unchecked)
            ticked.addItem(item)
        ticked.blockSignals(False)

    def ticked(self, offered: QListWidget) -> list[str]:
        """What is ticked of what is offered."""
        items = [offered.item(i) for i in range(offered.count())]
        return [item.text() for item in items if item.checkState() == Qt.CheckState.Checked]

    def _chosen(self) -> list[Construction]:
        names = self.ticked(self.constructions)
        there = self.session.workshop.tables.constructions(self.session.brief.discipline)
        return [c for c in there if c.name in names]

    def count(self) -> None:
        """Ask for every size in all that is ticked."""
        chosen, boxes, straps = self._chosen(), self.ticked(self.boxes), self.ticked(self.straps)
        asked = tuple(self._sizes), tuple(chosen), tuple(boxes), tuple(straps), self.session.table
        if asked == self._asked_for:
            self._show()
            return
        self._asked_for = asked
        if not (chosen and boxes and straps):
            self._cells = []
            self._fail("Tick a construction, boxes and straps.")
            self._show()
            return
        self.problem.setText("")
        self.progress.setRange(0, len(self._sizes))
        self.progress.setValue(0)
        self.progress.setVisible(True)
        self._asking.ask(options_job, [(board, self.session.table, chosen, boxes, straps) for _, board in self._sizes])

    def _went(self, done: int, _: object) -> None:
        self.progress.setValue(done)

    def _counted(self, results: list[tuple[Cell, ...]]) -> None:
        self.progress.setVisible(False)
        self._cells = [(name, cells) for (name, _), cells in zip(self._sizes, results, strict=True)]
        self._show()

    def _fail(self, words: str) -> None:
        self.progress.setVisible(False)
        self.problem.setText(words)

    def _numbers(self) -> tuple[float, int]:
        try:
            factor, number = float(self.factor.text().replace(",", ".")), int(self.number.text())
            if 0 < factor < 100 and 0 < number < 1000:
                return factor, number
        except ValueError:
            pass
        self._fail("Give a price factor such as 1.8 and whole boards such as 2.")
        return FACTOR, 1

    def rows(self) -> tuple[tuple[str, ...], list[tuple[str, ...]]]:
        """Heads and rows of the matrix."""
        names = [c.name for c in self._chosen()]
        rates = self.session.table.rates
        return ("Size", "Boxes and straps", *names), matrix_rows(
            self._cells, names, self._numbers()[0], rates.currency, self.session.system
        )

    def _show(self) -> None:
        heads, rows = self.rows()
        cells = sum(len(cells) for _, cells in self._cells)
        self.head.setText(f"Options: {cells} boards")
        self.table.setColumnCount(len(heads))
        self.table.setHorizontalHeaderLabels(list(heads))
        marked = [(i.row(), i.column()) for i in self.table.selectedIndexes()]
        self.table.blockSignals(True)
        fill_table(self.table, rows)
        self.table.clearSelection()
        for at, column in marked:
            item = self.table.item(at, column)
            if item is not None:
                item.setSelected(True)
        self.table.blockSignals(False)
        self.table.resizeRowsToContents()
        self._show_stock()

    def chosen_cells(self) -> list[Cell]:
        """The cells that are chosen in the matrix; all of the first construction where none is."""
        heads, rows = self.rows()
        names, chosen = heads[2:], []
        marked = {(i.row(), i.column()) for i in self.table.selectedIndexes() if i.column() > 1}
        size = ""
        for at, row in enumerate(rows):
            size = row[0] or size
            cells = next((cells for name, cells in self._cells if name == size), ())
            for column, name in enumerate(names, 2):
                if (at, column) in marked or (not marked and column == 2 and row[0]):
                    there = (cell for cell in cells if cell.construction == name)
                    chosen += [cell for cell in there if option_words(cell.boxes, cell.straps) == row[1]]
        return chosen

    def _show_stock(self) -> None:
        cells = self.chosen_cells()
        number = self._numbers()[1]
        self.stock_head.setText(f"To stock: {number} of each of {len(cells)} chosen" if cells else "To stock")
        fill_table(self.stock, stock_rows(cells, number))

    def ask_print(self) -> None:
        """The matrix on paper."""
        heads, rows = self.rows()
        self.print_asked.emit(
            (heads, rows, stock_rows(self.chosen_cells(), self._numbers()[1]), self.stock_head.text())
        )
