"""The mill of a workshop: its travels, cutters and feeds, and the stock a core is cut from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.limits import Limit, counts, depths, lengths
from kelvor.core.shape.fittings import Side
from kelvor.core.shape.sections import Sections
from kelvor.core.units import Quantity

CutterKind = Literal["ball", "flat"]
SIDES: tuple[Side, ...] = ("deck", "bottom")
"""The order of the work: the deck is cut first, the bottom after the flip."""
DOWEL = 0.04
"""Stock kept for a dowel beyond the cut at either end [m] (common practice, no source)."""
FRAME = 0.02
"""Stock kept as a frame beside the cut [m] (common practice, no source)."""
TABS = (0.2, 0.75)
"""Share of the length within which tabs stand: ends are cut free."""
KEEP = 0.004
"""Stock kept above and below the core, so that every point of it is cut [m] (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Cutter:
    """A cutter: diameter, length that cuts, how far it sticks out of its collet [m]."""

    kind: CutterKind
    diameter: float
    cuts: float
    sticks_out: float

    @property
    def radius(self) -> float:
        """Half its diameter [m]."""
        return self.diameter / 2

    @property
    def words(self) -> str:
        """As it is called in a program."""
        return f"{self.kind} {self.diameter * 1000:.1f} mm"


@dataclass(frozen=True, slots=True, kw_only=True)
class Mill:
    """The mill and how it is run.

    Attributes
    ----------
    travel_x, travel_y, travel_z:
        How far it travels along the board, across it, and up [m].
    ball, ball_cuts, flat, flat_cuts, sticks_out, nut:
        Diameters and cutting lengths of the two cutters, how far they stick out, and the collet nut's diameter [m].
    step:
        Between two finishing lines, along the surface the tip runs over [m].
    depth:
        Of one roughing pass [m].
    proud:
        How much is left on everywhere, for the sanding block [m].
    feed, plunge, acceleration:
        [m/s], [m/s²].
    spindle:
        Turns a minute.
    safe:
        Above the stock, where it travels at its fastest [m].
    facing:
        Planed off either face first; none for stock that comes flat [m].
    tabs, tab:
        How many tabs hold the board on either side, and how thick they are about the rim [m].
    play:
        Of a dowel in its hole [m].
    """

    travel_x: Annotated[float, lengths(0.3, 8)] = 3.0
    travel_y: Annotated[float, lengths(0.2, 3)] = 1.25
    travel_z: Annotated[float, lengths(0.05, 1)] = 0.35
    ball: Annotated[float, depths(0.004, 0.06)] = 0.020
    ball_cuts: Annotated[float, depths(0.005, 0.4)] = 0.180
    flat: Annotated[float, depths(0.002, 0.06)] = 0.012
    flat_cuts: Annotated[float, depths(0.005, 0.4)] = 0.050
    sticks_out: Annotated[float, depths(0.01, 0.5)] = 0.230
    nut: Annotated[float, depths(0.005, 0.12)] = 0.050
    step: Annotated[float, depths(0.0005, 0.02)] = 0.006
    depth: Annotated[float, depths(0.002, 0.2)] = 0.080
    proud: Annotated[float, depths(0.0, 0.003)] = 0.00025
    feed: Annotated[float, Limit(0.002, 1.0, Quantity.SPEED)] = 0.15
    plunge: Annotated[float, Limit(0.0005, 0.5, Quantity.SPEED)] = 0.025
    acceleration: Annotated[float, Limit(0.05, 20, unit="m/s²")] = 1.0
    spindle: Annotated[float, Limit(1000, 60_000, unit="rpm")] = 18_000
    safe: Annotated[float, depths(0.002, 0.1)] = 0.015
    facing: Annotated[float, depths(0.0, 0.02)] = 0.0
    tabs: Annotated[int, counts(0, 12)] = 4
    tab: Annotated[float, depths(0.0, 0.05)] = 0.012
    play: Annotated[float, depths(0.0, 0.003)] = 0.0002

    @property
    def ball_cutter(self) -> Cutter:
        """The cutter of curved faces."""
        return Cutter("ball", self.ball, self.ball_cuts, self.sticks_out)

    @property
    def flat_cutter(self) -> Cutter:
        """The cutter of boxes and of facing."""
        return Cutter("flat", self.flat, self.flat_cuts, self.sticks_out)

    def tab_places(self, length: float) -> np.ndarray:
        """Middles of the tabs along a core of so much length [m], away from its ends."""
        return np.linspace(TABS[0], TABS[1], self.tabs) * length if self.tabs else np.zeros(0)

    @property
    def scallop(self) -> float:
        """What is left between two finishing lines on a flat: R − √(R² − (s/2)²) [m]."""
        radius = self.ball / 2
        return radius - float(np.sqrt(max(radius**2 - (self.step / 2) ** 2, 0.0)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """The block as it is clamped [m]; the core lies in its middle."""

    length: Annotated[float, lengths(0.2, 8)] = 2.5
    width: Annotated[float, lengths(0.1, 3)] = 0.8
    thickness: Annotated[float, depths(0.005, 1)] = 0.2


def least_stock(core: Sections, mill: Mill) -> Stock:
    """The smallest block the core can be cut from: room for the cutter all round, dowels at the ends, a frame beside,
    what is faced off and a little above and below.
    """
    length, width, height = extent(core)
    room = mill.ball
    return Stock(
        length=length + 2 * (room + DOWEL),
        width=width + 2 * (room + FRAME),
        thickness=height + 2 * (mill.facing + KEEP),
    )


def extent(core: Sections) -> tuple[float, float, float]:
    """Length, width and height of a core, from its lowest to its highest point [m]."""
    return (
        float(core.x[-1] - core.x[0]),
        2 * float(core.y.max()),
        float(core.z.max() - core.z.min()),
    )


@dataclass(frozen=True, slots=True, eq=False)
class Clamped:
    """A core in its stock on the mill's table, for one of its two faces up.

    Places of the programs: X from the core's tail towards its nose, Y 0 on its centreline, Z from the table. For the
    bottom the stock is turned over about the X axis, so that dowels on it serve both.

    Attributes
    ----------
    side:
        The face that is up.
    offset:
        Height of the core's own datum over the table with its deck up [m].
    height:
        Height of the stock on the table as it is clamped for this face [m].
    """

    core: Sections
    mill: Mill
    stock: Stock
    side: Side
    offset: float
    height: float

    @property
    def top(self) -> float:
        """Height of the stock once this face is planed [m]."""
        return self.height - self.mill.facing

    @property
    def tail(self) -> float:
        """Where X 0 is along the core [m]."""
        return float(self.core.x[0])

    @property
    def ends(self) -> tuple[float, float]:
        """X of the stock's two ends [m]."""
        length = extent(self.core)[0]
        spare = (self.stock.length - length) / 2
        return -spare, length + spare

    @property
    def dowels(self) -> tuple[float, float]:
        """X of the two dowels on the centreline, clear of the cut [m]."""
        low, high = self.ends
        return (low - self.mill.ball) / 2, extent(self.core)[0] + (high - extent(self.core)[0] + self.mill.ball) / 2

    def up(self, z: np.ndarray | float) -> np.ndarray:
        """Heights of the core [m] as heights over the table, with this face up."""
        over = np.asarray(z) + self.offset
        return over if self.side == "deck" else self.stock.thickness - self.mill.facing - over


def clamped(core: Sections, mill: Mill, stock: Stock, side: Side) -> Clamped:
    """The core in its stock with one face up.

    Raises
    ------
    InputError
        When the stock is too small, the mill too short, or a cutter or its nut would run into what is not cut: with the
        place and the limit.
    """
    least = least_stock(core, mill)
    for name in ("length", "width", "thickness"):
        given, wanted = getattr(stock, name), getattr(least, name)
        if given < wanted - 1e-6:
            raise InputError(
                f"{given * 1000:.0f} mm is too small",
                where=f"The stock's {name}",
                accepts=f"This core needs {np.ceil(wanted * 1000):.0f} mm",
            )
    middle = (float(core.z.max()) + float(core.z.min())) / 2
    height = stock.thickness if side == "deck" else stock.thickness - mill.facing
    found = Clamped(core, mill, stock, side, stock.thickness / 2 - middle, height)
    reaches = (
        ("along the board", mill.travel_x, extent(core)[0] + mill.ball),
        ("across the board", mill.travel_y, max(extent(core)[1] + mill.ball, stock.width if mill.facing else 0.0)),
        ("upwards", mill.travel_z, stock.thickness + mill.safe),
    )
    for words, has, wanted in reaches:
        if has < wanted:
            raise InputError(
                f"{has * 1000:.0f} mm is too short",
                where=f"The mill's travel {words}",
                accepts=f"This core needs {np.ceil(wanted * 1000):.0f} mm",
            )
    return found
