"""Demo boards: an invented shaper on an invented fjord; first three foil boards that are one another's parents and
children.

Names, people, places and numbers are made up.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from math import radians

from kelvor.core.base.fluids import Water
from kelvor.core.base.units import KNOT
from kelvor.core.brief.brief import Brief, Foil, KnownBoard, Rider, Target, Wind, Wing
from kelvor.core.build.materials.recipes import CARBON_BAGGED
from kelvor.core.shape.board import Board, Materials, Skin
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import Outline
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fittings import Fittings, FoilTracks, StrapRow
from kelvor.core.shape.parts.layers import CutAway, Layer, Layout, Plinth, ShapingLayer
from kelvor.core.shape.parts.rails import Rails
from kelvor.demo.fleet import built_so, fleet
from kelvor.demo.pulls import DemoBoard, Pull, with_demo_steps


def _sandpiper_bottom() -> tuple[Layer, ...]:
    return (
        ShapingLayer(
            kind="v",
            name="V, nose to mast",
            amount=Schedule(((0.42, radians(2.0)), (0.9, radians(4.0)), (1.4, radians(8.0)))),
        ),
        ShapingLayer(kind="hollow", name="Concave, middle", amount=Schedule(((0.3, 0.0), (0.78, 0.002), (1.2, 0.0)))),
        ShapingLayer(
            kind="bevel",
            name="Side bevel",
            amount=Schedule(((0.2, radians(10)), (1.3, radians(20)))),
            layout=Layout("edge", Schedule(((0.2, 0.02), (0.75, 0.03), (1.3, 0.035)))),
        ),
        CutAway(name="Tail cut", angle=radians(6.0), hinge=Place("tail", 0.25), blend=0.02),
        Plinth(name="Track plinth", width=0.135, start=Place("mast", -0.17), end=Place("mast", 0.17)),
    )


def sandpiper() -> Board:
    """The first of the line: a round, forgiving board for the inner fjord."""
    return Board(
        name="Sandpiper 46",
        length=1.53,
        outline=Outline(
            "squash",
            "round",
            Batten(
                (
                    Weight(0.0, 0.165),
                    Weight(0.27, 0.2275),
                    Weight(0.74, 0.2575),
                    Weight(1.18, 0.2165),
                    Weight(1.425, 0.128),
                )
            ),
            0.06,
        ),
        rocker=Batten(
            (
                Weight(0.0, 0.004),
                Weight(0.24, 0.0, ruler=Ruler(0.06, 0.16)),
                Weight(0.88, 0.0),
                Weight(1.26, 0.026),
                Weight(1.53, 0.079),
            )
        ),
        thickness=Batten(
            (Weight(0.0, 0.066), Weight(0.31, 0.087), Weight(0.72, 0.0955), Weight(1.16, 0.083), Weight(1.53, 0.036))
        ),
        crown=Schedule(((0.0, 0.003), (0.6, 0.007), (1.53, 0.004))),
        layers=_sandpiper_bottom(),
        rails=Rails(
            apex=Schedule(((0.0, 0.42), (0.8, 0.46), (1.4, 0.5))),
            tuck=Schedule(((0.0, 0.008), (0.7, 0.019), (1.4, 0.016))),
            edge_radius=Schedule(((0.0, 0.002), (0.6, 0.004), (1.3, 0.012))),
            fullness=Schedule(((0.0, 0.55), (0.8, 0.5), (1.5, 0.4))),
            chamfer=Schedule(((0.0, 0.028), (0.7, 0.042), (1.4, 0.036))),
        ),
        fittings=Fittings(
            tracks=FoilTracks(at=Place("tail", 0.44), length=0.31, mast=0.015),
            straps=(
                StrapRow(name="Front strap row", at=Place("mast", 0.286), half_spread=0.09),
                StrapRow(name="Back strap row", at=Place("mast", -0.174), half_spread=0.0),
            ),
        ),
        skin=Skin(deck=0.0009, bottom=0.0007, rail=0.0011),
        materials=Materials(core_density=25.0, deck_areal_mass=1.05, bottom_areal_mass=0.72, rail_areal_mass=1.3),
    )


_FOILS = (
    Foil(
        name="Lyra 1180",
        mass=4.1,
        volume=0.0027,
        mast_length=0.79,
        area=0.118,
        span=0.88,
        lift_ahead=0.115,
        fuselage=0.66,
    ),
    Foil(
        name="Lyra 860",
        mass=3.7,
        volume=0.0023,
        mast_length=0.79,
        area=0.086,
        span=0.79,
        lift_ahead=0.105,
        fuselage=0.62,
    ),
)
_WINGS = (
    Wing(name="Gannet 5.3", area=5.3, mass=2.9),
    Wing(name="Gannet 4.4", area=4.4, mass=2.6),
    Wing(name="Gannet 3.1", area=3.1, mass=2.2),
)


def brief_sandpiper() -> Brief:
    """Light days on the inner fjord."""
    return Brief(
        title="Ronja, light days",
        place="Skarnfjord, inner basin",
        notes="Wants to be up before the ferry's wake dies down. Finds the old board slow to come round.",
        rider=Rider(name="Ronja Vik", mass=69.0, height=1.72, stance=0.52, skill="riding"),
        water=Water(kind="sea", celsius=11.0),
        wind=Wind(speed=14 * KNOT, height=10.0, kind="mean"),
        wings=_WINGS,
        foils=_FOILS,
        wing_lift=70.0,
        ride_height=0.38,
        targets=(
            Target(figure="float_deck_depth", relation="at most", value=0.40),
            Target(figure="drive_margin", relation="at least", value=0.0),
            Target(figure="least_wind_up", relation="at most", value=14.5 * KNOT),
            Target(figure="tail_clearance", relation="at least", value=radians(6.0)),
            Target(figure="yaw_inertia_with_foil", relation="at most", value=0.95, wish=True),
            Target(figure="nose_touch_pitch", relation="at least", value=radians(4.0)),
        ),
    )


def brief_child(known: Board) -> Brief:
    """The same rider, in stronger wind, against the board she knows."""
    return replace(
        brief_sandpiper(),
        title="Ronja, outer fjord",
        place="Skarnfjord, off the light",
        notes="As the old one, but turns easier and lets the tail go under when pumping.",
        wind=Wind(speed=19 * KNOT, height=10.0, kind="gust"),
        foil_in_use=1,
        wing_in_use=1,
        ride_height=0.42,
        known=KnownBoard(name=known.name, figures=(("yaw_inertia_with_foil", 0.86), ("flat_bottom_area", 0.2856))),
        targets=(
            Target(figure="float_deck_depth", relation="at most", value=0.50),
            Target(figure="keel_flat_run", relation="at least", value=0.60),
            Target(figure="least_wind_up", relation="at most", value=15.0 * KNOT),
            Target(figure="tail_clearance", relation="at least", value=radians(8.0)),
            Target(figure="yaw_inertia_with_foil", relation="at most", value=0.90, relative=True),
            Target(figure="nose_touch_pitch", relation="at least", value=radians(4.5)),
            Target(figure="volume", relation="at least", value=0.036, wish=True),
        ),
    )


_SANDPIPER_PULLS = (
    Pull("nose_rocker", 0.086, "the ferry's wake is steeper than it looks"),
    Pull("width_1ft_tail", 0.468, "steadier to step back on"),
    Pull("volume", 0.0462, "what she asked for"),
    Pull("layer.Tail cut.angle", radians(7.0), "tail dragged in the first gusts"),
)
_DUNLIN_PULLS = (
    Pull("length", 1.455, "less to swing"),
    Pull("width", 0.492, "narrower with the shorter board"),
    Pull("volume", 0.0392, "under her weight now; she kneels well"),
    Pull("layer.Tail cut.angle", radians(8.5), "let the tail go under when pumping"),
    Pull("nose_rocker", 0.091, "chop off the light"),
    Pull("layer.V, nose to mast.amount", radians(10.0), "softer touch-downs"),
    Pull("rails.tuck", 0.023, "leans further"),
)
_STINT_PULLS = (
    Pull("length", 1.39, "for the strong days only"),
    Pull("volume", 0.0335, "as little as she can wait on"),
    Pull("width_1ft_nose", 0.352, "swing weight"),
    Pull("tracks", 0.425, "straps move along"),
    Pull("layer.Side bevel.amount", radians(26.0), "no more clipped rails"),
)


def demo_line() -> tuple[DemoBoard, ...]:
    """The foil line, parents first."""
    first = built_so(sandpiper(), CARBON_BAGGED)
    built = with_demo_steps(first, _SANDPIPER_PULLS)
    second = replace(built, name="Dunlin 39")
    second_built = with_demo_steps(second, _DUNLIN_PULLS)
    third = replace(second_built, name="Stint 33")
    return (
        DemoBoard(
            "sandpiper-46",
            first,
            "Drawn for the inner fjord",
            brief_sandpiper(),
            _SANDPIPER_PULLS,
            0,
            ((4, "drawn", "SK-07"), (4, "cut", "SK-07"), (4, "ridden", "SK-07")),
        ),
        DemoBoard(
            "dunlin-39",
            second,
            "Child of Sandpiper 46, version 5: shorter, turns easier",
            brief_child(built),
            _DUNLIN_PULLS,
            0,
            ((5, "drawn", "SK-09"),),
            "sandpiper-46",
        ),
        DemoBoard(
            "stint-33",
            third,
            "Child of Dunlin 39, version 8: for the strong days",
            replace(
                brief_child(second_built),
                title="Ronja, strong days",
                wing_in_use=2,
                wind=Wind(speed=25 * KNOT, height=10.0, kind="gust"),
            ),
            _STINT_PULLS,
            0,
            (),
            "dunlin-39",
        ),
    )


@cache
def all_demo_boards() -> tuple[DemoBoard, ...]:
    """Every board of the demo workshop, parents before their children."""
    return (*demo_line(), *fleet())


@cache
def demo_boards() -> tuple[tuple[str, Board, Brief], ...]:
    """Each demo board as it stands at its last step, with its brief; the foil line first."""
    return tuple((item.slug, with_demo_steps(item.start, item.pulls), item.brief) for item in all_demo_boards())
