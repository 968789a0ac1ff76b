"""The steps tape: every committed change as a stop, in words, with its reason."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QContextMenuEvent, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QInputDialog, QLabel, QLineEdit, QMenu, QSizePolicy, QToolTip, QWidget

from kelvor.core.base.plain_text import one_line
from kelvor.core.history.steps import FROZEN_KINDS, Step, TapeStop, ahead, folded, steps_to
from kelvor.ui.controls.panel import Elided, plain_tip
from kelvor.ui.session.session import Session
from kelvor.ui.shown.wording import stop_words
from kelvor.ui.theme.style import colour, font

GAP = 26.0


class Dots(QWidget):
    """The stops themselves."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName("Steps of this board")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(30)
        self.setMouseTracking(True)

    def sizeHint(self) -> QSize:
        """Room for a dozen stops."""
        return QSize(420, 30)

    def stops(self) -> list[TapeStop]:
        """The line from the first step through the current one to where redo leads."""
        steps, current = self.session.steps, self.session.current
        return folded([*steps_to(steps, current), *ahead(steps, current)])

    def visible(self) -> list[tuple[TapeStop, float]]:
        """The stops that fit, with their x; the current one always among them."""
        stops = self.stops()
        room = max(3, int((self.width() - 24) / GAP))
        at = self.current_index(stops)
        first = max(0, min(at - room + 3, len(stops) - room))
        return [(stop, 12 + GAP * i) for i, stop in enumerate(stops[first : first + room])]

    def current_index(self, stops: list[TapeStop]) -> int:
        """Where the current step lies among the stops."""
        current = self.session.current
        return next(
            (
                i
                for i, s in enumerate(stops)
                if s.step.id == current or (s.first.id <= current <= s.step.id and _within(s, current))
            ),
            0,
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint stops: current filled, pinned in rust, frozen ones squared, branches with a fork."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = self.visible()
        if not shown:
            return
        y = 15.0
        painter.setPen(QPen(colour("line"), 2))
        painter.drawLine(QPointF(shown[0][1], y), QPointF(shown[-1][1], y))
        stops = self.stops()
        current = stops[self.current_index(stops)]
        passed = True
        for stop, x in shown:
            is_current, is_pinned = stop == current, self.session.overlays.step == stop.step.id
            fill = "live" if is_current else "pinned" if is_pinned else "grid"
            painter.setPen(QPen(colour(fill if is_current or is_pinned else "quiet"), 1.2))
            painter.setBrush(colour(fill) if passed or is_pinned else colour("paper"))
            radius = 6.5 if is_current else 5.0
            if stop.step.frozen:
                painter.drawRect(QRectF(x - radius, y - radius, 2 * radius, 2 * radius))
            else:
                painter.drawEllipse(QPointF(x, y), radius, radius)
            self._decided(painter, stop, QPointF(x, y), radius)
            if sum(1 for s in self.session.steps.values() if s.parent == stop.step.id) > 1:
                painter.setPen(QPen(colour("quiet"), 1.2))
                painter.drawLine(QPointF(x + 4, y + 5), QPointF(x + 10, y + 12))
            if is_current and self.hasFocus():
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(colour("cursor"), 1.5))
                painter.drawEllipse(QPointF(x, y), 9.5, 9.5)
            if is_current:
                passed = False

    def _decided(self, painter: QPainter, stop: TapeStop, at: QPointF, radius: float) -> None:
        """What became of a stop: kept a roof over it, dropped a stroke through it, parked a bar under it."""
        record = self.session.workshop.registers.decision(stop.step.id)
        if record is None:
            return
        x, y, r = at.x(), at.y(), radius + 3
        verdict = record.value.verdict
        painter.setPen(QPen(colour({"kept": "live", "dropped": "short"}.get(verdict, "quiet")), 2.0))
        if verdict == "kept":
            painter.drawLine(QPointF(x - r, y - r + 3), QPointF(x, y - r - 2))
            painter.drawLine(QPointF(x, y - r - 2), QPointF(x + r, y - r + 3))
        elif verdict == "dropped":
            painter.drawLine(QPointF(x - r, y + r), QPointF(x + r, y - r))
        else:
            painter.drawLine(QPointF(x - r, y + r + 1), QPointF(x + r, y + r + 1))

    def stop_at(self, x: float) -> TapeStop | None:
        """The stop under the hand."""
        return next((stop for stop, at in self.visible() if abs(at - x) <= GAP / 2), None)

    def words(self, stop: TapeStop) -> str:
        """A stop in words."""
        parent = self.session.steps.get(stop.first.parent) if stop.first.parent is not None else None
        words = stop_words(stop, parent, self.session.system)
        record = self.session.workshop.registers.decision(stop.step.id)
        if record is None:
            return words
        decision = record.value
        why = "".join((f": {decision.why}" if decision.why else "", f" ({decision.who})" if decision.who else ""))
        return f"{words}; {decision.verdict}{why}"

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to a step."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        stop = self.stop_at(event.position().x())
        if stop is not None and event.button() == Qt.MouseButton.LeftButton and stop.step.id != self.session.current:
            self.session.versions.go_to(stop.step.id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right walk the steps, P pins."""
        if event.key() == Qt.Key.Key_Left:
            self.session.versions.step_back()
        elif event.key() == Qt.Key.Key_Right:
            self.session.versions.step_on()
        elif event.key() == Qt.Key.Key_P:
            self.session.versions.pin(self.session.current)
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Pin, freeze, follow another branch."""
        stop = self.stop_at(event.pos().x())
        if stop is None:
            return
        menu = QMenu(self)
        self.fill_menu(menu, stop.step)
        menu.exec(event.globalPos())

    def fill_menu(self, menu: QMenu, step: Step) -> None:
        """What can be done with a step."""
        session = self.session
        menu.addAction("Go to this step", lambda: session.versions.go_to(step.id))
        if session.overlays.step == step.id:
            menu.addAction("Take the reference off", lambda: session.versions.pin(None))
        else:
            menu.addAction("Make this the reference", lambda: session.versions.pin(step.id))
        freeze = menu.addMenu("Mark as")
        for kind in FROZEN_KINDS:
            freeze.addAction(kind, partial(ask_serial, self, session, step, kind))
        menu.addAction("Keep, drop or park it…", lambda: decide(self, session, step))
        others = [s for s in session.steps.values() if s.parent == step.id]
        if len(others) > 1:
            branch = menu.addMenu("Branches from here")
            for other in others:
                words = stop_words(TapeStop(other, other, other.changes), step, session.system)
                branch.addAction(f"{other.number}: {words}", partial(session.versions.go_to, other.id))

    def event(self, event: QEvent) -> bool:
        """Words of the stop under the hand."""
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            stop = self.stop_at(event.pos().x())
            if stop is not None:
                step = stop.step
                frozen = "; ".join(f"{kind} {serial}".strip() for kind, serial in step.frozen)
                reason = f" ({step.reason})" if step.reason else ""
                words = f"Step {step.number}: {self.words(stop)}{reason}. {frozen}".rstrip(" .")
                QToolTip.showText(event.globalPos(), plain_tip(words), self)
            return True
        return super().event(event)


def ask_serial(parent: QWidget, session: Session, step: Step, kind: str) -> None:
    """Ask the serial of a frozen step, without stopping the window."""
    dialog = QInputDialog(parent)
    dialog.setWindowTitle(f"Mark version {step.number} as {kind}")
    dialog.setLabelText("Serial or note:")
    dialog.setModal(False)
    dialog.textValueSelected.connect(lambda words: session.versions.freeze(step.id, kind, one_line(words, 200)))  # type: ignore[arg-type]
    dialog.open()


def decide(parent: QWidget, session: Session, step: Step) -> None:
    """Ask what became of a step."""
    from kelvor.ui.rack.decide_dialog import DecideDialog

    DecideDialog(parent, session, step).show()


def _within(stop: TapeStop, step_id: int) -> bool:
    return stop.step.gesture != "" and stop.first.id <= step_id <= stop.step.id


class StepsTape(QWidget):
    """Stops, the current step's words, and its reason to write."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 14, 4)
        row.setSpacing(10)
        title = QLabel("Steps")
        title.setFont(font(13, 700))
        self.dots = Dots(session)
        self.words = Elided()
        self.reason = QLineEdit()
        self.reason.setPlaceholderText("Why? (Ctrl+R)")
        self.reason.setAccessibleName("Reason for this step")
        self.reason.setFixedWidth(230)
        self.reason.setMaxLength(2000)
        self.reason.editingFinished.connect(self._reason_written)
        self.state = QLabel()
        self.state.setObjectName("quiet")
        row.addWidget(title)
        row.addWidget(self.dots, 4)
        row.addWidget(self.words, 5)
        row.addWidget(self.reason)
        row.addWidget(self.state)
        session.steps_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        session.workshop.waiting_changed.connect(self._show_state)
        session.about_to_leave.connect(self._reason_written)
        self._reason_of, self._reason_shown = session.current, ""

    def refresh(self) -> None:
        """Show the current step."""
        session = self.session
        stops = self.dots.stops()
        stop = stops[self.dots.current_index(stops)]
        frozen = "".join(f" · {kind} {serial}" for kind, serial in stop.step.frozen)
        words = f"{stop.step.number}: {self.dots.words(stop)}{frozen}"
        self.words.set_words(words)
        self._reason_of = session.workshop.saving.ids(self._reason_of)  # a step that waited may have its real id now
        if self._reason_of != session.current or not self.reason.hasFocus():
            self._reason_of, self._reason_shown = session.current, stop.step.reason
            self.reason.setText(stop.step.reason)
        self._show_state()
        self.dots.update()

    def _show_state(self) -> None:
        waiting = len(self.session.workshop.saving.waiting)
        self.state.setText(f"{waiting} not saved" if waiting else "saved")
        self.state.setObjectName("wrong" if waiting else "quiet")
        self.state.style().polish(self.state)

    def _reason_written(self) -> None:
        """Keep the words with the step at which they were begun."""
        words = self.reason.text().strip()
        if words != self._reason_shown:
            self._reason_shown = words
            self.session.versions.set_reason(self._reason_of, words)
