"""Riders, places and gear that a workshop keeps once: those that no brief declares."""

from __future__ import annotations

from typing import Annotated

from kelvor.core.base.fluids import Water
from kelvor.core.base.limits import NAME, Limit, Text, angles, lengths, masses
from kelvor.core.base.units import KNOT, Quantity
from kelvor.core.base.values import frozen


@frozen(kw_only=True)
class Spot:
    """A place to ride: its water, its usual wind [m/s] at a height [m], and where the shore lies.

    `shore` is the bearing from the beach straight out to the water, clockwise from north [rad].
    """

    name: Annotated[str, NAME] = "Place"
    water: Water = Water()
    wind: Annotated[float, Limit(0, 40, Quantity.SPEED)] = 15 * KNOT
    height: Annotated[float, Limit(0.3, 100, Quantity.HEIGHT)] = 10.0
    shore: Annotated[float, angles(0, 360)] = 0.0
    notes: Annotated[str, Text(4000, lines=True)] = ""


@frozen(kw_only=True)
class Paddle:
    """A paddle: length [m], blade area [m²], mass [kg]."""

    name: Annotated[str, NAME] = "Paddle"
    length: Annotated[float, lengths(0.5, 2.6)] = 1.85
    area: Annotated[float, Limit(0.01, 0.15, Quantity.AREA)] = 0.055
    mass: Annotated[float, masses(0.05, 3)] = 0.55
