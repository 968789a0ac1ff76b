"""What the solid view shows: surfaces and lines of the board, its fittings, its water and a section, as arrays."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.clearance import footprints
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.shape.surface.sections import Resolution, sections, sections_at
from kelvor.core.shape.surface.surface import Mesh, mesh, skin
from kelvor.core.tank.floating.posture import PostureFloat

Array = NDArray[np.float64]


@frozen(eq=False)
class SolidMesh:
    """Vertices (n, 3) [m] and triangles (t, 3)."""

    vertices: Array
    triangles: NDArray[np.int64]


def board_solid(board: Board, *, moving: bool) -> Mesh | None:
    """The board's surface, coarser while the hand moves; None where no board results."""
    shape = sections(board, Resolution.COARSE if moving else Resolution.NORMAL)
    return None if isinstance(shape, tuple) else skin(shape) if moving else mesh(shape)


def laid_solid(own: Geometry, other: Geometry, slid: float) -> SolidMesh | None:
    """Another board in the drawing of one's own: its tail `slid` [m] ahead, both on their base lines; None where none
    results.
    """
    found = board_solid(other.board, moving=False)
    if found is None:
        return None
    x = found.vertices[:, 0]
    lies = other.base_height + other.board.base.slope * x
    rises = own.base_height + own.board.base.slope * (x + slid)
    moved = np.stack([x + slid, found.vertices[:, 1], found.vertices[:, 2] - lies + rises], axis=1)
    return SolidMesh(moved, found.triangles)


def fins_solid(measured: Geometry) -> SolidMesh:
    """All fins as thin lens-shaped blades."""
    board = measured.board
    vertices: list[Array] = []
    triangles: list[NDArray[np.int64]] = []
    first = 0
    for box in board.fittings.fin_boxes:
        lead, trail = box.fin.template(15)
        x0 = box.at.x(board.length, board.mast_x)
        for side in (0,) if box.offset == 0 else (1, -1):
            share = np.array([0.0, 0.3, 1.0])
            thick = np.array([0.0, 0.5, 0.0]) * box.fin.thickness
            along = trail[:, None, 0] + (lead - trail)[:, None, 0] * (1 - share)
            down = np.repeat(lead[:, None, 1], 3, axis=1)
            chord = np.maximum((lead - trail)[:, None, 0], 0.0)
            faces = []
            for sign in (1.0, -1.0):
                across = sign * thick * chord
                y = side * (box.offset - along * np.sin(box.toe) + down * np.sin(box.cant)) + across
                keel = float(np.interp(x0 + box.fin.base / 2, measured.shape.x, measured.shape.keel))
                faces.append(
                    np.stack([x0 + along * np.cos(box.toe), y, keel + 0.002 - down * np.cos(box.cant)], axis=2)
                )
            for face in faces:
                n, m, _ = face.shape
                index = first + np.arange(n * m).reshape(n, m)
                quads = np.stack([index[:-1, :-1], index[:-1, 1:], index[1:, 1:], index[1:, :-1]], axis=2).reshape(
                    -1, 4
                )
                vertices.append(face.reshape(-1, 3))
                triangles.append(np.concatenate([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]]))
                first += n * m
    if not vertices:
        return SolidMesh(np.zeros((0, 3)), np.zeros((0, 3), np.int64))
    return SolidMesh(np.concatenate(vertices), np.concatenate(triangles))


def fitting_lines(measured: Geometry) -> list[Array]:
    """Footprints drawn on deck and bottom."""
    shape = measured.shape
    strands = []
    for item in footprints(measured.board):
        corners = np.concatenate([item.corners, item.corners[:1]])
        edges = np.concatenate([np.linspace(a, b, 8) for a, b in zip(corners[:-1], corners[1:], strict=True)])
        z = np.empty(len(edges))
        for k, (x, y) in enumerate(edges):
            i = int(np.argmin(np.abs(shape.x - x)))
            columns = shape.columns
            if item.side == "deck":
                part = slice(columns.apex, columns.top + 1)
                z[k] = np.interp(abs(y), shape.y[i, part][::-1], shape.z[i, part][::-1]) + 0.0012
            else:
                part = slice(0, columns.apex + 1)
                z[k] = np.interp(abs(y), shape.y[i, part], shape.z[i, part]) - 0.0012
        strands.append(np.column_stack([edges, z]))
    return strands


def section_line(live: Live, x: float) -> list[Array]:
    """The section at a place as a closed line, a hair outside the surface."""
    inside = min(max(x, 1e-3), live.board.length - 1e-3)
    found = sections_at(live.board, np.array([inside]), Resolution.NORMAL)
    if isinstance(found, tuple):
        return []
    y, z = found.y[0], found.z[0]
    middle = float((z.min() + z.max()) / 2)
    port = np.column_stack([np.full(len(y), inside), y * 1.004, middle + (z - middle) * 1.02])
    starboard = port[::-1] * [1.0, -1.0, 1.0]
    return [np.concatenate([port, starboard, port[:1]])]


def water_sheet(live: Live, afloat: PostureFloat) -> SolidMesh:
    """The still water around the board as one rectangle."""
    plane, board = afloat.level.plane, live.board
    aside = 0.5 * float(live.geometry.shape.half_width.max()) + 0.16 * board.length
    corners = np.array(
        [
            (x, y, plane.depth + plane.pitch * x)
            for x, y in (
                (-0.05 * board.length, -aside),
                (1.05 * board.length, -aside),
                (1.05 * board.length, aside),
                (-0.05 * board.length, aside),
            )
        ]
    )
    return SolidMesh(corners, np.array([[0, 1, 2], [0, 2, 3]]))
