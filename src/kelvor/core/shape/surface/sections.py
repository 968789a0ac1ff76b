"""From the board to its sections: half-curves at every station.

One closed half-curve a station, from the bottom's centre out to the apex and
back along the deck, mirrored by symmetry. All stations are computed at once.
"""

from __future__ import annotations

from enum import Enum
from functools import cache, lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.findings import Finding, Severity
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import clipped
from kelvor.core.shape.curves.outline import NOTCHED_TAILS, tip_radius
from kelvor.core.shape.surface.bottom import Bottom, Deck
from kelvor.core.shape.surface.lines import Inset, Lines, board_lines, inset_outline
from kelvor.core.shape.surface.stations import POINTED_TIP, Stations, single_station, stations_for

LEAST_RAIL = 0.001
"""A rail lower than this is none [m]."""
NO_WIDTH = 1e-7
"""An outline this close to the centreline, away from a tip, has crossed it [m]; a pointed tip comes closer
than a hair.
"""
LEAST_THICKNESS = 0.003
"""A board thinner than this at the centreline is none [m]."""
LEAST_TIP = 0.004
"""Each tip beside a notch keeps this width [m]."""
TIP_RADIUS_RANGE = (0.006, 0.04)
"""In profile a tip of no width rounds over its plan radius, kept within this [m]."""
SNAP = 3e-4
"""Crease lines closer than this are one [m]; it keeps wedges out of the surface."""
MID_SHARE = 0.5
"""The mid rocker line runs at this share of the bottom's half-width."""


class Resolution(Enum):
    """Stations and columns of the surface: (stations, bottom, edge, lower rail, upper rail, deck)."""

    COARSE = (81, 10, 3, 5, 6, 6)
    NORMAL = (161, 16, 4, 7, 10, 8)
    FINE = (321, 28, 8, 14, 20, 16)


@frozen
class Columns:
    """Column indices of a half-curve: bottom edge, apex, deck edge, the deck's innermost point (`top`), and how many.

    Boards with a notch have one column more than `top`: the notch's wall, which
    closes the half-curve.
    """

    edge: int
    apex: int
    deck_edge: int
    top: int
    count: int


@frozen(eq=False)
class Sections:
    """The sections of one board. Arrays have shape (n,) unless told.

    Attributes
    ----------
    x, half_width, keel, deck:
        Place, outline, bottom and deck heights at the centreline [m], read on the
        lines, before a tip is rounded; in a notch, as if there were none.
    mid:
        Bottom height at half its half-width [m].
    inner:
        Half-width of the notch in tail or nose [m], 0 elsewhere.
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
    inner: Array
    keel: Array
    mid: Array
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
    inset = inset_outline(board, stations_for(board, resolution.value[0]), board.skin.rail)
    return _sections(board, single_station(board, inset.x), resolution, inset)


def bottom_shares(shape: Sections, share: float) -> tuple[Array, list[tuple[str, Array]]]:
    """What each bottom layer adds at a share of the bottom's half-width: places (n,), and (name, heights (n,)) in
    order.
    """
    lines = board_lines(shape.board, shape.stations, None)
    bottom = Bottom(shape.board, shape.stations, lines)
    return shape.x, [(name, height[:, 0]) for name, height in bottom.shares(share * shape.edge_y[:, None])]


def groove_depths(shape: Sections) -> Array:
    """Depth of channels at the bottom's points of the half-curves (n, edge + 1) [m]."""
    y = shape.y[:, : shape.columns.edge + 1]
    if not any(layer.on and layer.kind == "channels" for layer in shape.board.layers):
        return np.zeros_like(y)
    return Bottom(shape.board, shape.stations, board_lines(shape.board, shape.stations, None)).grooves(y)


def _sections(
    board: Board, stations: Stations, resolution: Resolution, inset: Inset | None = None
) -> Sections | tuple[Finding, ...]:
    _, n_bottom, n_edge, n_lower, n_upper, n_deck = resolution.value
    x = stations.x
    lines = board_lines(board, stations, inset)
    b, inner = lines.b, lines.inner
    edge_y = b - lines.tuck
    step = 1e-5
    probe = np.stack([np.zeros_like(b), np.maximum(edge_y - step, 0.0), edge_y, MID_SHARE * edge_y], axis=1)
    bottom = Bottom(board, stations, lines, probe)
    ends = bottom.probed
    keel, edge_z = ends[:, 0], ends[:, 2]
    slope = np.where(edge_y > 2 * step, (ends[:, 2] - ends[:, 1]) / step, 0.0)

    apex_z, chamfer = _apex(lines, bottom(edge_y[:, None], smooth=True)[:, 0] if bottom.has_cuts else edge_z)
    deck_y = b - chamfer
    deck = Deck(board, stations, lines, deck_y)
    deck_ends = deck(np.stack([np.zeros_like(b), np.maximum(deck_y - step, 0.0), deck_y], axis=1))
    centre, deck_edge_z = deck_ends[:, 0], deck_ends[:, 2]
    start, end = (float(x[0]), float(x[-1])) if inset is not None else (0.0, board.length)
    failures = _failures(
        board, x, lines.b - inner, centre - keel, deck_edge_z - edge_z, (start, end), bottom, deck, edge_y
    )
    if failures:
        return failures
    rail = np.maximum(deck_edge_z - edge_z, 1e-6)
    apex_z = clipped(apex_z, edge_z + 0.02 * rail, deck_edge_z - 0.02 * rail)
    lower, upper = apex_z - edge_z, deck_edge_z - apex_z
    fall = (deck_ends[:, 2] - deck_ends[:, 1]) / step
    deck_slope = clipped(np.where(deck_y > 2 * step, fall, 0.0), -0.5 * upper / np.maximum(chamfer, 1e-6), 0.0)

    creases = bottom.creases()
    turn, y1, s2 = _rounded_edge(lines, creases, edge_y, slope, lower)
    by = _spread(_panels(creases, inner, y1), n_bottom)
    bz = bottom(by)

    begins, meets = (y1[:, None], bz[:, -1:]), _tuck(edge_y, edge_z, lines.tuck, lower, s2[:, None])
    ey, ez = _conic(n_edge, begins, (edge_y[:, None], edge_z[:, None]), meets, np.cos(turn / 2)[:, None])

    s = s2[:, None] + (1 - s2[:, None]) * _shares(n_lower)
    ly, lz = _tuck(edge_y, edge_z, lines.tuck, lower, s)

    uy, uz = _upper_rail(n_upper, lines.exponent, deck_y, chamfer, deck_edge_z, deck_slope, upper)

    dy = _spread(_panels(deck.creases(), inner, deck_y), n_deck)[:, -2::-1]
    parts_y, parts_z = [by, ey, ly, uy, dy], [bz, ez, lz, uz, deck(dy)]
    if inner.any():  # the notch's wall closes the half-curve
        parts_y.append(by[:, :1])
        parts_z.append(bz[:, :1])
    y, z = np.concatenate(parts_y, axis=1), np.concatenate(parts_z, axis=1)
    z = _round_tips(board, x, z, apex_z, start, end)
    edge = by.shape[1] - 1
    apex, deck_edge = edge + n_edge + n_lower, edge + n_edge + n_lower + n_upper
    columns = Columns(edge, apex, deck_edge, deck_edge + dy.shape[1], y.shape[1])
    for array in (y, z):
        array.setflags(write=False)
    return Sections(board, stations, b, inner, keel, ends[:, 3], centre, edge_y, edge_z, apex_z, deck_y, y, z, columns)


Points = tuple[Array, Array]


def _apex(lines: Lines, edge: Array) -> Points:
    """Heights of the rail's apex and widths of the chamfer above it, (n,).

    The apex is that of the board before walled cuts and deck features, whose bottom edge stands at `edge` [m]: or it
    would jump at every wall.
    """
    deck_edge = lines.deck - lines.crown
    apex = edge + lines.apex * np.maximum(deck_edge - edge, 1e-6)
    if lines.side_wall is None:
        return apex, lines.chamfer
    lean = np.maximum(deck_edge - apex, 0.0) * np.tan(lines.side_wall)
    return apex, np.minimum(lean, 0.8 * np.maximum(lines.b - lines.inner, 0.0))


def _rounded_edge(
    lines: Lines, creases: list[Array], edge_y: Array, slope: Array, lower: Array
) -> tuple[Array, Array, Array]:
    """The bottom edge, a conic between bottom and tuck, a circle where both are straight: by how much it turns [rad],
    where on the bottom it begins [m], and the share of the tuck at which it ends, each (n,).
    """
    tangent = np.hypot(2 * lines.tuck, lower)
    turn = np.abs(np.arctan2(lower, 2 * lines.tuck) - np.arctan(slope))
    last = np.max([np.where(c < edge_y - SNAP, c, 0.0) for c in creases], axis=0) if creases else np.zeros_like(lines.b)
    room = edge_y - np.maximum(last, lines.inner)
    reach = np.minimum(np.minimum(lines.radius * np.tan(turn / 2), 0.45 * room), 0.3 * tangent)
    begins: Array = np.maximum(edge_y - reach / np.hypot(1.0, slope), lines.inner)
    return turn, begins, reach / np.maximum(tangent, 1e-9)


def _conic(count: int, begins: Points, corner: Points, meets: Points, weight: Array) -> Points:
    """A conic from where it begins round a corner to where it meets what follows, (n, count)."""
    q = _shares(count)
    c0, c1, c2 = (1 - q) ** 2, 2 * weight * q * (1 - q), q**2
    total = c0 + c1 + c2
    y, z = ((c0 * begins[k] + c1 * corner[k] + c2 * meets[k]) / total for k in (0, 1))
    return y, z


def _upper_rail(
    count: int, exponent: Array, deck_y: Array, chamfer: Array, deck_edge: Array, slope: Array, height: Array
) -> Points:
    """The rail from its apex to the deck's edge, leaving the deck at its slope, (n, count)."""
    log_sin, log_cos = _quarter(count)
    power = (2.0 / exponent)[:, None]
    rise = np.exp(power * log_sin)  # sin ** power, a fifth of the time
    lean = (slope * chamfer)[:, None]
    y = deck_y[:, None] + chamfer[:, None] * rise
    return y, deck_edge[:, None] + lean * rise - (height[:, None] + lean) * (1 - np.exp(power * log_cos))


@cache
def _shares(columns: int) -> Array:
    """Shares (1, n) at the ends of even columns."""
    shares = np.linspace(0.0, 1.0, columns + 1)[None, 1:]
    shares.setflags(write=False)
    return shares


@cache
def _quarter(columns: int) -> Points:
    """Logarithms of sine and cosine, each (1, n), from a quarter turn down to none at the ends of even columns."""
    theta = np.pi / 2 * (1 - _shares(columns))
    with np.errstate(divide="ignore"):  # the sine of none
        found = np.log(np.sin(theta)), np.log(np.cos(theta))
    for array in found:
        array.setflags(write=False)
    return found


def _tuck(edge_y: Array, edge_z: Array, tuck: Array, lower: Array, s: Array) -> tuple[Array, Array]:
    """The lower rail at share `s` of its height: a parabola, upright at the apex."""
    return edge_y[:, None] + tuck[:, None] * (1 - (1 - s) ** 2), edge_z[:, None] + lower[:, None] * s


def _panels(creases: list[Array], inner: Array, outer: Array) -> Array:
    """Boundaries of panels from `inner` to `outer` (n, k), in order, with near ones made one."""
    if not creases:
        return np.stack([np.minimum(inner, outer), outer], axis=1)
    marks = np.sort(np.stack([inner, *(np.maximum(c, inner) for c in creases)], axis=1), axis=1)
    marks = np.minimum(marks, outer[:, None])
    for j in range(1, marks.shape[1]):
        marks[:, j] = np.where(marks[:, j] - marks[:, j - 1] < SNAP, marks[:, j - 1], marks[:, j])
    close = outer[:, None] - marks < SNAP
    marks = np.where(close & (marks > inner[:, None]), outer[:, None], marks)
    return np.concatenate([marks, outer[:, None]], axis=1)


def _spread(marks: Array, columns: int) -> Array:
    """Half-places from the first to the last mark (n, m): about `columns` of them, shared out by the panels' widths."""
    widest = (marks[:, 1:] - marks[:, :-1]).max(axis=0).tolist()
    each = columns / max(sum(widest), 1e-9)
    found: Array = marks @ _columns_between(tuple(max(1, round(each * wide + 0.4)) for wide in widest))
    return found


@lru_cache(maxsize=256)
def _columns_between(counts: tuple[int, ...]) -> Array:
    """Matrix from marks to columns (k + 1, m): so many in each panel, exactly on its marks at either end."""
    found = np.zeros((len(counts) + 1, 1 + sum(counts)))
    found[0, 0] = 1.0
    first = 1
    for j, count in enumerate(counts):
        t = np.arange(1, count + 1) / count
        found[j, first : first + count], found[j + 1, first : first + count] = 1 - t, t
        first += count
    found.setflags(write=False)
    return found


def _round_tips(board: Board, x: Array, z: Array, apex_z: Array, start: float, end: float) -> Array:
    """Round the profile of tips of no width, at `start` and `end`, to one vertex at apex height."""
    low, high = TIP_RADIUS_RANGE
    ends = []
    if board.outline.tail == "round":
        ends.append((x - start, tip_radius(board.outline, board.length, False)))
    elif board.outline.tail_tipped:
        ends.append((x - start, POINTED_TIP))
    if board.outline.nose == "round":
        ends.append((end - x, tip_radius(board.outline, board.length, True)))
    elif board.outline.nose == "pointed":
        ends.append((end - x, POINTED_TIP))
    for distance, radius in ends:
        near = np.flatnonzero(distance < (round_over := min(max(radius, low), high)))
        if len(near):
            here = slice(near[0], near[-1] + 1)
            away = 1 - np.maximum(distance[here], 0.0) / round_over
            g, apex = np.sqrt(1 - away * away)[:, None], apex_z[here, None]
            z[here] = apex + g * (z[here] - apex)
    return z


def _failures(
    board: Board,
    x: Array,
    b: Array,
    thickness: Array,
    rail: Array,
    span: tuple[float, float],
    bottom: Bottom,
    deck: Deck,
    edge_y: Array,
) -> tuple[Finding, ...]:
    """Where no section can be drawn between the ends of `span` [m]; `b` is the width of each half."""
    if not np.isfinite(float(b.sum()) + float(thickness.sum()) + float(rail.sum())):
        return (
            Finding(code="not_finite", text="The lines of this board have no finite value", severity=Severity.FATAL),
        )
    across = _width_failure(board, x, b, span)
    through = _depth_failures(x, b, thickness, rail, bottom, deck, edge_y)
    return through if across is None else (across, *through)


def _width_failure(board: Board, x: Array, b: Array, span: tuple[float, float]) -> Finding | None:
    """Where the outline leaves no width [m] between the ends of `span` [m], or a notch no tip."""
    outline = board.outline
    ends_closed = np.ones_like(x, bool)
    ends_closed[0] = not outline.tail_tipped or x[0] > span[0] + 1e-3
    ends_closed[-1] = not outline.nose_closed or x[-1] < span[1] - 1e-3
    i = int(np.argmin(np.where(ends_closed, b, np.inf)))
    if ends_closed[i] and _in_notch(board, float(x[i])) and b[i] < LEAST_TIP:
        spread = outline.tail_spread if x[i] < board.length / 2 else outline.nose_spread
        room = spread / 2 + float(b[i]) - LEAST_TIP
        return Finding(
            code="notch_wide",
            severity=Severity.FATAL,
            place=float(x[i]),
            value=spread,
            limit=2 * room,
            text=f"The notch is {spread * 100:.1f} cm wide and leaves no tip {x[i] * 100:.1f} cm from the tail",
            advice=f"At most {max(0.0, 2 * room) * 100:.1f} cm would do here, or a wider end.",
        )
    bad = (b <= NO_WIDTH) & ends_closed
    if not bad.any():
        return None
    i = int(np.argmax(bad))
    return Finding(
        code="no_width",
        severity=Severity.FATAL,
        place=float(x[i]),
        value=float(b[i]),
        limit=NO_WIDTH,
        text=f"The outline crosses the centreline {x[i] * 100:.1f} cm from the tail",
        advice="Move the weights beside it outward, or add one.",
    )


def _depth_failures(
    x: Array, b: Array, thickness: Array, rail: Array, bottom: Bottom, deck: Deck, edge_y: Array
) -> tuple[Finding, ...]:
    """Where deck and bottom meet, and where no rail is left between them [m]."""
    found: list[Finding] = []
    i = int(np.argmin(thickness))
    if thickness[i] < LEAST_THICKNESS:
        found.append(
            Finding(
                code="deck_meets_bottom",
                severity=Severity.FATAL,
                place=float(x[i]),
                value=float(thickness[i]),
                limit=LEAST_THICKNESS,
                text=f"Deck and bottom meet {x[i] * 100:.1f} cm from the tail ({thickness[i] * 1000:.1f} mm left)",
                advice=_culprit(bottom, deck, np.zeros_like(x), i, LEAST_THICKNESS - float(thickness[i]))
                or f"Leave at least {LEAST_THICKNESS * 1000:.0f} mm: thicken there, or take less off the bottom.",
            )
        )
    wide = np.where(b > 0.004, rail, np.inf)
    i = int(np.argmin(wide))
    if wide[i] < LEAST_RAIL:
        found.append(
            Finding(
                code="rail_gone",
                severity=Severity.FATAL,
                place=float(x[i]),
                value=float(wide[i]),
                limit=LEAST_RAIL,
                text=f"No rail is left {x[i] * 100:.1f} cm from the tail: the bottom's edge comes within "
                f"{wide[i] * 1000:.1f} mm of the deck's",
                advice=_culprit(bottom, deck, edge_y, i, LEAST_RAIL - float(wide[i]))
                or "Thicken there, or take off V, belly, bevel or crown.",
            )
        )
    return tuple(found)


def _in_notch(board: Board, x: float) -> bool:
    outline = board.outline
    in_tail = outline.tail in NOTCHED_TAILS and x < outline.tail_depth
    return in_tail or (outline.nose == "notched" and x > board.length - outline.nose_depth)


def _culprit(bottom: Bottom, deck: Deck, y: Array, i: int, short: float) -> str:
    """Which layer takes most of the foam at station `i` and how much of it would do; nothing where none is to blame."""
    takes = [(float(h[i, 0]), name) for name, h in bottom.shares(y[:, None])]
    takes += [(-float(h[i, 0]), name) for name, h in deck.shares(y[:, None])]
    most, name = max(takes, default=(0.0, ""))
    if most <= short:
        return ""
    return (
        f"“{name}” takes {most * 1000:.0f} mm there; {max(0.0, most - short) * 1000:.0f} mm would do, or more "
        f"thickness."
    )
