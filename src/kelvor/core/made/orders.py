"""Orders: who waits for which board until when, and what was signed off."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.made.made_boards import Made
from kelvor.core.register.kinds.shop import Order
from kelvor.core.register.record import Record

SOON = 14
"""So many days before it is due an order is told of first (judgement)."""


@frozen
class Ordered:
    """An order that is open: its record and value, the made board it goes with, days until it is due (None without a
    day).
    """

    record: Record
    value: Order
    made: Made | None
    days: int | None


def day_read(words: str, what: str = "Due") -> str:
    """A day as somebody typed it, as YYYY-MM-DD; nothing stays nothing.

    Raises
    ------
    InputError
        When it is no day.
    """
    given = words.strip()
    if not given:
        return ""
    try:
        return date.fromisoformat(given).isoformat()
    except ValueError:
        raise InputError(f"“{given}” is no day", where=what, accepts="Type it like 2027-03-15") from None


def open_orders_by_day(records: Iterable[Record], boards: Iterable[Made], today: date) -> tuple[Ordered, ...]:
    """Every open order, the one that is due first first; those without a day last."""
    made = {one.record.uid: one for one in boards}
    found = [
        Ordered(record, record.value, made.get(record.value.made), _days(record.value, today))
        for record in records
        if isinstance(record.value, Order) and not record.gone
    ]
    return tuple(sorted(found, key=lambda o: (o.days is None, o.days or 0, o.record.first_at)))


def _days(value: Order, today: date) -> int | None:
    return (date.fromisoformat(value.due) - today).days if value.due else None
