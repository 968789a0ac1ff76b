"""A scan of a made board laid onto its design: moved as a rigid body, and how far every point lies from the surface.

Principal axes with all four ways round, then least squares of the distances along the surface's normals (Chen &
Medioni 1992, from memory) to the nearest place of its triangles, without what is further off than the rest. A surface
is known by its triangles, found through points strewn over them: the nearest point alone would be millimetres off at a
rail.
"""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.shape.surface.surface import mesh

UNITS = {"m": 1.0, "cm": 0.01, "mm": 0.001, "inches": 0.0254}
"""What a scan may be written in, in metres."""
LIKE = 0.06
"""A scan's length is that of the board to this share, or it is of something else."""
STREWN = 0.005
"""Points are strewn over the triangles this close [m]."""
NEAREST, MORE, DOUBT, FAR = 3, 64, 0.00003, 0.0004
"""Points whose triangles are looked at for each point, and how many where it would lie so far beside them or off them
[m].
"""
Way = Literal["as it is", "upside down", "nose for tail, upside down", "nose for tail"]
"""How else a scan could lie."""
WAYS: dict[tuple[int, int], Way] = {
    (1, 1): "as it is",
    (1, -1): "upside down",
    (-1, 1): "nose for tail, upside down",
    (-1, -1): "nose for tail",
}
FIRST_ROUNDS = 12
FEW, MANY = 800, 20_000
"""Points with which the way round is chosen, and the scan is laid on."""
ROUNDS = 40
STILL = 1e-7
"""A move smaller than this ends it [m, rad]."""
APART = 0.010
"""Another board lies half of its points further than this from the design [m]."""
MADE, MADE_ENDS = 0.004, 0.010
"""Nine tenths of a board made by hand lie within this of its design, and its ends and widest place within that (common
practice, no source) [m]; beyond, it may be another.
"""
AS_CLOSE = 1.15, 0.0001
"""Another way round lies as closely where its mean distance is no more than so many times as much, or so much more [m]
(judgement).
"""
DENT, BUMP = -0.001, 0.001
"""Told of beyond this [m]."""
LEVEL = 0.8
"""Places are level where their normals point upwards by more than this."""
SPREAD = 0.05
"""Places told of are at least so far apart [m]."""
TOLD = 8
LONGEST = 5_000_000
"""No scan has more points."""


@frozen
class ScanDeviation:
    """Where the made board lies off its design: from the tail, to port, height [m], and how far off [m]."""

    x: float
    y: float
    z: float
    off: float


@frozen(eq=False)
class Scanned:
    """A scan on its design.

    Attributes
    ----------
    unit:
        What it was written in.
    rotation, shift:
        What took it there: R p + t, in metres.
    points, off:
        Its points on the board (n, 3) and how far outside the surface they lie (n,) [m].
    usual, most:
        Nine tenths lie within `usual`; the farthest at `most` [m].
    twist:
        By which nose and tail are turned against one another, port side up at the nose [rad].
    places:
        Dents and bumps, the deepest first.
    also:
        Other ways round in which it lies as closely, and the mean distance then and as it is laid [m].
    size, designed:
        Length and width of the scan and of the design [m].
    """

    unit: str
    rotation: Array
    shift: Array
    points: Array
    off: Array
    usual: float
    most: float
    twist: float
    places: tuple[ScanDeviation, ...]
    also: tuple[tuple[Way, float, float], ...]
    size: tuple[float, float]
    designed: tuple[float, float]

    @property
    def another(self) -> bool:
        """Whether it may be of another board."""
        return self.usual > MADE or any(abs(a - b) > MADE_ENDS for a, b in zip(self.size, self.designed, strict=True))


class Surface:
    """A design's triangles, and the nearest place on them of any point."""

    def __init__(self, shape: Sections) -> None:
        from scipy.spatial import cKDTree  # in a worker

        body = mesh(shape)
        corners = body.vertices[body.triangles]
        normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        area = np.linalg.norm(normal, axis=1)
        keep = area > 1e-14
        self.corners, self.normal = corners[keep], normal[keep] / area[keep, None]
        points, which = _strewn(self.corners)
        self._which = which
        self._tree: Any = cKDTree(points)
        self.points = points

    def off(self, points: Array, *, careful: bool = False) -> tuple[Array, Array]:
        """How far outside points (n, 3) lie (n,) [m], and the outward normal where they come nearest (n, 3).

        `careful` leaves none to a triangle next to its own: a few in ten thousand, where slivers meet.
        """
        off, normal, beside = self._among(points, NEAREST)
        if careful:
            some = np.flatnonzero((beside > DOUBT) | (np.abs(off) > FAR))
            off[some], normal[some], _ = self._among(points[some], MORE)
        return off, normal

    def _among(self, points: Array, count: int) -> tuple[Array, Array, Array]:
        """The same among the triangles of so many of the nearest points, and how far beside the nearest of them a point
        lies (n,) [m].
        """
        _, near = self._tree.query(points, k=count, workers=2)
        which = self._which[near]  # (n, k)
        square = np.full(len(points), np.inf)
        off, normal, beside = np.zeros(len(points)), np.zeros((len(points), 3)), np.zeros(len(points))
        for k in range(count):
            triangles = which[:, k]
            new = np.flatnonzero((which[:, :k] != triangles[:, None]).all(axis=1)) if k else np.arange(len(points))
            triangles = triangles[new]
            away = points[new] - _nearest(points[new], self.corners[triangles])
            far = np.einsum("ij,ij->i", away, away)
            closer = far < square[new]
            at, triangles, away, far = new[closer], triangles[closer], away[closer], far[closer]
            side = np.einsum("ij,ij->i", away, self.normal[triangles])
            off[at] = np.sqrt(far) * np.where(side >= 0, 1.0, -1.0)
            normal[at], square[at] = self.normal[triangles], far
            beside[at] = np.sqrt(np.maximum(far - side**2, 0.0))
        return off, normal, beside


def _strewn(corners: Array) -> tuple[Array, np.ndarray]:
    """Points over triangles (t, 3, 3), no further apart than `STREWN`, and which triangle each is of."""
    longest = np.max([np.linalg.norm(corners[:, i] - corners[:, i - 1], axis=1) for i in range(3)], axis=0)
    parts = np.clip(np.ceil(longest / STREWN).astype(int), 1, 40)
    points, which = [], []
    for n in np.unique(parts):
        some = np.flatnonzero(parts == n)
        i, j = np.divmod(np.arange((n + 1) ** 2), n + 1)
        inside = i + j <= n
        u, v = i[inside] / n, j[inside] / n
        # a little inwards, so that a corner's nearest triangle is its own
        u, v = u * 0.98 + 0.01 * (1 / 3), v * 0.98 + 0.01 * (1 / 3)
        w = 1 - u - v
        a, b, c = (corners[some, k][:, None] for k in range(3))
        points.append((a * w[:, None] + b * u[:, None] + c * v[:, None]).reshape(-1, 3))
        which.append(np.repeat(some, len(u)))
    return np.concatenate(points), np.concatenate(which)


def _nearest(points: Array, corners: Array) -> Array:
    """The nearest places of triangles (n, 3, 3) to points (n, 3), in the plane or on an edge (Ericson 2005, from
    memory: the least of the foot and the three edges).
    """
    a, b, c = corners[:, 0], corners[:, 1], corners[:, 2]
    ab, ac = b - a, c - a
    normal = np.cross(ab, ac)
    normal /= np.maximum(np.linalg.norm(normal, axis=1), 1e-18)[:, None]
    foot = points - np.einsum("ij,ij->i", points - a, normal)[:, None] * normal
    inside = np.ones(len(points), bool)
    best, square = foot, np.full(len(points), np.inf)
    for start, end in ((a, b), (b, c), (c, a)):
        way = end - start
        inside &= np.einsum("ij,ij->i", np.cross(way, foot - start), normal) >= 0
        t = np.einsum("ij,ij->i", points - start, way) / np.maximum(np.einsum("ij,ij->i", way, way), 1e-18)
        on = start + np.clip(t, 0.0, 1.0)[:, None] * way
        far = np.einsum("ij,ij->i", points - on, points - on)
        closer = far < square
        best = np.where(closer[:, None], on, best)
        square = np.where(closer, far, square)
    found: Array = np.where(inside[:, None], foot, best)
    return found


def laid_on(points: Array, shape: Sections) -> Scanned:
    """A scan (n, 3) in whatever it is written in, laid on the design it was made of.

    Raises
    ------
    InputError
        When it is no scan of this board: too few points, another length in any unit, or far from it everywhere.
    """
    given = np.asarray(points, float)
    given = given[np.isfinite(given).all(axis=1)]
    if len(given) < 200:
        raise InputError(f"{len(given)} points are too few", where="Scan", accepts="200 or more")
    unit, scale = _unit(given, shape)
    cloud = given * scale
    surface = Surface(shape)
    rng = np.random.default_rng(1)
    (_, _, rotation, shift), *others = _ways_round(cloud[rng.permutation(len(cloud))[:FEW]], surface)
    some = cloud[rng.permutation(len(cloud))[:MANY]]
    rotation, shift = _closer(some, surface, rotation, shift, ROUNDS)
    there = cloud @ rotation.T + shift
    off, normal = surface.off(there, careful=True)
    half = float(np.median(np.abs(off)))
    if half > APART:
        raise InputError(
            f"half of it lies more than {half * 1000:.0f} mm from the design",
            where="Scan",
            accepts="A scan of this board, whole, with nothing else in it",
        )
    away = np.abs(off)
    usual, most = float(np.quantile(away, 0.9)), float(away.max())
    twist = _twist(there, off, normal[:, 2], shape)
    best, more = AS_CLOSE
    few = there[rng.permutation(len(there))[:FEW]]
    laid = _closeness(surface, few)
    also = tuple((way, score, laid) for way, score, _, _ in others if score <= max(best * laid, laid + more))
    size, designed = ((float(np.ptp(p[:, 0])), float(np.ptp(p[:, 1]))) for p in (there, surface.points))
    return Scanned(unit, rotation, shift, there, off, usual, most, twist, _places(there, off), also, size, designed)


def _unit(points: Array, shape: Sections) -> tuple[str, float]:
    """What a scan is written in, by its length."""
    length = float(shape.x[-1] - shape.x[0])
    axis = np.linalg.svd(points[:: max(len(points) // FEW, 1)] - points.mean(axis=0), full_matrices=False)[2][0]
    long = float(np.ptp(points @ axis))
    for unit, scale in UNITS.items():
        if abs(long * scale / length - 1) < LIKE:
            return unit, scale
    raise InputError(
        f"it is {long:.4g} long, the board {length * 1000:.0f} mm",
        where="Scan",
        accepts="A scan of this board, whole, in m, cm, mm or inches",
    )


def _ways_round(points: Array, surface: Surface) -> list[tuple[Way, float, Array, Array]]:
    """The four ways to lay principal axes on principal axes, the closest after some rounds first: what it is against
    that one, its mean distance [m], its rotation and shift.
    """
    theirs, ours = _axes(points), _axes(surface.points[:: max(len(surface.points) // FEW, 1)])
    found: list[tuple[tuple[int, int], float, Array, Array]] = []
    for signs in ((1, 1), (1, -1), (-1, 1), (-1, -1)):
        turned = ours.copy()
        turned[0] *= signs[0]
        turned[1] *= signs[1]
        turned[2] = np.cross(turned[0], turned[1])
        rotation = turned.T @ theirs
        there = points @ rotation.T
        shift = _middle(surface.points) - _middle(there)
        rotation, shift = _closer(points, surface, rotation, shift, FIRST_ROUNDS)
        found.append((signs, _closeness(surface, points @ rotation.T + shift), rotation, shift))
    found.sort(key=lambda way: way[1])
    (x, y), *_ = found[0]
    return [(WAYS[signs[0] * x, signs[1] * y], score, rotation, shift) for signs, score, rotation, shift in found]


def _closeness(surface: Surface, points: Array) -> float:
    """Mean distance of points on their surface, without the farthest tenth [m]."""
    off = np.sort(np.abs(surface.off(points)[0]))
    return float(np.mean(off[: int(0.9 * len(off))]))


def _middle(points: Array) -> Array:
    """The middle of the box around points [m]."""
    found: Array = (points.max(axis=0) + points.min(axis=0)) / 2
    return found


def _axes(points: Array) -> Array:
    """Principal axes, the longest first, as rows of a right-handed frame."""
    found: Array = np.linalg.svd(points - points.mean(axis=0), full_matrices=False)[2]
    found[2] = np.cross(found[0], found[1])
    return found


def _closer(points: Array, surface: Surface, rotation: Array, shift: Array, rounds: int) -> tuple[Array, Array]:
    """Rounds of least squares of the distances along the normals, without what is far off."""
    for _ in range(rounds):
        there = points @ rotation.T + shift
        off, normal = surface.off(there)
        spread = 1.4826 * float(np.median(np.abs(off - np.median(off))))
        kept = np.abs(off - np.median(off)) < 3 * max(spread, 1e-5)
        arms = np.cross(there[kept], normal[kept])
        move = np.linalg.lstsq(np.concatenate([arms, normal[kept]], axis=1), -off[kept], rcond=None)[0]
        turn = _turned(move[:3])
        rotation, shift = turn @ rotation, turn @ shift + move[3:]
        if float(np.abs(move).max()) < STILL:
            break
    return rotation, shift


def _turned(vector: Array) -> Array:
    """The rotation about a vector by its length (Rodrigues)."""
    angle = float(np.linalg.norm(vector))
    if angle < 1e-15:
        return np.eye(3)
    x, y, z = vector / angle
    cross = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    found: Array = np.eye(3) + np.sin(angle) * cross + (1 - np.cos(angle)) * cross @ cross
    return found


def _twist(points: Array, off: Array, level: Array, shape: Sections) -> float:
    """How far nose and tail are turned against one another [rad]: how far level places lie too high, over (1, x, y,
    xy).

    `level` is the upward part of the normals.
    """
    length = float(shape.x[-1] - shape.x[0])
    flat = np.abs(level) > LEVEL
    x, y = (points[flat, 0] - shape.x[0]) / length - 0.5, points[flat, 1]
    up = off[flat] / level[flat]
    kept = np.abs(up) < 4 * max(1.4826 * float(np.median(np.abs(up))), 1e-5)
    table = np.stack([np.ones_like(x), x, y, x * y], axis=1)[kept]
    return float(np.arctan(np.linalg.lstsq(table, up[kept], rcond=None)[0][3]))


def _places(points: Array, off: Array) -> tuple[ScanDeviation, ...]:
    """Dents and bumps, each by the middle of what lies about its farthest point."""
    from scipy.spatial import cKDTree  # in a worker

    tree: Any = cKDTree(points)
    found: list[ScanDeviation] = []
    for i in np.argsort(-np.abs(off)):
        if not (off[i] < DENT or off[i] > BUMP) or len(found) == TOLD:
            break
        if all(np.linalg.norm(points[i] - [p.x, p.y, p.z]) > SPREAD for p in found):
            near = tree.query_ball_point(points[i], 0.008)
            if len(near) >= 3:
                x, y, z = points[i]
                found.append(ScanDeviation(float(x), float(y), float(z), float(np.median(off[near]))))
    return tuple(p for p in found if p.off < DENT or p.off > BUMP)
