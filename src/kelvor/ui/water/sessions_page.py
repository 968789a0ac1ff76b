"""Sessions: the log at the left, the track of the chosen one in the middle, what was ridden and said at the right."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.core.water.sessions.log import Logged, searched
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.ui.build.made import Making
from kelvor.ui.controls.panel import heading, panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.shown.water import best_rows, said_rows, session_rows, setup_rows
from kelvor.ui.water.track_panel import TrackPanel

HEADS = ("Day", "Board", "Wind", "10 s, kn")
NONE = "Nothing is logged yet. Log a session: board and day suffice."


class SessionsPage(QWidget):
    """The log, searched as typed; the newest session stands first."""

    form_asked = Signal(object)
    """A session is to be logged anew (None) or changed."""
    words_asked = Signal(object)
    reading_asked = Signal(object)
    strike_asked = Signal(object)
    """A record is to be struck out."""
    file_asked = Signal(object)
    """A photo or voice note of words is to be opened."""
    card_asked = Signal()
    folder_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.shown: list[Logged] = []
        self._uid = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._list(), 0)
        self.panel = TrackPanel(session)
        row.addWidget(self.panel, 1)
        row.addWidget(self._right(), 0)
        self.panel.looked.connect(self._looked)
        session.service(Logbook).failed.connect(self._failed)
        session.service(Logbook).drafted.connect(self.choose)

    def _list(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        frame.setFixedWidth(372)
        column.setContentsMargins(12, 10, 12, 10)
        self.search = QLineEdit()
        self.search.setAccessibleName("Search the log")
        self.search.setPlaceholderText("Search: place, board, fin, rider, words, month")
        self.search.textChanged.connect(lambda _: self.refresh())
        column.addWidget(self.search)
        self.table: QTableWidget = figures_table(HEADS)
        self.table.itemSelectionChanged.connect(self._chosen)
        self.table.itemActivated.connect(lambda _: self.change())
        column.addWidget(self.table, 1)
        self.count = QLabel()
        self.count.setObjectName("quiet")
        column.addWidget(self.count)
        first, second = QHBoxLayout(), QHBoxLayout()
        self.log_button = self._button(
            "Log a session…", "As last time, in a few keys", lambda: self.form_asked.emit(None)
        )
        self.track_button = self._button("Add a track…", "GPX, FIT, TCX or CSV of a watch", self._ask_track)
        self.card_button = self._button(
            "Card…", "To be ringed on the beach and typed in afterwards", self.card_asked.emit
        )
        self.shore_button = self._button(
            "Shore…", "A shore line for the map of this place (GPX, GeoJSON)", self._ask_shore
        )
        self.folder_button = self._button(
            "Watch a folder…", "Tracks that appear there begin drafts", self.folder_asked.emit
        )
        for button in (self.log_button, self.track_button):
            first.addWidget(button)
        for button in (self.card_button, self.shore_button, self.folder_button):
            second.addWidget(button)
        column.addLayout(first)
        column.addLayout(second)
        return frame

    def _button(self, words: str, tip: str, do: object) -> QPushButton:
        button = QPushButton(words)
        button.setToolTip(tip)
        button.clicked.connect(do)
        return button

    def _right(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setFixedWidth(316)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        self.setup = RowsView("What was ridden", value_share=0.97, row_height=22)
        self.bests = RowsView("Best speeds", value_share=0.62, row_height=22)
        self.said = RowsView("Words, readings and tracks", value_share=0.97, row_height=22)
        self.said.chosen.connect(self._open_file)
        for title, view, share in (("Set-up", self.setup, 5), ("Best", self.bests, 4), ("Said and read", self.said, 3)):
            frame, words = panel(), heading(title)
            inner = QVBoxLayout(frame)
            inner.setContentsMargins(1, 8, 1, 6)
            inner.setSpacing(2)
            words.setContentsMargins(12, 0, 10, 2)
            inner.addWidget(words)
            inner.addWidget(view, 1)
            column.addWidget(frame, share)
            if view is self.said:
                buttons = QHBoxLayout()
                buttons.setContentsMargins(10, 0, 10, 0)
                read = "Least wind, a speed or watts, to hold against what was computed"
                strike = "The chosen line, or the session; it stays readable"
                ask = (lambda: self._ask(self.words_asked), lambda: self._ask(self.reading_asked))
                self.words_button = self._button("Words…", "Keep what somebody said, verbatim", ask[0])
                self.read_button = self._button("Reading…", read, ask[1])
                self.strike_button = self._button("Strike out…", strike, self._strike)
                for button in (self.words_button, self.read_button, self.strike_button):
                    buttons.addWidget(button)
                inner.addLayout(buttons)
        return holder

    # showing

    def refresh(self) -> None:
        """Show the log, and the chosen session."""
        log = self.session.service(Logbook).all()
        self.shown = searched(log, self.search.text())
        self.table.blockSignals(True)
        fill_table(self.table, session_rows(self.shown))
        at = next((i for i, one in enumerate(self.shown) if one.uid == self._uid), 0 if self.shown else -1)
        if at >= 0:
            self.table.selectRow(at)
            self._uid = self.shown[at].uid
        else:
            self.table.clearSelection()
            self._uid = ""
        self.table.blockSignals(False)
        drafts = sum(one.value.draft for one in log)
        more = f", {drafts} draft{'s' if drafts != 1 else ''}" if drafts else ""
        self.count.setText(NONE if not log else f"{len(self.shown)} of {len(log)} sessions{more}")
        self._show()

    def one(self) -> Logged | None:
        """The chosen session."""
        return next((one for one in self.shown if one.uid == self._uid), None)

    def choose(self, uid: str) -> None:
        """Show a session."""
        self._uid = uid
        self.refresh()

    def _chosen(self) -> None:
        at = self.table.currentRow()
        if 0 <= at < len(self.shown) and self.shown[at].uid != self._uid:
            self._uid = self.shown[at].uid
            self.panel.problem.setText("")
            self._show()

    def _show(self) -> None:
        one = self.one()
        for button in (self.words_button, self.read_button, self.strike_button):
            button.setEnabled(one is not None)
        self.read_button.setEnabled(one is not None and bool(one.setups))
        begun = {made.record.uid: made.value for made in self.session.service(Making).all_boards()}
        self.setup.set_rows(setup_rows(one, self.session.system, begun) if one is not None else [])
        self.said.set_rows(said_rows(one, self.session.system) if one is not None else [])
        self.panel.show_session(one)

    def _looked(self, read: TrackRead | None) -> None:
        self.bests.set_rows(best_rows(read, self.session.system) if read is not None else [])

    # doing

    def change(self) -> None:
        """Change the chosen session, or keep a draft."""
        one = self.one()
        if one is not None:
            self.form_asked.emit(one)

    def _ask(self, signal: object) -> None:
        one = self.one()
        if one is not None:
            signal.emit(one)  # type: ignore[attr-defined]

    def _strike(self) -> None:
        one = self.one()
        if one is None:
            return
        key = self.said.key()
        chosen = next((r for r in (*one.words, *one.readings, *one.tracks) if r.uid == key), None)
        self.strike_asked.emit(chosen or one.record)

    def _ask_shore(self) -> None:
        dialog = QFileDialog(self, "The shore at this place", str(Path.home()), "Lines (*.gpx *.geojson *.json)")
        dialog.fileSelected.connect(lambda name: self.panel.take_shore(Path(name)))
        dialog.open()

    def _open_file(self, key: str) -> None:
        one = self.one()
        record = next((r for r in one.words if r.uid == key), None) if one is not None else None
        if record is not None and record.value.file:
            self.file_asked.emit(record)

    def _ask_track(self) -> None:
        dialog = QFileDialog(
            self, "A watch's track", str(Path.home()), "Tracks (*.gpx *.fit *.tcx *.csv);;All files (*)"
        )
        dialog.setFileMode(QFileDialog.FileMode.ExistingFiles)
        dialog.filesSelected.connect(lambda names: [self.add_track(Path(name)) for name in names])
        dialog.open()

    def add_track(self, path: Path) -> bool:
        """Take a watch's file into the chosen session where it is of its day; what cannot be read is said."""
        try:
            self.session.service(Logbook).add_track(path, self._uid)
        except KelvorError as error:
            self._failed(str(error))
            return False
        self.panel.problem.setText("")
        return True

    def _failed(self, words: str) -> None:
        self.panel.problem.setText(words)
