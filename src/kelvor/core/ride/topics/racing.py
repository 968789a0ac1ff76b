"""Sailed fast: speed round the wind, fins under load, force to spare."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.fluids import vapour_pressure
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.balance import SailingBalance, strap_reach
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.figures.racing import (
    DOWNWIND_ANGLE,
    DOWNWIND_VMG,
    FIN_BEST,
    FIN_CAVITATION,
    FIN_LOAD,
    FIN_MARGIN,
    FIN_MARGIN_PUSH,
    FIN_RELEASE_ANGLE,
    FIN_UP,
    FINS_ENGAGE,
    LEEWAY,
    NET_FORCE,
    RIG_UP,
    RUN_SPEED,
    SAIL_FORCE,
    SIDE_FORCE,
    UPWIND_ANGLE,
    UPWIND_VMG,
)
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark, Role
from kelvor.core.ride.run_up import COURSES
from kelvor.core.ride.sailing import (
    DOWNWIND_LEAST,
    FAST_COURSE,
    UPWIND_MOST,
    Polar,
    fin_lengths,
    fin_loads,
    release_yaw,
)
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.under_way import NO_GEAR
from kelvor.core.tank.lifting.cavitation import cavitation_speed
from kelvor.core.tank.lifting.fins import BAND, engaging, fins_holding

HELD_OPEN = 0.05
"""What is left open of the force the body holds, as a share of it (judgement)."""
NO_FIN = "no fins on this board"
SLALOM_CLOCKED = (
    0.12,
    "reads low: slalom boards are clocked at 58 to 74 km/h in 22 kn, gusts among them (common practice), those tried "
    "here at 55 to 58: hence ± 12 %",
)
"""Where practice says otherwise than the model: what that leaves open of the speed as a share of it, and in words."""
TWIN_TIPS_POINT = (
    6 * DEGREE,
    "reads wide: 55 to 63° are said of twin tips (common practice), those tried here reach 66 to 68° by course, 50 to "
    "53° by the nose: hence ± 6°",
)
"""The same of the angle to the wind [rad]."""


@tells(RUN_SPEED, UPWIND_VMG, UPWIND_ANGLE, DOWNWIND_VMG, DOWNWIND_ANGLE, SIDE_FORCE, RIG_UP, pictures="polar")
def courses(case: RideCase) -> None:
    """Speeds made good, and the polar."""
    collected, polar, gear = case.collected, case.polar, case.board.gear
    if polar is None or gear is None:
        collected.none(NO_GEAR, *courses.figures)
        return
    wind = f"{case.condition.wind / KNOT:.0f} kn at {case.brief.wind.height:.0f} m, {gear.area:.1f} m²"
    run, sailed = (0.0 if case.sailed is None else case.run.speed), case.sailed
    slow = case.grounded if case.model.wing is not None else case.planes_here
    if case.model.wing is None and run >= case.run_up.speeds[-1] * 0.999:
        slow = f"still driven at {run / KNOT:.0f} kn, where its curve ends"
    stance = _stance(sailed, gear.rig == "kite")
    left_open, clocked = SLALOM_CLOCKED if case.brief.discipline == "slalom" else (RUN_SPEED.band_share, "")
    collected.add(
        RUN_SPEED,
        run,
        f"{FAST_COURSE / DEGREE:.0f}° off the true wind, {wind}{stance}" + (f"; {clocked}" if clocked else ""),
        band=left_open * run,
        invalid=slow,
    )
    _made_good(case, wind)
    collected.add(
        SIDE_FORCE,
        case.side,
        f"what {'your weight' if gear.rig == 'sail' else 'arms or harness'} alone holds{_on_fins(case)}",
    )
    if sailed is None:
        collected.none("nothing drives it on the fast course", RIG_UP)
    else:
        lift, cant = float(sailed.force * np.sin(sailed.cant)), float(sailed.cant)
        collected.add(
            RIG_UP,
            lift,
            f"leant {cant / DEGREE:.1f}° to windward on the fast course; the hull carries "
            f"{float(sailed.load):.0f} of {case.model.weight:.0f} N",
            invalid=slow,
        )
    _polar(case, polar, wind, kite=gear.rig == "kite")


def _made_good(case: RideCase, wind: str) -> None:
    """Speeds made good to windward and leeward, and on which courses."""
    collected, up, down = case.collected, case.up, case.down
    does = "flies" if case.model.wing is not None else "planes"
    for course, vmg, angle, where, limit in (
        (up, UPWIND_VMG, UPWIND_ANGLE, "nearer the wind than", UPWIND_MOST),
        (down, DOWNWIND_VMG, DOWNWIND_ANGLE, "deeper than", DOWNWIND_LEAST),
    ):
        if course is None:
            collected.none(
                f"{does} on no course {where} {limit / DEGREE:.0f}° here, {wind}{case.goes_from}", vmg, angle
            )
            continue
        good, made = course.made_good, course.angle
        collected.add(
            vmg,
            good,
            f"{made / DEGREE:.0f}° off the true wind at {course.speed / KNOT:.1f} kn, {wind}",
        )
        left_open, said = TWIN_TIPS_POINT if course is up and case.brief.discipline == "twin tip" else (None, "")
        collected.add(
            angle,
            made,
            f"course through the water; the nose points {course.leeway / DEGREE:.1f}° higher, {wind}"
            + (f"; {said}" if said else ""),
            band=left_open,
        )


def _polar(case: RideCase, polar: Polar, wind: str, *, kite: bool) -> None:
    """The chart of speeds round the wind."""
    marks = [
        ChartMark(c.angle, f"{c.speed / KNOT:.1f} kn, makes good {c.made_good / KNOT:.1f}", c.speed)
        for c in (case.up, case.down)
        if c is not None
    ]
    driven = polar.speed > 0
    chop = " Steady wind and flat water: chop keeps riders slower." if kite else ""
    if driven.any():
        case.collected.pictures["polar"] = Chart(
            "Speed round the wind",
            f"{wind}; the gear eased to what you hold: {case.side:.0f} N by your weight alone{_on_fins(case)}.{chop}",
            "angle off the true wind, °",
            Q.ANGLE,
            "kn",
            Q.SPEED,
            (
                ChartLine(
                    "board speed",
                    "now",
                    polar.angle[driven],
                    polar.speed[driven],
                    RUN_SPEED.bands_of(polar.speed[driven]),
                ),
                ChartLine("made good", "aside", polar.angle[driven], np.abs(polar.made_good[driven])),
            ),
            tuple(marks),
        )


def _on_fins(case: RideCase) -> str:
    """What that comes to on the fins, in words, so that nobody takes the two for one."""
    if not case.model.fins or case.sailed is None:
        return ""
    speed, side = case.fin_load
    return f"; with the wind on your body the fins answer {side:.0f} N at {speed / KNOT:.0f} kn"


def _stance(sailed: SailingBalance | None, kite: bool) -> str:
    """How far rig and board lean, in words."""
    if sailed is None:
        return ""
    cant, heel = float(sailed.cant) / DEGREE, float(sailed.heel) / DEGREE
    words = f"; lines {cant:.0f}° up" if kite else f"; rig leant {cant:.0f}° to windward" if cant >= 0.5 else ""
    return words + (
        f", board heeled {abs(heel):.0f}° to {'leeward' if heel > 0 else 'windward'}" if abs(heel) >= 0.5 else ""
    )


@tells(SAIL_FORCE)
def leverage(case: RideCase) -> None:
    """Sail force held from the straps."""
    if case.board.gear is None:
        case.collected.none(NO_GEAR, SAIL_FORCE)
        return
    case.collected.add(
        SAIL_FORCE,
        case.side,
        f"hanging {strap_reach(case.model) * 100:.0f} cm off the centreline against a sail of "
        f"{case.board.gear.height:.1f} m",
    )


@tells(NET_FORCE, pictures="spare")
def spare_force(case: RideCase) -> None:
    """Least force to spare between 10 and 20 knots, and its curve."""
    gear = case.board.gear
    if gear is None:
        case.collected.none(NO_GEAR, NET_FORCE)
        return
    speeds = np.linspace(8 * KNOT, 32 * KNOT, 25)
    assert case.board.rigged is not None
    spare = case.board.rigged.at(case.condition.wind, FAST_COURSE, speeds).spare
    inside = (speeds >= 10 * KNOT - 1e-9) & (speeds <= 20 * KNOT + 1e-9)
    least = int(np.argmin(np.where(inside, spare, np.inf)))
    band = float(np.hypot(np.interp(speeds[least], case.run_up.speeds, case.run_up.band), HELD_OPEN * case.side))
    case.collected.add(
        NET_FORCE,
        float(spare[least]),
        f"least at {speeds[least] / KNOT:.0f} kn, {FAST_COURSE / DEGREE:.0f}° off the wind, {gear.area:.1f} m²",
        band=band,
    )
    case.collected.pictures["spare"] = Chart(
        "Force to spare on the fast course",
        f"{gear.area:.1f} m², {case.condition.wind / KNOT:.1f} kn at {case.brief.wind.height:.0f} m. "
        "Where it crosses nothing, the board gets no faster.",
        "board speed, kn",
        Q.SPEED,
        "N",
        Q.FORCE,
        (ChartLine("force to spare", "now", speeds, spare, np.full(len(speeds), band)),),
        (ChartMark(float(speeds[least]), f"{spare[least]:.0f} N", float(spare[least])),),
        from_zero=False,
    )


@tells(
    FIN_MARGIN,
    FIN_MARGIN_PUSH,
    FIN_LOAD,
    LEEWAY,
    FIN_UP,
    FIN_BEST,
    FIN_CAVITATION,
    FINS_ENGAGE,
    FIN_RELEASE_ANGLE,
    pictures="fins finmap",
)
def fins(case: RideCase) -> None:
    """Fins at the run and at the hump: margins, leeway, the ladder of lengths, who carries when."""
    collected, model = case.collected, case.model
    if not model.fins:
        collected.none(NO_FIN, *fins.figures)
        return
    speed, side = case.fin_load
    idle = "" if case.brief.discipline == "course racing" and case.up is not None else case.planes_here
    words = (
        f"{side:.0f} N on the fins"
        if case.side > 0
        else f"{side:.0f} N, {model.table.side_push * 100:.0f} % of your weight, pushed sideways"
    )
    # the rider pushes in earnest where the board begins to plane
    slow = max(case.run_up.top.speed, case.run_up.planes if math.isfinite(case.run_up.planes) else 0.0)
    run = fins_holding(model.fins, side, speed, model.density, model.fin_law)
    pushed = _pushed(case, slow, side)
    push = fins_holding(model.fins, pushed, slow, model.density, model.fin_law)
    heel = float(case.sailed.heel) if case.sailed is not None else 6 * DEGREE
    heeled = fins_holding(model.fins, side, speed, model.density, model.fin_law, heel=heel)
    assert run is not None and push is not None and heeled is not None
    margin, tight = run.margin, push.margin
    limit = "stall" if run.stall_margin < run.ventilation_margin else "drawing air"
    never = "" if math.isfinite(case.run_up.planes) else "planes at no speed of its curve"
    stalls = idle or (f"{words} at {speed / KNOT:.0f} kn is more than the fins lift" if run.stall_margin < 0 else "")
    collected.add(
        FIN_MARGIN,
        margin,
        f"{words} at {speed / KNOT:.0f} kn, {run.most} most loaded, limit is {limit}",
        band=BAND * (1 - margin),
        invalid=idle or (stalls if margin < -1 else ""),
    )
    collected.add(
        FIN_MARGIN_PUSH,
        tight,
        f"{pushed:.0f} N getting going at {slow / KNOT:.0f} kn, {push.most} most loaded",
        band=BAND * (1 - tight),
        invalid=never or ("asks more than twice what the fins lift there" if tight < -1 else ""),
    )
    load = run.lift
    collected.add(FIN_LOAD, load, f"{words} at {speed / KNOT:.0f} kn", invalid=stalls)
    collected.add(LEEWAY, run.leeway, f"{words} at {speed / KNOT:.0f} kn", invalid=stalls)
    collected.add(
        FIN_UP,
        heeled.up,
        f"{words}; heeled {heel / DEGREE:.1f}° to leeward",
        invalid=stalls,
    )
    _cavitates(case, load, stalls)
    _letting_go(case)
    _ladder(case, (side, pushed), (speed, slow), words, idle or never)
    if case.draw:
        _map(case, side)


def _cavitates(case: RideCase, load: float, stalls: str) -> None:
    """The speed at which the longest fin cavitates, lifting as it does at the run."""
    collected, model = case.collected, case.model
    box = max(case.measured.board.fittings.fin_boxes, key=lambda b: b.fin.span)
    boil = cavitation_speed(
        box.fin.thickness, min(load, 0.9), 0.5 * box.fin.span, model.density, vapour_pressure(case.brief.water.celsius)
    )
    collected.add(
        FIN_CAVITATION,
        boil,
        f"{box.fin.thickness * 100:.0f} % section lifting {load:.2f}: a note, not a limit of yours",
        invalid=stalls,
    )


def _letting_go(case: RideCase) -> None:
    """In which order fins begin to lift, and where the first lets go."""
    collected, model = case.collected, case.model
    order = engaging(model.fins)
    collected.add(
        FINS_ENGAGE,
        order[-1][1],
        "; ".join(f"{name} from {yaw / DEGREE:+.1f}°".replace("-", "−") for name, yaw in order),
    )
    yaw = release_yaw(model)
    collected.add(FIN_RELEASE_ANGLE, yaw, "the first fin to let go, board level")


def _pushed(case: RideCase, speed: float, side: float) -> float:
    """Side force while getting going at a speed [N], on the course with most to spare in the least wind it goes in.

    In more wind the gear is eased to that; without a gear it is what the fins hold anyway.
    """
    rigged = case.board.rigged
    if rigged is None:
        return side
    least = case.board.least_winds[case.board.rigs.index(rigged)].wind
    wind = case.condition.wind if math.isnan(least) else min(case.condition.wind, least)
    found = rigged.at(wind, COURSES, speed, starts=True, swung=True)
    return float(abs(found.side[int(np.argmax(found.spare))]))


def _map(case: RideCase, side: float) -> None:
    """Lift left over speed, for the fitted fin and a shorter and a longer one."""
    speeds = np.linspace(5 * KNOT, max(1.25 * case.run.speed, 14 * KNOT), 15)
    lines = []
    roles: tuple[Role, ...] = ("limit", "now", "push")
    for role, (span, fins) in zip(roles, fin_lengths(case.model, (0.8, 1.0, 1.2)), strict=True):
        margin = np.maximum(np.array([load.margin for load in fin_loads(case.model, fins, side, speeds)]), -0.5)
        band = BAND * (1 - margin) if role == "now" else None
        lines.append(ChartLine(f"{span * 100:.0f} cm", role, speeds, margin, band))
    case.collected.pictures["finmap"] = Chart(
        "Lift left in the fin over speed",
        f"{side:.0f} N on the fins at every speed; below nothing it lets go.",
        "board speed, kn",
        Q.SPEED,
        "lift left",
        Q.SHARE,
        tuple(lines),
        (ChartMark(case.run.speed, f"run, {case.run.speed / KNOT:.0f} kn"),),
        from_zero=False,
    )


def _ladder(case: RideCase, sides: tuple[float, float], speeds: tuple[float, float], words: str, idle: str) -> None:
    """Fin lengths at the run and pushing: side forces [N] and speeds [m/s] of the two."""
    collected, (speed, slow) = case.collected, speeds
    rungs = fin_lengths(case.model)
    spans = np.array([span for span, _ in rungs])
    held = [
        [fin_loads(case.model, fins, *load)[0] for load in zip(sides, ((v,) for v in speeds), strict=True)]
        for _, fins in rungs
    ]
    at_run, at_push = np.array([[load.margin for load in both] for both in held]).T
    drags = np.array([run.drag for run, _ in held])
    kept = case.model.table.fin_reserve
    fine = np.linspace(spans[0], spans[-1], 321)  # between the rungs margins and drag run straight enough
    run, push, cost = (np.interp(fine, spans, values) for values in (at_run, at_push, drags))
    fair = (run >= kept) & (push >= 0.0)
    if fair.any():
        best = int(np.argmin(np.where(fair, cost, np.inf)))
        collected.add(
            FIN_BEST,
            float(fine[best]),
            f"least drag ({cost[best]:.0f} N) of those that keep {kept * 100:.0f} % of "
            f"their lift at {speed / KNOT:.0f} kn and hold at {slow / KNOT:.0f} kn, "
            "read between lengths; the quiver tries five of them",
            invalid=idle,
        )
    else:
        collected.none("no length from six to fourteen tenths of it holds at the hump", FIN_BEST)
    own = max(case.measured.board.fittings.fin_boxes, key=lambda b: (b.offset == 0, b.fin.span)).fin.span
    collected.pictures["fins"] = Chart(
        "Fin lengths against the same side force",
        f"{words}. Below nothing the fin lets go. The best length depends on the speed.",
        "fin length, cm",
        Q.LENGTH,
        "lift left",
        Q.SHARE,
        (
            ChartLine(f"at {speed / KNOT:.0f} kn", "now", spans, at_run, BAND * (1 - at_run)),
            ChartLine(f"pushing at {slow / KNOT:.0f} kn", "push", spans, at_push, BAND * (1 - at_push)),
        ),
        (ChartMark(own, f"fitted, {own * 100:.0f} cm"),),
        from_zero=False,
    )
