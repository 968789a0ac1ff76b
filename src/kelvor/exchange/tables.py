"""Tables of text for spreadsheets, in files and on the clipboard: what begins like a formula is text there too."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Sequence
from pathlib import Path

FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""How a cell begins that a spreadsheet would count."""


def plain_cell(words: str) -> str:
    """A cell that no spreadsheet counts: an apostrophe before what begins like a formula and is no number."""
    if not words.startswith(FORMULA):
        return words
    try:
        float(words.replace("\u202f", "").replace(",", ".").replace("−", "-"))
    except ValueError:
        return f"'{words}"
    return words


def write_table(rows: Iterable[Sequence[str]], path: Path) -> None:
    """Rows as CSV; raises OSError where the file cannot be written."""
    with open(path, "w", newline="", encoding="utf-8") as file:
        csv.writer(file).writerows([plain_cell(cell) for cell in row] for row in rows)
