"""A folder that is watched for files to come."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject, Signal

from kelvor.ui.background.timers import single_shot

SETTLES_MS = 700
"""A file that appears is told so long after the folder stops changing."""


class WatchedFolder(QObject):
    """Tells every file of some endings once, when it is there and the folder is quiet."""

    appeared = Signal(Path)

    def __init__(self, endings: tuple[str, ...], parent: QObject) -> None:
        super().__init__(parent)
        self._endings = endings
        self._folder: Path | None = None
        self._watcher: QFileSystemWatcher | None = None
        self._told: set[Path] = set()
        self._settles = single_shot(self, SETTLES_MS, self._look)

    def watch(self, folder: Path | None) -> None:
        """Tell what lies in a folder and what comes into it from now on; None stops."""
        if self._watcher is not None:
            self._watcher.deleteLater()
            self._watcher = None
        self._folder = folder
        if folder is None or not folder.is_dir():
            return
        self._watcher = QFileSystemWatcher([str(folder)], self)
        self._watcher.directoryChanged.connect(lambda _: self._settles.start())
        self._settles.start()

    def _look(self) -> None:
        if self._folder is None:
            return
        try:
            files = sorted(p for p in self._folder.iterdir() if p.suffix.lower() in self._endings and p.is_file())
        except OSError:
            return
        for path in files:
            if path not in self._told:
                self._told.add(path)
                self.appeared.emit(path)
