"""Figures: numbers that know their unit, method, band and validity."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from enum import Enum
from typing import Literal

from kelvor.core.findings import Rests
from kelvor.core.units import Quantity, System, si_unit, text

Origin = Literal["computed", "measured", "felt", "claimed", "simulated"]
"""Where a value comes from. It stays with the value for ever: what a stand-in of a device said is simulated, and counts nowhere."""


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
    """What a figure is, whatever the board: declared once, beside the function that counts it.

    Attributes
    ----------
    key:
        Stable name used by scripts.
    label:
        The trade's words for it.
    more, less:
        Words for a difference, such as "wider" and "narrower".
    ranks:
        Whether it only ranks boards: it is then told as a ratio to a reference, never alone.
    head, head_below:
        How its value reads at the head of a phase, and a negative one where that reads otherwise.
    below:
        The word after its size where it is negative and read so, such as "above" for a depth.
    ratio:
        The word before its ratio to the reference, where it heads a phase as one.
    short, short_below:
        How its value reads in a line of a phase's tile, and a negative one.
    rests:
        Fittings on whose place it rests: where one cannot be had, no phase that shows the figure meets.
    school:
        What the schools of the trade say of it (common practice, no source).
    """

    key: str
    label: str
    quantity: Quantity
    method: Method = GEOMETRY
    better: Better = Better.NEITHER
    more: str = "more"
    less: str = "less"
    ranks: bool = False
    head: str = ""
    head_below: str = ""
    below: str = ""
    ratio: str = ""
    short: str = ""
    short_below: str = ""
    school: str = ""
    rests: tuple[Rests, ...] = ()

    @property
    def si(self) -> str:
        """Unit of `Figure.value`."""
        return si_unit(self.quantity)


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
    origin:
        Where it comes from.
    """

    definition: FigureDefinition
    value: float
    band: float = 0.0
    band_of_difference: float = 0.0
    valid: bool = True
    note: str = ""
    inputs: tuple[tuple[str, str], ...] = field(default=())
    origin: Origin = "computed"

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


def band_words(figure: Figure, system: System) -> str:
    """The band, such as “±0.3 kg”, finer where it is below what is shown."""
    quantity = figure.definition.quantity
    shown = text(figure.band, quantity, system)
    return f"±{shown}" if any(c in "123456789" for c in shown) else f"within {text(figure.band, quantity, system, extra=2)}"
