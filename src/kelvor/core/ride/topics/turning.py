"""Turning, landing, popping: the rail on the water, yaw, the bottom that strikes."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.figures.turning import (
    BURY_FORCE,
    CHOP_LOAD,
    EDGE_RADIUS_FEET,
    FIN_DEPTH,
    FLAT_UNDER_FEET,
    FLEX_TRAVEL,
    FRONT_FIN_AREA,
    PIVOT_PLACE,
    RAIL_BREAK,
    RAIL_CROSSOVER,
    RAIL_ENGAGED_30,
    RAIL_ENGAGED_45,
    RAIL_FLAT_30,
    RAIL_RADIUS_30,
    RAIL_RADIUS_45,
    SLAM,
    SLIDE_FORCE,
    TIP_ANGLE,
    TURN_LETS_GO,
    TURN_MOMENT,
    V_UNDER_FEET,
)
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark, Drawing, Form
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.drawings import in_profile, plan_outline, section
from kelvor.core.shape.checks.straight_edge import flat_run
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.tank.laws.entry import ACROSS, acoustic, against_wedge, touch
from kelvor.core.tank.rail.pivot import Pressed, Tail, tail
from kelvor.core.tank.rail.rail import BITE, RailLine, crossover, rail_line

PRESSED, FALL = 1500.0, 1.0
"""Load that flexes a board in a landing [N], and the height of a fall it is held against [m]."""
TOWED = ("wakeboard", "wake surf")
"""Disciplines whose tail turns at the pace of the boat."""


@tells(
    RAIL_RADIUS_30,
    RAIL_RADIUS_45,
    RAIL_ENGAGED_30,
    RAIL_ENGAGED_45,
    RAIL_CROSSOVER,
    RAIL_BREAK,
    pictures="engaged rail heeled",
)
def rails(case: RideCase) -> None:
    """Radius and engaged rail at two heels, the break at a cut-out, and their picture."""
    collected, measured = case.collected, case.measured
    slope = measured.board.base.slope
    lines: dict[int, RailLine] = {}
    for degrees, radius, engaged in ((30, RAIL_RADIUS_30, RAIL_ENGAGED_30), (45, RAIL_RADIUS_45, RAIL_ENGAGED_45)):
        line = rail_line(measured.shape, slope, degrees * DEGREE)
        lines[degrees] = line
        wrong = (
            ""
            if math.isfinite(line.radius)
            else "the bottom runs flat along the engaged rail: it draws no radius of its own"
        )
        collected.add(
            radius,
            line.radius,
            f"from {line.start * 100:.0f} to {line.end * 100:.0f} cm from the tail",
            invalid=wrong,
        )
        collected.add(
            engaged,
            line.engaged,
            f"{BITE * 1000:.0f} mm of rail in the water, {line.start * 100:.0f} to {line.end * 100:.0f} cm",
        )
    over = crossover(measured.shape, slope)
    collected.add(
        RAIL_CROSSOVER,
        over,
        "below it the outline wins over the rocker",
        invalid="" if math.isfinite(over) else "below 75° it never does: the outline wins over the rocker",
    )
    said = f"up to {over / DEGREE:.0f}° of heel" if math.isfinite(over) else "at every heel below 75°"
    for figure in (RAIL_RADIUS_30, RAIL_RADIUS_45, RAIL_CROSSOVER):
        collected.claim(
            figure,
            "outline curve makes it carve",
            "seen from above the outline bends the rail away "
            f"from the turn {said}; it is the rocker that draws "
            "the radius, and outline curve shortens the engaged rail and lets the board pivot",
        )
    broken = max(lines[30].breaks, lines[45].breaks)
    collected.add(RAIL_BREAK, broken, "step across in the engaged rail")
    if case.draw:
        _draw(case, lines)


def _draw(case: RideCase, lines: dict[int, RailLine]) -> None:
    """The engaged rail over heel, and where it lies."""
    collected, measured = case.collected, case.measured
    slope = measured.board.base.slope
    heels: Array = np.arange(10.0, 71.0, 15.0) * DEGREE
    swept = [rail_line(measured.shape, slope, float(h)) for h in heels]
    engaged = np.array([s.engaged for s in swept])
    collected.pictures["engaged"] = Chart(
        "Engaged rail over heel",
        f"{BITE * 1000:.0f} mm of rail in the water. Ranking only: water and rider are not in it.",
        "heel, °",
        Q.ANGLE,
        "cm",
        Q.LENGTH,
        (ChartLine("engaged rail", "now", heels, engaged, RAIL_ENGAGED_30.bands_of(engaged)),),
        tuple(ChartMark(d * DEGREE, f"{d}°") for d in (30, 45)),
    )
    forms = [Form("board", plan_outline(measured), closed=True)]
    labels = []
    for degrees, line in lines.items():
        inside = (line.x >= line.start) & (line.x <= line.end)
        edge = np.interp(line.x[inside], measured.shape.x, measured.shape.half_width)
        forms.append(
            Form(
                "rail",
                np.stack([line.x[inside], (edge + 0.012 * (degrees // 15 - 1)) * (1 if degrees == 30 else -1)], axis=1),
            )
        )
        labels.append(
            (
                (line.start + line.end) / 2,
                (edge.max() + 0.05) * (1 if degrees == 30 else -1.35),
                f"heeled {degrees}°: {line.engaged * 100:.0f} cm",
            )
        )
    collected.pictures["rail"] = Drawing(
        "Rail in the water",
        "The run of rail that is wet at two heels, seen from above. What radius it draws only ranks, and is in the "
        "list.",
        tuple(forms),
        tuple(labels),
        water=False,
    )
    collected.pictures["heeled"] = _on_edge(case) or _heeled(case, lines[45])


def _heeled(case: RideCase, line: RailLine) -> Drawing:
    """The section in the middle of the engaged rail, heeled 45°."""
    middle = (line.start + line.end) / 2
    return Drawing(
        "Heeled 45° on the water",
        f"Section {middle * 100:.0f} cm from the tail, in the middle of "
        f"the engaged rail, {BITE * 1000:.0f} mm of it in the water.",
        (Form("board", _section_heeled(case, middle, 45 * DEGREE, BITE), closed=True),),
    )


def _on_edge(case: RideCase) -> Drawing | None:
    """A kite board as it edges upwind, under its load; None where it does not."""
    rigged, up = case.board.rigged, case.up
    if rigged is None or up is None or not rigged.edged:
        return None
    found = rigged.at(case.condition.wind, up.angle, up.speed)
    heel, at = abs(float(found.heel)), case.board.feet.back
    width = 2 * case.measured.at(case.measured.shape.edge_y, at)
    wet = min(rigged.wet_width(found, up.speed), width)
    return Drawing(
        f"On its edge upwind, heeled {heel / DEGREE:.0f}°",
        f"Section under the back foot; {wet * 100:.0f} of {width * 100:.0f} cm are below still water "
        f"under {float(found.load):.0f} N at {up.speed / KNOT:.0f} kn.",
        (Form("board", _section_heeled(case, at, heel, wet * float(np.sin(heel))), closed=True),),
    )


def _section_heeled(case: RideCase, at: float, heel: float, deep: float) -> Array:
    """A section heeled [rad], its lowest point `deep` below the water [m]."""
    half = section(case.measured, at) * [-1, 1]
    heeled: Array = half @ np.array([[np.cos(heel), -np.sin(heel)], [np.sin(heel), np.cos(heel)]])
    heeled[:, 1] -= heeled[:, 1].min() + deep
    return heeled


FIN_SIZES = np.linspace(0.7, 1.3, 7)
"""Areas of all fins in the picture, of their own."""
FINS_FORWARD = 0.02
"""Way all fins are moved forward in it [m]."""


def pressed_in(case: RideCase, heel: float) -> Tail:
    """The tail under the back foot, all of the weight on it."""
    measured, model = case.measured, case.model
    table, pace = model.table, case.condition.pace
    speed = pace if pace > 0 and case.brief.discipline in TOWED else table.turn_speed
    pressed = Pressed(
        case.board.pivot_foot,
        model.weight,
        heel,
        table.turn_trim,
        table.turn_bite,
        table.tail_breaks,
        max(speed, 1.0),
        model.density,
    )
    return tail(measured.shape, measured.board.base.slope, model.fins, model.fin_law, pressed)


def _pressed_words(case: RideCase, held: Tail, heel: float) -> str:
    """The condition of a tail that is pressed in, in words."""
    table = case.model.table
    speed = math.sqrt(2 * held.pressure / case.model.density)
    return (
        f"back foot {held.foot * 100:.0f} cm from the tail with all the weight, rail {table.turn_bite * 1000:.0f} mm "
        f"deep under it, heeled {heel / DEGREE:.0f}°, trim {table.turn_trim / DEGREE:.0f}°, {speed / KNOT:.0f} kn"
    )


@tells(TURN_MOMENT, TURN_LETS_GO, PIVOT_PLACE, pictures="loose")
def on_the_tail(case: RideCase) -> None:
    """What resists turning on the tail, at which push it lets go, and where the board pivots."""
    collected, heel, radius = case.collected, case.model.table.turn_heel, case.model.table.turn_radius
    held = pressed_in(case, heel)
    moment, (force, angle) = held.moment(radius), held.lets_go()
    by_fins = moment - held.moment_of_rail(radius)
    so = _pressed_words(case, held, heel)
    collected.add(TURN_MOMENT, moment, f"at {radius:.1f} m radius, {by_fins:.0f} N m of it by fins; {so}")
    collected.add(TURN_LETS_GO, force, f"at {angle / DEGREE:.0f}° to the water; {so}")
    collected.add(PIVOT_PLACE, held.centre, f"centre of what answers sideways; {so}")
    if case.draw and case.model.fins:
        _loose(case, held)


def _loose(case: RideCase, held: Tail) -> None:
    """Loose yet tracks: the moment to turn the tail against the push at which it lets go, over the size of its fins."""
    radius = case.model.table.turn_radius

    def with_fins(size: float = 1.0, forward: float = 0.0) -> tuple[float, float]:
        fins = tuple(replace(fin, area=size * fin.area, x=fin.x + forward) for fin in case.model.fins)
        tried = replace(held, fins=fins)
        return tried.moment(radius), tried.lets_go()[0]

    line = np.array([with_fins(float(size)) for size in FIN_SIZES])
    marks = (
        ("as drawn", (held.moment(radius), held.lets_go()[0])),
        (f"{(1 - FIN_SIZES[0]) * 100:.0f} % less fin", with_fins(float(FIN_SIZES[0]))),
        (f"fins {FINS_FORWARD * 100:.0f} cm forward", with_fins(forward=FINS_FORWARD)),
    )
    case.collected.pictures["loose"] = Chart(
        "Loose yet tracks",
        f"Left turns easier, up holds longer. The line is this tail with {FIN_SIZES[0] * 100:.0f} to "
        f"{FIN_SIZES[-1] * 100:.0f} % of its fins' area.",
        f"moment to turn it on the tail at {radius:.1f} m radius, N m",
        Q.MOMENT,
        "N",
        Q.FORCE,
        (ChartLine("more or less fin", "now", line[:, 0], line[:, 1]),),
        tuple(ChartMark(moment, words, force) for words, (moment, force) in marks),
        from_zero=False,
    )


@tells(BURY_FORCE)
def bury(case: RideCase) -> None:
    """Force at the rail that buries it at rest."""
    half = float(case.measured.shape.half_width.max())
    heeled = case.board.righting.at(30 * DEGREE)
    case.collected.add(
        BURY_FORCE,
        max(0.0, heeled) / half,
        "at the rail, to hold 30° of heel at rest",
        band=BURY_FORCE.band_of(heeled / half),
    )


@tells(SLIDE_FORCE)
def sliding(case: RideCase) -> None:
    """Side force that fins, channels and edge hold before the tail slides."""
    heel = case.model.table.slide_heel
    held = pressed_in(case, heel)
    force, angle = held.lets_go()
    words = f"at {angle / DEGREE:.0f}° to the water" + ("" if case.model.fins else ", by the edge alone")
    case.collected.add(SLIDE_FORCE, force, f"{words}; {_pressed_words(case, held, heel)}")


LEAST_UNDER_FEET = 0.2
"""This much of the bottom lands at least [m]."""
LEAST_HALF_WIDTH = 5e-3
"""Half-width of a bottom below which chop finds none [m]."""


def _bottoms(shape: Sections) -> Array:
    """Heights of the bottom across (n, `ACROSS` + 1) [m], evenly from the centre to its edge."""
    edge, shares = shape.columns.edge + 1, np.linspace(0.0, 1.0, ACROSS + 1)
    return np.array(
        [
            np.interp(shares * wide, y, z)
            for wide, y, z in zip(shape.edge_y, shape.y[:, :edge], shape.z[:, :edge], strict=True)
        ]
    )


@tells(SLAM, V_UNDER_FEET, FLAT_UNDER_FEET, CHOP_LOAD, pictures="landing")
def landing(case: RideCase) -> None:
    """First touch under the feet, V there, the flat that lands, what chop loads."""
    collected, measured, feet = case.collected, case.measured, case.board.feet
    shape, table = measured.shape, case.model.table
    cushion, told, speed = table.air_cushion, table.landing_way, table.landing_speed
    last = measured.board.length - 0.05  # feet may stand off the board's end while somebody moves the straps
    first = min(max(feet.back - 0.08, 0.05), last - LEAST_UNDER_FEET)
    x = np.linspace(first, min(max(feet.front + 0.08, first + LEAST_UNDER_FEET), last), 25)
    edge = np.interp(x, shape.x, shape.edge_y)
    bottoms = _bottoms(shape)
    under = np.array([np.interp(x, shape.x, column) for column in bottoms.T]).T
    # it lands along its own line: rocker bends away from that
    lowest = under.min(axis=1)
    bend = lowest - np.polyval(np.polyfit(x, lowest, 1, w=edge), x)
    density = case.model.density
    most = acoustic(speed, density)
    value = min(density * speed**2 * touch(under, edge, x, bend, cushion, told), most)
    alone = min(density * speed**2 * touch(under, edge, x, np.zeros_like(x), cushion, told), most)
    collected.add(
        SLAM,
        value,
        f"{speed:.0f} m/s, its worst {told * 1000:.0f} mm of way, {x[0] * 100:.0f} to {x[-1] * 100:.0f} cm from the "
        f"tail; the sections alone {alone / 1e3:.0f} kPa, rocker lets them down one after the other",
        difference=0.15,
    )
    collected.claim(
        SLAM,
        "more rocker lands softer",
        f"rocker under the feet takes {(1 - value / alone) * 100:.0f} % of the first touch here; what V and ridges do "
        f"counts against flats that trapped air lets down as {cushion / DEGREE:.0f}° would, a hollow is closed by its "
        "air, and legs and flex do the rest",
    )
    rise = np.interp(x, shape.x, shape.edge_z - shape.keel)
    collected.add(
        V_UNDER_FEET,
        float(np.average(np.arctan2(rise, edge), weights=edge)),
        f"{x[0] * 100:.0f} to {x[-1] * 100:.0f} cm from the tail",
    )
    run = flat_run(x, np.interp(x, shape.x, measured.keel_line))
    collected.add(FLAT_UNDER_FEET, run[1] - run[0], "keel, gap 0.5 mm, between and 8 cm beyond the feet")
    fore = (shape.x > table.chop_from * measured.board.length) & (shape.edge_y > LEAST_HALF_WIDTH)
    loads = against_wedge(bottoms[fore], shape.edge_y[fore], cushion, told)
    chop = float(np.average(loads, weights=shape.edge_y[fore]))
    collected.add(CHOP_LOAD, chop, "mean over the forward bottom, by width", difference=0.15)
    collected.pictures["landing"] = Drawing(
        "Bottom that meets the water",
        f"Section under the front foot, {feet.front * 100:.0f} cm from the tail.",
        (Form("board", section(measured, feet.front), closed=True),),
        water=True,
    )


@tells(TIP_ANGLE, FLEX_TRAVEL, pictures="pop")
def pop(case: RideCase) -> None:
    """The tip that kicks, flex in a landing."""
    measured = case.measured
    keel, x = measured.keel_line, measured.shape.x
    end = x[0] + 0.12 * measured.board.length
    angle = float(np.arctan2(keel[0] - measured.at(keel, end), end - x[0]))
    case.collected.add(TIP_ANGLE, angle, "keel line over the last 12 % of the length")
    sag = case.board.known_value("bend_sag")
    if math.isfinite(sag):
        case.collected.add(FLEX_TRAVEL, 3 * sag, "three times the sag under 500 N")
        taken, fall = 3 * sag * PRESSED / 2, case.brief.rider.mass * GRAVITY * FALL
        case.collected.claim(
            FLEX_TRAVEL,
            "a board that flexes lands softer",
            f"it takes up {taken:.0f} J of the {fall:.0f} J of your fall from {FALL:.0f} m, what legs do not; flex is "
            "pop and its timing",
        )
    else:
        case.collected.none("choose a construction in the Build view first", FLEX_TRAVEL)
    at = (0.0, float(keel[0]))
    forms = in_profile(case.model, angle, at, (0.0, 0.0), foil=False)
    case.collected.pictures["pop"] = Drawing(
        "Standing on the tip", f"Loaded on its tip the board stands {angle / DEGREE:.0f}° to the water.", forms
    )


@tells(RAIL_FLAT_30, EDGE_RADIUS_FEET, FIN_DEPTH)
def edges(case: RideCase) -> None:
    """Towed and kite boards on edge: length held, side force, radius of the edge."""
    collected, measured, board = case.collected, case.measured, case.measured.board
    feet = case.board.feet
    line = rail_line(measured.shape, board.base.slope, 30 * DEGREE, bite=0.004)
    collected.add(RAIL_FLAT_30, line.engaged, "run of the rail within 4 mm of its lowest point, heeled 30°")
    radius = float(np.mean([board.rails.edge_radius.value(x) for x in (feet.back, feet.front)]))
    collected.add(EDGE_RADIUS_FEET, radius, "mean of both feet")
    spans = [b.fin.span for b in board.fittings.fin_boxes]
    if spans:
        collected.add(FIN_DEPTH, max(spans), "the deepest of the set")
    else:
        collected.none("no fins on this board", FIN_DEPTH)


@tells(FRONT_FIN_AREA)
def fronts(case: RideCase) -> None:
    """Fin area with the rear fins taken out."""
    boxes = case.measured.board.fittings.fin_boxes
    if not boxes:
        case.collected.none("no fins on this board", FRONT_FIN_AREA)
        return
    back = min(b.at.x(case.measured.board.length, case.measured.board.mast_x) for b in boxes)
    front = [b for b in boxes if b.at.x(case.measured.board.length, case.measured.board.mast_x) > back + 0.03] or list(
        boxes
    )
    case.collected.add(FRONT_FIN_AREA, sum(b.count * b.fin.area for b in front), ", ".join(b.name for b in front))
