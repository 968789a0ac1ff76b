"""Phases of several boards side by side, under the brief and condition of the board on the bench."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QHeaderView,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.units import inside
from kelvor.core.compare.phases import phases_apart
from kelvor.core.ride.pictures import Chart
from kelvor.ui.compare.shown.compare_phases import apart_cell, condition_words, own_cell
from kelvor.ui.controls.copy_out import TakenOut, table_rows
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.shown.charts import PictureBehind, picture_in
from kelvor.ui.theme.style import colour, font

WRAPS = 3
"""From so many boards on a difference takes two lines."""


class PhasesPage(QWidget):
    """A table: a row a figure, a column a board, differences with their bands."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        self.under = plain_label()
        self.under.setWordWrap(True)
        column.addWidget(self.under)
        self.table = QTableWidget(0, 0)
        self.table.setAccessibleName("Phases side by side")
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.verticalHeader().setVisible(False)
        self.table.setWordWrap(True)
        column.addWidget(self.table, 3)
        self.charts = QComboBox()
        self.charts.setAccessibleName("Curves of all boards")
        self.charts.currentIndexChanged.connect(lambda _: self._show_chart())
        column.addWidget(self.charts)
        self.chart = ChartWidget("Curves of all boards")
        self.chart.taken_out.told = session.message.emit
        column.addWidget(self.chart, 2)
        self.taken_out = TakenOut(self.table, lambda: "Phases side by side", partial(table_rows, self.table))
        self.taken_out.told = session.message.emit

    def refresh(self) -> None:
        """Show what is known; rides still to come are said to be."""
        session, system = self.session, self.session.system
        others = session.overlays.others()
        own = session.results.as_counted()
        waits = [o.name for o in others if session.service(RideRequests).of(o.live) is None]
        self.under.setText(
            condition_words(session.brief, session.service(RideRequests).condition, others, waits, system)
        )
        self._charts()
        table = self.table
        keep = table.verticalScrollBar().value()
        table.setColumnCount(2 + len(others))
        table.setHorizontalHeaderLabels(["", "on the bench", *(o.name for o in others)])
        phases = [
            phases_apart(session.brief.discipline, own, session.service(RideRequests).figures_of(o.live))
            for o in others
        ]
        if not others:
            table.setRowCount(0)
            return
        rows = sum(1 + len(phase.figures) for phase in phases[0])
        table.clearSpans()
        table.setRowCount(rows)
        row = 0
        for i, phase in enumerate(phases[0]):
            self._put(row, 0, f"{phase.name}: {inside(phase.question)}", bold=True)
            table.setSpan(row, 0, 1, 2 + len(others))
            table.setRowHeight(row, 28)
            row += 1
            for j, first in enumerate(phase.figures):
                self._put(row, 0, first.figure.definition.label)
                self._put(row, 1, own_cell(first, system))
                for k in range(len(others)):
                    figures = {a.key: a for a in phases[k][i].figures}
                    apart = figures.get(first.key)
                    words, role, tip = apart_cell(apart, system)
                    self._put(row, 2 + k, words, role=role, tip=tip, bold=j == 0)
                table.setRowHeight(row, 38 if len(others) < WRAPS else 54)
                row += 1
        header = table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Interactive)
        header.resizeSection(0, 190)
        table.verticalScrollBar().setValue(keep)

    def _charts(self) -> None:
        """Curves the ride of the board on the bench has, each drawn for all boards."""
        ride = self.session.service(RideRequests).ride
        found = {key: p.title for key, p in ride.pictures.items() if isinstance(p, Chart)} if ride is not None else {}
        if [self.charts.itemData(i) for i in range(self.charts.count())] != list(found):
            kept = self.charts.currentData()
            self.charts.blockSignals(True)
            self.charts.clear()
            for key, title in found.items():
                self.charts.addItem(title, key)
            self.charts.setCurrentIndex(max(self.charts.findData(kept), 0))
            self.charts.blockSignals(False)
        self._show_chart()

    def _show_chart(self) -> None:
        riding, system, key = self.session.service(RideRequests), self.session.system, self.charts.currentData()
        own = riding.ride.pictures.get(key) if riding.ride is not None and key else None
        behind: list[PictureBehind[Chart]] = []
        for other in self.session.overlays.others():
            ride = riding.of(other.live)
            picture = ride.pictures.get(key) if ride is not None and key else None
            if isinstance(picture, Chart):
                behind.append(PictureBehind(picture, other.name, other.role))
        chart = picture_in(own, system) if isinstance(own, Chart) else None
        self.chart.show_chart(chart if isinstance(chart, Chart) else None, tuple(behind), system)

    def _put(self, row: int, column: int, words: str, *, role: str = "ink", tip: str = "", bold: bool = False) -> None:
        item = QTableWidgetItem(words)
        item.setFont(font(13, 600) if bold else font(13))
        item.setForeground(QBrush(colour(role)))
        item.setToolTip(tip)
        item.setTextAlignment(int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter))
        self.table.setItem(row, column, item)
