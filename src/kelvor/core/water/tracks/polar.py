"""What a day's runs make of a polar, and what of a track is drawn."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.cleaning import Clean
from kelvor.core.water.tracks.runs import Run, wrapped

SECTOR = 10.0
"""A polar is told by sectors of so many degrees."""


@frozen(eq=False)
class SailedPolar:
    """Speeds over the angle to the wind, both tacks together.

    Attributes
    ----------
    angle:
        Middle of each sector [rad] (m,).
    speed:
        Mean of the runs in it, weighted by how long they are [m/s] (m,).
    best:
        The fastest run in it [m/s] (m,).
    count:
        How many runs there are (m,).
    """

    angle: Array
    speed: Array
    best: Array
    count: NDArray[np.intp]


def sailed_polar(runs: tuple[Run, ...], wind: float) -> SailedPolar:
    """The polar of runs in a wind that came from a bearing [rad]; sectors nobody sailed in are left out."""
    angle = np.degrees(np.abs(wrapped(np.array([run.heading for run in runs]) - wind)))
    sector = np.minimum(angle // SECTOR, 180 / SECTOR - 1).astype(np.intp)
    speed, seconds = (np.array([getattr(run, name) for run in runs]) for name in ("speed", "seconds"))
    there = np.unique(sector)
    mean = np.array([np.average(speed[sector == s], weights=seconds[sector == s]) for s in there])
    best = np.array([speed[sector == s].max() for s in there])
    count = np.array([np.count_nonzero(sector == s) for s in there], dtype=np.intp)
    return SailedPolar(np.radians((there + 0.5) * SECTOR), mean, best, count)


def drawn_fixes(clean: Clean, most: int) -> NDArray[np.intp]:
    """Places of the fixes that are drawn: of each of `most` / 2 spells the slowest and the fastest, so that no peak is
    lost.
    """
    n = len(clean.t)
    if n <= most:
        return np.arange(n)
    size = -(-2 * n // most)
    whole = n // size * size
    speed = clean.speed[:whole].reshape(-1, size)
    starts = np.arange(0, whole, size)
    found = [starts + speed.argmin(axis=1), starts + speed.argmax(axis=1), np.arange(whole, n), [0, n - 1]]
    return np.unique(np.concatenate(found)).astype(np.intp)
