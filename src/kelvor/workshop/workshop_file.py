"""A workshop file that is open: one SQLite connection, transactions on the disk when they end, and whose it is."""

from __future__ import annotations

import contextlib
import os
import sqlite3
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Self

from kelvor.core.base.errors import InputError
from kelvor.files import refusal_reason
from kelvor.workshop.migrations import MIGRATIONS
from kelvor.workshop.opening import (
    WAIT,
    FileGone,
    Identity,
    born,
    connect,
    damage_of,
    is_held,
    looking,
    migrate,
    newest,
    trouble,
    version_in,
    version_of,
    words,
)
from kelvor.workshop.rescue import fill_workshop
from kelvor.workshop.rows import RESCUE, Damaged
from kelvor.workshop.soundness import Damage, Sound, examined, sound_rows


class WorkshopFile:
    """An open workshop file: how it comes to be open, is written whole or not at all, and is still ours."""

    def __init__(self, path: Path, connection: sqlite3.Connection, damages: tuple[Damage, ...] | None = None) -> None:
        self.path, self._db = path, connection
        self.damages = damages
        """What of the file is not sound; None for a file that is read and written as it lies there."""
        self.doubts: tuple[str, ...] = ()
        """What a check beside the window found; such rows are left as they are, and the others go on being used."""
        self._opened = Identity.of(path)
        self._birth: tuple[Any, ...] | None = None
        self._newest: tuple[Any, ...] | None = None

    @classmethod
    def create(cls, path: Path, wait: float = WAIT) -> Self:
        """A new, empty workshop file.

        Raises
        ------
        InputError
            When something stands there already or the folder cannot be written.
        """
        try:
            os.close(os.open(path, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o666))
        except FileExistsError:
            said = "a file of this name is there already, and is left as it is"
            raise InputError(said, where=str(path), accepts="Choose another name, or open it") from None
        except (OSError, ValueError) as error:
            said = refusal_reason(error) if isinstance(error, OSError) else "this is no file name"
            raise InputError(said, where=str(path), accepts="Choose a folder you can write to") from None
        try:
            connection = connect(path, wait, fresh=True)
            migrate(connection, 0)
        except sqlite3.Error as error:
            path.unlink(missing_ok=True)  # made a moment ago, by us and nobody else
            raise trouble(error, path, None) from None
        return cls(path, connection)

    @classmethod
    def open(cls, path: Path, wait: float = WAIT) -> Self:
        """An existing workshop file.

        Raises
        ------
        Damaged
            When its pages are not sound; it is left untouched, :meth:`open_sound` opens what is.
        FileHeld
            When another program holds it for longer than `wait` seconds.
        InputError
            When it is foreign or newer, or cannot be brought to this version; it is left untouched.
        """
        version_of(path)
        try:
            with contextlib.closing(looking(path, wait)) as glance:
                damage = damage_of(glance)
                version = version_in(glance)
            if damage:
                raise Damaged(f"the file is damaged: {damage}", where=str(path), accepts=RESCUE)
            connection = connect(path, wait)
            if version < len(MIGRATIONS):
                migrate(connection, version)
        except sqlite3.Error as error:
            raise trouble(error, path, None) from None
        store = cls(path, connection)
        try:
            store._birth, store._newest = store.born(), newest(connection)
        except sqlite3.Error as error:
            store.close()
            if is_held(error):
                raise trouble(error, path, None) from None
            raise Damaged(words(error), where=str(path), accepts=RESCUE) from None
        return store

    @classmethod
    def open_sound(cls, path: Path, wait: float = WAIT) -> Self:
        """All that is sound of a damaged file, to look at; the file is not touched, and nothing is written into it.

        Raises
        ------
        InputError
            When it is no workshop, nothing of it is sound, or another program holds it.
        """
        found = examined(path, wait)
        if not found.rows["boards"]:
            raise InputError(
                "no board in it can be read", where=str(path), accepts="It is left as it is; open a copy kept elsewhere"
            )
        memory = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False)
        migrate(memory, 0)
        fill_workshop(memory, found)
        return cls(path, memory, tuple(found.damages))

    def close(self) -> None:
        """Close the file."""
        self._db.close()

    def wait_at_most(self, seconds: float) -> None:
        """Wait no longer for another program that holds the file."""
        self._db.execute(f"PRAGMA busy_timeout = {round(seconds * 1000)}")

    def backed_up(self, to: Path) -> None:
        """Copy the file as it is now into the empty file at `to`, through SQLite, so that no lock of it is lost.

        Raises
        ------
        InputError
            When another program holds it, or it cannot be copied.
        """
        try:
            with contextlib.closing(sqlite3.connect(to)) as target:
                self._db.backup(target, progress=_no_waiting, sleep=0)
        except sqlite3.Error as error:
            raise trouble(error, self.path, self._opened) from None

    def sound(self) -> Sound | None:
        """All of it that can be read; None when what lies there is not this workshop any more."""
        with contextlib.closing(
            sqlite3.connect(":memory:")
        ) as aside:  # read aside: the window goes on with the connection
            try:
                self._still_ours()
                self._db.backup(aside, progress=_no_waiting, sleep=0)
            except (FileGone, sqlite3.Error):
                return None
            found = sound_rows(aside, len(MIGRATIONS))
        return found if found.rows["boards"] else None

    @contextlib.contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing, on the disk when it ends."""
        if self.damages is not None:
            raise InputError(
                "the file is damaged and is left as it is", where=str(self.path), accepts="Save a repaired copy"
            )
        self.still_there()
        try:
            self._db.execute("BEGIN IMMEDIATE")
            try:
                self._still_ours()
                yield self._db
                now = newest(self._db)
                self._db.execute("COMMIT")
                self._newest = now
            except BaseException:
                if self._db.in_transaction:
                    self._db.execute("ROLLBACK")
                raise
        except sqlite3.Error as error:
            raise trouble(error, self.path, self._opened) from None

    def still_there(self) -> None:
        """Raises FileGone when the file was moved, deleted or replaced since it was opened."""
        if self.damages is None and Identity.of(self.path) != self._opened:
            raise trouble(sqlite3.OperationalError(""), self.path, self._opened)
        try:
            self._still_ours()
        except sqlite3.Error as error:
            raise trouble(error, self.path, self._opened) from None

    def _still_ours(self) -> None:
        if self._birth is None:
            self._birth = self.born()  # made in this window, a moment ago
        elif self.born() != self._birth:
            raise FileGone(
                "another workshop was written over it", where=str(self.path), accepts="Save a copy of everything"
            )
        if self._newest is not None and newest(self._db, self._newest) != self._newest:
            raise FileGone(
                "an older copy was put back over it",
                where=str(self.path),
                accepts="Save a copy of everything under a name of its own; to go on in the older one, open it again",
            )
        self._newest = newest(self._db)  # what another window added is as little lost

    def born(self) -> tuple[Any, ...] | None:
        """The first board: what tells this workshop from any other that may be copied over it. Raises sqlite3.Error."""
        return born(self._db)

    def rows(self, query: str, *values: Any) -> list[tuple[Any, ...]]:
        """All rows of a query; raises Damaged over words that cannot be read, InputError over what the disk says."""
        try:
            return self._db.execute(query, values).fetchall()
        except UnicodeDecodeError:
            raise Damaged("words in it cannot be read", where=str(self.path), accepts=RESCUE) from None
        except sqlite3.Error as error:
            if not is_held(error) and "UTF-8" in str(error):
                raise Damaged("words in it cannot be read", where=str(self.path), accepts=RESCUE) from None
            raise trouble(error, self.path, self._opened) from None

    def typed(self, kinds: tuple[type, ...], query: str, *values: Any) -> list[tuple[Any, ...]]:
        """Rows whose values are of these kinds, or none; raises Damaged over any other."""
        rows = self.rows(query, *values)
        for row in rows:
            for kind, value in zip(kinds, row, strict=True):
                if value is not None and not isinstance(value, kind):
                    raise Damaged("a row holds something else than it should", where=str(self.path), accepts=RESCUE)
        return rows

    def _place(self, step_id: int) -> str:
        rows = self.rows("SELECT name, number FROM boards, steps WHERE boards.id = board_id AND steps.id = ?", step_id)
        return f"“{rows[0][0]}”, step {rows[0][1]}" if rows else f"step {step_id}"

    def changed_elsewhere(self) -> int:
        """A number that changes when another window wrote to the file."""
        return int(self.rows("PRAGMA data_version")[0][0])


def _no_waiting(status: int, remaining: int, total: int) -> None:
    """Ends a copy of a file that another program holds, in place of waiting for it without end."""
    if status in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
        raise sqlite3.OperationalError("database is locked")
