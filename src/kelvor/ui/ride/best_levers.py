"""What buys the most: levers with the bar of what a fair step of each does."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from kelvor.ui.ride.shown.ride import Buy
from kelvor.ui.theme.style import colour, font

ROW = 23


class BuysList(QWidget):
    """Bars to the right better the figure, hatched ones to the left worsen it; grey ones only change it."""

    asked = Signal(str)
    """A lever was chosen, by its key."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("What buys the most here")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.buys: list[Buy] = []
        self.empty = ""
        self._at = 0
        self._font = font(12)

    def sizeHint(self) -> QSize:
        """Seven rows."""
        return QSize(220, 7 * ROW)

    def show_buys(self, buys: list[Buy], empty: str) -> None:
        """Show other rows, or why there are none."""
        self.buys, self.empty = buys, empty
        self._at = min(self._at, max(len(buys) - 1, 0))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the rows."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        painter.setFont(self._font)
        if not self.buys:
            painter.setPen(colour("quiet"))
            painter.drawText(
                QRectF(12, 2, self.width() - 24, self.height() - 4),
                Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap,
                self.empty,
            )
            return
        metrics = QFontMetricsF(self._font)
        half = 30.0
        change = 66.0
        zero = self.width() - 12 - change - half
        for i, buy in enumerate(self.buys):
            y = i * ROW
            if i == self._at and self.hasFocus():
                painter.fillRect(QRectF(2, y, self.width() - 4, ROW), colour("live_wash"))
            painter.setPen(colour("ink"))
            room = zero - half - 16
            painter.drawText(
                QRectF(12, y, room, ROW),
                Qt.AlignmentFlag.AlignVCenter,
                metrics.elidedText(buy.step, Qt.TextElideMode.ElideMiddle, room),
            )
            wide = max(abs(buy.bar) * half, 2.0)
            if not buy.judged:
                painter.fillRect(QRectF(zero if buy.bar >= 0 else zero - wide, y + 7, wide, 9), colour("quiet"))
            elif buy.bar >= 0:
                painter.fillRect(QRectF(zero, y + 7, wide, 9), colour("live"))
            else:
                for x in range(round(zero - wide), round(zero), 3):
                    painter.fillRect(QRectF(x, y + 7, 2, 9), colour("short"))
            painter.setPen(colour("line"))
            painter.drawLine(round(zero), y + 3, round(zero), y + ROW - 3)
            painter.setPen(colour("ink"))
            painter.drawText(
                QRectF(self.width() - 12 - change, y, change, ROW),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                buy.change,
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Go to the lever."""
        i = int(event.position().y() // ROW)
        if i < len(self.buys):
            self._at = i
            self.asked.emit(self.buys[i].lever)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down choose, Enter goes to the lever."""
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down) and self.buys:
            self._at = min(max(self._at + (1 if event.key() == Qt.Key.Key_Down else -1), 0), len(self.buys) - 1)
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.buys:
            self.asked.emit(self.buys[self._at].lever)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        """Tips by row."""
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            i = int(event.pos().y() // ROW)
            QToolTip.showText(event.globalPos(), self.buys[i].tip if 0 <= i < len(self.buys) else self.empty, self)
            return True
        return super().event(event)
