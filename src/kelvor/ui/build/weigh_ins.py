"""Weigh-ins: what the scale says at each stage beside what was forecast."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import masses, within
from kelvor.core.base.units import Quantity, System, parse, pounds
from kelvor.core.build.mass.stages import STAGES, WeighIn
from kelvor.devices.scale import MADE_UP, parse_scale_line
from kelvor.ui.background.processes import Device
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.build import weigh_rows
from kelvor.ui.controls.panel import problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

HEADS = ("Stage", "Forecast", "Weighed", "Gap", "Where the grams came from")


FORECAST = "Forecast of the design. Begin a board under “Boards made”: what it weighs is written of it alone."
LOOSE = "Weighed before a board was begun here. The first board you begin under “Boards made” takes these weights over."


READS = 0.001
"""The scale's last digit [kg]."""


class WeighIns(QWidget):
    """The stages as a table, and a field to write a weight into: typed, or read from the scale."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        self.of = QLabel()
        self.of.setObjectName("heading")
        self.of.setWordWrap(True)
        column.addWidget(self.of)
        self.table = figures_table(HEADS)
        column.addWidget(self.table, 1)
        self.stage = QComboBox()
        self.stage.setAccessibleName("Stage")
        for stage in STAGES:
            self.stage.addItem(stage.capitalize(), stage)
        self.field = QLineEdit()
        self.field.setAccessibleName("Weighed")
        self.field.setPlaceholderText("kg, g or lb")
        self.field.returnPressed.connect(self.write)
        self.read_button = QPushButton("Read the scale")
        self.read_button.setToolTip(
            "A stand-in for a scale: it weighs a made-up board. Its readings stay marked and count nowhere"
        )
        self.read_button.clicked.connect(self.read_scale)
        self.write_button = QPushButton("Write it down")
        self.write_button.clicked.connect(self.write)
        self.back_button = QPushButton("Undo")
        self.back_button.setToolTip("Takes back what was done last (Ctrl+Z)")
        self.back_button.clicked.connect(session.undo)
        row = QHBoxLayout()
        for part in (self.stage, self.field, self.read_button, self.write_button, self.back_button):
            row.addWidget(part)
        row.addStretch(1)
        column.addLayout(row)
        self.problem = problem_label()
        column.addWidget(self.problem)
        self.scale = Device(self)
        self.scale.line.connect(self._heard)
        self.scale.stopped.connect(lambda: self.read_button.setText("Read the scale"))
        self._from_scale: float | None = None

    def refresh(self) -> None:
        """Show forecasts and weigh-ins of the made board that is chosen; forecasts of the design without one."""
        making = self.session.service(Making)
        made = making.chosen()
        for part in (self.stage, self.field, self.read_button, self.write_button):
            part.setEnabled(made is not None)
        try:
            live = making.live()
        except InputError as error:
            self.problem.setText(str(error))
            return
        if made is None:
            weighed = self.session.workshop.tables.weighed
            self.of.setText(LOOSE if weighed else FORECAST)
        else:
            weighed = made.weighed
            self.of.setText(f"{made.value.serial}, of version {making.version(made) or '?'}")
        fill_table(self.table, weigh_rows(live, weighed, self.session.system))

    def read_scale(self) -> None:
        """Read the simulated scale: it settles, then stands."""
        if self.scale.reading():
            self.scale.stop()
            return
        stage = self.stage.currentData()
        self.read_button.setText("Stop")
        self.scale.start(
            "kelvor.devices.scale", f"{MADE_UP[stage]:.3f}", str(STAGES.index(stage) + self.session.board_id)
        )

    def _heard(self, line: str) -> None:
        try:
            self._from_scale = parse_scale_line(line).mass
        except InputError as error:
            self.problem.setText(str(error))
            return
        exact = f"{self._from_scale:.3f} kg" if self.session.system is System.METRIC else pounds(self._from_scale, 2)
        self.field.setText(exact)

    def write(self) -> None:
        """Keep what was weighed."""
        words = self.field.text()
        try:
            mass = parse(words, Quantity.MASS, self.session.system)
            within(masses(0.05, 60), mass, "Board", self.session.system)
            said = self._from_scale is not None and abs(mass - self._from_scale) < READS / 2
            origin: Origin = "simulated" if said else "measured"  # however it is written
            read = self._from_scale if said and self._from_scale is not None else mass
            self.session.service(Making).weigh(WeighIn(self.stage.currentData(), read, origin))
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.field.clear()
        self._from_scale = None
        self.refresh()
