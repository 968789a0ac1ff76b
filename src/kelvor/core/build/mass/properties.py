"""Mass properties of bodies symmetric about y = 0, and how they add up (Steiner's theorem)."""

from __future__ import annotations

from collections.abc import Iterable

from kelvor.core.base.values import frozen


@frozen(kw_only=True)
class MassProperties:
    """Mass [kg], centre [m] and moments of inertia about axes through it [kg m²].

    `roll`, `pitch`, `yaw` are about axes along x, y and z.
    """

    mass: float
    x: float
    z: float
    roll: float = 0.0
    pitch: float = 0.0
    yaw: float = 0.0

    def yaw_about(self, x: float) -> float:
        """Yaw inertia about an upright axis at `x` [kg m²]."""
        return self.yaw + self.mass * (self.x - x) ** 2

    def roll_about(self, z: float) -> float:
        """Roll inertia about an axis along the board at height `z` [kg m²]."""
        return self.roll + self.mass * (self.z - z) ** 2

    def pitch_about(self, x: float, z: float) -> float:
        """Pitch inertia about an axis across the board at (x, z) [kg m²]."""
        return self.pitch + self.mass * ((self.x - x) ** 2 + (self.z - z) ** 2)


def combined(parts: Iterable[MassProperties]) -> MassProperties:
    """All parts as one; no parts weigh nothing at the origin."""
    items = list(parts)
    mass = sum(p.mass for p in items)
    if mass <= 0:
        return MassProperties(mass=0.0, x=0.0, z=0.0)
    x = sum(p.mass * p.x for p in items) / mass
    z = sum(p.mass * p.z for p in items) / mass
    roll = pitch = yaw = 0.0
    for p in items:
        aside, up = p.mass * (p.x - x) ** 2, p.mass * (p.z - z) ** 2
        roll, pitch, yaw = roll + p.roll + up, pitch + p.pitch + aside + up, yaw + p.yaw + aside
    return MassProperties(mass=mass, x=x, z=z, roll=roll, pitch=pitch, yaw=yaw)
