"""The workshop of one window: its open file, what waits for the disk, its tables and lists, its copy, and the one
history.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.mill import Mill
from kelvor.core.build.materials.table import MaterialTable
from kelvor.ui.background.lock_waiting import LockWait
from kelvor.ui.workshop.copying import Copied, Copying, WorkshopCopy
from kelvor.ui.workshop.gestures import Gesture, Gestures
from kelvor.ui.workshop.registers import Registers
from kelvor.ui.workshop.saving import Saving
from kelvor.ui.workshop.tables import Tables
from kelvor.workshop.opening import GLANCE, FileHeld
from kelvor.workshop.rows import Damaged
from kelvor.workshop.safety import keep_safe
from kelvor.workshop.store import Store
from kelvor.workshop.writes import Write


class Workshop(QObject):
    """One file, open: it knows boards by their numbers only, and nothing of the one on the bench."""

    message = Signal(str, str)
    """A message: ("note" or "problem", words)."""
    waiting_changed = Signal()
    """Something waits for the disk, or no longer does; or what is known of the file's damage is other."""
    figures_changed = Signal()
    """Materials or coefficients changed."""
    lists_changed = Signal()
    records_changed = Signal()
    copied = Signal(object)
    """A copy of everything was written, or could not be: :class:`Copied` or a KelvorError."""

    def __init__(self, store: Store, saved: Callable[[Write, Any], None], safety: Path | None = None) -> None:
        """`saved` hears of every write that is on the disk; `safety` is the folder of safety copies, if any."""
        super().__init__()
        store.wait_at_most(GLANCE)
        self.store = store
        self._saved, self._safety = saved, safety
        self._safe: Path | None = None
        self._table: tuple[MaterialTable, Mill, MaterialTable] | None = None
        self._provisional, self._seen, self._gone = 0, 0, ""
        self.gestures = Gestures()
        self.saving: Saving
        self.tables: Tables
        self.registers: Registers
        self._use(store)
        self.copying: Copying = Copying(self)
        self._lock_wait = LockWait(self, self.message)

    def _use(self, store: Store) -> None:
        """A queue and tables for a file; raises InputError, and keeps those there are, when its tables cannot
        be read.
        """
        tables = Tables(self, store, lambda: self.saving, self.gestures)
        registers = Registers(self, lambda: self.saving, self.gestures)
        self._safe = keep_safe(self._safety, store) if self._safety is not None else None
        self.saving, self.tables, self.registers = Saving(self, store, self._saved), tables, registers
        tables.figures_changed.connect(self.figures_changed)
        tables.lists_changed.connect(self.lists_changed)
        registers.changed.connect(self.records_changed)
        self.saving.changed.connect(self.waiting_changed)
        self.saving.cleaned.connect(self._say_cleaned)

    def _say_cleaned(self, what: str) -> None:
        self.message.emit("note", f"Signs that cannot be shown were taken out: {what}.")

    @property
    def table(self) -> MaterialTable:
        """The workshop's materials, rates and mill."""
        materials, mill = self.tables.materials, self.registers.mill()
        if self._table is None or self._table[0] is not materials or self._table[1] is not mill:
            self._table = materials, mill, materials if materials.mill == mill else replace(materials, mill=mill)
        return self._table[2]

    def new_id(self) -> int:
        """A provisional id, below zero, for what is not on the disk yet."""
        self._provisional -= 1
        return self._provisional

    def did(self, words: str, back: Callable[[], None], again: Callable[[], None], key: str = "") -> None:
        """Something was done that can be taken back."""
        self.gestures.did(Gesture(words, back, again, key))

    # reading the file

    def read_records(self) -> None:
        """Read the registers; what cannot be read is said."""

        def read() -> None:
            try:
                self.registers.look_again(self.store)
            except FileHeld:
                raise
            except InputError as error:
                self.message.emit("problem", str(error))

        self.when_free(read)

    def when_free(self, work: Callable[[], None]) -> None:
        """Do something that reads the file: now, or when another program lets go of it. The newest wish counts."""
        self._lock_wait.when_free(work)

    def stop_waiting(self) -> bool:
        """Give up waiting for the file; whether somebody was."""
        return self._lock_wait.stop()

    def all_saved(self, what: str) -> None:
        """What waits must not end up in another board or file; raises InputError about `what`."""
        if self.copying.running:
            raise InputError("a copy of everything is being written", where=what, accepts="Wait until it is done")
        if self.saving.waiting:
            raise InputError(
                "not all of it is saved yet", where=what, accepts="Save again (Ctrl+S), or save a copy of everything"
            )

    def news(self) -> int | None:
        """What to tell :meth:`read` once it is taken in that another window wrote; None where none did.

        Raises
        ------
        InputError
            When the file is gone or cannot be read; FileHeld while another program holds it.
        """
        if self.copying.running:
            return None
        self.store.still_there()
        if self.saving.everything():
            return None  # what is shown is ahead of the file; when it is written, the two are brought together
        seen = self.store.changed_elsewhere()
        return None if seen == self._seen else seen

    def missed(self, error: InputError) -> None:
        """The file could not be read: said once."""
        if not self.saving.waiting and str(error) != self._gone:
            self.message.emit("problem", str(error))
        self._gone = str(error)

    def read(self, seen: int) -> None:
        """All that is on the disk is known, as it was when :meth:`Store.changed_elsewhere` said `seen`."""
        self._seen, self._gone = seen, ""

    # damage

    def damages(self) -> list[str]:
        """What of the workshop cannot be read, a line each."""
        return [str(damage) for damage in self.store.damages or self.store.doubts]

    def doubt(self, path: Path, found: list[str]) -> None:
        """A check beside the window has found places that cannot be read."""
        if path == self.store.path and not self.store.damages:
            self.store.doubts = tuple(words.removeprefix(f"{path}: ") for words in found)
            self.waiting_changed.emit()

    def damage_words(self) -> str:
        """What of the workshop is not sound, as a sentence or two."""
        damages = self.damages()
        if not damages:
            return ""
        more = f" and {len(damages) - 1} more" if len(damages) > 1 else ""
        if not self.store.damages:
            return (
                f"In this workshop something cannot be read: {damages[0]}{more}. It is left as it is; all else is "
                f"sound, and what you do is "
                "saved. A repaired copy leaves it out."
            )
        return (
            f"This workshop is damaged ({damages[0]}{more}). The rest is open; the file is left as it is, and what you "
            f"do waits in this "
            "window. Save a repaired copy to work on."
        )

    # other files

    def go_on_with(self, store: Store, begin: Callable[[], None]) -> None:
        """Go on with another file; raises what `begin` raises, and stays with the old one then."""
        old, tables, saving, registers = self.store, self.tables, self.saving, self.registers
        self.store = store
        try:
            self._use(store)
            begin()
        except KelvorError:
            self.store, self.tables, self.saving, self.registers = old, tables, saving, registers
            store.close()
            raise
        self.gestures.forget()
        for former in (tables, saving, registers):
            former.deleteLater()
        self.waiting_changed.emit()
        self.lists_changed.emit()
        self.records_changed.emit()
        old.close()

    def copy_to(self, path: Path, hold: Callable[[Path | None], WorkshopCopy]) -> None:
        """Write all that can be read, and all that waits, to a new file; `hold` says what the window holds.

        Raises
        ------
        InputError
            While another copy is being written.
        """
        if self.copying.running:
            raise InputError("a copy is being written already", where=str(path), accepts="Wait until it is done")
        self.saving.hold_back(True)
        self.copying.begin(self.store, path, hold(self._safe))

    def go_on_in(self, copy: Copied) -> None:
        """Go on in a copy: what waited is in it, and ids of the file before mean nothing any more."""
        old, self.store = self.store, copy.store
        self.gestures.forget()
        self.store.wait_at_most(GLANCE)
        self._safe = keep_safe(self._safety, self.store) if self._safety is not None else None
        self.saving.follow(self.store, copy.ids, copy.written)
        self.registers.begin_anew()
        old.close()

    def rest(self) -> None:
        """The window goes: nothing is looked after any more."""
        self.stop_waiting()
        self.saving.rest()


def opened(path: Path, wait: float) -> Store:
    """A workshop file, or all that is sound of a damaged one; raises InputError when there is neither."""
    try:
        return Store.open(path, wait)
    except Damaged:
        return Store.open_sound(path, wait)
