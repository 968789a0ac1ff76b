"""Pictures of the ride, as data: charts and drawings that a window paints and a test reads."""

from __future__ import annotations

from dataclasses import field
from typing import Literal

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen

Role = Literal["now", "push", "aside", "limit"]
ShapeRole = Literal["board", "water", "foil", "rider", "patch", "rail", "fin", "mark"]


@frozen(eq=False)
class ChartLine:
    """A line of a chart: places and values in SI, half-widths of its band; `name` is written beside it."""

    name: str
    role: Role
    x: Array
    y: Array
    band: Array | None = None


@frozen
class ChartMark:
    """A place on a chart, upright through it or a point, with words."""

    x: float
    text: str
    y: float | None = None


@frozen(eq=False)
class Chart:
    """A chart. Lines of role "now" are those a pinned board is laid beside."""

    title: str
    caption: str
    x_label: str
    x: Quantity
    y_label: str
    y: Quantity
    lines: tuple[ChartLine, ...]
    marks: tuple[ChartMark, ...] = ()
    from_zero: bool = True


@frozen(eq=False)
class Form:
    """A shape of a drawing: points (n, 2) [m], closed or not; `depth` from 0 to 1 shades a patch."""

    role: ShapeRole
    points: Array
    closed: bool = False
    depth: float = 1.0


@frozen(eq=False)
class Drawing:
    """A drawing to scale; the water's surface lies at height 0 where `water` is set."""

    title: str
    caption: str
    forms: tuple[Form, ...]
    labels: tuple[tuple[float, float, str], ...] = ()
    water: bool = True
    aspect: float = field(default=1.0)


Picture = Chart | Drawing
