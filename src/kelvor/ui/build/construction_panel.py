"""The construction of the board on the bench: chosen, its layers laid, changed and dropped, kept for other boards."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
)

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import typed_name
from kelvor.core.base.units import Quantity, text
from kelvor.core.build.mass.chambers import chambered_to
from kelvor.core.levers.layer_benefit import built
from kelvor.core.shape.parts.construction import Coat, Construction, Ply, Stringer
from kelvor.ui.build.core_fields import CoreFields
from kelvor.ui.build.layer_fields import LayerFields
from kelvor.ui.build.part_fields import PartFields
from kelvor.ui.build.shown.construction import (
    NEW_PARTS,
    NewPart,
    moved_inward,
    part_of,
    part_rows,
    ply_words,
    with_new_part,
    with_part,
)
from kelvor.ui.controls.panel import problem_label
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

SMALL = "padding: 4px 7px;"


class ConstructionPanel(QFrame):
    """Every change is a step of the board."""

    materials_asked = Signal()
    weights_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._part = ""
        self.setObjectName("panel")
        self.setFixedWidth(350)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(6)
        title, heading = QHBoxLayout(), QLabel("Construction")
        heading.setFont(font(14, 700))
        title.addWidget(heading, 1)
        for words, asked in (("Materials…", self.materials_asked), ("Weights…", self.weights_asked)):
            button = QPushButton(words)
            button.setStyleSheet("padding: 3px 8px;")
            button.clicked.connect(asked)
            title.addWidget(button)
        column.addLayout(title)
        self.library = QComboBox()
        self.library.setAccessibleName("Construction of the workshop")
        self.library.activated.connect(self._library_chosen)
        column.addWidget(self.library)
        self.core = CoreFields()
        self.core.changed.connect(self._commit)
        self.core.wanted.connect(self._to_weight)
        column.addWidget(self.core)
        group = QLabel("Layers, from the core outward")
        group.setObjectName("group")
        column.addWidget(group)
        self.plies = RowsView("Layers of cloth", row_height=25)
        self.plies.setMinimumHeight(76)
        self.plies.chosen.connect(self._chosen)
        column.addWidget(self.plies, 1)
        column.addLayout(self._buttons())
        self.layer = LayerFields()
        self.layer.changed.connect(self._ply_changed)
        self.part = PartFields()
        self.part.changed.connect(self._part_changed)
        self.fields = QStackedWidget()
        self.fields.addWidget(self.layer)
        self.fields.addWidget(self.part)
        self.fields.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        column.addWidget(self.fields)
        self.keep = QPushButton("Keep this construction for all boards as …")
        self.keep.clicked.connect(self._keep)
        self.keep_name = QLineEdit()
        self.keep_name.setAccessibleName("Name of the construction")
        self.keep_name.setPlaceholderText("name")
        row = QHBoxLayout()
        row.addWidget(self.keep, 1)
        row.addWidget(self.keep_name, 1)
        column.addLayout(row)
        self.problem = problem_label()
        column.addWidget(self.problem)
        for fields in (self.core, self.layer, self.part):
            fields.problem.connect(self._problem)
        session.message.connect(self._say)

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.buttons: dict[str, QPushButton] = {}
        for words, slot in (
            ("More", lambda: self._count(1)),
            ("Less", lambda: self._count(-1)),
            ("On, off", self._switch),
            ("Up", self._move),
            ("Delete", self._drop),
        ):
            button = QPushButton(words)
            button.setStyleSheet(SMALL)
            button.clicked.connect(slot)
            self.buttons[words] = button
            row.addWidget(button)
        self.new = QPushButton("New")
        self.new.setStyleSheet(SMALL)
        menu = QMenu(self.new)
        for words, make in NEW_PARTS:
            menu.addAction(words, partial(self._lay, make))
        self.new.setMenu(menu)
        row.addWidget(self.new)
        return row

    def _problem(self, words: str) -> None:
        self._say("problem", words)

    def _say(self, kind: str, words: str) -> None:
        self.problem.setObjectName("wrong" if kind == "problem" else "quiet")
        self.problem.style().polish(self.problem)
        self.problem.setText(words)

    @property
    def construction(self) -> Construction | None:
        """The construction of the board on the bench."""
        return self.session.board.construction

    def refresh(self) -> None:
        """Show the construction of the board on the bench."""
        session, c = self.session, self.construction
        self.library.clear()
        self.library.addItem("Not stated: areal masses only" if c is None else f"As built here: {c.name}", "")
        for item in session.workshop.tables.constructions(session.brief.discipline):
            self.library.addItem(item.name, item.name)
        self.core.show_construction(c, session.table, session.system)
        self.core.show_weight(session.live.mass.total.mass, session.system)
        self.plies.set_rows(part_rows(c, session.board, session.table, session.system))
        self._show_part()

    def _chosen(self, key: str) -> None:
        self._part = key
        self._show_part()

    def _show_part(self) -> None:
        session, part = self.session, part_of(self.construction, self._part)
        ply = part if isinstance(part, Ply) else None
        self.layer.show_ply(self._part, ply, session.board, session.table, session.system)
        if isinstance(part, (Stringer, Coat)):
            self.part.show_part(self._part, part, session.board, session.table, session.system)
        self.fields.setCurrentWidget(self.part if isinstance(part, (Stringer, Coat)) else self.layer)
        for words, usable in (
            ("More", ply),
            ("Less", ply),
            ("Up", ply),
            ("Delete", part),
            ("On, off", None if isinstance(part, Coat) else part),
        ):
            self.buttons[words].setEnabled(usable is not None)

    # changing

    def _commit(self, construction: Construction, words: str) -> None:
        self._problem("")
        self.session.build_with(construction, words)

    def _to_weight(self, mass: float) -> None:
        """Leave so much wood that the board weighs this."""
        session = self.session
        construction = session.board.construction
        if construction is None:
            return
        try:
            built = chambered_to(session.live.geometry, construction, mass, session.table)
        except InputError as error:
            self._problem(str(error))
            self.core.weight.forget()
            self.core.show_weight(session.live.mass.total.mass, session.system)
            return
        self._commit(built, f"Chambers to {text(mass, Quantity.MASS, session.system)}")

    def _library_chosen(self, index: int) -> None:
        name = self.library.itemData(index)
        found = next(
            (c for c in self.session.workshop.tables.constructions(self.session.brief.discipline) if c.name == name),
            None,
        )
        if found is not None:
            self.use(found)

    def use(self, construction: Construction) -> None:
        """Build the board another way."""
        self._commit(construction, f"Built as {construction.name}")

    def _ply_changed(self, ply: Ply) -> None:
        session, c = self.session, self.construction
        if c is not None:
            self._commit(
                with_part(c, self._part, ply),
                f"{ply.name}: {ply_words(ply, session.board, session.table, session.system)}",
            )

    def _part_changed(self, part: Stringer | Coat) -> None:
        session, c = self.session, self.construction
        if c is not None:
            changed = with_part(c, self._part, part)
            rows = part_rows(changed, session.board, session.table, session.system)
            words = next(row.value for row in rows if row.key == self._part)
            self._commit(changed, f"{part.name}: {words}")

    def _count(self, by: int) -> None:
        ply, c, session = part_of(self.construction, self._part), self.construction, self.session
        if isinstance(ply, Ply) and c is not None and ply.count + by >= 0:
            changed = with_part(c, self._part, replace(ply, count=ply.count + by))
            gap = (
                built(session.live.geometry, changed, session.brief, session.table).mass - session.live.mass.total.mass
            )
            grams = f"{gap * 1000:+.0f} g".replace("-", "−")
            self._commit(changed, f"{ply.name}: {ply.count} → {ply.count + by} layers, {grams}")

    def _switch(self) -> None:
        part, c = part_of(self.construction, self._part), self.construction
        if c is not None and part is not None and not isinstance(part, Coat):
            self._commit(
                with_part(c, self._part, replace(part, on=not part.on)), f"{part.name} {'off' if part.on else 'on'}"
            )

    def _move(self) -> None:
        part, c = part_of(self.construction, self._part), self.construction
        if c is not None and part is not None:
            changed, key = moved_inward(c, self._part)
            if changed != c:
                self._commit(changed, f"{part.name} laid nearer the core")
                self.plies.choose(key)

    def _drop(self) -> None:
        part, c = part_of(self.construction, self._part), self.construction
        if c is not None and part is not None:
            self._commit(with_part(c, self._part, None), f"{part.name} dropped")

    def _lay(self, make: NewPart) -> None:
        c = self.construction
        if c is None:
            self._problem("Choose a construction first; then lay one more.")
            return
        changed, key = with_new_part(c, make, self.session.board)
        part = part_of(changed, key)
        assert part is not None
        self._commit(changed, f"{part.name} added")
        self.plies.choose(key)

    def _keep(self) -> None:
        c = self.construction
        if c is None:
            self._problem("Choose a construction first.")
            return
        try:
            name = typed_name(self.keep_name.text(), "The construction's name")
        except InputError as error:
            self._problem(str(error))
            return
        kept = replace(c, name=name)
        words = f"Kept as {name} for all boards"
        with self.session.workshop.gestures.as_one(words):
            self.session.workshop.tables.keep_construction(kept)
            self._commit(kept, words)
        self.keep_name.clear()
