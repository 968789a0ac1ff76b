"""The ride strip: one tile a phase, with its deciding figure and whether the brief is met."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QSizePolicy, QWidget

from kelvor.ui.shown.shown import Tile
from kelvor.ui.theme.style import colour, font

HEIGHT = 88


class PhaseTile(QWidget):
    """One phase. The mark at its left tells the verdict by pattern as well as colour."""

    asked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(HEIGHT)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.tile: Tile | None = None
        self._fonts = (font(13, 700), font(18, 700), font(12), font(12, 600))

    def sizeHint(self) -> QSize:
        """Five abreast at 1280."""
        return QSize(220, HEIGHT)

    def show_tile(self, tile: Tile) -> None:
        """Show another state of the phase."""
        if tile != self.tile:
            self.tile = tile
            self.setAccessibleName(f"{tile.name}: {tile.headline}, {tile.verdict}")
            self.setToolTip(f"{tile.question} {tile.headline}. {' '.join(tile.lines)}. {tile.verdict}. Click for why.")
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the tile."""
        if self.tile is None:
            return
        tile, painter = self.tile, QPainter(self)
        name, head, small, verdict_font = self._fonts
        rect = QRectF(0.5, 0.5, self.width() - 1, self.height() - 1)
        painter.setPen(QPen(colour("live") if self.hasFocus() else colour("line"), 1))
        painter.setBrush(colour("paper"))
        painter.drawRoundedRect(rect, 4, 4)
        role = {"meets": "live", "short": "short", "too close to call": "quiet"}.get(tile.outcome, "line")
        mark = QRectF(1, 1, 4, self.height() - 2)
        if tile.outcome == "short":
            for y in range(2, self.height() - 4, 8):
                painter.fillRect(QRectF(1, y, 4, 5), colour(role))
        elif tile.outcome == "too close to call":
            painter.setPen(QPen(colour(role), 1))
            for y in range(4, self.height() - 2, 5):
                painter.drawLine(1, y + 3, 5, y - 1)
        else:
            painter.fillRect(mark, colour(role))
        left, right = 14.0, self.width() - 12.0
        painter.setFont(verdict_font)
        painter.setPen(colour(role if role != "line" else "quiet"))
        shown = QFontMetricsF(verdict_font).horizontalAdvance(tile.verdict)
        painter.drawText(
            QRectF(left, 8, right - left, 18), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, tile.verdict
        )
        painter.setFont(name)
        painter.setPen(colour("ink"))
        painter.drawText(QRectF(left, 8, right - left - shown, 18), Qt.AlignmentFlag.AlignVCenter, tile.name)
        painter.setFont(head)
        metrics = QFontMetricsF(head)
        painter.setPen(colour("quiet") if tile.stale else colour("ink"))
        wide = metrics.horizontalAdvance(tile.headline)
        painter.drawText(QRectF(left, 26, right - left, 26), Qt.AlignmentFlag.AlignVCenter, tile.headline)
        painter.setFont(small)
        painter.setPen(colour("quiet"))
        room = right - left - wide - 6
        difference = "renewing" if tile.stale else tile.difference
        if difference and QFontMetricsF(small).horizontalAdvance(difference) <= room:
            painter.drawText(
                QRectF(left + wide + 6, 28, room, 24),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                difference,
            )
        for i, line in enumerate(tile.lines[:2]):
            text = QFontMetricsF(small).elidedText(line, Qt.TextElideMode.ElideRight, right - left)
            painter.drawText(QRectF(left, 52 + 16 * i, right - left, 16), Qt.AlignmentFlag.AlignVCenter, text)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Ask why."""
        if self.tile is not None:
            self.asked.emit(self.tile.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter or space ask why."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space, Qt.Key.Key_Enter) and self.tile is not None:
            self.asked.emit(self.tile.key)
        else:
            super().keyPressEvent(event)


class RideStrip(QWidget):
    """All phases side by side."""

    asked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._layout = QHBoxLayout(self)
        self._layout.setContentsMargins(10, 8, 10, 8)
        self._layout.setSpacing(8)
        self.tiles: list[PhaseTile] = []

    def show_tiles(self, tiles: list[Tile]) -> None:
        """Show the phases."""
        while len(self.tiles) < len(tiles):
            tile = PhaseTile()
            tile.asked.connect(self.asked)
            self._layout.addWidget(tile)
            self.tiles.append(tile)
        for widget, tile_ in zip(
            self.tiles, tiles, strict=False
        ):  # a discipline may have fewer phases than the last one
            widget.show_tile(tile_)
        for i, widget in enumerate(self.tiles):
            widget.setVisible(i < len(tiles))
