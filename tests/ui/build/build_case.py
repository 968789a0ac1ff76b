"""The Build view of a window, with the hands a builder needs."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.ui.case import WindowCase


class BuildCase(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.build")
        self.view = self.window.views["build"]

    def show_tab(self, words):
        tabs = self.view.tabs
        tabs.setCurrentIndex(next(i for i in range(tabs.count()) if tabs.tabText(i) == words))

    def begin(self, serial, who=""):
        self.view.boards.serial.setText(serial)
        self.view.boards.serial.setModified(True)
        self.view.boards.who.setText(who)
        self.view.boards.begin_button.click()

    def rows(self, table):
        return [tuple(self.row(table, i)) for i in range(table.rowCount())]

    def grams(self, key):
        return int(next(row for row in self.view.weight.rows() if row.key == key).value.split()[0])

    def row(self, table, i):
        return [table.item(i, j).text() for j in range(table.columnCount())]

    def type(self, field, words):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.app.processEvents()

    def pick(self, box, data):
        box.setCurrentIndex(box.findData(data))
        box.activated.emit(box.currentIndex())
        self.app.processEvents()

    def choose(self, name):
        index = next(i for i in range(self.view.made.library.count()) if self.view.made.library.itemText(i) == name)
        self.view.made.library.setCurrentIndex(index)
        self.view.made.library.activated.emit(index)
        self.app.processEvents()
