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
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.tank.laws.lattice import Lattice, lattice

RELEASE = 3.5 * DEGREE
"""A bottom that turns up by this within a few centimetres lets the water go (common practice, no source)."""
BOW_RISE = 15 * DEGREE
"""Ahead of where the bottom stands this steep to its tail tangent Savitsky's laws end: it is bow, not planing
bottom.
"""
WALL_SLOPE, WALL_HEIGHT = 0.9, 0.004
NARROWEST = 1e-3
"""A bottom's mean half-width is no less [m]: what is narrower is drawn by a slip of the hand, and drags without end."""
NARROW = 0.02
"""Half-width of a bow that planes no more [m]."""
LONGEST = 4.0
"""Wetted length over mean beam at which Savitsky's laws end."""
LENGTHS, CHORD, SPAN = 8, 10, 4
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


def running_half_width(measured: Geometry) -> Array:
    """Half-width of the bottom inside the first wall of a cut-out or chine, at the stations [m]."""
    shape = measured.shape
    edge = shape.columns.edge
    y, z = shape.y[:, : edge + 1], shape.z[:, : edge + 1]
    dy, dz = np.diff(y, axis=1), np.diff(z, axis=1)
    wall = (dz > WALL_SLOPE * np.maximum(dy, 1e-9)) & (dz > WALL_HEIGHT) & (y[:, :-1] < 0.97 * shape.edge_y[:, None])
    first = np.argmax(wall, axis=1)
    inside = np.take_along_axis(y, first[:, None], axis=1)[:, 0]
    half: Array = np.where(wall.any(axis=1), inside, shape.edge_y)
    # a cut-out's line follows the rounding of the tail's end; the strip between two of them leaves the tail at its
    # width before
    along = np.diff(shape.edge_y) / np.maximum(np.diff(shape.x), 1e-9)
    rounding = int(np.argmax(along < ROUNDING))
    cut = (np.arange(len(half)) < rounding) & (wall.any(axis=1) | (half < 0.97 * shape.edge_y))
    half[cut] = np.minimum(half[rounding], shape.edge_y[cut])
    return half


def planing_bottom(measured: Geometry, front: float = np.inf) -> PlaningBottom:
    """The planing bottom of a board, no longer than to `front` [m from the tail]: where its waterline ends at rest."""
    shape, length = measured.shape, measured.board.length
    running = running_half_width(measured)
    mean, outer = _buttock(shape, running)
    grid = np.linspace(0.004, length - 0.004, 301)
    keel = np.interp(grid, shape.x, shape.keel)
    half = np.interp(grid, shape.x, running)
    step = grid[1] - grid[0]
    window = max(round(0.03 / step), 1)
    aft = _release(grid, keel, window, length)
    near = (grid >= aft + 0.005) & (grid <= aft + 0.08)
    tangent = float(np.polyfit(grid[near], keel[near], 1)[0])
    ahead = grid >= aft
    gx, gb = grid[ahead] - aft, half[ahead]
    # between stations slope is read evenly: through their heights it would go in steps
    slope = np.interp(grid, shape.x, np.arctan(np.gradient(mean, shape.x)))[ahead] - np.arctan(tangent)
    slope[gx < 0.04] = np.minimum(slope[gx < 0.04], 0.0 + np.interp(0.05, gx, slope))
    most = min(
        _passes(gx, slope - BOW_RISE, gx > gx[8]), _passes(gx, NARROW - gb, gx > gx[-1] / 2), max(front - aft, 0.3)
    )
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
    lengths = most * np.linspace(0.12, 1.0, LENGTHS) ** 1.15
    wetted = [_wetted(wet, gx, gb, rise, slope) for wet in lengths]
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
        tuple(one.net for one in wetted),
        float(max(0.0, released)),
    )


def _buttock(shape: Sections, running: Array) -> tuple[Array, Array]:
    """Mean height of the bottom inside the running half-width, over the keel of the lines, and its height there, at
    the stations [m].
    """
    edge = shape.columns.edge
    y, z = shape.y[:, : edge + 1], shape.z[:, : edge + 1]
    inner, low = y[:, :-1], z[:, :-1] - z[:, :1]
    wide = np.diff(y, axis=1)
    reached = np.clip(running[:, None] - inner, 0.0, np.maximum(wide, 0.0))  # of each strip, what runs
    up = np.diff(z, axis=1) * reached / np.maximum(wide, 1e-12)
    # over the keel of the lines: a tip of no width is rounded in profile, which no planing bottom is
    mean = shape.keel + np.sum((low + up / 2) * reached, axis=1) / np.maximum(reached.sum(axis=1), 1e-12)
    last = reached.shape[1] - 1 - np.argmax(reached[:, ::-1] > 0, axis=1)[:, None]
    outer = z[:, 0] + np.take_along_axis(low + up, last, axis=1)[:, 0]
    return mean, outer


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


def _wetted(wet: float, x: Array, half: Array, rise: Array, slope: Array) -> _Wetted:
    """The bottom wet to `wet` [m] ahead of the release: places, half-widths, rises and slopes (n,) along it."""
    whole, run = (x, half, rise), min(wet, float(x[-1]))
    x, half, rise = (np.append(values[x < run], np.interp(run, x, values)) for values in whole)
    if float(np.trapezoid(half, x)) < NARROWEST * run:  # an edge rolled in to the keel: hardly anything planes
        half = np.full_like(half, NARROWEST)
    area = float(np.trapezoid(half, x))
    beam = 2 * area / run
    # a rectangle of the mean beam: straight wakes of a narrowing plan would cross its own control points
    net = lattice(np.array([0.0, run]), np.full(2, area / run), CHORD, SPAN)
    local = np.interp(run - net.x, whole[0], slope)
    return _Wetted(
        beam,
        float(np.trapezoid(rise * half, x) / area),
        lifting_beam(beam, 2 * float(half.max()), run),
        net.lift(1.0),
        net.lift(local),
        local,
        run - net.bound,
        net,
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


def _release(grid: Array, keel: Array, window: int, length: float) -> float:
    """The foremost place in the aft 60 % where the keel turns up going aft, or the tail's end."""
    slope = np.arctan((keel[window:] - keel[:-window]) / (grid[window:] - grid[:-window]))
    turn = slope[window:] - slope[:-window]
    places = grid[window : window + len(turn)]
    here = (turn > RELEASE) & (places < 0.6 * length) & (places > 0.02)
    if not here.any():
        return float(grid[0])
    last = int(np.nonzero(here)[0][-1])
    first = last
    while first > 0 and here[first - 1]:
        first -= 1
    return float(places[first + int(np.argmax(turn[first : last + 1]))])
