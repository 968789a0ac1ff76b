"""What goes along with a board: how to keep it, in words for what it is built of.

Common practice, no source; makers' data sheets, local rules and licensed
practice come first.
"""

from __future__ import annotations

from kelvor.core.base.disciplines import FOILING, Discipline
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.board import Board

EPS_HEAT = (
    "Polystyrene softens from about 70 °C: never in a closed car or on dark sand in the sun. White or reflective bag; "
    "shade between two sessions."
)
FOAM_HEAT = "Heat makes foam gas and skins blister: shade, and never in a closed car in the sun."
WOOD_HEAT = "Heat and drying move wood and glue lines: shade, never in a closed car in the sun."
VENT = (
    "Open the vent for air travel, mountain roads and heat; close it by hand before the water. Look at its seal once a "
    "month."
)
HOLLOW = "A hollow board without a vent must not go by air or up a mountain: have one fitted."
CLOSED = "There is no vent, and heat or air travel can lift the skin: keep it cool; have a vent fitted before it flies."
RINSE = "Rinse with fresh water, dry, out of the sun. Not standing on its tail or nose."
FOIL = (
    "Bolts by the maker's torque, never with power tools; grease, take apart and rinse after salt. A mast with a "
    "crack, a bend or white lines is retired. Plate and tracks: look for cracks before each session."
)
FINS = (
    "Hand tight, and once more after the first minutes. A fin with a crack at its base is retired; sand in a box is "
    "rinsed out before the fin goes in."
)
STRAPS = "Screws of the length that came with it: longer ones go through the deck. Tighten by hand."
BAGGED = "Bagged, deck up, straps over the board's middle, nothing on rails or fins."
WATER = "Helmet and vest; never alone; not in offshore wind, at dusk, or with a cracked board, mast or fin."


def care(board: Board, discipline: Discipline, table: MaterialTable) -> tuple[tuple[str, str], ...]:
    """Care of a board: what it is about, and what to do."""
    c = board.construction
    stock = table.stock(c.core.stock) if c is not None else None
    eps = stock is not None and "eps" in stock.name.lower()
    wood = stock is not None and stock.wood
    found = [("Heat", EPS_HEAT if eps else WOOD_HEAT if wood else FOAM_HEAT)]
    if any(plug.kind == "vent" for plug in board.fittings.plugs):
        found.append(("Vent", VENT))
    elif c is not None and c.core.build != "solid":
        found.append(("Pressure", HOLLOW))
    elif eps:
        found.append(("Pressure", CLOSED))
    found += [("Salt and sun", RINSE), ("A dent or crack", _crack(board, table))]
    if discipline in FOILING:
        found.append(("Foil", FOIL))
    if board.fittings.fin_boxes:
        found.append(("Fins", FINS))
    if board.fittings.straps:
        found.append(("Straps", STRAPS))
    return (*found, ("Transport", BAGGED), ("On the water", WATER))


def _crack(board: Board, table: MaterialTable) -> str:
    """What to do with a crack in this skin."""
    c = board.construction
    words = "Tape it, leave the water, let it dry for days before it is closed: "
    if c is None:
        return words + "foam that took water is dried first."
    cloths = " ".join(table.cloth(ply.cloth).name.lower() for ply in c.plies if ply.on)
    resin = table.resin(c.resin).name.lower()
    words += f"repair with the kind of resin it is built with ({resin})."
    if "eps" in table.stock(c.core.stock).name.lower() and "polyester" not in resin:
        words += " Polyester resin dissolves its core."
    if "carbon" in cloths:
        words += " Carbon dust: mask, and away from motors; carbon in salt water eats aluminium beside it."
    return words
