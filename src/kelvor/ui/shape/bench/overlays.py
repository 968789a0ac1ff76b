"""What lies over the board's drawing: lines in plan, rocker lines, fittings, grips, the straight edge, curvature
strips.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from kelvor.core.base.units import Quantity, text
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.rocker_lines import RockerLine
from kelvor.core.shape.checks.clearance import footprints
from kelvor.core.shape.checks.fairness import EdgeReading, line_curve, straight_edge
from kelvor.core.shape.parts.fin_sets import alignment
from kelvor.core.templates.marking import bottom_lines
from kelvor.ui.paint.strokes import advance, boxed, choice, dashed, label, pen, stroke
from kelvor.ui.shape.bench.layout import BenchLayout
from kelvor.ui.shape.bench.scene import BenchScene, is_schedule
from kelvor.ui.shape.shown.grips import (
    CURVATURE,
    SHARES,
    budget_words,
    is_plan_line,
    layer_shares,
    plan_line,
)
from kelvor.ui.theme.style import colour, font

if TYPE_CHECKING:
    from kelvor.ui.shape.bench.picture import BenchPicture


class Overlays:
    """Paints what lies over the drawing, and remembers what the straight edge read."""

    def __init__(self, bench: BenchPicture) -> None:
        self.bench = bench
        self.edge_words = ""
        self.line_rects: list[tuple[QRectF, RockerLine]] = []

    # plan

    def plan(self, painter: QPainter, scene: BenchScene) -> None:
        """Deck edge, chines, cut-outs, channels, and the line on the strip."""
        layout, live, band, measured = scene.layout, scene.live, scene.layout.plan, scene.live.geometry
        shape = measured.shape
        px = layout.px(0) + shape.x * layout.scale
        for side in (1, -1):
            stroke(painter, px, band.zero - side * shape.deck_edge_y * band.scale, "live", alpha=60)
        for _, x, y in bottom_lines(measured.shape):
            for side in (1, -1):
                stroke(painter, layout.px(0) + x * layout.scale, band.zero - side * y * band.scale, "live", alpha=200)
        if is_schedule(scene.strip) and is_plan_line(live.board, scene.strip):
            x, y = plan_line(measured, scene.strip)
            stroke(painter, layout.px(0) + x * layout.scale, band.zero - y * band.scale, "cursor", 2)

    def limits(self, painter: QPainter, layout: BenchLayout, live: Live) -> None:
        """What a class lets the plan be: its width as two lines along it, its length as one across."""
        band, length, system = layout.plan, live.board.length, self.bench.session.system
        wide = 2 * live.wide_point[1]
        for limit in self.bench.limits:
            reading = {"width": wide, "length": length}.get(limit.figure)
            if reading is None:
                continue
            most = limit.relation == "at most"
            kept = reading <= limit.value if most else reading >= limit.value
            painter.setPen(dashed("live" if kept else "short", 1.4, 7, 4))
            words = f"{'≤' if most else '≥'} {text(limit.value, Quantity.LENGTH, system)}"
            if limit.figure == "width":
                for side in (1, -1):
                    y = band.y(side * limit.value / 2)
                    painter.drawLine(QPointF(layout.px(0), y), QPointF(layout.px(length), y))
                label(painter, layout.px(length * 0.86), band.y(limit.value / 2) - 8, words, "quiet", font(11))
            else:
                x = layout.px(limit.value)
                painter.drawLine(QPointF(x, band.y(wide / 2)), QPointF(x, band.y(-wide / 2)))
                label(painter, x + 4, band.y(-wide / 2) - 6, words, "quiet", font(11))

    def fittings(self, painter: QPainter, layout: BenchLayout, live: Live) -> None:
        """All fittings in plan; they stay while a weight is dragged."""
        band, board = layout.plan, live.board
        painter.setPen(dashed("quiet", 1, 8, 3))
        painter.drawLine(QPointF(layout.px(0) - 8, band.zero), QPointF(layout.px(board.length) + 8, band.zero))
        for item in footprints(board):
            shown = QPolygonF([QPointF(layout.px(float(x)), band.y(float(y))) for x, y in item.corners])
            deck = item.side == "deck"
            painter.setPen(pen("quiet" if deck else "ink", 1.2, Qt.PenStyle.SolidLine if deck else Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush if deck else colour("ink", 36))
            painter.drawPolygon(shown)
        painter.setPen(QPen(colour("ink"), 2.5))
        for box in board.fittings.fin_boxes:
            x = box.at.x(board.length, board.mast_x)
            for side in (0,) if box.offset == 0 else (1, -1):
                run, aside = box.fin.base * np.cos(box.toe), side * (box.offset - box.fin.base * np.sin(box.toe))
                painter.drawLine(
                    QPointF(layout.px(x), band.y(side * box.offset)), QPointF(layout.px(x + run), band.y(aside))
                )
        if board.mast_x is not None and board.fittings.tracks is not None:
            tracks = board.fittings.tracks
            middle, ends = tracks.at.x(board.length), []
            painter.setPen(pen("ink", 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(layout.px(board.mast_x), band.zero), 4, 4)
            for side in (-1, 1):  # how far the mast can go either way
                x = layout.px(middle + side * tracks.travel)
                ends.append(QPointF(x, band.zero))
                painter.drawLine(QPointF(x, band.zero - 4), QPointF(x, band.zero + 4))
            painter.drawLine(*ends)
        self._alignment(painter, layout, live)

    def _alignment(self, painter: QPainter, layout: BenchLayout, live: Live) -> None:
        """The line across at the side fins' trailing edges, and how far the centre fin's leading edge stands
        from it.
        """
        board, band = live.board, layout.plan
        ahead = alignment(board)
        if ahead is None:
            return
        sides = [b for b in board.fittings.fin_boxes if b.offset > 0]
        trail = max(b.at.x(board.length, board.mast_x) for b in sides)
        out = max(b.offset for b in sides) + 0.02
        px = layout.px(trail)
        painter.setPen(pen("quiet", 1, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(px, band.y(out)), QPointF(px, band.y(-out)))
        painter.setPen(pen("ink", 1.5))
        painter.drawLine(QPointF(px, band.zero + 9), QPointF(layout.px(trail + ahead), band.zero + 9))
        words = text(abs(ahead), Quantity.DEPTH, self.bench.session.system)
        label(
            painter,
            max(px, layout.px(trail + ahead)) + 5,
            band.zero + 14,
            f"{words} {'ahead' if ahead > 0 else 'behind'}",
            "quiet",
            font(11),
        )

    # profile

    def profile(self, painter: QPainter, scene: BenchScene) -> None:
        """Fins under the keel, and the mid line."""
        layout, live = scene.layout, scene.live
        measured, band = live.geometry, layout.profile
        shape = measured.shape
        painter.save()
        painter.setClipRect(QRectF(0, band.top, layout.width, band.bottom - band.top))
        apart = np.abs(shape.mid - shape.keel) > 2e-4
        if apart.any() or scene.line == "mid":
            px, py = layout.px(0) + shape.x * layout.scale, band.zero - measured.mid_line * band.scale
            stroke(painter, px, py, "live", style=Qt.PenStyle.DotLine)
        for box in live.board.fittings.fin_boxes:
            at = box.at.x(live.board.length, live.board.mast_x)
            lead, trail = box.fin.template(13)
            outline = np.concatenate([lead, trail[::-1]])
            keel = measured.at(measured.keel_line, at + box.fin.base / 2)
            stroke(
                painter, layout.px(at) + outline[:, 0] * layout.scale, band.y(keel) + outline[:, 1] * band.scale, "ink"
            )
        painter.restore()

    def legend(self, painter: QPainter, layout: BenchLayout) -> None:
        """Which rocker line is in hand: a click takes another."""
        x, y = 172.0, layout.profile.top + 16
        self.line_rects = []
        lines: tuple[tuple[RockerLine, Qt.PenStyle], ...] = (
            ("keel", Qt.PenStyle.SolidLine),
            ("mid", Qt.PenStyle.DotLine),
            ("rail", Qt.PenStyle.DashLine),
        )
        for line, style in lines:
            painter.setPen(pen("live", 1.6, style))
            painter.drawLine(QPointF(x, y - 4), QPointF(x + 18, y - 4))
            rect = choice(painter, x, y, line, line == self.bench.line_in_hand, lead=22)
            self.line_rects.append((rect, line))
            x += rect.width() + 6

    # the straight edge

    def edge_reading(self) -> EdgeReading:
        """What the straight edge reads at the station cursor."""
        live = self.bench.session.live
        curve = line_curve(live.geometry, self.bench.edge_line)
        return straight_edge(
            curve, self.bench.station, self.bench.edge_length, under=self.bench.edge_line not in ("deck", "outline")
        )

    def straight_edge(self, painter: QPainter, layout: BenchLayout) -> None:
        """The straight edge where it rests, and its gap."""
        bench, found = self.bench, self.edge_reading()
        curve = line_curve(bench.session.live.geometry, bench.edge_line)
        band = layout.plan if bench.edge_line == "outline" else layout.profile
        a, b = found.rests
        za, zb = (float(np.interp(x, curve.x, curve.value)) for x in (a, b))
        slope = (zb - za) / max(b - a, 1e-9)
        ends = [QPointF(layout.px(x), band.y(za + slope * (x - a))) for x in (found.start, found.end)]
        painter.setPen(QPen(colour("cursor"), 3))
        painter.drawLine(*ends)
        at = layout.px(found.gap_at)
        line_y = band.y(float(np.interp(found.gap_at, curve.x, curve.value)))
        painter.setPen(pen("ink", 1))
        painter.drawLine(QPointF(at, line_y), QPointF(at, band.y(za + slope * (found.gap_at - a))))
        system = bench.session.system
        length = text(bench.edge_length, Quantity.LENGTH, system)
        self.edge_words = (
            f"{length} straight edge on the {bench.edge_line}: gap {text(found.gap, Quantity.DEPTH, system, extra=1)}"
        )
        width = advance(self.edge_words, font(12, 700)) + 14
        boxed(
            painter,
            QRectF(10, band.top + 24, width, 19),
            self.edge_words,
            font(12, 700),
            colour("ink"),
            "paper",
            "cursor",
        )

    # strips

    def strip(self, painter: QPainter, scene: BenchScene) -> None:
        """Each layer's share as thin lines with its name, or the budget of the curve."""
        layout, measured, band = scene.layout, scene.live.geometry, scene.strip_band
        if scene.strip.startswith(SHARES):
            x, shares = layer_shares(measured, scene.strip.removeprefix(SHARES))
            taken: list[float] = []
            for name, height in shares[:-1]:
                most = int(np.argmax(np.abs(height)))
                if abs(height[most]) < 5e-5:
                    continue
                px, py = layout.px(0) + x * layout.scale, band.zero - height * band.scale
                stroke(painter, px, py, "ink", style=Qt.PenStyle.DashDotLine, alpha=150)
                y = band.zero - float(height[most]) * band.scale - 4
                while any(abs(y - other) < 13 for other in taken):
                    y -= 13
                taken.append(y)
                left = min(layout.px(float(x[most])) + 6, layout.width - 150)
                label(painter, left, max(y, layout.strip.top + 32), name, "quiet", font(11))
            return
        then = next((other.live.geometry for other in scene.others), None)
        words = budget_words(measured, scene.strip.removeprefix(CURVATURE), then)
        label(painter, 210, layout.strip.top + 19, words, "quiet", font(12))

    # grips

    def grips(self, painter: QPainter, scene: BenchScene) -> None:
        """Small squares to take hold of."""
        painter.setPen(pen("live", 1.4))
        for grip, p in scene.grips:
            held = grip.key == self.bench.held_grip
            painter.setBrush(colour("cursor") if held else colour("paper"))
            painter.drawRect(QRectF(p.x() - 4, p.y() - 4, 8, 8))
