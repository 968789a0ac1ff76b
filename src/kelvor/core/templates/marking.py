"""What is marked on a board before it is cut, drilled or routed: lines of ledges and channels, boxes, tracks, inserts,
plugs, in plan.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import DEGREE, FOOT
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.clearance import footprints
from kelvor.core.shape.parts.fittings import Side
from kelvor.core.shape.parts.layers import Channels, Ledge, channel_lips
from kelvor.core.shape.surface.sections import Sections

HOLE = 0.004
"""Half of what an insert's hole is drawn wide [m]."""
FOOT_LINE = 0.12
"""Half of the line along a foot that stands turned [m]."""
ROUND = 12
"""Corners of a hole."""


@frozen(eq=False)
class PlanMark:
    """Something marked in plan.

    Attributes
    ----------
    group:
        What it is, such as “boxes” or “cut-outs”, the same for all of its kind.
    words:
        Which one, and how it is routed or drilled.
    side:
        The face it is marked on.
    points:
        (n, 2) places from the tail and to port [m].
    closed:
        Whether they go round.
    place:
        Where the middle of the whole thing lies from the tail [m]: of a hole, that of its row; None of a line.
    """

    group: str
    words: str
    side: Side
    points: Array
    closed: bool
    place: float | None = None


def template_places(length: float) -> list[float]:
    """Where sections are drawn and measured [m]: every foot from the tail, the middle, and a foot off the nose."""
    places = [*np.arange(FOOT, length - FOOT / 2, FOOT).tolist(), length / 2, length - FOOT]
    ordered: list[float] = []
    for place in sorted(places):
        if not ordered or place - ordered[-1] > 0.05:
            ordered.append(float(place))
    return ordered


def bottom_lines(shape: Sections) -> list[tuple[str, Array, Array]]:
    """Lines of ledges and channels in plan, each (name, places, half-places) [m], where they are on the bottom."""
    board = shape.board
    found = []
    for layer in board.layers:
        if not layer.on or not isinstance(layer, (Ledge, Channels)):
            continue
        start, end = layer.start.x(board.length, board.mast_x), layer.end.x(board.length, board.mast_x)
        inside = (shape.x >= start - 1e-9) & (shape.x <= end + 1e-9) & (shape.edge_y > 0.01)
        x = shape.x[inside]
        if isinstance(layer, Ledge):
            line = layer.line.at(x)
            y = line if layer.across == "centre" else shape.edge_y[inside] - line
            found.append((layer.name, x, np.clip(y, 0.0, shape.edge_y[inside])))
        else:
            for lips in channel_lips(layer, end, shape.edge_y[inside], x):
                found += [(layer.name, x, lip) for lip in lips]
    return found


def marks(shape: Sections) -> list[PlanMark]:
    """All that is marked on a board, port and starboard."""
    found = [
        PlanMark("lines", name, "bottom", np.stack([x, side * y], axis=1), closed=False)
        for name, x, y in bottom_lines(shape)
        if len(x) > 1
        for side in (1, -1)
    ]
    for item in footprints(shape.board):
        if item.kind == "strap":
            continue  # drilled insert by insert
        group = {"mast": "foil", "fin": "boxes"}.get(item.kind or "", "plugs")
        if item.name == "Mast track":
            group = "mast track"
        words = f"{item.name}, {item.depth * 1000:.0f} mm deep"
        middle = float(item.corners[:, 0].mean())
        found.append(PlanMark(group, words, item.side, item.corners, closed=True, place=middle))
    return found + _inserts(shape.board)


def _inserts(board: Board) -> list[PlanMark]:
    """A round hole for each insert of each row of straps, and a line along the foot of one that stands turned."""
    found = []
    angles = np.linspace(0.0, 2 * np.pi, ROUND, endpoint=False)
    ring = HOLE * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    for row in board.fittings.straps:
        at = row.at.x(board.length, board.mast_x)
        places = at + (np.arange(row.inserts) - (row.inserts - 1) / 2) * row.pitch
        for spread in sorted({row.half_spread, row.outboard or row.half_spread}):
            for y in (0.0,) if spread == 0 else (spread, -spread):
                holes = (ring + np.array([x, y]) for x in places)
                found += [PlanMark("inserts", row.name, "deck", hole, closed=True, place=at) for hole in holes]
                if row.angle != 0:
                    toes = FOOT_LINE * np.array([np.sin(row.angle), np.cos(row.angle) * (-1 if y < 0 else 1)])
                    foot = np.array([at, y]) + np.stack([-toes, toes])
                    words = f"{row.name}, foot turned {row.angle / DEGREE:.0f}°"
                    found.append(PlanMark("inserts", words, "deck", foot, closed=False, place=at))
    return found
