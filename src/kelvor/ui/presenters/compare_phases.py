"""Phases side by side in words: what tells boards apart, and what does not."""

from __future__ import annotations

from math import isnan

from kelvor.core.brief import Brief
from kelvor.core.compare.phases import Apart
from kelvor.core.disciplines import RIGS
from kelvor.core.ride.condition import Condition, windy
from kelvor.core.units import Quantity, System, number_text, said_in, text
from kelvor.ui.bench.shown import Shown
from kelvor.ui.presenters.wording import ranked_words, signed, value_words


def condition_words(
    brief: Brief, condition: Condition, others: tuple[Shown, ...], waits: list[str], system: System
) -> str:
    """Under which brief and condition boards are looked at, and what is still being counted."""
    if not others:
        return "Nothing to compare with yet."
    rider = f"{brief.rider.name or 'a rider'} of {text(brief.rider.mass, Quantity.MASS, system)}"
    wind = (
        f"in {text(condition.wind, Quantity.SPEED, system)} of wind"
        if windy(brief)
        else f"at {text(condition.pace, Quantity.SPEED, system)}"
    )
    gear = brief.wing
    rig = f", {gear.name}" if gear is not None and RIGS.get(brief.discipline) else ""
    words = f"All under one brief: {brief.discipline}, {rider}{rig}, {wind}."
    other = sorted({o.live.brief.discipline for o in others} - {brief.discipline})
    if other:
        words += f" Boards of another discipline ({', '.join(other)}) are ridden as {brief.discipline} here."
    return f"{words} Being counted: {', '.join(waits)}." if waits else words


def own_cell(apart: Apart, system: System) -> str:
    """The reference's value."""
    figure = apart.here
    if figure is None or not figure.exists:
        return "–"
    return "reference" if figure.definition.ranks else value_words(figure, system)


def apart_cell(apart: Apart | None, system: System) -> tuple[str, str, str]:
    """What the other board has more or less: the words, the role of their colour, and what stands behind them."""
    if apart is None or apart.there is None:
        return "–", "quiet", ""
    figure, q = apart.there, apart.figure.definition.quantity
    value = ranked_words(figure, apart.here) if figure.definition.ranks else value_words(figure, system)
    tip = said_in(figure.note, system)
    if not apart.known or isnan(apart.more):
        return value, "quiet", tip
    extra = next((e for e in range(3) if any(c in "123456789" for c in number_text(apart.band, q, system, extra=e))), 0)
    band = text(apart.band, q, system, extra=extra)
    waits = " Bands are being counted." if apart.counting else ""
    if not apart.told:
        if abs(apart.more) < 1e-9:
            return f"{value}\nsame", "quiet", tip
        return f"{value}\nnot to be told apart: takes {band}", "quiet", f"{tip}{waits}"
    word = apart.figure.definition.more if apart.more > 0 else apart.figure.definition.less
    role = "ink" if apart.better is None else "live" if apart.better else "short"
    size = "" if figure.definition.ranks else f"{signed(apart.more, q, system)} "
    bare = band if not size else number_text(apart.band, q, system, extra=extra)
    return f"{value}\n{size}{word} ±{bare}", role, f"{tip}{waits}"
