"""The order of the work on a board: hours of hands, hours of cure at the room's temperature, and what may begin when.

Cure doubles its pace with every ten degrees (common practice, no source); the
resin's own data sheet counts before any of this.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kelvor.core.materials.table import Rates, Resin
from kelvor.core.shape.construction import Construction
from kelvor.core.values import frozen

NORMAL = 20.0
"""Temperature for which pot lives and cures are stated [°C]."""
CURE_PER_POT = 20.0
"""Hours of cure before a laminate is turned or sanded, over its hours in the pot (common practice, no source)."""
COAT_SHARE = 0.6
"""Of that, until a coat can be sanded (common practice, no source)."""
WINDOW = 3.0
"""A second coat or layer keys without sanding up to this many times the cure (common practice, no source)."""
STRINGER_HOURS = 1.0
"""To glue a stringer in [h] (common practice, no source)."""
BUILT_UP = 1.6
"""Hours of a chambered or hollow board over those of a solid one: ribs and planks (common practice, no source)."""
FINISHING = 0.5
"""Pads, plugs, weighing, measuring [h] (common practice, no source)."""
GRITS = "80 to level, 120, then 180; 240 and finer under paint"
"""Order of papers (common practice, no source)."""


@frozen
class Activity:
    """Something to be done.

    Attributes
    ----------
    key, words:
        Which, and what it is.
    hands, cure:
        Hours of work, and hours at 20 °C until what follows may begin.
    after:
        What must be done and cured before.
    note:
        What to mind.
    """

    key: str
    words: str
    hands: float
    cure: float = 0.0
    after: tuple[str, ...] = ()
    note: str = ""


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


def pace(celsius: float) -> float:
    """How fast resin cures at a temperature, over its pace at 20 °C."""
    return float(2.0 ** ((celsius - NORMAL) / 10.0))


def curing(hours: float, room: Sequence[tuple[float, float]]) -> float:
    """Hours that a cure of so many hours at 20 °C takes in a room: (hours, °C) one after another, the last without
    end.

    Raises
    ------
    ValueError
        When no temperature is given.
    """
    if not room:
        raise ValueError("no temperature is given")
    left, took = hours, 0.0
    for lasts, celsius in room[:-1]:
        cured = lasts * pace(celsius)
        if cured >= left:
            return took + left / pace(celsius)
        left, took = left - cured, took + lasts
    return took + left / pace(room[-1][1])


def activities(construction: Construction, resin: Resin, rates: Rates, fittings: int) -> tuple[Activity, ...]:
    """The work on a board built so, in its order, by the workshop's own hours; together they are its estimate's."""
    c, cure = construction, CURE_PER_POT * resin.pot_minutes / 60
    found, stringers, built_up = list[Activity](), sum(s.on for s in c.stringers), c.core.build != "solid"
    if stringers:
        words = f"Glue {stringers} stringer{'s' if stringers > 1 else ''} in"
        found.append(Activity("stringers", words, STRINGER_HOURS * stringers, cure, ("frame",) if built_up else ()))
    before = ("stringers",) if stringers else ("frame",) if built_up else ()
    found.append(Activity("shape", "Cut and shape", rates.shape, 0.0, before, "Measure before anything is laid on it."))
    if fittings:
        words = "Set boxes, tracks and blocks"
        found.append(
            Activity("set", words, fittings * rates.fitting, cure, ("shape",), "Straight edge over every plate.")
        )
    done = found[-1].key
    bags = rates.bag * c.bags / 2
    for key, zones in (("bottom", ("bottom", "rail", "all round")), ("deck", ("deck",))):
        layers = sum(ply.count for ply in c.plies if ply.on and ply.zone in zones)
        if layers:
            how = ", bagged: leaks first, then the clock" if c.bags else ""
            note = f"Turn or trim when cured{how}."
            found.append(Activity(key, f"Laminate, {key}", layers * rates.layer + bags, cure, (done,), note))
            done = key
    paint = [coat for coat in c.coats if "paint" in coat.name.lower()]
    for i, coat in enumerate(coat for coat in c.coats if coat not in paint):
        found.append(Activity(f"coat.{i}", coat.name, rates.coat, COAT_SHARE * cure, (done,)))
        done = f"coat.{i}"
    found.append(Activity("sand", "Sand", rates.sand, 0.0, (done,), f"{GRITS}. Mask and extraction."))
    done = "sand"
    for i, coat in enumerate(paint):
        found.append(Activity(f"paint.{i}", coat.name, rates.coat, COAT_SHARE * cure, (done,)))
        done = f"paint.{i}"
    found.append(Activity("weigh", "Pads, plugs, weigh and measure", FINISHING, 0.0, (done,)))
    if built_up:
        more = (BUILT_UP - 1) * sum(item.hands for item in found)
        found.insert(0, Activity("frame", "Build it up of ribs and planks", more, cure, (), "Vent every chamber."))
    return tuple(found)


def planned(work: Sequence[Activity], celsius: float) -> tuple[Planned, ...]:
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
        ends[item.key] = (begins, free, free + item.cure / pace(celsius))
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
    found = {}
    for item in work:
        if item.key not in done and all(key in done for key in item.after):
            left = (by_key[key].cure / pace(celsius) - done[key] for key in item.after)
            found[item.key] = max(max(left, default=0.0), 0.0)
    return found


def missed(work: Sequence[Activity], done: Mapping[str, float], celsius: float) -> tuple[str, ...]:
    """Coats and layers that may not go on as they are: what lies under them has cured too long to key unsanded."""
    by_key = {item.key: item for item in work}
    late = []
    for key in waits(work, done, celsius):
        if not key.startswith(("coat", "deck", "bottom")):
            continue
        for under in by_key[key].after:
            cure = by_key[under].cure / pace(celsius)
            if under != "shape" and cure > 0 and done[under] > WINDOW * cure:
                late.append(
                    f"{by_key[key].words}: {by_key[under].words.lower()} is {done[under]:.0f} h old; sand it first"
                )
    return tuple(late)
