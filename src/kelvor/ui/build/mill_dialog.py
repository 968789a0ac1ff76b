"""The workshop's mill: every field of it, typed over what is usual."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtWidgets import QScrollArea, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.milling import MILL_WORDS
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.value_form import ValueForm
from kelvor.ui.session.session import Session

EXPLAINS = (
    "Written down once for the workshop. Programs keep within its travels; the simulated mill stops where the shank or "
    "the collet nut would run into foam."
)


class MillDialog(Panel):
    """A form over the mill; what is typed counts at once and can be undone."""

    guide = "build#mill"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "The mill", "")
        self.session = session
        self.mill_form = ValueForm(self._typed, self.problem.setText)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self.mill_form)
        area.setMinimumSize(380, 430)
        self.explain(EXPLAINS, 1)
        self.column.insertWidget(2, area, 1)
        self.resize(430, 620)
        session.steps_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the mill as it is written down."""
        self.mill_form.show_value(self.session.service(Making).mill(), self.session.system, MILL_WORDS)

    def _typed(self, mill: Mill) -> None:
        try:
            self.session.service(Making).set_mill(replace(mill, tabs=round(mill.tabs), spindle=round(mill.spindle)))
        except InputError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.refresh()
