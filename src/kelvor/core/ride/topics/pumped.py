"""Flying on by pumping, no wind: the watts it asks of the body, and how long they are held."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.ride.attitudes import tail_touch
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.figures.pumped import PUMP_TIME, PUMP_WATTS
from kelvor.core.ride.foiling import foil_mass
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.flying import NO_FOIL
from kelvor.core.tank.lifting.foils import foil_drag
from kelvor.core.tank.lifting.pumping import endurance, heaving_power, least_power, strokes

SPEEDS = 161
"""Speeds up to twice that of lift-off among which the least power is looked for."""


@tells(PUMP_WATTS, PUMP_TIME)
def pumped(case: RideCase) -> None:
    """Pumping in flight, off a start without wind."""
    collected, model, measured, brief = case.collected, case.model, case.measured, case.brief
    wing, mast, table = model.wing, measured.board.mast_x, model.table
    if wing is None or mast is None:
        collected.none(NO_FOIL if wing is None else "no foil tracks on this board", PUMP_WATTS, PUMP_TIME)
        return
    weight = (model.mass.mass + brief.foil.mass + brief.rider.mass) * GRAVITY
    speeds = case.run_up.lift_off * np.linspace(0.9, 2.0, SPEEDS)
    wet = max(wing.mast - brief.ride_height, 0.05)
    room = tail_touch(measured, mast, brief.ride_height)
    room = max(room, 0.0) if math.isfinite(room) else math.pi / 2  # no bottom aft of the mast
    legs, density = table.pump_stroke, model.density
    pushed = foil_drag(wing, weight, speeds, wet, density, table) * speeds
    takes = heaving_power(wing, weight, speeds, table.foil_lift_most, room, legs, density)
    at = least_power(pushed, takes)
    if not math.isfinite(at):
        why = f"its foil takes {takes.max():.0f} W of a stroke at most, and flying on asks for {pushed.min():.0f} W"
        collected.none(why, PUMP_WATTS, PUMP_TIME)
        return
    speed, push, took = (float(np.interp(at, np.arange(SPEEDS), values)) for values in (speeds, pushed, takes))
    foil = foil_mass(brief.foil, mast, measured.at(measured.keel_line, mast), table)
    heaved, inertia = model.mass.mass + foil.mass, model.mass.pitch_about(mast, 0.0) + foil.pitch_about(mast, 0.0)
    swings = push / (density * speed**2 / 4 * wing.area * legs * float(wing.slope(wing.mast)))
    lost, swung = strokes(heaved, 0.0, 0.0, legs, table.pump_rate), strokes(0.0, inertia, swings, legs, table.pump_rate)
    watts = push / table.pump_efficiency + lost + swung
    collected.add(
        PUMP_WATTS,
        watts,
        f"at {speed / KNOT:.1f} kn: {push:.0f} W push the board, {table.pump_efficiency * 100:.0f} % of the "
        f"body's; heaving {heaved:.1f} kg of board and foil takes {lost:.0f} W, pitching them by "
        f"{swings / DEGREE:.0f}° {swung:.1f} W; the foil takes {took:.0f} W of such strokes",
    )
    time = endurance(watts, brief.watts, brief.peak_watts, table.pump_reserve)
    if not math.isfinite(time):
        collected.none(f"you keep up {brief.watts:.0f} W: as long as you like", PUMP_TIME)
    elif time <= 0:
        collected.none(f"it asks for more than your {brief.peak_watts:.0f} W", PUMP_TIME)
    else:
        steeper = endurance(1.18 * watts, brief.watts, brief.peak_watts, table.pump_reserve)
        collected.add(
            PUMP_TIME,
            time,
            f"{watts:.0f} W of a rider who keeps up {brief.watts:.0f} W and gives {brief.peak_watts:.0f} W at most",
            band=time - steeper,
        )
