"""A board planing: for each trim the wetted length that carries the load, its drag and its centre of pressure.

Savitsky 1964 gives the flat prism of the mean beam and deadrise over the wetted
length; a vortex lattice with the buttocks as camber gives what rocker and
hollows change (a planing bottom at speed acts as the lower half of a thin wing).
Suction at the tail is cut off, since the water lets go there.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from kelvor.core.figures import Method
from kelvor.core.fluids import GRAVITY
from kelvor.core.friction import ittc57
from kelvor.core.planing import savitsky
from kelvor.core.planing.bottom import PlaningBottom
from kelvor.core.shape.battens import Array

METHOD = Method(
    "Savitsky's laws on the running bottom, rocker by a vortex lattice, trim chosen by the rider for least drag",
    "Savitsky 1964; Katz & Plotkin 2001", "speed coefficient 0.6 to 13, trim 2 to 15°, wetted at most four beams",
)  # fmt: skip
TRIMS = np.radians(np.arange(1.0, 13.01, 0.5))
"""Trims of the tail tangent a rider may choose from [rad]; below 2° a board floats along, Savitsky's laws begin there."""


@dataclass(frozen=True, slots=True, eq=False)
class PlaningStates:
    """All trims at one load and speed, each array (t,).

    `found` is where the whole bottom could carry the load.
    """

    trim: Array
    wetted: Array
    drag: Array
    centre: Array
    beam: Array
    area: Array
    found: NDArray[np.bool_]
    cv: float

    def best(self) -> int | None:
        """Index of the trim of least drag; None where none carries the load."""
        return int(np.argmin(np.where(self.found, self.drag, np.inf))) if self.found.any() else None


@dataclass(frozen=True, slots=True, eq=False)
class _Lifts:
    lift: Array
    slope: Array
    ahead: Array
    effective: Array


def _lifts(bottom: PlaningBottom, trims: Array) -> _Lifts:
    """Lattice by trim and length (t, j): effective trim, slope by which lift drags [rad], shift of its centre [m]."""
    plain = trims[:, None, None] * bottom.flat[None]
    lift = np.maximum(plain + bottom.curved[None], 0.0)
    total, flat = np.maximum(lift.sum(axis=2), 1e-12), plain.sum(axis=2)
    slope = np.sum(lift * (trims[:, None, None] + bottom.slope[None]), axis=2) / total
    centre = np.sum(lift * bottom.ahead[None], axis=2) / total - np.sum(plain * bottom.ahead[None], axis=2) / flat
    return _Lifts(total / flat, slope, centre, trims[:, None] * total / flat)


class Planer:
    """A planing bottom ready to be asked at many loads and speeds."""

    def __init__(self, bottom: PlaningBottom, density: float, viscosity: float, trims: Array = TRIMS) -> None:
        self.bottom, self.density, self.viscosity, self.trims = bottom, density, viscosity, trims
        self._lattice = _lifts(bottom, trims)
        self._wet = bottom.lengths / bottom.beam
        self.reference_beam = float(bottom.beam[len(bottom.beam) // 2])

    @property
    def whole_slope(self) -> Array:
        """Slope by which lift drags with the whole bottom wet, rocker in it, at each trim (t,) [rad]."""
        slope: Array = self._lattice.slope[:, -1]
        return slope

    def capacity(self, speed: float, *, moving: bool = False) -> Array:
        """Lift [N] at each trim and wetted length (t, j); `moving` counts only what speed makes."""
        bottom = self.bottom
        cv = speed / np.sqrt(GRAVITY * bottom.beam)
        flat = (savitsky.moving_lift(self._lattice.effective, self._wet[None]) if moving
                else savitsky.flat_lift(self._lattice.effective, self._wet[None], cv[None]))  # fmt: skip
        drop = 0.0065 * np.degrees(bottom.rise)[None] * flat**0.60
        lift: Array = self.density * speed**2 / 2 * bottom.beam[None] ** 2 * np.maximum(flat - drop, 0.0)
        return lift

    def states(self, weight: float, speed: float) -> PlaningStates:
        """The board carrying `weight` [N] at `speed` [m/s], at every trim."""
        bottom, trims = self.bottom, self.trims
        lift = np.maximum.accumulate(self.capacity(speed), axis=1)
        found = (lift[:, -1] >= weight) & (trims >= savitsky.TRIM_RANGE[0] - 1e-9)
        # how far along the lengths the load is carried, shorter than the shortest by the root law of lift
        at = np.sum(lift < weight, axis=1)
        upper = np.clip(at, 1, lift.shape[1] - 1)
        rows = np.arange(len(trims))
        low, high = lift[rows, upper - 1], lift[rows, upper]
        t = np.clip((weight - low) / np.maximum(high - low, 1e-9), 0.0, 1.0)

        def between(values: Array) -> Array:
            full = np.broadcast_to(values, lift.shape)
            picked: Array = full[rows, upper - 1] * (1 - t) + full[rows, upper] * t
            return picked

        wetted, beam, rise = between(bottom.lengths[None]), between(bottom.beam[None]), between(bottom.rise[None])
        short = weight < lift[:, 0]
        wetted = np.where(short, bottom.lengths[0] * np.clip(weight / np.maximum(lift[:, 0], 1e-9), 0.02, 1.0) ** 2, wetted)
        slope, shift = between(self._lattice.slope), between(self._lattice.ahead)
        ratio = np.maximum(wetted / beam, 1e-3)
        cv = speed / np.sqrt(GRAVITY * beam)
        along = savitsky.bottom_speed(speed, between(self._lattice.effective), ratio, 0.0)
        coefficient = ittc57(along * wetted / self.viscosity)
        area = wetted * beam / np.cos(rise)
        rubbing = self.density * along**2 * area * coefficient / 2
        drag = weight * np.tan(slope) + rubbing / np.cos(trims)
        centre = savitsky.pressure_centre(ratio, cv) * wetted + np.where(short, 0.0, shift)
        return PlaningStates(trims, wetted, drag, centre, beam, area, found, float(cv.mean()))

    def lifted(self, weight: float, speed: float) -> Array:
        """Share of the weight that speed alone would lift with the whole bottom wet, at each trim (t,), at most 1."""
        share: Array = np.minimum(self.capacity(speed, moving=True)[:, -1] / max(weight, 1e-6), 1.0)
        return share


def pressure(bottom: PlaningBottom, wetted: float, trim: float) -> tuple[Array, Array, Array]:
    """Pressure over the wetted patch, panel by panel.

    Panels' ends ahead of the release [m] (p, 2), across in shares of the half-width (p, 2), pressure over its most (p,).
    """
    j = int(np.argmin(np.abs(bottom.lengths - wetted)))
    net = bottom.lattices[j]
    lift = np.maximum(trim * bottom.flat[j] + bottom.curved[j], 0.0) / net.area
    row, column = np.divmod(np.arange(net.chord * net.span), net.span)
    along = wetted * (1 - np.stack([row + 1, row], axis=1) / net.chord)
    across = np.sin(np.stack([column, column + 1], axis=1) * np.pi / 2 / net.span)
    return along, across, lift / max(float(lift.max()), 1e-12)
