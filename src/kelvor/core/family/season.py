"""A season of winds, and which boards to register for it: those that together cover most of it within the quotas."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen

MOST_CHOICES = 200_000
"""So many sets of boards are looked through at most."""


@frozen
class Winds:
    """Winds of a season by the distribution of Weibull 1951: mean [m/s] and shape; 2 is Rayleigh's, usual over a year.

    Raises
    ------
    InputError
        When these are no distribution.
    """

    mean: float
    shape: float = 2.0

    def __post_init__(self) -> None:
        if not (math.isfinite(self.mean) and 0.5 <= self.mean <= 40):
            raise InputError("this is no mean wind of a season", where="Mean wind", accepts="Give 1 to 78 kn")
        if not (math.isfinite(self.shape) and 0.5 <= self.shape <= 10):
            raise InputError("this shape makes no season of winds", where="Shape", accepts="Give 1 to 4; 2 is usual")

    @property
    def scale(self) -> float:
        """The scale [m/s]: mean over Γ(1 + 1/k)."""
        return self.mean / math.gamma(1 + 1 / self.shape)

    def below(self, wind: float) -> float:
        """The share of the season below a wind [m/s]."""
        return 1.0 - math.exp(-((max(wind, 0.0) / self.scale) ** self.shape))

    def share(self, low: float, high: float) -> float:
        """The share between two winds [m/s]."""
        return max(self.below(high) - self.below(low), 0.0)


@frozen
class Entrant:
    """A board that might be registered: the winds it can be sailed in [m/s], and which quotas it counts for."""

    name: str
    windows: tuple[tuple[float, float], ...]
    counts: tuple[bool, ...] = ()


@frozen
class Choice:
    """Boards to register, by their places, the share of the season they cover together, and what each alone covers.

    `gaps` are winds between the lowest and the highest that none of them covers [m/s].
    """

    boards: tuple[int, ...]
    covered: float
    alone: tuple[float, ...]
    gaps: tuple[tuple[float, float], ...]


def best_choice(entrants: Sequence[Entrant], winds: Winds, most: int, quotas: Sequence[int] = ()) -> Choice:
    """The boards, `most` of them or fewer, that cover most of the season; of equal sets the smaller.

    The wind is cut where windows begin and end, and every set of boards is looked at.

    Raises
    ------
    InputError
        When no board has a window, none may be registered, or there are too many sets.
    """
    if most < 1:
        raise InputError("no board may be registered", where="Boards", accepts="Give 1 or more")
    usable = [i for i, one in enumerate(entrants) if one.windows]
    if not usable:
        raise InputError("no board has winds it can be sailed in", where="Boards", accepts="Give the brief its gear")
    if sum(math.comb(len(usable), k) for k in range(1, most + 1)) > MOST_CHOICES:
        raise InputError(
            f"{len(usable)} boards are too many to choose {most} of", where="Boards", accepts="Leave some out"
        )
    ends = sorted({end for i in usable for window in entrants[i].windows for end in window})
    parts = np.array([winds.share(a, b) for a, b in zip(ends[:-1], ends[1:], strict=True)])
    middles = [(a + b) / 2 for a, b in zip(ends[:-1], ends[1:], strict=True)]
    covers = np.array([[_covers(entrants[i], wind) for wind in middles] for i in usable]).reshape(len(usable), -1)
    counts = np.array([entrants[i].counts or (False,) * len(quotas) for i in usable], int).reshape(len(usable), -1)
    best: tuple[float, tuple[int, ...]] = (-1.0, ())
    for size in range(1, min(most, len(usable)) + 1):
        for chosen in combinations(range(len(usable)), size):
            if quotas and np.any(counts[list(chosen)].sum(axis=0) > np.array(quotas)):
                continue
            covered = float(parts @ covers[list(chosen)].any(axis=0))
            if covered > best[0] + 1e-12:
                best = covered, chosen
    if not best[1]:
        raise InputError("the quotas let no board be registered", where="Quotas", accepts="Look at the rule")
    boards = tuple(usable[i] for i in best[1])
    alone = tuple(float(parts @ covers[i]) for i in best[1])
    return Choice(boards, best[0], alone, _gaps([entrants[i] for i in boards]))


def _covers(entrant: Entrant, wind: float) -> bool:
    return any(low <= wind <= high for low, high in entrant.windows)


def _gaps(entrants: Sequence[Entrant]) -> tuple[tuple[float, float], ...]:
    gaps, reached = [], -math.inf
    for low, high in sorted(window for one in entrants for window in one.windows):
        if reached > -math.inf and low > reached + 0.1 * KNOT:
            gaps.append((reached, low))
        reached = max(reached, high)
    return tuple(gaps)


def board_changes(entrants: Sequence[Entrant]) -> list[tuple[str, str, float, float]]:
    """Where one board hands over to the next as the wind grows: names, and the winds between which both go [m/s]; the
    second end lies below the first where none goes in between.
    """
    spans = sorted(
        (min(w[0] for w in one.windows), max(w[1] for w in one.windows), one.name) for one in entrants if one.windows
    )
    return [(a[2], b[2], b[0], a[1]) for a, b in zip(spans[:-1], spans[1:], strict=True)]
