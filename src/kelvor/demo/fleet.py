"""The rest of the demo workshop: boards of all families, by pairs of schools, for invented riders on invented water.

Each begins as a first board of its family at a size of its own and is pulled
from there, as a designer would. Names, people, places and numbers are made up.
"""

from __future__ import annotations

from dataclasses import field
from math import radians

from kelvor.core.base.disciplines import FOILING, Discipline
from kelvor.core.base.fluids import Water
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, Foil, Rider, Target, Wind, Wing
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.new_board.proposals import proposals, proposed_board, sized
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.surface.sections import sections
from kelvor.demo.pulls import DemoBoard, Pull

ISAK = Rider(name="Isak Brun", mass=84.0, height=1.84, stance=0.58, skill="riding")
TOVE = Rider(name="Tove Aal", mass=63.0, height=1.68, stance=0.50, skill="expert")
MILLA = Rider(name="Milla Odd", mass=58.0, height=1.65, stance=0.51, skill="riding")
JORUN = Rider(name="Jorun Fale", mass=77.0, height=1.79, stance=0.56, skill="expert")
SEA, LAKE = Water(kind="sea", celsius=11.0), Water(kind="fresh", celsius=17.0)


@frozen
class _Drawn:
    """One board: what it is called, by which school, for whom, its size [m, m³], where, what it must do, and
    its steps.
    """

    name: str
    discipline: Discipline
    school: str
    rider: Rider
    size: tuple[float, float, float]
    place: str
    notes: str
    targets: tuple[Target, ...] = ()
    pulls: tuple[Pull, ...] = ()
    wind: float = 16.0
    water: Water = SEA
    foils: tuple[Foil, ...] = field(default=())
    wings: tuple[Wing, ...] = ()
    lift: float = 0.0
    recipe: int = 0


def _least(figure: str, value: float, *, wish: bool = False) -> Target:
    return Target(figure=figure, relation="at least", value=value, wish=wish)


def _most(figure: str, value: float, *, wish: bool = False) -> Target:
    return Target(figure=figure, relation="at most", value=value, wish=wish)


_LONG = Foil(
    name="Lyra 1320 long",
    mass=4.6,
    volume=0.0031,
    mast_length=0.72,
    area=0.132,
    span=1.06,
    lift_ahead=0.13,
    fuselage=0.70,
)
_RACE = Foil(
    name="Corvus 760", mass=5.2, volume=0.0030, mast_length=0.94, area=0.076, span=0.86, lift_ahead=0.12, fuselage=0.98
)
_SMALL = Foil(
    name="Lyra 520", mass=3.2, volume=0.0019, mast_length=0.70, area=0.052, span=0.66, lift_ahead=0.09, fuselage=0.55
)

_SAILS = (
    Wing(name="Merlin 6.1", area=6.1, mass=7.2),
    Wing(name="Merlin 7.2", area=7.2, mass=8.1),
    Wing(name="Merlin 8.3", area=8.3, mass=8.9),
    Wing(name="Merlin 10.4", area=10.4, mass=10.2),
)
_WAVE_SAILS = (Wing(name="Siskin 4.3", area=4.3, mass=5.4), Wing(name="Siskin 5.1", area=5.1, mass=5.9))
_KITES = (
    Wing(name="Osprey 7", area=7.0, mass=2.8),
    Wing(name="Osprey 10", area=10.0, mass=3.4),
    Wing(name="Osprey 13", area=13.0, mass=4.1),
)

_FLEET = (
    _Drawn(
        "Fulmar 104",
        "wing foil",
        "enough to stand on",
        ISAK,
        (1.79, 0.69, 0.104),
        "Skarnfjord, inner basin",
        "First foil board in the family: stands while he waits, climbs early.",
        (
            _most("float_standing_deck_depth", 0.06),
            _least("flat_bottom_area", 0.50),
            _most("least_wind_up", 12.5 * KNOT),
        ),
        (
            Pull("nose_rocker", 0.108, "less nose in the ferry's wake"),
            Pull("width_1ft_tail", 0.60, "steady to step back on"),
        ),
        wind=12,
        foils=(_LONG,),
        wings=(Wing(name="Gannet 5.3", area=5.3, mass=2.9),),
    ),
    _Drawn(
        "Plover 119",
        "kite foil",
        "compact",
        TOVE,
        (1.19, 0.445, 0.0172),
        "Ytre Holm, the sound",
        "Short, flat to the edge, for long tacks.",
        (_least("tail_clearance", radians(8.0)), _most("mass", 2.4), _most("pull_to_plane", 300.0)),
        (
            Pull("layer.Tail cut.angle", radians(9.0), "tail touched when she pumped"),
            Pull("strap.Front strap row.at", 0.60, "the foil pulled the nose up: feet back over its lift"),
            Pull("strap.Back strap row.at", 0.20, "and the back foot with it"),
        ),
        foils=(_SMALL,),
        lift=420.0,
        wings=(_KITES[1], _KITES[0]),
    ),
    _Drawn(
        "Curlew 102",
        "downwind foil",
        "displacement",
        TOVE,
        (2.36, 0.485, 0.102),
        "Skarnfjord to Ytre Holm",
        "Paddles up in the smallest bumps.",
        (_least("float_knee_window", 0.20), _most("width", 0.49), _most("paddle_watts_4", 95.0)),
        (Pull("layer.Round belly.amount", 0.018, "quicker at four knots"),),
        foils=(_LONG,),
    ),
    _Drawn(
        "Whimbrel 97",
        "downwind foil",
        "planing",
        TOVE,
        (2.12, 0.515, 0.097),
        "Skarnfjord to Ytre Holm",
        "The other school: flat, with a spoon entry, no speed cap.",
        (_least("float_knee_window", 0.20), _least("keel_flat_run", 0.80), _most("bump_slope", radians(6.5))),
        (Pull("nose_rocker", 0.098, "nose went under at the second bump"),),
        foils=(_LONG,),
    ),
    _Drawn(
        "Eider 148",
        "wind foil",
        "wide tail",
        ISAK,
        (2.14, 0.88, 0.148),
        "Skarnfjord, outer basin",
        "Leverage first; box level with the flat.",
        (_least("reserve_volume", 0.03), _least("standing_width_back", 0.60), _most("least_wind_up", 10.5 * KNOT)),
        (
            Pull("layer.Tail cut.angle", radians(6.0), "pushes down when he pumps"),
            Pull("tracks", 0.38, "box under his feet, not behind them"),
        ),
        wind=11,
        foils=(_RACE,),
        wings=(_SAILS[2], _SAILS[1]),
    ),
    _Drawn(
        "Shearwater 69",
        "slalom",
        "small cut-outs",
        JORUN,
        (2.33, 0.69, 0.098),
        "Ytre Holm, the speed strip",
        "Lives on its tail; steady in chop.",
        (_least("flat_bottom_area", 0.60), _least("reserve_volume", 0.005), _least("net_force", 60.0)),
        (
            Pull("fin.0.fin.span", 0.34, "tail-walked with the longer one"),
            Pull("rails.tuck", 0.008, "softer in the gybe"),
        ),
        wind=18,
        wings=(_SAILS[1], _SAILS[0]),
    ),
    _Drawn(
        "Shearwater 76",
        "slalom",
        "large cut-outs",
        JORUN,
        (2.30, 0.76, 0.116),
        "Ytre Holm, the speed strip",
        "The other school: as little wet as can be.",
        (_least("reserve_volume", 0.02), _most("least_wind", 11.0 * KNOT), _least("run_speed", 17.0 * KNOT)),
        (
            Pull("layer.Cut-outs.height", 0.016, "let go sooner"),
            Pull("layer.Cut-outs.wall", radians(45), "smoother in the gybe"),
        ),
        wind=13,
        recipe=1,
        wings=(_SAILS[2], _SAILS[1]),
    ),
    _Drawn(
        "Skua 102",
        "course racing",
        "full width",
        ISAK,
        (2.42, 1.015, 0.176),
        "Skarnfjord, the triangle",
        "One-foot-off width near the full width.",
        (_least("width_1ft_tail", 0.88), _least("reserve_volume", 0.07), _least("upwind_vmg", 7.0 * KNOT)),
        (Pull("nose_rocker", 0.205, "downwind in short waves"),),
        wind=13,
        wings=(_SAILS[3], _SAILS[2]),
    ),
    _Drawn(
        "Tern 71",
        "wave windsurf",
        "pulled-in tail",
        MILLA,
        (2.11, 0.548, 0.0712),
        "Ytre Holm, north reef",
        "Quick rail to rail in power.",
        (_most("tail_area_behind_foot", 0.095), _least("nose_rocker", 0.20), _most("least_wind", 18.5 * KNOT)),
        (Pull("rails.edge_radius", 0.009, "caught in the chop"),),
        wind=22,
        wings=(_WAVE_SAILS[0], _WAVE_SAILS[1]),
    ),
    _Drawn(
        "Turnstone 77",
        "wave windsurf",
        "wide tail",
        MILLA,
        (2.05, 0.575, 0.077),
        "Ytre Holm, south bay",
        "Planes early, drives off the back foot.",
        (_least("keel_flat_run", 0.35), _most("least_wind", 14.0 * KNOT)),
        (Pull("layer.Double concave.amount", 0.005, "softer in chop"),),
        wind=17,
        wings=(_WAVE_SAILS[1], _WAVE_SAILS[0]),
    ),
    _Drawn(
        "Dotterel 178",
        "kite surf",
        "single concave",
        TOVE,
        (1.78, 0.478, 0.0255),
        "Ytre Holm, the beach",
        "Lifts and planes early.",
        (_least("keel_flat_run", 0.30), _most("mass", 3.1), _most("pull_to_plane", 260.0)),
        (Pull("nose_rocker", 0.115, "steeper drops on the reef"),),
        wings=(_KITES[0], _KITES[1]),
    ),
    _Drawn(
        "Phalarope 174",
        "kite surf",
        "inverted V",
        TOVE,
        (1.74, 0.486, 0.0252),
        "Ytre Holm, the beach",
        "As the concave one, but a straight edge can check it.",
        (_least("keel_flat_run", 0.30), _most("mass", 3.1), _most("upwind_angle", radians(66.0))),
        (Pull("layer.Inverted V.amount", radians(2.0), "as deep as the concave one"),),
        recipe=1,
        wings=(_KITES[0], _KITES[1]),
    ),
    _Drawn(
        "Redshank 139",
        "twin tip",
        "stiff frame",
        ISAK,
        (1.39, 0.416, 0.00585),
        "Skarnfjord, the flats",
        "Upwind drive and edge hold.",
        (_least("outline_straight_run", 0.25), _most("nose_rocker", 0.042), _most("pull_to_plane", 420.0)),
        (Pull("stance", 0.545, "he is tall"),),
        wings=(_KITES[2], _KITES[1]),
    ),
    _Drawn(
        "Redshank 137",
        "twin tip",
        "tuned flex",
        ISAK,
        (1.37, 0.412, 0.0054),
        "Skarnfjord, the flats",
        "Thinner tips, more rocker: softer landings.",
        (_least("tip_angle", radians(7.0)), _most("mass", 3.4)),
        (Pull("stance", 0.54, "he is tall"),),
        recipe=1,
        wings=(_KITES[1], _KITES[2]),
    ),
    _Drawn(
        "Kittiwake 109",
        "paddle surf",
        "pulled-in tail",
        ISAK,
        (2.58, 0.75, 0.112),
        "Ytre Holm, south bay",
        "Tight turns off the tail.",
        (_least("reserve_volume", 0.012), _most("width_1ft_tail", 0.42), _most("paddle_watts_4", 150.0)),
        (Pull("fin.0.fin.span", 0.16, "drive back with the pulled-in tail"),),
    ),
    _Drawn(
        "Guillemot 113",
        "paddle surf",
        "wide tail",
        ISAK,
        (2.46, 0.772, 0.113),
        "Ytre Holm, south bay",
        "Lift under the back foot, early entry.",
        (_least("reserve_volume", 0.012), _least("width_1ft_tail", 0.46), _most("planing_drag", 140.0)),
        (Pull("nose_rocker", 0.135, "later drops"),),
        recipe=1,
    ),
    _Drawn(
        "Heron 14",
        "paddle race",
        "cutting bow",
        JORUN,
        (4.267, 0.595, 0.262),
        "Lake Vann",
        "Glide in flat water; inner hull under a stepped side.",
        (_most("width", 0.60), _least("righting_peak", 100.0), _least("paddle_speed", 4.6 * KNOT)),
        (Pull("layer.Chine, inner hull.height", 0.042, "runs on the inner hull once moving"),),
        water=LAKE,
    ),
    _Drawn(
        "Grebe 14",
        "paddle race",
        "flat spoon",
        JORUN,
        (4.267, 0.648, 0.279),
        "Skarnfjord, the long run",
        "Rides over bumps and turns.",
        (_least("nose_rocker", 0.11), _least("righting_peak", 90.0)),
        (Pull("nose_rocker", 0.135, "climbs out of the trough"),),
    ),
    _Drawn(
        "Merganser 12",
        "prone race",
        "displacement",
        MILLA,
        (3.658, 0.498, 0.152),
        "Skarnfjord, the long run",
        "Round and narrow, arms reach past the rail.",
        (_most("width", 0.50), _least("reserve_volume", 0.07), _least("paddle_speed", 5.0 * KNOT)),
        (Pull("deck.Arm relief.amount", 0.022, "elbows brushed the rail"),),
        recipe=3,
    ),
    _Drawn(
        "Dipper 138",
        "wakeboard",
        "staged rocker",
        ISAK,
        (1.38, 0.424, 0.0074),
        "Lake Vann, behind the boat",
        "A flat centre with kicked ends.",
        (_least("keel_flat_run", 0.45), _most("nose_rocker", 0.068), _least("rail_flat_30", 0.45)),
        (Pull("rails.edge_radius", 0.002, "no catching on the rails"),),
        water=LAKE,
    ),
    _Drawn(
        "Dipper 141",
        "wakeboard",
        "blended rocker",
        ISAK,
        (1.41, 0.426, 0.0076),
        "Lake Vann, behind the boat",
        "One continuous curve.",
        (_most("nose_rocker", 0.068), _most("rail_flat_30", 0.30)),
        (Pull("rails.edge_radius", 0.002, "no catching on the rails"),),
        water=LAKE,
        recipe=1,
    ),
    _Drawn(
        "Martlet 147",
        "wake surf",
        "surf style",
        MILLA,
        (1.47, 0.512, 0.0215),
        "Lake Vann, behind the boat",
        "Crisp past the middle, volume under the chest.",
        (_most("wake_slope", radians(12.5)), _most("mass", 3.2)),
        (Pull("layer.Channels.depth", 0.004, "held without the rear fins"),),
        water=LAKE,
    ),
    _Drawn(
        "Swift 138",
        "wake surf",
        "skim style",
        MILLA,
        (1.38, 0.524, 0.0152),
        "Lake Vann, behind the boat",
        "Thin and flat: releases and spins.",
        (_most("fin_area", 0.004), _most("mass", 2.6)),
        (Pull("tail_rocker", 0.024, "came round on its tail"),),
        water=LAKE,
    ),
)


def built_so(board: Board, construction: Construction) -> Board:
    """A demo board in a construction."""
    shape = sections(board)
    assert not isinstance(shape, tuple), "demo boards close"
    return with_construction(board, shape, construction, HANDBOOK)


def _slug(name: str) -> str:
    return name.lower().replace(" ", "-")


def fleet() -> tuple[DemoBoard, ...]:
    """The boards of all families beside the foil line, each as it began, with its steps."""
    found = []
    for drawn in _FLEET:
        brief = Brief(
            title=f"{drawn.rider.name.split()[0]}, {drawn.discipline}",
            discipline=drawn.discipline,
            place=drawn.place,
            notes=drawn.notes,
            rider=drawn.rider,
            water=drawn.water,
            wind=Wind(speed=drawn.wind * KNOT, height=10.0, kind="mean"),
            wings=drawn.wings,
            foils=drawn.foils if drawn.discipline in FOILING else (),
            wing_lift=60.0 if drawn.discipline == "wing foil" else drawn.lift,
            targets=drawn.targets,
        )
        proposal = next(p for p in proposals(brief) if p.school == drawn.school)
        board = built_so(
            proposed_board(drawn.name, sized(proposal, *drawn.size)), recipes(drawn.discipline)[drawn.recipe]
        )
        found.append(
            DemoBoard(_slug(drawn.name), board, f"Began as {drawn.discipline}, {drawn.school}", brief, drawn.pulls, 0)
        )
    return tuple(found)
