"""Full-size paper templates: half outline with all that is marked on it, rocker, sections with their rail bands, fins;
tiled on A4, A3 or Letter.

Every sheet carries registration marks, its place in the grid, and a 100 mm
check bar.
"""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.section_view import half_outline
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.templates.cutting_out import KERF, WIRE
from kelvor.core.templates.marking import marks, template_places
from kelvor.core.templates.rail_bands import first_cuts, rail_bands
from kelvor.exchange.drawings import (
    MM,
    Polyline,
    bed_line,
    fin_lines,
    section_indices,
    section_ring,
    wire_line,
)
from kelvor.exchange.paper_sizes import Paper
from kelvor.exchange.typesetting import draw

SHEETS: dict[Paper, tuple[float, float]] = {"a4": (297.0, 210.0), "a3": (420.0, 297.0), "letter": (279.4, 215.9)}
"""Sheets on their side [mm]."""
MARGIN = 12.0
"""Not printed on by most printers [mm]."""
FOOTER = 20.0
"""For the check bar and the words [mm]."""
OVERLAP = 10.0
"""Neighbouring sheets share this much [mm]."""
CHECK_BAR = 100.0
MEASURE = "100 mm: measure this bar before you cut. Print at 100 %, without fitting to the page."
CAUTION = (
    "Cutting foam: mask and extraction; hot wire in fresh air and never on PVC. Follow the data sheets and local rules."
)
THIN = ("centreline", "base", "tick", "bottom edge", "rail", "stations", "band", "bottom", "deck")
"""Lines that are drawn thin."""
DASHES = {"bottom edge": [3, 2], "rail": [3, 2], "centreline": [3, 2], "stations": [1, 3], "bottom": [6, 2]}
"""Lines that are dashed: what is marked on the bottom in long dashes, on the deck in whole lines."""


@frozen(eq=False)
class Template:
    """One template: its title and its lines, with the lower left corner at (0, 0) [mm]."""

    title: str
    lines: tuple[Polyline, ...]
    notes: tuple[tuple[float, float, str], ...] = ()

    def size(self) -> tuple[float, float]:
        """Width and height [mm]."""
        points = np.concatenate([line.points for line in self.lines])
        return float(points[:, 0].max()), float(points[:, 1].max())


def templates(shape: Sections, length: float) -> list[Template]:
    """Half outline, rocker, the sections with their rails and bands, and the fins."""
    stations = section_indices(shape, template_places(length))
    return [
        _outline(shape, stations),
        _rocker(shape, stations),
        _wire(shape),
        _bed(shape, stations),
        *(_section(shape, i) for i in stations),
        *(_fin(name, line) for name, line in fin_lines(shape)),
    ]


def _outline(shape: Sections, stations: list[int]) -> Template:
    x = (shape.x - shape.x[0]) * MM
    ring = (half_outline(shape) - [shape.x[0], 0.0]) * MM
    edge = np.stack([x, shape.edge_y * MM], 1)
    lines, notes = [], []
    for place in np.arange(100.0, x[-1], 100.0):
        lines.append(Polyline("tick", np.array([[place, 0.0], [place, 6.0]])))
        notes.append((place + 1.5, 2.0, f"{place / 10:.0f} cm"))
    lines += [Polyline("stations", np.array([[x[i], 0.0], [x[i], shape.half_width[i] * MM]])) for i in stations]
    told = set()
    for mark in marks(shape):
        points = (mark.points - [shape.x[0], 0.0]) * MM
        middle = points.mean(axis=0)
        lone = mark.group == "plugs" and middle[1] < -1.0  # a plug on one side only is marked on the half, and told
        if lone:
            points = points * [1.0, -1.0]
        elif middle[1] < -1e-6:
            continue
        points = np.stack([points[:, 0], np.maximum(points[:, 1], 0.0)], axis=1)
        lines.append(Polyline(mark.side, points, closed=mark.closed))
        if (mark.words, mark.place) not in told:
            told.add((mark.words, mark.place))
            side = ", starboard only" if lone else ""
            place = f", middle {(mark.place - shape.x[0]) * 100:.1f} cm" if mark.place is not None else ""
            top = points[np.argmax(points[:, 1])]
            notes.append((float(top[0]) + 2.0, float(top[1]) + 2.0, f"{mark.words}{place}, {mark.side}{side}"))
    return Template(
        "Half outline", (Polyline("outline", ring, closed=True), Polyline("bottom edge", edge), *lines), tuple(notes)
    )


def _rocker(shape: Sections, stations: list[int]) -> Template:
    """Keel, rail and deck over the base line, which lies level on the sheet."""
    measured, x = of_sections(shape), (shape.x - shape.x[0]) * MM
    heights = {
        name: measured.above_base(shape.x, z) * MM
        for name, z in (("keel", shape.keel), ("rail", shape.edge_z), ("deck", shape.deck))
    }
    low = min(0.0, float(heights["rail"].min()))
    lines = [Polyline(name, np.stack([x, z - low], 1)) for name, z in heights.items()]
    base = Polyline("base", np.array([[0.0, -low], [x[-1], -low]]))
    notes = [
        (float(x[-1]) * 0.5, float(np.interp(0.5 * x[-1], x, heights[n])) - low + 2.0, n) for n in ("keel", "deck")
    ]
    for i in stations:
        lines.append(Polyline("tick", np.array([[x[i], -low], [x[i], heights["deck"][i] - low]])))
        words = f"{x[i] / 10:.1f} cm: keel {heights['keel'][i]:.1f} mm, rail {heights['rail'][i]:.1f} mm"
        notes.append((float(x[i]) + 1.5, -low + 1.5, words))
    return Template("Rocker: keel, rail and deck", (*lines, base), tuple(notes))


def _wire(shape: Sections) -> Template:
    """The profile to cut the board out of the block by, for a wire that runs straight across."""
    points = wire_line(shape).points
    least = points.min(axis=0)
    words = (
        f"Hot wire, straight across the block: a wire of {WIRE * MM:.1f} mm that melts {KERF * MM:.1f} mm; "
        f"{(KERF - WIRE) / 2 * MM:.2f} mm larger than the foam all round"
    )
    line = Polyline("profile", points - least, closed=True)
    return Template("Hot-wire profile", (line,), ((12.0, float(np.ptp(points[:, 1])) / 2, words),))


def _bed(shape: Sections, stations: list[int]) -> Template:
    """The bed's long side: the bottom's centreline over the floor."""
    points = bed_line(shape).points - [shape.x[0] * MM, 0.0]
    floor = np.array([[points[-1, 0], 0.0], [points[0, 0], 0.0]])
    lines, notes = [Polyline("bed", np.concatenate([points, floor]), closed=True)], []
    for i in stations:
        place, height = points[i]
        lines.append(Polyline("tick", np.array([[place, 0.0], [place, height]])))
        notes.append((float(place) + 1.5, 2.0, f"{place / 10:.1f} cm: {height:.1f} mm"))
    return Template("Rocker bed: long side, under the centreline", tuple(lines), tuple(notes))


def _section(shape: Sections, index: int) -> Template:
    """A section, with the flats to plane before its rails are rounded by hand."""
    ring = section_ring(shape, index)
    bands, cuts = rail_bands(shape, index), first_cuts(shape, index)
    corners = [np.array([band.upper, band.lower]) * MM for band in bands]
    least = np.min([ring.min(axis=0), *(c.min(axis=0) for c in corners)], axis=0)
    moved: Array = ring - least
    middle = float(-least[0])
    cross = Polyline("centreline", np.array([[middle, 0.0], [middle, float(moved[:, 1].max())]]))
    lines = [Polyline("band", c - least) for c in corners]
    notes = []
    for band, c in zip(bands, corners, strict=True):
        place = (c - least).mean(axis=0)
        notes.append((float(place[0]) + 1.0, float(place[1]), f"{band.width * MM:.0f}"))
    words = ", ".join(f"{cut.inset * MM:.0f} mm off the square {cut.side} corner" for cut in cuts)
    if words:
        said = f"Rail bands, of a square blank: first flats at 45°, {words} both ways; widths of the flats in mm"
        notes.append((12.0, float(moved[:, 1].max()) / 2, said))  # on the first sheet, whole
    title = f"Section {(shape.x[index] - shape.x[0]) * 100:.1f} cm from the tail"
    return Template(title, (Polyline("section", moved, closed=True), cross, *lines), tuple(notes))


def _fin(name: str, line: Polyline) -> Template:
    """A fin with what is set into the bottom, and the line where it leaves it."""
    least = line.points.min(axis=0)
    points = line.points - least
    root = Polyline("base", np.array([[0.0, -least[1]], [float(points[:, 0].max()), -least[1]]]))
    return Template(
        f"Fin, {name}", (Polyline("fin", points, closed=True), root), ((2.0, -float(least[1]) + 2.0, "bottom"),)
    )


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
        canvas.setLineWidth((0.18 if line.layer in THIN else 0.35) * mm)
        canvas.setDash(DASHES.get(line.layer, []))
        path = canvas.beginPath()
        path.moveTo((line.points[0, 0] + dx) * mm, (line.points[0, 1] + dy) * mm)
        for px, py in line.points[1:]:
            path.lineTo((px + dx) * mm, (py + dy) * mm)
        if line.closed:
            path.close()
        canvas.drawPath(path)
    canvas.setDash([])
    for px, py, words in template.notes:
        draw(canvas, (px + dx) * mm, (py + dy) * mm, words, 6)
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
    draw(canvas, left * mm, (y + 3) * mm, MEASURE, 7)
    draw(canvas, left * mm, (y - 4.5) * mm, label, 7)
    draw(canvas, left * mm, (y - 8) * mm, CAUTION, 7)
    canvas.showPage()
