"""Lift and drag of wings of low aspect ratio: near and far from the surface, beside a wall, holding a side force.

Lift slope: Helmbold (1942), Jahrbuch der deutschen Luftfahrtforschung, I 111.
Induced drag: lifting line with a span factor. Free surface at speed as a
biplane of opposite image: Prandtl (1924), NACA TN 182, for the induced part;
Hough and Moran (1969), J. Ship Research 13, 53, for the chordwise part.
"""

from __future__ import annotations

from typing import overload

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.smooth import clip, step

FLAT_SLOPE = 2 * np.pi
"""Lift slope of a thin section [1/rad]."""
LOSES = 0.43
"""A thin nose loses its suction within this share about the angle at which half of it is lost."""
SPAN_FACTOR = 0.9
"""Induced drag of an elliptic wing over that of real plans (Hoerner 1965, from memory)."""


def helmbold(aspect: Array | float) -> Array:
    """Lift slope [1/rad] of a wing of this aspect ratio."""
    a = np.asarray(aspect, float)
    slope: Array = FLAT_SLOPE * a / (2 + np.sqrt(a**2 + 4))
    return slope


def plate_slope(aspect: Array | float) -> Array:
    """Lift slope [1/rad] of a plate of this aspect ratio: Helmbold's, less what a converged lattice of a rectangle
    shows.

    From 2 % at an aspect ratio of 1 to 7 % from 4 on (own lattice, 8 × 40 panels; within 1 %).
    """
    a = np.asarray(aspect, float)
    slope: Array = helmbold(a) * (1 - 0.073 * a**2 / (a**2 + 1.9))
    return slope


def image_factor(depth_over_span: Array | float) -> Array:
    """Rise of induced drag by the surface, Prandtl's σ for equal wings twice the depth apart."""
    gap = 2 * np.asarray(depth_over_span, float)
    sigma: Array = clip((1 - 0.66 * gap) / (1.055 + 3.7 * gap), 0.0, 1.0)
    return sigma


def surface_ratio(aspect: float, depth_over_chord: Array | float) -> Array:
    """Lift near the surface over lift far below it; depth in chords, valid above about 0.3 and at high Froude
    numbers.
    """
    h = np.maximum(np.asarray(depth_over_chord, float), 0.05)
    sigma = image_factor(h / aspect)
    chordwise = (16 * h**2 + 1) / (16 * h**2 + 2)
    near = chordwise / (1 + 2 * chordwise * (1 + sigma) / aspect)
    ratio: Array = near * (1 + 2 / aspect)
    return ratio


def mirrored(span: float, gap: float) -> float:
    """Span [m] of a wing alone that drags as one of `span` does whose end stands `gap` [m] off a wall.

    Least induced drag is that of the momentum two plates in line shed, one the other's mirror image (Munk 1921, NACA
    Report 121; their added mass by conformal mapping): from √2 spans with no gap to one span with a wide one.
    """
    if gap <= 0:
        return float(np.sqrt(2.0)) * span
    inner = gap / (gap + span)
    shed = 1 + inner**2 - 2 * _complete(np.sqrt(1 - inner**2))
    return float((gap + span) * np.sqrt(2 * shed))


def _complete(modulus: float) -> float:
    """Complete elliptic integral of the second kind over that of the first, by the arithmetic-geometric mean
    (Abramowitz & Stegun 17.6).
    """
    a, b, left, power = 1.0, float(np.sqrt(1 - modulus**2)), modulus**2 / 2, 0.5
    while abs(a - b) > 1e-15 * a:
        a, b, c = (a + b) / 2, float(np.sqrt(a * b)), (a - b) / 2
        power *= 2
        left += power * c**2
    return float(1 - left)


@overload
def induced_drag(lift: float, aspect: float, span_factor: float = ..., sigma: float = ...) -> float: ...
@overload
def induced_drag(lift: Array, aspect: Array | float, span_factor: float = ..., sigma: Array | float = ...) -> Array: ...
def induced_drag(
    lift: Array | float, aspect: Array | float, span_factor: float = SPAN_FACTOR, sigma: Array | float = 0.0
) -> Array | float:
    """Induced drag coefficient of a lift coefficient."""
    drag: Array | float = lift**2 * (1 + sigma) / (np.pi * aspect * span_factor)
    return drag


def holding_drag(side: Array, pressure: Array, grip: Array | float, aspect: Array | float, stall: float) -> Array:
    """Drag [N] of what holds `side` [N] at a stream pressure [Pa]: induced, and once the flow leaves the nose, as a
    plate's.

    `grip` is area times lift slope [m²/rad], `aspect` area times aspect ratio [m²]. A plate's force stands square to it
    (Hoerner & Borst 1975, from memory); about `stall`, where half of the suction at the nose is lost [rad], the
    one passes into the other.
    """
    turned = np.abs(side) / np.maximum(pressure * grip, 1e-9)
    drawn = side**2 / np.maximum(pressure * np.pi * np.maximum(aspect, 1e-6) * SPAN_FACTOR, 1e-9)
    plate = np.maximum(np.abs(side) * np.tan(np.minimum(turned, 1.0)), drawn)
    low = stall * (1 - LOSES)
    drag: Array = drawn + (plate - drawn) * step((turned - low) / (2 * LOSES * stall))
    return drag
