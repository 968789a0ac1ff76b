"""Fittings against one another and against the foam: clashes, foam left, flanges, boxes out of level."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.findings import Finding, Rests, Severity
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.straight_edge import chord_gap
from kelvor.core.shape.parts.fittings import BOX_SIZES, FLANGE, FinBox, Side
from kelvor.core.shape.surface.geometry import Geometry

FOAM_BEYOND = 0.006
"""Foam to keep between a fitting and the far skin [m] (common practice, no source)."""
FLANGE_GAP = 0.0008
"""A flange may bridge a hollow of this depth [m] before it must be bedded (common practice, no source)."""
APART = 0.008
"""Fittings of one side keep this far apart [m] (common practice, no source)."""
STRAP_INSERT = 0.02
"""An insert's footprint and depth [m] (common practice, no source)."""
INSERT_SHARE, BEYOND_SHARE = 0.55, 0.15
"""Thin boards take shallower inserts and less foam beyond, as shares of their thickness (common practice, no
source).
"""


@frozen(eq=False)
class Footprint:
    """A fitting seen from above: corners (4, 2) as (x, y) [m], how deep it goes [m], and from which side."""

    name: str
    side: Side
    corners: Array
    depth: float
    group: str = ""
    kind: Rests | None = None

    @property
    def x(self) -> float:
        """Its middle [m from the tail]."""
        return float(self.corners[:, 0].mean())


def _rectangle(x: float, y: float, length: float, width: float, angle: float = 0.0) -> Array:
    """Corners of a rectangle about (x, y), turned by `angle` [rad] from the centreline."""
    c, s = np.cos(angle), np.sin(angle)
    local = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * [length / 2, width / 2]
    found: Array = local @ np.array([[c, s], [-s, c]]) + [x, y]
    return found


def box_rectangle(box: FinBox, x: float, side: int) -> Array:
    """Footprint of a fin box whose fin's trailing edge stands at `x`; `side` is 1 port, -1 starboard, 0 centre."""
    length, width, _, _ = BOX_SIZES[box.kind]
    middle = x + box.fin.base / 2
    y = side * box.offset
    return _rectangle(middle, y, length, width, -side * box.toe)


def footprints(board: Board) -> list[Footprint]:
    """Every fitting's footprint, port and starboard."""
    length, mast, fittings = board.length, board.mast_x, board.fittings
    insert = min(STRAP_INSERT, INSERT_SHARE * max(w.value for w in board.thickness.weights))
    found: list[Footprint] = []
    if (tracks := fittings.tracks) is not None:
        at = tracks.at.x(length)
        for side in (1, -1) if tracks.spacing > 0 else (0,):
            width = 0.022 if tracks.spacing > 0 else 0.045
            found.append(
                Footprint(
                    "Foil tracks" if side else "Foil box",
                    "bottom",
                    _rectangle(at, side * tracks.spacing / 2, tracks.length, width),
                    tracks.depth,
                    "tracks",
                    "mast",
                )
            )
    for box in fittings.fin_boxes:
        x = box.at.x(length, mast)
        for side in (0,) if box.offset == 0 else (1, -1):
            found.append(
                Footprint(box.name, "bottom", box_rectangle(box, x, side), BOX_SIZES[box.kind][2], box.name, "fin")
            )
    if (track := fittings.mast_track) is not None:
        found.append(
            Footprint(
                "Mast track", "deck", _rectangle(track.at.x(length, mast), 0.0, track.length, track.width), track.depth
            )
        )
    for row in fittings.straps:
        for spread in {row.half_spread, row.outboard or row.half_spread}:
            for side in (0,) if spread == 0 else (1, -1):
                run = (row.inserts - 1) * row.pitch + STRAP_INSERT
                corners = _rectangle(row.at.x(length, mast), side * spread, run, STRAP_INSERT)
                found.append(Footprint(row.name, "deck", corners, insert, row.name, "strap"))
    for plug in fittings.plugs:
        for side in (0,) if plug.offset == 0 else (1,):
            corners = _rectangle(plug.at.x(length, mast), side * plug.offset, plug.length, plug.width)
            found.append(Footprint(plug.kind.capitalize(), plug.side, corners, plug.depth))
    return found


def overlap(a: Array, b: Array, apart: float = 0.0) -> bool:
    """Whether two convex footprints come closer than `apart` [m], by separating axes."""
    for corners in (a, b):
        edges = np.roll(corners, -1, axis=0) - corners
        for dx, dy in edges:
            axis = np.array([-dy, dx]) / max(float(np.hypot(dx, dy)), 1e-12)
            pa, pb = a @ axis, b @ axis
            if pa.max() + apart <= pb.min() or pb.max() + apart <= pa.min():
                return False
    return True


def clearances(measured: Geometry) -> list[Finding]:
    """Every clash and every fitting that has too little foam, each with its place."""
    prints = footprints(measured.board)
    found: list[Finding] = []
    for item in prints:
        found += _in_foam(measured, item)
    for i, a in enumerate(prints):
        for b in prints[i + 1 :]:
            if a.group and a.group == b.group and a.side == b.side:
                continue
            if overlap(a.corners, b.corners, APART if a.side == b.side else 0.0):
                found += _clash(measured, a, b)
    for box in measured.board.fittings.fin_boxes:
        found += _box(measured, box)
    return _once(found)


def _once(found: list[Finding]) -> list[Finding]:
    """Port and starboard say the same: once is enough."""
    return list({(f.code, f.text): f for f in found}.values())


def _deck_and_bottom(measured: Geometry, corners: Array) -> tuple[float, float]:
    """Least thickness under a footprint [m], and how far its worst corner stands out beyond the bottom's edge."""
    shape = measured.shape
    x = np.clip(corners[:, 0], shape.x[0], shape.x[-1])
    outside = float(np.max(np.abs(corners[:, 1]) - np.interp(x, shape.x, shape.half_width)))
    thick = []
    for px, py in zip(x, np.abs(corners[:, 1]), strict=True):
        i = int(np.argmin(np.abs(shape.x - px)))
        y, z, apex, top = shape.y[i], shape.z[i], shape.columns.apex, shape.columns.top
        low = np.interp(py, y[: apex + 1], z[: apex + 1])
        high = np.interp(py, y[apex : top + 1][::-1], z[apex : top + 1][::-1])
        thick.append(float(high - low))
    return min(thick), outside


def _in_foam(measured: Geometry, item: Footprint) -> list[Finding]:
    board = measured.board
    inside = (item.corners[:, 0] > 0) & (item.corners[:, 0] < board.length)
    thick, outside = _deck_and_bottom(measured, item.corners)
    if not inside.all() or outside > 0:
        code = (
            "strap_outside"
            if item.side == "deck" and any(r.name == item.name for r in board.fittings.straps)
            else "fitting_outside"
        )
        if item.group == "tracks":
            code = "tracks_outside"
        ends = float(max(-item.corners[:, 0].min(), item.corners[:, 0].max() - board.length, outside))
        return [
            Finding(
                code=code,
                place=item.x,
                value=ends,
                parts=_kinds(item),
                said=f"{item.name} off the board",
                text=f"{item.name} lies off the board at {item.x * 100:.1f} cm from the tail",
                advice="Move it in from the edge or along the board.",
            )
        ]
    left = thick - item.depth
    least = min(FOAM_BEYOND, BEYOND_SHARE * max(w.value for w in board.thickness.weights))
    if left >= least or item.group == "tracks":  # tracks have a check of their own
        return []
    return [
        Finding(
            code="fitting_foam",
            place=item.x,
            value=left,
            limit=least,
            text=f"{item.name} leaves {max(left, 0) * 1000:.0f} mm of foam at {item.x * 100:.1f} cm from the tail",
            advice=f"Keep {least * 1000:.0f} mm: thicken there by {(least - left) * 1000:.0f} mm, or take a shallower "
            f"one.",
        )
    ]


def _kinds(*items: Footprint) -> tuple[Rests, ...]:
    return tuple(dict.fromkeys(item.kind for item in items if item.kind is not None))


def _clash(measured: Geometry, a: Footprint, b: Footprint) -> list[Finding]:
    at = (a.x + b.x) / 2
    kinds, said = _kinds(a, b), f"{a.name} on {b.name}"
    if a.side == b.side:
        over = float(
            min(a.corners[:, 0].max(), b.corners[:, 0].max()) - max(a.corners[:, 0].min(), b.corners[:, 0].min())
        )
        return [
            Finding(
                code="fittings_clash",
                place=at,
                value=max(over, 0.0) + APART,
                limit=0.0,
                parts=kinds,
                said=said,
                text=f"{a.name} and {b.name} meet at {at * 100:.1f} cm from the tail",
                advice=f"Keep {APART * 1000:.0f} mm between them.",
            )
        ]
    thick = min(_deck_and_bottom(measured, f.corners)[0] for f in (a, b))
    left = thick - a.depth - b.depth
    if left >= 0.004:
        return []
    return [
        Finding(
            code="fittings_meet",
            place=at,
            value=left - 0.004,
            limit=0.0,
            parts=kinds,
            said=said,
            text=f"{a.name} and {b.name} meet inside the board at {at * 100:.1f} cm from the tail",
            advice="Move one along the board, or take a shallower box.",
        )
    ]


def box_angle(measured: Geometry, start: float, end: float) -> float:
    """Angle of the keel from `start` to `end` [m] to the base line [rad], positive nose up."""
    rise = measured.at(measured.keel_line, end) - measured.at(measured.keel_line, start)
    return float(np.arctan2(rise, end - start))


def _box(measured: Geometry, box: FinBox) -> list[Finding]:
    """Flange against hollow, and a box that does not stand level."""
    board, shape = measured.board, measured.shape
    length, width, _, _ = BOX_SIZES[box.kind]
    x = box.at.x(board.length, board.mast_x)
    start, end = x + box.fin.base / 2 - length / 2, x + box.fin.base / 2 + length / 2
    if start < 0 or end > board.length:
        return []
    found: list[Finding] = []
    i = int(np.argmin(np.abs(shape.x - (start + end) / 2)))
    edge = shape.columns.edge
    across = box.offset + np.linspace(-1, 1, 9) * (width / 2 + FLANGE)
    z = np.interp(np.abs(across), shape.y[i, : edge + 1], shape.z[i, : edge + 1])
    straight = np.linspace(z[0], z[-1], 9)
    gap = float(np.max(np.abs(z - straight)))
    bow = chord_gap(shape.x, shape.keel, start, end)
    for size, code, words in ((gap, "flange_gap", "across"), (bow, "box_bowed", "along")):
        if size > FLANGE_GAP:
            found.append(
                Finding(
                    code=code,
                    severity=Severity.NOTE,
                    place=(start + end) / 2,
                    value=size,
                    limit=FLANGE_GAP,
                    text=f"The flange of {box.name} bridges {size * 1000:.1f} mm {words} the board at "
                    f"{(start + end) * 50:.0f} cm",
                    advice="Flatten the bottom there with a box strip, or bed the flange.",
                )
            )
    return found
