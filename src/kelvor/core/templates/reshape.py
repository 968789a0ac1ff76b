"""Reshaping: where a new shape would stick out of the foam of an old board, and how best to lay it in."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections

STEP = 0.01
"""Places are compared this far apart along the board [m]."""
ACROSS = 29
RAIL_SHARE = 0.9
"""Above and below are read within this share of the half-widths: in the round of a rail what counts is beside."""
SLIDES = 25
LIFTS = 61
TOLERANCE = 3e-4
"""What sticks out less than this is not told [m]."""


@frozen(eq=False)
class HeightMap:
    """A board as heights on an even grid: places x (n,), half-places y (m,), bottom and top (n, m) [m]; NaN outside."""

    x: Array
    y: Array
    bottom: Array
    top: Array
    half_width: Array


@frozen(eq=False)
class Excess:
    """What sticks out when the new board's tail lies `slide` ahead of the old tail, and it is lifted by `lift` [m].

    At places x (n,) of the new board: `above` the old deck, `below` the old
    bottom, `beside` the old outline [m]; `volume` of all that [m³].
    """

    slide: float
    lift: float
    x: Array
    above: Array
    below: Array
    beside: Array
    volume: float

    def worst(self) -> tuple[str, float, float]:
        """Where most sticks out: "above", "below" or "beside", how much and at which place [m]; nothing reads ("", 0,
        0).
        """
        found = [
            (float(v.max()), name, float(self.x[int(np.argmax(v))]))
            for name, v in (("above", self.above), ("below", self.below), ("beside", self.beside))
        ]
        amount, name, place = max(found)
        return (name, amount, place) if amount > TOLERANCE else ("", 0.0, 0.0)


def block(shape: Sections, half: float) -> HeightMap:
    """A board on the grid; `half` is how far across the grid reaches [m]."""
    y = np.linspace(0.0, half, ACROSS)
    x = np.arange(0.0, float(shape.x[-1]) + STEP / 2, STEP)
    columns, n = shape.columns, len(shape.x)
    bottom, top = np.full((n, ACROSS), np.nan), np.full((n, ACROSS), np.nan)
    for i in range(n):
        inside = (y <= shape.half_width[i]) & (y >= shape.inner[i])
        if inside.any():
            sy, sz = shape.y[i], shape.z[i]
            bottom[i, inside] = np.interp(y[inside], sy[: columns.apex + 1], sz[: columns.apex + 1])
            upper = slice(columns.apex, columns.top + 1)
            top[i, inside] = np.interp(y[inside], sy[upper][::-1], sz[upper][::-1])
    return HeightMap(x, y, _along(x, shape.x, bottom), _along(x, shape.x, top), np.interp(x, shape.x, shape.half_width))


def _along(x: Array, at: Array, values: Array) -> Array:
    """Rows between stations; NaN where a neighbour has none, and off the ends."""
    i = np.clip(np.searchsorted(at, x, side="right") - 1, 0, len(at) - 2)
    t = ((x - at[i]) / np.maximum(at[i + 1] - at[i], 1e-9))[:, None]
    found: Array = np.where(t <= 0, values[i], np.where(t >= 1, values[i + 1], values[i] * (1 - t) + values[i + 1] * t))
    found[(x < at[0] - 1e-9) | (x > at[-1] + 1e-9)] = np.nan
    return found


def excess(new: Sections, old: Sections, slide: float | None = None) -> Excess:
    """What of `new` sticks out of `old`, laid in at `slide` [m], or where least sticks out. The board is not tilted."""
    half = max(float(new.half_width.max()), float(old.half_width.max()))
    a, b = block(new, half), block(old, half)
    spare = float(old.x[-1] - new.x[-1])
    slides = [slide] if slide is not None else np.linspace(min(0.0, spare), max(0.0, spare), SLIDES).tolist()
    laid = [_laid(a, b, s) for s in dict.fromkeys(slides)]
    return min(laid, key=lambda e: e.volume)


def _laid(new: HeightMap, old: HeightMap, slide: float) -> Excess:
    """The best lift at one slide: the volume that sticks out is convex in it, so a grid and a finer one find it."""
    under, over = (_along(new.x + slide, old.x, field) for field in (old.bottom, old.top))
    inside = np.isfinite(new.bottom)
    foam = inside & np.isfinite(under)
    cell = STEP * (new.y[1] - new.y[0]) * 2
    outside = float(np.nansum(np.where(inside & ~foam, new.top - new.bottom, 0.0))) * cell
    gaps = (under - new.bottom, new.top - over)
    middle = float(np.median((gaps[0] - gaps[1])[foam])) / 2 if foam.any() else 0.0
    below0, above0 = (np.where(foam, gap, -np.inf) for gap in gaps)
    best, reach = middle, 0.05
    for _ in range(2):
        lifts = best + np.linspace(-reach, reach, LIFTS)
        waste = [float(np.maximum(below0 - z, 0.0).sum() + np.maximum(above0 + z, 0.0).sum()) for z in lifts]
        best, reach = float(lifts[int(np.argmin(waste))]), reach / 20
    reached = np.interp(new.x + slide, old.x, old.half_width, left=0.0, right=0.0)
    flat = new.y[None, :] <= RAIL_SHARE * np.minimum(reached, new.half_width)[:, None]
    below = np.where(flat, np.maximum(below0 - best, 0.0), 0.0).max(axis=1)
    above = np.where(flat, np.maximum(above0 + best, 0.0), 0.0).max(axis=1)
    volume = outside + float(np.maximum(below0 - best, 0.0).sum() + np.maximum(above0 + best, 0.0).sum()) * cell
    beside = np.maximum(new.half_width - reached, 0.0)
    return Excess(slide, best, new.x, above, below, beside, volume)
