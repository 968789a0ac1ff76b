"""A board equipped: what a rider, gear, fins and foil make of it, before it is asked how fast it goes."""

from __future__ import annotations

from functools import cached_property
from typing import Self

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import RIGS
from kelvor.core.base.fluids import GRAVITY, air_density
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.measures.size import Measures
from kelvor.core.measures.stance import feet
from kelvor.core.ride.attitudes import tail_clearance
from kelvor.core.ride.floater import Floater
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.core.tank.laws.wings import plate_slope
from kelvor.core.tank.lifting.fins import FinLaw, SetFin, fins_of
from kelvor.core.tank.lifting.foils import FoilWing
from kelvor.core.tank.planing.bottom import PlaningBottom, planing_bottom
from kelvor.core.tank.planing.states import Planer
from kelvor.core.tank.rail.rail import rail_line
from kelvor.core.tank.sails.sails import Gear, gear_of

EDGE_HEELS = np.radians([15.0, 30.0, 45.0, 60.0])
"""Heels at which the edge that bites is read [rad]."""
SPEEDS = 41
"""Speeds of a curve from rest on."""
KEPT: dict[str, tuple[str, ...]] = {
    "fins": (),
    "floater": ("awash", "tail_dries"),
    "bottom": ("release_angle", "wall_dries"),
    "planer": ("release_angle", "wall_dries", "trim_least"),
}
"""What a model has counted that does not depend on the foil, and on which coefficients it rests."""


class Equipped:
    """A board with its rider and gear: what does not ask how fast it goes; each computed once, when first needed."""

    def __init__(
        self, measured: Geometry, measures: Measures, mass: MassProperties, brief: Brief, table: Coefficients
    ) -> None:
        self.measured, self.measures, self.mass, self.brief, self.table = measured, measures, mass, brief, table
        self.count = SPEEDS
        self.density, self.viscosity = brief.water.density, brief.water.viscosity
        self.air = air_density(15.0)
        self.base = float(np.arctan(measured.board.base.slope))
        gear = brief.wing
        self.foils = (
            brief.discipline in ("wing foil", "downwind foil", "wind foil", "kite foil") and brief.foil.area > 0
        )
        self.rig = RIGS.get(brief.discipline)
        foil = brief.foil
        self.kit = (
            mass.mass
            + (foil.mass if self.foils else 0.0)
            + (gear.mass if gear is not None and self.rig != "kite" else 0.0)
        )
        self.weight = (brief.rider.mass + self.kit) * GRAVITY
        """Rider, board, foil and gear [N]; a kite carries itself."""

    @property
    def moved(self) -> float:
        """Mass that speeds up with the board, water with it [kg]."""
        return self.weight / GRAVITY * (1 + self.table.added_mass)

    def otherwise(
        self, *, brief: Brief | None = None, table: Coefficients | None = None, speeds: int | None = None
    ) -> Self:
        """The same board under another brief of its kind or other coefficients, its curves at so many speeds; what
        rests on nothing of that is kept.
        """
        other = type(self)(self.measured, self.measures, self.mass, brief or self.brief, table or self.table)
        other.count = speeds or self.count
        # a cached property is kept by its name
        for name, rests in KEPT.items():
            if all(getattr(other.table, key) == getattr(self.table, key) for key in rests):
                other.__dict__[name] = getattr(self, name)
        return other

    # what the board is

    @cached_property
    def floater(self) -> Floater:
        """The board, ready to float along."""
        return Floater(self.measured, self.brief.water, self.table)

    @cached_property
    def bottom(self) -> PlaningBottom:
        """What planes."""
        lines, floats = self.floater.waterlines, min(self.weight, self.floater.buoyancy) / (self.density * GRAVITY)
        front = float(np.interp(floats, lines.volume, lines.ends))
        return planing_bottom(self.measured, self.table.release_angle, self.table.wall_dries, front)

    @cached_property
    def edges(self) -> Array:
        """Length of the edge that bites at the heels of `EDGE_HEELS` [m]."""
        shape, slope = self.measured.shape, self.measured.board.base.slope
        return np.array([rail_line(shape, slope, float(heel), self.table.edge_bite).engaged for heel in EDGE_HEELS])

    @cached_property
    def planer(self) -> Planer:
        """The bottom, ready to plane."""
        return Planer(self.bottom, self.density, self.viscosity, self.table.trim_least)

    @cached_property
    def fins(self) -> tuple[SetFin, ...]:
        """Every fin."""
        board = self.measured.board
        return fins_of(board.fittings.fin_boxes, board.length, board.mast_x)

    @cached_property
    def grip(self) -> tuple[float, float, float]:
        """Of what holds the board on the water sideways: area times lift slope [m²/rad], area times aspect ratio (of
        all as one), area [m²].
        """
        if self.wing is not None:
            return mast_grip(self.wing.mast, self.table)
        grip = sum(f.area * f.slope for f in self.fins)
        dragging = sum(f.area * f.slope**2 / f.aspect for f in self.fins)
        return grip, grip**2 / max(dragging, 1e-9), sum(f.area for f in self.fins)

    @cached_property
    def fin_law(self) -> FinLaw:
        """What fins can do."""
        t = self.table
        return FinLaw(t.fin_profile_drag + t.fin_finish, t.fin_lift_most, t.fin_ventilation)

    @cached_property
    def wing(self) -> FoilWing | None:
        """The foil's front wing; None where none is ridden."""
        foil = self.brief.foil
        return FoilWing(foil.area, foil.span, foil.mast_length, foil.fuselage) if self.foils else None

    @cached_property
    def gear(self) -> Gear | None:
        """The gear in use; None where the wind drives nothing."""
        gear = self.brief.wing
        return (
            None if gear is None or self.rig is None else gear_of(gear.name, self.rig, gear.area, gear.mass, self.table)
        )

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

    # moments

    @cached_property
    def reach(self) -> tuple[float, float]:
        """How far aft and fore the rider's weight can press on the deck [m from the tail].

        On straps from the back foot to a step ahead of the front one, in straps or bindings that are worn from the
        start between them; else anywhere on the deck but its ends. Against a pull the body leans aft of that.
        """
        board, table = self.measured.board, self.table
        if len(board.fittings.straps) < 2:
            return table.deck_ends * board.length, (1 - table.deck_ends) * board.length
        stands = feet(self.measured, self.brief.rider)
        worn = self.brief.discipline in ("twin tip", "kite surf", "kite foil", "wakeboard")
        return stands.back, stands.front + (0.0 if worn else table.step_ahead)

    @cached_property
    def pull_height(self) -> float:
        """Height above the bottom at which what drives the board pulls [m]: hands, harness or sail; at the water where
        it is paddled.
        """
        if self.rig == "hand wing":
            return self.table.wing_height
        if self.rig == "sail":
            return self.gear.height if self.gear is not None else self.table.rider_centre
        return (
            self.table.rider_centre
            if self.rig == "kite" or self.brief.discipline in ("wakeboard", "wake surf")
            else 0.0
        )

    @cached_property
    def _fixed(self) -> tuple[float, float]:
        """Weight of what does not move with the rider [N], and its moment about the tail [N m]: board, foil, a rig on
        its foot.
        """
        board, parts = self.measured.board, [(self.mass.mass, self.mass.x)]
        if self.foils and board.mast_x is not None:
            parts.append((self.brief.foil.mass, board.mast_x))
        track = board.fittings.mast_track
        if self.rig == "sail" and self.gear is not None and track is not None:
            parts.append((self.gear.mass, track.at.x(board.length, board.mast_x)))
        return GRAVITY * sum(m for m, _ in parts), GRAVITY * sum(m * x for m, x in parts)

    @cached_property
    def deck_height(self) -> float:
        """Height of the deck over the bottom at the middle of the feet [m]: there the board is driven."""
        stands, shape = feet(self.measured, self.brief.rider), self.measured.shape
        return self.measured.at(shape.deck - shape.keel, (stands.back + stands.front) / 2)

    @property
    def level(self) -> float:
        """Trim of the tail tangent while the board lies level [rad]."""
        return self.bottom.tangent - self.base


def mast_grip(wet: float, table: Coefficients) -> tuple[float, float, float]:
    """What `wet` metres of a mast hold sideways: area times lift slope [m²/rad], area times aspect ratio, area [m²]."""
    area, aspect = wet * table.mast_chord, 2 * wet / table.mast_chord
    return area * float(plate_slope(aspect)), area * aspect, area
