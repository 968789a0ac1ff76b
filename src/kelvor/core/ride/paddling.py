"""Paddling: watts against drag, what a stroke loses, how long a start takes."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.values import frozen
from kelvor.core.ride.model import RideModel, Running
from kelvor.core.tank.displacement.hull import ImmersedForm
from kelvor.core.tank.laws.wings import plate_slope

METHOD = Method(
    "drag of the floating hull against the paddler's power through the blade",
    "ITTC 1957; Hogner 1932 and Michell 1898; stroke efficiency of the table",
    "flat water, steady stroke, Froude below 0.6",
)
START = Method(
    "stroke's push down a straight line of force over speed to the paddler's greatest power, against the drag, board "
    "and water moving along",
    "Hill 1938 (force–velocity, from memory); drag as told for the floating hull",
    "flat water, from rest, stroke after stroke",
)
STROKE_YAW = Method(
    "push of a stroke at the rail against inertia and damping in yaw of board, water and fins",
    "slender-body inertia (Newman 1977, from memory); fins by Helmbold 1942, less a converged lattice's difference",
    "one stroke from a straight course, no steering",
)
TRACKING = Method(
    "side force of fins and mast at an angle to the flow, times their distance from the middle of the waterline",
    "Helmbold 1942, less a converged lattice's difference",
    "small angles, the hull's own side force left out",
)
BURIED = Method(
    "volume of the buried nose times its distance from the volume's centre",
    "Archimedes",
    "still water, nose wholly under",
)


@frozen(eq=False)
class Paddling:
    """Drag of the floating hull over speed: speeds [m/s], drag and its band [N], (n,)."""

    speeds: Array
    drag: Array
    band: Array
    states: tuple[Running, ...]

    def at(self, speed: float) -> float:
        """Drag at a speed [N]."""
        return float(np.interp(speed, self.speeds, self.drag))

    def band_at(self, speed: float) -> float:
        """Half-width of its band [N]."""
        return float(np.interp(speed, self.speeds, self.band))


def paddling(model: RideModel, most: float) -> Paddling:
    """The drag curve of a paddled board up to `most` [m/s]."""
    speeds = np.linspace(0.5, most, 37)
    states = model.curve(speeds)
    return Paddling(speeds, np.array([s.drag for s in states]), np.array([s.band for s in states]), states)


def speed_at(curve: Paddling, watts: float) -> float:
    """Speed at which the drag takes this power [m/s]; the curve's end where it never does."""
    power = np.maximum.accumulate(curve.drag * curve.speeds)
    return float(np.interp(watts, power, curve.speeds))


def glide_loss(model: RideModel, curve: Paddling, speed: float) -> float:
    """Speed lost while the blade is out of the water [m/s]."""
    return curve.at(speed) * model.table.glide_share / model.table.stroke_rate / model.moved


def start_time(model: RideModel, curve: Paddling, pace: float) -> float:
    """Seconds from rest to 95 % of the pace at the peak watts; NaN where they do not get there within a minute.

    A hard stroke from rest pushes as its table says, while the blade is in the water; faster water takes it less and
    less push, down the straight line of force over speed whose greatest power is the paddler's (force–velocity line,
    Hill 1938, from memory).
    """
    power = model.brief.peak_watts * model.table.stroke_efficiency
    mass, v, step, wanted = model.moved, 0.05, 0.05, 0.95 * pace
    at_rest = (1 - model.table.glide_share) * model.table.stroke_push * model.brief.rider.mass * GRAVITY
    no_push = 4 * power / at_rest  # speed at which the line of force ends
    for i in range(1200):
        gain = step * (at_rest * max(1 - v / no_push, 0.0) - curve.at(v)) / mass
        if v + gain >= wanted:
            return (i + (wanted - v) / gain) * step
        v += gain
    return float("nan")


def yaw_per_stroke(model: RideModel, curve: Paddling, speed: float, form: ImmersedForm) -> float:
    """Yaw of one stroke on one side [rad], by the board's own and the water's inertia and the damping of fins
    and hull.
    """
    measured = model.measured
    arm = float(measured.shape.half_width.max()) + model.table.stroke_arm
    pulls = 1 - model.table.glide_share
    push = curve.at(speed) / pulls
    last = pulls / model.table.stroke_rate
    water = model.density * np.pi / 2 * form.draught**2 * form.length**3 / 12
    inertia = model.mass.yaw_about(model.mass.x) + water
    middle = float(form.x.mean())
    damping = model.density * speed * sum(f.area * f.slope * (f.x - middle) ** 2 for f in model.fins)
    damping += model.density * speed * form.draught * form.length * (form.length / 4) ** 2 * model.table.hull_yaw
    rate = push * arm / max(damping, 1e-6)
    settle = inertia / max(damping, 1e-6)
    return float(rate * (last - settle * (1 - np.exp(-last / settle))))


def yaw_hold(model: RideModel, yaw: float, speed: float, form: ImmersedForm) -> float:
    """Moment that turns the board back when it runs `yaw` off its course [N m], fins and mast about the middle of the
    waterline.
    """
    middle = float(form.x.mean())
    q = model.density * speed**2 / 2
    held = sum(f.area * f.slope * (middle - f.x) for f in model.fins)
    mast = model.measured.board.mast_x
    if model.wing is not None and mast is not None:
        chord = model.table.mast_chord
        held += model.wing.mast * chord * float(plate_slope(2 * model.wing.mast / chord)) * (middle - mast)
    return float(q * yaw * held)


def nose_recovery(model: RideModel, buried: float = 0.60) -> float:
    """Moment that brings the nose up when its last `buried` metres are under [N m], about the volume's centre."""
    shape, areas = model.measured.shape, model.measured.areas.area
    ahead = shape.x >= model.measured.board.length - buried
    x = shape.x[ahead]
    return float(model.density * GRAVITY * np.trapezoid(areas[ahead] * (x - model.measured.solid.x), x))
