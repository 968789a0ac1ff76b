"""Boards that were begun, each with its serial: what was weighed, done and written of it, gathered from records."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Sequence
from typing import TYPE_CHECKING

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.stages import STAGES, Stage, WeighIn
from kelvor.core.register.record import Record, RecordKind

if TYPE_CHECKING:
    from kelvor.core.register.kinds.shop import MadeBoard

KINDS: tuple[RecordKind, ...] = ("made board", "weighed", "worked", "read", "done", "proof")
"""Records that tell of made boards."""


@frozen
class Made:
    """A board that was begun.

    Attributes
    ----------
    record, value:
        As it was last written; the record names board and version.
    weighed:
        The last reading of each stage that is not struck out, in the order of the work.
    entries:
        All that was weighed and done, struck out too, the first one first.
    readings:
        What was read off it, by measure of its sheet and side, in SI.
    done:
        What of the work is done, by activity of its schedule.
    """

    record: Record
    value: MadeBoard
    weighed: tuple[WeighIn, ...]
    entries: tuple[Record, ...]
    readings: dict[str, dict[str, Record]]
    done: dict[str, Record]

    @property
    def hours(self) -> float:
        """Hours worked on it, as they were written down."""
        return float(sum(e.value.hours for e in self.entries if e.kind == "worked" and not e.value.struck))

    def proved(self, moment: float) -> Record | None:
        """The proof load that held so much [N m], if any; not one after which another gave way."""
        proofs = [e for e in self.entries if e.kind == "proof" and not e.value.struck]
        if not proofs or not all(e.value.held for e in proofs):
            return None
        return next((e for e in proofs if e.value.moment >= moment), None)

    @property
    def stage(self) -> Stage | None:
        """The last stage anything is written of; None where nothing is."""
        reached = {e.value.stage for e in self.entries if not e.value.struck}
        return next((stage for stage in reversed(STAGES) if stage in reached), None)


def made_boards(records: Iterable[Record]) -> tuple[Made, ...]:
    """Every made board that is told of, the first one first."""
    begun: list[Record] = []
    about: dict[str, list[Record]] = {}
    for record in sorted(records, key=lambda r: r.first_at):
        if record.gone:
            continue
        if record.kind == "made board":
            begun.append(record)
        elif record.kind in KINDS:
            about.setdefault(record.value.made, []).append(record)
    return tuple(_made(record, about.get(record.uid, [])) for record in begun)


def _made(record: Record, entries: list[Record]) -> Made:
    last: dict[Stage, WeighIn] = {}
    for e in entries:
        if e.kind == "weighed" and not e.value.struck:
            there = last.get(e.value.stage)
            # what a stand-in said does not hide what a scale said
            if e.origin != "simulated" or there is None or there.origin == "simulated":
                last[e.value.stage] = WeighIn(e.value.stage, e.value.mass, e.origin)
    readings: dict[str, dict[str, Record]] = {}
    for entry in entries:
        if entry.kind == "read" and not entry.value.struck:
            readings.setdefault(entry.value.measure, {})[entry.value.side] = entry
    done = {e.value.activity: e for e in entries if e.kind == "done"}
    lines = tuple(e for e in entries if e.kind in ("weighed", "worked", "proof"))
    return Made(record, record.value, tuple(last[s] for s in STAGES if s in last), lines, readings, done)


def next_serial(taken: Sequence[str], year: int) -> str:
    """The serial a workshop would give next: the last one that ends in a number, counted on; 26-001 in a workshop
    without any.
    """
    ends = (re.fullmatch(r"(.*?)(\d{1,9})", serial.strip()) for serial in reversed(taken))
    head, digits = next(((found[1], found[2]) for found in ends if found), (f"{year % 100:02d}-", "000"))
    used, number = {serial.strip().lower() for serial in taken}, int(digits) + 1
    while f"{head}{number:0{len(digits)}d}".lower() in used:
        number += 1
    return f"{head}{number:0{len(digits)}d}"


def checked_serial(serial: str, taken: Collection[str]) -> str:
    """A serial as it is written on a board, blanks at its ends left off.

    Raises
    ------
    InputError
        When it is empty, or another board bears it: two boards never mix.
    """
    words = serial.strip()
    if not words:
        raise InputError("it has no serial", where="Begin a board", accepts="Type one, such as 26-014")
    if words.lower() in {other.strip().lower() for other in taken}:
        raise InputError(f"another board bears {words}", where="Begin a board", accepts="Each board has its own serial")
    return words
