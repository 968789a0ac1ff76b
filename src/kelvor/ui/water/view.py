"""The Water view: sessions and tracks, tests, gear, what our own boards say, and the history of a board."""

from __future__ import annotations

from hashlib import sha256
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QFileDialog, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.base.errors import KelvorError
from kelvor.core.register.kinds.water import Read
from kelvor.core.register.record import Record
from kelvor.core.water.sessions.corrected import CORRECTED
from kelvor.core.water.sessions.log import Logged
from kelvor.core.water.trials.trial_records import Test
from kelvor.exchange.tracks import ColumnsUnknown
from kelvor.files import written_whole
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.gear_page import GearPage
from kelvor.ui.water.history_page import HistoryPage
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.own_boards_page import OursPage
from kelvor.ui.water.papers import WaterPapers
from kelvor.ui.water.session_form import SessionForm
from kelvor.ui.water.sessions_page import SessionsPage
from kelvor.ui.water.shown.water import CAUTION
from kelvor.ui.water.small_panels import (
    SOUNDS,
    ColumnsPanel,
    LoggerPanel,
    PlanPanel,
    ReadingPanel,
    StrikePanel,
    WordsPanel,
)
from kelvor.ui.water.tests_page import TestsPage
from kelvor.ui.water.trials import Trials

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window

WATCHED = "watched folder"
"""The habit that keeps it."""


class WaterView(QWidget):
    """Pages of what happens on the water."""

    def __init__(self, window: Window) -> None:
        super().__init__()
        self._window = window
        self.session: Session = window.session
        self.papers = WaterPapers(window)
        self.setObjectName("ground")
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 4)
        column.setSpacing(4)
        session = self.session
        self.trials = Trials(session)
        self._awaited: tuple[str, str] | None = None
        self.tabs = QTabWidget()
        self.sessions = SessionsPage(session)
        self.tests = TestsPage(session, self.trials, self.sessions.one)
        self.gear, self.ours = GearPage(session), OursPage(session)
        self.history = HistoryPage(session, self.trials)
        for page, words in (
            (self.sessions, "Sessions"),
            (self.tests, "Tests"),
            (self.gear, "Gear"),
            (self.ours, "Our boards"),
            (self.history, "History"),
        ):
            self.tabs.addTab(page, words)
        column.addWidget(self.tabs, 1)
        caution = plain_label()
        caution.setText(CAUTION)
        caution.setObjectName("quiet")
        caution.setFont(font(11))
        caution.setWordWrap(True)
        column.addWidget(caution)
        self._connect()

    def _connect(self) -> None:
        session, show = self.session, self._window.dialogs.show
        self.tabs.currentChanged.connect(lambda _: self.refresh())
        session.workshop.records_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        sessions, tests = self.sessions, self.tests
        sessions.form_asked.connect(self.log)
        sessions.words_asked.connect(lambda one: show(WordsPanel(self, session, one)))
        sessions.reading_asked.connect(lambda one: show(ReadingPanel(self, session, one, self._computed)))
        sessions.strike_asked.connect(self._strike)
        sessions.file_asked.connect(self._open_file)
        sessions.card_asked.connect(self.papers.session_card)
        sessions.folder_asked.connect(self._ask_folder)
        session.service(Logbook).columns_asked.connect(self._ask_columns)
        tests.plan_asked.connect(lambda: show(PlanPanel(self, session, self.trials, tests.choose)))
        tests.strike_asked.connect(lambda run: show(StrikePanel(self, run, self.trials.strike)))
        tests.card_asked.connect(self.papers.test_card)
        tests.logger_asked.connect(lambda test: show(LoggerPanel(self, session, test, self._sailed)))
        session.service(Logbook).track_read.connect(self._take_runs)
        self.history.print_asked.connect(lambda: self.papers.history(self.history.made(), self.history.chapters))

    def showEvent(self, event: QShowEvent) -> None:
        """What happened meanwhile is shown when it comes into view."""
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Show the page that is looked at."""
        if self.isVisible():
            page = self.tabs.currentWidget()
            page.refresh()  # type: ignore[attr-defined]

    def log(self, session: Logged | None = None) -> SessionForm:
        """Open the form of a session: the chosen one, or a new one."""
        form = SessionForm(self, self.session, session)
        form.kept.connect(self.sessions.choose)
        self._window.dialogs.show(form)
        return form

    def _computed(self, one: Logged, what: Read) -> tuple[float, str]:
        """What is computed of a kind for the board and gear of a session, where those are on the bench; 0 and why not
        elsewhere.
        """
        session, setup = self.session, one.setup
        ids = session.workshop.saving.ids
        board = one.setups[-1].board if one.setups else None
        if setup is None or board is None or ids(board) != ids(session.board_id):
            return 0.0, "put the board that was ridden on the bench"
        wing = session.brief.wing
        if setup.drive and (wing is None or wing.name != setup.drive):
            return 0.0, f"put {setup.drive} in use in the brief"
        figures = session.results.as_counted()
        found = (figures[key] for key in CORRECTED[what] if key in figures)
        value = next((f.value for f in found if f.value == f.value), 0.0)
        return value, "" if value > 0 else "not computed for this discipline, or not yet"

    def _sailed(self, test: Test, data: bytes, name: str) -> None:
        """The logger's track goes into the log, and its runs into the test, once it is read."""
        self._awaited = sha256(data).hexdigest(), test.record.uid
        try:
            self.session.service(Logbook).take_track(data, name)
        except KelvorError as error:
            self.tests.problem.setText(str(error))

    def _take_runs(self, sha: str) -> None:
        if self._awaited is not None and sha == self._awaited[0]:
            self.tests.choose(self._awaited[1])
            self._awaited = None
            self.tests.take_track()

    def _strike(self, record: Record) -> None:
        self._window.dialogs.show(StrikePanel(self, record, self.session.service(Logbook).strike))

    def _open_file(self, record: Record) -> None:
        """Show a photo of a card; put a voice note where somebody wants it."""
        said, window = record.value, self._window
        if not said.file_name.lower().endswith(SOUNDS):
            window.dialogs.show_photo(said.words, said.file)
            return
        window.files.ask_where(
            "Voice note", "Sound (*)", said.file_name, lambda path: self._write_file(said.file, path)
        )

    def _write_file(self, sha: str, path: Path) -> None:
        def write(_: object) -> None:
            with written_whole(path, over=True) as temporary:
                temporary.write_bytes(self.session.service(Logbook).raw(sha))

        self._window.guarded(write)

    def _ask_columns(self, asked: ColumnsUnknown) -> None:
        self._window.dialogs.show(ColumnsPanel(self, asked, self.session.service(Logbook).told_columns))

    def _ask_folder(self) -> None:
        dialog = QFileDialog(self, "Watch a folder: tracks that appear there begin drafts", str(Path.home()))
        dialog.setFileMode(QFileDialog.FileMode.Directory)
        dialog.fileSelected.connect(lambda folder: self.watch(Path(folder)))
        self._window.dialogs.show(dialog)

    def watch(self, folder: Path) -> None:
        """Watch a folder from now on, and on later days."""
        self._window.settings.set(WATCHED, str(folder))
        self.session.service(Logbook).watch(folder)
        self.session.message.emit("note", f"Tracks that appear in {folder} begin drafts.")


def water_view(window: Window) -> WaterView:
    """The Water view of a window."""
    return WaterView(window)
