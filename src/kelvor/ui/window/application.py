"""Starting the window.

The window's frame is shown before NumPy and the core are loaded, so that the
designer sees at once that something opens; the board follows.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtWidgets import QApplication, QLabel, QMainWindow, QVBoxLayout, QWidget

from kelvor.core.base.errors import KelvorError
from kelvor.files import swept
from kelvor.ui.background.garbage import GarbageCollector
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import DARK, LIGHT
from kelvor.ui.theme.style import apply_theme, font, load_fonts

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow
    from kelvor.workshop.store import Store

SIZE = (1280, 800)
LOOK_THROUGH_AFTER_MS = 4000
"""Every row of the workshop is read beside the window, once the first pictures are there."""
PAUSE_MS = 150
"""A file that another program holds is tried again this often while it is being opened."""


def data_folder() -> Path:
    """Where this user's workshops and habits lie (XDG base directory specification)."""
    base = os.environ.get("XDG_DATA_HOME")
    return (Path(base) if base and os.path.isabs(base) else Path.home() / ".local" / "share") / "kelvor"


def make_application() -> QApplication:
    """The application, with fonts."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
        GarbageCollector(app)
    app.setApplicationName("Kelvor")
    app.setDesktopFileName("kelvor")
    app.setStyle("Fusion")
    load_fonts()
    return app


def opening_window(words: str) -> QMainWindow:
    """The frame that stands while the workshop is opened."""
    window = QMainWindow()
    window.setWindowTitle("Kelvor")
    ground, bar = QWidget(), QWidget()
    ground.setObjectName("ground")
    bar.setObjectName("bar")
    bar.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    bar.setFixedHeight(38)
    label = QLabel(words)
    label.setObjectName("quiet")
    label.setFont(font(15))
    label.setAlignment(Qt.AlignmentFlag.AlignCenter)
    column = QVBoxLayout(ground)
    column.setContentsMargins(0, 0, 0, 0)
    column.addWidget(bar)
    column.addWidget(label, 1)
    window.setCentralWidget(ground)
    window.resize(*SIZE)
    return window


def open_store(workshop: Path | None, *, demo: bool, folder: Path) -> Store:
    """The workshop to begin with: the one named, the demo, or the user's own, made when missing; raises like
    `opened`.
    """
    from kelvor.ui.workshop.workshop import opened
    from kelvor.workshop.opening import GLANCE
    from kelvor.workshop.store import Store

    if workshop is not None:
        return opened(workshop, GLANCE)
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / ("demo.kelvor" if demo else "workshop.kelvor")
    if path.exists():
        return opened(path, GLANCE)
    if not demo:
        return Store.create(path)
    from kelvor.demo.workshop import create_demo
    from kelvor.files import written_whole

    with written_whole(path) as temporary:  # whole or not at all, should somebody close the window meanwhile
        temporary.unlink()
        create_demo(temporary).close()
    return Store.open(path, GLANCE)


def make_window(store: Store, settings: Settings) -> MainWindow:
    """A window on a workshop; an empty one begins with a first board, of a damaged one what is sound is shown."""
    from kelvor.core.base.units import System
    from kelvor.ui.window.assembly import session_on
    from kelvor.ui.window.main_window import MainWindow
    from kelvor.workshop.rows import Damaged

    try:
        session = session_on(store, settings.safety)
        session.file.begin()
    except Damaged:
        path = store.path
        store.close()
        session = session_on(store.open_sound(path), settings.safety)
        session.file.begin()
    session.system = (
        System(settings.get("units", "metric")) if settings.get("units") in ("metric", "inch") else System.METRIC
    )
    return MainWindow(session, settings)


def report_faults(window: MainWindow, folder: Path) -> None:
    """Faults of the program go into a report file and are said in the window; the work goes on."""

    def fault(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        import traceback

        if isinstance(error, KelvorError):  # somebody's input or the machine, from a place that did not expect it
            window.session.message.emit("problem", str(error))
            return
        words = "".join(traceback.format_exception(kind, error, trace))
        sys.stderr.write(words)
        path = folder / "fault-report.txt"
        try:
            folder.mkdir(parents=True, exist_ok=True)
            path.write_text(words, encoding="utf-8")
            where = f" What happened is written in {path}."
        except OSError:
            where = ""
        waiting = len(window.session.workshop.saving.waiting)
        kept = (
            "Everything you did is saved."
            if not waiting
            else f"{waiting} of your changes wait in this window, not saved yet."
        )
        window.session.message.emit("problem", f"Something went wrong inside Kelvor. {kept}{where}")

    sys.excepthook = fault


def _opened_patiently(
    app: QApplication, opening: QMainWindow, settings: Settings, store: Callable[[], Store]
) -> MainWindow | None:
    """The window, as soon as no other program holds the file; None when somebody closes the frame before."""
    from kelvor.workshop.opening import FileHeld

    while True:
        try:
            return make_window(store(), settings)
        except FileHeld as error:
            label = opening.findChild(QLabel)
            assert label is not None
            label.setText(
                f"{error.where}: another program holds the file.\nWaiting for it … Close this window to stop."
            )
        pause = QEventLoop()
        QTimer.singleShot(PAUSE_MS, pause.quit)
        pause.exec()
        if not opening.isVisible():
            return None


def run_application(workshop: Path | None, *, demo: bool) -> int:
    """Open the window and stay until it is closed."""
    folder = data_folder()
    if workshop is not None:
        from kelvor.workshop.opening import version_of

        version_of(workshop)  # what is no workshop is told before a window opens
    app = make_application()
    settings = Settings(folder / "settings.json")
    apply_theme(app, DARK if settings.get("theme") == "dark" else LIGHT)
    opening = opening_window("Opening the workshop …")
    opening.show()
    app.processEvents()
    try:
        window = _opened_patiently(app, opening, settings, lambda: open_store(workshop, demo=demo, folder=folder))
    except OSError as error:
        raise KelvorError(f"{folder}: {error.strerror}. Give a workshop file in a folder you can write to.") from None
    if window is None:
        return 0
    settings.remember(window.session.workshop.store.path)
    copies = settings.get("copies")
    written_to = [*settings.folders(), *([Path(copies)] if copies else [])]
    for swept_folder in {folder, *(Path(name).parent for name in settings.recent()), *written_to}:
        swept(swept_folder)
    report_faults(window, folder)
    QTimer.singleShot(LOOK_THROUGH_AFTER_MS, window.files.look_through)
    window.setGeometry(opening.geometry())
    window.show()
    opening.close()
    opening.deleteLater()
    code = app.exec()
    from kelvor.ui.background.runner import close_workers

    close_workers()
    return code
