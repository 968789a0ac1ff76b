"""The Build view: what the board is made of, what it weighs and how it bends, before any foam is cut."""

from __future__ import annotations

import math
import sys
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QProcess, QProcessEnvironment, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

import kelvor
from kelvor.core.errors import InputError, KelvorError
from kelvor.core.mass.built import ribs
from kelvor.core.mass.stages import STAGES, WeighIn, forecasts
from kelvor.core.materials.makeability import checked_by_straight_edge, makeability
from kelvor.core.seek.layers_worth import built, layers_worth, with_count
from kelvor.core.shape.battens import Array
from kelvor.core.shape.construction import ZONES, Construction, Ply, Stringer
from kelvor.core.shape.places import Place
from kelvor.core.stiffness.stage import StiffnessStage, stiffness_stage
from kelvor.core.units import Quantity, parse, text
from kelvor.devices.scale import parse_line
from kelvor.ui.bench.painting import dashed, label, pen, polygon
from kelvor.ui.presenters.build import (
    CAUTION,
    NEW_PARTS,
    SIDE_HEADS,
    NewPart,
    mass_words,
    ply_words,
    side_rows,
    side_sentence,
    stiffener_rows,
    stiffness_rows,
    volume_words,
    weigh_rows,
    weight_rows,
    with_ply,
    worth_rows,
)
from kelvor.ui.presenters.panels import Row
from kelvor.ui.session import Session
from kelvor.ui.theme.style import colour, font
from kelvor.ui.throttle import Throttle
from kelvor.ui.views.shape_view import heading, panel
from kelvor.ui.widgets.rows import RowsView

WORTH_HEADS = ("Layer", "Change", "Weighs", "Yaw inertia", "Bends", "Twists", "Dents", "Costs")
WEIGH_HEADS = ("Stage", "Forecast", "Weighed", "Gap", "Where the grams came from")


class _Strips(QWidget):
    """Bending and twist stiffness along the board over the pinned step's, on one ruler."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Bending and twist stiffness along the board")
        self.setMinimumSize(QSize(380, 230))
        self.now: StiffnessStage | None = None
        self.then: StiffnessStage | None = None
        self.length = 1.0
        self.ribs: Array = np.zeros(0)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint both strips."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.now is None:
            label(painter, 14, 30, "Choose a construction: its stiffness along the board appears here.", "quiet", font(13))
            return
        high = self.height() / 2
        self._one(painter, 0.0, high, "Bending EI", "N m²", lambda s: s.along.bending)
        self._one(painter, high, high, "Twist GJ", "N m²", lambda s: s.along.twist)

    def _one(self, painter: QPainter, top: float, high: float, words: str, unit: str, of: Callable[[StiffnessStage], Array]) -> None:
        now = self.now
        assert now is not None
        left, right = 16.0, self.width() - 16.0
        values = of(now)
        peak = float(max(values.max(), of(self.then).max() if self.then is not None else 0.0))
        base, scale = top + high - 18, (high - 48) / max(peak, 1e-9)
        painter.setPen(pen("line", 1))
        painter.drawLine(QPointF(left, base), QPointF(right, base))

        def curve(stage: StiffnessStage) -> tuple[Array, Array]:
            return left + stage.along.x / self.length * (right - left), base - of(stage) * scale

        px, py = curve(now)
        wash = polygon(np.concatenate([px[:1], px, px[-1:]]), np.concatenate([[base], py, [base]]))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("live_wash"))
        painter.drawPolygon(wash)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self.then is not None:
            painter.setPen(dashed("pinned", 1.4, 5, 3))
            painter.drawPolyline(polygon(*curve(self.then)))
        painter.setPen(pen("live", 2))
        painter.drawPolyline(polygon(px, py))
        painter.setPen(pen("ink", 1))
        for rib in self.ribs:  # where the chambers end
            x = left + rib / self.length * (right - left)
            painter.drawLine(QPointF(x, base), QPointF(x, base - 7))
        for foot in now.feet:
            x = left + foot / self.length * (right - left)
            painter.setPen(pen("quiet", 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, base), QPointF(x, top + 26))
            label(painter, x, base + 13, "foot", "quiet", font(11), centre=True)
        middle = float(np.interp(self.length / 2, now.along.x, values))
        label(painter, left, top + 18, words, "ink", font(13, 700))
        shown = f"{middle:,.0f}".replace(",", "\u202f")
        label(painter, right - 210, top + 18, f"{shown} {unit} in the middle", "quiet", font(12))


class BuildView(QWidget):
    """Construction, weight and stiffness of the board on the bench."""

    materials_asked = Signal()
    weights_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        self._scale: QProcess | None = None
        self._buffer = ""
        self._at, self._part = -1, ""
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        row.addWidget(self._left(), 0)
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right(), 0)
        session.live_changed.connect(Throttle(self, 100, self._weight).call)
        session.settled.connect(self.refresh)
        session.steps_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        self.refresh()

    # building

    def _left(self) -> QWidget:
        frame = panel()
        frame.setFixedWidth(366)
        column = QVBoxLayout(frame)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(6)
        title = QHBoxLayout()
        title.addWidget(heading("Construction"), 1)
        for words, asked in (("Materials…", self.materials_asked), ("Weights…", self.weights_asked)):
            button = QPushButton(words)
            button.setStyleSheet("padding: 3px 8px;")
            button.clicked.connect(asked)
            title.addWidget(button)
        column.addLayout(title)
        self.library = QComboBox()
        self.library.setAccessibleName("Construction of the workshop")
        self.library.activated.connect(self._library_chosen)
        column.addWidget(self.library)
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        self.stock, self.build, self.resin, self.method = QComboBox(), QComboBox(), QComboBox(), QComboBox()
        for kind in ("solid", "chambered", "hollow"):
            self.build.addItem(kind, kind)
        for key, words in (("hand", "laid by hand"), ("bagged", "bagged")):
            self.method.addItem(words, key)
        for i, (words, box, change) in enumerate((
            ("Core", self.stock, lambda c, v: replace(c, core=replace(c.core, stock=v))),
            ("made", self.build, lambda c, v: replace(c, core=replace(c.core, build=v))),
            ("Resin", self.resin, lambda c, v: replace(c, resin=v)),
            ("Method", self.method, lambda c, v: replace(c, method=v, bags=c.bags if v == "hand" or c.bags else 2)),
        )):  # fmt: skip
            caption = QLabel(words)
            caption.setBuddy(box)
            box.setAccessibleName(words)
            grid.addWidget(caption, i // 2, 2 * (i % 2))
            grid.addWidget(box, i // 2, 2 * (i % 2) + 1)
            box.activated.connect(lambda _=0, box=box, change=change, words=words: self._set(change, box.currentData(), words, box.currentText()))
        grid.setColumnStretch(3, 1)
        column.addWidget(_group("Layers, from the core outward"))
        self.plies = RowsView("Layers of cloth", row_height=25)
        self.plies.setMinimumHeight(110)
        self.plies.chosen.connect(self._ply_chosen)
        column.addWidget(self.plies, 1)
        buttons = QHBoxLayout()
        for words, slot in (("More", lambda: self._count(1)), ("Less", lambda: self._count(-1)), ("On, off", self._switch),
                            ("Up", lambda: self._shift(-1)), ("Drop", self._drop)):  # fmt: skip
            button = QPushButton(words)
            button.setStyleSheet("padding: 4px 7px;")
            button.clicked.connect(slot)
            buttons.addWidget(button)
        self.new = QPushButton("New")
        self.new.setStyleSheet("padding: 4px 7px;")
        menu = QMenu(self.new)
        for words, make in NEW_PARTS:
            menu.addAction(words, partial(self._new, make))
        self.new.setMenu(menu)
        buttons.addWidget(self.new)
        column.addLayout(buttons)
        column.addLayout(self._ply_fields())
        column.addWidget(self._chamber_fields())
        keep = QPushButton("Keep this construction for all boards as …")
        keep.clicked.connect(self._keep)
        self.keep_name = QLineEdit()
        self.keep_name.setAccessibleName("Name of the construction")
        self.keep_name.setPlaceholderText("name")
        row = QHBoxLayout()
        row.addWidget(keep, 1)
        row.addWidget(self.keep_name, 1)
        column.addLayout(row)
        self.problem = QLabel()
        self.problem.setObjectName("wrong")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        return frame

    def _ply_fields(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        self.cloth, self.zone = QComboBox(), QComboBox()
        for zone in ZONES:
            self.zone.addItem(zone, zone)
        self.cloth.activated.connect(lambda: self._change_ply(cloth=self.cloth.currentData()))
        self.zone.activated.connect(lambda: self._change_ply(zone=self.zone.currentData()))
        self.ply_fields: dict[str, QLineEdit] = {}
        grid.addWidget(QLabel("Cloth"), 0, 0)
        grid.addWidget(self.cloth, 0, 1)
        grid.addWidget(QLabel("on"), 0, 2)
        grid.addWidget(self.zone, 0, 3)
        for i, (key, words) in enumerate((("start", "From"), ("end", "To"), ("width", "Patch"), ("wrap", "Wraps"), ("angle", "Angle"))):
            field = QLineEdit()
            field.setAccessibleName({"start": "From, off the tail", "end": "To, off the tail", "width": "Patch width", "wrap": "Wraps the rail by",
                                     "angle": "Angle of the warp"}[key])  # fmt: skip
            field.setPlaceholderText({"start": "tail", "end": "nose", "width": "whole zone", "wrap": "0", "angle": "0°"}[key])
            field.editingFinished.connect(lambda key=key: self._field_typed(key))
            self.ply_fields[key] = field
            grid.addWidget(QLabel(words), 1 + i // 2, 2 * (i % 2))
            grid.addWidget(field, 1 + i // 2, 2 * (i % 2) + 1)
        for name, box in (("Cloth", self.cloth), ("Zone", self.zone)):
            box.setAccessibleName(name)
        return grid

    def _chamber_fields(self) -> QWidget:
        """What a chambered or hollow core leaves: shown only for one."""
        self.chamber_holder = QWidget()
        grid = QGridLayout(self.chamber_holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        self.chambers: dict[str, QLineEdit] = {}
        for i, (key, words) in enumerate((("skin", "Planks"), ("rail", "Rail"), ("rib", "Ribs"), ("pitch", "every"))):
            field = QLineEdit()
            field.setAccessibleName({"skin": "Wood left above and below", "rib": "Thickness of a rib", "pitch": "Distance of ribs",
                                     "rail": "Solid wood at the rail"}[key])  # fmt: skip
            field.editingFinished.connect(lambda key=key: self._chamber_typed(key))
            self.chambers[key] = field
            caption = QLabel(words)
            caption.setBuddy(field)
            grid.addWidget(caption, i // 2, 2 * (i % 2))
            grid.addWidget(field, i // 2, 2 * (i % 2) + 1)
        return self.chamber_holder

    def _chamber_typed(self, key: str) -> None:
        c, field = self.construction, self.chambers[key]
        if c is None or not field.isModified():
            return
        try:
            value = parse(field.text(), Quantity.DEPTH, self.session.system)
            if not 0.001 <= value <= 1.0:
                raise InputError(f"{field.text()} cannot be built", accepts="Give 1 mm to 1 m")
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        field.setModified(False)
        changes: dict[str, Any] = {key: value}
        self._commit(replace(c, core=replace(c.core, **changes)), f"Core, {key}: {field.text()}")

    def _middle(self) -> QWidget:
        frame = panel()
        column = QVBoxLayout(frame)
        column.setContentsMargins(8, 4, 8, 8)
        self.tabs = QTabWidget()
        self.strips = _Strips()
        self.worth = _table(WORTH_HEADS)
        self.side = _table(SIDE_HEADS)
        self.side.itemSelectionChanged.connect(self._side_said)
        self.weigh_table = _table(WEIGH_HEADS)
        sides = QWidget()
        inner = QVBoxLayout(sides)
        inner.setContentsMargins(0, 4, 0, 0)
        inner.addWidget(self.side, 1)
        self.sentence = QLabel()
        self.sentence.setWordWrap(True)
        inner.addWidget(self.sentence)
        use = QPushButton("Build it this way")
        use.clicked.connect(self._use_side)
        inner.addWidget(use, 0, Qt.AlignmentFlag.AlignLeft)
        weigh = QWidget()
        lower = QVBoxLayout(weigh)
        lower.setContentsMargins(0, 4, 0, 0)
        lower.addWidget(self.weigh_table, 1)
        row = QHBoxLayout()
        self.stage = QComboBox()
        self.stage.setAccessibleName("Stage")
        for stage in STAGES:
            self.stage.addItem(stage.capitalize(), stage)
        self.scale_field = QLineEdit()
        self.scale_field.setAccessibleName("Weighed")
        self.scale_field.setPlaceholderText("kg, g or lb")
        self.scale_field.returnPressed.connect(self._weighed)
        self.scale_button = QPushButton("Read the scale")
        self.scale_button.setToolTip("The scale that ships with Kelvor is simulated")
        self.scale_button.clicked.connect(self.read_scale)
        write = QPushButton("Write it down")
        write.clicked.connect(self._weighed)
        for part in (self.stage, self.scale_field, self.scale_button, write):
            row.addWidget(part)
        row.addStretch(1)
        lower.addLayout(row)
        self._tab_index = {"strips": 0, "worth": 1, "side": 2, "weigh": 3}
        for widget, words in ((self.strips, "Stiffness along the board"), (self.worth, "What a layer buys"), (sides, "Side by side"),
                              (weigh, "Weigh-ins")):  # fmt: skip
            self.tabs.addTab(widget, words)
        self.tabs.currentChanged.connect(lambda _: self._tab())
        column.addWidget(self.tabs, 1)
        self.notes = QLabel()
        self.notes.setWordWrap(True)
        self.notes.setFont(font(12))
        column.addWidget(self.notes)
        caution = QLabel(CAUTION)
        caution.setObjectName("quiet")
        caution.setFont(font(11))
        caution.setWordWrap(True)
        column.addWidget(caution)
        return frame

    def _right(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setFixedWidth(328)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        self.weight_label = QLabel()
        self.volume_label = QLabel()
        for words in (self.weight_label, self.volume_label):
            words.setWordWrap(True)
            words.setContentsMargins(12, 0, 10, 0)
        self.weight_label.setFont(font(16, 700))
        self.volume_label.setObjectName("quiet")
        self.weight = RowsView("Weight by thing and zone", value_share=0.74, row_height=22)
        self.stiff = RowsView("Stiffness", value_share=0.74, row_height=22)
        top, below = panel(), panel()
        upper = QVBoxLayout(top)
        upper.setContentsMargins(1, 8, 1, 4)
        upper.setSpacing(2)
        upper.addWidget(_padded(heading("Weight")))
        upper.addWidget(self.weight_label)
        upper.addWidget(self.volume_label)
        upper.addWidget(self.weight, 1)
        lower = QVBoxLayout(below)
        lower.setContentsMargins(1, 8, 1, 4)
        lower.addWidget(_padded(heading("Stiffness")))
        lower.addWidget(self.stiff, 1)
        column.addWidget(top, 5)
        column.addWidget(below, 4)
        return holder

    # showing

    @property
    def construction(self) -> Construction | None:
        """The construction of the board on the bench."""
        return self.session.board.construction

    def refresh(self) -> None:
        """Show the board's construction and all that follows from it."""
        if not self.isVisible():
            return
        session, c = self.session, self.construction
        self.library.clear()
        self.library.addItem("Not stated: areal masses only" if c is None else f"As built here: {c.name}", "")
        for item in session.constructions():
            self.library.addItem(item.name, item.name)
        self._boxes(c)
        table, board = session.table, session.board
        self.plies.set_rows([] if c is None else [
            Row(f"{i}", p.name + ("" if p.on else ", off"), f"{p.count} × {table.cloth(p.cloth).name}", tip=ply_words(p, board, table, session.system),
                struck=not p.on) for i, p in enumerate(c.plies)
        ] + stiffener_rows(c, table, session.system))  # fmt: skip
        if c is not None and self._at >= len(c.plies):
            self._at = len(c.plies) - 1
        built_up = c is not None and c.core.build != "solid"
        self.chamber_holder.setVisible(built_up)
        for key, field in self.chambers.items():
            field.setText(text(getattr(c.core, key), Quantity.DEPTH, session.system) if c is not None and built_up else "")
        self._show_ply()
        self._weight()
        evaluation = session.evaluation
        self.stiff.set_rows(stiffness_rows(session.figures(), session.pinned_figures, session.system))
        self.strips.now, self.strips.length = evaluation.stiffness, board.length
        self.strips.ribs = np.zeros(0) if c is None else ribs(session.live.geometry, c.core)
        then = session.pinned_live
        self.strips.then = None
        if then is not None and then.board != session.live.board:
            self.strips.then = stiffness_stage(then.geometry, then.mass, session.brief, table)
        self.strips.update()
        self._notes()
        self._tab()

    def _boxes(self, c: Construction | None) -> None:
        table = self.session.table
        for box, entries in ((self.stock, table.stocks), (self.resin, table.resins), (self.cloth, table.cloths)):
            if box.count() != len(entries):
                box.clear()
                for entry in entries:
                    box.addItem(entry.name, entry.key)
        for box in (self.stock, self.build, self.resin, self.method):
            box.setEnabled(c is not None)
        if c is not None:
            for box, value in ((self.stock, c.core.stock), (self.build, c.core.build), (self.resin, c.resin), (self.method, c.method)):
                box.setCurrentIndex(max(0, box.findData(value)))

    def _weight(self) -> None:
        if not self.isVisible():
            return
        session = self.session
        mass = session.live.mass
        self.weight_label.setText(mass_words(mass.total.mass, mass.band))
        self.volume_label.setText(volume_words(session.live))
        then = session.pinned_live
        self.weight.set_rows(weight_rows(mass, session.system, None if then is None else then.mass))

    def _notes(self) -> None:
        live = self.session.live
        if live.mass.layup is None:
            self.notes.setText("")
            return
        found = makeability(live.geometry, live.mass.layup, self.session.table)
        words = [f"{f.text}. {f.advice}".rstrip(". ") + "." for f in found]
        straight = checked_by_straight_edge(live.geometry)
        if straight:
            words.append(f"A straight edge checks {', '.join(straight)}.")
        self.notes.setText(" ".join(words[:4]))

    def _tab(self) -> None:
        index = self.tabs.currentIndex()
        session = self.session
        if index == self._tab_index["worth"]:
            _fill(self.worth, worth_rows(layers_worth(session.live.geometry, session.brief, session.table), session.table))
        elif index == self._tab_index["side"]:
            self._sides()
        elif index == self._tab_index["weigh"]:
            _fill(self.weigh_table, weigh_rows(session.live, session.store.weighings(session.board_id)))

    def _sides(self) -> None:
        session = self.session
        shown = list(session.constructions())
        now = self.construction
        if now is not None:
            shown = [replace(now, name="As built here"), *(c for c in shown if c != now)]
        self._built = [(c, built(session.live.geometry, c, session.brief, session.table)) for c in shown[:8]]
        rows = side_rows(self._built)
        _fill(self.side, [row.cells for row in rows])
        self._side_said()

    def _side_said(self) -> None:
        at = self.side.currentRow()
        pairs = getattr(self, "_built", [])
        if self.construction is not None and 0 < at < len(pairs):
            self.sentence.setText(side_sentence(pairs[at], pairs[0]))
        else:
            self.sentence.setText("Choose a row to compare it with the first, which is how the board is built now.")

    # changing

    def _commit(self, construction: Construction, words: str, gesture: str = "") -> None:
        self.problem.setText("")
        self.session.build_with(construction, words, gesture)

    def _library_chosen(self, index: int) -> None:
        name = self.library.itemData(index)
        found = next((c for c in self.session.constructions() if c.name == name), None)
        if found is not None:
            self._commit(found, f"Built as {found.name}")

    def _set(self, change: Callable[[Construction, str], Construction], value: str, what: str, words: str) -> None:
        if self.construction is not None:
            self._commit(change(self.construction, value), f"{what.capitalize()}: {words}")

    def _ply_chosen(self, key: str) -> None:
        self._part = key
        self._at = int(key) if key.isdigit() else -1
        self._show_ply()

    def _ply(self) -> Ply | None:
        c = self.construction
        return c.plies[self._at] if c is not None and 0 <= self._at < len(c.plies) else None

    def _show_ply(self) -> None:
        ply, session = self._ply(), self.session
        for widget in (self.cloth, self.zone, *self.ply_fields.values()):
            widget.setEnabled(ply is not None)
        if ply is None:
            for field in self.ply_fields.values():
                field.setText("")
            return
        self.cloth.setCurrentIndex(self.cloth.findData(ply.cloth))
        self.zone.setCurrentIndex(self.zone.findData(ply.zone))
        board = session.board
        for key, place in (("start", ply.start), ("end", ply.end)):
            shown = "" if place is None else text(place.x(board.length, board.mast_x), Quantity.LENGTH, session.system)
            self.ply_fields[key].setText(shown)
        self.ply_fields["width"].setText("" if ply.width == 0 else text(ply.width, Quantity.LENGTH, session.system))
        self.ply_fields["wrap"].setText("" if ply.wrap == 0 else text(ply.wrap, Quantity.LENGTH, session.system))
        self.ply_fields["angle"].setText("" if ply.angle == 0 else text(ply.angle, Quantity.ANGLE, session.system))

    def _field_typed(self, key: str) -> None:
        ply, field, session = self._ply(), self.ply_fields[key], self.session
        if ply is None or not field.isModified():
            return
        words = field.text().strip()
        try:
            quantity = Quantity.ANGLE if key == "angle" else Quantity.LENGTH
            value = parse(words, quantity, session.system) if words else 0.0
            limit = math.pi / 2 if key == "angle" else session.board.length
            if not -1e-9 <= value <= limit + 1e-9:
                raise InputError(f"{words} is off the board", accepts=f"Give 0 to {text(limit, quantity, session.system)}")
        except KelvorError as error:
            self.problem.setText(str(error))
            field.setProperty("wrong", "true")
            field.style().polish(field)
            return
        field.setProperty("wrong", "false")
        field.style().polish(field)
        field.setModified(False)
        if key in ("start", "end"):
            datum = "tail" if ply.start is None and ply.end is None else (ply.start or ply.end or Place("tail", 0.0)).datum
            place = Place.at(value, datum, session.board.length, session.board.mast_x) if words else None
            self._change_ply(**{key: place})
        else:
            self._change_ply(**{key: value})

    def _change_ply(self, **changes: object) -> None:
        ply, c = self._ply(), self.construction
        if ply is not None and c is not None:
            changed = replace(ply, **changes)  # type: ignore[arg-type]
            if changed != ply:
                session = self.session
                words = ply_words(changed, session.board, session.table, session.system)
                self._commit(with_ply(c, self._at, changed), f"{ply.name}: {words}")

    def _count(self, by: int) -> None:
        ply, c = self._ply(), self.construction
        if ply is not None and c is not None and ply.count + by >= 0:
            before = self.session.live.mass.total.mass
            after = built(self.session.live.geometry, with_count(c, self._at, by), self.session.brief, self.session.table).mass
            grams = f"{(after - before) * 1000:+.0f} g".replace("-", "−")
            self._commit(with_count(c, self._at, by), f"{ply.name}: {ply.count} → {ply.count + by} layers, {grams}")

    def _switch(self) -> None:
        ply, c = self._ply(), self.construction
        if ply is not None:
            self._change_ply(on=not ply.on)
        elif c is not None and self._part.startswith("stringer"):
            at = int(self._part[8:])
            other = replace(c.stringers[at], on=not c.stringers[at].on)
            self._commit(replace(c, stringers=(*c.stringers[:at], other, *c.stringers[at + 1 :])), f"{other.name} {'on' if other.on else 'off'}")

    def _shift(self, by: int) -> None:
        c, at = self.construction, self._at
        if c is not None and 0 <= at < len(c.plies) and 0 <= at + by < len(c.plies):
            plies = list(c.plies)
            plies[at], plies[at + by] = plies[at + by], plies[at]
            self._at = at + by
            self._commit(replace(c, plies=tuple(plies)), f"{plies[at + by].name} moved in the order of layers")
            self.plies.choose(str(self._at))

    def _drop(self) -> None:
        ply, c = self._ply(), self.construction
        if c is None:
            return
        if ply is not None:
            self._commit(with_ply(c, self._at, None), f"{ply.name} dropped")
        elif self._part.startswith("stringer"):
            at = int(self._part[8:])
            self._commit(replace(c, stringers=c.stringers[:at] + c.stringers[at + 1 :]), f"{c.stringers[at].name} dropped")
        elif self._part.startswith("coat"):
            at = int(self._part[4:])
            self._commit(replace(c, coats=c.coats[:at] + c.coats[at + 1 :]), f"{c.coats[at].name} dropped")

    def _new(self, make: NewPart) -> None:
        c = self.construction
        if c is None:
            self.problem.setText("Choose a construction first; then lay one more.")
            return
        taken = {p.name for p in c.plies} | {p.name for p in c.stringers} | {p.name for p in c.coats}
        part = make(self.session.board, taken)
        if isinstance(part, Ply):
            self._commit(replace(c, plies=(*c.plies, part)), f"{part.name} laid")
            self.plies.choose(str(len(c.plies)))
        elif isinstance(part, Stringer):
            self._commit(replace(c, stringers=(*c.stringers, part)), f"{part.name} set in")
        else:
            self._commit(replace(c, coats=(*c.coats, part)), f"{part.name} added")

    def _keep(self) -> None:
        c, name = self.construction, self.keep_name.text().strip()
        if c is None or not name:
            self.problem.setText("Give the construction a name of its own." if c is not None else "Choose a construction first.")
            return
        named = replace(c, name=name)
        self.session.keep_construction(named)
        self._commit(named, f"Kept as {name} for all boards")
        self.keep_name.clear()

    def _use_side(self) -> None:
        at = self.side.currentRow()
        pairs = getattr(self, "_built", [])
        if (0 if self.construction is None else 1) <= at < len(pairs):
            self._commit(pairs[at][0], f"Built as {pairs[at][0].name}")

    # the scale

    def read_scale(self) -> None:
        """Read the simulated scale: it settles, then stands."""
        if self._scale is not None:
            self._scale.kill()
            return
        live = self.session.live
        plan = {f.stage: f.mass for f in forecasts(live.geometry, live.mass)}
        self._scale, self._buffer = QProcess(self), ""
        environment = QProcessEnvironment.systemEnvironment()
        environment.insert("PYTHONPATH", str(Path(kelvor.__file__).parents[1]))
        self._scale.setProcessEnvironment(environment)
        self._scale.readyReadStandardOutput.connect(self._heard)
        self._scale.finished.connect(self._scale_done)
        self.scale_button.setText("Stop")
        stage = self.stage.currentData()
        self._scale.start(sys.executable, ["-m", "kelvor.devices.scale", f"{plan[stage]:.3f}", str(STAGES.index(stage) + self.session.board_id)])

    def _heard(self) -> None:
        assert self._scale is not None
        self._buffer += bytes(self._scale.readAllStandardOutput().data()).decode("ascii", "replace")
        *lines, self._buffer = self._buffer.split("\n")
        try:
            for line in lines:
                reading = parse_line(line)
                self.scale_field.setText(f"{reading.mass:.3f} kg")
                self.scale_field.setProperty("source", "scale")
        except InputError as error:
            self.problem.setText(str(error))

    def _scale_done(self) -> None:
        self._scale = None
        self.scale_button.setText("Read the scale")

    def close_scale(self) -> None:
        """Let the scale go before the window does."""
        if self._scale is not None:
            self._scale.kill()
            self._scale.waitForFinished(1000)

    def _weighed(self) -> None:
        try:
            mass = parse(self.scale_field.text(), Quantity.MASS, self.session.system)
            if not 0.05 <= mass <= 60:
                raise InputError(f"{self.scale_field.text()} is no board", accepts="Give 50 g to 60 kg")
            source = "scale, simulated" if self.scale_field.property("source") == "scale" else "typed"
            self.session.weigh(WeighIn(self.stage.currentData(), mass), source)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.scale_field.clear()
        self.scale_field.setProperty("source", "")
        self._tab()

    def showEvent(self, event: object) -> None:
        """Keep up only while shown."""
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()


def _group(words: str) -> QLabel:
    found = QLabel(words)
    found.setObjectName("group")
    return found


def _padded(widget: QLabel) -> QLabel:
    widget.setContentsMargins(12, 0, 10, 2)
    return widget


def _table(heads: tuple[str, ...]) -> QTableWidget:
    found = QTableWidget(0, len(heads))
    found.setHorizontalHeaderLabels(list(heads))
    found.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    found.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    found.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    found.verticalHeader().setVisible(False)
    found.verticalHeader().setDefaultSectionSize(25)
    found.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    found.horizontalHeader().setStretchLastSection(True)
    found.setAccessibleName(", ".join(heads))
    found.setFont(font(12))
    found.horizontalHeader().setFont(font(12))
    return found


def _fill(table: QTableWidget, rows: list[tuple[str, ...]]) -> None:
    at = table.currentRow()
    table.setRowCount(len(rows))
    for i, row in enumerate(rows):
        for j, words in enumerate(row):
            table.setItem(i, j, QTableWidgetItem(words))
    if 0 <= at < len(rows):
        table.selectRow(at)

