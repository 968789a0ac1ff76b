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
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import step
from kelvor.core.base.units import KNOT
from kelvor.core.brief.brief import Brief
from kelvor.core.ride.balance import Rigged, SailingBalance
from kelvor.core.ride.model import RideModel, Running, hump, threshold
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.lifting.foils import lift_off_speed
from kelvor.core.tank.sails.sails import Gear, gear_of

METHOD = Method(
    "force to spare at every speed on the way, on the best course: drive, drag, what the gear lifts and the rider "
    "holds in balance; a kite dives once and is parked then",
    "as told for the speed on courses; log law of the wind (Charnock 1955); crosswind flight (Loyd 1980)",
    "steady wind, gear trimmed well, no pumping; one dive",
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
KITE_BEYOND = np.array([0.97, 1.03, 1.1, 1.2, 1.35, 1.6, 2.2])
"""Winds over that in which a kite drives the board parked, among which that is looked for in which a dive carries it
there.
"""
FROM_REST = 0.8
"""Speed at which a board is off its tail [m/s] (common practice, no source)."""
DRAWN = 1.45
"""Times the speed where the way ends up to which it is drawn."""
TIGHT = 0.35
"""Share of the drag at the hump within which a speed that first seems less tight than another is looked at again."""
NEARLY, DIP = 0.1, 0.01
"""Share of the most drag within which another hump is told beside, and by which it must fall between the two."""
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


def other_hump(run_up: Going) -> Running | None:
    """Another rise of the drag on the way, within `NEARLY` of the most and parted from it by a dip; None without one.

    Which of two such humps is the greater turns with little, so both are told.
    """
    inside = [state for state in run_up.curve if state.speed <= run_up.end * 1.001]
    drag = np.array([state.drag for state in inside])
    most = run_up.top.drag
    rises = (drag[1:-1] > drag[:-2]) & (drag[1:-1] >= drag[2:]) & (drag[1:-1] > (1 - NEARLY) * most)
    tops: list[int] = (np.flatnonzero(rises) + 1).tolist()
    top = int(np.argmin([abs(state.speed - run_up.top.speed) for state in inside]))
    apart = [i for i in tops if drag[min(i, top) : max(i, top) + 1].min() < min(drag[i], most) * (1 - DIP)]
    return inside[max(apart, key=lambda i: float(drag[i]))] if apart else None


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
    over = kite_pull(drag, model.table) * up - looked
    # the parabola through the three, at its root: what is over falls with what is carried
    apart = looked[1] - looked[0]
    bend, fall = (over[0] - 2 * over[1] + over[2]) / 2, (over[2] - over[0]) / 2
    root = np.sqrt(max(fall**2 - 4 * bend * over[1], 0.0))
    place = 2 * over[1] / max(root - fall, 1e-9)
    return float(max(looked[1] + apart * np.clip(place, -1.6, 3.0), 0.0))


def kite_pull(drag: Array, table: Coefficients) -> Array:
    """Pull of a kite's lines that overcomes drags on a reaching course [N]."""
    pulled: Array = drag / (np.cos(table.kite_elevation) * table.kite_ahead)
    return pulled


def drawn_speeds(run_up: Going) -> NDArray[np.bool_]:
    """Which speeds of the curve are drawn: to somewhat beyond where the way ends."""
    drawn: NDArray[np.bool_] = run_up.speeds <= max(DRAWN * run_up.end, run_up.speeds[8])
    return drawn


def starting(
    rigged: Rigged,
    wind: Array | float,
    speeds: Array,
    *,
    swung: bool = False,
    stance: tuple[Array, Array] | None = None,
    roughly: bool = False,
) -> SailingBalance:
    """The balance while getting going in winds (w,) [m/s at the brief's height], on the courses (c,), at speeds (n,):
    (w, c, n).
    """
    winds = np.reshape(wind, (-1, 1, 1))
    return rigged.at(winds, COURSES[:, None], speeds, starts=True, swung=swung, stance=stance, roughly=roughly)


def spare(sailed: SailingBalance) -> Array:
    """Force to spare on the best of the courses of a start [N], (w, n)."""
    best: Array = sailed.spare.max(axis=1)
    return best


def dived(rigged: Rigged, winds: Array, speeds: Array, left: Array) -> Array:
    """Speeds (w,) [m/s] to which one dive of a kite brings the board in winds (w,), with force to spare `left` (w, n)
    at speeds (n,) while it dives: by the force, for as long as the dive takes.

    A kite dives across the wind at a multiple of it (Loyd 1980), so its dive takes its way over that.
    """
    way, across = rigged.model.table.kite_dive, float(np.sqrt(max(rigged.gear.swung**2 - 1, 1e-3)))
    mass = rigged.model.moved
    inside = speeds >= FROM_REST
    v = np.concatenate([[FROM_REST], speeds[inside]])
    pulls = np.array([np.interp(v, speeds, row) for row in left])
    slow = mass / np.maximum((pulls[:, 1:] + pulls[:, :-1]) / 2, 1e-3)
    took = np.concatenate([np.zeros((len(winds), 1)), np.cumsum(slow * np.diff(v), axis=1)], axis=1)
    ends: Array = np.array([np.interp(way / (across * wind), row, v) for wind, row in zip(winds, took, strict=True)])
    return ends


def parked(speeds: Array, dives: Array, whole: float) -> Array:
    """How far a kite whose dive brought the board to speeds `dives` (w,) is parked again at speeds (n,): 0 to 1
    (w, n). Up to the share `whole` of those speeds the dive pulls whole.
    """
    share: Array = step((speeds / dives[:, None] - whole) / (1 - whole))
    return share


def left_over(rigged: Rigged, run_up: Going, wind: float, speeds: Array) -> Array:
    """Force to spare while getting going at speeds (n,) [N], on the best course; under a kite in a dive and then
    parked.
    """
    if rigged.gear.rig != "kite":
        return np.asarray(spare(starting(rigged, wind, speeds))[0])
    return np.asarray(_dived_then_parked(rigged, np.array([wind]), speeds, run_up.end)[0])


def _dived_then_parked(rigged: Rigged, winds: Array, speeds: Array, end: float, *, roughly: bool = False) -> Array:
    """Force to spare (w, n) under a kite that dives as far as its dive carries the board, at most to `end`, and is
    parked from there on.
    """
    pulled = spare(starting(rigged, winds, speeds, swung=True, roughly=roughly))
    dives, whole = np.minimum(dived(rigged, winds, speeds, pulled), end), rigged.model.table.kite_dive_whole
    rest = parked(speeds, dives, whole)
    left: Array = pulled + rest * (spare(starting(rigged, winds, speeds, roughly=roughly)) - pulled)
    return left


def steered(gear: Gear, model: RideModel) -> float:
    """Least wind that carries a kite on its lines with lift enough to steer it [m/s]; nothing for what is held or
    stepped.
    """
    if gear.rig != "kite":
        return 0.0
    return float(np.sqrt(2 * model.table.kite_steered * gear.mass * GRAVITY / (model.air * gear.area * gear.lift_most)))


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
    if rigged.gear.rig == "kite":
        return _least_wind_of_kite(rigged, run_up, speeds, drag)
    stance: tuple[Array, Array] | None = None
    for near in (FIRST, 0.01, 0.0):
        sailed = starting(rigged, winds, speeds, stance=stance, roughly=near == FIRST)
        left = spare(sailed) + pushed
        worst = left.min(axis=1)
        goes = np.flatnonzero(worst >= 0)
        i = max(int(goes[0]), 1) if len(goes) else len(winds) - 1
        if near == FIRST and not len(goes):
            return LeastWind(float("nan"), 0.0, float("nan"))
        wind = _rises_through(winds[i - 1 : i + 1], worst[i - 1 : i + 1], inside=False)
        if near:
            winds = np.maximum(wind * np.array([1 - near, 1 + near]), low)
        if near == FIRST:  # only speeds that may turn out the tightest, from here on
            close = left[i] < worst[i] + TIGHT * run_up.top.drag
            speeds, drag, pushed = speeds[close], drag[close], pushed[close]
        elif rigged.settled:  # a percent of wind hardly moves the rider, unless on an edge
            stance = sailed.cant[i], sailed.heel[i]
    return _with_band(run_up, float(np.clip(wind, low, high)), int(np.argmin(left[i])), speeds, drag)


def _rises_through(winds: Array, left: Array, *, inside: bool = True) -> float:
    """The wind at which force `left` in two winds (2,) comes to nothing, since it goes with the square of the wind;
    kept between the two, or beyond them.
    """
    rise = left[1] - left[0] if winds[1] > winds[0] else 0.0
    share = float(-left[0] / rise) if rise > 1e-9 else 1.0
    share = min(max(share, 0.0), 1.0) if inside else share
    return float(np.sqrt(max(winds[0] ** 2 + (winds[1] ** 2 - winds[0] ** 2) * share, 0.0)))


def _with_band(run_up: Going, wind: float, tight: int, speeds: Array, drag: Array) -> LeastWind:
    """A least wind with its band: half the share of the force at the tightest of the speeds."""
    own = float(np.interp(speeds[tight], run_up.speeds, run_up.band)) / max(float(drag[tight]), 1.0)
    return LeastWind(wind, 0.5 * wind * own, float(speeds[tight]))


def _least_wind_of_kite(rigged: Rigged, run_up: Going, speeds: Array, drag: Array) -> LeastWind:
    """The least wind of a kite: that in which it drives the board parked at the end of the way; where a dive does not
    carry the board so far in it, that in which it does, looked for in nets since force to spare turns over there.
    """
    end, some = speeds[-1:], np.append(speeds[-3::-2][::-1], speeds[-1])
    parks = _Net(rigged, np.linspace(*WINDS, 9), end)
    for _ in range(2):
        low, high = parks.winds[parks.first - 1 : parks.first + 1]
        parks = _Net(rigged, np.linspace(low, high, 5), end)
    net = _Net(rigged, np.array([parks.wind, 1.002 * parks.wind]), speeds) if parks.goes else parks
    wind, tight = parks.wind, len(speeds) - 1
    if parks.goes and net.worst[-1] < 0:
        net = _Net(rigged, np.minimum(parks.wind * KITE_BEYOND, WINDS[1]), some, roughly=True)
        for back in (2, 1):  # a stance looked for roughly may need a wind more than is needed
            low, high = net.winds[max(net.first - back, 0)], net.winds[net.first]
            closer = _Net(rigged, np.linspace(low, high, 6), speeds) if net.goes else net
            net = closer if closer.goes else net
        wind, tight = net.wind, int(np.argmin(net.left[net.first]))
    if not net.goes:
        return LeastWind(float("nan"), 0.0, float("nan"))
    return _with_band(run_up, max(wind, steered(rigged.gear, rigged.model)), tight, speeds, drag)


class _Net:
    """Force to spare `left` (w, n) under a kite in winds at speeds, the worst of it (w,), the first wind in which it
    goes, and where between it and the one before it comes to.
    """

    def __init__(self, rigged: Rigged, winds: Array, speeds: Array, *, roughly: bool = False) -> None:
        self.winds = winds
        self.left = _dived_then_parked(rigged, winds, speeds, float(speeds[-1]), roughly=roughly)
        self.worst = self.left.min(axis=1)
        found = np.flatnonzero(self.worst >= 0)
        self.goes = len(found) > 0
        self.first = max(int(found[0]), 1) if self.goes else len(winds) - 1
        pair = slice(self.first - 1, self.first + 1)
        self.wind = _rises_through(winds[pair], self.worst[pair])


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
