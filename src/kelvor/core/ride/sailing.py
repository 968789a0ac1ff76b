"""Sailing: speeds round the wind, the force a rider holds, fins under load."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from kelvor.core.drive.sails import Driven, Gear, forces, wind_at
from kelvor.core.figures import Method
from kelvor.core.lifting.fins import hold, ladder
from kelvor.core.lifting.foils import foil_drag
from kelvor.core.lifting.slopes import SPAN_FACTOR, plate_slope
from kelvor.core.ride.going import Going, held_side
from kelvor.core.ride.model import RideModel
from kelvor.core.shape.battens import Array
from kelvor.core.units import DEGREE

METHOD = Method(
    "balance of drive, drag and the side force the rider can hold",
    "lifting line; rider's righting moment; fins by Helmbold 1942, less a converged lattice's difference", "steady state, flat water; courses every 5°",
)  # fmt: skip
ANGLES = np.radians(np.arange(40.0, 166.0, 5.0))
FAST_COURSE = 115 * DEGREE
"""The course a slalom board is raced on, off the true wind (common practice, no source)."""
UPWIND_MOST, DOWNWIND_LEAST = 80 * DEGREE, 100 * DEGREE
"""A course over the ground beyond these makes so little good that nobody beats or runs on it (common practice, no source)."""
LADDER = tuple(float(s) for s in np.linspace(0.6, 1.4, 11))
"""Lengths of a fin ladder, as shares of the fitted one."""


@dataclass(frozen=True, slots=True)
class Course:
    """A steady course: angle off the true wind [rad], speed and speed made good [m/s], leeway [rad], side force [N]."""

    angle: float
    speed: float
    made_good: float
    leeway: float
    side: float


@dataclass(frozen=True, slots=True, eq=False)
class Polar:
    """Steady speeds round the wind.

    `angle` off the true wind (a,) [rad], board `speed` (a,) [m/s] with 0 where nothing drives it, side force (a,) [N].
    """

    angle: Array
    speed: Array
    side: Array
    leeway: Array

    @property
    def made_good(self) -> Array:
        """Speed made good to windward (a,) [m/s]."""
        good: Array = self.speed * np.cos(self.angle + self.leeway)
        return good

    def best(self, *, upwind: bool, running: float) -> Course | None:
        """The course that makes most good to windward or to leeward, between the courses counted.

        Only courses on which the board planes or flies count (at `running` [m/s] or faster), by their course over the
        ground: nobody points by falling off the plane. None where no such course makes anything good.
        """
        over = self.angle + self.leeway
        good = self.made_good if upwind else -self.made_good
        there = (over < UPWIND_MOST) if upwind else (over > DOWNWIND_LEAST)
        usable = np.where((self.speed >= running) & there, good, -np.inf)
        i = int(np.argmax(usable))
        if not usable[i] > 0.1:
            return None
        shift = 0.0
        if 0 < i < len(good) - 1 and np.isfinite(usable[i - 1]) and np.isfinite(usable[i + 1]):
            before, here, after = usable[i - 1], usable[i], usable[i + 1]
            bend = before - 2 * here + after
            # the parabola through three courses, where they are on one branch
            if bend < 0 and min(before, after) > 0.7 * here:
                shift = float(np.clip((before - after) / (2 * bend), -0.5, 0.5))
        step = float(self.angle[1] - self.angle[0])
        at = float(self.angle[i]) + shift * step
        made = float(good[i]) if shift == 0.0 else float(np.interp(at, self.angle, good))
        speed, leeway, side = (float(np.interp(at, self.angle, v)) for v in (self.speed, self.leeway, self.side))
        return Course(at, speed, max(made, float(good[i])), leeway, side)

    def at(self, angle: float) -> float:
        """Speed on a course [m/s]."""
        return float(np.interp(angle, self.angle, self.speed))


def _resistance(model: RideModel, way: Going) -> tuple[Array, Array]:
    """Speeds and drag without air, flying where a foil has lifted off (n,)."""
    speeds = way.speeds
    drag = np.array([r.drag - r.air for r in way.curve])
    if model.wing is None:
        return speeds, drag
    faster = np.linspace(way.lift_off, 3.2 * way.lift_off, 14)
    wet = max(model.wing.mast - model.brief.ride_height, 0.1)
    flying = foil_drag(model.wing, model.weight, faster, wet, model.density, model.table)
    on_water = speeds < way.lift_off
    return np.concatenate([speeds[on_water], faster]), np.concatenate([drag[on_water], flying])


def side_law(model: RideModel) -> tuple[float, float, float]:
    """Area times lift slope [m²/rad], area times aspect ratio and area [m²] of what holds the board sideways."""
    if model.wing is not None:
        chord, wet = model.table.mast_chord, max(model.wing.mast - model.brief.ride_height, 0.1)
        aspect = 2 * wet / chord
        return wet * chord * float(plate_slope(aspect)), wet * chord * aspect, wet * chord
    if not model.fins:
        return 0.0, 0.0, 0.0
    fins = model.fins
    return sum(f.area * f.slope for f in fins), sum(f.area * f.aspect for f in fins), sum(f.area for f in fins)


def _holding(driven: Driven, q: Array, aspect: float) -> Array:
    """Induced drag [N] of fins or mast that hold the side force, `aspect` their area times aspect ratio [m²]."""
    held: Array = driven.side**2 / np.maximum(q * np.pi * max(aspect, 1e-6) * SPAN_FACTOR, 1e-6)
    return held


def _head_wind(model: RideModel, driven: Driven) -> Array:
    """Drag of the rider in the apparent wind, along the course [N]."""
    air: Array = np.maximum(model.air / 2 * model.drag_area * driven.wind**2 * np.cos(driven.angle), 0.0)
    return air


def polar(model: RideModel, way: Going, gear: Gear, condition_wind: float) -> Polar:
    """Speeds on every course, the gear eased to what the rider can hold."""
    speeds, drag = _resistance(model, way)
    wind = wind_at(gear, condition_wind, model.brief.wind.height)
    driven = forces(gear, wind, speeds[None, :], ANGLES[:, None], model.air, held_side(model, gear))
    grip, aspect, area = side_law(model)
    q = model.density * speeds**2 / 2
    edged = gear.rig == "kite" and model.wing is None
    if edged:
        # the board's bottom holds sideways by its heel: the slope of its lift adds up with the edge
        holding = np.abs(driven.side) * model.table.kite_edge
        leeway = np.full_like(driven.side, model.table.kite_leeway)
    else:
        holding = _holding(driven, q, aspect)
        leeway = np.abs(driven.side) / np.maximum(q * max(grip, 1e-6), 1e-6)
    most = np.inf if edged else q * area * model.table.fin_lift_most
    lets_go = np.abs(driven.side) > most
    margin = driven.drive - drag[None, :] - holding - _head_wind(model, driven)
    margin = np.where(lets_go, -1.0, margin)
    found, side, drift = [], [], []
    for row in range(len(ANGLES)):
        over = np.nonzero(margin[row] >= 0)[0]
        if not len(over):
            found.append(0.0)
            side.append(0.0)
            drift.append(0.0)
            continue
        i = int(over[-1])
        t = 0.0 if i + 1 >= len(speeds) else float(margin[row, i] / max(margin[row, i] - margin[row, i + 1], 1e-9))
        j = min(i + 1, len(speeds) - 1)
        found.append(float(speeds[i] + t * (speeds[j] - speeds[i])))
        side.append(float(driven.side[row, i]))
        drift.append(float(leeway[row, i]))
    return Polar(ANGLES, np.array(found), np.array(side), np.array(drift))


def force_to_spare(model: RideModel, way: Going, gear: Gear, condition_wind: float, speeds: Array) -> Array:
    """Drive less drag on the fast course at speeds (n,) [N]."""
    wind = wind_at(gear, condition_wind, model.brief.wind.height)
    driven = forces(gear, wind, speeds, FAST_COURSE, model.air, held_side(model, gear))
    _, aspect, _ = side_law(model)
    at, drag = _resistance(model, way)
    holding = _holding(driven, model.density * speeds**2 / 2, aspect)
    spare: Array = driven.drive - np.interp(speeds, at, drag) - holding - _head_wind(model, driven)
    return spare


@dataclass(frozen=True, slots=True)
class FinChoice:
    """A length of the main fin: its margins and drag at the run, and its margin at the hump."""

    span: float
    leeway: float
    drag: float
    margin: float
    margin_push: float


def fin_ladder(
    model: RideModel, sides: tuple[float, float], speeds: tuple[float, float], shares: tuple[float, ...] = LADDER
) -> tuple[FinChoice, ...]:
    """The main fin in `shares` of its own length, each held to the same side forces [N] at the run and pushing, at their speeds [m/s]."""
    boxes = model.measured.board.fittings.fin_boxes
    if not boxes:
        return ()
    box = max((b for b in boxes), key=lambda b: (b.offset == 0, b.fin.span))
    spans = tuple(box.fin.span * share for share in shares)
    x = box.at.x(model.measured.board.length, model.measured.board.mast_x)
    found = []
    for fin in ladder(box.fin, spans, x):
        fins = tuple(replace(f, area=fin.area, slope=fin.slope, aspect=fin.aspect, span=fin.span) if f.name == box.name else f
                     for f in model.fins)  # fmt: skip
        at_run = hold(fins, sides[0], speeds[0], model.density, model.fin_law)
        at_push = hold(fins, sides[1], speeds[1], model.density, model.fin_law)
        assert at_run is not None and at_push is not None
        found.append(FinChoice(fin.span, at_run.leeway, at_run.drag, min(at_run.stall_margin, at_run.ventilation_margin),
                               min(at_push.stall_margin, at_push.ventilation_margin)))  # fmt: skip
    return tuple(found)


def release_yaw(model: RideModel) -> float:
    """Yaw at which the first fin lets go [rad]; NaN without fins."""
    law, fins = model.fin_law, model.fins
    if not fins:
        return float("nan")
    return float(min((law.lift_most / f.slope + f.side * f.toe) / np.cos(f.cant) for f in fins))
