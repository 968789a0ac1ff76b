"""How cloth lies on a board: which part of every cell of the surface a ply covers, and what the layers come to."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.findings import Finding, Severity
from kelvor.core.materials.laminate import engineering, laid
from kelvor.core.materials.table import MaterialTable
from kelvor.core.shape.battens import Array
from kelvor.core.shape.board import Board
from kelvor.core.shape.construction import Construction, Ply
from kelvor.core.shape.moments import Cells, cells, skin_cells
from kelvor.core.shape.sections import Columns, Sections
from kelvor.core.values import frozen


@frozen(eq=False)
class PlyMass:
    """One ply on the board: area covered, all layers together [m²], fibre and resin [kg]."""

    ply: Ply
    area: float
    fibre: float
    resin: float


@frozen(eq=False)
class Layup:
    """Cloth on a board as masses: the live path needs no more.

    `cells` are the surface, cell by cell (n − 1, m − 1), both halves together;
    `fibre`, `resin` areal masses on them [kg/m²]; `plies` each ply's own.
    """

    construction: Construction
    cells: Cells
    fibre: Array
    resin: Array
    plies: tuple[PlyMass, ...]


@frozen(eq=False)
class Skins:
    """The laminate as stiffness: E·t along the board, G·t [N/m] and thickness [m] on the segments of every station (n,
    m − 1).
    """

    along: Array
    shear: Array
    thickness: Array


@lru_cache(maxsize=512)
def _layer(cloth: str, angle: float, resin: str, method: str, table: MaterialTable) -> tuple[float, float, Array]:
    found = laid(table.cloth(cloth), angle, table.resin(resin), method, table)  # type: ignore[arg-type]
    return found.thickness, found.resin, found.membrane


def cloth_plan(construction: Construction, table: MaterialTable) -> list[Finding]:
    """What a construction names that the table does not have, before anything is laid."""
    found = []
    for what, key in (
        (table.stock, construction.core.stock),
        (table.resin, construction.resin),
        *((table.cloth, p.cloth) for p in construction.plies),
        *((table.stock, s.material) for s in construction.stringers),
    ):
        try:
            what(key)
        except InputError as error:
            found.append(Finding(code="material_unknown", text=str(error), severity=Severity.FATAL))
    return found


def layup(shape: Sections, construction: Construction, table: MaterialTable) -> Layup:
    """Lay a construction's cloth on a board's sections; raises InputError for materials the table has not."""
    rows, grid = skin_cells(shape)
    thin = _Thin(shape.x[rows], shape.y[rows], shape.z[rows], shape.columns)
    girth = _girth(thin)
    fibre, resin = np.zeros_like(grid.area), np.zeros_like(grid.area)
    masses = []
    for ply in construction.plies:
        dry = table.cloth(ply.cloth).areal_mass
        if not ply.on or ply.count < 1:
            masses.append(PlyMass(ply, 0.0, 0.0, 0.0))
            continue
        _, wet, _ = _layer(ply.cloth, round(ply.angle, 6), construction.resin, construction.method, table)
        cover = _on_cells(shape.board, thin, ply, girth) * ply.count
        fibre += cover * dry
        resin += cover * wet
        area = float(np.vdot(cover, grid.area))
        masses.append(PlyMass(ply, area, area * dry, area * wet))
    return Layup(construction, grid, fibre, resin, tuple(masses))


def skins(shape: Sections, construction: Construction, table: MaterialTable) -> Skins:
    """The laminate's stiffness on a board's sections."""
    thin = _Thin(shape.x, shape.y, shape.z, shape.columns)
    girth = _girth(thin)
    n, m = shape.y.shape
    parts = np.zeros((4, n, m - 1))  # A11, A12, A22, A66
    thickness = np.zeros((n, m - 1))
    for ply in construction.plies:
        if ply.on and ply.count > 0:
            t, _, stiff = _layer(ply.cloth, round(ply.angle, 6), construction.resin, construction.method, table)
            here = _on_stations(shape.board, thin, ply, girth) * ply.count
            thickness += here * t
            for k, (i, j) in enumerate(((0, 0), (0, 1), (1, 1), (2, 2))):
                parts[k] += here * stiff[i, j]
    along, shear = engineering(*parts)
    return Skins(along, shear, thickness)


@frozen(eq=False)
class _Thin:
    """Some stations of a board: places (n,), half-curves (n, m) and their columns."""

    x: Array
    y: Array
    z: Array
    columns: Columns


def _girth(shape: _Thin) -> tuple[Array, Array, Array]:
    """Distance along every section from the bottom edge outward and from the deck edge outward, at segment middles, and
    segments (n, m − 1) [m].
    """
    step = np.hypot(np.diff(shape.y, axis=1), np.diff(shape.z, axis=1))
    run = np.concatenate([np.zeros((len(step), 1)), np.cumsum(step, axis=1)], axis=1)
    middle = (run[:, :-1] + run[:, 1:]) / 2
    return middle - run[:, [shape.columns.edge]], run[:, [shape.columns.deck_edge]] - middle, step


def _across(shape: _Thin, ply: Ply, girth: tuple[Array, Array, Array]) -> Array:
    """Share of every station's segments that a ply covers across the board (n, m − 1)."""
    edge, deck, m = shape.columns.edge, shape.columns.deck_edge, shape.y.shape[1]
    covered = np.zeros((len(shape.x), m - 1))
    if ply.zone in ("bottom", "all round"):
        covered[:, :edge] = 1.0
    if ply.zone in ("rail", "all round"):
        covered[:, edge:deck] = 1.0
    if ply.zone in ("deck", "all round"):
        covered[:, deck:] = 1.0
    if ply.wrap > 0 and ply.zone in ("bottom", "deck"):
        distance = girth[0 if ply.zone == "bottom" else 1]
        rail = np.clip((ply.wrap - distance[:, edge:deck]) / np.maximum(girth[2][:, edge:deck], 1e-9) + 0.5, 0.0, 1.0)
        covered[:, edge:deck] = np.maximum(covered[:, edge:deck], rail)
    if ply.width > 0:
        low, high = np.minimum(shape.y[:, :-1], shape.y[:, 1:]), np.maximum(shape.y[:, :-1], shape.y[:, 1:])
        covered *= np.clip((ply.width / 2 - low) / np.maximum(high - low, 1e-9), 0.0, 1.0)
    return covered


def covered_girth(shape: Sections, ply: Ply) -> tuple[Array, Array]:
    """A ply laid flat: distance along the keel or deck line, and half its girth there [m]."""
    start, end = _span(shape.board, ply)
    step = np.hypot(np.diff(shape.y, axis=1), np.diff(shape.z, axis=1))
    thin = _Thin(shape.x, shape.y, shape.z, shape.columns)
    half = (_across(thin, ply, _girth(thin)) * step).sum(axis=1)
    line = shape.deck if ply.zone == "deck" else shape.keel
    run = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(shape.x), np.diff(line)))])
    x = np.unique(
        np.concatenate(
            [[max(start, 0.0)], shape.x[(shape.x > start) & (shape.x < end)], [min(end, float(shape.x[-1]))]]
        )
    )
    return np.interp(x, shape.x, run), np.interp(x, shape.x, half)


def _span(board: Board, ply: Ply) -> tuple[float, float]:
    mast = board.mast_x
    start = 0.0 if ply.start is None else ply.start.x(board.length, mast)
    end = board.length if ply.end is None else ply.end.x(board.length, mast)
    return min(start, end), max(start, end)


def _on_stations(board: Board, shape: _Thin, ply: Ply, girth: tuple[Array, Array, Array]) -> Array:
    start, end = _span(board, ply)
    inside = (shape.x >= start - 1e-9) & (shape.x <= end + 1e-9)
    return _across(shape, ply, girth) * inside[:, None]


def _on_cells(board: Board, shape: _Thin, ply: Ply, girth: tuple[Array, Array, Array]) -> Array:
    start, end = _span(board, ply)
    x = shape.x
    run = np.maximum(np.diff(x), 1e-12)
    share = np.clip((np.minimum(x[1:], end) - np.maximum(x[:-1], start)) / run, 0.0, 1.0)
    across = _across(shape, ply, girth)
    found: Array = (across[:-1] + across[1:]) / 2 * share[:, None]
    return found


def with_construction(board: Board, shape: Sections, construction: Construction, table: MaterialTable) -> Board:
    """The board built so: its skin takes the mean thickness of the laminate by zone, so that finished and core part
    rightly.
    """
    grid, laid_on = cells(shape), skins(shape, construction, table)
    thick = (laid_on.thickness[:-1] + laid_on.thickness[1:]) / 2
    skin = {}
    for zone, columns in grid.zones.items():
        area = grid.area[:, columns]
        skin[zone] = min(0.01, round(float((area * thick[:, columns]).sum() / max(float(area.sum()), 1e-9)), 5))
    stock = table.stock(construction.core.stock)
    return replace(
        board,
        construction=construction,
        skin=replace(board.skin, **skin),
        materials=replace(board.materials, core_density=max(5.0, stock.density)),
    )
