"""The laminator's sheet: cloth to cut with its developed shape, resin by batch, and the order of the work."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.layup import Layup, coated, covered_girth
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.parts.construction import Ply
from kelvor.core.shape.surface.geometry import Geometry

BATCH = 0.30
"""Resin and hardener mixed at a time [kg]: what the pot life is stated for."""
SPARE = 0.02
"""Cloth is cut this much larger all round [m] (common practice, no source)."""


@frozen(eq=False)
class ClothPiece:
    """One piece of cloth: how many, its developed shape as half-widths along its length [m], area of one with its spare
    [m²].

    Laid flat a surface bent both ways must stretch or dart; widths are girths,
    lengths run along the keel or the deck line.
    """

    ply: Ply
    cloth: str
    count: int
    along: Array
    half: Array
    area: float
    too_wide: bool


@frozen
class Batch:
    """Resin for one step [kg], in how many pots, and how long each pot lasts [min]."""

    step: str
    resin: float
    pots: int
    minutes: float


@frozen(eq=False)
class LaminationSheet:
    """Everything the laminator works from."""

    cuts: tuple[ClothPiece, ...]
    batches: tuple[Batch, ...]
    order: tuple[str, ...]


def lamination_sheet(measured: Geometry, laid: Layup, table: MaterialTable) -> LaminationSheet:
    """The sheet of a board's construction."""
    c, resin = laid.construction, table.resin(laid.construction.resin)
    cuts = []
    for item in laid.plies:
        if item.area > 0:
            along, half = covered_girth(measured.shape, item.ply)
            cloth = table.cloth(item.ply.cloth)
            area = float(2 * np.trapezoid(half, along))
            edge = SPARE * 2 * (float(along[-1] - along[0]) + 2 * float(half.max()))
            cuts.append(
                ClothPiece(
                    item.ply,
                    cloth.name,
                    item.ply.count,
                    along,
                    half,
                    area + edge,
                    2 * float(half.max()) + 2 * SPARE > cloth.roll,
                )
            )
    sides: dict[str, float] = {}
    for item in laid.plies:
        side = "deck" if item.ply.zone == "deck" else "bottom and rail"
        sides[side] = sides.get(side, 0.0) + item.resin
    steps = [(f"Laminate, {side}", mass) for side, mass in sorted(sides.items())]
    for coat in c.coats:
        if "paint" not in coat.name.lower():
            steps.append((coat.name, coat.areal_mass * sum(shell.area for shell in coated(measured, coat))))
    batches = tuple(
        Batch(name, mass, max(1, math.ceil(mass / BATCH)), resin.pot_minutes) for name, mass in steps if mass > 0
    )
    return LaminationSheet(tuple(cuts), batches, _order(laid))


def _order(laid: Layup) -> tuple[str, ...]:
    """The order of layers and bags."""
    c = laid.construction
    lines = []
    for zone in ("bottom", "rail", "all round", "deck"):
        plies = [p.ply for p in laid.plies if p.ply.zone == zone and p.area > 0]
        if plies:
            pieces = [f"{p.count} × {p.name}" + (" at ±45°" if abs(p.angle - math.pi / 4) < 0.1 else "") for p in plies]
            lines.append(f"{zone.capitalize()}: {'; '.join(pieces)}")
            if c.bags:
                lines.append(
                    "Peel ply, breather, bag: pull slowly, look for leaks, leave it until the data sheet says so"
                )
    lines += [coat.name for coat in c.coats]
    return tuple(lines)
