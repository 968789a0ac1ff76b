"""A flat board on its edge: what the bottom drags while one side of it alone is wet.

Heeled, the bottom cuts the water in a triangle: as long as the edge that bites,
and as wide as trim over heel makes it, with the water's rise along it (Wagner's
π/2, as Savitsky 1964 takes it for wedges). Slender, it lifts by the water its
widest section sets moving (Jones 1946, NACA Report 835, half of it: the water
is on one side), so it needs the more trim the further it heels.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array

RISE = np.pi / 2
"""Wetted width over that below still water."""


def edge_trim(load: Array, heel: Array, pressure: Array, length: Array) -> Array:
    """Trim at which a wetted triangle on an edge of `length` [m] carries `load` [N] at a heel, tangent.

    With the stream pressure q [Pa], load = q π/4 w² t and a width w = π/2 length · t / tan(heel).
    """
    trim: Array = np.cbrt(
        np.maximum(load, 0.0) * np.tan(heel) ** 2 / (np.maximum(pressure, 1e-9) * np.pi / 4 * (RISE * length) ** 2)
    )
    return trim


def steepened(load: Array, flat: Array, heel: Array, pressure: Array, length: Array) -> Array:
    """Slope of the lift of a bottom on its edge that carries `load` [N] with a slope `flat` when level.

    The trim of the whole bottom and that of the edge alone pass into one another: the greater of the two, without its
    corner.
    """
    level, edged = np.square(flat), np.square(edge_trim(load, heel, pressure, length))
    steep: Array = np.sqrt(np.hypot(level, edged))
    return steep
