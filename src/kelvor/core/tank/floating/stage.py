"""The float stage: every posture at rest, and its figures."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kelvor.core.base.disciplines import AT_REST, RIGS, Discipline
from kelvor.core.base.figures import Better, Figure, FigureDefinition, Method, figure_maker
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.section_view import wide_point
from kelvor.core.tank.floating.clipping import Hull
from kelvor.core.tank.floating.posture import (
    COARSE,
    FINE,
    POSTURES,
    ROLL_PROBE,
    PostureFloat,
    alone_trim,
    free_trim,
    posture_float,
)
from kelvor.core.tank.floating.rider import Posture
from kelvor.core.tank.laws.coefficients import Coefficients

METHOD = Method(
    "exact clipping of the sections by still water, trim held, rider's place solved; heeled, the rider stays upright",
    "hydrostatics, closed forms in the tests; body segments from Winter 2009 (from memory)",
    "still water, no way on; body shape ±2 cm, density ±2 %",
)


@frozen(eq=False)
class FloatStage:
    """All postures, and the figures read off them."""

    postures: dict[Posture, PostureFloat]
    figures: tuple[Figure, ...]


def float_stage(
    measured: Geometry, mass: MassProperties, brief: Brief, table: Coefficients, *, quick: bool = False
) -> FloatStage:
    """Every posture at rest, and its figures; `quick` takes only the posture the discipline waits in, coarsely."""
    hull = Hull(measured.shape)
    wanted: tuple[Posture, ...] = (AT_REST[brief.discipline] or "kneeling",) if quick else POSTURES
    postures = {p: posture_float(measured, mass, brief, p, hull, table, COARSE if quick else FINE) for p in wanted}
    found = _figures(measured, mass, brief, postures, None if quick else hull, table)
    return FloatStage(postures, tuple(f for f in found if _had(brief.discipline, f.key)))


# fmt: off
DECK_DEPTH = FigureDefinition("float_deck_depth", "Deck under water, kneeling", Q.LENGTH, METHOD, better=Better.LESS,
    more="deeper", less="higher", head="deck {} under", head_below="deck {} above", short="kneeling, deck {} under",
    short_below="kneeling, deck {} above",
    school="Just enough volume to get going, or enough to stand on: less sinks and swings less, more waits in comfort.",
    below="above")
STANDING_DEPTH = FigureDefinition("float_standing_deck_depth", "Deck under water, standing", Q.LENGTH, METHOD,
    better=Better.LESS, more="deeper", less="higher", short="standing, deck {} under",
    short_below="standing, deck {} above", below="above")
SITTING_DEPTH = FigureDefinition("float_sitting_deck_depth", "Deck under water, sitting", Q.LENGTH, METHOD,
    better=Better.LESS, more="deeper", less="higher", below="above")
RIDER_SHARE = FigureDefinition("float_rider_immersed", "Rider under water, kneeling", Q.RATIO, METHOD,
    better=Better.LESS)
KNEE_PLACE = FigureDefinition("float_knee_place", "Knees for level, from tail", Q.LENGTH, METHOD, more="forward",
    less="aft")
KNEE_WINDOW = FigureDefinition("float_knee_window", "Knee window, trim within ±3°", Q.LENGTH, METHOD,
    better=Better.MORE, more="wider", less="narrower", short="knees {} either way keep it level")
KNEE_MOMENT = FigureDefinition("float_knee_moment", "Pitching moment per cm of knee", Q.MOMENT, METHOD)
TRIM = FigureDefinition("float_trim", "Trim, knees over the mast", Q.ANGLE, METHOD, more="nose higher",
    less="nose lower")
ALONE_TRIM = FigureDefinition("float_alone_trim", "Trim afloat, nobody on it", Q.ANGLE, METHOD, more="nose higher",
    less="nose lower")
RAIL_WET = FigureDefinition("float_rail_immersed", "Rail under water at rest", Q.LENGTH, METHOD, more="deeper",
    less="higher", short="rail {} under at rest", short_below="rail {} above at rest", below="above")
ROLL_STIFFNESS = FigureDefinition("float_roll_stiffness", "Roll stiffness, waiting", Q.STIFFNESS, METHOD,
    better=Better.MORE, more="steadier", less="tippier", short="rights {} at rest", short_below="tips {} at rest")
ROLL_HELD = FigureDefinition("float_roll_held", "Roll the rider holds at 5°", Q.MOMENT, METHOD, better=Better.LESS,
    more="more to hold", less="less to hold", short="you hold {} of roll at 5°")
FIGURES = (DECK_DEPTH, STANDING_DEPTH, SITTING_DEPTH, RIDER_SHARE, KNEE_PLACE, KNEE_WINDOW, KNEE_MOMENT, TRIM,
               ALONE_TRIM,
               RAIL_WET, ROLL_STIFFNESS, ROLL_HELD)
# fmt: on
KNEELING = frozenset(d.key for d in (DECK_DEPTH, RIDER_SHARE, KNEE_PLACE, KNEE_WINDOW, KNEE_MOMENT, TRIM))


def _had(discipline: Discipline, key: str) -> bool:
    """Whether anybody rests on a board of a discipline as a figure has it: none is told of a rest that nobody takes."""
    if AT_REST[discipline] is None:
        return key == ALONE_TRIM.key
    if RIGS.get(discipline) == "sail":  # waits standing, the rig in hand
        return key not in KNEELING and key != SITTING_DEPTH.key
    return not (discipline == "prone race" and key == STANDING_DEPTH.key)


def _figures(
    measured: Geometry,
    mass: MassProperties,
    brief: Brief,
    postures: dict[Posture, PostureFloat],
    hull: Hull | None,
    table: Coefficients,
) -> tuple[Figure, ...]:
    """Figures of the postures there are; without a hull the free trims are left out."""
    waiting = postures[AT_REST[brief.discipline] or "kneeling"]
    rider = brief.rider
    inputs = (
        ("rider", f"{rider.mass:.1f} kg, {rider.height * 100:.0f} cm"),
        ("wing lift", f"{brief.wing_lift:.0f} N"),
        ("foil", f"{brief.foil.mass:.1f} kg, {brief.foil.volume * 1e3:.1f} L"),
        ("water", f"{brief.water.kind}, {brief.water.celsius:.0f} °C, {brief.water.density:.0f} kg/m³"),
    )

    make = figure_maker(inputs, 6)

    def depth(definition: FigureDefinition, posture: Posture) -> Figure:
        state = postures[posture]
        note = _stability_note(state)
        if not state.level.found:
            note = f"no place on the deck keeps it level; {note}"
        return make(definition, state.level.deck_depth, 0.03, note, state.level.found)

    found = [
        depth(definition, posture)
        for definition, posture in ((DECK_DEPTH, "kneeling"), (STANDING_DEPTH, "standing"), (SITTING_DEPTH, "sitting"))
        if posture in postures
    ]
    kneel = postures.get("kneeling")
    if kneel is not None:
        found += _kneeling(kneel, make)
    if kneel is not None and hull is not None:
        mast = measured.board.mast_x
        # a sinking board never trims freely; only ask where it would come back by itself
        trim = (
            free_trim(measured, mass, brief, mast, hull, table)
            if mast is not None and kneel.pitch_stable
            else float("nan")
        )
        alone = alone_trim(measured, mass, brief, hull, table)
        words = "board and foil, waiting for the rider" if np.isfinite(alone) else "no such balance"
        found += [
            make(ALONE_TRIM, alone, 0.3 * DEGREE, words),
            make(TRIM, trim, 0.5 * DEGREE, "" if np.isfinite(trim) else "no free trim: held by the rider"),
        ]
    return (*found, *_waiting(measured, waiting, make))


def _kneeling(kneel: PostureFloat, make: Callable[..., Figure]) -> tuple[Figure, ...]:
    """Where the knees keep the board level, and how far they may move."""
    level, window, moment = kneel.level, kneel.window[1] - kneel.window[0], kneel.moment_per_metre
    return (
        make(RIDER_SHARE, level.rider_share, 0.04, "of the body's volume"),
        make(KNEE_PLACE, level.place, 0.02, "" if level.found else "off the deck", level.found),
        make(KNEE_WINDOW, window, 0.15 * window + 0.003, "" if kneel.pitch_stable else "held by the rider"),
        make(KNEE_MOMENT, moment * 0.01, 0.05 * abs(moment) * 0.01),
    )


def _waiting(measured: Geometry, waiting: PostureFloat, make: Callable[..., Figure]) -> tuple[Figure, ...]:
    """How the board lies and rolls under the rider who waits."""
    held = max(0.0, -waiting.roll_moment)
    shape, plane = measured.shape, waiting.level.plane
    wide, _ = wide_point(shape)
    rail = plane.depth + plane.pitch * wide - measured.at(shape.edge_z, wide)
    return (
        make(
            RAIL_WET,
            rail,
            0.02,
            f"{waiting.posture}, bottom edge at the widest place, {wide * 100:.0f} cm from the tail",
            waiting.level.found,
        ),
        make(
            ROLL_STIFFNESS,
            waiting.roll_moment / ROLL_PROBE,
            0.15 * abs(waiting.roll_moment) / ROLL_PROBE + 10,
            f"{waiting.posture}, upright over the middle; secant to 5°",
        ),
        make(
            ROLL_HELD,
            held,
            0.15 * held + 1.0,
            f"{waiting.posture}, upright over the middle: "
            f"{'comes back by itself' if waiting.roll_stable else 'held by balancing'}",
        ),
    )


def _stability_note(state: PostureFloat) -> str:
    if state.pitch_stable and state.roll_stable:
        return "comes back by itself in roll and trim, you upright"
    if not state.pitch_stable and not state.roll_stable:
        return "roll and trim held by balancing"
    return "roll held by balancing" if state.pitch_stable else "trim held by balancing"
