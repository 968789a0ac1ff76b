"""Photos that are taken along into the workshop."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QFileDialog, QLabel, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.register.record import LONGEST_PHOTO
from kelvor.files import read_bytes
from kelvor.ui.controls.panel_dialog import Panel

LARGEST = (960, 640)
"""A photo is shown no larger than this [px]."""


def read_photo(path: Path) -> bytes:
    """A photo's file, read whole.

    Raises
    ------
    InputError
        When it cannot be read, is too large, or is none; it says which file and what would do.
    """
    data = read_bytes(path, LONGEST_PHOTO, "photos")
    if QImage.fromData(data).isNull():
        raise InputError("this is no photo", where=path.name, accepts="Choose a JPEG or PNG")
    return data


class PhotoPanel(Panel):
    """A photo, as large as a window of this program."""

    guide = "build#boards-begun"

    def __init__(self, parent: QWidget, title: str, data: bytes) -> None:
        super().__init__(parent, title, "")
        self.picture = QLabel()
        self.picture.setAccessibleName(title)
        self.picture.setPixmap(
            QPixmap.fromImage(QImage.fromData(data)).scaled(
                *LARGEST, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
            )
        )
        self.column.insertWidget(1, self.picture)


def ask_photo(parent: QWidget, words: str) -> Path | None:
    """The photo somebody chooses; None where nobody does."""
    path, _ = QFileDialog.getOpenFileName(parent, words, "", "Photos (*.jpg *.jpeg *.png *.webp)")
    return Path(path) if path else None
