"""What is no sailing is taken out of a track, and said."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.track import Track, apart, laid_flat

FASTEST = 36.0
"""No board under sail, kite or tow goes faster [m/s]: 70 kn (common practice, no source)."""
DRIVEN = 25.0
"""Who keeps this speed up for :data:`DRIVEN_FOR` sits in a car [m/s]: 49 kn (common practice, no source)."""
DRIVEN_FOR = 60.0
"""[s]"""
LEAST_FIXES, LEAST_SECONDS = 30, 60.0
"""Less is no track to read anything from."""
GAP = 5.0
"""A track that is silent for longer is two stretches [s]; five of its own steps where those are longer."""
LONGEST = 24 * 3600.0
"""Nobody sails for longer [s]."""
SMOOTHED = 1.0
"""Places told more often are averaged over so long before speeds are read off them [s]: the scatter of fixes a tenth
of a second apart would be taken for way.
"""
LEAST_STEP = 1e-3
"""Two fixes within this time are one [s]."""


@frozen
class Removed:
    """Fixes that were left out: how many, and why."""

    count: int
    why: str


@frozen(eq=False)
class Clean:
    """A track one can read from.

    Attributes
    ----------
    track:
        Its fixes in order of time.
    t:
        Seconds since its first fix (n,) [s].
    east, north:
        From its middle fix (n,) [m].
    speed:
        Over ground (n,) [m/s]: the receiver's own where it said one, else from the places.
    way:
        Sailed since the first fix (n,) [m], from that speed; what lies between two stretches does not count.
    stretch:
        Number of the stretch without a gap each fix belongs to (n,).
    by_doppler:
        Whether the speed is the receiver's own.
    noise:
        What a fix's speed scatters by, read off the track itself [m/s]; from places, what the places scatter by [m].
    removed:
        What was left out.
    """

    track: Track
    t: Array
    east: Array
    north: Array
    speed: Array
    way: Array
    stretch: NDArray[np.intp]
    by_doppler: bool
    noise: float
    removed: tuple[Removed, ...]

    @property
    def step(self) -> float:
        """The usual time between two fixes [s]."""
        return float(np.median(np.diff(self.t)))


def sailed_only(track: Track) -> Clean:
    """The track without what is no sailing, and how much of it that was.

    Raises
    ------
    InputError
        When nothing is left to read from, or the clock cannot be trusted.
    """
    removed: list[Removed] = []
    _enough(track, "it holds no track to read", removed)
    here = np.isfinite(track.seconds) & np.isfinite(track.latitude) & np.isfinite(track.longitude)
    here &= (np.abs(track.latitude) <= np.pi / 2) & (np.abs(track.longitude) <= np.pi)
    track = _kept(track, here, "are no places", removed)
    nowhere = (np.abs(track.latitude) < 1e-7) & (np.abs(track.longitude) < 1e-7)
    track = _kept(track, ~nowhere, "lie at 0° 0°: the receiver had no fix yet", removed)
    _enough(track, "none of it has a place", removed)
    track = _in_time(track, removed)
    track = _without_jumps(track, removed)
    track = _without_drives(track, removed)
    _enough(track, "too little of it is sailing", removed)
    return _measured(track, tuple(removed))


def _enough(track: Track, what: str, removed: list[Removed]) -> None:
    n = len(track.seconds)
    if n < LEAST_FIXES:
        gone = "; ".join(f"{r.count} {r.why}" for r in removed)
        raise InputError(
            what,
            accepts=f"{n} fixes are left, {LEAST_FIXES} are needed{f' ({gone})' if gone else ''}",
        )


def _kept(track: Track, keep: NDArray[np.bool_], why: str, removed: list[Removed]) -> Track:
    gone = int(np.count_nonzero(~keep))
    if gone:
        removed.append(Removed(gone, why))
        return track.only(keep)
    return track


def _in_time(track: Track, removed: list[Removed]) -> Track:
    """Fixes in order of time; a clock that jumps is followed where it can be."""
    steps = np.diff(track.seconds)
    if len(steps) and np.count_nonzero(steps < 0) > 0.9 * len(steps):
        track = track.only(np.arange(len(track.seconds))[::-1])
        removed.append(Removed(0, "ran backwards; the order was turned round"))
    t = track.seconds
    # a fix whose clock alone is wrong: the next one is back where the one before was
    alone = np.zeros(len(t), dtype=bool)
    alone[1:-1] = ((t[1:-1] > t[2:]) | (t[1:-1] < t[:-2])) & (t[2:] > t[:-2]) & (t[2:] - t[:-2] < LONGEST / 24)
    track = _kept(track, ~alone, "have a clock of their own", removed)
    t = track.seconds
    ahead = np.maximum.accumulate(t)
    late = np.zeros(len(t), dtype=bool)
    late[1:] = t[1:] < ahead[:-1] - LEAST_STEP
    if np.count_nonzero(late) > 0.1 * len(t):
        raise InputError(
            "its clock jumps back in the middle, so that its order cannot be told",
            accepts="Cut the file at the jump, or take the watch's own file",
        )
    track = _kept(track, ~late, "came when the clock had jumped back", removed)
    again = np.zeros(len(track.seconds), dtype=bool)
    again[1:] = np.diff(track.seconds) < LEAST_STEP
    track = _kept(track, ~again, "are told twice", removed)
    return _one_day(track, removed)


def _one_day(track: Track, removed: list[Removed]) -> Track:
    """The longest part without a break of hours, where the whole is longer than anyone sails."""
    t = track.seconds
    if t[-1] - t[0] <= LONGEST:
        return track
    cuts = np.flatnonzero(np.diff(t) > LONGEST / 8)
    edges = [0, *(cuts + 1), len(t)]
    parts = list(zip(edges[:-1], edges[1:], strict=True))
    low, high = max(parts, key=lambda part: part[1] - part[0])
    if t[high - 1] - t[low] > LONGEST:
        raise InputError(f"it lasts {(t[-1] - t[0]) / 3600:.0f} hours", accepts="Of one day: cut it first")
    keep = np.zeros(len(t), dtype=bool)
    keep[low:high] = True
    return _kept(track, keep, "are of another day", removed)


def _without_jumps(track: Track, removed: list[Removed]) -> Track:
    """Without places nobody could have been at, and without speeds nobody sails."""
    if track.doppler is not None:
        with np.errstate(invalid="ignore"):
            track = _kept(track, ~(track.doppler > FASTEST), "say a speed nobody sails", removed)
    for _ in range(6):
        if len(track.seconds) < LEAST_FIXES:
            break
        # what a receiver's scatter alone makes of two fixes a tenth of a second apart is no jump
        over = _steps(track.latitude, track.longitude) > FASTEST * np.diff(track.seconds) + 10.0
        before, after = np.append(True, over), np.append(over, True)
        off = before & after
        off[0], off[-1] = over[0] and not over[1], over[-1] and not over[-2]
        if not off.any():
            break
        track = _kept(track, ~off, "jump to where nobody could have been", removed)
    return track


def _without_drives(track: Track, removed: list[Removed]) -> Track:
    """Without the way home: what keeps up a speed nobody sails is a car, down to where it stood."""
    if len(track.seconds) < LEAST_FIXES:
        return track
    t = track.seconds - track.seconds[0]
    way = np.append(0.0, np.cumsum(_steps(track.latitude, track.longitude)))
    mean = (np.interp(t + DRIVEN_FOR, t, way) - way) / DRIVEN_FOR
    fast = np.flatnonzero(mean > DRIVEN)
    if not len(fast):
        return track
    slow = _speed_from_places(t, (track.latitude, track.longitude), np.zeros(len(t), dtype=np.intp)) < 1.5
    keep = np.ones(len(t), dtype=bool)
    stops = np.flatnonzero(slow)
    for at in fast:
        if keep[at]:
            before, after = stops[stops < at], stops[stops > at]
            keep[(before[-1] if len(before) else 0) : (after[0] if len(after) else len(t))] = False
    return _kept(track, keep, "are of a drive", removed)


def _steps(latitude: Array, longitude: Array) -> Array:
    """How far each fix lies from the one before (n - 1,) [m]."""
    place = np.arange(len(latitude))
    return apart(latitude, longitude, place[:-1], place[1:])


def _speed_from_places(t: Array, places: tuple[Array, Array], stretch: NDArray[np.intp]) -> Array:
    """Speed at each fix from the places before and after it, or from one of them where a stretch ends (n,) [m/s]."""
    last = len(t) - 1
    place = np.arange(len(t))
    low, high = np.maximum(place - 1, 0), np.minimum(place + 1, last)
    low = np.where(stretch[low] == stretch, low, place)
    high = np.where(stretch[high] == stretch, high, place)
    time = t[high] - t[low]
    found = apart(*places, low, high)
    return np.divide(found, time, out=np.zeros_like(found), where=time > 0)


def _measured(track: Track, removed: tuple[Removed, ...]) -> Clean:
    t = track.seconds - track.seconds[0]
    if t[-1] < LEAST_SECONDS:
        raise InputError(f"it lasts {t[-1]:.0f} s", accepts=f"At least {LEAST_SECONDS:.0f} s")
    east, north = laid_flat(track.latitude, track.longitude)
    steps = np.diff(t)
    stretch = np.append(0, np.cumsum(steps > max(GAP, 5 * float(np.median(steps))))).astype(np.intp)
    together = np.diff(stretch) == 0
    told = track.doppler is not None and np.isfinite(track.doppler).mean() > 0.9
    if told:
        assert track.doppler is not None
        good = np.isfinite(track.doppler)
        speed = np.interp(t, t[good], track.doppler[good])
        passed = 0.5 * (speed[1:] + speed[:-1]) * steps
        noise = _scatter(speed, together)
    else:
        step = float(np.median(steps))
        noise = float(np.hypot(_scatter(east, together), _scatter(north, together)) / np.sqrt(2))
        latitude = _smoothed(track.latitude, stretch, step)
        longitude = _smoothed(np.unwrap(track.longitude), stretch, step)
        east, north = laid_flat(latitude, longitude)
        speed = _speed_from_places(t, (latitude, longitude), stretch)
        passed = _steps(latitude, longitude)
        # scatter across the way makes every step longer by its square over the step (to second order); what lies along
        # the way falls out from one step to the next
        left = np.hypot(_scatter(east, together), _scatter(north, together)) / np.sqrt(2)
        passed -= np.where(passed > 3 * left, left**2 / np.maximum(passed, 1e-9), 0.0)
    way = np.append(0.0, np.cumsum(np.where(together, passed, 0.0)))
    return Clean(track, t, east, north, speed, way, stretch, told, noise, removed)


def _smoothed(values: Array, stretch: NDArray[np.intp], step: float) -> Array:
    """Running means over a second, within each stretch; shorter ones at its ends."""
    half = round(0.5 * SMOOTHED / max(step, 1e-3))
    if half < 1 or step > 0.5 * SMOOTHED:
        return values
    sums, place = np.append(0.0, np.cumsum(values)), np.arange(len(values))
    first = np.searchsorted(stretch, stretch, side="left")
    last = np.searchsorted(stretch, stretch, side="right") - 1
    reach = np.minimum(half, np.minimum(place - first, last - place))
    found: Array = (sums[place + reach + 1] - sums[place - reach]) / (2 * reach + 1)
    return found


def _scatter(values: Array, together: NDArray[np.bool_]) -> float:
    """What values scatter by from one to the next, from their second differences: those of a scatter s scatter by
    s √6, and sailing itself hardly bends them. By the median, so that a turn does not count.
    """
    bends = np.diff(values, 2)[together[1:] & together[:-1]]
    return float(np.median(np.abs(bends)) / 0.6744897502 / np.sqrt(6)) if len(bends) else 0.0
