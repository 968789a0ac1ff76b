"""Orders in words: who waits for what until when, what was signed off, what is to be bought, what a mould saves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kelvor.core.build.costing import Bought
from kelvor.core.made.mould_break_even import Moulded
from kelvor.core.made.orders import SOON, Ordered
from kelvor.ui.shown.shown import money

SIGNED_ELSE = "of another version than was signed off"


def due_words(order: Ordered) -> str:
    """Until when, and how soon that is."""
    if order.days is None:
        return "no day"
    if order.days < 0:
        return f"{order.value.due}, {-order.days} days late"
    return f"{order.value.due}, in {order.days} days" if order.days <= SOON else order.value.due


def order_rows(
    orders: Sequence[Ordered], designs: Mapping[str, str], codes: Mapping[str, str], currency: str
) -> list[tuple[str, ...]]:
    """Orders as a table: customer, design, due, paid down, drawing, board.

    `designs` names what each is an order for, `codes` the code of the version each made board is of, both by record.
    """
    rows: list[tuple[str, ...]] = []
    for order in orders:
        value, uid = order.value, order.record.uid
        signed = f"signed {value.signed_on}, {value.signed}" if value.signed else "not signed off"
        board = "not begun"
        if order.made is not None:
            board = f"{order.made.value.serial}, {order.made.stage or 'begun'}"
            if value.signed and codes.get(uid, value.signed) != value.signed:
                board += f": {SIGNED_ELSE}"
        paid = f"{value.deposit:.0f} of {value.price:.0f} {currency}" if value.price or value.deposit else ""
        rows.append((value.customer, designs.get(uid, ""), due_words(order), paid, signed, board))
    return rows


def bought_rows(lines: Sequence[Bought], currency: str) -> list[tuple[str, str, str]]:
    """What is to be bought: thing, how much, what it costs."""
    rows = []
    for line in lines:
        amount = f"{line.amount:.0f}" if not line.unit else f"{line.amount:.2f} {line.unit}"
        rows.append((line.what, amount, money(line.cost, currency)))
    return [*rows, ("Together", "", money(sum(line.cost for line in lines), currency))]


def mould_words(found: Moulded, mould: float, custom: float, waiting: int, currency: str) -> str:
    """When a mould pays, beside how many boards are asked for."""
    if found.pays is None:
        return f"A moulded board costs no less than a custom one ({custom:.0f} {currency}): no mould pays."
    asked = {0: "None is", 1: "One is"}.get(waiting, f"{waiting} are")
    enough = "enough" if waiting >= found.pays else "ask for demand before it is built"
    return (
        f"A mould of {mould:.0f} {currency} pays after {found.pays} boards: each saves {found.saves:.0f} of "
        f"{custom:.0f} {currency}. {asked} on order: {enough}. Material and hours by the workshop's own rates."
    )
