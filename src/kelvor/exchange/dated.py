"""Dated copies of a workshop, whole, one a day; and if wanted a readable page for each board."""

from __future__ import annotations

import os
from datetime import datetime
from pathlib import Path

from kelvor.core.errors import InputError
from kelvor.exchange.listing import shown
from kelvor.files import reason, written_whole
from kelvor.workshop.rack import cards
from kelvor.workshop.store import Store


def dated_copy(store: Store, folder: Path, *, pages: bool = False) -> Path:
    """Copy a workshop into a folder under the day's date; the day's earlier copy gives way to it. The copy's path.

    Raises
    ------
    InputError
        When the folder cannot be written, or the workshop lies in it under that name.
    """
    day = f"{store.path.stem} {datetime.now().astimezone():%Y-%m-%d}"
    copy, fresh = folder / f"{day}.kelvor", folder / f"{day}.new"
    if copy.resolve() == store.path.resolve():
        raise InputError("this is the workshop itself", where=str(copy), accepts="Choose another folder for copies")
    try:
        fresh.unlink(missing_ok=True)
        with written_whole(fresh) as temporary:
            store.backed_up(temporary)
        os.replace(fresh, copy)
        if pages:
            _pages(store, folder / day)
    except OSError as error:
        raise InputError(reason(error), where=str(folder), accepts="Choose another folder for copies") from None
    return copy


def _pages(store: Store, folder: Path) -> None:
    folder.mkdir(exist_ok=True)
    for card in cards(store):
        name = "".join(c if c.isalnum() or c in " -" else "-" for c in card.name).strip()[:60] or "board"
        text = "\n".join(shown(card)) + "\n"
        (folder / f"{name} ({card.key[:12]}).txt").write_text(text, encoding="utf-8")
