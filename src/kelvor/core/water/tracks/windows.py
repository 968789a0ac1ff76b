"""The best of a track: over so many seconds, over so many metres, and out and back through a turn."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.cleaning import Clean
from kelvor.core.water.tracks.scatter import best_of, mean_scatter

SECONDS = (2.0, 10.0)
METRES = (100.0, 250.0, 500.0, 1852.0)
ALPHA_METRES, ALPHA_APART = 500.0, 50.0
"""Alpha: the best mean over at most so far, with a turn in it, whose ends lie no farther apart [m] (common practice,
no source)."""
ALPHA_RATE = 2.0
"""An alpha is looked for at so many fixes a second."""
RIVAL = 3.0
"""Windows within so many standard deviations of the best could be it."""
NEEDS_DOPPLER = 5.0
"""Shorter windows are told by places only with a great bias [s]."""


@frozen
class Best:
    """The fastest stretch of a kind.

    Attributes
    ----------
    name:
        “2 s”, “500 m”, “Alpha 500”.
    speed:
        Its mean [m/s].
    band:
        Half width of what it could be by what means over so long scatter on this track, and by having been picked out
        of as many as come near it, 95 % [m/s].
    begins, ends:
        When, since the first fix [s].
    high:
        Whether it reads high: the best of many short windows told by places picks out the scatter.
    """

    name: str
    speed: float
    band: float
    begins: float
    ends: float
    high: bool = False


def bests(clean: Clean) -> tuple[Best, ...]:
    """Every window the track is long enough for.

    A window begins or ends at a fix; its other end lies between two.
    """
    found = [_over_time(clean, seconds) for seconds in SECONDS]
    found += [_over_way(clean, metres) for metres in METRES]
    found.append(_alpha(clean))
    return tuple(best for best in found if best is not None)


def _apart(begins: Array, seconds: float) -> int:
    """How many windows of a length that do not overlap are among those that begin so."""
    count, free = 0, -np.inf
    for begin in np.sort(begins):
        if begin >= free:
            count, free = count + 1, begin + seconds
    return count


def _told(clean: Clean, name: str, begins: Array, ends: Array, metres: Array) -> Best | None:
    """The fastest of these windows that lie in one stretch each."""
    first = np.clip(np.searchsorted(clean.t, begins, side="right") - 1, 0, None)
    last = np.minimum(np.searchsorted(clean.t, ends, side="left"), len(clean.t) - 1)
    whole = (begins >= 0) & (ends <= clean.t[-1] + 1e-9) & (ends > begins)
    whole &= clean.stretch[first] == clean.stretch[last]
    if not whole.any():
        return None
    speed = np.where(whole, metres / np.where(whole, ends - begins, 1.0), -1.0)
    at = int(np.argmax(speed))
    seconds = float(ends[at] - begins[at])
    high = not clean.by_doppler and seconds < NEEDS_DOPPLER
    scatter = mean_scatter(clean, seconds)
    rivals = _apart(begins[speed >= speed[at] - RIVAL * scatter], seconds)
    return Best(name, float(speed[at]), best_of(rivals) * scatter, float(begins[at]), float(ends[at]), high)


def _over_time(clean: Clean, seconds: float) -> Best | None:
    t, way = clean.t, clean.way
    begins = np.concatenate([t, t - seconds])
    metres = np.concatenate([np.interp(t + seconds, t, way) - way, way - np.interp(t - seconds, t, way)])
    return _told(clean, f"{seconds:.0f} s", begins, begins + seconds, metres)


def _over_way(clean: Clean, metres: float) -> Best | None:
    t, way = clean.t, clean.way
    if way[-1] < metres:
        return None
    rising, kept = _rising(way)
    ends = _when(rising, t[kept], way + metres)
    begins = _when(rising, t[kept], way - metres)
    both = np.concatenate([t, begins]), np.concatenate([ends, t])
    name = "Nautical mile" if metres == 1852.0 else f"{metres:.0f} m"
    return _told(clean, name, *both, np.full(2 * len(t), metres))


def _rising(way: Array) -> tuple[Array, NDArray[np.intp]]:
    """The way where it goes on, and the places of those fixes."""
    kept = np.flatnonzero(np.append(True, np.diff(way) > 0))
    return way[kept], kept


def _when(way: Array, t: Array, wanted: Array) -> Array:
    """When a way was reached; before the first or after the last fix where it was not [s]."""
    found = np.interp(wanted, way, t)
    return np.where(wanted > way[-1] + 1e-9, np.inf, np.where(wanted < way[0] - 1e-9, -np.inf, found))


def _alpha(clean: Clean) -> Best | None:
    """The best mean out and back: over 500 m or less whose ends lie within 50 m of each other."""
    if clean.way[-1] < ALPHA_METRES:
        return None
    t = np.arange(clean.t[0], clean.t[-1], max(1 / ALPHA_RATE, clean.step))
    east, north, way = (np.interp(t, clean.t, values) for values in (clean.east, clean.north, clean.way))
    rising, kept = _rising(clean.way)
    # from each moment, the moment 500 m further on, and half a turn at least between them
    ends = _when(rising, clean.t[kept], way + ALPHA_METRES)
    there = np.isfinite(ends)
    found: Best | None = None
    begins, ends, way = t[there], ends[there], way[there]
    east, north = east[there], north[there]
    for share in (1.0, 0.95, 0.9, 0.8, 0.7, 0.6):
        # a turn that was slow is best with all of the 500 m; where its ends lie too far apart, with less
        stop = ends if share == 1.0 else _when(rising, clean.t[kept], way + share * ALPHA_METRES)
        apart = np.hypot(np.interp(stop, clean.t, clean.east) - east, np.interp(stop, clean.t, clean.north) - north)
        near = apart <= ALPHA_APART
        if near.any():
            best = _told(clean, "Alpha 500", begins[near], stop[near], np.full(int(near.sum()), share * ALPHA_METRES))
            if best is not None and (found is None or best.speed > found.speed):
                found = best
    return found
