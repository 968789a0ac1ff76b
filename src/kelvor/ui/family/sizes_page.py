"""Sizes: the rules they follow at the left, the sizes and how each stands at the right."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.core.register.record import Record
from kelvor.core.ride.phases import PHASES
from kelvor.ui.controls.panel import heading, panel, plain_label, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.families import CurrentSize, Families
from kelvor.ui.family.follows_panel import FollowsPanel
from kelvor.ui.family.shown.families import (
    OBEYED_HEADS,
    SIZE_HEADS,
    Stands,
    masses_of,
    obeyed_rows,
    ride_words,
    size_cells,
    stands,
)
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour

ROW, HEAD, MOST_ROWS = 25, 32, 14
"""Heights of a row and of the head [px]; more sizes than these are scrolled."""
NONE = "No family yet. Put its parent on the bench and press New family…"


class SizesPage(QWidget):
    """Rules and sizes of the chosen family."""

    opened = Signal(int)
    """A board is asked for on the bench, by its id."""

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self._sizes: list[CurrentSize | None] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 6, 0, 0)
        row.setSpacing(8)
        self.follows = FollowsPanel(session, families, family, self._tell)
        row.addWidget(self.follows, 2)
        row.addWidget(self._right(), 3)

    # building

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
        column.addWidget(self.words)
        self.obeyed: QTableWidget = figures_table(OBEYED_HEADS)
        self.obeyed.setAccessibleName("What the chosen size reads against its rules")
        column.addWidget(self.obeyed, 1)
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
        self.problem = problem_label()
        column.addWidget(self.problem)
        return frame

    # showing

    def refresh(self) -> None:
        """Show the family as it is, and ask what is not known of it."""
        family, system = self.family(), self.session.system
        for widget in (self.add_button, self.masses):
            widget.setEnabled(family is not None)
        if family is None:
            self.follows.show_family(None, None)
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
        self.follows.show_family(family, parent)
        sizes: list[CurrentSize | None] = [*self.families.sizes(family.uid), None]  # None is the parent
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
        fill_table(self.table, rows)
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

    def _stands(self, family: Record, size: CurrentSize) -> Stands:
        refused = size.value.refused == self.families.mark(family)
        return stands(self.families.states.get(size.record.uid), refused, self.session.system)

    def _rides(self, family: Record, size: CurrentSize) -> str:
        """What leads the phases of the ride, under the size's own rider and under the parent's on the parent."""
        figures = self.families.figures
        mine, parents = figures.get(size.record.uid), figures.get(family.uid)
        if mine is None or parents is None or family.board is None:
            return "Its ride is being counted…"
        phases = PHASES[self.families.brief_of(family.board).discipline]
        return ride_words(phases, mine, parents, self.session.system)

    def chosen(self) -> CurrentSize | None:
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
        state = self.families.states.get(size.record.uid) if size is not None else None
        fill_table(self.obeyed, obeyed_rows(state, self.session.system))
        if size is None:
            self.words.setText("The parent. A change of it is offered to the sizes, one by one.")
        else:
            told = self._stands(family, size).long or "Made by the rules; nothing was changed by hand."
            self.words.setText(f"{told}\n\n{self._rides(family, size)}".strip())

    # doing

    def _tell(self, words: str) -> None:
        self.problem.setText(words)

    def _guarded(self, work: Callable[[], None]) -> None:
        try:
            self.problem.setText("")
            work()
        except KelvorError as error:
            self.problem.setText(str(error))

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

    def _take(self, family: Record, size: CurrentSize) -> None:
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
