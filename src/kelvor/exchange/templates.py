"""Full-size paper templates: half outline, rocker and sections, tiled on A4, A3 or Letter.

Every sheet carries registration marks, its place in the grid, and a 100 mm
check bar.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.shape.battens import Array
from kelvor.core.shape.section_view import half_outline
from kelvor.core.shape.sections import Sections
from kelvor.core.stamp import Stamp
from kelvor.exchange.drawings import MM, Line, section_indices, section_ring, template_places
from kelvor.exchange.formats import Paper

SHEETS: dict[Paper, tuple[float, float]] = {"a4": (297.0, 210.0), "a3": (420.0, 297.0), "letter": (279.4, 215.9)}
"""Sheets on their side [mm]."""
MARGIN = 12.0
"""Not printed on by most printers [mm]."""
FOOTER = 20.0
"""For the check bar and the words [mm]."""
OVERLAP = 10.0
"""Neighbouring sheets share this much [mm]."""
CHECK_BAR = 100.0


@dataclass(frozen=True, slots=True, eq=False)
class Template:
    """One template: its title and its lines, with the lower left corner at (0, 0) [mm]."""

    title: str
    lines: tuple[Line, ...]
    notes: tuple[tuple[float, float, str], ...] = ()

    def size(self) -> tuple[float, float]:
        """Width and height [mm]."""
        points = np.concatenate([line.points for line in self.lines])
        return float(points[:, 0].max()), float(points[:, 1].max())


def templates(shape: Sections, length: float) -> list[Template]:
    """Half outline, rocker, and the sections with their rails."""
    return [
        _outline(shape),
        _rocker(shape),
        *(_section(shape, i) for i in section_indices(shape, template_places(length))),
    ]


def _outline(shape: Sections) -> Template:
    x = (shape.x - shape.x[0]) * MM
    ring = (half_outline(shape) - [shape.x[0], 0.0]) * MM
    edge = np.stack([x, shape.edge_y * MM], 1)
    ticks, notes = [], []
    for place in np.arange(100.0, x[-1], 100.0):
        ticks.append(Line("tick", np.array([[place, 0.0], [place, 6.0]])))
        notes.append((place + 1.5, 2.0, f"{place / 10:.0f} cm"))
    return Template(
        "Half outline", (Line("outline", ring, closed=True), Line("bottom edge", edge), *ticks), tuple(notes)
    )


def _rocker(shape: Sections) -> Template:
    x = (shape.x - shape.x[0]) * MM
    low = float(min(shape.keel.min(), shape.edge_z.min()))
    lines = [
        Line(name, np.stack([x, (z - low) * MM], 1))
        for name, z in (("keel", shape.keel), ("rail", shape.edge_z), ("deck", shape.deck))
    ]
    base = Line("base", np.array([[0.0, 0.0], [x[-1], 0.0]]))
    notes = tuple(
        (float(x[-1]) * 0.5, (float(np.interp(0.5 * x[-1], x, z)) - low) * MM + 2.0, name)
        for name, z in (("keel", shape.keel), ("deck", shape.deck))
    )
    return Template("Rocker: keel, rail and deck", (*lines, base), notes)


def _section(shape: Sections, index: int) -> Template:
    ring = section_ring(shape, index)
    moved: Array = ring - ring.min(axis=0)
    middle = float(-ring[:, 0].min())
    cross = Line("centreline", np.array([[middle, 0.0], [middle, float(moved[:, 1].max())]]))
    title = f"Section {(shape.x[index] - shape.x[0]) * 100:.1f} cm from the tail"
    return Template(title, (Line("section", moved, closed=True), cross))


def write_pdf(shape: Sections, path: Path, length: float, stamp: Stamp, surface: str, paper: Paper = "a4") -> int:
    """Write all templates; returns the number of sheets."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    canvas = Canvas(str(path), invariant=1)
    canvas.setTitle(f"{stamp.design}: full-size templates")
    canvas.setSubject(stamp.words)
    canvas.setCreator("Kelvor")
    sheets = 0
    for template in templates(shape, length):
        wide, high = SHEETS[paper]
        # lay the paper the way that takes fewer sheets
        wide, high = min(((wide, high), (high, wide)), key=lambda page: len(_tiles(template, page)[0]))
        tiles, columns, rows = _tiles(template, (wide, high))
        for column, row in tiles:
            inner = _inner((wide, high))
            origin = (column * (inner[0] - OVERLAP), row * (inner[1] - OVERLAP))
            canvas.setPageSize((wide * mm, high * mm))
            place = f"sheet {column + 1}/{columns} along, {row + 1}/{rows} up"
            _sheet(canvas, template, origin, inner, f"{stamp.words} · {surface} · {template.title} · {place}")
            sheets += 1
    canvas.save()
    return sheets


def _inner(page: tuple[float, float]) -> tuple[float, float]:
    """What can be drawn on of a sheet [mm]."""
    return page[0] - 2 * MARGIN, page[1] - 2 * MARGIN - FOOTER


def _tiles(template: Template, page: tuple[float, float]) -> tuple[list[tuple[int, int]], int, int]:
    """The sheets (column, row) that a template's lines cross on paper laid this way, and how many columns and rows."""
    inner, size = _inner(page), template.size()
    columns, rows = (max(1, math.ceil((s - OVERLAP) / (i - OVERLAP))) for s, i in zip(size, inner, strict=True))
    found = []
    for row in range(rows):
        for column in range(columns):
            origin = (column * (inner[0] - OVERLAP), row * (inner[1] - OVERLAP))
            if _touches(template, origin, inner):
                found.append((column, row))
    return found, columns, rows


def _touches(template: Template, origin: tuple[float, float], size: tuple[float, float]) -> bool:
    """Whether any line of the template crosses this sheet."""
    for line in template.lines:
        points = np.concatenate([line.points, line.points[:1]]) if line.closed else line.points
        fine = np.concatenate(
            [
                np.linspace(a, b, max(2, int(np.hypot(*(b - a)) / 5)))
                for a, b in zip(points[:-1], points[1:], strict=True)
            ]
        )
        inside = (fine >= np.array(origin) - 0.1) & (fine <= np.array(origin) + size)
        if bool(inside.all(axis=1).any()):
            return True
    return False


def _sheet(
    canvas: Any, template: Template, origin: tuple[float, float], inner: tuple[float, float], label: str
) -> None:
    from reportlab.lib.units import mm

    left, bottom = MARGIN, MARGIN + FOOTER
    canvas.saveState()
    clip = canvas.beginPath()
    clip.rect(left * mm, bottom * mm, inner[0] * mm, inner[1] * mm)
    canvas.clipPath(clip, stroke=0)
    dx, dy = left - origin[0], bottom - origin[1]
    for line in template.lines:
        thin = line.layer in ("centreline", "base", "tick", "bottom edge", "rail")
        canvas.setLineWidth((0.18 if thin else 0.35) * mm)
        canvas.setDash([3, 2] if line.layer in ("bottom edge", "rail", "centreline") else [])
        path = canvas.beginPath()
        path.moveTo((line.points[0, 0] + dx) * mm, (line.points[0, 1] + dy) * mm)
        for px, py in line.points[1:]:
            path.lineTo((px + dx) * mm, (py + dy) * mm)
        if line.closed:
            path.close()
        canvas.drawPath(path)
    canvas.setDash([])
    canvas.setFont("Helvetica", 6)
    for px, py, words in template.notes:
        canvas.drawString((px + dx) * mm, (py + dy) * mm, words)
    canvas.restoreState()
    canvas.setLineWidth(0.2 * mm)
    half = OVERLAP / 2
    for cx in (left + half, left + inner[0] - half):
        for cy in (bottom + half, bottom + inner[1] - half):
            canvas.line((cx - 4) * mm, cy * mm, (cx + 4) * mm, cy * mm)
            canvas.line(cx * mm, (cy - 4) * mm, cx * mm, (cy + 4) * mm)
            canvas.circle(cx * mm, cy * mm, 2 * mm)
    y = MARGIN + 10
    canvas.setLineWidth(0.4 * mm)
    canvas.line(left * mm, y * mm, (left + CHECK_BAR) * mm, y * mm)
    for end in (0.0, CHECK_BAR / 2, CHECK_BAR):
        canvas.line((left + end) * mm, (y - 1.5) * mm, (left + end) * mm, (y + 1.5) * mm)
    canvas.setFont("Helvetica", 7)
    canvas.drawString(
        left * mm, (y + 3) * mm, "100 mm: measure this bar before you cut. Print at 100 %, without fitting to the page."
    )
    canvas.drawString(left * mm, (y - 4.5) * mm, label)
    canvas.drawString(
        left * mm,
        (y - 8) * mm,
        "Cutting foam: mask and extraction; hot wire in fresh air and never on PVC. Follow the data sheets and local "
        "rules.",
    )
    canvas.showPage()
