"""Check values: what the trade would say of a figure. They warn, and never set anything.

All of them are common practice, no source. Sizes are those of boards that somebody builds: each says whose, and is held
against a board in proportion to its length, or to length and width; where more of a size goes with riders, whose mass
nobody tells with it, nothing is said.
"""

from __future__ import annotations

import math

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import INCH, POUND, text
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
    of: str = ""
    """The figure with which it grows."""
    at: float = 1.0
    """What that is of the boards it is taken from [SI]."""


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


def _either(figure: str, low: float, high: float, words: str, of: str = "", at: float = 1.0) -> _Check:
    """A value between two, told by the same words on either side; {} stands for what they are on this board."""
    return _Check(figure, low, high, words, words, of, at)


_FEET = 0.3048
_LENGTH, _PLAN = "length", "length_times_width"
_CHECKS: dict[Discipline, tuple[_Check, ...]] = {
    "wing foil": (*_WING_FOIL, _Check("volume_per_rider_mass", 0.42e-3, math.inf,
                  "about 0.5 L/kg takes off in some 15 kn; 0.3 is still unreliable", "")),
    "kite foil": _WING_FOIL[3:5],
    "downwind foil": (
        _either("volume", 0.080, 0.125,
                "downwind boards of 6'6\" to 8'2\" by 18 to 21 in hold 80 to 130 L; as thick, this one {}",
                _PLAN, 7.33 * _FEET * 19.5 * INCH),
        _either("width", 17 * INCH, 22 * INCH,
                "downwind boards of 6'6\" to 8'2\" are 18 to 21 in wide; as slender, this one {}",
                _LENGTH, 7.33 * _FEET)),
    "slalom": (_either("fill_factor", 0.48, 0.64, "slalom boards fill 0.5 to 0.6 of length × width × thickness"),),
    "course racing": (
        _either("width", 0.98, 1.06, "course boards of 11 to 12.5 m² are just over a metre wide"),
        _either("volume", 0.150, 0.190,
                "course boards just over a metre wide hold about 170 L; in proportion, this one {}", "width", 1.02)),
    "wave windsurf": (
        _either("volume", 0.060, 0.082,
                "one quiver of wave boards, 207 to 209 by 55 to 58 cm, holds 66 to 79 L; as thick, this one {}",
                _PLAN, 2.08 * 0.565),
        _either("width", 0.53, 0.61, "one quiver of wave boards, 207 to 209 cm long, is 55 to 58 cm wide; as slender, "
                "this one {}", _LENGTH, 2.08)),
    "kite surf": (
        _either("fill_factor", 0.49, 0.55, "a board of 5'8\" × 19\" × 2⅛\" holds 23 to 24 L, a fill factor of 0.51 to "
                "0.53"),
        _either("mass", 5 * POUND, 6.2 * POUND, "a board of 5'8\" × 19\" weighs 5 to 6 lb; for its size, this one {}",
                _PLAN, 5.667 * _FEET * 19 * INCH)),
    "paddle race": (
        _either("width", 0.55, 0.70,
                "race boards of 14 ft run on about 24 in, stepped ones stand wider; as slender, this one {}",
                _LENGTH, 14 * _FEET),),
    "prone race": (
        _either("width", 0.46, 0.54, "a 12 ft prone board is about 20 in wide; as slender, this one {}",
                _LENGTH, 12 * _FEET),
        _either("mass", 18 * POUND, 23 * POUND, "a prone board of 12 ft × 20 in weighs 20 to 21 lb; for its size, this "
                "one {}", _PLAN, 12 * _FEET * 20 * INCH)),
    "wakeboard": (
        _Check("nose_rocker", 0.0, 2.7 * INCH, "",
               "2.7 in of rocker is a lot on 54 in of wakeboard; as bent, this one {}", _LENGTH, 54 * INCH),),
    "wake surf": (
        _either("mass", 4.5 * POUND, 7.5 * POUND,
                "towed surf boards of 4'9\" weigh about 6 lb; in proportion, this one {}", _LENGTH, 4.75 * _FEET),),
}  # fmt: skip
"""54 in of wakeboard, and tolerances about what is told: judgement."""


def hints(discipline: Discipline, figures: Figures) -> tuple[Hint, ...]:
    """Remarks on the figures of a board for this discipline; the nearest limit speaks where a figure has two."""
    found: dict[str, Hint] = {}
    per_mass = figures.get("volume_per_rider_mass")
    if discipline == "wing foil" and per_mass is not None and per_mass.value > SMALL:
        return ()
    for check in _CHECKS.get(discipline, ()):
        figure, grows = figures.get(check.figure), figures.get(check.of)
        if figure is None or not figure.exists or check.figure in found or (check.of and grows is None):
            continue
        times = grows.value / check.at if grows is not None else 1.0
        low, high = check.low * times, check.high * times
        words = check.below if figure.value < low else check.above if figure.value > high else ""
        if words:
            shown = [text(value, figure.definition.quantity) for value in (low, high) if value > 0]
            found[check.figure] = Hint(check.figure, f"{words.format(' to '.join(shown))} (common practice)")
    return tuple(found.values())
