"""Attitudes of a flying board that are pure geometry: leaning, pitching, touching down."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.geometry import Geometry


@frozen
class Patch:
    """The bottom that touches first: from, to [m from the tail], mean V [rad] and mean width [m]."""

    start: float
    end: float
    v_angle: float
    width: float


def lean_before_touch(measured: Geometry, mast_x: float, mast_length: float, ride_height: float) -> float:
    """Lean at which the rail meets the water, the foil staying at its depth [rad]; NaN if it never does.

    The board leans about the foil: a point of the bottom edge or apex at half-place y and height r above the
    foil stands r cos φ − y sin φ above it, and touches when that equals the foil's depth.
    """
    shape = measured.shape
    depth = mast_length - ride_height
    if mast_length <= 0 or depth <= 0:
        return float("nan")
    foil_z = measured.at(measured.keel_line, mast_x) - mast_length
    lean = np.inf
    apex = measured.above_base(shape.x, shape.apex_z)
    for y, z in ((shape.edge_y, measured.rail_line), (shape.half_width, apex)):
        r = z - foil_z
        radius = np.hypot(r, y)
        possible = radius >= depth
        angle = np.arccos(np.clip(depth / radius, -1, 1)) - np.arctan2(y, r)
        lean = min(lean, float(np.min(np.where(possible, angle, np.inf))))
    return lean


def tail_clearance(measured: Geometry, flat_start: float) -> float:
    """Nose-up pitch at which the tail tip meets the water, turning on the aft end of the flat [rad]."""
    keel = measured.keel_line
    rise = keel[0] - measured.at(keel, flat_start)
    return float(np.arctan2(rise, flat_start)) if flat_start > 0.01 else 0.0


def tail_touch(measured: Geometry, mast_x: float, ride_height: float) -> float:
    """Nose-up pitch at which the tail meets the water in flight [rad]."""
    x, keel = measured.shape.x, measured.keel_line
    aft = x < mast_x - 0.02
    height = keel[aft] - measured.at(keel, mast_x) + ride_height
    return float(np.min(np.arctan2(height, mast_x - x[aft]))) if aft.any() else float("nan")


def nose_touch(measured: Geometry, mast_x: float, ride_height: float = 0.0) -> float:
    """Nose-down pitch at which the nose tip meets the water, the bottom at the mast at `ride_height` [rad]."""
    keel = measured.keel_line
    rise = keel[-1] - measured.at(keel, mast_x) + ride_height
    return float(np.arctan2(rise, measured.board.length - mast_x))


def touch_patch(measured: Geometry, mast_x: float, flat_end: float) -> Patch:
    """The bottom from the mast to the fore end of the keel's flat (at least 0.2 m), which touches first."""
    shape = measured.shape
    start, end = mast_x, min(max(flat_end, mast_x + 0.2), measured.board.length - 0.05)
    x = np.linspace(start, end, 25)
    edge = np.interp(x, shape.x, shape.edge_y)
    rise = np.interp(x, shape.x, shape.edge_z - shape.keel)
    return Patch(start, end, float(np.mean(np.arctan2(rise, edge))), float(2 * np.mean(edge)))


def flat_bottom_area(measured: Geometry, flat: tuple[float, float]) -> float:
    """Bottom between its edges along the keel's flat run [m²]."""
    x = np.linspace(flat[0], flat[1], 60)
    return float(2 * np.trapezoid(np.interp(x, measured.shape.x, measured.shape.edge_y), x))
