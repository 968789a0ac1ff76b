"""Handing out: exports run in a process of their own, with progress and cancel."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QProgressBar, QPushButton, QWidget

from kelvor.core.errors import KelvorError
from kelvor.ui.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.widgets.dialogs import Panel

_KINDS = (
    ("pdf", "Full-size paper templates (PDF)"), ("stl", "Mesh for the cutter (STL)"), ("3mf", "Mesh (3MF)"), ("obj", "Mesh (OBJ)"),
    ("dxf", "Plan, profile and sections (DXF)"), ("svg", "Plan, profile and sections (SVG)"), ("csv", "Offset table (CSV)"),
    ("json", "Board document (JSON)"),
)  # fmt: skip
CAUTION = (
    "Check the 100 mm bar on every sheet before you cut. Mill and router: guards, eye protection, hold-down, air cut first, "
    "emergency stop in reach. Foam dust: mask and extraction. Hot wire: fresh air, never on PVC. The maker's data sheets, "
    "local rules and licensed practice come first."
)


class HandOutDialog(Panel):
    """Export the board on the bench, finished or core."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Hand out", "Write")
        self.session = session
        self._process: QProcess | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self.kind = QComboBox()
        for key, words in _KINDS:
            self.kind.addItem(words, key)
        self.surface = QComboBox()
        self.surface.addItem("finished board", "finished")
        self.surface.addItem("core, without its skin", "core")
        self.resolution = QComboBox()
        for key in ("normal", "fine", "coarse"):
            self.resolution.addItem(key, key)
        self.paper = QComboBox()
        for key, words in (("a4", "A4"), ("a3", "A3"), ("letter", "Letter")):
            self.paper.addItem(words, key)
        for label, box in (
            ("What", self.kind),
            ("Surface", self.surface),
            ("Resolution", self.resolution),
            ("Paper", self.paper),
        ):
            box.setAccessibleName(label)
            self.form.addRow(label, box)
        self.path = QLineEdit()
        self.path.setAccessibleName("File")
        self.path.setMinimumWidth(300)
        choose = QPushButton("Choose…")
        choose.setAutoDefault(False)
        choose.clicked.connect(self._choose)
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.path)
        row.addWidget(choose)
        self.form.addRow("File", holder)
        caution = QLabel(CAUTION)
        caution.setWordWrap(True)
        caution.setObjectName("quiet")
        caution.setFont(font(12))
        self.column.insertWidget(2, caution)
        self.progress = QProgressBar()
        self.progress.setRange(0, 0)
        self.progress.setTextVisible(False)
        self.progress.setVisible(False)
        self.column.insertWidget(3, self.progress)
        self.kind.currentIndexChanged.connect(self._named)
        self._named()

    def _named(self) -> None:
        kind = str(self.kind.currentData())
        stem = "".join(c if c.isalnum() else "-" for c in self.session.board.name.lower()).strip("-") or "board"
        folder = Path(self.path.text()).parent if self.path.text() else Path.home()
        self.path.setText(str(folder / f"{stem}-step-{self.session.step().number}.{kind}"))
        self.paper.setEnabled(kind == "pdf")
        self.resolution.setEnabled(kind != "json")
        self.surface.setEnabled(kind != "json")

    def _choose(self) -> None:
        dialog = QFileDialog(self, "Where to", self.path.text())
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        dialog.fileSelected.connect(self.path.setText)
        dialog.open()

    def act(self) -> bool:
        """Start writing, or cancel what is being written."""
        if self._process is not None:
            self._process.kill()
            return False
        if not self.path.text().strip():
            raise KelvorError("Name a file to write.")
        from kelvor.exchange.documents import board_text

        self._folder = tempfile.TemporaryDirectory(prefix="kelvor-")
        source = Path(self._folder.name) / "board.json"
        source.write_text(board_text(self.session.board), encoding="utf-8")
        process = QProcess(self)
        process.finished.connect(self._finished)
        self._process = process
        self.problem.setText("")
        self.progress.setVisible(True)
        self.do.setText("Cancel")
        process.start(sys.executable, [
            "-m", "kelvor", "export", str(source), "--to", str(self.kind.currentData()), "--out", self.path.text().strip(),
            "--surface", str(self.surface.currentData()), "--resolution", str(self.resolution.currentData()),
            "--paper", str(self.paper.currentData()),
        ])  # fmt: skip
        return False

    def _finished(self, code: int, status: QProcess.ExitStatus) -> None:
        process, self._process = self._process, None
        self.progress.setVisible(False)
        self.do.setText("Write")
        if self._folder is not None:
            self._folder.cleanup()
        if process is None:
            return
        if status is QProcess.ExitStatus.CrashExit:
            self.problem.setText("Cancelled. Nothing was written.")
        elif code == 0:
            self.problem.setText(f"Written: {self.path.text()}")
        else:
            said = bytes(process.readAllStandardError().data()).decode(errors="replace").strip().splitlines()
            self.problem.setText(said[-1].removeprefix("kelvor: ") if said else "It could not be written.")

    def busy(self) -> bool:
        """Whether something is being written."""
        return self._process is not None

    def closeEvent(self, event: object) -> None:
        """Closing gives up what is being written."""
        if self._process is not None:
            self._process.finished.disconnect()
            self._process.kill()
            self._process.waitForFinished(1000)
            self._process = None
        super().closeEvent(event)  # type: ignore[arg-type]
