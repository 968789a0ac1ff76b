"""Programs for a mill, handed out as one ZIP with a page on how the stock is clamped; never unproven."""

from __future__ import annotations

import zipfile
from collections.abc import Sequence
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.mill.job import CutFace, cut_face, face_programs, wanted_core
from kelvor.core.mill.judging import GOUGE, dowel_step
from kelvor.core.mill.program import Program
from kelvor.core.mill.stock import SIDES, clamped_core, frame
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.sections import Sections
from kelvor.exchange.package import WHEN
from kelvor.files import written_whole

MM = 1000.0
CAUTION = (
    "Mill: guards, eye and ear protection, dust extraction, foam dust mask; stock held down so that it cannot lift; "
    "the first run in the air, hand on the stop. Never reach in while the spindle turns. The mill maker's manual, data "
    "sheets, local rules and licensed practice come first."
)


CLAMP = 0.025
"""A clamp or a screw with its washer wants so much [m] (common practice, no source)."""


def _held(mill: Mill, stock: MillStock, core: Sections) -> str:
    """How the stock is kept from moving and lifting."""
    ends, beside = frame(core, mill, stock)
    facing = mill.facing * MM
    told = f"The cutter leaves a frame of {ends * MM:.0f} mm at the ends and {beside * MM:.0f} mm beside the core. "
    if max(ends, beside) < CLAMP:
        return told + "Too narrow for clamps: hold it by vacuum, or screw it down through the tabs' frame from below."
    where = "at the ends and beside" if min(ends, beside) >= CLAMP else "at the ends" if ends >= CLAMP else "beside"
    return (
        f"{told}Clamp or screw it down {where}, in four places at least, heads more than {facing:.1f} mm below the top "
        "or moved out of the way while it is faced. A vacuum table holds the faced side after the flip."
    )


def milling_page(board: Board, mill: Mill, stock: MillStock, stamp: Stamp, faces: Sequence[CutFace]) -> str:
    """What must be known before anything is clamped."""
    core = wanted_core(board)
    deck, bottom = (clamped_core(core, mill, stock, side) for side in SIDES)
    lines = [
        stamp.words,
        "",
        "Millimetres, absolute places, one file for each cutter and face. Run them in the order of their numbers.",
        f"Stock {stock.length * MM:.1f} x {stock.width * MM:.1f} x {stock.thickness * MM:.1f}, its middle on X "
        f"{sum(deck.ends) / 2 * MM:.1f}, Y 0, on the table (Z 0). X 0 is the core's tail.",
        f"Dowels on the centreline at X {deck.dowels[0] * MM:.2f} and X {deck.dowels[1] * MM:.2f}: through the stock "
        f"into the table. With {mill.play * MM:.2f} mm of play a step of up to {dowel_step(deck, mill.play) * MM:.2f} "
        "mm on the rails.",
        f"Deck up first, height {deck.height * MM:.1f}. Then turn it over about the X axis, on the same dowels: height "
        f"{bottom.height * MM:.1f}.",
        _held(mill, stock, core),
        f"{mill.tabs} tabs on either side hold the core in its frame, {mill.tab * MM:.0f} mm thick: saw them last.",
        f"Left proud {mill.proud * MM:.2f} mm everywhere, for the sanding block.",
        "",
    ]
    for face in faces:
        for name, took in face.times:
            lines.append(f"{name}: about {took / 60:.0f} min")
        judged = face.judged
        lines.append(
            f"{face.side}: cut on the simulated mill. Nine tenths of it within {judged.usual * MM:.2f} mm, most left "
            f"on {judged.worst_left * MM:.2f}, deepest into the core {judged.worst_gouge * MM:.2f} mm."
        )
        for spot in judged.spots:
            lines.append(
                f"  {spot.off * MM:+.2f} mm at {spot.x * MM:.0f} from the core's tail, {abs(spot.y) * MM:.0f} "
                f"{'port' if spot.y >= 0 else 'starboard'}: {spot.why}"
            )
    return "\n".join([*lines, "", CAUTION, ""])


def write_programs(
    board: Board,
    mill: Mill,
    stock: MillStock,
    stamp: Stamp,
    files: Sequence[Program],
    faces: Sequence[CutFace],
    path: Path,
    over: bool,
) -> Path:
    """Write programs that were run on the simulated mill as one ZIP; the path that was written.

    Raises
    ------
    InputError
        When a face was not run or was cut into, or the file cannot be written.
    """
    proven = {face.side for face in faces}
    for side in SIDES:
        if side not in proven:
            raise InputError(f"the {side} was not run on the simulated mill", accepts="Cut it there first")
    for face in faces:
        for words in face.judged.faults:
            raise InputError(words, accepts="What the simulated mill found wrong is not handed out")
        if not face.judged.safe:
            spot = face.judged.spots[0]
            raise InputError(
                f"it cuts {-spot.off * MM:.2f} mm into the core",
                where=f"{face.side}, {spot.x * MM:.0f} mm from the tail, {spot.y * MM:.0f} across",
                accepts=f"No more than {GOUGE * MM:.1f} mm is handed out",
            )
    with written_whole(path, over=over) as temporary, zipfile.ZipFile(temporary, "w", zipfile.ZIP_DEFLATED) as package:
        texts = [(file.name, file.text) for file in files]
        texts.append(("READ FIRST.txt", milling_page(board, mill, stock, stamp, faces)))
        for name, text in texts:
            package.writestr(zipfile.ZipInfo(name, WHEN), text.encode(), zipfile.ZIP_DEFLATED)
    return path


def mill_board(
    board: Board, mill: Mill, stock: MillStock, stamp: Stamp, path: Path, *, over: bool
) -> tuple[CutFace, ...]:
    """Plan, cut on the simulated mill, and hand out; what each face came to.

    Raises
    ------
    InputError
        As above, and for what does not fit.
    """
    files: list[Program] = []
    faces = []
    for side in SIDES:
        programs = face_programs(board, mill, stock, side, stamp)
        faces.append(cut_face(board, mill, stock, side, programs))
        files += programs
    write_programs(board, mill, stock, stamp, files, faces, path, over)
    return tuple(faces)
