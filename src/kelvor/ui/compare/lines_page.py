"""Lines of several boards over one ruler, and what the others have more along it."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, cast

import numpy as np
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from kelvor.core.compare.curves import CURVES, Datum, slide
from kelvor.core.ride.pictures import Line
from kelvor.core.units import System
from kelvor.ui.presenters.charts import Behind, picture_in
from kelvor.ui.presenters.compare import difference_chart, line_chart
from kelvor.ui.rides.chart import ChartWidget
from kelvor.ui.session import Session

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
        for curve in CURVES:
            self.curve.addItem(curve.words, curve.key)
        self.curve.currentIndexChanged.connect(lambda _: self.refresh(self._datum))
        label = QLabel("Line")
        label.setBuddy(self.curve)
        bar.addWidget(label)
        bar.addWidget(self.curve)
        bar.addStretch(1)
        column.addLayout(bar)
        self.lines, self.parts = ChartWidget("Lines of the boards"), ChartWidget("Difference to the board on the bench")
        self.parts.reads_with(self.lines)
        column.addWidget(self.lines, 3)
        column.addWidget(self.parts, 2)

    def refresh(self, datum: Datum) -> None:
        """Show the boards there are, laid together at a datum."""
        self._datum = datum
        session = self.session
        live, system, others = session.live, session.system, session.others()
        curve = CURVES[max(self.curve.currentIndex(), 0)]
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


def _shown(chart: Chart, system: System) -> Chart:
    return cast("Chart", picture_in(chart, system))
