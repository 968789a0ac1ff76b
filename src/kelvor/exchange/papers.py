"""What goes along with a made board on paper: its ship card, and the care sheet."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from kelvor.exchange.paper import Paper
from kelvor.files import written_whole

Rows = Sequence[Sequence[str]]
FIRST = (
    "Makers' data sheets, local rules and licensed practice come before this sheet. Computed figures are forecasts for "
    "the design; what was weighed and measured says so."
)


CARD_HEADS = ("", "work", "hands", "cure, 20\u00a0°C", "mind", "day, hour", "°C", "%", "batch, ratio, who")
CARD_WIDTHS = (22, 92, 38, 44, 126, 62, 24, 24, 79)
TICK = "[\u00a0\u00a0\u00a0]"


def write_stage_card(title: str, stamp: str, work: Rows, weights: Rows, caution: str, path: Path, over: bool) -> Path:
    """Write the card that goes along with a board through the shop as PDF; the path that was written.

    Parameters
    ----------
    work:
        Rows of four: what, hands, cure, what to mind; the rest of the line is ticked and filled in by hand.
    weights:
        Rows of two: stage, and what the board should weigh then.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title(title)
    paper.small(stamp)
    paper.gap()
    paper.table([(TICK, *row, "", "", "", "") for row in work], CARD_WIDTHS, CARD_HEADS)
    paper.head("On the scale")
    paper.table([(*row, "") for row in weights], (150, 180, 181), ("stage", "should weigh", "weighs"))
    paper.gap()
    paper.small(caution)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, title)
    return path


def write_shopping(stamps: Sequence[str], rows: Rows, path: Path, over: bool) -> Path:
    """Write what has to be bought, and for which boards, as PDF; the path that was written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title("Shopping list")
    for stamp in stamps:
        paper.small(stamp)
    paper.gap()
    paper.table([tuple(row) for row in rows], (300, 110, 101), ("what", "how much", "about"))
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, "Shopping list")
    return path


def write_papers(
    title: str, stamp: str, warning: str, card: Rows, care: Rows, photos: Sequence[bytes], path: Path, over: bool
) -> Path:
    """Write ship card and care sheet as one PDF; the path that was written.

    Parameters
    ----------
    warning:
        What stands above everything, such as that it is not for sale; nothing where nothing is to be said.
    card, care:
        Rows of two: what, and what of it.
    photos:
        Files of photos, largest last.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title(title)
    paper.small(stamp)
    if warning:
        paper.text(warning, bold=True)
    paper.table([tuple(row) for row in card], (130, 381))
    for photo in photos:
        paper.gap()
        paper.picture(photo)
    paper.head("Care")
    paper.table([tuple(row) for row in care], (100, 411))
    paper.gap()
    paper.small(FIRST)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, title)
    return path
