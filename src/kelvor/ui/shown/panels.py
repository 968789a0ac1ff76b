"""What the panels show: plain rows and tiles."""

from __future__ import annotations

import math

from kelvor.core.base.figures import (
    Figure,
    FigureDefinition,
    Figures,
    band_text,
    band_words,
    by_key,
    difference_band,
    difference_words,
    ranked_words,
    told_apart,
    value_words,
)
from kelvor.core.base.findings import Finding, Severity
from kelvor.core.base.units import Quantity, System, inside, number_text, said_in, text
from kelvor.core.evaluation.book import BOOK, RIDDEN
from kelvor.core.evaluation.evaluation import Evaluation
from kelvor.core.evaluation.live import Live
from kelvor.core.evaluation.verdicts import Verdict, judge_target
from kelvor.core.levers.catalogue import GROUPS, levers, levers_at
from kelvor.core.levers.lever import Lever
from kelvor.core.ride.shared_phases import Phase
from kelvor.core.shape.board import Board
from kelvor.core.tank.laws.coefficients import ABOUT
from kelvor.ui.shown.lever_effects import Does
from kelvor.ui.shown.shown import Row, Tile
from kelvor.ui.shown.wording import verdict_words


def ledger_rows(
    figures: Figures, pinned: Figures, system: System, remarks: dict[str, str], renewing: frozenset[str] = frozenset()
) -> list[Row]:
    """The ledger: figures now, and what they mean against the pinned step; of those being renewed, that they are."""
    rows = []
    for definition in BOOK:
        key = definition.key
        figure = figures.get(key)
        if figure is None:
            continue
        d, then = figure.definition, pinned.get(key)
        shown = ranked_words(figure, then) if d.ranks else value_words(figure, system)
        aside = "renewing" if key in renewing else difference_words(figure, then, system, size=not d.ranks)
        rows.append(
            Row(
                key,
                d.label,
                shown,
                aside,
                renewing=key in renewing,
                struck=not figure.valid,
                mark="!" if key in remarks else "",
                tip=said_in(remarks.get(key, figure.note), system),
            )
        )
    return rows


def tiles(
    evaluation: Evaluation,
    live: Live,
    figures: Figures,
    behind: bool,
    pinned: Figures,
    pinned_name: str,
    system: System,
) -> list[Tile]:
    """The ride strip from all `figures`. Those of the live path are the newest; float and ride may lag `behind` and are
    then marked.
    """
    fresh = by_key(live.figures)
    found = []
    for result in evaluation.phases:
        phase = result.phase
        speaks = result.speaks
        if speaks is not None:
            speaks = judge_target(speaks.target, figures, live.brief)
        head = figures.get(phase.headline)
        stale = phase.headline not in fresh and (evaluation.live is not live or (behind and phase.headline in RIDDEN))
        asked = speaks.target.figure if speaks else ""
        # centimetres to spare say nothing beside a headline in newtons
        verdict = verdict_words(speaks, _quantity(asked, figures), system, spare=asked == phase.headline)
        found.append(
            Tile(
                phase.key,
                phase.name,
                "counting" if head is None else _headline(head, pinned, pinned_name, system),
                "" if head is None else _difference(head, pinned, system),
                _lines(phase, figures, system),
                said_in(result.words, system) if result.missed else verdict or "no target",
                "short" if result.missed else speaks.outcome.value if speaks else "none",
                stale or head is None,
                f"{phase.question}{_asked(speaks, figures, system)}",
            )
        )
    return found


def _asked(speaks: Verdict | None, figures: Figures, system: System) -> str:
    """The target whose verdict a tile says, as a sentence after its question."""
    figure = figures.get(speaks.target.figure) if speaks is not None else None
    if speaks is None or figure is None:
        return ""
    d = figure.definition
    return f" The brief asks: {d.label} {speaks.target.relation} {text(speaks.asked, d.quantity, system)}."


def _lines(phase: Phase, figures: Figures, system: System) -> tuple[str, ...]:
    """The first two supporting figures that have a value, or say why not."""
    there = [figures[key] for key in phase.supporting if key in figures]
    return tuple(_line(f, system) for f in sorted(there, key=lambda f: not (f.exists and f.valid))[:2])


def _difference(figure: Figure, pinned: Figures, system: System) -> str:
    """The headline's difference; where the headline is a ratio already, only what it means."""
    return difference_words(figure, pinned.get(figure.key), system, size=not figure.definition.ratio)


def _quantity(key: str, figures: Figures) -> Quantity:
    return figures[key].definition.quantity if key in figures else Quantity.RATIO


def _headline(figure: Figure, pinned: Figures, pinned_name: str, system: System) -> str:
    if not figure.exists or not figure.valid:
        return "no figure here" if figure.exists or figure.key in RIDDEN else "not for this board"
    known = pinned.get(figure.key)
    d = figure.definition
    if d.ranks and (known is None or not known.valid or not pinned_name):
        return "ranks only: set a reference"
    if d.ratio and known is not None and known.exists and known.value > 0 and pinned_name:
        return f"{d.ratio} {number_text(figure.value / known.value, Quantity.RATIO, system)} × {pinned_name}"
    coarse = -1 if figure.key.startswith("float") else 0  # a band of centimetres bears no millimetres
    shown = text(abs(figure.value) if d.head_below else figure.value, d.quantity, system, extra=coarse)
    return (d.head_below if d.head_below and figure.value < 0 else d.head).format(shown)


def _line(figure: Figure, system: System) -> str:
    if not figure.exists or not figure.valid:
        return f"{figure.definition.label}: {said_in(figure.note, system) or 'not for this board'}"
    q = figure.definition.quantity
    value = figure.value / 2 if figure.key == "float_knee_window" else figure.value
    if figure.key == "deck_clears_speed" and value <= 0:
        return "deck dry at rest"
    d = figure.definition
    if value < 0 and d.short_below:
        return d.short_below.format(text(-value, q, system))
    return (d.short or d.label[0].lower() + d.label[1:] + " {}").format(text(value, q, system))


def lever_rows(
    live: Live, system: System, locked: frozenset[str], station: float | None = None, does: Does | None = None
) -> tuple[list[Row], dict[str, Lever]]:
    """Levers in groups, each with its value and what it does, those of the station cursor among them; and the levers by
    key.
    """
    rows: list[Row] = []
    board, figures = live.board, by_key(live.figures)
    whole = levers(board)
    here = levers_at(station) if station is not None else ()
    read = {} if station is None else _read_at(live, station)
    found = {lever.key: lever for lever in sorted((*whole, *here), key=lambda lever: GROUPS.index(lever.group))}
    group = ""
    for lever in found.values():
        if lever.group != group:
            group = lever.group
            rows.append(Row("", group, heads=does.heads if does is not None else ""))
        shown = lever_value(lever, board, system, figures, read.get(lever.key))
        tip = lever.explains if does is None else f"{lever.explains} {does.words(lever, system)}".strip()
        cells = does.cells(lever.key) if does is not None else ()
        rows.append(
            Row(lever.key, lever.label, shown, mark="lock" if lever.key in locked else "", tip=tip, cells=cells)
        )
    return rows, found


def _read_at(live: Live, station: float) -> dict[str, float]:
    """Heights at the cursor off the geometry that is there already."""
    measured = live.geometry
    lines = {"at.keel": measured.keel_line, "at.mid": measured.mid_line, "at.rail": measured.rail_line}
    return {key: measured.at(line, station) for key, line in lines.items()}


def lever_value(lever: Lever, board: Board, system: System, figures: Figures, read: float | None = None) -> str:
    """A lever's value with its unit, `read` already or off its figure where there is one."""
    value = read if read is not None else figures[lever.figure].value if lever.figure in figures else lever.read(board)
    if lever.choices and math.isfinite(value):
        return lever.choices[round(value)]
    if lever.key == "rails.apex":
        below = round(value * 100)
        return f"{100 - below}/{below}"
    return text(value, lever.quantity, system)


def _by_weight(findings: tuple[Finding, ...]) -> list[Finding]:
    return sorted(findings, key=lambda f: f.severity is not Severity.WARNING)


def finding_remark(findings: tuple[Finding, ...], system: System) -> str:
    """What to look at: the first warning in full, or the first note, and how many more there are."""
    if not findings:
        return ""
    first, *rest = _by_weight(findings)
    more = f"  (and {len(rest)} more: F4)" if rest else ""
    lead = "" if first.severity is Severity.WARNING else "Note: "
    return said_in(f"{lead}{first.text}. {first.advice}{more}", system)


def finding_lines(findings: tuple[Finding, ...], system: System) -> list[tuple[str, float | None]]:
    """Each finding in words, warnings first: what, where, what would do; and its place [m from the tail]."""
    lines = []
    for found in _by_weight(findings):
        mark = "!" if found.severity is Severity.WARNING else "Note:"
        told = found.place is None or " cm" in found.text  # most say their place themselves
        where = (
            "" if told or found.place is None else f" At {text(found.place, Quantity.LENGTH, system)} from the tail."
        )
        lines.append(
            (f"{mark} {said_in(found.text, system)}.{where} {said_in(found.advice, system)}".strip(), found.place)
        )
    return lines


def _left_open(figure: Figure, system: System) -> str:
    """The coefficients whose own bands leave most of a figure open, in words."""
    largest = sorted(figure.moves, key=lambda move: -abs(move[1]))[:3]
    quantity = figure.definition.quantity
    told = [(ABOUT[key], band_text(abs(by), quantity, system)) for key, by in largest]
    return "; ".join(f"{about.group.lower()}, {inside(about.label)} {by}" for about, by in told)


def _by_method(definition: FigureDefinition, system: System) -> str:
    """What a figure's method leaves open, such as “12 % of it and ±10 N”."""
    shares = [f"{definition.band_share * 100:.0f} % of it"] if definition.band_share else []
    least = [band_text(definition.band_least, definition.quantity, system)] if definition.band_least else []
    return " and ".join(shares + least)


def why(
    figure: Figure, system: System, remark: str = "", claim: str = "", then: Figure | None = None, name: str = ""
) -> list[tuple[str, str]]:
    """Why a figure is what it is, and how surely it parts from `then`, the figure of the board called `name`: (heading,
    words) pairs.
    """
    d = figure.definition
    counted = f"{value_words(figure, system, extra=1)}, {band_words(figure, system)}"
    lines = [(d.label, "as a ratio to another board" if d.ranks else counted)]
    if not figure.valid:
        lines.append(("Not valid here", said_in(figure.note or d.method.limits, system)))
    elif figure.note:
        lines.append(("Condition", said_in(figure.note, system)))
    gap = "" if d.ranks else difference_words(figure, then, system, size=True)
    if then is not None and gap and gap != "same" and not (figure.counting or then.counting):
        told = band_text(difference_band(figure, then), d.quantity, system)
        apart = "" if told_apart(figure, then) else ": not to be told apart"
        lines.append((f"Against {name}", f"{gap}, {told}{apart}"))
    if figure.moves:
        lines.append(("Left open most by", _left_open(figure, system)))
    lines += [("Method", d.method.name), ("Source", d.method.source)]
    if d.band_share or d.band_least:
        lines.append(("It leaves open", f"at least {_by_method(d, system)} (judgement)"))
    if d.ranks:
        lines.append(("Ranks only", f"never read it alone; the bare number behind the ratio is {counted}"))
    if figure.origin != "computed":
        lines.append(("Origin", figure.origin))
    if d.method.limits:
        lines.append(("Holds for", said_in(d.method.limits, system)))
    if figure.inputs:
        lines.append(("From", said_in("; ".join(f"{name} {value}" for name, value in figure.inputs), system)))
    if remark:
        lines.append(("Check value", said_in(remark, system)))
    if claim:
        lines.append(("Claim", said_in(claim, system)))
    if d.school:
        lines.append(("Schools", d.school))
    return lines
