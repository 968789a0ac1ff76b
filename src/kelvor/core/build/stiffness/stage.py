"""The stiffness stage: figures of a board with a construction, complete and frozen."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Figure, FigureDefinition, Method
from kelvor.core.base.units import Quantity as Q
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.board_mass import BoardMass
from kelvor.core.build.materials.layup import Skins, skins
from kelvor.core.build.materials.table import CoreMaterial, MaterialTable
from kelvor.core.build.stiffness.beam import first_frequency, three_point, tip, twist
from kelvor.core.build.stiffness.local import box_moment, dent_load, fin_box_torque, wrinkling_margin
from kelvor.core.build.stiffness.sections import Stiffness, stiffness
from kelvor.core.shape.surface.geometry import Geometry

TEST_LOAD = 500.0
"""Load of the bending tests [N]."""
SUPPORTS = (0.2, 0.8)
"""Supports of the three-point test, as shares of the length."""
LANDING = 300.0
"""Bending moment at which wrinkling is compared [N m]; ranking only."""
MODULI = 0.15
"""Share by which moduli and resin ratio part from the table in practice (common practice, no source)."""

BEAM = Method(
    "thin shell with core as a Timoshenko beam",
    "Bredt 1896; Allen 1969; Jones 1999; Halpin & Kardos 1976",
    "small deflections; nothing buckles",
)
RANK = Method(
    "indentation and wrinkling limits",
    "Ashby et al. 2000; Hoff & Mautner 1945 (from memory)",
    "against another board",
)


# fmt: off
SAG = FigureDefinition("bend_sag", "Sag, 500 N three-point", Q.FLEX, BEAM, more="softer", less="stiffer",
    short="bends {} under 500 N", short_below="bends {} above 500 N")
SAG_SHEAR = FigureDefinition("bend_sag_shear", "Sag, share of core shear", Q.FLEX, BEAM)
NOSE_TIP = FigureDefinition("tip_nose", "Nose, 100 N at its tip", Q.FLEX, BEAM, more="softer", less="stiffer")
TAIL_TIP = FigureDefinition("tip_tail", "Tail, 100 N at its tip", Q.FLEX, BEAM, more="softer", less="stiffer")
TWIST = FigureDefinition("twist_per_moment", "Twist, 10 N m at the feet", Q.TWIST, BEAM, more="softer", less="stiffer",
    short="twists {} for 10 N m")
RATIO = FigureDefinition("bend_to_twist", "Bending to twist, EI/GJ", Q.RATIO, BEAM, more="more bend", less="more twist")
FREQUENCY = FigureDefinition("bend_frequency", "First bending frequency", Q.FREQUENCY, BEAM, more="quicker",
    less="slower")
DENT = FigureDefinition("dent_front", "Dent at front heel, rank", Q.RATIO, RANK, more="tougher", less="softer",
    ranks=True)
WRINKLE = FigureDefinition("wrinkle_margin", "Deck wrinkling margin", Q.RATIO, RANK, ranks=True)
BOX = FigureDefinition("box_moment", "Mast moment, foam alone", Q.MOMENT, RANK, ranks=True)
FIN_BOX = FigureDefinition("fin_box_torque", "Fin box torque, foam alone", Q.MOMENT, RANK, ranks=True)
# fmt: on
FIGURES = (SAG, SAG_SHEAR, NOSE_TIP, TAIL_TIP, TWIST, RATIO, FREQUENCY, DENT, WRINKLE, BOX, FIN_BOX)
DENT_UNIT = 1000.0


@frozen(eq=False)
class StiffnessStage:
    """Stiffness along the board, its laminate, where the feet stand [m], and the figures read off them."""

    along: Stiffness
    laminate: Skins
    feet: tuple[float, float]
    figures: tuple[Figure, ...]


def mass_per_metre(measured: Geometry, mass: BoardMass) -> Array:
    """Mass along the board at its stations [kg/m]: core by area, skins by girth, the rest even."""
    x, areas = measured.shape.x, measured.areas.area
    total = mass.total.mass
    core = dict(mass.parts)["core"].mass
    run = float(np.trapezoid(areas, x))
    shape, top = measured.shape, measured.shape.columns.top
    y, z = shape.y[:, : top + 1], shape.z[:, : top + 1]
    girth = 2 * np.hypot(np.diff(y, axis=1), np.diff(z, axis=1)).sum(axis=1)
    around = float(np.trapezoid(girth, x))
    found: Array = core * areas / max(run, 1e-12) + (total - core) * girth / max(around, 1e-12)
    return found


def stiffness_stage(measured: Geometry, mass: BoardMass, brief: Brief, table: MaterialTable) -> StiffnessStage | None:
    """Stiffness of a board; None where it has no construction."""
    board = measured.board
    construction = board.construction
    if construction is None:
        return None
    laminate = skins(measured.shape, construction, table)
    along = stiffness(measured, construction, laminate, table)
    stock = table.stock(construction.core.stock)
    rows = sorted(r.at.x(board.length, board.mast_x) for r in board.fittings.straps)
    centre, half = measured.solid.x, brief.rider.stance / 2
    feet = (rows[0], rows[-1]) if len(rows) > 1 else (centre - half, centre + half)
    feet = (max(feet[0], 0.03 * board.length), min(feet[1], 0.97 * board.length))
    sag = three_point(along, SUPPORTS[0] * board.length, SUPPORTS[1] * board.length, TEST_LOAD)
    middle = int(np.argmin(np.abs(along.x - board.length / 2)))
    spans = f"supports at {SUPPORTS[0]:.0%} and {SUPPORTS[1]:.0%} of the length, load in the middle"
    inputs = (
        ("construction", construction.name),
        ("core", stock.name),
        ("resin", construction.resin),
        ("laid", construction.method),
    )

    def make(definition: FigureDefinition, value: float, note: str, band: float = MODULI) -> Figure:
        ok = math.isfinite(value)
        half = band * abs(value) if ok else 0.0
        return Figure(
            definition=definition,
            value=value,
            band=half,
            band_of_difference=half / 4,
            note=note,
            inputs=inputs,
            valid=ok,
        )

    held = f"feet {feet[0] * 100:.0f} and {feet[1] * 100:.0f} cm from tail"
    figures = (
        make(SAG, sag.total, f"{spans}; bending {sag.bending * 1e3:.2f}, shear {sag.shear * 1e3:.2f} mm"),
        make(SAG_SHEAR, sag.shear, spans),
        make(NOSE_TIP, tip(along, feet[1], 0.98 * board.length, 100.0).total, held),
        make(TAIL_TIP, tip(along, feet[0], 0.02 * board.length, 100.0).total, held),
        make(TWIST, 10 * twist(along, *feet), held, 0.2),
        make(RATIO, float(along.bending[middle] / along.twist[middle]), "in the middle of the board", 0.25),
        make(FREQUENCY, first_frequency(along, mass_per_metre(measured, mass), feet), held, 0.1),
        *_local(measured, stock, laminate, along, feet, make),
    )
    return StiffnessStage(along, laminate, feet, figures)


def _local(
    measured: Geometry,
    stock: CoreMaterial,
    laminate: Skins,
    along: Stiffness,
    feet: tuple[float, float],
    make: Callable[..., Figure],
) -> tuple[Figure, ...]:
    """What holds dents, wrinkles and boxes: to compare boards by, not to read alone."""
    board = measured.board
    return (
        make(
            DENT,
            dent_load(measured, stock, laminate, feet[1]) / DENT_UNIT,
            "deck at the front foot; compare, do not read alone",
            0.3,
        ),
        make(
            WRINKLE,
            wrinkling_margin(measured, stock, laminate, along, (feet[0] + feet[1]) / 2, LANDING),
            "between the feet under 300 N m; compare, do not read alone",
            0.3,
        ),
        make(
            BOX,
            box_moment(measured, stock),
            "laminate and glue not counted" if board.fittings.tracks else "no foil tracks",
            0.3,
        ),
        make(
            FIN_BOX,
            fin_box_torque(measured, stock),
            "laminate and glue not counted" if board.fittings.fin_boxes else "no fin box",
            0.3,
        ),
    )
