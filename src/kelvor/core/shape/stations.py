"""Stations: where along the board sections are taken."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from kelvor.core.shape.battens import Array
from kelvor.core.shape.board import Board
from kelvor.core.shape.layers import PLINTH_EASE
from kelvor.core.shape.outline import NoseKind, TailKind, fraction_to_u, u_to_fraction

POINTED_TIP = 0.012
"""A pointed tip rounds in profile over this radius [m]."""
LEAST_STEP = 5e-4
"""Two features closer than this share a station [m]."""


@dataclass(frozen=True, slots=True, eq=False)
class Stations:
    """Places of sections.

    `x` [m] and `u` (n,), and the same as tuples, which key cached matrices.
    """

    x: Array
    u: Array
    x_key: tuple[float, ...]
    u_key: tuple[float, ...]


def stations_for(board: Board, count: int) -> Stations:
    """About `count` stations, smooth at the tips, with one at every feature of the board."""
    features: list[float] = []
    for place in sorted(round(f, 9) for f in _features(board)):
        if LEAST_STEP < place < board.length - LEAST_STEP and (not features or place - features[-1] > LEAST_STEP):
            features.append(place)
    corner = board.outline.corner_radius if board.outline.tail == "squash" else 0.0
    return _stations(board.length, board.outline.tail, board.outline.nose, count, tuple(features), corner)


def single_station(board: Board, xs: Array) -> Stations:
    """Stations at given places."""
    inside = np.clip(xs, 0.0, board.length)
    return _keyed(inside, fraction_to_u(inside / board.length, board.outline.tail, board.outline.nose))


def _keyed(x: Array, u: Array) -> Stations:
    x.setflags(write=False)
    u.setflags(write=False)
    return Stations(x, u, tuple(x.tolist()), tuple(u.tolist()))


def _features(board: Board) -> list[float]:
    places: list[float] = []
    for batten in (board.outline.batten, board.rocker, board.thickness):
        for i, weight in enumerate(batten.weights):
            after_ruler = i > 0 and batten.weights[i - 1].ruler is not None
            if weight.knuckle or weight.ruler is not None or after_ruler:
                places.append(weight.x)
    if (cut := board.cut_away) is not None:
        hinge = cut.hinge.x(board.length, board.mast_x)
        places += [hinge, hinge - cut.blend]
    if (plinth := board.plinth) is not None:
        start, end = plinth.start.x(board.length, board.mast_x), plinth.end.x(board.length, board.mast_x)
        places += [start - PLINTH_EASE, start, end, end + PLINTH_EASE]
    return places


@lru_cache(maxsize=32)
def _stations(
    length: float, tail: TailKind, nose: NoseKind, count: int, features: tuple[float, ...], corner: float
) -> Stations:
    u = np.linspace(0.0, 1.0, count)
    x = u_to_fraction(u, tail, nose) * length
    x[0], x[-1] = 0.0, length
    fixed = [0.0, length, *features]
    if corner > 0:
        fixed += [corner * (1 - np.cos(t)) for t in np.linspace(0, np.pi / 2, max(4, count // 10))[1:]]
        x = x[(x == 0) | (x > corner * 1.02)]
    if nose == "pointed":
        fixed += [length - POINTED_TIP * (1 - np.cos(t)) for t in np.linspace(0, np.pi / 2, 6)[1:]]
        x = x[(x == length) | (x < length - POINTED_TIP * 1.02)]
    x = np.unique(np.round(np.concatenate([x, fixed]), 10))
    marks = np.array(sorted(fixed))
    gap = np.gradient(x)
    distance = np.min(np.abs(x[:, None] - marks[None, :]), axis=1)
    keep = (distance < 1e-9) | (distance > 0.35 * gap)
    x = x[keep]
    return _keyed(x, fraction_to_u(x / length, tail, nose))
