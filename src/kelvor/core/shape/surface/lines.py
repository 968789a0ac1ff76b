"""What varies along the board only: outline, rocker, deck line, rails, sampled at stations."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import cached_rows, clipped, in_order
from kelvor.core.shape.curves.outline import half_width, half_width_cached, inner_edge
from kelvor.core.shape.curves.schedules import Schedule, sampled
from kelvor.core.shape.parts.layers import cut_away_height, plinth_presence
from kelvor.core.shape.surface.stations import Stations


@frozen(eq=False)
class Lines:
    """Lines of a board at its stations, each of shape (n,), in metres unless told.

    `inner` is the notch's half-width, `exponent` that of the upper rail's
    curve, `side_wall` an angle [rad] or None, `plinth` a half-width.
    """

    b: Array
    inner: Array
    bottom: Array
    deck: Array
    crown: Array
    tuck: Array
    apex: Array
    radius: Array
    exponent: Array
    chamfer: Array
    side_wall: Array | None
    plinth: Array


@frozen(eq=False)
class Inset:
    """The outline of a core: places, half-widths and notch, moved inward by the rail's skin [m], shape (n,)."""

    x: Array
    half_width: Array
    inner: Array


def sample(schedule: Schedule, stations: Stations) -> Array:
    """A schedule at the stations."""
    return sampled(schedule, stations.x_key)


def board_lines(board: Board, stations: Stations, inset: Inset | None) -> Lines:
    """The lines of the finished board, or of its core where an inset outline is given."""
    x, outline, skin = stations.x, board.outline, board.skin
    if inset is None:
        b = np.maximum(half_width_cached(outline, board.length, stations.u_key, x), 0.0)
        # a round tip's half-width goes with the root of the distance: rounding alone would leave microns
        b[(outline.tail_tipped & (x < 1e-9)) | (outline.nose_closed & (x > board.length - 1e-9))] = 0.0
        inner = inner_edge(outline, board.length, x)
    else:
        b, inner = np.maximum(inset.half_width, 0.0), inset.inner
    rocker = cached_rows(board.rocker.structure(), stations.x_key) @ board.rocker.values
    thick = cached_rows(board.thickness.structure(), stations.x_key) @ board.thickness.values
    deck = rocker + thick - (skin.deck if inset is not None else 0.0)
    bottom = rocker + (skin.bottom if inset is not None else 0.0)
    if (cut := board.cut_away) is not None:
        bottom = bottom + cut_away_height(cut, cut.hinge.x(board.length, board.mast_x), x)
    rails = board.rails
    room = np.maximum(b - inner, 0.0)
    tuck = np.minimum(sample(rails.tuck, stations), 0.5 * room)
    fullness = sample(rails.fullness, stations)
    plinth = np.zeros_like(b)
    if (strip := board.plinth) is not None:
        start, end = strip.start.x(board.length, board.mast_x), strip.end.x(board.length, board.mast_x)
        plinth = np.minimum(strip.width / 2, 0.8 * (b - tuck)) * plinth_presence(start, end, x)
    wall = None if rails.side_wall is None else sample(rails.side_wall, stations)
    return Lines(
        b=b,
        inner=inner,
        bottom=bottom,
        deck=deck,
        crown=sample(board.crown, stations) * np.minimum(1.0, b / 0.06),
        tuck=tuck,
        apex=clipped(sample(rails.apex, stations), 0.02, 0.98),
        radius=sample(rails.edge_radius, stations),
        exponent=np.ones_like(b) if wall is not None else 1.0 + 2.2 * fullness + 2.8 * fullness * fullness,
        chamfer=np.minimum(sample(rails.chamfer, stations), 0.8 * room),
        side_wall=wall,
        plinth=plinth,
    )


def inset_outline(board: Board, stations: Stations, skin: float) -> Inset:
    """The outline moved inward by `skin` [m]; notches grow by as much."""
    length, outline = board.length, board.outline
    dense = in_order(np.concatenate([stations.x, np.linspace(0, length, 801)]))
    b = half_width(outline, length, dense)
    db = np.gradient(b, dense, edge_order=2)
    norm = np.hypot(1.0, db)
    ox, oy = dense + skin * db / norm, b - skin / norm
    if outline.tail == "round":
        ox[0], oy[0] = skin, 0.0
    if outline.nose == "round":
        ox[-1], oy[-1] = length - skin, 0.0
    inside = oy >= 0
    if not outline.tail_tipped:
        inside &= ox >= skin
    order = np.argsort(ox[inside])
    px, py = ox[inside][order], oy[inside][order]
    start = float(px[0]) if outline.tail_tipped and outline.tail != "round" else skin
    end = float(px[-1]) if outline.nose == "pointed" else length - skin
    x = start + stations.x / length * (end - start)
    half = np.interp(x, px, py)
    if outline.tail_tipped:
        half[0] = 0.0
    if outline.nose_closed:
        half[-1] = 0.0
    notch = inner_edge(outline, length, x)
    return Inset(x, half, np.where(notch > 0, notch + skin, 0.0))
