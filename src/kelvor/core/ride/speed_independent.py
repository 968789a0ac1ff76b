"""Figures of riding on the surface that follow from geometry and mass alone."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.base.disciplines import AT_REST, RIGS
from kelvor.core.base.figures import Better, Figure, FigureDefinition, Method
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.measures.size import Measures, planform_area
from kelvor.core.measures.stance import feet
from kelvor.core.ride.attitudes import flat_bottom_area
from kelvor.core.shape.checks.fairness import standing_width
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.tank.laws.coefficients import Coefficients

ARCHIMEDES = Method(
    "volume less what board, foil, rig and rider displace", "Archimedes", "at rest; hand wing and kite not counted"
)
ROLLING = Method(
    "board's roll inertia and a strip's added mass of water, rolled by the feet with a quarter of the weight on each "
    "side",
    "strip theory: π/128 ρ b⁴ a metre, half of it wet (Newman 1977, from memory)",
    "no damping, no rail that bites; feet at the straps",
)
# fmt: off
FLAT_AREA = FigureDefinition("flat_bottom_area", "Bottom on the flat, gap 0.5 mm", Q.AREA, better=Better.MORE)
RESERVE = FigureDefinition("reserve_volume", "Reserve, rider afloat", Q.VOLUME, ARCHIMEDES, better=Better.MORE,
    head="{} to spare", head_below="{} short", short="{} to spare afloat", short_below="{} short afloat", below="short",
    school="Litres in the middle carry you; in the nose they recover a dive and flatter the figure.")
CARRIED_VOLUME = FigureDefinition("volume_per_carried_mass", "Litres per kg of all carried", Q.VOLUME_PER_MASS,
    ARCHIMEDES)
CARRIED_AREA = FigureDefinition("planform_per_carried_mass", "Planform per kg of all carried", Q.AREA_PER_MASS)
RAIL_TO_RAIL = FigureDefinition("rail_to_rail", "Rail to rail, 30° to 30°", Q.TIME, ROLLING, better=Better.LESS,
    more="slower", less="quicker", ranks=True, rests=("strap",))
# fmt: on
FIGURES = (RESERVE, CARRIED_VOLUME, CARRIED_AREA, FLAT_AREA, RAIL_TO_RAIL)


def static_figures(
    measured: Geometry, measures: Measures, board_mass: MassProperties, brief: Brief, table: Coefficients
) -> tuple[Figure, ...]:
    """The bottom on the flat run, and the reserve of volume where the board carries its rider at rest."""
    foil, density = brief.foil, brief.water.density
    rig = brief.wing.mass if brief.wing is not None and RIGS.get(brief.discipline) == "sail" else 0.0
    carried = board_mass.mass + foil.mass + brief.rider.mass + rig
    reserve = measured.solid.volume + foil.volume - carried / density
    band = 1e-3 * measured.solid.volume + 0.08 * board_mass.mass / density
    inputs = (
        ("board", f"{board_mass.mass:.1f} kg"),
        ("rider", f"{brief.rider.mass:.1f} kg"),
        ("rig", f"{rig:.1f} kg"),
        ("water", f"{density:.0f} kg/m³"),
    )
    flat = Figure(
        definition=FLAT_AREA,
        value=flat_bottom_area(measured, measures.keel_flat),
        band=2e-3,
        band_of_difference=2.5e-4,
        note="between the bottom edges",
    )
    volume, area = measured.solid.volume, planform_area(measured)
    held = brief.wing if RIGS.get(brief.discipline) == "hand wing" else None
    aside = f"; at rest the wing of {held.mass:.1f} kg lies on the water" if held is not None else ""
    parts = f"board, foil, rig and rider: {carried:.1f} kg{aside}"
    shared = (
        flat,
        Figure(definition=CARRIED_VOLUME, value=volume / carried, band=2e-3 * volume / carried,
               band_of_difference=2e-4 * volume / carried, note=parts, inputs=inputs),
        Figure(definition=CARRIED_AREA, value=area / carried, band=2e-3 * area / carried,
               band_of_difference=2e-4 * area / carried, note=f"planform, {parts}", inputs=inputs),
        _rail_to_rail(measured, board_mass, brief, table.roll_share),
    )  # fmt: skip
    if AT_REST[brief.discipline] is None:
        return shared
    return (
        *shared,
        Figure(
            definition=RESERVE,
            value=reserve,
            band=band,
            band_of_difference=band / 8,
            inputs=inputs,
            note="sinks by this much" if reserve < 0 else "litres to spare",
        ),
    )


def _rail_to_rail(measured: Geometry, board_mass: MassProperties, brief: Brief, share: float) -> Figure:
    """Time from 30° on one rail to 30° on the other: half the angle sped up, half slowed down again, by a
    share of the body's weight on the edge of where the feet stand.
    """
    shape, stand = measured.shape, feet(measured, brief.rider)
    width = (standing_width(measured, stand.front) + standing_width(measured, stand.back)) / 2
    water = np.pi / 16 * brief.water.density * float(shape.stations.steps @ shape.half_width**4)
    inertia = board_mass.roll_about(board_mass.z) + water
    moment = brief.rider.mass * GRAVITY * share * width / 2
    if moment <= 0.0:
        return Figure(definition=RAIL_TO_RAIL, value=math.nan, valid=False, note="no deck under the feet")
    time = 2 * float(np.sqrt(60 * DEGREE * inertia / moment))
    words = (
        f"roll inertia {board_mass.roll_about(board_mass.z):.2f} and water {water:.2f} kg m², feet on "
        f"{width * 100:.0f} cm of deck"
    )
    return Figure(definition=RAIL_TO_RAIL, value=time, band=0.4 * time, band_of_difference=0.05 * time, note=words)
