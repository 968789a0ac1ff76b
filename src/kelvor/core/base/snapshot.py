"""Frozen values to plain data and back, for data this program wrote itself.

Fast and trusting: the workshop uses it for its own snapshots on the start
path. Documents from outside go through ``kelvor.exchange`` instead, which
checks every field.
"""

from __future__ import annotations

import dataclasses
import types
from enum import Enum
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin, get_type_hints

T = TypeVar("T")


def to_plain(value: Any) -> Any:
    """Dataclasses as dicts, tuples as lists, enumerations as their values."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        return {f.name: to_plain(getattr(value, f.name)) for f in dataclasses.fields(value)}
    if isinstance(value, (tuple, list)):
        return [to_plain(item) for item in value]
    if isinstance(value, Enum):
        return value.value
    return value


def from_plain(kind: type[T], data: Any) -> T:
    """The value of type `kind` that :func:`to_plain` turned into `data`.

    Unions of dataclasses are told apart by their ``kind`` field; fields that
    are missing take their defaults, so older snapshots stay readable.
    """
    result: T = _build(kind, data)
    return result


@cache
def hints_of(kind: type) -> dict[str, Any]:
    """The types of a dataclass's fields, with what they declare; resolved once, on the start path."""
    return get_type_hints(kind, include_extras=True)


def _build(kind: Any, data: Any) -> Any:
    while get_origin(kind) is Annotated:
        kind = kind.__origin__
    if dataclasses.is_dataclass(kind) and isinstance(kind, type):
        hints = hints_of(kind)
        return kind(**{name: _build(hints[name], item) for name, item in data.items() if name in hints})
    origin = get_origin(kind)
    if origin is tuple:
        inner = get_args(kind)
        if len(inner) == 2 and inner[1] is Ellipsis:
            return tuple(_build(inner[0], item) for item in data)
        return tuple(_build(t, item) for t, item in zip(inner, data, strict=True))
    if origin in (Union, types.UnionType):
        return _build_union(get_args(kind), data)
    if origin is Literal:
        return data
    if isinstance(kind, type) and issubclass(kind, Enum):
        return kind(data)
    if kind is float:
        if type(data) not in (float, int):
            raise ValueError(f"{data!r:.40} is no number")
        return float(data)
    return data


def _build_union(choices: tuple[Any, ...], data: Any) -> Any:
    if data is None:
        return None
    present = [c for c in choices if c is not type(None)]
    if len(present) == 1:
        return _build(present[0], data)
    for choice in present:
        if data.get("kind") in get_args(hints_of(choice)["kind"]):
            return _build(choice, data)
    raise ValueError(f"no alternative of kind {data.get('kind')!r}")
