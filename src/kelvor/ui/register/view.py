"""The Register: riders, places and gear, kept once and taken into brief after brief."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QScrollArea, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.brief.brief import Foil, Rider, Wing
from kelvor.core.register.in_briefs import brief_with_record, fitting
from kelvor.core.register.kinds.registers import Paddle, Spot
from kelvor.core.register.record import REGISTERS, Record, RecordKind, record_name
from kelvor.core.shape.parts.fittings import Fin
from kelvor.ui.controls.panel import heading, panel, plain_label
from kelvor.ui.controls.value_form import ValueForm
from kelvor.ui.register.shown.registers import KINDS, revision_words, users_words
from kelvor.ui.session.session import Session
from kelvor.workshop.opening import FileHeld

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window

FIRST: dict[RecordKind, Any] = {
    "rider": Rider(name="New rider"),
    "place": Spot(name="New place"),
    "sail": Wing(name="New sail", area=6.0, mass=7.0),
    "hand wing": Wing(name="New wing", area=5.0, mass=2.7),
    "kite": Wing(name="New kite", area=9.0, mass=3.3),
    "foil": Foil(name="New foil"),
    "fin": Fin(name="New fin"),
    "paddle": Paddle(name="New paddle"),
}


class RegisterView(QWidget):
    """Kinds, things of a kind, and the chosen one's fields."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        self._uid = ""
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 4)
        row.setSpacing(8)
        self.kinds, self.things = QListWidget(), QListWidget()
        self.kinds.setAccessibleName("Registers")
        self.things.setAccessibleName("In this register")
        for kind in REGISTERS:
            item = QListWidgetItem(KINDS[kind].many)
            item.setData(Qt.ItemDataRole.UserRole, kind)
            self.kinds.addItem(item)
        self.kinds.currentRowChanged.connect(self._kind_chosen)
        self.things.currentItemChanged.connect(self._thing_chosen)
        row.addWidget(self._lists(), 11)
        row.addWidget(self._thing(), 12)
        session.workshop.records_changed.connect(self.refresh)
        session.brief_changed.connect(self._show_thing)
        session.units_changed.connect(self._show_thing)
        session.about_to_leave.connect(self.form.take)
        self.kinds.setCurrentRow(0)

    def _lists(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(16, 12, 16, 12)
        column.addWidget(heading("Kept once, for all boards"))
        lists = QHBoxLayout()
        lists.addWidget(self.kinds, 2)
        lists.addWidget(self.things, 3)
        column.addLayout(lists, 1)
        buttons = QHBoxLayout()
        self.add, self.off = QPushButton("Add"), QPushButton("Take off the register")
        self.add.clicked.connect(self.add_thing)
        self.off.clicked.connect(self.take_off)
        buttons.addWidget(self.add)
        buttons.addWidget(self.off)
        buttons.addStretch(1)
        self.gather = QPushButton("Fill it from all briefs")
        self.gather.setToolTip("Riders, places and gear that stand in briefs and in no register are kept, each once")
        self.gather.clicked.connect(self.from_briefs)
        buttons.addWidget(self.gather)
        column.addLayout(buttons)
        return frame

    def _thing(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.title = heading("")
        self.title.setTextFormat(Qt.TextFormat.PlainText)
        self.revision, self.users, self.problem = plain_label(), plain_label(), plain_label()
        self.revision.setObjectName("quiet")
        self.problem.setObjectName("wrong")
        for label in (self.revision, self.users, self.problem):
            label.setWordWrap(True)
        column.addWidget(self.title)
        column.addWidget(self.revision)
        self.form = ValueForm(self._typed, self.problem.setText)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        holder = QWidget()
        holder.setObjectName("sheet")
        inner = QVBoxLayout(holder)
        inner.setContentsMargins(0, 0, 8, 0)
        inner.addWidget(self.form)
        inner.addStretch(1)
        scroll.setWidget(holder)
        column.addWidget(scroll, 1)
        column.addWidget(self.users)
        buttons = QHBoxLayout()
        self.take, self.everywhere = QPushButton("Take it into this brief"), QPushButton("Take it in all briefs")
        self.take.clicked.connect(self.take_here)
        self.everywhere.clicked.connect(self.take_everywhere)
        buttons.addWidget(self.take)
        buttons.addWidget(self.everywhere)
        buttons.addStretch(1)
        column.addLayout(buttons)
        column.addWidget(self.problem)
        return frame

    @property
    def kind(self) -> RecordKind:
        """The register on show."""
        return REGISTERS[max(self.kinds.currentRow(), 0)]

    def record(self) -> Record | None:
        """The thing on show."""
        return self.session.workshop.registers.get(self._uid)

    # showing

    def refresh(self) -> None:
        """Show what is in the register."""
        self.things.blockSignals(True)
        self.things.clear()
        here = None
        for record in self.session.workshop.registers.of(self.kind):
            item = QListWidgetItem(record_name(record))
            item.setData(Qt.ItemDataRole.UserRole, record.uid)
            self.things.addItem(item)
            here = item if record.uid == self._uid else here
        self.things.setCurrentItem(here or self.things.item(0))
        self.things.blockSignals(False)
        item = self.things.currentItem()
        self._uid = item.data(Qt.ItemDataRole.UserRole) if item is not None else ""
        self._show_thing()

    def _kind_chosen(self) -> None:
        self._uid = ""
        self.refresh()

    def _thing_chosen(self, item: QListWidgetItem | None) -> None:
        self.form.take()
        self._uid = item.data(Qt.ItemDataRole.UserRole) if item is not None else ""
        self._show_thing()

    def _show_thing(self) -> None:
        record = self.record()
        self.form.setVisible(record is not None)
        for button in (self.off, self.take, self.everywhere):
            button.setEnabled(record is not None)
        if record is None:
            self.title.setText(f"No {KINDS[self.kind].one} yet")
            self.revision.setText("Add one, or fill the register from the briefs there are.")
            self.users.setText("")
            return
        self.title.setText(record_name(record))
        self.revision.setText(revision_words(record))
        self.form.show_value(
            record.value, self.session.system, {"height": "Wind told at"} if record.kind == "place" else None
        )
        fits = fitting(self.session.brief, record.kind)
        self.take.setEnabled(fits)
        self.take.setToolTip(
            ""
            if fits
            else f"A {KINDS[record.kind].one} does not drive or carry a {self.session.brief.discipline} board"
        )
        used = self.users_of(record)
        self.users.setText(users_words(record, used, self.session.workshop.store.names()))
        self.everywhere.setEnabled(any(revision < record.revision for revision in used.values()))

    def users_of(self, record: Record) -> dict[int, int]:
        """The boards whose briefs refer to a record, and at which revision."""
        session = self.session
        try:
            found = session.workshop.store.referring(record.uid)
        except InputError:
            return {}
        here = next((r.revision for r in session.brief.refers if r.uid == record.uid), None)
        found.pop(session.board_id, None)
        return {**found, **({session.board_id: here} if here is not None else {})}

    # doing

    def _typed(self, value: Any) -> None:
        record = self.record()
        if record is not None:
            self.session.workshop.registers.keep(
                record.kind, value, f"{KINDS[record.kind].one} {value.name}", uid=record.uid
            )

    def add_thing(self) -> str:
        """A new thing, its name ready to be typed over; its identity."""
        value = FIRST[self.kind]
        self._uid = self.session.workshop.registers.keep(self.kind, value, f"a new {KINDS[self.kind].one}")
        self.refresh()
        name = self.form.field("name")
        name.setFocus()
        name.selectAll()  # type: ignore[attr-defined]
        return self._uid

    def take_off(self) -> None:
        """Off the register; briefs and what was written of it stay. What briefs still refer to stays on it."""
        record = self.record()
        if record is None:
            return
        used = self.users_of(record)
        if used:
            names = self.session.workshop.store.names()
            self.problem.setText(f"{record_name(record)} stays: {users_words(record, used, names)}")
            return
        self.problem.setText("")
        self.session.workshop.registers.take_off(record.uid, f"{record_name(record)} taken off the register")

    def take_here(self) -> None:
        """Into the brief of the board on the bench."""
        record = self.record()
        if record is not None:
            self.session.briefs.set(
                brief_with_record(self.session.brief, record, use=True), f"{record_name(record)} into the brief"
            )
            self._show_thing()

    def take_everywhere(self) -> None:
        """Into every brief that refers to it: one gesture, taken back in one."""
        record = self.record()
        if record is None:
            return
        try:
            count = self.session.briefs.take_everywhere(record, list(self.users_of(record)))
        except FileHeld:
            self.problem.setText("Another program holds the file: try again in a moment.")
            return
        except InputError as error:
            self.problem.setText(str(error))
            return
        self.session.message.emit(
            "note", f"{record_name(record)}, as in the register now, in {count} brief{'s' if count != 1 else ''}."
        )
        self._show_thing()

    def from_briefs(self) -> None:
        """Keep what stands in briefs and in no register, each once, as one gesture."""
        try:
            count = self.session.briefs.fill_registers()
        except InputError as error:
            self.problem.setText(str(error))
            return
        self.session.message.emit(
            "note",
            f"{count} kept from the briefs." if count else "All that stands in briefs is in the registers already.",
        )
        self.refresh()


def register_view(window: Window) -> RegisterView:
    """The registers of a window."""
    return RegisterView(window.session)
