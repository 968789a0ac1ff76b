"""The power that ties a measure to the riders' mass over a family, with its interval and each size's miss."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen

LEVEL = 0.95


@frozen
class PowerLaw:
    """value = at_one · mass^power, by least squares of the logarithms.

    Attributes
    ----------
    low, high:
        The interval of the power at 95 %; equal to nothing known (−∞, ∞) for two sizes.
    misses:
        By how much of itself each size lies over the law.
    """

    at_one: float
    power: float
    low: float
    high: float
    misses: tuple[float, ...]

    def at(self, mass: float) -> float:
        """What the law says for a mass [kg]."""
        return float(self.at_one * mass**self.power)


def power_law(masses: Sequence[float], values: Sequence[float]) -> PowerLaw:
    """The power law through a family.

    Raises
    ------
    InputError
        When there are fewer than two masses, or a value is not above nothing.
    """
    m, v = np.asarray(masses, float), np.asarray(values, float)
    if len(np.unique(m)) < 2:
        raise InputError("a law needs two sizes", where="family", accepts="Add a size for another rider")
    if not (np.all(v > 0) and np.all(np.isfinite(v))):
        raise InputError("a power law is for values above nothing", where="family")
    x, y = np.log(m) - np.mean(np.log(m)), np.log(v)
    power = float(x @ (y - y.mean()) / (x @ x))
    rest = y - y.mean() - power * x
    free = len(m) - 2
    if free > 0:
        from scipy.special import stdtrit  # not before a family is looked at

        half = float(stdtrit(free, (1 + LEVEL) / 2)) * float(np.sqrt(rest @ rest / free / (x @ x)))
    else:
        half = float("inf")
    at_one = float(np.exp(y.mean() - power * np.mean(np.log(m))))
    return PowerLaw(at_one, power, power - half, power + half, tuple(float(r) for r in np.expm1(rest)))


LAWS: dict[str, tuple[float, str]] = {
    "volume": (1.0, "scaled alike: 1; the same float for the weight: 1"),
    "planform_area": (2 / 3, "scaled alike: 2/3; the same load on the area: 1"),
    "length": (1 / 3, "scaled alike: 1/3; the same planing load: 1/2"),
    "width": (1 / 3, "scaled alike: 1/3"),
}
"""What geometry alone would have: isometric powers against the weight carried."""
