"""Boards over one another, to scale: plan, side and the section under the cursor."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPaintEngine, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from kelvor.core.base.units import Quantity, System, text
from kelvor.core.base.values import frozen
from kelvor.core.compare.curves import Datum, datum_slide, matching, plan_apart, section_at
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.surface.section_view import outline_ring
from kelvor.ui.compare.shown.compare import STATION, station_cells, unshared_plan_words
from kelvor.ui.controls.copy_out import TakenOut
from kelvor.ui.paint.strokes import KeptLayer, behind_pen, label, pen, polygon
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour, font

MARGIN, RULER = 14.0, 18.0
BENCH = "on the bench"
HEIGHTS = 3.0
"""Heights of the side view are drawn this many times."""


@frozen(eq=False)
class OverlaidBoard:
    """A board over the reference: its name, the role of its colour, and how far its tail lies ahead [m]."""

    live: Live
    name: str
    role: str
    slide: float


class OverlayView(QWidget):
    """All boards at once. The pointer, or left and right, move the station; its sections and readings follow."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Boards over one another")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.own: Live | None = None
        self.name = BENCH
        self.others: tuple[OverlaidBoard, ...] = ()
        self.by_share = False
        self.system = System.METRIC
        self.station = 0.0
        self._sheet = KeptLayer()
        self.taken_out = TakenOut(self, lambda: "Boards over one another", self.rows)

    def sizeHint(self) -> QSize:
        """Room for plan, side and section."""
        return QSize(620, 520)

    def minimumSizeHint(self) -> QSize:
        """The least that still reads."""
        return QSize(320, 300)

    def show_boards(
        self, own: Live, others: tuple[OverlaidBoard, ...], system: System, *, by_share: bool, name: str = BENCH
    ) -> None:
        """Show these boards over one another."""
        if self.own is None or self.station > own.board.length:
            self.station = own.board.length / 2
        self.own, self.others, self.system, self.by_share = own, others, system, by_share
        self.name = name
        self.setAccessibleDescription(self.words())
        self.update()

    def words(self) -> str:
        """What all boards read at the station."""
        if self.own is None:
            return ""
        where = text(self.station, Quantity.LENGTH, self.system)
        rows = [", ".join(f"{c} {w}" for c, w in zip(cells, STATION, strict=False)) for _, cells in self._readings()]
        names = [self.name, *(other.name for other in self.others)]
        return "\n".join([f"{where} from the tail", *(f"{n}: {r}" for n, r in zip(names, rows, strict=True))])

    def rows(self) -> list[tuple[str, ...]]:
        """What all boards read at the station, a row a board."""
        return [tuple(line.split(": ", 1)) for line in self.words().splitlines()]

    def _readings(self) -> list[tuple[str, tuple[str, ...]]]:
        own = self.own
        assert own is not None
        rows = [("live", station_cells(own, None, self.station, self.station, self.system))]
        for other in self.others:
            at = matching(own, other.live, self.station, other.slide, by_share=self.by_share)
            rows.append((other.role, station_cells(other.live, own, at, self.station, self.system)))
        return rows

    # where things are

    def _ends(self) -> tuple[float, float]:
        assert self.own is not None
        spans = [(0.0, self.own.board.length)] + [(o.slide, o.slide + o.live.board.length) for o in self.others]
        return min(s[0] for s in spans), max(s[1] for s in spans)

    def _scale(self) -> float:
        low, high = self._ends()
        boards = [self.own, *(o.live for o in self.others)]
        half = max(float(b.geometry.shape.half_width.max()) for b in boards if b is not None)
        return min((self.width() - 2 * MARGIN) / (high - low), 0.38 * self.height() / (2 * half))

    def _px(self, x: float | np.ndarray) -> np.ndarray:
        found: np.ndarray = MARGIN + (np.asarray(x) - self._ends()[0]) * self._scale()
        return found

    # painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint all boards and the reading; what does not move with the station is kept on a sheet."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        if self.own is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        boards = [OverlaidBoard(self.own, self.name, "live", 0.0), *self.others]
        side = self._heights(boards)[1]
        if painter.paintEngine().type() is QPaintEngine.Type.Raster:
            key = (*(id(b.live) for b in boards), *(b.slide for b in boards), self.system)
            self._sheet.lay(painter, self.size(), key, lambda on: self._paint_still(on, boards))
        else:
            self._paint_still(painter, boards)
        at = float(self._px(self.station))
        painter.setPen(pen("cursor", 1))
        painter.drawLine(QPointF(at, MARGIN + 10), QPointF(at, side + 6))
        self._section(painter, QRectF(MARGIN, side + 24, self.width() - 2 * MARGIN, self.height() - side - 34), boards)

    def _heights(self, boards: list[OverlaidBoard]) -> tuple[float, float]:
        """Where the plan's centreline and the side's base line lie [px]."""
        scale = self._scale()
        half = max(float(b.live.geometry.shape.half_width.max()) for b in boards) * scale
        plan = MARGIN + 16 + half
        highest = max(float(b.live.geometry.deck_line.max()) for b in boards)
        return plan, plan + half + RULER + 22 + highest * scale * HEIGHTS

    def _paint_still(self, painter: QPainter, boards: list[OverlaidBoard]) -> None:
        own, scale = boards[0].live, self._scale()
        plan, side = self._heights(boards)
        half = plan - MARGIN - 16
        apart = [
            f"{o.name}: {unshared_plan_words(*plan_apart(own, o.live, o.slide), self.system)}" for o in self.others[:2]
        ]
        above = ". ".join(["From above, to scale", *apart])
        room = self.width() - 2 * MARGIN
        above = QFontMetricsF(font(11)).elidedText(above, Qt.TextElideMode.ElideRight, room)
        label(painter, MARGIN, MARGIN + 4, above, "quiet", font(11))
        below = plan + half + RULER + 14
        label(painter, MARGIN, below, f"From the side, heights {HEIGHTS:.0f} times", "quiet", font(11))
        self._ruler(painter, plan + half + 4)
        for board in reversed(boards):
            painter.setPen(self._pen(board.role))
            ring, shape = outline_ring(board.live.geometry.shape), board.live.geometry.shape
            painter.drawPolygon(polygon(self._px(ring[:, 0] + board.slide), plan - ring[:, 1] * scale))
            x = self._px(shape.x + board.slide)
            for up in (board.live.geometry.keel_line, board.live.geometry.deck_line):
                painter.drawPolyline(polygon(x, side - up * scale * HEIGHTS))

    def _pen(self, role: str) -> QPen:
        return pen("live", 2) if role == "live" else behind_pen(role)

    def _ruler(self, painter: QPainter, y: float) -> None:
        assert self.own is not None
        painter.setPen(pen("line", 1))
        length = self.own.board.length
        painter.drawLine(QPointF(float(self._px(0.0)), y), QPointF(float(self._px(length)), y))
        step = 0.1 if length < 2.2 else 0.25
        for i in range(int(length / step) + 1):
            x = float(self._px(i * step))
            painter.setPen(pen("line", 1))
            painter.drawLine(QPointF(x, y), QPointF(x, y + (5 if i % 2 == 0 else 3)))
            if i % 2 == 0:
                label(painter, x, y + 15, f"{i * step * 100:.0f}", "quiet", font(10), centre=True)

    def _section(self, painter: QPainter, box: QRectF, boards: list[OverlaidBoard]) -> None:
        """Sections over one another with their keels together, and what is read there."""
        own = boards[0].live
        label(painter, box.left(), box.top(), "Sections at the cursor, keels together", "quiet", font(11))
        shown = [
            section_at(b.live, matching(own, b.live, self.station, b.slide, by_share=self.by_share)) for b in boards
        ]
        shown = [s for s in shown if len(s)]
        if shown:
            wide, high = max(float(s[:, 0].max()) for s in shown), max(float(np.ptp(s[:, 1])) for s in shown)
            low = min(float(s[:, 1].min()) for s in shown)
            scale = min(box.width() * 0.36 / (2 * wide), (box.height() - 26) / max(high, 1e-3))
            middle, foot = box.left() + box.width() * 0.18, box.bottom() - 4 + low * scale
            for board in reversed(boards):
                half = section_at(
                    board.live, matching(own, board.live, self.station, board.slide, by_share=self.by_share)
                )
                if len(half):
                    painter.setPen(self._pen(board.role))
                    for sign in (1, -1):
                        painter.drawPolyline(polygon(middle + sign * half[:, 0] * scale, foot - half[:, 1] * scale))
        self._table(painter, box.adjusted(box.width() * 0.40, 0, 0, 0), boards)

    def _table(self, painter: QPainter, box: QRectF, boards: list[OverlaidBoard]) -> None:
        """What each board reads, a row a board."""
        columns = [box.left() + share * box.width() for share in (0.34, 0.58, 0.78)]
        where = text(self.station, Quantity.LENGTH, self.system)
        label(painter, box.left(), box.top(), f"{where} from the tail", "quiet", font(11))
        for x, words in zip(columns, STATION, strict=True):
            label(painter, x, box.top(), words, "quiet", font(11))
        y = box.top() + 19
        metrics = QFontMetricsF(font(12))
        for board, (_, cells) in zip(boards, self._readings(), strict=True):
            painter.setPen(self._pen(board.role))
            painter.drawLine(QPointF(box.left(), y - 4), QPointF(box.left() + 18, y - 4))
            name = metrics.elidedText(board.name, Qt.TextElideMode.ElideRight, columns[0] - box.left() - 32)
            for x, words in zip([box.left() + 24, *columns], (name, *cells), strict=False):
                label(painter, x, y, words, "ink", font(12))
            y += 18

    # the station

    def _move_to(self, x: float) -> None:
        if self.own is not None:
            self.station = min(max(x, 0.0), self.own.board.length)
            self.setAccessibleDescription(self.words())
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """The station follows the pointer."""
        if self.own is not None:
            self._move_to((event.position().x() - MARGIN) / self._scale() + self._ends()[0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right move the station by a centimetre, with Shift by a millimetre."""
        step = {Qt.Key.Key_Left: -0.01, Qt.Key.Key_Right: 0.01}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        self._move_to(self.station + step * (0.1 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0))


class OverPage(QWidget):
    """Boards over one another, and by what their sections match."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.view, self.matching = session, OverlayView(), QComboBox()
        self.view.taken_out.told = session.message.emit
        self._datum: Datum = "tail"
        self.matching.setAccessibleName("Sections match")
        self.matching.addItem("as far from where they are laid together", False)
        self.matching.addItem("at the same share of the length", True)
        self.matching.currentIndexChanged.connect(lambda _: self.refresh(self._datum))
        column, self.bar = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 4, 0, 0)
        self.bar.addWidget(QLabel("Sections"))
        self.bar.addWidget(self.matching)
        self.bar.addStretch(1)
        column.addLayout(self.bar)
        column.addWidget(self.view, 1)

    def refresh(self, datum: Datum) -> None:
        """Lay all boards together at a datum; those without it are left out."""
        self._datum = datum
        own, laid = self.session.live, []
        for other in self.session.overlays.others():
            slid = datum_slide(own, other.live, datum)
            if slid is not None:
                laid.append(OverlaidBoard(other.live, other.name, other.role, slid))
        self.view.show_boards(own, tuple(laid), self.session.system, by_share=bool(self.matching.currentData()))
