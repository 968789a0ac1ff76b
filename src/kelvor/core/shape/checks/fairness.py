"""Fairness: curvature of a line, its kinks, its straight runs, and what a straight edge reads on it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.findings import Finding, Severity
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.parts.layers import CrossStep, CutAway, Ledge
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.sections import Resolution, sections_at

LINES = ("outline", "keel", "mid", "rail", "deck")
"""Lines of which curvature and straight-edge gaps can be read."""
SAMPLES = 241
KINK = np.radians(1.2)
"""A break of slope between two ends of a centimetre that counts as a kink [rad] (common practice, no source)."""


@frozen(eq=False)
class BoardCurve:
    """A line of the board on an even grid: place and height or half-width [m]."""

    x: Array
    value: Array

    def curvature(self) -> Array:
        """Signed curvature [1/m], positive where the line turns up (out) going forward; ends repeat their
        neighbours.
        """
        h = float(self.x[1] - self.x[0])
        first = np.gradient(self.value, h)
        second = np.zeros_like(self.value)
        second[1:-1] = (self.value[2:] - 2 * self.value[1:-1] + self.value[:-2]) / h**2
        second[0], second[-1] = second[1], second[-2]
        found: Array = second / (1 + first**2) ** 1.5
        return found


@frozen
class EdgeReading:
    """A straight edge of some length laid on a line.

    Attributes
    ----------
    start, end:
        Its ends [m from the tail].
    rests:
        Where it touches the line [m], one or two places.
    gap, gap_at:
        The largest gap under it [m], and where.
    """

    start: float
    end: float
    rests: tuple[float, ...]
    gap: float
    gap_at: float


def line_curve(measured: Geometry, line: str, samples: int = SAMPLES) -> BoardCurve:
    """A line by its name, between its ends."""
    board = measured.board
    if line == "outline":
        x = np.linspace(0.0, board.length, samples)
        return BoardCurve(x, np.maximum(half_width(board.outline, board.length, x), 0.0))
    heights = {
        "keel": measured.keel_line,
        "mid": measured.mid_line,
        "rail": measured.rail_line,
        "deck": measured.deck_line,
    }[line]
    x = np.linspace(float(measured.shape.x[0]), float(measured.shape.x[-1]), samples)
    return BoardCurve(x, np.interp(x, measured.shape.x, heights))


def smoothed_curvature(measured: Geometry, line: str) -> Array:
    """Curvature of a line [1/m] on its even grid; battens are differentiated exactly where they are the line."""
    board = measured.board
    curve = line_curve(measured, line)
    if line == "outline":
        return np.clip(curve.curvature(), -20.0, 20.0)
    x = np.clip(curve.x, 0.0, board.length)
    here = sections_at(board, x, Resolution.COARSE)
    if isinstance(here, tuple):
        return curve.curvature()
    # battens bend exactly; what layers add is sampled on the even grid, where schedules are smooth
    exact = board.rocker.at(x, 2) + (board.thickness.at(x, 2) if line == "deck" else 0.0)
    reference = board.rocker.at(x) + (board.thickness.at(x) if line == "deck" else 0.0)
    rest = {"keel": here.keel, "mid": here.mid, "rail": here.edge_z, "deck": here.deck}[line] - reference
    h = float(curve.x[1] - curve.x[0])
    bend = np.zeros_like(rest)
    bend[1:-1] = (rest[2:] - 2 * rest[1:-1] + rest[:-2]) / h**2
    return np.asarray(exact + bend)


def turning(measured: Geometry, line: str, start: float, end: float) -> float:
    """How far the line turns between two places [rad]: the curve there is to spend."""
    curve = line_curve(measured, line, 481)
    slope = np.arctan(np.gradient(curve.value, curve.x))
    return float(np.interp(end, curve.x, slope) - np.interp(start, curve.x, slope))


def straight_edge(curve: BoardCurve, centre: float, length: float, *, under: bool = True) -> EdgeReading:
    """A straight edge of `length` laid on the line at `centre`.

    It is brought up from below (`under`, for a bottom or an outline from
    outside it is laid from above) until it touches; it then rests on the two
    highest points that carry it, as a ruler on a board does.
    """
    sign = 1.0 if under else -1.0
    low = max(float(curve.x[0]), centre - length / 2)
    high = min(float(curve.x[-1]), centre + length / 2)
    x = np.linspace(low, high, 161)
    z = sign * np.interp(x, curve.x, curve.value)
    hull = [0]
    for i in range(1, len(x)):  # lower convex hull: what the edge can touch from below
        while len(hull) > 1 and (x[hull[-1]] - x[hull[-2]]) * (z[i] - z[hull[-2]]) <= (x[i] - x[hull[-2]]) * (
            z[hull[-1]] - z[hull[-2]]
        ):
            hull.pop()
        hull.append(i)
    middle = (low + high) / 2
    k = int(np.clip(np.searchsorted(x[hull], middle) - 1, 0, len(hull) - 2))
    a, b = hull[k], hull[k + 1]
    slope = (z[b] - z[a]) / (x[b] - x[a])
    gap = z - (z[a] + slope * (x - x[a]))
    worst = int(np.argmax(gap))
    return EdgeReading(low, high, (float(x[a]), float(x[b])), float(max(0.0, gap[worst])), float(x[worst]))


def kinks(measured: Geometry) -> list[Finding]:
    """Breaks of slope in outline, rocker and cut-out lines that no knuckle, winger or layer asked for, with their
    place.
    """
    board = measured.board
    found: list[Finding] = []
    meant = [
        w.x for batten in (board.outline.batten, board.rocker, board.thickness) for w in batten.weights if w.knuckle
    ]
    meant += [w.x for w in board.outline.wingers]
    ends = (
        max(board.outline.corner_radius, board.outline.tail_depth),
        max(board.outline.nose_radius, board.outline.nose_depth),
    )
    mast = board.mast_x
    for layer in board.layers:
        if isinstance(layer, CutAway):
            meant += [layer.hinge.x(board.length, mast), layer.hinge.x(board.length, mast) - layer.blend]
        elif isinstance(layer, CrossStep):
            meant.append(layer.at.x(board.length, mast))
    for line in ("outline", "keel"):
        curve = line_curve(measured, line, 401)
        skip = max(0.06 * board.length, ends[0] + 0.01), max(0.06 * board.length, ends[1] + 0.01)
        found += _breaks(f"The {line} line", curve.x, curve.value, skip, meant)
    for layer in board.layers:
        if isinstance(layer, Ledge) and layer.on:
            start, end = max(layer.start.x(board.length, mast), 0.0), min(layer.end.x(board.length, mast), board.length)
            if end - start > 0.1:
                x = np.linspace(start, end, 201)
                away = layer.line.at(x)
                y = away if layer.across == "centre" else half_width(board.outline, board.length, x) - away
                found += _breaks(f"The line of {layer.name}", x, y, (0.02, 0.02), meant)
    return found


def _breaks(name: str, x: Array, value: Array, skip: tuple[float, float], meant: list[float]) -> list[Finding]:
    """The sharpest break of slope of a line, if it is one; nearer to its ends than `skip` [m] none is looked for."""
    slope = np.arctan(np.diff(value) / np.diff(x))
    turn = np.abs(np.diff(slope))
    inner = x[1:-1]
    turn[(inner < x[0] + skip[0]) | (inner > x[-1] - skip[1])] = 0.0
    ordinary = np.median(turn) + KINK * float(x[1] - x[0]) / 0.01
    i = int(np.argmax(turn))
    place = float(x[i + 1])
    if turn[i] <= 4 * ordinary or turn[i] <= KINK or any(abs(place - m) < 0.03 for m in meant):
        return []
    beside = max(round(0.012 / float(x[1] - x[0])), 2)
    around = max(turn[max(i - beside, 0)], turn[min(i + beside, len(turn) - 1)])
    if turn[i] <= 3 * around:  # a tight bend turns beside it too
        return []
    return [
        Finding(
            code="kink",
            severity=Severity.NOTE,
            place=place,
            value=float(turn[i]),
            limit=float(4 * ordinary),
            text=f"{name} breaks by {np.degrees(turn[i]):.1f}° near {place * 100:.0f} cm",
            advice="Give it a blend there, or mark it as a knuckle if it is meant.",
        )
    ]


def deck_slope(measured: Geometry, start: float, end: float) -> float:
    """Mean slope of the deck's centreline between two places, to the base line [rad], positive nose up."""
    deck = measured.deck_line
    return float(np.arctan2(measured.at(deck, end) - measured.at(deck, start), end - start))


WALL_SLOPE, WALL_HEIGHT = 0.9, 0.004
"""A deck that rises or falls as steep and as far as this is the wall of a recess or platform [1, m]: no foot stands
across it.
"""


@lru_cache(maxsize=16)
def standing_width(measured: Geometry, x: float) -> float:
    """Width at place `x` that the feet can stand on [m]: between the deck edges, or the walls of a recess or platform
    within.
    """
    shape = measured.shape
    after = min(max(int(np.searchsorted(shape.x, x)), 1), len(shape.x) - 1)
    beside, across = slice(after - 1, after + 1), slice(shape.columns.deck_edge, shape.columns.top + 1)
    y, z = shape.y[beside, across], shape.z[beside, across]  # from the edge in
    dy, dz = y[:, :-1] - y[:, 1:], np.abs(z[:, :-1] - z[:, 1:])
    walls = (dz > WALL_SLOPE * np.maximum(dy, 1e-9)) & (dz > WALL_HEIGHT) & (y[:, :-1] > 0.05)
    halves = shape.deck_edge_y[beside].copy()
    for row, column in zip(*np.nonzero(walls), strict=True):  # the last one of a section is the inmost
        halves[row] = y[row, column + 1]
    return 2 * float(np.interp(x, shape.x[beside], halves))
