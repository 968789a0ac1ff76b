"""Paper of the Family view: rule sheet, size chart, matrix of options; and class rules as files."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from kelvor.core.register.record import Record
from kelvor.ui.hand_out.on_paper import OnPaper

if TYPE_CHECKING:
    from kelvor.exchange.paper import Chapter
    from kelvor.ui.family.class_rules import ClassRules


class FamilyPapers(OnPaper):
    """Papers of a family, under the stamp of the version on the bench."""

    def ask(self, title: str, name: str, chapters: Sequence[Chapter], caution: str) -> None:
        """Ask where a paper goes."""
        self._ask(title, f"{name}.pdf", partial(self.write, title, chapters, caution))

    def write(self, title: str, chapters: Sequence[Chapter], caution: str, path: Path) -> None:
        """Write it, beside the window."""
        from kelvor.exchange.paper import write_chapters

        stamp = self.session.versions.stamp()
        self._sheets.ask(write_chapters, [(title, stamp.words, list(chapters), caution, path, True)])
        self.session.versions.handed_out(title, stamp, self.session.current)

    def read_rule(self, rules: ClassRules) -> None:
        """Ask for a file with a class rule."""
        window = self._window
        dialog = window.files.file_dialog("Class rule", "Class rules (*.json)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: window.guarded(lambda _: self.read_rule_from(rules, Path(path))))
        window.dialogs.show(dialog)

    def read_rule_from(self, rules: ClassRules, path: Path) -> str:
        """Take a class rule out of a file; its identity. Raises InputError, DocumentError."""
        from kelvor.exchange.documents import read_rule

        uid = rules.keep(read_rule(path))
        self.session.message.emit("note", f"Class rule read from {path.name}.")
        return uid

    def write_rule(self, record: Record) -> None:
        """Ask where a class rule goes."""
        window, name = self._window, f"{record.value.name}.json"
        window.files.ask_where(
            "Class rule",
            "Class rules (*.json)",
            name,
            lambda path: window.guarded(lambda _: self.write_rule_to(record, path)),
        )

    def write_rule_to(self, record: Record, path: Path) -> None:
        """Write a class rule as a file."""
        from kelvor.exchange.documents import rule_text
        from kelvor.files import written_whole

        with written_whole(path, over=True) as temporary:
            temporary.write_text(rule_text(record.value), encoding="utf-8")
        self._written([path])
