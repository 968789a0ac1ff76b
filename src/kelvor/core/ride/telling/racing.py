"""Sailed fast: speed round the wind, fins under load, force to spare."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.fluids import GRAVITY, vapour_pressure
from kelvor.core.lifting.cavitation import cavitation_speed
from kelvor.core.lifting.fins import BAND, engaging, hold
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.going import strap_reach
from kelvor.core.ride.pictures import Chart, Line, Mark, Role
from kelvor.core.ride.sailing import FAST_COURSE, fin_ladder, force_to_spare, release_yaw
from kelvor.core.ride.telling.under_way import NO_GEAR
from kelvor.core.units import DEGREE, KNOT
from kelvor.core.units import Quantity as Q

NO_FIN = "no fins on this board"


def courses(case: RideCase) -> None:
    """Speeds made good, and the polar."""
    tell, polar, gear = case.tell, case.polar, case.board.gear
    keys = ("run_speed", "upwind_vmg", "upwind_angle", "downwind_vmg", "downwind_angle", "side_force")
    if polar is None or gear is None:
        for key in keys:
            tell.none(key, NO_GEAR)
        return
    wind = f"{case.condition.wind / KNOT:.0f} kn at {case.brief.wind.height:.0f} m, {gear.area:.1f} m²"
    run = polar.at(FAST_COURSE)
    tell.add(
        "run_speed",
        run,
        0.08 * run,
        f"{FAST_COURSE / DEGREE:.0f}° off the true wind, {wind}",
        invalid="" if run > 0.5 else "not driven there",
    )
    planing = case.way.planes if math.isfinite(case.way.planes) else 0.0
    up, down = (polar.best(upwind=u, planing=planing) for u in (True, False))
    for course, vmg, angle in ((up, "upwind_vmg", "upwind_angle"), (down, "downwind_vmg", "downwind_angle")):
        if course is None:
            tell.none(vmg, f"nothing made good, {wind}")
            tell.none(angle, f"nothing made good, {wind}")
            continue
        good, made = course.made_good, course.angle + course.leeway
        tell.add(vmg, good, 0.09 * good, f"{made / DEGREE:.0f}° off the true wind at {course.speed / KNOT:.1f} kn, {wind}")
        tell.add(angle, made, 4 * DEGREE, f"over the ground, leeway {course.leeway / DEGREE:.1f}° in it, {wind}")
    tell.add(
        "side_force",
        case.side,
        0.10 * case.side,
        "what body and straps hold against the sail" if gear.rig == "sail" else "what arms or harness hold",
    )
    marks = [
        Mark(c.angle, f"{c.speed / KNOT:.1f} kn, makes good {c.made_good / KNOT:.1f}", c.speed)
        for c in (up, down)
        if c is not None
    ]
    driven = polar.speed > 0
    if driven.any():
        tell.pictures["polar"] = Chart(
            "Speed round the wind", f"{wind}; eased to the {case.side:.0f} N of side force the rider holds.", "angle off the true wind", Q.ANGLE, "kn",
            Q.SPEED, (Line("board speed", "now", polar.angle[driven], polar.speed[driven], 0.08 * polar.speed[driven]),
                      Line("made good", "aside", polar.angle[driven], np.abs(polar.made_good[driven]))), tuple(marks))  # fmt: skip


def leverage(case: RideCase) -> None:
    """Sail force held from the straps."""
    if case.board.gear is None:
        case.tell.none("sail_force", NO_GEAR)
        return
    case.tell.add("sail_force", case.side, 0.10 * case.side,
                  f"hanging {strap_reach(case.model) * 100:.0f} cm off the centreline against a sail of {case.board.gear.height:.1f} m")  # fmt: skip


def spare_force(case: RideCase) -> None:
    """Least force to spare between 10 and 20 knots, and its curve."""
    gear = case.board.gear
    if gear is None:
        case.tell.none("net_force", NO_GEAR)
        return
    speeds = np.linspace(8 * KNOT, 32 * KNOT, 25)
    spare = force_to_spare(case.model, case.way, gear, case.condition.wind, speeds)
    inside = (speeds >= 10 * KNOT - 1e-9) & (speeds <= 20 * KNOT + 1e-9)
    least = int(np.argmin(np.where(inside, spare, np.inf)))
    band = float(np.hypot(np.interp(speeds[least], case.way.speeds, case.way.band), 0.1 * case.side))
    case.tell.add(
        "net_force",
        float(spare[least]),
        band,
        f"least at {speeds[least] / KNOT:.0f} kn, {FAST_COURSE / DEGREE:.0f}° off the wind, {gear.area:.1f} m²",
    )
    case.tell.pictures["spare"] = Chart(
        "Force to spare on the fast course", f"{gear.area:.1f} m², {case.condition.wind / KNOT:.1f} kn at {case.brief.wind.height:.0f} m. "
        "Where it crosses nothing, the board gets no faster.", "board speed, kn", Q.SPEED, "N", Q.FORCE,
        (Line("force to spare", "now", speeds, spare, np.full(len(speeds), band)),), (Mark(float(speeds[least]),
            f"{spare[least]:.0f} N", float(spare[least])),),
        from_zero=False)  # fmt: skip


def fins(case: RideCase) -> None:
    """Fins at the run and at the hump: margins, leeway, the ladder of lengths, who carries when."""
    tell, model = case.tell, case.model
    keys = ("fin_margin", "fin_margin_push", "fin_load", "leeway", "fin_up", "fin_best", "fin_cavitation", "fins_engage", "fin_release_angle",
            "slide_angle")  # fmt: skip
    if not model.fins:
        for key in keys:
            tell.none(key, NO_FIN)
        return
    speed, side = _load(case)
    words = f"{side:.0f} N of side force" if case.side > 0 else f"{side:.0f} N, a third of your weight, pushed sideways"
    # the rider pushes in earnest where the board begins to plane
    slow = max(case.way.top.speed, case.way.planes if math.isfinite(case.way.planes) else 0.0)
    run = hold(model.fins, side, speed, model.density, model.fin_law)
    pushed = max(case.side, side)
    push = hold(model.fins, pushed, slow, model.density, model.fin_law)
    heeled = hold(model.fins, side, speed, model.density, model.fin_law, heel=6 * DEGREE)
    assert run is not None and push is not None and heeled is not None
    margin, tight = min(run.stall_margin, run.ventilation_margin), min(push.stall_margin, push.ventilation_margin)
    limit = "stall" if run.stall_margin < run.ventilation_margin else "drawing air"
    tell.add(
        "fin_margin", margin, BAND * (1 - margin), f"{words} at {speed / KNOT:.0f} kn, {run.most} most loaded, limit is {limit}"
    )
    tell.add(
        "fin_margin_push", tight, BAND * (1 - tight), f"all of {pushed:.0f} N at {slow / KNOT:.0f} kn, {push.most} most loaded"
    )
    load = (1 - run.stall_margin) * model.fin_law.lift_most
    tell.add("fin_load", load, BAND * load, f"{words} at {speed / KNOT:.0f} kn")
    tell.add("leeway", run.leeway, BAND * abs(run.leeway), f"{words} at {speed / KNOT:.0f} kn")
    tell.add("fin_up", heeled.up, BAND * abs(heeled.up), f"{words}; heeled 6° to windward")
    box = max(case.measured.board.fittings.fin_boxes, key=lambda b: b.fin.span)
    boil = cavitation_speed(
        box.fin.thickness, min(load, 0.9), 0.5 * box.fin.span, model.density, vapour_pressure(case.brief.water.celsius)
    )
    tell.add(
        "fin_cavitation",
        boil,
        0.15 * boil,
        f"{box.fin.thickness * 100:.0f} % section lifting {load:.2f}: a note, not a limit of yours",
    )
    order = engaging(model.fins)
    tell.add(
        "fins_engage",
        order[-1][1],
        0.5 * DEGREE,
        "; ".join(f"{name} from {yaw / DEGREE:+.1f}°".replace("-", "−") for name, yaw in order),
    )
    yaw = release_yaw(model)
    for key in ("fin_release_angle", "slide_angle"):
        tell.add(key, yaw, BAND * yaw, "the first fin to let go, board level")
    _ladder(case, side, speed, slow, words)
    if case.draw:
        _map(case, side)


def _load(case: RideCase) -> tuple[float, float]:
    """Speed and side force the fins are looked at with: the best upwind course in course racing, the fast course else."""
    polar = case.polar
    if polar is None or case.board.gear is None:
        return case.run.speed, 0.35 * case.brief.rider.mass * GRAVITY
    best = polar.best(upwind=True, planing=case.way.planes if math.isfinite(case.way.planes) else 0.0)
    if case.brief.discipline == "course racing" and best is not None:
        return best.speed, best.side
    side = float(np.interp(FAST_COURSE, polar.angle, polar.side))
    return case.run.speed, side if side > 1 else case.side


def _map(case: RideCase, side: float) -> None:
    """Lift left over speed, for the fitted fin and a shorter and a longer one."""
    speeds = np.linspace(5 * KNOT, max(1.25 * case.run.speed, 14 * KNOT), 15)
    lines = []
    roles: tuple[tuple[float, Role], ...] = ((0.8, "limit"), (1.0, "now"), (1.2, "push"))
    for share, role in roles:
        rungs = [fin_ladder(case.model, side, float(v), float(v), shares=(share,))[0] for v in speeds]
        margin = np.maximum(np.array([r.margin for r in rungs]), -0.5)
        band = 0.15 * (1 - margin) if role == "now" else None
        lines.append(Line(f"{rungs[0].span * 100:.0f} cm", role, speeds, margin, band))
    case.tell.pictures["finmap"] = Chart(
        "Lift left in the fin over speed", f"{side:.0f} N of side force held at "
            "every speed; below nothing it lets go.", "board speed, kn", Q.SPEED, "lift left",
        Q.SHARE, tuple(lines), (Mark(case.run.speed, f"run, {case.run.speed / KNOT:.0f} kn"),), from_zero=False)  # fmt: skip


def _ladder(case: RideCase, side: float, speed: float, slow: float, words: str) -> None:
    tell = case.tell
    rungs = fin_ladder(case.model, side, speed, slow)
    spans = np.array([r.span for r in rungs])
    at_run, at_push = np.array([r.margin for r in rungs]), np.array([r.margin_push for r in rungs])
    drags = np.array([r.drag for r in rungs])
    fair = (at_run >= 0.2) & (at_push >= 0.0)
    if fair.any():
        best = int(np.argmin(np.where(fair, drags, np.inf)))
        tell.add("fin_best", float(spans[best]), 0.08 * float(spans[best]),
                 f"least drag ({drags[best]:.0f} N) of those that keep a fifth of "
                     f"their lift at {speed / KNOT:.0f} kn and hold at {slow / KNOT:.0f} kn")  # fmt: skip
    else:
        tell.none("fin_best", "no length from six to fourteen tenths of it holds at the hump")
    own = max(case.measured.board.fittings.fin_boxes, key=lambda b: (b.offset == 0, b.fin.span)).fin.span
    tell.pictures["fins"] = Chart(
        "Fin lengths against the same side force", f"{words}. Below nothing the fin lets go. "
            "The best length depends on the speed.", "fin length, cm", Q.LENGTH,
        "lift left", Q.SHARE, (Line(f"at {speed / KNOT:.0f} kn", "now", spans, at_run, 0.15 * (1 - at_run)),
                               Line(f"pushing at {slow / KNOT:.0f} kn", "push", spans, at_push, 0.15 * (1 - at_push))),
        (Mark(own, f"fitted, {own * 100:.0f} cm"),), from_zero=False)  # fmt: skip
