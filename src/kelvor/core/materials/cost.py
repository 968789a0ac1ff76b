"""What a construction costs in material and hours, by the workshop's own rates."""

from __future__ import annotations

from kelvor.core.materials.layup import Layup
from kelvor.core.materials.table import MaterialTable
from kelvor.core.values import frozen

WASTE = 1.25
"""Cloth and resin bought over what ends up on the board (common practice, no source)."""
BLANK = 1.6
"""Foam bought over the core's volume (common practice, no source)."""


@frozen
class Cost:
    """Lines of an estimate (words, amount), hours, and what the hours cost, in the table's currency."""

    lines: tuple[tuple[str, float], ...]
    hours: float
    labour: float

    @property
    def total(self) -> float:
        """All of it."""
        return sum(amount for _, amount in self.lines) + self.labour


def cost(
    laid: Layup, core_volume: float, fittings: int, table: MaterialTable, *, blocks: float = 0.0, potting: float = 0.0
) -> Cost:
    """Estimate of a board: core, cloth, resin, coats, dense blocks [m³] and potting [kg] about its fittings, hours."""
    c, rates = laid.construction, table.rates
    resin = table.resin(c.resin)
    area = float(laid.cells.area.sum())
    cloth = sum(p.area * table.cloth(p.ply.cloth).price for p in laid.plies) * WASTE
    wet = sum(p.resin for p in laid.plies) * WASTE + sum(coat.areal_mass for coat in c.coats) * area
    stock = table.stock(c.core.stock)
    lines = [("core", core_volume * BLANK * stock.price), ("cloth", cloth), ("resin and coats", wet * resin.price)]
    if blocks > 0 or potting > 0:
        dense = blocks * table.stock(c.blocks).price if blocks > 0 else 0.0
        lines.append(("blocks and potting", dense + potting * resin.price))
    layers = sum(p.ply.count for p in laid.plies if p.ply.on)
    hours = (
        rates.shape
        + layers * rates.layer
        + c.bags * rates.bag
        + len(c.coats) * rates.coat
        + rates.sand
        + fittings * rates.fitting
    )
    hours += sum(s.on for s in c.stringers)  # an hour each (common practice, no source)
    if c.core.build != "solid":
        hours *= 1.6  # planking and ribs (common practice, no source)
    return Cost(tuple(lines), hours, hours * rates.hour)
