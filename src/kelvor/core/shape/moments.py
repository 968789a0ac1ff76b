"""Volume, centre and second moments of a board, and of its skin, by section polygons and then along x.

Every section polygon is integrated exactly; along the board the trapezoid rule
on the stations, which lie close where the shape turns.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from kelvor.core.shape.battens import Array
from kelvor.core.shape.sections import Sections
from kelvor.core.values import frozen


@frozen(eq=False)
class SectionAreas:
    """Per station: area [m²] and its moments ∫z, ∫y², ∫z² over the section, shape (n,)."""

    area: Array
    first_z: Array
    second_y: Array
    second_z: Array


@frozen
class Solid:
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
    """Areas and moments of all sections, by Green's theorem on the half polygon, doubled."""
    y1, y2 = shape.y[:, :-1], shape.y[:, 1:]
    z1, z2 = shape.z[:, :-1], shape.z[:, 1:]
    dz = z2 - z1
    area = np.einsum("ij,ij->i", y1 + y2, dz)
    first = np.einsum("ij,ij->i", y1 * (2 * z1 + z2) + y2 * (z1 + 2 * z2), dz) / 3
    z11, z12, z22 = z1 * z1, z1 * z2, z2 * z2
    second_z = np.einsum("ij,ij->i", y1 * (3 * z11 + 2 * z12 + z22) + y2 * (z11 + 2 * z12 + 3 * z22), dz) / 6
    second_y = np.einsum("ij,ij->i", (y1 + y2) * (y1 * y1 + y2 * y2), dz) / 6
    return SectionAreas(area, first, second_y, second_z)


def solid(x: Array, areas: SectionAreas) -> Solid:
    """Moments of the whole from those of the sections at places `x` [m]."""
    h = np.diff(x)
    w = np.zeros_like(x)
    w[:-1] += h / 2
    w[1:] += h / 2
    volume = float(w @ areas.area)
    cx = float(w @ (areas.area * x)) / volume
    cz = float(w @ areas.first_z) / volume
    xx = float(w @ (areas.area * (x - cx) ** 2))
    yy = float(w @ areas.second_y)
    zz = float(w @ areas.second_z) - volume * cz * cz
    return Solid(volume, cx, cz, yy + zz, xx + zz, xx + yy)


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
    zones: dict[str, NDArray[np.int64]]


def cells(shape: Sections, every: Array | None = None) -> Cells:
    """The cells of a surface, of all stations or those named; a notch's walls are rail."""
    rows = np.arange(len(shape.x)) if every is None else every
    x, y, z = shape.x[rows], shape.y[rows], shape.z[rows]
    dx = np.diff(x)[:, None]
    # diagonals of each cell
    ay, az = y[1:, 1:] - y[:-1, :-1], z[1:, 1:] - z[:-1, :-1]
    by, bz = y[:-1, 1:] - y[1:, :-1], z[:-1, 1:] - z[1:, :-1]
    nx = ay * bz - az * by
    ny = -(az + bz) * dx
    nz = (by + ay) * dx
    area = np.sqrt(nx * nx + ny * ny + nz * nz)  # both halves: 2 × ½ |d1 × d2|
    sy, sz = y[:-1] + y[1:], z[:-1] + z[1:]
    my, mz = (sy[:, :-1] + sy[:, 1:]) / 4, (sz[:, :-1] + sz[:, 1:]) / 4
    edge, deck, top = shape.columns.edge, shape.columns.deck_edge, shape.columns.top
    zones = {"bottom": np.arange(0, edge), "rail": np.arange(edge, deck), "deck": np.arange(deck, top)}
    if area.shape[1] > top:
        area[:, top:] *= ((shape.inner[rows][:-1] + shape.inner[rows][1:]) > 0)[
            :, None
        ]  # walls only where there is a notch
        zones["rail"] = np.r_[edge:deck, top : area.shape[1]]
    return Cells(area, (x[:-1] + x[1:])[:, None] / 2, my, mz, zones)


@lru_cache(maxsize=2)
def skin_cells(shape: Sections) -> tuple[NDArray[np.int64], Cells]:
    """Every other station and the cells between them, which are close enough for a skin; kept for a board's cloth."""
    rows = np.unique(np.r_[0 : len(shape.x) : 2, len(shape.x) - 1])
    return rows, cells(shape, rows)


def shells(shape: Sections) -> dict[str, Shell]:
    """The surface by zone: bottom to the bottom edge, rail to the deck edge, deck; chopped ends count as rail."""
    _, found_cells = skin_cells(shape)
    area, mx = found_cells.area, found_cells.x[:, 0]
    first_z = area * found_cells.z
    second_z, second_y = first_z * found_cells.z, area * found_cells.y * found_cells.y
    ends = _ends(shape)
    found = {}
    for zone, columns in found_cells.zones.items():
        row = area[:, columns].sum(axis=1)
        sums = [float(row.sum()), float(row @ mx), float(row @ (mx * mx))]
        sums += [float(part[:, columns].sum()) for part in (first_z, second_y, second_z)]
        if zone == "rail":
            for a, px, py, pz in ends:
                sums = [
                    total + more
                    for total, more in zip(
                        sums, (a, a * px, a * px * px, a * pz, a * py * py, a * pz * pz), strict=True
                    )
                ]
        found[zone] = _shell(*sums)
    return found


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


def _shell(total: float, first_x: float, second_x: float, first_z: float, second_y: float, second_z: float) -> Shell:
    """A zone from the sums of its cells' areas and their moments."""
    cx, cz = first_x / total, first_z / total
    xx, zz = second_x - total * cx * cx, second_z - total * cz * cz
    return Shell(total, cx, cz, second_y + zz, xx + zz, xx + second_y)
