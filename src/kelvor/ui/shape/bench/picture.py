"""What the bench shows: plan, profile and strip of the board over one ruler, and what lies behind it."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.findings import Finding
from kelvor.core.base.units import Quantity, number_text
from kelvor.core.brief.brief import Target
from kelvor.core.levers.rocker_lines import RockerLine
from kelvor.core.shape.edits.weights import BATTENS, Hold
from kelvor.ui.paint.strokes import KeptLayer, pen, triangle
from kelvor.ui.session.session import Session
from kelvor.ui.shape.bench.annotations import Annotations, Tag
from kelvor.ui.shape.bench.layout import SCALES, BenchBand, BenchLayout, bench_layout
from kelvor.ui.shape.bench.overlays import Overlays
from kelvor.ui.shape.bench.painting import PlanPainter, ProfilePainter
from kelvor.ui.shape.bench.reshaping import Reshaping
from kelvor.ui.shape.bench.scene import VOLUME_STRIP, BenchScene, is_schedule
from kelvor.ui.shape.shown.grips import Grip
from kelvor.ui.theme.style import colour

REACH = 13.0
"""A weight is taken hold of within this distance [px]."""


class BenchPicture(QWidget):
    """The drawing of the board, as it is seen."""

    cursor_moved = Signal(float)
    strip_changed = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # what lies below need not be painted first
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(420, 360)
        self.station = session.board.length / 2
        self.strip = VOLUME_STRIP
        self.stretch = SCALES[1]
        self.chosen: Hold | None = None
        self.held_grip = ""
        """Key of the grip being dragged."""
        self.limits: tuple[Target, ...] = ()
        """What a class lets the board be, shown on the plan."""
        self.notes: tuple[Finding, ...] = ()
        """What was noted on the design, shown where its feature is."""
        self.annotations = Annotations(self)
        self.overlays = Overlays(self)
        self.reshaping = Reshaping(self)
        self.line_in_hand: RockerLine = "keel"
        self.edge_on, self.edge_line, self.edge_length = False, "keel", 0.6
        self._layout_key: tuple[object, ...] = ()
        self._layout: BenchLayout
        self._kept_band: BenchBand | None = None
        self._scene_key: tuple[object, ...] = ()
        self._scene: BenchScene
        self._ground, self._behind, self._above = KeptLayer("paper"), KeptLayer(), KeptLayer()
        session.live_changed.connect(self.update)
        session.settled.connect(self.update)
        session.units_changed.connect(self.update)
        session.board_opened.connect(self._board_opened)

    def _board_opened(self) -> None:
        self.set_strip(VOLUME_STRIP)
        self.set_station(self.session.board.length / 2)

    @property
    def tags(self) -> list[Tag]:
        """The dimension tags as last painted."""
        return self.annotations.found

    # geometry on the screen

    def layout_now(self) -> BenchLayout:
        """Bands for this size and board; they stay while a weight is dragged."""
        if self.in_hand() and self._layout_key:  # the drawing must not move under the hand
            return self._layout
        others = self.session.overlays.others()
        laid = tuple((other.live, other.slide) for other in others)
        key = (self.session.live, laid, self.width(), self.height(), self.stretch)
        if key != self._layout_key:
            shapes = [self.session.live.geometry, *(other.live.geometry for other in others)]
            length = max(self.session.board.length, *(other.slide + other.live.board.length for other in others), 0.0)
            half = max(float(g.shape.half_width.max()) for g in shapes)
            depth = max(float(g.deck_line.max()) for g in shapes)
            self._layout_key = key
            self._layout = bench_layout(self.width(), self.height(), length, half, depth, self.stretch)
        return self._layout

    def set_station(self, x: float) -> None:
        """Move the station cursor [m from the tail]."""
        self.station = min(max(x, 0.0), self.session.live.board.length)
        self.update()
        self.cursor_moved.emit(self.station)

    def set_strip(self, key: str) -> None:
        """Show the volume or a schedule on the strip."""
        self.strip = key
        self.chosen = None
        self.update()
        self.strip_changed.emit(key)

    def strip_is_schedule(self) -> bool:
        """Whether the strip shows a schedule with points to drag."""
        return is_schedule(self.strip)

    def scene(self) -> BenchScene:
        """What the bench shows now."""
        session, layout = self.session, self.layout_now()
        seen = (session.live, session.overlays.live, *session.overlays.beside)
        key = (seen, layout, session.system, self.strip, self.line_in_hand, self._kept_band)
        if key != self._scene_key:
            self._scene_key = key
            self._scene = BenchScene(session.live, session.overlays.others(), *key[1:])
        return self._scene

    def set_line(self, line: RockerLine) -> None:
        """Take another rocker line in hand: its heights can then be dragged on the profile."""
        self.line_in_hand = line
        self.chosen = None
        self.update()

    def set_edge(self, on: bool, line: str | None = None, length: float | None = None) -> None:
        """Lay the straight edge on a line, or take it off; it slides with the station cursor."""
        self.edge_on = on
        self.edge_line = line or self.edge_line
        self.edge_length = length or self.edge_length
        self.update()

    def in_hand(self) -> bool:
        """Whether something is being dragged, so that the drawing must not move; a picture by itself is in no hand."""
        return False

    def grips(self) -> list[Grip]:
        """What can be taken hold of besides the weights."""
        return [grip for grip, _ in self.scene().grips]

    def grip_point(self, grip: Grip) -> QPointF:
        """Where a grip is drawn."""
        return self.scene().grip_point(grip)

    def grip_at(self, point: QPointF) -> Grip | None:
        """The grip under a point, if any."""
        near = [(math.hypot(*(p - point).toTuple()), i, g) for i, (g, p) in enumerate(self.scene().grips)]
        best = min(near, default=None)
        return best[2] if best is not None and best[0] < REACH - 2 else None

    def set_stretch(self, stretch: float) -> None:
        """Stretch the profile's heights."""
        self.stretch = stretch
        self.update()

    def strip_values(self) -> tuple[np.ndarray, np.ndarray]:
        """Places [m] and values (SI) of what the strip shows."""
        return self.scene().strip_values

    def handle_point(self, held: Hold) -> QPointF:
        """Where a weight is drawn."""
        return self.scene().point(held)

    def handles(self) -> list[Hold]:
        """All weights that can be taken hold of now."""
        return [handle.held for handle in self.scene().handles]

    def handle_at(self, point: QPointF) -> Hold | None:
        """The weight under a point, if any."""
        near = [(math.hypot(*(h.middle - point).toTuple()), i, h.held) for i, h in enumerate(self.scene().handles)]
        best = min(near, default=None)
        return best[2] if best is not None and best[0] < REACH else None

    def line_at(self, point: QPointF) -> str:
        """The line near a point: outline, rocker, thickness (the deck) or the schedule on the strip."""
        layout, live = self.layout_now(), self.session.live
        x = layout.x(point.x())
        measured = live.geometry
        if layout.plan.top <= point.y() < layout.plan.bottom:
            half = measured.at(measured.shape.half_width, x)
            return "outline" if abs(layout.plan.y(half) - point.y()) < 16 else ""
        if layout.profile.top <= point.y() < layout.profile.bottom:
            deck, keel = (
                layout.profile.y(measured.at(measured.deck_line, x)),
                layout.profile.y(measured.at(measured.keel_line, x)),
            )
            near = min((abs(deck - point.y()), "thickness"), (abs(keel - point.y()), "rocker"))
            return near[1] if near[0] < 16 else ""
        return self.strip if self.strip_is_schedule() and point.y() >= layout.strip.top else ""

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the bench. What stays while a weight is dragged is kept on sheets."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scene = self.scene()
        live, board, layout = scene.live, scene.live.board, scene.layout
        plan, profile = PlanPainter(layout), ProfilePainter(layout)
        stands = (layout, scene.system, board.length, board.mast_x)
        self._ground.lay(painter, self.size(), (*stands, board.zero), lambda on: self._paint_ground(on, scene))
        profile.paint_ground(painter, live, self.session.results.afloat())
        plan.paint_ground(painter, live)
        behind = (layout, *((other.live, other.role, other.slide) for other in scene.others))
        self._behind.lay(painter, self.size(), behind, lambda on: self._paint_others(on, scene))
        profile.paint(painter, live)
        self.overlays.profile(painter, scene)
        plan.paint(painter, live, resting=self.session.started and not self.in_hand())
        self.overlays.plan(painter, scene)
        if self.limits:
            self.overlays.limits(painter, layout, live)
        self.reshaping.paint(painter, layout)
        self.annotations.strip(painter, scene)
        above = (*stands, board.fittings, self.stretch, scene.line)
        self._above.lay(painter, self.size(), above, lambda on: self._paint_above(on, scene))
        self.annotations.cursor(painter, layout)
        self.annotations.water(painter, layout)
        self.annotations.tags(painter, scene)
        if self.session.started:
            self.annotations.findings(painter, layout)
        if self.edge_on:
            self.overlays.straight_edge(painter, layout)
        self.overlays.grips(painter, scene)
        self._paint_handles(painter, scene)
        if not self.session.started:
            QTimer.singleShot(0, self.session.finish_start)

    def _paint_ground(self, painter: QPainter, scene: BenchScene) -> None:
        self.annotations.ruler(painter, scene.layout)
        self.annotations.strip_ground(painter, scene.layout)

    def _paint_others(self, painter: QPainter, scene: BenchScene) -> None:
        for other in scene.others:
            PlanPainter(scene.layout).paint_other(painter, other)
            ProfilePainter(scene.layout).paint_other(painter, other)

    def _paint_above(self, painter: QPainter, scene: BenchScene) -> None:
        self.overlays.fittings(painter, scene.layout, scene.live)
        self.overlays.legend(painter, scene.layout)
        self.annotations.names(painter, scene.layout)

    def _paint_handles(self, painter: QPainter, scene: BenchScene) -> None:
        fill = colour("live")
        for handle in scene.handles:
            held, p = handle.held, handle.point
            if held.line in BATTENS:
                triangle(
                    painter,
                    p.x(),
                    p.y(),
                    down=held.line != "rocker",
                    fill=fill,
                    chosen=held == self.chosen,
                    held=handle.locked,
                )
            else:
                painter.setPen(pen("live", 1.5))
                painter.setBrush(colour("cursor" if held == self.chosen else "paper"))
                painter.drawEllipse(p, 5, 5)
        if self.chosen is not None and any(handle.held == self.chosen for handle in scene.handles):
            self.annotations.reading(painter, scene, self.chosen)

    def zero(self) -> float:
        """Place of the datum on show [m from the tail]."""
        board = self.session.live.board
        return {
            "tail": 0.0,
            "nose": board.length,
            "middle": board.length / 2,
            "mast": board.mast_x or board.length / 2,
        }[board.zero]

    def station_text(self) -> str:
        """The cursor's station in the unit and from the datum on show."""
        shown = self.station - self.zero()
        return number_text(
            -shown if self.session.live.board.zero == "nose" else shown, Quantity.LENGTH, self.session.system
        )
