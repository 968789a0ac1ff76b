"""Local strength as ratios against another board: dents, wrinkling, boxes. Ranking only: loads in use are not known.

References
----------
Indentation of a skin on crushable foam, F ∝ t √(σ_c σ_f): Ashby et al., Metal Foams: A Design Guide, 2000, ch. 10 (from
memory). Wrinkling stress 0.5 (E_f E_c G_c)^⅓: Hoff and Mautner 1945 (from memory).
Box in foam: bearing of its ends on the foam, M = σ_c b L² / 4 with the foam at its limit along both halves (statics).
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.build.materials.layup import Skins
from kelvor.core.build.materials.table import CoreMaterial
from kelvor.core.build.stiffness.sections import Stiffness
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.geometry import Geometry


def _deck_at(measured: Geometry, field: Array, x: float) -> float:
    """Mean of a station quantity over the inner half of the deck at a place."""
    shape = measured.shape
    i = int(np.argmin(np.abs(shape.x - x)))
    columns = slice(shape.columns.deck_edge, shape.columns.top)
    inner = (
        shape.y[i, columns] + shape.y[i, shape.columns.deck_edge + 1 : shape.columns.top + 1]
    ) / 2 < 0.6 * shape.half_width[i]
    values = field[i, columns][inner]
    return float(values.mean()) if len(values) else 0.0


def dent_load(measured: Geometry, stock: CoreMaterial, laid: Skins, x: float) -> float:
    """What a heel may press before the deck at `x` dents, up to a factor that is the same for all boards."""
    thickness = _deck_at(measured, laid.thickness, x)
    along = _deck_at(measured, laid.along, x)
    strain = 0.012  # skins of these cloths yield or crack near this strain (common practice, no source)
    sigma = along / max(thickness, 1e-9) * strain
    return thickness * float(np.sqrt(max(stock.strength * sigma, 0.0)))


def wrinkling_margin(
    measured: Geometry, stock: CoreMaterial, laid: Skins, found: Stiffness, x: float, moment: float
) -> float:
    """Deck's wrinkling stress over its compressive stress under a bending moment [N m] at `x`."""
    thickness, along = _deck_at(measured, laid.thickness, x), _deck_at(measured, laid.along, x)
    if thickness <= 0 or along <= 0:
        return 0.0
    e = along / thickness
    limit = 0.5 * float(np.cbrt(e * stock.e * stock.g))
    i = int(np.argmin(np.abs(measured.shape.x - x)))
    lever = float(measured.shape.deck[i] - found.neutral[i])
    return limit / (e * moment * lever / float(found.bending[i]))


def box_moment(measured: Geometry, stock: CoreMaterial) -> float:
    """Pitching moment that foam alone holds at the foil's tracks or box [N m]; NaN without them."""
    tracks = measured.board.fittings.tracks
    if tracks is None:
        return float("nan")
    width = 2 * 0.022 if tracks.spacing > 0 else 0.045
    return stock.strength * width * tracks.length**2 / 4


def fin_box_torque(measured: Geometry, stock: CoreMaterial) -> float:
    """Rolling torque that foam alone holds at the largest fin's box [N m]: bearing along both halves of its depth; NaN
    without fins.
    """
    boxes = measured.board.fittings.fin_boxes
    if not boxes:
        return float("nan")
    box = max(boxes, key=lambda b: b.fin.span)
    length, _, depth, _ = BOX_SIZES[box.kind]
    return stock.strength * length * depth**2 / 4
