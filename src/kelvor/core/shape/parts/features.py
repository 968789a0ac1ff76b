"""Features of a board that something can be said of, and where each is drawn."""

from __future__ import annotations

from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.layers import Channels, CrossStep, CutAway, Ledge, Plinth, ShapingLayer

WHOLE = "the whole board"


def features(board: Board) -> tuple[str, ...]:
    """What can be spoken of: the board, its ends and rails, its layers by name, what is fitted."""
    fittings = board.fittings
    fitted = [
        *(["foil tracks"] if fittings.tracks is not None else []),
        *(["mast track"] if fittings.mast_track is not None else []),
        *(box.name for box in fittings.fin_boxes),
        *(row.name for row in fittings.straps),
    ]
    layers = [layer.name for layer in (*board.layers, *board.deck_layers)]
    return (WHOLE, "tail", "nose", "rails", *dict.fromkeys([*layers, *fitted]))


def feature_place(board: Board, feature: str) -> float | None:
    """Where a feature is drawn, from the tail [m]; None for the whole board, and for what the board has not got."""
    length, mast, fittings = board.length, board.mast_x, board.fittings
    fixed = {"tail": 0.0, "nose": length, "rails": length / 2}
    if feature in fixed:
        return fixed[feature]
    if feature == "foil tracks" and fittings.tracks is not None:
        return fittings.tracks.at.x(length)
    if feature == "mast track" and fittings.mast_track is not None:
        return fittings.mast_track.at.x(length, mast)
    named = {part.name: part.at for part in fittings.straps} | {part.name: part.at for part in fittings.fin_boxes}
    if feature in named:
        return named[feature].x(length, mast)
    for layer in board.layers:
        if layer.name != feature:
            continue
        match layer:
            case CutAway():
                return layer.hinge.x(length, mast)
            case CrossStep():
                return layer.at.x(length, mast)
            case Ledge() | Channels() | Plinth():
                return (layer.start.x(length, mast) + layer.end.x(length, mast)) / 2
            case ShapingLayer():
                return max(layer.amount.points, key=lambda point: abs(point[1]))[0]
    for deck in board.deck_layers:
        if deck.name == feature:
            return max(deck.amount.points, key=lambda point: abs(point[1]))[0]
    return None
