"""The small windows that open beside the work."""

from __future__ import annotations

import os
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from kelvor.core.history.steps import FrozenAs
from kelvor.core.levers.catalogue import with_length_at
from kelvor.ui.shape.steps_tape import ask_serial
from kelvor.ui.window.views import VIEWS

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow


class Dialogs:
    """Opens them for a window; none of them stops the work."""

    def __init__(self, window: MainWindow) -> None:
        self._window = window
        self.session = window.session
        self.shown: list[QWidget] = []
        """Those that are open, and some that were: the last is the newest."""
        self.session.start_finished.connect(self.watch_again)
        self.session.start_finished.connect(self.work_elsewhere)

    def show(self, dialog: QWidget) -> None:
        """Show a small window beside the work; the work goes on."""
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.shown = [p for p in self.shown if _alive(p)]
        self.shown.append(dialog)
        dialog.show()
        dialog.raise_()

    def decide(self) -> None:
        """Ask what became of the version on the bench."""
        from kelvor.ui.rack.decide_dialog import DecideDialog

        self.show(DecideDialog(self._window, self.session, self.session.step()))

    def log_session(self) -> None:
        """Open the form of a session in the Water view, as it was last time."""
        self._window.show_view("water")
        self._window.views["water"].log()  # type: ignore[attr-defined]

    def watch_again(self) -> None:
        """The folder that was watched for tracks before is watched again."""
        folder = self._window.settings.get("watched folder")
        if folder:
            from kelvor.ui.water.logbook import Logbook  # not before somebody watches one

            self.session.service(Logbook).watch(Path(folder))

    def freeze(self, kind: FrozenAs) -> None:
        """Mark the current step."""
        ask_serial(self._window, self.session, self.session.step(), kind)

    def ask_edge(self) -> None:
        """Ask for the straight edge's line and length."""
        from kelvor.ui.shape.dialogs import StraightEdgeDialog

        bench = self._window.shape.bench
        self.show(
            StraightEdgeDialog(self._window, self.session, bench.edge_line, bench.edge_length, self._window.lay_edge)
        )

    def reshape(self) -> None:
        """Ask which old board the new one is to be cut from."""
        from kelvor.ui.shape.dialogs import ReshapeDialog

        self.show(ReshapeDialog(self._window, self.session, self._window.shape.bench.reshaping.set_old))

    def choose_absorber(self) -> None:
        """Ask what takes up a change of a rocker line."""
        from kelvor.ui.shape.dialogs import AbsorberDialog

        self.show(AbsorberDialog(self._window, self.session, self._window.shape.bench.line_in_hand))

    def length_at(self) -> None:
        """Ask where to cut or add length."""
        from kelvor.ui.shape.dialogs import LengthDialog

        self.show(LengthDialog(self._window, self.session, with_length_at))

    def edit_layers(self) -> None:
        """Hold, order and switch bottom layers."""
        from kelvor.ui.shape.dialogs import LayersDialog

        self.show(LayersDialog(self._window, self.session))

    def seek(self) -> None:
        """Seek the least change that meets targets."""
        from kelvor.ui.seek.seek_panel import SeekPanel

        self.show(SeekPanel(self._window, self.session))

    def trade_off(self) -> None:
        """What one figure costs of another."""
        from kelvor.ui.seek.trade_panel import TradePanel

        self.show(TradePanel(self._window, self.session))

    def rider_says(self) -> None:
        """What a rider says, and which changes might answer."""
        from kelvor.ui.rider_says.panel import SaysPanel

        self.show(SaysPanel(self._window, self.session))

    def new_board(self) -> None:
        """Ask size and name of a new board."""
        from kelvor.ui.shape.dialogs import NewBoardDialog

        self.show(NewBoardDialog(self._window, self.session))

    def child_board(self) -> None:
        """A new board that begins as this step and remembers it."""
        from kelvor.ui.shape.dialogs import ChildDialog

        self.show(ChildDialog(self._window, self.session))

    def board_from_readings(self) -> None:
        """A board from tape, caliper, gauge, table or drawing."""
        from kelvor.ui.shape.readings_dialog import ReadingsDialog

        self.show(ReadingsDialog(self._window, self.session))

    def hand_out(self) -> None:
        """Export for the mill, for the drawing board or as paper templates."""
        from kelvor.ui.hand_out.dialog import HandOutDialog

        self.show(HandOutDialog(self._window, self.session, self._window.settings))

    def show_materials(self) -> None:
        """The table of materials."""
        from kelvor.ui.build.materials_dialog import MaterialsDialog

        self.show(MaterialsDialog(self._window, self.session))

    def show_findings(self) -> None:
        """Everything that is worth a look on the board; a click shows the place."""
        from kelvor.ui.shape.findings_panel import FindingsPanel

        def show(place: float) -> None:
            self._window.show_view("shape")
            self._window.shape.bench.set_station(place)

        self.show(FindingsPanel(self._window, self.session, show))

    def show_coefficients(self) -> None:
        """The table of coefficients of drive and ride."""
        from kelvor.ui.ride.coefficients_dialog import CoefficientsDialog

        self.show(CoefficientsDialog(self._window, self.session))

    def show_feel(self) -> None:
        """Words of feeling that mean the same to this workshop."""
        from kelvor.ui.rack.feel_dialog import FeelDialog

        self.show(FeelDialog(self._window, self.session))

    def show_copies(self) -> None:
        """Where a dated copy goes when the window closes."""
        from kelvor.ui.workshop.copies_dialog import CopiesDialog

        self.show(CopiesDialog(self._window, self._window.settings))

    def work_elsewhere(self) -> None:
        """Send long work where it was sent before; of an address that is new, ask."""
        from kelvor.ui.background.more_machines import VARIABLE

        address = os.environ.get(VARIABLE, "")
        if not address:
            return
        from kelvor.ui.background.runner import work_at
        from kelvor.ui.background.workers_dialog import consent_given

        said = consent_given(self._window.settings, address)
        if said == "yes":
            work_at(address)
        elif not said:
            self.show_workers()

    def show_workers(self) -> None:
        """Where long work goes."""
        from kelvor.ui.background.workers_dialog import WorkersDialog

        self.show(WorkersDialog(self._window, self._window.settings))

    def show_photo(self, title: str, sha: str) -> None:
        """A photo from the workshop, as large as fits."""
        from kelvor.ui.controls.photos import PhotoPanel

        self._window.guarded(
            lambda _: self.show(PhotoPanel(self._window, title, self.session.workshop.store.records.blob(sha)))
        )

    def show_schedule(self) -> None:
        """The work on the chosen made board, and the clock of its cures."""
        from kelvor.ui.build.schedule_panel import SchedulePanel

        panel = SchedulePanel(self._window, self.session)
        panel.card_asked.connect(self._window.papers.stage_card)
        self.show(panel)

    def show_orders(self) -> None:
        """Orders of the workshop."""
        from kelvor.ui.build.orders_panel import OrdersPanel

        panel = OrdersPanel(self._window, self.session)
        panel.list_asked.connect(lambda: self._window.papers.shopping_list(panel))
        self.show(panel)

    def show_proof(self) -> None:
        """A static proof load on the chosen made board."""
        from kelvor.ui.build.proof_panel import ProofPanel

        self._window.guarded(lambda _: self.show(ProofPanel(self._window, self.session)))

    def show_mill(self) -> None:
        """The workshop's mill: travels, cutters, feeds."""
        from kelvor.ui.build.mill_dialog import MillDialog

        self.show(MillDialog(self._window, self.session))

    def show_weights(self) -> None:
        """What any number of boards weigh."""
        from kelvor.ui.build.materials_dialog import WeightsDialog

        self.show(WeightsDialog(self._window, self.session))

    def show_board_notes(self) -> None:
        """Notes on the design that is on the bench."""
        from kelvor.ui.shape.notes_panel import NotesPanel

        self.show(NotesPanel(self._window, self.session))

    def show_not_saved(self) -> None:
        """List what waits, and what is damaged."""
        from kelvor.ui.window.not_saved import NotSavedPanel

        self.show(NotSavedPanel(self._window, self.session))

    def find_action(self) -> None:
        """Find an action by its words."""
        from kelvor.ui.window.finder import Finder

        self.show(Finder(self._window, self._window.actions_by_key))

    def guide(self, place: str = "") -> None:
        """The guide, at a place, or that of what has the keyboard."""
        from kelvor.ui.guide.guide_window import GuideWindow
        from kelvor.ui.window.guide_places import guide_place

        place = place or guide_place(self._window)
        there = next((p for p in self.shown if _alive(p) and isinstance(p, GuideWindow) and p.isVisible()), None)
        if there is None:
            self.show(GuideWindow(self._window, place))
        else:
            there.go(place)
            there.raise_()

    def first_steps(self) -> None:
        """What to do first."""
        from kelvor.ui.shape.dialogs import FirstStepsDialog

        self.show(FirstStepsDialog(self._window, [(view.words, view.shortcut, view.about) for view in VIEWS]))


def _alive(widget: QWidget) -> bool:
    import shiboken6

    return bool(shiboken6.isValid(widget))
