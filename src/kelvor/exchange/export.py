"""Export of a board to any of our formats."""

from __future__ import annotations

from pathlib import Path

from kelvor.core.base.mill import MillStock
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.sections import Resolution
from kelvor.exchange.formats import WRITERS, ExportOrder, Surface
from kelvor.exchange.paper_sizes import Paper
from kelvor.files import written_whole


def export(
    board: Board,
    to: str,
    out: Path,
    surface: Surface = "finished",
    resolution: Resolution = Resolution.NORMAL,
    paper: Paper = "a4",
    *,
    stamp: Stamp | None = None,
    block: MillStock | None = None,
    over: bool = False,
) -> None:
    """Write `board` to `out`, whole or not at all; over a file that is there only with `over`.

    Raises
    ------
    InputError
        When the board cannot be drawn or the file cannot be written.
    KeyError
        When there is no such format.
    """
    writer, order = WRITERS[to], ExportOrder(board, surface, resolution, paper, stamp, block)
    with written_whole(out, over=over) as path:
        writer.write(order, path)
