"""A hydrofoil under its board: lift, drag, the speed that lifts off, roll damping.

Wing by Helmbold's slope with the surface as a biplane of opposite image
(``wings``); mast, fuselage, junctions and spray after Hoerner 1965,
Fluid-Dynamic Drag, ch. 6, 8 and 10 (C 0.24 on thickness squared, from memory).
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Foil
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.laws.wings import helmbold, image_factor, induced_drag, plate_slope, surface_ratio

METHOD = Method(
    "wing by lift slope, the surface as an opposite image; mast, fuselage, junctions and spray",
    "Helmbold 1942; Prandtl 1924 (NACA TN 182); Hough & Moran 1969; Hoerner 1965",
    "wing at least half a chord deep",
)
DAMPING = Method(
    "strip theory on the wing, a plate's drag at rest", "strip theory; Morison 1950 (from memory)", "small slow rolling"
)
STABILISER_ASPECT = 5.0
"""Aspect ratio of a usual stabiliser (common practice, no source)."""
SURFACE_RANGE = (0.5, 3.0)
"""Depth of the wing in chords inside which its surface effect was checked."""


@frozen
class FoilWing:
    """Front wing area [m²] and span [m], the mast under water at rest and the fuselage's length [m]."""

    area: float
    span: float
    mast: float
    fuselage: float = 0.0

    @property
    def aspect(self) -> float:
        """Span squared over area."""
        return self.span**2 / self.area

    @property
    def chord(self) -> float:
        """Mean chord [m]."""
        return self.area / self.span

    def slope(self, depth: Array | float) -> Array:
        """Lift slope [1/rad] at a depth [m]."""
        near: Array = helmbold(self.aspect) * surface_ratio(self.aspect, np.asarray(depth) / self.chord)
        return near


def lifts_ahead(foil: Foil, table: Coefficients) -> float:
    """Where a foil lifts ahead of its mast in steady flight [m]: a stabiliser shimmed nose up lifts, and brings it aft.

    What its shim lifts, over the lift of the wing at the speed it flies with: a thin wing's slope at the stabiliser's
    usual aspect ratio. Set at no shim it is as the rider found it.
    """
    flies = table.foil_lift_most * table.foil_lift_used / table.cruise**2
    lifted = table.stabiliser_share * float(plate_slope(STABILISER_ASPECT)) * foil.shim / flies
    return foil.lift_ahead - foil.fuselage * lifted


def lift_for(wing: FoilWing, lift: Array | float, speed: Array | float, density: float) -> Array:
    """Lift coefficient that carries `lift` [N]."""
    coefficient: Array = np.asarray(lift) / (density * np.asarray(speed) ** 2 / 2 * wing.area)
    return coefficient


def angle_for(wing: FoilWing, coefficient: Array | float, depth: Array | float, zero_lift: float) -> Array:
    """Nose-up pitch of the board's plate [rad] that makes a lift coefficient."""
    angle: Array = np.asarray(coefficient) / wing.slope(depth) - zero_lift
    return angle


def lift_off_speed(wing: FoilWing, weight: float, coefficient: float, density: float) -> float:
    """Speed [m/s] at which the wing carries all at a lift coefficient."""
    return float(np.sqrt(2 * weight / (density * wing.area * coefficient)))


def foil_drag(
    wing: FoilWing,
    lift: Array | float,
    speed: Array | float,
    wet_mast: Array | float,
    density: float,
    table: Coefficients,
) -> Array:
    """Drag [N] of wing, stabiliser, fuselage and mast while the wing lifts `lift` [N] with `wet_mast` [m] of the mast
    under water.
    """
    v, wet = np.asarray(speed, float), np.asarray(wet_mast, float)
    q = density * v**2 / 2
    coefficient = np.asarray(lift) / np.maximum(q * wing.area, 1e-9)
    sigma = image_factor(wet / wing.span)
    profile = (
        table.foil_profile_drag * (1 + table.stabiliser_share)
        + table.foil_lift_drag * np.maximum(coefficient - 0.4, 0.0) ** 2
    )
    wings = q * wing.area * (profile + induced_drag(coefficient, wing.aspect, sigma=sigma))
    strut = q * wet * table.mast_chord * table.mast_profile_drag  # a section's drag is that of both its sides
    body = q * wing.fuselage * table.fuselage_girth * table.fuselage_drag
    # the mast meets the fuselage once, the wing on either side, the stabiliser, of a third of its chord, as well
    thick = (
        (table.mast_chord, table.mast_thickness, 1.0),
        (wing.chord, table.foil_section, 2.0),
        (wing.chord / 3, table.foil_section, 2.0),
    )
    joints = q * sum(n * (chord * share) ** 2 * _junction(share, table) for chord, share, n in thick)
    spray = q * table.mast_spray * (table.mast_chord * table.mast_thickness) ** 2
    drag: Array = wings + strut + body + joints + spray
    return drag


def _junction(thickness: float, table: Coefficients) -> float:
    """Drag of a junction on the square of the thickness, for a thickness over chord; never below nothing."""
    return max(table.junction_drag + 17 * (thickness**2 - 0.1**2), 0.0)


def roll_damping(wing: FoilWing, speed: float, depth: float, density: float, mast_chord: float) -> float:
    """Moment against rolling, per rolling speed [N m s]: strip theory on an elliptic wing under way, cross-flow at
    rest.

    At rest the wing is a plate moved across the water: drag coefficient 2 at a
    rolling speed of 0.5 rad/s (linearised; Morison 1950 with a plate's drag, from memory).
    """
    still = density / 2 * 2.0 * wing.chord * 0.5 * wing.span**4 / 32
    # lever: the wing turns about the waterline, its own depth below
    mast = density / 2 * 1.2 * mast_chord * 0.5 * depth**4 / 4
    moving = density * speed * float(wing.slope(depth)) * wing.area * wing.span**2 / 32
    return float(max(moving, still) + mast)
