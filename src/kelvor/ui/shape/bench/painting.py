"""Painting of the bench: lines of a board on their bands."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from kelvor.core.base.arrays import Array
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.curves.battens import cached_rows
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.section_view import outline_ring
from kelvor.ui.paint.strokes import behind_pen, label, pen, polygon, stroke
from kelvor.ui.session.shown_boards import Shown
from kelvor.ui.shape.bench.layout import BenchBand, BenchLayout
from kelvor.ui.theme.style import colour, font

if TYPE_CHECKING:
    from kelvor.core.tank.floating.posture import PostureFloat


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

    def curve(self, painter: QPainter, band: BenchBand, x: Array, values: Array) -> None:
        """The board's curve with a wash below it."""
        px, py = self._on(band, x, values)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("live_wash"))
        painter.drawPolygon(
            polygon(np.concatenate([px[:1], px, px[-1:]]), np.concatenate([[band.zero], py, [band.zero]]))
        )
        stroke(painter, px, py, "live", 2)

    def other(self, painter: QPainter, band: BenchBand, shown: Shown, x: Array, values: Array) -> None:
        """The curve of a board behind."""
        painter.setPen(behind_pen(shown.role))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(polygon(*self._on(band, x, values)))

    def _on(self, band: BenchBand, x: Array, values: Array) -> tuple[Array, Array]:
        return self.layout.px(0) + x * self.layout.scale, band.zero - values * band.scale
