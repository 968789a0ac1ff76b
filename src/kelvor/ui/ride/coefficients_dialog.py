"""The table of coefficients behind drive and ride, to read and to correct."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QTableWidget, QTableWidgetItem, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import parse, text
from kelvor.core.tank.laws.coefficients import ABOUT, HANDBOOK_COEFFICIENTS
from kelvor.ui.controls.panel import undo_button
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import fit_columns
from kelvor.ui.session.session import Session

HEADS = ("for", "coefficient", "value", "±", "as shipped", "source")


class CoefficientsDialog(Panel):
    """Every coefficient with its band and source; a value typed over is the workshop's own from then on."""

    guide = "ride#coefficients"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Coefficients of drive and ride", "")
        self.session = session
        self.keys = sorted(
            ABOUT, key=lambda key: list(dict.fromkeys(a.group for a in ABOUT.values())).index(ABOUT[key].group)
        )
        self.table = QTableWidget(len(self.keys), len(HEADS))
        self.table.setAccessibleName("Coefficients")
        self.table.setMinimumSize(960, 420)
        self.table.setHorizontalHeaderLabels(list(HEADS))
        self.table.verticalHeader().setVisible(False)
        self.table.horizontalHeader().setStretchLastSection(True)
        self.column.insertWidget(2, self.table)
        note = QLabel(
            "“From memory” and “common practice” wait for your own tests: type your value over. All boards of this "
            "workshop follow."
        )
        note.setObjectName("quiet")
        note.setWordWrap(True)
        self.column.insertWidget(3, note)
        self.form.addRow("", undo_button(self._undo))
        self.table.cellChanged.connect(self._typed)
        session.units_changed.connect(self.fill)
        self.fill()

    def fill(self) -> None:
        """Show the table as it stands."""
        self.table.blockSignals(True)
        for row, key in enumerate(self.keys):
            about, system = ABOUT[key], self.session.system
            value = getattr(self.session.coefficients, key)
            shipped = getattr(HANDBOOK_COEFFICIENTS, key)
            finer = 1 if abs(value) < 0.1 else 0
            words = (
                about.group,
                about.label,
                text(value, about.quantity, system, extra=finer),
                "sets the scene" if about.scene else text(about.band, about.quantity, system, extra=1),
                "" if value == shipped else text(shipped, about.quantity, system, extra=finer),
                about.source,
            )
            for column, shown in enumerate(words):
                item = QTableWidgetItem(shown)
                item.setToolTip(about.source if column == 5 else about.label)
                if column != 2:
                    item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                self.table.setItem(row, column, item)
        fit_columns(self.table)
        self.table.blockSignals(False)

    def _typed(self, row: int, column: int) -> None:
        item = self.table.item(row, column)
        assert item is not None
        key = self.keys[row]
        try:
            self.session.workshop.tables.keep_coefficient(
                key, parse(item.text(), ABOUT[key].quantity, self.session.system)
            )
        except InputError as error:
            self.problem.setText(str(error))
            return  # what was typed stays to be mended
        self.problem.setText("")
        self.fill()

    def _undo(self) -> None:
        self.session.undo()
        self.problem.setText("")
        self.fill()
