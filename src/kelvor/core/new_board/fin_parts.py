"""Layers, deck and fittings of first boards that run on fins: windsurf and kite."""

from __future__ import annotations

from math import radians

from kelvor.core.new_board.drawing import MM, DrawnSize, board_ends, degrees, shaping, straps
from kelvor.core.new_board.patterns import Pattern
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fin_sets import Arrangement, fin_set
from kelvor.core.shape.parts.fittings import Fittings, MastTrack, Pad, Plug, StrapRow
from kelvor.core.shape.parts.layers import DeckLayer, Layer, Layout, Ledge


def slalom_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Windsurf racing boards: cut-outs, a bevelled deck, a recess at the mast."""
    wide = size.half > 0.42
    large = pattern.school == "large cut-outs" or wide
    cut = (0.36 if large else 0.22) * size.half
    layers: tuple[Layer, ...] = (
        shaping("v", "V", degrees(size, (0.0, 1.2), (0.4, 0.6), (0.7, 3), (0.95, 7))),
        shaping("double", "Double concave", size.schedule((0.35, 0), (0.62, 2.5), (0.85, 0), scale=MM)),
        Ledge(
            name="Cut-outs",
            line=size.schedule((0.0, cut), (0.10 if large else 0.07, 0.75 * cut), (0.17 if large else 0.12, 0.0)),
            height=size.schedule((0.0, 14 if large else 9), (0.16, 6), scale=MM),
            wall=radians(65),
            end=Place("tail", size.x(0.18)),
        ),
    )
    if large:
        layers = (
            *layers,
            Ledge(
                name="Cut-outs, second tier",
                line=size.schedule((0.0, 0.5 * cut), (0.06, 0.4 * cut), (0.11, 0.0)),
                height=Schedule.constant(0.006),
                wall=radians(65),
                end=Place("tail", size.x(0.12)),
            ),
        )
    deck = (
        DeckLayer(
            kind="deck_bevel",
            name="Deck bevel",
            amount=degrees(size, (0.04, 5), (0.4, 5), (0.6, 0)),
            layout=Layout("edge", Schedule.constant(0.35 * size.half)),
        ),
        DeckLayer(
            kind="recess",
            name="Mast recess",
            amount=size.schedule((0.46, 0), (0.5, 6), (0.64, 6), (0.7, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.11)),
            wall=radians(20),
        ),
    )
    span = 0.54 * 2 * size.half
    fittings = Fittings(
        fin_boxes=fin_set("single", size.length, size.half, span=span, box="deep box", at=0.098),
        mast_track=MastTrack(at=Place("tail", size.x(0.575)), length=0.22),
        straps=(
            StrapRow(name="Front straps", at=Place("tail", 0.56), half_spread=0.58 * size.half, inserts=4),
            StrapRow(name="Back straps", at=Place("tail", 0.26), half_spread=0.30 * size.half, inserts=4),
        ),
        plugs=(Plug(kind="vent", at=Place("tail", size.x(0.70))),),
        pads=(Pad(name="Deck pads", start=Place("tail", 0.12), end=Place("tail", 0.75), cover=0.9, thickness=0.006),),
    )
    return layers, deck, fittings


def wave_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Wave boards: V and hollows, straps close together."""
    layers = (
        shaping("v", "V", degrees(size, (0.0, 4), (0.35, 2), (0.7, 3), (0.95, 5))),
        shaping("double", "Double concave", size.schedule((0.2, 1.0), (0.55, 4), (0.85, 0), scale=MM)),
    )
    kind: Arrangement
    kind, span = ("three", 0.19) if pattern.school == "pulled-in tail" else ("twin", 0.17)
    fittings = Fittings(
        fin_boxes=fin_set(kind, size.length, size.half, span=span, box="tab box", at=0.055),
        mast_track=MastTrack(at=Place("tail", size.x(0.535))),
        straps=straps(0.86, 0.36, 0.12),
        plugs=(Plug(kind="vent", at=Place("tail", size.x(0.68))),),
        pads=(Pad(name="Deck pads", start=Place("tail", 0.22), end=Place("tail", 1.05), cover=0.8, thickness=0.005),),
    )
    return (
        layers,
        (
            DeckLayer(
                kind="recess",
                name="Mast recess",
                amount=size.schedule((0.44, 0), (0.48, 5), (0.6, 5), (0.66, 0), scale=MM),
                layout=Layout("centre", Schedule.constant(0.08)),
                wall=radians(20),
            ),
        ),
        fittings,
    )


def kite_surf_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Directional kite boards."""
    if pattern.school == "inverted V":
        layers: tuple[Layer, ...] = (
            shaping("inverted_v", "Inverted V", degrees(size, (0.1, 1.0), (0.45, 1.6), (0.8, 0.0)), holds="rail"),
        )
    else:
        layers = (
            shaping(
                "hollow", "Single concave", size.schedule((0.08, 2.0), (0.45, 4.5), (0.82, 0), scale=MM), holds="rail"
            ),
        )
    layers = (*layers, shaping("v", "Nose V", degrees(size, (0.7, 0), (0.95, 4))))
    fittings = Fittings(
        fin_boxes=fin_set("three", size.length, size.half, span=0.105, box="side box", at=0.06),
        straps=straps(0.98, 0.42, 0.03),
        other_mass=0.05,
        plugs=(Plug(kind="leash plug", at=Place("tail", 0.045), depth=0.014),),
        pads=(Pad(name="Deck pads", start=Place("tail", 0.15), end=Place("tail", 1.15), cover=0.75),),
    )
    return layers, (), fittings


def twin_tip_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Twin tips: a plain side wall, the same end for end."""
    ends = size.schedule((0.02, 2.0), (0.14, 1.5), (0.3, 0.0), (0.7, 0.0), (0.86, 1.5), (0.98, 2.0), scale=MM)
    layers = (
        shaping("hollow", "Single concave", size.schedule((0.1, 0.5), (0.5, 2.5), (0.9, 0.5), scale=MM), holds="rail"),
        shaping("tunnel", "Tip tunnels", ends, Layout("centre", Schedule.constant(0.5 * size.half)), holds="rail"),
    )
    stance = 0.52
    pads = ((0.5 * size.length - stance / 2) / size.length, (0.5 * size.length + stance / 2) / size.length)
    run = 0.10 / size.length
    height = min(2.5 * MM, 0.3 * size.thick)
    marks = tuple(
        (p + shift * run, h) for p in pads for shift, h in ((-1.5, 0.0), (-1.0, height), (1.0, height), (1.5, 0.0))
    )
    raised = size.schedule(*marks)
    deck = (
        DeckLayer(
            kind="platform",
            name="Foot pads, raised",
            amount=raised,
            layout=Layout("centre", Schedule.constant(0.45 * size.half)),
            wall=radians(20),
        ),
    )
    return layers, deck, board_ends(size, 0.042, stance, 0.075)[1]
