"""Briefs and registers: a brief holds rider, place and gear as they were at a revision, and takes newer ones when
asked.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Literal

from kelvor.core.base.disciplines import FOILING, RIGS
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import FIRST_GEAR, Brief, Refers
from kelvor.core.register.kinds.registers import Spot
from kelvor.core.register.record import Record, RecordKind

Part = Literal["rider", "place", "wing", "foil"]
PARTS: dict[RecordKind, Part] = {
    "rider": "rider",
    "place": "place",
    "sail": "wing",
    "hand wing": "wing",
    "kite": "wing",
    "foil": "foil",
}
"""Which part of a brief a register's kind is."""


FIRST_PIECES = 3
"""So many pieces of gear a new board's brief begins with."""


def fitting(brief: Brief, kind: RecordKind) -> bool:
    """Whether a brief's discipline has any use for a kind of gear: never a sail on a kite board."""
    part = PARTS.get(kind)
    if part == "wing":
        return RIGS.get(brief.discipline) == kind
    return part in ("rider", "place") or (part == "foil" and brief.discipline in FOILING)


def held_part(brief: Brief, refers: Refers) -> Any:
    """The part of a brief that refers to a register; None where it is gone from the brief."""
    if refers.part == "rider":
        return brief.rider
    if refers.part == "place":
        return Spot(name=brief.place or "Place", water=brief.water, wind=brief.wind.speed, height=brief.wind.height)
    return next((item for item in _items(brief, refers.part) if item.name == refers.name), None)


def _items(brief: Brief, part: Part) -> tuple[Any, ...]:
    return brief.wings if part == "wing" else brief.foils


def brief_with_record(brief: Brief, record: Record, *, use: bool = False) -> Brief:
    """The brief with a record as it is now: in place of what it held of it, or added to the gear; new gear is in use,
    the other with `use`.
    """
    part = PARTS[record.kind]
    value = record.value
    kept = tuple(r for r in brief.refers if r.uid != record.uid and not (part in ("rider", "place") and r.part == part))
    refers = (*kept, Refers(part=part, name=value.name, uid=record.uid, revision=record.revision))
    if part == "rider":
        return replace(brief, rider=value, refers=refers)
    if part == "place":
        wind = replace(brief.wind, speed=value.wind, height=value.height)
        return replace(brief, place=value.name, water=value.water, wind=wind, refers=refers)
    before = next((r for r in brief.refers if r.uid == record.uid), None)
    items = _items(brief, part)
    at = next((i for i, item in enumerate(items) if before is not None and item.name == before.name), len(items))
    items = (*items[:at], value, *items[at + 1 :])
    if part == "wing":
        return replace(
            brief, wings=items, wing_in_use=at if use or before is None else brief.wing_in_use, refers=refers
        )
    return replace(brief, foils=items, foil_in_use=at if use or before is None else brief.foil_in_use, refers=refers)


def followed(before: Brief, after: Brief) -> Brief:
    """A brief that was edited, what it refers to by the names its gear has now; gear that is gone refers to nothing."""
    if after.refers != before.refers or (before.wings, before.foils) == (after.wings, after.foils):
        return after
    kept = []
    for refers in after.refers:
        if refers.part in ("rider", "place"):
            kept.append(refers)
            continue
        old, new = (_items(brief, refers.part) for brief in (before, after))
        at = next((i for i, item in enumerate(old) if item.name == refers.name), None)
        if len(old) == len(new) and at is not None and before.discipline == after.discipline:
            kept.append(replace(refers, name=new[at].name))
        elif any(item.name == refers.name for item in new):
            kept.append(refers)
    return replace(after, refers=tuple(kept))


def fitted_brief(brief: Brief, records: Iterable[Record]) -> Brief:
    """A brief for a new board, its first gear of the discipline's own kind in place of what nobody chose: the pieces
    written last, three at most.
    """
    rig = RIGS.get(brief.discipline)
    brief = replace(brief, refers=tuple(refers for refers in brief.refers if held_part(brief, refers) is not None))
    found = sorted((record for record in records if not record.gone), key=lambda r: r.made_at, reverse=True)
    wings = [record for record in found if record.kind == rig][:FIRST_PIECES]
    if rig is not None and wings and brief.wings == (FIRST_GEAR[rig],):
        brief = replace(brief, wings=())
        for record in reversed(wings):
            brief = brief_with_record(brief, record)
    foils = [record for record in found if record.kind == "foil"][:FIRST_PIECES]
    if brief.discipline in FOILING and foils and brief.foils == Brief().foils:
        brief = replace(brief, foils=())
        for record in reversed(foils):
            brief = brief_with_record(brief, record)
    return brief


def parts(brief: Brief) -> list[tuple[RecordKind, Any]]:
    """What of a brief belongs into registers, by kind."""
    found: list[tuple[RecordKind, Any]] = [("rider", brief.rider)]
    if brief.place.strip():
        found.append(
            ("place", Spot(name=brief.place[:80], water=brief.water, wind=brief.wind.speed, height=brief.wind.height))
        )
    rig = RIGS.get(brief.discipline)
    if rig is not None:
        found += [(rig, wing) for wing in brief.wings]
    return found + [("foil", foil) for foil in brief.foils]


def referring(brief: Brief, record: Record) -> Brief:
    """The brief, saying that its part of a record's name is kept in the register; what it holds of it stays as
    it is.
    """
    part = PARTS[record.kind]
    if any(r.uid == record.uid or (r.part == part and part in ("rider", "place")) for r in brief.refers):
        return brief
    refers = Refers(part=part, name=record.value.name, uid=record.uid, revision=record.revision)
    there = held_part(brief, refers)
    return (
        replace(brief, refers=(*brief.refers, refers))
        if there is not None and there.name == record.value.name
        else brief
    )


@frozen
class RecordStanding:
    """How a part of a brief stands to its record: there is a newer revision, it was changed in the brief, or the record
    is off the register.
    """

    refers: Refers
    record: Record
    newer: bool
    changed: bool


def record_standings(brief: Brief, records: Iterable[Record]) -> list[RecordStanding]:
    """Every part of a brief that refers to a record, and how it stands to it."""
    by_uid = {record.uid: record for record in records}
    found = []
    for refers in brief.refers:
        record = by_uid.get(refers.uid)
        part = held_part(brief, refers)
        if record is None or part is None or PARTS.get(record.kind) != refers.part:
            continue
        same = _same(part, record.value)
        newer = record.revision > refers.revision and not same
        found.append(RecordStanding(refers, record, newer, not newer and not same))
    return found


def _same(part: Any, value: Any) -> bool:
    if isinstance(value, Spot):  # the wind of a brief is that of the day it is for
        return bool((part.name, part.water) == (value.name, value.water))
    return bool(part == value)


def noted(value: Any, part: Any) -> Any:
    """What a register should hold so that it says what the brief does: a place keeps its usual wind, its shore and its
    notes.
    """
    return replace(value, name=part.name, water=part.water) if isinstance(value, Spot) else part
