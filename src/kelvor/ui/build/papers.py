"""What leaves the shop and what comes in of boards that are made: sheets, cards, programs for the mill, scans."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PySide6.QtWidgets import QFileDialog, QWidget

from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.build.made import Making

if TYPE_CHECKING:
    from kelvor.core.evaluation.live import Live
    from kelvor.core.made.scan import Scanned
    from kelvor.ui.build.mill import MillJob
    from kelvor.ui.build.orders_panel import OrdersPanel
    from kelvor.ui.session.window_protocols import Window


class ShopPapers:
    """Papers, programs and scans of made boards, each beside the window and under one stamp."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.session, self.settings = window.session, window.settings
        self.making = window.session.service(Making)
        self._sheets = WorkerQuestion(
            window.session, "It was not written", self._written, failed=self._not_done, here=True
        )
        self._scans = WorkerQuestion(
            window.session, "The scan was not laid on", self._scan_laid, failed=self._not_done, here=True
        )
        self._scanned: Live | None = None

    def measure_sheet(self) -> None:
        """Ask where the measure sheet goes: of the made board that is chosen, or of the version on the bench."""
        self._window.files.ask_where(
            "Measure sheet",
            "Sheet on paper (*.pdf)",
            f"{self.session.board.name} measure sheet.pdf",
            lambda path: self._window.guarded(lambda _: self.write_measures(path)),
        )

    def write_measures(self, path: Path) -> None:
        """Write the measure sheet, beside the window; raises InputError when its version cannot be read."""
        from kelvor.core.made.sheet import lines_to_measure
        from kelvor.exchange.measures import write_measures
        from kelvor.ui.build.shown.sheet import line_rows, sheet_lines

        session, making = self.session, self.making
        made, live, tolerances = making.chosen(), making.live(), making.tolerances()
        rows = line_rows(sheet_lines(lines_to_measure(live.geometry), made, tolerances), tolerances, session.system)
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
        dialog = self._window.files.file_dialog("A scan of the board", kinds, QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.read_scan(Path(path)))
        self._window.dialogs.show(dialog)

    def read_scan(self, path: Path) -> None:
        """Lay a scan on the design, beside the window, and show what lies off."""
        from kelvor.exchange.scans import laid_scan

        def ask(_: object) -> None:
            self._scanned = self.making.live()
            self.session.message.emit("note", f"Laying {path.name} on {self._scanned.board.name} …")
            self._scans.ask(laid_scan, [(self._scanned.board, path)])

        self._window.guarded(ask)

    def _scan_laid(self, found: list[Scanned]) -> None:
        from kelvor.ui.build.scan_panel import ScanPanel

        made, live = self.making.chosen(), self._scanned
        assert live is not None
        title = f"{live.board.name}{f', {made.value.serial}' if made is not None else ''}"
        self._window.dialogs.show(
            ScanPanel(cast("QWidget", self._window), self.session, title, found[0], live.geometry.shape)
        )

    def stage_card(self) -> None:
        """Ask where the card goes that goes along with the chosen made board, or the version on the bench."""
        made = self.making.chosen()
        name = f"{self.session.board.name} {made.value.serial if made is not None else ''}".strip()
        self._window.files.ask_where(
            "Stage card",
            "Card on paper (*.pdf)",
            f"{name} stage card.pdf",
            lambda path: self._window.guarded(lambda _: self.write_stage_card(path)),
        )

    def write_stage_card(self, path: Path) -> None:
        """Write the stage card, beside the window; raises InputError without a construction."""
        from kelvor.core.base.units import weighed_within
        from kelvor.core.build.mass.stages import forecasts
        from kelvor.exchange.papers import write_stage_card
        from kelvor.ui.build.shown.schedule import CAUTION, card_work

        session, making = self.session, self.making
        made, live, stamp = making.chosen(), making.live(), making.stamp()
        weights = [
            (f.stage.capitalize(), weighed_within(f.mass, f.band, session.system))
            for f in forecasts(live.geometry, live.mass)
        ]
        title = f"{live.board.name}{f', {made.value.serial}' if made is not None else ''}: stage card"
        self.settings.handed_out(path.parent)
        work = card_work(making.schedule())
        self._sheets.ask(write_stage_card, [(title, stamp.words, work, weights, CAUTION, path, True)])
        step = made.record.step if made is not None and made.record.step else session.current
        session.versions.handed_out("stage card", stamp, step)

    def mill_programs(self, order: MillJob | None) -> None:
        """Ask where the programs go that the simulated mill has cut."""
        if order is None or not order.faces:
            self._not_done("Cut it on the simulated mill first, in Build, Mill: nothing unproven is handed out.")
            return
        name = f"{order.board.name} {order.stamp.serial}".strip()
        self._window.files.ask_where(
            "Programs for the mill", "Programs (*.zip)", f"{name} mill.zip", partial(self.write_programs, order)
        )

    def write_programs(self, order: MillJob, path: Path) -> None:
        """Write the programs that were cut, beside the window."""
        from kelvor.exchange.milling import write_programs

        self.settings.handed_out(path.parent)
        self._sheets.ask(
            write_programs,
            [
                (
                    order.board,
                    order.mill,
                    order.stock,
                    order.stamp,
                    order.files,
                    order.faces,
                    path,
                    True,
                )
            ],
        )
        self.session.versions.handed_out("programs for the mill", order.stamp, order.step)

    def ship_papers(self) -> None:
        """Ask where ship card and care sheet of the chosen made board go."""
        made = self.making.chosen()
        if made is None:
            self._not_done("Begin a board first, in Build, Boards made: a ship card belongs to a serial.")
            return
        self._window.files.ask_where(
            "Ship card and care sheet",
            "Papers (*.pdf)",
            f"{self.session.board.name} {made.value.serial}.pdf",
            lambda path: self._window.guarded(lambda _: self.write_papers(path)),
        )

    def write_papers(self, path: Path) -> None:
        """Write ship card and care sheet, beside the window; raises InputError when the version cannot be read."""
        from kelvor.core.made.care import care
        from kelvor.core.made.proof import proof_conditions
        from kelvor.core.made.sheet import lines_to_measure
        from kelvor.exchange.papers import write_papers
        from kelvor.ui.build.shown.papers import card_rows, warning_words
        from kelvor.ui.build.shown.sheet import sheet_lines

        session, making = self.session, self.making
        made, live = making.chosen(), making.live()
        assert made is not None
        lines = sheet_lines(lines_to_measure(live.geometry), made, making.tolerances())
        against = proof_conditions(live, session.workshop.tables.kept)
        needed = making.proof_needed()
        warning = warning_words(against, lines, made.proved(needed.moment), needed, session.system)
        shas = [e.value.photo for e in made.entries if getattr(e.value, "photo", "") and not e.value.struck]
        photos = [session.workshop.store.records.blob(sha) for sha in shas[-2:]]
        stamp, title = making.stamp(), f"{live.board.name}, {made.value.serial}"
        self.settings.handed_out(path.parent)
        self._sheets.ask(
            write_papers,
            [
                (
                    title,
                    stamp.words,
                    warning,
                    card_rows(made, live, lines, session.system),
                    care(live.board, session.brief.discipline, session.table),
                    photos,
                    path,
                    True,
                )
            ],
        )
        session.versions.handed_out("ship card", stamp, made.record.step or session.current)

    def shopping_list(self, panel: OrdersPanel) -> None:
        """Ask where the list goes of what open orders need."""
        self._window.files.ask_where(
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
        self.session.message.emit("problem", words)

    def _written(self, paths: list[Path]) -> None:
        self.session.message.emit("note", f"Written: {paths[0]}")
