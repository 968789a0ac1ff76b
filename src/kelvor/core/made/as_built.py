"""The shape as built: the design bent by least squares through what was read off a made board.

Outline, rocker and thickness each take the change of their weights that meets
the readings within what their tools read, and of all that meet them as well the
one that bends least: a batten sprung over the differences.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.levers.least_change import energy, over_unit
from kelvor.core.made.sheet import BAGGED, KINDS, lines_to_measure
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Structure
from kelvor.core.shape.curves.outline import closed_batten, half_width_rows
from kelvor.core.shape.surface.geometry import Geometry

LEAST = 3
"""Stations that must be read before a line is bent through them."""
LITTLE = 1e-4
"""Weight of bending beside the readings: enough to decide only where they leave it open."""
SHAPED = {"width": "outline", "rocker": "rocker", "thickness": "thickness"}
"""Kinds of measure that shape a line, and which."""


@frozen
class AsBuilt:
    """A board as it was measured.

    Attributes
    ----------
    board:
        The design with its lines through the readings.
    used, left:
        How many stations each line was bent through, and the lines that stay as designed for want of readings.
    """

    board: Board
    used: dict[str, int]
    left: tuple[str, ...]


def as_built(measured: Geometry, readings: Mapping[str, Mapping[str, float]]) -> AsBuilt:
    """A design as one board of it was measured; `readings` by measure of its sheet and side, in SI.

    Raises
    ------
    InputError
        When no line was read at three stations.
    """
    board = measured.board
    off = {kind: _differences(measured, readings, kind) for kind in SHAPED}
    used = {SHAPED[kind]: len(places) for kind, (places, _) in off.items() if len(places) >= LEAST}
    if not used:
        raise InputError(
            "too little was read to tell a shape", where="Measure sheet", accepts="Read a line at three stations"
        )
    if "outline" in used:
        board = replace(board, outline=replace(board.outline, batten=_outline(board, *off["width"])))
    if "rocker" in used:
        board = replace(board, rocker=_bent(board.rocker, board.length, "rocker", *off["rocker"]))
    if "thickness" in used:
        board = replace(board, thickness=_bent(board.thickness, board.length, "thickness", *off["thickness"]))
    return AsBuilt(board, used, tuple(line for line in SHAPED.values() if line not in used))


def _differences(measured: Geometry, readings: Mapping[str, Mapping[str, float]], kind: str) -> tuple[Array, Array]:
    """Places [m] where a kind of measure was read, and by how much it was off [m]: the mean of both sides, after the
    bag where it was read then.
    """
    places, by = [], []
    for measure in lines_to_measure(measured):
        read = readings.get(measure.key, {})
        if measure.kind != kind or not read:
            continue
        if measure.sides == BAGGED:
            value = next(read[when] for when in reversed(BAGGED) if when in read)
        else:
            value = float(np.mean(list(read.values())))
        places.append(measure.place)
        by.append(value - measure.should)
    return np.array(places), np.array(by)


def _outline(board: Board, places: Array, by: Array) -> Batten:
    structure, _ = closed_batten(board.outline, board.length)
    batten, first = board.outline.batten, 1 if board.outline.tail_closed else 0
    rows = np.zeros((len(places), len(structure.places)))
    mine = slice(first, first + len(batten.weights))
    rows[:, mine] = half_width_rows(board.outline, board.length, places)
    return batten.with_values(batten.values + _sprung(structure, rows, by, KINDS["width"].reads, mine)[mine])


def _bent(line: Batten, length: float, kind: str, places: Array, by: Array) -> Batten:
    structure = line.structure()
    change = _sprung(over_unit(structure, length), structure.rows(places), by, KINDS[kind].reads)
    return line.with_values(line.values + change)


def _sprung(structure: Structure, rows: Array, by: Array, reads: float, mine: slice = slice(None)) -> Array:
    """Change of each weight's value (n,) [m]; only those that are `mine` move."""
    free = np.zeros(rows.shape[1], bool)
    free[mine] = True
    near = rows[:, free] / reads
    fit = near.T @ near
    bending = energy(structure)[np.ix_(free, free)]
    change = np.zeros(rows.shape[1])
    change[free] = np.linalg.solve(fit + LITTLE * np.trace(fit) / np.trace(bending) * bending, near.T @ (by / reads))
    return change
