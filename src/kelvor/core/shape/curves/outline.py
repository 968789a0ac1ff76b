"""The outline: half-width along the board.

Half-width y(u) is a batten in u in [0, 1], and x(u) a known map of the two end
types, so x always increases. At a round tip the map makes the curve square to
the centreline; the batten has no curvature in u there. Wingers, hips, corners,
diamonds and notches are laid over that curve, so that the weights stay few.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.limits import Along, Many, lengths
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.battens import (
    Batten,
    End,
    Ruler,
    Spacing,
    Structure,
    Weight,
    along,
    cached_rows,
    clipped,
)

TailKind = Literal["round", "pin", "squash", "square", "chopped", "swallow", "split", "diamond"]
NoseKind = Literal["round", "pointed", "blunt", "chopped", "notched"]

NOTCHED_TAILS = ("swallow", "split")
REFIT_TOLERANCE = 8e-5
"""A refitted outline follows the old one within this [m]."""
LEAST_NOTCH = 1e-5
"""A notch narrower than this is closed [m]: stations are rounded."""
LEAST_RUN = 1e-3
"""A square winger still takes this much length [m]: two stations."""
SAME_WIDTH = 1e-9
"""Half-widths that differ by less are one width [m]: rounding alone may not choose where a board is widest."""


@frozen(kw_only=True)
class Winger:
    """A winger or a hip.

    Attributes
    ----------
    kind:
        A `winger` pulls the outline in behind it; a `hip` is a smooth bump.
    x:
        Its place [m from the tail tip].
    pull_in:
        How far the half-width steps in (winger) or stands out (hip) [m].
    run:
        Length of the step, or half the length of the hip [m]; 0 makes a winger square.
    """

    kind: Literal["winger", "hip"] = "winger"
    x: Annotated[float, lengths(0, 7)]
    pull_in: Annotated[float, lengths(-0.1, 0.2)]
    run: Annotated[float, lengths(0, 3.3)] = 0.0


@frozen
class Outline:
    """The widest line in plan.

    Attributes
    ----------
    tail, nose:
        How the ends close. A squash tail is a square one with rounded corners.
    batten:
        Half-widths [m]. Ends of no width have no weight of their own at the
        tip; open ends have one there.
    corner_radius, nose_radius:
        Of the corners of an open tail and of a blunt nose [m].
    tail_depth, tail_spread:
        Of a swallow's or split's notch: its length, and its full width at the
        tail [m]. The depth of a diamond is the length of its taper.
    nose_depth, nose_spread:
        Of a notched nose [m].
    """

    tail: TailKind
    nose: NoseKind
    batten: Annotated[Batten, Along(lengths(2e-3, 0.75))]
    corner_radius: Annotated[float, lengths(0, 0.75)] = 0.0
    tail_depth: Annotated[float, lengths(0, 2.6)] = 0.0
    tail_spread: Annotated[float, lengths(0, 1.5)] = 0.0
    nose_radius: Annotated[float, lengths(0, 0.75)] = 0.0
    nose_depth: Annotated[float, lengths(0, 2.6)] = 0.0
    nose_spread: Annotated[float, lengths(0, 1.5)] = 0.0
    wingers: Annotated[tuple[Winger, ...], Many(20)] = ()

    @property
    def tail_closed(self) -> bool:
        """Whether the batten comes to the centreline at the tail."""
        return self.tail in ("round", "pin")

    @property
    def nose_closed(self) -> bool:
        """Whether the batten comes to the centreline at the nose."""
        return self.nose in ("round", "pointed")

    @property
    def tail_tipped(self) -> bool:
        """Whether the finished outline ends in a tip of no width at the tail."""
        return self.tail_closed or (self.tail == "diamond" and self.tail_depth > 0)

    @property
    def spacing(self) -> Spacing:
        """How u runs along the length."""
        if self.tail == "round":
            return "both" if self.nose == "round" else "tail"
        return "nose" if self.nose == "round" else "even"

    def bare(self) -> Outline:
        """The batten alone, with nothing laid over it."""
        return Outline(self.tail, self.nose, self.batten)


def fraction_to_u(fraction: Array, spacing: Spacing) -> Array:
    """Inverse of :func:`u_to_fraction`."""
    f = clipped(fraction, 0.0, 1.0)
    if spacing == "both":
        return np.arccos(1 - 2 * f) / np.pi
    if spacing == "tail":
        return 2 * np.arccos(1 - f) / np.pi
    if spacing == "nose":
        return 2 * np.arcsin(f) / np.pi
    return f


def u_to_fraction(u: Array, spacing: Spacing) -> Array:
    """X / length at parameter u."""
    return along(u, spacing)


@lru_cache(maxsize=64)
def closed_batten(outline: Outline, length: float) -> tuple[Structure, Array]:
    """Structure in u and values of the outline, with the tips of no width added."""
    weights = outline.batten.weights
    if outline.tail_closed:
        weights = (Weight(0.0, 0.0), *weights)
    if outline.nose_closed:
        weights = (*weights, Weight(length, 0.0))
    spacing = outline.spacing
    u = fraction_to_u(np.array([w.x for w in weights]) / length, spacing)
    start: End = "natural" if outline.tail == "round" else "free"
    end: End = "natural" if outline.nose == "round" else "free"
    rulers = tuple(w.ruler for w in weights)
    if any(rulers):
        rulers = tuple(
            _ruler_in_u(w, weights[i + 1].x, length, spacing) if w.ruler else None for i, w in enumerate(weights)
        )
    structure = Structure(tuple(float(v) for v in u), tuple(w.knuckle for w in weights), rulers, start, end, spacing)
    values = np.array([w.value for w in weights])
    values.setflags(write=False)
    return structure, values


def _ruler_in_u(weight: Weight, end: float, length: float, spacing: Spacing) -> Ruler:
    """A ruler with its blend lengths measured in u."""
    ruler = weight.ruler or Ruler()
    places = np.array([weight.x - ruler.blend_aft, weight.x, end, end + ruler.blend_fore]) / length
    u = fraction_to_u(places, spacing)
    return Ruler(float(u[1] - u[0]), float(u[3] - u[2]))


def half_width(outline: Outline, length: float, xs: Array) -> Array:
    """Half-width [m] at places `xs` [m], zero beyond the tips."""
    structure, values = closed_batten(outline, length)
    u = fraction_to_u(xs / length, outline.spacing)
    return with_trims(outline, length, xs, structure.rows(u) @ values)


def half_width_rows(outline: Outline, length: float, xs: Array) -> Array:
    """Matrix from the values of `outline.batten` to half-widths at `xs`, before corners and notches."""
    structure, _ = closed_batten(outline, length)
    rows = structure.rows(fraction_to_u(xs / length, outline.spacing)) * _winger_factor(outline, length, xs)[:, None]
    first = 1 if outline.tail_closed else 0
    return rows[:, first : first + len(outline.batten.weights)]


def half_width_cached(outline: Outline, length: float, u_key: tuple[float, ...], xs: Array) -> Array:
    """Like :func:`half_width` at stations that come again and again."""
    structure, values = closed_batten(outline, length)
    return with_trims(outline, length, xs, cached_rows(structure, u_key) @ values)


@lru_cache(maxsize=256)
def _bare_at(outline: Outline, length: float, x: float) -> float:
    """Half-width of the batten alone at one place [m]."""
    return float(half_width(outline.bare(), length, np.array([x]))[0])


def with_trims(outline: Outline, length: float, xs: Array, raw: Array) -> Array:
    """Lay wingers, hips, a diamond and rounded corners over the batten's half-widths."""
    if outline.wingers:
        raw = raw * _winger_factor(outline, length, xs)
    if outline.tail == "diamond" and outline.tail_depth > 0:
        taper = _bare_at(outline, length, outline.tail_depth) * xs / outline.tail_depth
        raw = np.where(xs < outline.tail_depth, np.minimum(raw, taper), raw)
    for radius, distance in (
        (0.0 if outline.tail_closed else outline.corner_radius, xs),
        (outline.nose_radius if outline.nose in ("blunt", "notched") else 0.0, length - xs),
    ):
        if radius > 0:
            e = clipped(1 - distance / radius, 0.0, 1.0)
            raw = raw - radius * (1 - np.sqrt(np.maximum(0.0, 1 - e * e)))
    return raw


def _winger_factor(outline: Outline, length: float, xs: Array) -> Array:
    """What wingers and hips multiply the batten's half-width by."""
    factor = np.ones_like(xs)
    for winger in outline.wingers:
        share = winger.pull_in / max(_bare_at(outline, length, winger.x), 1e-6)
        if winger.kind == "winger":
            factor *= 1 - share * _ease(xs, winger.x - max(winger.run, LEAST_RUN), winger.x, winger.run > LEAST_RUN)
        else:
            near = clipped(np.abs(xs - winger.x) / max(winger.run, LEAST_RUN), 0.0, 1.0)
            factor *= 1 + share * (1 - near * near) ** 2
    return factor


def _ease(xs: Array, start: float, end: float, smooth: bool) -> Array:
    """1 behind `start`, 0 ahead of `end`."""
    t = clipped((end - xs) / (end - start), 0.0, 1.0)
    return t * t * (3 - 2 * t) if smooth else t


def widest_of(xs: Array, half: Array) -> tuple[float, float]:
    """Where half-widths at places `xs` are greatest, and how great [m]: by the parabola through the three widest, or
    the middle of a run of one width.
    """
    most = int(half.argmax())
    level = np.flatnonzero(half >= half[most] - SAME_WIDTH)
    if len(level) > 2 and level[-1] - level[0] == len(level) - 1:
        return float(xs[level[0]] + xs[level[-1]]) / 2, float(half[most])
    i = min(max(most, 1), len(half) - 2)
    (x0, x1, x2), (y0, y1, y2) = xs[i - 1 : i + 2].tolist(), half[i - 1 : i + 2].tolist()
    a = (y0 - y1) / (x0 - x1)
    c = ((y2 - y1) / (x2 - x1) - a) / (x2 - x0)
    if c >= 0:
        return float(xs[most]), float(half[most])
    top = min(max((x0 + x1) / 2 - a / (2 * c), x0), x2)
    return top, y1 + a * (top - x1) + c * (top - x1) * (top - x0)


def inner_edge(outline: Outline, length: float, xs: Array) -> Array:
    """Half-width of the notch in tail or nose [m], zero elsewhere. A swallow is straight, a split rounded."""
    inner = np.zeros_like(xs)
    if outline.tail in NOTCHED_TAILS and outline.tail_depth > 0:
        t = clipped(xs / outline.tail_depth, 0.0, 1.0)
        inner = outline.tail_spread / 2 * ((1 - t) if outline.tail == "swallow" else np.sqrt(1 - t * t))
    if outline.nose == "notched" and outline.nose_depth > 0:
        t = clipped((length - xs) / outline.nose_depth, 0.0, 1.0)
        inner = np.maximum(inner, outline.nose_spread / 2 * np.sqrt(1 - t * t))
    return np.where(inner > LEAST_NOTCH, inner, 0.0)


def tip_radius(outline: Outline, length: float, at_nose: bool) -> float:
    """Radius of curvature of a round tip in plan [m]: 2 y'(0)²/(π² L), halved again for one open end."""
    structure, values = closed_batten(outline, length)
    slope = float((cached_rows(structure, (1.0 if at_nose else 0.0,), 1) @ values)[0])
    return (2 if outline.spacing == "both" else 4) * slope * slope / (np.pi**2 * length)


def refitted(
    old: Outline, old_length: float, new: Outline, new_length: float, shift: float, keep: tuple[float, float]
) -> Outline:
    """`new` with weights such that it follows `old` where `keep` says.

    Parameters
    ----------
    shift:
        A point at x on the new board was at x + shift on the old one [m].
    keep:
        Places on the new board [m] between which the outline may not move by
        more than 0.08 mm. Weights are added there, as few as it takes.
    """
    probe = np.linspace(keep[0], keep[1], 81)
    target = half_width(old, old_length, probe + shift)
    return fitted_outline(new, new_length, probe, target, keep, REFIT_TOLERANCE)


def fitted_outline(
    outline: Outline,
    length: float,
    probe: Array,
    target: Array,
    keep: tuple[float, float],
    tolerance: float,
    apart: float = 0.02,
) -> Outline:
    """The outline with weights such that it passes within `tolerance` [m] of half-widths `target` at places `probe`.

    Weights are added where it misses most, `apart` from their neighbours [m], as few as it takes.
    """
    for _ in range(16):
        outline = _least_squares(outline, length, probe, target, keep)
        gap = np.abs(half_width(outline, length, probe) - target)
        if float(gap.max()) <= tolerance:
            break
        clear = np.min(np.abs(probe[:, None] - np.array(outline.batten.places)[None, :]), axis=1) > apart
        if not clear.any():
            break
        worst = int(np.argmax(np.where(clear, gap, -1.0)))
        outline = replace(outline, batten=outline.batten.inserted(Weight(float(probe[worst]), float(target[worst]))))
    return outline


def _least_squares(outline: Outline, length: float, probe: Array, target: Array, keep: tuple[float, float]) -> Outline:
    batten = outline.batten
    rows = half_width_rows(outline, length, probe)
    held = np.array([not keep[0] - 1e-9 <= w.x <= keep[1] + 1e-9 for w in batten.weights])
    held |= np.array([_beside_ruler(batten, i) for i in range(len(batten.weights))])
    values = batten.values
    if held.all():
        return outline
    solved = np.linalg.lstsq(rows[:, ~held], target - rows[:, held] @ values[held], rcond=None)[0]
    values[~held] = solved
    return replace(outline, batten=batten.with_values(values))


def _beside_ruler(batten: Batten, index: int) -> bool:
    before: Ruler | None = batten.weights[index - 1].ruler if index else None
    return before is not None or batten.weights[index].ruler is not None
