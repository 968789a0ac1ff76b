"""Families as one window sees them: a parent, its sizes as boards of their own, and what is counted of them."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.figures import Figures
from kelvor.core.base.limits import typed_name
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.subject import Subject
from kelvor.core.family.measures import quantity_about
from kelvor.core.family.rules import check_rules, first_rules
from kelvor.core.family.size_state import Basis, SizeState, size_job, size_ride_job, state_job
from kelvor.core.family.sizing import MadeSize, Parent, brief_of_size
from kelvor.core.register.kinds.family import Family, FamilySize, Heavier, SizeRule
from kelvor.core.register.record import Record
from kelvor.core.ride.condition import Condition, condition_of
from kelvor.core.shape.board import Board
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.family.shown.families import rider_words
from kelvor.ui.workshop.gestures import Gesture
from kelvor.workshop.writes import AppendStep, LeaveAt

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session

MOST = 24
"""So many sizes a family has at most."""
SAME = 0.05
"""Closer than this two riders weigh the same [kg]."""
TAKEN = "Takes what changed of its parent"


@frozen
class CurrentSize:
    """A size as it stands: its record, its board now, and where that is."""

    record: Record
    board: Board
    board_id: int
    step: int

    @property
    def value(self) -> FamilySize:
        """What is remembered of it."""
        found: FamilySize = self.record.value
        return found


class Families(QObject):
    """The families of a workshop. What is done to them can be taken back; boards that were made stay in the rack."""

    told = Signal()
    """Something was counted, or a family changed."""
    made = Signal(str)
    """Sizes of a family were made."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session = session
        self.states: dict[str, SizeState] = {}
        self.figures: dict[str, Figures] = {}
        self._read: dict[tuple[Path, int], Board] = {}
        self._asked_states: list[tuple[str, Basis, Basis, float, Board]] = []
        self._asked_rides: list[tuple[str, Subject, Condition]] = []
        self._making_for: tuple[str, Family, int, int] | None = None
        failed = partial(session.message.emit, "problem")
        self._making = WorkerQuestion(self, "The sizes were not made", self._made, failed=failed)
        self._state = WorkerQuestion(self, "The sizes were not looked at", self._take_states, failed=failed)
        self._ride = WorkerQuestion(
            self, "The rides of the sizes were not counted", lambda _: self.told.emit(), self._take_ride, failed=failed
        )

    # what there is

    def all(self) -> list[Record]:
        """Every family, by name."""
        return self.session.workshop.registers.of("family")

    def sizes(self, uid: str) -> list[CurrentSize]:
        """The sizes of a family, the lightest rider's first; one whose board cannot be read is left out, and said."""
        found = []
        for record in self.session.workshop.registers.of("size"):
            if record.value.family == uid and record.board is not None:
                try:
                    step, board = self.standing(record.board)
                except KelvorError as error:
                    self.session.message.emit("problem", str(error))
                    continue
                found.append(CurrentSize(record, board, record.board, step))
        return sorted(found, key=lambda size: size.value.mass)

    def standing(self, board_id: int) -> tuple[int, Board]:
        """The version a board stands at, and the board."""
        session, ids = self.session, self.session.workshop.saving.ids
        if ids(board_id) == ids(session.board_id):
            return session.current, session.board
        step = session.workshop.store.left_at(ids(board_id))
        return step, self.at(step)

    def at(self, step: int) -> Board:
        """The board of a version."""
        store = self.session.workshop.store
        key = store.path, self.session.workshop.saving.ids(step)
        if key not in self._read:
            self._read[key] = store.board(key[1])
        return self._read[key]

    def parent_of(self, family: Record) -> tuple[int, Board]:
        """The version the parent stands at, and the board."""
        assert family.board is not None
        return self.standing(family.board)

    def now(self, family: Record) -> Basis:
        """What sizes would be made of now."""
        return self._basis(family.value, self.parent_of(family)[1], family.value.rules, family.value.heavier)

    def then(self, family: Record, size: FamilySize) -> Basis:
        """What a size was made of."""
        return self._basis(family.value, self.at(size.parent), size.rules, size.heavier)

    def _basis(self, family: Family, board: Board, rules: tuple[SizeRule, ...], heavier: Heavier | None) -> Basis:
        other = Parent(self.at(family.other), family.other_mass) if family.other else None
        return Basis(Parent(board, family.mass), rules, other, heavier, self.session.table)

    @property
    def making(self) -> bool:
        """Whether sizes are being made."""
        return self._making.under_way

    # beginning

    def begin(self, name: str, mass: float, masses: Sequence[float], other: tuple[int, float] = (0, 0.0)) -> None:
        """Begin a family of the board on the bench: its sizes are made beside the window, then all is kept at once.

        Raises
        ------
        InputError
            When the name is none, there are no or too many sizes, or the parent waits for the disk.
        """
        session = self.session
        name = typed_name(name, "The family's name")
        if not masses:
            raise InputError(
                "a family needs a size", where="Sizes", accepts="Give riders' masses, such as 55, 65, 80 kg"
            )
        family = Family(
            name=name,
            mass=mass,
            rules=first_rules(session.board, session.brief.discipline),
            other=other[0],
            other_mass=other[1],
        )
        self._ask_sizes("", family, session.board_id, masses)

    def add(self, family: Record, masses: Sequence[float]) -> None:
        """Add sizes to a family; raises like :meth:`begin`."""
        assert family.board is not None
        if len(self.sizes(family.uid)) + len(masses) > MOST:
            raise InputError(f"a family has {MOST} sizes at most", where="Sizes")
        there = {round(size.value.mass, 1) for size in self.sizes(family.uid)}
        twice = [mass for mass in masses if round(mass, 1) in there]
        if twice:
            raise InputError(f"there is a size for {rider_words(twice[0], self.session.system)} already", where="Sizes")
        self._ask_sizes(family.uid, family.value, family.board, masses)

    def _ask_sizes(self, uid: str, family: Family, board_id: int, masses: Sequence[float]) -> None:
        if len(masses) > MOST:
            raise InputError(f"a family has {MOST} sizes at most", where="Sizes")
        self.session.workshop.all_saved("the parent")
        step, board = self.standing(board_id)
        system = self.session.system
        wanted = [(mass, f"{board.name} for {rider_words(mass, system)}") for mass in sorted(set(masses))]
        basis = self._basis(family, board, family.rules, family.heavier)
        self._making_for = (uid, family, board_id, self.session.workshop.saving.ids(step))
        self._making.ask(size_job, [(basis, mass, name) for mass, name in wanted])
        self.told.emit()

    def _made(self, results: list[MadeSize | str]) -> None:
        if self._making_for is None:
            return
        uid, family, board_id, step = self._making_for
        self._making_for = None
        good = [one for one in results if isinstance(one, MadeSize)]
        refused = [one for one in results if isinstance(one, str)]
        if good:
            try:
                uid = self._keep(uid, family, board_id, step, good)
            except KelvorError as error:
                refused.append(str(error))
        if refused:
            self.session.message.emit("problem", " ".join(f"{why.rstrip('.')}." for why in dict.fromkeys(refused)))
        self.told.emit()
        if good and uid:
            self.made.emit(uid)

    def _keep(self, uid: str, family: Family, board_id: int, step: int, made: Sequence[MadeSize]) -> str:
        session, workshop = self.session, self.session.workshop
        brief = self.brief_of(board_id)
        words = f"family “{family.name}”, {len(made)} size{'s' if len(made) > 1 else ''}"
        with workshop.gestures.as_one(words):
            if not uid:
                uid = workshop.registers.keep("family", family, words, board=board_id, step=step)
            for one in made:
                title = f"Size of {family.name} for {rider_words(one.mass, session.system)}"
                size_board, first = session.file.add_beside(one.board, brief_of_size(brief, one.mass), title, step)
                value = FamilySize(family=uid, mass=one.mass, parent=step, rules=family.rules, heavier=family.heavier)
                workshop.registers.keep("size", value, title, origin="computed", board=size_board, step=first)
        return uid

    # changing

    def set_rules(self, family: Record, rules: tuple[SizeRule, ...], words: str) -> None:
        """Other rules; what they change is offered to the sizes. Raises InputError where they contradict each other."""
        check_rules(rules, self.parent_of(family)[1])
        value = replace(family.value, rules=rules)
        self.session.workshop.registers.keep("family", value, f"rules of “{value.name}”: {words}", uid=family.uid)

    def set_heavier(self, family: Record, heavier: Heavier | None) -> None:
        """How sizes for heavy riders are built; what that changes is offered to the sizes."""
        value = replace(family.value, heavier=heavier)
        words = f"from {heavier.since:.0f} kg on {heavier.construction.name}" if heavier else "built as the parent"
        self.session.workshop.registers.keep("family", value, f"sizes of “{value.name}” {words}", uid=family.uid)

    def without(self, size: CurrentSize) -> None:
        """Take a size out of its family; its board stays."""
        self.session.workshop.registers.take_off(size.record.uid, f"“{size.board.name}” taken out of its family")

    def mark(self, family: Record) -> str:
        """What parent and rules are now, as a short mark."""
        step, _ = self.parent_of(family)
        told = repr((family.value.rules, family.value.heavier)).encode()
        return f"{self.session.workshop.saving.ids(step)}/{zlib.crc32(told):08x}"

    def offered(self, family: Record, size: CurrentSize) -> bool:
        """Whether something is offered to a size that was not refused."""
        state = self.states.get(size.record.uid)
        return state is not None and state.offer is not None and size.value.refused != self.mark(family)

    def take(self, family: Record, size: CurrentSize) -> bool:
        """Let a size take what changed of parent and rules: one step of its board."""
        state, session = self.states.get(size.record.uid), self.session
        if state is None or state.offer is None:
            return False
        workshop = session.workshop
        step, _ = self.parent_of(family)
        with workshop.gestures.as_one(f"“{size.board.name}” takes what changed"):
            if not self._append(size, state):
                return False
            now = family.value
            value = replace(
                size.value, parent=workshop.saving.ids(step), rules=now.rules, heavier=now.heavier, refused=""
            )
            workshop.registers.keep("size", value, TAKEN, uid=size.record.uid, origin="computed")
        return True

    def leave(self, family: Record, size: CurrentSize) -> None:
        """Leave a size as it is; the same is not offered again."""
        value = replace(size.value, refused=self.mark(family))
        words = f"“{size.board.name}” left as it is"
        self.session.workshop.registers.keep("size", value, words, uid=size.record.uid, origin="computed")

    def _append(self, size: CurrentSize, state: SizeState) -> bool:
        session, saving, offer = self.session, self.session.workshop.saving, state.offer
        assert offer is not None
        if saving.ids(size.board_id) == saving.ids(session.board_id):
            return session.commit(offer, state.changes, title=TAKEN, held=True)
        board_id = saving.ids(size.board_id)
        live = session.drawn(offer, session.workshop.store.brief(board_id))
        step, before = session.workshop.new_id(), size.step
        number = max(s.number for s in session.workshop.store.steps(board_id).values()) + 1
        volume = live.geometry.solid.volume
        saving.put(AppendStep(step, board_id, before, number, offer, state.changes, TAKEN, "", volume))

        def stand(at: int) -> None:
            saving.put(LeaveAt(board_id, saving.ids(at)))
            self.told.emit()

        stand(step)
        session.workshop.gestures.did(Gesture(TAKEN, lambda: stand(before), lambda: stand(step)))
        return True

    # counting

    def count(self, family: Record) -> None:
        """Ask where the sizes of a family stand, and how they ride under their own riders; what is known is kept."""
        session, sizes, now = self.session, self.sizes(family.uid), self.now(family)
        asked = [(s.record.uid, self.then(family, s.value), now, s.value.mass, s.board) for s in sizes]
        if asked != self._asked_states:
            self._asked_states, self.states = asked, {}
            self._state.ask(state_job, [row[1:] for row in asked])
        assert family.board is not None
        brief = self.brief_of(family.board)
        mass = family.value.mass
        own = brief if abs(brief.rider.mass - mass) < SAME else brief_of_size(brief, mass)
        riders = [(family.uid, own, now.parent.board)]
        riders += [(s.record.uid, brief_of_size(brief, s.value.mass), s.board) for s in sizes]
        rides = [
            (uid, Subject(board, own, session.table, session.coefficients), condition_of(own))
            for uid, own, board in riders
        ]
        if rides != self._asked_rides:
            known = {row[0]: row[1:] for row in self._asked_rides}
            self._asked_rides = rides
            kept = {uid for uid, *asked in rides if known.get(uid) == tuple(asked)}
            self.figures = {uid: figures for uid, figures in self.figures.items() if uid in kept}
            self._ride.ask(size_ride_job, [row for row in rides if row[0] not in self.figures])

    def brief_of(self, board_id: int) -> Brief:
        """The brief of a board."""
        session, ids = self.session, self.session.workshop.saving.ids
        here = ids(board_id) == ids(session.board_id)
        return session.brief if here else session.workshop.store.brief(ids(board_id))

    def _take_states(self, results: list[SizeState]) -> None:
        self.states = {row[0]: state for row, state in zip(self._asked_states, results, strict=True)}
        self.told.emit()

    def _take_ride(self, _: int, result: tuple[str, Figures] | None) -> None:
        if result is not None:
            self.figures[result[0]] = result[1]
            self.told.emit()

    def quantity(self, family: Record, about: str) -> Quantity:
        """The kind of value a rule is about."""
        return quantity_about(self.parent_of(family)[1], about)
