"""Exact clipping of section polygons by the water plane.

The plane is z = depth + pitch·x + roll·y in the board's frame. Each section is
integrated below it by Green's theorem in (y, v) with v the height above the
plane: the cap lies at v = 0 and adds nothing.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections


@frozen
class WaterPlane:
    """z = depth + pitch·x + roll·y [m, m/m, m/m] in the board's frame."""

    depth: float
    pitch: float = 0.0
    roll: float = 0.0


@frozen
class Immersion:
    """Immersed volume [m³] and its first moments ∫x, ∫y, ∫z [m⁴]."""

    volume: float
    x: float
    y: float
    z: float

    def __add__(self, other: Immersion) -> Immersion:
        return Immersion(self.volume + other.volume, self.x + other.x, self.y + other.y, self.z + other.z)


class Hull:
    """A board's sections, ready to be clipped again and again: all of them, or `every` so-manieth."""

    def __init__(self, shape: Sections, every: int = 1) -> None:
        self.shape = shape
        last = len(shape.x) - 1
        kept = np.append(np.arange(0, last, every), last)
        self._x, self._y, self._z = shape.x[kept], shape.y[kept], shape.z[kept]
        self._low, self._high = self._z.min(axis=1), self._z.max(axis=1)
        self._half = self._y.max(axis=1)
        self._whole: Immersion | None = None

    def section_immersion(self, plane: WaterPlane) -> tuple[Array, Array, Array]:
        """Per station: immersed area [m²], ∫y dA [m³], ∫v dA [m³] with v the height above the plane.

        Only sections that the water cuts are clipped.
        """
        water = plane.depth + plane.pitch * self._x
        lean = abs(plane.roll) * self._half
        whole, first_z = self._all
        under = water - lean >= self._high
        area, first_y = np.where(under, whole, 0.0), np.zeros(len(water))
        first_v = np.where(under, first_z - water * whole, 0.0)
        cut = np.flatnonzero(~under & (water + lean > self._low))
        if not len(cut):
            return area, first_y, first_v
        v, y = self._z[cut] - water[cut, None], self._y[cut]
        y1, y2 = y[:, :-1], y[:, 1:]
        if plane.roll == 0.0:
            half, _, first = _below(y1, y2, v[:, :-1], v[:, 1:], with_y=False)
            area[cut], first_v[cut] = 2 * half, 2 * first
            return area, first_y, first_v
        shift = plane.roll * y
        port, starboard = v - shift, v + shift
        # the two halves share the upright at y = 0, on which dy = 0
        a1, f1, v1 = _below(y1, y2, port[:, :-1], port[:, 1:], with_y=True)
        a2, f2, v2 = _below(y1, y2, starboard[:, :-1], starboard[:, 1:], with_y=True)
        area[cut], first_y[cut], first_v[cut] = a1 + a2, f1 - f2, v1 + v2
        return area, first_y, first_v

    @cached_property
    def _all(self) -> tuple[Array, Array]:
        """Area [m²] and ∫z dA [m³] of whole sections."""
        high = self._high[:, None]
        area, _, first_v = _below(
            self._y[:, :-1], self._y[:, 1:], self._z[:, :-1] - high, self._z[:, 1:] - high, with_y=False
        )
        return 2 * area, 2 * first_v + self._high * 2 * area

    def immersion(self, plane: WaterPlane) -> Immersion:
        """Immersed volume and moments; areas are taken to run straight between stations."""
        x = self._x
        water = plane.depth + plane.pitch * x
        if np.all(water - abs(plane.roll) * self._half >= self._high):
            if self._whole is None:
                self._whole = self._clipped(WaterPlane(float(self._high.max()) + 1.0))
            return self._whole
        if np.all(water + abs(plane.roll) * self._half <= self._low):
            return Immersion(0.0, 0.0, 0.0, 0.0)
        return self._clipped(plane)

    def _clipped(self, plane: WaterPlane) -> Immersion:
        area, first_y, first_v = self.section_immersion(plane)
        x = self._x
        h = np.diff(x)
        a, b = area[:-1], area[1:]
        volume = float(h @ (a + b)) / 2
        mx = float(h @ ((2 * a + b) * x[:-1] + (a + 2 * b) * x[1:])) / 6
        my = float(h @ (first_y[:-1] + first_y[1:])) / 2
        mv = float(h @ (first_v[:-1] + first_v[1:])) / 2
        return Immersion(volume, mx, my, mv + plane.depth * volume + plane.pitch * mx + plane.roll * my)


def _below(y1: Array, y2: Array, v1: Array, v2: Array, *, with_y: bool) -> tuple[Array, Array, Array]:
    """Area and moments of the half polygons where v < 0, by their clipped edges."""
    c1, c2 = np.minimum(v1, 0.0), np.minimum(v2, 0.0)
    rise = v1 - v2
    level = rise == 0.0  # such an edge lies on one side whole
    share = (c1 - c2 + level) / (rise + level)  # of the edge that is under water
    whole = y2 - y1
    dy = whole * share
    total = c1 + c2
    area = np.einsum("ij,ij->i", total, dy) / -2
    first_v = np.einsum("ij,ij->i", c1 * total + c2 * c2, dy) / -6
    if not with_y:
        return area, area, first_v
    ya = np.where(v1 > 0, y2 - dy, y1)  # from its end under water
    first_y = np.einsum("ij,ij->i", c1 * (3 * ya + dy) + c2 * (3 * ya + 2 * dy), dy) / -6
    return area, first_y, first_v
