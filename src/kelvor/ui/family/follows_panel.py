"""What sizes follow: the rules of a family, read and typed over."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import get_args

from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
)

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.register.kinds.family import Heavier, Law, SizeRule
from kelvor.core.register.record import Record
from kelvor.core.shape.board import Board
from kelvor.ui.controls.panel import heading, plain_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.families import Families
from kelvor.ui.family.shown.families import (
    CAUTION,
    LAW_WORDS,
    RULE_HEADS,
    amount_of,
    masses_of,
    measures_to_add,
    rider_words,
    rule_amount_words,
    rule_cells,
)
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

PARENTS = "as the parent"


class FollowsPanel(QFrame):
    """The table of rules, one of them to be changed, and how sizes for heavy riders are built."""

    def __init__(
        self, session: Session, families: Families, family: Callable[[], Record | None], told: Callable[[str], None]
    ) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.session, self.families, self.family, self._told = session, families, family, told
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("What sizes follow"))
        self.rules: QTableWidget = figures_table(RULE_HEADS)
        self.rules.setWordWrap(True)
        self.rules.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.rules.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.rules.itemSelectionChanged.connect(self._rule_chosen)
        column.addWidget(self.rules, 1)
        column.addLayout(self._typed())
        caution = plain_label()
        caution.setText(CAUTION)
        caution.setObjectName("quiet")
        caution.setWordWrap(True)
        caution.setFont(font(12))
        column.addWidget(caution)

    def _typed(self) -> QVBoxLayout:
        """Where rules are typed."""
        column = QVBoxLayout()
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
        return column

    def show_family(self, family: Record | None, parent: Board | None) -> None:
        """Show the rules of a family."""
        for widget in (self.add_rule_button, self.more):
            widget.setEnabled(family is not None)
        if family is None or parent is None:
            self.rules.setRowCount(0)
            self._rule_chosen()
            return
        fill_table(self.rules, [rule_cells(rule, parent, self.session.system) for rule in family.value.rules])
        if self.rules.currentRow() < 0 and family.value.rules:
            self.rules.selectRow(0)
        self._list_more(measures_to_add(parent, family.value.rules))
        self._show_heavier(family)

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

    def _list_more(self, rows: list[tuple[str, str]]) -> None:
        if [self.more.itemData(i) for i in range(self.more.count())] != [key for key, _ in rows]:
            self.more.clear()
            for key, words in rows:
                self.more.addItem(words, key)

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
        self.amount.setText(rule_amount_words(rule, quantity, self.session.system))
        self.amount.setEnabled(rule.law != "stays")
        self.why.setText(rule.why)

    # doing

    def _guarded(self, work: Callable[[], None]) -> None:
        try:
            self._told("")
            work()
        except KelvorError as error:
            self._told(str(error))

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
