"""Fields bound to the brief: each knows how its value is read and replaced, and says what it refuses."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import Limit, Text, typed_name
from kelvor.core.brief.brief import Brief
from kelvor.ui.controls.fields import QuantityField
from kelvor.ui.controls.panel import heading
from kelvor.ui.session.session import Session

Edit = Callable[[Brief, Any], Brief]
Read = Callable[[Brief], Any]
Say = Callable[[str], None]


class FormPanel(QFrame):
    """A sheet of fields over the brief in hand."""

    def __init__(self, session: Session, say: Say, title: str) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.session = session
        self._say = say
        self._fields: list[tuple[QWidget, Read]] = []
        outer = QVBoxLayout(self)
        outer.setContentsMargins(16, 12, 6, 12)
        outer.setSpacing(8)
        outer.addWidget(heading(title))
        holder = QWidget()
        self.column = QVBoxLayout(holder)
        self.column.setContentsMargins(0, 0, 10, 0)
        self.column.setSpacing(8)
        outer.addWidget(scrolled(holder), 1)

    def show_brief(self) -> None:
        """Show the brief in every field, but not over what is being typed."""
        brief, system = self.session.brief, self.session.system
        for widget, read in self._fields:
            value = read(brief)
            if isinstance(widget, QuantityField):
                widget.show_value(value, system)
            elif isinstance(widget, QComboBox):
                widget.setCurrentIndex(max(0, widget.findData(value)))
            elif isinstance(widget, QLineEdit) and not (widget.hasFocus() and widget.isModified()):
                widget.setText(value)
                widget.setCursorPosition(0)

    def _edit(self, edit: Edit, value: Any) -> None:
        self.session.briefs.set(edit(self.session.brief, value))

    def _part(self) -> tuple[QWidget, QGridLayout]:
        """A grid of fields that is shown or hidden as one."""
        holder = QWidget()
        self.column.addWidget(holder)
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(1, 1)
        return holder, grid

    def _group(self, grid: QGridLayout, words: str) -> QLabel:
        label = QLabel(words)
        label.setObjectName("group")
        grid.addWidget(label, grid.rowCount(), 0, 1, 2)
        return label

    def _row(self, grid: QGridLayout, words: str, widget: QWidget) -> None:
        at = grid.rowCount()
        label = QLabel(words)
        label.setBuddy(widget)
        grid.addWidget(label, at, 0)
        grid.addWidget(widget, at, 1)

    def _text(self, grid: QGridLayout, words: str, rule: Text, read: Read, edit: Edit) -> None:
        field = QLineEdit()
        field.setAccessibleName(words)
        field.setMaxLength(rule.longest)
        field.editingFinished.connect(lambda: self._text_typed(words, field, rule, read, edit))
        self._fields.append((field, read))
        self._row(grid, words, field)

    def _text_typed(self, words: str, field: QLineEdit, rule: Text, read: Read, edit: Edit) -> None:
        try:
            name = typed_name(field.text(), words, rule)
        except InputError as error:
            self._say(str(error))
            field.setText(read(self.session.brief))
            return
        self._edit(edit, name)

    def _number(self, grid: QGridLayout, words: str, limit: Limit, read: Read, edit: Edit) -> QuantityField:
        field = QuantityField(words, limit)
        field.changed.connect(lambda value: self._edit(edit, value))
        field.problem.connect(self._say)
        self._fields.append((field, read))
        self._row(grid, words, field)
        return field

    def _choice(self, grid: QGridLayout, words: str, options: list[tuple[str, str]], read: Read, edit: Edit) -> None:
        box = QComboBox()
        box.setAccessibleName(words)
        box.setMaximumWidth(230)
        for key, shown in options:
            box.addItem(shown, key)
        box.activated.connect(lambda index: self._edit(edit, box.itemData(index)))
        self._fields.append((box, read))
        self._row(grid, words, box)


def field_of(at: tuple[str, ...], name: str) -> tuple[Read, Edit]:
    """How a field of the brief, or of a part of it, is read and replaced."""
    if not at:
        return lambda b: getattr(b, name), lambda b, v: replace(b, **{name: v})
    part = at[0]
    return lambda b: getattr(getattr(b, part), name), lambda b, v: replace(
        b, **{part: replace(getattr(b, part), **{name: v})}
    )


def scrolled(holder: QWidget) -> QScrollArea:
    """A part of a sheet that scrolls where the window is low."""
    holder.setObjectName("sheet")
    scroll = QScrollArea()
    scroll.setWidgetResizable(True)
    scroll.setFrameShape(QScrollArea.Shape.NoFrame)
    scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    scroll.viewport().setAutoFillBackground(False)
    scroll.setWidget(holder)
    return scroll
