"""Righting moments over heel, and the board with its rider stepped back.

Free sinkage, trim as held at rest; the rider stays upright over the middle of
the deck, as people do, so the weight goes down through feet, knees or trunk. A
stepped hull shows its second stability in this curve.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.floating.balance import beside, plane_at, residuals, sink
from kelvor.core.tank.floating.clipping import Hull, WaterPlane
from kelvor.core.tank.floating.posture import COARSE, FloatingCase, footwell_water
from kelvor.core.tank.floating.rider import Posture
from kelvor.core.tank.laws.coefficients import Coefficients

METHOD = Method(
    "exact clipping of heeled sections, sinkage free, rider upright over the middle of the deck",
    "hydrostatics; Winter 2009 body segments (from memory)",
    "still water, no way on",
)
HEELS = np.radians([0.0, 3.0, 6.0, 10.0, 14.0, 19.0, 25.0, 32.0, 40.0])


@frozen(eq=False)
class Righting:
    """A righting curve: heels [rad], moments [N m], with the rider at `place` [m from the tail]."""

    posture: Posture
    place: float
    heel: Array
    moment: Array
    deck_depth: float
    steady: bool

    @property
    def peak(self) -> tuple[float, float]:
        """Heel [rad] and moment [N m] of the peak, by the parabola through the three highest."""
        i = int(np.clip(np.argmax(self.moment), 1, len(self.heel) - 2))
        a, b, c = np.polyfit(self.heel[i - 1 : i + 2], self.moment[i - 1 : i + 2], 2)
        at = (
            float(np.clip(-b / (2 * a), self.heel[i - 1], self.heel[i + 1]))
            if a < 0
            else float(self.heel[np.argmax(self.moment)])
        )
        return at, float(np.polyval([a, b, c], at))

    @property
    def rises(self) -> bool:
        """Whether it still rises where it ends, its peak beyond."""
        return bool(self.peak[0] > self.heel[-1] - 1e-9)

    def at(self, heel: float) -> float:
        """Moment at a heel [N m]."""
        return float(np.interp(heel, self.heel, self.moment))


def righting(
    measured: Geometry,
    mass: MassProperties,
    brief: Brief,
    table: Coefficients,
    posture: Posture,
    place: float | None = None,
) -> Righting:
    """The curve of a posture, the rider where the board lies level, or at `place` with its trim held level."""
    problem = _problem(measured, mass, brief, table, posture)
    at = problem.held(0.0, measured.solid.x).place if place is None else place
    load = problem.upright(at)
    plane = problem.sink(at, 0.0, 0.0)
    depths, slope, moments = [plane.depth], problem.rises, []
    for i, heel in enumerate(HEELS):
        if i:  # looked for where the last two heels lead, since a depth is even over heel
            ahead = (
                0.0
                if i < 2
                else (depths[-1] - depths[-2]) * (heel**2 - HEELS[i - 1] ** 2) / (HEELS[i - 1] ** 2 - HEELS[i - 2] ** 2)
            )
            depth, slope = _sunk(problem, at, float(heel), depths[-1] + float(ahead), slope)
            depths.append(depth)
            plane = plane_at(depth, -problem.base_angle, float(heel))
        _, _, across = residuals(plane, problem.immersion(plane, at), load, problem.density)
        moments.append(across * GRAVITY * float(np.cos(heel)))
    moment = np.array(moments)
    still = depths[0] - float(np.tan(-problem.base_angle)) * at - problem.deck(at)
    return Righting(posture, at, HEELS, moment, still, bool(moment[1] > 0))


def flooded(
    measured: Geometry, mass: MassProperties, brief: Brief, table: Coefficients, posture: Posture, place: float
) -> tuple[float, float]:
    """Water in full foot wells [kg], and how much deeper they put the deck at the rider's `place` [m]; zeros without
    wells.
    """
    problem = _problem(measured, mass, brief, table, posture)
    water = footwell_water(measured, problem.density)
    if not water:
        return 0.0, 0.0
    dry = problem.sink(place, 0.0, 0.0)
    problem.fixed = (*problem.fixed, *water)
    wet = problem.sink(place, 0.0, 0.0)
    return sum(w.mass for w in water), wet.depth - dry.depth


def _problem(
    measured: Geometry, mass: MassProperties, brief: Brief, table: Coefficients, posture: Posture
) -> FloatingCase:
    """A posture on every second section, sunk coarsely: enough for a curve."""
    problem = FloatingCase(measured, mass, brief, posture, Hull(measured.shape, every=2), table)
    problem.tolerance = COARSE
    return problem


def _sunk(problem: FloatingCase, place: float, heel: float, near: float, slope: float) -> tuple[float, float]:
    """Depth of the water plane at a heel [m] and how the load grows with it [kg/m], looked for `near` where it should
    be.
    """
    mass, trim = problem.load(place).mass, -problem.base_angle

    def short(depth: float) -> float:
        return problem.density * problem.immersion(plane_at(depth, trim, heel), place).volume - mass

    found = beside(short, near, slope, COARSE * max(mass, 1.0))
    if found is not None:
        return found
    low, high = problem.low - 0.1, problem.high + 0.1
    return sink(lambda p: problem.immersion(p, place), mass, problem.density, trim, heel, low, high, COARSE), slope


@frozen
class SteppedBack:
    """The rider on the tail: trim [rad], tail and nose under (positive) or above water [m], waterline left [m]."""

    place: float
    trim: float
    plane: WaterPlane
    tail_sink: float
    nose_height: float
    waterline: float
    found: bool


def stepped_back(
    measured: Geometry, mass: MassProperties, brief: Brief, table: Coefficients, place: float
) -> SteppedBack:
    """Standing with the feet about `place`, the board trimming freely; `found` is False where nothing up to 35°
    balances.
    """
    problem = _problem(measured, mass, brief, table, "standing")
    low, high = -4 * DEGREE, 35 * DEGREE

    load = problem.upright(place)

    def nose_up(trim: float) -> float:
        plane = problem.sink(place, trim, 0.0)
        return residuals(plane, problem.immersion(plane, place), load, problem.density)[1]

    found = nose_up(low) > 0 > nose_up(high)
    for _ in range(11):
        middle = (low + high) / 2
        low, high = (middle, high) if nose_up(middle) > 0 else (low, middle)
    trim = (low + high) / 2
    plane = problem.sink(place, trim, 0.0)
    shape = measured.shape
    water = plane.depth + plane.pitch * shape.x
    wet = shape.z.min(axis=1) < water
    line = float(shape.x[wet][-1] - shape.x[wet][0]) if wet.any() else 0.0
    return SteppedBack(
        place, trim, plane, float(water[0] - shape.deck[0]), float(shape.keel[-1] - water[-1]), line, found
    )
