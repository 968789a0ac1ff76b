"""What stands around the drawing on the bench: ruler, strip, cursor, words and dimension tags."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from kelvor.core.base.findings import Severity
from kelvor.core.base.units import FOOT, Quantity, number_text, said_in, text, unit_of
from kelvor.core.base.values import frozen
from kelvor.core.shape.edits.weights import Hold, place_and_value
from kelvor.ui.paint.strokes import advance, boxed, choice, label, pen
from kelvor.ui.shape.bench.layout import LEFT, RULER, SCALES, BenchLayout
from kelvor.ui.shape.bench.painting import StripPainter
from kelvor.ui.shape.bench.scene import VOLUME_STRIP, BenchScene, is_schedule
from kelvor.ui.shape.shown.grips import CURVATURE
from kelvor.ui.shape.shown.handles import line_quantity
from kelvor.ui.theme.style import colour, font

if TYPE_CHECKING:
    from kelvor.ui.shape.bench.picture import BenchPicture

NARROW = 90.0
"""Below this width or thickness on the screen tags stand beside what they measure [px]."""
RIGHT_WORDS = 176.0
"""Room for the strip's reading at its right [px]."""


@frozen
class Tag:
    """A dimension on the drawing that takes typed values: the lever it types, and where it stands."""

    lever: str
    rect: QRectF
    words: str


class Annotations:
    """Paints what stands around the board, and remembers where tags and scales can be clicked."""

    def __init__(self, bench: BenchPicture) -> None:
        self.bench = bench
        self.found: list[Tag] = []
        self.scale_rects: list[tuple[QRectF, float]] = []
        self.remarks: list[tuple[QRectF, str, float]] = []
        self.read = ""

    def ruler(self, painter: QPainter, layout: BenchLayout) -> None:
        """The ruler over all bands, from the datum on show."""
        system, length = self.bench.session.system, self.bench.session.live.board.length
        unit = unit_of(Quantity.LENGTH, system)
        step = 0.1 if unit.sign == "cm" else 6 * 0.0254
        while step * layout.scale < 38:
            step *= 2
        zero = self.bench.zero()
        words = {"tail": "from tail", "nose": "from nose", "middle": "from the middle", "mast": "from the foil mast"}
        small = font(11)
        label(painter, 10, 13, f"{unit.sign} {words[self.bench.session.live.board.zero]}", "quiet", small)
        first = math.ceil(-zero / step)
        k = first
        while zero + k * step <= length + 1e-9:
            px = layout.px(zero + k * step)
            painter.setPen(pen("grid", 1))
            painter.drawLine(QPointF(px, RULER - 8), QPointF(px, layout.height - 20))
            shown = k * step * (-1 if self.bench.session.live.board.zero == "nose" else 1)
            label(
                painter,
                px,
                RULER - 13,
                number_text(shown, Quantity.LENGTH, system, extra=-1 if unit.sign == "cm" else 0),
                "quiet",
                small,
                True,
            )
            k += 1

    def strip_ground(self, painter: QPainter, layout: BenchLayout) -> None:
        """The edge of the strip."""
        painter.setPen(pen("line", 1))
        painter.drawLine(QPointF(0, layout.strip.top), QPointF(layout.width, layout.strip.top))

    def strip(self, painter: QPainter, scene: BenchScene) -> None:
        """The strip: what it shows, the pinned step behind, and its value at the cursor."""
        layout, session, strip = scene.layout, self.bench.session, StripPainter(scene.layout)
        band = scene.strip_band
        painter.setPen(pen("line", 1))
        painter.drawLine(QPointF(LEFT, band.zero), QPointF(layout.px(scene.live.board.length), band.zero))
        strip.curve(painter, band, *scene.strip_values)
        for other, x, values in scene.strip_others:
            strip.other(painter, band, other, x, values)
        at = float(np.interp(self.bench.station, *scene.strip_values))
        if scene.strip == VOLUME_STRIP:
            words = (
                f"{text(at * 0.01, Quantity.VOLUME, session.system, extra=2)} a centimetre at "
                f"{self.bench.station_text()}"
            )
        elif not is_schedule(scene.strip):
            self.bench.overlays.strip(painter, scene)
            quantity = Quantity.CURVATURE if scene.strip.startswith(CURVATURE) else Quantity.DEPTH
            words = f"{text(at, quantity, session.system)} at {self.bench.station_text()}"
        else:
            words = (
                f"{text(at, line_quantity(session.live.board, scene.strip), session.system)} at "
                f"{self.bench.station_text()}"
            )
        below = 18 if scene.strip.startswith(CURVATURE) else 0  # the budget stands in the first row
        label(painter, layout.width - RIGHT_WORDS, layout.strip.top + 19 + below, words, "quiet", font(12))

    def cursor(self, painter: QPainter, layout: BenchLayout) -> None:
        """The station cursor and its knob."""
        px = layout.px(self.bench.station)
        painter.setPen(pen("cursor", 1.6))
        painter.drawLine(QPointF(px, RULER - 6), QPointF(px, layout.height - 20))
        words, bold = self.bench.station_text(), font(12, 700)
        width = advance(words, bold) + 18
        ink = colour("bar") if colour("cursor").lightness() > 120 else colour("on_bar")
        boxed(painter, QRectF(px - width / 2, layout.height - 20, width, 18), words, bold, ink, "cursor")

    def names(self, painter: QPainter, layout: BenchLayout) -> None:
        """The bands' names and the profile's scales."""
        bold = font(12, 700)
        label(painter, 10, layout.plan.top + 16, "Plan", "quiet", bold)
        y = layout.profile.top + 16
        label(painter, 10, y, "Profile", "quiet", bold)
        x, self.scale_rects = 62.0, []
        for stretch in SCALES:
            rect = choice(painter, x, y, f"×{stretch:g}", stretch == self.bench.stretch)
            self.scale_rects.append((rect, stretch))
            x += rect.width() + 6

    def water(self, painter: QPainter, layout: BenchLayout) -> None:
        """The state of the water; while a new board is not floated yet, that it will be."""
        session, y = self.bench.session, layout.profile.top + 16
        afloat = session.results.afloat()
        if afloat is None:
            return
        depth = afloat.level.deck_depth
        side = "under" if depth > 0 else "above"
        mass = text(session.brief.rider.mass, Quantity.MASS, session.system, extra=-2)
        deck = (
            "renewing"
            if session.results.settling()
            else f"deck {text(abs(depth), Quantity.LENGTH, session.system)} {side}"
        )
        words = f"still water, {mass} {afloat.posture}: {deck}"
        width = advance(words, font(12))
        painter.fillRect(QRectF(layout.width - width - 18, y - 14, width + 12, 19), colour("water", 200))
        label(painter, layout.width - width - 12, y, words, "live", font(12))

    def findings(self, painter: QPainter, layout: BenchLayout) -> None:
        """A mark on the profile where something is worth a look: loud for a warning, quiet for a note."""
        live = self.bench.session.live
        self.remarks = []
        for finding in (*self.bench.session.results.evaluation.findings, *self.bench.notes):
            if finding.place is None:
                continue
            warns = finding.severity is Severity.WARNING
            x = min(max(finding.place, 0.0), live.board.length)
            y = layout.profile.y(live.geometry.at(live.geometry.deck_line, x)) - 22
            rect = QRectF(layout.px(x) - 8, max(y, layout.profile.top + 24), 16, 16)
            painter.setPen(pen("short" if warns else "line", 1.5 if warns else 1.0))
            painter.setBrush(colour("paper"))
            if warns:
                painter.drawRoundedRect(rect, 3, 3)
            else:
                painter.drawEllipse(rect.adjusted(2, 2, -2, -2))
            painter.setPen(colour("short" if warns else "quiet"))
            painter.setFont(font(12 if warns else 9, 700))
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, "!" if warns else "i")
            self.remarks.append((rect, said_in(f"{finding.text}. {finding.advice}", self.bench.session.system), x))

    def reading(self, painter: QPainter, scene: BenchScene, held: Hold) -> None:
        """What the chosen weight holds, and where it lies, beside it."""
        bench, live, system = self.bench, scene.live, scene.system
        point, (x, value) = scene.point(held), place_and_value(live.board, held)
        quantity = line_quantity(live.board, held.line)
        if held.line == "rocker":
            value = float(live.geometry.above_base(x, value))
        shown = text(2 * value if held.line == "outline" else value, quantity, system)
        words, bold = f"{shown} at {number_text(x - bench.zero(), Quantity.LENGTH, system)}", font(12, 700)
        width = advance(words, bold) + 12
        left = point.x() + 14 if point.x() + 14 + width < bench.width() else point.x() - 14 - width
        rect = QRectF(left, point.y() - (4 if held.line == "rocker" else 22), width, 18)
        boxed(painter, rect, words, bold, colour("on_bar"), "bar")
        self.read = words

    def tags(self, painter: QPainter, scene: BenchScene) -> None:
        """Dimension tags: painted last, each on its own ground, moved apart where they would meet."""
        layout, live, board, system = scene.layout, scene.live, scene.live.board, scene.system
        plan, profile = layout.plan, layout.profile
        measured, shape = live.geometry, live.geometry.shape
        self.found = []
        wide, _ = live.wide_point
        for key, x in (("width_1ft_tail", FOOT), ("width", wide), ("width_1ft_nose", board.length - FOOT)):
            half = float(np.interp(x, shape.x, shape.half_width))
            px = layout.px(x)
            painter.setPen(pen("ink", 1, alpha=150))
            painter.drawLine(QPointF(px, plan.y(half)), QPointF(px, plan.y(-half)))
            below = -half * 0.74 if half * plan.scale > NARROW else -half - 3 / plan.scale
            self._tag(painter, key, px, plan.y(below), number_text(2 * half, Quantity.LENGTH, system))
        thick_at = float(shape.x[int(np.argmax(shape.deck - shape.keel))])
        middle = (measured.at(measured.keel_line, thick_at) + measured.at(measured.deck_line, thick_at)) / 2
        thick = float(np.max(shape.deck - shape.keel))
        at = layout.px(thick_at)
        if thick * profile.scale < NARROW:
            at = _clear(scene, at, (0.0, 36.0, -36.0, 60.0), 20.0, "thickness")
        self._tag(painter, "thickness", at, profile.y(middle) - 8, number_text(thick, Quantity.LENGTH, system))
        flat = live.keel_flat
        y = profile.zero + 9
        painter.setPen(pen("ink", 1))
        painter.drawLine(QPointF(layout.px(flat[0]), y), QPointF(layout.px(flat[1]), y))
        for end in flat:
            painter.drawLine(QPointF(layout.px(end), y - 4), QPointF(layout.px(end), y + 4))
        run = f"keel flat {number_text(flat[1] - flat[0], Quantity.LENGTH, system)}"
        has_ruler = any(w.ruler is not None for w in board.rocker.weights)
        reach = (flat[1] - flat[0]) * layout.scale / 2
        room = advance(run, font(12, 700)) / 2 + 14
        shifts = (0.0, 0.3 * reach, -0.3 * reach, 0.6 * reach, -0.6 * reach, room + 2, -room - 2)
        at = _clear(scene, layout.px((flat[0] + flat[1]) / 2), shifts, room, "rocker")
        self._tag(painter, "ruler" if has_ruler else "", at, y, run)
        nose = number_text(float(measured.keel_line[-1]), Quantity.DEPTH, system)
        self._tag(
            painter, "nose_rocker", layout.px(board.length) + 2, profile.y(float(measured.keel_line[-1])) + 20, nose
        )
        cut = board.cut_away
        if cut is not None:
            hinge = cut.hinge.x(board.length, board.mast_x)
            self._tag(
                painter,
                f"layer.{cut.name}.angle",
                _clear(scene, layout.px(hinge * 0.42), (0.0, 16.0, 30.0), 30.0, "rocker"),
                y,
                text(cut.angle, Quantity.ANGLE, system),
            )
        else:
            tail = number_text(float(measured.keel_line[0]), Quantity.DEPTH, system)
            self._tag(painter, "tail_rocker", layout.px(0) + (34 if measured.keel_line[0] < 0.012 else 4), y, tail)

    def _tag(self, painter: QPainter, lever: str, x: float, y: float, words: str) -> None:
        bold = font(12, 700)
        width = advance(words, bold) + 12
        rect = QRectF(min(max(x - width / 2, 2), self.bench.width() - width - 2), y - 9, width, 18)
        while any(rect.intersects(tag.rect) for tag in self.found):
            rect.translate(0, 20)
        boxed(painter, rect, words, bold, colour("ink"), "paper", "line")
        self.found.append(Tag(lever, rect, words))


def _clear(scene: BenchScene, at: float, shifts: tuple[float, ...], room: float, line: str) -> float:
    """The first of the shifted places that no weight of a line stands within `room` of [px]; else `at`."""
    taken = [handle.point.x() for handle in scene.handles if handle.held.line == line]
    return next((at + shift for shift in shifts if all(abs(at + shift - x) > room for x in taken)), at)
