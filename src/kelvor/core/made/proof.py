"""What speaks against selling a board, and the static load that proves it."""

from __future__ import annotations

import math
from collections.abc import Sequence

from kelvor.core.base.findings import Severity
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.evaluation.live import Live
from kelvor.core.made.service import service
from kelvor.core.shape.checks.clearance import clearances
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import Coefficients

SHARE = 1.5
"""A proof load is so many times what is asked in use (common practice, no source)."""


@frozen
class Needed:
    """The static load that proves a board [N m], on which part, why so much, and why none is told, where foam alone
    would not bear it.
    """

    moment: float
    part: str
    why: str
    refused: str = ""


def needed(live: Live, table: MaterialTable, coefficients: Coefficients) -> Needed:
    """The moment a proof load must reach: so many times what is asked in use."""
    parts = service(live, table, coefficients)
    asked, weak = parts[0], next((one for one in parts if one.held < SHARE * one.moment), None)
    moment = float(math.ceil(SHARE * asked.moment - 1e-9))  # whole newton metres, as it is told and typed
    why = f"{SHARE:g} times {asked.why}"
    if weak is not None:
        wanted = math.ceil(SHARE * weak.moment - 1e-9)
        refused = (
            f"foam alone holds {weak.held:.0f} N m at the {weak.part.split(',')[0]}, and the proof would be "
            f"{wanted} N m: set it in dense blocks, or tie it to the deck, before anything is loaded"
        )
        return Needed(moment, asked.part, why, refused)
    return Needed(moment, asked.part, why)


def proof_conditions(live: Live, kept: Sequence[Construction]) -> list[str]:
    """What a proof load must answer: a flagged box or track, a layer fewer than the workshop keeps,
    no construction.
    """
    if live.mass.layup is None:
        return ["no construction is stated"]
    found: list[str] = []
    boxes = ("Foil tracks", "Foil box", *(box.name for box in live.board.fittings.fin_boxes))
    flagged = (f for f in clearances(live.geometry) if f.severity is Severity.WARNING)
    found += list(dict.fromkeys(one_line(f.text, 90) for f in flagged if any(name in f.text for name in boxes)))
    construction = live.mass.layup.construction
    same = next((c for c in kept if c.name == construction.name), None)
    if same is not None and _layers(construction) < _layers(same):
        fewer = _layers(same) - _layers(construction)
        found.append(f"{'a layer' if fewer == 1 else f'{fewer} layers'} fewer than “{same.name}” is kept with")
    return found


def _layers(construction: Construction) -> int:
    return sum(ply.count for ply in construction.plies if ply.on)
