"""What a phase of the ride is, and those that several disciplines share."""

from __future__ import annotations

from kelvor.core.base.figures import FigureDefinition
from kelvor.core.base.values import frozen
from kelvor.core.build.stiffness import stage as stiffness
from kelvor.core.measures import size, stance
from kelvor.core.ride import foiling as wing_foil
from kelvor.core.ride import speed_independent
from kelvor.core.ride.figures import (
    afloat,
    flying,
    on_the_plane,
    paddled,
    pumped,
    racing,
    turning,
    under_way,
)
from kelvor.core.tank.floating import stage as floating


@frozen
class Phase:
    """A phase of the ride.

    Attributes
    ----------
    heads, supports:
        The figure that heads it and those that support it; the first two stand on its tile.
    pictures:
        Keys of the pictures that explain it, the first one first.
    """

    key: str
    name: str
    question: str
    heads: FigureDefinition
    supports: tuple[FigureDefinition, ...]
    pictures: tuple[str, ...]

    @property
    def headline(self) -> str:
        """Key of the figure that heads it."""
        return self.heads.key

    @property
    def supporting(self) -> tuple[str, ...]:
        """Keys of those that support it."""
        return tuple(figure.key for figure in self.supports)

    @property
    def figures(self) -> tuple[str, ...]:
        """All keys of the phase."""
        return (self.headline, *self.supporting)


def phase(name: str, question: str, pictures: str, heads: FigureDefinition, *supports: FigureDefinition) -> Phase:
    """A phase by its name and question, the keys of its pictures, and its figures."""
    return Phase(name.lower().replace(" ", "_"), name, question, heads, supports, tuple(pictures.split()))


# fmt: off
FLOAT_FOIL = phase("Float", "How do you wait for the wind?", "float righting",
    floating.DECK_DEPTH, floating.KNEE_WINDOW, floating.ROLL_STIFFNESS, floating.RIDER_SHARE, floating.TRIM,
    afloat.ROLL_DAMPING_0)
FLY = phase("Fly", "How does it turn, lean and balance?", "fly",
    wing_foil.YAW_WITH_FOIL, wing_foil.TRACK_NEEDED, wing_foil.LEAN, wing_foil.MASS_TO_LIFT, wing_foil.FEET_TO_LIFT,
    wing_foil.FEET_FOR_BALANCE, wing_foil.TAIL_TOUCH, flying.STALL_MARGIN_FOIL, flying.FLY_DRAG, flying.APPARENT_WIND,
    flying.APPARENT_ANGLE, flying.BOARD_AIR_DRAG, wing_foil.ROLL_WITH_RIDER, wing_foil.PITCH_WITH_RIDER,
    flying.FOIL_CAVITATION)
TOUCH = phase("Touch down", "How does it meet the water?", "touch landing",
    wing_foil.NOSE_TOUCH, flying.TOUCH_DRAG, wing_foil.PATCH_V, flying.TOUCH_MOMENT, wing_foil.PATCH_WIDTH,
    wing_foil.NOSE_TOUCH_FLYING)
GOING = phase("Get going", "Does the push beat the drag?", "drag attitude",
    under_way.DRIVE_MARGIN, under_way.HUMP_DRAG, under_way.DECK_CLEARS_SPEED, under_way.NOSE_UNDER_MARGIN,
    under_way.HUMP_SPEED, under_way.HUMP_TRIM, under_way.LEAST_WIND, speed_independent.FLAT_AREA, size.KEEL_FLAT_RUN,
    under_way.TAIL_PUSH_ANGLE, on_the_plane.FEET_TO_PRESSURE)
LIFT = phase("Lift off", "Which wing lifts you off, in how much wind?", "drag attitude",
    under_way.LEAST_WIND_UP, flying.LIFT_OFF_SPEED, flying.PITCH_TO_SPARE, under_way.LEAST_WIND_PUMPED,
    pumped.PUMP_WATTS, pumped.PUMP_TIME, under_way.SPEED_TO_SPARE, flying.LIFT_OFF_PITCH, wing_foil.TAIL_CLEARANCE,
    wing_foil.FEET_FOR_BALANCE)
RESERVE = phase("Float", "Does it carry you at rest?", "float righting",
    speed_independent.RESERVE, afloat.LIST_ANGLE, floating.STANDING_DEPTH, floating.ROLL_STIFFNESS,
    afloat.RIGHTING_PEAK, floating.RAIL_WET, afloat.WATERPLANE, afloat.METACENTRE)
PLANE = phase("Plane", "Which sail planes it, in how much wind?", "drag attitude patch",
    under_way.LEAST_WIND, under_way.HUMP_DRAG, racing.FIN_MARGIN_PUSH, under_way.HUMP_TRIM, under_way.PLANING_SPEED,
    under_way.DRIVE_MARGIN, speed_independent.FLAT_AREA, size.WIDTH_1FT_TAIL, on_the_plane.FEET_TO_PRESSURE)
# fmt: on
SAIL_GYBE = (
    "rail engaged heeled",
    turning.RAIL_RADIUS_30,
    turning.RAIL_ENGAGED_30,
    stance.STAND_BACK,
    turning.RAIL_BREAK,
    turning.RAIL_RADIUS_45,
    turning.RAIL_ENGAGED_45,
    turning.RAIL_CROSSOVER,
    stance.TAIL_AREA,
    size.CALIPER_50,
)
# fmt: off
KITE_START = phase("Start", "How hard must the kite pull?", "drag attitude patch",
    under_way.PULL_TO_PLANE, under_way.HUMP_DRAG, under_way.PLANING_SPEED, under_way.HUMP_TRIM, under_way.LEAST_WIND,
    speed_independent.FLAT_AREA, size.PLANFORM_AREA)
KITE_TURN = phase("Turn", "Which radius does the rail draw?", "rail loose engaged heeled",
    turning.RAIL_RADIUS_30, turning.RAIL_ENGAGED_45, racing.FINS_ENGAGE, turning.RAIL_RADIUS_45,
    turning.RAIL_CROSSOVER, stance.TAIL_AREA, turning.TURN_MOMENT, stance.FIN_AREA)
LAND = phase("Land", "What meets the water?", "landing",
    turning.SLAM, turning.FLAT_UNDER_FEET, size.YAW_INERTIA, turning.V_UNDER_FEET, stance.DECK_FRONT,
    turning.FLEX_TRAVEL, size.PITCH_INERTIA, stance.STANCE)
BALANCE = phase("Balance", "How steady is it?", "righting float",
    afloat.RIGHTING_PEAK, afloat.SECOND_STABILITY, afloat.RIGHTING_BACK, afloat.RIGHTING_ANGLE, afloat.FOOTWELL_WATER,
    afloat.FOOT_WIDTH, floating.STANDING_DEPTH, floating.ROLL_STIFFNESS, floating.RAIL_WET, afloat.WATERPLANE,
    afloat.METACENTRE)
START = phase("Start", "How soon is it at the pace?", "paddle",
    paddled.START_TIME, paddled.PACE_WATTS, paddled.YAW_PER_STROKE, size.MASS, size.PLANFORM_AREA)
GLIDE = phase("Glide", "How fast at your watts?", "paddle wetted",
    paddled.PADDLE_SPEED, paddled.PACE_DRAG, paddled.GLIDE_LOSS, size.LENGTH_OVER_WIDTH, speed_independent.RESERVE,
    size.KEEL_FLAT_RUN, on_the_plane.RUNNING_BEAM, paddled.FROUDE, afloat.LATERAL_AREA)
BUMPS = phase("Bumps", "Which bump planes it?", "slope attitude",
    paddled.BUMP_SLOPE, paddled.NOSE_RECOVERY, paddled.YAW_HOLD, under_way.NOSE_UNDER_MARGIN, size.NOSE_ROCKER,
    size.VOLUME_CENTRE_X)
# fmt: on
TIP = (stiffness.SAG, stiffness.TWIST, size.NOSE_ROCKER, size.MID_FLAT_RUN, size.MASS)
