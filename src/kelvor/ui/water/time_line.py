"""Speed over time under a track's map; scrubbed with the pointer or the arrow keys."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.units import KNOT
from kelvor.core.water.tracks.polar import drawn_fixes
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.ui.paint.strokes import pen, polygon
from kelvor.ui.theme.style import colour, font

LEFT, RIGHT, TOP, BOTTOM = 34.0, 10.0, 8.0, 18.0


class TimeLine(QWidget):
    """The speed of a track; runs are shaded, and what was ashore is left blank."""

    scrubbed = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Speed over time")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.read: TrackRead | None = None
        self.moment: float | None = None
        self._sheet: QPixmap | None = None
        self._font = font(11)

    def sizeHint(self) -> QSize:
        """A strip."""
        return QSize(480, 110)

    def show_track(self, read: TrackRead | None) -> None:
        """Show a track's speed."""
        self.read, self.moment, self._sheet = read, None, None
        self.update()

    def show_moment(self, t: float | None) -> None:
        """Mark a moment."""
        if t != self.moment:
            self.moment = t
            self.update()

    def changeEvent(self, event: QEvent) -> None:
        """Drawn anew in other colours."""
        super().changeEvent(event)
        if event.type() in (QEvent.Type.StyleChange, QEvent.Type.PaletteChange):
            self._sheet = None

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Drawn anew."""
        super().resizeEvent(event)
        self._sheet = None

    def _frame(self) -> QRectF:
        return QRectF(LEFT, TOP, max(self.width() - LEFT - RIGHT, 20), max(self.height() - TOP - BOTTOM, 20))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the kept sheet and the moment over it."""
        painter = QPainter(self)
        if self.read is None:
            painter.fillRect(self.rect(), colour("paper"))
            return
        if self._sheet is None:
            ratio = self.devicePixelRatioF()
            self._sheet = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
            self._sheet.setDevicePixelRatio(ratio)
            self._sheet.fill(colour("paper"))
            self._paint_sheet(QPainter(self._sheet))
        painter.drawPixmap(0, 0, self._sheet)
        if self.moment is not None:
            frame = self._frame()
            x = frame.left() + self.moment / float(self.read.clean.t[-1]) * frame.width()
            painter.setPen(pen("cursor", 2))
            painter.drawLine(QPointF(x, frame.top()), QPointF(x, frame.bottom()))

    def _paint_sheet(self, painter: QPainter) -> None:
        assert self.read is not None
        clean, frame = self.read.clean, self._frame()
        whole, top = float(clean.t[-1]), max(float(clean.speed.max()) * 1.08, 1.0)
        wash = QColor(colour("live_wash"))
        for run in self.read.runs:
            left = frame.left() + run.begins / whole * frame.width()
            painter.fillRect(QRectF(left, frame.top(), run.seconds / whole * frame.width(), frame.height()), wash)
        painter.setFont(self._font)
        step = next(s for s in (2, 5, 10, 20, 50) if top / KNOT / s < 5 or s == 50)
        for value in np.arange(0, top / KNOT, step):
            y = frame.bottom() - value * KNOT / top * frame.height()
            painter.setPen(pen("grid", 1))
            painter.drawLine(QPointF(frame.left(), y), QPointF(frame.right(), y))
            painter.setPen(colour("quiet"))
            box = QRectF(0, y - 8, LEFT - 5, 16)
            painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, f"{value:.0f}")
        minutes = next(m for m in (1, 2, 5, 10, 15, 30, 60) if whole / 60 / m < 12 or m == 60)
        for value in np.arange(0, whole / 60, minutes):
            x = frame.left() + value * 60 / whole * frame.width()
            if x > frame.right() - 44:
                break
            painter.drawText(QRectF(x - 30, frame.bottom() + 2, 60, 15), Qt.AlignmentFlag.AlignCenter, f"{value:.0f}")
        painter.drawText(QRectF(frame.right() - 40, frame.bottom() + 2, 40, 15), Qt.AlignmentFlag.AlignRight, "min")
        painter.drawText(QRectF(2, 0, 30, 14), Qt.AlignmentFlag.AlignLeft, "kn")
        at = drawn_fixes(clean, max(2 * round(frame.width()), 200))
        along = frame.left() + clean.t[at] / whole * frame.width()
        up = frame.bottom() - clean.speed[at] / top * frame.height()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("live"), 1.2))
        for stretch in np.unique(clean.stretch[at]):
            here = clean.stretch[at] == stretch
            painter.drawPolyline(polygon(along[here], up[here]))
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Scrub."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._scrub(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Scrub."""
        self._scrub(event.position().x())

    def _scrub(self, x: float) -> None:
        if self.read is not None:
            frame = self._frame()
            share = min(max((x - frame.left()) / frame.width(), 0.0), 1.0)
            self.scrubbed.emit(share * float(self.read.clean.t[-1]))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right by ten seconds, with Shift by one; Page keys from run to run."""
        read, key = self.read, event.key()
        if read is None:
            super().keyPressEvent(event)
            return
        here = self.moment or 0.0
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            step = 1.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 10.0
            here += step if key == Qt.Key.Key_Right else -step
        elif key == Qt.Key.Key_PageDown:
            here = next((run.begins for run in read.runs if run.begins > here + 1e-6), here)
        elif key == Qt.Key.Key_PageUp:
            here = next((run.begins for run in reversed(read.runs) if run.begins < here - 1e-6), here)
        else:
            super().keyPressEvent(event)
            return
        self.scrubbed.emit(min(max(here, 0.0), float(read.clean.t[-1])))
