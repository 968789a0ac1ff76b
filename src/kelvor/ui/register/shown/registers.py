"""Registers in words."""

from __future__ import annotations

from typing import NamedTuple

from kelvor.core.register.record import Record, RecordKind


class Words(NamedTuple):
    """What one of a kind, and many, are called."""

    one: str
    many: str


KINDS: dict[RecordKind, Words] = {
    "rider": Words("rider", "Riders"),
    "place": Words("place", "Places"),
    "sail": Words("sail", "Sails"),
    "hand wing": Words("hand wing", "Hand wings"),
    "kite": Words("kite", "Kites"),
    "foil": Words("foil", "Foils"),
    "fin": Words("fin", "Fins"),
    "paddle": Words("paddle", "Paddles"),
}
SHOWN = 6


def revision_words(record: Record) -> str:
    """How often and when a thing was written."""
    if record.revision == 1:
        return (
            f"Written on {record.made_at[:10]}. What you change is a new revision; briefs keep the one they "
            f"took until they take the newer."
        )
    return f"Revision {record.revision}, of {record.made_at[:10]}; first written on {record.first_at[:10]}."


def users_words(record: Record, used: dict[int, int], names: dict[int, str]) -> str:
    """Which boards' briefs refer to a thing, and how many of them to an older revision."""
    if not used:
        return "No brief refers to it yet."
    known = [names.get(board, f"board {board}") for board in used]
    more = f" and {len(known) - SHOWN} more" if len(known) > SHOWN else ""
    behind = sum(revision < record.revision for revision in used.values())
    older = f" {behind} of them hold an older revision." if behind else ""
    return f"In {len(known)} brief{'s' if len(known) != 1 else ''}: {', '.join(known[:SHOWN])}{more}.{older}"
