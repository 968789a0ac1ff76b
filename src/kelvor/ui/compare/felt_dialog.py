"""The least difference that is felt, lever by lever: as the trade says, or as the riders of this workshop say."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import field_problems
from kelvor.core.base.units import Quantity, parse
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.lever import Lever
from kelvor.core.register.kinds.words import LeastFelt
from kelvor.ui.compare.shown.compare import felt_rows
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.session.session import Session


class FeltDialog(Panel):
    """A list to type over; what is yours can be put back to what is usual."""

    guide = "keep#compare"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "The least that is felt", "As usual again")
        self.session = session
        self.explain(
            "Less than this nobody feels, and the ledger says so. What is usual is common practice, without a source. "
            "Type over what your riders know better."
        )
        self.rows = RowsView("The least that is felt", editable=True, value_share=0.8)
        self.rows.setMinimumSize(460, 420)
        self.rows.typed.connect(self.type_over)
        self.column.insertWidget(2, self.rows)
        self.do.setDefault(False)
        self.do.setAutoDefault(False)
        self.do.setToolTip("Put the chosen line back to what is usual")
        session.workshop.records_changed.connect(self.refresh)
        self.refresh()

    def _levers(self) -> list[Lever]:
        found = levers(self.session.live.board)
        return [lever for lever in found if lever.group != "At the cursor" and lever.quantity is not Quantity.CHOICE]

    def refresh(self) -> None:
        """Show the list."""
        own = self.session.workshop.registers.least_felt()
        self.rows.set_rows(felt_rows(self._levers(), own, self.session.system))

    def type_over(self, key: str, words: str) -> None:
        """Keep what was typed as this workshop's own."""
        lever = next(lever for lever in self._levers() if lever.key == key)
        try:
            least = parse(words, lever.quantity, self.session.system)
            value = LeastFelt(name=lever.label, lever=key, least=least)
            wrong = field_problems(value)
            if wrong:
                raise InputError(wrong[0].sentence(), accepts="Give more than nothing")
        except InputError as error:
            self.problem.setText(str(error))
            self.rows.accept_typed(False)
            return
        self.problem.setText("")
        self.rows.accept_typed(True)
        registers = self.session.workshop.registers
        uid = next((r.uid for r in registers.of("felt") if r.value.lever == key), "")
        registers.keep("felt", value, f"least felt of {lever.label.lower()}", uid=uid)

    def act(self) -> bool:
        """The chosen line is as usual again; the window stays."""
        key = self.rows.key()
        registers = self.session.workshop.registers
        record = next((r for r in registers.of("felt") if r.value.lever == key), None)
        if record is None:
            raise InputError("this one is as usual", accepts="Choose a line marked yours")
        self.problem.setText("")
        registers.take_off(record.uid, f"least felt of {record.value.name.lower()}")
        return False
