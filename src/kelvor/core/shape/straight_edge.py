"""A straight edge on a line of the board: gaps and flat runs."""

from __future__ import annotations

import numpy as np

from kelvor.core.shape.battens import Array, in_order

FLAT_TOLERANCE = 0.0005
"""Gap under the straight edge that still counts as flat [m]."""

STARTS, ENDS = np.linspace(-1.0, 0.5, 25), np.linspace(-0.5, 1.0, 25)
"""Places beside those found on the even grid at which a flat's ends are looked for again, in its steps."""


def chord_gap(x: Array, z: Array, start: float, end: float) -> float:
    """Largest distance between the line and the straight edge laid from `start` to `end` [m]."""
    inside = x[(x > start) & (x < end)]
    places = np.concatenate([[start], inside, [end]])
    heights = np.interp(places, x, z)
    t = (places - start) / (end - start)
    return float(np.max(np.abs(heights - heights[0] - t * (heights[-1] - heights[0]))))


def flat_run(x: Array, z: Array, tolerance: float = FLAT_TOLERANCE, samples: int = 48) -> tuple[float, float]:
    """Start and end [m] of the longest run that stays within `tolerance` of its chord.

    A line that is the same end for end has its flat amidships, however straight
    its tips are. Searched on an even grid, then refined to a sixteenth of its step.
    """
    return flat_runs(x, (z,), tolerance, samples)[0]


def flat_runs(
    x: Array, lines: tuple[Array, ...], tolerance: float = FLAT_TOLERANCE, samples: int = 48
) -> list[tuple[float, float]]:
    """Like :func:`flat_run` for several lines over the same places."""
    grid = np.linspace(x[0], x[-1], samples)
    heights = np.stack([np.interp(grid, x, z) for z in lines])
    ends = _furthest(grid, heights, grid, heights, tolerance)
    return [_refined(x, z, grid, height, end, tolerance) for z, height, end in zip(lines, heights, ends, strict=True)]


def _refined(x: Array, z: Array, grid: Array, height: Array, ends: Array, tolerance: float) -> tuple[float, float]:
    middle = (x[0] + x[-1]) / 2
    same_ends = float(np.abs(height - height[::-1]).max()) <= tolerance
    there = (grid <= middle) & (ends >= middle) if same_ends else np.ones(len(grid), dtype=bool)
    best = int(np.argmax(np.where(there, ends - grid, -1.0)))
    start, end, step = grid[best], ends[best], grid[1] - grid[0]
    starts = start + STARTS * step
    starts = starts[(starts >= x[0]) & (starts <= middle if same_ends else True)]
    fine = end + ENDS * step
    # no start reaches further than the fine points, and none needs what lies behind the first of them
    points = in_order(np.concatenate([grid[grid >= starts[0] - step], fine[fine <= x[-1]]]))
    ends = _furthest(starts, np.interp(starts, x, z)[None], points, np.interp(points, x, z)[None], tolerance)[0]
    k = int(np.argmax(ends - starts))
    if ends[k] - starts[k] <= end - start:
        return float(start), float(end)
    return float(starts[k]), float(ends[k])


def straight_aft(x: Array, y: Array, at: float, tolerance: float = FLAT_TOLERANCE, samples: int = 400) -> float:
    """Length of the straight edge that can be laid from `at` [m] towards the tail, the line within `tolerance` of it
    [m].
    """
    grid = np.linspace(at, x[0], samples)
    height = np.interp(grid, x, y)
    back = at - grid
    return float(_furthest(back[:1], height[None, :1], back, height[None], tolerance)[0, 0])


def _furthest(x0: Array, z0: Array, x: Array, z: Array, tolerance: float) -> Array:
    """For each start (x0, z0) the furthest of the points (x, z) whose chord keeps all between within tolerance.

    Places are (s,) and (p,), heights (m, s) and (m, p) for m lines. A chord's
    slope must lie in the cone that the points between allow.
    """
    run = x - x0[:, None]
    ahead = run > 1e-9
    run = np.where(ahead, run, 1.0)
    slack = np.where(ahead, tolerance / run, np.inf)
    slope = (z[:, None, :] - z0[:, :, None]) / run
    low = np.maximum.accumulate(slope - slack, axis=2)
    high = np.minimum.accumulate(slope + slack, axis=2)
    fits = (slope >= low) & (slope <= high) & ahead
    furthest: Array = np.max(np.where(fits, x, x0[:, None]), axis=2)
    return furthest
