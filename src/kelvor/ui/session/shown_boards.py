"""Boards shown behind the one on the bench."""

from __future__ import annotations

from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live


@frozen(eq=False)
class Shown:
    """A board behind the one on the bench.

    Attributes
    ----------
    name:
        What it is called where its lines are told apart.
    role:
        The role of its colour and dashes: “pinned” for the reference, “beside” for others.
    slide:
        How far its tail lies ahead of the tail of the board on the bench [m].
    board, step, number:
        Which board of the workshop it is, which step of it, and that step's number; 0 where it is none.
    """

    live: Live
    name: str
    role: str = "beside"
    slide: float = 0.0
    board: int = 0
    step: int = 0
    number: int = 0
