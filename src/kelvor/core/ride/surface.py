"""Figures of riding on the surface that follow from geometry and mass alone."""

from __future__ import annotations

from kelvor.core.brief import Brief
from kelvor.core.disciplines import AT_REST, RIGS
from kelvor.core.figures import Better, Figure, FigureDefinition, Method
from kelvor.core.mass.properties import MassProperties
from kelvor.core.measure.size import Measures
from kelvor.core.ride.attitudes import flat_bottom_area
from kelvor.core.shape.geometry import Geometry
from kelvor.core.units import Quantity as Q

ARCHIMEDES = Method(
    "volume less what board, foil, rig and rider displace", "Archimedes", "at rest; hand wing and kite not counted"
)
FLAT_AREA = FigureDefinition("flat_bottom_area", "Bottom on the flat, gap 0.5 mm", Q.AREA, better=Better.MORE)
RESERVE = FigureDefinition(
    "reserve_volume", "Reserve, rider afloat", Q.VOLUME, ARCHIMEDES, better=Better.MORE, head="{} to spare",
    head_below="{} short", short="{} to spare afloat", short_below="{} short afloat",
    school="Litres in the middle carry you; in the nose they recover a dive and flatter the figure.",
)
FIGURES = (FLAT_AREA, RESERVE)


def surface_figures(measured: Geometry, measures: Measures, board_mass: MassProperties, brief: Brief) -> tuple[Figure, ...]:
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
    flat = Figure(definition=FLAT_AREA, value=flat_bottom_area(measured, measures.keel_flat), band=2e-3, band_of_difference=2.5e-4,
                  note="between the bottom edges")  # fmt: skip
    if AT_REST[brief.discipline] is None:
        return (flat,)
    return (
        flat,
        Figure(definition=RESERVE, value=reserve, band=band, band_of_difference=band / 8, inputs=inputs,
               note="sinks by this much" if reserve < 0 else "litres to spare"),
    )  # fmt: skip
