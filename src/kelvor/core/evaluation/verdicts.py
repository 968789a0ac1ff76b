"""Verdicts: whether a figure meets what the brief asks."""

from __future__ import annotations

from dataclasses import replace
from enum import Enum

from kelvor.core.base.figures import Figures, difference_band
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, Target


class Outcome(Enum):
    """How a target stands."""

    MEETS = "meets"
    SHORT = "short"
    TOO_CLOSE = "too close to call"
    UNKNOWN = "not computed"


@frozen
class Verdict:
    """A target, the value it asks for (SI), and how the figure stands to it.

    `margin` [SI] is positive on the good side; `band` is what decides a close call.
    """

    target: Target
    asked: float
    outcome: Outcome
    margin: float = 0.0
    band: float = 0.0
    note: str = ""


def judge_target(target: Target, figures: Figures, brief: Brief) -> Verdict:
    """One target against the figures. Relative ones compare with the known board: by the band of the difference
    where that was computed here as well, else by the whole band.
    """
    figure = figures.get(target.figure)
    asked, then = target.value, None
    if figure is not None and figure.definition.ranks and not target.relative:
        return Verdict(target, asked, Outcome.UNKNOWN, note="it only ranks boards: ask for a share of a known one's")
    if target.relative:
        known = dict(brief.known.figures) if brief.known else {}
        if target.figure not in known:
            return Verdict(target, asked, Outcome.UNKNOWN, note="no known board has this figure")
        then = known[target.figure]
        asked = then * target.value
    if figure is None or not figure.exists or not figure.valid:
        return Verdict(target, asked, Outcome.UNKNOWN, note=figure.note if figure else "no such figure")
    margin = figure.value - asked if target.relation == "at least" else asked - figure.value
    band = figure.band
    if then is not None and brief.known is not None and brief.known.origin == "computed":
        band = difference_band(figure, replace(figure, value=then), counted=False)
    if abs(margin) <= band and band > 1e-6 * abs(asked):
        return Verdict(target, asked, Outcome.TOO_CLOSE, margin, band)
    return Verdict(target, asked, Outcome.MEETS if margin >= -1e-9 else Outcome.SHORT, margin, band)


def judge_targets(brief: Brief, figures: Figures) -> tuple[Verdict, ...]:
    """All targets of a brief."""
    return tuple(judge_target(target, figures, brief) for target in brief.targets)


def worst(verdicts: tuple[Verdict, ...]) -> Verdict | None:
    """The verdict that speaks for a phase: short musts first, then close calls, wishes last; None without targets."""
    rank = {Outcome.SHORT: 0, Outcome.TOO_CLOSE: 1, Outcome.UNKNOWN: 2, Outcome.MEETS: 3}
    ordered = sorted(verdicts, key=lambda v: rank[v.outcome] + (0.5 if v.target.wish else 0.0))
    return ordered[0] if ordered else None
