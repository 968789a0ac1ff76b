"""What records of each kind hold; a kind's module is loaded when the first of them is read."""

from __future__ import annotations

from functools import cache
from importlib import import_module
from typing import Any, get_args

from kelvor.core.register.record import RecordKind

_WHERE: dict[RecordKind, str] = {
    "rider": "kelvor.core.brief.brief:Rider", "place": "registers:Spot", "sail": "kelvor.core.brief.brief:Wing",
    "hand wing": "kelvor.core.brief.brief:Wing", "kite": "kelvor.core.brief.brief:Wing",
    "foil": "kelvor.core.brief.brief:Foil", "fin": "kelvor.core.shape.parts.fittings:Fin", "paddle": "registers:Paddle",
    "decision": "words:Decision", "said": "words:Said", "old board": "words:OldBoard", "feel": "words:Feel",
    "felt": "words:LeastFelt", "handed out": "shop:HandedOut", "reshape": "shop:Reshape",
    "made board": "shop:MadeBoard", "weighed": "shop:MassReading", "worked": "shop:Worked", "read": "shop:Read",
    "tolerance": "shop:Tolerance", "done": "shop:Done", "mill": "kelvor.core.base.mill:Mill", "order": "shop:Order",
    "proof": "shop:Proof", "session": "water:WaterSession", "set-up": "water:SetUp", "track": "water:TrackFile",
    "on the water": "water:OnTheWater", "test": "water:Trial", "test run": "water:TrialRun",
    "incident": "water:Incident", "retire rule": "water:RetireRule", "columns": "water:ColumnMeanings",
    "shore line": "water:ShoreLine", "search": "searches:Search", "family": "family:Family",
    "size": "family:FamilySize", "class rule": "family:ClassRule", "entered": "family:Entered", "note": "words:Note",
}  # fmt: skip
KINDS: tuple[RecordKind, ...] = get_args(RecordKind)
"""Every kind of record."""


@cache
def value_of(kind: RecordKind) -> type[Any]:
    """The class of what a record of a kind holds."""
    module, _, name = _WHERE[kind].partition(":")
    where = module if module.startswith("kelvor.") else f"{__name__}.{module}"
    found: type[Any] = getattr(import_module(where), name)
    return found
