"""The blank as the simulated mill left it: both faces from above, with the places that are out of tolerance."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from kelvor.core.mill.cut import CELL
from kelvor.core.mill.job import CutFace
from kelvor.ui.build.shown.milling import shaded
from kelvor.ui.paint.strokes import label, pen
from kelvor.ui.theme.style import colour, font

MARK = 6.0


class BlankPicture(QWidget):
    """Deck above, bottom below; nothing of it is drawn by hand: these are the heights the mill left."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("The blank as it was cut")
        self.setMinimumSize(QSize(380, 150))
        self._faces: tuple[CutFace, ...] = ()
        self._images: tuple[QImage, ...] = ()
        self.captions: tuple[str, ...] = ()

    def show_faces(self, faces: Sequence[CutFace], captions: Sequence[str]) -> None:
        """Show faces, each with a line on what was left of it; none takes the picture away."""
        self._faces, self.captions = tuple(faces), tuple(captions)
        images = []
        for face in faces:
            light = shaded(face.block.heights, CELL)
            high, wide = light.shape
            images.append(QImage(light.tobytes(), wide, high, wide, QImage.Format.Format_Grayscale8).copy())
        self._images = tuple(images)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the faces one above the other."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._images:
            words = "The blank appears here as the simulated mill leaves it."
            label(painter, 14, 30, words, "quiet", font(13))
            return
        room = self.height() / len(self._images)
        for i, (face, image) in enumerate(zip(self._faces, self._images, strict=True)):
            scale = min((self.width() - 20) / image.width(), (room - 26) / image.height())
            wide, high = image.width() * scale, image.height() * scale
            left, top = (self.width() - wide) / 2, i * room + 20
            painter.drawImage(QRectF(left, top, wide, high), image)
            label(painter, 4, top - 6, self.captions[i], "ink", font(12))
            corner, cell = face.block.corner, scale / CELL
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for number, spot in enumerate(face.judged.spots, 1):
                across = spot.y if face.side == "deck" else -spot.y  # turned over, port lies below
                at = QPointF(left + (spot.x - corner[0]) * cell, top + high - (across - corner[1]) * cell)
                painter.setPen(pen("short" if spot.off < 0 else "cursor", 2))
                painter.drawEllipse(at, MARK, MARK)
                label(painter, at.x() + MARK + 2, at.y() + 4, str(number), "ink", font(11, 600))
