"""The bench: plan, profile and strip over one ruler, with weights to drag and tags to type."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QHelpEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QMenu, QToolTip

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity, inside, number_text
from kelvor.core.base.values import frozen
from kelvor.core.levers.locks import Change
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.weights import (
    BATTENS,
    Hold,
    added,
    batten_of,
    moved,
    place_and_value,
    taken_off,
    with_knuckle_toggled,
    with_ruler_toggled,
)
from kelvor.ui.controls.inline_editor import TypedOver, TypingHolder
from kelvor.ui.session.session import Session
from kelvor.ui.shape.bench.annotations import Tag
from kelvor.ui.shape.bench.picture import BenchPicture
from kelvor.ui.shape.shown.grips import Grip
from kelvor.ui.shape.shown.handles import drag_change, line_name, line_quantity


@frozen
class _Drag:
    held: Hold
    start: QPointF
    board: Board
    place: float
    value: float


@frozen
class _GripDrag:
    grip: Grip
    start: QPointF
    board: Board
    scale: float


class BenchWidget(TypingHolder, BenchPicture):
    """The drawing of the board on the bench, to be taken hold of."""

    weight_chosen = Signal(str)
    typed = Signal(str, str)
    """A dimension tag was typed over: lever key and text."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.setAccessibleName("Bench: plan, profile and strip of the board")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self._grip_drag: _GripDrag | None = None
        self._drag: _Drag | None = None
        self._cursor_drag, self._cursor_from = False, self.station
        self._nudges = 0
        self._last_nudge: tuple[Hold, int] | None = None

    def in_hand(self) -> bool:
        """Whether something is being dragged."""
        return self._drag is not None or self._grip_drag is not None

    # the mouse

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of a weight, a tag or the cursor."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        point = event.position()
        if event.button() != Qt.MouseButton.LeftButton:
            return
        held = self.handle_at(point)
        if held is not None:
            place, value = place_and_value(self.session.board, held)
            self._choose(held)
            self._kept_band = self.scene().strip_band if held.line == self.strip else None
            self._drag = _Drag(held, point, self.session.board, place, value)
            return
        seen = next((place for rect, _, place in self.annotations.remarks if rect.contains(point)), None)
        if seen is not None:  # a remark shows its place
            self.set_station(seen)
            return
        grip = self.grip_at(point)
        if grip is not None:
            self._choose(None)
            self._kept_band = self.scene().strip_band if grip.band == "strip" else None
            self._grip_drag = _GripDrag(grip, point, self.session.board, self.scene().grip_band(grip).scale)
            self.held_grip = grip.key
            return
        tag = next((t for t in self.tags if t.lever and t.rect.contains(point)), None)
        if tag is not None:
            self.begin_typing(tag)
            return
        for rect, stretch in self.annotations.scale_rects:
            if rect.contains(point):
                self.set_stretch(stretch)
                return
        for rect, line in self.overlays.line_rects:
            if rect.contains(point):
                self.set_line(line)
                return
        self._choose(None)
        self._cursor_drag, self._cursor_from = True, self.station
        self.set_station(self.layout_now().x(point.x()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag what was taken hold of."""
        if self._drag is not None:
            x, value = self._dragged_to(event.position(), event.modifiers())
            self.session.preview(moved(self._drag.board, self._drag.held, x, value))
        elif self._grip_drag is not None:
            board = self._gripped(event.position(), event.modifiers())
            if board is not None:
                self.session.preview(board)
        elif self._cursor_drag:
            self.set_station(self.layout_now().x(event.position().x()))
        else:
            hovering = self.handle_at(event.position()) is not None or self.grip_at(event.position()) is not None
            tag = any(t.lever and t.rect.contains(event.position()) for t in self.tags)
            shape = (
                Qt.CursorShape.SizeAllCursor
                if hovering
                else Qt.CursorShape.IBeamCursor
                if tag
                else Qt.CursorShape.ArrowCursor
            )
            self.setCursor(shape)

    def _gripped(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> Board | None:
        """The board with the grip pulled to a point; None, with the reason said, where that cannot be."""
        drag = self._grip_drag
        assert drag is not None
        fine = 0.2 if modifiers & Qt.KeyboardModifier.ShiftModifier else 1.0
        dx, dy = (point.x() - drag.start.x()) * fine, (drag.start.y() - point.y()) * fine
        try:
            return drag.grip.pull(drag.board, dx / self.layout_now().scale, dy / drag.scale)
        except RefusedEdit as error:
            self.session.message.emit("problem", str(error))
            return None

    def _dragged_to(self, point: QPointF, modifiers: Qt.KeyboardModifier) -> tuple[float, float]:
        drag, layout = self._drag, self.layout_now()
        assert drag is not None
        fine = 0.2 if modifiers & Qt.KeyboardModifier.ShiftModifier else 1.0
        dx, dy = (point.x() - drag.start.x()) * fine, (drag.start.y() - point.y()) * fine
        if drag.held.line == "outline":
            scale = layout.plan.scale
        elif drag.held.line in BATTENS:
            scale = layout.profile.scale
        else:
            scale = self.scene().strip_band.scale
        if abs(dx) < 4 and drag.held.line in BATTENS:  # a weight slides only when it is meant
            dx = 0.0
        return drag.place + dx / layout.scale, drag.value + dy / scale

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Commit what was dragged."""
        drag, self._drag = self._drag, None
        gripped, self._grip_drag, self.held_grip = self._grip_drag, None, ""
        self._cursor_drag, self._kept_band = False, None
        if gripped is not None:
            after = self.session.live.board
            if after != gripped.board:
                self.session.commit_preview((gripped.grip.change(gripped.board, after),))
        if drag is not None:
            after = self.session.live.board
            if after != drag.board:
                asked = drag_change(drag.board, after, drag.held, self.session.system)
                self.session.commit_preview((asked,))
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Lay one more weight on the line under the hand."""
        line = self.line_at(event.position())
        if line:
            self.add_weight(line, self.layout_now().x(event.position().x()))

    def add_weight(self, line: str, x: float) -> None:
        """Lay one more weight on a line."""
        try:
            board = added(self.session.board, line, x)
        except RefusedEdit as error:
            self.session.message.emit("problem", str(error))
            return
        where = number_text(x, Quantity.LENGTH, self.session.system)
        self.session.commit(board, (Change(f"{line_name(line)}, weight at {where}", Quantity.COUNT, None, None),))

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """What can be done with the weight or line under the hand, or by the menu key with the chosen weight."""
        by_key = event.reason() is QContextMenuEvent.Reason.Keyboard and self.chosen is not None
        point = self.handle_point(self.chosen) if by_key and self.chosen is not None else QPointF(event.pos())
        menu = self.menu_at(point)
        if menu.actions():
            menu.exec(self.mapToGlobal(point.toPoint()))
        menu.deleteLater()

    def menu_at(self, point: QPointF) -> QMenu:
        """The menu of what lies under a point; empty where nothing does."""
        menu, held = QMenu(self), self.handle_at(point)
        if held is not None:
            self._choose(held)
            self.weight_menu(menu, held)
            return menu
        line, x = self.line_at(point), self.layout_now().x(point.x())
        if line:
            menu.addAction("Lay a weight here", lambda: self.add_weight(line, x))
        return menu

    def weight_menu(self, menu: QMenu, held: Hold) -> None:
        """Fill a menu for a weight."""
        if held.line in BATTENS:
            weight = batten_of(self.session.board, held.line).weights[held.index]
            words = "Take the ruler off" if weight.ruler is not None else "Lay a ruler to the next weight"
            menu.addAction(words, lambda: self._weight_edit(held, with_ruler_toggled, words))
            knuckle = "Make it smooth" if weight.knuckle else "Make it a knuckle"
            menu.addAction(knuckle, lambda: self._weight_edit(held, with_knuckle_toggled, knuckle))
        menu.addAction("Take the weight off", self.remove_chosen)

    def _weight_edit(self, held: Hold, edit: Callable[[Board, Hold], Board], words: str) -> None:
        try:
            board = edit(self.session.board, held)
        except RefusedEdit as error:
            self.session.message.emit("problem", str(error))
            return
        name = f"{line_name(held.line)}: {inside(words)}"
        self.session.commit(board, (), title=name)

    def remove_chosen(self) -> None:
        """Take the chosen weight off."""
        if self.chosen is None:
            return
        held = self.chosen
        try:
            board = taken_off(self.session.board, held)
        except RefusedEdit as error:
            self.session.message.emit("problem", str(error))
            return
        where = number_text(place_and_value(self.session.board, held)[0], Quantity.LENGTH, self.session.system)
        self._choose(None)
        self.session.commit(board, (), title=f"{line_name(held.line)}, weight at {where} taken off")

    def _choose(self, held: Hold | None) -> None:
        self.chosen = held
        self.weight_chosen.emit(held.line if held else "")
        self.update()

    # the keyboard

    def event(self, event: QEvent) -> bool:
        """Tab walks the weights while one is chosen; Escape lets go."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and self.chosen is not None:
            key = event.key()
            if key in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab):
                held = self.handles()
                at = held.index(self.chosen) if self.chosen in held else -1
                self._choose(held[(at + (1 if key == Qt.Key.Key_Tab else -1)) % len(held)])
                return True
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            words = next(
                (words for rect, words, _ in self.annotations.remarks if rect.contains(QPointF(event.pos()))), ""
            )
            QToolTip.showText(event.globalPos(), words, self)
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows nudge the chosen weight by a millimetre (Shift a fifth), or walk the cursor."""
        key = event.key()
        fine = 0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        moves = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        if key in moves:
            dx, dy = moves[Qt.Key(key)]
            if self.chosen is not None:
                self._nudge(dx * fine, dy * fine)
            elif dx:
                self.set_station(self.station + dx * 0.01 * (0.1 if fine < 1 else 1))
        elif key == Qt.Key.Key_Escape:
            self.let_go()
            self._choose(None)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove_chosen()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._choose(self.handles()[0])
        else:
            super().keyPressEvent(event)

    def let_go(self) -> None:
        """Let go of what is dragged, without a step."""
        if self.in_hand():
            self._drag = self._grip_drag = self._kept_band = None
            self.held_grip = ""
            self.session.drop_preview()
        if self._cursor_drag:
            self._cursor_drag = False
            self.set_station(self._cursor_from)

    def _nudge(self, dx: float, dy: float) -> None:
        held = self.chosen
        assert held is not None
        board = self.session.board
        place, value = place_and_value(board, held)
        step = {Quantity.ANGLE: math.radians(0.5), Quantity.RATIO: 0.02}.get(line_quantity(board, held.line), 0.001)
        if held.line == "rocker":
            step = 0.0005
        after = moved(board, held, place + dx * 0.001, value + dy * step)
        if self._last_nudge is None or self._last_nudge[0] != held or self._last_nudge[1] != self.session.current:
            self._nudges += 1
        done = self.session.commit(
            after,
            (drag_change(board, after, held, self.session.system),),
            gesture=f"nudge-{self._nudges}-{held.line}-{held.index}",
        )
        if done:
            self._last_nudge = (held, self.session.current)

    # typing on tags

    def begin_typing(self, tag: Tag) -> None:
        """Open a dimension tag to be typed over."""
        self.close_typing()
        shown = tag.words
        if tag.lever == "ruler":
            weights = self.session.board.rocker.weights
            start, end = next((a, b) for a, b in zip(weights[:-1], weights[1:], strict=True) if a.ruler is not None)
            shown = number_text(end.x - start.x, Quantity.LENGTH, self.session.system)
        place = tag.rect.adjusted(-16, -4, 16, 4).toRect()
        place.moveLeft(min(max(place.left(), 2), self.width() - place.width() - 2))
        self._editor = TypedOver(
            self, f"Dimension {tag.words}", shown, place, lambda words: self.typed.emit(tag.lever, words)
        )
        self._editor.setAlignment(Qt.AlignmentFlag.AlignCenter)
