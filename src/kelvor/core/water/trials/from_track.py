"""Runs of a test, cut out of a track at its stops ashore."""

from __future__ import annotations

from math import pi

import numpy as np

from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import Measured
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.core.water.tracks.runs import Run, wrapped

OPPOSED = np.radians(40.0)
"""Two runs are out and back on one line when they are opposed within this."""


@frozen
class Leg:
    """What was sailed between two stops ashore: its mean, whether out and back, when it began since 1970 [s]."""

    value: float
    both_ways: bool
    begins: float
    seconds: float


def legs(read: TrackRead, measure: Measured, wind: float | None = None) -> tuple[Leg, ...]:
    """A track as runs of a test, in order: one between two stops ashore.

    Out and back on one line count by the mean of both ways, so that a steady current falls out. `wind` is where it came
    from [rad], for speeds made good.
    """
    clean = read.clean
    edges = [0.0, *(t for pair in read.ashore for t in pair), float(clean.t[-1])]
    found = []
    for begin, end in zip(edges[::2], edges[1::2], strict=True):
        inside = [run for run in read.runs if begin < 0.5 * (run.begins + run.ends) < end]
        leg = _leg(read, inside, measure, wind)
        if leg is not None:
            found.append(leg)
    return tuple(found)


def _leg(read: TrackRead, inside: list[Run], measure: Measured, wind: float | None) -> Leg | None:
    if not inside:
        return None
    begins = float(read.clean.track.seconds[0]) + inside[0].begins
    seconds = sum(run.seconds for run in inside)
    if measure in ("upwind", "downwind"):
        if wind is None:
            return None
        sign = 1.0 if measure == "upwind" else -1.0
        good = [(sign * run.speed * float(np.cos(run.heading - wind)), run) for run in inside]
        good = [(speed, run) for speed, run in good if speed > 0]
        if not good:
            return None
        tacks = {float(np.sign(wrapped(run.heading - wind))) for _, run in good}
        value = sum(speed * run.seconds for speed, run in good) / sum(run.seconds for _, run in good)
        return Leg(value, len(tacks) == 2, begins, seconds)
    first = max(inside, key=lambda run: run.seconds)
    out = [run for run in inside if abs(float(wrapped(run.heading - first.heading))) < OPPOSED]
    back = [run for run in inside if abs(abs(float(wrapped(run.heading - first.heading))) - pi) < OPPOSED]
    ways = [
        np.average([_speed(read, run, measure) for run in way], weights=[run.seconds for run in way])
        for way in (out, back)
        if way
    ]
    return Leg(float(np.mean(ways)), bool(back), begins, seconds)


def _speed(read: TrackRead, run: Run, measure: Measured) -> float:
    """Of a run: its mean, or its best so long."""
    clean = read.clean
    part = slice(run.first, run.last + 1)
    t, way = clean.t[part], clean.way[part]
    if measure == "best 10 s" and run.seconds > 10.0:
        inside = t <= t[-1] - 10.0
        return float(np.max(np.interp(t[inside] + 10.0, t, way) - way[inside]) / 10.0)
    if measure == "best 500 m" and run.metres > 500.0:
        rising = np.append(True, np.diff(way) > 0)
        inside = way <= way[-1] - 500.0
        took = np.interp(way[inside] + 500.0, way[rising], t[rising]) - t[inside]
        return float(500.0 / np.min(took))
    return run.speed
