"""What a search came to, as hands can make it: which levers moved and for what, or what stands in the way."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.seek.engine import (
    HALF,
    Evaluate,
    Point,
    SeekResult,
    Values,
    all_met,
    grain,
    misses,
)
from kelvor.core.seek.problem import SeekProblem, by_hands, with_levers_pulled

LITTLE = 0.05
"""A lever that moved less than this did not move [fair steps]."""


@frozen
class LeverMove:
    """A lever that moved: its key and label, its reading before and after [SI], and the demands it moved for, the one
    that asked for most first; those that held it back after.
    """

    lever: str
    label: str
    quantity: Quantity
    before: float
    after: float
    steps: float
    asked_by: tuple[str, ...]
    held_by: tuple[str, ...]


@frozen
class Obstacle:
    """What stands in the way of what is missed, and what giving way there would buy of it [SI]."""

    words: str
    buys: float


@frozen
class Answer:
    """The end of a search as it is handed over.

    Attributes
    ----------
    x, values:
        The point, rounded to what hands make where that still meets what is asked.
    met:
        Whether all is met.
    worst:
        The figure that is missed most; empty where all is met.
    rounded:
        Whether the readings are those hands make.
    idle:
        Levers that are refused here, or do nothing for what is asked, in a sentence each.
    """

    x: Point
    values: Values
    missed: tuple[float, ...]
    met: bool
    worst: str
    moved: tuple[LeverMove, ...]
    obstacles: tuple[Obstacle, ...]
    rounded: bool
    tried: int
    idle: tuple[str, ...] = ()


def rounded_answer(problem: SeekProblem, found: SeekResult, evaluate: Evaluate) -> Answer:
    """A search's end, rounded to what hands make and judged again."""
    x, values, rounded = _rounded(problem, found, evaluate)
    slopes = found.state.slopes
    missed = misses(problem, values, slopes) if slopes is not None else found.missed
    met = all_met(problem, missed)
    worst = ""
    if not met:
        ranked = sorted(zip(missed, problem.demands, strict=True), key=lambda p: -p[0] / grain(p[1].figure))
        worst = ranked[0][1].figure
    obstacles = () if met else tuple(sorted(_obstacles(problem, found), key=lambda obstacle: -obstacle.buys))
    return Answer(
        x,
        values,
        missed,
        met,
        worst,
        _moved(problem, found, x),
        obstacles,
        rounded,
        found.state.tried + 1,
        _idle(problem, found),
    )


def _rounded(problem: SeekProblem, found: SeekResult, evaluate: Evaluate) -> tuple[Point, Values, bool]:
    """The point by hands where it is no worse; one lever nudged by what hands make where rounding lost a demand."""
    exact = found.state
    first = by_hands(problem, exact.x)
    tries = [first, *_nudged(problem, exact.x, first)]
    results = evaluate(tries)
    good = [
        (sum(v * v for v in x), x, values)
        for x, values in zip(tries, results, strict=True)
        if values is not None and _as_good(problem, found, values)
    ]
    if not good:
        return exact.x, exact.values, False
    _, x, values = min(good, key=lambda item: item[0])
    return x, values, True


def _as_good(problem: SeekProblem, found: SeekResult, values: Values) -> bool:
    if found.state.slopes is None:
        return True
    missed = misses(problem, values, found.state.slopes)
    pairs = zip(problem.demands, missed, found.missed, strict=True)
    return all(miss <= (grain(d.figure) if before <= grain(d.figure) else before + 0.1) for d, miss, before in pairs)


def _nudged(problem: SeekProblem, exact: Point, first: Point) -> list[Point]:
    """Each lever that was rounded towards the start, rounded away from it instead."""
    found: list[Point] = []
    for i, (a, b) in enumerate(zip(exact, first, strict=True)):
        if abs(b) < abs(a) - 1e-9:
            beyond = by_hands(problem, (*exact[:i], a + (a - b) + (0.02 if a > 0 else -0.02), *exact[i + 1 :]))
            found.append((*first[:i], beyond[i], *first[i + 1 :]))
    return found


def _idle(problem: SeekProblem, found: SeekResult) -> tuple[str, ...]:
    """Levers along which no figure that is asked for moves, and why."""
    if found.state.slopes is None:
        return ()
    told = []
    for i, lever in enumerate(problem.levers):
        if any(row[i] != 0.0 for row in found.state.slopes) or abs(found.state.x[i]) > LITTLE:
            continue
        why = [words for by in (HALF, -HALF) if (words := _refused(problem, i, by))]
        told.append(
            f"{lever.told} stays: {why[0]}" if len(why) == 2 else f"{lever.told} does nothing for what is asked."
        )
    return tuple(told)


def _refused(problem: SeekProblem, lever: int, by: float) -> str:
    try:
        with_levers_pulled(problem, tuple(by if i == lever else 0.0 for i in range(len(problem.moves))))
    except RefusedEdit as error:
        return str(error)
    return ""


def _moved(problem: SeekProblem, found: SeekResult, x: Sequence[float]) -> tuple[LeverMove, ...]:
    rows = []
    for i, (lever, now) in enumerate(zip(problem.levers, problem.readings, strict=True)):
        if abs(x[i]) < LITTLE:
            continue
        sign = 1.0 if x[i] > 0 else -1.0
        pulls = [(sign * pull, d.figure) for pull, d in zip(found.pulls[i], problem.demands, strict=True)]
        asked = tuple(key for pull, key in sorted(pulls, reverse=True) if pull > LITTLE)
        held = tuple(key for pull, key in sorted(pulls) if pull < -LITTLE)
        rows.append(LeverMove(lever.key, lever.told, lever.quantity, now, now + x[i] * lever.step, x[i], asked, held))
    return tuple(sorted(rows, key=lambda moved: -abs(moved.steps)))


def _obstacles(problem: SeekProblem, found: SeekResult) -> list[Obstacle]:
    obstacles = []
    scale = max((*found.blocked, *found.against), default=0.0)
    for i, (lever, buys) in enumerate(zip(problem.levers, found.blocked, strict=True)):
        if buys > LITTLE * scale:
            move, now = problem.moves[i], problem.readings[i] + found.state.x[i] * lever.step
            end = text(move.low if abs(now - move.low) < abs(now - move.high) else move.high, lever.quantity)
            step = text(abs(lever.step), lever.quantity)
            obstacles.append(Obstacle(f"{lever.label} may go no further than {end}; {step} beyond", buys))
    for demand, buys in zip(problem.demands, found.against, strict=True):
        if buys > LITTLE * scale:
            definition = BY_KEY[demand.figure]
            value = text(demand.value, definition.quantity)
            said = "held" if demand.held else f"{demand.relation} {value}"
            obstacles.append(Obstacle(f"{definition.label}, {said}, stands against it; giving way there", buys))
    return obstacles


def lever_move_words(moved: LeverMove, system: System) -> str:
    """A lever's move in a line."""
    before, after = (text(v, moved.quantity, system) for v in (moved.before, moved.after))
    asked = ", ".join(BY_KEY[key].label.lower() for key in moved.asked_by)
    held = ", ".join(BY_KEY[key].label.lower() for key in moved.held_by)
    why = f"for {asked}" if asked else ""
    back = f"held back by {held}" if held else ""
    reasons = "; ".join(part for part in (why, back) if part)
    return f"{moved.label} {before} → {after}{f': {reasons}' if reasons else ''}"


def answer_headline(answer: Answer) -> str:
    """The answer in one line."""
    if answer.met and not answer.moved:
        return "All of it is met already: nothing has to move."
    if answer.met:
        return "Met, by the least change."
    return f"The nearest it comes; {BY_KEY[answer.worst].label.lower()} is missed."


def obstacle_words(answer: Answer, obstacle: Obstacle, system: System) -> str:
    """What stands in the way, and what giving way would buy."""
    definition = BY_KEY[answer.worst]
    return (
        f"{obstacle.words} would buy {text(obstacle.buys, definition.quantity, system)} of {definition.label.lower()}."
    )


def answer_lines(problem: SeekProblem, answer: Answer, system: System = System.METRIC) -> list[str]:
    """The answer in lines: what it is, what moved and why, what each target came to, what stands in the way."""
    found = [answer_headline(answer)]
    found += [f"  {lever_move_words(moved, system)}" for moved in answer.moved]
    for demand, miss in zip(problem.demands, answer.missed, strict=True):
        definition = BY_KEY[demand.figure]
        got, asked = (text(v, definition.quantity, system) for v in (answer.values[demand.figure], demand.value))
        state = "held" if demand.held else f"{demand.relation} {asked}"
        found.append(f"  {definition.label}: {got} ({state}){'' if miss <= grain(demand.figure) else ', missed'}")
    found += [f"  {obstacle_words(answer, obstacle, system)}" for obstacle in answer.obstacles]
    found += [f"  {words}" for words in answer.idle]
    if answer.moved:
        found.append("  Rounded to what hands make." if answer.rounded else "  Not rounded: hands would miss a target.")
    found.append(f"  {answer.tried} boards were tried.")
    return found
