"""EI and GJ of every section: skins as a thin closed shell, core, stringers, foil tracks.

References
----------
Bredt 1896 for the closed shell in torsion, J = 4 A² / ∮ ds / (G t); Saint-Venant's A⁴ / (40 I_p) for a compact core
(Roark's Formulas for Stress and Strain, table of torsion, from memory; within some 10 % for ellipses and boards).
Shear stiffness: the webs' ∮ G t (dz/ds)² ds and 5/6 of the core's G A (Timoshenko's factor for a rectangle).
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.built import stringer_sections, wood_share
from kelvor.core.build.materials.layup import Skins
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.parts.fittings import FoilTracks
from kelvor.core.shape.surface.geometry import Geometry

SHEAR_FACTOR = 5 / 6
THIN_SHELL = 0.2
"""Thickness over section height beyond which a skin is no thin shell."""
TRACK_STOCK, TRACK_WALLS = "abs", 0.015
"""What a foil track is moulded of, and its two walls together, beside the slot [m] (common practice, no source)."""


@frozen(eq=False)
class Stiffness:
    """Along the board at stations x [m]: EI [N m²], GJ [N m²], shear stiffness S [N], neutral axis z [m], skin's share
    of EI.
    """

    x: Array
    bending: Array
    twist: Array
    shear: Array
    neutral: Array
    skin_share: Array


@frozen(eq=False)
class Shells:
    """Skins of sections (n,) as closed shells: EA [N], its first [N m] and second moment [N m²] about height nothing,
    GJ [N m²], webs' shear stiffness [N].
    """

    stretch: Array
    first: Array
    second: Array
    twist: Array
    webs: Array


def closed_shells(y: Array, z: Array, along: Array, shear: Array) -> Shells:
    """Symmetric closed shells, each given by its port half, twisted after Bredt.

    Parameters
    ----------
    y, z:
        Half-curves from the bottom's centre round to the deck's centre (n, m) [m].
    along, shear:
        E·t and G·t of their segments (n, m − 1) [N/m].
    """
    dy, dz = np.diff(y, axis=1), np.diff(z, axis=1)
    ds, middle = np.hypot(dy, dz), (z[:, :-1] + z[:, 1:]) / 2
    weight = 2 * along * ds
    enclosed = np.sum((y[:, :-1] + y[:, 1:]) * dz, axis=1)
    with np.errstate(divide="ignore"):
        around = 2 * np.where(ds > 1e-7, ds / np.maximum(shear, 1e-9), 0.0).sum(axis=1)
    return Shells(
        weight.sum(axis=1),
        (weight * middle).sum(axis=1),
        (weight * (middle**2 + dz**2 / 12)).sum(axis=1),
        4 * enclosed**2 / np.maximum(around, 1e-12),
        2 * (shear * np.where(ds > 1e-9, dz**2 / np.maximum(ds, 1e-9), 0.0)).sum(axis=1),
    )


def track_sections(measured: Geometry, tracks: FoilTracks) -> tuple[Array, Array, Array]:
    """Foil tracks as stiffeners set into the bottom: area, height of the middle and depth at every station [m², m]."""
    shape, middle = measured.shape, tracks.at.x(measured.board.length)
    here = np.abs(shape.x - middle) <= tracks.length / 2
    depth = np.where(here, np.minimum(tracks.depth, shape.deck - shape.keel), 0.0)
    pair = 2.0 if tracks.spacing > 0 else 1.0
    return pair * TRACK_WALLS * depth, shape.keel + depth / 2, depth


def solid_torsion(area: Array | float, polar: Array | float) -> Array:
    """Torsion constant of a compact solid section [m⁴] from its area [m²] and polar second moment [m⁴];
    Saint-Venant.
    """
    constant: Array = np.asarray(area) ** 4 / (40 * np.maximum(polar, 1e-15))
    return constant


def stiffness(measured: Geometry, construction: Construction, laid: Skins, table: MaterialTable) -> Stiffness:
    """EI, GJ and shear stiffness of every section of a board."""
    shape, areas = measured.shape, measured.areas
    top = shape.columns.top
    y, z = shape.y[:, : top + 1], shape.z[:, : top + 1]
    along, shear = laid.along[:, :top], laid.shear[:, :top].copy()
    for item in construction.stringers:
        if item.on and item.rail:  # a side wall closes the shell where no cloth does
            shear[:, shape.columns.edge : shape.columns.deck_edge] += table.stock(item.material).g * item.width
    skins = closed_shells(y, z, along, shear)
    stock = table.stock(construction.core.stock)
    share = wood_share(measured, construction.core)
    core_e, core_g = (
        stock.e * share,
        stock.g * share,
    )  # across the grain of a hollow one the ribs carry; along it, its planks
    weights = [skins.stretch, core_e * areas.area]
    firsts = [skins.first, core_e * areas.first_z]
    seconds = [skins.second, core_e * areas.second_z]
    webs = skins.webs + SHEAR_FACTOR * core_g * areas.area
    bars = [
        (table.stock(item.material), *stringer_sections(measured, item)[:3])
        for item in construction.stringers
        if item.on
    ]
    if measured.board.fittings.tracks is not None:
        bars.append((table.stock(TRACK_STOCK), *track_sections(measured, measured.board.fittings.tracks)))
    for bar, area, height, depth in bars:
        weights.append(bar.e * area)
        firsts.append(bar.e * area * height)
        seconds.append(bar.e * area * (height**2 + depth**2 / 12))
        webs = webs + SHEAR_FACTOR * bar.g * area
    total, first, second = sum(weights), sum(firsts), sum(seconds)
    axis = first / np.maximum(total, 1e-9)
    bending = np.maximum(second - first * axis, 1e-9)
    skin = np.maximum(seconds[0] - 2 * axis * firsts[0] + axis**2 * weights[0], 0.0)
    polar = areas.second_y + np.maximum(areas.second_z - areas.first_z**2 / np.maximum(areas.area, 1e-12), 0.0)
    solid = core_g * solid_torsion(areas.area, polar)
    return Stiffness(shape.x, bending, skins.twist + solid, np.maximum(webs, 1e-6), axis, skin / bending)
