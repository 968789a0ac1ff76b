"""Volume, centre and second moments of a board, and of its skin, by section polygons and then along x.

Every section polygon is integrated exactly; along the board the trapezoid rule
on the stations, which lie close where the shape turns.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.battens import trapezoid_weights
from kelvor.core.shape.surface.sections import Sections


@frozen(eq=False)
class SectionAreas:
    """Per station: area [m²] and its moments ∫z, ∫y², ∫z² over the section, shape (n,)."""

    area: Array
    first_z: Array
    second_y: Array
    second_z: Array


@frozen
class SolidMoments:
    """Volume moments at unit density.

    Attributes
    ----------
    volume:
        [m³].
    x, z:
        Centre [m]; y is 0 by symmetry.
    ixx, iyy, izz:
        Second moments about axes through the centre [m⁵].
    """

    volume: float
    x: float
    z: float
    ixx: float
    iyy: float
    izz: float


def section_areas(shape: Sections) -> SectionAreas:
    """Areas and moments of all sections, by Green's theorem on the half polygon, doubled.

    Along a side y and z run evenly about their middles, so that the integrals of y, yz, yz² and y³/3 over dz are those
    of the middles and of the squares of the half-differences.
    """
    n, m = shape.y.shape
    y, z = shape.y.ravel(), shape.z.ravel()  # in one row, twice as fast; what joins two sections is no side of either
    side = np.ones(m)
    side[-1] = 0.0

    def over(values: Array) -> Array:
        found: Array = values.reshape(n, m) @ side
        return found

    y2, z2 = np.empty_like(y), np.empty_like(z)
    y2[:-1], z2[:-1], y2[-1], z2[-1] = y[1:], z[1:], y[-1], z[-1]
    dy, dz = y2 - y, z2 - z
    y2 += y
    z2 += z
    a = y2 * dz
    az, dz2 = a * z2, dz * dz
    twist = dy * dz2
    second_z = over(az * z2) / 4 + over(twist * z2) / 6 + over(a * dz2) / 12
    return SectionAreas(over(a), over(az) / 2 + over(twist) / 6, over(a * (y2 * y2 + dy * dy)) / 12, second_z)


def solid(x: Array, areas: SectionAreas, steps: Array | None = None) -> SolidMoments:
    """Moments of the whole from those of the sections at places `x` [m]; `steps` are the trapezoid rule's weights
    where they are known.
    """
    w = trapezoid_weights(x) if steps is None else steps
    wx = w * x
    sums = np.stack([w, wx, wx * x]) @ areas.area
    volume, first, second = sums.tolist()
    cx, cz = first / volume, float(w @ areas.first_z) / volume
    xx = second - volume * cx * cx
    yy = float(w @ areas.second_y)
    zz = float(w @ areas.second_z) - volume * cz * cz
    return SolidMoments(volume, cx, cz, yy + zz, xx + zz, xx + yy)


@frozen
class Shell:
    """A zone of the surface as an even skin: area [m²], centre [m], second moments about it per areal mass [m⁴]."""

    area: float
    x: float
    z: float
    ixx: float
    iyy: float
    izz: float


@frozen(eq=False)
class Cells:
    """The surface in cells between neighbouring stations and columns, both halves together, shape (n − 1, m − 1).

    Area [m²], middle place (n − 1, 1), half-place and height [m], and which columns belong to deck, bottom and rail.
    """

    area: Array
    x: Array
    y: Array
    z: Array
    zones: dict[str, slice | NDArray[np.int64]]


def cells(shape: Sections, every: Array | None = None) -> Cells:
    """The cells of a surface, of all stations or those named; a notch's walls are rail."""
    rows = np.arange(len(shape.x)) if every is None else every
    x, m = shape.x[rows], shape.y.shape[1]
    y, z = shape.y[rows].ravel(), shape.z[rows].ravel()  # in one row, as in `section_areas`
    found = np.zeros((3, len(rows) - 1, m))
    area, my, mz = found.reshape(3, -1)[:, :-1]
    dx = np.repeat(x[1:] - x[:-1], m)[:-1]
    # diagonals of each cell: both halves together are 2 × ½ |d1 × d2|
    ay, az, by, bz = y[m + 1 :] - y[: -m - 1], z[m + 1 :] - z[: -m - 1], y[1:-m] - y[m:-1], z[1:-m] - z[m:-1]
    nx, ny, nz = ay * bz - az * by, (az + bz) * dx, (by + ay) * dx
    np.sqrt(nx * nx + ny * ny + nz * nz, out=area)
    for middle, line in ((my, y), (mz, z)):
        along = line[m:] + line[:-m]
        np.multiply(along[1:] + along[:-1], 0.25, out=middle)
    area, my, mz = found[:, :, :-1]
    edge, deck, top = shape.columns.edge, shape.columns.deck_edge, shape.columns.top
    zones: dict[str, slice | NDArray[np.int64]]
    zones = {"bottom": np.s_[:edge], "rail": np.s_[edge:deck], "deck": np.s_[deck:top]}
    if area.shape[1] > top:
        inner = shape.inner[rows]
        area[:, top:] *= (inner[:-1] + inner[1:] > 0)[:, None]  # walls only where there is a notch
        zones["rail"] = np.r_[edge:deck, top : area.shape[1]]
    return Cells(area, (x[:-1] + x[1:])[:, None] / 2, my, mz, zones)


@lru_cache(maxsize=2)
def skin_cells(shape: Sections) -> tuple[NDArray[np.int64], Cells]:
    """Every other station and the cells between them, which are close enough for a skin; kept for a board's cloth."""
    last = len(shape.x) - 1
    rows = np.append(np.arange(0, last, 2), last)
    return rows, cells(shape, rows)


@lru_cache(maxsize=2)
def skin_moments(shape: Sections) -> dict[str, Array]:
    """By zone, the areas of its cells times 1, x, z, x², y², z² (6, cells): what an even or uneven skin comes to."""
    _, grid = skin_cells(shape)
    x, y, z = grid.x, grid.y, grid.z
    found = np.empty((6, *grid.area.shape))
    found[0] = grid.area
    for to, by, times in ((1, 0, x), (2, 0, z), (3, 1, x), (4, 0, y * y), (5, 2, z)):
        np.multiply(found[by], times, out=found[to])
    return {zone: found[:, :, columns].reshape(6, -1) for zone, columns in grid.zones.items()}


def surface_zones(shape: Sections) -> dict[str, Shell]:
    """The surface by zone: bottom to the bottom edge, rail to the deck edge, deck; chopped ends count as rail."""
    sums = {zone: moments.sum(axis=1) for zone, moments in skin_moments(shape).items()}
    for a, x, y, z in _ends(shape):
        sums["rail"] += a * np.array([1.0, x, z, x * x, y * y, z * z])
    return {zone: even_shell(found) for zone, found in sums.items()}


def _ends(shape: Sections) -> list[tuple[float, float, float, float]]:
    """Chopped ends as point areas: area [m²], place, half-spread and height [m]."""
    ends = []
    for i in (0, -1):
        if shape.half_width[i] > 1e-6:
            y, dz = shape.y[i], np.diff(shape.z[i])
            area = float(np.sum((y[:-1] + y[1:]) * dz))
            if area > 0:
                middle = float(shape.keel[i] + shape.deck[i]) / 2
                ends.append((area, float(shape.x[i]), float(shape.half_width[i]) / 3**0.5, middle))
    return ends


def even_shell(sums: Array) -> Shell:
    """A zone from the sums of its cells' areas times 1, x, z, x², y², z² (6,)."""
    total, first_x, first_z, second_x, second_y, second_z = sums.tolist()
    if total <= 0:
        return Shell(0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    cx, cz = first_x / total, first_z / total
    xx, zz = second_x - total * cx * cx, second_z - total * cz * cz
    return Shell(total, cx, cz, second_y + zz, xx + zz, xx + second_y)
