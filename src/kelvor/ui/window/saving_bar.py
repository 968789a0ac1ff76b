"""The bar that appears when something is not on the disk, or the workshop is damaged: what, why, and the ways out."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFileDialog, QFrame, QHBoxLayout, QPushButton, QWidget

from kelvor.ui.controls.panel import problem_label
from kelvor.ui.session.session import Session


class SavingBar(QFrame):
    """Nothing to see while all is well. It asks once when somebody wants to leave what waits."""

    copy_asked = Signal()
    list_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._then: Callable[[], None] | None = None
        self.setObjectName("panel")
        self.setAccessibleName("Not saved")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 5, 8, 5)
        row.setSpacing(8)
        self.words = problem_label()
        row.addWidget(self.words, 1)
        self.stay = self._button("Stay", self._stay)
        self.leave = self._button("Leave without them", self._leave)
        self.more = self._button("Show all…", self.list_asked.emit)
        self.again = self._button("Save again", self._again)
        self.copy = self._button("Save a copy of everything…", self.copy_asked.emit)
        for button in (self.more, self.stay, self.leave, self.again, self.copy):
            row.addWidget(button)
        session.workshop.waiting_changed.connect(self.refresh)
        session.workshop.copied.connect(lambda _: self.refresh())
        self.refresh()

    def _button(self, words: str, slot: Callable[[], None]) -> QPushButton:
        button = QPushButton(words)
        button.setAutoDefault(False)
        button.clicked.connect(lambda _=False: slot())
        return button

    def refresh(self) -> None:
        """Show what waits and why; vanish when all is on the disk."""
        session = self.session
        waiting, damages = session.workshop.saving.waiting, session.workshop.damages()
        asked = self._then is not None
        if (
            self._then is not None and not waiting and not session.workshop.copying.running
        ):  # what was asked for can be done now
            QTimer.singleShot(0, self._then)
            self._then, asked = None, False
        if session.workshop.copying.running:
            words = "Writing a copy of everything …"
        elif asked:
            number = len(waiting)
            words = (
                f"Leave? {f'{number} changes are' if number > 1 else 'One change is'} not on the disk. "
                f"{session.workshop.saving.words()}"
            )
        elif session.workshop.store.damages or (damages and not waiting):
            words = session.workshop.damage_words()
        else:
            words = session.workshop.saving.words()
        self.words.setText(words)
        self.more.setVisible(len(waiting) + len(damages) > 1)
        for button, visible in (
            (self.stay, asked),
            (self.leave, asked),
            (self.again, bool(waiting) and not session.workshop.store.damages),
        ):
            button.setVisible(visible)
        self.copy.setText("Save a repaired copy…" if damages else "Save a copy of everything…")
        for button in (self.again, self.copy, self.leave):
            button.setEnabled(not session.workshop.copying.running)
        self.setVisible(bool(words))

    def ask_to_leave(self, then: Callable[[], None]) -> None:
        """Something waits, and somebody wants to leave it: `then` is done once nothing waits, or when they say so."""
        self._then = then
        self.refresh()
        self.again.setFocus()

    def _stay(self) -> None:
        self._then = None
        self.refresh()

    def _leave(self) -> None:
        then, self._then = self._then, None
        if then is not None:
            self.session.workshop.saving.give_up()
            then()

    def _again(self) -> None:
        self.session.workshop.saving.save()
        self.refresh()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape stays."""
        if event.key() == Qt.Key.Key_Escape and self._then is not None:
            self._stay()
        else:
            super().keyPressEvent(event)


def ask_where(parent: QWidget, session: Session) -> QFileDialog:
    """Ask where the copy goes; what stands there is left as it is."""
    path = session.workshop.store.path
    kind = "repaired" if session.workshop.damages() else "copy"
    dialog = QFileDialog(
        parent,
        f"Save a {'repaired copy' if kind == 'repaired' else 'copy of everything'}",
        str(path.parent),
        "Workshops (*.kelvor)",
    )
    dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
    dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)
    dialog.setDefaultSuffix("kelvor")
    dialog.selectFile(free_file_name(path, kind).name)
    return dialog


def free_file_name(path: Path, kind: str) -> Path:
    """A name beside a file that nobody has yet."""
    number = 1
    while (found := path.with_name(f"{path.stem} {kind}{f' {number}' if number > 1 else ''}{path.suffix}")).exists():
        number += 1
    return found
