"""Compare: the board on the bench against its reference and the boards laid behind it."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, cast

import numpy as np
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from kelvor.core.compare.curves import CURVES, DATUMS, Datum, place_of, slide
from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.compare.sent import ledger_job
from kelvor.core.ride.pictures import Line
from kelvor.core.shape.board import Board
from kelvor.core.units import System
from kelvor.ui.presenters.charts import Behind, picture_in
from kelvor.ui.presenters.compare import difference_chart, first_words, ledger_lines, line_chart
from kelvor.ui.rides.chart import ChartWidget
from kelvor.ui.runner import Asked
from kelvor.ui.session import Session
from kelvor.ui.widgets.panel import heading, panel, plain_label
from kelvor.ui.widgets.rows import RowsView

if TYPE_CHECKING:
    from kelvor.core.ride.pictures import Chart
    from kelvor.ui.main_window import MainWindow

NOBODY = "Nothing to compare with yet: choose boards in the rack and press Compare, or make a version the reference."


class CompareView(QWidget):
    """Lines over one ruler, the difference strip, and the ledger of differences."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._known: tuple[tuple[Board, Board], list[Difference]] | None = None
        self._asked = Asked(
            self,
            "What explains the difference was not found",
            self._explained,
            failed=partial(session.said.emit, "problem"),
        )
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 4)
        row.setSpacing(8)
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        bar = QHBoxLayout()
        self.curve, self.datum = QComboBox(), QComboBox()
        lines, datums = [(c.key, c.words) for c in CURVES], [(d, f"the {d}") for d in DATUMS]
        for box, name, choices in ((self.curve, "Line", lines), (self.datum, "Laid together at", datums)):
            label = QLabel(name)
            label.setBuddy(box)
            box.setAccessibleName(name)
            for key, words in choices:
                box.addItem(words, key)
            box.currentIndexChanged.connect(self.refresh)
            bar.addWidget(label)
            bar.addWidget(box)
        bar.addStretch(1)
        column.addLayout(bar)
        self.told = plain_label()
        self.told.setObjectName("wrong")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.lines, self.parts = ChartWidget("Lines of the boards"), ChartWidget("Difference to the board on the bench")
        column.addWidget(self.lines, 3)
        column.addWidget(self.parts, 2)
        row.addWidget(frame, 17)
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(14, 10, 14, 10)
        column.addWidget(heading("What differs"))
        self.other = QComboBox()
        self.other.setAccessibleName("Compared with")
        self.other.currentIndexChanged.connect(self._show_ledger)
        column.addWidget(self.other)
        self.first = plain_label()
        self.first.setWordWrap(True)
        column.addWidget(self.first)
        self.rows = RowsView("Ledger of differences", value_share=1.6)
        column.addWidget(self.rows, 1)
        row.addWidget(frame, 11)
        session.live_changed.connect(self._renew)
        session.settled.connect(self._renew)
        session.units_changed.connect(self._renew)
        self.refresh()

    def showEvent(self, event: object) -> None:
        """What happened meanwhile is shown when it comes into view."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()

    def _renew(self) -> None:
        if self.isVisible():
            self.refresh()

    def refresh(self) -> None:
        """Show the boards there are."""
        session = self.session
        others = session.others()
        live, system = session.live, session.system
        curve = CURVES[max(self.curve.currentIndex(), 0)]
        datum: Datum = DATUMS[max(self.datum.currentIndex(), 0)]
        lacking = [other.name for other in others if place_of(other.live, datum) is None]
        if place_of(live, datum) is None:
            lacking.insert(0, "the board on the bench")
        self.told.setText(
            NOBODY
            if not others
            else f"No {datum} on {', '.join(lacking)}: not laid over the others."
            if lacking
            else ""
        )
        self.told.setVisible(bool(self.told.text()))
        own = line_chart(live, "on the bench", curve, 0.0)
        behind: list[Behind[Chart]] = []
        for other in others:
            slid = slide(live, other.live, datum)
            if slid is not None:
                behind.append(Behind(line_chart(other.live, curve.words.lower(), curve, slid), other.name, other.role))
        self.lines.show_chart(_shown(own, system), tuple(behind), system)
        roles = {other.name: other.role for other in others}
        apart = difference_chart(live, [(other.live, other.name) for other in others], curve, datum)
        zero = replace(
            own,
            title=f"{curve.words}, difference",
            caption="What the others have more than the board on the bench.",
            lines=(Line("on the bench", "now", own.lines[0].x, np.zeros_like(own.lines[0].x)),),
        )
        self.parts.show_chart(
            _shown(zero, system), tuple(Behind(chart, name, roles[name]) for name, chart in apart), system
        )
        names = [other.name for other in others]
        if [self.other.itemText(i) for i in range(self.other.count())] != names:
            self.other.blockSignals(True)
            self.other.clear()
            self.other.addItems(names)
            self.other.blockSignals(False)
        self._show_ledger()

    def _show_ledger(self) -> None:
        others = self.session.others()
        index = self.other.currentIndex()
        self.other.setVisible(bool(others))
        if not 0 <= index < len(others):
            self.first.setText("")
            self.rows.set_rows([])
            return
        other = others[index]
        session = self.session
        pair = session.live.board, other.live.board
        if self._known is None or self._known[0] != pair:
            self._known = pair, ledger(session.live, other.live, explained=False)
            self._asked.ask(ledger_job, [(session.subject(), session.subject(other.live))])
        self._show_differences(other.name)

    def _show_differences(self, name: str) -> None:
        found = self._known[1] if self._known is not None else []
        self.first.setText(first_words(found, name, self.session.system))
        self.rows.set_rows(ledger_lines(found, self.session.system))

    def _explained(self, results: list[list[Difference] | None]) -> None:
        """What explains the difference is known: it comes first."""
        if self._known is not None and results[0] is not None:
            self._known = self._known[0], results[0]
            self._show_differences(self.other.currentText())


def _shown(chart: Chart, system: System) -> Chart:
    return cast("Chart", picture_in(chart, system))


def compare_view(window: MainWindow) -> CompareView:
    """The Compare view of a window."""
    return CompareView(window.session)
