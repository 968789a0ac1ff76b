"""The ride stage: every phase of a discipline in one condition, complete and frozen."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from kelvor.core.base.disciplines import AT_REST, FOILING
from kelvor.core.base.figures import Figure, Figures
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.measures.size import Measures
from kelvor.core.ride.balance import Rigged
from kelvor.core.ride.case import BoardCase, RideCase
from kelvor.core.ride.collector import GearWind
from kelvor.core.ride.condition import Condition
from kelvor.core.ride.model import RideModel
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.pictures import Picture
from kelvor.core.ride.sailing import fin_lengths, fin_loads
from kelvor.core.ride.topics import (
    afloat,
    flying,
    on_the_plane,
    paddled,
    pumped,
    racing,
    turning,
    under_way,
)
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.floating.stage import FloatStage
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.sails.sails import wind_at

FIN_SHARES = (0.8, 0.9, 1.0, 1.1, 1.2)
SWEEP = 13
"""Conditions a sweep looks at."""


@frozen(eq=False)
class Ride:
    """A board's ride in a condition: figures, pictures by key, claims by figure, and the quiver."""

    condition: Condition
    figures: tuple[Figure, ...]
    pictures: dict[str, Picture]
    claims: dict[str, str]
    quiver: tuple[GearWind, ...]


def board_case(
    measured: Geometry, measures: Measures, mass: MassProperties, brief: Brief, known: Figures, table: Coefficients
) -> BoardCase:
    """The part of the ride that does not depend on the condition, counted when first asked."""
    return BoardCase(RideModel(measured, measures, mass, brief, table), known)


def ride(board: BoardCase, condition: Condition, floating: FloatStage | None = None, *, pictures: bool = True) -> Ride:
    """Every phase in one condition; figures and pictures a discipline does not use are left out."""
    case = RideCase(board, condition, draw=pictures)
    phases = PHASES[board.brief.discipline]
    wanted = {key for phase in phases for key in phase.figures}
    shown = {key for phase in phases for key in phase.pictures} if pictures else set()
    for topic in TOPICS:
        if shown.intersection(topic.pictures) or any(figure.key in wanted for figure in topic.figures):
            topic(case)
    if pictures:
        _at_rest(case, floating)
    return Ride(
        condition,
        tuple(f for key, f in case.collected.figures.items() if key in wanted),
        {k: p for k, p in case.collected.pictures.items() if k in shown} if pictures else {},
        {k: c for k, c in case.collected.claims.items() if k in wanted},
        _quiver(case) if pictures else (),
    )


TOPICS = (
    afloat.balance, afloat.waterplane, afloat.prone_reach, afloat.damping, afloat.listing, afloat.pivot,
    under_way.get_going, under_way.planing,
    under_way.attitude, on_the_plane.plane_figures, on_the_plane.wetted, under_way.kite_start,
    flying.flying, racing.courses, racing.leverage,
    racing.spare_force, racing.fins, turning.rails, turning.on_the_tail, turning.bury, turning.sliding, turning.landing,
    turning.pop, turning.edges, turning.fronts,
    pumped.pumped,
    paddled.watts, paddled.paddling_pace, paddled.towed,
)  # fmt: skip
"""All that is told of a ride; a discipline runs only what its phases show."""
FIGURES = tuple(figure for topic in TOPICS for figure in topic.figures)


def _at_rest(case: RideCase, floating: FloatStage | None) -> None:
    discipline = case.brief.discipline
    waiting = AT_REST[discipline]
    if floating is None or waiting is None:
        return
    rest = floating.postures[waiting].level
    under = rest.deck_depth
    side = "under" if under > 0 else "above"
    share = f", {rest.rider_share * 100:.0f} % of you in the water" if rest.rider_share > 0.005 else ""
    afloat.afloat_drawing(
        case,
        rest.trim,
        under,
        rest.place,
        f"{waiting.capitalize()} {rest.place * 100:.0f} cm from the tail: "
        f"deck {abs(under) * 100:.0f} cm {side} water{share}.",
    )


def _quiver(case: RideCase) -> tuple[GearWind, ...]:
    """Which gear goes in which wind: least wind by gear and foil, most by what the rider holds."""
    board, brief = case.board, case.brief
    rows = []
    foils = brief.foils if brief.discipline in FOILING else ()
    for index, foil in enumerate(foils or (None,)):
        same = foil is None or index == brief.foil_in_use
        here = board if same else BoardCase(board.model.otherwise(brief=replace(brief, foil_in_use=index)), board.known)
        words = f"{foil.name}, {foil.area * 1e4:.0f} cm²" if foil is not None else ""
        if not here.gears and foil is not None:
            rows.append(
                GearWind(
                    foil.name,
                    f"{foil.area * 1e4:.0f} cm²",
                    here.run_up.lift_off,
                    0.06 * here.run_up.lift_off,
                    math.nan,
                    "lifts off at this board speed",
                )
            )
        for rigged, (least, band, _) in zip(here.rigs, here.least_winds, strict=True):
            gear = rigged.gear
            rows.append(
                GearWind(f"{gear.name}, {gear.area:.1f} m²", words, least, band, _most_wind(here, least, rigged))
            )
    return (*rows, *_fin_rows(case))


def _fin_rows(case: RideCase) -> tuple[GearWind, ...]:
    """The main fin in five lengths: the board speed from which it holds all the side force, and where it costs
    least.
    """
    if not case.model.fins or case.side <= 0:
        return ()
    speeds, (_, side) = np.arange(5.0, 37.0) * KNOT, case.fin_load
    rungs = [(span, fin_loads(case.model, fins, side, speeds)) for span, fins in fin_lengths(case.model, FIN_SHARES)]
    margins = np.array([[load.margin for load in loads] for _, loads in rungs]).T
    drags = np.array([[load.drag for load in loads] for _, loads in rungs]).T
    drags = np.where(margins >= case.model.table.fin_reserve, drags, np.inf)
    cheapest = np.where(np.isfinite(drags.min(axis=1)), np.argmin(drags, axis=1), -1)
    rows = []
    for k, (span, _) in enumerate(rungs):
        holds, best = np.nonzero(margins[:, k] >= 0.0)[0], np.nonzero(cheapest == k)[0]
        least = float(speeds[holds[0]]) if len(holds) else math.nan
        where = f"{speeds[best[0]] / KNOT:.0f} to {speeds[best[-1]] / KNOT:.0f} kn" if len(best) else ""
        note = f"least drag of the five from {where}" if where else "never the one of least drag"
        rows.append(
            GearWind(
                f"Fin {span * 100:.0f} cm",
                f"Five lengths of fin, by board speed, {side:.0f} N on them",
                least,
                0.08 * least,
                math.nan,
                note,
            )
        )
    return tuple(rows)


def _most_wind(board: BoardCase, least: float, rigged: Rigged) -> float:
    """Wind in which the gear, as flat as it flies steadily, pulls harder than the rider holds [m/s]."""
    speed = board.run_up.lift_off * 1.3 if np.isfinite(board.run_up.lift_off) else board.run_up.end * 1.5
    gear = rigged.gear
    held = float(rigged.held(0.0, 0.0))
    winds = np.linspace(5 * KNOT, 45 * KNOT, 81)
    felt = np.hypot(np.array([wind_at(gear, float(w), board.brief.wind.height) for w in winds]), speed)
    table = board.model.table
    flat = {"hand wing": table.wing_flat, "sail": table.sail_flat, "kite": table.kite_flat}[gear.rig]
    force = board.model.air / 2 * felt**2 * gear.area * gear.lift_most * flat
    over = np.nonzero(force > held)[0]
    most = float(winds[over[0]]) if len(over) else math.nan
    return most if not math.isfinite(least) or not math.isfinite(most) or most > least else math.nan
