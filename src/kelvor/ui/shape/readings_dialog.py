"""A board from readings: a sheet to type what tape, caliper and gauge say, with the board that follows drawn
beside it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import get_args

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from kelvor.core.base.disciplines import FAMILIES, FOILING
from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import typed_name
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import Quantity, parse, text
from kelvor.core.brief.brief import Brief
from kelvor.core.new_board.readings import FromReadings, Reading, board_from_readings, column, joined_readings
from kelvor.core.shape.curves.outline import NoseKind, TailKind, half_width
from kelvor.devices.rocker_gauge import parse_rocker_line
from kelvor.ui.background.processes import READ_SECONDS, CommandProcess, Device
from kelvor.ui.background.timers import single_shot
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.paint.strokes import label, pen, polygon
from kelvor.ui.session.session import Session
from kelvor.ui.shape.shown.reading_sheet import (
    COLUMNS,
    WrongCell,
    cells_of,
    follow_words,
    headings,
    readings_of,
    tape_rows,
)
from kelvor.ui.theme.style import colour, font

MOST_DRAWN = 5000
"""Readings of one draw of the gauge."""
LOOK_AFTER_MS = 250
"""The board is drawn anew when typing rests this long."""


class _Sketch(QWidget):
    """Outline and profile that follow from the readings, with a ring at each reading."""

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumSize(300, 300)
        self.setAccessibleName("The board that follows the readings")
        self.result: FromReadings | None = None
        self.readings: tuple[Reading, ...] = ()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Plan above, profile below with its heights stretched."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.result is None:
            label(painter, 14, 24, "The board appears here.", "quiet", font(12))
            return
        board = self.result.board
        scale = (self.width() - 30) / board.length
        x = np.linspace(0.0, board.length, 181)
        half = half_width(board.outline, board.length, x)
        wide = min(scale, 0.42 * self.height() / max(2 * float(half.max()), 1e-6))
        middle, base = 0.25 * self.height(), 0.86 * self.height()
        px = 15 + x * scale
        painter.setPen(pen("live", 2))
        for side in (1, -1):
            painter.drawPolyline(polygon(px, middle - side * half * wide))
        tall = min(3 * scale, 0.3 * self.height() / 0.25)
        rocker, deck = board.rocker.at(x), board.rocker.at(x) + board.thickness.at(x)
        low = float(rocker.min())
        for line in (rocker, deck):
            painter.drawPolyline(polygon(px, base - (line - low) * tall))
        painter.setPen(pen("ink", 1.3))
        for name, of, zero, size in (("width", 0.5, middle, wide), ("rocker", 1.0, base + low * tall, tall)):
            places, values = column(self.readings, name)
            for a, b in zip(places, values, strict=True):
                painter.drawEllipse(QPointF(15 + a * scale, zero - b * of * size), 3, 3)
        places, values = column(self.readings, "thickness")
        for a, b in zip(places, values, strict=True):
            painter.drawEllipse(QPointF(15 + a * scale, base - (float(np.interp(a, x, rocker)) - low + b) * tall), 3, 3)
        label(painter, 14, 20, "plan", "quiet", font(12))
        label(painter, 14, 0.52 * self.height() + 16, f"profile, heights ×{tall / scale:.1f}", "quiet", font(12))


class ReadingsDialog(Panel):
    """Type or read a board, see it drawn, begin with it."""

    guide = "new-board#readings"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Board from readings", "Begin with it")
        self.session = session
        self.name = self.field("Name", "From the rack")
        self.discipline = QComboBox()
        for members in FAMILIES.values():
            for key in members:
                self.discipline.addItem(key.capitalize(), key)
        self.discipline.setCurrentIndex(self.discipline.findData(session.brief.discipline))
        self.length_field = self.field("Length", text(session.board.length, Quantity.LENGTH, session.system))
        self.tail, self.nose = QComboBox(), QComboBox()
        for box, kinds, now in (
            (self.tail, get_args(TailKind), session.board.outline.tail),
            (self.nose, get_args(NoseKind), session.board.outline.nose),
        ):
            for kind in kinds:
                box.addItem(kind.capitalize(), kind)
            box.setCurrentIndex(box.findData(now))
        ends = QWidget()
        row = QHBoxLayout(ends)
        row.setContentsMargins(0, 0, 0, 0)
        for words, box in (("Discipline", self.discipline), ("Tail", self.tail), ("Nose", self.nose)):
            box.setAccessibleName(words)
            caption = QLabel(words)
            caption.setObjectName("quiet")
            row.addWidget(caption)
            row.addWidget(box)
        row.addStretch(1)
        self.form.addRow("What it is", ends)
        self.gauge = Device(self)
        self.gauge.line.connect(self._heard)
        self.gauge.stopped.connect(lambda: self.gauge_button.setText("Draw the rocker gauge"))
        self._drawn: list[Reading] = []
        self._buttons()
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setAccessibleName("Readings, from tail to nose")
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.AllEditTriggers)
        self.table.setMinimumSize(540, 320)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.horizontalHeader().setFont(font(12))
        self.sketch = _Sketch()
        middle = QHBoxLayout()
        middle.addWidget(self.table, 3)
        middle.addWidget(self.sketch, 2)
        self.column.insertLayout(4, middle)
        self.follows = QLabel()
        self.follows.setObjectName("quiet")
        self.follows.setWordWrap(True)
        self.column.insertWidget(5, self.follows)
        self._look = single_shot(self, LOOK_AFTER_MS, self.look)
        self.table.cellChanged.connect(lambda *_: self._look.start())
        for box in (self.discipline, self.tail, self.nose):
            box.currentIndexChanged.connect(self._look.start)
        self.length_field.editingFinished.connect(self._look.start)
        session.units_changed.connect(self._headed)
        self.lay_tape()
        self.resize(900, 640)

    def _buttons(self) -> None:
        row = QHBoxLayout()
        self.gauge_button = QPushButton("Draw the rocker gauge")
        self.gauge_button.setToolTip("The gauge that ships with Kelvor is simulated: it draws an invented board")
        self.turned = QCheckBox("nose lies left")
        for words, slot in (
            ("Nine places for tape and caliper", self.lay_tape),
            ("", self.draw_gauge),
            ("Offset table…", self.ask_table),
            ("Outline from DXF or SVG…", self.ask_outline),
        ):
            button = QPushButton(words) if words else self.gauge_button
            button.setAutoDefault(False)
            button.clicked.connect(slot)
            row.addWidget(button)
        row.addWidget(self.turned)
        row.addStretch(1)
        self.column.insertLayout(2, row)
        self.reader = CommandProcess(self)
        self.reading_row, self.reading_words = QWidget(), QLabel()
        self.reading_words.setObjectName("quiet")
        stop = QPushButton("Stop")
        stop.setAutoDefault(False)
        stop.clicked.connect(self.reader.cancel)
        line = QHBoxLayout(self.reading_row)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.reading_words, 1)
        line.addWidget(stop)
        self.reading_row.hide()
        self.column.insertWidget(3, self.reading_row)
        self.reader.told.connect(self.reading_words.setText)
        self.reader.ended.connect(self.reading_row.hide)

    # the sheet

    def lay_tape(self) -> None:
        """Nine places for tape and caliper; what was typed already stays."""
        try:
            self.put(joined_readings(tape_rows(self.length()), self._typed()))
        except KelvorError as error:
            self.problem.setText(str(error))

    def _headed(self) -> None:
        """Column headings in the units on show."""
        self.table.setHorizontalHeaderLabels(headings(self.session.system))

    def put(self, readings: tuple[Reading, ...]) -> None:
        """Show readings in the sheet, with two empty rows behind."""
        rows = cells_of(readings, self.session.system)
        self.table.blockSignals(True)
        self.table.setRowCount(len(rows) + 2)
        for i in range(self.table.rowCount()):
            for j in range(len(COLUMNS)):
                self.table.setItem(i, j, QTableWidgetItem(rows[i][j] if i < len(rows) else ""))
        self._headed()
        self.table.blockSignals(False)
        self.look()

    def rows(self) -> list[list[str]]:
        """The cells as text."""
        found = []
        for i in range(self.table.rowCount()):
            items = [self.table.item(i, j) for j in range(len(COLUMNS))]
            found.append(["" if item is None else item.text() for item in items])
        return found

    def length(self) -> float:
        """The length typed [m]."""
        return parse(self.length_field.text(), Quantity.LENGTH, self.session.system)

    def following(self) -> FromReadings:
        """The board that follows the sheet; raises KelvorError with what is wrong."""
        readings = self._readings()
        return board_from_readings(
            self.name.text().strip() or "From the rack",
            self.discipline.currentData(),
            self.length(),
            readings,
            self.tail.currentData(),
            self.nose.currentData(),
        )

    def _readings(self) -> tuple[Reading, ...]:
        found = readings_of(self.rows(), self.session.system)
        if isinstance(found, WrongCell):
            self.table.setCurrentCell(found.row, found.column)
            raise KelvorError(found.words)
        return found

    def look(self) -> None:
        """Draw what the sheet says so far."""
        self._look.stop()
        try:
            self.sketch.readings = self._readings()
            if not self.sketch.readings:
                self.sketch.result = None
                self.follows.setText("Type what you read, in any unit; leave a field empty where you did not read.")
                self.problem.setText("")
            else:
                self.sketch.result = self.following()
                self.follows.setText(follow_words(self.sketch.result, self.session.system))
                self.problem.setText("")
        except KelvorError as error:
            self.problem.setText(str(error))
        self.sketch.update()

    # sources

    def ask_table(self) -> None:
        """Choose an offset table."""
        self._ask("Offset table", "Tables (*.csv *.txt)", self.read_table)

    def ask_outline(self) -> None:
        """Choose a drawing."""
        self._ask("Outline", "Drawings (*.dxf *.svg)", self.read_drawing)

    def _ask(self, title: str, kinds: str, read: Callable[[Path], None]) -> None:
        dialog = QFileDialog(self, title, str(Path.home()), kinds)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.fileSelected.connect(lambda path: read(Path(path)))
        dialog.show()

    def read_table(self, path: Path) -> None:
        """Fill the sheet from an offset table; a bad one leaves it as it is."""
        self._read(["read", "offsets", str(path)], path, self._take_table)

    def read_drawing(self, path: Path) -> None:
        """Fill the widths from a drawing; a bad one leaves the sheet as it is."""
        turned = ["--nose-first"] if self.turned.isChecked() else []
        self._read(["read", "outline", str(path), "--progress", *turned], path, self._take_drawing)

    def _read(self, arguments: list[str], path: Path, take: Callable[[str], None]) -> None:
        """Read a file beside the window; Escape or Stop ends it."""
        self.problem.setText("")
        self.reading_words.setText(f"Reading {one_line(path.name, 60)} …")
        self.reading_row.setVisible(True)
        self.reader.run(arguments, take, self.problem.setText, seconds=READ_SECONDS)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape stops reading, and closes else."""
        if event.key() == Qt.Key.Key_Escape and self.reader.running:
            self.reader.cancel()
        else:
            super().keyPressEvent(event)

    def _take_table(self, printed: str) -> None:
        from kelvor.exchange.readings import readings_of_text

        found = readings_of_text(printed)
        self.length_field.setText(text(found.length, Quantity.LENGTH, self.session.system))
        self.put(found.readings)
        self._note(found.notes)

    def _note(self, notes: tuple[str, ...]) -> None:
        """What should be known about what was read, beside how the board follows."""
        if notes:
            self.follows.setText(f"{'. '.join(notes)}. {self.follows.text()}")

    def _take_drawing(self, printed: str) -> None:
        from kelvor.exchange.readings import readings_of_text

        found = readings_of_text(printed)
        self.length_field.setText(text(found.length, Quantity.LENGTH, self.session.system))
        for box, end, closed, open_ in (
            (self.tail, found.readings[0], "round", "square"),
            (self.nose, found.readings[-1], "round", "chopped"),
        ):
            box.setCurrentIndex(box.findData(open_ if end.width else closed))
        self.put(found.readings)
        self._note(found.notes)

    def draw_gauge(self) -> None:
        """Draw the gauge along the board on the rack, or stop it."""
        if self.gauge.reading():
            self.gauge.stop()
            return
        self._drawn = []
        self.gauge_button.setText("Stop the gauge")
        self.gauge.start("kelvor.devices.rocker_gauge", self.discipline.currentData())

    def _heard(self, line: str) -> None:
        try:
            reading = parse_rocker_line(line)
        except InputError as error:
            self.problem.setText(str(error))
            self.gauge.stop()
            return
        if reading is None:
            self._take_drawn()
        elif len(self._drawn) >= MOST_DRAWN:
            self.problem.setText(f"The gauge says more than {MOST_DRAWN} readings and no end. It was stopped.")
            self.gauge.stop()
        else:
            self._drawn.append(Reading(reading.x, rocker=reading.height))
            self.follows.setText(
                f"Rocker gauge, simulated: {len(self._drawn)} readings, "
                f"{text(reading.x, Quantity.LENGTH, self.session.system)} from the tail"
            )

    def _take_drawn(self) -> None:
        """The draw is whole: its readings join what was typed at the same places, and its end is the length."""
        if not self._drawn:
            self.problem.setText("The gauge came to its end before it read anything. Draw it again from the tail.")
            return
        self._drawn.sort(key=lambda reading: reading.x)
        self.length_field.setText(text(self._drawn[-1].x, Quantity.LENGTH, self.session.system))
        self.put(joined_readings(self._typed(), tuple(self._drawn)))

    def _typed(self) -> tuple[Reading, ...]:
        try:
            return self._readings()
        except KelvorError:
            return ()

    def closeEvent(self, event: object) -> None:
        """The gauge and what is being read stop with their sheet."""
        self.gauge.stop(wait=True)
        self.reader.forget()
        super().closeEvent(event)  # type: ignore[arg-type]

    def act(self) -> bool:
        """Add the board to the workshop and put it on the bench."""
        typed_name(self.name.text(), "The board's name")
        result, session = self.following(), self.session
        discipline = self.discipline.currentData()
        foils = session.brief.foils or Brief().foils if discipline in FOILING else ()
        session.file.add_board(
            result.board, replace(session.brief, discipline=discipline, foils=foils), "Began from readings"
        )
        session.versions.set_reason(session.current, follow_words(result, session.system))
        return True
