"""Getting going: force to spare from rest to planing or lift-off, and what each gear needs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import RIGS, Discipline
from kelvor.core.base.figures import Method
from kelvor.core.base.units import KNOT
from kelvor.core.brief.brief import Brief
from kelvor.core.ride.balance import Rigged, Sailed
from kelvor.core.ride.model import RideModel, Running, hump, threshold
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.lifting.foils import lift_off_speed
from kelvor.core.tank.sails.sails import Gear, gear_of

METHOD = Method(
    "force to spare at every speed on the way, on the best course: drive, drag, what the gear lifts and the rider "
    "holds in balance",
    "as told for the speed on courses; log law of the wind (Charnock 1955)",
    "steady wind, gear trimmed well, no pumping",
)
PUMPED = Method(
    "force to spare on the best course with the push of a rider who pumps: watts of a few seconds on the foil as far "
    "as it lifts, arms on a wing",
    "as told without pumping; oscillating foils: Triantafyllou et al. 2000 (from memory), bodies: judgement",
    "a few seconds; a rider who can pump",
)
PULL = Method(
    "drag at the hump over the share of the pull that drives, what the lines carry taken off the board's load",
    "equilibrium of the rider; the hump's drag as told there",
    "steady pull on a reach, lines at the table's angle",
)
COURSES = np.radians([75.0, 90.0, 105.0, 120.0, 135.0, 155.0, 180.0])
"""Courses through the water off the true wind on which a rider gets going: slow, with fins that hold nothing yet,
before the wind.
"""
KITE_HUMP = (1.4, 1.7, 1.95, 2.2, 2.45, 2.7, 3.0, 3.5, 4.2)
"""Speeds among which a kite board's hump lies [m/s]."""
CARRIED = (0.12, 0.25, 0.38)
"""Shares of the weight among which what a kite's lines carry at the hump is looked for."""
WINDS = (3 * KNOT, 40 * KNOT)
"""Winds between which the least is looked for [m/s]."""
FIRST = 0.08
"""Share about the first, rough least wind within which it is looked for."""
DRAWN = 1.45
"""Times the speed where the way ends up to which it is drawn."""
TIGHT = 0.35
"""Share of the drag at the hump within which a speed that first seems less tight than another is looked at again."""
CURVE_ENDS: dict[Discipline, float] = {
    "slalom": 21.0,
    "course racing": 19.0,
    "wave windsurf": 19.0,
    "kite surf": 17.0,
    "twin tip": 17.0,
}
"""Where the drag curve of a board without a foil ends, beyond what it is sailed at [m/s]."""
CURVE_END = 9.0


@dataclass(frozen=True, eq=False)
class Going:
    """From rest to planing or flying.

    Attributes
    ----------
    speeds, drag, band:
        The drag curve (n,), and the half-width of its band [N].
    looked:
        Its speeds without that of the hump, which lies where it may (m,) [m/s].
    end:
        Where the way ends: lift-off, or a tenth beyond the planing threshold [m/s].
    lift_off:
        Speed at which the foil carries all [m/s], NaN without one.
    threshold:
        Looks for the planing threshold.
    """

    curve: tuple[Running, ...]
    speeds: Array
    drag: Array
    band: Array
    looked: Array
    end: float
    lift_off: float
    top: Running
    lifted: float
    threshold: Callable[[], float]

    @cached_property
    def planes(self) -> float:
        """Planing threshold [m/s], NaN where none was found."""
        return self.threshold()

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

    @cache
    def planes() -> float:
        return threshold(curve, model.table.planes, lambda v: model.curve(v, lifted))

    end = lift_off if np.isfinite(lift_off) else 1.1 * planes() if np.isfinite(planes()) else float(speeds[-1])
    top = hump(curve, end, lambda v: model.curve(v, lifted))
    i = int(np.searchsorted(speeds, top.speed))
    whole = curve if top.speed in speeds else (*curve[:i], top, *curve[i:])
    all_speeds, drag, band = (np.array([getattr(r, name) for r in whole]) for name in ("speed", "drag", "band"))
    return Going(whole, all_speeds, drag, band, speeds, end, lift_off, top, lifted, planes)


def _carried(model: RideModel) -> float:
    """What the kite's lines carry of the rider while they pull the board over its hump [N]: pull and drag in balance.

    The more they carry the less the board drags, so the balance is one.
    """
    up, speeds = float(np.sin(model.table.kite_elevation)), np.array(KITE_HUMP)
    looked = model.weight * np.array(CARRIED)
    states = model.curve(np.tile(speeds, len(looked)), np.repeat(looked, len(speeds)))
    drag = np.array([r.drag for r in states]).reshape(len(looked), len(speeds)).max(axis=1)
    over = pull(drag, model.table) * up - looked
    # the parabola through the three, at its root: what is over falls with what is carried
    apart = looked[1] - looked[0]
    bend, fall = (over[0] - 2 * over[1] + over[2]) / 2, (over[2] - over[0]) / 2
    root = np.sqrt(max(fall**2 - 4 * bend * over[1], 0.0))
    place = 2 * over[1] / max(root - fall, 1e-9)
    return float(max(looked[1] + apart * np.clip(place, -1.6, 3.0), 0.0))


def pull(drag: Array, table: Coefficients) -> Array:
    """Pull of a kite's lines that overcomes drags on a reaching course [N]."""
    pulled: Array = drag / (np.cos(table.kite_elevation) * table.kite_ahead)
    return pulled


def shown(run_up: Going) -> NDArray[np.bool_]:
    """Which speeds of the curve are drawn: to somewhat beyond where the way ends."""
    drawn: NDArray[np.bool_] = run_up.speeds <= max(DRAWN * run_up.end, run_up.speeds[8])
    return drawn


def starting(
    rigged: Rigged,
    wind: Array | float,
    speeds: Array,
    *,
    stance: tuple[Array, Array] | None = None,
    roughly: bool = False,
) -> Sailed:
    """The balance while getting going in winds (w,) [m/s at the brief's height], on the courses (c,), at speeds (n,):
    (w, c, n).
    """
    winds = np.reshape(wind, (-1, 1, 1))
    return rigged.at(winds, COURSES[:, None], speeds, starts=True, stance=stance, roughly=roughly)


def spare(sailed: Sailed) -> Array:
    """Force to spare on the best of the courses of a start [N], (w, n)."""
    best: Array = sailed.spare.max(axis=1)
    return best


def pumping(model: RideModel, run_up: Going, speeds: Array) -> Array:
    """Push of a rider who pumps board and foil, as far as the foil lifts, and the wing in hand, at speeds (n,) [N]."""
    table, brief = model.table, model.brief
    lifts = np.interp(speeds, run_up.speeds, [r.foil_lift / model.weight for r in run_up.curve])
    power = brief.peak_watts * lifts + (table.wing_pump if model.rig == "hand wing" else 0.0)
    push: Array = table.pump_efficiency * power / np.maximum(speeds, 0.5)
    return push


class LeastWind(NamedTuple):
    """The least wind a gear goes in, its band [m/s], and the speed at which it is tightest [m/s]."""

    wind: float
    band: float
    at: float


def least_wind(rigged: Rigged, run_up: Going, end: float | None = None, *, pumped: bool = False) -> LeastWind:
    """Least wind [m/s at the brief's height] with force to spare up to `end` (or all the way), and its band.

    NaN where 40 kn are not enough; the least wind looked at where less would do for a rider who pumps.
    """
    last = run_up.end if end is None else end
    inside = run_up.speeds <= last * 1.001
    speeds, drag = run_up.speeds[inside], run_up.drag[inside]
    if speeds[-1] < last:
        speeds, drag = np.append(speeds, last), np.append(drag, run_up.at(last))
    pushed = pumping(rigged.model, run_up, speeds) if pumped else np.zeros_like(speeds)
    low, high = WINDS
    winds = np.linspace(low, high, 7)
    stance: tuple[Array, Array] | None = None
    for near in (FIRST, 0.01, 0.0):
        sailed = starting(rigged, winds, speeds, stance=stance, roughly=near == FIRST)
        left = spare(sailed) + pushed
        worst = left.min(axis=1)
        goes = np.flatnonzero(worst >= 0)
        i = max(int(goes[0]), 1) if len(goes) else len(winds) - 1
        if near == FIRST and not len(goes):
            return LeastWind(float("nan"), 0.0, float("nan"))
        fall = worst[i] - worst[i - 1] if winds[i] > winds[i - 1] else 0.0
        share = -worst[i - 1] / fall if fall > 1e-9 else 1.0
        # force goes with the square of the wind
        wind = float(np.sqrt(max(winds[i - 1] ** 2 + (winds[i] ** 2 - winds[i - 1] ** 2) * share, 0.0)))
        if near:
            winds = np.maximum(wind * np.array([1 - near, 1 + near]), low)
        if near == FIRST:  # only speeds that may turn out the tightest, from here on
            close = left[i] < worst[i] + TIGHT * run_up.top.drag
            speeds, drag, pushed = speeds[close], drag[close], pushed[close]
        elif rigged.settled:  # a percent of wind hardly moves the rider, unless on an edge
            stance = sailed.cant[i], sailed.heel[i]
    tight = int(np.argmin(left[i]))
    own = float(np.interp(speeds[tight], run_up.speeds, run_up.band)) / max(float(drag[tight]), 1.0)
    wind = float(np.clip(wind, low, high))
    # half the share of the force
    return LeastWind(wind, 0.5 * wind * own, float(speeds[tight]))


def reach(run_up: Going, left: Array) -> tuple[float, bool]:
    """Highest speed with force `left` to spare over the speeds of the way [m/s], and whether it lies beyond the curve's
    end.
    """
    speeds = run_up.speeds
    below = np.nonzero(left < 0)[0]
    if not len(below):
        return float(speeds[-1]), True
    i = int(below[0])
    if i == 0:
        return float(speeds[0]), False
    t = left[i - 1] / (left[i - 1] - left[i])
    return float(speeds[i - 1] + t * (speeds[i] - speeds[i - 1])), False


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
