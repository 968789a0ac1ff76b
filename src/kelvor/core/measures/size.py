"""The measures of a board, as figures."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.figures import Better, Figure, FigureDefinition, Method
from kelvor.core.base.units import FOOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Rider
from kelvor.core.build.mass.board_mass import BoardMass
from kelvor.core.measures.lines import line_measures
from kelvor.core.measures.stance import stance_measures
from kelvor.core.shape.checks.straight_edge import flat_runs, table_slope
from kelvor.core.shape.curves.outline import fraction_to_u, half_width_cached
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.section_view import reading_between, wide_point

SECTIONS = Method(
    "section areas along the board",
    "geometry: Green's theorem on each section, trapezoid rule along x",
    "boards that close; agrees with the exported mesh to 0.1 %",
)
STRAIGHT_EDGE = Method(
    "longest run within 0.5 mm of a straight edge", "geometry", "flats longer than a few centimetres"
)
BUILD = Method(
    "core by density, skin by areal mass, fittings as points",
    "Steiner's theorem on core, skin zones and fittings; spread of foam and laminate: common practice, no source",
    "boards laid up to the stated areal masses",
)
BESIDE = Method("read off the levelled drawing, beside the tips of the line", "geometry", "any board that closes")
LEVEL = Method("read off the levelled drawing, at the tips of the line", "geometry", "any board that closes")


# fmt: off
LENGTH = FigureDefinition("length", "Length", Q.LENGTH, more="longer", less="shorter")
WIDTH = FigureDefinition("width", "Max width", Q.LENGTH, more="wider", less="narrower", short="{} wide")
THICKNESS = FigureDefinition("thickness", "Thickest, at the centre", Q.LENGTH, more="thicker", less="thinner")
VOLUME = FigureDefinition("volume", "Volume, finished", Q.VOLUME, SECTIONS)
CORE_VOLUME = FigureDefinition("core_volume", "Volume, core", Q.VOLUME,
    Method("finished volume less skin area × thickness, by zone", "geometry", "skins under 3 mm"))
PLANFORM_AREA = FigureDefinition("planform_area", "Planform area", Q.AREA)
LENGTH_TIMES_WIDTH = FigureDefinition("length_times_width", "Length × width", Q.AREA)
WIDTH_1FT_TAIL = FigureDefinition("width_1ft_tail", "Wide one foot off tail", Q.LENGTH, more="wider", less="narrower")
WIDTH_1FT_NOSE = FigureDefinition("width_1ft_nose", "Wide one foot off nose", Q.LENGTH, more="wider", less="narrower")
WIDTH_30CM_TAIL = FigureDefinition("width_30cm_tail", "Wide 30 cm off tail", Q.LENGTH, more="wider", less="narrower")
WIDTH_30CM_NOSE = FigureDefinition("width_30cm_nose", "Wide 30 cm off nose", Q.LENGTH, more="wider", less="narrower")
WIDE_POINT = FigureDefinition("wide_point", "Wide point, from tail", Q.LENGTH, more="forward", less="aft")
NOSE_ROCKER = FigureDefinition("nose_rocker", "Nose rocker, keel", Q.DEPTH, LEVEL, more="higher", less="lower")
TAIL_ROCKER = FigureDefinition("tail_rocker", "Tail rocker, keel", Q.DEPTH, LEVEL, more="higher", less="lower")
KEEL_FLAT_RUN = FigureDefinition("keel_flat_run", "Keel flat run, gap 0.5 mm", Q.LENGTH, STRAIGHT_EDGE, more="longer",
    less="shorter")
RAIL_FLAT_RUN = FigureDefinition("rail_flat_run", "Rail flat run, gap 0.5 mm", Q.LENGTH, STRAIGHT_EDGE, more="longer",
    less="shorter")
MID_FLAT_RUN = FigureDefinition("mid_flat_run", "Mid flat run, gap 0.5 mm", Q.LENGTH, STRAIGHT_EDGE, more="longer",
    less="shorter")
# fmt: on
BESIDE_TIPS = (FOOT, 0.15)
"""How far from the ends mid and rail line are read [m]: at a closed tip the three lines are one."""
_OFF_TIP = ("one foot off", "15 cm off")
LINES_BESIDE_TIPS: dict[tuple[str, str, float], FigureDefinition] = {
    (line, end, off): FigureDefinition(
        f"{end}_rocker_{line}{'' if off == FOOT else '_15cm'}",
        f"{end.capitalize()} rocker, {line}, {words}",
        Q.DEPTH,
        BESIDE,
        more="higher",
        less="lower",
    )
    for line in ("rail", "mid")
    for off, words in zip(BESIDE_TIPS, _OFF_TIP, strict=True)
    for end in ("nose", "tail")
}
NOSE_ROCKER_RAIL = LINES_BESIDE_TIPS["rail", "nose", FOOT]
# fmt: off
OUTLINE_STRAIGHT = FigureDefinition("outline_straight_run", "Outline straight run, gap 0.5 mm", Q.LENGTH, STRAIGHT_EDGE,
    more="longer", less="shorter")
LENGTH_OVER_WIDTH = FigureDefinition("length_over_width", "Length over width", Q.RATIO, more="leaner", less="wider")
FILL_FACTOR = FigureDefinition("fill_factor", "Fill factor V/(L·W·T)", Q.RATIO, SECTIONS, more="fuller", less="leaner")
VOLUME_CENTRE_X = FigureDefinition("volume_centre_x", "Volume centre, from tail", Q.LENGTH, SECTIONS, more="forward",
    less="aft")
CORE_CENTRE_X = FigureDefinition("core_centre_x", "Core centre, from tail", Q.LENGTH, SECTIONS, more="forward",
    less="aft")
VOLUME_PER_RIDER_MASS = FigureDefinition("volume_per_rider_mass", "Volume per kg of rider", Q.VOLUME_PER_MASS, SECTIONS)
AREA_PER_RIDER_MASS = FigureDefinition("area_per_rider_mass", "Length × width per kg", Q.AREA_PER_MASS)
PLANFORM_PER_RIDER_MASS = FigureDefinition("planform_per_rider_mass", "Planform area per kg", Q.AREA_PER_MASS)
CALIPER_25 = FigureDefinition("caliper_25", "Thick 25 mm in from the edge", Q.LENGTH, more="thicker", less="thinner")
CALIPER_50 = FigureDefinition("caliper_50", "Thick 50 mm in from the edge", Q.LENGTH, more="thicker", less="thinner")
MASS = FigureDefinition("mass", "Mass, as built, no foil", Q.MASS, BUILD, better=Better.LESS, more="heavier",
    less="lighter")
MASS_PER_VOLUME = FigureDefinition("mass_per_volume", "Mass per volume", Q.DENSITY, BUILD, more="heavier",
    less="lighter")
MASS_CENTRE_X = FigureDefinition("mass_centre_x", "Mass centre, from tail", Q.LENGTH, BUILD, more="forward", less="aft")
MASS_CENTRE_Z = FigureDefinition("mass_centre_z", "Mass centre, above base", Q.LENGTH, BUILD, more="higher",
    less="lower")
YAW_INERTIA = FigureDefinition("yaw_inertia", "Swing weight (yaw inertia)", Q.INERTIA, BUILD, better=Better.LESS,
    more="turns harder", less="turns easier", head="yaw {}", ratio="yaw", short="{} yaw inertia",
    school="Weight off the ends swings to small inputs; weight in the ends rides straight through chop.")
ROLL_INERTIA = FigureDefinition("roll_inertia", "Roll inertia about the mast foot", Q.INERTIA, BUILD,
    better=Better.LESS, more="rolls harder", less="rolls easier")
PITCH_INERTIA = FigureDefinition("pitch_inertia", "Pitch inertia about the mast foot", Q.INERTIA, BUILD,
    better=Better.LESS, more="pitches harder", less="pitches easier")
# fmt: on
FIGURES = (
    VOLUME,
    CORE_VOLUME,
    VOLUME_PER_RIDER_MASS,
    PLANFORM_AREA,
    LENGTH_TIMES_WIDTH,
    AREA_PER_RIDER_MASS,
    PLANFORM_PER_RIDER_MASS,
    WIDTH_1FT_TAIL,
    WIDTH_1FT_NOSE,
    WIDTH_30CM_TAIL,
    WIDTH_30CM_NOSE,
    LENGTH,
    WIDTH,
    THICKNESS,
    FILL_FACTOR,
    LENGTH_OVER_WIDTH,
    WIDE_POINT,
    OUTLINE_STRAIGHT,
    NOSE_ROCKER,
    TAIL_ROCKER,
    *LINES_BESIDE_TIPS.values(),
    KEEL_FLAT_RUN,
    MID_FLAT_RUN,
    RAIL_FLAT_RUN,
    VOLUME_CENTRE_X,
    CORE_CENTRE_X,
    CALIPER_25,
    CALIPER_50,
    MASS,
    MASS_PER_VOLUME,
    MASS_CENTRE_X,
    MASS_CENTRE_Z,
    YAW_INERTIA,
    ROLL_INERTIA,
    PITCH_INERTIA,
)
"""In the order of the ledger."""

LENGTH_BAND = 1e-4
"""The surface is true to this at normal resolution [m]."""
RELATIVE_BAND = 1e-3
"""Volumes and areas agree with the exported mesh to this share."""
NEAR = 1e-7


@frozen(eq=False)
class Measures:
    """The measures of a board as figures, with the places of the two flat runs [m]."""

    figures: tuple[Figure, ...]
    keel_flat: tuple[float, float]
    rail_flat: tuple[float, float]
    wide_point: float


def _figure(
    definition: FigureDefinition, value: float, band: float, note: str = "", inputs: tuple[tuple[str, str], ...] = ()
) -> Figure:
    return Figure(
        definition=definition, value=float(value), band=band, band_of_difference=band / 10, note=note, inputs=inputs
    )


def planform_area(measured: Geometry) -> float:
    """Area inside the outline [m²]."""
    shape = measured.shape
    return float(2 * shape.stations.steps @ (shape.half_width - shape.inner))


def shape_measures(measured: Geometry, mass: BoardMass, rider: Rider | None = None) -> Measures:
    """Size, rocker, volume, area and mass of a board; per rider mass where a rider is given."""
    board, shape, volume = measured.board, measured.shape, measured.solid.volume
    x, length = shape.x, board.length
    at, b_max = wide_point(shape)
    width = 2 * b_max
    thick = float(np.max(shape.deck - shape.keel))
    area = planform_area(measured)
    offs = np.array([FOOT, length - FOOT, 0.30, length - 0.30])
    u = fraction_to_u(offs / length, board.outline.spacing)
    off = (2 * half_width_cached(board.outline, length, tuple(u.tolist()), offs)).tolist()
    lines = measured.keel_line, measured.rail_line, measured.mid_line, shape.half_width
    rest = table_slope(x, measured.keel_line, measured.solid.x)  # however the board is laid
    keel_flat, rail_flat, mid_flat, straight = flat_runs(x, lines, bases=(rest, rest, rest, None))
    widest = reading_between(shape, at)
    lb = LENGTH_BAND
    list_ = [
        _figure(LENGTH, length, NEAR, "along the base line"),
        _figure(WIDTH, width, lb),
        _figure(THICKNESS, thick, lb),
        _figure(VOLUME, volume, RELATIVE_BAND * volume),
        _figure(
            CORE_VOLUME,
            mass.core.volume,
            2 * RELATIVE_BAND * volume,
            f"skin {board.skin.deck * 1e3:.1f} deck, {board.skin.bottom * 1e3:.1f} bottom, {board.skin.rail * 1e3:.1f} "
            f"mm rail",
        ),
        _figure(PLANFORM_AREA, area, RELATIVE_BAND * area, "true area inside the outline"),
        _figure(LENGTH_TIMES_WIDTH, length * width, lb * length, "the rectangle around the outline"),
        _figure(WIDTH_1FT_TAIL, off[0], lb),
        _figure(WIDTH_1FT_NOSE, off[1], lb),
        _figure(WIDTH_30CM_TAIL, off[2], lb),
        _figure(WIDTH_30CM_NOSE, off[3], lb),
        _figure(WIDE_POINT, at, 2e-3),
        *_tips(measured),
        *_flats(keel_flat, rail_flat, mid_flat, straight),
        _figure(LENGTH_OVER_WIDTH, length / width, 1e-3),
        _figure(FILL_FACTOR, volume / (length * width * thick), 2e-3),
        _figure(VOLUME_CENTRE_X, measured.solid.x, 3e-4),
        _figure(CORE_CENTRE_X, mass.core.x, 3e-4),
        _figure(CALIPER_25, widest.caliper_25, 2e-4, "at the wide point"),
        _figure(CALIPER_50, widest.caliper_50, 2e-4, "at the wide point"),
        *_masses(measured, mass),
    ]
    if rider is not None and rider.mass > 0:
        who = (("rider", f"{rider.mass:.1f} kg"),)
        list_ += [
            _figure(VOLUME_PER_RIDER_MASS, volume / rider.mass, RELATIVE_BAND * volume / rider.mass, inputs=who),
            _figure(AREA_PER_RIDER_MASS, length * width / rider.mass, lb, "length × width, not planform", who),
            _figure(PLANFORM_PER_RIDER_MASS, area / rider.mass, RELATIVE_BAND * area / rider.mass, inputs=who),
        ]
    list_ += stance_measures(measured, rider)
    list_ += line_measures(measured, rider)
    return Measures(tuple(list_), keel_flat, rail_flat, at)


def _tips(measured: Geometry) -> list[Figure]:
    """How high the keel stands at nose and tail, and mid and rail beside them, above the base line."""
    base = f"base line: {measured.board.base.kind}"
    length = measured.board.length
    lines = {"rail": measured.rail_line, "mid": measured.mid_line}
    return [
        _figure(NOSE_ROCKER, measured.keel_line[-1], LENGTH_BAND, base),
        _figure(TAIL_ROCKER, measured.keel_line[0], LENGTH_BAND, base),
        *(
            _figure(definition, measured.at(lines[line], off if end == "tail" else length - off), LENGTH_BAND, base)
            for (line, end, off), definition in LINES_BESIDE_TIPS.items()
        ),
    ]


Run = tuple[float, float]
"""From where to where [m from the tail]."""


def _flats(keel: Run, rail: Run, mid: Run, straight: Run) -> list[Figure]:
    """Lengths of the flats and of the straight run of the outline."""
    runs = ((KEEL_FLAT_RUN, keel), (RAIL_FLAT_RUN, rail), (MID_FLAT_RUN, mid), (OUTLINE_STRAIGHT, straight))
    return [
        _figure(definition, end - start, 4e-3, f"{start * 100:.1f} to {end * 100:.1f} cm from tail")
        for definition, (start, end) in runs
    ]


def _masses(measured: Geometry, mass: BoardMass) -> list[Figure]:
    """Mass, its centre, and how it resists being turned about the mast."""
    board, t = measured.board, mass.total
    mast = board.mast_x
    axis = mast if mast is not None else t.x
    axis_note = "" if mast is not None else "no foil tracks: about the mass centre"
    # the height at which the mast meets the bottom, seen from the centre of mass along the base line
    foot = t.z - (float(measured.above_base(t.x, t.z)) - measured.at(measured.keel_line, axis))
    build = (
        ("core density", f"{board.materials.core_density:.0f} kg/m³"),
        ("core volume", f"{mass.core.volume * 1e3:.2f} L"),
    )
    return [
        _figure(MASS, t.mass, mass.band, inputs=build),
        _figure(MASS_PER_VOLUME, t.mass / measured.solid.volume, mass.band / measured.solid.volume),
        _figure(MASS_CENTRE_X, t.x, 0.01, inputs=build),
        _figure(MASS_CENTRE_Z, float(measured.above_base(t.x, t.z)), 0.004),
        _figure(YAW_INERTIA, t.yaw_about(axis), 0.07 * t.yaw_about(axis), axis_note),
        _figure(ROLL_INERTIA, t.roll_about(foot), 0.07 * t.roll_about(foot), axis_note),
        _figure(PITCH_INERTIA, t.pitch_about(axis, foot), 0.07 * t.pitch_about(axis, foot), axis_note),
    ]
