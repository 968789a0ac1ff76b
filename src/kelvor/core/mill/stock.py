"""A core in its stock on the mill's table, for one face and then the other."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.values import frozen
from kelvor.core.shape.parts.fittings import Side
from kelvor.core.shape.surface.sections import Sections

SIDES: tuple[Side, ...] = ("deck", "bottom")
"""The order of the work: the deck is cut first, the bottom after the flip."""


def least_stock(core: Sections, mill: Mill) -> MillStock:
    """The smallest block the core can be cut from."""
    return mill.block(*extent(core))


def extent(core: Sections) -> tuple[float, float, float]:
    """Length, width and height of a core, from its lowest to its highest point [m]."""
    return (
        float(core.x[-1] - core.x[0]),
        2 * float(core.y.max()),
        float(core.z.max() - core.z.min()),
    )


def frame(core: Sections, mill: Mill, stock: MillStock) -> tuple[float, float]:
    """How much of the stock stays beyond the cutter's way at either end and beside it [m]: what a screw or a clamp may
    take.
    """
    length, width, _ = extent(core)
    return (stock.length - length) / 2 - mill.ball, (stock.width - width) / 2 - mill.ball


@frozen(eq=False)
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
    stock: MillStock
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

    @property
    def hand(self) -> int:
        """1 where port is at positive Y, -1 where the stock was turned over and it is not."""
        return 1 if self.side == "deck" else -1

    def up(self, z: np.ndarray | float) -> np.ndarray:
        """Heights of the core [m] as heights over the table, with this face up."""
        over = np.asarray(z) + self.offset
        return over if self.side == "deck" else self.stock.thickness - self.mill.facing - over


def clamped_core(core: Sections, mill: Mill, stock: MillStock, side: Side) -> Clamped:
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
