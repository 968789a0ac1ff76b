"""What the demo workshop remembers besides boards: registers, decisions, words, and pages of an old notebook (all
invented).
"""

from __future__ import annotations

from typing import Any

from kelvor.core.brief import Brief
from kelvor.core.figures import Origin
from kelvor.core.record import Decision, OldBoard, Paddle, Record, Said, Verdict
from kelvor.core.referring import parts, referring
from kelvor.core.shape.fittings import Fin
from kelvor.workshop.store import Store

DECISIONS: tuple[tuple[str, int, Verdict, str, str], ...] = (
    (
        "sandpiper-46",
        -1,
        "dropped",
        "It stuck to the water in the last light-wind days of spring; the flatter tail of Dunlin lets go.",
        "Ronja Vik",
    ),
    ("dunlin-39", -1, "kept", "Lets go where the old one stuck, and turns easier.", "Ronja Vik"),
    ("stint-33", -1, "parked", "Too small until the wind comes back in autumn.", "Ronja Vik"),
    ("shearwater-69", -1, "dropped", "Catches in chop past the outer buoy.", "Isak Brun"),
    ("shearwater-76", -1, "kept", "Calm at full speed; Isak asked for nothing else.", "Isak Brun"),
    ("kittiwake-109", -1, "kept", "Turns off the tail without a step back.", "Milla Odd"),
    ("redshank-137", -1, "dropped", "Hard landings: the shorter rocker slaps.", "Jorun Fale"),
)
"""On which version of which board: what was decided, why, by whom."""
WORDS: tuple[tuple[str, int, str, str, str, Origin], ...] = (
    (
        "sandpiper-46",
        2,
        "Sticky. I pump and pump and then it pops off late.",
        "Ronja Vik",
        "light days, big wing, knees bent",
        "felt",
    ),
    ("sandpiper-46", -1, "Still glued down under ten knots.", "Ronja Vik", "light days, big wing, knees bent", "felt"),
    (
        "dunlin-39",
        -1,
        "Touches down and goes on. I forgot it was there.",
        "Ronja Vik",
        "light days, big wing, knees bent",
        "felt",
    ),
    (
        "shearwater-69",
        -1,
        "Loose and nervous over the bumps, the nose wants to trip.",
        "Isak Brun",
        "heavy on the front foot",
        "felt",
    ),
    ("shearwater-76", -1, "Faster than the old one, they say at the harbour.", "a neighbour", "", "claimed"),
    (
        "kittiwake-109",
        -1,
        "Pivots on a plate. A bit wobbly while waiting.",
        "Milla Odd",
        "small waves, back foot far aft",
        "felt",
    ),
    (
        "heron-14",
        -1,
        "Tracks straight, nothing to correct for twenty strokes.",
        "Tove Aal",
        "left side stronger",
        "felt",
    ),
    (
        "redshank-137",
        -1,
        "My knees. Flat water landings are like a door.",
        "Jorun Fale",
        "jumps high, lands late",
        "felt",
    ),
)
"""About which version of which board: what was said, by whom, how they ride, where it comes from."""
NOTEBOOK = (
    OldBoard(name="Grey Gull", discipline="wave windsurf", length=2.32, width=0.56, volume=0.081, made="spring 2011",
             words="First one with the pulled-in tail. Loose, loved in side-off wind, never planed in the inner basin.",
             who="Aron Lie"),
    OldBoard(name="Tern, the yellow one", discipline="slalom", length=2.40, width=0.66, volume=0.104, made="2013",
             words="Cracked under the front foot in its second season. Fast until then.", who="Aron Lie"),
    OldBoard(name="Door", discipline="paddle surf", length=2.75, width=0.80, made="2009",
             words="Corky and stable; every beginner learnt on it.", who="Milla Odd"),
    OldBoard(name="Needle", discipline="prone race", length=3.66, width=0.48, words="Tippy. Quick once you lie still.",
    who="Tove Aal"),
)  # fmt: skip


def registered(store: Store, brief: Brief, known: dict[tuple[str, str], Record]) -> Brief:
    """A brief that refers to the registers; what they lack of it joins them, and `known`."""
    for kind, value in parts(brief):
        if (kind, value.name) not in known:
            uid = f"demo-{kind}-{value.name}".lower().replace(" ", "-")[:40]
            store.records.keep(kind, uid, value)
            known[kind, value.name] = Record(uid, kind, 1, "", "", "claimed", False, value)
        brief = referring(brief, known[kind, value.name])
    return brief


def fill_record(store: Store, boards: dict[str, int], versions: dict[str, list[int]]) -> None:
    """Decisions, words and old boards, in a workshop whose boards and their versions go by their slugs."""
    keep = store.records.keep
    more: tuple[tuple[Any, Any], ...] = (
        ("fin", Fin(name="Weed 28", span=0.28, base=0.12)),
        ("fin", Fin(name="Blade 36", span=0.36, base=0.105)),
        ("paddle", Paddle(name="Race paddle", length=1.92)),
    )
    for i, (kind, value) in enumerate(more):
        keep(kind, f"demo-{kind}-{i}", value)
    for i, (slug, at, verdict, why, who) in enumerate(DECISIONS):
        keep(
            "decision",
            f"demo-decision-{i}",
            Decision(verdict=verdict, why=why, who=who),
            board=boards[slug],
            step=versions[slug][at],
        )
    for i, (slug, at, words, who, rides, origin) in enumerate(WORDS):
        keep(
            "said",
            f"demo-said-{i}",
            Said(words=words, who=who, rides=rides),
            origin=origin,
            board=boards[slug],
            step=versions[slug][at],
        )
    for i, old in enumerate(NOTEBOOK):
        keep("old board", f"demo-old-{i}", old)
