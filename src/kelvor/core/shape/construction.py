"""What a board is made of: core, cloth by zone, stringers, coats. A construction is a named value that boards share."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from kelvor.core.shape.places import Place

Zone = Literal["deck", "bottom", "rail", "all round"]
Method = Literal["hand", "bagged"]
Build = Literal["solid", "chambered", "hollow"]
ZONES: tuple[Zone, ...] = ("deck", "bottom", "rail", "all round")


@dataclass(frozen=True, slots=True, kw_only=True)
class Ply:
    """One or more layers of the same cloth.

    Attributes
    ----------
    cloth:
        Key in the table of materials.
    start, end:
        Between which places it lies; None runs to the tip.
    width:
        Full width of a patch about the centreline [m]; 0 covers the zone.
    angle:
        Of the warp to the board's length [rad].
    wrap:
        How far deck or bottom cloth runs on over the rail [m].
    """

    name: str
    cloth: str
    zone: Zone = "deck"
    count: int = 1
    start: Place | None = None
    end: Place | None = None
    width: float = 0.0
    angle: float = 0.0
    wrap: float = 0.0
    on: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Stringer:
    """A stiffener from bottom to deck: one on the centreline (offset 0), or a pair; `rail` ones follow the outline."""

    name: str
    material: str
    width: float = 0.004
    offset: float = 0.0
    rail: bool = False
    on: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Core:
    """The core's stock, and how a wooden one is made.

    Attributes
    ----------
    build:
        Solid, chambered (solid planks with chambers) or hollow (skin on ribs).
    skin, rib, pitch:
        Of a chambered or hollow core: thickness of wood left above and below, of a rib, and their distance [m].
    rail:
        Solid wood left along the outline [m].
    """

    stock: str = "eps25"
    build: Build = "solid"
    skin: float = 0.006
    rib: float = 0.008
    pitch: float = 0.12
    rail: float = 0.025


@dataclass(frozen=True, slots=True, kw_only=True)
class Coat:
    """A coat of resin or paint on all of the board, or on one zone [kg/m²]."""

    name: str
    areal_mass: float
    zone: Zone = "all round"


@dataclass(frozen=True, slots=True, kw_only=True)
class Construction:
    """A way to build a board.

    Attributes
    ----------
    method:
        How it is laid up; it decides the resin ratio.
    bags:
        Pulls of the vacuum bag, 0 for hand lay-up.
    """

    name: str
    core: Core = Core()
    resin: str = "epoxy"
    method: Method = "hand"
    plies: tuple[Ply, ...] = ()
    stringers: tuple[Stringer, ...] = ()
    coats: tuple[Coat, ...] = (Coat(name="Filler coat", areal_mass=0.15),)
    bags: int = 0
    notes: str = ""
