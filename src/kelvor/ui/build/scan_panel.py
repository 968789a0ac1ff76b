"""A scan of a made board, coloured by how far it lies from the design."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QWidget

from kelvor.core.base.arrays import Array
from kelvor.core.made.scan import Scanned
from kelvor.core.shape.surface.sections import Sections
from kelvor.ui.build.shown.scan import MOST, PIXEL, picture, place_rows, scan_summary
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.paint.strokes import label, pen
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour, font

HEADS = ("", "Where", "Against the design")
RING = 7.0


class ScanPanel(Panel):
    """Two pictures, a scale, what lies farthest off, and the scan in words."""

    guide = "build#boards-begun"

    def __init__(self, parent: QWidget, session: Session, title: str, found: Scanned, shape: Sections) -> None:
        super().__init__(parent, f"Scan of {title}", "")
        self.found = found
        self.picture = ScanPicture(found, shape)
        self.column.insertWidget(1, self.picture, 1)
        self.table = figures_table(HEADS)
        fill_table(self.table, place_rows(found, session.system))
        self.table.setVisible(bool(found.places))
        self.table.setFixedHeight(150)
        self.column.insertWidget(2, self.table)
        self.words = QLabel(scan_summary(found, session.system))
        self.words.setWordWrap(True)
        self.column.insertWidget(3, self.words)
        self.resize(880, 660)


class ScanPicture(QWidget):
    """Deck above, bottom below: low places in one colour, high ones in another, none where it is as designed."""

    def __init__(self, found: Scanned, shape: Sections) -> None:
        super().__init__()
        self.setAccessibleName("How far the scan lies from the design")
        self.setMinimumSize(QSize(700, 300))
        self._found = found
        half = np.interp(found.points[:, 0], shape.x, (shape.keel + shape.deck) / 2)
        self._half = half
        self._faces = [
            (words, deck, *picture(found, deck=deck, middle=half))
            for words, deck in (("Deck", True), ("Bottom", False))
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint both faces, and the scale beside them."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = (self.height() - 34) / 2
        for row, (words, deck, off, corner) in enumerate(self._faces):
            scale = min((self.width() - 20) / off.shape[0], (room - 22) / off.shape[1])
            wide, high = off.shape[0] * scale, off.shape[1] * scale
            left, top = (self.width() - wide) / 2, row * room + 18
            painter.drawImage(QRectF(left, top, wide, high), _image(off))
            label(painter, 6, top - 4, words, "ink", font(12, 600))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for number, place in enumerate(self._found.places, 1):
                if self._on_deck(number - 1) == deck:
                    at = QPointF(
                        left + (place.x - corner[0]) / PIXEL * scale, top + high - (place.y - corner[1]) / PIXEL * scale
                    )
                    painter.setPen(pen("ink", 1.5))
                    painter.drawEllipse(at, RING, RING)
                    label(painter, at.x() + RING + 2, at.y() + 4, str(number), "ink", font(12, 600))
        self._scale(painter)

    def _on_deck(self, at: int) -> bool:
        place = self._found.places[at]
        nearest = int(np.argmin(np.sum((self._found.points - [place.x, place.y, place.z]) ** 2, axis=1)))
        return bool(self._found.points[nearest, 2] >= self._half[nearest])

    def _scale(self, painter: QPainter) -> None:
        """What the colours mean, with numbers."""
        steps = np.linspace(-MOST, MOST, 121)[:, None]
        wide, top = 240.0, self.height() - 22.0
        left = (self.width() - wide) / 2
        painter.drawImage(QRectF(left, top, wide, 8), _image(steps))
        for share, words in (
            (0.0, f"{MOST * 1000:.0f} mm low"),
            (0.5, "as designed"),
            (1.0, f"{MOST * 1000:.0f} mm high"),
        ):
            label(painter, left + share * wide, top + 20, words, "quiet", font(11), centre=True)


def _image(off: Array) -> QImage:
    """Values (n, m) [m] in colour, port above."""
    low, none, high = (_parts(role) for role in ("pinned", "board_fill", "live"))
    share = np.clip(np.nan_to_num(off) / MOST, -1.0, 1.0)[..., None]
    mixed = np.where(share < 0, none + (low - none) * -share, none + (high - none) * share)
    mixed = np.where(np.isnan(off)[..., None], _parts("paper"), mixed)
    pixels = np.ascontiguousarray(mixed.transpose(1, 0, 2)[::-1].astype(np.uint8))
    deep, wide, _ = pixels.shape
    return QImage(pixels.tobytes(), wide, deep, 3 * wide, QImage.Format.Format_RGB888).copy()


def _parts(role: str) -> Array:
    found = colour(role)
    return np.array([found.red(), found.green(), found.blue()], float)
