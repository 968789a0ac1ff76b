"""Which board of a range for whom: litres by weight and skill, and whether it gets going in the rider's wind.

The litres a rider should have are the parent's, for the weight by the family's own power, for skill by the shares that
sizes are proposed with (common practice, no source). How easy it is to learn on is a judgement in words, no number.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal, get_args

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figure, Figures
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Skill
from kelvor.core.new_board.proposals import SKILL_VOLUME

Sea = Literal["flat", "chop", "waves"]
SEAS: tuple[Sea, ...] = get_args(Sea)
WINDS = ("least_wind_up", "least_wind")
"""Figures that tell from what wind a board goes."""
EASY, PRACTICE = 0.95, 0.78
"""Shares of a learner's litres from which a board is easy to learn on, and asks for practice (judgement)."""
RIDERS = "for those who ride already"
RIDERS_ONLY: frozenset[Discipline] = frozenset(
    ("slalom", "course racing", "wave windsurf", "downwind foil", "paddle race", "prone race")
)
"""Nobody learns on boards made for racing, for breaking waves under a sail or for paddling up in swell (judgement)."""


@frozen
class Customer:
    """Somebody who asks for a board: mass [kg], skill, the wind they have [m/s; 0 where none is needed], water."""

    mass: float
    skill: Skill = "riding"
    wind: float = 0.0
    sea: Sea = "flat"


def wanted_litres(volume: float, mass: float, skill: Skill, power: float, customer: Customer) -> float:
    """Litres for a customer [m³], from those of a parent for a rider of `mass` [kg] and `skill`.

    Raises
    ------
    InputError
        When the customer is no rider.
    """
    if not 15 <= customer.mass <= 250:
        raise InputError("this is no rider", where="Rider", accepts="Give 15 to 250 kg")
    share = SKILL_VOLUME[customer.skill] / SKILL_VOLUME[skill]
    return float(volume * (customer.mass / mass) ** power * share)


@frozen
class Fit:
    """A board of the range for a customer.

    Attributes
    ----------
    off:
        The logarithm of its litres over those wanted.
    wind:
        The wind from which it goes under this rider, where that is computed.
    goes:
        Whether that is no more than the customer's wind, None where it cannot be told.
    """

    name: str
    volume: float
    wanted: float
    off: float
    wind: Figure | None
    goes: bool | None


def fits(boards: Sequence[tuple[str, float, Figures]], customer: Customer, wanted: float) -> list[Fit]:
    """Boards (name, litres [m³], figures under this rider), the best first: those that go in the wind before those that
    do not, each nearest in litres first; of two as near, the larger for who learns and the smaller for others.
    """
    found = []
    for name, volume, figures in boards:
        wind = next((f for key in WINDS if (f := figures.get(key)) is not None and f.exists and f.valid), None)
        goes = None
        if wind is not None and customer.wind > 0:
            over = wind.value - customer.wind
            goes = None if abs(over) <= wind.band else over < 0
        found.append(Fit(name, volume, wanted, math.log(volume / wanted), wind, goes))
    sign = -1.0 if customer.skill == "learning" else 1.0
    return sorted(found, key=lambda fit: (fit.goes is False, round(abs(fit.off), 2), sign * fit.volume))


def ease(volume: float, learners: float, discipline: Discipline) -> str:
    """How easy a board is to learn on, as a judgement in words: by its litres over those a learner should have, unless
    nobody learns on boards of this kind.
    """
    share = volume / learners
    if discipline in RIDERS_ONLY:
        return RIDERS
    if share >= EASY:
        return "easy to learn on"
    return "asks for some practice" if share >= PRACTICE else RIDERS
