"""What a board weighs: core by density, skin by areal mass and zone, fittings as points and lines."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.built import CLOTH, COAT, RESIN, built_parts, of_shell
from kelvor.core.build.mass.insert_mass import SetIn, set_in
from kelvor.core.build.mass.properties import MassProperties, combined
from kelvor.core.build.materials.layup import Layup
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.shape.parts.fittings import BOX_SIZES, Pad
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.moments import SolidMoments

CORE_BAND = 0.08
"""Share by which foam density differs from its label (common practice, no source)."""
SKIN_BAND = 0.10
"""Share by which a hand-laid skin's mass differs from plan (common practice, no source)."""


@frozen
class BoardMass:
    """The parts of a board by name, their sum, the band of its mass [kg], the block it is cut from on
    which mill; where a construction is known, its cloth and what its fittings are set in.
    """

    parts: tuple[tuple[str, MassProperties], ...]
    total: MassProperties
    band: float
    core: SolidMoments
    blank: MillStock
    mill: Mill
    layup: Layup | None = None
    within: SetIn = SetIn()


def core_solid(measured: Geometry) -> SolidMoments:
    """The core's volume moments: the finished solid less its skin.

    First order in skin thickness, plus the second-order term of an edge-on
    corner; against the core's own mesh it agrees to about 0.05 %.
    """
    skin, whole = measured.board.skin, measured.solid
    layers = [
        (measured.shells["deck"], skin.deck),
        (measured.shells["bottom"], skin.bottom),
        (measured.shells["rail"], skin.rail),
    ]
    rest = combined(
        [MassProperties(mass=whole.volume, x=whole.x, z=whole.z, roll=whole.ixx, pitch=whole.iyy, yaw=whole.izz)]
    )
    volume = rest.mass - sum(s.area * t for s, t in layers)
    x = (rest.mass * rest.x - sum(s.area * t * s.x for s, t in layers)) / volume
    z = (rest.mass * rest.z - sum(s.area * t * s.z for s, t in layers)) / volume
    skins = [of_shell(s, t) for s, t in layers]
    return SolidMoments(
        volume,
        x,
        z,
        rest.roll_about(z) - sum(s.roll_about(z) for s in skins),
        rest.pitch_about(x, z) - sum(s.pitch_about(x, z) for s in skins),
        rest.yaw_about(x) - sum(s.yaw_about(x) for s in skins),
    )


def blank(measured: Geometry, mill: Mill) -> MillStock:
    """The block a board is cut from on a mill, in whole millimetres: what is bought, paid, weighed and clamped.

    About the finished board, so that its core, a skin smaller, can be cut whatever the skin.
    """
    shape = measured.shape
    tall = float(shape.z.max() - shape.z.min())
    return mill.block(measured.board.length, 2 * float(shape.half_width.max()), tall).rounded_up


def board_mass(measured: Geometry, table: MaterialTable = HANDBOOK) -> BoardMass:
    """Mass properties of the board as built, without foil.

    With a construction, layer by layer from `table`; without one, by the areal masses of its materials.
    """
    board, shells = measured.board, measured.shells
    fittings = board.fittings
    core = core_solid(measured)
    if board.construction is not None:
        parts, laid = built_parts(measured, core, board.construction, table)
        within = set_in(measured, board.construction, table)
        parts += within.parts
    else:
        parts, laid, within = _parts_by_areal_mass(measured, core), None, SetIn()
    if fittings.pads:
        parts += [(pad.name, _pad(measured, pad)) for pad in fittings.pads]
    else:
        parts.append(("deck pad", of_shell(shells["deck"], fittings.pad_areal_mass * fittings.pad_cover)))
    mast = board.mast_x
    if (tracks := fittings.tracks) is not None:
        x = tracks.at.x(board.length)
        z = measured.at(measured.shape.keel, x) + tracks.depth / 2
        along = tracks.mass * tracks.length**2 / 12
        aside = tracks.mass * (tracks.spacing / 2) ** 2
        parts.append(
            ("foil tracks", MassProperties(mass=tracks.mass, x=x, z=z, roll=aside, pitch=along, yaw=along + aside))
        )
    for row in fittings.straps:
        x = row.at.x(board.length, mast)
        z = measured.at(measured.shape.deck, x)
        aside = row.mass * row.half_spread**2
        parts.append((row.name, MassProperties(mass=row.mass, x=x, z=z, roll=aside, yaw=aside)))
    parts += _fitting_masses(measured)
    if fittings.other_mass > 0:
        parts.append(("vent, handle, leash", MassProperties(mass=fittings.other_mass, x=board.length / 2, z=core.z)))
    skin = sum(
        p.mass
        for name, p in parts
        if "skin" in name or name in ("paint", "deck pad") or name.startswith((CLOTH, RESIN, COAT))
    )
    skin += sum(p.mass for name, p in parts if name in {pad.name for pad in fittings.pads})
    band = ((CORE_BAND * parts[0][1].mass) ** 2 + (SKIN_BAND * skin) ** 2) ** 0.5
    return BoardMass(
        tuple(parts),
        combined(p for _, p in parts),
        band,
        core,
        blank(measured, table.mill),
        table.mill,
        laid,
        within,
    )


def _parts_by_areal_mass(measured: Geometry, core: SolidMoments) -> list[tuple[str, MassProperties]]:
    """Core and skin by density and areal mass."""
    material, shells = measured.board.materials, measured.shells
    rho = material.core_density
    return [
        (
            "core",
            MassProperties(
                mass=core.volume * rho,
                x=core.x,
                z=core.z,
                roll=core.ixx * rho,
                pitch=core.iyy * rho,
                yaw=core.izz * rho,
            ),
        ),
        ("deck skin", of_shell(shells["deck"], material.deck_areal_mass)),
        ("bottom skin", of_shell(shells["bottom"], material.bottom_areal_mass)),
        ("rail skin", of_shell(shells["rail"], material.rail_areal_mass)),
        ("paint", combined(of_shell(s, material.paint_areal_mass) for s in shells.values())),
    ]


def _pad(measured: Geometry, pad: Pad) -> MassProperties:
    """A deck pad as an even strip between its ends, over its share of the deck's width."""
    board, shape = measured.board, measured.shape
    start, end = sorted(p.x(board.length, board.mast_x) for p in (pad.start, pad.end))
    x = np.linspace(max(start, 0.0), min(end, board.length), 41)
    half = pad.cover * np.interp(x, shape.x, shape.deck_edge_y)
    z = np.interp(x, shape.x, shape.deck) + pad.thickness / 2
    weight = np.gradient(x) * 2 * half * pad.areal_mass
    mass = float(weight.sum())
    if mass <= 0:
        return MassProperties(mass=0.0, x=float(x[0]), z=float(z[0]))
    cx, cz = float(weight @ x) / mass, float(weight @ z) / mass
    along, up, aside = float(weight @ (x - cx) ** 2), float(weight @ (z - cz) ** 2), float(weight @ (half**2 / 3))
    return MassProperties(mass=mass, x=cx, z=cz, roll=aside + up, pitch=along + up, yaw=along + aside)


def _fitting_masses(measured: Geometry) -> list[tuple[str, MassProperties]]:
    """Fin boxes with their fins, mast track and plugs."""
    board, fittings = measured.board, measured.board.fittings
    length, mast = board.length, board.mast_x
    found: list[tuple[str, MassProperties]] = []
    for box in fittings.fin_boxes:
        x = box.at.x(length, mast) + box.fin.base / 2
        keel = measured.at(measured.shape.keel, x)
        aside = box.offset**2
        shell = MassProperties(
            mass=box.count * BOX_SIZES[box.kind][3],
            x=x,
            z=keel + BOX_SIZES[box.kind][2] / 2,
            roll=box.count * BOX_SIZES[box.kind][3] * aside,
            yaw=box.count * BOX_SIZES[box.kind][3] * aside,
        )
        m = box.count * box.fin.mass
        fin = MassProperties(
            mass=m,
            x=x,
            z=keel - 0.4 * box.fin.span,
            roll=m * (aside + box.fin.span**2 / 12),
            pitch=m * box.fin.span**2 / 12,
            yaw=m * aside,
        )
        found += [(box.name + ", box", shell), (box.name, fin)]
    if (track := fittings.mast_track) is not None:
        x = track.at.x(length, mast)
        along = track.mass * track.length**2 / 12
        found.append(
            (
                "mast track",
                MassProperties(mass=track.mass, x=x, z=measured.at(measured.shape.deck, x), pitch=along, yaw=along),
            )
        )
    for i, plug in enumerate(fittings.plugs):
        x = plug.at.x(length, mast)
        line = measured.shape.deck if plug.side == "deck" else measured.shape.keel
        aside = plug.mass * plug.offset**2
        found.append(
            (f"{plug.kind} {i + 1}", MassProperties(mass=plug.mass, x=x, z=measured.at(line, x), roll=aside, yaw=aside))
        )
    return found
