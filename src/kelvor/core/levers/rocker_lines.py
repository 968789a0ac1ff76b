"""Keel, mid and rail rocker: read on each, typed or dragged on each.

A change of mid or rail is taken up by a layer of the line's own, which leaves the keel; or the designer names what
takes it up. Solving batten and layers at once for three lines is ill-conditioned, so one absorber takes it all, the
reference rocker or one layer, within a reach; the other lines follow, and the step tells how far.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.levers.typed_measures import with_batten_at
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.edits import with_layer
from kelvor.core.shape.parts.layers import ANGLED, ShapingLayer
from kelvor.core.shape.surface.sections import Resolution, Sections, sections, sections_at

RockerLine = Literal["keel", "mid", "rail"]
ROCKER_LINES: tuple[RockerLine, ...] = ("keel", "mid", "rail")
ROCKER = "rocker"
OWN_LAYER = "new layer"
"""A layer that moves only this line: made where there is none, and used again."""
OWN_NAMES: dict[RockerLine, str] = {"mid": "Mid line", "rail": "Rail line"}
TOWARD_END = 0.35
"""Nearer to an end than this a layer of its own is drawn on to the end [m]."""
CLOSE = 3e-5
"""A typed height is met within this [m]."""
TIP = 1e-6
"""Heights of the tips are read this far inside them [m]."""
LEAST_EFFECT = 0.02
"""A layer must move the line at least this much for each unit of its amount, or it cannot take up the change."""


def _heights(shape: Sections, line: RockerLine) -> np.ndarray:
    return {"keel": shape.keel, "mid": shape.mid, "rail": shape.edge_z}[line]


def line_height(board: Board, line: RockerLine, x: float) -> float:
    """Height of a rocker line above the base line at `x` [m]; NaN where no board results."""
    whole = sections(board, Resolution.COARSE)
    here = sections_at(board, np.array([x]), Resolution.COARSE)
    if isinstance(here, tuple):  # a pin tail's tip has no section of its own
        x = min(max(x, TIP), board.length - TIP)
        here = sections_at(board, np.array([x]), Resolution.COARSE)
    if isinstance(whole, tuple) or isinstance(here, tuple):
        return math.nan
    slope = board.base.slope
    base = float(np.min(whole.keel - slope * whole.x))
    return float((_heights(here, line)[0] - slope * x - base) / math.hypot(1.0, slope))


def absorbers(board: Board, line: RockerLine) -> list[str]:
    """What may take up a change of this line: a layer of its own, the rocker, or every layer that moves it."""
    layers = [
        item.name
        for item in board.layers
        if isinstance(item, ShapingLayer) and item.on and item.kind != "side_flat" and _may_move(item, line)
    ]
    return [*([OWN_LAYER] if line != "keel" else []), ROCKER, *layers]


def taken_up_by(absorber: str, line: RockerLine) -> str:
    """What takes up a change of a line, in words."""
    if line == "keel" or absorber == ROCKER:
        return "the rocker"
    return f"a layer of its own, “{OWN_NAMES[line]}”" if absorber == OWN_LAYER else absorber


def _may_move(layer: ShapingLayer, line: RockerLine) -> bool:
    if layer.kind == "double":
        return line == "mid"
    return line == "mid" or (line == "rail") == (layer.holds == "keel")


def with_line_height(board: Board, line: RockerLine, x: float, height: float, absorber: str, reach: float) -> Board:
    """The board with a rocker line at `height` above the base [m] at `x`; `absorber` takes it up within `reach` [m].

    Raises
    ------
    RefusedEdit
        When the absorber does not move that line there, or too much would be needed.
    """
    if absorber == OWN_LAYER:
        board, absorber = (board, ROCKER) if line == "keel" else _with_own_layer(board, line)
    elif absorber != ROCKER and not any(item.name == absorber for item in board.layers):
        absorber = ROCKER
    for _ in range(5):
        now = line_height(board, line, x)
        if not math.isfinite(now):
            raise RefusedEdit(
                f"No board would result: {taken_up_by(absorber, line)} cannot take up {height * 1000:.0f} mm of {line} "
                f"line {x * 100:.0f} cm from the tail. Give less, or let the rocker take it up."
            )
        if abs(height - now) < CLOSE:
            break
        board = _taken_up(board, line, x, height - now, absorber, reach)
    return board


def _with_own_layer(board: Board, line: RockerLine) -> tuple[Board, str]:
    """A layer that moves only this line, of no amount where it is new: a double hollow for mid, a V for the rail."""
    kind: Literal["double", "v"] = "double" if line == "mid" else "v"
    name, number = OWN_NAMES[line], 2
    while found := next((item for item in board.layers if item.name == name), None):
        if isinstance(found, ShapingLayer) and found.kind == kind and found.on and found.holds == "keel":
            return board, name
        name, number = f"{OWN_NAMES[line]} {number}", number + 1
    layer = ShapingLayer(kind=kind, name=name, amount=Schedule.constant(0.0))
    return replace(board, layers=(*board.layers, layer)), name


def _taken_up(board: Board, line: RockerLine, x: float, change: float, absorber: str, reach: float) -> Board:
    if absorber == ROCKER:
        ends = board.rocker.weights
        for i, beside in ((0, ends[0].ruler), (len(ends) - 1, ends[-2].ruler)):
            if abs(ends[i].x - x) < 1e-6 and beside is None:
                return replace(
                    board, rocker=board.rocker.with_weight(i, replace(ends[i], value=ends[i].value + change))
                )
        now = float(board.rocker.at(np.array([x]))[0])
        return with_batten_at(board, "rocker", x, now + change)
    layer = next(item for item in board.layers if item.name == absorber)
    if not isinstance(layer, ShapingLayer):
        raise RefusedEdit(
            f"“{absorber}” cannot take up a change of the {line} line. Name the rocker or a shaping layer."
        )
    step = math.radians(0.2) if layer.kind in ANGLED else 2e-4
    own = absorber.startswith(OWN_NAMES.get(line, " "))
    pinned = _with_points(layer.amount, x, reach, board.length, to_end=own)
    amount = pinned.value(x)
    before = line_height(board, line, x)
    probe = line_height(
        with_layer(board, absorber, replace(layer, amount=_with_value(pinned, x, amount + step))), line, x
    )
    effect = (probe - before) / step
    if abs(effect) < LEAST_EFFECT:
        raise RefusedEdit(
            f"“{absorber}” does not move the {line} line {x * 100:.0f} cm from the tail. Let another layer or the "
            f"rocker take it up."
        )
    wanted = amount + change / effect
    limit = math.radians(50) if layer.kind in ANGLED else 0.12
    if abs(wanted) > limit:
        raise RefusedEdit(f"“{absorber}” would have to become too much for that. Let the rocker take it up.")
    return with_layer(board, absorber, replace(layer, amount=_with_value(pinned, x, wanted)))


def _with_points(schedule: Schedule, x: float, reach: float, length: float, *, to_end: bool) -> Schedule:
    """A schedule with a point at x, and points at both ends of the reach that keep what lies beyond; none beside a near
    end, where it is drawn on `to_end`.
    """
    points = dict(schedule.points) if len(schedule.points) > 1 else {}
    aft, fore = to_end and x < TOWARD_END, to_end and length - x < TOWARD_END
    for place in (*(() if aft else (x - reach,)), x, *(() if fore else (x + reach,))):
        inside = min(max(place, 0.0), length)
        between = [p for p in points if abs(p - x) < reach and (p - x) * (place - x) > 0]
        if not any(abs(p - inside) < 0.01 for p in points) and not (place != x and between):
            points[inside] = schedule.value(inside)
    return Schedule(tuple(sorted(points.items())))


def _with_value(schedule: Schedule, x: float, value: float) -> Schedule:
    nearest = min(range(len(schedule.points)), key=lambda i: abs(schedule.points[i][0] - x))
    return schedule.with_point(nearest, schedule.points[nearest][0], value)
