"""Edits: new boards from old ones. Nothing is changed in place.

Cutting or adding at an end moves nothing physically: places are written anew
from the new tail. Between two places the board is stretched, and fittings keep
their distance to the datum the designer anchored them to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from kelvor.core.errors import RefusedEdit
from kelvor.core.shape.battens import LEAST_GAP, Batten, Weight
from kelvor.core.shape.board import Board
from kelvor.core.shape.layers import CutAway, Layer, ShapingLayer
from kelvor.core.shape.outline import NoseKind, Outline, TailKind, half_width, refitted
from kelvor.core.shape.places import Place
from kelvor.core.shape.schedules import Schedule

SETTLED = 0.25
"""An end that is cut or changed may reshape the outline this far from the tip [m], no further."""

Map = Callable[[float], float]


def with_tail_cut(board: Board, amount: float) -> Board:
    """Cut `amount` [m] off the tail, or add with a negative amount. Nothing further ahead moves."""
    length = _new_length(board, amount)

    def move(x: float) -> float:
        return x - amount

    moved = _moved(board, length, move, fittings_follow=True)
    outline = _end_cut_outline(board, length, amount, at_tail=True)
    return replace(
        moved, outline=outline, rocker=_end_cut(board.rocker, amount, board.length, at_tail=True),
        thickness=_end_cut(board.thickness, amount, board.length, at_tail=True),
    )  # fmt: skip


def with_nose_cut(board: Board, amount: float) -> Board:
    """Cut `amount` [m] off the nose, or add with a negative amount. Nothing further aft moves."""
    length = _new_length(board, amount)
    moved = _moved(board, length, lambda x: x, fittings_follow=True)
    outline = _end_cut_outline(board, length, amount, at_tail=False)
    return replace(
        moved, outline=outline, rocker=_end_cut(board.rocker, amount, board.length, at_tail=False),
        thickness=_end_cut(board.thickness, amount, board.length, at_tail=False),
    )  # fmt: skip


def with_length(board: Board, length: float, start: float = 0.0, end: float | None = None) -> Board:
    """Reach `length` [m] by stretching what lies between `start` and `end` [m from the tail]."""
    end = board.length if end is None else end
    delta = length - board.length
    if end - start + delta < 0.05:
        raise RefusedEdit(
            f"Between {start * 100:.0f} and {end * 100:.0f} cm there is not enough board to take {-delta * 100:.0f} cm out."
        )

    def move(x: float) -> float:
        if x <= start:
            return x
        return x + delta if x >= end else start + (x - start) * (end - start + delta) / (end - start)

    moved = _moved(board, length, move, fittings_follow=False)
    return replace(
        moved, outline=replace(board.outline, batten=_mapped(board.outline.batten, move)),
        rocker=_mapped(board.rocker, move), thickness=_mapped(board.thickness, move),
    )  # fmt: skip


def with_tail_kind(board: Board, kind: TailKind) -> Board:
    """Another tail type, refitted so that the outline away from the tail stays."""
    old = board.outline
    if kind == old.tail:
        return board
    weights = [w for w in old.batten.weights if w.x > 0.02]
    if kind != "round":
        probe = 0.06 if old.tail == "round" else 0.0
        width = float(half_width(replace(old, corner_radius=0.0), board.length, np.array([probe]))[0])
        weights.insert(0, Weight(0.0, max(width, 0.02)))
    radius = old.corner_radius if old.corner_radius > 0 else 0.3 * weights[0].value
    new = Outline(kind, old.nose, Batten(tuple(weights)), min(radius, 0.9 * weights[0].value) if kind == "squash" else 0.0)
    return replace(board, outline=refitted(old, board.length, new, board.length, 0.0, (SETTLED, board.length)))


def with_nose_kind(board: Board, kind: NoseKind) -> Board:
    """Another nose type, refitted so that the outline away from the nose stays."""
    old, length = board.outline, board.length
    if kind == old.nose:
        return board
    weights = [w for w in old.batten.weights if w.x < length - 0.02]
    if kind == "chopped":
        width = float(half_width(old, length, np.array([length - 0.06]))[0])
        weights.append(Weight(length, max(width, 0.02)))
    new = Outline(old.tail, kind, Batten(tuple(weights)), old.corner_radius)
    return replace(board, outline=refitted(old, length, new, length, 0.0, (0.0, length - SETTLED)))


def with_thickness_scaled(board: Board, factor: float) -> Board:
    """Every thickness times `factor`."""
    return replace(board, thickness=board.thickness.with_values(board.thickness.values * factor))


def with_width_scaled(board: Board, factor: float) -> Board:
    """Every half-width times `factor`."""
    outline = board.outline
    return replace(board, outline=replace(outline, batten=outline.batten.with_values(outline.batten.values * factor)))


def _new_length(board: Board, amount: float) -> float:
    length = board.length - amount
    if amount > 0.4 * board.length or amount < -0.4 * board.length:
        raise RefusedEdit(f"At an end at most two fifths of the board can be cut or added, not {abs(amount) * 100:.0f} cm.")
    return length


def _moved(board: Board, length: float, move: Map, *, fittings_follow: bool) -> Board:
    """All but the three battens at their new places."""
    old_mast = board.mast_x
    fittings = board.fittings
    tracks = fittings.tracks
    if tracks is not None and fittings_follow:
        tracks = replace(tracks, at=Place.at(move(tracks.at.x(board.length)), tracks.at.datum, length))
    new_mast = None if tracks is None else tracks.at.x(length) + tracks.mast

    def place(p: Place) -> Place:
        return Place.at(move(p.x(board.length, old_mast)), p.datum, length, new_mast) if fittings_follow else p

    def schedule(s: Schedule) -> Schedule:
        return s if s.is_constant else Schedule(tuple((move(x), v) for x, v in s.points))

    def layer(item: Layer) -> Layer:
        if isinstance(item, ShapingLayer):
            return replace(item, amount=schedule(item.amount), layout=replace(item.layout, width=schedule(item.layout.width)))
        if isinstance(item, CutAway):
            return replace(item, hinge=place(item.hinge))
        return replace(item, start=place(item.start), end=place(item.end))

    rails, locks = board.rails, board.locks
    return replace(
        board, length=length, crown=schedule(board.crown), layers=tuple(layer(item) for item in board.layers),
        rails=replace(rails, apex=schedule(rails.apex), tuck=schedule(rails.tuck), edge_radius=schedule(rails.edge_radius),
                      fullness=schedule(rails.fullness), chamfer=schedule(rails.chamfer)),
        fittings=replace(fittings, tracks=tracks, straps=tuple(replace(s, at=place(s.at)) for s in fittings.straps)),
        locks=replace(locks, zones=tuple(replace(z, start=move(z.start), end=move(z.end)) for z in locks.zones)),
    )  # fmt: skip


def _mapped(batten: Batten, move: Map) -> Batten:
    return Batten(tuple(replace(w, x=move(w.x)) for w in batten.weights))


def _end_cut(batten: Batten, amount: float, length: float, *, at_tail: bool) -> Batten:
    """A batten with its end moved in (or out) along its own cubic, so that the rest stays."""
    tip = amount if at_tail else length - amount
    height = _along_cubic(batten, tip)
    weights = list(batten.weights)
    if at_tail:
        cut_ruler = next((w.ruler for w in reversed(weights) if w.x < tip), weights[0].ruler if amount < 0 else None)
        first = 1 if amount <= 0 else 0
        rest = [w for w in weights[first:] if w.x > tip + max(LEAST_GAP, 0.01 if amount > 0 else 0)]
        kept = [Weight(tip, height, ruler=cut_ruler if rest and _ruled(batten, tip, rest[0].x) else None), *rest]
        return Batten(tuple(replace(w, x=w.x - amount) for w in kept))
    last = len(weights) - 1 if amount <= 0 else len(weights)
    rest = [w for w in weights[:last] if w.x < tip - max(LEAST_GAP, 0.01 if amount > 0 else 0)]
    return Batten((*rest, Weight(tip, height)))


def _ruled(batten: Batten, start: float, end: float) -> bool:
    """Whether a ruler lies over the whole of [start, end], or from beyond it."""
    for a, b in zip(batten.weights[:-1], batten.weights[1:], strict=True):
        if a.ruler is not None and b.x >= end - 1e-9 and (a.x <= start + 1e-9 or a is batten.weights[0]):
            return True
    return False


def _along_cubic(batten: Batten, x: float) -> float:
    """Height at `x`; beyond an end, along the end's own cubic."""
    places = batten.places
    if places[0] <= x <= places[-1]:
        return float(batten.at(np.array([x]))[0])
    end = places[0] if x < places[0] else places[-1]
    inner = end + (1e-6 if x < end else -1e-6)
    other = places[1] if x < end else places[-2]
    d = x - inner
    z, s, c = (float(batten.at(np.array([inner]), order)[0]) for order in (0, 1, 2))
    c2 = float(batten.at(np.array([(inner + other) / 2]), 2)[0])
    jerk = (c2 - c) / ((inner + other) / 2 - inner)
    return z + s * d + c * d * d / 2 + jerk * d**3 / 6


def _end_cut_outline(board: Board, length: float, amount: float, *, at_tail: bool) -> Outline:
    old = board.outline
    shift = amount if at_tail else 0.0
    places = [(w.x - shift, w) for w in old.batten.weights]
    open_end = old.tail != "round" if at_tail else old.nose == "chopped"
    margin = 0.015
    kept = [replace(w, x=x) for x, w in places if margin < x < length - margin]
    other_open = old.nose == "chopped" if at_tail else old.tail != "round"
    if other_open:
        end_weight = old.batten.weights[-1] if at_tail else old.batten.weights[0]
        kept = [*kept, replace(end_weight, x=length)] if at_tail else [replace(end_weight, x=0.0), *kept]
    if open_end:
        raw = replace(old, corner_radius=0.0)
        where = max(amount, 0.0) if at_tail else min(board.length - amount, board.length)
        width = float(half_width(raw, board.length, np.array([where]))[0])
        kept = [Weight(0.0, width), *kept] if at_tail else [*kept, Weight(length, width)]
    new = replace(
        old,
        batten=Batten(tuple(kept)),
        corner_radius=min(old.corner_radius, 0.9 * kept[0].value) if old.tail == "squash" else 0.0,
    )
    keep = (SETTLED, length) if at_tail else (0.0, length - SETTLED)
    if open_end and amount > 0:
        corner = old.corner_radius + amount if at_tail and old.tail == "squash" else 0.0
        keep = (corner, length) if at_tail else (0.0, length)
    target = replace(old, corner_radius=0.0) if old.tail == "squash" else old
    fitted = refitted(target, board.length, replace(new, corner_radius=0.0), length, shift, keep)
    return replace(fitted, corner_radius=new.corner_radius)
