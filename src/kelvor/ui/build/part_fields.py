"""The fields of a stringer or side wall, and of a coat."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QWidget

from kelvor.core.base.limits import limit_of
from kelvor.core.base.units import System
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Coat, Stringer
from kelvor.ui.controls.fields import QuantityField


class PartFields(QWidget):
    """Shows one stringer or one coat; `changed` carries it as it was changed."""

    changed = Signal(object)
    problem = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._key = ""
        self._part: Stringer | Coat | None = None
        self.material = QComboBox()
        self.material.setAccessibleName("Material of the stringer")
        self.material.activated.connect(lambda: self._change(material=self.material.currentData()))
        self.width_field = QuantityField("Width of the stringer", limit_of(Stringer, "width"))
        self.offset = QuantityField("Off the centreline, a pair", limit_of(Stringer, "offset"), 0.0)
        self.offset.setPlaceholderText("one, in the middle")
        self.coat = QuantityField("Weight of the coat", limit_of(Coat, "areal_mass"))
        self._captions: list[tuple[QLabel, QWidget]] = []
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        grid.setColumnStretch(1, 1)
        for row, (words, field) in enumerate(
            (("Of", self.material), ("Width", self.width_field), ("Off centre", self.offset), ("Coat", self.coat))
        ):
            caption = QLabel(words)
            caption.setBuddy(field)
            grid.addWidget(caption, row, 0)
            grid.addWidget(field, row, 1)
            self._captions.append((caption, field))
        grid.setRowStretch(4, 1)
        self.width_field.changed.connect(lambda value: self._change(width=value))
        self.offset.changed.connect(lambda value: self._change(offset=value))
        self.coat.changed.connect(lambda value: self._change(areal_mass=value))
        for entry in (self.width_field, self.offset, self.coat):
            entry.setMaximumWidth(16777215)
            entry.problem.connect(self.problem)

    def show_part(self, key: str, part: Stringer | Coat, board: Board, table: MaterialTable, system: System) -> None:
        """Show a part of a board's construction; what is half typed stays with the part of the same key."""
        if key != self._key:
            for field in (self.width_field, self.offset, self.coat):
                field.forget()
        self._key, self._part = key, part
        if isinstance(part, Stringer):
            shown: tuple[QWidget, ...] = (
                (self.material, self.width_field) if part.rail else (self.material, self.width_field, self.offset)
            )
            if self.material.count() != len(table.stocks):
                self.material.clear()
                for stock in table.stocks:
                    self.material.addItem(stock.name, stock.key)
            self.material.setCurrentIndex(self.material.findData(part.material))
            self.width_field.show_value(part.width, system)
            self.offset.limit(board.length / 4)
            self.offset.show_value(part.offset, system)
        else:
            shown = (self.coat,)
            self.coat.show_value(part.areal_mass, system)
        for caption, widget in self._captions:
            caption.setVisible(widget in shown)
            widget.setVisible(widget in shown)

    def _change(self, **changes: object) -> None:
        if self._part is not None:
            changed = replace(self._part, **changes)  # type: ignore[arg-type]
            if changed != self._part:
                self.changed.emit(changed)
