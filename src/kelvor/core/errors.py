"""Errors a designer can act on.

Every message says what was wrong, where, and what would be accepted. Anything
that is not a :class:`KelvorError` is a fault of the program.
"""


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
        self.what, self.where, self.accepts = what, where, accepts
        text = f"{where}: {what}" if where else what
        super().__init__(f"{text}. {accepts}" if accepts else f"{text}.")


class RefusedEdit(KelvorError):
    """An edit that cannot be met, because of a lock or because no board would result."""
