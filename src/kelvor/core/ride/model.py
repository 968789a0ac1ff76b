"""One board under one brief, on the move: drag and attitude at any speed, from floating to planing to foiling.

What floats drags by friction, waves and limbs in the water; what planes by
Savitsky's laws at the trim the rider's weight can hold. Each stands alone where
it holds; between, on volume and length Froude number, one passes into the other
without a corner, and the band spans their disagreement.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import astuple

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import clip, step
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.values import frozen
from kelvor.core.ride.equipped import Equipped
from kelvor.core.tank.laws.friction import band as friction_band
from kelvor.core.tank.laws.wings import holding_drag
from kelvor.core.tank.lifting.foils import foil_drag, lifts_ahead
from kelvor.core.tank.planing.savitsky import TRIM_RANGE
from kelvor.core.tank.planing.states import ALL, PlaningStates, Rows

METHOD = Method(
    "floating and planing hulls, one passing into the other on volume and length Froude number; trim by moments",
    "ITTC 1957; Hogner 1932 and Michell 1898; Savitsky 1964 with local beam and deadrise; vortex lattice for rocker "
    "(Katz & Plotkin 2001)",
    "flat water, steady speed; waves above Froude 0.6 kept at their drag there; the band spans both estimates between "
    "them",
)
FROUDE_BETWEEN = 0.6
"""Froude number of the waterline up to which a hull floats along."""
SPARE_LIFT = 0.25
"""Lift at the greatest trim over the load, less one, within which the planing state fades in: so that it never begins
with a jump.
"""


@frozen
class Running:
    """A board at a speed.

    Attributes
    ----------
    load, foil_lift:
        Carried by the hull and by the foil [N].
    drag, band:
        Of everything, and the half-width of its band [N].
    friction, waves, lift_drag, body, foil, air:
        The drag's parts [N]: hull friction, waves and spray, the slope of the lift, limbs in the water,
        foil or fins, air.
    trim:
        Of the tail tangent of the planing flat [rad].
    moving, raised:
        Shares of the hull's load that speed lifts while it planes, and of what it cannot float while it does not.
    wetted, beam, area:
        Wetted keel length, mean beam of what is wet [m], wetted bottom [m²].
    centre:
        Of the pressure, ahead of the tail [m].
    parting:
        What the waves of a thin hull would differ by [N].
    planes:
        Weight of the planing estimate, 0 where the hull floats along, 1 where it planes.
    place:
        Of the rider's weight on the deck that holds the planing trim, from the tail [m]; NaN where the hull floats
        along.
    """

    speed: float
    load: float
    foil_lift: float
    drag: float
    band: float
    friction: float
    waves: float
    lift_drag: float
    body: float
    foil: float
    air: float
    trim: float
    moving: float
    wetted: float
    beam: float
    area: float
    centre: float
    parting: float
    planes: float
    place: float
    raised: float


SHARES = {"waves": 0.30, "limbs": 0.3, "lift": 0.10, "foil": 0.10, "air": 0.1}
"""Band of each part of the drag, as a share of it: its method's scatter, coefficients apart (judgement, no source)."""


EDGE_OF_REACH = 0.02
"""So far beyond where the rider can press, weight is still held by a lean [m]."""
FLAT_TOP = 0.02
"""Share of the hump's drag within which speeds belong to its top."""


@frozen(eq=False)
class Forces:
    """What acts on a hull besides its own drag [N]: its load, the foil's lift, what gear carries, air, and drag of foil
    or fins.
    """

    load: Array
    up: Array
    lifted: Array
    air: Array
    below: Array


@frozen(eq=False)
class _Asked:
    """Speeds [m/s] and what is given there (n,) [N]: carried, by the gear, air, side force, drag of the edge; share on
    the foil.
    """

    speed: Array
    carried: Array
    lifted: Array
    air: Array
    side: Array
    edge: Array
    foil_share: Array | None

    def part(self, which: NDArray[np.bool_] | NDArray[np.intp]) -> _Asked:
        """Some of the speeds."""
        share = None if self.foil_share is None else self.foil_share[which]
        return _Asked(
            self.speed[which],
            self.carried[which],
            self.lifted[which],
            self.air[which],
            self.side[which],
            self.edge[which],
            share,
        )


class RideModel(Equipped):
    """The board of a case, asked for its running states."""

    def standing(self, states: PlaningStates, forces: Forces) -> Array:
        """Where the rider's weight must press on the deck to hold planing states [m from the tail].

        Moments about the tail, nose up: pressure and foil lift, against the weights, the drag of what hangs below, and
        what drives the board through feet and mast foot, at the deck. Leaning against the pull is the rider's own
        balance.
        """
        board, wing = self.measured.board, self.wing
        weight, moment = self._fixed
        deep = wing.mast if wing is not None else self.table.fin_centre * max((f.span for f in self.fins), default=0.0)
        lift_at = (board.mast_x or 0.0) + lifts_ahead(self.brief.foil, self.table) if wing is not None else 0.0
        nose_up = states.load * (self.bottom.aft + states.centre) + forces.up * lift_at
        nose_down = moment + forces.below * deep + (states.drag + forces.below) * self.deck_height
        place: Array = (nose_up - nose_down) / np.maximum(self.weight - weight - forces.lifted, 1.0)
        return place

    def leans(self, state: Running) -> float:
        """How far aft of the feet's pressure the body leans against the pull, less what air on it holds [m]."""
        rider = self.brief.rider.mass * GRAVITY
        return (
            (state.drag * self.pull_height - state.air * self.table.rider_centre) / rider
            if self.pull_height > 0
            else 0.0
        )

    def foil_lift(self, speed: Array, carried: Array, trim: Array | None = None) -> Array:
        """Lift of the foil [N], at most what there is to carry: at a trim of the tail tangent, or while the rider asks
        most of it.
        """
        if self.wing is None:
            return np.zeros_like(carried)
        table, most = self.table, self.table.foil_lift_most * self.table.foil_lift_used
        coefficient: Array | float = self.lift_off_coefficient
        if trim is not None:
            pitched = trim - self.level + table.foil_zero_lift + self.brief.foil.rake
            coefficient = clip(float(self.wing.slope(self.wing.mast)) * pitched, 0.0, most)
        lift: Array = np.minimum(carried, self.density * speed**2 / 2 * self.wing.area * coefficient)
        return lift

    def running(
        self,
        speed: float,
        *,
        lifted: float = 0.0,
        side: float = 0.0,
        foil_share: float | None = None,
        stands: float | None = None,
        air: float | None = None,
        edge: float = 0.0,
    ) -> Running:
        """The board at `speed`: see `curve`."""
        return self.curve(
            np.array([speed]), lifted, side=side, foil_share=foil_share, stands=stands, air=air, edge=edge
        )[0]

    def curve(
        self,
        speeds: Array,
        lifted: Array | float = 0.0,
        *,
        side: Array | float = 0.0,
        foil_share: Array | float | None = None,
        stands: float | None = None,
        air: Array | float | None = None,
        edge: Array | float = 0.0,
    ) -> tuple[Running, ...]:
        """The board at each speed [m/s].

        Parameters
        ----------
        lifted:
            Carried by the gear [N], one for all or (n,).
        side:
            Held by the fins [N], likewise.
        foil_share:
            Share of the load on the foil, likewise; what the rider asks of it by default.
        stands:
            Where the rider's weight stands [m from the tail]; within reach and for least drag by default.
        air:
            Drag of the rider in the air [N]; in still air by default.
        edge:
            What riding on its edge adds to the slope of the lift [N].
        """
        v = np.asarray(speeds, float)
        raised = np.broadcast_to(np.asarray(lifted, float), v.shape)
        carried = np.maximum(self.weight - raised, 1.0)
        share = None if foil_share is None else np.broadcast_to(np.asarray(foil_share, float), v.shape)
        up = self.foil_lift(v, carried) if share is None else share * carried
        blown = (
            self.air / 2 * v**2 * self.drag_area if air is None else np.broadcast_to(np.asarray(air, float), v.shape)
        )
        held = np.broadcast_to(np.asarray(side, float), v.shape)
        asked = _Asked(v, carried, raised, blown, held, np.broadcast_to(np.asarray(edge, float), v.shape), share)
        found: list[Running | None] = [None] * len(v)
        wet = carried - up >= 1.0
        below = self._below(v, up, held)
        for i in np.flatnonzero(~wet):
            found[i] = self.flying(float(v[i]), float(up[i]), float(below[i]), float(asked.air[i]))
        if wet.any():
            reach = self.reach if stands is None else (stands, stands)
            for i, state in zip(
                np.flatnonzero(wet), self._wet(asked.part(wet), up[wet], below[wet], reach), strict=True
            ):
                found[i] = state
        return tuple(state for state in found if state is not None)

    def _below(self, speed: Array, up: Array, side: Array) -> Array:
        """Drag of foil or fins [N]."""
        q = self.density * speed**2 / 2
        held = holding_drag(side, q, *self.grip[:2], self.table.fin_nose_stall)
        if self.wing is not None:
            return foil_drag(self.wing, up, speed, self.wing.mast, self.density, self.table) + held
        if not self.fins:
            return np.zeros_like(q)
        drag: Array = q * sum(f.area * self.fin_law.drag_of(f) for f in self.fins) + held
        return drag

    def flying(self, speed: float, load: float, below: float, air: float) -> Running:
        """The board in flight at a speed [m/s]: the foil carries `load` and drags `below` with its mast, the rider in
        the air `air` [N].
        """
        nan, none = float("nan"), np.zeros(())
        band = float(_band(none, none, none, none, np.array(below), np.array(air), none))
        return Running(
            speed,
            0.0,
            load,
            below + air,
            band,
            0.0,
            0.0,
            0.0,
            0.0,
            below,
            air,
            0.0,
            1.0,
            0.0,
            0.0,
            0.0,
            0.0,
            0.0,
            1.0,
            nan,
            0.0,
        )

    def _planing(self, asked: _Asked, reach: tuple[float, float]) -> tuple[PlaningStates, Forces]:
        """The planing estimate at each speed, trim shared by hull and foil."""
        shares = np.zeros_like(asked.speed) if asked.foil_share is None else asked.foil_share

        def forces(trim: Array, rows: Rows = ALL) -> Forces:
            v, carried, lifted, air, side, share = (
                a[rows].reshape(trim.shape[:1] + (1,) * (trim.ndim - 1))
                for a in (asked.speed, asked.carried, asked.lifted, asked.air, asked.side, shares)
            )
            up = (
                self.foil_lift(v, np.broadcast_to(carried, trim.shape), trim)
                if asked.foil_share is None
                else share * carried
            )
            return Forces(carried - up, up, lifted, air, self._below(v, up, side))

        states = self.planer.best(
            lambda trim, rows: np.broadcast_to(np.maximum(forces(trim, rows).load, 1e-3), trim.shape),
            asked.speed,
            self.table.same_drag,
            lambda states: states.drag + forces(states.trim).below,
            lambda states, rows: self.standing(states, forces(states.trim, rows)),
            reach,
        )
        return states, forces(states.trim)

    def _wet(self, asked: _Asked, up: Array, below: Array, reach: tuple[float, float]) -> list[Running]:
        """States of a hull that carries something (n,)."""
        v, load, bottom = asked.speed, asked.carried - up, self.bottom
        steep = self.planer.at(load, v, TRIM_RANGE[1])
        weight = self._between(load, v) * step(steep.spare / SPARE_LIFT)
        floating = self.floater.at(load, v, self.table, afloat=weight < 1)
        raised, pitch, limbs = self._raised(load, steep.most, floating.limbs)
        place, moving, drag = np.full_like(v, np.nan), np.zeros_like(v), np.full_like(v, np.nan)
        rubbing, trim, wetted, beam, area, centre = (np.zeros_like(v) for _ in range(6))
        lifting, hanging = up.copy(), below.copy()
        planes = np.flatnonzero(weight > 0)
        if len(planes):
            part = asked.part(planes)
            states, forces = self._planing(part, reach)
            place[planes], moving[planes], drag[planes] = self.standing(states, forces), states.moving, states.drag
            rubbing[planes], trim[planes] = states.rubbing / np.cos(states.trim), states.trim
            wetted[planes], beam[planes], area[planes], centre[planes] = (
                states.wetted,
                states.beam,
                states.area,
                states.centre,
            )
            lifting[planes], hanging[planes] = forces.up, forces.below
        rest = 1 - weight
        planing = np.nan_to_num(drag)

        def joined(low: Array | float, high: Array) -> Array:
            both: Array = rest * low + weight * high
            return both

        afloat = self.level if self.wing is None or asked.foil_share is not None else self.level + self._asks
        sloping = raised * np.tan(pitch)
        whole = floating.friction + floating.waves + limbs + sloping
        friction, lift_drag = joined(floating.friction, rubbing), joined(sloping, planing - rubbing) + asked.edge
        waves, limbs = rest * floating.waves, rest * limbs
        up, below, parting, moving = (
            joined(up, lifting),
            joined(below, hanging),
            rest * floating.parting,
            weight * moving,
        )
        gaps = np.hypot(2 * weight * rest * np.abs(planing - whole), parting)
        pitched = afloat + _rise(pitch - afloat) * raised / (raised + 0.02 * load)
        down, air = asked.carried - up, asked.air
        length = joined(np.minimum(floating.length, bottom.longest + bottom.aft), wetted)
        # friction of a short wetted run may be partly laminar
        rubs = friction * friction_band(v * length / self.viscosity)
        drag, band = (
            friction + waves + lift_drag + limbs + below + air,
            _band(rubs, waves, limbs, lift_drag, below, air, gaps),
        )
        columns = (
            v, down, up, drag, band, friction, waves, lift_drag, limbs, below, air, joined(pitched, trim), moving,
            length, joined(floating.beam, beam),
            joined(floating.wetted, area), bottom.aft + joined(0.45 * bottom.longest, centre), parting, weight, place,
            rest * raised / load,
        )  # fmt: skip
        return [Running(*row) for row in np.array(columns).T.tolist()]

    def _raised(self, load: Array, most: Array, limbs: Array) -> tuple[Array, Array, Array]:
        """What a rider's trim lifts of a load the board cannot float [N], that trim [rad], and what of the limbs' drag
        is left [N].

        `most` is what speed lifts at the greatest trim; lift grows with trim to the power of 1.1 (Savitsky 1964).
        """
        sunk = np.maximum(load - self.floater.buoyancy, 0.0)
        raised = (
            sunk * most / np.maximum((sunk**4 + most**4) ** 0.25, 1e-12)
        )  # the lesser of the two, without its corner
        left: Array = limbs * (1 - raised / np.maximum(sunk, 1e-9))
        return raised, TRIM_RANGE[1] * (raised / np.maximum(most, 1e-9)) ** (1 / 1.1), left

    @property
    def _asks(self) -> float:
        """Nose-up pitch at which the foil lifts most of what the rider asks [rad]."""
        assert self.wing is not None
        return (
            self.lift_off_coefficient / float(self.wing.slope(self.wing.mast))
            - self.table.foil_zero_lift
            - self.brief.foil.rake
        )

    def _between(self, load: Array, speed: Array) -> Array:
        """How far a hull has passed from floating to planing, 0 to 1: on volume Froude number from 1 to 2, and on that
        of its length.
        """
        volume = speed / np.sqrt(GRAVITY * (load / (self.density * GRAVITY)) ** (1 / 3))
        length = speed / np.sqrt(GRAVITY * self.floater.size(load)[0])
        a, b = step(volume - 1), step((length - FROUDE_BETWEEN) / self.table.planing_froude)
        # the lesser of the two, without its corner
        both: Array = a * b / np.maximum(a + b - a * b, 1e-12)
        return both

    def unplaned(self, state: Running) -> str:
        """Why a state is no planing one, in words; nothing where speed lifts what the hull carries."""
        if state.moving >= self.table.planes:
            return ""
        return f"does not plane at {state.speed / KNOT:.1f} kn: speed lifts {state.moving * 100:.0f} % of the load"

    def unheld(self, state: Running) -> str:
        """Why nobody can hold a planing state, in words; nothing where the rider's weight can press where it must."""
        aft, _ = self.reach
        behind = aft - state.place
        if not (behind > EDGE_OF_REACH and state.trim <= self.planer.least + 0.1 * DEGREE):
            return ""
        strapped = len(self.measured.board.fittings.straps) > 1
        return (
            f"nobody can stand there: at {state.speed / KNOT:.1f} kn the weight would have to be {behind * 100:.0f} cm "
            f"behind {'the back strap' if strapped else 'where the deck ends'}"
        )

    def base_trim(self, state: Running) -> float:
        """Trim of the board's base [rad]; that of a state is of its tail tangent."""
        return state.trim - self.level

    @property
    def drag_area(self) -> float:
        """Drag coefficient times area of the rider in the air [m²]."""
        lying = self.brief.discipline == "prone race"
        return self.table.lying_drag_area if lying else self.table.rider_drag_area

    # over all speeds

    def speeds(self, most: float) -> Array:
        """Speeds from slow to `most` [m/s], closer where the hump lies."""
        grid: Array = 0.4 + (most - 0.4) * np.linspace(0.0, 1.0, self.count) ** 1.6
        return grid


def _rise(pitch: Array) -> Array:
    """What is above nothing [rad], without a corner."""
    above: Array = (pitch + np.hypot(pitch, DEGREE)) / 2
    return above


def _band(rubbing: Array, making: Array, limbs: Array, lifting: Array, below: Array, air: Array, gap: Array) -> Array:
    """Half-width of the drag's band [N] from its parts, that of the friction given as it is, and what the models that
    speak of it disagree by.
    """
    parts = zip(SHARES.values(), (making, limbs, lifting, below, air), strict=True)
    band: Array = np.sqrt(rubbing**2 + sum((share * part) ** 2 for share, part in parts) + gap**2)
    return band


Curve = Callable[[Array], tuple[Running, ...]]


def threshold(curve: tuple[Running, ...], planes: float, at: Curve) -> float:
    """Planing threshold: the lowest speed at which speed lifts the share `planes` of the load [m/s]; NaN where none of
    them does.

    Found between the speeds of a curve by asking `at` for more.
    """
    over = np.flatnonzero(np.array([r.moving for r in curve]) >= planes)
    if not len(over):
        return float("nan")
    i = int(over[0])
    if i == 0:
        return curve[0].speed
    looked = np.linspace(curve[i - 1].speed, curve[i].speed, 9)
    moving = np.array([r.moving for r in at(looked)]) - planes
    j = max(int(np.argmax(moving >= 0)), 1)
    # the parabola through the three nearest, at its root between the two
    k = int(np.clip(j - 1 if j == 8 or abs(moving[j - 1]) < abs(moving[j]) else j, 1, 7))
    bend, rise = (moving[k - 1] - 2 * moving[k] + moving[k + 1]) / 2, (moving[k + 1] - moving[k - 1]) / 2
    root = rise**2 - 4 * bend * moving[k]
    if rise > 0 and root >= 0:
        place = k - 2 * moving[k] / (rise + np.sqrt(root))
        if j - 1 <= place <= j:
            return float(looked[0] + (looked[1] - looked[0]) * place)
    share = -moving[j - 1] / max(moving[j] - moving[j - 1], 1e-12)
    return float(looked[j - 1] + (looked[j] - looked[j - 1]) * np.clip(share, 0.0, 1.0))


def hump(curve: tuple[Running, ...], end: float, at: Curve) -> Running:
    """The state of most drag up to `end` [m/s], found between the speeds of a curve by asking `at` for more.

    On a flat top the middle of what drags nearly as much: so that it does not leap from one edge to the other.
    """
    drag = np.array([r.drag for r in curve if r.speed <= end] or [curve[0].drag])
    first, last = _top(drag, 2 * FLAT_TOP)
    low = curve[max(first - 1, 0)].speed
    looked = np.linspace(low, min(curve[min(last + 1, len(curve) - 1)].speed, max(end, low)), 13)
    states = at(looked)
    drag = np.array([r.drag for r in states])
    most = int(np.argmax(drag))
    if most in (0, len(drag) - 1):
        return states[most]
    first, last = _top(drag, FLAT_TOP)
    near = np.exp((drag[first : last + 1] / drag[most] - 1) / (FLAT_TOP / 4))
    place = float(near @ np.arange(first, last + 1) / near.sum())
    i = int(np.clip(round(place), 1, len(drag) - 2))
    return between(states[i - 1 : i + 2], place - i)


def _top(drag: Array, share: float) -> tuple[int, int]:
    """First and last about the most drag that are within a share of it."""
    most = int(np.argmax(drag))
    less = np.flatnonzero(drag < (1 - share) * drag[most])
    return int(max(less[less < most], default=-1)) + 1, int(min(less[less > most], default=len(drag))) - 1


def between(states: tuple[Running, ...], place: float) -> Running:
    """The state at a `place` from −1 to 1 among three at even speeds, by parabolas: so that its parts still add up."""
    shares = np.array([place * (place - 1) / 2, 1 - place**2, place * (place + 1) / 2])
    values = np.array([astuple(state) for state in states])
    found = shares @ values
    # where a rider must stand is known only of hulls that begin to plane
    return Running(*np.where(np.isnan(found), values[1], found).tolist())
