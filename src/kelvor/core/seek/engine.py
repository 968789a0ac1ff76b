"""Seeking, round by round: how the figures answer the levers, the shortest step that should meet the demands, and
whether it does.

A point is a pull of every lever in fair steps from the start board. Differences are taken over half a fair step, never
less: figures have a grain, and a finer difference would seek in it. A step is trusted within a radius that grows where
the figures come as foreseen and shrinks where they do not. A demand that cannot be met is met as nearly as a price
allows, the same in the step and in what is compared.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import RIDDEN
from kelvor.core.seek.least_distance import Shortest, shortest
from kelvor.core.seek.problem import Demand, SeekProblem

Point = tuple[float, ...]
Values = dict[str, float]
Evaluate = Callable[[Sequence[Point]], list[Values | None]]
"""Figures at points, None where no board results; in a worker or many."""
HALF = 0.5
"""Differences are taken over so much of a fair step."""
FIRST, WIDEST, LEAST = 2.0, 8.0, 0.06
"""Radius of trust at first, at most, and below which nothing more is sought [fair steps]."""
ROUNDS = 18
PRICE = 4000.0
"""What a demand missed by one fair step's worth costs, against a step squared."""
GRAIN, RIDE_GRAIN = 0.03, 0.10
"""Closer than this share of a fair step's worth is met; figures of the ride have more grain."""
GRAINS = {"keel_flat_run": 0.15, "rail_flat_run": 0.15, "mid_flat_run": 0.15, "touch_drag": 0.3}
"""Figures with more grain than that, measured on demo boards."""


@frozen
class State:
    """Where a search stands; it can be laid aside and gone on with.

    Attributes
    ----------
    x, values:
        The best point so far and its figures.
    slopes:
        Change of each demanded figure by a fair step of each lever, at `x`; None before they are counted.
    fresh:
        Whether the slopes were counted at `x`, or only carried along with the last step.
    radius, round, tried:
        Radius of trust, rounds done, boards tried.
    reached:
        Whether it was looked further out once, over a jump that slopes do not see.
    done:
        Why nothing more is sought; empty while it goes on.
    """

    x: Point
    values: Values
    slopes: tuple[tuple[float, ...], ...] | None = None
    fresh: bool = False
    radius: float = FIRST
    round: int = 0
    tried: int = 1
    reached: bool = False
    done: str = ""


@frozen
class SeekResult:
    """The end of a search.

    Attributes
    ----------
    state:
        Where it stands.
    missed:
        For each demand by how much it is missed [fair steps' worth].
    met:
        Whether each is met, to its grain.
    pulls:
        For each lever and demand how much of the lever's step that demand asks for [fair steps] (n, m).
    blocked:
        For each lever that stands at a bound, what a fair step beyond it would buy of the worst missed figure [SI]; 0
        where none does.
    against:
        For each other demand, what giving way by a fair step's worth there would buy of the worst missed figure [SI].
    """

    state: State
    missed: tuple[float, ...]
    met: bool
    pulls: tuple[tuple[float, ...], ...]
    blocked: tuple[float, ...]
    against: tuple[float, ...]

    @property
    def size(self) -> float:
        """How far the levers moved: the sum of squares of fair steps."""
        return float(sum(v * v for v in self.state.x))


def begun(problem: SeekProblem, evaluate: Evaluate) -> State:
    """The start of a search.

    Raises
    ------
    RefusedEdit
        When the start board has not the figures that are asked for.
    """
    x = (0.0,) * len(problem.moves)
    values = evaluate([x])[0]
    if values is None:
        raise RefusedEdit("A figure that is asked for does not exist for this board.")
    return State(x, values)


def search(
    problem: SeekProblem,
    evaluate: Evaluate,
    state: State | None = None,
    told: Callable[[State], None] | None = None,
    stop: Callable[[], bool] | None = None,
) -> SeekResult:
    """Seek until the demands are met by the least change, or nothing brings them nearer. `told` hears each round's
    state, from which a search can be gone on with; `stop` ends it where it stands.
    """
    here = state or begun(problem, evaluate)
    while not here.done:
        if stop is not None and stop():
            here = replace(here, done="stopped")
            break
        here = _round(problem, evaluate, here)
        if told is not None:
            told(here)
        if here.done and here.done != "stopped" and not here.reached:
            here = _reached(problem, evaluate, here)
    if here.slopes is None and here.done != "stopped":  # the answer says what asked for what
        here = sloped(problem, evaluate, here)
    return _found(problem, here)


def _round(problem: SeekProblem, evaluate: Evaluate, state: State) -> State:
    if state.round >= ROUNDS:
        return replace(state, done="enough rounds")
    if state.slopes is None:
        state = sloped(problem, evaluate, state)
    x, slopes = np.array(state.x), np.array(state.slopes)
    scales = scales_of(slopes)
    step = _step(problem, state, slopes, scales)
    met = all_met(problem, [_missed(d, state.values, s) for d, s in zip(problem.demands, scales, strict=True)])
    if float(np.max(np.abs(step - x), initial=0.0)) < (LEAST if met else LEAST / 10):  # the last of it in small steps
        if not state.fresh:  # looked at once more where it ends
            return replace(state, slopes=None, round=state.round + 1)
        return replace(state, done="nothing nearer", round=state.round + 1)
    there = tuple(float(v) for v in step)
    values = evaluate([there])[0]
    now = _merit(problem, state.x, state.values, scales)
    next_ = _merit(problem, there, values, scales) if values is not None else np.inf
    foreseen = now - _foreseen(problem, state, slopes, scales, step)
    gained = now - next_
    tried = state.tried + 1
    if values is not None and gained > 1e-6 * max(now, 1.0):
        radius = min(state.radius * 2, WIDEST) if gained > 0.6 * foreseen else state.radius
        radius = state.radius * 0.7 if gained < 0.2 * foreseen else radius
        carried = _carried(problem, state, slopes, step, values) if gained > 0.4 * foreseen else None
        return replace(
            state,
            x=there,
            values=values,
            slopes=carried,
            fresh=False,
            radius=radius,
            round=state.round + 1,
            tried=tried,
        )
    if not state.fresh:
        return replace(state, slopes=None, round=state.round + 1, tried=tried)
    radius = min(state.radius, float(np.max(np.abs(step - x)))) * 0.4
    done = "nothing nearer" if radius < LEAST else ""
    return replace(state, radius=radius, round=state.round + 1, tried=tried, done=done)


def _reached(problem: SeekProblem, evaluate: Evaluate, state: State) -> State:
    """Where a demand is still missed: half, one and two fair steps further out along its slope. A figure may jump
    there, as where a tail stops touching; slopes do not see that.
    """
    if state.slopes is None:
        state = sloped(problem, evaluate, state)
    slopes = np.array(state.slopes)
    missed = misses(problem, state.values, slopes)
    state = replace(state, reached=True)
    if all_met(problem, missed):
        return state
    scales, x, (low, high) = scales_of(slopes), np.array(state.x), _bounds(problem)
    rows, wanted, of = _rows(problem, state, slopes, scales)
    short = [max(float(wanted[j] - rows[j] @ x), 0.0) for j in range(len(of))]
    way = np.array(short) @ rows
    if float(np.max(np.abs(way), initial=0.0)) < 1e-9:
        return state
    way = way / float(np.max(np.abs(way)))
    points = [tuple(float(v) for v in np.clip(x + far * way, low, high)) for far in (0.5, 1.0, 2.0)]
    now = _merit(problem, state.x, state.values, scales)
    found = [(_merit(problem, p, v, scales), p, v) for p, v in zip(points, evaluate(points), strict=True) if v]
    best = min(found, key=lambda item: item[0], default=None)
    tried = state.tried + len(points)
    if best is None or best[0] >= now:
        return replace(state, tried=tried)
    return State(best[1], best[2], None, False, 1.0, max(state.round - 6, 0), tried, True)


def _carried(
    problem: SeekProblem, state: State, slopes: Array, step: Array, values: Values
) -> tuple[tuple[float, ...], ...]:
    """The slopes, corrected by what the step showed (Broyden 1965): no board is tried for them."""
    moved = step - np.array(state.x)
    shown = np.array([values[d.figure] - state.values[d.figure] for d in problem.demands])
    found = slopes + np.outer(shown - slopes @ moved, moved) / float(moved @ moved)
    return tuple(tuple(float(v) for v in row) for row in found)


def sloped(problem: SeekProblem, evaluate: Evaluate, state: State) -> State:
    """The state with the slopes of its figures, by half a fair step forward, or back where forward cannot be."""
    n = len(problem.moves)
    signs = [1.0 if _room(problem, i, state.x[i], HALF) else -1.0 for i in range(n)]
    points = [_beside(state.x, i, signs[i] * HALF) for i in range(n)]
    found = evaluate(points)
    lost = [i for i in range(n) if found[i] is None]
    again = evaluate([_beside(state.x, i, -signs[i] * HALF) for i in lost]) if lost else []
    for i, values in zip(lost, again, strict=True):
        found[i], signs[i] = values, -signs[i]
    rows = []
    for demand in problem.demands:
        row = []
        for i in range(n):
            values = found[i]
            row.append(
                0.0 if values is None else (values[demand.figure] - state.values[demand.figure]) / (signs[i] * HALF)
            )
        rows.append(tuple(row))
    return replace(state, slopes=tuple(rows), fresh=True, tried=state.tried + n + len(lost))


def _beside(x: Point, i: int, by: float) -> Point:
    return (*x[:i], x[i] + by, *x[i + 1 :])


def _room(problem: SeekProblem, i: int, at: float, by: float) -> bool:
    return bool(at + by <= _bounds(problem)[1][i] + 1e-9)


def _bounds(problem: SeekProblem) -> tuple[Array, Array]:
    """How far each lever may go down and up [fair steps]."""
    room = np.array(problem.room)
    return room[:, 0], room[:, 1]


def scales_of(slopes: Array) -> Array:
    """What a fair step of the strongest lever does to each demanded figure."""
    found: Array = np.maximum(np.max(np.abs(slopes), axis=1), 1e-12)
    return found


def _signs(demand: Demand) -> tuple[float, ...]:
    """+1 for at least, −1 for at most, both for equal."""
    return {"at least": (1.0,), "at most": (-1.0,), "equal": (1.0, -1.0)}[demand.relation]


def _rows(problem: SeekProblem, state: State, slopes: Array, scales: Array) -> tuple[Array, Array, list[int]]:
    """Linear demands G y ≥ h on the point y, scaled to a fair step's worth, and which demand each row is of."""
    x = np.array(state.x)
    rows, wanted, of = [], [], []
    for k, demand in enumerate(problem.demands):
        for sign in _signs(demand):
            rows.append(sign * slopes[k] / scales[k])
            missing = sign * (demand.value - state.values[demand.figure]) / scales[k]
            wanted.append(missing + float(sign * slopes[k] @ x / scales[k]))
            of.append(k)
    return np.array(rows), np.array(wanted), of


def _step(problem: SeekProblem, state: State, slopes: Array, scales: Array) -> Array:
    """The shortest pull that meets the demands as they are foreseen, within bounds and the radius of trust; what cannot
    be met is missed at a price.
    """
    n, x = len(problem.moves), np.array(state.x)
    rows, wanted, _ = _rows(problem, state, slopes, scales)
    low, high = _bounds(problem)
    low, high = np.maximum(low, x - state.radius), np.minimum(high, x + state.radius)
    found = _priced(rows, wanted, low, high)
    return x if found.x is None else np.clip(found.x[:n], low, high)


def _box(n: int, m: int) -> Array:
    """Rows that keep n levers above their lower and below their upper ends, whatever m demands are missed by."""
    found: Array = np.hstack([np.vstack([np.eye(n), -np.eye(n)]), np.zeros((2 * n, m))])
    return found


def _missed(demand: Demand, values: Values, scale: float) -> float:
    """By how much a demand is missed [fair steps' worth]."""
    off = max(sign * (demand.value - values[demand.figure]) for sign in _signs(demand))
    return float(max(off / scale, 0.0))


def _merit(problem: SeekProblem, x: Point, values: Values | None, scales: Array) -> float:
    """A point's cost: its size, and what it misses at a price."""
    if values is None:
        return float("inf")
    missed = sum(_missed(d, values, s) ** 2 for d, s in zip(problem.demands, scales, strict=True))
    return float(np.sum(np.square(x)) + PRICE * missed)


def _foreseen(problem: SeekProblem, state: State, slopes: Array, scales: Array, step: Array) -> float:
    """What a step would cost if the figures followed their slopes."""
    moved = slopes @ (step - np.array(state.x))
    values = {d.figure: state.values[d.figure] + float(moved[k]) for k, d in enumerate(problem.demands)}
    return _merit(problem, tuple(step), values, scales)


def grain(figure: str) -> float:
    """Closer than this a figure is met [fair steps' worth]."""
    return GRAINS.get(figure, RIDE_GRAIN if figure in RIDDEN else GRAIN)


def misses(problem: SeekProblem, values: Values, slopes: Array | Sequence[Sequence[float]]) -> tuple[float, ...]:
    """By how much each demand is missed [fair steps' worth]."""
    scales = scales_of(np.array(slopes))
    return tuple(_missed(d, values, float(s)) for d, s in zip(problem.demands, scales, strict=True))


def all_met(problem: SeekProblem, missed: Sequence[float]) -> bool:
    """Whether every demand is met, to its grain."""
    return all(miss <= grain(d.figure) for d, miss in zip(problem.demands, missed, strict=True))


def _found(problem: SeekProblem, state: State) -> SeekResult:
    """The end, with what each demand asked of each lever, and what stands in the way of what is missed."""
    n, m = len(problem.moves), len(problem.demands)
    slopes = np.array(state.slopes if state.slopes is not None else np.zeros((m, n)))
    scales = scales_of(slopes)
    missed = misses(problem, state.values, slopes)
    rows, wanted, of = _rows(problem, state, slopes, scales)
    low, high = _bounds(problem)
    shown = _priced(rows, wanted, low, high)
    pulls = np.zeros((n, m))
    for j, k in enumerate(of):
        pulls[:, k] += shown.pulls[j] * rows[j]
    blocked, against = [0.0] * n, [0.0] * m
    met = all_met(problem, missed)
    if not met and shown.x is not None:
        worst = int(np.argmax([miss / grain(d.figure) for miss, d in zip(missed, problem.demands, strict=True)]))
        short = _short(rows, wanted, of, worst, shown.x[:n])
        for i in range(n):
            at_end = state.x[i] >= high[i] - 0.05 or state.x[i] <= low[i] + 0.05
            wider = (low - np.eye(n)[i], high + np.eye(n)[i])
            blocked[i] = _bought(rows, wanted, of, worst, short, wider) * float(scales[worst]) if at_end else 0.0
        for k in range(m):
            if k != worst:
                eased = wanted - np.array([1.0 if of[j] == k else 0.0 for j in range(len(of))])
                against[k] = _bought(rows, eased, of, worst, short, (low, high)) * float(scales[worst])
    return SeekResult(
        state, missed, met, tuple(tuple(float(v) for v in row) for row in pulls), tuple(blocked), tuple(against)
    )


def _priced(rows: Array, wanted: Array, low: Array, high: Array) -> Shortest:
    """The shortest point within bounds that meets linear demands as nearly as their price allows."""
    m, n = rows.shape
    priced = np.hstack([rows, np.eye(m) / np.sqrt(PRICE)])
    return shortest(np.vstack([priced, _box(n, m)]), np.concatenate([wanted, low, -high]))


def _short(rows: Array, wanted: Array, of: list[int], which: int, x: Array) -> float:
    """By how much a demand is missed at a point, as it is foreseen [fair steps' worth]."""
    return max((float(wanted[j] - rows[j] @ x) for j in range(len(of)) if of[j] == which), default=0.0)


def _bought(rows: Array, wanted: Array, of: list[int], which: int, short: float, bounds: tuple[Array, Array]) -> float:
    """How much less a demand is missed where bounds or other demands give way [fair steps' worth]."""
    found = _priced(rows, wanted, *bounds)
    if found.x is None:
        return 0.0
    return max(short - _short(rows, wanted, of, which, found.x[: rows.shape[1]]), 0.0)
