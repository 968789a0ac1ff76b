"""Levers: what a designer pulls, as data. Each reads a board and makes a new one from a typed value."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import FOOT, Quantity
from kelvor.core.base.values import frozen
from kelvor.core.levers.fields import with_path
from kelvor.core.levers.lever import Lever, Read, Set
from kelvor.core.levers.locks import (
    ALONG,
    Change,
    thickest,
    volume_of,
    wide_point_of,
    widest,
    with_locks_held,
    with_volume,
)
from kelvor.core.levers.parts import levers_of_parts
from kelvor.core.levers.rocker_lines import ROCKER_LINES, RockerLine, line_height, with_line_height
from kelvor.core.levers.typed_measures import with_batten_at, with_wide_point, with_widest, with_width_at
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Ruler
from kelvor.core.shape.curves.outline import half_width, inner_edge
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.edits import (
    with_length,
    with_nose_cut,
    with_tail_cut,
    with_thickness_scaled,
)
from kelvor.core.shape.surface.sections import Resolution


@frozen
class Pulled:
    """The board after a lever was set, and all that changed."""

    board: Board
    changes: tuple[Change, ...]


TOLD_BESIDE = 1e-4
"""What moves beside a lever by less is not told [m]."""


def pull_lever(board: Board, lever: Lever, value: float) -> Pulled:
    """Set a lever and hold the locks.

    Raises
    ------
    RefusedEdit
        When a lock or the shape does not allow it.
    """
    if not math.isfinite(value):
        raise RefusedEdit(f"{lever.label} needs a number.")
    before = lever.read(board)
    held = with_locks_held(board, lever.set(board, value), lever.sets)
    if board.mirrored:  # mirroring one half bends the other a little: aim again until the lever reads what was asked
        aim = value
        for _ in range(4):
            missed = value - lever.read(held.board)
            if not math.isfinite(missed) or abs(missed) <= 0.01 * abs(lever.step):
                break
            aim += missed
            held = with_locks_held(board, lever.set(board, aim), lever.sets)
    after = lever.read(held.board)
    label = f"{lever.label}: {lever.choices[round(after)]}" if lever.choices else lever.label
    beside = [(words, read(board), read(held.board)) for words, read in lever.beside]
    moved = (Change(words, lever.quantity, was, now) for words, was, now in beside if abs(now - was) > TOLD_BESIDE)
    return Pulled(held.board, (Change(label, lever.quantity, before, after), *moved, *held.paid))


def pulled_by(board: Board, lever: Lever, steps: float) -> Board:
    """The board with a lever moved by so many fair steps from what it reads, and its locks held; what changed is not
    told, which saves reading it twice more.

    Raises
    ------
    RefusedEdit
        When a lock or the shape does not allow it.
    """
    value = lever.read(board) + steps * lever.step
    if board.mirrored or not math.isfinite(value):
        return pull_lever(board, lever, value).board
    return with_locks_held(board, lever.set(board, value), lever.sets).board


def planform_of(board: Board) -> float:
    """Area inside the outline [m²], notches taken off."""
    x = np.linspace(0.0, board.length, 801)
    half = np.maximum(half_width(board.outline, board.length, x), 0.0) - inner_edge(board.outline, board.length, x)
    return float(2 * np.trapezoid(np.maximum(half, 0.0), x))


def _with_planform(board: Board, area: float) -> Board:
    if not 0.05 <= area <= 4.0:
        raise RefusedEdit("A planform of 500 to 40 000 cm² is accepted.")
    for _ in range(4):  # corners and notches keep their size, so not quite in proportion
        board = _grown(board, area / planform_of(board))
    return board


def _with_rectangle(board: Board, area: float) -> Board:
    return _grown(board, area / (board.length * widest(board)))


def _grown(board: Board, share: float) -> Board:
    """Wider by a share; or longer, while the width is held."""
    if "width" in board.locks.measures:
        return _length_through_outline(board, board.length * share)
    return _positive(with_widest, "The width", 0.15, 1.4)(board, widest(board) * share)


def _with_wide_point(board: Board, x: float) -> Board:
    if board.mirrored:
        raise RefusedEdit("A board that is the same end for end is widest in its middle. Let its ends differ first.")
    return with_wide_point(board, x)


def _set_line(line: RockerLine, at: Callable[[Board], float]) -> Set:
    """Typing a rocker line at a place; what takes up the change is the board's absorber, the rocker for the keel."""
    keel = line == "keel"

    def set_(board: Board, value: float) -> Board:
        if not -0.05 <= value <= 0.6:
            raise RefusedEdit(f"A rocker of {value * 1000:.0f} mm cannot be drawn. Give −50 to 600 mm.")
        return with_line_height(
            board, line, at(board), value, "rocker" if keel else board.locks.absorber, board.locks.reach
        )

    return set_


def _lines_beside(line: RockerLine, at: Callable[[Board], float]) -> tuple[tuple[str, Read], ...]:
    """The other rocker lines at a place, which a step tells where they moved."""

    def read(other: RockerLine) -> Read:
        return lambda board: line_height(board, other, at(board))

    return tuple((f"{ALONG}{other} line there", read(other)) for other in ROCKER_LINES if other != line)


def _line_levers(line: RockerLine) -> tuple[Lever, ...]:
    """Heights of a rocker line: of the keel at the tips, of mid and rail beside them, since at a closed tip the three
    are one.
    """
    places = ((0.0, "", ""),) if line == "keel" else ((FOOT, "", "one foot off"), (0.15, "_15cm", "15 cm off"))
    found = []
    for off, key, words in places:
        for nose in (True, False):

            def at(board: Board, off: float = off, nose: bool = nose) -> float:
                return board.length - off if nose else off

            def read(board: Board, at: Callable[[Board], float] = at) -> float:
                return line_height(board, line, at(board))

            set_ = _set_line(line, at)

            def ruled(board: Board, value: float, nose: bool = nose, set_: Set = set_) -> Board:
                weights = board.rocker.weights
                beside = weights[-2].ruler if nose else weights[0].ruler
                if beside is not None and (line == "keel" or board.locks.absorber == "rocker"):
                    raise RefusedEdit("A ruler lies at that end. Put a weight at its end, so that the rest can bend.")
                return set_(board, value)

            end = "nose" if nose else "tail"
            label = end.capitalize() if line == "keel" else f"{end.capitalize()} {line}, {words}"
            found.append(
                Lever(
                    f"{end}_rocker{'' if line == 'keel' else f'_{line}'}{key}",
                    label,
                    "Rocker",
                    D,
                    0.002 if line != "keel" else 0.01 if nose else 0.005,
                    read,
                    ruled,
                    "More clears chop and lets the nose down later; it costs glide and early planing."
                    if nose
                    else "More frees the tail to be pushed down; less keeps the flat long.",
                    beside=() if line == "keel" else _lines_beside(line, at),
                )
            )
    return tuple(found)


def _ruler_index(batten: Batten) -> int | None:
    runs = [(batten.weights[i + 1].x - w.x, i) for i, w in enumerate(batten.weights[:-1]) if w.ruler is not None]
    return max(runs)[1] if runs else None


_RULED = {"ruler": "rocker", "outline_ruler": "outline.batten"}
"""The levers of a ruler, and the batten it lies on."""


def _batten(board: Board, path: str) -> Batten:
    return board.rocker if path == "rocker" else board.outline.batten


def _ruler_length(board: Board, path: str) -> float:
    batten = _batten(board, path)
    i = _ruler_index(batten)
    return math.nan if i is None else batten.weights[i + 1].x - batten.weights[i].x


def _with_ruler_length(board: Board, value: float, path: str) -> Board:
    batten = _batten(board, path)
    i = _ruler_index(batten)
    if i is None:
        raise RefusedEdit("There is no ruler on that line.")
    a, b = batten.weights[i], batten.weights[i + 1]
    if board.mirrored and _about_middle(board, a.x, b.x):
        return _with_ruler_about_middle(board, path, i, value)
    end = a.x + value
    limit = batten.weights[i + 2].x - 0.05 if i + 2 < len(batten.weights) else board.length
    if not value >= 0.05 or end > limit:
        raise RefusedEdit(f"The ruler can be 5 to {(limit - a.x) * 100:.0f} cm long before it meets the next weight.")
    height = a.value + (b.value - a.value) * value / (b.x - a.x)
    changed: Board = with_path(board, path, batten.with_weight(i + 1, replace(b, x=end, value=height)))
    return changed


def _about_middle(board: Board, start: float, end: float) -> bool:
    return start < board.length / 2 < end


def _with_ruler_about_middle(board: Board, path: str, i: int, value: float) -> Board:
    """A ruler across the middle of a board that is the same end for end: both its ends move."""
    batten, middle = _batten(board, path), board.length / 2
    a, b = batten.weights[i], batten.weights[i + 1]
    room = 2 * (middle - batten.weights[i - 1].x - 0.05) if i else board.length
    if not 0.05 <= value <= room:
        raise RefusedEdit(f"The ruler can be 5 to {room * 100:.0f} cm long before it meets the next weight.")
    level = (a.value + b.value) / 2
    longer = batten.with_weight(i, replace(a, x=middle - value / 2, value=level))
    changed: Board = with_path(board, path, longer.with_weight(i + 1, replace(b, x=middle + value / 2, value=level)))
    return changed


def _ruler_levers(key: str, label: str, group: str, explains: str) -> tuple[Lever, ...]:
    path = _RULED[key]
    return (
        Lever(
            key,
            label,
            group,
            L,
            0.02,
            lambda b: _ruler_length(b, path),
            lambda b, v: _with_ruler_length(b, v, path),
            explains,
        ),
        Lever(
            f"{key}_blend_fore",
            "Blend ahead of it",
            group,
            L,
            0.02,
            lambda b: _blend(b, path, fore=True),
            lambda b, v: _with_blend(b, v, path, fore=True),
            "How slowly the curve begins ahead of the straight. Short is staged, long is blended; schools differ.",
        ),
        Lever(
            f"{key}_blend_aft",
            "Blend behind it",
            group,
            L,
            0.02,
            lambda b: _blend(b, path, fore=False),
            lambda b, v: _with_blend(b, v, path, fore=False),
            "How slowly the curve begins behind the straight.",
        ),
    )


def _with_blend(board: Board, value: float, path: str, *, fore: bool) -> Board:
    batten = _batten(board, path)
    i = _ruler_index(batten)
    if i is None:
        raise RefusedEdit("There is no ruler on that line.")
    if not 0 <= value <= 1.0:
        raise RefusedEdit("A blend length lies between 0 and 100 cm.")
    weight = batten.weights[i]
    ruler = weight.ruler or Ruler()
    changed = replace(ruler, blend_fore=value) if fore else replace(ruler, blend_aft=value)
    if board.mirrored and _about_middle(board, weight.x, batten.weights[i + 1].x):
        changed = Ruler(value, value)
    result: Board = with_path(board, path, batten.with_weight(i, replace(weight, ruler=changed)))
    return result


def _blend(board: Board, path: str, *, fore: bool) -> float:
    batten = _batten(board, path)
    i = _ruler_index(batten)
    ruler = None if i is None else batten.weights[i].ruler
    return math.nan if ruler is None else ruler.blend_fore if fore else ruler.blend_aft


def _at_middle(schedule: Schedule, board: Board) -> float:
    return schedule.value(board.length / 2)


def _shifted(schedule: Schedule, board: Board, value: float) -> Schedule:
    """A schedule moved up or down so that it reads `value` at the middle of the board."""
    delta = value - _at_middle(schedule, board)
    return Schedule(tuple((x, v + delta) for x, v in schedule.points))


def _rail_lever(field: str, label: str, quantity: Quantity, step: float, explains: str) -> Lever:
    def read(board: Board) -> float:
        schedule: Schedule | None = getattr(board.rails, field)
        return math.nan if schedule is None else _at_middle(schedule, board)

    def set_(board: Board, value: float) -> Board:
        schedule = _shifted(getattr(board.rails, field), board, value)
        changed: Board = with_path(board, f"rails.{field}", schedule)
        return changed

    return Lever(f"rails.{field}", label, "Rails", quantity, step, read, set_, explains, schedule=f"rails.{field}")


def _width(x_of: Callable[[Board], float]) -> Read:
    return lambda board: float(2 * half_width(board.outline, board.length, np.array([x_of(board)]))[0])


def _length_through_outline(board: Board, value: float) -> Board:
    if not 0.6 <= value <= 6.5:
        raise RefusedEdit(f"A board {value * 100:.1f} cm long is outside what Kelvor draws. Give 60 to 650 cm.")
    return with_length(board, value)


def _positive(set_: Set, label: str, low: float, high: float) -> Set:
    def checked(board: Board, value: float) -> Board:
        if not low <= value <= high:
            raise RefusedEdit(f"{label} must lie between {low * 100:g} and {high * 100:g} cm.")
        return set_(board, value)

    return checked


L, D, A = Quantity.LENGTH, Quantity.DEPTH, Quantity.ANGLE
_FIXED: tuple[Lever, ...] = (
    Lever("length", "Length", "Outline", L, 0.02, lambda b: b.length, _length_through_outline,
          "Stretches the whole board. Longer glides and planes earlier; shorter turns and swings easier. "
          "To cut or add at one end only, use Length at… in the Board menu.", frozenset({"length"})),
    Lever("width", "Max width", "Outline", L, 0.01, widest, _positive(with_widest, "The width", 0.15, 1.4),
          "Wider stands steadier and carries more; it is slower rail to rail and touches sooner when it leans.",
          frozenset({"width"})),
    Lever("width_1ft_tail", "Wide one foot off tail", "Outline", L, 0.01, _width(lambda b: FOOT),
          _positive(lambda b, v: with_width_at(b, FOOT, v), "The width", 0.05, 1.4),
          "A wide tail planes early and gives confidence stepping back; pulled in, it is quicker rail to rail. "
          "Schools differ: wide or pulled in."),
    Lever("width_1ft_nose", "Wide one foot off nose", "Outline", L, 0.01, _width(lambda b: b.length - FOOT),
          _positive(lambda b, v: with_width_at(b, b.length - FOOT, v), "The width", 0.05, 1.4),
          "A wide nose climbs early and recovers; it costs swing weight and catches wind."),
    Lever("planform_area", "Planform area", "Outline", Quantity.AREA, 0.02, planform_of, _with_planform,
          "The true area inside the outline; every width in proportion, or the length while the width is held. "
          "More planes earlier and stands steadier."),
    Lever("length_times_width", "Length × width", "Outline", Quantity.AREA, 0.02, lambda b: b.length * widest(b),
    _with_rectangle,
          "Changes the width, or the length while the width is held.", frozenset({"length_times_width"})),
    Lever("wide_point", "Wide point, from tail", "Outline", L, 0.02, wide_point_of, _with_wide_point,
          "Curve is placed, not spread: forward for glide, aft for turning from the back foot."),
    *_ruler_levers("outline_ruler", "Straight run, by ruler", "Outline",
                   "Parallel holds a line and drives upwind; it draws turns out. Straight aft locks on rail once it is "
                   "there."),
    *_line_levers("keel"), *_line_levers("mid"), *_line_levers("rail"),
    *_ruler_levers("ruler", "Flat spot, by ruler", "Rocker",
                   "A longer flat planes earlier and lands steadier; it turns and forgives less."),
    Lever("thickness", "Centre", "Thickness", L, 0.003, thickest,
          _positive(lambda b, v: with_thickness_scaled(b, v / thickest(b)), "The thickness", 0.01, 0.4),
          "Scales every thickness. Volume in the middle is what the rider stands on.", frozenset({"thickness"})),
    Lever("thickness_tail", "Tail shoulder, one foot", "Thickness", L, 0.003,
    lambda b: float(b.thickness.at(np.array([FOOT]))[0]),
          _positive(lambda b, v: with_batten_at(b, "thickness", FOOT, v), "The thickness", 0.005, 0.4),
          "Foam behind the feet lifts the tail at rest, and stands in the way when it is pushed down.",
          frozenset({"thickness"})),
    Lever("thickness_nose", "Nose shoulder, one foot", "Thickness", L, 0.003,
          lambda b: float(b.thickness.at(np.array([b.length - FOOT]))[0]),
          _positive(lambda b, v: with_batten_at(b, "thickness", b.length - FOOT, v), "The thickness", 0.005, 0.4),
          "Volume in the nose brings it back up after a dive; it adds swing weight and flatters the litre figure.",
          frozenset({"thickness"})),
    Lever("volume", "Volume", "Thickness", Quantity.VOLUME, 1e-3, lambda b: volume_of(b, Resolution.NORMAL),
    with_volume,
          "Typed here it is met by one factor on the thickness.", frozenset({"volume"})),
    Lever("crown", "Deck crown, middle", "Deck", D, 0.002, lambda b: _at_middle(b.crown, b),
          lambda b, v: replace(b, crown=_shifted(b.crown, b, v)),
          "A flat deck lets the feet reach the edge; a crowned one is stiffer and lighter at the rail.",
          schedule="crown"),
    _rail_lever("apex", "Apex, share below", Quantity.RATIO, 0.05,
                "Low and hard cuts chop and keeps volume above; high and full forgives."),
    _rail_lever("tuck", "Tuck", D, 0.004,
    "Inset of the bottom edge. More leans further before the edge touches; less planes earlier."),
    _rail_lever("edge_radius", "Edge radius", D, 0.002,
    "Crisp releases and drives; rolled forgives. Schools differ on how far forward crisp may run."),
    _rail_lever("fullness", "Fullness", Quantity.RATIO, 0.1,
    "A full rail carries volume to the edge; a lean one sinks and turns easier."),
    _rail_lever("side_wall", "Side wall, from upright", Quantity.ANGLE, math.radians(2),
          "A plain wall for thin boards: steep bites and lasts, lean is softer."),
    _rail_lever("chamfer", "Upper chamfer", D, 0.005,
    "Width of the upper rail. Wide lets the board lean and the hand reach; narrow keeps deck."),
)  # fmt: skip


_READ_BY_FIGURE = ("length", "width", "planform_area", "length_times_width", "width_1ft_tail", "width_1ft_nose",
                   "wide_point", "nose_rocker",
                   "tail_rocker",
                   *(f"{end}_rocker_{line}{off}" for line in ("mid", "rail") for off in ("", "_15cm")
                     for end in ("nose", "tail")), "volume")  # fmt: skip
_FIXED = tuple(replace(lever, figure=lever.key) if lever.key in _READ_BY_FIGURE else lever for lever in _FIXED)


GROUPS = (
    "Outline",
    "Rocker",
    "Thickness",
    "At the cursor",
    "Bottom layers",
    "Rails",
    "Deck",
    "Fins",
    "Fittings",
    "Laminate",
)
"""Groups of levers, in the order of work."""


def levers(board: Board) -> tuple[Lever, ...]:
    """All levers of this board, in the order of work."""
    laminate = _laminate_levers() if board.construction is None else []  # a construction is changed layer by layer
    shape = [
        lever
        for lever in _FIXED
        if not any(
            lever.key.startswith(name) and _ruler_index(_batten(board, path)) is None for name, path in _RULED.items()
        )
        and not (lever.key in ("rails.fullness", "rails.chamfer") and board.rails.side_wall is not None)
        and not (lever.key == "rails.side_wall" and board.rails.side_wall is None)
    ]
    return tuple(sorted(shape + levers_of_parts(board) + laminate, key=lambda lever: GROUPS.index(lever.group)))


def levers_at(x: float) -> tuple[Lever, ...]:
    """Levers of what is measured at one place [m from the tail]: width, thickness, and the three rocker lines there."""

    def here(_: Board) -> float:
        return x

    def line_lever(line: RockerLine, label: str) -> Lever:
        return Lever(
            f"at.{line}",
            label,
            "At the cursor",
            D,
            0.002,
            lambda b: line_height(b, line, x),
            _set_line(line, here),
            "Height above the base line here. Mid and rail are taken up by a layer of their own, or by what you name "
            "(menu, View, Rocker line).",
            beside=_lines_beside(line, here),
        )

    return (
        Lever(
            "at.width",
            "Width here",
            "At the cursor",
            L,
            0.01,
            _width(lambda b: x),
            _positive(lambda b, v: with_width_at(b, x, v), "The width", 0.02, 1.4),
            "Met by the smallest fair change near by.",
        ),
        Lever(
            "at.thickness",
            "Thickness here",
            "At the cursor",
            L,
            0.002,
            lambda b: float(b.thickness.at(np.array([x]))[0]),
            _positive(lambda b, v: with_batten_at(b, "thickness", x, v), "The thickness", 0.003, 0.45),
            "From the reference rocker to the deck line, met by the smallest fair change near by.",
        ),
        line_lever("keel", "Keel line here"),
        line_lever("mid", "Mid line here"),
        line_lever("rail", "Rail line here"),
    )


def _laminate_levers() -> list[Lever]:
    def skin(b: Board, v: float) -> Board:
        if not 0 <= v <= 0.01:
            raise RefusedEdit("A skin is 0 to 10 mm thick.")
        shift = v - b.skin.deck
        return replace(
            b, skin=replace(b.skin, deck=v, bottom=max(0.0, b.skin.bottom + shift), rail=max(0.0, b.skin.rail + shift))
        )

    def density(b: Board, v: float) -> Board:
        if not 5 <= v <= 1000:
            raise RefusedEdit("A core weighs 5 to 1000 kg/m³.")
        return replace(b, materials=replace(b.materials, core_density=v))

    def areal(b: Board, v: float) -> Board:
        m = b.materials
        if not 0.05 <= v <= 8:
            raise RefusedEdit("A skin weighs 50 to 8000 g/m².")
        f = v / m.deck_areal_mass
        return replace(
            b,
            materials=replace(
                m, deck_areal_mass=v, bottom_areal_mass=m.bottom_areal_mass * f, rail_areal_mass=m.rail_areal_mass * f
            ),
        )

    return [
        Lever(
            "skin",
            "Skin, deck",
            "Laminate",
            D,
            0.0002,
            lambda b: b.skin.deck,
            skin,
            "What the core is smaller than the finished board; bottom and rail move along.",
        ),
        Lever(
            "core_density",
            "Core",
            "Laminate",
            Quantity.DENSITY,
            2,
            lambda b: b.materials.core_density,
            density,
            "Foam dust and cutting: wear a mask and use extraction; hot wire never on PVC. Follow the maker's data "
            "sheet.",
        ),
        Lever(
            "areal_mass",
            "Skin mass, deck",
            "Laminate",
            Quantity.AREAL_MASS,
            0.05,
            lambda b: b.materials.deck_areal_mass,
            areal,
            "Less is quicker to lift and spin, and dents sooner. Resin and hardener sensitise skin and lungs: gloves, "
            "ventilation, cartridge mask, and the product's data sheet.",
        ),
    ]


def with_length_at(board: Board, where: str, amount: float, between: tuple[float, float] = (0.0, 0.0)) -> Pulled:
    """Cut (negative) or add `amount` [m] at the "tail" or "nose", or "between" two places [m], and hold the locks."""
    if where == "tail":
        moved, label = with_tail_cut(board, -amount), "Length, at the tail"
    elif where == "nose":
        moved, label = with_nose_cut(board, -amount), "Length, at the nose"
    else:
        start, end = between
        if not 0 <= start < end <= board.length:
            raise RefusedEdit(
                f"The two places must lie on the board, the first behind the second: 0 to {board.length * 100:.1f} cm."
            )
        moved, label = with_length(board, board.length + amount, start, end), "Length, between two places"
    held = with_locks_held(board, moved, frozenset({"length"}))
    return Pulled(held.board, (Change(label, Quantity.LENGTH, board.length, held.board.length), *held.paid))
