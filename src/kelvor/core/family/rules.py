"""First rules of sizing by discipline, with the schools' reasons. They are shown and can be changed; none is a law.

All are common practice, no source. Beside them stands a law of geometry: a board that is only scaled has powers of 1
for its litres, 2/3 for its areas and 1/3 for its lengths against the weight it carries.
"""

from __future__ import annotations

import math

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import InputError
from kelvor.core.family.measures import check_about, levers_about
from kelvor.core.register.kinds.family import Law, SizeRule
from kelvor.core.shape.board import Board

DEG = math.pi / 180


Power = tuple[float, str]
"""A power of the rider's weight, and why."""
_CLASS, _STANCE = "a class fixes the length", "stance and landing want a little"

_SIZES: dict[Discipline, tuple[Power, Power, Power]] = {
    "wing foil": ((1.0, "the rider kneels afloat, so litres go with weight"),
                  (0.28, "length grows least, for swing weight"),
                  (0.40, "a heavier rider stands wider and needs more righting")),
    "kite foil": ((0.8, "the kite carries the rider at rest"),
                  (0.25, "short for swing weight"),
                  (0.30, "leverage for the feet, no more")),
    "downwind foil": ((1.0, "the rider paddles it up afloat"),
                      (0.35, "length gets it going"),
                      (0.22, "a narrow board paddles up")),
    "wind foil": ((0.8, "the rig lifts part of the rider"),
                  (0.10, "length stays within the gybe"),
                  (0.40, "width is leverage")),
    "slalom": ((0.8, "the sail carries part of the weight once it planes"),
               (0.04, "length adds little once it planes"),
               (0.45, "width follows sail and rider; a class may cap it")),
    "course racing": ((0.6, "much sail carries much of the weight"),
                      (0.04, "length is near its cap already"),
                      (0.15, "width is at its cap already")),
    "wave windsurf": ((0.7, "just enough to float"),
                      (0.08, "a short board turns"),
                      (0.22, "width planes early, and slows the turn from rail to rail")),
    "kite surf": ((0.8, "the kite carries; planing area goes with weight"),
                  (0.15, "length planes and holds a line"),
                  (0.16, "width least, to keep the rail")),
    "twin tip": ((0.7, "it carries nobody at rest; litres follow the area"),
                 (0.16, "edge with weight"),
                 (0.20, "area with weight, more than edge")),
    "paddle surf": ((1.0, "the rider stands afloat, so litres go with weight"),
                    (0.28, "glide with weight; too long does not turn"),
                    (0.24, "righting with width")),
    "paddle race": ((1.0, "the rider stands afloat, so litres go with weight"),
                    (0.0, _CLASS),
                    (0.30, "width rights the rider; more is drag")),
    "prone race": ((0.9, "the rider lies afloat, so litres go nearly with weight"),
                   (0.0, _CLASS),
                   (0.20, "shoulders and arms set the width")),
    "wakeboard": ((0.6, "the boat pulls: litres matter little"),
                  (0.14, _STANCE),
                  (0.14, _STANCE)),
    "wake surf": ((0.8, "the wave carries; planing area goes with weight"),
                  (0.20, "length holds the pocket"),
                  (0.20, "planing area with weight")),
}  # fmt: skip
"""Litres, length and width of each discipline."""

_COMMON: tuple[tuple[str, Law, float, str], ...] = (
    ("width_1ft_tail", "with width", 0.8, "a foot is a foot on every size; the tail grows less than the middle"),
    ("width_1ft_nose", "with width", 1.0, "the nose grows with the middle"),
    ("nose_rocker", "with length", 0.5, "longer boards carry less rocker for their length"),
    ("tail_rocker", "stays", 0.0, "chop is the same for all sizes"),
    ("ruler", "with weight", 0.50, "the flat carries the weight: it grows more than the length"),
    ("panel V", "per 10 kg", -0.3 * DEG, "a wider board needs less V for the same lift at the rail"),
    ("inverted V", "per 10 kg", 0.15 * DEG, "more weight, more hold"),
    ("hollows", "with width", 1.0, "the same hollow for its width"),
    ("side bevels", "with width", 1.2, "there is more to lean past"),
    ("cut-outs, width", "with width", 1.7, "a wide tail is more than speed needs: cut-outs grow faster than the width"),
    ("cut-outs, length", "with width", 1.0, "as far forward as the tail is wide"),
    ("tail cut, angle", "stays", 0.0, "pumping asks for the same angle"),
    ("tail cut, hinge", "with length", 0.6, "behind the foil, which stays"),
    ("channels, length", "with length", 0.8, "beside the fins, which stay"),
    ("fins, span", "with width", 0.9, "span follows the width it has to hold down"),
    ("fins, base", "with width", 0.7, "boxes come in steps: bases grow less"),
    ("stance", "with weight", 0.18, "heavier riders are taller, and stand wider"),
    ("tracks", "stays", 0.0, "mast to strap is what the feet know"),
    ("mast_track.at", "with length", 0.8, "between the middle and the tail it is felt from"),
)  # fmt: skip


def first_rules(board: Board, discipline: Discipline) -> tuple[SizeRule, ...]:
    """The rules to begin with: those this board has something for."""
    volume, length, width = _SIZES[discipline]
    rows: list[tuple[str, Law, float, str]] = [
        ("volume", "with weight", *volume),
        ("length", "with weight", *length),
        ("width", "with weight", *width),
        *_COMMON,
    ]
    if board.mirrored:
        rows = [row for row in rows if row[0] not in ("width_1ft_tail", "width_1ft_nose", "tail_rocker")]
        rows.append(("width_1ft_tail", "with width", 0.6, "the tips release and slide: they grow less than the middle"))
    return tuple(
        SizeRule(about=about, law=law, amount=amount, why=why)
        for about, law, amount, why in rows
        if any(math.isfinite(lever.read(board)) for lever in levers_about(board, about))
    )


TIED = (frozenset({"planform_area", "length_times_width", "width"}), frozenset({"volume", "thickness"}))
"""Measures of which one decides the others."""


def check_rules(rules: tuple[SizeRule, ...], board: Board) -> None:
    """Whether rules can be followed together.

    Raises
    ------
    InputError
        Naming the rule that is about nothing, is there twice, or says again what another says.
    """
    seen: dict[str, int] = {}
    for i, rule in enumerate(rules, 1):
        check_about(rule.about, board)
        if rule.about in seen:
            raise InputError(
                f"“{rule.about}” is ruled twice", where=f"rules {seen[rule.about]} and {i}", accepts="Take one off"
            )
        seen[rule.about] = i
        if rule.law != "per 10 kg" and not -4 <= rule.amount <= 4:
            raise InputError(
                f"a power of {rule.amount:g} makes no board", where=f"rule {i}, {rule.about}", accepts="Give −4 to 4"
            )
    for tied in TIED:
        both = [about for about in seen if about in tied]
        if len(both) > 1:
            raise InputError(
                f"{both[0]} and {both[1]} decide each other, and both are ruled",
                where="rules of sizing",
                accepts="Take one of them off",
            )
