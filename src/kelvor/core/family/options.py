"""Options of a range: each size in every construction, with every layout of boxes and straps; what to stock."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.values import frozen
from kelvor.core.build.costing import Bought, board_cost, to_buy
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.levers.additions import with_fin_set
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.parts.fin_sets import Arrangement
from kelvor.core.shape.parts.fittings import FoilTracks
from kelvor.core.shape.surface.geometry import geometry

DESIGNED = "as designed"
NO_STRAPS = "no straps"
_TRACKS, _BOX = "foil tracks", "deep foil box"
_FINS: dict[str, Arrangement] = {
    "single fin": "single", "2+1 fins": "2+1", "twin fins": "twin", "three fins": "three", "four fins": "four",
}  # fmt: skip
_DEEP = {"length": 0.18, "spacing": 0.0, "depth": 0.09, "mass": 0.35}
"""A deep box for a foil: lengths [m], mass [kg] (common practice, no source)."""


def boxes_of(board: Board) -> tuple[str, ...]:
    """Layouts of boxes that may be offered beside the designed one."""
    found = [DESIGNED]
    tracks = board.fittings.tracks
    if tracks is not None:
        found.append(_BOX if tracks.spacing > 0 else _TRACKS)
    if board.fittings.fin_boxes and not board.mirrored:
        found += _FINS
    return tuple(found)


def straps_of(board: Board) -> tuple[str, ...]:
    """Layouts of straps that may be offered."""
    return (DESIGNED, NO_STRAPS) if board.fittings.straps else (DESIGNED,)


def with_option(board: Board, boxes: str, straps: str) -> Board:
    """A board with another layout of boxes and straps; raises RefusedEdit where there is none of that name."""
    fittings = board.fittings
    if straps == NO_STRAPS:
        fittings = replace(fittings, straps=())
    board = replace(board, fittings=fittings)
    if boxes == DESIGNED:
        return board
    tracks = board.fittings.tracks
    if boxes in (_TRACKS, _BOX):
        if tracks is None:
            raise RefusedEdit("This board has no foil.")
        other = FoilTracks(at=tracks.at, **_DEEP) if boxes == _BOX else FoilTracks(at=tracks.at)
        return replace(board, fittings=replace(board.fittings, tracks=other))
    if boxes not in _FINS:
        raise RefusedEdit(f"There is no layout of boxes called {boxes}.")
    return with_fin_set(board, _FINS[boxes])


@frozen
class Cell:
    """A size as one of its options: what it weighs [kg] and costs, hours, what is to buy; or why there is none."""

    construction: str
    boxes: str
    straps: str
    mass: float = 0.0
    cost: float = 0.0
    hours: float = 0.0
    needs: tuple[Bought, ...] = ()
    problem: str = ""


def options_job(
    board: Board,
    table: MaterialTable,
    constructions: Sequence[Construction],
    boxes: Sequence[str],
    straps: Sequence[str],
) -> tuple[Cell, ...]:
    """A size in all its options, constructions first."""
    found = []
    for layout in boxes:
        for row in straps:
            try:
                variant = with_option(board, layout, row)
            except RefusedEdit as error:
                found += [Cell(c.name, layout, row, problem=str(error)) for c in constructions]
                continue
            measured = geometry(variant)
            for construction in constructions:
                if isinstance(measured, tuple):
                    found.append(Cell(construction.name, layout, row, problem=measured[0].text))
                    continue
                try:
                    built = with_construction(variant, measured.shape, construction, table)
                    as_built = replace(measured, board=built)
                    mass = board_mass(as_built, table)
                    spent = board_cost(as_built, mass, table)
                    needs = to_buy(as_built, mass, table)
                except InputError as error:
                    found.append(Cell(construction.name, layout, row, problem=str(error)))
                    continue
                found.append(Cell(construction.name, layout, row, mass.total.mass, spent.total, spent.hours, needs))
    return tuple(found)
