"""Flying on by pumping: what a foil takes from legs that heave it, and how long somebody holds so many watts."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.tank.lifting.foils import FoilWing

METHOD = Method(
    "drag in level flight at the speed of least power, over what of the body's power pushes; what heaves and pitches "
    "board and foil; faster where else the wing stalls, the tail touches or a stroke lifts more than the weight",
    "drag as told in flight; heaving foils: Garrick 1936, Triantafyllou et al. 2000 (from memory), bodies: judgement",
    "flat water, no wind, board at its ride height; strokes even, none of a stroke's own motion got back",
)
HELD = Method(
    "work above what is kept up, over the watts above it; nothing at the most a rider gives",
    "critical power with three parameters: Morton 1996 (from memory)",
    "a rested rider, watts as stated in the brief",
)


def heaving_power(
    wing: FoilWing, weight: float, speed: Array, most: float, room: float, legs: float, density: float
) -> Array:
    """Power [W] a foil that flies `weight` [N] at speeds (n,) takes from legs that heave it at up to `legs` [m/s].

    A stroke swings the lift, at most up to the greatest lift coefficient `most`, by what `room` of pitch [rad] gives,
    and by the weight; the mean of lift and heave in step is half the product of their greatest.
    """
    full = density * speed**2 / 2 * wing.area
    swings = np.minimum(full * most - weight, full * float(wing.slope(wing.mast)) * room)
    power: Array = np.clip(swings, 0.0, weight) * legs / 2
    return power


def strokes(mass: float, inertia: float, room: float, legs: float, rate: float) -> float:
    """Power [W] that heaves `mass` [kg] at up to `legs` [m/s] and pitches `inertia` [kg m²] by `room` [rad], `rate`
    strokes a second: each sets them going twice.
    """
    turning = 2 * np.pi * rate * room
    return rate * (mass * legs**2 + inertia * float(turning) ** 2)


def least_power(needs: Array, takes: Array) -> float:
    """The place, between whole ones, among speeds where the least power (n,) [W] flies on of those at which the foil
    takes it in; NaN where it does at no speed.
    """
    able = np.flatnonzero(takes >= needs)
    if not len(able):
        return math.nan
    at = int(able[np.argmin(needs[able])])
    if at > 0 and takes[at - 1] < needs[at - 1]:  # the foil takes it in from somewhere before
        short = needs[at - 1 : at + 1] - takes[at - 1 : at + 1]
        return float(at - short[1] / (short[1] - short[0]))
    if 0 < at < len(needs) - 1 and takes[at + 1] >= needs[at + 1]:
        before, here, after = needs[at - 1 : at + 2]
        return float(at + (before - after) / (2 * max(before - 2 * here + after, 1e-12)))
    return float(at)


def endurance(watts: float, kept_up: float, most: float, reserve: float) -> float:
    """How long `watts` are held [s] by who keeps up `kept_up` [W], gives `most` at most and has `reserve` [J] above
    what is kept up: without end up to that, not at all from `most` on.
    """
    if watts <= kept_up:
        return math.inf
    if watts >= most:
        return 0.0
    return reserve / (watts - kept_up) - reserve / (most - kept_up)
