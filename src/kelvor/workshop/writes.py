"""Writes: everything that can be put into a workshop file, as values that can wait.

A window that makes a step or a board while the disk refuses gives it a
provisional id below zero; :class:`Ids` knows the real one once it is written.
The same waiting writes can go into the file, or into a copy of it.
"""

from __future__ import annotations

from typing import Annotated, Any, Protocol

from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import NAME, Text
from kelvor.core.base.plain_text import cut_short
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.history.steps import FrozenAs, Step
from kelvor.core.levers.locks import Change
from kelvor.core.rack.cards import Drawn, packed_card
from kelvor.core.register.record import UID, RecordKind
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.workshop.rows import CARD, CHANGES, GESTURE, REASON, SERIAL, TITLE
from kelvor.workshop.store import Store
from kelvor.workshop.tables_file import Entry

WORDS = Text(10_000)
"""What a person did; shown, not kept."""


class Ids(dict[int, int]):
    """Real ids of boards and steps by provisional ones; a real id is its own."""

    def __call__(self, key: int) -> int:
        """The id in the file."""
        return self.get(key, key)

    def maybe(self, key: int | None) -> int | None:
        """The id in the file, of a step that may be none."""
        return None if key is None else self(key)


class Write(Protocol):
    """Something to put into a workshop."""

    @property
    def words(self) -> str:
        """What a person did."""

    def into(self, store: Store, ids: Ids) -> Any:
        """Write it; raises InputError when the file refuses, and changes nothing then."""


@frozen(eq=False)
class AddBoard:
    """A new board with its first step, pinned, and its brief; `id` and `step` are provisional."""

    id: int
    step: int
    board: Board
    brief: Brief
    title: Annotated[str, TITLE]
    volume: float
    parent_step: int | None
    card: Annotated[str, CARD] = ""

    @property
    def words(self) -> str:
        """What a person did."""
        return f"the new board “{self.board.name}”"

    def into(self, store: Store, ids: Ids) -> Step:
        """Write it."""
        ids[self.id], made = store.add_board(
            self.board, self.brief, self.title, self.volume, ids.maybe(self.parent_step), pinned=True, card=self.card
        )
        ids[self.step] = made.id
        return made


@frozen(eq=False)
class AppendStep:
    """A step; `id` is provisional, `number` what the window told meanwhile."""

    id: int
    board_id: int
    parent: int
    number: int
    board: Board
    changes: Annotated[tuple[Change, ...], CHANGES]
    title: Annotated[str, TITLE]
    gesture: Annotated[str, GESTURE]
    volume: float
    card: Annotated[str, CARD] = ""

    @classmethod
    def of(cls, step: Step, board_id: int, board: Board, card: str) -> AppendStep:
        """The write of a step that has a parent; raises ValueError where it has none."""
        if step.parent is None:
            raise ValueError("the first step is written with its board")
        words = cut_short(step.title, TITLE.longest), cut_short(step.gesture, GESTURE.longest)
        told = step.number, board, step.changes, *words, step.volume, card
        return cls(step.id, board_id, step.parent, *told)

    @property
    def words(self) -> str:
        """What a person did."""
        words = (f"step {self.number}", self.title, self.changes[0].label if self.changes else "")
        return ": ".join(said for said in words if said)

    def into(self, store: Store, ids: Ids) -> Step:
        """Write it."""
        made = store.append(
            ids(self.board_id),
            ids(self.parent),
            self.board,
            self.changes,
            title=self.title,
            gesture=self.gesture,
            volume=self.volume,
            card=self.card,
        )
        ids[self.id] = made.id
        return made


@frozen(eq=False)
class SetBrief:
    """A board's brief, changed from what this window last saw."""

    board_id: int
    base: Brief
    brief: Brief
    words: str = "the brief"

    def into(self, store: Store, ids: Ids) -> Brief:
        """Write it; the brief that was written, with what another window changed."""
        return store.set_brief(ids(self.board_id), self.brief, self.base)


@frozen(eq=False)
class SetReason:
    """Why a step was made."""

    step: int
    text: Annotated[str, REASON]
    words: str = "a reason"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.set_reason(ids(self.step), self.text)


@frozen(eq=False)
class StepMark:
    """A step drawn, cut, laminated or ridden; or, where `on` is not, that mark taken back."""

    step: int
    kind: FrozenAs
    serial: Annotated[str, SERIAL]
    on: bool = True

    @property
    def words(self) -> str:
        """What a person did."""
        return f"the mark “{self.kind}”"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        if self.on:
            store.freeze(ids(self.step), self.kind, self.serial)
        else:
            store.unfreeze(ids(self.step), self.kind, self.serial)


@frozen(eq=False)
class Pin:
    """The pinned step of a board, or none."""

    board_id: int
    step: int | None
    words: str = "the pin"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.pin(ids(self.board_id), ids.maybe(self.step))


@frozen(eq=False)
class LeaveAt:
    """Where a window stands."""

    board_id: int
    step: int
    words: str = "where you stand"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.leave_at(ids(self.board_id), ids(self.step))


@frozen(eq=False)
class KeepConstruction:
    """A construction for all boards, or one taken off the list."""

    name: Annotated[str, NAME]
    construction: Construction | None

    @property
    def words(self) -> str:
        """What a person did."""
        return f"the construction “{self.name}”"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        if self.construction is None:
            store.drop_construction(self.name)
        else:
            store.keep_construction(self.construction)


@frozen(eq=False)
class KeepMaterial:
    """An entry of the table of materials, changed from what this window last saw."""

    base: Entry
    entry: Entry
    words: str = "the table of materials"

    def into(self, store: Store, ids: Ids) -> Entry:
        """Write it; the entry that was written, with what another window changed."""
        return store.keep_material(self.entry, self.base)


@frozen(eq=False)
class KeepCoefficient:
    """A coefficient of drive or ride."""

    key: str
    value: float
    words: str = "the table of coefficients"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.keep_coefficient(self.key, self.value)


@frozen(eq=False)
class Weigh:
    """A weigh-in; a mass of nothing takes the stage's last one back."""

    board_id: int
    step: int
    weighed: WeighIn

    @property
    def words(self) -> str:
        """What a person did."""
        return f"the weigh-in, {self.weighed.stage}"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.weigh(ids(self.board_id), ids(self.step), self.weighed)


@frozen(eq=False)
class KeepRecord:
    """A rider, place, piece of gear, decision or words, as they are now; `base` is what this window last saw of them.

    `blob` is a photo the record names. With `gone` it is struck or taken off the register; what was written stays.
    """

    kind: RecordKind
    uid: Annotated[str, UID]
    value: Any
    what: Annotated[str, WORDS]
    origin: Origin = "claimed"
    gone: bool = False
    board_id: int | None = None
    step: int | None = None
    base: Any = None
    blob: bytes | None = None

    @property
    def words(self) -> str:
        """What a person did."""
        return self.what

    def into(self, store: Store, ids: Ids) -> Any:
        """Write it; the value that was written, with what another window changed."""
        return store.records.keep(
            self.kind,
            self.uid,
            self.value,
            origin=self.origin,
            gone=self.gone,
            board=ids.maybe(self.board_id),
            step=ids.maybe(self.step),
            base=self.base,
            blob=self.blob,
        )


@frozen(eq=False)
class KeepCards:
    """What was counted of steps for the rack; it can be counted again, so it is no loss where the disk refuses."""

    drawn: dict[int, Drawn]
    words: str = "cards of the rack"

    def into(self, store: Store, ids: Ids) -> None:
        """Write it."""
        store.keep_cards({ids(step): packed_card(card) for step, card in self.drawn.items()})
