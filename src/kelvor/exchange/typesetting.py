"""Type for everything that is printed: the shipped face, and what stands in for it where it lacks a sign.

Names and words come from people's keyboards. A sign that no face holds would
be printed as an empty box, and words from right to left in the wrong order.
"""

from __future__ import annotations

from functools import cache
from itertools import groupby
from pathlib import Path
from typing import Any
from unicodedata import bidirectional, category, normalize
from xml.sax.saxutils import escape

PLAIN, BOLD = "Barlow-Regular", "Barlow-Bold"
STAND_INS = ("DejaVuSans", "NotoEmoji-Regular")
"""Asked in this order for what the face itself lacks."""
UNKNOWN = "\N{REPLACEMENT CHARACTER}"
_FONTS = Path(__file__).parent.parent / "fonts"
_RIGHT_TO_LEFT = {"R", "AL", "RLE", "RLO", "RLI"}


@cache
def _signs(name: str) -> frozenset[int]:
    """The signs a face holds; registers it with reportlab."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    font = TTFont(name, str(_FONTS / f"{name}.ttf"))
    pdfmetrics.registerFont(font)
    return frozenset(font.face.charToGlyph)


def register() -> None:
    """Make the faces known to reportlab."""
    for name in (PLAIN, BOLD, *STAND_INS):
        _signs(name)


def runs_by_face(words: str, face: str = PLAIN) -> list[tuple[str, str]]:
    """Words in parts, each with the face that holds its signs.

    Signs that only join, direct or vary others are left out; a narrow
    no-break space is set as a plain one.
    """

    def face_of(sign: str) -> str:
        return next((name for name in (face, *STAND_INS) if ord(sign) in _signs(name)), "")

    kept = []
    for sign in normalize("NFC", words.replace("\N{NARROW NO-BREAK SPACE}", "\N{NO-BREAK SPACE}")):
        found = face_of(sign)
        if category(sign) == "Cf" or "\ufe00" <= sign <= "\ufe0f" or (category(sign) == "Mn" and not found):
            continue
        kept.append((found, sign) if found else (face_of(UNKNOWN), UNKNOWN))
    return [(name, "".join(sign for _, sign in part)) for name, part in groupby(kept, key=lambda one: one[0])]


def in_reading_order(words: str, size: float, room: float) -> list[str]:
    """Words as their lines are set from left to right: more than one only where they run from right to left."""
    if not any(bidirectional(sign) in _RIGHT_TO_LEFT for sign in words):
        return [words]
    from arabic_reshaper import reshape
    from bidi.algorithm import get_display
    from reportlab.lib.utils import simpleSplit

    register()
    lines = simpleSplit(reshape(words), STAND_INS[0], size, room)
    first = next(sign for sign in words if bidirectional(sign) in ("L", *_RIGHT_TO_LEFT))
    base = "L" if bidirectional(first) == "L" else "R"
    return [str(get_display(line, base_dir=base)) for line in lines]


def markup(words: str, face: str, size: float, room: float) -> str:
    """Words as reportlab's paragraphs take them."""

    def part(name: str, told: str) -> str:
        return escape(told) if name == face else f'<font name="{name}">{escape(told)}</font>'

    return "<br/>".join(
        "".join(part(name, told) for name, told in runs_by_face(line, face))
        for line in in_reading_order(words, size, room)
    )


def draw(canvas: Any, x: float, y: float, words: str, size: float) -> None:
    """Set one line of words on a canvas [pt]."""
    for line in in_reading_order(words, size, float("inf")):
        for name, told in runs_by_face(line):
            canvas.setFont(name, size)
            canvas.drawString(x, y, told)
            x += canvas.stringWidth(told, name, size)
