"""A copy of everything: all that can be read of a workshop, and all that waits in a window, in a new file."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.history.steps import Step
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS, Coefficients
from kelvor.files import may_write
from kelvor.ui.background.cross_thread import Mailbox
from kelvor.workshop.opening import GLANCE, WAIT
from kelvor.workshop.rescue import fill_workshop, write_new
from kelvor.workshop.soundness import Damage, Sound, examined
from kelvor.workshop.store import Store
from kelvor.workshop.writes import Ids, Write

if TYPE_CHECKING:
    from concurrent.futures import Future, ThreadPoolExecutor


@frozen
class Copied:
    """The copy, open; what it goes by in there; how many of the waiting writes are in it; what could not be brought
    over.
    """

    store: Store
    ids: Ids
    board_id: int
    current: int
    written: int
    left_out: tuple[Damage, ...]

    def words(self) -> str:
        """What was done, as a sentence or two."""
        boards = len(self.store.boards())
        said = (
            f"A copy of everything is saved, with {boards} board{'s' if boards != 1 else ''}. You go on in it: "
            f"{self.store.path}."
        )
        if not self.left_out:
            return said
        more = f" and {len(self.left_out) - 1} more" if len(self.left_out) > 1 else ""
        return f"{said} Left out, because it cannot be read: {self.left_out[0]}{more}."


@frozen
class WorkshopCopy:
    """What a window holds of a workshop.

    Attributes
    ----------
    known:
        The steps of the board on the bench, by number, each with its board where the window has seen it.
    materials, coefficients, constructions:
        The workshop's tables.
    done, waiting:
        What the window wrote since it opened the file, and what is to be written yet.
    ids:
        By which ids of the file provisional ones go.
    safe:
        The file's safety copy, if there is one.
    """

    board_id: int
    brief: Brief
    current: int
    known: list[tuple[Step, Board | None]]
    materials: MaterialTable
    coefficients: Coefficients
    constructions: tuple[Construction, ...]
    done: list[Write]
    waiting: list[Write]
    ids: Ids
    safe: Path | None


class Copying(QObject):
    """Writes a copy of everything beside the window, one at a time."""

    ended = Signal(object)
    """The :class:`Copied`, or the KelvorError that kept it from being written."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._thread: ThreadPoolExecutor | None = None
        self._over = Mailbox(self._end)

    @property
    def running(self) -> bool:
        """Whether a copy is being written."""
        return self._thread is not None

    def begin(self, store: Store, path: Path, held: WorkshopCopy) -> None:
        """Begin to write."""
        from concurrent.futures import ThreadPoolExecutor

        self._thread = ThreadPoolExecutor(1, "kelvor-copy")
        self._thread.submit(copy_everything, store, path, held).add_done_callback(self._over.leave)

    def _end(self, future: Future[Copied]) -> None:
        assert self._thread is not None
        self._thread.shutdown()
        self._thread = None
        error = future.exception()
        if error is not None and not isinstance(error, KelvorError):
            raise error
        self.ended.emit(error or future.result())


def copy_everything(store: Store, path: Path, held: WorkshopCopy) -> Copied:
    """Write the copy and open it.

    It is made from the open file; where that is not the workshop any more, from its safety copy and what the window
    wrote since; where there is none, from the board on the bench. What waits comes on top.

    Raises
    ------
    InputError
        When something stands at `path`, or it cannot be written.
    """
    may_write(path)
    found, ids, again = store.sound(), Ids(held.ids), []
    if found is None and held.safe is not None:
        with suppress(InputError):
            found, ids, again = examined(held.safe, WAIT), Ids(), held.done
    if found is None:
        found = Sound(
            damages=[
                Damage("the other boards", "the file is not this workshop any more, and there is no safety copy of it")
            ]
        )
    rows = found
    write_new(path, lambda db: fill_workshop(db, rows), store.path)
    left_out = list(found.damages)
    copy = Store.open(path, GLANCE)
    try:
        for write in again:
            _write(write, copy, ids, left_out)
            for key in (getattr(write, "id", None), getattr(write, "step", None)):
                if isinstance(key, int) and key < 0 and key in ids and key in held.ids:
                    ids[held.ids[key]] = ids[key]  # later writes name it by the id it had in the file that is gone
        if ids(held.board_id) > 0 and ids(held.board_id) not in (entry.id for entry in copy.boards()):
            _bring(copy, ids, held)
        for write in held.waiting:
            _write(write, copy, ids, left_out)
        stands = ids(held.current)
        if stands not in copy.steps(ids(held.board_id)):
            stands = copy.left_at(ids(held.board_id))
    except BaseException:
        copy.close()
        raise
    return Copied(copy, ids, ids(held.board_id), stands, len(held.waiting), tuple(left_out))


def _write(write: Write, copy: Store, ids: Ids, left_out: list[Damage]) -> None:
    try:
        write.into(copy, ids)
    except InputError as error:
        left_out.append(Damage(write.words, error.what))


def _bring(copy: Store, ids: Ids, held: WorkshopCopy) -> None:
    """Put what the window holds into the copy: every step it has seen of its board, each after the last before, and the
    tables.
    """
    for kind in ("fibres", "resins", "stocks", "cloths"):
        for entry in set(getattr(held.materials, kind)) - set(getattr(HANDBOOK, kind)):
            copy.keep_material(entry)
    if held.materials.rates != HANDBOOK.rates:
        copy.keep_material(held.materials.rates)
    for name in Coefficients.__dataclass_fields__:
        if (value := getattr(held.coefficients, name)) != getattr(HANDBOOK_COEFFICIENTS, name):
            copy.keep_coefficient(name, value)
    for construction in held.constructions:
        copy.keep_construction(construction)
    old = ids(held.board_id)
    last: int | None = None
    for step, board in held.known:
        if board is None or step.id < 0:  # below zero: still waiting, and written after this
            continue
        if last is None:
            ids[old], made = copy.add_board(board, held.brief, step.title, step.volume, pinned=True)
        else:
            parent = last if step.parent is None or step.parent not in ids else ids(step.parent)
            made = copy.append(
                ids[old], parent, board, step.changes, title=step.title, gesture=step.gesture, volume=step.volume
            )
        ids[step.id] = last = made.id
        if step.reason:
            copy.set_reason(made.id, step.reason)
        for kind, serial in step.frozen:
            copy.freeze(made.id, kind, serial)
    ids[held.board_id] = ids(old)
