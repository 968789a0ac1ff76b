"""What a shaper reads off the sections: one of them, and the outline seen from above."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.outline import widest_of
from kelvor.core.shape.surface.sections import Columns, Sections


@frozen(eq=False)
class SectionReading:
    """One section: its half-curve and the measures a shaper checks.

    Attributes
    ----------
    y, z:
        Half-curve from the bottom's centre to the deck's centre [m].
    v_angle:
        Rise from keel to bottom edge, as an angle [rad]; negative where the keel lies higher.
    hollow:
        Greatest gap under a straight edge laid across the bottom [m].
    caliper_25, caliper_50:
        Thickness 25 and 50 mm in from the outline [m]; NaN where the board is narrower.
    """

    x: float
    y: Array
    z: Array
    half_width: float
    thickness: float
    edge_y: float
    v_angle: float
    hollow: float
    caliper_25: float
    caliper_50: float
    columns: Columns


def section_measures(shape: Sections, index: int) -> SectionReading:
    """Measures of the section at station `index`."""
    return _reading(shape, lambda values: values[index])


def reading_between(shape: Sections, x: float) -> SectionReading:
    """Measures of the section at a place `x` [m], read between the stations beside it: true to what lies
    between them.
    """
    i = int(np.clip(np.searchsorted(shape.x, x) - 1, 0, len(shape.x) - 2))
    t = float(np.clip((x - shape.x[i]) / (shape.x[i + 1] - shape.x[i]), 0.0, 1.0))
    return _reading(shape, lambda values: (1 - t) * values[i] + t * values[i + 1])


def _reading(shape: Sections, at: Callable[[Array], Array]) -> SectionReading:
    columns = shape.columns
    y, z = at(shape.y), at(shape.z)
    b, edge, keel, edge_z = (float(at(values)) for values in (shape.half_width, shape.edge_y, shape.keel, shape.edge_z))
    bottom_y, bottom_z = y[: columns.edge + 1], z[: columns.edge + 1]
    rise = edge_z - keel
    # a straight edge rests on both bottom edges, or, where V keeps it off them, on keel and one edge
    straight = z[0] + rise * bottom_y / max(edge, 1e-9) if rise >= 0 else np.full_like(bottom_y, edge_z)
    return SectionReading(
        float(at(shape.x)),
        y,
        z,
        b,
        float(at(shape.deck)) - keel,
        edge,
        float(np.arctan2(rise, max(edge, 1e-9))),
        float(max(0.0, np.max(bottom_z - straight))),
        _caliper(y, z, columns.apex, columns.top, b - 0.025),
        _caliper(y, z, columns.apex, columns.top, b - 0.05),
        columns,
    )


def _caliper(y: Array, z: Array, apex: int, top: int, at: float) -> float:
    if at <= float(y[0]):
        return float("nan")
    low = np.interp(at, y[: apex + 1], z[: apex + 1])
    high = np.interp(at, y[apex : top + 1][::-1], z[apex : top + 1][::-1])
    return float(high - low)


def half_outline(shape: Sections) -> Array:
    """Port side of the outline from the centreline at the tail round to the centreline at the nose (n, 2) [m].

    A notch in tail or nose is followed in to its apex, where the station next to it stands.
    """
    inside = np.flatnonzero(shape.inner > 0)
    fore = shape.x[inside] > shape.x.mean()
    aft, ahead = inside[~fore][::-1], inside[fore][::-1]
    tail, nose = (aft[0] + 1 if len(aft) else 0), (ahead[-1] - 1 if len(ahead) else -1)
    return np.concatenate(
        [
            [[shape.x[tail], 0.0]],
            np.stack([shape.x[aft], shape.inner[aft]], 1),
            np.stack([shape.x, shape.half_width], 1),
            np.stack([shape.x[ahead], shape.inner[ahead]], 1),
            [[shape.x[nose], 0.0]],
        ]
    )


def outline_ring(shape: Sections) -> Array:
    """The whole outline (n, 2) [m], closed by its last point joining its first: port from tail to nose,
    starboard back.
    """
    half = half_outline(shape)
    return np.concatenate([half, half[-2:0:-1] * [1.0, -1.0]])


def wide_point(shape: Sections) -> tuple[float, float]:
    """Place and half-width where the board is widest [m]."""
    return widest_of(shape.x, shape.half_width)
