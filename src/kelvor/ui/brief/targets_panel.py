"""What the board must do: targets with their verdicts, the board the rider knows, the cautions."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import FigureDefinition, Figures
from kelvor.core.base.limits import limit_of, within
from kelvor.core.base.units import Quantity, System, inside, parse, text
from kelvor.core.brief.brief import Target
from kelvor.core.evaluation.book import BOOK, BY_KEY
from kelvor.core.evaluation.verdicts import Outcome, judge_target
from kelvor.core.ride.phases import PHASES
from kelvor.ui.brief.form import Edit, scrolled
from kelvor.ui.controls.panel import heading, plain_label, problem_label
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.shown.wording import caution, verdict_words
from kelvor.ui.theme.style import font

Q = Quantity


class TargetsPanel(QFrame):
    """The targets of the brief, each judged by the figures there are."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.session = session
        self._verdicts: list[QLabel] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        column.addWidget(heading("What it must do"))
        intro = QLabel(
            "A target is a must unless it is marked as a wish. Relative ones compare with the board the rider knows."
        )
        intro.setObjectName("quiet")
        intro.setFont(font(12))
        intro.setWordWrap(True)
        column.addWidget(intro)
        self._target_holder = QWidget()
        self._target_grid = QGridLayout(self._target_holder)
        self._target_grid.setContentsMargins(0, 0, 0, 0)
        self._target_grid.setHorizontalSpacing(6)
        self._target_grid.setVerticalSpacing(3)
        self._target_grid.setColumnStretch(0, 1)
        holder = QWidget()
        inner = QVBoxLayout(holder)
        inner.setContentsMargins(0, 0, 6, 0)
        inner.addWidget(self._target_holder)
        inner.addStretch(1)
        column.addWidget(scrolled(holder), 1)
        add = QPushButton("Add a target")
        add.clicked.connect(self.add_target)
        self.hints = QCheckBox("Show check values of the trade beside figures")
        self.hints.toggled.connect(lambda on: self._edit(lambda b, v: replace(b, hints=v), on))
        self.known = plain_label()
        self.known.setObjectName("quiet")
        self.known.setWordWrap(True)
        know = QPushButton("Take the reference as the known board")
        know.clicked.connect(self.session.briefs.know_pinned)
        row = QHBoxLayout()
        row.addWidget(add)
        row.addWidget(know)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(self.known)
        column.addWidget(self.hints)
        self.problem = problem_label()
        note = self.caution = QLabel()
        note.setObjectName("quiet")
        note.setFont(font(12))
        note.setWordWrap(True)
        column.addWidget(note)
        column.addWidget(self.problem)
        session.settled.connect(self._targets_refresh)
        session.service(RideRequests).ridden.connect(self._targets_refresh)
        session.steps_changed.connect(self._known_refresh)

    def show_brief(self) -> None:
        """Show the targets of the brief and what goes with them."""
        brief = self.session.brief
        self.caution.setText(caution(brief.discipline))
        self.hints.blockSignals(True)
        self.hints.setChecked(brief.hints)
        self.hints.blockSignals(False)
        self._known_refresh()
        self._targets_build()

    def _known_refresh(self) -> None:
        known = self.session.brief.known
        self.known.setText(
            f"The rider knows: {known.name} ({known.origin})"
            if known
            else "The rider knows no board yet: make a version the reference and take it."
        )

    def _targets_build(self) -> None:
        grid, brief, system = self._target_grid, self.session.brief, self.session.system
        while grid.count():
            item = grid.takeAt(0)
            if item is not None and (widget := item.widget()) is not None:
                widget.hide()
                widget.deleteLater()
        self._verdicts = []
        figures = self.session.results.figures()
        for i, target in enumerate(brief.targets):
            which, relation, value, relative, wish, drop = self._target_widgets(i, target, figures, system)
            for column, widget in enumerate((which, relation, value, relative, wish, drop)):
                grid.addWidget(widget, 2 * i, column)
            verdict = QLabel()
            verdict.setFont(font(12, 600))
            verdict.setContentsMargins(4, 0, 0, 8)
            self._verdicts.append(verdict)
            grid.addWidget(verdict, 2 * i + 1, 0, 1, 6)
        self._targets_refresh()

    def _target_widgets(self, i: int, target: Target, figures: Figures, system: System) -> list[QWidget]:
        which = QComboBox()
        which.setAccessibleName(f"Target {i + 1}: figure")
        which.setMinimumWidth(150)
        for known in BOOK:
            if (definition := self._definition(known.key, figures)) is not None:
                which.addItem(definition.label, known.key)
        if which.findData(target.figure) < 0:  # a target of another discipline stays what it is
            other = BY_KEY.get(target.figure)
            words = other.label if other is not None else target.figure.replace("_", " ")
            which.addItem(f"{words}, not for this board", target.figure)
        which.setCurrentIndex(which.findData(target.figure))
        which.activated.connect(lambda index: self._retarget(i, str(which.itemData(index))))
        relation = QComboBox()
        relation.addItems(["at least", "at most"])
        relation.setCurrentText(target.relation)
        relation.setAccessibleName(f"Target {i + 1}: relation")
        relation.activated.connect(lambda _: self._set_target(i, relation=relation.currentText()))
        definition = self._definition(target.figure, figures)
        quantity = Q.RATIO if target.relative or definition is None else definition.quantity
        value = QLineEdit(text(target.value, quantity, system))
        value.setAccessibleName(f"Target {i + 1}: value")
        value.setFixedWidth(96)
        shown = value.text()
        value.editingFinished.connect(lambda: self._target_typed(i, value, quantity, shown))
        relative = QCheckBox("× known")
        relative.setChecked(target.relative)
        relative.toggled.connect(lambda on: self._relative(i, on))
        wish = QCheckBox("wish")
        wish.setChecked(target.wish)
        wish.toggled.connect(lambda on: self._set_target(i, wish=on))
        drop = QPushButton("Delete")
        drop.setAccessibleName(f"Delete target {i + 1}")
        drop.clicked.connect(
            lambda: self._edit(lambda b, _: replace(b, targets=b.targets[:i] + b.targets[i + 1 :]), None)
        )
        return [which, relation, value, relative, wish, drop]

    def _definition(self, key: str, figures: Figures) -> FigureDefinition | None:
        """What a figure is, also while the ride is still being counted; None where this discipline has no such
        figure.
        """
        if key in figures:
            return figures[key].definition
        told = {k for phase in PHASES[self.session.brief.discipline] for k in phase.figures}
        return BY_KEY.get(key) if key in told else None

    def _targets_refresh(self) -> None:
        brief, system, figures = self.session.brief, self.session.system, self.session.results.figures()
        if len(self._verdicts) != len(brief.targets):
            return
        for label, target in zip(self._verdicts, brief.targets, strict=True):
            verdict = judge_target(target, figures, brief)
            figure = figures.get(target.figure)
            definition = self._definition(target.figure, figures)
            quantity = definition.quantity if definition is not None else Q.RATIO
            if figure is None and definition is not None:
                label.setText("counting")
                continue
            now = text(figure.value, quantity, system) if figure and figure.exists else "–"
            if definition is not None and definition.ranks:
                base = verdict.asked / target.value if target.relative and target.value else 0.0
                now = f"{figure.value / base:.2f} × known" if figure and figure.exists and base > 0 else "–"
                label.setText(f"now {now}: {verdict.note or verdict.outcome.value}")
                continue
            asked = f", asked {text(verdict.asked, quantity, system)}" if target.relative else ""
            words = f"now {now}{asked}: {verdict_words(verdict, quantity, system)}"
            if verdict.outcome is Outcome.UNKNOWN and verdict.note:
                words += f" ({verdict.note})"
            label.setText(words)
            label.setObjectName({Outcome.SHORT: "wrong", Outcome.MEETS: "group"}.get(verdict.outcome, "quiet"))
            label.style().polish(label)

    def _edit(self, edit: Edit, value: Any) -> None:
        self.session.briefs.set(edit(self.session.brief, value))

    def _set_target(self, i: int, **changes: Any) -> None:
        targets = self.session.brief.targets
        new = replace(targets[i], **changes)
        self._edit(lambda b, _: replace(b, targets=(*targets[:i], new, *targets[i + 1 :])), None)

    def _retarget(self, i: int, key: str) -> None:
        figure = self.session.results.figures().get(key)
        relative = self.session.brief.targets[i].relative or self._ranks(key)
        self._set_target(
            i,
            figure=key,
            relative=relative,
            value=1.0 if relative else round(figure.value, 6) if figure is not None and figure.exists else 0.0,
        )

    def _ranks(self, key: str) -> bool:
        definition = self._definition(key, self.session.results.figures())
        return definition is not None and definition.ranks

    def _relative(self, i: int, on: bool) -> None:
        key = self.session.brief.targets[i].figure
        if not on and self._ranks(key):
            only = f"{inside(BY_KEY[key].label)} only ranks boards, and is asked for as a share of a known board's"
            self.problem.setText(f"Target {i + 1}: {only}.")
            self._targets_build()
            return
        figure = self.session.results.figures().get(key)
        self._set_target(i, relative=on, value=1.0 if on or figure is None or not figure.exists else figure.value)

    def _target_typed(self, i: int, field: QLineEdit, quantity: Quantity, shown: str) -> None:
        if field.text() == shown:
            return
        try:
            value = within(limit_of(Target, "value"), parse(field.text(), quantity, self.session.system), "Target")
        except InputError as error:
            field.setProperty("wrong", "true")
            field.style().polish(field)
            self.problem.setText(f"Target {i + 1}: {error}")
            return
        self.problem.setText("")
        self._set_target(i, value=value)

    def add_target(self) -> None:
        """Ask for one thing more."""
        volume = self.session.results.figures()["volume"].value
        new = Target(figure="volume", relation="at least", value=round(volume, 4))
        self._edit(lambda b, _: replace(b, targets=(*b.targets, new)), None)
