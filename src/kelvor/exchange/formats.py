"""Every open format, once: its key, its words, what it asks, its cautions, and who writes or reads it.

The command line, the Hand out panel and the checks take their choices from these tables. Writers and readers load the
libraries they need when they are called.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.board_mass import blank
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution, Sections, core_sections, sections
from kelvor.exchange.paper_sizes import Paper

if TYPE_CHECKING:
    from kelvor.exchange.readings import ReadIn

Surface = Literal["finished", "core"]
Asked = Literal["surface", "resolution", "paper"]
SURFACES: dict[Surface, str] = {"finished": "finished board", "core": "core, without its skin"}
RESOLUTIONS = {"normal": Resolution.NORMAL, "fine": Resolution.FINE, "coarse": Resolution.COARSE}
PAPERS: dict[Paper, str] = {"a4": "A4", "a3": "A3", "letter": "Letter"}
BAR = "Check the 100 mm bar on every sheet before you cut."
MILLING = "Mill and router: guards, eye protection, hold-down, air cut first, emergency stop in reach."
CUTTING = "Foam dust: mask and extraction. Hot wire: fresh air, never on PVC."
WOOD = "Wood dust: mask and extraction."
FIRST = "The maker's data sheets, local rules and licensed practice come first."


@frozen
class ExportOrder:
    """What is handed out: a board, which surface of it, how fine, on which paper, from which block."""

    board: Board
    surface: Surface = "finished"
    resolution: Resolution = Resolution.NORMAL
    paper: Paper = "a4"
    stamp: Stamp | None = None
    block: MillStock | None = None

    def stock(self) -> MillStock:
        """The block it is cut from: as told, else that of a usual mill; raises InputError where it cannot be drawn."""
        if self.block is not None:
            return self.block
        found = geometry(self.board)
        if isinstance(found, tuple):
            raise InputError(found[0].text, where=self.board.name, accepts=found[0].advice.rstrip("."))
        return blank(found, Mill())

    def stamped(self) -> Stamp:
        """The stamp it carries: what is known of the board, or its name and code alone."""
        return self.stamp or Stamp(design=self.board.name, code=code_of(self.board))

    def shape(self) -> Sections:
        """Sections of the finished board or of its core.

        Raises
        ------
        InputError
            When the board, or a core under so thick a skin, cannot be drawn.
        """
        found = (core_sections if self.surface == "core" else sections)(self.board, self.resolution)
        if isinstance(found, tuple):
            where = f"{self.board.name}, {self.surface}"
            raise InputError(found[0].text, where=where, accepts=found[0].advice.rstrip("."))
        return found


@frozen
class Writer:
    """A format boards are handed out in. Its key is the file's ending."""

    key: str
    words: str
    asks: frozenset[Asked]
    write: Callable[[ExportOrder, Path], None]
    cautions: tuple[str, ...] = ()

    @property
    def caution(self) -> str:
        """What to mind, as one paragraph; nothing where nobody can be hurt."""
        return " ".join((*self.cautions, FIRST)) if self.cautions else ""


@frozen
class FileReader:
    """What is read off files with these endings, as JSON text.

    `read` takes the file, whether the nose lies at the left, and who hears how far it is.
    """

    key: str
    words: str
    endings: tuple[str, ...]
    read: Callable[[Path, bool, Callable[[str], None]], str]


def _mesh(kind: Literal["stl", "3mf", "obj"]) -> Callable[[ExportOrder, Path], None]:
    def write(order: ExportOrder, path: Path) -> None:
        from kelvor.exchange.meshes import write_mesh

        write_mesh(order.shape(), path, kind, order.stamped())

    return write


def _pdf(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.templates import write_pdf

    write_pdf(order.shape(), path, order.board.length, order.stamped(), order.surface, order.paper)


def _dxf(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.drawings import write_dxf

    write_dxf(order.shape(), path, order.board.length, order.stamped())


def _nested(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.nesting import write_nested

    write_nested(order.shape(), path, order.board.length, order.stamped())


def _svg(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.drawings import write_svg

    write_svg(order.shape(), path, order.board.length, order.stamped())


def _csv(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.drawings import write_csv

    write_csv(order.shape(), path, order.stamped())


def _json(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.documents import board_text

    path.write_text(board_text(order.board), encoding="utf-8")


def _zip(order: ExportOrder, path: Path) -> None:
    from kelvor.exchange.package import write_package

    words = SURFACES[order.surface]
    write_package(order.shape(), path, words, order.stamped(), " ".join((MILLING, CUTTING, FIRST)), order.stock())


_SHAPE: frozenset[Asked] = frozenset({"surface", "resolution"})
WRITERS = {
    writer.key: writer
    for writer in (
        Writer("pdf", "Full-size paper templates (PDF)", _SHAPE | {"paper"}, _pdf, (BAR, CUTTING)),
        Writer("stl", "Mesh for the cutter (STL)", _SHAPE, _mesh("stl"), (MILLING, CUTTING)),
        Writer("3mf", "Mesh (3MF)", _SHAPE, _mesh("3mf"), (MILLING, CUTTING)),
        Writer("obj", "Mesh (OBJ)", _SHAPE, _mesh("obj"), (MILLING, CUTTING)),
        Writer("dxf", "Plan, profile and sections (DXF)", _SHAPE, _dxf, (MILLING, CUTTING)),
        Writer("nested.dxf", "Templates and ribs on sheets of ply (DXF)", _SHAPE, _nested, (MILLING, WOOD)),
        Writer("svg", "Plan, profile and sections (SVG)", _SHAPE, _svg, (MILLING, CUTTING)),
        Writer("zip", "Package for an outside cutter (ZIP)", _SHAPE, _zip, (MILLING, CUTTING)),
        Writer("csv", "Offset table (CSV)", _SHAPE, _csv),
        Writer("json", "Board document (JSON)", frozenset(), _json),
    )
}


def _read_board(path: Path, _nose_first: bool, _told: Callable[[str], None]) -> str:
    from kelvor.exchange.documents import board_text, parse_board
    from kelvor.files import read_text

    return board_text(parse_board(read_text(path), str(path), None)).rstrip("\n")


def _read_offsets(path: Path, _nose_first: bool, _told: Callable[[str], None]) -> str:
    from kelvor.exchange.readings import read_offsets

    return _text(read_offsets(path))


def _read_outline(path: Path, nose_first: bool, told: Callable[[str], None]) -> str:
    from kelvor.exchange.outlines import read_outline

    return _text(read_outline(path, nose_first=nose_first, told=told))


def _text(found: ReadIn) -> str:
    from kelvor.exchange.readings import readings_text

    return readings_text(found)


READERS = {
    reader.key: reader
    for reader in (
        FileReader("board", "Board document", (".json",), _read_board),
        FileReader("offsets", "Offset table", (".csv",), _read_offsets),
        FileReader("outline", "Outline in a drawing", (".dxf", ".svg"), _read_outline),
    )
}
