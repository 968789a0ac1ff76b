"""Battens: curves through lead weights, with rulers and knuckles.

A batten is a cubic spline, twice continuously differentiable between knuckles
and rulers. A ruler holds it exactly straight between two weights; the
neighbouring curve leaves the ruler with its tangent, and with no curvature at
first if the ruler has a blend length there. With the places fixed, every value
of the curve is linear in the weights' values, so the curve is a cached matrix
times the values.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.limits import ANY_PLACE, Limit, Many
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen

End = Literal["free", "natural"]
"""How a batten ends: `free` lets the last two spans be one cubic (so a cut
through the last span leaves the rest untouched); `natural` has no curvature."""

Spacing = Literal["even", "tail", "nose", "both"]
"""How a batten's parameter runs along its length: evenly, or crowded towards a round tip at an end."""

LEAST_GAP = 1e-4
"""Two weights on a batten lie at least this far apart [same unit as places]."""


def in_order(values: Array) -> Array:
    """The values sorted, each once; np.unique does the same and loads masked arrays first, on the start path."""
    ordered: Array = np.sort(values)
    once: Array = ordered[np.append(True, ordered[1:] > ordered[:-1])]
    return once


def clipped(values: Array, low: Array | float, high: Array | float) -> Array:
    """The values held between `low` and `high`; np.clip takes three times as long over the few values of a line."""
    held: Array = np.minimum(np.maximum(values, low), high)
    return held


def trapezoid_weights(x: Array) -> Array:
    """What each of the places `x` (n,) counts by the trapezoid rule (n,): `weights @ values` is the integral."""
    half = (x[1:] - x[:-1]) / 2
    weights = np.zeros_like(x)
    weights[:-1] += half
    weights[1:] += half
    return weights


@frozen
class Ruler:
    """A straight run from one weight to the next, with a blend length at each end [m]."""

    blend_aft: Annotated[float, Limit(0, 3, Quantity.LENGTH)] = 0.0
    blend_fore: Annotated[float, Limit(0, 3, Quantity.LENGTH)] = 0.0


@frozen
class Weight:
    """A lead weight: where it lies [m from the tail tip] and how high it holds the batten [m].

    A `knuckle` lets the slope break. A `ruler` lies from this weight to the next.
    """

    x: Annotated[float, ANY_PLACE]
    value: Annotated[float, Limit(-1, 1, Quantity.LENGTH)]
    knuckle: bool = False
    ruler: Ruler | None = None


@frozen
class Batten:
    """A curve through weights, in order of their places."""

    weights: Annotated[tuple[Weight, ...], Many(200, least=1)]

    @property
    def places(self) -> tuple[float, ...]:
        """The weights' places [m]."""
        return tuple(w.x for w in self.weights)

    @property
    def values(self) -> Array:
        """The weights' values [m], shape (n,)."""
        return np.array([w.value for w in self.weights])

    def with_values(self, values: Array) -> Batten:
        """The same weights at other heights."""
        return Batten(tuple(replace(w, value=float(v)) for w, v in zip(self.weights, values, strict=True)))

    def with_weight(self, index: int, weight: Weight) -> Batten:
        """One weight replaced."""
        return Batten((*self.weights[:index], weight, *self.weights[index + 1 :]))

    def inserted(self, weight: Weight) -> Batten:
        """One more weight, in its order."""
        return Batten(tuple(sorted((*self.weights, weight), key=lambda w: w.x)))

    def removed(self, index: int) -> Batten:
        """One weight fewer."""
        return Batten(self.weights[:index] + self.weights[index + 1 :])

    def structure(self) -> Structure:
        """All that decides the matrix: everything but the values."""
        return Structure(
            self.places, tuple(w.knuckle for w in self.weights), tuple(w.ruler for w in self.weights), "free", "free"
        )

    def at(self, xs: Array, order: int = 0) -> Array:
        """Height (order 0), slope (1) or second derivative (2) at places `xs` [m]; beyond the ends, straight on."""
        return self.structure().rows(xs, order) @ self.values


def along(u: Array, spacing: Spacing, order: int = 0) -> Array:
    """Share of the length at parameter u (order 0), or its derivative in u."""
    rate = np.pi if spacing == "both" else np.pi / 2
    if spacing == "even":
        return np.array([u, np.ones_like(u), np.zeros_like(u)][order], dtype=np.float64)
    c, s = np.cos(rate * u), np.sin(rate * u)
    scale = 0.5 if spacing == "both" else 1.0
    if spacing == "nose":
        return np.asarray((s, rate * c, -rate * rate * s)[order])
    return np.asarray((scale * (1 - c), scale * rate * s, scale * rate * rate * c)[order])


@frozen
class Structure:
    """A batten without its heights: places, knuckles, rulers and ends.

    Places are in the batten's own parameter: metres for rocker and thickness,
    u in [0, 1] for the outline. A ruler is straight along the length, whatever
    the `spacing` of the parameter.
    """

    places: tuple[float, ...]
    knuckles: tuple[bool, ...]
    rulers: tuple[Ruler | None, ...]
    start: End
    end: End
    spacing: Spacing = "even"

    def rows(self, xs: Array, order: int = 0) -> Array:
        """Matrix R with curve derivative of `order` at `xs` = R @ values, shape (len(xs), n)."""
        spans = _spans(self)
        out = np.zeros((len(xs), len(self.places)))
        starts = np.array([s.knots[0] for s in spans[1:]])
        which = np.searchsorted(starts, xs, side="right")
        for i, span in enumerate(spans):
            mask = which == i
            if mask.any():
                out[mask] = span.rows(xs[mask], order)
        return out


@lru_cache(maxsize=512)
def cached_rows(structure: Structure, key: tuple[float, ...], order: int = 0) -> Array:
    """Like :meth:`Structure.rows` for places that come again and again."""
    rows = structure.rows(np.array(key), order)
    rows.setflags(write=False)
    return rows


@frozen(eq=False)
class _Span:
    """One smooth piece: knots (k,), and matrices to values (k, n) and second derivatives (k, n)."""

    knots: Array
    values: Array
    moments: Array

    def rows(self, xs: Array, order: int) -> Array:
        k = self.knots
        i = np.minimum(np.maximum(np.searchsorted(k, xs, side="right") - 1, 0), len(k) - 2)
        inside = clipped(xs, k[0], k[-1])
        h, beyond = k[i + 1] - k[i], xs - inside
        b = (inside - k[i]) / h
        a = 1 - b
        # what the values and the second derivatives at either end of a span count at x
        if order == 2:
            on = beyond == 0.0
            parts = np.zeros_like(a), np.zeros_like(a), a * on, b * on
        else:
            parts = -1 / h, 1 / h, (1 - 3 * a * a) * h / 6, (3 * b * b - 1) * h / 6
        if order == 0:
            straight = [beyond * slope for slope in parts] if beyond.any() else [0.0] * 4
            hh = h * h / 6
            parts = a, b, (a * a - 1) * a * hh, (b * b - 1) * b * hh
            parts = tuple(part + more for part, more in zip(parts, straight, strict=True))
        weights, each = np.zeros((2, len(xs), len(k))), np.arange(len(xs))
        weights[0, each, i], weights[0, each, i + 1], weights[1, each, i], weights[1, each, i + 1] = parts
        found: Array = weights[0] @ self.values + weights[1] @ self.moments
        return found


@frozen(eq=False)
class _Straight:
    """A ruler: straight along the length from one knot to the next."""

    knots: Array
    values: Array
    spacing: Spacing

    def rows(self, xs: Array, order: int) -> Array:
        start, end = along(self.knots, self.spacing)
        share = along(np.clip(xs, *self.knots), self.spacing, order)
        t = ((share - start if order == 0 else share) / (end - start))[:, None]
        if order == 0 and self.spacing == "even":  # straight on beyond a free end
            t = ((xs - start) / (end - start))[:, None]
        rows: Array = self.values[0] * ((1 - t) if order == 0 else -t) + self.values[1] * t
        return rows


@lru_cache(maxsize=256)
def _spans(structure: Structure) -> tuple[_Span | _Straight, ...]:
    """The smooth pieces of a batten, cut at knuckles and rulers."""
    places, n = structure.places, len(structure.places)
    identity = np.eye(n)
    spans: list[_Span | _Straight] = []
    first = 0
    for i in range(1, n):
        if structure.rulers[i - 1] is not None:
            if i - 1 > first:
                spans.append(_curve_span(structure, first, i - 1, identity))
            spans.append(_Straight(np.array(places[i - 1 : i + 1]), identity[i - 1 : i + 1], structure.spacing))
            first = i
        elif structure.knuckles[i] or i == n - 1:
            spans.append(_curve_span(structure, first, i, identity))
            first = i
    return tuple(spans)


def _curve_span(structure: Structure, first: int, last: int, identity: Array) -> _Span:
    """The cubic spline from weight `first` to weight `last`, clamped to the rulers beside it."""
    places = structure.places
    knots, values = list(places[first : last + 1]), [identity[i] for i in range(first, last + 1)]
    ruler_aft = structure.rulers[first - 1] if first > 0 and not structure.knuckles[first] else None
    ruler_fore = structure.rulers[last] if not structure.knuckles[last] else None
    slope_aft = slope_fore = bend_aft = bend_fore = None
    aux: list[int] = []
    if ruler_aft is not None:
        slope_aft, bend_aft = _tangent(structure, identity, first - 1, first)
        blend = min(ruler_aft.blend_fore, 0.6 * (knots[1] - knots[0]))
        if blend > LEAST_GAP:
            knots.insert(1, knots[0] + blend)
            values.insert(1, np.zeros(len(places)))
            aux.append(1)
    if ruler_fore is not None:
        slope_fore, bend_fore = _tangent(structure, identity, last, last)
        blend = min(ruler_fore.blend_aft, 0.6 * (knots[-1] - knots[-2]))
        if blend > LEAST_GAP:
            knots.insert(len(knots) - 1, knots[-1] - blend)
            values.insert(len(values) - 1, np.zeros(len(places)))
            aux.append(len(knots) - 2)
    start: End = structure.start if first == 0 else "natural"
    end: End = structure.end if last == len(places) - 1 else "natural"
    y = np.array(values)
    k = np.array(knots)
    moments: Array = _second_derivatives(k, y, slope_aft, slope_fore, start, end)
    if aux:  # free heights at the blend knots, such that the curvature starts from nothing at the ruler
        ends = [0 if i == 1 and ruler_aft is not None and slope_aft is not None else len(k) - 1 for i in aux]
        zero = np.zeros(len(places)) if slope_aft is not None else None
        zero_fore = np.zeros(len(places)) if slope_fore is not None else None
        unit = np.zeros((len(aux), len(k), len(places)))
        answer = np.zeros((len(aux), len(k)))
        for j, i in enumerate(aux):
            unit[j, i, 0] = 1.0
            answer[j] = _second_derivatives(k, unit[j], zero, zero_fore, start, end)[:, 0]
        straight = [bend_aft if e == 0 else bend_fore for e in ends]  # a straight line's own second derivative in u
        heights = np.asarray(np.linalg.solve(answer[:, ends].T, np.array(straight) - moments[ends]), dtype=np.float64)
        for j, i in enumerate(aux):
            y[i] = heights[j]
            moments += answer[j][:, None] * heights[j][None, :]
    return _Span(k, y, moments)


def _tangent(structure: Structure, identity: Array, ruler: int, at: int) -> tuple[Array, Array]:
    """First and second derivative of the ruler from weight `ruler`, at weight `at`, as rows of values."""
    ends = along(np.array(structure.places[ruler : ruler + 2]), structure.spacing)
    rise = (identity[ruler + 1] - identity[ruler]) / (ends[1] - ends[0])
    first, second = (float(along(np.array([structure.places[at]]), structure.spacing, k)[0]) for k in (1, 2))
    return rise * first, rise * second


def _second_derivatives(
    k: Array, y: Array, slope_aft: Array | None, slope_fore: Array | None, start: End, end: End
) -> Array:
    """Second derivatives at the knots of the cubic spline through rows `y` (k, n): one solve for all columns."""
    m = len(k)
    if m == 2 and slope_aft is None and slope_fore is None:
        return np.zeros_like(y)
    h = np.diff(k)
    secant = np.diff(y, axis=0) / h[:, None]
    a = np.zeros((m, m))
    r = np.zeros_like(y)
    for i in range(1, m - 1):
        a[i, i - 1], a[i, i], a[i, i + 1] = h[i - 1], 2 * (h[i - 1] + h[i]), h[i]
        r[i] = 6 * (secant[i] - secant[i - 1])
    if slope_aft is not None:
        a[0, 0], a[0, 1] = 2 * h[0], h[0]
        r[0] = 6 * (secant[0] - slope_aft)
    elif start == "free" and m > 2:
        if m == 3 and slope_fore is None and end == "free":  # one parabola
            a[0, 0], a[0, 1] = 1.0, -1.0
        else:
            a[0, :3] = h[1], -(h[0] + h[1]), h[0]
    elif start == "free" and slope_fore is not None:  # one span against a ruler: a parabola
        a[0, 0], a[0, 1] = 1.0, -1.0
    else:
        a[0, 0] = 1.0
    if slope_fore is not None:
        a[-1, -1], a[-1, -2] = 2 * h[-1], h[-1]
        r[-1] = 6 * (slope_fore - secant[-1])
    elif end == "free" and m > 2:
        if m == 3 and slope_aft is None and start == "free":
            a[-1, -1], a[-1, -2] = 1.0, -1.0
        else:
            a[-1, -3:] = h[-1], -(h[-2] + h[-1]), h[-2]
    elif end == "free" and slope_aft is not None:
        a[-1, -1], a[-1, -2] = 1.0, -1.0
    else:
        a[-1, -1] = 1.0
    return np.asarray(np.linalg.solve(a, r), dtype=np.float64)
