"""A tail pressed in on its rail: what turns it about the back foot, and the push sideways at which it lets go.

The board is heeled and trimmed with its rail in the water under the back foot, and its bottom carries the load there.
While it turns at a radius, what lies at a distance from the foot meets the water at that distance over the radius.
There each fin lifts as a wing that is full at stall or where it draws air; the heeled bottom, whose load goes with its
trim, takes the more of it the more it is turned into the stream; walls of channels lift as slender plates from where
they grow deep (Jones 1946, NACA Report 835). Pushed sideways, the whole tail meets the water at one angle.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.smooth import clip
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections, groove_depths
from kelvor.core.tank.lifting.fins import FinLaw, SetFin
from kelvor.core.tank.rail.rail import rail_line

METHOD = Method(
    "fins, the heeled bottom that carries the load, and walls of channels, turned about the back foot or pushed aside",
    "lifting line of small wings; slender plates: Jones 1946 (NACA Report 835); what the bottom takes: judgement",
    "the tail pressed in at a stated heel, trim and speed; wave, spray and the rider's timing are not in it",
)


class Pressed(NamedTuple):
    """How a tail is pressed in: the foot's place [m from the tail], load on it [N], heel, trim [rad], depth of the rail
    under the foot [m], angle of the whole tail to the water beyond which nothing more is held [rad], speed [m/s] and
    density [kg/m³].
    """

    foot: float
    load: float
    heel: float
    trim: float
    bite: float
    breaks: float
    speed: float
    density: float


@frozen(eq=False)
class Tail:
    """What answers sideways on a tail that is pressed in.

    Attributes
    ----------
    x, rail, walls:
        Places [m from the tail] with what bottom and channels' walls answer there, per angle [N/rad], (n,).
    sunk:
        How deep the rail lies there, below nothing in the air (n,) [m].
    fins:
        Fins under it (k,); as much of each counts as is in the water.
    pressure:
        Of the stream [Pa].
    """

    x: Array
    rail: Array
    walls: Array
    sunk: Array
    fins: tuple[SetFin, ...]
    pressure: float
    breaks: float
    law: FinLaw
    foot: float

    def of_fins(self, angles: Array) -> Array:
        """Side force of each fin [N] at its angle to the water (k,) [rad]: none lifts more than it can."""
        forces: Array = np.array(
            [
                self.pressure
                * fin.area
                * wet
                * clip(fin.slope * fin.attack(angle), -self.law.lets_go(fin), self.law.lets_go(fin))
                * np.cos(fin.cant)
                for (fin, wet), angle in zip(self._each, angles, strict=True)
            ]
        )
        return forces

    def moment(self, radius: float) -> float:
        """What resists turning about the foot at a radius [m], [N m]."""
        arms = np.array([fin.x - self.foot for fin in self.fins])
        lifted = self.of_fins(arms / radius) if self.fins else arms
        return float(lifted @ arms) + self.moment_of_rail(radius)

    def moment_of_rail(self, radius: float) -> float:
        """What of that rail and channels give: the run behind the foot, which presses it in [N m]."""
        behind = np.minimum(self.x - self.foot, 0.0)
        return float((self.rail + self.walls) @ behind**2 / radius)

    @property
    def centre(self) -> float:
        """Place about which it turns most easily [m from the tail]."""
        most = np.concatenate([self.rail + self.walls, [self.pressure * f.area * f.slope * w for f, w in self._each]])
        return float(np.average(np.concatenate([self.x, [f.x for f in self.fins]]), weights=np.maximum(most, 1e-9)))

    @property
    def _each(self) -> list[tuple[SetFin, float]]:
        """Each fin, and how much of it is in the water."""
        return [(f, float(clip(1 + np.interp(f.x, self.x, self.sunk) / f.span, 0.0, 1.0))) for f in self.fins]

    def lets_go(self) -> tuple[float, float]:
        """Side force at which the tail lets go [N], and its angle to the water there [rad]: where the first fin is at
        the end of its lift, at the latest where the tail breaks.
        """
        angles = [(self.law.lets_go(f) / f.slope + f.side * f.toe) / np.cos(f.cant) for f, wet in self._each if wet > 0]
        angle = max(
            float(min([*angles, self.breaks])), 0.0
        )  # a fin toed in beyond its stall holds nothing from the start
        held = float(self.of_fins(np.full(len(self.fins), angle)).sum()) if self.fins else 0.0
        return held + float((self.rail + self.walls).sum()) * angle, angle


def tail(shape: Sections, slope: float, fins: tuple[SetFin, ...], law: FinLaw, pressed: Pressed) -> Tail:
    """The tail of a board whose base line rises by `slope`, pressed in."""
    line = rail_line(shape, slope, pressed.heel)
    x = line.x
    height = line.height + (x - pressed.foot) * np.tan(pressed.trim)
    sunk = pressed.bite - height + float(np.interp(pressed.foot, x, height))
    deep = np.maximum(sunk, 0.0)
    # what is in the water again ahead of where the rail comes out of it is not pressed in
    ahead = np.flatnonzero((deep <= 0) & (x > pressed.foot))
    if len(ahead):
        deep[ahead[0] :] = 0.0
    along = np.gradient(x)
    taken = deep * along
    q = pressed.density * pressed.speed**2 / 2
    # a bottom that lifts with its trim takes its share of what turns it, by the sine of the heel into the stream and
    # again to the side
    rail = pressed.load / np.tan(pressed.trim) * np.sin(pressed.heel) ** 2 * taken / max(float(taken.sum()), 1e-12)
    walls = 2 * q * _walls(shape, sunk > 0)
    return Tail(x, rail, walls, sunk, fins, q, pressed.breaks, law, pressed.foot)


def _walls(shape: Sections, under: Array) -> Array:
    """What walls of channels answer at the inner stations (n,), per angle and stream momentum [m²]: one wall of each
    channel faces the stream across, and lifts where it grows deeper going aft.
    """
    grooves = groove_depths(shape)[1:-1]
    facing = np.abs(np.diff(grooves, axis=1)).sum(axis=1) / 2 * grooves.max(axis=1) * under
    deepest = np.maximum.accumulate(facing[::-1])[::-1]
    grown: Array = np.append(deepest[:-1] - deepest[1:], deepest[-1])
    return np.pi / 2 * 2 * grown
