"""The first stage of evaluation: a board with its sections and their moments."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.findings import Finding
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.moments import SectionAreas, Shell, SolidMoments, section_areas, solid, surface_zones
from kelvor.core.shape.surface.sections import Resolution, Sections, sections


@dataclass(frozen=True, eq=False)
class Geometry:
    """A board that closes, measured.

    `base_height` [m] is the base line's height at x = 0 in the drawing's frame.
    """

    board: Board
    shape: Sections
    areas: SectionAreas
    solid: SolidMoments
    base_height: float

    @cached_property
    def shells(self) -> dict[str, Shell]:
        """The skin by zone, counted when first asked for."""
        return surface_zones(self.shape)

    def above_base(self, x: Array | float, z: Array | float) -> Array:
        """Height above the base line [m] of points (x, z) of the drawing."""
        slope = self.board.base.slope
        height: Array = (np.asarray(z) - self.base_height - slope * np.asarray(x)) / np.hypot(1.0, slope)
        return height

    @cached_property
    def keel_line(self) -> Array:
        """Bottom centreline above the base [m], shape (n,)."""
        return self.above_base(self.shape.x, self.shape.keel)

    @cached_property
    def mid_line(self) -> Array:
        """Bottom at half its half-width above the base [m], shape (n,)."""
        return self.above_base(self.shape.x, self.shape.mid)

    @cached_property
    def rail_line(self) -> Array:
        """Bottom edge above the base [m], shape (n,)."""
        return self.above_base(self.shape.x, self.shape.edge_z)

    @cached_property
    def deck_line(self) -> Array:
        """Deck centreline above the base [m], shape (n,)."""
        return self.above_base(self.shape.x, self.shape.deck)

    def at(self, line: Array, x: float) -> float:
        """A line of the board at place `x` [m], between stations."""
        return float(np.interp(x, self.shape.x, line))


def geometry(board: Board, resolution: Resolution = Resolution.NORMAL) -> Geometry | tuple[Finding, ...]:
    """The geometry of a board, or the findings that leave none."""
    shape = sections(board, resolution)
    if isinstance(shape, tuple):
        return shape
    return of_sections(shape)


def of_sections(shape: Sections) -> Geometry:
    """The geometry of sections that close."""
    areas = section_areas(shape)
    base = float(np.min(shape.keel - shape.board.base.slope * shape.x))
    return Geometry(shape.board, shape, areas, solid(shape.x, areas, shape.stations.steps), base)
