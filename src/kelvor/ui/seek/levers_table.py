"""What may move, and how far: levers to tick, with bounds to type over."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem, QVBoxLayout, QWidget

from kelvor.core.base.units import parse, text
from kelvor.core.levers.catalogue import levers
from kelvor.core.seek.problem import FAR, Move
from kelvor.ui.controls.panel import heading
from kelvor.ui.controls.tables import figures_table, fit_columns
from kelvor.ui.session.session import Session

MOVES = ("Outline", "Rocker", "Thickness", "Bottom layers", "Rails", "Deck", "Fins")
DERIVED = ("planform_area", "length_times_width", "volume")
"""Levers that are only another way to pull the same."""
USUAL = ("width", "thickness", "length", "tail_rocker")
"""What may move until somebody says otherwise (common practice, no source)."""


class MovesTable(QWidget):
    """The levers of the board on the bench, the usual ones ticked."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(heading("What may move, and how far"))
        self.table: QTableWidget = figures_table(("Lever", "Now", "From", "To"))
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.AllEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectItems)
        self.table.horizontalHeader().setStretchLastSection(False)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        column.addWidget(self.table, 1)
        self._fill()

    def _fill(self) -> None:
        session, system = self.session, self.session.system
        there = [v for v in levers(session.board) if v.group in MOVES and not v.choices and v.key not in DERIVED]
        self._levers = there
        self.table.setRowCount(len(there))
        for i, lever in enumerate(there):
            now = lever.read(session.board)
            name = QTableWidgetItem(lever.told)
            name.setFlags(Qt.ItemFlag.ItemIsUserCheckable | Qt.ItemFlag.ItemIsEnabled)
            name.setCheckState(Qt.CheckState.Checked if lever.key in USUAL else Qt.CheckState.Unchecked)
            self.table.setItem(i, 0, name)
            for column, value in ((1, now), (2, now - FAR * lever.step), (3, now + FAR * lever.step)):
                item = QTableWidgetItem(text(value, lever.quantity, system))
                if column == 1:
                    item.setFlags(Qt.ItemFlag.ItemIsEnabled)
                self.table.setItem(i, column, item)
        fit_columns(self.table)

    def moves(self) -> list[Move]:
        """The ticked levers with their bounds.

        Raises
        ------
        InputError
            When a bound is no reading.
        """
        found = []
        for i, lever in enumerate(self._levers):
            name, low, high = (self.table.item(i, column) for column in (0, 2, 3))
            if name is not None and low is not None and high is not None and name.checkState() is Qt.CheckState.Checked:
                bounds = [parse(item.text(), lever.quantity, self.session.system) for item in (low, high)]
                found.append(Move(lever=lever.key, low=bounds[0], high=bounds[1]))
        return found
