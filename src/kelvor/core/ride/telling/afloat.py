"""Balance at rest: righting curve, second stability, freeboard, list, the pivot turn."""

from __future__ import annotations

import numpy as np

from kelvor.core.floating.righting import flooded
from kelvor.core.fluids import GRAVITY
from kelvor.core.lifting.foils import roll_damping
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.pictures import Chart, Drawing, Form, Line, Mark
from kelvor.core.ride.telling.drawings import in_profile
from kelvor.core.shape.fairness import standing_width
from kelvor.core.units import DEGREE, KNOT
from kelvor.core.units import Quantity as Q


def balance(case: RideCase) -> None:
    """Righting curve and what is read off it."""
    tell, board, brief = case.tell, case.board, case.brief
    curve = board.righting
    heel, peak = curve.peak
    steady = "comes back by itself" if curve.steady else "held by the rider at rest"
    tell.add("righting_peak", peak, 0.12 * abs(peak) + 3, f"{curve.posture}, {steady}")
    step = next((layer.height for layer in case.measured.board.layers if layer.kind == "chine" and layer.on), None)
    if step is not None:
        height, draught = step.value(case.measured.solid.x), case.model.form_at(case.model.weight).draught
        wet = "in the water too" if draught > height else "out of the water"
        tell.claim("righting_peak", "the inner hull carries you at rest", f"at rest it draws {draught * 100:.0f} cm "
            f"and the step is {height * 100:.0f} cm, "
                   f"so the outer hull is {wet}")  # fmt: skip
    tell.add("righting_angle", heel, 2 * DEGREE, f"{curve.posture}")
    second = curve.at(15 * DEGREE)
    tell.add(
        "second_stability",
        second,
        0.12 * abs(second) + 3,
        f"{curve.posture}; at rest the curve rises {curve.at(5 * DEGREE) / 5:.0f} N m a degree",
    )
    tell.add("freeboard", -curve.deck_depth, 0.02, f"{curve.posture}, where it lies level")
    water, deeper = flooded(board.coarse, case.model.mass, brief, curve.posture, curve.place)
    words = f"puts the deck {deeper * 100:.1f} cm deeper until it has drained" if water > 0 else "no foot wells"
    tell.add("footwell_water", water, 0.05 * water, words)
    lines = [Line(curve.posture, "now", curve.heel, curve.moment, 0.12 * np.abs(curve.moment) + 3)]
    if brief.discipline == "paddle race":
        back = board.righting_back
        _, most = back.peak
        tell.add("righting_back", most, 0.12 * abs(most) + 3, "30 cm further back, trim held")
        lines.append(Line("30 cm back", "aside", back.heel, back.moment))
        middle = (board.feet.front + case.measured.solid.x) / 2
        tell.add("foot_width", standing_width(case.measured, middle), 2e-3, f"{middle * 100:.0f} cm from the tail")
    tell.pictures["righting"] = Chart(
        "Righting moment over heel", f"{curve.posture.capitalize()}, {brief.rider.mass:.0f} kg upright over the middle. Above the line it comes back, "
        "below it you hold it.", "heel", Q.ANGLE, "N m", Q.MOMENT, tuple(lines), (Mark(heel, f"peak {peak:.0f} N m", peak),))  # fmt: skip


def prone_reach(case: RideCase) -> None:
    """How far over the rail the arms reach, lying down."""
    measured, place = case.measured, case.board.righting.place
    shoulder = place + 0.144 * case.brief.rider.height
    reach = measured.at(measured.shape.half_width, float(np.clip(shoulder, 0.05, measured.board.length - 0.05)))
    deck = -case.board.righting.deck_depth
    case.tell.add(
        "arm_reach",
        float(np.hypot(reach, max(deck, 0.0))),
        0.02,
        f"half-width {reach * 100:.0f} cm at the shoulder, deck {deck * 100:.0f} cm up",
    )


def damping(case: RideCase) -> None:
    """What the foil damps in roll."""
    model = case.model
    for key, knots in (("roll_damping_0", 0.0), ("roll_damping_15", 1.5), ("roll_damping_30", 3.0)):
        if model.wing is None:
            case.tell.none(key, "no foil in the brief")
            continue
        value = roll_damping(model.wing, knots * KNOT, model.wing.mast, model.density)
        case.tell.add(key, value, 0.35 * value, f"wing {model.wing.area * 1e4:.0f} cm², {model.wing.span * 100:.0f} cm span")


def listing(case: RideCase) -> None:
    """List with the rig lying or held to one side while the rider waits."""
    gear, curve = case.board.gear, case.board.righting
    if gear is None:
        case.tell.none("list_angle", "no sail in the brief")
        return
    moment = gear.mass * GRAVITY * 0.45
    over = np.nonzero(curve.moment >= moment)[0]
    if not len(over) or not curve.steady:
        case.tell.none("list_angle", "no list balances: the rider holds it")
        return
    value = float(np.interp(moment, curve.moment[: over[0] + 1], curve.heel[: over[0] + 1]))
    case.tell.add("list_angle", value, 0.2 * value + 0.3 * DEGREE, f"rig of {gear.mass:.1f} kg held 45 cm off the centreline")


def pivot(case: RideCase) -> None:
    """The rider stepped back for a turn on the spot."""
    tell, back = case.tell, case.board.back
    sign = f"feet about {back.place * 100:.0f} cm from the tail"
    if not back.found:
        for key in ("tail_sink", "waterline_left"):
            tell.none(key, f"no balance up to 35° of trim, {sign}")
    else:
        tell.add("tail_sink", back.tail_sink, 0.03, f"{sign}, trim {back.trim / DEGREE:.0f}°")
        tell.add("waterline_left", back.waterline, 0.05, sign)
    form = case.model.form_at(case.model.weight)
    fin = sum(f.area for f in case.model.fins)
    side = float(np.trapezoid(-form.z[np.argmax(form.half > 1e-3, axis=1)], form.x)) + fin
    tell.add("lateral_area", side, 0.04 * side, "hull and fins, rider in the middle")
    shown = back.trim if back.found else 0.0
    place = back.place
    height = case.measured.at(case.measured.keel_line, place)
    water = back.plane.depth + back.plane.pitch * place - case.measured.at(case.measured.shape.keel, place)
    forms = in_profile(case.model, shown, (place, height), (place, -water), foil=False)
    tell.pictures["pivot"] = Drawing(
        "Stepped back to pivot", f"Trim {shown / DEGREE:.0f}°, {sign}.", (*forms, Form("rider", np.array([[place, -water + 0.12], [place, 0.75]]))),
    )  # fmt: skip


def afloat_drawing(case: RideCase, trim: float, depth: float, place: float, words: str) -> None:
    """The board at rest; `depth` of the deck under water at the rider's `place` [m]."""
    deck = case.measured.at(case.measured.deck_line, place)
    forms = in_profile(case.model, trim, (place, deck), (place, -depth))
    body = np.array([[place, -depth], [place, -depth + 0.62]])
    case.tell.pictures["float"] = Drawing("At rest", words, (*forms, Form("rider", body)))
