"""Boards that were begun of this design: serials, hours, notes, photos, and where each of them is."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import limit_of, text_of, within
from kelvor.core.build.mass.stages import STAGES
from kelvor.core.register.kinds.shop import MadeBoard, Worked
from kelvor.core.register.record import WHEREABOUTS
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.build import entry_rows, made_rows
from kelvor.ui.controls.panel import problem_label
from kelvor.ui.controls.photos import ask_photo, read_photo
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

HEADS = ("Serial", "Version", "Begun", "Who", "Stage", "Hours", "Weighs", "Where it is")
ENTRIES = ("Day", "Stage", "What", "Who")
NONE_YET = (
    "No board of this design is begun yet. Begin one when the foam is cut: its weights, hours and photos stay its own."
)


class MadeBoards(QWidget):
    """A list of made boards, a row to begin one, and what is written of the one that is chosen."""

    chosen = Signal()
    schedule_asked = Signal()
    orders_asked = Signal()
    proof_asked = Signal()
    photo_asked = Signal(str, str)
    """A photo is to be shown: what it is of, and its SHA-256."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.making = session.service(Making)
        self._photo: bytes | None = None
        self._filling, self._shown = False, ""
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(6)
        self.table = figures_table(HEADS)
        self.table.itemSelectionChanged.connect(self._choose)
        column.addWidget(self.table, 2)
        column.addLayout(self._to_begin())
        self.head = QLabel()
        self.head.setObjectName("heading")
        self.none_yet = QLabel(NONE_YET)
        self.none_yet.setObjectName("quiet")
        self.none_yet.setWordWrap(True)
        column.addWidget(self.none_yet)
        self.where = QComboBox()
        self.where.setAccessibleName("Where it is")
        for place in WHEREABOUTS:
            self.where.addItem(place.capitalize(), place)
        self.where.activated.connect(lambda _: self.move_it())
        self.whose = self._line("With whom", 120)
        self.whose.editingFinished.connect(self.move_it)
        self.proof_button = QPushButton("Proof load…")
        self.proof_button.setToolTip("Write down a static load on this board, and whether it held")
        self.proof_button.clicked.connect(self.proof_asked)
        column.addLayout(self._row(self.head, self.where, self.whose, self.proof_button))
        self.entries = figures_table(ENTRIES)
        self.entries.setToolTip("Enter, or a double click, shows the photo of a line")
        self.entries.itemActivated.connect(lambda _: self._show_photo())
        column.addWidget(self.entries, 3)
        column.addLayout(self._to_write())
        for field, kind, name in (
            (self.serial, MadeBoard, "serial"),
            (self.who, MadeBoard, "who"),
            (self.whose, MadeBoard, "whose"),
            (self.words, Worked, "words"),
        ):
            field.setMaxLength(text_of(kind, name).longest)
        self.problem = problem_label()
        column.addWidget(self.problem)
        session.board_opened.connect(lambda: self.problem.setText(""))

    def _to_begin(self) -> QHBoxLayout:
        """The row in which a board is begun, with what is planned and who waits."""
        self.serial = self._line("Serial", 74)
        self.serial.returnPressed.connect(self.begin)
        self.who = self._line("Who makes it", 96)
        self.who.returnPressed.connect(self.begin)
        self.begin_button = QPushButton("Begin a board")
        self.begin_button.setToolTip("Of the version on the bench; its weights, hours and photos belong to it")
        self.begin_button.clicked.connect(self.begin)
        self.of_version = QLabel()
        self.schedule_button = QPushButton("Schedule…")
        self.schedule_button.clicked.connect(self.schedule_asked)
        self.orders_button = QPushButton("Orders…")
        self.orders_button.clicked.connect(self.orders_asked)
        parts = (self.serial, self.who, self.begin_button, self.of_version, self.schedule_button, self.orders_button)
        return self._row(*parts)

    def _to_write(self) -> QHBoxLayout:
        """The row in which what was done is typed."""
        self.stage = QComboBox()
        self.stage.setAccessibleName("Stage")
        for stage in STAGES:
            self.stage.addItem(stage.capitalize(), stage)
        self.hours = self._line("Hours", 50)
        self.words = self._line("What was done", 80)
        self.words.setToolTip("Batch and ratio, temperature and humidity of the room, what went differently")
        self.photo = QPushButton("Photo…")
        self.photo.clicked.connect(self._ask_photo)
        self.write_button = QPushButton("Write it down")
        self.write_button.clicked.connect(self.write)
        self.strike_button = QPushButton("Strike out")
        self.strike_button.setToolTip("The chosen line, with the reason typed beside it; it stays readable")
        self.strike_button.clicked.connect(self.strike)
        for field in (self.hours, self.words):
            field.returnPressed.connect(self.write)
        row = QHBoxLayout()
        self.hours.setFixedWidth(64)
        for part in (self.stage, self.hours, self.words, self.photo, self.write_button, self.strike_button):
            row.addWidget(part, part is self.words)
        return row

    def _line(self, words: str, width: int) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(words)
        field.setPlaceholderText(words)
        field.setMinimumWidth(width)
        return field

    def _row(self, *parts: QWidget) -> QHBoxLayout:
        row = QHBoxLayout()
        for part in parts:
            row.addWidget(part)
        row.addStretch(1)
        return row

    def refresh(self) -> None:
        """Show the boards made of the design on the bench, and the chosen one."""
        session, making = self.session, self.making
        boards, made = making.boards(), making.chosen()
        self._filling = True
        fill_table(self.table, made_rows(boards, [making.version(one) for one in boards], session.system))
        at = next((i for i, one in enumerate(boards) if made is not None and one.record.uid == made.record.uid), -1)
        self.table.selectRow(at) if at >= 0 else self.table.clearSelection()
        if not self.serial.isModified():
            self.serial.setText(making.suggested())
        self.of_version.setText(f"of version {session.step().number}")
        self.head.setText("" if made is None else f"{made.value.serial}, {made.value.built or 'as designed'}")
        for part in (self.where, self.whose, self.stage, self.hours, self.words, self.photo, self.write_button,
                     self.strike_button):  # fmt: skip
            part.setEnabled(made is not None)
        for shown in (self.head, self.where, self.whose, self.proof_button):
            shown.setVisible(made is not None)
        self.none_yet.setVisible(made is None)
        fill_table(self.entries, [] if made is None else entry_rows(made, session.system))
        if made is not None and made.record.uid != self._shown:
            self._shown = made.record.uid
            self.stage.setCurrentIndex(0 if made.stage is None else STAGES.index(made.stage))
        if made is not None:
            self.where.setCurrentIndex(WHEREABOUTS.index(made.value.where))
            if not self.whose.hasFocus():
                self.whose.setText(made.value.whose)
        self._filling = False

    def _choose(self) -> None:
        boards, at = self.making.boards(), self.table.currentRow()
        if not self._filling and 0 <= at < len(boards):
            self.making.choose(boards[at].record.uid)
            self.refresh()
            self.chosen.emit()

    def begin(self) -> None:
        """Begin a board of the version on the bench."""
        try:
            self.making.begin(self.serial.text(), self.who.text())
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self.problem.setText("")
        self.serial.setModified(False)
        self.refresh()
        self.chosen.emit()

    def move_it(self) -> None:
        """Where the chosen board is, and with whom."""
        made = self.making.chosen()
        if made is None or self._filling:
            return
        where, whose = self.where.currentData(), self.whose.text()
        if (where, whose.strip()) != (made.value.where, made.value.whose):
            self.making.move(where, whose)
            self.refresh()

    def _show_photo(self) -> None:
        made, at = self.making.chosen(), self.entries.currentRow()
        if made is not None and 0 <= at < len(made.entries):
            value = made.entries[at].value
            if isinstance(value, Worked) and value.photo:
                self.photo_asked.emit(f"{made.value.serial}, {value.stage}", value.photo)

    def _ask_photo(self) -> None:
        path = ask_photo(self, "A photo of the board as it is")
        if path is not None:
            self.take_photo(path)

    def take_photo(self, path: Path) -> bool:
        """Take a photo along with the next line; what is none is refused by name."""
        try:
            self._photo = read_photo(path)
        except InputError as error:
            self.problem.setText(str(error))
            return False
        self.photo.setText(f"Photo: {path.name}"[:28])
        return True

    def write(self) -> None:
        """Keep what was done on the chosen board."""
        made = self.making.chosen()
        if made is None:
            return
        typed, words = self.hours.text().replace(",", ".").removesuffix("h").strip(), self.words.text().strip()
        try:
            hours = _hours(typed)
            if not (hours or words or self._photo):
                raise InputError("there is nothing to write down", accepts="Type hours or words, or take a photo along")
            self.making.work(self.stage.currentData(), hours, words, self.who.text(), self._photo)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        self._clear()

    def strike(self) -> None:
        """Strike out the chosen line, with the reason in the field of words."""
        made, at, why = self.making.chosen(), self.entries.currentRow(), self.words.text().strip()
        if made is None or not 0 <= at < len(made.entries):
            self.problem.setText("Choose the line that is to be struck out.")
        elif made.entries[at].value.struck:
            self.problem.setText("It is struck out already.")
        elif not why:
            self.problem.setText("Type the reason into the field of words, then strike out.")
        else:
            self.making.strike(made.entries[at], why)
            self._clear()

    def _clear(self) -> None:
        for field in (self.hours, self.words):
            field.clear()
        self._photo = None
        self.photo.setText("Photo…")
        self.problem.setText("")
        self.refresh()


def _hours(typed: str) -> float:
    """Hours as somebody typed them; raises InputError."""
    if not typed:
        return 0.0
    try:
        hours = float(typed)
    except ValueError:
        raise InputError(f"“{typed}” is no number of hours", where="Hours", accepts="Type it like 2.5") from None
    within(limit_of(Worked, "hours"), hours, "Hours")
    return hours
