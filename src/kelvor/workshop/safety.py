"""Safety copies: each workshop as it was when a window last opened it, and the time before, in the user's own folder.

Should the file be overwritten or cut short while it is open, what the window has
written since is put on top of its safety copy.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.files import written_whole
from kelvor.workshop.store import Store

LARGEST = 64 * 1024 * 1024
"""A larger workshop is not copied at each opening: it would be felt [bytes]."""


def safety_copy(folder: Path, path: Path) -> Path:
    """Where the safety copy of a workshop lies."""
    mark = hashlib.sha256(os.path.realpath(path).encode("utf-8", "surrogateescape")).hexdigest()[:10]
    stem = "".join(c if c.isalnum() else "-" for c in path.stem)[:40]
    return folder / f"{stem}-{mark}.copy"


def keep_safe(folder: Path, store: Store) -> Path | None:
    """Copy a sound workshop; None where that cannot be done, which is no reason not to work on it."""
    with contextlib.suppress(OSError, InputError):
        if store.damages is not None or store.path.stat().st_size > LARGEST:
            return None
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        copy = safety_copy(folder, store.path)
        fresh = copy.with_suffix(".new")
        fresh.unlink(missing_ok=True)
        with written_whole(fresh, like=store.path) as temporary:
            store.backed_up(temporary)
        if copy.exists():
            os.replace(copy, copy.with_suffix(".before"))
        os.replace(fresh, copy)
        return copy
    return None
