"""A flat board on its edge: what the bottom drags while one side of it alone is wet.

Heeled, the bottom cuts the water in a triangle: as long as the edge that bites,
and as wide as trim over heel makes it, with the water's rise along it (Wagner's
π/2, as Savitsky 1964 takes it for wedges). Slender, it lifts by the water its
widest section sets moving: with both its edges free a quarter of π w² (Jones
1946, NACA Report 835, half of it: the water is on one side), with the water
walled in beside it half of π w² (Wagner 1932: the momentum of half a wedge).
Real edges lie between: the mean of the two trims is taken. So it needs the
more trim the further it heels.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array

RISE = np.pi / 2
"""Wetted width over that below still water."""


FREE, WALLED = np.pi / 4, np.pi / 2
"""Lift per stream pressure, trim and width squared of an edge free beside it, and of one with the water walled in."""
MEAN = (FREE ** (-1 / 3) + WALLED ** (-1 / 3)) / 2
"""Mean of the two trims, each by the cube root of its lift; they lie 11.5 % off it."""


def edge_trim(load: Array, heel: Array, pressure: Array, length: Array) -> Array:
    """Trim at which a wetted triangle on an edge of `length` [m] carries `load` [N] at a heel, tangent.

    With the stream pressure q [Pa], load = q π/4 w² t (free) to q π/2 w² t (walled) and a width w = π/2 length · t /
    tan(heel); the mean of both.
    """
    trim: Array = MEAN * np.cbrt(
        np.maximum(load, 0.0) * np.tan(heel) ** 2 / (np.maximum(pressure, 1e-9) * (RISE * length) ** 2)
    )
    return trim


def steepened(load: Array, flat: Array, heel: Array, pressure: Array, length: Array) -> Array:
    """Slope of the lift of a bottom on its edge that carries `load` [N] with a slope `flat` when level.

    The trim of the whole bottom and that of the edge alone pass into one another: the greater of the two, without its
    corner.
    """
    # the mean of the sixth power: at most 12 % above the greater, as much as the two trims lie off their mean
    edged = edge_trim(load, heel, pressure, length)
    steep: Array = np.cbrt(np.hypot(flat * flat * flat, edged * edged * edged))
    return steep
