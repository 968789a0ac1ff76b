"""Templates and ribs of a wooden board, laid close together on sheets of ply."""

from __future__ import annotations

from math import ceil
from pathlib import Path

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.built import ribs
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Sections
from kelvor.exchange.drawings import MM
from kelvor.exchange.dxf import STAMP_LAYER, new_drawing
from kelvor.exchange.templates import templates

SHEET = (2440.0, 1220.0)
"""A usual sheet of ply [mm] (common practice, no source)."""
KERF = 8.0
"""Between two parts, and to the sheet's edge: the cutter and a little wood [mm] (common practice, no source)."""
MOST = 40
"""Sheets at most."""


@frozen(eq=False)
class NestedPart:
    """A part to cut: its name and its outline (n, 2), the lower left corner at (0, 0) [mm]."""

    name: str
    ring: Array

    @property
    def size(self) -> tuple[float, float]:
        """Length and width [mm]."""
        return float(self.ring[:, 0].max()), float(self.ring[:, 1].max())


@frozen(eq=False)
class PlacedPart:
    """A part on a sheet: which, and its outline there [mm]."""

    part: NestedPart
    sheet: int
    ring: Array


def parts_of(shape: Sections, length: float) -> list[NestedPart]:
    """What is cut of ply for a board: its templates, the bed's two sides, and the ribs of a built-up core."""
    found = []
    for template in templates(shape, length):
        ring = next((line.points for line in template.lines if line.closed), None)
        if ring is None:
            continue
        part = NestedPart(template.title, ring - ring.min(axis=0))
        pair = template.title.startswith(("Rocker bed", "Hot-wire"))
        found += [part, part] if pair else [part]
    return found + _ribs(shape)


def _ribs(shape: Sections) -> list[NestedPart]:
    """Ribs of a chambered or hollow core: what planks and solid rails leave of its sections."""
    construction = shape.board.construction
    if construction is None or construction.core.build == "solid":
        return []
    core, found, apex = construction.core, [], shape.columns.apex
    for place in ribs(of_sections(shape), core):
        i = int(np.argmin(np.abs(shape.x - place)))
        half = float(shape.half_width[i]) - core.rail
        if half <= 0.01:
            continue
        y = np.linspace(0.0, half, 60)
        low = np.interp(y, shape.y[i, : apex + 1], shape.z[i, : apex + 1]) + core.skin
        high = np.interp(y, shape.y[i, apex:][::-1], shape.z[i, apex:][::-1]) - core.skin
        inside = high - low > 0.003
        if np.count_nonzero(inside) < 3:
            continue
        y, low, high = y[inside], low[inside], high[inside]
        port = np.concatenate([np.stack([y, low], 1), np.stack([y, high], 1)[::-1]])
        ring = np.concatenate([port, (port * [-1, 1])[::-1]]) * MM
        found.append(NestedPart(f"Rib {place * 100:.1f} cm from the tail", ring - ring.min(axis=0)))
    return found


def nested(parts: list[NestedPart], sheet: tuple[float, float] = SHEET) -> tuple[list[PlacedPart], list[NestedPart]]:
    """Parts on as few sheets as the packer finds, turned by a quarter where that helps; and what is too long for one.

    Raises
    ------
    InputError
        When none of them fits a sheet, or they need more than forty.
    """
    from rectpack import newPacker

    room = tuple(int(side - KERF) for side in sheet)
    fitting: list[NestedPart] = []
    long: list[NestedPart] = []
    for part in parts:
        size = [ceil(side + KERF) for side in part.size]
        (fitting if min(size) <= min(room) and max(size) <= max(room) else long).append(part)
    if not fitting:
        raise InputError(
            f"no part fits a sheet of {sheet[0]:.0f} × {sheet[1]:.0f} mm",
            where="nesting",
            accepts="Take a larger sheet, or paper templates",
        )
    packer = newPacker(rotation=True)
    for i, part in enumerate(fitting):
        packer.add_rect(*(ceil(side + KERF) for side in part.size), rid=i)
    packer.add_bin(*room, count=MOST)
    packer.pack()
    laid = [_laid(fitting[rid], sheet_, x, y, width) for sheet_, x, y, width, _, rid in packer.rect_list()]
    if len(laid) < len(fitting):
        raise InputError(f"the parts need more than {MOST} sheets", where="nesting", accepts="Take a larger sheet")
    return sorted(laid, key=lambda item: item.sheet), long


def _laid(part: NestedPart, sheet: int, x: int, y: int, width: int) -> PlacedPart:
    """A part at a place of a sheet; turned by a quarter where its place is as wide as it is high."""
    turned = ceil(part.size[0] + KERF) != width
    ring = np.stack([part.size[1] - part.ring[:, 1], part.ring[:, 0]], 1) if turned else part.ring
    return PlacedPart(part, sheet, ring + np.array([x + KERF, y + KERF]))


def write_nested(shape: Sections, path: Path, length: float, stamp: Stamp) -> None:
    """Sheets side by side, in millimetres: their edges, what is cut, and what each part is."""
    from ezdxf.enums import TextEntityAlignment

    laid, long = nested(parts_of(shape, length))
    document = new_drawing()
    for layer in ("sheet", "cut", "words", STAMP_LAYER):
        document.layers.add(layer)
    space = document.modelspace()
    count = laid[-1].sheet + 1
    for sheet in range(count):
        at = sheet * (SHEET[0] + 200.0)
        corners = [(at, 0.0), (at + SHEET[0], 0.0), (at + SHEET[0], SHEET[1]), (at, SHEET[1])]
        space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "sheet"})
        words = f"Sheet {sheet + 1} of {count} · {stamp.words}"
        space.add_text(words, height=20, dxfattribs={"layer": STAMP_LAYER}).set_placement((at, SHEET[1] + 20))
    for item in laid:
        ring = item.ring + np.array([item.sheet * (SHEET[0] + 200.0), 0.0])
        space.add_lwpolyline(ring.tolist(), close=True, dxfattribs={"layer": "cut"})
        middle = 0.5 * (ring.min(axis=0) + ring.max(axis=0))
        wide, high = np.ptp(ring, axis=0)
        space.add_text(
            item.part.name,
            height=min(10.0, 0.4 * float(min(wide, high))),
            rotation=90.0 if high > wide else 0.0,
            dxfattribs={"layer": "words"},
        ).set_placement(tuple(middle), align=TextEntityAlignment.MIDDLE_CENTER)
    for row, part in enumerate(long):
        words = f"Longer than a sheet, left out: {part.name}, {part.size[0]:.0f} × {part.size[1]:.0f} mm"
        space.add_text(words, height=20, dxfattribs={"layer": "words"}).set_placement((0.0, -40.0 - 30.0 * row))
    document.saveas(path)
