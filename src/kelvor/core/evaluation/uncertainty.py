"""Bands counted: every coefficient a ride reads, moved by its own band, and what that moves; those that set the scene
of a figure leave nothing open in it.

One at a time, the root of the squares of all moves is what the coefficients
leave open; a model's own disagreement is added to it. Two boards share their
coefficients: of a difference only what moves the one more than the other is
left open.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from typing import cast

from kelvor.core.base.figures import widened
from kelvor.core.evaluation.evaluation import Evaluation, ride_case, with_ride
from kelvor.core.ride.case import BoardCase
from kelvor.core.ride.condition import Condition
from kelvor.core.ride.run_up import Going
from kelvor.core.ride.stage import Ride, ride
from kelvor.core.tank.laws.coefficients import ABOUT, Coefficients

Moves = dict[str, dict[str, float]]
"""By coefficient what it moves: figures by key, signed, in their own units."""


FEWER = 21
"""Speeds of a curve while coefficients are moved."""
DEAR = ("righting", "righting_back", "back", "run_up", "lighter")
"""What of a board is dear to count, and kept while no coefficient that it reads is moved."""


class Watched:
    """A table that remembers which of its coefficients were asked for."""

    def __init__(self, table: Coefficients) -> None:
        self._table = table
        self.read: set[str] = set()

    def __getattr__(self, name: str) -> float:
        self.read.add(name)
        return float(getattr(self._table, name))


class PerturbedRide:
    """A board in a condition, its ride counted with any coefficient moved; on fewer speeds, both sides of a
    move alike.
    """

    def __init__(self, board: BoardCase, condition: Condition) -> None:
        brief = board.brief
        # other gear of the brief is no part of any figure
        wings = () if brief.wing is None else (brief.wing,)
        model = board.model.otherwise(brief=replace(brief, wings=wings, wing_in_use=0), speeds=FEWER)
        self._board, self._condition = BoardCase(model, board.known), condition
        self._board.__dict__.update({name: getattr(board, name) for name in ("coarse", "feet")})

    def _with(self, table: Coefficients) -> BoardCase:
        other = BoardCase(self._board.model.otherwise(table=table), self._board.known)
        other.__dict__.update({name: getattr(self._board, name) for name in ("coarse", "feet")})
        return other

    def _figures(self, board: BoardCase) -> dict[str, float]:
        return {f.key: f.value for f in ride(board, self._condition, pictures=False).figures if f.valid and f.exists}

    @cached_property
    def _still(self) -> tuple[dict[str, float], frozenset[str], dict[str, frozenset[str]]]:
        """Figures as the coefficients stand, the coefficients read, and those that each dear part reads."""
        watched = Watched(self._board.model.table)
        board = self._with(cast(Coefficients, watched))
        figures, dear = self._figures(board), {}
        for name in DEAR:
            if name in board.__dict__:
                alone = Watched(self._board.model.table)
                found = getattr(self._with(cast(Coefficients, alone)), name)
                if isinstance(found, Going):
                    _ = found.planes  # looked for when first asked, and read then
                self._board.__dict__[name] = found
                dear[name] = frozenset(alone.read)
        return figures, frozenset(key for key in watched.read if key in ABOUT and not ABOUT[key].scene), dear

    @property
    def read(self) -> tuple[str, ...]:
        """Coefficients that this ride reads, those that set its scene apart."""
        return tuple(sorted(self._still[1]))

    def moves(self, key: str) -> dict[str, float]:
        """What a coefficient moved up by its band (down where it ends) does to each figure."""
        still, _, dear = self._still
        table, about = self._board.model.table, ABOUT[key]
        value = getattr(table, key)
        by = about.band if value + about.band <= about.high else -about.band
        board = self._with(replace(table, **{key: value + by}))
        board.__dict__.update({name: getattr(self._board, name) for name, read in dear.items() if key not in read})
        moved = self._figures(board)
        return {k: (moved[k] - still[k]) * (1 if by > 0 else -1) for k in still if k in moved and moved[k] != still[k]}


def moves_by_figure(moves: Mapping[str, Mapping[str, float]]) -> dict[str, dict[str, float]]:
    """Moves turned round: by figure what each coefficient moves it."""
    found: dict[str, dict[str, float]] = {}
    for coefficient, figures in moves.items():
        for key, move in figures.items():
            found.setdefault(key, {})[coefficient] = move
    return found


def with_bands(ridden: Ride, moves: Mapping[str, Mapping[str, float]]) -> Ride:
    """A ride with what the coefficients leave open in its bands."""
    turned = moves_by_figure(moves)
    return replace(ridden, figures=tuple(widened(f, turned.get(f.key, {})) for f in ridden.figures))


def with_counted_bands(evaluation: Evaluation, condition: Condition) -> Evaluation:
    """An evaluation with the bands of its ride counted, here and now."""
    if evaluation.ride is None:
        return evaluation
    moved = PerturbedRide(ride_case(evaluation), condition)
    return with_ride(evaluation, with_bands(evaluation.ride, {key: moved.moves(key) for key in moved.read}))
