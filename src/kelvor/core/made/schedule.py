"""When the work on a board can be done: cures at the room's temperature, how long each part may wait, what may begin.

Cure doubles its pace with every ten degrees (common practice, no source); the
resin's own data sheet counts before any of this.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kelvor.core.base.values import frozen
from kelvor.core.build.materials.work import Activity

NORMAL = 20.0
"""Temperature for which pot lives and cures are stated [°C]."""
WINDOW = 3.0
"""A second coat or layer keys without sanding up to this many times the cure (common practice, no source)."""


@frozen
class Planned:
    """An activity in time [h from the beginning]: when it can begin, when hands are free, when it is cured; by how much
    it may wait without making the board later.
    """

    activity: Activity
    begins: float
    hands_free: float
    cured: float
    slack: float


def curing_pace(celsius: float) -> float:
    """How fast resin cures at a temperature, over its pace at 20 °C."""
    return float(2.0 ** ((celsius - NORMAL) / 10.0))


def earliest_schedule(work: Sequence[Activity], celsius: float) -> tuple[Planned, ...]:
    """Everything as early as it can be at a room temperature, and how long each may wait (critical path).

    Raises
    ------
    KeyError
        When something is to follow what is not in the list, or comes later in it.
    """
    ends: dict[str, tuple[float, float, float]] = {}
    for item in work:
        begins = max((ends[key][2] for key in item.after), default=0.0)
        free = begins + item.hands
        ends[item.key] = (begins, free, free + item.cure / curing_pace(celsius))
    whole = max((cured for _, _, cured in ends.values()), default=0.0)
    latest = {item.key: whole for item in work}
    for item in reversed(work):
        begins, _, cured = ends[item.key]
        for key in item.after:
            latest[key] = min(latest[key], latest[item.key] - (cured - begins))
    return tuple(Planned(item, *ends[item.key], latest[item.key] - ends[item.key][2]) for item in work)


def waits(work: Sequence[Activity], done: Mapping[str, float], celsius: float) -> dict[str, float]:
    """For what is not done and may be next: hours from now until it may begin.

    `done` are hours since each was done. What follows something undone is not in it.
    """
    by_key = {item.key: item for item in work}
    passed, found = _passed(work, done), {}
    for item in work:
        if item.key not in done and item.key not in passed and all(key in done for key in item.after):
            left = (by_key[key].cure / curing_pace(celsius) - done[key] for key in item.after)
            found[item.key] = max(max(left, default=0.0), 0.0)
    return found


def _passed(work: Sequence[Activity], done: Mapping[str, float]) -> set[str]:
    """What must have been done, ticked or not, since what follows it was."""
    found: set[str] = set()
    for item in reversed(work):
        if item.key in done or item.key in found:
            found.update(item.after)
    return found


def missed(work: Sequence[Activity], done: Mapping[str, float], celsius: float) -> tuple[str, ...]:
    """Coats and layers that may not go on as they are: what lies under them has cured too long to key unsanded."""
    by_key = {item.key: item for item in work}
    late = []
    for key in waits(work, done, celsius):
        if not key.startswith(("coat", "deck", "bottom")):
            continue
        for under in by_key[key].after:
            cure = by_key[under].cure / curing_pace(celsius)
            if under != "shape" and cure > 0 and done[under] > WINDOW * cure:
                late.append(
                    f"{by_key[key].words}: {by_key[under].words.lower()} is {done[under]:.0f} h old; sand it first"
                )
    return tuple(late)
