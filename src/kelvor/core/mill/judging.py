"""The cut core against the wanted one: gouges, what is left on, and where.

A ball that has run past a point of the face left on it what lies between the point and the nearest place of its
centre, less its radius; so distances are true along the normal on rails too, where differences of heights are not.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.mill import Mill
from kelvor.core.base.values import frozen
from kelvor.core.mill.paths import TAB_LENGTH
from kelvor.core.mill.stock import Clamped

GOUGE = 0.0001
"""A cut deeper than this into the core is told of [m]."""
OVER = 0.0005
"""So is what is left on beyond proud and scallop [m] (what a sanding block takes off in passing: common practice, no
source).
"""
ALONG = 0.004
"""Sections that are looked at are so far apart [m]."""
APART = 0.06
"""Places told of are at least so far apart [m]."""
TOLD = 6
"""So many places are told of a face at most."""


@frozen
class ToleranceSpot:
    """A place out of tolerance: from the core's tail and to port [m], how far off (below nothing: cut away) [m], and
    why.
    """

    side: str
    x: float
    y: float
    off: float
    why: str


@frozen(eq=False)
class Judged:
    """One face as it was cut.

    Attributes
    ----------
    x, y, off:
        Points of the face (n,) [m], and what was left on or cut away there [m].
    tabs:
        Which points tabs hold (n,).
    worst_gouge, worst_left, usual:
        Deepest cut into the core, most that was left on but for the tabs, and what was left on nine tenths of it at
        most [m].
    spots:
        Where it is out of tolerance, the worst first.
    faults:
        Why it is not handed out besides, a sentence each: of the block, its pockets, and what was taken at once.
    """

    side: str
    x: Array
    y: Array
    off: Array
    tabs: np.ndarray
    worst_gouge: float
    worst_left: float
    usual: float
    spots: tuple[ToleranceSpot, ...]
    faults: tuple[str, ...] = ()

    @property
    def safe(self) -> bool:
        """Whether nothing was cut away from the core, all was cut, and nothing was asked too much of."""
        return self.worst_gouge <= GOUGE and not self.faults


def judge_face(clamp: Clamped, centres: Array, mill: Mill) -> Judged:
    """What a ball whose tip went through places (n, 3) in the mill's frame left of a face [m]."""
    from scipy.spatial import cKDTree  # in a worker

    x, y, z, level, _ = face_points(clamp)
    radius = mill.ball / 2
    tree: Any = cKDTree(centres + np.array([0.0, 0.0, radius]))
    off = tree.query(np.column_stack([x, y, z]))[0] - radius
    tabs = _on_tabs(clamp, mill, x, y, z)
    free = off[~tabs]
    allowed = mill.proud + mill.scallop + OVER
    spots = _spots(clamp, mill, x, y, np.where(tabs, 0.0, off), level, allowed)
    return Judged(
        clamp.side,
        x,
        y,
        off,
        tabs,
        float(max(-off.min(), 0.0)),
        float(free.max()),
        float(np.quantile(free, 0.9)),
        spots,
    )


def _on_tabs(clamp: Clamped, mill: Mill, x: Array, y: Array, z: Array) -> np.ndarray:
    """Which points of a face tabs hold: near the rim."""
    core = clamp.core
    along = core.x - clamp.tail
    length = float(along[-1])
    apex = core.columns.apex
    wide = TAB_LENGTH / 2 + mill.ball
    beside = np.interp(x, along, core.y[:, apex]) - np.abs(y)
    over = z - np.interp(x, along, np.asarray(clamp.up(core.z[:, apex])))
    near = (np.abs(x[:, None] - mill.tab_places(length)) < wide).any(axis=1)
    held: np.ndarray = near & (beside < mill.ball) & (over < mill.tab / 2 + mill.ball / 2)
    return held


def face_points(clamp: Clamped) -> tuple[Array, Array, Array, Array, Array]:
    """Points of the face (n,) in the mill's frame, how level the face is there (the normal's upward part), and how much
    of it each stands for [m²].
    """
    core, c = clamp.core, clamp.core.columns
    columns = np.arange(c.apex, c.top + 1) if clamp.side == "deck" else np.arange(c.apex + 1)
    x = core.x - clamp.tail
    keep = np.concatenate([[True], np.diff(np.floor(x / ALONG)) > 0])
    y, z = core.y[keep][:, columns], np.asarray(clamp.up(core.z[keep][:, columns]))
    middle = (y[:, 1:] + y[:, :-1]) / 2, (z[:, 1:] + z[:, :-1]) / 2
    run = np.hypot(np.diff(y, axis=1), np.diff(z, axis=1))
    level = np.abs(np.diff(y, axis=1)) / np.maximum(run, 1e-9)
    there = (run > 1e-5).ravel()
    places = np.repeat(x[keep][:, None], middle[0].shape[1], axis=1)
    wide = np.gradient(x[keep])[:, None] * run
    px, py, pz, pl, pa = (a.ravel()[there] for a in (places, middle[0], middle[1], level, wide))
    return np.tile(px, 2), np.concatenate([py, -py]), np.tile(pz, 2), np.tile(pl, 2), np.tile(pa, 2)


def _spots(
    clamp: Clamped, mill: Mill, x: Array, y: Array, off: Array, level: Array, allowed: float
) -> tuple[ToleranceSpot, ...]:
    """The worst places, each told once."""
    length = float(clamp.core.x[-1] - clamp.core.x[0])
    wrong = np.flatnonzero((off < -GOUGE) | (off > allowed))
    wrong = wrong[np.argsort(-np.abs(off[wrong]))]
    spots: list[ToleranceSpot] = []
    for i in wrong:
        if all(np.hypot(x[i] - s.x, abs(y[i]) - abs(s.y)) > APART for s in spots):
            why = _why(mill, x[i], off[i], level[i], length)
            spots.append(ToleranceSpot(clamp.side, float(x[i]), clamp.hand * float(y[i]), float(off[i]), why))
        if len(spots) == TOLD:
            break
    return tuple(spots)


def _why(mill: Mill, x: float, off: float, level: float, length: float) -> str:
    """Why something is left on, or cut away."""
    if off < 0:
        return "cut into the core"
    if min(x, length - x) < mill.ball:
        return "at the very end: by hand"
    return "steep: sand it" if level < 0.5 else "hollow tighter than the cutter: by hand"


def dowel_step(clamp: Clamped, play: float) -> float:
    """The greatest step on a rail that dowels with so much play in their holes leave [m]."""
    low, high = clamp.dowels
    length = float(clamp.core.x[-1] - clamp.core.x[0])
    middle = (low + high) / 2
    return step_of_play(play, high - low, max(middle, length - middle))


def step_of_play(play: float, apart: float, away: float) -> float:
    """What dowels `apart` with so much play leave at a place so far away from their middle: (play/2) · away/(apart/2)
    [m].
    """
    return play / 2 * away / (apart / 2)
