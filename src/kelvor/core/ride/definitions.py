"""What the figures of the ride are: words, unit, method and which way is better."""

from __future__ import annotations

from kelvor.core.figures import GEOMETRY, Better, FigureDefinition, Method
from kelvor.core.units import Quantity as Q

_M, _L, _N = Better.MORE, Better.LESS, Better.NEITHER

HULL = Method(
    "displacement and planing estimates joined by the share of the load that speed lifts",
    "ITTC 1957; Michell 1898; Savitsky 1964 with local beam and deadrise; vortex lattice for rocker (Katz & Plotkin 2001)",
    "flat water, steady speed; wave drag above Froude 0.6 kept at its value there; beam over length below 0.2 for Michell",
)
PLANING = Method(
    "Savitsky's laws on the running bottom, rocker by a vortex lattice, trim chosen by the rider for least drag",
    "Savitsky 1964; Katz & Plotkin 2001", "speed coefficient 0.6 to 13, trim 2 to 15°, wetted at most four beams",
)  # fmt: skip
DRIVE = Method(
    "drive of the gear at its height in the wind, less the drag at every speed on the way",
    "lifting line with the table of coefficients; log law of the wind (Charnock 1955)", "steady wind, gear trimmed well, no pumping",
)  # fmt: skip
SAILING = Method(
    "balance of drive, drag and the side force the rider can hold",
    "lifting line; rider's righting moment; fins by Helmbold 1942", "steady state, flat water; courses every 5°",
)  # fmt: skip
FINS = Method(
    "each fin as half a wing under the bottom, side force shared by lift slope",
    "Helmbold 1942; Hoerner & Borst 1975 (from memory)", "smooth stiff fins, board level, fins under the bottom",
)  # fmt: skip
FOIL = Method(
    "wing by lift slope, the surface as an opposite image, mast and spray",
    "Helmbold 1942; Prandtl 1924 (NACA TN 182); Hough & Moran 1969; Hoerner 1965", "wing at least half a chord deep",
)  # fmt: skip
PADDLE = Method(
    "drag of the floating hull against the paddler's power through the blade",
    "ITTC 1957; Michell 1898; stroke efficiency of the table", "flat water, steady stroke, Froude below 0.6",
)  # fmt: skip
RIGHTING = Method(
    "exact clipping of heeled sections, sinkage free, rider upright over the middle of the deck",
    "hydrostatics; Winter 2009 body segments (from memory)", "still water, no way on",
)  # fmt: skip
RAIL = Method("lowest line of the heeled surface seen from above", "geometry", "ranking only: water and rider are not in it")
YAW = Method("area in the water times distance squared, fins weighed by their lift", "geometry; weight of fins: common practice, no source",
             "ranking only, against another board")  # fmt: skip
SLAM = Method(
    "wedge entry, average pressure on the bottom under the feet at 5 m/s",
    "Wagner 1932; von Karman 1929 (NACA TN 321)", "ranking only; V held at 4° below which air cushions; flat water",
)  # fmt: skip
DAMPING = Method(
    "strip theory on the wing, a plate's drag at rest", "strip theory; Morison 1950 (from memory)", "small slow rolling"
)
CAVITATION = Method("suction peak of the fin's section by a panel method against the vapour pressure",
                    "Kuethe & Chow 1998; Wagner & Pruss 2002", "inviscid, clean nose; a rough one boils earlier")  # fmt: skip
BEAM = Method("bending and twist of the construction as a beam", "see the Build view", "small deflections")

DEFINITIONS: dict[str, FigureDefinition] = {}


def _d(key: str, label: str, quantity: Q, si: str, method: Method, better: Better, more: str, less: str) -> None:
    DEFINITIONS[key] = FigureDefinition(key, label, quantity, si, method, better, more, less)


# going: from rest to planing or lift-off
_d("hump_drag", "Drag at the hump", Q.FORCE, "N", HULL, _L, "more", "less")
_d("hump_speed", "Speed at the hump", Q.SPEED, "m/s", HULL, _N, "later", "earlier")
_d("hump_trim", "Trim at the hump", Q.ANGLE, "rad", HULL, _N, "nose higher", "nose lower")
_d("drive_margin", "Drive to spare at the hump", Q.FORCE, "N", DRIVE, _M, "better", "worse")
_d("least_wind", "Least wind to go", Q.SPEED, "m/s", DRIVE, _L, "later", "earlier")
_d("least_wind_up", "Least wind to lift off", Q.SPEED, "m/s", DRIVE, _L, "later", "earlier")
_d("planing_speed", "Planing from", Q.SPEED, "m/s", HULL, _L, "later", "earlier")
_d("deck_clears_speed", "Deck clears the water at", Q.SPEED, "m/s", HULL, _L, "later", "earlier")
_d("nose_under_margin", "Pitch that buries the nose", Q.ANGLE, "rad", HULL, _M, "more room", "less room")
_d("planing_drag", "Drag while planing", Q.FORCE, "N", PLANING, _L, "more", "less")
_d("planing_trim", "Trim of least drag", Q.ANGLE, "rad", PLANING, _N, "nose higher", "nose lower")
_d("strap_trim", "Trim with weight on your feet", Q.ANGLE, "rad", PLANING, _N, "nose higher", "nose lower")
_d("planing_area", "Wetted bottom, planing", Q.AREA, "m2", PLANING, _N, "more", "less")
_d("wetted_behind_foot", "Wet behind the back foot", Q.AREA, "m2", PLANING, _N, "more", "less")
_d("planing_length", "Wetted keel, planing", Q.LENGTH, "m", PLANING, _N, "longer", "shorter")
_d("running_beam", "Running beam", Q.LENGTH, "m", PLANING, _N, "wider", "narrower")
_d("released_area", "Bottom released", Q.AREA, "m2", PLANING, _N, "more", "less")
_d("feet_to_pressure", "Feet to pressure centre", Q.LENGTH, "m", PLANING, _N, "forward", "aft")
_d("net_force", "Force to spare, 10 to 20 kn", Q.FORCE, "N", SAILING, _M, "more", "less")
_d("tail_push_angle", "Tail can be pushed down by", Q.ANGLE, "rad", GEOMETRY, _M, "more", "less")
# foil
_d("lift_off_speed", "Foil carries all at", Q.SPEED, "m/s", FOIL, _L, "later", "earlier")
_d("speed_to_spare", "Speed beyond lift-off", Q.SPEED, "m/s", DRIVE, _M, "more", "less")
_d("lift_off_pitch", "Pitch the foil asks for", Q.ANGLE, "rad", FOIL, _L, "more", "less")
_d("pitch_to_spare", "Pitch to spare, tail", Q.ANGLE, "rad", FOIL, _M, "more room", "less room")
_d("stall_margin_foil", "Foil lift left before stall", Q.SHARE, "1", FOIL, _M, "more", "less")
_d("track_needed", "Mast place for your feet", Q.LENGTH, "m", FOIL, _N, "further forward", "further aft")
_d("roll_damping_0", "Foil's roll damping at rest", Q.DAMPING, "N m s", DAMPING, _M, "steadier", "livelier")
_d("roll_damping_15", "Foil's roll damping, 1.5 kn", Q.DAMPING, "N m s", DAMPING, _M, "steadier", "livelier")
_d("roll_damping_30", "Foil's roll damping, 3 kn", Q.DAMPING, "N m s", DAMPING, _M, "steadier", "livelier")
_d("drag_foil_30", "Drag, 30 % on the foil", Q.FORCE, "N", HULL, _L, "more", "less")
_d("drag_foil_60", "Drag, 60 % on the foil", Q.FORCE, "N", HULL, _L, "more", "less")
_d("drag_foil_90", "Drag, 90 % on the foil", Q.FORCE, "N", HULL, _L, "more", "less")
_d("touch_drag", "Drag of a touch-down", Q.FORCE, "N", PLANING, _L, "more", "less")
_d("touch_moment", "Moment of a touch-down", Q.MOMENT, "N m", PLANING, _L, "more", "less")
_d("fly_drag", "Drag, flying", Q.FORCE, "N", FOIL, _L, "more", "less")
_d("board_air_drag", "Air drag of the flying board", Q.FORCE, "N", FOIL, _L, "more", "less")
_d("foil_cavitation", "Foil boils from", Q.SPEED, "m/s", CAVITATION, _M, "later", "earlier")
# sailing
_d("run_speed", "Speed on the fast course", Q.SPEED, "m/s", SAILING, _M, "faster", "slower")
_d("side_force", "Side force the rider holds", Q.FORCE, "N", SAILING, _M, "more", "less")
_d("sail_force", "Sail force held from the straps", Q.FORCE, "N", SAILING, _M, "more", "less")
_d("upwind_vmg", "Speed made good upwind", Q.SPEED, "m/s", SAILING, _M, "faster", "slower")
_d("upwind_angle", "Angle to the wind, upwind", Q.ANGLE, "rad", SAILING, _L, "lower", "higher")
_d("downwind_vmg", "Speed made good downwind", Q.SPEED, "m/s", SAILING, _M, "faster", "slower")
_d("downwind_angle", "Angle to the wind, downwind", Q.ANGLE, "rad", SAILING, _M, "deeper", "shallower")
_d("nose_margin", "Nose above the water, running", Q.DEPTH, "m", PLANING, _M, "higher", "lower")
_d("fin_margin", "Fin lift left, running", Q.SHARE, "1", FINS, _M, "more", "less")
_d("fin_margin_push", "Fin lift left, pushing", Q.SHARE, "1", FINS, _M, "more", "less")
_d("fin_load", "Fin lift coefficient", Q.RATIO, "1", FINS, _L, "more", "less")
_d("leeway", "Leeway", Q.ANGLE, "rad", FINS, _L, "more", "less")
_d("fin_up", "Fin's lift upward, heeled 6°", Q.FORCE, "N", FINS, _N, "more", "less")
_d("fin_best", "Best fin, with margin", Q.LENGTH, "m", FINS, _N, "longer", "shorter")
_d("fin_cavitation", "Fin boils from", Q.SPEED, "m/s", CAVITATION, _M, "later", "earlier")
_d("fins_engage", "Last fin engages at", Q.ANGLE, "rad", FINS, _N, "later", "earlier")
_d("fin_release_angle", "Fins let go at", Q.ANGLE, "rad", FINS, _N, "later", "earlier")
_d("chop_load", "Chop load, forward bottom", Q.RATIO, "1", SLAM, _L, "harder", "softer")
# turning
_d("rail_radius_30", "Bottom's radius, heeled 30°", Q.HEIGHT, "m", RAIL, _N, "longer", "tighter")
_d("rail_radius_45", "Bottom's radius, heeled 45°", Q.HEIGHT, "m", RAIL, _N, "longer", "tighter")
_d("rail_crossover", "Rail line turns in from", Q.ANGLE, "rad", RAIL, _N, "later", "earlier")
_d("rail_engaged_30", "Engaged rail, heeled 30°", Q.LENGTH, "m", RAIL, _N, "longer", "shorter")
_d("rail_engaged_45", "Engaged rail, heeled 45°", Q.LENGTH, "m", RAIL, _N, "longer", "shorter")
_d("rail_break", "Break in the rail", Q.DEPTH, "m", RAIL, _L, "more", "less")
_d("rail_depth", "Rail in the water, edging", Q.DEPTH, "m", RAIL, _N, "deeper", "shallower")
_d("rail_flat_30", "Rail on its flat, heeled 30°", Q.LENGTH, "m", RAIL, _N, "longer", "shorter")
_d("straight_beyond_boot", "Straight past the back boot", Q.LENGTH, "m", GEOMETRY, _N, "longer", "shorter")
_d("yaw_resistance", "Yaw resistance, side area", Q.AREA, "m2", YAW, _N, "holds more", "turns easier")
_d("bury_force", "Force to bury the rail", Q.FORCE, "N", RIGHTING, _N, "more", "less")
_d("edge_radius_feet", "Edge radius at the feet", Q.DEPTH, "m", GEOMETRY, _N, "softer", "crisper")
_d("fin_depth", "Deepest fin", Q.DEPTH, "m", GEOMETRY, _N, "deeper", "shallower")
_d("front_fin_area", "Fin area without the rear fins", Q.AREA, "m2", GEOMETRY, _N, "more", "less")
_d("pivot_place", "Pivot ahead of the tail", Q.LENGTH, "m", YAW, _N, "further forward", "further aft")
# landing and pop
_d("slam", "Landing pressure under the feet", Q.PRESSURE, "Pa", SLAM, _L, "harder", "softer")
_d("v_under_feet", "V under the feet", Q.ANGLE, "rad", GEOMETRY, _N, "more V", "less V")
_d("flat_under_feet", "Flat between and under the feet", Q.LENGTH, "m", GEOMETRY, _N, "longer", "shorter")
_d("tip_angle", "Angle of the tip that kicks", Q.ANGLE, "rad", GEOMETRY, _N, "steeper", "flatter")
_d("flex_travel", "Flex in a landing of 1500 N", Q.DEPTH, "m", BEAM, _N, "softer", "stiffer")
# kites and tow
_d("pull_to_plane", "Kite pull to plane", Q.FORCE, "N", HULL, _L, "more", "less")
_d("tow_drag", "Drag at tow speed", Q.FORCE, "N", PLANING, _L, "more", "less")
_d("wake_slope", "Slope of wake that drives it", Q.ANGLE, "rad", PLANING, _L, "steeper", "gentler")
_d("slide_angle", "Fins slide from", Q.ANGLE, "rad", FINS, _N, "later", "earlier")
# paddling
for _knots in (2, 3, 4, 5):
    _d(f"paddle_watts_{_knots}", f"Drag power at {_knots} kn", Q.POWER, "W", HULL, _L, "more", "less")
_d("paddle_speed", "Speed at the paddler's watts", Q.SPEED, "m/s", PADDLE, _M, "faster", "slower")
_d("pace_watts", "Paddler's watts at the pace", Q.POWER, "W", PADDLE, _L, "more", "less")
_d("pace_drag", "Drag at the pace", Q.FORCE, "N", PADDLE, _L, "more", "less")
_d("glide_loss", "Speed lost between strokes", Q.SPEED, "m/s", PADDLE, _L, "more", "less")
_d("start_time", "Seconds to the pace", Q.TIME, "s", PADDLE, _L, "slower", "quicker")
_d("yaw_per_stroke", "Yaw a stroke", Q.ANGLE, "rad", PADDLE, _L, "more", "less")
_d("yaw_hold", "Yaw hold, 10° off at 3 kn", Q.MOMENT, "N m", FINS, _M, "tracks more", "turns easier")
_d("bump_slope", "Slope of bump it needs", Q.ANGLE, "rad", HULL, _L, "steeper", "gentler")
_d("peak_watts", "Peak watts over the hump", Q.POWER, "W", HULL, _L, "more", "less")
_d("nose_recovery", "Moment lifting a buried nose", Q.MOMENT, "N m", RIGHTING, _M, "more", "less")
_d("tail_sink", "Tail under water, stepped back", Q.LENGTH, "m", RIGHTING, _N, "deeper", "higher")
_d("waterline_left", "Waterline left, stepped back", Q.LENGTH, "m", RIGHTING, _N, "longer", "shorter")
_d("lateral_area", "Side area in the water", Q.AREA, "m2", GEOMETRY, _N, "more", "less")
# balance
_d("righting_peak", "Peak righting moment", Q.MOMENT, "N m", RIGHTING, _M, "more", "less")
_d("righting_angle", "Heel of the peak", Q.ANGLE, "rad", RIGHTING, _M, "later", "earlier")
_d("righting_back", "Righting, one foot back", Q.MOMENT, "N m", RIGHTING, _M, "more", "less")
_d("second_stability", "Righting moment at 15°", Q.MOMENT, "N m", RIGHTING, _M, "more", "less")
_d("freeboard", "Deck above the water, rider aboard", Q.LENGTH, "m", RIGHTING, _M, "higher", "lower")
_d("footwell_water", "Water in full foot wells", Q.MASS, "kg", RIGHTING, _L, "more", "less")
_d("foot_width", "Deck to stand on, middle", Q.LENGTH, "m", GEOMETRY, _M, "wider", "narrower")
_d("arm_reach", "Reach over rail at the shoulder", Q.LENGTH, "m", GEOMETRY, _L, "further", "shorter")
_d("list_angle", "List with the rig", Q.ANGLE, "rad", RIGHTING, _L, "more", "less")
_d("nose_clearance", "Nose tip above the water, planing", Q.DEPTH, "m", PLANING, _M, "higher", "lower")
