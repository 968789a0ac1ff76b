"""What one picture of the bench shows, gathered once for all who paint it or take hold of it. It paints nothing."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from PySide6.QtCore import QPointF

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import System
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.rocker_lines import RockerLine
from kelvor.core.shape.edits.weights import (
    BATTENS,
    Hold,
    batten_of,
    place_and_value,
    schedule_keys,
    schedule_of,
)
from kelvor.ui.session.shown_boards import Shown
from kelvor.ui.shape.bench.layout import BenchBand, BenchLayout
from kelvor.ui.shape.shown.grips import (
    CURVATURE,
    SHARES,
    Grip,
    curvature_values,
    grips,
    layer_shares,
)

VOLUME_STRIP = "volume"
POINTS = 160
"""Places at which a schedule is drawn."""
ROOM = 1.25
"""A schedule's points can be pulled up by this before they leave the strip."""


@frozen
class Handle:
    """A weight that can be taken hold of: which, where it is drawn, and whether a lock holds its place."""

    held: Hold
    point: QPointF
    locked: bool

    @property
    def middle(self) -> QPointF:
        """Where the hand aims: the body of the weight that rests on its line."""
        return self.point + QPointF(0, 6 if self.held.line == "rocker" else -6 if self.held.line in BATTENS else 0)


def is_schedule(strip: str) -> bool:
    """Whether the strip shows a schedule with points to drag."""
    return strip != VOLUME_STRIP and not strip.startswith((CURVATURE, SHARES))


@dataclass(frozen=True, eq=False)
class BenchScene:
    """A board in its layout with what of it is in hand, and the boards behind it.

    `kept` is the strip's scale while something on the strip is dragged.
    """

    live: Live
    others: tuple[Shown, ...]
    layout: BenchLayout
    system: System
    strip: str
    line: RockerLine
    kept: BenchBand | None = None

    # the strip

    def _values(self, live: Live) -> tuple[Array, Array] | None:
        if self.strip == VOLUME_STRIP:
            return live.geometry.shape.x, live.geometry.areas.area
        if self.strip.startswith(CURVATURE):
            return curvature_values(live.geometry, self.strip.removeprefix(CURVATURE))
        if self.strip.startswith(SHARES):
            x, shares = layer_shares(live.geometry, self.strip.removeprefix(SHARES))
            return x, shares[-1][1]
        if live is not self.live and self.strip not in schedule_keys(live.board):
            return None
        x = np.linspace(0, live.board.length, POINTS)
        return x, schedule_of(live.board, self.strip).at(x)

    @cached_property
    def strip_values(self) -> tuple[Array, Array]:
        """Places [m] and values (SI) of what the strip shows."""
        values = self._values(self.live)
        assert values is not None
        return values

    @cached_property
    def strip_others(self) -> tuple[tuple[Shown, Array, Array], ...]:
        """The same of the boards behind, where they have such a schedule."""
        read = ((other, self._values(other.live)) for other in self.others)
        return tuple((other, values[0] + other.slide, values[1]) for other, values in read if values is not None)

    @cached_property
    def strip_band(self) -> BenchBand:
        """The strip's scale: everything on it fits, zero included."""
        if self.kept is not None:
            return self.kept
        room = ROOM if is_schedule(self.strip) else 1.0
        values = np.concatenate([self.strip_values[1] * room, *(other for _, _, other in self.strip_others)])
        band = self.layout.strip
        low, high = min(0.0, float(values.min())), max(0.0, float(values.max()))
        scale = (band.bottom - band.top - 44) / max(high - low, 1e-9)
        return replace(band, zero=band.bottom - 8 + low * scale, scale=scale)

    # what can be taken hold of

    def point(self, held: Hold) -> QPointF:
        """Where a weight is drawn."""
        layout, measured = self.layout, self.live.geometry
        x, value = place_and_value(self.live.board, held)
        px = layout.px(x)
        if held.line == "outline":
            return QPointF(px, layout.plan.y(value))
        if held.line == "rocker":
            return QPointF(px, layout.profile.y(float(measured.above_base(x, value))))
        if held.line == "thickness":
            return QPointF(px, layout.profile.y(float(measured.above_base(x, measured.at(measured.shape.deck, x)))))
        return QPointF(px, self.strip_band.y(value))

    @cached_property
    def handles(self) -> tuple[Handle, ...]:
        """All weights that can be taken hold of now: those that lie in their band."""
        board, profile = self.live.board, self.layout.profile
        lines = [line for line in BATTENS if line != "rocker" or self.line == "keel"]
        weights = [Hold(line, i) for line in lines for i in range(len(batten_of(board, line).weights))]
        if is_schedule(self.strip):
            weights += [Hold(self.strip, i) for i in range(len(schedule_of(board, self.strip).points))]
        found = []
        for held in weights:
            point = self.point(held)
            if held.line in ("rocker", "thickness") and not profile.top <= point.y() <= profile.bottom:
                continue
            found.append(Handle(held, point, held.line in BATTENS and self._locked(place_and_value(board, held)[0])))
        return tuple(found)

    def _locked(self, x: float) -> bool:
        return any(zone.start <= x <= zone.end for zone in self.live.board.locks.zones)

    @cached_property
    def grips(self) -> tuple[tuple[Grip, QPointF], ...]:
        """What can be taken hold of besides the weights, and where it is drawn."""
        return tuple((grip, self.grip_point(grip)) for grip in grips(self.live, self.strip, self.line, self.system))

    def grip_band(self, grip: Grip) -> BenchBand:
        """The band a grip lies on."""
        return {"plan": self.layout.plan, "profile": self.layout.profile}.get(grip.band) or self.strip_band

    def grip_point(self, grip: Grip) -> QPointF:
        """Where a grip is drawn."""
        return QPointF(self.layout.px(grip.x), self.grip_band(grip).y(grip.value))
