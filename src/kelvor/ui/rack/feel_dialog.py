"""Words that mean the same when the riders of this workshop speak: the search finds one by another."""

from __future__ import annotations

from PySide6.QtWidgets import QListWidget, QPushButton, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import field_problems, with_plain_texts
from kelvor.core.rack.feel import FEEL
from kelvor.core.register.kinds.words import Feel
from kelvor.core.register.record import record_name
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session


class FeelDialog(Panel):
    """The workshop's own groups, to add and take away; the usual ones to read."""

    guide = "keep#rack"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Words that mean the same", "Add")
        self.session = session
        self.explain(
            "The search finds “sticky” where somebody typed “stuck”. Add what your riders say, with commas between."
        )
        self.words = self.field("They mean the same", "")
        self.words.setPlaceholderText("like a train, tracks hard, won't turn")
        self.list = QListWidget()
        self.list.setAccessibleName("Groups of words")
        self.list.setMinimumSize(520, 300)
        self.list.setWordWrap(True)
        self.column.insertWidget(3, self.list)
        self.off = QPushButton("Take the chosen one off")
        self.off.setAutoDefault(False)
        self.off.clicked.connect(self.take_off)
        self.column.insertWidget(4, self.off)
        session.workshop.records_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the groups: the workshop's own first."""
        self.list.clear()
        self._own = self.session.workshop.registers.of("feel")
        for record in self._own:
            self.list.addItem(f"{record_name(record)}  (yours)")
        for group in FEEL:
            self.list.addItem(", ".join(group))

    def take_off(self) -> None:
        """One of the workshop's own groups; the usual ones stay."""
        row = self.list.currentRow()
        if not 0 <= row < len(self._own):
            self.problem.setText("Choose one of yours: the usual ones stay.")
            return
        self.problem.setText("")
        self.session.workshop.registers.take_off(self._own[row].uid, "words that mean the same")

    def act(self) -> bool:
        """Add a group; the window stays for the next."""
        given = tuple(dict.fromkeys(word.strip().lower() for word in self.words.text().split(",") if word.strip()))
        value = with_plain_texts(Feel(words=given))
        wrong = field_problems(value)
        if len(given) < 2 or wrong:
            raise InputError(
                wrong[0].sentence() if wrong else "one word alone means nothing else",
                accepts="Give two or more, with commas between",
            )
        self.session.workshop.registers.keep("feel", value, "words that mean the same")
        self.words.clear()
        self.problem.setText("")
        return False
