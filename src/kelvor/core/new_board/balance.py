"""A first board laid out so that its rider balances on the foil: the mast stands where feet and weights want it."""

from __future__ import annotations

from dataclasses import replace

from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.ride.foiling import mast_needed
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS, Coefficients

CLOSE = 2e-3
"""The mast stands within this of where it is needed [m]."""
CLEAR = 0.02
"""What stays between tracks or a strap row and the board's end [m]."""


def in_balance(board: Board, brief: Brief, table: Coefficients = HANDBOOK_COEFFICIENTS) -> Board:
    """A board for a foil with its rider in balance about the mast, the mast in the middle of its tracks.

    Straps laid out from the mast are moved along, else the tracks are. A board without tracks, a brief without a foil
    and a board that does not close stay as they are.
    """
    for _ in range(6):
        tracks, measured = board.fittings.tracks, geometry(board)
        if tracks is None or board.mast_x is None or isinstance(measured, tuple) or brief.foil.mast_length <= 0:
            return board
        missed = mast_needed(measured, board_mass(measured).total, brief, table).at - board.mast_x
        if abs(missed) < CLOSE:
            return board
        board = _straps_moved(board, -missed) if _from_the_mast(board) else _tracks_moved(board, missed)
    return board


def _from_the_mast(board: Board) -> bool:
    """Whether straps are laid out from the mast and go where it goes."""
    return any(row.at.datum == "mast" for row in board.fittings.straps)


def _straps_moved(board: Board, by: float) -> Board:
    aft = min(row.at.x(board.length, board.mast_x) for row in board.fittings.straps)
    by = max(by, CLEAR - aft)
    straps = tuple(
        replace(row, at=replace(row.at, offset=round(row.at.offset + by, 4))) for row in board.fittings.straps
    )
    return replace(board, fittings=replace(board.fittings, straps=straps))


def _tracks_moved(board: Board, by: float) -> Board:
    tracks = board.fittings.tracks
    assert tracks is not None
    half = tracks.length / 2 + CLEAR
    at = min(max(tracks.at.x(board.length) + by, half), board.length - half)
    moved = replace(tracks, at=Place("tail", round(at, 4)), mast=0.0)
    return replace(board, fittings=replace(board.fittings, tracks=moved))
