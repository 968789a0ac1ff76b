"""The session of one window: which board stands on the bench, and how it is changed.

It joins core and workshop; it knows no widget. Every change of a board goes
through :meth:`Session.preview` (a drag) or :meth:`Session.commit` (a step).
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.findings import Finding
from kelvor.core.base.limits import with_plain_texts
from kelvor.core.base.units import System
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.core.history.steps import Step, Steps
from kelvor.core.levers.locks import Change, LockedEdit, with_locks_held
from kelvor.core.rack.cards import drawn, packed_card
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import Coefficients
from kelvor.ui.background.timers import single_shot
from kelvor.ui.session.briefs import Briefs
from kelvor.ui.session.overlays import BoardOverlays
from kelvor.ui.session.session_file import SessionFile
from kelvor.ui.session.slow_results import SlowResults
from kelvor.ui.session.versions import Versions
from kelvor.ui.workshop.workshop import Workshop
from kelvor.workshop.opening import FileHeld
from kelvor.workshop.rows import now
from kelvor.workshop.store import Store
from kelvor.workshop.writes import AppendStep, LeaveAt

if TYPE_CHECKING:
    from kelvor.core.evaluation.subject import Subject
    from kelvor.ui.session.services import ChosenMadeBoard, OwnFigures, Rides

_Kind = TypeVar("_Kind")
FINISH_START_AFTER_MS = 1500
"""What the first picture does not need is counted after it, or this long after the board is there if nobody
paints it.
"""


class Session(QObject):
    """What one window works on."""

    live_changed = Signal()
    """The board or its live figures changed, also during a drag."""
    start_finished = Signal()
    """The first board has been seen, and all about it is known."""
    settled = Signal()
    """Float and verdicts are those of the board on the bench."""
    steps_changed = Signal()
    brief_changed = Signal()
    units_changed = Signal()
    board_opened = Signal()
    message = Signal(str, str)
    """A message: ("note" or "problem", words). Empty words take the last one away."""
    about_to_leave = Signal()
    """The board or step on the bench is about to give way: what is half typed about it is taken now."""

    def __init__(self, store: Store, safety: Path | None = None) -> None:
        """`safety` is the folder in which a safety copy of each workshop is kept, if any."""
        super().__init__()
        self.system = System.METRIC
        self.board_id = 0
        self.current = 0
        self.steps: Steps = {}
        self.brief = Brief()
        self.board: Board
        self.live: Live
        self.started = False
        """Whether the first picture is behind us; till then only what it needs is counted."""
        self.boards: dict[int, Board] = {}
        """Boards of steps that were read or made."""
        self.previewing = False
        """Whether what is shown is not committed yet, as during a drag."""
        self._paid: tuple[Change, ...] = ()
        self._services: dict[object, Any] = {}
        self.rides: Rides
        self.ours: OwnFigures
        self.made: ChosenMadeBoard
        """Set by who puts a session together, see `ui/window/assembly`."""
        self.file: SessionFile = SessionFile(self, store, safety)
        self.workshop: Workshop = self.file.workshop
        self.workshop.message.connect(self.message)
        self.workshop.figures_changed.connect(self._take_table)
        self.workshop.records_changed.connect(self._look_at_mill)
        self.workshop.lists_changed.connect(self.steps_changed)
        self.workshop.records_changed.connect(self.steps_changed)
        self.versions: Versions = Versions(self)
        self.briefs: Briefs = Briefs(self)
        self.overlays: BoardOverlays = BoardOverlays(self)
        self.results: SlowResults = SlowResults(self)
        self._start_timer = single_shot(self, FINISH_START_AFTER_MS, self.finish_start)

    def finish_start(self) -> None:
        """The first picture is there: count what it did not need."""
        if not self.started:
            self._start_timer.stop()
            self.started = True
            self.workshop.read_records()
            self.overlays.load(self.overlays.step)
            self.results.settle_now()
            self.start_finished.emit()

    def service(self, kind: Callable[[Session], _Kind]) -> _Kind:
        """What lives beside the session, by its class: made when it is first asked for."""
        if kind not in self._services:
            self._services[kind] = kind(self)
        found: _Kind = self._services[kind]
        return found

    @property
    def table(self) -> MaterialTable:
        """The workshop's materials, rates and mill."""
        return self.workshop.table

    @property
    def coefficients(self) -> Coefficients:
        """The workshop's coefficients."""
        return self.workshop.tables.coefficients

    # which board

    def drawn(self, board: Board, brief: Brief) -> Live:
        """The live figures of a board under a brief; raises InputError when it cannot be drawn."""
        live = evaluate_live(board, brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
        return live

    def put_on_bench(self, board_id: int, steps: Steps, current: int, live: Live, pinned: int | None) -> None:
        """Show a board, at a step, compared with another; what was on the bench gives way."""
        self.about_to_leave.emit()
        self.previewing = False
        self.board_id, self.steps, self.current, self.brief = board_id, steps, current, live.brief
        self.boards = {current: live.board}
        self.rides.forget()
        self._take(live.board, live)
        self.overlays.beside = []
        self.overlays.load(pinned)
        if self.started:
            self.results.settle_now()
        else:
            self.results.forget()
            self._start_timer.start()
        self.board_opened.emit()
        self.steps_changed.emit()
        self.brief_changed.emit()
        self.live_changed.emit()

    def board_at(self, step_id: int) -> Board:
        """The board as it was at a step of the board on the bench; raises InputError when it cannot be read."""
        if step_id not in self.boards:
            self.boards[step_id] = self.workshop.store.board(step_id)
        return self.boards[step_id]

    def rest(self) -> None:
        """The window goes: nothing is looked after any more."""
        self.file.rest()
        self.rides.forget()

    # changing the board

    def preview(self, board: Board, *, held: bool = False) -> bool:
        """Show a board that is not committed yet, with locks held; False keeps the last good one and says why."""
        kept = LockedEdit(board, ()) if held else self._hold(board)
        if kept is None or (live := self._counted(kept.board, self.brief)) is None:
            return False
        if self.previewing or live.board != self.live.board:
            self.message.emit("note", "")
        self.previewing, self._paid = True, kept.paid
        self.live = live
        self.results.follow()
        self.live_changed.emit()
        return True

    def drop_preview(self) -> None:
        """Back to the committed board."""
        if self.previewing:
            self.previewing = False
            if (live := self._counted(self.board, self.brief)) is not None:
                self._take(self.board, live)
                self.live_changed.emit()
                self.results.follow()

    def commit(
        self, board: Board, changes: tuple[Change, ...], *, title: str = "", gesture: str = "", held: bool = False
    ) -> bool:
        """Make a board the next step, at once on the disk. Locks are held and what pays for them is told."""
        if board == self.board:
            self.drop_preview()
            return False
        board = with_plain_texts(board)
        if not held:
            kept = self._hold(board)
            if kept is None:
                self.drop_preview()
                return False
            board, changes = kept.board, (*changes, *kept.paid)
        if not self.preview(board, held=True):
            self.drop_preview()
            return False
        self.previewing = False
        number = max((step.number for step in self.steps.values()), default=0) + 1
        step = Step(
            id=self.workshop.new_id(),
            parent=self.current,
            number=number,
            changes=changes,
            title=title,
            made_at=now(),
            gesture=gesture,
            volume=self.live.geometry.solid.volume,
        )
        before = self.current
        write = AppendStep.of(step, self.board_id, board, packed_card(drawn(self.live)))
        self.about_to_leave.emit()
        self.board, self.current = board, step.id
        self.steps[step.id], self.boards[step.id] = step, board
        self.workshop.saving.put(write)
        words, walk = title or (changes[0].label if changes else "a step"), self.versions.walk
        self.workshop.did(words, lambda: walk(before), lambda: walk(step.id), gesture)
        self.steps_changed.emit()
        return True

    def commit_preview(self, changes: tuple[Change, ...], gesture: str = "") -> bool:
        """Commit what is being previewed, with what locks made pay for it."""
        return self.commit(self.live.board, (*changes, *self._paid), gesture=gesture, held=True)

    # how it is built

    def build_with(self, construction: Construction, words: str, gesture: str = "") -> bool:
        """Build the board another way: one step."""
        try:
            board = with_construction(self.board, self.live.geometry.shape, construction, self.table)
        except InputError as error:
            self.message.emit("problem", str(error))
            return False
        return self.commit(board, (), title=words, gesture=gesture, held=True)

    def _look_at_mill(self) -> None:
        if self.board_id and self.live.mass.mill != self.table.mill:
            self._take_table()

    def _take_table(self) -> None:
        if (live := self._counted(self.board, self.brief)) is not None:
            self._take(self.board, live)
            self.overlays.load(self.overlays.step)
            self.live_changed.emit()
            self.results.settle_now()

    # undo

    def undo(self) -> None:
        """Take back what was done last, whatever it was; before this window's time, one gesture of the board's
        steps.
        """
        self.about_to_leave.emit()  # what is half typed was done last
        words = self.workshop.gestures.undo()
        if words:
            self.message.emit("note", f"Taken back: {words}.")
        else:
            self.versions.take_back()

    def redo(self) -> None:
        """Do again what was taken back last; else one gesture on, along the newest branch."""
        words = self.workshop.gestures.redo()
        if words:
            self.message.emit("note", f"Done again: {words}.")
        else:
            self.versions.do_again()

    # steps

    def stand_on(self, step_id: int) -> bool:
        """Put the board as it was at a step on the bench; False, and why, where it cannot be shown."""
        step_id = self.workshop.saving.ids(step_id)
        if step_id not in self.steps:
            return False
        try:
            board = self.board_at(step_id)
        except FileHeld:
            raise
        except InputError as error:
            self.message.emit("problem", str(error))
            return False
        if (live := self._counted(board, self.brief)) is None:
            return False
        self.about_to_leave.emit()
        self.previewing = False
        self.current = step_id
        self._take(board, live)
        self.message.emit("note", "")
        self.workshop.saving.put(LeaveAt(self.board_id, step_id))
        self.steps_changed.emit()
        self.live_changed.emit()
        self.results.follow()
        return True

    def step(self) -> Step:
        """The current step."""
        return self.steps[self.current]

    # brief and units

    def show_brief(self, brief: Brief) -> bool:
        """Let figures follow a brief; False, and why, where no figures follow it."""
        if (live := self._counted(self.live.board, brief)) is None:
            return False
        self.rides.brief_changes(self.brief, brief)
        self.brief = brief
        self.live = live
        self.overlays.load(self.overlays.step)
        self.brief_changed.emit()
        self.live_changed.emit()
        self.results.follow()
        return True

    def set_system(self, system: System) -> None:
        """Show another unit system; no value changes."""
        self.system = system
        self.units_changed.emit()

    def subject(self, live: Live | None = None) -> Subject:
        """A board, the one on the bench unless another is named, with brief and tables: all that long work needs."""
        from kelvor.core.evaluation.subject import Subject

        return Subject((live or self.live).board, self.brief, self.table, self.coefficients)

    def _counted(self, board: Board, brief: Brief) -> Live | None:
        """The live figures of a board under a brief; none, and why, where it cannot be drawn."""
        live = evaluate_live(board, brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            self.message.emit("problem", finding_words(live[0]))
            return None
        return live

    def _hold(self, board: Board) -> LockedEdit | None:
        """A changed board with its locks held; none, and why, where they cannot be."""
        try:
            return with_locks_held(self.board, board)
        except RefusedEdit as error:
            self.message.emit("problem", str(error))
            return None

    def _take(self, board: Board, live: Live) -> None:
        self.board, self.live = board, live


def finding_words(finding: Finding) -> str:
    """A finding as one or two sentences."""
    return f"{finding.text}. {finding.advice}".rstrip(". ") + "."
