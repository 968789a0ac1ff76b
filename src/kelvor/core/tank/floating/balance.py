"""Balance in still water: sinkage, trim and heel by Newton's method on forces and moments.

Angles: trim is positive nose up, heel positive port side down.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.values import frozen
from kelvor.core.tank.floating.clipping import Immersion, WaterPlane


@frozen
class Load:
    """A weight [kg], which may be negative for a steady lift, and where it acts [m]."""

    mass: float
    x: float
    y: float
    z: float


Immersed = Callable[[WaterPlane], Immersion]
FAR = 0.05
"""Further than this a water plane is not beside another [m]."""


@frozen
class Balance:
    """A floating attitude: the plane in the board's frame, trim and heel [rad], and whether it was found."""

    plane: WaterPlane
    trim: float
    heel: float
    found: bool


def plane_at(depth: float, trim: float, heel: float) -> WaterPlane:
    """The water plane for a trim and heel [rad], with `depth` its height at the origin [m]."""
    return WaterPlane(depth, -float(np.tan(trim)), float(np.tan(heel) / np.cos(trim)))


def total(loads: tuple[Load, ...]) -> Load:
    """All loads as one at their centre."""
    mass = sum(w.mass for w in loads)
    return Load(
        mass,
        sum(w.mass * w.x for w in loads) / mass,
        sum(w.mass * w.y for w in loads) / mass,
        sum(w.mass * w.z for w in loads) / mass,
    )


def residuals(plane: WaterPlane, immersed: Immersion, load: Load, density: float) -> tuple[float, float, float]:
    """Unbalanced mass [kg] and its moments along and across the board [kg m].

    Moments are those of the horizontal distance between buoyancy and weight.
    """
    force = density * immersed.volume - load.mass
    along = density * (immersed.x + plane.pitch * immersed.z) - load.mass * (load.x + plane.pitch * load.z)
    across = density * (immersed.y + plane.roll * immersed.z) - load.mass * (load.y + plane.roll * load.z)
    return force, along, across


def sink(
    immersed: Immersed,
    mass: float,
    density: float,
    trim: float,
    heel: float,
    low: float,
    high: float,
    tolerance: float = 1e-9,
) -> float:
    """Depth of the water plane at the origin [m] at which buoyancy carries `mass` [kg] to a share, between `low` and
    `high`.

    Safeguarded regula falsi; returns `high` where even that carries too little.
    """

    def short(depth: float) -> float:
        return density * immersed(plane_at(depth, trim, heel)).volume - mass

    a, b = low, high
    fa, fb = short(a), short(b)
    if fb < 0:
        return b
    if fa > 0:
        return a
    side = 0
    for _ in range(60):
        c = (a * fb - b * fa) / (fb - fa)
        fc = short(c)
        if abs(fc) < tolerance * max(mass, 1.0) or b - a < 1e-10:
            return c
        if fc < 0:
            a, fa = c, fc
            fb = fb / 2 if side == -1 else fb
            side = -1
        else:
            b, fb = c, fc
            fa = fa / 2 if side == 1 else fa
            side = 1
    return c


def beside(short: Callable[[float], float], near: float, slope: float, exact: float) -> tuple[float, float] | None:
    """A root of what rises, and the slope there, by secants from `near` with a slope known from before; None where they
    lead nowhere.
    """
    here, found = near, short(near)
    for _ in range(6):
        if abs(found) < exact:
            return here, slope
        if not slope > 0 or abs(found) > FAR * slope:
            return None
        there = here - found / slope
        other = short(there)
        slope = (other - found) / (there - here)
        here, found = there, other
    return None


def free_balance(immersed: Immersed, loads: tuple[Load, ...], density: float, low: float, high: float) -> Balance:
    """Sinkage, trim and heel at which nothing is left over, from level, damped; `found` tells success."""
    load = total(loads)
    state = np.array([sink(immersed, load.mass, density, 0.0, 0.0, low, high), 0.0, 0.0])

    def unbalanced(s: np.ndarray) -> np.ndarray:
        plane = plane_at(float(s[0]), float(s[1]), float(s[2]))
        return np.array(residuals(plane, immersed(plane), load, density))

    steps = np.array([1e-5, 1e-5, 1e-5])
    now = unbalanced(state)
    for _ in range(40):
        if np.all(np.abs(now) < 1e-8 * max(load.mass, 1.0)):
            break
        jacobian = np.stack([(unbalanced(state + steps * np.eye(3)[i]) - now) / steps[i] for i in range(3)], axis=1)
        try:
            move = np.linalg.solve(jacobian, -now)
        except np.linalg.LinAlgError:
            return Balance(plane_at(*map(float, state)), float(state[1]), float(state[2]), False)
        move *= min(1.0, 0.05 / max(abs(move[0]), 1e-12), 0.15 / max(abs(move[1]), abs(move[2]), 1e-12))
        state = state + move
        now = unbalanced(state)
    found = bool(np.all(np.abs(now) < 1e-6 * max(load.mass, 1.0)))
    return Balance(plane_at(*map(float, state)), float(state[1]), float(state[2]), found)


def righting_arm(
    immersed: Immersed,
    loads: tuple[Load, ...],
    density: float,
    heel: float,
    low: float,
    high: float,
    trim: float = 0.0,
    tolerance: float = 1e-9,
) -> float:
    """Righting arm GZ [m] at a heel [rad], sinkage free: positive rights the board."""
    load = total(loads)
    depth = sink(immersed, load.mass, density, trim, heel, low, high, tolerance)
    plane = plane_at(depth, trim, heel)
    _, _, across = residuals(plane, immersed(plane), load, density)
    return across / load.mass * float(np.cos(heel))


def roll_moment(arm: float, mass: float) -> float:
    """Righting moment [N m] of an arm [m]."""
    return arm * mass * GRAVITY
