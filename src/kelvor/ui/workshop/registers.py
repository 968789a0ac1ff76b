"""Records of a workshop as one window sees them: riders, places, gear, decisions, words and pages of old notebooks."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.figures import Origin
from kelvor.core.base.mill import Mill
from kelvor.core.history.merging import merged
from kelvor.core.register.record import Record, RecordKind, record_name
from kelvor.ui.workshop.gestures import Gesture, Gestures
from kelvor.workshop.rows import now
from kelvor.workshop.writes import KeepRecord

if TYPE_CHECKING:
    from kelvor.core.register.kinds.words import Decision
    from kelvor.ui.workshop.saving import Saving
    from kelvor.workshop.store import Store


USUAL_MILL = Mill()


class Registers(QObject):
    """Every record by its identity. A change shows at once, is saved when the disk takes it, and can be undone."""

    changed = Signal()

    def __init__(self, parent: QObject, saving: Callable[[], Saving], gestures: Gestures) -> None:
        """Empty until :meth:`look_again`; what is done to records is told to `gestures`."""
        super().__init__(parent)
        self._saving, self._gestures = saving, gestures
        self._records: dict[str, Record] = {}
        self._kinds: dict[RecordKind, dict[str, Record]] = {}
        self._of_steps: dict[str, Record] = {}
        """The same by kind, and those about a step: a workshop of years has ten thousand of them."""
        self._last = 0
        self.turn = 0
        """Another number after every change."""

    def _hold(self, record: Record) -> None:
        self._records[record.uid] = record
        self._kinds.setdefault(record.kind, {})[record.uid] = record
        if record.step is not None:
            self._of_steps[record.uid] = record

    def _turned(self) -> None:
        self.turn += 1
        self.changed.emit()

    def look_again(self, store: Store) -> None:
        """Take what is in the file, unless something of ours waits; raises InputError when it cannot be read."""
        if not self._saving().waits(KeepRecord):
            found, self._last = store.records.since(self._last)
            newer = [record for record in found if record != self._records.get(record.uid)]
            for record in newer:
                self._hold(record)
            if newer:
                self._turned()

    def begin_anew(self) -> None:
        """Another file: what is in it is read whole when next looked for."""
        self._last = 0

    def of(self, *kinds: RecordKind) -> list[Record]:
        """What is in the registers of these kinds, by name."""
        found = (r for kind in dict.fromkeys(kinds) for r in self._kinds.get(kind, {}).values() if not r.gone)
        return sorted(found, key=lambda r: record_name(r).lower())

    def get(self, uid: str) -> Record | None:
        """A record by its identity, gone or not."""
        return self._records.get(uid)

    def about(self, step: int) -> list[Record]:
        """What was decided and said about a step, the first one first."""
        ids = self._saving().ids
        found = [r for r in self._of_steps.values() if ids(r.step or 0) == ids(step) and not r.gone]
        return sorted(found, key=lambda r: r.first_at)

    def decision(self, step: int) -> Record | None:
        """What became of a step, as it was last decided."""
        return next((r for r in reversed(self.about(step)) if r.kind == "decision"), None)

    def reshape(self, board: int) -> Record | None:
        """Out of which old board one is to be cut, if any."""
        ids = self._saving().ids
        return next((r for r in self.of("reshape") if r.board is not None and ids(r.board) == ids(board)), None)

    def mill(self) -> Mill:
        """The mill of the workshop, as it was last written down; a usual one before."""
        return next((r.value for r in self._kinds.get("mill", {}).values() if not r.gone), USUAL_MILL)

    def least_felt(self) -> dict[str, float]:
        """The least that is felt in this workshop, by lever, where it says so itself."""
        return {r.value.lever: r.value.least for r in self.of("felt")}

    def keep(
        self,
        kind: RecordKind,
        value: Any,
        words: str,
        *,
        uid: str = "",
        origin: Origin = "claimed",
        board: int | None = None,
        step: int | None = None,
        blob: bytes | None = None,
    ) -> str:
        """Keep a new thing, or write one anew; its identity. Raises InputError where a field is outside its limits, and
        changes nothing then.
        """
        uid = uid or uuid.uuid4().hex
        before = self._records.get(uid)
        value = self._saving().admitted(value, words, before.value if before is not None else None)
        if before is not None and before.value == value and before.origin == origin and not before.gone:
            return uid
        at = now()
        record = Record(uid, kind, 1, at, at, origin, False, value, board, step)
        if before is not None:
            record = replace(
                before, value=value, origin=origin, gone=False, board=board or before.board, step=step or before.step
            )
        self._put(record, words, blob)
        back = replace(record, gone=True) if before is None else before
        self._gestures.did(
            Gesture(words, partial(self._back, record, back, words), partial(self._back, back, record, words))
        )
        return uid

    def lay_aside(self, kind: RecordKind, value: Any, words: str, uid: str, board: int, step: int) -> str:
        """Keep where something stands, or write it anew: no doing of the user to be taken back. Its identity."""
        at, uid, value = now(), uid or uuid.uuid4().hex, self._saving().admitted(value, words)
        self._put(Record(uid, kind, 1, at, at, "computed", False, value, board, step), words)
        return uid

    def note(self, kind: RecordKind, value: Any, words: str, *, board: int, step: int) -> None:
        """Keep what happened; it is no doing of the user that could be taken back."""
        at, value = now(), self._saving().admitted(value, words)
        self._put(Record(uuid.uuid4().hex, kind, 1, at, at, "computed", False, value, board, step), words)

    def decide(self, step: int, board: int, decision: Decision, words: str) -> None:
        """What became of a step; an earlier decision on it is written anew."""
        before = self.decision(step)
        self.keep("decision", decision, words, uid=before.uid if before is not None else "", board=board, step=step)

    def take_off(self, uid: str, words: str) -> None:
        """Take a thing off its register; what was written of it stays."""
        before = self._records[uid]
        self._put(replace(before, gone=True), words)
        gone = replace(before, gone=True)
        self._gestures.did(
            Gesture(words, partial(self._back, gone, before, words), partial(self._back, before, gone, words))
        )

    def _back(self, now_: Record, then: Record, words: str) -> None:
        """Take back only what this change changed: another window may have changed more of it since."""
        here = self._records[then.uid]
        self._put(replace(here, value=merged(now_.value, then.value, here.value), gone=then.gone), words)

    def _put(self, record: Record, words: str, blob: bytes | None = None) -> None:
        base = self._records.get(record.uid)
        revision = 1 if base is None else base.revision + 1
        self._hold(replace(record, revision=revision, made_at=now()))
        self._saving().put(
            KeepRecord(
                record.kind,
                record.uid,
                record.value,
                words,
                record.origin,
                record.gone,
                record.board,
                record.step,
                base.value if base is not None else None,
                blob,
            )
        )
        self._turned()

    def saved(self, uid: str, written: Any, kept: Any) -> None:
        """A record is on the disk: what another window changed of it comes in, and what it is about goes by its real
        ids.
        """
        here, ids = self._records.get(uid), self._saving().ids
        if here is not None:
            value = merged(written, here.value, kept)
            found = replace(here, value=value, board=ids.maybe(here.board), step=ids.maybe(here.step))
            self._hold(found)
            if found != here:
                self._turned()
