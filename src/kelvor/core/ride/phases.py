"""The phases of every discipline: the figure that heads each, those that support it, and the pictures that explain it."""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.disciplines import Discipline
from kelvor.core.figures import FigureDefinition
from kelvor.core.floating import stage as floating
from kelvor.core.measure import size, stance
from kelvor.core.ride import surface, wing_foil
from kelvor.core.ride.telling import afloat, flying, paddled, racing, turning, under_way
from kelvor.core.stiffness import stage as stiffness


@dataclass(frozen=True, slots=True)
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


def _p(name: str, question: str, pictures: str, heads: FigureDefinition, *supports: FigureDefinition) -> Phase:
    return Phase(name.lower().replace(" ", "_"), name, question, heads, supports, tuple(pictures.split()))


_FLOAT_FOIL = _p(
    "Float",
    "How do you wait for the wind?",
    "float righting",
    floating.DECK_DEPTH,
    floating.KNEE_WINDOW,
    floating.ROLL_HELD,
    floating.RIDER_SHARE,
    floating.TRIM,
    afloat.ROLL_DAMPING_0,
)
_FLY = _p(
    "Fly",
    "How does it turn, lean and balance?",
    "fly",
    wing_foil.YAW_WITH_FOIL,
    flying.TRACK_NEEDED,
    wing_foil.LEAN,
    wing_foil.MASS_TO_LIFT,
    wing_foil.FEET_TO_LIFT,
    wing_foil.FEET_FOR_BALANCE,
    wing_foil.TAIL_TOUCH,
    flying.STALL_MARGIN_FOIL,
    flying.FLY_DRAG,
    flying.FOIL_CAVITATION,
)
_TOUCH = _p(
    "Touch down",
    "How does it meet the water?",
    "touch landing",
    wing_foil.NOSE_TOUCH,
    flying.TOUCH_DRAG,
    wing_foil.PATCH_V,
    flying.TOUCH_MOMENT,
    wing_foil.PATCH_WIDTH,
    wing_foil.NOSE_TOUCH_FLYING,
)
_GOING = _p(
    "Get going",
    "Does the push beat the drag?",
    "drag attitude",
    under_way.DRIVE_MARGIN,
    under_way.HUMP_DRAG,
    under_way.DECK_CLEARS_SPEED,
    under_way.NOSE_UNDER_MARGIN,
    under_way.HUMP_SPEED,
    under_way.HUMP_TRIM,
    under_way.LEAST_WIND,
    surface.FLAT_AREA,
    size.KEEL_FLAT_RUN,
    under_way.TAIL_PUSH_ANGLE,
    under_way.FEET_TO_PRESSURE,
)
_LIFT = _p(
    "Lift off",
    "Which wing lifts you off, in how much wind?",
    "drag attitude",
    under_way.LEAST_WIND_UP,
    flying.LIFT_OFF_SPEED,
    flying.PITCH_TO_SPARE,
    under_way.SPEED_TO_SPARE,
    flying.LIFT_OFF_PITCH,
    wing_foil.TAIL_CLEARANCE,
    wing_foil.FEET_FOR_BALANCE,
)
_RESERVE = _p(
    "Float",
    "Does it carry you at rest?",
    "float righting",
    surface.RESERVE,
    afloat.LIST_ANGLE,
    floating.STANDING_DEPTH,
    floating.ROLL_STIFFNESS,
    afloat.RIGHTING_PEAK,
)
_PLANE = _p(
    "Plane",
    "Which sail planes it, in how much wind?",
    "drag attitude patch",
    under_way.LEAST_WIND,
    under_way.HUMP_DRAG,
    racing.FIN_MARGIN_PUSH,
    under_way.HUMP_TRIM,
    under_way.PLANING_SPEED,
    under_way.DRIVE_MARGIN,
    surface.FLAT_AREA,
    size.WIDTH_1FT_TAIL,
    under_way.FEET_TO_PRESSURE,
)
_SAIL_GYBE = (
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
_KITE_START = _p(
    "Start",
    "How hard must the kite pull?",
    "drag attitude patch",
    under_way.PULL_TO_PLANE,
    under_way.HUMP_DRAG,
    under_way.PLANING_SPEED,
    under_way.HUMP_TRIM,
    under_way.LEAST_WIND,
    surface.FLAT_AREA,
    size.PLANFORM_AREA,
)
_KITE_TURN = _p(
    "Turn",
    "Which radius does the rail draw?",
    "rail engaged heeled",
    turning.RAIL_RADIUS_30,
    turning.RAIL_ENGAGED_45,
    racing.FINS_ENGAGE,
    turning.RAIL_RADIUS_45,
    turning.RAIL_CROSSOVER,
    stance.TAIL_AREA,
    turning.YAW_RESISTANCE,
    stance.FIN_AREA,
)
_LAND = _p(
    "Land",
    "What meets the water?",
    "landing",
    turning.SLAM,
    turning.FLAT_UNDER_FEET,
    size.YAW_INERTIA,
    turning.V_UNDER_FEET,
    stance.DECK_FRONT,
    turning.FLEX_TRAVEL,
    size.PITCH_INERTIA,
    stance.STANCE,
)
_BALANCE = _p(
    "Balance",
    "How steady is it?",
    "righting float",
    afloat.RIGHTING_PEAK,
    afloat.SECOND_STABILITY,
    afloat.RIGHTING_BACK,
    afloat.RIGHTING_ANGLE,
    afloat.FOOTWELL_WATER,
    afloat.FOOT_WIDTH,
    floating.STANDING_DEPTH,
    floating.ROLL_STIFFNESS,
)
_START = _p(
    "Start",
    "How soon is it at the pace?",
    "paddle",
    paddled.START_TIME,
    paddled.PACE_WATTS,
    paddled.YAW_PER_STROKE,
    size.MASS,
    size.PLANFORM_AREA,
)
_GLIDE = _p(
    "Glide",
    "How fast at your watts?",
    "paddle wetted",
    paddled.PADDLE_SPEED,
    paddled.PACE_DRAG,
    paddled.GLIDE_LOSS,
    size.LENGTH_OVER_WIDTH,
    surface.RESERVE,
    size.KEEL_FLAT_RUN,
    afloat.LATERAL_AREA,
)
_BUMPS = _p(
    "Bumps",
    "Which bump planes it?",
    "slope attitude",
    paddled.BUMP_SLOPE,
    paddled.NOSE_RECOVERY,
    paddled.YAW_HOLD,
    under_way.NOSE_UNDER_MARGIN,
    size.NOSE_ROCKER,
    size.VOLUME_CENTRE_X,
)
_TIP = (stiffness.SAG, stiffness.TWIST, size.NOSE_ROCKER, size.MID_FLAT_RUN, size.MASS)

PHASES: dict[Discipline, tuple[Phase, ...]] = {
    "wing foil": (_FLOAT_FOIL, _GOING, _LIFT, _FLY, _TOUCH),
    "kite foil": (
        _p("Float", "Does it carry you at rest?", "float righting", surface.RESERVE, floating.DECK_DEPTH, floating.ROLL_HELD),
        _p(
            "Start",
            "How hard must the kite pull?",
            "drag attitude",
            under_way.PULL_TO_PLANE,
            under_way.LEAST_WIND_UP,
            flying.LIFT_OFF_SPEED,
            under_way.HUMP_DRAG,
            under_way.NOSE_UNDER_MARGIN,
            flying.PITCH_TO_SPARE,
            wing_foil.TAIL_CLEARANCE,
            surface.FLAT_AREA,
        ),
        _FLY,
        _TOUCH,
    ),
    "downwind foil": (
        _p(
            "Balance",
            "How steady is it at rest?",
            "righting float",
            afloat.RIGHTING_PEAK,
            afloat.ROLL_DAMPING_15,
            afloat.FREEBOARD,
            afloat.RIGHTING_ANGLE,
            afloat.ROLL_DAMPING_0,
            afloat.ROLL_DAMPING_30,
            floating.KNEE_WINDOW,
            floating.DECK_DEPTH,
        ),
        _p(
            "Paddle up",
            "How many watts on the way?",
            "paddle drag",
            paddled.PADDLE_WATTS_4,
            paddled.DRAG_FOIL_60,
            paddled.YAW_HOLD,
            paddled.PADDLE_WATTS_2,
            paddled.PADDLE_WATTS_3,
            paddled.PADDLE_WATTS_5,
            paddled.DRAG_FOIL_30,
            paddled.DRAG_FOIL_90,
            size.KEEL_FLAT_RUN,
            size.WIDTH,
        ),
        _p(
            "Lift off",
            "Which bump lifts you off?",
            "drag attitude",
            paddled.BUMP_SLOPE,
            paddled.PEAK_WATTS,
            flying.PITCH_TO_SPARE,
            flying.LIFT_OFF_SPEED,
            flying.LIFT_OFF_PITCH,
            under_way.HUMP_DRAG,
            wing_foil.TAIL_CLEARANCE,
        ),
        _FLY,
        _TOUCH,
    ),
    "wind foil": (
        _RESERVE,
        _p(
            "Get going",
            "Which wind gets you going?",
            "drag attitude",
            under_way.LEAST_WIND,
            under_way.HUMP_DRAG,
            under_way.TAIL_PUSH_ANGLE,
            under_way.DRIVE_MARGIN,
            under_way.PLANING_SPEED,
            under_way.NOSE_UNDER_MARGIN,
            surface.FLAT_AREA,
            size.KEEL_FLAT_RUN,
        ),
        _p(
            "Lift off",
            "Which sail lifts you off, in how much wind?",
            "drag attitude",
            under_way.LEAST_WIND_UP,
            flying.LIFT_OFF_SPEED,
            racing.SAIL_FORCE,
            flying.PITCH_TO_SPARE,
            under_way.SPEED_TO_SPARE,
            flying.LIFT_OFF_PITCH,
            wing_foil.TAIL_CLEARANCE,
            wing_foil.FEET_FOR_BALANCE,
        ),
        _p(
            "Run",
            "How much sail do the straps hold?",
            "polar fly",
            racing.SAIL_FORCE,
            racing.RUN_SPEED,
            flying.BOARD_AIR_DRAG,
            racing.UPWIND_VMG,
            racing.DOWNWIND_VMG,
            size.NOSE_ROCKER,
            stance.STAND_BACK,
            wing_foil.YAW_WITH_FOIL,
        ),
        _p(
            "Gybe",
            "Does the nose stay out?",
            "touch landing",
            wing_foil.NOSE_TOUCH,
            stance.STAND_FRONT,
            wing_foil.PATCH_V,
            flying.TOUCH_DRAG,
        ),
    ),
    "slalom": (
        _RESERVE,
        _PLANE,
        _p(
            "Accelerate",
            "How much force is to spare?",
            "spare finmap patch",
            racing.NET_FORCE,
            under_way.WETTED_BEHIND_FOOT,
            racing.FIN_MARGIN,
            under_way.PLANING_AREA,
            stance.FIN_AREA,
            size.TAIL_ROCKER,
            stance.TAIL_AREA,
        ),
        _p(
            "Run",
            "How fast, on how much bottom?",
            "patch fins polar",
            racing.RUN_SPEED,
            under_way.PLANING_AREA,
            racing.FIN_MARGIN,
            under_way.STRAP_TRIM,
            racing.FIN_UP,
            racing.FIN_BEST,
            racing.LEEWAY,
            turning.CHOP_LOAD,
            racing.FIN_CAVITATION,
            size.RAIL_FLAT_RUN,
            stance.BOX_ANGLE,
            stance.DECK_FRONT,
        ),
        _p("Gybe", "Which radius does the rail draw?", *_SAIL_GYBE),
    ),
    "course racing": (
        _RESERVE,
        _PLANE,
        _p(
            "Upwind",
            "What is made good to windward?",
            "polar finmap fins",
            racing.UPWIND_VMG,
            racing.UPWIND_ANGLE,
            racing.FIN_MARGIN,
            racing.LEEWAY,
            racing.SIDE_FORCE,
            racing.FIN_LOAD,
            racing.FIN_BEST,
            stance.STAND_BACK,
        ),
        _p(
            "Downwind",
            "What is made good to leeward?",
            "polar patch",
            racing.DOWNWIND_VMG,
            racing.DOWNWIND_ANGLE,
            under_way.NOSE_MARGIN,
            under_way.PLANING_AREA,
            size.NOSE_ROCKER,
            size.NOSE_ROCKER_RAIL,
            size.VOLUME_CENTRE_X,
        ),
        _p("Gybe", "Which radius does the rail draw?", *_SAIL_GYBE),
    ),
    "wave windsurf": (
        _p(
            "Get out",
            "Does it carry you out, in how much wind?",
            "drag attitude float",
            under_way.LEAST_WIND,
            surface.RESERVE,
            under_way.NOSE_CLEARANCE,
            under_way.HUMP_DRAG,
            under_way.PLANING_SPEED,
            size.NOSE_ROCKER,
            size.KEEL_FLAT_RUN,
        ),
        _p(
            "Bottom turn",
            "Which radius does the rail draw?",
            "rail engaged heeled",
            turning.RAIL_RADIUS_45,
            turning.RAIL_ENGAGED_45,
            racing.FIN_MARGIN,
            turning.RAIL_RADIUS_30,
            turning.RAIL_CROSSOVER,
            size.RAIL_FLAT_RUN,
            size.CALIPER_25,
        ),
        _p(
            "Top turn",
            "What turns about the back foot?",
            "engaged finmap",
            turning.YAW_RESISTANCE,
            stance.TAIL_AREA,
            racing.FIN_RELEASE_ANGLE,
            size.YAW_INERTIA,
            turning.PIVOT_PLACE,
            stance.FIN_AREA,
        ),
        _LAND,
    ),
    "kite surf": (
        _KITE_START,
        _p(
            "Edge",
            "How high does it point?",
            "polar rail heeled",
            racing.UPWIND_ANGLE,
            turning.RAIL_ENGAGED_30,
            racing.FIN_LOAD,
            racing.UPWIND_VMG,
            racing.SIDE_FORCE,
            size.OUTLINE_STRAIGHT,
            size.CALIPER_25,
        ),
        _KITE_TURN,
        _LAND,
    ),
    "twin tip": (
        _KITE_START,
        _p(
            "Edge",
            "How much edge, how high?",
            "rail heeled polar",
            turning.RAIL_ENGAGED_45,
            racing.SIDE_FORCE,
            racing.UPWIND_ANGLE,
            size.OUTLINE_STRAIGHT,
            size.RAIL_FLAT_RUN,
            stance.FIN_AREA,
        ),
        _p("Pop", "How do the tips kick?", "pop", turning.TIP_ANGLE, *_TIP),
        _LAND,
    ),
    "paddle surf": (
        _p(
            "Paddle in",
            "How many watts to the wave?",
            "paddle float righting",
            paddled.PADDLE_WATTS_4,
            afloat.RIGHTING_PEAK,
            under_way.NOSE_UNDER_MARGIN,
            paddled.PADDLE_WATTS_3,
            surface.RESERVE,
            size.NOSE_ROCKER,
        ),
        _p(
            "Trim",
            "How easily does it plane?",
            "slope patch wetted",
            under_way.PLANING_DRAG,
            under_way.PLANING_AREA,
            under_way.NOSE_MARGIN,
            paddled.WAKE_SLOPE,
            size.KEEL_FLAT_RUN,
            surface.FLAT_AREA,
            size.WIDTH_1FT_NOSE,
        ),
        _p(
            "Turn",
            "Which radius does the rail draw?",
            "rail engaged heeled",
            turning.RAIL_RADIUS_30,
            turning.BURY_FORCE,
            turning.RAIL_ENGAGED_30,
            turning.RAIL_RADIUS_45,
            turning.RAIL_ENGAGED_45,
            turning.RAIL_CROSSOVER,
            size.CALIPER_50,
        ),
        _p(
            "Hook",
            "What pivots?",
            "engaged pivot",
            turning.YAW_RESISTANCE,
            turning.PIVOT_PLACE,
            stance.TAIL_AREA,
            racing.FINS_ENGAGE,
            stance.FIN_AREA,
            size.WIDTH_1FT_TAIL,
        ),
    ),
    "paddle race": (
        _BALANCE,
        _START,
        _GLIDE,
        _BUMPS,
        _p(
            "Pivot",
            "What sinks and swings?",
            "pivot",
            afloat.TAIL_SINK,
            afloat.WATERLINE_LEFT,
            size.YAW_INERTIA,
            afloat.LATERAL_AREA,
            stance.TAIL_AREA,
            stance.FIN_AREA,
        ),
    ),
    "prone race": (
        _p(
            "Balance",
            "How steady is it?",
            "righting float",
            afloat.RIGHTING_PEAK,
            afloat.ARM_REACH,
            afloat.SECOND_STABILITY,
            afloat.RIGHTING_ANGLE,
            afloat.FREEBOARD,
            size.WIDTH,
        ),
        _START,
        _GLIDE,
        _BUMPS,
        _p(
            "Pivot",
            "What swings?",
            "pivot",
            size.YAW_INERTIA,
            afloat.LATERAL_AREA,
            paddled.YAW_HOLD,
            size.TAIL_ROCKER,
            size.WIDTH_1FT_TAIL,
        ),
    ),
    "wakeboard": (
        _p(
            "Edge",
            "What holds on the rail?",
            "rail heeled tow",
            turning.RAIL_FLAT_30,
            turning.STRAIGHT_BEYOND_BOOT,
            paddled.TOW_DRAG,
            turning.RAIL_ENGAGED_30,
            turning.EDGE_RADIUS_FEET,
            stance.FIN_AREA,
        ),
        _p("Pop", "How do the tips kick?", "pop", turning.TIP_ANGLE, *_TIP),
        _LAND,
        _p(
            "Slide",
            "What lets go?",
            "fins",
            racing.SLIDE_ANGLE,
            turning.EDGE_RADIUS_FEET,
            size.YAW_INERTIA,
            turning.FIN_DEPTH,
            size.WIDTH_1FT_TAIL,
        ),
    ),
    "wake surf": (
        _p(
            "Push",
            "How steep a wake does it need?",
            "slope patch wetted",
            paddled.WAKE_SLOPE,
            under_way.PLANING_AREA,
            paddled.TOW_DRAG,
            under_way.PLANING_TRIM,
            under_way.STRAP_TRIM,
            size.KEEL_FLAT_RUN,
            size.PLANFORM_AREA,
        ),
        _p(
            "Turn",
            "Which radius does the rail draw?",
            "rail engaged heeled",
            turning.RAIL_RADIUS_30,
            turning.RAIL_ENGAGED_30,
            racing.FIN_LOAD,
            turning.RAIL_RADIUS_45,
            turning.RAIL_CROSSOVER,
            turning.EDGE_RADIUS_FEET,
            size.OUTLINE_STRAIGHT,
        ),
        _p(
            "Release",
            "What lets go behind?",
            "fins",
            racing.SLIDE_ANGLE,
            turning.FRONT_FIN_AREA,
            stance.TAIL_AREA,
            stance.FIN_AREA,
            size.WIDTH_1FT_TAIL,
        ),
    ),
}
