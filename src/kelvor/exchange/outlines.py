"""Outlines from DXF and SVG: the one curve that is a board's outline, as widths along the board."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.shape.battens import Array
from kelvor.core.starting.readings import Reading
from kelvor.exchange.files import LARGEST_DOCUMENT, read_text, reason

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
MOST_POINTS = 20_000
DOTS_PER_MM = 96 / 25.4
"""Of SVG user units without a unit of their own (CSS Values and Units 3, § 5.2: 96 px are one inch)."""


@dataclass(frozen=True, slots=True)
class OutlineRead:
    """Length [m], widths along it, and what should be known about them."""

    length: float
    readings: tuple[Reading, ...]
    notes: tuple[str, ...]


def read_outline(path: Path, *, nose_first: bool = False) -> OutlineRead:
    """The outline in a DXF or SVG file; the tail lies at the left (or at the foot) unless `nose_first`.

    Raises
    ------
    InputError
        When there is no such file, no curve, or none that can be a board.
    """
    kind = path.suffix.lower()
    if kind == ".dxf":
        curves, notes = _dxf_curves(path)
    elif kind == ".svg":
        curves, notes = _svg_curves(path)
    else:
        raise InputError(
            f"“{kind or path.name}” is no drawing Kelvor reads", where=str(path), accepts="Give a .dxf or .svg file"
        )
    named = [points for name, points in curves if "outline" in name.lower()]
    candidates = named or [points for _, points in curves]
    if not candidates:
        raise InputError(
            "no curve was found in it", where=str(path), accepts="Draw the outline as lines, arcs, splines or paths"
        )
    best = max(_joined(candidates), key=lambda points: float(np.prod(np.ptp(points, axis=0) + 1.0)))
    return _widths(best, path, notes, nose_first)


def _widths(points: Array, path: Path, notes: list[str], nose_first: bool) -> OutlineRead:
    size = np.ptp(points, axis=0)
    if size[1] > size[0]:
        points = points[:, ::-1]
    if nose_first:
        points = points * [-1.0, 1.0]
    points = points - points.min(axis=0)
    length = float(points[:, 0].max())
    if not 600 <= length <= 6500:
        raise InputError(f"the longest curve is {length:.0f} mm long", where=str(path),
                         accepts="Boards from 600 to 6500 mm are drawn; check the drawing's unit")  # fmt: skip
    x = np.linspace(0.0, length, PLACES)
    x[1], x[-2] = 0.012 * length, 0.988 * length
    lower, upper = _reach(points, np.clip(x, INSIDE, length - INSIDE))
    if not np.isfinite(upper).all():
        raise InputError(
            "the curve does not run from tail to nose", where=str(path), accepts="Draw it as one curve along the board"
        )
    chord_up, chord_low = (np.interp(x, [0, length], [level[0], level[-1]]) for level in (upper, lower))
    straight = [
        float(np.max(np.abs(level - chord))) < STRAIGHT * length for level, chord in ((upper, chord_up), (lower, chord_low))
    ]
    if any(straight):
        width = 2 * (upper - lower)
        notes.append("One side is straight: it was taken for the centreline")
    else:
        width = upper - lower
        middle = (upper + lower) / 2
        uneven = float(np.max(np.abs(middle - np.median(middle)))) * 2
        if uneven > UNEVEN:
            notes.append(f"The two sides differ by up to {uneven:.1f} mm: boards here are symmetric, their mean was taken")
    width = np.maximum(width, 0.0)
    width[[0, -1]] = np.where(width[[0, -1]] < TIP, 0.0, width[[0, -1]])
    return OutlineRead(
        length * 1e-3, tuple(Reading(float(a) * 1e-3, float(w) * 1e-3) for a, w in zip(x, width, strict=True)), tuple(notes)
    )


def _reach(points: Array, x: Array) -> tuple[Array, Array]:
    """Lowest and highest crossing of the closed curve with the lines across at `x`; not finite where it has none."""
    a, b = points, np.roll(points, -1, axis=0)
    dx = b[:, 0] - a[:, 0]
    t = (x[:, None] - a[None, :, 0]) / np.where(dx == 0, np.nan, dx)[None, :]
    y = np.where((t >= 0) & (t <= 1), a[None, :, 1] + t * (b - a)[None, :, 1], np.nan)
    return np.nanmin(y, axis=1, initial=np.inf), np.nanmax(y, axis=1, initial=-np.inf)


def _joined(curves: list[Array]) -> list[Array]:
    """Curves whose ends meet, chained to one; others as they are."""
    if len(curves) > 2000:
        return curves
    rest, found = list(curves), []
    while rest:
        chain = rest.pop(0)
        grown = True
        while grown:
            grown = False
            for i, other in enumerate(rest):
                for piece in (other, other[::-1]):
                    if np.hypot(*(chain[-1] - piece[0])) < 0.5:
                        chain = np.concatenate([chain, piece[1:]])
                    elif np.hypot(*(chain[0] - piece[-1])) < 0.5:
                        chain = np.concatenate([piece[:-1], chain])
                    else:
                        continue
                    rest.pop(i)
                    grown = True
                    break
                if grown:
                    break
        found.append(chain)
    return found


def _dxf_curves(path: Path) -> tuple[list[tuple[str, Array]], list[str]]:
    """Every curve of the model space in millimetres, with its layer."""
    import ezdxf
    from ezdxf import path as dxf_path
    from ezdxf import units
    from ezdxf.enums import InsertUnits

    try:
        if path.stat().st_size > LARGEST_DOCUMENT:
            raise InputError(
                "the drawing is too large", where=str(path), accepts=f"Up to {LARGEST_DOCUMENT / 1e6:.0f} MB are read"
            )
        drawing: Any = ezdxf.readfile(path)  # type: ignore[attr-defined]
    except OSError as error:
        raise InputError(reason(error) if error.errno else "this is no DXF drawing", where=str(path)) from None
    except (ezdxf.DXFError, UnicodeError, ValueError, KeyError, IndexError) as error:  # type: ignore[attr-defined]
        raise InputError(
            f"this DXF cannot be read ({str(error)[:80]})", where=str(path), accepts="Save it as DXF R2010"
        ) from None
    unit = InsertUnits(drawing.units)
    notes = [] if unit else ["The drawing does not say its unit: millimetres were taken"]
    factor = units.conversion_factor(unit, InsertUnits.Millimeters) if unit else 1.0
    found: list[tuple[str, Array]] = []
    for entity in drawing.modelspace().query("LWPOLYLINE POLYLINE LINE ARC CIRCLE ELLIPSE SPLINE"):
        try:
            flat = list(dxf_path.make_path(entity).flattening(FLATTEN / factor))
        except (TypeError, ValueError, ezdxf.DXFError):  # type: ignore[attr-defined]
            continue
        points = np.array([(p.x, p.y) for p in flat]) * factor
        if 1 < len(points) < MOST_POINTS and np.isfinite(points).all():
            found.append((str(entity.dxf.layer), points))
    return found, notes


def _svg_curves(path: Path) -> tuple[list[tuple[str, Array]], list[str]]:
    """Every path and polygon in millimetres, with its id and class."""
    import io

    import svgelements

    text = read_text(path)
    try:
        drawing = svgelements.SVG.parse(io.StringIO(text), reify=True)
    except Exception as error:  # the parser raises whatever its XML and number readers do
        raise InputError(
            f"this SVG cannot be read ({str(error)[:80]})", where=str(path), accepts="Save it as plain SVG"
        ) from None
    found: list[tuple[str, Array]] = []
    for element in drawing.elements():
        if not isinstance(element, svgelements.Shape):
            continue
        name = " ".join(str(element.values.get(key) or "") for key in ("id", "class", "data-layer"))
        for part in svgelements.Path(element).as_subpaths():
            points = _svg_points(svgelements.Path(part)) / DOTS_PER_MM
            if 1 < len(points) < MOST_POINTS and np.isfinite(points).all():
                found.append((name, points * [1.0, -1.0]))
    return found, []


def _svg_points(path: Any) -> Array:
    points: list[tuple[float, float]] = []
    for segment in path:
        if segment.end is None:
            continue
        if type(segment).__name__ in ("Move", "Line", "Close"):
            points.append((segment.end.x, segment.end.y))
        else:
            points += [(p.x, p.y) for p in (segment.point(t) for t in np.linspace(0.02, 1.0, 50))]
    return np.array(points).reshape(-1, 2)
