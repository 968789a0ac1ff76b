"""A static proof load on a made board, written down: what was loaded, with how much, and whether it held."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of, text_of, within
from kelvor.core.base.units import Quantity, parse, text
from kelvor.core.register.kinds.shop import Proof
from kelvor.ui.build.made import Making
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session

CAUTION = (
    "Board held down on padding, load brought on slowly through a strap, nobody under or in line with it, eyes "
    "protected. Look for cracks and lift, then wait ten minutes. Local rules and "
    "licensed practice come first."
)


class ProofPanel(Panel):
    """Asks for one proof load."""

    guide = "build#boards-begun"

    def __init__(self, parent: QWidget, session: Session) -> None:
        made = session.service(Making).chosen()
        super().__init__(parent, f"Proof load of {made.value.serial}" if made else "Proof load", "Write it down")
        self.session = session
        needed = session.service(Making).proof_needed()
        why = f"None is told: {needed.refused}." if needed.refused else f"At least {needed.why}."
        self.explain(f"{why} {CAUTION}")
        self.what = self.field("What was loaded", needed.part)
        self.what.setMaxLength(text_of(Proof, "what").longest)
        told = "" if needed.refused else text(needed.moment, Quantity.MOMENT, session.system)
        self.moment = self.field("Moment", told)
        self.held = QComboBox()
        self.held.addItem("It held", True)
        self.held.addItem("It gave way", False)
        self.held.setAccessibleName("Whether it held")
        self.form.addRow("", self.held)
        self.words = self.field("What was seen", "")
        self.who = self.field("Who", made.value.who if made else "")
        self.do.setEnabled(made is not None)

    def act(self) -> bool:
        """Write it down."""
        moment = parse(self.moment.text(), Quantity.MOMENT, self.session.system)
        within(limit_of(Proof, "moment"), moment, "Moment")
        if not self.what.text().strip():
            raise InputError("nothing is named", where="What was loaded", accepts="Type what was loaded")
        self.session.service(Making).prove(
            self.what.text(), moment, self.held.currentData(), self.words.text(), self.who.text()
        )
        return True
