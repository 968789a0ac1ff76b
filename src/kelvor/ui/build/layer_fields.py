"""The fields of one layer of cloth: what it is, where it lies, how it is turned."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QWidget

from kelvor.core.base.limits import lengths, limit_of
from kelvor.core.base.units import System
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.construction import ZONES, Ply
from kelvor.ui.controls.fields import QuantityField

FIELDS = (
    ("start", "From", "From, off the tail", "tail", math.nan),
    ("end", "To", "To, off the tail", "nose", math.nan),
    ("width", "Patch", "Patch width", "whole zone", 0.0),
    ("wrap", "Wraps", "Wraps the rail by", "0", 0.0),
    ("angle", "Angle", "Angle of the warp", "0°", 0.0),
)
"""Key in the layer, caption, name, what an empty field shows, what it stands for."""


class LayerFields(QWidget):
    """Shows one layer; `changed` carries it as it was changed."""

    changed = Signal(object)
    problem = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._key = ""
        self._ply: Ply | None = None
        self._board: Board | None = None
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        self.cloth, self.zone = QComboBox(), QComboBox()
        for zone in ZONES:
            self.zone.addItem(zone, zone)
        self.cloth.activated.connect(lambda: self._change(cloth=self.cloth.currentData()))
        self.zone.activated.connect(lambda: self._change(zone=self.zone.currentData()))
        for column, (words, name, box) in enumerate((("Cloth", "Cloth", self.cloth), ("on", "Zone", self.zone))):
            box.setAccessibleName(name)
            grid.addWidget(QLabel(words), 0, 2 * column)
            grid.addWidget(box, 0, 2 * column + 1)
        self.cloth.setMinimumWidth(146)
        self.fields: dict[str, QuantityField] = {}
        for i, (key, words, name, hint, empty) in enumerate(FIELDS):
            limit = limit_of(Ply, key) if key in ("angle", "width", "wrap") else lengths(0.0, 1.0)
            field = QuantityField(name, limit, empty)
            field.setMaximumWidth(16777215)
            field.setPlaceholderText(hint)
            field.changed.connect(lambda value, key=key: self._typed(key, value))
            field.problem.connect(self.problem)
            self.fields[key] = field
            grid.addWidget(QLabel(words), 1 + i // 2, 2 * (i % 2))
            grid.addWidget(field, 1 + i // 2, 2 * (i % 2) + 1)

    def show_ply(self, key: str, ply: Ply | None, board: Board, table: MaterialTable, system: System) -> None:
        """Show a layer of a board, or none. What is half typed stays with the layer of the same key."""
        if key != self._key or ply is None:
            for field in self.fields.values():
                field.forget()
        self._key, self._ply, self._board = key, ply, board
        if self.cloth.count() != len(table.cloths):
            self.cloth.clear()
            for cloth in table.cloths:
                self.cloth.addItem(cloth.name, cloth.key)
        for widget in (self.cloth, self.zone, *self.fields.values()):
            widget.setEnabled(ply is not None)
        self.cloth.setCurrentIndex(-1 if ply is None else self.cloth.findData(ply.cloth))
        self.zone.setCurrentIndex(-1 if ply is None else self.zone.findData(ply.zone))
        for name, _, _, _, empty in FIELDS:
            value = None if ply is None else getattr(ply, name)
            if isinstance(value, Place):
                value = value.x(board.length, board.mast_x)
            if name != "angle":
                self.fields[name].limit(board.length)
            self.fields[name].show_value(empty if value is None else value, system)

    def _typed(self, key: str, value: float) -> None:
        ply, board = self._ply, self._board
        if ply is None or board is None:
            return
        if key in ("start", "end"):
            other = ply.start or ply.end
            datum = "tail" if other is None else other.datum
            self._change(**{key: None if math.isnan(value) else Place.at(value, datum, board.length, board.mast_x)})
        else:
            self._change(**{key: value})

    def _change(self, **changes: object) -> None:
        if self._ply is not None:
            changed = replace(self._ply, **changes)  # type: ignore[arg-type]
            if changed != self._ply:
                self.changed.emit(changed)
