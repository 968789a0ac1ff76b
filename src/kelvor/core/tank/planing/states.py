"""A board planing: at any trim the wetted length that carries the load, its drag and its centre of pressure.

Savitsky 1964 gives the flat prism of the mean beam and deadrise over the wetted
length; a vortex lattice with the buttocks as camber gives what rocker and
hollows change (a planing bottom at speed acts as the lower half of a thin wing).
Suction at the tail is cut off, since the water lets go there.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import backwards, clip, falling_root, hermite, rising
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.tank.laws.friction import ittc57
from kelvor.core.tank.planing import savitsky
from kelvor.core.tank.planing.bottom import PlaningBottom

METHOD = Method(
    "Savitsky's laws on the running bottom, rocker by a vortex lattice; trim of least drag the rider's weight can hold",
    "Savitsky 1964; Katz & Plotkin 2001",
    "speed coefficient 0.6 to 13, trim 2 to 15° (flatter, as lift falls there by plane planing theory, 7 % low at 1°), "
    "wetted at most four beams",
)
STEP = 0.5 * DEGREE
TRIMS = np.arange(-12.0, 15.51, 0.5) * DEGREE
"""Trims of the tail tangent at which the lattice is read; between them it runs smoothly [rad]."""
MOST = savitsky.TRIM_RANGE[1]
COARSE = np.linspace(0.0, 1.0, 14)
"""Shares of the way from the flattest trim to the steepest at which the limits are looked for before they are
refined.
"""
CHOICES = np.linspace(0.0, 1.0, 13)
"""Shares of the trims that the rider can hold among which the rider chooses."""
FAST, SLOW = 3 / 4, 1 / 3
"""Centre of the pressure on a rectangle, by speed and by the water's weight, as shares of its length: those of eq.
20.
"""
EXACT = 1e-8
"""What is left of a limit once it is refined (shares, metres)."""
Rows = NDArray[np.intp] | slice
ALL = slice(None)
"""Which of the speeds are asked for."""


@frozen(eq=False)
class PlaningStates:
    """A bottom that carries a load at a speed and a trim, arrays of one shape.

    Attributes
    ----------
    trim, load:
        Of the tail tangent [rad], and on the bottom [N].
    wetted, beam, area:
        Wetted keel length, mean beam [m] and bottom [m²].
    slope, rubbing, drag:
        Slope by which lift drags [rad], friction along the bottom and all of the drag [N].
    centre:
        Of the pressure, ahead of the release [m].
    spare:
        Lift of the whole bottom over the load, less one: below 0 it cannot carry it.
    moving:
        Share of the load that speed lifts; the water's own weight lifts the rest.
    most:
        What speed would lift with the whole bottom wet [N].
    """

    trim: Array
    load: Array
    wetted: Array
    beam: Array
    area: Array
    slope: Array
    rubbing: Array
    drag: Array
    centre: Array
    spare: Array
    moving: Array
    most: Array


class Planer:
    """A planing bottom ready to be asked at many loads, speeds and trims at once."""

    def __init__(self, bottom: PlaningBottom, density: float, viscosity: float, flattest: float) -> None:
        self.bottom, self.density, self.viscosity = bottom, density, viscosity
        self._wet = bottom.lengths / bottom.span
        self._table = _lattice(bottom)
        self._rate = np.gradient(self._table, axis=0)
        self._area = bottom.lengths * bottom.beam / np.cos(bottom.rise) + bottom.grooves
        self._wave = np.sqrt(GRAVITY * bottom.span)
        self.least = least_trim(bottom, flattest)
        self._grow = np.arange(len(self._wet)) * 1e-6  # lift always grows a little, so that it can be read backwards

    def _read(self, trim: Array) -> tuple[Array, Array, Array]:
        """Effective trim, slope and shift of the centre by wetted length, each (m, j), smooth in trim (m,)."""
        place = (trim - TRIMS[0]) / STEP
        at = np.minimum(np.maximum(place, 0.0).astype(int), len(TRIMS) - 2)
        table, rate = self._table, self._rate
        read = hermite(table[at], table[at + 1], rate[at], rate[at + 1], (place - at)[:, None, None])
        return np.maximum(read[:, 0], 1e-4), read[:, 1], read[:, 2]

    def at(self, weight: Array | float, speed: Array | float, trim: Array | float) -> PlaningStates:
        """The bottom carrying `weight` [N] at `speed` [m/s] and `trim` [rad], all of one shape or broadcast to it."""
        given = np.broadcast_arrays(np.asarray(weight, float), np.asarray(speed, float), np.asarray(trim, float))
        shape = given[0].shape
        load, v, trims = (a.reshape(-1) for a in given)
        bottom, wet, along = self.bottom, self._wet, v[:, None]
        effective, slope, shift = self._read(trims)
        cv = along / self._wave
        scale = self.density / 2 * along**2 * bottom.span**2
        # the lift that speed makes, and with what the water's weight makes
        moving = savitsky.moving_lift(effective, wet)
        risen = _lift(moving, bottom.rise)
        dynamic = scale * risen
        # what narrows toward the tail lifts as much by speed, but less of it lies under water
        still, fast, slow = bottom.plan.T
        whole = moving + savitsky.standing_lift(moving, wet, cv) * still
        lift = np.maximum.accumulate(scale * _lift(whole, bottom.rise), axis=1) + self._grow
        stream = savitsky.bottom_speed(along, effective, wet, risen)
        rubbing = self.density / 2 * stream**2 * self._area * ittc57(stream * bottom.lengths / self.viscosity)
        rests = savitsky.standing_share(wet, cv)
        plan = (fast - FAST) * (1 - rests) + (slow - SLOW) * rests
        centre = (savitsky.pressure_centre(wet, cv) + plan) * bottom.lengths + shift
        # nothing wet carries nothing: there beam and slope are those of the shortest length
        knots, table = np.zeros((len(load), len(wet) + 1)), np.zeros((7, len(load), len(wet) + 1))
        knots[:, 1:] = lift
        for values, what in zip(
            table, (bottom.lengths, bottom.beam, self._area, slope, rubbing, centre, dynamic), strict=True
        ):
            values[:, 1:] = what
        table[1, :, 0], table[3, :, 0] = bottom.beam[0], slope[:, 0]
        wetted, beam, area, slopes, rubbed, centres, moved = rising(knots, table, load)
        carried = np.maximum(load, 1e-9)
        drag, spare = load * np.tan(slopes) + rubbed / np.cos(trims), lift[:, -1] / carried - 1
        share = np.minimum(moved / carried, 1.0)
        columns = (trims, load, wetted, beam, area, slopes, rubbed, drag, centres, spare, share, dynamic[:, -1])
        return PlaningStates(*(column.reshape(shape) for column in columns))

    def best(
        self,
        load: Array | Callable[[Array, Rows], Array],
        speed: Array,
        indifferent: float,
        cost: Callable[[PlaningStates], Array] | None = None,
        wanted: Callable[[PlaningStates, Rows], Array] | None = None,
        reach: tuple[float, float] = (-np.inf, np.inf),
    ) -> PlaningStates:
        """At each speed (n,) the trim of least drag that the rider's weight can hold.

        Where trims differ by less than what is felt, the rider keeps about the middle of them: so trim never jumps.

        Parameters
        ----------
        load:
            On the bottom (n,) [N], or what it is at trims (n, k) or (n,) of these rows of the speeds.
        indifferent:
            Share of the drag that is not felt.
        cost:
            All that drags in states of shape (n, k) [N]; the bottom's own drag by default.
        wanted:
            Where the rider must stand [m] in such states: further aft for more trim.
        reach:
            The furthest aft and fore the rider can stand [m]. What is wanted beyond it is as near as trim between the
            flattest and 15° and the bottom's lift allow.
        """
        n = len(speed)

        def at(trim: Array, rows: Rows = ALL) -> PlaningStates:
            v = speed[rows] if trim.ndim == 1 else speed[rows, None]
            return self.at(
                load(trim, rows) if callable(load) else load[rows] if trim.ndim == 1 else load[rows, None], v, trim
            )

        cap, fore, aft = self._limits(at, n, wanted, reach).T
        low = clip(np.maximum(fore, cap), self.least, MOST)
        high = clip(aft, low, MOST)
        states = at(low[:, None] + (high - low)[:, None] * CHOICES)
        drag = states.drag if cost is None else cost(states)
        felt = np.exp(-(drag / drag.min(axis=1, keepdims=True) - 1) / indifferent)
        felt[:, [0, -1]] /= 2
        felt /= felt.sum(axis=1, keepdims=True)
        # the mean of the states, not the state at the mean trim: between two valleys of drag that is a ridge
        return PlaningStates(*(np.sum(felt * getattr(states, f.name), axis=1) for f in fields(PlaningStates)))

    def _limits(
        self,
        at: Callable[..., PlaningStates],
        n: int,
        wanted: Callable[[PlaningStates, Rows], Array] | None,
        reach: tuple[float, float],
    ) -> Array:
        """Trims (n, 3) from which the bottom carries the load, the rider need not stand too far fore, and up to which
        not too far aft.
        """
        aft, fore = reach

        def over(states: PlaningStates, rows: Rows) -> Array:
            place = None if wanted is None else wanted(states, rows)
            ones = np.ones_like(states.spare)
            return np.stack([-states.spare, *((place - fore, place - aft) if place is not None else (-ones, ones))])

        looked = self.least + (MOST - self.least) * COARSE
        now = over(at(np.broadcast_to(looked, (n, len(COARSE)))), ALL)  # (3, n, t), each falling with trim
        first = np.argmax(now <= 0, axis=2).T  # (n, 3)
        never = ~(now <= 0).any(axis=2).T
        limits = np.where(never, float(MOST), self.least)
        which, kinds = np.nonzero((first > 0) & ~never)
        if len(which):
            between = np.clip(first[which, kinds] - 2, 0, len(COARSE) - 4)[:, None] + np.arange(4)
            known = now[kinds[:, None], which[:, None], between]
            i = first[which, kinds]
            ends = now[kinds, which, i - 1], now[kinds, which, i]
            limits[which, kinds] = falling_root(
                lambda trim, some: over(at(trim, which[some]), which[some])[kinds[some], np.arange(len(some))],
                looked[i - 1],
                looked[i],
                *ends,
                guess=backwards(known, looked[between]),
                exact=EXACT,
            )
        return limits


def least_trim(bottom: PlaningBottom, flattest: float) -> float:
    """Trim of the tail tangent at which half the longest wetted bottom as a whole stands `flattest`, as flat as it is
    ever held [rad]: below nothing where rocker turns it up ahead of the tail.
    """
    half = bottom.lengths[-1] / 2
    means = np.sum(bottom.flat * bottom.slope, axis=1) / np.sum(bottom.flat, axis=1)
    return float(max(flattest - np.interp(half, bottom.lengths, means), TRIMS[0]))


def _lattice(bottom: PlaningBottom) -> Array:
    """By trim, what and length (t, 3, j): effective trim, slope by which lift drags [rad], shift of its centre [m]."""
    trims, flat = TRIMS[:, None, None], bottom.flat.sum(axis=1)
    lift = np.maximum(trims * bottom.flat[None] + bottom.curved[None], 0.0)
    total = np.maximum(lift.sum(axis=2), 1e-12)
    slope = np.sum(lift * (trims + bottom.slope[None]), axis=2) / total
    centre = np.sum(lift * bottom.ahead[None], axis=2) / total - np.sum(bottom.flat * bottom.ahead, axis=1) / flat
    return np.stack([total / flat, slope, centre], axis=1)


def _lift(flat: Array, deadrise: Array | float) -> Array:
    """Lift coefficient of a bottom that rises to its edges, none below nothing."""
    lift: Array = np.maximum(savitsky.with_deadrise(flat, deadrise), 0.0)
    return lift


def pressure(bottom: PlaningBottom, wetted: float, trim: float) -> tuple[Array, Array, Array]:
    """Pressure over the wetted patch, panel by panel.

    Panels' ends ahead of the release [m] (p, 2), across in shares of the half-width (p, 2), pressure over its most
    (p,).
    """
    j = int(np.argmin(np.abs(bottom.lengths - wetted)))
    net = bottom.lattices[j]
    lift = np.maximum(trim * bottom.flat[j] + bottom.curved[j], 0.0) / net.area
    row, column = np.divmod(np.arange(net.chord * net.span), net.span)
    along = wetted * (1 - np.stack([row + 1, row], axis=1) / net.chord)
    across = np.sin(np.stack([column, column + 1], axis=1) * np.pi / 2 / net.span)
    return along, across, lift / max(float(lift.max()), 1e-12)
