"""What belongs to a workshop and to no board, as one window sees it: materials, rates, coefficients, constructions,
weigh-ins.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.disciplines import Discipline
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.table import MaterialTable, Rates
from kelvor.core.history.merging import merged
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import ABOUT, Coefficients, valid_coefficient
from kelvor.ui.workshop.gestures import Gesture, Gestures
from kelvor.workshop.store import Store
from kelvor.workshop.tables_file import Entry
from kelvor.workshop.writes import KeepCoefficient, KeepConstruction, KeepMaterial, Weigh

if TYPE_CHECKING:
    from kelvor.ui.workshop.saving import Saving


class Tables(QObject):
    """The workshop's tables. A change shows at once and is saved when the disk takes it."""

    figures_changed = Signal()
    """Materials or coefficients are others: every figure follows."""
    lists_changed = Signal()
    """Constructions or weigh-ins are others."""

    def __init__(self, parent: QObject, store: Store, saving: Callable[[], Saving], gestures: Gestures) -> None:
        """What is done to the tables is told to `gestures`."""
        super().__init__(parent)
        self._gestures = gestures
        self._saving = saving
        self.materials: MaterialTable
        self.coefficients: Coefficients
        self.kept: tuple[Construction, ...]
        self.weighed: tuple[WeighIn, ...] = ()
        """The weigh-ins of the board on the bench."""
        self.read(store)

    def read(self, store: Store) -> None:
        """Take another workshop's tables."""
        materials, coefficients, kept = store.materials(), store.coefficients(), store.constructions()
        self.materials, self.coefficients, self.kept = materials, coefficients, kept

    def look_again(self, store: Store, board_id: int) -> None:
        """Take in what another window wrote, where nothing of ours waits."""
        saving, before = self._saving(), (self.materials, self.coefficients)
        if not saving.waits((KeepMaterial, KeepCoefficient)):
            self.materials, self.coefficients = store.materials(), store.coefficients()
        if not saving.waits(KeepConstruction):
            self.kept = store.constructions()
        if not saving.waits(Weigh) and board_id > 0:
            self.weighed = store.weighings(board_id)
        self.lists_changed.emit()
        if (self.materials, self.coefficients) != before:
            self.figures_changed.emit()

    def constructions(self, discipline: Discipline) -> tuple[Construction, ...]:
        """The workshop's own constructions, then the usual ones for the discipline that it has not changed."""
        names = {c.name for c in self.kept}
        return (*self.kept, *(c for c in recipes(discipline) if c.name not in names))

    def keep_construction(self, construction: Construction) -> None:
        """Keep a construction in the workshop, for all boards."""
        name = construction.name
        construction = self._saving().admitted(construction, f"the construction “{name}”")
        name = construction.name
        before = next((c for c in self.kept if c.name == name), None)
        self._put_construction(name, construction)
        put = self._put_construction
        self._did(f"{name}, kept for all boards", partial(put, name, before), partial(put, name, construction))

    def _put_construction(self, name: str, construction: Construction | None) -> None:
        if construction is not None and name in (c.name for c in self.kept):
            self.kept = tuple(construction if c.name == name else c for c in self.kept)
        else:
            rest = tuple(c for c in self.kept if c.name != name)
            self.kept = rest if construction is None else (*rest, construction)
        self._saving().put(KeepConstruction(name, construction))
        self.lists_changed.emit()

    def keep_material(self, entry: Entry) -> None:
        """Change the workshop's table of materials; every figure follows."""
        entry = self._saving().admitted(entry, "the table of materials")
        before = self.materials.as_it_stands(entry)
        self._put_material(entry)
        words = "rates of the workshop" if isinstance(entry, Rates) else entry.name
        self._did(words, partial(self._back_material, before, entry), partial(self._back_material, entry, before))

    def _put_material(self, entry: Entry) -> None:
        before = self.materials.as_it_stands(entry)
        self.show_material(entry)
        self._saving().put(KeepMaterial(before, entry))

    def _back_material(self, before: Entry, after: Entry) -> None:
        """Take back only what this change changed: another window may have changed more of it since."""
        self._put_material(merged(after, before, self.materials.as_it_stands(after)))

    def show_material(self, entry: Entry) -> None:
        """Let figures follow an entry as it is in the file."""
        if self.materials.as_it_stands(entry) != entry:
            self.materials = (
                replace(self.materials, rates=entry) if isinstance(entry, Rates) else self.materials.with_entry(entry)
            )
            self.figures_changed.emit()

    def keep_coefficient(self, key: str, value: float) -> None:
        """Change the workshop's table of coefficients; the ride follows.

        Raises
        ------
        InputError
            When the value is outside what the coefficient can be.
        """
        valid_coefficient(key, value)
        about = ABOUT[key]
        before = getattr(self.coefficients, key)
        self._put_coefficient(key, value)
        words, put = f"{about.group.lower()}, {about.label.lower()}", self._put_coefficient
        self._did(words, partial(put, key, before), partial(put, key, value))

    def _put_coefficient(self, key: str, value: float) -> None:
        self.coefficients = replace(self.coefficients, **{key: value})
        self._saving().put(KeepCoefficient(key, value))
        self.figures_changed.emit()

    def weigh(self, board_id: int, step: int, weighed: WeighIn) -> None:
        """Write a weigh-in of the board on the bench."""
        weighed = self._saving().admitted(weighed, f"weigh-in, {weighed.stage}")
        before = next((w for w in self.weighed if w.stage == weighed.stage), WeighIn(weighed.stage, 0.0))
        self._put_weighed(board_id, step, weighed)
        put = self._put_weighed
        self._did(
            f"weigh-in, {weighed.stage}", partial(put, board_id, step, before), partial(put, board_id, step, weighed)
        )

    def _put_weighed(self, board_id: int, step: int, weighed: WeighIn) -> None:
        rest = tuple(w for w in self.weighed if w.stage != weighed.stage)
        self.weighed = (*rest, weighed) if weighed.mass > 0 else rest
        self._saving().put(Weigh(board_id, step, weighed))
        self.lists_changed.emit()

    def _did(self, words: str, back: Callable[[], None], again: Callable[[], None]) -> None:
        self._gestures.did(Gesture(words, back, again))
