"""Families in words: rules, sizes, what was changed by hand, what is offered."""

from __future__ import annotations

import re
from collections.abc import Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import Quantity, System, inside, parse, text
from kelvor.core.base.values import frozen
from kelvor.core.family.measures import GROUPS, quantity_about, words_about
from kelvor.core.family.size_state import SizeState
from kelvor.core.family.sizing import Obeyed
from kelvor.core.family.stretch import WORDS
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.locks import Change
from kelvor.core.register.kinds.family import Law, SizeRule
from kelvor.core.ride.shared_phases import Phase
from kelvor.core.shape.board import Board

RULE_HEADS = ("Measure", "Follows", "Why")
SIZE_HEADS = ("Size", "Rider", "Length", "Width", "Litres", "Planform", "Flat", "1 ft off tail", "How it stands")
SIZE_LEVERS = ("length", "width", "volume", "planform_area", "ruler", "width_1ft_tail")
LAW_WORDS: dict[Law, str] = {
    "with weight": "the rider's weight",
    "with length": "the length",
    "with width": "the width",
    "per 10 kg": "so much for 10 kg",
    "stays": "nothing: it stays",
}
CAUTION = (
    "A size has its own rider, rocker flat and cut-outs. The rules are common practice, no source: each can be changed."
)


def rule_cells(rule: SizeRule, board: Board, system: System) -> tuple[str, str, str]:
    """A rule in the table."""
    return words_about(board, rule.about), follows_words(rule, quantity_about(board, rule.about), system), rule.why


def follows_words(rule: SizeRule, quantity: Quantity, system: System) -> str:
    """What a measure follows."""
    if rule.law == "stays":
        return "stays"
    if rule.law == "per 10 kg":
        return f"{rule_amount_words(rule, quantity, system)} for 10 kg"
    return f"{rule.law.removeprefix('with ')}, power {rule.amount:.2f}"


def rule_amount_words(rule: SizeRule, quantity: Quantity, system: System) -> str:
    """A rule's amount as it is typed."""
    if rule.law == "stays":
        return ""
    if rule.law != "per 10 kg":
        return f"{rule.amount:.2f}"
    sign = "−" if rule.amount < 0 else "+"
    return f"{sign}{text(abs(rule.amount), quantity, system, extra=1)}"


def amount_of(law: Law, words: str, quantity: Quantity, system: System) -> float:
    """A rule's amount as somebody typed it.

    Raises
    ------
    InputError
        When it cannot be read.
    """
    if law == "stays":
        return 0.0
    typed = words.strip().replace("−", "-")
    if law == "per 10 kg":
        sign = -1.0 if typed.startswith("-") else 1.0
        return sign * parse(typed.lstrip("+-").strip(), quantity, system)
    try:
        return float(typed.replace(",", "."))
    except ValueError:
        raise InputError(f"“{words.strip()[:40]}” is no power", where="rule", accepts="Such as 0.40") from None


def rider_words(mass: float, system: System) -> str:
    """A rider's mass, no finer than it matters: 52.5 kg, 60 kg."""
    shown = text(mass, Quantity.MASS, system)
    number, _, unit = shown.partition(" ")
    short = f"{float(number.replace(' ', '')):.1f}".removesuffix(".0")
    return f"{short} {unit}"


def masses_of(words: str, system: System) -> list[float]:
    """Riders' masses as somebody typed them: “50, 60 70 kg; 85”. A unit that is written counts for all that carry none.

    Raises
    ------
    InputError
        Naming the one that cannot be read.
    """
    joined = re.sub(r"(?<=\d)\s*(kg|lb)s?\b", r"\1", words.strip())
    parts = [part for part in re.split(r"[;,\s]+", joined) if part]
    written = {part[-2:] for part in parts if part.endswith(("kg", "lb"))}
    unit = written.pop() if len(written) == 1 else ""
    found = [parse(f"{part}{unit}" if part[-1].isdigit() else part, Quantity.MASS, system) for part in parts]
    for mass in found:
        if not 15 <= mass <= 250:
            raise InputError(f"{rider_words(mass, system)} is no rider", where="Sizes", accepts="Give 15 to 250 kg")
    return found


def size_cells(name: str, mass: float, board: Board, stands: str, system: System) -> tuple[str, ...]:
    """A size in the table."""
    there = {lever.key: lever for lever in levers(board)}
    cells = [text(there[key].read(board), there[key].quantity, system) if key in there else "–" for key in SIZE_LEVERS]
    return (name, rider_words(mass, system), *cells, stands)


@frozen
class Stands:
    """How a size stands: in a few words for the table, and in sentences below it; whether to warn."""

    short: str
    long: str
    warns: bool = False


def stands(state: SizeState | None, refused: bool, system: System) -> Stands:
    """How a size stands."""
    if state is None:
        return Stands("being looked at…", "")
    if state.problem:
        return Stands("cannot be told", state.problem, True)
    short, parts = [], []
    missed = [row for row in state.obeyed if not row.met and (row.refused or not state.by_hand)]  # the hand's is told
    if state.offer is not None and not refused:
        short.append(f"{_count(len(state.changes), 'change')} offered")
        parts.append(f"Parent or rules changed. Taking it gives: {changes_words(state.changes, system)}.")
    elif state.offer is not None:
        parts.append("Left as it is when its parent or the rules changed.")
    if state.by_hand:
        short.append("changed by hand")
        parts.append(f"Changed by hand: {changes_words(state.by_hand, system)}.")
    if missed:
        parts.append(f"Not by the rules: {'; '.join(missed_words(row, system) for row in missed[:6])}.")
    apart = state.stretch
    if apart is not None and apart.only:
        short.insert(0, "only a stretch")
        parts.insert(0, stretch_words(state, system))
    elif apart is not None:
        parts.append(f"No mere stretch: {', '.join(WORDS[group] for group in apart.worked_on)} differ in form.")
    if not short:
        short.append("by the rules" if not missed else f"{len(missed)} not by the rules")
    return Stands(", ".join(short), " ".join(parts), bool(apart and apart.only))


def ride_words(phases: Sequence[Phase], mine: Figures, parents: Figures, system: System) -> str:
    """What leads each phase, under the size's own rider, and on the parent under the parent's."""
    told = []
    for phase in phases:
        here, there = mine.get(phase.headline), parents.get(phase.headline)
        if here is None or there is None or not (here.exists and here.valid and there.exists and there.valid):
            continue
        definition = here.definition
        if definition.ranks:
            reading = f"{here.value / there.value:.2f} × the parent" if there.value else "–"
        else:
            own, parent = (text(figure.value, definition.quantity, system) for figure in (here, there))
            reading = f"{own} (parent {parent})"
        told.append(f"{phase.name.lower()}: {inside(definition.label)} {reading}")
    return f"Under its own rider, {'; '.join(told)}." if told else ""


OBEYED_HEADS = ("Measure", "By the rule", "Reads", "On the parent")


def obeyed_rows(state: SizeState | None, system: System) -> list[tuple[str, ...]]:
    """What each ruled measure of a size should read and reads, a mark where they part."""
    rows: list[tuple[str, ...]] = []
    for row in state.obeyed if state is not None else ():
        quantity = row.measure.quantity
        wanted, got, parent = (text(value, quantity, system) for value in (row.wanted, row.got, row.parent))
        rows.append((row.measure.told, wanted, got if row.met else f"{got}  ≠", parent))
    return rows


def stretch_words(state: SizeState, system: System) -> str:
    """Why a size is only its parent stretched, with the ratios that went wrong."""
    apart = state.stretch
    assert apart is not None
    scaled = (("length", "length"), ("outline", "width"), ("thickness", "thickness"))
    factors = ", ".join(f"{words} × {apart.factors[key]:.3f}" for key, words in scaled)
    wrong = [row for row in state.obeyed if not row.met and row.parent]
    ratios = "; ".join(
        f"{inside(row.measure.told)} is {row.got / row.parent:.3f} of the parent's, by the rules "
        f"{row.wanted / row.parent:.3f}"
        for row in wrong[:4]
    )
    told = f" What went wrong: {ratios}." if ratios else ""
    return f"Only its parent stretched ({factors}): no line was worked on.{told}"


def missed_words(row: Obeyed, system: System) -> str:
    """A measure that is not what its rule says."""
    quantity = row.measure.quantity
    why = f" ({row.refused.rstrip('.')})" if row.refused else ""
    got, wanted = text(row.got, quantity, system), text(row.wanted, quantity, system)
    return f"{inside(row.measure.told)} {got}, by the rule {wanted}{why}"


def changes_words(changes: Sequence[Change], system: System, most: int = 6) -> str:
    """What changed, one after the other."""
    told = [reading_change_words(change, system) for change in changes[:most]]
    more = len(changes) - most
    return "; ".join(told) + (f"; and {more} more" if more > 0 else "")


def reading_change_words(change: Change, system: System) -> str:
    """A change from one reading to another."""
    label = inside(change.label)
    if change.before is None and change.after is None:
        return label
    if change.before is None or change.after is None:
        return f"{label} {'added' if change.before is None else 'taken off'}"
    return f"{label} {text(change.before, change.quantity, system)} → {text(change.after, change.quantity, system)}"


def _count(n: int, thing: str) -> str:
    return f"{n} {thing}{'s' if n != 1 else ''}"


def measures_to_add(board: Board, rules: Sequence[SizeRule]) -> list[tuple[str, str]]:
    """What a rule could still be about: key and words, groups first."""
    ruled = {rule.about for rule in rules}
    rows = [(key, group.words) for key, group in GROUPS.items() if key not in ruled and group.keys(board)]
    grouped = {key for group in GROUPS.values() for key in group.keys(board)}
    rows += [
        (lever.key, lever.told)
        for lever in levers(board)
        if lever.key not in ruled and lever.key not in grouped and not lever.choices
    ]
    return rows
