"""Boards of the workshop laid behind the one on the bench, at any of their versions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from kelvor.core.errors import InputError
from kelvor.core.live import evaluate_live
from kelvor.ui.bench.shown import Shown

if TYPE_CHECKING:
    from kelvor.ui.session import Session

BESIDE = ("beside", "beside_b", "beside_c")
"""Colours and dashes of what is laid behind, in turn."""
MOST = 5
"""So many boards lie behind the one on the bench."""


@dataclass(frozen=True, slots=True)
class Wanted:
    """A board at a version: what it is called, its ids and the version's number."""

    name: str
    board: int
    step: int
    number: int


def lay_behind(session: Session, wanted: Sequence[Wanted], *, beside: bool = False) -> tuple[Shown, ...]:
    """Lay boards behind the one on the bench, in place of those that lie there or `beside` them; those that do.

    Which cannot be read or drawn any more is said, and the others are laid.
    """
    shown = list(session.beside) if beside else []
    missing = []
    for one in wanted:
        if any(other.step == one.step for other in shown):
            continue
        try:
            board = (
                session.board_at(one.step) if one.board == session.board_id else session.workshop.store.board(one.step)
            )
        except InputError as error:
            missing.append(str(error))
            continue
        live = evaluate_live(board, session.brief, table=session.table, coefficients=session.coefficients)
        if isinstance(live, tuple):
            missing.append(f"{one.name} cannot be drawn any more: {live[0].text}.")
        else:
            shown.append(Shown(live, one.name, board=one.board, step=one.step, number=one.number))
    laid = [replace(other, role=BESIDE[i % len(BESIDE)]) for i, other in enumerate(shown[-MOST:])]
    session.show_beside(laid)
    if missing:
        session.said.emit("problem", " ".join(missing))
    elif laid:
        session.said.emit("note", f"Behind the board on the bench: {', '.join(other.name for other in laid)}.")
    else:
        session.said.emit("note", "Choose other boards to lay behind the one on the bench.")
    return tuple(laid)
