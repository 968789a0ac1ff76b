"""What waits for the disk and what is damaged, one a line."""

from __future__ import annotations

from PySide6.QtWidgets import QListWidget, QWidget

from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font


class NotSavedPanel(Panel):
    """Everything that waits, and every place that is damaged, one a line."""

    guide = "file#when-a-disk-refuses"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Not on the disk", "")
        self.session = session
        self.list = QListWidget()
        self.list.setAccessibleName("What waits, and what is damaged")
        self.list.setFont(font(12))
        self.list.setMinimumSize(520, 260)
        self.column.insertWidget(1, self.list)
        session.workshop.waiting_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show them."""
        session = self.session
        waits = [f"Waits: {write.words}" for write in session.workshop.saving.waiting]
        self.list.clear()
        self.list.addItems([*waits, *(f"Damaged: {damage}" for damage in session.workshop.damages())])
