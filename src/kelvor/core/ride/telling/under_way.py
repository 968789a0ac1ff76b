"""From rest to planing or lift-off: drag, drive, attitude, what each gear needs."""

from __future__ import annotations

import numpy as np

from kelvor.core.planing import savitsky
from kelvor.core.planing.states import pressure
from kelvor.core.ride.attitudes import tail_clearance
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.going import best_drive, least_wind, nose_pitch, pull, reach
from kelvor.core.ride.model import Running
from kelvor.core.ride.pictures import Chart, Drawing, Form, Line, Mark
from kelvor.core.ride.telling.drawings import outline, running_forms
from kelvor.core.units import DEGREE, KNOT
from kelvor.core.units import Quantity as Q

RIDER_CENTRE = 0.9
"""Height of a standing rider's centre above the bottom [m] (Winter 2009, from memory)."""
NO_GEAR = "nothing to drive it in the brief: add a sail, wing or kite"


def get_going(case: RideCase) -> None:
    """Hump, drive to spare, least wind, and the picture of push against drag."""
    tell, way, model = case.tell, case.way, case.model
    top, gear = way.top, case.board.gear
    parts = f"friction {top.friction:.0f}, waves {top.waves:.0f}, slope of the lift {top.lift_drag:.0f}"
    if top.body > 0.5:
        parts += f", limbs in the water {top.body:.0f}"
    if model.wing is not None:
        parts += f", foil {top.foil:.0f}"
    tell.add(
        "hump_drag",
        top.drag,
        top.band,
        f"{parts} N; speed lifts {top.moving * 100:.0f} %, the foil {top.foil_lift / model.weight * 100:.0f} %",
    )
    tell.add("hump_speed", top.speed, 0.12 * top.speed, "where drag is most on the way")
    tell.add("hump_trim", top.trim, 1.5 * DEGREE, "of the tail tangent, chosen for least drag")
    beyond = "not found below the curve's end" if not np.isfinite(way.planes) else ""
    tell.add("planing_speed", way.planes, 0.1 * way.planes, "speed lifts nine tenths of what the hull carries", invalid=beyond)
    _deck(case)
    nose(case, top, "at the hump")
    claims(case)
    tell.add(
        "tail_push_angle",
        tail_clearance(case.measured, model.measures.keel_flat[0]),
        0.3 * DEGREE,
        "before the tail's end reaches the flat's line",
    )
    if gear is None:
        for key in ("drive_margin", "least_wind", "least_wind_up", "speed_to_spare"):
            tell.none(key, NO_GEAR)
    else:
        _driven(case)
    _picture(case)
    attitude(case, top, "at the hump")


def claims(case: RideCase) -> None:
    """What is said of planing early, and what this board's shape makes of it."""
    bottom = case.model.bottom
    if bottom.released > 0.03:
        case.tell.claim(
            "least_wind",
            "a wider tail planes earlier",
            f"{bottom.released * 1e4:.0f} cm² of this bottom are released by cut-outs, kick or raised "
            f"hull: width there floats at rest and does not plane; the running bottom is {float(bottom.beam[len(bottom.beam) // 2]) * 100:.0f} cm wide",
        )
    case.tell.claim("hump_drag", "more rocker drags more", "at the same trim of the tail, rocker ahead of it "
        "lifts more and carries the pressure forward; "
                    "what it costs depends on trim and speed, so pull it and look at the curve")  # fmt: skip


def nose(case: RideCase, state: Running, where: str) -> None:
    """How far the nose is from going under in a running state."""
    height, pitch = nose_pitch(case.model, state)
    case.tell.add("nose_under_margin", pitch, 1.2 * DEGREE, f"nose-down from its trim of {state.trim / DEGREE:.0f}° {where}")
    case.tell.add("nose_clearance", height, 0.02, f"nose tip {where}")


def attitude(case: RideCase, state: Running, where: str) -> None:
    """The picture of the board as it runs."""
    case.tell.pictures["attitude"] = Drawing(f"Attitude {where}", f"{state.speed / KNOT:.1f} kn, trim {state.trim / DEGREE:.1f}° of the tail tangent.",
                                             running_forms(case.model, state))  # fmt: skip


def _deck(case: RideCase) -> None:
    model, way = case.model, case.way
    if model.weight <= model.dry_load:
        case.tell.add("deck_clears_speed", 0.0, 0.1, "the deck is dry at rest")
        return
    left = np.array([(1 - r.moving) * r.load for r in way.curve])
    dry = np.nonzero(left <= model.dry_load)[0]
    if not len(dry):
        case.tell.none("deck_clears_speed", "the deck stays under up to the curve's end")
        return
    i = max(int(dry[0]), 1)
    t = (left[i - 1] - model.dry_load) / max(left[i - 1] - left[i], 1e-9)
    speed = float(way.speeds[i - 1] + np.clip(t, 0, 1) * (way.speeds[i] - way.speeds[i - 1]))
    case.tell.add("deck_clears_speed", speed, 0.15 * speed, "foil and speed carry what the dry hull cannot")


def _driven(case: RideCase) -> None:
    tell, way, model, gear = case.tell, case.way, case.model, case.board.gear
    assert gear is not None
    push = best_drive(model, gear, case.condition.wind, way.speeds)
    inside = way.speeds <= way.end * 1.001
    worst = int(np.argmin(np.where(inside, push - way.drag, np.inf)))
    margin = float(push[worst] - way.drag[worst])
    band = float(np.hypot(way.band[worst], 0.10 * push[worst]))
    at = f"{gear.area:.1f} m², {case.condition.wind / KNOT:.0f} kn at {case.brief.wind.height:.0f} m; tightest at {way.speeds[worst] / KNOT:.1f} kn"
    tell.add("drive_margin", margin, band, at)
    index = case.board.gears.index(gear)
    wind, spread = case.board.least_winds[index]
    all_ = ", ".join(f"{g.area:.1f} m² {w[0] / KNOT:.1f} kn" if np.isfinite(w[0]) else f"{g.area:.1f} m² not below 40 kn"
                     for g, w in zip(case.board.gears, case.board.least_winds, strict=True))  # fmt: skip
    words = f"at {case.brief.wind.height:.0f} m, {case.brief.wind.kind}"
    beyond = "not below 40 kn of wind"
    tell.add("least_wind_up", wind, spread, f"{words}: {all_}", invalid="" if np.isfinite(wind) else beyond)
    if model.wing is None:
        tell.add("least_wind", wind, spread, f"{words}: {all_}", invalid="" if np.isfinite(wind) else beyond)
    else:
        over, wide = least_wind(model, way, gear, 1.05 * way.top.speed)
        tell.add("least_wind", over, wide, f"{words}, over the hump", invalid="" if np.isfinite(over) else beyond)
        far, more = reach(model, way, gear, case.condition)
        spare = far - way.lift_off
        tell.add(
            "speed_to_spare",
            spare,
            0.1 * far + 0.1,
            "more than the curve shows" if more else f"the hull alone would reach {far / KNOT:.1f} kn",
        )


def _picture(case: RideCase) -> None:
    way, gear, model = case.way, case.board.gear, case.model
    shown = way.speeds <= max(1.45 * way.end, way.speeds[8])
    speeds = way.speeds[shown]
    lines = [Line("drag", "now", speeds, way.drag[shown], way.band[shown])]
    words = f"{case.brief.rider.mass:.0f} kg"
    if gear is not None:
        push = best_drive(model, gear, case.condition.wind, way.speeds)[shown]
        lines.append(Line(f"push of the {gear.rig}", "push", speeds, push, 0.10 * push))
        words += f", {gear.rig} of {gear.area:.1f} m², {case.condition.wind / KNOT:.1f} kn at {case.brief.wind.height:.0f} m, {case.brief.wind.kind}"
    if model.wing is not None:
        words += f", foil of {case.brief.foil.area * 1e4:.0f} cm²"
    marks = [Mark(way.top.speed, f"hump {way.top.drag:.0f} N", way.top.drag)]
    if np.isfinite(way.lift_off):
        marks.append(Mark(way.lift_off, f"foil carries all, {way.lift_off / KNOT:.1f} kn"))
    elif np.isfinite(way.planes) and way.planes <= speeds[-1]:
        marks.append(Mark(way.planes, f"planes, {way.planes / KNOT:.1f} kn"))
    case.tell.pictures["drag"] = Chart("Push and drag on the way up" if gear else "Drag over speed", words + ". Bands: the methods' own error.",
                                       "board speed, kn", Q.SPEED, "N", Q.FORCE, tuple(lines), tuple(marks))  # fmt: skip


def plane_figures(case: RideCase, state: Running | None = None) -> None:
    """What planes at the run: drag, trim, wetted bottom, centre of pressure against the feet."""
    tell, model = case.tell, case.model
    state = state or case.planing
    foot = case.board.feet
    why = ""
    if np.isnan(state.planing):
        why = f"the bottom cannot carry {state.load:.0f} N at {state.speed / KNOT:.0f} kn"
    elif state.moving < 0.9:
        why = "not planing freely at this speed"
    elif state.wetted / max(state.beam, 1e-6) > savitsky.LAMBDA_MOST + 0.05:
        why = "wetted more than four beams long"
    note = f"{state.speed / KNOT:.1f} kn, {state.load:.0f} N on the bottom, trim {state.trim / DEGREE:.1f}°"
    tell.add("planing_drag", state.drag, state.band, note, invalid=why)
    tell.add("planing_trim", state.trim, 1.0 * DEGREE, "of the tail tangent", invalid=why)
    tell.add("planing_area", state.area, 0.12 * state.area, note, invalid=why)
    tell.add("planing_length", state.wetted, 0.12 * state.wetted, note, invalid=why)
    tell.add("running_beam", state.beam, 0.01, "mean over the wetted length, cut-outs and raised hulls taken off", invalid=why)
    tell.add(
        "released_area",
        model.bottom.released,
        0.01,
        f"behind {model.bottom.aft * 100:.0f} cm from the tail and outside the running bottom",
    )
    behind = max(0.0, min(foot.back - model.bottom.aft, state.wetted)) * state.beam
    tell.add("wetted_behind_foot", behind, 0.12 * behind + 0.002, foot.note, invalid=why)
    middle = (foot.front + foot.back) / 2
    tell.add("feet_to_pressure", middle - state.centre, 0.05, f"feet's middle {middle * 100:.0f} cm, pressure "
        f"{state.centre * 100:.0f} cm from the tail",
             invalid=why)  # fmt: skip
    _strap_trim(case, state, middle, why)
    height, _ = nose_pitch(model, state)
    tell.add("nose_margin", height, 0.03, f"nose tip at {state.speed / KNOT:.0f} kn, trim {state.trim / DEGREE:.0f}°")
    _patch(case, state, note)


def _strap_trim(case: RideCase, state: Running, middle: float, why: str) -> None:
    """The trim the board takes by itself with the weight over the middle of the feet: Savitsky's own equilibrium."""
    model, bottom = case.model, case.model.bottom
    over = middle - bottom.aft
    if why or over <= 0.02:
        case.tell.none("strap_trim", why or "the feet stand behind what planes")
        return
    rise = float(np.interp(state.wetted, bottom.lengths, bottom.rise))
    found = savitsky.equilibrium(state.load, state.beam, rise, state.speed, over, RIDER_CENTRE, model.density, model.viscosity)
    case.tell.add("strap_trim", found.trim, 1.0 * DEGREE, f"flat reference of the running bottom, weight {RIDER_CENTRE * 100:.0f} cm up over "
                  f"{middle * 100:.0f} cm from the tail", invalid="" if found.found else "no balance inside the laws: move the feet")  # fmt: skip


def _patch(case: RideCase, state: Running, note: str) -> None:
    bottom = case.model.bottom
    along, across, share = pressure(bottom, state.wetted, state.trim)
    forms = [Form("board", outline(case.measured), closed=True)]
    for (low, high), (inner, outer), p in zip(along, across, share, strict=True):
        here, there = (float(np.interp(a, bottom.x, bottom.half)) for a in (low, high))
        port = np.array([[low, inner * here], [high, inner * there], [high, outer * there], [low, outer * here]])
        port[:, 0] += bottom.aft
        forms += [Form("patch", port * [1, side], closed=True, depth=float(p)) for side in (1, -1)]
    foot = case.board.feet
    forms += [Form("mark", np.array([[f - 0.05, 0.0], [f + 0.05, 0.0]])) for f in (foot.back, foot.front)]
    middle = state.centre
    case.tell.pictures["patch"] = Drawing("What is wet, and where it presses", f"{note}. Darker presses harder; bars are the feet.", tuple(forms),
                                          ((middle, 0.0, "centre of pressure"),), water=False)  # fmt: skip


def wetted(case: RideCase) -> None:
    """Wetted bottom against the share of the load that speed lifts."""
    model = case.model
    top = max(1.6 * case.run.speed, 4.0) if model.wing is None else 1.2 * case.way.lift_off
    speeds = np.linspace(0.8, top, 13)
    states = [model.running(float(v)) for v in speeds]
    area = np.array([s.area for s in states])
    shares = np.maximum.accumulate(np.array([s.moving for s in states]))
    marks = [
        Mark(float(np.interp(share, shares, speeds)), f"speed lifts {share * 100:.0f} %")
        for share in (0.25, 0.5, 0.9)
        if shares[-1] >= share
    ]
    beams = ", ".join(f"{s.beam * 100:.0f} cm at {s.speed / KNOT:.0f} kn" for s in (states[3], states[8], states[-1]))
    case.tell.pictures["wetted"] = Chart("Wetted bottom over speed", f"Running beam {beams}.", "board speed, kn", Q.SPEED, "cm²", Q.AREA,
                                         (Line("wetted", "now", speeds, area, 0.12 * area),), tuple(marks))  # fmt: skip


def kite_start(case: RideCase) -> None:
    """Pull that planes the board."""
    way, model = case.way, case.model
    value = pull(way.top.drag, model.table)
    case.tell.add("pull_to_plane", value, value * float(np.hypot(way.top.band / way.top.drag, 0.12)),
                  f"lines {model.table.kite_elevation / DEGREE:.0f}° up carry {way.lifted:.0f} N of you")  # fmt: skip
