"""Levers of the parts a board happens to have: outline ends, wingers, bottom and deck layers, fittings.

What more of each gives and costs is common practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np

from kelvor.core.errors import RefusedEdit
from kelvor.core.levers.fields import Field, Part, field_levers
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import COLOURS, SURFACES, Board
from kelvor.core.shape.edits import with_layer, with_place_kept
from kelvor.core.shape.fin_sets import alignment
from kelvor.core.shape.fittings import BOX_SIZES, SECTIONS, Fittings
from kelvor.core.shape.layers import (
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
from kelvor.core.shape.outline import NOTCHED_TAILS
from kelvor.core.shape.places import Place
from kelvor.core.units import INCH, Quantity

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


def levers_of_parts(board: Board) -> list[Lever]:
    """Levers of everything this board has."""
    found = _end_levers(board) + _winger_levers(board)
    for item in board.layers:
        found += _layer_levers(item)
    for deck in board.deck_layers:
        found += _deck_levers(deck)
    finish = Part(lambda b: b.finish, lambda b, v: replace(b, finish=v))
    return found + _fitting_levers(board) + field_levers("finish", finish, _FINISH, "Fittings")


def layer_part(name: str) -> Part:
    """A layer by its name."""
    return Part(
        lambda board: next((item for item in (*board.layers, *board.deck_layers) if item.name == name), None),
        lambda board, layer: with_layer(board, name, layer),
    )


def _named(name: str, *fields: Field) -> tuple[Field, ...]:
    """Fields with the layer's name before their label."""
    return tuple(replace(f, label=f"{name}, {f.label}" if f.label else name) for f in fields)


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
            return field_levers(
                key,
                part,
                (
                    Field(
                        "angle",
                        f"{name} angle",
                        A,
                        DEG,
                        0.0,
                        45 * DEG,
                        "More lets the tail be pushed down to pump and lift off, the box staying level; it costs flat "
                        "and foam.",
                    ),
                    Field(
                        "hinge",
                        f"{name} hinge",
                        L,
                        0.01,
                        0.02,
                        math.inf,
                        "Counted from the tail. Further forward frees the tail sooner and shortens the flat.",
                    ),
                    Field("blend", f"{name} blend", L, 0.01, 0.0, 1.0, "How softly the kick begins."),
                ),
                "Rocker",
            )
        case Plinth():
            return field_levers(
                key,
                part,
                _named(
                    name,
                    Field(
                        "width",
                        "",
                        L,
                        0.01,
                        0.02,
                        0.6,
                        "Just as wide as the plate or box, so it sits true while V outboard still lets the board lean.",
                    ),
                    Field("start", "from", L, 0.01, 0.0, math.inf),
                    Field("end", "to", L, 0.01, 0.0, math.inf),
                ),
                group,
            )
        case CrossStep() | Ledge() | Channels():
            return _walled_levers(item, key, part)
    angle = item.kind in ANGLED
    most = Field("amount", "most", A if angle else D, DEG if angle else 0.001, -45 * DEG if angle else -0.08,
                 45 * DEG if angle else 0.08, _EXPLAINS[item.kind], schedule=True)  # fmt: skip
    return field_levers(key, part, _named(name, *_layout_field(item), most), group, key)


def _walled_levers(item: CrossStep | Ledge | Channels, key: str, part: Part) -> list[Lever]:
    """Levers of layers with walls of their own."""
    name, group = item.name, "Bottom layers"
    match item:
        case CrossStep():
            return field_levers(key, part, _named(
                name, Field("height", "height", D, 0.002, -0.1, 0.1,
                      "Volume is kept at rest, and the tail lets go quickly once moving; it costs build time."),
                Field("at", "from tail", L, 0.01, 0.02, math.inf), _WALL), group)  # fmt: skip
        case Ledge():
            words = (
                "Less wetted at speed, float kept at rest. Too large: the tail sinks, stalls, and the gybe is unstable."
                if item.kind == "cut_out"
                else "The board stands on the full width and runs on the inner hull."
            )
            return field_levers(
                key,
                part,
                _named(
                    name,
                    Field("line", f"line from the {item.across}", D, 0.005, 0.0, 0.7, words, schedule=True),
                    Field("height", "height", D, 0.002, 0.0, 0.2, words),
                    Field("start", "from", L, 0.01, 0.0, math.inf),
                    Field("end", "to", L, 0.01, 0.0, math.inf),
                    Field("run_out", "run-out", L, 0.02, 0.0, 3.0, "How softly it ends; 0 is a wall."),
                    _WALL,
                ),
                group,
                key,
            )
        case _:
            return field_levers(
                key,
                part,
                _named(
                    name,
                    Field(
                        "depth",
                        "depth",
                        D,
                        0.001,
                        0.0,
                        0.05,
                        "Grip with smaller fins and a defined pivot; more sanding.",
                    ),
                    Field("count", "a side", N, 1, 1, 6),
                    Field("width", "width", D, 0.002, 0.004, 0.2),
                    Field("gap", "land between", D, 0.002, 0.0, 0.3),
                    Field("inner", "inner lip", D, 0.005, 0.0, 0.6),
                    Field("toe", "toe", A, DEG, -20 * DEG, 20 * DEG, "Towards the centre going forward."),
                    Field("start", "from", L, 0.01, 0.0, math.inf),
                    Field("end", "to", L, 0.01, 0.0, math.inf),
                    Field("run_out", "run-out", L, 0.02, 0.0, 2.0),
                    _WALL,
                ),
                group,
            )


def _deck_levers(item: DeckLayer) -> list[Lever]:
    key, angle = f"deck.{item.name}", item.kind in ANGLED
    most = Field("amount", "most", A if angle else D, DEG if angle else 0.001, -45 * DEG if angle else -0.1,
                 45 * DEG if angle else 0.1, _EXPLAINS[item.kind], schedule=True)  # fmt: skip
    walled = (_WALL,) if item.kind in ("recess", "platform") and item.layout.across != "share" else ()
    return field_levers(key, layer_part(item.name), _named(item.name, most, *_layout_field(item), *walled), "Deck", key)


def _outline_part() -> Part:
    return Part(lambda board: board.outline, lambda board, outline: replace(board, outline=outline))


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
            _in_tuple(_outline_part(), "wingers", i),
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
            part = _in_tuple(_outline_part(), "wingers", i)
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


def _pull_in_angle(part: Part, board: Board) -> float:
    winger = part.get(board)
    return math.pi / 2 if winger.run <= 0 else math.atan2(winger.pull_in, winger.run)


def _with_pull_in_angle(part: Part, board: Board, value: float) -> Board:
    if not 2 * DEG <= value <= 90 * DEG + 1e-9:
        raise RefusedEdit("A winger's pull-in angle lies between 2 and 90°.")
    winger = part.get(board)
    run = 0.0 if value >= 90 * DEG - 1e-9 else winger.pull_in / math.tan(value)
    return part.put(board, replace(winger, run=min(run, 0.6)))


def _in_tuple(owner: Part, attribute: str, index: int) -> Part:
    """One entry of a tuple in a part."""

    def get(board: Board) -> Any:
        entries = getattr(owner.get(board), attribute)
        return entries[index] if index < len(entries) else None

    def put(board: Board, value: Any) -> Board:
        whole = owner.get(board)
        entries = getattr(whole, attribute)
        return owner.put(board, replace(whole, **{attribute: (*entries[:index], value, *entries[index + 1 :])}))

    return Part(get, put)


def _attribute(owner: Part, attribute: str) -> Part:
    return Part(
        lambda board: getattr(owner.get(board), attribute),
        lambda board, v: owner.put(board, replace(owner.get(board), **{attribute: v})),
    )


_FITTINGS = Part(lambda board: board.fittings, lambda board, fittings: replace(board, fittings=fittings))
_FINISH = (
    Field("colour", "Deck, colour", Quantity.CHOICE, 1, 0, len(COLOURS) - 1,
    "Dark decks grow hot in the sun: foam and laminate soften.",
          choices=COLOURS),
    Field("surface", "Deck, finish", Quantity.CHOICE, 1, 0, len(SURFACES) - 1,
    "Gloss seals and weighs; sanded is light and grips wax.",
          choices=SURFACES),
)  # fmt: skip
_FIN = (
    Field("at", "trailing edge, from tail", L, 0.005, 0.0, math.inf, "Forward frees the tail; back tracks."),
    Field("offset", "from the centre", L, 0.005, 0.0, 0.6, "Out engages sooner when heeled."),
    Field(
        "toe",
        "toe-in",
        A,
        0.25 * DEG,
        -10 * DEG,
        10 * DEG,
        "Said to engage later and forgive; a toed pair is loaded against itself at zero yaw.",
    ),
    Field("cant", "cant", A, DEG, -25 * DEG, 25 * DEG, "Leans the tips outward: forgiving, less drive."),
    Field(
        "fin.span", "span", L, 0.005, 0.005, 1.0, "Larger grips and lifts at low speed; drag, tail-walk and tripping."
    ),
    Field("fin.base", "base", L, 0.005, 0.01, 0.5, "Chord where it leaves the board."),
    Field(
        "fin.rake",
        "rake",
        A,
        DEG,
        -30 * DEG,
        65 * DEG,
        "Upright bites and pivots; raked draws long turns and sheds weed.",
    ),
    Field("fin.thickness", "thickness", R, 0.005, 0.01, 0.25, "Thicker holds at low speed; less quick."),
    Field(
        "fin.tip",
        "tip chord over base",
        R,
        0.05,
        0.0,
        1.0,
        "A wide tip grips; a narrow one lets go softly and sheds weed.",
    ),
    Field(
        "fin.section",
        "section",
        Quantity.CHOICE,
        1,
        0,
        len(SECTIONS) - 1,
        "Flat inside lifts one way: for the sides of a set.",
        choices=SECTIONS,
    ),
    Field(
        "kind",
        "box",
        Quantity.CHOICE,
        1,
        0,
        len(BOX_SIZES) - 1,
        "What takes the fin: its depth, its weight, how far the fin can be moved.",
        choices=tuple(BOX_SIZES),
    ),
    Field("fin.set_depth", "set depth in the box", D, 0.002, 0.0, 0.2, "What of the fin sits in the box."),
)


def _fitting_levers(board: Board) -> list[Lever]:
    return [*_strap_levers(board), *_foil_levers(board), *_fin_levers(board), *_other_fittings(board.fittings)]


def _strap_levers(board: Board) -> list[Lever]:
    fittings = board.fittings
    found: list[Lever] = []
    if len(fittings.straps) > 1:
        found.append(
            Lever(
                "stance",
                "Stance",
                "Fittings",
                L,
                INCH / 4,
                _stance,
                _with_stance,
                "Distance between front and back row, moved about its middle, a quarter inch at a time.",
            )
        )
    for i, row in enumerate(fittings.straps):
        part = _in_tuple(_FITTINGS, "straps", i)
        found += field_levers(
            f"strap.{row.name}",
            part,
            (
                Field(
                    "at",
                    row.name,
                    L,
                    0.01,
                    0.02,
                    math.inf,
                    "Where the feet go, from the tail. It moves along with its anchor.",
                ),
                Field(
                    "half_spread",
                    f"{row.name}, from the centre",
                    L,
                    0.005,
                    0.0,
                    0.6,
                    "Inboard is relaxed, outboard gives leverage.",
                ),
                Field("outboard", f"{row.name}, outboard row", L, 0.005, 0.0, 0.7, "A second, wider pair; 0 for none."),
                Field("inserts", f"{row.name}, inserts", N, 1, 1, 24, "How many places the strap can be screwed to."),
                Field("pitch", f"{row.name}, insert pitch", D, 0.005, 0.005, 0.2, "How finely the strap can be moved."),
                Field(
                    "angle",
                    f"{row.name}, foot angle",
                    A,
                    5 * DEG,
                    -60 * DEG,
                    60 * DEG,
                    "Toes forward of square across: duck stance, or both forward.",
                ),
            ),
            "Fittings",
        )
    return found


def _foil_levers(board: Board) -> list[Lever]:
    if board.fittings.tracks is None:
        return []
    return [
        *field_levers(
            "tracks",
            _attribute(_FITTINGS, "tracks"),
            (
                Field(
                    "length",
                    "Foil tracks, length",
                    L,
                    0.01,
                    0.05,
                    1.5,
                    "What they are longer than the plate is how far the mast can go.",
                ),
                Field(
                    "spacing",
                    "Foil tracks, spacing",
                    D,
                    0.001,
                    0.0,
                    0.4,
                    "Between their centre lines, to fit the plate; 0 for one deep box.",
                ),
            ),
            "Fittings",
        ),
        Lever(
            "tracks",
            "Foil tracks, middle",
            "Fittings",
            L,
            0.01,
            _tracks_at,
            _with_tracks_at,
            "Further forward lifts the nose and frees the tail; straps anchored to the mast move along.",
        ),
        Lever(
            "mast",
            "Mast on the tracks",
            "Fittings",
            L,
            0.01,
            lambda b: math.nan if b.mast_x is None else b.mast_x,
            _with_mast,
            "Where the foil stands today; the tracks give its range.",
        ),
    ]


def _fin_levers(board: Board) -> list[Lever]:
    fittings = board.fittings
    found: list[Lever] = []
    for i, box in enumerate(fittings.fin_boxes):
        single = ("offset", "toe", "cant")
        fields = tuple(f for f in _FIN if box.offset > 0 or f.path not in single)
        found += field_levers(f"fin.{i}", _in_tuple(_FITTINGS, "fin_boxes", i), _named(box.name, *fields), "Fins")
    if alignment(board) is not None:
        found.append(
            Lever(
                "fin_alignment",
                "Centre fin ahead of side fins' ends",
                "Fins",
                D,
                0.005,
                lambda b: alignment(b) or 0.0,
                _with_alignment,
                "Leading edge of the centre fin against the side fins' trailing edges: start in line, then forward is "
                "looser, back stiffer.",
                figure="fin_alignment",
            )
        )
    return found


def _other_fittings(fittings: Fittings) -> list[Lever]:
    """Mast track, plugs and pads."""
    found: list[Lever] = []
    if fittings.mast_track is not None:
        found += field_levers(
            "mast_track",
            _attribute(_FITTINGS, "mast_track"),
            (
                Field(
                    "at",
                    "Mast track, middle",
                    L,
                    0.01,
                    0.1,
                    math.inf,
                    "Forward frees the nose and holds the fin down; aft planes and turns.",
                ),
                Field("length", "Mast track, length", L, 0.01, 0.05, 1.0, "How far the mast can be moved."),
            ),
            "Fittings",
        )
    for i, plug in enumerate(fittings.plugs):
        found += field_levers(
            f"plug.{i}",
            _in_tuple(_FITTINGS, "plugs", i),
            (Field("at", plug.kind.capitalize(), L, 0.01, 0.02, math.inf, "Where it sits, from the tail."),),
            "Fittings",
        )
    for i, pad in enumerate(fittings.pads):
        found += field_levers(
            f"pad.{i}",
            _in_tuple(_FITTINGS, "pads", i),
            _named(
                pad.name,
                Field("start", "from", L, 0.01, 0.0, math.inf),
                Field("end", "to", L, 0.01, 0.0, math.inf),
                Field("thickness", "thickness", D, 0.001, 0.0, 0.06, "Softer under the foot, higher above the deck."),
                Field("cover", "share of the deck", R, 0.05, 0.0, 1.0),
                Field("areal_mass", "areal mass", Quantity.AREAL_MASS, 0.05, 0.0, 8.0),
            ),
            "Fittings",
        )
    return found


def _rows(board: Board) -> list[float]:
    return [row.at.x(board.length, board.mast_x) for row in board.fittings.straps]


def _stance(board: Board) -> float:
    rows = _rows(board)
    return max(rows) - min(rows) if len(rows) > 1 else math.nan


def _with_stance(board: Board, value: float) -> Board:
    rows = _rows(board)
    if len(rows) < 2 or not 0.1 <= value <= board.length - 0.1:
        raise RefusedEdit("A stance lies between 10 cm and the board's length.")
    shift = (value - (max(rows) - min(rows))) / 2
    middle = float(np.mean([min(rows), max(rows)]))
    moved = tuple(
        replace(
            row,
            at=Place.at(
                x + (shift if x > middle else -shift if x < middle else 0.0), row.at.datum, board.length, board.mast_x
            ),
        )
        for row, x in zip(board.fittings.straps, rows, strict=True)
    )
    return replace(board, fittings=replace(board.fittings, straps=moved))


def _tracks_at(board: Board) -> float:
    return math.nan if board.fittings.tracks is None else board.fittings.tracks.at.x(board.length)


def _with_tracks_at(board: Board, value: float) -> Board:
    tracks = board.fittings.tracks
    if tracks is None or not tracks.length / 2 <= value <= board.length - tracks.length / 2:
        raise RefusedEdit("The tracks must lie on the board.")
    return replace(
        board,
        fittings=replace(board.fittings, tracks=replace(tracks, at=Place.at(value, tracks.at.datum, board.length))),
    )


def _with_mast(board: Board, value: float) -> Board:
    tracks = board.fittings.tracks
    if tracks is None:
        raise RefusedEdit("There are no tracks.")
    middle = tracks.at.x(board.length)
    offset = value - middle
    if abs(offset) > tracks.travel + 1e-9:
        raise RefusedEdit(
            f"On these tracks the mast stands between {(middle - tracks.travel) * 100:.1f} and "
            f"{(middle + tracks.travel) * 100:.1f} cm."
        )
    return replace(board, fittings=replace(board.fittings, tracks=replace(tracks, mast=offset)))


def _with_alignment(board: Board, value: float) -> Board:
    """Move the centre fins along the board until they line up so."""
    now = alignment(board)
    if now is None or abs(value) > 0.5:
        raise RefusedEdit("The alignment lies within 50 cm.")
    boxes = tuple(
        replace(box, at=with_place_kept(board, box.at, value - now)) if box.offset == 0 else box
        for box in board.fittings.fin_boxes
    )
    return replace(board, fittings=replace(board.fittings, fin_boxes=boxes))
