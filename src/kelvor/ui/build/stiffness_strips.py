"""Bending and twist stiffness along the board, drawn over the pinned step's."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from kelvor.core.base.arrays import Array
from kelvor.core.build.stiffness.stage import StiffnessStage
from kelvor.ui.paint.strokes import dashed, label, pen, polygon
from kelvor.ui.theme.style import colour, font


class StiffnessStrips(QWidget):
    """Both strips on one ruler; None for `now` asks for a construction."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Bending and twist stiffness along the board")
        self.setMinimumSize(QSize(380, 230))
        self.now: StiffnessStage | None = None
        self.then: StiffnessStage | None = None
        self.length = 1.0
        self.renewing = False
        """Whether `now` is still the board before."""
        self.ribs: Array = np.zeros(0)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint both strips."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.now is None:
            label(
                painter, 14, 30, "Choose a construction: its stiffness along the board appears here.", "quiet", font(13)
            )
            return
        high = self.height() / 2
        self._one(painter, 0.0, high, "Bending EI", "N m²", lambda s: s.along.bending)
        self._one(painter, high, high, "Twist GJ", "N m²", lambda s: s.along.twist)

    def _one(
        self, painter: QPainter, top: float, high: float, words: str, unit: str, of: Callable[[StiffnessStage], Array]
    ) -> None:
        now = self.now
        assert now is not None
        left, right = 16.0, self.width() - 16.0
        values = of(now)
        peak = float(max(values.max(), of(self.then).max() if self.then is not None else 0.0))
        base, scale = top + high - 18, (high - 48) / max(peak, 1e-9)
        painter.setPen(pen("line", 1))
        painter.drawLine(QPointF(left, base), QPointF(right, base))

        def curve(stage: StiffnessStage) -> tuple[Array, Array]:
            return left + stage.along.x / self.length * (right - left), base - of(stage) * scale

        px, py = curve(now)
        wash = polygon(np.concatenate([px[:1], px, px[-1:]]), np.concatenate([[base], py, [base]]))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("live_wash"))
        painter.drawPolygon(wash)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self.then is not None:
            painter.setPen(dashed("pinned", 1.4, 5, 3))
            painter.drawPolyline(polygon(*curve(self.then)))
        painter.setPen(pen("quiet" if self.renewing else "live", 2))
        painter.drawPolyline(polygon(px, py))
        painter.setPen(pen("ink", 1))
        for rib in self.ribs:  # where the chambers end
            x = left + rib / self.length * (right - left)
            painter.drawLine(QPointF(x, base), QPointF(x, base - 7))
        for foot in now.feet:
            x = left + foot / self.length * (right - left)
            painter.setPen(pen("quiet", 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, base), QPointF(x, top + 26))
            label(painter, x, base + 13, "foot", "quiet", font(11), centre=True)
        middle = float(np.interp(self.length / 2, now.along.x, values))
        label(painter, left, top + 18, words, "ink", font(13, 700))
        shown = f"{float(f'{middle:.3g}'):,.0f}".replace(",", "\u202f")
        told = "renewing" if self.renewing else f"{shown} {unit} in the middle"
        label(painter, right - 210, top + 18, told, "quiet", font(12))
