"""Fittings of a foil board: tracks and strap rows."""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.shape.places import Place


@dataclass(frozen=True, slots=True, kw_only=True)
class FoilTracks:
    """Two parallel tracks that take the foil's plate.

    Attributes
    ----------
    at:
        Middle of the tracks.
    length, spacing, depth:
        Of the tracks, between their centre lines, and into the foam [m].
    plate:
        Length of the foil's plate [m]; what the tracks are longer is the range of the mast.
    mast:
        Where the mast stands, ahead of the middle of the tracks [m].
    mass:
        Both tracks with their foam blocks [kg].
    """

    at: Place
    length: float = 0.30
    spacing: float = 0.09
    depth: float = 0.025
    plate: float = 0.17
    mast: float = 0.0
    mass: float = 0.22

    @property
    def travel(self) -> float:
        """How far the mast can go either way from the middle of the tracks [m]."""
        return max(0.0, (self.length - self.plate) / 2)


@dataclass(frozen=True, slots=True, kw_only=True)
class StrapRow:
    """Inserts for foot straps across the deck: one in the middle (inset None) or two."""

    name: str
    at: Place
    half_spread: float = 0.0
    mass: float = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Fittings:
    """All fittings, and what is glued on the deck."""

    tracks: FoilTracks | None = None
    straps: tuple[StrapRow, ...] = ()
    pad_areal_mass: float = 0.6
    pad_cover: float = 0.55
    other_mass: float = 0.12
