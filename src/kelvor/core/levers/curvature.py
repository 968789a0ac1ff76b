"""Pulling on the curvature of a line: curve taken out here appears there, because ends and rulers stay."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.levers.least_change import energy, smallest
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Structure
from kelvor.core.shape.curves.outline import closed_batten, half_width_rows
from kelvor.core.shape.edits.weights import batten_of, with_batten

PROBE = 0.012
"""Half the base on which the outline's curvature is pulled [m]."""
FURTHEST = 0.08
"""No weight may move further than this for a pull on the curvature [m]."""


def with_curvature(board: Board, line: str, x: float, change: float) -> Board:
    """A batten ("outline", "rocker" or "thickness") with its second derivative at `x` changed by `change` [1/m].

    End weights, weights at rulers and those in locked zones stay, so the curve
    that is taken out comes back beside it.

    Raises
    ------
    RefusedEdit
        When nothing that may move bends the line there, or it would move too far.
    """
    batten = batten_of(board, line)
    weights = batten.weights
    n = len(weights)
    free = np.array(
        [
            0 < i < n - 1 or (line == "outline" and w.x > 1e-6 and w.x < board.length - 1e-6)
            for i, w in enumerate(weights)
        ]
    )
    for i, w in enumerate(weights):
        ruled = w.ruler is not None or (i > 0 and weights[i - 1].ruler is not None)
        locked = any(z.start - 1e-9 <= w.x <= z.end + 1e-9 for z in board.locks.zones)
        free[i] = free[i] and not ruled and not locked
    if not free.any():
        raise RefusedEdit("Nothing on that line may move: ends, rulers and locked zones stay.")
    structure, row, first = _row(board, line, x)
    padded = np.zeros((1, len(structure.places)))
    padded[0, first : first + n] = row
    moving = np.zeros(len(structure.places), bool)
    moving[first : first + n] = free
    delta = smallest(energy(structure), padded, np.array([change]), moving)[first : first + n]
    if abs(float(row @ delta) - change) > 1e-3 * abs(change) + 1e-9:
        raise RefusedEdit("A ruler or a lock keeps the curve here as it is.")
    if float(np.max(np.abs(delta))) > FURTHEST:
        raise RefusedEdit("That would move the line further than 8 cm. Add a weight nearby to bend it there alone.")
    return with_batten(board, line, replace(batten.with_values(batten.values + delta)))


def _row(board: Board, line: str, x: float) -> tuple[Structure, Array, int]:
    """The structure in [0, 1], the row of the second derivative at x, and where the batten's own weights begin."""
    batten = batten_of(board, line)
    if line == "outline":
        structure, _ = closed_batten(board.outline, board.length)
        rows = half_width_rows(board.outline, board.length, np.array([x - PROBE, x, x + PROBE]))
        found: Array = (rows[0] - 2 * rows[1] + rows[2]) / PROBE**2
        return structure, found, 1 if board.outline.tail_closed else 0
    own, length = batten.structure(), board.length
    rulers = tuple(
        None if r is None else replace(r, blend_aft=r.blend_aft / length, blend_fore=r.blend_fore / length)
        for r in own.rulers
    )
    scaled = Structure(tuple(p / length for p in own.places), own.knuckles, rulers, own.start, own.end)
    return scaled, own.rows(np.array([x]), 2)[0], 0
