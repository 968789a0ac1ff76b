"""Weights to take hold of, in words: what a drag of one changes."""

from __future__ import annotations

from kelvor.core.base.units import Quantity, System, number_text
from kelvor.core.levers.locks import Change
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.weights import Hold, layer_of, place_and_value
from kelvor.core.shape.parts.layers import ANGLED

_NAMES = {"outline": "Width", "rocker": "Rocker", "thickness": "Thickness"}
_QUANTITIES = {
    "outline": Quantity.LENGTH, "rocker": Quantity.DEPTH, "thickness": Quantity.LENGTH, "crown": Quantity.DEPTH,
    "rails.apex": Quantity.RATIO, "rails.tuck": Quantity.DEPTH, "rails.edge_radius": Quantity.DEPTH,
    "rails.fullness": Quantity.RATIO, "rails.chamfer": Quantity.DEPTH, "rails.side_wall": Quantity.ANGLE,
}  # fmt: skip
_SCHEDULES = {
    "crown": "Deck crown",
    "rails.apex": "Rail apex, share below",
    "rails.tuck": "Rail tuck",
    "rails.edge_radius": "Rail edge radius",
    "rails.fullness": "Rail fullness",
    "rails.chamfer": "Upper chamfer",
    "rails.side_wall": "Side wall",
}


_FIELDS = {"layout.width": "width", "height": "height", "line": "line"}


def line_name(line: str) -> str:
    """A line's name in the trade's words."""
    if line in _NAMES or line in _SCHEDULES:
        return _NAMES.get(line) or _SCHEDULES[line]
    whole, _, field = line.partition("|")
    name = whole.partition(".")[2]
    return f"{name}, {_FIELDS[field]}" if field else name


def line_quantity(board: Board, line: str) -> Quantity:
    """What kind of quantity a line holds."""
    if line in _QUANTITIES:
        return _QUANTITIES[line]
    if "|" in line:
        return Quantity.DEPTH
    return Quantity.ANGLE if layer_of(board, line).kind in ANGLED else Quantity.DEPTH


def drag_change(before: Board, after: Board, held: Hold, system: System) -> Change:
    """What a drag changed: widths are told in full, and a weight that only slid is told by its place."""
    x0, v0 = place_and_value(before, held)
    x1, v1 = place_and_value(after, held)
    name, quantity = line_name(held.line), line_quantity(before, held.line)
    if abs(v1 - v0) < 1e-9:
        return Change(f"{name}, weight {held.index + 1} slid", Quantity.LENGTH, x0, x1)
    factor = 2.0 if held.line == "outline" else 1.0
    return Change(f"{name} at {number_text(x1, Quantity.LENGTH, system)}", quantity, v0 * factor, v1 * factor)
