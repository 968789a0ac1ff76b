"""Fields that read and print quantities, and keep what was typed until it can be read."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import Signal
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QLineEdit

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import Limit, within
from kelvor.core.base.units import Quantity, System, parse, text

FINE = 0.003
"""Depths that can be no more than this are shown to a hundredth of a millimetre [m]."""


class QuantityField(QLineEdit):
    """A quantity to type in any unit. `empty` is the value an empty field stands for, if it may be empty."""

    changed = Signal(float)
    problem = Signal(str)

    def __init__(self, name: str, limit: Limit, empty: float | None = None) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.quantity, self._limit, self._empty = limit.quantity, limit, empty
        self._name = name
        self._system = System.METRIC
        self._value = 0.0
        self._shown = ""
        self.setMaximumWidth(120)
        self.editingFinished.connect(self._finished)

    def show_value(self, value: float, system: System) -> None:
        """Show a value, unless something unreadable still waits to be mended."""
        self._value, self._system = value, system
        if self.property("wrong") != "true" and not (self.hasFocus() and self.isModified()):
            self._shown = self._words(value)
            self.setText(self._shown)

    def limit(self, high: float) -> None:
        """Take values up to another limit."""
        self._limit = replace(self._limit, high=high)

    def forget(self) -> None:
        """Give up what is half typed: the field turns to something else."""
        self._mark(False)
        self.setModified(False)

    def _words(self, value: float) -> str:
        extra = 1 if self.quantity is Quantity.DEPTH and self._limit.high <= FINE else 0
        return "" if self._stands_empty(value) else text(value, self.quantity, self._system, extra=extra)

    def _stands_empty(self, value: float) -> bool:
        return self._empty is not None and (value == self._empty or (math.isnan(value) and math.isnan(self._empty)))

    def _finished(self) -> None:
        if self.text() == self._shown:
            self._mark(False)
            return
        try:
            empty = self._empty is not None and not self.text().strip()
            value = (
                self._empty if empty and self._empty is not None else parse(self.text(), self.quantity, self._system)
            )
            if not empty:
                within(self._limit, value, self._name, self._system)
        except InputError as error:
            self._mark(True)
            self.problem.emit(f"{self._name}: {error}" if self._name not in str(error) else str(error))
            return
        self._mark(False)
        self.problem.emit("")
        self.setModified(False)
        self._shown = self._words(value)
        self.setText(self._shown)
        if value != self._value:
            self._value = value
            self.changed.emit(value)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving takes what was typed."""
        super().focusOutEvent(event)
        self.setModified(False)

    def _mark(self, wrong: bool) -> None:
        self.setProperty("wrong", "true" if wrong else "false")
        self.style().polish(self)
