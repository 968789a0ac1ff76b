"""From the board to its sections: half-curves at every station.

One closed half-curve a station, from the bottom's centre out to the apex and
back along the deck, mirrored by symmetry. All stations are computed at once.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

import numpy as np

from kelvor.core.findings import Finding, Severity
from kelvor.core.shape.battens import Array, cached_rows
from kelvor.core.shape.board import Board
from kelvor.core.shape.layers import (
    PLINTH_WALL,
    ShapingLayer,
    crease,
    cut_away_height,
    layer_height,
    plinth_presence,
)
from kelvor.core.shape.outline import half_width, half_width_cached, tip_radius
from kelvor.core.shape.schedules import Schedule, sampled
from kelvor.core.shape.stations import POINTED_TIP, Stations, single_station, stations_for

LEAST_RAIL = 0.001
"""A rail lower than this is none [m]."""
LEAST_THICKNESS = 0.003
"""A board thinner than this at the centreline is none [m]."""
TIP_RADIUS_RANGE = (0.006, 0.04)
"""In profile a tip of no width rounds over its plan radius, kept within this [m]."""
SNAP = 3e-4
"""Crease lines closer than this are one [m]; it keeps wedges out of the surface."""


class Resolution(Enum):
    """Stations and columns of the surface: (stations, bottom, edge, lower rail, upper rail, deck)."""

    COARSE = (81, 10, 3, 5, 6, 6)
    NORMAL = (161, 16, 4, 7, 10, 8)
    FINE = (321, 28, 8, 14, 20, 16)


@dataclass(frozen=True, slots=True)
class Columns:
    """Where the parts of a half-curve begin: column indices of the bottom edge, the apex and the deck edge."""

    edge: int
    apex: int
    deck_edge: int
    count: int


@dataclass(frozen=True, slots=True, eq=False)
class Sections:
    """The sections of one board. Arrays have shape (n,) unless told.

    Attributes
    ----------
    x, half_width, keel, deck:
        Place, outline, bottom and deck heights at the centreline [m], read on the
        lines, before a tip is rounded.
    edge_y, edge_z:
        The bottom edge (start of the tuck), before its radius [m].
    apex_z, deck_edge_y:
        Height of the widest point, half-place of the deck edge [m].
    y, z:
        The half-curves, shape (n, m).
    """

    board: Board
    stations: Stations
    half_width: Array
    keel: Array
    deck: Array
    edge_y: Array
    edge_z: Array
    apex_z: Array
    deck_edge_y: Array
    y: Array
    z: Array
    columns: Columns

    @property
    def x(self) -> Array:
        """Places of the stations [m]."""
        return self.stations.x


@dataclass(frozen=True, slots=True, eq=False)
class _Lines:
    """Everything that varies along the board only, shape (n,)."""

    b: Array
    rocker: Array
    deck: Array
    crown: Array
    tuck: Array
    apex: Array
    radius: Array
    exponent: Array
    chamfer: Array
    plinth: Array  # half-width of the plinth
    layers: tuple[tuple[ShapingLayer, Array, Array], ...]  # with amount and layout width


def sections(board: Board, resolution: Resolution = Resolution.NORMAL) -> Sections | tuple[Finding, ...]:
    """The sections of a board, or the fatal findings that leave none."""
    return _sections(board, stations_for(board, resolution.value[0]), resolution)


def sections_at(board: Board, xs: Array, resolution: Resolution = Resolution.FINE) -> Sections | tuple[Finding, ...]:
    """Sections at given places [m]."""
    return _sections(board, single_station(board, np.asarray(xs, float)), resolution)


def core_sections(board: Board, resolution: Resolution = Resolution.NORMAL) -> Sections | tuple[Finding, ...]:
    """The sections of the core: the finished surface moved inward by the skin.

    Half-widths move along the plan's normal by the rail skin, deck and bottom
    by their skins; the ends move in by the rail skin. Stations keep their
    order but not their places, so `Sections.x` is that of the core.
    """
    stations = stations_for(board, resolution.value[0])
    skin = board.skin.rail
    x, b = _inset_outline(board, stations, skin)
    inner = single_station(board, x)
    return _sections(board, inner, resolution, inset_half_width=b)


def _inset_outline(board: Board, stations: Stations, skin: float) -> tuple[Array, Array]:
    """Places and half-widths of the outline moved inward by `skin` [m]."""
    length = board.length
    dense = np.unique(np.concatenate([stations.x, np.linspace(0, length, 801)]))
    b = half_width(board.outline, length, dense)
    db = np.gradient(b, dense, edge_order=2)
    round_tail, round_nose = board.outline.tail == "round", board.outline.nose == "round"
    norm = np.hypot(1.0, db)
    ox, oy = dense + skin * db / norm, b - skin / norm
    if round_tail:
        ox[0], oy[0] = skin, 0.0
    if round_nose:
        ox[-1], oy[-1] = length - skin, 0.0
    inside = oy >= 0
    if not round_tail and board.outline.tail != "round":
        inside &= ox >= skin
    order = np.argsort(ox[inside])
    px, py = ox[inside][order], oy[inside][order]
    start, end = skin, (length - skin if board.outline.nose != "pointed" else float(px[-1]))
    t = stations.x / length
    x = start + t * (end - start)
    inner = np.interp(x, px, py)
    if round_tail:
        inner[0] = 0.0
    if board.outline.nose != "chopped":
        inner[-1] = 0.0
    return x, inner


def _sample(schedule: Schedule, stations: Stations) -> Array:
    return sampled(schedule, stations.x_key)


def _lines(board: Board, stations: Stations, inset_half_width: Array | None) -> _Lines:
    x = stations.x
    inset = inset_half_width is not None
    skin = board.skin
    b = half_width_cached(board.outline, board.length, stations.u_key, x) if inset_half_width is None else inset_half_width
    b = np.maximum(b, 0.0)
    if not inset:  # a round tip's half-width goes with the root of the distance: rounding alone would leave microns
        closed_tail, closed_nose = board.outline.tail == "round", board.outline.nose != "chopped"
        b[(closed_tail & (x < 1e-9)) | (closed_nose & (x > board.length - 1e-9))] = 0.0
    rocker = cached_rows(board.rocker.structure(), stations.x_key) @ board.rocker.values
    thick = cached_rows(board.thickness.structure(), stations.x_key) @ board.thickness.values
    deck = rocker + thick - (skin.deck if inset else 0.0)
    bottom = rocker + (skin.bottom if inset else 0.0)
    if (cut := board.cut_away) is not None:
        bottom = bottom + cut_away_height(cut, cut.hinge.x(board.length, board.mast_x), x)
    rails = board.rails
    tuck = np.minimum(_sample(rails.tuck, stations), 0.5 * b)
    fullness = _sample(rails.fullness, stations)
    plinth = np.zeros_like(b)
    if (strip := board.plinth) is not None:
        start, end = strip.start.x(board.length, board.mast_x), strip.end.x(board.length, board.mast_x)
        plinth = np.minimum(strip.width / 2, 0.8 * (b - tuck)) * plinth_presence(start, end, x)
    layers = tuple(
        (layer, _sample(layer.amount, stations), _sample(layer.layout.width, stations))
        for layer in board.layers
        if isinstance(layer, ShapingLayer) and layer.on
    )
    return _Lines(
        b=b, rocker=bottom, deck=deck, crown=_sample(board.crown, stations) * np.minimum(1.0, b / 0.06),
        tuck=tuck, apex=np.clip(_sample(rails.apex, stations), 0.02, 0.98), radius=_sample(rails.edge_radius, stations),
        exponent=1.0 + 2.2 * fullness + 2.8 * fullness * fullness,
        chamfer=np.minimum(_sample(rails.chamfer, stations), 0.8 * b), plinth=plinth, layers=layers,
    )  # fmt: skip


class _Bottom:
    """The bottom as a function of the half-place y, for all stations at once."""

    def __init__(self, board: Board, x: Array, lines: _Lines, edge_y: Array) -> None:
        self._lines, self._x = lines, x
        self._pw = lines.plinth[:, None]
        self._edge = np.maximum(edge_y[:, None] - self._pw, 0.0)
        self._level: Array | None = None
        strip = board.plinth
        if strip is not None:
            keel = self(np.zeros((len(x), 1)))[:, 0]
            start, end = strip.start.x(board.length, board.mast_x), strip.end.x(board.length, board.mast_x)
            middle = (start + end) / 2
            if len(x) > 1 and x[0] <= middle <= x[-1]:
                plane = np.interp(middle, x, keel) + board.base.slope * (x - middle)
                presence = plinth_presence(start, end, x)
                self._level = ((plane - keel) * presence)[:, None]

    def __call__(self, y: Array) -> Array:
        lines = self._lines
        z = np.repeat(lines.rocker[:, None], y.shape[1], axis=1)
        if lines.layers:
            outboard = np.maximum(y - self._pw, 0.0) if lines.plinth.any() else y
            for layer, amount, width in lines.layers:
                z += layer_height(layer, outboard, self._edge, amount[:, None], width[:, None])
        if self._level is not None:
            z += self._level * np.clip(1.0 - (y - self._pw) / PLINTH_WALL, 0.0, 1.0)
        return z

    def creases(self) -> list[Array]:
        """Half-places where the bottom's slope breaks, each (n,)."""
        found: list[Array] = []
        pw, edge = self._lines.plinth, self._edge[:, 0]
        if pw.any():
            found.append(pw)
            if self._level is not None:
                found.append(np.where(pw > 0, pw + PLINTH_WALL, 0.0))
        for layer, _, width in self._lines.layers:
            line = crease(layer, edge, width)
            if line is not None:
                found.append(pw + line)
        return found


def _sections(
    board: Board, stations: Stations, resolution: Resolution, inset_half_width: Array | None = None
) -> Sections | tuple[Finding, ...]:
    _, n_bottom, n_edge, n_lower, n_upper, n_deck = resolution.value
    x = stations.x
    lines = _lines(board, stations, inset_half_width)
    b = lines.b
    edge_y = b - lines.tuck
    bottom = _Bottom(board, x, lines, edge_y)
    step = 1e-5
    ends = bottom(np.stack([np.zeros_like(b), np.maximum(edge_y - step, 0.0), edge_y], axis=1))
    keel, edge_z = ends[:, 0], ends[:, 2]
    slope = np.where(edge_y > 2 * step, (ends[:, 2] - ends[:, 1]) / step, 0.0)

    deck_y = b - lines.chamfer
    deck_edge_z = lines.deck - lines.crown
    start, end = (float(x[0]), float(x[-1])) if inset_half_width is not None else (0.0, board.length)
    failures = _failures(board, x, b, lines.deck - keel, deck_edge_z - edge_z, (start, end))
    if failures:
        return failures
    apex_z = edge_z + lines.apex * np.maximum(deck_edge_z - edge_z, 1e-6)
    lower, upper = apex_z - edge_z, deck_edge_z - apex_z
    deck_slope = np.maximum(-2 * lines.crown / np.maximum(deck_y, 1e-6), -0.5 * upper / np.maximum(lines.chamfer, 1e-6))

    # the bottom edge: a conic between bottom and tuck, a circle where both are straight
    tangent = np.hypot(2 * lines.tuck, lower)
    turn = np.abs(np.arctan2(lower, 2 * lines.tuck) - np.arctan(slope))
    creases = bottom.creases()
    last = np.max(creases, axis=0) if creases else np.zeros_like(b)
    room = np.where(last < edge_y - SNAP, edge_y - last, edge_y)
    reach = np.minimum(np.minimum(lines.radius * np.tan(turn / 2), 0.45 * room), 0.3 * tangent)
    y1 = np.maximum(edge_y - reach / np.hypot(1.0, slope), 0.0)
    s2 = reach / np.maximum(tangent, 1e-9)

    marks = _panels(creases, y1)
    per_panel = max(3, -(-n_bottom // (marks.shape[1] - 1)))
    t = np.linspace(0.0, 1.0, per_panel + 1)[None, None, 1:]
    inner = marks[:, :-1, None] + t * (marks[:, 1:, None] - marks[:, :-1, None])
    by = np.concatenate([np.zeros((len(x), 1)), inner.reshape(len(x), -1)], axis=1)
    bz = bottom(by)

    q = np.linspace(0.0, 1.0, n_edge + 1)[None, 1:]
    weight = np.cos(turn / 2)[:, None]
    c0, c1, c2 = (1 - q) ** 2, 2 * weight * q * (1 - q), q**2
    total = c0 + c1 + c2
    tuck_y, tuck_z = _tuck(edge_y, edge_z, lines.tuck, lower, s2[:, None])
    ey = (c0 * y1[:, None] + c1 * edge_y[:, None] + c2 * tuck_y) / total
    ez = (c0 * bz[:, -1:] + c1 * edge_z[:, None] + c2 * tuck_z) / total

    s = s2[:, None] + (1 - s2[:, None]) * np.linspace(0.0, 1.0, n_lower + 1)[None, 1:]
    ly, lz = _tuck(edge_y, edge_z, lines.tuck, lower, s)

    theta = np.linspace(np.pi / 2, 0.0, n_upper + 1)[None, 1:]
    power = (2.0 / lines.exponent)[:, None]
    rise = np.sin(theta) ** power
    uy = deck_y[:, None] + lines.chamfer[:, None] * rise
    uz = (
        deck_edge_z[:, None]
        + (deck_slope * lines.chamfer)[:, None] * rise
        - (upper + deck_slope * lines.chamfer)[:, None] * (1 - np.cos(theta) ** power)
    )

    share = np.linspace(1.0, 0.0, n_deck + 1)[None, 1:]
    dy = deck_y[:, None] * share
    dz = lines.deck[:, None] - lines.crown[:, None] * share**2

    y = np.concatenate([by, ey, ly, uy, dy], axis=1)
    z = np.concatenate([bz, ez, lz, uz, dz], axis=1)
    z = _round_tips(board, x, z, apex_z, start, end)
    n_by = by.shape[1]
    columns = Columns(n_by - 1, n_by + n_edge + n_lower - 1, n_by + n_edge + n_lower + n_upper - 1, y.shape[1])
    for array in (y, z):
        array.setflags(write=False)
    return Sections(board, stations, b, keel, lines.deck, edge_y, edge_z, apex_z, deck_y, y, z, columns)


def _tuck(edge_y: Array, edge_z: Array, tuck: Array, lower: Array, s: Array) -> tuple[Array, Array]:
    """The lower rail at share `s` of its height: a parabola, upright at the apex."""
    return edge_y[:, None] + tuck[:, None] * (1 - (1 - s) ** 2), edge_z[:, None] + lower[:, None] * s


def _panels(creases: list[Array], y1: Array) -> Array:
    """Boundaries of the bottom's panels from the centre to y1, in order, with near ones made one."""
    inner = np.sort(np.stack([np.zeros_like(y1), *creases], axis=1), axis=1)
    inner = np.minimum(inner, y1[:, None])
    for j in range(1, inner.shape[1]):
        inner[:, j] = np.where(inner[:, j] - inner[:, j - 1] < SNAP, inner[:, j - 1], inner[:, j])
    close = y1[:, None] - inner < SNAP
    inner = np.where(close & (inner > 0), y1[:, None], inner)
    inner[:, 0] = 0.0
    return np.concatenate([inner, y1[:, None]], axis=1)


def _round_tips(board: Board, x: Array, z: Array, apex_z: Array, start: float, end: float) -> Array:
    """Round the profile of tips of no width, at `start` and `end`, to one vertex at apex height."""
    low, high = TIP_RADIUS_RANGE
    ends = []
    if board.outline.tail == "round":
        ends.append((x - start, tip_radius(board.outline, board.length, False)))
    if board.outline.nose == "round":
        ends.append((end - x, tip_radius(board.outline, board.length, True)))
    elif board.outline.nose == "pointed":
        ends.append((end - x, POINTED_TIP))
    for distance, radius in ends:
        e = np.clip(distance / min(max(radius, low), high), 0.0, 1.0)
        near = e < 1
        if near.any():
            g, apex = np.sqrt(1 - (1 - e[near]) ** 2)[:, None], apex_z[near][:, None]
            z[near] = apex + g * (z[near] - apex)
    return z


def _failures(
    board: Board, x: Array, b: Array, thickness: Array, rail: Array, span: tuple[float, float]
) -> tuple[Finding, ...]:
    """Where no section can be drawn between the ends of `span` [m]."""
    found: list[Finding] = []
    ends_closed = np.ones_like(x, bool)
    ends_closed[0] = board.outline.tail != "round" or x[0] > span[0] + 1e-3
    ends_closed[-1] = board.outline.nose == "chopped" or x[-1] < span[1] - 1e-3
    if not (np.isfinite(b).all() and np.isfinite(thickness).all() and np.isfinite(rail).all()):
        return (Finding(code="not_finite", text="The lines of this board have no finite value", severity=Severity.FATAL),)
    if (bad := (b <= 1e-5) & ends_closed).any():
        i = int(np.argmax(bad))
        found.append(Finding(
            code="no_width", severity=Severity.FATAL, place=float(x[i]), value=float(b[i]), limit=1e-5,
            text=f"The outline crosses the centreline {x[i] * 100:.1f} cm from the tail",
            advice="Move the weights beside it outward, or add one."))  # fmt: skip
    i = int(np.argmin(thickness))
    if thickness[i] < LEAST_THICKNESS:
        found.append(Finding(
            code="deck_meets_bottom", severity=Severity.FATAL, place=float(x[i]), value=float(thickness[i]),
            limit=LEAST_THICKNESS,
            text=f"Deck and bottom meet {x[i] * 100:.1f} cm from the tail ({thickness[i] * 1000:.1f} mm left)",
            advice=f"Leave at least {LEAST_THICKNESS * 1000:.0f} mm: thicken there, or take less off the bottom."))  # fmt: skip
    wide = np.where(b > 0.004, rail, np.inf)
    i = int(np.argmin(wide))
    if wide[i] < LEAST_RAIL:
        found.append(Finding(
            code="rail_gone", severity=Severity.FATAL, place=float(x[i]), value=float(wide[i]), limit=LEAST_RAIL,
            text=f"No rail is left {x[i] * 100:.1f} cm from the tail: the bottom's edge comes within "
                 f"{wide[i] * 1000:.1f} mm of the deck's",
            advice="Thicken there, or take off V, belly, bevel or crown."))  # fmt: skip
    return tuple(found)
