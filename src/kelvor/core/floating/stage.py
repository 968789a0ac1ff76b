"""The float stage: board, foil and rider at rest, stability first.

A board smaller than its rider rarely balances freely: the trim and heel are
then held by the rider. So each trim is held, and the place of the knees (feet,
seat) that balances it is solved; stability is said beside it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients
from kelvor.core.disciplines import AT_REST, RIGS
from kelvor.core.figures import Better, Figure, FigureDefinition, Method
from kelvor.core.floating.balance import (
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
from kelvor.core.floating.clipping import Hull, Immersion, WaterPlane
from kelvor.core.floating.rider import Body, Posture, rider_body
from kelvor.core.fluids import GRAVITY
from kelvor.core.mass.properties import MassProperties
from kelvor.core.shape.board import Board
from kelvor.core.shape.geometry import Geometry, geometry
from kelvor.core.shape.sections import Resolution
from kelvor.core.units import DEGREE
from kelvor.core.units import Quantity as Q
from kelvor.core.values import frozen

WINDOW = 3 * DEGREE
"""Trim either way of level inside which the knees may wander."""
ROLL_PROBE = 5 * DEGREE
"""Heel at which the roll moment is told."""
POSTURES: tuple[Posture, ...] = ("kneeling", "standing", "sitting")
"""The postures of the float; lying down and stepping back belong to the ride."""

FINE, COARSE = 3e-8, 1e-4
"""Share of the mass to which the board is sunk: for figures, and for what is only compared or drawn."""

METHOD = Method(
    "exact clipping of the sections by still water, trim held, rider's place solved; heeled, the rider stays upright",
    "hydrostatics, closed forms in the tests; body segments from Winter 2009 (from memory)",
    "still water, no way on; body shape ±2 cm, density ±2 %",
)


@frozen
class Held:
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
    level: Held
    window: tuple[float, float]
    moment_per_metre: float
    roll_moment: float
    pitch_stable: bool
    roll_stable: bool


@frozen(eq=False)
class FloatStage:
    """All postures, and the figures read off them."""

    postures: dict[Posture, PostureFloat]
    figures: tuple[Figure, ...]


class Problem:
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

    def held(self, trim: float, guess: float) -> Held:
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
        return Held(
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
    problem = Problem(measured, mass, brief, posture, hull, table)
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
    return PostureFloat(posture, level, (places[0], places[-1]), GRAVITY * problem.rider_pull(level.plane, level.place),
                        roll, bool(pitch_stable), bool(roll > 0))  # fmt: skip


def free_trim(
    measured: Geometry, mass: MassProperties, brief: Brief, place: float, hull: Hull, table: Coefficients
) -> float:
    """Trim the board takes with the knees at `place` [rad], NaN where none between ±20° balances."""
    problem = Problem(measured, mass, brief, "kneeling", hull, table)
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
    problem = Problem(measured, mass, brief, "kneeling", hull, table)
    if not 0 < total(problem.fixed).mass < problem.density * measured.solid.volume:
        return float("nan")
    found = free_balance(
        hull.immersion, problem.fixed, problem.density, problem.low - 0.1, float(measured.shape.z.max()) + 0.1
    )
    return found.trim + problem.base_angle if found.found else float("nan")


def float_stage(
    measured: Geometry, mass: MassProperties, brief: Brief, table: Coefficients, *, quick: bool = False
) -> FloatStage:
    """Every posture at rest, and its figures; `quick` takes only the posture the discipline waits in, coarsely."""
    hull = Hull(measured.shape)
    wanted: tuple[Posture, ...] = (AT_REST[brief.discipline] or "kneeling",) if quick else POSTURES
    postures = {p: posture_float(measured, mass, brief, p, hull, table, COARSE if quick else FINE) for p in wanted}
    return FloatStage(postures, _figures(measured, mass, brief, postures, None if quick else hull, table))


DECK_DEPTH = FigureDefinition(
    "float_deck_depth",
    "Deck under water, kneeling",
    Q.LENGTH,
    METHOD,
    better=Better.LESS,
    more="deeper",
    less="higher",
    head="deck {} under",
    head_below="deck {} above",
    short="kneeling, deck {} under",
    short_below="kneeling, deck {} above",
    school="Just enough volume to get going, or enough to stand on: less sinks and swings less, more waits in comfort.",
    below="above",
)
STANDING_DEPTH = FigureDefinition(
    "float_standing_deck_depth",
    "Deck under water, standing",
    Q.LENGTH,
    METHOD,
    better=Better.LESS,
    more="deeper",
    less="higher",
    short="standing, deck {} under",
    short_below="standing, deck {} above",
    below="above",
)
SITTING_DEPTH = FigureDefinition(
    "float_sitting_deck_depth",
    "Deck under water, sitting",
    Q.LENGTH,
    METHOD,
    better=Better.LESS,
    more="deeper",
    less="higher",
    below="above",
)
RIDER_SHARE = FigureDefinition(
    "float_rider_immersed",
    "Rider under water, kneeling",
    Q.RATIO,
    METHOD,
    better=Better.LESS,
)
KNEE_PLACE = FigureDefinition(
    "float_knee_place",
    "Knees for level, from tail",
    Q.LENGTH,
    METHOD,
    more="forward",
    less="aft",
)
KNEE_WINDOW = FigureDefinition(
    "float_knee_window",
    "Knee window, trim within ±3°",
    Q.LENGTH,
    METHOD,
    better=Better.MORE,
    more="wider",
    less="narrower",
    short="knees {} either way keep it level",
)
KNEE_MOMENT = FigureDefinition("float_knee_moment", "Pitching moment per cm of knee", Q.MOMENT, METHOD)
TRIM = FigureDefinition(
    "float_trim",
    "Trim, knees over the mast",
    Q.ANGLE,
    METHOD,
    more="nose higher",
    less="nose lower",
)
ALONE_TRIM = FigureDefinition(
    "float_alone_trim",
    "Trim afloat, nobody on it",
    Q.ANGLE,
    METHOD,
    more="nose higher",
    less="nose lower",
)
RAIL_WET = FigureDefinition(
    "float_rail_immersed",
    "Rail under water at rest",
    Q.LENGTH,
    METHOD,
    more="deeper",
    less="higher",
    short="rail {} under at rest",
    short_below="rail {} above at rest",
    below="above",
)
ROLL_STIFFNESS = FigureDefinition(
    "float_roll_stiffness",
    "Roll stiffness, waiting",
    Q.STIFFNESS,
    METHOD,
    better=Better.MORE,
    more="steadier",
    less="tippier",
    short="rights {} at rest",
    short_below="tips {} at rest",
)
ROLL_HELD = FigureDefinition(
    "float_roll_held",
    "Roll the rider holds at 5°",
    Q.MOMENT,
    METHOD,
    better=Better.LESS,
    more="more to hold",
    less="less to hold",
    short="you hold {} of roll at 5°",
)
FIGURES = (DECK_DEPTH, STANDING_DEPTH, SITTING_DEPTH, RIDER_SHARE, KNEE_PLACE, KNEE_WINDOW, KNEE_MOMENT, TRIM,
               ALONE_TRIM,
               RAIL_WET, ROLL_STIFFNESS, ROLL_HELD)  # fmt: skip


def _figures(
    measured: Geometry,
    mass: MassProperties,
    brief: Brief,
    postures: dict[Posture, PostureFloat],
    hull: Hull | None,
    table: Coefficients,
) -> tuple[Figure, ...]:
    """Figures of the postures there are; without a hull the free trims are left out."""
    waiting = postures[AT_REST[brief.discipline] or "kneeling"]
    rider = brief.rider
    inputs = (
        ("rider", f"{rider.mass:.1f} kg, {rider.height * 100:.0f} cm"),
        ("wing lift", f"{brief.wing_lift:.0f} N"),
        ("foil", f"{brief.foil.mass:.1f} kg, {brief.foil.volume * 1e3:.1f} L"),
        ("water", f"{brief.water.kind}, {brief.water.celsius:.0f} °C, {brief.water.density:.0f} kg/m³"),
    )

    def make(definition: FigureDefinition, value: float, band: float, note: str = "", valid: bool = True) -> Figure:
        return Figure(definition=definition, value=value, band=band, band_of_difference=band / 6, note=note,
                      inputs=inputs, valid=valid and bool(np.isfinite(value)))  # fmt: skip

    def depth(definition: FigureDefinition, posture: Posture) -> Figure:
        state = postures[posture]
        note = _stability_note(state)
        if not state.level.found:
            note = f"no place on the deck keeps it level; {note}"
        return make(definition, state.level.deck_depth, 0.03, note, state.level.found)

    found = [
        depth(definition, posture)
        for definition, posture in ((DECK_DEPTH, "kneeling"), (STANDING_DEPTH, "standing"), (SITTING_DEPTH, "sitting"))
        if posture in postures
    ]
    kneel = postures.get("kneeling")
    if kneel is not None:
        window = kneel.window[1] - kneel.window[0]
        found += [
            make(RIDER_SHARE, kneel.level.rider_share, 0.04, "of the body's volume"),
            make(KNEE_PLACE, kneel.level.place, 0.02, "" if kneel.level.found else "off the deck", kneel.level.found),
            make(KNEE_WINDOW, window, 0.15 * window + 0.003, "" if kneel.pitch_stable else "held by the rider"),
            make(KNEE_MOMENT, kneel.moment_per_metre * 0.01, 0.05 * abs(kneel.moment_per_metre) * 0.01),
        ]
    if kneel is not None and hull is not None:
        mast = measured.board.mast_x
        # a sinking board never trims freely; only ask where it would come back by itself
        trim = (
            free_trim(measured, mass, brief, mast, hull, table)
            if mast is not None and kneel.pitch_stable
            else float("nan")
        )
        alone = alone_trim(measured, mass, brief, hull, table)
        words = "board and foil, waiting for the rider" if np.isfinite(alone) else "no such balance"
        found += [
            make(ALONE_TRIM, alone, 0.3 * DEGREE, words),
            make(TRIM, trim, 0.5 * DEGREE, "" if np.isfinite(trim) else "no free trim: held by the rider"),
        ]
    return (*found, *_waiting(measured, waiting, make))


def _waiting(measured: Geometry, waiting: PostureFloat, make: Callable[..., Figure]) -> tuple[Figure, ...]:
    """How the board lies and rolls under the rider who waits."""
    held = max(0.0, -waiting.roll_moment)
    shape, plane = measured.shape, waiting.level.plane
    wide = float(shape.x[int(np.argmax(shape.half_width))])
    rail = plane.depth + plane.pitch * wide - measured.at(shape.edge_z, wide)
    return (
        make(
            RAIL_WET,
            rail,
            0.02,
            f"{waiting.posture}, bottom edge at the widest place, {wide * 100:.0f} cm from the tail",
            waiting.level.found,
        ),
        make(
            ROLL_STIFFNESS,
            waiting.roll_moment / ROLL_PROBE,
            0.15 * abs(waiting.roll_moment) / ROLL_PROBE + 10,
            f"{waiting.posture}, upright over the middle; secant to 5°",
        ),
        make(
            ROLL_HELD,
            held,
            0.15 * held + 1.0,
            f"{waiting.posture}, upright over the middle: "
            f"{'comes back by itself' if waiting.roll_stable else 'held by balancing'}",
        ),
    )


def _stability_note(state: PostureFloat) -> str:
    if state.pitch_stable and state.roll_stable:
        return "comes back by itself in roll and trim, you upright"
    if not state.pitch_stable and not state.roll_stable:
        return "roll and trim held by balancing"
    return "roll held by balancing" if state.pitch_stable else "trim held by balancing"
