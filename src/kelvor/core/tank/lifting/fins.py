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

from kelvor.core.base.arrays import Array
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


THICKNESSES = np.array([0.06, 0.08, 0.09, 0.10, 0.12, 0.14, 0.15])
"""Thicknesses of sections that were looked at, over the chord."""
_DRAGS = np.array([0.00518, 0.00538, 0.00553, 0.00575, 0.00634, 0.00694, 0.00727])
_LIFTS = np.array([0.90, 0.92, 1.055, 1.166, 1.256, 1.278, 1.285])
"""Drag without lift, and greatest lift, of NACA 0006 to 0015 at a Reynolds number of 5e5: neuralfoil 0.3.3, large,
n_crit 9; the table's coefficients are those of 9 %, and of 10 to 12 %.
"""
_DRAG_AT, _LIFT_AT = 0.09, 0.11
FLAT_INSIDE = 0.80
"""Angle at which a section flat on its inside lifts nothing, over its thickness [rad]: 4.1° at 9 % (neuralfoil 0.3.3);
thin wings say 1.
"""


def _relative(values: Array, thickness: float, to: float) -> float:
    return float(np.interp(thickness, THICKNESSES, values) / np.interp(to, THICKNESSES, values))


@frozen
class FinLaw:
    """Section data of fins: profile drag of one 9 % thick, greatest lift, and the lift at which one near the surface
    draws air, of 10 to 12 %.
    """

    profile_drag: float
    lift_most: float
    ventilation: float

    def drag_of(self, fin: SetFin) -> float:
        """Profile drag coefficient of a fin by its thickness."""
        return self.profile_drag * _relative(_DRAGS, fin.thickness, _DRAG_AT)

    def most_of(self, fin: SetFin) -> float:
        """Greatest lift coefficient of a fin by its thickness."""
        return self.lift_most * _relative(_LIFTS, fin.thickness, _LIFT_AT)

    def draws_air(self, fin: SetFin) -> float:
        """Lift coefficient at which a fin draws air: a thin nose does so earlier, as it stalls earlier (judgement)."""
        return self.ventilation * _relative(_LIFTS, fin.thickness, _LIFT_AT)

    def lets_go(self, fin: SetFin) -> float:
        """Lift coefficient at which a fin lets go, by whichever comes first."""
        return min(self.most_of(fin), self.draws_air(fin))


@frozen
class SetFin:
    """One fin of a set: area [m²], lift slope [1/rad], effective aspect ratio, place [m from the tail], toe and cant
    [rad].

    `side` is 1 to port, −1 to starboard, 0 on the centreline; `toe` turns its nose to the centre, by its lift: a
    section flat on its inside lifts outward by itself, as if it were toed out.
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
    thickness: float = 0.09

    def attack(self, yaw: float) -> float:
        """Angle of attack [rad] at a yaw of the board, positive when the fin lifts to port."""
        return yaw * cos(self.cant) - self.side * self.toe


def fin_of(fin: Fin, x: float, name: str = "", toe: float = 0.0, cant: float = 0.0, side: int = 0) -> SetFin:
    """A template as a wing; `x` is the place of its quarter chord [m from the tail]."""
    area = max(fin.area, 1e-6)
    aspect = 2 * fin.span**2 / area
    if side and fin.section == "flat inside":
        toe -= FLAT_INSIDE * fin.thickness
    return SetFin(
        name or fin.name, area, float(plate_slope(aspect)), aspect, fin.span, x, toe, cant, side, fin.thickness
    )


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

    `lift` is the most loaded fin's coefficient. Margins are shares of the lift left: 0 is stall, below 0 it lets go.
    `up` is the lift upward that cant and heel give [N].
    """

    leeway: float
    drag: float
    stall_margin: float
    ventilation_margin: float
    up: float
    most: str
    lift: float

    @property
    def margin(self) -> float:
        """The smaller of the two."""
        return min(self.stall_margin, self.ventilation_margin)


def fins_holding(
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
    worst, name, stall, ventilation = 0.0, fins[0].name, 1.0, 1.0
    for f in fins:
        lift = f.slope * f.attack(yaw)
        drag += q * f.area * (law.drag_of(f) + induced_drag(lift, f.aspect))
        up += q * f.area * lift * sin(f.cant * f.side + heel)
        stall = min(stall, 1 - abs(lift) / law.most_of(f))
        ventilation = min(ventilation, 1 - abs(lift) / law.draws_air(f))
        if abs(lift) > worst:
            worst, name = abs(lift), f.name
    return FinLoad(yaw, drag, stall, ventilation, up, name, worst)


def engaging(fins: tuple[SetFin, ...]) -> tuple[tuple[str, float], ...]:
    """The yaw [rad] towards port at which each fin begins to lift to port, in order."""
    found = []
    for f in fins:
        side = {1: ", inside", -1: ", outside", 0: ""}[f.side]
        found.append((f"{f.name}{side}", f.side * f.toe / cos(f.cant)))
    return tuple(sorted(found, key=lambda item: item[1]))


@lru_cache(maxsize=64)
def scaled_fins(fin: Fin, lengths: tuple[float, ...], x: float) -> tuple[SetFin, ...]:
    """The same template at other lengths: chord grows as span to 0.3, as fin families are drawn: some 280 cm² at 33 cm,
    360 at 40 (common practice).
    """
    return tuple(
        fin_of(replace(fin, span=span, base=fin.base * (span / fin.span) ** 0.3), x, f"{span * 100:.0f} cm")
        for span in lengths
    )
