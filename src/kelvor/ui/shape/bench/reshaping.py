"""Reshape mode on the bench: the old foam behind the board, and where the board would stick out of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QBrush, QFontMetricsF, QPainter, QPainterPath

from kelvor.core.base.arrays import Array
from kelvor.core.base.units import Quantity, System, number_text, text
from kelvor.core.evaluation.live import Live
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.templates.reshape import TOLERANCE, Excess, excess
from kelvor.ui.paint.strokes import label, pen, polygon
from kelvor.ui.shape.bench.layout import BenchLayout
from kelvor.ui.theme.style import colour, font

if TYPE_CHECKING:
    from kelvor.ui.shape.bench.picture import BenchPicture


def excess_words(found: Excess, name: str, system: System) -> str:
    """Whether the board fits into the old foam, and if not, where it sticks out most."""
    where, amount, place = found.worst()
    slide = number_text(found.slide, Quantity.LENGTH, system)
    laid = (
        f"tail {slide} ahead of the old tail" if found.slide >= 0 else f"tail {slide.lstrip('−')} behind the old tail"
    )
    if not where:
        return f"Fits into {name}: {laid}"
    out = {"above": "above the old deck", "below": "below the old bottom", "beside": "beside the old outline"}[where]
    return (
        f"Sticks out of {name} by {text(amount, Quantity.DEPTH, system)} {out} at "
        f"{text(place, Quantity.LENGTH, system)}; "
        f"{text(found.volume, Quantity.VOLUME, system, extra=2)} are not there ({laid})"
    )


class Reshaping:
    """The old foam, how the board lies in it, and its painting; off while there is no old foam."""

    def __init__(self, bench: BenchPicture) -> None:
        self.bench = bench
        self.old: Sections | None = None
        self.name = ""
        self.slide: float | None = None
        self.words = ""
        self._for: Live | None = None
        self._found: Excess | None = None
        self._settled_slide = 0.0

    def set_old(self, old: Sections | None, name: str, slide: float | None) -> None:
        """Lay an old board behind the new one, `slide` [m] ahead of its tail, or where least sticks out; None takes it
        away.
        """
        self.old, self.name, self.slide = old, name, slide
        self._for = None
        self.bench.update()

    def found(self, *, resting: bool = True) -> Excess | None:
        """How the board on the bench lies in the old foam; the best slide is sought only while the hand rests."""
        live = self.bench.session.live
        if self.old is None:
            return None
        if self._for is not live or self._found is None:
            slide = self.slide if self.slide is not None or resting else self._settled_slide
            self._found, self._for = excess(live.geometry.shape, self.old, slide), live
            self._settled_slide = self._found.slide
        return self._found

    def paint(self, painter: QPainter, layout: BenchLayout) -> None:
        """Old lines in grey, and hatched what sticks out."""
        found, old, live = self.found(resting=not self.bench.in_hand()), self.old, self.bench.session.live
        if found is None or old is None:
            return
        measured, shape = live.geometry, live.geometry.shape
        plan, profile = layout.plan, layout.profile
        px = layout.px(0) + (old.x - found.slide) * layout.scale
        painter.setPen(pen("quiet", 1.4, Qt.PenStyle.DashDotLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for side in (1, -1):
            painter.drawPolyline(polygon(px, plan.zero - side * old.half_width * plan.scale))
        painter.save()
        painter.setClipRect(QRectF(0, profile.top, layout.width, profile.bottom - profile.top))
        places = old.x - found.slide
        for line in (old.keel, old.deck):
            heights = measured.above_base(places, line + found.lift)
            painter.drawPolyline(polygon(px, profile.zero - heights * profile.scale))
        deck, keel = (np.interp(found.x, shape.x, line) for line in (measured.deck_line, measured.keel_line))
        x = layout.px(0) + found.x * layout.scale
        self._hatch(painter, x, profile.zero - deck * profile.scale, found.above * profile.scale, found.above)
        self._hatch(painter, x, profile.zero - keel * profile.scale, -found.below * profile.scale, found.below)
        painter.restore()
        half = np.interp(found.x, shape.x, shape.half_width)
        for side in (1, -1):
            self._hatch(
                painter, x, plan.zero - side * half * plan.scale, side * found.beside * plan.scale, found.beside
            )
        self.words = excess_words(found, self.name, self.bench.session.system)
        sticks = bool(found.worst()[0])
        size = font(12, 700)
        width = min(QFontMetricsF(size).horizontalAdvance(self.words) + 14, layout.width - 20)
        rect = QRectF(10, plan.bottom - 24, width, 20)
        painter.setPen(pen("short" if sticks else "line", 1))
        painter.setBrush(colour("paper"))
        painter.drawRoundedRect(rect, 3, 3)
        label(
            painter,
            17,
            plan.bottom - 10,
            QFontMetricsF(size).elidedText(self.words, Qt.TextElideMode.ElideRight, width - 12),
            "short" if sticks else "live",
            size,
        )

    def _hatch(self, painter: QPainter, x: Array, y: Array, into: Array, amount: Array) -> None:
        """A hatched band between a line of the board and what of it is in the foam."""
        out = amount > TOLERANCE
        for run in np.split(np.arange(len(x)), np.flatnonzero(np.diff(out.astype(int))) + 1):
            if len(run) > 1 and out[run[0]]:
                band = QPainterPath()
                band.addPolygon(
                    polygon(np.concatenate([x[run], x[run][::-1]]), np.concatenate([y[run], (y + into)[run][::-1]]))
                )
                painter.fillPath(band, QBrush(colour("short"), Qt.BrushStyle.BDiagPattern))
                painter.setPen(pen("short", 1.2))
                painter.drawPath(band)
