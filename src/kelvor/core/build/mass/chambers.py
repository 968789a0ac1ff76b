"""Chambers to a weight: how much wood to leave above and below so that a built-up board weighs what it should."""

from __future__ import annotations

from dataclasses import replace

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of
from kelvor.core.base.smooth import crossing
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.parts.construction import Construction, Core
from kelvor.core.shape.surface.geometry import Geometry

EXACT = 1e-6
"""Found to this [kg, m]."""
THIN = 0.003
"""Less wood than this is not left above a chamber [m] (common practice, no source)."""


def chambered_to(measured: Geometry, construction: Construction, wanted: float, table: MaterialTable) -> Construction:
    """The construction with so much wood left above and below that the board weighs `wanted` [kg], all else the same.

    Raises
    ------
    InputError
        When the core is solid, or no thickness gives that weight: with what can be had.
    """
    if construction.core.build == "solid":
        raise InputError(
            "a solid core has no chambers", where="Should weigh", accepts="Choose chambered or hollow first"
        )
    limit = limit_of(Core, "skin")
    least, most = max(THIN, limit.low), min(limit.high, float((measured.shape.deck - measured.shape.keel).max()) / 2)

    def weighs(skin: float) -> float:
        built = replace(construction, core=replace(construction.core, skin=skin))
        return board_mass(replace(measured, board=replace(measured.board, construction=built)), table).total.mass

    light, heavy = weighs(least), weighs(most)
    if not light <= wanted <= heavy:
        raise InputError(
            f"{wanted:.2f} kg cannot be had by the chambers",
            where="Should weigh",
            accepts=f"Between {light:.2f} kg ({least * 1000:.0f} mm left) and {heavy:.2f} kg (no chambers)",
        )
    skin = crossing(lambda x: weighs(x) - wanted, least, most, EXACT)
    return replace(construction, core=replace(construction.core, skin=skin))
