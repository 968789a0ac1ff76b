"""Tables of figures to read, not to type in."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from heapq import nlargest

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from kelvor.ui.theme.style import font

WIDE = 4
"""So many of a column's widest words are measured with all that surrounds them; more than one, for a cell may have a
bolder font.
"""


def figures_table(heads: tuple[str, ...]) -> QTableWidget:
    """A table with these heads, rows chosen as a whole."""
    found = QTableWidget(0, len(heads))
    found.setHorizontalHeaderLabels(list(heads))
    found.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    found.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    found.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    found.verticalHeader().setVisible(False)
    found.verticalHeader().setDefaultSectionSize(25)
    found.horizontalHeader().setDefaultSectionSize(40)
    found.horizontalHeader().setStretchLastSection(True)
    found.setAccessibleName(", ".join(heads))
    found.setShowGrid(False)
    found.setObjectName("figures")
    found.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
    found.setFont(font(12))
    found.horizontalHeader().setFont(font(12))
    return found


def fill_table(table: QTableWidget, rows: Sequence[Sequence[str]]) -> None:
    """Show rows; the chosen one stays chosen."""
    at = table.currentRow()
    table.setRowCount(len(rows))
    model = table.model()
    blocked = model.blockSignals(True)  # told once for all of them
    for i, row in enumerate(rows):
        for j, words in enumerate(row):
            table.setItem(i, j, QTableWidgetItem(words))
    model.blockSignals(blocked)
    if rows:
        model.dataChanged.emit(model.index(0, 0), model.index(len(rows) - 1, table.columnCount() - 1))
    fit_columns(table)
    if 0 <= at < len(rows):
        table.selectRow(at)


def fit_columns(table: QTableWidget) -> None:
    """Columns as wide as their heads and their widest words.

    Qt's own mode that does so measures every cell of a column anew at each cell that is set.
    """
    header, advance = table.horizontalHeader(), cache(table.fontMetrics().horizontalAdvance)
    for column in range(table.columnCount()):
        if header.sectionResizeMode(column) is not QHeaderView.ResizeMode.Interactive:
            continue
        items = (table.item(i, column) for i in range(table.rowCount()))
        wide = nlargest(WIDE, ((advance(item.text()), i) for i, item in enumerate(items) if item is not None))
        cells = [table.sizeHintForIndex(table.model().index(i, column)).width() for _, i in wide]
        table.setColumnWidth(column, max([*cells, header.sectionSizeHint(column), header.minimumSectionSize()]))
