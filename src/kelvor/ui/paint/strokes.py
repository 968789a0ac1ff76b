"""Strokes, labels and marks that every drawing is painted with."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QGuiApplication, QPainter, QPen, QPixmap, QPolygonF
from shiboken6 import VoidPtr

from kelvor.core.base.arrays import Array
from kelvor.ui.theme.roles import Roles
from kelvor.ui.theme.style import colour, font, roles


def polygon(px: Array, py: Array) -> QPolygonF:
    """A line on the screen, filled through its own memory."""
    found = QPolygonF()
    found.resize(len(px))
    buffer: Any = VoidPtr(found.data(), len(px) * 16, True)  # type: ignore[call-arg,arg-type]
    memory = np.frombuffer(buffer, np.float64).reshape(len(px), 2)
    memory[:, 0], memory[:, 1] = px, py
    return found


def _ratio() -> float:
    app = QGuiApplication.instance()
    return app.devicePixelRatio() if isinstance(app, QGuiApplication) else 1.0


def pen(role: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine, alpha: int = 255) -> QPen:
    """A pen in the colour of a role, `width` wide in logical pixels; cosmetic, because that is painted several times
    faster.
    """
    return _pen(roles(), role, width * _ratio(), style, alpha)


@cache
def _pen(_of: Roles, role: str, width: float, style: Qt.PenStyle, alpha: int) -> QPen:
    found = QPen(colour(role, alpha), width, style)
    found.setCosmetic(True)
    return found


def stroke(
    painter: QPainter,
    px: Array,
    py: Array,
    role: str,
    width: float = 1.0,
    *,
    alpha: int = 255,
    style: Qt.PenStyle = Qt.PenStyle.SolidLine,
    closed: bool = False,
) -> None:
    """Draw a line through points on the screen, `width` wide in logical pixels.

    Qt paints a pen of just one device pixel some ten times faster than any wider one, so a wide line is painted as
    several of them side by side, with one more than would do: half-covered pixels between two would shine through.
    """
    ratio = _ratio()
    wide = max(1, round(width * ratio))
    painter.setPen(_pen(roles(), role, 1.0, style, alpha))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    draw = painter.drawPolygon if closed else painter.drawPolyline
    if wide == 1:
        draw(polygon(px, py))
        return
    dx, dy = np.gradient(px), np.gradient(py)
    run = np.maximum(np.hypot(dx, dy), 1e-9) * ratio
    across, up = -dy / run, dx / run
    for off in np.linspace(-(wide - 1) / 2, (wide - 1) / 2, wide + 1):
        draw(polygon(px + off * across, py + off * up))


DASHES = {"pinned": (5, 3), "beside": (2, 2), "beside_b": (7, 2), "beside_c": (1, 3)}
"""Dashes and gaps of boards behind the one on the bench, in widths of the line."""


def behind_pen(role: str) -> QPen:
    """The dashes of a board behind the one on the bench, told apart by more than their colour."""
    return dashed(role, 1.4, *DASHES.get(role, (2, 2)))


def dashed(role: str, width: float, on: float, off: float) -> QPen:
    """A dashed pen."""
    found = QPen(colour(role), width)
    found.setDashPattern([on, off])
    return found


_metrics: dict[tuple[int, int], tuple[QFont, QFontMetricsF, dict[str, float]]] = {}


def advance(words: str, size: QFont) -> float:
    """Width of words [px]."""
    key = (size.pixelSize(), size.weight())
    if key not in _metrics or _metrics[key][0] != size:
        _metrics[key] = (QFont(size), QFontMetricsF(size), {})
    _, metrics, known = _metrics[key]
    if words not in known:
        if len(known) > 4000:  # readings come and go
            known.clear()
        known[words] = metrics.horizontalAdvance(words)
    return known[words]


def label(painter: QPainter, x: float, y: float, words: str, role: str, size: QFont, centre: bool = False) -> None:
    """Words with their baseline box starting (or centred) at x."""
    painter.setFont(size)
    painter.setPen(colour(role))
    painter.drawText(QPointF(x - advance(words, size) / 2 if centre else x, y), words)


def boxed(painter: QPainter, rect: QRectF, words: str, size: QFont, ink: QColor, ground: str, edge: str = "") -> None:
    """Words in the middle of a small rounded box."""
    painter.setPen(pen(edge, 1) if edge else Qt.PenStyle.NoPen)
    painter.setBrush(colour(ground))
    painter.drawRoundedRect(rect, 3, 3)
    painter.setPen(ink)
    painter.setFont(size)
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)


def choice(painter: QPainter, x: float, y: float, words: str, chosen: bool, lead: float = 0.0) -> QRectF:
    """One of several words to click, framed where it is chosen; `lead` leaves room before the words. Returns where it
    is hit.
    """
    size = font(12, 700 if chosen else 400)
    label(painter, x + lead, y, words, "live" if chosen else "quiet", size)
    rect = QRectF(x - 4, y - 13, advance(words, font(12, 700)) + lead + 8, 18)
    if chosen:
        painter.setPen(pen("live", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(rect, 3, 3)
    return rect


class KeptLayer:
    """A part of the picture that is kept, and painted again only when what it was painted for is other."""

    def __init__(self, ground: str = "") -> None:
        """`ground` is the role it is filled with; without one it is transparent."""
        self._ground = ground
        self._for: tuple[object, ...] | None = None
        self._kept = QPixmap()

    def lay(self, painter: QPainter, size: QSize, key: tuple[object, ...], paint: Callable[[QPainter], None]) -> None:
        """Lay it down, painted by `paint` where `key` is not that of the last time."""
        ratio = _ratio()
        whole = (*key, size, ratio, roles())
        if whole != self._for:
            self._kept = QPixmap(size * ratio)
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(colour(self._ground) if self._ground else Qt.GlobalColor.transparent)
            on = QPainter(self._kept)
            on.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint(on)
            on.end()
            self._for = whole
        painter.drawPixmap(0, 0, self._kept)


def triangle(painter: QPainter, x: float, y: float, *, down: bool, fill: QColor, chosen: bool, held: bool) -> None:
    """A lead weight: a triangle that rests on its line; a ring when chosen, hollow when locked."""
    side = 6.5 if not chosen else 8.0
    sign = -1 if down else 1
    shape = QPolygonF(
        [QPointF(x, y), QPointF(x - side, y + sign * side * 1.5), QPointF(x + side, y + sign * side * 1.5)]
    )
    painter.setPen(QPen(fill, 1.5))
    painter.setBrush(Qt.BrushStyle.NoBrush if held else fill)
    painter.drawPolygon(shape)
    if chosen:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("cursor"), 2))
        painter.drawEllipse(QPointF(x, y + sign * side * 0.8), 12, 12)
