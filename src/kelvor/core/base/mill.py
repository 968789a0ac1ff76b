"""The mill of a workshop: its travels, cutters and feeds, and the stock that is clamped on it."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

import numpy as np

from kelvor.core.base.limits import Limit, counts, depths, lengths, limit_of, within
from kelvor.core.base.values import frozen

CutterKind = Literal["ball", "flat"]
DOWEL = 0.04
"""Stock kept for a dowel beyond the cut at either end [m] (common practice, no source)."""
FRAME = 0.02
"""Stock kept as a frame beside the cut [m] (common practice, no source)."""
KEEP = 0.004
"""Stock kept above and below, so that every point is cut [m] (common practice, no source)."""
TABS = (0.2, 0.75)
"""Share of the length within which tabs stand: ends are cut free."""


@frozen
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


@frozen(kw_only=True)
class Mill:
    """The mill and how it is run; at first that of a usual mill for boards (common practice, no source).

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
        Along, downwards [m/min, as mills are told], and how fast it speeds up [m/s²].
    spindle:
        Turns a minute.
    safe:
        Above the stock, where it travels at its fastest [m].
    facing:
        Planed off either face first; none for stock that comes flat [m].
    pocket:
        Depth of one pass of the flat cutter [m].
    tabs, tab:
        How many tabs hold the board on either side, and how thick they are about the rim [m].
    play:
        Of a dowel in its hole [m].
    """

    travel_x: Annotated[float, lengths(0.3, 8)] = 3.0
    travel_y: Annotated[float, lengths(0.2, 3)] = 1.25
    travel_z: Annotated[float, lengths(0.05, 1)] = 0.40
    ball: Annotated[float, depths(0.004, 0.06)] = 0.020
    ball_cuts: Annotated[float, depths(0.005, 0.4)] = 0.180
    flat: Annotated[float, depths(0.002, 0.06)] = 0.012
    flat_cuts: Annotated[float, depths(0.005, 0.4)] = 0.050
    sticks_out: Annotated[float, depths(0.01, 0.5)] = 0.230
    nut: Annotated[float, depths(0.005, 0.12)] = 0.050
    step: Annotated[float, depths(0.0005, 0.02)] = 0.006
    depth: Annotated[float, depths(0.002, 0.2)] = 0.080
    proud: Annotated[float, depths(0.0, 0.003)] = 0.00025
    feed: Annotated[float, Limit(0.1, 60, unit="m/min")] = 9.0
    plunge: Annotated[float, Limit(0.05, 30, unit="m/min")] = 1.5
    acceleration: Annotated[float, Limit(0.05, 20, unit="m/s²")] = 1.0
    spindle: Annotated[int, counts(1000, 60_000)] = 18_000
    safe: Annotated[float, depths(0.002, 0.1)] = 0.015
    facing: Annotated[float, depths(0.0, 0.02)] = 0.0025
    pocket: Annotated[float, depths(0.001, 0.1)] = 0.010
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

    def block(self, length: float, width: float, height: float) -> MillStock:
        """The block something of this size is cut from [m]: room for the cutter all round, dowels at the ends, a frame
        beside, what is faced off and a little above and below.
        """
        return MillStock(
            length=length + 2 * (self.ball + DOWEL),
            width=width + 2 * (self.ball + FRAME),
            thickness=height + 2 * (self.facing + KEEP),
        )

    def with_scallop(self, wanted: float) -> Mill:
        """The same with lines so far apart that a ridge of `wanted` is left between two [m].

        Raises
        ------
        InputError
            When no step a mill is told gives that.
        """
        radius = self.ball / 2
        step = 2 * float(np.sqrt(max(2 * radius * wanted - wanted**2, 0.0))) if wanted < radius else float("inf")
        return replace(self, step=within(limit_of(Mill, "step"), step, "Between two lines"))

    def tab_places(self, length: float) -> np.ndarray:
        """Middles of the tabs along a core of so much length [m], away from its ends."""
        return np.linspace(TABS[0], TABS[1], self.tabs) * length if self.tabs else np.zeros(0)

    @property
    def scallop(self) -> float:
        """What is left between two finishing lines on a flat: R − √(R² − (s/2)²) [m]."""
        radius = self.ball / 2
        return radius - float(np.sqrt(max(radius**2 - (self.step / 2) ** 2, 0.0)))


@frozen(kw_only=True)
class MillStock:
    """The block as it is clamped [m]; the core lies in its middle."""

    length: Annotated[float, lengths(0.2, 8)] = 2.5
    width: Annotated[float, lengths(0.1, 3)] = 0.8
    thickness: Annotated[float, depths(0.005, 1)] = 0.2

    @property
    def volume(self) -> float:
        """All of it [m³]."""
        return self.length * self.width * self.thickness

    @property
    def rounded_up(self) -> MillStock:
        """The same in whole millimetres, no smaller."""
        up = (float(np.ceil(side * 1000 - 1e-6) / 1000) for side in (self.length, self.width, self.thickness))
        return MillStock(**dict(zip(("length", "width", "thickness"), up, strict=True)))
