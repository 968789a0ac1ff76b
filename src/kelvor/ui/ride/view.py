"""The Ride view: a page for every phase, with its figures, the picture that explains it, conditions and why."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSplitter,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.units import Quantity, said_in
from kelvor.core.evaluation.evaluation import PhaseResult
from kelvor.core.evaluation.verdicts import Outcome, judge_target
from kelvor.core.levers.catalogue import levers
from kelvor.core.ride.pictures import Chart, Drawing, Picture
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.controls.panel import heading, panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.controls.why_label import WhyLabel
from kelvor.ui.paint.chart import ChartWidget
from kelvor.ui.paint.drawing import DrawingWidget
from kelvor.ui.ride.best_levers import BuysList
from kelvor.ui.ride.conditions_panel import ConditionsPanel
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.ride.shown.ride import buys, phase_rows, quiver_rows, target_words
from kelvor.ui.session.session import Session
from kelvor.ui.shown.charts import PictureBehind, of_kind, picture_in
from kelvor.ui.shown.panels import why
from kelvor.ui.shown.wording import verdict_words
from kelvor.ui.theme.style import font

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window


class PictureWidget(QWidget):
    """A chart or a drawing, whichever the picture is."""

    def __init__(self, session: Session, name: str) -> None:
        super().__init__()
        self.session = session
        self.chart, self.drawing = ChartWidget(name), DrawingWidget(name)
        self.chart.taken_out.told = self.drawing.taken_out.told = session.message.emit
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.chart)
        column.addWidget(self.drawing)

    def show_picture(self, picture: Picture | None, behind: list[PictureBehind[Picture]]) -> None:
        """Show a picture over those of the boards behind."""
        system = self.session.system
        picture = None if picture is None else picture_in(picture, system)
        self.chart.setVisible(isinstance(picture, Chart))
        self.drawing.setVisible(isinstance(picture, Drawing))
        if isinstance(picture, Chart):
            self.chart.show_chart(picture, of_kind(behind, Chart), system)
        elif isinstance(picture, Drawing):
            self.drawing.show_drawing(picture, of_kind(behind, Drawing))


class RideView(QWidget):
    """One page for each phase."""

    lever_asked = Signal(str)
    coefficients_asked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.phase_key = ""
        self.figure_key = ""
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        row.addWidget(self._left())
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right())
        again = Throttle(self, 120, self.refresh)
        for signal in (
            session.settled,
            session.units_changed,
            session.steps_changed,
            session.brief_changed,
            session.service(RideRequests).ridden,
        ):
            signal.connect(again.call)
        session.board_opened.connect(self._board_opened)
        session.service(RideRequests).levers_counted.connect(Throttle(self, 150, self._show_buys).call)

    # building

    def _left(self) -> QWidget:
        frame = panel()
        frame.setFixedWidth(336)
        column = QVBoxLayout(frame)
        column.setContentsMargins(1, 8, 1, 6)
        column.setSpacing(2)
        top = QHBoxLayout()
        top.setContentsMargins(12, 0, 10, 0)
        self.title, self.verdict = heading(""), QLabel()
        self.title.setFont(font(17, 700))
        self.verdict.setFont(font(13, 600))
        top.addWidget(self.title)
        top.addStretch(1)
        top.addWidget(self.verdict)
        column.addLayout(top)
        self.question = QLabel()
        self.question.setObjectName("quiet")
        self.question.setContentsMargins(12, 0, 10, 4)
        column.addWidget(self.question)
        self.rows = RowsView("Figures of the phase", value_share=0.74, row_height=25)
        self.rows.chosen.connect(self.show_figure)
        column.addWidget(self.rows, 1)
        self.asks = QLabel()
        self.asks.setWordWrap(True)
        self.asks.setFont(font(12))
        self.asks.setContentsMargins(12, 6, 10, 4)
        column.addWidget(self.asks)
        self.buys_title = QLabel()
        self.buys_title.setFont(font(13, 700))
        self.buys_title.setContentsMargins(12, 6, 10, 2)
        self.buys_title.setWordWrap(True)
        column.addWidget(self.buys_title)
        self.buys = BuysList()
        self.buys.asked.connect(self.lever_asked)
        column.addWidget(self.buys)
        return frame

    def _middle(self) -> QWidget:
        frame = panel()
        column = QVBoxLayout(frame)
        column.setContentsMargins(2, 4, 2, 4)
        column.setSpacing(2)
        self.first = PictureWidget(self.session, "First picture of the phase")
        self.others = [PictureWidget(self.session, f"Picture {i} of the phase") for i in (2, 3)]
        self.split = QSplitter(Qt.Orientation.Vertical)
        self.split.addWidget(self.first)
        below = QWidget()
        row = QHBoxLayout(below)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        for widget in self.others:
            row.addWidget(widget, 1)
        self.below = below
        self.split.addWidget(below)
        self.split.setStretchFactor(0, 3)
        self.split.setStretchFactor(1, 2)
        self.split.setChildrenCollapsible(False)
        column.addWidget(self.split, 1)
        self.note = QLabel()
        self.note.setObjectName("quiet")
        self.note.setFont(font(12))
        self.note.setContentsMargins(12, 0, 8, 2)
        column.addWidget(self.note)
        return frame

    def _right(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setFixedWidth(300)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        top = panel()
        inner = QVBoxLayout(top)
        inner.setContentsMargins(0, 0, 0, 0)
        self.conditions = ConditionsPanel(self.session)
        inner.addWidget(self.conditions)
        top.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        column.addWidget(top)
        frame = panel()
        lower = QVBoxLayout(frame)
        lower.setContentsMargins(1, 2, 1, 2)
        self.tabs = QTabWidget()
        self.why = WhyLabel()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        sheet = QWidget()
        sheet.setObjectName("sheet")
        words = QVBoxLayout(sheet)
        words.setContentsMargins(0, 0, 0, 0)
        words.addWidget(self.why)
        table = QPushButton("Coefficients of sails, foils, fins…")
        table.setToolTip("The one table behind drive and ride: read it, correct it from your own tests")
        table.clicked.connect(self.coefficients_asked)
        hold = QHBoxLayout()
        hold.setContentsMargins(12, 0, 12, 8)
        hold.addWidget(table)
        hold.addStretch(1)
        words.addLayout(hold)
        words.addStretch(1)
        scroll.setWidget(sheet)
        self.quiver = RowsView("Which gear for which wind", value_share=0.70, row_height=24)
        self.tabs.addTab(scroll, "Why")
        self.tabs.addTab(self.quiver, "Quiver")
        lower.addWidget(self.tabs)
        column.addWidget(frame, 1)
        return holder

    # showing

    def _board_opened(self) -> None:
        self.phase_key = self.figure_key = ""
        self.refresh()

    def _result(self) -> PhaseResult:
        phases = self.session.results.evaluation.phases
        return next((p for p in phases if p.phase.key == self.phase_key), phases[0])

    def show_phase(self, key: str) -> None:
        """Open the page of a phase."""
        self.phase_key = key
        self.figure_key = self._result().phase.headline
        self.refresh()
        self.rows.choose(self.figure_key)

    def show_figure(self, key: str) -> None:
        """Tell why a figure is what it is, what buys it, and how it runs over the range."""
        if key != self.figure_key:
            self.figure_key = key
            self._show_why()
            self._show_buys()
            self.conditions.refresh(key)

    def refresh(self) -> None:
        """Show the phase as it is now."""
        if not self.isVisible():
            return
        session, riding = self.session, self.session.service(RideRequests)
        result = self._result()
        phase = result.phase
        self.phase_key = phase.key
        if self.figure_key not in phase.figures:
            self.figure_key = phase.headline
        figures = session.results.figures()
        verdicts = tuple(judge_target(v.target, figures, session.brief) for v in result.verdicts)
        speaks = judge_target(result.speaks.target, figures, session.brief) if result.speaks is not None else None
        q = (
            figures[speaks.target.figure].definition.quantity
            if speaks is not None and speaks.target.figure in figures
            else Quantity.RATIO
        )
        self.title.setText(phase.name)
        words = verdict_words(speaks, q, session.system) or "no target in the brief"
        if result.missed:
            words = said_in("; ".join(missed.words for missed in result.missed), session.system)
        self.verdict.setText(words)
        self.verdict.setObjectName(
            "wrong" if result.missed or (speaks is not None and speaks.outcome is Outcome.SHORT) else "quiet"
        )
        self.verdict.style().polish(self.verdict)
        self.question.setText(phase.question)
        asked = target_words(verdicts, figures, session.system)
        self.asks.setText(
            f"The brief asks:\n{asked}" if asked else "The brief asks nothing here. Targets are set in the Brief view."
        )
        self.rows.set_rows(
            phase_rows(phase, figures, session.overlays.figures, verdicts, session.system, session.overlays.name())
        )
        if self.rows.key() != self.figure_key:
            self.rows.choose(self.figure_key)
        self._pictures()
        self.note.setText("counting the ride" if riding.behind() else self._condition_words())
        self.quiver.set_rows(
            quiver_rows(riding.ride.quiver, session.brief, session.system) if riding.ride is not None else []
        )
        self._show_why()
        self._show_buys()
        self.conditions.refresh(self.figure_key)
        if not riding.behind():
            riding.ask_sweep()
            riding.ask_levers([lever.key for lever in levers(session.board)])

    def _condition_words(self) -> str:
        if self.session.service(RideRequests).as_in_brief:
            return "In the brief's own condition."
        return "In another condition than the brief's: verdicts on the strip are for this one too."

    def _pictures(self) -> None:
        riding, phase = self.session.service(RideRequests), self._result().phase
        now = riding.ride.pictures if riding.ride is not None else {}
        shown = [key for key in phase.pictures if key in now][:3]
        for widget, key in zip((self.first, *self.others), [*shown, "", "", ""], strict=False):
            widget.setVisible(bool(key))
            widget.show_picture(now.get(key), self._behind(key))
        self.below.setVisible(len(shown) > 1)

    def _behind(self, key: str) -> list[PictureBehind[Picture]]:
        """A picture of the boards behind whose ride is known."""
        riding = self.session.service(RideRequests)
        ridden = [(riding.of(other.live), other) for other in self.session.overlays.others()]
        return [
            PictureBehind(ride.pictures[key], other.name, other.role)
            for ride, other in ridden
            if ride is not None and key in ride.pictures
        ]

    def _show_why(self) -> None:
        session = self.session
        figure = session.results.figures().get(self.figure_key)
        if figure is None:
            self.why.setText("counting")
            return
        remarks = {hint.figure: hint.text for hint in session.results.evaluation.hints}
        ride = session.service(RideRequests).ride
        claims = ride.claims if ride is not None else {}
        then = session.overlays.figures.get(self.figure_key) if session.overlays.live is not None else None
        lines = why(
            figure,
            session.system,
            remarks.get(self.figure_key, ""),
            claims.get(self.figure_key, ""),
            then,
            session.overlays.name(),
        )
        shown = next((row.value for row in self.rows.rows() if row.key == self.figure_key), "–")
        self.why.tell(lines, "Why no figure?" if shown == "–" else f"Why {shown}?")

    def _show_buys(self) -> None:
        if not self.isVisible():
            return
        session, riding = self.session, self.session.service(RideRequests)
        figure = session.results.figures().get(self.figure_key)
        if figure is None:
            return
        found = buys(
            figure.definition,
            riding.effects,
            {lever.key: lever for lever in levers(session.board)},
            session.system,
            value=figure.value,
        )
        self.buys_title.setText(f"What moves it most: {figure.definition.label}")
        counting = riding.counting_levers() or riding.behind()
        self.buys.show_buys(
            found,
            "Counting what each lever does."
            if counting
            else "No lever moves it beyond the band, or it is not among the three figures that head a phase.",
        )

    def showEvent(self, event: QShowEvent) -> None:
        """Keep up only while shown."""
        super().showEvent(event)
        self.refresh()


def ride_view(window: Window) -> RideView:
    """The Ride view of a window."""
    view = RideView(window.session)
    view.lever_asked.connect(window.show_lever)
    view.coefficients_asked.connect(window.dialogs.show_coefficients)
    return view
