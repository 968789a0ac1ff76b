"""Sizes of a family: each made from its parent by rules, measure after measure until all of them read what they should.

Measures lean on one another (a longer flat moves the wide point's litres), so each is set in turn and the round is gone
again until every one is met to a thousandth. What a size then reads is read off the board that was made.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.units import FOOT
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.family.measures import LeverMeasure, levers_about, measure_of
from kelvor.core.family.rules import check_rules
from kelvor.core.history.merging import merged
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.lever import Lever
from kelvor.core.levers.locks import widest
from kelvor.core.levers.typed_measures import with_plan
from kelvor.core.register.kinds.family import SizeRule
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.edits import with_length, with_width_scaled
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution

CLOSE = 5e-4
"""A measure is met when it is off by no more of itself."""
ROUNDS = 12
SHORTEST, LONGEST = 0.6, 6.5
"""Boards of this length are drawn [m]."""
SMALL = 0.02
"""Where a measure is near nothing, so much of a fair step is close enough."""
BODY = 1 / 3
"""Height and stance of a rider of the same build go with this power of the mass."""
_LAST = ("thickness", "volume")
_FIRST = ("length", "width", "planform_area", "length_times_width")


@frozen
class Parent:
    """A board and the rider's mass it is for [kg]."""

    board: Board
    mass: float


@frozen
class Obeyed:
    """A measure of a size: what it should read, what it reads, and what it reads on the parent [SI]; why not, where it
    could not be followed.
    """

    rule: SizeRule
    measure: LeverMeasure
    wanted: float
    got: float
    parent: float
    refused: str = ""

    @property
    def met(self) -> bool:
        """Whether it is met to a thousandth, or a fiftieth of a fair step."""
        return not self.refused and abs(self.got - self.wanted) <= max(
            2 * CLOSE * abs(self.wanted), SMALL * abs(self.measure.step)
        )


@frozen
class MadeSize:
    """A size as it was made."""

    mass: float
    board: Board
    obeyed: tuple[Obeyed, ...]

    @property
    def missed(self) -> tuple[Obeyed, ...]:
        """Measures that could not be followed."""
        return tuple(one for one in self.obeyed if not one.met)


def ruled(rule: SizeRule, reading: float, ratio: float, longer: float, wider: float, kilograms: float) -> float:
    """What a measure of a size should read.

    Parameters
    ----------
    reading:
        On the parent [SI].
    ratio, longer, wider:
        Of riders' masses, lengths and widths, size over parent.
    kilograms:
        By which the rider is heavier.
    """
    match rule.law:
        case "with weight":
            return float(reading * ratio**rule.amount)
        case "with length":
            return float(reading * longer**rule.amount)
        case "with width":
            return float(reading * wider**rule.amount)
        case "per 10 kg":
            return reading + rule.amount * kilograms / 10
    return reading


def made_size(
    parent: Parent, rules: Sequence[SizeRule], mass: float, other: Parent | None = None, name: str = ""
) -> MadeSize:
    """A size for a rider's mass [kg]. Between two parents, what both have is interpolated with the power of mass that
    joins them, and all else is that of the nearer one.

    Raises
    ------
    InputError
        When the rules cannot be followed together, or the mass is none a family reaches to.
    RefusedEdit
        When no board of that size results.
    """
    check_rules(tuple(rules), parent.board)
    if not 0.35 <= mass / parent.mass <= 2.8:
        raise InputError(
            f"a size for {mass:.0f} kg is too far from the parent's {parent.mass:.0f} kg",
            where=name or "size",
            accepts=f"Between {parent.mass * 0.35:.0f} and {parent.mass * 2.8:.0f} kg; begin another parent beyond",
        )
    if other is not None and abs(other.mass - parent.mass) < 1:
        raise InputError(
            "two parents for the same rider make no sizes between",
            where="family",
            accepts="Give the second parent another rider's mass",
        )
    base = parent if other is None or abs(math.log(mass / parent.mass)) <= abs(math.log(mass / other.mass)) else other
    board, asked = _asked(parent, rules, mass, base, other)
    board, refused = _followed(board, asked)
    drawn = geometry(board, Resolution.COARSE)
    if isinstance(drawn, tuple):
        raise RefusedEdit(f"No board results for {mass:.0f} kg: {drawn[0].text}")
    rows = tuple(
        Obeyed(rule, measure_of(lever), wanted, lever.read(board), reading, refused.get(lever.key, ""))
        for rule, lever, wanted, reading in asked
    )
    return MadeSize(
        mass, replace(board, name=name or f"{parent.board.name} {mass:.0f} kg", locks=parent.board.locks), rows
    )


_Asked = tuple[SizeRule, Lever, float, float]


def _asked(
    parent: Parent, rules: Sequence[SizeRule], mass: float, base: Parent, other: Parent | None
) -> tuple[Board, list[_Asked]]:
    """The base board at the size's length and width, and what each lever should read."""
    ratio, free = mass / parent.mass, replace(parent.board.locks, measures=(), zones=())
    board = replace(base.board, locks=free)
    share = 0.0 if other is None else math.log(ratio) / math.log(other.mass / parent.mass)

    def wanted(rule: SizeRule, lever: Lever, longer: float, wider: float) -> float:
        reading = lever.read(parent.board)
        there = None if other is None else next((v for v in levers(other.board) if v.key == lever.key), None)
        if there is not None and other is not None:
            return _between(reading, there.read(other.board), share)
        return ruled(rule, reading, ratio, longer, wider, mass - parent.mass)

    by_about = {rule.about: rule for rule in rules}
    length = parent.board.length
    if "length" in by_about:
        length = wanted(by_about["length"], levers_about(parent.board, "length")[0], 1.0, 1.0)
    if not SHORTEST <= length <= LONGEST:
        raise RefusedEdit(
            f"A size for {mass:.0f} kg would be {length * 100:.0f} cm long; boards of {SHORTEST * 100:.0f} to "
            f"{LONGEST * 100:.0f} cm are drawn."
        )
    longer = length / parent.board.length
    board = with_length(board, length) if abs(length - board.length) > 1e-6 else board
    wide = widest(parent.board)
    width = (
        wanted(by_about["width"], levers_about(parent.board, "width")[0], longer, 1.0) if "width" in by_about else wide
    )
    if abs(width - widest(board)) > 1e-6:
        board = with_width_scaled(board, width / widest(board))
    asked = [
        (rule, lever, wanted(rule, lever, longer, width / wide), lever.read(parent.board))
        for rule in sorted(rules, key=_turn)
        for lever in levers_about(parent.board, rule.about)
        if math.isfinite(lever.read(parent.board)) and any(v.key == lever.key for v in levers(board))
    ]
    return board, asked


def _turn(rule: SizeRule) -> int:
    return 0 if rule.about in _FIRST else 2 if rule.about in _LAST else 1


def _between(one: float, two: float, share: float) -> float:
    """A measure between two parents: by a power where both are above nothing, else straight."""
    if one > 0 and two > 0:
        return float(one * (two / one) ** share)
    return one + share * (two - one)


def _followed(board: Board, asked: Sequence[_Asked]) -> tuple[Board, dict[str, str]]:
    """Set every lever in turn until all read what they should; levers that are refused, and why. What shapes the plan
    is set at once: one after the other they would pull at each other for long.
    """
    refused: dict[str, str] = {}
    plan = {lever.key: wanted for _, lever, wanted, _ in asked if lever.key in _PLAN and not board.mirrored}
    for _ in range(ROUNDS):
        still = False
        if len(plan) > 1 and any(_off(lever, board, wanted) for _, lever, wanted, _ in asked if lever.key in plan):
            try:
                board, still = _planned(board, plan), True
            except RefusedEdit as error:
                if "wide_point" in plan:  # of these it is the one that few weights can spare least
                    refused["wide_point"] = str(error)
                    asked = [row for row in asked if row[1].key != "wide_point"]
                    del plan["wide_point"]
                else:
                    plan = {}
                still = True
        for _, lever, wanted, _ in asked:
            if lever.key in plan or not _off(lever, board, wanted):
                continue
            try:
                board = pull_lever(board, lever, wanted).board
            except RefusedEdit as error:
                refused[lever.key] = str(error)
                continue
            refused.pop(lever.key, None)
            still = True
        if not still:
            break
    return board, refused


def _off(lever: Lever, board: Board, wanted: float) -> bool:
    return abs(lever.read(board) - wanted) > max(CLOSE * abs(wanted), 0.5 * SMALL * abs(lever.step))


_PLAN = ("width", "wide_point", "width_1ft_tail", "width_1ft_nose")
"""Levers that shape the plan."""


def _planned(board: Board, plan: dict[str, float]) -> Board:
    """The plan with all that is wanted of it; what is not asked for stays."""
    places = {"width_1ft_tail": FOOT, "width_1ft_nose": board.length - FOOT}
    widths = {places[key]: wanted for key, wanted in plan.items() if key in places}
    return with_plan(board, plan.get("width", widest(board)), plan.get("wide_point"), widths)


def brief_of_size(brief: Brief, mass: float, name: str = "") -> Brief:
    """The parent's brief with a size's own rider, no longer the register's: of the same build, with the same gear, in
    the same wind.
    """
    rider = brief.rider
    body = (mass / rider.mass) ** BODY
    grown = replace(
        rider,
        name=name or f"Rider of {mass:.0f} kg",
        mass=mass,
        height=min(max(rider.height * body, 0.8), 2.5),
        stance=min(max(rider.stance * body, 0.1), 1.5),
    )
    refers = tuple(r for r in brief.refers if r.part != "rider")
    return replace(brief, rider=grown, known=None, refers=refers)


def offered_of(base: MadeSize, theirs: MadeSize, size: Board) -> Board:
    """A size that takes what changed of its parent or rules and keeps what was changed of it by hand: the difference of
    the size as it was made and as it would be made now, laid over the size as it is. Where both changed the same, the
    hand counts.
    """
    found: Board = merged(base.board, size, theirs.board)
    return replace(found, name=size.name)
