"""A board that is being drawn, and pieces that first boards of several disciplines share."""

from __future__ import annotations

from collections.abc import Callable
from math import radians

from kelvor.core.base.values import frozen
from kelvor.core.new_board.patterns import Pattern
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fin_sets import fin_set
from kelvor.core.shape.parts.fittings import Fittings, StrapRow
from kelvor.core.shape.parts.layers import DeckLayer, Form, Layer, Layout, Line, ShapingLayer


@frozen
class DrawnSize:
    """Length, half-width and thickness of the board being drawn [m]."""

    length: float
    half: float
    thick: float

    def x(self, share: float) -> float:
        """A place at a share of the length [m]."""
        return round(share * self.length, 4)

    def schedule(self, *points: tuple[float, float], scale: float = 1.0) -> Schedule:
        """A schedule at shares of the length."""
        return Schedule(tuple((self.x(share), value * scale) for share, value in points))


MM = 1e-3
Parts = Callable[[DrawnSize, Pattern], tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]]
"""Layers, deck layers and fittings of a board of a size, by its pattern."""


def shaping(
    kind: Form, name: str, amount: Schedule, layout: Layout | None = None, holds: Line = "keel"
) -> ShapingLayer:
    """A shaping layer of a form with its amount along the board."""
    return ShapingLayer(kind=kind, name=name, amount=amount, layout=layout or Layout(), holds=holds)


def degrees(size: DrawnSize, *points: tuple[float, float]) -> Schedule:
    """A schedule of angles, typed in degrees, at shares of the length."""
    return size.schedule(*((x, radians(v)) for x, v in points))


def straps(front: float, back: float, spread: float) -> tuple[StrapRow, ...]:
    """A front row of straps and one behind."""
    return (
        StrapRow(name="Front straps", at=Place("tail", round(front, 4)), half_spread=spread),
        StrapRow(name="Back strap", at=Place("tail", round(back, 4))),
    )


def board_ends(size: DrawnSize, fin_span: float, stance: float, spread: float) -> tuple[tuple[StrapRow, ...], Fittings]:
    """Bindings or straps about the middle, and bolted fins at both ends."""
    rows = (
        StrapRow(name="Fore inserts", at=Place("middle", stance / 2), half_spread=spread, inserts=6, pitch=0.0254),
        StrapRow(name="Aft inserts", at=Place("middle", -stance / 2), half_spread=spread, inserts=6, pitch=0.0254),
    )
    fins = fin_set("four ends", size.length, size.half, span=fin_span, box="bolts", at=0.085)
    return rows, Fittings(straps=rows, fin_boxes=fins, other_mass=0.0, pad_cover=0.0)
