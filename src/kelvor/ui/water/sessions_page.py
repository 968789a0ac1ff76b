"""Sessions: the log at the left, the track of the chosen one in the middle, what was ridden and said at the right."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.errors import KelvorError
from kelvor.core.record import Record
from kelvor.core.ride.pictures import Chart, Line
from kelvor.core.sessions.log import Logged, searched
from kelvor.core.track.polar import sailed
from kelvor.core.track.reading import TrackRead
from kelvor.core.units import KNOT
from kelvor.ui.presenters.water import (
    best_rows,
    moment_words,
    polar_rows,
    run_rows,
    said_rows,
    session_rows,
    setup_rows,
    track_words,
    wind_found_words,
)
from kelvor.ui.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.time_line import TimeLine
from kelvor.ui.water.track_map import TrackMap
from kelvor.ui.widgets.panel import Elided, heading, panel, plain_label
from kelvor.ui.widgets.rows import RowsView
from kelvor.ui.widgets.tables import figures_table, fill

HEADS = ("Day", "Board", "Wind", "10 s, kn")
POLAR = ("Off the wind", "Mean, kn", "Best run", "Runs", "Computed, kn")
RUNS = ("At", "What", "Lasts", "Way", "Heading", "Off the wind", "Tack", "kn")
NO_TRACK = (
    "No track in this session. Add a watch's file (GPX, FIT, TCX, CSV), or drop one into the watched folder and a "
    "draft begins by itself."
)
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
        self._track = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._list(), 0)
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right(), 0)
        session.logbook.track_read.connect(self._track_came)
        session.logbook.failed.connect(self._failed)
        session.logbook.drafted.connect(self.choose)

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

    def _middle(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        self.title = heading("")
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        column.addWidget(self.title)
        self.told = plain_label()
        self.told.setObjectName("quiet")
        self.told.setFont(font(12))
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.tabs = QTabWidget()
        holder, inner = QWidget(), QVBoxLayout()
        holder.setLayout(inner)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(2)
        self.map, self.line = TrackMap(), TimeLine()
        self.map.empty = NO_TRACK
        inner.addWidget(self.map, 1)
        self.moment = Elided()
        self.moment.setFont(font(12))
        inner.addWidget(self.moment)
        inner.addWidget(self.line)
        self.tabs.addTab(holder, "Track")
        self.runs = figures_table(RUNS)
        self.runs.itemSelectionChanged.connect(self._run_chosen)
        self.tabs.addTab(self.runs, "Runs and turns")
        self.polar = figures_table(POLAR)
        beside, inner = QWidget(), QVBoxLayout()
        beside.setLayout(inner)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.addWidget(self.polar, 1)
        self.computed_at = plain_label()
        self.computed_at.setObjectName("quiet")
        self.computed_at.setFont(font(12))
        self.computed_at.setWordWrap(True)
        inner.addWidget(self.computed_at)
        self.tabs.addTab(beside, "Polar")
        column.addWidget(self.tabs, 1)
        self.problem = plain_label()
        self.problem.setObjectName("wrong")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        for widget in (self.map, self.line):
            widget.scrubbed.connect(self.scrub)
        return frame

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
        log = self.session.logbook.all()
        self.shown = searched(log, self.search.text())
        self.table.blockSignals(True)
        fill(self.table, session_rows(self.shown))
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
            self.problem.setText("")
            self._show()

    def _show(self) -> None:
        one = self.one()
        for button in (self.words_button, self.read_button, self.strike_button):
            button.setEnabled(one is not None)
        self.read_button.setEnabled(one is not None and bool(one.setups))
        if one is None:
            self.title.setText("No session")
            self.setup.set_rows([])
            self.said.set_rows([])
        else:
            place = f", {one.value.place}" if one.value.place else ""
            state = " · struck out" if one.value.struck else " · draft: Enter on it keeps it" if one.value.draft else ""
            self.title.setText(f"{one.value.day}{place}{state}")
            self.setup.set_rows(setup_rows(one, self.session.system))
            self.said.set_rows(said_rows(one, self.session.system))
        self._track = ""
        self._show_track()

    def track(self) -> Record | None:
        """The track of the chosen session that is looked at: the first that counts."""
        one = self.one()
        return next((t for t in one.tracks if not t.value.struck), None) if one is not None else None

    def read(self) -> TrackRead | None:
        """The track that is looked at, as it is read."""
        track = self.track()
        return self.session.logbook.look_at(track) if track is not None else None

    def _track_came(self, _: str) -> None:
        """A track is read: here, or for another page."""
        self._show_track()

    def _show_track(self) -> None:
        track, read, one = self.track(), self.read(), self.one()
        key = f"{self._uid} {track.uid if track is not None else ''} {read is not None}"
        if key == self._track:
            return
        self._track = key
        typed = one.value.wind_from if one is not None else None
        wind = typed if typed is not None else read.wind.bearing if read is not None and read.wind is not None else None
        self.runs.clearSelection()
        self.map.empty = "The track is being read…" if track is not None and read is None else NO_TRACK
        self.map.show_track(read, wind, self._shore(one), self._shore_line(one))
        self.line.show_track(read)
        self.bests.set_rows(best_rows(read, self.session.system) if read is not None else [])
        self.moment.set_words(
            "Point at the map or the line: speed, run, angle to the wind." if read is not None else ""
        )
        if read is None or track is None:
            self.told.setText("")
            self.computed_at.setText("")
            fill(self.polar, [])
            fill(self.runs, [])
            return
        self.told.setText(f"{track_words(read, track)} {wind_found_words(read, typed)}.".replace("..", "."))
        fill(self.runs, run_rows(read, wind))
        computed, words = self._computed()
        self.computed_at.setText(
            words if wind is not None else "Without the wind's bearing there is no polar: type it."
        )
        fill(self.polar, polar_rows(sailed(read.runs, wind), computed) if wind is not None and read.runs else [])

    def _computed(self) -> tuple[Line | None, str]:
        """The polar that is computed for the board on the bench, where that is the one that was ridden; and in which
        wind and with which gear.
        """
        session, one = self.session, self.one()
        ids = session.workshop.saving.ids
        board = one.setups[-1].board if one is not None and one.setups else None
        if board is None or ids(board) != ids(session.board_id):
            return None, "Put the board that was ridden on the bench, and the computed polar stands beside it."
        ride = session.riding.ride
        chart = ride.pictures.get("polar") if ride is not None else None
        if ride is None or not isinstance(chart, Chart):
            return None, "No polar is computed for this discipline, or not yet: look into Ride."
        line = next((line for line in chart.lines if line.name == "board speed"), None)
        brief = session.brief
        gear = f" with {brief.wing.name}" if brief.wing is not None else ""
        return line, f"Computed in {ride.condition.wind / KNOT:.0f} kn{gear}; sailed as the log says."

    def _run_chosen(self) -> None:
        """The map follows the chosen run or turn."""
        item = self.runs.item(self.runs.currentRow(), 0)
        if item is not None:
            minutes, seconds = item.text().split(":")
            self.scrub(60.0 * int(minutes) + int(seconds))

    def _shore(self, one: Logged | None) -> float | None:
        """Where the shore of the session's place looks out to, where the register knows it [rad]."""
        place = one.value.place if one is not None else ""
        found = next((r.value for r in self.session.workshop.registers.of("place") if r.value.name == place), None)
        return found.shore if found is not None and found.shore > 0 else None

    def _shore_line(self, one: Logged | None) -> tuple[tuple[float, float], ...]:
        """The shore of the session's place, where somebody gave one."""
        place = one.value.place if one is not None else ""
        found = (r.value for r in self.session.workshop.registers.of("shore line") if r.value.place == place)
        return next((line.points for line in found), ())

    def take_shore(self, path: Path) -> bool:
        """Take a file as the shore line of the chosen session's place."""
        one = self.one()
        if one is None or not one.value.place:
            self._failed("Choose a session that names its place first.")
            return False
        try:
            self.session.logbook.take_shore(one.value.place, path)
        except KelvorError as error:
            self._failed(str(error))
            return False
        self.problem.setText("")
        self._track = ""
        self._show_track()
        return True

    def _ask_shore(self) -> None:
        dialog = QFileDialog(self, "The shore at this place", str(Path.home()), "Lines (*.gpx *.geojson *.json)")
        dialog.fileSelected.connect(lambda name: self.take_shore(Path(name)))
        dialog.open()

    def scrub(self, t: float) -> None:
        """Look at a moment of the track, since its first fix [s]."""
        read = self.read()
        if read is not None:
            self.map.show_moment(t)
            self.line.show_moment(t)
            self.moment.set_words(moment_words(read, t))

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
            self.session.logbook.add_track(path, self._uid)
        except KelvorError as error:
            self._failed(str(error))
            return False
        self.problem.setText("")
        return True

    def _failed(self, words: str) -> None:
        self.problem.setText(words)
