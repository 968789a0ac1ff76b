"""One history of what a window's user did: boards, briefs, tables and marks in the order they were done."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace

from kelvor.core.base.values import frozen


@frozen
class Gesture:
    """Something that was done: in words, how it is taken back, and how it is done again.

    Gestures that follow one another with the same `key` are one.
    """

    words: str
    back: Callable[[], object]
    again: Callable[[], object]
    key: str = ""


class Gestures:
    """What was done and what was taken back. It belongs to its window: another window's doings are not in it."""

    def __init__(self) -> None:
        self._done: list[Gesture] = []
        self._undone: list[Gesture] = []
        self._meanwhile: list[Gesture] | None = None
        """What is done while another is taken back or done again, such as half-typed words that are taken."""

    @property
    def last(self) -> str:
        """What would be taken back, in words; nothing where nothing was done."""
        return self._done[-1].words if self._done else ""

    @property
    def next(self) -> str:
        """What would be done again, in words."""
        return self._undone[-1].words if self._undone else ""

    def did(self, gesture: Gesture) -> None:
        """Something was done: what was taken back before cannot be done again any more."""
        if self._meanwhile is not None:
            self._meanwhile.append(gesture)
            return
        self._undone.clear()
        if gesture.key and self._done and self._done[-1].key == gesture.key:
            gesture = replace(gesture, back=self._done.pop().back)
        self._done.append(gesture)

    @contextmanager
    def as_one(self, words: str) -> Iterator[None]:
        """What is done meanwhile is one gesture."""
        done = self._done if self._meanwhile is None else self._meanwhile
        before = len(done)
        yield
        made = tuple(done[before:])
        if len(made) > 1:
            del done[before:]
            done.append(Gesture(words, lambda: [g.back() for g in reversed(made)], lambda: [g.again() for g in made]))

    def undo(self) -> str:
        """Take back what was done last and say what; nothing where there is nothing. What cannot be taken back stays,
        and raises.
        """
        return self._move(self._done, self._undone, lambda gesture: gesture.back())

    def redo(self) -> str:
        """Do again what was taken back last and say what; nothing where there is nothing."""
        return self._move(self._undone, self._done, lambda gesture: gesture.again())

    def taken_back(self, gesture: Gesture) -> None:
        """Something from before this window's time was taken back, and can be done again."""
        self._undone.append(gesture)

    def done_again(self, gesture: Gesture) -> None:
        """Something from before this window's time was done again, and can be taken back; what else was taken back
        stays so.
        """
        self._done.append(gesture)

    def forget(self) -> None:
        """Another workshop."""
        self._done.clear()
        self._undone.clear()

    def _move(self, source: list[Gesture], target: list[Gesture], act: Callable[[Gesture], object]) -> str:
        if not source:
            return ""
        gesture, self._meanwhile = source.pop(), []
        try:
            act(gesture)
        except BaseException:
            source.append(gesture)
            raise
        else:
            if target is self._done:  # words that were taken for it were typed before it
                target += self._meanwhile
                self._meanwhile = []
            target.append(gesture)
        finally:
            self._done += self._meanwhile
            self._meanwhile = None
        return gesture.words
