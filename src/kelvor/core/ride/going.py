"""Getting going: drag against drive from rest to planing or lift-off, and what each gear needs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kelvor.core.brief import Brief
from kelvor.core.coefficients import ABOUT, Coefficients
from kelvor.core.disciplines import RIGS, Discipline
from kelvor.core.drive.sails import Driven, Gear, forces, gear_of, wind_at
from kelvor.core.figures import Method
from kelvor.core.fluids import GRAVITY
from kelvor.core.lifting.foils import lift_off_speed
from kelvor.core.ride.condition import Condition
from kelvor.core.ride.model import RideModel, Running, hump, threshold
from kelvor.core.shape.battens import Array
from kelvor.core.units import KNOT

METHOD = Method(
    "drive of the gear at its height in the wind, less the drag at every speed on the way",
    "lifting line with the table of coefficients; log law of the wind (Charnock 1955)", "steady wind, gear trimmed well, no pumping",
)  # fmt: skip
PULL = Method(
    "drag at the hump over the share of the pull that drives, what the lines carry taken off the board's load",
    "equilibrium of the rider; the hump's drag as told there", "steady pull on a reach, lines at the table's angle",
)  # fmt: skip
HELD = Method(
    "moment of the body outside the straps over the gear's height and the fins' depth, or a share of weight for arms and harness",
    "equilibrium of the rider; shares of the table of coefficients: common practice, no source", "board level, rider as far out as they reach",
)  # fmt: skip
COURSES = np.radians([75.0, 90.0, 105.0, 120.0, 135.0])
"""Courses off the true wind on which a rider gets going."""
KITE_HUMP = (1.4, 1.7, 1.95, 2.2, 2.45, 2.7, 3.0, 3.5, 4.2)
"""Speeds among which a kite board's hump lies [m/s]."""
WINDS = (3 * KNOT, 40 * KNOT)
"""Winds between which the least is looked for [m/s]."""
CURVE_ENDS: dict[Discipline, float] = {
    "slalom": 19.0, "course racing": 16.0, "wave windsurf": 14.0, "kite surf": 13.0, "twin tip": 13.0,
}  # fmt: skip
"""Where the drag curve of a board without a foil ends, beyond what it is sailed at [m/s]."""
CURVE_END = 9.0


@dataclass(frozen=True, slots=True, eq=False)
class Going:
    """From rest to planing or flying.

    Attributes
    ----------
    speeds, drag, band:
        The drag curve (n,), and the half-width of its band [N].
    end:
        Where the way ends: lift-off, or a tenth beyond the planing threshold [m/s].
    planes:
        Planing threshold [m/s], NaN where none was found.
    lift_off:
        Speed at which the foil carries all [m/s], NaN without one.
    """

    curve: tuple[Running, ...]
    speeds: Array
    drag: Array
    band: Array
    end: float
    planes: float
    lift_off: float
    top: Running
    lifted: float

    def at(self, speed: float) -> float:
        """Drag at a speed [N]."""
        return float(np.interp(speed, self.speeds, self.drag))


def gears(brief: Brief, table: Coefficients) -> tuple[Gear, ...]:
    """What drives the board, as the brief lists it."""
    rig = RIGS.get(brief.discipline)
    return () if rig is None else tuple(gear_of(w.name, rig, w.area, w.mass, table) for w in brief.wings)


def going(model: RideModel) -> Going:
    """The way from rest to planing or lift-off, and on to twice that for boards that stay on the water."""
    brief = model.brief
    rig = RIGS.get(brief.discipline)
    lifted = min(brief.wing_lift, 0.3 * model.weight) if rig == "hand wing" else 0.0
    lift_off = float("nan")
    if model.wing is not None:
        lift_off = lift_off_speed(model.wing, model.weight, model.lift_off_coefficient, model.density)
        most = 1.35 * lift_off
    else:
        most = CURVE_ENDS.get(brief.discipline, CURVE_END)
    speeds = model.speeds(most)
    if rig == "kite":
        lifted = _carried(model)
    curve = model.curve(speeds, lifted)
    planes = threshold(curve, model.table.planes, lambda v: model.curve(v, lifted))
    end = lift_off if np.isfinite(lift_off) else 1.1 * planes if np.isfinite(planes) else float(speeds[-1])
    drag, band = np.array([r.drag for r in curve]), np.array([r.band for r in curve])
    top = hump(curve, end, lambda v: model.curve(v, lifted))
    return Going(curve, speeds, drag, band, end, planes, lift_off, top, lifted)


def _carried(model: RideModel) -> float:
    """What the kite's lines carry of the rider while they pull the board over its hump [N]: pull and drag in balance.

    The more they carry the less the board drags, so the balance is one.
    """
    up, speeds = float(np.sin(model.table.kite_elevation)), np.array(KITE_HUMP)
    low, high = 0.0, 0.8 * model.weight
    for _ in range(2):
        looked = np.linspace(low, high, 5)
        states = model.curve(np.tile(speeds, len(looked)), np.repeat(looked, len(speeds)))
        drag = np.array([r.drag for r in states]).reshape(len(looked), len(speeds)).max(axis=1)
        over = pull(drag, model.table) * up - looked
        i = int(np.clip(np.argmax(over <= 0) if (over <= 0).any() else len(looked) - 1, 1, len(looked) - 1))
        low, high = float(looked[i - 1]), float(looked[i])
    share = over[i - 1] / max(over[i - 1] - over[i], 1e-9)
    return low + (high - low) * float(np.clip(share, 0.0, 1.0))


def pull(drag: Array, table: Coefficients) -> Array:
    """Pull of a kite's lines that overcomes drags on a reaching course [N]."""
    pulled: Array = drag / (np.cos(table.kite_elevation) * table.kite_ahead)
    return pulled


def held_side(model: RideModel, gear: Gear) -> float:
    """Side force of a gear the rider can hold [N]: arms, harness, or the body outside the straps."""
    table, rider = model.table, model.brief.rider
    weight = rider.mass * GRAVITY
    if gear.rig == "hand wing":
        return table.arm_share * weight
    if gear.rig == "kite":
        return table.harness_share * weight
    lever = gear.height + fin_depth(model)
    return weight * (strap_reach(model) + table.rail_arm * rider.height) / lever


def strap_reach(model: RideModel) -> float:
    """Half-width at the back straps, where the rider hangs from [m]."""
    board = model.measured.board
    rows = [r.at.x(board.length, board.mast_x) for r in board.fittings.straps]
    at = min(rows) if rows else 0.2 * board.length
    return model.table.strap_reach * model.measured.at(model.measured.shape.half_width, at)


def fin_depth(model: RideModel) -> float:
    """Depth of the centre of what holds the board sideways [m]."""
    if model.wing is not None:
        return model.table.mast_centre * model.wing.mast
    return model.table.fin_centre * max((f.span for f in model.fins), default=0.05)


def drive(model: RideModel, gear: Gear, condition_wind: float, speeds: Array) -> Driven:
    """Best forces of a gear over courses (c, n) at speeds (n,)."""
    wind = wind_at(gear, condition_wind, model.brief.wind.height)
    return forces(gear, wind, speeds[None, :], COURSES[:, None], model.air, held_side(model, gear), swung=True)


def best_drive(model: RideModel, gear: Gear, condition_wind: float, speeds: Array) -> Array:
    """Drive on the best of the courses at each speed [N]."""
    most: Array = drive(model, gear, condition_wind, speeds).drive.max(axis=0)
    return most


def least_wind(model: RideModel, way: Going, gear: Gear, end: float | None = None) -> tuple[float, float]:
    """Least wind [m/s at the brief's height] in which the drive beats the drag up to `end` (or all the way), and its band.

    NaN where 40 kn are not enough.
    """
    last = way.end if end is None else end
    inside = way.speeds <= last
    inside[0] = True
    speeds, drag = way.speeds[inside], way.drag[inside]
    if speeds[-1] < last:
        speeds, drag = np.append(speeds, last), np.append(drag, way.at(last))
    low, high = WINDS
    if np.min(best_drive(model, gear, high, speeds) - drag) < 0:
        return float("nan"), 0.0
    for _ in range(11):
        middle = (low + high) / 2
        low, high = (low, middle) if np.min(best_drive(model, gear, middle, speeds) - drag) >= 0 else (middle, high)
    wind = (low + high) / 2
    i = int(np.argmin(best_drive(model, gear, wind, speeds) - drag))
    share = float(np.interp(speeds[i], way.speeds, way.band)) / max(float(drag[i]), 1.0)
    key = {"hand wing": "wing_lift_most", "sail": "sail_lift_most", "kite": "kite_lift_most"}[gear.rig]
    lift = ABOUT[key].band / getattr(model.table, key)
    # force goes with the square of the wind: half its share
    return wind, wind * 0.5 * float(np.hypot(share, lift))


def reach(model: RideModel, way: Going, gear: Gear, condition: Condition) -> tuple[float, bool]:
    """Highest speed the drive still beats the drag at [m/s], and whether it lies beyond the curve's end."""
    margin = best_drive(model, gear, condition.wind, way.speeds) - way.drag
    below = np.nonzero(margin < 0)[0]
    if not len(below):
        return float(way.speeds[-1]), True
    i = int(below[0])
    if i == 0:
        return 0.0, False
    t = margin[i - 1] / (margin[i - 1] - margin[i])
    return float(way.speeds[i - 1] + t * (way.speeds[i] - way.speeds[i - 1])), False


def nose_pitch(model: RideModel, state: Running) -> tuple[float, float]:
    """Height of the nose tip above the water [m] while running, and the nose-down pitch that brings it there [rad]."""
    measured, bottom = model.measured, model.bottom
    shape = measured.shape
    tip, at = float(shape.keel[-1]), float(shape.x[-1])
    foot = bottom.aft
    slope = np.tan(bottom.tangent)
    release = measured.at(shape.keel, foot)
    wetted = min(state.wetted, bottom.longest)
    above = tip - release - slope * (at - foot)  # over the tail tangent's line
    # the water meets the keel line where the wetted length ends
    entry = measured.at(shape.keel, foot + wetted) - release - slope * wetted
    height = above - entry + (at - foot - wetted) * float(np.tan(state.trim))
    return height, float(np.arctan2(height, max(at - foot - 0.6 * wetted, 0.1)))
