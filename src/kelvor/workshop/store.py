"""The workshop: one SQLite file with boards, briefs and every step.

Each committed step is one transaction, flushed to the disk before it returns.
Steps are append-only. The current step belongs to a window: `left_at` only
remembers where the last one stood.
"""

from __future__ import annotations

import contextlib
import json
import sqlite3
from functools import partial
from pathlib import Path
from typing import get_args

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import admitted, admitted_text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import STAGES, WeighIn
from kelvor.core.history.merging import merged
from kelvor.core.history.steps import FrozenAs, Step, Steps
from kelvor.core.levers.locks import Change
from kelvor.core.rack.cards import BOOK_VERSION
from kelvor.core.shape.board import Board
from kelvor.workshop.records import Records
from kelvor.workshop.rows import (
    GESTURE,
    REASON,
    SERIAL,
    TITLE,
    Damaged,
    changes_of,
    damaged_at,
    now,
    packed,
    read,
    unpacked,
    written,
)
from kelvor.workshop.soundness import Damage
from kelvor.workshop.tables_file import TablesFile


@frozen
class BoardEntry:
    """A board in the workshop's list."""

    id: int
    name: str
    created_at: str
    parent_step: int | None


class Store(TablesFile):
    """What an open workshop file holds. Use :meth:`create`, :meth:`open`, or :meth:`open_sound` for a damaged one."""

    def __init__(self, path: Path, connection: sqlite3.Connection, damages: tuple[Damage, ...] | None = None) -> None:
        super().__init__(path, connection, damages)
        self.records = Records(self)

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
        with damaged_at(lambda: f"brief {rows[0][0]}"):
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
                db.execute(
                    "INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)",
                    (step.id, at, admitted_text(reason, REASON, "a reason")),
                )
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
            with damaged_at(partial("step {}".format, number)):
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
        if any(step.parent not in found or step.parent >= step.id for step in found.values() if step.parent):
            raise Damaged("a step or the one before it is missing", where=str(self.path), accepts="Open what is sound")
        return found

    def board(self, step_id: int) -> Board:
        """The board as it was at a step; raises Damaged when that cannot be read."""
        rows = self.rows("SELECT snapshot FROM steps WHERE id = ?", step_id)
        if not rows:
            raise InputError(f"there is no step {step_id}", where=str(self.path))
        with damaged_at(lambda: self._place(step_id)):
            return unpacked(rows[0][0])

    def set_reason(self, step_id: int, text: str) -> None:
        """Write why a step was made; earlier words stay in the file."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)",
                (step_id, now(), admitted_text(text, REASON, "the reason")),
            )

    def freeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Mark a step as drawn, cut, laminated or ridden, with a serial."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO frozen (step_id, made_at, kind, serial) VALUES (?, ?, ?, ?)",
                (step_id, now(), kind, admitted_text(serial, SERIAL, "the serial")),
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
        weighed = admitted(weighed)
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
        (
            board_id,
            parent,
            number,
            at,
            admitted_text(title, TITLE, "the title"),
            admitted_text(gesture, GESTURE, "the gesture"),
            written(list(changes)),
            volume,
            packed(board),
        ),
    )
    return Step(
        id=int(cursor.lastrowid or 0),
        parent=parent,
        number=number,
        changes=changes,
        title=title,
        made_at=at,
        gesture=gesture,
        volume=volume,
    )
