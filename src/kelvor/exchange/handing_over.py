"""The page that is handed over: boards compared, as PDF; their overlays alone as SVG, to scale in millimetres."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING
from xml.sax.saxutils import escape

import numpy as np

from kelvor.core.bands import counted
from kelvor.core.brief import Brief
from kelvor.core.compare.curves import Datum
from kelvor.core.compare.ledger import ledger
from kelvor.core.compare.page import Compared, Drawing, Page, page_of
from kelvor.core.errors import InputError
from kelvor.core.evaluation import evaluate
from kelvor.core.figures import Figures
from kelvor.core.live import evaluate_live
from kelvor.core.ride.condition import condition_of
from kelvor.core.subject import Subject
from kelvor.core.units import System
from kelvor.files import written_whole

if TYPE_CHECKING:
    from reportlab.graphics.shapes import Drawing as Picture

MM = 1000.0
FONTS = Path(__file__).parent.parent / "fonts"
INKS = ("#0a6a6c", "#b4532a", "#5a55a8", "#6b6a12", "#2a5d9c", "#7b2a56")
DASHES: tuple[tuple[float, ...], ...] = ((), (5, 3), (2, 2), (7, 2), (1, 3), (7, 2, 2, 2))
CAUTION = (
    "New boards are tried in easy water, with somebody near. Leash or line as the discipline demands, local rules and "
    "the "
    "makers' data sheets come first. What is computed is an estimate with its band, no promise."
)


def write_page(page: Page, path: Path, over: bool = False) -> Path:
    """Write a page as PDF, or its overlays as SVG, by the file's ending; the path that was written.

    Raises
    ------
    InputError
        When the ending is another, or the file cannot be written.
    """
    writer = {".pdf": _pdf, ".svg": _svg}.get(path.suffix.lower())
    if writer is None:
        raise InputError(f"“{path.suffix}” is no format of this page", where=str(path), accepts="Give .pdf or .svg")
    with written_whole(path, over=over) as temporary:
        writer(page, temporary)
    return path


def _svg(page: Page, path: Path) -> None:
    """Each drawing below the one before, each board a group of its own name, one unit a millimetre."""
    down, wide, groups = 20.0, 0.0, []
    for drawing in page.drawings:
        shown = [(x, y) for x, y in drawing.lines if len(x)]
        if not shown:
            continue
        low = min(float(x.min()) for x, _ in shown) * MM
        top = max(float(y.max()) for _, y in shown) * drawing.heights * MM
        high = top - min(float(y.min()) for _, y in shown) * drawing.heights * MM
        groups.append(f'<text x="10" y="{down:.1f}" font-size="12">{escape(drawing.title)}</text>')
        for i, (x, y) in enumerate(drawing.lines):
            if len(x):
                px, py = x * MM - low + 10, down + 10 + top - y * drawing.heights * MM
                points = " ".join(f"{a:.2f},{b:.2f}" for a, b in zip(px, py, strict=True))
                dash = f' stroke-dasharray="{" ".join(f"{2 * d:g}" for d in DASHES[i])}"' if DASHES[i] else ""
                name = escape(page.boards[i][0], {'"': "&quot;"})
                groups.append(
                    f'<g id="{name}, {escape(drawing.title)}"><polyline points="{points}" fill="none" '
                    f'stroke="{INKS[i]}" stroke-width="1"{dash}/></g>'
                )
                wide = max(wide, float(px.max()))
        down += high + 40
    legend = [
        f'<text x="10" y="{down + 16 * i:.1f}" font-size="12" fill="{INKS[i]}">{escape(f"{name} {stamp}")}</text>'
        for i, (name, stamp) in enumerate(page.boards)
    ]
    high = down + 16 * len(page.boards) + 10
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide + 10:.2f}mm" height="{high:.2f}mm" '
        f'viewBox="0 0 {wide + 10:.2f} {high:.2f}" font-family="sans-serif">\n'
        + "\n".join([*groups, *legend])
        + "\n</svg>\n",
        encoding="utf-8",
    )


def _pdf(page: Page, path: Path) -> None:
    from reportlab.lib import colors
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.platypus import Flowable, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

    for name in ("Barlow-Regular", "Barlow-Bold"):
        pdfmetrics.registerFont(TTFont(name, str(FONTS / f"{name}.ttf")))
    body = ParagraphStyle("body", fontName="Barlow-Regular", fontSize=9, leading=12)
    bold = ParagraphStyle("bold", parent=body, fontName="Barlow-Bold")
    head = ParagraphStyle("head", parent=bold, fontSize=12, leading=16, spaceBefore=10, spaceAfter=3)
    title = ParagraphStyle("title", parent=bold, fontSize=17, leading=21, spaceAfter=4)
    small = ParagraphStyle("small", parent=body, fontSize=7.5, leading=9.5, textColor=colors.HexColor("#5d5a52"))
    look = TableStyle(
        [
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.25, colors.HexColor("#d8d2c4")),
            ("LEFTPADDING", (0, 0), (-1, -1), 2),
            ("TOPPADDING", (0, 0), (-1, -1), 1.5),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
        ]
    )

    def table(rows: list[tuple[str, ...]], widths: tuple[float, ...], first: tuple[str, ...] = ()) -> Table:
        cells = [[Paragraph(escape(c), bold) for c in first]] if first else []
        cells += [[Paragraph(escape(c), body) for c in row] for row in rows]
        return Table(cells, colWidths=widths, style=look, hAlign="LEFT", repeatRows=1 if first else 0)

    parts: list[Flowable] = [Paragraph(escape(page.title), title)]
    for i, (name, stamp) in enumerate(page.boards):
        role = "the board all are held against" if i == 0 else "compared with it"
        words = escape(f"{name}, {stamp}: {role}" if stamp else f"{name}: {role}")
        parts.append(Paragraph(f'<font color="{INKS[i]}">—</font> {words}', body))
    parts.append(Paragraph(escape(f"Ridden as: {page.under}."), body))
    if page.why:
        parts += [Paragraph("Why", head), *(Paragraph(escape(f"{line}."), body) for line in page.why)]
    parts.append(Paragraph("What changed", head))
    for name, rows, little in page.changes:
        words = f"{name} against {page.boards[0][0]}" + (f"; {little} more are too little to be felt" if little else "")
        parts.append(Paragraph(escape(words), bold))
        parts.append(table([(label, size, way) for label, size, way in rows], (200, 90, 221)) if rows
                     else Paragraph("Nothing that would be felt.", body))  # fmt: skip
    parts.append(Paragraph("What you will feel", head))
    parts += [Paragraph(escape(f"{line}."), body) for line in page.short] + [Spacer(1, 5)]
    for name, phases in page.phases:
        for phase, phase_rows in phases:
            first = (phase, page.boards[0][0], name, "what differs")
            parts.append(KeepTogether([table([tuple(r) for r in phase_rows], (150, 90, 90, 181), first), Spacer(1, 5)]))
    if page.said:
        parts.append(Paragraph("What was said and weighed", head))
        parts.append(table([(name, where, words) for name, where, words in page.said], (90, 130, 291)))
    parts.append(Paragraph("Over one another", head))
    for drawing in page.drawings:
        parts.append(KeepTogether([Paragraph(escape(drawing.title), body), _picture(drawing, 511.0), Spacer(1, 6)]))
    parts.append(Paragraph("What the figures mean", head))
    for label, meaning in page.legend:
        parts.append(Paragraph(f'<font name="Barlow-Bold">{escape(label)}</font>: {escape(meaning)}.', small))
    parts += [Spacer(1, 8), Paragraph(escape(CAUTION), small)]
    SimpleDocTemplate(
        str(path),
        pagesize=A4,
        title=page.title,
        leftMargin=42,
        rightMargin=42,
        topMargin=36,
        bottomMargin=36,
        invariant=1,
    ).build(parts)


def _picture(drawing: Drawing, room: float) -> Picture:
    """A drawing as wide as the page, or less where it would be taller than a third of it; its scale below it."""
    from reportlab.graphics.shapes import Drawing as Picture
    from reportlab.graphics.shapes import PolyLine, String
    from reportlab.lib import colors

    shown = [(x, y * drawing.heights) for x, y in drawing.lines if len(x)]
    if not shown:
        return Picture(1, 1)
    low, high = (np.array([f([f(v[k]) for v in shown]) for k in (0, 1)]) for f in (np.min, np.max))
    across, up = (high - low).tolist()
    scale = min(room / across, 220.0 / up, 0.5 * 72 / 0.0254)
    found = Picture(across * scale, up * scale + 14)
    for i, (x, y) in enumerate(drawing.lines):
        if len(x):
            points = (
                np.column_stack([(x - low[0]) * scale, (y * drawing.heights - low[1]) * scale + 13]).ravel().tolist()
            )
            dash = list(DASHES[i]) or None
            found.add(PolyLine(points, strokeColor=colors.HexColor(INKS[i]), strokeWidth=0.8, strokeDashArray=dash))
    said = f"1 : {72 / 0.0254 / scale:.1f}"
    found.add(String(0, 1, said, fontName="Barlow-Regular", fontSize=7, fillColor=colors.HexColor("#5d5a52")))
    return found


@dataclass(frozen=True, slots=True, eq=False)
class Sent:
    """A board for the page, as a process can be handed it; without `figures` they are counted, with their bands.

    The fields are those of :class:`Compared`.
    """

    subject: Subject
    name: str
    stamp: str = ""
    figures: Figures | None = None
    verdict: str = ""
    said: tuple[tuple[str, str], ...] = ()

    def compared(self, brief: Brief) -> Compared:
        """The board drawn and its figures known; raises InputError where it cannot be drawn."""
        board, table, coefficients = self.subject.board, self.subject.table, self.subject.coefficients
        if self.figures is None:
            found = evaluate(board, brief, table=table, coefficients=coefficients)
            if not isinstance(found, tuple):
                known = counted(found, condition_of(brief)).figures
                return Compared(found.live, self.name, self.stamp, known, self.verdict, self.said)
        live = evaluate_live(board, brief, table=table, coefficients=coefficients)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
        return Compared(live, self.name, self.stamp, self.figures, self.verdict, self.said)


def hand_over(
    boards: Sequence[Sent],
    path: Path,
    *,
    datum: Datum = "tail",
    rider: bool = False,
    system: System = System.METRIC,
    felt: Mapping[str, float] | None = None,
    over: bool = False,
) -> Path:
    """Write the page of several boards under the brief of the first, which the others are held against.

    `felt` is the least that is felt in the workshop, by lever.

    Raises
    ------
    InputError
        When a board cannot be drawn, the file's ending is another, or it cannot be written.
    """
    brief = boards[0].subject.brief
    reference, *others = (sent.compared(brief) for sent in boards)
    ledgers = [ledger(reference.live, other.live, own=felt) for other in others]
    page = page_of(reference, others, ledgers, brief, datum=datum, rider=rider, system=system)
    return write_page(page, path, over)


def hand_over_job(
    boards: Sequence[Sent], path: Path, datum: Datum, rider: bool, system: System, felt: dict[str, float]
) -> Path:
    """Like :func:`hand_over`, over a file that is there: the dialog has asked."""
    return hand_over(boards, path, datum=datum, rider=rider, system=system, felt=felt, over=True)
