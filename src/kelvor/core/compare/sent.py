"""What worker processes are asked for when boards are compared."""

from __future__ import annotations

from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.live import evaluate_live
from kelvor.core.subject import Subject


def ledger_job(reference: Subject, other: Subject) -> list[Difference] | None:
    """The ledger of two boards, what explains it told; None where one of them cannot be drawn."""
    here, there = (
        evaluate_live(s.board, s.brief, table=s.table, coefficients=s.coefficients) for s in (reference, other)
    )
    return None if isinstance(here, tuple) or isinstance(there, tuple) else ledger(here, there)
