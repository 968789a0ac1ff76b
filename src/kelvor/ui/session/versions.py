"""The versions of the board on the bench: walked, compared with, given reasons and marks."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING

from kelvor.core.history.steps import FrozenAs, ahead, steps_to, without_last
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.ui.workshop.gestures import Gesture
from kelvor.workshop.writes import Pin, SetReason, StepMark

if TYPE_CHECKING:
    from kelvor.core.register.kinds.words import Decision
    from kelvor.ui.session.session import Session
    from kelvor.ui.workshop.workshop import Workshop


class Versions:
    """What is done to steps that are there."""

    def __init__(self, session: Session) -> None:
        self._session = session

    @property
    def _workshop(self) -> Workshop:
        return self._session.workshop

    def go_to(self, step_id: int) -> None:
        """Stand on a step."""
        self._workshop.when_free(lambda: self._go_to(step_id))

    def _go_to(self, step_id: int) -> None:
        before = self._session.current
        if self._session.stand_on(step_id):
            self._workshop.did(
                f"to version {self._session.step().number}", lambda: self.walk(before), lambda: self.walk(step_id)
            )

    def walk(self, step_id: int) -> None:
        """Stand on a step, as undo does."""

        def stand() -> None:
            self._session.stand_on(step_id)

        self._workshop.when_free(stand)

    def step_back(self) -> None:
        """One gesture of the board's steps back, as something that is done."""
        target = self._step_before()
        if target is not None:
            self.go_to(target)

    def step_on(self) -> None:
        """One gesture on, along the newest branch, as something that is done."""
        target = self._step_after()
        if target is not None:
            self.go_to(target)

    def take_back(self) -> None:
        """One gesture of the board's steps back, as undo does once the window's own gestures are used up."""
        target, here = self._step_before(), self._session.current
        if target is None:
            self._session.message.emit("note", "Nothing to take back: this is how the board began.")
            return
        words = f"version {self._session.steps[here].number}"
        self.walk(target)
        self._workshop.gestures.taken_back(Gesture(words, lambda: self.walk(target), lambda: self.walk(here)))
        self._session.message.emit("note", f"Taken back: {words}.")

    def do_again(self) -> None:
        """One gesture on, as redo does."""
        target, here = self._step_after(), self._session.current
        if target is not None:
            words = f"version {self._session.steps[target].number}"
            self.walk(target)
            self._workshop.gestures.done_again(Gesture(words, lambda: self.walk(here), lambda: self.walk(target)))
            self._session.message.emit("note", f"Done again: {words}.")

    def _step_before(self) -> int | None:
        line = steps_to(self._session.steps, self._session.current)
        step = line[-1]
        index = len(line) - 1
        while index > 0 and step.gesture and line[index - 1].gesture == step.gesture:
            index -= 1
        return line[index - 1].id if index > 0 else None

    def _step_after(self) -> int | None:
        line = ahead(self._session.steps, self._session.current)
        if not line:
            return None
        index = 0
        while index + 1 < len(line) and line[0].gesture and line[index + 1].gesture == line[0].gesture:
            index += 1
        return line[index].id

    def pin(self, step_id: int | None) -> None:
        """Pin a step to compare with."""
        self._workshop.when_free(lambda: self._pin_done(step_id))

    def _pin_done(self, step_id: int | None) -> None:
        before = self._session.overlays.step
        self._pin(step_id)
        words = "no reference" if step_id is None else f"the reference, version {self._session.steps[step_id].number}"
        self._workshop.did(words, lambda: self._pin_back(before), lambda: self._pin_back(step_id))

    def _pin_back(self, step_id: int | None) -> None:
        self._workshop.when_free(lambda: self._pin(None if step_id is None else self._workshop.saving.ids(step_id)))

    def _pin(self, step_id: int | None) -> None:
        self._session.overlays.show(step_id)
        self._workshop.saving.put(Pin(self._session.board_id, step_id))

    def set_reason(self, step_id: int, words: str) -> None:
        """Write why a step was made."""
        step_id = self._workshop.saving.ids(step_id)
        if step_id in self._session.steps and words != (before := self._session.steps[step_id].reason):
            self._put_reason(step_id, words)
            number = self._session.steps[step_id].number
            self._workshop.did(
                f"why version {number}",
                lambda: self._put_reason(step_id, before),
                lambda: self._put_reason(step_id, words),
            )

    def _put_reason(self, step_id: int, words: str) -> None:
        """Write a reason, also of a version whose board is not on the bench: it may be taken back from another."""
        step_id = self._workshop.saving.ids(step_id)
        write = self._workshop.saving.admitted(SetReason(step_id, words), "why a version was made")
        self._workshop.saving.put(write)
        if step_id in self._session.steps:
            self._session.steps[step_id] = replace(self._session.steps[step_id], reason=write.text)
            self._session.steps_changed.emit()

    def freeze(self, step_id: int, kind: FrozenAs, serial: str) -> None:
        """Mark a step as drawn, cut, laminated or ridden."""
        self._put_mark(step_id, kind, serial, on=True)
        self._workshop.did(
            f"the mark “{kind}”",
            lambda: self._put_mark(step_id, kind, serial, on=False),
            lambda: self._put_mark(step_id, kind, serial, on=True),
        )

    def decide(self, step_id: int, decision: Decision) -> None:
        """Keep, drop or park a step of the board on the bench; an earlier decision on it is written anew."""
        step_id, registers = self._workshop.saving.ids(step_id), self._workshop.registers
        number = self._session.steps[step_id].number
        registers.decide(step_id, self._session.board_id, decision, f"version {number} {decision.verdict}")

    def _put_mark(self, step_id: int, kind: FrozenAs, serial: str, *, on: bool) -> None:
        step_id = self._workshop.saving.ids(step_id)
        step = self._session.steps[step_id]
        write = self._workshop.saving.admitted(StepMark(step_id, kind, serial, on), f"the mark “{kind}”")
        mark = kind, write.serial
        marks = (*step.frozen, mark) if on else without_last(step.frozen, mark)
        self._session.steps[step_id] = replace(step, frozen=marks)
        self._workshop.saving.put(write)
        self._session.steps_changed.emit()

    def serial(self) -> str:
        """The serial of the made board that is chosen, where it is made of the version on the bench; else the one the
        version was marked with last.
        """
        marked = (serial for _, serial in reversed(self._session.step().frozen) if serial)
        return self._session.made.serial() or next(marked, "")

    def stamp(self) -> Stamp:
        """The stamp of the version on the bench, today."""
        day, session = datetime.now().astimezone().date().isoformat(), self._session
        number, code = session.step().number, code_of(session.board)
        return Stamp(design=session.board.name, code=code, version=number, serial=self.serial(), day=day)

    def handed_out(self, name: str, stamp: Stamp, step: int) -> None:
        """Something of a version left the program: its code finds that version from now on."""
        from kelvor.core.register.kinds.shop import HandedOut

        value = HandedOut(name=name, code=stamp.code, serial=stamp.serial, day=stamp.day)
        step = self._workshop.saving.ids(step)
        self._workshop.registers.note(
            "handed out", value, f"{name} handed out", board=self._session.board_id, step=step
        )
