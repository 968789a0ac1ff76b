"""Measures under the feet and at the fins: stance, deck angles, standing width, boxes, fin set, tail behind
the foot.
"""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.figures import Figure, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Rider
from kelvor.core.shape.checks.clearance import box_angle
from kelvor.core.shape.checks.fairness import deck_slope, standing_width
from kelvor.core.shape.parts.fin_sets import alignment, stagger
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.geometry import Geometry

FOOT_LENGTH = 0.10
"""Length of deck that a foot across the board stands on [m] (common practice, no source)."""
FEET = Method(
    "deck centreline under each foot, less the box plane",
    "geometry",
    "feet on the centreline, the slope taken over 10 cm",
)
TEMPLATE = Method(
    "fin template: chord along the span", "geometry of the drawn template", "fins close to their template"
)


# fmt: off
STANCE = FigureDefinition("stance", "Stance, straps or inserts", Q.LENGTH, more="wider", less="narrower",
    rests=("strap",))
BOX_ANGLE = FigureDefinition("box_angle", "Box plane to base line", Q.ANGLE, more="nose higher", less="nose lower")
DECK_FRONT = FigureDefinition("deck_angle_front", "Deck under front foot to box", Q.ANGLE, FEET, more="steeper",
    less="flatter", rests=("strap",))
DECK_BACK = FigureDefinition("deck_angle_back", "Deck under back foot to box", Q.ANGLE, FEET, more="steeper",
    less="flatter", rests=("strap",))
STAND_FRONT = FigureDefinition("standing_width_front", "Deck to stand on, front foot", Q.LENGTH, more="wider",
    less="narrower", short="{} of deck at the front foot", rests=("strap",))
STAND_BACK = FigureDefinition("standing_width_back", "Deck to stand on, back foot", Q.LENGTH, more="wider",
    less="narrower", short="{} of deck at the back foot", rests=("strap",))
TAIL_AREA = FigureDefinition("tail_area_behind_foot", "Tail planform behind foot", Q.AREA,
    short="{} of tail behind the foot", rests=("strap",))
FIN_AREA = FigureDefinition("fin_area", "Fin area, all fins", Q.AREA, TEMPLATE, short="{} of fin", rests=("fin",))
FIN_RATIO = FigureDefinition("fin_area_ratio", "Front or side fins to rear, area", Q.RATIO, TEMPLATE,
    more="more in front", less="more behind", rests=("fin",))
FIN_ALIGNMENT = FigureDefinition("fin_alignment", "Centre fin ahead of sides' ends", Q.DEPTH, more="further forward",
    less="further back")
FIN_STAGGER = FigureDefinition("fin_stagger", "Front to rear fins, stagger", Q.LENGTH, more="further apart",
    less="closer")
# fmt: on
FIGURES = (
    STANCE,
    BOX_ANGLE,
    DECK_FRONT,
    DECK_BACK,
    STAND_FRONT,
    STAND_BACK,
    TAIL_AREA,
    FIN_AREA,
    FIN_RATIO,
    FIN_ALIGNMENT,
    FIN_STAGGER,
)


@frozen
class Feet:
    """Where back and front foot stand [m from the tail], and how that is known."""

    back: float
    front: float
    note: str


def feet(measured: Geometry, rider: Rider | None) -> Feet:
    """The feet on the straps, or half a stance either side of the volume's centre."""
    board = measured.board
    rows = [row.at.x(board.length, board.mast_x) for row in board.fittings.straps]
    if len(rows) > 1:
        return Feet(min(rows), max(rows), "on the straps")
    stance = rider.stance if rider is not None else 0.55
    centre = measured.solid.x
    return Feet(
        max(centre - stance / 2, 0.05),
        min(centre + stance / 2, board.length - 0.05),
        "rider's stance about the volume's centre",
    )


def box_plane(measured: Geometry) -> tuple[float, str]:
    """Angle of the foil tracks or the main fin box to the base line [rad], and which it is; 0 without any."""
    board = measured.board
    tracks = board.fittings.tracks
    if tracks is not None:
        at = tracks.at.x(board.length)
        return box_angle(measured, at - tracks.length / 2, at + tracks.length / 2), "foil tracks"
    boxes = [b for b in board.fittings.fin_boxes if b.offset == 0] or list(board.fittings.fin_boxes)
    if not boxes:
        return 0.0, "no box: the base line"
    places = [b.at.x(board.length, board.mast_x) / board.length for b in board.fittings.fin_boxes]
    if min(places) < 0.4 and max(places) > 0.6:
        return 0.0, "boxes at both ends: the base line"
    box = max(boxes, key=lambda b: b.fin.span)
    at = box.at.x(board.length, board.mast_x) + box.fin.base / 2
    half = BOX_SIZES[box.kind][0] / 2
    return box_angle(measured, max(at - half, 0.0), min(at + half, board.length)), box.name


def stance_measures(measured: Geometry, rider: Rider | None) -> tuple[Figure, ...]:
    """All figures of this module; those a board has nothing for are left out."""
    board, shape = measured.board, measured.shape
    where, band = feet(measured, rider), 2e-4
    plane, of = box_plane(measured)
    found: list[Figure] = []

    def add(definition: FigureDefinition, value: float | None, band: float, note: str) -> None:
        if value is not None and math.isfinite(value):
            found.append(
                Figure(definition=definition, value=float(value), band=band, band_of_difference=band / 5, note=note)
            )

    if len(board.fittings.straps) > 1:
        add(STANCE, where.front - where.back, 1e-4, "between the middles of front and back row")
    add(BOX_ANGLE, plane, 0.1 * DEGREE, of)
    for definition, at in ((DECK_FRONT, where.front), (DECK_BACK, where.back)):
        slope = deck_slope(measured, at - FOOT_LENGTH / 2, at + FOOT_LENGTH / 2)
        add(definition, slope - plane, 0.2 * DEGREE, f"{where.note}, to {of}; nose higher is positive")
    for definition, at in ((STAND_FRONT, where.front), (STAND_BACK, where.back)):
        add(
            definition,
            standing_width(measured, at),
            band,
            f"{at * 100:.0f} cm from tail, between deck edges or the walls of a recess",
        )
    behind = shape.x <= where.back
    x = np.append(shape.x[behind], where.back)
    half = np.append(
        (shape.half_width - shape.inner)[behind], float(np.interp(where.back, shape.x, shape.half_width - shape.inner))
    )
    add(TAIL_AREA, float(2 * np.trapezoid(half, x)), 1e-3 * float(half.max()), where.note)
    boxes = board.fittings.fin_boxes
    if boxes:
        add(
            FIN_AREA,
            sum(b.count * b.fin.area for b in boxes),
            2e-4,
            ", ".join(f"{b.count} × {b.fin.name}" for b in boxes),
        )
    aft = min((b.at.x(board.length, board.mast_x) for b in boxes), default=0.0)
    rear = [b for b in boxes if b.at.x(board.length, board.mast_x) < aft + 0.03]
    fore = [b for b in boxes if b not in rear]
    if rear and fore:
        front, back = (sum(b.count * b.fin.area for b in part) for part in (fore, rear))
        words = (
            f"{' and '.join(b.name for b in fore)} {front * 1e4:.0f} cm² to "
            f"{' and '.join(b.name for b in rear)} {back * 1e4:.0f} cm²"
        )
        add(FIN_RATIO, front / max(back, 1e-6), 0.02, words)
    add(FIN_ALIGNMENT, alignment(board), 1e-4, "leading edge of the centre fin to trailing edge of the side fins")
    add(FIN_STAGGER, stagger(board), 1e-4, "between trailing edges")
    return tuple(found)
