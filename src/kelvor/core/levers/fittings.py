"""Levers of what is fitted to a board: straps, mast track, fins and boxes, leash, handles, pads; and its finish.

What more of each gives and costs is common practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import INCH, Quantity
from kelvor.core.levers.fields import BoardPart, Field, attribute_of, field_levers, fields_of_part, in_tuple
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import COLOURS, SURFACES, Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.edits.edits import with_place_kept
from kelvor.core.shape.parts.fin_sets import alignment
from kelvor.core.shape.parts.fittings import BOX_SIZES, SECTIONS, Fittings

L, D, A, R, N, M = Quantity.LENGTH, Quantity.DEPTH, Quantity.ANGLE, Quantity.RATIO, Quantity.COUNT, Quantity.MASS
DEG = math.radians(1)

_FITTINGS = BoardPart(lambda board: board.fittings, lambda board, fittings: replace(board, fittings=fittings))
_FINISH_OF = BoardPart(lambda board: board.finish, lambda board, finish: replace(board, finish=finish))
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


def fitting_levers(board: Board) -> list[Lever]:
    """Levers of straps, foil mounting, fins, whatever else is fitted, and of the finish."""
    return [
        *_strap_levers(board),
        *_foil_levers(board),
        *_fin_levers(board),
        *_other_fittings(board.fittings),
        *field_levers("finish", _FINISH_OF, _FINISH, "Fittings"),
    ]


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
        part = in_tuple(_FITTINGS, "straps", i)
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
            attribute_of(_FITTINGS, "tracks"),
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
        found += field_levers(
            f"fin.{i}", in_tuple(_FITTINGS, "fin_boxes", i), fields_of_part(box.name, *fields), "Fins"
        )
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
            attribute_of(_FITTINGS, "mast_track"),
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
            in_tuple(_FITTINGS, "plugs", i),
            (Field("at", plug.kind.capitalize(), L, 0.01, 0.02, math.inf, "Where it sits, from the tail."),),
            "Fittings",
        )
    for i, pad in enumerate(fittings.pads):
        found += field_levers(
            f"pad.{i}",
            in_tuple(_FITTINGS, "pads", i),
            fields_of_part(
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
