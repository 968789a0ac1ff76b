"""A board floating along under any load: its forms, read between for friction, waves and limbs in the water."""

from __future__ import annotations

from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY, Water
from kelvor.core.base.smooth import clip, even
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.displacement.hull import ImmersedForm, immersed_form, resistance
from kelvor.core.tank.displacement.waves import FROUDE_RANGE
from kelvor.core.tank.floating.balance import sink
from kelvor.core.tank.floating.clipping import Hull, WaterPlane
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.laws.friction import ittc57

FROUDES = np.linspace(FROUDE_RANGE[0] + 0.01, FROUDE_RANGE[1], 18)
"""Froude numbers of the waterline at which waves are counted: enough for their humps and hollows."""
LOADS = (0.1, 0.2, 0.35, 0.6, 0.85, 0.95, 1.0)
"""Floating forms are looked at with these shares of all they can carry, close together where the deck goes under; drag
is read between.
"""


@frozen(eq=False)
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


class Waterlines(NamedTuple):
    """Water planes at level trim (k,): height at the tail, in the drawing's frame [m]; volume under it [m³], where the
    waterline ends ahead [m].

    `covered` is the share of the waterline's length on which the deck is under water.
    """

    depth: Array
    volume: Array
    ends: Array
    covered: Array


class Floater:
    """A board ready to be floated, level; forms and waves are counted when first needed."""

    def __init__(self, measured: Geometry, water: Water, table: Coefficients) -> None:
        self.measured, self.density, self.viscosity = measured, water.density, water.viscosity
        self._slope = measured.board.base.slope
        self._awash, self._dries = table.awash, table.tail_dries
        self._hull = Hull(measured.shape)
        self._solved: dict[float, ImmersedForm | None] = {}
        self._waves: dict[int, Array] = {}

    @cached_property
    def reach(self) -> tuple[float, float]:
        """The deepest and the highest point at level trim, in the drawing's frame [m]."""
        shape = self.measured.shape
        level = shape.z - self._slope * shape.x[:, None]
        return float(level.min()), float(level.max())

    @cached_property
    def waterlines(self) -> Waterlines:
        """Waterlines at level trim, from little to all of the board under water, closer together where the board
        floats.
        """
        (low, high), shape, slope = self.reach, self.measured.shape, self._slope
        bottom, deck = (z - slope * shape.x for z in (shape.z.min(axis=1), shape.z.max(axis=1)))
        found = []
        for depth in low + (high - low) * np.linspace(0.25, 1.0, 9) ** 2:
            wet = np.flatnonzero(bottom < depth - 1e-6)
            if len(wet) < 4:
                continue
            line = slice(int(wet[0]), int(wet[-1]) + 1)
            x, over = shape.x[line], deck[line] - depth
            # how much of the way from station to station the deck is out of the water
            ends = np.sort([over[:-1], over[1:]], axis=0)
            dry = np.clip(ends[1] / np.maximum(ends[1] - ends[0], 1e-12), 0.0, 1.0) * (ends[1] > 0)
            end, on = float(x[-1]), int(wet[-1])
            if on + 1 < len(bottom):
                share = (depth - bottom[on]) / (bottom[on + 1] - bottom[on])
                end += float(share * (shape.x[on + 1] - end))
            volume = self._hull.immersion(WaterPlane(float(depth), slope)).volume
            found.append((depth, volume, end, 1 - float(dry @ np.diff(x)) / (x[-1] - x[0])))
        return Waterlines(*np.array(found).T)

    @cached_property
    def buoyancy(self) -> float:
        """All the board can carry afloat [N]."""
        return self.density * GRAVITY * self.measured.solid.volume

    @cached_property
    def dry_load(self) -> float:
        """Load at which the deck just stays dry [N]."""
        lines = self.waterlines
        volume = np.interp(self._awash, np.maximum.accumulate(lines.covered), lines.volume, left=0.0)
        return self.density * GRAVITY * float(volume)

    def form_at(self, load: float) -> ImmersedForm | None:
        """The form, level, that carries `load` [N] to a thousandth of it; None where that is more than the board can.

        The draught is solved on the exact sections, as the float is: what is under water grows with it, so there is one
        root.
        """
        if not 0 < load < self.buoyancy:
            return None
        if load not in self._solved:
            low, high = self.reach
            depth = sink(
                self._hull.immersion, load / GRAVITY, self.density, -float(np.arctan(self._slope)), 0.0, low, high, 2e-4
            )
            self._solved[load] = immersed_form(self.measured.shape, depth, self._slope)
        return self._solved[load]

    @cached_property
    def _chosen(self) -> tuple[tuple[float, ImmersedForm], ...]:
        """Loads [N] and the forms that float them."""
        lines, found = self.waterlines, []
        for depth in np.interp(np.array(LOADS) * lines.volume[-1], lines.volume, lines.depth):
            form = immersed_form(self.measured.shape, float(depth), self._slope)
            if form is not None:
                volume = self._hull.immersion(WaterPlane(float(depth), self._slope)).volume
                found.append((self.buoyancy * volume / float(lines.volume[-1]), form))
        return tuple(found)

    @cached_property
    def _sizes(self) -> tuple[Array, Array, Array, Array]:
        """Over floating loads (k,) [N]: length and beam of the waterline [m], wetted surface [m²]; from nothing on."""
        loads, lines, beams, wets = [0.0], [0.0], [0.0], [0.0]
        for load, form in self._chosen:
            loads.append(load)
            lines.append(form.length)
            beams.append(form.beam)
            wets.append(form.wetted)
        lines[0], beams[0] = lines[1] * 0.8, beams[1]
        return np.array(loads), np.array(lines), np.array(beams), np.array(wets)

    def _making(self, k: int, places: Array) -> tuple[Array, Array]:
        """Waves with base drag, and what thin waves differ by, over the `k`-th load at `places` among the Froude
        numbers (n,).
        """
        if k == 0:
            return np.zeros(len(places)), np.zeros(len(places))
        known = self._waves.setdefault(k, np.full((2, len(FROUDES)), np.nan))
        # what is read between two Froude numbers leans on their neighbours
        end = len(FROUDES) - 1
        first, last = max(min(int(places.min()), end - 1) - 1, 0), min(int(places.max()) + 2, end)
        missing = first + np.flatnonzero(np.isnan(known[0, first : last + 1]))
        if len(missing):
            load, form = self._chosen[k - 1]
            speeds = FROUDES[missing] * float(np.sqrt(GRAVITY * form.length))
            drag = resistance(form, speeds, self.density, self.viscosity, self._dries)
            known[:, missing] = (drag.waves + drag.tail) / load, drag.parting / load
        waves, parting = (even(values, places) for values in known)
        return waves, parting

    def size(self, load: Array) -> tuple[Array, Array, Array]:
        """Length and beam of the waterline [m] and wetted surface [m²] under loads [N], as far as they float."""
        loads, *sizes = self._sizes
        length, beam, wetted = (np.interp(np.minimum(load, loads[-1]), loads, values) for values in sizes)
        return length, beam, wetted

    def at(
        self, load: Array, speed: Array, table: Coefficients, *, afloat: NDArray[np.bool_] | None = None
    ) -> Floating:
        """Floating loads [N] at speeds [m/s], arrays of one shape (n,); waves are left out where nothing is
        `afloat`.
        """
        loads = self._sizes[0]
        q = self.density * speed**2 / 2
        carried = np.minimum(load, loads[-1])
        length, beam, wetted = self.size(load)
        froude = speed / np.sqrt(GRAVITY * length)
        friction = q * wetted * ittc57(speed * length / self.viscosity) * table.form_drag
        at = np.clip(np.searchsorted(loads, carried) - 1, 0, len(loads) - 2)
        t = (carried - loads[at]) / (loads[at + 1] - loads[at])
        read = np.zeros((2, len(loads), len(load)))
        inside = (clip(froude, FROUDES[0], FROUDES[-1]) - FROUDES[0]) / (FROUDES[1] - FROUDES[0])
        wanted = np.ones(len(load), bool) if afloat is None else afloat
        for k in range(len(loads)):
            near = np.flatnonzero(wanted & ((at == k) | ((at + 1 == k) & (t > 0))))
            if len(near):
                read[:, k, near] = self._making(k, inside[near])
        rows = np.arange(len(load))
        # slower than waves are counted from, they die away
        slow = clip(froude / FROUDES[0], 0.0, 1.0) ** 4 * wanted
        waves, parting = (((1 - t) * grid[at, rows] + t * grid[at + 1, rows]) * carried * slow for grid in read)
        under = np.maximum(load - loads[-1], 0.0) / (self.density * GRAVITY)
        limbs = q * table.body_drag * under / table.limb_length
        return Floating(friction, waves, limbs, parting, length, beam, wetted)
