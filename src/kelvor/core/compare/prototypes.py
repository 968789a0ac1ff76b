"""Many boards at once: which figures tell them apart, how they rank by one, and where those given up lie beyond the
kept.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field
from math import isfinite

from kelvor.core.base.figures import FigureDefinition
from kelvor.core.base.units import number_text
from kelvor.core.base.values import frozen
from kelvor.core.register.record import Verdict

LEAST_DROPPED, LEAST_KEPT = 2, 2
"""A limit is told once so many boards beyond it were given up and so many short of it kept (judgement)."""


@frozen(kw_only=True)
class Prototype:
    """A board among others.

    Attributes
    ----------
    key, board, step, number:
        What it goes by, which board of the workshop it is, at which step, and that step's number.
    figures:
        What was computed of it, by key (SI).
    half:
        Half-widths from tail to nose [m].
    under:
        What it was ridden under and by whom: rider, gear, wind, in words by heading.
    measured, felt, claimed:
        What was weighed, and what was said of it by origin; never merged with what is computed.
    """

    key: str
    name: str
    board: int = 0
    step: int = 0
    number: int = 0
    figures: Mapping[str, float] = field(default_factory=dict)
    half: tuple[float, ...] = ()
    under: Mapping[str, str] = field(default_factory=dict)
    verdict: Verdict | None = None
    why: str = ""
    measured: str = ""
    felt: str = ""
    claimed: str = ""


def differing_figures(boards: Sequence[Prototype], book: Sequence[FigureDefinition]) -> tuple[FigureDefinition, ...]:
    """Figures of the book that read otherwise on some of the boards; what is known of one board only is left out."""
    found = []
    for definition in book:
        values = [v for b in boards if isfinite(v := b.figures.get(definition.key, float("nan")))]
        if len(values) > 1 and len({number_text(v, definition.quantity) for v in values}) > 1:
            found.append(definition)
    return tuple(found)


def ranked_boards(boards: Sequence[Prototype], key: str, *, falling: bool = False) -> list[Prototype]:
    """Boards in the order of a figure, those without it last, each group in the order it came in."""
    known = [b for b in boards if isfinite(b.figures.get(key, float("nan")))]
    known.sort(key=lambda b: b.figures[key], reverse=falling)
    return known + [b for b in boards if not isfinite(b.figures.get(key, float("nan")))]


@frozen
class LimitSeen:
    """A figure beyond which every board was given up, and short of which some were kept.

    Attributes
    ----------
    at:
        The value of the nearest board that was given up, in SI.
    past:
        1 where more of it was too much, −1 where less of it was too little.
    reasons:
        Why those beyond were given up.
    """

    definition: FigureDefinition
    at: float
    past: int
    dropped: int
    kept: int
    gap: float
    reasons: tuple[str, ...]


def limits_seen(boards: Sequence[Prototype], book: Sequence[FigureDefinition]) -> tuple[LimitSeen, ...]:
    """Limits that verdicts point to: all that were dropped lie beyond all that were kept. The clearest first.

    Seen on few boards it is a hint, no law: boards differ in more than one figure.
    """
    found = []
    for definition in differing_figures(boards, book):
        values = {
            verdict: [
                (b.figures[definition.key], b.why)
                for b in boards
                if b.verdict == verdict and definition.key in b.figures
            ]
            for verdict in ("dropped", "kept")
        }
        dropped, kept = values["dropped"], values["kept"]
        if len(dropped) < LEAST_DROPPED or len(kept) < LEAST_KEPT:
            continue
        for past in (1, -1):
            nearest = min(dropped, key=lambda one: past * one[0])
            furthest = max(kept, key=lambda one: past * one[0])
            gap = past * (nearest[0] - furthest[0])
            if gap > 0:
                span = max(v for v, _ in (*dropped, *kept)) - min(v for v, _ in (*dropped, *kept))
                reasons = tuple(dict.fromkeys(why for _, why in dropped if why))
                found.append(LimitSeen(definition, nearest[0], past, len(dropped), len(kept), gap / span, reasons))
    return tuple(sorted(found, key=lambda limit: -limit.gap))
