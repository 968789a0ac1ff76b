"""The material sheet on paper, as a table, and its cloth as shapes to cut."""

from __future__ import annotations

import csv
from pathlib import Path

from kelvor.core.brief import Brief
from kelvor.core.errors import InputError
from kelvor.core.live import Live, evaluate_live
from kelvor.core.mass.stages import forecasts
from kelvor.core.materials.sheet import Sheet, sheet
from kelvor.core.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.exchange.dxf import new_drawing
from kelvor.files import written_whole

MM = 1000.0
CAUTION = (
    "Resin and hardener sensitise skin and lungs: gloves, ventilation, cartridge mask. Mix small pots and pour them "
    "out flat: a deep pot "
    "heats up by itself. Dust: mask, extraction, or sand it wet. The products' data sheets, local rules and licensed "
    "practice come first."
)


def write_sheet_of(board: Board, brief: Brief, table: MaterialTable, path: Path, over: bool) -> Path:
    """Like :func:`write_sheet`, from what a process can be handed; the path that was written."""
    live = evaluate_live(board, brief, table=table)
    if isinstance(live, tuple):
        raise InputError(live[0].text, where=board.name, accepts=live[0].advice)
    write_sheet(live, path, over=over)
    return path


def write_sheet(live: Live, path: Path, *, over: bool = False) -> None:
    """Write the material sheet as PDF, CSV or DXF, by the file's ending; over a file that is there only with `over`.

    Raises
    ------
    InputError
        When the board has no construction, the ending is another, or the file cannot be written.
    """
    if live.mass.layup is None:
        raise InputError("no construction is stated", where=live.board.name, accepts="Choose one in Build first")
    found = sheet(live.geometry, live.mass.layup, live.table)
    writers = {".pdf": _pdf, ".csv": _csv, ".dxf": _dxf}
    writer = writers.get(path.suffix.lower())
    if writer is None:
        raise InputError(
            f"“{path.suffix}” is no format of the material sheet", where=str(path), accepts="Give .pdf, .csv or .dxf"
        )
    with written_whole(path, over=over) as temporary:
        writer(live, found, temporary)


def _cut_rows(found: Sheet) -> list[tuple[str, ...]]:
    rows: list[tuple[str, ...]] = []
    for cut in found.cuts:
        long = float(cut.along[-1] - cut.along[0])
        note = "wider than the roll: join it on the centreline" if cut.too_wide else ""
        rows.append(
            (
                cut.ply.name,
                cut.cloth,
                cut.ply.zone,
                str(cut.count),
                f"{long:.2f}",
                f"{2 * float(cut.half.max()):.3f}",
                f"{cut.area * cut.count:.2f}",
                note,
            )
        )
    return rows


CUT_HEADS = ("layer", "cloth", "zone", "pieces", "length m", "greatest width m", "area m2 with spare", "note")


def _csv(live: Live, found: Sheet, path: Path) -> None:
    with open(path, "w", newline="", encoding="utf-8") as file:
        writer = csv.writer(file)
        writer.writerow(
            ("board", live.board.name, "construction", live.board.construction.name if live.board.construction else "")
        )
        writer.writerow(CUT_HEADS)
        writer.writerows(_cut_rows(found))
        writer.writerow(())
        writer.writerow(("step", "resin g", "pots", "pot life min"))
        writer.writerows((b.step, f"{b.resin * 1000:.0f}", b.pots, f"{b.minutes:.0f}") for b in found.batches)
        writer.writerow(())
        writer.writerow(("part", "g"))
        writer.writerows((name, f"{part.mass * 1000:.1f}") for name, part in live.mass.parts)
        writer.writerow(("all", f"{live.mass.total.mass * 1000:.1f}"))


def _dxf(live: Live, found: Sheet, path: Path) -> None:
    document = new_drawing()
    space, down = document.modelspace(), 0.0
    for cut in found.cuts:
        name = f"{cut.ply.name} {cut.count} x {cut.cloth}".replace("±", "+-").replace("°", "deg")
        layer = "".join(ch for ch in name if ch.isalnum() or ch in " -+.")[:200]
        document.layers.add(layer) if layer not in document.layers else None
        high = float(cut.half.max())
        x, half = (cut.along - cut.along[0]) * MM, cut.half * MM
        ring = [*zip(x, half, strict=True), *zip(x[::-1], -half[::-1], strict=True)]
        space.add_lwpolyline(
            [(float(a), float(b) + down - high * MM) for a, b in ring], close=True, dxfattribs={"layer": layer}
        )
        down -= 2 * high * MM + 60
    document.saveas(path)


def _pdf(live: Live, found: Sheet, path: Path) -> None:
    from reportlab.lib import colors
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.styles import getSampleStyleSheet
    from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

    styles = getSampleStyleSheet()
    c = live.board.construction
    assert c is not None
    look = TableStyle(
        [
            ("FONTSIZE", (0, 0), (-1, -1), 8),
            ("FONTNAME", (0, 0), (-1, 0), "Helvetica-Bold"),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, 0), 0.5, colors.black),
            ("LINEBELOW", (0, 1), (-1, -1), 0.2, colors.lightgrey),
        ]
    )

    def table(rows: list[tuple[str, ...]]) -> Table:
        return Table(
            [
                [Paragraph(_plain(cell), styles["BodyText"]) if len(cell) > 26 else _plain(cell) for cell in row]
                for row in rows
            ],
            style=look,
            hAlign="LEFT",
        )

    total, band = live.mass.total.mass, live.mass.band
    parts: list[Flowable] = [
        Paragraph(_plain(f"{live.board.name}: material sheet"), styles["Title"]),
        Paragraph(
            _plain(
                f"{c.name}. Core {live.table.stock(c.core.stock).name}, {c.core.build}; "
                f"{live.table.resin(c.resin).name}, "
                f"{'bagged' if c.method == 'bagged' else 'laid by hand'}. Forecast {total:.2f} ± {band:.2f} kg. "
                f"{c.notes}"
            ),
            styles["BodyText"],
        ),
        Spacer(1, 8),
        Paragraph("Cloth to cut", styles["Heading2"]),
        table([CUT_HEADS, *_cut_rows(found)]),
        Paragraph("Resin", styles["Heading2"]),
        table(
            [
                ("step", "resin and hardener", "pots", "pot life"),
                *(
                    (b.step, f"{b.resin * 1000:.0f} g", str(b.pots), f"{b.minutes:.0f} min for 300 g at 20 °C")
                    for b in found.batches
                ),
            ]
        ),
        Paragraph("Order of the work", styles["Heading2"]),
        *(Paragraph(_plain(f"{i}. {line}"), styles["BodyText"]) for i, line in enumerate(found.order, 1)),
        Paragraph("What it should weigh", styles["Heading2"]),
        table(
            [
                ("stage", "forecast", "weighed"),
                *((f.stage, f"{f.mass:.3f} ± {f.band:.3f} kg", "") for f in forecasts(live.geometry, live.mass)),
            ]
        ),
        Spacer(1, 8),
        Paragraph(_plain(CAUTION), styles["BodyText"]),
    ]
    title = f"{live.board.name}: material sheet"
    SimpleDocTemplate(
        str(path), pagesize=A4, title=title, leftMargin=42, rightMargin=42, topMargin=36, bottomMargin=36, invariant=1
    ).build(parts)


def _plain(words: str) -> str:
    return words.replace("&", "&amp;").replace("<", "&lt;")
