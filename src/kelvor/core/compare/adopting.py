"""A part of another board taken onto one's own: its outline, rocker, bottom, rails, deck, fittings or construction.

Parts taken whole are stretched to the board's length, fittings keep the distance to what they are anchored to. A tail
is laid on at the tail, a nose at the nose: there the other board's weights stand in place of one's own up to the joint.
It is put where the two lie closest, and what is left there is led over on the other's side, so that one's own part
taken back is restored.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Literal, get_args

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.smooth import step
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import LEAST_GAP, Batten, Weight
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.edits.edits import with_length

Zone = Literal[
    "outline", "tail outline", "nose outline", "rocker", "tail rocker", "nose rocker", "bottom", "rails", "deck",
    "fins", "fittings", "construction",
]  # fmt: skip
ZONES: tuple[Zone, ...] = get_args(Zone)
JOINTS = (0.25, 0.60)
"""A tail or nose taken on ends between these shares of the length from its own end."""
LEADS = 0.6
"""What two lines lie apart where they are joined is led over along this share of the way from the joint to the end."""
PROBES = 71
BLENDS = 0.25
"""Two rockers are joined where they lie close and run alike: an angle counts like what it makes over this
length [m].
"""
SAME = 1e-6
"""Weights that stand this close are the same [m]."""
OTHER_ZERO = 0.01
"""Drawings whose lowest points lie further apart than this have other zeros [m]."""


@frozen
class Adopted:
    """A board with a part of another.

    Attributes
    ----------
    joint, gap, kink:
        Where an end taken on meets the board's own line [m from the tail], how far two outlines lie apart there [m],
        and by how much two rockers run apart there [rad]; NaN where that says nothing.
    stretched:
        Length of the other over the board's own.
    """

    board: Board
    joint: float = float("nan")
    gap: float = float("nan")
    kink: float = float("nan")
    stretched: float = 1.0


def adopted(own: Board, other: Board, zone: Zone) -> Adopted:
    """The board `own` with a zone of `other`.

    Raises
    ------
    RefusedEdit
        When the other board has none of it, or it does not go onto this board.
    """
    if zone in ("tail outline", "nose outline"):
        return _end_of_outline(own, other, at_tail=zone == "tail outline")
    if zone in ("tail rocker", "nose rocker"):
        return _end_of_rocker(own, other, at_tail=zone == "tail rocker")
    if zone == "construction":
        return Adopted(replace(own, construction=other.construction, skin=other.skin, materials=other.materials))
    donor = other if abs(other.length - own.length) < 1e-9 else with_length(other, own.length)
    return Adopted(_whole(own, donor, zone), stretched=other.length / own.length)


def _whole(own: Board, donor: Board, zone: Zone) -> Board:
    """A part of a board of the same length."""
    if zone == "outline":
        return replace(own, outline=donor.outline)
    if zone == "rocker":
        return replace(own, rocker=donor.rocker, base=donor.base)
    if zone == "bottom":
        return replace(own, layers=donor.layers)
    if zone == "rails":
        return replace(own, rails=donor.rails)
    if zone == "deck":
        return replace(own, thickness=donor.thickness, crown=donor.crown, deck_layers=donor.deck_layers)
    if zone == "fins":
        if not donor.fittings.fin_boxes:
            raise RefusedEdit(f"“{donor.name}” has no fins to take.")
        return replace(own, fittings=replace(own.fittings, fin_boxes=donor.fittings.fin_boxes))
    return replace(own, fittings=donor.fittings)


def _end_of_outline(own: Board, other: Board, *, at_tail: bool) -> Adopted:
    a, b = own.outline, other.outline
    shift = 0.0 if at_tail else own.length - other.length

    def apart(x: Array) -> Array:
        return half_width(b.bare(), other.length, x - shift) - half_width(a.bare(), own.length, x)

    joint = _joint(own, other, a.batten, b.batten, apart, at_tail=at_tail)
    gap = float(apart(np.array([joint]))[0])
    batten = _joined(a.batten, b.batten, joint, shift, gap, at_tail=at_tail)

    def theirs(x: float) -> bool:
        return (x < joint) == at_tail

    wingers = tuple(w for w in a.wingers if not theirs(w.x))
    taken = tuple(replace(w, x=w.x + shift) for w in b.wingers if theirs(w.x + shift))
    end = b if at_tail else a
    nose = a if at_tail else b
    outline = replace(
        a,
        batten=batten,
        wingers=tuple(sorted((*wingers, *taken), key=lambda w: w.x)),
        tail=end.tail,
        corner_radius=end.corner_radius,
        tail_depth=end.tail_depth,
        tail_spread=end.tail_spread,
        nose=nose.nose,
        nose_radius=nose.nose_radius,
        nose_depth=nose.nose_depth,
        nose_spread=nose.nose_spread,
    )
    return Adopted(replace(own, outline=outline), joint, abs(gap))


def _end_of_rocker(own: Board, other: Board, *, at_tail: bool) -> Adopted:
    """Rockers are laid on one another with their base lines level, each in the height of its own drawing; where the
    drawings' zeros are far apart, at their lowest points.
    """
    shift = 0.0 if at_tail else own.length - other.length
    tilt = own.base.slope - other.base.slope
    lows = [_low(board) for board in (own, other)]
    lift = lows[0] - lows[1] if abs(lows[0] - lows[1]) > OTHER_ZERO else 0.0
    lift += own.base.slope * shift
    laid = Batten(tuple(replace(w, value=w.value + tilt * w.x + lift) for w in other.rocker.weights))

    def apart(x: Array) -> Array:
        height, slope = (laid.at(x - shift, order) - own.rocker.at(x, order) for order in (0, 1))
        return np.hypot(height, BLENDS * slope)

    joint = _joint(own, other, own.rocker, laid, apart, at_tail=at_tail)
    at = np.array([joint])
    gap, kink = (float((laid.at(at - shift, k) - own.rocker.at(at, k))[0]) for k in (0, 1))
    joined = _joined(own.rocker, laid, joint, shift, gap, at_tail=at_tail)
    return Adopted(replace(own, rocker=joined), joint, abs(gap), float(np.arctan(abs(kink))))


def _low(board: Board) -> float:
    """Lowest height of the reference rocker over a line through the drawing's zero that rises as the base line does."""
    x = np.linspace(0.0, board.length, 4 * PROBES)
    return float((board.rocker.at(x) - board.base.slope * x).min())


def _joint(
    own: Board, other: Board, line: Batten, laid: Batten, apart: Callable[[Array], Array], *, at_tail: bool
) -> float:
    """Where the lines are least apart, of places both boards have near that end; where they are one line from some
    weight on, at that weight.
    """
    shift = 0.0 if at_tail else own.length - other.length
    pairs = list(
        zip(reversed(line.weights), reversed(laid.weights), strict=False)
        if at_tail
        else zip(line.weights, laid.weights, strict=False)
    )
    same = 0
    while same < len(pairs) and _same(pairs[same][0], pairs[same][1], shift):
        same += 1
    if 2 <= same < len(pairs):
        return pairs[same - 1][0].x
    least, most = JOINTS
    reach = np.linspace(least * own.length, min(most * own.length, 0.9 * other.length), PROBES)
    if reach[-1] <= reach[0]:
        raise RefusedEdit(f"“{other.name}” is too short for its end to be laid on.")
    x = reach if at_tail else own.length - reach
    return float(x[int(np.argmin(np.abs(apart(x))))])


def _same(a: Weight, b: Weight, shift: float) -> bool:
    return abs(a.x - b.x - shift) < SAME and abs(a.value - b.value) < SAME


def _joined(own: Batten, other: Batten, joint: float, shift: float, gap: float, *, at_tail: bool) -> Batten:
    """Weights of the other line on its side of the joint, of one's own beyond.

    What the other lies apart at the joint, `gap` [m], is led over on its side, from `LEADS` of the way to its end on.
    """
    end = 0.0 if at_tail else max(own.weights[-1].x, joint + 1e-3)
    run = LEADS * abs(joint - end)

    def led(w: Weight) -> Weight:
        x = w.x + shift
        return replace(w, x=x, value=w.value - gap * float(step(1 - abs(x - joint) / run)))

    theirs = [led(w) for w in other.weights if (w.x + shift < joint if at_tail else w.x + shift > joint)]
    if at_tail:
        first, last = (
            theirs,
            [w for w in own.weights if w.x >= joint and (not theirs or w.x > theirs[-1].x + LEAST_GAP)],
        )
    else:
        first, last = [w for w in own.weights if w.x <= joint and (not theirs or w.x < theirs[0].x - LEAST_GAP)], theirs
    if not first or not last:
        raise RefusedEdit("Of one of the two lines there is nothing left on its side of the joint.")
    return Batten((*first, *last))
