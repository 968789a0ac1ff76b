"""Water and air.

Density of fresh water: Tanaka, Girard, Davis, Peuto, Bignell (2001),
Metrologia 38, 301, eq. 1. Density of sea water: Millero and Poisson (1981),
Deep-Sea Res. 28A, 625 (the international one-atmosphere equation of state);
coefficients from memory, checked in ``tests/reference`` against gsw and iapws.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

GRAVITY = 9.80665
"""Standard acceleration of free fall [m/s²] (CGPM 1901)."""

TEMPERATURE_RANGE = (0.0, 40.0)
"""Validity of both density formulas [°C]."""

OCEAN_SALINITY = 35.0
"""Grams of salt per kilogram taken for sea water."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Water:
    """The water a board floats on."""

    kind: Literal["fresh", "sea"] = "sea"
    celsius: float = 15.0

    @property
    def density(self) -> float:
        """Density [kg/m³]."""
        fresh = fresh_water_density(self.celsius)
        return fresh if self.kind == "fresh" else sea_water_density(self.celsius)


def fresh_water_density(celsius: float) -> float:
    """Density of air-free water at one atmosphere [kg/m³], Tanaka 2001 eq. 1."""
    t = celsius
    a1, a2, a3, a4, a5 = -3.983035, 301.797, 522528.9, 69.34881, 999.974950
    density = a5 * (1 - float(t + a1) ** 2 * (t + a2) / (a3 * (t + a4)))
    return float(density)


def sea_water_density(celsius: float, salinity: float = OCEAN_SALINITY) -> float:
    """Density of sea water at one atmosphere [kg/m³], Millero and Poisson 1981."""
    t, s = celsius, salinity
    pure = 999.842594 + 6.793952e-2 * t - 9.095290e-3 * t**2 + 1.001685e-4 * t**3 - 1.120083e-6 * t**4 + 6.536332e-9 * t**5
    a = 8.24493e-1 - 4.0899e-3 * t + 7.6438e-5 * t**2 - 8.2467e-7 * t**3 + 5.3875e-9 * t**4
    b = -5.72466e-3 + 1.0227e-4 * t - 1.6546e-6 * t**2
    density = pure + a * s + b * s**1.5 + 4.8314e-4 * s**2
    return float(density)
