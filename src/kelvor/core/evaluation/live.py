"""What follows a drag: a board that closes, and what is read off it when it is asked for.

The first picture needs none of the readings, so what counts them is loaded when they are.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from kelvor.core.base.disciplines import FOILING
from kelvor.core.base.findings import Finding, fatal
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.layup import cloth_plan
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.checks import check_value
from kelvor.core.shape.checks.straight_edge import flat_run, table_slope
from kelvor.core.shape.surface.geometry import Geometry, geometry
from kelvor.core.shape.surface.section_view import wide_point
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS, Coefficients

if TYPE_CHECKING:
    from kelvor.core.base.figures import Figure
    from kelvor.core.build.mass.board_mass import BoardMass
    from kelvor.core.measures.size import Measures


@dataclass(frozen=True, eq=False)
class Live:
    """What follows a drag: a board that closes. What is read off it is counted when first asked for: a picture asks for
    little.
    """

    board: Board
    brief: Brief
    geometry: Geometry
    table: MaterialTable
    coefficients: Coefficients

    @cached_property
    def mass(self) -> BoardMass:
        """What it weighs, part by part."""
        from kelvor.core.build.mass.board_mass import board_mass

        return board_mass(self.geometry, self.table)

    @cached_property
    def measures(self) -> Measures:
        """Size, rocker, volume, area and mass."""
        from kelvor.core.measures.size import shape_measures

        return shape_measures(self.geometry, self.mass, self.brief.rider)

    @cached_property
    def wide_point(self) -> tuple[float, float]:
        """Place and half-width where the board is widest [m]."""
        return wide_point(self.geometry.shape)

    @cached_property
    def keel_flat(self) -> tuple[float, float]:
        """From where to where the keel runs flat [m]."""
        x, keel = self.geometry.shape.x, self.geometry.keel_line
        return flat_run(x, keel, base=table_slope(x, keel, self.geometry.solid.x))

    @cached_property
    def figures(self) -> tuple[Figure, ...]:
        """The measures, and the phase figures that need no float."""
        from kelvor.core.ride.foiling import wing_foil_figures
        from kelvor.core.ride.speed_independent import static_figures

        measured, measures, mass = self.geometry, self.measures, self.mass.total
        found = measures.figures + static_figures(measured, measures, mass, self.brief, self.coefficients)
        if self.brief.discipline in FOILING:
            found += wing_foil_figures(measured, measures, mass, self.brief, self.coefficients)
        return found


def evaluate_live(
    board: Board,
    brief: Brief,
    resolution: Resolution = Resolution.NORMAL,
    table: MaterialTable = HANDBOOK,
    coefficients: Coefficients = HANDBOOK_COEFFICIENTS,
) -> Live | tuple[Finding, ...]:
    """The live path, or the fatal findings that leave no board."""
    wrong = fatal(check_value(board)) or tuple(cloth_plan(board.construction, table) if board.construction else ())
    if wrong:
        return wrong
    measured = geometry(board, resolution)
    if isinstance(measured, tuple):
        return measured
    return Live(board, brief, measured, table, coefficients)
