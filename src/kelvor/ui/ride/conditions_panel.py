"""Conditions: wind or speed on a slider, the gear in use, and the chosen figure over the whole range."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QPushButton, QSlider, QVBoxLayout, QWidget

from kelvor.core.base.limits import Limit
from kelvor.core.base.units import Quantity, text
from kelvor.core.ride import condition as conditions
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.controls.fields import QuantityField
from kelvor.ui.controls.panel import heading
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.ride.shown.ride import gear_name, has_foils, range_chart
from kelvor.ui.session.session import Session
from kelvor.ui.shown.charts import PictureBehind
from kelvor.ui.theme.style import font

STEPS = 100


class ConditionsPanel(QWidget):
    """The condition the ride is looked at in."""

    coefficients_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._figure = ""
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(5)
        top = QHBoxLayout()
        top.addWidget(heading("Conditions"))
        top.addStretch(1)
        self.own = QPushButton("As in the brief")
        self.own.setToolTip("Back to the wind or speed the brief names")
        self.own.clicked.connect(lambda: self._set(None))
        top.addWidget(self.own)
        column.addLayout(top)
        column.addLayout(self._chosen())
        self.over = QLabel()
        self.over.setFont(font(12, 600))
        self.over.setWordWrap(True)
        column.addWidget(self.over)
        self.chart = ChartWidget("Figure over the range", small=True)
        self.chart.taken_out.told = session.message.emit
        self.chart.setFixedHeight(132)
        column.addWidget(self.chart)
        below = QHBoxLayout()
        self.progress = QLabel()
        self.progress.setObjectName("quiet")
        self.progress.setFont(font(11))
        self.stop = QPushButton("Stop")
        self.stop.clicked.connect(session.service(RideRequests).stop_sweep)
        below.addWidget(self.progress, 1)
        below.addWidget(self.stop)
        column.addLayout(below)
        session.service(RideRequests).swept.connect(self.show_range)

    def _chosen(self) -> QGridLayout:
        """Wind or speed, and the gear."""
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
        grid.setColumnStretch(1, 1)
        self.words = QLabel()
        self.value = QuantityField("Wind or speed", Limit(0.2, 40.0, Quantity.SPEED))
        self.value.changed.connect(self._set)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setAccessibleName("Wind or speed")
        self._follow = Throttle(self, 120, self._slid)
        self.slider.valueChanged.connect(lambda _: self._follow.call())
        first = QHBoxLayout()
        first.addWidget(self.words)
        first.addStretch(1)
        self.value.setMaximumWidth(86)
        self.value.setAlignment(Qt.AlignmentFlag.AlignRight)
        first.addWidget(self.value)
        grid.addLayout(first, 0, 0, 1, 2)
        grid.addWidget(self.slider, 1, 0, 1, 2)
        self.gear_label, self.foil_label = QLabel(), QLabel("Foil")
        self.gear, self.foil = QComboBox(), QComboBox()
        self.gear.setAccessibleName("Gear in use")
        self.foil.setAccessibleName("Foil in use")
        self.gear.activated.connect(
            lambda i: self.session.briefs.set(replace(self.session.brief, wing_in_use=i), "the gear in use")
        )
        self.foil.activated.connect(
            lambda i: self.session.briefs.set(replace(self.session.brief, foil_in_use=i), "the foil in use")
        )
        for row, (label, box) in enumerate(((self.gear_label, self.gear), (self.foil_label, self.foil)), start=2):
            grid.addWidget(label, row, 0)
            grid.addWidget(box, row, 1)
        return grid

    def refresh(self, figure: str) -> None:
        """Show the condition, the gear, and a figure over the range."""
        self._figure = figure
        session = self.session
        brief = session.brief
        windy = conditions.windy(brief)
        low, high = conditions.span(brief)
        now = session.service(RideRequests).condition
        value = now.wind if windy else now.pace
        self.words.setText(
            f"Wind at {text(brief.wind.height, Quantity.HEIGHT, session.system)}, {brief.wind.kind}"
            if windy
            else "Speed"
        )
        self.value.show_value(value, session.system)
        self.slider.blockSignals(True)
        self.slider.setValue(round((value - low) / max(high - low, 1e-9) * STEPS))
        self.slider.blockSignals(False)
        name = gear_name(brief)
        for label, box, entries, at, shown in (
            (
                self.gear_label,
                self.gear,
                [f"{w.name}, {text(w.area, Quantity.SAIL_AREA, session.system)}" for w in brief.wings],
                brief.wing_in_use,
                bool(name),
            ),
            (
                self.foil_label,
                self.foil,
                [f"{f.name}, {text(f.area, Quantity.AREA, session.system)}" for f in brief.foils],
                brief.foil_in_use,
                has_foils(brief),
            ),
        ):
            label.setVisible(shown)
            box.setVisible(shown)
            box.clear()
            box.addItems(entries or ["none in the brief"])
            box.setCurrentIndex(max(0, min(at, len(entries) - 1)))
        self.gear_label.setText(name)
        self.show_range()

    def _slid(self) -> None:
        low, high = conditions.span(self.session.brief)
        self._set(low + (high - low) * self.slider.value() / STEPS)

    def _set(self, value: float | None) -> None:
        self.session.service(RideRequests).set_condition(value)
        now = self.session.service(RideRequests).condition
        shown = now.wind if conditions.windy(self.session.brief) else now.pace
        self.value.show_value(shown, self.session.system)
        self.refresh(self._figure)

    def show_range(self) -> None:
        """The figure over the range, and how far the counting is."""
        if not self.isVisible():
            return
        session, riding = self.session, self.session.service(RideRequests)
        figure = session.results.figures().get(self._figure)
        counted, jobs = riding.sweeping()
        self.progress.setText(f"counting the range, {counted} of {jobs}" if jobs else "")
        self.stop.setVisible(jobs > 0)
        if figure is None:
            return
        windy = conditions.windy(session.brief)
        now = riding.condition
        chart, pinned = range_chart(
            figure.definition, riding.sweep, riding.pinned_sweep, now.wind if windy else now.pace, session.system, windy
        )
        steady = chart is not None and float(chart.lines[0].y.max() - chart.lines[0].y.min()) <= 1e-9 + 1e-6 * abs(
            float(chart.lines[0].y[0])
        )
        self.chart.empty = "Counting." if jobs else ""
        self.over.setText(
            f"{figure.definition.label}, over the range"
            if (chart is not None and not steady) or jobs
            else f"{figure.definition.label} does not change with the {'wind' if windy else 'speed'}."
        )
        self.chart.setVisible(jobs > 0 or (chart is not None and not steady))
        behind = () if pinned is None else (PictureBehind(pinned, session.overlays.name()),)
        self.chart.show_chart(None if steady else chart, behind, session.system)
