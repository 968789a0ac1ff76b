"""What the demo workshop remembers besides boards: registers, decisions, words, and pages of an old notebook (all
invented).
"""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from kelvor.core.base.figures import Origin
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import Stage
from kelvor.core.register.in_briefs import parts, referring
from kelvor.core.register.kinds.registers import Paddle
from kelvor.core.register.kinds.shop import MadeBoard, MassReading, Order, Worked
from kelvor.core.register.kinds.words import Decision, OldBoard, Said
from kelvor.core.register.record import Record, Verdict
from kelvor.core.shape.parts.fittings import Fin
from kelvor.workshop.rows import written_at
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


MADE: tuple[tuple[str, int, MadeBoard, tuple[tuple[Stage, float], ...], tuple[tuple[Stage, float, str], ...]], ...] = (
    (
        "sandpiper-46",
        4,
        MadeBoard(serial="SK-07", who="Aron Lie", built="Carbon, bagged", begun="2026-03-02", where="sold",
                  whose="a beginner at the harbour"),
        (("cut", 1.01), ("shaped", 0.94), ("laminated", 2.21), ("finished", 3.19)),
        (
            ("shaped", 7.0, "Rails by hand, the mill left two ridges on the deck."),
            ("laminated", 5.5, "Wet out at 17 °C: it drank more resin than planned."),
            ("finished", 6.0, "Pads on, vent set."),
        ),
    ),
    (
        "dunlin-39",
        5,
        MadeBoard(serial="SK-09", who="Aron Lie", built="Carbon, bagged", begun="2026-05-18", where="on the rack"),
        (("cut", 0.82), ("shaped", 0.75), ("laminated", 1.79), ("finished", 2.70)),
        (("shaped", 5.0, "Straight off the cut."), ("laminated", 4.5, "22 °C and dry, squeegeed twice.")),
    ),
    (
        "shearwater-76",
        -1,
        MadeBoard(serial="SK-10", who="Milla Odd", built="Light carbon, aramid deck", begun="2026-04-27",
                  where="out on loan", whose="Isak Brun"),
        (("cut", 1.79), ("shaped", 1.70), ("laminated", 3.69), ("finished", 5.71)),
        (("laminated", 8.0, "Bagged at 0.4 bar below the room, eight hours."),),
    ),
)  # fmt: skip
"""Boards that were begun of which version of which design, what they weighed [kg], what was done on them [h]."""


AFTER: dict[Stage, int] = {
    "blank": 0, "cut": 0, "shaped": 2, "laminated": 5, "coated": 8, "fitted": 10, "finished": 12,
}  # fmt: skip
"""Days after a board was begun on which it came so far."""


def evening(day: str, later: int = 0) -> datetime:
    """In the evening of a day, or of one so many days later."""
    return datetime.fromisoformat(f"{day}T18:30:00+00:00") + timedelta(days=later)


ORDERS = (
    ("shearwater-76", Order(customer="Isak Brun", due="2027-02-12", price=21_000, deposit=7_000,
                            made="demo-made-SK-10", words="Wants it before the winter races.")),
    ("dunlin-39", Order(customer="Tuva Hald", due="2027-03-20", price=16_500, deposit=4_000)),
)  # fmt: skip
"""Who waits for a board of which design."""


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
    for slug, at, made, weighed, worked in MADE:
        uid, board, step = f"demo-made-{made.serial}", boards[slug], versions[slug][at]
        with written_at(evening(made.begun)):
            keep("made board", uid, made, board=board, step=step)
        for stage, mass in weighed:
            value = MassReading(made=uid, stage=stage, mass=mass)
            with written_at(evening(made.begun, AFTER[stage])):
                keep("weighed", f"{uid}-weighed-{stage}", value, origin="measured", board=board, step=step)
        for stage, hours, words in worked:
            done = Worked(made=uid, stage=stage, hours=hours, words=words, who=made.who)
            with written_at(evening(made.begun, AFTER[stage])):
                keep("worked", f"{uid}-worked-{stage}", done, board=board, step=step)
    for i, (slug, order) in enumerate(ORDERS):
        keep("order", f"demo-order-{i}", order, board=boards[slug], step=versions[slug][-1])
    for i, old in enumerate(NOTEBOOK):
        keep("old board", f"demo-old-{i}", old)
