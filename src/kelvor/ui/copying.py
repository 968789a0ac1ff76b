"""A copy of everything: all that can be read of a workshop, and all that waits in a window, in a new file."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from kelvor.core.brief import Brief
from kelvor.core.errors import InputError
from kelvor.core.history.steps import Step
from kelvor.core.shape.board import Board
from kelvor.workshop.opening import GLANCE
from kelvor.workshop.soundness import Damage
from kelvor.workshop.store import Store
from kelvor.workshop.writes import Ids, Write


@dataclass(frozen=True, slots=True)
class Copied:
    """The copy, open; what it goes by in there; how many of the waiting writes are in it; what could not be brought over."""

    store: Store
    ids: Ids
    board_id: int
    current: int
    written: int
    left_out: tuple[Damage, ...]

    def words(self) -> str:
        """What was done, as a sentence or two."""
        boards = len(self.store.boards())
        said = f"A copy of everything is saved, with {boards} board{'s' if boards != 1 else ''}: {self.store.path}. You go on in it."
        if not self.left_out:
            return said
        more = f" and {len(self.left_out) - 1} more" if len(self.left_out) > 1 else ""
        return f"{said} Left out, because it cannot be read: {self.left_out[0]}{more}."


def copy_everything(store: Store, path: Path, waiting: list[Write], known_ids: Ids, board_id: int, brief: Brief, current: int,
                    known: list[tuple[Step, Board | None]]) -> Copied:  # fmt: skip
    """Write the copy and open it.

    Parameters
    ----------
    waiting:
        Writes that are not in the file, in order.
    board_id, brief, current, known:
        The board on the bench as the window knows it, with the boards of its steps where it holds them: should the
        file no longer have it, it comes from here.

    Raises
    ------
    InputError
        When something stands at `path`, or it cannot be written.
    """
    left_out = list(store.copied(path))
    copy = Store.open(path, GLANCE)
    try:
        ids = Ids(known_ids)
        if ids(board_id) > 0 and ids(board_id) not in (entry.id for entry in copy.boards()):
            _bring(copy, ids, board_id, brief, known)
        for write in waiting:
            try:
                write.into(copy, ids)
            except InputError as error:
                left_out.append(Damage(write.words, error.what))
        stands = ids(current)
        if stands not in copy.steps(ids(board_id)):
            stands = copy.left_at(ids(board_id))
    except BaseException:
        copy.close()
        raise
    return Copied(copy, ids, ids(board_id), stands, len(waiting), tuple(left_out))


def _bring(copy: Store, ids: Ids, board_id: int, brief: Brief, known: list[tuple[Step, Board | None]]) -> None:
    """Put a board into the copy from what the window holds of it: every step it has seen, each after the last seen before it."""
    old = ids(board_id)
    last: int | None = None
    for step, board in known:
        if board is None or step.id < 0:  # below zero: still waiting, and written after this
            continue
        if last is None:
            ids[old], made = copy.add_board(board, brief, step.title, step.volume, pinned=True)
        else:
            parent = last if step.parent is None or step.parent not in ids else ids(step.parent)
            made = copy.append(ids[old], parent, board, step.changes, title=step.title, gesture=step.gesture, volume=step.volume,
                               reason=step.reason)  # fmt: skip
        ids[step.id] = last = made.id
    ids[board_id] = ids(old)
