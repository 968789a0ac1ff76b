"""Small windows beside the work. None of them stops it; Escape closes them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QWidget,
)

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.errors import KelvorError
from kelvor.core.base.limits import Limit, lengths, limit_of, typed_name, within
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import Quantity, parse, text
from kelvor.core.brief.brief import Brief
from kelvor.core.levers.catalogue import Pulled
from kelvor.core.levers.fields import peak
from kelvor.core.levers.rocker_lines import OWN_LAYER, RockerLine, absorbers, taken_up_by
from kelvor.core.new_board.balance import in_balance
from kelvor.core.new_board.proposals import Proposal, brief_for, proposals, proposed_board
from kelvor.core.register.in_briefs import PARTS, fitted_brief
from kelvor.core.register.kinds.shop import Reshape
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.fairness import LINES
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Across, DeckLayer, Layer, Layout, ShapingLayer
from kelvor.core.shape.surface.sections import Resolution, Sections, core_sections, sections
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session
from kelvor.workshop.store import BoardEntry


class NewBoardDialog(Panel):
    """A new board of any discipline: sizes proposed by school, with reasons, to be typed over."""

    guide = "new-board#proposed-sizes"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "New board", "Begin")
        self.session = session
        self.name = self.field("Name", f"Board {len(session.workshop.store.boards()) + 1}")
        self.discipline = QComboBox()
        for family, members in FAMILIES.items():
            for key in members:
                self.discipline.addItem(key.capitalize(), key)
                self.discipline.setItemData(self.discipline.count() - 1, family, Qt.ItemDataRole.ToolTipRole)
        self.discipline.setCurrentIndex(self.discipline.findData(session.brief.discipline))
        self.discipline.setAccessibleName("Discipline")
        self.form.addRow("Discipline", self.discipline)
        self.school = QComboBox()
        self.school.setAccessibleName("School")
        self.form.addRow("School", self.school)
        self.says = QLabel()
        self.says.setWordWrap(True)
        self.says.setObjectName("quiet")
        self.says.setMinimumSize(380, 74)
        self.says.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.form.addRow("", self.says)
        self.length_field, self.width_field, self.volume = (
            self.field(w, "") for w in ("Length", "Max width", "Volume")
        )
        self.brief = QComboBox()
        self.brief.addItem("the brief that is open", True)
        self.brief.addItem("a new brief", False)
        self.form.addRow("Brief", self.brief)
        self._proposals: tuple[Proposal, ...] = ()
        self.discipline.currentIndexChanged.connect(self._schools)
        self.school.currentIndexChanged.connect(self._proposed)
        self._schools()

    def _schools(self) -> None:
        brief = replace(self.session.brief, discipline=self.discipline.currentData())
        self._proposals = proposals(brief)
        self.school.clear()
        for item in self._proposals:
            self.school.addItem(item.school)

    def _proposed(self, index: int) -> None:
        if not 0 <= index < len(self._proposals):
            return
        item, system = self._proposals[index], self.session.system
        self.length_field.setText(text(item.length, Quantity.LENGTH, system))
        self.width_field.setText(text(item.width, Quantity.LENGTH, system))
        self.volume.setText(text(item.volume, Quantity.VOLUME, system))
        self.says.setText(f"{item.says} Proposed: {'; '.join(item.reasons)}.")

    def act(self) -> bool:
        """Make the board."""
        system, session = self.session.system, self.session
        length, width = (parse(f.text(), Quantity.LENGTH, system) for f in (self.length_field, self.width_field))
        volume = parse(self.volume.text(), Quantity.VOLUME, system)
        name = typed_name(self.name.text(), "The board's name")
        within(limit_of(Board, "length"), length, "Length", system)
        within(lengths(0.15, 1.4), width, "Width", system)
        within(Limit(0.002, 0.6, Quantity.VOLUME), volume, "Volume", system)
        proposal = replace(self._proposals[self.school.currentIndex()], length=length, width=width, volume=volume)
        board = proposed_board(name, proposal)
        own = session.brief if self.brief.currentData() else Brief(wings=())
        brief = fitted_brief(brief_for(own, proposal.discipline), session.workshop.registers.of(*PARTS))
        board = in_balance(board, brief, session.coefficients)
        session.file.add_board(board, brief, f"Began as {proposal.discipline}, {proposal.school}")
        return True


class ChildDialog(Panel):
    """A child of the current step: it begins as it is, and remembers its parent."""

    guide = "new-board#a-child"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Child of this step", "Begin")
        self.session = session
        self.name = self.field("Name", f"{session.board.name} child")
        self.reason = self.field("What should differ", "")

    def act(self) -> bool:
        """Make the child."""
        session = self.session
        name = typed_name(self.name.text(), "The child's name")
        why = f": {self.reason.text().strip()}" if self.reason.text().strip() else ""
        title = one_line(f"Child of {session.board.name}, version {session.step().number}{why}")
        session.file.add_board(replace(session.board, name=name), session.brief, title, session.current)
        return True


class LengthDialog(Panel):
    """Cut or add length at one end, where nothing else moves, or between two places."""

    guide = "shape#outline"

    def __init__(
        self, parent: QWidget, session: Session, apply: Callable[[Board, str, float, tuple[float, float]], Pulled]
    ) -> None:
        super().__init__(parent, "Length at…", "Do it")
        self.session, self._apply = session, apply
        self.where = QComboBox()
        for words, key in (("the tail", "tail"), ("the nose", "nose"), ("between two places", "between")):
            self.where.addItem(words, key)
        self.form.addRow("At", self.where)
        self.how = QComboBox()
        self.how.addItem("cut", -1.0)
        self.how.addItem("add", 1.0)
        self.form.addRow("What", self.how)
        self.amount = self.field("How much", text(0.02, Quantity.LENGTH, session.system))
        self.start = self.field("From, off the tail", text(0.5 * session.board.length, Quantity.LENGTH, session.system))
        self.end = self.field("To, off the tail", text(0.8 * session.board.length, Quantity.LENGTH, session.system))
        self.where.currentIndexChanged.connect(self._shown)
        self._shown()

    def _shown(self) -> None:
        for field in (self.start, self.end):
            self.form.setRowVisible(field, self.where.currentData() == "between")

    def act(self) -> bool:
        """Cut or add."""
        amount = parse(self.amount.text(), Quantity.LENGTH, self.session.system) * float(self.how.currentData())
        start, end = (parse(field.text(), Quantity.LENGTH, self.session.system) for field in (self.start, self.end))
        result = self._apply(self.session.board, str(self.where.currentData()), amount, (start, end))
        if not self.session.commit(result.board, result.changes, held=True):
            raise KelvorError("No board would result; the last good one stays on the bench.")
        return True


class AbsorberDialog(Panel):
    """What takes up a change of keel, mid or rail line, and how far along the board."""

    guide = "shape#rocker"

    def __init__(self, parent: QWidget, session: Session, line: RockerLine) -> None:
        super().__init__(parent, "What takes up a change", "Use it")
        self.session = session
        self.line: RockerLine = "mid" if line == "keel" else line
        self.absorber = QComboBox()
        self.absorber.setAccessibleName("Taken up by")
        for name in absorbers(session.board, self.line):
            words = {
                "rocker": "the reference rocker: all lines follow",
                OWN_LAYER: "a layer of its own: the keel stays",
            }.get(name, f"the layer “{name}”")
            self.absorber.addItem(words, name)
        self.absorber.setCurrentIndex(max(0, self.absorber.findData(session.board.locks.absorber)))
        self.form.addRow("Taken up by", self.absorber)
        self.reach = self.field("Reach, either way", text(session.board.locks.reach, Quantity.LENGTH, session.system))

    def act(self) -> bool:
        """Keep the choice with the board."""
        board = self.session.board
        reach = parse(self.reach.text(), Quantity.LENGTH, self.session.system)
        if not 0.05 <= reach <= board.length:
            raise KelvorError("The reach lies between 5 cm and the board's length.")
        name = str(self.absorber.currentData())
        locks = replace(board.locks, absorber=name, reach=reach)
        self.session.commit(
            replace(board, locks=locks),
            (),
            title=f"Changes of mid and rail taken up by {taken_up_by(name, self.line)}",
            held=True,
        )
        return True


class StraightEdgeDialog(Panel):
    """Which line the straight edge lies on, and how long it is."""

    guide = "shape#rocker"

    def __init__(
        self, parent: QWidget, session: Session, line: str, length: float, lay: Callable[[str, float], None]
    ) -> None:
        super().__init__(parent, "Straight edge", "Lay it on")
        self.session, self._lay = session, lay
        self.line = QComboBox()
        self.line.setAccessibleName("Line")
        for name in LINES:
            self.line.addItem(name.capitalize(), name)
        self.line.setCurrentIndex(self.line.findData(line))
        self.form.addRow("On the", self.line)
        self.long = self.field("Length", text(length, Quantity.LENGTH, session.system))

    def act(self) -> bool:
        """Lay it on."""
        length = parse(self.long.text(), Quantity.LENGTH, self.session.system)
        if not 0.05 <= length <= self.session.board.length:
            raise KelvorError("A straight edge is 5 cm long or more, and no longer than the board.")
        self._lay(str(self.line.currentData()), length)
        return True


class ReshapeDialog(Panel):
    """Which old board the new one is to be cut from, and where it lies in it."""

    guide = "shape#look-at-it"

    def __init__(
        self, parent: QWidget, session: Session, put: Callable[[Sections | None, str, float | None], None]
    ) -> None:
        super().__init__(parent, "Reshape an old board", "Lay it behind")
        self.session, self._put = session, put
        self.old = QComboBox()
        self.old.setAccessibleName("Old board")
        if session.overlays.step is not None:
            self.old.addItem(f"{session.board.name}, {session.overlays.name()} (reference)", session.overlays.step)
        self._of_step: dict[int, BoardEntry] = {}
        for entry in session.workshop.store.boards():
            step = session.workshop.store.left_at(entry.id)
            self._of_step[step] = entry
            self.old.addItem(f"{entry.name}, as it stands", step)
        self.old.setCurrentIndex(self.old.count() - 1 if session.overlays.step is None else 0)
        self.old.setMaxVisibleItems(20)
        self.form.addRow("Old board", self.old)
        self.foam = QComboBox()
        self.foam.setAccessibleName("Its foam")
        self.foam.addItem("its core, the laminate stripped off", True)
        self.foam.addItem("as finished, the laminate shaped with it", False)
        self.form.addRow("Its foam", self.foam)
        self.slide = self.field("New tail ahead of the old", "")
        self.slide.setPlaceholderText("empty: where least sticks out")
        self.explain(
            "Dust of old laminate: mask, extraction, or sand it wet. The board is laid in without tilting it.", row=2
        )
        off = QPushButton("Take it away")
        off.setAutoDefault(False)
        off.clicked.connect(self._off)
        self.form.addRow("", off)

    def _off(self) -> None:
        self._put(None, "", None)
        registers = self.session.workshop.registers
        if (link := registers.reshape(self.session.board_id)) is not None:
            registers.take_off(link.uid, f"no longer cut out of {link.value.name}")
        self.close()

    def act(self) -> bool:
        """Lay the old board behind the new one."""
        board = self.session.workshop.store.board(int(self.old.currentData()))
        shape = (
            core_sections(board, Resolution.NORMAL) if self.foam.currentData() else sections(board, Resolution.NORMAL)
        )
        if isinstance(shape, tuple):
            raise KelvorError(f"{shape[0].text}. Take it as finished instead.")
        typed = self.slide.text().strip()
        slide = parse(typed, Quantity.LENGTH, self.session.system) if typed else None
        self._put(shape, board.name, slide)
        entry = self._of_step.get(int(self.old.currentData()))
        if entry is not None and entry.id != self.session.board_id:
            self._link(entry)
        return True

    def _link(self, entry: BoardEntry) -> None:
        """The lineage tells out of which old board this one is to be cut."""
        session, registers = self.session, self.session.workshop.registers
        before = registers.reshape(session.board_id)
        registers.keep(
            "reshape",
            Reshape(name=entry.name, old=entry.id),
            f"to be cut out of {entry.name}",
            uid=before.uid if before is not None else "",
            board=session.board_id,
            step=session.current,
        )


class LayersDialog(Panel):
    """Bottom layers and deck features: which line each holds, how it is laid out, their order, on or off."""

    guide = "shape#bottom"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Layers of bottom and deck", "")
        self.session = session
        self.list = QListWidget()
        self.list.setAccessibleName("Bottom layers from the reference rocker up, then deck features")
        self.list.setMinimumSize(420, 210)
        self.column.insertWidget(1, self.list)
        row = QHBoxLayout()
        for words, slot in (
            ("Hold keel or rail", self.swap_held),
            ("Lay out by", self.lay_out),
            ("On or off", self.switch),
            ("Up", lambda: self.shift(-1)),
            ("Down", lambda: self.shift(1)),
            ("Take off", self.take_off),
        ):
            button = QPushButton(words)
            button.setAutoDefault(False)
            button.clicked.connect(slot)
            row.addWidget(button)
        self.column.insertLayout(2, row)
        session.live_changed.connect(self.refresh)
        self.refresh()

    def _layers(self) -> tuple[Layer | DeckLayer, ...]:
        board = self.session.board
        return (*board.layers, *board.deck_layers)

    def refresh(self) -> None:
        """Show the layers."""
        at = self.list.currentRow()
        self.list.clear()
        for item in self._layers():
            words = ""
            if isinstance(item, ShapingLayer):
                words = f", {_ACROSS_WORDS[item.layout.across]}, holds the {item.holds}"
            elif isinstance(item, DeckLayer):
                words = ", on the deck"
            self.list.addItem(f"{item.name}{words}{'' if item.on else ', off'}")
        self.list.setCurrentRow(max(0, min(at, self.list.count() - 1)))

    def _chosen(self) -> tuple[int, Layer | DeckLayer | None]:
        at, layers = self.list.currentRow(), self._layers()
        return at, layers[at] if 0 <= at < len(layers) else None

    def _commit(self, layers: Sequence[Layer | DeckLayer], words: str) -> None:
        deck = tuple(item for item in layers if isinstance(item, DeckLayer))
        bottom = tuple(item for item in layers if not isinstance(item, DeckLayer))
        self.session.commit(replace(self.session.board, layers=bottom, deck_layers=deck), (), title=words)

    def _replaced(self, at: int, layer: Layer | DeckLayer, words: str) -> None:
        layers = self._layers()
        self._commit((*layers[:at], layer, *layers[at + 1 :]), words)

    def swap_held(self) -> None:
        """Hold the other line."""
        at, layer = self._chosen()
        if isinstance(layer, ShapingLayer):
            other = replace(layer, holds="rail" if layer.holds == "keel" else "keel")
            self._replaced(at, other, f"{layer.name} holds the {other.holds}")

    def lay_out(self) -> None:
        """Lay a layer out over the whole width, from the centre, or from the edge, in turn."""
        at, layer = self._chosen()
        if isinstance(layer, (ShapingLayer, DeckLayer)):
            order: list[Across] = ["share", "centre", "edge"]
            across = order[(order.index(layer.layout.across) + 1) % 3]
            width = layer.layout.width if peak(layer.layout.width) > 0 else Schedule.constant(0.06)
            self._replaced(
                at, replace(layer, layout=Layout(across, width)), f"{layer.name} laid out {_ACROSS_WORDS[across]}"
            )

    def switch(self) -> None:
        """Switch a layer on or off."""
        at, layer = self._chosen()
        if layer is not None:
            self._replaced(at, replace(layer, on=not layer.on), f"{layer.name} {'off' if layer.on else 'on'}")

    def shift(self, by: int) -> None:
        """Change the order, among bottom layers or among deck features."""
        at, layer = self._chosen()
        layers = list(self._layers())
        if (
            layer is not None
            and 0 <= at + by < len(layers)
            and isinstance(layers[at + by], DeckLayer) == isinstance(layer, DeckLayer)
        ):
            layers[at], layers[at + by] = layers[at + by], layers[at]
            self.list.setCurrentRow(at + by)
            self._commit(layers, f"{layer.name} moved in the order of layers")

    def take_off(self) -> None:
        """Take a layer off."""
        at, layer = self._chosen()
        if layer is not None:
            layers = self._layers()
            self._commit((*layers[:at], *layers[at + 1 :]), f"{layer.name} taken off")


_ACROSS_WORDS: dict[Across, str] = {
    "share": "over the whole width",
    "centre": "from the centre",
    "edge": "from the edge",
}


_FIRST_STEPS = """
<p><b>Drag</b> the lead weights on plan, profile and section. Click a dimension or a lever's value and type,
in any unit: <i>47</i>, <i>18 1/2 in</i>, <i>5'8 1/2"</i>. Arrows nudge, with Shift finer. Double-click
a line for one more weight.</p>
<p><b>The ride strip</b>, above: what each phase of the ride gains and loses against the reference. Click a tile
for its page: what decides it, what moves it most, and why. Cells beside the levers
tell what a fair step does in each phase.</p>
<p><b>Steps</b>, below: every change is kept the moment you make it. Go back, branch, make one the reference
(Ctrl+P), write why (Ctrl+R). Ctrl+Z takes back what you did last, whatever it was.</p>
<p><b>Hand out</b> (Ctrl+E): a mesh for the cutter, drawings, full-size paper templates.</p>
<p>Ctrl+K finds any action by its words. F4 lists what is worth a look. F6 to F9 walk the panels.</p>
"""


class FirstStepsDialog(Panel):
    """What to do first."""

    guide = "first-steps"

    def __init__(self, parent: QWidget, views: list[tuple[str, str, str]]) -> None:
        """`views` are the window's, in the order of work: words, shortcut, what is done there."""
        super().__init__(parent, "First steps", "")
        where = "".join(f"<p><b>{i}. {name}</b> ({key}): {about}</p>" for i, (name, key, about) in enumerate(views, 1))
        words = QLabel(f"{where}{_FIRST_STEPS}")
        words.setWordWrap(True)
        words.setMinimumWidth(460)
        self.column.insertWidget(1, words)
