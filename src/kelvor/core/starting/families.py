"""First boards of every discipline, from a pattern and a size: fair already, to be shaped from there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import radians

from kelvor.core.disciplines import FOILING, Discipline
from kelvor.core.shape.battens import Batten, Ruler, Weight
from kelvor.core.shape.board import BaseKind, BaseLine, Board, Materials, Skin
from kelvor.core.shape.fin_sets import Arrangement, fin_set
from kelvor.core.shape.fittings import Fittings, FoilTracks, MastTrack, Pad, Plug, StrapRow
from kelvor.core.shape.layers import (
    Channels,
    CutAway,
    DeckLayer,
    Form,
    Layer,
    Layout,
    Ledge,
    Line,
    Plinth,
    ShapingLayer,
)
from kelvor.core.shape.outline import Outline, Winger
from kelvor.core.shape.places import Place
from kelvor.core.shape.rails import Rails
from kelvor.core.shape.schedules import Schedule
from kelvor.core.starting.patterns import PATTERNS, Pattern
from kelvor.core.values import frozen


@frozen
class _Size:
    """Length, half-width and thickness of the board being drawn [m]."""

    length: float
    half: float
    thick: float

    def x(self, share: float) -> float:
        return round(share * self.length, 4)

    def schedule(self, *points: tuple[float, float], scale: float = 1.0) -> Schedule:
        """A schedule at shares of the length."""
        return Schedule(tuple((self.x(share), value * scale) for share, value in points))


Parts = Callable[[_Size, Pattern], tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]]
MM = 1e-3


def patterns(discipline: Discipline) -> tuple[Pattern, ...]:
    """The schools Kelvor draws for a discipline."""
    return PATTERNS[discipline]


def first_board(
    name: str, discipline: Discipline, length: float, width: float, thickness: float, school: str = ""
) -> Board:
    """A board of this discipline, length, width and thickness [m], by a school (the first where none is named)."""
    pattern = next((p for p in PATTERNS[discipline] if p.school == school), PATTERNS[discipline][0])
    size = _Size(length, width / 2, thickness)
    layers, deck_layers, fittings = _PARTS[discipline](size, pattern)
    apex, tuck, edge_aft, edge_fore, fullness, chamfer = pattern.rail
    thin = min(1.0, thickness / 0.03)
    rails = Rails(
        apex=Schedule.constant(apex),
        tuck=size.schedule((0.05, 0.6 * tuck), (0.4, tuck), (0.95, 0.9 * tuck), scale=MM),
        edge_radius=size.schedule((0.3, edge_aft), (0.8, edge_fore), scale=MM)
        if edge_aft != edge_fore
        else Schedule.constant(edge_aft * MM),
        fullness=Schedule.constant(fullness),
        chamfer=size.schedule((0.05, 0.6 * chamfer), (0.45, chamfer), (0.95, 0.7 * chamfer), scale=MM),
        side_wall=None if pattern.side_wall is None else Schedule.constant(radians(pattern.side_wall)),
    )
    wingers: tuple[Winger, ...] = ()
    if pattern.winger is not None:
        at, pull, run = pattern.winger
        wingers = (Winger(x=size.x(at), pull_in=pull * MM, run=run * MM),)
    return Board(
        name=name,
        length=length,
        outline=_outline(size, pattern, wingers),
        rocker=_rocker(size, pattern),
        thickness=Batten(tuple(Weight(size.x(x), round(v * thickness, 5)) for x, v in pattern.thickness)),
        crown=size.schedule(
            (0.0, 0.5 * pattern.crown * thin), (0.45, pattern.crown * thin), (1.0, 0.5 * pattern.crown * thin), scale=MM
        ),
        layers=layers,
        deck_layers=deck_layers,
        rails=rails,
        fittings=fittings,
        base=BaseLine(kind=_BASE.get(discipline, "middle")),
        skin=_SKIN.get(discipline, Skin()),
        materials=_MATERIALS.get(discipline, Materials()),
        mirrored=pattern.mirrored,
    )


def _outline(size: _Size, pattern: Pattern, wingers: tuple[Winger, ...]) -> Outline:
    half = size.half
    weights = tuple(Weight(size.x(x), round(v * half, 5)) for x, v in pattern.outline)
    tail_half, nose_half = weights[0].value, weights[-1].value
    return Outline(
        pattern.tail,
        pattern.nose,
        Batten(weights),
        corner_radius=round(min(pattern.corner * half, 0.9 * tail_half), 4),
        tail_depth=round(pattern.depth * half, 4),
        tail_spread=round(2 * pattern.spread * half, 4),
        nose_radius=round(min(pattern.nose_corner * half, 0.9 * nose_half), 4),
        wingers=wingers,
    )


def _rocker(size: _Size, pattern: Pattern) -> Batten:
    weights = [Weight(size.x(x), round(h * MM * size.length, 5)) for x, h in pattern.rocker]
    if pattern.flat is not None:
        aft, fore = (b * size.length for b in pattern.blends)
        weights[pattern.flat] = replace(weights[pattern.flat], ruler=Ruler(round(aft, 4), round(fore, 4)))
    return Batten(tuple(weights))


def _shaping(
    kind: Form, name: str, amount: Schedule, layout: Layout | None = None, holds: Line = "keel"
) -> ShapingLayer:
    return ShapingLayer(kind=kind, name=name, amount=amount, layout=layout or Layout(), holds=holds)


def _degrees(size: _Size, *points: tuple[float, float]) -> Schedule:
    return size.schedule(*((x, radians(v)) for x, v in points))


def _straps(front: float, back: float, spread: float) -> tuple[StrapRow, ...]:
    return (
        StrapRow(name="Front straps", at=Place("tail", round(front, 4)), half_spread=spread),
        StrapRow(name="Back strap", at=Place("tail", round(back, 4))),
    )


def _foil_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Wing and kite foil boards: V outboard of a plinth, tail cut away, box level."""
    length, small = size.length, size.length < 1.3
    layers = (
        _shaping("v", "V, nose to mast", _degrees(size, (0.28, 2), (0.6, 4), (0.92, 7))),
        _shaping("hollow", "Concave, middle", size.schedule((0.2, 0), (0.5, 0), (0.8, 0))),
        _shaping(
            "bevel",
            "Side bevel",
            _degrees(size, (0.15, 10), (0.85, 18)),
            Layout("edge", size.schedule((0.15, 0.02), (0.85, 0.03))),
        ),
        CutAway(name="Tail cut", angle=radians(6.5), hinge=Place("tail", round(0.165 * length, 4)), blend=0.02),
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


def _downwind_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    length = size.length
    hull: tuple[Layer, ...]
    if pattern.school == "displacement":
        hull = (
            _shaping("belly", "Round belly", size.schedule((0.2, 6), (0.5, 10), (0.9, 14), scale=MM)),
            _shaping("v", "Nose V", _degrees(size, (0.6, 0), (0.95, 16))),
        )
    else:
        hull = (
            _shaping("v", "V, nose to mast", _degrees(size, (0.3, 1), (0.6, 2), (0.95, 7))),
            _shaping(
                "bevel", "Side bevel", _degrees(size, (0.2, 12), (0.9, 20)), Layout("edge", Schedule.constant(0.03))
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


def _wind_foil_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    layers = (
        _shaping("v", "V", _degrees(size, (0.2, 0), (0.6, 2), (0.95, 8))),
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
                amount=_degrees(size, (0.05, 8), (0.5, 8), (0.7, 0)),
                layout=Layout("edge", Schedule.constant(0.08)),
            ),
        ),
        fittings,
    )


def _slalom_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    wide = size.half > 0.42
    large = pattern.school == "large cut-outs" or wide
    cut = (0.36 if large else 0.22) * size.half
    layers: tuple[Layer, ...] = (
        _shaping("v", "V", _degrees(size, (0.0, 1.2), (0.4, 0.6), (0.7, 3), (0.95, 7))),
        _shaping("double", "Double concave", size.schedule((0.35, 0), (0.62, 2.5), (0.85, 0), scale=MM)),
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
            amount=_degrees(size, (0.04, 5), (0.4, 5), (0.6, 0)),
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


def _wave_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    layers = (
        _shaping("v", "V", _degrees(size, (0.0, 4), (0.35, 2), (0.7, 3), (0.95, 5))),
        _shaping("double", "Double concave", size.schedule((0.2, 1.0), (0.55, 4), (0.85, 0), scale=MM)),
    )
    kind: Arrangement
    kind, span = ("three", 0.19) if pattern.school == "pulled-in tail" else ("twin", 0.17)
    fittings = Fittings(
        fin_boxes=fin_set(kind, size.length, size.half, span=span, box="tab box", at=0.055),
        mast_track=MastTrack(at=Place("tail", size.x(0.535))),
        straps=_straps(0.86, 0.36, 0.12),
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


def _kite_surf_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    if pattern.school == "inverted V":
        layers: tuple[Layer, ...] = (
            _shaping("inverted_v", "Inverted V", _degrees(size, (0.1, 1.0), (0.45, 1.6), (0.8, 0.0)), holds="rail"),
        )
    else:
        layers = (
            _shaping(
                "hollow", "Single concave", size.schedule((0.08, 2.0), (0.45, 4.5), (0.82, 0), scale=MM), holds="rail"
            ),
        )
    layers = (*layers, _shaping("v", "Nose V", _degrees(size, (0.7, 0), (0.95, 4))))
    fittings = Fittings(
        fin_boxes=fin_set("three", size.length, size.half, span=0.105, box="side box", at=0.06),
        straps=_straps(0.98, 0.42, 0.03),
        other_mass=0.05,
        plugs=(Plug(kind="leash plug", at=Place("tail", 0.045), depth=0.014),),
        pads=(Pad(name="Deck pads", start=Place("tail", 0.15), end=Place("tail", 1.15), cover=0.75),),
    )
    return layers, (), fittings


def _board_ends(size: _Size, fin_span: float, stance: float, spread: float) -> tuple[tuple[StrapRow, ...], Fittings]:
    """Bindings or straps about the middle, and bolted fins at both ends."""
    rows = (
        StrapRow(name="Fore inserts", at=Place("middle", stance / 2), half_spread=spread, inserts=6, pitch=0.0254),
        StrapRow(name="Aft inserts", at=Place("middle", -stance / 2), half_spread=spread, inserts=6, pitch=0.0254),
    )
    fins = fin_set("four ends", size.length, size.half, span=fin_span, box="bolts", at=0.085)
    return rows, Fittings(straps=rows, fin_boxes=fins, other_mass=0.0, pad_cover=0.0)


def _twin_tip_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    ends = size.schedule((0.02, 2.0), (0.14, 1.5), (0.3, 0.0), (0.7, 0.0), (0.86, 1.5), (0.98, 2.0), scale=MM)
    layers = (
        _shaping("hollow", "Single concave", size.schedule((0.1, 0.5), (0.5, 2.5), (0.9, 0.5), scale=MM), holds="rail"),
        _shaping("tunnel", "Tip tunnels", ends, Layout("centre", Schedule.constant(0.5 * size.half)), holds="rail"),
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
    return layers, deck, _board_ends(size, 0.042, stance, 0.075)[1]


def _surf_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    layers = (
        _shaping("v", "Nose V", _degrees(size, (0.6, 0), (0.95, 5))),
        _shaping("hollow", "Single concave", size.schedule((0.1, 1.0), (0.4, 4.0), (0.7, 0), scale=MM), holds="rail"),
        _shaping("v", "Tail V", _degrees(size, (0.0, 3.0), (0.2, 0.0))),
    )
    fittings = Fittings(
        fin_boxes=fin_set(
            "2+1" if pattern.school == "pulled-in tail" else "four",
            size.length,
            size.half,
            span=0.12,
            box="tab box",
            at=0.075,
        ),
        plugs=(
            Plug(kind="leash plug", at=Place("tail", 0.05), depth=0.012),
            Plug(kind="handle", at=Place("tail", size.x(0.47)), length=0.15, depth=0.03),
            Plug(kind="vent", at=Place("tail", size.x(0.62))),
        ),
        pads=(
            Pad(
                name="Deck pad", start=Place("tail", 0.18), end=Place("tail", size.x(0.70)), cover=0.9, thickness=0.005
            ),
        ),
    )
    return layers, (), fittings


def _paddle_race_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    hull: tuple[Layer, ...]
    if pattern.school == "cutting bow":
        hull = (
            _shaping("belly", "Round bow", size.schedule((0.55, 0), (0.85, 18), (0.98, 10), scale=MM)),
            _shaping("v", "Nose V", _degrees(size, (0.6, 0), (0.97, 24))),
            Ledge(
                kind="chine",
                name="Chine, inner hull",
                line=size.schedule((0.05, 0.72 * size.half), (0.45, 0.76 * size.half), (0.8, 0.55 * size.half)),
                across="centre",
                height=Schedule.constant(0.035),
                wall=radians(70),
                start=Place("tail", 0.25),
                end=Place("nose", 0.9),
                run_out=0.35,
            ),
        )
    else:
        hull = (_shaping("belly", "Round belly", size.schedule((0.1, 4), (0.6, 6), (0.95, 6), scale=MM)),)
    deck = (
        DeckLayer(
            kind="recess",
            name="Standing well",
            amount=size.schedule((0.2, 0), (0.24, 45), (0.58, 45), (0.66, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.80 * size.half)),
            wall=radians(65),
        ),
        DeckLayer(kind="peak", name="Bow peak", amount=size.schedule((0.68, 0), (0.85, 20), (1.0, 10), scale=MM)),
    )
    fittings = Fittings(
        fin_boxes=fin_set("single", size.length, size.half, span=0.19, box="long box", at=0.06),
        plugs=(
            Plug(kind="handle", at=Place("tail", size.x(0.48)), length=0.16, depth=0.03),
            Plug(kind="vent", at=Place("nose", 0.6)),
            Plug(kind="leash plug", at=Place("tail", 0.2)),
        ),
        pads=(
            Pad(
                name="Standing pad",
                areal_mass=0.7,
                start=Place("tail", size.x(0.22)),
                end=Place("tail", size.x(0.62)),
                cover=0.75,
                thickness=0.004,
            ),
        ),
    )
    return hull, deck, fittings


def _prone_race_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    layers = (
        _shaping("belly", "Round belly", size.schedule((0.1, 8), (0.5, 14), (0.9, 18), scale=MM)),
        _shaping("v", "Nose V", _degrees(size, (0.7, 0), (0.97, 20))),
    )
    deck = (
        DeckLayer(
            kind="relief",
            name="Arm relief",
            amount=size.schedule((0.5, 0), (0.56, 18), (0.68, 18), (0.74, 0), scale=MM),
            layout=Layout("edge", Schedule.constant(0.4 * size.half)),
        ),
        DeckLayer(
            kind="dish",
            name="Chest dish",
            amount=size.schedule((0.2, 0), (0.3, 8), (0.52, 12), (0.62, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.6 * size.half)),
        ),
    )
    fittings = Fittings(
        fin_boxes=fin_set("single", size.length, size.half, span=0.20, box="long box", at=0.09),
        plugs=(Plug(kind="vent", at=Place("nose", 0.5)), Plug(kind="leash plug", at=Place("tail", 0.2))),
        pads=(
            Pad(
                name="Chest and knee pad",
                start=Place("tail", size.x(0.22)),
                end=Place("tail", size.x(0.66)),
                cover=0.6,
                thickness=0.006,
            ),
        ),
    )
    return layers, deck, fittings


def _wakeboard_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    layers: tuple[Layer, ...] = (
        _shaping(
            "spine",
            "Centre spine",
            size.schedule((0.2, 0.0), (0.36, 3.0), (0.64, 3.0), (0.8, 0.0), scale=MM),
            Layout("centre", Schedule.constant(0.35 * size.half)),
        ),
        _shaping(
            "tunnel",
            "Tip tunnels",
            size.schedule((0.03, 3.0), (0.2, 2.0), (0.32, 0.0), (0.68, 0.0), (0.8, 2.0), (0.97, 3.0), scale=MM),
            Layout("centre", Schedule.constant(0.55 * size.half)),
            holds="rail",
        ),
    )
    return layers, (), _board_ends(size, 0.021, 0.56, 0.09)[1]


def _wake_surf_parts(size: _Size, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    surf = pattern.school == "surf style"
    layers: tuple[Layer, ...] = (
        _shaping(
            "hollow",
            "Single concave",
            size.schedule((0.05, 2.0), (0.4, 4.0 if surf else 1.5), (0.75, 0), scale=MM),
            holds="rail",
        ),
    )
    if surf:
        layers = (
            *layers,
            Channels(
                name="Channels",
                start=Place("tail", 0.09),
                end=Place("tail", size.x(0.30)),
                inner=0.045,
                count=2,
                width=0.024,
                gap=0.014,
                depth=0.003,
                run_out=0.10,
            ),
        )
    kick = DeckLayer(
        kind="kick", name="Tail kick pad", amount=size.schedule((0.02, 14), (0.07, 5), (0.12, 0), scale=MM)
    )
    fittings = Fittings(
        fin_boxes=fin_set(
            "four" if surf else "single",
            size.length,
            size.half,
            span=0.10 if surf else 0.05,
            box="tab box" if surf else "bolts",
            at=0.07,
        ),
        pads=(Pad(name="Traction", start=Place("tail", 0.08), end=Place("nose", 0.3), cover=0.85, thickness=0.004),),
        other_mass=0.0,
    )
    return layers, (kick,) if surf else (), fittings


_PARTS: dict[Discipline, Parts] = {
    "wing foil": _foil_parts,
    "kite foil": _foil_parts,
    "downwind foil": _downwind_parts,
    "wind foil": _wind_foil_parts,
    "slalom": _slalom_parts,
    "course racing": _slalom_parts,
    "wave windsurf": _wave_parts,
    "kite surf": _kite_surf_parts,
    "twin tip": _twin_tip_parts,
    "paddle surf": _surf_parts,
    "paddle race": _paddle_race_parts,
    "prone race": _prone_race_parts,
    "wakeboard": _wakeboard_parts,
    "wake surf": _wake_surf_parts,
}
_BASE: dict[Discipline, BaseKind] = {
    **dict.fromkeys(FOILING, "tracks"),
    "slalom": "aft flat",
    "course racing": "aft flat",
}
_THIN = Skin(deck=0.0010, bottom=0.0010, rail=0.0012)
_SKIN: dict[Discipline, Skin] = {
    "twin tip": _THIN,
    "wakeboard": _THIN,
    "paddle race": Skin(deck=0.0008, bottom=0.0008, rail=0.0009),
}
_MATERIALS: dict[Discipline, Materials] = {
    "twin tip": Materials(core_density=330.0, deck_areal_mass=1.3, bottom_areal_mass=1.3, rail_areal_mass=1.5),
    "wakeboard": Materials(core_density=160.0, deck_areal_mass=1.5, bottom_areal_mass=1.6, rail_areal_mass=1.8),
    "kite surf": Materials(core_density=34.0, deck_areal_mass=0.95, bottom_areal_mass=0.7, rail_areal_mass=1.05),
    "wake surf": Materials(core_density=48.0, deck_areal_mass=1.0, bottom_areal_mass=0.8, rail_areal_mass=1.2),
    "paddle race": Materials(core_density=17.0, deck_areal_mass=0.95, bottom_areal_mass=0.7, rail_areal_mass=0.95),
    "prone race": Materials(core_density=19.0, deck_areal_mass=1.45, bottom_areal_mass=1.15, rail_areal_mass=1.4),
}
