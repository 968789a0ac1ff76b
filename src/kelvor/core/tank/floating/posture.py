"""A posture at rest: board, foil and rider in balance, stability first.

A board smaller than its rider rarely balances freely: the trim and heel are
then held by the rider. So each trim is held, and the place of the knees (feet,
seat) that balances it is solved; stability is said beside it.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.base.disciplines import RIGS
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.geometry import Geometry, geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.floating.balance import (
    Load,
    beside,
    free_balance,
    plane_at,
    residuals,
    righting_arm,
    roll_moment,
    sink,
    total,
)
from kelvor.core.tank.floating.clipping import Hull, Immersion, WaterPlane
from kelvor.core.tank.floating.rider import Body, Posture, rider_body
from kelvor.core.tank.laws.coefficients import Coefficients

WINDOW = 3 * DEGREE
"""Trim either way of level inside which the knees may wander."""
ROLL_PROBE = 5 * DEGREE
"""Heel at which the roll moment is told."""
POSTURES: tuple[Posture, ...] = ("kneeling", "standing", "sitting")
"""The postures of the float; lying down and stepping back belong to the ride."""

FINE, COARSE = 3e-8, 1e-4
"""Share of the mass to which the board is sunk: for figures, and for what is only compared or drawn."""


@frozen
class HeldPosture:
    """A posture with its trim held: water plane and the rider's place.

    Attributes
    ----------
    place:
        Of knees, feet or seat that balances this trim [m from the tail].
    deck_depth:
        Deck under water there [m]; negative is above.
    rider_share:
        Share of the rider under water.
    """

    trim: float
    plane: WaterPlane
    place: float
    deck_depth: float
    rider_share: float
    found: bool


@frozen
class PostureFloat:
    """One posture at rest.

    Attributes
    ----------
    window:
        Places [m] of knees or feet that keep the trim within ±3°.
    moment_per_metre:
        Pitching moment for each metre the rider shifts [N m/m].
    roll_moment:
        Righting moment at 5° of heel [N m]; negative must be held by the rider.
    pitch_stable, roll_stable:
        Whether the board comes back by itself.
    """

    posture: Posture
    level: HeldPosture
    window: tuple[float, float]
    moment_per_metre: float
    roll_moment: float
    pitch_stable: bool
    roll_stable: bool


class FloatingCase:
    """One board, foil, rider and posture: what is immersed and what weighs."""

    def __init__(
        self, measured: Geometry, mass: MassProperties, brief: Brief, posture: Posture, hull: Hull, table: Coefficients
    ) -> None:
        self.measured, self.hull = measured, hull
        self.tolerance = FINE
        # the water's height at a place where it was found, and what a deeper plane carries more [kg/m]
        self._last: tuple[float, float, float] | None = None
        self.density = brief.water.density
        board, rider, foil = measured.board, brief.rider, brief.foil
        slope = board.base.slope
        wide = float(measured.shape.half_width.max())
        self.body: Body = rider_body(posture, rider.mass, rider.height, rider.stance, wide).upright_on(slope)
        mast = board.mast_x if board.mast_x is not None else measured.solid.x
        keel, below = measured.at(measured.shape.keel, mast), 0.6 * foil.mast_length
        self.fixed: tuple[Load, ...] = (
            Load(mass.mass, mass.x, 0.0, mass.z),
            Load(foil.mass - self.density * foil.volume, mast + slope * below, 0.0, keel - below),
            *_rig(measured, brief, posture, table),
        )
        lift = brief.wing_lift if posture in ("kneeling", "standing") else 0.0
        self.rider_mass = rider.mass - lift / GRAVITY
        z = measured.shape.z
        self.low, self.high = float(z.min()) - 0.02, float(z.max()) + rider.height
        self.base_angle = float(np.arctan(slope))

    def deck(self, x: float) -> float:
        """Height of the deck's centre at a place [m]."""
        return self.measured.at(self.measured.shape.deck, x)

    def immersion(self, plane: WaterPlane, place: float) -> Immersion:
        """What of board and rider is under water, the rider at `place` [m]."""
        return self.hull.immersion(plane) + self.body.immersion(plane, place, self.deck(place))

    def load(self, place: float) -> Load:
        """All weights, the rider a stiff body at `place` [m]."""
        rider = Load(self.rider_mass, place + self.body.centre_x, 0.0, self.deck(place) + self.body.centre_z)
        return total((*self.fixed, rider))

    def upright(self, place: float) -> Load:
        """All weights with the rider upright over the middle of the deck: the weight goes straight down through the
        feet.
        """
        return total((*self.fixed, Load(self.rider_mass, place, 0.0, self.deck(place))))

    def sink(self, place: float, trim: float, heel: float) -> WaterPlane:
        """The water plane at a trim and heel [rad] at which all is carried."""
        pitched = trim - self.base_angle  # level is the base line, not the drawing's frame
        slope = float(np.tan(pitched))
        reach = abs(slope) * self.measured.board.length
        mass = self.load(place).mass

        def immersed(plane: WaterPlane) -> Immersion:
            return self.immersion(plane, place)

        def short(depth: float) -> float:
            return self.density * immersed(plane_at(depth, pitched, heel)).volume - mass

        near, found = self._last, None
        if near is not None:
            found = beside(short, near[1] + slope * near[0], near[2], self.tolerance * max(mass, 1.0))
        depth, more = found or (
            sink(immersed, mass, self.density, pitched, heel, self.low - reach, self.high + reach, self.tolerance),
            0.0,
        )
        if heel == 0.0:
            more = more or (short(depth + 1e-4) - short(depth)) / 1e-4
            self._last = place, depth - slope * place, more
        return plane_at(depth, pitched, heel)

    @property
    def rises(self) -> float:
        """By how much more is carried the deeper the board floats upright, where it was sunk last [kg/m]."""
        assert self._last is not None
        return self._last[2]

    def along(self, plane: WaterPlane, place: float) -> float:
        """Unbalanced pitching moment [kg m], positive nose up."""
        return residuals(plane, self.immersion(plane, place), self.load(place), self.density)[1]

    def rider_pull(self, plane: WaterPlane, place: float) -> float:
        """Weight of the rider not carried by the water [kg]."""
        body = self.body.immersion(plane, place, self.deck(place))
        return self.rider_mass - self.density * body.volume

    def held(self, trim: float, guess: float) -> HeldPosture:
        """The rider's place that balances this trim."""
        place, found = guess, False
        length = self.measured.board.length
        plane = self.sink(place, trim, 0.0)
        before: tuple[float, float] | None = None
        for _ in range(25):
            pull = self.rider_pull(plane, place)
            if pull < 0.02 * self.rider_mass:
                break
            off = self.along(plane, place)
            stiff = pull if before is None or place == before[0] else (before[1] - off) / (place - before[0])
            # the secant of the last two places, as long as it is near what the rider's weight alone would give
            move = float(np.clip(off / (stiff if 0.3 * pull < stiff < 3 * pull else pull), -0.3, 0.3))
            before = place, off
            place = float(np.clip(place + move, -0.5 * length, 1.5 * length))
            plane = self.sink(place, trim, 0.0)
            if abs(move) < 2e-5:
                found = True
                break
        deck = self.deck(place)
        return HeldPosture(
            trim,
            plane,
            place,
            plane.depth + plane.pitch * place - deck,
            self.body.immersed_share(plane, place, deck),
            found and 0 <= place <= length,
        )


def _rig(measured: Geometry, brief: Brief, posture: Posture, table: Coefficients) -> tuple[Load, ...]:
    """A sail held upright by a standing rider: its mass stands over the mast track."""
    gear, track = brief.wing, measured.board.fittings.mast_track
    if gear is None or track is None or posture != "standing" or RIGS.get(brief.discipline) != "sail":
        return ()
    x = track.at.x(measured.board.length, measured.board.mast_x)
    return (
        Load(gear.mass, x, 0.0, measured.at(measured.shape.deck, x) + table.rig_height * float(np.sqrt(gear.area))),
    )


@lru_cache(maxsize=16)
def _footwells(board: Board) -> tuple[float, float, float]:
    """What recesses of the deck hold [m³], and their middle (x, z) [m]."""
    hollow = [layer for layer in board.deck_layers if layer.on and layer.kind == "recess"]
    if not hollow:
        return 0.0, 0.0, 0.0
    with_, without = (
        geometry(b, Resolution.COARSE)
        for b in (board, replace(board, deck_layers=tuple(la for la in board.deck_layers if la not in hollow)))
    )
    if isinstance(with_, tuple) or isinstance(without, tuple):
        return 0.0, 0.0, 0.0
    volume = without.solid.volume - with_.solid.volume
    if volume < 1e-6:
        return 0.0, 0.0, 0.0
    x = (without.solid.volume * without.solid.x - with_.solid.volume * with_.solid.x) / volume
    return volume, x, with_.at(with_.shape.deck, x)


def footwell_water(measured: Geometry, density: float) -> tuple[Load, ...]:
    """The water that stands in the deck's recesses when they are full: at rest they have drained."""
    volume, x, z = _footwells(measured.board)
    return (Load(density * volume, x, 0.0, z),) if volume > 0 else ()


def posture_float(
    measured: Geometry,
    mass: MassProperties,
    brief: Brief,
    posture: Posture,
    hull: Hull,
    table: Coefficients,
    tolerance: float = FINE,
) -> PostureFloat:
    """One posture: level attitude, window, stability; sunk to `tolerance` of its mass."""
    problem = FloatingCase(measured, mass, brief, posture, hull, table)
    problem.tolerance = tolerance
    level = problem.held(0.0, measured.solid.x)
    ends = [problem.held(trim, level.place) for trim in (-WINDOW, WINDOW)]
    nose_up = problem.sink(level.place, 1 * DEGREE, 0.0)
    pitch_stable = problem.along(nose_up, level.place) < 0
    load = problem.upright(level.place)
    arm = righting_arm(
        lambda plane: problem.immersion(plane, level.place),
        (load,),
        problem.density,
        ROLL_PROBE,
        problem.low,
        problem.high,
        -problem.base_angle,
        problem.tolerance,
    )
    roll = roll_moment(arm, load.mass)
    places = sorted(
        (level.place, *(e.place for e in ends))
    )  # trim and place need not run together where it is unstable
    return PostureFloat(
        posture,
        level,
        (places[0], places[-1]),
        GRAVITY * problem.rider_pull(level.plane, level.place),
        roll,
        bool(pitch_stable),
        bool(roll > 0),
    )


def free_trim(
    measured: Geometry, mass: MassProperties, brief: Brief, place: float, hull: Hull, table: Coefficients
) -> float:
    """Trim the board takes with the knees at `place` [rad], NaN where none between ±20° balances."""
    problem = FloatingCase(measured, mass, brief, "kneeling", hull, table)
    low, high = -20 * DEGREE, 20 * DEGREE
    f_low = problem.along(problem.sink(place, low, 0.0), place)
    f_high = problem.along(problem.sink(place, high, 0.0), place)
    if not f_low > 0 > f_high:
        return float("nan")
    for _ in range(12):
        middle = (low + high) / 2
        if problem.along(problem.sink(place, middle, 0.0), place) > 0:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def alone_trim(measured: Geometry, mass: MassProperties, brief: Brief, hull: Hull, table: Coefficients) -> float:
    """Trim of board and foil with nobody on them, sinkage, trim and heel free [rad]; NaN where none is found."""
    problem = FloatingCase(measured, mass, brief, "kneeling", hull, table)
    if not 0 < total(problem.fixed).mass < problem.density * measured.solid.volume:
        return float("nan")
    found = free_balance(
        hull.immersion, problem.fixed, problem.density, problem.low - 0.1, float(measured.shape.z.max()) + 0.1
    )
    return found.trim + problem.base_angle if found.found else float("nan")
