"""What a workshop's own boards say of what was computed: a factor that shrinks towards the handbook where they are few.

r = ln(measured / computed), one for each board. Boards differ among themselves by s_b, and a workshop from the handbook
by s₀ before anything is known of it: m = (Σ r / s_b²) / (1 / s₀² + n / s_b²), and the next board's band is
√(1 / (1/s₀² + n/s_b²) + s_b²). From three boards on their own scatter counts: s_b² = (ν s_h² + Σ (r − r̄)²) / (ν + n
− 1) of the handbook's s_h, which is worth ν boards, and Student's quantile of as many degrees of freedom. Closed forms
of a normal mean with a normal prior, and of a scaled inverse χ² of the scatter (any text on Bayesian data analysis). A
board that lies more than three standard deviations from what the others let expect is doubted: it is named, and nothing
is learnt from it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from math import exp, inf, log, sqrt
from typing import Literal

from kelvor.core.base.values import frozen

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
WORTH = 2
"""So many boards the handbook's scatter is worth (judgement)."""
LEAST_OF_OWN = 3
"""From so many boards on their own scatter counts."""
DOUBTED = 3.0
"""Standard deviations beyond which a board is doubted: one in 370 lies there by chance (the normal law)."""
KINDS: tuple[Kind, ...] = ("mass", "least wind", "speed", "watts")


@frozen
class ComputedAndMeasured:
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
    doubted:
        Boards too far off to be learnt from, likewise.
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
    doubted: tuple[tuple[str, float], ...]
    error: float
    plain_error: float
    used: bool
    why: str


@frozen
class Believed:
    """What boards let expect of the next: the mean of r and its standard error, the boards' scatter about it, and its
    degrees of freedom, infinite where the handbook's is taken.
    """

    mean: float
    error: float
    scatter: float
    freedom: float

    @property
    def band(self) -> float:
        """Half width of the next board's value, 95 %."""
        from scipy.special import stdtrit  # not before somebody asks

        quantile = float(stdtrit(self.freedom, 0.975)) if self.freedom < inf else 1.96
        return quantile * self.deviation

    @property
    def deviation(self) -> float:
        """Standard deviation of the next board."""
        return sqrt(self.error**2 + self.scatter**2)


def believed(kind: Kind, ratios: Sequence[float]) -> Believed:
    """What boards of these r let expect."""
    far, apart = SPREADS[kind]
    n, own, freedom = len(ratios), apart**2, inf
    if n >= LEAST_OF_OWN:
        middle, freedom = sum(ratios) / n, WORTH + n - 1
        own = (WORTH * apart**2 + sum((r - middle) ** 2 for r in ratios)) / freedom
    precision = 1 / far**2 + n / own
    return Believed(sum(ratios) / own / precision, sqrt(1 / precision), sqrt(own), freedom)


def correction(kind: Kind, found: Iterable[ComputedAndMeasured]) -> Correction:
    """The correction of a kind of figure by what was measured; several readings of one board count as one board."""
    by_board: dict[str, list[ComputedAndMeasured]] = {}
    for one in found:
        if one.measured > 0 and one.computed > 0:
            by_board.setdefault(one.board, []).append(one)
    known = {key: sum(c.log_ratio for c in many) / len(many) for key, many in by_board.items()}
    doubted = _doubted(kind, known)
    told = {key: (by_board[key][0].name, exp(r)) for key, r in known.items()}
    ratios = [r for key, r in known.items() if key not in doubted]
    kept = tuple(told[key] for key in known if key not in doubted)
    left = tuple(told[key] for key in doubted)
    expected = believed(kind, ratios)
    band = expected.band
    of_doubted = f" {_doubt(left, expected.deviation)}" if left else ""
    if not ratios:
        why = of_doubted.strip() or "No board was measured yet."
        return Correction(kind, 1.0, band, kept, left, 0.0, 0.0, False, why)
    error, plain = _left_out(kind, ratios)
    used, factor = True, exp(expected.mean)
    if len(ratios) == 1:
        share = 1 - (expected.error / SPREADS[kind][0]) ** 2
        why = f"One board: {100 * share:.0f} % of what it says is believed."
    elif error >= plain:
        shares = f"{_share(error)} against {_share(plain)}"
        why = f"Left out one by one, the boards are met no better with it ({shares}): not used."
        used, factor = False, 1.0
    else:
        why = f"Left out one by one, the boards are met within {_share(error)}; without it within {_share(plain)}."
    return Correction(kind, factor, band, kept, left, error, plain, used, why + of_doubted)


def _doubted(kind: Kind, known: Mapping[str, float]) -> tuple[str, ...]:
    """Boards too far from what the others let expect, the farthest first, each judged by those that are left."""
    found: list[str] = []
    while len(found) < len(known):
        left = {key: r for key, r in known.items() if key not in found}
        off = {}
        for key, r in left.items():
            others = believed(kind, [other for k, other in left.items() if k != key])
            off[key] = abs(r - others.mean) / others.deviation
        farthest = max(off, key=lambda key: off[key])
        if off[farthest] <= DOUBTED:
            break
        found.append(farthest)
    return tuple(found)


def _doubt(doubted: Sequence[tuple[str, float]], deviation: float) -> str:
    named = ", ".join(f"{name} ({100 * (ratio - 1):+.0f} %)" for name, ratio in doubted[:3])
    more = f" and {len(doubted) - 3} more" if len(doubted) > 3 else ""
    told = "lies" if len(doubted) == 1 else "lie"
    return (
        f"{named}{more} {told} beyond three standard deviations (one is {100 * deviation:.0f} %): doubted, not learnt. "
        "Look at the reading again."
    )


def _share(value: float) -> str:
    return f"{100 * value:.1f} %"


def _left_out(kind: Kind, ratios: Sequence[float]) -> tuple[float, float]:
    """Root mean square miss of each board by what the others let expect, and by none."""
    misses = [r - believed(kind, [*ratios[:i], *ratios[i + 1 :]]).mean for i, r in enumerate(ratios)]
    return sqrt(sum(m * m for m in misses) / len(ratios)), sqrt(sum(r * r for r in ratios) / len(ratios))
