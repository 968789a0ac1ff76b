"""The measure sheet: what straight edge, depth gauge, tape, caliper and protractor should read on a made board, how far
off it may be, and whether a reading passes.

A reading passes or fails only where the tool can tell: within its own spread of
the tolerance's edge the answer is “cannot tell”.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Literal

import numpy as np

from kelvor.core.base.units import DEGREE, Quantity, System, said_in, text
from kelvor.core.base.values import frozen
from kelvor.core.shape.checks.clearance import box_angle
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.section_view import reading_between
from kelvor.core.templates.marking import template_places

Outcome = Literal["pass", "fail", "cannot tell"]
BOTH = ("left", "right")
BAGGED = ("before the bag", "in the bag", "after the bag")
ENDS = ("fore", "aft")


@frozen
class Tool:
    """A kind of measure: in words, how far off it may be, how well its tool reads, and in what.

    Tolerances: common practice, no source; how well tools read: judgement.
    """

    words: str
    tolerance: float
    reads: float
    quantity: Quantity


KINDS: dict[str, Tool] = {
    "length": Tool("Length, tape", 3e-3, 1e-3, Quantity.LENGTH),
    "twist": Tool("Twist, winding sticks", 1e-3, 3e-4, Quantity.DEPTH),
    "width": Tool("Half width, tape", 1.5e-3, 5e-4, Quantity.LENGTH),
    "rail": Tool("Rail, caliper 25 mm in", 1.5e-3, 2e-4, Quantity.DEPTH),
    "rocker": Tool("Rocker, keel over the base line", 1.5e-3, 3e-4, Quantity.DEPTH),
    "thickness": Tool("Thickness at the centre, caliper", 1.5e-3, 3e-4, Quantity.DEPTH),
    "hollow": Tool("Gap under a straight edge across", 5e-4, 1e-4, Quantity.DEPTH),
    "fin": Tool("Fin, protractor", 0.25 * DEGREE, 0.1 * DEGREE, Quantity.ANGLE),
    "plane": Tool("Plane to the base line", 0.2 * DEGREE, 0.05 * DEGREE, Quantity.ANGLE),
    "spacing": Tool("Track spacing, caliper", 2e-4, 5e-5, Quantity.DEPTH),
    "flat": Tool("Gap under a straight edge on the plate", 3e-4, 5e-5, Quantity.DEPTH),
}
"""Every kind of measure, and what this workshop may change of it: how far off is let pass."""


@frozen
class MeasureLine:
    """A line of the sheet: its key, kind and words, what it should read in SI, on which sides or when it is read, and
    where [m from the tail]; NaN where it is of the whole board or of what is set in.
    """

    key: str
    kind: str
    words: str
    should: float
    sides: tuple[str, ...] = ("",)
    place: float = math.nan

    def named(self, system: System) -> str:
        """What is read, and at which place."""
        words = said_in(self.words, system)
        return words if math.isnan(self.place) else f"{words}, {text(self.place, Quantity.LENGTH, system)}"

    @property
    def tool(self) -> Tool:
        """How it is read."""
        return KINDS[self.kind]


def lines_to_measure(measured: Geometry) -> tuple[MeasureLine, ...]:
    """What is measured on a board, in the order of the sheet: the whole, station by station, then what is set in."""
    board, shape = measured.board, measured.shape
    found = [
        MeasureLine("length", "length", "Length", board.length),
        MeasureLine("twist", "twist", "Twist, tail against nose", 0.0),
    ]
    for x in template_places(board.length):
        read = reading_between(shape, x)
        key = f"@{x:.3f}"
        keel = float(measured.above_base(x, np.interp(x, shape.x, shape.keel)))
        found += [
            MeasureLine(f"rocker{key}", "rocker", "Keel", keel, BAGGED, x),
            MeasureLine(f"width{key}", "width", "Half width", read.half_width, BOTH, x),
            MeasureLine(f"thickness{key}", "thickness", "Thickness", read.thickness, place=x),
            MeasureLine(f"hollow{key}", "hollow", "Hollow across", read.hollow, place=x),
        ]
        if np.isfinite(read.caliper_25):
            found.append(MeasureLine(f"rail{key}", "rail", "Rail 25 mm in", read.caliper_25, BOTH, x))
    return (*found, *_set_in(measured))


def _set_in(measured: Geometry) -> list[MeasureLine]:
    """Boxes, tracks and plates."""
    board, found = measured.board, []
    for i, box in enumerate(board.fittings.fin_boxes):
        x, run = box.at.x(board.length, board.mast_x) + box.fin.base / 2, BOX_SIZES[box.kind][0] / 2
        sides = ("",) if box.offset == 0 else BOTH
        found += [
            MeasureLine(f"toe.{i}", "fin", f"{box.name}, toe", box.toe, sides),
            MeasureLine(f"cant.{i}", "fin", f"{box.name}, cant", box.cant, sides),
        ]
        if x - run > 0 and x + run < board.length:
            found.append(
                MeasureLine(f"plane.{i}", "plane", f"{box.name}, plane", box_angle(measured, x - run, x + run))
            )
    if (tracks := board.fittings.tracks) is not None:
        at, run = tracks.at.x(board.length), tracks.length / 2
        plane = box_angle(measured, max(at - run, 0.0), min(at + run, board.length))
        found.append(MeasureLine("plane.tracks", "plane", "Foil tracks, plane", plane))
        found.append(MeasureLine("flat.tracks", "flat", "Foil plate, gap", 0.0))
        if tracks.spacing > 0:
            found.append(MeasureLine("spacing.tracks", "spacing", "Foil tracks, apart", tracks.spacing, ENDS))
    return found


def reading_passes(measure: MeasureLine, read: float, tolerances: Mapping[str, float]) -> Outcome:
    """Whether a reading passes; `tolerances` are those this workshop has changed, by kind."""
    most, spread = tolerances.get(measure.kind, measure.tool.tolerance), measure.tool.reads
    off = abs(read - measure.should)
    if off + spread <= most:
        return "pass"
    return "fail" if off - spread > most else "cannot tell"


def gained(measure: MeasureLine, readings: Mapping[str, float]) -> float | None:
    """What a keel rose between before and after the bag [m]; None where one of both was not read."""
    if measure.sides != BAGGED or BAGGED[0] not in readings or BAGGED[-1] not in readings:
        return None
    return readings[BAGGED[-1]] - readings[BAGGED[0]]
