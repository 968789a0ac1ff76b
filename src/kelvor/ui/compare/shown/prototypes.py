"""Prototypes in words: the columns of their table, and the limits that verdicts point to."""

from __future__ import annotations

from collections.abc import Sequence
from math import isfinite

from kelvor.core.base.figures import FigureDefinition
from kelvor.core.base.units import System, inside, text
from kelvor.core.base.values import frozen
from kelvor.core.compare.prototypes import LimitSeen, Prototype
from kelvor.ui.rack.shown.rack import MARKS

MOST_FIGURES = 24
"""So many of the figures that tell boards apart have a column."""


@frozen
class Column:
    """A column: its heading, and the figure it shows or the words it tells."""

    words: str
    figure: FigureDefinition | None = None
    told: str = ""


def columns(boards: Sequence[Prototype], figures: tuple[FigureDefinition, ...]) -> tuple[Column, ...]:
    """Name and verdict, the figures that differ, then what was measured, felt and claimed; columns that say nothing, or
    the same of all, are left out.
    """
    found = [Column("Board", told="name")]
    for told, words in (("verdict", "Decided"), ("why", "Why")):
        if any(getattr(b, told) for b in boards):
            found.append(Column(words, told=told))
    found += [Column(f"{f.label}, computed" if f.key == "board_mass" else f.label, f) for f in figures[:MOST_FIGURES]]
    for told, words in (("measured", "Measured"), ("felt", "Felt"), ("claimed", "Claimed")):
        if any(getattr(b, told) for b in boards):
            found.append(Column(words, told=told))
    for heading in ("Rider", "Gear", "Wind"):
        if len({b.under.get(heading, "") for b in boards}) > 1:
            found.append(Column(heading, told=f"under.{heading}"))
    return tuple(found)


def row_cells(board: Prototype, shown: Sequence[Column], system: System) -> list[str]:
    """A board's cells."""
    cells = []
    for column in shown:
        if column.figure is not None:
            value = board.figures.get(column.figure.key, float("nan"))
            cells.append(text(value, column.figure.quantity, system) if isfinite(value) else "–")
        elif column.told.startswith("under."):
            cells.append(board.under.get(column.told[6:], ""))
        elif column.told == "verdict":
            cells.append(MARKS[board.verdict] if board.verdict is not None else "")
        else:
            cells.append(str(getattr(board, column.told)))
    return cells


def small_words(board: Prototype, figure: FigureDefinition | None, system: System) -> str:
    """The line below a board's small picture."""
    value = board.figures.get(figure.key, float("nan")) if figure is not None else float("nan")
    shown = text(value, figure.quantity, system) if figure is not None and isfinite(value) else ""
    mark = MARKS[board.verdict].lower() if board.verdict is not None else ""
    return " · ".join(part for part in (shown, mark) if part)


BEHIND = "Dashed behind each: the board on the bench. All to one scale."


def clearest_limit_words(found: Sequence[LimitSeen], boards: Sequence[Prototype], here: str, system: System) -> str:
    """The clearest limit that verdicts point to, and whether the board on the bench lies past it."""
    if not found:
        return ""
    first = found[0]
    at = text(first.at, first.definition.quantity, system)
    label = inside(first.definition.label)
    where = f"from {at} up" if first.past > 0 else f"from {at} down"
    why = f" ({'; '.join(first.reasons[:2])})" if first.reasons else ""
    words = (
        f"So far all {first.dropped} that were dropped have their {label} {where}{why}, "
        f"all {first.kept} that were kept do not. Boards differ in more than this."
    )
    mine = next((b.figures.get(first.definition.key, float("nan")) for b in boards if b.key == here), float("nan"))
    past = isfinite(mine) and first.past * (mine - first.at) >= 0
    return f"{words} The board on the bench lies past it." if past else words
