"""Cards in a grid: outlines true to one scale, painted as they come into view."""

from __future__ import annotations

import time

from PySide6.QtCore import (
    QAbstractListModel,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPen, QPixmap, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from kelvor.core.base.units import System
from kelvor.core.rack.cards import Card, card_outline
from kelvor.core.rack.search import SearchHit
from kelvor.ui.rack.shown.rack import MARKS, CardGroup, ordering_figure, sizes, speaks, state
from kelvor.ui.theme.style import colour, font

WIDTH, HEIGHT, HEADING = 248, 158, 30
DRAWN = 58
"""Height of the outline's strip on a card [px]."""
PHOTO = 2 * WIDTH, 2 * DRAWN
"""A photo is kept in this size [px]."""
KEPT = 120
"""So many painted cards are kept."""
FOUND, HEAD = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1
Index = QModelIndex | QPersistentModelIndex


class CardsModel(QAbstractListModel):
    """Headings and cards in one list."""

    def __init__(self) -> None:
        super().__init__()
        self._entries: list[str | SearchHit] = []
        self.asked = False
        self.order = "touched"
        self.system = System.METRIC
        self.longest = self.widest = 1.0
        """Of the boards on show [m]: one scale for all."""

    def show_groups(self, groups: list[CardGroup]) -> None:
        """Show other cards."""
        self.beginResetModel()
        self._entries = []
        for group in groups:
            if group.words:
                self._entries.append(f"{group.words}  ·  {len(group.found)}")
            self._entries += group.found
        lengths = [entry.card.figures.get("length", 0.0) for entry in self._entries if isinstance(entry, SearchHit)]
        self.longest = max(lengths, default=0.0) or 1.0
        self.widest = (
            max((e.card.figures.get("width", 0.0) for e in self._entries if isinstance(e, SearchHit)), default=0.0)
            or 1.0
        )
        self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        """How many headings and cards."""
        return 0 if parent.isValid() else len(self._entries)

    def found(self, row: int) -> SearchHit | None:
        """The card in a row, None for a heading."""
        entry = self._entries[row] if 0 <= row < len(self._entries) else ""
        return entry if isinstance(entry, SearchHit) else None

    def row_of(self, key: str) -> int:
        """The row of a card, −1 where it is not shown."""
        return next((i for i, e in enumerate(self._entries) if isinstance(e, SearchHit) and e.card.key == key), -1)

    def first(self) -> int:
        """The row of the first card, −1 where there is none."""
        return next((i for i, e in enumerate(self._entries) if isinstance(e, SearchHit)), -1)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """The card, the heading, or all of it in words for who cannot see it."""
        entry = self._entries[index.row()]
        if role == FOUND:
            return entry if isinstance(entry, SearchHit) else None
        if role == HEAD:
            return entry if isinstance(entry, str) else ""
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return entry if isinstance(entry, str) else self.words(entry)
        return None

    def words(self, found: SearchHit) -> str:
        """All that stands on a card."""
        card = found.card
        parts = (
            card.name,
            card.discipline,
            sizes(card, self.system),
            state(card, time.time()),
            speaks(found, asked=self.asked),
        )
        return ", ".join(part for part in parts if part)

    def flags(self, index: Index) -> Qt.ItemFlag:
        """Headings cannot be chosen."""
        kept = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemNeverHasChildren
        return (
            kept | Qt.ItemFlag.ItemIsSelectable
            if self.found(index.row()) is not None
            else Qt.ItemFlag.ItemNeverHasChildren
        )


class CardDelegate(QStyledItemDelegate):
    """Paints a card."""

    def __init__(self, view: CardsView) -> None:
        super().__init__(view)
        self._view = view
        self._kept: dict[tuple[object, ...], QPixmap] = {}
        view.cards.modelReset.connect(self.forget)

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        """A heading takes a row of its own."""
        if index.data(HEAD):
            return QSize(max(self._view.viewport().width() - 14, WIDTH), HEADING)
        return QSize(self._view.card_width(), HEIGHT)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """Paint a heading or a card."""
        rect: QRect = option.rect
        head = index.data(HEAD)
        if head:
            painter.setFont(font(14, 700))
            painter.setPen(colour("live"))
            painter.drawText(
                rect.adjusted(6, 0, 0, -2), int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom), str(head)
            )
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        current = index.row() == self._view.currentIndex().row()
        painter.drawPixmap(rect.topLeft(), self._drawn(index, rect.size(), chosen=chosen, current=current))

    def _drawn(self, index: Index, size: QSize, *, chosen: bool, current: bool) -> QPixmap:
        """A card as it was painted before: scrolling only lays them down."""
        ratio = self._view.devicePixelRatioF()
        key = (index.row(), size.width(), chosen, current, ratio)
        if key not in self._kept:
            if len(self._kept) >= KEPT:
                self._kept.clear()
            sheet = QPixmap(size * ratio)
            sheet.setDevicePixelRatio(ratio)
            sheet.fill(Qt.GlobalColor.transparent)
            painter = QPainter(sheet)
            box = QRectF(5, 5, size.width() - 10, size.height() - 10)
            paint_card(painter, box, index.data(FOUND), self._view, chosen=chosen, current=current)
            painter.end()
            self._kept[key] = sheet
        return self._kept[key]

    def forget(self) -> None:
        """Other cards are shown."""
        self._kept.clear()


def paint_card(
    painter: QPainter, box: QRectF, found: SearchHit, view: CardsView, *, chosen: bool, current: bool
) -> None:
    """A board as a card: its outline, what it is called, how large it is, how it stands, and the line that speaks."""
    model, card = view.cards, found.card
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(colour("live" if chosen or current else "line"), 2.0 if current else 1.0))
    painter.setBrush(colour("live_wash" if chosen else "paper"))
    painter.drawRoundedRect(box, 4, 4)
    inner = box.adjusted(12, 8, -12, -6)
    _outline(painter, QRectF(inner.left(), inner.top(), inner.width(), DRAWN), card, view)
    top = inner.top() + DRAWN + 2

    def line(words: str, at: float, size: float, weight: int, role: str, room: float) -> None:
        chosen_font = font(size, weight)
        painter.setFont(chosen_font)
        painter.setPen(colour(role))
        shown = QFontMetricsF(chosen_font).elidedText(words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(
            QRectF(inner.left(), at, room, 18), int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter), shown
        )

    here = view.here == card.key
    tag = MARKS[card.verdict] if card.verdict is not None else ""
    tag_room = QFontMetricsF(font(12, 600)).horizontalAdvance(tag) if tag else 0.0
    line(card.name, top, 14, 700, "ink", inner.width() - tag_room - 8)
    if tag:
        painter.setFont(font(12, 600))
        painter.setPen(colour("live" if card.verdict == "kept" else "short" if card.verdict == "dropped" else "quiet"))
        painter.drawText(
            QRectF(inner.left(), top, inner.width(), 18),
            int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter),
            tag,
        )
    measures = sizes(card, model.system)
    more = ordering_figure(card, model.order, model.system)
    line(measures or card.discipline, top + 18, 13, 400, "ink", inner.width())
    stands = f"{card.discipline}, {state(card, time.time())}{', on the bench' if here else ''}"
    line(more or stands, top + 35, 12, 400, "quiet", inner.width())
    line(
        speaks(found, asked=model.asked),
        top + 52,
        12,
        500,
        "pinned" if model.asked and found.by else "quiet",
        inner.width(),
    )
    painter.restore()


def _outline(painter: QPainter, box: QRectF, card: Card, view: CardsView) -> None:
    """The plan, to the scale of all cards; a photo, or sizes as a box, where there is no plan."""
    scale = min(box.width() / view.cards.longest, (box.height() - 6) / view.cards.widest)
    length = card.figures.get("length", 0.0)
    middle = box.center().y()
    photo = view.photo(card)
    if photo is not None:
        shown = photo.scaled(
            box.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
        painter.drawPixmap(QPointF(box.left(), middle - shown.height() / 2), shown)
    elif card.half and length:
        points = card_outline(card.half, length) * scale
        polygon = QPolygonF([QPointF(box.left() + x, middle - y) for x, y in points.tolist()])
        painter.setPen(QPen(colour("ink"), 1.0))
        painter.setBrush(colour("board_fill"))
        painter.drawPolygon(polygon)
    elif length and card.figures.get("width"):
        wide = card.figures["width"] * scale
        painter.setPen(QPen(colour("quiet"), 1.0, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(QRectF(box.left(), middle - wide / 2, length * scale, wide), wide / 3, wide / 3)
    else:
        painter.setPen(colour("quiet"))
        painter.setFont(font(12))
        painter.drawText(
            box,
            int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter),
            "being drawn" if card.board else "no sizes written",
        )


class CardsView(QListView):
    """The grid. Arrows walk, Enter opens, letters go to the search line."""

    opened = Signal(str)
    typed = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.cards = CardsModel()
        self.here = ""
        self._photos: dict[str, QPixmap | None] = {}
        self.setAccessibleName("Boards")
        self.setModel(self.cards)
        self.setItemDelegate(CardDelegate(self))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setStyleSheet("QListView { background: transparent; }")
        self.activated.connect(self._activated)
        self.doubleClicked.connect(self._activated)

    def card_width(self) -> int:
        """As wide as lets a whole number of them fill a row."""
        room = self.viewport().width() - 14
        return room // max(1, room // WIDTH)

    def photo(self, card: Card) -> QPixmap | None:
        """The photo of a card, where it has one that was read."""
        return self._photos.get(card.photo) if card.photo else None

    def show_photo(self, sha: str, data: bytes) -> None:
        """Show a photo that was read."""
        pixmap = QPixmap()
        read = pixmap.loadFromData(data)
        # no larger than a card shows it: forty photos from a camera would fill the memory
        self._photos[sha] = (
            pixmap.scaled(*PHOTO, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
            if read
            else None
        )

    def knows_photo(self, sha: str) -> bool:
        """Whether a photo was read."""
        return sha in self._photos

    def chosen(self) -> list[Card]:
        """The chosen cards, in the order they stand."""
        rows = sorted(index.row() for index in self.selectedIndexes())
        return [found.card for row in rows if (found := self.cards.found(row)) is not None]

    def choose_again(self, keys: set[str]) -> None:
        """Choose these cards, as far as they are shown."""
        for row in range(self.cards.rowCount()):
            found = self.cards.found(row)
            if found is not None and found.card.key in keys:
                self.selectionModel().select(self.cards.index(row), QItemSelectionModel.SelectionFlag.Select)

    def current(self) -> SearchHit | None:
        """The card the keys stand on."""
        return self.cards.found(self.currentIndex().row())

    def choose(self, key: str) -> bool:
        """Stand on a card; False where it is not shown."""
        row = self.cards.row_of(key)
        if row >= 0:
            self.setCurrentIndex(self.cards.index(row))
        return row >= 0

    def _activated(self, index: QModelIndex) -> None:
        found = self.cards.found(index.row())
        if found is not None:
            self.opened.emit(found.card.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Letters search; all else is the list's."""
        words = event.text()
        plain = not event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier
        if words.strip() and words.isprintable() and plain:
            self.typed.emit(words)
            return
        super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Headings are as wide as the page."""
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()
