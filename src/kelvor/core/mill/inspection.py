"""The block and the programs looked over before anything is handed out: what the block became against the core, floors
of pockets, flat cutters off their pockets, and what a cutter took at once.

:mod:`judging` tells by distances what the ball's way leaves; here it is held against the block that was really cut.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.mill import Mill
from kelvor.core.mill.controller import CutterMoves
from kelvor.core.mill.cut import CELL, CutBlock, Took, way
from kelvor.core.mill.judging import Judged, face_points
from kelvor.core.mill.program import Program
from kelvor.core.mill.stock import Clamped
from kelvor.core.shape.checks.clearance import Footprint, footprints

MM = 1000.0
OFF = 0.001
"""A block lower than its program leaves it by more than this was cut by something else [m]; cells are 2 mm wide."""
STANDS = 0.002
"""One that stands higher by more than this was not cut [m]."""
SPECK = 1e-4
"""What is off over less than this is told of by nobody: an edge between two cells [m²]."""
NOT_CUT, NOT_CUT_SHARE = 0.010, 0.05
"""Left on at most in a hollow tighter than the ball [m], and over how much of a face (common practice, no source)."""
FLOOR = 0.0006
"""A pocket's floor may lie so far off [m]: boxes are bedded in thickened resin (common practice, no source)."""
NEAR = 0.006
"""Points of a face lie no further apart in plan [m]."""
SHALLOW = 0.005
"""So much more than a pass a cutter may take where layers meet on a slope [m] (common practice, no source)."""


def faults(
    clamp: Clamped,
    block: CutBlock,
    files: Sequence[Program],
    moves: Sequence[CutterMoves],
    took: Sequence[Took],
    judged: Judged,
) -> tuple[str, ...]:
    """What is wrong with a face that was cut, a sentence each; none where it may be handed out.

    Parameters
    ----------
    block:
        What was left of the stock.
    took:
        What each program took at once, in their order.
    judged:
        The face by the distances its ball kept.
    """
    from scipy.spatial import cKDTree  # in a worker

    pockets = [_Pocket(clamp, item) for item in footprints(clamp.core.board) if item.side == clamp.side]
    found = [_overloaded(clamp.mill, file, one) for file, one in zip(files, took, strict=True)]
    points = face_points(clamp)
    tree: Any = cKDTree(np.column_stack(points[:2]))
    found += [_against_block(clamp, block, judged, points, pockets)]
    found += [pocket.fault(block, tree, points[2]) for pocket in pockets]
    flats = [way(m)[0] for file, m in zip(files, moves, strict=True) if file.cutter.kind == "flat"]
    if flats:
        found.append(_strayed(clamp, np.concatenate(flats), tree, points, pockets))
    return tuple(words for words in found if words)


def _overloaded(mill: Mill, file: Program, took: Took) -> str:
    """A cutter that took more at once than the mill's passes are deep."""
    most = mill.depth if file.cutter.kind == "ball" else mill.pocket
    if took.depth <= most + SHALLOW:
        return ""
    x, y, z = (value * MM for value in took.place)
    return (
        f"{file.name}, X {x:.0f} Y {y:.0f} Z {z:.0f}: the {file.cutter.words} takes {took.depth * MM:.0f} mm at once, "
        f"{took.width * MM:.0f} mm wide; this mill takes {most * MM:.0f} mm a pass"
    )


def _against_block(
    clamp: Clamped, block: CutBlock, judged: Judged, points: tuple[Array, ...], pockets: Sequence[_Pocket]
) -> str:
    """The block over the core against what the ball's way leaves there."""
    from scipy.ndimage import maximum_filter, minimum_filter  # in a worker

    x, y, z, level, area = points
    free = ~judged.tabs
    for pocket in pockets:
        free &= ~pocket.holds(np.column_stack([x, y]), clamp.mill.flat + CELL)
    off = judged.off
    high, low = (
        CutBlock(block.corner, found(block.heights, 3)).under(x, y) - z for found in (maximum_filter, minimum_filter)
    )
    gone = free & (high < np.minimum(off, 0.0) - OFF)
    stands = free & (level > 0.9) & (low > 2 * np.maximum(off, 0.0) + STANDS)
    for wrong, depth, words in ((gone, -high, "cut into"), (stands, low, "not cut")):
        if float(area[wrong].sum()) > SPECK:
            i = int(np.argmax(np.where(wrong, depth, -np.inf)))
            return f"{_where(clamp, x[i], y[i])}: the block is {words} by {depth[i] * MM:.1f} mm"
    left = free & (off > clamp.mill.proud + clamp.mill.scallop + OFF)
    share = float(area[left].sum() / area.sum())
    worst = int(np.argmax(np.where(free, off, 0.0)))
    if share > NOT_CUT_SHARE or float(off[worst]) > NOT_CUT:
        return (
            f"{_where(clamp, x[worst], y[worst])}: {off[worst] * MM:.1f} mm are left on, and too much on "
            f"{share * 100:.0f} % of the face: it was not cut whole"
        )
    return ""


def _strayed(clamp: Clamped, tips: Array, tree: Any, points: tuple[Array, ...], pockets: Sequence[_Pocket]) -> str:
    """A flat cutter off its pockets that went into the core."""
    off = tips[:, 2] < clamp.top - 1e-5
    for pocket in pockets:
        off &= ~pocket.holds(tips[:, :2], -clamp.mill.flat / 2 + 1e-4)
    tips = tips[off]
    if not len(tips):
        return ""
    x, y, z = points[:3]
    radius = clamp.mill.flat / 2
    worst, place = 0.0, (0.0, 0.0)
    for tip, near in zip(tips, tree.query_ball_point(tips[:, :2], radius), strict=True):
        if near:
            into = np.minimum(radius - np.hypot(x[near] - tip[0], y[near] - tip[1]), z[near] - tip[2])
            i = int(np.argmax(into))
            if into[i] > worst:
                worst, place = float(into[i]), (float(x[near[i]]), float(y[near[i]]))
    return f"{_where(clamp, *place)}: the flat cutter goes {worst * MM:.1f} mm into the core" if worst > OFF / 2 else ""


def _where(clamp: Clamped, x: float, y: float) -> str:
    side = "port" if clamp.hand * y >= 0 else "starboard"
    return f"{clamp.side.capitalize()}, {x * MM:.0f} mm from the core's tail, {abs(y) * MM:.0f} to {side}"


class _Pocket:
    """What is routed for a fitting: where on the mill, and how high its floor lies by the board."""

    def __init__(self, clamp: Clamped, item: Footprint) -> None:
        self.clamp, self.name = clamp, item.name
        corners = (item.corners - np.array([clamp.tail, 0.0])) * [1, clamp.hand]
        self.middle: Array = corners.mean(axis=0)
        self._sides = (corners[1] - corners[0]) / 2, (corners[2] - corners[1]) / 2
        self._half = tuple(float(np.hypot(*side)) for side in self._sides)
        board, core = clamp.core.board, clamp.core
        skin = board.skin.deck if item.side == "deck" else board.skin.bottom
        columns = core.columns
        face = slice(columns.apex, columns.top + 1) if item.side == "deck" else slice(0, columns.apex + 1)
        across = abs(float(self.middle[1]))
        i = int(np.clip(np.searchsorted(core.x, self.middle[0] + clamp.tail), 1, len(core.x) - 1))
        heights = []
        for k in (i - 1, i):
            order = np.argsort(core.y[k, face], kind="stable")
            heights.append(float(np.interp(across, core.y[k, face][order], core.z[k, face][order])))
        surface = float(np.interp(self.middle[0] + clamp.tail, core.x[i - 1 : i + 1], heights))
        self.floor = float(clamp.up(surface)) + skin - item.depth

    def holds(self, places: Array, grown: float) -> np.ndarray:
        """Which places (n, 2) lie in it, grown all round."""
        away = places - self.middle
        found: np.ndarray = np.ones(len(places), bool)
        for side, half in zip(self._sides, self._half, strict=True):
            found &= np.abs(away @ side) / max(half, 1e-9) <= half + grown
        return found

    def fault(self, block: CutBlock, tree: Any, z: Array) -> str:
        """What is wrong with its floor in a block, where foam of the core stands above it: by points of the face in
        plan (a tree) and their heights (n,) [m].
        """
        inset = [max(half - CELL, 0.0) for half in self._half]
        u, v = np.meshgrid(*(np.linspace(-a, a, max(int(a / CELL), 1) * 2 + 1) for a in inset))
        along, across = (side / max(half, 1e-9) for side, half in zip(self._sides, self._half, strict=True))
        # a round cutter leaves the corners
        radius = self.clamp.mill.flat / 2
        corner = np.hypot(
            *(np.maximum(np.abs(w) - (half - radius), 0.0) for w, half in zip((u, v), self._half, strict=True))
        )
        u, v = u[corner < radius - CELL / 2], v[corner < radius - CELL / 2]
        places = self.middle + u[:, None] * along + v[:, None] * across
        away, near = tree.query(places)
        places = places[(away < NEAR) & (z[near] > self.floor + FLOOR)]
        off = block.under(places[:, 0], places[:, 1]) - self.floor
        if not len(off):
            return ""
        deep, high = float(np.median(off)), float(np.quantile(off, 0.9))
        if deep < -FLOOR:
            return f"{self.name}: its pocket is {-deep * MM:.1f} mm too deep"
        if high > FLOOR:
            return f"{self.name}: its pocket is not cut, or {high * MM:.1f} mm too shallow"
        return ""
