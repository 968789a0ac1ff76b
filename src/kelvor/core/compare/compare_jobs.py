"""What worker processes are asked for when boards are compared."""

from __future__ import annotations

from kelvor.core.base.arrays import Array
from kelvor.core.compare.curves import CURVES
from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject


def ledger_job(reference: Subject, other: Subject, own: dict[str, float] | None = None) -> list[Difference] | None:
    """The ledger of two boards, what explains it told; None where one of them cannot be drawn."""
    here, there = (
        evaluate_live(s.board, s.brief, table=s.table, coefficients=s.coefficients) for s in (reference, other)
    )
    return None if isinstance(here, tuple) or isinstance(there, tuple) else ledger(here, there, own=own)


def curve_job(subject: Subject, key: str) -> tuple[Array, Array] | None:
    """A line of a board: places from its tail (n,) [m] and values (n,); None where the board cannot be drawn."""
    live = evaluate_live(subject.board, subject.brief, table=subject.table, coefficients=subject.coefficients)
    if isinstance(live, tuple):
        return None
    curve = next(curve for curve in CURVES if curve.key == key)
    return live.geometry.shape.x, curve.read(live)
