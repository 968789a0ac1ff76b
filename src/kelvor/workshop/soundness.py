"""What of a workshop file is sound: every row of every kind and version read, and each that is not named with its
place.

The file is only read. A row that cannot be used is left out, or mended where
nothing of the work is in doubt: a step without its words, a board whose name is
gone. :mod:`kelvor.workshop.rescue` writes what is sound into a new file.
"""

from __future__ import annotations

import math
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar, get_args

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import NAME, Text, field_problems, limit_of, with_plain_texts
from kelvor.core.base.plain_text import cut_short, one_line, plain_text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import Stage, WeighIn
from kelvor.core.history.steps import FROZEN_KINDS
from kelvor.core.register.kinds import KINDS, value_of
from kelvor.core.register.record import ORIGINS, SHA, UID
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import ABOUT
from kelvor.workshop.opening import (
    damage_of,
    looking,
    made_elsewhere,
    trouble,
    version_in,
    version_of,
)
from kelvor.workshop.rows import (
    DROPPED,
    GESTURE,
    LARGEST_SNAPSHOT,
    MATERIALS,
    REASON,
    SERIAL,
    TIME,
    TITLE,
    changes_raw,
    packed,
    read_raw,
    to_text,
    unpacked_raw,
)

COLUMNS: dict[str, tuple[str, ...]] = {
    "boards": ("id", "name", "created_at", "parent_step"),
    "steps": ("id", "board_id", "parent", "number", "made_at", "title", "gesture", "changes", "volume", "snapshot"),
    "briefs": ("id", "board_id", "made_at", "data"),
    "reasons": ("id", "step_id", "made_at", "text"),
    "frozen": ("id", "step_id", "made_at", "kind", "serial"),
    "pins": ("board_id", "step_id"),
    "left_at": ("board_id", "step_id", "at"),
    "constructions": ("id", "made_at", "name", "data"),
    "materials": ("id", "made_at", "kind", "data"),
    "weighings": ("id", "board_id", "step_id", "made_at", "stage", "mass", "origin"),
    "coefficients": ("id", "made_at", "name", "value"),
    "records": ("id", "uid", "kind", "made_at", "origin", "gone", "board_id", "step_id", "data"),
    "blob_parts": ("id", "sha", "part", "data"),
}
"""Every table, in an order in which rows can be written anew."""
DERIVED = ("cards",)
"""Tables that can be counted again: not looked into, and left out of a repaired copy."""
SINCE = {"constructions": 2, "materials": 2, "weighings": 2, "coefficients": 3, "records": 5, "blob_parts": 5}
"""The version of the file in which a table came; the others were there from the first."""
ONCE = {("weighings", "origin"): (4, "CASE WHEN source LIKE '%simulated%' THEN 'simulated' ELSE 'measured' END")}
"""Columns that came or were renamed later: since which version, and what stands for them in a file before it."""
MARK = Text(40)
"""What a kind, a stage or an origin can be."""
FARTHEST_ROW = 1 << 40
"""Where rows end when the file cannot say it."""
_UNREADABLE = (sqlite3.Error, OverflowError, UnicodeDecodeError)
"""What SQLite's module raises over damage; the last where its own words quote bytes."""
MOST_TRIES = 3000
"""So many stretches that cannot be read are looked into for rows that can."""

T = TypeVar("T")
Row = tuple[Any, ...]


@frozen
class Damage:
    """Something in the file that cannot be used: where it is, what is wrong, and what became of it."""

    where: str
    what: str

    def __str__(self) -> str:
        return f"{self.where}: {self.what}"


@dataclass(slots=True)
class Sound:
    """The rows that are sound, by table, and what is not."""

    rows: dict[str, list[Row]] = field(default_factory=lambda: {table: [] for table in COLUMNS})
    damages: list[Damage] = field(default_factory=list)
    cleaned: list[Damage] = field(default_factory=list)
    """Texts older Kelvors kept as they came, which are read without signs that cannot be shown, or cut short."""

    def kept(self) -> str:
        """What there is, in words."""
        counts = (
            (len(self.rows[table]), words)
            for table, words in (("boards", "boards"), ("steps", "steps"), ("briefs", "briefs"))
        )
        return ", ".join(f"{count} {words}" for count, words in counts)


def examined(path: Path, wait: float) -> Sound:
    """Everything sound in a file, and everything that is not.

    Raises
    ------
    InputError
        When there is no such file, it is no workshop, or another program holds it.
    """
    version = version_of(path)
    try:
        with closing(looking(path, wait)) as connection:
            damaged = damage_of(connection)
            with suppress(sqlite3.DatabaseError):  # a damaged header: as it told before
                version = version_in(connection)
            found = sound_rows(connection, version)
    except sqlite3.Error as error:
        raise trouble(error, path, None) from None
    if damaged and not found.damages:
        found.damages.append(Damage("the file", damaged))
    return found


def sound_rows(db: sqlite3.Connection, version: int) -> Sound:
    """Read every row of a connection to a file of a version."""
    kept = db.text_factory
    db.text_factory = _Words
    try:
        return _Reader(db, version).read()
    finally:
        db.text_factory = kept


class _Words(bytes):
    """A text as it lies in the file, which need not be one; told apart from a blob."""


class _Given:
    """Rows as they lie in a file, each key once; what cannot be read is named and left out."""

    def __init__(self, db: sqlite3.Connection, version: int) -> None:
        self._db, self._version = db, version
        self._found = Sound()
        self._foreign: set[str] = set()
        with suppress(*_UNREADABLE):  # each table tells it then
            self._foreign = made_elsewhere(db)

    def _wrong(self, where: str, what: str) -> None:
        self._found.damages.append(Damage(where, what))

    def _rows(self, table: str) -> Iterator[Row]:
        """Every row that the disk gives, each key once; where it gives none, or one twice, that is named."""
        seen: set[int] = set()
        for row in self._given(table):
            if not isinstance(row[0], int) or row[0] in seen:
                self._wrong(f"{table}, row {_shown(row[0])}", "is there twice, or has no number of its own")
                continue
            seen.add(row[0])
            yield row

    def _column(self, table: str, name: str) -> str:
        since, before = ONCE.get((table, name), (1, name))
        return name if self._version >= since else before

    def _given(self, table: str) -> Iterator[Row]:
        if SINCE.get(table, 1) > self._version:
            return
        if table in self._foreign:
            self._wrong(f"table {table}", "something of another make stands in its place, and is not looked into")
            return
        columns = ", ".join(self._column(table, name) for name in COLUMNS[table])
        key = COLUMNS[table][0]
        last = 0
        try:
            for row in self._db.execute(f"SELECT {columns} FROM {table} ORDER BY {key}"):
                last = row[0] if isinstance(row[0], int) else last
                yield row
            return
        except _UNREADABLE as error:
            if "no such" in str(error):
                self._wrong(f"table {table}", "it is missing from the file")
                return
            if any(words in str(error) for words in ("not a database", "schema", "closed")):
                self._wrong(f"table {table}", "nothing of it can be read")
                return
        after: list[Row] = []
        with suppress(*_UNREADABLE):
            after.extend(
                self._db.execute(f"SELECT {columns} FROM {table} WHERE {key} > ? ORDER BY {key} DESC", (last,))
            )
        yield from self._piecewise(table, columns, key, last + 1, after[-1][0] - 1 if after else FARTHEST_ROW)
        yield from reversed(after)

    def _piecewise(self, table: str, columns: str, key: str, first: int, last: int) -> Iterator[Row]:
        """The rows of a damaged stretch, by ever smaller ranges; what cannot be read is named."""
        lost: list[tuple[int, int]] = []
        ranges = [(first, last)] if last >= first else []
        tries = MOST_TRIES
        while ranges:
            low, high = ranges.pop()
            try:
                rows = self._db.execute(
                    f"SELECT {columns} FROM {table} WHERE {key} BETWEEN ? AND ? ORDER BY {key}", (low, high)
                ).fetchall()
            except _UNREADABLE:
                tries -= 1
                if low < high and tries > 0:
                    middle = (low + high) // 2
                    ranges += [(middle + 1, high), (low, middle)]
                elif lost and lost[-1][1] == low - 1:
                    lost[-1] = (lost[-1][0], high)
                else:
                    lost.append((low, high))
                continue
            yield from rows
        for low, high in lost:
            which = (
                f"row {low}"
                if low == high
                else f"from row {low} on"
                if high >= FARTHEST_ROW
                else f"rows {low} to {high}"
            )
            self._wrong(f"{table}, {which}", "cannot be read from the disk")

    # what is in them

    def _clean(self, words: str, rule: Text, where: str, what: str) -> str:
        """A text as it may be kept; what had to go from it is told."""
        found = cut_short(plain_text(words, lines=rule.lines), rule.longest)
        if found != words:
            self._found.cleaned.append(Damage(where, f"{what} is read as “{one_line(found, 60)}”"))
        return found

    def _part(self, data: object, rule: Text, where: str, what: str) -> str:
        found = _text(data)
        if found is None:
            self._wrong(where, f"{what} cannot be read and is left empty")
        return self._clean(found or "", rule, where, what)

    def _said(self, data: object, rule: Text, where: str, what: str = "its text") -> str:
        found = _text(data)
        if found is None:
            raise InputError("its words cannot be read", where=where)
        return self._clean(found, rule, where, what)

    def _changes(self, data: object, where: str) -> str:
        found = _text(data)
        try:
            as_written = changes_raw(found)
        except InputError as error:
            self._wrong(where, f"{error.what}; the board itself is sound")
            return "[]"
        assert found is not None
        kept = [self._as_kept(change, where) for change in as_written]
        return found if kept == as_written else to_text(kept)

    def _as_kept(self, raw: T, where: str) -> T:
        """A value as it may be kept: cleaned, which is told."""
        found = with_plain_texts(raw)
        for problem in field_problems(raw) if found is not raw else ():
            self._found.cleaned.append(Damage(where, f"{problem.path} {problem.what}; they are left out"))
        return found

    def _figure(self, value: object, where: str) -> float:
        if isinstance(value, float) and math.isfinite(value) and abs(value) < 10:
            return value
        self._wrong(where, "its volume cannot be; it is told as nothing")
        return 0.0


class _Reader(_Given):
    """One pass over a file. Steps first: they are the work, and tell which boards there are."""

    def __init__(self, db: sqlite3.Connection, version: int) -> None:
        super().__init__(db, version)
        self._names: dict[int, str] = {}
        self._parents: dict[int, int | None] = {}
        self._numbers: dict[int, int] = {}
        self._owners: dict[int, int] = {}
        self._steps: dict[int, int] = {}

    def read(self) -> Sound:
        boards = {row[0]: row for row in self._rows("boards") if isinstance(row[0], int)}
        self._names = {key: name for key, row in boards.items() if (name := _text(row[1])) is not None and name.strip()}
        self._read_steps(boards)
        self._read_boards(boards)
        add = self._found.rows
        for table, mend in (
            ("briefs", self._brief),
            ("reasons", self._reason),
            ("frozen", self._mark),
            ("pins", self._pin),
            ("left_at", self._left),
            ("constructions", self._construction),
            ("materials", self._material),
            ("weighings", self._weighing),
            ("coefficients", self._coefficient),
            ("records", self._record),
            ("blob_parts", self._blob_part),
        ):
            for row in self._rows(table):
                try:
                    add[table].append(mend(row))
                except InputError as error:
                    self._wrong(error.where, error.what)
        return self._found

    def _board(self, key: object) -> str:
        return f"“{self._names[key]}”" if isinstance(key, int) and key in self._names else f"board {_shown(key)}"

    def _step(self, key: object) -> str:
        if isinstance(key, int) and key in self._numbers:
            return f"{self._board(self._owners.get(key))}, step {self._numbers[key]}"
        return f"step {_shown(key)}"

    def _read_steps(self, boards: dict[int, Row]) -> None:
        raw = [row for row in self._rows("steps") if self._whole(row)]
        self._parents = {row[0]: row[2] if isinstance(row[2], int) else None for row in raw}
        self._owners = self._steps = {row[0]: row[1] for row in raw}
        self._numbers = {row[0]: row[3] for row in raw if isinstance(row[3], int)}
        last: dict[int, int] = {}
        good: set[int] = set()
        for key, board_id, parent, number, made_at, title, gesture, changes, volume, snapshot in raw:
            where = self._step(key)
            try:
                as_written = unpacked_raw(None if isinstance(snapshot, _Words) else snapshot)
            except InputError as error:
                self._wrong(where, error.what)
                continue
            board = self._as_kept(as_written, where)
            if board_id not in self._names:
                self._names[board_id] = board.name
                if board_id in boards:
                    self._wrong(f"board {board_id}", f"its name cannot be read; “{board.name}” is taken from a step")
                else:
                    self._wrong(f"“{board.name}”", "its entry is missing; it is made anew from its steps")
            last[board_id] = max(
                last.get(board_id, 0) + 1, number if isinstance(number, int) and 0 < number < 1 << 31 else 0
            )
            row = (
                key,
                board_id,
                self._ancestor(key, good, where),
                last[board_id],
                self._part(made_at, TIME, where, "its time"),
                self._part(title, TITLE, where, "its title"),
                self._part(gesture, GESTURE, where, "its gesture"),
                self._changes(changes, where),
                self._figure(volume, where),
                snapshot if board is as_written else packed(board),
            )
            if last[board_id] != number:
                self._wrong(where, "its number cannot be; it is numbered anew")
            if not isinstance(parent, (int, type(None))):
                self._wrong(where, "which step it follows cannot be read; it begins a line of its own")
            good.add(key)
            self._found.rows["steps"].append(row)
        self._steps = {key: self._steps[key] for key in good}

    def _whole(self, row: Row) -> bool:
        if isinstance(row[0], int) and isinstance(row[1], int) and row[1] > 0:
            return True
        self._wrong(f"step {_shown(row[0])}", "it belongs to no board")
        return False

    def _ancestor(self, key: int, good: set[int], where: str) -> int | None:
        """The step before this one, or the nearest sound one before that."""
        asked = self._parents[key]
        found = asked if asked in good and self._owners[asked] == self._owners[key] else self._nearest(key, good)
        if found != asked:
            self._wrong(where, "the step before it is not sound; it follows the nearest that is")
        return found

    def _nearest(self, key: int, good: set[int]) -> int | None:
        """The nearest sound step before one, of the same board."""
        at, walked = self._parents.get(key), {key}
        while at is not None and at not in walked and not (at in good and self._owners[at] == self._owners.get(key)):
            walked.add(at)
            at = self._parents.get(at)
        return None if at in walked else at

    def _read_boards(self, boards: dict[int, Row]) -> None:
        alive = dict.fromkeys(row[1] for row in self._found.rows["steps"])
        for key, row in boards.items():
            if key not in alive:
                self._wrong(self._board(key), "none of its steps can be read")
            elif not isinstance(row[3], (int, type(None))) or (row[3] is not None and row[3] not in self._steps):
                self._wrong(self._board(key), "the step it is a child of is not there")
        for key in alive:
            row = boards.get(key, (key, _Words(), _Words(), None))
            made_at = self._part(row[2], TIME, self._board(key), "its time")
            self._found.rows["boards"].append(
                (
                    key,
                    self._clean(self._names[key], NAME, self._board(key), "its name"),
                    made_at,
                    row[3] if row[3] in self._steps else None,
                )
            )

    def _known_board(self, key: object, what: str) -> None:
        if not any(key == board for board in self._steps.values()):
            raise InputError("it belongs to no board", where=what)

    def _known_step(self, key: object, what: str) -> None:
        if not isinstance(key, int) or key not in self._steps:
            raise InputError("the step it belongs to is not there", where=what)

    def _brief(self, row: Row) -> Row:
        where = f"{self._board(row[1])}, brief {_shown(row[0])}"
        self._known_board(row[1], where)
        return (row[0], row[1], self._said(row[2], TIME, where), self._value(Brief, row[3], where))

    def _reason(self, row: Row) -> Row:
        where = f"{self._step(row[1])}, reason"
        self._known_step(row[1], where)
        return (row[0], row[1], self._said(row[2], TIME, where), self._said(row[3], REASON, where))

    def _mark(self, row: Row) -> Row:
        where = f"{self._step(row[1])}, mark"
        self._known_step(row[1], where)
        if _text(row[3]) not in FROZEN_KINDS:
            raise InputError(f"there is no mark “{_shown(row[3])}”", where=where)
        kind = self._said(row[3], MARK, where)
        return (row[0], row[1], self._said(row[2], TIME, where), kind, self._said(row[4], SERIAL, where, "its serial"))

    def _pin(self, row: Row) -> Row:
        where = f"{self._board(row[0])}, pin"
        self._known_board(row[0], where)
        if row[1] is not None:
            self._known_step(row[1], where)
        return row

    def _left(self, row: Row) -> Row:
        where = f"{self._board(row[0])}, where it was left"
        self._known_board(row[0], where)
        step = row[1]
        if not isinstance(step, int) or self._steps.get(step) != row[0]:
            near = self._nearest(step, set(self._steps)) if isinstance(step, int) else None
            own = [key for key, board in self._steps.items() if board == row[0]]
            step = near if near in own else max(own)
            self._wrong(where, "its step is not there; it stands at the nearest that is")
        return (row[0], step, self._said(row[2], TIME, where))

    def _construction(self, row: Row) -> Row:
        name = self._said(row[2], NAME, f"constructions, entry {_shown(row[0])}")
        where = f"construction “{name}”"
        data = DROPPED if row[3] == DROPPED.encode() else self._value(Construction, row[3], where)
        return (row[0], self._said(row[1], TIME, where), name, data)

    def _material(self, row: Row) -> Row:
        where = f"materials, entry {_shown(row[0])}"
        kind = self._said(row[2], MARK, where)
        if kind not in MATERIALS:
            raise InputError(f"there is no kind “{one_line(kind, 40)}”", where=where)
        return (row[0], self._said(row[1], TIME, where), kind, self._value(MATERIALS[kind], row[3], where))

    def _weighing(self, row: Row) -> Row:
        where = f"{self._board(row[1])}, weigh-in {_shown(row[0])}"
        self._known_board(row[1], where)
        self._known_step(row[2], where)
        stage = self._said(row[4], MARK, where)
        if stage not in get_args(Stage):
            raise InputError(f"there is no stage “{one_line(stage, 40)}”", where=where)
        mass = _in_range(row[5], limit_of(WeighIn, "mass").allows, where)
        origin = self._said(row[6], MARK, where)
        if origin not in get_args(Origin):
            raise InputError(f"there is no origin “{one_line(origin, 40)}”", where=where)
        return (*row[:3], self._said(row[3], TIME, where), stage, mass, origin)

    def _coefficient(self, row: Row) -> Row:
        name = self._said(row[2], NAME, f"coefficients, entry {_shown(row[0])}")
        about, where = ABOUT.get(name), f"coefficient “{one_line(name, 40)}”"
        if about is None:
            raise InputError("there is none of this name", where=where)
        return (
            row[0],
            self._said(row[1], TIME, where),
            name,
            _in_range(row[3], lambda v: about.low <= v <= about.high, where),
        )

    def _record(self, row: Row) -> Row:
        where = f"record {_shown(row[0])}"
        uid, made_at = self._said(row[1], UID, where), self._said(row[3], TIME, where)
        kind, origin = (self._said(row[i], MARK, where) for i in (2, 4))
        if kind not in KINDS or origin not in ORIGINS:
            raise InputError(f"there is no record “{one_line(kind, 40)}”, {one_line(origin, 40)}", where=where)
        if row[5] not in (0, 1):
            raise InputError("whether it is gone cannot be read", where=where)
        if row[6] is not None:
            self._known_board(row[6], where)
        if row[7] is not None:
            self._known_step(row[7], where)
        return (row[0], uid, kind, made_at, origin, row[5], row[6], row[7], self._value(value_of(kind), row[8], where))

    def _blob_part(self, row: Row) -> Row:
        where = f"blob {_shown(row[0])}"
        if not isinstance(row[2], int) or not isinstance(row[3], bytes) or isinstance(row[3], _Words):
            raise InputError("a part of it cannot be read", where=where)
        return (row[0], self._said(row[1], SHA, where), row[2], row[3])

    def _value(self, kind: type[Any], data: object, where: str) -> str:
        found = _text(data)
        try:
            raw = read_raw(kind, found, "it")
        except InputError as error:
            raise InputError(error.what, where=where) from None
        assert found is not None
        kept = self._as_kept(raw, where)
        return found if kept is raw else to_text(kept)


def _text(data: object) -> str | None:
    """A text as it lies in the file; None when it is none, longer than any, or no UTF-8."""
    if not isinstance(data, _Words) or len(data) > LARGEST_SNAPSHOT:
        return None
    try:
        return data.decode()
    except UnicodeDecodeError:
        return None


def _in_range(value: object, allows: Callable[[float], bool], where: str) -> float:
    if not isinstance(value, float) or not math.isfinite(value) or not allows(value):
        raise InputError(f"“{_shown(value)}” cannot be", where=where)
    return value


def _shown(value: object) -> str:
    return one_line(value.decode(errors="replace") if isinstance(value, bytes) else str(value), 40)
