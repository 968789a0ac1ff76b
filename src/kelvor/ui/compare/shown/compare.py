"""Comparing in words: the ledger of differences, and lines of several boards as charts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import isnan

from kelvor.core.base.findings import Finding
from kelvor.core.base.units import Quantity, System, inside, signed, text, unit_of
from kelvor.core.compare.adopting import Adopted, Zone
from kelvor.core.compare.curves import (
    CURVES,
    ComparedCurve,
    Datum,
    datum_slide,
    difference,
    drawn_curve,
    has_curve,
)
from kelvor.core.compare.ledger import Difference, least_felt, ledger
from kelvor.core.compare.words import NOT_FELT, compared_change_words, label_words
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.lever import Lever
from kelvor.core.levers.locks import Change
from kelvor.core.ride.pictures import Chart, ChartLine
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.weights import schedule_keys
from kelvor.ui.shape.shown.handles import line_name, line_quantity
from kelvor.ui.shown.shown import Row


def ledger_lines(found: list[Difference], system: System) -> list[Row]:
    """The ledger as rows: what is felt, what came with it, and what nobody would feel."""
    rows: list[Row] = []
    groups = (
        ("Felt, largest first", [d for d in found if not d.follows and d.felt >= NOT_FELT]),
        ("Came with it", [d for d in found if d.follows and d.felt >= NOT_FELT]),
        ("Too little to be felt", [d for d in found if d.felt < NOT_FELT]),
    )
    for words, part in groups:
        if part:
            rows.append(Row("", words))
        for d in part:
            size, way = compared_change_words(d, system)
            value = f"{size}   ({way})" if size else way
            ties = f"; told as well by {', '.join(d.ties)}" if d.ties else ""
            tip = f"{d.felt:.1f} times the least that is felt{ties}"
            rows.append(Row(d.key, label_words(d), value, "", tip=tip))
    return rows


def line_chart(live: Live, name: str, curve: ComparedCurve, slid: float) -> Chart:
    """A line of one board, slid along the reference's ruler."""
    x = live.geometry.shape.x + slid
    return Chart(
        curve.words,
        f"{name}, over the reference's own ruler.",
        "from its tail, cm",
        Quantity.LENGTH,
        _sign(curve),
        curve.quantity,
        (ChartLine(name, "now", x, curve.read(live)),),
        from_zero=False,
    )


def difference_chart(
    reference: Live, others: list[tuple[Live, str]], curve: ComparedCurve, datum: Datum
) -> list[tuple[str, Chart]]:
    """For every other board what its line has more than the reference's, where both are; boards without the datum are
    left out.
    """
    found = []
    for other, name in others:
        slid = datum_slide(reference, other, datum)
        if slid is not None and has_curve(other, curve):
            x, more = difference(reference, other, curve, slid)
            found.append(
                (
                    name,
                    Chart(
                        f"{curve.words}, difference",
                        "What the others have more than the board on the bench.",
                        "from its tail, cm",
                        Quantity.LENGTH,
                        _sign(curve),
                        curve.quantity,
                        (ChartLine("more", "now", x, more),),
                        from_zero=False,
                    ),
                )
            )
    return found


def _sign(curve: ComparedCurve) -> str:
    return unit_of(curve.quantity).sign


def curves_of(board: Board) -> tuple[ComparedCurve, ...]:
    """Lines to compare by: those of every board, and what this one draws along itself: layers, deck, rails."""
    drawn = (drawn_curve(key, f"Drawn: {line_name(key)}", line_quantity(board, key)) for key in schedule_keys(board))
    return (*CURVES, *drawn)


NOBODY = "Nothing to compare with yet: choose boards in the rack and press Compare, or make a version the reference."
ZONE_WORDS: dict[Zone, str] = {
    "outline": "Outline",
    "tail outline": "Outline of the tail",
    "nose outline": "Outline of the nose",
    "rocker": "Rocker",
    "tail rocker": "Tail rocker",
    "nose rocker": "Nose rocker",
    "bottom": "Bottom: concaves, V, channels, cut-outs",
    "rails": "Rails",
    "deck": "Thickness and deck",
    "fins": "Fins and their boxes",
    "fittings": "All fittings",
    "construction": "Construction",
}
KINKED = 0.0087
"""Rockers that run half a degree apart where they are joined show it in the curvature (judgement)."""
GAVE = 4
"""So many of the largest differences are told of what gave when a part was taken on."""


def taken_title(zone: Zone, name: str) -> str:
    """The step's words."""
    return f"{ZONE_WORDS[zone].partition(':')[0]} of {name} taken on"


def gave(before: Live, after: Live, own: dict[str, float] | None = None) -> tuple[Change, ...]:
    """What of a board gave when a part was taken on: its largest differences, and its volume if that moved."""
    found = ledger(before, after, explained=False, own=own)
    told = [d for d in found if d.felt >= NOT_FELT and not isnan(d.here) and not isnan(d.there) and not d.choices]
    volume = [d for d in found if d.key == "volume" and d not in told[:GAVE]]
    return tuple(Change(label_words(d), d.quantity, d.here, d.there) for d in (*told[:GAVE], *volume))


def taken_words(taken: Adopted, changes: tuple[Change, ...], found: tuple[Finding, ...], system: System) -> str:
    """What taking a part on did: how it was laid on, what gave, and what no longer clears."""
    words = []
    if not isnan(taken.joint):
        where, apart = text(taken.joint, Quantity.LENGTH, system), text(taken.gap, Quantity.DEPTH, system)
        words.append(f"Joined {where} from the tail; what the lines lie apart there, {apart}, is led over")
        if not isnan(taken.kink) and taken.kink > KINKED:
            words.append(f"They run {text(taken.kink, Quantity.ANGLE, system)} apart there: look at the curvature")
    elif abs(taken.stretched - 1) > 1e-3:
        words.append(f"{'Shortened' if taken.stretched > 1 else 'Stretched'} to this board's length")
    given = ", ".join(
        f"{inside(c.label)} {signed(c.after - c.before, c.quantity, system)}"
        for c in changes
        if c.before is not None and c.after is not None
    )
    words.append(f"Gave: {given}" if given else "Nothing that is felt gave")
    words += [f"No longer clears: {f.text}" for f in found[:2]]
    return ". ".join(words) + "."


STATION = ("wide", "rocker", "thick")
"""What is read of a board at a station."""


def station_cells(live: Live, reference: Live | None, at: float, own: float, system: System) -> tuple[str, ...]:
    """Width, rocker and thickness of a board at a station of its own, with what it has more than the reference there;
    one cell of words where it ends before.
    """
    if not 0.0 <= at <= live.board.length:
        return ("ends before this",)
    quantities, values = (Quantity.LENGTH, Quantity.DEPTH, Quantity.DEPTH), _read_station(live, at)
    shown = [text(value, q, system) for value, q in zip(values, quantities, strict=True)]
    if reference is None:
        return tuple(shown)
    more = (value - here for value, here in zip(values, _read_station(reference, own), strict=True))
    apart = (signed(m, q, system).rpartition(" ")[0] for m, q in zip(more, quantities, strict=True))
    return tuple(f"{words} ({gap})" for words, gap in zip(shown, apart, strict=True))


def unshared_plan_words(more: float, less: float, system: System) -> str:
    """What two outlines do not share."""
    return f"{text(more, Quantity.AREA, system)} more and {text(less, Quantity.AREA, system)} less in plan"


def _read_station(live: Live, at: float) -> tuple[float, float, float]:
    shape, geometry = live.geometry.shape, live.geometry
    width, keel, deck = (geometry.at(values, at) for values in (shape.half_width, geometry.keel_line, shape.deck))
    return 2 * width, keel, deck - geometry.at(shape.keel, at)


def felt_rows(found: Sequence[Lever], own: Mapping[str, float], system: System) -> list[Row]:
    """The least that is felt of each lever, by groups; the workshop's own marked as such."""
    rows: list[Row] = []
    group = ""
    for lever in found:
        if lever.group != group:
            group = lever.group
            rows.append(Row("", group))
        aside = "yours" if lever.key in own else ""
        rows.append(Row(lever.key, lever.label, text(least_felt(lever, own), lever.quantity, system), aside))
    return rows
