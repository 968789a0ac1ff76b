"""Paper that leaves the workshop: one set of type for every sheet and page, set by reportlab with the shipped fonts."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from kelvor.core.base.values import frozen
from kelvor.exchange.typesetting import BOLD, PLAIN, markup, register
from kelvor.files import written_whole

if TYPE_CHECKING:
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.platypus import Flowable, Paragraph, Table

Rows = Sequence[Sequence[str]]
QUIET, LINE = "#5d5a52", "#d8d2c4"
ROOM = 511.0
"""Width of what is set on A4 [pt]."""
PADDING = 8.0
"""Left and right of what stands in a cell [pt]."""


@frozen
class Chapter:
    """A chapter of a paper: its head, a word beside it, a table with heads that come again, and how wide its columns
    are against one another.
    """

    head: str
    words: str = ""
    rows: Rows = ()
    widths: Sequence[float] = (1.0,)
    first: Sequence[str] = ()


def write_chapters(title: str, stamp: str, chapters: Sequence[Chapter], caution: str, path: Path, over: bool) -> Path:
    """Write chapters as PDF, one after the other; the path that was written.

    Raises
    ------
    InputError
        When the file is there and not to be written over, or cannot be written.
    """
    paper = Paper()
    paper.title(title)
    paper.small(stamp)
    for chapter in chapters:
        paper.head(chapter.head)
        if chapter.words:
            paper.small(chapter.words)
        if chapter.rows:
            paper.table([tuple(row) for row in chapter.rows], chapter.widths, chapter.first)
    if caution:
        paper.gap()
        paper.small(caution)
    with written_whole(path, over=over) as temporary:
        paper.write(temporary, title)
    return path


class Paper:
    """Sheets of A4 in the making: words and tables in their order."""

    def __init__(self) -> None:
        from reportlab.lib import colors
        from reportlab.lib.styles import ParagraphStyle

        register()
        self.body = ParagraphStyle("body", fontName=PLAIN, fontSize=9, leading=12)
        self.bold = ParagraphStyle("bold", parent=self.body, fontName=BOLD)
        self._head = ParagraphStyle("head", parent=self.bold, fontSize=12, leading=16, spaceBefore=10, spaceAfter=3)
        self._title = ParagraphStyle("title", parent=self.bold, fontSize=17, leading=21, spaceAfter=4)
        self._small = ParagraphStyle(
            "small", parent=self.body, fontSize=7.5, leading=9.5, textColor=colors.HexColor(QUIET)
        )
        self.parts: list[Flowable] = []

    def _say(self, words: str, style: ParagraphStyle, room: float = ROOM, before: str = "") -> Paragraph:
        """A paragraph no wider than `room` [pt]; `before` it what is marked up already."""
        from reportlab.platypus import Paragraph

        return Paragraph(before + markup(words, style.fontName, style.fontSize, room), style)

    def title(self, words: str) -> None:
        """What the paper is."""
        self.parts.append(self._say(words, self._title))

    def head(self, words: str) -> None:
        """What follows."""
        self.parts.append(self._say(words, self._head))

    def text(self, words: str, *, ink: str = "", bold: bool = False) -> None:
        """A paragraph; with a dash in `ink` before it where lines of that colour are meant."""
        dash = f'<font color="{ink}">—</font> ' if ink else ""
        self.parts.append(self._say(words, self.bold if bold else self.body, before=dash))

    def small(self, words: str, label: str = "") -> None:
        """A note, after a `label` in bold."""
        before = f'<font name="{BOLD}">{markup(label, BOLD, self._small.fontSize, ROOM)}</font>: ' if label else ""
        self.parts.append(self._say(words, self._small, before=before))

    def gap(self, height: float = 8) -> None:
        """Empty paper [pt]."""
        from reportlab.platypus import Spacer

        self.parts.append(Spacer(1, height))

    def table(self, rows: Sequence[Sequence[str]], widths: Sequence[float], first: Sequence[str] = ()) -> None:
        """A table whose columns share the width of the paper as `widths`; its headings `first` come again on each
        sheet.
        """
        self.parts.append(self._table(rows, widths, first))

    def _table(self, rows: Sequence[Sequence[str]], widths: Sequence[float], first: Sequence[str]) -> Table:
        from reportlab.lib import colors
        from reportlab.platypus import Table, TableStyle

        look = TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, -1), 0.25, colors.HexColor(LINE)),
                ("LEFTPADDING", (0, 0), (-1, -1), 2),
                ("RIGHTPADDING", (0, 0), (-1, -1), PADDING - 2),
                ("TOPPADDING", (0, 0), (-1, -1), 1.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
            ]
        )
        shares = [ROOM * width / sum(widths) for width in widths]
        styles = [self.bold] * bool(first) + [self.body] * len(rows)
        cells = [
            [self._say(words, style, share - PADDING) for words, share in zip(row, shares, strict=True)]
            for style, row in zip(styles, [first, *rows] if first else rows, strict=True)
        ]
        return Table(cells, colWidths=shares, style=look, hAlign="LEFT", repeatRows=1 if first else 0)

    def picture(self, data: bytes, height: float = 210.0) -> None:
        """A picture from its file, no wider than the paper, no higher than this [pt]."""
        from io import BytesIO

        from reportlab.lib.utils import ImageReader
        from reportlab.platypus import Image

        wide, high = ImageReader(BytesIO(data)).getSize()
        scale = min(ROOM / wide, height / high)
        self.parts.append(Image(BytesIO(data), width=wide * scale, height=high * scale, hAlign="LEFT"))

    def together(self, since: int) -> None:
        """Keep all parts since a place on one sheet."""
        from reportlab.platypus import KeepTogether

        self.parts[since:] = [KeepTogether(self.parts[since:])]

    def write(self, path: Path, title: str) -> None:
        """Set all of it."""
        from reportlab.lib.pagesizes import A4
        from reportlab.platypus import SimpleDocTemplate

        margins = {"leftMargin": 42, "rightMargin": 42, "topMargin": 36, "bottomMargin": 36}
        SimpleDocTemplate(str(path), pagesize=A4, title=title, invariant=1, **margins).build(self.parts)
