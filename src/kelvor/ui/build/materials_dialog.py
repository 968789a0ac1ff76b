"""The table of materials to read and change, and the weights of many boards."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from kelvor.core.base.errors import InputError
from kelvor.core.base.findings import Finding
from kelvor.core.base.limits import limit_of, text_of, typed_name, within
from kelvor.core.base.units import Quantity, parse
from kelvor.core.build.materials.table import Rates, changed
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.build import board_sentence, scale_sentence
from kelvor.ui.controls.panel import undo_button
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import fit_columns
from kelvor.ui.session.session import Session

_KINDS = (
    ("stocks", "Cores"),
    ("cloths", "Cloths"),
    ("fibres", "Fibres"),
    ("resins", "Resins"),
    ("rates", "Rates of this workshop"),
)
_HEADS = {
    "density": ("density, kg/m³", 1.0), "e": ("E, MPa", 1e-6), "g": ("G, MPa", 1e-6), "strength": ("crush, MPa", 1e-6),
    "price": ("price", 1.0),
    "areal_mass": ("g/m²", 1000.0), "roll": ("roll, m", 1.0), "radius": ("least radius, mm", 1000.0), "e1": ("E1, GPa",
    1e-9), "e2": ("E2, GPa", 1e-9),
    "g12": ("G12, GPa", 1e-9), "nu": ("Poisson", 1.0), "by_hand": ("fibre share, hand", 1.0),
    "bagged": ("fibre share, bagged", 1.0),
    "pot_minutes": ("pot life, min", 1.0),
}  # fmt: skip


_RATES = {
    "currency": "Currency", "hour": "An hour of work, price",
    "shape": "Shaping, h", "layer": "A layer laid, h", "bag": "A bag pulled, h", "coat": "A coat, h",
    "sand": "Sanding, h", "fitting": "Setting a fitting, h",
    "foil_track": "A foil track, price", "foil_box": "A foil box, price", "mast_track": "A mast track, price",
    "deep_box": "A deep fin box, price", "long_box": "A long fin box, price", "tab_box": "A tab fin box, price",
    "side_box": "A side fin box, price", "bolts": "Bolts for a fin, price", "insert": "A strap insert, price",
    "plug": "A vent, plug or handle, price", "pad": "Deck pad, price a m²",
}  # fmt: skip
"""Rates in words, in order."""


_OF_MATERIALS = "Handbook values are named; “from memory” means: take the data sheet of what you buy, and type it over."
_OF_RATES = "What ships is invented, in an invented currency: type over it what you pay and how long you take."


class MaterialsDialog(Panel):
    """Every material with its source; a number typed over is the workshop's own from then on."""

    guide = "build#construction"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "Materials", "")
        self.session = session
        self.kind = QComboBox()
        for key, words in _KINDS:
            self.kind.addItem(words, key)
        self.kind.setAccessibleName("Kind of material")
        self.form.addRow("Show", self.kind)
        self.table = QTableWidget()
        self.table.setAccessibleName("Materials")
        self.table.setMinimumSize(860, 380)
        self.table.verticalHeader().setVisible(False)
        self.column.insertWidget(2, self.table)
        self.note = QLabel()
        self.note.setObjectName("quiet")
        self.column.insertWidget(3, self.note)
        self.undo = undo_button(self._undo)
        self.form.addRow("", self.undo)
        self.kind.activated.connect(lambda _: self.show_kind())
        self.table.cellChanged.connect(self._typed)
        self.show_kind()

    def show_kind(self) -> None:
        """Fill the table with one kind of material."""
        key = self.kind.currentData()
        self.table.blockSignals(True)
        self.note.setText(_OF_RATES if key == "rates" else _OF_MATERIALS)
        if key == "rates":
            self._show_rates(self.session.table.rates)
        else:
            self._show_entries(getattr(self.session.table, key))
        fit_columns(self.table)
        self.table.blockSignals(False)

    def _show_rates(self, rates: Rates) -> None:
        """One rate a line."""
        self._shape(len(_RATES), ["rate", "in this workshop"])
        for i, (name, words) in enumerate(_RATES.items()):
            value = getattr(rates, name)
            self._put(i, 0, words, fixed=True)
            self._put(i, 1, value if isinstance(value, str) else f"{value:.9g}")

    def _show_entries(self, entries: tuple[Any, ...]) -> None:
        """One material a line."""
        self._columns = [f.name for f in fields(entries[0]) if type(getattr(entries[0], f.name)) in (int, float)]
        heads = [_HEADS.get(name, (name.replace("_", " "), 1.0))[0] for name in self._columns]
        self._shape(len(entries), ["name", *heads, "source"])
        for i, entry in enumerate(entries):
            self._put(i, 0, entry.name, fixed=True)
            self._put(i, len(heads) + 1, entry.source, fixed=True)
            for j, name in enumerate(self._columns):
                self._put(i, j + 1, f"{getattr(entry, name) * _HEADS.get(name, ('', 1.0))[1]:.9g}")

    def _shape(self, rows: int, heads: list[str]) -> None:
        self.table.setColumnCount(len(heads))
        self.table.setHorizontalHeaderLabels(heads)
        self.table.setRowCount(rows)

    def _undo(self) -> None:
        self.session.undo()
        self.problem.setText("")
        self.show_kind()

    def _put(self, row: int, column: int, words: str, *, fixed: bool = False) -> None:
        item = QTableWidgetItem(words)
        if fixed:
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
        self.table.setItem(row, column, item)

    def _typed(self, row: int, column: int) -> None:
        key = self.kind.currentData()
        item = self.table.item(row, column)
        assert item is not None
        try:
            if key == "rates":
                self._rate_typed(list(_RATES)[row], item.text())
            else:
                field = self._columns[column - 1]
                value = parse(item.text(), Quantity.RATIO) / _HEADS.get(field, ("", 1.0))[1]
                self.session.workshop.tables.keep_material(changed(getattr(self.session.table, key)[row], field, value))
        except InputError as error:
            self.problem.setText(str(error))  # what was typed stays to be mended
            return
        self.problem.setText("")
        self.show_kind()

    def _rate_typed(self, field: str, words: str) -> None:
        rates = self.session.table.rates
        if field == "currency":
            rates = replace(rates, currency=typed_name(words, "The currency", text_of(Rates, field)))
        else:
            label = _RATES[field].split(",")[0]
            price: dict[str, Any] = {field: within(limit_of(Rates, field), parse(words, Quantity.RATIO), label)}
            rates = replace(rates, **price)
        self.session.workshop.tables.keep_material(rates)


class WeightsDialog(Panel):
    """What any number of boards weigh, one sentence each."""

    guide = "build#construction"

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent, "What boards weigh", "")
        self.session = session
        self.list = QListWidget()
        self.list.setAccessibleName("Boards")
        self.list.setMinimumSize(520, 220)
        for entry in session.workshop.store.boards():
            item = QListWidgetItem(entry.name)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if entry.id == session.board_id else Qt.CheckState.Unchecked)
            item.setData(Qt.ItemDataRole.UserRole, entry.id)
            self.list.addItem(item)
        self.column.insertWidget(1, self.list)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.column.insertWidget(2, self.words)
        self.list.itemChanged.connect(lambda _: self.say())
        self.say()

    def say(self) -> None:
        """One sentence for each board that is ticked."""
        store, lines = self.session.workshop.store, []
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item.checkState() is Qt.CheckState.Checked:
                board_id = int(item.data(Qt.ItemDataRole.UserRole))
                board = store.board(store.left_at(board_id))
                live = evaluate_live(board, store.brief(board_id), table=self.session.table)
                if not isinstance(live, tuple):
                    built = board.construction.name if board.construction else ""
                    lines.append(board_sentence(board.name, live.mass.total.mass, live.mass.band, built))
                    lines += self._weighed(board_id, live)
        self.words.setText("\n".join(lines) or "Tick the boards to compare.")

    def _weighed(self, board_id: int, live: Live) -> list[str]:
        """What the scale said of the boards made of a design, each beside the forecast of its own version."""
        session, found = self.session, []
        for made in session.service(Making).boards(board_id):
            built: Live | tuple[Finding, ...] = live
            if made.record.step is not None:
                board = session.workshop.store.board(made.record.step)
                built = evaluate_live(board, live.brief, table=session.table)
            if not isinstance(built, tuple) and (words := scale_sentence(made, built, session.system)):
                found.append(f"   {words}")
        return found
