"""The differences of a test's pairs one by one, with what they say together."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import Trial, TrialRun
from kelvor.core.water.trials.results import TrialResult, paired
from kelvor.ui.paint.strokes import pen
from kelvor.ui.theme.style import colour, font

LEFT, RIGHT, TOP, BOTTOM = 20.0, 20.0, 26.0, 34.0


class PairsPicture(QWidget):
    """Dots for pairs, a bar for the interval, a band for what does not matter."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Differences of the pairs")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._trial: Trial | None = None
        self._answer = TrialResult("cannot tell")
        self._differences: list[float] = []

    def sizeHint(self) -> QSize:
        """A strip."""
        return QSize(420, 150)

    def show_test(self, trial: Trial | None, runs: list[TrialRun], found: TrialResult) -> None:
        """Show a test's pairs."""
        self._trial, self._answer = trial, found
        self._differences = [(b.value - a.value) / KNOT for a, b in paired(runs)]
        told = ", ".join(f"{d:+.2f}" for d in self._differences)
        self.setAccessibleDescription(f"B less A by pair, kn: {told}" if told else "No pair yet")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        trial, found = self._trial, self._answer
        if trial is None or not self._differences:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        half = found.half / KNOT if found.half < 1e6 else 0.0
        margin, mean = trial.margin / KNOT, found.difference / KNOT
        reach = 1.1 * max([abs(d) for d in self._differences] + [margin, abs(mean) + min(half, 9.0)])
        frame = QRectF(LEFT, TOP, self.width() - LEFT - RIGHT, self.height() - TOP - BOTTOM)

        def x(value: float) -> float:
            return frame.center().x() + value / reach * frame.width() / 2

        painter.fillRect(QRectF(x(-margin), frame.top(), x(margin) - x(-margin), frame.height()), colour("live_wash"))
        painter.setPen(pen("ink", 1))
        painter.drawLine(QPointF(x(0), frame.top()), QPointF(x(0), frame.bottom()))
        rows = max(len(self._differences), 1)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("quiet"))
        for i, difference in enumerate(self._differences):
            y = frame.top() + (i + 0.5) / rows * (frame.height() - 18)
            painter.drawEllipse(QPointF(x(difference), y), 3.4, 3.4)
        if half > 0:
            role = "live" if found.said in ("faster", "slower") else "pinned" if found.said == "not shown" else "ink"
            y = frame.bottom() - 6
            painter.setPen(QPen(QColor(colour(role)), 3))
            painter.drawLine(
                QPointF(max(x(mean - half), frame.left()), y), QPointF(min(x(mean + half), frame.right()), y)
            )
            painter.setBrush(colour(role))
            painter.drawEllipse(QPointF(x(mean), y), 5, 5)
        painter.setFont(font(11))
        painter.setPen(colour("quiet"))
        left, right = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight
        painter.drawText(QRectF(LEFT, 4, frame.width(), 16), left, f"◂ {trial.a} faster")
        painter.drawText(QRectF(LEFT, 4, frame.width(), 16), right, f"{trial.b} faster ▸")
        for value in (-reach / 1.1, -margin, 0.0, margin, reach / 1.1):
            words = f"{value:+.2f}" if value else "0 kn"
            painter.drawText(QRectF(x(value) - 30, frame.bottom() + 4, 60, 14), Qt.AlignmentFlag.AlignCenter, words)
        below = QRectF(LEFT, frame.bottom() + 18, frame.width(), 14)
        painter.drawText(
            below, Qt.AlignmentFlag.AlignCenter, "pairs as dots, their mean with 95 %; shaded: does not matter"
        )
