"""The Shape view: levers, bench, section and ledger."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetrics, QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QSizePolicy, QStackedWidget, QVBoxLayout, QWidget

from kelvor.core.errors import InputError, RefusedEdit
from kelvor.core.levers.catalogue import pull
from kelvor.core.levers.lever import Lever, chosen
from kelvor.core.shape.weights import schedule_keys
from kelvor.core.units import parse
from kelvor.ui.bench.bench import BenchWidget
from kelvor.ui.bench.scene import VOLUME_STRIP
from kelvor.ui.bench.section_panel import SectionPanel
from kelvor.ui.presenters.grips import strip_keys
from kelvor.ui.presenters.handles import line_name
from kelvor.ui.presenters.lever_effects import Does
from kelvor.ui.presenters.shown import Row
from kelvor.ui.presenters.wording import escaped
from kelvor.ui.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.throttle import Throttle
from kelvor.ui.widgets.panel import heading, panel, plain_label
from kelvor.ui.widgets.rows import RowsView
from kelvor.ui.widgets.why_label import WhyLabel

if TYPE_CHECKING:
    from kelvor.core.live import Live
    from kelvor.ui.main_window import MainWindow
    from kelvor.ui.solid.solid_view import SolidView

_LOCK_LEVERS = {"volume": "volume", "width": "width", "length_times_width": ""}


RULER_WORDS = 96
"""Room for what the ruler counts from [px]."""


class ShapeView(QWidget):
    """Where the board is shaped."""

    says = True

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        self._levers: dict[str, Lever] = {}
        self._nudges = 0
        self._last_nudge: tuple[str, int] | None = None
        self._why_key = ""
        self.solid: SolidView | None = None
        self._said_problem, self._words = False, ""
        self._said_of: Live | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        self.levers = RowsView("Levers", editable=True)
        self.levers.chosen.connect(self._lever_chosen)
        self.levers.typed.connect(self._lever_typed)
        self.levers.nudged.connect(self._lever_nudged)
        self.explains = QLabel()
        self.explains.setWordWrap(True)
        self.explains.setObjectName("quiet")
        self.explains.setFont(font(12))
        self.explains.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.explains.setContentsMargins(12, 4, 10, 8)
        self.explains.setMinimumHeight(118)
        self.bench = BenchWidget(session)
        # over the ruler, not above it: a message must not move the drawing under the hand
        self.problem = plain_label(self.bench)
        self.problem.setObjectName("wrong")
        self.problem.setWordWrap(True)
        self.problem.setAutoFillBackground(True)
        self.problem.setVisible(False)
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
        self._follow_cursor = Throttle(self, 100, self._lever_rows)
        row.addWidget(self._left())
        row.addWidget(self._middle(), 1)
        row.addWidget(self._right())
        self._connect()
        self.section.set_station(self.bench.station, self.bench.station_text())
        if session.standing:
            self._board_opened()

    def _connect(self) -> None:
        session = self.session
        self.bench.cursor_moved.connect(self._cursor_moved)
        self.bench.typed.connect(self._tag_typed)
        self.section.stepped.connect(lambda step: self.bench.set_station(self.bench.station + step))
        # the bench follows every move of the hand; the ledger some ten times a second, and levers when it rests
        session.live_changed.connect(Throttle(self, 100, self._follow).call)
        session.settled.connect(self.refresh)
        session.riding.ridden.connect(Throttle(self, 100, self._ridden).call)
        session.riding.levers_counted.connect(Throttle(self, 200, self._lever_rows).call)
        session.units_changed.connect(self._units_changed)
        session.steps_changed.connect(self._strip_names)
        session.steps_changed.connect(self.refresh)
        session.board_opened.connect(self._board_opened)
        session.stood.connect(self._board_opened)
        session.said.connect(self._said)

    def showEvent(self, event: QShowEvent) -> None:
        """Count what levers do once they are looked at."""
        super().showEvent(event)
        if self.session.riding.ride is not None:
            self._ridden()

    def _left(self) -> QWidget:
        frame = panel()
        frame.setFixedWidth(276)
        column = QVBoxLayout(frame)
        column.setContentsMargins(1, 8, 1, 1)
        column.setSpacing(2)
        title = heading("Levers")
        title.setContentsMargins(12, 0, 0, 2)
        column.addWidget(title)
        column.addWidget(self.levers, 1)
        column.addWidget(self.explains)
        return frame

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
            from kelvor.ui.solid.solid_view import SolidView

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
        self._place_problem()
        self.strip_choice.setGeometry(8, round(layout.strip.top) + 4, 190, 24)

    # keeping up

    def _board_opened(self) -> None:
        self._cursor_moved(self.bench.station)
        self.refresh()
        self.levers.choose(self.levers.key() or "length")
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

    def _lever_rows(self) -> None:
        """Show the levers, those of the cursor's station among them."""
        session = self.session
        if not session.standing:
            return
        from kelvor.ui.presenters.panels import lever_rows

        locked = frozenset(_LOCK_LEVERS[name] for name in session.live.board.locks.measures if _LOCK_LEVERS.get(name))
        riding = session.riding
        phases = tuple(result.phase for result in session.evaluation.phases)
        does = Does(phases, session.figures(), riding.effects)
        rows, self._levers = lever_rows(session.live, session.system, locked, self.bench.station, does)
        self.levers.set_rows(rows)
        self.levers.set_renewing(False)
        lever = self._levers.get(self.levers.key())
        self._explain(lever, does.words(lever, session.system) if lever is not None else "")

    def _explain(self, lever: Lever | None, does: str) -> None:
        """What the chosen lever does, by the schools and as computed here."""
        counting = (
            "Counting what it does here."
            if lever is not None and not does and self.session.riding.counting_levers()
            else does
        )
        computed = f" <b>Here</b> {escaped(counting)}" if counting else ""
        self.explains.setText(f"<b>{lever.label}.</b> {lever.explains}{computed}" if lever else "")

    def _ridden(self) -> None:
        """The ride is there: count what the levers do, while this view is the one that is looked at."""
        self.refresh()
        if self.isVisible() and not self.session.riding.behind():
            self.session.riding.ask_levers([key for key in self._levers if not key.startswith("at.")])

    def _follow(self) -> None:
        """The board moved: what of it follows the hand."""
        if self.session.previewing:
            self.levers.set_renewing(True)
            self._ledger_rows()
            self._why_shown()
        else:
            self.refresh()

    def _ledger_rows(self) -> None:
        from kelvor.ui.presenters.panels import ledger_rows

        session = self.session
        remarks = {hint.figure: hint.text for hint in session.evaluation.hints}
        rows = ledger_rows(session.figures(), session.pinned_figures, session.system, remarks, session.renewing())
        self.ledger.set_rows(rows)

    def refresh(self) -> None:
        """Show the board on the bench; lists follow its first picture."""
        session = self.session
        if not session.standing:
            return
        self._strip_names()
        self._lever_rows()
        self._ledger_rows()
        name = session.pinned_name()
        self._against.setText(f"against {name}" if name else "no reference")
        self._why_shown()
        self._place_chooser()
        if not self._said_problem and self._said_of is not session.live:
            self._said("note", "")

    def _said(self, kind: str, words: str) -> None:
        self._said_of = (
            self.session.live if words else None
        )  # what was said stands until the board moves, whatever arrives
        if not words and (remark := self._remark()):
            kind, words = "note", remark
        self.problem.setVisible(bool(words))
        self._words = words
        self._said_problem = kind == "problem" and bool(words)
        self.problem.setObjectName("wrong" if kind == "problem" else "quiet")
        self.problem.setToolTip(words)
        self.problem.style().polish(self.problem)
        self._place_problem()

    def _remark(self) -> str:
        """What is worth a look about the board, once that is known."""
        if not self.session.standing:
            return ""
        from kelvor.ui.presenters.panels import finding_remark

        return finding_remark(self.session.evaluation.findings, self.session.system)

    def _place_problem(self) -> None:
        """A problem is told whole over the ruler; a note stands in one line above its numbers."""
        width = self.bench.width() - 4
        self.problem.setWordWrap(self._said_problem)
        self.problem.setContentsMargins(*((12, 4, 12, 4) if self._said_problem else (0, 0, 0, 0)))
        if self._said_problem:
            self.problem.setText(self._words)
            self.problem.setGeometry(2, 1, width, max(28, self.problem.heightForWidth(width)))
        else:
            room = width - RULER_WORDS
            size = QFontMetrics(self.problem.font())
            self.problem.setText(size.elidedText(self._words, Qt.TextElideMode.ElideRight, room - 8))
            self.problem.setGeometry(RULER_WORDS, 0, room, 17)

    # levers

    def choose_lever_of(self, name: str) -> None:
        """Choose the first lever of a layer, which shows its schedule."""
        self.refresh()
        keys = [key for key in self._levers if key.startswith((f"layer.{name}.", f"deck.{name}."))]
        if keys:
            self.levers.choose(next((key for key in keys if self._levers[key].schedule), keys[0]))

    def _lever_chosen(self, key: str) -> None:
        lever = self._levers.get(key)
        does = Does(
            tuple(r.phase for r in self.session.evaluation.phases), self.session.figures(), self.session.riding.effects
        )
        self._explain(lever, does.words(lever, self.session.system) if lever is not None else "")
        if lever is not None and lever.schedule:
            index = self.strip_choice.findData(lever.schedule)
            if index >= 0:
                self.bench.set_strip(lever.schedule)

    def pull_lever(self, key: str, words: str) -> bool:
        """Set a lever from typed words; False keeps what was typed to be mended."""
        lever = self._levers.get(key)
        if lever is None:
            return True
        try:
            typed = _apex(words) if key == "rails.apex" else words
            value = chosen(lever, words) if lever.choices else parse(typed, lever.quantity, self.session.system)
            result = pull(self.session.board, lever, value)
        except (InputError, RefusedEdit) as error:
            self.session.said.emit("problem", str(error))
            return False
        done = self.session.commit(result.board, result.changes, held=True)
        if done and not self.session.workshop.saving.waiting:
            self.session.said.emit("note", "")
        return done or result.board == self.session.board

    def _lever_typed(self, key: str, words: str) -> None:
        self.levers.accept_typed(self.pull_lever(key, words))

    def _tag_typed(self, key: str, words: str) -> None:
        self.bench.accept_typed(self.pull_lever(key, words))

    def _lever_nudged(self, key: str, factor: float) -> None:
        lever = self._levers[key]
        board = self.session.board
        try:
            result = pull(board, lever, lever.read(board) + factor * lever.step)
        except RefusedEdit as error:
            self.session.said.emit("problem", str(error))
            return
        if self._last_nudge != (key, self.session.current):
            self._nudges += 1
        if self.session.commit(result.board, result.changes, gesture=f"lever-{self._nudges}-{key}", held=True):
            self._last_nudge = (key, self.session.current)

    # why

    def show_why(self, key: str) -> None:
        """Explain a figure."""
        self._why_key = key
        if self.ledger.key() != key and any(row.key == key for row in self.ledger.rows()):
            self.ledger.choose(key)
        self._why_shown()

    def _why_shown(self) -> None:
        from kelvor.ui.presenters.panels import why

        figure = self.session.figures().get(self._why_key)
        if figure is None:
            return
        remarks = {hint.figure: hint.text for hint in self.session.evaluation.hints}
        lines = why(figure, self.session.system, remarks.get(self._why_key, ""))
        self.why_label.tell(lines)

    def shut(self) -> None:
        """The window closes."""
        if self.solid is not None:
            self.solid.close_scene()

    def lever_label(self, key: str) -> Row | None:
        """A lever's row, for tests and help."""
        return next((row for row in self.levers.rows() if row.key == key), None)


def _apex(words: str) -> str:
    """A split such as 60/40, read as its share below."""
    above, slash, below = words.partition("/")
    return f"{below.strip()}%" if slash and above.strip().isdigit() and below.strip().isdigit() else words


def shape_view(window: MainWindow) -> ShapeView:
    """The Shape view of a window, which begins with it."""
    return window.shape
