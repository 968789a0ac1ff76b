"""The material sheet on paper, as a table, and its cloth as shapes to cut."""

from __future__ import annotations

from pathlib import Path

from kelvor.core.brief import Brief
from kelvor.core.errors import InputError
from kelvor.core.live import Live, evaluate_live
from kelvor.core.mass.stages import forecasts
from kelvor.core.materials.sheet import Sheet, sheet
from kelvor.core.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.stamp import code_of
from kelvor.exchange.dxf import new_drawing
from kelvor.exchange.paper import Paper
from kelvor.exchange.tables import write_table
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
    built = live.board.construction.name if live.board.construction else ""
    rows: list[tuple[str, ...]] = [
        ("stamp", code_of(live.board)), ("board", live.board.name, "construction", built), CUT_HEADS,
        *_cut_rows(found), (), ("step", "resin g", "pots", "pot life min"),
    ]  # fmt: skip
    rows += [(b.step, f"{b.resin * 1000:.0f}", str(b.pots), f"{b.minutes:.0f}") for b in found.batches]
    rows += [(), ("part", "g"), *((name, f"{part.mass * 1000:.1f}") for name, part in live.mass.parts)]
    write_table([*rows, ("all", f"{live.mass.total.mass * 1000:.1f}")], path)


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
    c = live.board.construction
    assert c is not None
    total, band = live.mass.total.mass, live.mass.band
    paper, title = Paper(), f"{live.board.name}: material sheet"
    paper.title(title)
    paper.small(f"{live.board.name} · {code_of(live.board)}")
    paper.text(
        f"{c.name}. Core {live.table.stock(c.core.stock).name}, {c.core.build}; {live.table.resin(c.resin).name}, "
        f"{'bagged' if c.method == 'bagged' else 'laid by hand'}. Forecast {total:.2f} ± {band:.2f} kg. {c.notes}"
    )
    paper.head("Cloth to cut")
    paper.table(_cut_rows(found), (110, 130, 55, 45, 45, 55, 55, 90), CUT_HEADS)
    paper.head("Resin")
    pots = [
        (b.step, f"{b.resin * 1000:.0f} g", str(b.pots), f"{b.minutes:.0f} min for 300 g at 20 °C")
        for b in found.batches
    ]
    paper.table(pots, (180, 110, 50, 171), ("step", "resin and hardener", "pots", "pot life"))
    paper.head("Order of the work")
    for i, line in enumerate(found.order, 1):
        paper.text(f"{i}. {line}")
    paper.head("What it should weigh")
    weights = [(f.stage, f"{f.mass:.3f} ± {f.band:.3f} kg", "") for f in forecasts(live.geometry, live.mass)]
    paper.table(weights, (150, 150, 211), ("stage", "forecast", "weighed"))
    paper.gap()
    paper.text(CAUTION)
    paper.write(path, title)
