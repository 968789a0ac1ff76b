"""What a board costs: everything that is bought for it, and the hours, by the workshop's own rates."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.board_mass import BoardMass
from kelvor.core.build.materials.layup import Layup, coated
from kelvor.core.build.materials.makeability import hard_edges
from kelvor.core.build.materials.table import CoreMaterial, MaterialTable
from kelvor.core.build.materials.work import Activity, activities
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.surface.geometry import Geometry

WASTE = 1.25
"""Cloth, resin and wood bought over what ends up on the board (common practice, no source)."""
PLANKS = 1.6
"""Wood bought over what ends up as ribs and planks (common practice, no source)."""
CORE, CLOTH, RESIN, BLOCKS, STRINGERS, PARTS = (
    "core", "cloth", "resin and coats", "blocks and potting", "stringers", "fittings and pad",
)  # fmt: skip
"""Lines of an estimate."""


@frozen
class Bought:
    """Something that is bought: which thing, how much of it in `unit`, what it costs, to which line of an estimate it
    belongs.
    """

    what: str
    amount: float
    unit: str
    cost: float
    line: str


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


def board_cost(measured: Geometry, mass: BoardMass, table: MaterialTable) -> Cost:
    """What a board costs in what is bought for it and hours; raises like :func:`to_buy`."""
    board = measured.board
    lines: dict[str, float] = {}
    for bought in to_buy(measured, mass, table):
        lines[bought.line] = lines.get(bought.line, 0.0) + bought.cost
    hours = sum(item.hands for item in board_work(measured, _laid(mass, board).construction, table))
    return Cost(tuple(lines.items()), hours, hours * table.rates.hour)


def board_work(measured: Geometry, construction: Construction, table: MaterialTable) -> tuple[Activity, ...]:
    """The work on a board built so, in its order: what schedule, estimate and price count alike."""
    resin = table.resin(construction.resin)
    return activities(construction, resin, table.rates, fittings_count(measured.board), hard_edges(measured))


def to_buy(measured: Geometry, mass: BoardMass, table: MaterialTable) -> tuple[Bought, ...]:
    """What one board needs: the block it is cut from or the wood it is built up of, cloth, resin, coats, stringers,
    tracks, boxes, inserts, plugs, pads.

    Raises
    ------
    InputError
        When its construction is not stated.
    """
    board = measured.board
    laid = _laid(mass, board)
    c, resin = laid.construction, table.resin(laid.construction.resin)
    found = [_core(measured, mass, table.stock(c.core.stock))]
    cloths: dict[str, float] = {}
    for ply in laid.plies:
        if ply.area > 0:
            cloths[ply.ply.cloth] = cloths.get(ply.ply.cloth, 0.0) + ply.area * WASTE
    for key, area in cloths.items():
        cloth = table.cloth(key)
        found.append(Bought(f"{cloth.name}, {cloth.roll * 100:.0f} cm roll", area, "m²", area * cloth.price, CLOTH))
    wet = sum(ply.resin for ply in laid.plies) * WASTE
    found.append(Bought(f"{resin.name}, with hardener", wet, "kg", wet * resin.price, RESIN))
    for coat in c.coats:
        weight = coat.areal_mass * sum(shell.area for shell in coated(measured, coat))
        found.append(Bought(coat.name, weight, "kg", weight * resin.price, RESIN))
    within = mass.within
    if within.blocks > 0:
        dense, litres = table.stock(c.blocks), within.blocks * 1000
        price = within.blocks * dense.price
        found.append(Bought(f"{dense.name}, blocks about the fittings", litres, "L", price, BLOCKS))
    if within.resin > 0:
        words, price = "Thickened resin, to set fittings in", within.resin * resin.price
        found.append(Bought(words, within.resin, "kg", price, BLOCKS))
    return (*found, *_stringers(mass, board, table), *_parts(mass, board, table))


def together(lists: Sequence[Sequence[Bought]]) -> tuple[Bought, ...]:
    """What several boards need, the same things added up, in the order they first come."""
    found: dict[tuple[str, str], Bought] = {}
    for bought in (line for one in lists for line in one):
        key = (bought.what, bought.unit)
        before = found.get(key, Bought(bought.what, 0.0, bought.unit, 0.0, bought.line))
        amount, cost = before.amount + bought.amount, before.cost + bought.cost
        found[key] = Bought(bought.what, amount, bought.unit, cost, bought.line)
    return tuple(found.values())


def fittings_count(board: Board) -> int:
    """Fittings to set: tracks, boxes, rows of inserts, plugs, the mast track."""
    f = board.fittings
    return (
        (f.tracks is not None)
        + (f.mast_track is not None)
        + sum(b.count for b in f.fin_boxes)
        + len(f.straps)
        + len(f.plugs)
    )


def _laid(mass: BoardMass, board: Board) -> Layup:
    if mass.layup is None:
        raise InputError("no construction is stated", where=board.name, accepts="Choose one in Build first")
    return mass.layup


def _core(measured: Geometry, mass: BoardMass, stock: CoreMaterial) -> Bought:
    if measured.board.construction is not None and measured.board.construction.core.build != "solid":
        wood = dict(mass.parts)["core"].mass / stock.density * PLANKS
        return Bought(f"{stock.name}, for ribs and planks", wood * 1000, "L", wood * stock.price, CORE)
    blank, block = mass.blank, mass.blank.volume
    words = " × ".join(f"{side * 100:.1f}" for side in (blank.length, blank.width, blank.thickness))
    return Bought(f"{stock.name}, block {words} cm", block * 1000, "L", block * stock.price, CORE)


def _stringers(mass: BoardMass, board: Board, table: MaterialTable) -> list[Bought]:
    """Wood of stringers, by the length; its price by what of it ends up in the board."""
    weights, found = dict(mass.parts), []
    for stringer in board.construction.stringers if board.construction is not None else ():
        if stringer.on:
            wood = table.stock(stringer.material)
            volume = weights[stringer.name].mass / wood.density * WASTE
            count = 1 if stringer.offset == 0 and not stringer.rail else 2
            words = f"{wood.name}, {stringer.width * 1000:.0f} mm, {stringer.name.lower()}"
            found.append(Bought(words, count * board.length, "m", volume * wood.price, STRINGERS))
    return found


def _parts(mass: BoardMass, board: Board, table: MaterialTable) -> list[Bought]:
    """What is bought ready: tracks, boxes, inserts, plugs; pads by the area they cover."""
    rates, fittings = table.rates, board.fittings
    each: list[tuple[str, float, str, float]] = [
        (f"Fin box, {box.kind}", box.count, "", rates.fin_box(box.kind)) for box in fittings.fin_boxes
    ]
    if (tracks := fittings.tracks) is not None:
        pair = tracks.spacing > 0
        each.append(("Foil track", 2, "", rates.foil_track) if pair else ("Foil box", 1, "", rates.foil_box))
    if fittings.mast_track is not None:
        each.append(("Mast track", 1, "", rates.mast_track))
    inserts = 0
    for row in fittings.straps:
        spreads = {row.half_spread, row.outboard or row.half_spread}
        inserts += row.inserts * sum(1 if spread == 0 else 2 for spread in spreads)
    if inserts:
        each.append(("Strap insert", inserts, "", rates.insert))
    each += [(plug.kind.capitalize(), 1, "", rates.plug) for plug in fittings.plugs]
    weights = dict(mass.parts)
    pads = [(pad.name, f"Deck pad, {pad.thickness * 1000:.0f} mm", pad.areal_mass) for pad in fittings.pads] or [
        ("deck pad", "Deck pad", fittings.pad_areal_mass)
    ]
    for name, what, areal in pads:
        if (weight := weights[name].mass) > 0:
            each.append((what, weight / areal, "m²", rates.pad))
    return [Bought(what, amount, unit, amount * price, PARTS) for what, amount, unit, price in each]
