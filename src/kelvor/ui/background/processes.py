"""Kelvor's own modules run as processes beside the window: readers, exports, probes, and the stand-ins of outside
devices.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QProcess, QProcessEnvironment, QTimer, Signal

import kelvor

READ_SECONDS = 30.0
"""Reading a file is ended after this long [s]; it ends itself sooner."""
SAFE = "-P"
"""Keeps Python from importing what lies in the folder somebody happens to stand in."""
LONGEST_LINE = 4096
"""A device that says more than this without an end of line says nothing we know [signs]."""


def start(process: QProcess, module: str, *arguments: str) -> None:
    """Start a module of Kelvor's in a process, wherever Kelvor itself was started from."""
    prepare(process, module, *arguments)
    process.start()


def prepare(process: QProcess, module: str, *arguments: str) -> None:
    """Set a process up to run a module of Kelvor's, and nothing that lies about in the current folder."""
    environment = QProcessEnvironment.systemEnvironment()
    environment.insert("PYTHONPATH", str(Path(kelvor.__file__).parents[1]))
    environment.insert("PYTHONSAFEPATH", "1")
    process.setProcessEnvironment(environment)
    process.setProgram(sys.executable)
    process.setArguments([SAFE, "-m", module, *arguments])


class CommandProcess(QObject):
    """One command of Kelvor's in a process of its own: the window goes on, cancel is a kill, and time is limited."""

    ended = Signal()
    """It is over, however it ended; what it led to was told before."""
    told = Signal(str)
    """How far it is, in words."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None
        self._done: Callable[[str], None]
        self._failed: Callable[[str], None]
        self._why = ""
        self._errors = ""
        self._clock = QTimer(self)
        self._clock.setSingleShot(True)
        self._clock.timeout.connect(self._too_long)

    @property
    def running(self) -> bool:
        """Whether it runs."""
        return self._process is not None

    def run(
        self,
        arguments: list[str],
        done: Callable[[str], None],
        failed: Callable[[str], None],
        *,
        given: str = "",
        seconds: float = 0.0,
    ) -> None:
        """Run ``kelvor`` with arguments and `given` on its input; `done` takes what it prints, `failed` why it could
        not.

        After `seconds` it is ended; 0 lets it take its time. A job that runs is cancelled first, unheard.
        """
        self.forget()
        process = QProcess(self)
        process.finished.connect(self._finished)
        process.errorOccurred.connect(self._no_start)
        process.readyReadStandardError.connect(self._heard)
        self._process, self._done, self._failed, self._why, self._errors = process, done, failed, "", ""
        self._seconds = seconds
        if seconds:
            self._clock.start(round(seconds * 1000))
        start(process, "kelvor", *arguments)
        process.write(given.encode("utf-8", "replace"))
        process.closeWriteChannel()

    def cancel(self) -> None:
        """End it; `failed` hears that it was cancelled."""
        if self._process is not None:
            self._why = "Cancelled. Nothing was written."
            self._process.kill()

    def forget(self) -> None:
        """End it, and hear nothing more of it."""
        process, self._process = self._process, None
        self._clock.stop()
        if process is not None:
            process.finished.disconnect()
            process.kill()
            process.waitForFinished(1000)

    def _too_long(self) -> None:
        if self._process is not None:
            self._why = f"It took longer than {self._seconds:.0f} s and was stopped."
            self._process.kill()

    def _no_start(self, error: QProcess.ProcessError) -> None:
        if error is QProcess.ProcessError.FailedToStart:
            self._end(lambda: self._failed("It could not be started."))

    def _heard(self) -> None:
        assert self._process is not None
        self._errors += bytes(self._process.readAllStandardError().data()).decode(errors="replace")
        lines = [line for line in self._errors[-4000:].splitlines() if line.startswith("· ")]
        if lines:
            self.told.emit(lines[-1][2:])

    def _finished(self, code: int, status: QProcess.ExitStatus) -> None:
        process = self._process
        if process is None:
            return
        self._heard()
        said = [line for line in self._errors.splitlines() if line.startswith("kelvor: ")]
        printed = bytes(process.readAllStandardOutput().data()).decode(errors="replace")
        if status is QProcess.ExitStatus.CrashExit:
            self._end(
                lambda: self._failed(
                    self._why or "It needed more time or memory than Kelvor gives it, and was stopped."
                )
            )
        elif code == 0:
            self._end(lambda: self._done(printed))
        else:
            self._end(lambda: self._failed(said[-1].removeprefix("kelvor: ") if said else "It could not be done."))

    def _end(self, tell: Callable[[], None]) -> None:
        self._process = None
        self._clock.stop()
        tell()
        self.ended.emit()


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

    def start(self, module: str, *arguments: str, given: str = "") -> None:
        """Begin to read; `given` is said to the device first."""
        self._buffer = ""
        self._process = QProcess(self)
        self._process.readyReadStandardOutput.connect(self._heard)
        self._process.finished.connect(self._finished)
        start(self._process, module, *arguments)
        if given:
            self._process.write(given.encode())
            self._process.closeWriteChannel()

    def stop(self, *, wait: bool = False) -> None:
        """Stop reading; with `wait`, not before it has stopped."""
        process = self._process
        if process is not None:
            process.kill()
            if wait:
                process.waitForFinished(1000)

    def _heard(self) -> None:
        if self._process is None:
            return
        self._buffer += bytes(self._process.readAllStandardOutput().data()).decode("ascii", "replace")
        *lines, self._buffer = self._buffer.split("\n")
        if len(self._buffer) > LONGEST_LINE:
            lines, self._buffer = [*lines, self._buffer[:LONGEST_LINE]], ""
        for words in lines:
            self.line.emit(words)

    def _finished(self) -> None:
        self._process = None
        self.stopped.emit()
