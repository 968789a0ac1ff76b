"""Figures: numbers that know their unit, method, band and validity."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import field, replace
from enum import Enum
from typing import Literal

from kelvor.core.base.arrays import Array
from kelvor.core.base.findings import Rests
from kelvor.core.base.units import Quantity, System, number_text, si_unit, signed, text
from kelvor.core.base.values import frozen

Origin = Literal["computed", "measured", "felt", "claimed", "simulated"]
"""Where a value comes from. It stays with the value for ever: what a stand-in of a device said is simulated, and counts
nowhere.
"""


class Better(Enum):
    """Which way a figure improves, where that can be said at all."""

    MORE = "more"
    LESS = "less"
    NEITHER = "neither"


@frozen
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


@frozen
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
    band_share, band_least:
        What the method leaves open of a value, as a share of its size and at the least [SI] (judgement, unless the
        method names a source), where nothing closer is counted.
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
    band_share: float = 0.0
    band_least: float = 0.0

    def band_of(self, value: float) -> float:
        """Half-width of what the method leaves open of a value, same unit."""
        return self.band_share * abs(value) + self.band_least

    def bands_of(self, values: Array) -> Array:
        """The same of each of many values (n,), for the lines of a chart."""
        halves: Array = self.band_share * abs(values) + self.band_least
        return halves

    @property
    def si(self) -> str:
        """Unit of `Figure.value`."""
        return si_unit(self.quantity)


@frozen(kw_only=True)
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
    moves:
        By coefficient of the table what its own band moves the value by, once that is counted: it is in `band` then.
    counting:
        Whether that is still to be counted.
    """

    definition: FigureDefinition
    value: float
    band: float = 0.0
    band_of_difference: float = 0.0
    valid: bool = True
    note: str = ""
    inputs: tuple[tuple[str, str], ...] = field(default=())
    origin: Origin = "computed"
    moves: tuple[tuple[str, float], ...] = ()
    counting: bool = False

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


def widened(figure: Figure, moves: dict[str, float]) -> Figure:
    """The figure with what moved coefficients leave open added to its band."""
    left_open = math.hypot(*moves.values())
    return replace(figure, band=math.hypot(figure.band, left_open), moves=tuple(sorted(moves.items())), counting=False)


OF_DIFFERENCE = 0.5
"""What a method leaves open of a difference, as a share of it: of 75 differences of demo boards counted by five other
methods, the worst of the five moved six of ten by less (judgement). It is never more than it leaves open of boards as
unlike as they come.
"""
UNCOUNTED = 0.4, 0.02
"""What coefficients leave open of a difference of which that is not counted, as shares of it and of the value's band:
of 124 measured 87 % lie within.
"""


def difference_band(now: Figure, then: Figure, *, counted: bool = True) -> float:
    """Half-width of the band of a difference: what the method leaves open of it, and what coefficients move the one by
    and not the other, or are reckoned to where that is not `counted`.
    """
    difference = abs(now.value - then.value)
    method = min(max(now.band_of_difference, then.band_of_difference), OF_DIFFERENCE * difference)
    if not counted:
        return math.hypot(method, UNCOUNTED[0] * difference + UNCOUNTED[1] * max(now.band, then.band))
    here, there = dict(now.moves), dict(then.moves)
    apart = (here.get(key, 0.0) - there.get(key, 0.0) for key in here.keys() | there.keys())
    return math.hypot(method, *apart)


def told_apart(now: Figure, then: Figure) -> bool:
    """Whether two figures can be told apart: by more than the band of their difference, and by something to be read."""
    difference = abs(now.value - then.value)
    seen = any(c in "123456789" for c in number_text(difference, now.definition.quantity, System.METRIC))
    return seen and difference > difference_band(now, then)


def band_text(band: float, quantity: Quantity, system: System) -> str:
    """A half-width, such as “±0.3 kg”, finer where it is below what is shown."""
    shown = text(band, quantity, system)
    return f"±{shown}" if any(c in "123456789" for c in shown) else f"within {text(band, quantity, system, extra=2)}"


def band_words(figure: Figure, system: System, *, waiting: str = "being counted") -> str:
    """The band of a figure; while only the method's is known, what the rest is `waiting` for."""
    words = band_text(figure.band, figure.definition.quantity, system)
    return f"{words} by its method, coefficients {waiting}" if figure.counting else words


def value_words(figure: Figure, system: System, *, extra: int = 0) -> str:
    """A figure's value with its unit: a negative one whose size has a word of its own by that, such as “4.8 cm
    above”.
    """
    if not figure.exists:
        return "–"
    d = figure.definition
    if figure.value < 0 and d.below:
        shown = text(-figure.value, d.quantity, system, extra=extra)
        return f"{shown} {d.below}" if any(c in "123456789" for c in shown) else shown
    return text(figure.value, d.quantity, system, extra=extra)


def ranked_words(figure: Figure, then: Figure | None) -> str:
    """A figure that only ranks, as a ratio to the reference; a dash without one."""
    if then is None or not (figure.exists and figure.valid and then.exists and then.valid) or then.value <= 0:
        return "–"
    return f"{figure.value / then.value:.2f} ×"


def difference_words(now: Figure, then: Figure | None, system: System, *, size: bool = True) -> str:
    """A difference with its meaning: “+1.2 cm wider”, “same”, or nothing where it cannot be said; only its meaning
    without `size`.
    """
    if then is None or not (now.exists and then.exists and now.valid and then.valid):
        return ""
    gap = now.value - then.value
    q = now.definition.quantity
    if not any(c in "123456789" for c in number_text(abs(gap), q, system)):
        return "same"
    word = now.definition.more if gap > 0 else now.definition.less
    return f"{signed(gap, q, system)} {word}" if size else word


def figure_maker(inputs: tuple[tuple[str, str], ...], narrower: float) -> Callable[..., Figure]:
    """What makes the figures of one analysis from definition, value, band, note and whether it holds.

    A difference of two such figures is known `narrower` times as well as either; a value that is not finite does not
    hold.
    """

    def make(definition: FigureDefinition, value: float, band: float, note: str = "", valid: bool = True) -> Figure:
        return Figure(
            definition=definition,
            value=value,
            band=band,
            band_of_difference=band / narrower,
            note=note,
            inputs=inputs,
            valid=valid and math.isfinite(value),
        )

    return make
