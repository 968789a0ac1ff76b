"""Additions: new layers, deck features, wingers and fittings of sensible first size, for a designer to pull from there.

First sizes are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from math import radians

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.findings import Finding
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Ruler, Weight
from kelvor.core.shape.curves.outline import Winger, half_width
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fin_sets import Arrangement, fin_set
from kelvor.core.shape.parts.fittings import FoilTracks, MastTrack, Pad, Plug, StrapRow
from kelvor.core.shape.parts.layers import (
    Channels,
    CrossStep,
    CutAway,
    DeckLayer,
    Layer,
    Layout,
    Ledge,
    Plinth,
    ShapingLayer,
)
from kelvor.core.shape.surface.sections import Resolution, sections

MM = 1e-3
Make = Callable[[Board, str], Layer | DeckLayer]


def _along(board: Board, *points: tuple[float, float]) -> Schedule:
    return Schedule(tuple((round(x * board.length, 4), v) for x, v in points))


def _even(board: Board, value: float) -> Schedule:
    return _along(board, (0.25, value), (0.55, value), (0.85, value))


def _middle(board: Board, value: float) -> Schedule:
    """Fading in and out about the middle."""
    return _along(board, (0.25, 0.0), (0.35, value), (0.6, value), (0.7, 0.0))


def _half(board: Board) -> float:
    return max(w.value for w in board.outline.batten.weights)


def _aft(board: Board, share: float) -> Place:
    return Place("tail", round(share * board.length, 4))


def _tips(board: Board, value: float) -> Schedule:
    return _along(board, (0.04, value), (0.2, 0.6 * value), (0.33, 0.0), (0.67, 0.0), (0.8, 0.6 * value), (0.96, value))


def _box_strip(board: Board, name: str) -> Plinth:
    boxes = [b for b in board.fittings.fin_boxes if b.offset == 0]
    if not boxes:
        raise RefusedEdit("A box strip lies across a centre fin box. Choose a fin set with one first.")
    at = boxes[0].at.x(board.length, board.mast_x)
    return Plinth(
        name=name,
        width=0.06,
        start=Place.at(at - 0.08, "tail", board.length),
        end=Place.at(at + boxes[0].fin.base + 0.06, "tail", board.length),
    )


BOTTOM: dict[str, tuple[str, Make]] = {
    "belly": ("Round belly", lambda b, n: ShapingLayer(kind="belly", name=n, amount=_even(b, 3 * MM))),
    "v": ("V", lambda b, n: ShapingLayer(kind="v", name=n, amount=_even(b, radians(3)))),
    "spoon": ("Spoon entry", lambda b, n: ShapingLayer(kind="belly", name=n, amount=_along(b, (0.70, 0.0), (0.96,
    6 * MM)))),
    "nose_v": ("Nose V", lambda b, n: ShapingLayer(kind="v", name=n, amount=_along(b, (0.65, 0.0), (0.95,
    radians(6))))),
    "inverted_v": ("Inverted V", lambda b, n: ShapingLayer(kind="inverted_v", name=n, amount=_even(b, radians(1.2)),
    holds="rail")),
    "hollow": ("Concave", lambda b, n: ShapingLayer(kind="hollow", name=n, amount=_even(b, 3 * MM), holds="rail")),
    "double": ("Double concave", lambda b, n: ShapingLayer(kind="double", name=n, amount=_even(b, 3 * MM))),
    "tunnel": ("Tunnel", lambda b, n: ShapingLayer(kind="tunnel", name=n, amount=_along(b, (0.0, 5 * MM), (0.3, 5 * MM),
    (0.55, 0.0)),
               layout=Layout("centre", Schedule.constant(round(0.5 * _half(b), 3))), holds="rail")),
    "tip_tunnels": ("Tunnels at both tips", lambda b, n: ShapingLayer(kind="tunnel", name=n, amount=_tips(b, 3 * MM),
                    layout=Layout("centre", Schedule.constant(round(0.5 * _half(b), 3))), holds="rail")),
    "spine": ("Centre spine", lambda b, n: ShapingLayer(kind="spine", name=n, amount=_middle(b, 3 * MM),
              layout=Layout("centre", Schedule.constant(round(0.35 * _half(b), 3))))),
    "bevel": ("Outer bevel", lambda b, n: ShapingLayer(kind="bevel", name=n, amount=_even(b, radians(12)),
    layout=Layout("edge",
          Schedule.constant(0.03)))),
    "side_flat": ("Side flats", lambda b, n: ShapingLayer(kind="side_flat", name=n, amount=_even(b, 0.0), layout=Layout(
                  "edge", _along(b, (0.15, 0.0), (0.3, 0.05), (0.6, 0.05), (0.75, 0.0))))),
    "cut_out": ("Tail cut-outs", lambda b, n: Ledge(name=n, line=_along(b, (0.0, 0.25 * _half(b)), (0.08,
    0.2 * _half(b)), (0.14, 0.0)),
                height=Schedule.constant(min(9 * MM, 0.15 * _thick(b))), wall=radians(65), end=_aft(b, 0.15))),
    "chine": ("Chine, inner hull", lambda b, n: Ledge(kind="chine", name=n, across="centre", line=_along(b, (0.1,
    0.7 * _half(b)), (0.6,
          0.7 * _half(b))),
              height=Schedule.constant(round(0.18 * _thick(b), 4)), start=_aft(b, 0.1), end=_aft(b, 0.75),
              run_out=round(0.1 * b.length, 3))),
    "channels": ("Channels", lambda b, n: Channels(name=n, start=_aft(b, 0.05), end=_aft(b, 0.32),
    inner=round(0.18 * _half(b), 3),
                 width=round(min(0.025, 0.12 * _half(b)), 4), depth=min(4 * MM, 0.1 * _thick(b)))),
    "cross_step": ("Transverse step", lambda b, n: CrossStep(name=n, at=_aft(b, 0.3), height=min(8 * MM,
    0.12 * _thick(b)))),
    "cut_away": ("Tail cut", lambda b, n: CutAway(name=n, angle=radians(6), hinge=_aft(b, 0.165), blend=0.02)),
    "plinth": ("Plinth across the tracks", lambda b, n: Plinth(name=n, width=0.13, start=Place("mast", -0.17),
    end=Place("mast", 0.17))),
    "box_strip": ("Box strip", _box_strip),
}  # fmt: skip
"""Bottom layers by key: the trade's name, and how one begins."""

DECK: dict[str, tuple[str, Make]] = {
    "dish": ("Dished deck", lambda b, n: DeckLayer(kind="dish", name=n, amount=_middle(b, min(4 * MM,
    0.1 * _thick(b))))),
    "recess": ("Recess", lambda b, n: DeckLayer(kind="recess", name=n, amount=_middle(b, min(6 * MM, 0.15 * _thick(b))),
               layout=Layout("centre", Schedule.constant(round(0.5 * _half(b), 3))))),
    "platform": ("Raised foot pads", lambda b, n: DeckLayer(kind="platform", name=n, amount=_pads(b, min(3 * MM,
    0.1 * _thick(b))),
                 layout=Layout("centre", Schedule.constant(round(0.5 * _half(b), 3))), wall=radians(20))),
    "peak": ("Peaked deck", lambda b, n: DeckLayer(kind="peak", name=n, amount=_along(b, (0.6, 0.0), (0.85, min(15 * MM,
    0.15 * _thick(b)))))),
    "scallop": ("Scalloped tips", lambda b, n: DeckLayer(kind="scallop", name=n, amount=_tips(b, min(3 * MM,
    0.12 * _thick(b))))),
    "relief": ("Arm relief", lambda b, n: DeckLayer(kind="relief", name=n, amount=_along(b, (0.5, 0.0), (0.57,
    0.12 * _thick(b)), (0.68,
          0.12 * _thick(b)), (0.75, 0.0)),
               layout=Layout("edge", Schedule.constant(round(0.35 * _half(b), 3))))),
    "deck_bevel": ("Deck bevel", lambda b, n: DeckLayer(kind="deck_bevel", name=n, amount=_along(b, (0.05, radians(5)),
    (0.5, radians(5)), (0.7, 0.0)),
                   layout=Layout("edge", Schedule.constant(round(0.3 * _half(b), 3))))),
    "kick": ("Kick tail", lambda b, n: DeckLayer(kind="kick", name=n, amount=_along(b, (0.02, 12 * MM), (0.08, 4 * MM),
    (0.13, 0.0)))),
}  # fmt: skip
"""Deck features by key."""


def _thick(board: Board) -> float:
    return max(w.value for w in board.thickness.weights)


def _pads(board: Board, height: float) -> Schedule:
    rows = sorted(row.at.x(board.length, board.mast_x) for row in board.fittings.straps)
    feet = (rows[0], rows[-1]) if len(rows) > 1 else (0.5 * board.length - 0.26, 0.5 * board.length + 0.26)
    if feet[1] - feet[0] < 0.31:  # one pad carries both
        marks = [(feet[0] - 0.15, 0.0), (feet[0] - 0.1, height), (feet[1] + 0.1, height), (feet[1] + 0.15, 0.0)]
    else:
        marks = [(f + d, h) for f in feet for d, h in ((-0.15, 0.0), (-0.1, height), (0.1, height), (0.15, 0.0))]
    return Schedule(tuple((round(x, 4), h) for x, h in marks))


def own_name(board: Board, wanted: str) -> str:
    """The name, with a number where another layer has it already."""
    return numbered_name(wanted, {item.name for item in (*board.layers, *board.deck_layers)})


def numbered_name(wanted: str, taken: set[str]) -> str:
    """The name, with a number where it is taken already."""
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted} {number}", number + 1
    return name


def with_layer_added(board: Board, key: str) -> tuple[Board, str]:
    """One more bottom layer or deck feature; also its name.

    Raises
    ------
    RefusedEdit
        Where a board takes only one of them, or the layer needs what the board has not.
    """
    words, make = BOTTOM.get(key) or DECK[key]
    single = {"cut_away": board.cut_away, "plinth": board.plinth, "box_strip": board.plinth}
    if single.get(key) is not None:
        raise RefusedEdit("One is there already. Change it with its levers.")
    name = own_name(board, words)
    layer = make(board, name)
    why: tuple[Finding, ...] = ()
    for share in (1.0, 0.5, 0.25, 0.12, 0.05):  # a thin board has room for less
        made = _laid_on(board, _of_share(layer, share))
        shape = sections(made, Resolution.COARSE)
        if not isinstance(shape, tuple):
            return made, name
        why = shape
    raise RefusedEdit(f"There is no room for “{name}”: {why[0].text[0].lower()}{why[0].text[1:]}.")


def _laid_on(board: Board, layer: Layer | DeckLayer) -> Board:
    if isinstance(layer, DeckLayer):
        return replace(board, deck_layers=(*board.deck_layers, layer))
    return replace(board, layers=(*board.layers, layer))


def _of_share(layer: Layer | DeckLayer, share: float) -> Layer | DeckLayer:
    """The layer with its depth, height or angle at a share of its first size."""

    def less(schedule: Schedule) -> Schedule:
        return Schedule(tuple((x, v * share) for x, v in schedule.points))

    match layer:
        case ShapingLayer() | DeckLayer():
            return replace(layer, amount=less(layer.amount))
        case Ledge():
            return replace(layer, height=less(layer.height))
        case Channels():
            return replace(layer, depth=layer.depth * share)
        case CrossStep():
            return replace(layer, height=layer.height * share)
        case CutAway():
            return replace(layer, angle=layer.angle * share)
        case _:
            return layer


def with_winger(board: Board, x: float, kind: str) -> Board:
    """A winger or hip at `x` [m]."""
    if not 0.05 < x < board.length - 0.05:
        raise RefusedEdit("Put the cursor where it should stand, away from the tips.")
    half = float(half_width(board.outline, board.length, np.array([x]))[0])
    size = round(min(0.010, 0.06 * half), 4)
    winger = (
        Winger(kind="winger", x=x, pull_in=size, run=0.02)
        if kind == "winger"
        else Winger(kind="hip", x=x, pull_in=size / 2, run=0.15)
    )
    wingers = tuple(sorted((*board.outline.wingers, winger), key=lambda w: w.x))
    return replace(board, outline=replace(board.outline, wingers=wingers))


def with_parallel_run(board: Board, x: float, run: float = 0.30) -> Board:
    """A ruler parallel to the centreline over `run` [m] about `x`, at the width there; weights within give way."""
    start, end = x - run / 2, x + run / 2
    if start < 0.06 or end > board.length - 0.06:
        raise RefusedEdit("There is no room for a parallel run at the cursor.")
    half = float(half_width(board.outline.bare(), board.length, np.array([x]))[0])
    kept = [w for w in board.outline.batten.weights if not start - 0.04 < w.x < end + 0.04]
    laid = [Weight(round(start, 4), half, ruler=Ruler(0.10, 0.10)), Weight(round(end, 4), half)]
    weights = sorted((*kept, *laid), key=lambda w: w.x)
    return replace(board, outline=replace(board.outline, batten=replace(board.outline.batten, weights=tuple(weights))))


def with_fin_set(board: Board, arrangement: Arrangement) -> Board:
    """Another fin set, its main fin as large as the largest now."""
    old = board.fittings.fin_boxes
    span = max((b.fin.span for b in old), default=round(0.45 * _half(board), 3))
    thin = _thick(board) < 0.03
    fins = fin_set(
        arrangement,
        board.length,
        _half(board),
        span=span,
        box="bolts" if thin else "deep box" if span > 0.28 else "tab box",
        at=0.085 if arrangement == "four ends" else 0.055,
    )
    return replace(board, fittings=replace(board.fittings, fin_boxes=fins))


def with_fitting(board: Board, kind: str, x: float) -> Board:
    """One more fitting at `x` [m]: tracks, foil box, mast track, strap row, vent, leash plug, handle or pad."""
    fittings, at = board.fittings, Place("tail", round(x, 4))
    match kind:
        case "tracks":
            fittings = replace(fittings, tracks=FoilTracks(at=at))
        case "foil box":
            fittings = replace(fittings, tracks=FoilTracks(at=at, length=0.18, spacing=0.0, depth=0.09, mass=0.35))
        case "mast track":
            fittings = replace(fittings, mast_track=MastTrack(at=at))
        case "strap row":
            name, number = "Strap row", 2
            while any(row.name == name for row in fittings.straps):
                name, number = f"Strap row {number}", number + 1
            fittings = replace(fittings, straps=(*fittings.straps, StrapRow(name=name, at=at, half_spread=0.09)))
        case "pad":
            pad = Pad(
                name=f"Pad {len(fittings.pads) + 1}",
                start=Place("tail", round(max(x - 0.2, 0.0), 4)),
                end=Place("tail", round(x + 0.2, 4)),
            )
            fittings = replace(fittings, pads=(*fittings.pads, pad))
        case "vent" | "leash plug" | "handle":
            size = (0.15, 0.03) if kind == "handle" else (0.03, 0.014)
            fittings = replace(
                fittings,
                plugs=(
                    *fittings.plugs,
                    Plug(kind=kind, at=at, length=size[0], depth=min(size[1], 0.5 * _thick(board))),
                ),
            )
        case _:
            raise RefusedEdit(f"There is no fitting called {kind}.")
    return replace(board, fittings=fittings)


def without_fittings(board: Board, kind: str) -> Board:
    """All fittings of a kind taken off."""
    fittings = board.fittings
    match kind:
        case "tracks":
            fittings = replace(fittings, tracks=None)
        case "mast track":
            fittings = replace(fittings, mast_track=None)
        case "straps":
            fittings = replace(fittings, straps=())
        case "plugs":
            fittings = replace(fittings, plugs=())
        case _:
            fittings = replace(fittings, pads=())
    if fittings == board.fittings:
        raise RefusedEdit("There are none to take off.")
    return replace(board, fittings=fittings)
