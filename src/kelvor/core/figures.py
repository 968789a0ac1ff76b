"""Figures: numbers that know their unit, method, band and validity."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from enum import Enum

from kelvor.core.units import Quantity


class Better(Enum):
    """Which way a figure improves, where that can be said at all."""

    MORE = "more"
    LESS = "less"
    NEITHER = "neither"


@dataclass(frozen=True, slots=True)
class Method:
    """How a figure comes about.

    Attributes
    ----------
    name:
        The method in a few words.
    source:
        Publication, or "geometry" where nothing but the drawn shape is read,
        or "common practice, no source".
    limits:
        Where the method holds, in words.
    """

    name: str
    source: str
    limits: str = ""


GEOMETRY = Method("read off the drawn surface", "geometry", "any board that closes")


@dataclass(frozen=True, slots=True)
class FigureDefinition:
    """What a figure is, whatever the board.

    Attributes
    ----------
    key:
        Stable name used by scripts.
    label:
        The trade's words for it.
    si:
        Unit of `Figure.value`.
    more, less:
        Words for a difference, such as "wider" and "narrower".
    """

    key: str
    label: str
    quantity: Quantity
    si: str
    method: Method = GEOMETRY
    better: Better = Better.NEITHER
    more: str = "more"
    less: str = "less"


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """One computed figure.

    Attributes
    ----------
    value:
        In SI units, or NaN where it does not exist for this board.
    band:
        Half-width of the honest uncertainty of `value`, same unit.
    band_of_difference:
        Half-width for a difference between two boards by the same method.
    valid:
        False when the method is outside its range; `note` says why.
    note:
        What the reader should know: condition, tolerance, reason.
    inputs:
        What went in, as (name, text) pairs.
    """

    definition: FigureDefinition
    value: float
    band: float = 0.0
    band_of_difference: float = 0.0
    valid: bool = True
    note: str = ""
    inputs: tuple[tuple[str, str], ...] = field(default=())

    @property
    def key(self) -> str:
        """The definition's key."""
        return self.definition.key

    @property
    def exists(self) -> bool:
        """Whether there is a number to show."""
        return math.isfinite(self.value)


Figures = dict[str, Figure]


def by_key(figures: tuple[Figure, ...]) -> Figures:
    """Figures in order, by key."""
    return {figure.key: figure for figure in figures}
