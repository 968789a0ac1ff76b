"""Phases of two boards side by side under one brief and condition, with the band of every difference."""

from __future__ import annotations

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.figures import Better, Figure, Figures, difference_band, told_apart
from kelvor.core.base.values import frozen
from kelvor.core.ride.phases import PHASES


@frozen
class Apart:
    """A figure of two boards and what tells them apart.

    Attributes
    ----------
    here, there:
        The figure of the reference and of the other board; None where one has none.
    band:
        Half-width of the band of their difference, in SI; NaN without one.
    counting:
        Whether what coefficients leave open is still being counted, so that the band may yet change.
    """

    key: str
    here: Figure | None
    there: Figure | None
    band: float
    counting: bool

    @property
    def figure(self) -> Figure:
        """The figure of one that has it."""
        found = self.there if self.there is not None else self.here
        assert found is not None
        return found

    @property
    def known(self) -> bool:
        """Whether both have a value inside its method's range."""
        return all(f is not None and f.exists and f.valid for f in (self.here, self.there))

    @property
    def more(self) -> float:
        """What the other has more, in SI; NaN where one has no value."""
        if self.here is None or self.there is None or not (self.here.exists and self.there.exists):
            return float("nan")
        return self.there.value - self.here.value

    @property
    def told(self) -> bool:
        """Whether they can be told apart."""
        return self.known and self.here is not None and self.there is not None and told_apart(self.here, self.there)

    @property
    def better(self) -> bool | None:
        """Whether the other is better, where they can be told apart and that can be said."""
        wanted = self.figure.definition.better
        if not self.told or wanted is Better.NEITHER:
            return None
        return (self.more > 0) == (wanted is Better.MORE)


@frozen
class PhaseApart:
    """A phase of two boards: the figure that heads it first."""

    name: str
    question: str
    figures: tuple[Apart, ...]


def phases_apart(discipline: Discipline, here: Figures, there: Figures) -> tuple[PhaseApart, ...]:
    """Every phase of a discipline with the figures that either board has."""
    return tuple(
        PhaseApart(
            phase.name,
            phase.question,
            tuple(_apart(key, here, there) for key in phase.figures if key in here or key in there),
        )
        for phase in PHASES[discipline]
    )


def _apart(key: str, here: Figures, there: Figures) -> Apart:
    a, b = here.get(key), there.get(key)
    if a is None or b is None:
        return Apart(key, a, b, float("nan"), False)
    return Apart(key, a, b, difference_band(a, b), a.counting or b.counting)
