"""Which board for whom, in words: the best and the second with their reasons, and the size chart."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.units import Quantity, System, inside, text
from kelvor.core.brief.brief import Skill
from kelvor.core.family.rider_sizes import RIDERS_ONLY, Customer, Fit, Sea, ease, fits, wanted_litres
from kelvor.ui.family.shown.families import rider_words

SKILLS: tuple[tuple[Skill, str], ...] = (("learning", "learning"), ("riding", "riding"), ("expert", "expert"))
SEA_WORDS: dict[Sea, str] = {
    "flat": "Flat water is what the tank knows.",
    "chop": "Chop is not in the tank: of two boards as near, many take the one with more V or the smaller one.",
    "waves": "Waves are not in the tank: of two boards as near, many take the smaller one.",
}
CAUTION = (
    "Litres by weight and skill are common practice, no source; winds are computed for the gear in the brief. Try "
    "before you buy; learners take lessons, wear a vest, and mind wind offshore."
)
MASSES = (45, 55, 65, 75, 85, 95, 105)
"""Riders of the size chart [kg]."""


def answer_words(found: Sequence[Fit]) -> str:
    """The best and the second."""
    if not found:
        return "There is no board in this range."
    second = f" Second: {found[1].name}." if len(found) > 1 else ""
    return f"{found[0].name}.{second}"


def fit_cells(fit: Fit, customer: Customer, learners: float, discipline: Discipline, system: System) -> tuple[str, ...]:
    """A board in the table: litres, how they are off, the wind it goes in, how easy it is, and why it stands there."""
    litres = text(fit.volume, Quantity.VOLUME, system)
    wind = "–" if fit.wind is None else f"{text(fit.wind.value, Quantity.SPEED, system)} ±{_band(fit, system)}"
    return fit.name, litres, wind, ease(fit.volume, learners, discipline), placing_reason(fit, customer, system)


def _band(fit: Fit, system: System) -> str:
    assert fit.wind is not None
    return text(fit.wind.band, Quantity.SPEED, system).split(" ")[0]


def placing_reason(fit: Fit, customer: Customer, system: System) -> str:
    """Why a board stands where it does."""
    wanted = text(fit.wanted, Quantity.VOLUME, system)
    more = fit.volume - fit.wanted
    off = text(abs(more), Quantity.VOLUME, system)
    size = (
        f"just the {wanted} for this rider"
        if abs(fit.off) < 0.02
        else (f"{off} {'more' if more > 0 else 'less'} than the {wanted} for this rider")
    )
    if fit.wind is None or customer.wind <= 0:
        return size
    asked = text(customer.wind, Quantity.SPEED, system)
    told = {True: f"goes in {asked}", False: f"does not go in {asked}", None: f"{asked} is too close to call"}[fit.goes]
    return f"{size}; {inside(told)}"


def size_chart_rows(
    boards: Sequence[tuple[str, float]],
    parent: tuple[float, float, Skill],
    power: float,
    discipline: Discipline,
    system: System,
) -> list[tuple[str, ...]]:
    """The size chart: a row a rider's weight, a column a skill; the nearest in litres.

    Parameters
    ----------
    boards:
        Names and litres [m³].
    parent:
        The parent's litres [m³], its rider's mass [kg] and skill.
    """
    volume, mass, skill = parent
    rows = []
    for kilograms in MASSES:
        cells = []
        for own, _ in SKILLS:
            if own == "learning" and discipline in RIDERS_ONLY:
                cells.append(NOT_TO_LEARN_ON)
                continue
            customer = Customer(float(kilograms), own)
            wanted = wanted_litres(volume, mass, skill, power, customer)
            found = fits([(name, litres, {}) for name, litres in boards], customer, wanted)
            near = abs(found[0].off) <= REACH
            cells.append(
                f"{found[0].name} ({text(found[0].volume, Quantity.VOLUME, system)})"
                if near
                else f"none near: {text(wanted, Quantity.VOLUME, system)} wanted"
            )
        rows.append((rider_words(float(kilograms), system), *cells))
    return rows


NOT_TO_LEARN_ON = "not boards to learn on"
REACH = 0.16
"""A board is offered when its litres lie within this of those wanted, as a logarithm (judgement)."""
