"""The main window: it only puts views, strip and tape together and answers the actions."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QProcess, Qt
from PySide6.QtGui import QAction, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from kelvor.core.errors import KelvorError, one_line
from kelvor.core.history.steps import FrozenAs
from kelvor.core.levers.catalogue import with_length_at
from kelvor.core.units import System
from kelvor.ui.actions.edits import BoardEdits
from kelvor.ui.actions.table import all_actions
from kelvor.ui.processes import READ_SECONDS, Subject, prepare
from kelvor.ui.runner import Asked
from kelvor.ui.session import Session
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import DARK, LIGHT
from kelvor.ui.theme.style import apply_theme, font, icon, roles
from kelvor.ui.throttle import Throttle
from kelvor.ui.views.registry import FIRST, VIEWS
from kelvor.ui.views.shape_view import ShapeView
from kelvor.ui.widgets.panel import Elided, plain_label
from kelvor.ui.widgets.ride_strip import RideStrip
from kelvor.ui.widgets.saving_bar import SavingBar, ask_where
from kelvor.ui.widgets.steps_tape import StepsTape, ask_serial

if TYPE_CHECKING:
    from kelvor.ui.views.compare_view import CompareView
    from kelvor.ui.views.ride_view import RideView


class MainWindow(QMainWindow):
    """One window on a workshop."""

    def __init__(self, session: Session, settings: Settings) -> None:
        super().__init__()
        self.session: Session = session
        self.settings: Settings = settings
        self.views: dict[str, QWidget] = {}
        """Views by their keys, as soon as they were shown."""
        self.panels: list[QWidget] = []
        self.imports: Subject = Subject(self)
        self._sheets = Asked(
            self, "The material sheet was not written", self._sheet_written, failed=self._not_done, here=True
        )
        self._checks = Asked(self, "The workshop was not looked through", self._found, failed=self._not_done, here=True)
        self._looked_through = session.workshop.store.path
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
        self.saving_bar.copy_asked.connect(self.ask_copy)
        self.saving_bar.list_asked.connect(self.show_not_saved)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.shape)
        self.views[FIRST] = self.shape
        column.addWidget(self._bar())
        column.addWidget(self.strip)
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
        if session.standing:
            self._make_actions()
        else:
            session.stood.connect(self._make_actions)
        session.said.connect(self._heard)
        session.live_changed.connect(Throttle(self, 100, self._refresh_strip).call)
        session.settled.connect(self._refresh_strip)
        session.riding.ridden.connect(self._refresh_strip)
        session.units_changed.connect(self._refresh_all)
        session.steps_changed.connect(self._refresh_all)
        session.board_opened.connect(self._refresh_all)
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
        row.addWidget(self.title, 1)
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
        self.pinned = QLabel()
        self.units = QToolButton()
        self.units.setToolTip("Metric or inch (Ctrl+U)")
        self.units.clicked.connect(self.toggle_units)
        row.addWidget(self.locks)
        row.addSpacing(10)
        row.addWidget(self.pinned)
        row.addWidget(self.units)
        bar.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        return bar

    def _make_actions(self) -> None:
        menu = QMenu(self)
        submenus: dict[str, QMenu] = {}
        for action in all_actions():
            item = QAction(action.label, self)
            if action.shortcut:
                item.setShortcut(QKeySequence(action.shortcut))
            item.triggered.connect(lambda _=False, run=action.run: self._guarded(run))
            self.addAction(item)
            self.actions_by_key[action.key] = item
            parent, path = menu, ""
            for part in action.menu.split("/"):
                path = f"{path}/{part}"
                if path not in submenus:
                    submenus[path] = parent.addMenu(part)
                parent = submenus[path]
            parent.addAction(item)
            if action.key == "workshop.open":
                self._recent_menu = parent.addMenu("Recent workshops")
                self._recent_menu.aboutToShow.connect(self._fill_recent)
        menu.aboutToShow.connect(self._name_undo)
        self.menu_button.setMenu(menu)

    def _name_undo(self) -> None:
        """Say what undo and redo would do."""
        gestures = self.session.workshop.gestures
        for key, verb, words in (("edit.undo", "Undo", gestures.last), ("edit.redo", "Redo", gestures.next)):
            shown = words if len(words) < 50 else f"{words[:48]}…"
            self.actions_by_key[key].setText(f"{verb}: {shown.replace('&', '&&')}" if words else verb)

    def _guarded(self, run: object) -> None:
        """An action that the user's input stops says why and changes nothing."""
        try:
            run(self)  # type: ignore[operator]
        except KelvorError as error:
            self.session.said.emit("problem", str(error))

    def _fill_recent(self) -> None:
        self._recent_menu.clear()
        for path in self.settings.recent():
            self._recent_menu.addAction(path, partial(self._when_saved, partial(self.open_workshop, Path(path))))
        if self._recent_menu.isEmpty():
            self._recent_menu.addAction("none yet").setEnabled(False)

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
        name = session.pinned_name()
        self.pinned.setText(f'<span style="color:{DARK.pinned}">Reference: {name}</span>' if name else "no reference")
        words = {"volume": "volume", "width": "max width", "length_times_width": "length × width"}
        held = [words[m] for m in session.board.locks.measures] + [z.name for z in session.board.locks.zones]
        self.locks.setText(f"Holding {', '.join(held)}" if held else "")
        self.units.setText("cm · L · kg" if session.system is System.METRIC else "ft-in · L · lb")

    def _refresh_strip(self) -> None:
        session = self.session
        if not session.standing:
            return
        from kelvor.ui.presenters.panels import tiles

        shown = tiles(
            session.evaluation,
            session.live,
            session.figures(),
            session.riding.behind(),
            session.pinned_figures,
            session.pinned_name(),
            session.system,
        )
        self.strip.show_tiles(shown)

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

    def decide(self) -> None:
        """Ask what became of the version on the bench."""
        from kelvor.ui.widgets.decide_dialog import DecideDialog

        self._panel(DecideDialog(self, self.session, self.session.step()))

    def freeze(self, kind: FrozenAs) -> None:
        """Mark the current step."""
        ask_serial(self, self.session, self.session.step(), kind)

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

    def ask_edge(self) -> None:
        """Ask for the straight edge's line and length."""
        from kelvor.ui.widgets.dialogs import StraightEdgeDialog

        bench = self.shape.bench
        self._panel(StraightEdgeDialog(self, self.session, bench.edge_line, bench.edge_length, self.lay_edge))

    def reshape(self) -> None:
        """Ask which old board the new one is to be cut from."""
        from kelvor.ui.widgets.dialogs import ReshapeDialog

        self._panel(ReshapeDialog(self, self.session, self.shape.bench.reshaping.set_old))

    def choose_absorber(self) -> None:
        """Ask what takes up a change of a rocker line."""
        from kelvor.ui.widgets.dialogs import AbsorberDialog

        self._panel(AbsorberDialog(self, self.session, self.shape.bench.line_in_hand))

    def length_at(self) -> None:
        """Ask where to cut or add length."""
        from kelvor.ui.widgets.dialogs import LengthDialog

        self._panel(LengthDialog(self, self.session, with_length_at))

    def edit_layers(self) -> None:
        """Hold, order and switch bottom layers."""
        from kelvor.ui.widgets.dialogs import LayersDialog

        self._panel(LayersDialog(self, self.session))

    # boards and workshops

    def new_board(self) -> None:
        """Ask size and name of a new board."""
        from kelvor.ui.widgets.dialogs import NewBoardDialog

        self._panel(NewBoardDialog(self, self.session))

    def child_board(self) -> None:
        """A new board that begins as this step and remembers it."""
        from kelvor.ui.widgets.dialogs import ChildDialog

        self._panel(ChildDialog(self, self.session))

    def board_from_readings(self) -> None:
        """A board from tape, caliper, gauge, table or drawing."""
        from kelvor.ui.widgets.readings_dialog import ReadingsDialog

        self._panel(ReadingsDialog(self, self.session))

    def import_board(self) -> None:
        """Read a board document."""
        dialog = self._file_dialog("Import a board", "Board documents (*.json)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self.import_from(Path(path)))
        self._panel(dialog)

    def import_from(self, path: Path) -> None:
        """Add the board of a document to the workshop; it is read beside the window."""
        self.session.said.emit("note", f"Reading {path.name} …")
        self.imports.run(
            ["read", "board", str(path)],
            partial(self._imported, path),
            lambda words: self.session.said.emit("problem", words),
            seconds=READ_SECONDS,
        )

    def _imported(self, path: Path, printed: str) -> None:
        from kelvor.exchange.documents import board_of_text

        title = one_line(f"Imported from {path.name}", 120)
        self._guarded(lambda _: self.session.add_board(board_of_text(printed), self.session.brief, title))

    def hand_out(self) -> None:
        """Export for the mill, for the drawing board or as paper templates."""
        from kelvor.ui.widgets.hand_out import HandOutDialog

        self._panel(HandOutDialog(self, self.session, self.settings))

    def show_materials(self) -> None:
        """The table of materials."""
        from kelvor.ui.widgets.materials_dialog import MaterialsDialog

        self._panel(MaterialsDialog(self, self.session))

    def show_findings(self) -> None:
        """Everything that is worth a look on the board; a click shows the place."""
        from kelvor.ui.widgets.findings_panel import FindingsPanel

        def show(place: float) -> None:
            self.show_view("shape")
            self.shape.bench.set_station(place)

        self._panel(FindingsPanel(self, self.session, show))

    def show_coefficients(self) -> None:
        """The table of coefficients of drive and ride."""
        from kelvor.ui.widgets.coefficients_dialog import CoefficientsDialog

        self._panel(CoefficientsDialog(self, self.session))

    def comparing(self) -> CompareView:
        """The Compare view, shown."""
        self.show_view("compare")
        return cast("CompareView", self.views["compare"])

    def show_feel(self) -> None:
        """Words of feeling that mean the same to this workshop."""
        from kelvor.ui.rack.feel_dialog import FeelDialog

        self._panel(FeelDialog(self, self.session))

    def show_copies(self) -> None:
        """Where a dated copy goes when the window closes."""
        from kelvor.ui.widgets.copies_dialog import CopiesDialog

        self._panel(CopiesDialog(self, self.settings))

    def show_weights(self) -> None:
        """What any number of boards weigh."""
        from kelvor.ui.widgets.materials_dialog import WeightsDialog

        self._panel(WeightsDialog(self, self.session))

    def material_sheet(self) -> None:
        """Ask where the material sheet goes: PDF, CSV, or DXF of the cloth."""
        kinds = "Sheet on paper (*.pdf);;Table (*.csv);;Cloth to cut (*.dxf)"
        self.ask_where("Material sheet", kinds, f"{self.session.board.name} material sheet.pdf", self.write_sheet)

    def ask_where(self, title: str, kinds: str, name: str, write: Callable[[Path], object]) -> None:
        """Ask where a file goes, beside the work; then `write` it there. The dialog asks whether it may replace one."""
        dialog = self._file_dialog(title, kinds, QFileDialog.AcceptMode.AcceptSave)
        dialog.setDefaultSuffix(Path(name).suffix[1:])
        dialog.selectFile(name)
        dialog.fileSelected.connect(lambda path: write(Path(path)))
        self._panel(dialog)

    def write_sheet(self, path: Path) -> None:
        """Write the material sheet, beside the window; the dialog has asked whether it may be written over what is
        there.
        """
        from kelvor.exchange.sheets import write_sheet_of

        session = self.session
        self.settings.handed_out(path.parent)
        self._sheets.ask(write_sheet_of, [(session.board, session.brief, session.table, path, True)])

    def _not_done(self, words: str) -> None:
        self.session.said.emit("problem", words)

    def _sheet_written(self, paths: list[Path]) -> None:
        self.session.said.emit("note", f"Material sheet written: {paths[0]}")

    def look_through(self) -> None:
        """Read every row of the workshop beside the window, and say what of it cannot be read."""
        from kelvor.exchange.checking import problems

        path = self.session.workshop.store.path
        self._looked_through = path
        self._checks.ask(problems, [(path,)])

    def _found(self, found: list[list[str]]) -> None:
        self.session.workshop.doubt(self._looked_through, found[0])

    def save(self) -> None:
        """Try again what waits."""
        if self.session.workshop.saving.save():
            self.session.said.emit("note", "Everything is saved.")

    def show_not_saved(self) -> None:
        """List what waits, and what is damaged."""
        from kelvor.ui.widgets.not_saved import NotSavedPanel

        self._panel(NotSavedPanel(self, self.session))

    def ask_copy(self) -> None:
        """Ask where a copy of everything goes."""
        dialog = ask_where(self, self.session)
        dialog.fileSelected.connect(lambda path: self._guarded(lambda _: self.save_copy(Path(path))))
        self._panel(dialog)

    def save_copy(self, path: Path) -> None:
        """Save a copy of everything, and go on in it."""
        self.session.save_copy(path)
        self.saving_bar.refresh()

    def _when_saved(self, then: Callable[[], None]) -> None:
        """Do what leaves the open workshop: at once when all is saved, else when somebody has said what becomes of what
        waits.
        """
        self.session.about_to_leave.emit()
        if self.session.workshop.saving.save():
            then()
        else:
            self.saving_bar.ask_to_leave(then)

    def new_workshop(self) -> None:
        """Ask for a new workshop file; what stands there already is left as it is."""
        dialog = self._file_dialog("New workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptSave)
        dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)
        dialog.setDefaultSuffix("kelvor")
        dialog.fileSelected.connect(
            lambda path: self._when_saved(lambda: self._guarded(lambda _: self.create_workshop(Path(path))))
        )
        self._panel(dialog)

    def create_workshop(self, path: Path) -> None:
        """A new workshop with a first board, in this window."""
        self.session.create_workshop(path)
        self.settings.remember(path)

    def ask_workshop(self) -> None:
        """Ask which workshop to open."""
        dialog = self._file_dialog("Open workshop", "Workshops (*.kelvor)", QFileDialog.AcceptMode.AcceptOpen)
        dialog.fileSelected.connect(lambda path: self._when_saved(lambda: self.open_workshop(Path(path))))
        self._panel(dialog)

    def open_workshop(self, path: Path) -> None:
        """Open a workshop in this window, or say why not."""
        try:
            self.session.open_workshop(path)
            self.settings.remember(path)
            self.look_through()
        except KelvorError as error:
            self.session.said.emit("problem", str(error))

    def another_window(self) -> None:
        """A second window on the same file, in a process of its own."""
        process = QProcess(self)
        prepare(process, "kelvor", str(self.session.workshop.store.path))
        process.startDetached()

    def _file_dialog(self, title: str, kinds: str, mode: QFileDialog.AcceptMode) -> QFileDialog:
        dialog = QFileDialog(self, title, str(Path.home()), kinds)
        dialog.setAcceptMode(mode)
        return dialog

    def _panel(self, dialog: QWidget) -> None:
        """Show a small window beside the work; the work goes on."""
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.panels = [p for p in self.panels if _alive(p)]
        self.panels.append(dialog)
        dialog.show()
        dialog.raise_()

    def find_action(self) -> None:
        """Find an action by its words."""
        from kelvor.ui.widgets.finder import Finder

        self._panel(Finder(self, self.actions_by_key))

    def first_steps(self) -> None:
        """What to do first."""
        from kelvor.ui.widgets.dialogs import FirstStepsDialog

        self._panel(FirstStepsDialog(self, [(view.words, view.shortcut, view.about) for view in VIEWS]))

    def close_window(self) -> None:
        """Close."""
        self.close()

    def changeEvent(self, event: object) -> None:
        """Coming back to the window, take in what another one did."""
        super().changeEvent(event)  # type: ignore[arg-type]
        if self.isActiveWindow():
            self._guarded(lambda _: self.session.look_elsewhere())

    def _close_now(self) -> None:
        self.close()

    def _dated_copy(self) -> None:
        """A copy of the day into the folder the user named; what cannot be written is told at the next start."""
        folder = self.settings.get("copies")
        if folder:
            from kelvor.exchange.dated import dated_copy

            try:
                dated_copy(self.session.workshop.store, Path(folder), pages=self.settings.get("copies_pages") == "yes")
                self.settings.set("copies_trouble", "")
            except KelvorError as error:
                self.settings.set("copies_trouble", str(error))

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
        self._dated_copy()
        self.session.rest()
        self.imports.forget()
        for view in self.views.values():
            if hasattr(view, "shut"):
                view.shut()
        super().closeEvent(event)


def _alive(widget: QWidget) -> bool:
    import shiboken6

    return bool(shiboken6.isValid(widget))
