"""How cloth lies on a board: which part of every cell of the surface a ply covers, and what the layers come to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.findings import Finding, Severity
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.laminate import engineering, laid
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import clipped
from kelvor.core.shape.parts.construction import Coat, Construction, Ply
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.moments import Cells, Shell, cells, skin_cells
from kelvor.core.shape.surface.sections import Columns, Sections


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


@frozen(eq=False)
class _Layer:
    """One layer of a ply, anywhere: thickness [m], resin and dry cloth [kg/m²], stiffness in its plane (3, 3) [N/m]."""

    thickness: float
    resin: float
    fibre: float
    membrane: Array


@lru_cache(maxsize=64)
def _layers(construction: Construction, table: MaterialTable) -> tuple[tuple[Ply, _Layer], ...]:
    """The plies of a construction that are laid, each with one of its layers."""
    return tuple(
        (ply, _layer(ply.cloth, round(ply.angle, 6), construction.resin, construction.method, table))
        for ply in construction.plies
        if _is_laid(ply)
    )


@lru_cache(maxsize=512)
def _layer(cloth: str, angle: float, resin: str, method: str, table: MaterialTable) -> _Layer:
    found = laid(table.cloth(cloth), angle, table.resin(resin), method, table)  # type: ignore[arg-type]
    return _Layer(found.thickness, found.resin, table.cloth(cloth).areal_mass, found.membrane)


def _is_laid(ply: Ply) -> bool:
    return ply.on and ply.count > 0


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
    layers = _layers(construction, table)
    cover = _on_cells(shape.board, thin, [ply for ply, _ in layers]).reshape(len(layers), grid.area.size)
    areal = np.array([[one.fibre, one.resin] for _, one in layers]).reshape(-1, 2)
    fibre, resin = (areal.T @ cover).reshape(2, *grid.area.shape)
    areas = (cover @ grid.area.ravel()).tolist()
    by_ply = {ply: (area, area * one.fibre, area * one.resin) for (ply, one), area in zip(layers, areas, strict=True)}
    plies = [PlyMass(ply, *by_ply.get(ply, (0.0, 0.0, 0.0))) for ply in construction.plies]
    return Layup(construction, grid, fibre, resin, tuple(plies))


def coated(measured: Geometry, coat: Coat) -> list[Shell]:
    """The zones of the surface that a coat lies on."""
    shells = measured.shells
    return list(shells.values()) if coat.zone == "all round" else [shells[coat.zone]]


def skins(shape: Sections, construction: Construction, table: MaterialTable) -> Skins:
    """The laminate's stiffness on a board's sections."""
    thin = _Thin(shape.x, shape.y, shape.z, shape.columns)
    n, m = shape.y.shape
    parts = np.zeros((4, n, m - 1))  # A11, A12, A22, A66
    thickness = np.zeros((n, m - 1))
    layers = _layers(construction, table)
    cover = _on_stations(shape.board, thin, [ply for ply, _ in layers])
    for here, (_, layer) in zip(cover, layers, strict=True):
        thickness += here * layer.thickness
        for k, (i, j) in enumerate(((0, 0), (0, 1), (1, 1), (2, 2))):
            parts[k] += here * layer.membrane[i, j]
    along, shear = engineering(*parts)
    return Skins(along, shear, thickness)


@frozen(eq=False)
class _Thin:
    """Some stations of a board: places (n,), half-curves (n, m) and their columns."""

    x: Array
    y: Array
    z: Array
    columns: Columns


def _girth(shape: _Thin, columns: slice) -> Array:
    """Lengths of some segments of every section (n, k) [m]."""
    y, z = shape.y[:, columns], shape.z[:, columns]
    dy, dz = y[:, 1:] - y[:, :-1], z[:, 1:] - z[:, :-1]
    found: Array = np.sqrt(dy * dy + dz * dz)
    return found


def _across(shape: _Thin, plies: Sequence[Ply]) -> Array:
    """Share of every station's segments that each ply covers across the board, one layer of it (p, n, m − 1)."""
    edge, deck = shape.columns.edge, shape.columns.deck_edge
    covered = np.zeros((len(plies), len(shape.x), shape.y.shape[1] - 1))
    zones = {"bottom": np.s_[:edge], "rail": np.s_[edge:deck], "deck": np.s_[deck:], "all round": np.s_[:]}
    for ply, share in zip(plies, covered, strict=True):
        share[:, zones[ply.zone]] = 1.0
    wrapped = [i for i, ply in enumerate(plies) if ply.wrap > 0 and ply.zone in ("bottom", "deck")]
    if wrapped:  # over the rail from the bottom's edge, or from the deck's
        step = _girth(shape, np.s_[edge : deck + 1])
        run = np.cumsum(step, axis=1)
        middle, rail = run - step / 2, np.maximum(step, 1e-9)
        out = {"bottom": middle / rail - 0.5, "deck": (run[:, -1:] - middle) / rail - 0.5}
        for i in wrapped:
            covered[i, :, edge:deck] = clipped(plies[i].wrap / rail - out[plies[i].zone], 0.0, 1.0)
    for ply, share in zip(plies, covered, strict=True):
        if ply.width > 0:
            part = zones[ply.zone]
            y1, y2 = shape.y[:, :-1][:, part], shape.y[:, 1:][:, part]
            low = np.minimum(y1, y2)
            share[:, part] *= clipped((ply.width / 2 - low) / np.maximum(np.maximum(y1, y2) - low, 1e-9), 0.0, 1.0)
    return covered


def covered_girth(shape: Sections, ply: Ply) -> tuple[Array, Array]:
    """A ply laid flat: distance along the keel or deck line, and half its girth there [m]."""
    start, end = _span(shape.board, ply)
    thin = _Thin(shape.x, shape.y, shape.z, shape.columns)
    top = shape.columns.top  # the wall of a notch closes the half-curve and is no part of the deck
    half = (_across(thin, [ply])[0][:, :top] * _girth(thin, np.s_[: top + 1])).sum(axis=1)
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


def _on_stations(board: Board, shape: _Thin, plies: Sequence[Ply]) -> Array:
    """Layers of each ply on every station's segments (p, n, m − 1)."""
    start, end = _spans(board, plies)
    inside = (shape.x >= start - 1e-9) & (shape.x <= end + 1e-9)
    return _across(shape, plies) * (inside * _counts(plies))[:, :, None]


def _on_cells(board: Board, shape: _Thin, plies: Sequence[Ply]) -> Array:
    """Layers of each ply on every cell (p, n − 1, m − 1)."""
    start, end = _spans(board, plies)
    x = shape.x
    share = (np.minimum(x[1:], end) - np.maximum(x[:-1], start)) / np.maximum(x[1:] - x[:-1], 1e-12)
    half = clipped(share, 0.0, 1.0) * (_counts(plies) / 2)
    across = _across(shape, plies)
    found = across[:, :-1] + across[:, 1:]
    found *= half[:, :, None]
    return found


def _spans(board: Board, plies: Sequence[Ply]) -> tuple[Array, Array]:
    """Where plies start and end along the board, each (p, 1) [m]."""
    start, end = np.array([_span(board, ply) for ply in plies]).reshape(-1, 2).T
    return start[:, None], end[:, None]


def _counts(plies: Sequence[Ply]) -> Array:
    return np.array([float(ply.count) for ply in plies]).reshape(-1, 1)


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
