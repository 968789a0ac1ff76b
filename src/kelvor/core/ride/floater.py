"""A board floating along under any load: its forms, read between for friction, waves and limbs in the water."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from kelvor.core.coefficients import Coefficients
from kelvor.core.displacement.hull import ImmersedForm, immersed_form, resistance
from kelvor.core.displacement.waves import FROUDE_RANGE
from kelvor.core.floating.balance import sink
from kelvor.core.floating.clipping import Hull
from kelvor.core.fluids import GRAVITY, Water
from kelvor.core.friction import ittc57
from kelvor.core.shape.battens import Array
from kelvor.core.shape.geometry import Geometry
from kelvor.core.smooth import even

FROUDES = np.linspace(FROUDE_RANGE[0] + 0.01, FROUDE_RANGE[1], 18)
"""Froude numbers of the waterline at which waves are counted: enough for their humps and hollows."""
LOADS = (0.2, 0.45, 0.7, 1.0)
"""Floating forms are looked at with these shares of all they can carry, and drag is read between them."""


@dataclass(frozen=True, slots=True, eq=False)
class Floating:
    """A board floating loads along, arrays of one shape: parts of its drag [N], and its size on the water [m, m²].

    `parting` is what the waves of a thin hull would differ by; limbs are the rider's, where the board cannot carry all.
    """

    friction: Array
    waves: Array
    limbs: Array
    parting: Array
    length: Array
    beam: Array
    wetted: Array

    @property
    def drag(self) -> Array:
        """All parts [N]."""
        total: Array = self.friction + self.waves + self.limbs
        return total


class Floater:
    """A board ready to be floated, level; forms and waves are counted when first needed."""

    def __init__(self, measured: Geometry, water: Water) -> None:
        self.measured, self.density, self.viscosity = measured, water.density, water.viscosity
        self._slope = measured.board.base.slope
        self._hull = Hull(measured.shape)
        self._solved: dict[float, ImmersedForm | None] = {}
        self._waves: dict[int, tuple[Array, Array]] = {}

    @cached_property
    def reach(self) -> tuple[float, float]:
        """The deepest and the highest point at level trim, in the drawing's frame [m]."""
        shape = self.measured.shape
        level = shape.z - self._slope * shape.x[:, None]
        return float(level.min()), float(level.max())

    @cached_property
    def forms(self) -> tuple[ImmersedForm, ...]:
        """Forms at level trim, from little to all of the board under water."""
        low, high = self.reach
        # closer together where the board floats than where only its nose is left
        forms = (immersed_form(self.measured.shape, float(d), self._slope) for d in low + (high - low) * np.linspace(0.25, 1.0, 9) ** 2)
        return tuple(f for f in forms if f is not None)

    @cached_property
    def buoyancy(self) -> float:
        """All the board can carry afloat [N]."""
        return self.density * GRAVITY * self.measured.solid.volume

    @cached_property
    def dry_load(self) -> float:
        """Load at which the deck just stays dry [N]."""
        dry = [f.volume for f in self.forms if f.covered < 0.12]
        return self.density * GRAVITY * (max(dry) if dry else 0.0)

    def form_at(self, load: float) -> ImmersedForm | None:
        """The form, level, that carries `load` [N] to a thousandth of it; None where that is more than the board can.

        The draught is solved on the exact sections, as the float is: what is under water grows with it, so there is one root.
        """
        if not 0 < load < self.buoyancy:
            return None
        if load not in self._solved:
            low, high = self.reach
            depth = sink(self._hull.immersion, load / GRAVITY, self.density, -float(np.arctan(self._slope)), 0.0, low, high, 2e-4)
            self._solved[load] = immersed_form(self.measured.shape, depth, self._slope)
        return self._solved[load]

    @cached_property
    def _chosen(self) -> tuple[ImmersedForm, ...]:
        volumes = np.array([f.volume for f in self.forms])
        nearest = {int(np.argmin(np.abs(volumes - share * self.measured.solid.volume))) for share in LOADS}
        return tuple(self.forms[i] for i in sorted(nearest))

    @cached_property
    def _sizes(self) -> tuple[Array, Array, Array, Array]:
        """Over floating loads (k,) [N]: length and beam of the waterline [m], wetted surface [m²]; from nothing on."""
        loads, lines, beams, wets = [0.0], [0.0], [0.0], [0.0]
        for form in self._chosen:
            loads.append(self.density * GRAVITY * form.volume)
            lines.append(form.length)
            beams.append(form.beam)
            wets.append(form.wetted)
        lines[0], beams[0] = lines[1] * 0.8, beams[1]
        return np.array(loads), np.array(lines), np.array(beams), np.array(wets)

    def _making(self, k: int) -> tuple[Array, Array]:
        """Waves with base drag, and what thin waves differ by, over the `k`-th load by Froude number (f,)."""
        if k == 0:
            return np.zeros(len(FROUDES)), np.zeros(len(FROUDES))
        if k not in self._waves:
            form = self._chosen[k - 1]
            drags = [resistance(form, float(f * np.sqrt(GRAVITY * form.length)), self.density, self.viscosity) for f in FROUDES]
            load = self._sizes[0][k]
            self._waves[k] = (np.array([d.waves + d.tail for d in drags]) / load, np.array([d.parting for d in drags]) / load)
        return self._waves[k]

    def at(self, load: Array, speed: Array, table: Coefficients) -> Floating:
        """Floating loads [N] at speeds [m/s], arrays of one shape (n,)."""
        loads, lines, beams, wets = self._sizes
        q = self.density * speed**2 / 2
        carried = np.minimum(load, loads[-1])
        length, beam, wetted = (np.interp(carried, loads, values) for values in (lines, beams, wets))
        froude = speed / np.sqrt(GRAVITY * length)
        friction = q * wetted * ittc57(speed * length / self.viscosity) * table.form_drag
        at = np.clip(np.searchsorted(loads, carried) - 1, 0, len(loads) - 2)
        t = (carried - loads[at]) / (loads[at + 1] - loads[at])
        read = np.zeros((2, len(loads), len(load)))
        inside = (np.clip(froude, FROUDES[0], FROUDES[-1]) - FROUDES[0]) / (FROUDES[1] - FROUDES[0])
        for k in sorted({int(i) for i in at} | {int(i) + 1 for i in at[t > 0]}):
            for what, values in enumerate(self._making(k)):
                read[what, k] = even(values, inside)
        rows = np.arange(len(load))
        # slower than waves are counted from, they die away
        slow = np.clip(froude / FROUDES[0], 0.0, 1.0) ** 4
        waves, parting = (((1 - t) * grid[at, rows] + t * grid[at + 1, rows]) * carried * slow for grid in read)
        under = np.maximum(load - loads[-1], 0.0) / (self.density * GRAVITY)
        limbs = q * table.body_drag * under / table.limb_length
        return Floating(friction, waves, limbs, parting, length, beam, wetted)
