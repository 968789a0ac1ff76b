"""Rows of the workshop file: values packed and unpacked, with every field checked against its declared limits."""

from __future__ import annotations

import contextlib
import json
import zlib
from collections.abc import Callable, Iterator
from contextvars import ContextVar
from datetime import UTC, datetime
from typing import Any, TypeVar

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import Many, Text, admitted, field_problems, with_plain_texts
from kelvor.core.base.snapshot import from_plain, to_plain
from kelvor.core.build.materials.table import Cloth, CoreMaterial, Fibre, Rates, Resin
from kelvor.core.levers.locks import Change
from kelvor.core.shape.board import Board

LARGEST_SNAPSHOT = 4 * 1024 * 1024
"""No board is larger than this when it is unpacked [bytes]."""
DROPPED = "null"
"""Written in place of a construction that is taken off the list."""
MATERIALS: dict[str, Any] = {"fibre": Fibre, "resin": Resin, "stock": CoreMaterial, "cloth": Cloth, "rates": Rates}

TIME = Text(40)
TITLE = Text(1000)
GESTURE = Text(200)
REASON = Text(20_000, lines=True)
SERIAL = Text(2000)
CHANGES = Many(2000)
CARD = Text(1 << 20)
"""What the columns of a step can be, for the writer and for the reader of rows."""

RESCUE = "kelvor rescue writes what is sound into a new file"

T = TypeVar("T")


class Damaged(InputError):
    """A row of the file that cannot be used."""


def packed(board: Board) -> bytes:
    """A board as it lies in the file."""
    return zlib.compress(written(board).encode(), 6)


def written(value: Any) -> str:
    """A value, or a list of them, as text; raises InputError where a field of one is outside its limits: what was
    written can always be read.
    """
    if isinstance(value, list):
        return to_text([admitted(item, bearable=True) for item in value])
    return to_text(admitted(value, bearable=True))


def to_text(value: Any) -> str:
    """A value, or a list of them, as it lies in the file."""
    return json.dumps(to_plain(value), separators=(",", ":"))


def unpacked(blob: object) -> Board:
    """The board of a step, its texts cleaned; raises like :func:`unpacked_raw`."""
    return with_plain_texts(unpacked_raw(blob))


def unpacked_raw(blob: object) -> Board:
    """The board of a step as it was written.

    Raises
    ------
    InputError
        When it cannot be read, unpacks to more than any board has, or a field is outside its limits.
    """
    if not isinstance(blob, bytes):
        raise InputError("its board is not kept as it should be")
    stream = zlib.decompressobj()
    try:
        data = stream.decompress(blob, LARGEST_SNAPSHOT)
    except zlib.error:
        raise InputError("its board cannot be unpacked") from None
    if stream.unconsumed_tail:
        raise InputError("its board unpacks to more than any board has")
    if not stream.eof:
        raise InputError("its board is cut off")
    return read_raw(Board, data, "its board")


def read(kind: type[T], data: object, what: str) -> T:
    """A value from its text, its texts cleaned: older Kelvors wrote any; raises like :func:`read_raw`."""
    return with_plain_texts(read_raw(kind, data, what))


def read_raw(kind: type[T], data: object, what: str) -> T:
    """A value as it was written; raises InputError when it is no such value, or a field is outside its limits."""
    try:
        if not isinstance(data, (str, bytes)):
            raise TypeError
        value = from_plain(kind, json.loads(data))
    except (ValueError, KeyError, TypeError, AttributeError, IndexError, RecursionError, OverflowError):
        raise InputError(f"{what} cannot be read") from None
    wrong = [problem for problem in field_problems(value) if not (problem.bearable or problem.unclean)]
    if wrong:
        raise InputError(f"{what} has {wrong[0].sentence()}"[:-1])
    return value


def changes_of(data: object) -> tuple[Change, ...]:
    """What a step changed, its texts cleaned; raises InputError when that cannot be read."""
    return tuple(with_plain_texts(change) for change in changes_raw(data))


def changes_raw(data: object) -> list[Change]:
    """What a step changed, as it was written; raises InputError when that cannot be read."""
    try:
        if not isinstance(data, str):
            raise TypeError
        items = json.loads(data)
        if not isinstance(items, list):
            raise TypeError
        found = [from_plain(Change, item) for item in items]
    except (ValueError, KeyError, TypeError, AttributeError, IndexError, RecursionError, OverflowError):
        raise InputError("what it changed cannot be read") from None
    if any(not (problem.bearable or problem.unclean) for change in found for problem in field_problems(change)):
        raise InputError("what it changed cannot be read")
    return found


_written_at: ContextVar[str] = ContextVar("written_at", default="")


def now() -> str:
    """The time that is written beside a row."""
    return _written_at.get() or datetime.now(UTC).isoformat(timespec="milliseconds")


@contextlib.contextmanager
def written_at(moment: datetime) -> Iterator[None]:
    """What is written here is dated then: an invented past."""
    token = _written_at.set(moment.astimezone(UTC).isoformat(timespec="milliseconds"))
    try:
        yield
    finally:
        _written_at.reset(token)


@contextlib.contextmanager
def damaged_at(where: Callable[[], str]) -> Iterator[None]:
    """What is wrong inside is a damaged row, and said to be at this place."""
    try:
        yield
    except Damaged:
        raise
    except InputError as error:
        raise Damaged(
            error.what, where=where(), accepts="The others are sound; Save a repaired copy leaves it out"
        ) from None
