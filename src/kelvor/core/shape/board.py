"""The board: an immutable value of lines, layers, rails, deck, fittings and materials."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from kelvor.core.base.limits import (
    NAME,
    Along,
    Limit,
    Many,
    Text,
    areal_masses,
    depths,
    lengths,
)
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.battens import Batten
from kelvor.core.shape.curves.outline import Outline
from kelvor.core.shape.curves.places import Datum
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.parts.fittings import Fittings
from kelvor.core.shape.parts.layers import CutAway, DeckLayer, Layer, Plinth
from kelvor.core.shape.parts.rails import Rails

BaseKind = Literal["table", "aft flat", "tracks", "middle"]
LockedMeasure = Literal["volume", "width", "length_times_width"]


@frozen(kw_only=True)
class BaseLine:
    """How the board lies: the datum of its heights.

    `slope` is the base line's rise per metre in the drawing's own frame; its
    height is always that of the lowest point of the keel line above it.
    Re-levelling is an edit, so the slope stays until told otherwise.
    """

    kind: BaseKind = "tracks"
    slope: Annotated[float, Limit(-0.5, 0.5)] = 0.0


@frozen(kw_only=True)
class Skin:
    """Thickness of the laminate between finished surface and core, by zone [m]."""

    deck: Annotated[float, depths(0, 0.01)] = 0.0008
    bottom: Annotated[float, depths(0, 0.01)] = 0.0006
    rail: Annotated[float, depths(0, 0.01)] = 0.001


@frozen(kw_only=True)
class Materials:
    """What it is made of: core density [kg/m³] and laminate by areal mass, by zone [kg/m²]."""

    core_density: Annotated[float, Limit(5, 1000, Quantity.DENSITY)] = 28.0
    deck_areal_mass: Annotated[float, areal_masses(0, 10)] = 1.05
    bottom_areal_mass: Annotated[float, areal_masses(0, 10)] = 0.75
    rail_areal_mass: Annotated[float, areal_masses(0, 10)] = 1.25
    paint_areal_mass: Annotated[float, areal_masses(0, 10)] = 0.12


@frozen(kw_only=True)
class LockedZone:
    """Between `start` and `end` [m from the tail tip] no line may move."""

    name: Annotated[str, NAME]
    start: Annotated[float, lengths(-8, 8)]
    end: Annotated[float, lengths(-8, 8)]


@frozen(kw_only=True)
class Locks:
    """What edits must hold, and what takes up a change of a rocker line.

    `absorber` is "rocker", "new layer" (a layer of the line's own) or a layer's name; `reach` is how far its
    change may run either way [m].
    """

    measures: tuple[LockedMeasure, ...] = ()
    zones: Annotated[tuple[LockedZone, ...], Many(40)] = ()
    absorber: Annotated[str, Text(120)] = "new layer"
    reach: Annotated[float, lengths(0.01, 7)] = 0.30


Colour = Literal["white", "light", "bright", "dark", "black"]
Surface = Literal["gloss", "matt", "sanded", "clear"]
COLOURS, SURFACES = get_args(Colour), get_args(Surface)


@frozen(kw_only=True)
class Finish:
    """How the deck looks and feels: its colour and its last coat. Dark decks grow hot in the sun and soften foam and
    laminate.
    """

    colour: Colour = "white"
    surface: Surface = "matt"


@frozen(kw_only=True)
class Board:
    """A board.

    Lengths in metres, x from the tail tip to the nose, y to port, z up.

    Attributes
    ----------
    rocker:
        Reference rocker: the line the bottom layers stand on.
    thickness:
        At the centreline, from the reference rocker to the deck line.
    crown:
        How much lower the deck edge lies than the deck's centre [m], along the board.
    layers, deck_layers:
        What shapes the bottom and the deck, in their order.
    construction:
        How it is built, layer by layer; without one, `materials` tells areal masses only.
    mirrored:
        Whether the board is kept the same end for end.
    zero:
        From which datum stations are shown.
    """

    name: Annotated[str, NAME]
    length: Annotated[float, lengths(0.6, 6.5)]
    outline: Outline
    rocker: Annotated[Batten, Along(lengths(-1, 1))]
    thickness: Annotated[Batten, Along(depths(1e-3, 0.45))]
    crown: Annotated[Schedule, Along(depths(-0.1, 0.2))] = Schedule.constant(0.006)
    layers: Annotated[tuple[Layer, ...], Many(60)] = ()
    deck_layers: Annotated[tuple[DeckLayer, ...], Many(40)] = ()
    rails: Rails = Rails()
    fittings: Fittings = Fittings()
    skin: Skin = Skin()
    materials: Materials = Materials()
    finish: Finish = Finish()
    construction: Construction | None = None
    base: BaseLine = BaseLine()
    zero: Datum = "tail"
    mirrored: bool = False
    locks: Locks = Locks()

    @property
    def mast_x(self) -> float | None:
        """Where the foil mast stands [m from the tail tip], or None without tracks."""
        tracks = self.fittings.tracks
        return None if tracks is None else tracks.at.x(self.length) + tracks.mast

    @property
    def cut_away(self) -> CutAway | None:
        """The cut-away that is switched on, if any."""
        return next((layer for layer in self.layers if isinstance(layer, CutAway) and layer.on), None)

    @property
    def plinth(self) -> Plinth | None:
        """The plinth that is switched on, if any."""
        return next((layer for layer in self.layers if isinstance(layer, Plinth) and layer.on), None)
