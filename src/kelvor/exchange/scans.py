"""Scans of made boards: meshes (STL, PLY, OBJ) and clouds of points (PLY, XYZ, CSV) as points in whatever they are
written in.
"""

from __future__ import annotations

import io
import math
from array import array
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.made.scan import LONGEST, Scanned, laid_on
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.sections import Resolution, sections
from kelvor.exchange.read_limits import limited
from kelvor.files import refusal_reason, regular

MESHES, CLOUDS = (".stl", ".ply", ".obj"), (".xyz", ".csv", ".txt", ".pts")
ENDINGS = (*MESHES, *CLOUDS)
LARGEST = 100 * 1024 * 1024
"""No file is larger [bytes]: a mesh takes nine times its file while it is laid on."""
MEMORY = 1000 * 1024 * 1024
"""What reading one may take [bytes]."""
READ_SECONDS = 60
"""And how long [s]."""
SIMPLER = "Thin it out, or save it as a mesh in binary"
TAKEN = 200_000
"""So many points of a scan are laid on."""


def read_points(path: Path) -> Array:
    """The points of a scan (n, 3), evenly over the faces of a mesh.

    Raises
    ------
    InputError
        When the file is no scan we know, or cannot be read: with its name and line.
    """
    kind = path.suffix.lower()
    if kind not in ENDINGS:
        raise InputError(
            f"a “{kind or 'file without an ending'}” is no scan",
            where=path.name,
            accepts="STL, PLY, OBJ, or lines of x y z (XYZ, CSV)",
        )
    regular(path, LARGEST, "scans")
    try:
        points = _mesh(path) if kind in MESHES else _cloud(path)
    except OSError as error:
        raise InputError(refusal_reason(error), where=path.name) from None
    if not np.isfinite(points).all():
        raise InputError("a point of it has no place", where=path.name, accepts="Numbers in one unit of length")
    if not len(points):
        raise InputError("there is not one point in it", where=path.name, accepts="A scan of the whole board")
    if len(points) > LONGEST:
        raise InputError(f"it has more than {LONGEST} points", where=path.name, accepts="Thin it out")
    return points


def _mesh(path: Path) -> Array:
    import trimesh

    try:
        # its bytes alone, so that no name in it leads to another file
        kind, data = path.suffix.lower().lstrip("."), io.BytesIO(path.read_bytes())
        more: dict[str, Any] = {"skip_materials": True} if kind == "obj" else {}
        found: Any = trimesh.load(data, file_type=kind, process=False, **more)
    except Exception:  # whatever a broken file makes of its reader
        said = f"it is broken, or no {kind.upper()}"
        raise InputError(said, where=path.name, accepts="Save it anew, as a mesh in binary") from None
    if isinstance(found, trimesh.Scene):
        found = found.to_mesh() if found.geometry else None
    points = np.asarray(getattr(found, "vertices", np.zeros((0, 3))), float)
    faces = np.asarray(found.faces) if isinstance(found, trimesh.Trimesh) else np.zeros((0, 3), int)
    if points.ndim != 2 or points.shape[1] != 3:
        raise InputError("its points have no three places each", where=path.name, accepts="Save it anew")
    if not len(faces) or not np.isfinite(points).all():
        return points
    if faces.min() < 0 or faces.max() >= len(points):
        raise InputError("a face of it names a point that is not there", where=path.name, accepts="Save it anew")
    if not found.area > 0:
        raise InputError("its faces have no area", where=path.name, accepts="A scan of the whole board")
    over, _ = trimesh.sample.sample_surface(found, TAKEN, seed=1)
    return np.asarray(over, float)


def _cloud(path: Path) -> Array:
    numbers = array("d")
    with path.open(encoding="utf-8", errors="replace") as lines:
        for number, line in enumerate(lines, 1):
            words = line.replace(",", " ").replace(";", " ").split()
            if not words or words[0].startswith("#"):
                continue
            try:
                point = [float(word) for word in words[:3]]
                if not all(map(math.isfinite, point)):
                    raise ValueError
            except ValueError:
                if number == 1:  # a line of headings
                    continue
                raise InputError(
                    f"“{one_line(line, 60)}” is no point", where=f"{path.name}, line {number}", accepts="Lines of x y z"
                ) from None
            if len(point) < 3:
                raise InputError(
                    "a point has three numbers", where=f"{path.name}, line {number}", accepts="Lines of x y z"
                )
            numbers.extend(point)
            if len(numbers) > 3 * LONGEST:
                break
    return np.array(numbers, float).reshape(-1, 3)


def laid_scan(board: Board, path: Path) -> Scanned:
    """A scan laid on the board it is of.

    Raises
    ------
    InputError
        When it cannot be read, or is of something else.
    """
    with limited(path.name, READ_SECONDS, MEMORY, SIMPLER):
        points = read_points(path)
    if len(points) > TAKEN:
        points = points[np.random.default_rng(1).permutation(len(points))[:TAKEN]]
    shape = sections(board, Resolution.FINE)
    if isinstance(shape, tuple):
        raise InputError(shape[0].text, where=board.name, accepts=shape[0].advice.rstrip("."))
    return laid_on(points, shape)
