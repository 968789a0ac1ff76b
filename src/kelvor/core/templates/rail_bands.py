"""Rail bands: the flats a shaper planes on a square blank before the rail is rounded by hand.

The blank stands square: its deck flat at the height of the deck's centre, its
bottom at the keel, its side upright at the outline. Each flat touches the rail
at its angle, so that what is left outside of the rail is least and never less
than nothing.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.shape.parts.fittings import Side
from kelvor.core.shape.surface.sections import Sections

ANGLES = np.array([90.0, 67.5, 45.0, 22.5, 0.0, -22.5, -45.0, -67.5, -90.0]) * DEGREE
"""Which way each flat faces, from straight up over outward to straight down; the first, the middle and the last are the
blank's own faces.
"""
LEAST = 0.002
"""Narrower flats are left to the sanding block [m]."""


@frozen
class RailBand:
    """A flat of one section: the way it faces [rad], its two corners (y, z) [m], the upper one first."""

    faces: float
    upper: tuple[float, float]
    lower: tuple[float, float]

    @property
    def width(self) -> float:
        """Across the flat [m]."""
        return float(np.hypot(self.upper[0] - self.lower[0], self.upper[1] - self.lower[1]))


@frozen
class BevelCut:
    """A flat at 45° on the square blank: how far in from its side, and as far from its deck or bottom, it begins
    [m].
    """

    side: Side
    inset: float


def rail_bands(shape: Sections, index: int) -> tuple[RailBand, ...]:
    """The flats to plane at the station `index`, from deck to bottom."""
    y, z = shape.y[index], shape.z[index]
    normals = np.stack([np.cos(ANGLES), np.sin(ANGLES)], axis=1)
    reach = np.max(y[None] * normals[:, :1] + z[None] * normals[:, 1:], axis=1)
    reach[0] = max(reach[0], float(shape.deck[index]))
    corners = [_meet(normals[i], reach[i], normals[i + 1], reach[i + 1]) for i in range(len(ANGLES) - 1)]
    found = (
        RailBand(
            float(ANGLES[i]),
            (float(corners[i - 1][0]), float(corners[i - 1][1])),
            (float(corners[i][0]), float(corners[i][1])),
        )
        for i in range(1, len(ANGLES) - 1)
        if ANGLES[i] != 0.0
    )
    return tuple(band for band in found if band.width >= LEAST)


def first_cuts(shape: Sections, index: int) -> tuple[BevelCut, ...]:
    """Where the first flats, half way between face and side, leave the square blank at a station: on the deck and on
    the bottom.
    """
    y, z = shape.y[index], shape.z[index]
    side, half = float(y.max()), np.sqrt(0.5)
    found = []
    for up, face in ((1.0, max(float(z.max()), float(shape.deck[index]))), (-1.0, float(z.min()))):
        reach = float(np.max(half * (y + up * z)))
        inset = side - (reach / half - up * face)
        if inset >= LEAST:
            found.append(BevelCut("deck" if up > 0 else "bottom", inset))
    return tuple(found)


def _meet(a: Array, reach_a: float, b: Array, reach_b: float) -> Array:
    """Where two lines a·p = reach meet."""
    found: Array = np.linalg.solve(np.stack([a, b]), np.array([reach_a, reach_b]))
    return found
