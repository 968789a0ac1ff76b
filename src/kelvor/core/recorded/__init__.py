"""What records of each kind hold; a kind's module is loaded when the first of them is read."""

from __future__ import annotations

from functools import cache
from importlib import import_module
from typing import Any, get_args

from kelvor.core.record import RecordKind

_WHERE: dict[RecordKind, str] = {
    "rider": "brief:Rider", "place": "recorded.registers:Spot", "sail": "brief:Wing", "hand wing": "brief:Wing",
    "kite": "brief:Wing", "foil": "brief:Foil", "fin": "shape.fittings:Fin", "paddle": "recorded.registers:Paddle",
    "decision": "recorded.words:Decision", "said": "recorded.words:Said", "old board": "recorded.words:OldBoard",
    "feel": "recorded.words:Feel", "felt": "recorded.words:LeastFelt",
    "handed out": "recorded.shop:HandedOut", "reshape": "recorded.shop:Reshape",
    "made board": "recorded.shop:MadeBoard", "weighed": "recorded.shop:Weighed", "worked": "recorded.shop:Worked",
    "read": "recorded.shop:Read", "tolerance": "recorded.shop:Tolerance", "done": "recorded.shop:Done",
    "mill": "mill:Mill", "order": "recorded.shop:Order", "proof": "recorded.shop:Proof",
    "session": "recorded.water:Session", "set-up": "recorded.water:SetUp", "track": "recorded.water:TrackFile",
    "on the water": "recorded.water:OnTheWater", "test": "recorded.water:Trial", "test run": "recorded.water:TrialRun",
    "incident": "recorded.water:Incident", "retire rule": "recorded.water:RetireRule",
    "columns": "recorded.water:Columns", "shore line": "recorded.water:ShoreLine", "search": "recorded.sought:Search",
    "family": "recorded.family:Family", "size": "recorded.family:FamilySize",
    "class rule": "recorded.family:ClassRule", "entered": "recorded.family:Entered",
    "note": "recorded.words:Note",
}  # fmt: skip
KINDS: tuple[RecordKind, ...] = get_args(RecordKind)
"""Every kind of record."""


@cache
def value_of(kind: RecordKind) -> type[Any]:
    """The class of what a record of a kind holds."""
    module, _, name = _WHERE[kind].partition(":")
    found: type[Any] = getattr(import_module(f"kelvor.core.{module}"), name)
    return found
