"""Constructions to begin with: usual ways to build boards of each discipline. Common practice, no source; shape on from
there.
"""

from __future__ import annotations

from math import pi

from kelvor.core.base.disciplines import Discipline
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.construction import Coat, Construction, Core, Ply, Stringer

WRAP = 0.30
"""Enough to reach round any rail: cloth of deck and bottom laps there [m]."""
LAP = 0.04
_BIAS = pi / 4


def _feet(cloth: str, count: int = 1, start: float = 0.2, reach: float = 0.75) -> Ply:
    return Ply(
        name="Under the feet",
        cloth=cloth,
        zone="deck",
        count=count,
        start=Place("tail", start),
        end=Place("tail", start + reach),
    )


def _patch(cloth: str, name: str, at: Place, half: float, width: float, zone: str = "bottom", count: int = 2) -> Ply:
    start, end = (Place(at.datum, at.offset + side * half) for side in (-1, 1))
    return Ply(
        name=name,
        cloth=cloth,
        zone="deck" if zone == "deck" else "bottom",
        count=count,
        start=start,
        end=end,
        width=width,
    )


HOT_COAT = Coat(name="Hot coat", areal_mass=0.16)
PAINT = Coat(name="Paint", areal_mass=0.09)
FILLER = Coat(name="Filler coat", areal_mass=0.12)

GLASS_BY_HAND = Construction(
    name="Glass by hand", core=Core(stock="eps25"), resin="epoxy", method="hand", bags=0, coats=(HOT_COAT, PAINT),
    plies=(Ply(name="Bottom", cloth="glass6", zone="bottom", count=1, wrap=WRAP),
           Ply(name="Bottom, bias", cloth="glass4", zone="bottom", angle=_BIAS, wrap=WRAP),
           Ply(name="Deck", cloth="glass6", zone="deck", count=2, wrap=WRAP), _feet("glass4")),
    stringers=(Stringer(name="Centre stringer", material="poplar", width=0.004),), notes="Laid wet, one side a day.",
)  # fmt: skip
GLASS_BAGGED = Construction(
    name="Glass, bagged", core=Core(stock="eps20"), resin="epoxy_slow", method="bagged", bags=2, coats=(FILLER, PAINT),
    plies=(Ply(name="Bottom", cloth="glass6", zone="bottom", count=2, wrap=WRAP), Ply(name="Deck", cloth="glass6",
    zone="deck", count=2, wrap=LAP),
           _feet("glass6")), notes="One pull a side.",
)  # fmt: skip
CARBON_BAGGED = Construction(
    name="Carbon, bagged", core=Core(stock="eps20"), resin="epoxy_slow", method="bagged", bags=2, coats=(FILLER, PAINT),
    plies=(Ply(name="Bottom", cloth="carbon200", zone="bottom", wrap=WRAP), Ply(name="Bottom, bias",
    cloth="carbon_biax150", zone="bottom", wrap=WRAP),
           Ply(name="Deck", cloth="carbon200", zone="deck", wrap=LAP), Ply(name="Deck, bias", cloth="glass4",
           zone="deck", angle=_BIAS, wrap=LAP),
           _feet("glass6"), _patch("carbon_biax150", "Around the boxes", Place("mast", 0.0), 0.24, 0.26, count=2)),
           notes="One pull a side.",
)  # fmt: skip
SANDWICH = Construction(
    name="Light carbon, aramid deck", core=Core(stock="eps15"), resin="epoxy_slow", method="bagged", bags=3,
    coats=(FILLER, PAINT),
    plies=(Ply(name="Bottom", cloth="carbon160", zone="bottom", wrap=WRAP), Ply(name="Bottom, bias",
    cloth="carbon_biax150", zone="bottom", wrap=WRAP),
           Ply(name="Deck", cloth="carbon160", zone="deck", wrap=LAP), Ply(name="Deck, dents", cloth="aramid170",
           zone="deck"), _feet("carbon160"),
           _patch("carbon_biax150", "Around the boxes", Place("mast", 0.0), 0.24, 0.26, count=2)),
           notes="Two pulls on the deck.",
)  # fmt: skip
WOOD_CORE = Construction(
    name="Wood core, glass", core=Core(stock="paulownia"), resin="epoxy_slow", method="bagged", bags=1,
    coats=(Coat(name="Clear coat", areal_mass=0.08),),
    plies=(Ply(name="Bottom", cloth="glass_biax300", zone="bottom"), Ply(name="Deck", cloth="glass_biax300",
    zone="deck")), notes="Pressed on a form.",
    stringers=(Stringer(name="Side wall", material="abs", width=0.008, rail=True),),
)  # fmt: skip
WOOD_CARBON = Construction(
    name="Wood core, carbon tips", core=Core(stock="paulownia"), resin="epoxy_slow", method="bagged", bags=1,
    coats=(Coat(name="Clear coat", areal_mass=0.08),),
    plies=(Ply(name="Bottom", cloth="carbon_biax150", zone="bottom"), Ply(name="Deck", cloth="carbon_biax150",
    zone="deck"),
           Ply(name="Middle, along", cloth="glass_ud220", zone="deck", start=Place("middle", -0.4), end=Place("middle",
           0.4), width=0.3)),
    notes="Pressed on a form.",
    stringers=(Stringer(name="Side wall", material="abs", width=0.008, rail=True),),
)  # fmt: skip
FOAM_TOWED = Construction(
    name="PU, glass", core=Core(stock="pu45"), resin="polyester", method="hand", bags=0, coats=(HOT_COAT,),
    plies=(Ply(name="Bottom", cloth="glass4", zone="bottom", count=1, wrap=WRAP), Ply(name="Deck", cloth="glass4",
    zone="deck", count=2, wrap=LAP)),
    stringers=(Stringer(name="Centre stringer", material="poplar", width=0.005),), notes="Laid wet.",
)  # fmt: skip
PVC_WAKE = Construction(
    name="PVC, glass bias", core=Core(stock="pvc80"), resin="epoxy_slow", method="bagged", bags=1,
    coats=(Coat(name="Clear coat", areal_mass=0.10),),
    plies=(Ply(name="Bottom", cloth="glass_biax300", zone="bottom", count=2), Ply(name="Bottom, along", cloth="glass6",
    zone="bottom"),
           Ply(name="Deck", cloth="glass_biax300", zone="deck"), Ply(name="Deck, along", cloth="glass6", zone="deck",
           count=2)),
    notes="Pressed on a form.",
    stringers=(Stringer(name="Side wall", material="abs", width=0.008, rail=True),),
)  # fmt: skip
HOLLOW_WOOD = Construction(
    name="Hollow wood, glass", core=Core(stock="paulownia", build="hollow", skin=0.005, rib=0.006, pitch=0.25,
    rail=0.02), resin="epoxy", method="hand",
    plies=(Ply(name="Bottom", cloth="glass4", zone="bottom", wrap=WRAP), Ply(name="Deck", cloth="glass4", zone="deck",
    wrap=WRAP)),
    coats=(HOT_COAT,), notes="Ribs every 25 cm; a vent is a must.",
)  # fmt: skip

_RECIPES: dict[Discipline, tuple[Construction, ...]] = {
    "twin tip": (WOOD_CORE, WOOD_CARBON),
    "wakeboard": (PVC_WAKE, WOOD_CORE),
    "wake surf": (FOAM_TOWED, GLASS_BAGGED),
    "kite surf": (GLASS_BAGGED, FOAM_TOWED),
    "paddle surf": (GLASS_BY_HAND, GLASS_BAGGED, HOLLOW_WOOD),
}


def recipes(discipline: Discipline) -> tuple[Construction, ...]:
    """Usual constructions for a discipline."""
    return _RECIPES.get(discipline, (CARBON_BAGGED, SANDWICH, GLASS_BAGGED, GLASS_BY_HAND))
