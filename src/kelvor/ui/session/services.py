"""What the session asks of what lives beside it, without knowing who that is."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from kelvor.core.base.figures import Figures
    from kelvor.core.brief.brief import Brief


class Rides(Protocol):
    """Rides counted beside the window."""

    def ask(self) -> None:
        """Ask for the ride of what is on the bench."""

    def forget(self) -> None:
        """Another board, or the window goes."""

    def forget_pinned(self) -> None:
        """Another reference."""

    def brief_changes(self, before: Brief, brief: Brief) -> None:
        """The brief is about to change."""

    def figures(self) -> Figures:
        """Figures of the ride, as far as they are there."""

    def pinned_figures(self) -> Figures:
        """Those of the reference."""

    def behind(self) -> bool:
        """Whether they are still of what was on the bench before."""


class OwnFigures(Protocol):
    """Figures as the workshop's own boards say they are."""

    on: bool

    def figures(self, figures: Figures) -> Figures:
        """Figures as they are shown now."""


class ChosenMadeBoard(Protocol):
    """The made board that is chosen."""

    def serial(self) -> str:
        """Its serial, where it is made of the version on the bench."""
