"""Painting of the bench: lines of a board on their bands."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QGuiApplication, QPainter, QPen, QPixmap, QPolygonF
from shiboken6 import VoidPtr

from kelvor.core.live import Live
from kelvor.core.shape.battens import Array, cached_rows
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.section_view import outline_ring
from kelvor.ui.bench.layout import Band, BenchLayout
from kelvor.ui.bench.shown import Shown
from kelvor.ui.theme.roles import Roles
from kelvor.ui.theme.style import colour, font, roles

if TYPE_CHECKING:
    from kelvor.core.floating.posture import PostureFloat


def polygon(px: Array, py: Array) -> QPolygonF:
    """A line on the screen, filled through its own memory."""
    found = QPolygonF()
    found.resize(len(px))
    buffer: Any = VoidPtr(found.data(), len(px) * 16, True)  # type: ignore[call-arg,arg-type]
    memory = np.frombuffer(buffer, np.float64).reshape(len(px), 2)
    memory[:, 0], memory[:, 1] = px, py
    return found


def _ratio() -> float:
    app = QGuiApplication.instance()
    return app.devicePixelRatio() if isinstance(app, QGuiApplication) else 1.0


def pen(role: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine, alpha: int = 255) -> QPen:
    """A pen in the colour of a role, `width` wide in logical pixels; cosmetic, because that is painted several times
    faster.
    """
    return _pen(roles(), role, width * _ratio(), style, alpha)


@cache
def _pen(_of: Roles, role: str, width: float, style: Qt.PenStyle, alpha: int) -> QPen:
    found = QPen(colour(role, alpha), width, style)
    found.setCosmetic(True)
    return found


def stroke(
    painter: QPainter,
    px: Array,
    py: Array,
    role: str,
    width: float = 1.0,
    *,
    alpha: int = 255,
    style: Qt.PenStyle = Qt.PenStyle.SolidLine,
    closed: bool = False,
) -> None:
    """Draw a line through points on the screen, `width` wide in logical pixels.

    Qt paints a pen of just one device pixel some ten times faster than any wider one, so a wide line is painted as
    several of them side by side, with one more than would do: half-covered pixels between two would shine through.
    """
    ratio = _ratio()
    wide = max(1, round(width * ratio))
    painter.setPen(_pen(roles(), role, 1.0, style, alpha))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    draw = painter.drawPolygon if closed else painter.drawPolyline
    if wide == 1:
        draw(polygon(px, py))
        return
    dx, dy = np.gradient(px), np.gradient(py)
    run = np.maximum(np.hypot(dx, dy), 1e-9) * ratio
    across, up = -dy / run, dx / run
    for off in np.linspace(-(wide - 1) / 2, (wide - 1) / 2, wide + 1):
        draw(polygon(px + off * across, py + off * up))


DASHES = {"pinned": (5, 3), "beside": (2, 2), "beside_b": (7, 2), "beside_c": (1, 3)}
"""Dashes and gaps of boards behind the one on the bench, in widths of the line."""


def behind_pen(role: str) -> QPen:
    """The dashes of a board behind the one on the bench, told apart by more than their colour."""
    return dashed(role, 1.4, *DASHES.get(role, (2, 2)))


def dashed(role: str, width: float, on: float, off: float) -> QPen:
    """A dashed pen."""
    found = QPen(colour(role), width)
    found.setDashPattern([on, off])
    return found


_metrics: dict[tuple[int, int], tuple[QFont, QFontMetricsF, dict[str, float]]] = {}


def advance(words: str, size: QFont) -> float:
    """Width of words [px]."""
    key = (size.pixelSize(), size.weight())
    if key not in _metrics or _metrics[key][0] != size:
        _metrics[key] = (QFont(size), QFontMetricsF(size), {})
    _, metrics, known = _metrics[key]
    if words not in known:
        if len(known) > 4000:  # readings come and go
            known.clear()
        known[words] = metrics.horizontalAdvance(words)
    return known[words]


def label(painter: QPainter, x: float, y: float, words: str, role: str, size: QFont, centre: bool = False) -> None:
    """Words with their baseline box starting (or centred) at x."""
    painter.setFont(size)
    painter.setPen(colour(role))
    painter.drawText(QPointF(x - advance(words, size) / 2 if centre else x, y), words)


def boxed(painter: QPainter, rect: QRectF, words: str, size: QFont, ink: QColor, ground: str, edge: str = "") -> None:
    """Words in the middle of a small rounded box."""
    painter.setPen(pen(edge, 1) if edge else Qt.PenStyle.NoPen)
    painter.setBrush(colour(ground))
    painter.drawRoundedRect(rect, 3, 3)
    painter.setPen(ink)
    painter.setFont(size)
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)


def choice(painter: QPainter, x: float, y: float, words: str, chosen: bool, lead: float = 0.0) -> QRectF:
    """One of several words to click, framed where it is chosen; `lead` leaves room before the words. Returns where it
    is hit.
    """
    size = font(12, 700 if chosen else 400)
    label(painter, x + lead, y, words, "live" if chosen else "quiet", size)
    rect = QRectF(x - 4, y - 13, advance(words, font(12, 700)) + lead + 8, 18)
    if chosen:
        painter.setPen(pen("live", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(rect, 3, 3)
    return rect


class Sheet:
    """A part of the picture that is kept, and painted again only when what it was painted for is other."""

    def __init__(self, ground: str = "") -> None:
        """`ground` is the role it is filled with; without one it is transparent."""
        self._ground = ground
        self._for: tuple[object, ...] | None = None
        self._kept = QPixmap()

    def lay(self, painter: QPainter, size: QSize, key: tuple[object, ...], paint: Callable[[QPainter], None]) -> None:
        """Lay it down, painted by `paint` where `key` is not that of the last time."""
        ratio = _ratio()
        whole = (*key, size, ratio, roles())
        if whole != self._for:
            self._kept = QPixmap(size * ratio)
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(colour(self._ground) if self._ground else Qt.GlobalColor.transparent)
            on = QPainter(self._kept)
            on.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint(on)
            on.end()
            self._for = whole
        painter.drawPixmap(0, 0, self._kept)


class PlanPainter:
    """The plan: outline, bottom edge, centres."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def outline(self, measured: Geometry, slide: float = 0.0) -> tuple[Array, Array]:
        """The outline as a closed line on the screen."""
        band, ring = self.layout.plan, outline_ring(measured.shape)
        return self.layout.px(slide) + ring[:, 0] * self.layout.scale, band.zero - ring[:, 1] * band.scale

    def paint_other(self, painter: QPainter, other: Shown) -> None:
        """The outline of a board behind."""
        painter.setPen(behind_pen(other.role))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(polygon(*self.outline(other.live.geometry, other.slide)))

    def paint_ground(self, painter: QPainter, live: Live) -> None:
        """Fill the board: what is drawn next lies under its lines."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(polygon(*self.outline(live.geometry)))

    def paint(self, painter: QPainter, live: Live, *, resting: bool) -> None:
        """Paint the plan's lines; the mass is laid up anew when the hand rests, so its centre waits till then."""
        layout, band, measured = self.layout, self.layout.plan, live.geometry
        stroke(painter, *self.outline(measured), "live", 2, closed=True)
        px = layout.px(0) + measured.shape.x * layout.scale
        for side in (1, -1):
            stroke(painter, px, band.zero - side * measured.shape.edge_y * band.scale, "live", alpha=110)
        half = float(measured.shape.half_width.max()) * band.scale
        self._centre(painter, measured.solid.x, "live", "volume", min(48.0, 0.66 * half))
        if resting:
            self._centre(painter, live.mass.total.x, "ink", "mass", min(30.0, 0.28 * half))

    def _centre(self, painter: QPainter, x: float, role: str, words: str, up: float) -> None:
        centre = QPointF(self.layout.px(x), self.layout.plan.zero + up)
        painter.setPen(pen(role, 1.5))
        painter.drawEllipse(centre, 5, 5)
        painter.drawLine(centre - QPointF(8, 0), centre + QPointF(8, 0))
        painter.drawLine(centre - QPointF(0, 8), centre + QPointF(0, 8))
        label(painter, centre.x() + 12, centre.y() + 4, words, role, font(11))


class ProfilePainter:
    """The profile: deck, keel and rail lines, water."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def _line(self, measured: Geometry, heights: Array, where: NDArray[np.bool_] | None = None) -> tuple[Array, Array]:
        layout, band = self.layout, self.layout.profile
        shown = slice(None) if where is None else where
        return layout.px(0) + measured.shape.x[shown] * layout.scale, band.zero - heights[shown] * band.scale

    def _body(self, measured: Geometry) -> tuple[Array, Array]:
        """The side of the board as a closed line, its tips rounded."""
        shape = measured.shape
        (px, low), (_, high) = (
            self._line(measured, measured.above_base(shape.x, shape.z[:, i])) for i in (0, shape.columns.top)
        )
        return np.concatenate([px, px[::-1]]), np.concatenate([low, high[::-1]])

    def _clipped(self, painter: QPainter) -> None:
        band = self.layout.profile
        painter.save()
        painter.setClipRect(QRectF(0, band.top, self.layout.width, band.bottom - band.top))

    def paint_other(self, painter: QPainter, other: Shown) -> None:
        """Keel and deck of a board behind."""
        self._clipped(painter)
        painter.setPen(behind_pen(other.role))
        px, py = self._body(other.live.geometry)
        px = px + other.slide * self.layout.scale
        half = len(px) // 2
        for part in (slice(half), slice(half, None)):
            painter.drawPolyline(polygon(px[part], py[part]))
        painter.restore()

    def paint_ground(self, painter: QPainter, live: Live, afloat: PostureFloat | None) -> None:
        """Fill the board, in the water it floats in if it carries its rider."""
        self._clipped(painter)
        painter.setPen(Qt.PenStyle.NoPen)
        if afloat is not None:
            self._water(painter, live, afloat)
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(polygon(*self._body(live.geometry)))
        painter.restore()

    def paint(self, painter: QPainter, live: Live) -> None:
        """Paint the profile's lines."""
        band, measured = self.layout.profile, live.geometry
        self._clipped(painter)
        full = measured.shape.edge_y > 0.04
        stroke(painter, *self._line(measured, measured.rail_line, full), "live", style=Qt.PenStyle.DashLine)
        rocker = (
            cached_rows(measured.board.rocker.structure(), measured.shape.stations.x_key) @ measured.board.rocker.values
        )
        apart = np.abs(rocker - measured.shape.keel) > 0.002
        if apart.any():
            stroke(
                painter, *self._line(measured, measured.above_base(measured.shape.x, rocker), apart), "quiet", alpha=120
            )
        stroke(painter, *self._body(measured), "live", 2, closed=True)
        painter.setPen(pen("quiet", 1, alpha=120))
        painter.drawLine(
            QPointF(self.layout.px(0), band.zero), QPointF(self.layout.px(measured.board.length), band.zero)
        )
        painter.restore()

    def _water(self, painter: QPainter, live: Live, afloat: PostureFloat) -> None:
        band, layout, board = self.layout.profile, self.layout, live.board
        plane = afloat.level.plane
        ends = [live.geometry.above_base(x, plane.depth + plane.pitch * x) for x in (0.0, board.length)]
        painter.setBrush(colour("water"))
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(0, band.y(float(ends[0]))),
                    QPointF(layout.width, band.y(float(ends[1]))),
                    QPointF(layout.width, band.bottom),
                    QPointF(0, band.bottom),
                ]
            )
        )


class StripPainter:
    """The strip: curves over the board with their own scale."""

    def __init__(self, layout: BenchLayout) -> None:
        self.layout = layout

    def curve(self, painter: QPainter, band: Band, x: Array, values: Array) -> None:
        """The board's curve with a wash below it."""
        px, py = self._on(band, x, values)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("live_wash"))
        painter.drawPolygon(
            polygon(np.concatenate([px[:1], px, px[-1:]]), np.concatenate([[band.zero], py, [band.zero]]))
        )
        stroke(painter, px, py, "live", 2)

    def other(self, painter: QPainter, band: Band, shown: Shown, x: Array, values: Array) -> None:
        """The curve of a board behind."""
        painter.setPen(behind_pen(shown.role))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(polygon(*self._on(band, x, values)))

    def _on(self, band: Band, x: Array, values: Array) -> tuple[Array, Array]:
        return self.layout.px(0) + x * self.layout.scale, band.zero - values * band.scale


def triangle(painter: QPainter, x: float, y: float, *, down: bool, fill: QColor, chosen: bool, held: bool) -> None:
    """A lead weight: a triangle that rests on its line; a ring when chosen, hollow when locked."""
    side = 6.5 if not chosen else 8.0
    sign = -1 if down else 1
    shape = QPolygonF(
        [QPointF(x, y), QPointF(x - side, y + sign * side * 1.5), QPointF(x + side, y + sign * side * 1.5)]
    )
    painter.setPen(QPen(fill, 1.5))
    painter.setBrush(Qt.BrushStyle.NoBrush if held else fill)
    painter.drawPolygon(shape)
    if chosen:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("cursor"), 2))
        painter.drawEllipse(QPointF(x, y + sign * side * 0.8), 12, 12)
