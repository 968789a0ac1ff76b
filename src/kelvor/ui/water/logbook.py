"""The log of the workshop as one window sees it: sessions, what was ridden, tracks, words; all can be taken back."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime
from hashlib import sha256
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import typed_name
from kelvor.core.base.plain_text import fitted_name
from kelvor.core.register.kinds.water import ColumnMeanings, OnTheWater, SetUp, ShoreLine, TrackFile, WaterSession
from kelvor.core.register.kinds.words import Said
from kelvor.core.register.record import FILE_NAME, Record
from kelvor.core.water.sessions.log import KINDS, Logged, again, last_setup, logged
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.exchange.tracks import ENDINGS, MOST_BYTES, heads_to_ask, read_line
from kelvor.files import read_bytes
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.background.watched_folder import WatchedFolder
from kelvor.ui.build.made import Making
from kelvor.ui.water.track_job import track_job

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session as Bench
    from kelvor.ui.workshop.registers import Registers

LARGEST_SHORE = 20 * 1024 * 1024
"""No shore line's file is larger [bytes]."""
KEPT_READ = 6
"""So many tracks stay read."""


class Logbook(QObject):
    """Sessions of one workshop. Tracks are read in a worker; what is asked for newest is told."""

    track_read = Signal(str)
    """A track is read and can be looked at: its SHA-256."""
    failed = Signal(str)
    columns_asked = Signal(object)
    """A CSV file's columns must be told: :class:`~kelvor.exchange.tracks.ColumnsUnknown`."""
    drafted = Signal(str)
    """A session was begun by a track: its identity."""

    def __init__(self, bench: Bench) -> None:
        super().__init__(bench)
        self._bench = bench
        self._all: tuple[object, tuple[Logged, ...]] | None = None
        self._reads: dict[str, TrackRead] = {}
        self._blobs: dict[str, bytes] = {}
        self._incoming: list[tuple[bytes, str, str]] = []
        self._asking: tuple[bytes, str, str] | None = None
        self._look = WorkerQuestion(self, "The track", self._looked, failed=self.failed.emit, here=True)
        self._looking = ""
        self._take = WorkerQuestion(self, "The track", self._taken, failed=self._not_taken, here=True)
        self._folder = WatchedFolder(ENDINGS, self)
        self._folder.appeared.connect(self._appeared)

    @property
    def _registers(self) -> Registers:
        return self._bench.workshop.registers

    def all(self) -> tuple[Logged, ...]:
        """Every session, the newest first."""
        here = self._registers, self._registers.turn
        if self._all is None or self._all[0] != here:
            self._all = here, logged(self._registers.of(*KINDS))
        return self._all[1]

    def get(self, uid: str) -> Logged | None:
        """A session by its identity."""
        return next((one for one in self.all() if one.uid == uid), None)

    def board_names(self) -> dict[str, str]:
        """Boards one may have ridden: their words by the identity of a made board, or by themselves."""
        names = self._bench.workshop.store.names()
        ids = self._bench.workshop.saving.ids
        found = {
            made.record.uid: f"{made.value.serial} {names.get(ids(made.record.board or 0), '')}".strip()
            for made in self._bench.service(Making).all_boards()
        }
        designs = [name for name in names.values() if not any(words.endswith(f" {name}") for words in found.values())]
        old = [r.value.name for r in self._registers.of("old board")]
        return found | {name: name for name in (*designs, *old)}

    def proposed(self, board: str = "") -> SetUp:
        """What will be ridden next: as last time with that board, else as last time, else as the brief says."""
        known = last_setup(self.all(), board) if board else last_setup(self.all())
        if known is not None:
            return again(known, "")
        brief = self._bench.brief
        made = self._bench.service(Making).chosen()
        names = self.board_names()
        wing = brief.wing
        return SetUp(
            session="",
            board=board or (names[made.record.uid] if made is not None else self._bench.board.name),
            made=made.record.uid if made is not None and not board else "",
            rider=brief.rider.name,
            drive=wing.name if wing is not None else "",
            foil=brief.foil.name if brief.foils else "",
        )

    # doing

    def log(self, value: WaterSession, setup: SetUp, said: Said | None, session: Logged | None = None) -> str:
        """Keep a session with what was ridden and said in it, or write one anew; its identity."""
        words = f"session of {value.day}"
        board, step = self._about(setup)
        with self._bench.workshop.gestures.as_one(words):
            uid = self._registers.keep("session", value, words, uid=session.uid if session is not None else "")
            before = session.setups[-1] if session is not None and session.setups else None
            self._registers.keep(
                "set-up",
                replace(setup, session=uid),
                words,
                board=board,
                step=step,
                uid=before.uid if before is not None else "",
            )
            if said is not None and said.words.strip():
                self._registers.keep("said", replace(said, session=uid), words, origin="felt", board=board, step=step)
        return uid

    def _about(self, setup: SetUp) -> tuple[int | None, int | None]:
        """The design and version a set-up is about."""
        record = self._registers.get(setup.made) if setup.made else None
        if record is not None:
            return record.board, record.step
        names = self._bench.workshop.store.names()
        return next((key for key, name in names.items() if name == setup.board), None), None

    def say(self, session: Logged, words: str, who: str, rides: str, file: tuple[str, bytes] | None = None) -> None:
        """Keep words of a session, verbatim; a photo of a card or a voice note, by name and bytes, counts as words."""
        setup = session.setup
        board, step = self._about(setup) if setup is not None else (None, None)
        name, data = file if file is not None else ("", b"")
        said = Said(
            words=words.strip() or fitted_name(name, FILE_NAME),
            who=who.strip(),
            rides=rides.strip(),
            session=session.uid,
            file=sha256(data).hexdigest() if data else "",
            file_name=fitted_name(name, FILE_NAME) if name else "",
        )
        self._registers.keep(
            "said", said, f"words of {session.value.day}", origin="felt", board=board, step=step, blob=data or None
        )
        if data:
            self._blobs[said.file] = data

    def read_on_water(self, session: Logged, reading: OnTheWater) -> None:
        """Keep a figure somebody read on the water."""
        setup = session.setups[-1]
        words, value = f"{reading.what} of {session.value.day}", replace(reading, setup=setup.uid)
        self._registers.keep("on the water", value, words, origin="measured", board=setup.board, step=setup.step)

    def strike(self, record: Record, why: str) -> None:
        """Strike a session, a track, words or a reading, with the reason; it stays readable."""
        if not why.strip():
            raise InputError("no reason is given", where="Strike out", accepts="Type why it does not count")
        value = replace(record.value, struck=why.strip())
        self._registers.keep(record.kind, value, "struck out", uid=record.uid, origin=record.origin)

    # tracks

    def columns(self) -> list[ColumnMeanings]:
        """What columns of CSV files mean, as somebody said."""
        return [r.value for r in self._registers.of("columns")]

    def add_track(self, path: Path, session: str = "") -> None:
        """Take a watch's file: into a session of the same day where one is named, else as a draft of its own.

        Raises
        ------
        InputError
            When it cannot be read, is too large, or is in the log already.
        """
        self.take_track(read_bytes(path, MOST_BYTES, "tracks"), path.name, session)

    def take_track(self, data: bytes, name: str, session: str = "") -> None:
        """Take a file's bytes; raises InputError when they are in the log already."""
        sha, name = sha256(data).hexdigest(), fitted_name(name, FILE_NAME)
        for one in self.all():
            if any(isinstance(t.value, TrackFile) and t.value.sha == sha and not t.value.struck for t in one.tracks):
                raise InputError(f"it is in the log already, on {one.value.day}", where=name)
        asked = heads_to_ask(data, name, self.columns())
        if asked is not None:
            self._asking = data, name, session
            self.columns_asked.emit(asked)
            return
        self._incoming.append((data, name, session))
        if len(self._incoming) == 1:
            self._take.ask(track_job, [(data, name, self.columns())])

    def told_columns(self, columns: ColumnMeanings) -> None:
        """What the columns of the file that waits mean, from now on; it is read."""
        self._registers.keep("columns", columns, f"columns of {len(columns.heads)} heads")
        if self._asking is not None:
            data, name, session = self._asking
            self._asking = None
            self.take_track(data, name, session)

    def _not_taken(self, words: str) -> None:
        name = self._incoming.pop(0)[1] if self._incoming else ""
        self.failed.emit(words if name in words else f"{name}: {words}")
        self._next()

    def _next(self) -> None:
        if self._incoming:
            data, name, _ = self._incoming[0]
            self._take.ask(track_job, [(data, name, self.columns())])

    def _taken(self, found: list[Any]) -> None:
        data, name, session = self._incoming.pop(0)
        self.keep_track(data, name, found[0], session)
        self._next()

    def keep_track(self, data: bytes, name: str, read: TrackRead, session: str = "") -> str:
        """Keep a track that is read, in a session of its day or as a draft; the session's identity."""
        sha = sha256(data).hexdigest()
        first = datetime.fromtimestamp(float(read.clean.track.seconds[0]), UTC)
        day = first.astimezone().date().isoformat()
        here = self.get(session) if session else None
        other = here is not None and here.value.day != day
        if here is None or other:
            here = next(
                (
                    one
                    for one in self.all()
                    if one.value.day == day and not one.value.struck and one.value.draft and not one.tracks
                ),
                None,
            )
        origin: Origin = "simulated" if read.clean.track.simulated else "measured"
        best = tuple((b.name, min(b.speed, 40.0)) for b in read.bests)
        track = TrackFile(
            session="-",
            name=fitted_name(name, FILE_NAME),
            kind=fitted_name(name.rsplit(".", 1)[-1].lower(), 8),
            sha=sha,
            begun=first.isoformat(timespec="seconds"),
            hours=round(min(read.hours, 48.0), 3),
            bests=best,
        )
        words = f"track {name}"
        with self._bench.workshop.gestures.as_one(words):
            uid = here.uid if here is not None else self._draft(day, read)
            setup = self.get(uid)
            about = self._about(setup.setup) if setup is not None and setup.setup is not None else (None, None)
            self._registers.keep(
                "track", replace(track, session=uid), words, origin=origin, board=about[0], step=about[1], blob=data
            )
        self._blobs[sha] = data
        self._remember(sha, read)
        if other:
            self._bench.message.emit("note", f"{name} is of {day}: it has a draft of its own.")
        self.drafted.emit(uid)
        self.track_read.emit(sha)
        return uid

    def _draft(self, day: str, read: TrackRead) -> str:
        """A session begun by a track, with the last set-up and place."""
        last = next((one for one in self.all() if not one.value.struck), None)
        wind = read.wind.bearing if read.wind is not None else None
        value = WaterSession(
            day=day, place=last.value.place if last is not None else self._bench.brief.place, wind_from=wind, draft=True
        )
        return self.log(value, self.proposed(), None)

    def take_shore(self, place: str, path: Path) -> None:
        """Keep a file's line as the shore of a place; raises InputError when it holds none."""
        data = read_bytes(path, LARGEST_SHORE, "shore lines")
        line = ShoreLine(place=typed_name(place, "The place"), points=read_line(data, path.name))
        uid = next((r.uid for r in self._registers.of("shore line") if r.value.place == line.place), "")
        self._registers.keep("shore line", line, f"the shore at {place}", uid=uid)

    def look_at(self, track: Record) -> TrackRead | None:
        """A track as it is read, if it is; else it is asked for and told by :attr:`track_read`."""
        value = track.value
        found = self._reads.get(value.sha)
        if found is None and self._looking != value.sha:
            try:
                data = self.raw(value.sha)
            except KelvorError as error:
                self.failed.emit(str(error))
                return None
            self._looking = value.sha
            self._look.ask(track_job, [(data, value.name, self.columns())])
        return found

    def raw(self, sha: str) -> bytes:
        """A file as it came; raises InputError when it is not whole."""
        return self._blobs.get(sha) or self._bench.workshop.store.records.blob(sha)

    def _looked(self, found: list[Any]) -> None:
        sha, self._looking = self._looking, ""
        self._remember(sha, found[0])
        self.track_read.emit(sha)

    def _remember(self, sha: str, read: TrackRead) -> None:
        self._reads.pop(sha, None)
        self._reads[sha] = read
        while len(self._reads) > KEPT_READ:
            self._reads.pop(next(iter(self._reads)))

    # the watched folder

    def watch(self, folder: Path | None) -> None:
        """Begin a draft for every track that appears in a folder from now on; None stops."""
        self._folder.watch(folder)

    def _appeared(self, path: Path) -> None:
        name = fitted_name(path.name, FILE_NAME)
        if any(t.value.name == name for one in self.all() for t in one.tracks):
            return
        try:
            self.add_track(path)
        except InputError as error:
            self.failed.emit(str(error))


def today() -> date:
    """Of this place."""
    return datetime.now().astimezone().date()
