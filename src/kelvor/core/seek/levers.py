"""Levers: what a designer pulls, as data. Each reads a board and makes a new one from a typed value."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from kelvor.core.errors import RefusedEdit
from kelvor.core.seek.holding import Change, hold, thickest, volume_of, wide_point_of, widest, with_volume
from kelvor.core.seek.typed import with_batten_at, with_wide_point, with_widest, with_width_at
from kelvor.core.shape.battens import Batten, Ruler
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits import with_length, with_nose_cut, with_tail_cut, with_thickness_scaled
from kelvor.core.shape.layers import CutAway, Layer, Plinth, ShapingLayer
from kelvor.core.shape.outline import half_width
from kelvor.core.shape.places import Place
from kelvor.core.shape.schedules import Schedule
from kelvor.core.shape.sections import Resolution, Sections, sections
from kelvor.core.units import FOOT, Quantity

Read = Callable[[Board], float]
Set = Callable[[Board, float], Board]


@dataclass(frozen=True, slots=True)
class Lever:
    """One lever.

    Attributes
    ----------
    explains:
        What more of it gives and costs, in the trade's words (common practice, no source).
    step:
        A fair step, in SI.
    sets:
        Measures that it types and which therefore do not pay for it.
    schedule:
        Key of the schedule it stands for, shown on the strip, or empty.
    figure:
        Key of the figure that reads the same, where there is one: a panel then need not measure again.
    """

    key: str
    label: str
    group: str
    quantity: Quantity
    step: float
    read: Read
    set: Set
    explains: str = ""
    sets: frozenset[str] = frozenset()
    schedule: str = ""
    figure: str = ""


@dataclass(frozen=True, slots=True)
class Pulled:
    """The board after a lever was set, and all that changed."""

    board: Board
    changes: tuple[Change, ...]


def pull(board: Board, lever: Lever, value: float) -> Pulled:
    """Set a lever and hold the locks.

    Raises
    ------
    RefusedEdit
        When a lock or the shape does not allow it.
    """
    if not math.isfinite(value):
        raise RefusedEdit(f"{lever.label} needs a number.")
    before = lever.read(board)
    held = hold(board, lever.set(board, value), lever.sets)
    return Pulled(held.board, (Change(lever.label, lever.quantity, before, lever.read(held.board)), *held.paid))


def _coarse(board: Board) -> Sections | None:
    shape = sections(board, Resolution.COARSE)
    return None if isinstance(shape, tuple) else shape


def _tip_height(board: Board, *, nose: bool) -> float:
    shape = _coarse(board)
    if shape is None:
        return math.nan
    slope = board.base.slope
    base = np.min(shape.keel - slope * shape.x)
    i = -1 if nose else 0
    return float((shape.keel[i] - slope * shape.x[i] - base) / math.hypot(1, slope))


def _with_tip_height(board: Board, value: float, *, nose: bool) -> Board:
    if not -0.05 <= value <= 0.6:
        raise RefusedEdit(f"A rocker of {value * 1000:.0f} mm cannot be drawn. Give −50 to 600 mm.")
    rocker = board.rocker
    i = len(rocker.weights) - 1 if nose else 0
    beside = rocker.weights[i - 1].ruler if nose else rocker.weights[0].ruler
    if beside is not None:
        raise RefusedEdit("A ruler lies at that end. Put a weight at its end, so that the rest can bend.")
    for _ in range(3):
        now = _tip_height(board, nose=nose)
        weight = board.rocker.weights[i]
        board = replace(board, rocker=board.rocker.with_weight(i, replace(weight, value=weight.value + value - now)))
    return board


def _ruler_index(batten: Batten) -> int | None:
    runs = [(batten.weights[i + 1].x - w.x, i) for i, w in enumerate(batten.weights[:-1]) if w.ruler is not None]
    return max(runs)[1] if runs else None


def _ruler_length(board: Board) -> float:
    i = _ruler_index(board.rocker)
    return math.nan if i is None else board.rocker.weights[i + 1].x - board.rocker.weights[i].x


def _with_ruler_length(board: Board, value: float) -> Board:
    rocker = board.rocker
    i = _ruler_index(rocker)
    if i is None:
        raise RefusedEdit("There is no ruler on the rocker.")
    a, b = rocker.weights[i], rocker.weights[i + 1]
    end = a.x + value
    limit = rocker.weights[i + 2].x - 0.05 if i + 2 < len(rocker.weights) else board.length
    if not value >= 0.05 or end > limit:
        raise RefusedEdit(f"The ruler can be 5 to {(limit - a.x) * 100:.0f} cm long before it meets the next weight.")
    height = a.value + (b.value - a.value) * value / (b.x - a.x)
    return replace(board, rocker=rocker.with_weight(i + 1, replace(b, x=end, value=height)))


def _with_blend(board: Board, value: float, *, fore: bool) -> Board:
    i = _ruler_index(board.rocker)
    if i is None:
        raise RefusedEdit("There is no ruler on the rocker.")
    if not 0 <= value <= 1.0:
        raise RefusedEdit("A blend length lies between 0 and 100 cm.")
    weight = board.rocker.weights[i]
    ruler = weight.ruler or Ruler()
    changed = replace(ruler, blend_fore=value) if fore else replace(ruler, blend_aft=value)
    return replace(board, rocker=board.rocker.with_weight(i, replace(weight, ruler=changed)))


def _blend(board: Board, *, fore: bool) -> float:
    i = _ruler_index(board.rocker)
    ruler = None if i is None else board.rocker.weights[i].ruler
    return math.nan if ruler is None else ruler.blend_fore if fore else ruler.blend_aft


def _layer_index(board: Board, name: str) -> int:
    return next(i for i, item in enumerate(board.layers) if item.name == name)


def with_layer(board: Board, name: str, layer: Layer) -> Board:
    """One layer, found by its name, replaced."""
    i = _layer_index(board, name)
    return replace(board, layers=(*board.layers[:i], layer, *board.layers[i + 1 :]))


def peak(schedule: Schedule) -> float:
    """The value of a schedule that is furthest from nothing."""
    return max((v for _, v in schedule.points), key=abs)


def scaled(schedule: Schedule, top: float) -> Schedule:
    """A schedule in proportion, with another greatest value; from nothing it becomes even."""
    now = peak(schedule)
    if now == 0:
        return Schedule(tuple((x, top) for x, _ in schedule.points))
    return Schedule(tuple((x, v * top / now) for x, v in schedule.points))


def _at_middle(schedule: Schedule, board: Board) -> float:
    return schedule.value(board.length / 2)


def _shifted(schedule: Schedule, board: Board, value: float) -> Schedule:
    """A schedule moved up or down so that it reads `value` at the middle of the board."""
    delta = value - _at_middle(schedule, board)
    return Schedule(tuple((x, v + delta) for x, v in schedule.points))


def _rail_lever(field: str, label: str, quantity: Quantity, step: float, explains: str) -> Lever:
    def read(board: Board) -> float:
        schedule: Schedule = getattr(board.rails, field)
        return _at_middle(schedule, board)

    def set_(board: Board, value: float) -> Board:
        schedule = _shifted(getattr(board.rails, field), board, value)
        rails = board.rails
        match field:
            case "apex":
                rails = replace(rails, apex=schedule)
            case "tuck":
                rails = replace(rails, tuck=schedule)
            case "edge_radius":
                rails = replace(rails, edge_radius=schedule)
            case "fullness":
                rails = replace(rails, fullness=schedule)
            case _:
                rails = replace(rails, chamfer=schedule)
        return replace(board, rails=rails)

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
    Lever("width", "Widest", "Outline", L, 0.01, widest, _positive(with_widest, "The width", 0.15, 1.4),
          "Wider stands steadier and carries more; it is slower rail to rail and touches sooner when it leans.",
          frozenset({"width"})),
    Lever("width_1ft_tail", "Wide one foot off tail", "Outline", L, 0.01, _width(lambda b: FOOT),
          _positive(lambda b, v: with_width_at(b, FOOT, v), "The width", 0.05, 1.4),
          "A wide tail planes early and gives confidence stepping back; pulled in, it is quicker rail to rail. "
          "Schools differ: wide or pulled in."),
    Lever("width_1ft_nose", "Wide one foot off nose", "Outline", L, 0.01, _width(lambda b: b.length - FOOT),
          _positive(lambda b, v: with_width_at(b, b.length - FOOT, v), "The width", 0.05, 1.4),
          "A wide nose climbs early and recovers; it costs swing weight and catches wind."),
    Lever("wide_point", "Wide point, from tail", "Outline", L, 0.02, wide_point_of, with_wide_point,
          "Curve is placed, not spread: forward for glide, aft for turning from the back foot."),
    Lever("nose_rocker", "Nose", "Rocker", D, 0.01, lambda b: _tip_height(b, nose=True),
          lambda b, v: _with_tip_height(b, v, nose=True),
          "More clears chop and lets the nose down later; it costs glide and early planing."),
    Lever("tail_rocker", "Tail", "Rocker", D, 0.005, lambda b: _tip_height(b, nose=False),
          lambda b, v: _with_tip_height(b, v, nose=False),
          "More frees the tail to be pushed down; less keeps the flat long."),
    Lever("ruler", "Ruler on the rocker", "Rocker", L, 0.02, _ruler_length, _with_ruler_length,
          "A longer flat planes earlier and lands steadier; it turns and forgives less."),
    Lever("ruler_blend_fore", "Blend ahead of the ruler", "Rocker", L, 0.02, lambda b: _blend(b, fore=True),
          lambda b, v: _with_blend(b, v, fore=True),
          "How slowly the curve begins ahead of the flat. Short is staged rocker, long is blended; schools differ."),
    Lever("ruler_blend_aft", "Blend behind the ruler", "Rocker", L, 0.02, lambda b: _blend(b, fore=False),
          lambda b, v: _with_blend(b, v, fore=False),
          "How slowly the curve begins behind the flat."),
    Lever("thickness", "Centre", "Thickness", L, 0.003, thickest,
          _positive(lambda b, v: with_thickness_scaled(b, v / thickest(b)), "The thickness", 0.01, 0.4),
          "Scales every thickness. Volume in the middle is what the rider stands on.", frozenset({"thickness"})),
    Lever("thickness_tail", "Tail shoulder, one foot", "Thickness", L, 0.003, lambda b: float(b.thickness.at(np.array([FOOT]))[0]),
          _positive(lambda b, v: with_batten_at(b, "thickness", FOOT, v), "The thickness", 0.005, 0.4),
          "Foam behind the feet lifts the tail at rest, and stands in the way when it is pushed down.", frozenset({"thickness"})),
    Lever("thickness_nose", "Nose shoulder, one foot", "Thickness", L, 0.003,
          lambda b: float(b.thickness.at(np.array([b.length - FOOT]))[0]),
          _positive(lambda b, v: with_batten_at(b, "thickness", b.length - FOOT, v), "The thickness", 0.005, 0.4),
          "Volume in the nose brings it back up after a dive; it adds swing weight and flatters the litre figure.",
          frozenset({"thickness"})),
    Lever("volume", "Volume", "Thickness", Quantity.VOLUME, 1e-3, lambda b: volume_of(b, Resolution.NORMAL), with_volume,
          "Typed here it is met by one factor on the thickness.", frozenset({"volume"})),
    Lever("crown", "Deck crown, middle", "Deck", D, 0.002, lambda b: _at_middle(b.crown, b),
          lambda b, v: replace(b, crown=_shifted(b.crown, b, v)),
          "A flat deck lets the feet reach the edge; a crowned one is stiffer and lighter at the rail.", schedule="crown"),
    _rail_lever("apex", "Apex, share below", Quantity.RATIO, 0.05,
                "Low and hard cuts chop and keeps volume above; high and full forgives."),
    _rail_lever("tuck", "Tuck", D, 0.004, "Inset of the bottom edge. More leans further before the edge touches; less planes earlier."),
    _rail_lever("edge_radius", "Edge radius", D, 0.002, "Crisp releases and drives; rolled forgives. Schools differ on how far forward crisp may run."),
    _rail_lever("fullness", "Fullness", Quantity.RATIO, 0.1, "A full rail carries volume to the edge; a lean one sinks and turns easier."),
    _rail_lever("chamfer", "Upper chamfer", D, 0.005, "Width of the upper rail. Wide lets the board lean and the hand reach; narrow keeps deck."),
)  # fmt: skip


_READ_BY_FIGURE = ("length", "width", "width_1ft_tail", "width_1ft_nose", "wide_point", "nose_rocker", "tail_rocker", "volume")
_FIXED = tuple(replace(lever, figure=lever.key) if lever.key in _READ_BY_FIGURE else lever for lever in _FIXED)


def levers(board: Board) -> tuple[Lever, ...]:
    """All levers of this board, in the order of work."""
    shape = [lever for lever in _FIXED if not lever.key.startswith("ruler") or _ruler_index(board.rocker) is not None]
    groups = ["Outline", "Rocker", "Thickness", "Bottom layers", "Rails", "Deck", "Fittings", "Laminate"]
    found = (
        shape + [lever for item in board.layers for lever in _layer_levers(item)] + _fitting_levers(board) + _laminate_levers()
    )
    return tuple(sorted(found, key=lambda lever: groups.index(lever.group)))


def _layer_levers(item: Layer) -> list[Lever]:
    name = item.name
    if isinstance(item, CutAway):

        def cut(board: Board) -> CutAway:
            found = board.layers[_layer_index(board, name)]
            assert isinstance(found, CutAway)
            return found

        def hinge(board: Board) -> float:
            return cut(board).hinge.x(board.length, board.mast_x)

        def set_angle(board: Board, v: float) -> Board:
            if not 0 <= v <= math.radians(45):
                raise RefusedEdit("A cut-away lies between 0 and 45°.")
            return with_layer(board, name, replace(cut(board), angle=v))

        def set_hinge(board: Board, v: float) -> Board:
            if not 0.02 <= v <= board.length - 0.1:
                raise RefusedEdit("The hinge must lie on the board.")
            moved = Place.at(v, cut(board).hinge.datum, board.length, board.mast_x)
            return with_layer(board, name, replace(cut(board), hinge=moved))

        return [
            Lever(f"layer.{name}.angle", "Tail cut angle", "Rocker", A, math.radians(1), lambda b: cut(b).angle, set_angle,
                  "More lets the tail be pushed down to pump and lift off, the box staying level; it costs flat and foam."),
            Lever(f"layer.{name}.hinge", "Tail cut hinge, from tail", "Rocker", L, 0.01, hinge, set_hinge,
                  "Further forward frees the tail sooner and shortens the flat."),
        ]  # fmt: skip
    if isinstance(item, Plinth):

        def plinth_width(board: Board) -> float:
            found = board.layers[_layer_index(board, name)]
            return found.width if isinstance(found, Plinth) else math.nan

        def set_width(board: Board, v: float) -> Board:
            found = board.layers[_layer_index(board, name)]
            if not isinstance(found, Plinth) or not 0.02 <= v <= 0.6:
                raise RefusedEdit("A plinth is 2 to 60 cm wide.")
            return with_layer(board, name, replace(found, width=v))

        return [
            Lever(
                f"layer.{name}.width",
                name,
                "Bottom layers",
                L,
                0.01,
                plinth_width,
                set_width,
                "Just as wide as the foil's plate, so it sits true while V outboard of it still lets the board lean.",
            )
        ]

    def shaping(board: Board) -> ShapingLayer:
        found = board.layers[_layer_index(board, name)]
        assert isinstance(found, ShapingLayer)
        return found

    def set_peak(board: Board, v: float) -> Board:
        layer = shaping(board)
        limit = math.radians(45) if layer.kind in ("v", "bevel") else 0.08
        if abs(v) > limit:
            raise RefusedEdit(f"{name} is too much. Keep it within {'45°' if limit > 0.1 else '80 mm'}.")
        return with_layer(board, name, replace(layer, amount=scaled(layer.amount, v)))

    angle = item.kind in ("v", "bevel")
    widths = [] if item.layout.across == "share" else [_layout_lever(name, item.layout.across)]
    return [
        *widths,
Lever(f"layer.{name}.amount", f"{name}, most", "Bottom layers", A if angle else D,
                  math.radians(1) if angle else 0.001, lambda b: peak(shaping(b).amount), set_peak, _EXPLAINS[item.kind],
                  schedule=f"layer.{name}")]  # fmt: skip


def _layout_lever(name: str, across: str) -> Lever:
    """How wide a layer lies that is laid out from the centre or from the edge."""

    def layer(board: Board) -> ShapingLayer:
        found = board.layers[_layer_index(board, name)]
        assert isinstance(found, ShapingLayer)
        return found

    def set_width(board: Board, v: float) -> Board:
        if not 0.002 <= v <= 0.7:
            raise RefusedEdit("A layer lies 2 mm to 70 cm wide.")
        item = layer(board)
        return with_layer(board, name, replace(item, layout=replace(item.layout, width=scaled(item.layout.width, v))))

    return Lever(f"layer.{name}.width", f"{name}, from the {across}", "Bottom layers", D, 0.002, lambda b: peak(layer(b).layout.width),
                 set_width, f"How wide the layer lies, measured from the {across}.")  # fmt: skip


_EXPLAINS = {
    "belly": "Round bottom: rolls freely and touches down softly; planes later and stands less steady.",
    "v": "V rolls and releases, cuts chop; it costs lift and early planing.",
    "hollow": "A hollow lifts and planes early; it catches chop and is hard to keep symmetric by hand.",
    "bevel": "An outer bevel leans further without catching, and steadies the way on and off the wind.",
}


def _fitting_levers(board: Board) -> list[Lever]:
    tracks = board.fittings.tracks
    if tracks is None:
        return []

    def read_at(b: Board) -> float:
        return math.nan if b.fittings.tracks is None else b.fittings.tracks.at.x(b.length)

    def set_at(b: Board, v: float) -> Board:
        t = b.fittings.tracks
        if t is None or not t.length / 2 <= v <= b.length - t.length / 2:
            raise RefusedEdit("The tracks must lie on the board.")
        return replace(b, fittings=replace(b.fittings, tracks=replace(t, at=Place.at(v, t.at.datum, b.length))))

    def read_mast(b: Board) -> float:
        return math.nan if b.mast_x is None else b.mast_x

    def set_mast(b: Board, v: float) -> Board:
        t = b.fittings.tracks
        if t is None:
            raise RefusedEdit("There are no tracks.")
        offset = v - t.at.x(b.length)
        if abs(offset) > t.travel + 1e-9:
            middle = t.at.x(b.length) * 100
            raise RefusedEdit(
                f"On these tracks the mast stands between {middle - t.travel * 100:.1f} and {middle + t.travel * 100:.1f} cm."
            )
        return replace(b, fittings=replace(b.fittings, tracks=replace(t, mast=offset)))

    return [
        *(_strap_lever(row.name) for row in board.fittings.straps),
        Lever("tracks", "Foil tracks, middle", "Fittings", L, 0.01, read_at, set_at,
              "Further forward lifts the nose and frees the tail; straps anchored to the mast move along."),
        Lever("mast", "Mast on the tracks", "Fittings", L, 0.01, read_mast, set_mast,
              "Where the foil stands today; the tracks give its range."),
    ]  # fmt: skip


def _strap_lever(name: str) -> Lever:
    """Where a strap row lies, from the tail; it stays anchored to its own datum."""

    def read(board: Board) -> float:
        row = next(r for r in board.fittings.straps if r.name == name)
        return row.at.x(board.length, board.mast_x)

    def set_(board: Board, v: float) -> Board:
        if not 0.02 <= v <= board.length - 0.02:
            raise RefusedEdit("A strap row must lie on the deck.")
        rows = tuple(
            replace(r, at=Place.at(v, r.at.datum, board.length, board.mast_x)) if r.name == name else r
            for r in board.fittings.straps
        )
        return replace(board, fittings=replace(board.fittings, straps=rows))

    return Lever(
        f"strap.{name}",
        name,
        "Fittings",
        L,
        0.01,
        read,
        set_,
        "Where the feet go, from the tail. It moves along with its anchor.",
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
        Lever("skin", "Skin, deck", "Laminate", D, 0.0002, lambda b: b.skin.deck, skin,
              "What the core is smaller than the finished board; bottom and rail move along."),
        Lever("core_density", "Core", "Laminate", Quantity.DENSITY, 2, lambda b: b.materials.core_density, density,
              "Foam dust and cutting: wear a mask and use extraction; hot wire never on PVC. Follow the maker's data sheet."),
        Lever("areal_mass", "Skin mass, deck", "Laminate", Quantity.AREAL_MASS, 0.05, lambda b: b.materials.deck_areal_mass, areal,
              "Less is quicker to lift and spin, and dents sooner. Resin and hardener sensitise skin and lungs: gloves, "
              "ventilation, cartridge mask, and the product's data sheet."),
    ]  # fmt: skip


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
    held = hold(board, moved, frozenset({"length"}))
    return Pulled(held.board, (Change(label, Quantity.LENGTH, board.length, held.board.length), *held.paid))
