"""What the runs of a test say: a difference with its interval, alike within what matters, or not shown."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field
from typing import Literal

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import Trial, TrialRun
from kelvor.core.water.trials.planning import LEVEL, WITH_COVARIATES, least_shown, pairs_for

Said = Literal["faster", "slower", "alike", "not shown", "cannot tell"]
"""Of B against A."""
LEAST_PAIRS = 3
SAME = 1e-9
"""Speeds are the same within this [m/s]: what is less comes of sums."""
GRAINS = (1.0, 0.5, 0.25, 0.2, 0.1, 0.05, 0.02, 0.01)
"""To which speeds are typed [kn], the coarsest first."""


@frozen
class TrialResult:
    """What a test says.

    Attributes
    ----------
    said:
        Of B against A; “cannot tell” where the runs do not bear on the question, with `why`.
    difference:
        B less A [m/s].
    half:
        Half of its 95 % interval [m/s].
    half90:
        Half of its 90 % interval, which decides whether they are alike [m/s].
    chance:
        How often so great a difference comes up where there is none (p, two-sided).
    pairs, freedom:
        Pairs that count, degrees of freedom.
    scatter:
        Of the differences of pairs [m/s].
    more:
        Pairs more that would show the difference that matters; None where it is shown, or nobody would sail them.
    least:
        The least difference these pairs find four times of five [m/s].
    beside:
        What was taken into account beside the pairs: “wind”, “order”, “rider”.
    notes:
        What one should know, in sentences.
    """

    said: Said
    difference: float = 0.0
    half: float = float("inf")
    half90: float = float("inf")
    chance: float = 1.0
    pairs: int = 0
    freedom: int = 0
    scatter: float = 0.0
    more: int | None = None
    least: float = float("inf")
    beside: tuple[str, ...] = ()
    why: str = ""
    notes: tuple[str, ...] = field(default=())


def answer(trial: Trial, runs: Sequence[TrialRun]) -> TrialResult:
    """The answer to a test's one question, from its runs in the order they were sailed.

    Pairs are neighbouring runs, one of each. Peaks are not looked at: the fastest of many short windows tells of a gust
    or of scatter before it tells of a board.
    """
    counted = sorted((run for run in runs if not run.struck), key=lambda run: run.number)
    if trial.more.strip():
        return TrialResult(
            "cannot tell", why=f"More than one thing differed: {trial.differs}, and {trial.more.strip()}."
        )
    pairs = paired(counted)
    if len(pairs) < LEAST_PAIRS:
        lack = LEAST_PAIRS - len(pairs)
        return TrialResult("cannot tell", pairs=len(pairs), why=f"{lack} more pair{'s' if lack > 1 else ''} at least.")
    one_way = [run for run in counted if not run.both_ways]
    if one_way and trial.current is None:
        return TrialResult(
            "cannot tell",
            pairs=len(pairs),
            why="The runs are one way and the current is not known: sail each out and back, or type the current.",
        )
    return _answered(trial, pairs)


def paired(runs: Sequence[TrialRun]) -> list[tuple[TrialRun, TrialRun]]:
    """Neighbouring runs of A and B, as (A, B); one that has no neighbour left is dropped."""
    found, i = [], 0
    while i + 1 < len(runs):
        one, other = runs[i], runs[i + 1]
        if one.change != other.change:
            found.append((one, other) if one.change == "A" else (other, one))
            i += 2
        else:
            i += 1
    return found


def scatter_of(trial: Trial, runs: Sequence[TrialRun]) -> tuple[float, int]:
    """What the differences of a test's pairs scatter by [m/s], and its degrees of freedom; none with fewer than two."""
    pairs = paired(sorted((run for run in runs if not run.struck), key=lambda run: run.number))
    if len(pairs) < 2:
        return 0.0, 0
    differences = [_value(trial, b) - _value(trial, a) for a, b in pairs]
    return float(np.std(differences, ddof=1)), len(pairs) - 1


def _value(trial: Trial, run: TrialRun) -> float:
    return run.value if run.both_ways or trial.current is None else run.value - trial.current


def _answered(trial: Trial, pairs: list[tuple[TrialRun, TrialRun]]) -> TrialResult:
    from scipy.special import stdtr, stdtrit  # not before a test is answered

    n = len(pairs)
    rows = [run for pair in pairs for run in pair]
    value = np.array([_value(trial, run) for run in rows])
    change = np.array([0.5 if run.change == "B" else -0.5 for run in rows])
    block = np.kron(np.eye(n), np.ones((2, 1)))
    columns, beside = _covariates(rows, n)
    design = np.column_stack([change, block, *columns])
    estimate, error, freedom = _least_squares(design, value)
    if freedom < 1:
        return TrialResult("cannot tell", pairs=n, why="The runs do not tell the change from what went with it.")
    grain = grain_of([run.value for run in rows])
    error = max(error, grain / (6 * n) ** 0.5)
    t95, t90 = float(stdtrit(freedom, 1 - LEVEL / 2)), float(stdtrit(freedom, 1 - LEVEL))
    estimate = estimate if abs(estimate) > SAME else 0.0
    chance = float(2 * stdtr(freedom, -abs(estimate) / error)) if error > 0 else float(estimate == 0)
    half, half90 = t95 * error, t90 * error
    # what pairs would scatter by without what was taken into account
    scatter = error * n**0.5
    if abs(estimate) > half and abs(estimate) >= grain / 2:
        said: Said = "faster" if estimate > 0 else "slower"
    elif abs(estimate) + half90 <= trial.margin:
        said = "alike"
    else:
        said = "not shown"
    wanted = pairs_for(trial.margin, scatter) if said == "not shown" else None
    more = max(wanted - n, 1) if wanted is not None else None
    notes = _notes(trial, rows, n, beside, said, estimate)
    if float(np.ptp(value)) < SAME:
        notes.insert(0, "All runs read alike: no difference is told finer than they are read.")
    elif grain and error <= grain / (6 * n) ** 0.5:
        notes.insert(0, f"The runs scatter less than they are read to, {grain / KNOT:g} kn: that doubt is left.")
    return TrialResult(
        said,
        estimate,
        half,
        half90,
        chance,
        n,
        freedom,
        scatter,
        more,
        least_shown(n, scatter),
        tuple(beside),
        "",
        tuple(notes),
    )


def grain_of(speeds: Sequence[float]) -> float:
    """To how much speeds were typed [m/s]: the coarsest step all of them are whole numbers of; nothing where none is,
    as with those off a track. A reading is off by up to half of it: its variance is a twelfth of its square, that of
    the mean of n differences of two a (6 n)th.
    """
    knots = np.asarray(speeds) / KNOT
    for grain in GRAINS:
        if np.abs(knots / grain - np.round(knots / grain)).max() < 1e-6 / grain:
            return grain * KNOT
    return 0.0


def _covariates(rows: list[TrialRun], n: int) -> tuple[list[Array], list[str]]:
    """Columns beside the pairs, centred, and what they are."""
    columns: list[Array] = []
    beside: list[str] = []
    riders = sorted({run.rider.strip().lower() for run in rows})
    if len(riders) == 2 and n >= 2 * LEAST_PAIRS:
        who = np.array([run.rider.strip().lower() == riders[1] for run in rows], dtype=float)
        columns.append(who - who.mean())
        beside.append("rider")
    if n >= WITH_COVARIATES:
        number = np.array([run.number for run in rows], dtype=float)
        columns.append((number - number.mean()) / max(float(np.ptp(number)), 1.0))
        beside.append("order")
        wind = np.array([run.wind for run in rows])
        if (wind > 0).all() and np.ptp(wind) > 1e-6:
            columns.append((wind - wind.mean()) / float(np.std(wind)))
            beside.append("wind")
    return columns, beside


def _least_squares(design: Array, value: Array) -> tuple[float, float, int]:
    """The first column's coefficient, its standard error and the degrees of freedom; none of the latter where the
    column cannot be told from the others.
    """
    rank = int(np.linalg.matrix_rank(design))
    without = int(np.linalg.matrix_rank(design[:, 1:]))
    freedom = len(value) - rank
    if rank == without or freedom < 1:
        return 0.0, 0.0, 0
    inverse = np.linalg.pinv(design.T @ design)
    terms = inverse @ design.T @ value
    left = value - design @ terms
    return float(terms[0]), float(np.sqrt(left @ left / freedom * inverse[0, 0])), freedom


def _notes(trial: Trial, rows: list[TrialRun], n: int, beside: list[str], said: Said, estimate: float) -> list[str]:
    found = []
    first = [rows[2 * k].number < rows[2 * k + 1].number for k in range(n)]
    if abs(sum(first) - n / 2) > n / 4:
        found.append("A came first in most pairs: a wind that rises or falls steadily is in the difference.")
    if "wind" not in beside and not all(run.wind > 0 for run in rows):
        found.append("The wind was not measured run by run: only the order guards against its drift.")
    if said in ("faster", "slower") and abs(estimate) < trial.margin:
        found.append("It is less than what was said to matter.")
    if len({run.rider.strip().lower() for run in rows}) == 1:
        found.append("One rider: it is so for them.")
    return found
