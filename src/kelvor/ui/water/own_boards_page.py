"""By our own boards: what scale and water say of what was computed, how good that is, and which boards it rests on."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from kelvor.core.water.calibration import KINDS
from kelvor.core.water.sessions.corrected import applied
from kelvor.ui.controls.panel import caution_label, heading, panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session
from kelvor.ui.water.own_boards import OurBoards
from kelvor.ui.water.shown.gear import board_rows, correction_rows, forecast_rows

HEADS = ("What", "By our own boards", "Boards", "Missed with / without", "How good that is")
FORECAST = ("On the bench", "Computed, plain", "By our own boards")
TOLD = (
    "A figure is multiplied by what this workshop's boards were measured at against what was computed for them. Few "
    "boards count little: the factor shrinks towards the handbook. It is used only where it meets boards that were "
    "left out better than none; a board beyond three standard deviations is doubted and not learnt. What a stand-in "
    "said, what was struck and dropped sessions never enter."
)


class OursPage(QWidget):
    """The corrections, what they rest on, and what they do to the board on the bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        session.service(OurBoards).changed.connect(self.refresh)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(16, 10, 16, 10)
        column.addWidget(heading("By our own boards"))
        column.addWidget(caution_label(TOLD))
        self.table = figures_table(HEADS)
        self.table.itemSelectionChanged.connect(self._show_boards)
        column.addWidget(self.table, 3)
        column.addWidget(heading("The next board"))
        self.forecast = figures_table(FORECAST)
        column.addWidget(self.forecast, 4)
        self.turn = QPushButton()
        self.turn.clicked.connect(session.service(OurBoards).turn)
        buttons = QHBoxLayout()
        buttons.addWidget(self.turn)
        buttons.addStretch(1)
        column.addLayout(buttons)
        row.addWidget(frame, 3)
        side, inner = panel(), QVBoxLayout()
        side.setLayout(inner)
        inner.setContentsMargins(1, 8, 1, 6)
        self.which = heading("")
        self.which.setContentsMargins(12, 0, 10, 2)
        inner.addWidget(self.which)
        self.boards = RowsView("Boards it rests on", value_share=0.97, row_height=22)
        inner.addWidget(self.boards, 1)
        row.addWidget(side, 1)

    def refresh(self) -> None:
        """Show the corrections."""
        if not self.isVisible():
            return
        ours, session = self.session.service(OurBoards), self.session
        ours.look()
        found = ours.corrections()
        fill_table(self.table, correction_rows(found))
        if self.table.currentRow() < 0:
            self.table.selectRow(0)
        plain = session.results.as_counted()
        fill_table(self.forecast, forecast_rows(plain, applied(plain, found), session.system))
        words = "Show plain figures" if ours.on else "Show all figures by our own boards"
        self.turn.setText(f"{words}  (Ctrl+Shift+O)")
        self._show_boards()

    def _show_boards(self) -> None:
        at = max(self.table.currentRow(), 0)
        c = self.session.service(OurBoards).corrections()[KINDS[at]]
        self.which.setText("What it rests on")
        self.boards.set_rows(board_rows(c))
