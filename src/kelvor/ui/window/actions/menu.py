"""The menu of a window, from the table of actions."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMenu

from kelvor.ui.window.actions.table import all_actions
from kelvor.ui.window.shortcuts import Shortcuts

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow


def make_menu(window: MainWindow) -> None:
    """Every action under its key, in the menu and by its shortcut."""
    menu = QMenu(window)
    submenus: dict[str, QMenu] = {}
    for action in all_actions():
        item = QAction(action.label, window)
        if action.shortcut:
            item.setShortcut(QKeySequence(action.shortcut))
            if action.everywhere:
                item.setShortcutContext(Qt.ShortcutContext.ApplicationShortcut)
        item.triggered.connect(lambda _=False, run=action.run: window.guarded(run))
        window.addAction(item)
        window.actions_by_key[action.key] = item
        parent, path = menu, ""
        for part in action.menu.split("/"):
            path = f"{path}/{part}"
            if path not in submenus:
                submenus[path] = parent.addMenu(part)
            parent = submenus[path]
        parent.addAction(item)
        if action.key == "workshop.open":
            recent = parent.addMenu("Recent workshops")
            recent.aboutToShow.connect(partial(_fill_recent, window, recent))
    Shortcuts(window, [action.shortcut for action in all_actions() if action.shortcut])
    menu.aboutToShow.connect(partial(name_undo, window))
    window.menu_button.setMenu(menu)


def name_undo(window: MainWindow) -> None:
    """Say what undo and redo would do."""
    gestures = window.session.workshop.gestures
    for key, verb, words in (("edit.undo", "Undo", gestures.last), ("edit.redo", "Redo", gestures.next)):
        shown = words if len(words) < 50 else f"{words[:48]}…"
        window.actions_by_key[key].setText(f"{verb}: {shown.replace('&', '&&')}" if words else verb)


def _fill_recent(window: MainWindow, recent: QMenu) -> None:
    recent.clear()
    for path in window.settings.recent():
        recent.addAction(path, partial(window.files.when_saved, partial(window.files.open_workshop, Path(path))))
    if recent.isEmpty():
        recent.addAction("none yet").setEnabled(False)
