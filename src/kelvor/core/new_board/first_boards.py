"""First boards of every discipline, from a pattern and a size: fair already, to be shaped from there."""

from __future__ import annotations

from dataclasses import replace
from math import radians

from kelvor.core.base.disciplines import FOILING, Discipline
from kelvor.core.new_board.drawing import MM, DrawnSize, Parts
from kelvor.core.new_board.fin_parts import kite_surf_parts, slalom_parts, twin_tip_parts, wave_parts
from kelvor.core.new_board.foil_parts import downwind_parts, foil_parts, wind_foil_parts
from kelvor.core.new_board.paddled_parts import (
    paddle_race_parts,
    prone_race_parts,
    surf_parts,
    wake_surf_parts,
    wakeboard_parts,
)
from kelvor.core.new_board.patterns import PATTERNS, Pattern
from kelvor.core.shape.board import BaseKind, BaseLine, Board, Materials, Skin
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import Outline, Winger
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.rails import Rails


def patterns(discipline: Discipline) -> tuple[Pattern, ...]:
    """The schools Kelvor draws for a discipline."""
    return PATTERNS[discipline]


def first_board(
    name: str, discipline: Discipline, length: float, width: float, thickness: float, school: str = ""
) -> Board:
    """A board of this discipline, length, width and thickness [m], by a school (the first where none is named)."""
    pattern = next((p for p in PATTERNS[discipline] if p.school == school), PATTERNS[discipline][0])
    size = DrawnSize(length, width / 2, thickness)
    layers, deck_layers, fittings = _PARTS[discipline](size, pattern)
    apex, tuck, edge_aft, edge_fore, fullness, chamfer = pattern.rail
    thin = min(1.0, thickness / 0.03)
    rails = Rails(
        apex=Schedule.constant(apex),
        tuck=size.schedule((0.05, 0.6 * tuck), (0.4, tuck), (0.95, 0.9 * tuck), scale=MM),
        edge_radius=size.schedule((0.3, edge_aft), (0.8, edge_fore), scale=MM)
        if edge_aft != edge_fore
        else Schedule.constant(edge_aft * MM),
        fullness=Schedule.constant(fullness),
        chamfer=size.schedule((0.05, 0.6 * chamfer), (0.45, chamfer), (0.95, 0.7 * chamfer), scale=MM),
        side_wall=None if pattern.side_wall is None else Schedule.constant(radians(pattern.side_wall)),
    )
    wingers: tuple[Winger, ...] = ()
    if pattern.winger is not None:
        at, pull, run = pattern.winger
        wingers = (Winger(x=size.x(at), pull_in=pull * MM, run=run * MM),)
    return Board(
        name=name,
        length=length,
        outline=_outline(size, pattern, wingers),
        rocker=_rocker(size, pattern),
        thickness=Batten(tuple(Weight(size.x(x), round(v * thickness, 5)) for x, v in pattern.thickness)),
        crown=size.schedule(
            (0.0, 0.5 * pattern.crown * thin), (0.45, pattern.crown * thin), (1.0, 0.5 * pattern.crown * thin), scale=MM
        ),
        layers=layers,
        deck_layers=deck_layers,
        rails=rails,
        fittings=fittings,
        base=BaseLine(kind=_BASE.get(discipline, "middle")),
        skin=_SKIN.get(discipline, Skin()),
        materials=_MATERIALS.get(discipline, Materials()),
        mirrored=pattern.mirrored,
    )


def _outline(size: DrawnSize, pattern: Pattern, wingers: tuple[Winger, ...]) -> Outline:
    half = size.half
    weights = tuple(Weight(size.x(x), round(v * half, 5)) for x, v in pattern.outline)
    tail_half, nose_half = weights[0].value, weights[-1].value
    return Outline(
        pattern.tail,
        pattern.nose,
        Batten(weights),
        corner_radius=round(min(pattern.corner * half, 0.9 * tail_half), 4),
        tail_depth=round(pattern.depth * half, 4),
        tail_spread=round(2 * pattern.spread * half, 4),
        nose_radius=round(min(pattern.nose_corner * half, 0.9 * nose_half), 4),
        wingers=wingers,
    )


def _rocker(size: DrawnSize, pattern: Pattern) -> Batten:
    weights = [Weight(size.x(x), round(h * MM * size.length, 5)) for x, h in pattern.rocker]
    if pattern.flat is not None:
        aft, fore = (b * size.length for b in pattern.blends)
        weights[pattern.flat] = replace(weights[pattern.flat], ruler=Ruler(round(aft, 4), round(fore, 4)))
    return Batten(tuple(weights))


_PARTS: dict[Discipline, Parts] = {
    "wing foil": foil_parts,
    "kite foil": foil_parts,
    "downwind foil": downwind_parts,
    "wind foil": wind_foil_parts,
    "slalom": slalom_parts,
    "course racing": slalom_parts,
    "wave windsurf": wave_parts,
    "kite surf": kite_surf_parts,
    "twin tip": twin_tip_parts,
    "paddle surf": surf_parts,
    "paddle race": paddle_race_parts,
    "prone race": prone_race_parts,
    "wakeboard": wakeboard_parts,
    "wake surf": wake_surf_parts,
}
_BASE: dict[Discipline, BaseKind] = {
    **dict.fromkeys(FOILING, "tracks"),
    "slalom": "aft flat",
    "course racing": "aft flat",
}
_THIN = Skin(deck=0.0010, bottom=0.0010, rail=0.0012)
_SKIN: dict[Discipline, Skin] = {
    "twin tip": _THIN,
    "wakeboard": _THIN,
    "paddle race": Skin(deck=0.0008, bottom=0.0008, rail=0.0009),
}
_MATERIALS: dict[Discipline, Materials] = {
    "twin tip": Materials(core_density=330.0, deck_areal_mass=1.3, bottom_areal_mass=1.3, rail_areal_mass=1.5),
    "wakeboard": Materials(core_density=160.0, deck_areal_mass=1.5, bottom_areal_mass=1.6, rail_areal_mass=1.8),
    "kite surf": Materials(core_density=34.0, deck_areal_mass=0.95, bottom_areal_mass=0.7, rail_areal_mass=1.05),
    "wake surf": Materials(core_density=48.0, deck_areal_mass=1.0, bottom_areal_mass=0.8, rail_areal_mass=1.2),
    "paddle race": Materials(core_density=17.0, deck_areal_mass=0.95, bottom_areal_mass=0.7, rail_areal_mass=0.95),
    "prone race": Materials(core_density=19.0, deck_areal_mass=1.45, bottom_areal_mass=1.15, rail_areal_mass=1.4),
}
