"""Bottom layers: cross-section forms times schedules along the board.

A shaping layer adds height to the bottom, smoothly, and says which line it
leaves in place, keel or rail. It is laid out by share of the half-width, by
metres from the centre, or by metres from the edge. The cut-away lifts the
bottom behind a hinge. The plinth keeps a strip flat and level under the foil
tracks; shaping layers begin outboard of it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from kelvor.core.shape.places import Place
from kelvor.core.shape.schedules import Schedule

Array = NDArray[np.float64]
Form = Literal["belly", "v", "hollow", "bevel"]
Line = Literal["keel", "rail"]
Across = Literal["share", "centre", "edge"]

NARROW = 0.06
"""Below this half-width [m] depths fade with the width: a hollow in millimetres over no width is a needle."""

PLINTH_EASE = 0.12
"""Length over which a plinth fades in and out along the board [m]."""
PLINTH_WALL = 0.012
"""Width over which a levelled plinth meets the bottom beside it [m]."""


@dataclass(frozen=True, slots=True)
class Layout:
    """Where across the board a layer lies; `width` [m] is used by `centre` and `edge`."""

    across: Across = "share"
    width: Schedule = Schedule(((0.0, 0.0),))


@dataclass(frozen=True, slots=True, kw_only=True)
class ShapingLayer:
    """A belly, V, hollow or bevel.

    `amount` is a depth [m] for belly and hollow, an angle [rad] for V and bevel.
    """

    kind: Form
    name: str
    amount: Schedule
    layout: Layout = Layout()
    holds: Line = "keel"
    on: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class CutAway:
    """The bottom rises at `angle` [rad] behind `hinge`, eased over `blend` metres."""

    kind: Literal["cut_away"] = "cut_away"
    name: str
    angle: float
    hinge: Place
    blend: float = 0.0
    on: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Plinth:
    """A flat strip `width` wide across the foil tracks, level with the track plane."""

    kind: Literal["plinth"] = "plinth"
    name: str
    width: float
    start: Place
    end: Place
    on: bool = True


Layer = ShapingLayer | CutAway | Plinth


def across(layer: ShapingLayer, y: Array, edge: Array, width: Array) -> tuple[Array, Array]:
    """Distance s into the layer and its full extent W [m], for half-places y (n, m) and edges (n, 1)."""
    if layer.layout.across == "share":
        return y, edge
    limited = np.minimum(width, edge)
    if layer.layout.across == "centre":
        return np.minimum(y, limited), limited
    return np.maximum(0.0, y - (edge - limited)), limited


def form_height(kind: Form, s: Array, extent: Array, amount: Array, edge: Array) -> Array:
    """Height of the form at distance s, before the held line is taken off [m]."""
    if kind in ("v", "bevel"):
        return np.tan(amount) * s
    q = s / np.maximum(extent, 1e-9)
    depth = amount * np.minimum(1.0, edge / NARROW)
    sign = 1.0 if kind == "belly" else -1.0
    return sign * depth * q * q


def layer_height(layer: ShapingLayer, y: Array, edge: Array, amount: Array, width: Array) -> Array:
    """What the layer adds to the bottom at half-places `y` [m], shape of y.

    `edge`, `amount`, `width` have shape (n, 1). The result is zero on the line the layer holds.
    """
    s, extent = across(layer, y, edge, width)
    height = form_height(layer.kind, s, extent, amount, edge)
    if layer.holds == "rail":
        height = height - form_height(layer.kind, extent, extent, amount, edge)
    return height


def crease(layer: ShapingLayer, edge: Array, width: Array) -> Array | None:
    """Half-place of the layer's own edge inside the bottom [m], or None where it has none."""
    if layer.layout.across == "centre":
        return np.minimum(width, edge)
    if layer.layout.across == "edge":
        return np.maximum(edge - width, 0.0)
    return None


def cut_away_height(cut: CutAway, hinge: float, xs: Array) -> Array:
    """How far the cut-away lifts the bottom at places `xs` [m]."""
    behind = np.maximum(0.0, hinge - xs)
    eased: Array = behind
    if cut.blend > 0:
        eased = np.where(behind < cut.blend, behind**2 / (2 * cut.blend), behind - cut.blend / 2)
    return eased * float(np.tan(cut.angle))


def plinth_presence(start: float, end: float, xs: Array) -> Array:
    """1 along the plinth, fading smoothly to 0 beyond its ends."""
    t = np.clip(np.minimum(xs - start, end - xs) / PLINTH_EASE + 1.0, 0.0, 1.0)
    return t * t * (3 - 2 * t)
