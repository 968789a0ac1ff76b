"""What a rule of sizing can be about: a lever, or a group of levers that go together."""

from __future__ import annotations

from collections.abc import Callable

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.layers import Channels, CutAway, Ledge, ShapingLayer

Keys = Callable[[Board], list[str]]


@frozen
class LeverGroup:
    """Levers that follow one rule: its words, their kind, and which of a board's they are."""

    words: str
    quantity: Quantity
    keys: Keys


def _layers(field: str, *, kinds: tuple[str, ...]) -> Keys:
    return lambda board: [
        f"layer.{item.name}.{field}" for item in board.layers if isinstance(item, ShapingLayer) and item.kind in kinds
    ]


def _cut_outs(field: str) -> Keys:
    return lambda board: [
        f"layer.{item.name}.{field}" for item in board.layers if isinstance(item, Ledge) and item.kind == "cut_out"
    ]


def _tail_cut(field: str) -> Keys:
    return lambda board: [f"layer.{item.name}.{field}" for item in board.layers if isinstance(item, CutAway)]


def _channels(field: str) -> Keys:
    return lambda board: [f"layer.{item.name}.{field}" for item in board.layers if isinstance(item, Channels)]


def _fins(field: str) -> Keys:
    return lambda board: [f"fin.{i}.fin.{field}" for i in range(len(board.fittings.fin_boxes))]


GROUPS: dict[str, LeverGroup] = {
    "panel V": LeverGroup("Panel V", Quantity.ANGLE, _layers("amount", kinds=("v",))),
    "inverted V": LeverGroup("Inverted V", Quantity.ANGLE, _layers("amount", kinds=("inverted_v",))),
    "hollows": LeverGroup("Hollows, depth", Quantity.DEPTH, _layers("amount", kinds=("hollow", "double", "tunnel"))),
    "side bevels": LeverGroup("Side bevels, width", Quantity.DEPTH, _layers("layout.width", kinds=("bevel",))),
    "cut-outs, width": LeverGroup("Cut-outs, width", Quantity.DEPTH, _cut_outs("line")),
    "cut-outs, length": LeverGroup("Cut-outs, length", Quantity.LENGTH, _cut_outs("end")),
    "tail cut, angle": LeverGroup("Tail cut, angle", Quantity.ANGLE, _tail_cut("angle")),
    "tail cut, hinge": LeverGroup("Tail cut, hinge", Quantity.LENGTH, _tail_cut("hinge")),
    "channels, length": LeverGroup("Channels, length", Quantity.LENGTH, _channels("end")),
    "fins, span": LeverGroup("Fins, span", Quantity.LENGTH, _fins("span")),
    "fins, base": LeverGroup("Fins, base", Quantity.LENGTH, _fins("base")),
}  # fmt: skip


@frozen
class LeverMeasure:
    """What a lever reads, without how: its key, its words, its kind, and a fair step [SI]. It can be sent."""

    key: str
    told: str
    quantity: Quantity
    step: float


def measure_of(lever: Lever) -> LeverMeasure:
    """What a lever reads."""
    return LeverMeasure(lever.key, lever.told, lever.quantity, lever.step)


def levers_about(board: Board, about: str) -> list[Lever]:
    """The levers of a board that a rule is about; none where the board has not got them."""
    keys = GROUPS[about].keys(board) if about in GROUPS else [about]
    there = {lever.key: lever for lever in levers(board)}
    return [there[key] for key in keys if key in there and not there[key].choices]


def check_about(about: str, board: Board) -> None:
    """Whether a rule can be about this.

    Raises
    ------
    InputError
        Where it is neither a group nor a lever of the board.
    """
    if about not in GROUPS and not levers_about(board, about):
        names = ", ".join([*list(GROUPS)[:4], "length", "width", "volume"])
        raise InputError(f"“{about}” is no measure of this board", where="rules of sizing", accepts=f"Such as {names}")


def words_about(board: Board, about: str) -> str:
    """What a rule is about, as it is read."""
    if about in GROUPS:
        return GROUPS[about].words
    found = levers_about(board, about)
    return "Volume" if about == "volume" else found[0].told if found else about


def quantity_about(board: Board, about: str) -> Quantity:
    """The kind of value a rule is about."""
    if about in GROUPS:
        return GROUPS[about].quantity
    found = levers_about(board, about)
    return found[0].quantity if found else Quantity.RATIO
