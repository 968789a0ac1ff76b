"""Where a size stands: what it reads against its rules, what was changed by hand, whether it is only a stretch, and
what its parent or the rules would change of it now.
"""

from __future__ import annotations

import math
from dataclasses import replace

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.figures import Figures, by_key
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.evaluation.jobs import whole_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.family.sizing import MadeSize, Obeyed, Parent, made_size, offered_of
from kelvor.core.family.stretch import Stretch, stretch
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.locks import Change
from kelvor.core.register.kinds.family import Heavier, SizeRule
from kelvor.core.ride.condition import Condition
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.geometry import geometry

TOLD = 1e-3
"""A change of less than this share of a reading is not told."""


@frozen
class Basis:
    """What sizes are made of: the parent, the rules, a second parent where there is one, and how sizes for heavy riders
    are built, of which materials.
    """

    parent: Parent
    rules: tuple[SizeRule, ...]
    other: Parent | None = None
    heavier: Heavier | None = None
    table: MaterialTable = HANDBOOK

    def made(self, mass: float, name: str) -> MadeSize:
        """A size; raises like :func:`made_size`."""
        made = made_size(self.parent, self.rules, mass, self.other, name)
        if self.heavier is None or mass < self.heavier.since:
            return made
        measured = geometry(made.board)
        assert not isinstance(measured, tuple)  # a size that cannot be drawn was refused
        built = with_construction(made.board, measured.shape, self.heavier.construction, self.table)
        return replace(made, board=built)


@frozen
class SizeState:
    """Where a size stands.

    Attributes
    ----------
    obeyed:
        Each ruled measure: what it should read by the rules of now, and what the size reads.
    by_hand:
        What was changed of the size by hand.
    stretch:
        What tells it from its parent stretched.
    offer, changes:
        The size with what changed of parent and rules, and what that changes; None where nothing did.
    problem:
        Why it cannot be told.
    """

    obeyed: tuple[Obeyed, ...] = ()
    by_hand: tuple[Change, ...] = ()
    stretch: Stretch | None = None
    offer: Board | None = None
    changes: tuple[Change, ...] = ()
    problem: str = ""


def size_job(basis: Basis, mass: float, name: str) -> MadeSize | str:
    """A size, or why there is none."""
    try:
        return basis.made(mass, name)
    except (InputError, RefusedEdit) as error:
        return str(error)


def state_job(then: Basis, now: Basis, mass: float, board: Board) -> SizeState:
    """Where a size stands that was made of `then`."""
    try:
        first = then.made(mass, board.name)
        by_now = first if now == then else now.made(mass, board.name)
        apart = stretch(now.parent.board, board)
        by_hand = changes_between(first.board, board)
        rows = tuple(
            Obeyed(row.rule, row.measure, row.wanted, _read(board, row.measure.key), row.parent, row.refused)
            for row in by_now.obeyed
        )
        if now == then:
            return SizeState(rows, by_hand, apart)
        offer = offered_of(first, by_now, board)
        changes = changes_between(board, offer)
        return SizeState(rows, by_hand, apart, offer if changes else None, changes)
    except (InputError, RefusedEdit) as error:
        return SizeState(problem=str(error))


def size_ride_job(uid: str, subject: Subject, condition: Condition) -> tuple[str, Figures] | None:
    """All figures of a size under its own rider, with its identity; None where it cannot be drawn."""
    found = whole_job(subject, condition)
    if found is None:
        return None
    ride, settled = found
    return uid, {**settled, **by_key(ride.figures)}


def _read(board: Board, key: str) -> float:
    return next((lever.read(board) for lever in levers(board) if lever.key == key), float("nan"))


def changes_between(before: Board, after: Board) -> tuple[Change, ...]:
    """Levers that read otherwise on two boards of one family, in the order of work."""
    if before == after:
        return ()
    there = {lever.key: lever for lever in levers(after)}
    found = []
    for lever in levers(before):
        other = there.pop(lever.key, None)
        a, b = _told(lever.read(before)), None if other is None else _told(other.read(after))
        if a is not None and b is not None and abs(b - a) <= max(TOLD * abs(a), 0.02 * abs(lever.step)):
            continue
        if a != b:
            label = f"{lever.told}: {lever.choices[round(b)]}" if lever.choices and b is not None else lever.told
            found.append(Change(label, lever.quantity, a, b))
    found += [Change(lever.told, lever.quantity, None, _told(lever.read(after))) for lever in there.values()]
    built = after.construction
    if built != before.construction:
        words = f"Built as {built.name}" if built is not None else "No construction stated"
        found.append(Change(words, Quantity.RATIO, None, None))
    return tuple(found)


def _told(reading: float) -> float | None:
    return None if math.isnan(reading) else reading
