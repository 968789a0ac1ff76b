"""Notes on the design: what there is, and one more."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QListWidget, QListWidgetItem, QWidget

from kelvor.core.register.kinds.words import Note
from kelvor.core.shape.parts.features import features
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session
from kelvor.ui.shape.notes import ADVICE, KINDS, Notes


class NotesPanel(Panel):
    """A note of rule, patent, name or safety, on a feature of the board on the bench."""

    guide = "family#notes"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Notes on this design", "Keep the note")
        self.session, self.notes = session, Notes(session)
        self.explain(f"{ADVICE}. A note shows where its feature is drawn, and among what is worth a look.")
        self.kind, self.about = QComboBox(), QComboBox()
        for key, words in KINDS:
            self.kind.addItem(words, key)
        for feature in features(session.board):
            self.about.addItem(feature)
        for words, field in (("Kind", self.kind), ("About", self.about)):
            field.setAccessibleName(words)
            self.form.addRow(words, field)
        self.words, self.source = self.field("Words", ""), self.field("Where it was read", "")
        self.list = QListWidget()
        self.list.setAccessibleName("Notes on this design")
        self.list.setWordWrap(True)
        self.list.setMinimumSize(480, 130)
        self.column.insertWidget(self.column.count() - 2, self.list)
        self.off = self.button("Take the chosen one off", self.strike)
        session.workshop.records_changed.connect(self.refresh)
        session.board_opened.connect(self.close)  # another board has other features
        self.refresh()

    def refresh(self) -> None:
        """Show the notes there are."""
        self._records = self.notes.here()
        self.list.clear()
        for finding in self.notes.findings():
            self.list.addItem(QListWidgetItem(finding.text))
        self.off.setEnabled(bool(self._records))

    def act(self) -> bool:
        """Keep what is typed; the panel stays for the next."""
        note = Note(
            kind=self.kind.currentData(),
            about=self.about.currentText(),
            words=self.words.text().strip(),
            source=self.source.text().strip(),
        )
        self.notes.keep(note)
        self.problem.setText("")
        self.words.clear()
        self.source.clear()
        return False

    def strike(self) -> None:
        """Take the chosen note off, or the last one."""
        at = self.list.currentRow() if self.list.currentRow() >= 0 else len(self._records) - 1
        if 0 <= at < len(self._records):
            self.notes.strike(self._records[at])
