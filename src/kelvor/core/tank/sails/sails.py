"""Drive of sails, hand wings and kites.

Lift, and drag that grows with its square: profile by tunnel data, induced by
lifting line. What is held in hand is eased by flattening: less lift, with the
drag of that lift. Off the wind, where drag drives too, a stalled sail counts by
its force along the wind.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import Rig
from kelvor.core.base.smooth import clip
from kelvor.core.base.values import frozen
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.laws.wind import at_height
from kelvor.core.tank.laws.wings import SPAN_FACTOR, mirrored


@frozen
class Gear:
    """A sail, hand wing or kite: area [m²], mass [kg], and how it drives.

    `lift_drag` is what drag grows by, per lift squared; `chord` the mean chord of a sail [m], 0 for others;
    `swung` a kite's flying speed over the wind while it is swung to start: 1 for what is held in hand or stepped on the
    board.
    """

    name: str
    rig: Rig
    area: float
    mass: float
    lift_most: float
    profile_drag: float
    lift_drag: float
    height: float
    stalled: float
    chord: float = 0.0
    swung: float = 1.0


def gear_of(name: str, rig: Rig, area: float, mass: float, table: Coefficients) -> Gear:
    """A gear with its coefficients; a sail's centre stands where its luff puts it, its foot near the deck that seals
    it.
    """
    if rig == "hand wing":
        return Gear(
            name,
            rig,
            area,
            mass,
            table.wing_lift_most,
            table.wing_profile_drag,
            1 / (np.pi * table.wing_aspect),
            table.wing_height,
            table.sail_stalled,
        )
    if rig == "kite":
        return Gear(
            name,
            rig,
            area,
            mass,
            table.kite_lift_most,
            table.kite_profile_drag,
            1 / (np.pi * table.kite_aspect),
            table.kite_height,
            table.sail_stalled,
            swung=table.kite_speed,
        )
    luff = float(table.sail_luff * np.sqrt(area))
    aspect = SPAN_FACTOR * mirrored(luff, table.sail_gap) ** 2 / area
    return Gear(
        name,
        rig,
        area,
        mass,
        table.sail_lift_most,
        table.sail_profile_drag,
        table.sail_lift_drag + 1 / (np.pi * aspect),
        table.sail_foot + table.effort_height * luff,
        table.sail_stalled,
        area / luff,
    )


@frozen(eq=False)
class Trimmed:
    """A gear trimmed, arrays of one shape: force ahead, force square to the course in the rig's plane, to leeward [N],
    lift coefficient.

    `held` tells whether there is a trim within what can be held.
    """

    ahead: Array
    across: Array
    lift: Array
    held: NDArray[np.bool_]


@frozen(eq=False)
class Blowing:
    """The wind across a rig, arrays of one shape: cosine and sine of its angle off the bow, its pressure on the gear's
    area [N].

    `level` is the share of the lift that pulls level: all of it, but under a kite's raised lines.
    """

    cosine: Array
    sine: Array
    pressure: Array
    level: Array | float


def blowing(
    gear: Gear,
    felt: Array | float,
    off: Array | float,
    density: float,
    *,
    cant: Array | float = 0.0,
    swung: bool = False,
) -> Blowing:
    """The apparent wind `felt` [m/s] at `off` the bow [rad] across a rig.

    `cant` is the lean of the rig to windward [rad]: what blows along the mast does not drive (Kerwin 1978, from
    memory); of a kite it is the angle of its lines above the horizon. `swung` tells whether a kite is swung through the
    wind, as it is to start.
    """
    kite = gear.rig == "kite"
    along, athwart = felt * np.cos(off), felt * np.sin(off) * (1.0 if kite else np.cos(cant))
    blows = np.maximum(np.hypot(along, athwart), 1e-9)
    pressure = density / 2 * blows**2 * gear.area * (gear.swung**2 if swung else 1.0)
    return Blowing(along / blows, athwart / blows, pressure, np.cos(cant) if kite else 1.0)


def trimmed_gear(gear: Gear, wind: Blowing, *, most: Array | float = np.inf, cost: Array | float = 0.0) -> Trimmed:
    """The gear in the wind across it, trimmed for most drive less `cost` times the force across.

    `most` is the force across that can be held to either side [N]; the gear is flattened to it.
    """
    c, s, pressure = wind.cosine, wind.sine, wind.pressure
    # a kite on raised lines lifts square to the wind as well, but not level; its drag is level whole
    k, price, lc, ls = gear.lift_drag, c + cost * s, wind.level * c, wind.level * s
    best = np.where(
        price > 1e-9, clip((ls - cost * lc) / np.maximum(2 * k * price, 1e-9), 0.0, gear.lift_most), gear.lift_most
    )
    limit = np.minimum(most / pressure, 1e6)
    room = limit - gear.profile_drag * s
    held, spare, aft = room >= 0, np.maximum(room, 0.0), c < 0
    lift = np.minimum(best, 2 * spare / np.maximum(lc + np.sqrt(lc**2 + 4 * k * s * spare), 1e-9))
    if aft.any():  # from aft of the beam lift pulls to windward, against the drag: no harder than is held either
        turns = lc**2 + 4 * k * s * room
        held = held | (aft & (turns >= 0))
        most_lift = (np.sqrt(np.maximum(turns, 0.0)) - lc) / np.maximum(2 * k * s, 1e-9)
        lift = np.where(aft & held, np.minimum(best, most_lift), lift)
        pulls = limit + gear.profile_drag * s
        inside = lc**2 - 4 * k * s * pulls
        lift = np.where(
            aft & (inside > 0), np.minimum(lift, 2 * pulls / (np.sqrt(np.maximum(inside, 0.0)) - lc + 1e-12)), lift
        )
    drag = gear.profile_drag + k * lift**2
    ahead, across = pressure * (lift * ls - drag * c), pressure * (lift * lc + drag * s)
    if not aft.any():
        return Trimmed(ahead, across, lift, held)
    stalled = (
        np.minimum(pressure * gear.stalled, most / np.maximum(s, 1e-9)) * aft
    )  # square to the wind it drives along it
    runs = -stalled * (c + cost * s) > ahead - cost * across
    return Trimmed(
        np.where(runs, -stalled * c, ahead), np.where(runs, stalled * s, across), np.where(runs, 0.0, lift), held
    )


def wind_at(gear: Gear, speed: float, given_at: float) -> float:
    """The wind at the gear's height [m/s]."""
    return at_height(speed, given_at, gear.height)
