"""A bottom that drops on the water: the pressure of its entry.

Wedges: von Karman 1929, NACA TN 321, and Wagner 1932, ZAMM 12, 193. Rocker lets
a flat down along its length, as a cylinder enters (Wagner 1932): the slower its
area touches down, the softer. What is flatter than some 4° by both, trapped air cushions, where the laws would rise
without end: the cushion is added to the dead rise as the root of squares (judgement), so that a flatter
bottom always strikes harder, by ever less; the peak never passes the acoustic
pressure. Use as a ratio between boards.
"""

from __future__ import annotations

from math import atan, hypot, pi, tan

from kelvor.core.base.figures import Method

METHOD = Method(
    "wedge entry, average pressure on the bottom under the feet at 5 m/s",
    "V and rocker by Wagner 1932; von Karman 1929 (NACA TN 321)",
    "flat water; trapped air cushions what is flatter than 4° by both",
)
CHOP = Method(
    "load of a wedge with the mean V of the forward bottom, against a wedge of 45°",
    "von Karman 1929 (NACA TN 321): load goes with the cotangent of the V",
    "small chop met bottom first; speed is not in it",
)
SOUND = 1480.0
"""Speed of sound in water [m/s]."""


def cushioned(deadrise: float, cushion: float) -> float:
    """The angle a bottom strikes with [rad], trapped air worth `cushion` [rad] of dead rise in it."""
    return hypot(deadrise, cushion)


def rolled_down(curvature: float, length: float) -> float:
    """The V that a rocker of this curvature [1/m] is worth while `length` [m] of flat touches down [rad].

    A cylinder of radius R loads each of its width with 2π ρ R V² (Wagner 1932); over the length that is the average
    pressure of a wedge whose tangent is π/8 of length over radius.
    """
    return atan(pi / 8 * length * abs(curvature))


def touch_down_rate(speed: float, width: float, curvature: float, length: float) -> float:
    """Area of flat that touches down in a second [m²/s], the mean over its length as a cylinder enters."""
    return 16 * width * speed / max(length * abs(curvature), 1e-9)


def von_karman(speed: float, deadrise: float, density: float) -> float:
    """Average pressure at the entry of a wedge [Pa], von Karman 1929."""
    return density * speed**2 / 2 * pi / tan(deadrise)


def wagner(speed: float, deadrise: float, density: float) -> float:
    """Average pressure with the water's pile-up [Pa], Wagner 1932."""
    return von_karman(speed, deadrise, density) * pi / 2


def acoustic(speed: float, density: float) -> float:
    """Pressure no entry passes [Pa]."""
    return density * SOUND * speed
