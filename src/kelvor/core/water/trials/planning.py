"""What a test can show: how many pairs for a difference, which difference for so many pairs, and in which order."""

from __future__ import annotations

from math import isnan

from kelvor.core.base.errors import InputError
from kelvor.core.register.kinds.water import Change

MOST_PAIRS = 200
"""Nobody sails more for one question."""
LEVEL, POWER = 0.05, 0.8
"""A difference is claimed wrongly once in twenty tests where there is none; one that is planned for is found in four of
five (common practice).
"""
WITH_COVARIATES = 6
"""Wind and order are taken into account from so many pairs on; with fewer, the balance of the order must do."""
COVARIATES = 2
"""What is estimated beside the pairs then, of which each costs a degree of freedom."""
USUAL_SCATTER = 0.015
"""Share of the speed two runs of one board differ by, until the log knows better (common practice, no source)."""


def power_of(pairs: int, effect: float, level: float = LEVEL, *, beside: bool = True) -> float:
    """Chance that a paired t test of so many pairs finds a difference of `effect` times the scatter of its pairs, with
    wind and order taken into account `beside` them where there are enough.

    References
    ----------
    The noncentral t distribution with n − 1 degrees of freedom, less those that order and wind cost where they are
    taken into account, and noncentrality √n · effect.
    """
    from scipy.special import nctdtr, stdtrit  # not before a test is planned

    if pairs < 2:
        return 0.0
    more = beside and pairs >= WITH_COVARIATES
    # a wind that differs by chance within pairs takes a pair's worth of them along
    df, away = pairs - 1 - COVARIATES * more, abs(effect) * (pairs - more) ** 0.5
    limit = float(stdtrit(df, 1 - level / 2))
    missed = float(nctdtr(df, away, limit) - nctdtr(df, away, -limit))
    return 1.0 if isnan(missed) else 1 - missed  # SciPy gives none where the difference is many times the scatter


def pairs_for(difference: float, scatter: float, power: float = POWER, *, beside: bool = True) -> int | None:
    """Pairs that find a difference where the differences of pairs scatter by so much (the same unit); None where no one
    would sail as many.
    """
    if difference <= 0:
        return None
    if scatter <= 0:
        return 2
    low, high = 2, MOST_PAIRS
    if power_of(high, difference / scatter, beside=beside) < power:
        return None
    for few in range(2, WITH_COVARIATES):
        if power_of(few, difference / scatter, beside=beside) >= power:
            return few
    low = WITH_COVARIATES
    while low < high:
        middle = (low + high) // 2
        if power_of(middle, difference / scatter, beside=beside) >= power:
            high = middle
        else:
            low = middle + 1
    return low


def least_shown(pairs: int, scatter: float, power: float = POWER) -> float:
    """The least difference so many pairs find, in the unit of the scatter; infinite for fewer than two."""
    if pairs < 2:
        return float("inf")
    low, high = 0.0, 100.0
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (low, middle) if power_of(pairs, middle) >= power else (middle, high)
    return high * scatter


def balanced(pairs: int) -> str:
    """The order of so many pairs: ABBA and BAAB in turn, so that a steady drift of wind falls on both alike.

    Raises
    ------
    InputError
        For fewer than two pairs or more than anyone sails.
    """
    if not 2 <= pairs <= MOST_PAIRS:
        raise InputError(f"{pairs} pairs", where="test", accepts=f"2 to {MOST_PAIRS}")
    blocks = ["ABBA" if k % 2 == 0 else "BAAB" for k in range(pairs // 2)]
    if pairs % 2:
        blocks.append("AB" if (pairs // 2) % 2 == 0 else "BA")
    return " ".join(blocks)


def run_order(order: str) -> tuple[Change, ...]:
    """The order run by run.

    Raises
    ------
    InputError
        When it holds anything but A and B, or not as many of both.
    """
    letters = "".join(order.split()).upper()
    if not letters or set(letters) - {"A", "B"}:
        raise InputError(f"“{order}” is no order", where="test", accepts="Letters A and B, such as ABBA BAAB")
    if letters.count("A") != letters.count("B"):
        raise InputError(f"“{order}” has not as many A as B", where="test", accepts="Such as ABBA BAAB")
    return tuple("A" if letter == "A" else "B" for letter in letters)


def riders_for(order: str, riders: int) -> tuple[int, ...]:
    """Which rider is on the board of each run, 0 or 1: with two, each rides as many A as B, and they swap in turn."""
    if riders < 2:
        return tuple(0 for _ in run_order(order))
    turn, found = 0, []
    for k, _ in enumerate(run_order(order)):
        found.append(turn)
        turn = 1 - turn if k % 2 == 1 else turn
    return tuple(found)
