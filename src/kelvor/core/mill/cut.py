"""The simulated cut: a block of foam as a field of heights, lowered by a cutter wherever its program takes it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Cutter
from kelvor.core.base.values import frozen
from kelvor.core.mill.controller import CutterMoves

CELL = 0.002
"""Pitch of the field [m]."""
ALONG, FINE = 0.002, 0.001
"""Between two places along its way at which the cutter cuts the field, and at which it is told where it was [m]."""
TOGETHER = 4000
"""Places cut at a time."""
SLIVER = 0.3
"""Share of a cutter's diameter: foam that stands thinner before it is no load (common practice, no source)."""
AGAIN = 0.0005
"""More than this than before is looked at closely [m]."""
FEW = 32
"""Places that are looked at together where more is taken than before: each sees what those before it took."""
CORNER = 0.00002
"""How far a mill may leave its corners, which tells how fast it takes them [m]."""


@dataclass(slots=True, eq=False)
class CutBlock:
    """A block on the table: its corner (x, y) [m], heights (n, m) over the table, places along X and Y [m]."""

    corner: tuple[float, float]
    heights: Array

    @classmethod
    def whole(cls, ends: tuple[float, float], half: float, height: float) -> CutBlock:
        """A block that nothing has cut."""
        cells = int(np.ceil((ends[1] - ends[0]) / CELL)) + 1, int(np.ceil(2 * half / CELL)) + 1
        return cls((ends[0], -half), np.full(cells, height, np.float32))

    def under(self, x: Array, y: Array) -> Array:
        """Its heights at places (…) [m], read in straight lines."""
        u = np.clip((np.asarray(x) - self.corner[0]) / CELL, 0, self.heights.shape[0] - 1.001)
        v = np.clip((np.asarray(y) - self.corner[1]) / CELL, 0, self.heights.shape[1] - 1.001)
        i, j = u.astype(int), v.astype(int)
        s, t, h = u - i, v - j, self.heights
        found: Array = (h[i, j] * (1 - t) + h[i, j + 1] * t) * (1 - s) + (
            h[i + 1, j] * (1 - t) + h[i + 1, j + 1] * t
        ) * s
        return found


@frozen
class Took:
    """The most a program took at once: how deep and how wide [m], and where its tip was (x, y, z) [m]."""

    depth: float
    width: float
    place: tuple[float, float, float]


def way(moves: CutterMoves, along: float = FINE) -> tuple[Array, np.ndarray]:
    """Places of the tip (n, 3) [m] along everything a program cuts, no further apart than `along`, and which stretch
    between two rapid moves each is of (n,).
    """
    begins, ends, stretch = moves.cutting
    long = np.linalg.norm(ends - begins, axis=1)
    parts = np.maximum(np.ceil(long / along).astype(int), 1)
    i = np.repeat(np.arange(len(parts)), parts)
    t = (np.arange(len(i)) - np.repeat(np.cumsum(parts) - parts, parts) + 1) / parts[i]
    found: Array = begins[i] + (ends[i] - begins[i]) * t[:, None]
    return found, stretch[i]


def cut(
    block: CutBlock,
    moves: CutterMoves,
    cutter: Cutter,
    nut: float,
    name: str = "The program",
    told: Callable[[float], None] | None = None,
) -> Took:
    """Run a program through a block; the most it took at once.

    Parameters
    ----------
    nut:
        Diameter of the collet nut [m].
    told:
        Hears which share is done.

    Raises
    ------
    InputError
        When the shank or the collet nut would run into what is not cut.
    """
    places, stretch = way(moves, ALONG)
    # what a stretch cuts is gone before the next begins
    stops = np.unique(np.concatenate([np.flatnonzero(np.diff(stretch)) + 1, [len(places)]]))
    cells = int(np.ceil(cutter.radius / CELL))
    reach = np.arange(-cells, cells + 1)
    i0, j0 = (np.floor((places[:, k] - block.corner[k]) / CELL + 0.5).astype(int) for k in (0, 1))
    flat, (n, m) = block.heights.ravel(), block.heights.shape
    inside = cutter.radius**2 - max(cutter.radius - CELL, 0.0) ** 2  # the rim of the disc is rubbed, not run into
    took = Took(0.0, 0.0, (0.0, 0.0, 0.0))
    waiting = list(_parts(stops))[::-1]
    while waiting:
        start, end = waiting.pop()
        part = slice(start, end)
        i, j = i0[part, None, None] + reach[:, None], j0[part, None, None] + reach
        dx = (i * CELL + block.corner[0] - places[part, 0, None, None]).astype(np.float32)
        dy = (j * CELL + block.corner[1] - places[part, 1, None, None]).astype(np.float32)
        room = np.float32(cutter.radius**2) - dx**2 - dy**2
        lifts = (
            np.float32(cutter.radius) - np.sqrt(np.maximum(room, 0)) if cutter.kind == "ball" else np.zeros_like(room)
        )
        lifts = lifts + places[part, 2, None, None].astype(np.float32)
        hits = (room >= 0) & (i >= 0) & (i < n) & (j >= 0) & (j < m)
        where = (i * m + j)[hits]
        deep = np.where(room >= inside, flat[np.where(hits, i * m + j, 0)] - places[part, 2, None, None], 0.0) * hits
        stands = deep.max(axis=(1, 2))
        more = np.flatnonzero(stands > took.depth + AGAIN)
        depth, deepest = _at_once(deep[more], cutter) if len(more) else (0.0, 0)
        if depth > took.depth + AGAIN:
            if end - start > FEW:
                middle = (start + end) // 2
                waiting += [(middle, end), (start, middle)]
                continue
            x, y, z = places[start + more[deepest]].tolist()
            took = Took(depth, _wide(deep[more[deepest]], depth), (x, y, z))
        _refuse_shank(places[part], stands, cutter, name)
        np.minimum.at(flat, where, lifts[hits])
        _refuse_nut(block, places[part], cutter, nut, name)
        if told is not None:
            told(end / len(places))
    return took


def _at_once(deep: Array, cutter: Cutter) -> tuple[float, int]:
    """The deepest that stands over a tip at some places (n, d, d) [m], over a band as wide as `SLIVER` of the cutter
    either way: what is thinner breaks off. And at which place.
    """
    band = min(max(2, round(SLIVER * cutter.diameter / CELL)), deep.shape[1])
    either = [np.partition(deep.max(axis=axis), -band, axis=1)[:, -band] for axis in (1, 2)]
    found = np.minimum(*either)
    i = int(np.argmax(found))
    return float(found[i]), i


def _wide(deep: Array, depth: float) -> float:
    """How wide a cut is that stands so deep over the tip, by cells (d, d) [m]: across, where it is widest."""
    full = deep >= depth / 2
    return CELL * float(max(full.sum(axis=0).max(), full.sum(axis=1).max()))


def _parts(stops: np.ndarray) -> Iterator[tuple[int, int]]:
    """Stretches, the long ones in parts."""
    begin = 0
    for stop in stops.tolist():
        for start in range(begin, stop, TOGETHER):
            yield start, min(start + TOGETHER, stop)
        begin = stop


def _refuse_shank(places: Array, stands: Array, cutter: Cutter, name: str) -> None:
    """The shank does not cut: what `stands` higher over the tip than the flutes is in its way."""
    i = int(np.argmax(stands))
    if stands[i] > cutter.cuts + 1e-6:
        raise _in_the_way("the shank", places[i], float(stands[i]), cutter.cuts, cutter, name)


def _refuse_nut(block: CutBlock, places: Array, cutter: Cutter, nut: float, name: str) -> None:
    """The collet nut runs over everything beside the cutter: looked at in eight places of its rim."""
    for angle in np.linspace(0.0, 2 * np.pi, 8, endpoint=False):
        x, y = places[:, 0] + nut / 2 * np.cos(angle), places[:, 1] + nut / 2 * np.sin(angle)
        u, v = (x - block.corner[0]) / CELL, (y - block.corner[1]) / CELL
        inside = (u >= 0) & (v >= 0) & (u <= block.heights.shape[0] - 1) & (v <= block.heights.shape[1] - 1)
        stands = np.where(inside, block.under(x, y), 0.0) - places[:, 2]
        if float(stands.max()) > cutter.sticks_out + 1e-6:
            i = int(np.argmax(stands))
            raise _in_the_way("the collet nut", places[i], float(stands[i]), cutter.sticks_out, cutter, name)


def _in_the_way(what: str, place: Array, deep: float, limit: float, cutter: Cutter, name: str) -> InputError:
    x, y, z = place * 1000
    return InputError(
        f"{what} would run into foam {deep * 1000:.0f} mm over the tip",
        where=f"{name}, X {x:.1f} Y {y:.1f} Z {z:.1f}",
        accepts=f"The {cutter.words} reaches {limit * 1000:.0f} mm: a longer one, thinner stock or shallower layers",
    )


def cutting_seconds(moves: CutterMoves, rapid: float, acceleration: float) -> float:
    """How long a program takes [s]: each move speeds up and slows down, corners as fast as `CORNER` lets them.

    Corner speed √(a δ s/(1 − s)), s the sine of half the corner (common practice of controllers, no source).
    """
    begins = np.concatenate([moves.ends[:1], moves.ends[:-1]])
    ways = moves.ends - begins
    long = np.linalg.norm(ways, axis=1)
    there = long > 1e-9
    ways, long = ways[there] / long[there, None], long[there]
    most = np.where(moves.rapid[there], rapid, np.minimum(moves.feed[there], rapid))
    turn = np.einsum("ij,ij->i", ways[:-1], ways[1:])
    sine = np.sqrt(np.clip((1 + turn) / 2, 0.0, 1.0))  # of half the angle between the two moves
    corner = np.sqrt(acceleration * CORNER * sine / np.maximum(1 - sine, 1e-9))
    speed = np.concatenate([[0.0], np.minimum(np.minimum(corner, most[:-1]), most[1:]), [0.0]])
    for i in range(len(long)):
        speed[i + 1] = min(speed[i + 1], np.sqrt(speed[i] ** 2 + 2 * acceleration * long[i]))
    for i in range(len(long) - 1, -1, -1):
        speed[i] = min(speed[i], np.sqrt(speed[i + 1] ** 2 + 2 * acceleration * long[i]))
    v0, v1 = speed[:-1], speed[1:]
    top = np.minimum(most, np.sqrt((v0**2 + v1**2) / 2 + acceleration * long))
    ramps = (2 * top - v0 - v1) / acceleration
    level = np.maximum(long - (2 * top**2 - v0**2 - v1**2) / (2 * acceleration), 0.0)
    return float(np.sum(ramps + level / top))
