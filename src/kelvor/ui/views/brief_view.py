"""The Brief view: who the board is for, where it rides, what it must do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.book import BOOK, BY_KEY
from kelvor.core.brief import FIRST_GEAR, Brief, Foil, Rider, Target, Wind, Wing, with_discipline
from kelvor.core.disciplines import FAMILIES, FOILING, RIGS
from kelvor.core.errors import InputError
from kelvor.core.figures import FigureDefinition, Figures
from kelvor.core.fluids import Water
from kelvor.core.limits import Limit, Text, limit_of, named, text_of, within
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.phases import PHASES
from kelvor.core.units import Quantity, System, parse, text
from kelvor.core.verdicts import Outcome, judge
from kelvor.ui.presenters.wording import caution, verdict_words
from kelvor.ui.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.widgets.fields import QuantityField
from kelvor.ui.widgets.from_register import FromRegister
from kelvor.ui.widgets.panel import heading, panel, plain_label

Edit = Callable[[Brief, Any], Brief]
Read = Callable[[Brief], Any]
Q = Quantity
KELVIN = 273.15
NOTES_AFTER_MS = 800
"""What the rider says is kept when typing rests this long."""

if TYPE_CHECKING:
    from kelvor.ui.main_window import MainWindow


class BriefView(QWidget):
    """The brief as one page: rider and place, gear, targets."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        self._fields: list[tuple[QWidget, Read]] = []
        self._notes_shown = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        self.problem = plain_label()
        self.problem.setObjectName("wrong")
        self.problem.setWordWrap(True)
        row.addWidget(self._rider_panel(), 13)
        row.addWidget(self._gear_panel(), 12)
        row.addWidget(self._target_panel(), 25)
        session.brief_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        session.settled.connect(self._targets_refresh)
        session.riding.ridden.connect(self._targets_refresh)
        session.steps_changed.connect(self._known_refresh)
        self.refresh()

    # building

    def _grid(self, title: str) -> tuple[QWidget, QVBoxLayout, QGridLayout]:
        frame, outer = panel(), QVBoxLayout()
        frame.setLayout(outer)
        outer.setContentsMargins(16, 12, 6, 12)
        outer.setSpacing(8)
        outer.addWidget(heading(title))
        holder, column, grid = QWidget(), QVBoxLayout(), QGridLayout()
        column.setContentsMargins(0, 0, 10, 0)
        column.setSpacing(8)
        holder.setLayout(column)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        outer.addWidget(_scrolled(holder), 1)
        return frame, column, grid

    def _group(self, grid: QGridLayout, words: str) -> QLabel:
        label = QLabel(words)
        label.setObjectName("group")
        grid.addWidget(label, grid.rowCount(), 0, 1, 2)
        return label

    def _row(self, grid: QGridLayout, words: str, widget: QWidget) -> None:
        at = grid.rowCount()
        label = QLabel(words)
        label.setBuddy(widget)
        grid.addWidget(label, at, 0)
        grid.addWidget(widget, at, 1)

    def _text(self, grid: QGridLayout, words: str, rule: Text, read: Read, edit: Edit) -> None:
        field = QLineEdit()
        field.setAccessibleName(words)
        field.setMaxLength(rule.longest)
        field.editingFinished.connect(lambda: self._text_typed(words, field, rule, read, edit))
        self._fields.append((field, read))
        self._row(grid, words, field)

    def _text_typed(self, words: str, field: QLineEdit, rule: Text, read: Read, edit: Edit) -> None:
        try:
            name = named(field.text(), words, rule)
        except InputError as error:
            self.problem.setText(str(error))
            field.setText(read(self.session.brief))
            return
        self._edit(edit, name)

    def _number(self, grid: QGridLayout, words: str, limit: Limit, read: Read, edit: Edit) -> QuantityField:
        field = QuantityField(words, limit)
        field.changed.connect(lambda value: self._edit(edit, value))
        field.problem.connect(self.problem.setText)
        self._fields.append((field, read))
        self._row(grid, words, field)
        return field

    def _choice(self, grid: QGridLayout, words: str, options: list[tuple[str, str]], read: Read, edit: Edit) -> None:
        box = QComboBox()
        box.setAccessibleName(words)
        box.setMaximumWidth(230)
        for key, shown in options:
            box.addItem(shown, key)
        box.activated.connect(lambda index: self._edit(edit, box.itemData(index)))
        self._fields.append((box, read))
        self._row(grid, words, box)

    def _rider_panel(self) -> QWidget:
        frame, column, grid = self._grid("Who it is for")
        brief, rider, wind = (partial(_of, at) for at in ((), ("rider",), ("wind",)))
        self._text(grid, "Brief", text_of(Brief, "title"), *brief("title"))
        disciplines: list[tuple[str, str]] = [
            (key, key.capitalize()) for members in FAMILIES.values() for key in members
        ]
        self._choice(grid, "Discipline", disciplines, lambda b: b.discipline, with_discipline)
        self._text(grid, "Place", text_of(Brief, "place"), *brief("place"))
        self.register = FromRegister(self.session)
        grid.addWidget(self.register, grid.rowCount(), 0, 1, 2)
        self._group(grid, "Rider")
        self._text(grid, "Name", text_of(Rider, "name"), *rider("name"))
        for words, name in (("Mass, dressed", "mass"), ("Height", "height"), ("Stance", "stance")):
            self._number(grid, words, limit_of(Rider, name), *rider(name))
        self._choice(
            grid, "Skill", [("learning", "learning"), ("riding", "riding"), ("expert", "expert")], *rider("skill")
        )
        self._group(grid, "Water and wind")
        self._choice(grid, "Water", [("sea", "sea"), ("fresh", "fresh")], *_of(("water",), "kind"))
        celsius = limit_of(Water, "celsius")
        self._number(
            grid,
            "Temperature",
            Limit(KELVIN + celsius.low, KELVIN + celsius.high, Q.TEMPERATURE),
            lambda b: b.water.celsius + KELVIN,
            lambda b, v: replace(b, water=replace(b.water, celsius=v - KELVIN)),
        )
        self._number(grid, "Wind", limit_of(Wind, "speed"), *wind("speed"))
        self._number(grid, "measured at a height of", limit_of(Wind, "height"), *wind("height"))
        self._choice(grid, "as", [("mean", "mean wind"), ("gust", "gusts")], *wind("kind"))
        self.notes = QPlainTextEdit()
        self.notes.setAccessibleName("What the rider says")
        self.notes.setPlaceholderText("What the rider says, in the rider's words")
        self.notes.setMinimumHeight(60)
        self.notes.focusOutEvent = self._notes_left  # type: ignore[method-assign]
        self._notes_rest = QTimer(self)
        self._notes_rest.setSingleShot(True)
        self._notes_rest.setInterval(NOTES_AFTER_MS)
        self._notes_rest.timeout.connect(self.keep_notes)
        self.notes.textChanged.connect(self._notes_typed)
        self.session.about_to_leave.connect(self.keep_notes)
        label = QLabel("What the rider says")
        label.setObjectName("group")
        column.addWidget(label)
        column.addWidget(self.notes, 1)
        return frame

    def _notes_left(self, event: Any) -> None:
        QPlainTextEdit.focusOutEvent(self.notes, event)
        self.keep_notes()

    def _notes_typed(self) -> None:
        if self.notes.hasFocus():
            self._notes_rest.start()

    def keep_notes(self) -> None:
        """Keep what the rider says, as far as it is typed."""
        self._notes_rest.stop()
        words = self.notes.toPlainText()
        if words == self._notes_shown:
            return
        try:
            words = named(words, "What the rider says", text_of(Brief, "notes"))
        except InputError as error:
            self.problem.setText(str(error))
            return
        self._notes_shown = self.notes.toPlainText()
        self._edit(lambda b, v: replace(b, notes=v), words)

    def _gear_panel(self) -> QWidget:
        frame, column, _ = self._grid("What the rider owns")
        self._foil_part(column)
        self._wing_part(column)
        self._paddle_part(column)
        holder = self._rest_holder = QWidget()
        grid = self._inner_grid(holder)
        column.addWidget(holder)
        self._group(grid, "At rest and in flight")
        self._number(grid, "Lift of wing, sail or kite at rest", limit_of(Brief, "wing_lift"), *_of((), "wing_lift"))
        self._number(grid, "Ride height, bottom at mast", limit_of(Brief, "ride_height"), *_of((), "ride_height"))
        column.addStretch(1)
        return frame

    def _foil_part(self, column: QVBoxLayout) -> None:
        holder = self._foil_holder = QWidget()
        grid = self._inner_grid(holder)
        column.addWidget(holder)
        self._group(grid, "Foil in use")
        self.foil_choice = QComboBox()
        self.foil_choice.setAccessibleName("Foil in use")
        self.foil_choice.activated.connect(lambda index: self._edit(lambda b, v: replace(b, foil_in_use=v), index))
        grid.addWidget(
            self._with_buttons(self.foil_choice, self._add_foil, self._drop_foil, "foil"), grid.rowCount(), 0, 1, 2
        )

        def foil(name: str) -> tuple[Read, Edit]:
            return lambda b: getattr(b.foil, name), lambda b, v: _with_foil(b, replace(b.foil, **{name: v}))

        self._text(grid, "Name", text_of(Foil, "name"), *foil("name"))
        for words, name in (
            ("Mass, complete", "mass"),
            ("Water it displaces", "volume"),
            ("Mast length", "mast_length"),
            ("Front wing area", "area"),
            ("Front wing span", "span"),
            ("Fuselage", "fuselage"),
            ("Lifts ahead of mast by", "lift_ahead"),
            ("Raked to the plate", "rake"),
            ("Stabiliser shim", "shim"),
        ):
            self._number(grid, words, limit_of(Foil, name), *foil(name))

    def _wing_part(self, column: QVBoxLayout) -> None:
        holder = self._wing_holder = QWidget()
        grid = self._inner_grid(holder)
        column.addWidget(holder)
        self.wing_title = self._group(grid, "Wing in use")
        self.wing_choice = QComboBox()
        self.wing_choice.setAccessibleName("Wing in use")
        self.wing_choice.activated.connect(lambda index: self._edit(lambda b, v: replace(b, wing_in_use=v), index))
        grid.addWidget(
            self._with_buttons(self.wing_choice, self._add_wing, self._drop_wing, "wing"), grid.rowCount(), 0, 1, 2
        )

        def wing(name: str, none: Any) -> tuple[Read, Edit]:
            return lambda b: getattr(b.wing, name) if b.wing else none, lambda b, v: _with_wing(b, name, v)

        self._text(grid, "Name", text_of(Wing, "name"), *wing("name", ""))
        self._number(grid, "Area", limit_of(Wing, "area"), *wing("area", 0.0))
        self._number(grid, "Mass, with its rig", limit_of(Wing, "mass"), *wing("mass", 0.0))

    def _paddle_part(self, column: QVBoxLayout) -> None:
        holder = self._paddle_holder = QWidget()
        grid = self._inner_grid(holder)
        column.addWidget(holder)
        self._group(grid, "Speed and paddle")
        usual = limit_of(Brief, "pace")
        self.pace = self._number(
            grid,
            "Boat, wave or race speed",
            Limit(0.5, usual.high, usual.quantity),
            lambda b: condition_of(b).pace,
            lambda b, v: replace(b, pace=v),
        )
        self._number(grid, "Paddler keeps up", limit_of(Brief, "watts"), *_of((), "watts"))
        self._number(grid, "and for seconds", limit_of(Brief, "peak_watts"), *_of((), "peak_watts"))

    def _inner_grid(self, holder: QWidget) -> QGridLayout:
        """A grid of fields that is shown or hidden as one."""
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        grid.setColumnStretch(1, 1)
        return grid

    def _with_buttons(self, box: QComboBox, add: Callable[[], None], drop: Callable[[], None], what: str) -> QWidget:
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(box, 1)
        for words, slot, tip in (("Add", add, f"Add another {what}"), ("Delete", drop, f"Delete this {what}")):
            button = QPushButton(words)
            button.setToolTip(tip)
            button.setAccessibleName(tip)
            button.clicked.connect(slot)
            row.addWidget(button)
        return holder

    def _target_panel(self) -> QWidget:
        frame = panel()
        column = QVBoxLayout(frame)
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
        column.addWidget(_scrolled(holder), 1)
        add = QPushButton("Add a target")
        add.clicked.connect(self._add_target)
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
        note = self.caution = QLabel()
        note.setObjectName("quiet")
        note.setFont(font(12))
        note.setWordWrap(True)
        column.addWidget(note)
        column.addWidget(self.problem)
        return frame

    # showing

    def refresh(self) -> None:
        """Show the brief."""
        brief, system = self.session.brief, self.session.system
        foiling = brief.discipline in FOILING
        rig = RIGS.get(brief.discipline)
        self._foil_holder.setVisible(foiling)
        self._wing_holder.setVisible(rig is not None)
        self._paddle_holder.setVisible(rig is None)
        self._rest_holder.setVisible(foiling)
        self.wing_title.setText(
            {"hand wing": "Wing in use", "sail": "Sail in use", "kite": "Kite in use"}.get(rig or "", "")
        )
        self.caution.setText(caution(brief.discipline))
        self.foil_choice.clear()
        self.foil_choice.addItems([foil.name for foil in brief.foils] or ["none"])
        self.foil_choice.setCurrentIndex(min(brief.foil_in_use, len(brief.foils) - 1))
        self.wing_choice.clear()
        self.wing_choice.addItems([f"{w.name}, {text(w.area, Q.SAIL_AREA, system)}" for w in brief.wings] or ["none"])
        self.wing_choice.setCurrentIndex(min(brief.wing_in_use, len(brief.wings) - 1) if brief.wings else 0)
        for widget, read in self._fields:
            value = read(brief)
            if isinstance(widget, QuantityField):
                widget.show_value(value, system)
            elif isinstance(widget, QComboBox):
                widget.setCurrentIndex(max(0, widget.findData(value)))
            elif isinstance(widget, QLineEdit) and not (widget.hasFocus() and widget.isModified()):
                widget.setText(value)
                widget.setCursorPosition(0)
        if brief.notes != self._notes_shown and not self.notes.hasFocus():
            self._notes_shown = brief.notes
            self.notes.setPlainText(brief.notes)
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
        self._verdicts: list[QLabel] = []
        figures = self.session.figures()
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
        brief, system, figures = self.session.brief, self.session.system, self.session.figures()
        if len(self._verdicts) != len(brief.targets):
            return
        for label, target in zip(self._verdicts, brief.targets, strict=True):
            verdict = judge(target, figures, brief)
            figure = figures.get(target.figure)
            definition = self._definition(target.figure, figures)
            quantity = definition.quantity if definition is not None else Q.RATIO
            if figure is None and definition is not None:
                label.setText("counting")
                continue
            now = text(figure.value, quantity, system) if figure and figure.exists else "–"
            asked = f", asked {text(verdict.asked, quantity, system)}" if target.relative else ""
            words = f"now {now}{asked}: {verdict_words(verdict, quantity, system)}"
            if verdict.outcome is Outcome.UNKNOWN and verdict.note:
                words += f" ({verdict.note})"
            label.setText(words)
            label.setObjectName({Outcome.SHORT: "wrong", Outcome.MEETS: "group"}.get(verdict.outcome, "quiet"))
            label.style().polish(label)

    # editing

    def _edit(self, edit: Edit, value: Any) -> None:
        self.session.briefs.set(edit(self.session.brief, value))

    def _set_target(self, i: int, **changes: Any) -> None:
        targets = self.session.brief.targets
        new = replace(targets[i], **changes)
        self._edit(lambda b, _: replace(b, targets=(*targets[:i], new, *targets[i + 1 :])), None)

    def _retarget(self, i: int, key: str) -> None:
        figure = self.session.figures().get(key)
        relative = self.session.brief.targets[i].relative
        self._set_target(
            i,
            figure=key,
            value=1.0 if relative else round(figure.value, 6) if figure is not None and figure.exists else 0.0,
        )

    def _relative(self, i: int, on: bool) -> None:
        figure = self.session.figures().get(self.session.brief.targets[i].figure)
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

    def _add_target(self) -> None:
        volume = self.session.figures()["volume"].value
        new = Target(figure="volume", relation="at least", value=round(volume, 4))
        self._edit(lambda b, _: replace(b, targets=(*b.targets, new)), None)

    def _add_foil(self) -> None:
        new = (
            replace(self.session.brief.foil, name=f"Foil {len(self.session.brief.foils) + 1}")
            if self.session.brief.foils
            else Foil(name="Foil 1")
        )
        self._edit(lambda b, _: replace(b, foils=(*b.foils, new), foil_in_use=len(b.foils)), None)

    def _drop_foil(self) -> None:
        i = self.session.brief.foil_in_use
        self._edit(lambda b, _: replace(b, foils=b.foils[:i] + b.foils[i + 1 :], foil_in_use=0), None)

    def _add_wing(self) -> None:
        rig = RIGS.get(self.session.brief.discipline)
        first = FIRST_GEAR[rig] if rig is not None else Wing(name="Wing", area=5.0)
        new = replace(first, name=f"{first.name.split()[0]} {len(self.session.brief.wings) + 1}")
        self._edit(lambda b, _: replace(b, wings=(*b.wings, new), wing_in_use=len(b.wings)), None)

    def _drop_wing(self) -> None:
        i = self.session.brief.wing_in_use
        self._edit(lambda b, _: replace(b, wings=b.wings[:i] + b.wings[i + 1 :], wing_in_use=0), None)


def _of(at: tuple[str, ...], name: str) -> tuple[Read, Edit]:
    """How a field of the brief, or of a part of it, is read and replaced."""
    if not at:
        return lambda b: getattr(b, name), lambda b, v: replace(b, **{name: v})
    part = at[0]
    return lambda b: getattr(getattr(b, part), name), lambda b, v: replace(
        b, **{part: replace(getattr(b, part), **{name: v})}
    )


def _scrolled(holder: QWidget) -> QScrollArea:
    """A part of a sheet that scrolls where the window is low."""
    holder.setObjectName("sheet")
    scroll = QScrollArea()
    scroll.setWidgetResizable(True)
    scroll.setFrameShape(QScrollArea.Shape.NoFrame)
    scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    scroll.viewport().setAutoFillBackground(False)
    scroll.setWidget(holder)
    return scroll


def _with_foil(brief: Brief, foil: Foil) -> Brief:
    if not brief.foils:
        return replace(brief, foils=(foil,))
    i = min(brief.foil_in_use, len(brief.foils) - 1)
    return replace(brief, foils=(*brief.foils[:i], foil, *brief.foils[i + 1 :]))


def _with_wing(brief: Brief, name: str, value: Any) -> Brief:
    if brief.wing is None:
        return brief
    i = min(brief.wing_in_use, len(brief.wings) - 1)
    return replace(brief, wings=(*brief.wings[:i], replace(brief.wing, **{name: value}), *brief.wings[i + 1 :]))


def brief_view(window: MainWindow) -> BriefView:
    """The Brief view of a window."""
    return BriefView(window.session)
