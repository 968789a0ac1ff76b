"""A straight edge on a line of the board: gaps and flat runs."""

from __future__ import annotations

import numpy as np

from kelvor.core.shape.battens import Array, in_order

FLAT_TOLERANCE = 0.0005
"""Gap under the straight edge that still counts as flat [m]."""


def chord_gap(x: Array, z: Array, start: float, end: float) -> float:
    """Largest distance between the line and the straight edge laid from `start` to `end` [m]."""
    inside = x[(x > start) & (x < end)]
    places = np.concatenate([[start], inside, [end]])
    heights = np.interp(places, x, z)
    t = (places - start) / (end - start)
    return float(np.max(np.abs(heights - heights[0] - t * (heights[-1] - heights[0]))))


def flat_run(x: Array, z: Array, tolerance: float = FLAT_TOLERANCE, samples: int = 48) -> tuple[float, float]:
    """Start and end [m] of the longest run that stays within `tolerance` of its chord.

    Searched on an even grid, then refined to a sixteenth of its step.
    """
    grid = np.linspace(x[0], x[-1], samples)
    height = np.interp(grid, x, z)
    ends = _furthest(grid, height, grid, height, tolerance)
    best = int(np.argmax(ends - grid))
    start, end, step = grid[best], ends[best], grid[1] - grid[0]
    starts = start + np.linspace(-1.0, 0.5, 25) * step
    starts = starts[starts >= x[0]]
    fine = end + np.linspace(-0.5, 1.0, 25) * step
    points = in_order(np.concatenate([grid, fine[fine <= x[-1]]]))
    ends = _furthest(starts, np.interp(starts, x, z), points, np.interp(points, x, z), tolerance)
    k = int(np.argmax(ends - starts))
    if ends[k] - starts[k] <= end - start:
        return float(start), float(end)
    return float(starts[k]), float(ends[k])


def straight_aft(x: Array, y: Array, at: float, tolerance: float = FLAT_TOLERANCE, samples: int = 400) -> float:
    """Length of the straight edge that can be laid from `at` [m] towards the tail, the line within `tolerance` of it [m]."""
    grid = np.linspace(at, x[0], samples)
    height = np.interp(grid, x, y)
    back = at - grid
    return float(_furthest(back[:1], height[:1], back, height, tolerance)[0])


def _furthest(x0: Array, z0: Array, x: Array, z: Array, tolerance: float) -> Array:
    """For each start (x0, z0) the furthest of the points (x, z) whose chord keeps all between within tolerance.

    A chord's slope must lie in the cone that the points between allow.
    """
    run = x[None, :] - x0[:, None]
    ahead = run > 1e-9
    run = np.where(ahead, run, 1.0)
    rise = z[None, :] - z0[:, None]
    slope = rise / run
    slack = tolerance / run
    low = np.maximum.accumulate(np.where(ahead, slope - slack, -np.inf), axis=1)
    high = np.minimum.accumulate(np.where(ahead, slope + slack, np.inf), axis=1)
    fits = ahead & (slope >= low) & (slope <= high)
    furthest: Array = np.max(np.where(fits, x[None, :], x0[:, None]), axis=1)
    return furthest
