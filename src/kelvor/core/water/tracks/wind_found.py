"""Where the wind came from, read off the runs; what the water carried."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.runs import Run, wrapped

TERMS = 5
"""Cosines a polar is fitted with."""
TOO_CLOSE = np.radians(35.0)
"""Nobody sails a run closer to the wind (common practice, no source)."""
PRICE = 0.25
"""What a run sailed within that costs, as a share of the spread of speeds."""
GROUPS = 20
"""The band is read off what is found without each of so many groups of runs."""
LEAST_RUNS = 8
"""Fewer runs tell no wind."""


@frozen
class WindFound:
    """Where the wind came from [rad, clockwise from north], and half the width of what it could be, 95 % [rad]."""

    bearing: float
    band: float


def wind_from(runs: tuple[Run, ...]) -> WindFound:
    """The direction about which speeds over angle are most alike on both tacks; the slower of its two ends close to the
    wind is upwind.

    Raises
    ------
    InputError
        When the runs cannot tell: too few, or sailed back and forth along one line.
    """
    if len(runs) < LEAST_RUNS:
        raise InputError(
            f"{len(runs)} runs tell no wind", where="wind", accepts=f"Type where it came from, or sail {LEAST_RUNS}"
        )
    heading = np.array([run.heading for run in runs])
    speed = np.array([run.speed for run in runs])
    weight = np.array([np.sqrt(run.seconds) for run in runs])
    spread = _spread(heading, weight)
    if spread < 0.15:
        raise InputError(
            "the runs go back and forth along one line, which tells no wind",
            where="wind",
            accepts="Type where it came from, or sail some upwind and some down",
        )
    bearing = _axis(heading, speed, weight)
    angle = np.abs(wrapped(heading - bearing))
    if not ((angle < np.radians(75)).any() and (angle > np.radians(105)).any()):
        raise InputError(
            "the runs lie all on one side of the wind, which does not tell it",
            where="wind",
            accepts="Type where it came from, or sail some upwind and some down",
        )
    n = min(len(runs), GROUPS)
    group = np.arange(len(runs)) % n
    rest = [group != i for i in range(n)]
    left_out = np.array([_axis(heading[r], speed[r], weight[r], near=bearing) for r in rest])
    # the jackknife's own spread (Efron and Tibshirani 1993, ch. 11, memory)
    scatter = np.sqrt((n - 1) / n * np.sum(wrapped(left_out - bearing) ** 2))
    # one tack may be faster, for waves, current or the sailor; that, too, explains speeds that differ from side to side
    unlike = float(wrapped(_axis(heading, speed, weight, near=bearing, one_faster=True) - bearing))
    return WindFound(float(np.remainder(bearing, 2 * np.pi)), float(np.hypot(1.96 * scatter, unlike)))


def _spread(heading: Array, weight: Array) -> float:
    """How much the runs' lines differ, whichever way they were sailed: 0 for one line, 1 for all alike."""
    return 1.0 - float(np.abs(np.sum(weight * np.exp(2j * heading))) / np.sum(weight))


def _axis(heading: Array, speed: Array, weight: Array, near: float | None = None, *, one_faster: bool = False) -> float:
    """The bearing of the wind: searched all round by whole degrees, then between them [rad]; `one_faster` lets one tack
    be.
    """
    tried = np.radians(np.arange(360.0)) if near is None else near + np.radians(np.arange(-12.0, 13.0))
    miss = _unlike(tried, heading, speed, weight, one_faster=one_faster)
    at = int(np.argmin(miss))
    low, high = (at - 1) % len(tried), (at + 1) % len(tried)
    bend = miss[low] - 2 * miss[at] + miss[high]
    between = 0.5 * (miss[low] - miss[high]) / bend if bend > 0 else 0.0
    return float(tried[at] + np.radians(np.clip(between, -1, 1)))


def _unlike(tried: Array, heading: Array, speed: Array, weight: Array, *, one_faster: bool = False) -> Array:
    """How badly a polar alike on both sides of each bearing fits the runs (m,)."""
    angle = wrapped(heading[None, :] - tried[:, None])
    alike = [np.cos(k * angle) for k in range(TERMS)]
    basis = np.stack([*alike, np.sign(angle)] if one_faster else alike, axis=2) * weight[None, :, None]
    wanted = np.broadcast_to(speed * weight, angle.shape)
    # a little held back, so that few runs fit no wiggles
    normal = basis.transpose(0, 2, 1) @ basis + 1e-3 * np.sum(weight**2) * np.diag(
        [0.0, *([1.0] * (basis.shape[2] - 1))]
    )
    terms = np.linalg.solve(normal, (basis.transpose(0, 2, 1) @ wanted[..., None]))
    left = ((basis @ terms)[..., 0] - wanted) ** 2
    total = np.sum(weight**2 * (speed - np.average(speed, weights=weight**2)) ** 2) + 1e-9
    close = np.sum(weight**2 * (np.abs(angle) < TOO_CLOSE), axis=1) / np.sum(weight**2)
    # a beat is slower than the same angle off the wind: the sign of the first cosine
    beat = np.cos(np.radians(50.0) * np.arange(TERMS))
    run = np.cos(np.radians(130.0) * np.arange(TERMS))
    slower = terms[:, :TERMS, 0] @ (beat - run)
    wrong_end = PRICE * np.clip(slower / (np.std(speed) + 1e-9), 0, 2)
    return np.asarray(np.sum(left, axis=1) / total + 4 * PRICE * close + wrong_end)
