"""A board from readings: tape and caliper at some stations, a rocker gauge, an offset table, an outline alone.

Few weights are laid so that the lines pass within a tolerance of what was read:
a reading is never taken for more exact than it is. What was not read comes from
a first board of the discipline, and is said to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import depths, field_problems, lengths, limit_of, within
from kelvor.core.base.values import frozen
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Weight
from kelvor.core.shape.curves.outline import NoseKind, Outline, TailKind, fitted_outline, half_width
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.baseline import relevelled
from kelvor.core.shape.edits.weights import with_batten
from kelvor.core.shape.parts.fittings import Fittings
from kelvor.core.shape.parts.layers import ShapingLayer
from kelvor.core.shape.surface.geometry import geometry

TOLERANCE = 5e-4
"""Lines pass this close to what was read [m]: what tape and caliper are good for (common practice, no source)."""
LEAST = 5
"""Lines are laid through at least this many readings."""
APART = 0.015
"""Two readings lie at least this far apart [m]."""
TAPE_PLACES = (0.02, 0.10, 0.22, 0.36, 0.50, 0.64, 0.78, 0.90, 0.98)
"""Where tape and caliper are laid on, as shares of the length: nine places, closer at the ends."""
NARROW_RAIL = 0.04
"""Where the bottom's half-width is less, the rail line is not laid through its readings [m]: it comes to the tip."""
LINES = ("width", "rocker", "rail", "thickness")
_WORDS = {"width": "Widths", "rocker": "The rocker", "rail": "The rail line", "thickness": "Thicknesses"}


@frozen
class Reading:
    """What was read at one place; None where it was not.

    `x` [m from the tail tip], full `width` [m], height of keel and rail line
    [m] above any straight line, `thickness` at the centre [m].
    """

    x: Annotated[float, lengths(-6.5, 6.5)]
    width: Annotated[float, lengths(0, 1.5)] | None = None
    rocker: Annotated[float, depths(-1, 1)] | None = None
    rail: Annotated[float, depths(-1, 1)] | None = None
    thickness: Annotated[float, depths(0, 0.45)] | None = None


@frozen
class Miss:
    """How far a line of the board passes by its readings at most [m], and where; `read` tells how many there were."""

    line: str
    read: int
    gap: float
    place: float


@frozen
class FromReadings:
    """The board, how well it follows its readings, and what was not read and so comes from elsewhere."""

    board: Board
    misses: tuple[Miss, ...]
    notes: tuple[str, ...]


def column(readings: tuple[Reading, ...], line: str) -> tuple[Array, Array]:
    """Places and values [m] of one line, where it was read."""
    pairs = [(r.x, getattr(r, line)) for r in readings if getattr(r, line) is not None]
    return np.array([p[0] for p in pairs]), np.array([p[1] for p in pairs], dtype=float)


def joined_readings(first: tuple[Reading, ...], second: tuple[Reading, ...]) -> tuple[Reading, ...]:
    """Two sets of readings as one; where both lie at one place, what the second read counts."""
    found = dict(enumerate(first))
    for reading in second:
        key = min(
            (k for k in found if abs(found[k].x - reading.x) < APART),
            key=lambda k: abs(found[k].x - reading.x),
            default=None,
        )
        if key is None:
            found[len(found)] = reading
        else:
            read = {line: getattr(reading, line) for line in LINES if getattr(reading, line) is not None}
            found[key] = replace(found[key], **read)
    return tuple(sorted(found.values(), key=lambda r: r.x))


def check_readings(readings: tuple[Reading, ...], length: float) -> None:
    """Whether readings can make a board.

    Raises
    ------
    InputError
        Naming the reading that cannot be, its place, and what would do.
    """
    within(limit_of(Board, "length"), length, "Length")
    before = -1.0
    for i, reading in enumerate(readings, 1):
        where = f"reading {i}, {reading.x * 100:.1f} cm"
        if not -1e-6 <= reading.x <= length + 1e-6:
            raise InputError(
                "this place is not on the board", where=where, accepts=f"Places run from 0 to {length * 100:.1f} cm"
            )
        if reading.x < before + APART:
            raise InputError(
                "this place does not lie ahead of the one before",
                where=where,
                accepts=f"Go from tail to nose, at least {APART * 100:g} cm apart",
            )
        before = reading.x
        for problem in field_problems(reading):
            raise InputError(f"{problem.words}: {problem.what}", where=where, accepts=problem.accepts)
    read = {line: len(column(readings, line)[0]) for line in LINES}
    if not any(read[line] >= LEAST for line in ("width", "rocker", "thickness")):
        raise InputError(
            "too little was read",
            where="readings",
            accepts=f"Give width, rocker or thickness at {LEAST} places or more",
        )
    for line, count in read.items():
        if 0 < count < LEAST:
            raise InputError(
                f"{_WORDS[line].lower()} at {count} places only",
                where="readings",
                accepts=f"Give {LEAST} or more, or none",
            )
    if read["rail"] and not read["rocker"]:
        raise InputError(
            "the rail line was read and the keel was not", where="readings", accepts="Read both on one line"
        )


def board_from_readings(
    name: str, discipline: Discipline, length: float, readings: tuple[Reading, ...], tail: TailKind, nose: NoseKind
) -> FromReadings:
    """A board that passes through what was read.

    Raises
    ------
    InputError
        When the readings make no board.
    """
    check_readings(readings, length)
    notes: list[str] = []
    widths, thicknesses = column(readings, "width"), column(readings, "thickness")
    width = float(widths[1].max()) if len(widths[0]) else 0.0
    thick = float(thicknesses[1].max()) if len(thicknesses[0]) else 0.0
    if not width or not thick:
        model = first_board(name, discipline, length, width or 0.5, thick or 0.1)
        width = width or 0.34 * length**0.6
        thick = thick or 0.09 * min(1.0, max(w.value for w in model.thickness.weights) / 0.1)
    board = first_board(name, discipline, length, width, thick)
    board = replace(board, layers=(), deck_layers=(), fittings=Fittings(), mirrored=False)
    if len(widths[0]):
        board = replace(board, outline=_outline(widths, length, tail, nose))
    rockers = column(readings, "rocker")
    for line, (x, value) in (("rocker", rockers), ("thickness", thicknesses)):
        if len(x):
            board = with_batten(board, line, _batten(x, value, length))
    rails = column(readings, "rail")
    if len(rails[0]):
        board = _with_v_as_read(board, rails)
    unread = [_WORDS[line].lower() for line in ("width", "rocker", "thickness") if not len(column(readings, line)[0])]
    if unread:
        notes.append(f"Not read, taken from a first board: {', '.join(unread)}")
    notes.append("Rails, hollows and fittings were not read: lay them on")
    measured = geometry(board)
    if isinstance(measured, tuple):
        raise InputError(measured[0].text, where=name, accepts=measured[0].advice.rstrip("."))
    board = relevelled(measured, board.base.kind)
    misses = [_miss(board, line, column(readings, line)) for line in ("width", "rocker", "rail", "thickness")]
    return FromReadings(board, tuple(m for m in misses if m is not None), tuple(notes))


def _miss(board: Board, line: str, read: tuple[Array, Array]) -> Miss | None:
    x, value = read
    if not len(x):
        return None
    if line == "rail":
        wide = half_width(board.outline, board.length, x) - board.rails.tuck.at(x) > NARROW_RAIL
        x, value = x[wide], value[wide]
    if line == "width":
        found = 2 * half_width(board.outline, board.length, x)
    elif line == "rail":
        layer = next(item for item in board.layers if isinstance(item, ShapingLayer))
        edge = half_width(board.outline, board.length, x) - board.rails.tuck.at(x)
        found = board.rocker.at(x) + np.tan(layer.amount.at(x)) * np.maximum(edge, 0.0)
    else:
        found = (board.rocker if line == "rocker" else board.thickness).at(x)
    gap = np.abs(found - value)
    worst = int(np.argmax(gap))
    return Miss(line, len(x), float(gap[worst]), float(x[worst]))


def _outline(read: tuple[Array, Array], length: float, tail: TailKind, nose: NoseKind) -> Outline:
    """An outline through full widths, ends of the kinds that were seen."""
    x, half = read[0], read[1] / 2
    outline = Outline(tail, nose, Batten((Weight(length / 2, float(half.max())),)))
    first = [] if outline.tail_closed else [Weight(0.0, max(_end_value(x, half, 0.0), 0.005))]
    last = [] if outline.nose_closed else [Weight(length, max(_end_value(x, half, length), 0.005))]
    inner = (x > APART) & (x < length - APART)
    start = int(np.argmax(np.where(inner, half, -1.0)))
    outline = Outline(tail, nose, Batten((*first, Weight(float(x[start]), float(half[start])), *last)))
    use = inner | ((x <= APART) & (not outline.tail_closed)) | ((x >= length - APART) & (not outline.nose_closed))
    x, half = x[use], half[use]
    if nose in ("blunt", "notched"):
        radius = _corner(outline, length, length - x[::-1], half[::-1], lambda o, r: replace(o, nose_radius=r))
        outline = replace(outline, nose_radius=radius)
    if tail == "squash":
        outline = replace(
            outline, corner_radius=_corner(outline, length, x, half, lambda o, r: replace(o, corner_radius=r))
        )
    return _through(outline, length, x, half)


def _through(outline: Outline, length: float, x: Array, half: Array) -> Outline:
    """The outline through its readings, rounded corners left out."""
    straight = (x >= outline.corner_radius) & (x <= length - outline.nose_radius)
    return fitted_outline(outline, length, x[straight], half[straight], (0.0, length), TOLERANCE / 2, APART)


def _corner(
    outline: Outline, length: float, off: Array, half: Array, rounded: Callable[[Outline, float], Outline]
) -> float:
    """The corner radius that the readings near an end follow best [m]; `off` is their distance from that end."""
    at_nose = off[0] < off[-1] and rounded(outline, 0.01).nose_radius > 0
    x = length - off if at_nose else off
    best, least = 0.0, np.inf
    for share in (0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6):
        radius = share * float(half.max())
        found = _through(rounded(outline, radius), length, np.sort(x), half[np.argsort(x)])
        gap = float(np.max(np.abs(half_width(found, length, x) - half)))
        if gap < least - 1e-6:
            best, least = radius, gap
    return round(best, 4)


def _end_value(x: Array, value: Array, end: float) -> float:
    """The value at an end, straight on from the last two readings where it was not read."""
    if x[0] <= end <= x[-1]:
        return float(np.interp(end, x, value))
    i, j = (0, 1) if end < x[0] else (-1, -2)
    return float(value[i] + (end - x[i]) * (value[j] - value[i]) / (x[j] - x[i]))


def _batten(x: Array, value: Array, length: float) -> Batten:
    """A batten within the tolerance of the readings, with as few weights as that takes."""
    ends = [Weight(0.0, _end_value(x, value, 0.0)), Weight(length, _end_value(x, value, length))]
    middle = int(np.argmin(np.abs(x - length / 2)))
    batten = Batten((ends[0], Weight(float(x[middle]), float(value[middle])), ends[1]))
    for _ in range(40):
        batten = _solved(batten, x, value)
        gap = np.abs(batten.at(x) - value)
        clear = np.min(np.abs(x[:, None] - np.array(batten.places)[None, :]), axis=1) > APART / 2
        if float(gap.max()) <= TOLERANCE or not clear.any():
            break
        worst = int(np.argmax(np.where(clear, gap, -1.0)))
        batten = batten.inserted(Weight(float(x[worst]), float(value[worst])))
    return batten


def _solved(batten: Batten, x: Array, value: Array) -> Batten:
    """Heights of the weights by least squares; an end that was not read holds on softly to its straight run-out."""
    rows, target = batten.structure().rows(x), value
    ends = []
    for i in (0, len(batten.weights) - 1):
        if np.min(np.abs(x - batten.weights[i].x)) > 1e-6:
            row = np.zeros((1, rows.shape[1]))
            row[0, i] = 0.2
            ends.append((row, 0.2 * batten.weights[i].value))
    for row, wanted in ends:
        rows, target = np.concatenate([rows, row]), np.append(target, wanted)
    heights: Array = np.asarray(np.linalg.lstsq(rows, target, rcond=None)[0], dtype=np.float64)
    return batten.with_values(heights)


def _with_v_as_read(board: Board, read: tuple[Array, Array]) -> Board:
    """A V whose schedule puts the rail line where it was read; negative where the keel lies higher."""
    x, rail = read
    edge = half_width(board.outline, board.length, x) - board.rails.tuck.at(x)
    wide = edge > NARROW_RAIL
    angle = np.arctan2(rail - board.rocker.at(x), np.maximum(edge, 1e-3))
    points = tuple((round(float(a), 4), float(v)) for a, v in zip(x[wide], angle[wide], strict=True))
    return replace(board, layers=(ShapingLayer(kind="v", name="V as read", amount=Schedule(points)),))
