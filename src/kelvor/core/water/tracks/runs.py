"""A track cut into runs, and the turns between them."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.cleaning import Clean

LOOKS = 5.0
"""Headings are means over so long before and after a moment [s]."""
STRAIGHT = np.radians(40.0)
"""What bends more within that is a turn."""
LEAST_RUN = 15.0
"""A run lasts at least so long [s]."""
LEAST_SPEED = 1.2
"""Slower is drifting [m/s]."""
ASHORE = 60.0
"""Who stays within :data:`STANDS` for so long is ashore, or waits [s]."""
STANDS = 15.0
"""[m]"""
Turned = Literal["tack", "gybe", "turn"]


@frozen
class Run:
    """A straight run.

    Attributes
    ----------
    first, last:
        Places of its first and last fix.
    begins, ends:
        Since the first fix of the track [s].
    heading:
        Of the line from its begin to its end, clockwise from north [rad].
    speed:
        Its mean along the way [m/s].
    made_good:
        East and north over its whole length [m/s].
    metres:
        Its way [m].
    """

    first: int
    last: int
    begins: float
    ends: float
    heading: float
    speed: float
    made_good: tuple[float, float]
    metres: float

    @property
    def seconds(self) -> float:
        """How long it lasts [s]."""
        return self.ends - self.begins


@frozen
class Turn:
    """What lies between two runs: when, by how much [rad, clockwise], and the least speed in it [m/s]."""

    begins: float
    ends: float
    angle: float
    least: float
    kind: Turned = "turn"


def straight_runs(clean: Clean) -> tuple[Run, ...]:
    """Straight runs, in order."""
    t = clean.t
    before = _towards(clean, t - LOOKS, t)
    after = _towards(clean, t, t + LOOKS)
    bend = np.abs(wrapped(after - before))
    straight = (bend < STRAIGHT) & (clean.speed > LEAST_SPEED)
    straight[1:] &= np.diff(clean.stretch) == 0
    found = []
    for first, last in _spells(straight):
        if t[last] - t[first] >= LEAST_RUN:
            found.append(_run(clean, first, last))
    return tuple(found)


def _towards(clean: Clean, start: Array, stop: Array) -> Array:
    """Heading from one moment to another (n,) [rad]."""
    at = [np.interp(stop, clean.t, places) - np.interp(start, clean.t, places) for places in (clean.east, clean.north)]
    return np.arctan2(*at)


def wrapped(angle: Array | float) -> Array:
    """Angles between −π and π."""
    return np.remainder(np.asarray(angle) + np.pi, 2 * np.pi) - np.pi


def _spells(where: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """First and last places of each spell in which `where` is true."""
    edges = np.diff(np.concatenate([[0], where.astype(np.int8), [0]]))
    return list(zip(np.flatnonzero(edges == 1).tolist(), (np.flatnonzero(edges == -1) - 1).tolist(), strict=True))


def _run(clean: Clean, first: int, last: int) -> Run:
    seconds = float(clean.t[last] - clean.t[first])
    east, north = float(clean.east[last] - clean.east[first]), float(clean.north[last] - clean.north[first])
    metres = float(clean.way[last] - clean.way[first])
    heading = float(np.remainder(np.arctan2(east, north), 2 * np.pi))
    made = (east / seconds, north / seconds)
    return Run(first, last, float(clean.t[first]), float(clean.t[last]), heading, metres / seconds, made, metres)


def turns(clean: Clean, found: tuple[Run, ...], wind: float | None = None) -> tuple[Turn, ...]:
    """Turns between runs that follow one another within a minute; tacks and gybes where it is known where the wind
    comes from [rad].
    """
    told = []
    for one, other in zip(found[:-1], found[1:], strict=True):
        if other.begins - one.ends > ASHORE or clean.stretch[one.last] != clean.stretch[other.first]:
            continue
        least = float(clean.speed[one.last : other.first + 1].min())
        angle = _turned_by(clean, one, other)
        if abs(angle) < np.radians(50.0):
            continue
        told.append(Turn(one.ends, other.begins, angle, least, _kind(one.heading, angle, wind)))
    return tuple(told)


def _turned_by(clean: Clean, one: Run, other: Run) -> float:
    """How far the heading went round from one run to the other, the way it went [rad]."""
    low, high = clean.t[one.last], clean.t[other.first]
    moments = np.linspace(low, max(high, low + 1e-3), 25)
    heading = np.unwrap(_towards(clean, moments - 1.0, moments + 1.0))
    short = float(wrapped(other.heading - one.heading))
    long = short - np.sign(short) * 2 * np.pi
    went = float(heading[-1] - heading[0])
    return float(short if abs(went - short) <= abs(went - long) else long)


def _kind(heading: float, angle: float, wind: float | None) -> Turned:
    """A tack goes through the wind, a gybe away from it."""
    if wind is None:
        return "turn"
    before = float(wrapped(heading - wind))
    # the headings passed through, from the wind: 0 on the way is a tack, ±π a gybe
    low, high = sorted((before, before + angle))
    through_wind = any(low < k * 2 * np.pi < high for k in (-1, 0, 1))
    through_lee = any(low < (2 * k + 1) * np.pi < high for k in (-2, -1, 0, 1))
    return "tack" if through_wind and not through_lee else "gybe" if through_lee and not through_wind else "turn"


def stops(clean: Clean) -> tuple[tuple[float, float], ...]:
    """When somebody was ashore or waited: begins and ends [s]."""
    t = clean.t
    moved = np.hypot(
        np.interp(t + ASHORE, t, clean.east) - clean.east, np.interp(t + ASHORE, t, clean.north) - clean.north
    )
    slow = (moved < STANDS) & (np.interp(t + ASHORE, t, clean.way) - clean.way < 3 * STANDS)
    return tuple(
        (float(t[first]), float(min(t[last] + ASHORE, t[-1])))
        for first, last in _spells(slow)
        if t[last] - t[first] > LOOKS
    )
