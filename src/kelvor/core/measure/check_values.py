"""Check values: what the trade would say of a figure. They warn, and never set anything.

All of them are common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.figures import Figures


@dataclass(frozen=True, slots=True)
class Hint:
    """A remark beside a figure, with its context."""

    figure: str
    text: str


@dataclass(frozen=True, slots=True)
class _Check:
    figure: str
    low: float
    high: float
    below: str
    above: str


_WING_FOIL = (
    _Check("volume_per_rider_mass", 0.24e-3, 1.6e-3,
           "under 0.24 L/kg: small wing boards this short of volume are far too little for marginal wind",
           "over 1.6 L/kg: more than a small wing board needs to be stood on"),
    _Check("area_per_rider_mass", 75e-4, 150e-4,
           "length × width is usually about 100 cm² per kg of rider on a small wing board",
           "length × width is usually about 100 cm² per kg of rider on a small wing board"),
    _Check("mass_per_volume", 60.0, 130.0,
           "a minimal carbon build comes out near 75 g/L; lighter is hard to build",
           "a minimal carbon build comes out near 75 g/L; this one is heavy for its volume"),
    _Check("fill_factor", 0.50, 0.72, "full wing boards fill about 0.63 of length × width × thickness; this one is lean",
           "full wing boards fill about 0.63 of length × width × thickness; this one is a box"),
    _Check("tail_clearance", 0.07, 0.24, "tails are usually cut away about 8°; this one drags early when pumped",
           "tails are usually cut away about 8°; this much costs flat and foam"),
)  # fmt: skip
_UNRELIABLE = (0.24e-3, 0.42e-3)


def hints(discipline: str, figures: Figures) -> tuple[Hint, ...]:
    """Remarks on the figures of a board for this discipline."""
    found: list[Hint] = []
    for check in _WING_FOIL if discipline == "wing foil" else ():
        figure = figures.get(check.figure)
        if figure is None or not figure.exists:
            continue
        if figure.value < check.low:
            found.append(Hint(check.figure, f"{check.below} (common practice)"))
        elif figure.value > check.high:
            found.append(Hint(check.figure, f"{check.above} (common practice)"))
    volume = figures.get("volume_per_rider_mass")
    if volume is not None and _UNRELIABLE[0] <= volume.value < _UNRELIABLE[1]:
        found.append(
            Hint("volume_per_rider_mass", "about 0.5 L/kg takes off in some 15 kn; 0.3 is still unreliable (common practice)")
        )
    return tuple(found)
