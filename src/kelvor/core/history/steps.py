"""Steps: every committed change of a board, with its parent, its words and its reason.

A step is never altered or taken away; undo is walking to the parent.
"""

from __future__ import annotations

from typing import Literal

from kelvor.core.base.values import frozen
from kelvor.core.levers.locks import Change

FrozenAs = Literal["drawn", "cut", "laminated", "ridden"]
FROZEN_KINDS: tuple[FrozenAs, ...] = ("drawn", "cut", "laminated", "ridden")


@frozen(kw_only=True)
class Step:
    """One committed step; its board lies in the workshop under `id`.

    Attributes
    ----------
    number:
        Its place in the order of all steps of this board, from 1.
    changes:
        What changed against the parent; empty for the first step.
    title:
        Words for a step that no list of changes tells, such as how a board began.
    gesture:
        Nudges of one lever in one go share a gesture, so the tape folds them.
    volume:
        Finished volume [m³] after the step, for its words.
    """

    id: int
    parent: int | None
    number: int
    changes: tuple[Change, ...] = ()
    title: str = ""
    reason: str = ""
    made_at: str = ""
    gesture: str = ""
    frozen: tuple[tuple[FrozenAs, str], ...] = ()
    volume: float = 0.0


Steps = dict[int, Step]


def without_last(
    marks: tuple[tuple[FrozenAs, str], ...], mark: tuple[FrozenAs, str]
) -> tuple[tuple[FrozenAs, str], ...]:
    """Marks of a step without the newest that is `mark`."""
    newest = max((i for i, other in enumerate(marks) if other == mark), default=len(marks))
    return marks[:newest] + marks[newest + 1 :]


def steps_to(steps: Steps, current: int) -> list[Step]:
    """From the first step to the current one."""
    line: list[Step] = []
    at: int | None = current
    while at is not None:
        line.append(steps[at])
        at = steps[at].parent
    return line[::-1]


def children(steps: Steps, current: int) -> list[Step]:
    """Steps made from this one, newest first."""
    return sorted((s for s in steps.values() if s.parent == current), key=lambda s: -s.id)


def ahead(steps: Steps, current: int) -> list[Step]:
    """What redo would walk through: from the current step the newest children in turn."""
    line: list[Step] = []
    at = current
    while newest := children(steps, at):
        line.append(newest[0])
        at = newest[0].id
    return line


@frozen
class TapeStop:
    """A stop on the tape: the last step of a gesture, with the changes of all of it folded together."""

    step: Step
    first: Step
    changes: tuple[Change, ...]


def folded(line: list[Step]) -> list[TapeStop]:
    """A line of steps with nudges of one gesture folded to one stop."""
    stops: list[TapeStop] = []
    for step in line:
        if stops and step.gesture and stops[-1].step.gesture == step.gesture and step.parent == stops[-1].step.id:
            before = stops[-1]
            stops[-1] = TapeStop(step, before.first, _folded_changes(before.changes, step.changes))
        else:
            stops.append(TapeStop(step, step, step.changes))
    return stops


def _folded_changes(first: tuple[Change, ...], second: tuple[Change, ...]) -> tuple[Change, ...]:
    merged = {change.label: change for change in first}
    for change in second:
        before = merged[change.label].before if change.label in merged else change.before
        merged[change.label] = Change(change.label, change.quantity, before, change.after)
    return tuple(merged.values())
