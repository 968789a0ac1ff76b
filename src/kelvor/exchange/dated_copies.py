"""Dated copies of a workshop, whole, one a day; and if wanted a readable page for each board."""

from __future__ import annotations

import contextlib
import os
import sqlite3
from datetime import datetime
from hashlib import sha256
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.exchange.listing import listed_board
from kelvor.files import refusal_reason, written_whole
from kelvor.workshop.opening import born, looking
from kelvor.workshop.rack import cards
from kelvor.workshop.store import Store

EARLIER = "earlier"
"""What the day's copy before the last is called."""


def dated_copy(store: Store, folder: Path, *, pages: bool = False) -> Path:
    """Copy a workshop into a folder under the day's date and a mark of its own; the day's earlier copy is kept beside
    it. The copy's path.

    Raises
    ------
    InputError
        When the folder cannot be written, a link stands in the way, or something else than a copy of this workshop.
    """
    mark = sha256(os.path.realpath(store.path).encode("utf-8", "surrogateescape")).hexdigest()[:6]
    day = f"{store.path.stem} {mark} {datetime.now().astimezone():%Y-%m-%d}"
    copy, before = folder / f"{day}.kelvor", folder / f"{day} {EARLIER}.kelvor"
    if copy.resolve() == store.path.resolve():
        raise InputError("this is the workshop itself", where=str(copy), accepts="Choose another folder for copies")
    for there in (copy, before):
        if os.path.lexists(there) and not _is_copy(there, store):
            raise InputError(
                "something else has this name, and is left as it is", where=str(there), accepts="Move it away"
            )
    fresh = folder / f"{day} {os.urandom(4).hex()}.new"
    try:
        with written_whole(fresh, like=store.path) as temporary:
            store.backed_up(temporary)
        if copy.exists():
            os.replace(copy, before)
        os.replace(fresh, copy)
        if pages:
            _pages(store, folder / day)
    except OSError as error:
        raise InputError(refusal_reason(error), where=str(folder), accepts="Choose another folder for copies") from None
    finally:
        with contextlib.suppress(OSError):
            fresh.unlink(missing_ok=True)
    return copy


def _is_copy(path: Path, store: Store) -> bool:
    """Whether a file is a copy of a workshop: no link, and with the same first board."""
    if path.is_symlink() or not path.is_file():
        return False
    try:
        with contextlib.closing(looking(path, 0.1)) as there:
            return born(there) == store.born()
    except sqlite3.Error:
        return False


def _pages(store: Store, folder: Path) -> None:
    if folder.is_symlink():
        raise InputError("this is a link, and is left as it is", where=str(folder), accepts="Move it away")
    folder.mkdir(exist_ok=True, mode=0o700)
    for card in cards(store):
        name = "".join(c if c.isalnum() or c in " -" else "-" for c in card.name).strip()[:60] or "board"
        page, fresh = folder / f"{name} ({card.key[:12]}).txt", folder / f"{os.urandom(4).hex()}.new"
        with written_whole(fresh, like=store.path) as temporary:
            temporary.write_text("\n".join(listed_board(card)) + "\n", encoding="utf-8")
        os.replace(fresh, page)  # a link of that name gives way, what it leads to does not
