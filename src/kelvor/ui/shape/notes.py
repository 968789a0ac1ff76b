"""Notes of rule, patent, name and safety on the design that is on the bench."""

from __future__ import annotations

from typing import TYPE_CHECKING

from kelvor.core.base.errors import InputError
from kelvor.core.base.findings import Finding, Severity
from kelvor.core.register.kinds.words import Note, NoteKind
from kelvor.core.register.record import Record
from kelvor.core.shape.parts.features import feature_place

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session

KINDS: tuple[tuple[NoteKind, str], ...] = (
    ("rule", "Class or local rule"),
    ("patent", "Patent"),
    ("name", "Name"),
    ("safety", "Safety"),
)
ADVICE = "A note of this workshop, no legal advice: ask who is licensed to give it"


class Notes:
    """What was noted on a board. It can all be taken back."""

    def __init__(self, session: Session) -> None:
        self._session = session

    def here(self) -> list[Record]:
        """The notes on the board on the bench, the first one first."""
        ids, board_id = self._session.workshop.saving.ids, self._session.board_id
        found = [
            r
            for r in self._session.workshop.registers.of("note")
            if r.board is not None and ids(r.board) == ids(board_id)
        ]
        return sorted(found, key=lambda r: r.first_at)

    def keep(self, note: Note) -> str:
        """Keep a note on the board on the bench; its identity. Raises InputError where nothing is said."""
        if not note.words.strip():
            raise InputError("nothing is noted", where="Words", accepts="Write what to mind, and where you read it")
        words = f"a note on {note.about or 'the board'}"
        return self._session.workshop.registers.keep("note", note, words, board=self._session.board_id)

    def strike(self, record: Record) -> None:
        """Take a note off."""
        self._session.workshop.registers.take_off(record.uid, "a note taken off")

    def findings(self) -> tuple[Finding, ...]:
        """The notes as what is worth a look, each at its feature."""
        board, kinds = self._session.board, dict(KINDS)
        return tuple(
            Finding(
                code=f"note.{r.value.kind}",
                text=f"{kinds[r.value.kind]}, {r.value.about}: {r.value.words}"
                + (f" ({r.value.source})" if r.value.source else ""),
                severity=Severity.NOTE,
                place=feature_place(board, r.value.about),
                advice=ADVICE,
            )
            for r in self.here()
        )
