"""Custom or moulded: what number of boards pays a mould."""

from __future__ import annotations

import math

from kelvor.core.base.values import frozen


@frozen
class Moulded:
    """A mould against custom building: what it costs, and a board either way, in one currency.

    Attributes
    ----------
    pays:
        Boards after which the mould has paid for itself; None where a moulded board costs no less.
    saves:
        What each moulded board saves.
    """

    pays: int | None
    saves: float


def moulded(mould: float, custom: float, each: float) -> Moulded:
    """What number of boards pays a `mould` that makes them for `each` instead of `custom`."""
    saves = custom - each
    return Moulded(math.ceil(mould / saves - 1e-9) if saves > 0 else None, saves)
