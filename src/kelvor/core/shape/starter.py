"""A first foil board of given size: fair already, to be shaped from there.

Proportions are common practice, no source.
"""

from __future__ import annotations

from math import radians

from kelvor.core.shape.battens import Batten, Ruler, Weight
from kelvor.core.shape.board import Board
from kelvor.core.shape.fittings import Fittings, FoilTracks, StrapRow
from kelvor.core.shape.layers import CutAway, Layout, Plinth, ShapingLayer
from kelvor.core.shape.outline import Outline
from kelvor.core.shape.places import Place
from kelvor.core.shape.rails import Rails
from kelvor.core.shape.schedules import Schedule


def starter_foil_board(name: str, length: float, width: float, thickness: float) -> Board:
    """A foil board of this length, width and thickness [m]."""
    half, t = width / 2, thickness
    hinge = 0.165 * length
    flat_end = 0.58 * length

    def x(share: float) -> float:
        return round(share * length, 4)

    outline = Batten((Weight(0.0, 0.64 * half), Weight(x(0.18), 0.885 * half), Weight(x(0.48), half), Weight(x(0.77), 0.84 * half),
                      Weight(x(0.93), 0.50 * half)))  # fmt: skip
    rocker = Batten((Weight(0.0, 0.003), Weight(x(0.155), 0.0, ruler=Ruler(0.05, 0.14)), Weight(round(flat_end, 4), 0.0),
                     Weight(x(0.82), 0.016 * length), Weight(length, 0.054 * length)))  # fmt: skip
    deck = Batten(
        (
            Weight(0.0, 0.68 * t),
            Weight(x(0.2), 0.905 * t),
            Weight(x(0.47), t),
            Weight(x(0.76), 0.865 * t),
            Weight(length, 0.36 * t),
        )
    )
    return Board(
        name=name, length=length, outline=Outline("squash", "round", outline, 0.22 * half), rocker=rocker, thickness=deck,
        crown=Schedule(((0.0, 0.003), (x(0.4), 0.006), (length, 0.003))),
        layers=(
            ShapingLayer(kind="v", name="V, nose to mast", amount=Schedule(((x(0.28), radians(2)), (x(0.6), radians(4)), (x(0.92), radians(7))))),
            ShapingLayer(kind="hollow", name="Hollow, middle", amount=Schedule(((x(0.2), 0.0), (x(0.5), 0.0), (x(0.8), 0.0)))),
            ShapingLayer(kind="bevel", name="Side bevel", amount=Schedule(((x(0.15), radians(10)), (x(0.85), radians(18)))),
                         layout=Layout("edge", Schedule(((x(0.15), 0.02), (x(0.85), 0.03))))),
            CutAway(name="Tail cut", angle=radians(6.5), hinge=Place("tail", round(hinge, 4)), blend=0.02),
            Plinth(name="Track plinth", width=0.13, start=Place("mast", -0.17), end=Place("mast", 0.17)),
        ),
        rails=Rails(tuck=Schedule(((0.0, 0.008), (x(0.45), 0.018), (x(0.92), 0.015))),
                    edge_radius=Schedule(((0.0, 0.002), (x(0.4), 0.004), (x(0.85), 0.011))),
                    chamfer=Schedule(((0.0, 0.026), (x(0.45), 0.04), (x(0.92), 0.034)))),
        fittings=Fittings(
            tracks=FoilTracks(at=Place("tail", x(0.295)), length=0.30, mast=0.0),
            straps=(StrapRow(name="Front strap row", at=Place("mast", 0.42), half_spread=0.09),
                    StrapRow(name="Back strap row", at=Place("mast", -0.04)))),
    )  # fmt: skip
