"""A rider's sentence as data, and how typed words find it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.values import frozen
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board

Group = Literal["set-up", "this board", "the next board"]
GROUPS: tuple[Group, ...] = ("set-up", "this board", "the next board")
"""What can be tried today, what can be worked on this board, what waits for the next one."""


@frozen
class Candidate:
    """A change that is said to help.

    Attributes
    ----------
    lever:
        Key of a lever; `layer:v.amount` stands for the layers of a kind, whatever they are called.
    sign:
        1 for more of it, −1 for less.
    why:
        By what mechanism it is said to help (common practice, no source).
    """

    lever: str
    sign: int
    why: str


@frozen
class Saying:
    """One sentence.

    Attributes
    ----------
    words, also:
        The sentence, and other words for the same.
    wants:
        Figures that speak of it, and which way helps: 1 more, −1 less.
    hand:
        What a set-up that is no lever of the board does, or that none does.
    schools:
        Where makers disagree, and what each would do.
    caution:
        What to look at first.
    """

    words: str
    also: str
    disciplines: tuple[Discipline, ...]
    wants: tuple[tuple[str, int], ...]
    hand: str
    set_up: tuple[Candidate, ...] = ()
    here: tuple[Candidate, ...] = ()
    after: tuple[Candidate, ...] = ()
    schools: str = ""
    caution: str = ""

    def grouped(self) -> tuple[tuple[Group, Candidate], ...]:
        """Its candidates, each with its group."""
        return tuple(
            (group, candidate)
            for group, candidates in zip(GROUPS, (self.set_up, self.here, self.after), strict=True)
            for candidate in candidates
        )


def said_of(sayings: Iterable[Saying], discipline: Discipline, typed: str = "") -> list[Saying]:
    """The sentences of a discipline that hold every typed word, in the order of the table."""
    words = typed.lower().split()
    return [
        s
        for s in sayings
        if discipline in s.disciplines and all(word in f"{s.words} {s.also}".lower() for word in words)
    ]


def lever_for(board: Board, there: Iterable[Lever], key: str) -> Lever | None:
    """The lever of a board that a candidate means; None where the board has none."""
    sort, _, rest = key.partition(":")
    keys = [key]
    if rest:
        kind, _, part = rest.partition(".")
        layers = board.layers if sort == "layer" else board.deck_layers
        keys = [f"{sort}.{layer.name}.{part}" for layer in layers if layer.kind == kind]
    by_key = {lever.key: lever for lever in there}
    return next((by_key[k] for k in keys if k in by_key), None)
