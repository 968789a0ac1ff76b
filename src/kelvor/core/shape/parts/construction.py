"""What a board is made of: core, cloth by zone, stringers, coats. A construction is a named value that boards share."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.limits import (
    NAME,
    Many,
    Text,
    angles,
    areal_masses,
    counts,
    depths,
    lengths,
)
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.places import Place

Zone = Literal["deck", "bottom", "rail", "all round"]
Method = Literal["hand", "bagged"]
Build = Literal["solid", "chambered", "hollow"]
ZONES: tuple[Zone, ...] = ("deck", "bottom", "rail", "all round")


@frozen(kw_only=True)
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

    name: Annotated[str, NAME]
    cloth: Annotated[str, NAME]
    zone: Zone = "deck"
    count: Annotated[int, counts(0, 40)] = 1
    start: Place | None = None
    end: Place | None = None
    width: Annotated[float, lengths(0, 2)] = 0.0
    angle: Annotated[float, angles(-180, 180)] = 0.0
    wrap: Annotated[float, lengths(0, 0.5)] = 0.0
    on: bool = True


@frozen(kw_only=True)
class Stringer:
    """A stiffener from bottom to deck: one on the centreline (offset 0), or a pair; `rail` ones follow the outline."""

    name: Annotated[str, NAME]
    material: Annotated[str, NAME]
    width: Annotated[float, depths(0.0005, 0.1)] = 0.004
    offset: Annotated[float, lengths(0, 0.75)] = 0.0
    rail: bool = False
    on: bool = True


@frozen(kw_only=True)
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

    stock: Annotated[str, NAME] = "eps25"
    build: Build = "solid"
    skin: Annotated[float, depths(0.001, 0.1)] = 0.006
    rib: Annotated[float, depths(0.001, 0.1)] = 0.008
    pitch: Annotated[float, lengths(0.01, 2)] = 0.12
    rail: Annotated[float, depths(0.001, 0.3)] = 0.025


@frozen(kw_only=True)
class Coat:
    """A coat of resin or paint on all of the board, or on one zone [kg/m²]."""

    name: Annotated[str, NAME]
    areal_mass: Annotated[float, areal_masses(0, 5)]
    zone: Zone = "all round"


@frozen(kw_only=True)
class Construction:
    """A way to build a board.

    Attributes
    ----------
    method:
        How it is laid up; it decides the resin ratio.
    bags:
        Pulls of the vacuum bag, 0 for hand lay-up.
    blocks:
        Key of the dense foam let in about fin boxes, mast track and inserts; empty where there is none. Foil tracks
        weigh what they do with theirs.
    potting:
        What fittings are set in, over the walls and floor of their pockets [kg/m²].
    """

    name: Annotated[str, NAME]
    core: Core = Core()
    resin: Annotated[str, NAME] = "epoxy"
    method: Method = "hand"
    plies: Annotated[tuple[Ply, ...], Many(80)] = ()
    stringers: Annotated[tuple[Stringer, ...], Many(40)] = ()
    coats: Annotated[tuple[Coat, ...], Many(40)] = (Coat(name="Filler coat", areal_mass=0.15),)
    bags: Annotated[int, counts(0, 20)] = 0
    blocks: Annotated[str, Text(80)] = ""
    potting: Annotated[float, areal_masses(0, 5)] = 0.0
    notes: Annotated[str, Text(20_000, lines=True)] = ""
