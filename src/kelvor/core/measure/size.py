"""The measures of a board, as figures."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kelvor.core.brief import Rider
from kelvor.core.figures import Figure, FigureDefinition
from kelvor.core.mass.board_mass import BoardMass
from kelvor.core.measure import definitions as d
from kelvor.core.measure.stance import stance_measures
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.outline import half_width
from kelvor.core.shape.section_view import reading
from kelvor.core.shape.straight_edge import flat_run
from kelvor.core.units import FOOT

LENGTH_BAND = 1e-4
"""The surface is true to this at normal resolution [m]."""
RELATIVE_BAND = 1e-3
"""Volumes and areas agree with the exported mesh to this share."""
NEAR = 1e-7


@dataclass(frozen=True, slots=True, eq=False)
class Measures:
    """The measures of a board as figures, with the places of the two flat runs [m]."""

    figures: tuple[Figure, ...]
    keel_flat: tuple[float, float]
    rail_flat: tuple[float, float]
    wide_point: float


def _figure(
    definition: FigureDefinition, value: float, band: float, note: str = "", inputs: tuple[tuple[str, str], ...] = ()
) -> Figure:
    return Figure(definition=definition, value=float(value), band=band, band_of_difference=band / 10, note=note, inputs=inputs)


def wide_point(measured: Geometry) -> tuple[float, float]:
    """Place and half-width of the widest station, by the parabola through the three widest [m]."""
    x, b = measured.shape.x, measured.shape.half_width
    i = int(np.clip(np.argmax(b), 1, len(b) - 2))
    x0, x1, x2 = x[i - 1 : i + 2]
    y0, y1, y2 = b[i - 1 : i + 2]
    a = (y0 - y1) / (x0 - x1)
    c = ((y2 - y1) / (x2 - x1) - a) / (x2 - x0)
    if c >= 0:
        return float(x[np.argmax(b)]), float(b.max())
    top = float(np.clip((x0 + x1) / 2 - a / (2 * c), x0, x2))
    return top, float(y1 + a * (top - x1) + c * (top - x1) * (top - x0))


def planform_area(measured: Geometry) -> float:
    """Area inside the outline [m²]."""
    shape = measured.shape
    return float(2 * np.trapezoid(shape.half_width - shape.inner, shape.x))


def shape_measures(measured: Geometry, mass: BoardMass, rider: Rider | None = None) -> Measures:
    """Size, rocker, volume, area and mass of a board; per rider mass where a rider is given."""
    board, shape, volume = measured.board, measured.shape, measured.solid.volume
    x, length = shape.x, board.length
    at, b_max = wide_point(measured)
    width = 2 * b_max
    thick = float(np.max(shape.deck - shape.keel))
    area = planform_area(measured)
    offs = np.array([FOOT, length - FOOT, 0.30, length - 0.30])
    off = 2 * half_width(board.outline, length, offs)
    keel, rail = measured.keel_line, measured.rail_line
    mid = measured.mid_line
    keel_flat, rail_flat, mid_flat = flat_run(x, keel), flat_run(x, rail), flat_run(x, mid)
    straight = flat_run(x, shape.half_width)
    widest = reading(shape, int(np.argmax(shape.half_width)))
    t, lb = mass.total, LENGTH_BAND
    mast = board.mast_x
    axis = mast if mast is not None else t.x
    axis_note = "" if mast is not None else "no foil tracks: about the mass centre"
    # the height at which the mast meets the bottom, seen from the centre of mass along the base line
    foot = t.z - (float(measured.above_base(t.x, t.z)) - measured.at(keel, axis))
    build = (("core density", f"{board.materials.core_density:.0f} kg/m³"), ("core volume", f"{mass.core.volume * 1e3:.2f} L"))
    at_tip = f"base line: {board.base.kind}"
    list_ = [
        _figure(d.LENGTH, length, NEAR, "along the base line"),
        _figure(d.WIDTH, width, lb),
        _figure(d.THICKNESS, thick, lb),
        _figure(d.VOLUME, volume, RELATIVE_BAND * volume),
        _figure(d.CORE_VOLUME, mass.core.volume, 2 * RELATIVE_BAND * volume,
                f"skin {board.skin.deck * 1e3:.1f} deck, {board.skin.bottom * 1e3:.1f} bottom, {board.skin.rail * 1e3:.1f} mm rail"),
        _figure(d.PLANFORM_AREA, area, RELATIVE_BAND * area, "true area inside the outline"),
        _figure(d.LENGTH_TIMES_WIDTH, length * width, lb * length, "the rectangle around the outline"),
        _figure(d.WIDTH_1FT_TAIL, off[0], lb), _figure(d.WIDTH_1FT_NOSE, off[1], lb),
        _figure(d.WIDTH_30CM_TAIL, off[2], lb), _figure(d.WIDTH_30CM_NOSE, off[3], lb),
        _figure(d.WIDE_POINT, at, 2e-3),
        _figure(d.NOSE_ROCKER, keel[-1], lb, at_tip), _figure(d.TAIL_ROCKER, keel[0], lb, at_tip),
        _figure(d.NOSE_ROCKER_RAIL, rail[-1], lb, at_tip), _figure(d.TAIL_ROCKER_RAIL, rail[0], lb, at_tip),
        _figure(d.KEEL_FLAT_RUN, keel_flat[1] - keel_flat[0], 4e-3, f"{keel_flat[0] * 100:.1f} to {keel_flat[1] * 100:.1f} cm from tail"),
        _figure(d.RAIL_FLAT_RUN, rail_flat[1] - rail_flat[0], 4e-3, f"{rail_flat[0] * 100:.1f} to {rail_flat[1] * 100:.1f} cm from tail"),
        _figure(d.MID_FLAT_RUN, mid_flat[1] - mid_flat[0], 4e-3, f"{mid_flat[0] * 100:.1f} to {mid_flat[1] * 100:.1f} cm from tail"),
        _figure(d.NOSE_ROCKER_MID, mid[-1], lb, at_tip), _figure(d.TAIL_ROCKER_MID, mid[0], lb, at_tip),
        _figure(d.OUTLINE_STRAIGHT, straight[1] - straight[0], 4e-3, f"{straight[0] * 100:.1f} to {straight[1] * 100:.1f} cm from tail"),
        _figure(d.LENGTH_OVER_WIDTH, length / width, 1e-3),
        _figure(d.FILL_FACTOR, volume / (length * width * thick), 2e-3),
        _figure(d.VOLUME_CENTRE_X, measured.solid.x, 3e-4), _figure(d.CORE_CENTRE_X, mass.core.x, 3e-4),
        _figure(d.CALIPER_25, widest.caliper_25, 2e-4, "at the wide point"),
        _figure(d.CALIPER_50, widest.caliper_50, 2e-4, "at the wide point"),
        _figure(d.MASS, t.mass, mass.band, inputs=build),
        _figure(d.MASS_PER_VOLUME, t.mass / volume, mass.band / volume),
        _figure(d.MASS_CENTRE_X, t.x, 0.01, inputs=build),
        _figure(d.MASS_CENTRE_Z, float(measured.above_base(t.x, t.z)), 0.004),
        _figure(d.YAW_INERTIA, t.yaw_about(axis), 0.07 * t.yaw_about(axis), axis_note),
        _figure(d.ROLL_INERTIA, t.roll_about(foot), 0.07 * t.roll_about(foot), axis_note),
        _figure(d.PITCH_INERTIA, t.pitch_about(axis, foot), 0.07 * t.pitch_about(axis, foot), axis_note),
    ]  # fmt: skip
    if rider is not None and rider.mass > 0:
        who = (("rider", f"{rider.mass:.1f} kg"),)
        list_ += [
            _figure(d.VOLUME_PER_RIDER_MASS, volume / rider.mass, RELATIVE_BAND * volume / rider.mass, inputs=who),
            _figure(d.AREA_PER_RIDER_MASS, length * width / rider.mass, lb, "length × width, not planform", who),
            _figure(d.PLANFORM_PER_RIDER_MASS, area / rider.mass, RELATIVE_BAND * area / rider.mass, inputs=who),
        ]
    list_ += stance_measures(measured, rider)
    return Measures(tuple(list_), keel_flat, rail_flat, at)
