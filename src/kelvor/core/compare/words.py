"""Differences in the words of the trade: the same on the tape, in the rack, in Compare and on paper."""

from __future__ import annotations

from math import isnan

from kelvor.core.base.figures import ranked_words, value_words
from kelvor.core.base.units import Quantity, System, number_text, signed, text
from kelvor.core.compare.ledger import Difference
from kelvor.core.compare.phases import Apart

NOT_FELT = 1.0
"""Less than once the least that is felt is told as too little."""


def compared_reading_words(d: Difference, value: float, system: System) -> str:
    """A reading of a difference; a dash where a board has no such thing."""
    if isnan(value):
        return "–"
    return d.choices[round(value)] if d.choices else text(value, d.quantity, system)


def label_words(d: Difference) -> str:
    """What differs; a lever of one word says where it belongs."""
    alone = " " not in d.label and d.key != "volume" and d.group in ("Rocker", "Thickness", "Rails")
    return f"{d.group}: {d.label[0].lower()}{d.label[1:]}" if alone else d.label


def compared_change_words(d: Difference, system: System) -> tuple[str, str]:
    """By how much it differs, and from what to what: (“+0.8 cm”, “45.0 → 45.7 cm”); no size where one board
    has it not.
    """
    here, there = (compared_reading_words(d, value, system) for value in (d.here, d.there))
    if isnan(d.here) or isnan(d.there) or d.choices:
        return "", f"{here} → {there}"
    degree = "°" if d.quantity is Quantity.ANGLE else ""
    return signed(d.more, d.quantity, system), f"{number_text(d.here, d.quantity, system)}{degree} → {there}"


def first_words(found: list[Difference], name: str, system: System) -> str:
    """The largest difference as a sentence."""
    felt = [d for d in found if d.felt >= NOT_FELT and not d.follows]
    if not felt:
        return f"Nothing of {name} would be felt: it reads the same."
    first = felt[0]
    ties = f" (or {first.ties[0][0].lower()}{first.ties[0][1:]}: the same change by another name)" if first.ties else ""
    more = f", and {len(felt) - 1} more" if len(felt) > 1 else ""
    size, way = compared_change_words(first, system)
    label = label_words(first)
    return f"{name}: {label[0].lower()}{label[1:]} {size or way}{ties}{more}."


def apart_words(apart: Apart, system: System) -> tuple[str, str]:
    """The other's value, and what tells it from the reference, with its band; nothing where that cannot be said."""
    figure, q = apart.there, apart.figure.definition.quantity
    if figure is None:
        return "–", ""
    value = ranked_words(figure, apart.here) if figure.definition.ranks else value_words(figure, system)
    if not apart.known or isnan(apart.more):
        return value, ""
    extra = next((e for e in range(3) if any(c in "123456789" for c in number_text(apart.band, q, system, extra=e))), 0)
    band = text(apart.band, q, system, extra=extra)
    if not apart.told:
        return value, "same" if abs(apart.more) < 1e-9 else f"not to be told apart: takes {band}"
    word = apart.figure.definition.more if apart.more > 0 else apart.figure.definition.less
    if figure.definition.ranks:
        return value, f"{word} ±{band}"
    return value, f"{signed(apart.more, q, system)} {word} ±{number_text(apart.band, q, system, extra=extra)}"
