"""A track: where somebody was, when, and how fast the watch said."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from kelvor.core.shape.battens import Array

Which = NDArray[np.bool_] | NDArray[np.intp]
SEMI_MAJOR, FLATTENING = 6_378_137.0, 1 / 298.257223563
"""WGS 84: the ellipsoid positions are given on [m], by definition."""
_E2 = FLATTENING * (2 - FLATTENING)


@dataclass(frozen=True, slots=True, eq=False, kw_only=True)
class Track:
    """Fixes as they came.

    Attributes
    ----------
    seconds:
        Time of each fix since 1970, UTC (n,) [s].
    latitude, longitude:
        On WGS 84 (n,) [rad].
    doppler:
        Speed over ground as the receiver measured it (n,) [m/s], NaN where it said none; None where it never did.
    device:
        What kept it, as the file says.
    simulated:
        Whether a stand-in said it.
    """

    seconds: Array
    latitude: Array
    longitude: Array
    doppler: Array | None = None
    device: str = ""
    simulated: bool = False

    def only(self, which: Which) -> Track:
        """The fixes at these places, or those for which `which` is true."""
        return Track(
            seconds=self.seconds[which],
            latitude=self.latitude[which],
            longitude=self.longitude[which],
            doppler=self.doppler[which] if self.doppler is not None else None,
            device=self.device,
            simulated=self.simulated,
        )


def laid_flat(latitude: Array, longitude: Array) -> tuple[Array, Array]:
    """Metres east and north of the middle fix (n,), (n,), by the ellipsoid's radii of curvature halfway between each
    fix and the middle: M = a(1−e²)/(1−e² sin²φ)^1.5 along a meridian, N = a/√(1−e² sin²φ) across it.

    Over a day's sailing it is as good as a geodesic (checked against geographiclib in the tests).
    """
    middle, meridian = float(np.median(latitude)), float(np.median(longitude))
    halfway = 0.5 * (latitude + middle)
    bulge = 1 - _E2 * np.sin(halfway) ** 2
    turn = np.remainder(longitude - meridian + np.pi, 2 * np.pi) - np.pi
    east = SEMI_MAJOR / np.sqrt(bulge) * np.cos(halfway) * turn
    north = SEMI_MAJOR * (1 - _E2) / bulge**1.5 * (latitude - middle)
    return east, north
