"""Options in words: the matrix of a range, and what a shop has to stock."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.units import Quantity, System, text
from kelvor.core.build.costing import Bought, together
from kelvor.core.family.options import DESIGNED, Cell
from kelvor.ui.shown.shown import money

FACTOR = 2.0
"""Price over cost until somebody types their own."""
CAUTION = (
    "Weights are forecasts, good to their band. Costs are by this workshop's table of materials and rates, invented "
    "until you type yours. The price is the cost times a factor you state."
)


def option_words(boxes: str, straps: str) -> str:
    """A layout of boxes and straps."""
    told = [words for words in (boxes if boxes != DESIGNED else "", straps if straps != DESIGNED else "") if words]
    return ", ".join(told) or DESIGNED


def cell_words(cell: Cell, factor: float, currency: str, system: System) -> str:
    """A cell: weight, cost and price."""
    if cell.problem:
        return "cannot be built so"
    weight = text(cell.mass, Quantity.MASS, system)
    return f"{weight}\ncosts {money(cell.cost, currency)}\nprice {money(cell.cost * factor, currency)}"


def matrix_rows(
    sizes: Sequence[tuple[str, Sequence[Cell]]],
    constructions: Sequence[str],
    factor: float,
    currency: str,
    system: System,
) -> list[tuple[str, ...]]:
    """The matrix: a row a size and layout, a column a construction."""
    rows = []
    for name, cells in sizes:
        layouts = dict.fromkeys((cell.boxes, cell.straps) for cell in cells)
        for i, (boxes, straps) in enumerate(layouts):
            there = {cell.construction: cell for cell in cells if (cell.boxes, cell.straps) == (boxes, straps)}
            told = [cell_words(there[c], factor, currency, system) if c in there else "–" for c in constructions]
            rows.append((name if i == 0 else "", option_words(boxes, straps), *told))
    return rows


def stock_rows(cells: Sequence[Cell], number: int) -> list[tuple[str, ...]]:
    """What so many of each of these boards need."""
    return [
        (line.what, amount_words(line, number)) for line in together([cell.needs for cell in cells if not cell.problem])
    ]


def amount_words(line: Bought, number: int) -> str:
    """How much of a thing."""
    amount = line.amount * number
    if not line.unit:
        return f"{amount:.0f}"
    return f"{amount:.2f} {line.unit}" if amount < 10 else f"{amount:.1f} {line.unit}"
