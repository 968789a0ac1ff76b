"""How a demo board is told: where it begins and the steps that follow."""

from __future__ import annotations

from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.shape.board import Board


@frozen
class Pull:
    """One demo step: a lever, the value it is set to (SI), and why."""

    lever: str
    value: float
    reason: str = ""


@frozen
class DemoBoard:
    """A demo board: where it starts, the steps that follow, which one is pinned, and what was built, and of which board
    it is a child.
    """

    slug: str
    start: Board
    title: str
    brief: Brief
    pulls: tuple[Pull, ...]
    pinned: int
    frozen: tuple[tuple[int, str, str], ...] = ()
    parent: str = ""


def with_demo_steps(board: Board, pulls: tuple[Pull, ...]) -> Board:
    """A board after demo steps."""
    for step in pulls:
        lever = next(item for item in levers(board) if item.key == step.lever)
        board = pull_lever(board, lever, step.value).board
    return board
