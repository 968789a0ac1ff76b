"""What of a board's bottom planes: where it lets the water go, its running width, deadrise and rocker."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.smooth import step
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.sections import Sections, groove_depths
from kelvor.core.tank.laws.lattice import Lattice, lattice

BOW_RISE = 15 * DEGREE
"""Ahead of where the bottom stands this steep to its tail tangent Savitsky's laws end: it is bow, not planing
bottom.
"""
KICK = 13 * DEGREE
"""A tail that turns up by more than this to the base turns no flat bottom ahead of it into bow (judgement)."""
WALL_SLOPE = 0.9
"""Slope across from which the bottom is a wall (42°)."""
DRIES = 0.5
"""The water lets go of what lies outboard of a wall within this share about the height where half of it is dry."""
RIM = 0.03
"""Share of the half-width along the edge where a wall is the rail's, not a cut-out's."""
NARROWEST = 1e-3
"""A bottom's mean half-width is no less [m]: what is narrower is drawn by a slip of the hand, and drags without end."""
NARROW = 0.02
"""Half-width of a bow that planes no more [m]."""
LONGEST = 4.0
"""Wetted length over mean beam at which Savitsky's laws end."""
LENGTHS, CHORD, SPAN = 10, 10, 4
ROUNDING = 0.7
"""Slope of the plan at the tail above which it is the rounding of its end (35°)."""


@frozen(eq=False)
class PlaningBottom:
    """The bottom ahead of where it releases the water.

    Attributes
    ----------
    aft, tangent:
        Place [m from the tail] of the release, and the bottom's slope just ahead of it in the board's frame [rad]:
        trim is always that of this tail tangent.
    x, half, deadrise:
        Stations from `aft` forward [m], running half-width [m] and deadrise [rad] there, each (n,).
    lengths:
        Wetted keel lengths looked at [m], (j,).
    beam, rise, span:
        Mean running beam [m] and deadrise [rad] over each, and the beam that lifts [m], (j,).
    flat, curved:
        Lift of each lattice panel over stream pressure [m²], per radian of trim and by rocker alone, (j, p).
    slope, ahead:
        Local slope of each panel against the tail tangent [rad], and its place ahead of `aft` [m], (j, p).
    plan:
        Against a rectangle of the lifting beam, how much of a wedge lies under water, and the centre of what speed and
        of what the water's weight lifts ahead of the release, as shares of the length (j, 3).
    grooves:
        Walls of grooves that are wet beside the bottom [m²], (j,).
    released:
        Bottom behind the release and outside the running width [m²].
    """

    aft: float
    tangent: float
    x: Array
    half: Array
    deadrise: Array
    lengths: Array
    beam: Array
    rise: Array
    span: Array
    flat: Array
    curved: Array
    slope: Array
    ahead: Array
    plan: Array
    grooves: Array
    lattices: tuple[Lattice, ...]
    released: float

    @property
    def longest(self) -> float:
        """Longest wetted length that still is planing bottom [m]."""
        return float(self.lengths[-1])


def lifting_beam(mean: float, greatest: float, length: float) -> float:
    """The beam of a wetted plan that lifts [m]: its mean where it is short, its greatest where it is slender.

    A slender plan lifts by its greatest span: what narrows behind it adds nothing and takes nothing away (Jones 1946,
    NACA Report 835). The one passes into the other as the aspect ratio falls from one to nothing.
    """
    return mean + (greatest - mean) * float(step(1 - mean / length))


def _stays(y: Array, z: Array) -> Array:
    """How far all that is outboard of a strip of half-sections (n, m) stands above it by walls alone, where a wall
    begins that [m] (n, m - 1).
    """
    dy, dz = np.diff(y, axis=1), np.diff(z, axis=1)
    rim = step((1 - y[:, :-1] / np.maximum(y[:, -1:], 1e-9)) / RIM)
    heights = np.where(np.abs(dz) > WALL_SLOPE * np.maximum(dy, 1e-9), dz, 0.0) * rim
    stands = np.concatenate([np.zeros((len(y), 1)), np.cumsum(heights, axis=1)], axis=1)
    lowest = np.minimum.accumulate(stands[:, ::-1], axis=1)[:, ::-1]
    stays: Array = np.where(np.diff(lowest, axis=1) > 0, lowest[:, -1:] - lowest[:, :-1], 0.0)
    return stays


class _Strip(NamedTuple):
    """The strip of a bottom that runs, at the stations (n,): half-width, mean height of the bottom and its height at
    the strip's edge [m], and how much further it is round the walls of its grooves than across them, both sides [m].
    """

    half: Array
    mean: Array
    outer: Array
    grooves: Array


def running_strip(shape: Sections, dries: float) -> _Strip:
    """The bottom inside the walls from which on everything outboard stays higher: a cut-out's, a step's, a chine's.

    Half of what lies outboard of a wall `dries` high [m] is dry. A groove is no end of the bottom: it is bridged.
    Heights are over the keel of the lines, since a tip of no width is rounded in profile, which no planing bottom is.
    """
    edge = shape.columns.edge
    y, z = shape.y[:, : edge + 1], shape.z[:, : edge + 1]
    grooves = groove_depths(shape)
    bridged = z - grooves
    dry = step((_stays(y, bridged) / dries - (1 - DRIES)) / (2 * DRIES))
    ends = shape.edge_y[:, None] + (y[:, :-1] - shape.edge_y[:, None]) * dry
    first = np.argmin(ends, axis=1)[:, None]
    inner, share = (np.take_along_axis(values, first, axis=1)[:, 0] for values in (y[:, :-1], dry))
    inner = np.where(share > 0, inner, shape.edge_y)
    whole = _buttock(y, bridged, shape.edge_y)
    inside = _buttock(y, bridged, inner)
    # a cut-out's line follows the rounding of the tail's end; the strip between two of them leaves the tail at its
    # width and height before
    along = np.diff(shape.edge_y) / np.maximum(np.diff(shape.x), 1e-9)
    rounding = int(np.argmax(along < ROUNDING))
    cut = (np.arange(len(inner)) < rounding) & (share > 0)
    inner[cut] = np.minimum(inner[rounding], shape.edge_y[cut])
    for heights_inside in inside:
        heights_inside[cut] = heights_inside[rounding]
    mean, outer = (shape.keel + wide + (narrow - wide) * share for wide, narrow in zip(whole, inside, strict=True))
    half = shape.edge_y + (inner - shape.edge_y) * share
    walls = np.abs(np.diff(grooves, axis=1)) * (y[:, :-1] < half[:, None])
    return _Strip(half, mean, outer, 2 * walls.sum(axis=1))


def planing_bottom(measured: Geometry, release: float, dries: float, front: float = np.inf) -> PlaningBottom:
    """The planing bottom of a board, no longer than to `front` [m from the tail]: where its waterline ends at rest.

    It lets the water go where it turns up by `release` [rad], and half outboard of a wall `dries` high [m].
    """
    shape, length = measured.shape, measured.board.length
    running, mean, outer, grooves = running_strip(shape, dries)
    grid = np.linspace(0.004, length - 0.004, 301)
    keel = np.interp(grid, shape.x, shape.keel)
    half = np.interp(grid, shape.x, running)
    step = grid[1] - grid[0]
    window = max(round(0.03 / step), 1)
    aft = _release(grid, keel, window, length, release)
    near = (grid >= aft + 0.005) & (grid <= aft + 0.08)
    tangent = float(np.polyfit(grid[near], keel[near], 1)[0])
    ahead = grid >= aft
    gx, gb = grid[ahead] - aft, half[ahead]
    # between stations slope is read evenly: through their heights it would go in steps
    slope = np.interp(grid, shape.x, np.arctan(np.gradient(mean, shape.x)))[ahead] - np.arctan(tangent)
    slope[gx < 0.04] = np.minimum(slope[gx < 0.04], 0.0 + np.interp(0.05, gx, slope))
    kicked = max(np.arctan(measured.board.base.slope) - np.arctan(tangent) - KICK, 0.0)
    bow = slope - kicked - BOW_RISE
    most = min(_passes(gx, bow, gx > gx[8]), _passes(gx, NARROW - gb, gx > gx[-1] / 2), max(front - aft, 0.3))
    # no longer than the laws of planing reach: four mean beams
    area_to = np.concatenate([[0.0], np.cumsum((gb[1:] + gb[:-1]) * np.diff(gx))])
    ratio = np.where(gx > 0.3, gx**2 / np.maximum(area_to, 1e-9), np.inf)
    inside_laws = np.nonzero(ratio <= LONGEST)[0]
    most = min(
        most,
        _passes(gx, ratio - LONGEST, np.arange(len(gx)) > inside_laws[-1])
        if len(inside_laws)
        else float(gx[np.argmin(ratio)]),
    )
    rise = np.arctan2(np.interp(grid, shape.x, outer) - keel, np.maximum(half, 1e-6))[ahead]
    rise = np.clip(rise, 0.0, 40 * DEGREE)
    lengths = most * np.linspace(1 / LENGTHS, 1.0, LENGTHS) ** 2
    grooved = np.interp(grid, shape.x, grooves)[ahead]
    wetted = [_wetted(wet, gx, gb, rise, slope, grooved) for wet in lengths]
    for array in (gx, gb, rise, lengths):
        array.setflags(write=False)
    released = 2 * (np.trapezoid(shape.edge_y, shape.x) - float(np.trapezoid(gb, gx)))
    return PlaningBottom(
        aft,
        float(np.arctan(tangent)),
        gx,
        gb,
        rise,
        lengths,
        np.array([one.beam for one in wetted]),
        np.array([one.rise for one in wetted]),
        np.array([one.span for one in wetted]),
        np.array([one.flat for one in wetted]),
        np.array([one.curved for one in wetted]),
        np.array([one.slope for one in wetted]),
        np.array([one.ahead for one in wetted]),
        np.array([one.plan for one in wetted]),
        np.array([one.grooves for one in wetted]),
        tuple(one.net for one in wetted),
        float(max(0.0, released)),
    )


def _buttock(y: Array, z: Array, half: Array) -> tuple[Array, Array]:
    """Mean height of sections (n, m) inside half-widths (n,) over their centre, and their height there [m]."""
    inner, low = y[:, :-1], z[:, :-1] - z[:, :1]
    wide = np.diff(y, axis=1)
    reached = np.clip(half[:, None] - inner, 0.0, np.maximum(wide, 0.0))  # of each strip, what runs
    up = np.diff(z, axis=1) * reached / np.maximum(wide, 1e-12)
    mean = np.sum((low + up / 2) * reached, axis=1) / np.maximum(reached.sum(axis=1), 1e-12)
    last = reached.shape[1] - 1 - np.argmax(reached[:, ::-1] > 0, axis=1)[:, None]
    return mean, np.take_along_axis(low + up, last, axis=1)[:, 0]


class _Wetted(NamedTuple):
    """A wetted length: mean and lifting beam [m], rise to the edge [rad]; lift of its panels flat and curved, their
    slope and place ahead of the release; the net they are.
    """

    beam: float
    rise: float
    span: float
    flat: Array
    curved: Array
    slope: Array
    ahead: Array
    net: Lattice
    plan: _Plan
    grooves: float


class _Plan(NamedTuple):
    """Of a wetted plan against the rectangle of its lifting beam: how much of a wedge under water it is, and the centre
    of what speed lifts and of what the water's weight lifts ahead of the release, as shares of its length.
    """

    still: float
    fast: float
    slow: float


def _plan(x: Array, half: Array, span: float) -> _Plan:
    """Of half-widths (n,) at places (n,) ahead of the release, with pressure that grows with the way ahead when it is
    fast and with the depth below the water when it is slow: on a rectangle these meet Savitsky's eq. 20 (judgement).
    """
    along = x / x[-1]
    deep, run = 1 - along, along**2
    still, fast = (float(np.trapezoid(weight * half, along)) for weight in (deep, run))
    return _Plan(
        2 * still * 2 / span,
        float(np.trapezoid(along * run * half, along)) / fast,
        float(np.trapezoid(along * deep * half, along)) / still,
    )


def _wetted(wet: float, x: Array, half: Array, rise: Array, slope: Array, grooves: Array) -> _Wetted:
    """The bottom wet to `wet` [m] ahead of the release: places, half-widths, rises, slopes and what walls of grooves
    add round the bottom (n,) along it.
    """
    whole, run = (x, half, rise, grooves), min(wet, float(x[-1]))
    x, half, rise, grooves = (np.append(values[x < run], np.interp(run, x, values)) for values in whole)
    if float(np.trapezoid(half, x)) < NARROWEST * run:  # an edge rolled in to the keel: hardly anything planes
        half = np.full_like(half, NARROWEST)
    area = float(np.trapezoid(half, x))
    beam = 2 * area / run
    # a rectangle of the mean beam: straight wakes of a narrowing plan would cross its own control points
    net = lattice(np.array([0.0, run]), np.full(2, area / run), CHORD, SPAN)
    local = np.interp(run - net.x, whole[0], slope)
    span = lifting_beam(beam, 2 * float(half.max()), run)
    return _Wetted(
        beam,
        float(np.trapezoid(rise * half, x) / area),
        span,
        net.lift(1.0),
        net.lift(local),
        local,
        run - net.bound,
        net,
        _plan(x, half, span),
        float(np.trapezoid(grooves, x)),
    )


def _passes(x: Array, values: Array, looked: NDArray[np.bool_]) -> float:
    """Where values (n,) first rise above nothing among the places looked at, read between two; the last place where
    they never do.
    """
    over = np.flatnonzero((values > 0) & looked)
    if not len(over):
        return float(x[-1])
    i = int(over[0])
    if values[i - 1] > 0:
        return float(x[i])
    share = values[i - 1] / min(values[i - 1] - values[i], -1e-12)
    return float(x[i - 1] + (x[i] - x[i - 1]) * share)


def _release(grid: Array, keel: Array, window: int, length: float, least: float) -> float:
    """The foremost place in the aft 60 % where the keel turns up by `least` [rad] going aft, or the tail's end."""
    slope = np.arctan((keel[window:] - keel[:-window]) / (grid[window:] - grid[:-window]))
    turn = slope[window:] - slope[:-window]
    places = grid[window : window + len(turn)]
    here = (turn > least) & (places < 0.6 * length) & (places > 0.02)
    if not here.any():
        return float(grid[0])
    last = int(np.nonzero(here)[0][-1])
    first = last
    while first > 0 and here[first - 1]:
        first -= 1
    return float(places[first + int(np.argmax(turn[first : last + 1]))])
