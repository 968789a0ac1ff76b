"""Levelling: finding the base line for the way a board is laid."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from kelvor.core.shape.board import BaseKind, BaseLine, Board
from kelvor.core.shape.checks.straight_edge import flat_run, table_slope
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
        return table_slope(x, keel, measured.solid.x)
    if kind == "middle":
        h = 0.02
        return float((np.interp(board.length / 2 + h, x, keel) - np.interp(board.length / 2 - h, x, keel)) / (2 * h))
    if kind == "tracks" and (tracks := board.fittings.tracks) is not None:
        middle = tracks.at.x(board.length)
        start, end = middle - tracks.length / 2, middle + tracks.length / 2
    else:
        start, end = flat_run(x, keel, base=table_slope(x, keel, measured.solid.x))
        end = min(end, start + 0.6)
    return float((np.interp(end, x, keel) - np.interp(start, x, keel)) / (end - start))


def relevelled(measured: Geometry, kind: BaseKind) -> Board:
    """The same board laid another way: heights are read anew, the shape stays."""
    return replace(measured.board, base=BaseLine(kind=kind, slope=base_slope(measured, kind)))
