"""A bottom that drops on the water: how fast it is wetted, and the momentum the water takes.

Wagner 1932, ZAMM 12, 193: a section f(y) that drops by d is wet to the half-width c where d = (2/π) ∫ f(y)/√(c² − y²)
dy from 0 to c, the water's pile-up in it. The water under it then moves as half a cylinder of that width, and the force
is the growth of its momentum (von Karman 1929, NACA TN 321). Strips of a bottom come down one after the other, as
rocker puts them.

What lies between lower places is closed by the air in it, so a hollow strikes as a flat at the level of its lips, and
only a ridge that stands out below them parts the water (judgement). Trapped air lets a flat down as a V of some degrees
would (judgement); it is added to every slope as the root of squares. Use as a ratio between boards: legs, time, the
board's weight and moving water are not in it.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method

METHOD = Method(
    "first touch: the worst of the blow to the bottom under the feet as it drops, strip by strip along, its sections "
    "across",
    "Wagner 1932; von Karman 1929 (NACA TN 321)",
    "flat water; a hollow is closed by its air; legs, time and flex are not in it",
)
CHOP = Method(
    "first touch of the forward bottom's sections, against a wedge of 45°",
    "Wagner 1932; von Karman 1929 (NACA TN 321)",
    "small chop met bottom first; speed is not in it",
)
SOUND = 1480.0
"""Speed of sound in water [m/s]."""
ACROSS = 48
"""Places across at which a section is read."""
WIDTHS = 96
"""Wetted widths at which a section's way down is read."""
STEPS = 240
"""Steps of a way down."""


def closed_by_air(heights: Array) -> Array:
    """Heights (n, m) of sections from the centre out, over the lowest of each [m], what lies inside lower places closed
    at their level.
    """
    struck: Array = np.minimum.accumulate(heights[:, ::-1], axis=1)[:, ::-1]
    return struck - struck[:, :1]


def _kernel(widths: Array, places: Array) -> Array:
    """Way down to each wetted half-width (k,) by a bend of one at each place (m,), both as shares of the half-width:
    Wagner's integral of (y − place) from the place on (k, m).
    """
    c, y = widths[:, None], np.minimum(places[None], widths[:, None])
    down: Array = 2 / np.pi * (np.sqrt(np.maximum(c**2 - y**2, 0.0)) - y * np.arccos(y / c))
    return down


_PLACES = np.linspace(0.0, 1.0, ACROSS + 1)
_WIDTHS = np.linspace(0.0, 1.0, WIDTHS + 1)[1:]
_BENDS = _kernel(_WIDTHS, _PLACES[:-1])


def ways_down(heights: Array, half: Array, cushion: float) -> Array:
    """How far sections have dropped [m] (n, k) when they are wet to each share of `_WIDTHS`.

    Heights (n, `ACROSS` + 1) lie evenly from the centre to the half-width (n,) [m]; `cushion` is the V that trapped air
    is worth [rad].
    """
    slopes = np.diff(closed_by_air(heights), axis=1) * ACROSS / half[:, None]
    slopes = np.hypot(slopes, np.tan(cushion))
    bends = np.diff(slopes, axis=1, prepend=0.0)
    down: Array = half[:, None] * (bends @ _BENDS.T)
    # a slope that falls further out lets the water jump ahead
    return np.maximum.accumulate(down, axis=1)


def _growths(heights: Array, half: Array, starts: Array, cushion: float, told: float) -> Array:
    """Squares of the wetted half-widths of sections (n,) that grow within each `told` of the way down [m] (n, g), each
    section from where it `starts` (n,) [m].
    """
    down, wet = ways_down(heights, half, cushion), half[:, None] * _WIDTHS
    grid = np.linspace(-told, float((down[:, -1] + starts).max()), STEPS)
    grown = []
    for start, way, width in zip(starts, down, wet, strict=True):
        ways, squares = np.append(0.0, way) + start, np.append(0.0, width**2)
        grown.append(np.interp(grid + told, ways, squares) - np.interp(grid, ways, squares))
    return np.array(grown)


def touch(heights: Array, half: Array, along: Array, low: Array, cushion: float, told: float) -> float:
    """Mean pressure in the worst of a bottom's way down, over density times the square of the speed.

    Parameters
    ----------
    heights, half:
        Of sections (n, `ACROSS` + 1) from the centre out [m], and their half-widths (n,) [m].
    along, low:
        Their places, and how high their lowest points lie (n,) [m].
    told:
        Way down over which the blow is told [m]: less than a bottom takes to get wet.
    """
    grown = _growths(heights, half, low - low.min(), cushion, told)
    # half a cylinder of water under each strip
    momentum = np.pi / 2 * np.trapezoid(grown, along, axis=0)
    return float(np.max(momentum)) / told / float(np.trapezoid(2 * half, along))


def against_wedge(heights: Array, half: Array, cushion: float, told: float) -> Array:
    """What each section (n, `ACROSS` + 1) takes alone in the worst of its way down, over a wedge (n,)."""
    at_once = np.zeros(len(half))
    wedge = np.linspace(0.0, 1.0, ACROSS + 1) * half[:, None]
    struck, ruled = (_growths(one, half, at_once, cushion, told).max(axis=1) for one in (heights, wedge))
    ratio: Array = struck / ruled
    return ratio


def acoustic(speed: float, density: float) -> float:
    """Pressure no entry passes [Pa]."""
    return density * SOUND * speed
