"""The window of the guide: contents and search at the left, the page at the right."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QSize, Qt, QUrl
from PySide6.QtGui import QImage, QResizeEvent, QTextBlockFormat, QTextCharFormat, QTextCursor, QTextDocument
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QTextBrowser, QVBoxLayout, QWidget

from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.guide.pages import FOLDER, GuidePage, guide_page, pages, pages_with, slug
from kelvor.ui.theme.style import font

MARGIN = 28
HEADING_SIZES = {1: 24, 2: 17}


class PageBrowser(QTextBrowser):
    """A page, its pictures as wide as there is room."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Page of the guide")
        self.setOpenLinks(False)
        self.setFont(font(14))
        self.document().setDocumentMargin(MARGIN)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def loadResource(self, kind: int, name: QUrl | str) -> Any:
        """A picture of the page, scaled smoothly to the room there is."""
        if kind != int(QTextDocument.ResourceType.ImageResource.value):
            return super().loadResource(kind, name)
        image = QImage(str((FOLDER / QUrl(name).toString()).resolve()))
        ratio = self.devicePixelRatioF()
        wide = int((self.viewport().width() - 2 * MARGIN - 16) * ratio)
        if image.width() > wide > 0:
            image = image.scaledToWidth(wide, Qt.TransformationMode.SmoothTransformation)
        image.setDevicePixelRatio(ratio)
        return image

    def lay(self, shown: GuidePage) -> None:
        """Lay out a page."""
        document = self.document()
        document.clear()
        document.setMarkdown(shown.text)
        block = document.begin()
        while block.isValid():
            cursor, level = QTextCursor(block), block.blockFormat().headingLevel()
            picture = not block.begin().atEnd() and block.begin().fragment().charFormat().isImageFormat()
            spaced = QTextBlockFormat()
            spaced.setLineHeight(100.0 if picture else 130.0, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
            spaced.setTopMargin(22 if level == 2 else 0)
            spaced.setBottomMargin(8)
            cursor.mergeBlockFormat(spaced)
            if level in HEADING_SIZES:
                cursor.select(QTextCursor.SelectionType.BlockUnderCursor)
                written = QTextCharFormat()  # of our own: Markdown's sizes are steps of the font's
                written.setFont(font(HEADING_SIZES[level], 700))
                cursor.setCharFormat(written)
            block = block.next()
        self.moveCursor(QTextCursor.MoveOperation.Start)

    def scroll_to(self, section: str) -> bool:
        """Bring a section to the top; False where there is none of that name."""
        block = self.document().begin()
        while block.isValid():
            if block.blockFormat().headingLevel() == 2 and slug(block.text()) == section:
                top = self.document().documentLayout().blockBoundingRect(block).top()
                self.verticalScrollBar().setValue(int(top) - 8)
                self.setTextCursor(QTextCursor(block))
                return True
            block = block.next()
        return False


class GuideWindow(Panel):
    """The guide, beside the work."""

    def __init__(self, parent: QWidget, place: str = "index") -> None:
        super().__init__(parent, "Guide", "")
        self.shown, self._section = pages()[0], ""
        self.typed = QLineEdit()
        self.typed.setAccessibleName("Words to look for in the guide")
        self.typed.setPlaceholderText("words to look for")
        self.typed.textChanged.connect(self._list)
        self.typed.returnPressed.connect(self._next)
        self.list = QListWidget()
        self.list.setAccessibleName("Pages")
        self.list.setFixedWidth(250)
        self.list.currentRowChanged.connect(self._chosen)
        self.reader = PageBrowser()
        self.reader.anchorClicked.connect(lambda url: self.go(url.toString().replace(".md", "")))
        left, row, holder = QVBoxLayout(), QHBoxLayout(), QWidget()
        left.addWidget(self.typed)
        left.addWidget(self.list, 1)
        row.setContentsMargins(0, 0, 0, 0)
        row.addLayout(left)
        row.addWidget(self.reader, 1)
        holder.setLayout(row)
        self.column.insertWidget(1, holder, 1)
        self.problem.setVisible(False)
        self.resize(QSize(1160, 760))
        self._listed: list[GuidePage] = []
        self._list()
        self.go(place)

    def go(self, place: str) -> None:
        """Show a page or a section of it: “shape#rocker”."""
        key, _, section = place.partition("#")
        wanted = guide_page(key)
        if wanted not in self._listed:
            self.typed.clear()
        self.shown, self._section = wanted, section
        self.reader.lay(wanted)
        self.list.blockSignals(True)
        self.list.setCurrentRow(self._listed.index(wanted))
        self.list.blockSignals(False)
        if section:
            self.reader.scroll_to(section)

    def _list(self) -> None:
        words = self.typed.text().strip()
        rows = pages_with(words) if words else [(one, 0) for one in pages()]
        self._listed = [one for one, _ in rows]
        self.list.blockSignals(True)
        self.list.clear()
        for one, times in rows:
            self.list.addItem(QListWidgetItem(f"{one.title}  ({times})" if times else one.title))
        self.list.blockSignals(False)
        self.problem.setVisible(not rows)
        self.problem.setText("" if rows else "No page holds all of these words; try one of them.")
        if words and rows:
            self.list.setCurrentRow(0)
            self._next()

    def _next(self) -> None:
        """On to the next place of the words on the page."""
        words = self.typed.text().split()
        if words and not self.reader.find(words[0]):
            self.reader.moveCursor(QTextCursor.MoveOperation.Start)
            self.reader.find(words[0])

    def _chosen(self, at: int) -> None:
        if 0 <= at < len(self._listed):
            self.go(self._listed[at].key)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Pictures take the new room, and the page stays where it was."""
        super().resizeEvent(event)
        if event.oldSize().width() == event.size().width():
            return
        place = self.reader.verticalScrollBar().value()
        self.reader.lay(self.shown)
        if not (self._section and self.reader.scroll_to(self._section)):
            self.reader.verticalScrollBar().setValue(place)
