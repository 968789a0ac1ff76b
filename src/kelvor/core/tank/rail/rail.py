"""The rail on the water: where a heeled board touches, how long it engages, the radius it draws.

Pure geometry of the heeled surface: the lowest point of every section, seen from
above. Convex outline bends this line the wrong way until the rocker, which
counts with the sine of the heel, overcomes it. Ranking only: water and rider
are not in it.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections

METHOD = Method("lowest line of the heeled surface seen from above", "geometry", "water and rider are not in it")
BITE = 0.030
"""Depth of the deepest point of the rail at which its engaged length is told [m]."""
PLACES = 49
"""Places along the run at which its bend is read."""


@frozen(eq=False)
class RailLine:
    """The lowest line of a heeled board.

    Attributes
    ----------
    x, across, height:
        Places along [m], distance to the lower side, height above the lowest point, in the water's frame (n,) [m].
    start, end:
        Of the run under water when the lowest point is `bite` deep [m from the tail].
    curvature:
        Of that run seen from above [1/m]: positive turns into the turn.
    rocker:
        Mean curvature of the bottom along that run [1/m], halfway between keel and rail.
    breaks:
        Steps across of that run, where a cut-out or winger interrupts it [m].
    """

    heel: float
    x: Array
    across: Array
    height: Array
    start: float
    end: float
    curvature: float
    rocker: float
    breaks: float

    @property
    def engaged(self) -> float:
        """Length under water [m]."""
        return self.end - self.start

    @property
    def radius(self) -> float:
        """Radius the bottom draws [m], 1/(rocker · sin heel); infinite on a flat."""
        bend = self.rocker * float(np.sin(self.heel))
        return 1 / bend if bend > 1e-3 else float("inf")


def rail_line(shape: Sections, slope: float, heel: float, bite: float = BITE) -> RailLine:
    """The lowest line at a heel [rad] about the base line, which rises `slope` per metre in the drawing's frame."""
    inside = slice(1, -1)
    z = shape.z[inside] - slope * shape.x[inside, None]
    y, x = shape.y[inside], shape.x[inside]
    height = z * np.cos(heel) - y * np.sin(heel)
    low = np.argmin(height, axis=1)
    rows = np.arange(len(x))
    lowest = height[rows, low]
    across = y[rows, low] * np.cos(heel) + z[rows, low] * np.sin(heel)
    lowest = lowest - lowest.min()
    deepest = int(np.argmin(lowest))
    a = b = deepest
    while a > 0 and lowest[a - 1] <= bite:
        a -= 1
    while b < len(x) - 1 and lowest[b + 1] <= bite:
        b += 1
    run = slice(a, b + 1)
    start = _reached(x, lowest, a, a - 1, bite) if a > 0 else float(x[0])
    end = _reached(x, lowest, b, b + 1, bite) if b < len(x) - 1 else float(x[-1])
    curvature, jump, rocker = 0.0, 0.0, 0.0
    if b - a >= 4 and x[b] - x[a] > 0.05:
        # read at even places of the run, not at its stations: else its bend steps as the run reaches one more
        along = np.linspace(start, end, PLACES)
        # a line that bends into the turn is hollow to the lower side: the ends stand further out than the middle
        curvature, rocker = (
            2 * float(np.polyfit(along - along.mean(), np.interp(along, x, line), 2)[0])
            for line in (across, shape.mid[inside])
        )
        steps = np.abs(np.diff(across[run])) - 0.12 * np.diff(x[run])
        jump = float(max(0.0, steps.max()))
    return RailLine(heel, x, across, lowest, start, end, curvature, rocker, jump)


def _reached(x: Array, height: Array, wet: int, dry: int, bite: float) -> float:
    """Where the line comes out of the water between two stations [m]."""
    share = (bite - height[wet]) / max(float(height[dry] - height[wet]), 1e-12)
    return float(x[wet] + (x[dry] - x[wet]) * share)


def crossover(shape: Sections, slope: float) -> float:
    """Heel at which the rail line begins to bend into the turn [rad], read between heels 5° apart; NaN where it never
    does below 75°.
    """
    before = 0.0
    for degrees in range(10, 76, 5):
        bend = rail_line(shape, slope, degrees * DEGREE).curvature
        if bend > 0:
            back = before / (before - bend) if before < 0 else 1.0
            return (degrees - 5 * (1 - back)) * DEGREE
        before = bend
    return float("nan")
