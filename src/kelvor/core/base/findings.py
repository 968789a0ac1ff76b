"""Findings: what is wrong or worth knowing about a board, with its place."""

from __future__ import annotations

from enum import Enum
from typing import Literal

from kelvor.core.base.values import frozen

Rests = Literal["mast", "fin", "strap"]
"""A fitting on whose place a figure may rest."""


class Severity(Enum):
    """How much a finding matters."""

    FATAL = "fatal"
    """No board results; the last good one stays on the bench."""
    WARNING = "warning"
    """A board, but one that will trouble its builder or rider."""
    NOTE = "note"
    """Worth knowing."""


@frozen(kw_only=True)
class Finding:
    """One finding.

    Attributes
    ----------
    code:
        Stable name, for tests and scripts.
    text:
        One sentence in the trade's words; lengths in it are in millimetres or
        centimetres as written, the numbers behind it are `value` and `limit`.
    place:
        Distance from the tail tip [m], or None where the whole board is meant.
    value, limit:
        What was found and what would do, in SI units.
    advice:
        What to do about it.
    parts:
        Kinds of the fittings it is about.
    said:
        Which part and what of it, in a few words.
    """

    code: str
    text: str
    severity: Severity = Severity.WARNING
    place: float | None = None
    value: float | None = None
    limit: float | None = None
    advice: str = ""
    parts: tuple[Rests, ...] = ()
    said: str = ""


def fatal(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Those findings that leave no board."""
    return tuple(f for f in findings if f.severity is Severity.FATAL)
