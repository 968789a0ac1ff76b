"""Errors a designer can act on.

Every message says what was wrong, where, and what would be accepted. Anything
that is not a :class:`KelvorError` is a fault of the program.
"""

from __future__ import annotations

from functools import partial
from typing import Any

from kelvor.core.base.plain_text import one_line


class KelvorError(Exception):
    """Root of all errors caused by input or by the machine, never by a fault in the code."""


class InputError(KelvorError):
    """A typed value, a file or a document cannot be used.

    Parameters
    ----------
    what:
        What is wrong, as the beginning of a sentence.
    where:
        The place: a field, a path inside a document, a file. May be empty.
    accepts:
        What would be accepted. May be empty.
    """

    def __init__(self, what: str, *, where: str = "", accepts: str = "") -> None:
        self.what, self.where, self.accepts = one_line(what), one_line(where), one_line(accepts)
        text = f"{self.where}: {self.what}" if where else self.what
        super().__init__(f"{text}. {self.accepts}" if accepts else f"{text}.")

    def __reduce__(self) -> tuple[Any, ...]:
        """It comes back from a worker as it is."""
        return partial(InputError, self.what, where=self.where, accepts=self.accepts), ()


class RefusedEdit(KelvorError):
    """An edit that cannot be met, because of a lock or because no board would result."""
