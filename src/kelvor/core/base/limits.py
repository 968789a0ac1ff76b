"""Limits: what a field of a board, brief or table can be, declared once beside the field.

A field is declared as ``mass: Annotated[float, Limit(15, 250, Quantity.MASS)]``.
The same declaration serves the reader of documents, the published schema, the
check of the workshop's rows, the range of a typed field, and the sentence that
refuses a value. :func:`problems` checks a whole value, types included.
"""

from __future__ import annotations

import dataclasses
import math
import types
from collections.abc import Callable, Iterator
from enum import Enum
from functools import cache
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line, plain_text
from kelvor.core.base.snapshot import hints_of
from kelvor.core.base.units import Quantity, System, text, unit_of
from kelvor.core.base.values import frozen

T = TypeVar("T")

MOST_ITEMS = 200
"""Of a list that declares no number of its own."""


@frozen
class Limit:
    """The least and greatest value of a number, in SI, and what it measures. `unit` is for what has no quantity of its
    own.
    """

    low: float
    high: float
    quantity: Quantity = Quantity.RATIO
    unit: str = ""

    def allows(self, value: float) -> bool:
        """Whether a value lies inside; what the least digit of a display adds does not count."""
        slack = 1e-9 * max(1.0, abs(self.low), abs(self.high))
        return self.low - slack <= value <= self.high + slack

    def said(self, value: float, system: System = System.METRIC) -> str:
        """A value in the unit on display, with as many digits as it needs."""
        if self.unit:
            return f"{value:g} {self.unit}"
        if not math.isfinite(value) or abs(value) > 1e9:
            return f"{value:g} {document_unit(self)}".rstrip()
        unit = unit_of(self.quantity, system)
        exact = (value - unit.offset) / unit.size
        for extra in (0, 1, 2, 3):
            told = round(exact * 32) / 32 if unit.fractional and not extra else round(exact, unit.decimals + extra)
            if abs(told - exact) <= 2e-3 * abs(exact):
                break
        return text(value, self.quantity, system, extra=extra)

    def range_words(self, system: System = System.METRIC) -> str:
        """What is accepted, such as “15.00 kg to 250.00 kg”."""
        return f"{self.said(self.low, system)} to {self.said(self.high, system)}"


@frozen
class Along:
    """The least and greatest value of a curve's or schedule's weights, in SI, and what they measure."""

    value: Limit


@frozen
class Text:
    """How long a text may be; `lines` lets it have line breaks."""

    longest: int = 80
    lines: bool = False
    least: int = 0


@frozen
class Many:
    """How many items a list may have."""

    most: int
    least: int = 0


def lengths(low: float, high: float) -> Limit:
    """A length along or across a board [m]."""
    return Limit(low, high, Quantity.LENGTH)


def depths(low: float, high: float) -> Limit:
    """A depth, height or radius, read in millimetres [m]."""
    return Limit(low, high, Quantity.DEPTH)


def masses(low: float, high: float) -> Limit:
    """A mass [kg]."""
    return Limit(low, high, Quantity.MASS)


def areal_masses(low: float, high: float) -> Limit:
    """A mass by area [kg/m²]."""
    return Limit(low, high, Quantity.AREAL_MASS)


def angles(low: float, high: float) -> Limit:
    """An angle, given here in degrees and kept in radians."""
    return Limit(math.radians(low), math.radians(high), Quantity.ANGLE)


def shares(low: float, high: float) -> Limit:
    """A share of something."""
    return Limit(low, high, Quantity.RATIO)


def counts(low: int, high: int) -> Limit:
    """How many."""
    return Limit(low, high, Quantity.COUNT)


NAME = Text(80, least=1)
"""A name of a board, a layer, a rider, a foil."""
ANY_PLACE = Limit(-8.0, 8.0, Quantity.LENGTH)
"""A place along a board from any datum: no board is longer than 6.5 m."""


@frozen
class FieldProblem:
    """A field that cannot be: its path in the value, its words, what is wrong, what is accepted."""

    path: str
    words: str
    what: str
    accepts: str
    document: str = ""
    """The range as it is written in a document, where that is not what people read."""
    bearable: bool = False
    """Whether what an older Kelvor kept may stay so: a text that is longer than is taken today."""
    unclean: bool = False
    """Whether it is a text with signs that are not kept: :func:`cleaned` takes them out."""

    def sentence(self) -> str:
        """For somebody who sees the path: a reader of a document."""
        return (
            f"{self.path}: {self.what}. {self.accepts}{f' ({self.document} in the document)' if self.document else ''}."
        )

    def in_words(self) -> str:
        """For somebody at the window."""
        return f"{self.words[:1].upper()}{self.words[1:]}: {self.what}"


_Check = Callable[[Any, str, str], Iterator[FieldProblem]]


def field_problems(value: Any, path: str = "") -> tuple[FieldProblem, ...]:
    """Every field of a dataclass value that is of a wrong type or outside its limits; paths begin with `path`."""
    kind: Any = type(value)
    return tuple(_checker(kind)(value, path, ""))


def declared(kind: type, field: str) -> tuple[Any, ...]:
    """What a dataclass declares of a field: :class:`Limit`, :class:`Text`, :class:`Many`, :class:`Along`."""
    return _annotations(kind)[field]


def limit_of(kind: type, field: str) -> Limit:
    """The limit declared for a number in a dataclass."""
    found = next((m for m in _annotations(kind)[field] if isinstance(m, Limit)), None)
    if found is None:
        raise KeyError(f"{kind.__name__}.{field} declares no limit")
    return found


def text_of(kind: type, field: str) -> Text:
    """The limit declared for a text in a dataclass."""
    return next((m for m in _annotations(kind)[field] if isinstance(m, Text)), Text())


def within(limit: Limit, value: float, words: str, system: System = System.METRIC) -> float:
    """The value, if the limit allows it; raises InputError with the range in the unit on display."""
    if not (math.isfinite(value) and limit.allows(value)):
        raise InputError(f"{words}: {limit.said(value, system)} cannot be", accepts=f"Give {limit.range_words(system)}")
    return value


def with_plain_texts(value: T) -> T:
    """A dataclass value whose texts hold only signs that are kept; the value itself where they do. Of a text that held
    nothing else “�” is left.
    """
    return _cleaned_value(value) if any(problem.unclean for problem in field_problems(value)) else value


def _cleaned_value(value: T) -> T:
    kind: type = type(value)
    changes = {
        field.name: found
        for field in dataclasses.fields(value)  # type: ignore[arg-type]
        if (found := _cleaned(item := getattr(value, field.name), kind, field.name)) is not item
    }
    return dataclasses.replace(value, **changes) if changes else value  # type: ignore[type-var]


def _cleaned(item: Any, kind: type, field: str) -> Any:
    if isinstance(item, str) and not isinstance(item, Enum):
        found = plain_text(item, lines=text_of(kind, field).lines)
        return item if found == item else found if found.strip() or not item.strip() else "\N{REPLACEMENT CHARACTER}"
    if isinstance(item, tuple):
        parts = tuple(_cleaned(part, kind, field) for part in item)
        return item if all(a is b for a, b in zip(parts, item, strict=True)) else parts
    return _cleaned_value(item) if dataclasses.is_dataclass(item) and not isinstance(item, type) else item


def admitted(value: T, where: str = "", *, bearable: bool = False) -> T:
    """A value as it may be kept: its texts cleaned, every field within its limits.

    Raises
    ------
    InputError
        About the first field that is not, and `where` it stands; not about texts that older Kelvors kept longer,
        where these are `bearable`.
    """
    value = with_plain_texts(value)
    for problem in field_problems(value):
        if bearable and problem.bearable:
            continue
        raise InputError(problem.in_words(), where=where, accepts=problem.accepts)
    return value


def admitted_text(words: str, rule: Text, what: str) -> str:
    """A text as it may be kept: cleaned, and no longer than `rule` says; raises InputError about `what` otherwise."""
    words = plain_text(words, lines=rule.lines)
    for problem in _text(rule)(words, "", what):
        raise InputError(problem.in_words(), accepts=problem.accepts)
    return words


def typed_name(words: str, what: str = "The name", rule: Text = NAME) -> str:
    """A typed name, plain and trimmed; raises InputError when it is empty or too long."""
    given = plain_text(words, lines=rule.lines).strip()
    for problem in _text(rule)(given, "", what):
        raise InputError(f"{what} {problem.what}", accepts=problem.accepts)
    return given


@cache
def _annotations(kind: type) -> dict[str, tuple[Any, ...]]:
    return {name: tuple(m for part in _parts(hint) for m in part) for name, hint in hints_of(kind).items()}


def _parts(hint: Any) -> Iterator[tuple[Any, ...]]:
    if get_origin(hint) is Annotated:
        yield hint.__metadata__
        yield from _parts(hint.__origin__)
    elif get_origin(hint) in (Union, types.UnionType):
        for choice in get_args(hint):
            yield from _parts(choice)


@cache
def _checker(hint: Any) -> _Check:
    declared: tuple[Any, ...] = ()
    while get_origin(hint) is Annotated:
        declared, hint = (*declared, *hint.__metadata__), hint.__origin__
    origin = get_origin(hint)
    limit = next((m for m in declared if isinstance(m, Limit)), None)
    if hint is float or hint is int:
        return _number(limit, whole=hint is int)
    if hint is bool:
        return _of_type(bool, "true or false")
    if hint is bytes:
        return _of_type(bytes, "a file's bytes")
    if hint is Any:  # a value of any kind that declares its own limits
        return lambda value, path, words: iter(_of_itself(value, path, words))
    if hint is str:
        return _text(next((m for m in declared if isinstance(m, Text)), Text()))
    if origin is Literal:
        return _one_of(get_args(hint))
    if isinstance(hint, type) and issubclass(hint, Enum):
        return _of_type(hint, f"one of {', '.join(str(e.value) for e in hint)}")
    if origin in (Union, types.UnionType):
        return _union(get_args(hint))
    if origin is tuple:
        return _tuple(get_args(hint), next((m for m in declared if isinstance(m, Many)), Many(MOST_ITEMS)))
    if dataclasses.is_dataclass(hint) and isinstance(hint, type):
        along = next((m for m in declared if isinstance(m, Along)), None)
        return _dataclass(hint) if along is None else _along(_dataclass(hint), along)
    raise TypeError(f"no limits for {hint!r}")


def _of_itself(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        kind: Any = type(value)
        yield from _checker(kind)(value, path, words)


def _number(limit: Limit | None, *, whole: bool) -> _Check:
    kinds = (int,) if whole else (float, int)

    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, kinds) or isinstance(value, bool):
            yield FieldProblem(
                path, words, f"“{_shown(value)}” is not a {'whole ' if whole else ''}number", f"Give a {_in(limit)}"
            )
        elif not math.isfinite(value):
            yield FieldProblem(path, words, "it is not finite", f"Give a {_in(limit)}")
        elif limit is not None and not limit.allows(value):
            yield FieldProblem(
                path, words, f"{limit.said(value)} cannot be", f"Give {limit.range_words()}", _document_range(limit)
            )

    return check


def _in(limit: Limit | None) -> str:
    if limit is None:
        return "number"
    unit = limit.unit or _SI.get(limit.quantity, "")
    return f"number{' in ' + unit if unit else ''} from {limit.low:g} to {limit.high:g}"


_SI = {
    Quantity.LENGTH: "m", Quantity.DEPTH: "m", Quantity.HEIGHT: "m", Quantity.FLEX: "m", Quantity.AREA: "m²",
    Quantity.SAIL_AREA: "m²",
    Quantity.VOLUME: "m³", Quantity.MASS: "kg", Quantity.AREAL_MASS: "kg/m²", Quantity.DENSITY: "kg/m³",
    Quantity.SPEED: "m/s",
    Quantity.ANGLE: "rad", Quantity.TWIST: "rad", Quantity.FORCE: "N", Quantity.MOMENT: "N m", Quantity.POWER: "W",
    Quantity.TIME: "s",
    Quantity.PRESSURE: "Pa", Quantity.TEMPERATURE: "K",
}  # fmt: skip
"""The SI unit of a quantity, in which documents are written."""


def document_unit(limit: Limit) -> str:
    """The unit in which documents give a number."""
    return limit.unit or _SI.get(limit.quantity, "")


def _document_range(limit: Limit) -> str:
    """The range as it stands in a document, where that is not what people read."""
    if limit.unit or unit_of(limit.quantity).size == 1.0:
        return ""
    return f"{limit.low:.4g} to {limit.high:.4g} {document_unit(limit)}".rstrip()


def _of_type(kind: type, accepts: str) -> _Check:
    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, kind):
            yield FieldProblem(path, words, f"“{_shown(value)}” is not accepted", f"Give {accepts}")

    return check


def _text(rule: Text) -> _Check:
    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, str):
            yield FieldProblem(path, words, f"“{_shown(value)}” is not a text", f"Give up to {rule.longest} letters")
        elif plain_text(value, lines=rule.lines) != value:
            said = f"“{_shown(value)}” holds signs that cannot be shown"
            yield FieldProblem(path, words, said, "Take them out", unclean=True)
        elif len(value) > rule.longest:
            yield FieldProblem(
                path, words, f"has {len(value)} letters", f"Up to {rule.longest} are kept", bearable=True
            )
        elif len(value.strip()) < rule.least:
            yield FieldProblem(path, words, "is empty", f"Give {rule.least} to {rule.longest} letters")

    return check


def _one_of(choices: tuple[Any, ...]) -> _Check:
    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, str) or value not in choices:
            yield FieldProblem(
                path, words, f"“{_shown(value)}” is not known", f"Known are {', '.join(map(str, choices))}"
            )

    return check


def _union(choices: tuple[Any, ...]) -> _Check:
    inner = [c for c in choices if c is not type(None)]
    optional = len(inner) < len(choices)
    if len(inner) == 1:
        one = _checker(inner[0])
        return lambda value, path, words: iter(()) if optional and value is None else one(value, path, words)
    by_type = {kind: _checker(kind) for kind in inner}

    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        found = by_type.get(type(value))
        if found is not None:
            yield from found(value, path, words)
        elif not (optional and value is None):
            yield FieldProblem(
                path, words, f"“{_shown(value)}” is of no known kind", "Give one of the kinds in the schema"
            )

    return check


def _tuple(inner: tuple[Any, ...], many: Many) -> _Check:
    if len(inner) == 2 and inner[1] is Ellipsis:
        each = _checker(inner[0])

        def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
            if not isinstance(value, tuple):
                yield FieldProblem(path, words, f"“{_shown(value)}” is not a list", "Give a list")
            elif not many.least <= len(value) <= many.most:
                yield FieldProblem(path, words, f"has {len(value)} entries", f"Give {many.least} to {many.most}")
            else:
                for i, item in enumerate(value):
                    if item not in _sound:
                        yield from each(item, f"{path}[{i}]", f"{words} {i + 1}" if words else f"entry {i + 1}")

        return check
    parts = [_checker(part) for part in inner]

    def check_parts(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, tuple) or len(value) != len(parts):
            yield FieldProblem(
                path, words, f"“{_shown(value)}” is not a list of {len(parts)}", f"Give {len(parts)} entries"
            )
        else:
            for i, (part, item) in enumerate(zip(parts, value, strict=True)):
                yield from part(item, f"{path}[{i}]", words)

    return check_parts


def _dataclass(kind: type) -> _Check:
    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if not isinstance(value, kind):
            yield FieldProblem(
                path, words, f"“{_shown(value)}” is not accepted", f"Give an object of the schema's {kind.__name__}"
            )
            return
        if value in _sound:
            return
        name, clean = getattr(value, "name", ""), True
        of = (
            f" of “{one_line(name, 40)}”"
            if isinstance(name, str) and name and path
            else f" of the {words}"
            if words
            else ""
        )
        for field, said, checked, alone in checks():
            item = getattr(value, field)
            if alone and item in _sound:
                continue
            for problem in checked(item, f"{path}.{field}" if path else field, said + of):
                clean = False
                yield problem
        if clean:
            _sound.add(value)

    fields: list[tuple[str, str, _Check, bool]] = []  # name, words, check, and whether it is asked of the value alone

    def checks() -> list[tuple[str, str, _Check, bool]]:
        if not fields:  # made late, for values that hold their own kind
            hints = hints_of(kind)
            for field in dataclasses.fields(kind):
                alone = not any(isinstance(said, Along) for said in declared(kind, field.name))
                fields.append((field.name, field.name.replace("_", " "), _checker(hints[field.name]), alone))
        return fields

    return check


def _along(inner: _Check, along: Along) -> _Check:
    one = _number(along.value, whole=False)
    sound = _Lately()

    def check(value: Any, path: str, words: str) -> Iterator[FieldProblem]:
        if value in sound:
            return
        wrong = [p for p in inner(value, path, words) if not p.path.endswith(("][1]", "].value"))]
        yield from wrong
        if wrong:
            return
        points, clean = getattr(value, "points", None), True
        which, each = (
            ("weights[{}].value", [(w.x, w.value) for w in value.weights])
            if points is None
            else ("points[{}][1]", points)
        )
        for i, (x, y) in enumerate(each):
            for problem in one(y, f"{path}.{which.format(i)}", f"{words} at {x * 100:.1f} cm"):
                clean = False
                yield problem
        if clean:
            sound.add(value)

    return check


class _Lately:
    """Values found sound lately, by identity: a drag changes one part of a board, the others need not be read again."""

    def __init__(self) -> None:
        self._found: dict[int, Any] = {}

    def __contains__(self, value: Any) -> bool:
        return self._found.get(id(value)) is value

    def add(self, value: Any) -> None:
        if len(self._found) > 4000:
            self._found.clear()
        self._found[id(value)] = value


_sound = _Lately()


def _shown(value: Any) -> str:
    """A few letters of anything, whatever it is."""
    if isinstance(value, int) and not isinstance(value, bool) and abs(value) > 10**20:
        return "a number of many digits"
    return one_line(str(value)[:60], 40)
