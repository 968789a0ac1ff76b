"""Which place of the guide the field that has the keyboard leads to."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication, QTabWidget, QWidget

from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.guide.pages import LEVER_PLACES, TAB_PLACES
from kelvor.ui.shape.levers_panel import LeversPanel
from kelvor.ui.window.views import VIEWS

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow


def guide_place(window: MainWindow) -> str:
    """From the field outward: a lever's group, a small window, else the page of the view that is shown."""
    widget: QWidget | None = QApplication.focusWidget()
    while widget is not None and widget is not window:
        if isinstance(widget, Panel) and widget.guide:
            return widget.guide
        if isinstance(widget, LeversPanel) and (group := widget.group()) in LEVER_PLACES:
            return LEVER_PLACES[group]
        widget = widget.parentWidget()
    key = window.shown_view
    tabs = getattr(window.views[key], "tabs", None)
    if isinstance(tabs, QTabWidget) and (words := tabs.tabText(tabs.currentIndex())) in TAB_PLACES:
        return TAB_PLACES[words]
    return next(view.guide for view in VIEWS if view.key == key)
