"""Tests in words: what they can show, what they say, what to sail next."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from math import isfinite

from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import Trial, TrialRun
from kelvor.core.register.record import Record
from kelvor.core.water.trials.planning import least_shown, pairs_for, riders_for, run_order
from kelvor.core.water.trials.results import TrialResult

PEAKS = (
    "Means of whole runs are compared, pair by pair, never peaks: the fastest of many short windows tells of a gust "
    "or of scatter before it tells of a board."
)


def knots_apart(speed: float, decimals: int = 2) -> str:
    """A difference of speed in knots."""
    return f"{speed / KNOT:.{decimals}f} kn"


def trial_headline(trial: Trial, found: TrialResult) -> str:
    """The answer in one line."""
    if found.said in ("faster", "slower"):
        better = trial.b if found.said == "faster" else trial.a
        return f"{better} faster by {abs(found.difference) / KNOT:.2f} ± {found.half / KNOT:.2f} kn"
    if found.said == "alike":
        return f"Alike within {knots_apart(trial.margin)}"
    if found.said == "not shown":
        more = f"{found.more} more pairs would" if found.more is not None else "no number of pairs anyone sails would"
        return f"Not shown; {more}"
    return "Cannot tell"


def explained(trial: Trial, found: TrialResult) -> str:
    """The answer in sentences: interval, pairs, what was taken into account, what to mind."""
    if found.said == "cannot tell":
        return found.why
    low, high = found.difference - found.half, found.difference + found.half
    chance = "p < 0.001" if found.chance < 0.0005 else f"p {found.chance:.3f}"
    parts = [
        f"{trial.b} less {trial.a}: {found.difference / KNOT:+.2f} kn, 95 % between {low / KNOT:+.2f} and "
        f"{high / KNOT:+.2f}; {found.pairs} pairs, {found.freedom} degrees of freedom, {chance}."
    ]
    if found.said == "not shown":
        parts.append(
            f"So many pairs find {knots_apart(found.least)} four times of five; {knots_apart(trial.margin)} matters."
        )
    if found.beside:
        parts.append(f"Beside the pairs, {' and '.join(found.beside)} are taken into account.")
    parts += found.notes
    return " ".join(parts)


def trial_plan_words(pairs: int, minutes: float, scatter: float, margin: float, known: int) -> str:
    """What so many pairs can show, before they are sailed."""
    least = least_shown(pairs, scatter)
    source = f"by {known} pairs of this workshop's tests" if known else "a usual scatter (common practice, no source)"
    told = f"{pairs} pairs, about {2 * pairs * minutes:.0f} minutes: they find {knots_apart(least)} four times of five"
    told = told if isfinite(least) else f"{pairs} pairs find nothing"
    wanted = pairs_for(margin, scatter)
    if wanted is None:
        told += f"; {knots_apart(margin)} would take more pairs than anyone sails"
    elif wanted > pairs:
        told += f"; {knots_apart(margin)} would take {wanted}"
    return f"{told}. Pairs differ by {knots_apart(scatter)}, {source}."


def next_words(trial: Trial, runs: Sequence[TrialRun], riders: Sequence[str]) -> str:
    """What to sail next."""
    order = run_order(trial.order)
    done = sum(not run.struck for run in runs)
    if done >= len(order):
        return "All runs of the plan are sailed."
    change = order[done]
    who = riders[riders_for(trial.order, len(riders))[done]] if riders else ""
    name = trial.a if change == "A" else trial.b
    return (
        f"Run {done + 1} of {len(order)}: {change}, {name}{f', {who} rides' if who else ''}. Out and back on one line."
    )


def since_words(at: str, now: datetime) -> str:
    """How long ago a run was written, while its day at the beach goes on."""
    try:
        seconds = (now - datetime.fromisoformat(at)).total_seconds()
    except (ValueError, TypeError):
        return ""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d} since the last run" if 0 <= seconds < 3 * 3600 else ""


def trial_run_rows(trial: Trial, runs: Sequence[Record]) -> list[tuple[str, ...]]:
    """Runs as they were sailed: number, which, speed, ways, rider, wind, what was felt."""
    found: list[tuple[str, ...]] = []
    for record in runs:
        r = record.value
        if isinstance(r, TrialRun):
            mark = f"struck: {r.struck}" if r.struck else "simulated" if record.origin == "simulated" else ""
            found.append(
                (
                    str(r.number),
                    f"{r.change}, {trial.a if r.change == 'A' else trial.b}",
                    knots_apart(r.value),
                    "out and back" if r.both_ways else "one way",
                    r.rider,
                    knots_apart(r.wind, 1) if r.wind else "",
                    " · ".join(part for part in (r.felt, mark) if part),
                )
            )
    return found
