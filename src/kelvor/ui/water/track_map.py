"""A track from above: true to scale over its own grid, faster in stronger colour and wider line."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import KNOT
from kelvor.core.water.tracks.polar import drawn_fixes
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.core.water.tracks.track import laid_flat, middle_of
from kelvor.ui.paint.strokes import pen, polygon
from kelvor.ui.theme.style import colour, font

MOST_DRAWN = 3600
"""Fixes drawn; the fastest and slowest of each spell are among them."""
BANDS = 5
"""Steps of colour and width."""
MARGIN = 16.0


def mixed(share: float) -> QColor:
    """From the quiet to the strong end of the scale of speeds."""
    low, high = colour("grid"), colour("live")
    ends = ((low.red(), high.red()), (low.green(), high.green()), (low.blue(), high.blue()))
    return QColor(*(round(a + share * (b - a)) for a, b in ends))


def slow_and_fast(read: TrackRead) -> tuple[float, float]:
    """The ends of the scale of speeds [m/s]: of what was sailed in runs, so that it spreads over all its steps."""
    inside = np.zeros(len(read.clean.t), dtype=bool)
    for run in read.runs:
        inside[run.first : run.last + 1] = True
    speed = read.clean.speed[inside] if inside.any() else read.clean.speed
    low, top = (float(np.quantile(speed, share)) for share in (0.02, 0.995))
    return low, max(top, low + 0.5)


class TrackMap(QWidget):
    """A map without tiles. A click tells the moment nearest to it."""

    scrubbed = Signal(float)
    """A moment was pointed at, since the first fix [s]."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Map of the track")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.read: TrackRead | None = None
        self.wind: float | None = None
        self.shore: float | None = None
        self.moment: float | None = None
        self.empty = ""
        self._sheet: QPixmap | None = None
        self._drawn = np.zeros(0, dtype=np.intp)
        self._fonts = (font(11), font(12, 600))
        self._line: tuple[Array, Array] | None = None

    def sizeHint(self) -> QSize:
        """Room for a map."""
        return QSize(480, 320)

    def show_track(
        self, read: TrackRead | None, wind: float | None, shore: float | None, line: Sequence[tuple[float, float]] = ()
    ) -> None:
        """Show a track, where its wind came from and where the shore looks out to [rad]; the shore's `line` where it is
        known, as latitude and longitude [rad].
        """
        self.read, self.wind, self.shore, self.moment = read, wind, shore, None
        self._line = self._laid(line)
        self._drawn = drawn_fixes(read.clean, MOST_DRAWN) if read is not None else np.zeros(0, dtype=np.intp)
        if read is not None:
            fastest = max((best.speed for best in read.bests), default=0.0)
            self.setAccessibleDescription(f"{len(read.runs)} runs, fastest window {fastest / KNOT:.1f} kn")
        self._fresh()

    def _laid(self, line: Sequence[tuple[float, float]]) -> tuple[Array, Array] | None:
        """The shore on the track's own map."""
        if self.read is None or len(line) < 2:
            return None
        track, corners = self.read.clean.track, np.array(line)
        return laid_flat(corners[:, 0], corners[:, 1], middle_of(track.latitude, track.longitude))

    def show_moment(self, t: float | None) -> None:
        """Mark where the rider was at a moment."""
        if t != self.moment:
            self.moment = t
            self.update()

    def _fresh(self) -> None:
        self._sheet = None
        self.update()

    def changeEvent(self, event: QEvent) -> None:
        """Drawn anew in other colours."""
        super().changeEvent(event)
        if event.type() in (QEvent.Type.StyleChange, QEvent.Type.PaletteChange):
            self._sheet = None

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Drawn anew."""
        super().resizeEvent(event)
        self._fresh()

    def _scale(self) -> tuple[float, float, float]:
        """Pixels a metre, and the metres east and north that lie in the middle."""
        assert self.read is not None
        clean = self.read.clean
        wide, high = float(np.ptp(clean.east)), float(np.ptp(clean.north))
        room = (max(self.width() - 2 * MARGIN, 20), max(self.height() - 2 * MARGIN - 18, 20))
        size = min(room[0] / max(wide, 10.0), room[1] / max(high, 10.0))
        return size, float(clean.east.min() + wide / 2), float(clean.north.min() + high / 2)

    def places(self, east: Array, north: Array) -> tuple[Array, Array]:
        """Where metres east and north lie in the picture [px]."""
        size, middle_east, middle_north = self._scale()
        x = self.width() / 2 + (east - middle_east) * size
        y = (self.height() - 18) / 2 - (north - middle_north) * size
        return x, y

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the kept sheet and what moves over it."""
        painter = QPainter(self)
        if self.read is None:
            painter.fillRect(self.rect(), colour("paper"))
            painter.setFont(self._fonts[1])
            painter.setPen(colour("quiet"))
            box = QRectF(self.rect()).adjusted(14, 12, -14, -12)
            painter.drawText(box, Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap, self.empty)
            return
        if self._sheet is None:
            ratio = self.devicePixelRatioF()
            self._sheet = QPixmap(round(self.width() * ratio), round(self.height() * ratio))
            self._sheet.setDevicePixelRatio(ratio)
            self._sheet.fill(colour("paper"))
            self._paint_sheet(QPainter(self._sheet))
        painter.drawPixmap(0, 0, self._sheet)
        if self.moment is not None:
            clean = self.read.clean
            east, north = (np.array([np.interp(self.moment, clean.t, v)]) for v in (clean.east, clean.north))
            x, y = self.places(east, north)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(pen("paper", 2))
            painter.setBrush(colour("cursor"))
            painter.drawEllipse(QPointF(float(x[0]), float(y[0])), 6, 6)

    def _paint_sheet(self, painter: QPainter) -> None:
        assert self.read is not None
        clean = self.read.clean
        self._grid(painter)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._line is not None:
            painter.setPen(QPen(colour("pinned"), 1.6))
            painter.drawPolyline(polygon(*self.places(*self._line)))
        x, y = self.places(clean.east[self._drawn], clean.north[self._drawn])
        speed, stretch = clean.speed[self._drawn], clean.stretch[self._drawn]
        low, top = slow_and_fast(self.read)
        band = np.clip((speed - low) / (top - low) * BANDS, 0, BANDS - 1).astype(int)
        edges = np.flatnonzero((np.diff(band) != 0) | (np.diff(stretch) != 0)) + 1
        starts, ends = np.append(0, edges), np.append(edges, len(x))
        for level in range(BANDS):
            share = level / (BANDS - 1)
            line = QPen(mixed(0.25 + 0.75 * share), 1.0 + 2.2 * share)
            line.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(line)
            for first, last in zip(starts, ends, strict=True):
                if band[first] == level:
                    stop = last + 1 if last < len(x) and stretch[last] == stretch[first] else last
                    painter.drawPolyline(polygon(x[first:stop], y[first:stop]))
        self._legend(painter, low, top)
        painter.end()

    def _grid(self, painter: QPainter) -> None:
        """Lines of a round distance, and a bar that says which."""
        size, _, _ = self._scale()
        metres = next(
            m for m in (50, 100, 200, 250, 500, 1000, 2000, 5000, 10_000, 50_000) if m * size > 70 or m == 50_000
        )
        step = metres * size
        painter.setPen(pen("grid", 1))
        for k in range(1, int(self.width() / step) + 1):
            painter.drawLine(QPointF(k * step, 0), QPointF(k * step, self.height() - 20))
        for k in range(1, int(self.height() / step) + 1):
            if k * step < self.height() - 20:
                painter.drawLine(QPointF(0, k * step), QPointF(self.width(), k * step))
        painter.setPen(pen("ink", 2))
        y = self.height() - 9
        painter.drawLine(QPointF(MARGIN, y), QPointF(MARGIN + step, y))
        painter.setFont(self._fonts[0])
        words = f"{metres} m" if metres < 1000 else f"{metres / 1000:g} km"
        painter.drawText(QPointF(MARGIN + step + 8, y + 4), words)

    def _arrow(self, painter: QPainter, middle: QPointF, towards: float, role: str, words: str) -> None:
        """An arrow that flies towards a bearing [rad], with its word below."""
        along = QPointF(float(np.sin(towards)), float(-np.cos(towards)))
        aside = QPointF(-along.y(), along.x())
        tip, tail = middle + along * 13, middle - along * 13
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("paper"))
        painter.drawRoundedRect(QRectF(middle.x() - 24, middle.y() - 18, 48, 50), 6, 6)
        painter.setPen(QPen(colour(role), 2))
        painter.drawLine(tail, tip)
        painter.setBrush(colour(role))
        painter.drawPolygon(QPolygonF([tip, tip - along * 8 + aside * 4, tip - along * 8 - aside * 4]))
        painter.setFont(self._fonts[0])
        painter.setPen(colour("ink"))
        width = QFontMetricsF(self._fonts[0]).horizontalAdvance(words)
        painter.drawText(QPointF(middle.x() - width / 2, middle.y() + 28), words)

    def _legend(self, painter: QPainter, low: float, top: float) -> None:
        """The scale of speeds, and where wind and shore lie."""
        if self.shore is not None:
            self._arrow(painter, QPointF(self.width() - 84, 24), self.shore, "quiet", "to sea")
        if self.wind is not None:
            self._arrow(painter, QPointF(self.width() - 30, 24), self.wind + np.pi, "cursor", "wind")
        x, y = self.width() - 190.0, self.height() - 9.0
        painter.setFont(self._fonts[0])
        painter.setPen(colour("ink"))
        painter.drawText(QPointF(x - 20, y + 4), f"{low / KNOT:.0f}")
        for level in range(BANDS):
            share = level / (BANDS - 1)
            painter.setPen(QPen(mixed(0.25 + 0.75 * share), 1.0 + 2.2 * share))
            painter.drawLine(QPointF(x + level * 22, y), QPointF(x + level * 22 + 20, y))
        painter.setPen(colour("ink"))
        painter.drawText(QPointF(x + BANDS * 22 + 6, y + 4), f"{top / KNOT:.0f} kn")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Tell the moment whose place is nearest."""
        if self.read is not None and len(self._drawn):
            clean = self.read.clean
            x, y = self.places(clean.east[self._drawn], clean.north[self._drawn])
            at = int(np.argmin((x - event.position().x()) ** 2 + (y - event.position().y()) ** 2))
            self.scrubbed.emit(float(clean.t[self._drawn[at]]))
