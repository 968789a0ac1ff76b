"""The closed surface as a triangle mesh, for export and for checks; never on the live path."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections

WELD = 1e-7
"""Vertices closer than this are one [m]."""


@frozen(eq=False)
class Mesh:
    """Vertices (v, 3) [m] and triangles (t, 3), closed and facing outward."""

    vertices: Array
    triangles: NDArray[np.int64]

    def volume(self) -> float:
        """Enclosed volume by the divergence theorem [m³]."""
        a, b, c = (self.vertices[self.triangles[:, i]] for i in range(3))
        return float(np.einsum("ij,ij->", a, np.cross(b, c)) / 6)


def skin(shape: Sections) -> Mesh:
    """The sections of a board as a surface to look at: not welded, its flat ends open, in a tenth of the time."""
    vertices, quads, _, _ = _quads(shape)
    return Mesh(vertices, np.concatenate([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]]))


def mesh(shape: Sections) -> Mesh:
    """Weld the sections of a board to a closed mesh."""
    vertices, quads, index, sides = _quads(shape)
    n, m = len(index), index.shape[1] // 2
    # the shorter diagonal keeps triangles stout where stations lie close
    d1 = np.sum((vertices[quads[:, 0]] - vertices[quads[:, 2]]) ** 2, axis=1)
    d2 = np.sum((vertices[quads[:, 1]] - vertices[quads[:, 3]]) ** 2, axis=1)
    first = d1 <= d2
    q = quads
    triangles = np.concatenate(
        [
            np.where(first[:, None], q[:, [0, 1, 2]], q[:, [0, 1, 3]]),
            np.where(first[:, None], q[:, [0, 2, 3]], q[:, [1, 2, 3]]),
        ]
    )
    faces = [triangles]
    for station, outward_aft in ((0, True), (n - 1, False)):
        if shape.half_width[station] > WELD:
            loops = (
                sides
                if shape.inner[station] > 0
                else [
                    np.concatenate(
                        [
                            s[station, : shape.columns.top + 1] if k == 0 else s[station, m - 1 - shape.columns.top :]
                            for k, s in enumerate(sides)
                        ]
                    )
                ]
            )
            for loop in loops:
                own = loop if loop.ndim == 1 else loop[station]
                face = _end_face(vertices[own][:, 1:], own)
                faces.append(face[:, ::-1] if outward_aft else face)
    return _welded(vertices, np.concatenate(faces))


def _quads(shape: Sections) -> tuple[Array, NDArray[np.int64], NDArray[np.int64], list[NDArray[np.int64]]]:
    """Vertices of both half-curves of every section, the quads between them, and their indices, whole and by side."""
    n, m = shape.y.shape
    x = np.repeat(shape.x[:, None], m, axis=1)
    port = np.stack([x, shape.y, shape.z], axis=2)
    starboard = (port * [1.0, -1.0, 1.0])[:, ::-1]
    # two half-curves side by side; where there is no notch they are welded along the centreline
    half_curves = np.concatenate([port, starboard], axis=1)
    index = np.arange(n * 2 * m).reshape(n, 2 * m)
    sides = [index[:, :m], index[:, m:]]
    vertices = half_curves.reshape(-1, 3)
    quads = np.concatenate(
        [np.stack([s[:-1, :-1], s[:-1, 1:], s[1:, 1:], s[1:, :-1]], axis=2).reshape(-1, 4) for s in sides]
    )
    if m > shape.columns.top + 1:
        quads = quads[_proper_walls(shape, n, m)]
    return vertices, quads, index, sides


def _proper_walls(shape: Sections, n: int, m: int) -> NDArray[np.bool_]:
    """Which quads are surface: all but a notch's wall where there is no notch."""
    keep = np.ones((2, n - 1, m - 1), bool)
    there = (shape.inner[:-1] > 0) | (shape.inner[1:] > 0)
    keep[0, :, m - 2] = there
    keep[1, :, 0] = there
    return keep.reshape(-1)


def _welded(vertices: Array, triangles: NDArray[np.int64]) -> Mesh:
    _, first, inverse = np.unique(
        np.round(vertices / WELD).astype(np.int64), axis=0, return_index=True, return_inverse=True
    )
    triangles = inverse.reshape(-1)[triangles]
    proper = (
        (triangles[:, 0] != triangles[:, 1])
        & (triangles[:, 1] != triangles[:, 2])
        & (triangles[:, 2] != triangles[:, 0])
    )
    triangles = triangles[proper]
    used, compact = np.unique(triangles, return_inverse=True)
    return Mesh(vertices[first][used], compact.reshape(-1, 3))


def _end_face(points: Array, index: NDArray[np.int64]) -> NDArray[np.int64]:
    """Triangles of a flat end, counterclockwise in (y, z), by clipping the stoutest ear each time."""
    keep = [0]
    for i in range(1, len(points)):
        if np.hypot(*(points[i] - points[keep[-1]])) > WELD:
            keep.append(i)
    if np.hypot(*(points[keep[-1]] - points[0])) <= WELD:
        keep.pop()
    ring = keep
    triangles: list[tuple[int, int, int]] = []
    quality = [_ear_quality(points, ring, i) for i in range(len(ring))]
    while len(ring) > 3:
        best = int(np.argmax(quality))
        k = len(ring)
        triangles.append((ring[best - 1], ring[best], ring[(best + 1) % k]))
        ring = ring[:best] + ring[best + 1 :]
        quality = quality[:best] + quality[best + 1 :]
        for near in ((best - 1) % len(ring), best % len(ring)):
            quality[near] = _ear_quality(points, ring, near)
    triangles.append((ring[0], ring[1], ring[2]))
    found: NDArray[np.int64] = index[np.array(triangles)]
    return found


def _ear_quality(points: Array, ring: list[int], i: int) -> float:
    """How stout the ear at `i` is: twice its area over its longest side squared; -1 where it is no ear."""
    k = len(ring)
    ia, ib, ic = ring[i - 1], ring[i], ring[(i + 1) % k]
    a, b, c = points[ia], points[ib], points[ic]
    area = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
    if area <= 1e-14:
        return float(area) - 1.0
    others = points[[j for j in ring if j not in (ia, ib, ic)]]
    if len(others):
        inside = np.ones(len(others), bool)
        for p, q in ((a, b), (b, c), (c, a)):
            inside &= (q[0] - p[0]) * (others[:, 1] - p[1]) - (q[1] - p[1]) * (others[:, 0] - p[0]) >= -1e-14
        if inside.any():
            return -0.5
    longest = max(np.sum((b - a) ** 2), np.sum((c - b) ** 2), np.sum((a - c) ** 2))
    return float(area / longest)
