"""Levers of the parts a board happens to have: outline ends, wingers, bottom and deck layers, fittings.

What more of each gives and costs is common practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity
from kelvor.core.levers.fields import BoardPart, Field, field_levers, fields_of_part, in_tuple
from kelvor.core.levers.fittings import fitting_levers
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.outline import NOTCHED_TAILS
from kelvor.core.shape.edits.edits import with_layer
from kelvor.core.shape.parts.layers import (
    ANGLED,
    Channels,
    CrossStep,
    CutAway,
    DeckLayer,
    Layer,
    Ledge,
    Plinth,
    ShapingLayer,
)

L, D, A, R, N, M = Quantity.LENGTH, Quantity.DEPTH, Quantity.ANGLE, Quantity.RATIO, Quantity.COUNT, Quantity.MASS
DEG = math.radians(1)

_EXPLAINS = {
    "belly": "Round bottom: rolls freely and touches down softly; planes later and stands less steady.",
    "v": "V rolls and releases, cuts chop; it costs lift and early planing.",
    "inverted_v": "Two flats into the centre: lifts like a single concave, but a straight edge can check it.",
    "hollow": "A hollow lifts and planes early; it catches chop and is hard to keep symmetric by hand.",
    "double": "A double concave softens chop and rolls with less effort. It moves only the mid line.",
    "tunnel": "A tunnel run deep to the tail grips; at both tips it keeps water between the fins.",
    "spine": "A centre spine lands softly and centres itself; it costs flat.",
    "bevel": "An outer bevel leans further without catching, and steadies the way on and off the wind.",
    "side_flat": "Side flats steady the board on and off the wind. The angle is how much they rise outward.",
    "dish": "A dished deck lowers the rider and connects; it holds water.",
    "recess": "Lower and more connected; it holds water, and narrows the stance if it is wide.",
    "platform": "Raises what the foot stands on; heel and toe press further out.",
    "peak": "A peaked deck sheds water and carries volume at the centre.",
    "scallop": "Thins the tips: lighter to swing, softer to flex.",
    "relief": "Lets the arms reach the water beside the chest; it costs volume at the rail.",
    "deck_bevel": "Feet reach a lower edge and the board leans further; it costs volume outboard.",
    "kick": "Lifts the tail of the deck, for the back foot to push against.",
}
_WALL = Field(
    "wall", "wall angle", A, 5 * DEG, 5 * DEG, 90 * DEG, "Steep releases, smooth is not felt as a kink. Schools differ."
)
_RUN = (Field("start", "from", L, 0.01, 0.0, math.inf), Field("end", "to", L, 0.01, 0.0, math.inf))
_CUT_AWAY = (
    Field("angle", "angle", A, DEG, 0.0, 45 * DEG,
          "More lets the tail be pushed down to pump and lift off, the box staying level; it costs flat and foam."),
    Field("hinge", "hinge", L, 0.01, 0.02, math.inf,
          "Counted from the tail. Further forward frees the tail sooner and shortens the flat."),
    Field("blend", "blend", L, 0.01, 0.0, 1.0, "How softly the kick begins."),
)  # fmt: skip
_PLINTH = (
    Field("width", "", L, 0.01, 0.02, 0.6,
          "Just as wide as the plate or box, so it sits true while V outboard still lets the board lean."),
    *_RUN,
)  # fmt: skip
_CROSS_STEP = (
    Field("height", "height", D, 0.002, -0.1, 0.1,
          "Volume is kept at rest, and the tail lets go quickly once moving; it costs build time."),
    Field("at", "from tail", L, 0.01, 0.02, math.inf),
    _WALL,
)  # fmt: skip
_CHANNELS = (
    Field("depth", "depth", D, 0.001, 0.0, 0.05, "Grip with smaller fins and a defined pivot; more sanding."),
    Field("count", "a side", N, 1, 1, 6),
    Field("width", "width", D, 0.002, 0.004, 0.2),
    Field("gap", "land between", D, 0.002, 0.0, 0.3),
    Field("inner", "inner lip", D, 0.005, 0.0, 0.6),
    Field("toe", "toe", A, DEG, -20 * DEG, 20 * DEG, "Towards the centre going forward."),
    *_RUN,
    Field("run_out", "run-out", L, 0.02, 0.0, 2.0),
    _WALL,
)  # fmt: skip
_CUT_OUT = "Less wetted at speed, float kept at rest. Too large: the tail sinks, stalls, and the gybe is unstable."
_INNER_HULL = "The board stands on the full width and runs on the inner hull."


def levers_of_parts(board: Board) -> list[Lever]:
    """Levers of everything this board has."""
    found = _end_levers(board) + _winger_levers(board)
    for item in board.layers:
        found += _layer_levers(item)
    for deck in board.deck_layers:
        found += _deck_levers(deck)
    return found + fitting_levers(board)


def layer_part(name: str) -> BoardPart:
    """A layer by its name."""
    return BoardPart(
        lambda board: next((item for item in (*board.layers, *board.deck_layers) if item.name == name), None),
        lambda board, layer: with_layer(board, name, layer),
    )


def _layout_field(item: ShapingLayer | DeckLayer) -> tuple[Field, ...]:
    if item.layout.across == "share":
        return ()
    words = f"from the {item.layout.across}"
    return (Field("layout.width", words, D, 0.002, 0.002, 0.7, f"How wide the layer lies, measured {words}."),)


def _layer_levers(item: Layer) -> list[Lever]:
    name, key = item.name, f"layer.{item.name}"
    part = layer_part(name)
    group = "Bottom layers"
    match item:
        case CutAway():
            labelled = tuple(replace(f, label=f"{name} {f.label}") for f in _CUT_AWAY)
            return field_levers(key, part, labelled, "Rocker")
        case Plinth():
            return field_levers(key, part, fields_of_part(name, *_PLINTH), group)
        case CrossStep():
            return field_levers(key, part, fields_of_part(name, *_CROSS_STEP), group)
        case Ledge():
            words = _CUT_OUT if item.kind == "cut_out" else _INNER_HULL
            return field_levers(key, part, fields_of_part(name, *_ledge_fields(item.across, words)), group, key)
        case Channels():
            return field_levers(key, part, fields_of_part(name, *_CHANNELS), group)
    return field_levers(key, part, fields_of_part(name, *_layout_field(item), _most(item.kind, 0.08)), group, key)


def _most(kind: str, deepest: float) -> Field:
    """The most a layer does: an angle, or a depth up to `deepest` [m] either way."""
    angle = kind in ANGLED
    quantity, step, end = (A, DEG, 45 * DEG) if angle else (D, 0.001, deepest)
    return Field("amount", "most", quantity, step, -end, end, _EXPLAINS[kind], schedule=True)


def _ledge_fields(across: str, words: str) -> tuple[Field, ...]:
    """Fields of a ledge counted from what it lies `across` from; `words` say what it is good for."""
    return (
        Field("line", f"line from the {across}", D, 0.005, 0.0, 0.7, words, schedule=True),
        Field("height", "height", D, 0.002, 0.0, 0.2, words),
        *_RUN,
        Field("run_out", "run-out", L, 0.02, 0.0, 3.0, "How softly it ends; 0 is a wall."),
        _WALL,
    )


def _deck_levers(item: DeckLayer) -> list[Lever]:
    key, most = f"deck.{item.name}", _most(item.kind, 0.1)
    walled = (_WALL,) if item.kind in ("recess", "platform") and item.layout.across != "share" else ()
    return field_levers(
        key, layer_part(item.name), fields_of_part(item.name, most, *_layout_field(item), *walled), "Deck", key
    )


def _outline_part() -> BoardPart:
    return BoardPart(lambda board: board.outline, lambda board, outline: replace(board, outline=outline))


def _end_levers(board: Board) -> list[Lever]:
    outline, fields = board.outline, []
    if not outline.tail_closed and outline.tail in ("squash", *NOTCHED_TAILS):
        fields.append(
            Field(
                "corner_radius",
                "Tail corner radius",
                D,
                0.005,
                0.0,
                0.4,
                "Round corners release; square ones hold area to the tip.",
            )
        )
    if outline.tail in NOTCHED_TAILS:
        fields += [
            Field(
                "tail_depth",
                f"Tail {outline.tail} depth",
                D,
                0.005,
                0.0,
                0.4,
                "Two pins in place of one wide tail: bite, with the rail carried back.",
            ),
            Field("tail_spread", f"Tail {outline.tail} spread", D, 0.005, 0.0, 0.8, "Width of the notch at the tail."),
        ]
    if outline.tail == "diamond":
        fields.append(
            Field(
                "tail_depth",
                "Tail diamond length",
                D,
                0.005,
                0.0,
                0.4,
                "Shortens the rail and keeps a point to pivot on.",
            )
        )
    if outline.nose in ("blunt", "notched"):
        fields.append(Field("nose_radius", "Nose corner radius", D, 0.005, 0.0, 0.4))
    if outline.nose == "notched":
        fields += [
            Field("nose_depth", "Nose notch depth", D, 0.005, 0.0, 0.4),
            Field("nose_spread", "Nose notch width", D, 0.005, 0.0, 0.8),
        ]
    return field_levers("outline", _outline_part(), tuple(fields), "Outline")


def _winger_levers(board: Board) -> list[Lever]:
    found: list[Lever] = []
    for i, winger in enumerate(board.outline.wingers):
        name = f"{winger.kind.capitalize()} {i + 1}" if len(board.outline.wingers) > 1 else winger.kind.capitalize()
        found += field_levers(
            f"winger.{i}",
            in_tuple(_outline_part(), "wingers", i),
            (
                Field(
                    "x",
                    f"{name}, from tail",
                    L,
                    0.01,
                    0.02,
                    6.0,
                    "A pivot point where the back foot pushes; more pull-in behind it is looser.",
                ),
                Field(
                    "pull_in",
                    f"{name}, {'pull-in' if winger.kind == 'winger' else 'stands out'}",
                    D,
                    0.002,
                    0.0,
                    0.15,
                    "It costs tail power.",
                ),
                Field("run", f"{name}, run", D, 0.01, 0.0, 0.6, "0 makes a winger square."),
            ),
            "Outline",
        )
        if winger.kind == "winger":
            part = in_tuple(_outline_part(), "wingers", i)
            found.append(
                Lever(
                    f"winger.{i}.angle",
                    f"{name}, pull-in angle",
                    "Outline",
                    A,
                    5 * DEG,
                    partial(_pull_in_angle, part),
                    partial(_with_pull_in_angle, part),
                    "Sharp breaks the rail line and pivots; gentle keeps its drive.",
                )
            )
    return found


def _pull_in_angle(part: BoardPart, board: Board) -> float:
    winger = part.get(board)
    return math.pi / 2 if winger.run <= 0 else math.atan2(winger.pull_in, winger.run)


def _with_pull_in_angle(part: BoardPart, board: Board, value: float) -> Board:
    if not 2 * DEG <= value <= 90 * DEG + 1e-9:
        raise RefusedEdit("A winger's pull-in angle lies between 2 and 90°.")
    winger = part.get(board)
    run = 0.0 if value >= 90 * DEG - 1e-9 else winger.pull_in / math.tan(value)
    return part.put(board, replace(winger, run=min(run, 0.6)))
