"""Paddled and towed: watts, glide, starts, slopes that drive, drag at tow speed."""

from __future__ import annotations

import numpy as np

from kelvor.core.displacement.waves import THIN
from kelvor.core.fluids import GRAVITY
from kelvor.core.ride import paddling as law
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.model import Running
from kelvor.core.ride.pictures import Chart, Line, Mark
from kelvor.core.ride.telling.under_way import attitude, nose
from kelvor.core.units import DEGREE, KNOT
from kelvor.core.units import Quantity as Q

BUMP = 9.5 * KNOT
"""Speed of the bumps that a race board is asked to plane on (common practice, no source)."""


def watts(case: RideCase) -> None:
    """Drag power from two to five knots, and the drag with part of the weight on the foil."""
    tell, curve, model = case.tell, case.board.paddling, case.model
    for knots in (2, 3, 4, 5):
        speed = knots * KNOT
        tell.add(f"paddle_watts_{knots}", curve.at(speed) * speed, curve.band_at(speed) * speed,
                 f"{curve.at(speed):.0f} N of drag; the paddler gives {curve.at(speed) * speed / model.table.stroke_efficiency:.0f} W")  # fmt: skip
    if model.wing is not None:
        _over_the_hump(case)
    else:
        entry(case)
    slope_of(case)
    hold = law.yaw_hold(model, 10 * DEGREE, 3 * KNOT)
    tell.add("yaw_hold", hold, 0.2 * abs(hold) + 0.2, "fins and mast about the middle of the waterline")
    _picture(case)


def entry(case: RideCase) -> None:
    """The nose of a board without a foil, running at the speed of its wave or bump."""
    speed = BUMP if case.brief.discipline in ("paddle race", "prone race") else max(case.condition.pace, 2.0)
    state = case.model.running(speed)
    nose(case, state, f"at {speed / KNOT:.1f} kn")
    attitude(case, state, f"at {speed / KNOT:.1f} kn")


def _over_the_hump(case: RideCase) -> None:
    tell, model, top = case.tell, case.model, case.way.top
    peak = top.drag * top.speed / model.table.stroke_efficiency
    tell.add(
        "peak_watts",
        peak,
        peak * float(np.hypot(top.band / top.drag, 0.13)),
        f"{top.drag:.0f} N at {top.speed / KNOT:.1f} kn, stroke efficiency {model.table.stroke_efficiency:.2f}",
    )
    for share in (30, 60, 90):
        speed = case.way.lift_off * float(np.sqrt(share / 100))
        state = model.running(speed, foil_share=share / 100)
        tell.add(f"drag_foil_{share}", state.drag, state.band, f"at {speed / KNOT:.1f} kn, where the foil lifts that much")


def slope_of(case: RideCase) -> None:
    """The slope of water that takes the board over its hump, or planes it at the speed of the bumps."""
    model = case.model
    if model.wing is not None:
        drag, words = case.way.top, f"hump {case.way.top.drag:.0f} N of {model.weight:.0f} N"
    else:
        drag = model.running(BUMP)
        words = f"{drag.drag:.0f} N of {model.weight:.0f} N at {BUMP / KNOT:.0f} kn, speed lifts {drag.moving * 100:.0f} %"
    slope = float(np.arctan(drag.drag / model.weight))
    case.tell.add("bump_slope", slope, slope * drag.band / max(drag.drag, 1.0), words)


def pace(case: RideCase) -> None:
    """Speed at the paddler's watts, what the pace costs, starts and glides."""
    tell, curve, model, brief = case.tell, case.board.paddling, case.model, case.brief
    table = model.table
    power = brief.watts * table.stroke_efficiency
    speed = law.speed_at(curve, power)
    share = curve.band_at(speed) / max(curve.at(speed), 1e-6)
    tell.add(
        "paddle_speed",
        speed,
        speed * float(np.hypot(share, 0.13)) / 2.6,
        f"{brief.watts:.0f} W at the paddle, {power:.0f} W against {curve.at(speed):.0f} N",
    )
    wanted = case.condition.pace
    drag = curve.at(wanted)
    tell.add("pace_drag", drag, curve.band_at(wanted), f"at {wanted / KNOT:.1f} kn; " + _parts(case, wanted))
    cost = drag * wanted / table.stroke_efficiency
    tell.add(
        "pace_watts",
        cost,
        cost * float(np.hypot(curve.band_at(wanted) / drag, 0.13)),
        f"{wanted / KNOT:.1f} kn, stroke efficiency {table.stroke_efficiency:.2f}",
    )
    loss = law.glide_loss(model, curve, wanted)
    tell.add("glide_loss", loss, 0.2 * loss, f"{table.stroke_rate:.2f} strokes a second at {wanted / KNOT:.1f} kn")
    start = law.start_time(model, curve, wanted)
    tell.add("start_time", start, 0.2 * start, f"to 95 % of {wanted / KNOT:.1f} kn at {brief.peak_watts:.0f} W",
             invalid="" if np.isfinite(start) else f"{brief.peak_watts:.0f} W do not reach {wanted / KNOT:.1f} kn")  # fmt: skip
    turn = law.yaw_per_stroke(model, curve, wanted)
    tell.add("yaw_per_stroke", turn, 0.4 * turn, "one side; ranking only")
    at_rest, moving = model.form_at(model.weight).wetted, model.running(wanted)
    tell.claim("paddle_speed", "at most 40 % of it is wetted", f"{moving.area / max(at_rest, 1e-6) * 100:.0f} % of what is wet at rest is wet at "
               f"{wanted / KNOT:.1f} kn; speed lifts {moving.moving * 100:.0f} % of you there, and planing freely at 10 kn would take "
               f"{model.running(10 * KNOT).drag * 10 * KNOT:.0f} W against the drag alone")  # fmt: skip
    rises = law.nose_recovery(model)
    tell.add("nose_recovery", rises, 0.05 * rises, "last 60 cm of the nose under")
    _picture(case)


def _parts(case: RideCase, speed: float) -> str:
    state = case.model.running(speed)
    form = case.model.form_at(state.load)
    words = f"friction {state.friction:.0f}, waves {state.waves:.0f}, air {state.air:.0f} N"
    slim = form.beam / form.length
    return words + (f"; beam over length {slim:.2f}, beyond the thin hulls of Michell" if slim > THIN else "")


def _picture(case: RideCase) -> None:
    curve, brief, model = case.board.paddling, case.brief, case.model
    push = brief.watts * model.table.stroke_efficiency / np.maximum(curve.speeds, 0.8)
    marks = []
    wanted = case.condition.pace
    if 0 < wanted <= curve.speeds[-1]:
        marks.append(Mark(wanted, f"{wanted / KNOT:.1f} kn, {curve.at(wanted):.0f} N", curve.at(wanted)))
    case.tell.pictures["paddle"] = Chart(
        "Drag against the paddle", f"{brief.rider.mass:.0f} kg; push of {brief.watts:.0f} W at "
            f"a stroke efficiency of {model.table.stroke_efficiency:.2f}.",
        "board speed, kn", Q.SPEED, "N", Q.FORCE, (Line("drag", "now", curve.speeds, curve.drag, curve.band),
        Line("paddle", "push", curve.speeds, push)),
        tuple(marks))  # fmt: skip


def towed(case: RideCase) -> None:
    """Drag at tow speed, and the slope of wake that would drive the board without a line."""
    tell, model = case.tell, case.model
    state = model.running(max(case.condition.pace, 1.0))
    words = f"{state.speed / KNOT:.1f} kn, trim {state.trim / DEGREE:.1f}°, wetted {state.wetted * 100:.0f} cm"
    why = "" if state.moving > 0.85 else "not planing freely at this speed"
    tell.add("tow_drag", state.drag, state.band, words, invalid=why)
    slope = float(np.arctan(state.drag / model.weight))
    tell.add("wake_slope", slope, slope * state.band / state.drag, words, invalid=why)
    if case.draw:
        _tow_curves(case, state)


def _tow_curves(case: RideCase, state: Running) -> None:
    """Slope and drag over speed."""
    model = case.model
    middle = BUMP if case.brief.discipline in ("paddle race", "prone race") else max(case.condition.pace, 2.0)
    speeds = np.linspace(0.5, 1.5, 13) * middle
    states = [model.running(float(v)) for v in speeds]
    steep = np.array([np.arctan(s.drag / model.weight) for s in states])
    wide = np.array([np.arctan(s.drag / model.weight) * s.band / s.drag for s in states])
    case.tell.pictures["slope"] = Chart(
        "Slope of water that carries it", f"{case.brief.rider.mass:.0f} kg without a "
            "line: gravity down the slope against drag.", "speed, kn", Q.SPEED, "slope, °",
        Q.ANGLE, (Line("slope needed", "now", speeds, steep, wide),),
        (Mark(middle, f"{middle / KNOT:.1f} kn, "
            f"{np.degrees(np.interp(middle, speeds, steep)):.1f}°", float(np.interp(middle, speeds, steep))),))  # fmt: skip
    drags = np.array([s.drag for s in states])
    case.tell.pictures["tow"] = Chart(
        "Drag over tow speed", f"{case.brief.rider.mass:.0f} kg, "
            f"{GRAVITY * case.brief.rider.mass:.0f} N on the board.", "speed, kn", Q.SPEED, "N", Q.FORCE,
        (Line("drag", "now", speeds, drags, np.array([s.band for s in states])),), (Mark(case.condition.pace,
            f"{state.drag:.0f} N", state.drag),))  # fmt: skip
