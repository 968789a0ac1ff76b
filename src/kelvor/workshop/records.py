"""Records and blobs in the workshop file: only ever added to; the newest revision of a thing counts."""

from __future__ import annotations

import hashlib
from typing import TYPE_CHECKING, Any

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import admitted, admitted_text
from kelvor.core.history.merging import merged
from kelvor.core.register.kinds import KINDS, value_of
from kelvor.core.register.record import ORIGINS, UID, Record, RecordKind
from kelvor.workshop.rows import damaged_at, now, read, written

if TYPE_CHECKING:
    from kelvor.workshop.store import Store

PART = 256 * 1024
"""Blobs lie in the file in parts of so many bytes."""


class Records:
    """The records of an open workshop."""

    def __init__(self, store: Store) -> None:
        self._store = store

    def newest(self, *kinds: RecordKind) -> list[Record]:
        """Every thing of these kinds as it was last written, those that are gone too, in the order they were first
        written.

        Raises
        ------
        Damaged
            When one of them cannot be read.
        """
        marks = ", ".join("?" * len(kinds))
        return self._read(f"kind IN ({marks})", *kinds)

    def since(self, last: int) -> tuple[list[Record], int]:
        """Every thing that was written after the row `last`, as it is now; and the last row there is."""
        rows = self._store.typed((int,), "SELECT MAX(id) FROM records")
        newest = rows[0][0] or 0
        return (self._read("uid IN (SELECT uid FROM records WHERE id > ?)", last) if newest > last else []), newest

    def of_board(self, board_id: int) -> list[Record]:
        """What is recorded about a board, as it was last written."""
        return self._read("uid IN (SELECT uid FROM records WHERE board_id = ?)", board_id)

    def revisions(self, uid: str) -> list[Record]:
        """A thing as it was written again and again, the first one first."""
        found: list[Record] = []
        for row in self._rows("uid = ?", uid):
            found.append(self._record(row, len(found) + 1, found[0].made_at if found else row[3]))
        return found

    def keep(
        self,
        kind: RecordKind,
        uid: str,
        value: Any,
        *,
        origin: Origin = "claimed",
        gone: bool = False,
        board: int | None = None,
        step: int | None = None,
        base: Any = None,
        blob: bytes | None = None,
    ) -> Any:
        """Write a revision: on the disk when this returns. A blob goes first, so that nothing names what is not there.

        Where another window has written the thing since `base`, both changes are kept, field by field; the value
        written is returned. Raises InputError where a field is outside its limits, and writes nothing.
        """
        value, uid = admitted(value, bearable=True), admitted_text(uid, UID, "the identity")
        with self._store.writing() as db:
            if base is not None:
                newest = self._read("uid = ?", uid)
                if newest and newest[0].value != base:
                    value = merged(base, value, newest[0].value)
            if blob is not None:
                sha = hashlib.sha256(blob).hexdigest()
                for part, at in enumerate(range(0, len(blob), PART)):
                    db.execute(
                        "INSERT OR IGNORE INTO blob_parts (sha, part, data) VALUES (?, ?, ?)",
                        (sha, part, blob[at : at + PART]),
                    )

            db.execute(
                "INSERT INTO records (uid, kind, made_at, origin, gone, board_id, step_id, data) VALUES (?, ?, ?, ?, "
                "?, ?, ?, ?)",
                (uid, kind, now(), origin, int(gone), board, step, written(value)),
            )
        return value

    def blob(self, sha: str) -> bytes:
        """A blob, whole; raises InputError when it is not, or is not what it was."""
        found = b"".join(
            row[0] for row in self._store.rows("SELECT data FROM blob_parts WHERE sha = ? ORDER BY part", sha)
        )
        if hashlib.sha256(found).hexdigest() != sha:
            raise InputError("it is not whole in the file", where="a photo", accepts="Add it again")
        return found

    def _rows(self, where: str, *values: Any) -> list[tuple[Any, ...]]:
        return self._store.typed(
            (int, str, str, str, str, int, int, int, str),
            f"SELECT id, uid, kind, made_at, origin, gone, board_id, step_id, data FROM records WHERE {where} ORDER BY "
            f"id",
            *values,
        )

    def _read(self, where: str, *values: Any) -> list[Record]:
        last: dict[str, tuple[Any, ...]] = {}
        first: dict[str, str] = {}
        times: dict[str, int] = {}
        for row in self._rows(where, *values):
            first.setdefault(row[1], row[3])
            times[row[1]] = times.get(row[1], 0) + 1
            last[row[1]] = row
        return [self._record(last[uid], times[uid], made_at) for uid, made_at in first.items()]

    def _record(self, row: tuple[Any, ...], revision: int, first_at: str) -> Record:
        key, uid, kind, made_at, origin, gone, board, step, data = row
        with damaged_at(lambda: f"record {key}"):
            if kind not in KINDS or origin not in ORIGINS:
                raise InputError("it is of no known kind")
            return Record(
                uid,
                kind,
                revision,
                first_at,
                made_at,
                origin,
                bool(gone),
                read(value_of(kind), data, "it"),
                board,
                step,
            )
