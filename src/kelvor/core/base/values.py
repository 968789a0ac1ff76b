"""Frozen values: dataclasses with slots that cannot be changed, made in a third of the standard library's time.

The program declares some four hundred, and a quarter of a start went into making them: up to Python 3.12 the library
compiles six functions a class. Here one is compiled, `__init__`; the rest are shared. In every other way they are
dataclasses: `fields`, `replace`, `asdict`, `is_dataclass` and type checkers take them as such.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from operator import attrgetter
from typing import Any, TypeVar, cast, dataclass_transform, overload

T = TypeVar("T", bound=type[Any])


@overload
def frozen(cls: T, /) -> T: ...


@overload
def frozen(*, kw_only: bool = False, eq: bool = True) -> Callable[[T], T]: ...


@dataclass_transform(frozen_default=True, field_specifiers=(dataclasses.field, dataclasses.Field))
def frozen(cls: T | None = None, /, *, kw_only: bool = False, eq: bool = True) -> T | Callable[[T], T]:
    """Make a class a frozen value, as ``dataclass(frozen=True, slots=True)`` would.

    Parameters
    ----------
    kw_only:
        Whether its fields are given by name only.
    eq:
        Whether it is equal to another with equal fields, and hashed by them; by identity otherwise.
    """
    if cls is None:
        return lambda found: cast(T, _made(found, kw_only, eq))
    return cast(T, _made(cls, kw_only, eq))


def _made(given: Any, kw_only: bool, eq: bool) -> Any:
    own = set(given.__dict__)
    cls: Any = dataclasses.dataclass(init=False, repr=False, eq=False, kw_only=kw_only)(given)  # its fields, in order
    fields = dataclasses.fields(cls)
    names = tuple(field.name for field in fields)
    body = {key: item for key, item in cls.__dict__.items() if key not in (*names, "__dict__", "__weakref__")}
    inherited = {slot for base in cls.__mro__[1:] for slot in getattr(base, "__slots__", ())}
    body["__slots__"] = tuple(name for name in names if name not in inherited)
    body |= {
        "__setattr__": _no_setting,
        "__delattr__": _no_deleting,
        "__getstate__": _state,
        "__setstate__": _set_state,
    }
    if "__init__" not in own:
        body["__init__"] = _init(cls, fields)
    if "__repr__" not in own:
        body["__repr__"] = _repr
    if eq:
        if "__eq__" not in own:
            body["__eq__"] = _equal(tuple(field.name for field in fields if field.compare))
        if "__hash__" not in own or ("__eq__" in own and cls.__hash__ is None):
            hashed = (field.name for field in fields if (field.compare if field.hash is None else field.hash))
            body["__hash__"] = _hash(tuple(hashed))
    made = type(cls)(cls.__name__, cls.__bases__, body)
    made.__qualname__ = cls.__qualname__
    return made


def _init(cls: type[Any], fields: tuple[dataclasses.Field[Any], ...]) -> Callable[..., None]:
    """The one function that is compiled for a class."""
    scope: dict[str, Any] = {"_set": object.__setattr__, "_missing": dataclasses.MISSING}
    placed, lines = ["self"], list[str]()
    named: list[str] = []
    for i, field in enumerate(fields):
        made = field.default_factory is not dataclasses.MISSING
        given = made or field.default is not dataclasses.MISSING
        if given:
            scope[f"_d{i}"] = field.default_factory if made else field.default
        if not field.init:
            if given:
                lines.append(f"_set(self, {field.name!r}, _d{i}{'()' if made else ''})")
            continue
        default = "" if not given else "=_missing" if made else f"=_d{i}"
        (named if field.kw_only else placed).append(f"{field.name}{default}")
        taken = f"_d{i}() if {field.name} is _missing else {field.name}" if made else field.name
        lines.append(f"_set(self, {field.name!r}, {taken})")
    if hasattr(cls, "__post_init__"):
        lines.append("self.__post_init__()")
    arguments = ", ".join([*placed, *(["*", *named] if named else [])])
    exec(f"def __init__({arguments}):\n " + ("\n ".join(lines) or "pass"), scope)
    found: Callable[..., None] = scope["__init__"]
    found.__qualname__ = f"{cls.__qualname__}.__init__"
    found.__module__ = cls.__module__
    return found


def _no_setting(self: Any, name: str, value: Any) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot assign to field {name!r}")


def _no_deleting(self: Any, name: str) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot delete field {name!r}")


def _repr(self: Any) -> str:
    told = ", ".join(f"{f.name}={getattr(self, f.name)!r}" for f in dataclasses.fields(self) if f.repr)
    return f"{type(self).__qualname__}({told})"


def _state(self: Any) -> list[Any]:
    return [getattr(self, field.name) for field in dataclasses.fields(self)]


def _set_state(self: Any, state: list[Any]) -> None:
    for field, item in zip(dataclasses.fields(self), state, strict=True):
        object.__setattr__(self, field.name, item)


def _equal(names: tuple[str, ...]) -> Callable[[Any, Any], Any]:
    read = _reader(names)

    def equal(self: Any, other: Any) -> Any:
        return read(self) == read(other) if other.__class__ is self.__class__ else NotImplemented

    return equal


def _hash(names: tuple[str, ...]) -> Callable[[Any], int]:
    read = _reader(names)
    if len(names) == 1:
        return lambda self: hash((read(self),))
    return lambda self: hash(read(self))


def _reader(names: tuple[str, ...]) -> Callable[[Any], Any]:
    return attrgetter(*names) if names else lambda _: ()
