"""Fin sets: arrangements of boxes and fins, and how they line up."""

from __future__ import annotations

from math import radians
from typing import Literal

from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.fittings import BoxKind, Fin, FinBox

Arrangement = Literal["none", "single", "2+1", "twin", "three", "four", "five boxes", "four ends"]
ARRANGEMENTS: tuple[Arrangement, ...] = ("none", "single", "2+1", "twin", "three", "four", "five boxes", "four ends")
TOE, CANT = radians(2.0), radians(5.0)


def base_of(span: float) -> float:
    """Base of a fin by its span [m]: raked surf fins grow with their span, upright race fins hardly (common practice,
    no source).

    Some 280 cm² at 33 cm, 360 at 40, 620 at 70.
    """
    raked, upright = min(0.9 * span, 0.55 * span + 0.03), 0.113 + 0.045 * span
    share = min(max((span - 0.2) / 0.1, 0.0), 1.0)
    return (1 - share) * raked + share * upright


def fin_set(
    arrangement: Arrangement, length: float, half_width: float, *, span: float, box: BoxKind, at: float
) -> tuple[FinBox, ...]:
    """Boxes and fins of an arrangement.

    Parameters
    ----------
    span:
        Of the main fin [m].
    at:
        Trailing edge of the aftmost main fin, as a share of the length.

    Proportions are common practice, no source.
    """
    tail = at * length

    def centre(name: str, share: float, x: float, kind: BoxKind = box) -> FinBox:
        return FinBox(name=name, kind=kind, at=Place("tail", round(x, 4)), fin=_fin(share * span))

    def pair(name: str, share: float, x: float, offset: float, kind: BoxKind = "side box") -> FinBox:
        place, out = Place("tail", round(x, 4)), round(offset, 4)
        return FinBox(name=name, kind=kind, at=place, offset=out, toe=TOE, cant=CANT, fin=_fin(share * span))

    out = 0.50 * half_width
    fore = tail + 0.12 + 0.02 * length
    match arrangement:
        case "none":
            return ()
        case "single":
            return (centre("Centre fin", 1.0, tail),)
        case "2+1":
            lead = tail + _fin(span).base
            return (
                centre("Centre fin", 1.0, tail, "long box" if box == "tab box" else box),
                pair("Side fins", 0.55, lead, 0.8 * out),
            )
        case "twin":
            return (pair("Twin fins", 1.0, fore - 0.03, out, box),)
        case "three":
            return (centre("Rear fin", 0.95, tail), pair("Front fins", 1.0 if span < 0.12 else 0.6, fore, out))
        case "four":
            return (pair("Rear fins", 0.8, tail + 0.02, 0.62 * out), pair("Front fins", 1.0, fore, out))
        case "five boxes":
            return (
                centre("Rear fin", 0.9, tail),
                pair("Rear side fins", 0.8, tail + 0.04, 0.62 * out),
                pair("Front fins", 1.0, fore + 0.02, out),
            )
        case _:
            return _at_both_ends(_fin(span), box, tail, 0.5 * half_width)


def _fin(span: float) -> Fin:
    """A fin of a span [m], of usual proportions."""
    return Fin(
        name=f"{span * 100:.0f} cm",
        span=span,
        base=base_of(span),
        rake=0.2 if span > 0.3 else 0.5,
        mass=1.1 * span**1.4,
        thickness=0.09,
    )


def _at_both_ends(fin: Fin, box: BoxKind, tail: float, edge: float) -> tuple[FinBox, ...]:
    """Pairs near the edge at tail and nose, alike."""
    out = round(edge, 4)
    aft = FinBox(name="Aft fins", kind=box, at=Place("tail", round(tail, 4)), offset=out, fin=fin)
    fore = FinBox(name="Fore fins", kind=box, at=Place("nose", round(tail + fin.base, 4)), offset=out, fin=fin)
    return (aft, fore)


def alignment(board: Board) -> float | None:
    """How far the centre fin's leading edge lies ahead of the side fins' trailing edges [m]; None without both."""
    boxes = board.fittings.fin_boxes
    centre = [b for b in boxes if b.offset == 0]
    sides = [b for b in boxes if b.offset > 0]
    if not centre or not sides:
        return None
    lead = max(b.at.x(board.length, board.mast_x) + b.fin.base for b in centre)
    trail = max(b.at.x(board.length, board.mast_x) for b in sides)
    return lead - trail


def stagger(board: Board) -> float | None:
    """Distance between the trailing edges of front and rear pairs [m], None without two pairs."""
    places = sorted(b.at.x(board.length, board.mast_x) for b in board.fittings.fin_boxes if b.offset > 0)
    return places[-1] - places[0] if len(places) > 1 else None
