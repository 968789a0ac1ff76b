"""The fields of a construction that are not layers: core, resin, method, and what a built-up core leaves."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QVBoxLayout, QWidget

from kelvor.core.base.limits import limit_of
from kelvor.core.base.units import System
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.register.kinds.shop import MassReading
from kelvor.core.shape.parts.construction import Build, Construction, Core
from kelvor.ui.controls.fields import QuantityField

CHAMBERS = (
    ("skin", "Planks", "Wood left above and below"),
    ("rail", "Rail", "Solid wood at the rail"),
    ("rib", "Ribs", "Thickness of a rib"),
    ("pitch", "every", "Distance of ribs"),
)
BAGS = 2
"""Pulls of the bag a bagged board begins with (common practice, no source)."""


def _grid(holder: QWidget) -> QGridLayout:
    grid = QGridLayout(holder)
    grid.setContentsMargins(0, 0, 0, 0)
    grid.setHorizontalSpacing(8)
    grid.setVerticalSpacing(5)
    return grid


class CoreFields(QWidget):
    """Shows a construction's core, resin and method; `changed` carries the construction and what was changed,
    in words.
    """

    changed = Signal(object, str)
    wanted = Signal(float)
    """The board should weigh so much [kg]."""
    problem = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._shown: Construction | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        upper = QWidget()
        grid = _grid(upper)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        self.stock, self.build, self.resin, self.method = QComboBox(), QComboBox(), QComboBox(), QComboBox()
        for kind in get_args(Build):
            self.build.addItem(kind, kind)
        for key, words in (("hand", "laid by hand"), ("bagged", "bagged")):
            self.method.addItem(words, key)
        for i, (words, box) in enumerate(
            (("Core", self.stock), ("made", self.build), ("Resin", self.resin), ("Method", self.method))
        ):
            caption = QLabel(words)
            caption.setBuddy(box)
            box.setAccessibleName(words)
            grid.addWidget(caption, i // 2, 2 * (i % 2))
            grid.addWidget(box, i // 2, 2 * (i % 2) + 1)
            box.activated.connect(lambda _=0, box=box, words=words: self._chosen(box, words))
        self.blocks = QComboBox()
        self.potting = QuantityField("Potting", limit_of(Construction, "potting"))
        self.blocks.setToolTip("Dense foam let in about fin boxes, mast track and inserts")
        self.potting.setToolTip("Thickened resin over the walls and floor of every pocket")
        self.blocks.activated.connect(lambda _: self._chosen(self.blocks, "Blocks"))
        self.potting.changed.connect(self._potted)
        self.potting.problem.connect(self.problem)
        beside: tuple[tuple[str, QWidget], ...] = (("Blocks", self.blocks), ("Potting", self.potting))
        for i, (words, part) in enumerate(beside):
            caption = QLabel(words)
            caption.setBuddy(part)
            part.setAccessibleName(words)
            grid.addWidget(caption, 2, 2 * i)
            grid.addWidget(part, 2, 2 * i + 1)
        column.addWidget(upper)
        self.built_up = QWidget()
        lower = _grid(self.built_up)
        self.fields: dict[str, QuantityField] = {}
        for i, (key, words, name) in enumerate(CHAMBERS):
            field = QuantityField(name, limit_of(Core, key))
            field.changed.connect(lambda value, key=key, words=words: self._typed(key, words, value))
            field.problem.connect(self.problem)
            self.fields[key] = field
            caption = QLabel(words)
            caption.setBuddy(field)
            lower.addWidget(caption, i // 2, 2 * (i % 2))
            lower.addWidget(field, i // 2, 2 * (i % 2) + 1)
        self.weight = QuantityField("Should weigh", limit_of(MassReading, "mass"))
        self.weight.setToolTip("Leaves so much wood above and below that the board weighs this")
        self.weight.changed.connect(self.wanted)
        self.weight.problem.connect(self.problem)
        caption = QLabel("Weighs")
        caption.setBuddy(self.weight)
        lower.addWidget(caption, 2, 0)
        lower.addWidget(self.weight, 2, 1)
        column.addWidget(self.built_up)

    def show_weight(self, mass: float, system: System) -> None:
        """Show what the board weighs [kg], to be typed over."""
        self.weight.show_value(mass, system)

    def show_construction(self, construction: Construction | None, table: MaterialTable, system: System) -> None:
        """Show a construction, or none."""
        self._shown = construction
        for box, entries in ((self.stock, table.stocks), (self.resin, table.resins)):
            if box.count() != len(entries):
                box.clear()
                for entry in entries:
                    box.addItem(entry.name, entry.key)
        if self.blocks.count() != len(table.stocks) + 1:
            self.blocks.clear()
            self.blocks.addItem("none", "")
            for stock in table.stocks:
                self.blocks.addItem(stock.name, stock.key)
        for part in (self.stock, self.build, self.resin, self.method, self.blocks, self.potting):
            part.setEnabled(construction is not None)
        self.built_up.setVisible(construction is not None and construction.core.build != "solid")
        if construction is None:
            return
        core = construction.core
        for box, value in (
            (self.stock, core.stock),
            (self.build, core.build),
            (self.resin, construction.resin),
            (self.method, construction.method),
            (self.blocks, construction.blocks),
        ):
            box.setCurrentIndex(max(0, box.findData(value)))
        for key, field in self.fields.items():
            field.show_value(getattr(core, key), system)
        self.potting.show_value(construction.potting, system)

    def _chosen(self, box: QComboBox, what: str) -> None:
        c, value = self._shown, box.currentData()
        if c is None:
            return
        if box is self.stock:
            c = replace(c, core=replace(c.core, stock=value))
        elif box is self.build:
            c = replace(c, core=replace(c.core, build=value))
        elif box is self.resin:
            c = replace(c, resin=value)
        elif box is self.blocks:
            c = replace(c, blocks=value)
        else:
            c = replace(c, method=value, bags=c.bags if value == "hand" or c.bags else BAGS)
        self.changed.emit(c, f"{'Core made' if box is self.build else what.capitalize()}: {box.currentText()}")

    def _potted(self, value: float) -> None:
        if self._shown is not None:
            self.changed.emit(replace(self._shown, potting=value), f"Potting: {self.potting.text()}")

    def _typed(self, key: str, what: str, value: float) -> None:
        if self._shown is not None:
            changes: dict[str, Any] = {key: value}
            self.changed.emit(
                replace(self._shown, core=replace(self._shown.core, **changes)),
                f"Core, {what.lower()}: {self.fields[key].text()}",
            )
