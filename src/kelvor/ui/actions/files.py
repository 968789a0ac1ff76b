"""What is read from files and written to them on somebody's word: boards, sheets, copies, workshops."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QProcess
from PySide6.QtWidgets import QFileDialog

from kelvor.core.errors import KelvorError, one_line
from kelvor.ui.processes import READ_SECONDS, Subject, prepare
from kelvor.ui.runner import Asked
from kelvor.ui.widgets.saving_bar import ask_where

if TYPE_CHECKING:
    from kelvor.core.live import Live
    from kelvor.core.making.scan import Scanned
    from kelvor.ui.building.mill_panel import Order
    from kelvor.ui.building.orders_panel import OrdersPanel
    from kelvor.ui.main_window import MainWindow


class Files:
    """File work of a window, beside it where it takes time."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.session, self.settings = window.session, window.settings
        self.imports = Subject(window)
        self._sheets = Asked(window, "The sheet was not written", self._sheet_written, failed=self._not_done, here=True)
        self._checks = Asked(
            window, "The workshop was not looked through", self._found, failed=self._not_done, here=True
        )
        self._scans = Asked(window, "The scan was not laid on", self._scan_laid, failed=self._not_done, here=True)
        self._scanned: Live | None = None
        self._looked_through = self.session.workshop.store.path

    def import_board(self) -> None:
        """Read a board document."""
        dialog = self._file_dialog("Import a board", "Board documents (*.json)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.import_from(Path(path)))
        self._window.dialogs.show(dialog)

    def import_from(self, path: Path) -> None:
        """Add the board of a document to the workshop; it is read beside the window."""
        self.session.said.emit("note", f"Reading {path.name} …")
        self.imports.run(
            ["read", "board", str(path)],
            partial(self._imported, path),
            lambda words: self.session.said.emit("problem", words),
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
        dialog = self._file_dialog(title, kinds, QFileDialog.AcceptMode.AcceptSave)
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
        self._sheets.ask(write_sheet_of, [(session.board, session.brief, session.table, path, True)])

    def measure_sheet(self) -> None:
        """Ask where the measure sheet goes: of the made board that is chosen, or of the version on the bench."""
        self.ask_where(
            "Measure sheet",
            "Sheet on paper (*.pdf)",
            f"{self.session.board.name} measure sheet.pdf",
            lambda path: self._window.guarded(lambda _: self.write_measures(path)),
        )

    def write_measures(self, path: Path) -> None:
        """Write the measure sheet, beside the window; raises InputError when its version cannot be read."""
        from kelvor.core.making.sheet import sheet
        from kelvor.exchange.measures import write_measures
        from kelvor.ui.presenters.sheet import line_rows, sheet_lines

        session, making = self.session, self.session.making
        made, live, tolerances = making.chosen(), making.live(), making.tolerances()
        rows = line_rows(sheet_lines(sheet(live.geometry), made, tolerances), tolerances, session.system)
        self.settings.handed_out(path.parent)
        stamp = making.stamp()
        self._sheets.ask(write_measures, [(live.board.name, stamp.words, rows, path, True)])
        session.versions.handed_out(
            "measure sheet", stamp, made.record.step if made and made.record.step else session.current
        )

    def ask_scan(self) -> None:
        """Ask for a scan of the chosen made board, or of the version on the bench."""
        from kelvor.exchange.scans import ENDINGS

        kinds = f"Scans ({' '.join(f'*{ending}' for ending in ENDINGS)})"
        dialog = self._file_dialog("A scan of the board", kinds, QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.read_scan(Path(path)))
        self._window.dialogs.show(dialog)

    def read_scan(self, path: Path) -> None:
        """Lay a scan on the design, beside the window, and show what lies off."""
        from kelvor.exchange.scans import laid_scan

        def ask(_: object) -> None:
            self._scanned = self.session.making.live()
            self.session.said.emit("note", f"Laying {path.name} on {self._scanned.board.name} …")
            self._scans.ask(laid_scan, [(self._scanned.board, path)])

        self._window.guarded(ask)

    def _scan_laid(self, found: list[Scanned]) -> None:
        from kelvor.ui.building.scan_panel import ScanPanel

        made, live = self.session.making.chosen(), self._scanned
        assert live is not None
        title = f"{live.board.name}{f', {made.value.serial}' if made is not None else ''}"
        self._window.dialogs.show(ScanPanel(self._window, self.session, title, found[0], live.geometry.shape))

    def stage_card(self) -> None:
        """Ask where the card goes that goes along with the chosen made board, or the version on the bench."""
        made = self.session.making.chosen()
        name = f"{self.session.board.name} {made.value.serial if made is not None else ''}".strip()
        self.ask_where(
            "Stage card",
            "Card on paper (*.pdf)",
            f"{name} stage card.pdf",
            lambda path: self._window.guarded(lambda _: self.write_stage_card(path)),
        )

    def write_stage_card(self, path: Path) -> None:
        """Write the stage card, beside the window; raises InputError without a construction."""
        from kelvor.core.mass.stages import forecasts
        from kelvor.exchange.papers import write_stage_card
        from kelvor.ui.presenters.schedule import CAUTION, card_work

        session, making = self.session, self.session.making
        made, live, stamp = making.chosen(), making.live(), making.stamp()
        weights = [
            (f.stage.capitalize(), f"{f.mass:.2f} ± {f.band:.2f} kg") for f in forecasts(live.geometry, live.mass)
        ]
        title = f"{live.board.name}{f', {made.value.serial}' if made is not None else ''}: stage card"
        self.settings.handed_out(path.parent)
        work = card_work(making.schedule())
        self._sheets.ask(write_stage_card, [(title, stamp.words, work, weights, CAUTION, path, True)])
        step = made.record.step if made is not None and made.record.step else session.current
        session.versions.handed_out("stage card", stamp, step)

    def mill_programs(self, order: Order | None) -> None:
        """Ask where the programs go that the simulated mill has cut."""
        if order is None or not order.faces:
            self._not_done("Cut it on the simulated mill first, in Build, Mill: nothing unproven is handed out.")
            return
        name = f"{order.board.name} {order.stamp.serial}".strip()
        self.ask_where(
            "Programs for the mill", "Programs (*.zip)", f"{name} mill.zip", partial(self.write_programs, order)
        )

    def write_programs(self, order: Order, path: Path) -> None:
        """Write the programs that were cut, beside the window."""
        from kelvor.exchange.milling import write_programs

        self.settings.handed_out(path.parent)
        self._sheets.ask(write_programs, [(
            order.board, order.mill, order.stock, order.stamp, order.files, order.faces, path, True,
        )])  # fmt: skip
        self.session.versions.handed_out("programs for the mill", order.stamp, order.step)

    def ship_papers(self) -> None:
        """Ask where ship card and care sheet of the chosen made board go."""
        made = self.session.making.chosen()
        if made is None:
            self._not_done("Begin a board first, in Build, Boards made: a ship card belongs to a serial.")
            return
        self.ask_where(
            "Ship card and care sheet",
            "Papers (*.pdf)",
            f"{self.session.board.name} {made.value.serial}.pdf",
            lambda path: self._window.guarded(lambda _: self.write_papers(path)),
        )

    def write_papers(self, path: Path) -> None:
        """Write ship card and care sheet, beside the window; raises InputError when the version cannot be read."""
        from kelvor.core.making.care import care
        from kelvor.core.making.proof import doubts
        from kelvor.core.making.sheet import sheet
        from kelvor.exchange.papers import write_papers
        from kelvor.ui.presenters.papers import card_rows, warning_words
        from kelvor.ui.presenters.sheet import sheet_lines

        session, making = self.session, self.session.making
        made, live = making.chosen(), making.live()
        assert made is not None
        lines = sheet_lines(sheet(live.geometry), made, making.tolerances())
        against = doubts(live, session.brief, session.table, session.workshop.tables.kept)
        needed = making.proof_needed()
        warning = warning_words(against, lines, made.proved(needed), needed, session.system)
        shas = [e.value.photo for e in made.entries if getattr(e.value, "photo", "") and not e.value.struck]
        photos = [session.workshop.store.records.blob(sha) for sha in shas[-2:]]
        stamp, title = making.stamp(), f"{live.board.name}, {made.value.serial}"
        self.settings.handed_out(path.parent)
        self._sheets.ask(write_papers, [(
            title, stamp.words, warning, card_rows(made, live, lines, session.system),
            care(live.board, session.brief.discipline, session.table), photos, path, True,
        )])  # fmt: skip
        session.versions.handed_out("ship card", stamp, made.record.step or session.current)

    def shopping_list(self, panel: OrdersPanel) -> None:
        """Ask where the list goes of what open orders need."""
        self.ask_where(
            "Shopping list", "List on paper (*.pdf)", "shopping list.pdf", partial(self.write_shopping, panel)
        )

    def write_shopping(self, panel: OrdersPanel, path: Path) -> None:
        """Write what open orders need, beside the window."""
        from kelvor.exchange.papers import write_shopping

        def write(_: object) -> None:
            lines, stamps = panel.to_buy()
            self.settings.handed_out(path.parent)
            self._sheets.ask(write_shopping, [(stamps, panel.rows(lines), path, True)])

        self._window.guarded(write)

    def _not_done(self, words: str) -> None:
        self.session.said.emit("problem", words)

    def _sheet_written(self, paths: list[Path]) -> None:
        self.session.said.emit("note", f"Written: {paths[0]}")

    def look_through(self) -> None:
        """Read every row of the workshop beside the window, and say what of it cannot be read."""
        from kelvor.exchange.checking import problems

        path = self.session.workshop.store.path
        self._looked_through = path
        self._checks.ask(problems, [(path,)])

    def _found(self, found: list[list[str]]) -> None:
        self.session.workshop.doubt(self._looked_through, found[0])

    def save(self) -> None:
        """Try again what waits."""
        if self.session.workshop.saving.save():
            self.session.said.emit("note", "Everything is saved.")

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
        dialog = self._file_dialog("New workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptSave)
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
        dialog = self._file_dialog("Open workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.when_saved(lambda: self.open_workshop(Path(path))))
        self._window.dialogs.show(dialog)

    def open_workshop(self, path: Path) -> None:
        """Open a workshop in this window, or say why not."""
        try:
            self.session.file.open_workshop(path)
            self.settings.remember(path)
            self.look_through()
        except KelvorError as error:
            self.session.said.emit("problem", str(error))

    def another_window(self) -> None:
        """A second window on the same file, in a process of its own."""
        process = QProcess(self._window)
        prepare(process, "kelvor", str(self.session.workshop.store.path))
        process.startDetached()

    def _file_dialog(self, title: str, kinds: str, mode: QFileDialog.AcceptMode) -> QFileDialog:
        dialog = QFileDialog(self._window, title, str(Path.home()), kinds)
        dialog.setAcceptMode(mode)
        return dialog

    def dated_copy(self) -> None:
        """A copy of the day into the folder the user named; what cannot be written is told at the next start."""
        folder = self.settings.get("copies")
        if folder:
            from kelvor.exchange.dated import dated_copy

            try:
                dated_copy(self.session.workshop.store, Path(folder), pages=self.settings.get("copies_pages") == "yes")
                self.settings.set("copies_trouble", "")
            except KelvorError as error:
                self.settings.set("copies_trouble", str(error))
