"""A family over its riders' weight: which figures can be shown, the law through them, each size's miss."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figure, Figures
from kelvor.core.base.units import Quantity, System, text, unit_of
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.evaluation.live import Live
from kelvor.core.family.laws import LAWS, PowerLaw, power_law
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark

FIRST = (
    "volume",
    "planform_area",
    "length",
    "width",
    "width_1ft_tail",
    "keel_flat_run",
    "nose_rocker",
    "mass",
    "yaw_inertia",
)
"""Figures shown over weight, beside those that lead the phases of the ride."""


@frozen(eq=False)
class Member:
    """A board of a family: its identity, name, its rider's mass [kg], and what is known of it under that rider."""

    uid: str
    name: str
    mass: float
    live: Live
    figures: Figures

    def figure(self, key: str) -> Figure | None:
        """A figure that is there and holds, from the ride under its own rider or from the board alone."""
        found = self.figures.get(key) or next((f for f in self.live.figures if f.key == key), None)
        return found if found is not None and found.exists and found.valid else None


def figure_choices(members: Sequence[Member], heads: Sequence[str]) -> list[tuple[str, str]]:
    """Figures that two boards or more have: key and words."""
    keys = dict.fromkeys((*FIRST, *heads))
    there = [key for key in keys if sum(m.figure(key) is not None for m in members) > 1]
    return [(key, BY_KEY[key].label + (", own rider" if key in heads else "")) for key in there]


def law_chart(members: Sequence[Member], key: str, system: System) -> tuple[Chart | None, str]:
    """The chart of a figure over weight, and the law in words."""
    found = [(m, figure) for m in members if (figure := m.figure(key)) is not None]
    if len(found) < 2:
        return None, ""
    definition = BY_KEY[key]
    masses = np.array([m.mass for m, _ in found])
    values = np.array([f.value for _, f in found])
    bands = np.array([f.band for _, f in found])
    lines = [ChartLine("sizes", "now", masses, values, bands)]
    words = _without_law(definition.ranks)
    try:
        law = power_law(masses.tolist(), values.tolist()) if not definition.ranks else None
    except InputError:
        law = None
        words = "No power law: values at or below nothing."
    if law is not None:
        fine = np.linspace(masses.min(), masses.max(), 40)
        lines.append(ChartLine("law", "aside", fine, np.array([law.at(m) for m in fine])))
        words = law_words(law, found, key)
    marks = tuple(ChartMark(m.mass, text(f.value, definition.quantity, system), f.value) for m, f in found)
    chart = Chart(
        title=definition.label,
        caption="each size under its own rider",
        x_label=_axis("Rider", Quantity.MASS, system),
        x=Quantity.MASS,
        y_label=_axis(definition.label, definition.quantity, system),
        y=definition.quantity,
        lines=tuple(lines),
        marks=marks,
        from_zero=False,
    )
    return chart, words


def _axis(label: str, quantity: Quantity, system: System) -> str:
    unit = unit_of(quantity, system).sign
    return f"{label}, {unit}" if unit else label


def _without_law(ranks: bool) -> str:
    return "This figure only ranks boards: no law is laid through it." if ranks else ""


def law_words(law: PowerLaw, found: Sequence[tuple[Member, Figure]], key: str) -> str:
    """A law with its interval, what geometry alone would have, and which sizes lie off it."""
    known = np.isfinite(law.high)
    interval = f" ({law.low:.2f} to {law.high:.2f})" if known else ", from two sizes, which lie on any law"
    words = f"{BY_KEY[key].label} goes with weight to the power {law.power:.2f}{interval}."
    if key in LAWS:
        words += f" Beside it: {LAWS[key][1]}."
    off = [(m.name, miss) for (m, _), miss in zip(found, law.misses, strict=True) if abs(miss) >= 5e-4]
    told = "; ".join(f"{name} {miss * 100:+.1f} %" for name, miss in off).replace("-", "−")
    return f"{words} Off the law: {told}." if off else f"{words} No size lies off it."


def rocker_words(live: Live, system: System) -> str:
    """What stands below a rocker line."""
    keel = live.geometry.keel_line
    nose, tail = (text(float(v), Quantity.DEPTH, system) for v in (keel[-1], keel[0]))
    flat = next((f for f in live.figures if f.key == "keel_flat_run" and f.exists), None)
    told = f", flat {text(flat.value, flat.definition.quantity, system)}" if flat else ""
    return f"nose {nose}, tail {tail}{told}"
