"""Kelvor's own modules run as processes beside the window: probes, and the stand-ins of outside devices."""

from __future__ import annotations

import sys
from pathlib import Path

from PySide6.QtCore import QObject, QProcess, QProcessEnvironment, Signal

import kelvor


def start(process: QProcess, module: str, *arguments: str) -> None:
    """Start a module of Kelvor's in a process, wherever Kelvor itself was started from."""
    environment = QProcessEnvironment.systemEnvironment()
    environment.insert("PYTHONPATH", str(Path(kelvor.__file__).parents[1]))
    process.setProcessEnvironment(environment)
    process.start(sys.executable, ["-m", module, *arguments])


class Device(QObject):
    """An outside device read line by line."""

    line = Signal(str)
    stopped = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None
        self._buffer = ""

    def reading(self) -> bool:
        """Whether it is being read."""
        return self._process is not None

    def start(self, module: str, *arguments: str) -> None:
        """Begin to read."""
        self._buffer = ""
        self._process = QProcess(self)
        self._process.readyReadStandardOutput.connect(self._heard)
        self._process.finished.connect(self._finished)
        start(self._process, module, *arguments)

    def stop(self, *, wait: bool = False) -> None:
        """Stop reading; with `wait`, not before it has stopped."""
        process = self._process
        if process is not None:
            process.kill()
            if wait:
                process.waitForFinished(1000)

    def _heard(self) -> None:
        assert self._process is not None
        self._buffer += bytes(self._process.readAllStandardOutput().data()).decode("ascii", "replace")
        *lines, self._buffer = self._buffer.split("\n")
        for words in lines:
            self.line.emit(words)

    def _finished(self) -> None:
        self._process = None
        self.stopped.emit()
