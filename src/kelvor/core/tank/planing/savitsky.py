"""Planing of a prism: Savitsky's laws.

Savitsky, D. (1964), Hydrodynamic design of planing hulls, Marine Technology 1,
71: eqs. 15 and 16 (lift), 20 (centre of pressure), 21 to 25 (drag). Angles of
the laws are in degrees, as printed; arguments here are in radians.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.values import frozen
from kelvor.core.tank.laws.friction import ittc57

CV_RANGE = (0.60, 13.0)
TRIM_RANGE = (np.radians(2.0), np.radians(15.0))
LAMBDA_MOST = 4.0


def flat_lift(trim: Array | float, wetted: Array | float, cv: Array | float) -> Array:
    """Lift coefficient on b² of a flat bottom, eq. 15; `wetted` is the mean wetted length over the beam."""
    moving = moving_lift(trim, wetted)
    return moving + standing_lift(moving, wetted, cv)


def moving_lift(trim: Array | float, wetted: Array | float) -> Array:
    """The share of eq. 15 that speed makes."""
    lift: Array = np.degrees(trim) ** 1.1 * (0.0120 * np.sqrt(np.asarray(wetted, float)))
    return lift


def standing_lift(moving: Array, wetted: Array | float, cv: Array | float) -> Array:
    """The share of eq. 15 that the water's weight makes, beside the share that speed makes."""
    lift: Array = moving * (0.0055 / 0.0120 * np.asarray(wetted, float) ** 2 / np.asarray(cv) ** 2)
    return lift


def with_deadrise(flat: Array | float, deadrise: Array | float) -> Array:
    """Lift coefficient of a V bottom from that of the flat one, eq. 16."""
    f = np.maximum(np.asarray(flat, float), 0.0)
    lift: Array = f - 0.0065 * np.degrees(deadrise) * f**0.60
    return lift


def pressure_centre(wetted: Array | float, cv: Array | float) -> Array:
    """Centre of pressure ahead of the transom, as a share of the mean wetted length, eq. 20."""
    w = np.asarray(wetted, float)
    centre: Array = 0.75 - 1 / (5.21 * (np.asarray(cv) / np.maximum(w, 1e-6)) ** 2 + 2.39)
    return centre


def bottom_speed(speed: Array | float, trim: Array | float, wetted: Array | float, moving: Array) -> Array:
    """Mean speed of the water along the bottom [m/s] whose lift coefficient by speed alone is `moving`, eqs.
    22 and 23.
    """
    slower: Array = speed * np.sqrt(np.maximum(1 - moving / (np.asarray(wetted, float) * np.cos(trim)), 0.05))
    return slower


def wetted_for(lift: float, trim: Array, cv: float, deadrise: float) -> Array:
    """Wetted length over beam at which the bottom lifts `lift` (on b²), for each trim; above 8 means never.

    By bisection, as lift grows with wetted length.
    """
    low, high = np.full_like(trim, 1e-3), np.full_like(trim, 8.0)
    for _ in range(40):
        middle = (low + high) / 2
        short = with_deadrise(flat_lift(trim, middle, cv), deadrise) < lift
        low, high = np.where(short, middle, low), np.where(short, high, middle)
    return (low + high) / 2


def drag(
    weight: float,
    beam: float,
    deadrise: float,
    speed: float,
    trim: Array | float,
    wetted: Array | float,
    density: float,
    viscosity: float,
    roughness: float = 0.0,
) -> tuple[Array, Array]:
    """Drag [N] and its friction part [N] of a prism that carries `weight` [N], eqs. 21 to 25."""
    w = np.asarray(wetted, float)
    along = bottom_speed(speed, trim, w, with_deadrise(moving_lift(trim, w), deadrise))
    coefficient = ittc57(along * w * beam / viscosity) + roughness
    rubbing = density * along**2 * w * beam**2 * coefficient / (2 * np.cos(deadrise))
    return weight * np.tan(trim) + rubbing / np.cos(trim), rubbing


@frozen
class Planing:
    """A prism in equilibrium: trim [rad], wetted length over beam, drag [N], and whether the laws hold there."""

    trim: float
    wetted: float
    drag: float
    found: bool


def equilibrium(
    weight: float,
    beam: float,
    deadrise: float,
    speed: float,
    lcg: float,
    vcg: float,
    density: float,
    viscosity: float,
    *,
    thrust_angle: float = 0.0,
    thrust_arm: float = 0.0,
    roughness: float = 0.0,
) -> Planing:
    """Trim at which weight, pressure, thrust and friction balance, eq. 35; lcg and vcg ahead of the transom and above
    the keel [m].
    """
    cv = speed / float(np.sqrt(GRAVITY * beam))
    lift = weight / (density * speed**2 * beam**2 / 2)
    trims = np.linspace(np.radians(0.7), np.radians(17.0), 653)
    wetted = wetted_for(lift, trims, cv, deadrise)
    _, rubbing = drag(weight, beam, deadrise, speed, trims, wetted, density, viscosity, roughness)
    c = lcg - pressure_centre(wetted, cv) * wetted * beam
    a = vcg - beam / 4 * np.tan(deadrise)
    ahead = weight * (
        (1 - np.sin(trims) * np.sin(trims + thrust_angle)) * c / np.cos(trims) - thrust_arm * np.sin(trims)
    )
    moment = ahead + rubbing * (a - thrust_arm)
    crossing = np.nonzero((moment[:-1] < 0) != (moment[1:] < 0))[0]
    if not len(crossing):
        return Planing(float("nan"), float("nan"), float("nan"), False)
    i = int(crossing[-1])
    t = float(moment[i] / (moment[i] - moment[i + 1]))
    trim, w = float(trims[i] + t * (trims[i + 1] - trims[i])), float(wetted[i] + t * (wetted[i + 1] - wetted[i]))
    total, _ = drag(weight, beam, deadrise, speed, trim, w, density, viscosity, roughness)
    inside = CV_RANGE[0] <= cv <= CV_RANGE[1] and TRIM_RANGE[0] <= trim <= TRIM_RANGE[1] and w <= LAMBDA_MOST
    return Planing(trim, w, float(total), inside)
