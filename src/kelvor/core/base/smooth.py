"""Reading between the entries of a table without corners."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array


def clip(value: Array | float, low: Array | float, high: Array | float) -> Array:
    """Kept between two ends: what `np.clip` does at a third of its cost on short arrays."""
    kept: Array = np.minimum(np.maximum(value, low), high)
    return kept


def step(t: Array | float) -> Array:
    """From 0 to 1 as `t` does, once differentiable."""
    inside = clip(t, 0.0, 1.0)
    found: Array = inside * inside * (3 - 2 * inside)
    return found


def hermite(low: Array, high: Array, leaves: Array, meets: Array, t: Array) -> Array:
    """The cubic from `low` to `high` over t from 0 to 1 that leaves and meets them at these slopes."""
    read: Array = low + t * (
        leaves + t * (3 * (high - low) - 2 * leaves - meets + t * (2 * (low - high) + leaves + meets))
    )
    return read


def crossing(rises: Callable[[float], float], low: float, high: float, within: float = 1e-6) -> float:
    """Where what rises crosses nothing between two places, by regula falsi (Illinois); the nearer end where it does
    not.
    """
    at_low, at_high, stayed = rises(low), rises(high), 0
    if at_low >= 0 or at_high <= 0:
        return low if at_low >= 0 else high
    for _ in range(40):
        middle = low - at_low * (high - low) / (at_high - at_low)
        value = rises(middle)
        if abs(value) < within or high - low < within:
            return middle
        if value < 0:
            low, at_low = middle, value
            at_high, stayed = (at_high / 2 if stayed < 0 else at_high), -1
        else:
            high, at_high = middle, value
            at_low, stayed = (at_low / 2 if stayed > 0 else at_low), 1
    return middle


def falling_root(
    value: Callable[[Array, NDArray[np.intp]], Array],
    low: Array,
    high: Array,
    at_low: Array,
    at_high: Array,
    *,
    guess: Array,
    exact: float,
    most: int = 14,
) -> Array:
    """Where falling values cross nothing (n,): secants from a good `guess`, kept between two ends that hold the root.

    Parameters
    ----------
    value:
        Asked at places (k,) for these of the roots (k,).
    low, high:
        Ends (n,) with `at_low` > 0 ≥ `at_high` there.
    exact:
        What may be left of a value.
    """
    open_ = np.arange(len(low))
    found = np.where((guess > low) & (guess < high), guess, (low * at_high - high * at_low) / (at_high - at_low))
    low, high = low.copy(), high.copy()
    slope = (at_high - at_low) / (high - low)
    before, at_before = found.copy(), np.full_like(found, np.nan)
    for _ in range(most):
        here = found[open_]
        now = value(here, open_)
        left = np.abs(now) >= exact
        if not left.any():
            break
        open_, here, now = open_[left], here[left], now[left]
        above = now > 0
        low[open_], high[open_] = np.where(above, here, low[open_]), np.where(above, high[open_], here)
        run = here - before[open_]
        steeper = (now - at_before[open_]) / np.where(run == 0, 1.0, run)
        slope[open_] = np.where(np.isfinite(steeper) & (steeper < 0), steeper, slope[open_])
        before[open_], at_before[open_] = here, now
        there = here - now / slope[open_]
        inside = (there > low[open_]) & (there < high[open_])
        found[open_] = np.where(inside, there, (low[open_] + high[open_]) / 2)
    return found


def backwards(values: Array, places: Array) -> Array:
    """Where values (n, 4) at places (n, 4) are nothing, by the cubic through them that takes places for values
    (Lagrange).
    """
    found = np.zeros(len(values))
    for j in range(4):
        others = [k for k in range(4) if k != j]
        share = np.prod([values[:, k] / (values[:, k] - values[:, j]) for k in others], axis=0)
        found += places[:, j] * share
    return found


def even(values: Array, at: Array) -> Array:
    """Values (n,) over 0, 1, 2 … read at places (…) between them, once differentiable."""
    rate = np.gradient(values)
    j = np.minimum(np.maximum(at.astype(int), 0), len(values) - 2)
    return hermite(values[j], values[j + 1], rate[j], rate[j + 1], at - j)


def rising(knots: Array, values: Array, at: Array) -> Array:
    """Values (k, m, j) over rising knots (m, j) read at (m,), once differentiable and without overshoot.

    Slopes by Fritsch & Butland 1984 (from memory), none at the first knot; beyond the ends the values stay.
    """
    last = knots.shape[1] - 1
    i = clip(np.sum(knots <= at[:, None], axis=1) - 1, 0, last - 1)
    # the four knots around each place, from the tables laid out flat
    around = clip(i + np.arange(-1, 3)[:, None], 0, last) + np.arange(len(at)) * (last + 1)
    x, y = knots.take(around), values.reshape(len(values), -1).take(around, axis=1)
    widths = np.maximum(x[1:] - x[:-1], 1e-12)
    steps = (y[:, 1:] - y[:, :-1]) / widths
    a, b, before, after = steps[:, :2], steps[:, 1:], widths[:2], widths[1:]
    share = (before + 2 * after) / (3 * (before + after))
    same = a * b > 0
    slopes = np.where(same, a * b / np.where(same, share * b + (1 - share) * a, 1.0), 0.0)
    h = widths[1]
    leaves, meets = h * np.where(i > 0, slopes[:, 0], 0.0), h * np.where(i < last - 1, slopes[:, 1], steps[:, 1])
    return hermite(y[:, 1], y[:, 2], leaves, meets, clip((at - x[1]) / h, 0.0, 1.0))


def refined(x: Array, *columns: Array, times: int = 4) -> tuple[Array, ...]:
    """A curve's places (n,) and what runs over them (n,), on `times` as many places between: once differentiable,
    without overshoot.

    Slopes by Fritsch & Butland 1984 (from memory), at the ends those of the first and last stretch.
    """
    n = len(x)
    if n < 3:
        return x, *columns
    place = np.linspace(0, n - 1, (n - 1) * times + 1)
    i = np.minimum(place.astype(int), n - 2)
    widths = np.diff(x)
    before, after = widths[:-1], widths[1:]
    share = (before + 2 * after) / (3 * (before + after))
    finer = [np.interp(place, np.arange(n), x)]
    for column in columns:
        steps = np.diff(column) / widths
        a, b = steps[:-1], steps[1:]
        same = a * b > 0
        slopes = np.concatenate(
            [steps[:1], np.where(same, a * b / np.where(same, share * b + (1 - share) * a, 1.0), 0.0), steps[-1:]]
        )
        finer.append(hermite(column[i], column[i + 1], widths[i] * slopes[i], widths[i] * slopes[i + 1], place - i))
    return tuple(finer)
