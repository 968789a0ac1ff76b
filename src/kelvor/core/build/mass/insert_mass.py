"""What fittings are set in: dense foam let in about them, and the resin in their pockets."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.values import frozen
from kelvor.core.build.mass.properties import MassProperties, combined
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.checks.clearance import Footprint, footprints
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.surface.geometry import Geometry

AROUND, UNDER = 0.02, 0.01
"""A block stands out so far around a pocket and under it [m] (common practice, no source)."""


@frozen
class SetIn:
    """What the fittings of a board are set in: foam of the blocks about them [m³], resin in their pockets [kg], and
    both as masses over the core's own foam.
    """

    blocks: float = 0.0
    resin: float = 0.0
    parts: tuple[tuple[str, MassProperties], ...] = ()


def set_in(measured: Geometry, construction: Construction, table: MaterialTable) -> SetIn:
    """Blocks and potting of a construction, none where it states none."""
    foam, resin = 0.0, 0.0
    blocks, potted = [], []
    dense = construction.blocks and table.stock(construction.blocks).density
    denser = float(dense) - table.stock(construction.core.stock).density if dense else 0.0
    for item in footprints(measured.board):
        length, width = (float(np.hypot(*(item.corners[i + 1] - item.corners[i]))) for i in (0, 1))
        if construction.potting > 0:
            mass = construction.potting * (2 * (length + width) * item.depth + length * width)
            resin += mass
            potted.append(_at(measured, item, mass, item.depth))
        if dense and (item.kind in ("fin", "strap") or item.name == "Mast track"):
            x = item.x
            thick = measured.at(measured.shape.deck, x) - measured.at(measured.shape.keel, x)
            deep = min(item.depth + UNDER, max(thick, item.depth))
            block = (length + 2 * AROUND) * (width + 2 * AROUND) * deep
            foam += block
            blocks.append(_at(measured, item, denser * (block - length * width * item.depth), deep))
    named = (("dense blocks", blocks), ("potting", potted))
    return SetIn(foam, resin, tuple((name, combined(found)) for name, found in named if found))


def _at(measured: Geometry, item: Footprint, mass: float, deep: float) -> MassProperties:
    """A mass in the middle of a pocket or block."""
    x, aside = item.x, float(item.corners[:, 1].mean()) ** 2
    deck = item.side == "deck"
    z = measured.at(measured.shape.deck if deck else measured.shape.keel, x) + (-deep / 2 if deck else deep / 2)
    return MassProperties(mass=mass, x=x, z=z, roll=mass * aside, yaw=mass * aside)
