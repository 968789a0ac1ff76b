"""The book of figures: every figure of the program once, in the order of the ledger.

Each is declared beside the function that counts it; the book only gathers them.
"""

from __future__ import annotations

from kelvor.core.base.figures import FigureDefinition
from kelvor.core.build.stiffness import stage as stiffness
from kelvor.core.measures import lines, size, stance
from kelvor.core.ride import foiling as wing_foil
from kelvor.core.ride import speed_independent
from kelvor.core.ride import stage as ride
from kelvor.core.tank.floating import stage as floating

BOOK: tuple[FigureDefinition, ...] = (
    *size.FIGURES, *lines.FIGURES, *stance.FIGURES, *speed_independent.FIGURES, *wing_foil.FIGURES, *floating.FIGURES,
    *stiffness.FIGURES, *ride.FIGURES,
)  # fmt: skip
BY_KEY = {figure.key: figure for figure in BOOK}
RIDDEN = frozenset(figure.key for figure in ride.FIGURES)
"""Keys of what only a ride tells; all others follow the board at once."""
