"""A package for an outside cutter: the solid, what is routed into it, the numbers, and a page on where zero is."""

from __future__ import annotations

import tempfile
import zipfile
from pathlib import Path

from kelvor.core.base.mill import MillStock
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.checks.clearance import footprints
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Sections
from kelvor.exchange.drawings import MM, write_csv, write_dxf
from kelvor.exchange.meshes import write_mesh

WHEN = (1980, 1, 1, 0, 0, 0)
"""Time of day of every file inside: the same board makes the same package."""


def write_package(shape: Sections, path: Path, surface: str, stamp: Stamp, cautions: str, block: MillStock) -> None:
    """Write solid (3MF, STL), drawing with boxes (DXF), offsets (CSV) and a page to read first (TXT) as one ZIP."""
    length = shape.board.length
    with tempfile.TemporaryDirectory() as holder, zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as package:
        folder = Path(holder)
        write_mesh(shape, folder / "board.3mf", "3mf", stamp)
        write_mesh(shape, folder / "board.stl", "stl", stamp)
        write_dxf(shape, folder / "drawing.dxf", length, stamp)
        write_csv(shape, folder / "offsets.csv", stamp)
        (folder / "READ FIRST.txt").write_text(cutting_page(shape, surface, stamp, cautions, block), encoding="utf-8")
        for file in sorted(folder.iterdir()):
            package.writestr(zipfile.ZipInfo(file.name, WHEN), file.read_bytes(), zipfile.ZIP_DEFLATED)


def cutting_page(shape: Sections, surface: str, stamp: Stamp, cautions: str, block: MillStock) -> str:
    """What the cutter must know before anything is clamped: units, zero, stock, what is routed and how deep."""
    measured, board = of_sections(shape), shape.board
    sides = (block.length * MM, block.width * MM, block.thickness * MM)
    lines = [
        stamp.words,
        "",
        f"The {surface} surface, in millimetres. Nothing is scaled.",
        "X runs from the tail's end to the nose, Y to port, Z up; Y 0 is the centreline.",
        f"Base line: through Z {measured.base_height * MM:.2f} at X 0, rising {board.base.slope * MM:.3f} mm a metre.",
        f"Lowest point Z {float(shape.z.min()) * MM:.2f}, highest {float(shape.z.max()) * MM:.2f}.",
        f"Stock {sides[0]:.0f} x {sides[1]:.0f} x {sides[2]:.0f}, with room for cutter, frame, dowels and facing.",
        "",
        "Routed or drilled (places are middles; depths from the skin):",
    ]
    for item in footprints(board):
        middle, size = item.corners.mean(axis=0) * MM, item.corners
        along, across = (float(((size[a] - size[b]) ** 2).sum() ** 0.5) * MM for a, b in ((1, 0), (2, 1)))
        place = f"  {item.side:6} X {middle[0]:8.1f}  Y {middle[1]:8.1f}"
        lines.append(f"{place}  {along:.1f} x {across:.1f}, {item.depth * MM:.1f} deep  {item.name}")
    return "\n".join([*lines, "", cautions, ""])
