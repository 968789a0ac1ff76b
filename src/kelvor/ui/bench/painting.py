"""Painting of the bench: lines of a board on their bands."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QGuiApplication, QPainter, QPainterPath, QPen, QPolygonF
from shiboken6 import VoidPtr

from kelvor.core.evaluation import Live
from kelvor.core.floating.stage import PostureFloat
from kelvor.core.shape.battens import Array, cached_rows
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.section_view import outline_ring
from kelvor.ui.bench.layout import Band, BenchLayout
from kelvor.ui.theme.style import colour, font


def polygon(px: Array, py: Array, step: float = 6.0) -> QPolygonF:
    """A line on the screen, its points about `step` pixels apart or where it turns; filled through its own memory."""
    dx, dy = np.diff(px), np.diff(py)
    run = np.concatenate([[0.0], np.cumsum(np.hypot(dx, dy))]) // step
    keep = np.ones(len(px), bool)
    keep[1:-1] = (run[1:-1] != run[:-2]) | (np.abs(np.diff(np.arctan2(dy, dx))) > 0.08)
    found = QPolygonF()
    size = int(keep.sum())
    found.resize(size)
    buffer: Any = VoidPtr(found.data(), size * 16, True)  # type: ignore[call-arg,arg-type]
    memory = np.frombuffer(buffer, np.float64).reshape(size, 2)
    memory[:, 0], memory[:, 1] = px[keep], py[keep]
    return found


def pen(role: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine, alpha: int = 255) -> QPen:
    """A pen in the colour of a role, `width` wide in logical pixels; cosmetic, because that is painted several times faster."""
    app = QGuiApplication.instance()
    ratio = app.devicePixelRatio() if isinstance(app, QGuiApplication) else 1.0
    found = QPen(colour(role, alpha), width * ratio, style)
    found.setCosmetic(True)
    return found


def dashed(role: str, width: float, on: float, off: float) -> QPen:
    """A dashed pen."""
    found = QPen(colour(role), width)
    found.setDashPattern([on, off])
    return found


def label(painter: QPainter, x: float, y: float, words: str, role: str, size: QFont, centre: bool = False) -> None:
    """Words with their baseline box starting (or centred) at x."""
    painter.setFont(size)
    painter.setPen(colour(role))
    width = QFontMetricsF(size).horizontalAdvance(words)
    painter.drawText(QPointF(x - width / 2 if centre else x, y), words)


def choice(painter: QPainter, x: float, y: float, words: str, chosen: bool, lead: float = 0.0) -> QRectF:
    """One of several words to click, framed where it is chosen; `lead` leaves room before the words. Returns where it is hit."""
    size = font(12, 700 if chosen else 400)
    label(painter, x + lead, y, words, "live" if chosen else "quiet", size)
    rect = QRectF(x - 4, y - 13, QFontMetricsF(font(12, 700)).horizontalAdvance(words) + lead + 8, 18)
    if chosen:
        painter.setPen(pen("live", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(rect, 3, 3)
    return rect


class PlanPainter:
    """The plan: outline, bottom edge, fittings, centres."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def outline(self, measured: Geometry) -> QPolygonF:
        """The outline as a closed polygon."""
        band, ring = self.layout.plan, outline_ring(measured.shape)
        return polygon(self.layout.px(0) + ring[:, 0] * self.layout.scale, band.zero - ring[:, 1] * band.scale)

    def paint_pinned(self, painter: QPainter, pinned: Live) -> None:
        """The pinned outline."""
        painter.setPen(dashed("pinned", 1.4, 5, 3))
        painter.drawPolygon(self.outline(pinned.geometry))

    def paint_ground(self, painter: QPainter, live: Live) -> None:
        """Fill the board: what is drawn next lies under its lines."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(self.outline(live.geometry))
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def paint(self, painter: QPainter, live: Live) -> None:
        """Paint the plan's lines."""
        layout, band, measured = self.layout, self.layout.plan, live.geometry
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("live", 2))
        painter.drawPolygon(self.outline(measured))
        painter.setPen(pen("live", 1, alpha=110))
        px = layout.px(0) + measured.shape.x * layout.scale
        for side in (1, -1):
            painter.drawPolyline(polygon(px, band.zero - side * measured.shape.edge_y * band.scale))
        painter.setPen(dashed("quiet", 1, 8, 3))
        painter.drawLine(QPointF(layout.px(0) - 8, band.zero), QPointF(layout.px(measured.board.length) + 8, band.zero))
        self._centres(painter, live)

    def _centres(self, painter: QPainter, live: Live) -> None:
        layout, band = self.layout, self.layout.plan
        half = float(live.geometry.shape.half_width.max()) * band.scale
        for x, role, words, up in (
            (live.mass.total.x, "ink", "mass", min(30.0, 0.28 * half)), (live.geometry.solid.x, "live", "volume", min(48.0, 0.66 * half)),
        ):  # fmt: skip
            centre = QPointF(layout.px(x), band.zero + up)
            painter.setPen(pen(role, 1.5))
            painter.drawEllipse(centre, 5, 5)
            painter.drawLine(centre - QPointF(8, 0), centre + QPointF(8, 0))
            painter.drawLine(centre - QPointF(0, 8), centre + QPointF(0, 8))
            label(painter, centre.x() + 12, centre.y() + 4, words, role, font(11))


class ProfilePainter:
    """The profile: deck, keel and rail lines, water."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def _line(self, measured: Geometry, heights: Array, where: NDArray[np.bool_] | None = None) -> QPolygonF:
        layout, band = self.layout, self.layout.profile
        shown = np.ones(len(heights), bool) if where is None else where
        return polygon(layout.px(0) + measured.shape.x[shown] * layout.scale, band.zero - heights[shown] * band.scale)

    def _silhouette(self, measured: Geometry) -> tuple[QPolygonF, QPolygonF]:
        """Keel and deck as they are, with rounded tips."""
        shape = measured.shape
        keel, deck = (self._line(measured, measured.above_base(shape.x, shape.z[:, i])) for i in (0, shape.columns.top))
        return keel, deck

    def _body(self, measured: Geometry) -> QPolygonF:
        """The side of the board as a closed polygon."""
        shape, band = measured.shape, self.layout.profile
        px = self.layout.px(0) + shape.x * self.layout.scale
        low, high = (band.zero - measured.above_base(shape.x, shape.z[:, i]) * band.scale for i in (0, shape.columns.top))
        return polygon(np.concatenate([px, px[::-1]]), np.concatenate([low, high[::-1]]))

    def paint_pinned(self, painter: QPainter, pinned: Live) -> None:
        """The pinned keel and deck."""
        band = self.layout.profile
        painter.save()
        painter.setClipRect(QRectF(0, band.top, self.layout.width, band.bottom - band.top))
        painter.setPen(dashed("pinned", 1.4, 5, 3))
        for line in self._silhouette(pinned.geometry):
            painter.drawPolyline(line)
        painter.restore()

    def paint_ground(self, painter: QPainter, live: Live, afloat: PostureFloat | None) -> QPainterPath:
        """Fill the board, in the water it floats in if it carries its rider; its side as a path, to be drawn over it."""
        band = self.layout.profile
        painter.save()
        painter.setClipRect(QRectF(0, band.top, self.layout.width, band.bottom - band.top))
        if afloat is not None:
            self._water(painter, live, afloat)
        body = QPainterPath()
        body.addPolygon(self._body(live.geometry))
        body.closeSubpath()
        painter.fillPath(body, colour("board_fill"))
        painter.restore()
        return body

    def paint(self, painter: QPainter, live: Live, body: QPainterPath) -> None:
        """Paint the profile's lines, `body` as :meth:`paint_ground` gave it."""
        band, measured = self.layout.profile, live.geometry
        painter.save()
        painter.setClipRect(QRectF(0, band.top, self.layout.width, band.bottom - band.top))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(pen("live", 1.2, Qt.PenStyle.DashLine))
        full = measured.shape.edge_y > 0.04
        painter.drawPolyline(self._line(measured, measured.rail_line, full))
        painter.setPen(pen("quiet", 1, alpha=120))
        rocker = cached_rows(measured.board.rocker.structure(), measured.shape.stations.x_key) @ measured.board.rocker.values
        apart = np.abs(rocker - measured.shape.keel) > 0.002
        if apart.any():
            painter.drawPolyline(self._line(measured, measured.above_base(measured.shape.x, rocker), apart))
        painter.setPen(pen("live", 2))
        painter.drawPath(body)
        painter.setPen(pen("quiet", 1, alpha=120))
        painter.drawLine(QPointF(self.layout.px(0), band.zero), QPointF(self.layout.px(measured.board.length), band.zero))
        painter.restore()

    def _water(self, painter: QPainter, live: Live, afloat: PostureFloat) -> None:
        band, layout, board = self.layout.profile, self.layout, live.board
        plane = afloat.level.plane
        ends = [live.geometry.above_base(x, plane.depth + plane.pitch * x) for x in (0.0, board.length)]
        shape = QPolygonF([
            QPointF(0, band.y(float(ends[0]))), QPointF(layout.width, band.y(float(ends[1]))),
            QPointF(layout.width, band.bottom), QPointF(0, band.bottom),
        ])  # fmt: skip
        path = QPainterPath()
        path.addPolygon(shape)
        painter.fillPath(path, colour("water"))


class StripPainter:
    """The strip: a curve over the board with its own scale."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def scale_for(self, values: Array) -> Band:
        """A band in which `values` fit, zero included."""
        band = self.layout.strip
        low, high = min(0.0, float(values.min())), max(0.0, float(values.max()))
        span = max(high - low, 1e-9)
        room = band.bottom - band.top - 44
        scale = room / span
        return Band(band.top, band.bottom, band.bottom - 8 + low * scale, scale)

    def curve(
        self, painter: QPainter, band: Band, x: Array, values: Array, role: str, *, wash: bool, dash: bool = False
    ) -> None:
        """One curve; with a wash below it where asked."""
        px, py = self.layout.px(0) + x * self.layout.scale, band.zero - values * band.scale
        line = polygon(px, py)
        if wash:
            path = QPainterPath()
            path.addPolygon(polygon(np.concatenate([px[:1], px, px[-1:]]), np.concatenate([[band.zero], py, [band.zero]])))
            painter.fillPath(path, colour("live_wash"))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(dashed(role, 1.4, 5, 3) if dash else pen(role, 2))
        painter.drawPolyline(line)


def triangle(painter: QPainter, x: float, y: float, *, down: bool, fill: QColor, chosen: bool, held: bool) -> None:
    """A lead weight: a triangle that rests on its line; a ring when chosen, hollow when locked."""
    side = 6.5 if not chosen else 8.0
    sign = -1 if down else 1
    shape = QPolygonF([QPointF(x, y), QPointF(x - side, y + sign * side * 1.5), QPointF(x + side, y + sign * side * 1.5)])
    painter.setPen(QPen(fill, 1.5))
    painter.setBrush(Qt.BrushStyle.NoBrush if held else fill)
    painter.drawPolygon(shape)
    if chosen:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("cursor"), 2))
        painter.drawEllipse(QPointF(x, y + sign * side * 0.8), 12, 12)
