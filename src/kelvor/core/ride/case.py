"""One case of the ride: a board, a brief and a condition, with everything dear computed once."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.disciplines import AT_REST
from kelvor.core.base.figures import Figures
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import KNOT
from kelvor.core.measures.stance import Feet, feet
from kelvor.core.ride.balance import LIGHTER, Rigged, SailingBalance
from kelvor.core.ride.collector import Collector
from kelvor.core.ride.condition import Condition, windy
from kelvor.core.ride.model import RideModel, Running
from kelvor.core.ride.paddling import Paddling, paddling
from kelvor.core.ride.run_up import (
    Going,
    LeastWind,
    drawn_speeds,
    gears,
    going,
    least_wind,
    left_over,
)
from kelvor.core.ride.sailing import FAST_COURSE, Course, Polar, polar, steady
from kelvor.core.shape.surface.geometry import Geometry, of_sections
from kelvor.core.shape.surface.sections import Resolution, sections
from kelvor.core.tank.floating.rider import Posture
from kelvor.core.tank.floating.righting import Righting, SteppedBack, righting, stepped_back
from kelvor.core.tank.sails.sails import Gear

SLOWEST = 2.5
"""Speed below which planing is not looked at [m/s]."""
DRIVEN = 0.5
"""Speed on the fast course below which nothing drives a board [m/s]."""
SLOWEST_PACE, SLOWEST_WAVE, PLANES_FREELY = 1.0, 2.0, 10 * KNOT
"""Least pace and speed of a wave that are looked at, and a speed at which paddled boards may plane [m/s]."""


class BoardCase:
    """A board under a brief, whatever the wind: what a sweep over conditions shares."""

    def __init__(self, model: RideModel, known: Figures) -> None:
        self.model, self.known = model, known
        self.brief, self.measured = model.brief, model.measured

    @cached_property
    def run_up(self) -> Going:
        """From rest to planing or lift-off."""
        return going(self.model)

    @cached_property
    def gears(self) -> tuple[Gear, ...]:
        """All gear of the brief."""
        return gears(self.brief, self.model.table)

    @cached_property
    def gear(self) -> Gear | None:
        """The gear in use."""
        return self.gears[min(self.brief.wing_in_use, len(self.gears) - 1)] if self.gears else None

    @cached_property
    def lighter(self) -> tuple[Running, ...]:
        """The way with less to carry; at every second speed without a foil, since how drag goes with load hardly bends
        there.
        """
        carried = self.model.weight - self.run_up.lifted
        speeds = self.run_up.looked
        some = speeds if self.model.wing is not None else np.append(speeds[:-1:2], speeds[-1])
        return self.model.curve(some, self.model.weight - LIGHTER * carried)

    @cached_property
    def rigs(self) -> tuple[Rigged, ...]:
        """The board under each gear of the brief."""
        return tuple(Rigged(self.model, g, self.run_up.curve, self.lighter, self.run_up.lift_off) for g in self.gears)

    @cached_property
    def rigged(self) -> Rigged | None:
        """The board under the gear in use."""
        return self.rigs[self.gears.index(self.gear)] if self.gear is not None else None

    @cached_property
    def least_winds(self) -> tuple[LeastWind, ...]:
        """Least wind for each gear."""
        return tuple(least_wind(rigged, self.run_up) for rigged in self.rigs)

    @cached_property
    def coarse(self) -> Geometry:
        """The board with fewer stations, for what is clipped hundreds of times."""
        shape = sections(self.measured.board, Resolution.COARSE)
        return self.measured if isinstance(shape, tuple) else of_sections(shape)

    @cached_property
    def posture(self) -> Posture:
        """How the rider is on the board while it is balanced."""
        discipline = self.brief.discipline
        if discipline == "prone race":
            return "prone"
        return AT_REST[discipline] or "standing"

    @cached_property
    def righting(self) -> Righting:
        """The righting curve, the rider where the board lies level."""
        return righting(self.coarse, self.model.mass, self.brief, self.model.table, self.posture)

    @cached_property
    def righting_back(self) -> Righting:
        """The righting curve with the weight a foot (30 cm) further back."""
        return righting(
            self.coarse, self.model.mass, self.brief, self.model.table, "standing", self.righting.place - 0.30
        )

    @cached_property
    def feet(self) -> Feet:
        """Where the feet stand."""
        return feet(self.measured, self.brief.rider)

    @cached_property
    def back(self) -> SteppedBack:
        """The rider stepped back for a pivot turn: the feet near the tail."""
        table = self.model.table
        return stepped_back(
            self.coarse, self.model.mass, self.brief, table, table.step_back * self.measured.board.length
        )

    @property
    def pivot_foot(self) -> float:
        """Where the back foot presses to turn on the tail [m from the tail]: in straps as it is, else stepped back."""
        back = self.feet.back
        strapped = len(self.measured.board.fittings.straps) >= 2
        return back if strapped else min(back, self.model.table.step_back * self.measured.board.length)

    @cached_property
    def paddling(self) -> Paddling:
        """Drag over paddling speeds."""
        return paddling(self.model, 6.5 if self.brief.discipline in ("paddle race", "prone race") else 5.5)

    def known_value(self, key: str) -> float:
        """A figure of the earlier stages, NaN without it."""
        figure = self.known.get(key)
        return figure.value if figure is not None and figure.exists else math.nan


class RideCase:
    """A board in a condition, and what is told of it."""

    def __init__(self, board: BoardCase, condition: Condition, *, draw: bool = True) -> None:
        self.board, self.condition = board, condition
        self.draw = draw
        """Whether pictures are wanted that cost more than their figures."""
        self.model, self.brief, self.measured = board.model, board.brief, board.measured
        self.collected = Collector(_inputs(board, condition))

    @property
    def run_up(self) -> Going:
        """From rest to planing or lift-off."""
        return self.board.run_up

    @cached_property
    def spare(self) -> Array:
        """Force to spare over the speeds of the way with the gear in use, on the best of the courses [N]; NaN beyond
        what is drawn.
        """
        assert self.board.rigged is not None
        run_up = self.run_up
        looked = drawn_speeds(run_up)
        left = np.full_like(run_up.speeds, np.nan)
        left[looked] = left_over(self.board.rigged, run_up, self.condition.wind, run_up.speeds[looked])
        return left

    @cached_property
    def polar(self) -> Polar | None:
        """Speeds round the wind with the gear in use."""
        return None if self.board.rigged is None else polar(self.board.rigged, self.condition.wind)

    @cached_property
    def _steady(self) -> tuple[Running, SailingBalance] | None:
        """The board on its fast course, and what balances there; None where nothing drives it."""
        rigged = self.board.rigged
        if rigged is None or self.polar is None:
            return None
        speed = self.polar.at(FAST_COURSE)
        return steady(rigged, self.condition.wind, FAST_COURSE, speed) if speed > DRIVEN else None

    @property
    def sailed(self) -> SailingBalance | None:
        """The balance on the fast course; None where nothing drives the board there."""
        return None if self._steady is None else self._steady[1]

    @cached_property
    def run(self) -> Running:
        """The board on its fast course (sailed), at its pace (paddled and towed), or planing at 15 kn where nothing
        drives it.
        """
        if self._steady is not None:
            return self._steady[0]
        speed = self.condition.pace if not windy(self.brief) else 15 * KNOT
        return self.at(max(speed, SLOWEST_PACE))

    @cached_property
    def _asked(self) -> dict[float, Running]:
        """The board at the speeds a case may be asked for, counted in one go."""
        pace = self.condition.pace
        speeds = {max(pace, SLOWEST_PACE), max(pace, SLOWEST_WAVE), self.model.table.bump_speed, PLANES_FREELY}
        return dict(zip(speeds, self.model.curve(np.array(list(speeds))), strict=True))

    def at(self, speed: float) -> Running:
        """The board at a speed [m/s], nothing helping it."""
        return self._asked[speed] if not windy(self.brief) and speed in self._asked else self.model.running(speed)

    @cached_property
    def flight(self) -> float:
        """Speed in flight [m/s]: on the fast course sailed, on the bumps paddled. NaN where the foil does not carry all
        there.
        """
        if self.model.wing is None:
            return math.nan
        speed = self.run.speed if self.sailed is not None else 0.0 if windy(self.brief) else self.model.table.bump_speed
        return speed if speed >= self.run_up.lift_off else math.nan

    @cached_property
    def grounded(self) -> str:
        """Why the board does not fly in this condition, in words; nothing where it does."""
        if math.isfinite(self.flight):
            return ""
        if not windy(self.brief):
            return (
                f"bumps of {self.model.table.bump_speed / KNOT:.1f} kn do not carry it: the foil lifts off at "
                f"{self.run_up.lift_off / KNOT:.1f} kn"
            )
        if self.board.gear is None:
            return "nothing to drive it in the brief: add a sail, wing or kite"
        return f"does not fly in {self.condition.wind / KNOT:.1f} kn of wind{self.goes_from}"

    @cached_property
    def under_way(self) -> float:
        """Speed from which the board runs as it should [m/s]: lift-off on a foil, the planing threshold without;
        infinite without one.
        """
        if self.model.wing is not None:
            return self.run_up.lift_off
        return self.run_up.planes if math.isfinite(self.run_up.planes) else math.inf

    @cached_property
    def up(self) -> Course | None:
        """The course that makes most good to windward."""
        return None if self.polar is None else self.polar.best(upwind=True, running=self.under_way)

    @cached_property
    def down(self) -> Course | None:
        """The course that makes most good to leeward."""
        return None if self.polar is None else self.polar.best(upwind=False, running=self.under_way)

    @cached_property
    def planes_here(self) -> str:
        """Why the run of a board without a foil is no planing one, in words; nothing where it is."""
        words = "" if self.model.wing is not None else self.model.unplaned(self.run) or self.model.unheld(self.run)
        return words and words + self.goes_from

    @cached_property
    def goes_from(self) -> str:
        """The wind from which the gear in use gets the board going, in words; nothing where no wind drives it or this
        one does.
        """
        rigged = self.board.rigged
        if rigged is None:
            return ""
        least = self.board.least_winds[self.board.rigs.index(rigged)].wind
        if math.isnan(least):
            return ", nor in any below 40 kn"
        return f"; from {least / KNOT:.1f} kn of wind it does" if least > self.condition.wind else ""

    @cached_property
    def side(self) -> float:
        """Side force the rider holds with the rig leant over as far as it goes [N]."""
        rigged = self.board.rigged
        return 0.0 if rigged is None else rigged.held_side

    @property
    def fin_load(self) -> tuple[float, float]:
        """Speed [m/s] and side force [N] the fins are looked at with: the best upwind course in course racing, the fast
        course else. It is more than :attr:`side`, by the wind on the body.
        """
        if self.sailed is None:
            return self.run.speed, self.side or self.model.table.side_push * self.brief.rider.mass * GRAVITY
        if self.brief.discipline == "course racing" and self.up is not None:
            return self.up.speed, self.up.side
        return self.run.speed, float(abs(self.sailed.side))

    @cached_property
    def planing(self) -> Running:
        """The run of a board without a foil; on one, planing at its speed with all its weight on the bottom."""
        if self.model.wing is None and self.run.speed >= SLOWEST:
            return self.run
        return self.model.running(max(self.run.speed, SLOWEST), foil_share=0.0)


def _inputs(board: BoardCase, condition: Condition) -> tuple[tuple[str, str], ...]:
    brief, model = board.brief, board.model
    found = [("rider", f"{brief.rider.mass:.0f} kg"), ("board, foil, gear", f"{model.kit:.1f} kg")]
    if windy(brief):
        found.append(("wind", f"{condition.wind / KNOT:.1f} kn at {brief.wind.height:.0f} m, {brief.wind.kind}"))
        if board.gear is not None:
            found.append((board.gear.rig, f"{board.gear.name}, {board.gear.area:.1f} m² at {board.gear.height:.1f} m"))
    elif condition.pace > 0:
        found.append(("speed", f"{condition.pace / KNOT:.1f} kn"))
    if model.wing is not None:
        found.append(("foil", f"{brief.foil.name}, {brief.foil.area * 1e4:.0f} cm²"))
    found.append(("water", f"{brief.water.kind}, {brief.water.celsius:.0f} °C"))
    return tuple(found)
