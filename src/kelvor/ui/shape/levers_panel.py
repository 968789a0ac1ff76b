"""The levers of the board: what each reads, what it does here, and pulling it by typing or by steps."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QLabel, QVBoxLayout

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.units import parse
from kelvor.core.levers.catalogue import pull_lever
from kelvor.core.levers.lever import Lever, chosen_place
from kelvor.ui.controls.panel import heading
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.shape.bench.picture import BenchPicture
from kelvor.ui.shown.lever_effects import Does
from kelvor.ui.shown.shown import Row
from kelvor.ui.shown.wording import escaped
from kelvor.ui.theme.style import font

_LOCK_LEVERS = {"volume": "volume", "width": "width", "length_times_width": ""}


class LeversPanel(QFrame):
    """The list of levers, those at the bench's station among them, and what the chosen one does."""

    schedule_chosen = Signal(str)
    """The chosen lever is the size of this schedule."""

    def __init__(self, session: Session, bench: BenchPicture) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.session = session
        self._bench = bench
        self._levers: dict[str, Lever] = {}
        self._nudges = 0
        self._last_nudge: tuple[str, int] | None = None
        self.list = RowsView("Levers", editable=True)
        self.list.chosen.connect(self._chosen)
        self.list.typed.connect(self._typed)
        self.list.nudged.connect(self._nudged)
        self.explains = QLabel()
        self.explains.setWordWrap(True)
        self.explains.setObjectName("quiet")
        self.explains.setFont(font(12))
        self.explains.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.explains.setContentsMargins(12, 4, 10, 8)
        self.explains.setMinimumHeight(118)
        self.setFixedWidth(276)
        column = QVBoxLayout(self)
        column.setContentsMargins(1, 8, 1, 1)
        column.setSpacing(2)
        title = heading("Levers")
        title.setContentsMargins(12, 0, 0, 2)
        column.addWidget(title)
        column.addWidget(self.list, 1)
        column.addWidget(self.explains)

    def refresh(self) -> None:
        """Show the levers, those of the cursor's station among them."""
        session = self.session
        if not session.started:
            return
        from kelvor.ui.shown.panels import lever_rows

        locked = frozenset(_LOCK_LEVERS[name] for name in session.live.board.locks.measures if _LOCK_LEVERS.get(name))
        does = self._does()
        rows, self._levers = lever_rows(session.live, session.system, locked, self._bench.station, does)
        self.list.set_rows(rows)
        self.list.set_renewing(False)
        lever = self._levers.get(self.list.key())
        self._explain(lever, does)

    def _does(self) -> Does:
        phases = tuple(result.phase for result in self.session.results.evaluation.phases)
        return Does(phases, self.session.results.figures(), self.session.service(RideRequests).effects)

    def _explain(self, lever: Lever | None, does: Does) -> None:
        """What the chosen lever does, by the schools and as computed here."""
        if lever is None:
            self.explains.setText("")
            return
        words = does.words(lever, self.session.system)
        if not words and self.session.service(RideRequests).counting_levers():
            words = "Counting what it does here."
        computed = f" <b>Here</b> {escaped(words)}" if words else ""
        self.explains.setText(f"<b>{lever.label}.</b> {lever.explains}{computed}")

    def row(self, key: str) -> Row | None:
        """A lever's row, for tests and help."""
        return next((row for row in self.list.rows() if row.key == key), None)

    def group(self) -> str:
        """The group of the chosen lever."""
        lever = self._levers.get(self.list.key())
        return lever.group if lever is not None else ""

    def count(self) -> None:
        """Ask what the levers do to the ride; those of a station are left out, since they follow the cursor."""
        self.session.service(RideRequests).ask_levers([key for key in self._levers if not key.startswith("at.")])

    def choose_of(self, name: str) -> None:
        """Choose the first lever of a layer, which shows its schedule."""
        self.refresh()
        keys = [key for key in self._levers if key.startswith((f"layer.{name}.", f"deck.{name}."))]
        if keys:
            self.list.choose(next((key for key in keys if self._levers[key].schedule), keys[0]))

    def _chosen(self, key: str) -> None:
        lever = self._levers.get(key)
        self._explain(lever, self._does())
        if lever is not None and lever.schedule:
            self.schedule_chosen.emit(lever.schedule)

    def pull(self, key: str, words: str) -> bool:
        """Set a lever from typed words; False keeps what was typed to be mended."""
        lever = self._levers.get(key)
        if lever is None:
            return True
        try:
            typed = _apex(words) if key == "rails.apex" else words
            value = chosen_place(lever, words) if lever.choices else parse(typed, lever.quantity, self.session.system)
            result = pull_lever(self.session.board, lever, value)
        except (InputError, RefusedEdit) as error:
            self.session.message.emit("problem", str(error))
            return False
        done = self.session.commit(result.board, result.changes, held=True)
        if done and not self.session.workshop.saving.waiting:
            self.session.message.emit("note", "")
        return done or result.board == self.session.board

    def _typed(self, key: str, words: str) -> None:
        self.list.accept_typed(self.pull(key, words))

    def _nudged(self, key: str, factor: float) -> None:
        lever = self._levers[key]
        board = self.session.board
        try:
            result = pull_lever(board, lever, lever.read(board) + factor * lever.step)
        except RefusedEdit as error:
            self.session.message.emit("problem", str(error))
            return
        if self._last_nudge != (key, self.session.current):
            self._nudges += 1
        if self.session.commit(result.board, result.changes, gesture=f"lever-{self._nudges}-{key}", held=True):
            self._last_nudge = (key, self.session.current)


def _apex(words: str) -> str:
    """A split such as 60/40, read as its share below."""
    above, slash, below = words.partition("/")
    return f"{below.strip()}%" if slash and above.strip().isdigit() and below.strip().isdigit() else words
