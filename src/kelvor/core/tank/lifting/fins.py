"""Fins: lift and drag of a set at an angle of yaw, stall and ventilation margins, and which fin carries when.

Each fin is half of a wing mirrored in the bottom (Hoerner and Borst 1975,
Fluid-Dynamic Lift, ch. 3, from memory): effective aspect ratio 2·span²/area and
the slope of a plate of it. Fins under a flat bottom do not meet the surface; a fin whose
root is within a chord of it ventilates earlier.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from math import cos, sin

import numpy as np

from kelvor.core.base.figures import Method
from kelvor.core.base.values import frozen
from kelvor.core.shape.parts.fittings import Fin, FinBox
from kelvor.core.tank.laws.wings import induced_drag, plate_slope

METHOD = Method(
    "each fin as half a wing under the bottom, side force shared by lift slope",
    "Helmbold 1942 less a converged lattice's difference; Hoerner & Borst 1975 (from memory)",
    "smooth stiff fins, board level, fins under the bottom",
)
ENGAGING = Method(
    "yaw at which a fin's own angle of attack is nothing, from toe and cant",
    "geometry of the set",
    "small angles, no flow across",
)
BAND = 0.15
"""Share by which forces of real fins part from the smooth template (finish, flex, flow under the board)."""


@frozen
class FinLaw:
    """Section data of fins: profile drag, greatest lift, and the lift at which one near the surface draws air."""

    profile_drag: float
    lift_most: float
    ventilation: float


@frozen
class SetFin:
    """One fin of a set: area [m²], lift slope [1/rad], effective aspect ratio, place [m from the tail], toe and cant
    [rad].

    `side` is 1 to port, −1 to starboard, 0 on the centreline; `toe` turns its nose to the centre.
    """

    name: str
    area: float
    slope: float
    aspect: float
    span: float
    x: float
    toe: float = 0.0
    cant: float = 0.0
    side: int = 0

    def attack(self, yaw: float) -> float:
        """Angle of attack [rad] at a yaw of the board, positive when the fin lifts to port."""
        return yaw * cos(self.cant) - self.side * self.toe


def fin_of(fin: Fin, x: float, name: str = "", toe: float = 0.0, cant: float = 0.0, side: int = 0) -> SetFin:
    """A template as a wing; `x` is the place of its quarter chord [m from the tail]."""
    area = max(fin.area, 1e-6)
    aspect = 2 * fin.span**2 / area
    return SetFin(name or fin.name, area, float(plate_slope(aspect)), aspect, fin.span, x, toe, cant, side)


def fins_of(boxes: tuple[FinBox, ...], length: float, mast: float | None) -> tuple[SetFin, ...]:
    """Every fin of a board; pairs count twice."""
    found: list[SetFin] = []
    for box in boxes:
        fin = box.fin
        x = box.at.x(length, mast) + 0.75 * fin.base - 0.5 * fin.span * float(np.tan(fin.rake))
        if box.count == 1:
            found.append(fin_of(fin, x, box.name))
        else:
            found += [fin_of(fin, x, box.name, box.toe, box.cant, side) for side in (1, -1)]
    return tuple(found)


@frozen
class FinLoad:
    """A set that holds a side force: leeway [rad], drag [N], how near its most loaded fin is to stall and to drawing
    air.

    Margins are shares of the lift left: 0 is stall, below 0 it lets go. `up` is the lift upward that cant and heel give
    [N].
    """

    leeway: float
    drag: float
    stall_margin: float
    ventilation_margin: float
    up: float
    most: str

    @property
    def margin(self) -> float:
        """The smaller of the two."""
        return min(self.stall_margin, self.ventilation_margin)


def hold(
    fins: tuple[SetFin, ...], force: float, speed: float, density: float, law: FinLaw, heel: float = 0.0
) -> FinLoad | None:
    """The set holding `force` [N] to port, across the board, at `speed`; None without fins."""
    if not fins or speed <= 0:
        return None
    q = density * speed**2 / 2
    gain = sum(q * f.area * f.slope * cos(f.cant) ** 2 for f in fins)
    at_rest = sum(q * f.area * f.slope * f.attack(0.0) * cos(f.cant) for f in fins)
    yaw = (force - at_rest) / gain
    drag = up = 0.0
    worst, name = 0.0, fins[0].name
    for f in fins:
        lift = f.slope * f.attack(yaw)
        drag += q * f.area * (law.profile_drag + induced_drag(lift, f.aspect))
        up += q * f.area * lift * sin(f.cant * f.side + heel)
        if abs(lift) > worst:
            worst, name = abs(lift), f.name
    return FinLoad(yaw, drag, 1 - worst / law.lift_most, 1 - worst / law.ventilation, up, name)


def engaging(fins: tuple[SetFin, ...]) -> tuple[tuple[str, float], ...]:
    """The yaw [rad] towards port at which each fin begins to lift to port, in order."""
    found = []
    for f in fins:
        side = {1: ", inside", -1: ", outside", 0: ""}[f.side]
        found.append((f"{f.name}{side}", f.side * f.toe / cos(f.cant)))
    return tuple(sorted(found, key=lambda item: item[1]))


@lru_cache(maxsize=64)
def ladder(fin: Fin, lengths: tuple[float, ...], x: float) -> tuple[SetFin, ...]:
    """The same template at other lengths: chord grows as span to 0.3, as fin families are drawn: some 280 cm² at 33 cm,
    360 at 40 (common practice).
    """
    return tuple(
        fin_of(replace(fin, span=span, base=fin.base * (span / fin.span) ** 0.3), x, f"{span * 100:.0f} cm")
        for span in lengths
    )
