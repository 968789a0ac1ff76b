"""A lever: what a designer pulls, as data."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from kelvor.core.shape.board import Board
from kelvor.core.units import Quantity

Read = Callable[[Board], float]
Set = Callable[[Board, float], Board]


@dataclass(frozen=True, slots=True)
class Lever:
    """One lever.

    Attributes
    ----------
    explains:
        What more of it gives and costs, in the trade's words (common practice, no source).
    step:
        A fair step, in SI.
    sets:
        Measures that it types and which therefore do not pay for it.
    schedule:
        Key of the schedule it stands for, shown on the strip, or empty.
    figure:
        Key of the figure that reads the same, where there is one: a panel then need not measure again.
    """

    key: str
    label: str
    group: str
    quantity: Quantity
    step: float
    read: Read
    set: Set
    explains: str = ""
    sets: frozenset[str] = frozenset()
    schedule: str = ""
    figure: str = ""
