"""Starting the window."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PySide6.QtWidgets import QApplication

from kelvor.core.brief import Brief
from kelvor.core.errors import KelvorError
from kelvor.core.units import System
from kelvor.ui.main_window import MainWindow
from kelvor.ui.session import Session
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import DARK, LIGHT
from kelvor.ui.theme.style import apply_theme, load_fonts
from kelvor.workshop.store import Store


def data_folder() -> Path:
    """Where this user's workshops and habits lie (XDG base directory specification)."""
    base = os.environ.get("XDG_DATA_HOME")
    return (Path(base) if base and os.path.isabs(base) else Path.home() / ".local" / "share") / "kelvor"


def make_application() -> QApplication:
    """The application, with fonts."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
    app.setApplicationName("Kelvor")
    app.setStyle("Fusion")
    load_fonts()
    return app


def open_store(workshop: Path | None, *, demo: bool, folder: Path) -> Store:
    """The workshop to begin with: the one named, the demo, or the user's own, made when missing."""
    if workshop is not None:
        return Store.open(workshop)
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / ("demo.kelvor" if demo else "workshop.kelvor")
    if path.exists():
        return Store.open(path)
    if demo:
        from kelvor.demo.workshop import create_demo

        return create_demo(path)
    return Store.create(path)


def make_window(store: Store, settings: Settings) -> MainWindow:
    """A window on a workshop; an empty one begins with a first board."""
    session = Session(store)
    last = store.last_board()
    if last is None:
        from kelvor.core.shape.starter import starter_foil_board

        session.add_board(starter_foil_board("First board", 1.45, 0.50, 0.09), Brief(), "Began as a fair foil board")
    else:
        session.open_board(last)
    session.system = System(settings.get("units", "metric")) if settings.get("units") in ("metric", "inch") else System.METRIC
    return MainWindow(session, settings)


def run(workshop: Path | None, *, demo: bool) -> int:
    """Open the window and stay until it is closed."""
    folder = data_folder()
    try:
        store = open_store(workshop, demo=demo, folder=folder)
    except OSError as error:
        raise KelvorError(f"{folder}: {error.strerror}. Give a workshop file in a folder you can write to.") from None
    app = make_application()
    settings = Settings(folder / "settings.json")
    apply_theme(app, DARK if settings.get("theme") == "dark" else LIGHT)
    window = make_window(store, settings)
    settings.remember(store.path)
    window.show()
    return app.exec()
