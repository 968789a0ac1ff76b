"""Fittings: foil tracks, fin boxes with their fins, mast track, straps, plugs and pads."""

from __future__ import annotations

from math import tan
from typing import Annotated, Literal, get_args

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.limits import (
    NAME,
    Many,
    angles,
    areal_masses,
    counts,
    depths,
    lengths,
    masses,
    shares,
)
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.places import Place

Array = NDArray[np.float64]
BoxKind = Literal["deep box", "long box", "tab box", "side box", "bolts"]
Side = Literal["bottom", "deck"]
FinSection = Literal["both sides", "flat inside"]
SECTIONS: tuple[FinSection, ...] = get_args(FinSection)

BOX_SIZES: dict[BoxKind, tuple[float, float, float, float]] = {
    "deep box": (0.175, 0.034, 0.080, 0.30),
    "long box": (0.270, 0.026, 0.030, 0.22),
    "tab box": (0.165, 0.022, 0.024, 0.10),
    "side box": (0.120, 0.020, 0.015, 0.06),
    "bolts": (0.095, 0.012, 0.005, 0.02),
}
"""Length, width and depth [m], and mass [kg], of generic boxes (common practice, no source)."""
FLANGE = 0.012
"""A box's flange stands this far out beyond its slot on either side [m] (common practice, no source)."""


@frozen(kw_only=True)
class FoilTracks:
    """What takes the foil: two parallel tracks, or one deep box.

    Attributes
    ----------
    at:
        Middle of the tracks.
    length, spacing, depth:
        Of the tracks, between their centre lines (0 for a deep box), and into the foam [m].
    plate:
        Length of the foil's plate [m]; what the tracks are longer is the range of the mast.
    mast:
        Where the mast stands, ahead of the middle of the tracks [m].
    mass:
        Both tracks with their foam blocks [kg].
    """

    at: Place
    length: Annotated[float, lengths(0.05, 1.5)] = 0.30
    spacing: Annotated[float, lengths(0, 0.4)] = 0.09
    depth: Annotated[float, depths(0, 0.2)] = 0.025
    plate: Annotated[float, lengths(0.02, 1)] = 0.17
    mast: Annotated[float, lengths(-1, 1)] = 0.0
    mass: Annotated[float, masses(0, 10)] = 0.22

    @property
    def travel(self) -> float:
        """How far the mast can go either way from the middle of the tracks [m]."""
        return max(0.0, (self.length - self.plate) / 2)


@frozen(kw_only=True)
class Fin:
    """A fin by its template.

    Attributes
    ----------
    span, base:
        Depth below the bottom, and chord at the bottom [m].
    rake:
        How far the fin leans aft, measured at mid-chord from upright [rad].
    tip:
        Chord at nine tenths of the span, as a share of the base.
    thickness:
        Of the section, as a share of the chord.
    section:
        Foiled on both sides, or flat on the inside.
    """

    name: Annotated[str, NAME] = "fin"
    span: Annotated[float, lengths(0.005, 1)] = 0.20
    base: Annotated[float, lengths(0.01, 0.5)] = 0.11
    rake: Annotated[float, angles(-35, 70)] = 0.45
    tip: Annotated[float, shares(0.02, 1.2)] = 0.45
    thickness: Annotated[float, shares(0.005, 0.3)] = 0.09
    section: FinSection = "both sides"
    set_depth: Annotated[float, depths(0, 0.2)] = 0.018
    mass: Annotated[float, masses(0, 5)] = 0.12

    def template(self, count: int = 25) -> tuple[Array, Array]:
        """Leading and trailing edge, each (count, 2): distance ahead of the base's trailing edge, depth [m]."""
        t = np.linspace(0.0, 1.0, count)
        chord = self.base * (1 - (1 - self.tip) * t / 0.9) * np.sqrt(np.clip(1 - t**7, 0.0, 1.0))
        middle = self.base / 2 - self.span * t * tan(self.rake)
        return np.stack([middle + chord / 2, self.span * t], axis=1), np.stack(
            [middle - chord / 2, self.span * t], axis=1
        )

    @property
    def area(self) -> float:
        """Of one side [m²], by the template."""
        lead, trail = self.template(61)
        return float(np.trapezoid(lead[:, 0] - trail[:, 0], lead[:, 1]))


@frozen(kw_only=True)
class FinBox:
    """One box on the centreline, or a pair, each with its fin.

    Attributes
    ----------
    at:
        The trailing edge of the fin's base.
    offset:
        Half the distance between a pair's boxes [m]; 0 is one box on the centreline.
    toe:
        Nose of the fin towards the centre [rad].
    cant:
        Lean of the tip outward [rad].
    """

    name: Annotated[str, NAME]
    kind: BoxKind = "tab box"
    at: Place
    offset: Annotated[float, lengths(0, 0.7)] = 0.0
    toe: Annotated[float, angles(-29, 29)] = 0.0
    cant: Annotated[float, angles(-46, 46)] = 0.0
    fin: Fin = Fin()

    @property
    def count(self) -> int:
        """One, or two of a pair."""
        return 1 if self.offset == 0 else 2

    @property
    def mass(self) -> float:
        """Boxes and fins [kg]."""
        return self.count * (BOX_SIZES[self.kind][3] + self.fin.mass)


@frozen(kw_only=True)
class MastTrack:
    """The track on the deck that takes the mast base; `at` is its middle."""

    at: Place
    length: Annotated[float, lengths(0.05, 1)] = 0.24
    width: Annotated[float, depths(0.01, 0.2)] = 0.032
    depth: Annotated[float, depths(0, 0.2)] = 0.032
    mass: Annotated[float, masses(0, 5)] = 0.28


@frozen(kw_only=True)
class StrapRow:
    """Inserts for foot straps or bindings across the deck: one in the middle, or two.

    `half_spread` is inboard, `outboard` a second, wider pair (0 for none) [m];
    `inserts` of them lie one behind another, `pitch` apart; the foot stands `angle` from square across,
    its toes forward [rad].
    """

    name: Annotated[str, NAME]
    at: Place
    half_spread: Annotated[float, lengths(0, 0.75)] = 0.0
    mass: Annotated[float, masses(0, 10)] = 0.05
    outboard: Annotated[float, lengths(0, 0.75)] = 0.0
    inserts: Annotated[int, counts(1, 24)] = 3
    pitch: Annotated[float, depths(0.005, 0.2)] = 0.025
    angle: Annotated[float, angles(-60, 60)] = 0.0


@frozen(kw_only=True)
class Plug:
    """A vent, leash plug or handle: where, how large, how deep, how heavy."""

    kind: Literal["vent", "leash plug", "handle", "tow eye"]
    at: Place
    offset: Annotated[float, lengths(-0.75, 0.75)] = 0.0
    side: Side = "deck"
    length: Annotated[float, depths(0.005, 0.6)] = 0.03
    width: Annotated[float, depths(0.005, 0.3)] = 0.03
    depth: Annotated[float, depths(0, 0.2)] = 0.02
    mass: Annotated[float, masses(0, 3)] = 0.02


@frozen(kw_only=True)
class Pad:
    """A deck pad from `start` to `end`, over this share of the deck's width."""

    name: Annotated[str, NAME]
    start: Place
    end: Place
    cover: Annotated[float, shares(0, 1)] = 0.85
    thickness: Annotated[float, depths(0, 0.06)] = 0.005
    areal_mass: Annotated[float, areal_masses(0, 8)] = 0.9


@frozen(kw_only=True)
class Fittings:
    """All fittings, and what is glued on the deck. Without pads of their own, `pad_cover` of the whole deck is
    padded.
    """

    tracks: FoilTracks | None = None
    straps: Annotated[tuple[StrapRow, ...], Many(40)] = ()
    pad_areal_mass: Annotated[float, areal_masses(0, 5)] = 0.6
    pad_cover: Annotated[float, shares(0, 1)] = 0.55
    other_mass: Annotated[float, masses(0, 20)] = 0.12
    fin_boxes: Annotated[tuple[FinBox, ...], Many(20)] = ()
    mast_track: MastTrack | None = None
    plugs: Annotated[tuple[Plug, ...], Many(40)] = ()
    pads: Annotated[tuple[Pad, ...], Many(20)] = ()
