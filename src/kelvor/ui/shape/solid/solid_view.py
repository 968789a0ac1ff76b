"""The solid board in the place of the bench: orbit by mouse and keyboard, reflection lines, water, section."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QProcess, Qt, QTimer
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from kelvor.ui.background import processes
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.background.timers import single_shot
from kelvor.ui.paint.strokes import label
from kelvor.ui.session.session import Session
from kelvor.ui.shape.shown.solid_parts import (
    board_solid,
    fins_solid,
    fitting_lines,
    laid_solid,
    section_line,
    water_sheet,
)
from kelvor.ui.theme.style import colour, font

if TYPE_CHECKING:
    from kelvor.core.evaluation.live import Live
    from kelvor.ui.shape.solid.scene import SolidScene

VIEWS = {
    "1": (0.0, 89.0, "deck"),
    "2": (0.0, -89.0, "bottom"),
    "3": (0.0, 0.0, "side"),
    "4": (90.0, 4.0, "from the tail"),
    "5": (35.0, 28.0, "over the shoulder"),
    "6": (215.0, -24.0, "from below"),
}
NO_DRIVER = (
    "This machine cannot draw solids: no software driver for OpenGL was found. "
    "Install it with  apt-get install libegl-mesa0 libgl1-mesa-dri  and open this view again."
)
BODY = (0.97, 0.975, 0.97)
REST_MS = 160
"""The full picture follows when the hand rests this long."""


class SolidView(QWidget):
    """The board in three dimensions."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName("Solid view of the board")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.scene: SolidScene | None = None
        self.station = session.board.length / 2
        self.water, self.fittings = True, True
        self.state = "asking"
        self.over: tuple[Live, float, str] | None = None
        """Another board through this one: how far its tail lies ahead [m], and the role of its colour."""
        self._image = QImage()
        self._from: QPointF | None = None
        self._rest = single_shot(self, REST_MS, lambda: self.draw(moving=False))
        self._follow = Throttle(self, 110, lambda: self.rebuild(moving=True))
        session.live_changed.connect(self._live_changed)
        session.settled.connect(self._settled)
        session.board_opened.connect(self._settled)
        self._probe = QProcess(self)
        self._probe.finished.connect(self._probed)
        processes.start(self._probe, "kelvor.ui.shape.solid.probe")

    def _probed(self, code: int) -> None:
        if code != 0:
            self.state = "none"
            self.update()
            return
        from kelvor.ui.shape.solid.scene import SolidScene

        self.scene, self.state = SolidScene(), "ready"
        self.rebuild(moving=False)

    def close_scene(self) -> None:
        """Let the probe go before the window does."""
        if self._probe.state() is not QProcess.ProcessState.NotRunning:
            self._probe.kill()
            self._probe.waitForFinished(2000)

    def _live_changed(self) -> None:
        if self.isVisible():
            self._follow.call()
            self._rest.start()

    def _settled(self) -> None:
        self.rebuild(moving=False)

    def set_station(self, x: float) -> None:
        """Move the section plane."""
        self.station = x
        if self.scene is not None and self.isVisible():
            self._put_section()
            self.draw(moving=True)
            self._rest.start()

    def lay_over(self, over: tuple[Live, float, str] | None) -> None:
        """Show another board through this one, or none."""
        self.over = over
        self.rebuild(moving=False)

    # the scene

    def rebuild(self, *, moving: bool) -> None:
        """Take board, fittings, water and section anew from the session."""
        scene, live = self.scene, self.session.live
        if scene is None or not self.isVisible():
            return
        from kelvor.ui.shape.solid.scene import surface

        solid = board_solid(live.board, moving=moving)
        if solid is None:
            return
        scene.set_background(_rgb("paper"))
        scene.put("board", surface(solid.vertices, solid.triangles), BODY, smooth=True, mirror=True, sharp=not moving)
        fins = fins_solid(live.geometry)
        scene.put(
            "fins",
            surface(fins.vertices, fins.triangles) if len(fins.vertices) and self.fittings else None,
            _rgb("ink"),
            smooth=True,
        )
        if not moving:  # what lies on the board catches up when the hand rests
            self._put_lines()
            self._put_water()
            self._put_over()
        self._put_section()
        low, high = solid.vertices.min(axis=0), solid.vertices.max(axis=0)
        if self.over is not None:  # both are looked at
            start = self.over[1]
            low[0], high[0] = min(low[0], start), max(high[0], start + self.over[0].board.length)
        scene.frame(low, high)
        self.draw(moving=moving)

    def _put_lines(self) -> None:
        from kelvor.ui.shape.solid.scene import lines

        assert self.scene is not None
        strands = fitting_lines(self.session.live.geometry) if self.fittings else []
        self.scene.put("fittings", lines(strands) if strands else None, _rgb("ink"), width=1.6)

    def _put_over(self) -> None:
        from kelvor.ui.shape.solid.scene import surface

        assert self.scene is not None
        solid = None
        if self.over is not None:
            solid = laid_solid(self.session.live.geometry, self.over[0].geometry, self.over[1])
        self.scene.put(
            "over",
            None if solid is None else surface(solid.vertices, solid.triangles),
            _rgb(self.over[2] if self.over is not None else "quiet"),
            opacity=0.5,
            smooth=True,
        )

    def _put_section(self) -> None:
        from kelvor.ui.shape.solid.scene import lines

        assert self.scene is not None
        strands = section_line(self.session.live, self.station)
        self.scene.put("section", lines(strands) if strands else None, _rgb("cursor"), width=3.0)

    def _put_water(self) -> None:
        from kelvor.ui.shape.solid.scene import surface

        assert self.scene is not None
        afloat = self.session.results.afloat()
        sheet = water_sheet(self.session.live, afloat) if self.water and afloat is not None else None
        self.scene.put(
            "water",
            None if sheet is None else surface(sheet.vertices, sheet.triangles),
            (0.45, 0.66, 0.68),
            opacity=0.35,
        )

    def draw(self, *, moving: bool) -> None:
        """Draw the scene: at half size while the hand moves."""
        if self.scene is None or not self.isVisible():
            return
        ratio = self.devicePixelRatioF() * (0.5 if moving else 1.0)
        width, height = max(16, round(self.width() * ratio)), max(16, round(self.height() * ratio))
        pixels = self.scene.image(width, height)
        image = QImage(pixels.data, width, height, 4 * width, QImage.Format.Format_RGBX8888)
        self._image = image.copy()
        self.update()

    # switches

    def toggle_reflections(self) -> None:
        """Reflection lines of lamps along, then across the board, then none: they break where the surface is
        not fair.
        """
        if self.scene is not None:
            from kelvor.ui.shape.solid.scene import REFLECTIONS

            self.scene.reflections = REFLECTIONS[(REFLECTIONS.index(self.scene.reflections) + 1) % len(REFLECTIONS)]
            self.rebuild(moving=False)

    def toggle_water(self) -> None:
        """Water on or off."""
        self.water = not self.water
        self.rebuild(moving=False)

    def toggle_fittings(self) -> None:
        """Fittings on or off."""
        self.fittings = not self.fittings
        self.rebuild(moving=False)

    def look(self, key: str) -> None:
        """One of the standing views."""
        if self.scene is not None:
            self.scene.azimuth, self.scene.elevation, _ = VIEWS[key]
            self.scene.pan, self.scene.zoom = (0.0, 0.0), 1.0
            self.draw(moving=False)

    # events

    def showEvent(self, event: object) -> None:
        """Catch up with the board."""
        super().showEvent(event)  # type: ignore[arg-type]
        QTimer.singleShot(0, lambda: self.rebuild(moving=False))

    def resizeEvent(self, event: object) -> None:
        """Draw at the new size."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        self.draw(moving=True)
        self._rest.start()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Show the last picture, with what the keys do."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        if self.state == "ready" and not self._image.isNull():
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self.rect(), self._image)
            label(painter, 12, 22, "Solid", "quiet", font(12, 700))
            label(
                painter,
                56,
                22,
                "drag or arrows turn · wheel or + − zoom · right drag moves · 1 to 6 views",
                "quiet",
                font(12),
            )
            lamps = self.scene.reflections if self.scene is not None else "off"
            switches = (
                f"R reflection lines: {lamps}",
                f"W water: {'on' if self.water else 'off'}",
                f"F fittings: {'on' if self.fittings else 'off'}",
            )
            label(painter, 12, self.height() - 12, "   ·   ".join(switches), "quiet", font(12))
            return
        words = NO_DRIVER if self.state == "none" else "Preparing the solid view …"
        painter.setPen(colour("ink"))
        painter.setFont(font(14))
        painter.drawText(
            self.rect().adjusted(40, 40, -40, -40),
            int(Qt.AlignmentFlag.AlignCenter) | int(Qt.TextFlag.TextWordWrap),
            words,
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the board."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Turn it, or move it with the right button."""
        if self._from is None or self.scene is None:
            return
        step, self._from = event.position() - self._from, event.position()
        if event.buttons() & Qt.MouseButton.RightButton:
            metre = self.scene.span * 1.5 / max(self.width(), 1) / self.scene.zoom
            self.scene.pan = (self.scene.pan[0] - step.x() * metre, self.scene.pan[1] + step.y() * metre)
        else:
            self.scene.orbit(-0.4 * step.x(), 0.4 * step.y())
        self.draw(moving=True)
        self._rest.start()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        self._from = None
        self._rest.start()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Nearer or further."""
        self._zoom(1.0015 ** event.angleDelta().y())

    def _zoom(self, factor: float) -> None:
        if self.scene is not None:
            self.scene.zoom = float(np.clip(self.scene.zoom * factor, 0.4, 40.0))
            self.draw(moving=True)
            self._rest.start()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows turn, plus and minus zoom, digits take a standing view, letters switch."""
        turns = {Qt.Key.Key_Left: (6, 0), Qt.Key.Key_Right: (-6, 0), Qt.Key.Key_Up: (0, 6), Qt.Key.Key_Down: (0, -6)}
        words = event.text().lower()
        key = Qt.Key(event.key())
        if key in turns and self.scene is not None:
            fine = 0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.scene.orbit(turns[key][0] * fine, turns[key][1] * fine)
            self.draw(moving=False)
        elif words in ("+", "="):
            self._zoom(1.15)
        elif words == "-":
            self._zoom(1 / 1.15)
        elif words in VIEWS:
            self.look(words)
        elif words in ("r", "w", "f"):
            {"r": self.toggle_reflections, "w": self.toggle_water, "f": self.toggle_fittings}[words]()
        else:
            super().keyPressEvent(event)


def _rgb(role: str) -> tuple[float, float, float]:
    found: QColor = colour(role)
    return found.redF(), found.greenF(), found.blueF()
