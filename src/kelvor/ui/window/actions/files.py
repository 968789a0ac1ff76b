"""What is read from files and written to them on somebody's word: boards, sheets, copies, workshops."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QFileDialog

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.plain_text import one_line
from kelvor.ui.background.processes import READ_SECONDS, CommandProcess, prepare
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.window.saving_bar import ask_where

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow


class Files:
    """File work of a window, beside it where it takes time."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.session, self.settings = window.session, window.settings
        self.imports = CommandProcess(window)
        self._sheets = WorkerQuestion(
            window, "The sheet was not written", self._sheet_written, failed=self._not_done, here=True
        )
        self._checks = WorkerQuestion(
            window, "The workshop was not looked through", self._found, failed=self._not_done, here=True
        )
        self._looked_through = self.session.workshop.store.path

    def import_board(self) -> None:
        """Read a board document."""
        dialog = self.file_dialog("Import a board", "Board documents (*.json)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.import_from(Path(path)))
        self._window.dialogs.show(dialog)

    def import_from(self, path: Path) -> None:
        """Add the board of a document to the workshop; it is read beside the window."""
        self.session.message.emit("note", f"Reading {path.name} …")
        self.imports.run(
            ["read", "board", str(path)],
            partial(self._imported, path),
            lambda words: self.session.message.emit("problem", words),
            seconds=READ_SECONDS,
        )

    def _imported(self, path: Path, printed: str) -> None:
        from kelvor.exchange.documents import board_of_text

        title = one_line(f"Imported from {path.name}", 120)
        self._window.guarded(lambda _: self.session.file.add_board(board_of_text(printed), self.session.brief, title))

    def material_sheet(self) -> None:
        """Ask where the material sheet goes: PDF, CSV, or DXF of the cloth."""
        kinds = "Sheet on paper (*.pdf);;Table (*.csv);;Cloth to cut (*.dxf)"
        self.ask_where("Material sheet", kinds, f"{self.session.board.name} material sheet.pdf", self.write_sheet)

    def ask_where(self, title: str, kinds: str, name: str, write: Callable[[Path], object]) -> None:
        """Ask where a file goes, beside the work; then `write` it there. The dialog asks whether it may replace one."""
        dialog = self.file_dialog(title, kinds, QFileDialog.AcceptMode.AcceptSave)
        dialog.setDefaultSuffix(Path(name).suffix[1:])
        dialog.selectFile(name)
        dialog.fileSelected.connect(lambda path: write(Path(path)))
        self._window.dialogs.show(dialog)

    def write_sheet(self, path: Path) -> None:
        """Write the material sheet, beside the window; the dialog has asked whether it may be written over what is
        there.
        """
        from kelvor.exchange.sheets import write_sheet_of

        session = self.session
        self.settings.handed_out(path.parent)
        self._sheets.ask(write_sheet_of, [(session.board, session.brief, session.table, session.system, path, True)])

    def _not_done(self, words: str) -> None:
        self.session.message.emit("problem", words)

    def _sheet_written(self, paths: list[Path]) -> None:
        self.session.message.emit("note", f"Written: {paths[0]}")

    def look_through(self) -> None:
        """Read every row of the workshop beside the window, and say what of it cannot be read."""
        from kelvor.exchange.checking import problem_lines

        path = self.session.workshop.store.path
        self._looked_through = path
        self._checks.ask(problem_lines, [(path,)])

    def _found(self, found: list[list[str]]) -> None:
        self.session.workshop.doubt(self._looked_through, found[0])

    def save(self) -> None:
        """Try again what waits."""
        if self.session.workshop.saving.save():
            self.session.message.emit("note", "Everything is saved.")

    def ask_copy(self) -> None:
        """Ask where a copy of everything goes."""
        dialog = ask_where(self._window, self.session)
        dialog.fileSelected.connect(lambda path: self._window.guarded(lambda _: self.save_copy(Path(path))))
        self._window.dialogs.show(dialog)

    def save_copy(self, path: Path) -> None:
        """Save a copy of everything, and go on in it."""
        self.session.file.save_copy(path)
        self._window.saving_bar.refresh()

    def when_saved(self, then: Callable[[], None]) -> None:
        """Do what leaves the open workshop: at once when all is saved, else when somebody has said what becomes of what
        waits.
        """
        self.session.about_to_leave.emit()
        if self.session.workshop.saving.save():
            then()
        else:
            self._window.saving_bar.ask_to_leave(then)

    def new_workshop(self) -> None:
        """Ask for a new workshop file; what stands there already is left as it is."""
        dialog = self.file_dialog("New workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptSave)
        dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)
        dialog.setDefaultSuffix("kelvor")
        dialog.fileSelected.connect(
            lambda path: self.when_saved(lambda: self._window.guarded(lambda _: self.create_workshop(Path(path))))
        )
        self._window.dialogs.show(dialog)

    def create_workshop(self, path: Path) -> None:
        """A new workshop with a first board, in this window."""
        self.session.file.create_workshop(path)
        self.settings.remember(path)

    def ask_workshop(self) -> None:
        """Ask which workshop to open."""
        dialog = self.file_dialog("Open workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.when_saved(lambda: self.open_workshop(Path(path))))
        self._window.dialogs.show(dialog)

    def open_workshop(self, path: Path) -> None:
        """Open a workshop in this window, or say why not."""
        try:
            self.session.file.open_workshop(path)
            self.settings.remember(path)
            self.look_through()
        except KelvorError as error:
            self.session.message.emit("problem", str(error))

    def another_window(self) -> None:
        """A second window on the same file, in a process of its own."""
        process = QProcess(self._window)
        prepare(process, "kelvor", str(self.session.workshop.store.path))
        process.startDetached()

    def file_dialog(self, title: str, kinds: str, mode: QFileDialog.AcceptMode) -> QFileDialog:
        """A dialog for a file, which opens beside the work."""
        dialog = QFileDialog(self._window, title, str(Path.home()), kinds)
        dialog.setAcceptMode(mode)
        return dialog

    def dated_copy(self) -> None:
        """A copy of the day into the folder the user named; what cannot be written is told at the next start."""
        folder = self.settings.get("copies")
        if folder:
            from kelvor.exchange.dated_copies import dated_copy

            try:
                dated_copy(self.session.workshop.store, Path(folder), pages=self.settings.get("copies_pages") == "yes")
                self.settings.set("copies_trouble", "")
            except KelvorError as error:
                self.settings.set("copies_trouble", str(error))
