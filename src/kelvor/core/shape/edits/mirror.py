"""Boards that are the same end for end: one half is copied onto the other."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar

from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import NoseKind, Outline, TailKind
from kelvor.core.shape.curves.schedules import Schedule

T = TypeVar("T")
NEAR = 1e-6
MIDDLE = 1e-3
"""A weight this close to half length stands in the middle [m]."""
_TAIL_OF: dict[NoseKind, TailKind] = {
    "round": "round",
    "pointed": "pin",
    "blunt": "squash",
    "chopped": "chopped",
    "notched": "split",
}
_NOSE_OF: dict[TailKind, NoseKind] = {"round": "round", "pin": "pointed", "squash": "blunt", "square": "chopped",
                                      "chopped": "chopped",
                                      "swallow": "notched", "split": "notched", "diamond": "chopped"}  # fmt: skip


def same_end_for_end(board: Board, before: Board | None = None) -> Board:
    """The board with one half mirrored onto the other.

    The fore half is kept, unless the aft half differs more from `before`.
    Battens, schedules and outline ends are mirrored; fittings keep their places.
    """
    length = board.length

    def keep_aft(now: Any, then: Any) -> bool:
        if then is None or before is None or abs(before.length - length) > NEAR:
            return False
        return _change(now, then, length, fore=False) > _change(now, then, length, fore=True)

    def batten(now: Batten, then: Batten | None) -> Batten:
        return _mirrored_batten(now, length, aft=keep_aft(now, then))

    def schedule(now: Schedule, then: Schedule | None) -> Schedule:
        return now if now.is_constant else _mirrored_schedule(now, length, aft=keep_aft(now, then))

    def each(now: T, then: Any) -> T:
        changes: dict[str, Any] = {}
        for field in fields(now):  # type: ignore[arg-type]
            value, old = getattr(now, field.name), getattr(then, field.name, None)
            if isinstance(value, Schedule):
                changes[field.name] = schedule(value, old)
            elif is_dataclass(value) and field.name == "layout":
                changes[field.name] = each(value, old)
        return replace(now, **changes)  # type: ignore[type-var]

    old_layers = {layer.name: layer for layer in (*before.layers, *before.deck_layers)} if before else {}
    return replace(
        board,
        outline=_mirrored_outline(board, before),
        rocker=batten(board.rocker, before.rocker if before else None),
        thickness=batten(board.thickness, before.thickness if before else None),
        crown=schedule(board.crown, before.crown if before else None),
        rails=each(board.rails, before.rails if before else None),
        layers=tuple(each(layer, old_layers.get(layer.name)) for layer in board.layers),
        deck_layers=tuple(each(layer, old_layers.get(layer.name)) for layer in board.deck_layers),
    )


def _half(line: Batten | Schedule, length: float, *, fore: bool) -> Any:
    middle = length / 2
    if isinstance(line, Batten):
        return [w for w in line.weights if (w.x > middle + MIDDLE if fore else w.x < middle - MIDDLE)]
    return [p for p in line.points if (p[0] > middle + MIDDLE if fore else p[0] < middle - MIDDLE)]


def _change(now: Batten | Schedule, then: Batten | Schedule, length: float, *, fore: bool) -> float:
    """How much one half of a line changed [m]: by its points where they are as many, else without limit."""
    a, b = (
        [(w.x, w.value) if isinstance(w, Weight) else w for w in _half(line, length, fore=fore)] for line in (now, then)
    )
    if len(a) != len(b):
        return float("inf")
    return float(sum(abs(p - q) + abs(u - v) for (p, u), (q, v) in zip(a, b, strict=True)))


def _mirrored_batten(line: Batten, length: float, *, aft: bool) -> Batten:
    """One half, the weight in the middle, and the half mirrored."""
    half: list[Weight] = _half(line, length, fore=not aft)
    middle = [replace(w, x=length / 2) for w in line.weights if abs(w.x - length / 2) <= MIDDLE]
    pairs = zip(line.weights[:-1], line.weights[1:], strict=True)
    across_middle = next((a.ruler for a, b in pairs if a.ruler and a.x < length / 2 < b.x), None)
    other = [replace(w, x=round(length - w.x, 9), ruler=None) for w in reversed(half)]
    whole = [*half, *middle, *other] if aft else [*other, *middle, *half]
    spans = {
        (round(a.x, 9), round(b.x, 9)): a.ruler
        for a, b in zip(line.weights[:-1], line.weights[1:], strict=True)
        if a.ruler
    }
    kept: list[Weight] = []
    for i, w in enumerate(whole):
        ruler: Ruler | None = None
        if i + 1 < len(whole):
            here = (round(w.x, 9), round(whole[i + 1].x, 9))
            there = (round(length - here[1], 9), round(length - here[0], 9))
            own, mirror = spans.get(here), spans.get(there)
            on_kept = (here[1] <= length / 2 + NEAR) if aft else (here[0] >= length / 2 - NEAR)
            across = here[0] < length / 2 < here[1]
            if on_kept:
                ruler = own
            elif across and across_middle is not None:
                source = across_middle
                blend = source.blend_aft if aft else source.blend_fore
                ruler = Ruler(blend, blend)
            elif mirror is not None:
                ruler = Ruler(mirror.blend_fore, mirror.blend_aft)
        kept.append(replace(w, ruler=ruler))
    return Batten(tuple(kept))


def _mirrored_schedule(line: Schedule, length: float, *, aft: bool) -> Schedule:
    half = _half(line, length, fore=not aft)
    middle = [(length / 2, v) for x, v in line.points if abs(x - length / 2) <= MIDDLE]
    other = [(round(length - x, 9), v) for x, v in reversed(half)]
    points = (*half, *middle, *other) if aft else (*other, *middle, *half)
    return Schedule(tuple(points)) if points else line


def _mirrored_outline(board: Board, before: Board | None) -> Outline:
    outline = board.outline
    old = before.outline if before is not None and abs(before.length - board.length) < NEAR else None
    aft = old is not None and _change(outline.batten, old.batten, board.length, fore=False) > _change(
        outline.batten, old.batten, board.length, fore=True
    )
    tail_changed = old is not None and (
        outline.tail,
        outline.corner_radius,
        outline.tail_depth,
        outline.tail_spread,
    ) != (old.tail, old.corner_radius, old.tail_depth, old.tail_spread)
    batten = _mirrored_batten(outline.batten, board.length, aft=aft)
    if tail_changed:
        return replace(
            outline,
            batten=batten,
            nose=_NOSE_OF[outline.tail],
            nose_radius=outline.corner_radius,
            nose_depth=outline.tail_depth,
            nose_spread=outline.tail_spread,
        )
    return replace(
        outline,
        batten=batten,
        tail=_TAIL_OF[outline.nose],
        corner_radius=outline.nose_radius,
        tail_depth=outline.nose_depth,
        tail_spread=outline.nose_spread,
    )
