"""Rules of a class: whether one can be a rule at all, and how boards stand to it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from types import MappingProxyType

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import System, inside, text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, Target
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.evaluation.verdicts import Outcome, Verdict, judge_target
from kelvor.core.made.sheet import KINDS
from kelvor.core.register.kinds.family import ClassRule, Quota

USUAL: Mapping[str, float] = MappingProxyType({})
"""No tolerance of a workshop's own."""
_MADE = {
    "length": ("length", 1),
    **dict.fromkeys(("width", "width_1ft_nose", "width_1ft_tail", "width_30cm_nose", "width_30cm_tail"), ("width", 2)),
    "thickness": ("thickness", 1),
    "nose_rocker": ("rocker", 1),
    "tail_rocker": ("rocker", 1),
}
"""Figures a maker measures: as which kind of line of the sheet, and how many of it they take."""


def check_rule(rule: ClassRule) -> None:
    """Whether a rule can be followed.

    Raises
    ------
    InputError
        Naming the limit that is about no figure, contradicts another, or a quota that no board can fall under.
    """
    if not rule.limits and not rule.quotas:
        raise InputError("this rule limits nothing", where=rule.name, accepts="Give a limit such as width <= 85 cm")
    for day, where in ((rule.since, "since"), (rule.until, "until")):
        if day:
            _day(day, where)
    if rule.since and rule.until and _day(rule.since, "since") > _day(rule.until, "until"):
        raise InputError("it ends before it begins", where="until", accepts=f"Give a day after {rule.since}")
    for i, limit in enumerate(rule.limits, 1):
        _check(limit, f"limit {i}")
    for i, quota in enumerate(rule.quotas, 1):
        if quota.which is not None:
            _check(quota.which, f"quota {i}")
    ends: dict[str, list[float]] = {}
    for limit in rule.limits:
        low, high = ends.setdefault(limit.figure, [-math.inf, math.inf])
        if limit.relation == "at least":
            ends[limit.figure][0] = max(low, limit.value)
        else:
            ends[limit.figure][1] = min(high, limit.value)
    for figure, (low, high) in ends.items():
        if low > high:
            q = BY_KEY[figure].quantity
            raise InputError(
                f"{inside(BY_KEY[figure].label)} is to be at least {text(low, q)} and at most {text(high, q)}",
                where="limits",
                accepts="Take one of them off, or turn them round",
            )
    for i, quota in enumerate(rule.quotas, 1):
        which = quota.which
        if which is not None and which.figure in ends:
            low, high = ends[which.figure]
            if (which.relation == "at least" and which.value > high) or (
                which.relation == "at most" and which.value < low
            ):
                raise InputError(
                    "no board within the limits falls under this quota",
                    where=f"quota {i}",
                    accepts="Give a bound within the limits",
                )


def _check(target: Target, where: str) -> None:
    definition = BY_KEY.get(target.figure)
    if definition is None:
        raise InputError(
            f"there is no figure “{target.figure[:40]}”", where=where, accepts="Such as width, length, mass"
        )
    if definition.ranks:
        raise InputError(f"{inside(definition.label)} only ranks boards and can limit none", where=where)
    if target.relative or target.wish:
        raise InputError("a limit of a class is a plain value, and no wish", where=where)


def _day(words: str, where: str) -> date:
    try:
        return date.fromisoformat(words)
    except ValueError:
        raise InputError(f"“{words[:20]}” is no day", where=where, accepts="Such as 2027-03-01") from None


@frozen
class RuleStanding:
    """How a board stands to a rule: each limit with its margin, and altogether."""

    verdicts: tuple[Verdict, ...]

    @property
    def met(self) -> bool | None:
        """Whether all limits are met; None where that cannot be told."""
        outcomes = {verdict.outcome for verdict in self.verdicts}
        if Outcome.SHORT in outcomes:
            return False
        return None if outcomes & {Outcome.TOO_CLOSE, Outcome.UNKNOWN} else True


def held_within(figure: str, tolerances: Mapping[str, float]) -> float:
    """How far from its design a maker lets a measured figure be [SI]: what the measure sheet lets pass, here or as
    usual, on both sides of a width; nothing for a figure that no tape reads.
    """
    kind, sides = _MADE.get(figure, ("", 0))
    return sides * tolerances.get(kind, KINDS[kind].tolerance) if sides else 0.0


def rule_standing(
    rule: ClassRule, figures: Figures, brief: Brief, tolerances: Mapping[str, float] = USUAL
) -> RuleStanding:
    """Every limit of a rule against a board's figures: what a board is registered by is measured on the made one, so
    that a design within less of a limit than makers hold does not yet meet it.
    """
    found = []
    for limit in rule.limits:
        verdict, held = judge_target(limit, figures, brief), held_within(limit.figure, tolerances)
        if verdict.outcome is Outcome.MEETS and verdict.margin < held - 1e-9:
            note = f"the made board is measured, and held within {text(held, BY_KEY[limit.figure].quantity)}"
            verdict = replace(verdict, outcome=Outcome.TOO_CLOSE, band=held, note=note)
        found.append(verdict)
    return RuleStanding(tuple(found))


def falls_under(quota: Quota, figures: Figures) -> bool | None:
    """Whether a board counts for a quota; None where its figure is not known."""
    if quota.which is None:
        return True
    figure = figures.get(quota.which.figure)
    if figure is None or not figure.exists or not figure.valid:
        return None
    over = figure.value - quota.which.value
    return over >= -1e-9 if quota.which.relation == "at least" else over <= 1e-9


def quota_words(quota: Quota, system: System = System.METRIC) -> str:
    """A quota as it is typed."""
    boards = f"at most {quota.most} board{'s' if quota.most != 1 else ''}"
    return f"{boards} with {typed_limit(quota.which, system)}" if quota.which is not None else boards


def typed_limit(limit: Target, system: System = System.METRIC) -> str:
    """A limit as it is typed."""
    sign = "<=" if limit.relation == "at most" else ">="
    quantity = BY_KEY[limit.figure].quantity if limit.figure in BY_KEY else None
    return f"{limit.figure} {sign} {text(limit.value, quantity, system) if quantity is not None else limit.value}"
