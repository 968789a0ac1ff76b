"""What lists and strips show: plain values."""

from __future__ import annotations

from kelvor.core.base.values import frozen


@frozen
class Row:
    """A row of a list: a heading when `key` is empty."""

    key: str
    label: str
    value: str = ""
    aside: str = ""
    struck: bool = False
    mark: str = ""
    tip: str = ""
    renewing: bool = False
    """Whether the value is that of the board before, and another is being counted."""
    cells: tuple[int, ...] = ()
    """For each phase what a fair step does: 1 better, −1 worse, ±2 more or less, 0 nothing."""
    heads: str = ""
    """Initials of the phases over the cells, on a heading."""


@frozen
class Tile:
    """A tile of the ride strip."""

    key: str
    name: str
    headline: str
    difference: str
    lines: tuple[str, ...]
    verdict: str
    outcome: str
    stale: bool
    question: str = ""


def money(amount: float, currency: str) -> str:
    """An amount in the workshop's currency, to the whole."""
    return f"{amount:,.0f} {currency}".replace(",", "\u202f")
