"""Taking hold of single weights and schedule points: moving, adding, taking off, knuckles and rulers."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import DeckLayer, Layer, Ledge, ShapingLayer

NEAREST = 0.01
"""Two weights may be brought this close together by hand [m]."""


@frozen
class Hold:
    """A weight or point to take hold of: on which line, the how manieth.

    `line` is "outline", "rocker", "thickness", or a schedule's key.
    """

    line: str
    index: int


BATTENS = ("outline", "rocker", "thickness")


def batten_of(board: Board, line: str) -> Batten:
    """The batten of a line."""
    if line == "outline":
        return board.outline.batten
    return board.rocker if line == "rocker" else board.thickness


def with_batten(board: Board, line: str, batten: Batten) -> Board:
    """The board with another batten for a line."""
    if line == "outline":
        return replace(board, outline=replace(board.outline, batten=batten))
    return replace(board, rocker=batten) if line == "rocker" else replace(board, thickness=batten)


def schedule_keys(board: Board) -> list[str]:
    """Keys of all schedules a designer may draw: `layer.NAME`, `deck.NAME`, with `|` and a field for its other
    schedules.
    """
    found: list[str] = []
    for prefix, layers in (("layer", board.layers), ("deck", board.deck_layers)):
        for item in layers:
            if isinstance(item, (ShapingLayer, DeckLayer)):
                found.append(f"{prefix}.{item.name}")
                if item.layout.across != "share":
                    found.append(f"{prefix}.{item.name}|layout.width")
            elif isinstance(item, Ledge):
                found += [f"{prefix}.{item.name}", f"{prefix}.{item.name}|height"]
    rails = [
        "apex",
        "tuck",
        "edge_radius",
        *(["fullness", "chamfer"] if board.rails.side_wall is None else ["side_wall"]),
    ]
    return [*found, "crown", *(f"rails.{name}" for name in rails)]


def layer_of(board: Board, key: str) -> Layer | DeckLayer:
    """The layer a schedule's key belongs to."""
    prefix, _, name = key.partition("|")[0].partition(".")
    layers: tuple[Layer | DeckLayer, ...] = board.deck_layers if prefix == "deck" else board.layers
    return next(item for item in layers if item.name == name)


def _path(board: Board, key: str) -> str:
    field = key.partition("|")[2]
    return field or ("line" if isinstance(layer_of(board, key), Ledge) else "amount")


def schedule_of(board: Board, key: str) -> Schedule:
    """A schedule by its key."""
    found: Schedule
    if key == "crown":
        return board.crown
    if key.startswith("rails."):
        found = getattr(board.rails, key[6:]) or Schedule.constant(0.0)
        return found
    value: Any = layer_of(board, key)
    for name in _path(board, key).split("."):
        value = getattr(value, name)
    found = value
    return found


def with_schedule(board: Board, key: str, schedule: Schedule) -> Board:
    """The board with another schedule."""
    if key == "crown":
        return replace(board, crown=schedule)
    if key.startswith("rails."):
        changes: dict[str, Any] = {key[6:]: schedule}
        return replace(board, rails=replace(board.rails, **changes))
    old: Any = layer_of(board, key)
    outer, _, inner = _path(board, key).partition(".")
    new = replace(old, **{outer: replace(getattr(old, outer), **{inner: schedule}) if inner else schedule})
    if isinstance(old, DeckLayer):
        return replace(board, deck_layers=tuple(new if item is old else item for item in board.deck_layers))
    return replace(board, layers=tuple(new if item is old else item for item in board.layers))


def place_and_value(board: Board, held: Hold) -> tuple[float, float]:
    """Where a weight lies [m] and what it holds (SI)."""
    if held.line in BATTENS:
        weight = batten_of(board, held.line).weights[held.index]
        return weight.x, weight.value
    return schedule_of(board, held.line).points[held.index]


def moved(board: Board, held: Hold, x: float, value: float) -> Board:
    """A weight at another place and value; it stays between its neighbours, and end weights keep their place."""
    if held.line not in BATTENS:
        points = schedule_of(board, held.line).points
        low = points[held.index - 1][0] + NEAREST if held.index else -0.05
        high = points[held.index + 1][0] - NEAREST if held.index + 1 < len(points) else board.length + 0.05
        place = float(np.clip(x, low, high)) if len(points) > 1 else points[0][0]
        return with_schedule(board, held.line, schedule_of(board, held.line).with_point(held.index, place, value))
    batten = batten_of(board, held.line)
    weight = batten.weights[held.index]
    return with_batten(
        board,
        held.line,
        batten.with_weight(held.index, replace(weight, x=_kept_between(board, batten, held.index, x), value=value)),
    )


def _kept_between(board: Board, batten: Batten, index: int, x: float) -> float:
    weight = batten.weights[index]
    if weight.x <= 1e-9 or weight.x >= board.length - 1e-9:
        return weight.x
    low = batten.weights[index - 1].x + NEAREST if index else NEAREST
    high = batten.weights[index + 1].x - NEAREST if index + 1 < len(batten.weights) else board.length - NEAREST
    return float(np.clip(x, low, high)) if low < high else weight.x


def added(board: Board, line: str, x: float) -> Board:
    """One more weight, on the line as it runs."""
    if line not in BATTENS:
        schedule = schedule_of(board, line)
        points = sorted((*schedule.points, (x, schedule.value(x))))
        if min(b[0] - a[0] for a, b in zip(points[:-1], points[1:], strict=True)) < NEAREST:
            raise RefusedEdit("There is a point there already.")
        return with_schedule(board, line, Schedule(tuple(points)))
    batten = batten_of(board, line)
    if any(abs(w.x - x) < NEAREST for w in batten.weights) or not NEAREST < x < board.length - NEAREST:
        raise RefusedEdit("There is a weight there already.")
    if any(a.ruler is not None and a.x < x < b.x for a, b in zip(batten.weights[:-1], batten.weights[1:], strict=True)):
        raise RefusedEdit("A ruler lies there. Take it off first.")
    height = half_width(board.outline, board.length, np.array([x])) if line == "outline" else batten.at(np.array([x]))
    return with_batten(board, line, batten.inserted(Weight(x, float(height[0]))))


def taken_off(board: Board, held: Hold) -> Board:
    """One weight fewer; ends of a line stay."""
    if held.line not in BATTENS:
        points = schedule_of(board, held.line).points
        if len(points) < 2:
            raise RefusedEdit("A schedule keeps its last point.")
        return with_schedule(board, held.line, Schedule(points[: held.index] + points[held.index + 1 :]))
    batten = batten_of(board, held.line)
    weight = batten.weights[held.index]
    if weight.x <= 1e-9 or weight.x >= board.length - 1e-9 or len(batten.weights) < 3:
        raise RefusedEdit("The weight at an end holds the line there and stays.")
    rest = batten.removed(held.index)
    if held.index and rest.weights[held.index - 1].ruler is not None:
        rest = rest.with_weight(held.index - 1, replace(rest.weights[held.index - 1], ruler=None))
    return with_batten(board, held.line, rest)


def with_knuckle_toggled(board: Board, held: Hold) -> Board:
    """The slope may break at a weight, or no longer."""
    batten = batten_of(board, held.line)
    weight = batten.weights[held.index]
    return with_batten(board, held.line, batten.with_weight(held.index, replace(weight, knuckle=not weight.knuckle)))


def with_ruler_toggled(board: Board, held: Hold, blend: float = 0.08) -> Board:
    """A ruler from this weight to the next, or none any more."""
    batten = batten_of(board, held.line)
    if held.index + 1 >= len(batten.weights):
        raise RefusedEdit("A ruler lies from a weight to the one ahead of it; this is the last.")
    weight = batten.weights[held.index]
    ruler = Ruler(blend, blend) if weight.ruler is None else None
    return with_batten(board, held.line, batten.with_weight(held.index, replace(weight, ruler=ruler)))
