"""The phases of every discipline: the figure that heads each, those that support it, and the pictures that explain it."""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.disciplines import Discipline


@dataclass(frozen=True, slots=True)
class Phase:
    """A phase of the ride.

    Attributes
    ----------
    headline, supporting:
        Keys of the figure that heads it and of those that support it; the first two stand on its tile.
    pictures:
        Keys of the pictures that explain it, the first one first.
    """

    key: str
    name: str
    question: str
    headline: str
    supporting: tuple[str, ...]
    pictures: tuple[str, ...]

    @property
    def figures(self) -> tuple[str, ...]:
        """All keys of the phase."""
        return (self.headline, *self.supporting)


def _p(name: str, question: str, pictures: str, headline: str, *supporting: str) -> Phase:
    return Phase(name.lower().replace(" ", "_"), name, question, headline, supporting, tuple(pictures.split()))


# fmt: off
_FLOAT_FOIL = _p("Float", "How do you wait for the wind?", "float righting", "float_deck_depth", "float_knee_window",
    "float_roll_held", "float_rider_immersed", "float_trim", "roll_damping_0")
_FLY = _p("Fly", "How does it turn, lean and balance?", "fly", "yaw_inertia_with_foil", "track_needed", "lean_before_touch",
    "mass_to_lift", "feet_to_lift", "feet_for_balance", "tail_touch_pitch", "stall_margin_foil", "fly_drag",
    "foil_cavitation")
_TOUCH = _p("Touch down", "How does it meet the water?", "touch landing", "nose_touch_pitch", "touch_drag", "touch_patch_v",
    "touch_moment", "touch_patch_width", "nose_touch_pitch_flying")
_GOING = _p("Get going", "Does the push beat the drag?", "drag attitude", "drive_margin", "hump_drag", "deck_clears_speed",
    "nose_under_margin", "hump_speed", "hump_trim", "least_wind", "flat_bottom_area", "keel_flat_run", "tail_push_angle",
    "feet_to_pressure")
_LIFT = _p("Lift off", "Which wing lifts you off, in how much wind?", "drag attitude", "least_wind_up", "lift_off_speed",
    "pitch_to_spare", "speed_to_spare", "lift_off_pitch", "tail_clearance", "feet_for_balance")
_RESERVE = _p("Float", "Does it carry you at rest?", "float righting", "reserve_volume", "list_angle",
    "float_standing_deck_depth", "float_roll_stiffness", "righting_peak")
_PLANE = _p("Plane", "Which sail planes it, in how much wind?", "drag attitude patch", "least_wind", "hump_drag",
    "fin_margin_push", "hump_trim", "planing_speed", "drive_margin", "flat_bottom_area", "width_1ft_tail",
    "feet_to_pressure")
_SAIL_GYBE = ("rail engaged heeled", "rail_radius_30", "rail_engaged_30", "standing_width_back", "rail_break", "rail_radius_45",
    "rail_engaged_45", "rail_crossover", "tail_area_behind_foot", "caliper_50")
_KITE_START = _p("Start", "How hard must the kite pull?", "drag attitude patch", "pull_to_plane", "hump_drag",
    "planing_speed", "hump_trim", "least_wind", "flat_bottom_area", "planform_area")
_KITE_TURN = _p("Turn", "Which radius does the rail draw?", "rail engaged heeled", "rail_radius_30", "rail_engaged_45",
    "fins_engage", "rail_radius_45", "rail_crossover", "tail_area_behind_foot", "yaw_resistance", "fin_area")
_LAND = _p("Land", "What meets the water?", "landing", "slam", "flat_under_feet", "yaw_inertia", "v_under_feet",
    "deck_angle_front", "flex_travel", "pitch_inertia", "stance")
_BALANCE = _p("Balance", "How steady is it?", "righting float", "righting_peak", "second_stability", "righting_back",
    "righting_angle", "footwell_water", "foot_width", "float_standing_deck_depth", "float_roll_stiffness")
_START = _p("Start", "How soon is it at the pace?", "paddle", "start_time", "pace_watts", "yaw_per_stroke", "mass",
    "planform_area" )
_GLIDE = _p("Glide", "How fast at your watts?", "paddle wetted", "paddle_speed", "pace_drag", "glide_loss", "length_over_width",
    "reserve_volume", "keel_flat_run", "lateral_area")
_BUMPS = _p("Bumps", "Which bump planes it?", "slope attitude", "bump_slope", "nose_recovery", "yaw_hold",
    "nose_under_margin", "nose_rocker", "volume_centre_x")
_TIP = ("bend_sag", "twist_per_moment", "nose_rocker", "mid_flat_run", "mass")
# fmt: on

PHASES: dict[Discipline, tuple[Phase, ...]] = {
    "wing foil": (_FLOAT_FOIL, _GOING, _LIFT, _FLY, _TOUCH),
    "kite foil": (_p("Float", "Does it carry you at rest?", "float righting", "reserve_volume", "float_deck_depth", "float_roll_held"),
                  _p("Start", "How hard must the kite pull?", "drag attitude", "pull_to_plane", "least_wind_up", "lift_off_speed", "hump_drag",
                     "nose_under_margin", "pitch_to_spare", "tail_clearance", "flat_bottom_area"), _FLY, _TOUCH),
    "downwind foil": (_p("Balance", "How steady is it at rest?", "righting float", "righting_peak", "roll_damping_15", "freeboard", "righting_angle",
                         "roll_damping_0", "roll_damping_30", "float_knee_window", "float_deck_depth"),
                      _p("Paddle up", "How many watts on the way?", "paddle drag", "paddle_watts_4", "drag_foil_60", "yaw_hold", "paddle_watts_2",
                         "paddle_watts_3", "paddle_watts_5", "drag_foil_30", "drag_foil_90", "keel_flat_run", "width"),
                      _p("Lift off", "Which bump lifts you off?", "drag attitude", "bump_slope", "peak_watts", "pitch_to_spare", "lift_off_speed",
                         "lift_off_pitch", "hump_drag", "tail_clearance"), _FLY, _TOUCH),
    "wind foil": (_RESERVE, _p("Get going", "Which wind gets you going?", "drag attitude", "least_wind", "hump_drag", "tail_push_angle", "drive_margin",
                               "planing_speed", "nose_under_margin", "flat_bottom_area", "keel_flat_run"),
                  _p("Lift off", "Which sail lifts you off, in how much wind?", "drag attitude", "least_wind_up", "lift_off_speed", "sail_force",
                     "pitch_to_spare", "speed_to_spare", "lift_off_pitch", "tail_clearance", "feet_for_balance"),
                  _p("Run", "How much sail do the straps hold?", "polar fly", "sail_force", "run_speed", "board_air_drag", "upwind_vmg", "downwind_vmg",
                     "nose_rocker", "standing_width_back", "yaw_inertia_with_foil"),
                  _p("Gybe", "Does the nose stay out?", "touch landing", "nose_touch_pitch", "standing_width_front", "touch_patch_v", "touch_drag")),
    "slalom": (_RESERVE, _PLANE,
               _p("Accelerate", "How much force is to spare?", "spare finmap patch", "net_force", "wetted_behind_foot",
                   "fin_margin", "planing_area", "fin_area",
                  "tail_rocker", "tail_area_behind_foot"),
               _p("Run", "How fast, on how much bottom?", "patch fins polar", "run_speed", "planing_area", "fin_margin",
                   "strap_trim", "fin_up", "fin_best", "leeway",
                  "chop_load", "fin_cavitation", "rail_flat_run", "box_angle", "deck_angle_front"),
               _p("Gybe", "Which radius does the rail draw?", *_SAIL_GYBE)),
    "course racing": (_RESERVE, _PLANE,
                      _p("Upwind", "What is made good to windward?", "polar finmap fins", "upwind_vmg", "upwind_angle",
                          "fin_margin", "leeway", "side_force", "fin_load",
                         "fin_best", "standing_width_back"),
                      _p("Downwind", "What is made good to leeward?", "polar patch", "downwind_vmg", "downwind_angle", "nose_margin", "planing_area",
                         "nose_rocker", "nose_rocker_rail", "volume_centre_x"),
                      _p("Gybe", "Which radius does the rail draw?", *_SAIL_GYBE)),
    "wave windsurf": (_p("Get out", "Does it carry you out, in how much wind?", "drag attitude float", "least_wind", "reserve_volume", "nose_clearance",
                         "hump_drag", "planing_speed", "nose_rocker", "keel_flat_run"),
                      _p("Bottom turn", "Which radius does the rail draw?", "rail engaged heeled", "rail_radius_45", "rail_engaged_45", "fin_margin",
                         "rail_radius_30", "rail_crossover", "rail_flat_run", "caliper_25"),
                      _p("Top turn", "What turns about the back foot?", "engaged finmap", "yaw_resistance",
                          "tail_area_behind_foot", "fin_release_angle",
                         "yaw_inertia", "pivot_place", "fin_area"), _LAND),
    "kite surf": (_KITE_START,
                  _p("Edge", "How high does it point?", "polar rail heeled", "upwind_angle", "rail_engaged_30", "fin_load", "upwind_vmg", "side_force",
                     "outline_straight_run", "rail_depth", "caliper_25"), _KITE_TURN, _LAND),
    "twin tip": (_KITE_START,
                 _p("Edge", "How much edge, how high?", "rail heeled polar", "rail_engaged_45", "side_force", "upwind_angle", "outline_straight_run",
                    "rail_flat_run", "fin_area"),
                 _p("Pop", "How do the tips kick?", "pop", "tip_angle", *_TIP), _LAND),
    "paddle surf": (_p("Paddle in", "How many watts to the wave?", "paddle float righting", "paddle_watts_4", "righting_peak", "nose_under_margin",
                       "paddle_watts_3", "reserve_volume", "nose_rocker"),
                    _p("Trim", "How easily does it plane?", "slope patch wetted", "planing_drag", "planing_area",
                        "nose_margin", "wake_slope", "keel_flat_run",
                       "flat_bottom_area", "width_1ft_nose"),
                    _p("Turn", "Which radius does the rail draw?", "rail engaged heeled", "rail_radius_30", "bury_force",
                        "rail_engaged_30", "rail_radius_45",
                       "rail_engaged_45", "rail_crossover", "caliper_50"),
                    _p("Hook", "What pivots?", "engaged pivot", "yaw_resistance", "pivot_place", "tail_area_behind_foot", "fins_engage", "fin_area",
                       "width_1ft_tail")),
    "paddle race": (_BALANCE, _START, _GLIDE, _BUMPS,
                    _p("Pivot", "What sinks and swings?", "pivot", "tail_sink", "waterline_left", "yaw_inertia",
                        "lateral_area", "tail_area_behind_foot",
                       "fin_area")),
    "prone race": (_p("Balance", "How steady is it?", "righting float", "righting_peak", "arm_reach", "second_stability", "righting_angle", "freeboard",
                      "width"), _START, _GLIDE, _BUMPS,
                   _p("Pivot", "What swings?", "pivot", "yaw_inertia", "lateral_area", "yaw_hold", "tail_rocker", "width_1ft_tail")),
    "wakeboard": (_p("Edge", "What holds on the rail?", "rail heeled tow", "rail_flat_30", "straight_beyond_boot",
    "tow_drag", "rail_engaged_30", "side_force",
                     "fin_area"),
                  _p("Pop", "How do the tips kick?", "pop", "tip_angle", *_TIP), _LAND,
                  _p("Slide", "What lets go?", "fins", "slide_angle", "edge_radius_feet", "yaw_inertia", "fin_depth", "width_1ft_tail")),
    "wake surf": (_p("Push", "How steep a wake does it need?", "slope patch wetted", "wake_slope", "planing_area",
    "tow_drag", "planing_trim", "strap_trim", "keel_flat_run",
                     "planform_area"),
                  _p("Turn", "Which radius does the rail draw?", "rail engaged heeled", "rail_radius_30",
                      "rail_engaged_30", "fin_load", "rail_radius_45",
                     "rail_crossover", "edge_radius_feet", "outline_straight_run"),
                  _p("Release", "What lets go behind?", "fins", "slide_angle", "front_fin_area", "tail_area_behind_foot",
                      "fin_area", "width_1ft_tail")),
}  # fmt: skip
