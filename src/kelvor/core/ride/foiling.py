"""Foiling: the figures of its phases that follow from geometry, mass, float and level flight.

What the way up to speed asks (hump, drive, take-off wind) is not computed here.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

from kelvor.core.base.figures import Better, Figure, FigureDefinition, Method, figure_maker
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.brief.brief import Brief, Foil
from kelvor.core.build.mass.properties import MassProperties, combined
from kelvor.core.measures.size import Measures
from kelvor.core.measures.stance import feet as stands
from kelvor.core.ride.attitudes import (
    lean_before_touch,
    nose_touch,
    tail_clearance,
    tail_touch,
    touch_patch,
)
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.fittings import FoilTracks
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.lifting.foils import FoilWing, foil_drag, lift_off_speed, lifts_ahead

FOIL_PARTS = Method(
    "board by zones; foil as mast, wings and fuselage in shares of its mass",
    "Steiner's theorem; shares of foil mass: common practice, no source",
    "foils of usual build",
)
BALANCE = Method(
    "weights of board, foil and rider over their feet balanced about the foil's lift, against the foil's drag a mast "
    "below the deck",
    "statics; drag of the foil (Hoerner 1965, from memory); shares of foil mass: common practice, no source",
    "level flight a little faster than lift-off (coefficient of the table); the rider in balance against the pull",
)
RIDDEN = Method(
    "board by zones, foil by parts, the rider as an upright rod over the feet; about the foil's lift",
    "Steiner's theorem; a rod's own inertia; shares of foil mass: common practice, no source",
    "rider standing stiffly, in flight",
)
ATTITUDE = Method("angles between bottom, mast and a flat water surface", "geometry", "flat water, rigid foil")


# fmt: off
TAIL_CLEARANCE = FigureDefinition("tail_clearance", "Tail clearance on the water", Q.ANGLE, ATTITUDE,
    better=Better.MORE, more="more room", less="less room")
TAIL_TOUCH = FigureDefinition("tail_touch_pitch", "Tail-touch pitch, flying", Q.ANGLE, ATTITUDE, better=Better.MORE,
    more="more room", less="less room")
LEAN = FigureDefinition("lean_before_touch", "Lean before the rail touches", Q.ANGLE, ATTITUDE, better=Better.MORE,
    more="further", less="less far", short="leans {}, rail to water")
NOSE_TOUCH = FigureDefinition("nose_touch_pitch", "Nose-touch pitch", Q.ANGLE, ATTITUDE, better=Better.MORE,
    more="later", less="earlier", head="nose at {}",
    school="V and nose rocker let it bounce off; a flat nose climbs early and slaps.")
NOSE_TOUCH_FLYING = FigureDefinition("nose_touch_pitch_flying", "Nose-touch pitch, flying", Q.ANGLE, ATTITUDE,
    better=Better.MORE, more="later", less="earlier")
PATCH_V = FigureDefinition("touch_patch_v", "V that touches first", Q.ANGLE, ATTITUDE, more="more V", less="less V",
    short="V {} where it touches first")
PATCH_WIDTH = FigureDefinition("touch_patch_width", "Width that touches first", Q.LENGTH, ATTITUDE, more="wider",
    less="narrower")
YAW_WITH_FOIL = FigureDefinition("yaw_inertia_with_foil", "Swing weight, board + foil (yaw)", Q.INERTIA, FOIL_PARTS,
    better=Better.LESS, more="harder", less="easier", head="yaw {}", ratio="yaw",
    school="Long nose for planing and recovery, or short and thin for swing weight.")
ROLL_WITH_RIDER = FigureDefinition("roll_inertia_with_rider", "Roll inertia, all with the rider", Q.INERTIA, RIDDEN,
    better=Better.LESS, more="harder", less="easier")
PITCH_WITH_RIDER = FigureDefinition("pitch_inertia_with_rider", "Pitch inertia, all with the rider", Q.INERTIA, RIDDEN,
    better=Better.LESS, more="harder", less="easier")
MASS_TO_LIFT = FigureDefinition("mass_to_lift", "Mass, board + foil, to foil lift", Q.LENGTH, FOIL_PARTS,
    more="forward", less="aft")
FEET_TO_LIFT = FigureDefinition("feet_to_lift", "Straps' middle to foil lift", Q.LENGTH, ATTITUDE, more="forward",
    less="aft", rests=("mast",))
FEET_FOR_BALANCE = FigureDefinition("feet_for_balance", "Feet for balance to foil lift", Q.LENGTH, BALANCE,
    more="forward", less="aft", rests=("mast",))
TRACK_NEEDED = FigureDefinition("track_needed", "Mast place for your feet", Q.LENGTH, BALANCE, more="further forward",
    less="further aft", short="mast at {} for your feet", rests=("mast",))
TRACK_TRAVEL = FigureDefinition("track_travel", "Mast travel on tracks, each way", Q.LENGTH, ATTITUDE,
    better=Better.MORE)
FIGURES = (TAIL_CLEARANCE, TAIL_TOUCH, LEAN, NOSE_TOUCH, NOSE_TOUCH_FLYING, PATCH_V, PATCH_WIDTH,
               YAW_WITH_FOIL, ROLL_WITH_RIDER, PITCH_WITH_RIDER, MASS_TO_LIFT, FEET_TO_LIFT, FEET_FOR_BALANCE,
               TRACK_NEEDED, TRACK_TRAVEL)
# fmt: on


def foil_mass(foil: Foil, mast_x: float, keel_z: float, table: Coefficients) -> MassProperties:
    """The foil under its mast, where the mast meets the bottom."""
    alone = _foil_alone(foil, table)
    return replace(alone, x=alone.x + mast_x, z=alone.z + keel_z)


@lru_cache(maxsize=16)
def _foil_alone(foil: Foil, table: Coefficients) -> MassProperties:
    """Foil as a mast, a front wing, a fuselage and a stabiliser; its mass shared by the table of coefficients."""
    bottom = -foil.mast_length
    front = foil.lift_ahead + 0.02
    m, mast, wing, body = foil.mass, table.mast_mass, table.wing_mass, table.fuselage_mass
    rest = max(1.0 - mast - wing - body, 0.0)
    parts = [
        MassProperties(
            mass=mast * m,
            x=0.0,
            z=-foil.mast_length / 2,
            roll=mast * m * foil.mast_length**2 / 12,
            pitch=mast * m * foil.mast_length**2 / 12,
        ),
        MassProperties(
            mass=wing * m,
            x=front,
            z=bottom,
            roll=wing * m * foil.span**2 / 12 * 0.7,
            yaw=wing * m * foil.span**2 / 12 * 0.7,
        ),
        MassProperties(
            mass=body * m,
            x=front - foil.fuselage / 2,
            z=bottom,
            pitch=body * m * foil.fuselage**2 / 12,
            yaw=body * m * foil.fuselage**2 / 12,
        ),
        MassProperties(
            mass=rest * m, x=front - foil.fuselage, z=bottom, roll=rest * m * 0.4**2 / 12, yaw=rest * m * 0.4**2 / 12
        ),
    ]
    return combined(parts)


def feet_middle(measured: Geometry) -> float:
    """Middle between the foremost and the aftmost strap row [m from the tail], NaN with fewer than two rows."""
    board = measured.board
    rows = [row.at.x(board.length, board.mast_x) for row in board.fittings.straps]
    return (min(rows) + max(rows)) / 2 if len(rows) > 1 else math.nan


def dragging(board_mass: MassProperties, brief: Brief, table: Coefficients) -> float:
    """Drag of foil and mast in level flight [N], which pulls a mast below the deck that drives it."""
    foil = brief.foil
    weight = (board_mass.mass + foil.mass + brief.rider.mass) * GRAVITY
    wing = FoilWing(foil.area, foil.span, foil.mast_length, foil.fuselage)
    speed = table.cruise * lift_off_speed(
        wing, weight, table.foil_lift_most * table.foil_lift_used, brief.water.density
    )
    wet = max(foil.mast_length - brief.ride_height, 0.05)
    return float(foil_drag(wing, weight, speed, wet, brief.water.density, table))


def mast_for(
    board_mass: MassProperties, brief: Brief, feet: float, table: Coefficients, nose_down: float = 0.0
) -> float:
    """Where the mast must stand [m from the tail] so that board, foil and a rider over their feet balance on the foil's
    lift.

    `nose_down` is the moment of the foil's drag about the deck that drives the board [N m].
    """
    foil, rider = foil_mass(brief.foil, 0.0, 0.0, table), brief.rider.mass
    still = (
        board_mass.mass * board_mass.x + foil.mass * foil.x + rider * feet
    )  # the foil's own share moves with its mast
    carried = board_mass.mass + rider
    return (still + nose_down / GRAVITY - (carried + foil.mass) * lifts_ahead(brief.foil, table)) / carried


class MastNeeded(NamedTuple):
    """Where the mast must stand for a rider's feet [m from the tail], the middle of the feet with how they stand, drag
    of the foil [N] and its moment about the deck [N m].
    """

    at: float
    feet: float
    stood: str
    pulled: float
    nose_down: float


def mast_needed(measured: Geometry, board_mass: MassProperties, brief: Brief, table: Coefficients) -> MastNeeded:
    """Where the mast of a board with tracks must stand for the brief's rider on it, as the feet stand."""
    mast = measured.board.mast_x
    assert mast is not None
    thick = measured.at(measured.shape.deck - measured.shape.keel, mast)
    pulled = dragging(board_mass, brief, table)
    nose_down = pulled * (brief.foil.mast_length + thick)
    stood = stands(measured, brief.rider)
    middle = (stood.front + stood.back) / 2
    at = mast_for(board_mass, brief, middle, table, nose_down)
    return MastNeeded(at, middle, stood.note, pulled, nose_down)


def _needed_words(board: Board, tracks: FoilTracks, needed: float, stood: str) -> str:
    """Where the mast is needed [m], against what the tracks give."""
    reach, travel = tracks.at.x(board.length), tracks.travel
    outside = abs(needed - reach) - travel
    words = (
        f"mast {needed * 100:.1f} cm from the tail; tracks give {(reach - travel) * 100:.1f} to "
        f"{(reach + travel) * 100:.1f} cm"
    )
    if len(board.fittings.straps) < 2:
        words += f"; {stood}"
    return f"{words}, {outside * 100:.1f} cm too short" if outside > 0 else words


def _ridden(
    measured: Geometry,
    all_up: MassProperties,
    brief: Brief,
    about: tuple[float, float],
    over: float,
    table: Coefficients,
    make: Callable[..., Figure],
) -> tuple[Figure, ...]:
    """Inertia with the rider standing over `over` [m], about the foil's lift at `about`, x and z [m]."""
    rider, tall = brief.rider, table.rider_centre
    rod = rider.mass * rider.height**2 / 12
    body = MassProperties(mass=rider.mass, x=over, z=measured.at(measured.shape.keel, over) + tall, roll=rod, pitch=rod)
    ridden, (lift, deep) = combined([all_up, body]), about
    who = (
        f"{rider.mass:.0f} kg, {rider.height:.2f} m, centre {tall * 100:.0f} cm above the bottom, about the foil's lift"
    )
    roll, pitch = ridden.roll_about(deep), ridden.pitch_about(lift, deep)
    return make(ROLL_WITH_RIDER, roll, 0.1 * roll, who), make(PITCH_WITH_RIDER, pitch, 0.1 * pitch, who)


def _touching(
    measured: Geometry, measures: Measures, mast: float, brief: Brief, make: Callable[..., Figure]
) -> tuple[Figure, ...]:
    """Angles at which parts of the board meet flat water, at rest on it and in flight."""
    foil, h = brief.foil, brief.ride_height
    at_height = f"bottom {h * 100:.0f} cm above flat water, mast {foil.mast_length * 100:.0f} cm"
    flying = foil.mast_length > h
    patch = touch_patch(measured, mast, measures.keel_flat[1])
    return (
        make(
            TAIL_CLEARANCE,
            tail_clearance(measured, measures.keel_flat[0]),
            0.3 * DEGREE,
            "turning on the aft end of the flat",
        ),
        make(TAIL_TOUCH, tail_touch(measured, mast, h), 0.3 * DEGREE, at_height),
        make(
            LEAN,
            lean_before_touch(measured, mast, foil.mast_length, h),
            1.0 * DEGREE,
            at_height + ", foil kept at its depth" if flying else "ride height above the mast's length",
            flying,
        ),
        make(NOSE_TOUCH, nose_touch(measured, mast), 0.2 * DEGREE, "bottom at the mast just on the water"),
        make(NOSE_TOUCH_FLYING, nose_touch(measured, mast, h), 0.2 * DEGREE, at_height),
        make(PATCH_V, patch.v_angle, 0.1 * DEGREE, f"{patch.start * 100:.0f} to {patch.end * 100:.0f} cm from tail"),
        make(PATCH_WIDTH, patch.width, 1e-3, "between the bottom edges"),
    )


def wing_foil_figures(
    measured: Geometry, measures: Measures, board_mass: MassProperties, brief: Brief, table: Coefficients
) -> tuple[Figure, ...]:
    """The phase figures that need no float and no speed."""
    board, foil = measured.board, brief.foil
    tracks, mast = board.fittings.tracks, board.mast_x
    if tracks is None or mast is None or foil.mast_length <= 0:
        why = "no foil tracks on this board" if tracks is None else "no foil in the brief"
        return tuple(Figure(definition=d, value=math.nan, valid=False, note=why) for d in FIGURES)
    h = brief.ride_height
    inputs = (("foil", foil.name), ("mast", f"{mast * 100:.1f} cm from tail"), ("ride height", f"{h * 100:.0f} cm"))
    keel_z = measured.at(measured.shape.keel, mast)
    all_up = combined([board_mass, foil_mass(foil, mast, keel_z, table)])
    lift = mast + lifts_ahead(foil, table)
    travel = tracks.travel
    to_lift, feet = all_up.x - lift, feet_middle(measured)
    wanted = mast_needed(measured, board_mass, brief, table)
    back = wanted.nose_down / (brief.rider.mass * GRAVITY)
    feet_needed = -all_up.mass * to_lift / brief.rider.mass - back
    yaw = all_up.yaw_about(mast)

    make = figure_maker(inputs, 8)

    words = _needed_words(board, tracks, wanted.at, wanted.stood)
    on_straps = "mast where it stands" if math.isfinite(feet) else "fewer than two strap rows"
    over_range = f"{(to_lift - travel) * 100:+.1f} to {(to_lift + travel) * 100:+.1f} cm over the tracks"
    return (
        *_touching(measured, measures, mast, brief, make),
        make(YAW_WITH_FOIL, yaw, 0.08 * yaw, "rider not counted"),
        *_ridden(measured, all_up, brief, (lift, keel_z - foil.mast_length), wanted.feet, table, make),
        make(MASS_TO_LIFT, to_lift, 0.015, over_range.replace("-", "−")),
        make(FEET_TO_LIFT, feet - lift, 0.01, on_straps),
        make(
            FEET_FOR_BALANCE,
            feet_needed,
            0.015 + 0.2 * back,
            f"{wanted.pulled:.0f} N of foil drag put them {back * 100:.1f} cm aft of where they stand with no pull",
        ),
        make(TRACK_NEEDED, wanted.at, 0.015 + 0.2 * back, words),
        make(
            TRACK_TRAVEL, travel, 1e-3, f"lift {(lift - travel) * 100:.1f} to {(lift + travel) * 100:.1f} cm from tail"
        ),
    )
