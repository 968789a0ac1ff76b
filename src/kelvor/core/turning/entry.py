"""A bottom that drops on the water: the pressure of its entry.

Wedges: von Karman 1929, NACA TN 321, and Wagner 1932, ZAMM 12, 193. Below 4° air
and the water's compressibility rule, so the angle is held there; the peak never
passes the acoustic pressure. Use as a ratio between boards.
"""

from __future__ import annotations

from math import pi, tan

from kelvor.core.units import DEGREE

LEAST = 4 * DEGREE
"""Dead rise below which the laws end [rad]."""
SOUND = 1480.0
"""Speed of sound in water [m/s]."""


def von_karman(speed: float, deadrise: float, density: float) -> float:
    """Average pressure at the entry of a wedge [Pa], von Karman 1929."""
    return density * speed**2 / 2 * pi / tan(max(deadrise, LEAST))


def wagner(speed: float, deadrise: float, density: float) -> float:
    """Average pressure with the water's pile-up [Pa], Wagner 1932."""
    return von_karman(speed, deadrise, density) * pi / 2


def acoustic(speed: float, density: float) -> float:
    """Pressure no entry passes [Pa]."""
    return density * SOUND * speed
