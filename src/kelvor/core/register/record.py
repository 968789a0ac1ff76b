"""What a workshop remembers besides boards and steps: riders, places, gear, decisions, words, and boards from a
notebook.

One record for all kinds: a thing has an identity that never changes and
revisions that are only added. Each revision is written with its time and its
origin, and holds one value of its kind; a thing that is struck has a last
revision that says so.
"""

from __future__ import annotations

from typing import Any, Literal, get_args

from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import Text
from kelvor.core.base.values import frozen

RecordKind = Literal[
    "rider",
    "place",
    "sail",
    "hand wing",
    "kite",
    "foil",
    "fin",
    "paddle",
    "decision",
    "said",
    "old board",
    "feel",
    "felt",
    "handed out",
    "reshape",
    "made board",
    "weighed",
    "worked",
    "read",
    "tolerance",
    "done",
    "mill",
    "order",
    "proof",
    "session",
    "set-up",
    "track",
    "on the water",
    "test",
    "test run",
    "incident",
    "retire rule",
    "columns",
    "shore line",
    "search",
    "family",
    "size",
    "class rule",
    "entered",
    "note",
]
UID = Text(200, least=1)
"""An identity of a record: letters and digits of its own, or its made board's with what was read or done on it."""
OF = Text(UID.longest)
"""The identity of another record, or none."""
FILE_NAME = 200
"""How much is kept of the name of a file [letters]."""
SHA = Text(64)
"""What tells a photo, card or voice note: its SHA-256, or none."""
Verdict = Literal["kept", "dropped", "parked"]
Whereabouts = Literal["in the shop", "on the rack", "out on loan", "sold", "broken", "lost"]
WHEREABOUTS: tuple[Whereabouts, ...] = get_args(Whereabouts)
REGISTERS: tuple[RecordKind, ...] = ("rider", "place", "sail", "hand wing", "kite", "foil", "fin", "paddle")
"""What is kept in a register: chosen again for board after board."""
LONGEST_PHOTO = 8 * 1024 * 1024
"""No photo is larger [bytes]."""
ORIGINS: tuple[Origin, ...] = get_args(Origin)


@frozen
class Record:
    """A thing as it was last written.

    Attributes
    ----------
    uid:
        Its identity, the same in every revision.
    revision:
        How many times it was written.
    first_at, made_at:
        When it was first and last written.
    gone:
        Whether it was struck or taken off the register; its value stays readable.
    board, step:
        What it is about, where it is about one.
    """

    uid: str
    kind: RecordKind
    revision: int
    first_at: str
    made_at: str
    origin: Origin
    gone: bool
    value: Any
    board: int | None = None
    step: int | None = None


_GOES_BY: dict[RecordKind, str] = {
    "decision": "verdict", "said": "words", "feel": "words", "made board": "serial", "weighed": "stage",
    "worked": "stage", "tolerance": "kind", "done": "activity", "order": "customer", "proof": "what",
    "session": "day", "set-up": "board", "on the water": "what", "test": "question", "test run": "change",
    "retire rule": "kind", "columns": "heads", "shore line": "place", "search": "asked",
    "size": "mass", "entered": "rule", "note": "words",
}  # fmt: skip
"""The field a record goes by, where it is not its name."""


def record_name(record: Record) -> str:
    """What a record goes by in a list."""
    if record.kind == "mill":
        return "Mill"
    if record.kind == "read":
        return f"{record.value.measure} {record.value.side}".strip()
    found = getattr(record.value, _GOES_BY.get(record.kind, "name"))
    return ", ".join(found) if isinstance(found, tuple) else str(found)
