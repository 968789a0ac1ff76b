"""A scan in words and as colours: how far the made board lies from its design, and where."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.made.scan import MADE, MADE_ENDS, ScanDeviation, Scanned

MOST = 0.003
"""The colours end here; beyond, the last stays [m]."""
PIXEL = 0.005
"""Side of a pixel of the picture [m]."""


def scan_summary(found: Scanned, system: System) -> str:
    """The scan in a few sentences."""
    words = (
        f"{len(found.off)} points, read as {found.unit}. Nine tenths lie within {_fine(found.usual, system)} of the "
        f"design, the farthest {_fine(found.most, system)} off. Nose turned against the tail by "
        f"{text(abs(found.twist), Quantity.ANGLE, system, extra=1)}"
    )
    if abs(found.twist) > 1e-4:
        words += f", {'port' if found.twist > 0 else 'starboard'} up at the nose"
    return " ".join([words + ".", *scan_doubts(found, system)])


def scan_doubts(found: Scanned, system: System) -> list[str]:
    """What may be otherwise than it was laid, with what would decide."""
    if found.another:  # which way round it lies means nothing yet
        scan, design = (
            " × ".join(text(side, Quantity.LENGTH, system) for side in size) for size in (found.size, found.designed)
        )
        return [
            f"Is it this board? Made boards lie within {_fine(MADE, system)} of their design, their ends within "
            f"{_fine(MADE_ENDS, system)}. The scan is {scan}, the design {design}: tape and serial decide."
        ]
    told = []
    for way, then, now in found.also:
        told.append(
            f"It lies as closely {way} ({_fine(then, system)} against {_fine(now, system)} on the mean): which end is "
            "the nose, a hole, a number or a dent at one end decides; till then what is told of one end may be the "
            "other's."
        )
    return told


def place_rows(found: Scanned, system: System) -> list[tuple[str, ...]]:
    """Dents and bumps: number, where, how far off."""
    rows: list[tuple[str, ...]] = []
    for i, place in enumerate(found.places, 1):
        side = "port" if place.y >= 0 else "starboard"
        along = text(place.x, Quantity.LENGTH, system)
        across = text(abs(place.y), Quantity.LENGTH, system)
        rows.append((str(i), f"{along} from the tail, {across} to {side}", _off(place, system)))
    return rows


def picture(found: Scanned, *, deck: bool, middle: Array) -> tuple[Array, tuple[float, float]]:
    """How far off a face lies, pixel by pixel (n, m) [m] from the tail to the nose and from starboard to port, NaN
    where nothing was scanned; and its corner [m].

    `middle` tells which points are of the deck: heights (n,) half way between bottom and deck.
    """
    mine = (found.points[:, 2] >= middle) == deck
    points, off = found.points[mine], found.off[mine]
    if not len(points):
        return np.full((1, 1), np.nan), (0.0, 0.0)
    low = points[:, :2].min(axis=0)
    i, j = ((points[:, k] - low[k]) // PIXEL for k in (0, 1))
    size = int(i.max()) + 1, int(j.max()) + 1
    flat = (i * size[1] + j).astype(int)
    total = np.bincount(flat, off, size[0] * size[1])
    count = np.bincount(flat, minlength=size[0] * size[1])
    found_off: Array = np.where(count > 0, total / np.maximum(count, 1), np.nan).reshape(size)
    return found_off, (float(low[0]), float(low[1]))


def _fine(value: float, system: System) -> str:
    return text(value, Quantity.DEPTH, system, extra=1)


def _off(place: ScanDeviation, system: System) -> str:
    return f"{_fine(abs(place.off), system)} {'low' if place.off < 0 else 'high'}"
