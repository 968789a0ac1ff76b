"""The Build view: what the board is made of, what it weighs and how it bends, before any foam is cut."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QTabWidget, QVBoxLayout, QWidget

from kelvor.core.base.figures import by_key
from kelvor.core.base.units import said_in
from kelvor.core.build.costing import Cost, board_cost
from kelvor.core.build.mass.board_mass import BoardMass
from kelvor.core.build.mass.built import ribs
from kelvor.core.build.materials.makeability import checked_by_straight_edge, makeability
from kelvor.core.build.stiffness.stage import StiffnessStage, stiffness_stage
from kelvor.core.evaluation.live import Live
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.build.comparisons import LayersWorth, SideBySide
from kelvor.ui.build.construction_panel import ConstructionPanel
from kelvor.ui.build.made_boards import MadeBoards
from kelvor.ui.build.measure_sheet import MeasureSheet
from kelvor.ui.build.mill_panel import MillPanel
from kelvor.ui.build.shown.build import (
    CAUTION,
    cost_rows,
    mass_words,
    stiffness_rows,
    volume_words,
    weight_rows,
)
from kelvor.ui.build.stiffness_strips import StiffnessStrips
from kelvor.ui.build.weigh_ins import WeighIns
from kelvor.ui.controls.panel import heading, panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window


class BuildView(QWidget):
    """Construction, weight and stiffness of the board on the bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._then: tuple[tuple[object, ...], StiffnessStage | None] | None = None
        self.session = session
        self.setObjectName("ground")
        self.made = ConstructionPanel(session)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        row.addWidget(self.made, 0)
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right(), 0)
        session.live_changed.connect(Throttle(self, 100, self._weight).call)
        session.settled.connect(self.refresh)
        session.steps_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)

    def _middle(self) -> QWidget:
        frame = panel()
        column = QVBoxLayout(frame)
        column.setContentsMargins(8, 4, 8, 8)
        self.tabs = QTabWidget()
        self.strips = StiffnessStrips()
        self.worth = LayersWorth(self.session)
        self.side = SideBySide(self.session)
        self.side.chosen.connect(self.made.use)
        self.boards = MadeBoards(self.session)
        self.weigh_ins = WeighIns(self.session)
        self.sheet = MeasureSheet(self.session)
        self.mill = MillPanel(self.session)
        for widget, words in (
            (self.strips, "Stiffness"),
            (self.worth, "Layers"),
            (self.side, "Side by side"),
            (self.boards, "Boards made"),
            (self.weigh_ins, "Weigh-ins"),
            (self.sheet, "Measures"),
            (self.mill, "Mill"),
        ):
            self.tabs.addTab(widget, words)
        self.tabs.currentChanged.connect(lambda _: self._tab())
        column.addWidget(self.tabs, 1)
        self.notes = QLabel()
        self.notes.setWordWrap(True)
        self.notes.setFont(font(12))
        column.addWidget(self.notes)
        self.caution = QLabel(CAUTION)
        self.caution.setObjectName("quiet")
        self.caution.setFont(font(11))
        self.caution.setWordWrap(True)
        column.addWidget(self.caution)
        return frame

    def _right(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setFixedWidth(328)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        self.weight_label = QLabel()
        self.volume_label = QLabel()
        for words in (self.weight_label, self.volume_label):
            words.setWordWrap(True)
            words.setContentsMargins(12, 0, 10, 0)
        self.weight_label.setFont(font(16, 700))
        self.volume_label.setObjectName("quiet")
        self.weight = RowsView("Weight by thing and zone, and cost", value_share=0.74, row_height=22)
        self.stiff = RowsView("Stiffness", value_share=0.74, row_height=22)
        for title, share, widgets in (
            ("Weight and cost", 5, (self.weight_label, self.volume_label, self.weight)),
            ("Stiffness", 4, (self.stiff,)),
        ):
            frame, words = panel(), heading(title)
            words.setContentsMargins(12, 0, 10, 2)
            inner = QVBoxLayout(frame)
            inner.setContentsMargins(1, 8, 1, 4)
            inner.setSpacing(2)
            inner.addWidget(words)
            for widget in widgets:
                inner.addWidget(widget, isinstance(widget, RowsView))
            column.addWidget(frame, share)
        return holder

    @property
    def says(self) -> bool:
        """Whether it shows what is said itself: where the construction is looked at."""
        return self.made.isVisible()

    def shut(self) -> None:
        """The window closes."""
        self.weigh_ins.scale.stop(wait=True)
        self.sheet.gauge.stop(wait=True)
        self.mill.shut()

    def refresh(self) -> None:
        """Show the board's construction and all that follows from it."""
        if not self.isVisible():
            return
        session = self.session
        self.made.refresh()
        self._weight()
        known = session.results
        self.stiff.set_rows(stiffness_rows(known.figures(), session.overlays.figures, session.system, known.renewing()))
        self._strips()
        self._notes()
        self._tab()

    def _weight(self) -> None:
        if not self.isVisible():
            return
        session = self.session
        mass = session.live.mass
        self.weight_label.setText(mass_words(*self._shown_mass(mass)))
        self.volume_label.setText(volume_words(session.live))
        then = session.overlays.live
        rows = weight_rows(mass, session.system, None if then is None else then.mass)
        cost, before = (self._cost(live) for live in (session.live, then))
        if cost is not None:
            rows += cost_rows(cost, session.table.rates.currency, before)
        self.weight.set_rows(rows)

    def _cost(self, live: Live | None) -> Cost | None:
        if live is None or live.mass.layup is None:
            return None
        return board_cost(live.geometry, live.mass, self.session.table)

    def _shown_mass(self, mass: BoardMass) -> tuple[float, float]:
        """Mass and band as they are shown: computed, or by our own boards [kg]."""
        figures = by_key(self.session.live.figures)
        if not self.session.ours.on:
            return mass.total.mass, mass.band
        shown = self.session.ours.figures(figures)["mass"]
        return shown.value, shown.band

    def _strips(self) -> None:
        session, c, then = self.session, self.session.board.construction, self.session.overlays.live
        self.strips.renewing = session.results.settling()
        self.strips.now, self.strips.length = session.results.evaluation.stiffness, session.board.length
        self.strips.ribs = np.zeros(0) if c is None else ribs(session.live.geometry, c.core)
        self.strips.then = None
        if then is not None and then.board != session.live.board:
            asked = (then, session.brief, session.table)
            if self._then is None or any(a is not b for a, b in zip(self._then[0], asked, strict=True)):
                self._then = asked, stiffness_stage(then.geometry, then.mass, session.brief, session.table)
            self.strips.then = self._then[1]
        self.strips.update()

    def _notes(self) -> None:
        live = self.session.live
        if live.mass.layup is None:
            self.notes.setText("")
            return
        found = makeability(live.geometry, live.mass.layup, self.session.table)
        words = [f"{f.text}. {f.advice}".rstrip(". ") + "." for f in found]
        straight = checked_by_straight_edge(live.geometry)
        if straight:
            words.append(f"A straight edge checks {', '.join(straight)}.")
        self.notes.setText(said_in(" ".join(words), self.session.system))

    def _tab(self) -> None:
        shown = self.tabs.currentWidget()
        for words in (self.notes, self.caution):  # of resin and cloth: the mill has cautions of its own
            words.setVisible(shown is not self.mill)
        if isinstance(shown, (LayersWorth, SideBySide, MadeBoards, WeighIns, MeasureSheet, MillPanel)):
            shown.refresh()

    def showEvent(self, event: QShowEvent) -> None:
        """Keep up only while shown."""
        super().showEvent(event)
        self.refresh()


def build_view(window: Window) -> BuildView:
    """The Build view of a window."""
    view = BuildView(window.session)
    view.made.materials_asked.connect(window.dialogs.show_materials)
    view.boards.photo_asked.connect(window.dialogs.show_photo)
    view.boards.schedule_asked.connect(window.dialogs.show_schedule)
    view.boards.orders_asked.connect(window.dialogs.show_orders)
    view.boards.proof_asked.connect(window.dialogs.show_proof)
    view.sheet.scan_asked.connect(window.papers.ask_scan)
    view.mill.hand_out_asked.connect(lambda: window.papers.mill_programs(view.mill.order))
    view.mill.mill_asked.connect(window.dialogs.show_mill)
    view.made.weights_asked.connect(window.dialogs.show_weights)
    return view
