"""Drive of sails, hand wings and kites.

Lift and drag coefficients with induced drag by lifting line; the trim is what
drives most, between nothing and the greatest lift. Off the wind where drag
drives too, a stalled sail counts by its greatest force across the wind.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from kelvor.core.coefficients import Coefficients
from kelvor.core.disciplines import Rig
from kelvor.core.shape.battens import Array
from kelvor.core.wind import apparent, at_height

TRIMS = np.linspace(0.0, 1.0, 51)


@dataclass(frozen=True, slots=True)
class Gear:
    """A sail, hand wing or kite: area [m²], mass [kg], and how it drives.

    `raised` is the angle of its lines above the horizon [rad], `swung` its flying speed over the wind
    while it is swung to start: 0 and 1 for what is held in hand or stepped on the board.
    """

    name: str
    rig: Rig
    area: float
    mass: float
    lift_most: float
    profile_drag: float
    aspect: float
    height: float
    stalled: float
    raised: float = 0.0
    swung: float = 1.0

    def luff(self, table: Coefficients) -> float:
        """Length of a sail's luff [m]."""
        return float(table.sail_luff * np.sqrt(self.area))

    def effort(self, table: Coefficients) -> float:
        """Height of a sail's centre of effort above the deck [m]."""
        return table.sail_foot + table.effort_height * self.luff(table)


def gear_of(name: str, rig: Rig, area: float, mass: float, table: Coefficients) -> Gear:
    """A gear with its coefficients; a sail's centre stands where its luff puts it."""
    if rig == "hand wing":
        return Gear(name, rig, area, mass, table.wing_lift_most, table.wing_profile_drag, table.wing_aspect, table.wing_height,
                    table.sail_stalled)  # fmt: skip
    if rig == "kite":
        return Gear(name, rig, area, mass, table.kite_lift_most, table.kite_profile_drag, table.kite_aspect,
                    table.kite_height, table.sail_stalled, table.kite_elevation, table.kite_speed)  # fmt: skip
    sail = Gear(name, rig, area, mass, table.sail_lift_most, table.sail_profile_drag, table.sail_aspect, 0.0, table.sail_stalled)
    return replace(sail, height=sail.effort(table))


@dataclass(frozen=True, slots=True, eq=False)
class Driven:
    """Forces of a gear on the board, arrays of one shape.

    `drive` ahead and `side` to leeward [N], `up` [N], the apparent wind [m/s] and its angle off the bow [rad].
    """

    drive: Array
    side: Array
    up: Array
    wind: Array
    angle: Array


def forces(
    gear: Gear, wind: float, speed: Array | float, angle: Array | float, density: float, most_side: float = np.inf,
    *, swung: bool = False,
) -> Driven:  # fmt: skip
    """Best drive at a board's `speed` and true wind `angle` off the bow, the wind blowing `wind` at the gear's height.

    Parameters
    ----------
    most_side:
        Side force the rider can hold [N]; the gear is eased to it.
    swung:
        Whether a kite is swung through the wind, as it is to start; what is held in hand never is.
    """
    felt, off = apparent(wind, speed, angle)
    pressure = density / 2 * felt**2 * gear.area * (gear.swung**2 if swung else 1.0)
    lift = gear.lift_most * TRIMS.reshape((-1,) + (1,) * np.ndim(off))
    drag = gear.profile_drag + lift**2 / (np.pi * gear.aspect)
    level = np.cos(gear.raised)
    ahead = pressure * level * (lift * np.sin(off) - drag * np.cos(off))
    across = pressure * level * (lift * np.cos(off) + drag * np.sin(off))
    stalled = pressure * gear.stalled * level * -np.cos(off)  # running before the wind
    held = np.abs(across) <= most_side
    usable = np.where(held, ahead, -np.inf)
    best = np.argmax(usable, axis=0)
    none = ~held.any(axis=0)
    drive, side = (
        np.where(none, -pressure * gear.profile_drag, _picked(np.where(held, ahead, 0.0), best)),
        np.where(none, 0.0, _picked(across, best)),
    )
    runs = stalled > drive
    total = np.hypot(drive, side) / max(level, 1e-6)
    return Driven(np.where(runs, stalled, drive), np.where(runs, 0.0, side), total * np.sin(gear.raised), felt, off)


def _picked(values: Array, best: NDArray[np.intp]) -> Array:
    """Of values (trims, …) those of the best trim."""
    picked: Array = np.take_along_axis(values, best[None], axis=0)[0]
    return picked


def wind_at(gear: Gear, speed: float, given_at: float) -> float:
    """The wind at the gear's height [m/s]."""
    return at_height(speed, given_at, gear.height)
