"""Plain text as people write it: which signs are kept as they are, and which are taken out on the way in.

Kept are all letters, marks, signs and spaces of any script, no-break ones among them, and the signs that shape them:
joiners and non-joiners (an emoji of several, Persian, Devanagari), direction marks, variation selectors, tags of
flags. Taken out are controls, zero-width spaces, byte order marks, and overrides and isolates of direction, which
let a name look like another. Half a sign becomes “�”.
"""

from __future__ import annotations

import re

_HALF = re.compile("[\ud800-\udfff]")
_BREAK = re.compile("\r\n|[\n\r\v\f\x1c-\x1e\x85\u2028\u2029]")
_NONCHARACTERS = "".join(f"{chr(plane << 16 | 0xFFFE)}{chr(plane << 16 | 0xFFFF)}" for plane in range(17))
_GONE = re.compile(
    "[\x00-\x08\x0e-\x1b\x1f\x7f-\x84\x86-\x9f\xad\u180e\u200b\u202a-\u202e\u2060-\u206f\ufdd0-\ufdef\ufeff\ufff9-\ufffb"
    f"\U000e0001{_NONCHARACTERS}]"
)


def plain_text(words: str, *, lines: bool = False) -> str:
    """Words without the signs that are not kept. A line break or tab becomes a space, unless `lines` keeps them."""
    if words.isprintable():
        return words
    words = _HALF.sub("\N{REPLACEMENT CHARACTER}", words)
    words = _BREAK.sub("\n" if lines else " ", words)
    return _GONE.sub("", words if lines else words.replace("\t", " "))


def one_line(words: str, longest: int = 400) -> str:
    """Words fit to be shown: plain, one line, runs of spaces as one, and not endless."""
    return cut_short(" ".join(plain_text(words).split()), longest)


def fitted_name(words: str, longest: int) -> str:
    """The name of a file, or another text nobody typed, as it may be kept: one line, cut short, never empty."""
    return one_line(words, longest) or "\N{REPLACEMENT CHARACTER}"


def cut_short(words: str, longest: int) -> str:
    """At most so many letters; “…” stands for the rest."""
    return words if len(words) <= longest else words[: longest - 1] + "…"
