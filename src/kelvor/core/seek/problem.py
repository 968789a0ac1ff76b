"""What is sought: which figures should come where, and which levers may move how far."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, Target
from kelvor.core.evaluation.book import BY_KEY, RIDDEN
from kelvor.core.levers.catalogue import levers, pulled_by
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board

Relation = Literal["at least", "at most", "equal"]
MOST_MOVES, MOST_DEMANDS = 12, 12
FAR = 6.0
"""A lever goes so many fair steps either way unless somebody says otherwise (our own choice)."""


@frozen(kw_only=True)
class Demand:
    """A figure by its key, and where it should come [SI]; `held` where it should stay as it was."""

    figure: str
    relation: Relation
    value: float
    held: bool = False

    def met_by(self, value: float) -> bool:
        """Whether a value meets it, to a thousandth."""
        near = 1e-3 * abs(self.value)
        up, down = value >= self.value - near, value <= self.value + near
        return {"at least": up, "at most": down, "equal": up and down}[self.relation]


@frozen(kw_only=True)
class Move:
    """A lever by its key that may move, and between which readings [SI]."""

    lever: str
    low: float
    high: float


@dataclass(frozen=True)
class SeekProblem:
    """A board, what is asked of it, and what may move."""

    board: Board
    demands: tuple[Demand, ...]
    moves: tuple[Move, ...]

    @property
    def keys(self) -> tuple[str, ...]:
        """Figures that are looked at, each once."""
        return tuple(dict.fromkeys(demand.figure for demand in self.demands))

    @property
    def ridden(self) -> bool:
        """Whether any of them needs a ride."""
        return any(key in RIDDEN for key in self.keys)

    @cached_property
    def levers(self) -> tuple[Lever, ...]:
        """The levers that may move, in their order."""
        there = {lever.key: lever for lever in levers(self.board)}
        return tuple(there[move.lever] for move in self.moves)

    @cached_property
    def readings(self) -> tuple[float, ...]:
        """What they read on the start board [SI]."""
        return tuple(lever.read(self.board) for lever in self.levers)

    @cached_property
    def room(self) -> tuple[tuple[float, float], ...]:
        """How far each may go down and up [fair steps]."""
        found = []
        for lever, move, now in zip(self.levers, self.moves, self.readings, strict=True):
            ends = ((move.low - now) / lever.step, (move.high - now) / lever.step)
            found.append((min(ends), max(ends)))
        return tuple(found)


def stated(board: Board, demands: Sequence[Demand], moves: Sequence[Move]) -> SeekProblem:
    """A problem that can be sought.

    Raises
    ------
    InputError
        When a figure or lever is none, only ranks, is asked for twice in ways that cannot both be, bounds are the wrong
        way round, or nothing is asked or may move.
    """
    if not demands:
        raise InputError("nothing is asked", where="seek", accepts="Give a target, such as volume = 34 L")
    if not moves:
        raise InputError("nothing may move", where="seek", accepts="Name a lever, such as width")
    if len(moves) > MOST_MOVES or len(demands) > MOST_DEMANDS:
        raise InputError(
            f"{len(demands)} targets and {len(moves)} levers",
            where="seek",
            accepts=f"Up to {MOST_DEMANDS} and {MOST_MOVES}",
        )
    for demand in demands:
        definition = BY_KEY.get(demand.figure)
        if definition is None:
            raise InputError(
                f"“{demand.figure}” is no figure", where="target", accepts="A figure of the ledger or a phase"
            )
        if definition.ranks and not demand.held:
            raise InputError(
                f"{definition.label} only ranks boards: its number alone says nothing",
                where="target",
                accepts="Ask for it as a share of the reference, or for a figure beside it",
            )
    _agree(demands)
    there = {lever.key: lever for lever in levers(board)}
    for move in moves:
        lever = there.get(move.lever)
        if lever is None:
            raise InputError(
                f"“{move.lever}” is no lever of this board", where="lever", accepts=", ".join(list(there)[:9])
            )
        if lever.choices:
            raise InputError(f"{lever.label} is chosen, not moved", where="lever", accepts="A lever with a number")
        if move.low > move.high:
            raise InputError(
                f"{lever.label}: the bounds are the wrong way round", where="lever", accepts="The lower one first"
            )
        now = lever.read(board)
        if not move.low - 1e-9 <= now <= move.high + 1e-9:
            raise InputError(f"{lever.label} lies outside its bounds now", where="lever", accepts="Bounds about it")
    return SeekProblem(board, tuple(demands), tuple(moves))


def _agree(demands: Sequence[Demand]) -> None:
    """Two demands on one figure leave room between them."""
    low: dict[str, float] = {}
    high: dict[str, float] = {}
    for d in demands:
        if d.relation in ("at least", "equal"):
            low[d.figure] = max(low.get(d.figure, d.value), d.value)
        if d.relation in ("at most", "equal"):
            high[d.figure] = min(high.get(d.figure, d.value), d.value)
    for key, value in low.items():
        if key in high and high[key] < value - 1e-12 * max(abs(value), 1.0):
            raise InputError(f"{BY_KEY[key].label} is asked to be both more and less", where="target")


def move_of(board: Board, key: str, far: float = FAR) -> Move:
    """A lever with room for so many fair steps either way.

    Raises
    ------
    InputError
        When the board has no such lever.
    """
    lever = next((lever for lever in levers(board) if lever.key == key), None)
    if lever is None:
        raise InputError(f"“{key}” is no lever of this board", where="lever")
    now = lever.read(board)
    return Move(lever=key, low=now - far * lever.step, high=now + far * lever.step)


def demands_of(brief: Brief, targets: Sequence[Target]) -> tuple[Demand, ...]:
    """Targets of a brief as demands; relative ones need the known board's figure and are left out without it."""
    known = dict(brief.known.figures) if brief.known else {}
    found = []
    for target in targets:
        value = known[target.figure] * target.value if target.relative and target.figure in known else target.value
        if not target.relative or target.figure in known:
            found.append(Demand(figure=target.figure, relation=target.relation, value=value))
    return tuple(found)


def with_levers_pulled(problem: SeekProblem, x: Sequence[float]) -> Board:
    """The board with every lever moved by so many fair steps, in order, each from the reading it meets.

    Raises
    ------
    RefusedEdit
        When a lever cannot go there.
    """
    board = problem.board
    for lever, steps in zip(problem.levers, x, strict=True):
        if abs(steps) > 1e-9:
            board = pulled_by(board, lever, steps)
    return board


HANDS: dict[Quantity, float] = {
    Quantity.LENGTH: 0.002, Quantity.DEPTH: 0.001, Quantity.ANGLE: 0.5 * 3.141592653589793 / 180.0,
    Quantity.VOLUME: 1e-4, Quantity.AREA: 1e-3,
}  # fmt: skip
"""What hands make true: width 2 mm, rocker 1 mm, an angle half a degree (common practice, no source)."""


def by_hands(problem: SeekProblem, x: Sequence[float]) -> tuple[float, ...]:
    """The same steps with each lever's reading rounded to what hands make, within its bounds; those that move by less
    than half of that stay.
    """
    found = []
    for lever, move, steps in zip(problem.levers, problem.moves, x, strict=True):
        grain = HANDS.get(lever.quantity, abs(lever.step) / 5)
        now = lever.read(problem.board)
        by = round(steps * lever.step / grain) * grain
        if move.low - 1e-9 <= now + by <= move.high + 1e-9:
            found.append(by / lever.step)
        else:
            found.append((within_bounds(now + steps * lever.step, move) - now) / lever.step)
    return tuple(found)


def within_bounds(value: float, move: Move) -> float:
    """A reading inside a lever's bounds."""
    return min(max(value, move.low), move.high)
