"""Plan, profile and sections as named polylines in millimetres, and as DXF, SVG and CSV."""

from __future__ import annotations

import csv
from pathlib import Path
from xml.sax.saxutils import escape

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.surface.section_view import outline_ring
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.templates.cutting_out import rocker_bed, wire_profile
from kelvor.core.templates.marking import marks, template_places
from kelvor.exchange.dxf import STAMP_LAYER, new_drawing
from kelvor.exchange.tables import plain_cell

MM = 1000.0


@frozen(eq=False)
class Polyline:
    """A polyline (n, 2) [mm] on a named layer."""

    layer: str
    points: Array
    closed: bool = False


def plan_lines(shape: Sections) -> list[Polyline]:
    """Outline, bottom edge, deck edge and centreline seen from above: x along, y to port."""
    found = [Polyline("outline", outline_ring(shape) * MM, closed=True)]
    for layer, half in (("bottom edge", shape.edge_y), ("deck edge", shape.deck_edge_y)):
        x, y = shape.x * MM, half * MM
        ring = np.concatenate([np.stack([x, y], 1), np.stack([x, -y], 1)[::-1]])
        found.append(Polyline(layer, ring, closed=True))
    ends = np.array([[shape.x[0] * MM, 0.0], [shape.x[-1] * MM, 0.0]])
    return [*found, Polyline("centreline", ends)]


def mark_lines(shape: Sections) -> list[Polyline]:
    """What is marked in plan, a layer for each kind of thing and face: x along, y to port."""
    return [Polyline(f"{mark.group} {mark.side}", mark.points * MM, closed=mark.closed) for mark in marks(shape)]


def station_lines(shape: Sections, length: float) -> list[Polyline]:
    """Lines across the plan where sections are drawn."""
    found = []
    for i in section_indices(shape, template_places(length)):
        x, y = float(shape.x[i]) * MM, float(shape.half_width[i]) * MM
        found.append(Polyline("stations", np.array([[x, -y], [x, y]])))
    return found


def base_line(shape: Sections) -> Polyline:
    """The base line seen from the side: what rocker is measured from."""
    slope = shape.board.base.slope
    low = float(np.min(shape.keel - slope * shape.x))
    ends = shape.x[[0, -1]]
    return Polyline("base", np.stack([ends, low + slope * ends], axis=1) * MM)


def fin_lines(shape: Sections) -> list[tuple[str, Polyline]]:
    """The template of every fin, its base along the first axis, what is set into the bottom above it: name and ring."""
    found: dict[str, Polyline] = {}
    for box in shape.board.fittings.fin_boxes:
        lead, trail = box.fin.template(41)
        root = np.array([[0.0, -box.fin.set_depth], [box.fin.base, -box.fin.set_depth]])
        ring = np.concatenate([root, lead, trail[::-1]]) * MM
        found[f"{box.name}: {box.fin.name}"] = Polyline("fin", ring, closed=True)
    return list(found.items())


def profile_lines(shape: Sections) -> list[Polyline]:
    """Keel, rail and deck lines and the profile seen from the side: x along, z up."""
    x = shape.x * MM
    rows = (("keel", shape.keel), ("rail", shape.edge_z), ("apex", shape.apex_z), ("deck", shape.deck))
    return [Polyline(name, np.stack([x, z * MM], 1)) for name, z in rows]


def section_ring(shape: Sections, index: int) -> Array:
    """One section as a closed ring (n, 2) [mm]: y to port, z up."""
    y, z = shape.y[index] * MM, shape.z[index] * MM
    port = np.stack([y, z], 1)
    ring = np.concatenate([port, np.stack([-y, z], 1)[-2:0:-1]])
    keep = np.r_[True, np.hypot(*np.diff(ring, axis=0).T) > 1e-4]
    return ring[keep]


def section_indices(shape: Sections, places: list[float]) -> list[int]:
    """The stations nearest to places [m]."""
    return [int(np.argmin(np.abs(shape.x - place))) for place in places]


def wire_line(shape: Sections) -> Polyline:
    """The template for a hot wire that runs across [mm]."""
    return Polyline("hot wire", wire_profile(shape) * MM, closed=True)


def bed_line(shape: Sections) -> Polyline:
    """The upper edge of the bed for the rocker [mm]."""
    return Polyline("rocker bed", rocker_bed(shape) * MM)


def write_dxf(shape: Sections, path: Path, length: float, stamp: Stamp) -> None:
    """Plan with all that is marked on it, profile and fins below, sections to the right; one layer a kind of line, in
    millimetres.
    """
    document = new_drawing()
    document.layers.add(STAMP_LAYER)
    space = document.modelspace()
    width = 2 * float(shape.half_width.max()) * MM

    def add(line: Polyline, dx: float, dy: float, prefix: str) -> None:
        name = f"{prefix} {line.layer}".strip()
        if name not in document.layers:
            document.layers.add(name)
        space.add_lwpolyline(
            [(px + dx, py + dy) for px, py in line.points], close=line.closed, dxfattribs={"layer": name}
        )

    for line in (*plan_lines(shape), *mark_lines(shape), *station_lines(shape, length)):
        add(line, 0, 0, "plan")
    for line in (*profile_lines(shape), base_line(shape)):
        add(line, 0, -width - 200, "profile")
    for line, down in ((wire_line(shape), 1250.0), (bed_line(shape), 1700.0)):
        add(line, 0, -width - down, "")
    for i, (name, line) in enumerate(fin_lines(shape)):
        add(Polyline("fins", line.points, closed=True), i * 400.0, -width - 900, "")
        words = space.add_text(name, height=10, dxfattribs={"layer": STAMP_LAYER})
        words.set_placement((i * 400.0, -width - 900 + float(line.points[:, 1].min()) - 16))
    for i, index in enumerate(section_indices(shape, template_places(length))):
        label = f"section {shape.x[index] * MM:.0f}"
        add(Polyline(label, section_ring(shape, index), closed=True), length * MM + width, -i * 160.0, "")
    space.add_text(stamp.words, height=10, dxfattribs={"layer": STAMP_LAYER}).set_placement((0.0, width / 2 + 40.0))
    document.saveas(path)


def write_svg(shape: Sections, path: Path, length: float, stamp: Stamp) -> None:
    """The same three drawings at full size: one user unit is one millimetre."""
    width = 2 * float(shape.half_width.max()) * MM
    places = section_indices(shape, template_places(length))
    top = width / 2 + 20
    parts: list[str] = []

    def add(line: Polyline, dx: float, dy: float, group: str) -> None:
        points = " ".join(f"{px + dx:.3f},{dy - py:.3f}" for px, py in line.points)
        tag = "polygon" if line.closed else "polyline"
        parts.append(f'<{tag} class="{escape(group)}" data-layer="{escape(line.layer)}" points="{points}"/>')

    for line in (*plan_lines(shape), *mark_lines(shape), *station_lines(shape, length)):
        add(line, 20, top, "plan")
    for line in (*profile_lines(shape), base_line(shape)):
        add(line, 20, top + width / 2 + 220, "profile")
    for i, index in enumerate(places):
        add(
            Polyline(f"section {shape.x[index] * MM:.0f}", section_ring(shape, index), closed=True),
            20 + width / 2,
            top + width / 2 + 460 + 200 * i,
            "section",
        )
    high = top + width / 2 + 460 + 200 * len(places)
    wide = length * MM + 40
    text = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.2f}mm" height="{high:.2f}mm" '
        f'viewBox="0 0 {wide:.2f} {high:.2f}" fill="none" stroke="black" stroke-width="0.4">\n'
        + f"<desc>{escape(stamp.words)}</desc>\n"
        + '<text x="20" y="14" font-size="8" font-family="sans-serif" fill="black" stroke="none">'
        + f"{escape(stamp.words)}</text>\n"
        + "\n".join(parts)
        + "\n</svg>\n"
    )
    path.write_text(text, encoding="utf-8")


OFFSETS = ("station", "half_width", "notch_half_width", "bottom_edge_half_width", "deck_edge_half_width", "keel",
           "bottom_edge", "apex", "deck",
           "thickness")  # fmt: skip


def write_csv(shape: Sections, path: Path, stamp: Stamp) -> None:
    """An offset table in millimetres: one row a station; the stamp in a column of its own."""
    columns = (
        shape.x,
        shape.half_width,
        shape.inner,
        shape.edge_y,
        shape.deck_edge_y,
        shape.keel,
        shape.edge_z,
        shape.apex_z,
        shape.deck,
        shape.deck - shape.keel,
    )
    with open(path, "w", newline="", encoding="utf-8") as file:
        writer = csv.writer(file)
        writer.writerow([*(f"{name}_mm" for name in OFFSETS), "stamp"])
        for i, row in enumerate(zip(*columns, strict=True)):
            writer.writerow([*(f"{float(value) * MM:.3f}" for value in row), "" if i else plain_cell(stamp.words)])
