"""The section at the cursor over the pinned one, with its edges to drag."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.units import FOOT, Quantity, System, number_text, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.weights import Hold, moved, place_and_value, schedule_of
from kelvor.core.shape.parts.layers import ShapingLayer
from kelvor.core.shape.surface.section_view import SectionReading, reading_between, section_measures
from kelvor.core.shape.surface.sections import Resolution, sections_at
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.paint.strokes import advance, behind_pen, label, pen, polygon, stroke
from kelvor.ui.session.session import Session
from kelvor.ui.shape.shown.handles import drag_change
from kelvor.ui.theme.style import colour, font


def section_of(live: Live, x: float, *, moving: bool = False) -> SectionReading | None:
    """The section of a board at a place [m]; read between its stations while it is `moving`."""
    if not 0 <= x <= live.board.length:
        return None
    if moving:
        return reading_between(live.geometry.shape, x)
    found = sections_at(live.board, np.array([min(max(x, 1e-4), live.board.length - 1e-4)]), Resolution.NORMAL)
    return None if isinstance(found, tuple) else section_measures(found, 0)


@frozen
class SectionGrip:
    """An edge of the section to drag: the schedules it sets, across and up, with the sign of a pull outward."""

    name: str
    across: str
    up: str
    across_sign: float = 1.0
    up_sign: float = 1.0


GRIPS = (
    SectionGrip("bottom edge", "rails.tuck", "v", -1.0, 1.0),
    SectionGrip("apex", "", "rails.apex", 0.0, 1.0),
    SectionGrip("deck edge", "rails.chamfer", "crown", -1.0, -1.0),
)


SECTION_MODES = {"cursor": "Section at the cursor", "standing": "Three standing sections", "rail": "Rail close-up"}
_TABS = {"cursor": "cursor", "standing": "standing", "rail": "rail"}
RAIL_WINDOW = 0.06
"""Least width of board that the rail close-up shows [m]."""


def _rail_words(board: Board, at: float, system: System) -> tuple[str, str]:
    """What is drawn of the rail at a place [m]: apex, tuck and edge; then its upper part."""
    rails = board.rails
    below = round(rails.apex.value(at) * 100)
    tuck, edge = (text(one.value(at), Quantity.DEPTH, system) for one in (rails.tuck, rails.edge_radius))
    words = f"apex {100 - below}/{below}   tuck {tuck}   edge radius {edge}"
    if rails.side_wall is not None:
        return words, f"side wall {text(rails.side_wall.value(at), Quantity.ANGLE, system)} from upright"
    full = text(rails.fullness.value(at), Quantity.RATIO, system)
    return words, f"fullness {full}   upper chamfer {text(rails.chamfer.value(at), Quantity.DEPTH, system)}"


class SectionPanel(QWidget):
    """One section; dragging its edges edits the schedule's weight nearest the cursor."""

    stepped = Signal(float)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.station = session.board.length / 2
        self.setAccessibleName("Section at the cursor")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(186)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.section: SectionReading | None = None
        self._behind: list[tuple[str, SectionReading]] = []
        self._behind_for: tuple[object, ...] = ()
        self._drag: tuple[SectionGrip, QPointF, Board] | None = None
        self._station_text = ""
        self.mode = "cursor"
        self.tab_rects: list[tuple[QRectF, str]] = []
        self._standing: list[tuple[str, SectionReading | None, list[tuple[str, SectionReading]]]] = []
        session.live_changed.connect(Throttle(self, 66, self.refresh).call)
        session.settled.connect(self.refresh)
        session.units_changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """As wide as the right column."""
        return QSize(260, 186)

    def set_station(self, x: float, words: str) -> None:
        """Show the section at another place."""
        self.station, self._station_text = x, words
        self.refresh()

    def refresh(self) -> None:
        """Take the section anew from the board on the bench."""
        live = self.session.live
        self.station = min(self.station, live.board.length)
        moving = self.session.previewing or not self.session.started
        self.section = section_of(live, self.station, moving=moving)
        key = (self.station, *((other.live, other.slide) for other in self.session.overlays.others()))
        if key != self._behind_for:
            self._behind_for, self._behind = key, self._sections_behind(self.station)
        if self.mode == "standing":
            self._standing = [
                (words, section_of(live, x, moving=moving), self._sections_behind(x)) for words, x in self.stands()
            ]
        self.update()

    def _sections_behind(self, x: float) -> list[tuple[str, SectionReading]]:
        """The sections at a place [m] of the boards shown behind, each with its role."""
        found = [(other.role, section_of(other.live, x - other.slide)) for other in self.session.overlays.others()]
        return [(role, section) for role, section in found if section is not None]

    def set_mode(self, mode: str) -> None:
        """Show the section at the cursor, the three standing ones, or the rail close up."""
        self.mode = mode
        self.refresh()

    def stands(self) -> list[tuple[str, float]]:
        """Where the standing sections lie: one foot off each end, and the mast, or the middle without one."""
        board = self.session.live.board
        track = board.fittings.mast_track
        mast = board.mast_x if board.mast_x is not None else track.at.x(board.length) if track is not None else None
        middle = ("middle", board.length / 2) if mast is None else ("mast", mast)
        return [("1 ft off nose", board.length - FOOT), middle, ("1 ft off tail", FOOT)]

    def _scale(self) -> tuple[float, float, float]:
        """Px per metre, centre x, and the y of the section's middle height."""
        half = float(self.session.live.geometry.shape.half_width.max())
        scale = min((self.width() - 36) / (2 * half), 950.0)
        return scale, self.width() / 2, 92.0

    def _point(self, y: float, z: float) -> QPointF:
        scale, cx, cy = self._scale()
        return QPointF(cx + y * scale, cy - (z - self._middle()) * scale)

    def _middle(self) -> float:
        s = self.section
        return 0.0 if s is None else float((s.z.min() + s.z.max()) / 2)

    def grip_points(self) -> list[tuple[SectionGrip, QPointF]]:
        """Where the edges can be taken hold of, on the port side."""
        s = self.section
        if s is None or s.half_width < 0.02 or self.mode != "cursor":
            return []
        columns = s.columns
        indices = (columns.edge, columns.apex, columns.deck_edge)
        return [(grip, self._point(float(s.y[i]), float(s.z[i]))) for grip, i in zip(GRIPS, indices, strict=True)]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the section over the pinned one, in its water."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        system, s = self.session.system, self.section
        self._tabs(painter)
        if self.mode == "standing":
            self._paint_standing(painter)
            return
        title = "Rail" if self.mode == "rail" else "Section"
        label(painter, 12, 21, f"{title} at {self._station_text}", "ink", font(14, 700))
        if s is None:
            label(painter, 12, 60, "No section here.", "quiet", font(12))
            return
        if self.mode == "rail":
            self._paint_rail(painter, s)
            return
        afloat = self.session.results.afloat()
        if afloat is not None:
            plane = afloat.level.plane
            top = max(30.0, min(self._point(0, plane.depth + plane.pitch * self.station).y(), 150.0))
            painter.fillRect(QRectF(1, top, self.width() - 2, 150 - top), colour("water"))
            if top < 132:
                label(painter, 12, 145, "water", "live", font(11))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(polygon(*self._ring(s)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for role, section in self._behind:
            painter.setPen(behind_pen(role))
            painter.drawPolygon(polygon(*self._ring(section)))
        stroke(painter, *self._ring(s), "live", 2, closed=True)
        for grip, p in self.grip_points():
            painter.setPen(pen("live", 1.5))
            painter.setBrush(colour("cursor") if self._drag and self._drag[0] == grip else colour("paper"))
            painter.drawEllipse(p, 4, 4)
        small, bold = font(12), font(12, 700)
        thick = f"thick {number_text(s.thickness, Quantity.LENGTH, system)}"
        label(painter, self.width() / 2, 44, thick, "ink", bold, centre=True)
        parts = [
            f"V {text(max(s.v_angle, 0.0), Quantity.ANGLE, system)}",
            f"concave {text(s.hollow, Quantity.DEPTH, system)}",
            f"wide {number_text(2 * s.half_width, Quantity.LENGTH, system)}",
        ]
        label(painter, self.width() / 2, 165, "   ".join(parts), "ink", small, centre=True)
        calipers = [
            f"{inset} mm in {number_text(value, Quantity.LENGTH, system)}"
            for inset, value in ((25, s.caliper_25), (50, s.caliper_50))
            if np.isfinite(value)
        ]
        if calipers:
            label(painter, self.width() / 2, 180, "caliper  " + "   ".join(calipers), "quiet", small, centre=True)

    def _tabs(self, painter: QPainter) -> None:
        """The three modes, to click."""
        x, self.tab_rects = float(self.width() - 12), []
        for mode, words in reversed(_TABS.items()):
            chosen = mode == self.mode
            size = font(12, 700 if chosen else 400)
            width = advance(words, size)
            label(painter, x - width, 21, words, "live" if chosen else "quiet", size)
            self.tab_rects.append((QRectF(x - width - 5, 6, width + 10, 22), mode))
            x -= width + 14

    def _paint_standing(self, painter: QPainter) -> None:
        """One foot off each end and the mast, over the pinned ones."""
        label(painter, 12, 21, "Standing sections", "ink", font(14, 700))
        half = float(self.session.live.geometry.shape.half_width.max())
        tallest = max((float(np.ptp(s.z)) for _, s, _ in self._standing if s is not None), default=0.1)
        scale = min((self.width() - 120) / (2 * half), 42.0 / tallest)
        for i, (words, now, then) in enumerate(self._standing):
            cy = 56.0 + 50 * i
            label(painter, 12, cy + 4, words, "quiet", font(12))
            if now is None:
                continue
            middle = float((now.z.min() + now.z.max()) / 2)
            cx = (self.width() + 74) / 2
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for role, section in then:
                painter.setPen(behind_pen(role))
                painter.drawPolygon(polygon(*_ring_at(section, cx, cy, scale, middle)))
            painter.setPen(pen("live", 1.8))
            painter.setBrush(colour("board_fill"))
            painter.drawPolygon(polygon(*_ring_at(now, cx, cy, scale, middle)))
            wide, thick = (
                number_text(v, Quantity.LENGTH, self.session.system) for v in (2 * now.half_width, now.thickness)
            )
            shown = f"{wide} × {thick}"
            label(painter, 12, cy + 18, shown, "ink", font(12))

    def _paint_rail(self, painter: QPainter, s: SectionReading) -> None:
        """The port rail, large, over the pinned one, with a 10 mm grid."""
        system, board = self.session.system, self.session.live.board
        tall = float(s.z[s.columns.deck_edge] - s.z[s.columns.edge])
        scale = min((self.width() - 24) / RAIL_WINDOW, 84 / max(tall, 1e-3))
        right = self.width() - 12 - 0.004 * scale
        middle = float((s.z[s.columns.edge] + s.z[s.columns.deck_edge]) / 2)
        painter.save()
        painter.setClipRect(QRectF(1, 32, self.width() - 2, 112))
        painter.setPen(pen("grid", 1))
        for k in range(-3, 40):
            x = right - k * 0.01 * scale
            painter.drawLine(QPointF(x, 32), QPointF(x, 144))
        cx = right - s.half_width * scale
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for role, section in self._behind:
            painter.setPen(behind_pen(role))
            painter.drawPolygon(polygon(*_ring_at(section, cx, 88, scale, middle)))
        painter.setPen(pen("live", 2))
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(polygon(*_ring_at(s, cx, 88, scale, middle)))
        painter.restore()
        words, more = _rail_words(board, self.station, system)
        label(painter, self.width() / 2, 162, words, "ink", font(12), centre=True)
        label(painter, self.width() / 2, 178, f"{more}   grid 10 mm", "quiet", font(12), centre=True)

    def _ring(self, s: SectionReading) -> tuple[np.ndarray, np.ndarray]:
        scale, cx, cy = self._scale()
        return _ring_at(s, cx, cy, scale, self._middle())

    def _schedule_key(self, name: str, board: Board) -> str:
        if name != "v":
            return name
        layer = next(
            (item for item in board.layers if isinstance(item, ShapingLayer) and item.kind == "v" and item.on), None
        )
        return "" if layer is None else f"layer.{layer.name}"

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of an edge, or another mode."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        for rect, mode in self.tab_rects:
            if rect.contains(event.position()):
                self.set_mode(mode)
                return
        for grip, p in self.grip_points():
            if (p - event.position()).manhattanLength() < 12:
                self._drag = (grip, event.position(), self.session.board)
                return

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag the edge: the larger of the two directions counts."""
        if self._drag is None:
            over = any((p - event.position()).manhattanLength() < 12 for _, p in self.grip_points())
            self.setCursor(Qt.CursorShape.SizeAllCursor if over else Qt.CursorShape.ArrowCursor)
            return
        held, board = self._dragged(event.position())
        if held is not None:
            self.session.preview(board)

    def _dragged(self, point: QPointF) -> tuple[Hold | None, Board]:
        assert self._drag is not None
        grip, start, board = self._drag
        scale, _, _ = self._scale()
        dx, dy = (point.x() - start.x()) / scale, (start.y() - point.y()) / scale
        across = abs(dx) > abs(dy) and bool(grip.across)
        key = self._schedule_key(grip.across if across else grip.up, board)
        s = self.section
        if not key or s is None:
            return None, board
        points = schedule_of(board, key).points
        index = int(np.argmin([abs(x - self.station) for x, _ in points]))
        held = Hold(key, index)
        x, value = place_and_value(board, held)
        pull = dx * grip.across_sign if across else dy * grip.up_sign
        if key.startswith("layer."):
            value = value + float(np.arctan2(pull, max(s.edge_y, 0.02)))
        elif key == "rails.apex":
            value = min(0.98, max(0.02, value + pull / max(s.caliper_25 if np.isfinite(s.caliper_25) else 0.03, 0.01)))
        else:
            value = max(0.0, value + pull)
        return held, moved(board, held, x, value)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Commit the edge's new place."""
        if self._drag is None:
            return
        held, _ = self._dragged(event.position())
        before = self._drag[2]
        self._drag = None
        after = self.session.live.board
        if held is not None and after != before:
            self.session.commit_preview((drag_change(before, after, held, self.session.system),))
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right walk the cursor; Escape lets go of an edge."""
        step = 0.001 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 0.01
        if event.key() == Qt.Key.Key_Escape and self._drag is not None:
            self._drag = None
            self.session.drop_preview()
            self.update()
        elif event.key() == Qt.Key.Key_Left:
            self.stepped.emit(-step)
        elif event.key() == Qt.Key.Key_Right:
            self.stepped.emit(step)
        else:
            super().keyPressEvent(event)


def _ring_at(s: SectionReading, cx: float, cy: float, scale: float, middle: float) -> tuple[np.ndarray, np.ndarray]:
    """A section as a closed line about the centreline at cx, the height `middle` [m] at cy."""
    across, up = s.y * scale, cy - (s.z - middle) * scale
    return np.concatenate([cx + across, (cx - across)[::-1]]), np.concatenate([up, up[::-1]])
