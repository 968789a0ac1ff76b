"""The outline: half-width along the board.

Half-width y(u) is a batten in u in [0, 1], and x(u) a known map of the two end
types, so x always increases. At a round tip the map makes the curve square to
the centreline; the batten has no curvature in u there.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from kelvor.core.shape.battens import Array, Batten, End, Ruler, Structure, Weight, cached_rows

TailKind = Literal["round", "squash", "chopped"]
NoseKind = Literal["round", "pointed", "chopped"]

REFIT_TOLERANCE = 8e-5
"""A refitted outline follows the old one within this [m]."""


@dataclass(frozen=True, slots=True)
class Outline:
    """The widest line in plan.

    Attributes
    ----------
    tail, nose:
        How the ends close. A squash tail is a chopped one with rounded corners.
    batten:
        Half-widths [m]. Round and pointed tips have no weight of their own at
        the tip; chopped and squash ends have one there.
    corner_radius:
        Of a squash tail [m].
    """

    tail: TailKind
    nose: NoseKind
    batten: Batten
    corner_radius: float = 0.0


def fraction_to_u(fraction: Array, tail: TailKind, nose: NoseKind) -> Array:
    """Inverse of :func:`u_to_fraction`."""
    f = np.clip(fraction, 0.0, 1.0)
    if tail == "round" and nose == "round":
        return np.arccos(1 - 2 * f) / np.pi
    if tail == "round":
        return 2 * np.arccos(1 - f) / np.pi
    if nose == "round":
        return 2 * np.arcsin(f) / np.pi
    return f


def u_to_fraction(u: Array, tail: TailKind, nose: NoseKind) -> Array:
    """X / length at parameter u, by the types of the two ends."""
    if tail == "round" and nose == "round":
        return (1 - np.cos(np.pi * u)) / 2
    if tail == "round":
        return 1 - np.cos(np.pi * u / 2)
    if nose == "round":
        return np.sin(np.pi * u / 2)
    return u * 1.0


def closed_batten(outline: Outline, length: float) -> tuple[Structure, Array]:
    """Structure in u and values of the outline, with the tips of no width added."""
    weights = outline.batten.weights
    if outline.tail == "round":
        weights = (Weight(0.0, 0.0), *weights)
    if outline.nose in ("round", "pointed"):
        weights = (*weights, Weight(length, 0.0))
    u = fraction_to_u(np.array([w.x for w in weights]) / length, outline.tail, outline.nose)
    start: End = "natural" if outline.tail == "round" else "free"
    end: End = "natural" if outline.nose == "round" else "free"
    structure = Structure(
        tuple(float(v) for v in u), tuple(w.knuckle for w in weights), tuple(w.ruler for w in weights), start, end
    )
    return structure, np.array([w.value for w in weights])


def half_width(outline: Outline, length: float, xs: Array) -> Array:
    """Half-width [m] at places `xs` [m], zero beyond the tips."""
    structure, values = closed_batten(outline, length)
    u = fraction_to_u(xs / length, outline.tail, outline.nose)
    return trimmed(outline, xs, structure.rows(u) @ values)


def half_width_rows(outline: Outline, length: float, xs: Array) -> Array:
    """Matrix from the values of `outline.batten` to half-widths at `xs`, before the squash corner."""
    structure, _ = closed_batten(outline, length)
    rows = structure.rows(fraction_to_u(xs / length, outline.tail, outline.nose))
    first = 1 if outline.tail == "round" else 0
    return rows[:, first : first + len(outline.batten.weights)]


def half_width_cached(outline: Outline, length: float, u_key: tuple[float, ...], xs: Array) -> Array:
    """Like :func:`half_width` at stations that come again and again."""
    structure, values = closed_batten(outline, length)
    return trimmed(outline, xs, cached_rows(structure, u_key) @ values)


def trimmed(outline: Outline, xs: Array, raw: Array) -> Array:
    """Round the corners of a squash tail."""
    r = outline.corner_radius
    if outline.tail == "squash" and r > 0:
        e = np.clip(1 - xs / r, 0.0, 1.0)
        raw = raw - r * (1 - np.sqrt(np.maximum(0.0, 1 - e * e)))
    return raw


def tip_radius(outline: Outline, length: float, at_nose: bool) -> float:
    """Radius of curvature of a round tip in plan [m]: 2 y'(0)²/(π² L), halved again for one open end."""
    structure, values = closed_batten(outline, length)
    slope = float((cached_rows(structure, (1.0 if at_nose else 0.0,), 1) @ values)[0])
    both = outline.tail == "round" and outline.nose == "round"
    return (2 if both else 4) * slope * slope / (np.pi**2 * length)


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
    outline = new
    for _ in range(12):
        gap = half_width(outline, new_length, probe) - target
        if float(np.max(np.abs(gap))) <= REFIT_TOLERANCE:
            break
        outline = _least_squares(outline, new_length, probe, target, keep)
        gap = half_width(outline, new_length, probe) - target
        worst = int(np.argmax(np.abs(gap)))
        if abs(gap[worst]) <= REFIT_TOLERANCE:
            break
        places = np.array(outline.batten.places)
        clear = np.min(np.abs(probe[:, None] - places[None, :]), axis=1) > 0.02
        if not clear.any():
            break
        worst = int(np.argmax(np.where(clear, np.abs(gap), -1.0)))
        extra = Weight(float(probe[worst]), float(target[worst]))
        outline = replace(outline, batten=outline.batten.inserted(extra))
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
