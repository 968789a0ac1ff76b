"""Balance at rest: righting curve, second stability, freeboard, list, the pivot turn."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import refined
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.figures.afloat import (
    ARM_REACH,
    FOOT_WIDTH,
    FOOTWELL_WATER,
    FREEBOARD,
    LATERAL_AREA,
    LIST_ANGLE,
    METACENTRE,
    RIGHTING_ANGLE,
    RIGHTING_BACK,
    RIGHTING_PEAK,
    ROLL_DAMPING_0,
    ROLL_DAMPING_15,
    ROLL_DAMPING_30,
    SECOND_STABILITY,
    TAIL_SINK,
    WATERLINE_LEFT,
    WATERPLANE,
)
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark, Drawing, Form
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.drawings import in_profile
from kelvor.core.shape.checks.fairness import standing_width
from kelvor.core.tank.floating.righting import flooded
from kelvor.core.tank.lifting.foils import roll_damping

SINKS = "the board cannot carry all this afloat"


@tells(
    RIGHTING_PEAK,
    RIGHTING_ANGLE,
    SECOND_STABILITY,
    FREEBOARD,
    FOOTWELL_WATER,
    RIGHTING_BACK,
    FOOT_WIDTH,
    pictures="righting",
)
def balance(case: RideCase) -> None:
    """Righting curve and what is read off it."""
    collected, board, brief = case.collected, case.board, case.brief
    curve = board.righting
    heel, peak = curve.peak
    steady = "comes back by itself" if curve.steady else "held by balancing at rest"
    rising = f"still rising at {heel / DEGREE:.0f}°, where the curve ends" if curve.rises else ""
    words = f"{curve.posture}, upright over the middle: {steady}" + (rising and f"; {rising}")
    collected.add(RIGHTING_PEAK, peak, words)
    step = next((layer.height for layer in case.measured.board.layers if layer.kind == "chine" and layer.on), None)
    afloat = case.model.floater.form_at(case.model.weight)
    if step is not None and afloat is not None:
        height, draught = step.value(case.measured.solid.x), afloat.draught
        wet = "in the water too" if draught > height else "out of the water"
        collected.claim(
            RIGHTING_PEAK,
            "the inner hull carries you at rest",
            f"at rest it draws {draught * 100:.0f} cm "
            f"and the step is {height * 100:.0f} cm, "
            f"so the outer hull is {wet}",
        )
    collected.add(RIGHTING_ANGLE, heel, f"{curve.posture}", invalid=rising)
    second = curve.at(15 * DEGREE)
    collected.add(
        SECOND_STABILITY,
        second,
        f"{curve.posture}; at rest the curve rises {curve.at(5 * DEGREE) / 5:.0f} N m a degree",
    )
    collected.add(FREEBOARD, -curve.deck_depth, f"{curve.posture}, where it lies level")
    water, deeper = flooded(board.coarse, case.model.mass, brief, case.model.table, curve.posture, curve.place)
    words = f"puts the deck {deeper * 100:.1f} cm deeper until it has drained" if water > 0 else "no foot wells"
    collected.add(FOOTWELL_WATER, water, words)
    lines = [ChartLine(curve.posture, "now", *refined(curve.heel, curve.moment, RIGHTING_PEAK.bands_of(curve.moment)))]
    if brief.discipline == "paddle race":
        back = board.righting_back
        _, most = back.peak
        collected.add(RIGHTING_BACK, most, "30 cm further back, trim held")
        lines.append(ChartLine("30 cm back", "aside", *refined(back.heel, back.moment)))
        middle = (board.feet.front + case.measured.solid.x) / 2
        collected.add(FOOT_WIDTH, standing_width(case.measured, middle), f"{middle * 100:.0f} cm from the tail")
    collected.pictures["righting"] = Chart(
        "Righting moment over heel",
        f"{curve.posture.capitalize()}, {brief.rider.mass:.0f} kg upright over the middle. Above the line it comes "
        f"back, "
        "below it you hold it.",
        "heel, °",
        Q.ANGLE,
        "N m",
        Q.MOMENT,
        tuple(lines),
        (ChartMark(heel, f"{peak:.0f} N m, still rising" if rising else f"peak {peak:.0f} N m", peak),),
    )


@tells(WATERPLANE, METACENTRE)
def waterplane(case: RideCase) -> None:
    """The cut of the still water through the hull, and how far above the buoyancy the metacentre stands for it."""
    form = case.model.floater.form_at(case.model.weight)
    if form is None:
        case.collected.none(SINKS, WATERPLANE, METACENTRE)
        return
    half = form.half[:, -1]
    area = float(2 * np.trapezoid(half, form.x))
    radius = float(2 / 3 * np.trapezoid(half**3, form.x)) / form.volume
    words = (
        f"level, {case.model.weight / GRAVITY:.0f} kg, waterline {form.length * 100:.0f} by {form.beam * 100:.0f} cm"
    )
    case.collected.add(WATERPLANE, area, words)
    case.collected.add(METACENTRE, radius, f"{words}; the centre of gravity is not in it")


@tells(ARM_REACH)
def prone_reach(case: RideCase) -> None:
    """How far over the rail the arms reach, lying down."""
    measured, place = case.measured, case.board.righting.place
    shoulder = place + 0.144 * case.brief.rider.height
    reach = measured.at(measured.shape.half_width, float(np.clip(shoulder, 0.05, measured.board.length - 0.05)))
    deck = -case.board.righting.deck_depth
    case.collected.add(
        ARM_REACH,
        float(np.hypot(reach, max(deck, 0.0))),
        f"half-width {reach * 100:.0f} cm at the shoulder, deck {deck * 100:.0f} cm up",
    )


@tells(ROLL_DAMPING_0, ROLL_DAMPING_15, ROLL_DAMPING_30)
def damping(case: RideCase) -> None:
    """What the foil damps in roll."""
    model = case.model
    if model.wing is None:
        case.collected.none("no foil in the brief", *damping.figures)
        return
    for figure, knots in zip(damping.figures, (0.0, 1.5, 3.0), strict=True):
        value = roll_damping(model.wing, knots * KNOT, model.wing.mast, model.density, model.table.mast_chord)
        case.collected.add(
            figure,
            value,
            f"wing {model.wing.area * 1e4:.0f} cm², {model.wing.span * 100:.0f} cm span",
        )


@tells(LIST_ANGLE)
def listing(case: RideCase) -> None:
    """List with the rig lying or held to one side while the rider waits."""
    gear, curve = case.board.gear, case.board.righting
    if gear is None:
        case.collected.none("no sail in the brief", LIST_ANGLE)
        return
    moment = gear.mass * GRAVITY * case.model.table.rig_aside
    over = np.nonzero(curve.moment >= moment)[0]
    if not len(over) or not curve.steady:
        case.collected.none("no list balances: the rider holds it", LIST_ANGLE)
        return
    value = float(np.interp(moment, curve.moment[: over[0] + 1], curve.heel[: over[0] + 1]))
    aside = f"{case.model.table.rig_aside * 100:.0f} cm"
    case.collected.add(LIST_ANGLE, value, f"rig of {gear.mass:.1f} kg held {aside} off the centreline")


@tells(TAIL_SINK, WATERLINE_LEFT, LATERAL_AREA, pictures="pivot")
def pivot(case: RideCase) -> None:
    """The rider stepped back for a turn on the spot."""
    collected, back = case.collected, case.board.back
    sign = f"feet about {back.place * 100:.0f} cm from the tail"
    if not back.found:
        collected.none(f"no balance up to 35° of trim, {sign}", TAIL_SINK, WATERLINE_LEFT)
    else:
        collected.add(TAIL_SINK, back.tail_sink, f"{sign}, trim {back.trim / DEGREE:.0f}°")
        collected.add(WATERLINE_LEFT, back.waterline, sign)
    form = case.model.floater.form_at(case.model.weight)
    if form is None:
        collected.none(SINKS, LATERAL_AREA)
    else:
        side = form.lateral + sum(f.area for f in case.model.fins)
        collected.add(LATERAL_AREA, side, f"hull drawing {form.draught * 100:.1f} cm and fins, rider in the middle")
    shown = back.trim if back.found else 0.0
    place = back.place
    height = case.measured.at(case.measured.keel_line, place)
    water = back.plane.depth + back.plane.pitch * place - case.measured.at(case.measured.shape.keel, place)
    forms = in_profile(case.model, shown, (place, height), (place, -water), foil=False)
    collected.pictures["pivot"] = Drawing(
        "Stepped back to pivot",
        f"Trim {shown / DEGREE:.0f}°, {sign}.",
        (*forms, Form("rider", np.array([[place, -water + 0.12], [place, 0.75]]))),
    )


def afloat_drawing(case: RideCase, trim: float, depth: float, place: float, words: str) -> None:
    """The board at rest; `depth` of the deck under water at the rider's `place` [m]."""
    deck = case.measured.at(case.measured.deck_line, place)
    forms = in_profile(case.model, trim, (place, deck), (place, -depth))
    body = np.array([[place, -depth], [place, -depth + 0.62]])
    case.collected.pictures["float"] = Drawing("At rest", words, (*forms, Form("rider", body)))
