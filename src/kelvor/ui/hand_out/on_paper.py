"""Paper that is written beside the window: asked where it goes, said when it is there."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from kelvor.ui.background.runner import WorkerQuestion

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window


class OnPaper:
    """What papers of a window share."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.session = window.session
        self._sheets = WorkerQuestion(
            window.session, "It was not written", self._written, failed=self._not_done, here=True
        )

    def _ask(self, title: str, name: str, write: Callable[[Path], None]) -> None:
        window = self._window
        window.files.ask_where(title, "On paper (*.pdf)", name, lambda path: window.guarded(lambda _: write(path)))

    def _written(self, found: list[Path]) -> None:
        self.session.message.emit("note", f"Written: {found[0]}")

    def _not_done(self, words: str) -> None:
        self.session.message.emit("problem", words)
