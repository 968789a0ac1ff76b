"""A lever: what a designer pulls, as data."""

from __future__ import annotations

from collections.abc import Callable

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, inside
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board

Read = Callable[[Board], float]
Set = Callable[[Board, float], Board]


def chosen_place(lever: Lever, words: str) -> float:
    """The place of a typed choice, by its first letters; raises InputError with what there is to choose."""
    typed = words.strip().lower()
    found = [i for i, choice in enumerate(lever.choices) if typed and choice.startswith(typed)]
    if len(found) != 1:
        raise InputError(
            f"“{words.strip()[:40]}” is none of them", where=lever.label, accepts=f"Give {', '.join(lever.choices)}"
        )
    return float(found[0])


@frozen
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
    choices:
        What may be chosen, where it is no number: `read` and `set` then take places among them.
    beside:
        What else a step of it tells where it moved: words and reading.
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
    choices: tuple[str, ...] = ()
    beside: tuple[tuple[str, Read], ...] = ()

    @property
    def told(self) -> str:
        """Its label as it is read alone, with what it belongs to where the label needs it."""
        plain = self.group in ("Outline", "Fittings", "Bottom layers", "Fins")
        return self.label if plain else f"{self.group}, {inside(self.label)}"
