"""A drawing of the ride, to scale: the board and the water, the pinned board dashed."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.core.ride.pictures import Drawing, Form
from kelvor.ui.controls.copy_out import TakenOut
from kelvor.ui.paint.strokes import behind_pen, pen, polygon
from kelvor.ui.shown.charts import PictureBehind
from kelvor.ui.theme.style import colour, font

TITLE = 40.0


class DrawingWidget(QWidget):
    """One drawing, as large as fits."""

    def __init__(self, name: str = "Drawing") -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.drawing: Drawing | None = None
        self.behind: tuple[PictureBehind[Drawing], ...] = ()
        self._fonts = (font(14, 700), font(12), font(12, 600))
        self.taken_out = TakenOut(self, lambda: self.drawing.title if self.drawing is not None else name)

    def sizeHint(self) -> QSize:
        """Room for a picture."""
        return QSize(420, 200)

    def minimumSizeHint(self) -> QSize:
        """The least that still reads."""
        return QSize(200, 110)

    def show_drawing(self, drawing: Drawing | None, behind: tuple[PictureBehind[Drawing], ...]) -> None:
        """Show a drawing over the boards behind."""
        self.drawing, self.behind = drawing, behind
        if drawing is not None:
            self.setAccessibleDescription(f"{drawing.title}. {drawing.caption}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the drawing."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        drawing = self.drawing
        if drawing is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        place = self._scale(drawing)
        if drawing.water:
            surface = place(np.array([[0.0, 0.0]]))[1][0]
            painter.fillRect(QRectF(0, surface, self.width(), self.height() - surface), colour("water"))
        for other in self.behind:
            for form in other.picture.forms:
                if form.role in ("board", "rail"):
                    painter.setPen(behind_pen(other.role))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
                    x, y = place(form.points)
                    shape = polygon(np.append(x, x[0]), np.append(y, y[0])) if form.closed else polygon(x, y)
                    painter.drawPolyline(shape)
        for form in drawing.forms:
            self._form(painter, form, place)
        if drawing.water:
            painter.setPen(pen("live", 1))
            painter.drawLine(QPointF(0, surface), QPointF(self.width(), surface))
        painter.setFont(self._fonts[2])
        metrics = QFontMetricsF(self._fonts[2])
        for x, y, words in drawing.labels:
            px, py = place(np.array([[x, y]]))
            wide = metrics.horizontalAdvance(words)
            left = min(max(px[0] - wide / 2, 8), self.width() - wide - 8)
            painter.setPen(pen("ink", 1.2))
            if words == "centre of pressure":
                painter.drawLine(QPointF(px[0] - 5, py[0]), QPointF(px[0] + 5, py[0]))
                painter.drawLine(QPointF(px[0], py[0] - 5), QPointF(px[0], py[0] + 5))
                painter.fillRect(QRectF(left - 2, py[0] + 7, wide + 4, 15), colour("paper"))
                painter.drawText(QPointF(left, py[0] + 19), words)
            else:
                painter.drawText(QPointF(left, py[0] + 4), words)
        self._titles(painter, drawing)

    def _scale(self, drawing: Drawing):  # type: ignore[no-untyped-def]
        points = np.concatenate(
            [f.points for f in drawing.forms] + [f.points for other in self.behind for f in other.picture.forms]
        )
        low, high = points.min(axis=0), points.max(axis=0)
        if drawing.water:
            low[1], high[1] = min(low[1], -0.04), max(high[1], 0.06)
        for _, y, _ in drawing.labels:
            low[1], high[1] = min(low[1], y - 0.03), max(high[1], y + 0.03)
        room = QRectF(26, TITLE + 8, max(self.width() - 52, 20), max(self.height() - TITLE - 20, 20))
        size = np.maximum(high - low, 1e-6)
        scale = min(room.width() / size[0], room.height() / size[1])
        middle = (low + high) / 2
        centre = room.center()

        def place(p: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
            return centre.x() + (p[:, 0] - middle[0]) * scale, centre.y() - (p[:, 1] - middle[1]) * scale

        return place

    def _form(self, painter: QPainter, form: Form, place) -> None:  # type: ignore[no-untyped-def]
        x, y = place(form.points)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if form.role == "board":
            painter.setPen(pen("live", 1.8))
            fill = QColor(colour("board_fill"))
            fill.setAlpha(215)
            painter.setBrush(fill)
        elif form.role == "foil":
            painter.setPen(pen("ink", 1))
            painter.setBrush(colour("ink"))
        elif form.role == "patch":
            wash = QColor(colour("live"))
            wash.setAlpha(round(25 + 165 * min(max(form.depth, 0.0), 1.0) ** 0.6))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(wash)
        elif form.role == "rail":
            painter.setPen(QPen(colour("cursor"), 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        elif form.role == "rider":
            painter.setPen(QPen(colour("quiet"), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        else:
            painter.setPen(QPen(colour("quiet"), 6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        shape = polygon(x, y)
        if form.closed:
            painter.drawPolygon(shape)
        else:
            painter.drawPolyline(shape)

    def _titles(self, painter: QPainter, drawing: Drawing) -> None:
        painter.setFont(self._fonts[0])
        painter.setPen(colour("ink"))
        painter.drawText(QPointF(14, 19), drawing.title)
        painter.setFont(self._fonts[1])
        metrics = QFontMetricsF(self._fonts[1])
        painter.setPen(colour("quiet"))
        painter.drawText(
            QPointF(14, 36), metrics.elidedText(drawing.caption, Qt.TextElideMode.ElideRight, self.width() - 28)
        )
        x = 14 + QFontMetricsF(self._fonts[0]).horizontalAdvance(drawing.title) + 20
        for other in self.behind:
            painter.setPen(behind_pen(other.role))
            painter.drawLine(QPointF(x, 15), QPointF(x + 18, 15))
            painter.setPen(colour("quiet"))
            painter.drawText(QPointF(x + 23, 19), other.name)
            x += 36 + metrics.horizontalAdvance(other.name)
