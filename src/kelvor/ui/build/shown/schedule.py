"""The schedule in words: what takes how long in this room, what is done, and what may begin when."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime

from kelvor.core.build.materials.work import Activity
from kelvor.core.made.schedule import curing_pace, earliest_schedule, missed, waits
from kelvor.core.register.kinds.shop import Done

CAUTION = (
    "Cures are reckoned from pot lives (common practice, no source): the resin's data sheet comes first. Two-pack "
    "paint and lacquer: isocyanates, supplied air, no cartridge mask. Polyester resin dissolves EPS. Bagged EPS: cure "
    "below the core's limit. Gloves, fresh air; oiled and resin rags into water."
)


def hours_words(hours: float) -> str:
    """A time in hours and minutes."""
    minutes = round(hours * 60)
    return f"{minutes // 60} h {minutes % 60:02d}" if minutes >= 60 else f"{minutes} min"


def done_words(value: Done) -> str:
    """When something was done, in what room and of which batch."""
    at = datetime.fromisoformat(value.at).astimezone().strftime("%Y-%m-%d %H:%M")
    parts = [at, f"{value.celsius:.0f} °C", f"{value.humidity:.0f} %" if value.humidity else "", value.batch]
    return ", ".join(part for part in parts if part)


def schedule_rows(
    work: Sequence[Activity], done: Mapping[str, float], celsius: float, told: Mapping[str, str]
) -> list[tuple[str, ...]]:
    """The schedule as a table: work, hands, cure, when it begins and how long it may wait, where it stands; what to
    mind, or what is `told` of what is done.
    """
    next_ones = waits(work, done, celsius)
    rows: list[tuple[str, ...]] = []
    for item in earliest_schedule(work, celsius):
        key, cure = item.activity.key, item.activity.cure / curing_pace(celsius)
        if key in done:
            left = cure - done[key]
            state = f"done, cures {hours_words(left)} more" if left > 0 else "done"
        elif key in next_ones:
            state = "may begin" if next_ones[key] <= 0 else f"in {hours_words(next_ones[key])}"
        else:
            state = ""
        rows.append(
            (
                item.activity.words,
                hours_words(item.activity.hands),
                hours_words(cure) if cure else "",
                hours_words(item.begins),
                hours_words(item.slack) if item.slack > 1e-9 else "none",
                state,
                told.get(key, item.activity.note),
            )
        )
    return rows


def card_work(work: Sequence[Activity]) -> list[tuple[str, str, str, str]]:
    """The work as it stands on the stage card: what, hands, cure at 20 °C, what to mind."""
    return [
        (item.words, hours_words(item.hands), hours_words(item.cure) if item.cure else "", item.note) for item in work
    ]


def schedule_words(work: Sequence[Activity], done: Mapping[str, float], celsius: float) -> str:
    """How long it all takes, and windows that are missed."""
    plan = earliest_schedule(work, celsius)
    hands = sum(item.activity.hands for item in plan)
    whole = max(item.cured for item in plan)
    words = f"{hours_words(hands)} of hands, {hours_words(whole)} by the clock at {celsius:.0f} °C."
    late = missed(work, done, celsius)
    return f"{words} Too late to go on as it is: {'; '.join(late)}." if late else words
