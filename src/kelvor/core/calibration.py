"""What a workshop's own boards say of what was computed: a factor that shrinks towards the handbook where they are few.

r = ln(measured / computed), one for each board. Boards differ among themselves by s_b, and a workshop from the handbook
by s₀ before anything is known of it: m = (Σ r / s_b²) / (1 / s₀² + n / s_b²), and the next board's band is
√(1 / (1/s₀² + n/s_b²) + s_b²). Closed forms of a normal mean with a normal prior (any text on Bayesian data analysis).
"""

from __future__ import annotations

from collections.abc import Iterable
from math import exp, log, sqrt
from typing import Literal

from kelvor.core.values import frozen

Kind = Literal["mass", "least wind", "speed", "watts"]
SPREADS: dict[Kind, tuple[float, float]] = {
    "mass": (0.08, 0.04),
    "least wind": (0.15, 0.10),
    "speed": (0.10, 0.06),
    "watts": (0.15, 0.08),
}
"""How far a workshop lies from the handbook, and its boards from one another, as shares (our own estimate, no
source).
"""
KINDS: tuple[Kind, ...] = ("mass", "least wind", "speed", "watts")


@frozen
class Compared:
    """A board that was computed and measured in the same unit."""

    board: str
    name: str
    measured: float
    computed: float

    @property
    def log_ratio(self) -> float:
        """ln(measured / computed)."""
        return log(self.measured / self.computed)


@frozen
class Correction:
    """What a figure is multiplied by, and how good that is.

    Attributes
    ----------
    factor:
        Of a computed figure; 1 where nothing is corrected.
    band:
        Half width of the next board's value, 95 %, as a share of it.
    boards:
        What it rests on: names and measured / computed.
    error, plain_error:
        Root mean square of what each board is missed by when it is left out, with the correction and without, as
        shares.
    used:
        Whether it beats none on boards left out.
    why:
        In a sentence.
    """

    kind: Kind
    factor: float
    band: float
    boards: tuple[tuple[str, float], ...]
    error: float
    plain_error: float
    used: bool
    why: str


def correction(kind: Kind, found: Iterable[Compared]) -> Correction:
    """The correction of a kind of figure by what was measured; several readings of one board count as one board."""
    by_board: dict[str, list[Compared]] = {}
    for one in found:
        if one.measured > 0 and one.computed > 0:
            by_board.setdefault(one.board, []).append(one)
    far, apart = SPREADS[kind]
    ratios = [sum(c.log_ratio for c in many) / len(many) for many in by_board.values()]
    names = [many[0].name for many in by_board.values()]
    n = len(ratios)
    boards = tuple((name, exp(r)) for name, r in zip(names, ratios, strict=True))
    if n == 0:
        return Correction(kind, 1.0, 1.96 * sqrt(far**2 + apart**2), (), 0.0, 0.0, False, "No board was measured yet.")
    precision = 1 / far**2 + n / apart**2
    mean = sum(ratios) / apart**2 / precision
    band = 1.96 * sqrt(1 / precision + apart**2)
    error, plain = _left_out(ratios, far, apart)
    if n == 1:
        return Correction(
            kind,
            exp(mean),
            band,
            boards,
            error,
            plain,
            True,
            "One board: two thirds or so of what it says are believed.",
        )
    if error >= plain:
        told = f"{_share(error)} against {_share(plain)}"
        why = f"Left out one by one, the boards are met no better with it ({told}): not used."
        return Correction(kind, 1.0, band, boards, error, plain, False, why)
    why = f"Left out one by one, the boards are met within {_share(error)}; without it within {_share(plain)}."
    return Correction(kind, exp(mean), band, boards, error, plain, True, why)


def _share(value: float) -> str:
    return f"{100 * value:.1f} %"


def _left_out(ratios: list[float], far: float, apart: float) -> tuple[float, float]:
    """Root mean square miss of each board by the correction from the others, and by none."""
    n, total = len(ratios), sum(ratios)
    rest = 1 / far**2 + (n - 1) / apart**2
    misses = [r - (total - r) / apart**2 / rest for r in ratios]
    return sqrt(sum(m * m for m in misses) / n), sqrt(sum(r * r for r in ratios) / n)
