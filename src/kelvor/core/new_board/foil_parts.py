"""Layers, deck and fittings of first boards that fly on a foil."""

from __future__ import annotations

from math import radians

from kelvor.core.new_board.drawing import MM, DrawnSize, degrees, shaping
from kelvor.core.new_board.patterns import Pattern
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fittings import Fittings, FoilTracks, MastTrack, Plug, StrapRow
from kelvor.core.shape.parts.layers import CutAway, DeckLayer, Layer, Layout, Ledge, Plinth


def foil_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Wing and kite foil boards: V outboard of a plinth, tail cut away, box level."""
    length, small = size.length, size.length < 1.3
    layers = (
        shaping("v", "V, nose to mast", degrees(size, (0.28, 2), (0.6, 4), (0.92, 7))),
        shaping("hollow", "Concave, middle", size.schedule((0.2, 0), (0.5, 0), (0.8, 0))),
        shaping(
            "bevel",
            "Side bevel",
            degrees(size, (0.15, 10), (0.85, 18)),
            Layout("edge", size.schedule((0.15, 0.02), (0.85, 0.03))),
        ),
        CutAway(name="Tail cut", angle=radians(6.5), hinge=Place("tail", round(0.165 * length, 4)), blend=0.04),
        Plinth(name="Track plinth", width=0.13, start=Place("mast", -0.17), end=Place("mast", 0.17)),
    )
    at = max(0.295 * length, 0.165 * length + 0.165)
    fittings = Fittings(
        tracks=FoilTracks(at=Place("tail", round(at, 4)), length=0.24 if small else 0.30),
        straps=(
            StrapRow(name="Front strap row", at=Place("mast", 0.28 if small else 0.33), half_spread=0.09),
            StrapRow(name="Back strap row", at=Place("mast", -0.13), inserts=2),
        ),
    )
    return layers, (), fittings


def downwind_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Long narrow foil boards: round belly or planing bottom, a foot well."""
    length = size.length
    hull: tuple[Layer, ...]
    if pattern.school == "displacement":
        hull = (
            shaping("belly", "Round belly", size.schedule((0.2, 6), (0.5, 10), (0.9, 14), scale=MM)),
            shaping("v", "Nose V", degrees(size, (0.6, 0), (0.95, 16))),
        )
    else:
        hull = (
            shaping("v", "V, nose to mast", degrees(size, (0.3, 1), (0.6, 2), (0.95, 7))),
            shaping(
                "bevel", "Side bevel", degrees(size, (0.2, 12), (0.9, 20)), Layout("edge", Schedule.constant(0.03))
            ),
        )
    layers = (
        *hull,
        CutAway(name="Tail cut", angle=radians(4), hinge=Place("tail", round(0.18 * length, 4)), blend=0.05),
        Plinth(name="Track plinth", width=0.13, start=Place("mast", -0.2), end=Place("mast", 0.2)),
    )
    deck = (
        DeckLayer(
            kind="recess",
            name="Foot well",
            amount=size.schedule((0.24, 0), (0.28, 8), (0.6, 8), (0.64, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.62 * size.half)),
            wall=radians(30),
        ),
    )
    fittings = Fittings(
        tracks=FoilTracks(at=Place("tail", round(0.415 * length, 4)), length=0.40),
        plugs=(Plug(kind="handle", at=Place("tail", round(0.53 * length, 4)), side="bottom", length=0.14, depth=0.03),),
    )
    return layers, deck, fittings


def wind_foil_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Wide foil boards with a rig."""
    layers = (
        shaping("v", "V", degrees(size, (0.2, 0), (0.6, 2), (0.95, 8))),
        Ledge(
            name="Cut-outs",
            line=size.schedule((0.0, 0.09), (0.09, 0.07), (0.14, 0.0)),
            height=Schedule.constant(0.012),
            wall=radians(60),
            end=Place("tail", size.x(0.15)),
        ),
        CutAway(name="Tail cut", angle=radians(5), hinge=Place("tail", 0.12), blend=0.02),
        Plinth(name="Box strip", width=0.10, start=Place("mast", -0.12), end=Place("mast", 0.14)),
    )
    fittings = Fittings(
        tracks=FoilTracks(
            at=Place("tail", 0.24),
            length=0.18,
            spacing=0.0,
            depth=round(min(0.085, 0.62 * size.thick), 3),
            plate=0.17,
            mass=0.35,
        ),
        mast_track=MastTrack(at=Place("tail", size.x(0.55))),
        straps=(
            StrapRow(name="Front straps", at=Place("tail", 0.57), half_spread=0.43 * size.half, inserts=4),
            StrapRow(name="Back straps", at=Place("tail", 0.20), half_spread=0.36 * size.half),
        ),
        plugs=(Plug(kind="vent", at=Place("tail", size.x(0.72))),),
    )
    return (
        layers,
        (
            DeckLayer(
                kind="deck_bevel",
                name="Deck bevel",
                amount=degrees(size, (0.05, 8), (0.5, 8), (0.7, 0)),
                layout=Layout("edge", Schedule.constant(0.08)),
            ),
        ),
        fittings,
    )
