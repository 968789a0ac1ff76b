"""The brief: who the board is for, where it rides, what it must do."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from kelvor.core.base.disciplines import FOILING, RIGS, Discipline, Rig
from kelvor.core.base.figures import Origin
from kelvor.core.base.fluids import Water
from kelvor.core.base.limits import NAME, Limit, Many, Text, angles
from kelvor.core.base.units import KNOT, Quantity
from kelvor.core.base.values import frozen

Skill = Literal["learning", "riding", "expert"]
WindKind = Literal["mean", "gust"]
Relation = Literal["at least", "at most"]


@frozen(kw_only=True)
class Rider:
    """The rider: mass with wetsuit and harness [kg], height and stance [m]."""

    name: Annotated[str, Text(80)] = "Rider"
    mass: Annotated[float, Limit(15, 250, Quantity.MASS)] = 75.0
    height: Annotated[float, Limit(0.8, 2.5, Quantity.LENGTH)] = 1.76
    stance: Annotated[float, Limit(0.1, 1.5, Quantity.LENGTH)] = 0.55
    skill: Skill = "riding"


@frozen(kw_only=True)
class Wind:
    """Wind [m/s] at a height [m], as a mean or in the gusts."""

    speed: Annotated[float, Limit(0, 40, Quantity.SPEED)] = 15 * KNOT
    height: Annotated[float, Limit(0.3, 100, Quantity.HEIGHT)] = 10.0
    kind: WindKind = "mean"


@frozen(kw_only=True)
class Wing:
    """A hand wing, sail or kite the rider owns: area [m²], mass with its rig [kg]."""

    name: Annotated[str, NAME]
    area: Annotated[float, Limit(0.3, 25, Quantity.SAIL_AREA)]
    mass: Annotated[float, Limit(0, 40, Quantity.MASS)] = 2.6


@frozen(kw_only=True)
class Foil:
    """A foil the rider owns.

    Attributes
    ----------
    mass, volume:
        Complete foil [kg], and the water it displaces [m³].
    mast_length:
        From the board's bottom to the fuselage [m].
    area, span:
        Of the front wing [m²], [m].
    lift_ahead:
        Where the foil lifts in steady flight, ahead of the mast [m].
    fuselage:
        Length [m].
    rake:
        Nose-up angle of the front wing to the board's plate [rad].
    shim:
        Nose-up angle set under the stabiliser [rad].
    """

    name: Annotated[str, NAME]
    mass: Annotated[float, Limit(0, 30, Quantity.MASS)] = 4.2
    volume: Annotated[float, Limit(0, 0.05, Quantity.VOLUME)] = 0.0028
    mast_length: Annotated[float, Limit(0, 1.6, Quantity.LENGTH)] = 0.80
    area: Annotated[float, Limit(0, 1, Quantity.AREA)] = 0.115
    span: Annotated[float, Limit(0, 3, Quantity.LENGTH)] = 0.86
    lift_ahead: Annotated[float, Limit(-0.5, 0.8, Quantity.LENGTH)] = 0.10
    fuselage: Annotated[float, Limit(0, 2, Quantity.LENGTH)] = 0.66
    rake: Annotated[float, angles(-6, 6)] = 0.0
    shim: Annotated[float, angles(-4, 4)] = 0.0


FIRST_GEAR: dict[Rig, Wing] = {
    "hand wing": Wing(name="Wing 5.0", area=5.0, mass=2.7),
    "sail": Wing(name="Sail 7.0", area=7.0, mass=8.4),
    "kite": Wing(name="Kite 9.0", area=9.0, mass=3.3),
}
"""What drives a board while the brief names nothing that could (common practice, no source)."""


@frozen(kw_only=True)
class Target:
    """What a figure should be.

    With `relative` the value is a share of the known board's figure (1.05 asks
    for five per cent more). A `wish` is not a must.
    """

    figure: Annotated[str, Text(60, least=1)]
    relation: Relation
    value: Annotated[float, Limit(-1e9, 1e9, unit="SI")]
    relative: bool = False
    wish: bool = False


@frozen(kw_only=True)
class KnownBoard:
    """A board the rider knows, by its figures (key, value in SI), and where they come from."""

    name: Annotated[str, Text(120, least=1)]
    figures: Annotated[
        tuple[tuple[Annotated[str, Text(60, least=1)], Annotated[float, Limit(-1e9, 1e9, unit="SI")]], ...], Many(500)
    ]
    origin: Origin = "claimed"


@frozen(kw_only=True)
class Refers:
    """A part of a brief that is kept in a register: which part, what it goes by in the brief, its record and
    revision.
    """

    part: Literal["rider", "place", "wing", "foil"]
    name: Annotated[str, Text(120)]
    uid: Annotated[str, Text(40, least=1)]
    revision: Annotated[int, Limit(1, 1e9, Quantity.COUNT)] = 1


@frozen(kw_only=True)
class Brief:
    """Everything the board answers to.

    Attributes
    ----------
    wing_lift:
        Lift of the wing while the rider kneels or stands at rest [N], as the designer states it.
    ride_height:
        Of the bottom at the mast above the water in flight [m].
    pace:
        Boat speed, wave speed or race pace [m/s]; 0 takes the discipline's usual one.
    watts, peak_watts:
        What the paddler keeps up, and gives for a few seconds [W].
    refers:
        Its parts that are kept in registers: the brief holds them as they were at a revision.
    """

    title: Annotated[str, Text(120)] = "New brief"
    discipline: Discipline = "wing foil"
    place: Annotated[str, Text(120)] = ""
    notes: Annotated[str, Text(20_000, lines=True)] = ""
    rider: Rider = Rider()
    water: Water = Water()
    wind: Wind = Wind()
    wings: Annotated[tuple[Wing, ...], Many(60)] = ()
    foils: Annotated[tuple[Foil, ...], Many(60)] = (Foil(name="Foil"),)
    foil_in_use: Annotated[int, Limit(0, 59, Quantity.COUNT)] = 0
    wing_in_use: Annotated[int, Limit(0, 59, Quantity.COUNT)] = 0
    wing_lift: Annotated[float, Limit(0, 1500, Quantity.FORCE)] = 60.0
    ride_height: Annotated[float, Limit(0, 2, Quantity.LENGTH)] = 0.40
    pace: Annotated[float, Limit(0, 25, Quantity.SPEED)] = 0.0
    watts: Annotated[float, Limit(1, 1500, Quantity.POWER)] = 130.0
    peak_watts: Annotated[float, Limit(1, 3000, Quantity.POWER)] = 450.0
    targets: Annotated[tuple[Target, ...], Many(60)] = ()
    known: KnownBoard | None = None
    hints: bool = True
    refers: Annotated[tuple[Refers, ...], Many(200)] = ()

    @property
    def foil(self) -> Foil:
        """The foil the figures are for."""
        if not self.foils:
            return Foil(name="no foil", mass=0.0, volume=0.0, mast_length=0.0, area=0.0, span=0.0, fuselage=0.0)
        return self.foils[min(self.foil_in_use, len(self.foils) - 1)]

    @property
    def wing(self) -> Wing | None:
        """The wing the figures are for."""
        return self.wings[min(self.wing_in_use, len(self.wings) - 1)] if self.wings else None


def with_discipline(brief: Brief, discipline: Discipline) -> Brief:
    """The brief for another discipline: gear that cannot drive it is not taken along, a pace and a known board of the
    old one neither.
    """
    rig = RIGS.get(discipline)
    if RIGS.get(brief.discipline) != rig or not brief.wings:
        brief = replace(brief, wings=() if rig is None else (FIRST_GEAR[rig],), wing_in_use=0)
    foils = brief.foils
    if discipline in FOILING and (brief.discipline not in FOILING or not foils):
        foils = foils or Brief().foils
    elif discipline not in FOILING:
        foils = ()
    if brief.discipline != discipline:
        brief = replace(brief, pace=0.0, known=None)
    return replace(
        brief, discipline=discipline, foils=foils, foil_in_use=min(brief.foil_in_use, max(len(foils) - 1, 0))
    )
