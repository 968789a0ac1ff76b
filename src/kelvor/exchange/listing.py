"""The rack on the command line: boards of a workshop listed, searched and told."""

from __future__ import annotations

import contextlib
from dataclasses import replace
from pathlib import Path
from typing import Any

from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import Quantity, text
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.rack.cards import Card, drawn
from kelvor.core.rack.search import Index, range_words
from kelvor.workshop.rack import cards
from kelvor.workshop.store import Store


def listed(path: Path, words: str = "") -> tuple[list[Card], list[str]]:
    """Boards of a workshop that answer to words, figures and ranges, best first; and what of them nobody can answer.

    Raises
    ------
    InputError
        When the file cannot be read.
    """
    with contextlib.closing(Store.open(path)) as store:
        all_cards = [_counted(store, card) for card in cards(store)]
    found, query = Index(all_cards).find(words)
    return [item.card for item in found], range_words(query, all_cards)


def _counted(store: Store, card: Card) -> Card:
    """A card with its figures: those that no window has counted yet are counted now; a board that cannot be drawn has
    none.
    """
    if card.counted:
        return card
    with contextlib.suppress(InputError):
        live = evaluate_live(
            store.board(card.step), store.brief(card.board), table=store.materials(), coefficients=store.coefficients()
        )
        if not isinstance(live, tuple):
            known = drawn(live)
            return replace(card, figures=known.figures, half=known.half)
    return card


def card_words(card: Card) -> str:
    """A board in one line."""
    figures = card.figures
    sizes = [text(figures[key], Quantity.LENGTH) for key in ("length", "width") if key in figures]
    if "volume" in figures:
        sizes.append(text(figures["volume"], Quantity.VOLUME))
    name = one_line(card.name, 60)
    stands = f"version {card.number}" if card.board else "notebook"
    said = one_line(f"{card.verdict}: {card.why}", 400) if card.verdict else ""
    return "  ".join(
        part
        for part in (f"{name:<24}", f"{card.discipline:<15}", f"{' × '.join(sizes):<30}", f"{stands:<12}", said)
        if part
    ).rstrip()


def card_document(card: Card) -> dict[str, Any]:
    """A board as plain data, in SI."""
    return {
        "id": card.board or card.uid,
        "name": card.name,
        "discipline": card.discipline,
        "touched": card.touched,
        "version": card.number,
        "versions": card.steps,
        "parent": card.parent or None,
        "rider": card.rider,
        "serials": list(card.serials),
        "figures": card.figures,
        "decision": {"verdict": card.verdict, "why": card.why, "who": card.who} if card.verdict else None,
        "words": [{"where": said.where, "text": said.text} for said in card.words],
    }


def board_named(path: Path, board: str) -> Card:
    """A board by its number or its name; raises InputError when none is called so, or several are."""
    found = listed(path)[0]
    fits = [card for card in found if board == card.key or board.lower() == card.name.lower()]
    fits = fits or [card for card in found if card.name.lower().startswith(board.lower())]
    if len(fits) != 1:
        names = ", ".join(card.name for card in (fits or found)[:8])
        said = "several boards begin so" if fits else "no board is called so"
        raise InputError(said, where=board, accepts=f"Name one of: {names}")
    return fits[0]


def listed_board(card: Card) -> list[str]:
    """All that is written about a board, a line each."""
    lines = [
        card_words(card),
        f"rider: {card.rider}" if card.rider else "",
        f"made as: {', '.join(card.serials)}" if card.serials else "",
    ]
    return [line for line in lines if line] + [
        one_line(f"{said.where}: {said.text}", 2000) for said in card.words if said.text.strip()
    ]
