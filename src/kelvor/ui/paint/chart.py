"""A chart of the ride: lines with their bands, the pinned board dashed behind them, a reading under the cursor."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.units import System
from kelvor.core.ride.pictures import Chart, ChartLine
from kelvor.ui.controls.copy_out import TakenOut
from kelvor.ui.paint.strokes import behind_pen, pen, polygon
from kelvor.ui.shown.charts import Axis, PictureBehind, chart_reading, chart_rows, ranges
from kelvor.ui.theme.style import colour, font

LEFT, RIGHT, TOP, BOTTOM = 46.0, 16.0, 58.0, 32.0
_ROLES = {"now": "live", "push": "cursor", "aside": "quiet", "limit": "short"}


class ChartWidget(QWidget):
    """One chart. Arrow keys and the pointer move the reading."""

    read = Signal(object)
    """The reading moved to a place, or went (None)."""

    def __init__(self, name: str = "Chart", *, small: bool = False) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.chart: Chart | None = None
        self.behind: tuple[PictureBehind[Chart], ...] = ()
        self.own = "on the bench"
        """Whose the lines are that are not behind."""
        self.system = System.METRIC
        self.reading_at: float | None = None
        self.empty = ""
        self._small = small
        self._fonts = (font(14, 700), font(12), font(11), font(12, 600))
        self.taken_out = TakenOut(self, lambda: self.chart.title if self.chart is not None else name, self.rows)

    def sizeHint(self) -> QSize:
        """Room for a picture."""
        return QSize(420, 130 if self._small else 260)

    def minimumSizeHint(self) -> QSize:
        """The least that still reads."""
        return QSize(180, 100)

    def show_chart(self, chart: Chart | None, behind: tuple[PictureBehind[Chart], ...], system: System) -> None:
        """Show a chart over those of the boards behind."""
        self.chart, self.behind, self.system = chart, behind, system
        if chart is not None:
            self.setAccessibleDescription(f"{chart.title}. {chart.caption}")
        self.update()

    def rows(self) -> list[tuple[str, ...]]:
        """The numbers of all lines."""
        return [] if self.chart is None else chart_rows(self.chart, self.behind, self.system, self.own)

    def reads_with(self, other: ChartWidget) -> None:
        """Let both charts read at one place, wherever the pointer is."""
        self.read.connect(other.read_at)
        other.read.connect(self.read_at)

    def read_at(self, place: float | None) -> None:
        """Read the lines at a place, or none."""
        if place != self.reading_at:
            self.reading_at = place
            self.update()
            self.read.emit(place)

    def reading(self) -> str:
        """What the lines read at the cursor, or nothing."""
        if self.chart is None or self.reading_at is None:
            return ""
        return chart_reading(self.chart, self.behind, self.reading_at, self.system)

    # painting

    def _frame(self) -> QRectF:
        top = 8.0 if self._small else TOP
        return QRectF(LEFT, top, max(self.width() - LEFT - RIGHT, 20), max(self.height() - top - BOTTOM, 20))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the chart."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.chart is None:
            painter.setFont(self._fonts[1])
            painter.setPen(colour("quiet"))
            painter.drawText(
                QRectF(self.rect()).adjusted(12, 8, -12, -8),
                Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
                self.empty,
            )
            return
        across, up = ranges(self.chart, self.behind, self.system)
        frame = self._frame()
        self._axes(painter, frame, across, up)
        painter.save()
        painter.setClipRect(frame.adjusted(0, -1, 1, 1))
        for other in self.behind:
            for line in other.picture.lines:
                if line.role == "now":
                    painter.setPen(behind_pen(other.role))
                    painter.drawPolyline(polygon(*self._places(line, frame, across, up)))
        for line in self.chart.lines:
            self._line(painter, line, frame, across, up)
        painter.restore()
        self._marks(painter, frame, across, up)
        if not self._small:
            self._titles(painter)
        if self.reading_at is not None:
            x = frame.left() + across.share(self.reading_at) * frame.width()
            painter.setPen(pen("cursor", 1))
            painter.drawLine(QPointF(x, frame.top()), QPointF(x, frame.bottom()))

    def _places(
        self, line: ChartLine, frame: QRectF, across: Axis, up: Axis, shift: float = 0.0
    ) -> tuple[np.ndarray, np.ndarray]:
        band = line.band if line.band is not None else np.zeros_like(line.y)
        x = frame.left() + (line.x - across.low) / (across.high - across.low) * frame.width()
        y = frame.bottom() - (line.y + shift * band - up.low) / (up.high - up.low) * frame.height()
        return x, y

    def _line(self, painter: QPainter, line: ChartLine, frame: QRectF, across: Axis, up: Axis) -> None:
        role = _ROLES[line.role]
        if line.band is not None:
            x, top = self._places(line, frame, across, up, 1.0)
            _, low = self._places(line, frame, across, up, -1.0)
            wash = QColor(colour(role))
            wash.setAlpha(34)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(wash)
            painter.drawPolygon(polygon(np.concatenate([x, x[::-1]]), np.concatenate([top, low[::-1]])))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        style = Qt.PenStyle.DotLine if line.role == "aside" else Qt.PenStyle.SolidLine
        painter.setPen(QPen(colour(role), 2.2 if line.role == "now" else 1.8, style))
        painter.drawPolyline(polygon(*self._places(line, frame, across, up)))

    def _axes(self, painter: QPainter, frame: QRectF, across: Axis, up: Axis) -> None:
        chart = self.chart
        assert chart is not None
        painter.setFont(self._fonts[2])
        metrics = QFontMetricsF(self._fonts[2])
        for value, words in up.ticks:
            y = frame.bottom() - up.share(value) * frame.height()
            painter.setPen(pen("grid", 1))
            painter.drawLine(QPointF(frame.left(), y), QPointF(frame.right(), y))
            painter.setPen(colour("quiet"))
            painter.drawText(
                QRectF(0, y - 8, LEFT - 6, 16), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words
            )
        painter.setPen(pen("line", 1))
        painter.drawLine(frame.bottomLeft(), frame.bottomRight())
        for value, words in across.ticks:
            x = frame.left() + across.share(value) * frame.width()
            painter.setPen(pen("line", 1))
            painter.drawLine(QPointF(x, frame.bottom()), QPointF(x, frame.bottom() + 3))
            painter.setPen(colour("quiet"))
            painter.drawText(QRectF(x - 30, frame.bottom() + 3, 60, 14), Qt.AlignmentFlag.AlignHCenter, words)
        painter.drawText(
            QRectF(frame.left(), frame.bottom() + 16, frame.width(), 15), Qt.AlignmentFlag.AlignRight, chart.x_label
        )
        if not self._small:
            painter.drawText(
                QPointF(max(LEFT - 6 - metrics.horizontalAdvance(chart.y_label), 2), frame.top() - 7), chart.y_label
            )

    def _marks(self, painter: QPainter, frame: QRectF, across: Axis, up: Axis) -> None:
        chart = self.chart
        assert chart is not None
        painter.setFont(self._fonts[3])
        metrics = QFontMetricsF(self._fonts[3])
        rows = 0
        for mark in chart.marks:
            share = across.share(mark.x)
            if not -0.01 <= share <= 1.01:
                continue
            x = frame.left() + share * frame.width()
            wide = metrics.horizontalAdvance(mark.text)
            left = max(x + 6 if x + 8 + wide < frame.right() else x - 6 - wide, frame.left() + 3)
            painter.setPen(QPen(colour("quiet"), 1, Qt.PenStyle.DashLine))
            if mark.y is None:
                painter.drawLine(QPointF(x, frame.top()), QPointF(x, frame.bottom()))
                y = frame.top() + 12 + 15 * rows
                rows += 1
            else:
                point = frame.bottom() - up.share(mark.y) * frame.height()
                painter.setPen(pen("ink", 1.4))
                painter.setBrush(colour("paper"))
                painter.drawEllipse(QPointF(x, point), 3.6, 3.6)
                painter.setBrush(Qt.BrushStyle.NoBrush)
                y = point - 9 if point - 20 > frame.top() else point + 18
            painter.fillRect(QRectF(left - 2, y - 11, wide + 4, 14), colour("paper"))
            painter.setPen(colour("ink"))
            painter.drawText(QPointF(left, y), mark.text)

    def _titles(self, painter: QPainter) -> None:
        chart = self.chart
        assert chart is not None
        painter.setFont(self._fonts[0])
        painter.setPen(colour("ink"))
        painter.drawText(QPointF(14, 19), chart.title)
        painter.setFont(self._fonts[1])
        metrics = QFontMetricsF(self._fonts[1])
        entries = [(line.name, line.role) for line in chart.lines] + [(other.name, other.role) for other in self.behind]
        x = 14 + QFontMetricsF(self._fonts[0]).horizontalAdvance(chart.title) + 20
        beside = x + sum(36 + metrics.horizontalAdvance(name) for name, _ in entries) < self.width()
        x, y = (x, 19.0) if beside else (14.0, 36.0)
        for name, role in entries if beside or not self.reading() else []:
            style = Qt.PenStyle.DotLine if role == "aside" else Qt.PenStyle.SolidLine
            painter.setPen(QPen(colour(_ROLES[role]), 2.2, style) if role in _ROLES else behind_pen(role))
            painter.drawLine(QPointF(x, y - 4), QPointF(x + 18, y - 4))
            painter.setPen(colour("quiet"))
            painter.drawText(QPointF(x + 23, y), name)
            x += 36 + metrics.horizontalAdvance(name)
        words = self.reading() or (chart.caption if beside else "")
        painter.setPen(colour("quiet"))
        painter.drawText(QPointF(14, 36), metrics.elidedText(words, Qt.TextElideMode.ElideRight, self.width() - 28))

    # reading

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Read the lines under the pointer."""
        if self.chart is None:
            return
        frame = self._frame()
        across, _ = ranges(self.chart, self.behind, self.system)
        share = min(max((event.position().x() - frame.left()) / frame.width(), 0.0), 1.0)
        self.read_at(across.low + share * (across.high - across.low))

    def leaveEvent(self, event: object) -> None:
        """No reading away from the chart."""
        self.read_at(None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right move the reading."""
        if self.chart is None or event.key() not in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            super().keyPressEvent(event)
            return
        across, _ = ranges(self.chart, self.behind, self.system)
        step = (across.high - across.low) / (200 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 40)
        at = self.reading_at if self.reading_at is not None else (across.low + across.high) / 2
        self.read_at(min(max(at + (step if event.key() == Qt.Key.Key_Right else -step), across.low), across.high))
