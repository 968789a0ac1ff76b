"""Rails: schedules along the board."""

from __future__ import annotations

from typing import Annotated

from kelvor.core.base.limits import Along, angles, depths, shares
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.schedules import Schedule


@frozen(kw_only=True)
class Rails:
    """How the side of the board runs.

    Attributes
    ----------
    apex:
        Share of the rail's height below the widest point (0.4 reads "60/40").
    tuck:
        Inset of the bottom edge from the outline [m].
    edge_radius:
        Of the bottom edge, from crisp to rolled [m].
    fullness:
        Of the upper rail: 0 is a straight chamfer, 0.35 about an ellipse, 1 a box.
    chamfer:
        Width of the upper rail, from the outline in to the deck edge [m].
    side_wall:
        Angle of a plain side wall, leaning in from upright [rad], in place of a
        rounded upper rail; fullness and chamfer are not used then.
    """

    apex: Annotated[Schedule, Along(shares(0.02, 0.98))] = Schedule.constant(0.45)
    tuck: Annotated[Schedule, Along(depths(0, 0.3))] = Schedule.constant(0.02)
    edge_radius: Annotated[Schedule, Along(depths(0, 0.1))] = Schedule.constant(0.004)
    fullness: Annotated[Schedule, Along(shares(0, 1))] = Schedule.constant(0.45)
    chamfer: Annotated[Schedule, Along(depths(0, 0.4))] = Schedule.constant(0.045)
    side_wall: Annotated[Schedule, Along(angles(0, 60))] | None = None
