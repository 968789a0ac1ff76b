"""The workshop: one SQLite file with boards, briefs and every step.

Each committed step is one transaction, flushed to the disk before it returns.
Steps are append-only. The current step belongs to a window: `left_at` only
remembers where the last one stood.
"""

from __future__ import annotations

import contextlib
import json
import os
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path
from typing import Any, get_args

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients, with_values
from kelvor.core.errors import InputError
from kelvor.core.figures import Origin
from kelvor.core.history.merging import merged
from kelvor.core.history.steps import FrozenAs, Step, Steps
from kelvor.core.mass.stages import STAGES, WeighIn
from kelvor.core.materials.table import HANDBOOK, Cloth, Fibre, MaterialTable, Rates, Resin, Stock
from kelvor.core.rack.cards import BOOK_VERSION
from kelvor.core.seek.holding import Change
from kelvor.core.shape.board import Board
from kelvor.core.shape.construction import Construction
from kelvor.files import reason
from kelvor.workshop.migrations import MIGRATIONS
from kelvor.workshop.opening import (
    WAIT,
    FileGone,
    Identity,
    connect,
    is_held,
    looking,
    migrate,
    page_damage,
    trouble,
    version_of,
    words,
)
from kelvor.workshop.records import Records
from kelvor.workshop.rescue import fill
from kelvor.workshop.rows import (
    DROPPED,
    MATERIALS,
    RESCUE,
    Damaged,
    changes_of,
    named,
    now,
    packed,
    read,
    unpacked,
    written,
)
from kelvor.workshop.soundness import Damage, Sound, examined, sound_rows

Entry = Fibre | Resin | Stock | Cloth | Rates


@dataclass(frozen=True, slots=True)
class BoardEntry:
    """A board in the workshop's list."""

    id: int
    name: str
    created_at: str
    parent_step: int | None


class Store:
    """An open workshop file. Use :meth:`create`, :meth:`open`, or :meth:`open_sound` for a damaged one."""

    def __init__(self, path: Path, connection: sqlite3.Connection, damages: tuple[Damage, ...] | None = None) -> None:
        self.path, self._db = path, connection
        self.damages = damages
        """What of the file is not sound; None for a file that is read and written as it lies there."""
        self.doubts: tuple[str, ...] = ()
        """What a check beside the window found; such rows are left as they are, and the others go on being used."""
        self.records = Records(self)
        self._opened = Identity.of(path)
        self._birth: tuple[Any, ...] | None = None

    @staticmethod
    def create(path: Path, wait: float = WAIT) -> Store:
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
            said = reason(error) if isinstance(error, OSError) else "this is no file name"
            raise InputError(said, where=str(path), accepts="Choose a folder you can write to") from None
        try:
            connection = connect(path, wait, fresh=True)
            migrate(connection, 0)
        except sqlite3.Error as error:
            path.unlink(missing_ok=True)  # made a moment ago, by us and nobody else
            raise trouble(error, path, None) from None
        return Store(path, connection)

    @staticmethod
    def open(path: Path, wait: float = WAIT) -> Store:
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
        version = version_of(path)
        try:
            with contextlib.closing(looking(path, wait)) as glance:
                damage = page_damage(glance)
            if damage:
                raise Damaged(f"the file is damaged: {damage}", where=str(path), accepts=RESCUE)
            connection = connect(path, wait)
            if version < len(MIGRATIONS):
                migrate(connection, version)
        except sqlite3.Error as error:
            raise trouble(error, path, None) from None
        store = Store(path, connection)
        try:
            store._birth = store._born()
        except sqlite3.Error as error:
            store.close()
            if is_held(error):
                raise trouble(error, path, None) from None
            raise Damaged(words(error), where=str(path), accepts=RESCUE) from None
        return store

    @staticmethod
    def open_sound(path: Path, wait: float = WAIT) -> Store:
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
        fill(memory, found)
        return Store(path, memory, tuple(found.damages))

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
                self._db.execute("COMMIT")
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
            self._birth = self._born()  # made in this window, a moment ago
        elif self._born() != self._birth:
            raise FileGone(
                "another workshop was written over it", where=str(self.path), accepts="Save a copy of everything"
            )

    def _born(self) -> tuple[Any, ...] | None:
        """The first board: what tells this workshop from any other that may be copied over it."""
        found: tuple[Any, ...] | None = self._db.execute(
            "SELECT id, hex(created_at) FROM boards ORDER BY id LIMIT 1"
        ).fetchone()
        return found

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

    def boards(self) -> list[BoardEntry]:
        """All boards, the newest first."""
        return [
            BoardEntry(*row)
            for row in self.typed(
                (int, str, str, int), "SELECT id, name, created_at, parent_step FROM boards ORDER BY id DESC"
            )
        ]

    def add_board(
        self,
        board: Board,
        brief: Brief,
        title: str,
        volume: float = 0.0,
        parent_step: int | None = None,
        *,
        pinned: bool = False,
        card: str = "",
    ) -> tuple[int, Step]:
        """A new board with its first step and its brief, and the step it is a child of; its id and that step."""
        at = now()
        with self.writing() as db:
            cursor = db.execute(
                "INSERT INTO boards (name, created_at, parent_step) VALUES (?, ?, ?)", (board.name, at, parent_step)
            )
            board_id = int(cursor.lastrowid or 0)
            db.execute("INSERT INTO briefs (board_id, made_at, data) VALUES (?, ?, ?)", (board_id, at, written(brief)))
            step = _insert(db, board_id, None, 1, at, title, "", (), volume, board)
            db.execute("INSERT INTO left_at VALUES (?, ?, ?)", (board_id, step.id, at))
            _insert_card(db, step.id, card)
            if pinned:
                db.execute("INSERT INTO pins VALUES (?, ?)", (board_id, step.id))
        return board_id, step

    def brief(self, board_id: int) -> Brief:
        """The board's brief as last written; raises Damaged when that cannot be read."""
        rows = self.rows("SELECT id, data FROM briefs WHERE board_id = ? ORDER BY id DESC LIMIT 1", board_id)
        with named(lambda: f"brief {rows[0][0]}"):
            return read(Brief, rows[0][1], "it") if rows else Brief()

    def names(self) -> dict[int, str]:
        """Names of all boards by id."""
        return dict(self.typed((int, str), "SELECT id, name FROM boards"))

    def referring(self, uid: str) -> dict[int, int]:
        """The boards whose briefs refer to a record, and the revision each holds."""
        found: dict[int, int] = {}
        newest = (
            "SELECT board_id, data FROM briefs WHERE id IN (SELECT MAX(id) FROM briefs GROUP BY board_id) AND "
            "instr(data, ?) > 0"
        )
        for board, data in self.typed((int, str), newest, uid):
            with contextlib.suppress(ValueError, KeyError, TypeError, StopIteration):
                found[board] = next(
                    int(refers["revision"]) for refers in json.loads(data)["refers"] if refers["uid"] == uid
                )
        return found

    def set_brief(self, board_id: int, brief: Brief, base: Brief | None = None) -> Brief:
        """Write a brief; earlier ones stay in the file.

        Where another window has changed the brief since `base`, both changes are kept, field by field; what was written
        is returned.
        """
        with self.writing() as db:
            if base is not None and (newest := self.brief(board_id)) != base:
                brief = merged(base, brief, newest)
            db.execute(
                "INSERT INTO briefs (board_id, made_at, data) VALUES (?, ?, ?)", (board_id, now(), written(brief))
            )
        return brief

    def append(
        self,
        board_id: int,
        parent: int,
        board: Board,
        changes: tuple[Change, ...],
        *,
        title: str = "",
        gesture: str = "",
        volume: float = 0.0,
        reason: str = "",
        card: str = "",
    ) -> Step:
        """Commit a step: on the disk when this returns.

        Raises
        ------
        InputError
            When the disk is full or the file cannot be written; nothing is changed then.
        """
        at = now()
        with self.writing() as db:
            number = int(
                db.execute("SELECT COALESCE(MAX(number), 0) + 1 FROM steps WHERE board_id = ?", (board_id,)).fetchone()[
                    0
                ]
            )
            step = _insert(db, board_id, parent, number, at, title, gesture, changes, volume, board)
            _insert_card(db, step.id, card)
            if reason:
                db.execute("INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)", (step.id, at, reason))
            db.execute("INSERT OR REPLACE INTO left_at VALUES (?, ?, ?)", (board_id, step.id, at))
            if board.name != db.execute("SELECT name FROM boards WHERE id = ?", (board_id,)).fetchone()[0]:
                db.execute("UPDATE boards SET name = ? WHERE id = ?", (board.name, board_id))
        return step

    def steps(self, board_id: int) -> Steps:
        """All steps of a board by id, without their boards."""
        reasons = dict(
            self.typed(
                (int, str),
                "SELECT step_id, text FROM reasons WHERE step_id IN (SELECT id FROM steps WHERE board_id = ?) ORDER BY "
                "id",
                board_id,
            )
        )
        frozen: dict[int, list[tuple[FrozenAs, str]]] = {}
        for step_id, kind, serial in self.typed(
            (int, str, str),
            "SELECT step_id, kind, serial FROM frozen WHERE step_id IN (SELECT id FROM steps WHERE board_id = ?) ORDER "
            "BY id",
            board_id,
        ):
            frozen.setdefault(step_id, []).append((kind, serial))
        rows = self.typed(
            (int, int, int, str, str, str, str, float),
            "SELECT id, parent, number, made_at, title, gesture, changes, volume FROM steps WHERE board_id = ?",
            board_id,
        )
        found: Steps = {}
        for key, parent, number, made_at, title, gesture, changes, volume in rows:
            with named(partial("step {}".format, number)):
                found[key] = Step(
                    id=key,
                    parent=parent,
                    number=number,
                    made_at=made_at,
                    title=title,
                    gesture=gesture,
                    volume=volume,
                    changes=changes_of(changes),
                    reason=reasons.get(key, ""),
                    frozen=tuple(frozen.get(key, ())),
                )
        if any(step.parent is not None and step.parent not in found for step in found.values()):
            raise Damaged("a step is missing", where=str(self.path), accepts="Open what is sound")
        return found

    def board(self, step_id: int) -> Board:
        """The board as it was at a step; raises Damaged when that cannot be read."""
        rows = self.rows("SELECT snapshot FROM steps WHERE id = ?", step_id)
        if not rows:
            raise InputError(f"there is no step {step_id}", where=str(self.path))
        with named(lambda: self._place(step_id)):
            return unpacked(rows[0][0])

    def set_reason(self, step_id: int, text: str) -> None:
        """Write why a step was made; earlier words stay in the file."""
        with self.writing() as db:
            db.execute("INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)", (step_id, now(), text))

    def freeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Mark a step as drawn, cut, laminated or ridden, with a serial."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO frozen (step_id, made_at, kind, serial) VALUES (?, ?, ?, ?)",
                (step_id, now(), kind, serial),
            )

    def unfreeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Take the newest such mark of a step back."""
        with self.writing() as db:
            db.execute(
                "DELETE FROM frozen WHERE id = (SELECT max(id) FROM frozen WHERE step_id = ? AND kind = ? AND serial = "
                "?)",
                (step_id, kind, serial),
            )

    def pin(self, board_id: int, step_id: int | None) -> None:
        """Pin a step of a board to compare with, or none."""
        with self.writing() as db:
            db.execute("INSERT OR REPLACE INTO pins VALUES (?, ?)", (board_id, step_id))

    def pinned(self, board_id: int) -> int | None:
        """The pinned step, if any."""
        rows = self.typed((int,), "SELECT step_id FROM pins WHERE board_id = ?", board_id)
        return rows[0][0] if rows else None

    def leave_at(self, board_id: int, step_id: int) -> None:
        """Remember where a window stands."""
        with self.writing() as db:
            db.execute("INSERT OR REPLACE INTO left_at VALUES (?, ?, ?)", (board_id, step_id, now()))

    def left_at(self, board_id: int) -> int:
        """The step a window last stood on."""
        rows = self.typed(
            (int,),
            "SELECT step_id FROM left_at, steps WHERE left_at.board_id = ? AND steps.id = step_id AND steps.board_id = "
            "left_at.board_id "
            "UNION ALL SELECT MAX(id) FROM steps WHERE board_id = ?",
            board_id,
            board_id,
        )
        if rows[0][0] is None:
            raise Damaged("none of its steps can be read", where=f"board {board_id}", accepts="Open what is sound")
        return int(rows[0][0])

    def constructions(self) -> tuple[Construction, ...]:
        """The workshop's constructions, each as last written, in the order they were first made."""
        found: dict[str, str] = {}
        for name, data in self.typed((str, str), "SELECT name, data FROM constructions ORDER BY id"):
            found[name] = data
        kept = []
        for name, data in found.items():
            if data != DROPPED:
                with named(partial("construction “{}”".format, name)):
                    kept.append(read(Construction, data, "it"))
        return tuple(kept)

    def keep_construction(self, construction: Construction) -> None:
        """Keep a construction under its name; earlier versions stay in the file."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)",
                (now(), construction.name, written(construction)),
            )

    def drop_construction(self, name: str) -> None:
        """A construction is no longer on the list; what was written stays in the file."""
        with self.writing() as db:
            db.execute("INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)", (now(), name, DROPPED))

    def materials(self) -> MaterialTable:
        """The table of materials with what the workshop changed."""
        table = HANDBOOK
        for key, kind, data in self.rows("SELECT id, kind, data FROM materials ORDER BY id"):
            with named(partial("materials, entry {}".format, key)):
                if kind not in MATERIALS:
                    raise InputError("it is of no known kind")
                entry = read(MATERIALS[kind], data, "it")
                table = replace(table, rates=entry) if isinstance(entry, Rates) else table.with_entry(entry)
        return table

    def keep_material(self, entry: Entry, base: Entry | None = None) -> Entry:
        """Keep an entry of the table of materials, or the workshop's rates; earlier ones stay in the file.

        Where another window has changed the entry since `base`, both changes are kept; what was written is returned.
        """
        kind = next(name for name, kind in MATERIALS.items() if isinstance(entry, kind))
        with self.writing() as db:
            if base is not None and (newest := self.materials().as_it_stands(entry)) != base:
                entry = merged(base, entry, newest)
            db.execute("INSERT INTO materials (made_at, kind, data) VALUES (?, ?, ?)", (now(), kind, written(entry)))
        return entry

    def coefficients(self) -> Coefficients:
        """The coefficients of drive and ride with what the workshop changed."""
        return with_values(dict(self.typed((str, float), "SELECT name, value FROM coefficients ORDER BY id")))

    def keep_coefficient(self, name: str, value: float) -> None:
        """Keep a coefficient; earlier values stay in the file."""
        with self.writing() as db:
            db.execute("INSERT INTO coefficients (made_at, name, value) VALUES (?, ?, ?)", (now(), name, value))

    def weighings(self, board_id: int) -> tuple[WeighIn, ...]:
        """The last weigh-in of each stage that was not taken back."""
        rows = self.typed(
            (str, float, str), "SELECT stage, mass, origin FROM weighings WHERE board_id = ? ORDER BY id", board_id
        )
        last = {
            stage: WeighIn(stage, mass, origin)
            for stage, mass, origin in rows
            if stage in STAGES and origin in get_args(Origin)
        }
        return tuple(weighed for weighed in last.values() if weighed.mass > 0)

    def weigh(self, board_id: int, step_id: int, weighed: WeighIn) -> None:
        """Write a weigh-in; earlier ones stay in the file. A mass of zero takes the stage's weigh-in back."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO weighings (board_id, step_id, made_at, stage, mass, origin) VALUES (?, ?, ?, ?, ?, ?)",
                (board_id, step_id, now(), weighed.stage, weighed.mass, weighed.origin),
            )

    def keep_cards(self, cards: dict[int, str]) -> None:
        """Keep what was counted of steps for the rack, by step."""
        with self.writing() as db:
            db.executemany(
                "INSERT OR REPLACE INTO cards (step_id, book, data) SELECT id, ?, ? FROM steps WHERE id = ?",
                [(BOOK_VERSION, card, step) for step, card in cards.items()],
            )

    def last_board(self) -> int | None:
        """The board somebody last worked on."""
        rows = self.rows(
            "SELECT board_id FROM left_at, boards WHERE board_id = id ORDER BY at DESC, board_id DESC LIMIT 1"
        )
        rows = rows or self.rows("SELECT id FROM boards ORDER BY id DESC LIMIT 1")
        return int(rows[0][0]) if rows else None


def _no_waiting(status: int, remaining: int, total: int) -> None:
    """Ends a copy of a file that another program holds, in place of waiting for it without end."""
    if status in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
        raise sqlite3.OperationalError("database is locked")


def _insert_card(db: sqlite3.Connection, step: int, card: str) -> None:
    """What the rack shows of a step, where it was counted as it was made."""
    if card:
        db.execute("INSERT OR REPLACE INTO cards VALUES (?, ?, ?)", (step, BOOK_VERSION, card))


def _insert(
    db: sqlite3.Connection,
    board_id: int,
    parent: int | None,
    number: int,
    at: str,
    title: str,
    gesture: str,
    changes: tuple[Change, ...],
    volume: float,
    board: Board,
) -> Step:
    cursor = db.execute(
        "INSERT INTO steps (board_id, parent, number, made_at, title, gesture, changes, volume, snapshot) VALUES "
        "(?,?,?,?,?,?,?,?,?)",
        (board_id, parent, number, at, title, gesture, written(list(changes)), volume, packed(board)),
    )
    return Step(id=int(cursor.lastrowid or 0), parent=parent, number=number, changes=changes, title=title, made_at=at,
                gesture=gesture, volume=volume)  # fmt: skip
