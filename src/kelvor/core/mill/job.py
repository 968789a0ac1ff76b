"""What is asked of a worker about the mill: programs for a face, and what their cut left of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.values import frozen
from kelvor.core.mill.controller import CutterMoves, check_moves, read_program
from kelvor.core.mill.cut import CutBlock, Took, cut, cutting_seconds, way
from kelvor.core.mill.inspection import faults
from kelvor.core.mill.judging import Judged, judge_face
from kelvor.core.mill.paths import paths
from kelvor.core.mill.program import Program, programs
from kelvor.core.mill.stock import Clamped, clamped_core
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.fittings import Side
from kelvor.core.shape.surface.sections import Resolution, Sections, core_sections

RAPID = 0.25
"""The fastest a mill of this kind travels [m/s] (common practice, no source)."""


@frozen(eq=False)
class CutFace:
    """A face as a mill cut it: its programs' names and how long each takes [s], the block, and what the ball left."""

    side: Side
    times: tuple[tuple[str, float], ...]
    block: CutBlock
    judged: Judged


@lru_cache(maxsize=4)
def wanted_core(board: Board) -> Sections:
    """The core a mill cuts: the board without its skin.

    Raises
    ------
    InputError
        When it cannot be drawn.
    """
    found = core_sections(board, Resolution.FINE)
    if isinstance(found, tuple):
        raise InputError(found[0].text, where=f"{board.name}, core", accepts=found[0].advice.rstrip("."))
    return found


def face_programs(board: Board, mill: Mill, stock: MillStock, side: Side, stamp: Stamp) -> tuple[Program, ...]:
    """The programs of one face.

    Raises
    ------
    InputError
        When the core cannot be drawn, or stock, mill or cutters do not fit it.
    """
    clamp = clamped_core(wanted_core(board), mill, stock, side)
    return programs(clamp, paths(clamp), stamp)


def run_through(clamp: Clamped, block: CutBlock, files: Sequence[Program]) -> tuple[list[CutterMoves], list[Took]]:
    """Read the text of programs as a controller does, and run them through a block, one after the other; what each
    does, and took at once.

    Raises
    ------
    InputError
        For what the controller or the mill would refuse: with the program and the line or place.
    """
    mill, wide = clamp.mill, clamp.stock.width / 2
    travel = (mill.travel_x, mill.travel_y, mill.travel_z)
    found, took = [], []
    for file in files:
        moves = read_program(file.text, file.name)
        check_moves(moves, file.cutter, (*clamp.ends, -wide, wide, clamp.height), travel, file.name)
        took.append(cut(block, moves, file.cutter, mill.nut, file.name))
        found.append(moves)
    return found, took


def whole_block(clamp: Clamped) -> CutBlock:
    """The stock as it is clamped, uncut."""
    return CutBlock.whole(clamp.ends, clamp.stock.width / 2, clamp.height)


def cut_face(board: Board, mill: Mill, stock: MillStock, side: Side, files: Sequence[Program]) -> CutFace:
    """Run programs of one face, from their text, through the stock, and compare with the wanted core.

    Raises
    ------
    InputError
        For what controller or mill would refuse.
    """
    clamp = clamped_core(wanted_core(board), mill, stock, side)
    block = whole_block(clamp)
    return told_of(clamp, block, files, *run_through(clamp, block, files))


def told_of(
    clamp: Clamped, block: CutBlock, files: Sequence[Program], moves: Sequence[CutterMoves], took: Sequence[Took]
) -> CutFace:
    """What programs that were run through a block left of the wanted core."""
    mill = clamp.mill
    ran = [way(m)[0] for file, m in zip(files, moves, strict=True) if file.cutter.kind == "ball"]
    if not ran:
        raise InputError("there is no ball cutter's program", where=clamp.side, accepts="Programs of this board")
    times = tuple(
        (file.name, cutting_seconds(m, RAPID, mill.acceleration)) for file, m in zip(files, moves, strict=True)
    )
    judged = judge_face(clamp, np.concatenate(ran), mill)
    wrong = faults(clamp, block, files, moves, took, judged)
    return CutFace(clamp.side, times, block, replace(judged, faults=wrong))


def judged_face(
    board: Board,
    mill: Mill,
    stock: MillStock,
    side: Side,
    files: Sequence[Program],
    heights: Array,
    took: Sequence[Took],
) -> CutFace:
    """What a mill left of a face: the heights of its block (n, m) [m] and what each program took at once, compared with
    the core along the programs it ran.

    Raises
    ------
    InputError
        When the heights are not those of this stock.
    """
    clamp = clamped_core(wanted_core(board), mill, stock, side)
    block = whole_block(clamp)
    if block.heights.shape != heights.shape:
        raise InputError("the block is not of this stock's size", where=side, accepts="Cut it again")
    if len(took) != len(files):
        raise InputError("the mill did not tell what each program took", where=side, accepts="Cut it again")
    block.heights = np.minimum(block.heights, heights)
    return told_of(clamp, block, files, [read_program(file.text, file.name) for file in files], took)


def thinnest(core: Sections, board: Board) -> tuple[float, str]:
    """The least foam that stays under a pocket [m], and under which."""
    from kelvor.core.shape.checks.clearance import footprints
    from kelvor.core.shape.surface.geometry import of_sections

    measured = of_sections(core)
    least, name = float("inf"), ""
    for item in footprints(board):
        skin = board.skin.deck if item.side == "deck" else board.skin.bottom
        thick = measured.at(core.deck, item.x) - measured.at(core.keel, item.x)
        if thick + skin - item.depth < least:
            least, name = thick + skin - item.depth, item.name
    return least, name


def wasted(core_volume: float, stock: MillStock) -> float:
    """Share of the stock that becomes chips and frame."""
    return 1 - core_volume / stock.volume
