"""Lines of several boards over one ruler, and what the others have more along it."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, cast

import numpy as np
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from kelvor.core.base.units import System
from kelvor.core.compare.curves import CURVES, Datum, datum_slide, has_curve
from kelvor.core.ride.pictures import ChartLine
from kelvor.ui.compare.shown.compare import curves_of, difference_chart, line_chart
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.session.session import Session
from kelvor.ui.shown.charts import PictureBehind, picture_in

if TYPE_CHECKING:
    from kelvor.core.ride.pictures import Chart


class LinesPage(QWidget):
    """One line of all boards, and the difference strip below it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._datum: Datum = "tail"
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        self.bar = bar = QHBoxLayout()
        self.curve = QComboBox()
        self.curve.setAccessibleName("Line")
        self._curves = CURVES
        self._name_curves()
        self.curve.currentIndexChanged.connect(lambda _: self.refresh(self._datum))
        label = QLabel("Line")
        label.setBuddy(self.curve)
        bar.addWidget(label)
        bar.addWidget(self.curve)
        bar.addStretch(1)
        column.addLayout(bar)
        self.lines, self.parts = ChartWidget("Lines of the boards"), ChartWidget("Difference to the board on the bench")
        self.parts.reads_with(self.lines)
        self.lines.taken_out.told = self.parts.taken_out.told = session.message.emit
        column.addWidget(self.lines, 3)
        column.addWidget(self.parts, 2)

    def _name_curves(self) -> None:
        """Lines every board has, and those the board on the bench draws."""
        found = curves_of(self.session.live.board)
        if [c.key for c in found] != [self.curve.itemData(i) for i in range(self.curve.count())]:
            kept = self.curve.currentData()
            self.curve.blockSignals(True)
            self.curve.clear()
            for curve in found:
                self.curve.addItem(curve.words, curve.key)
            self.curve.setCurrentIndex(max(self.curve.findData(kept), 0))
            self.curve.blockSignals(False)
        self._curves = found

    def refresh(self, datum: Datum) -> None:
        """Show the boards there are, laid together at a datum."""
        self._datum = datum
        session = self.session
        live, system, others = session.live, session.system, session.overlays.others()
        self._name_curves()
        curve = self._curves[max(self.curve.currentIndex(), 0)]
        own = line_chart(live, "on the bench", curve, 0.0)
        behind: list[PictureBehind[Chart]] = []
        for other in others:
            slid = datum_slide(live, other.live, datum)
            if slid is not None and has_curve(other.live, curve):
                behind.append(
                    PictureBehind(line_chart(other.live, curve.words.lower(), curve, slid), other.name, other.role)
                )
        self.lines.show_chart(_shown(own, system), tuple(behind), system)
        roles = {other.name: other.role for other in others}
        apart = difference_chart(live, [(other.live, other.name) for other in others], curve, datum)
        zero = replace(
            own,
            title=f"{curve.words}, difference",
            caption="What the others have more than the board on the bench.",
            lines=(ChartLine("on the bench", "now", own.lines[0].x, np.zeros_like(own.lines[0].x)),),
        )
        self.parts.show_chart(
            _shown(zero, system), tuple(PictureBehind(chart, name, roles[name]) for name, chart in apart), system
        )


def _shown(chart: Chart, system: System) -> Chart:
    return cast("Chart", picture_in(chart, system))
