"""Export of a board to any of our formats."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from kelvor.core.errors import InputError
from kelvor.core.shape.board import Board
from kelvor.core.shape.sections import Resolution, Sections, core_sections, sections
from kelvor.exchange.documents import board_text
from kelvor.exchange.drawings import write_csv, write_dxf, write_svg
from kelvor.exchange.meshes import write_mesh
from kelvor.exchange.templates import Paper, write_pdf
from kelvor.files import written_whole

Format = Literal["stl", "3mf", "obj", "dxf", "svg", "pdf", "csv", "json"]
Surface = Literal["finished", "core"]
RESOLUTIONS = {"coarse": Resolution.COARSE, "normal": Resolution.NORMAL, "fine": Resolution.FINE}


def surface_of(board: Board, surface: Surface, resolution: Resolution) -> Sections:
    """Sections of the finished board or of its core.

    Raises
    ------
    InputError
        When the board, or a core under so thick a skin, cannot be drawn.
    """
    shape = core_sections(board, resolution) if surface == "core" else sections(board, resolution)
    if isinstance(shape, tuple):
        raise InputError(shape[0].text, where=f"{board.name}, {surface}", accepts=shape[0].advice.rstrip("."))
    return shape


def export(
    board: Board,
    to: Format,
    out: Path,
    surface: Surface = "finished",
    resolution: Resolution = Resolution.NORMAL,
    paper: Paper = "a4",
    *,
    over: bool = False,
) -> None:
    """Write `board` to `out`, whole or not at all; over a file that is there only with `over`.

    Raises
    ------
    InputError
        When the board cannot be drawn or the file cannot be written.
    """
    shape = surface_of(board, surface, resolution)
    with written_whole(out, over=over) as path:
        match to:
            case "stl" | "obj" | "3mf":
                write_mesh(shape, path, to)
            case "dxf":
                write_dxf(shape, path, board.length)
            case "svg":
                write_svg(shape, path, board.length)
            case "pdf":
                write_pdf(shape, path, board.length, board.name, surface, paper)
            case "csv":
                write_csv(shape, path)
            case "json":
                path.write_text(board_text(board), encoding="utf-8")
