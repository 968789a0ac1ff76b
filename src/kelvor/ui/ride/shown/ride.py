"""What a page of the Ride view shows: the phase's figures, what buys most, the curve over the range, the quiver."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.disciplines import FOILING, RIGS
from kelvor.core.base.figures import (
    Better,
    FigureDefinition,
    Figures,
    band_words,
    difference_words,
    ranked_words,
    value_words,
)
from kelvor.core.base.units import (
    KNOT,
    Quantity,
    System,
    number_text,
    said_in,
    signed,
    text,
    unit_of,
)
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.jobs import LeverEffect, SweepPoint
from kelvor.core.evaluation.verdicts import Verdict
from kelvor.core.levers.lever import Lever
from kelvor.core.ride.collector import GearWind
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark
from kelvor.core.ride.shared_phases import Phase
from kelvor.ui.shown.shown import Row


def phase_rows(
    phase: Phase,
    figures: Figures,
    pinned: Figures,
    verdicts: tuple[Verdict, ...],
    system: System,
    pinned_name: str = "",
) -> list[Row]:
    """The figures of a phase, now and against the pinned step (ranking figures as a ratio to it); targets are marked
    where they are short.
    """
    short = {v.target.figure for v in verdicts if v.outcome.value == "short"}
    rows = []
    for key in phase.figures:
        figure = figures.get(key)
        if figure is None:
            continue
        then, ranks = pinned.get(key), figure.definition.ranks
        shown = ranked_words(figure, then) if ranks else value_words(figure, system)
        band = f" {band_words(figure, system)}." if figure.exists and figure.band > 0 else ""
        aside = difference_words(figure, then, system, size=not ranks)
        if ranks and then is not None and pinned_name and shown != "–":
            shown = f"{shown} {pinned_name}"
        rows.append(
            Row(
                key,
                figure.definition.label,
                shown,
                aside,
                struck=not figure.valid,
                mark="!" if key in short else "",
                tip=f"{said_in(figure.note, system)}.{band}",
            )
        )
    return rows


@frozen
class Buy:
    """What a fair step of a lever does to a figure, in words.

    `bar` runs from −1 to 1; positive is better, or more where neither is (`judged` tells).
    """

    lever: str
    step: str
    change: str
    bar: float
    tip: str
    judged: bool = True


def buys(
    definition: FigureDefinition,
    effects: dict[str, LeverEffect],
    levers: dict[str, Lever],
    system: System,
    most: int = 7,
    value: float = 0.0,
) -> list[Buy]:
    """The levers that move a figure most, beyond the band of the difference; those that better it first where that can
    be said.
    """
    found: list[tuple[float, LeverEffect, float, float]] = []
    for effect in effects.values():
        for key, moved, band in effect.changes:
            if key == definition.key and abs(moved) > band and effect.lever in levers:
                found.append((abs(moved), effect, moved, band))
    found.sort(key=lambda item: -item[0])
    told: set[tuple[str, float]] = set()
    found = [
        item for item in found if not _twice(told, item)
    ]  # the three rocker lines move together where the rocker pays
    top = found[0][0] if found else 1.0
    rows = []
    q = definition.quantity
    if definition.ranks and value > 0:  # told as a share of what it is, as the figure itself is a ratio
        q = Quantity.SHARE
        found = [(size / value, effect, moved / value, band / value) for size, effect, moved, band in found]
        top /= value
    # as many decimals as the greatest of them needs to be read
    extra = next((e for e in range(3) if any(c in "123456789" for c in number_text(top, q, system, extra=e))), 2)
    seen = [item for item in found if any(c in "123456789" for c in number_text(item[0], q, system, extra=extra))]
    for size, effect, moved, band in seen[:most]:
        lever = levers[effect.lever]
        better = {Better.MORE: 1.0, Better.LESS: -1.0}.get(definition.better, 0.0)
        word = definition.more if moved > 0 else definition.less
        held = f" Held meanwhile: {', '.join(effect.held)}." if effect.held else ""
        rows.append(
            Buy(
                effect.lever,
                f"{lever.label} {signed(lever.step, lever.quantity, system)}",
                signed(moved, q, system, extra=extra),
                size / top * math.copysign(1.0, moved) * (better or 1.0),
                f"{lever.label} {signed(lever.step, lever.quantity, system)}: "
                f"{number_text(size, q, system, extra=extra)} {unit_of(q, system).sign} {word}, "
                f"±{text(band, q, system, extra=extra)} of difference.{held} {lever.explains}",
                bool(better),
            )
        )
    return rows


def _twice(told: set[tuple[str, float]], item: tuple[float, LeverEffect, float, float]) -> bool:
    """Whether another line of the same rocker end did exactly this already."""
    mark = (item[1].lever.partition("_rocker")[0], round(item[2], 9))
    before = "_rocker" in item[1].lever and mark in told
    told.add(mark)
    return before


def target_words(verdicts: tuple[Verdict, ...], figures: Figures, system: System) -> str:
    """What the brief asks of a phase, and how each stands, a line each."""
    lines = []
    for v in verdicts:
        figure = figures.get(v.target.figure)
        if figure is None:
            continue
        q = figure.definition.quantity
        asked = text(v.asked, q, system)
        outcome = f"short by {text(abs(v.margin), q, system)}" if v.outcome.value == "short" else v.outcome.value
        wish = ", a wish" if v.target.wish else ""
        lines.append(f"{figure.definition.label} {v.target.relation} {asked}{wish}: {outcome}")
    return "\n".join(lines)


def range_chart(
    definition: FigureDefinition,
    points: tuple[SweepPoint, ...],
    pinned: tuple[SweepPoint, ...],
    at: float,
    system: System,
    windy: bool,
) -> tuple[Chart | None, Chart | None]:
    """A figure over the brief's range, for this board and the pinned one; None where it has no value there."""

    def chart(sweep: tuple[SweepPoint, ...]) -> Chart | None:
        good = [
            (v, *f[definition.key])
            for v, f in sweep
            if definition.key in f and f[definition.key][2] and math.isfinite(f[definition.key][0])
        ]
        if len(good) < 2:
            return None
        x, y, band = (np.array([g[i] for g in good]) for i in range(3))
        return Chart(
            definition.label,
            "",
            "wind, kn" if windy else "speed, kn",
            Quantity.SPEED,
            unit_of(definition.quantity, system).sign,
            definition.quantity,
            (ChartLine(definition.label, "now", x, y, band),),
            (ChartMark(at, f"{at / KNOT:.1f} kn"),),
            from_zero=False,
        )

    return chart(points), chart(pinned)


def quiver_rows(quiver: tuple[GearWind, ...], brief: Brief, system: System) -> list[Row]:
    """Which gear for which wind."""
    rows = []
    height = text(brief.wind.height, Quantity.HEIGHT, system)
    group = None
    for gear in quiver:
        if gear.with_ != group:
            group = gear.with_
            rows.append(Row("", group or f"Wind at {height}, {brief.wind.kind}"))
        least = text(gear.least, Quantity.SPEED, system) if math.isfinite(gear.least) else "not below 40 kn"
        most = f"to about {text(gear.most, Quantity.SPEED, system, extra=-1)}" if math.isfinite(gear.most) else ""
        if gear.note.startswith("least drag"):
            most = "best " + gear.note.partition("from ")[2].replace(" to ", "–")
        tip = (
            gear.note
            or f"From {least} ±{number_text(gear.band, Quantity.SPEED, system)}; upward it ends where half its "
            f"greatest force is more than you hold."
        )
        rows.append(
            Row(
                f"{gear.gear}|{gear.with_}",
                gear.gear,
                f"from {least}" if math.isfinite(gear.least) else least,
                most,
                tip=tip,
            )
        )
    return rows


def gear_name(brief: Brief) -> str:
    """What drives the discipline, as a field's label."""
    return {"hand wing": "Wing", "sail": "Sail", "kite": "Kite"}.get(RIGS.get(brief.discipline, ""), "")


def has_foils(brief: Brief) -> bool:
    """Whether a foil is chosen in this discipline."""
    return brief.discipline in FOILING
