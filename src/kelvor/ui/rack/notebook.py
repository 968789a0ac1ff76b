"""Old boards: a line of a notebook typed in a few seconds, one after the other."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QLineEdit, QPushButton, QWidget

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import limit_of, text_of, typed_name, within
from kelvor.core.base.units import Quantity, parse, unit_of
from kelvor.core.register.kinds.words import OldBoard
from kelvor.ui.controls.panel import Elided, heading, panel, plain_label
from kelvor.ui.controls.photos import ask_photo, read_photo
from kelvor.ui.session.session import Session

SIZES = (
    ("length", "Length", Quantity.LENGTH),
    ("width", "Width", Quantity.LENGTH),
    ("volume", "Volume", Quantity.VOLUME),
)
CAPTION = "A name is enough. Enter keeps the line and begins the next."


class Notebook(QWidget):
    """A few fields in a row; Enter keeps them and begins the next."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._photo: bytes | None = None
        frame = panel()
        outer = QGridLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(frame)
        grid = QGridLayout(frame)
        grid.setContentsMargins(14, 10, 14, 10)
        grid.setHorizontalSpacing(8)
        grid.addWidget(heading("An old board"), 0, 0)
        self.words = plain_label()
        self.words.setObjectName("quiet")
        self.words.setText(CAPTION)
        grid.addWidget(self.words, 0, 1, 1, 6)
        self.name = self._line(grid, 0, "Name", 200)
        self.discipline = QComboBox()
        self.discipline.setAccessibleName("Discipline")
        for family in FAMILIES.values():
            for discipline in family:
                self.discipline.addItem(discipline.capitalize(), discipline)
        grid.addWidget(QLabel("Discipline"), 1, 1)
        grid.addWidget(self.discipline, 2, 1)
        self.sizes = {key: self._line(grid, 2 + i, label, 76) for i, (key, label, _) in enumerate(SIZES)}
        self.made = self._line(grid, 5, "When", 80)
        self.who = self._line(grid, 6, "Who says so", 110)
        self.said = QLineEdit()
        self.said.setAccessibleName("Words about it")
        self.said.setPlaceholderText("Words about it: how it went, why it was kept or given away")
        grid.addWidget(self.said, 3, 0, 1, 5)
        self.photo = QPushButton("Photo…")
        self.photo.clicked.connect(self._ask_photo)
        grid.addWidget(self.photo, 3, 5)
        keep = QPushButton("Keep it")
        keep.clicked.connect(self.keep)
        grid.addWidget(keep, 3, 6)
        self.picked = Elided()
        grid.addWidget(self.picked, 4, 0, 1, 7)
        self.picked.setVisible(False)
        grid.setColumnStretch(0, 1)
        for field in (self.name, *self.sizes.values(), self.made, self.who, self.said):
            field.returnPressed.connect(self.keep)

    def _line(self, grid: QGridLayout, column: int, words: str, width: int) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(words)
        field.setMinimumWidth(width)
        grid.addWidget(QLabel(words), 1, column)
        grid.addWidget(field, 2, column)
        return field

    def begin(self) -> None:
        """Ready for the next; sizes say which unit a bare number is read in."""
        for key, _, quantity in SIZES:
            self.sizes[key].setPlaceholderText(unit_of(quantity, self.session.system).sign)
        self.name.setFocus()

    def _say(self, words: str, *, wrong: bool) -> None:
        self.words.setObjectName("wrong" if wrong else "quiet")
        self.words.style().polish(self.words)
        self.words.setText(words)

    def _ask_photo(self) -> None:
        path = ask_photo(self, "A photo of the board")
        if path is not None:
            self.take_photo(path)

    def take_photo(self, path: Path) -> bool:
        """Take a photo along, read whole; what is none is refused by name."""
        try:
            data = read_photo(path)
        except InputError as error:
            self._say(str(error), wrong=True)
            return False
        self._photo = data
        self.picked.set_words(f"Photo: {path.name}")
        self.picked.setVisible(True)
        return True

    def keep(self) -> bool:
        """Keep the line; what cannot be read is said, and nothing that was typed is lost."""
        system = self.session.system
        try:
            name = typed_name(self.name.text(), "The board's name")
            sizes: dict[str, Any] = {}
            for key, label, quantity in SIZES:
                typed = self.sizes[key].text().strip()
                if typed:
                    sizes[key] = parse(typed, quantity, system)
                    within(limit_of(OldBoard, key), sizes[key], label, system)
            lines: dict[str, Any] = {
                "made": self.made.text().strip(),
                "words": self.said.text().strip(),
                "who": self.who.text().strip(),
            }
            for key, words in lines.items():
                typed_name(words, key.capitalize(), text_of(OldBoard, key))
            sha = hashlib.sha256(self._photo).hexdigest() if self._photo is not None else ""
            old = OldBoard(name=name, discipline=self.discipline.currentData(), photo=sha, **sizes, **lines)
        except KelvorError as error:
            self._say(str(error), wrong=True)
            return False
        self.session.workshop.registers.keep("old board", old, f"the old board “{name}”", blob=self._photo)
        self._say(f"“{name}” is kept. The next?", wrong=False)
        self._photo = None
        self.picked.setVisible(False)
        for field in (self.name, *self.sizes.values(), self.said):
            field.clear()
        self.name.setFocus(Qt.FocusReason.OtherFocusReason)
        return True
