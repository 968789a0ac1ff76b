"""On the foil: lift-off, pitch, feet and mast, touch-downs."""

from __future__ import annotations

import numpy as np

from kelvor.core.fluids import GRAVITY, vapour_pressure
from kelvor.core.lifting.cavitation import cavitation_speed
from kelvor.core.lifting.foils import SURFACE_RANGE, angle_for, foil_drag, lift_for
from kelvor.core.mass.properties import combined
from kelvor.core.ride.attitudes import lean_before_touch, nose_touch, tail_touch
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.pictures import Drawing
from kelvor.core.ride.telling.drawings import in_profile
from kelvor.core.ride.wing_foil import feet_middle, foil_mass
from kelvor.core.units import DEGREE, KNOT

NO_FOIL = "no foil in the brief"
KEYS = ("lift_off_speed", "lift_off_pitch", "pitch_to_spare", "stall_margin_foil", "track_needed", "touch_drag", "touch_moment", "fly_drag",
        "board_air_drag", "foil_cavitation")  # fmt: skip


def flying(case: RideCase) -> None:
    """All that the foil decides."""
    tell, model = case.tell, case.model
    wing, mast = model.wing, case.measured.board.mast_x
    if wing is None or mast is None:
        for key in KEYS:
            tell.none(key, NO_FOIL if wing is None else "no foil tracks on this board")
        return
    table, way = model.table, case.way
    used = table.foil_lift_most * table.foil_lift_used
    speed = way.lift_off
    limited = model.lift_off_coefficient < used - 1e-6
    tell.add("lift_off_speed", speed, 0.06 * speed, f"{model.weight / GRAVITY:.0f} kg at a lift coefficient of {model.lift_off_coefficient:.2f}"
             + (", held down by the tail" if limited else ""))  # fmt: skip
    shallow = wing.mast / wing.chord < SURFACE_RANGE[0]
    wanted = float(angle_for(wing, used, wing.mast, table.foil_zero_lift))
    tell.add("lift_off_pitch", wanted, 1.5 * DEGREE, f"plate nose up, lift coefficient {used:.2f}, zero lift at −{table.foil_zero_lift / DEGREE:.1f}°",
             invalid="the wing is less than half a chord deep" if shallow else "")  # fmt: skip
    room = model.pitch_room - wanted
    tell.add("pitch_to_spare", room, 1.8 * DEGREE, f"{model.pitch_room / DEGREE:.1f}° to be had running, of which 4° of trim")
    fast = 1.6 * speed
    coefficient = float(lift_for(wing, model.weight, fast, model.density))
    tell.add("stall_margin_foil", 1 - coefficient / table.foil_lift_most, 0.08, f"at {fast / KNOT:.0f} kn, 1.6 times lift-off")
    wet = max(wing.mast - case.brief.ride_height, 0.05)
    drag = float(foil_drag(wing, model.weight, fast, wet, model.density, table))
    tell.add("fly_drag", drag, 0.18 * drag, f"foil and mast at {fast / KNOT:.0f} kn, {case.brief.ride_height * 100:.0f} cm up")
    _air(case, fast)
    _feet(case, mast)
    _touch(case, mast, fast)
    boil = cavitation_speed(0.12, min(coefficient, 0.9), wet, model.density, vapour_pressure(case.brief.water.celsius))
    tell.add(
        "foil_cavitation",
        boil,
        0.15 * boil,
        f"a clean 12 % section lifting {coefficient:.2f}, {wet * 100:.0f} cm deep: a note, not a limit of yours",
    )


def _air(case: RideCase, speed: float) -> None:
    measured, model = case.measured, case.model
    shape = measured.shape
    frontal = float(np.max(2 * shape.half_width * (shape.deck - shape.keel))) * 0.7
    plan = 2 * float(np.trapezoid(shape.half_width, shape.x))
    felt = speed
    if case.polar is not None and case.board.gear is not None:
        felt = float(np.hypot(speed, 0.85 * case.condition.wind))
    value = model.air / 2 * felt**2 * (0.35 * frontal + 0.012 * plan)
    case.tell.add(
        "board_air_drag", value, 0.5 * value, f"{felt / KNOT:.0f} kn of apparent wind; thickness form and skin, band only"
    )


def _feet(case: RideCase, mast: float) -> None:
    model, brief, board = case.model, case.brief, case.measured.board
    feet = feet_middle(case.measured)
    tracks = board.fittings.tracks
    if not np.isfinite(feet) or tracks is None:
        case.tell.none("track_needed", "fewer than two strap rows, or no tracks")
        return
    moved = mast
    for _ in range(4):  # the foil goes along with the mast
        whole = combined([model.mass, foil_mass(brief.foil, moved, case.measured.at(case.measured.shape.keel, moved))])
        centre = (whole.mass * whole.x + brief.rider.mass * feet) / (whole.mass + brief.rider.mass)
        moved = centre - brief.foil.lift_ahead
    middle = tracks.at.x(board.length)
    outside = abs(moved - middle) - tracks.travel
    words = f"mast {moved * 100:.1f} cm from the tail; tracks give {(middle - tracks.travel) * 100:.1f} to {(middle + tracks.travel) * 100:.1f} cm"
    case.tell.add("track_needed", moved, 0.015, words + (f", {outside * 100:.1f} cm too short" if outside > 0 else ""))


def _touch(case: RideCase, mast: float, speed: float) -> None:
    tell, model = case.tell, case.model
    fore = case.board.known_value("touch_patch_v")
    # the nose comes down with a fifth of the weight on the bottom, at flying speed
    load = 0.2 * model.weight
    states = model.planer.states(load, speed)
    i = states.best()
    if i is None:
        tell.none("touch_drag", "the bottom cannot carry a fifth of the weight there")
        tell.none("touch_moment", "the bottom cannot carry a fifth of the weight there")
    else:
        drag = float(states.drag[i])
        words = f"a fifth of the weight on the bottom at {speed / KNOT:.0f} kn, V {fore / DEGREE:.0f}° there"
        tell.add("touch_drag", drag, 0.25 * drag, words)
        depth = case.measured.at(case.measured.keel_line, mast) + case.brief.foil.mast_length
        lever = mast + case.brief.foil.lift_ahead - model.bottom.aft - float(states.centre[i])
        moment = drag * depth + load * lever
        tell.add(
            "touch_moment",
            moment,
            0.25 * abs(drag * depth) + 0.1 * load,
            "drag at the bottom over the foil's depth, and the load's lever on the lift",
        )
    pitch = nose_touch(case.measured, mast, 0.0)
    height = case.measured.at(case.measured.keel_line, mast)
    forms = in_profile(model, -pitch, (mast, height), (mast, 0.0))
    tell.pictures["touch"] = Drawing(
        "Touching down", f"Bottom at the mast on the water; the nose tip meets it at {pitch / DEGREE:.1f}° nose down.", forms
    )
    h = case.brief.ride_height
    if model.wing is not None and model.wing.mast > h:
        lean = lean_before_touch(case.measured, mast, model.wing.mast, h)
        tail = tail_touch(case.measured, mast, h)
        tell.pictures["fly"] = Drawing(
            "In flight", f"Bottom {h * 100:.0f} cm above the water at the mast. Tail touches at "
                f"{tail / DEGREE:.0f}° nose up, the rail at {lean / DEGREE:.0f}° of lean.",
            in_profile(model, 0.0, (mast, height), (mast, h)))  # fmt: skip
