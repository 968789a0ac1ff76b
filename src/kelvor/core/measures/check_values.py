"""Check values: what the trade would say of a figure. They warn, and never set anything.

All of them are common practice, no source.
"""

from __future__ import annotations

import math

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import INCH, POUND
from kelvor.core.base.values import frozen


@frozen
class Hint:
    """A remark beside a figure, with its context."""

    figure: str
    text: str


@frozen
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
    _Check("fill_factor", 0.50, 0.72,
    "full wing boards fill about 0.63 of length × width × thickness; this one is lean",
           "full wing boards fill about 0.63 of length × width × thickness; this one is a box"),
    _Check("tail_clearance", 0.07, 0.24, "tails are usually cut away about 8°; this one drags early when pumped",
           "tails are usually cut away about 8°; this much costs flat and foam"),
)  # fmt: skip


SMALL = 0.8e-3
"""The values for wing boards are those of small ones: beyond this volume per mass [m³/kg] none are known."""


def _litres(low: float, high: float, words: str) -> _Check:
    return _Check("volume", low * 1e-3, high * 1e-3, words, words)


def _size(figure: str, low: float, high: float, words: str) -> _Check:
    return _Check(figure, low, high, words, words)


_FEET = 0.3048
_CHECKS: dict[Discipline, tuple[_Check, ...]] = {
    "wing foil": (*_WING_FOIL, _Check("volume_per_rider_mass", 0.42e-3, math.inf,
                  "about 0.5 L/kg takes off in some 15 kn; 0.3 is still unreliable", "")),
    "kite foil": _WING_FOIL[3:5],
    "downwind foil": (_litres(80, 130, "downwind boards usually hold 80–130 L"),
                      _size("length", 6.5 * _FEET, 8.2 * _FEET, "downwind boards are usually 6'6\" to 8'2\" long"),
                      _size("width", 18 * INCH, 21 * INCH, "downwind boards are usually 18–21 in wide")),
    "slalom": (_size("fill_factor", 0.48, 0.64, "slalom boards usually fill 0.5–0.6 of length × width × thickness"),),
    "course racing": (_litres(150, 190, "course boards a little over a metre wide usually hold about 170 L"),
                      _size("width", 0.98, 1.06, "course boards are usually just over a metre wide")),
    "wave windsurf": (_litres(62, 95, "wave boards usually hold 66–79 L, all-round ones about 86 L"),
                      _size("length", 2.02, 2.30, "wave boards are usually 207–209 cm long"),
                      _size("width", 0.53, 0.63, "wave boards are usually 55–58 cm wide")),
    "kite surf": (_size("fill_factor", 0.49, 0.55,
    "5'8\" × 19\" × 2⅛\" comes out at 23–24 L, a fill factor of 0.51–0.53"),
                  _size("mass", 5 * POUND, 6.2 * POUND, "such boards usually weigh 5–6 lb")),
    "paddle race": (_size("width", 0.55, 0.70, "race boards usually run on about 24 in, stepped ones stand wider"),),
    "prone race": (_size("width", 0.46, 0.54, "a 12 ft prone board is usually about 20 in wide"),
                   _size("mass", 18 * POUND, 23 * POUND, "such boards usually weigh 20–21 lb")),
    "wakeboard": (_Check("nose_rocker", 0.0, 2.7 * INCH, "", "2.7 in of rocker is a lot"),),
    "wake surf": (_size("length", 4.3 * _FEET, 5.3 * _FEET, "towed surf boards are usually about 4'9\" long"),
                  _size("mass", 4.5 * POUND, 7.5 * POUND, "such boards usually weigh about 6 lb")),
}  # fmt: skip


def hints(discipline: Discipline, figures: Figures) -> tuple[Hint, ...]:
    """Remarks on the figures of a board for this discipline; the nearest limit speaks where a figure has two."""
    found: dict[str, Hint] = {}
    per_mass = figures.get("volume_per_rider_mass")
    if discipline == "wing foil" and per_mass is not None and per_mass.value > SMALL:
        return ()
    for check in _CHECKS.get(discipline, ()):
        figure = figures.get(check.figure)
        if figure is None or not figure.exists or check.figure in found:
            continue
        words = check.below if figure.value < check.low else check.above if figure.value > check.high else ""
        if words:
            found[check.figure] = Hint(check.figure, f"{words} (common practice)")
    return tuple(found.values())
