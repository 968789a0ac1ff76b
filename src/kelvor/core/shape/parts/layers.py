"""Bottom and deck layers: cross-section forms times schedules along the board.

A shaping layer adds height to the bottom and says which line it leaves in
place, keel or rail. It is laid out by share of the half-width, by metres from
the centre, or by metres from the edge. A ledge (cut-out, chine) lifts all that
lies outboard of a line of its own; channels run along a path; the cross step
and the cut-away lift what lies behind a place; the plinth keeps a strip flat
and level. Deck layers do the same from above. All are summed in their order;
a side flat levels what the layers before it have made.
"""

from __future__ import annotations

from math import pi, radians, tan
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.limits import NAME, Along, angles, counts, depths, lengths
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.battens import clipped
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule

Array = NDArray[np.float64]
Form = Literal["belly", "v", "inverted_v", "hollow", "double", "tunnel", "spine", "bevel", "side_flat"]
DeckForm = Literal["dish", "recess", "platform", "peak", "scallop", "relief", "deck_bevel", "kick"]
Line = Literal["keel", "rail"]
Across = Literal["share", "centre", "edge"]

ANGLED = ("v", "inverted_v", "bevel", "side_flat", "deck_bevel")
"""Forms whose amount is an angle [rad]; that of all others is a depth [m]."""
WALL = angles(5, 90)
"""Of a ledge, channel, step or recess, from the level."""
NARROW = 0.06
"""Below this half-width [m] depths fade with the width: a hollow in millimetres over no width is a needle."""
PLINTH_EASE = 0.12
"""Length over which a plinth fades in and out along the board [m]."""
PLINTH_WALL = 0.012
"""Width over which a levelled plinth meets the bottom beside it [m]."""
LEAST_WALL = 1e-3
"""An upright wall still takes this much width or length [m]."""
CHANNEL_REACH = 0.004
"""Channels keep this far inside the bottom edge [m]."""


@frozen
class Layout:
    """Where across the board a layer lies; `width` [m] is used by `centre` and `edge`."""

    across: Across = "share"
    width: Annotated[Schedule, Along(lengths(0, 1))] = Schedule(((0.0, 0.0),))


@frozen(kw_only=True)
class ShapingLayer:
    """A belly, V, hollow, double, tunnel, spine, bevel or side flat.

    `amount` is a depth [m], or an angle [rad] for V, inverted V, bevel and side
    flat. A side flat is laid out from the edge and runs straight outward from
    its line, rising at its angle.
    """

    kind: Form
    name: Annotated[str, NAME]
    amount: Schedule
    layout: Layout = Layout()
    holds: Line = "keel"
    on: bool = True


@frozen(kw_only=True)
class Ledge:
    """A cut-out or a chine: outboard of a line the bottom is lifted, with a wall between.

    Attributes
    ----------
    line:
        Distance of the line from the centre or from the edge [m], by `across`.
    height:
        How far the bottom outboard of it is lifted [m].
    wall:
        Angle of the wall from the level [rad]; a right angle stands upright.
    start, end:
        Where it begins and ends; `run_out` is the length over which it fades
        there [m], 0 for a wall. Ends off the board do not fade.
    """

    kind: Literal["cut_out", "chine"] = "cut_out"
    name: Annotated[str, NAME]
    line: Annotated[Schedule, Along(lengths(0, 1))]
    across: Literal["centre", "edge"] = "edge"
    height: Annotated[Schedule, Along(depths(0, 0.2))]
    wall: Annotated[float, WALL] = radians(70)
    start: Place = Place("tail", 0.0)
    end: Place
    run_out: Annotated[float, lengths(0, 3)] = 0.0
    on: bool = True


@frozen(kw_only=True)
class Channels:
    """Channels: grooves beside one another along a straight path.

    Attributes
    ----------
    inner:
        Half-place of the innermost channel's inner lip at `end`, its fore end [m].
    toe:
        Angle of the path [rad]; positive runs towards the centre going forward.
    count:
        Channels on each side.
    width, gap:
        Of one channel, and of the land between two [m].
    run_out:
        Length over which the depth fades at both ends [m].
    """

    kind: Literal["channels"] = "channels"
    name: Annotated[str, NAME]
    start: Place
    end: Place
    inner: Annotated[float, lengths(0, 1)] = 0.05
    toe: Annotated[float, angles(-20, 20)] = 0.0
    count: Annotated[int, counts(1, 6)] = 2
    width: Annotated[float, depths(0.004, 0.2)] = 0.025
    gap: Annotated[float, depths(0, 0.3)] = 0.012
    depth: Annotated[float, depths(0, 0.05)] = 0.004
    wall: Annotated[float, WALL] = radians(45)
    run_out: Annotated[float, lengths(0, 2)] = 0.10
    on: bool = True


@frozen(kw_only=True)
class CrossStep:
    """A transverse step: the bottom behind `at` lies `height` higher, by a wall at `wall` [rad]."""

    kind: Literal["cross_step"] = "cross_step"
    name: Annotated[str, NAME]
    at: Place
    height: Annotated[float, depths(-0.15, 0.15)]
    wall: Annotated[float, WALL] = radians(80)
    on: bool = True


@frozen(kw_only=True)
class CutAway:
    """The bottom rises at `angle` [rad] behind `hinge`, eased over `blend` metres."""

    kind: Literal["cut_away"] = "cut_away"
    name: Annotated[str, NAME]
    angle: Annotated[float, angles(0, 60)]
    hinge: Place
    blend: Annotated[float, lengths(0, 2)] = 0.0
    on: bool = True


@frozen(kw_only=True)
class Plinth:
    """A flat strip `width` wide across foil tracks or a fin box, level with their plane."""

    kind: Literal["plinth"] = "plinth"
    name: Annotated[str, NAME]
    width: Annotated[float, lengths(0, 1.5)]
    start: Place
    end: Place
    on: bool = True


@frozen(kw_only=True)
class DeckLayer:
    """A feature of the deck: a form times a schedule along the board.

    Dish, recess, scallop, relief (for the arms) and bevel go down by `amount`;
    platform, peak and kick go up. `amount` is a depth or height [m], for a deck
    bevel an angle [rad]. Recess and platform have walls at `wall` [rad].
    """

    kind: DeckForm
    name: Annotated[str, NAME]
    amount: Schedule
    layout: Layout = Layout()
    wall: Annotated[float, WALL] = radians(45)
    on: bool = True


Layer = ShapingLayer | Ledge | Channels | CrossStep | CutAway | Plinth


def across(layout: Layout, y: Array, edge: Array, width: Array) -> tuple[Array, Array]:
    """Distance s into the layer and its full extent W [m], for half-places y (n, m) and edges (n, 1)."""
    if layout.across == "share":
        return y, edge
    limited = np.minimum(width, edge)
    if layout.across == "centre":
        return np.minimum(y, limited), limited
    return np.maximum(0.0, y - (edge - limited)), limited


def form_height(kind: Form, s: Array, extent: Array, amount: Array, edge: Array) -> Array:
    """Height of the form at distance s, before the held line is taken off [m]."""
    if kind in ("v", "bevel"):
        return np.tan(amount) * s
    if kind == "inverted_v":
        return -np.tan(amount) * s
    q = s / np.maximum(extent, 1e-9)
    depth = amount * np.minimum(1.0, edge / NARROW)
    if kind == "belly":
        return depth * q * q
    if kind == "double":
        return 4 * depth * q * (1 - q)
    if kind == "tunnel":
        return -depth * q**4
    if kind == "spine":
        return depth * q * (2 - q)
    return -depth * q * q


def layer_height(layer: ShapingLayer, y: Array, edge: Array, amount: Array, width: Array) -> Array:
    """What the layer adds to the bottom at half-places `y` [m], shape of y.

    `edge`, `amount`, `width` have shape (n, 1). The result is zero on the line the layer holds.
    A side flat adds nothing by itself: see :func:`side_flat_line`.
    """
    if layer.kind == "side_flat":
        return np.zeros_like(y)
    s, extent = across(layer.layout, y, edge, width)
    height = form_height(layer.kind, s, extent, amount, edge)
    if layer.holds == "rail":
        height = height - form_height(layer.kind, extent, extent, amount, edge)
    return height


def side_flat_line(edge: Array, width: Array) -> Array:
    """Half-place from which a side flat runs out [m]."""
    return edge - clipped(width, 0.0, edge)


def crease(layout: Layout, edge: Array, width: Array) -> Array | None:
    """Half-place of the layer's own edge inside the bottom [m], or None where it has none."""
    if layout.across == "centre":
        return np.minimum(width, edge)
    if layout.across == "edge":
        return np.maximum(edge - width, 0.0)
    return None


def cut_away_height(cut: CutAway, hinge: float, xs: Array) -> Array:
    """How far the cut-away lifts the bottom at places `xs` [m]."""
    behind = np.maximum(0.0, hinge - xs)
    eased: Array = behind
    if cut.blend > 0:
        eased = np.where(behind < cut.blend, behind**2 / (2 * cut.blend), behind - cut.blend / 2)
    return eased * float(np.tan(cut.angle))


def wall_run(height: Array | float, wall: float) -> Array:
    """Width or length that a wall of this height takes [m]."""
    slope = tan(min(wall, pi / 2 - 1e-3))
    return np.maximum(np.abs(height) / slope, LEAST_WALL)


def step_height(step: CrossStep, at: float, xs: Array) -> Array:
    """How far a transverse step lifts the bottom at places `xs` [m]."""
    return step.height * clipped((at - xs) / wall_run(step.height, step.wall), 0.0, 1.0)


def presence(start: float, end: float, run_out: float, length: float, xs: Array) -> Array:
    """1 between `start` and `end`, fading to 0 within `run_out` inside them; ends off the board do not fade."""
    run = max(run_out, LEAST_WALL)
    t = np.ones_like(xs)
    if start > LEAST_WALL:
        t = np.minimum(t, clipped((xs - start) / run, 0.0, 1.0))
    if end < length - LEAST_WALL:
        t = np.minimum(t, clipped((end - xs) / run, 0.0, 1.0))
    return t if run_out <= LEAST_WALL else t * t * (3 - 2 * t)


def presence_features(start: float, end: float, run_out: float) -> list[float]:
    """Places where :func:`presence` turns [m]."""
    run = max(run_out, LEAST_WALL)
    return [start, start + run, end - run, end]


def plinth_presence(start: float, end: float, xs: Array) -> Array:
    """1 along the plinth, fading smoothly to 0 beyond its ends."""
    t = clipped(np.minimum(xs - start, end - xs) / PLINTH_EASE + 1.0, 0.0, 1.0)
    return t * t * (3 - 2 * t)


def ledge_lines(ledge: Ledge, edge: Array, inner: Array, line: Array, height: Array) -> tuple[Array, Array]:
    """Half-places of a ledge's line and of the head of its wall [m], each (n,), inside the bottom."""
    at = line if ledge.across == "centre" else edge - line
    at = clipped(at, inner, edge)
    return at, np.minimum(at + wall_run(height, ledge.wall), edge)


def ledge_height(y: Array, foot: Array, height: Array, wall: float) -> Array:
    """What a ledge adds at half-places y (n, m); `foot` and `height` are (n, 1)."""
    return height * clipped((y - foot) / wall_run(height, wall), 0.0, 1.0)


def channel_lips(channels: Channels, end: float, edge: Array, xs: Array) -> list[tuple[Array, Array]]:
    """Inner and outer lip of each channel [m], each (n,), kept inside the bottom's edge."""
    first = channels.inner + np.tan(channels.toe) * (end - xs)
    limit = np.maximum(edge - CHANNEL_REACH, 0.0)
    pitch = channels.width + channels.gap
    lips = [(first + i * pitch, first + i * pitch + channels.width) for i in range(channels.count)]
    return [(clipped(a, 0.0, limit), clipped(b, 0.0, limit)) for a, b in lips]


def channel_wall(channels: Channels, lips: tuple[Array, Array]) -> Array:
    """Width of a channel's wall [m], at most 0.45 of the channel."""
    return np.minimum(wall_run(channels.depth, channels.wall), 0.45 * (lips[1] - lips[0]))


def channel_height(y: Array, lips: tuple[Array, Array], wall: Array, depth: Array) -> Array:
    """What one channel adds at half-places y (n, m), with lips and wall (n,), depth (n, 1)."""
    w = np.maximum(wall, 1e-9)[:, None]
    up = clipped((y - lips[0][:, None]) / w, 0.0, 1.0)
    down = clipped((y - (lips[1] - wall)[:, None]) / w, 0.0, 1.0)
    open_ = (wall > 1e-5)[:, None]
    return np.where(open_, depth * (up - down), 0.0)


def deck_layer_height(layer: DeckLayer, y: Array, edge: Array, amount: Array, width: Array) -> Array:
    """What a deck layer adds at half-places `y`, up positive [m]; shapes as in :func:`layer_height`."""
    s, extent = across(layer.layout, y, edge, width)
    if layer.kind == "deck_bevel":
        return -np.tan(amount) * s
    depth = amount * np.minimum(1.0, edge / NARROW)
    q = s / np.maximum(extent, 1e-9)
    if layer.kind == "dish":
        return -depth * (1 - q * q)
    if layer.kind == "scallop":
        return -4 * depth * q * (1 - q)
    if layer.kind == "relief":
        return -depth * q * q * (3 - 2 * q)
    if layer.kind == "peak":
        return depth * (1 - q)
    if layer.kind == "kick":
        return depth * np.ones_like(y)
    sign = 1.0 if layer.kind == "platform" else -1.0
    if layer.layout.across == "share":
        return sign * depth * np.ones_like(y)
    w = wall_run(amount, layer.wall)
    inside = extent - y if layer.layout.across == "centre" else y - (edge - extent)
    return np.where(extent > w, sign * depth * clipped(inside / w, 0.0, 1.0), 0.0)


def deck_creases(layer: DeckLayer, edge: Array, amount: Array, width: Array) -> list[Array]:
    """Half-places where a deck layer breaks the deck's slope [m], each (n,)."""
    line = crease(layer.layout, edge, width)
    if line is None:
        return []
    if layer.kind not in ("recess", "platform"):
        return [line]
    wall = wall_run(amount, layer.wall)
    return [line, clipped(line - wall if layer.layout.across == "centre" else line + wall, 0.0, edge)]
