"""Topics of a ride: what is told together, with the figures and pictures it tells."""

from __future__ import annotations

from collections.abc import Callable

from kelvor.core.base.figures import FigureDefinition
from kelvor.core.base.values import frozen
from kelvor.core.ride.case import RideCase


@frozen
class Topic:
    """Figures and pictures (by key) that one function tells of a case. A figure belongs to one topic only."""

    figures: tuple[FigureDefinition, ...]
    pictures: tuple[str, ...]
    tell: Callable[[RideCase], None]

    def __call__(self, case: RideCase) -> None:
        """Tell them."""
        self.tell(case)


def tells(*figures: FigureDefinition, pictures: str = "") -> Callable[[Callable[[RideCase], None]], Topic]:
    """Makes a topic of the function below it."""
    return lambda tell: Topic(figures, tuple(pictures.split()), tell)
