"""Wind over water: its gradient with height, and the wind a moving board feels.

Log law with Charnock's roughness (Charnock 1955, Q. J. R. Met. Soc. 81, 639)
plus the smooth part 0.11 ν/u* (Smith 1988, J. Geophys. Res. 93, 15467). The
constant is 0.011 over open sea and 0.018 near the coast; the default lies
between. Meaningless below the height of the waves.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY, air_viscosity

VON_KARMAN = 0.40
CHARNOCK = 0.0144
LEAST_HEIGHT = 0.3
"""Below this height [m] chop makes the log law meaningless."""


@lru_cache(maxsize=512)
def _friction(speed: float, height: float, charnock: float, celsius: float) -> tuple[float, float]:
    """Friction velocity [m/s] and roughness length [m] of a wind `speed` at `height`."""
    nu, u = air_viscosity(celsius), 0.035 * speed
    rough = 1e-4
    for _ in range(40):
        rough = charnock * u * u / GRAVITY + 0.11 * nu / u
        new = VON_KARMAN * speed / np.log(height / rough)
        if abs(new - u) < 1e-12:
            break
        u = float(new)
    return u, rough


def at_height(speed: float, given_at: float, height: float, charnock: float = CHARNOCK, celsius: float = 15.0) -> float:
    """Mean wind [m/s] at `height`, where it blows `speed` at the height `given_at` [m]; heights below 0.3 m count as
    0.3 m.
    """
    if speed <= 0:
        return 0.0
    friction, rough = _friction(speed, given_at, charnock, celsius)
    return float(friction / VON_KARMAN * np.log(max(height, LEAST_HEIGHT) / rough))


def apparent(wind: Array | float, speed: Array | float, angle: Array | float) -> tuple[Array, Array]:
    """Apparent wind [m/s] and its angle off the bow [rad], for a true wind at `angle` off the bow and a board's
    `speed`.
    """
    ahead = np.asarray(wind) * np.cos(angle) + np.asarray(speed)
    across = np.asarray(wind) * np.sin(angle)
    return np.hypot(ahead, across), np.arctan2(across, ahead)
