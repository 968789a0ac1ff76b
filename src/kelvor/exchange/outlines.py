"""Outlines from DXF and SVG: the one curve that is a board's outline, as widths along the board.

Sizes and counts are looked at before anything is drawn out into points, and what
goes beyond is an error: a board read from half of its curves looks like a board.
"""

from __future__ import annotations

import io
import logging
import math
import re
from collections import Counter, deque
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import FOOT, INCH
from kelvor.core.new_board.readings import Reading
from kelvor.exchange.dxf import STAMP_LAYER
from kelvor.exchange.readings import ReadIn
from kelvor.exchange.svg_checks import checked_svg
from kelvor.files import read_text, refusal_reason, regular

FLATTEN = 0.2
"""Curves become chords within this distance [mm]."""
STRAIGHT = 0.004
"""A side that keeps this close to straight, as a share of the length, is a centreline: half a board was drawn."""
UNEVEN = 2.0
"""Sides that differ by more than this are told of [mm]."""
PLACES = 41
INSIDE = 0.05
"""Widths of the two ends are taken this far inside them [mm]."""
TIP = 12.0
"""An end narrower than this, so close to it, is a tip [mm]."""
MEET = 0.5
"""Ends of curves that lie this close to one another are joined [mm]."""
MOST_CURVES = 20_000
MOST_POINTS = 200_000
"""Of all curves together."""
LARGEST = 100_000.0
"""No curve of a board's drawing is larger than this [mm]."""
FARTHEST = 1e8
"""Nor lies it farther from the drawing's zero [mm]."""
DOTS_PER_MM = 96 / 25.4
"""Of SVG user units without a unit of their own (CSS Values and Units 3, § 5.2: 96 px are one inch)."""
DXF_UNITS = {
    1: ("inches", INCH * 1e3),
    2: ("feet", FOOT * 1e3),
    4: ("millimetres", 1.0),
    5: ("centimetres", 10.0),
    6: ("metres", 1000.0),
    14: ("decimetres", 100.0),
}
"""$INSUNITS of the DXF reference that boards are drawn in: words, and millimetres each."""
CURVES = "LWPOLYLINE POLYLINE LINE ARC CIRCLE ELLIPSE SPLINE"

Curves = list[Array]
Told = Callable[[str], None]
T = TypeVar("T")


def read_outline(path: Path, *, nose_first: bool = False, told: Told = lambda words: None) -> ReadIn:
    """The outline in a DXF or SVG file; the tail lies at the left (or at the foot) unless `nose_first`.

    `told` hears how far it is.

    Raises
    ------
    InputError
        When there is no such file, no curve, none that can be a board, or more of them than are read.
    """
    kind = path.suffix.lower()
    if kind not in (".dxf", ".svg"):
        raise InputError(
            f"“{kind or path.name}” is no drawing Kelvor reads", where=str(path), accepts="Give a .dxf or .svg file"
        )
    told("Reading the drawing …")
    curves, notes = _dxf_curves(path) if kind == ".dxf" else _svg_curves(path)
    if not curves:
        raise InputError(
            "no curve was found in it",
            where=str(path),
            accepts="Draw the outline as lines, arcs, splines or paths, and take blocks apart",
        )
    told(f"Joining {len(curves)} curves …")
    chains = joined_curves(curves)
    sizes = [float(np.prod(np.ptp(points, axis=0) + 1.0)) for points in chains]
    best = int(np.argmax(sizes))
    reach = float(np.ptp(chains[best], axis=0).max())
    rivals = sum(float(np.ptp(c, axis=0).max()) > 0.3 * reach for i, c in enumerate(chains) if i != best)
    if rivals:
        notes.append(
            f"{rivals} other curve{'s' if rivals > 1 else ''} of that size not joined to it "
            f"{'were' if rivals > 1 else 'was'} left out"
        )
    return _widths(chains[best], path, notes, nose_first)


def _widths(points: Array, path: Path, notes: list[str], nose_first: bool) -> ReadIn:
    size = np.ptp(points, axis=0)
    if size[1] > size[0]:
        points = points[:, ::-1]
    if nose_first:
        points = points * [-1.0, 1.0]
    points = points - points.min(axis=0)
    length = float(points[:, 0].max())
    if not 600 <= length <= 6500:
        raise InputError(
            f"the longest curve is {length:.5g} mm long",
            where=str(path),
            accepts=f"Boards from 600 to 6500 mm are drawn. {notes[0] if notes else 'Check the drawing’s unit'}",
        )
    x = np.linspace(0.0, length, PLACES)
    x[1], x[-2] = 0.012 * length, 0.988 * length
    lower, upper = _reach(points, np.clip(x, INSIDE, length - INSIDE))
    if not np.isfinite(upper).all():
        raise InputError(
            "the curve does not run from tail to nose", where=str(path), accepts="Draw it as one curve along the board"
        )
    chord_up, chord_low = (np.interp(x, [0, length], [level[0], level[-1]]) for level in (upper, lower))
    straight = [
        float(np.max(np.abs(level - chord))) < STRAIGHT * length
        for level, chord in ((upper, chord_up), (lower, chord_low))
    ]
    if any(straight):
        width = 2 * (upper - lower)
        notes.append("One side is straight: it was taken for the centreline")
    else:
        width = upper - lower
        middle = (upper + lower) / 2
        uneven = float(np.max(np.abs(middle - np.median(middle)))) * 2
        if uneven > UNEVEN:
            notes.append(
                f"The two sides differ by up to {uneven:.1f} mm: boards here are symmetric, their mean was taken"
            )
    gap = float(np.hypot(*(points[0] - points[-1])))
    if gap > MEET and not any(straight):
        notes.append(f"Its ends lie {gap:.1f} mm apart: it was closed by a straight line")
    width = np.maximum(width, 0.0)
    width[[0, -1]] = np.where(width[[0, -1]] < TIP, 0.0, width[[0, -1]])
    readings = tuple(Reading(float(a) * 1e-3, float(w) * 1e-3) for a, w in zip(x, width, strict=True))
    if max(r.width or 0.0 for r in readings) > 1.5:
        raise InputError(
            f"the curve is {float(width.max()):.0f} mm wide",
            where=str(path),
            accepts="Boards up to 1500 mm wide are drawn",
        )
    return ReadIn(length * 1e-3, readings, tuple(notes))


def _reach(points: Array, places: Array) -> tuple[Array, Array]:
    """Lowest and highest crossing of the closed curve with the lines across at `places`; not finite where it
    has none.
    """
    a, b = points, np.roll(points, -1, axis=0)
    dx = np.where(b[:, 0] == a[:, 0], np.nan, b[:, 0] - a[:, 0])
    low, high = np.full(len(places), np.inf), np.full(len(places), -np.inf)
    for i, x in enumerate(places):
        t = (x - a[:, 0]) / dx
        y = (a[:, 1] + t * (b[:, 1] - a[:, 1]))[(t >= 0) & (t <= 1)]
        if len(y):
            low[i], high[i] = y.min(), y.max()
    return low, high


def joined_curves(curves: list[Array]) -> list[Array]:
    """Curves whose ends meet, chained to one; others as they are."""
    ends = _Ends(curves)
    chains: list[Array] = []
    for first in range(len(curves)):
        if not ends.take(first):
            continue
        run = deque([curves[first]])
        if len(curves[first]) < 3 or _apart(curves[first][0], curves[first][-1]) >= MEET:  # not closed by itself
            while (found := ends.meeting(run[-1][-1])) is not None:
                curve, backward = found
                run.append(curves[curve][::-1][1:] if backward else curves[curve][1:])
            while (found := ends.meeting(run[0][0])) is not None:
                curve, backward = found
                run.appendleft(curves[curve][:-1] if backward else curves[curve][::-1][:-1])
        chains.append(np.concatenate(run))
    return chains


class _Ends:
    """The free ends of curves, found by the square of a grid they lie in, so that joining takes no longer than
    reading.
    """

    def __init__(self, curves: list[Array]) -> None:
        self._points = [point for curve in curves for point in (curve[0], curve[-1])]
        self._squares: dict[tuple[int, int], set[int]] = {}
        self._free = [True] * len(curves)
        for end, point in enumerate(self._points):
            self._squares.setdefault(self._square(point), set()).add(end)

    @staticmethod
    def _square(point: Array) -> tuple[int, int]:
        return int(point[0] // MEET), int(point[1] // MEET)

    def take(self, curve: int) -> bool:
        """Use a curve; False when it is used already."""
        free, self._free[curve] = self._free[curve], False
        if free:
            for end in (2 * curve, 2 * curve + 1):
                self._squares[self._square(self._points[end])].discard(end)
        return free

    def meeting(self, point: Array) -> tuple[int, bool] | None:
        """Use the free curve that has the nearest end to a point within reach, and whether that is its last end."""
        column, row = self._square(point)
        near = [e for i in (-1, 0, 1) for j in (-1, 0, 1) for e in self._squares.get((column + i, row + j), ())]
        end = min(near, key=lambda e: (_apart(self._points[e], point), e), default=None)
        if end is None or _apart(self._points[end], point) >= MEET:
            return None
        self.take(end // 2)
        return end // 2, end % 2 == 1


def _apart(a: Array, b: Array) -> float:
    return math.hypot(a[0] - b[0], a[1] - b[1])


def _sane(points: Array, words: str, where: str) -> Array:
    """Points of a curve, if they can be of a board's drawing."""
    if not np.isfinite(points).all() or float(np.abs(points).max(initial=0.0)) > FARTHEST:
        raise InputError(
            f"{words} reaches out of any drawing", where=where, accepts="Check the drawing's unit, or take it out"
        )
    size = float(np.ptp(points, axis=0).max()) if len(points) else 0.0
    if size > LARGEST:
        raise InputError(
            f"{words} is {size / 1e3:.4g} m large",
            where=where,
            accepts=f"Curves up to {LARGEST / 1e3:.0f} m are read; check the drawing's unit, or take it out",
        )
    return points


def _chosen(curves: list[tuple[str, T]], where: str) -> list[tuple[str, T]]:
    """Those on a layer, or of a name, that says outline; all of them where none does."""
    found = [(name, curve) for name, curve in curves if "outline" in name.lower()] or curves
    if len(found) > MOST_CURVES:
        raise InputError(
            f"the drawing has {len(found)} curves, and {MOST_CURVES} are read",
            where=where,
            accepts="Keep the outline alone, or name its layer or path “outline”",
        )
    return found


def _dxf_curves(path: Path) -> tuple[Curves, list[str]]:
    """The curves of the model space in millimetres, and what should be known about them."""
    import ezdxf
    from ezdxf import path as dxf_path

    where = str(path)
    regular(path)
    logging.getLogger("ezdxf").setLevel(logging.CRITICAL)  # what it thinks of a drawing is not for a terminal
    unit, factor = _dxf_unit(path)
    try:
        drawing: Any = ezdxf.readfile(path)  # type: ignore[attr-defined]
        space = drawing.modelspace()
        entities = list(space.query(CURVES))
        others = Counter(
            entity.dxftype()
            for entity in space
            if entity.dxftype() not in CURVES.split() and entity.dxf.get("layer") != STAMP_LAYER
        )
    except MemoryError:
        raise
    except Exception as error:  # ezdxf raises whatever the broken place makes its parsers raise
        why = one_line(str(error), 80) or "it breaks off"
        raise InputError(f"this DXF cannot be read ({why})", where=where, accepts="Save it as DXF R2010") from None
    found: Curves = []
    total = 0
    for layer, entity in _chosen(
        [(one_line(str(entity.dxf.get("layer", "0")), 40), entity) for entity in entities], where
    ):
        words = f"{entity.dxftype().lower()} on layer “{layer}”"
        try:
            flat: list[Any] = []
            rough = _rough(entity) * factor
            _sane(rough, words, where)
            for point in dxf_path.make_path(entity).flattening(FLATTEN / factor):
                flat.append((point.x, point.y))
                if len(flat) + total > MOST_POINTS:
                    raise InputError(
                        f"the drawing has over {MOST_POINTS} points", where=where, accepts="Keep the outline alone"
                    )
            points = _sane(np.array(flat, dtype=float).reshape(-1, 2) * factor, words, where)
        except (InputError, MemoryError):
            raise
        except Exception:  # as above; one curve that cannot be drawn is told of, the others are read
            others[f"unreadable {entity.dxftype()}"] += 1
            continue
        total += len(points)
        if len(points) > 1:
            found.append(points)
    notes = [unit]
    if others:
        notes.append("Left out: " + ", ".join(f"{count} {kind}" for kind, count in sorted(others.items())))
    return found, notes


def _dxf_unit(path: Path) -> tuple[str, float]:
    """What a DXF says its unit is, in words, and millimetres each. Read from the text: libraries put one in where none
    stands.
    """
    try:
        data = path.read_bytes()
    except OSError as error:
        raise InputError(refusal_reason(error), where=str(path)) from None
    match = re.search(rb"\$INSUNITS\s+70\s+(-?\d{1,9})\s", data) or re.search(
        rb"\$INSUNITS\x00\x46\x00(.)", data, re.DOTALL
    )
    number = 0 if match is None else match[1][0] if len(match[1]) == 1 and not match[1].isdigit() else int(match[1])
    if number == 0:
        return "The drawing does not say its unit: millimetres were taken", 1.0
    if number not in DXF_UNITS:
        raise InputError(
            f"the drawing says its unit is number {number}, in which no board is drawn",
            where=str(path),
            accepts=f"Save it in {', '.join(words for words, _ in DXF_UNITS.values())}",
        )
    words, factor = DXF_UNITS[number]
    return f"Read in {words}, as the drawing says", factor


def _rough(entity: Any) -> Array:
    """Points that tell how large a curve is, before it is drawn out."""
    kind, dxf = entity.dxftype(), entity.dxf
    if kind == "LINE":
        return np.array([(dxf.start.x, dxf.start.y), (dxf.end.x, dxf.end.y)], dtype=float)
    if kind in ("ARC", "CIRCLE"):
        return np.array(
            [(dxf.center.x - dxf.radius, dxf.center.y), (dxf.center.x + dxf.radius, dxf.center.y)], dtype=float
        )
    if kind == "ELLIPSE":
        axis = dxf.major_axis
        return np.array(
            [(dxf.center.x - axis.x, dxf.center.y - axis.y), (dxf.center.x + axis.x, dxf.center.y + axis.y)],
            dtype=float,
        )
    if kind == "SPLINE":
        return np.array([tuple(p)[:2] for p in (*entity.control_points, *entity.fit_points)], dtype=float).reshape(
            -1, 2
        )
    if kind == "LWPOLYLINE":
        return np.array([tuple(p)[:2] for p in entity.get_points("xy")], dtype=float).reshape(-1, 2)
    return np.array([(v.dxf.location.x, v.dxf.location.y) for v in entity.vertices], dtype=float).reshape(-1, 2)


def _svg_curves(path: Path) -> tuple[Curves, list[str]]:
    """The paths and polygons in millimetres, and what should be known about them."""
    import svgelements

    where = str(path)
    text, note = checked_svg(read_text(path), where)
    found: Curves = []
    total = 0
    try:
        drawing = svgelements.SVG.parse(io.StringIO(text), reify=True)
        shapes = [
            (" ".join(str(element.values.get(key) or "") for key in ("id", "class", "data-layer")), element)
            for element in drawing.elements()
            if isinstance(element, svgelements.Shape)
        ]
        for name, element in _chosen(shapes, where):
            for part in svgelements.Path(element).as_subpaths():
                points = _sane(
                    _svg_points(svgelements.Path(part)) / DOTS_PER_MM,
                    f"path “{one_line(name, 40)}”" if name.strip() else "a path",
                    where,
                )
                total += len(points)
                if total > MOST_POINTS:
                    raise InputError(
                        f"the drawing has over {MOST_POINTS} points", where=where, accepts="Keep the outline alone"
                    )
                if len(points) > 1:
                    found.append(points * [1.0, -1.0])
    except (InputError, MemoryError):
        raise
    except Exception as error:  # the parser raises whatever its XML and number readers do
        raise InputError(
            f"this SVG cannot be read ({one_line(str(error), 80)})", where=where, accepts="Save it as plain SVG"
        ) from None
    return found, [note]


def _svg_points(path: Any) -> Array:
    points: list[Array] = []
    along = np.linspace(0.02, 1.0, 50)
    for segment in path:
        if segment.end is None:
            continue
        if type(segment).__name__ in ("Move", "Line", "Close"):
            points.append(np.array([[segment.end.x, segment.end.y]], dtype=float))
        else:
            points.append(np.asarray(segment.npoint(along), dtype=float).reshape(-1, 2))
    return np.concatenate(points) if points else np.zeros((0, 2))
