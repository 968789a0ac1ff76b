"""What the sheet of readings shows: its cells as text, what they say, and how a board follows them."""

from __future__ import annotations

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, System, number_text, parse, text, unit_of
from kelvor.core.base.values import frozen
from kelvor.core.new_board.readings import TAPE_PLACES, FromReadings, Reading

COLUMNS: tuple[tuple[str, str, Quantity], ...] = (
    ("x", "From tail", Quantity.LENGTH),
    ("width", "Width", Quantity.LENGTH),
    ("rocker", "Rocker, keel", Quantity.DEPTH),
    ("rail", "Rocker, rail", Quantity.DEPTH),
    ("thickness", "Thickness", Quantity.LENGTH),
)
"""Field of a reading, heading, and quantity."""
_LINE_WORDS = {"width": "widths", "rocker": "rocker", "rail": "rail line", "thickness": "thickness"}


@frozen
class WrongCell:
    """A cell that cannot be read, and why."""

    row: int
    column: int
    words: str


def headings(system: System) -> list[str]:
    """Column headings with their unit."""
    return [f"{words}\n{unit_of(quantity, system).sign}" for _, words, quantity in COLUMNS]


def tape_rows(length: float) -> tuple[Reading, ...]:
    """Nine empty readings where tape and caliper are laid on."""
    return tuple(Reading(round(share * length, 3)) for share in TAPE_PLACES)


def cells_of(readings: tuple[Reading, ...], system: System) -> list[list[str]]:
    """Readings as rows of text."""
    rows = []
    for reading in readings:
        values = [(getattr(reading, field), quantity) for field, _, quantity in COLUMNS]
        rows.append(["" if v is None else number_text(v, q, system, extra=1) for v, q in values])
    return rows


def readings_of(rows: list[list[str]], system: System) -> tuple[Reading, ...] | WrongCell:
    """The readings that the cells say, or the first cell that cannot be read; rows without a value are left out."""
    found: list[Reading] = []
    for i, cells in enumerate(rows):
        if not any(cell.strip() for cell in cells[1:]):
            continue
        values: dict[str, float] = {}
        for j, (cell, (field, words, quantity)) in enumerate(zip(cells, COLUMNS, strict=True)):
            if not cell.strip():
                if field == "x":
                    return WrongCell(
                        i, j, f"Row {i + 1} has values and no place. Say how far from the tail it was read."
                    )
                continue
            try:
                values[field] = parse(cell, quantity, system)
            except InputError as error:
                return WrongCell(i, j, f"Row {i + 1}, {words.lower()}: {error}")
        found.append(Reading(**values))
    return tuple(found)


def follow_words(result: FromReadings, system: System) -> str:
    """How well the board follows what was read."""
    parts = [
        f"{_LINE_WORDS[m.line]} within {text(m.gap, Quantity.DEPTH, system, extra=1)} of {m.read} readings"
        for m in result.misses
    ]
    return ". ".join((f"Follows {', '.join(parts)}" if parts else "Nothing read yet", *result.notes)) + "."
