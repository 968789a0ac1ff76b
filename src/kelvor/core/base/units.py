"""Units: the one place that parses and prints quantities.

Inside Kelvor every value is SI. Designers type and read what they are used to.
Conversion factors are exact by definition: the inch is 25.4 mm and the pound
0.45359237 kg (international yard and pound agreement, 1959), the knot is
1852 m/h, a degree is pi/180.
"""

from __future__ import annotations

import math
import re
from enum import Enum

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen

INCH = 0.0254
FOOT = 12 * INCH
POUND = 0.45359237
KNOT = 1852.0 / 3600.0
DEGREE = math.pi / 180.0
OUNCE_PER_SQUARE_YARD = POUND / 16 / (36 * INCH) ** 2


class Quantity(Enum):
    """Kinds of quantity, by what they are and how closely they are read."""

    LENGTH = "length"  # widths, stations: centimetres or feet and inches
    HEIGHT = "height"  # of wind above the water: metres or feet
    DEPTH = "depth"  # rocker, hollows, radii: millimetres or inches
    AREA = "area"
    AREA_PER_MASS = "area per mass"
    VOLUME = "volume"
    VOLUME_PER_MASS = "volume per mass"
    MASS = "mass"
    AREAL_MASS = "areal mass"
    DENSITY = "density"
    SPEED = "speed"
    ANGLE = "angle"
    RATIO = "ratio"
    INERTIA = "inertia"
    FORCE = "force"
    MOMENT = "moment"
    STIFFNESS = "moment per angle"
    TEMPERATURE = "temperature"
    SAIL_AREA = "sail area"
    COUNT = "count"
    FREQUENCY = "frequency"
    FLEX = "deflection"
    TWIST = "twist"
    CURVATURE = "curvature"
    POWER = "power"
    TIME = "time"
    ENERGY = "work"
    PRESSURE = "pressure"
    DAMPING = "moment per rolling speed"
    SHARE = "share"
    CHOICE = "choice"  # one of several kinds, by its place among them


class System(Enum):
    """The two ways of reading a board."""

    METRIC = "metric"
    INCH = "inch"


_SI = {
    Quantity.LENGTH: "m", Quantity.HEIGHT: "m", Quantity.DEPTH: "m", Quantity.AREA: "m2",
    Quantity.AREA_PER_MASS: "m2/kg",
    Quantity.VOLUME: "m3", Quantity.VOLUME_PER_MASS: "m3/kg", Quantity.MASS: "kg", Quantity.AREAL_MASS: "kg/m2",
    Quantity.DENSITY: "kg/m3", Quantity.SPEED: "m/s", Quantity.ANGLE: "rad", Quantity.RATIO: "1",
    Quantity.INERTIA: "kg m2",
    Quantity.FORCE: "N", Quantity.MOMENT: "N m", Quantity.STIFFNESS: "N m/rad", Quantity.TEMPERATURE: "K",
    Quantity.SAIL_AREA: "m2", Quantity.COUNT: "1", Quantity.FREQUENCY: "Hz", Quantity.FLEX: "m", Quantity.TWIST: "rad",
    Quantity.CURVATURE: "1/m", Quantity.POWER: "W", Quantity.TIME: "s", Quantity.ENERGY: "J", Quantity.PRESSURE: "Pa",
    Quantity.DAMPING: "N m s",
    Quantity.SHARE: "1", Quantity.CHOICE: "1",
}  # fmt: skip


def si_unit(quantity: Quantity) -> str:
    """The SI unit a quantity is kept and written out in."""
    return _SI[quantity]


@frozen
class Unit:
    """A unit: its sign, its size in SI, the decimals it is read to."""

    sign: str
    size: float
    decimals: int
    fractional: bool = False
    offset: float = 0.0


_CM = Unit("cm", 0.01, 1)
_MM = Unit("mm", 0.001, 1)
_INCH = Unit("in", INCH, 2, fractional=True)
_BOTH = {
    Quantity.VOLUME: Unit("L", 1e-3, 1),
    Quantity.VOLUME_PER_MASS: Unit("L/kg", 1e-3, 2),
    Quantity.SPEED: Unit("kn", KNOT, 1),
    Quantity.ANGLE: Unit("°", DEGREE, 1),
    Quantity.RATIO: Unit("", 1.0, 2),
    Quantity.INERTIA: Unit("kg m²", 1.0, 2),
    Quantity.FORCE: Unit("N", 1.0, 0),
    Quantity.MOMENT: Unit("N m", 1.0, 0),
    Quantity.STIFFNESS: Unit("N m/°", 1 / DEGREE, 1),
    Quantity.TEMPERATURE: Unit("°C", 1.0, 0, offset=273.15),
    Quantity.SAIL_AREA: Unit("m²", 1.0, 1),
    Quantity.COUNT: Unit("", 1.0, 0),
    Quantity.CHOICE: Unit("", 1.0, 0),
    Quantity.CURVATURE: Unit("/m", 1.0, 3),
    Quantity.POWER: Unit("W", 1.0, 0),
    Quantity.TIME: Unit("s", 1.0, 1),
    Quantity.ENERGY: Unit("kJ", 1e3, 1),
    Quantity.PRESSURE: Unit("kPa", 1000.0, 0),
    Quantity.DAMPING: Unit("N m s", 1.0, 1),
    Quantity.SHARE: Unit("%", 0.01, 0),
    Quantity.FREQUENCY: Unit("Hz", 1.0, 0),
    Quantity.TWIST: Unit("°", DEGREE, 3),
    Quantity.DENSITY: Unit("kg/m³", 1.0, 0),
}
DISPLAY: dict[System, dict[Quantity, Unit]] = {
    System.METRIC: {
        **_BOTH,
        Quantity.LENGTH: _CM,
        Quantity.HEIGHT: Unit("m", 1.0, 1),
        Quantity.DEPTH: _MM,
        Quantity.AREA: Unit("cm²", 1e-4, 0),
        Quantity.AREA_PER_MASS: Unit("cm²/kg", 1e-4, 0),
        Quantity.MASS: Unit("kg", 1.0, 2),
        Quantity.AREAL_MASS: Unit("g/m²", 1e-3, 0),
        Quantity.FLEX: Unit("mm", 0.001, 2),
    },
    System.INCH: {
        **_BOTH,
        Quantity.LENGTH: _INCH,
        Quantity.HEIGHT: Unit("ft", FOOT, 1),
        Quantity.DEPTH: _INCH,
        Quantity.AREA: Unit("in²", INCH**2, 0),
        Quantity.AREA_PER_MASS: Unit("in²/lb", INCH**2 / POUND, 1),
        Quantity.MASS: Unit("lb", POUND, 2),
        Quantity.AREAL_MASS: Unit("oz/yd²", OUNCE_PER_SQUARE_YARD, 2),
        Quantity.FLEX: Unit("in", INCH, 3),
    },
}

_LENGTHS = {"m": 1.0, "cm": 0.01, "mm": 0.001, "in": INCH, '"': INCH, "ft": FOOT, "'": FOOT}
_TYPED: dict[Quantity, dict[str, float]] = {
    Quantity.LENGTH: _LENGTHS,
    Quantity.HEIGHT: _LENGTHS,
    Quantity.DEPTH: _LENGTHS,
    Quantity.AREA: {"cm²": 1e-4, "cm2": 1e-4, "m²": 1.0, "m2": 1.0, "in²": INCH**2, "in2": INCH**2},
    Quantity.AREA_PER_MASS: {"cm²/kg": 1e-4, "cm2/kg": 1e-4, "m²/kg": 1.0, "in²/lb": INCH**2 / POUND},
    Quantity.VOLUME: {"l": 1e-3, "litre": 1e-3, "liter": 1e-3, "litres": 1e-3, "m³": 1.0, "m3": 1.0},
    Quantity.VOLUME_PER_MASS: {"l/kg": 1e-3},
    Quantity.MASS: {"kg": 1.0, "g": 1e-3, "lb": POUND, "lbs": POUND, "oz": POUND / 16},
    Quantity.AREAL_MASS: {
        "g/m²": 1e-3,
        "g/m2": 1e-3,
        "kg/m²": 1.0,
        "oz/yd²": OUNCE_PER_SQUARE_YARD,
        "oz/yd2": OUNCE_PER_SQUARE_YARD,
    },
    Quantity.DENSITY: {"kg/m³": 1.0, "kg/m3": 1.0, "g/l": 1.0, "lb/ft³": POUND / FOOT**3, "lb/ft3": POUND / FOOT**3},
    Quantity.SPEED: {"kn": KNOT, "kt": KNOT, "kts": KNOT, "m/s": 1.0, "km/h": 1 / 3.6, "mph": 1609.344 / 3600},
    Quantity.ANGLE: {"°": DEGREE, "deg": DEGREE, "rad": 1.0},
    Quantity.RATIO: {"": 1.0, "%": 0.01},
    Quantity.INERTIA: {"kg m²": 1.0, "kg m2": 1.0, "kgm²": 1.0, "kgm2": 1.0},
    Quantity.FORCE: {"n": 1.0, "kgf": 9.80665, "lbf": POUND * 9.80665},
    Quantity.MOMENT: {"n m": 1.0, "nm": 1.0},
    Quantity.STIFFNESS: {"n m/°": 1 / DEGREE},
    Quantity.TEMPERATURE: {"°c": 1.0, "c": 1.0, "k": 1.0},
    Quantity.SAIL_AREA: {"m²": 1.0, "m2": 1.0},
    Quantity.COUNT: {"": 1.0},
    Quantity.CHOICE: {"": 1.0},
    Quantity.CURVATURE: {"/m": 1.0, "1/m": 1.0},
    Quantity.FREQUENCY: {"hz": 1.0},
    Quantity.FLEX: {"mm": 1e-3, "cm": 1e-2, "in": INCH},
    Quantity.TWIST: {"°": DEGREE, "deg": DEGREE, "rad": 1.0},
    Quantity.POWER: {"w": 1.0, "kw": 1e3},
    Quantity.TIME: {"s": 1.0, "min": 60.0},
    Quantity.ENERGY: {"j": 1.0, "kj": 1e3},
    Quantity.PRESSURE: {"kpa": 1e3, "pa": 1.0, "bar": 1e5},
    Quantity.DAMPING: {"n m s": 1.0},
    Quantity.SHARE: {"%": 0.01},
}
_NUMBER = r"[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)"
_SIMPLE = re.compile(rf"({_NUMBER})\s*(\D.*)?", re.DOTALL)
_FEET_INCHES = re.compile(
    r"(?P<sign>[+-])?(?:(?P<feet>\d+(?:\.\d+)?)\s*(?:'|ft)\s*)?"
    r"(?:(?P<whole>\d+(?:\.\d+)?)(?=\s*(?:\"|in|''|$)|[- ]+\d+\s*/)[- ]*)?"
    r"(?:(?P<num>\d+)\s*/\s*(?P<den>\d+))?\s*(?P<inch>\"|in|'')?"
)
_POUNDS_OUNCES = re.compile(r"(?P<sign>[+-])?(?P<pounds>\d+)\s*lbs?\.?\s*(?P<ounces>\d+(?:[.,]\d+)?)\s*(?:oz\.?)?")
_FOLD = str.maketrans({"−": "-", "–": "-", "′": "'", "’": "'", "″": '"', "”": '"', "“": '"',
                       "\u00a0": " ", "\u202f": " ", "\u2009": " ", "\u2007": " "})  # fmt: skip
_THOUSANDS = re.compile(r"(?<![\d.,/])(\d{1,3}(?: \d{3})+)(?![\d/]| *\d+ */)")
"""Groups of three with spaces between, as they are shown."""
_TWO_MARKS = re.compile(r"\d[.,]\d*[.,]\d")
LONGEST_TYPED = 60
"""Nobody types a longer number [signs]."""
_GLYPHS = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8"}


def parse(text: str, quantity: Quantity, system: System = System.METRIC) -> float:
    """Read a typed value; a bare number takes the unit on display.

    Lengths may be written in any unit, also as feet, inches and fractions
    (``5'8 1/2"``, ``19 1/4``, ``2 1/8"``), masses as pounds and ounces (``6 lb 2 oz``). A comma works as a decimal
    point.

    Raises
    ------
    InputError
        When the text is no number or its unit is of another kind.
    """
    bare = DISPLAY[system][quantity]
    given = text.strip().translate(_FOLD)
    if len(given) > LONGEST_TYPED:
        raise InputError(f"“{given[:20]}…” is too long for a number", accepts=_accepts(quantity, bare))
    if _TWO_MARKS.search(given):
        raise InputError(
            f"“{given}” has two decimal marks", accepts="Write 1234.5 or 1234,5, without a mark between thousands"
        )
    given = _THOUSANDS.sub(lambda match: match[1].replace(" ", ""), given)
    for glyph, spelt in _GLYPHS.items():
        given = given.replace(glyph, spelt)
    is_length = quantity in (Quantity.LENGTH, Quantity.DEPTH, Quantity.HEIGHT)
    if is_length and (value := _parse_feet_inches(given, bare)) is not None:
        return value
    if quantity is Quantity.MASS and (heavy := _POUNDS_OUNCES.fullmatch(given.lower())) is not None:
        ounces = 16 * float(heavy["pounds"]) + float(heavy["ounces"].replace(",", "."))
        return (-ounces if heavy["sign"] == "-" else ounces) * POUND / 16
    match = _SIMPLE.fullmatch(given)
    if match is None:
        raise InputError(f"“{text.strip()[:40]}” is not a number", accepts=_accepts(quantity, bare))
    number = float(match[1].replace(",", "."))
    sign = (match[2] or "").strip().lower()
    if not math.isfinite(number):
        raise InputError(f"“{text.strip()[:40]}” is too large", accepts=_accepts(quantity, bare))
    if not sign:
        return number * bare.size + bare.offset
    size = _TYPED[quantity].get(sign)
    if size is None:
        raise InputError(f"“{sign[:20]}” is not a unit of {quantity.value}", accepts=_accepts(quantity, bare))
    return number * size + (bare.offset if sign != "k" else 0.0)


def _parse_feet_inches(given: str, bare: Unit) -> float | None:
    marked = any(mark in given for mark in ("'", '"', "/", "ft"))
    match = _FEET_INCHES.fullmatch(given)
    if not marked or match is None or not (match["feet"] or match["whole"] or match["num"]):
        return None
    if match["den"] and int(match["den"]) == 0:
        return None
    inches = float(match["feet"] or 0) * 12 + float(match["whole"] or 0)
    if match["num"]:
        inches += int(match["num"]) / int(match["den"])
    return (-inches if match["sign"] == "-" else inches) * INCH


def _accepts(quantity: Quantity, bare: Unit) -> str:
    signs = [s for s in _TYPED[quantity] if s and not s.endswith("2") and s not in ("'", '"')]
    example = (
        "for example 47, 47 cm or 18 1/2 in" if quantity is Quantity.LENGTH else f"a bare number is read in {bare.sign}"
    )
    return f"Write a number{' with ' + ', '.join(signs) if signs else ''}; {example}"


def unit_of(quantity: Quantity, system: System = System.METRIC) -> Unit:
    """The unit in which this quantity is shown."""
    return DISPLAY[system][quantity]


def number_text(value: float, quantity: Quantity, system: System = System.METRIC, *, extra: int = 0) -> str:
    """Print a value without its unit sign; inches come as fractions to 1/32.

    `extra` more (or, negative, fewer) decimals than usual; fewer gives whole inches.
    """
    unit = unit_of(quantity, system)
    if not math.isfinite(value):
        return "–"
    if unit.fractional and extra <= 0:
        coarse = round(value / INCH) * INCH if extra < 0 else value
        return _fraction_text(coarse, feet=quantity is Quantity.LENGTH)
    shown = (value - unit.offset) / unit.size
    text = f"{shown:.{max(unit.decimals + extra, 0)}f}"
    if float(text) == 0.0:
        text = text.lstrip("-")
    whole, _, rest = text.partition(".")
    if len(whole.lstrip("-")) > 3:
        whole = f"{int(whole):,}".replace(",", "\u202f")
    return (whole + ("." + rest if rest else "")).replace("-", "−")


def pounds(mass: float, decimals: int = 0) -> str:
    """A mass [kg] in pounds and ounces."""
    ounces = round(abs(mass) / POUND * 16, decimals)
    whole = int(ounces // 16)
    return f"{'−' if mass < 0 else ''}{whole} lb {ounces - 16 * whole:.{decimals}f} oz"


def scale_text(mass: float, system: System) -> str:
    """A mass [kg] as a scale reads it: to the gram, or to a tenth of an ounce."""
    return f"{mass:.3f} kg" if system is System.METRIC else pounds(mass, 1)


def weighed_within(mass: float, band: float, system: System) -> str:
    """A mass and its band [kg] as a scale would read them: 1.700 ± 0.120 kg."""
    return f"{scale_text(mass, system).removesuffix(' kg')} ± {scale_text(band, system).removeprefix('0 lb ')}"


def outweighs(gap: float, system: System) -> str:
    """By how much something is heavier [kg], with its sign: in grams, or in ounces."""
    if system is System.INCH and abs(gap) >= POUND:
        return f"{'+' if gap > 0 else ''}{pounds(gap, 1)}"
    told = f"{gap * 1000:+.0f} g" if system is System.METRIC else f"{gap / POUND * 16:+.1f} oz"
    return told.replace("-", "−")


def inside(words: str) -> str:
    """Words as they stand inside a sentence: a capital goes, but that of a sign such as V."""
    return f"{words[:1].lower()}{words[1:]}" if words[1:2].islower() else words


def text(value: float, quantity: Quantity, system: System = System.METRIC, *, extra: int = 0) -> str:
    """Print a value with its unit."""
    unit = unit_of(quantity, system)
    number = number_text(value, quantity, system, extra=extra)
    if unit.fractional and extra <= 0:
        return number if number.endswith(("'", '"')) else number + '"'
    joint = "" if unit.sign in ("", "°") else " "
    return f"{number}{joint}{unit.sign}"


_SAID = re.compile(
    r"(?P<first>[−+-]?\d+(?:\.\d+)?)(?P<second>(?: to | and |–)[−+-]?\d+(?:\.\d+)?)? "
    r"(?P<unit>cm²|cm|mm|m|kg)(?![\w/²³]| [mk]²| m²)"
)
_SAID_AS = {
    "cm": Quantity.LENGTH,
    "mm": Quantity.DEPTH,
    "m": Quantity.HEIGHT,
    "cm²": Quantity.AREA,
    "kg": Quantity.MASS,
}


def said_in(words: str, system: System) -> str:
    """A sentence written in metric units, in the reader's: “31 to 40 cm” becomes inches for who reads inches."""
    if system is System.METRIC:
        return words

    def other(found: re.Match[str]) -> str:
        quantity = _SAID_AS[found["unit"]]
        size = DISPLAY[System.METRIC][quantity].size

        def one(number: str) -> str:
            # no finer than it was said, but inches keep their fractions
            finer = len(number.partition(".")[2]) - unit_of(quantity).decimals
            keep = 0 if unit_of(quantity, system).fractional else min(finer, 0)
            return text(float(number.replace("−", "-")) * size, quantity, system, extra=keep)

        if not found["second"]:
            return one(found["first"])
        joint = re.match(r" to | and |–", found["second"])
        assert joint is not None
        return one(found["first"]) + joint[0] + one(found["second"][joint.end() :])

    return _SAID.sub(other, words)


def _fraction_text(value: float, *, feet: bool) -> str:
    from fractions import Fraction

    parts = Fraction(round(abs(value) / INCH * 32), 32)
    sign = "−" if value < 0 and parts else ""
    whole, rest = divmod(parts, 1)
    spelt = f"{rest.numerator}/{rest.denominator}" if rest else ""
    if feet and whole >= 36:
        shown = f"{whole // 12}'"
        inches = whole % 12
        tail = " ".join(t for t in (str(inches) if inches or spelt else "", spelt) if t)
        return sign + shown + (tail + '"' if tail else "")
    return sign + (" ".join(t for t in (str(whole) if whole or not spelt else "", spelt) if t))


def signed(value: float, quantity: Quantity, system: System, *, extra: int = 0) -> str:
    """A difference with its sign and unit, to `extra` more decimals than usual."""
    shown = text(value, quantity, system, extra=extra)
    return shown if shown.startswith("−") else "+" + shown
