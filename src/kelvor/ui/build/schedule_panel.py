"""The schedule of a made board: ticked as the work is done, with the clock of the cures."""

from __future__ import annotations

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of, within
from kelvor.core.build.materials.work import Activity
from kelvor.core.register.kinds.shop import Done
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.schedule import CAUTION, done_words, schedule_rows, schedule_words
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

HEADS = ("Work", "Hands", "Cure", "Begins after", "May wait", "Where it stands", "Mind, or how it was done")
CLOCK_MS = 30_000
"""The clock of the cures moves on this often."""


class SchedulePanel(Panel):
    """What is to be done, what is done, and what may begin when in this room."""

    guide = "build#boards-begun"

    card_asked = Signal()

    def __init__(self, parent: QWidget, session: Session) -> None:
        made = session.service(Making).chosen()
        title = f"Schedule of {made.value.serial}" if made is not None else "Schedule of the version on the bench"
        super().__init__(parent, title, "Done now")
        self.session = session
        self.work: tuple[Activity, ...] = ()
        self.table = figures_table(HEADS)
        self.table.setMinimumSize(860, 330)
        self.column.insertWidget(1, self.table)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.column.insertWidget(2, self.words)
        self.room = self.field("Room, °C", "20")
        self.room.textEdited.connect(lambda _: self.refresh())
        self.humidity = self.field("Humidity, %", "")
        self.batch = self.field("Batch and ratio", "")
        self.explain(CAUTION, 4)
        self.card_button = QPushButton("Stage card…")
        self.card_button.setToolTip("On paper, to go along with the board through the shop")
        self.card_button.setAutoDefault(False)
        self.card_button.clicked.connect(self.card_asked)
        self.form.addRow("", self.card_button)
        self.do.setEnabled(made is not None)
        session.steps_changed.connect(self.refresh)
        self._clock = QTimer(self)
        self._clock.setInterval(CLOCK_MS)
        self._clock.timeout.connect(self.refresh)
        self._clock.start()
        self.refresh()

    def refresh(self) -> None:
        """Show where the work stands."""
        try:
            self.work = self.session.service(Making).schedule()
            celsius = self._read(self.room.text(), "celsius", "Room")
        except InputError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        done = self.session.service(Making).hours_since()
        made = self.session.service(Making).chosen()
        told = {key: done_words(entry.value) for key, entry in made.done.items()} if made is not None else {}
        fill_table(self.table, schedule_rows(self.work, done, celsius, told))
        self.words.setText(schedule_words(self.work, done, celsius))
        if self.table.currentRow() < 0:
            self.table.selectRow(next((i for i, item in enumerate(self.work) if item.key not in done), 0))

    def act(self) -> bool:
        """Tick the chosen line, and go on to the next."""
        at = self.table.currentRow()
        if not 0 <= at < len(self.work):
            raise InputError("no line is chosen", where="Schedule", accepts="Choose what is done")
        celsius = self._read(self.room.text(), "celsius", "Room")
        humidity = self._read(self.humidity.text() or "0", "humidity", "Humidity")
        self.session.service(Making).tick(self.work[at], celsius, humidity, self.batch.text())
        self.refresh()
        self.table.selectRow(min(at + 1, len(self.work) - 1))
        return False

    def _read(self, words: str, field: str, what: str) -> float:
        try:
            value = float(words.replace(",", ".").removesuffix("%").removesuffix("°C").strip())
        except ValueError:
            raise InputError(f"“{words}” is not a number", where=what, accepts="Type it like 18.5") from None
        return within(limit_of(Done, field), value, what)
