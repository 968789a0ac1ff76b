"""A new workshop file with all that is sound of another; the other is only read."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from kelvor.files import may_write, written_whole
from kelvor.workshop.opening import WAIT, connect, migrate, trouble
from kelvor.workshop.soundness import COLUMNS, Sound, examined


def rescue(path: Path, new: Path, *, wait: float = WAIT) -> Sound:
    """Write what is sound of the workshop at `path` to `new`; tells what that is, and what was left out.

    Raises
    ------
    InputError
        When `path` is no workshop, something stands at `new`, or it cannot be written.
    """
    may_write(new)
    found = examined(path, wait)
    write_new(new, lambda db: fill_workshop(db, found), path)
    return found


def write_new(new: Path, fills: Callable[[sqlite3.Connection], None], like: Path) -> None:
    """A new workshop file, filled by `fills`, whole or not at all, for whom `like` is; raises InputError when something
    stands there or it cannot be.
    """
    with written_whole(new, like=like) as temporary:
        try:
            with closing(connect(temporary, WAIT, fresh=True)) as db:
                migrate(db, 0)
                fills(db)
        except sqlite3.Error as error:
            raise trouble(error, new, None) from None


def fill_workshop(db: sqlite3.Connection, found: Sound) -> None:
    """Write sound rows into an empty workshop, in one transaction; raises sqlite3.Error."""
    db.execute("PRAGMA foreign_keys = OFF")  # a child board may come before the step it was made from
    db.execute("BEGIN IMMEDIATE")
    for table, columns in COLUMNS.items():
        marks = ", ".join("?" * len(columns))
        db.executemany(f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})", found.rows[table])
    db.execute("COMMIT")
    db.execute("PRAGMA foreign_keys = ON")
