"""The track of a session: its map and time line, its runs and turns, its polar beside the computed one."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.units import KNOT
from kelvor.core.register.record import Record
from kelvor.core.ride.pictures import Chart, ChartLine
from kelvor.core.water.sessions.log import Logged
from kelvor.core.water.tracks.polar import sailed_polar
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.ui.controls.panel import Elided, heading, plain_label, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.shown.water import (
    moment_words,
    polar_rows,
    straight_run_rows,
    track_words,
    wind_found_words,
)
from kelvor.ui.water.time_line import TimeLine
from kelvor.ui.water.track_map import TrackMap

POLAR = ("Off the wind", "Mean, kn", "Best run", "Runs", "Computed, kn")
RUNS = ("At", "What", "Lasts", "Way", "Heading", "Off the wind", "Tack", "kn")
NO_TRACK = (
    "No track in this session. Add a watch's file (GPX, FIT, TCX, CSV), or drop one into the watched folder and a "
    "draft begins by itself."
)


class TrackPanel(QFrame):
    """What the watch kept. What is pointed at is marked on map and line alike."""

    looked = Signal(object)
    """A track is looked at as it is read, or none."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("panel")
        self._one: Logged | None = None
        self._shown = ""
        column = QVBoxLayout(self)
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
        self.problem = problem_label()
        column.addWidget(self.problem)
        for widget in (self.map, self.line):
            widget.scrubbed.connect(self.scrub)
        session.service(Logbook).track_read.connect(self._track_came)

    def show_session(self, one: Logged | None) -> None:
        """Show the track of a session, once it is read."""
        self._one = one
        if one is None:
            self.title.setText("No session")
        else:
            place = f", {one.value.place}" if one.value.place else ""
            state = " · struck out" if one.value.struck else " · draft: Enter on it keeps it" if one.value.draft else ""
            self.title.setText(f"{one.value.day}{place}{state}")
        self._shown = ""
        self._show_track()

    def track(self) -> Record | None:
        """The track of the chosen session that is looked at: the first that counts."""
        one = self._one
        return next((t for t in one.tracks if not t.value.struck), None) if one is not None else None

    def read(self) -> TrackRead | None:
        """The track that is looked at, as it is read."""
        track = self.track()
        return self.session.service(Logbook).look_at(track) if track is not None else None

    def _track_came(self, _: str) -> None:
        """A track is read: here, or for another page."""
        self._show_track()

    def _show_track(self) -> None:
        track, read, one = self.track(), self.read(), self._one
        key = f"{one.uid if one is not None else ''} {track.uid if track is not None else ''} {read is not None}"
        if key == self._shown:
            return
        self._shown = key
        typed = one.value.wind_from if one is not None else None
        wind = typed if typed is not None else read.wind.bearing if read is not None and read.wind is not None else None
        self.runs.clearSelection()
        self.map.empty = "The track is being read…" if track is not None and read is None else NO_TRACK
        self.map.show_track(read, wind, self._shore(one), self._shore_line(one))
        self.line.show_track(read)
        self.looked.emit(read)
        self.moment.set_words(
            "Point at the map or the line: speed, run, angle to the wind." if read is not None else ""
        )
        if read is None or track is None:
            self.told.setText("")
            self.computed_at.setText("")
            fill_table(self.polar, [])
            fill_table(self.runs, [])
            return
        self.told.setText(f"{track_words(read, track)} {wind_found_words(read, typed)}.".replace("..", "."))
        fill_table(self.runs, straight_run_rows(read, wind))
        computed, words = self._computed()
        self.computed_at.setText(
            words if wind is not None else "Without the wind's bearing there is no polar: type it."
        )
        fill_table(
            self.polar, polar_rows(sailed_polar(read.runs, wind), computed) if wind is not None and read.runs else []
        )

    def _computed(self) -> tuple[ChartLine | None, str]:
        """The polar that is computed for the board on the bench, where that is the one that was ridden; and in which
        wind and with which gear.
        """
        session, one = self.session, self._one
        ids = session.workshop.saving.ids
        board = one.setups[-1].board if one is not None and one.setups else None
        if board is None or ids(board) != ids(session.board_id):
            return None, "Put the board that was ridden on the bench, and the computed polar stands beside it."
        ride = session.service(RideRequests).ride
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
        one = self._one
        if one is None or not one.value.place:
            self.problem.setText("Choose a session that names its place first.")
            return False
        try:
            self.session.service(Logbook).take_shore(one.value.place, path)
        except KelvorError as error:
            self.problem.setText(str(error))
            return False
        self.problem.setText("")
        self._shown = ""
        self._show_track()
        return True

    def scrub(self, t: float) -> None:
        """Look at a moment of the track, since its first fix [s]."""
        read = self.read()
        if read is not None:
            self.map.show_moment(t)
            self.line.show_moment(t)
            self.moment.set_words(moment_words(read, t))
