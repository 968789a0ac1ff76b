"""What is known of the chosen board: how it stands, what was decided and why, what was said and by whom."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import text_of, typed_name
from kelvor.core.rack.cards import CardWords
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.core.register.record import Record, Verdict
from kelvor.ui.controls.panel import heading, panel, plain_label, problem_label
from kelvor.ui.rack.decide_row import DecideRow
from kelvor.ui.rack.shown.rack import MARKS, lineage_words, sizes, state
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

if TYPE_CHECKING:
    from kelvor.core.base.figures import Origin
    from kelvor.core.rack.cards import Card
    from kelvor.core.rack.search import SearchHit

WORDS_SHOWN, CHANGES_SHOWN = 14, 5
WAY_AFTER = 4.0
"""What was decided and felt stands before the changes, reasons and the brief after them."""
ORIGINS: tuple[tuple[Origin, str], ...] = (("felt", "felt"), ("claimed", "claimed"), ("measured", "measured"))


class Details(QWidget):
    """The right side of the rack."""

    def __init__(
        self,
        session: Session,
        open_board: Callable[[str], None],
        lay_behind: Callable[[], None],
        compare: Callable[[], None],
    ) -> None:
        super().__init__()
        self.session, self._open = session, open_board
        self._card: Card | None = None
        self._records: dict[str, Record] = {}
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        frame = panel()
        outer.addWidget(frame)
        column = QVBoxLayout(frame)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(6)
        self.name = heading("")
        self.name.setTextFormat(Qt.TextFormat.PlainText)
        self.name.setWordWrap(True)
        self.sizes, self.stands = plain_label(), plain_label()
        self.stands.setObjectName("quiet")
        self.stands.setWordWrap(True)
        for label in (self.name, self.sizes, self.stands):
            column.addWidget(label)
        column.addLayout(self._buttons(lay_behind, compare))
        self.written = QVBoxLayout()
        self.written.setSpacing(8)
        holder = QWidget()
        holder.setObjectName("sheet")
        holder.setLayout(self.written)
        self.written.setContentsMargins(0, 6, 6, 0)
        self.written.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(holder)
        column.addWidget(scroll, 1)
        self.deciding = DecideRow()
        self.deciding.decided.connect(self.decide)
        self.why, self.verdicts = self.deciding.why, self.deciding.verdicts
        column.addWidget(self.deciding)
        self._say_row(column)
        self.problem = problem_label()
        self.problem.setVisible(False)
        column.addWidget(self.problem)

    def _buttons(self, lay_behind: Callable[[], None], compare: Callable[[], None]) -> QHBoxLayout:
        buttons = QHBoxLayout()
        self.open = QPushButton("Open")
        self.open.clicked.connect(lambda: self._open(self._card.key if self._card else ""))
        self.behind = QPushButton("Lay behind")
        self.behind.setToolTip("Show the chosen boards behind the one on the bench")
        self.behind.clicked.connect(lay_behind)
        buttons.addWidget(self.open)
        self.compare = QPushButton("Compare")
        self.compare.setToolTip("The chosen boards against the one on the bench")
        self.compare.clicked.connect(compare)
        buttons.addWidget(self.behind)
        buttons.addWidget(self.compare)
        return buttons

    def _say_row(self, column: QVBoxLayout) -> None:
        label = plain_label()
        label.setObjectName("group")
        label.setText("What was said of it")
        column.addWidget(label)
        self.words = QPlainTextEdit()
        self.words.setAccessibleName("Words, as they were said")
        self.words.setPlaceholderText("as it was said, word for word")
        self.words.setFixedHeight(52)
        self.words.setTabChangesFocus(True)
        column.addWidget(self.words)
        row = QHBoxLayout()
        self.who, self.rides = QLineEdit(), QLineEdit()
        for field, name in ((self.who, "who"), (self.rides, "how they ride")):
            field.setAccessibleName(name.capitalize())
            field.setPlaceholderText(name)
            row.addWidget(field)
        column.addLayout(row)
        row = QHBoxLayout()
        self.origin = QComboBox()
        self.origin.setAccessibleName("Where it comes from")
        for key, words in ORIGINS:
            self.origin.addItem(words, key)
        self.say = QPushButton("Write it down")
        self.say.clicked.connect(self.write_down)
        row.addWidget(self.origin)
        row.addWidget(self.say, 1)
        column.addLayout(row)

    # showing

    def show_found(self, found: SearchHit | None, cards: list[Card]) -> None:
        """Show what is known of a board."""
        card = found.card if found is not None else None
        if (self._card.key if self._card else "") != (card.key if card else ""):
            self._tell("")
        self._card = card
        system = self.session.system
        self.name.setText(card.name if card else "No board")
        self.sizes.setText(sizes(card, system) if card else "")
        parent = next((c.name for c in cards if card and card.parent and c.board == card.parent), "")
        children = [c.name for c in cards if card and card.board and c.parent == card.board]
        stands = [card.discipline, state(card, time.time())] if card else []
        if parent:
            stands.append(f"made from {parent}")
        if children:
            stands.append(f"parent of {', '.join(children)}")
        foam = next((c.name for c in cards if card and card.cut_from and c.board == card.cut_from), "")
        cut = [c.name for c in cards if card and card.board and c.cut_from == card.board]
        if foam:
            stands.append(f"to be cut out of {foam}")
        if cut:
            stands.append(f"its foam becomes {', '.join(cut)}")
        self.stands.setText(", ".join(part for part in stands if part))
        drawn = card is not None and bool(card.board)
        for widget in (
            self.open,
            self.why,
            *self.verdicts.values(),
            self.words,
            self.who,
            self.rides,
            self.origin,
            self.say,
        ):
            widget.setEnabled(drawn)
        self._list_words(found)

    def _lineage(self, card: Card) -> list[str]:
        """What differed on the way, in the words of the tape; nothing while the file is held."""
        if not card.board:
            return []
        session = self.session
        try:
            steps = session.steps if card.board == session.board_id else session.workshop.store.steps(card.board)
        except InputError:
            return []
        return lineage_words(steps, card.step, session.system)

    def _list_words(self, found: SearchHit | None) -> None:
        while self.written.count() > 1:
            item = self.written.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        if found is None:
            return
        card = found.card
        first = [said for said in found.by if said in card.words]
        kept = sorted(
            (said for said in reversed(card.words) if said not in first and said.text.strip()),
            key=lambda said: -said.weight,
        )
        registers = self.session.workshop.registers
        records = [r for r in registers.of("said", "decision") if r.board == card.board and card.board]
        way = self._lineage(card)
        if way:
            more = f"\nand {len(way) - CHANGES_SHOWN} before" if len(way) > CHANGES_SHOWN else ""
            kept.insert(
                sum(said.weight >= WAY_AFTER for said in kept),
                CardWords("what differed on the way", "\n".join(way[:CHANGES_SHOWN]) + more),
            )
        for said in (first + kept)[:WORDS_SHOWN]:
            row = QWidget()
            column = QVBoxLayout(row)
            column.setContentsMargins(0, 0, 0, 0)
            column.setSpacing(2)
            where, words = plain_label(), plain_label()
            where.setObjectName("quiet")
            where.setFont(font(12))
            where.setText(said.where)
            where.setWordWrap(True)
            words.setText(said.text.strip()[:600])
            words.setWordWrap(True)
            if said in first:
                words.setFont(font(13, 600))
            column.addWidget(where)
            column.addWidget(words)
            struck = next(
                (
                    r
                    for r in records
                    if isinstance(r.value, Said) and said.text == r.value.words and said.step == r.step
                ),
                None,
            )
            if struck is not None:
                button = QPushButton("Strike it")
                button.setToolTip("It stays in the file, struck; give the reason under “why”")
                button.clicked.connect(lambda _=False, record=struck: self.strike(record))
                column.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
            self.written.insertWidget(self.written.count() - 1, row)

    def _tell(self, words: str) -> None:
        self.problem.setText(words)
        self.problem.setVisible(bool(words))

    # doing

    def decide(self, verdict: Verdict) -> bool:
        """Keep, drop or park the version the board stands at; no reason is needed, but it is what is looked
        for later.
        """
        card = self._card
        if card is None or not card.board:
            return False
        try:
            why = typed_name(self.why.text(), "Why", text_of(Decision, "why"))
            who = typed_name(self.who.text(), "Who", text_of(Decision, "who"))
        except KelvorError as error:
            self._tell(str(error))
            return False
        decision = Decision(verdict=verdict, why=why, who=who)
        self.session.workshop.registers.decide(
            card.step, card.board, decision, f"{MARKS[verdict].lower()}, {card.name}, version {card.number}"
        )
        self.why.clear()
        self._tell("")
        return True

    def write_down(self) -> bool:
        """Write down what was said, verbatim."""
        card = self._card
        if card is None or not card.board:
            return False
        try:
            said = Said(
                words=typed_name(self.words.toPlainText().strip(), "What was said", text_of(Said, "words")),
                who=typed_name(self.who.text().strip(), "Who", text_of(Said, "who")),
                rides=typed_name(self.rides.text().strip(), "How they ride", text_of(Said, "rides")),
            )
        except KelvorError as error:
            self._tell(str(error))
            return False
        self.session.workshop.registers.keep(
            "said",
            said,
            f"words of {said.who or 'somebody'} about {card.name}",
            origin=self.origin.currentData(),
            board=card.board,
            step=card.step,
        )
        self.words.clear()
        self._tell("")
        return True

    def strike(self, record: Record) -> bool:
        """Strike words with a reason; they stay in the file."""
        try:
            reason = typed_name(self.why.text(), "The reason", text_of(Said, "struck"))
        except KelvorError as error:
            self._tell(str(error))
            return False
        if not reason:
            self._tell("Give the reason under “why”, then strike it again.")
            self.why.setFocus()
            return False
        self.session.workshop.registers.keep(
            "said", replace(record.value, struck=reason), "struck words", uid=record.uid, origin=record.origin
        )
        self.why.clear()
        self._tell("")
        return True
