"""What worker processes are asked for the rack."""

from __future__ import annotations

from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.rack.cards import Drawn, drawn


def card_job(subject: Subject) -> Drawn | None:
    """The card of a board; None where it cannot be drawn."""
    live = evaluate_live(subject.board, subject.brief, table=subject.table, coefficients=subject.coefficients)
    return None if isinstance(live, tuple) else drawn(live)
