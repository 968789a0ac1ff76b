"""What goes on the page that is handed over: what changed and why, what will be felt, overlays, and what each figure
means.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import RIGS
from kelvor.core.base.figures import Figures, value_words
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.curves import Datum, datum_slide, matching, section_at
from kelvor.core.compare.ledger import Difference
from kelvor.core.compare.phases import Apart, phases_apart
from kelvor.core.compare.words import NOT_FELT, apart_words, compared_change_words, label_words
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.surface.section_view import outline_ring

STATIONS = (0.15, 0.5, 0.8)
"""Sections are drawn at these shares of the reference's length."""
SHOWN = 4
"""So many figures of a phase stand on the page, the one that heads it first."""
OWN_WORDS = "computed"


@frozen(eq=False)
class ComparedBoard:
    """A board for the page.

    Attributes
    ----------
    name, stamp:
        What it is called, and which version of when.
    figures:
        All that was computed of it under the brief.
    verdict:
        What was decided of it and why, in words; nothing where nothing was.
    said:
        What was said or weighed of it: where that comes from (felt, claimed, measured, simulated; by whom), and the
        words.
    """

    live: Live
    name: str
    stamp: str = ""
    figures: Figures | None = None
    verdict: str = ""
    said: tuple[tuple[str, str], ...] = ()


@frozen(eq=False)
class OverlaidLines:
    """Lines of several boards over one another, to one scale: by board (x (n,), y (n,)) in metres, heights times
    `heights`.
    """

    title: str
    lines: tuple[tuple[Array, Array], ...]
    heights: float = 1.0


@frozen(eq=False)
class ComparisonPage:
    """A page, ready to be set.

    Attributes
    ----------
    boards:
        Names and stamps, the reference first.
    changes:
        By other board what of it would be felt: label, size and way.
    short:
        What heads each phase in a sentence, where boards can be told apart; then which phases tell nothing apart.
    phases:
        By other board the phases, each with its rows: figure, reference's value, other's value, difference in words.
    legend:
        Figures of the page: label, what it is and how it was found.
    """

    title: str
    boards: tuple[tuple[str, str], ...]
    under: str
    why: tuple[str, ...]
    changes: tuple[tuple[str, tuple[tuple[str, str, str], ...], int], ...]
    short: tuple[str, ...]
    phases: tuple[tuple[str, tuple[tuple[str, tuple[tuple[str, str, str, str], ...]], ...]], ...]
    said: tuple[tuple[str, str, str], ...]
    drawings: tuple[OverlaidLines, ...]
    legend: tuple[tuple[str, str], ...]


def page_of(
    reference: ComparedBoard,
    others: Sequence[ComparedBoard],
    ledgers: Sequence[list[Difference]],
    brief: Brief,
    *,
    datum: Datum = "tail",
    rider: bool = False,
    system: System = System.METRIC,
) -> ComparisonPage:
    """The page of a reference and the boards compared with it; rider and place stand on it only where `rider` is
    ticked.
    """
    boards = (reference, *others)
    laid = [0.0, *(datum_slide(reference.live, o.live, datum) or 0.0 for o in others)]
    phases, short = [], []
    legend: dict[str, list[str]] = {}
    for other in others:
        told = []
        alike = []
        for phase in phases_apart(brief.discipline, reference.figures or {}, other.figures or {}):
            shown = [apart for apart in phase.figures[:SHOWN] if _tells(apart)]
            for apart in shown:
                labels = legend.setdefault(_meaning(apart), [])
                labels += [label for label in (apart.figure.definition.label,) if label not in labels]
            if shown:
                told.append((phase.name, tuple(_row(apart, system) for apart in shown)))
                first = shown[0]
                if first.told:
                    label = first.figure.definition.label
                    words = f"{label[0].lower()}{label[1:]} {apart_words(first, system)[1]}"
                    short.append(f"{other.name}, {phase.name.lower()}: {words}")
                else:
                    alike.append(phase.name.lower())
        if alike:
            short.append(f"{other.name} and {reference.name} are not to be told apart in {', '.join(alike)}")
        phases.append((other.name, tuple(told)))
    return ComparisonPage(
        title=f"{reference.name} and {', '.join(o.name for o in others)}",
        boards=tuple((b.name, b.stamp) for b in boards),
        under=brief_words(brief, rider, system),
        why=tuple(f"{b.name} {b.verdict}" for b in boards if b.verdict),
        changes=tuple(_changes(o.name, found, system) for o, found in zip(others, ledgers, strict=True)),
        short=tuple(short),
        phases=tuple(phases),
        said=tuple((b.name, where, words) for b in boards for where, words in b.said),
        drawings=_drawings(boards, laid, datum, system),
        legend=tuple((", ".join(labels), meaning) for meaning, labels in legend.items()),
    )


def _tells(apart: Apart) -> bool:
    return all(f is not None and f.exists and f.valid for f in (apart.here, apart.there)) and not (
        apart.figure.definition.ranks and apart.here is None
    )


def _row(apart: Apart, system: System) -> tuple[str, str, str, str]:
    value, words = apart_words(apart, system)
    assert apart.here is not None
    own = "reference" if apart.figure.definition.ranks else value_words(apart.here, system)
    return apart.figure.definition.label, own, value, words


def _meaning(apart: Apart) -> str:
    definition = apart.figure.definition
    limits = f"; holds for {definition.method.limits}" if definition.method.limits else ""
    return f"{OWN_WORDS}, {definition.method.name}{limits}"


def _changes(name: str, found: list[Difference], system: System) -> tuple[str, tuple[tuple[str, str, str], ...], int]:
    felt = [d for d in found if d.felt >= NOT_FELT and not d.follows]
    rows = tuple((label_words(d), *compared_change_words(d, system)) for d in felt)
    return name, rows, sum(1 for d in found if d.felt < NOT_FELT)


def brief_words(brief: Brief, rider: bool, system: System) -> str:
    """Under what a board is looked at: discipline, gear and wind, and with `rider` who rides it where."""
    words: list[str] = [brief.discipline]
    if brief.wing is not None and brief.discipline in RIGS:
        words += [brief.wing.name, f"{text(brief.wind.speed, Quantity.SPEED, system)} of wind"]
    if brief.foil is not None:
        words.append(brief.foil.name)
    if rider:
        words += [f"{brief.rider.name}, {text(brief.rider.mass, Quantity.MASS, system)}"]
        words += [brief.place] if brief.place else []
    return ", ".join(words)


def _drawings(
    boards: Sequence[ComparedBoard], laid: Sequence[float], datum: Datum, system: System
) -> tuple[OverlaidLines, ...]:
    """Plan and side laid together at the datum, and sections at matching distances from it, keels together."""
    plan, side = [], []
    for board, slid in zip(boards, laid, strict=True):
        ring, shape = outline_ring(board.live.geometry.shape), board.live.geometry.shape
        plan.append((np.append(ring[:, 0], ring[0, 0]) + slid, np.append(ring[:, 1], ring[0, 1])))
        up = [board.live.geometry.above_base(shape.x, z) for z in (shape.keel, shape.deck)]
        around = np.concatenate([shape.x, shape.x[::-1], shape.x[:1]]) + slid
        side.append((around, np.concatenate([up[0], up[1][::-1], up[0][:1]])))
    found = [
        OverlaidLines(f"From above, laid together at the {datum}", tuple(plan)),
        OverlaidLines("From the side, heights three times", tuple(side), 3.0),
    ]
    own = boards[0].live
    for share in STATIONS:
        x = share * own.board.length
        lines = []
        for board, slid in zip(boards, laid, strict=True):
            half = section_at(board.live, matching(own, board.live, x, slid, by_share=False))
            whole = np.concatenate([half, half[::-1] * [-1.0, 1.0], half[:1]]) if len(half) else half
            lines.append((whole[:, 0], whole[:, 1]))
        found.append(
            OverlaidLines(f"Section {text(x, Quantity.LENGTH, system)} from the tail, keels together", tuple(lines))
        )
    return tuple(found)
