"""What riders say, discipline by discipline: common practice, no source. What is computed decides which of it holds."""

from __future__ import annotations

from kelvor.core.base.disciplines import FOILING, Discipline
from kelvor.core.rider_says.saying import Candidate as C
from kelvor.core.rider_says.saying import Saying

_FINNED: tuple[Discipline, ...] = ("slalom", "course racing")
_SURFED: tuple[Discipline, ...] = ("wave windsurf", "kite surf", "paddle surf", "wake surf")
_RACED: tuple[Discipline, ...] = ("paddle race", "prone race")
_BOTH_ENDS: tuple[Discipline, ...] = ("twin tip", "wakeboard")


def _more(*keys: str) -> tuple[tuple[str, int], ...]:
    return tuple((key, 1) for key in keys)


def _less(*keys: str) -> tuple[tuple[str, int], ...]:
    return tuple((key, -1) for key in keys)


_SHARP_AFT = C("rails.edge_radius", -1, "a crisp edge aft lets the water go instead of wrapping up the rail")
_SOFT = C("rails.edge_radius", 1, "a rounder edge bites later and forgives a crooked landing")
_WIDER = C("width", 1, "more area under the feet and more leverage against a roll")
_NARROWER = C("width", -1, "less to push through the water and to lay over")
_SHORTER = C("length", -1, "mass off the ends: inertia grows with the square of the distance")
_LONGER = C("length", 1, "a longer waterline glides on, and holds a line")
_THIN_ENDS = C("thickness_nose", -1, "less foam and laminate far from the feet")
_TAIL_WIDE = C("width_1ft_tail", 1, "lifts early and carries the back foot")
_TAIL_NARROW = C("width_1ft_tail", -1, "sinks into the turn and lets go sooner")
_TAIL_FLAT = C("tail_rocker", -1, "a flatter tail runs out of the hole at less trim")
_TAIL_UP = C("tail_rocker", 1, "the curve turns by itself once the back foot presses")
_NOSE_UP = C("nose_rocker", 1, "clears what comes from ahead")
_NOSE_WIDE = C("width_1ft_nose", 1, "water goes under a wide nose, and it climbs early")
_NOSE_FULL = C("thickness_nose", 1, "volume far ahead brings the nose back up")
_FLAT_RUN = C("ruler", 1, "a longer flat planes earlier and stays level")
_SHORT_FLAT = C("ruler", -1, "less flat to swing round")
_FIN_BIG = C("fin.0.fin.span", 1, "more fin carries more side force before it stalls")
_FIN_SMALL = C("fin.0.fin.span", -1, "less fin drags and lifts less")
_FIN_FORWARD = C("fin.0.at", 1, "a fin further forward frees the tail")
_FIN_BACK = C("fin.0.at", -1, "a fin further back tracks")
_SIDES_FORWARD = C("fin.1.at", 1, "side fins further forward free the tail")
_SIDES_SMALL = C("fin.1.fin.span", -1, "smaller side fins let the tail come round")
_SIDES_BIG = C("fin.1.fin.span", 1, "larger side fins hold on the rail")
_BASE_BACK = C("mast_track.at", -1, "the rig further back frees the nose")
_BASE_FORWARD = C("mast_track.at", 1, "the rig further forward holds the nose down")
_FOIL_FORWARD = C("mast", 1, "lift further forward raises the board with less back foot")
_FOIL_BACK = C("mast", -1, "lift further back is calmer, and puts weight on the front foot")
_THICKER = C("thickness", 1, "more float under the rider")
_THINNER = C("thickness", -1, "standing lower, and bending more")
_V_MORE = C("layer:v.amount", 1, "V cuts in first and lets the water out to the sides")
_V_LESS = C("layer:v.amount", -1, "a flatter bottom lifts more")
_CUT_UP = C("layer:cut_away.angle", 1, "the tail can be pushed down further before it touches")
_CUT_LONG = C("layer:cut_away.hinge", 1, "a longer cut leaves more room behind the mast")
_CUT_OUT_LESS = C("layer:cut_out.height", -1, "smaller cut-outs keep the tail from sinking and stalling")
_CUT_OUT_MORE = C("layer:cut_out.height", 1, "less of the tail is wetted once it runs")
_FULL_RAIL = C("rails.fullness", 1, "a full rail floats where it is pressed under")
_THIN_RAIL = C("rails.fullness", -1, "a thin rail sinks in with less force")
_TUCK = C("rails.tuck", 1, "a tucked edge meets the water later")
_BEVEL = C("layer:bevel.amount", 1, "outer bevels let the board lean further before it touches")
_STANCE_IN = C("stance", -1, "feet closer together swing the board more easily")
_BELLY = C("layer:belly.amount", 1, "a rounder bottom glides at low power and rolls freely")
_BELLY_LESS = C("layer:belly.amount", -1, "a flatter bottom stands steadier and planes")
_SECTION = C("fin.0.fin.thickness", 1, "a thicker fin of the same size stalls later")

SAYINGS: tuple[Saying, ...] = (
    Saying(
        "Won't get up in light wind", "stuck no lift underpowered slow to take off",
        ("wing foil", "kite foil", "wind foil"),
        (*_less("least_wind_up", "hump_drag", "pull_to_plane"), *_more("drive_margin")),
        "A larger front foil, or a larger wing, kite or sail, does more than any shape.",
        (_FOIL_FORWARD,), (_SHARP_AFT,), (_WIDER, _TAIL_FLAT, _CUT_UP, _V_LESS, _LONGER),
        "Long nose for planing, or short and thin for swing weight.",
        "Look first which foil and what wind it was.",
    ),
    Saying(
        "Sticks when it touches down", "touch down sucks grabs stops dead splash",
        FOILING, (*_more("nose_touch_pitch", "touch_patch_v"), *_less("touch_drag")),
        "A longer mast makes it rarer; no set-up cures it.",
        (), (_SHARP_AFT,),
        (_NOSE_UP, _V_MORE, C("layer:hollow.amount", -1, "a hollow holds on to the water it lands on"), _BELLY),
        "Cutting bow or flat spoon entry.",
    ),
    Saying(
        "Swings like a plank in the air", "slow to turn heavy swing weight sluggish flying",
        FOILING, _less("yaw_inertia_with_foil"),
        "A lighter foil, and the lightest straps: both count with their distance from the mast.",
        (_FOIL_FORWARD,), (), (_SHORTER, _THIN_ENDS, C("width_1ft_nose", -1, "less board far ahead of the mast")),
        "Just enough volume, or enough to stand on.",
    ),
    Saying(
        "The rail catches when I lean", "touches tip over leaning edge carve",
        FOILING, _more("lean_before_touch"),
        "A longer mast gives more lean than any rail.",
        (), (), (_NARROWER, _BEVEL, _TUCK, _V_MORE, _THINNER),
        "Thin low rails or full boxy rails: it depends on load and heel.",
    ),
    Saying(
        "The tail drags when I pump or lift off", "cannot get the nose up pitch room",
        FOILING, _more("pitch_to_spare", "tail_clearance"),
        "Rake shims under the foil's plate change the foil's angle, not the room.",
        (_FOIL_BACK,), (), (_CUT_UP, _CUT_LONG, _TAIL_UP, _SHORTER),
        "", "What is cut away aft is lost to float and to the flat at rest.",
    ),
    Saying(
        "Tippy before I am going", "unstable kneeling waiting rolls sinks wobbly",
        FOILING, (*_more("float_roll_stiffness", "righting_peak", "reserve_volume"), *_less("float_deck_depth")),
        "Kneel over the mark where it floats level; hands on the rails.",
        (), (), (_WIDER, _THICKER, _FULL_RAIL, C("crown", -1, "a flat deck lets the knees go out to the edge")),
        "Just enough volume, or enough to stand on.",
    ),
    Saying(
        "The nose goes under at the start", "dives pearls buries nose dive",
        ("wing foil", "kite foil", "wind foil"), _more("nose_under_margin"),
        "Weight back until it planes.",
        (_FOIL_FORWARD,), (), (_NOSE_UP, _NOSE_WIDE, _NOSE_FULL),
        "Long nose for recovery, or short and thin for swing weight.",
    ),
    Saying(
        "I run out of track", "always one foot front foot back foot balance mast place",
        FOILING, _less("track_needed"),
        "Another tail foil or shim moves the lift too.",
        (_FOIL_FORWARD, _FOIL_BACK), (), (C("tracks", 1, "tracks further forward"),
        C("tracks", -1, "tracks further back")),
        "", "Never drill a deck for another place without looking at the laminate below.",
    ),
    Saying(
        "Takes too much to paddle up", "hard work watts tired downwind no take off",
        ("downwind foil",), _less("paddle_watts_4", "peak_watts", "bump_slope"),
        "A larger front foil, or a bump that is steeper.",
        (), (_SHARP_AFT,), (_LONGER, _NARROWER, _TAIL_FLAT, _BELLY),
        "Displacement hull, quick at low power, or planing hull.",
    ),
    Saying(
        "Wanders when I paddle", "tracking yaw zig zag straight",
        ("downwind foil",), _more("yaw_hold"),
        "Paddle closer to the rail; the foil's mast steers as a fin does.",
        (_FOIL_BACK,), (), (_LONGER, C("layer:v.amount", 1, "V at the nose holds it on its line")),
    ),
    Saying(
        "Cannot hold the sail down", "leverage overpowered no power upwind weak",
        ("wind foil",), _more("sail_force"),
        "A smaller sail, more downhaul, or a foil of less span.",
        (), (), (_WIDER, C("width_1ft_tail", 1, "wider straps give more leverage"), _LONGER),
        "Wide or pulled-in tail.",
    ),
    Saying(
        "Bogs and won't go in light wind", "slow to plane underpowered sticky early planing",
        ("slalom", "course racing", "wave windsurf", "kite surf", "twin tip"),
        (*_less("least_wind", "hump_drag", "pull_to_plane"), *_more("drive_margin")),
        "A larger sail or kite, and its trim, before the board.",
        (_FIN_BIG, _BASE_BACK), (_SHARP_AFT,), (_TAIL_WIDE, _TAIL_FLAT, _WIDER, _FLAT_RUN, _V_LESS),
        "Staged or blended rocker; wide or pulled-in tail.",
        "Look first which fin and what sail it was.",
    ),
    Saying(
        "The tail slides away", "spins out spin-out loses fin slips ventilates",
        ("slalom", "course racing", "wave windsurf", "kite surf"), _more("fin_margin", "fin_margin_push"),
        "Less back foot while pushing; look for a nick in the fin's leading edge.",
        (_FIN_BIG, _SECTION, _FIN_BACK, _SIDES_BIG), (_SHARP_AFT,), (_TAIL_NARROW, _SHORTER),
        "Fins as small as possible, or short and thick, or large twins.",
        "A fin that lets go at speed hurts: helmet and vest, and room to leeward.",
    ),
    Saying(
        "Tail-walks at speed", "rides on the fin lifts flies nervous too high",
        _FINNED, (*_less("fin_up"), *_more("nose_margin")),
        "Harness lines further back, boom lower.",
        (_FIN_SMALL, _BASE_FORWARD), (), (_TAIL_NARROW, _TAIL_UP, _NARROWER),
        "Large fin and wide tail, or both smaller.",
        "A board that takes off at speed hurts: smaller fin first.",
    ),
    Saying(
        "Bogs out of the gybe", "stalls turn stops sinks exit",
        _FINNED, (*_less("wetted_behind_foot", "hump_drag"), *_more("standing_width_back")),
        "Step later, and onto the tail's middle.",
        (), (_SHARP_AFT,), (_CUT_OUT_LESS, _TAIL_WIDE, _THICKER, _FULL_RAIL),
        "Steep cut-out step for release, or a smooth line for the gybe.",
    ),
    Saying(
        "Gybes too wide", "stiff turn radius won't carve tight",
        _FINNED, (*_less("rail_radius_30", "rail_radius_45"), *_more("rail_engaged_30")),
        "Front knee in; more mast base pressure.",
        (_BASE_BACK,), (), (_NARROWER, _TAIL_UP, _TAIL_NARROW, _THIN_RAIL),
        "Straight or curved outline: both agree that curve is placed, not spread.",
    ),
    Saying(
        "Hard on the legs in chop", "bounces slaps rough harsh bumpy",
        ("slalom", "course racing", "wave windsurf", "kite surf", "twin tip"), _less("chop_load", "slam"),
        "A smaller fin and softer pads first.",
        (_FIN_SMALL, C("pad.0.thickness", 1, "a thicker pad takes the first of it")), (),
        (_V_MORE, C("layer:double.amount", 1, "a double hollow softens chop"), _NARROWER, _THINNER),
        "Single, double, inverted V, V, spine.",
    ),
    Saying(
        "Slow at the top end", "no speed draggy won't run top speed",
        _FINNED, (*_more("run_speed", "net_force"), *_less("planing_area")),
        "The sail's tuning and the fin's finish before the board.",
        (_FIN_SMALL, _BASE_BACK), (_SHARP_AFT,), (_CUT_OUT_MORE, _TAIL_NARROW, _TAIL_FLAT, _NARROWER),
        "Large cut-outs or small.",
    ),
    Saying(
        "Dives downwind", "nose under pearls buries bear away",
        ("course racing", "paddle surf", "wind foil"), _more("nose_margin", "nose_under_margin"),
        "Weight back, straps further back.",
        (_BASE_BACK, _FOIL_FORWARD), (), (_NOSE_UP, _NOSE_WIDE, _NOSE_FULL,
        C("ruler_blend_fore", -1, "a shorter blend keeps the kick ahead")),
        "Cutting bow or flat spoon entry.",
    ),
    Saying(
        "Won't point upwind", "loses ground pointing high leeway drifts",
        ("course racing", "kite surf", "twin tip"),
        (*_more("upwind_vmg", "side_force"), *_less("upwind_angle", "leeway")),
        "A more upright sail or kite, and speed first.",
        (_FIN_BIG, _SIDES_BIG), (_SHARP_AFT,), (_NARROWER, _LONGER, _TAIL_FLAT, _THIN_RAIL),
        "Straight or curved outline: both agree that curve is placed, not spread.",
    ),
    Saying(
        "I sink waiting for wind", "floats low tippy lists standing uphaul",
        ("slalom", "course racing", "wind foil", "wave windsurf"),
        (*_more("reserve_volume", "float_roll_stiffness", "righting_peak"), *_less("list_angle")),
        "Mast base and feet over the volume's centre.",
        (), (), (_THICKER, _WIDER, _LONGER, _FULL_RAIL),
        "Just enough volume, or enough to stand on.",
    ),
    Saying(
        "Stiff in the turn, won't carve", "bottom turn won't bury the rail long drawn wide",
        _SURFED,
        (*_less("rail_radius_30", "rail_radius_45", "bury_force"), *_more("rail_engaged_30", "rail_engaged_45")),
        "Back foot further back, over the fins.",
        (_FIN_FORWARD, _SIDES_FORWARD, _FIN_SMALL), (), (_TAIL_UP, _NARROWER, _TAIL_NARROW, _THIN_RAIL, _SHORT_FLAT),
        "Staged or blended rocker; thin low or full boxy rails.",
    ),
    Saying(
        "Too loose, won't hold", "slides skatey nervous grip drifts on the face",
        _SURFED, _more("turn_lets_go", "turn_moment", "fin_margin"),
        "Feet a little forward.",
        (_FIN_BIG, _FIN_BACK, _SIDES_BIG), (_SHARP_AFT,), (_TAIL_WIDE, _LONGER,
        C("layer:double.amount", 1, "a hollow run deep to the tail grips")),
        "Fins as small as possible, or large twins.",
    ),
    Saying(
        "Won't come round off the top", "stiff pivot hook snap slow lip",
        ("wave windsurf", "kite surf", "paddle surf"),
        _less("turn_moment", "tail_area_behind_foot", "yaw_inertia"),
        "Back foot to the very end of the pad.",
        (_FIN_SMALL, _SIDES_FORWARD, _SIDES_SMALL, _FIN_FORWARD), (),
        (_TAIL_NARROW, C("winger.0.pull_in", 1, "more pull-in behind the pivot point is looser"), _TAIL_UP, _SHORTER),
        "Wide or pulled-in tail.",
    ),
    Saying(
        "Catches a rail", "trips bites edge grabs digs",
        ("kite surf", "twin tip", "wave windsurf", "paddle surf", "wakeboard", "wake surf"),
        (*_more("edge_radius_feet"), *_less("slide_force")),
        "A smaller fin trips less; feet flatter.",
        (_FIN_SMALL,), (_SOFT,), (_TUCK,
        C("layer:bevel.amount", 1, "an outer bevel keeps the edge out of the water"),
        C("rails.apex", 1, "the rail's widest point higher up")),
        "Hard rail full length, or hard aft and soft forward, or rolled at the feet.",
        "A caught edge throws the rider: helmet and vest when towed.",
    ),
    Saying(
        "Lands hard", "slams knees landing impact flat harsh",
        ("wave windsurf", "kite surf", "twin tip", "wakeboard"),
        _less("slam", "flat_under_feet"),
        "Softer pads and boots, and landing on the tail.",
        (C("pad.0.thickness", 1, "a thicker pad takes the first of it"), _STANCE_IN), (),
        (_V_MORE, C("layer:spine.amount", 1, "a spine enters before the flats do"), _THINNER, _SHORT_FLAT,
        C("layer:inverted_v.amount", -1, "two flats slap")),
        "Stiff frame or tuned flex; single, double, V, spine.",
        "A thinner board breaks sooner: look at its strength.",
    ),
    Saying(
        "The nose catches going out", "white water impact zone nose clearance shore break",
        ("wave windsurf",), _more("nose_clearance"),
        "Weight back, and speed.",
        (_BASE_BACK,), (), (_NOSE_UP, _NOSE_FULL, _NOSE_WIDE),
        "Cutting bow or flat spoon entry.",
    ),
    Saying(
        "No pop", "dead no kick off the wake take off flat jump",
        _BOTH_ENDS, _more("tip_angle", "bend_sag"),
        "A longer edge into it, and later release.",
        (), (_SHARP_AFT,), (_NOSE_UP, _THINNER, _FLAT_RUN, C("width_1ft_nose", 1, "wider tips push off more water")),
        "Staged or blended rocker; stiff frame or tuned flex.",
    ),
    Saying(
        "Pops differently every time", "inconsistent twists soft frame",
        _BOTH_ENDS, _less("twist_per_moment"),
        "Boots and pads screwed tight, to the torque their maker gives.",
        (), (), (_THICKER, _WIDER, _FULL_RAIL),
        "Stiff frame or tuned flex.",
    ),
    Saying(
        "Loses its edge", "skips out slips washes out no grip edging",
        _BOTH_ENDS, _more("rail_engaged_45", "rail_engaged_30", "side_force", "rail_flat_30"),
        "Knees into it before the boat or kite pulls.",
        (_FIN_BIG,), (_SHARP_AFT,), (_FLAT_RUN, _NARROWER, _THIN_RAIL,
        C("nose_rocker", -1, "flatter tips keep more edge in the water")),
        "Hard rail full length, or rolled at the feet.",
    ),
    Saying(
        "Slow to spin", "heavy rotations swing weight sluggish",
        ("twin tip", "wakeboard", "wake surf"), _less("yaw_inertia"),
        "Lighter boots or straps, closer together.",
        (_STANCE_IN,), (), (_SHORTER, _THIN_ENDS, C("width_1ft_nose", -1, "less board at the ends"), _THINNER),
        "Lightest or durable.",
    ),
    Saying(
        "Drags behind the boat", "slow sticky hard to pull sluggish tow",
        ("wakeboard", "wake surf"), _less("tow_drag"),
        "A smaller fin, and the boat's speed and ballast as its maker allows.",
        (_FIN_SMALL, _SIDES_SMALL), (_SHARP_AFT,), (C("nose_rocker", -1, "less rocker pushes less water"),
        _TAIL_FLAT, _FLAT_RUN, _WIDER),
        "Staged or blended rocker.",
        "Towing: observer aboard, vest and helmet, local rules.",
    ),
    Saying(
        "Hangs up on a slide", "sticks rail feature box press slidey",
        ("wakeboard",), (*_more("edge_radius_feet"), *_less("slide_force", "fin_depth")),
        "Take the fins off for features.",
        (_FIN_SMALL,), (_SOFT,), (C("layer:spine.amount", -1, "less spine rests flatter on the feature"),
        C("width_1ft_tail", -1, "narrower ends come round")),
        "Rolled at the feet, or hard full length.",
        "Features: helmet and vest; look at the feature before you ride it.",
    ),
    Saying(
        "Falls off the back of the wave", "no push drops out slow wake lost",
        ("wake surf",), (*_less("wake_slope", "planing_drag", "tow_drag"), *_more("planing_area")),
        "More wave first: ballast within what the boat's maker allows; front foot.",
        (_FIN_SMALL,), (_SHARP_AFT,), (_WIDER, _TAIL_FLAT, _TAIL_WIDE,
        C("nose_rocker", -1, "less rocker keeps the speed")),
        "Just enough volume, or enough to stand on.",
    ),
    Saying(
        "Won't let go of the tail", "release tracks stuck slide three-sixty",
        ("wake surf",), _less("slide_force", "turn_moment", "tail_area_behind_foot", "fin_area"),
        "Rear fins out: three becomes two.",
        (_FIN_SMALL, _SIDES_SMALL, _FIN_FORWARD), (_SOFT,), (_TAIL_NARROW, _TAIL_UP, _SHORTER),
        "Fins as small as possible, or large twins.",
    ),
    Saying(
        "Fins feel grabby", "toe in cant drag draggy fins engage",
        ("wake surf", "kite surf", "paddle surf"), _less("fin_load", "tow_drag", "planing_drag"),
        "A softer fin, or one size less.",
        (C("fin.1.toe", -1, "less toe-in is less load at zero yaw"),
        C("fin.0.toe", -1, "less toe-in is less load at zero yaw"), _FIN_SMALL, _SIDES_SMALL), (),
        (_SIDES_FORWARD,),
        "Fins as small as possible, or large twins.",
    ),
    Saying(
        "Misses waves", "hard to catch late paddle in slow",
        ("paddle surf",), _less("paddle_watts_4", "wake_slope", "planing_drag"),
        "Sit closer in, start earlier.",
        (), (_SHARP_AFT,), (_LONGER, C("nose_rocker", -1, "a flatter nose pushes less water"), _TAIL_FLAT,
        _WIDER, _NARROWER),
        "Displacement or planing hull.",
    ),
    Saying(
        "Slow along the wave", "no drive speed down the line trim draggy",
        ("paddle surf", "kite surf"), _less("planing_drag", "hump_drag", "pull_to_plane"),
        "Front foot; a smaller rear fin.",
        (_FIN_SMALL,), (_SHARP_AFT,), (_TAIL_FLAT, _FLAT_RUN, _TAIL_WIDE,
        C("layer:hollow.amount", 1, "a single hollow lifts")),
        "Staged or blended rocker.",
    ),
    Saying(
        "Tippy", "wobbly unstable falls in rolls balance",
        ("paddle surf", *_RACED), _more("righting_peak", "second_stability", "righting_angle"),
        "No set-up does this; a lower stance does.",
        (), (), (_WIDER, _FULL_RAIL, _BELLY_LESS, C("deck:recess.amount", 1, "standing lower"),
        C("deck:dish.amount", 1, "lying lower"), _THINNER),
        "Flat deck or recessed.",
    ),
    Saying(
        "Slow in flat water", "no glide drags its tail stops between strokes pushes water",
        _RACED, (*_more("paddle_speed"), *_less("pace_drag", "glide_loss")),
        "Trim: half a foot forward or back, against a watch.",
        (_FIN_SMALL,), (), (_NARROWER, _LONGER, _TAIL_FLAT, _BELLY,
        C("width_1ft_nose", -1, "a cutting bow parts the water")),
        "Displacement hull, quick at low power, or planing hull.",
    ),
    Saying(
        "Wanders off its line", "tracking yaw zig zag many switches",
        _RACED, (*_less("yaw_per_stroke"), *_more("yaw_hold")),
        "Stroke closer to the rail.",
        (_FIN_BIG, _FIN_BACK), (), (_LONGER, _TAIL_FLAT, _V_MORE),
        "Narrow cutting bow: glide in clean water, pulls about in messy water.",
    ),
    Saying(
        "The nose buries in bumps", "pearls dives downwind runs recovery",
        _RACED, _more("nose_recovery", "nose_under_margin"),
        "Step back earlier.",
        (), (), (_NOSE_UP, _NOSE_FULL, _NOSE_WIDE, C("layer:v.amount", 1, "V at the nose throws the water aside")),
        "Cutting bow or flat spoon entry.",
    ),
    Saying(
        "Slow off the start", "sprint acceleration heavy start time",
        _RACED, _less("start_time", "pace_watts"),
        "Shorter strokes first.",
        (_FIN_SMALL,), (), (_NARROWER, _SHORTER, _THINNER, _TAIL_FLAT),
        "Lightest or durable.",
    ),
    Saying(
        "Won't catch bumps", "downwind runs no surf slow to plane swell",
        _RACED, _less("bump_slope"),
        "Aim lower, sprint earlier.",
        (), (_SHARP_AFT,), (_TAIL_FLAT, _LONGER, _WIDER, _TAIL_WIDE, _BELLY_LESS),
        "Displacement hull, or planing hull with no speed cap.",
    ),
    Saying(
        "Won't come round the buoy", "pivot turn tail sinks stiff step back",
        _RACED, (*_less("yaw_inertia", "lateral_area", "waterline_left"), *_more("tail_sink")),
        "Further back on the tail, paddle deep.",
        (_FIN_SMALL,), (), (_TAIL_UP, _TAIL_WIDE, _SHORTER, _THIN_ENDS),
        "Wide or pulled-in tail.",
    ),
    Saying(
        "Water stays on the deck", "footwell fills heavy drain scupper well",
        ("paddle race",), (*_less("footwell_water"), *_more("float_standing_deck_depth")),
        "Clear the drains before the start.",
        (), (), (C("deck:recess.amount", -1, "a shallower well holds less"), _THICKER),
        "Flat deck or recessed.",
    ),
    Saying(
        "My arms hit the rail", "reach paddle stroke wide shoulders",
        ("prone race",), _more("arm_reach"),
        "Lie a hand further forward.",
        (), (), (_NARROWER, C("deck:relief.amount", 1, "relief where the arms pass"), _THINNER),
    ),
)  # fmt: skip
