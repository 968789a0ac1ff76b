"""What the mean speed of a window is uncertain by, read off the track itself, and what the best of many adds.

A receiver's error lasts: neighbouring fixes are wrong alike, so that twenty of them are worth two or three. What a mean
over T seconds scatters by is therefore read off stretches of T seconds, and not off single fixes:

- places scatter across the way as they do along it, and across it nobody sails to and fro: of three places T apart the
  middle one lies off the line through the others by √1.5 of their scatter, or less where it lasts longer than T, and
  the way over T is wrong by √2 of it, or less likewise;
- where a receiver tells its speed too, the way by that against the way by places scatters by both, and what is left
  without that of the places is the speed's.

Sailing bends both, so that it is too much rather than too little; but no more counts than a mean differs from those
before and after it. Longer windows than are compared scatter like the root of as many of those. What a receiver's own
filter adds to speed and place alike is in none of it.

The fastest of N windows that know nothing of one another picks the error that helps it: 97.5 in 100 maxima of N normal
errors lie below z with Φ(z)^N = 0.975 (order statistics, any text).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.water.tracks.cleaning import Clean

REMEMBERS = 10.0
"""No receiver's error lasts much longer [s] (common practice, no source)."""
LONGEST, LONGEST_BY_PLACES = 30.0, 10.0
"""Stretches longer than this are not compared: sailing changes meanwhile [s]."""
TOLD = 10.0
"""Means by places over shorter than this tell little of a receiver's speed [s]."""
SLOW = 1.6
"""A way's error against its places' scatter: √2 where that is new at each fix, up to this where it lasts as long as the
window (errors that fade exponentially).
"""
LEVEL = 0.975
NORMAL = 0.6744897502
"""Median of a normal law's absolute value."""
FAST = 0.5
"""Of the speeds sailed, beneath which a stretch turns or stands, and tells no scatter."""


def mean_scatter(clean: Clean, seconds: float) -> float:
    """Standard deviation of a mean speed over so long, as the track tells it [m/s]."""
    longest = LONGEST if clean.by_doppler else LONGEST_BY_PLACES
    window = min(max(seconds, clean.step), longest)
    found = _mean_scatter(clean, window)
    if clean.by_doppler and window < TOLD:  # a shorter mean is no worse than if every fix were wrong for itself
        found = min(found, _mean_scatter(clean, TOLD) * float(np.sqrt(TOLD / window)))
    return found * float(np.sqrt(window / max(seconds, window)))


def _mean_scatter(clean: Clean, window: float) -> float:
    middle = clean.t[(clean.t >= window) & (clean.t <= clean.t[-1] - window)]
    if len(middle) < 2:
        return 0.0
    by_places = _across(clean, middle, window) / window
    if clean.by_doppler:
        single = clean.noise / float(np.sqrt(max(window / clean.step, 1.0)))
        left = _off_places(clean, middle, window) ** 2 - 2 * by_places**2
        found = max(float(np.sqrt(max(left, 0.0))), single)
    else:
        found = SLOW * by_places
    return min(found, _off_neighbours(clean, middle, window))


def best_of(count: float) -> float:
    """How many standard deviations the best of so many means may be too good by, and a single one off: 1.96 for one."""
    from scipy.special import ndtri  # in a worker

    return float(ndtri(LEVEL ** (1.0 / max(count, 1.0))))


def _deviation(values: Array) -> float:
    """Standard deviation by the median, so that what is rare does not count."""
    return float(np.median(np.abs(values - np.median(values)))) / NORMAL if len(values) else 0.0


def _steady(clean: Clean, begins: Array, ends: Array) -> tuple[Array, NDArray[np.bool_]]:
    """Mean speeds between moments, and whether somebody sailed on there, without a gap."""
    way = np.interp(ends, clean.t, clean.way) - np.interp(begins, clean.t, clean.way)
    first = np.searchsorted(clean.t, begins, side="right") - 1
    last = np.minimum(np.searchsorted(clean.t, ends, side="left"), len(clean.t) - 1)
    whole = (
        (begins >= clean.t[0]) & (ends <= clean.t[-1]) & (clean.stretch[np.maximum(first, 0)] == clean.stretch[last])
    )
    mean = way / (ends - begins)
    fast = np.quantile(mean[whole], 0.9) if whole.any() else 0.0
    return mean, whole & (mean > FAST * fast)


def _at(clean: Clean, t: Array) -> Array:
    return np.column_stack([np.interp(t, clean.t, clean.east), np.interp(t, clean.t, clean.north)])


def _across(clean: Clean, middle: Array, window: float) -> float:
    """What places scatter by, as far as it changes within a window [m]."""
    _, good = _steady(clean, middle - window, middle + window)
    t = middle[good]
    before, at, after = (_at(clean, t + shift) for shift in (-window, 0.0, window))
    along = after - before
    off = along[:, 0] * (at - before)[:, 1] - along[:, 1] * (at - before)[:, 0]
    return _deviation(off / np.maximum(np.hypot(*along.T), 1e-6)) / float(np.sqrt(1.5))


def _off_places(clean: Clean, middle: Array, window: float) -> float:
    """What means by the receiver's speed scatter by from those by its places [m/s]."""
    begins, ends = middle - window / 2, middle + window / 2
    mean, good = _steady(clean, begins, ends)
    chord = np.hypot(*(_at(clean, ends) - _at(clean, begins)).T) / window
    return _deviation((mean - chord)[good])


def _off_neighbours(clean: Clean, middle: Array, window: float) -> float:
    """What means scatter by from the middle of those before and after them [m/s]; sailing is in it."""
    apart = window + REMEMBERS
    mean, good = _steady(clean, middle - window / 2, middle + window / 2)
    beside = [_steady(clean, middle + s - window / 2, middle + s + window / 2) for s in (-apart, apart)]
    good = good & beside[0][1] & beside[1][1]
    bend = mean - 0.5 * (beside[0][0] + beside[1][0])
    return _deviation(bend[good]) / float(np.sqrt(1.5)) if good.sum() > 1 else float("inf")
