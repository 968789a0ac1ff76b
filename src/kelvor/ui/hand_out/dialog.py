"""Handing out: exports run in a process of their own, with progress and cancel."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from PySide6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QProgressBar, QPushButton, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.exchange.formats import PAPERS, RESOLUTIONS, SURFACES, WRITERS
from kelvor.files import AlreadyThere, may_write, same_file, swept
from kelvor.ui.background.processes import CommandProcess
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session
from kelvor.ui.settings import Settings
from kelvor.ui.theme.style import font


class HandOutDialog(Panel):
    """Export the board on the bench, finished or core."""

    guide = "build#hand-out"

    def __init__(self, parent: QWidget, session: Session, settings: Settings) -> None:
        super().__init__(parent, "Hand out", "Write")
        self.session, self.settings = session, settings
        self.job = CommandProcess(self)
        self.job.ended.connect(self._ended)
        self._folder: Path | None = None
        self._asked_over: Path | None = None
        self._sent = session.versions.stamp(), session.current
        self.kind = QComboBox()
        for writer in WRITERS.values():
            self.kind.addItem(writer.words, writer.key)
        self.surface, self.resolution, self.paper = QComboBox(), QComboBox(), QComboBox()
        for surface, words in SURFACES.items():
            self.surface.addItem(words, surface)
        for fine in RESOLUTIONS:
            self.resolution.addItem(fine, fine)
        for paper, words in PAPERS.items():
            self.paper.addItem(words, paper)
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
        self.caution = QLabel()
        self.caution.setWordWrap(True)
        self.caution.setObjectName("quiet")
        self.caution.setFont(font(12))
        self.column.insertWidget(2, self.caution)
        self.progress = QProgressBar()
        self.progress.setRange(0, 0)
        self.progress.setTextVisible(False)
        self.progress.setVisible(False)
        self.column.insertWidget(3, self.progress)
        self.kind.currentIndexChanged.connect(self._named)
        self.path.textChanged.connect(self._again)
        self._named()

    def _named(self) -> None:
        kind = str(self.kind.currentData())
        stem = "".join(c if c.isalnum() else "-" for c in self.session.board.name.lower())[:60].strip("-") or "board"
        folder = Path(self.path.text()).parent if self.path.text() else Path.home()
        self.path.setText(str(folder / f"{stem}-step-{self.session.step().number}.{kind}"))
        writer = WRITERS[kind]
        self.paper.setEnabled("paper" in writer.asks)
        self.resolution.setEnabled("resolution" in writer.asks)
        self.surface.setEnabled("surface" in writer.asks)
        self.caution.setText(writer.caution)

    def _choose(self) -> None:
        dialog = QFileDialog(self, "Where to", self.path.text())
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)  # asked here, once, when it is written
        dialog.fileSelected.connect(self.path.setText)
        dialog.open()

    def act(self) -> bool:
        """Start writing, or cancel what is being written; over a file that is there only when asked a second time."""
        if self.job.running:
            self.job.cancel()
            return False
        words = self.path.text().strip()
        if not words:
            raise KelvorError("Name a file to write.")
        path = Path(words)
        self._asked_over = self._asked_over if self._asked_over == path else None
        if same_file(path, self.session.workshop.store.path):  # told without opening it: that would let go of its locks
            raise InputError("this is a workshop, and is left as it is", where=words, accepts="Give another name")
        try:
            target = may_write(path, over=self._asked_over is not None)
        except AlreadyThere:
            self._asked_over = path
            self._turn("Replace it")
            raise KelvorError(_there_already(path)) from None
        from kelvor.exchange.documents import board_text

        self.problem.setText("")
        self.progress.setVisible(True)
        self._turn("Cancel")
        self._folder = target.parent
        self._sent = self.session.versions.stamp(), self.session.current
        self.settings.handed_out(target.parent)
        block = self.session.live.mass.blank
        self.job.run(
            [
                "export",
                "-",
                "--to",
                str(self.kind.currentData()),
                "--out",
                words,
                "--surface",
                str(self.surface.currentData()),
                "--resolution",
                str(self.resolution.currentData()),
                "--paper",
                str(self.paper.currentData()),
                "--step",
                str(self._sent[0].version),
                "--serial",
                self._sent[0].serial,
                "--block",
                *(f"{side * 1000:.0f}" for side in (block.length, block.width, block.thickness)),
                *(["--force"] if self._asked_over is not None else []),
            ],
            self._written,
            self._failed,
            given=board_text(self.session.board),
        )
        return False

    def _turn(self, words: str) -> None:
        self.do.setText(words)

    def _again(self) -> None:
        """Another name or kind: what was asked is asked anew."""
        self._asked_over = None
        if not self.job.running:
            self._turn("Write")

    def _written(self, printed: str) -> None:
        stamp, step = self._sent
        self.session.versions.handed_out(Path(self.path.text()).name, stamp, step)
        self.problem.setText(f"Written: {self.path.text()}. Its stamp, {stamp.code}, finds this version in the rack.")

    def _failed(self, words: str) -> None:
        self.problem.setText(words)

    def _ended(self) -> None:
        self.progress.setVisible(False)
        self._again()
        if self._folder is not None:
            swept(self._folder)

    def busy(self) -> bool:
        """Whether something is being written."""
        return self.job.running

    def closeEvent(self, event: object) -> None:
        """Closing gives up what is being written."""
        if self.job.running:
            self.job.forget()
            self._ended()
        super().closeEvent(event)  # type: ignore[arg-type]


def _there_already(path: Path) -> str:
    found = path.stat()
    when = datetime.fromtimestamp(found.st_mtime).strftime("%Y-%m-%d %H:%M")
    size = f"{found.st_size / 1e6:.1f} MB" if found.st_size >= 1e6 else f"{max(1, round(found.st_size / 1e3))} kB"
    return f"“{path.name}” is there already ({size}, of {when}). Replace it, or give another name."
