"""The demo workshop file."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import cast

from kelvor.core.history.steps import FrozenAs
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.locks import volume_of
from kelvor.core.register.record import Record
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import all_demo_boards
from kelvor.demo.pulls import DemoBoard
from kelvor.demo.record import fill_record, registered
from kelvor.demo.season import fill_season
from kelvor.workshop.rows import written_at
from kelvor.workshop.store import Store

OPENED = "dunlin-39"
"""The board that stands on the bench when the demo workshop is opened."""

FIRST, APART = datetime(2025, 12, 1, 19, 0, tzinfo=UTC), timedelta(days=3)
"""When the first board was drawn, and how long after it the next: before they were made."""
DRAWN = {
    "sandpiper-46": datetime(2026, 2, 20, 19, 0, tzinfo=UTC),
    "dunlin-39": datetime(2026, 5, 4, 19, 0, tzinfo=UTC),
    "stint-33": datetime(2026, 10, 19, 19, 0, tzinfo=UTC),
}
"""Boards that answer what was felt on the one before."""


def create_demo(path: Path) -> Store:
    """Write the demo workshop to `path`, step by step as a designer would have made it."""
    store = Store.create(path)
    last: dict[str, int] = {}
    ids: dict[str, int] = {}
    versions: dict[str, list[int]] = {}
    known: dict[tuple[str, str], Record] = {}
    for number, item in enumerate(all_demo_boards()):
        with written_at(DRAWN.get(item.slug, FIRST + number * APART)):
            _design(store, item, last, ids, versions, known)
    fill_record(store, ids, versions)
    fill_season(store, ids, versions)
    store.leave_at(ids[OPENED], store.left_at(ids[OPENED]))
    return store


def _design(
    store: Store,
    item: DemoBoard,
    last: dict[str, int],
    ids: dict[str, int],
    versions: dict[str, list[int]],
    known: dict[tuple[str, str], Record],
) -> None:
    """A board and its steps; its number, its steps and its last one go by its slug from then on."""
    board = item.start
    board_id, step = store.add_board(
        board,
        registered(store, item.brief, known),
        item.title,
        volume_of(board, Resolution.NORMAL),
        last.get(item.parent),
    )
    made = [step]
    for move in item.pulls:
        lever = next(found for found in levers(board) if found.key == move.lever)
        result = pull_lever(board, lever, move.value)
        board = result.board
        made.append(
            store.append(
                board_id,
                made[-1].id,
                board,
                result.changes,
                reason=move.reason,
                volume=volume_of(board, Resolution.NORMAL),
            )
        )
    last[item.slug], ids[item.slug] = made[-1].id, board_id
    versions[item.slug] = [step.id for step in made]
    store.pin(board_id, made[item.pinned].id)
    for index, kind, serial in item.frozen:
        store.freeze(made[index].id, cast(FrozenAs, kind), serial)
