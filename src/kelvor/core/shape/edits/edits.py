"""Edits: new boards from old ones. Nothing is changed in place.

Cutting or adding at an end moves nothing physically: places are written anew
from the new tail. Between two places the board is stretched, and fittings keep
their distance to the datum the designer anchored them to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import LEAST_GAP, Batten, Weight
from kelvor.core.shape.curves.outline import (
    NOTCHED_TAILS,
    NoseKind,
    Outline,
    TailKind,
    half_width,
    refitted,
)
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.parts.layers import DeckLayer, Layer

SETTLED = 0.25
"""An end that is cut or changed may reshape the outline this far from the tip [m], no further."""

Map = Callable[[float], float]
T = TypeVar("T")


def with_tail_cut(board: Board, amount: float) -> Board:
    """Cut `amount` [m] off the tail, or add with a negative amount. Nothing further ahead moves."""
    length = _new_length(board, amount)

    def move(x: float) -> float:
        return x - amount

    moved = _moved(board, length, move, fittings_follow=True)
    outline = _end_cut_outline(board, length, amount, at_tail=True)
    return replace(
        moved,
        outline=outline,
        rocker=_end_cut(board.rocker, amount, board.length, at_tail=True),
        thickness=_end_cut(board.thickness, amount, board.length, at_tail=True),
    )


def with_nose_cut(board: Board, amount: float) -> Board:
    """Cut `amount` [m] off the nose, or add with a negative amount. Nothing further aft moves."""
    length = _new_length(board, amount)
    moved = _moved(board, length, lambda x: x, fittings_follow=True)
    outline = _end_cut_outline(board, length, amount, at_tail=False)
    return replace(
        moved,
        outline=outline,
        rocker=_end_cut(board.rocker, amount, board.length, at_tail=False),
        thickness=_end_cut(board.thickness, amount, board.length, at_tail=False),
    )


def with_length(board: Board, length: float, start: float = 0.0, end: float | None = None) -> Board:
    """Reach `length` [m] by stretching what lies between `start` and `end` [m from the tail]."""
    end = board.length if end is None else end
    delta = length - board.length
    if end - start + delta < 0.05:
        raise RefusedEdit(
            f"Between {start * 100:.0f} and {end * 100:.0f} cm there is not enough board to take {-delta * 100:.0f} cm "
            f"out."
        )

    def move(x: float) -> float:
        if x <= start:
            return x
        return x + delta if x >= end else start + (x - start) * (end - start + delta) / (end - start)

    moved = _moved(board, length, move, fittings_follow=False)
    return replace(
        moved,
        outline=replace(_wingers_moved(board.outline, move), batten=_mapped(board.outline.batten, move)),
        rocker=_mapped(board.rocker, move),
        thickness=_mapped(board.thickness, move),
    )


def with_tail_kind(board: Board, kind: TailKind) -> Board:
    """Another tail type, refitted so that the outline away from the tail stays."""
    old, length = board.outline, board.length
    if kind == old.tail:
        return board
    new = replace(old, tail=kind)
    if new.tail_closed != old.tail_closed or new.spacing != old.spacing:
        weights = [w for w in old.batten.weights if w.x > 0.02]
        if not new.tail_closed:
            probe = 0.06 if old.tail_closed else 0.0
            width = float(half_width(old.bare(), length, np.array([probe]))[0])
            weights.insert(0, Weight(0.0, max(width, 0.02)))
        bare = replace(new.bare(), batten=Batten(tuple(weights)))
        new = replace(new, batten=refitted(old.bare(), length, bare, length, 0.0, (SETTLED, length)).batten)
    half = new.batten.weights[0].value
    radius = min(old.corner_radius or 0.3 * half, 0.9 * half) if kind == "squash" else 0.0
    notched = kind in NOTCHED_TAILS
    return replace(
        board,
        outline=replace(
            new,
            corner_radius=radius,
            tail_spread=(old.tail_spread or 1.3 * half) if notched else 0.0,
            tail_depth=(old.tail_depth or 0.8 * half) if notched or kind == "diamond" else 0.0,
        ),
    )


def with_nose_kind(board: Board, kind: NoseKind) -> Board:
    """Another nose type, refitted so that the outline away from the nose stays."""
    old, length = board.outline, board.length
    if kind == old.nose:
        return board
    new = replace(old, nose=kind)
    if new.nose_closed != old.nose_closed or new.spacing != old.spacing:
        weights = [w for w in old.batten.weights if w.x < length - 0.02]
        if not new.nose_closed:
            probe = length - (0.06 if old.nose_closed else 0.0)
            width = float(half_width(old.bare(), length, np.array([probe]))[0])
            weights.append(Weight(length, max(width, 0.02)))
        bare = replace(new.bare(), batten=Batten(tuple(weights)))
        new = replace(new, batten=refitted(old.bare(), length, bare, length, 0.0, (0.0, length - SETTLED)).batten)
    half = new.batten.weights[-1].value
    notched = kind == "notched"
    return replace(
        board,
        outline=replace(
            new,
            nose_radius=min(old.nose_radius or 0.6 * half, 0.9 * half) if kind in ("blunt", "notched") else 0.0,
            nose_depth=(old.nose_depth or 0.5 * half) if notched else 0.0,
            nose_spread=(old.nose_spread or 0.7 * half) if notched else 0.0,
        ),
    )


def with_thickness_scaled(board: Board, factor: float) -> Board:
    """Every thickness times `factor`."""
    return replace(board, thickness=board.thickness.with_values(board.thickness.values * factor))


def with_width_scaled(board: Board, factor: float) -> Board:
    """Every half-width times `factor`."""
    outline = board.outline
    return replace(board, outline=replace(outline, batten=outline.batten.with_values(outline.batten.values * factor)))


def with_place_kept(board: Board, place: Place, shift: float) -> Place:
    """A place moved `shift` metres forward, with its own datum."""
    return Place.at(place.x(board.length, board.mast_x) + shift, place.datum, board.length, board.mast_x)


def _relaid(construction: Construction | None, place: Callable[[Place], Place]) -> Construction | None:
    """A construction whose cloth begins and ends at the places' new ones."""
    if construction is None:
        return None

    def moved(p: Place | None) -> Place | None:
        return None if p is None else place(p)

    return replace(
        construction, plies=tuple(replace(p, start=moved(p.start), end=moved(p.end)) for p in construction.plies)
    )


def _new_length(board: Board, amount: float) -> float:
    length = board.length - amount
    if amount > 0.4 * board.length or amount < -0.4 * board.length:
        raise RefusedEdit(
            f"At an end at most two fifths of the board can be cut or added, not {abs(amount) * 100:.0f} cm."
        )
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

    locks = board.locks
    return replace(
        board,
        length=length,
        crown=schedule(board.crown),
        layers=tuple(_relocated(item, place, schedule) for item in board.layers),
        deck_layers=tuple(_relocated(item, place, schedule) for item in board.deck_layers),
        rails=_relocated(board.rails, place, schedule),
        construction=_relaid(board.construction, place),
        fittings=replace(_relocated(fittings, place, schedule), tracks=tracks),
        locks=replace(locks, zones=tuple(replace(z, start=move(z.start), end=move(z.end)) for z in locks.zones)),
    )


def _relocated(item: T, place: Callable[[Place], Place], schedule: Callable[[Schedule], Schedule]) -> T:
    """A layer, rail or fitting with every place and schedule in it moved."""
    changes: dict[str, Any] = {}
    for field in fields(item):  # type: ignore[arg-type]
        value = getattr(item, field.name)
        if isinstance(value, Place):
            changes[field.name] = place(value)
        elif isinstance(value, Schedule):
            changes[field.name] = schedule(value)
        elif is_dataclass(value):
            changes[field.name] = _relocated(value, place, schedule)
        elif isinstance(value, tuple) and value and is_dataclass(value[0]):
            changes[field.name] = tuple(_relocated(entry, place, schedule) for entry in value)
    return replace(item, **changes)  # type: ignore[type-var]


def _wingers_moved(outline: Outline, move: Map) -> Outline:
    return replace(outline, wingers=tuple(replace(w, x=move(w.x)) for w in outline.wingers))


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
    open_end = not (old.tail_closed if at_tail else old.nose_closed)
    margin = 0.015
    kept = [replace(w, x=x) for x, w in places if margin < x < length - margin]
    if not (old.nose_closed if at_tail else old.tail_closed):
        end_weight = old.batten.weights[-1] if at_tail else old.batten.weights[0]
        kept = [*kept, replace(end_weight, x=length)] if at_tail else [replace(end_weight, x=0.0), *kept]
    bare = old.bare()
    if open_end:
        where = max(amount, 0.0) if at_tail else min(board.length - amount, board.length)
        width = float(half_width(bare, board.length, np.array([where]))[0])
        kept = [Weight(0.0, width), *kept] if at_tail else [*kept, Weight(length, width)]
    keep = (SETTLED, length) if at_tail else (0.0, length - SETTLED)
    if open_end and amount > 0:
        keep = (0.0, length)
    fitted = refitted(bare, board.length, replace(bare, batten=Batten(tuple(kept))), length, shift, keep).batten
    corner = min(old.corner_radius, 0.9 * fitted.weights[0].value) if not old.tail_closed else old.corner_radius
    wingers = tuple(w for w in _wingers_moved(old, lambda x: x - shift).wingers if 0 < w.x < length)
    return replace(old, batten=fitted, corner_radius=corner, wingers=wingers)


def with_layer(board: Board, name: str, layer: Layer | DeckLayer) -> Board:
    """One layer of bottom or deck, found by its name, replaced."""
    if isinstance(layer, DeckLayer):
        return replace(board, deck_layers=tuple(layer if item.name == name else item for item in board.deck_layers))
    return replace(board, layers=tuple(layer if item.name == name else item for item in board.layers))
