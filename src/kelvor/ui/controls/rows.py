"""A list of rows painted in one go: label, value, aside; headings; keyboard; a value that can be typed over."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QFontMetricsF,
    QGuiApplication,
    QHelpEvent,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from kelvor.ui.controls.inline_editor import TypedOver, TypingHolder
from kelvor.ui.shown.shown import Row
from kelvor.ui.theme.style import colour, font, icon

CELL = 11.0
"""Width of a phase's cell [px]."""
LONG_ASIDES = 0.9
"""So many rows share a column of values; those with a longer aside give way alone, not all labels."""


def _cell(painter: QPainter, at: QRectF, does: int) -> None:
    """What a fair step does in a phase: filled upward is better, hollow downward worse, a bar up or down only more or
    less.
    """
    middle = at.center()
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    x, y, r = middle.x(), middle.y(), 3.6
    if does == 0:
        painter.setPen(QPen(colour("line"), 1.4))
        painter.drawPoint(middle)
    elif abs(does) == 1:
        role = "live" if does > 0 else "short"
        tip = y - r if does > 0 else y + r
        base = y + r - 0.6 if does > 0 else y - r + 0.6
        painter.setPen(QPen(colour(role), 1.2))
        painter.setBrush(colour(role) if does > 0 else Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF([QPointF(x, tip), QPointF(x + r, base), QPointF(x - r, base)]))
    else:
        painter.setPen(QPen(colour("quiet"), 1.4))
        painter.drawLine(QPointF(x, y - r), QPointF(x, y + r))
        end = y - r if does > 0 else y + r
        back = 2.4 if does > 0 else -2.4
        painter.drawLine(QPointF(x, end), QPointF(x - 2.2, end + back))
        painter.drawLine(QPointF(x, end), QPointF(x + 2.2, end + back))
    painter.restore()


class RowsView(TypingHolder, QWidget):
    """Rows to read, choose and, where `editable`, type over."""

    chosen = Signal(str)
    """A row was chosen, by its key."""
    typed = Signal(str, str)
    """A value was typed over: key and text. The text stays open until :meth:`accept_typed`."""
    nudged = Signal(str, float)
    """Left or right was pressed on a row: key and a factor of a fair step."""

    def __init__(self, name: str, *, editable: bool = False, value_share: float = 1.0, row_height: int = 22) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._rows: list[Row] = []
        self._editable, self._share, self._height = editable, value_share, row_height
        self._top = 0
        self._key = ""
        self._renewing = False
        self._fonts = (font(13), font(13, 600), font(13, 700), font(12))
        self.menu_for: Callable[[str], None] | None = None

    def set_rows(self, rows: list[Row]) -> None:
        """Show other rows; the choice stays where its key still exists."""
        if rows != self._rows:
            self._rows = rows
            self.update()

    def set_renewing(self, renewing: bool) -> None:
        """Paint all values as those of the board before, or as they are."""
        if renewing != self._renewing:
            self._renewing = renewing
            self.update()

    def rows(self) -> list[Row]:
        """The rows on show."""
        return self._rows

    def key(self) -> str:
        """The chosen row's key."""
        return self._key

    def choose(self, key: str) -> None:
        """Choose a row and bring it into view."""
        self._key = key
        index = self._index(key)
        if index is not None:
            self._top = max(min(self._top, index - 1), index - self._visible() + 1, 0)
        self.update()
        self.chosen.emit(key)

    def rect_of(self, key: str) -> QRectF:
        """Where a row is painted."""
        index = self._index(key) or 0
        return QRectF(0, (index - self._top) * self._height, self.width(), self._height)

    def sizeHint(self) -> QSize:
        """Room for ten rows."""
        return QSize(220, 10 * self._height)

    def minimumSizeHint(self) -> QSize:
        """Room for a few rows."""
        return QSize(160, 3 * self._height)

    def _index(self, key: str) -> int | None:
        return next((i for i, row in enumerate(self._rows) if row.key and row.key == key), None)

    def _visible(self) -> int:
        return max(1, self.height() // self._height)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the rows in view."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        plain, _, _, small = self._fonts
        width, h = float(self.width()), self._height
        ink, quiet, live = colour("ink"), colour("quiet"), colour("live")
        aside_width, asides = width * (1 - self._share) if self._share < 1 else 0.0, QFontMetricsF(small)
        if aside_width:
            each = sorted(asides.horizontalAdvance(row.aside) + 4 for row in self._rows if row.aside) or [0.0]
            aside_width = max(aside_width, each[int(LONG_ASIDES * (len(each) - 1))])
        cells = max((len(row.cells) for row in self._rows), default=0)
        value_right = width - 12 - aside_width - (cells * CELL + 6 if cells else 0)
        metrics = QFontMetricsF(plain)
        top = min(self._top, max(0, len(self._rows) - self._visible()))
        for i in range(top, min(len(self._rows), top + self._visible())):
            row = self._rows[i]
            y = (i - top) * h
            if not row.key:
                self._heading(painter, row, y, cells)
                continue
            if row.key == self._key:
                painter.fillRect(QRectF(2, y, width - 4, h), colour("live_wash"))
                if self.hasFocus():
                    painter.fillRect(QRectF(2, y, 3, h), live)
            left = 18.0 if self._editable else 12.0
            aside = asides.horizontalAdvance(row.aside) + 4 if aside_width and row.aside else 0.0
            right = value_right - max(0.0, aside - aside_width)
            room = right - self._value(painter, row, y, right) - left - 8
            painter.setFont(plain)
            painter.setPen(ink)
            # labels differ at their ends, what somebody said begins at its beginning
            cut = Qt.TextElideMode.ElideRight if row.label.startswith("“") else Qt.TextElideMode.ElideMiddle
            label = metrics.elidedText(row.label, cut, room)
            painter.drawText(QRectF(left, y, room + 2, h), Qt.AlignmentFlag.AlignVCenter, label)
            if aside_width and row.aside:
                painter.setFont(small)
                painter.setPen(quiet)
                painter.drawText(
                    QRectF(width - aside - 8, y, aside, h),
                    Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                    row.aside,
                )
            for k, does in enumerate(row.cells):
                _cell(painter, QRectF(width - 8 - (cells - k) * CELL, y, CELL, h), does)
            if not self._editable:
                painter.setPen(QPen(colour("line"), 1))
                painter.drawLine(12, y + h - 1, round(width) - 12, y + h - 1)
        if len(self._rows) > self._visible():
            share = self._visible() / len(self._rows)
            painter.fillRect(
                QRectF(width - 4, top / len(self._rows) * self.height(), 3, share * self.height()), colour("line")
            )

    def _heading(self, painter: QPainter, row: Row, y: float, cells: int) -> None:
        """Words over a group, with the initials of the phases over their cells."""
        _, _, heading, small = self._fonts
        width, h = float(self.width()), self._height
        painter.setFont(heading)
        painter.setPen(colour("live"))
        painter.drawText(QRectF(12, y + 2, width - 24, h), Qt.AlignmentFlag.AlignVCenter, row.label)
        if row.heads and cells:
            painter.setFont(small)
            painter.setPen(colour("quiet"))
            for k, initial in enumerate(row.heads):
                at = QRectF(width - 8 - (cells - k) * CELL, y + 2, CELL, h)
                painter.drawText(at, Qt.AlignmentFlag.AlignCenter, initial)

    def _value(self, painter: QPainter, row: Row, y: float, right: float) -> float:
        """A row's value, struck through where it does not hold, with its mark before it; the room they take."""
        h, metrics = self._height, QFontMetricsF(self._fonts[1])
        side = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.setFont(self._fonts[1])
        shown = metrics.horizontalAdvance(row.value)
        painter.setPen(colour("quiet" if row.struck or row.renewing or self._renewing else "ink"))
        painter.drawText(QRectF(0, y, right, h), side, row.value)
        if row.struck and row.value != "–":
            painter.drawLine(round(right - shown), round(y + h / 2), round(right), round(y + h / 2))
        if row.mark == "lock":
            icon("lock", "pinned").paint(painter, round(right - shown - 18), round(y + h / 2 - 7), 14, 14)
            return shown + 16
        if row.mark:
            painter.setPen(colour("short"))
            painter.drawText(QRectF(0, y, right - shown - 5, h), side, row.mark)
            return shown + 10
        return shown

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Scroll."""
        self._scroll_to(self._top - round(event.angleDelta().y() / 40))

    def _scroll_to(self, top: int) -> None:
        self._top = max(0, min(top, len(self._rows) - self._visible()))
        self.update()

    def _row_at(self, y: float) -> Row | None:
        i = self._top + int(y // self._height)
        return self._rows[i] if 0 <= i < len(self._rows) else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a row; a click on a value begins typing."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        row = self._row_at(event.position().y())
        if row and row.key:
            self.choose(row.key)
            if (
                self._editable
                and event.position().x() > self.width() * 0.58
                and event.button() == Qt.MouseButton.LeftButton
            ):
                self.begin_typing()
            elif event.button() == Qt.MouseButton.RightButton and self.menu_for:
                self.menu_for(row.key)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Type over the value."""
        if self._editable and self._key:
            self.begin_typing()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose, left and right nudge, Enter types, Ctrl+C copies all rows."""
        key = event.key()
        if event.matches(QKeySequence.StandardKey.Copy):
            from kelvor.exchange.tables import plain_cell  # not before something is copied

            lines = ("\t".join(plain_cell(part) for part in (r.label, r.value, r.aside) if part) for r in self._rows)
            QGuiApplication.clipboard().setText("\n".join(lines))
            return
        keys = [row.key for row in self._rows if row.key]
        at = keys.index(self._key) if self._key in keys else -1
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up) and keys:
            self.choose(keys[max(0, min(len(keys) - 1, at + (1 if key == Qt.Key.Key_Down else -1)))])
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self._editable and self._key:
            fine = 0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.nudged.emit(self._key, fine if key == Qt.Key.Key_Right else -fine)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_F2) and self._key:
            if self._editable:
                self.begin_typing()
            else:
                self.chosen.emit(self._key)
        elif self._editable and self._key and event.text() and event.text() in "0123456789.,-−'\"":
            self.begin_typing(event.text())
        else:
            super().keyPressEvent(event)

    def begin_typing(self, first: str = "") -> None:
        """Open the chosen value to be typed over."""
        index = self._index(self._key)
        if index is None:
            return
        row = self._rows[index]
        self.close_typing()
        rect = self.rect_of(row.key)
        place = QRect(round(rect.width() * 0.48), round(rect.y()) - 1, round(rect.width() * 0.5), self._height + 2)
        self._editor = TypedOver(self, row.label, row.value, place, lambda words: self.typed.emit(row.key, words))
        self._editor.setAlignment(Qt.AlignmentFlag.AlignRight)
        if first:
            self._editor.setText(first)

    def event(self, event: QEvent) -> bool:
        """Tips by row."""
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            row = self._row_at(event.pos().y())
            if row and (row.tip or row.label):
                QToolTip.showText(event.globalPos(), f"{row.label}. {row.tip}" if row.tip else row.label, self)
            return True
        return super().event(event)
