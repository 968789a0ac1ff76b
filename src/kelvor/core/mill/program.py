"""Programs for a mill in plain RS-274: millimetres, absolute places, straight moves, one file for each cutter and face.

Every line says its G word, so that readers without a memory of the last one read it right too.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.mill import Cutter
from kelvor.core.base.values import frozen
from kelvor.core.mill.paths import Path, count
from kelvor.core.mill.stock import SIDES, Clamped
from kelvor.core.register.stamp import Stamp

MM = 1000.0
STRAIGHT = 0.00004
"""Places that lie this close to a straight move are left out [m]."""
HOP = 1.6
"""Runs no further apart than so many steps are joined at depth; what that would cut into, the simulated cut tells."""


@frozen
class Program:
    """One file for the mill: its name, the face and cutter it is for, and its text."""

    name: str
    side: str
    cutter: Cutter
    text: str


def simplified_runs(runs: Sequence[Array], within: float = STRAIGHT) -> list[Array]:
    """Runs (n, 3) without the places that lie `within` a straight move between others [m] (Douglas & Peucker 1973), all
    of them at once.
    """
    points = np.concatenate(runs)
    stops = np.cumsum([len(run) for run in runs])
    keep = np.zeros(len(points), bool)
    keep[stops - 1] = keep[np.concatenate([[0], stops[:-1]])] = True
    kept = np.flatnonzero(keep)
    begin, end = kept[:-1], kept[1:]
    while True:
        some = end - begin > 1
        begin, end = begin[some], end[some]
        if not len(begin):
            break
        inner = end - begin - 1
        first = np.cumsum(inner) - inner
        which = np.repeat(np.arange(len(begin)), inner)
        at = np.arange(len(which)) - first[which] + begin[which] + 1
        way = points[end] - points[begin]
        off = points[at] - points[begin[which]]
        share = np.einsum("ij,ij->i", off, way[which]) / np.maximum(np.einsum("ij,ij->i", way, way), 1e-18)[which]
        off -= np.clip(share, 0.0, 1.0)[:, None] * way[which]
        far = np.einsum("ij,ij->i", off, off)
        most = np.maximum.reduceat(far, first)
        open_ = most > within**2
        # the first of the farthest places of each stretch
        hits = np.flatnonzero(far == most[which])
        middle = at[hits[np.searchsorted(which[hits], np.arange(len(begin)))]]
        keep[middle[open_]] = True
        begin, end, middle = begin[open_], end[open_], middle[open_]
        begin, end = np.concatenate([begin, middle]), np.concatenate([middle, end])
    return [run[part] for run, part in zip(runs, np.split(keep, stops[:-1]), strict=True)]


def programs(clamp: Clamped, paths: tuple[Path, ...], stamp: Stamp) -> tuple[Program, ...]:
    """The files of one face, numbered in the order of the work, without gaps over both."""
    first = 1 if clamp.side == SIDES[0] else 1 + count(clamp, SIDES[0])
    return tuple(
        Program(
            f"{first + i}-{clamp.side}-{path.cutter.kind}.nc",
            clamp.side,
            path.cutter,
            "\n".join(_lines(clamp, path, stamp)) + "\n",
        )
        for i, path in enumerate(paths)
    )


def _lines(clamp: Clamped, path: Path, stamp: Stamp) -> Iterator[str]:
    mill, stock = clamp.mill, clamp.stock
    high = (clamp.height + mill.safe) * MM
    yield f"({stamp.in_ascii.replace('(', '[').replace(')', ']')})"
    cutter = f"{path.cutter.words}, cuts {path.cutter.cuts * MM:.0f}, sticks out {mill.sticks_out * MM:.0f}"
    yield f"({clamp.side} up, {cutter})"
    yield (
        f"(stock {stock.length * MM:.1f} x {stock.width * MM:.1f} x {clamp.height * MM:.1f}, "
        f"left proud {mill.proud * MM:.2f})"
    )
    yield "(X 0 at the core's tail, Y 0 on the centreline, Z 0 on the table)"
    yield f"(dowels on the centreline at X {clamp.dowels[0] * MM:.2f} and {clamp.dowels[1] * MM:.2f})"
    yield "(air cut first, hand on the stop)"
    yield from ("G21", "G90", f"G0 Z{high:.3f}", f"M3 S{mill.spindle:.0f}")
    feed, plunge = mill.feed * MM, mill.plunge * MM
    here: Array | None = None
    for run, points in zip(path.runs, simplified_runs([run.points for run in path.runs]), strict=True):
        if here is None or not run.joins or not _joins(here, points[0], mill.step):
            if here is not None:
                yield f"G0 X{here[0] * MM:.3f} Y{here[1] * MM:.3f} Z{high:.3f}"
            yield f"({run.words})"
            yield f"G0 X{points[0][0] * MM:.3f} Y{points[0][1] * MM:.3f} Z{high:.3f}"
            yield _move(points[0], plunge)
        else:
            yield _move(points[0], feed)
        here = points[0]
        for point in points[1:]:
            yield _move(point, feed)
            here = point
    if here is not None:
        yield f"G0 X{here[0] * MM:.3f} Y{here[1] * MM:.3f} Z{high:.3f}"
    yield from ("M5", "M30")


def _joins(here: Array, there: Array, step: float) -> bool:
    """Whether the next run begins so near, and as high, that the cutter stays down."""
    beside = float(np.hypot(*(there[:2] - here[:2])))
    return beside < HOP * step and abs(float(there[2] - here[2])) < step


def _move(point: Array, feed: float) -> str:
    return f"G1 X{point[0] * MM:.3f} Y{point[1] * MM:.3f} Z{point[2] * MM:.3f} F{feed:.0f}"
