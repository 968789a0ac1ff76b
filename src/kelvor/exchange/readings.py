"""Offset tables in CSV: what was read along a board, one row a station, each column with its unit."""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass
from pathlib import Path

from kelvor.core.errors import InputError
from kelvor.core.starting.readings import Reading
from kelvor.core.units import FOOT, INCH
from kelvor.exchange.files import read_text

MOST_ROWS = 5000
_UNITS = {"mm": 1e-3, "cm": 1e-2, "m": 1.0, "in": INCH, "inch": INCH, "ft": FOOT}
_NAMES: dict[str, tuple[str, float]] = {
    "station": ("x", 1.0), "place": ("x", 1.0), "x": ("x", 1.0), "from tail": ("x", 1.0),
    "width": ("width", 1.0), "half width": ("width", 2.0),
    "rocker": ("rocker", 1.0), "keel": ("rocker", 1.0), "bottom": ("rocker", 1.0), "keel rocker": ("rocker", 1.0),
    "rail": ("rail", 1.0), "rail rocker": ("rail", 1.0), "bottom edge": ("rail", 1.0),
    "thickness": ("thickness", 1.0), "deck": ("deck", 1.0),
}  # fmt: skip
"""Columns we know: the reading each gives, and what it is multiplied by."""
_HEAD = re.compile(r"^(?P<name>[a-z ]+?)[ (\[]*(?P<unit>mm|cm|m|inch|in|ft)[)\]]?$")


@dataclass(frozen=True, slots=True)
class _Column:
    index: int
    reads: str
    factor: float
    words: str


def read_offsets(path: Path) -> tuple[float, tuple[Reading, ...]]:
    """Length [m] and readings of an offset table.

    The first row names the columns with their units, such as ``station mm, width mm,
    rocker mm, thickness mm``; fields are parted by commas, semicolons or tabs.

    Raises
    ------
    InputError
        With line and column of what cannot be read.
    """
    where = str(path)
    lines = [line for line in read_text(path).splitlines() if line.strip()]
    if len(lines) < 2:
        raise InputError("the table has no rows", where=where, accepts="Give a row of column names, then one row a station")
    if len(lines) > MOST_ROWS:
        raise InputError(f"the table has {len(lines)} rows", where=where, accepts=f"Up to {MOST_ROWS} are read")
    delimiter = max(",;\t", key=lines[0].count)
    rows = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter))
    columns = _columns(rows[0], where)
    found: list[Reading] = []
    for number, row in enumerate(rows[1:], 2):
        values: dict[str, float] = {}
        for column in columns:
            if column.index >= len(row) or not row[column.index].strip():
                continue
            raw = row[column.index].strip()
            try:
                values[column.reads] = float(raw.replace(",", ".") if delimiter != "," else raw) * column.factor
            except ValueError:
                raise InputError(f"“{raw[:30]}” is not a number", where=f"{where}, line {number}, column {column.words}",
                                 accepts="Give a number, or leave the field empty") from None  # fmt: skip
        if "x" not in values:
            raise InputError("this row has no station", where=f"{where}, line {number}", accepts="Give its place from the tail")
        deck = values.pop("deck", None)
        if deck is not None and "thickness" not in values and "rocker" in values:
            values["thickness"] = deck - values["rocker"]
        found.append(Reading(**values))
    ordered = sorted(found, key=lambda r: r.x)
    shift = min(0.0, ordered[0].x)
    length = ordered[-1].x - shift
    return length, thinned(tuple(ordered), length)


def _columns(names: list[str], where: str) -> list[_Column]:
    found: list[_Column] = []
    for index, raw in enumerate(names):
        words = " ".join(raw.strip().lower().replace("_", " ").split())
        match = _HEAD.match(words)
        name = match["name"].strip() if match else words
        if name not in _NAMES:
            continue
        if match is None:
            raise InputError(f"column “{raw.strip()}” does not say its unit", where=f"{where}, line 1",
                             accepts=f"Write it as “{raw.strip()} mm”, with mm, cm, m, in or ft")  # fmt: skip
        reads, factor = _NAMES[name]
        if any(column.reads == reads for column in found):
            raise InputError(f"column “{raw.strip()}” is given twice", where=f"{where}, line 1", accepts="Keep one of them")
        found.append(_Column(index, reads, factor * _UNITS[match["unit"]], raw.strip()))
    reads_all = [column.reads for column in found]
    if "x" not in reads_all or len(found) < 2:
        raise InputError("no column gives the station" if "x" not in reads_all else "only stations are given", where=f"{where}, line 1",
                         accepts="Known columns are station, width or half width, rocker, rail, thickness, deck, each with its unit")  # fmt: skip
    return found


def thinned(readings: tuple[Reading, ...], length: float, apart: float = 0.02) -> tuple[Reading, ...]:
    """Readings at least `apart` metres from one another, the ends kept: a table of hundreds says no more."""
    kept: list[Reading] = []
    for reading in readings:
        if not kept or reading.x - kept[-1].x >= apart - 1e-9:
            kept.append(reading)
        elif reading.x >= length - 1e-9:
            kept[-1 if len(kept) > 1 else 0] = reading
    return tuple(kept)
