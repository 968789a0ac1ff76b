"""The Shape view: levers, bench, section and ledger."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from kelvor.core.shape.edits.weights import schedule_keys
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.controls.panel import heading, panel
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.controls.why_label import WhyLabel
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.shape.bench.bench import BenchWidget
from kelvor.ui.shape.bench.messages import SaidOver
from kelvor.ui.shape.bench.scene import VOLUME_STRIP
from kelvor.ui.shape.levers_panel import LeversPanel
from kelvor.ui.shape.section_panel import SectionPanel
from kelvor.ui.shape.shown.grips import strip_keys
from kelvor.ui.shape.shown.handles import line_name
from kelvor.ui.theme.style import font

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window
    from kelvor.ui.shape.solid.solid_view import SolidView


class ShapeView(QWidget):
    """Where the board is shaped."""

    says = True

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._behind_steps = False
        self.session = session
        self.setObjectName("ground")
        self._why_key = ""
        self.solid: SolidView | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        self.bench = BenchWidget(session)
        self.levers = LeversPanel(session, self.bench)
        self.levers.schedule_chosen.connect(self._show_strip)
        self.problem = SaidOver(session, self.bench)
        self.section = SectionPanel(session)
        self.ledger = RowsView("Ledger of figures", value_share=0.74, row_height=23)
        self.ledger.chosen.connect(self.show_why)
        self.why_label = WhyLabel()
        self.strip_choice = QComboBox(self.bench)
        self.strip_choice.setAccessibleName("What the strip shows")
        self.strip_choice.setFont(font(12, 600))
        self.strip_choice.activated.connect(lambda _: self.bench.setFocus())
        self.strip_choice.currentIndexChanged.connect(self._strip_chosen)
        self.bench.strip_changed.connect(self._strip_follows)
        self._against = QLabel()
        self._against.setObjectName("quiet")
        self._follow_cursor = Throttle(self, 100, self.levers.refresh)
        row.addWidget(self.levers)
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right())
        self._connect()
        self.section.set_station(self.bench.station, self.bench.station_text())
        if session.started:
            self._board_opened()

    def _connect(self) -> None:
        session = self.session
        self.bench.cursor_moved.connect(self._cursor_moved)
        self.bench.typed.connect(self._tag_typed)
        self.section.stepped.connect(lambda step: self.bench.set_station(self.bench.station + step))
        # the bench follows every move of the hand; the ledger some ten times a second, and levers when it rests
        session.live_changed.connect(Throttle(self, 100, self._follow).call)
        session.settled.connect(self.refresh)
        session.service(RideRequests).ridden.connect(Throttle(self, 100, self._ridden).call)
        session.service(RideRequests).levers_counted.connect(Throttle(self, 200, self.levers.refresh).call)
        session.units_changed.connect(self._units_changed)
        session.steps_changed.connect(self._strip_names)
        session.steps_changed.connect(self._steps_changed)
        session.board_opened.connect(self._board_opened)
        session.start_finished.connect(self._board_opened)
        session.message.connect(self.problem.say)

    def showEvent(self, event: QShowEvent) -> None:
        """Count what levers do once they are looked at, and take in what was done to the steps meanwhile."""
        super().showEvent(event)
        if self._behind_steps:
            self.refresh()
        if self.session.service(RideRequests).ride is not None:
            self._ridden()

    def _middle(self) -> QWidget:
        frame = panel()
        column = QVBoxLayout(frame)
        column.setContentsMargins(1, 4, 1, 3)
        column.setSpacing(0)
        self.drawing = QStackedWidget()
        self.drawing.addWidget(self.bench)
        column.addWidget(self.drawing, 1)
        return frame

    def toggle_solid(self) -> None:
        """The solid board in place of the drawing, or back."""
        if self.drawing.currentWidget() is not self.bench:
            self.drawing.setCurrentWidget(self.bench)
            self.bench.setFocus()
            return
        if self.solid is None:
            from kelvor.ui.shape.solid.solid_view import SolidView

            self.solid = SolidView(self.session)
            self.drawing.addWidget(self.solid)
            self.bench.cursor_moved.connect(self.solid.set_station)
        self.solid.station = self.bench.station
        self.drawing.setCurrentWidget(self.solid)
        self.solid.setFocus()

    def _right(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setFixedWidth(328)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        top = panel()
        inner = QVBoxLayout(top)
        inner.setContentsMargins(1, 1, 1, 1)
        inner.addWidget(self.section)
        below = panel()
        lower = QVBoxLayout(below)
        lower.setContentsMargins(1, 8, 1, 1)
        lower.setSpacing(2)
        titles = QHBoxLayout()
        titles.setContentsMargins(12, 0, 8, 2)
        titles.addWidget(heading("Ledger"))
        titles.addStretch(1)
        titles.addWidget(self._against)
        lower.addLayout(titles)
        lower.addWidget(self.ledger, 1)
        lower.addWidget(self.why_label)
        column.addWidget(top)
        column.addWidget(below, 1)
        holder.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        return holder

    def resizeEvent(self, event: object) -> None:
        """The strip's chooser stands at the strip's corner."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._place_chooser()

    def _place_chooser(self) -> None:
        layout = self.bench.layout_now()
        self.problem.place()
        self.strip_choice.setGeometry(8, round(layout.strip.top) + 4, 190, 24)

    # keeping up

    def _board_opened(self) -> None:
        self._cursor_moved(self.bench.station)
        self.refresh()
        self.levers.list.choose(self.levers.list.key() or "length")
        self.show_why(self._why_key or "volume")

    def _strip_names(self) -> None:
        extra = dict(strip_keys())
        keys = [VOLUME_STRIP, *extra, *schedule_keys(self.session.board)]
        if keys != [self.strip_choice.itemData(i) for i in range(self.strip_choice.count())]:
            self.strip_choice.blockSignals(True)  # what the strip shows does not change with the list
            self.strip_choice.clear()
            for key in keys:
                words = "Volume along the board" if key == VOLUME_STRIP else extra.get(key) or line_name(key)
                self.strip_choice.addItem(words, key)
            self.strip_choice.blockSignals(False)
            if self.bench.strip not in keys:
                self.bench.set_strip(VOLUME_STRIP)
        self._strip_follows(self.bench.strip)

    def _strip_chosen(self, index: int) -> None:
        key = str(self.strip_choice.itemData(index))
        if index >= 0 and key != self.bench.strip:
            self.bench.set_strip(key)

    def _show_strip(self, key: str) -> None:
        if self.strip_choice.findData(key) >= 0:
            self.bench.set_strip(key)

    def _strip_follows(self, key: str) -> None:
        """The label is that of the curve, whoever chose it."""
        index = self.strip_choice.findData(key)
        if index >= 0:
            self.strip_choice.setCurrentIndex(index)

    def _units_changed(self) -> None:
        self._cursor_moved(self.bench.station)
        self.refresh()

    def _cursor_moved(self, x: float) -> None:
        self.section.set_station(x, self.bench.station_text())
        self._follow_cursor.call()

    def _ridden(self) -> None:
        """The ride is there: count what the levers do, while this view is the one that is looked at."""
        self.refresh()
        if self.isVisible() and not self.session.service(RideRequests).behind():
            self.levers.count()

    def _steps_changed(self) -> None:
        """A reading typed in another view is a record too: this one follows once it is shown."""
        if self.isVisible():
            self.refresh()
        else:
            self._behind_steps = True

    def _follow(self) -> None:
        """The board moved: what of it follows the hand."""
        if self.session.previewing:
            self.levers.list.set_renewing(True)
            self._ledger_rows()
            self._why_shown()
        else:
            self.refresh()

    def _ledger_rows(self) -> None:
        from kelvor.ui.shown.panels import ledger_rows

        session = self.session
        remarks = {hint.figure: hint.text for hint in session.results.evaluation.hints}
        rows = ledger_rows(
            session.results.figures(),
            session.overlays.figures,
            session.system,
            remarks,
            session.results.renewing(),
        )
        self.ledger.set_rows(rows)

    def refresh(self) -> None:
        """Show the board on the bench; lists follow its first picture."""
        session = self.session
        if not session.started:
            return
        self._behind_steps = False
        self._strip_names()
        self.levers.refresh()
        self._ledger_rows()
        name = session.overlays.name()
        self._against.setText(f"against {name}" if name else "no reference")
        self._why_shown()
        self._place_chooser()
        self.problem.follow()

    # levers

    def _tag_typed(self, key: str, words: str) -> None:
        self.bench.accept_typed(self.levers.pull(key, words))

    # why

    def show_why(self, key: str) -> None:
        """Explain a figure."""
        self._why_key = key
        if self.ledger.key() != key and any(row.key == key for row in self.ledger.rows()):
            self.ledger.choose(key)
        self._why_shown()

    def _why_shown(self) -> None:
        from kelvor.ui.shown.panels import why

        figure = self.session.results.figures().get(self._why_key)
        if figure is None:
            return
        remarks = {hint.figure: hint.text for hint in self.session.results.evaluation.hints}
        lines = why(figure, self.session.system, remarks.get(self._why_key, ""))
        self.why_label.tell(lines)

    def shut(self) -> None:
        """The window closes."""
        if self.solid is not None:
            self.solid.close_scene()


def shape_view(window: Window) -> ShapeView:
    """The Shape view of a window, which begins with it."""
    return cast("ShapeView", window.shape)
