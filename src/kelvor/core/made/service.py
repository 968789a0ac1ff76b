"""What a ride asks of the boxes, tracks and feet of a board, and what foam holds there.

Statics: a force at a lever. The side force is the most a rider holds against the gear, the landing some times the
rider's weight on the back foot (a coefficient, judgement). Laminate and glue are not counted on either side.
"""

from __future__ import annotations

import math

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.table import CoreMaterial, MaterialTable
from kelvor.core.build.stiffness.local import box_moment, fin_box_torque
from kelvor.core.evaluation.live import Live
from kelvor.core.measures.stance import feet
from kelvor.core.ride.case import BoardCase, RideCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.model import RideModel
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.lifting.foils import lifts_ahead


@frozen
class LoadCase:
    """A moment that is asked of a part [N m], by what, in words, and what foam alone holds there [N m]; NaN where that
    is not known.
    """

    part: str
    moment: float
    why: str
    held: float = math.nan


def service(live: Live, table: MaterialTable, coefficients: Coefficients) -> list[LoadCase]:
    """The moments in use, the greatest first: on the foil's mast; without one, on the fins and between the feet."""
    measured, brief, board = live.geometry, live.brief, live.board
    weight = brief.rider.mass * GRAVITY
    landing = coefficients.landing_load * weight
    stood = feet(measured, brief.rider)
    back, front = stood.back, stood.front
    side, stock = _side_force(live, coefficients), _about_boxes(live, table)
    struck = f"a landing of {coefficients.landing_load:g} times your weight"
    if board.fittings.tracks is not None and (mast := board.mast_x) is not None:
        held = box_moment(measured, stock) if stock is not None else math.nan
        long, ahead = brief.foil.mast_length, lifts_ahead(brief.foil, coefficients)
        lift = (live.mass.total.mass + brief.foil.mass) * GRAVITY + weight
        asked = [
            LoadCase(
                "mast", landing * abs(mast - back), f"{struck} on the back foot, {_cm(mast - back)} from the mast", held
            ),
            LoadCase("mast, sideways", side * long, f"{side:.0f} N of side force on a mast of {_cm(long)}"),
            LoadCase("mast", lift * abs(ahead), f"the foil's lift of {lift:.0f} N, {_cm(ahead)} from the mast", held),
        ]
        return sorted(asked, key=lambda one: -one.moment)
    asked = [
        LoadCase("deck, at the feet", landing * (front - back) / 4, f"{struck} between feet {_cm(front - back)} apart")
    ]
    if board.fittings.fin_boxes:
        fin = max((box.fin for box in board.fittings.fin_boxes), key=lambda fin: fin.span)
        side = side or coefficients.side_push * weight
        lever = coefficients.fin_centre * fin.span
        why = f"{side:.0f} N of side force {_cm(lever)} down a fin of {_cm(fin.span)}"
        held = fin_box_torque(measured, stock) if stock is not None else math.nan
        asked.append(LoadCase("fin box, sideways", side * lever, why, held))
    return sorted(asked, key=lambda one: -one.moment)


def _side_force(live: Live, coefficients: Coefficients) -> float:
    """What fins or mast answer in the brief's own wind [N], as the ride tells it; nothing without a gear."""
    model = RideModel(live.geometry, live.measures, live.mass.total, live.brief, coefficients)
    board = BoardCase(model, {})
    return 0.0 if board.rigged is None else RideCase(board, condition_of(live.brief), draw=False).fin_load[1]


def _about_boxes(live: Live, table: MaterialTable) -> CoreMaterial | None:
    """What boxes and tracks bear on: dense blocks where there are some, else the core; None where that is not known."""
    construction = live.board.construction
    if construction is None:
        return None
    return table.stock(construction.blocks or construction.core.stock)


def _cm(length: float) -> str:
    return f"{abs(length) * 100:.0f} cm"
