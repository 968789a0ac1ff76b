"""Numbers and picture of what is painted, taken out: by the right mouse button, the menu key, or Ctrl+C."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtGui import QAction, QGuiApplication, QKeySequence, QPainter
from PySide6.QtWidgets import QFileDialog, QTableWidget, QWidget

from kelvor.core.base.errors import InputError
from kelvor.files import refusal_reason, written_whole

Rows = list[tuple[str, ...]]


class TakenOut:
    """The actions of one painted widget; `rows` gives its numbers, if it has any, `name` what its files are called."""

    def __init__(self, widget: QWidget, name: Callable[[], str], rows: Callable[[], Rows] | None = None) -> None:
        self._widget, self._name, self._rows = widget, name, rows
        self.told: Callable[[str, str], object] = lambda _kind, _words: None
        """Hears what was written, or why nothing was: (“note” or “problem”, words)."""
        self._dialog: QFileDialog | None = None
        widget.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
        first = True
        for words, do, wants_rows in (
            ("Copy the numbers", self.copy, True),
            ("Copy the picture", self.copy_picture, False),
            ("Save the numbers (CSV)…", lambda: self._ask("csv", self.save_numbers), True),
            ("Save the picture (SVG)…", lambda: self._ask("svg", self.save_picture), False),
        ):
            if wants_rows and rows is None:
                continue
            action = QAction(words, widget)
            action.triggered.connect(lambda _=False, do=do: do())
            if first:
                action.setShortcut(QKeySequence.StandardKey.Copy)
                action.setShortcutContext(Qt.ShortcutContext.WidgetShortcut)
                first = False
            widget.addAction(action)

    def copy(self) -> None:
        """Put the numbers on the clipboard, columns parted by tabs."""
        from kelvor.exchange.tables import plain_cell  # not before something is taken out

        found = self._rows() if self._rows is not None else []
        # as text: what Python made would outlive it on the clipboard, and the program would end in a fault
        QGuiApplication.clipboard().setText("\n".join("\t".join(plain_cell(cell) for cell in row) for row in found))
        self.told("note", f"Copied: {len(found) - 1} lines of numbers.")

    def copy_picture(self) -> None:
        """Put the picture on the clipboard."""
        QGuiApplication.clipboard().setPixmap(self._widget.grab())
        self.told("note", "Copied: the picture.")

    def _ask(self, kind: str, write: Callable[[Path], None]) -> None:
        dialog = QFileDialog(self._widget.window(), "Save", str(Path.home()), f"{kind.upper()} (*.{kind})")
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        dialog.setDefaultSuffix(kind)
        dialog.selectFile("".join(c if c.isalnum() or c in " -" else "-" for c in self._name())[:60] + f".{kind}")
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.fileSelected.connect(lambda path: write(Path(path)))
        self._dialog = dialog
        dialog.show()

    def save_numbers(self, path: Path) -> None:
        """Write the numbers as a table."""
        from kelvor.exchange.tables import write_table

        def write(temporary: Path) -> None:
            write_table(self._rows() if self._rows is not None else [], temporary)

        self._written(path, write)

    def save_picture(self, path: Path) -> None:
        """Write the picture as it is painted, in lines that stay sharp at any size."""
        from PySide6.QtSvg import QSvgGenerator

        def write(temporary: Path) -> None:
            size = self._widget.size()
            drawing = QSvgGenerator()
            drawing.setFileName(str(temporary))
            drawing.setSize(size)
            drawing.setViewBox(QRect(0, 0, size.width(), size.height()))
            drawing.setTitle(self._name())
            painter = QPainter(drawing)
            self._widget.render(painter, QPoint())
            painter.end()

        self._written(path, write)

    def _written(self, path: Path, write: Callable[[Path], None]) -> None:
        try:
            with written_whole(path, over=True) as temporary:
                write(temporary)
        except OSError as error:
            self.told("problem", f"Not written: {refusal_reason(error)}, {path}")
        except InputError as error:
            self.told("problem", str(error))
        else:
            self.told("note", f"Written: {path}")


def table_rows(table: QTableWidget) -> Rows:
    """What a table shows, its headings first, columns in the order they stand in."""
    header = table.horizontalHeader()
    order = [header.logicalIndex(i) for i in range(table.columnCount())]
    heads = [table.horizontalHeaderItem(k) for k in order]
    found = [tuple(h.text() if h is not None else "" for h in heads)]
    for i in range(table.rowCount()):
        cells = [table.item(i, k) for k in order]
        found.append(tuple(c.text().replace("\n", "; ") if c is not None else "" for c in cells))
    return found
