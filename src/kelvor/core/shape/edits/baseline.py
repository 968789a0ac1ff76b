"""Levelling: finding the base line for the way a board is laid."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from kelvor.core.shape.board import BaseKind, BaseLine, Board
from kelvor.core.shape.checks.straight_edge import flat_run
from kelvor.core.shape.surface.geometry import Geometry


def base_slope(measured: Geometry, kind: BaseKind) -> float:
    """Slope of the base line [m/m] for this way of laying the board, in the drawing's frame.

    table: the lower support of the keel line under the centre of volume.
    aft flat: the chord of the aft part of the keel's flat run (at most 0.6 m).
    tracks: the keel's chord along the foil tracks, or the aft flat without tracks.
    middle: the tangent of the keel at half length.
    """
    x, keel = measured.shape.x, measured.shape.keel
    board = measured.board
    if kind == "table":
        return _support_slope(x, keel, measured.solid.x)
    if kind == "middle":
        h = 0.02
        return float((np.interp(board.length / 2 + h, x, keel) - np.interp(board.length / 2 - h, x, keel)) / (2 * h))
    if kind == "tracks" and (tracks := board.fittings.tracks) is not None:
        middle = tracks.at.x(board.length)
        start, end = middle - tracks.length / 2, middle + tracks.length / 2
    else:
        start, end = flat_run(x, keel, base=board.base.slope)
        end = min(end, start + 0.6)
    return float((np.interp(end, x, keel) - np.interp(start, x, keel)) / (end - start))


def _support_slope(x: np.ndarray, z: np.ndarray, under: float) -> float:
    """Slope of the lower convex hull's edge below place `under`."""
    hull: list[int] = []
    for i in range(len(x)):
        while len(hull) > 1 and (x[hull[-1]] - x[hull[-2]]) * (z[i] - z[hull[-2]]) <= (x[i] - x[hull[-2]]) * (
            z[hull[-1]] - z[hull[-2]]
        ):
            hull.pop()
        hull.append(i)
    for a, b in zip(hull[:-1], hull[1:], strict=True):
        if x[a] <= under <= x[b]:
            return float((z[b] - z[a]) / (x[b] - x[a]))
    return 0.0


def relevelled(measured: Geometry, kind: BaseKind) -> Board:
    """The same board laid another way: heights are read anew, the shape stays."""
    return replace(measured.board, base=BaseLine(kind=kind, slope=base_slope(measured, kind)))
