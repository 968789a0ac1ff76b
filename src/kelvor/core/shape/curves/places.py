"""Places: positions anchored to the datum the designer chose."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.limits import ANY_PLACE
from kelvor.core.base.values import frozen

Datum = Literal["tail", "nose", "middle", "mast"]


@frozen
class Place:
    """A position `offset` metres ahead of its datum (from the nose: behind it)."""

    datum: Datum
    offset: Annotated[float, ANY_PLACE]

    def x(self, length: float, mast: float | None = None) -> float:
        """Distance from the tail tip [m]. `mast` is the place of the foil mast [m]."""
        if self.datum == "tail":
            return self.offset
        if self.datum == "nose":
            return length - self.offset
        if self.datum == "middle":
            return length / 2 + self.offset
        return (length / 2 if mast is None else mast) + self.offset

    @staticmethod
    def at(x: float, datum: Datum, length: float, mast: float | None = None) -> Place:
        """The place with this datum that lies `x` metres from the tail tip."""
        zero = Place(datum, 0.0).x(length, mast)
        return Place(datum, zero - x if datum == "nose" else x - zero)
