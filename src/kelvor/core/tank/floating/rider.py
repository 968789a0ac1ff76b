"""The rider in the water: a body of upright columns for each posture.

Segment masses and lengths as shares of body mass and height: Winter,
Biomechanics and Motor Control of Human Movement, 4th ed. (2009), table 4.1 and
figure 4.1 after Dempster 1955 and Drillis and Contini 1966; values from
memory. Mean body density 985 kg/m³ at half-filled lungs (common value, from
memory). Limb angles of the postures: common practice, no source.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.tank.floating.clipping import Immersion, WaterPlane

Posture = Literal["kneeling", "standing", "sitting", "prone"]
BODY_DENSITY = 985.0
"""Mean density of the body [kg/m³]."""

_MASS = {"foot": 0.0145, "shank": 0.0465, "thigh": 0.100, "trunk": 0.497, "arm": 0.050, "head": 0.081}
_SHANK, _THIGH, _TRUNK, _HEAD, _FOOT = 0.246, 0.245, 0.288, 0.182, 0.152
_SLICES = 4


@frozen(eq=False)
class Body:
    """Upright columns standing for the rider, placed relative to the contact point.

    x, y: place [m]; bottom, top: heights above the deck there [m]; volume [m³]; all (k,).
    `mass` [kg] and centre (x, z) [m] relative to the contact point on the deck.
    """

    x: Array
    y: Array
    bottom: Array
    top: Array
    volume: Array
    mass: float
    centre_x: float
    centre_z: float

    def immersion(self, plane: WaterPlane, at_x: float, deck_z: float) -> Immersion:
        """Immersed volume and moments with the contact point at (at_x, deck_z)."""
        x = self.x + at_x
        water = plane.depth + plane.pitch * x + plane.roll * self.y - deck_z
        share = np.clip((water - self.bottom) / (self.top - self.bottom), 0.0, 1.0)
        v = self.volume * share
        z = deck_z + self.bottom + share * (self.top - self.bottom) / 2
        return Immersion(float(v.sum()), float(v @ x), float(v @ self.y), float(v @ z))

    def upright_on(self, slope: float) -> Body:
        """The body upright on a base line that rises `slope` per metre in the board's frame."""
        middle = (self.bottom + self.top) / 2
        return replace(self, x=self.x - slope * middle, centre_x=self.centre_x - slope * self.centre_z)

    def immersed_share(self, plane: WaterPlane, at_x: float, deck_z: float) -> float:
        """Share of the body's volume under water."""
        return self.immersion(plane, at_x, deck_z).volume / float(self.volume.sum())


def rider_body(posture: Posture, mass: float, height: float, stance: float, half_width: float) -> Body:
    """The body of a rider of this mass [kg] and height [m].

    The contact point is the middle of the knees, of the feet, of the seat, or of the trunk.
    Standing feet are `stance` apart along the board [m]; seated, the shanks
    hang outside a board of this half-width [m].
    """
    h = height
    columns: list[tuple[float, float, float, float, float]] = []

    def limb(share: float, start: tuple[float, float, float], end: tuple[float, float, float], thick: float) -> None:
        for i in range(_SLICES):
            t = (i + 0.5) / _SLICES
            x, y, z = (s + t * (e - s) for s, e in zip(start, end, strict=True))
            tall = max(thick, abs(end[2] - start[2]) / _SLICES)
            columns.append((x, y, z - tall / 2, z + tall / 2, share / _SLICES))

    limb_thick = 0.055 * h
    if posture == "kneeling":
        for y in (-0.10, 0.10):
            limb(_MASS["shank"], (0.0, y, limb_thick / 2), (-_SHANK * h, y, limb_thick / 2), limb_thick)
            limb(_MASS["foot"], (-_SHANK * h, y, 0.03), (-(_SHANK + 0.5 * _FOOT) * h, y, 0.03), 0.05)
            limb(_MASS["thigh"], (0.0, y, limb_thick), (-0.5 * _THIGH * h, y, limb_thick + 0.866 * _THIGH * h), 0.08)
        hip = (-0.5 * _THIGH * h, 0.0, limb_thick + 0.866 * _THIGH * h)
        lean = 0.25
    elif posture == "standing":
        hip_height = 0.46 * h
        for x in (-stance / 2, stance / 2):
            limb(_MASS["foot"], (x, -0.08, 0.03), (x, 0.08, 0.03), 0.06)
            limb(_MASS["shank"] + _MASS["thigh"], (x, 0.0, 0.05), (0.25 * x, 0.0, hip_height), 0.08)
        hip = (0.0, 0.0, hip_height)
        lean = 0.0
    elif posture == "prone":
        limb(_MASS["trunk"], (-0.5 * _TRUNK * h, 0.0, 0.09), (0.5 * _TRUNK * h, 0.0, 0.11), 0.16)
        limb(_MASS["head"], (0.5 * _TRUNK * h, 0.0, 0.17), (0.5 * _TRUNK * h + _HEAD * h, 0.0, 0.24), 0.16)
        for y in (-0.09, 0.09):
            limb(_MASS["thigh"], (-0.5 * _TRUNK * h, y, 0.06), (-(0.5 * _TRUNK + _THIGH) * h, y, 0.06), 0.11)
            limb(
                _MASS["shank"] + _MASS["foot"],
                (-(0.5 * _TRUNK + _THIGH) * h, y, 0.05),
                (-(0.5 * _TRUNK + _THIGH + _SHANK) * h, y, 0.07),
                0.08,
            )
        for y in (-half_width - 0.03, half_width + 0.03):
            limb(_MASS["arm"], (0.4 * _TRUNK * h, 0.6 * y, 0.10), (0.55 * _TRUNK * h, y, -0.10), 0.06)
        return _body(columns, mass)
    else:
        side = half_width + 0.03
        for y in (-side, side):
            limb(_MASS["thigh"], (0.0, 0.4 * y, 0.04), (0.18 * h, y, 0.0), 0.08 * h)
            limb(_MASS["shank"] + _MASS["foot"], (0.18 * h, y, 0.0), (0.16 * h, y, -_SHANK * h), 0.08)
        hip = (0.0, 0.0, 0.05 * h)
        lean = 0.05
    shoulder = (hip[0] + lean * _TRUNK * h, 0.0, hip[2] + (1 - lean**2) ** 0.5 * _TRUNK * h)
    limb(_MASS["trunk"], hip, shoulder, 0.1)
    limb(2 * _MASS["arm"], shoulder, (shoulder[0] + 0.2 * h, 0.0, shoulder[2] + 0.12 * h), 0.1)
    limb(_MASS["head"], shoulder, (shoulder[0], 0.0, shoulder[2] + _HEAD * h), 0.1)
    return _body(columns, mass)


def _body(columns: list[tuple[float, float, float, float, float]], mass: float) -> Body:
    table = np.array(columns)
    share = table[:, 4]
    middle = (table[:, 2] + table[:, 3]) / 2
    return Body(
        table[:, 0],
        table[:, 1],
        table[:, 2],
        table[:, 3],
        share * mass / BODY_DENSITY,
        mass,
        float(share @ table[:, 0]),
        float(share @ middle),
    )
