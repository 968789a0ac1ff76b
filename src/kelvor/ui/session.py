"""The session of one window: which board stands on the bench, and how it is changed.

It joins core and workshop; it knows no widget. Every change of a board goes
through :meth:`Session.preview` (a drag) or :meth:`Session.commit` (a step).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from kelvor.core.brief import Brief, KnownBoard
from kelvor.core.coefficients import ABOUT, Coefficients
from kelvor.core.disciplines import AT_REST
from kelvor.core.errors import InputError, KelvorError, RefusedEdit
from kelvor.core.evaluation import Evaluation, Live, evaluate_live, settle
from kelvor.core.figures import Figures, by_key
from kelvor.core.findings import Finding
from kelvor.core.floating.stage import PostureFloat
from kelvor.core.history.steps import FrozenAs, Step, Steps, ahead, lineage
from kelvor.core.mass.stages import WeighIn
from kelvor.core.materials.layup import with_construction
from kelvor.core.materials.recipes import recipes
from kelvor.core.materials.table import Cloth, Fibre, MaterialTable, Rates, Resin, Stock
from kelvor.core.seek.holding import Change, hold
from kelvor.core.shape.board import Board
from kelvor.core.shape.construction import Construction
from kelvor.core.units import System
from kelvor.ui.riding import Riding
from kelvor.workshop.store import Store

SETTLE_AFTER_MS = 70
"""Float and verdicts follow when the hand rests this long."""


@dataclass(frozen=True, slots=True)
class Unsaved:
    """A step the disk would not take; it waits in the window."""

    board: Board
    changes: tuple[Change, ...]
    title: str
    gesture: str
    volume: float


class Session(QObject):
    """What one window works on."""

    live_changed = Signal()
    """The board or its live figures changed, also during a drag."""
    settled = Signal()
    """Float and verdicts are those of the board on the bench."""
    steps_changed = Signal()
    brief_changed = Signal()
    units_changed = Signal()
    board_opened = Signal()
    said = Signal(str, str)
    """A message: ("note" or "problem", words). Empty words take the last one away."""

    def __init__(self, store: Store) -> None:
        super().__init__()
        self.store = store
        self.table: MaterialTable = store.materials()
        self.coefficients: Coefficients = store.coefficients()
        self.system = System.METRIC
        self.board_id = 0
        self.current = 0
        self.steps: Steps = {}
        self.pinned_step: int | None = None
        self.brief = Brief()
        self.board: Board
        self.live: Live
        self.evaluation: Evaluation
        self.pinned_live: Live | None = None
        self.pinned_figures: Figures = {}
        self.unsaved: list[Unsaved] = []
        self._briefs: list[Brief] = []
        self._undone_briefs: list[Brief] = []
        self._tables: list[tuple[str, Callable[[], None]]] = []
        self._previewing = False
        self._paid: tuple[Change, ...] = ()
        self._seen = 0
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(SETTLE_AFTER_MS)
        self._timer.timeout.connect(self.settle_now)
        self._pinned_timer = QTimer(self)
        self._pinned_timer.setSingleShot(True)
        self._pinned_timer.timeout.connect(self._settle_pinned)
        self.riding: Riding = Riding(self)

    # which board

    def open_board(self, board_id: int) -> None:
        """Put a board on the bench at the step where it was left.

        Raises
        ------
        InputError
            When its board cannot be drawn, or while steps of the open one wait for the disk.
        """
        self._all_saved()
        steps = self.store.steps(board_id)
        current = self.store.left_at(board_id)
        board, brief = self.store.board(current), self.store.brief(board_id)
        live = evaluate_live(board, brief, table=self.table)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name)
        self.board_id, self.steps, self.current, self.brief = board_id, steps, current, brief
        self.riding.forget()
        self._briefs, self._undone_briefs = [], []
        self._take(board, live)
        self._load_pinned(self.store.pinned(board_id))
        self._seen = self.store.changed_elsewhere()
        self.settle_now()
        self.board_opened.emit()
        self.steps_changed.emit()
        self.brief_changed.emit()
        self.live_changed.emit()

    def add_board(self, board: Board, brief: Brief, title: str, parent_step: int | None = None) -> None:
        """Add a board to the workshop and open it; raises like :meth:`open_board`."""
        self._all_saved()
        live = evaluate_live(board, brief, table=self.table)
        if isinstance(live, tuple):
            raise InputError(live[0].text, where=board.name, accepts=live[0].advice.rstrip("."))
        board_id, step = self.store.add_board(board, brief, title, live.geometry.solid.volume, parent_step)
        self.store.pin(board_id, step.id)
        self.open_board(board_id)

    def _all_saved(self) -> None:
        """Waiting steps belong to the open board: they must not end up in another."""
        if self.unsaved:
            raise InputError(
                "some steps of this board are not saved yet", where=self.board.name, accepts="Save them first (Ctrl+S)"
            )

    def add_first_board(self) -> None:
        """The board an empty workshop begins with."""
        from kelvor.core.starting.families import first_board

        self.add_board(first_board("First board", "wing foil", 1.45, 0.50, 0.09), Brief(), "Began as a fair foil board")

    def open_workshop(self, path: Path) -> None:
        """Open another workshop file in this window; the old one stays open if that fails."""
        store = Store.open(path)
        last = store.last_board()
        if last is None:
            store.close()
            raise InputError("this workshop holds no board", where=str(path), accepts="Make a new one")
        self._change_store(store, lambda: self.open_board(last))

    def create_workshop(self, path: Path) -> None:
        """A new workshop with a first board, in this window; the old one stays open if that fails."""
        try:
            self._change_store(Store.create(path), self.add_first_board)
        except KelvorError:
            path.unlink(missing_ok=True)  # made a moment ago, and empty
            raise

    def _change_store(self, store: Store, begin: Callable[[], None]) -> None:
        old, table, tables, coefficients = self.store, self.table, self._tables, self.coefficients
        self.store, self.table, self._tables, self.coefficients = store, store.materials(), [], store.coefficients()
        try:
            begin()
        except KelvorError:
            self.store, self.table, self._tables, self.coefficients = old, table, tables, coefficients
            store.close()
            raise
        old.close()

    def look_elsewhere(self) -> None:
        """Take in steps that another window made; this window stays where it is."""
        seen = self.store.changed_elsewhere()
        if seen != self._seen:
            self._seen = seen
            self.steps = self.store.steps(self.board_id)
            self.steps_changed.emit()

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
        live = evaluate_live(board, self.brief, table=self.table)
        if isinstance(live, tuple):
            self.said.emit("problem", finding_words(live[0]))
            return False
        if self._previewing or live.board != self.live.board:
            self.said.emit("note", "")
        self._previewing, self._paid = True, paid
        self.live = live
        self._timer.start()
        self.live_changed.emit()
        return True

    def drop_preview(self) -> None:
        """Back to the committed board."""
        if self._previewing:
            self._previewing = False
            live = evaluate_live(self.board, self.brief, table=self.table)
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
        self._previewing = False
        self.board = board
        self.unsaved.append(Unsaved(board, changes, title, gesture, self.live.geometry.solid.volume))
        self.save()
        return True

    def commit_preview(self, changes: tuple[Change, ...], gesture: str = "") -> bool:
        """Commit what is being previewed, with what locks made pay for it."""
        return self.commit(self.live.board, (*changes, *self._paid), gesture=gesture, held=True)

    def save(self) -> None:
        """Write the steps that wait; says so when the disk refuses."""
        while self.unsaved:
            waiting = self.unsaved[0]
            try:
                step = self.store.append(self.board_id, self.current, waiting.board, waiting.changes, title=waiting.title,
                                         gesture=waiting.gesture, volume=waiting.volume)  # fmt: skip
            except InputError as error:
                self.said.emit("problem", f"Not saved. {error}")
                break
            self.unsaved.pop(0)
            self.steps[step.id] = step
            self.current = step.id
        self.steps_changed.emit()

    # how it is built

    def build_with(self, construction: Construction, words: str, gesture: str = "") -> bool:
        """Build the board another way: one step."""
        try:
            board = with_construction(self.board, self.live.geometry.shape, construction, self.table)
        except InputError as error:
            self.said.emit("problem", str(error))
            return False
        return self.commit(board, (), title=words, gesture=gesture, held=True)

    def constructions(self) -> tuple[Construction, ...]:
        """The workshop's own constructions, then the usual ones for the discipline that it has not changed."""
        own = self.store.constructions()
        names = {c.name for c in own}
        return (*own, *(c for c in recipes(self.brief.discipline) if c.name not in names))

    def keep_construction(self, construction: Construction) -> None:
        """Keep a construction in the workshop, for all boards."""
        name = construction.name
        before = next((c for c in self.store.constructions() if c.name == name), None)
        self.store.keep_construction(construction)
        back = partial(self.store.drop_construction, name) if before is None else partial(self.store.keep_construction, before)
        self._tables.append((f"{name}, kept for all boards", back))
        self.steps_changed.emit()

    def keep_material(self, entry: Fibre | Resin | Stock | Cloth | Rates) -> None:
        """Change the workshop's table of materials; every figure follows."""
        before = self.table.as_it_stands(entry)
        self.store.keep_material(entry)
        words = "rates of the workshop" if isinstance(entry, Rates) else entry.name
        self._tables.append((words, partial(self.store.keep_material, before)))
        self._take_table()

    def keep_coefficient(self, key: str, value: float) -> None:
        """Change the workshop's table of coefficients; the ride follows.

        Raises
        ------
        InputError
            When the value is outside what the coefficient can be.
        """
        about = ABOUT[key]
        if not about.low <= value <= about.high:
            raise InputError(
                f"{value:g} cannot be", where=f"{about.group}, {about.label}", accepts=f"Give {about.low:g} to {about.high:g}"
            )
        before = getattr(self.coefficients, key)
        self.store.keep_coefficient(key, value)
        self._tables.append(
            (f"{about.group.lower()}, {about.label.lower()}", partial(self.store.keep_coefficient, key, before))
        )
        self._take_table()

    def _take_table(self) -> None:
        self.table, self.coefficients = self.store.materials(), self.store.coefficients()
        live = evaluate_live(self.board, self.brief, table=self.table)
        if not isinstance(live, tuple):
            self._take(self.board, live)
            self._load_pinned(self.pinned_step)
            self.live_changed.emit()
            self.settle_now()

    def weigh(self, weighed: WeighIn, source: str) -> None:
        """Write a weigh-in of the board on the bench."""
        before = next((w for w in self.store.weighings(self.board_id) if w.stage == weighed.stage), WeighIn(weighed.stage, 0.0))
        self.store.weigh(self.board_id, self.current, weighed, source)
        back = partial(self.store.weigh, self.board_id, self.current, before, "taken back")
        self._tables.append((f"weigh-in, {weighed.stage}", back))
        self.steps_changed.emit()

    def undo_tables(self) -> None:
        """Take back the last change of what belongs to the workshop: materials, kept constructions, weigh-ins."""
        if not self._tables:
            self.said.emit("note", "Nothing in the workshop's tables was changed since it was opened.")
            return
        words, back = self._tables.pop()
        back()
        self._take_table()
        self.steps_changed.emit()
        self.said.emit("note", f"Taken back: {words}.")

    # walking the steps

    def go_to(self, step_id: int) -> None:
        """Stand on a step."""
        if self.unsaved:
            self.said.emit("problem", "Some steps are not saved yet. Save them before you walk on.")
            return
        board = self.store.board(step_id)
        live = evaluate_live(board, self.brief, table=self.table)
        if isinstance(live, tuple):
            self.said.emit("problem", finding_words(live[0]))
            return
        self._previewing = False
        self.current = step_id
        self._take(board, live)
        try:
            self.store.leave_at(self.board_id, step_id)
        except InputError as error:
            self.said.emit("problem", str(error))
        self.said.emit("note", "")
        self.steps_changed.emit()
        self.live_changed.emit()
        self._timer.start()

    def undo(self) -> None:
        """One gesture back."""
        line = lineage(self.steps, self.current)
        step = line[-1]
        index = len(line) - 1
        while index > 0 and step.gesture and line[index - 1].gesture == step.gesture:
            index -= 1
        if index > 0:
            self.go_to(line[index - 1].id)

    def redo(self) -> None:
        """One gesture on, along the newest branch."""
        line = ahead(self.steps, self.current)
        if not line:
            return
        index = 0
        while index + 1 < len(line) and line[0].gesture and line[index + 1].gesture == line[0].gesture:
            index += 1
        self.go_to(line[index].id)

    def pin(self, step_id: int | None) -> None:
        """Pin a step to compare with."""
        self.store.pin(self.board_id, step_id)
        self._load_pinned(step_id)
        self.steps_changed.emit()
        self.live_changed.emit()
        self.settled.emit()
        self.riding.ask()

    def set_reason(self, step_id: int, words: str) -> None:
        """Write why a step was made."""
        if words != self.steps[step_id].reason:
            self.store.set_reason(step_id, words)
            self.steps = self.store.steps(self.board_id)
            self.steps_changed.emit()

    def freeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Mark a step as drawn, cut, laminated or ridden."""
        self.store.freeze(step_id, kind, serial)
        self.steps = self.store.steps(self.board_id)
        self.steps_changed.emit()

    def step(self) -> Step:
        """The current step."""
        return self.steps[self.current]

    # brief and units

    def set_brief(self, brief: Brief) -> None:
        """Write a brief; figures follow."""
        if brief == self.brief:
            return
        self._briefs.append(self.brief)
        self._undone_briefs.clear()
        self._use_brief(brief)

    def undo_brief(self) -> None:
        """The brief as it was before the last change."""
        if self._briefs:
            self._undone_briefs.append(self.brief)
            self._use_brief(self._briefs.pop())

    def redo_brief(self) -> None:
        """The brief as it was before the last undo."""
        if self._undone_briefs:
            self._briefs.append(self.brief)
            self._use_brief(self._undone_briefs.pop())

    def _use_brief(self, brief: Brief) -> None:
        live = evaluate_live(self.board, brief, table=self.table)
        if isinstance(live, tuple):
            return
        try:
            self.store.set_brief(self.board_id, brief)
        except InputError as error:
            self.said.emit("problem", f"Not saved. {error}")
        self.riding.brief_changes(self.brief, brief)
        self.brief = brief
        self._take(self.board, live)
        self._load_pinned(self.pinned_step)
        self.brief_changed.emit()
        self.live_changed.emit()
        self._timer.start()

    def know_pinned(self) -> None:
        """Make the pinned step the known board of the brief, by its figures."""
        if self.pinned_step is None or self.pinned_live is None:
            self.said.emit("problem", "Pin a step first: it becomes the board the rider knows.")
            return
        if self._pinned_timer.isActive():
            self._pinned_timer.stop()
            self._settle_pinned()
        name = f"{self.pinned_live.board.name}, step {self.steps[self.pinned_step].number}"
        figures = tuple((key, f.value) for key, f in self.pinned_figures.items() if f.exists and f.valid)
        self.set_brief(replace(self.brief, known=KnownBoard(name=name, figures=figures)))

    def set_system(self, system: System) -> None:
        """Show another unit system; no value changes."""
        self.system = system
        self.units_changed.emit()

    def settle_now(self) -> None:
        """Bring float and verdicts up to the board on the bench."""
        self._timer.stop()
        self.evaluation = settle(self.live)
        self.settled.emit()
        self.riding.ask()

    def figures(self) -> Figures:
        """All figures, the live ones newest; the ride's may be those of a moment ago, see :meth:`Riding.behind`."""
        return {**self.riding.figures(), **self.evaluation.figures, **by_key(self.live.figures)}

    def afloat(self) -> PostureFloat | None:
        """The board at rest with its rider as the discipline waits; None where it carries nobody."""
        waiting = AT_REST[self.brief.discipline]
        return None if waiting is None else self.evaluation.floating.postures[waiting]

    def pinned_name(self) -> str:
        """The pinned step, such as “step 9”, or nothing."""
        return f"step {self.steps[self.pinned_step].number}" if self.pinned_step in self.steps and self.pinned_step else ""

    def _settle_pinned(self) -> None:
        """Float of the pinned step: after the first picture, not before it."""
        if self.pinned_live is not None:
            self.pinned_figures = {**settle(self.pinned_live).figures, **self.riding.pinned_figures()}
            self.settled.emit()

    def _take(self, board: Board, live: Live) -> None:
        self.board, self.live = board, live

    def _load_pinned(self, step_id: int | None) -> None:
        self.pinned_step, self.pinned_live, self.pinned_figures = step_id, None, {}
        self.riding.forget_pinned()
        if step_id is not None:
            live = evaluate_live(self.store.board(step_id), self.brief, table=self.table)
            if not isinstance(live, tuple):
                self.pinned_live = live
                self.pinned_figures = by_key(live.figures)
                self._pinned_timer.start()


def finding_words(finding: Finding) -> str:
    """A finding as one or two sentences."""
    return f"{finding.text}. {finding.advice}".rstrip(". ") + "."
