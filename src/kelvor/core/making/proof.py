"""What speaks against selling a board, and the static load that proves it."""

from __future__ import annotations

import math
from collections.abc import Sequence

from kelvor.core.brief import Brief
from kelvor.core.findings import Severity
from kelvor.core.live import Live
from kelvor.core.materials.table import MaterialTable
from kelvor.core.plain_text import one_line
from kelvor.core.shape.clearance import clearances
from kelvor.core.shape.construction import Construction
from kelvor.core.stiffness.stage import BOX, LANDING, WRINKLE, stiffness_stage

SHARE = 1.5
"""A proof load is so many times the computed moment (common practice, no source)."""


def needed(live: Live, brief: Brief, table: MaterialTable) -> float:
    """The moment a proof load must reach: of the mast in foam alone, or the one wrinkling is compared at [N m]."""
    stiff = stiffness_stage(live.geometry, live.mass, brief, table)
    figures = {} if stiff is None else {f.key: f for f in stiff.figures if f.exists}
    computed = figures[BOX.key].value if BOX.key in figures else LANDING
    return float(math.ceil(SHARE * computed - 1e-9))  # whole newton metres, as it is told and typed


def doubts(live: Live, brief: Brief, table: MaterialTable, kept: Sequence[Construction]) -> list[str]:
    """What a proof load must answer: a margin below one, a flagged box or track, a layer fewer than the workshop keeps,
    no construction.
    """
    if live.mass.layup is None:
        return ["no construction is stated"]
    stiff = stiffness_stage(live.geometry, live.mass, brief, table)
    found = [
        f"{f.definition.label.lower()} {f.value:.3g}, below 1"
        for f in (stiff.figures if stiff is not None else ())
        if f.key == WRINKLE.key and f.exists and f.value < 1
    ]
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
