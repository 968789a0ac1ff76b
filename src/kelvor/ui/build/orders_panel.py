"""Orders of the workshop: who waits, what is signed off and goes to whom; what has to be bought; custom or moulded."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of, text_of, within
from kelvor.core.build.costing import Bought, board_cost, to_buy, together
from kelvor.core.made.mould_break_even import moulded
from kelvor.core.made.orders import Ordered, day_read
from kelvor.core.register.kinds.shop import Order
from kelvor.core.register.stamp import code_of
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.orders import bought_rows, mould_words, order_rows
from kelvor.ui.controls.panel import heading
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

HEADS = ("Customer", "Design", "Due", "Paid down", "Drawing", "Board")


class OrdersPanel(Panel):
    """A table of open orders, a row to take one, and what may become of the chosen one."""

    guide = "build#boards-begun"

    list_asked = Signal()

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Orders", "Take the order")
        self.session = session
        self.making = session.service(Making)
        self.found: tuple[Ordered, ...] = ()
        self.table = figures_table(HEADS)
        self.table.setMinimumSize(820, 200)
        self.column.insertWidget(1, self.table)
        row = QHBoxLayout()
        self.sign_button = self._button(
            "Drawing signed off", "By the customer, as it stands on the bench now", self.sign
        )
        self.goes_button = self._button(
            "Goes with", "The made board that is chosen in Build goes to this customer", self.goes
        )
        self.close_order = self._button("Delivered", "Or called off; what was written of it stays", self.delivered)
        self.list_button = self._button(
            "Shopping list…", "What all open orders need that are not begun", self.list_asked.emit
        )
        for button in (self.sign_button, self.goes_button, self.close_order, self.list_button):
            row.addWidget(button)
        row.addStretch(1)
        self.column.insertLayout(2, row)
        self.customer = self.field("Customer", "")
        self.customer.setMaxLength(text_of(Order, "customer").longest)
        self.due = self.field("Due", "")
        self.due.setPlaceholderText("2027-03-15")
        self.price = self.field("Price", "")
        self.deposit = self.field("Paid down", "")
        self.form.addRow(QLabel(""))
        self.form.addRow(heading("Custom or moulded"))
        self.mould = self.field("A mould would cost", "")
        self.each = self.field("A moulded board then costs", "")
        for line in (self.mould, self.each):
            line.textEdited.connect(lambda _: self.refresh())
        self.pays = QLabel()
        self.pays.setWordWrap(True)
        self.column.insertWidget(4, self.pays)
        self.table.itemSelectionChanged.connect(self._buttons)
        session.steps_changed.connect(self.refresh)
        self.refresh()

    def _button(self, words: str, tip: str, do: object) -> QPushButton:
        button = QPushButton(words)
        button.setToolTip(tip)
        button.setAutoDefault(False)
        button.clicked.connect(do)
        return button

    def refresh(self) -> None:
        """Show the open orders."""
        session = self.session
        making, ids = self.making, session.workshop.saving.ids
        self.found = making.orders.all()
        names = {ids(entry.id): entry.name for entry in session.workshop.store.boards()}
        designs = {o.record.uid: names.get(ids(o.record.board or 0), session.board.name) for o in self.found}
        fill_table(self.table, order_rows(self.found, designs, self._codes(), session.table.rates.currency))
        if self.table.currentRow() < 0 and self.found:
            self.table.selectRow(0)
        self.pays.setText(self._mould_words())
        self._buttons()

    def _codes(self) -> dict[str, str]:
        """The code of the version each board of the design on the bench is made of."""
        session = self.session
        ids, found = session.workshop.saving.ids, {}
        for order in self.found:
            step = ids(order.made.record.step or 0) if order.made is not None else 0
            if step in session.steps:
                found[order.record.uid] = code_of(session.board_at(step))
        return found

    def _buttons(self) -> None:
        order, made = self.chosen(), self.making.chosen()
        here = order is not None and self._of_this_design(order)
        self.sign_button.setEnabled(here)
        self.close_order.setEnabled(order is not None)
        self.goes_button.setText("Goes with a board" if made is None else f"{made.value.serial} goes to them")
        self.goes_button.setEnabled(here and made is not None)
        self.list_button.setEnabled(bool(self.found))

    def _of_this_design(self, order: Ordered) -> bool:
        ids = self.session.workshop.saving.ids
        return ids(order.record.board or 0) == ids(self.session.board_id)

    def chosen(self) -> Ordered | None:
        """The chosen order."""
        at = self.table.currentRow()
        return self.found[at] if 0 <= at < len(self.found) else None

    def act(self) -> bool:
        """Take an order for the design on the bench."""
        value = Order(
            customer=self.customer.text().strip(),
            due=day_read(self.due.text()),
            price=self._amount(self.price.text(), "price", "Price"),
            deposit=self._amount(self.deposit.text(), "deposit", "Paid down"),
        )
        if not value.customer:
            raise InputError("nobody is named", where="Customer", accepts="Type who waits for the board")
        if value.deposit > value.price > 0:
            raise InputError("more is paid down than it costs", where="Paid down", accepts="Look at both again")
        self.making.orders.keep(value, f"order of {value.customer}")
        for field in (self.customer, self.due, self.price, self.deposit):
            field.clear()
        self.problem.setText("")
        self.refresh()
        return False

    def sign(self) -> None:
        """The drawing of the version on the bench is signed off."""
        if (order := self.chosen()) is not None:
            day = datetime.now().astimezone().date().isoformat()
            value = replace(order.value, signed=code_of(self.session.board), signed_on=day)
            self.making.orders.keep(value, f"drawing signed off by {value.customer}", order.record)
            self.refresh()

    def goes(self) -> None:
        """The made board that is chosen goes to the customer."""
        order, made = self.chosen(), self.making.chosen()
        if order is not None and made is not None:
            value = replace(order.value, made=made.record.uid)
            self.making.orders.keep(value, f"{made.value.serial} goes to {value.customer}", order.record)
            self.refresh()

    def delivered(self) -> None:
        """The order is closed."""
        if (order := self.chosen()) is not None:
            self.making.orders.close(order.record)
            self.table.clearSelection()
            self.refresh()

    def to_buy(self) -> tuple[list[Bought], list[str]]:
        """What the open orders need whose boards are not begun, and the stamps of what it is for.

        Raises
        ------
        InputError
            When a board's construction is not stated, or nothing is to be bought.
        """
        session = self.session
        lists, stamps = [], []
        for order in self.found:
            if order.made is None:
                board = self.making.orders.board_of(order)
                live = session.drawn(board, session.brief)
                lists.append(to_buy(live.geometry, live.mass, session.table))
                stamps.append(f"{order.value.customer}: {board.name}, {code_of(board)}")
        if not lists:
            raise InputError("every ordered board is begun", where="Shopping list", accepts="Nothing is to be bought")
        return list(together(lists)), stamps

    def rows(self, lines: list[Bought]) -> list[tuple[str, str, str]]:
        """The list as it is printed."""
        return bought_rows(lines, self.session.table.rates.currency)

    def _mould_words(self) -> str:
        session, live = self.session, self.session.live
        if live.mass.layup is None or not (self.mould.text().strip() and self.each.text().strip()):
            return "Custom or moulded: type what a mould and a moulded board would cost."
        try:
            mould = self._amount(self.mould.text(), "price", "Mould")
            each = self._amount(self.each.text(), "price", "Moulded board")
        except InputError as error:
            return str(error)
        custom = board_cost(live.geometry, live.mass, session.table).total
        waiting = sum(self._of_this_design(order) for order in self.found)
        return mould_words(moulded(mould, custom, each), mould, custom, waiting, session.table.rates.currency)

    def _amount(self, words: str, field: str, what: str) -> float:
        given = words.replace(",", ".").strip()
        if not given:
            return 0.0
        try:
            value = float(given)
        except ValueError:
            raise InputError(f"“{words}” is no amount", where=what, accepts="Type it like 12500") from None
        return within(limit_of(Order, field), value, what)
