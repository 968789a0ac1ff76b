"""Tables of figures to read, not to type in."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem

from kelvor.ui.theme.style import font


def figures_table(heads: tuple[str, ...]) -> QTableWidget:
    """A table with these heads, rows chosen as a whole."""
    found = QTableWidget(0, len(heads))
    found.setHorizontalHeaderLabels(list(heads))
    found.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    found.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    found.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    found.verticalHeader().setVisible(False)
    found.verticalHeader().setDefaultSectionSize(25)
    found.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    found.horizontalHeader().setDefaultSectionSize(40)
    found.horizontalHeader().setStretchLastSection(True)
    found.setAccessibleName(", ".join(heads))
    found.setShowGrid(False)
    found.setObjectName("figures")
    found.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
    found.setFont(font(12))
    found.horizontalHeader().setFont(font(12))
    return found


def fill(table: QTableWidget, rows: list[tuple[str, ...]]) -> None:
    """Show rows; the chosen one stays chosen."""
    at = table.currentRow()
    table.setRowCount(len(rows))
    for i, row in enumerate(rows):
        for j, words in enumerate(row):
            table.setItem(i, j, QTableWidgetItem(words))
    if 0 <= at < len(rows):
        table.selectRow(at)
