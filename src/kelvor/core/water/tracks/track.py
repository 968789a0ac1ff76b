"""A track: where somebody was, when, and how fast the watch said."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen

Which = NDArray[np.bool_] | NDArray[np.intp]
SEMI_MAJOR, FLATTENING = 6_378_137.0, 1 / 298.257223563
"""WGS 84: the ellipsoid positions are given on [m], by definition."""
_E2 = FLATTENING * (2 - FLATTENING)


@frozen(kw_only=True, eq=False)
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


def apart(latitude: Array, longitude: Array, first: NDArray[np.intp], last: NDArray[np.intp]) -> Array:
    """How far fixes lie from one another (m,) [m], by the ellipsoid's radii of curvature halfway between them:
    M = a(1−e²)/(1−e² sin²φ)^1.5 along a meridian, N = a/√(1−e² sin²φ) across it (any text on geodesy).

    Over 10 km it is a geodesic to 1e-6 (checked against geographiclib in the tests); a haversine is off by up to 0.3 %.
    """
    along, across = _radii(0.5 * (latitude[first] + latitude[last]))
    turn = _turn(longitude[last] - longitude[first])
    found: Array = np.hypot(across * turn, along * (latitude[last] - latitude[first]))
    return found


def middle_of(latitude: Array, longitude: Array) -> tuple[float, float]:
    """The middle fix a map lies about [rad]."""
    return float(np.median(latitude)), float(np.median(longitude))


def laid_flat(latitude: Array, longitude: Array, about: tuple[float, float] | None = None) -> tuple[Array, Array]:
    """Metres east and north of the middle fix (n,), (n,), or of the place `about` [rad], to draw and to tell headings:
    true to a thousandth over 10 km.
    """
    middle, meridian = about if about is not None else middle_of(latitude, longitude)
    along, across = _radii(0.5 * (latitude + middle))
    return across * _turn(longitude - meridian), along * (latitude - middle)


def _radii(latitude: Array) -> tuple[Array, Array]:
    """Metres a radian of latitude, and of longitude."""
    bulge = 1 - _E2 * np.sin(latitude) ** 2
    return SEMI_MAJOR * (1 - _E2) / bulge**1.5, SEMI_MAJOR / np.sqrt(bulge) * np.cos(latitude)


def _turn(angle: Array) -> Array:
    """Angles the short way round."""
    found: Array = np.remainder(angle + np.pi, 2 * np.pi) - np.pi
    return found
