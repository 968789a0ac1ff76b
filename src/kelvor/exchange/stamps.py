"""Stamps found again: which version of a workshop a code belongs to."""

from __future__ import annotations

import contextlib
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.core.register.kinds.shop import HandedOut
from kelvor.core.register.stamp import code_of, code_read
from kelvor.workshop.store import Store


def versions_of_code(typed: str, path: Path) -> list[str]:
    """What a code was handed out as, and of which versions it is the code, a line each.

    Raises
    ------
    InputError
        When that is no code, the file cannot be read, or nothing in it has that code.
    """
    code = code_read(typed)
    if not code:
        raise InputError(f"“{typed}” is no stamp's code", accepts="Give its eight signs, such as K7QM-4D2X")
    with contextlib.closing(Store.open(path)) as store:
        names = store.names()
        lines = [
            f"{code}  {names.get(record.board or 0, '?')}: {record.value.name}, {record.value.day}"
            for record in store.records.newest("handed out")
            if isinstance(record.value, HandedOut) and record.value.code == code
        ]
        for board, name in names.items():
            for step in store.steps(board).values():
                with contextlib.suppress(InputError):  # one that cannot be read has no code
                    if code_of(store.board(step.id)) == code:
                        lines.append(f"{code}  {name}, version {step.number} of {step.made_at[:10]}")
    if not lines:
        raise InputError(f"nothing has the code {code}", where=str(path), accepts="Is it another workshop's?")
    return lines
