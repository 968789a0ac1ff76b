"""Offset tables in CSV: what was read along a board, one row a station, each column with its unit."""

from __future__ import annotations

import csv
import io
import json
import re
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import field_problems
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.snapshot import from_plain, to_plain
from kelvor.core.base.units import FOOT, INCH
from kelvor.core.base.values import frozen
from kelvor.core.new_board.readings import Reading
from kelvor.files import read_text

MOST_ROWS = 5000
READINGS_SCHEMA = "kelvor.readings/1"
_PLAIN = re.compile(r"[+-]?(\d{1,9}([.,]\d{0,40})?|[.,]\d{1,40})([eE][+-]?\d{1,2})?")
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


@frozen
class _Column:
    index: int
    reads: str
    factor: float
    words: str


@frozen
class ReadIn:
    """What a file says of a board: its length [m], readings along it, and what should be known about them."""

    length: float
    readings: tuple[Reading, ...]
    notes: tuple[str, ...] = ()


def readings_text(found: ReadIn) -> str:
    """Readings as a JSON document, in SI."""
    return json.dumps({"schema": READINGS_SCHEMA, **to_plain(found)}, indent=1, ensure_ascii=False)


def readings_of_text(text: str) -> ReadIn:
    """What :func:`readings_text` wrote."""
    data = json.loads(text)
    return from_plain(ReadIn, {key: data[key] for key in ("length", "readings", "notes")})


def read_offsets(path: Path) -> ReadIn:
    """Length [m] and readings of an offset table.

    The first row names the columns with their units, such as ``station mm, width mm,
    rocker mm, thickness mm``; fields are parted by commas, semicolons or tabs.

    Raises
    ------
    InputError
        With line and column of what cannot be read, or cannot be.
    """
    where = str(path)
    rows = _rows(read_text(path), where)
    columns = _columns(rows[0][1], where, rows[0][0])
    found: list[tuple[int, Reading]] = []
    for number, row in rows[1:]:
        values: dict[str, float] = {}
        for column in columns:
            raw = row[column.index].strip() if column.index < len(row) else ""
            if raw:
                values[column.reads] = _number(raw, f"{where}, line {number}, column {column.words}") * column.factor
        if "x" not in values:
            raise InputError(
                "this row has no station", where=f"{where}, line {number}", accepts="Give its place from the tail"
            )
        deck = values.pop("deck", None)
        if deck is not None and "thickness" not in values and "rocker" in values:
            values["thickness"] = deck - values["rocker"]
        reading = Reading(**values)
        for problem in field_problems(reading):
            raise InputError(
                f"{problem.words}: {problem.what}", where=f"{where}, line {number}", accepts=problem.accepts
            )
        found.append((number, reading))
    ordered = [reading for _, reading in sorted(found, key=lambda pair: pair[1].x)]
    length = ordered[-1].x - min(0.0, ordered[0].x)
    kept = spaced_readings(tuple(ordered), length)
    notes = (
        ()
        if len(kept) == len(ordered)
        else (f"{len(ordered)} rows, of which {len(kept)} at least 2 cm apart were taken",)
    )
    return ReadIn(length, kept, notes)


def _rows(text: str, where: str) -> list[tuple[int, list[str]]]:
    """The rows that say something, each with the number of its line."""
    first = next((line for line in text.splitlines() if line.strip()), "")
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=max(",;\t", key=first.count))
    rows: list[tuple[int, list[str]]] = []
    try:
        for row in reader:
            if any(field.strip() for field in row):
                rows.append((reader.line_num, row))
            if len(rows) > MOST_ROWS + 1:
                raise InputError(
                    f"the table has over {MOST_ROWS} rows", where=where, accepts=f"Up to {MOST_ROWS} are read"
                )
    except csv.Error as error:
        raise InputError(
            f"the table cannot be read ({one_line(str(error), 60)})",
            where=f"{where}, line {reader.line_num}",
            accepts="Give a row of column names, then one row a station",
        ) from None
    if len(rows) < 2:
        raise InputError(
            "the table has no rows", where=where, accepts="Give a row of column names, then one row a station"
        )
    return rows


def _number(raw: str, where: str) -> float:
    match = _PLAIN.fullmatch(raw)
    if match is None:
        raise InputError(
            f"“{one_line(raw, 30)}” is not a number",
            where=where,
            accepts="Give a number such as 1234.5, without signs between thousands, or leave the field empty",
        )
    return float(raw.replace(",", "."))


def _columns(names: list[str], where: str, line: int) -> list[_Column]:
    found: list[_Column] = []
    for index, raw in enumerate(names):
        words = " ".join(raw.strip().lower().replace("_", " ").split())
        match = _HEAD.match(words)
        name = match["name"].strip() if match else words
        if name not in _NAMES:
            continue
        if match is None:
            raise InputError(
                f"column “{raw.strip()}” does not say its unit",
                where=f"{where}, line {line}",
                accepts=f"Write it as “{raw.strip()} mm”, with mm, cm, m, in or ft",
            )
        reads, factor = _NAMES[name]
        if any(column.reads == reads for column in found):
            raise InputError(
                f"column “{raw.strip()}” is given twice", where=f"{where}, line {line}", accepts="Keep one of them"
            )
        found.append(_Column(index, reads, factor * _UNITS[match["unit"]], raw.strip()))
    reads_all = [column.reads for column in found]
    if "x" not in reads_all or len(found) < 2:
        raise InputError(
            "no column gives the station" if "x" not in reads_all else "only stations are given",
            where=f"{where}, line {line}",
            accepts="Known columns are station, width or half width, rocker, rail, thickness, deck, each with its unit",
        )
    return found


def spaced_readings(readings: tuple[Reading, ...], length: float, apart: float = 0.02) -> tuple[Reading, ...]:
    """Readings at least `apart` metres from one another, the ends kept: a table of hundreds says no more."""
    kept: list[Reading] = []
    for reading in readings:
        if not kept or reading.x - kept[-1].x >= apart - 1e-9:
            kept.append(reading)
        elif reading.x >= length - 1e-9:
            kept[-1 if len(kept) > 1 else 0] = reading
    return tuple(kept)
