"""Grips: what can be taken hold of on the drawing besides the weights of the three battens.

Fittings on the plan, points of a plan line (chine, cut-out, bottom edge, deck
edge), the mid and rail rocker lines, and the curvature on the strip. Each says
where it lies and makes a new board from a pull; it knows no window.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

import numpy as np

from kelvor.core.base.units import DEGREE, Quantity, System, number_text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.curvature import with_curvature
from kelvor.core.levers.lever import Lever
from kelvor.core.levers.locks import Change
from kelvor.core.levers.rocker_lines import RockerLine, line_height, taken_up_by, with_line_height
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.fairness import LINES, line_curve, smoothed_curvature, turning
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.edits.weights import (
    Hold,
    batten_of,
    layer_of,
    moved,
    place_and_value,
    schedule_of,
)
from kelvor.core.shape.parts.layers import Ledge
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.sections import bottom_shares
from kelvor.ui.shape.shown.handles import drag_change, line_name

Band = Literal["plan", "profile", "strip"]
CURVATURE = "curvature."
SHARES = "share."
TALLEST = 3.0
"""The curvature strip shows up to this many times what three quarters of the line stay under."""
_BATTENS = {"outline": "outline", "keel": "rocker", "mid": "rocker", "rail": "rocker", "deck": "thickness"}
_LINE_WORDS = {"outline": "outline", "keel": "keel line", "mid": "mid line", "rail": "rail line", "deck": "deck line"}


@frozen
class Grip:
    """Something to take hold of.

    Attributes
    ----------
    key:
        Stable while it is dragged.
    x, value:
        Place [m] and height on its band: half-width on the plan, height above the base on the profile, value on the
        strip.
    pull:
        (board, place moved by, value moved by) to a new board.
    change:
        What a pull changed: (before, after).
    """

    key: str
    band: Band
    x: float
    value: float
    pull: Callable[[Board, float, float], Board]
    change: Callable[[Board, Board], Change]
    words: str


def grips(live: Live, strip: str, line: RockerLine, system: System) -> list[Grip]:
    """Everything that can be taken hold of while the strip shows `strip` and the profile has `line` in hand."""
    found = _fittings(live.board)
    if is_plan_line(live.board, strip):
        found += _plan_line(live, strip, system)
    if line != "keel":
        found += _rocker_line(live, line, system)
    if strip.startswith(CURVATURE):
        found += _curvature(live, strip.removeprefix(CURVATURE), system)
    return found


def _fittings(board: Board) -> list[Grip]:
    by_key = {lever.key: lever for lever in levers(board)}
    found = []
    for key, lever in by_key.items():
        stem, _, field = key.rpartition(".")
        if lever.group not in ("Fittings", "Fins") or not (field == "at" or key == "tracks"):
            continue
        aside = next((by_key[name] for name in (f"{stem}.offset", f"{stem}.half_spread") if name in by_key), None)
        y = aside.read(board) if aside is not None else 0.0
        found.append(
            Grip(key, "plan", lever.read(board), y, _lever_pull(lever, aside), _lever_change(lever, aside), lever.label)
        )
    return found


def _lever_pull(along: Lever, aside: Lever | None) -> Callable[[Board, float, float], Board]:
    def pull(board: Board, dx: float, dy: float) -> Board:
        if aside is not None and abs(dy) > abs(dx) and aside.read(board) > 0:
            return aside.set(board, max(aside.read(board) + dy, 0.005))
        return along.set(board, along.read(board) + dx)

    return pull


def _lever_change(along: Lever, aside: Lever | None) -> Callable[[Board, Board], Change]:
    def change(before: Board, after: Board) -> Change:
        moved_along = abs(along.read(after) - along.read(before)) > 1e-9
        lever = along if moved_along or aside is None else aside
        return Change(lever.label, lever.quantity, lever.read(before), lever.read(after))

    return change


# lines in plan


def is_plan_line(board: Board, strip: str) -> bool:
    """Whether a schedule is a line in plan: a ledge's line, a layer's edge, the bottom edge or the deck edge."""
    if strip in ("rails.tuck", "rails.chamfer") or strip.endswith("|layout.width"):
        return True
    return strip.startswith("layer.") and "|" not in strip and isinstance(layer_of(board, strip), Ledge)


def _from_edge(board: Board, strip: str) -> tuple[bool, bool]:
    """Whether the line is measured from the edge, and whether that edge is the outline itself."""
    if strip in ("rails.tuck", "rails.chamfer"):
        return True, True
    layer = layer_of(board, strip)
    return (layer.across if isinstance(layer, Ledge) else layer.layout.across) == "edge", strip.startswith("deck.")  # type: ignore[union-attr]


def plan_line(measured: Geometry, strip: str) -> tuple[np.ndarray, np.ndarray]:
    """A line in plan: places and half-places [m]."""
    board, shape = measured.board, measured.shape
    x = shape.x
    value = schedule_of(board, strip).at(x)
    from_edge, outline = _from_edge(board, strip)
    edge = (
        shape.half_width if strip in ("rails.tuck", "rails.chamfer") else shape.deck_edge_y if outline else shape.edge_y
    )
    return x, np.clip(edge - value if from_edge else np.minimum(value, edge), 0.0, shape.half_width)


def _plan_line(live: Live, strip: str, system: System) -> list[Grip]:
    measured, board = live.geometry, live.board
    x, y = plan_line(measured, strip)
    sign = -1.0 if _from_edge(board, strip)[0] else 1.0
    found = []
    for i, (place, _) in enumerate(schedule_of(board, strip).points):
        held = Hold(strip, i)
        at = min(max(place, 0.0), board.length)

        def pull(old: Board, dx: float, dy: float, held: Hold = held) -> Board:
            where, value = place_and_value(old, held)
            return moved(old, held, where + dx, max(0.0, value + sign * dy))

        def change(before: Board, after: Board, held: Hold = held) -> Change:
            return drag_change(before, after, held, system)

        found.append(Grip(f"{strip}#{i}", "plan", at, float(np.interp(at, x, y)), pull, change, line_name(strip)))
    return found


# rocker lines


def _rocker_line(live: Live, line: RockerLine, system: System) -> list[Grip]:
    measured, board = live.geometry, live.board
    heights = measured.mid_line if line == "mid" else measured.rail_line
    found = []
    for weight in board.rocker.weights:
        at = min(max(weight.x, 0.0), board.length)

        def pull(old: Board, _dx: float, dy: float, at: float = at) -> Board:
            return with_line_height(old, line, at, line_height(old, line, at) + dy, old.locks.absorber, old.locks.reach)

        def change(before: Board, after: Board, at: float = at) -> Change:
            where = number_text(at, Quantity.LENGTH, system)
            words = (
                f"{_LINE_WORDS[line].capitalize()} at {where}, taken up by {taken_up_by(after.locks.absorber, line)}"
            )
            return Change(words, Quantity.DEPTH, line_height(before, line, at), line_height(after, line, at))

        found.append(
            Grip(f"line.{line}#{at:.4f}", "profile", at, measured.at(heights, at), pull, change, _LINE_WORDS[line])
        )
    return found


# curvature


def strip_keys() -> list[tuple[str, str]]:
    """Strips beside volume and schedules: key and words."""
    curvature = [(f"{CURVATURE}{line}", f"Curvature, {_LINE_WORDS[line]}") for line in LINES]
    return [
        *curvature,
        (f"{SHARES}rail", "Layers' share, rail line"),
        (f"{SHARES}mid", "Layers' share, mid line"),
        (f"{SHARES}keel", "Layers' share, keel line"),
    ]


def curvature_values(measured: Geometry, line: str) -> tuple[np.ndarray, np.ndarray]:
    """Places [m] and curvature [1/m] between the rounded tips."""
    curve = line_curve(measured, line)
    inside = (curve.x > 0.03 * measured.board.length) & (curve.x < 0.97 * measured.board.length)
    bend = smoothed_curvature(measured, line)[inside]
    limit = TALLEST * max(float(np.percentile(np.abs(bend), 75)), 1e-3)  # a winger's corner would flatten all the rest
    return curve.x[inside], np.clip(bend, -limit, limit)


def _curvature(live: Live, line: str, system: System) -> list[Grip]:
    board = live.board
    name = _BATTENS[line]
    x, values = curvature_values(live.geometry, line)
    found = []
    for i, weight in enumerate(batten_of(board, name).weights):
        if not x[0] < weight.x < x[-1]:
            continue

        def pull(old: Board, _dx: float, dy: float, at: float = weight.x) -> Board:
            return with_curvature(old, name, at, dy) if dy else old

        def change(before: Board, after: Board, at: float = weight.x) -> Change:
            bend = [float(np.interp(at, *curvature_values_of(b, name))) for b in (before, after)]
            return Change(
                f"Curve of the {_LINE_WORDS[line]} at {number_text(at, Quantity.LENGTH, system)}",
                Quantity.CURVATURE,
                bend[0],
                bend[1],
            )

        found.append(
            Grip(
                f"{CURVATURE}{line}#{i}",
                "strip",
                weight.x,
                float(np.interp(weight.x, x, values)),
                pull,
                change,
                _LINE_WORDS[line],
            )
        )
    return found


def curvature_values_of(board: Board, name: str) -> tuple[np.ndarray, np.ndarray]:
    """Second derivative of a batten along the board [1/m]."""
    x = np.linspace(0.03 * board.length, 0.97 * board.length, 200)
    if name == "outline":
        wide = np.linspace(0.0, board.length, 401)
        b = half_width(board.outline, board.length, wide)
        return x, np.interp(x, wide, np.gradient(np.gradient(b, wide), wide))
    return x, batten_of(board, name).at(x, 2)


def budget_words(measured: Geometry, line: str, pinned: Geometry | None) -> str:
    """Where the curve of a line is spent: how far it turns in its aft, middle and fore third, and against the pinned
    step.
    """
    length = measured.board.length
    ends = np.array([0.05, 1 / 3, 2 / 3, 0.95]) * length
    parts = []
    for name, a, b in zip(("aft", "middle", "fore"), ends[:-1], ends[1:], strict=True):
        turn = abs(turning(measured, line, float(a), float(b))) / DEGREE
        words = f"{name} {turn:.1f}°"
        if pinned is not None:
            scale = pinned.board.length / length
            gap = turn - abs(turning(pinned, line, float(a) * scale, float(b) * scale)) / DEGREE
            words += f" ({gap:+.1f})".replace("-", "−") if abs(gap) >= 0.05 else ""
        parts.append(words)
    return "turns " + ", ".join(parts)


# shares of the layers


def layer_shares(measured: Geometry, line: str) -> tuple[np.ndarray, list[tuple[str, np.ndarray]]]:
    """What each bottom layer adds to keel, mid or rail line: places [m], and (name, heights [m]) with the sum last."""
    x, shares = bottom_shares(measured.shape, {"keel": 0.0, "mid": 0.5, "rail": 1.0}[line])
    total = np.sum([h for _, h in shares], axis=0) if shares else np.zeros_like(x)
    return x, [*shares, ("all layers", total)]
