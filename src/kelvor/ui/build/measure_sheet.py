"""The measure sheet of a made board: typed with gloves on, a number and Enter in printed order."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import limit_of, within
from kelvor.core.base.units import Quantity, parse, said_in
from kelvor.core.made.sheet import BAGGED, MeasureLine, lines_to_measure
from kelvor.core.register.kinds.shop import Tolerance
from kelvor.devices.rocker_gauge import parse_rocker_line
from kelvor.ui.background.processes import Device
from kelvor.ui.background.timers import single_shot
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.sheet import (
    SheetLine,
    built_words,
    line_rows,
    loud,
    measure_name,
    possible,
    sheet_lines,
    sheet_summary,
    tool_reading,
)
from kelvor.ui.controls.panel import problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

HEADS = ("Measure", "Should be", "Let pass", "Read", "Off", "Verdict")
NONE_YET = "What a board of this version should read. Begin one under “Boards made” to write readings of it."
PASS = 2
"""The column of what is let pass."""
TELL_AFTER_MS = 500
"""The shape as built is told when typing rests this long."""
LOUD = 34
"""Size of the last reading, legible across the room [px]."""


class _Reading(QLineEdit):
    """Takes a number and Enter; up and down walk the sheet."""

    def __init__(self, owner: MeasureSheet) -> None:
        super().__init__()
        self._owner = owner

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Walk the sheet without a mouse."""
        step = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        else:
            self._owner.walk(step)


class MeasureSheet(QWidget):
    """Every line with what it should read, what was read and the verdict; one field for all of them."""

    scan_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.making = session.service(Making)
        self.lines: list[SheetLine] = []
        self._moment = BAGGED[0]
        self._sheet: tuple[object, tuple[MeasureLine, ...]] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        self.of = QLabel()
        self.of.setObjectName("heading")
        self.of.setWordWrap(True)
        column.addWidget(self.of)
        self.table = figures_table(HEADS)
        self.table.itemSelectionChanged.connect(self._ask)
        column.addWidget(self.table, 1)
        self.next = QLabel()
        self.next.setFont(font(18, 700))
        self.next.setWordWrap(True)
        column.addWidget(self.next)
        self.field = _Reading(self)
        self.field.setAccessibleName("Reading")
        self.field.setFont(font(17))
        self.field.returnPressed.connect(self.write)
        column.addLayout(self._to_type())
        self.last = QLabel()
        self.last.setFont(font(LOUD, 700))
        self.last.setAccessibleName("The last reading")
        column.addWidget(self.last)
        self.summary = QLabel()
        self.summary.setWordWrap(True)
        column.addWidget(self.summary)
        self.built = QLabel()
        self.built.setWordWrap(True)
        column.addWidget(self.built)
        column.addLayout(self._as_built())
        self.problem = problem_label()
        column.addWidget(self.problem)
        self._at_rest = single_shot(self, TELL_AFTER_MS, self._tell_built)
        session.board_opened.connect(self._anew)

    def _to_type(self) -> QHBoxLayout:
        """The field of the reading, with what is let pass beside it."""
        self.back_button = QPushButton("Undo")
        self.back_button.setToolTip("Takes back what was done last (Ctrl+Z)")
        self.back_button.clicked.connect(self.session.undo)
        row = QHBoxLayout()
        self.most = QLineEdit()
        self.most.setAccessibleName("Let pass")
        self.most.setToolTip("How far off this kind of measure may be, in this workshop; then Enter")
        self.most.setFixedWidth(92)
        self.most.returnPressed.connect(self.let_pass)
        row.addWidget(self.field, 1)
        self.gauge_button = QPushButton("Gauge")
        self.gauge_button.setToolTip(
            "Draw the depth gauge along the keel: a stand-in over an invented board. Its readings stay marked"
        )
        self.gauge_button.clicked.connect(self.draw_gauge)
        self.gauge = Device(self)
        self.gauge.line.connect(self._heard)
        self.gauge.stopped.connect(self._drawn)
        self._draw: list[tuple[MeasureLine, str, float]] = []
        self.scan_button = QPushButton("Scan…")
        self.scan_button.setToolTip(
            "A scan of this board (STL, PLY, points), laid on the design and coloured by distance"
        )
        self.scan_button.clicked.connect(self.scan_asked)
        for part in (QLabel("Let pass"), self.most, self.gauge_button, self.scan_button, self.back_button):
            row.addWidget(part)
        return row

    def _as_built(self) -> QHBoxLayout:
        """What may become of the shape as it was measured."""
        self.behind_button = QPushButton("Lay it behind, as measured")
        self.behind_button.setToolTip("The board bent through what was read, behind the one on the bench")
        self.behind_button.clicked.connect(lambda: self._guarded(self._lay_behind))
        self.keep_button = QPushButton("Keep it as a board")
        self.keep_button.setToolTip("A board of its own, as measured: ridden and compared like any other")
        self.keep_button.clicked.connect(lambda: self._guarded(self.making.keep_as_built))
        row = QHBoxLayout()
        for part in (self.behind_button, self.keep_button):
            row.addWidget(part)
        row.addStretch(1)
        return row

    def _anew(self) -> None:
        for label in (self.last, self.problem):
            label.setText("")
        self.table.clearSelection()

    def refresh(self) -> None:
        """Show the sheet of the made board that is chosen, of the version on the bench without one."""
        making, system = self.making, self.session.system
        made = making.chosen()
        try:
            live = making.live()
        except InputError as error:
            self.problem.setText(str(error))
            return
        if self._sheet is None or self._sheet[0] is not live:
            self._sheet = (live, lines_to_measure(live.geometry))
        tolerances = making.tolerances()
        self.lines = sheet_lines(self._sheet[1], made, tolerances)
        fill_table(self.table, line_rows(self.lines, tolerances, system))
        if self.table.currentRow() < 0 and self.lines:
            self.table.selectRow(next((i for i, line in enumerate(self.lines) if line.read is None), 0))
        self.of.setText(NONE_YET if made is None else f"{made.value.serial}, of version {making.version(made) or '?'}")
        self.summary.setText(sheet_summary(self.lines, made, system))
        self.field.setEnabled(made is not None)
        if made is None or not made.readings:
            self._tell_built()
        else:
            self._at_rest.start()
        self._ask()

    def _ask(self) -> None:
        """Say which line is read next."""
        at = self.table.currentRow()
        if not 0 <= at < len(self.lines):
            self.next.setText("")
            return
        line = self.lines[at]
        system = self.session.system
        self.next.setText(f"{measure_name(line, system)}: {tool_reading(line.measure.should, line.measure, system)}")
        self.field.setPlaceholderText(said_in(line.measure.tool.words, system))
        if not self.most.hasFocus() and (item := self.table.item(at, PASS)) is not None:
            self.most.setText(item.text())

    def draw_gauge(self) -> None:
        """Draw the simulated depth gauge along the keel, for the moment of the chosen line, or before the bag."""
        made, at = self.making.chosen(), self.table.currentRow()
        if made is None:
            return
        if self.gauge.reading():
            self.gauge.stop()
            return
        line = self.lines[at] if 0 <= at < len(self.lines) else None
        self._moment = line.side if line is not None and line.measure.sides == BAGGED else BAGGED[0]
        self._draw = []
        keel = [line.measure for line in self.lines if line.measure.kind == "rocker" and line.side == self._moment]
        places = [f"{m.place * 1e3:.1f}:{m.should * 1e3:.3f}" for m in keel]
        self.gauge_button.setText("Stop")
        self.gauge.start("kelvor.devices.depth_gauge", str(len(made.readings) + 1), *places)

    def _heard(self, words: str) -> None:
        try:
            read = parse_rocker_line(words)
        except InputError as error:
            self.problem.setText(str(error))
            return
        if read is not None:
            keel = (line.measure for line in self.lines if line.measure.kind == "rocker")
            measure = min(keel, key=lambda m: abs(m.place - read.x))
            self._draw.append((measure, self._moment, read.height))

    def _drawn(self) -> None:
        """The draw ended: what it said is written at once, marked as simulated."""
        self.gauge_button.setText("Gauge")
        if self._draw and self.making.chosen() is not None:
            self.making.read_all(self._draw, "simulated", f"the gauge drawn, {self._moment}")
            self._draw = []
            self.refresh()

    def _tell_built(self) -> None:
        """What the board is as it was measured, where enough was read."""
        making, words = self.making, ""
        if making.chosen() is not None:
            try:
                found, live = making.as_built()
                words = built_words(found, live, making.live(), self.session.system)
            except InputError:
                words = ""  # the sheet goes on
        self.built.setText(words)
        for part in (self.built, self.behind_button, self.keep_button):
            part.setVisible(bool(words))

    def _lay_behind(self) -> None:
        self.session.message.emit("note", f"Behind the board on the bench: {self.making.lay_as_built_behind()}.")

    def _guarded(self, call: Callable[[], None]) -> None:
        try:
            call()
        except KelvorError as error:
            self.problem.setText(str(error))

    def let_pass(self) -> None:
        """Change how far off this kind of measure may be."""
        at, system = self.table.currentRow(), self.session.system
        if not 0 <= at < len(self.lines):
            return
        measure = self.lines[at].measure
        quantity = Quantity.ANGLE if measure.tool.quantity is Quantity.ANGLE else Quantity.DEPTH
        try:
            most = parse(self.most.text().replace("±", ""), quantity, system)
            within(limit_of(Tolerance, "most"), most, measure.tool.words)
            self.making.let_pass(measure.kind, most)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.refresh()

    def walk(self, step: int) -> None:
        """Go to the line before or after."""
        self.table.selectRow(min(max(self.table.currentRow() + step, 0), len(self.lines) - 1))

    def write(self) -> None:
        """Keep the reading of the line, and go on to the next; Enter alone goes on."""
        at, words, system = self.table.currentRow(), self.field.text().strip(), self.session.system
        if self.making.chosen() is None or not 0 <= at < len(self.lines):
            return
        line = self.lines[at]
        if words:
            try:
                quantity = line.measure.tool.quantity
                value = parse(words, quantity, system)
                possible(line.measure, value, words, system)
                self.making.read(line.measure, line.side, value)
            except KelvorError as error:
                self.problem.setText(str(error))
                self.field.selectAll()
                return
        self.problem.setText("")
        self.field.clear()
        if not self.isVisible():  # the view follows what is written by itself
            self.refresh()
        if words:
            self.last.setText(loud(self.lines[at], system))
        self.walk(1)
