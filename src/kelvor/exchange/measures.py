"""The measure sheet on paper: to be filled in at the bench, or with what was read."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from kelvor.exchange.paper import Paper
from kelvor.files import written_whole

HEADS = ("measure", "should read", "let pass", "read", "off", "verdict")
WIDTHS = (190, 70, 60, 75, 60, 70)
HOW = (
    "In this order, left before right. Zero the caliper, hang the tape at the tail's end, lay the straight edge square "
    "across; winding sticks at tail and nose. A reading within the tool's own spread of what is let pass decides "
    "nothing: “cannot tell”. Sanding dust: mask and extraction."
)


def write_measures(design: str, stamp: str, rows: Sequence[Sequence[str]], path: Path, over: bool) -> Path:
    """Write a measure sheet as PDF; the path that was written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper, title = Paper(), f"{design}: measure sheet"
    paper.title(title)
    paper.small(stamp)
    paper.text(HOW)
    paper.gap()
    paper.table([tuple(row) for row in rows], WIDTHS, HEADS)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, title)
    return path
