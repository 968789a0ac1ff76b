"""The workshop: one SQLite file with boards, briefs and every step.

Each committed step is one transaction, flushed to the disk before it returns.
Steps are append-only. The current step belongs to a window: `left_at` only
remembers where the last one stood.
"""

from __future__ import annotations

import contextlib
import json
import sqlite3
import zlib
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients, with_values
from kelvor.core.errors import InputError
from kelvor.core.history.steps import FrozenAs, Step, Steps
from kelvor.core.mass.stages import WeighIn
from kelvor.core.materials.table import HANDBOOK, Cloth, Fibre, MaterialTable, Rates, Resin, Stock
from kelvor.core.plain import from_plain, to_plain
from kelvor.core.seek.holding import Change
from kelvor.core.shape.board import Board
from kelvor.core.shape.construction import Construction
from kelvor.workshop.migrations import APPLICATION_ID, MIGRATIONS

_HEADER = b"SQLite format 3\x00"
_WAIT = 8.0
"""Seconds to wait for another window that is writing."""


_ENTRIES: dict[str, Any] = {"fibre": Fibre, "resin": Resin, "stock": Stock, "cloth": Cloth}


@dataclass(frozen=True, slots=True)
class BoardEntry:
    """A board in the workshop's list."""

    id: int
    name: str
    created_at: str
    parent_step: int | None


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")


DROPPED = "null"
"""Written in place of a construction that is taken off the list."""


class Store:
    """An open workshop file. Use :meth:`open` or :meth:`create`."""

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path, self._db = path, connection

    @staticmethod
    def create(path: Path) -> Store:
        """A new, empty workshop file.

        Raises
        ------
        InputError
            When something stands there already or the folder cannot be written.
        """
        if path.exists():
            raise InputError("a file of this name is there already", where=str(path), accepts="Choose another name")
        try:
            connection = _connect(path)
            connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
            _migrate(connection, 0)
        except sqlite3.Error as error:
            path.unlink(missing_ok=True)
            raise InputError(_words(error), where=str(path), accepts="Choose a folder you can write to") from None
        return Store(path, connection)

    @staticmethod
    def open(path: Path) -> Store:
        """An existing workshop file; a foreign, damaged or newer one is refused and left untouched.

        Raises
        ------
        InputError
            With what is wrong.
        """
        version = _inspect(path)
        try:
            connection = _connect(path)
            if version < len(MIGRATIONS):
                _migrate(connection, version)
        except sqlite3.Error as error:
            raise InputError(_words(error), where=str(path)) from None
        return Store(path, connection)

    def close(self) -> None:
        """Close the file."""
        self._db.close()

    @contextlib.contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing, on the disk when it ends."""
        try:
            self._db.execute("BEGIN IMMEDIATE")
            try:
                yield self._db
                self._db.execute("COMMIT")
            except BaseException:
                if self._db.in_transaction:
                    self._db.execute("ROLLBACK")
                raise
        except sqlite3.Error as error:
            raise InputError(_words(error), where=str(self.path),
                             accepts="Nothing is lost: the step waits in this window. Make room or reconnect, then save again") from None  # fmt: skip

    def _rows(self, query: str, *values: Any) -> list[tuple[Any, ...]]:
        try:
            return self._db.execute(query, values).fetchall()
        except sqlite3.Error as error:
            raise InputError(_words(error), where=str(self.path)) from None

    def changed_elsewhere(self) -> int:
        """A number that changes when another window wrote to the file."""
        return int(self._rows("PRAGMA data_version")[0][0])

    def boards(self) -> list[BoardEntry]:
        """All boards, the newest first."""
        return [BoardEntry(*row) for row in self._rows("SELECT id, name, created_at, parent_step FROM boards ORDER BY id DESC")]

    def add_board(
        self, board: Board, brief: Brief, title: str, volume: float = 0.0, parent_step: int | None = None
    ) -> tuple[int, Step]:
        """A new board with its first step and its brief, and the step it is a child of; its id and that step."""
        now = _now()
        with self._writing() as db:
            cursor = db.execute(
                "INSERT INTO boards (name, created_at, parent_step) VALUES (?, ?, ?)", (board.name, now, parent_step)
            )
            board_id = int(cursor.lastrowid or 0)
            db.execute("INSERT INTO briefs (board_id, made_at, data) VALUES (?, ?, ?)", (board_id, now, _dump(brief)))
            step = _insert(db, board_id, None, 1, now, title, "", (), volume, board)
            db.execute("INSERT INTO left_at VALUES (?, ?, ?)", (board_id, step.id, now))
        return board_id, step

    def brief(self, board_id: int) -> Brief:
        """The board's brief as last written."""
        rows = self._rows("SELECT data FROM briefs WHERE board_id = ? ORDER BY id DESC LIMIT 1", board_id)
        return from_plain(Brief, json.loads(rows[0][0])) if rows else Brief()

    def set_brief(self, board_id: int, brief: Brief) -> None:
        """Write a brief; earlier ones stay in the file."""
        with self._writing() as db:
            db.execute("INSERT INTO briefs (board_id, made_at, data) VALUES (?, ?, ?)", (board_id, _now(), _dump(brief)))

    def append(self, board_id: int, parent: int, board: Board, changes: tuple[Change, ...], *, title: str = "",
               gesture: str = "", volume: float = 0.0, reason: str = "") -> Step:  # fmt: skip
        """Commit a step: on the disk when this returns.

        Raises
        ------
        InputError
            When the disk is full or the file cannot be written; nothing is changed then.
        """
        now = _now()
        with self._writing() as db:
            number = int(
                db.execute("SELECT COALESCE(MAX(number), 0) + 1 FROM steps WHERE board_id = ?", (board_id,)).fetchone()[0]
            )
            step = _insert(db, board_id, parent, number, now, title, gesture, changes, volume, board)
            if reason:
                db.execute("INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)", (step.id, now, reason))
            db.execute("INSERT OR REPLACE INTO left_at VALUES (?, ?, ?)", (board_id, step.id, now))
            if board.name != db.execute("SELECT name FROM boards WHERE id = ?", (board_id,)).fetchone()[0]:
                db.execute("UPDATE boards SET name = ? WHERE id = ?", (board.name, board_id))
        return step

    def steps(self, board_id: int) -> Steps:
        """All steps of a board by id, without their boards."""
        reasons = dict(
            self._rows(
                "SELECT step_id, text FROM reasons WHERE step_id IN (SELECT id FROM steps WHERE board_id = ?) ORDER BY id",
                board_id,
            )
        )
        frozen: dict[int, list[tuple[FrozenAs, str]]] = {}
        for step_id, kind, serial in self._rows(
                "SELECT step_id, kind, serial FROM frozen WHERE step_id IN (SELECT id FROM steps WHERE board_id = ?) ORDER BY id",
                board_id):  # fmt: skip
            frozen.setdefault(step_id, []).append((kind, serial))
        rows = self._rows(
            "SELECT id, parent, number, made_at, title, gesture, changes, volume FROM steps WHERE board_id = ?", board_id
        )
        return {
            row[0]: Step(id=row[0], parent=row[1], number=row[2], made_at=row[3], title=row[4], gesture=row[5],
                         changes=tuple(from_plain(Change, c) for c in json.loads(row[6])), volume=row[7],
                         reason=reasons.get(row[0], ""), frozen=tuple(frozen.get(row[0], ())))
            for row in rows
        }  # fmt: skip

    def board(self, step_id: int) -> Board:
        """The board as it was at a step."""
        rows = self._rows("SELECT snapshot FROM steps WHERE id = ?", step_id)
        if not rows:
            raise InputError(f"there is no step {step_id}", where=str(self.path))
        return from_plain(Board, json.loads(zlib.decompress(rows[0][0])))

    def set_reason(self, step_id: int, text: str) -> None:
        """Write why a step was made; earlier words stay in the file."""
        with self._writing() as db:
            db.execute("INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)", (step_id, _now(), text))

    def freeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Mark a step as drawn, cut, laminated or ridden, with a serial."""
        with self._writing() as db:
            db.execute(
                "INSERT INTO frozen (step_id, made_at, kind, serial) VALUES (?, ?, ?, ?)", (step_id, _now(), kind, serial)
            )

    def pin(self, board_id: int, step_id: int | None) -> None:
        """Pin a step of a board to compare with, or none."""
        with self._writing() as db:
            db.execute("INSERT OR REPLACE INTO pins VALUES (?, ?)", (board_id, step_id))

    def pinned(self, board_id: int) -> int | None:
        """The pinned step, if any."""
        rows = self._rows("SELECT step_id FROM pins WHERE board_id = ?", board_id)
        return rows[0][0] if rows else None

    def leave_at(self, board_id: int, step_id: int) -> None:
        """Remember where a window stands."""
        with self._writing() as db:
            db.execute("INSERT OR REPLACE INTO left_at VALUES (?, ?, ?)", (board_id, step_id, _now()))

    def left_at(self, board_id: int) -> int:
        """The step a window last stood on."""
        rows = self._rows("SELECT step_id FROM left_at WHERE board_id = ?", board_id)
        return int(rows[0][0]) if rows else int(self._rows("SELECT MAX(id) FROM steps WHERE board_id = ?", board_id)[0][0])

    def constructions(self) -> tuple[Construction, ...]:
        """The workshop's constructions, each as last written, in the order they were first made."""
        found: dict[str, str] = {}
        for name, data in self._rows("SELECT name, data FROM constructions ORDER BY id"):
            found[name] = data
        return tuple(from_plain(Construction, json.loads(data)) for data in found.values() if data != DROPPED)

    def keep_construction(self, construction: Construction) -> None:
        """Keep a construction under its name; earlier versions stay in the file."""
        data = json.dumps(to_plain(construction), separators=(",", ":"))
        with self._writing() as db:
            db.execute("INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)", (_now(), construction.name, data))

    def drop_construction(self, name: str) -> None:
        """A construction is no longer on the list; what was written stays in the file."""
        with self._writing() as db:
            db.execute("INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)", (_now(), name, DROPPED))

    def materials(self) -> MaterialTable:
        """The table of materials with what the workshop changed."""
        table = HANDBOOK
        for kind, data in self._rows("SELECT kind, data FROM materials ORDER BY id"):
            if kind == "rates":
                table = replace(table, rates=from_plain(Rates, json.loads(data)))
            else:
                table = table.with_entry(from_plain(_ENTRIES[kind], json.loads(data)))
        return table

    def keep_material(self, entry: Fibre | Resin | Stock | Cloth | Rates) -> None:
        """Keep an entry of the table of materials, or the workshop's rates; earlier ones stay in the file."""
        kind = "rates" if isinstance(entry, Rates) else next(name for name, kind in _ENTRIES.items() if isinstance(entry, kind))
        with self._writing() as db:
            db.execute("INSERT INTO materials (made_at, kind, data) VALUES (?, ?, ?)",
                       (_now(), kind, json.dumps(to_plain(entry), separators=(",", ":"))))  # fmt: skip

    def coefficients(self) -> Coefficients:
        """The coefficients of drive and ride with what the workshop changed."""
        return with_values(
            {name: float(value) for name, value in self._rows("SELECT name, value FROM coefficients ORDER BY id")}
        )

    def keep_coefficient(self, name: str, value: float) -> None:
        """Keep a coefficient; earlier values stay in the file."""
        with self._writing() as db:
            db.execute("INSERT INTO coefficients (made_at, name, value) VALUES (?, ?, ?)", (_now(), name, value))

    def weighings(self, board_id: int) -> tuple[WeighIn, ...]:
        """The last weigh-in of each stage that was not taken back."""
        rows = self._rows("SELECT stage, mass FROM weighings WHERE board_id = ? ORDER BY id", board_id)
        return tuple(WeighIn(stage, mass) for stage, mass in dict(rows).items() if mass > 0)

    def weigh(self, board_id: int, step_id: int, weighed: WeighIn, source: str) -> None:
        """Write a weigh-in; earlier ones stay in the file. A mass of zero takes the stage's weigh-in back."""
        with self._writing() as db:
            db.execute("INSERT INTO weighings (board_id, step_id, made_at, stage, mass, source) VALUES (?, ?, ?, ?, ?, ?)",
                       (board_id, step_id, _now(), weighed.stage, weighed.mass, source))  # fmt: skip

    def last_board(self) -> int | None:
        """The board somebody last worked on."""
        rows = self._rows("SELECT board_id FROM left_at ORDER BY at DESC, board_id DESC LIMIT 1")
        return int(rows[0][0]) if rows else None


def _insert(db: sqlite3.Connection, board_id: int, parent: int | None, number: int, now: str, title: str, gesture: str,
            changes: tuple[Change, ...], volume: float, board: Board) -> Step:  # fmt: skip
    snapshot = zlib.compress(json.dumps(to_plain(board), separators=(",", ":")).encode(), 6)
    cursor = db.execute(
        "INSERT INTO steps (board_id, parent, number, made_at, title, gesture, changes, volume, snapshot) VALUES (?,?,?,?,?,?,?,?,?)",
        (board_id, parent, number, now, title, gesture, json.dumps([to_plain(c) for c in changes]), volume, snapshot),
    )
    return Step(id=int(cursor.lastrowid or 0), parent=parent, number=number, changes=changes, title=title, made_at=now,
                gesture=gesture, volume=volume)  # fmt: skip


def _dump(brief: Brief) -> str:
    return json.dumps(to_plain(brief), separators=(",", ":"))


def _connect(path: Path) -> sqlite3.Connection:
    connection = sqlite3.connect(path, timeout=_WAIT, isolation_level=None)
    connection.execute("PRAGMA journal_mode = DELETE")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


def _migrate(connection: sqlite3.Connection, version: int) -> None:
    """Bring a file from `version` to the newest, all in one transaction."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        for script in MIGRATIONS[version:]:
            for statement in script.split(";"):
                if statement.strip():
                    connection.execute(statement)
        connection.execute(f"PRAGMA user_version = {len(MIGRATIONS)}")
        connection.execute("COMMIT")
    except BaseException:
        connection.execute("ROLLBACK")
        raise


def _inspect(path: Path) -> int:
    """The file's version, read without touching it."""
    where = str(path)
    if not path.exists():
        raise InputError("there is no such file", where=where, accepts="Make a new workshop, or choose another file")
    try:
        with open(path, "rb") as file:
            header = file.read(100)
    except OSError as error:
        raise InputError(error.strerror or "the file cannot be read", where=where) from None
    if header[:16] != _HEADER:
        raise InputError(
            "this is no workshop file", where=where, accepts="Choose a .kelvor file; a board document is opened by Import"
        )
    # SQLite file format: user_version at byte 60, application_id at byte 68, big-endian
    version, application = int.from_bytes(header[60:64], "big"), int.from_bytes(header[68:72], "big")
    if application != APPLICATION_ID:
        raise InputError("this database belongs to another program", where=where, accepts="Choose a .kelvor file")
    if version > len(MIGRATIONS):
        raise InputError(
            f"the file is of version {version}, newer than this Kelvor ({len(MIGRATIONS)})",
            where=where,
            accepts="Open it with a newer Kelvor",
        )
    try:
        connection = _reading(path)
        try:
            damage = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
        finally:
            connection.close()
    except sqlite3.Error as error:
        raise InputError(_words(error), where=where, accepts="It is left as it is; open a copy kept elsewhere") from None
    if damage != "ok":
        raise InputError(
            f"the file is damaged ({damage[:80]})", where=where, accepts="It is left as it is; open a copy kept elsewhere"
        )
    return version


def _reading(path: Path) -> sqlite3.Connection:
    """A connection to look at a file. Read-only, unless a process died while writing: its journal must then be rolled back."""
    mode = "rw" if path.with_name(path.name + "-journal").exists() else "ro"
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode={mode}", uri=True, timeout=_WAIT)


def check_file(path: Path) -> list[str]:
    """Every problem of a workshop file: the file itself, then each step's board."""
    try:
        version = _inspect(path)
    except InputError as error:
        return [error.what]
    if version < len(MIGRATIONS):
        return []
    found = []
    connection = _reading(path)
    try:
        for step_id, snapshot in connection.execute("SELECT id, snapshot FROM steps"):
            try:
                from_plain(Board, json.loads(zlib.decompress(snapshot)))
            except (ValueError, KeyError, TypeError, zlib.error):
                found.append(f"step {step_id}: its board cannot be read")
    finally:
        connection.close()
    return found


def _words(error: sqlite3.Error) -> str:
    text = str(error)
    known = {
        "database or disk is full": "the disk is full", "attempt to write a readonly database": "the file or its folder is read-only",
        "unable to open database file": "the file cannot be opened or its folder not written", "database is locked": "another program holds the file",
        "database disk image is malformed": "the file is damaged", "file is not a database": "this is no workshop file",
        "disk I/O error": "the disk cannot be written",
    }  # fmt: skip
    return next((words for key, words in known.items() if key in text), text)
