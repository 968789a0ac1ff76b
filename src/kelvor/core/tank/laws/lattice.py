"""A vortex lattice on a thin, nearly flat surface.

Katz and Plotkin (2001), Low-Speed Aerodynamics, 2nd ed., sections 12.1 and 13.1:
horseshoes at the quarter, flow tangent at three quarters of each panel, wakes
straight aft. The planform is symmetric and given by half-widths at the panels'
edges along the stream.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen


@frozen(eq=False)
class Lattice:
    """Panels of one half, and what a unit slope at any of them lifts.

    Attributes
    ----------
    chord, span:
        Panels along and across.
    x, y:
        Of the control points, from the leading edge aft and from the centre [m], (chord·span,).
    bound:
        Places of the bound vortices from the leading edge [m].
    area:
        Of both halves' panels [m²].
    inverse:
        Circulation over stream speed [m] at each panel for downwash over stream speed at each.
    width:
        Across, both halves [m].
    """

    chord: int
    span: int
    x: Array
    y: Array
    bound: Array
    area: Array
    inverse: Array
    width: Array

    def lift(self, slope: Array | float) -> Array:
        """Lift of each panel pair over stream pressure [m²] for local slopes against the stream [rad]."""
        circulation = self.inverse @ np.broadcast_to(np.asarray(slope, float), self.x.shape)
        lift: Array = 2 * circulation * self.width
        return lift


def lattice(x: Array, half: Array, chord: int, span: int) -> Lattice:
    """Panels of a planform.

    Parameters
    ----------
    x, half:
        Places from the leading edge aft (n,), increasing, and half-widths there (n,) [m].
    chord, span:
        Panels along the stream, and across one half.
    """
    edges = np.linspace(x[0], x[-1], chord + 1)
    share = np.sin(np.linspace(0.0, np.pi / 2, span + 1))  # finer at the tips, where the lift falls off
    dx = np.diff(edges)
    forward, middle = edges[:-1] + dx / 4, edges[:-1] + 3 * dx / 4
    b_bound, b_control = np.interp(forward, x, half), np.interp(middle, x, half)
    y1, y2 = np.outer(b_bound, share[:-1]), np.outer(b_bound, share[1:])
    yc = np.outer(b_control, np.sin((np.arange(span) + 0.5) * np.pi / 2 / span))
    xb = np.repeat(forward[:, None], span, axis=1)
    xc = np.repeat(middle[:, None], span, axis=1)
    width = y2 - y1
    area = 2 * width * dx[:, None]
    xp, yp = xc.ravel(), yc.ravel()
    xv, a, b = xb.ravel(), y1.ravel(), y2.ravel()
    influence = _horseshoe(xp, yp, xv, a, b) + _horseshoe(xp, yp, xv, -b, -a)
    inverse = np.asarray(np.linalg.inv(influence), float)
    return Lattice(chord, span, xp, yp, xv, area.ravel(), inverse, 2 * width.ravel())


def _horseshoe(xp: Array, yp: Array, xv: Array, y1: Array, y2: Array) -> Array:
    """Downwash at the points of unit horseshoes, each from y1 to y2 at xv with wakes aft, over 4π; shape (points,
    vortices).
    """
    dx = xp[:, None] - xv[None, :]
    d1, d2 = yp[:, None] - y1[None, :], yp[:, None] - y2[None, :]
    r1, r2 = np.hypot(dx, d1), np.hypot(dx, d2)
    safe = np.where(np.abs(dx) < 1e-12, 1e-12, dx)
    with np.errstate(divide="ignore", invalid="ignore"):
        bound = (d1 / r1 - d2 / r2) / safe
        wakes = (1 + dx / r1) / d1 - (1 + dx / r2) / d2
    return (bound + wakes) / (4 * np.pi)
