"""The page that is handed over: boards compared, as PDF; their overlays alone as SVG, to scale in millimetres."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING
from xml.sax.saxutils import escape

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import System
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.curves import Datum
from kelvor.core.compare.ledger import ledger
from kelvor.core.compare.page import ComparedBoard, ComparisonPage, OverlaidLines, page_of
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.evaluation.uncertainty import with_counted_bands
from kelvor.core.register.stamp import code_of
from kelvor.core.ride.condition import condition_of
from kelvor.exchange.paper import ROOM, Paper
from kelvor.exchange.typesetting import PLAIN
from kelvor.files import written_whole

if TYPE_CHECKING:
    from reportlab.graphics.shapes import Drawing as Picture

MM = 1000.0
INKS = ("#0a6a6c", "#b4532a", "#5a55a8", "#6b6a12", "#2a5d9c", "#7b2a56")
DASHES: tuple[tuple[float, ...], ...] = ((), (5, 3), (2, 2), (7, 2), (1, 3), (7, 2, 2, 2))
CAUTION = (
    "New boards are tried in easy water, with somebody near. Leash or line as the discipline demands, local rules and "
    "the "
    "makers' data sheets come first. What is computed is an estimate with its band, no promise."
)


def write_page(page: ComparisonPage, path: Path, over: bool = False) -> Path:
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


def _svg(page: ComparisonPage, path: Path) -> None:
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


def _pdf(page: ComparisonPage, path: Path) -> None:
    paper = Paper()
    paper.title(page.title)
    for i, (name, stamp) in enumerate(page.boards):
        role = "the board all are held against" if i == 0 else "compared with it"
        paper.text(f"{name}, {stamp}: {role}" if stamp else f"{name}: {role}", ink=INKS[i])
    paper.text(f"Ridden as: {page.under}.")
    if page.why:
        paper.head("Why")
        for line in page.why:
            paper.text(f"{line}.")
    _changes(page, paper)
    _phases(page, paper)
    if page.said:
        paper.head("What was said and weighed")
        paper.table(page.said, (90, 130, 291))
    paper.head("Over one another")
    for drawing in page.drawings:
        since = len(paper.parts)
        paper.text(drawing.title)
        paper.parts.append(_picture(drawing, ROOM))
        paper.gap(6)
        paper.together(since)
    paper.head("What the figures mean")
    for label, meaning in page.legend:
        paper.small(f"{meaning}.", label)
    paper.gap()
    paper.small(CAUTION)
    paper.write(path, page.title)


def _changes(page: ComparisonPage, paper: Paper) -> None:
    paper.head("What changed")
    for name, rows, little in page.changes:
        more = f"; {little} more are too little to be felt" if little else ""
        paper.text(f"{name} against {page.boards[0][0]}{more}", bold=True)
        if rows:
            paper.table(rows, (200, 90, 221))
        else:
            paper.text("Nothing that would be felt.")


def _phases(page: ComparisonPage, paper: Paper) -> None:
    paper.head("What you will feel")
    for line in page.short:
        paper.text(f"{line}.")
    paper.gap(5)
    for name, phases in page.phases:
        for phase, rows in phases:
            since = len(paper.parts)
            paper.table(rows, (150, 90, 90, 181), (phase, page.boards[0][0], name, "what differs"))
            paper.gap(5)
            paper.together(since)


def _picture(drawing: OverlaidLines, room: float) -> Picture:
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
    found.add(String(0, 1, said, fontName=PLAIN, fontSize=7, fillColor=colors.HexColor("#5d5a52")))
    return found


@frozen(eq=False)
class Sent:
    """A board for the page, as a process can be handed it; without `figures` they are counted, with their bands.

    The fields are those of :class:`ComparedBoard`.
    """

    subject: Subject
    name: str
    stamp: str = ""
    figures: Figures | None = None
    verdict: str = ""
    said: tuple[tuple[str, str], ...] = ()

    def compared(self, brief: Brief) -> ComparedBoard:
        """The board drawn and its figures known; raises InputError where it cannot be drawn."""
        board, table, coefficients = self.subject.board, self.subject.table, self.subject.coefficients
        if self.figures is None:
            found = evaluate(board, brief, table=table, coefficients=coefficients)
            if not isinstance(found, tuple):
                known = with_counted_bands(found, condition_of(brief)).figures
                return ComparedBoard(found.live, self.name, self.marked(), known, self.verdict, self.said)
        live = evaluate_live(board, brief, table=table, coefficients=coefficients)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
        return ComparedBoard(live, self.name, self.marked(), self.figures, self.verdict, self.said)

    def marked(self) -> str:
        """Which version of when, and the board's code."""
        return " · ".join(part for part in (self.stamp, code_of(self.subject.board)) if part)


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
    if path.suffix.lower() == ".svg":  # lines over one another carry no figures: none are counted for them
        boards = [replace(sent, figures=sent.figures or {}) for sent in boards]
    reference, *others = (sent.compared(brief) for sent in boards)
    ledgers = [ledger(reference.live, other.live, own=felt) for other in others]
    page = page_of(reference, others, ledgers, brief, datum=datum, rider=rider, system=system)
    return write_page(page, path, over)


def hand_over_job(
    boards: Sequence[Sent], path: Path, datum: Datum, rider: bool, system: System, felt: dict[str, float]
) -> Path:
    """Like :func:`hand_over`, over a file that is there: the dialog has asked."""
    return hand_over(boards, path, datum=datum, rider=rider, system=system, felt=felt, over=True)
