"""What riders say, and what candidates do about it, as the panel shows them."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.figures import Figures
from kelvor.core.base.units import System, inside, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.rider_says.saying import Group, Saying
from kelvor.core.rider_says.weighing import FigureMove, WeighedCandidate, is_about
from kelvor.core.water.trials.trial_records import Test
from kelvor.ui.shown.lever_effects import effect_words
from kelvor.ui.water.shown.trials import trial_headline


@frozen
class CandidateRow:
    """A candidate in the table: cells, and more of it below when it is chosen."""

    group: Group
    cells: tuple[str, str, str, str, str]
    more: str


HEADS = ("When", "Change", "For it", "Against", "Tried here")


def speaking(saying: Saying, figures: Figures, system: System) -> str:
    """Which figures of this board speak of a sentence, and what they read."""
    found = [figures[key] for key, _ in saying.wants if key in figures and figures[key].exists and figures[key].valid]
    if not found:
        return "Nothing computed speaks of it on this board: what follows is common practice only."
    told = "; ".join(
        f.definition.label.lower()
        if f.definition.ranks
        else f"{f.definition.label.lower()} {text(f.value, f.definition.quantity, system)}"
        for f in found[:4]
    )
    return f"What speaks of it: {told}."


def candidate_rows(
    candidates: Sequence[WeighedCandidate], tried: Sequence[tuple[int, int]], tests: Sequence[Test], system: System
) -> list[CandidateRow]:
    """The candidates in the order they are given, each group named once; with tests of this workshop about them."""
    rows: list[CandidateRow] = []
    for one, (times, kept) in zip(candidates, tried, strict=True):
        here = f"{times} times, {kept} kept" if times > 1 else ("once, kept" if kept else "once, not kept")
        first = not rows or rows[-1].group != one.group
        when, tried_here = one.group.capitalize() if first else "", here if times else ""
        cells = (when, fair_step_words(one, system), _for(one, system), _against(one, system), tried_here)
        rows.append(CandidateRow(one.group, cells, f"{_more(one, system)}{_tested(one, tests)}"))
    return rows


def fair_step_words(one: WeighedCandidate, system: System) -> str:
    """The change in words: a fair step of the lever, more or less."""
    sign = "+" if one.candidate.sign * one.lever.step > 0 else "−"
    return f"{one.lever.told} {sign}{text(abs(one.lever.step), one.lever.quantity, system)}"


def _for(one: WeighedCandidate, system: System) -> str:
    if one.refused:
        return "cannot be done here"
    if one.holds is None:
        return "nothing computed speaks for it"
    lead = "" if one.holds else "the other way here: "
    shown = next((m for m in one.speaks if m.helps is one.holds), one.speaks[0])
    return f"{lead}{_told(shown, system)}"


def _against(one: WeighedCandidate, system: System) -> str:
    lowered = [_name(m) for m in one.lowers]
    words = [f"less margin: {'; '.join(lowered)}"] if lowered else []
    words += [_told(m, system) for m in one.costs if all(m.figure.key != low.figure.key for low in one.lowers)][:2]
    return "\n".join(words)


def _more(one: WeighedCandidate, system: System) -> str:
    if one.refused:
        return f"{_sentence(one.candidate.why)} Here it is refused: {one.refused}"
    parts = [f"{_sentence(one.candidate.why)} (Common practice, no source.)"]
    every = dict.fromkeys(_told(m, system) for m in (*one.speaks, *one.lowers))
    moved = [
        f"{phase.name.lower()}: {_told(m, system)}{_better_or_worse(m)}" for phase, m in one.leads if m is not None
    ]
    still = [phase.name.lower() for phase, m in one.leads if m is None]
    if not every and not moved:
        return f"{parts[0]} A fair step moves nothing beyond its band here, in any phase."
    if every:
        parts.append(f"A fair step here: {'; '.join(every)}.")
    if moved:
        parts.append(f"By phase: {'; '.join(moved)}.")
    if still:
        parts.append(f"No effect beyond the band on {', '.join(still)}.")
    return " ".join(parts)


def _better_or_worse(moves: FigureMove) -> str:
    return "" if moves.helps is None else ", better" if moves.helps else ", worse"


def _tested(one: WeighedCandidate, tests: Sequence[Test]) -> str:
    told = [
        f"“{test.value.question}” {trial_headline(test.value, test.answer)}"
        + (" (simulated runs)" if test.simulated else "")
        for test in tests
        if is_about(one.lever, test.value.differs)
    ]
    return f" Tested here: {'; '.join(told)}." if told else ""


def _sentence(words: str) -> str:
    return f"{words[:1].upper()}{words[1:]}."


def _name(moves: FigureMove) -> str:
    return inside(BY_KEY[moves.figure.key].label)


def _told(moves: FigureMove, system: System) -> str:
    return f"{_name(moves)} {effect_words(moves.figure, moves.moved, moves.band, system)}"
