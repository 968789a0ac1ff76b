"""Sizes: the rules they follow at the left, the sizes and how each stands at the right."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import get_args

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.errors import InputError, KelvorError
from kelvor.core.record import Record
from kelvor.core.recorded.family import Heavier, Law, SizeRule
from kelvor.core.ride.phases import PHASES
from kelvor.ui.families import Families, Size
from kelvor.ui.presenters.families import (
    CAUTION,
    LAW_WORDS,
    RULE_HEADS,
    SIZE_HEADS,
    Stands,
    amount_of,
    amount_words,
    masses_of,
    measures_to_add,
    ride_words,
    rider_words,
    rule_cells,
    size_cells,
    stands,
)
from kelvor.ui.session import Session
from kelvor.ui.theme.style import colour, font
from kelvor.ui.widgets.panel import heading, panel, plain_label
from kelvor.ui.widgets.tables import figures_table, fill

ROW, HEAD, MOST_ROWS = 25, 32, 14
"""Heights of a row and of the head [px]; more sizes than these are scrolled."""
PARENTS = "as the parent"
NONE = "No family yet. Put its parent on the bench and press New family…"


class SizesPage(QWidget):
    """Rules and sizes of the chosen family."""

    opened = Signal(int)
    """A board is asked for on the bench, by its id."""

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self._sizes: list[Size | None] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._rules(), 2)
        row.addWidget(self._right(), 3)

    # building

    def _rules(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("What sizes follow"))
        self.rules: QTableWidget = figures_table(RULE_HEADS)
        self.rules.setWordWrap(True)
        self.rules.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.rules.itemSelectionChanged.connect(self._rule_chosen)
        column.addWidget(self.rules, 1)
        row = QHBoxLayout()
        self.law, self.amount = QComboBox(), QLineEdit()
        self.law.setAccessibleName("Follows")
        for law in get_args(Law):
            self.law.addItem(LAW_WORDS[law], law)
        self.law.activated.connect(lambda _: self._law_chosen())
        self.amount.setAccessibleName("Power or amount")
        self.amount.setFixedWidth(84)
        self.amount.returnPressed.connect(self.change_rule)
        row.addWidget(QLabel("Follows"))
        row.addWidget(self.law, 1)
        row.addWidget(self.amount)
        column.addLayout(row)
        row = QHBoxLayout()
        self.why = QLineEdit()
        self.why.setAccessibleName("Why")
        self.why.setPlaceholderText("why")
        self.why.returnPressed.connect(self.change_rule)
        self.off = QPushButton("Take off")
        self.off.clicked.connect(lambda _=False: self.take_rule_off())
        row.addWidget(self.why, 1)
        row.addWidget(self.off)
        column.addLayout(row)
        row = QHBoxLayout()
        self.more = QComboBox()
        self.more.setAccessibleName("Another measure")
        self.more.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.add_rule_button = QPushButton("Add a rule")
        self.add_rule_button.clicked.connect(lambda _=False: self.add_rule())
        row.addWidget(self.more, 1)
        row.addWidget(self.add_rule_button)
        column.addLayout(row)
        row = QHBoxLayout()
        self.since, self.built = QLineEdit(), QComboBox()
        self.since.setAccessibleName("Riders from this weight on")
        self.since.setPlaceholderText("90 kg")
        self.since.setFixedWidth(66)
        self.built.setAccessibleName("Are built as")
        self.built.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.since.returnPressed.connect(self.change_heavier)
        self.built.activated.connect(lambda _: self.change_heavier())
        for widget in (QLabel("Riders from"), self.since, QLabel("on: built as"), self.built):
            row.addWidget(widget, 1 if widget is self.built else 0)
        column.addLayout(row)
        caution = plain_label()
        caution.setText(CAUTION)
        caution.setObjectName("quiet")
        caution.setWordWrap(True)
        caution.setFont(font(12))
        column.addWidget(caution)
        return frame

    def _right(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        self.head = heading("Sizes")
        column.addWidget(self.head)
        self.table: QTableWidget = figures_table(SIZE_HEADS)
        self.table.itemSelectionChanged.connect(self._size_chosen)
        self.table.itemDoubleClicked.connect(lambda _: self._open())
        column.addWidget(self.table)
        self.words = plain_label()
        self.words.setWordWrap(True)
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.words, 1)
        row = QHBoxLayout()
        self.take_button, self.leave_button = QPushButton("Take it"), QPushButton("Leave this size as it is")
        self.open_button, self.out_button = QPushButton("Open on the bench"), QPushButton("Take out of the family")
        self.take_button.clicked.connect(lambda _=False: self.take())
        self.leave_button.clicked.connect(lambda _=False: self.leave())
        self.open_button.clicked.connect(lambda _=False: self._open())
        self.out_button.clicked.connect(lambda _=False: self._out())
        for button in (self.take_button, self.leave_button, self.open_button, self.out_button):
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        row = QHBoxLayout()
        self.masses = QLineEdit()
        self.masses.setAccessibleName("Riders' masses of more sizes")
        self.masses.setPlaceholderText("riders' masses of more sizes, such as 55, 90")
        self.masses.returnPressed.connect(self.add_sizes)
        self.add_button = QPushButton("Add sizes")
        self.add_button.clicked.connect(lambda _=False: self.add_sizes())
        row.addWidget(self.masses, 1)
        row.addWidget(self.add_button)
        column.addLayout(row)
        self.problem = plain_label()
        self.problem.setObjectName("wrong")
        self.problem.setWordWrap(True)
        column.addWidget(self.problem)
        return frame

    # showing

    def refresh(self) -> None:
        """Show the family as it is, and ask what is not known of it."""
        family, system = self.family(), self.session.system
        there = family is not None
        for widget in (self.add_button, self.masses, self.add_rule_button, self.more):
            widget.setEnabled(there)
        if family is None:
            self.rules.setRowCount(0)
            self.table.setRowCount(0)
            self._sizes = []
            self.head.setText("Sizes")
            self.words.setText("Sizes are being made…" if self.families.making else NONE)
            self._size_chosen()
            return
        try:
            self.families.count(family)
            _, parent = self.families.parent_of(family)
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        fill(self.rules, [rule_cells(rule, parent, system) for rule in family.value.rules])
        self.rules.resizeRowsToContents()
        if self.rules.currentRow() < 0 and family.value.rules:
            self.rules.selectRow(0)
        self._list_more(measures_to_add(parent, family.value.rules))
        self._show_heavier(family)
        sizes: list[Size | None] = [*self.families.sizes(family.uid), None]  # None is the parent
        self._sizes = sorted(sizes, key=lambda s: family.value.mass if s is None else s.value.mass)
        rows, warned = [], []
        for size in self._sizes:
            if size is None:
                rows.append(size_cells(parent.name, family.value.mass, parent, "the parent", system))
                warned.append(False)
            else:
                told = self._stands(family, size)
                rows.append(size_cells(size.board.name, size.value.mass, size.board, told.short, system))
                warned.append(told.warns)
        fill(self.table, rows)
        for i, warns in enumerate(warned):
            item = self.table.item(i, len(SIZE_HEADS) - 1)
            if warns and item is not None:
                item.setForeground(QColor(colour("short")))
        self.table.setFixedHeight(min(MOST_ROWS, len(rows)) * ROW + HEAD)
        making = " – being made…" if self.families.making else ""
        self.head.setText(f"{family.value.name}: {len(sizes) - 1} sizes of {parent.name}{making}")
        if self.table.currentRow() < 0:
            self.table.selectRow(0)
        self._size_chosen()

    def _stands(self, family: Record, size: Size) -> Stands:
        refused = size.value.refused == self.families.mark(family)
        return stands(self.families.states.get(size.record.uid), refused, self.session.system)

    def _rides(self, family: Record, size: Size) -> str:
        """What leads the phases of the ride, under the size's own rider and under the parent's on the parent."""
        figures = self.families.figures
        mine, parents = figures.get(size.record.uid), figures.get(family.uid)
        if mine is None or parents is None or family.board is None:
            return "Its ride is being counted…"
        phases = PHASES[self.families.brief_of(family.board).discipline]
        return ride_words(phases, mine, parents, self.session.system)

    def _list_more(self, rows: list[tuple[str, str]]) -> None:
        if [self.more.itemData(i) for i in range(self.more.count())] != [key for key, _ in rows]:
            self.more.clear()
            for key, words in rows:
                self.more.addItem(words, key)

    def chosen(self) -> Size | None:
        """The chosen size; none where the parent or nothing is chosen."""
        at = self.table.currentRow()
        return self._sizes[at] if 0 <= at < len(self._sizes) else None

    def _size_chosen(self) -> None:
        family, size = self.family(), self.chosen()
        offered = family is not None and size is not None and self.families.offered(family, size)
        self.take_button.setVisible(offered)
        self.leave_button.setVisible(offered)
        self.open_button.setEnabled(family is not None)
        self.out_button.setEnabled(size is not None)
        if family is None:
            return
        if size is None:
            self.words.setText("The parent. A change of it is offered to the sizes, one by one.")
        else:
            told = self._stands(family, size).long or "Made by the rules; nothing was changed by hand."
            self.words.setText(f"{told}\n\n{self._rides(family, size)}".strip())

    def _rule(self) -> SizeRule | None:
        family, at = self.family(), self.rules.currentRow()
        return family.value.rules[at] if family is not None and 0 <= at < len(family.value.rules) else None

    def _rule_chosen(self) -> None:
        family, rule = self.family(), self._rule()
        for widget in (self.law, self.amount, self.why, self.off):
            widget.setEnabled(rule is not None)
        if family is None or rule is None:
            return
        self.law.setCurrentIndex(self.law.findData(rule.law))
        quantity = self.families.quantity(family, rule.about)
        self.amount.setText(amount_words(rule, quantity, self.session.system))
        self.amount.setEnabled(rule.law != "stays")
        self.why.setText(rule.why)

    # doing

    def _law_chosen(self) -> None:
        law = self.law.currentData()
        rule = self._rule()
        if rule is None or law == rule.law:
            return
        self.amount.setEnabled(law != "stays")
        if law == "stays":
            self.change_rule()
        elif (law == "per 10 kg") != (rule.law == "per 10 kg"):
            self.amount.clear()  # an amount of another kind
            self.amount.setFocus()
        else:
            self.change_rule()

    def _guarded(self, work: Callable[[], None]) -> None:
        try:
            self.problem.setText("")
            work()
        except KelvorError as error:
            self.problem.setText(str(error))

    def change_rule(self) -> None:
        """Write the chosen rule as it is typed."""
        family, rule = self.family(), self._rule()
        if family is None or rule is None:
            return

        def write() -> None:
            law: Law = self.law.currentData()
            quantity = self.families.quantity(family, rule.about)
            amount = amount_of(law, self.amount.text(), quantity, self.session.system)
            changed = replace(rule, law=law, amount=amount, why=self.why.text().strip())
            rules = tuple(changed if r == rule else r for r in family.value.rules)
            self.families.set_rules(family, rules, rule.about)

        self._guarded(write)

    def _show_heavier(self, family: Record) -> None:
        """How sizes for heavy riders are built."""
        heavier = family.value.heavier
        assert family.board is not None
        there = self.session.workshop.tables.constructions(self.families.brief_of(family.board).discipline)
        names = [PARENTS, *(c.name for c in there)]
        if names != [self.built.itemText(i) for i in range(self.built.count())]:
            self.built.clear()
            self.built.addItems(names)
        self.built.setCurrentText(heavier.construction.name if heavier is not None else PARENTS)
        if heavier is not None and not self.since.hasFocus():
            self.since.setText(rider_words(heavier.since, self.session.system))

    def change_heavier(self) -> None:
        """Build sizes for heavy riders as it is chosen."""
        family = self.family()
        if family is None or family.board is None:
            return

        def write() -> None:
            name = self.built.currentText()
            if name == PARENTS:
                self.families.set_heavier(family, None)
                return
            if not self.since.text().strip():
                raise InputError("from which weight on", where="Riders from", accepts="Such as 90 kg")
            since = masses_of(self.since.text(), self.session.system)[0]
            there = self.session.workshop.tables.constructions(self.families.brief_of(family.board or 0).discipline)
            chosen = next(c for c in there if c.name == name)
            self.families.set_heavier(family, Heavier(since=since, construction=chosen))

        self._guarded(write)

    def take_rule_off(self) -> None:
        """Let the chosen measure follow nothing: it comes out as the rest has it."""
        family, rule = self.family(), self._rule()
        if family is not None and rule is not None:
            rules = tuple(r for r in family.value.rules if r != rule)
            self._guarded(lambda: self.families.set_rules(family, rules, f"{rule.about} taken off"))

    def add_rule(self) -> None:
        """A rule about another measure; it begins with the length's power of one."""
        family, about = self.family(), self.more.currentData()
        if family is None or not about:
            return
        rule = SizeRule(about=about, law="with length", amount=1.0, why="")

        def write() -> None:
            self.families.set_rules(family, (*family.value.rules, rule), f"{about} added")
            self.rules.selectRow(len(family.value.rules))

        self._guarded(write)

    def add_sizes(self) -> None:
        """Make sizes for the riders that are typed."""
        family = self.family()
        if family is None:
            return

        def make() -> None:
            self.families.add(family, masses_of(self.masses.text(), self.session.system))
            self.masses.clear()

        self._guarded(make)

    def take(self) -> None:
        """Let the chosen size take what is offered."""
        family, size = self.family(), self.chosen()
        if family is not None and size is not None:
            self._guarded(lambda: self._take(family, size))

    def _take(self, family: Record, size: Size) -> None:
        self.families.take(family, size)

    def leave(self) -> None:
        """Leave the chosen size as it is."""
        family, size = self.family(), self.chosen()
        if family is not None and size is not None:
            self.families.leave(family, size)

    def _open(self) -> None:
        family, size = self.family(), self.chosen()
        if family is not None and family.board is not None:
            self.opened.emit(size.board_id if size is not None else family.board)

    def _out(self) -> None:
        size = self.chosen()
        if size is not None:
            self.families.without(size)
