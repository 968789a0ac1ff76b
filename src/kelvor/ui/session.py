"""The session of one window: which board stands on the bench, and how it is changed.

It joins core and workshop; it knows no widget. Every change of a board goes
through :meth:`Session.preview` (a drag) or :meth:`Session.commit` (a step).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients
from kelvor.core.disciplines import AT_REST
from kelvor.core.errors import InputError, KelvorError, RefusedEdit
from kelvor.core.figures import Figures, by_key
from kelvor.core.findings import Finding
from kelvor.core.history.merging import merged
from kelvor.core.history.steps import Step, Steps
from kelvor.core.live import Live, evaluate_live
from kelvor.core.mass.stages import WeighIn
from kelvor.core.materials.layup import with_construction
from kelvor.core.materials.table import MaterialTable
from kelvor.core.rack.cards import drawn, packed_card
from kelvor.core.record import HandedOut
from kelvor.core.seek.holding import Change, hold
from kelvor.core.shape.board import Board
from kelvor.core.shape.construction import Construction
from kelvor.core.stamp import Stamp, code_of
from kelvor.core.units import System
from kelvor.ui.bench.shown import Shown
from kelvor.ui.briefs import Briefs
from kelvor.ui.copying import Copied, Held
from kelvor.ui.riding import Riding
from kelvor.ui.versions import Versions
from kelvor.ui.workshop import Workshop, opened
from kelvor.workshop.opening import GLANCE, FileHeld
from kelvor.workshop.rows import Damaged
from kelvor.workshop.store import Store
from kelvor.workshop.writes import (
    AddBoard,
    AppendStep,
    Ids,
    KeepMaterial,
    KeepRecord,
    LeaveAt,
    Pin,
    SetBrief,
    Write,
)

if TYPE_CHECKING:
    from kelvor.core.evaluation import Evaluation
    from kelvor.core.floating.stage import PostureFloat
    from kelvor.core.ride.stage import Ride
    from kelvor.core.subject import Subject

SETTLE_AFTER_MS = 70
"""Float and verdicts follow when the hand rests this long."""
STANDS_AFTER_MS = 1500
"""What the first picture does not need is counted after it, or this long after the board is there if nobody
paints it.
"""
LOOK_EVERY_MS = 2000
"""What another window wrote shows after this long at most."""


class Session(QObject):
    """What one window works on."""

    live_changed = Signal()
    """The board or its live figures changed, also during a drag."""
    stood = Signal()
    """The first board has been seen, and all about it is known."""
    settled = Signal()
    """Float and verdicts are those of the board on the bench."""
    steps_changed = Signal()
    brief_changed = Signal()
    units_changed = Signal()
    board_opened = Signal()
    said = Signal(str, str)
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
        self.pinned_step: int | None = None
        self.brief = Brief()
        self.board: Board
        self.live: Live
        self._evaluation: Evaluation | None = None
        self.standing = False
        """Whether the first picture is behind us; till then only what it needs is counted."""
        self.pinned_live: Live | None = None
        self.beside: list[Shown] = []
        """Boards shown behind the one on the bench, besides the reference."""
        self.pinned_figures: Figures = {}
        self._renamed = False
        self._boards: dict[int, Board] = {}
        self.previewing = False
        """Whether what is shown is not committed yet, as during a drag."""
        self._paid: tuple[Change, ...] = ()
        self.workshop: Workshop = Workshop(store, self._saved, safety)
        self.workshop.said.connect(self.said)
        self.workshop.figures_changed.connect(self._take_table)
        self.workshop.lists_changed.connect(self.steps_changed)
        self.workshop.records_changed.connect(self.steps_changed)
        self.workshop.waiting_changed.connect(self._waiting_changes)
        self.workshop.copying.ended.connect(self._copied)
        self.versions: Versions = Versions(self)
        self.briefs: Briefs = Briefs(self)
        self._looking = QTimer(self)
        self._looking.setInterval(LOOK_EVERY_MS)
        self._looking.timeout.connect(self.look_elsewhere)
        self._timer = self._single_shot(SETTLE_AFTER_MS, self.settle_now)
        self._pinned_timer = self._single_shot(0, self._settle_pinned)
        self._stands_timer = self._single_shot(STANDS_AFTER_MS, self.stand)
        self.riding: Riding = Riding(self)

    def _single_shot(self, interval: int, call: Callable[[], None]) -> QTimer:
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(interval)
        timer.timeout.connect(call)
        return timer

    @property
    def evaluation(self) -> Evaluation:
        """What is known of the board as it last settled."""
        if self._evaluation is None:
            from kelvor.core.evaluation import settle

            self._evaluation = settle(self.live)
        return self._evaluation

    def stand(self) -> None:
        """The first picture is there: count what it did not need."""
        if not self.standing:
            self._stands_timer.stop()
            self.standing = True
            self.workshop.read_records()
            self._load_pinned(self.pinned_step)
            self.settle_now()
            self.stood.emit()

    @property
    def table(self) -> MaterialTable:
        """The workshop's materials."""
        return self.workshop.tables.materials

    @property
    def coefficients(self) -> Coefficients:
        """The workshop's coefficients."""
        return self.workshop.tables.coefficients

    # which board

    def open_board(self, board_id: int) -> None:
        """Put a board on the bench at the step where it was left.

        Raises
        ------
        InputError
            When its board cannot be drawn or read, or while something of the open one waits for the disk.
        """
        self.workshop.all_saved(self.board.name if self.board_id else "")
        before = self.board_id
        self._read_board(board_id, self.workshop.store.left_at(board_id))
        if before and before != self.board_id:
            self.workshop.did(
                f"“{self.board.name}” opened", lambda: self._open_again(before), lambda: self._open_again(board_id)
            )

    def _open_again(self, board_id: int) -> None:
        self.workshop.all_saved(self.board.name if self.board_id else "")
        real = self.workshop.saving.ids(board_id)
        self._read_board(real, self.workshop.store.left_at(real))

    def _read_board(self, board_id: int, current: int) -> None:
        store = self.workshop.store
        steps, board, brief = store.steps(board_id), store.board(current), store.brief(board_id)
        weighed, pinned, seen = store.weighings(board_id), store.pinned(board_id), store.changed_elsewhere()
        live = self._drawn(board, brief)
        self.workshop.tables.weighed = weighed
        self.workshop.read(seen)
        self._put_on_bench(board_id, steps, current, live, pinned)

    def add_board(self, board: Board, brief: Brief, title: str, parent_step: int | None = None) -> None:
        """Add a board to the workshop and open it; raises like :meth:`open_board`."""
        self.workshop.all_saved(self.board.name if self.board_id else "")
        live = self._drawn(board, brief)
        volume, before = live.geometry.solid.volume, self.board_id
        board_id, step = (
            self.workshop.new_id(),
            Step(id=self.workshop.new_id(), parent=None, number=1, title=title, made_at=_now(), volume=volume),
        )
        self.workshop.tables.weighed = ()
        self._put_on_bench(board_id, {step.id: step}, step.id, live, step.id)
        self.workshop.saving.put(
            AddBoard(board_id, step.id, board, brief, title, volume, parent_step, packed_card(drawn(live)))
        )
        if before:
            self.workshop.did(
                f"“{board.name}” added", lambda: self._open_again(before), lambda: self._open_again(board_id)
            )

    def _drawn(self, board: Board, brief: Brief) -> Live:
        live = evaluate_live(board, brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
        return live

    def _put_on_bench(self, board_id: int, steps: Steps, current: int, live: Live, pinned: int | None) -> None:
        self.about_to_leave.emit()
        self.previewing = False
        self.board_id, self.steps, self.current, self.brief = board_id, steps, current, live.brief
        self._boards = {current: live.board}
        self.riding.forget()
        self._take(live.board, live)
        self.beside = []
        self._load_pinned(pinned)
        if self.standing:
            self.settle_now()
        else:
            self._evaluation = None
            self._stands_timer.start()
        self.board_opened.emit()
        self.steps_changed.emit()
        self.brief_changed.emit()
        self.live_changed.emit()

    def board_at(self, step_id: int) -> Board:
        """The board as it was at a step of the board on the bench; raises InputError when it cannot be read."""
        if step_id not in self._boards:
            self._boards[step_id] = self.workshop.store.board(step_id)
        return self._boards[step_id]

    def add_first_board(self) -> None:
        """The board an empty workshop begins with."""
        from kelvor.core.starting.families import first_board

        self.add_board(first_board("First board", "wing foil", 1.45, 0.50, 0.09), Brief(), "Began as a fair foil board")

    def begin(self) -> None:
        """Put the board that was last worked on on the bench, or a first one into an empty workshop; raises
        InputError.
        """
        last = self.workshop.store.last_board()
        if last is None:
            self.add_first_board()
        else:
            self.open_board(last)
        self._looking.start()

    def open_workshop(self, path: Path) -> None:
        """Open another workshop file in this window; the old one stays open if that fails."""
        store = opened(path, GLANCE)
        try:
            self._change_store(store)
        except Damaged:
            self._change_store(Store.open_sound(path, GLANCE))

    def create_workshop(self, path: Path) -> None:
        """A new workshop with a first board, in this window; the old one stays open if that fails."""
        self.workshop.all_saved(self.board.name)
        store = Store.create(path, GLANCE)
        try:
            self._change_store(store)
        except KelvorError:
            path.unlink(missing_ok=True)  # made a moment ago, by us, and empty
            raise

    def _change_store(self, store: Store) -> None:
        """Go on with another file; raises what its first board raises, and stays with the old one then."""
        try:
            self.about_to_leave.emit()  # what is half typed belongs to the workshop that is left
            self.workshop.all_saved(self.board.name)
        except KelvorError:
            store.close()
            raise
        self.workshop.go_on_with(store, self.begin)
        self.workshop.read_records()

    def look_elsewhere(self) -> None:
        """Take in what another window wrote; this window stays where it is. A file that is gone is told at once."""
        try:
            seen = self.workshop.news()
            if seen is not None:
                self._take_in()
                self.workshop.read(seen)
        except FileHeld:
            return  # soon again
        except InputError as error:
            self.workshop.missed(error)

    def _take_in(self) -> None:
        board_id = self.board_id
        self.workshop.tables.look_again(self.workshop.store, board_id)
        self.workshop.registers.look_again(self.workshop.store)
        if board_id < 0:
            return
        steps = self.workshop.store.steps(board_id)
        if self.current > 0 and self.current not in steps:
            return
        self.steps = {**steps, **{key: step for key, step in self.steps.items() if key < 0}}
        brief = self.workshop.store.brief(board_id)
        if brief != self.brief and not self.workshop.saving.waits(SetBrief):
            self.show_brief(brief)
        pinned = self.workshop.store.pinned(board_id)
        if pinned != self.pinned_step and not self.workshop.saving.waits(Pin):
            self._load_pinned(pinned)
            self.live_changed.emit()
        self.steps_changed.emit()

    def rest(self) -> None:
        """The window goes: nothing is looked after any more."""
        self._looking.stop()
        self.workshop.rest()
        self.riding.forget()

    # a copy of everything

    def save_copy(self, path: Path) -> None:
        """Write all that can be read, and all that waits, to a new file, and go on with that; raises like
        :meth:`Workshop.copy_to`.
        """
        self.about_to_leave.emit()
        self.workshop.copy_to(path, self._held)

    def _held(self, safe: Path | None) -> Held:
        known = [
            (step, self._boards.get(step.id)) for _, step in sorted(self.steps.items(), key=lambda item: item[1].number)
        ]
        saving, tables = self.workshop.saving, self.workshop.tables
        return Held(self.board_id, self.brief, self.current, known, tables.materials, tables.coefficients, tables.kept,
                    list(saving.done), saving.everything(), Ids(saving.ids), safe)  # fmt: skip

    def _copied(self, result: Copied | KelvorError) -> None:
        if isinstance(result, KelvorError):
            self.workshop.saving.hold_back(False)
            self.said.emit("problem", f"No copy was written. {result}")
        else:
            self._go_on_in(result)
        self.workshop.copied.emit(result)

    def _go_on_in(self, copy: Copied) -> None:
        self.board_id = copy.board_id
        self._rename({key: copy.ids(key) for key in self.steps})
        self.workshop.go_on_in(copy)
        self._read_board(
            self.board_id, self.current if self.current in copy.store.steps(self.board_id) else copy.current
        )
        self.said.emit("problem" if copy.left_out else "note", copy.words())

    # what is on the disk

    def _saved(self, write: Write, result: Any) -> None:
        """A write is on the disk: what had a provisional id has its real one, and another window's changes come in."""
        match write:
            case AddBoard():
                if self.board_id == write.id:
                    self.board_id = self.workshop.saving.ids(write.id)
                    self._rename({write.step: result.id})
                    self.steps[result.id] = replace(self.steps[result.id], made_at=result.made_at)
            case AppendStep():
                if write.id in self.steps:
                    self._rename({write.id: result.id})
                    kept = self.steps[result.id]
                    self.steps[result.id] = replace(kept, number=result.number, made_at=result.made_at)
            case SetBrief():
                if result not in (write.brief, self.brief) and write.board_id in (
                    self.board_id,
                    self.workshop.saving.ids(self.board_id),
                ):
                    self.show_brief(merged(write.brief, self.brief, result))
            case KeepMaterial():
                if result != write.entry:
                    self.workshop.tables.show_material(result)
            case KeepRecord():
                self.workshop.registers.saved(write.uid, write.value, result)
            case _:
                pass

    def _waiting_changes(self) -> None:
        if self._renamed:  # what waited has its real ids now
            self._renamed = False
            self.steps_changed.emit()

    def _rename(self, real: dict[int, int]) -> None:
        """Steps under other ids, wherever they are named."""
        self._renamed = True
        self.steps = {
            real.get(key, key): replace(
                step, id=real.get(key, key), parent=None if step.parent is None else real.get(step.parent, step.parent)
            )
            for key, step in self.steps.items()
        }
        self._boards = {real.get(key, key): board for key, board in self._boards.items()}
        self.current = real.get(self.current, self.current)
        self.pinned_step = None if self.pinned_step is None else real.get(self.pinned_step, self.pinned_step)

    # changing the board

    def preview(self, board: Board, *, held: bool = False) -> bool:
        """Show a board that is not committed yet, with locks held; False keeps the last good one and says why."""
        paid: tuple[Change, ...] = ()
        try:
            if not held:
                result = hold(self.board, board)
                board, paid = result.board, result.paid
        except RefusedEdit as error:
            self.said.emit("problem", str(error))
            return False
        live = evaluate_live(board, self.brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            self.said.emit("problem", finding_words(live[0]))
            return False
        if self.previewing or live.board != self.live.board:
            self.said.emit("note", "")
        self.previewing, self._paid = True, paid
        self.live = live
        self._timer.start()
        self.live_changed.emit()
        return True

    def drop_preview(self) -> None:
        """Back to the committed board."""
        if self.previewing:
            self.previewing = False
            live = evaluate_live(self.board, self.brief, table=self.table, coefficients=self.coefficients)
            if not isinstance(live, tuple):
                self._take(self.board, live)
                self.live_changed.emit()
                self._timer.start()

    def commit(
        self, board: Board, changes: tuple[Change, ...], *, title: str = "", gesture: str = "", held: bool = False
    ) -> bool:
        """Make a board the next step, at once on the disk. Locks are held and what pays for them is told."""
        if board == self.board:
            self.drop_preview()
            return False
        if not held:
            try:
                result = hold(self.board, board)
            except RefusedEdit as error:
                self.said.emit("problem", str(error))
                self.drop_preview()
                return False
            board, changes = result.board, (*changes, *result.paid)
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
            made_at=_now(),
            gesture=gesture,
            volume=self.live.geometry.solid.volume,
        )
        before = self.current
        write = AppendStep(step.id, self.board_id, before, number, board, changes, title, gesture, step.volume,
                           packed_card(drawn(self.live)))  # fmt: skip
        self.about_to_leave.emit()
        self.board, self.current = board, step.id
        self.steps[step.id], self._boards[step.id] = step, board
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
            self.said.emit("problem", str(error))
            return False
        return self.commit(board, (), title=words, gesture=gesture, held=True)

    def _take_table(self) -> None:
        live = evaluate_live(self.board, self.brief, table=self.table, coefficients=self.coefficients)
        if not isinstance(live, tuple):
            self._take(self.board, live)
            self._load_pinned(self.pinned_step)
            self.live_changed.emit()
            self.settle_now()

    def weigh(self, weighed: WeighIn) -> None:
        """Write a weigh-in of the board on the bench."""
        self.workshop.tables.weigh(self.board_id, self.current, weighed)

    def serial(self) -> str:
        """The serial the version on the bench was marked with, as it was marked last."""
        return next((serial for _, serial in reversed(self.step().frozen) if serial), "")

    def stamp(self) -> Stamp:
        """The stamp of the version on the bench, today."""
        day = datetime.now().astimezone().date().isoformat()
        number = self.step().number
        return Stamp(design=self.board.name, code=code_of(self.board), version=number, serial=self.serial(), day=day)

    def handed_out(self, name: str, stamp: Stamp, step: int) -> None:
        """Something of a version left the program: its code finds that version from now on."""
        value = HandedOut(name=name, code=stamp.code, serial=stamp.serial, day=stamp.day)
        step = self.workshop.saving.ids(step)
        self.workshop.registers.note("handed out", value, f"{name} handed out", board=self.board_id, step=step)

    # undo

    def undo(self) -> None:
        """Take back what was done last, whatever it was; before this window's time, one gesture of the board's
        steps.
        """
        words = self.workshop.gestures.undo()
        if words:
            self.said.emit("note", f"Taken back: {words}.")
        else:
            self.versions.take_back()

    def redo(self) -> None:
        """Do again what was taken back last; else one gesture on, along the newest branch."""
        words = self.workshop.gestures.redo()
        if words:
            self.said.emit("note", f"Done again: {words}.")
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
            self.said.emit("problem", str(error))
            return False
        live = evaluate_live(board, self.brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            self.said.emit("problem", finding_words(live[0]))
            return False
        self.about_to_leave.emit()
        self.previewing = False
        self.current = step_id
        self._take(board, live)
        self.said.emit("note", "")
        self.workshop.saving.put(LeaveAt(self.board_id, step_id))
        self.steps_changed.emit()
        self.live_changed.emit()
        self._timer.start()
        return True

    def show_reference(self, step_id: int | None) -> None:
        """Compare with a step; raises InputError when it cannot be read."""
        if step_id is not None:
            self.board_at(step_id)
        self._load_pinned(step_id)
        self.steps_changed.emit()
        self.live_changed.emit()
        self.settled.emit()
        self.riding.ask()

    def step(self) -> Step:
        """The current step."""
        return self.steps[self.current]

    # brief and units

    def show_brief(self, brief: Brief) -> bool:
        """Let figures follow a brief; False, and why, where no figures follow it."""
        live = evaluate_live(self.live.board, brief, table=self.table, coefficients=self.coefficients)
        if isinstance(live, tuple):
            self.said.emit("problem", finding_words(live[0]))
            return False
        self.riding.brief_changes(self.brief, brief)
        self.brief = brief
        self.live = live
        self._load_pinned(self.pinned_step)
        self.brief_changed.emit()
        self.live_changed.emit()
        self._timer.start()
        return True

    def set_system(self, system: System) -> None:
        """Show another unit system; no value changes."""
        self.system = system
        self.units_changed.emit()

    def reference_figures(self) -> Figures:
        """Figures of the reference, counted now where they are not yet."""
        if self._pinned_timer.isActive():
            self._pinned_timer.stop()
            self._settle_pinned()
        return self.pinned_figures

    def settle_now(self) -> None:
        """Bring float and verdicts up to the board on the bench."""
        self._timer.stop()
        from kelvor.core.evaluation import settle

        self._evaluation = settle(self.live)
        self.settled.emit()
        self.riding.ask()

    def figures(self) -> Figures:
        """All figures, the live ones newest; the ride's may be those of a moment ago, see :meth:`Riding.behind`."""
        return {**self.riding.figures(), **self.evaluation.figures, **by_key(self.live.figures)}

    def take_ride(self, ridden: Ride, live: Live) -> None:
        """A ride of `live` is known: its verdicts count it, where that is the board that settled last."""
        from kelvor.core.evaluation import with_ride

        if live is self.evaluation.live:
            self._evaluation = with_ride(self.evaluation, ridden)

    def subject(self, live: Live | None = None) -> Subject:
        """A board, the one on the bench unless another is named, with brief and tables: all that long work needs."""
        from kelvor.core.subject import Subject

        return Subject((live or self.live).board, self.brief, self.table, self.coefficients)

    def settling(self) -> bool:
        """Whether float, stiffness and verdicts are still those of the board before."""
        return self.evaluation.live is not self.live

    def renewing(self) -> frozenset[str]:
        """Figures that are still those of the board before."""
        from kelvor.core.book import RIDDEN

        settled = (
            frozenset(self.evaluation.figures) - {figure.key for figure in self.live.figures}
            if self.settling()
            else frozenset()
        )
        return settled | (frozenset(RIDDEN) if self.riding.behind() else frozenset())

    def afloat(self) -> PostureFloat | None:
        """The board at rest with its rider as the discipline waits; None where it carries nobody."""
        waiting = AT_REST[self.brief.discipline]
        return None if waiting is None or not self.standing else self.evaluation.floating.postures[waiting]

    def others(self) -> tuple[Shown, ...]:
        """What is shown behind the board on the bench: the reference, where it is another board, and those
        beside it.
        """
        pinned, step = self.pinned_live, self.pinned_step
        if pinned is None or step is None or pinned.board == self.live.board:
            return tuple(self.beside)
        number = self.steps[step].number if step in self.steps else 0
        shown = Shown(pinned, self.pinned_name(), "pinned", board=self.board_id, step=step, number=number)
        return (shown, *self.beside)

    def show_beside(self, boards: list[Shown]) -> None:
        """Show these boards behind the one on the bench, besides the reference."""
        self.beside = list(boards)
        self.live_changed.emit()
        self.riding.ask()

    def pinned_name(self) -> str:
        """The pinned step, such as “step 9”, or nothing."""
        return (
            f"version {self.steps[self.pinned_step].number}"
            if self.pinned_step in self.steps and self.pinned_step
            else ""
        )

    def _settle_pinned(self) -> None:
        """Float of the pinned step: after the first picture, not before it."""
        if self.pinned_live is not None:
            from kelvor.core.evaluation import settle

            self.pinned_figures = {**settle(self.pinned_live).figures, **self.riding.pinned_figures()}
            self.settled.emit()

    def _take(self, board: Board, live: Live) -> None:
        self.board, self.live = board, live

    def _load_pinned(self, step_id: int | None) -> None:
        self.pinned_step, self.pinned_live, self.pinned_figures = step_id, None, {}
        self.riding.forget_pinned()
        if step_id is None or not self.standing:  # it comes with the second picture
            return
        try:
            live = evaluate_live(self.board_at(step_id), self.brief, table=self.table, coefficients=self.coefficients)
        except InputError as error:
            self.said.emit("problem", f"The reference cannot be shown. {error}")
            return
        if not isinstance(live, tuple):
            self.pinned_live = live
            self.pinned_figures = by_key(live.figures)
            self._pinned_timer.start()


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def finding_words(finding: Finding) -> str:
    """A finding as one or two sentences."""
    return f"{finding.text}. {finding.advice}".rstrip(". ") + "."
