"""On the foil: lift-off, pitch, feet and mast, touch-downs."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.fluids import GRAVITY, vapour_pressure
from kelvor.core.base.smooth import crossing
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.ride.attitudes import lean_before_touch, nose_touch, tail_touch
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.condition import windy
from kelvor.core.ride.figures.flying import (
    APPARENT_ANGLE,
    APPARENT_WIND,
    BOARD_AIR_DRAG,
    FLY_DRAG,
    FOIL_CAVITATION,
    LIFT_OFF_PITCH,
    LIFT_OFF_SPEED,
    PITCH_TO_SPARE,
    STALL_MARGIN_FOIL,
    TOUCH_DRAG,
    TOUCH_MOMENT,
)
from kelvor.core.ride.pictures import Drawing
from kelvor.core.ride.sailing import FAST_COURSE
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.drawings import in_profile
from kelvor.core.tank.laws.wind import apparent, at_height
from kelvor.core.tank.lifting.cavitation import cavitation_speed
from kelvor.core.tank.lifting.foils import SURFACE_RANGE, FoilWing, angle_for, foil_drag, lift_for, lifts_ahead

CHEST, CLEAR = 1.3, 0.1
"""Heights at which the apparent wind is told, and felt by the board above its bottom [m]."""
NO_FOIL = "no foil in the brief"
IN_FLIGHT = (STALL_MARGIN_FOIL, FLY_DRAG, APPARENT_WIND, APPARENT_ANGLE, BOARD_AIR_DRAG, TOUCH_DRAG, TOUCH_MOMENT)
TOUCHED_AT = 0.1
"""Where the load of a touch-down stands on the bottom is open by so much [m] (judgement)."""
SECTION_MOST = 0.9
"""Lift coefficient to which a section's suction peak is asked for."""


@tells(
    LIFT_OFF_SPEED,
    LIFT_OFF_PITCH,
    PITCH_TO_SPARE,
    STALL_MARGIN_FOIL,
    TOUCH_DRAG,
    TOUCH_MOMENT,
    FLY_DRAG,
    APPARENT_WIND,
    APPARENT_ANGLE,
    BOARD_AIR_DRAG,
    FOIL_CAVITATION,
    pictures="touch fly",
)
def flying(case: RideCase) -> None:
    """All that the foil decides."""
    collected, model = case.collected, case.model
    wing, mast = model.wing, case.measured.board.mast_x
    if wing is None or mast is None:
        collected.none(NO_FOIL if wing is None else "no foil tracks on this board", *flying.figures)
        return
    table, run_up = model.table, case.run_up
    used = table.foil_lift_most * table.foil_lift_used
    speed = run_up.lift_off
    limited = model.lift_off_coefficient < used - 1e-6
    collected.add(
        LIFT_OFF_SPEED,
        speed,
        f"{model.weight / GRAVITY:.0f} kg at a lift coefficient of {model.lift_off_coefficient:.2f}"
        + (", held down by the tail" if limited else ""),
    )
    shallow = wing.mast / wing.chord < SURFACE_RANGE[0]
    zero = table.foil_zero_lift + case.brief.foil.rake
    wanted = float(angle_for(wing, used, wing.mast, zero))
    collected.add(
        LIFT_OFF_PITCH,
        wanted,
        f"plate nose up, lift coefficient {used:.2f}, zero lift at −{zero / DEGREE:.1f}°",
        invalid="the wing is less than half a chord deep" if shallow else "",
    )
    room = model.pitch_room - wanted
    collected.add(
        PITCH_TO_SPARE,
        room,
        f"{model.pitch_room / DEGREE:.1f}° to be had running, of which {table.running_trim / DEGREE:.0f}° of trim",
    )
    wet = max(wing.mast - case.brief.ride_height, 0.05)
    _boiling(case, wing, wet)
    _drawings(case, wing, mast)
    fast = case.flight
    if case.grounded:
        collected.none(case.grounded, *IN_FLIGHT)
        return
    at = f"at {fast / KNOT:.0f} kn, " + ("on the fast course" if windy(case.brief) else "on the bumps")
    load = case.run.foil_lift if windy(case.brief) else model.weight
    coefficient = float(lift_for(wing, load, fast, model.density))
    collected.add(STALL_MARGIN_FOIL, 1 - coefficient / table.foil_lift_most, f"lift coefficient {coefficient:.2f} {at}")
    drag = case.run.foil if windy(case.brief) else float(foil_drag(wing, load, fast, wet, model.density, table))
    collected.add(FLY_DRAG, drag, f"foil and mast carry {load:.0f} N {at}, {case.brief.ride_height * 100:.0f} cm up")
    _air(case, fast)
    _touch(case, mast, fast)


def _boiling(case: RideCase, wing: FoilWing, wet: float) -> None:
    """The speed at which the wing, carrying the board's own weight, begins to boil: faster needs less lift and boils
    later.
    """
    model, vapour = case.model, vapour_pressure(case.brief.water.celsius)
    low, high, section = case.run_up.lift_off, 40.0, model.table.foil_section

    def early(speed: float) -> float:
        """How much slower than it goes the wing boils [m/s]."""
        lift = min(float(lift_for(wing, model.weight, speed, model.density)), SECTION_MOST)
        return speed - cavitation_speed(section, lift, wet, model.density, vapour)

    speed = crossing(early, low, high)
    lift = float(lift_for(wing, model.weight, speed, model.density))
    case.collected.add(
        FOIL_CAVITATION,
        speed,
        f"a clean {section * 100:.0f} % section lifting {lift:.2f} there, {wet * 100:.0f} cm deep: "
        "a note, not a limit of yours",
    )


def _air(case: RideCase, speed: float) -> None:
    measured, model = case.measured, case.model
    shape = measured.shape
    frontal = float(measured.areas.area.max())
    plan = 2 * float(np.trapezoid(shape.half_width, shape.x))
    felt = _felt(case, speed, case.brief.ride_height + CLEAR)[0]
    if windy(case.brief):
        chest, off = _felt(case, speed, CHEST)
        words = f"at {speed / KNOT:.0f} kn in {case.condition.wind / KNOT:.0f} kn of wind, {CHEST:.1f} m up"
        case.collected.add(APPARENT_WIND, chest, words)
        case.collected.add(APPARENT_ANGLE, off, words)
    else:
        case.collected.none("no wind drives it: what is felt is the board's own speed", APPARENT_WIND, APPARENT_ANGLE)
    value = model.air / 2 * felt**2 * (model.table.air_form * frontal + model.table.air_skin * plan)
    case.collected.add(
        BOARD_AIR_DRAG, value, f"{felt / KNOT:.0f} kn of apparent wind; thickness form and skin, band only"
    )


def _felt(case: RideCase, speed: float, height: float) -> tuple[float, float]:
    """Apparent wind [m/s] and its angle off the bow [rad] in flight, at a height above the water [m]."""
    wind = at_height(case.condition.wind, case.brief.wind.height, height) if windy(case.brief) else 0.0
    felt, off = apparent(wind, speed, FAST_COURSE)
    return float(felt), float(off)


def _touch(case: RideCase, mast: float, speed: float) -> None:
    collected, model = case.collected, case.model
    fore = case.board.known_value("touch_patch_v")
    # the nose comes down with a part of the weight on the bottom, at flying speed
    share = model.table.touch_share
    load = share * model.weight
    state = model.planer.best(np.array([load]), np.array([speed]), model.table.same_drag)
    if state.spare[0] < 0:
        collected.none(f"the bottom cannot carry {share * 100:.0f} % of the weight there", TOUCH_DRAG, TOUCH_MOMENT)
    else:
        drag = float(state.drag[0])
        words = (
            f"{share * 100:.0f} % of the weight on the bottom at {speed / KNOT:.0f} kn, V {fore / DEGREE:.0f}° there"
        )
        collected.add(TOUCH_DRAG, drag, words)
        depth = case.measured.at(case.measured.keel_line, mast) + case.brief.foil.mast_length
        lever = mast + lifts_ahead(case.brief.foil, model.table) - model.bottom.aft - float(state.centre[0])
        moment = drag * depth + load * lever
        collected.add(
            TOUCH_MOMENT,
            moment,
            "drag at the bottom over the foil's depth, and the load's lever on the lift",
            band=TOUCH_DRAG.band_of(drag) * abs(depth) + TOUCHED_AT * load,
        )


def _drawings(case: RideCase, wing: FoilWing, mast: float) -> None:
    """The board touching down, and in flight."""
    collected, model = case.collected, case.model
    pitch = nose_touch(case.measured, mast, 0.0)
    height = case.measured.at(case.measured.keel_line, mast)
    forms = in_profile(model, -pitch, (mast, height), (mast, 0.0))
    collected.pictures["touch"] = Drawing(
        "Touching down",
        f"Bottom at the mast on the water; the nose tip meets it at {pitch / DEGREE:.1f}° nose down.",
        forms,
    )
    h = case.brief.ride_height
    if wing.mast > h:
        lean = lean_before_touch(case.measured, mast, wing.mast, h)
        tail = tail_touch(case.measured, mast, h)
        collected.pictures["fly"] = Drawing(
            "In flight",
            f"Bottom {h * 100:.0f} cm above the water at the mast. Tail touches at "
            f"{tail / DEGREE:.0f}° nose up, the rail at {lean / DEGREE:.0f}° of lean.",
            in_profile(model, 0.0, (mast, height), (mast, h)),
        )
