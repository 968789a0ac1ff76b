"""Orders: who waits for which board until when, what was signed off, and what has to be bought for it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.making.made import Made
from kelvor.core.mass.board_mass import BoardMass
from kelvor.core.materials.cost import BLANK, WASTE
from kelvor.core.materials.table import MaterialTable
from kelvor.core.record import Record
from kelvor.core.recorded.shop import Order
from kelvor.core.shape.geometry import Geometry
from kelvor.core.values import frozen

SOON = 14
"""So many days before it is due an order is told of first (judgement)."""


@frozen
class Ordered:
    """An order that is open: its record and value, the made board it goes with, days until it is due (None without a
    day).
    """

    record: Record
    value: Order
    made: Made | None
    days: int | None


@frozen
class Bought:
    """A line of what is to be bought: which thing, how much of it in `unit`, what it costs where the table says so."""

    what: str
    amount: float
    unit: str
    cost: float = 0.0


def day_read(words: str, what: str = "Due") -> str:
    """A day as somebody typed it, as YYYY-MM-DD; nothing stays nothing.

    Raises
    ------
    InputError
        When it is no day.
    """
    given = words.strip()
    if not given:
        return ""
    try:
        return date.fromisoformat(given).isoformat()
    except ValueError:
        raise InputError(f"“{given}” is no day", where=what, accepts="Type it like 2027-03-15") from None


def ordered(records: Iterable[Record], boards: Iterable[Made], today: date) -> tuple[Ordered, ...]:
    """Every open order, the one that is due first first; those without a day last."""
    made = {one.record.uid: one for one in boards}
    found = [
        Ordered(record, record.value, made.get(record.value.made), _days(record.value, today))
        for record in records
        if isinstance(record.value, Order) and not record.gone
    ]
    return tuple(sorted(found, key=lambda o: (o.days is None, o.days or 0, o.record.first_at)))


def _days(value: Order, today: date) -> int | None:
    return (date.fromisoformat(value.due) - today).days if value.due else None


def to_buy(measured: Geometry, mass: BoardMass, table: MaterialTable) -> tuple[Bought, ...]:
    """What one board needs: foam, cloth, resin, coats, wood, boxes, inserts, plugs, pads.

    Raises
    ------
    InputError
        When its construction is not stated.
    """
    board, laid = measured.board, mass.layup
    if laid is None:
        raise InputError("no construction is stated", where=board.name, accepts="Choose one in Build first")
    c = laid.construction
    stock, resin = table.stock(c.core.stock), table.resin(c.resin)
    foam = measured.solid.volume * BLANK
    found = [Bought(f"{stock.name}, block", foam * 1000, "L", foam * stock.price)]
    cloths: dict[str, float] = {}
    for ply in laid.plies:
        if ply.area > 0:
            cloths[ply.ply.cloth] = cloths.get(ply.ply.cloth, 0.0) + ply.area * WASTE
    for key, area in cloths.items():
        cloth = table.cloth(key)
        found.append(Bought(f"{cloth.name}, {cloth.roll * 100:.0f} cm roll", area, "m²", area * cloth.price))
    wet = sum(ply.resin for ply in laid.plies) * WASTE
    found.append(Bought(f"{resin.name}, with hardener", wet, "kg", wet * resin.price))
    within = mass.within
    if within.blocks > 0:
        dense, litres = table.stock(c.blocks), within.blocks * 1000
        found.append(Bought(f"{dense.name}, blocks about the fittings", litres, "L", within.blocks * dense.price))
    if within.resin > 0:
        found.append(Bought("Thickened resin, to set fittings in", within.resin, "kg", within.resin * resin.price))
    area = float(laid.cells.area.sum())
    found += [Bought(coat.name, coat.areal_mass * area, "kg", coat.areal_mass * area * resin.price) for coat in c.coats]
    for stringer in c.stringers:
        if stringer.on:
            wood = table.stock(stringer.material).name
            count = 1 if stringer.offset == 0 and not stringer.rail else 2
            words = f"{wood}, {stringer.width * 1000:.0f} mm, {stringer.name.lower()}"
            found.append(Bought(words, count * board.length, "m"))
    return (*found, *_fittings(measured))


def _fittings(measured: Geometry) -> list[Bought]:
    """Boxes, tracks, inserts, plugs and pads of a board."""
    board = measured.board
    fittings = board.fittings
    found = [Bought(f"Fin box, {box.kind}", box.count, "") for box in fittings.fin_boxes]
    if fittings.tracks is not None:
        found.append(
            Bought(
                "Foil track" if fittings.tracks.spacing > 0 else "Foil box", 2 if fittings.tracks.spacing > 0 else 1, ""
            )
        )
    if fittings.mast_track is not None:
        found.append(Bought("Mast track", 1, ""))
    inserts = 0
    for row in fittings.straps:
        spreads = {row.half_spread, row.outboard or row.half_spread}
        inserts += row.inserts * sum(1 if spread == 0 else 2 for spread in spreads)
    if inserts:
        found.append(Bought("Strap insert", inserts, ""))
    for plug in fittings.plugs:
        found.append(Bought(plug.kind.capitalize(), 1, ""))
    for pad in fittings.pads:
        start, end = (place.x(board.length, board.mast_x) for place in (pad.start, pad.end))
        x = np.linspace(start, end, 40)
        width = np.interp(x, measured.shape.x, measured.shape.half_width)
        found.append(Bought("Deck pad", float(2 * pad.cover * np.trapezoid(width, x)), "m²"))
    return found


def together(lists: Sequence[Sequence[Bought]]) -> tuple[Bought, ...]:
    """What several boards need, the same things added up, in the order they first come."""
    found: dict[tuple[str, str], Bought] = {}
    for bought in (line for one in lists for line in one):
        key = (bought.what, bought.unit)
        before = found.get(key, Bought(bought.what, 0.0, bought.unit))
        found[key] = Bought(bought.what, before.amount + bought.amount, bought.unit, before.cost + bought.cost)
    return tuple(found.values())
