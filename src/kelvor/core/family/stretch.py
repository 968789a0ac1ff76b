"""Whether a size is only its parent stretched: longer, wider and thicker by factors, and nothing worked on.

The parent is stretched as the program stretches (blends, corners and hinges keep their millimetres) and as a drawing is
scaled (they do not), each by the factors that come nearest, and what is left is judged group by group. Two designs are
compared, not two boards, so little is enough: our own choice, from planted stretches (0.05 mm is left of those) and
from sizes that follow rules (from 0.2 mm on for a rider a tenth heavier).
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.edits import with_length, with_thickness_scaled, with_width_scaled
from kelvor.core.shape.surface.geometry import Geometry, geometry

SHARES = np.linspace(0.03, 0.97, 95)
"""Lines are laid over one another at these shares of the length; the tips keep their radii."""
LIMIT = 1.5e-4
"""What may be left of a group that was only scaled, root mean square [m]."""
GROUPS = ("outline", "thickness", "rocker", "bottom", "rails")
WORDS = {
    "outline": "outline",
    "thickness": "thickness along the board",
    "rocker": "rocker",
    "bottom": "bottom between keel and rail",
    "rails": "rail line over the keel",
}


@frozen
class Stretch:
    """What is left of each group after the best factors, root mean square [m], and those factors."""

    left: dict[str, float]
    factors: dict[str, float]

    @property
    def worked_on(self) -> tuple[str, ...]:
        """The groups that are not only scaled."""
        return tuple(group for group, rest in self.left.items() if rest > LIMIT)

    @property
    def only(self) -> bool:
        """Whether nothing was worked on."""
        return not self.worked_on


def stretch(parent: Board, child: Board) -> Stretch | None:
    """What tells a board from its parent stretched; None where one of them cannot be drawn."""
    own, theirs = geometry(parent), geometry(child)
    if isinstance(own, tuple) or isinstance(theirs, tuple):
        return None
    drawn = _apart(own, theirs)
    made = _stretched(parent, child.length / parent.length, drawn.factors["outline"], drawn.factors["thickness"])
    if made is None:
        return drawn
    again = _apart(made, theirs)
    best = again if len(again.worked_on) < len(drawn.worked_on) else drawn
    return replace(best, factors=drawn.factors)


def _stretched(parent: Board, longer: float, wider: float, thicker: float) -> Geometry | None:
    free = replace(parent, locks=replace(parent.locks, measures=(), zones=()))
    try:
        board = with_thickness_scaled(with_width_scaled(with_length(free, parent.length * longer), wider), thicker)
    except RefusedEdit:
        return None
    found = geometry(board)
    return None if isinstance(found, tuple) else found


def _apart(parent: Geometry, child: Geometry) -> Stretch:
    own, theirs = _lines(parent), _lines(child)
    left: dict[str, float] = {}
    factors = {"length": float(child.shape.x[-1] / parent.shape.x[-1])}
    for group in GROUPS:
        columns = [own[group]]
        if group == "rocker":  # the base line may lie otherwise
            columns += [np.ones_like(SHARES), SHARES]
        matrix = np.stack(columns, axis=1)
        found, *_ = np.linalg.lstsq(matrix, theirs[group], rcond=None)
        left[group] = float(np.sqrt(np.mean((theirs[group] - matrix @ found) ** 2)))
        factors[group] = float(found[0])
    return Stretch(left, factors)


def _lines(measured: Geometry) -> dict[str, Array]:
    shape = measured.shape
    at = SHARES * float(shape.x[-1])

    def read(values: Array) -> Array:
        return np.interp(at, shape.x, values)

    keel = read(shape.keel)
    return {
        "outline": read(shape.half_width),
        "thickness": read(shape.deck) - keel,
        "rocker": keel,
        "bottom": read(shape.mid) - keel,
        "rails": read(shape.edge_z) - keel,
    }
