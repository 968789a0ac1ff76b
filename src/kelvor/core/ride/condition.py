"""Conditions: the wind or the speed a ride is looked at in, and the range a brief spans."""

from __future__ import annotations

from kelvor.core.base.disciplines import RIGS, Discipline
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief

USUAL_PACE: dict[Discipline, float] = {
    "wakeboard": 19 * KNOT,
    "wake surf": 9.5 * KNOT,
    "paddle race": 5.5 * KNOT,
    "prone race": 5.2 * KNOT,
    "paddle surf": 9 * KNOT,
    "downwind foil": 4.5 * KNOT,
}
"""Boat, wave or race speed where the brief names none [m/s] (common practice, no source)."""


@frozen
class Condition:
    """What a ride is looked at in: wind [m/s] at the brief's height, or a speed [m/s] for paddled and towed boards."""

    wind: float
    pace: float


def windy(brief: Brief) -> bool:
    """Whether the wind drives the discipline."""
    return brief.discipline in RIGS


def condition_of(brief: Brief) -> Condition:
    """The brief's own condition."""
    return Condition(brief.wind.speed, brief.pace or USUAL_PACE.get(brief.discipline, 0.0))


def at(brief: Brief, value: float) -> Condition:
    """The condition with its wind, or its pace, at `value` [m/s]."""
    own = condition_of(brief)
    return Condition(value, own.pace) if windy(brief) else Condition(own.wind, value)


def span(brief: Brief) -> tuple[float, float]:
    """The range of wind or speed the slider runs through [m/s]: six to sixteen tenths of the brief's, or half to one
    and a half.
    """
    own = condition_of(brief)
    if windy(brief):
        return max(0.6 * own.wind, 4 * KNOT), max(1.6 * own.wind, 12 * KNOT)
    return 0.55 * own.pace, 1.4 * own.pace
