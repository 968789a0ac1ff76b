"""What a construction is made of, in rows and words, and its parts changed: laid, switched, moved, dropped."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from kelvor.core.base.units import Quantity, System, text
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.levers.additions import numbered_name
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.construction import Coat, Construction, Ply, Stringer, Zone
from kelvor.ui.shown.shown import Row

Part = Ply | Stringer | Coat
NewPart = Callable[[Board, set[str]], Part]


def _patch(name: str, cloth: str, zone: Zone, place: Callable[[Board], float], half: float, width: float) -> NewPart:
    def make(board: Board, taken: set[str]) -> Part:
        x = place(board)
        start, end = (Place("tail", round(p, 3)) for p in (max(x - half, 0.0), min(x + half, board.length)))
        return Ply(name=numbered_name(name, taken), cloth=cloth, zone=zone, start=start, end=end, width=width)

    return make


def _boxes(board: Board) -> float:
    if board.mast_x is not None:
        return board.mast_x
    boxes = board.fittings.fin_boxes
    return max(b.at.x(board.length) for b in boxes) if boxes else 0.3


NEW_PARTS: tuple[tuple[str, NewPart], ...] = (
    ("Layer over the deck", lambda b, t: Ply(name=numbered_name("Deck layer", t), cloth="glass4", zone="deck")),
    ("Layer over the bottom", lambda b, t: Ply(name=numbered_name("Bottom layer", t), cloth="glass4", zone="bottom")),
    ("Rail layer", lambda b, t: Ply(name=numbered_name("Rail layer", t), cloth="glass4", zone="rail")),
    ("Patch under the front foot", _patch("Foot patch", "carbon160", "deck", lambda b: 0.58 * b.length, 0.15, 0.0)),
    ("Patch around the boxes", _patch("Box patch", "carbon_biax150", "bottom", _boxes, 0.22, 0.26)),
    ("Strip to tune the tail", _patch("Tail strip", "carbon_ud150", "bottom", lambda b: 0.2 * b.length, 0.25, 0.10)),
    (
        "Centre stringer",
        lambda b, t: Stringer(name=numbered_name("Centre stringer", t), material="poplar", width=0.004),
    ),
    (
        "Perimeter stringer",
        lambda b, t: Stringer(name=numbered_name("Perimeter stringer", t), material="balsa", width=0.006, rail=True),
    ),
    (
        "Composite stringer",
        lambda b, t: Stringer(name=numbered_name("Composite stringer", t), material="pvc80", width=0.010),
    ),
    ("Side wall", lambda b, t: Stringer(name=numbered_name("Side wall", t), material="abs", width=0.008, rail=True)),
    ("Seal coat on the foam", lambda b, t: Coat(name=numbered_name("Seal coat", t), areal_mass=0.08)),
    ("Coat of resin", lambda b, t: Coat(name=numbered_name("Hot coat", t), areal_mass=0.16)),
    ("Paint", lambda b, t: Coat(name=numbered_name("Paint", t), areal_mass=0.09)),
)
"""What can be added to a construction: words, and how it begins (common practice, no source)."""


def ply_words(ply: Ply, board: Board, table: MaterialTable, system: System) -> str:
    """A layer in words: how many, of what, where."""
    where = f"{ply.zone}"
    if ply.start is not None or ply.end is not None:
        start = 0.0 if ply.start is None else ply.start.x(board.length, board.mast_x)
        end = board.length if ply.end is None else ply.end.x(board.length, board.mast_x)
        where += (
            f", {text(max(start, 0.0), Quantity.LENGTH, system)} to "
            f"{text(min(end, board.length), Quantity.LENGTH, system)}"
        )
    if ply.width > 0:
        where += f", {text(ply.width, Quantity.LENGTH, system)} wide"
    return f"{ply.count} × {table.cloth(ply.cloth).name}, {where}"


def part_rows(construction: Construction | None, board: Board, table: MaterialTable, system: System) -> list[Row]:
    """Layers from the core outward, then stringers, walls and coats."""
    if construction is None:
        return []
    rows = [
        Row(
            f"ply{i}",
            p.name + ("" if p.on else ", off"),
            f"{p.count} × {table.cloth(p.cloth).name}",
            tip=ply_words(p, board, table, system),
            struck=not p.on,
        )
        for i, p in enumerate(construction.plies)
    ]
    if construction.stringers:
        rows.append(Row("", "Stringers and walls"))
    for i, item in enumerate(construction.stringers):
        words = f"{table.stock(item.material).name}, {text(item.width, Quantity.DEPTH, system)}"
        rows.append(Row(f"stringer{i}", item.name + ("" if item.on else ", off"), words, struck=not item.on))
    if construction.coats:
        rows.append(Row("", "Coats"))
    rows += [
        Row(f"coat{i}", c.name, f"{text(c.areal_mass, Quantity.AREAL_MASS, system)}")
        for i, c in enumerate(construction.coats)
    ]
    return rows


def _found(construction: Construction, key: str) -> tuple[str, int, tuple[Part, ...]] | None:
    """The tuple of parts a row's key points into, its name in the construction and the index; None without a part."""
    kind, digits = key.rstrip("0123456789"), key.lstrip("abcdefghijklmnopqrstuvwxyz")
    field = {"ply": "plies", "stringer": "stringers", "coat": "coats"}.get(kind, "")
    parts: tuple[Part, ...] = getattr(construction, field) if field else ()
    return (field, int(digits), parts) if digits and int(digits) < len(parts) else None


def part_of(construction: Construction | None, key: str) -> Part | None:
    """The part a row's key names."""
    found = None if construction is None else _found(construction, key)
    return None if found is None else found[2][found[1]]


def with_part(construction: Construction, key: str, part: Part | None) -> Construction:
    """A construction with a part replaced, or dropped."""
    found = _found(construction, key)
    if found is None:
        return construction
    field, at, parts = found
    changed = (*parts[:at], *(() if part is None else (part,)), *parts[at + 1 :])
    return replace(construction, **{field: changed})  # type: ignore[arg-type]


def with_new_part(construction: Construction, make: NewPart, board: Board) -> tuple[Construction, str]:
    """A construction with one part more, and the key of its row."""
    parts: tuple[Part, ...] = (*construction.plies, *construction.stringers, *construction.coats)
    part = make(board, {p.name for p in parts})
    if isinstance(part, Ply):
        return replace(construction, plies=(*construction.plies, part)), f"ply{len(construction.plies)}"
    if isinstance(part, Stringer):
        return replace(
            construction, stringers=(*construction.stringers, part)
        ), f"stringer{len(construction.stringers)}"
    return replace(construction, coats=(*construction.coats, part)), f"coat{len(construction.coats)}"


def moved_inward(construction: Construction, key: str) -> tuple[Construction, str]:
    """A construction with a layer one place nearer the core, and the key of its row; the innermost stays."""
    found = _found(construction, key)
    if found is None or found[0] != "plies" or found[1] == 0:
        return construction, key
    at, plies = found[1], list(construction.plies)
    plies[at - 1], plies[at] = plies[at], plies[at - 1]
    return replace(construction, plies=tuple(plies)), f"ply{at - 1}"
