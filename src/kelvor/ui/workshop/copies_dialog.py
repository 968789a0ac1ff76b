"""Where a dated copy of the workshop goes when the window closes."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QFileDialog, QPushButton, QWidget

from kelvor.core.base.errors import InputError
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.settings import Settings


class CopiesDialog(Panel):
    """A folder, such as one on another disk; empty for none."""

    guide = "file#copies"

    def __init__(self, parent: QWidget, settings: Settings) -> None:
        super().__init__(parent, "Dated copies on closing", "Keep")
        self._settings = settings
        self.explain(
            "Each day's last copy stays in this folder. Choose one on another disk: a copy beside the file is lost "
            "with it."
        )
        self.folder = self.field("Folder", settings.get("copies"))
        self.folder.setPlaceholderText("empty: no copies")
        self.folder.setMinimumWidth(380)
        choose = QPushButton("Choose…")
        choose.setAutoDefault(False)
        choose.clicked.connect(self._choose)
        self.form.addRow("", choose)
        self.pages = QCheckBox("and a readable page for each board")
        self.pages.setChecked(settings.get("copies_pages") == "yes")
        self.form.addRow("", self.pages)
        if settings.get("copies_trouble"):
            self.problem.setText(f"The last copy was not written. {settings.get('copies_trouble')}")

    def _choose(self) -> None:
        found = QFileDialog.getExistingDirectory(self, "A folder for copies", self.folder.text() or str(Path.home()))
        if found:
            self.folder.setText(found)

    def act(self) -> bool:
        """Keep the choice; a folder that is none is told now and not on closing."""
        folder = self.folder.text().strip()
        if folder and not Path(folder).expanduser().is_dir():
            raise InputError(
                "there is no such folder", where=folder, accepts="Choose one that is there, or leave it empty"
            )
        self._settings.set("copies", str(Path(folder).expanduser()) if folder else "")
        self._settings.set("copies_pages", "yes" if self.pages.isChecked() else "")
        return True
