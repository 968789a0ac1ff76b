"""Sailing: speeds round the wind, and fins under load."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.ride.balance import Rigged, SailingBalance
from kelvor.core.ride.model import RideModel, Running
from kelvor.core.tank.lifting.fins import FinLoad, SetFin, fins_holding, scaled_fins

ANGLES = np.radians(np.arange(30.0, 166.0, 2.5))
"""Courses through the water, off the true wind [rad]."""
FAST_COURSE = 115 * DEGREE
"""The course a slalom board is raced on, off the true wind (common practice, no source)."""
UPWIND_MOST, DOWNWIND_LEAST = 80 * DEGREE, 100 * DEGREE
"""A course beyond these makes so little good that nobody beats or runs on it (common practice, no source)."""
FELT = 0.005
"""Share of the speed made good by which courses differ unfelt (judgement)."""
EDGE = 1e-6
"""What keeps a course that lies just on one of these limits out [rad]."""
NEAR, CLOSER, SOLVED = 0.01, 8.0, 7
"""Speeds this share apart are read between for the steady one, so many times closer once it lies between, and how often
at most.
"""
EXACT = 0.02
"""Share of the way between such speeds within which the steady one is found."""
NARROWER = (1, 2, 3)
"""How often about the steady speed a stance narrows it down, before the next is looked for: the last one stands."""
INSIDE, BEYOND = np.linspace(0.0, 1.0, 7), 3.0
"""Shares of the way between two speeds at which the steady one is looked for, and steps of speed above that read."""
LADDER = tuple(float(s) for s in np.linspace(0.6, 1.4, 11))
"""Lengths of a fin ladder, as shares of the fitted one."""


@frozen
class Course:
    """A steady course: angle off the true wind [rad], speed and speed made good [m/s], leeway of the nose [rad], side
    force [N].
    """

    angle: float
    speed: float
    made_good: float
    leeway: float
    side: float


@frozen(eq=False)
class Polar:
    """Steady speeds round the wind.

    `angle` of the course through the water off the true wind (a,) [rad], board `speed` (a,) [m/s] with 0 where nothing
    drives it, side force (a,) [N]. Leeway (a,) turns the nose to windward of that course, and is no part of it.
    """

    angle: Array
    speed: Array
    side: Array
    leeway: Array

    @property
    def made_good(self) -> Array:
        """Speed made good to windward (a,) [m/s]."""
        good: Array = self.speed * np.cos(self.angle)
        return good

    def best(self, *, upwind: bool, running: float) -> Course | None:
        """The course that makes most good to windward or to leeward, between the courses counted.

        Only courses on which the board planes or flies count (at `running` [m/s] or faster): nobody points by falling
        off the plane. None where no such course makes anything good.
        """
        good = self.made_good if upwind else -self.made_good
        there = (self.angle < UPWIND_MOST - EDGE) if upwind else (self.angle > DOWNWIND_LEAST + EDGE)
        usable = np.where((self.speed >= running) & there, good, -np.inf)
        i = int(np.argmax(usable))
        if not usable[i] > 0.1:
            return None
        # courses that make as much good but for what nobody feels: their middle, so that the best never jumps between
        # two
        liked = np.exp((usable / usable[i] - 1) / FELT)
        at = float(liked @ self.angle / liked.sum())
        speed, leeway, side, made = (
            float(np.interp(at, self.angle, v)) for v in (self.speed, self.leeway, self.side, good)
        )
        return Course(at, speed, made, leeway, side)

    def at(self, angle: float) -> float:
        """Speed on a course [m/s]."""
        return float(np.interp(angle, self.angle, self.speed))


def polar(rigged: Rigged, wind: float) -> Polar:
    """The highest steady speed on every course in a `wind` [m/s at the brief's height]."""
    lift_off = rigged.lift_off
    on_water = rigged.speeds if math.isnan(lift_off) else rigged.speeds[rigged.speeds < lift_off]
    speeds = on_water if math.isnan(lift_off) else np.concatenate([on_water, np.linspace(lift_off, 3.2 * lift_off, 18)])
    table = rigged.over(wind, ANGLES, speeds)
    over = table.spare >= 0
    rows, end = np.arange(len(ANGLES)), len(speeds) - 1
    last = end - np.argmax(over[:, ::-1], axis=1)
    driven, at_end = over.any(axis=1), last == end
    wide = speeds[np.minimum(last + 1, end)] - speeds[np.minimum(last, end - 1)]

    def crossed(stance: tuple[Array, Array], low: Array, high: Array) -> tuple[Array, Array, Array]:
        """About the highest speed between two that the force to spare of a stance reaches: one below, one above, and
        how far between them.
        """
        looked = low[:, None] + (high - low)[:, None] * INSIDE
        left = rigged.at(wind, ANGLES[:, None], looked, stance=(stance[0][:, None], stance[1][:, None])).spare
        goes = left >= 0
        i = np.minimum(
            np.where(goes.any(axis=1), len(INSIDE) - 1 - np.argmax(goes[:, ::-1], axis=1), 0), len(INSIDE) - 2
        )
        near, falls = left[rows, i], left[rows, i] - left[rows, i + 1]
        share = np.clip(near / np.where(falls > 1e-9, falls, np.inf), 0.0, 1.0)
        return looked[rows, i], looked[rows, i + 1], share

    # a stance read between others leaves less to spare than one looked for: further up than down
    stance, below, above = (table.cant[rows, last], table.heel[rows, last]), wide, BEYOND * wide
    speed = speeds[last]
    for narrower in NARROWER:
        low, high = np.maximum(speed - below, speeds[0]), np.minimum(speed + above, speeds[-1])
        for _ in range(narrower):
            low, high, share = crossed(stance, low, high)
        speed = np.where(at_end, speeds[-1], low + (high - low) * share)
        found = rigged.at(wind, ANGLES, speed, stance=None if narrower < NARROWER[-1] else stance)
        stance, below, above = (found.cant, found.heel), wide / narrower, wide / narrower
    return Polar(ANGLES, *(np.where(driven, values, 0.0) for values in (speed, found.side, found.leeway)))


def steady(rigged: Rigged, wind: float, course: float, near: float) -> tuple[Running, SailingBalance]:
    """The board at its steady speed on a course in a `wind` [m/s], which lies near `near` [m/s], and what balances.

    The hull is asked again with just what it then carries, where the balance reads between two loads. In flight the
    balance is exact as it stands.
    """
    model = rigged.model
    found = rigged.at(wind, course, near)
    if model.wing is not None:
        load, air = float(found.load), float(found.air)
        if near >= rigged.lift_off * math.sqrt(load / model.weight):
            return model.flying(near, load, float(found.drag) - air, air), found
        return model.running(near, lifted=model.weight - load, side=float(found.side), air=air), found
    speed, stance, apart = near, (found.cant, found.heel), NEAR
    for _ in range(SOLVED):
        speeds = speed * (1 + apart * np.array([-1.0, 0.0, 1.0]))
        found = rigged.at(wind, course, speeds, stance=stance)
        states = model.curve(speeds, model.weight - found.load, side=found.side, air=found.air, edge=found.edge)
        left = found.drive - np.array([s.drag for s in states])
        # the parabola through the three, at its root next to the middle
        bend, fall = (left[0] - 2 * left[1] + left[2]) / 2, (left[2] - left[0]) / 2
        root = fall**2 - 4 * bend * left[1]
        if root <= 0 or fall >= 0:
            break
        share = float(np.clip(2 * left[1] / (-fall + np.sqrt(root)), -3.0, 3.0))
        speed = min(speed * (1 + apart * share), float(rigged.speeds[-1]))
        if abs(share) < EXACT:
            break
        if abs(share) < 1:  # where the rider's reach binds drag turns sharply: looked at more closely
            apart /= CLOSER
        else:
            found = rigged.at(wind, course, speed)
            stance = found.cant, found.heel
    found = rigged.at(wind, course, speed, stance=stance)
    state = model.running(
        speed,
        lifted=model.weight - float(found.load),
        side=float(found.side),
        air=float(found.air),
        edge=float(found.edge),
    )
    return state, found


def fin_lengths(model: RideModel, shares: tuple[float, ...] = LADDER) -> tuple[tuple[float, tuple[SetFin, ...]], ...]:
    """Spans [m] of the main fin in `shares` of its own, each with the whole set; none without fins."""
    boxes = model.measured.board.fittings.fin_boxes
    if not boxes:
        return ()
    box = max((b for b in boxes), key=lambda b: (b.offset == 0, b.fin.span))
    x = box.at.x(model.measured.board.length, model.measured.board.mast_x)
    return tuple(
        (
            fin.span,
            tuple(
                replace(f, area=fin.area, slope=fin.slope, aspect=fin.aspect, span=fin.span)
                if f.name == box.name
                else f
                for f in model.fins
            ),
        )
        for fin in scaled_fins(box.fin, tuple(box.fin.span * share for share in shares), x)
    )


def fin_loads(model: RideModel, fins: tuple[SetFin, ...], side: float, speeds: Iterable[float]) -> list[FinLoad]:
    """A set of fins that holds a side force [N] at speeds [m/s] above nothing."""
    loads = (fins_holding(fins, side, float(speed), model.density, model.fin_law) for speed in speeds)
    return [load for load in loads if load is not None]


def release_yaw(model: RideModel) -> float:
    """Yaw at which the first fin lets go [rad]; NaN without fins."""
    law, fins = model.fin_law, model.fins
    if not fins:
        return float("nan")
    return float(min((law.most_of(f) / f.slope + f.side * f.toe) / np.cos(f.cant) for f in fins))
