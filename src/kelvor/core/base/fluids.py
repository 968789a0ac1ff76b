"""Water and air.

Density of fresh water: Tanaka, Girard, Davis, Peuto, Bignell (2001),
Metrologia 38, 301, eq. 1. Density of sea water: Millero and Poisson (1981),
Deep-Sea Res. 28A, 625 (the international one-atmosphere equation of state).
Viscosity: Sharqawy, Lienhard, Zubair (2010), Desalination and Water Treatment
16, 354, eqs. 22 and 23. Vapour pressure: Wagner and Pruss (2002), J. Phys.
Chem. Ref. Data 31, 387, eq. 2.5. Air: ideal gas at sea level. Coefficients from
memory, checked in ``tests/reference`` against gsw, iapws and tabulated values.
"""

from __future__ import annotations

from math import exp
from typing import Annotated, Literal

from kelvor.core.base.limits import Limit
from kelvor.core.base.values import frozen

GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²] (CGPM 1901)."""

TEMPERATURE_RANGE = (0.0, 40.0)
"""Validity of both density formulas [°C]."""

OCEAN_SALINITY = 35.0
"""Grams of salt per kilogram taken for sea water."""


@frozen(kw_only=True)
class Water:
    """The water a board floats on."""

    kind: Literal["fresh", "sea"] = "sea"
    celsius: Annotated[float, Limit(*TEMPERATURE_RANGE, unit="°C")] = 15.0

    @property
    def density(self) -> float:
        """Density [kg/m³]."""
        fresh = fresh_water_density(self.celsius)
        return fresh if self.kind == "fresh" else sea_water_density(self.celsius)

    @property
    def viscosity(self) -> float:
        """Kinematic viscosity [m²/s]."""
        return water_viscosity(self.celsius, 0.0 if self.kind == "fresh" else OCEAN_SALINITY) / self.density


def fresh_water_density(celsius: float) -> float:
    """Density of air-free water at one atmosphere [kg/m³], Tanaka 2001 eq. 1."""
    t = celsius
    a1, a2, a3, a4, a5 = -3.983035, 301.797, 522528.9, 69.34881, 999.974950
    density = a5 * (1 - float(t + a1) ** 2 * (t + a2) / (a3 * (t + a4)))
    return float(density)


def sea_water_density(celsius: float, salinity: float = OCEAN_SALINITY) -> float:
    """Density of sea water at one atmosphere [kg/m³], Millero and Poisson 1981."""
    t, s = celsius, salinity
    pure = (
        999.842594 + 6.793952e-2 * t - 9.095290e-3 * t**2 + 1.001685e-4 * t**3 - 1.120083e-6 * t**4 + 6.536332e-9 * t**5
    )
    a = 8.24493e-1 - 4.0899e-3 * t + 7.6438e-5 * t**2 - 8.2467e-7 * t**3 + 5.3875e-9 * t**4
    b = -5.72466e-3 + 1.0227e-4 * t - 1.6546e-6 * t**2
    density = pure + a * s + b * s**1.5 + 4.8314e-4 * s**2
    return float(density)


def water_viscosity(celsius: float, salinity: float = 0.0) -> float:
    """Dynamic viscosity at one atmosphere [Pa s], Sharqawy 2010 eqs. 22 and 23; salinity [g/kg]."""
    t, s = celsius, salinity / 1000
    pure = 4.2844e-5 + 1 / (0.157 * (t + 64.993) ** 2 - 91.296)
    a = 1.541 + 1.998e-2 * t - 9.52e-5 * t**2
    b = 7.974 - 7.561e-2 * t + 4.724e-4 * t**2
    return float(pure * (1 + a * s + b * s**2))


def vapour_pressure(celsius: float) -> float:
    """Pressure at which fresh water boils [Pa], Wagner and Pruss 2002 eq. 2.5."""
    critical, pressure = 647.096, 22.064e6
    kelvin = celsius + 273.15
    t = 1 - kelvin / critical
    terms = (
        -7.85951783 * t
        + 1.84408259 * t**1.5
        - 11.7866497 * t**3
        + 22.6807411 * t**3.5
        - 15.9618719 * t**4
        + 1.80122502 * t**7.5
    )
    return float(pressure * exp(critical / kelvin * terms))


AIR_PRESSURE = 101325.0
"""Standard pressure at sea level [Pa] (ISO 2533)."""


def air_density(celsius: float) -> float:
    """Density of dry air at sea level [kg/m³], ideal gas with R 287.05287 J/(kg K) (ISO 2533)."""
    return AIR_PRESSURE / (287.05287 * (celsius + 273.15))


def air_viscosity(celsius: float) -> float:
    """Kinematic viscosity of air [m²/s], Sutherland's law (ISO 2533)."""
    kelvin = celsius + 273.15
    return float(1.458e-6 * kelvin**1.5 / (kelvin + 110.4)) / air_density(celsius)
