"""The rack in words: cards in order and in groups, what stands on each, and who came from whom."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from kelvor.core.base.units import Quantity, System, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.history.steps import Steps, folded, steps_to
from kelvor.core.rack.cards import Card
from kelvor.core.rack.search import SearchHit
from kelvor.core.register.record import Verdict
from kelvor.ui.shown.wording import stop_words

ORDERS: tuple[tuple[str, str], ...] = (
    ("touched", "Last worked on"), ("name", "Name"), ("volume", "Volume"), ("length", "Length"), ("width", "Width"),
    ("mass", "Mass"),
    ("length_over_width", "Length over width"), ("nose_rocker", "Nose rocker"), ("tail_rocker", "Tail rocker"),
    ("keel_flat_run", "Keel flat run"),
    ("width_1ft_tail", "Wide one foot off tail"), ("yaw_inertia", "Swing weight"), ("volume_per_rider_mass",
    "Volume per kg of rider"),
)  # fmt: skip
"""What cards can be put in order by: their key, and the words for it. Figures go from small to large."""
GROUPS: tuple[tuple[str, str], ...] = (
    ("none", "Not grouped"),
    ("discipline", "By discipline"),
    ("parent", "By parent"),
    ("rider", "By rider"),
    ("verdict", "By decision"),
)
NOT_DECIDED = "Not decided"
MARKS: dict[Verdict, str] = {"kept": "Kept", "dropped": "Dropped", "parked": "Parked"}


@frozen
class CardGroup:
    """Cards under one heading, in order."""

    words: str
    found: tuple[SearchHit, ...]


def arranged(found: list[SearchHit], order: str, group: str, names: dict[int, str], *, asked: bool) -> list[CardGroup]:
    """Cards in their groups; where something is `asked`, the best found come first, whatever the order."""
    ranked = list(found)
    if not asked or order != "touched":
        ranked.sort(key=_by(order))
    if group == "none":
        return [CardGroup("", tuple(ranked))]
    parts: dict[str, list[SearchHit]] = {}
    for item in ranked:
        parts.setdefault(_group_of(item.card, group, names), []).append(item)
    return [
        CardGroup(words, tuple(items))
        for words, items in sorted(parts.items(), key=lambda part: (part[0] == NOT_DECIDED, part[0].lower()))
    ]


def _by(order: str) -> Callable[[SearchHit], tuple[float, str]]:
    def key(item: SearchHit) -> tuple[float, str]:
        card = item.card
        if order == "touched":
            return -written_seconds(card.touched), card.name.lower()
        if order == "name":
            return 0.0, card.name.lower()
        return card.figures.get(order, float("inf")), card.name.lower()

    return key


def _group_of(card: Card, group: str, names: dict[int, str]) -> str:
    if group == "discipline":
        return card.discipline.capitalize()
    if group == "parent":
        return f"Made from {names[card.parent]}" if card.parent in names else "Begun anew"
    if group == "rider":
        return card.rider or "No rider named"
    return MARKS[card.verdict] if card.verdict is not None else NOT_DECIDED


def written_seconds(at: str) -> float:
    """A written time as seconds; the beginning of all where it is none."""
    try:
        return datetime.fromisoformat(at).timestamp()
    except ValueError:
        return 0.0


def age(at: str, today: float) -> str:
    """How long ago, as people say it."""
    then = written_seconds(at)
    if not then:
        return ""
    days = int((today - then) // 86_400)
    if days < 1:
        return "today"
    if days < 14:
        return f"{days} day{'s' if days > 1 else ''} ago"
    if days < 60:
        return f"{days // 7} weeks ago"
    return f"{days // 30} months ago" if days < 700 else f"{days // 365} years ago"


def sizes(card: Card, system: System) -> str:
    """Length × width × litres, as far as they are known."""
    figures = card.figures
    parts = [text(figures[key], Quantity.LENGTH, system) for key in ("length", "width") if key in figures]
    if "volume" in figures:
        parts.append(text(figures["volume"], Quantity.VOLUME, system))
    return " × ".join(parts)


def state(card: Card, today: float) -> str:
    """The version it stands at, and when it was last worked on."""
    if not card.board:
        return "from a notebook"
    steps = f"version {card.number}" if card.steps > 1 else "as it began"
    return ", ".join(part for part in (steps, age(card.touched, today)) if part)


def speaks(found: SearchHit, *, asked: bool) -> str:
    """The line that speaks: the words by which it was found, else what was decided."""
    if asked and found.by:
        said = found.by[0]
        return f"{said.text.strip()} — {said.where}" if said.where else said.text.strip()
    card = found.card
    if card.verdict is not None:
        return f"{MARKS[card.verdict]}: {card.why}" if card.why else MARKS[card.verdict]
    if card.serials:
        return f"made as {', '.join(card.serials)}"
    return card.words[-1].text.strip() if card.words and not card.board else ""


def lineage_words(steps: Steps, here: int, system: System) -> list[str]:
    """What differed on the way to a step, the newest first, in the words of the tape."""
    stops = folded(steps_to(steps, here)) if here in steps else []
    before = [None, *(stop.step for stop in stops[:-1])]
    told = [
        f"{stop.step.number}: {stop_words(stop, earlier, system)}" for stop, earlier in zip(stops, before, strict=True)
    ]
    return told[:0:-1]


def ordering_figure(card: Card, order: str, system: System) -> str:
    """The figure cards are ordered by, where it is not in the sizes already."""
    if order in ("touched", "name", "volume", "length", "width") or order not in card.figures:
        return ""
    figure = BY_KEY[order]
    return f"{figure.label.split(',')[0].lower()} {text(card.figures[order], figure.quantity, system)}"


def counted_words(found: int, cards: list[Card], *, asked: bool, whole: bool) -> str:
    """How many are shown, and how many are not counted yet."""
    boards = f"{len(cards)} board{'s' if len(cards) != 1 else ''}"
    words = boards if not asked else f"{found} of {boards}"
    if asked and found and not whole:
        words += ", none with all of these words"
    waiting = sum(not card.counted for card in cards)
    return f"{words}; figures of {waiting} are being counted" if waiting else words


@frozen
class Kin:
    """A board in the lineage: how deep below its first ancestor, and whether it is to be cut out of the one above."""

    card: Card
    depth: int
    cut: bool = False


def by_parentage(cards: list[Card]) -> list[Kin]:
    """Who came from whom: every board under the one it was made from, or else cut out of, the oldest lines first."""
    children: dict[int, list[Card]] = {}
    known = {card.board for card in cards if card.board}
    for card in cards:
        if card.board:
            above = (board for board in (card.parent, card.cut_from) if board in known and board != card.board)
            children.setdefault(next(above, 0), []).append(card)
    found: list[Kin] = []
    seen: set[int] = set()

    def walk(parent: int, depth: int) -> None:
        for card in sorted(children.get(parent, []), key=lambda c: c.board):
            if card.board not in seen:
                seen.add(card.board)
                found.append(Kin(card, depth, cut=bool(parent) and card.parent != parent))
                walk(card.board, depth + 1)

    walk(0, 0)
    return found
