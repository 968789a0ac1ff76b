"""Orders of the workshop: taken, signed off, closed; everything can be taken back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from kelvor.core.made.made_boards import Made
    from kelvor.core.made.orders import Ordered
    from kelvor.core.register.kinds.shop import Order
    from kelvor.core.register.record import Record
    from kelvor.core.shape.board import Board
    from kelvor.ui.session.session import Session
    from kelvor.ui.workshop.registers import Registers


class Orders:
    """Who waits for a board."""

    def __init__(self, session: Session, boards: Callable[[], tuple[Made, ...]]) -> None:
        self._session, self._boards = session, boards

    @property
    def _registers(self) -> Registers:
        return self._session.workshop.registers

    def all(self) -> tuple[Ordered, ...]:
        """Every open order of the workshop, the one due first first."""
        from kelvor.core.made.orders import open_orders_by_day

        today = datetime.now().astimezone().date()
        return open_orders_by_day(self._registers.of("order"), self._boards(), today)

    def keep(self, value: Order, words: str, record: Record | None = None) -> str:
        """Take an order for the design on the bench, or write one anew; its identity."""
        session = self._session
        board, step = session.board_id, session.current
        if record is not None:
            board, step = record.board or board, record.step or step
        uid = record.uid if record is not None else ""
        return self._registers.keep("order", value, words, uid=uid, board=board, step=step)

    def board_of(self, order: Ordered) -> Board:
        """The board of an order as it is to be made: the version it was taken or signed off on.

        Raises
        ------
        InputError
            When it cannot be read.
        """
        step = self._session.workshop.saving.ids(order.record.step or 0)
        return self._session.board_at(step)

    def close(self, record: Record) -> None:
        """An order is delivered or called off; what was written of it stays."""
        self._registers.take_off(record.uid, f"order of {record.value.customer} closed")
