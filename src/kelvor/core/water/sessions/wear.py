"""Hours on fins, foils and boards, what happened to them, and when they are to be looked at or retired."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import Incident, RetireRule, SetUp
from kelvor.core.register.record import Record, RecordKind, record_name
from kelvor.core.water.sessions.log import Logged

WORN: tuple[RecordKind, ...] = ("fin", "foil", "sail", "hand wing", "kite", "paddle", "made board")
"""Kinds of gear whose hours are counted."""


@frozen
class Worn:
    """A piece of gear, its hours [h], in how many sessions and on which day last, what happened to it, and what that
    asks for.

    Attributes
    ----------
    due:
        What is to be done: “retired”, “retire it”, “look at it”, or nothing.
    why:
        In a sentence.
    """

    record: Record
    hours: float
    sessions: int
    last: str
    incidents: tuple[Record, ...]
    due: str = ""
    why: str = ""


def worn(
    gear: Iterable[Record], log: Sequence[Logged], incidents: Iterable[Record], rules: Iterable[RetireRule]
) -> tuple[Worn, ...]:
    """All gear that wears, the one that asks for something first."""
    told = [r for r in incidents if isinstance(r.value, Incident) and not r.gone]
    limits = {rule.kind: rule for rule in rules}
    found = []
    for record in gear:
        if record.kind not in WORN:
            continue
        hours, count, last = _used(record, log)
        own = tuple(r for r in told if r.value.what == record.uid)
        found.append(_judged(record, hours, count, last, own, limits.get(record.kind)))
    order = {"retire it": 0, "look at it": 1, "": 2, "retired": 3}
    return tuple(sorted(found, key=lambda w: (order[w.due], -w.hours, record_name(w.record).casefold())))


def _used(record: Record, log: Sequence[Logged]) -> tuple[float, int, str]:
    hours, count, last = 0.0, 0, ""
    name = record_name(record).casefold()
    for one in log:
        if one.value.struck:
            continue
        mine = [
            r.value
            for r in one.setups
            if isinstance(r.value, SetUp)
            and (
                record.uid in r.value.gear
                or record.uid == r.value.made
                or name in (r.value.drive.casefold(), r.value.foil.casefold(), r.value.fin.casefold())
            )
        ]
        if mine:
            share = len(mine) / max(len(one.setups), 1)
            typed = sum(s.hours for s in mine)
            hours += typed or one.hours * share
            count, last = count + 1, max(last, one.value.day)
    return hours, count, last


def _judged(
    record: Record, hours: float, count: int, last: str, incidents: tuple[Record, ...], rule: RetireRule | None
) -> Worn:
    open_crack = False
    for entry in incidents:
        value = entry.value
        if value.struck:
            continue
        if value.retired:
            return Worn(record, hours, count, last, incidents, "retired", f"Retired {value.day}: {value.words}".strip())
        if value.kind == "crack":
            open_crack = True
        elif value.kind == "repair":
            open_crack = False
    if open_crack:
        why = "A crack is written down and no repair. A cracked fin, foil mast or box is retired, not passed on."
        return Worn(record, hours, count, last, incidents, "retire it", why)
    if rule is not None and hours >= rule.hours:
        why = f"{hours:.0f} h, and {rule.source} says {rule.hours:.0f} h."
        return Worn(record, hours, count, last, incidents, "look at it", why)
    return Worn(record, hours, count, last, incidents)
