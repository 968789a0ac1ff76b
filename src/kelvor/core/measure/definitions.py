"""Definitions of the figures that come from shape and mass."""

from __future__ import annotations

from kelvor.core.figures import GEOMETRY, Better, FigureDefinition, Method
from kelvor.core.units import Quantity as Q

SECTIONS = Method(
    "section areas along the board",
    "geometry: Green's theorem on each section, trapezoid rule along x",
    "boards that close; agrees with the exported mesh to 0.1 %",
)
STRAIGHT_EDGE = Method("longest run within 0.5 mm of a straight edge", "geometry", "flats longer than a few centimetres")
BUILD = Method(
    "core by density, skin by areal mass, fittings as points",
    "Steiner's theorem on core, skin zones and fittings; spread of foam and laminate: common practice, no source",
    "boards laid up to the stated areal masses",
)
LEVEL = Method("read off the levelled drawing, at the tips of the line", "geometry", "any board that closes")


def _d(
    key: str,
    label: str,
    quantity: Q,
    si: str,
    method: Method = GEOMETRY,
    more: str = "more",
    less: str = "less",
    better: Better = Better.NEITHER,
) -> FigureDefinition:
    return FigureDefinition(key, label, quantity, si, method, better, more, less)


LENGTH = _d("length", "Length", Q.LENGTH, "m", more="longer", less="shorter")
WIDTH = _d("width", "Widest", Q.LENGTH, "m", more="wider", less="narrower")
THICKNESS = _d("thickness", "Thickest, at the centre", Q.LENGTH, "m", more="thicker", less="thinner")
VOLUME = _d("volume", "Volume, finished", Q.VOLUME, "m3", SECTIONS, "more", "less")
CORE_VOLUME = _d("core_volume", "Volume, core", Q.VOLUME, "m3",
                 Method("finished volume less skin area × thickness, by zone", "geometry", "skins under 3 mm"))  # fmt: skip
PLANFORM_AREA = _d("planform_area", "Planform area", Q.AREA, "m2", more="more", less="less")
LENGTH_TIMES_WIDTH = _d("length_times_width", "Length × width", Q.AREA, "m2", more="more", less="less")
WIDTH_1FT_TAIL = _d("width_1ft_tail", "Wide one foot off tail", Q.LENGTH, "m", more="wider", less="narrower")
WIDTH_1FT_NOSE = _d("width_1ft_nose", "Wide one foot off nose", Q.LENGTH, "m", more="wider", less="narrower")
WIDTH_30CM_TAIL = _d("width_30cm_tail", "Wide 30 cm off tail", Q.LENGTH, "m", more="wider", less="narrower")
WIDTH_30CM_NOSE = _d("width_30cm_nose", "Wide 30 cm off nose", Q.LENGTH, "m", more="wider", less="narrower")
WIDE_POINT = _d("wide_point", "Wide point, from tail", Q.LENGTH, "m", more="forward", less="aft")
NOSE_ROCKER = _d("nose_rocker", "Nose rocker, keel", Q.DEPTH, "m", LEVEL, "higher", "lower")
TAIL_ROCKER = _d("tail_rocker", "Tail rocker, keel", Q.DEPTH, "m", LEVEL, "higher", "lower")
NOSE_ROCKER_RAIL = _d("nose_rocker_rail", "Nose rocker, rail", Q.DEPTH, "m", LEVEL, "higher", "lower")
TAIL_ROCKER_RAIL = _d("tail_rocker_rail", "Tail rocker, rail", Q.DEPTH, "m", LEVEL, "higher", "lower")
KEEL_FLAT_RUN = _d("keel_flat_run", "Keel flat run, gap 0.5 mm", Q.LENGTH, "m", STRAIGHT_EDGE, "longer", "shorter")
RAIL_FLAT_RUN = _d("rail_flat_run", "Rail flat run, gap 0.5 mm", Q.LENGTH, "m", STRAIGHT_EDGE, "longer", "shorter")
MID_FLAT_RUN = _d("mid_flat_run", "Mid flat run, gap 0.5 mm", Q.LENGTH, "m", STRAIGHT_EDGE, "longer", "shorter")
NOSE_ROCKER_MID = _d("nose_rocker_mid", "Nose rocker, mid", Q.DEPTH, "m", LEVEL, "higher", "lower")
TAIL_ROCKER_MID = _d("tail_rocker_mid", "Tail rocker, mid", Q.DEPTH, "m", LEVEL, "higher", "lower")
OUTLINE_STRAIGHT = _d(
    "outline_straight_run", "Straight run of the outline, gap 0.5 mm", Q.LENGTH, "m", STRAIGHT_EDGE, "longer", "shorter"
)
LENGTH_OVER_WIDTH = _d("length_over_width", "Length over width", Q.RATIO, "1", GEOMETRY, "leaner", "wider")
FILL_FACTOR = _d("fill_factor", "Fill factor V/(L·W·T)", Q.RATIO, "1", SECTIONS, "fuller", "leaner")
VOLUME_CENTRE_X = _d("volume_centre_x", "Volume centre, from tail", Q.LENGTH, "m", SECTIONS, "forward", "aft")
CORE_CENTRE_X = _d("core_centre_x", "Core centre, from tail", Q.LENGTH, "m", SECTIONS, "forward", "aft")
VOLUME_PER_RIDER_MASS = _d("volume_per_rider_mass", "Volume per kg of rider", Q.VOLUME_PER_MASS, "m3/kg", SECTIONS)
AREA_PER_RIDER_MASS = _d("area_per_rider_mass", "Length × width per kg", Q.AREA_PER_MASS, "m2/kg")
PLANFORM_PER_RIDER_MASS = _d("planform_per_rider_mass", "Planform area per kg", Q.AREA_PER_MASS, "m2/kg")
CALIPER_25 = _d("caliper_25", "Thick 25 mm in from the edge", Q.LENGTH, "m", more="thicker", less="thinner")
CALIPER_50 = _d("caliper_50", "Thick 50 mm in from the edge", Q.LENGTH, "m", more="thicker", less="thinner")
MASS = _d("mass", "Mass, as built, no foil", Q.MASS, "kg", BUILD, "heavier", "lighter", Better.LESS)
MASS_PER_VOLUME = _d("mass_per_volume", "Mass per volume", Q.DENSITY, "kg/m3", BUILD, "heavier", "lighter")
MASS_CENTRE_X = _d("mass_centre_x", "Mass centre, from tail", Q.LENGTH, "m", BUILD, "forward", "aft")
MASS_CENTRE_Z = _d("mass_centre_z", "Mass centre, above base", Q.LENGTH, "m", BUILD, "higher", "lower")
YAW_INERTIA = _d("yaw_inertia", "Yaw inertia about the mast", Q.INERTIA, "kg m2", BUILD,
                 "turns harder", "turns easier", Better.LESS)  # fmt: skip
ROLL_INERTIA = _d("roll_inertia", "Roll inertia about the mast foot", Q.INERTIA, "kg m2", BUILD,
                  "rolls harder", "rolls easier", Better.LESS)  # fmt: skip
PITCH_INERTIA = _d("pitch_inertia", "Pitch inertia about the mast foot", Q.INERTIA, "kg m2", BUILD,
                   "pitches harder", "pitches easier", Better.LESS)  # fmt: skip
