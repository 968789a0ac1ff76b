"""From rest to planing or lift-off: drag, drive, attitude, what each gear needs."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.smooth import refined
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.attitudes import tail_clearance
from kelvor.core.ride.case import SLOWEST_WAVE, RideCase
from kelvor.core.ride.figures.under_way import (
    DECK_CLEARS_SPEED,
    DRIVE_MARGIN,
    HUMP_DRAG,
    HUMP_SPEED,
    HUMP_TRIM,
    LEAST_WIND,
    LEAST_WIND_PUMPED,
    LEAST_WIND_UP,
    NOSE_CLEARANCE,
    NOSE_UNDER_MARGIN,
    PLANING_SPEED,
    PULL_TO_PLANE,
    SPEED_TO_SPARE,
    TAIL_PUSH_ANGLE,
)
from kelvor.core.ride.model import Running
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark, Drawing
from kelvor.core.ride.run_up import (
    drawn_speeds,
    kite_pull,
    least_wind,
    nose_pitch,
    other_hump,
    reach,
    steered,
)
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.drawings import running_forms

ON_A_WAVE = ("paddle surf", "paddle race", "prone race")
"""Disciplines whose attitude is looked at on a wave or bump."""
PUMPED_OPEN = 0.4
"""What is left open of the wind that pumping saves, as a share of it (judgement)."""
CARRIED_OPEN = 0.12
"""What is left open of a pull by how much of the rider it carries, as a share of it (judgement)."""
DRIVE_OPEN = 0.05
"""What is left open of what drives the board, as a share of it (judgement)."""
NO_GEAR = "nothing to drive it in the brief: add a sail, wing or kite"


@tells(
    HUMP_DRAG,
    HUMP_SPEED,
    HUMP_TRIM,
    DRIVE_MARGIN,
    LEAST_WIND,
    LEAST_WIND_UP,
    LEAST_WIND_PUMPED,
    SPEED_TO_SPARE,
    DECK_CLEARS_SPEED,
    TAIL_PUSH_ANGLE,
    pictures="drag",
)
def get_going(case: RideCase) -> None:
    """Hump, drive to spare, least wind, and the picture of push against drag."""
    collected, run_up, model = case.collected, case.run_up, case.model
    top, gear = run_up.top, case.board.gear
    parts = f"friction {top.friction:.0f}, waves {top.waves:.0f}, slope of the lift {top.lift_drag:.0f}"
    if top.body > 0.5:
        parts += f", limbs in the water {top.body:.0f}"
    if model.wing is not None:
        parts += f", foil {top.foil:.0f}"
    other = other_hump(run_up)
    trim, also, apart, turned = model.base_trim(top), "", 0.0, 0.0
    if other is not None:
        # which of the two drags more turns with a kilogram: nobody decides by the speed or trim of one of them
        apart, turned = abs(other.speed - top.speed), abs(model.base_trim(other) - trim)
        also = (
            f"; {other.drag:.0f} N at {other.speed / KNOT:.1f} kn and {_degrees(model.base_trim(other))} as well: "
            "the drag rises twice on the way"
        )
    collected.add(
        HUMP_DRAG,
        top.drag,
        f"{parts} N; speed lifts {top.moving * 100:.0f} %, the foil {top.foil_lift / model.weight * 100:.0f} %{also}",
        band=top.band,
    )
    collected.add(
        HUMP_SPEED, top.speed, f"where drag is most on the way{also}", band=max(HUMP_SPEED.band_of(top.speed), apart)
    )
    collected.add(HUMP_TRIM, trim, f"{held_words(top)}{also}", band=max(HUMP_TRIM.band_of(trim), turned))
    _deck(case)
    claims(case)
    collected.add(
        TAIL_PUSH_ANGLE,
        tail_clearance(case.measured, model.measures.keel_flat[0]),
        "before the tail's end reaches the flat's line",
    )
    if gear is None:
        collected.none(NO_GEAR, DRIVE_MARGIN, LEAST_WIND, LEAST_WIND_UP, LEAST_WIND_PUMPED, SPEED_TO_SPARE)
    else:
        _driven(case)
    _picture(case)


@tells(PLANING_SPEED)
def planing(case: RideCase) -> None:
    """The speed from which speed lifts enough of the load."""
    run_up = case.run_up
    beyond = "not found below the curve's end" if not np.isfinite(run_up.planes) else ""
    lifted = f"speed lifts {case.model.table.planes * 100:.0f} % of what the hull carries"
    case.collected.add(PLANING_SPEED, run_up.planes, lifted, invalid=beyond)


def _degrees(angle: float) -> str:
    return f"{angle / DEGREE:.1f}°".replace("-", "−")


def held_words(state: Running) -> str:
    """What holds a trim, in words."""
    words = f"of the base, {_degrees(state.trim)} of the bottom at the tail"
    if state.planes < 0.02:
        return f"{words}; the board floats along level"
    return (
        f"{words}; your weight {state.place * 100:.0f} cm from the tail; {state.planes * 100:.0f} % "
        f"of the way from floating to planing"
    )


def claims(case: RideCase) -> None:
    """What is said of planing early, and what this board's shape makes of it."""
    bottom = case.model.bottom
    if bottom.released > 0.03:
        case.collected.claim(
            LEAST_WIND,
            "a wider tail planes earlier",
            f"{bottom.released * 1e4:.0f} cm² of this bottom are released by cut-outs, kick or raised "
            f"hull: width there floats at rest and does not plane; the running bottom is "
            f"{float(bottom.beam[len(bottom.beam) // 2]) * 100:.0f} cm wide",
        )
    case.collected.claim(
        HUMP_DRAG,
        "more rocker drags more",
        "at the same trim of the tail, rocker ahead of it "
        "lifts more and carries the pressure forward; "
        "what it costs depends on trim and speed, so pull it and look at the curve",
    )


@tells(NOSE_UNDER_MARGIN, NOSE_CLEARANCE, pictures="attitude")
def attitude(case: RideCase) -> None:
    """The board as it runs, and how far its nose is from going under: at the speed of its wave or bump, or at
    the hump.
    """
    if case.brief.discipline in ON_A_WAVE:
        racing = case.brief.discipline in ("paddle race", "prone race")
        speed = case.model.table.bump_speed if racing else max(case.condition.pace, SLOWEST_WAVE)
        state, where = case.at(speed), f"at {speed / KNOT:.1f} kn"
    else:
        state, where = case.run_up.top, "at the hump"
    height, pitch = nose_pitch(case.model, state)
    trim = case.model.base_trim(state) / DEGREE
    case.collected.add(
        NOSE_UNDER_MARGIN,
        pitch,
        f"nose-down from its trim of {trim:.0f}° {where}",
    )
    case.collected.add(NOSE_CLEARANCE, height, f"nose tip {where}")
    words = f"{state.speed / KNOT:.1f} kn, trim {trim:.1f}°, the bottom at the tail {_degrees(state.trim)}."
    case.collected.pictures["attitude"] = Drawing(f"Attitude {where}", words, running_forms(case.model, state))


def _deck(case: RideCase) -> None:
    model, run_up = case.model, case.run_up
    if model.weight <= model.floater.dry_load:
        case.collected.add(DECK_CLEARS_SPEED, 0.0, "the deck is dry at rest", band=0.1)
        return
    left = np.array([(1 - r.moving - r.raised) * r.load for r in run_up.curve])
    dry = np.nonzero(left <= model.floater.dry_load)[0]
    if not len(dry):
        case.collected.none("the deck stays under up to the curve's end", DECK_CLEARS_SPEED)
        return
    i = max(int(dry[0]), 1)
    t = (left[i - 1] - model.floater.dry_load) / max(left[i - 1] - left[i], 1e-9)
    speed = float(run_up.speeds[i - 1] + np.clip(t, 0, 1) * (run_up.speeds[i] - run_up.speeds[i - 1]))
    case.collected.add(DECK_CLEARS_SPEED, speed, "foil and speed carry what the dry hull cannot")


def _driven(case: RideCase) -> None:
    collected, run_up, model, gear, rigged = case.collected, case.run_up, case.model, case.board.gear, case.board.rigged
    assert gear is not None and rigged is not None
    worst = int(np.argmin(np.where(run_up.speeds <= run_up.end * 1.001, case.spare, np.inf)))
    margin = float(case.spare[worst])
    band = float(np.hypot(run_up.band[worst], DRIVE_OPEN * (margin + run_up.drag[worst])))
    at = (
        f"{gear.area:.1f} m², {case.condition.wind / KNOT:.0f} kn at {case.brief.wind.height:.0f} m; tightest "
        f"at {run_up.speeds[worst] / KNOT:.1f} kn"
    )
    collected.add(DRIVE_MARGIN, margin, at, band=band)
    index = case.board.gears.index(gear)
    wind, spread, tight = case.board.least_winds[index]
    all_ = ", ".join(
        f"{g.area:.1f} m² {w[0] / KNOT:.1f} kn" if np.isfinite(w[0]) else f"{g.area:.1f} m² not below 40 kn"
        for g, w in zip(case.board.gears, case.board.least_winds, strict=True)
    )
    words = f"at {case.brief.wind.height:.0f} m, {case.brief.wind.kind}"
    if wind <= 1.001 * steered(gear, model):
        words += "; in less the kite does not fly"
    beyond = "not below 40 kn of wind"
    collected.add(LEAST_WIND_UP, wind, f"{words}: {all_}", band=spread, invalid="" if np.isfinite(wind) else beyond)
    if model.wing is None:
        collected.add(LEAST_WIND, wind, f"{words}: {all_}", band=spread, invalid="" if np.isfinite(wind) else beyond)
    else:
        # tightest at the hump, the one wind is the other
        over, wide, _ = (
            (wind, spread, tight)
            if tight <= 1.05 * run_up.top.speed
            else least_wind(rigged, run_up, 1.05 * run_up.top.speed)
        )
        collected.add(
            LEAST_WIND, over, f"{words}, over the hump", band=wide, invalid="" if np.isfinite(over) else beyond
        )
        if gear.rig == "kite":
            collected.none("a kite is swung, not pumped", LEAST_WIND_PUMPED)
        else:
            pumped, broad, _ = least_wind(rigged, run_up, pumped=True)
            arms = f", {model.table.wing_pump:.0f} W on the wing" if gear.rig == "hand wing" else ""
            collected.add(
                LEAST_WIND_PUMPED,
                pumped,
                f"{words}; {case.brief.peak_watts:.0f} W of the body on the foil{arms}, "
                f"{model.table.pump_efficiency * 100:.0f} % of it pushes",
                band=float(np.hypot(broad, PUMPED_OPEN * (wind - pumped))),
                invalid="" if np.isfinite(pumped) else beyond,
            )
        far, more = reach(run_up, case.spare)
        collected.add(
            SPEED_TO_SPARE,
            far - run_up.lift_off,
            "more than the curve shows" if more else f"the hull alone would reach {far / KNOT:.1f} kn",
            band=SPEED_TO_SPARE.band_of(far),
        )


def _picture(case: RideCase) -> None:
    run_up, gear, model = case.run_up, case.board.gear, case.model
    drawn = drawn_speeds(run_up)
    speeds = run_up.speeds[drawn]
    lines = [ChartLine("drag", "now", *refined(speeds, run_up.drag[drawn], run_up.band[drawn]))]
    words = f"{case.brief.rider.mass:.0f} kg"
    if gear is not None:
        # drive, what the gear takes off the hull and what holding it costs: less drag it is the force to spare
        pushed = (case.spare + run_up.drag)[drawn]
        lines.append(ChartLine(f"push of the {gear.rig}", "push", *refined(speeds, pushed, 0.05 * np.abs(pushed))))
        words += (
            f", {gear.rig} of {gear.area:.1f} m², {case.condition.wind / KNOT:.1f} kn at "
            f"{case.brief.wind.height:.0f} m, {case.brief.wind.kind}"
        )
    if model.wing is not None:
        words += f", foil of {case.brief.foil.area * 1e4:.0f} cm²"
    marks = [ChartMark(run_up.top.speed, f"hump {run_up.top.drag:.0f} N", run_up.top.drag)]
    if np.isfinite(run_up.lift_off):
        marks.append(ChartMark(run_up.lift_off, f"foil carries all, {run_up.lift_off / KNOT:.1f} kn"))
    elif np.isfinite(run_up.planes) and run_up.planes <= speeds[-1]:
        marks.append(ChartMark(run_up.planes, f"planes, {run_up.planes / KNOT:.1f} kn"))
    case.collected.pictures["drag"] = Chart(
        "Push and drag on the way up" if gear else "Drag over speed",
        words + ". Bands: the methods' own error.",
        "board speed, kn",
        Q.SPEED,
        "N",
        Q.FORCE,
        tuple(lines),
        tuple(marks),
    )


@tells(PULL_TO_PLANE)
def kite_start(case: RideCase) -> None:
    """Pull that planes the board."""
    run_up, model = case.run_up, case.model
    value = float(kite_pull(np.array(run_up.top.drag), model.table))
    case.collected.add(
        PULL_TO_PLANE,
        value,
        f"lines {model.table.kite_elevation / DEGREE:.0f}° up carry {run_up.lifted:.0f} N of you",
        band=value * float(np.hypot(run_up.top.band / run_up.top.drag, CARRIED_OPEN)),
    )
