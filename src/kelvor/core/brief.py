"""The brief: who the board is for, where it rides, what it must do."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from kelvor.core.disciplines import Discipline
from kelvor.core.fluids import Water
from kelvor.core.units import KNOT

Skill = Literal["learning", "riding", "expert"]
WindKind = Literal["mean", "gust"]
Relation = Literal["at least", "at most"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rider:
    """The rider: mass with wetsuit and harness [kg], height and stance [m]."""

    name: str = "Rider"
    mass: float = 75.0
    height: float = 1.76
    stance: float = 0.55
    skill: Skill = "riding"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wind:
    """Wind [m/s] at a height [m], as a mean or in the gusts."""

    speed: float = 15 * KNOT
    height: float = 10.0
    kind: WindKind = "mean"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wing:
    """A hand wing, sail or kite the rider owns: area [m²], mass with its rig [kg]."""

    name: str
    area: float
    mass: float = 2.6


@dataclass(frozen=True, slots=True, kw_only=True)
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
    """

    name: str
    mass: float = 4.2
    volume: float = 0.0028
    mast_length: float = 0.80
    area: float = 0.115
    span: float = 0.86
    lift_ahead: float = 0.10
    fuselage: float = 0.66


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """What a figure should be.

    With `relative` the value is a share of the known board's figure (1.05 asks
    for five per cent more). A `wish` is not a must.
    """

    figure: str
    relation: Relation
    value: float
    relative: bool = False
    wish: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownBoard:
    """A board the rider knows, by its figures (key, value in SI)."""

    name: str
    figures: tuple[tuple[str, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
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
    """

    title: str = "New brief"
    discipline: Discipline = "wing foil"
    place: str = ""
    notes: str = ""
    rider: Rider = Rider()
    water: Water = Water()
    wind: Wind = Wind()
    wings: tuple[Wing, ...] = ()
    foils: tuple[Foil, ...] = (Foil(name="Foil"),)
    foil_in_use: int = 0
    wing_in_use: int = 0
    wing_lift: float = 60.0
    ride_height: float = 0.40
    pace: float = 0.0
    watts: float = 130.0
    peak_watts: float = 450.0
    targets: tuple[Target, ...] = ()
    known: KnownBoard | None = None
    hints: bool = True

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
