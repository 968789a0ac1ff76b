"""Scans of made boards: meshes (STL, PLY, OBJ) and clouds of points (PLY, XYZ, CSV) as points in whatever they are
written in.
"""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.making.scan import LONGEST, Scanned, laid_on
from kelvor.core.shape.battens import Array
from kelvor.core.shape.board import Board
from kelvor.core.shape.sections import Resolution, sections
from kelvor.files import reason, regular

MESHES, CLOUDS = (".stl", ".ply", ".obj"), (".xyz", ".csv", ".txt", ".pts")
ENDINGS = (*MESHES, *CLOUDS)
LARGEST = 600 * 1024 * 1024
"""No file is larger [bytes]."""
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
        raise InputError(reason(error), where=path.name) from None
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
    except Exception as error:  # whatever a broken file makes of its reader
        raise InputError(
            f"it cannot be read ({type(error).__name__})", where=path.name, accepts="Save it anew"
        ) from None
    if isinstance(found, trimesh.Scene):
        found = found.to_mesh() if found.geometry else None
    if found is None:
        return np.zeros((0, 3))
    if isinstance(found, trimesh.Trimesh) and len(found.faces):
        points, _ = trimesh.sample.sample_surface(found, TAKEN, seed=1)
        return np.asarray(points, float)
    return np.asarray(getattr(found, "vertices", np.zeros((0, 3))), float)


def _cloud(path: Path) -> Array:
    rows = []
    with path.open(encoding="utf-8", errors="replace") as lines:
        for number, line in enumerate(lines, 1):
            words = line.replace(",", " ").replace(";", " ").split()
            if not words or words[0].startswith("#"):
                continue
            try:
                rows.append([float(word) for word in words[:3]])
            except ValueError:
                if number == 1:  # a line of headings
                    continue
                raise InputError(
                    f"“{line.strip()[:60]}” is no point", where=f"{path.name}, line {number}", accepts="Lines of x y z"
                ) from None
            if len(rows[-1]) < 3:
                raise InputError(
                    "a point has three numbers", where=f"{path.name}, line {number}", accepts="Lines of x y z"
                )
            if len(rows) > LONGEST:
                break
    return np.array(rows, float).reshape(-1, 3)


def laid_scan(board: Board, path: Path) -> Scanned:
    """A scan laid on the board it is of.

    Raises
    ------
    InputError
        When it cannot be read, or is of something else.
    """
    points = read_points(path)
    if len(points) > TAKEN:
        points = points[np.random.default_rng(1).permutation(len(points))[:TAKEN]]
    shape = sections(board, Resolution.FINE)
    if isinstance(shape, tuple):
        raise InputError(shape[0].text, where=board.name, accepts=shape[0].advice.rstrip("."))
    return laid_on(points, shape)
