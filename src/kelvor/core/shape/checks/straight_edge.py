"""A straight edge on a line of the board: gaps and flat runs."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array

FLAT_TOLERANCE = 0.0005
"""Gap under the straight edge that still counts as flat [m]."""

KEPT = 256
"""So many flats are kept."""
KICK = np.tan(np.radians(3.0))
"""Slope to the table it rests on from which a run that does not hold the lowest place is a kick (judgement)."""
_kept: dict[tuple[bytes, bytes, float, int, float | None], tuple[float, float]] = {}
"""Flats by places, heights, tolerance, samples and slope of the base."""

STARTS, ENDS = np.linspace(-1.0, 0.5, 25), np.linspace(-0.5, 1.0, 25)
"""Places beside those found on the even grid at which a flat's ends are looked for again, in its steps."""


def chord_gap(x: Array, z: Array, start: float, end: float) -> float:
    """Largest distance between the line and the straight edge laid from `start` to `end` [m]."""
    inside = x[(x > start) & (x < end)]
    places = np.concatenate([[start], inside, [end]])
    heights = np.interp(places, x, z)
    t = (places - start) / (end - start)
    return float(np.max(np.abs(heights - heights[0] - t * (heights[-1] - heights[0]))))


def flat_run(
    x: Array, z: Array, tolerance: float = FLAT_TOLERANCE, samples: int = 48, *, base: float | None = None
) -> tuple[float, float]:
    """Start and end [m] of the longest run that stays within `tolerance` of its chord.

    Of a line of the bottom over a `base` of that slope, the table the board rests on, it is what the board runs on:
    it holds the lowest place or lies along the base, which a straight kick at tail or nose does not. A line that is
    the same end for end has its flat amidships, however straight its tips are. Searched on an even grid, then
    refined to a sixteenth of its step.
    """
    return flat_runs(x, (z,), tolerance, samples, bases=(base,))[0]


def flat_runs(
    x: Array,
    lines: tuple[Array, ...],
    tolerance: float = FLAT_TOLERANCE,
    samples: int = 48,
    *,
    bases: tuple[float | None, ...] | None = None,
) -> list[tuple[float, float]]:
    """Like :func:`flat_run` for several lines over the same places; a drag moves few of them, the others are kept."""
    over = bases or (None,) * len(lines)
    keys = [(x.tobytes(), z.tobytes(), tolerance, samples, base) for z, base in zip(lines, over, strict=True)]
    found = {key: run for key in keys if (run := _kept.get(key)) is not None}
    moved = {key: z for key, z in zip(keys, lines, strict=True) if key not in found}
    if moved:
        under = tuple(key[4] for key in moved)
        found |= zip(moved, _searched(x, tuple(moved.values()), tolerance, samples, under), strict=True)
        if len(_kept) > KEPT:
            _kept.clear()
        _kept.update(found)
    return [found[key] for key in keys]


def _searched(
    x: Array, lines: tuple[Array, ...], tolerance: float, samples: int, bases: tuple[float | None, ...]
) -> list[tuple[float, float]]:
    grid = _even_grid(float(x[0]), float(x[-1]), samples)
    heights = np.stack([np.interp(grid, x, z) for z in lines])
    reach = _furthest(grid[None], heights, grid[None], heights, tolerance)
    middle, step, every = (x[0] + x[-1]) / 2, grid[1] - grid[0], np.arange(len(lines))
    same_ends = np.abs(heights - heights[:, ::-1]).max(axis=1, keepdims=True) <= tolerance
    slope = np.array([0.0 if base is None else base for base in bases])[:, None]
    free = np.array([base is None for base in bases])[:, None]
    low = grid[np.argmin(heights - slope * grid, axis=1)][:, None]

    def rests(first: Array, last: Array) -> NDArray[np.bool_]:
        """Which runs (m, s) the board lies on."""
        rise = np.stack([np.interp(b, x, z) - np.interp(a, x, z) for a, b, z in zip(first, last, lines, strict=True)])
        along = np.abs(rise - slope * (last - first)) <= KICK * np.maximum(last - first, step)
        found: NDArray[np.bool_] = free | along | ((first <= low) & (last >= low))
        return found

    there = rests(np.broadcast_to(grid, reach.shape), reach) & (~same_ends | ((grid <= middle) & (reach >= middle)))
    best = np.argmax(np.where(there, reach - grid, -1.0), axis=1)
    start, end = grid[best], reach[every, best]
    # looked for again beside what was found, on points that lie closer there
    starts = start[:, None] + STARTS * step
    fine = np.minimum(end[:, None] + ENDS * step, x[-1])
    points = np.sort(np.concatenate([np.broadcast_to(grid, heights.shape), fine], axis=1), axis=1)
    places = np.concatenate([starts, points], axis=1)
    height = np.stack([np.interp(at, x, z) for at, z in zip(places, lines, strict=True)])
    ends = _furthest(starts, height[:, : len(STARTS)], points, height[:, len(STARTS) :], tolerance)
    allowed = rests(starts, ends) & (starts >= x[0]) & (~same_ends | (starts <= middle))
    length = np.where(allowed, ends - starts, -1.0)
    k = np.argmax(length, axis=1)
    longer = length[every, k] > end - start
    found = np.where(longer, [starts[every, k], ends[every, k]], [start, end])
    return [(float(first), float(last)) for first, last in found.T]


@lru_cache(maxsize=16)
def _even_grid(start: float, end: float, samples: int) -> Array:
    """Places that come again and again while a board keeps its length."""
    grid = np.linspace(start, end, samples)
    grid.setflags(write=False)
    return grid


def table_slope(x: Array, z: Array, under: float) -> float:
    """Slope of the table a line rests on, its weight at place `under` [m]: of its lower convex hull's edge there."""
    hull: list[int] = []
    for i in range(len(x)):
        while len(hull) > 1 and (x[hull[-1]] - x[hull[-2]]) * (z[i] - z[hull[-2]]) <= (x[i] - x[hull[-2]]) * (
            z[hull[-1]] - z[hull[-2]]
        ):
            hull.pop()
        hull.append(i)
    for a, b in zip(hull[:-1], hull[1:], strict=True):
        if x[a] <= under <= x[b]:
            return float((z[b] - z[a]) / (x[b] - x[a]))
    return 0.0


def straight_aft(x: Array, y: Array, at: float, tolerance: float = FLAT_TOLERANCE, samples: int = 400) -> float:
    """Length of the straight edge that can be laid from `at` [m] towards the tail, the line within `tolerance` of it
    [m].
    """
    grid = np.linspace(at, x[0], samples)
    height = np.interp(grid, x, y)
    back = at - grid
    return float(_furthest(back[None, :1], height[None, :1], back[None], height[None], tolerance)[0, 0])


def _furthest(x0: Array, z0: Array, x: Array, z: Array, tolerance: float) -> Array:
    """For each start (x0, z0) the furthest of the points (x, z) whose chord keeps all between within tolerance.

    Starts are (m, s), points (m, p) in order, for m lines; places may be (1, s)
    and (1, p) where the lines share them. A chord's slope must lie in the cone
    that the points between allow.
    """
    x, x0 = x[:, None, :], x0[:, :, None]
    run = x - x0
    ahead = run > 1e-9
    run = np.where(ahead, run, 1.0)
    slack = np.where(ahead, tolerance / run, np.inf)
    slope = (z[:, None, :] - z0[:, :, None]) / run
    low = np.maximum.accumulate(slope - slack, axis=2)
    high = np.minimum.accumulate(slope + slack, axis=2)
    fits = (slope >= low) & (slope <= high) & ahead
    furthest: Array = np.max(np.where(fits, x, x0), axis=2)
    return furthest
