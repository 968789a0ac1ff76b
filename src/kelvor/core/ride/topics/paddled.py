"""Paddled and towed: watts, glide, starts, slopes that drive, drag at tow speed."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import refined
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride import paddling as law
from kelvor.core.ride.case import PLANES_FREELY, SLOWEST_PACE, SLOWEST_WAVE, RideCase
from kelvor.core.ride.figures.paddled import (
    BUMP_SLOPE,
    DRAG_FOIL_30,
    DRAG_FOIL_60,
    DRAG_FOIL_90,
    FROUDE,
    GLIDE_LOSS,
    NOSE_RECOVERY,
    PACE_DRAG,
    PACE_WATTS,
    PADDLE_SPEED,
    PADDLE_WATTS_2,
    PADDLE_WATTS_3,
    PADDLE_WATTS_4,
    PADDLE_WATTS_5,
    PEAK_WATTS,
    START_TIME,
    TOW_DRAG,
    WAKE_SLOPE,
    YAW_HOLD,
    YAW_PER_STROKE,
)
from kelvor.core.ride.model import Running
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.afloat import SINKS

POWER_OF_SPEED = 2.6
"""Watts of a paddled hull go with its speed to about this power (judgement): so its speed is that much surer."""
STROKED = 0.13
"""What is left open of watts at the paddle by how much of a stroke pushes, as a share of them (judgement)."""


@tells(
    PADDLE_WATTS_2,
    PADDLE_WATTS_3,
    PADDLE_WATTS_4,
    PADDLE_WATTS_5,
    PEAK_WATTS,
    DRAG_FOIL_30,
    DRAG_FOIL_60,
    DRAG_FOIL_90,
    BUMP_SLOPE,
    YAW_HOLD,
)
def watts(case: RideCase) -> None:
    """Drag power from two to five knots, and the drag with part of the weight on the foil."""
    collected, curve, model = case.collected, case.board.paddling, case.model
    for figure, knots in ((PADDLE_WATTS_2, 2), (PADDLE_WATTS_3, 3), (PADDLE_WATTS_4, 4), (PADDLE_WATTS_5, 5)):
        speed = knots * KNOT
        collected.add(
            figure,
            curve.at(speed) * speed,
            f"{curve.at(speed):.0f} N of drag; the paddler gives "
            f"{curve.at(speed) * speed / model.table.stroke_efficiency:.0f} W",
            band=curve.band_at(speed) * speed,
        )
    if model.wing is not None:
        _over_the_hump(case)
    slope_of(case)
    form = model.floater.form_at(model.weight)
    if form is None:
        collected.none(SINKS, YAW_HOLD)
    else:
        hold = law.yaw_hold(model, 10 * DEGREE, 3 * KNOT, form)
        collected.add(YAW_HOLD, hold, "fins and mast about the middle of the waterline")
    _picture(case)


def _over_the_hump(case: RideCase) -> None:
    collected, model, top = case.collected, case.model, case.run_up.top
    peak = top.drag * top.speed / model.table.stroke_efficiency
    collected.add(
        PEAK_WATTS,
        peak,
        f"{top.drag:.0f} N at {top.speed / KNOT:.1f} kn, stroke efficiency {model.table.stroke_efficiency:.2f}",
        band=peak * float(np.hypot(top.band / top.drag, STROKED)),
    )
    shares = np.array([0.3, 0.6, 0.9])
    states = model.curve(case.run_up.lift_off * np.sqrt(shares), foil_share=shares)
    for figure, state in zip((DRAG_FOIL_30, DRAG_FOIL_60, DRAG_FOIL_90), states, strict=True):
        collected.add(
            figure, state.drag, f"at {state.speed / KNOT:.1f} kn, where the foil lifts that much", band=state.band
        )


def slope_of(case: RideCase) -> None:
    """The slope of water that takes the board over its hump, or planes it at the speed of the bumps."""
    model = case.model
    if model.wing is not None:
        drag, words = case.run_up.top, f"hump {case.run_up.top.drag:.0f} N of {model.weight:.0f} N"
    else:
        bump = model.table.bump_speed
        drag = case.at(bump)
        words = (
            f"{drag.drag:.0f} N of {model.weight:.0f} N at {bump / KNOT:.0f} kn, speed lifts {drag.moving * 100:.0f} %"
        )
    slope = float(np.arctan(drag.drag / model.weight))
    case.collected.add(BUMP_SLOPE, slope, words, band=slope * drag.band / max(drag.drag, 1.0))


@tells(
    PADDLE_SPEED,
    PACE_WATTS,
    PACE_DRAG,
    GLIDE_LOSS,
    FROUDE,
    START_TIME,
    YAW_PER_STROKE,
    NOSE_RECOVERY,
    pictures="paddle",
)
def paddling_pace(case: RideCase) -> None:
    """Speed at the paddler's watts, what the pace costs, starts and glides."""
    collected, curve, model, brief = case.collected, case.board.paddling, case.model, case.brief
    table = model.table
    power = brief.watts * table.stroke_efficiency
    speed = law.speed_at(curve, power)
    share = curve.band_at(speed) / max(curve.at(speed), 1e-6)
    collected.add(
        PADDLE_SPEED,
        speed,
        f"{brief.watts:.0f} W at the paddle, {power:.0f} W against {curve.at(speed):.0f} N",
        band=speed * float(np.hypot(share, STROKED)) / POWER_OF_SPEED,
    )
    wanted = case.condition.pace
    drag = curve.at(wanted)
    collected.add(PACE_DRAG, drag, f"at {wanted / KNOT:.1f} kn; " + _parts(case, wanted), band=curve.band_at(wanted))
    cost = drag * wanted / table.stroke_efficiency
    collected.add(
        PACE_WATTS,
        cost,
        f"{wanted / KNOT:.1f} kn, stroke efficiency {table.stroke_efficiency:.2f}",
        band=cost * float(np.hypot(curve.band_at(wanted) / drag, STROKED)),
    )
    loss = law.glide_loss(model, curve, wanted)
    collected.add(GLIDE_LOSS, loss, f"{table.stroke_rate:.2f} strokes a second at {wanted / KNOT:.1f} kn")
    start = law.start_time(model, curve, wanted)
    strokes = f"{brief.peak_watts:.0f} W at most, {start * table.stroke_rate:.0f} strokes"
    collected.add(
        START_TIME,
        start,
        f"to 95 % of {wanted / KNOT:.1f} kn, {strokes}",
        invalid="" if np.isfinite(start) else f"{brief.peak_watts:.0f} W do not reach {wanted / KNOT:.1f} kn",
    )
    rises = law.nose_recovery(model)
    collected.add(NOSE_RECOVERY, rises, "last 60 cm of the nose under")
    _picture(case)
    form = model.floater.form_at(model.weight)
    if form is None:
        collected.none(SINKS, YAW_PER_STROKE, FROUDE)
        return
    number = wanted / float(np.sqrt(GRAVITY * form.length))
    collected.add(
        FROUDE,
        number,
        f"{wanted / KNOT:.1f} kn on {form.length * 100:.0f} cm of waterline: {_regime(number)}",
    )
    turn = law.yaw_per_stroke(model, curve, wanted, form)
    collected.add(YAW_PER_STROKE, turn, "one side")
    moving = case.at(wanted)
    wet = moving.area / max(form.wetted, 1e-6)
    freely = case.at(PLANES_FREELY)
    words = (
        f"{wet * 100:.0f} % of what is wet at rest is wet at {wanted / KNOT:.1f} kn; speed lifts "
        f"{moving.moving * 100:.0f} % of you there, "
        f"and planing freely at {freely.speed / KNOT:.0f} kn would take {freely.drag * freely.speed:.0f} W against the "
        f"drag alone"
    )
    collected.claim(PADDLE_SPEED, "at most 40 % of it is wetted", words)


def _regime(froude: float) -> str:
    """What a hull does at a Froude number of its waterline (common practice, no source)."""
    if froude < 0.35:
        return "displacement, waves cost little"
    if froude < 0.60:
        return "its own waves hold it: the hump of displacement"
    return "past its own waves, toward planing" if froude < 1.0 else "planing"


def _parts(case: RideCase, speed: float) -> str:
    state = case.at(speed)
    form = case.model.floater.form_at(state.load)
    words = f"friction {state.friction:.0f}, waves {state.waves:.0f}, air {state.air:.0f} N"
    if form is None or state.parting < 0.5:
        return words
    return (
        f"{words}; as thin waves part from broad ones by {state.parting:.0f} N, beam over length being "
        f"{form.beam / form.length:.2f}"
    )


def _picture(case: RideCase) -> None:
    curve, brief, model = case.board.paddling, case.brief, case.model
    push = brief.watts * model.table.stroke_efficiency / np.maximum(curve.speeds, 0.8)
    marks = []
    wanted = case.condition.pace
    if 0 < wanted <= curve.speeds[-1]:
        marks.append(ChartMark(wanted, f"{wanted / KNOT:.1f} kn, {curve.at(wanted):.0f} N", curve.at(wanted)))
    case.collected.pictures["paddle"] = Chart(
        "Drag against the paddle",
        f"{brief.rider.mass:.0f} kg; push of {brief.watts:.0f} W at "
        f"a stroke efficiency of {model.table.stroke_efficiency:.2f}.",
        "board speed, kn",
        Q.SPEED,
        "N",
        Q.FORCE,
        (
            ChartLine("drag", "now", *refined(curve.speeds, curve.drag, curve.band)),
            ChartLine("paddle", "push", curve.speeds, push),
        ),
        tuple(marks),
    )


@tells(TOW_DRAG, WAKE_SLOPE, pictures="slope tow")
def towed(case: RideCase) -> None:
    """Drag at tow speed, and the slope of wake that would drive the board without a line."""
    collected, model = case.collected, case.model
    state = case.at(max(case.condition.pace, SLOWEST_PACE))
    words = (
        f"{state.speed / KNOT:.1f} kn, trim {model.base_trim(state) / DEGREE:.1f}°, wetted {state.wetted * 100:.0f} cm"
    )
    why = model.unplaned(state) or model.unheld(state)
    collected.add(TOW_DRAG, state.drag, words, band=state.band, invalid=why)
    slope = float(np.arctan(state.drag / model.weight))
    collected.add(WAKE_SLOPE, slope, words, band=slope * state.band / state.drag, invalid=why)
    if case.draw:
        _tow_curves(case, state)


def _tow_curves(case: RideCase, state: Running) -> None:
    """Slope and drag over speed."""
    model = case.model
    middle = (
        model.table.bump_speed
        if case.brief.discipline in ("paddle race", "prone race")
        else max(case.condition.pace, SLOWEST_WAVE)
    )
    speeds = np.linspace(0.5, 1.5, 41) * middle
    states = model.curve(speeds)
    steep = np.array([np.arctan(s.drag / model.weight) for s in states])
    wide = np.array([np.arctan(s.drag / model.weight) * s.band / s.drag for s in states])
    case.collected.pictures["slope"] = Chart(
        "Slope of water that carries it",
        f"{case.brief.rider.mass:.0f} kg without a line: gravity down the slope against drag.",
        "speed, kn",
        Q.SPEED,
        "slope, °",
        Q.ANGLE,
        (ChartLine("slope needed", "now", *refined(speeds, steep, wide)),),
        (
            ChartMark(
                middle,
                f"{middle / KNOT:.1f} kn, {np.degrees(np.interp(middle, speeds, steep)):.1f}°",
                float(np.interp(middle, speeds, steep)),
            ),
        ),
    )
    drags = np.array([s.drag for s in states])
    case.collected.pictures["tow"] = Chart(
        "Drag over tow speed",
        f"{case.brief.rider.mass:.0f} kg, {GRAVITY * case.brief.rider.mass:.0f} N on the board.",
        "speed, kn",
        Q.SPEED,
        "N",
        Q.FORCE,
        (ChartLine("drag", "now", *refined(speeds, drags, np.array([s.band for s in states]))),),
        (ChartMark(case.condition.pace, f"{state.drag:.0f} N", state.drag),),
    )
