"""Finding an action by its words."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget


class Finder(QDialog):
    """A line to type and the actions that fit."""

    def __init__(self, parent: QWidget, actions: dict[str, QAction]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Find an action")
        self.setModal(False)
        self._actions = actions
        column = QVBoxLayout(self)
        self.query = QLineEdit()
        self.query.setPlaceholderText("What do you want to do?")
        self.query.setAccessibleName("Find an action")
        self.list = QListWidget()
        self.list.setMinimumSize(440, 320)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        column.addWidget(self.query)
        column.addWidget(self.list)
        for key, action in actions.items():
            shortcut = action.shortcut().toString()
            item = QListWidgetItem(f"{action.text()}    {shortcut}".rstrip())
            item.setData(Qt.ItemDataRole.UserRole, key)
            self.list.addItem(item)
        self.query.textChanged.connect(self._filter)
        self.query.returnPressed.connect(self.run)
        self.list.itemActivated.connect(lambda _: self.run())
        self._filter("")

    def _filter(self, words: str) -> None:
        first = None
        for i in range(self.list.count()):
            item = self.list.item(i)
            fits = all(word in item.text().lower() for word in words.lower().split())
            item.setHidden(not fits)
            first = first if first is not None or not fits else item
        if first is not None:
            self.list.setCurrentItem(first)

    def run(self) -> None:
        """Do the chosen action."""
        item = self.list.currentItem()
        if item is not None and not item.isHidden():
            action = self._actions[str(item.data(Qt.ItemDataRole.UserRole))]
            self.close()
            action.trigger()
