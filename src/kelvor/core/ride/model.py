"""One board under one brief, on the move: drag and attitude at any speed, from floating to planing to foiling.

Displacement and planing estimates are joined by the share of the load that
speed lifts. Below, the floating form carries the rest and makes friction and
waves; above, Savitsky's laws hold alone. Where both are used the band spans
their disagreement.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients
from kelvor.core.disciplines import RIGS
from kelvor.core.displacement.hull import ImmersedForm, immersed_form, resistance
from kelvor.core.displacement.waves import FROUDE_RANGE
from kelvor.core.figures import Method
from kelvor.core.floating.balance import sink
from kelvor.core.floating.clipping import Hull
from kelvor.core.fluids import GRAVITY, air_density
from kelvor.core.friction import ittc57
from kelvor.core.lifting.fins import FinLaw, SetFin, fins_of
from kelvor.core.lifting.foils import FoilWing, foil_drag
from kelvor.core.lifting.slopes import induced_drag
from kelvor.core.mass.properties import MassProperties
from kelvor.core.measure.size import Measures
from kelvor.core.planing.bottom import PlaningBottom, planing_bottom
from kelvor.core.planing.states import Planer
from kelvor.core.ride.attitudes import tail_clearance
from kelvor.core.shape.battens import Array
from kelvor.core.shape.geometry import Geometry
from kelvor.core.units import KNOT

METHOD = Method(
    "displacement and planing estimates joined by the share of the load that speed lifts",
    "ITTC 1957; Michell 1898; Savitsky 1964 with local beam and deadrise; vortex lattice for rocker (Katz & Plotkin 2001)",
    "flat water, steady speed; wave drag above Froude 0.6 kept at its value there; beam over length below 0.2 for Michell",
)
FROUDES = np.linspace(FROUDE_RANGE[0] + 0.05, FROUDE_RANGE[1], 6)
LOADS = (0.2, 0.45, 0.7, 1.0)
"""Floating forms are looked at with these shares of all they can carry, and drag is read between them."""


@dataclass(frozen=True, slots=True)
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
    moving:
        Share of the hull's load that speed lifts.
    wetted, beam, area:
        Wetted keel length, mean beam of what is wet [m], wetted bottom [m²].
    centre:
        Of the pressure, ahead of the tail [m].
    floating, planing:
        The two estimates of hull drag [N], NaN where one does not exist.
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
    floating: float
    planing: float


SHARES = {"friction": 0.12, "waves": 0.35, "limbs": 0.4, "lift": 0.12, "foil": 0.15, "air": 0.2}
"""Band of each part of the drag, as a share of it: its method's scatter with that of the coefficients (judgement, no source)."""


KEPT = ("bottom", "planer", "forms", "_reach", "_solved", "_floating", "buoyancy", "dry_load", "fins")
"""What a model has counted that does not depend on the foil."""


class RideModel:
    """The board of a case, asked for its running states; everything dear is computed once, when first needed."""

    def __init__(self, measured: Geometry, measures: Measures, mass: MassProperties, brief: Brief, table: Coefficients) -> None:
        self.measured, self.measures, self.mass, self.brief, self.table = measured, measures, mass, brief, table
        self.density, self.viscosity = brief.water.density, brief.water.viscosity
        self.air = air_density(15.0)
        self.base = float(np.arctan(measured.board.base.slope))
        gear = brief.wing
        self.foils = brief.discipline in ("wing foil", "downwind foil", "wind foil", "kite foil") and brief.foil.area > 0
        foil = brief.foil
        self.kit = (
            mass.mass
            + (foil.mass if self.foils else 0.0)
            + (gear.mass if gear is not None and RIGS.get(brief.discipline) != "kite" else 0.0)
        )
        self.weight = (brief.rider.mass + self.kit) * GRAVITY
        """Rider, board, foil and gear [N]; a kite carries itself."""

    def with_foil(self, index: int) -> RideModel:
        """The same board on another foil of the brief: what does not depend on the foil is kept."""
        other = RideModel(self.measured, self.measures, self.mass, replace(self.brief, foil_in_use=index), self.table)
        # a cached property is kept by its name
        other.__dict__.update({name: getattr(self, name) for name in KEPT})
        return other

    # what the board is

    @cached_property
    def bottom(self) -> PlaningBottom:
        """What planes."""
        volumes, ends = [f.volume for f in self.forms], [float(f.x[-1]) for f in self.forms]
        floats = min(self.weight, self.buoyancy) / (self.density * GRAVITY)
        return planing_bottom(self.measured, float(np.interp(floats, volumes, ends)))

    @cached_property
    def planer(self) -> Planer:
        """The bottom, ready to plane."""
        return Planer(self.bottom, self.density, self.viscosity)

    @cached_property
    def fins(self) -> tuple[SetFin, ...]:
        """Every fin."""
        board = self.measured.board
        return fins_of(board.fittings.fin_boxes, board.length, board.mast_x)

    @cached_property
    def fin_law(self) -> FinLaw:
        """What fins can do."""
        t = self.table
        return FinLaw(t.fin_profile_drag, t.fin_lift_most, t.fin_ventilation)

    @cached_property
    def wing(self) -> FoilWing | None:
        """The foil's front wing; None where none is ridden."""
        foil = self.brief.foil
        return FoilWing(foil.area, foil.span, foil.mast_length) if self.foils else None

    @cached_property
    def pitch_room(self) -> float:
        """Nose-up pitch to be had while the hull still runs [rad]: the tail's clearance and the running trim."""
        return tail_clearance(self.measured, self.measures.keel_flat[0]) + self.table.running_trim

    @cached_property
    def lift_off_coefficient(self) -> float:
        """Foil lift coefficient at lift-off: what is used of the greatest, or what the pitch room allows."""
        assert self.wing is not None
        most = self.table.foil_lift_most * self.table.foil_lift_used
        slope = float(self.wing.slope(self.wing.mast))
        return min(most, slope * (self.pitch_room + self.table.foil_zero_lift + self.brief.foil.rake))

    # afloat

    @cached_property
    def _reach(self) -> tuple[float, float]:
        """The deepest and the highest point at level trim, in the drawing's frame [m]."""
        level = self.measured.shape.z - self.measured.board.base.slope * self.measured.shape.x[:, None]
        return float(level.min()), float(level.max())

    @cached_property
    def forms(self) -> tuple[ImmersedForm, ...]:
        """Floating forms at level trim, from little to all of the board under water."""
        shape, slope = self.measured.shape, self.measured.board.base.slope
        low, high = self._reach
        # closer together where the board floats than where only its nose is left
        forms = (immersed_form(shape, float(d), slope) for d in low + (high - low) * np.linspace(0.25, 1.0, 9) ** 2)
        return tuple(f for f in forms if f is not None)

    @cached_property
    def _solved(self) -> dict[float, ImmersedForm | None]:
        """Floating forms that were asked for, by load."""
        return {}

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
        """The floating form, level, that carries `load` [N] to a thousandth of it; None where that is more than the board can.

        The draught is solved on the exact sections, as the float is: what is under water grows with it, so there is one root.
        """
        if not 0 < load < self.buoyancy:
            return None
        if load not in self._solved:
            shape, slope = self.measured.shape, self.measured.board.base.slope
            low, high = self._reach
            depth = sink(Hull(shape).immersion, load / GRAVITY, self.density, -float(np.arctan(slope)), 0.0, low, high, 2e-4)
            self._solved[load] = immersed_form(shape, depth, slope)
        return self._solved[load]

    def _nearest(self, volume: float) -> int:
        return int(np.argmin([abs(f.volume - volume) for f in self.forms]))

    @cached_property
    def _floating(self) -> tuple[Array, Array, Array, Array, Array, Array]:
        """Over floating loads (k,) [N]: length and beam of the waterline, wetted surface, wave and base drag over load by Froude number (k, f)."""
        loads, lines, beams, wets = [0.0], [0.0], [0.0], [0.0]
        waves, tails = [np.zeros(len(FROUDES))], [np.zeros(len(FROUDES))]
        chosen = {self._nearest(share * self.measured.solid.volume) for share in LOADS}
        for form in (self.forms[i] for i in sorted(chosen)):
            drags = [resistance(form, float(f * np.sqrt(GRAVITY * form.length)), self.density, self.viscosity) for f in FROUDES]
            loads.append(self.density * GRAVITY * form.volume)
            lines.append(form.length)
            beams.append(form.beam)
            wets.append(form.wetted)
            waves.append(np.array([d.waves for d in drags]) / loads[-1])
            tails.append(np.array([d.tail for d in drags]) / loads[-1])
        lines[0], beams[0] = lines[1] * 0.8, beams[1]
        return np.array(loads), np.array(lines), np.array(beams), np.array(wets), np.array(waves), np.array(tails)

    def afloat(self, load: Array, speed: float) -> tuple[Array, Array, Array]:
        """Friction, waves with base drag, and drag of limbs in the water [N] while floating loads (t,) at `speed`."""
        loads, lines, _, wets, waves, tails = self._floating
        q = self.density * speed**2 / 2
        carried = np.minimum(load, loads[-1])
        length = np.interp(carried, loads, lines)
        froude = np.clip(speed / np.sqrt(GRAVITY * length), FROUDES[0], FROUDES[-1])
        rubbing = q * np.interp(carried, loads, wets) * ittc57(speed * length / self.viscosity) * self.table.form_drag
        at = np.clip(np.searchsorted(loads, carried) - 1, 0, len(loads) - 2)
        t = (carried - loads[at]) / (loads[at + 1] - loads[at])
        column = (froude - FROUDES[0]) / (FROUDES[1] - FROUDES[0])
        j = np.clip(column.astype(int), 0, len(FROUDES) - 2)
        s = column - j
        grid = waves + tails
        here = (1 - t) * ((1 - s) * grid[at, j] + s * grid[at, j + 1]) + t * (
            (1 - s) * grid[at + 1, j] + s * grid[at + 1, j + 1]
        )
        slow = np.clip(speed / np.sqrt(GRAVITY * length) / FROUDES[0], 0.0, 1.0) ** 4
        limbs = np.maximum(load - loads[-1], 0.0) / (self.density * GRAVITY)
        body = q * self.table.body_drag * limbs / self.table.limb_length
        return rubbing, here * carried * slow, body

    # under way

    def foil_lift(self, speed: float, carried: float) -> float:
        """Lift of the foil while the rider asks most of it [N], at most what there is to carry."""
        if self.wing is None:
            return 0.0
        q = self.density * speed**2 / 2
        return min(carried, q * self.wing.area * self.lift_off_coefficient)

    def running(self, speed: float, *, lifted: float = 0.0, side: float = 0.0, foil_share: float | None = None) -> Running:
        """The board at `speed`, with `lifted` [N] carried by gear, `side` [N] held by fins, and the foil at a share of the load."""
        carried = max(self.weight - lifted, 1.0)
        up = self.foil_lift(speed, carried) if foil_share is None else foil_share * carried
        load = max(carried - up, 0.0)
        q = self.density * speed**2 / 2
        air = self.air / 2 * speed**2 * self.drag_area
        below = 0.0
        if self.wing is not None:
            below = float(foil_drag(self.wing, up, speed, self.wing.mast, self.density, self.table))
        elif self.fins:
            below = q * sum(f.area for f in self.fins) * self.fin_law.profile_drag + self._held(side, q)
        if load < 1.0:
            return Running(speed, 0.0, up, below + air, _band(0.0, 0.0, 0.0, 0.0, below, air, 0.0), 0.0, 0.0, 0.0, 0.0, below, air,
                           0.0, 1.0, 0.0, 0.0, 0.0, 0.0, float("nan"), float("nan"))  # fmt: skip
        planer, bottom = self.planer, self.bottom
        moving = planer.lifted(load, speed)
        still = (1 - moving) * load
        _, waves, body = self.afloat(still, speed)
        whole, _, _ = self.afloat(np.array([load]), speed)
        plane_area = bottom.longest * float(bottom.beam[-1])
        smooth = q * plane_area * float(ittc57(speed * bottom.longest / self.viscosity))
        rub = (1 - moving) * whole[0] + moving * smooth
        sloping = moving * load * np.tan(planer.whole_slope)
        blended = rub + waves + body + sloping
        table = self.table
        t = np.clip((moving - table.blend_from) / (table.blend_to - table.blend_from), 0.0, 1.0)
        if not t.any():
            return self._floats(speed, load, up, (rub, waves, body, sloping), moving, below, air)
        states = planer.states(load, speed)
        # as the bottom comes to carry all there is, the laws of planing come in: never from one speed to the next
        weight = np.where(states.found, t * t * (3 - 2 * t), 0.0)
        drag = (1 - weight) * blended + weight * states.drag
        i = _chosen(drag, planer.trims, table)
        w, planes = float(weight[i]), bool(states.found[i])
        gap = abs(float(states.drag[i]) - float(blended[i])) if planes else 0.0
        plane_lift = float(states.drag[i]) - float(self._plane_friction(states.area[i], states.wetted[i], speed))
        friction = (1 - w) * float(rub[i]) + w * (float(states.drag[i]) - plane_lift)
        lifting = (1 - w) * float(sloping[i]) + w * plane_lift
        making, limbs = (1 - w) * float(waves[i]), (1 - w) * float(body[i])
        length, beam, area = self._afloat_size(float(still[i]))
        return Running(
            speed, load, up, float(drag[i]) + below + air, _band(friction, making, limbs, lifting, below, air, w * (1 - w) * 2 * gap),
            friction, making, lifting, limbs, below, air, float(planer.trims[i]), float(moving[i]),
            float(w * states.wetted[i] + (1 - w) * length), float(w * states.beam[i] + (1 - w) * beam),
            float(w * states.area[i] + (1 - w) * area), bottom.aft + float(states.centre[i] if planes else 0.45 * bottom.longest),
            float(blended[i]), float(states.drag[i]) if planes else float("nan"),
        )  # fmt: skip

    def _floats(
        self,
        speed: float,
        load: float,
        up: float,
        parts: tuple[Array, Array, Array, Array],
        moving: Array,
        below: float,
        air: float,
    ) -> Running:
        """The state of a hull that speed lifts too little to plane: friction, waves, limbs and slope of the lift by trim (t,)."""
        rub, waves, body, sloping = parts
        drag = rub + waves + body + sloping
        i = _chosen(drag, self.planer.trims, self.table)
        friction, making, limbs, lifting = float(rub[i]), float(waves[i]), float(body[i]), float(sloping[i])
        length, beam, area = self._afloat_size(float((1 - moving[i]) * load))
        return Running(
            speed, load, up, float(drag[i]) + below + air, _band(friction, making, limbs, lifting, below, air, 0.0), friction, making, lifting,
            limbs, below, air, float(self.planer.trims[i]), float(moving[i]), length, beam, area,
            self.bottom.aft + 0.45 * self.bottom.longest, float(drag[i]), float("nan"),
        )  # fmt: skip

    def _afloat_size(self, load: float) -> tuple[float, float, float]:
        """Wetted length of the planing bottom and beam of the waterline [m], and wetted surface [m²] while floating a load [N]."""
        loads, lines, beams, wets, _, _ = self._floating
        length, beam, wetted = (float(np.interp(load, loads, values)) for values in (lines, beams, wets))
        return min(length, self.bottom.longest + self.bottom.aft), beam, wetted

    def _plane_friction(self, area: float, wetted: float, speed: float) -> float:
        return self.density * speed**2 / 2 * area * float(ittc57(speed * max(wetted, 0.05) / self.viscosity))

    def _held(self, side: float, q: float) -> float:
        """Induced drag of the fins that hold a side force [N]."""
        if side == 0.0 or not self.fins:
            return 0.0
        gain = sum(q * f.area * f.slope for f in self.fins)
        return sum(q * f.area * float(induced_drag(f.slope * side / gain, f.aspect)) for f in self.fins)

    def unplaned(self, state: Running) -> str:
        """Why a state is no planing one, in words; nothing where speed lifts what the hull carries."""
        if state.moving >= self.table.planes:
            return ""
        return f"does not plane at {state.speed / KNOT:.1f} kn: speed lifts {state.moving * 100:.0f} % of the load"

    @property
    def drag_area(self) -> float:
        """Drag coefficient times area of the rider in the air [m²]."""
        lying = self.brief.discipline == "prone race"
        return self.table.lying_drag_area if lying else self.table.rider_drag_area

    # over all speeds

    def speeds(self, most: float, count: int = 23) -> Array:
        """Speeds from slow to `most` [m/s], closer where the hump lies."""
        grid: Array = 0.4 + (most - 0.4) * np.linspace(0.0, 1.0, count) ** 1.25
        return grid

    def curve(self, speeds: Array, lifted: float = 0.0) -> tuple[Running, ...]:
        """The board at each speed."""
        return tuple(self.running(float(v), lifted=lifted) for v in speeds)


def _chosen(drag: Array, trims: Array, table: Coefficients) -> int:
    """The trim a rider takes: of those that cost the same, the one nearest the usual."""
    near = drag <= drag.min() * (1 + table.same_drag)
    return int(np.argmin(np.where(near, np.abs(trims - table.usual_trim), np.inf)))


def _band(friction: float, making: float, limbs: float, lifting: float, below: float, air: float, gap: float) -> float:
    """Half-width of the drag's band [N] from its parts, and the disagreement of the two estimates where both are used."""
    parts = zip(SHARES.values(), (friction, making, limbs, lifting, below, air), strict=True)
    return float(np.sqrt(sum((share * part) ** 2 for share, part in parts) + gap**2))


def threshold(curve: tuple[Running, ...], planes: float) -> float:
    """Planing threshold: the lowest speed at which speed lifts the share `planes` of the load [m/s]; NaN where none of them does."""
    moving = np.array([r.moving for r in curve])
    over = np.nonzero(moving >= planes)[0]
    if not len(over):
        return float("nan")
    i = int(over[0])
    if i == 0:
        return curve[0].speed
    a, b = curve[i - 1], curve[i]
    t = (planes - a.moving) / max(b.moving - a.moving, 1e-9)
    return a.speed + t * (b.speed - a.speed)


def hump(curve: tuple[Running, ...], end: float) -> Running:
    """The state of most drag up to `end` [m/s]."""
    below = [r for r in curve if r.speed <= end] or [curve[0]]
    return max(below, key=lambda r: r.drag)
