"""Opening a workshop file: looking at it without touching it, and what the disk says in words."""

from __future__ import annotations

import os
import sqlite3
from pathlib import Path
from typing import Any

from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.values import frozen
from kelvor.files import APPLICATION_ID, SQLITE_HEADER, refusal_reason
from kelvor.workshop.migrations import MIGRATIONS

WAIT = 8.0
"""Seconds a command waits for another program that holds the file."""
GLANCE = 0.006
"""Seconds a window waits for it: a part of a frame, then it goes on and tries again by itself."""
_ONLY_ADDED = {"boards": "created_at"} | dict.fromkeys(
    ("briefs", "steps", "reasons", "constructions", "materials", "weighings", "coefficients", "records"), "made_at"
)
"""Tables whose rows are only added, and what tells when."""
_OURS = f"PRAGMA application_id = {APPLICATION_ID}"


class FileHeld(InputError):
    """Another program holds the file just now; trying again helps."""


class FileGone(InputError):
    """The file was moved, deleted, replaced or overwritten while it was open: saving into it can never work again."""


@frozen
class Identity:
    """Which file was opened: device, inode."""

    device: int
    inode: int

    @staticmethod
    def of(path: Path) -> Identity | None:
        """Of the file that stands at a path now."""
        try:
            found = os.stat(path)
        except OSError:
            return None
        return Identity(found.st_dev, found.st_ino)


def connect(path: Path, wait: float, *, fresh: bool = False) -> sqlite3.Connection:
    """A connection to read and write; `fresh` marks a new file as ours. Raises sqlite3.Error."""
    connection = sqlite3.connect(
        f"{_uri(path)}?mode=rw", uri=True, timeout=wait, isolation_level=None, check_same_thread=False
    )
    if fresh:
        connection.execute(_OURS)
    connection.execute("PRAGMA journal_mode = DELETE")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


def looking(path: Path, wait: float) -> sqlite3.Connection:
    """A connection to look at a file. Read-only, unless a process died while writing: its journal must then be rolled
    back.
    """
    real = Path(os.path.realpath(path))  # SQLite keeps the journal beside the file itself, not beside a link to it
    mode = "rw" if real.with_name(real.name + "-journal").exists() else "ro"
    return sqlite3.connect(
        f"{_uri(real)}?mode={mode}", uri=True, timeout=wait, isolation_level=None, check_same_thread=False
    )


def _uri(path: Path) -> str:
    return Path(os.path.realpath(path)).as_uri()


def migrate(connection: sqlite3.Connection, version: int) -> None:
    """Bring a file from `version` to the newest, all in one transaction."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        for statements in MIGRATIONS[version:]:
            for statement in statements:
                connection.execute(statement)
        connection.execute(f"PRAGMA user_version = {len(MIGRATIONS)}")
        connection.execute("COMMIT")
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise


def version_of(path: Path) -> int:
    """The file's version, read from its header.

    Raises
    ------
    InputError
        When it is missing, cannot be read, is no workshop, or was written by a newer Kelvor.
    """
    where = str(path)
    try:
        if path.is_dir():
            raise InputError("this is a folder", where=where, accepts="Choose a .kelvor file")
        if not path.is_file() and path.exists():
            raise InputError("this is no regular file", where=where, accepts="Choose a .kelvor file")
        with open(path, "rb") as file:
            header = file.read(100)
    except FileNotFoundError:
        raise InputError(
            "there is no such file", where=where, accepts="Make a new workshop, or choose another file"
        ) from None
    except (OSError, ValueError) as error:
        raise InputError(
            refusal_reason(error) if isinstance(error, OSError) else "this is no file name", where=where
        ) from None
    if header[:16] != SQLITE_HEADER or len(header) < 100:
        raise InputError(
            "this is no workshop file",
            where=where,
            accepts="Choose a .kelvor file; a board document is opened by Import",
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
    return version


def version_in(connection: sqlite3.Connection) -> int:
    """The file's version as SQLite reads it, once what a killed process left half done is taken back: the first bytes
    may still tell the version that process was about to make. Raises sqlite3.Error.
    """
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def damage_of(connection: sqlite3.Connection) -> str:
    """What is wrong with the file's pages, or stands in it of another make; nothing when it is sound."""
    kept, connection.text_factory = connection.text_factory, bytes  # what it says may quote what it found
    try:
        found = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
        foreign = made_elsewhere(connection)
    except sqlite3.Error as error:
        if is_held(error):
            raise
        return words(error)
    except UnicodeDecodeError:  # the words of the error quote what it found
        return "a page of it cannot be read"
    finally:
        connection.text_factory = kept
    if found != b"ok":
        return "a page of it cannot be read"
    return f"“{min(foreign)}” in it is of another make" if foreign else ""


def made_elsewhere(connection: sqlite3.Connection) -> set[str]:
    """Names of what may run code or never end where a table is asked: views, virtual tables, triggers that are not
    ours. Raises sqlite3.Error.
    """
    ours = {line.split()[2] for lines in MIGRATIONS for line in lines if line.startswith("CREATE TRIGGER")}
    query = (
        "SELECT CAST(lower(name) AS BLOB) FROM sqlite_master WHERE type IN ('view', 'trigger') OR (type = 'table' AND "
        "rootpage = 0)"
    )
    return {one_line((name or b"").decode("utf-8", "replace"), 40) for (name,) in connection.execute(query)} - ours


def born(connection: sqlite3.Connection) -> tuple[Any, ...] | None:
    """The first board of a file: what tells a workshop from any other. Raises sqlite3.Error."""
    found: tuple[Any, ...] | None = connection.execute(
        "SELECT id, hex(created_at) FROM boards ORDER BY id LIMIT 1"
    ).fetchone()
    return found


def newest(connection: sqlite3.Connection, before: tuple[Any, ...] | None = None) -> tuple[Any, ...]:
    """The newest row of every table that is only added to, by id and time; or what now stands at the ids told `before`,
    which differs once an older copy lies where the file was. Raises sqlite3.Error.
    """
    if before is None:
        query = "SELECT id, hex({1}) FROM {0} ORDER BY id DESC LIMIT 1"
        return tuple(connection.execute(query.format(*item)).fetchone() for item in _ONLY_ADDED.items())
    query = "SELECT id, hex({1}) FROM {0} WHERE id = ?"
    return tuple(
        row and connection.execute(query.format(*item), row[:1]).fetchone()
        for item, row in zip(_ONLY_ADDED.items(), before, strict=True)
    )


def is_held(error: sqlite3.Error) -> bool:
    """Whether another program holds the file."""
    return "locked" in str(error)


def words(error: sqlite3.Error) -> str:
    """What SQLite says, in ours."""
    text = str(error)
    known = {
        "database or disk is full": "the disk is full",
        "attempt to write a readonly database": "the file or its folder is read-only",
        "unable to open database file": "the file cannot be opened or its folder not written",
        "locked": "another program holds the file",
        "malformed": "the file is damaged",
        "file is not a database": "this is no workshop file",
        "disk I/O error": "the disk cannot be read or written",
        "FOREIGN KEY constraint failed": "what this belongs to is not in the file",
        "no such table": "a table is missing from the file",
        "no such column": "a column is missing from the file",
        "a step follows": "a step would follow one that is not before it",
        "constraint failed": "the file does not accept it",
        "too big": "there is too much of it for one entry",
        "already exists": "the file holds tables of another make",
    }
    return next((found for key, found in known.items() if key in text), f"the file cannot be used ({text[:80]})")


def trouble(error: sqlite3.Error, path: Path, opened: Identity | None) -> InputError:
    """Why the file cannot be read or written, with what would help."""
    where = str(path)
    if is_held(error):
        return FileHeld("another program holds the file", where=where, accepts="Try again in a moment")
    now = Identity.of(path)
    if opened is not None and now is None:
        return FileGone(
            "the file was moved or deleted", where=where, accepts="Put it back, or save a copy of everything"
        )
    if opened is not None and now != opened:
        return FileGone(
            "another file took its place", where=where, accepts="Save a copy of everything under a name of its own"
        )
    if opened is not None and any(key in str(error) for key in ("malformed", "not a database")):
        return FileGone("the file was overwritten or cut short", where=where, accepts="Save a copy of everything")
    if "full" in str(error):
        return InputError(
            "the disk is full", where=where, accepts="Make room, or save a copy of everything on another disk"
        )
    return InputError(words(error), where=where, accepts="Save a copy of everything, or make the file writable again")
