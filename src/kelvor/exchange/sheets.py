"""The material sheet on paper, as a table, and its cloth as shapes to cut."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, System, text, weighed_within
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import forecasts
from kelvor.core.build.materials.sheet import LaminationSheet, lamination_sheet
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.core.register.stamp import code_of
from kelvor.core.shape.board import Board
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


def write_sheet_of(board: Board, brief: Brief, table: MaterialTable, system: System, path: Path, over: bool) -> Path:
    """Like :func:`write_sheet`, from what a process can be handed; the path that was written."""
    live = evaluate_live(board, brief, table=table)
    if isinstance(live, tuple):
        raise InputError(live[0].text, where=board.name, accepts=live[0].advice)
    write_sheet(live, path, system, over=over)
    return path


def write_sheet(live: Live, path: Path, system: System = System.METRIC, *, over: bool = False) -> None:
    """Write the material sheet as PDF, CSV or DXF, by the file's ending; over a file that is there only with `over`.

    The paper is written in the reader's units; table and drawing, which machines read, in SI and millimetres.

    Raises
    ------
    InputError
        When the board has no construction, the ending is another, or the file cannot be written.
    """
    if live.mass.layup is None:
        raise InputError("no construction is stated", where=live.board.name, accepts="Choose one in Build first")
    found = lamination_sheet(live.geometry, live.mass.layup, live.table)
    writers: dict[str, Callable[[Live, LaminationSheet, Path], None]] = {".csv": _csv, ".dxf": _dxf}
    writers[".pdf"] = partial(_pdf, system)
    writer = writers.get(path.suffix.lower())
    if writer is None:
        raise InputError(
            f"“{path.suffix}” is no format of the material sheet", where=str(path), accepts="Give .pdf, .csv or .dxf"
        )
    with written_whole(path, over=over) as temporary:
        writer(live, found, temporary)


def _cut_rows(found: LaminationSheet, system: System | None = None) -> list[tuple[str, ...]]:
    """Pieces of cloth in the reader's units, or as bare numbers of metres for a table."""

    def size(value: float, quantity: Quantity, digits: int) -> str:
        finer = 1 if quantity is Quantity.SAIL_AREA else 0
        return f"{value:.{digits}f}" if system is None else text(value, quantity, system, extra=finer)

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
                size(long, Quantity.LENGTH, 2),
                size(2 * float(cut.half.max()), Quantity.LENGTH, 3),
                size(cut.area * cut.count, Quantity.SAIL_AREA, 2),
                note,
            )
        )
    return rows


CUT_HEADS = ("layer", "cloth", "zone", "pieces", "length", "greatest width", "area with spare", "note")
TABLE_HEADS = (*CUT_HEADS[:4], "length m", "greatest width m", "area m2 with spare", "note")


def _csv(live: Live, found: LaminationSheet, path: Path) -> None:
    built = live.board.construction.name if live.board.construction else ""
    rows: list[tuple[str, ...]] = [
        ("stamp", code_of(live.board)), ("board", live.board.name, "construction", built), TABLE_HEADS,
        *_cut_rows(found), (), ("step", "resin g", "pots", "pot life min"),
    ]  # fmt: skip
    rows += [(b.step, f"{b.resin * 1000:.0f}", str(b.pots), f"{b.minutes:.0f}") for b in found.batches]
    rows += [(), ("part", "g"), *((name, f"{part.mass * 1000:.1f}") for name, part in live.mass.parts)]
    write_table([*rows, ("all", f"{live.mass.total.mass * 1000:.1f}")], path)


def _dxf(live: Live, found: LaminationSheet, path: Path) -> None:
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


def _pdf(system: System, live: Live, found: LaminationSheet, path: Path) -> None:
    c = live.board.construction
    assert c is not None
    paper, title = Paper(), f"{live.board.name}: material sheet"
    paper.title(title)
    paper.small(f"{live.board.name} · {code_of(live.board)}")
    paper.text(
        f"{c.name}. Core {live.table.stock(c.core.stock).name}, {c.core.build}; {live.table.resin(c.resin).name}, "
        f"{'bagged' if c.method == 'bagged' else 'laid by hand'}. Forecast "
        f"{weighed_within(live.mass.total.mass, live.mass.band, system)}. {c.notes}"
    )
    paper.head("Cloth to cut")
    paper.table(_cut_rows(found, system), (92, 112, 48, 40, 64, 60, 60, 109), CUT_HEADS)
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
    weights = [(f.stage, weighed_within(f.mass, f.band, system), "") for f in forecasts(live.geometry, live.mass)]
    paper.table(weights, (150, 150, 211), ("stage", "forecast", "weighed"))
    paper.gap()
    paper.text(CAUTION)
    paper.write(path, title)
