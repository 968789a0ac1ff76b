"""What a session has to do with its file: which board is opened, what came back saved, what another window wrote."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import with_plain_texts
from kelvor.core.base.plain_text import one_line
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.live import Live
from kelvor.core.history.merging import merged
from kelvor.core.history.steps import Step
from kelvor.core.rack.cards import drawn, packed_card
from kelvor.core.shape.board import Board
from kelvor.ui.workshop.copying import Copied, WorkshopCopy
from kelvor.ui.workshop.workshop import Workshop, opened
from kelvor.workshop.opening import GLANCE, FileHeld
from kelvor.workshop.rows import TITLE, Damaged, now
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
    from kelvor.ui.session.session import Session

LOOK_EVERY_MS = 2000
"""What another window wrote shows after this long at most."""


class SessionFile(QObject):
    """The boards of the open file, other files, and a copy of everything."""

    def __init__(self, session: Session, store: Store, safety: Path | None) -> None:
        """`safety` is the folder in which a safety copy of each workshop is kept, if any."""
        super().__init__(session)
        self._session = session
        self.workshop: Workshop = Workshop(store, self._saved, safety)
        self.workshop.copying.ended.connect(self._copied)
        self.workshop.waiting_changed.connect(self._waiting_changes)
        self._renamed = False
        self._looking = QTimer(self)
        self._looking.setInterval(LOOK_EVERY_MS)
        self._looking.timeout.connect(self.look_elsewhere)

    # which board

    def open_board(self, board_id: int) -> None:
        """Put a board on the bench at the step where it was left.

        Raises
        ------
        InputError
            When its board cannot be drawn or read, or while something of the open one waits for the disk.
        """
        session = self._session
        self._all_saved()
        before = session.board_id
        self._read_board(board_id, self.workshop.store.left_at(board_id))
        if before and before != session.board_id:
            self._did(f"“{session.board.name}” opened", before, board_id)

    def add_board(self, board: Board, brief: Brief, title: str, parent_step: int | None = None) -> None:
        """Add a board to the workshop and open it; raises like :meth:`open_board`."""
        session, workshop = self._session, self.workshop
        self._all_saved()
        board, brief, title = (
            with_plain_texts(board),
            workshop.saving.admitted(brief, "the brief"),
            one_line(title, TITLE.longest),
        )
        live, before = session.drawn(board, brief), session.board_id
        write = self._new(live, title, parent_step)
        step = Step(id=write.step, parent=None, number=1, title=title, made_at=now(), volume=write.volume)
        workshop.tables.weighed = ()
        session.put_on_bench(write.id, {step.id: step}, step.id, live, step.id)
        workshop.saving.put(write)
        if before:
            self._did(f"“{board.name}” added", before, write.id)

    def add_beside(self, board: Board, brief: Brief, title: str, parent_step: int | None = None) -> tuple[int, int]:
        """Add a board to the workshop while the one on the bench stays there; its id and that of its first step. Raises
        InputError when it cannot be drawn.
        """
        session, saving = self._session, self.workshop.saving
        write = self._new(
            session.drawn(with_plain_texts(board), saving.admitted(brief, "the brief")), title, parent_step
        )
        saving.put(write)
        saving.put(LeaveAt(session.board_id, session.current))
        return write.id, write.step

    def _new(self, live: Live, title: str, parent_step: int | None) -> AddBoard:
        board_id, step_id = self.workshop.new_id(), self.workshop.new_id()
        volume, card = live.geometry.solid.volume, packed_card(drawn(live))
        return AddBoard(board_id, step_id, live.board, live.brief, title, volume, parent_step, card)

    def begin(self) -> None:
        """Put the board that was last worked on on the bench, or a first one into an empty workshop; raises
        InputError.
        """
        last = self.workshop.store.last_board()
        if last is None:
            from kelvor.core.new_board.first_boards import first_board

            board = first_board("First board", "wing foil", 1.45, 0.50, 0.09)
            self.add_board(board, Brief(), "Began as a fair foil board")
        else:
            self.open_board(last)
        self._looking.start()

    def rest(self) -> None:
        """The window goes: nothing is looked after any more."""
        self._looking.stop()
        self.workshop.rest()

    def _did(self, words: str, before: int, after: int) -> None:
        self.workshop.did(words, lambda: self._open_again(before), lambda: self._open_again(after))

    def _open_again(self, board_id: int) -> None:
        self._all_saved()
        real = self.workshop.saving.ids(board_id)
        self._read_board(real, self.workshop.store.left_at(real))

    def _all_saved(self) -> None:
        self.workshop.all_saved(self._session.board.name if self._session.board_id else "")

    def _read_board(self, board_id: int, current: int) -> None:
        store = self.workshop.store
        steps, board, brief = store.steps(board_id), store.board(current), store.brief(board_id)
        weighed, pinned, seen = store.weighings(board_id), store.pinned(board_id), store.changed_elsewhere()
        live = self._session.drawn(board, brief)
        self.workshop.tables.weighed = weighed
        self.workshop.read(seen)
        self._session.put_on_bench(board_id, steps, current, live, pinned)

    # which file

    def open_workshop(self, path: Path) -> None:
        """Open another workshop file in this window; the old one stays open if that fails."""
        store = opened(path, GLANCE)
        try:
            self._change_store(store)
        except Damaged:
            self._change_store(Store.open_sound(path, GLANCE))

    def create_workshop(self, path: Path) -> None:
        """A new workshop with a first board, in this window; the old one stays open if that fails."""
        self._all_saved()
        store = Store.create(path, GLANCE)
        try:
            self._change_store(store)
        except KelvorError:
            path.unlink(missing_ok=True)  # made a moment ago, by us, and empty
            raise

    def _change_store(self, store: Store) -> None:
        """Go on with another file; raises what its first board raises, and stays with the old one then."""
        try:
            self._session.about_to_leave.emit()  # what is half typed belongs to the workshop that is left
            self._all_saved()
        except KelvorError:
            store.close()
            raise
        self.workshop.go_on_with(store, self.begin)
        self.workshop.read_records()

    # what another window wrote

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
        session, store, saving = self._session, self.workshop.store, self.workshop.saving
        board_id = session.board_id
        self.workshop.tables.look_again(store, board_id)
        self.workshop.registers.look_again(store)
        if board_id < 0:
            return
        steps = store.steps(board_id)
        if session.current > 0 and session.current not in steps:
            return
        session.steps = {**steps, **{key: step for key, step in session.steps.items() if key < 0}}
        brief = store.brief(board_id)
        if brief != session.brief and not saving.waits(SetBrief):
            session.show_brief(brief)
        pinned = store.pinned(board_id)
        if pinned != session.overlays.step and not saving.waits(Pin):
            session.overlays.load(pinned)
            session.live_changed.emit()
        session.steps_changed.emit()

    # what is on the disk

    def _saved(self, write: Write, result: Any) -> None:
        """A write is on the disk: what had a provisional id has its real one, and another window's changes come in."""
        session, saving = self._session, self.workshop.saving
        match write:
            case AddBoard():
                if session.board_id == write.id:
                    session.board_id = saving.ids(write.id)
                    self._rename({write.step: result.id})
                    session.steps[result.id] = replace(session.steps[result.id], made_at=result.made_at)
            case AppendStep():
                if write.id in session.steps:
                    self._rename({write.id: result.id})
                    kept = session.steps[result.id]
                    session.steps[result.id] = replace(kept, number=result.number, made_at=result.made_at)
            case SetBrief():
                ours = session.board_id, saving.ids(session.board_id)
                if result not in (write.brief, session.brief) and write.board_id in ours:
                    session.show_brief(merged(write.brief, session.brief, result))
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
            self._session.steps_changed.emit()

    def _rename(self, real: dict[int, int]) -> None:
        """Steps under other ids, wherever they are named."""
        session, self._renamed = self._session, True

        def named(key: int) -> int:
            return real.get(key, key)

        session.steps = {
            named(key): replace(step, id=named(key), parent=None if step.parent is None else named(step.parent))
            for key, step in session.steps.items()
        }
        session.boards = {named(key): board for key, board in session.boards.items()}
        session.current = named(session.current)
        session.overlays.step = None if session.overlays.step is None else named(session.overlays.step)

    # a copy of everything

    def save_copy(self, path: Path) -> None:
        """Write all that can be read, and all that waits, to a new file, and go on with that; raises like
        :meth:`Workshop.copy_to`.
        """
        self._session.about_to_leave.emit()
        self.workshop.copy_to(path, self._held)

    def _held(self, safe: Path | None) -> WorkshopCopy:
        session, saving, tables = self._session, self.workshop.saving, self.workshop.tables
        in_order = sorted(session.steps.items(), key=lambda item: item[1].number)
        known = [(step, session.boards.get(step.id)) for _, step in in_order]
        return WorkshopCopy(
            session.board_id,
            session.brief,
            session.current,
            known,
            tables.materials,
            tables.coefficients,
            tables.kept,
            list(saving.done),
            saving.everything(),
            Ids(saving.ids),
            safe,
        )

    def _copied(self, result: Copied | KelvorError) -> None:
        if isinstance(result, KelvorError):
            self.workshop.saving.hold_back(False)
            self._session.message.emit("problem", f"No copy was written. {result}")
        else:
            self._go_on_in(result)
        self.workshop.copied.emit(result)

    def _go_on_in(self, copy: Copied) -> None:
        session = self._session
        session.board_id = copy.board_id
        self._rename({key: copy.ids(key) for key in session.steps})
        self.workshop.go_on_in(copy)
        there = session.current in copy.store.steps(session.board_id)
        self._read_board(session.board_id, session.current if there else copy.current)
        session.message.emit("problem" if copy.left_out else "note", copy.words())
