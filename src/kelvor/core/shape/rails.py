"""Rails: schedules along the board."""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.shape.schedules import Schedule


@dataclass(frozen=True, slots=True, kw_only=True)
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

    apex: Schedule = Schedule.constant(0.45)
    tuck: Schedule = Schedule.constant(0.02)
    edge_radius: Schedule = Schedule.constant(0.004)
    fullness: Schedule = Schedule.constant(0.45)
    chamfer: Schedule = Schedule.constant(0.045)
    side_wall: Schedule | None = None
