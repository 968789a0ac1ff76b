"""Lines of several boards over one ruler: laid together at a datum, and the difference of each to the reference."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, get_args

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.measures.lines import volume_up_to
from kelvor.core.shape.checks.fairness import line_curve, smoothed_curvature
from kelvor.core.shape.edits.weights import schedule_keys, schedule_of

Datum = Literal[
    "tail", "nose", "wide point", "middle", "mast track", "foil mast", "front strap", "fin", "centre of mass"
]
DATUMS: tuple[Datum, ...] = get_args(Datum)


@frozen
class ComparedCurve:
    """A line along a board: its words, what its values are, and how it is read from a geometry."""

    key: str
    words: str
    quantity: Quantity
    read: Callable[[Live], Array]


def _along(name: str) -> Callable[[Live], Array]:
    return lambda live: np.asarray(getattr(live.geometry, name))


def _hollow(live: Live) -> Array:
    """Height of the bottom at half its half-width over the chord from keel to edge [m]."""
    shape = live.geometry.shape
    share = shape.half_width / 2 / np.maximum(shape.edge_y, 1e-6)
    found: Array = shape.mid - shape.keel - np.minimum(share, 1.0) * (shape.edge_z - shape.keel)
    return found


def _bend(line: str) -> Callable[[Live], Array]:
    def read(live: Live) -> Array:
        measured = live.geometry
        curve = line_curve(measured, line)
        return np.interp(measured.shape.x, curve.x, smoothed_curvature(measured, line))

    return read


def drawn_curve(key: str, words: str, quantity: Quantity) -> ComparedCurve:
    """A schedule a designer draws, such as a layer's depth or the tuck along the rail, as a line of boards that have
    it.
    """
    return ComparedCurve(key, words, quantity, lambda live: schedule_of(live.board, key).at(live.geometry.shape.x))


def has_curve(live: Live, curve: ComparedCurve) -> bool:
    """Whether a board has such a line."""
    return curve in CURVES or curve.key in schedule_keys(live.board)


CURVES: tuple[ComparedCurve, ...] = (
    ComparedCurve("keel", "Rocker, keel", Quantity.DEPTH, _along("keel_line")),
    ComparedCurve("mid", "Rocker, mid", Quantity.DEPTH, _along("mid_line")),
    ComparedCurve("rail", "Rocker, rail", Quantity.DEPTH, _along("rail_line")),
    ComparedCurve("outline", "Half width", Quantity.LENGTH, lambda live: live.geometry.shape.half_width),
    ComparedCurve("thickness", "Thickness at the centre", Quantity.DEPTH,
          lambda live: live.geometry.shape.deck - live.geometry.shape.keel),
    ComparedCurve("deck", "Deck above the base line", Quantity.DEPTH,
          lambda live: live.geometry.above_base(live.geometry.shape.x, live.geometry.shape.deck)),
    ComparedCurve("area", "Section area", Quantity.AREA, lambda live: live.geometry.areas.area),
    ComparedCurve("volume", "Volume from the tail on", Quantity.VOLUME,
          lambda live: volume_up_to(live.geometry, live.geometry.shape.x)),
    ComparedCurve("edge", "Bottom edge above the keel", Quantity.DEPTH,
          lambda live: live.geometry.shape.edge_z - live.geometry.shape.keel),
    ComparedCurve("hollow", "Hollow halfway out", Quantity.DEPTH, _hollow),
    ComparedCurve("apex", "Rail: widest point above the bottom edge", Quantity.DEPTH,
          lambda live: live.geometry.shape.apex_z - live.geometry.shape.edge_z),
    ComparedCurve("bend.outline", "Curvature of the outline", Quantity.CURVATURE, _bend("outline")),
    ComparedCurve("bend.keel", "Curvature of the keel", Quantity.CURVATURE, _bend("keel")),
    ComparedCurve("bend.rail", "Curvature of the rail line", Quantity.CURVATURE, _bend("rail")),
)  # fmt: skip


def datum_place(live: Live, datum: Datum) -> float | None:
    """Where a datum lies, from the tail [m]; None where a board has no such thing."""
    board = live.board
    fittings, length, mast = board.fittings, board.length, board.mast_x
    if datum == "wide point":
        return live.wide_point[0]
    if datum == "centre of mass":
        return live.mass.total.x
    if datum == "foil mast":
        return mast
    if datum == "mast track":
        return None if fittings.mast_track is None else fittings.mast_track.at.x(length, mast)
    if datum == "front strap":
        rows = [row.at.x(length, mast) for row in fittings.straps]
        return max(rows) if rows else None
    if datum == "fin":
        boxes = [box.at.x(length, mast) for box in fittings.fin_boxes if box.offset == 0] or [
            b.at.x(length, mast) for b in fittings.fin_boxes
        ]
        return min(boxes) if boxes else None
    return {"tail": 0.0, "nose": length, "middle": length / 2}[datum]


def datum_slide(reference: Live, other: Live, datum: Datum) -> float | None:
    """How far the other board's tail lies ahead of the reference's, both at a datum [m]; None where one has none."""
    here, there = datum_place(reference, datum), datum_place(other, datum)
    return None if here is None or there is None else here - there


def difference(reference: Live, other: Live, curve: ComparedCurve, slid: float) -> tuple[Array, Array]:
    """Where both boards are, places from the reference's tail (n,) [m] and what the other's line has more (n,)."""
    own, theirs = reference.geometry.shape.x, other.geometry.shape.x + slid
    low, high = max(float(own[0]), float(theirs[0])), min(float(own[-1]), float(theirs[-1]))
    x = np.linspace(low, high, 161) if high > low else np.array([low])
    more: Array = np.interp(x, theirs, curve.read(other)) - np.interp(x, own, curve.read(reference))
    return x, more


def section_at(live: Live, x: float) -> Array:
    """The half-section at a place [m from the tail], read between two stations: (m, 2) of y and height over its keel
    [m].

    Empty where the board has ended.
    """
    shape = live.geometry.shape
    if not float(shape.x[0]) <= x <= float(shape.x[-1]):
        return np.zeros((0, 2))
    i = int(np.clip(np.searchsorted(shape.x, x) - 1, 0, len(shape.x) - 2))
    share = (x - float(shape.x[i])) / float(shape.x[i + 1] - shape.x[i])
    y, z = (rows[i] + share * (rows[i + 1] - rows[i]) for rows in (shape.y, shape.z))
    return np.stack([y, z - float(np.interp(x, shape.x, shape.keel))], axis=1)


def matching(reference: Live, other: Live, x: float, slid: float, *, by_share: bool) -> float:
    """The other board's place [m from its own tail] that matches `x` of the reference: as far from the datum, or at the
    same share of the length.
    """
    return x / reference.board.length * other.board.length if by_share else x - slid


def plan_apart(reference: Live, other: Live, slid: float) -> tuple[float, float]:
    """Areas in plan that only the other board covers, and only the reference [m²], with the other's tail
    `slid` ahead.
    """
    own, theirs = reference.geometry.shape, other.geometry.shape
    edges = [own.x[0], own.x[-1], theirs.x[0] + slid, theirs.x[-1] + slid]
    x = np.unique(np.concatenate([own.x, theirs.x + slid, *([e - 1e-9, e + 1e-9] for e in edges)]))
    more = np.interp(x, theirs.x + slid, theirs.half_width, 0.0, 0.0) - np.interp(x, own.x, own.half_width, 0.0, 0.0)
    a, b, run = more[:-1], more[1:], np.diff(x)
    # a stretch on which the lines cross is a triangle on either side of the crossing
    crosses = a * b < 0
    part = np.where(crosses, np.abs(a) / np.where(crosses, np.abs(a) + np.abs(b), 1.0), 0.0)
    plus, minus = (
        np.where(
            crosses,
            np.where(sign * a > 0, np.abs(a) * part, np.abs(b) * (1 - part)),
            np.maximum(sign * a, 0.0) + np.maximum(sign * b, 0.0),
        )
        for sign in (1, -1)
    )
    return float(np.sum(plus * run)), float(np.sum(minus * run))
