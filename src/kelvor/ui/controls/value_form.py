"""A form for any value of the core: a field for each of its declared ones, with their limits and units."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, is_dataclass
from typing import Any, Literal, get_args, get_origin

from PySide6.QtCore import Signal
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QComboBox, QFormLayout, QLabel, QLineEdit, QPlainTextEdit, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import Limit, Text, declared, typed_name
from kelvor.core.base.snapshot import hints_of
from kelvor.core.base.units import Quantity, System
from kelvor.core.levers.fields import at_path, with_path
from kelvor.ui.controls.fields import QuantityField

KELVIN = 273.15
WORDS = {
    "mast_length": "Mast length", "lift_ahead": "Lifts ahead of mast by", "rake": "Raked", "shim": "Stabiliser shim",
    "volume": "Water it displaces",
    "set_depth": "Set into the box by", "celsius": "Temperature", "kind": "Water", "height": "Height",
    "shore": "Shore lies", "tip": "Tip, of the base",
    "thickness": "Thickness, of the chord", "mass": "Mass", "base": "Base",
}  # fmt: skip


class _Lines(QPlainTextEdit):
    """A few lines, told when they are left."""

    left = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(70)
        self.setTabChangesFocus(True)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """What was typed is taken."""
        super().focusOutEvent(event)
        self.left.emit()


class ValueForm(QWidget):
    """Fields of a value; what is typed is told whole, as another value."""

    def __init__(self, changed: Callable[[Any], None], problem: Callable[[str], None]) -> None:
        super().__init__()
        self._changed, self._problem = changed, problem
        self._value: Any = None
        self._fields: dict[str, QWidget] = {}
        self._form = QFormLayout(self)
        self._form.setContentsMargins(0, 0, 0, 0)
        self._form.setSpacing(7)

    def show_value(self, value: Any, system: System, words: dict[str, str] | None = None) -> None:
        """Show a value, in fields made for its kind; `words` name fields otherwise."""
        if type(value) is not type(self._value):
            self._make(value, {**WORDS, **(words or {})})
        self._value = value
        for path, field in self._fields.items():
            shown = at_path(value, path)
            if isinstance(field, QuantityField):
                field.show_value(shown + (KELVIN if field.quantity is Quantity.TEMPERATURE else 0.0), system)
            elif isinstance(field, QComboBox):
                field.setCurrentIndex(field.findData(shown))
            elif isinstance(field, QPlainTextEdit):
                if not field.hasFocus() and field.toPlainText() != shown:
                    field.setPlainText(shown)
            elif isinstance(field, QLineEdit) and not (field.hasFocus() and field.isModified()):
                field.setText(shown)

    def field(self, path: str) -> QWidget:
        """The field of a part, such as “mass” or “water.celsius”."""
        return self._fields[path]

    def take(self) -> None:
        """Take what is half typed in long texts."""
        for path, field in self._fields.items():
            if (
                isinstance(field, QPlainTextEdit)
                and self._value is not None
                and field.toPlainText() != at_path(self._value, path)
            ):
                self._typed(path, field.toPlainText())

    def _make(self, value: Any, words: dict[str, str]) -> None:
        while self._form.rowCount():
            self._form.removeRow(0)
        self._fields = {}
        self._add(value, "", words)

    def _add(self, value: Any, prefix: str, words: dict[str, str]) -> None:
        kind = type(value)
        for part in fields(value):
            path, here = f"{prefix}{part.name}", getattr(value, part.name)
            if is_dataclass(here):
                self._add(here, f"{path}.", words)
                continue
            label = words.get(path, words.get(part.name, part.name.replace("_", " ").capitalize()))
            field = self._field(kind, part.name, path, label)
            if field is not None:
                field.setAccessibleName(label)
                self._fields[path] = field
                self._form.addRow(QLabel(label), field)

    def _field(self, kind: type, name: str, path: str, label: str) -> QWidget | None:
        rules = declared(kind, name)
        hint = hints_of(kind)[name]
        limit = next((rule for rule in rules if isinstance(rule, Limit)), None)
        if limit is not None:
            degrees = limit.unit == "°C"
            if degrees:
                limit = Limit(KELVIN + limit.low, KELVIN + limit.high, Quantity.TEMPERATURE)
            number = QuantityField(label, limit)
            number.changed.connect(lambda v: self._typed(path, v - (KELVIN if degrees else 0.0)))
            number.problem.connect(self._problem)
            return number
        rule = next((rule for rule in rules if isinstance(rule, Text)), None)
        if rule is not None and rule.lines:
            lines = _Lines()
            lines.left.connect(self.take)
            return lines
        if rule is not None:
            line = QLineEdit()
            line.setMaxLength(rule.longest)
            line.editingFinished.connect(lambda: self._line_typed(path, line, label, rule))
            return line
        if get_origin(hint) is Literal:
            box = QComboBox()
            for choice in get_args(hint):
                box.addItem(choice, choice)
            box.activated.connect(lambda index: self._typed(path, box.itemData(index)))
            return box
        return None

    def _line_typed(self, path: str, line: QLineEdit, label: str, rule: Text) -> None:
        try:
            words = typed_name(line.text(), label, rule)
        except InputError as error:
            self._problem(str(error))
            line.setText(at_path(self._value, path))
            return
        self._typed(path, words)

    def _typed(self, path: str, part: Any) -> None:
        if at_path(self._value, path) != part:
            self._problem("")
            self._changed(with_path(self._value, path, part))
