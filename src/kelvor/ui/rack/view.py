"""The rack: every board of the workshop as a card; found by typing, put in order, decided on, opened."""

from __future__ import annotations

from contextlib import suppress
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QHideEvent, QKeyEvent, QShowEvent
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QStackedWidget,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.evaluation.subject import Subject
from kelvor.core.rack.cards import Card, Drawn
from kelvor.core.rack.rack_jobs import card_job
from kelvor.core.rack.search import Index, range_words
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.background.timers import single_shot
from kelvor.ui.controls.panel import plain_label, problem_label
from kelvor.ui.rack.cards import CardsView
from kelvor.ui.rack.details import Details
from kelvor.ui.rack.notebook import Notebook
from kelvor.ui.rack.shown.rack import GROUPS, ORDERS, arranged, by_parentage, counted_words, sizes
from kelvor.ui.session.overlays import Wanted, lay_behind
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour, font
from kelvor.workshop.opening import FileHeld
from kelvor.workshop.rack import ON_CARDS, cards
from kelvor.workshop.writes import KeepCards

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window

AT_ONCE = 12
"""So many boards are sent to be counted in one go."""
RENEW_MS = 120
"""So many boards may lie behind the one on the bench."""


class RackView(QWidget):
    """Search and cards on the left, what is known of the chosen board on the right."""

    def __init__(self, session: Session, window: Window) -> None:
        super().__init__()
        self.session, self._window = session, window
        self.setObjectName("ground")
        self._cards: list[Card] = []
        self._index = Index([])
        self._asked_steps: list[int] = []
        self._refused: set[int] = set()
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 4)
        row.setSpacing(8)
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addLayout(self._bar())
        left.addWidget(self.count)
        self.told = problem_label()
        self.told.setVisible(False)
        left.addWidget(self.told)
        self.view = CardsView()
        self.view.opened.connect(self.open)
        self.view.typed.connect(self._typed_on)
        self.view.selectionModel().currentChanged.connect(self._chosen)
        self.tree = QTreeWidget()
        self.tree.setAccessibleName("Lineage")
        self.tree.setHeaderLabels(["Board", "Sizes", "Versions", "Decision", "How it began"])
        self.tree.setColumnWidth(0, 230)
        self.tree.setColumnWidth(1, 210)
        self.tree.setColumnWidth(2, 70)
        self.tree.setColumnWidth(3, 80)
        self.tree.itemActivated.connect(lambda item: self.open(item.data(0, Qt.ItemDataRole.UserRole)))
        self.tree.currentItemChanged.connect(self._kin_chosen)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.view)
        self.pages.addWidget(self.tree)
        left.addWidget(self.pages, 1)
        self.notebook = Notebook(session)
        self.notebook.setVisible(False)
        left.addWidget(self.notebook)
        row.addLayout(left, 1)
        self.details = Details(session, self.open, self.lay_behind, self.compare)
        self.details.setFixedWidth(330)
        row.addWidget(self.details)
        self._timer = single_shot(self, RENEW_MS, self.read)
        self._counting = WorkerQuestion(self, "The cards were not drawn", self._counted, failed=self._not_counted)
        session.steps_changed.connect(self._renew)
        session.board_opened.connect(self._renew)
        session.units_changed.connect(self.show_found)
        session.workshop.waiting_changed.connect(self._renew)

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setSpacing(8)
        self.query = QLineEdit()
        self.query.setAccessibleName("Find boards")
        self.query.setPlaceholderText("Find: words, feelings, figures — wing foil 33–40 L sticks")
        self.query.setClearButtonEnabled(True)
        self.query.textChanged.connect(self.show_found)
        self.query.returnPressed.connect(self._open_first)
        self.query.installEventFilter(self)
        bar.addWidget(self.query, 1)
        self.group, self.order = QComboBox(), QComboBox()
        for box, name, choices in ((self.group, "Group", GROUPS), (self.order, "Order", ORDERS)):
            box.setAccessibleName(name)
            for key, words in choices:
                box.addItem(words, key)
            box.currentIndexChanged.connect(self.show_found)
            bar.addWidget(box)
        self.lineage = QPushButton("Lineage")
        self.lineage.setCheckable(True)
        self.lineage.toggled.connect(self._lineage)
        bar.addWidget(self.lineage)
        self.from_notebook = QPushButton("Old boards…")
        self.from_notebook.setToolTip("Boards that are only a page of a notebook: a name, sizes, words, a photo")
        self.from_notebook.setCheckable(True)
        self.from_notebook.toggled.connect(self._notebook)
        bar.addWidget(self.from_notebook)
        self.count = plain_label()
        self.count.setObjectName("quiet")
        self.count.setFont(font(12))
        return bar

    # reading

    def showEvent(self, event: QShowEvent) -> None:
        """What happened meanwhile is read when the rack comes into view."""
        super().showEvent(event)
        self.read()
        self.query.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        """Out of view nothing is read or counted."""
        self._timer.stop()
        self._counting.drop()
        super().hideEvent(event)

    def _renew(self) -> None:
        if self.isVisible():
            self._timer.start()

    def read(self) -> None:
        """Read the rack anew; while another program holds the file, soon again."""
        store = self.session.workshop.store
        try:
            self._cards = cards(store, self.session.workshop.registers.of(*ON_CARDS))
            for card in self._cards:
                if card.photo and not self.view.knows_photo(card.photo):
                    with suppress(InputError):
                        self.view.show_photo(card.photo, store.records.blob(card.photo))
        except FileHeld:
            self._timer.start()
            return
        except InputError as error:
            self.session.message.emit("problem", str(error))
            return
        own = tuple(record.value.words for record in self.session.workshop.registers.of("feel"))
        self._index = Index(self._cards, own)
        self.view.here = str(self.session.board_id)
        self._count_some()
        self.show_found()
        if self.lineage.isChecked():
            self._fill_tree()

    def _count_some(self) -> None:
        """Have some boards counted that are not yet."""
        if self._counting.under_way or self.session.workshop.store.damages is not None:
            return
        waiting = [
            card for card in self._cards if not card.counted and card.step > 0 and card.step not in self._refused
        ][:AT_ONCE]
        jobs = []
        self._asked_steps = []
        for card in waiting:
            try:
                store = self.session.workshop.store
                session = self.session
                jobs.append(
                    (Subject(store.board(card.step), store.brief(card.board), session.table, session.coefficients),)
                )
                self._asked_steps.append(card.step)
            except FileHeld:
                return
            except InputError:
                self._refused.add(card.step)
        if jobs:
            self._counting.ask(card_job, jobs)

    def _counted(self, results: list[Drawn | None]) -> None:
        known = {step: drawn for step, drawn in zip(self._asked_steps, results, strict=True) if drawn is not None}
        self._refused |= set(self._asked_steps) - set(known)
        if known:
            self.session.workshop.saving.put(KeepCards(known))
        self._renew()

    def _not_counted(self, words: str) -> None:
        self._refused |= set(self._asked_steps)
        self.session.message.emit("problem", words)

    # showing

    def show_found(self) -> None:
        """Show what is asked for, in the order and the groups that are chosen."""
        typed = self.query.text()
        found, query = self._index.find(typed)
        asked = bool(query.phrases)
        model = self.view.cards
        kept, chosen = self.view.current(), {card.key for card in self.view.chosen()}
        model.asked, model.order, model.system = asked, str(self.order.currentData()), self.session.system
        names = {card.board: card.name for card in self._cards if card.board}
        model.show_groups(arranged(found, model.order, str(self.group.currentData()), names, asked=asked))
        whole = not found or found[0].whole
        self.count.setText(counted_words(len(found), self._cards, asked=bool(typed.strip()), whole=whole))
        told = range_words(query, self._cards)
        if typed.strip() and not found and not told:
            told = ["Nothing is written like that. Try fewer words, or one that the notebook would use."]
        self.told.setText(" ".join(told))
        self.told.setVisible(bool(told))
        if asked or kept is None or not self.view.choose(kept.card.key):
            row = model.first() if asked or model.row_of(self.view.here) < 0 else model.row_of(self.view.here)
            self.view.setCurrentIndex(model.index(row))
        if len(chosen) > 1:
            self.view.choose_again(chosen)
        self._chosen()

    def _chosen(self) -> None:
        if self.pages.currentWidget() is self.view:
            self.details.show_found(self.view.current(), self._cards)

    def _kin_chosen(self, item: QTreeWidgetItem | None) -> None:
        key = item.data(0, Qt.ItemDataRole.UserRole) if item is not None else ""
        found = next((f for f in self._index.find("")[0] if f.card.key == key), None)
        self.details.show_found(found, self._cards)

    def _lineage(self, on: bool) -> None:
        self.pages.setCurrentWidget(self.tree if on else self.view)
        if on:
            self._fill_tree()
        else:
            self._chosen()

    def _fill_tree(self) -> None:
        self.tree.clear()
        line: list[QTreeWidgetItem] = []
        for kin in by_parentage(self._cards):
            card = kin.card
            began = next((said.text for said in card.words if said.where == "version 1"), "")
            if kin.cut:
                began = f"To be cut out of the one above. {began}"
            item = QTreeWidgetItem(
                [card.name, sizes(card, self.session.system), str(card.steps), (card.verdict or "").capitalize(), began]
            )
            item.setData(0, Qt.ItemDataRole.UserRole, card.key)
            if card.key == self.view.here:
                item.setForeground(0, colour("live"))
            del line[kin.depth :]
            if line:
                line[-1].addChild(item)
            else:
                self.tree.addTopLevelItem(item)
            line.append(item)
        self.tree.expandAll()

    def _notebook(self, on: bool) -> None:
        self.notebook.setVisible(on)
        if on:
            self.notebook.begin()

    # doing

    def _typed_on(self, words: str) -> None:
        self.query.setFocus()
        self.query.setText(self.query.text() + words)

    def eventFilter(self, watched: object, event: object) -> bool:
        """Down goes from the search line to the cards, Escape empties it."""
        if isinstance(event, QKeyEvent) and watched is self.query and event.type() == event.Type.KeyPress:
            if event.key() == Qt.Key.Key_Down:
                self.view.setFocus()
                return True
            if event.key() == Qt.Key.Key_Escape and self.query.text():
                self.query.clear()
                return True
        return False

    def _open_first(self) -> None:
        found = self.view.current()
        if found is not None:
            self.open(found.card.key)

    def open(self, key: str) -> None:
        """Put a board on the bench and go there; a page of a notebook is shown beside."""
        if not key.isdigit():
            self.session.message.emit(
                "note", "This one is only a page of a notebook: there is no shape to put on the bench."
            )
            return
        try:
            if int(key) != self.session.board_id:
                self.session.file.open_board(int(key))
        except KelvorError as error:
            self.session.message.emit("problem", str(error))
            return
        self._window.show_view("shape")

    def compare(self) -> None:
        """Lay the chosen boards behind the one on the bench, and go where they are compared."""
        self.lay_behind()
        self._window.show_view("compare")

    def lay_behind(self) -> None:
        """Lay the chosen boards behind the one on the bench."""
        chosen = [card for card in self.view.chosen() if card.board and card.key != self.view.here]
        lay_behind(self.session, [Wanted(card.name, card.board, card.step, card.number) for card in chosen])
        self._window.show_view("shape")


def rack_view(window: Window) -> RackView:
    """The rack of a window."""
    return RackView(window.session, window)
