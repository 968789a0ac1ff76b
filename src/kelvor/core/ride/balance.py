"""Sailing in balance: surge, sway, heave and roll of board, rig and rider at once.

The rider chooses how far the rig leans to windward and how far the board heels
(to leeward on its fins, to windward on its edge under a kite and on a foil),
for most force to spare; the rig is flattened to what body or arms hold and what
fins or mast carry. What the leant rig and the heeled fins lift comes off the hull.
Trim is the rider's as well: it is inside the drag (``model``).
"""

from __future__ import annotations

from dataclasses import fields
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import clip, step
from kelvor.core.base.values import frozen
from kelvor.core.ride.equipped import EDGE_HEELS, mast_grip
from kelvor.core.ride.model import RideModel, Running
from kelvor.core.ride.stance import on_edge
from kelvor.core.tank.laws.wind import apparent
from kelvor.core.tank.laws.wings import holding_drag
from kelvor.core.tank.lifting.foils import foil_drag
from kelvor.core.tank.planing.edge import steepened
from kelvor.core.tank.sails.sails import Gear, Trimmed, blowing, trimmed_gear, wind_at

METHOD = Method(
    "forces and roll in balance; rig flattened to what is held, its lean and the board's heel as the rider "
    "chooses them",
    "lifting line, flattening and leant rig after Kerwin 1978 and Hazen 1980 (from memory); fins by Helmbold 1942",
    "steady state, flat water; trim by the rider's weight as told there",
)
HELD = Method(
    "moment of the body outside the straps over the gear's height and the fins' depth, or a share of weight for arms "
    "and harness",
    "equilibrium of the rider; shares of the table of coefficients: common practice, no source",
    "board level, rig leant over, rider far out",
)
LIGHTER = 0.8
"""Share of the load at which drag is counted a second time: between and beyond, it goes with a power of the load."""
EVERY = 3
"""Of courses and speeds of a table every third is asked for its stance."""
STANCES = np.linspace(0.0, 1.0, 4)
"""Shares of the greatest lean and heel among which the rider chooses."""
LEVEL = np.zeros(1)
"""The same of the heel while a board on fins or a foil gets going: none."""


@frozen(eq=False)
class SailingBalance:
    """Board, rig and rider on courses at speeds, arrays of one shape.

    Attributes
    ----------
    spare:
        Drive less all drag [N]: nothing where the speed is steady.
    drive, drag:
        Force ahead of the gear, and all that holds back [N].
    force:
        Across the rig, square to the course [N].
    side:
        What fins, mast or edge hold sideways [N].
    load:
        What hull and foil carry, square to the deck [N].
    cant, heel:
        Lean of the rig to windward (of a kite, its lines above the horizon), heel of the board to leeward [rad].
    leeway:
        Of the board's nose to windward of its course [rad].
    air:
        Drag of the rider in the wind [N].
    edge:
        What riding on an edge adds to the slope of the lift [N].
    wind, angle:
        Apparent wind at the gear [m/s], off the bow [rad].
    """

    spare: Array
    drive: Array
    drag: Array
    force: Array
    side: Array
    load: Array
    cant: Array
    heel: Array
    leeway: Array
    air: Array
    edge: Array
    wind: Array
    angle: Array


class Rigged:
    """A board under a gear, asked for what balances at any wind, course and speed."""

    def __init__(
        self, model: RideModel, gear: Gear, curve: tuple[Running, ...], lighter: tuple[Running, ...], lift_off: float
    ) -> None:
        self.model, self.gear, self.lift_off = model, gear, lift_off
        self.speeds = np.array([r.speed for r in curve])
        self._full, light = (np.array([r.drag - r.air for r in states]) for states in (curve, lighter))
        self._load, less = (np.array([r.load + r.foil_lift for r in states]) for states in (curve, lighter))
        known = np.array([r.speed for r in lighter])
        full, load = (np.interp(known, self.speeds, values) for values in (self._full, self._load))
        self._power = np.interp(self.speeds, known, np.log(full / light) / np.log(load / less))
        self._planes = np.array([r.planes for r in curve])
        wetted, self._beam = (np.array([getattr(r, name) for r in curve]) for name in ("wetted", "beam"))
        self._slope = np.array([r.lift_drag / max(r.load, 1.0) for r in curve])
        # by how much a board heels the pressure aside: wetted length over beam and slope, where it planes
        self._tilt = self._beam / (2 * np.maximum(wetted, 1e-3) * np.maximum(self._slope, 0.02))
        self._flies = np.array([r.foil_lift / model.weight for r in curve])
        wing = model.wing
        self._grips = np.array(
            [
                model.grip,
                model.grip if wing is None else mast_grip(max(wing.mast - model.brief.ride_height, 0.1), model.table),
            ]
        )
        if self.edged:
            self._grips = self._grips + self._rail

    # what holds the rig

    @property
    def edged(self) -> bool:
        """Whether the board rides on its windward edge against the pull."""
        return self.gear.rig == "kite" and self.model.wing is None

    @cached_property
    def _rail(self) -> Array:
        """What the edge's face holds sideways besides fins: a plate of the rail's depth (Jones 1946). See
        `mast_grip`.
        """
        shape = self.model.measured.shape
        deep = 2 * float(np.average(shape.apex_z - shape.edge_z, weights=shape.edge_y))
        return np.array([np.pi * deep**2, 2 * deep**2, deep * self.model.edges[0]])

    def held(self, cant: Array | float, heel: Array | float) -> Array:
        """Force across the rig that the rider holds [N], without wind on the body."""
        holds = self._holds(np.asarray(cant), np.asarray(heel), np.zeros(()))
        most: Array = np.maximum(holds[0] / holds[2], 0.0)
        return most

    @property
    def held_side(self) -> float:
        """Force across the board that the rider holds against the rig, leant over as far as it goes [N]."""
        cant = self.model.table.sail_cant if self.gear.rig == "sail" else 0.0
        return float(self.held(cant, 0.0) * np.cos(cant))

    def _holds(self, cant: Array, heel: Array, aside: Array) -> tuple[Array | float, Array | float, Array | float]:
        """Moment that holds a sail [N m], what of it a newton of wind on the body takes [m], and the lever of the force
        across the rig [m].

        The moments about the fins' or mast's centre balance: the force over its height, against the body as far out as
        it reaches, the rig's own weight, and pressure that heel moves `aside` to leeward [m]. Arms and a harness hold a
        force.
        """
        model, table, gear = self.model, self.model.table, self.gear
        rider = model.brief.rider
        weight = rider.mass * GRAVITY
        if gear.rig != "sail":
            return (table.arm_share if gear.rig == "hand wing" else table.harness_share) * weight, 0.0, 1.0
        deep = fin_depth(model)
        sine, cosine = np.sin(heel), np.cos(heel)
        out = strap_reach(model) + table.rail_arm * rider.height
        rig = gear.mass * GRAVITY * table.rig_height * np.sqrt(gear.area) * np.sin(cant)
        rights = weight * out + rig + model.weight * (aside * cosine - deep * sine)
        lever = model.deck_height + gear.height + deep * np.cos(cant + heel) + aside * np.sin(cant + heel)
        return rights, table.rider_centre + deep * cosine + aside * sine, lever

    # the balance

    def at(
        self,
        wind: Array | float,
        course: Array | float,
        speed: Array | float,
        *,
        starts: bool = False,
        swung: bool = False,
        stance: tuple[Array, Array] | None = None,
        roughly: bool = False,
    ) -> SailingBalance:
        """The balance in `wind` [m/s at the brief's height], on courses off the true wind [rad], at speeds [m/s], of
        one shape or broadcast.

        `stance` is the lean of the rig and the heel of the board, those the rider chooses by default. A board that
        `starts` is held level on fins or foil; a kite may be `swung` for it. `roughly` leaves a rig upright and an
        edge at the best of a few: somewhat less to spare than a rider gets, counted several times as fast.
        """
        felt, off, v = self._feels(wind, course, speed)
        if stance is None:
            stance = self._stance(felt, off, v, starts, swung, roughly)
        return self._stands(felt, off, v, *stance, swung)

    def over(self, wind: float, courses: Array, speeds: Array) -> SailingBalance:
        """The balance on every course (c,) at every speed (n,), rising: (c, n).

        The stance is looked for at some of the courses and speeds and read between, or taken from the nearest where
        that is better.
        """
        some = [np.unique(np.append(np.arange(0, len(values), EVERY), len(values) - 1)) for values in (courses, speeds)]
        places = [_between(values[i], values) for i, values in zip(some, (courses, speeds), strict=True)]
        looked = self._stance(*self._feels(wind, courses[some[0], None], speeds[some[1]]))
        read, near = (
            self.at(
                wind, courses[:, None], speeds, stance=(_read(looked[0], places, even), _read(looked[1], places, even))
            )
            for even in (True, False)
        )
        better = read.spare >= near.spare
        return SailingBalance(
            *(np.where(better, getattr(read, f.name), getattr(near, f.name)) for f in fields(SailingBalance))
        )

    def _feels(self, wind: Array | float, course: Array | float, speed: Array | float) -> tuple[Array, Array, Array]:
        """Apparent wind at the gear [m/s], off the bow [rad], and speed [m/s], of one shape."""
        at_gear = [wind_at(self.gear, float(w), self.model.brief.wind.height) for w in np.ravel(wind)]
        felt, off = apparent(np.reshape(at_gear, np.shape(wind)), speed, course)
        return felt, off, np.broadcast_to(np.asarray(speed, float), felt.shape)

    @property
    def settled(self) -> bool:
        """Whether a little more wind leaves the rider standing as before."""
        return self.gear.rig != "kite"

    def _stance(
        self, felt: Array, off: Array, v: Array, starts: bool = False, swung: bool = False, roughly: bool = False
    ) -> tuple[Array, Array]:
        """Lean of the rig and heel of the board with most force to spare [rad]; between those that differ by less than
        is felt.
        """
        lean, over = self._ranges(v)
        wide = (..., None, None)  # what stays the same over leans and heels is counted once

        def looks(cant: Array, heel: Array) -> SailingBalance:
            return self._stands(felt[wide], off[wide], v[wide], cant, heel, swung)

        if self.edged:
            return on_edge(
                lambda cant, heel: looks(cant, heel).spare, (float(lean[0]), float(lean[-1])), over, roughly=roughly
            )
        if roughly and self.settled:
            return np.zeros(1), np.zeros(1)
        heeled = LEVEL if starts else STANCES
        looked = looks(lean[:, None], over[wide] * heeled)
        spare, drag = (values.reshape(*v.shape, -1) for values in (looked.spare, looked.drag))
        cants, heels = (a.reshape(-1) for a in np.broadcast_arrays(lean[:, None], heeled[None]))
        best = spare.max(axis=-1, keepdims=True)
        drag = np.take_along_axis(drag, np.argmax(spare, axis=-1)[..., None], axis=-1)
        scale = self.model.table.same_drag * np.maximum(np.abs(drag), 1.0)
        liked = np.exp((spare - best) / scale)
        total = liked.sum(axis=-1)
        return liked @ cants / total, over * (liked @ heels) / total

    def _ranges(self, v: Array) -> tuple[Array, Array]:
        """Leans of the rig (k,), or how high a kite flies, and the greatest heel [rad]: to leeward on fins, to windward
        on an edge or in flight.
        """
        table, rig = self.model.table, self.gear.rig
        if self.model.wing is not None:
            over = -table.foil_heel * np.interp(v, self.speeds, self._flies)
        else:
            over = (
                np.full_like(v, -table.edge_heel)
                if rig == "kite"
                else table.heel_most * np.interp(v, self.speeds, self._planes)
            )
        if rig == "kite":
            return table.kite_low + STANCES * (table.kite_elevation - table.kite_low), over
        return STANCES * (table.sail_cant if rig == "sail" else table.wing_cant), over

    def _stands(self, felt: Array, off: Array, v: Array, cant: Array, heel: Array, swung: bool) -> SailingBalance:
        """The balance with a lean and a heel."""
        model, table, gear = self.model, self.model.table, self.gear
        q = model.density * v**2 / 2
        grip, aspect, area = self._grips[0] if model.wing is None else self._grip(v)
        carries = q * area * table.fin_lift_most
        leant, sine, cosine = self._leant(cant), np.sin(heel), np.cos(heel)
        rights, arm, lever = self._holds(cant, heel, self._aside(v, heel))
        across = blowing(gear, felt, off, model.air, cant=cant, swung=swung)
        level, sunk, upright = np.cos(leant + heel), model.weight * sine, (np.cos(cant), np.sin(cant))
        breeze = model.air / 2 * model.drag_area * felt**2
        across_body, lifts, cost = breeze * np.sin(off), np.full_like(q, gear.lift_most / 2), np.zeros_like(q)
        found: Trimmed
        for look in range(2):
            slowed = self._slowed(lifts)
            blown = across_body * slowed
            most = np.minimum(
                np.maximum((rights - blown * arm) / lever, 0.0), (carries - sunk - blown * cosine) / level
            )
            found = trimmed_gear(gear, across, most=most, cost=cost)
            lifts = found.lift
            leeward, up = self._parts(found, upright, across.pressure)
            side = (leeward + blown) * cosine + (model.weight - up) * sine
            holding = holding_drag(side, q, grip, aspect, model.table.fin_nose_stall)
            if look == 0:
                cost = clip(2 * holding / np.where(np.abs(side) > 1.0, side, 1.0), -0.5, 0.5)
        load = np.maximum((model.weight - up) * cosine - (leeward + blown) * sine, 0.0)
        head = breeze * np.cos(off) * slowed
        drag, leeway, edge = (
            self.resistance(v, load) + holding + head,
            side / np.maximum(q * grip, 1e-6),
            np.zeros_like(q),
        )
        if self.edged:
            flat, steep = self._slopes(v, load, np.abs(heel))
            # nose up about its own cross axis, a heeled board points to windward
            leeway = leeway + np.arctan(steep) * np.sin(np.abs(heel))
            edge = load * (steep - flat)
            drag = drag + edge
        spare = found.ahead - drag
        lost = np.where(found.held, spare, np.minimum(spare, -1.0))  # not to be held at all
        return SailingBalance(
            lost,
            found.ahead,
            drag,
            found.across,
            side,
            load,
            cant,
            heel,
            leeway,
            head,
            edge,
            *np.broadcast_arrays(felt, off),
        )

    def _slopes(self, v: Array, load: Array, heel: Array) -> tuple[Array, Array]:
        """Slope of the lift of a kite board level, and on its edge."""
        flat, length = np.interp(v, self.speeds, self._slope), np.interp(heel, EDGE_HEELS, self.model.edges)
        return flat, steepened(load, flat, heel, self.model.density * v**2 / 2, length)

    def wet_width(self, sailed: SailingBalance, speed: float) -> float:
        """Width of bottom below still water at the tail of an edge that bites [m]."""
        heel = np.abs(sailed.heel)
        steep = self._slopes(np.array(speed), sailed.load, heel)[1]
        return float(np.interp(heel, EDGE_HEELS, self.model.edges) * steep / np.tan(np.maximum(heel, 1e-3)))

    def _leant(self, cant: Array) -> Array:
        """Lean of a rig's own plane [rad]; a kite's stands square to its lines."""
        return np.zeros_like(cant) if self.gear.rig == "kite" else cant

    def _parts(self, found: Trimmed, upright: tuple[Array, Array], pressure: Array) -> tuple[Array, Array]:
        """Level part of the force across and all that lifts [N], by cosine and sine of the lean, or of a
        kite's lines.
        """
        cosine, sine = upright
        if self.gear.rig == "kite":
            return found.across, pressure * found.lift * sine
        return found.across * cosine, found.across * sine

    def _aside(self, v: Array, heel: Array) -> Array:
        """How far heel moves the pressure of a planing bottom to leeward [m].

        The bottom is wet for longer on that side, and each strip lifts with the root of its wetted length (Savitsky
        1964).
        """
        if self.gear.rig != "sail" or self.model.wing is not None:
            return np.zeros_like(heel)
        tilt = np.maximum(np.interp(v, self.speeds, self._tilt) * np.tan(heel), 1e-3)
        long, short = 1 + tilt, np.maximum(1 - tilt, 0.0)
        whole = (long**1.5 - short**1.5) / (3 * tilt)
        moment = ((long**2.5 - short**2.5) / 2.5 - (long**1.5 - short**1.5) / 1.5) / (4 * tilt**2)
        moved: Array = np.interp(v, self.speeds, self._beam) * moment / whole
        return moved

    def _slowed(self, lift: Array) -> Array:
        """Pressure of the wind on a body that stands to windward of a lifting sail, over that of the free wind.

        A vortex sheet of the sail's chord with its lift spread evenly slows the wind there (thin aerofoils).
        """
        if self.gear.rig != "sail":
            return np.ones_like(lift)
        near = 2 / np.pi * np.arctan(self.gear.chord / (2 * self.model.table.sail_off))
        slowed: Array = (1 - near * lift / 4) ** 2
        return slowed

    def resistance(self, speed: Array, load: Array) -> Array:
        """Drag of hull, fins and foil [N] that carry `load` [N], in flight where the foil has lifted off."""
        full, power, at = (np.interp(speed, self.speeds, values) for values in (self._full, self._power, self._load))
        drag: Array = full * (np.maximum(load, 1.0) / at) ** power
        wing = self.model.wing
        if wing is None:
            return drag
        wet = max(wing.mast - self.model.brief.ride_height, 0.1)
        flown: Array = drag + (
            foil_drag(wing, load, speed, wet, self.model.density, self.model.table) - drag
        ) * self._clear(speed, load)
        return flown

    def _clear(self, speed: Array, load: Array | float) -> Array:
        """How far the mast has come out of the water to the ride height, 0 to 1."""
        over = speed / (self.lift_off * np.sqrt(np.maximum(load, 1.0) / self.model.weight)) - 1
        return step(over / self.model.table.mast_clears)

    def _grip(self, speed: Array) -> Array:
        """What the mast holds sideways at speeds (…): area times lift slope, area times aspect ratio, area (3, …)."""
        deep, high = self._grips.reshape(2, 3, *(1,) * speed.ndim)
        grip: Array = deep + (high - deep) * self._clear(speed, self.model.weight)
        return grip


def _between(known: Array, wanted: Array) -> tuple[NDArray[np.intp], NDArray[np.intp], Array]:
    """For each place wanted the known ones on either side of it, and its share of the way between them."""
    i = np.clip(np.searchsorted(known, wanted, side="right") - 1, 0, max(len(known) - 2, 0))
    j = np.minimum(i + 1, len(known) - 1)
    return i, j, (wanted - known[i]) / np.where(j > i, known[j] - known[i], 1.0)


def _read(values: Array, places: list[tuple[NDArray[np.intp], NDArray[np.intp], Array]], even: bool) -> Array:
    """A table (c, n) read along its two axes: in straight lines, or at the nearest place."""
    for axis, (i, j, share) in zip((0, 1), places, strict=True):
        at = (share if even else np.round(share)).reshape((-1, 1) if axis == 0 else -1)
        values = np.take(values, i, axis) * (1 - at) + np.take(values, j, axis) * at
    return values


def strap_reach(model: RideModel) -> float:
    """Half-width at the back straps, where the rider hangs from [m]."""
    board = model.measured.board
    rows = [r.at.x(board.length, board.mast_x) for r in board.fittings.straps]
    at = min(rows) if rows else 0.2 * board.length
    return model.table.strap_reach * model.measured.at(model.measured.shape.half_width, at)


def fin_depth(model: RideModel) -> float:
    """Depth of the centre of what holds the board sideways [m]."""
    if model.wing is not None:
        return model.table.mast_centre * model.wing.mast
    return model.table.fin_centre * max((f.span for f in model.fins), default=0.05)
