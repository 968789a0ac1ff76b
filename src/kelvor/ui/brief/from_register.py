"""What a brief takes from the registers: choose rider, place or gear, take what is newer, keep what was
changed here.
"""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from kelvor.core.register.in_briefs import PARTS, brief_with_record, fitting, held_part, noted, record_standings
from kelvor.core.register.record import record_name
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.register.shown.registers import KINDS
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font


class FromRegister(QWidget):
    """One list of all that fits, and a line on what in the brief stands otherwise in the register."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(4)
        self.choice = QComboBox()
        self.choice.setAccessibleName("Take from the register")
        self.choice.activated.connect(self._chosen)
        column.addWidget(self.choice)
        self.words = plain_label()
        self.words.setObjectName("quiet")
        self.words.setFont(font(12))
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        row = QHBoxLayout()
        self.take, self.keep = QPushButton("Take the newer"), QPushButton("Keep it in the register")
        self.take.clicked.connect(self.take_newer)
        self.keep.clicked.connect(self.keep_changed)
        row.addWidget(self.take)
        row.addWidget(self.keep)
        row.addStretch(1)
        column.addLayout(row)
        session.brief_changed.connect(self.refresh)
        session.workshop.records_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show what can be taken, and what stands otherwise."""
        brief, registers = self.session.brief, self.session.workshop.registers
        records = [record for record in registers.of(*PARTS) if fitting(brief, record.kind)]
        self.choice.clear()
        self.choice.addItem(
            "Take from the register…" if records else "The register holds nothing for this brief yet", ""
        )
        for kind in PARTS:
            for record in records:
                if record.kind == kind:
                    self.choice.addItem(f"{KINDS[kind].one.capitalize()}: {record_name(record)}", record.uid)
        self.choice.setEnabled(bool(records))
        found = record_standings(brief, registers.of(*PARTS))
        newer = [record_name(s.record) for s in found if s.newer]
        changed = [record_name(s.record) for s in found if s.changed]
        told = (("Newer in the register", newer), ("Changed here", changed))
        self.words.setText(" ".join(f"{words}: {', '.join(names)}." for words, names in told if names))
        self.words.setVisible(bool(newer or changed))
        self.take.setVisible(bool(newer))
        self.keep.setVisible(bool(changed))

    def _chosen(self, index: int) -> None:
        record = self.session.workshop.registers.get(str(self.choice.itemData(index)))
        if record is not None:
            self.session.briefs.set(
                brief_with_record(self.session.brief, record, use=True), f"{record_name(record)} into the brief"
            )
        self.choice.setCurrentIndex(0)

    def take_newer(self) -> None:
        """Take every newer revision into this brief."""
        brief = self.session.brief
        for found in record_standings(brief, self.session.workshop.registers.of(*PARTS)):
            if found.newer:
                brief = brief_with_record(brief, found.record)
        self.session.briefs.set(brief, "what is newer in the register")

    def keep_changed(self) -> None:
        """Write what was changed in this brief into the register, as new revisions."""
        session, registers = self.session, self.session.workshop.registers
        with session.workshop.gestures.as_one("changes kept in the register"):
            brief = session.brief
            for found in record_standings(brief, registers.of(*PARTS)):
                if found.changed:
                    record = found.record
                    value = noted(record.value, held_part(brief, found.refers))
                    registers.keep(record.kind, value, f"{KINDS[record.kind].one} {value.name}", uid=record.uid)
                    newest = registers.get(record.uid)
                    assert newest is not None
                    brief = brief_with_record(brief, newest)
            session.briefs.set(brief, "changes kept in the register")
