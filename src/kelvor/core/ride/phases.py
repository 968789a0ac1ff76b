"""The phases of every discipline: the figure that heads each, and the ones that support it.

Only figures that are computed stand here. What needs speed through the water
is not computed yet; a phase shows what shape, mass and float say of it.
"""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.disciplines import Discipline


@dataclass(frozen=True, slots=True)
class Phase:
    """A phase of the ride: the figure that heads it, the ones that support it, and all that belong to it."""

    key: str
    name: str
    question: str
    headline: str
    supporting: tuple[str, ...]

    @property
    def figures(self) -> tuple[str, ...]:
        """All keys of the phase."""
        return (self.headline, *self.supporting)


def _p(name: str, question: str, headline: str, *supporting: str) -> Phase:
    return Phase(name.lower().replace(" ", "_"), name, question, headline, supporting)


_FLOAT_FOIL = _p("Float", "How do you wait for the wind?", "float_deck_depth", "float_knee_window", "float_roll_held")
_FOILING = (
    _p("Get going", "What does the bottom offer?", "flat_bottom_area", "keel_flat_run", "float_rider_immersed"),
    _p("Lift off", "How far can you pitch it?", "tail_clearance", "tail_touch_pitch", "feet_for_balance"),
    _p("Fly", "How does it turn and lean?", "yaw_inertia_with_foil", "mass_to_lift", "lean_before_touch"),
    _p("Touch down", "How does it meet the water?", "nose_touch_pitch", "touch_patch_v", "touch_patch_width"),
)
_RESERVE = _p("Float", "Does it carry you at rest?", "reserve_volume", "float_standing_deck_depth", "float_roll_stiffness")
_STAND = _p("Balance", "How steady is it?", "float_roll_stiffness", "float_standing_deck_depth", "standing_width_front")
_PLANE = _p("Plane", "What flat and width carry it?", "flat_bottom_area", "keel_flat_run", "width_1ft_tail")

PHASES: dict[Discipline, tuple[Phase, ...]] = {
    "wing foil": (_FLOAT_FOIL, *_FOILING),
    "kite foil": (_p("Float", "Does it carry you at rest?", "reserve_volume", "float_deck_depth"),
                  _p("Start", "What does the bottom offer?", "flat_bottom_area", "keel_flat_run", "tail_clearance"), *_FOILING[2:]),
    "downwind foil": (_p("Balance", "How steady is it at rest?", "float_roll_stiffness", "float_deck_depth", "float_knee_window"),
                      _p("Paddle up", "What does the hull offer?", "keel_flat_run", "reserve_volume", "width"), *_FOILING[1:]),
    "wind foil": (_RESERVE, *_FOILING[:2], _p("Run", "What lever have the straps?", "standing_width_back", "yaw_inertia_with_foil", "nose_rocker"),
                  _p("Gybe", "Does the nose stay out?", "nose_touch_pitch", "standing_width_front", "touch_patch_v")),
    "slalom": (_RESERVE, _PLANE,
               _p("Accelerate", "What is wet under the back foot?", "tail_area_behind_foot", "tail_rocker", "fin_area"),
               _p("Run", "How flat and level does it run?", "rail_flat_run", "box_angle", "deck_angle_front"),
               _p("Gybe", "What does the rail do?", "outline_straight_run", "standing_width_back", "caliper_50")),
    "course racing": (_RESERVE, _PLANE, _p("Upwind", "What lever has the fin?", "width_1ft_tail", "fin_area", "standing_width_back"),
                      _p("Downwind", "Does the nose stay out?", "nose_rocker", "nose_rocker_rail", "volume_centre_x"),
                      _p("Gybe", "What does the rail do?", "outline_straight_run", "tail_area_behind_foot", "caliper_50")),
    "wave windsurf": (_p("Get out", "Does it carry you, does the nose clear?", "reserve_volume", "nose_rocker", "keel_flat_run"),
                      _p("Bottom turn", "How does the rail curve?", "rail_flat_run", "outline_straight_run", "caliper_25"),
                      _p("Top turn", "What turns about the back foot?", "tail_area_behind_foot", "yaw_inertia", "fin_area"),
                      _p("Land", "What meets the water?", "deck_angle_front", "standing_width_front", "pitch_inertia")),
    "kite surf": (_p("Start", "What flat and width carry it?", "flat_bottom_area", "keel_flat_run", "planform_area"),
                  _p("Edge", "How long is the edge?", "outline_straight_run", "rail_flat_run", "caliper_25"),
                  _p("Turn", "What lies behind the foot?", "tail_area_behind_foot", "fin_area", "tail_rocker"),
                  _p("Land", "What meets the water?", "keel_flat_run", "yaw_inertia", "deck_angle_front")),
    "twin tip": (_p("Start", "What flat and width carry it?", "flat_bottom_area", "keel_flat_run", "planform_area"),
                 _p("Edge", "How long is the edge?", "outline_straight_run", "rail_flat_run", "fin_area"),
                 _p("Pop", "How do the tips rise?", "nose_rocker", "mid_flat_run", "mass"),
                 _p("Land", "What is under the feet?", "deck_angle_front", "stance", "yaw_inertia")),
    "paddle surf": (_p("Paddle in", "Does it stand and glide?", "reserve_volume", "float_roll_stiffness", "nose_rocker"),
                    _p("Trim", "What flat planes?", "keel_flat_run", "flat_bottom_area", "width_1ft_nose"),
                    _p("Turn", "How does the rail curve?", "rail_flat_run", "outline_straight_run", "caliper_50"),
                    _p("Hook", "What pivots?", "tail_area_behind_foot", "fin_area", "width_1ft_tail")),
    "paddle race": (_STAND, _p("Start", "How heavy is it to bring up?", "mass", "yaw_inertia", "planform_area"),
                    _p("Glide", "How long and lean is it?", "length_over_width", "reserve_volume", "keel_flat_run"),
                    _p("Bumps", "How does the nose come up?", "nose_rocker", "volume_centre_x", "width_1ft_nose"),
                    _p("Pivot", "What sinks and swings?", "tail_area_behind_foot", "yaw_inertia", "fin_area")),
    "prone race": (_p("Balance", "How steady is it?", "float_roll_stiffness", "reserve_volume", "width"),
                   _p("Start", "How heavy is it to bring up?", "mass", "yaw_inertia", "planform_area"),
                   _p("Glide", "How long and lean is it?", "length_over_width", "keel_flat_run", "fin_area"),
                   _p("Bumps", "How does the nose come up?", "nose_rocker", "volume_centre_x", "width_1ft_nose"),
                   _p("Pivot", "What swings?", "yaw_inertia", "tail_rocker", "width_1ft_tail")),
    "wakeboard": (_p("Edge", "What holds on the rail?", "rail_flat_run", "outline_straight_run", "fin_area"),
                  _p("Pop", "How do the tips rise?", "nose_rocker", "mid_flat_run", "mass"),
                  _p("Land", "What meets the water?", "keel_flat_run", "deck_angle_front", "stance"),
                  _p("Slide", "What lets go?", "yaw_inertia", "fin_area", "width_1ft_tail")),
    "wake surf": (_p("Push", "What area does the wake push?", "flat_bottom_area", "keel_flat_run", "planform_area"),
                  _p("Turn", "How does the rail curve?", "rail_flat_run", "outline_straight_run", "fin_area"),
                  _p("Release", "What lies behind the fins?", "tail_area_behind_foot", "width_1ft_tail", "tail_rocker")),
}  # fmt: skip
