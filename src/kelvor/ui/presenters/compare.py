"""Comparing in words: the ledger of differences, and lines of several boards as charts."""

from __future__ import annotations

from math import isnan

from kelvor.core.compare.curves import Curve, Datum, difference, slide
from kelvor.core.compare.ledger import Difference
from kelvor.core.live import Live
from kelvor.core.ride.pictures import Chart, Line
from kelvor.core.units import Quantity, System, number_text, text
from kelvor.ui.presenters.shown import Row
from kelvor.ui.presenters.wording import signed

NOT_FELT = 1.0


def value_words(d: Difference, value: float, system: System) -> str:
    """A reading of a difference; a dash where a board has no such thing."""
    if isnan(value):
        return "–"
    return d.choices[round(value)] if d.choices else text(value, d.quantity, system)


def label_words(d: Difference) -> str:
    """What differs; a lever of one word says where it belongs."""
    alone = " " not in d.label and d.key != "volume" and d.group in ("Rocker", "Thickness", "Rails")
    return f"{d.group}: {d.label[0].lower()}{d.label[1:]}" if alone else d.label


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
            here, there = (value_words(d, value, system) for value in (d.here, d.there))
            if isnan(d.here) or isnan(d.there) or d.choices:
                value = f"{here} → {there}"
            else:
                bare = number_text(d.here, d.quantity, system)
                value = (
                    f"{signed(d.more, d.quantity, system)}   "
                    f"({bare}{'°' if d.quantity is Quantity.ANGLE else ''} → {there})"
                )
            ties = f"; told as well by {', '.join(d.ties)}" if d.ties else ""
            tip = f"{d.felt:.1f} times the least that is felt (common practice, no source){ties}"
            rows.append(Row(d.key, label_words(d), value, "", tip=tip))
    return rows


def first_words(found: list[Difference], name: str, system: System) -> str:
    """The largest difference as a sentence."""
    felt = [d for d in found if d.felt >= NOT_FELT and not d.follows]
    if not felt:
        return f"Nothing of {name} would be felt: it reads the same."
    first = felt[0]
    ties = f" (or {first.ties[0][0].lower()}{first.ties[0][1:]}: the same change by another name)" if first.ties else ""
    more = f", and {len(felt) - 1} more" if len(felt) > 1 else ""
    if isnan(first.here) or isnan(first.there) or first.choices:
        change = f"{value_words(first, first.here, system)} → {value_words(first, first.there, system)}"
    else:
        change = signed(first.more, first.quantity, system)
    label = label_words(first)
    return f"{name}: {label[0].lower()}{label[1:]} {change}{ties}{more}."


def line_chart(live: Live, name: str, curve: Curve, slid: float) -> Chart:
    """A line of one board, slid along the reference's ruler."""
    x = live.geometry.shape.x + slid
    return Chart(curve.words, f"{name}, over the reference's own ruler.", "from its tail, cm", Quantity.LENGTH,
                 _sign(curve), curve.quantity, (Line(name, "now", x, curve.read(live)),), from_zero=False)  # fmt: skip


def difference_chart(
    reference: Live, others: list[tuple[Live, str]], curve: Curve, datum: Datum
) -> list[tuple[str, Chart]]:
    """For every other board what its line has more than the reference's, where both are; boards without the datum are
    left out.
    """
    found = []
    for other, name in others:
        slid = slide(reference, other, datum)
        if slid is not None:
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
                        (Line("more", "now", x, more),),
                        from_zero=False,
                    ),
                )
            )
    return found


def _sign(curve: Curve) -> str:
    return {Quantity.DEPTH: "mm", Quantity.LENGTH: "cm", Quantity.AREA: "cm²"}[curve.quantity]
