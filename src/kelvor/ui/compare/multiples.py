"""A family picture: every board small, all to one scale, in the order of a figure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.ui.controls.copy_out import TakenOut
from kelvor.ui.paint.strokes import behind_pen, pen, polygon
from kelvor.ui.theme.style import colour, font

WIDE, HIGH = 216, 108


@frozen(eq=False)
class Small:
    """One board of the picture: its name, a line below it, its line (n,) over (n,) [m] and whether that closes on
    itself.
    """

    key: str
    name: str
    words: str
    x: Array
    y: Array
    closed: bool = False


class Multiples(QWidget):
    """The picture. A click or the arrows choose a board."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Family picture")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.boards: Sequence[Small] = ()
        self.here = ""
        self.key = ""
        self.taken_out = TakenOut(self, lambda: "Family picture", self.rows)

    def show_boards(self, boards: Sequence[Small], here: str) -> None:
        """Show these, the board on the bench (`here`) behind each of them."""
        self.boards, self.here = boards, here
        if not any(b.key == self.key for b in boards):
            self.key = here
        self.setMinimumHeight(self._rows() * HIGH + 8)
        self.setAccessibleDescription("; ".join(f"{b.name}, {b.words}" for b in boards))
        self.update()

    def sizeHint(self) -> QSize:
        """Room for all."""
        return QSize(3 * WIDE, self._rows() * HIGH + 8)

    def rows(self) -> list[tuple[str, ...]]:
        """All lines, a row a point [m]."""
        points = [(b.name, f"{x:.5f}", f"{y:.5f}") for b in self.boards for x, y in zip(b.x, b.y, strict=True)]
        return [("board", "from the tail, m", "m"), *points]

    def _columns(self) -> int:
        return max(1, self.width() // WIDE)

    def _rows(self) -> int:
        return -(-len(self.boards) // self._columns())

    def resizeEvent(self, event: object) -> None:
        """More or fewer stand in a row."""
        self.setMinimumHeight(self._rows() * HIGH + 8)

    def _box(self, i: int) -> QRectF:
        columns = self._columns()
        wide = self.width() / columns
        return QRectF((i % columns) * wide + 4, (i // columns) * HIGH + 4, wide - 8, HIGH - 8)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint every board to one scale."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        drawn = [b for b in self.boards if len(b.x)]
        if not drawn:
            return
        long = max(float(b.x.max()) for b in drawn)
        low, high = min(float(b.y.min()) for b in drawn), max(float(b.y.max()) for b in drawn)
        mine = next((b for b in drawn if b.key == self.here), None)
        metrics = QFontMetricsF(font(12))
        for i, board in enumerate(self.boards):
            box = self._box(i)
            painter.setPen(pen("live" if board.key == self.key else "line", 1.6 if board.key == self.key else 1.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(box, 4, 4)
            room = box.adjusted(10, 6, -10, -40)
            across = room.width() / long
            up = across if board.closed else room.height() / max(high - low, 1e-6)
            if board.closed:
                up = across = min(across, room.height() / max(high - low, 1e-6))
            foot = room.center().y() if board.closed else room.bottom() + low * up
            for one, how in ((mine, behind_pen("pinned")), (board, pen("live", 1.8))):
                if one is not None and len(one.x) and (one is board or one.key != board.key):
                    painter.setPen(how)
                    line = polygon(room.left() + one.x * across, foot - one.y * up)
                    painter.drawPolygon(line) if board.closed else painter.drawPolyline(line)
            for words, y, size, role in ((board.name, 30, font(12, 600), "ink"), (board.words, 14, font(12), "quiet")):
                painter.setFont(size)
                painter.setPen(colour(role))
                shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, box.width() - 20)
                painter.drawText(QPointF(box.left() + 10, box.bottom() - y + 6), shown)

    def _choose(self, i: int) -> None:
        if 0 <= i < len(self.boards):
            self.key = self.boards[i].key
            self.update()
            self.chosen.emit(self.key)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the board under the pointer."""
        for i in range(len(self.boards)):
            if self._box(i).contains(event.position()):
                self._choose(i)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows walk."""
        steps = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -self._columns(),
            Qt.Key.Key_Down: self._columns(),
        }
        by = steps.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
            return
        now = next((i for i, b in enumerate(self.boards) if b.key == self.key), 0)
        self._choose(now + by)


def outline_of(half: tuple[float, ...], length: float) -> tuple[Array, Array]:
    """A card's outline as a closed line [m], empty without one."""
    from kelvor.core.rack.cards import card_outline

    if not half or not length:
        return np.zeros(0), np.zeros(0)
    points = card_outline(half, length)
    return points[:, 0], points[:, 1]
