"""The mill: a core in its stock, cut on the simulated mill from the text of its programs before any of it is handed
out.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import depths, limit_of
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.mill.job import thinnest, wanted_core, wasted
from kelvor.core.mill.stock import least_stock
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.ui.build.blank_picture import BlankPicture
from kelvor.ui.build.made import Making
from kelvor.ui.build.mill import Milling, MillJob
from kelvor.ui.build.shown.milling import CAUTION, face_words, least_words, spot_rows, verdict
from kelvor.ui.controls.fields import QuantityField
from kelvor.ui.controls.panel import Elided, problem_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.session.session import Session

SPOTS = ("Face", "Where", "Off", "Why")
OFTEN = (("ball", "Ball"), ("flat", "Flat"), ("step", "Lines"), ("proud", "Proud"))
"""Fields of the mill that change from board to board."""
TIPS = {
    "ball": "Diameter of the ball cutter", "flat": "Diameter of the flat cutter, for boxes",
    "step": "Between two finishing lines, along the way of the tip",
    "proud": "Left on everywhere, for the sanding block",
}  # fmt: skip
SIZES = ("length", "width", "thickness")
RIDGE = depths(0.00001, 0.003)
"""Ridges that may be asked for [m]."""
LEAST_HIGH = 84
"""Least height of the table of places [px]."""


class MillPanel(QWidget):
    """Stock and mill, one button, the blank it leaves, and what of it is out of tolerance."""

    hand_out_asked = Signal()
    mill_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.making = session.service(Making)
        self._typed: dict[str, float] = {}
        self.milling = Milling(self)
        self.milling.went.connect(self._went)
        self.milling.failed.connect(self._failed)
        self.milling.done.connect(self._done)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(6)
        column.addLayout(self._stock_row())
        column.addLayout(self._mill_row())
        column.addLayout(self._do_row())
        self.picture = BlankPicture()
        column.addWidget(self.picture, 3)
        self.spots = figures_table(SPOTS)
        self.spots.setMinimumHeight(LEAST_HIGH)
        self.spots.setVisible(False)
        column.addWidget(self.spots, 1)
        self.words = QLabel()
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.problem = problem_label()
        column.addWidget(self.problem)
        caution = QLabel(CAUTION)
        caution.setObjectName("quiet")
        caution.setWordWrap(True)
        column.addWidget(caution)
        session.board_opened.connect(self._anew)

    def _stock_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(QLabel("Stock"))
        self._sizes: dict[str, QuantityField] = {}
        for name in SIZES:
            field = QuantityField(f"Stock, {name}", limit_of(MillStock, name))
            field.changed.connect(lambda value, name=name: self._size_typed(name, value))
            field.problem.connect(self._tell)
            field.setFixedWidth(86)
            self._sizes[name] = field
            row.addWidget(field)
        self.bought = QPushButton("As bought")
        self.bought.setToolTip("The block that shopping list and estimate tell")
        self.bought.clicked.connect(self._take_bought)
        self.needs = Elided()
        self.needs.setObjectName("quiet")
        row.addWidget(self.bought)
        row.addWidget(self.needs, 1)
        return row

    def _mill_row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self._often: dict[str, QuantityField] = {}
        for name, words in OFTEN:
            field = QuantityField(words, limit_of(Mill, name))
            field.changed.connect(lambda value, name=name: self._mill_typed(name, value))
            field.problem.connect(self._tell)
            field.setToolTip(TIPS[name])
            field.setFixedWidth(72)
            self._often[name] = field
            row.addWidget(QLabel(words))
            row.addWidget(field)
        self.all_button = QPushButton("The mill…")
        self.all_button.setToolTip("Travels, cutters, feeds, tabs and dowels of this workshop's mill")
        self.all_button.clicked.connect(self.mill_asked)
        row.addWidget(self.all_button)
        row.addStretch(1)
        return row

    def _do_row(self) -> QHBoxLayout:
        """What is done, with how far it is."""
        row = QHBoxLayout()
        self.cut_button = QPushButton("Cut it, simulated")
        self.cut_button.setToolTip("Plans the cut, then the simulated mill reads the programs and cuts a block of foam")
        self.cut_button.clicked.connect(self.cut)
        self.out_button = QPushButton("Programs…")
        self.out_button.setToolTip("Hand out the programs (G-code) that were cut here, with a page on how to clamp")
        self.out_button.clicked.connect(self.hand_out_asked)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(6)
        self.ridge = QuantityField("Ridge", RIDGE)
        self.ridge.setToolTip("Left between two lines: what is typed here tells how far apart they run")
        self.ridge.setFixedWidth(72)
        self.ridge.changed.connect(self._ridge_typed)
        self.ridge.problem.connect(self._tell)
        for part in (QLabel("Ridge"), self.ridge, self.cut_button, self.out_button, self.bar):
            row.addWidget(part, part is self.bar)
        return row

    # what is on the mill

    def _board(self) -> Board:
        return self.making.live().board

    def _stock(self) -> MillStock:
        """The stock as typed, else the block that is bought for the board."""
        return replace(self.making.live().mass.blank, **self._typed)

    @property
    def order(self) -> MillJob | None:
        """What is on the mill, or was last."""
        return self.milling.order

    @property
    def busy(self) -> bool:
        """Whether a cut is planned, run or measured."""
        return self.milling.busy

    def refresh(self) -> None:
        """Show stock and mill for the board that would be cut, and whether what was cut is still that board."""
        making, system = self.making, self.session.system
        mill = making.mill()
        try:
            board = self._board()
            core = wanted_core(board)
        except InputError as error:
            self._tell(str(error))
            return
        stock = self._stock()
        for name, field in self._sizes.items():
            field.show_value(getattr(stock, name), system)
        for name, field in self._often.items():
            field.show_value(getattr(mill, name), system)
        self.ridge.show_value(mill.scallop, system)
        self.needs.set_words(least_words(least_stock(core, mill), system))
        self._buttons(board, mill, stock)

    def _buttons(self, board: Board, mill: Mill, stock: MillStock) -> None:
        order = self.order
        same = order is not None and (order.board, order.mill, order.stock) == (board, mill, stock)
        self.out_button.setEnabled(not self.busy and same and order is not None and order.proven)
        self.cut_button.setText("Stop" if self.busy else "Cut it, simulated")
        if order is not None and order.faces and not same and not self.busy:
            self.words.setText("The board, its stock or the mill changed since this was cut: cut it again.")

    def _size_typed(self, name: str, value: float) -> None:
        self._typed[name] = value
        self._tell("")
        self.refresh()

    def _take_bought(self) -> None:
        self._typed = {}
        for field in self._sizes.values():
            field.forget()
        self.refresh()

    def _mill_typed(self, name: str, value: float) -> None:
        typed: dict[str, Any] = {name: value}
        self.making.set_mill(replace(self.making.mill(), **typed))
        self._tell("")
        self.refresh()

    def _ridge_typed(self, value: float) -> None:
        try:
            self.making.set_mill(self.making.mill().with_scallop(value))
        except InputError as error:
            self._tell(str(error))
            return
        self._tell("")
        self.refresh()

    def _anew(self) -> None:
        self.milling.stop()
        self.milling.order, self._typed = None, {}
        self._show()
        self._tell("")

    def _tell(self, words: str) -> None:
        self.problem.setText(words)

    # the cut

    def cut(self) -> None:
        """Plan both faces, cut them on the simulated mill from their text, and measure what it left; again: stop."""
        if self.busy:
            self.milling.stop()
            self._failed("Stopped. Nothing was written.")
            return
        making = self.making
        mill, made = making.mill(), making.chosen()
        step = made.record.step if made is not None and made.record.step else self.session.current
        self._tell("")
        try:
            board = self._board()
            self.milling.begin(MillJob(board, mill, self._stock(), making.stamp(), step))
        except KelvorError as error:
            self._tell(str(error))
            return
        self.picture.show_faces((), ())
        self.spots.setVisible(False)
        self.refresh()

    def shut(self) -> None:
        """The window closes."""
        self.milling.shut()

    def _went(self, share: float, words: str) -> None:
        self.bar.setValue(round(100 * share))
        self.words.setText(words)
        self.cut_button.setText("Stop")
        self.out_button.setEnabled(False)

    def _failed(self, words: str) -> None:
        self._tell(words)
        self.words.setText("")
        self.bar.setValue(0)
        self.refresh()

    def _done(self) -> None:
        self.bar.setValue(100)
        self._show()
        wrong = [words for face in (self.order.faces if self.order is not None else ()) for words in face.judged.faults]
        self._tell(f"Not handed out. {'. '.join(wrong)}." if wrong else "")
        self.refresh()

    def _show(self) -> None:
        """What the last cut left."""
        order, system = self.order, self.session.system
        faces = () if order is None else order.faces
        self.picture.show_faces(faces, [face_words(face, system) for face in faces])
        fill_table(self.spots, spot_rows(faces, system))
        self.spots.setVisible(self.spots.rowCount() > 0)
        if order is None or not faces:
            self.bar.setValue(0)
            self.words.setText("")
            return
        core = wanted_core(order.board)
        share = wasted(of_sections(core).solid.volume, order.stock)
        self.words.setText(verdict(faces, order.mill, thinnest(core, order.board), share, system))
