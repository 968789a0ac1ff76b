"""The work on a board built so, in its order: hours of hands by the workshop's rates, hours of cure."""

from __future__ import annotations

from kelvor.core.base.values import frozen
from kelvor.core.build.materials.table import Rates, Resin
from kelvor.core.shape.parts.construction import Construction

CURE_PER_POT = 20.0
"""Hours of cure before a laminate is turned or sanded, over its hours in the pot (common practice, no source)."""
COAT_SHARE = 0.6
"""Of that, until a coat can be sanded (common practice, no source)."""
STRINGER_HOURS = 1.0
"""To glue a stringer in [h] (common practice, no source)."""
BUILT_UP = 1.6
"""Hours of a chambered or hollow board over those of a solid one: ribs and planks (common practice, no source)."""
EDGE_HOURS = 0.35
"""Hours a metre of hard edge takes: taped, filled, blocked (common practice, no source)."""
LEAST_EDGE = 0.2
"""Shorter hard edges are no work of their own [m]."""
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


def activities(
    construction: Construction, resin: Resin, rates: Rates, fittings: int, edges: float = 0.0
) -> tuple[Activity, ...]:
    """The work on a board built so, in its order, by the workshop's own hours; together they are its estimate's.

    `edges` are the metres of edge that are made and kept crisp by hand.
    """
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
    if edges >= LEAST_EDGE:
        words = f"Tape, fill and block {edges:.1f} m of hard edges"
        dust = "One side at a time. Mask and extraction, or sand it wet."
        found.append(Activity("edges", words, edges * EDGE_HOURS, COAT_SHARE * cure, (done,), dust))
        done = "edges"
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
