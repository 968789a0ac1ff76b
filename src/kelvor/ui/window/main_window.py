"""The main window: it only puts views, strip and tape together and answers the actions."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.units import System
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.build.papers import ShopPapers
from kelvor.ui.controls.panel import Elided, plain_label
from kelvor.ui.family.ruled_line import RuledLine
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.ride.strip import RideStrip
from kelvor.ui.session.session import Session
from kelvor.ui.settings import Settings
from kelvor.ui.shape.steps_tape import StepsTape
from kelvor.ui.shape.view import ShapeView
from kelvor.ui.theme.roles import DARK, LIGHT
from kelvor.ui.theme.style import apply_theme, font, icon, roles
from kelvor.ui.water.own_boards import OurBoards
from kelvor.ui.water.own_boards_label import OursLabel
from kelvor.ui.window.actions.dialogs import Dialogs
from kelvor.ui.window.actions.edits import BoardEdits
from kelvor.ui.window.actions.files import Files
from kelvor.ui.window.saving_bar import SavingBar
from kelvor.ui.window.views import FIRST, VIEWS

if TYPE_CHECKING:
    from kelvor.ui.compare.view import CompareView
    from kelvor.ui.ride.view import RideView


class MainWindow(QMainWindow):
    """One window on a workshop."""

    def __init__(self, session: Session, settings: Settings) -> None:
        super().__init__()
        self.session: Session = session
        self.settings: Settings = settings
        self.views: dict[str, QWidget] = {}
        """Views by their keys, as soon as they were shown."""
        self.dialogs: Dialogs = Dialogs(self)
        self.files: Files = Files(self)
        self.papers: ShopPapers = ShopPapers(self)
        self.actions_by_key: dict[str, QAction] = {}
        centre = QWidget()
        centre.setObjectName("ground")
        column = QVBoxLayout(centre)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.shape: ShapeView = ShapeView(session)
        self.edits: BoardEdits = BoardEdits(session, self.shape)
        self.strip = RideStrip()
        self.strip.asked.connect(self._phase_asked)
        self.tape: StepsTape = StepsTape(session)
        self.saving_bar = SavingBar(session)
        self.saving_bar.copy_asked.connect(self.files.ask_copy)
        self.saving_bar.list_asked.connect(self.dialogs.show_not_saved)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.shape)
        self.views[FIRST] = self.shape
        column.addWidget(self._bar())
        column.addWidget(self.strip)
        self.ruled = RuledLine(session, self.shape.bench)
        column.addWidget(self.ruled)
        column.addWidget(self.stack, 1)
        self.heard = plain_label()
        self.heard.setVisible(False)
        self.heard.setContentsMargins(14, 2, 14, 2)
        column.addWidget(self.heard)
        inset = QHBoxLayout()
        inset.setContentsMargins(10, 0, 10, 3)
        inset.addWidget(self.saving_bar)
        column.addLayout(inset)
        column.addWidget(self.tape)
        self.setCentralWidget(centre)
        if session.started:
            self._make_menu()
        else:
            session.start_finished.connect(self._make_menu)
        session.message.connect(self._heard)
        session.live_changed.connect(Throttle(self, 100, self._refresh_strip).call)
        session.settled.connect(self._refresh_strip)
        session.service(RideRequests).ridden.connect(self._refresh_strip)
        session.units_changed.connect(self._refresh_all)
        session.steps_changed.connect(self._refresh_all)
        session.board_opened.connect(self._refresh_all)
        session.workshop.records_changed.connect(self._refresh_strip)
        self.resize(1280, 800)
        self.tape.refresh()
        self._refresh_all()
        self.shape.bench.setFocus()

    # building

    def _bar(self) -> QWidget:
        bar = QWidget()
        bar.setObjectName("bar")
        bar.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(bar)
        row.setContentsMargins(6, 0, 8, 0)
        row.setSpacing(4)
        self.menu_button = QToolButton()
        self.menu_button.setIcon(icon("menu", "on_bar"))
        self.menu_button.setAccessibleName("Menu")
        self.menu_button.setToolTip("Menu (Alt+M)")
        self.menu_button.setShortcut(QKeySequence("Alt+M"))
        self.menu_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        name = QLabel("Kelvor")
        name.setFont(font(16, 700))
        self.title = Elided()
        self.title.setObjectName("quiet")
        row.addWidget(self.menu_button)
        row.addWidget(name)
        row.addSpacing(8)
        row.addWidget(self.title, 6)
        self.tabs = QButtonGroup(self)
        for i, view in enumerate(VIEWS):
            tab = QToolButton()
            tab.setText(view.words)
            tab.setCheckable(True)
            tab.setChecked(view.key == FIRST)
            tab.setFont(font(15, 500))
            tab.setToolTip(f"{view.about} ({view.shortcut})")
            tab.clicked.connect(lambda _=False, key=view.key: self.show_view(key))
            self.tabs.addButton(tab, i)
            row.addWidget(tab)
        row.addStretch(1)
        self.locks = QLabel()
        self.pinned, self.ours = QLabel(), OursLabel(self.session.service(OurBoards))
        self.units = QToolButton()
        self.units.setToolTip("Metric or inch (Ctrl+U)")
        self.units.clicked.connect(self.toggle_units)
        row.addWidget(self.locks)
        row.addSpacing(10)
        for shown in (self.ours, self.pinned, self.units):
            row.addWidget(shown)
        bar.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        return bar

    def _make_menu(self) -> None:
        from kelvor.ui.window.actions.menu import make_menu  # after the first picture

        make_menu(self)

    def guarded(self, run: object) -> None:
        """An action that the user's input stops says why and changes nothing."""
        try:
            run(self)  # type: ignore[operator]
        except KelvorError as error:
            self.session.message.emit("problem", str(error))

    # showing

    def _refresh_all(self) -> None:
        self._refresh_title()
        self._refresh_strip()

    def _refresh_title(self) -> None:
        session = self.session
        step = session.step()
        self.title.set_words(f"{session.board.name} · version {step.number}")
        self.setWindowTitle(
            f"{session.board.name} · version {step.number} · {session.workshop.store.path.name} · Kelvor"
        )
        name = session.overlays.name()
        self.pinned.setText(f'<span style="color:{DARK.pinned}">Reference: {name}</span>' if name else "no reference")
        words = {"volume": "volume", "width": "max width", "length_times_width": "length × width"}
        held = [words[m] for m in session.board.locks.measures] + [z.name for z in session.board.locks.zones]
        self.locks.setText(f"Holding {', '.join(held)}" if held else "")
        self.units.setText("cm · L · kg" if session.system is System.METRIC else "ft-in · L · lb")

    def _refresh_strip(self) -> None:
        session = self.session
        if not session.started:
            return
        from kelvor.ui.shown.panels import tiles

        shown = tiles(
            session.results.evaluation,
            session.live,
            session.results.figures(),
            session.service(RideRequests).behind(),
            session.overlays.figures,
            session.overlays.name(),
            session.system,
        )
        self.strip.show_tiles(shown)
        self.ruled.refresh()

    def _heard(self, kind: str, words: str) -> None:
        """What is said, in views that do not show it themselves."""
        self.heard.setVisible(bool(words) and not getattr(self.stack.currentWidget(), "says", False))
        self.heard.setObjectName("wrong" if kind == "problem" else "quiet")
        self.heard.style().polish(self.heard)
        self.heard.setText(words)

    def _phase_asked(self, key: str) -> None:
        self.show_view("ride")
        cast("RideView", self.views["ride"]).show_phase(key)

    def show_view(self, key: str) -> None:
        """Show a view, in the order of work; all but the first are made when first asked for."""
        self.heard.setVisible(False)
        place = next(i for i, view in enumerate(VIEWS) if view.key == key)
        if key not in self.views:
            self.views[key] = VIEWS[place].make(self)
            self.stack.addWidget(self.views[key])
        self.stack.setCurrentWidget(self.views[key])
        self.tabs.button(place).setChecked(True)
        self.strip.setVisible(VIEWS[place].tiles)

    @property
    def shown_view(self) -> str:
        """The view that is shown, by its key."""
        return next(key for key, view in self.views.items() if view is self.stack.currentWidget())

    def show_lever(self, key: str) -> None:
        """Go where a lever is pulled."""
        self.show_view("shape")
        self.shape.levers.list.choose(key)
        self.shape.levers.list.setFocus()

    def go(self, where: str) -> None:
        """Put the keyboard into a panel."""
        self.show_view("shape")
        {
            "levers": self.shape.levers.list,
            "bench": self.shape.bench,
            "ledger": self.shape.ledger,
            "steps": self.tape.dots,
        }[where].setFocus()

    def toggle_units(self) -> None:
        """Metric or inch."""
        self.session.set_system(System.INCH if self.session.system is System.METRIC else System.METRIC)
        self.settings.set("units", self.session.system.value)

    def toggle_theme(self) -> None:
        """Light or dark."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        chosen = LIGHT if roles() is DARK else DARK
        apply_theme(app, chosen)
        self.settings.set("theme", chosen.name)
        self.menu_button.setIcon(icon("menu", "on_bar"))
        self._refresh_all()
        for widget in self.findChildren(QWidget):
            widget.update()

    # steps

    # looking

    def toggle_solid(self) -> None:
        """The solid board in place of the drawing, or back."""
        self.show_view("shape")
        self.shape.toggle_solid()

    def toggle_edge(self) -> None:
        """Lay the straight edge on, or take it off."""
        self.shape.bench.set_edge(not self.shape.bench.edge_on)

    def lay_edge(self, line: str | None = None, length: float | None = None) -> None:
        """Lay the straight edge on another line, or take one of another length."""
        self.shape.bench.set_edge(True, line, length)

    # boards and workshops

    def comparing(self) -> CompareView:
        """The Compare view, shown."""
        self.show_view("compare")
        return cast("CompareView", self.views["compare"])

    def close_window(self) -> None:
        """Close."""
        self.close()

    def changeEvent(self, event: object) -> None:
        """Coming back to the window, take in what another one did."""
        super().changeEvent(event)  # type: ignore[arg-type]
        if self.isActiveWindow():
            self.guarded(lambda _: self.session.file.look_elsewhere())

    def _close_now(self) -> None:
        self.close()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Escape stops waiting for the file."""
        if event.key() == Qt.Key.Key_Escape and self.session.workshop.stop_waiting():
            return
        super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        """What waits is tried once more; if the disk still refuses, the window stays and asks."""
        self.session.about_to_leave.emit()
        if self.session.workshop.copying.running or not self.session.workshop.saving.save():
            self.saving_bar.ask_to_leave(self._close_now)
            event.ignore()
            return
        self.files.dated_copy()
        self.session.rest()
        self.files.imports.forget()
        for view in self.views.values():
            if hasattr(view, "shut"):
                view.shut()
        super().closeEvent(event)
