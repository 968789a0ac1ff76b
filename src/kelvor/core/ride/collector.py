"""Making figures of the ride: definition, value, band and inputs in one place."""

from __future__ import annotations

import math

from kelvor.core.base.figures import Figure, FigureDefinition
from kelvor.core.base.values import frozen
from kelvor.core.ride.pictures import Picture

DIFFERENCE = 0.25
"""Both boards of a difference share their method's error: its band is this share of the value's."""


class Collector:
    """Collects the figures and pictures of one ride."""

    def __init__(self, inputs: tuple[tuple[str, str], ...]) -> None:
        self.inputs = inputs
        self.figures: dict[str, Figure] = {}
        self.pictures: dict[str, Picture] = {}
        self.claims: dict[str, str] = {}

    def add(
        self,
        definition: FigureDefinition,
        value: float,
        note: str = "",
        *,
        band: float | None = None,
        invalid: str = "",
        difference: float = DIFFERENCE,
    ) -> None:
        """Add a figure, with what its method leaves open where no closer `band` is counted; `invalid` says why its
        method does not hold here, and strikes it.
        """
        exists = math.isfinite(value)
        half = abs(definition.band_of(value) if band is None else band) if exists else 0.0
        self.figures[definition.key] = Figure(
            definition=definition,
            value=value if exists else math.nan,
            band=half,
            band_of_difference=half * difference,
            valid=exists and not invalid,
            note=invalid or note,
            inputs=self.inputs,
            counting=exists and not invalid,
        )

    def claim(self, definition: FigureDefinition, said: str, computed: str) -> None:
        """What practitioners say of a figure, and what is computed here instead."""
        self.claims[definition.key] = f"It is said: “{said}”. Computed: {computed}."

    def none(self, why: str, *definitions: FigureDefinition) -> None:
        """Figures that do not exist for this board, and why."""
        for definition in definitions:
            self.add(definition, math.nan, invalid=why)


@frozen
class GearWind:
    """A row of the quiver: a sail, wing, kite, foil or fin, and the wind or speed it is for."""

    gear: str
    with_: str
    least: float
    band: float
    most: float
    note: str = ""
