"""A board built layer by layer: core, cloth, resin, coats and stringers, each with its mass and where it sits."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.build.mass.properties import MassProperties, combined
from kelvor.core.build.materials.layup import Layup, coated, layup
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.parts.construction import Construction, Core, Stringer
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.moments import Shell, SolidMoments, even_shell, skin_moments

GLUE = 0.30
"""Thickened epoxy in a glue line [kg/m²] (common practice, no source)."""
CLOTH, RESIN, COAT = "cloth, ", "resin, ", "coat, "
"""How the names of these parts begin; the zone follows."""


def built_parts(
    measured: Geometry, core: SolidMoments, construction: Construction, table: MaterialTable
) -> tuple[list[tuple[str, MassProperties]], Layup]:
    """Core, stringers, cloth and resin by zone, and coats; also the cloth as it lies."""
    found = layup(measured.shape, construction, table)
    stock = table.stock(construction.core.stock)
    rho = stock.density * wood_share(measured, construction.core)
    taken = sum(stringer_volume(measured, s) for s in construction.stringers if s.on)
    left = max(0.0, 1 - taken / max(core.volume, 1e-9))
    parts = [
        (
            "core",
            MassProperties(
                mass=core.volume * rho * left,
                x=core.x,
                z=core.z,
                roll=core.ixx * rho * left,
                pitch=core.iyy * rho * left,
                yaw=core.izz * rho * left,
            ),
        )
    ]
    if construction.core.build != "solid":
        parts.append(("glue lines", _glue(measured, construction.core)))
    for stringer in construction.stringers:
        if stringer.on:
            parts.append((stringer.name, _stringer(measured, stringer, table.stock(stringer.material).density)))
    for zone, moments in skin_moments(measured.shape).items():
        for kind, areal in ((CLOTH, found.fibre), (RESIN, found.resin)):
            laid = even_shell(moments @ areal[:, found.cells.zones[zone]].ravel())
            parts.append((f"{kind}{zone}", of_shell(laid, 1.0)))
    for coat in construction.coats:
        shells = coated(measured, coat)
        parts.append((f"{COAT}{coat.name}", combined(of_shell(shell, coat.areal_mass) for shell in shells)))
    return parts, found


def of_shell(shell: Shell, areal_mass: float) -> MassProperties:
    """An even skin of this areal mass [kg/m²]."""
    a = areal_mass
    return MassProperties(
        mass=shell.area * a, x=shell.x, z=shell.z, roll=shell.ixx * a, pitch=shell.iyy * a, yaw=shell.izz * a
    )


def ribs(measured: Geometry, core: Core) -> Array:
    """Places of a chambered or hollow core's ribs [m from the tail]; none in a solid one."""
    length = measured.board.length
    if core.build == "solid":
        return np.zeros(0)
    count = max(1, int((length - 0.2) / max(core.pitch, 0.02)))
    return np.linspace(0.1, length - 0.1, count + 1)


def _glue(measured: Geometry, core: Core) -> MassProperties:
    """Glue where ribs meet planks above and below, and along both rails."""
    shape = measured.shape
    x = ribs(measured, core)
    width = 2 * np.maximum(np.interp(x, shape.x, shape.half_width) - core.rail, 0.0)
    mass = GLUE * 2 * width * core.rib
    z = np.interp(x, shape.x, (shape.keel + shape.deck) / 2)
    rail = GLUE * 4 * core.rail * measured.board.length
    total = float(mass.sum()) + rail
    cx = (float(mass @ x) + rail * measured.solid.x) / total
    cz = (float(mass @ z) + rail * measured.solid.z) / total
    along = float(mass @ (x - cx) ** 2) + rail * measured.board.length**2 / 12
    return MassProperties(mass=total, x=cx, z=cz, roll=float(mass @ width**2) / 12, pitch=along, yaw=along)


def wood_share(measured: Geometry, core: Core) -> float:
    """Share of the core's volume that is wood: all of a solid one, planks and ribs of a chambered or hollow one."""
    if core.build == "solid":
        return 1.0
    shape = measured.shape
    thick = np.maximum(shape.deck - shape.keel, 1e-6)
    half = np.maximum(shape.half_width - shape.inner, 1e-6)
    inside = np.clip(1 - core.rail / half, 0.0, 1.0)
    hollow = inside * np.clip(1 - 2 * core.skin / thick, 0.0, 1.0)
    between = max(0.0, 1 - core.rib / max(core.pitch, core.rib + 1e-6))
    if core.build == "chambered":  # chambers end a hand's width from the tips
        between *= 0.85
    return float(1 - np.average(hollow * between, weights=np.maximum(measured.areas.area, 1e-9)))


def _run(measured: Geometry, stringer: Stringer) -> tuple[Array, Array, Array, Array]:
    """Place, half-place, height of its middle and depth of a stringer along the board [m]."""
    shape = measured.shape
    x = shape.x
    y = (
        np.maximum(shape.half_width - 0.012, 0.0)
        if stringer.rail
        else np.minimum(stringer.offset, 0.9 * shape.half_width)
    )
    if not stringer.rail and stringer.offset == 0:
        return x, np.zeros_like(x), (shape.keel + shape.deck) / 2, np.maximum(shape.deck - shape.keel, 0.0)
    rows = np.unique(np.r_[0 : len(x) : 5, len(x) - 1])  # heights run smoothly between
    low, high = np.empty(len(rows)), np.empty(len(rows))
    apex, top = shape.columns.apex, shape.columns.top
    for k, i in enumerate(rows):
        low[k] = np.interp(y[i], shape.y[i, : apex + 1], shape.z[i, : apex + 1])
        high[k] = np.interp(y[i], shape.y[i, apex : top + 1][::-1], shape.z[i, apex : top + 1][::-1])
    low, high = np.interp(x, x[rows], low), np.interp(x, x[rows], high)
    return x, np.broadcast_to(y, x.shape), (low + high) / 2, np.maximum(high - low, 0.0)


def stringer_sections(measured: Geometry, stringer: Stringer) -> tuple[Array, Array, Array, Array]:
    """Per station: area, height of its middle, depth and half-place of a stringer, both of a pair [m², m]."""
    _, y, z, depth = _run(measured, stringer)
    pair = 2.0 if stringer.offset > 0 or stringer.rail else 1.0
    return pair * stringer.width * depth, z, depth, y


def stringer_volume(measured: Geometry, stringer: Stringer) -> float:
    """Volume a stringer takes of the core [m³]."""
    area, *_ = stringer_sections(measured, stringer)
    return float(np.trapezoid(area, measured.shape.x))


def _stringer(measured: Geometry, stringer: Stringer, density: float) -> MassProperties:
    area, z, depth, y = stringer_sections(measured, stringer)
    x = measured.shape.x
    w = np.gradient(x) * area * density
    mass = float(w.sum())
    if mass <= 0:
        return MassProperties(mass=0.0, x=0.0, z=0.0)
    cx, cz = float(w @ x) / mass, float(w @ z) / mass
    xx, zz, yy = float(w @ (x - cx) ** 2), float(w @ ((z - cz) ** 2 + depth**2 / 12)), float(w @ (y * y))
    return MassProperties(mass=mass, x=cx, z=cz, roll=yy + zz, pitch=xx + zz, yaw=xx + yy)
