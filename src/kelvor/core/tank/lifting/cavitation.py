"""Suction peaks of symmetrical sections, and the speed at which they boil the water.

NACA four-digit thickness (Abbott and von Doenhoff 1959, sec. 6.4) and a panel
method of linear vorticity (Kuethe and Chow 1998, Foundations of Aerodynamics,
5th ed., sec. 5.10). Inviscid: real peaks are a little lower, rough noses worse.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import AIR_PRESSURE, GRAVITY

METHOD = Method(
    "suction peak of the section by a panel method against the vapour pressure",
    "Kuethe & Chow 1998; Wagner & Pruss 2002",
    "inviscid, clean nose; a rough one boils earlier",
)
PANELS = 100


def naca_thickness(x: Array, thickness: float) -> Array:
    """Half-thickness of a four-digit section with a closed tail, over the chord."""
    half: Array = 5 * thickness * (0.2969 * np.sqrt(x) - 0.1260 * x - 0.3516 * x**2 + 0.2843 * x**3 - 0.1036 * x**4)
    return half


@lru_cache(maxsize=64)
def _solved(thickness: float) -> tuple[Array, Array, Array]:
    """Surface speeds over the stream at the panels' ends for a stream at 0° and at 90°, (m + 1,); and the panels (2,
    m).
    """
    m = PANELS
    angle = np.linspace(0.0, 2 * np.pi, m + 1)
    x = 0.5 * (1 + np.cos(angle))
    y = naca_thickness(x, thickness) * np.where(angle < np.pi, -1.0, 1.0)
    y[0] = y[-1] = 0.0
    dx, dy = np.diff(x), np.diff(y)
    s = np.hypot(dx, dy)
    theta = np.arctan2(dy, dx)
    xc, yc = x[:-1] + dx / 2, y[:-1] + dy / 2
    px, py = xc[:, None] - x[None, :-1], yc[:, None] - y[None, :-1]
    sj, tj = s[None, :], theta[None, :]
    turn = theta[:, None] - tj
    a = -px * np.cos(tj) - py * np.sin(tj)
    b = px**2 + py**2
    c, d = np.sin(turn), np.cos(turn)
    e = px * np.sin(tj) - py * np.cos(tj)
    f = np.log(1 + sj * (sj + 2 * a) / b)
    g = np.arctan2(e * sj, b + a * sj)
    twice = theta[:, None] - 2 * tj
    q = px * np.cos(twice) - py * np.sin(twice)
    n2 = d + 0.5 * q * f / sj - (a * c + d * e) * g / sj
    n1 = 0.5 * d * f + c * g - n2
    own = np.arange(m)
    n1[own, own], n2[own, own] = -1.0, 1.0
    normal = np.zeros((m + 1, m + 1))
    normal[:m, :m] += n1
    normal[:m, 1:] += n2
    normal[m, 0] = normal[m, m] = 1.0
    speeds = [
        2 * np.pi * np.linalg.solve(normal, np.append(np.sin(theta - direction), 0.0)) for direction in (0.0, np.pi / 2)
    ]
    return speeds[0], speeds[1], np.stack([dx, dy])


def suction_peak(thickness: float, lift: float) -> float:
    """Greatest −Cp of a symmetrical section of this thickness (over the chord) at a lift coefficient."""
    ahead, across, panel = _solved(round(thickness, 4))
    dx, dy = panel[0], panel[1]

    def at(alpha: float) -> tuple[float, float]:
        ends = 1 - (ahead * np.cos(alpha) + across * np.sin(alpha)) ** 2
        cp = (ends[1:] + ends[:-1]) / 2
        force_y, force_x = float(-np.sum(cp * dx)), float(np.sum(cp * dy))
        return float(force_y * np.cos(alpha) - force_x * np.sin(alpha)), float(-ends.min())

    alpha = lift / 6.9
    for _ in range(6):
        found, _ = at(alpha)
        if abs(found - lift) < 1e-6:
            break
        alpha += (lift - found) / 6.9
    return at(alpha)[1]


def cavitation_speed(thickness: float, lift: float, depth: float, density: float, vapour: float) -> float:
    """Speed [m/s] at which the suction peak of a section at `depth` [m] reaches the vapour pressure [Pa]."""
    return float(
        np.sqrt(2 * (AIR_PRESSURE + density * GRAVITY * depth - vapour) / (density * suction_peak(thickness, lift)))
    )
