"""How low a cutter's tip may go over a face of the core without cutting into it.

A ball of radius R whose centre is no nearer than R + p to any point of the face leaves it p proud everywhere, along
its normal. The face is known by points two millimetres apart and by every corner of its sections, so what lies between
four points stands out by less than d²/4R: 0.1 mm at R 10. A regular grid of heights would miss the sharp upper edges of
rails and walls by as much as its pitch.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.mill.stock import Clamped

PITCH = 0.002
"""Between two sections and two points of a section [m]."""
LONGEST = 1.5
"""Times the pitch between two points of a few sections."""
ROW = 0.001
"""Pitch of the table that finds points by their place across [m]."""
GRID, FLAT = 0.001, 0.56
"""Pitch of the grid that is read where what lifts a ball lies within this share of its reach [m]."""
EDGE = 0.00005
"""What stands out of the grid by more than this is an edge [m]."""
MARGIN = 24
"""Blocks beyond either end."""
CELLS = 1_000_000
"""Distances counted at a time."""
BLOCK = 0.002
"""Size of the blocks whose highest and lowest points tell how far a place must be looked around [m]."""
NEAR = (0.25, 0.4, 0.55, 0.7, 0.85)
"""Shares of the cutter's reach that are enough where nothing around stands higher."""


@frozen(eq=False)
class Face:
    """A face of the core in the mill's frame, by points of its sections.

    Attributes
    ----------
    x:
        Places of the sections (n,) [m], rising.
    y, z:
        Points of each from starboard to port (n, k), `y` rising [m].
    first:
        Index of the first point at or beyond each row (n, rows).
    rim:
        Height of the widest point (n,) [m].
    half:
        Half-width (n,) [m].
    """

    x: Array
    y: Array
    z: Array
    first: np.ndarray
    rim: Array
    half: Array
    row0: float

    def around(self, reach: float) -> Around:
        """How far one has to look around each place for a ball whose centre keeps `reach` [m].

        What is further away than r lifts the ball only where it stands reach − √(reach² − r²) higher.
        """
        from scipy.ndimage import maximum_filter  # in a worker

        cells = (int(self.x[-1] / BLOCK) + 1 + 2 * MARGIN, int(-2 * self.row0 / BLOCK) + 1)
        i = (self.x / BLOCK).astype(int)[:, None] + MARGIN
        place = (i * cells[1] + ((self.y - self.row0) / BLOCK).astype(int)).ravel()
        highest, lowest = np.full(cells, -1e2, np.float32), np.full(cells, np.inf, np.float32)
        np.maximum.at(highest.ravel(), place, self.z.ravel())
        np.minimum.at(lowest.ravel(), place, self.z.ravel())
        lowest[np.isinf(lowest)] = -1e3  # an empty block may be passed by anything
        far = np.full(cells, NEAR[0] * reach, np.float32)
        for inner, outer in pairwise((*NEAR, 1.0)):
            size = 2 * int(np.ceil(outer * reach / BLOCK)) + 3
            least = reach * (1 - np.sqrt(1 - inner**2))
            far[maximum_filter(highest, size) - lowest >= least] = outer * reach
        return Around(far, self.row0)

    def rim_at(self, x: Array) -> Array:
        """Height of the rim at places (…) [m], beyond an end that of the end."""
        found: Array = np.interp(x, self.x, self.rim)
        return found

    def half_at(self, x: Array) -> Array:
        """Half-width at places (…) [m], none beyond the ends."""
        found: Array = np.interp(x, self.x, self.half, left=0.0, right=0.0)
        return found


def face(clamp: Clamped) -> Face:
    """The face of the core that is up."""
    core, c = clamp.core, clamp.core.columns
    x = core.x - clamp.tail
    columns = np.arange(c.apex, c.top + 1)[::-1] if clamp.side == "deck" else np.arange(c.apex + 1)
    y, z = core.y[:, columns], np.asarray(clamp.up(core.z[:, columns]))
    # the sections themselves, and others between so that none lies further than the pitch from the next
    regular = np.linspace(0.0, float(x[-1]), int(np.ceil(float(x[-1]) / PITCH)) + 1)
    wanted = np.unique(np.concatenate([x[_that_differ(x, y, z)], regular]))
    wanted = wanted[np.concatenate([[True], np.diff(wanted) > 1e-7])]
    y, z = (_between(x, values, wanted) for values in (y, z))
    half, rim = (
        _between(x, values[:, None], wanted)[:, 0]
        for values in (core.y[:, c.apex], np.asarray(clamp.up(core.z[:, c.apex])))
    )
    return laid_out(wanted, y, z, rim, half)


def laid_out(x: Array, y: Array, z: Array, rim: Array, half: Array) -> Face:
    """A face by sections (n, m) at rising places (n,), from the middle outwards to port, with points put in between."""
    steps = np.hypot(np.diff(y, axis=1), np.diff(z, axis=1))
    usual, longest = np.quantile(steps, 0.9, axis=0) / PITCH, steps.max(axis=0) / (LONGEST * PITCH)
    parts = np.maximum(np.ceil(np.maximum(usual, longest)).astype(int), 1)
    j = np.repeat(np.arange(len(parts)), parts)
    t = np.concatenate([np.arange(n) / n for n in parts])
    fine_y, fine_z = (
        np.concatenate([v[:, j] * (1 - t) + v[:, j + 1] * t, v[:, -1:]], axis=1).astype(np.float32) for v in (y, z)
    )
    # row by row in memory, so that points are taken without a copy
    across, up = (
        np.ascontiguousarray(np.concatenate([sign * v[:, ::-1], v], axis=1)) for sign, v in ((-1, fine_y), (1, fine_z))
    )
    widest = float(half.max()) + 0.1
    rows = np.arange(-widest, widest, ROW, dtype=np.float32)
    first = np.stack([np.searchsorted(row, rows) for row in across])
    return Face(x, across, up, first, rim, half, float(rows[0]))


def _that_differ(x: Array, y: Array, z: Array) -> list[int]:
    """Which sections tell something: not those that crowd and hardly differ from the one before."""
    kept = [0]
    for i in range(1, len(x) - 1):
        apart = max(float(np.abs(v[i] - v[kept[-1]]).max()) for v in (y, z))
        if x[i] - x[kept[-1]] > PITCH / 2 or apart > PITCH / 40:
            kept.append(i)
    return [*kept, len(x) - 1]


def _between(x: Array, values: Array, at: Array) -> Array:
    """Columns (n, m) over rising places read in straight lines (k, m); where two lie at one place, the last."""
    i = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(x) - 2)
    wide = x[i + 1] - x[i]
    t = np.clip((at - x[i]) / np.where(wide > 0, wide, 1.0), 0.0, 1.0)[:, None]
    found: Array = values[i] * (1 - t) + values[i + 1] * t
    return found


class Contact:
    """A ball over a face: how low its tip may go.

    Where only what lies near can lift it, and nothing is steep, a grid of heights grown by the ball is read (grey
    dilation); elsewhere every point of the face is looked at.
    """

    def __init__(self, over: Face, radius: float, proud: float) -> None:
        """A cutter's radius, and what it leaves on along the normal [m]."""
        from scipy.ndimage import grey_dilation  # in a worker

        self.over, self.radius, self.reach = over, radius, radius + proud
        self._around = over.around(self.reach)
        self._x = np.arange(0.0, float(over.x[-1]), GRID)
        self._y = np.arange(-2 * self.reach, float(over.half.max()) + GRID, GRID)
        sections = np.stack([np.interp(self._y, y, z) for y, z in zip(over.y, over.z, strict=True)])
        heights = _between(over.x, sections, self._x)
        cells = int(self.reach / GRID)
        steps = np.arange(-cells, cells + 1) * GRID
        room = self.reach**2 - steps[:, None] ** 2 - steps**2
        lifts = np.sqrt(np.maximum(room, 0.0))
        self._sharp = self._beside_edges(heights)
        self._low = grey_dilation(heights, footprint=room > 0, structure=lifts, mode="nearest") - radius

    def tips(self, x: Array, y: Array) -> Array:
        """Lowest heights of the tip at places (n,) [m], −∞ where it touches nothing."""
        needed = self._around.needed(x, y)
        inside = (x >= self._x[0]) & (x < self._x[-1]) & (y < self._y[-1] - GRID) & (needed <= FLAT * self.reach)
        inside[inside] = ~self._sharp[self._around.blocks(x[inside], y[inside])]
        found = np.full(len(x), -np.inf)
        found[inside] = self._read(x[inside], y[inside])
        beyond = -1.0
        for near in (*(share * self.reach for share in NEAR), self.reach):
            some = np.flatnonzero(~inside & (needed > beyond) & ((needed <= near) | (near == self.reach)))
            if len(some):
                found[some] = _looked(self.over, self.reach, near, x[some], y[some]) - self.radius
            beyond = near
        return found

    def _beside_edges(self, heights: Array) -> np.ndarray:
        """Blocks from which an edge can be touched that stands out between the grid's places."""
        from scipy.ndimage import maximum_filter  # in a worker

        over = self.over
        half = over.y.shape[1] // 2  # port's points: the grid is of that side
        x, y, z = np.repeat(over.x, over.y.shape[1] - half), over.y[:, half:].ravel(), over.z[:, half:].ravel()
        missed = (x >= self._x[0]) & (x < self._x[-1]) & (z - self._read(x, y, heights) > EDGE)
        sharp = np.zeros(self._around.far.shape, bool)
        sharp[self._around.blocks(x[missed], y[missed])] = True
        found: np.ndarray = maximum_filter(sharp, 2 * int(np.ceil(FLAT * self.reach / BLOCK)) + 3)
        return found

    def _read(self, x: Array, y: Array, low: Array | None = None) -> Array:
        """The grown grid, or another, read in straight lines."""
        u, v = (x - self._x[0]) / GRID, (y - self._y[0]) / GRID
        i, j = np.clip(u.astype(int), 0, len(self._x) - 2), np.clip(v.astype(int), 0, len(self._y) - 2)
        s, t, low = u - i, v - j, self._low if low is None else low
        found: Array = (low[i, j] * (1 - t) + low[i, j + 1] * t) * (1 - s) + (
            low[i + 1, j] * (1 - t) + low[i + 1, j + 1] * t
        ) * s
        return found


def _looked(over: Face, reach: float, near: float, x: Array, y: Array) -> Array:
    """Lowest heights of a ball's centre that keeps `reach` from every point within `near` in plan (n,)."""
    start = np.searchsorted(over.x, x - near)
    planes = np.maximum(np.searchsorted(over.x, x + near) - start, 1)
    low, high = (
        np.clip(np.floor((y + side * near - over.row0) / ROW).astype(int) + (side > 0), 0, over.first.shape[1] - 1)
        for side in (-1, 1)
    )
    found = np.full(len(x), -np.inf)
    for most_planes, some in _alike(planes):
        sections = np.minimum(start[some, None] + np.arange(most_planes), len(over.x) - 1)  # (k, p)
        begin = over.first[sections, low[some, None]]
        count = (over.first[sections, high[some, None]] - begin).max(axis=1)
        for wide, ones in _alike(count):
            together = max(CELLS // (most_planes * wide), 1)
            for part in (ones[i : i + together] for i in range(0, len(ones), together)):
                at = some[part]
                found[at] = _highest(over, sections[part], begin[part], wide, reach, x[at], y[at])
    return found


def _alike(counts: np.ndarray) -> Iterator[tuple[int, np.ndarray]]:
    """Which counts are alike, to a quarter more, with the greatest of them; none of those that are nothing."""
    kind = np.where(counts > 0, np.ceil(np.log(np.maximum(counts, 1)) / np.log(1.25)), -1)
    for one in np.unique(kind):
        some = np.flatnonzero(kind == one)
        if one >= 0:
            yield int(counts[some].max()), some


def _highest(
    over: Face, sections: np.ndarray, begin: np.ndarray, wide: int, reach: float, x: Array, y: Array
) -> np.ndarray:
    """Lowest heights of a ball's centre that keeps `reach` from the points of these sections, −∞ where none is within
    reach (n,).
    """
    at = np.minimum(begin[..., None] + np.arange(wide), over.y.shape[1] - 1)
    flat = sections[..., None] * over.y.shape[1] + at
    across = over.y.take(flat)
    across -= y[:, None, None].astype(np.float32)
    np.square(across, out=across)
    along = np.square(over.x[sections] - x[:, None]).astype(np.float32)
    room = np.float32(reach**2) - along[..., None] - across
    lifts = over.z.take(flat) + np.sqrt(np.maximum(room, 0))
    lifts[room <= 0] = -np.inf
    highest: np.ndarray = lifts.reshape(len(x), -1).max(axis=1)
    return highest


@frozen(eq=False)
class Around:
    """How far around a place anything may stand high enough to lift a cutter there, by blocks (n, m) [m]."""

    far: np.ndarray
    y0: float

    def blocks(self, x: Array, y: Array) -> tuple[np.ndarray, np.ndarray]:
        """Indices of the blocks of places (n,), the nearest ones outside of them."""
        i, j = np.floor(x / BLOCK).astype(int) + MARGIN, np.floor((y - self.y0) / BLOCK).astype(int)
        return np.clip(i, 0, self.far.shape[0] - 1), np.clip(j, 0, self.far.shape[1] - 1)

    def needed(self, x: Array, y: Array) -> Array:
        """At places (n,) [m]; without end outside of the blocks."""
        i, j = np.floor(x / BLOCK).astype(int) + MARGIN, np.floor((y - self.y0) / BLOCK).astype(int)
        inside = (i >= 0) & (i < self.far.shape[0]) & (j >= 0) & (j < self.far.shape[1])
        found: Array = np.where(
            inside, self.far[np.clip(i, 0, self.far.shape[0] - 1), np.clip(j, 0, self.far.shape[1] - 1)], np.inf
        )
        return found
