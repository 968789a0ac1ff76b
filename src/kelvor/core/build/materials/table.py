"""One table of materials. Each names its source; what was recalled from memory says so.

Editing makes a new table: the workshop keeps what its builder changed.

References
----------
Daniel, Ishai: Engineering Mechanics of Composite Materials, 2nd ed. 2006, tables A.1–A.4 (from memory).
Forest Products Laboratory: Wood Handbook, FPL-GTR-282, 2021, ch. 5, at 12 % moisture (from memory).
EN 13163 and EN 13164 for compressive stress classes of EPS and XPS (from memory); moduli of foams: makers' sheets of
usual grades, from memory, to be replaced by the sheet of the block that is bought.
"""

from __future__ import annotations

from dataclasses import fields, replace
from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeVar

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import (
    NAME,
    Limit,
    Text,
    areal_masses,
    depths,
    lengths,
    limit_of,
    shares,
    within,
)
from kelvor.core.base.mill import Mill
from kelvor.core.base.units import OUNCE_PER_SQUARE_YARD, Quantity
from kelvor.core.base.values import frozen

if TYPE_CHECKING:
    from kelvor.core.shape.parts.fittings import BoxKind

GPA, MPA = 1e9, 1e6
MODULUS = Limit(1e3, 2e12, unit="Pa")
PRICE = Limit(0, 1e6, unit="of the currency")
HOURS = Limit(0, 1000, unit="h")
Weave = Literal["woven", "unidirectional", "biaxial", "mat"]
DANIEL = "Daniel & Ishai 2006, from memory"
WOOD = "Wood Handbook 2021, from memory"
SHEETS = "usual grade, from memory; take the maker's data sheet"
EN_EPS, EN_XPS = (f"EN {n} class, moduli from memory" for n in (13163, 13164))
TRADE = "common practice, no source"


@frozen(kw_only=True)
class Fibre:
    """A fibre: density [kg/m³]; moduli along, across and in shear [Pa]; Poisson's ratio; fibre mass fractions laid up
    by hand and bagged.
    """

    key: Annotated[str, NAME]
    name: Annotated[str, NAME]
    density: Annotated[float, Limit(1, 25_000, Quantity.DENSITY)]
    e1: Annotated[float, MODULUS]
    e2: Annotated[float, MODULUS]
    g12: Annotated[float, MODULUS]
    nu: Annotated[float, shares(0.01, 0.5)]
    by_hand: Annotated[float, shares(0.05, 0.9)]
    bagged: Annotated[float, shares(0.05, 0.9)]
    source: Annotated[str, Text(200)]


@frozen(kw_only=True)
class Resin:
    """A resin with its hardener: density [kg/m³], modulus [Pa], Poisson's ratio, minutes in the pot for 300 g at 20 °C,
    price a kilogram.
    """

    key: Annotated[str, NAME]
    name: Annotated[str, NAME]
    density: Annotated[float, Limit(1, 25_000, Quantity.DENSITY)]
    e: Annotated[float, MODULUS]
    nu: Annotated[float, shares(0.01, 0.5)]
    pot_minutes: Annotated[float, Limit(0.1, 10_000, unit="min")]
    price: Annotated[float, PRICE]
    source: Annotated[str, Text(200)]


@frozen(kw_only=True)
class CoreMaterial:
    """Core foam or wood: density [kg/m³], moduli [Pa], compressive strength [Pa], price a cubic metre."""

    key: Annotated[str, NAME]
    name: Annotated[str, NAME]
    density: Annotated[float, Limit(1, 25_000, Quantity.DENSITY)]
    e: Annotated[float, MODULUS]
    g: Annotated[float, MODULUS]
    strength: Annotated[float, MODULUS]
    price: Annotated[float, PRICE]
    wood: bool = False
    source: Annotated[str, Text(200)] = SHEETS


@frozen(kw_only=True)
class Cloth:
    """A cloth: its fibre, areal mass [kg/m²], weave, roll width [m], least radius it lies round [m], price a square
    metre.
    """

    key: Annotated[str, NAME]
    name: Annotated[str, NAME]
    fibre: Annotated[str, NAME]
    areal_mass: Annotated[float, areal_masses(0.005, 5)]
    weave: Weave = "woven"
    roll: Annotated[float, lengths(0.01, 10)] = 1.27
    radius: Annotated[float, depths(0.0001, 0.2)] = 0.004
    price: Annotated[float, PRICE] = 8.0
    source: Annotated[str, Text(200)] = TRADE


@frozen(kw_only=True)
class Rates:
    """What the workshop pays and takes: currency, an hour; hours for shaping, a layer laid, a bag pulled, a coat,
    sanding, setting a fitting; what parts cost that are bought ready, a pad by the square
    metre. What ships is invented.
    """

    currency: Annotated[str, Text(20, least=1)] = "crowns"
    hour: Annotated[float, PRICE] = 320.0
    shape: Annotated[float, HOURS] = 7.0
    layer: Annotated[float, HOURS] = 0.5
    bag: Annotated[float, HOURS] = 1.2
    coat: Annotated[float, HOURS] = 0.6
    sand: Annotated[float, HOURS] = 3.5
    fitting: Annotated[float, HOURS] = 0.5
    foil_track: Annotated[float, PRICE] = 240.0
    foil_box: Annotated[float, PRICE] = 640.0
    mast_track: Annotated[float, PRICE] = 290.0
    deep_box: Annotated[float, PRICE] = 320.0
    long_box: Annotated[float, PRICE] = 210.0
    tab_box: Annotated[float, PRICE] = 160.0
    side_box: Annotated[float, PRICE] = 85.0
    bolts: Annotated[float, PRICE] = 40.0
    insert: Annotated[float, PRICE] = 12.0
    plug: Annotated[float, PRICE] = 45.0
    pad: Annotated[float, PRICE] = 380.0

    def fin_box(self, kind: BoxKind) -> float:
        """A fin box of a kind."""
        found: float = getattr(self, kind.replace(" ", "_"))
        return found


@frozen(kw_only=True)
class MaterialTable:
    """Everything a construction may name, by key."""

    fibres: tuple[Fibre, ...]
    resins: tuple[Resin, ...]
    stocks: tuple[CoreMaterial, ...]
    cloths: tuple[Cloth, ...]
    rates: Rates = Rates()
    mill: Mill = Mill()
    """What cores are cut on: its cutters and habits say how large a block is bought."""

    def __hash__(self) -> int:
        return hash((len(self.fibres), len(self.resins), len(self.stocks), len(self.cloths), self.rates))  # asked often

    def fibre(self, key: str) -> Fibre:
        """A fibre by its key; raises InputError where there is none."""
        return _found(self.fibres, key, "fibre")

    def resin(self, key: str) -> Resin:
        """A resin by its key; raises InputError where there is none."""
        return _found(self.resins, key, "resin")

    def stock(self, key: str) -> CoreMaterial:
        """A core stock by its key; raises InputError where there is none."""
        return _found(self.stocks, key, "core")

    def cloth(self, key: str) -> Cloth:
        """A cloth by its key; raises InputError where there is none."""
        return _found(self.cloths, key, "cloth")

    def with_entry(self, entry: Fibre | Resin | CoreMaterial | Cloth) -> MaterialTable:
        """The table with one entry replaced or added; an edited one says that it is the workshop's own."""
        name = _FIELDS[type(entry)]
        old = getattr(self, name)
        rest = [e for e in old if e.key != entry.key]
        at = next((i for i, e in enumerate(old) if e.key == entry.key), len(old))
        changes: dict[str, Any] = {name: (*rest[:at], entry, *rest[at:])}
        return replace(self, **changes)

    def as_it_stands(
        self, entry: Fibre | Resin | CoreMaterial | Cloth | Rates
    ) -> Fibre | Resin | CoreMaterial | Cloth | Rates:
        """What the table holds under the key of an entry, or the rates; raises InputError where there is none."""
        if isinstance(entry, Rates):
            return self.rates
        found: Fibre | Resin | CoreMaterial | Cloth = _found(getattr(self, _FIELDS[type(entry)]), entry.key, "entry")
        return found


_FIELDS: dict[type, str] = {Fibre: "fibres", Resin: "resins", CoreMaterial: "stocks", Cloth: "cloths"}

T = TypeVar("T", Fibre, Resin, CoreMaterial, Cloth)


def _found(entries: tuple[T, ...], key: str, what: str) -> T:
    for entry in entries:
        if entry.key == key:
            return entry
    raise InputError(
        f"there is no {what} “{key}” in the table of materials",
        accepts=f"Known are {', '.join(e.key for e in entries)}",
    )


def changed(
    entry: Fibre | Resin | CoreMaterial | Cloth, field: str, value: float
) -> Fibre | Resin | CoreMaterial | Cloth:
    """An entry with one number changed, its source now the workshop's own.

    Raises
    ------
    InputError
        For a number that no material has.
    """
    if field not in {f.name for f in fields(entry)} or type(getattr(entry, field)) not in (int, float):
        raise InputError(f"{field} cannot be changed")
    within(limit_of(type(entry), field), value, field.replace("_", " ").capitalize())
    changes: dict[str, Any] = {field: value, "source": "the workshop's own"}
    result: Fibre | Resin | CoreMaterial | Cloth = replace(entry, **changes)
    return result


def _glass(key: str, ounces: float, price: float, weave: Weave = "woven", radius: float = 0.003) -> Cloth:
    return Cloth(
        key=key,
        name=f"Glass {ounces:g} oz",
        fibre="e_glass",
        areal_mass=round(ounces * OUNCE_PER_SQUARE_YARD, 4),
        weave=weave,
        radius=radius,
        price=price,
    )


HANDBOOK = MaterialTable(
    fibres=(
        Fibre(key="e_glass", name="E-glass", density=2540, e1=73 * GPA, e2=73 * GPA, g12=30 * GPA, nu=0.23,
        by_hand=0.50, bagged=0.62, source=DANIEL),
        Fibre(key="s_glass", name="S-glass", density=2480, e1=86 * GPA, e2=86 * GPA, g12=35 * GPA, nu=0.23,
        by_hand=0.50, bagged=0.62, source=DANIEL),
        Fibre(key="carbon", name="Carbon, standard modulus", density=1760, e1=230 * GPA, e2=15 * GPA, g12=24 * GPA,
        nu=0.20, by_hand=0.45,
              bagged=0.56, source=DANIEL),
        Fibre(key="aramid", name="Aramid", density=1450, e1=131 * GPA, e2=7 * GPA, g12=2.9 * GPA, nu=0.35, by_hand=0.42,
        bagged=0.52, source=DANIEL),
        Fibre(key="basalt", name="Basalt", density=2670, e1=88 * GPA, e2=88 * GPA, g12=36 * GPA, nu=0.23, by_hand=0.50,
        bagged=0.62, source=SHEETS),
        Fibre(key="flax", name="Flax", density=1450, e1=55 * GPA, e2=8 * GPA, g12=3.5 * GPA, nu=0.30, by_hand=0.36,
        bagged=0.44, source=SHEETS),
    ),
    resins=(
        Resin(key="epoxy", name="Epoxy", density=1150, e=3.2 * GPA, nu=0.35, pot_minutes=25, price=260, source=DANIEL),
        Resin(key="epoxy_slow", name="Epoxy, slow", density=1150, e=3.1 * GPA, nu=0.35, pot_minutes=60, price=270,
        source=DANIEL),
        Resin(key="polyester", name="Polyester", density=1190, e=3.4 * GPA, nu=0.37, pot_minutes=15, price=110,
        source=DANIEL),
    ),
    stocks=(
        CoreMaterial(key="eps15", name="EPS 15", density=15, e=3.6 * MPA, g=1.6 * MPA, strength=0.07 * MPA, price=1400,
        source=EN_EPS),
        CoreMaterial(key="eps20", name="EPS 20", density=20, e=5.6 * MPA, g=2.4 * MPA, strength=0.11 * MPA, price=1800,
        source=EN_EPS),
        CoreMaterial(key="eps25", name="EPS 25", density=25, e=7.8 * MPA, g=3.3 * MPA, strength=0.15 * MPA, price=2200,
        source=EN_EPS),
        CoreMaterial(key="eps30", name="EPS 30", density=30, e=10 * MPA, g=4.2 * MPA, strength=0.20 * MPA, price=2700,
        source=EN_EPS),
        CoreMaterial(key="xps33", name="XPS 33", density=33, e=15 * MPA, g=6.2 * MPA, strength=0.30 * MPA, price=3600,
        source=EN_XPS),
        CoreMaterial(key="pu45", name="PU 45", density=45, e=11 * MPA, g=4.6 * MPA, strength=0.32 * MPA, price=7000),
        CoreMaterial(key="pvc60", name="PVC 60", density=60, e=70 * MPA, g=20 * MPA, strength=0.9 * MPA, price=21000),
        CoreMaterial(key="pvc80", name="PVC 80", density=80, e=90 * MPA, g=27 * MPA, strength=1.4 * MPA, price=26000),
        CoreMaterial(key="balsa", name="Balsa", density=150, e=3400 * MPA, g=130 * MPA, strength=12 * MPA, price=24000,
        wood=True, source=WOOD),
        CoreMaterial(key="paulownia", name="Paulownia", density=280, e=4400 * MPA, g=300 * MPA, strength=20 * MPA,
        price=16000, wood=True, source=SHEETS),
        CoreMaterial(key="cedar", name="Red cedar", density=340, e=7700 * MPA, g=650 * MPA, strength=31 * MPA,
        price=26000, wood=True, source=WOOD),
        CoreMaterial(key="poplar", name="Poplar", density=450, e=10900 * MPA, g=750 * MPA, strength=38 * MPA,
        price=12000, wood=True, source=WOOD),
        CoreMaterial(key="abs", name="Plastic side wall", density=1050, e=2200 * MPA, g=800 * MPA, strength=40 * MPA,
        price=60000),
        CoreMaterial(key="plywood", name="Birch plywood", density=680, e=9500 * MPA, g=700 * MPA, strength=35 * MPA,
        price=30000, wood=True, source=SHEETS),
    ),
    cloths=(
        _glass("glass2", 2, 45, radius=0.002), _glass("glass4", 4, 55), _glass("glass6", 6, 70, radius=0.004),
        Cloth(key="glass_biax300", name="Glass ±45° 300", fibre="e_glass", areal_mass=0.300, weave="biaxial",
        radius=0.006, price=90),
        Cloth(key="glass_ud220", name="Glass tape 220", fibre="e_glass", areal_mass=0.220, weave="unidirectional",
        roll=0.10, radius=0.006, price=110),
        Cloth(key="carbon160", name="Carbon weave 160", fibre="carbon", areal_mass=0.160, radius=0.005, price=330),
        Cloth(key="carbon200", name="Carbon weave 200", fibre="carbon", areal_mass=0.200, radius=0.006, price=380),
        Cloth(key="carbon_biax150", name="Carbon ±45° 150", fibre="carbon", areal_mass=0.150, weave="biaxial",
        radius=0.005, price=360),
        Cloth(key="carbon_ud150", name="Carbon tape 150", fibre="carbon", areal_mass=0.150, weave="unidirectional",
        roll=0.10, radius=0.008, price=420),
        Cloth(key="aramid170", name="Aramid weave 170", fibre="aramid", areal_mass=0.170, radius=0.008, price=340),
        Cloth(key="flax200", name="Flax weave 200", fibre="flax", areal_mass=0.200, radius=0.008, price=190),
        Cloth(key="basalt200", name="Basalt weave 200", fibre="basalt", areal_mass=0.200, radius=0.005, price=160),
    ),
)  # fmt: skip
"""What Kelvor starts with. Prices are invented, in crowns: put in your own."""
