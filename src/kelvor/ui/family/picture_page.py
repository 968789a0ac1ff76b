"""The family in one picture: all sizes over one another, a figure over weight with its law, rockers ranked."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.figures import Figures
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.curves import DATUMS, datum_slide
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.core.register.record import Record
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.board import Board
from kelvor.ui.compare.multiples import Multiples, Small
from kelvor.ui.compare.overlay import OverlaidBoard, OverlayView
from kelvor.ui.controls.panel import panel, plain_label
from kelvor.ui.family.families import Families
from kelvor.ui.family.shown.family_picture import Member, figure_choices, law_chart, rocker_words
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.session.session import Session

ROLES = ("pinned", "beside", "beside_b", "beside_c")


class PicturePage(QWidget):
    """Overlay at a datum, a figure over weight, rocker lines in the order of their nose."""

    def __init__(self, session: Session, families: Families, family: Callable[[], Record | None]) -> None:
        super().__init__()
        self.session, self.families, self.family = session, families, family
        self._lives: dict[tuple[Board, Brief], Live] = {}
        self.members: list[Member] = []
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 6, 0, 0)
        grid.setSpacing(8)
        grid.addWidget(self._overlay(), 0, 0)
        grid.addWidget(self._law(), 0, 1)
        grid.addWidget(self._rockers(), 1, 0, 1, 2)
        grid.setRowStretch(0, 5)
        grid.setRowStretch(1, 2)
        grid.setColumnStretch(0, 1)
        grid.setColumnStretch(1, 1)

    def _overlay(self) -> QWidget:
        frame, column, row = panel(), QVBoxLayout(), QHBoxLayout()
        frame.setLayout(column)
        self.datum = QComboBox()
        self.datum.setAccessibleName("Laid together at")
        for datum in DATUMS:
            self.datum.addItem(datum, datum)
        self.datum.currentIndexChanged.connect(lambda _: self.refresh())
        row.addWidget(QLabel("Laid together at"))
        row.addWidget(self.datum)
        row.addStretch(1)
        column.addLayout(row)
        self.overlay = OverlayView()
        column.addWidget(self.overlay, 1)
        self.missing = plain_label()
        self.missing.setObjectName("quiet")
        self.missing.setWordWrap(True)
        column.addWidget(self.missing)
        return frame

    def _law(self) -> QWidget:
        frame, column, row = panel(), QVBoxLayout(), QHBoxLayout()
        frame.setLayout(column)
        self.figure = QComboBox()
        self.figure.setAccessibleName("Figure over the riders' weight")
        self.figure.currentIndexChanged.connect(lambda _: self._show_law())
        row.addWidget(QLabel("Over the riders' weight"))
        row.addWidget(self.figure, 1)
        column.addLayout(row)
        self.chart = ChartWidget("Figure over weight")
        self.chart.own = "family"
        self.chart.empty = "A family of two sizes or more shows its law here."
        column.addWidget(self.chart, 1)
        self.law = plain_label()
        self.law.setWordWrap(True)
        column.addWidget(self.law)
        return frame

    def _rockers(self) -> QWidget:
        frame, column = panel(), QVBoxLayout()
        frame.setLayout(column)
        self.rockers = Multiples()
        self.rockers.setAccessibleName("Rocker lines, the least nose first")
        scrolled = QScrollArea()
        scrolled.setWidgetResizable(True)
        scrolled.setWidget(self.rockers)
        column.addWidget(scrolled, 1)
        return frame

    def refresh(self) -> None:
        """Show the family as it is."""
        family = self.family()
        if family is None:
            self.chart.show_chart(None, (), self.session.system)
            self.rockers.show_boards((), "")
            return
        try:
            self.families.count(family)
            self.members = self._members(family)
        except KelvorError as error:
            self.missing.setText(str(error))
            return
        self._show_overlay()
        self._list_figures(family)
        self._show_law()
        ranked = sorted(self.members, key=lambda m: float(m.live.geometry.keel_line[-1]))
        self.rockers.show_boards(
            [
                Small(
                    m.uid,
                    m.name,
                    rocker_words(m.live, self.session.system),
                    m.live.geometry.shape.x,
                    m.live.geometry.keel_line,
                )
                for m in ranked
            ],
            family.uid,
        )

    def _members(self, family: Record) -> list[Member]:
        _, parent = self.families.parent_of(family)
        rows = [(family.uid, parent.name, family.value.mass, parent)]
        rows += [(s.record.uid, s.board.name, s.value.mass, s.board) for s in self.families.sizes(family.uid)]
        assert family.board is not None
        brief, found = self.families.brief_of(family.board), []
        kept: dict[tuple[Board, Brief], Live] = {}
        for uid, name, mass, board in rows:
            live = self._lives.get((board, brief))
            if live is None:
                drawn = evaluate_live(board, brief, table=self.session.table, coefficients=self.session.coefficients)
                if isinstance(drawn, tuple):
                    continue
                live = drawn
            kept[board, brief] = live
            figures: Figures = self.families.figures.get(uid, {})
            found.append(Member(uid, name, mass, live, figures))
        self._lives = kept
        return sorted(found, key=lambda m: m.mass)

    def _show_overlay(self) -> None:
        family = self.family()
        own = next((m for m in self.members if family is not None and m.uid == family.uid), None)
        if own is None:
            return
        datum, laid, without = self.datum.currentData(), [], []
        for i, member in enumerate(m for m in self.members if m is not own):
            slid = datum_slide(own.live, member.live, datum)
            if slid is None:
                without.append(member.name)
            else:
                laid.append(OverlaidBoard(member.live, member.name, ROLES[i % len(ROLES)], slid))
        self.overlay.show_boards(own.live, tuple(laid), self.session.system, by_share=False, name=own.name)
        self.missing.setText(f"Without a {datum}: {', '.join(without)}." if without else "")

    def _list_figures(self, family: Record) -> None:
        assert family.board is not None
        phases = PHASES[self.families.brief_of(family.board).discipline]
        choices = figure_choices(self.members, [phase.headline for phase in phases])
        if choices != [(self.figure.itemData(i), self.figure.itemText(i)) for i in range(self.figure.count())]:
            chosen = self.figure.currentData()
            self.figure.blockSignals(True)
            self.figure.clear()
            for key, words in choices:
                self.figure.addItem(words, key)
            self.figure.setCurrentIndex(max(0, self.figure.findData(chosen)))
            self.figure.blockSignals(False)

    def _show_law(self) -> None:
        key = self.figure.currentData()
        if not key:
            return
        chart, words = law_chart(self.members, key, self.session.system)
        self.chart.show_chart(chart, (), self.session.system)
        self.law.setText(words)
