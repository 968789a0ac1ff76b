"""Finding boards by words, figures and ranges at once, as they are typed.

Every word must be found; a word of feeling is found by any of its group. Where
not all are, what holds most of them is told as such. A range is a number with a
unit, a dash, a comparison, and before it a figure's name where its unit alone
does not say which.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from functools import lru_cache

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, parse, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BOOK
from kelvor.core.rack.cards import Card, CardWords
from kelvor.core.rack.feel import FEEL

LONGEST = 300
"""Of what is typed, so much is looked for."""
ROUNDED = 1.5e-3
"""A range takes in what is shown as its ends."""
NEAR = 0.02
"""A single number with a unit means this share about it."""
_NUMBER = r"\d+(?:[.,]\d+)?"
_UNIT = r"(?:cm²|m²|cm|mm|m|l|L|litres?|liters?|kg|g|°|deg|in|ft)?"
_RANGE = re.compile(
    rf"(?P<low>{_NUMBER})\s*(?P<u>{_UNIT})\s*(?:–|-|to|\.\.)\s*(?P<high>{_NUMBER})\s*(?P<unit>{_UNIT})(?![\w²])"
)
_BOUND = re.compile(
    r"(?P<sign><=|>=|<|>|≤|≥|under|below|over|above|at least|at most|more than|less than)"
    rf"\s*(?P<one>{_NUMBER})\s*(?P<unit>{_UNIT})(?![\w²])"
)
_ABOUT = re.compile(
    rf"(?<![\w.,])(?P<one>{_NUMBER})\s*(?P<unit>(?:cm²|m²|cm|mm|m|l|L|litres?|liters?|kg|°|deg))(?![\w²])"
)
_LENGTHS = (Quantity.LENGTH, Quantity.DEPTH, Quantity.HEIGHT)
_KINDS: dict[str, tuple[Quantity, ...]] = {
    "cm": _LENGTHS, "mm": _LENGTHS, "m": _LENGTHS, "in": _LENGTHS, "ft": _LENGTHS, "l": (Quantity.VOLUME,),
    "kg": (Quantity.MASS,),
    "g": (Quantity.MASS,), "°": (Quantity.ANGLE,), "cm²": (Quantity.AREA,), "m²": (Quantity.AREA,),
}  # fmt: skip
_PLAIN = {"l": ("volume",), "kg": ("mass",), "cm": ("length", "width"), "mm": ("length", "width", "thickness"),
          "m": ("length",),
          "in": ("length", "width"), "ft": ("length",)}  # fmt: skip
"""Figures that a unit means by itself."""
_CALLED = {
    "width": "width",
    "length": "length",
    "litres": "volume",
    "liters": "volume",
    "weight": "mass",
    "long": "length",
    "wide": "width",
    "thick": "thickness",
    "swing weight": "yaw_inertia",
    "flat": "keel_flat_run",
    "nose rocker": "nose_rocker",
    "tail rocker": "tail_rocker",
    "tail width": "width_30cm_tail",
    "one foot off": "width_1ft_tail",
    "tail cut": "exit_slope",
    "area": "planform_area",
}


_WORD = re.compile(r"\w+(?:'\w+)*")


@frozen
class Range:
    """Figures of which one must lie between two values [SI], as it was typed."""

    keys: tuple[str, ...]
    low: float
    high: float
    said: str

    def holds(self, card: Card) -> bool:
        """Whether a board lies inside."""
        return any(self.low <= card.figures[key] <= self.high for key in self.keys if key in card.figures)


@frozen
class Query:
    """What was typed: phrases and words in small letters, ranges, and what of it nobody can answer."""

    phrases: tuple[str, ...]
    ranges: tuple[Range, ...]
    told: tuple[str, ...] = ()


@frozen
class SearchHit:
    """A board that was found: how well, by which words, and whether all of them are there."""

    card: Card
    score: float
    by: tuple[CardWords, ...]
    whole: bool


@lru_cache(maxsize=1)
def _labels() -> dict[str, tuple[str, Quantity]]:
    """Figures by the names people type: every label, and the words of the trade."""
    by_key = {figure.key: figure for figure in BOOK}
    names = {figure.label.lower(): (figure.key, figure.quantity) for figure in reversed(BOOK)}
    names |= {figure.label.lower().split(",")[0]: (figure.key, figure.quantity) for figure in reversed(BOOK)}
    return names | {name: (key, by_key[key].quantity) for name, key in _CALLED.items() if key in by_key}


def understood(typed: str, own: tuple[tuple[str, ...], ...] = ()) -> Query:
    """What a line asks for; words of feeling that stand together stay together. Nothing is refused: what cannot be
    answered is told.
    """
    line = " ".join(typed[:LONGEST].split())
    ranges: list[Range] = []
    told: list[str] = []
    for pattern in (_RANGE, _BOUND, _ABOUT):
        while (match := pattern.search(line)) is not None:
            before = line[: match.start()].rstrip()
            found, kept = _range(match, before)
            if isinstance(found, str):
                told.append(found)
            else:
                ranges.append(found)
            line = f"{kept} {line[match.end() :]}"
    phrases: list[str] = []
    line = line.lower().replace("’", "'")
    for said in sorted((word for group in (*own, *FEEL) for word in group if " " in word), key=len, reverse=True):
        if f" {said} " in f" {line} ":
            phrases.append(said)
            line = f" {line} ".replace(f" {said} ", " ").strip()
    for quoted, plain in re.findall(r"[\"“”«»]([^\"“”«»]*)[\"“”«»]|([^\s\"“”«»]+)", line):
        words = quoted.strip() if quoted.strip() else plain.strip(".,;:!?()'’")
        if words and words not in (
            "the",
            "that",
            "one",
            "a",
            "to",
            "and",
            "it",
            "with",
            "was",
            "is",
            "of",
            "in",
            "on",
            "which",
            "had",
            "for",
            "my",
        ):
            phrases.append(words)
    return Query(tuple(phrases), tuple(ranges), tuple(told))


def _range(match: re.Match[str], before: str) -> tuple[Range | str, str]:
    """The range a match means, or why it means none; and what is left of the words before it."""
    groups = match.groupdict()
    unit = (groups.get("unit") or groups.get("u") or "").lower()
    unit = {"litre": "l", "litres": "l", "liter": "l", "liters": "l", "deg": "°"}.get(unit, unit)
    keys, quantity, kept = _figure(before, unit)
    said = match.group().strip()
    if not keys or quantity is None:
        return f"“{said}” names no figure: write one before it, such as “width {said}”", before
    numbers = [groups[name] for name in ("low", "high", "one") if groups.get(name)]
    try:
        values = sorted(parse(f"{number} {unit}".strip(), quantity) for number in numbers)
    except InputError as error:
        return f"“{said}”: {error.what}", kept
    low, high = values[0], values[-1]
    sign = groups.get("sign")
    if sign in ("<", "<=", "≤", "under", "below", "at most", "less than"):
        low = -1e12
    elif sign is not None:
        high = 1e12
    elif len(values) == 1:
        low, high = low * (1 - NEAR), high * (1 + NEAR)
    slack = 1e-9 + ROUNDED * max(abs(v) for v in values)
    return Range(keys, low - slack, high + slack, said), kept


def _figure(before: str, unit: str) -> tuple[tuple[str, ...], Quantity | None, str]:
    """The figures meant by the words before a number and its unit, and the words before those."""
    words = before.split(" ")
    for count in range(min(6, len(words)), 0, -1):
        name = " ".join(words[-count:]).lower().strip(",;:=")
        named = _labels().get(name)
        if named is not None and (not unit or named[1] in _KINDS.get(unit, (named[1],))):
            return (named[0],), named[1], " ".join(words[:-count])
    plain = _PLAIN.get(unit, ())
    return plain, _KINDS[unit][0] if plain else None, before


def _stem(word: str) -> str:
    """A word without its ending, long enough to tell it from others."""
    for ending in ("iness", "ing", "edly", "ily", "ed", "es", "ly", "y", "s"):
        if word.endswith(ending) and len(word) - len(ending) >= 3:
            return word[: -len(ending)]
    return word


@lru_cache(maxsize=512)
def _alike(phrase: str, own: tuple[tuple[str, ...], ...]) -> tuple[tuple[str, float], ...]:
    """What may stand for a phrase in what is written, and how much it counts: itself, its stem, others of its
    feeling.
    """
    forms: dict[str, float] = {phrase: 1.0}
    stem = _stem(phrase)
    if len(stem) >= 3:
        forms.setdefault(stem, 0.9)
    for group in (*own, *FEEL):
        if any(_same(phrase, stem, word) for word in group):
            for word in group:
                forms.setdefault(word, 0.55)
                if " " not in word and len(_stem(word)) >= 4:
                    forms.setdefault(_stem(word), 0.5)
    return tuple(forms.items())


def _same(phrase: str, stem: str, word: str) -> bool:
    return phrase == word or (len(stem) >= 4 and _stem(word) == stem) or (" " in word and word in phrase)


class Index:
    """Cards, ready to be searched as one types: every word with where it stands."""

    def __init__(self, cards: list[Card], own: tuple[tuple[str, ...], ...] = ()) -> None:
        self.cards, self.own = cards, own
        self._said: list[tuple[int, CardWords, str]] = []
        stands: dict[str, list[int]] = {}
        for i, card in enumerate(cards):
            for said in (CardWords("name", card.name, 5.0), CardWords("", card.discipline, 3.0), *card.words):
                place, words = len(self._said), f"{said.text} {said.more}".lower().replace("’", "'")
                self._said.append((i, said, words))
                for word in set(_WORD.findall(words)):
                    stands.setdefault(word, []).append(place)
        self._stands, self._words = stands, sorted(stands)

    def find(self, typed: str) -> tuple[list[SearchHit], Query]:
        """What is found, best first; all cards, last worked on first, for nothing that is asked."""
        query = understood(typed, self.own)
        inside = {i for i, card in enumerate(self.cards) if all(r.holds(card) for r in query.ranges)}
        if not query.phrases:
            every = [SearchHit(self.cards[i], 0.0, (), True) for i in inside]
            return sorted(every, key=lambda f: (f.card.touched, f.card.board), reverse=True), query
        hits = [self._hits(_alike(phrase, self.own)) for phrase in query.phrases]
        whole: list[SearchHit] = []
        some: list[SearchHit] = []
        for i in inside.intersection(*[set().union(*hits)]):
            there = [hit[i] for hit in hits if i in hit]
            by = tuple(dict.fromkeys(said for _, said in there if said.where not in ("name", "")))
            score = sum(value for value, _ in there) + 0.5 * (len(by) == 1 < len(there))  # in one breath
            found = SearchHit(self.cards[i], score, by, len(there) == len(hits))
            (whole if found.whole else some).append(found)
        listed = sorted(whole or some, key=lambda f: (round(f.score, 3), f.card.touched, f.card.board), reverse=True)
        return listed, query

    def _hits(self, forms: tuple[tuple[str, float], ...]) -> dict[int, tuple[float, CardWords]]:
        """By card how well a phrase is found in what is written about it, and where."""
        best: dict[int, tuple[float, CardWords]] = {}
        for form, value in forms:
            for place in self._places(form):
                i, said, _ = self._said[place]
                worth = value * said.weight
                if i not in best or worth > best[i][0]:
                    best[i] = worth, said
        return best

    def _places(self, form: str) -> set[int]:
        """Where a word begins so (“stick” finds “sticky” and not “joystick”), or where several words stand together."""
        parts = _WORD.findall(form)
        if not parts:
            return set()
        found: set[int] | None = None
        for part in parts:
            places: set[int] = set()
            for word in self._words[bisect_left(self._words, part) :]:
                if not word.startswith(part):
                    break
                places.update(self._stands[word])
            found = places if found is None else found & places
        assert found is not None
        return found if len(parts) == 1 else {place for place in found if form in self._said[place][2]}


def range_words(query: Query, cards: list[Card]) -> list[str]:
    """What of a query cannot be answered, with what could be: an absurd range is told with how far the boards reach."""
    told = list(query.told)
    by_key = {figure.key: figure for figure in BOOK}
    for asked in query.ranges:
        values = [card.figures[key] for card in cards for key in asked.keys if key in card.figures]
        if values and not any(asked.low <= value <= asked.high for value in values):
            figure = by_key[asked.keys[0]]
            reach = f"{text(min(values), figure.quantity)} to {text(max(values), figure.quantity)}"
            told.append(f"No board lies in “{asked.said}”: {figure.label.lower()} runs from {reach}.")
    return told
