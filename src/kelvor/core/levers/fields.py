"""Levers on the fields of a part: a layer, a fin, a track. A table says which fields, in which range."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule


@frozen
class BoardPart:
    """A part of a board: how to find it, and how to put a changed one back."""

    get: Callable[[Board], Any]
    put: Callable[[Board, Any], Board]


@frozen
class Field:
    """A field a designer pulls.

    Attributes
    ----------
    path:
        Attribute, or attributes with dots, of a number, a Place (read as metres
        from the tail) or a Schedule (read as its greatest value, kept in proportion).
    low, high:
        What may be typed, in SI.
    schedule:
        Whether the lever shows its schedule on the strip.
    choices:
        The kinds it may be, where it is no number.
    """

    path: str
    label: str
    quantity: Quantity
    step: float
    low: float
    high: float
    explains: str = ""
    schedule: bool = False
    choices: tuple[str, ...] = ()


def peak(schedule: Schedule) -> float:
    """The value of a schedule that is furthest from nothing."""
    return max((v for _, v in schedule.points), key=abs)


def scaled(schedule: Schedule, top: float) -> Schedule:
    """A schedule in proportion, with another greatest value; from nothing it becomes even."""
    now = peak(schedule)
    if now == 0:
        return Schedule(tuple((x, top) for x, _ in schedule.points))
    return Schedule(tuple((x, v * top / now) for x, v in schedule.points))


def at_path(value: Any, path: str) -> Any:
    """A field of a value, named by its path."""
    for name in path.split("."):
        value = getattr(value, name)
    return value


def with_path(value: Any, path: str, new: Any) -> Any:
    """A frozen value with one field, named by its path, replaced."""
    name, _, rest = path.partition(".")
    return replace(value, **{name: with_path(getattr(value, name), rest, new) if rest else new})


_SAYS = {
    "start": "Where it begins, from the tail.", "end": "Where it ends, from the tail.", "width": "How wide it is.",
    "gap": "What is left standing between two.", "count": "How many on each side.",
    "inner": "Where the innermost begins, at its fore end.",
    "run_out": "Length over which it fades at its ends.",
    "nose_radius": "Round corners slide off, square ones hold area.",
    "nose_depth": "How deep the notch is.", "nose_spread": "How wide the notch is at the nose.",
    "cover": "Grip against weight.",
    "areal_mass": "What it weighs by area.",
}  # fmt: skip
"""What a field is, where its table says nothing more."""


def field_levers(
    prefix: str, part: BoardPart, fields: tuple[Field, ...], group: str, schedule: str = ""
) -> list[Lever]:
    """One lever for each field of a part; keys are `prefix.path`."""
    return [_lever(prefix, part, field, group, schedule if field.schedule else "") for field in fields]


def _lever(prefix: str, part: BoardPart, field: Field, group: str, schedule: str) -> Lever:
    def read(board: Board) -> float:
        owner = part.get(board)
        value = None if owner is None else at_path(owner, field.path)
        if value is None:
            return math.nan
        if field.choices:
            return float(field.choices.index(value))
        if isinstance(value, Place):
            return value.x(board.length, board.mast_x)
        return peak(value) if isinstance(value, Schedule) else float(value)

    def set_(board: Board, value: float) -> Board:
        high = board.length if isinstance(at_path(part.get(board), field.path), Place) else field.high
        if not field.low - 1e-12 <= value <= high + 1e-12:
            raise RefusedEdit(f"{field.label} cannot be that. {_range(field, high)}")
        owner = part.get(board)
        old = at_path(owner, field.path)
        new: Any = field.choices[round(value)] if field.choices else value
        if isinstance(old, Place):
            new = Place.at(value, old.datum, board.length, board.mast_x)
        elif isinstance(old, Schedule):
            new = scaled(old, value)
        elif isinstance(old, int):
            new = round(value)
        return part.put(board, with_path(owner, field.path, new))

    return Lever(
        f"{prefix}.{field.path}",
        field.label,
        group,
        field.quantity,
        field.step,
        read,
        set_,
        field.explains or _SAYS.get(field.path, ""),
        schedule=schedule,
        choices=field.choices,
    )


def _range(field: Field, high: float) -> str:
    q = field.quantity
    if q is Quantity.ANGLE:
        return f"Give {math.degrees(field.low):.0f} to {math.degrees(high):.0f}°."
    if q in (Quantity.LENGTH, Quantity.DEPTH):
        return f"Give {field.low * 100:g} to {high * 100:g} cm."
    if q is Quantity.MASS:
        return f"Give {field.low:g} to {high:g} kg."
    return f"Give {field.low:g} to {high:g}."


def in_tuple(owner: BoardPart, attribute: str, index: int) -> BoardPart:
    """One entry of a tuple in a part."""

    def get(board: Board) -> Any:
        entries = getattr(owner.get(board), attribute)
        return entries[index] if index < len(entries) else None

    def put(board: Board, value: Any) -> Board:
        whole = owner.get(board)
        entries = getattr(whole, attribute)
        return owner.put(board, replace(whole, **{attribute: (*entries[:index], value, *entries[index + 1 :])}))

    return BoardPart(get, put)


def attribute_of(owner: BoardPart, attribute: str) -> BoardPart:
    """A part of a part."""
    return BoardPart(
        lambda board: getattr(owner.get(board), attribute),
        lambda board, v: owner.put(board, replace(owner.get(board), **{attribute: v})),
    )


def fields_of_part(name: str, *fields: Field) -> tuple[Field, ...]:
    """Fields with a part's name before their label."""
    return tuple(replace(f, label=f"{name}, {f.label}" if f.label else name) for f in fields)
