"""Cards: what the rack knows of a board without opening it."""

from __future__ import annotations

import json
from dataclasses import field

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.register.record import Verdict
from kelvor.core.shape.surface.geometry import Geometry

BOOK_VERSION = 1
"""Raised when a figure of the cards is counted another way: older cards are counted again then."""
PLACES = 41
"""An outline on a card has so many points a side."""


@frozen
class Drawn:
    """What is counted of a step for its card: figures by key (SI), and half-widths from tail to nose [m]."""

    figures: dict[str, float]
    half: tuple[float, ...]


def drawn(live: Live) -> Drawn:
    """The card of a board that closes."""
    figures = {f.key: float(f"{f.value:.7g}") for f in live.figures if f.exists and f.valid and not f.definition.ranks}
    return Drawn(figures, half_widths(live.geometry))


def packed_card(card: Drawn) -> str:
    """What is counted of a step, as text."""
    return json.dumps({"figures": card.figures, "half": card.half}, separators=(",", ":"))


def unpacked_card(data: str) -> Drawn | None:
    """What is counted of a step, from its text; None where that is none."""
    try:
        plain = json.loads(data)
        return Drawn({str(k): float(v) for k, v in plain["figures"].items()}, tuple(float(v) for v in plain["half"]))
    except (ValueError, KeyError, TypeError, AttributeError):
        return None


def half_widths(measured: Geometry) -> tuple[float, ...]:
    """Half-widths from tail to nose [m], close together at the ends, to the tenth of a millimetre."""
    shape = measured.shape
    at = measured.board.length * _places(PLACES)
    return tuple(round(float(v), 4) for v in np.interp(at, shape.x, shape.half_width))


def _places(count: int) -> Array:
    """Shares of the length, close together where an outline bends most."""
    return (1 - np.cos(np.linspace(0.0, np.pi, count))) / 2


@frozen
class CardWords:
    """Words somewhere about a board: where they stand, how much they weigh in a search, the step they are about.

    `more` is searched with them and not shown.
    """

    where: str
    text: str
    weight: float = 1.0
    step: int | None = None
    more: str = ""


@frozen
class Card:
    """A board as it stands in the rack.

    Attributes
    ----------
    board, uid:
        Its id in the file; or, where it is only a page of a notebook, 0 and its record.
    step, number, steps:
        The step it was left at, that step's number, and how many there are.
    touched:
        When it was last worked on.
    half:
        Half-widths from tail to nose [m]; empty while they are not counted.
    parent:
        The board it was made from, 0 where there is none.
    cut_from:
        The old board whose foam it is to be cut out of, 0 where there is none.
    words:
        All that is written about it.
    """

    board: int
    name: str
    discipline: Discipline
    touched: str
    uid: str = ""
    step: int = 0
    number: int = 0
    steps: int = 0
    figures: dict[str, float] = field(default_factory=dict)
    half: tuple[float, ...] = ()
    parent: int = 0
    cut_from: int = 0
    rider: str = ""
    serials: tuple[str, ...] = ()
    verdict: Verdict | None = None
    why: str = ""
    who: str = ""
    words: tuple[CardWords, ...] = ()
    photo: str = ""

    @property
    def counted(self) -> bool:
        """Whether its figures are known."""
        return bool(self.half) or not self.board

    @property
    def key(self) -> str:
        """What tells it from every other."""
        return str(self.board) if self.board else self.uid


def card_outline(half: tuple[float, ...], length: float) -> Array:
    """The closed outline of a card (n, 2) [m], tail at nothing."""
    x = length * _places(len(half))
    y = np.array(half)
    return np.concatenate([np.column_stack([x, y]), np.column_stack([x, -y])[::-1]])
