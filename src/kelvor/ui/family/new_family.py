"""A new family: whose parent is on the bench, for which riders."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, parse
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.family.families import Families
from kelvor.ui.family.shown.families import masses_of, rider_words
from kelvor.ui.session.session import Session

SPREAD = (0.72, 0.85, 1.15, 1.32)
"""Riders that are proposed, as shares of the parent's."""


class NewFamilyPanel(Panel):
    """Name, the parent's rider, the riders of the sizes; a second parent where sizes lie between two."""

    guide = "family#a-size-run"

    def __init__(self, parent: QWidget, session: Session, families: Families) -> None:
        super().__init__(parent, "New family", "Make the sizes")
        self.session, self.families = session, families
        system, mass = session.system, session.brief.rider.mass
        self.explain(
            f"The parent is {session.board.name}, version {session.step().number}. Each size becomes a board of its "
            "own, by rules you can change."
        )
        self.name = self.field("Name", f"{session.board.name} family"[:80])
        self.mass = self.field("The parent's rider", rider_words(mass, system))
        proposed = ", ".join(f"{_even(share * mass):.0f}" for share in SPREAD)
        self.masses = self.field("Riders of the sizes", proposed if system.value == "metric" else "")
        self.masses.setPlaceholderText("masses, such as 55, 65, 85")
        self.other = QComboBox()
        self.other.setAccessibleName("Second parent")
        self.other.addItem("none", 0)
        ids = session.workshop.saving.ids
        for entry in session.workshop.store.boards():
            alike = families.brief_of(entry.id).discipline == session.brief.discipline
            if alike and entry.id != ids(session.board_id):
                self.other.addItem(entry.name, entry.id)
        self.form.addRow("Second parent", self.other)
        self.other_mass = self.field("Its rider", "")
        self.other.currentIndexChanged.connect(lambda _: self._fill_other())
        self._fill_other()
        self.masses.setFocus()

    def _fill_other(self) -> None:
        board_id = self.other.currentData()
        self.other_mass.setEnabled(bool(board_id))
        if board_id:
            mass = self.families.brief_of(board_id).rider.mass
            self.other_mass.setText(rider_words(mass, self.session.system))

    def act(self) -> bool:
        """Make them."""
        system = self.session.system
        mass = parse(self.mass.text(), Quantity.MASS, system)
        other = (0, 0.0)
        if self.other.currentData():
            there = parse(self.other_mass.text(), Quantity.MASS, system)
            if abs(there - mass) < 1:
                raise InputError("both parents are for the same rider", where="Its rider", accepts="Give another mass")
            step, _ = self.families.standing(self.other.currentData())
            other = (step, there)
        self.families.begin(self.name.text(), mass, masses_of(self.masses.text(), system), other)
        return True


def _even(mass: float) -> float:
    """To five kilograms."""
    return 5 * round(mass / 5)
