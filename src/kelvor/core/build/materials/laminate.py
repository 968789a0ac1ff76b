"""Micromechanics and classical lamination theory: from cloth and resin to a skin's membrane stiffness.

References
----------
Halpin, Kardos: The Halpin-Tsai equations: a review. Polymer Eng. Sci. 16 (1976) 344: E2 with ξ = 2, G12 with ξ = 1.
Jones: Mechanics of Composite Materials, 2nd ed. 1999, eqs 2.61, 2.84 (reduced and transformed stiffnesses), ch. 4 (A
matrix).
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.table import Cloth, Fibre, MaterialTable, Resin
from kelvor.core.shape.parts.construction import Method

CRIMP = 0.90
"""Share of stiffness a woven cloth keeps of two straight layers (common practice, no source)."""
MAT = 0.375
"""Share of fibre stiffness in any direction of a random mat: 3/8 (Tsai and Pagano 1968, from memory)."""


@frozen
class Lamina:
    """A straight layer: moduli [Pa], Poisson's ratio."""

    e1: float
    e2: float
    g12: float
    nu12: float

    def reduced(self) -> Array:
        """Plane-stress stiffness Q (3, 3) in its own axes [Pa] (Jones eq. 2.61)."""
        nu21 = self.nu12 * self.e2 / self.e1
        d = 1 - self.nu12 * nu21
        return np.array(
            [[self.e1 / d, self.nu12 * self.e2 / d, 0], [self.nu12 * self.e2 / d, self.e2 / d, 0], [0, 0, self.g12]]
        )

    def turned(self, angle: float) -> Array:
        """Q̄ (3, 3) with the fibre at `angle` [rad] from x (Jones eq. 2.84)."""
        c, s = np.cos(angle), np.sin(angle)
        q = self.reduced()
        q11, q12, q22, q66 = q[0, 0], q[0, 1], q[1, 1], q[2, 2]
        c2, s2 = c * c, s * s
        b11 = q11 * c2 * c2 + 2 * (q12 + 2 * q66) * s2 * c2 + q22 * s2 * s2
        b22 = q11 * s2 * s2 + 2 * (q12 + 2 * q66) * s2 * c2 + q22 * c2 * c2
        b12 = (q11 + q22 - 4 * q66) * s2 * c2 + q12 * (s2 * s2 + c2 * c2)
        b66 = (q11 + q22 - 2 * q12 - 2 * q66) * s2 * c2 + q66 * (s2 * s2 + c2 * c2)
        b16 = (q11 - q12 - 2 * q66) * s * c * c2 + (q12 - q22 + 2 * q66) * s * s2 * c
        b26 = (q11 - q12 - 2 * q66) * s * s2 * c + (q12 - q22 + 2 * q66) * s * c * c2
        return np.array([[b11, b12, b16], [b12, b22, b26], [b16, b26, b66]])


@frozen(eq=False)
class LaidPly:
    """One layer of cloth with its resin: thickness [m], resin [kg/m²], and its share of A (3, 3) [N/m]."""

    thickness: float
    resin: float
    membrane: Array


def fibre_volume(fibre: Fibre, resin: Resin, mass_fraction: float) -> float:
    """Fibre volume fraction from fibre mass fraction."""
    f, r = mass_fraction / fibre.density, (1 - mass_fraction) / resin.density
    return f / (f + r)


def lamina(fibre: Fibre, resin: Resin, vf: float) -> Lamina:
    """A straight layer of fibre volume fraction `vf`: rule of mixtures along, Halpin–Tsai across and in shear."""
    gm = resin.e / (2 * (1 + resin.nu))

    def halpin_tsai(f: float, m: float, xi: float) -> float:
        eta = (f / m - 1) / (f / m + xi)
        return m * (1 + xi * eta * vf) / (1 - eta * vf)

    return Lamina(
        vf * fibre.e1 + (1 - vf) * resin.e,
        halpin_tsai(fibre.e2, resin.e, 2.0),
        halpin_tsai(fibre.g12, gm, 1.0),
        vf * fibre.nu + (1 - vf) * resin.nu,
    )


def laid(cloth: Cloth, angle: float, resin: Resin, method: Method, table: MaterialTable) -> LaidPly:
    """One layer of a cloth at an angle [rad] as this method lays it."""
    fibre = table.fibre(cloth.fibre)
    share = fibre.bagged if method == "bagged" else fibre.by_hand
    vf = fibre_volume(fibre, resin, share)
    thickness = cloth.areal_mass / (fibre.density * vf)
    straight = lamina(fibre, resin, vf)
    if cloth.weave == "unidirectional":
        stiff = straight.turned(angle)
    elif cloth.weave == "biaxial":
        stiff = (straight.turned(angle + np.pi / 4) + straight.turned(angle - np.pi / 4)) / 2
    elif cloth.weave == "woven":
        stiff = CRIMP * (straight.turned(angle) + straight.turned(angle + np.pi / 2)) / 2
    else:
        e = MAT * straight.e1 + (1 - MAT) * straight.e2
        stiff = Lamina(e, e, e / 2.6, 0.3).reduced()
    return LaidPly(thickness, cloth.areal_mass * (1 - share) / share, stiff * thickness)


def engineering(a11: Array, a12: Array, a22: Array, a66: Array) -> tuple[Array, Array]:
    """Stiffness along x, E·t, and in shear, G·t [N/m], from terms of the A matrix, free to contract across.

    A skin of a closed section is held in its own plane but may contract across
    the board; coupling of stretch and shear is taken as balanced port to starboard.
    """
    along = np.where(a22 > 0, a11 - a12 * a12 / np.where(a22 > 0, a22, 1.0), a11)
    return np.asarray(along), np.asarray(a66)
