"""Paper for the water: a card to ring on the beach, a test's order, and the history of a board."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from kelvor.exchange.paper import Chapter, Paper, Rows, write_chapters
from kelvor.files import written_whole

RING = "○ "


def write_session_card(title: str, stamp: str, fields: Rows, caution: str, path: Path, over: bool) -> Path:
    """Write a board's card as PDF: rows of what, as last time, and what may be ringed instead; the path written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title(title)
    paper.small(stamp)
    paper.small("Ring what was so, write what was not; type it in afterwards in this order.")
    paper.gap()
    paper.table([tuple(row) for row in fields], (96, 150, 265), ("", "as last time", "else"))
    paper.gap()
    paper.text("Words, as they were said, and by whom:")
    paper.table([("", "")] * 4, (400, 111))
    paper.small(caution)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, title)
    return path


def write_test_card(
    question: str, stamp: str, told: Sequence[str], runs: Rows, caution: str, path: Path, over: bool
) -> Path:
    """Write a test's order as PDF: a line for each run to be filled in; the path written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title(question)
    paper.small(stamp)
    for words in told:
        paper.text(words)
    paper.gap()
    heads = ("run", "which", "rider", "speed, kn", "out and back", "wind, kn", "what it felt like")
    paper.table([tuple(row) for row in runs], (28, 120, 90, 56, 66, 48, 103), heads)
    paper.gap()
    paper.small(caution)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, question)
    return path


def write_history(title: str, stamp: str, chapters: Sequence[tuple[str, str, Rows]], path: Path, over: bool) -> Path:
    """Write the history of a board as PDF: chapters with their origin; the path written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    told = [Chapter(head, origin, rows, (130, 381)) for head, origin, rows in chapters]
    return write_chapters(title, stamp, told, "", path, over)
