"""The board as a Timoshenko beam: three-point test, tips under load, twist, first frequency held at the feet.

References
----------
Unit-load theorem for deflection with bending and shear apart; Allen: Analysis and Design of Structural Sandwich Panels,
1969, ch. 2 (shear of the core). Frequency: Euler beam finite elements (Hermite cubics), consistent masses.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.build.stiffness.sections import Stiffness

POINTS = 401
ELEMENTS = 48


@frozen
class Sag:
    """Deflection of a test, by bending and by core shear [m]."""

    bending: float
    shear: float

    @property
    def total(self) -> float:
        """Both together [m]."""
        return self.bending + self.shear


def _on(grid: Array, found: Stiffness) -> tuple[Array, Array, Array]:
    """EI, S and GJ between stations, by their logarithms: they fall by powers towards the tips."""
    x = found.x
    return tuple(
        np.exp(np.interp(grid, x, np.log(np.maximum(v, 1e-9)))) for v in (found.bending, found.shear, found.twist)
    )  # type: ignore[return-value]


def three_point(found: Stiffness, start: float, end: float, load: float, at: float | None = None) -> Sag:
    """Sag under a load [N] at `at` (the middle) between supports at `start` and `end` [m]."""
    at = (start + end) / 2 if at is None else at
    span = end - start
    x = np.linspace(start, end, POINTS)
    bending, shear, _ = _on(x, found)
    a, b = (end - at) / span, (at - start) / span
    moment = np.where(x < at, a * (x - start), b * (end - x))
    force = np.where(x < at, a, -b)
    return Sag(float(load * np.trapezoid(moment**2 / bending, x)), float(load * np.trapezoid(force**2 / shear, x)))


def tip(found: Stiffness, foot: float, end: float, load: float) -> Sag:
    """Deflection of a tip at `end` under a load [N] there, the board held at `foot` [m]."""
    x = np.linspace(min(foot, end), max(foot, end), POINTS)
    bending, shear, _ = _on(x, found)
    arm = np.abs(end - x)
    return Sag(float(load * np.trapezoid(arm**2 / bending, x)), float(load * np.trapezoid(1 / shear, x)))


def twist(found: Stiffness, start: float, end: float) -> float:
    """Twist between two places for each newton metre [rad/N m]."""
    x = np.linspace(min(start, end), max(start, end), POINTS)
    return float(np.trapezoid(1 / _on(x, found)[2], x))


def first_frequency(found: Stiffness, mass: Array, feet: tuple[float, float]) -> float:
    """First bending frequency with the board pinned at both feet and free beyond [Hz].

    `mass` is per metre at the stations of `found` [kg/m].
    """
    nodes = np.unique(np.concatenate([np.linspace(float(found.x[0]), float(found.x[-1]), ELEMENTS), feet]))
    size = 2 * len(nodes)
    k, m = np.zeros((size, size)), np.zeros((size, size))
    for i, h in enumerate(np.diff(nodes)):
        middle = np.array([(nodes[i] + nodes[i + 1]) / 2])
        ei = float(_on(middle, found)[0][0]) / h**3
        rho = max(float(np.interp(middle[0], found.x, mass)), 1e-6) * h / 420
        at = slice(2 * i, 2 * i + 4)
        k[at, at] += ei * np.array(
            [
                [12, 6 * h, -12, 6 * h],
                [6 * h, 4 * h * h, -6 * h, 2 * h * h],
                [-12, -6 * h, 12, -6 * h],
                [6 * h, 2 * h * h, -6 * h, 4 * h * h],
            ]
        )
        m[at, at] += rho * np.array(
            [
                [156, 22 * h, 54, -13 * h],
                [22 * h, 4 * h * h, 13 * h, -3 * h * h],
                [54, 13 * h, 156, -22 * h],
                [-13 * h, -3 * h * h, -22 * h, 4 * h * h],
            ]
        )
    held = [2 * int(np.argmin(np.abs(nodes - foot))) for foot in feet]
    free = np.setdiff1d(np.arange(size), held)
    kf, mf = k[np.ix_(free, free)], m[np.ix_(free, free)]
    scale = 1 / np.sqrt(np.diag(mf))
    chol = np.linalg.cholesky(mf * scale[:, None] * scale[None, :])
    inner = np.linalg.solve(chol, np.linalg.solve(chol, kf * scale[:, None] * scale[None, :]).T)
    lowest = float(np.linalg.eigvalsh((inner + inner.T) / 2)[0])
    return float(np.sqrt(max(lowest, 0.0)) / (2 * np.pi))
