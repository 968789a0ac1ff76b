"""The rack's cards as they lie in the workshop file: read in a few queries, without any board's shape."""

from __future__ import annotations

import json
from collections import defaultdict
from typing import Any, cast

from kelvor.core.base.disciplines import AT_REST, Discipline
from kelvor.core.base.errors import InputError
from kelvor.core.rack.cards import BOOK_VERSION, Card, CardWords, Drawn, unpacked_card
from kelvor.core.register.kinds.shop import HandedOut, MadeBoard, Reshape, Worked
from kelvor.core.register.kinds.words import Decision, OldBoard
from kelvor.core.register.kinds.words import Said as SaidRecord
from kelvor.core.register.record import Record, RecordKind
from kelvor.workshop.store import Store

WEIGHTS = {"decision": 4.0, "said": 4.0, "reason": 3.0, "title": 2.0, "brief": 1.5, "serial": 3.0}
"""What words weigh in a search by where they stand: what was decided or felt is what people look for."""

ON_CARDS: tuple[RecordKind, ...] = (
    "decision", "said", "old board", "handed out", "reshape", "made board", "worked",
)  # fmt: skip
"""Records of which cards tell."""


def cards(store: Store, records: list[Record] | None = None) -> list[Card]:
    """Every board of a workshop, and every one that is only a page of a notebook; raises InputError when they cannot be
    read.

    `records` are those that are known already; they are read from the file otherwise.
    """
    records = store.records.newest(*ON_CARDS) if records is None else records
    words: dict[int, list[CardWords]] = defaultdict(list)
    boards = {entry.id: entry for entry in store.boards()}
    owner: dict[int, int] = {}
    numbers: dict[int, int] = {}
    last: dict[int, tuple[str, int]] = {}
    count: dict[int, int] = defaultdict(int)
    for key, board, number, at, title in store.typed(
        (int, int, int, str, str), "SELECT id, board_id, number, made_at, title FROM steps ORDER BY id"
    ):
        owner[key], numbers[key] = board, number
        count[board] += 1
        last[board] = (at, key)
        if title:
            words[board].append(CardWords(f"version {number}", title, WEIGHTS["title"], key))
    serials = _written(store, words, owner, numbers)
    about = _briefs(store, words)
    decided = _recorded(records, words, numbers)
    for made in records:
        if isinstance(made.value, MadeBoard) and not made.gone and made.board is not None:
            serials[made.board].append(made.value.serial)
    cut_from = {r.board: r.value.old for r in records if isinstance(r.value, Reshape) and not r.gone}
    known = counted_for_cards(store)
    left = dict(store.typed((int, int), "SELECT board_id, step_id FROM left_at"))
    found = []
    for key, entry in boards.items():
        discipline, rider = about.get(key, ("wing foil", ""))
        step = left.get(key, last.get(key, ("", 0))[1])
        record = decided.get(key)
        decision = cast(Decision, record.value) if record is not None else None
        drawn = known.get(step)
        found.append(
            Card(
                key,
                entry.name,
                discipline,
                last.get(key, (entry.created_at, 0))[0],
                step=step,
                number=numbers.get(step, 0),
                steps=count[key],
                figures=drawn.figures if drawn else {},
                half=drawn.half if drawn else (),
                parent=owner.get(entry.parent_step or 0, 0),
                cut_from=cut_from.get(key, 0),
                rider=rider,
                serials=tuple(dict.fromkeys(serials[key])),
                verdict=decision.verdict if decision else None,
                why=decision.why if decision else "",
                who=decision.who if decision else "",
                words=tuple(words[key]),
            )
        )
    return found + [_old(record) for record in records if record.kind == "old board" and not record.gone]


def _written(
    store: Store, words: dict[int, list[CardWords]], owner: dict[int, int], numbers: dict[int, int]
) -> dict[int, list[str]]:
    """Reasons and serials of steps join the words of their boards; serials by board."""
    reasons = dict(store.typed((int, str), "SELECT step_id, text FROM reasons ORDER BY id"))
    for step, said in reasons.items():
        if said.strip() and step in owner:
            words[owner[step]].append(CardWords(f"why version {numbers[step]}", said, WEIGHTS["reason"], step))
    serials: dict[int, list[str]] = defaultdict(list)
    for step, serial in store.typed((int, str), "SELECT step_id, serial FROM frozen ORDER BY id"):
        if serial and step in owner:
            serials[owner[step]].append(serial)
            words[owner[step]].append(CardWords("serial", serial, WEIGHTS["serial"], step))
    return serials


def counted_for_cards(store: Store) -> dict[int, Drawn]:
    """What is counted of steps for their cards, by step."""
    found = {}
    for step, data in store.typed((int, str), "SELECT step_id, data FROM cards WHERE book = ?", BOOK_VERSION):
        card = unpacked_card(data)
        if card is not None:  # else it is counted again
            found[step] = card
    return found


def _briefs(store: Store, words: dict[int, list[CardWords]]) -> dict[int, tuple[Discipline, str]]:
    """Discipline and rider by board; what the briefs say joins the words."""
    about: dict[int, tuple[Discipline, str]] = {}
    query = "SELECT board_id, data FROM briefs WHERE id IN (SELECT MAX(id) FROM briefs GROUP BY board_id)"
    for board, data in store.typed((int, str), query):
        try:
            plain: dict[str, Any] = json.loads(data)
            discipline, rider = str(plain.get("discipline", "wing foil")), str(plain.get("rider", {}).get("name", ""))
        except (ValueError, AttributeError):
            continue
        if discipline in AT_REST:
            about[board] = (discipline, rider)
        for where in ("title", "place", "notes"):
            if str(plain.get(where, "")).strip():
                words[board].append(CardWords("the brief", str(plain[where]), WEIGHTS["brief"]))
        if rider:
            words[board].append(CardWords("the rider", rider, WEIGHTS["brief"]))
    return about


def _recorded(records: list[Record], words: dict[int, list[CardWords]], numbers: dict[int, int]) -> dict[int, Record]:
    """The decision that counts by board; decisions and words join the words."""
    decided: dict[int, Record] = {}
    for record in sorted(records, key=lambda r: r.first_at):
        if record.gone or record.board is None:
            continue
        at = f"version {numbers[record.step]}" if record.step in numbers else "the board"
        value = record.value
        if isinstance(value, Decision):
            words[record.board].append(
                CardWords(
                    f"{at} {value.verdict}, {value.who}".rstrip(", "),
                    value.why,
                    WEIGHTS["decision"],
                    record.step,
                    f"{value.verdict} {value.who}",
                )
            )
            if record.board not in decided or record.made_at >= decided[record.board].made_at:
                decided[record.board] = record
        elif isinstance(value, MadeBoard):
            said = ", ".join(part for part in (value.serial, value.built, value.where, value.whose) if part)
            words[record.board].append(CardWords(f"made of {at}", said, WEIGHTS["serial"], record.step, value.who))
        elif isinstance(value, Worked) and value.words and not value.struck:
            where = f"{value.stage}, {at}" + (f", {value.who}" if value.who else "")
            words[record.board].append(CardWords(where, value.words, WEIGHTS["reason"], record.step))
        elif isinstance(value, HandedOut):
            said = f"{value.code} {value.name} {value.day}".strip()
            words[record.board].append(
                CardWords(f"{at} handed out", said, WEIGHTS["serial"], record.step, value.serial)
            )
        elif isinstance(value, SaidRecord) and not value.struck:
            who = ", ".join(part for part in (value.who, value.rides) if part)
            where = f"{who}; {record.origin}, {at}" if who else f"{record.origin}, {at}"
            words[record.board].append(CardWords(where, value.words, WEIGHTS["said"], record.step, who))
    return decided


def _old(record: Record) -> Card:
    """A board that is only a page of a notebook."""
    value = record.value
    if not isinstance(value, OldBoard):
        raise InputError("it holds something else than it should", where=f"record {record.uid}")
    figures = {
        key: size
        for key, size in (("length", value.length), ("width", value.width), ("volume", value.volume))
        if size > 0
    }
    where = ", ".join(part for part in ("the notebook", value.made, value.who) if part)
    words = (
        (CardWords(where, value.words, WEIGHTS["said"], more=f"{value.made} {value.who}"),)
        if value.words.strip() or value.made or value.who
        else ()
    )
    return Card(
        0,
        value.name,
        value.discipline,
        record.made_at,
        uid=record.uid,
        figures=figures,
        who=value.who,
        words=words,
        photo=value.photo,
    )
