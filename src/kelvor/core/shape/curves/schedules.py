"""Schedules: how a layer, rail or deck measure runs along the board.

Monotone between its points, so it never overshoots (Fritsch and Carlson 1980,
SIAM J. Numer. Anal. 17, 238; slopes by the weighted harmonic mean of Fritsch
and Butland 1984). Constant beyond the first and last point.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.limits import ANY_PLACE, Limit, Many
from kelvor.core.base.values import frozen

Array = NDArray[np.float64]


@frozen
class Schedule:
    """Points (x [m from the tail tip], value), in order of x; a single point is a constant."""

    points: Annotated[
        tuple[tuple[Annotated[float, ANY_PLACE], Annotated[float, Limit(-10, 10, unit="SI")]], ...], Many(200, least=1)
    ]

    @staticmethod
    def constant(value: float) -> Schedule:
        """The same value everywhere."""
        return Schedule(((0.0, value),))

    @property
    def is_constant(self) -> bool:
        """Whether it has the same value everywhere."""
        return all(value == self.points[0][1] for _, value in self.points)

    def at(self, xs: Array) -> Array:
        """Values at places `xs` [m]."""
        return _evaluate(self.points, xs)

    def value(self, x: float) -> float:
        """The value at one place [m]."""
        return float(_evaluate(self.points, np.array([x]))[0])

    def with_point(self, index: int, x: float, value: float) -> Schedule:
        """One point replaced."""
        return Schedule((*self.points[:index], (x, value), *self.points[index + 1 :]))


@lru_cache(maxsize=1024)
def sampled(schedule: Schedule, key: tuple[float, ...]) -> Array:
    """Like :meth:`Schedule.at` for places that come again and again."""
    values = schedule.at(np.array(key))
    values.setflags(write=False)
    return values


def _evaluate(points: tuple[tuple[float, float], ...], xs: Array) -> Array:
    if len(points) == 1:
        return np.full(len(xs), points[0][1])
    x = np.array([p[0] for p in points])
    y = np.array([p[1] for p in points])
    h = np.diff(x)
    d = np.diff(y) / h
    slope = np.zeros(len(x))
    for i in range(1, len(x) - 1):
        if d[i - 1] * d[i] > 0:
            w1, w2 = 2 * h[i] + h[i - 1], h[i] + 2 * h[i - 1]
            slope[i] = (w1 + w2) * d[i] / (w1 * (d[i] / d[i - 1]) + w2)
    q = np.clip(xs, x[0], x[-1])
    k = np.clip(np.searchsorted(x, q, side="right") - 1, 0, len(h) - 1)
    t = (q - x[k]) / h[k]
    result: Array = (
        y[k] * (1 + 2 * t) * (1 - t) ** 2
        + h[k] * slope[k] * t * (1 - t) ** 2
        + y[k + 1] * t * t * (3 - 2 * t)
        + h[k] * slope[k + 1] * t * t * (t - 1)
    )
    return result
