"""Class rules: which there are, margins of the board on the bench and of the family, what to register for a season."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime

from PySide6.QtCore import Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.figures import Figures, by_key
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.evaluation.verdicts import Outcome
from kelvor.core.family.class_rules import RuleStanding, falls_under, rule_standing
from kelvor.core.register.kinds.family import ClassRule
from kelvor.core.register.record import Record
from kelvor.ui.build.made import Making
from kelvor.ui.controls.panel import caution_label, heading, panel, plain_label, problem_label
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.class_rules import ClassRules
from kelvor.ui.family.families import Families
from kelvor.ui.family.season_panel import SeasonPanel
from kelvor.ui.family.shown.class_rules import (
    CAUTION,
    limits_of,
    quota_rows,
    quotas_of,
    rule_lines,
    sheet_rows,
    within_days,
)
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour

NONE = "No class rule yet. Press New… and type its limits, one a line."


class RulesPage(QWidget):
    """Rules at the left; margins and the season at the right."""

    sheet_asked = Signal(object)
    """The rule sheet is to be written: title, small words, chapters."""
    file_asked = Signal(str, object)
    """A rule is to be read (“read”) or written (“write”), which one."""
    edit_asked = Signal(object)

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self.rules_ = ClassRules(session)
        self._boards: list[tuple[str, Figures, RuleStanding | None]] = []
        self._known: dict[Subject, Figures] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._left(), 2)
        row.addWidget(self._right(), 4)

    def _left(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        column.addWidget(heading("Class rules"))
        self.list: QTableWidget = figures_table(("Rule", "Source and days"))
        self.list.setWordWrap(True)
        self.list.itemSelectionChanged.connect(self._show_margins)
        column.addWidget(self.list, 1)
        buttons = (
            ("New…", lambda: self.edit_asked.emit(None)),
            ("Edit…", lambda: self.edit_asked.emit(self.chosen())),
            ("Take off", self._take_off),
        )
        more = (
            ("Read from a file…", lambda: self.file_asked.emit("read", None)),
            ("Write to a file…", lambda: self.file_asked.emit("write", self.chosen())),
        )
        self.buttons: dict[str, QPushButton] = {}
        for line in (buttons, more):
            row = QHBoxLayout()
            for words, do in line:
                button = QPushButton(words)
                button.clicked.connect(lambda _=False, do=do: do())
                self.buttons[words] = button
                row.addWidget(button)
            row.addStretch(1)
            column.addLayout(row)
        row = QHBoxLayout()
        self.under = QComboBox()
        self.under.setAccessibleName("The board on the bench is designed under")
        self.under.activated.connect(lambda _: self._enter())
        row.addWidget(QLabel("The bench's board is under"))
        row.addWidget(self.under, 1)
        column.addLayout(row)
        column.addWidget(caution_label(CAUTION))
        return frame

    def _right(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(12, 10, 12, 10)
        self.head = heading("Margins")
        column.addWidget(self.head)
        self.margins: QTableWidget = figures_table(("Limit",))
        self.margins.setWordWrap(True)
        column.addWidget(self.margins, 2)
        self.quota_words = plain_label()
        self.quota_words.setWordWrap(True)
        column.addWidget(self.quota_words)
        row = QHBoxLayout()
        self.sheet_button = QPushButton("Rule sheet…")
        self.sheet_button.clicked.connect(lambda _=False: self.ask_sheet())
        row.addStretch(1)
        row.addWidget(self.sheet_button)
        column.addLayout(row)
        self.season = SeasonPanel(self.session, self._gathered, self.chosen, self._fail)
        column.addWidget(self.season, 3)
        self.problem = problem_label()
        column.addWidget(self.problem)
        return frame

    # showing

    def refresh(self) -> None:
        """Show the rules, and how boards stand to the chosen one."""
        today = datetime.now(UTC).date().isoformat()
        rules = self.rules_.all()
        self._rules = rules
        told = [(r.value.source, _days(r.value), within_days(r.value, today)) for r in rules]
        fill_table(
            self.list, [(r.value.name, "; ".join(w for w in words if w)) for r, words in zip(rules, told, strict=True)]
        )
        self.list.resizeRowsToContents()
        if self.list.currentRow() < 0 and rules:
            self.list.selectRow(0)
        rows = [("no class rule", ""), *((r.value.name, r.uid) for r in rules)]
        if rows != [(self.under.itemText(i), self.under.itemData(i)) for i in range(self.under.count())]:
            self.under.clear()
            for name, uid in rows:
                self.under.addItem(name, uid)
        here = self.rules_.under(self.session.board_id)
        self.under.setCurrentIndex(max(0, self.under.findData(here.uid if here is not None else "")))
        self._show_margins()

    def chosen(self) -> Record | None:
        """The chosen rule."""
        at = self.list.currentRow()
        return self._rules[at] if 0 <= at < len(self._rules) else None

    def choose_rule(self, uid: str) -> None:
        """Choose a rule by its identity."""
        self.refresh()
        at = next((i for i, r in enumerate(self._rules) if r.uid == uid), -1)
        if at >= 0:
            self.list.selectRow(at)

    def _gathered(self) -> list[tuple[str, Subject, Figures]]:
        """The board on the bench, and the family's: name, subject and figures, those under the bench's own brief."""
        session = self.session
        boards = [(session.board.name, session.subject(), session.results.figures())]
        family = self.family()
        if family is None:
            return boards
        there = [self.families.parent_of(family)[1], *(s.board for s in self.families.sizes(family.uid))]
        kept: dict[Subject, Figures] = {}
        for board in there:
            if board == session.board:
                continue
            subject = Subject(board, session.brief, session.table, session.coefficients)
            figures = self._known.get(subject)
            if figures is None:
                live = evaluate_live(board, session.brief, table=session.table, coefficients=session.coefficients)
                if isinstance(live, tuple):
                    continue
                figures = by_key(live.figures)
            kept[subject] = figures
            boards.append((board.name, subject, figures))
        self._known = kept
        return boards

    def _show_margins(self) -> None:
        record, system = self.chosen(), self.session.system
        for words in ("Edit…", "Take off", "Write to a file…"):
            self.buttons[words].setEnabled(record is not None)
        self.sheet_button.setEnabled(record is not None)
        if record is None:
            self.head.setText("Margins")
            self.margins.setRowCount(0)
            self.quota_words.setText("")
            self.problem.setText(NONE)
            self._boards = []
            return
        if self.problem.text() == NONE:
            self.problem.setText("")
        rule: ClassRule = record.value
        self.head.setText(f"Margins under {rule.name}")
        try:
            gathered = self._gathered()
        except KelvorError as error:
            self.problem.setText(str(error))
            return
        held = self.session.service(Making).tolerances()
        self._boards = [(name, f, rule_standing(rule, f, self.session.brief, held)) for name, _, f in gathered]
        heads = ("Limit", *(name for name, _, _ in self._boards))
        self.margins.setColumnCount(len(heads))
        self.margins.setHorizontalHeaderLabels(list(heads))
        stood = [(name, stands) for name, _, stands in self._boards if stands is not None]
        rows = sheet_rows(rule, stood, system)
        fill_table(self.margins, rows)
        self.quota_words.setText(
            " ".join(f"{quota[0].upper()}{quota[1:]}: {told}." for quota, told in self._quotas(rule))
        )
        for i in range(len(rule.limits)):
            for j, (_, stands) in enumerate(stood, 1):
                item = self.margins.item(i, j)
                if item is not None:
                    outcome = stands.verdicts[i].outcome
                    role = {Outcome.SHORT: "short", Outcome.MEETS: "live"}.get(outcome, "quiet")
                    item.setForeground(QColor(colour(role)))
        self.margins.resizeRowsToContents()

    def _quotas(self, rule: ClassRule) -> list[tuple[str, str]]:
        figures = [f for _, f, _ in self._boards]
        counts = [sum(falls_under(quota, f) is not False for f in figures) for quota in rule.quotas]
        return quota_rows(rule, figures, counts, self.session.system)

    # doing

    def _fail(self, words: str) -> None:
        self.problem.setText(words)

    def _take_off(self) -> None:
        record = self.chosen()
        if record is not None:
            self.rules_.take_off(record)

    def _enter(self) -> None:
        self.rules_.enter(self.session.board_id, self.under.currentData() or "")

    def ask_sheet(self) -> None:
        """The margins on paper."""
        record = self.chosen()
        if record is None:
            return
        rule, system = record.value, self.session.system
        rows = [
            (limit, name, words)
            for name, _, stands in self._boards
            if stands is not None
            for limit, words in sheet_rows(rule, [(name, stands)], system)
        ]
        self.sheet_asked.emit((rule, rows, self._quotas(rule)))


def _days(rule: ClassRule) -> str:
    if rule.since and rule.until:
        return f"{rule.since} to {rule.until}"
    return f"from {rule.since}" if rule.since else f"until {rule.until}" if rule.until else ""


class RulePanel(Panel):
    """A class rule as it is typed: limits and quotas, one a line."""

    guide = "family#class-rules"

    def __init__(
        self, parent: QWidget, session: Session, rules: ClassRules, record: Record | None, kept: Callable[[str], None]
    ) -> None:
        super().__init__(parent, "Class rule", "Keep")
        self.session, self.rules, self.record, self._kept = session, rules, record, kept
        rule = record.value if record is not None else ClassRule(name="New rule")
        self.explain("Read the class's own text beside it, and say where it stands. Limits on any figure, one a line.")
        self.name = self.field("Name", rule.name)
        self.source = self.field("Source", rule.source)
        self.since, self.until = self.field("Holds from", rule.since), self.field("until", rule.until)
        self.since.setPlaceholderText("2027-01-01")
        limits, quotas = rule_lines(rule, session.system)
        self.limits, self.quotas = QPlainTextEdit(limits), QPlainTextEdit(quotas)
        examples = "width <= 85 cm\nmass >= 6 kg", "at most 3 boards\nat most 1 board with width >= 72 cm"
        for field, words, example in zip((self.limits, self.quotas), ("Limits", "Quotas"), examples, strict=True):
            field.setAccessibleName(words)
            field.setPlaceholderText(example)
            field.setTabChangesFocus(True)
            field.setFixedHeight(96)
            self.form.addRow(words, field)
        self.setMinimumWidth(480)

    def act(self) -> bool:
        """Keep it."""
        system = self.session.system
        rule = ClassRule(
            name=self.name.text().strip() or "Class rule",
            source=self.source.text().strip(),
            since=self.since.text().strip(),
            until=self.until.text().strip(),
            limits=limits_of(self.limits.toPlainText(), system),
            quotas=quotas_of(self.quotas.toPlainText(), system),
        )
        self._kept(self.rules.keep(rule, self.record.uid if self.record is not None else ""))
        return True
