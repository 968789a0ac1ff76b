"""What one figure costs of another: the boards within the bounds of the levers of which none is better in both.

Between the best for the one and the best for the other, the second is made as good as it comes while the first holds a
level (the epsilon constraint: Haimes, Lasdon and Wismer 1971). Each is found by linear steps within a radius of trust,
from the board found for the level before.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Better
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.seek.engine import Evaluate, Point, State, Values, begun, scales_of, sloped
from kelvor.core.seek.problem import Demand, Move, Relation, SeekProblem, stated
from kelvor.core.shape.board import Board

POINTS = 9
STEPS = 7
"""Linear steps at most for a point."""
FIRST, LEAST = 2.5, 0.2
"""Radius of trust at first, and below which a point stands [fair steps]."""
STERN = 20.0
"""What a level missed by a fair step's worth costs, against a fair step's worth gained."""


@frozen
class TradePoint:
    """A board of the curve: its pulls [fair steps] and figures [SI]."""

    x: Point
    values: Values


@frozen
class Trade:
    """A curve from the best of the first figure to the best of the second; one point where nothing is traded."""

    points: tuple[TradePoint, ...]
    tried: int


def traded(board: Board, first: str, second: str, values: Values, moves: Sequence[Move]) -> SeekProblem:
    """The problem of trading two figures, each as it is better; where neither way is, more of it is sought.

    Raises
    ------
    InputError
        When both are the same, only rank, or nothing may move.
    """
    if first == second:
        raise InputError("a figure is not traded against itself", where="trade-off", accepts="Two figures")
    return stated(
        board, [Demand(figure=key, relation=_relation(key), value=values[key]) for key in (first, second)], moves
    )


def _relation(key: str) -> Relation:
    definition = BY_KEY.get(key)
    return "at most" if definition is not None and definition.better is Better.LESS else "at least"


def trade_off(
    problem: SeekProblem,
    evaluate: Evaluate,
    points: int = POINTS,
    told: Callable[[int, int], None] | None = None,
    stop: Callable[[], bool] | None = None,
) -> Trade:
    """The curve; `told` hears how many of its points are found, of how many. Stopped, it holds what was found.

    Raises
    ------
    RefusedEdit
        When the start board has not both figures.
    """
    climb = _Climb(problem, evaluate, stop or (lambda: False))
    start = begun(problem, evaluate)
    ends = []
    for lead in (0, 1):
        best = climb.up(climb.up(start, lead, None), 1 - lead, lead)
        ends.append(best)
        if told is not None:
            told(len(ends), points)
    found = [ends[0]]
    last = ends[0]
    for k, level in enumerate(np.linspace(climb.reads(ends[0], 0), climb.reads(ends[1], 0), points)[1:-1]):
        if climb.stop():
            break
        share = (k + 1) / (points - 1)
        chord = (1 - share) * np.array(ends[0].x) + share * np.array(ends[1].x)
        last = climb.up(climb.nearer(last, chord, float(level)), 1, 0, float(level))
        found.append(last)
        if told is not None:
            told(len(found) + 1, points)
    found.append(ends[1])
    tried = climb.tried + 1
    kept = [TradePoint(s.x, s.values) for s in found if not any(climb.beats(o, s) for o in found)]
    return Trade(tuple(_each_once(kept)), tried)


def _each_once(points: Sequence[TradePoint]) -> list[TradePoint]:
    found: list[TradePoint] = []
    for point in points:
        if all(max(abs(a - b) for a, b in zip(point.x, other.x, strict=True)) > 0.02 for other in found):
            found.append(point)
    return found


class _Climb:
    """Linear steps for one of the two figures while the other holds a level."""

    def __init__(self, problem: SeekProblem, evaluate: Evaluate, stop: Callable[[], bool]) -> None:
        self.problem, self._evaluate, self.stop = problem, evaluate, stop
        self.low, self.high = (np.array(end) for end in zip(*problem.room, strict=True))
        self.signs = [1.0 if d.relation == "at least" else -1.0 for d in problem.demands]
        self.scales: Array | None = None
        self.tried = 0

    def reads(self, state: State, which: int) -> float:
        """A figure, the better the greater."""
        return self.signs[which] * state.values[self.problem.demands[which].figure]

    def beats(self, one: State, other: State) -> bool:
        """Whether a board is no worse in both and clearly better in one."""
        a, b = ([self.reads(s, k) / self._scale(k) for k in (0, 1)] for s in (one, other))
        return all(x >= y - 1e-9 for x, y in zip(a, b, strict=True)) and any(
            x > y + 1e-6 for x, y in zip(a, b, strict=True)
        )

    def nearer(self, last: State, chord: Array, level: float) -> State:
        """The last board, or one between the ends where that promises more."""
        x = tuple(float(v) for v in chord)
        values = self._evaluate([x])[0]
        self.tried += 1
        if values is None:
            return last
        there = State(x, values)
        return there if self._worth(there, 1, 0, level) > self._worth(last, 1, 0, level) else last

    def up(self, state: State, lead: int, other: int | None, level: float | None = None) -> State:
        """The board with the most of `lead` that can be reached, the `other` held at a level, or at what it is."""
        floor = level if level is not None or other is None else self.reads(state, other)
        radius = FIRST
        for _ in range(STEPS):
            if self.stop():
                return state
            if state.slopes is None:
                before = state.tried
                state = sloped(self.problem, self._evaluate, state)
                self.tried += state.tried - before
                found = scales_of(np.array(state.slopes))
                self.scales = found if self.scales is None else np.maximum(self.scales, found)
            there = self._step(state, lead, other, floor, radius)
            far = float(np.max(np.abs(np.array(there) - np.array(state.x)), initial=0.0))
            if far < LEAST / 4:
                break
            values = self._evaluate([there])[0]
            self.tried += 1
            next_ = None if values is None else State(there, values)
            if next_ is not None and self._worth(next_, lead, other, floor) > self._worth(state, lead, other, floor):
                state, radius = next_, radius * 1.5
            else:
                radius = 0.4 * min(radius, far)
                if radius < LEAST:
                    break
        return state

    def _scale(self, which: int) -> float:
        return 1.0 if self.scales is None else float(self.scales[which])

    def _worth(self, state: State, lead: int, other: int | None, floor: float | None) -> float:
        worth = self.reads(state, lead) / self._scale(lead)
        if other is None or floor is None:
            return worth
        return worth - STERN * max(floor - self.reads(state, other), 0.0) / self._scale(other)

    def _step(self, state: State, lead: int, other: int | None, floor: float | None, radius: float) -> Point:
        """The best linear step within radius and bounds: one row, one box, so its corner is found by sorting."""
        x, slopes = np.array(state.x), np.array(state.slopes)
        low, high = np.maximum(self.low - x, -radius), np.minimum(self.high - x, radius)
        low, high = np.minimum(low, 0.0), np.maximum(high, 0.0)
        gain = self.signs[lead] * slopes[lead] / self._scale(lead)
        if other is None or floor is None:
            return tuple(float(v) for v in x + best_corner(gain, None, 0.0, low, high))
        row = self.signs[other] * slopes[other] / self._scale(other)
        need = (floor - self.reads(state, other)) / self._scale(other)
        return tuple(float(v) for v in x + best_corner(gain, row, need, low, high))


def best_corner(gain: Array, row: Array | None, need: float, low: Array, high: Array) -> Array:
    """The d (n,) between `low` and `high` (n,), low ≤ 0 ≤ high, with the most `gain`·d for which `row`·d ≥ `need`; with
    the most `row`·d where none reaches it. A linear programme with one row: its multiplier is one of the breakpoints
    (Dantzig 1957).
    """
    found: Array = np.where(gain > 0, high, np.where(gain < 0, low, 0.0))
    if row is None or float(row @ found) >= need:
        return found
    turned = np.where(row > 0, high, np.where(row < 0, low, found))
    # each lever turns where gain + λ row changes sign: the cheapest of what it costs for what it brings first
    moves = turned - found
    brings, costs = row * moves, -gain * moves
    order = [i for i in np.argsort(np.where(brings > 0, costs / np.maximum(brings, 1e-300), np.inf)) if brings[i] > 0]
    have = float(row @ found)
    for i in order:
        share = min((need - have) / float(brings[i]), 1.0)
        found = found.copy()
        found[i] += share * moves[i]
        have += share * float(brings[i])
        if have >= need - 1e-12:
            break
    return found
