"""Two board documents compared, for the command line."""

from __future__ import annotations

from math import isnan
from typing import Any

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import System, inside
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.ledger import Difference, ledger
from kelvor.core.compare.words import compared_change_words
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.core.shape.board import Board


def compared(reference: Board, other: Board, brief: Brief) -> list[Difference]:
    """What of the other board differs, largest first; raises InputError when one of them cannot be drawn."""
    return ledger(_drawn(reference, brief), _drawn(other, brief))


def _drawn(board: Board, brief: Brief) -> Live:
    live = evaluate_live(board, brief)
    if isinstance(live, tuple):
        raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
    return live


def difference_document(d: Difference) -> dict[str, Any]:
    """A difference as plain data, in SI; null where a board has no such thing."""
    here, there = (None if isnan(value) else value for value in (d.here, d.there))
    return {
        "key": d.key,
        "label": d.label,
        "group": d.group,
        "here": here,
        "there": there,
        "felt": d.felt,
        "follows": d.follows or None,
        "ties": list(d.ties),
    }


def difference_line(d: Difference) -> str:
    """A difference in one line."""
    size, way = compared_change_words(d, System.METRIC)
    came = f", came with {inside(d.follows)}" if d.follows else ""
    ties = f", or by another name {', '.join(d.ties)}" if d.ties else ""
    by = f"{size} ({way})" if size else way
    return f"{d.group}, {d.label}: {by}, {d.felt:.1f} times what is felt{came}{ties}"
