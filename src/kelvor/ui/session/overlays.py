"""What lies behind the board on the bench: its reference, and boards of the workshop at any of their versions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures, by_key
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.ui.background.timers import single_shot
from kelvor.ui.session.shown_boards import Shown

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session

BESIDE = ("beside", "beside_b", "beside_c")
"""Colours and dashes of what is laid behind, in turn."""
MOST = 5
"""So many boards lie behind the one on the bench."""


@frozen
class Wanted:
    """A board at a version: what it is called, its ids and the version's number."""

    name: str
    board: int
    step: int
    number: int


class BoardOverlays:
    """What lies behind the board on the bench: the reference, which is one of its own steps, and other boards.

    Attributes
    ----------
    step, live, figures:
        The reference: which step it is, its live figures and all of them; None and nothing without one.
    beside:
        Other boards.
    """

    def __init__(self, session: Session) -> None:
        self._session = session
        self.step: int | None = None
        self.live: Live | None = None
        self._figures: Figures = {}
        self.beside: list[Shown] = []
        self._timer = single_shot(session, 0, self._settle)

    @property
    def figures(self) -> Figures:
        """All figures of the reference, as they are shown: plain, or by our own boards."""
        return self._session.ours.figures(self._figures)

    def take(self, figures: Figures) -> None:
        """More is counted of the reference."""
        self._figures = {**self._figures, **figures}

    def load(self, step_id: int | None) -> None:
        """Compare with a step from now on; whoever asks tells that something changed."""
        session = self._session
        self.step, self.live, self._figures = step_id, None, {}
        session.rides.forget_pinned()
        if step_id is None or not session.started:  # it comes with the second picture
            return
        try:
            live = evaluate_live(
                session.board_at(step_id), session.brief, table=session.table, coefficients=session.coefficients
            )
        except InputError as error:
            session.message.emit("problem", f"The reference cannot be shown. {error}")
            return
        if not isinstance(live, tuple):
            self.live = live
            self._figures = by_key(live.figures)
            self._timer.start()

    def show(self, step_id: int | None) -> None:
        """Compare with a step; raises InputError when it cannot be read."""
        session = self._session
        if step_id is not None:
            session.board_at(step_id)
        self.load(step_id)
        session.steps_changed.emit()
        session.live_changed.emit()
        session.settled.emit()
        session.rides.ask()

    def counted(self) -> Figures:
        """Figures of the reference, counted now where they are not yet."""
        if self._timer.isActive():
            self._timer.stop()
            self._settle()
        return self._figures

    def _settle(self) -> None:
        """Float of the reference: after the first picture, not before it."""
        if self.live is not None:
            from kelvor.core.evaluation.evaluation import settle

            self._figures = {**settle(self.live).figures, **self._session.rides.pinned_figures()}
            self._session.settled.emit()

    def name(self) -> str:
        """The reference, such as “version 9”, or nothing."""
        steps = self._session.steps
        return f"version {steps[self.step].number}" if self.step in steps and self.step else ""

    def others(self) -> tuple[Shown, ...]:
        """The reference, where it is another board than the one on the bench, and those beside it."""
        session = self._session
        if self.live is None or self.step is None or self.live.board == session.live.board:
            return tuple(self.beside)
        number = session.steps[self.step].number if self.step in session.steps else 0
        shown = Shown(self.live, self.name(), "pinned", board=session.board_id, step=self.step, number=number)
        return (shown, *self.beside)

    def show_beside(self, boards: list[Shown]) -> None:
        """Show these boards behind the one on the bench, besides the reference."""
        self.beside = list(boards)
        self._session.live_changed.emit()
        self._session.rides.ask()


def lay_behind(session: Session, wanted: Sequence[Wanted], *, beside: bool = False) -> tuple[Shown, ...]:
    """Lay boards behind the one on the bench, in place of those that lie there or `beside` them; those that do.

    Which cannot be read or drawn any more is said, and the others are laid.
    """
    shown = list(session.overlays.beside) if beside else []
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
    session.overlays.show_beside(laid)
    if missing:
        session.message.emit("problem", " ".join(missing))
    elif laid:
        session.message.emit("note", f"Behind the board on the bench: {', '.join(other.name for other in laid)}.")
    else:
        session.message.emit("note", "Choose other boards to lay behind the one on the bench.")
    return tuple(laid)
