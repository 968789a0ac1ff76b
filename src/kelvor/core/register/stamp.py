"""The stamp: what everything that leaves the program says of the board it was made from.

Design, version, serial and day are for people. The code is a short hash of the board itself: the same board has the
same code wherever it was handed out, another one, by a tenth of a millimetre, another.
"""

from __future__ import annotations

import hashlib
import json
from typing import Any

from kelvor.core.base.snapshot import to_plain
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board

SIGNS = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"
"""Signs of a code: none that is taken for another (Crockford's base 32)."""
LENGTH = 8
"""Forty bits: of a million boards two alike are as good as never met."""
MISREAD = {"O": "0", "I": "1", "L": "1"}


@frozen(kw_only=True)
class Stamp:
    """Of which design, version, made board and day something is, and the board's code."""

    design: str
    code: str
    version: int = 0
    serial: str = ""
    day: str = ""

    @property
    def words(self) -> str:
        """In one line."""
        version = f"version {self.version}" if self.version else ""
        return " · ".join(part for part in (self.design, version, self.serial, self.day, self.code) if part)

    @property
    def in_ascii(self) -> str:
        """In one line of ASCII, for files that know no other signs."""
        return self.words.replace(" · ", ", ").encode("ascii", "replace").decode()


def code_of(board: Board) -> str:
    """The board's code, in two groups of four signs."""
    text = json.dumps(_even(to_plain(board)), sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    number = int.from_bytes(hashlib.sha256(text.encode()).digest()[:5], "big")
    signs = "".join(SIGNS[(number >> (5 * i)) & 31] for i in reversed(range(LENGTH)))
    return f"{signs[:4]}-{signs[4:]}"


def _even(value: Any) -> Any:
    """Plain data with every number in one form: a document may write 1 for 1.0, and 0 for −0."""
    if isinstance(value, dict):
        return {key: _even(entry) for key, entry in value.items()}
    if isinstance(value, list):
        return [_even(entry) for entry in value]
    return value if isinstance(value, bool) or not isinstance(value, (int, float)) else float(value) + 0.0


def code_read(typed: str) -> str:
    """A code as somebody typed it, in its own form; nothing where it can be none."""
    signs = "".join(MISREAD.get(c, c) for c in typed.upper() if c.isalnum())
    return f"{signs[:4]}-{signs[4:]}" if len(signs) == LENGTH and all(c in SIGNS for c in signs) else ""
