"""Planing of a prism: Savitsky's laws.

Savitsky, D. (1964), Hydrodynamic design of planing hulls, Marine Technology 1,
71: eqs. 15 and 16 (lift), 20 (centre of pressure), 21 to 25 (drag). Angles of
the laws are in degrees, as printed; arguments here are in radians.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array

CV_RANGE = (0.60, 13.0)
TRIM_RANGE = (np.radians(2.0), np.radians(15.0))
LAMBDA_MOST = 4.0


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


def standing_share(wetted: Array | float, cv: Array | float) -> Array:
    """How far the centre of pressure has gone from where speed alone has it, nothing, to where the water's weight alone
    has it, one: by eq. 20.
    """
    share: Array = 2.39 * (0.75 - pressure_centre(wetted, cv))
    return share


def bottom_speed(speed: Array | float, trim: Array | float, wetted: Array | float, moving: Array) -> Array:
    """Mean speed of the water along the bottom [m/s] whose lift coefficient by speed alone is `moving`, eqs.
    22 and 23.
    """
    slower: Array = speed * np.sqrt(np.maximum(1 - moving / (np.asarray(wetted, float) * np.cos(trim)), 0.05))
    return slower
