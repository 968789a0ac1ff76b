"""Typed measures of the three battens, met by the least change."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.levers.least_change import least_change, over_unit
from kelvor.core.levers.locks import wide_point_of, widest
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten
from kelvor.core.shape.curves.outline import closed_batten, fraction_to_u, half_width, half_width_rows


def _free(board: Board, batten: Batten) -> np.ndarray:
    """Weights outside all locked zones."""
    return np.array([not any(z.start - 1e-9 <= w.x <= z.end + 1e-9 for z in board.locks.zones) for w in batten.weights])


def _outline_changed(board: Board, rows: Array, wanted: Array) -> Board:
    structure, _ = closed_batten(board.outline, board.length)
    batten = board.outline.batten
    first = 1 if board.outline.tail_closed else 0
    n = len(batten.weights)
    padded = np.zeros((rows.shape[0], len(structure.places)))
    padded[:, first : first + n] = rows
    free = np.zeros(len(structure.places), bool)
    free[first : first + n] = _free(board, batten)
    change = least_change(structure, padded, wanted, free)[first : first + n]
    return replace(board, outline=replace(board.outline, batten=batten.with_values(batten.values + change)))


def with_width_at(board: Board, x: float, width: float) -> Board:
    """Full width [m] at place `x` [m]; the wide point's width is held too while the width is locked."""
    now = 2 * float(half_width(board.outline, board.length, np.array([x]))[0])
    grid = np.linspace(0, board.length, 241)
    b = half_width(board.outline, board.length, grid)
    at = float(grid[np.argmax(b)])
    rows, wanted = half_width_rows(board.outline, board.length, np.array([x])), [(width - now) / 2]
    if abs(at - x) > 0.15 and "width" in board.locks.measures:
        rows = np.concatenate([rows, half_width_rows(board.outline, board.length, np.array([at]))])
        wanted.append(0.0)
    return _outline_changed(board, rows, np.array(wanted))


def with_widest(board: Board, width: float) -> Board:
    """Maximum width [m]: every half-width in proportion, or by least change where zones are locked."""
    now = widest(board)
    if not board.locks.zones:
        batten = board.outline.batten
        return replace(board, outline=replace(board.outline, batten=batten.with_values(batten.values * width / now)))
    result = board
    for _ in range(3):
        grid = np.linspace(0, board.length, 241)
        at = float(grid[np.argmax(half_width(result.outline, board.length, grid))])
        here = float(half_width(board.outline, board.length, np.array([at]))[0])
        result = _outline_changed(
            board, half_width_rows(board.outline, board.length, np.array([at])), np.array([width / 2 - here])
        )
        if abs(widest(result) - width) < 1e-5:
            break
    return result


def with_wide_point(board: Board, x: float) -> Board:
    """The wide point at place `x` [m], with its width kept; raises like :func:`with_plan`."""
    return with_plan(board, widest(board), x, {})


def with_plan(board: Board, width: float, wide_point: float | None, widths: dict[float, float]) -> Board:
    """Several measures of the plan at once [m]: the maximum width, where it lies (or wherever it comes to lie), and
    full widths by their places.

    Raises
    ------
    RefusedEdit
        When no fair outline has them all.
    """
    places, found = np.array(list(widths)), board
    aim, aim_width = wide_point, width
    for _ in range(6):
        structure, values = closed_batten(found.outline, board.length)
        first, n = (1 if board.outline.tail_closed else 0), len(board.outline.batten.weights)
        top = wide_point_of(found) if aim is None else aim
        u = fraction_to_u(np.array([top / board.length]), board.outline.spacing)
        rows = [structure.rows(u)[:, first : first + n]]
        wanted = [aim_width / 2 - structure.rows(u) @ values]
        if aim is not None:
            rows.append(0.1 * structure.rows(u, 1)[:, first : first + n])
            wanted.append(-0.1 * structure.rows(u, 1) @ values)
        if widths:
            rows.append(half_width_rows(found.outline, board.length, places))
            wanted.append(np.array(list(widths.values())) / 2 - half_width(found.outline, board.length, places))
        found = _outline_changed(found, np.concatenate(rows), np.concatenate(wanted))
        off_width = width - widest(found)
        off = 0.0 if wide_point is None else wide_point - wide_point_of(found)
        if abs(off) < 1e-4 and abs(off_width) < 1e-5:
            return found
        aim, aim_width = None if aim is None else aim + off, aim_width + off_width
    if abs(off) > 0.01 or abs(off_width) > 1e-3:
        place = "" if wide_point is None else f" widest {wide_point * 100:.0f} cm from the tail"
        raise RefusedEdit(
            f"The outline cannot be {width * 100:.1f} cm wide{place} without bending elsewhere. Move weights by hand."
        )
    return found


def with_batten_at(board: Board, name: str, x: float, value: float) -> Board:
    """Rocker or thickness [m] at place `x` [m]; rulers stay straight because only weights move."""
    batten: Batten = getattr(board, name)
    s = batten.structure()
    scaled = over_unit(s, board.length)
    rows = s.rows(np.array([x]))
    wanted = np.array([value - float((rows @ batten.values)[0])])
    free = _free(board, batten)
    for i, w in enumerate(batten.weights[:-1]):
        if w.ruler is not None and not w.x - 1e-9 <= x <= batten.weights[i + 1].x + 1e-9:
            free[i] = free[i + 1] = False
    if abs(wanted[0]) < 1e-12:
        return board
    if not free.any():
        raise RefusedEdit("Only a ruler lies here. Take it off, or move its ends.")
    change = least_change(scaled, rows, wanted, free)
    if name == "rocker":
        return replace(board, rocker=batten.with_values(batten.values + change))
    return replace(board, thickness=batten.with_values(batten.values + change))
