"""Phases side by side in words: what tells boards apart, and what does not."""

from __future__ import annotations

from kelvor.core.base.disciplines import RIGS
from kelvor.core.base.figures import value_words
from kelvor.core.base.units import Quantity, System, said_in, text
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.phases import Apart
from kelvor.core.compare.words import apart_words
from kelvor.core.ride.condition import Condition, windy
from kelvor.ui.session.shown_boards import Shown


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
    value, words = apart_words(apart, system)
    waits = " Bands are being counted." if apart.counting else ""
    role = "quiet" if not apart.told else "ink" if apart.better is None else "live" if apart.better else "short"
    return f"{value}\n{words}" if words else value, role, f"{said_in(apart.there.note, system)}{waits}"
