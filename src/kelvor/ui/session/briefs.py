"""Briefs: that of the board on the bench, and of the other boards a rider or a piece of gear is in."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from kelvor.core.brief.brief import Brief, KnownBoard
from kelvor.core.history.merging import differing_fields, merged
from kelvor.core.register.in_briefs import PARTS, brief_with_record, followed, parts, referring
from kelvor.core.register.record import Record, record_name
from kelvor.workshop.writes import SetBrief

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session


class Briefs:
    """What is done to briefs; the session lets figures follow."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def set(self, brief: Brief, words: str = "") -> None:
        """Write a brief, `words` for what changes in it; figures follow. Taking it back leaves what another window
        changed meanwhile.
        """
        session = self._session
        before = session.brief
        brief = followed(before, session.workshop.saving.admitted(brief, words or "the brief", before))
        if brief != before and self._use_brief(brief):
            words = words or f"the brief: {' and '.join(differing_fields(before, brief))}"
            session.workshop.did(
                words, lambda: self._brief_back(brief, before), lambda: self._brief_back(before, brief)
            )

    def _brief_back(self, now: Brief, then: Brief) -> None:
        session = self._session
        self._use_brief(merged(now, then, session.brief))

    def _use_brief(self, brief: Brief) -> bool:
        session = self._session
        before = session.brief
        shown = session.show_brief(brief)
        if shown:
            session.workshop.saving.put(SetBrief(session.board_id, before, brief))
        return shown

    def take_everywhere(self, record: Record, boards: list[int]) -> int:
        """Take a record as it is now into the briefs of boards, as one gesture; how many took it. Raises InputError."""
        session = self._session
        store = session.workshop.store
        others = {board: store.brief(board) for board in boards if board != session.board_id}
        newer = {board: brief for board, old in others.items() if (brief := brief_with_record(old, record)) != old}
        words = f"{record_name(record)} in all briefs"
        here = brief_with_record(session.brief, record) if session.board_id in boards else session.brief
        count = len(newer) + (here != session.brief)
        with session.workshop.gestures.as_one(words):
            if here != session.brief:
                self.set(here, words)
            if newer:
                self._put_briefs(others, newer)
                session.workshop.did(
                    words, lambda: self._put_briefs(newer, others), lambda: self._put_briefs(others, newer)
                )
        return count

    def _put_briefs(self, now: dict[int, Brief], then: dict[int, Brief]) -> None:
        """Briefs of other boards, each merged with what another window changed in it."""
        session = self._session
        for board, brief in then.items():
            if board == session.board_id:
                self._brief_back(now[board], brief)
            elif now[board] != brief:
                session.workshop.saving.put(SetBrief(board, now[board], brief))

    def fill_registers(self) -> int:
        """Keep riders, places and gear of all briefs that are in no register yet, as one gesture; how many. Raises
        InputError.
        """
        session = self._session
        store, registers = session.workshop.store, session.workshop.registers
        briefs = {board: session.brief if board == session.board_id else store.brief(board) for board in store.names()}
        known = {(r.kind, r.value.name): r for r in registers.of(*PARTS)}
        count = 0
        with session.workshop.gestures.as_one("registers filled from the briefs"):
            newer = {}
            for board, brief in briefs.items():
                filled = brief
                for kind, value in parts(brief):
                    record = known.get((kind, value.name))
                    if record is None:
                        record = registers.get(registers.keep(kind, value, f"{kind} {value.name}"))
                        assert record is not None
                        known[kind, value.name] = record
                        count += 1
                    filled = referring(filled, record)
                if filled != brief:
                    newer[board] = filled
            here = newer.pop(session.board_id, session.brief)
            if here != session.brief:
                self.set(here, "registers filled from the briefs")
            old = {board: briefs[board] for board in newer}
            if newer:
                self._put_briefs(old, newer)
                session.workshop.did(
                    "registers filled from the briefs",
                    lambda: self._put_briefs(newer, old),
                    lambda: self._put_briefs(old, newer),
                )
        return count

    def know_pinned(self) -> None:
        """Make the pinned step the known board of the brief, by its figures."""
        session = self._session
        if session.overlays.step is None or session.overlays.live is None:
            session.message.emit("problem", "Make a version the reference first: it becomes the board the rider knows.")
            return
        name = f"{session.overlays.live.board.name}, version {session.steps[session.overlays.step].number}"
        figures = tuple((key, f.value) for key, f in session.overlays.counted().items() if f.exists and f.valid)
        self.set(replace(session.brief, known=KnownBoard(name=name, figures=figures, origin="computed")))
