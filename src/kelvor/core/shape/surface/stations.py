"""Stations: where along the board sections are taken."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Spacing, in_order, trapezoid_weights
from kelvor.core.shape.curves.outline import LEAST_RUN, NOTCHED_TAILS, fraction_to_u, u_to_fraction
from kelvor.core.shape.parts.layers import (
    PLINTH_EASE,
    Channels,
    CrossStep,
    CutAway,
    Ledge,
    Plinth,
    presence_features,
    wall_run,
)

POINTED_TIP = 0.012
"""A pointed tip rounds in profile over this radius [m]."""
LEAST_STEP = 5e-4
"""Two features closer than this share a station [m]."""


class Key(tuple[float, ...]):
    """Places as a key of what is kept for them, hashed once: a drag asks for the same ones ten times a frame."""

    def __init__(self, _: object) -> None:
        self._hash = tuple.__hash__(self)

    def __hash__(self) -> int:
        return self._hash


@frozen(eq=False)
class Stations:
    """Places of sections.

    `x` [m] and `u` (n,), and the same as tuples, which key cached matrices; `steps` the weights of the trapezoid rule
    over them (n,) [m].
    """

    x: Array
    u: Array
    steps: Array
    x_key: Key
    u_key: Key


def stations_for(board: Board, count: int) -> Stations:
    """About `count` stations, smooth at the tips, with one at every feature of the board."""
    features: list[float] = []
    for place in sorted(round(f, 9) for f in _features(board)):
        if LEAST_STEP < place < board.length - LEAST_STEP and (not features or place - features[-1] > LEAST_STEP):
            features.append(place)
    outline = board.outline
    tail_round = 0.0 if outline.tail_closed else outline.corner_radius
    nose_round = outline.nose_radius if outline.nose in ("blunt", "notched") else 0.0
    return _stations(
        board.length,
        outline.spacing,
        count,
        tuple(features),
        tail_round or (POINTED_TIP if outline.tail_tipped and outline.tail != "round" else 0.0),
        nose_round or (POINTED_TIP if outline.nose == "pointed" else 0.0),
    )


def single_station(board: Board, xs: Array) -> Stations:
    """Stations at given places."""
    inside = np.clip(xs, 0.0, board.length)
    return _keyed(inside, fraction_to_u(inside / board.length, board.outline.spacing))


def _keyed(x: Array, u: Array) -> Stations:
    x.setflags(write=False)
    u.setflags(write=False)
    steps = trapezoid_weights(x)
    steps.setflags(write=False)
    return Stations(x, u, steps, Key(x.tolist()), Key(u.tolist()))


def _features(board: Board) -> list[float]:
    places: list[float] = []
    for batten in (board.outline.batten, board.rocker, board.thickness):
        for i, weight in enumerate(batten.weights):
            after_ruler = i > 0 and batten.weights[i - 1].ruler is not None
            if weight.knuckle or weight.ruler is not None or after_ruler:
                places.append(weight.x)
    places += _outline_features(board)
    length, mast = board.length, board.mast_x
    for layer in board.layers:
        if not layer.on:
            continue
        if isinstance(layer, CutAway):
            hinge = layer.hinge.x(length, mast)
            places += [hinge, hinge - layer.blend]
        elif isinstance(layer, Plinth):
            start, end = layer.start.x(length, mast), layer.end.x(length, mast)
            places += [start - PLINTH_EASE, start, end, end + PLINTH_EASE]
        elif isinstance(layer, CrossStep):
            at = layer.at.x(length, mast)
            places += [at - float(wall_run(layer.height, layer.wall)), at]
        elif isinstance(layer, (Ledge, Channels)):
            places += presence_features(layer.start.x(length, mast), layer.end.x(length, mast), layer.run_out)
            if isinstance(layer, Ledge):
                places += _turns(layer.line.points) + _turns(layer.height.points)
    for item in board.deck_layers:
        if item.on:
            places += _turns(item.amount.points)
    return places


def _turns(points: tuple[tuple[float, float], ...]) -> list[float]:
    """Places of a schedule's points, where a steep one turns."""
    return [x for x, _ in points] if len(points) > 1 else []


def _outline_features(board: Board) -> list[float]:
    """Where wingers, notches and tapers begin and end."""
    outline, places = board.outline, []
    for winger in outline.wingers:
        run = max(winger.run, LEAST_RUN)
        places += [winger.x - run, winger.x] if winger.kind == "winger" else [winger.x - run, winger.x, winger.x + run]
    notched = outline.tail in NOTCHED_TAILS
    if outline.tail_depth > 0 and (notched or outline.tail == "diamond"):
        places.append(outline.tail_depth)
        if outline.tail == "split":  # the rounded end of the slot
            places += [outline.tail_depth * float(np.sin(t)) for t in np.linspace(0.6, 1.4, 5)]
    if outline.nose == "notched" and outline.nose_depth > 0:
        places += [board.length - outline.nose_depth * float(np.sin(t)) for t in (*np.linspace(0.6, 1.4, 5), np.pi / 2)]
    return places


@lru_cache(maxsize=32)
def _stations(
    length: float, spacing: Spacing, count: int, features: tuple[float, ...], tail_round: float, nose_round: float
) -> Stations:
    u = np.linspace(0.0, 1.0, count)
    x = u_to_fraction(u, spacing) * length
    x[0], x[-1] = 0.0, length
    fixed = [0.0, length, *features]
    for radius, at_nose in ((tail_round, False), (nose_round, True)):
        if radius > 0:
            steps = radius * (1 - np.cos(np.linspace(0, np.pi / 2, max(6, count // 10))[1:]))
            fixed += list(length - steps if at_nose else steps)
            distance = length - x if at_nose else x
            x = x[(distance == 0) | (distance > radius * 1.02)]
    x = in_order(np.round(np.concatenate([x, fixed]), 10))
    marks = np.array(sorted(fixed))
    gap = np.gradient(x)
    distance = np.min(np.abs(x[:, None] - marks[None, :]), axis=1)
    keep = (distance < 1e-9) | (distance > 0.35 * gap)
    x = x[keep]
    return _keyed(x, fraction_to_u(x / length, spacing))
