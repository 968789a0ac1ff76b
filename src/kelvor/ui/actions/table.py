"""All actions, as data: one table feeds menus, shortcuts, the finder and the tests."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from kelvor.core.history.steps import FROZEN_KINDS, FrozenAs
from kelvor.core.units import System

if TYPE_CHECKING:
    from kelvor.ui.main_window import MainWindow

Run = Callable[["MainWindow"], None]


@dataclass(frozen=True, slots=True)
class Action:
    """One action. `menu` is where it is found; "" keeps it out of the menus."""

    key: str
    label: str
    menu: str
    run: Run
    shortcut: str = ""


def _freeze(kind: FrozenAs, window: MainWindow) -> None:
    window.freeze(kind)


def _set_base(kind: str) -> Run:
    return lambda w: w.relevel(kind)  # type: ignore[arg-type]


ACTIONS: tuple[Action, ...] = (
    Action("workshop.new", "New workshop…", "Workshop", lambda w: w.new_workshop(), "Ctrl+Shift+N"),
    Action("workshop.open", "Open workshop…", "Workshop", lambda w: w.ask_workshop(), "Ctrl+O"),
    Action("workshop.window", "Another window on this workshop", "Workshop", lambda w: w.another_window()),
    Action("workshop.save", "Save waiting steps", "Workshop", lambda w: w.session.save(), "Ctrl+S"),
    Action("workshop.quit", "Close", "Workshop", lambda w: w.close_window(), "Ctrl+Q"),
    Action("board.new", "New board…", "Board", lambda w: w.new_board(), "Ctrl+N"),
    Action("board.child", "Child of this step…", "Board", lambda w: w.child_board(), "Ctrl+Shift+C"),
    Action("board.open", "Open another board…", "Board", lambda w: w.choose_board(), "Ctrl+B"),
    Action("board.import", "Import a board (JSON)…", "Board", lambda w: w.import_board(), "Ctrl+I"),
    Action("board.export", "Hand out: mesh, drawing, templates…", "Board", lambda w: w.hand_out(), "Ctrl+E"),
    Action("board.length", "Length at…", "Board", lambda w: w.length_at(), "Ctrl+L"),
    Action("board.tail.round", "Round tail", "Board/Tail", lambda w: w.set_tail("round")),
    Action("board.tail.squash", "Squash tail", "Board/Tail", lambda w: w.set_tail("squash")),
    Action("board.tail.chopped", "Chopped tail", "Board/Tail", lambda w: w.set_tail("chopped")),
    Action("board.nose.round", "Round nose", "Board/Nose", lambda w: w.set_nose("round")),
    Action("board.nose.pointed", "Pointed nose", "Board/Nose", lambda w: w.set_nose("pointed")),
    Action("board.nose.chopped", "Chopped nose", "Board/Nose", lambda w: w.set_nose("chopped")),
    Action("board.layer.belly", "Round belly", "Board/Add a bottom layer", lambda w: w.add_layer("belly")),
    Action("board.layer.v", "V", "Board/Add a bottom layer", lambda w: w.add_layer("v")),
    Action("board.layer.hollow", "Single hollow", "Board/Add a bottom layer", lambda w: w.add_layer("hollow")),
    Action("board.layer.bevel", "Outer bevel", "Board/Add a bottom layer", lambda w: w.add_layer("bevel")),
    Action("board.layer.cut_away", "Tail cut-away", "Board/Add a bottom layer", lambda w: w.add_layer("cut_away")),
    Action("board.layer.plinth", "Plinth across the tracks", "Board/Add a bottom layer", lambda w: w.add_layer("plinth")),
    Action("board.layers", "Bottom layers: hold, order, switch…", "Board", lambda w: w.edit_layers(), "Ctrl+Shift+L"),
    Action("board.base.table", "On the table", "Board/Lay it", _set_base("table")),
    Action("board.base.flat", "On a straight edge along the aft flat", "Board/Lay it", _set_base("aft flat")),
    Action("board.base.tracks", "On the track plane", "Board/Lay it", _set_base("tracks")),
    Action("board.base.middle", "Tangent at the middle", "Board/Lay it", _set_base("middle")),
    Action("edit.undo", "Undo", "Edit", lambda w: w.undo(), "Ctrl+Z"),
    Action("edit.redo", "Redo", "Edit", lambda w: w.redo(), "Ctrl+Shift+Z"),
    Action("edit.reason", "Write why", "Edit", lambda w: w.tape.reason.setFocus(), "Ctrl+R"),
    Action("edit.pin", "Pin this step", "Edit", lambda w: w.session.pin(w.session.current), "Ctrl+P"),
    Action("edit.unpin", "Take the pin off", "Edit", lambda w: w.session.pin(None), "Ctrl+Shift+P"),
    *(
        Action(f"edit.freeze.{kind}", kind.capitalize(), "Edit/Mark this step as", partial(_freeze, kind))
        for kind in FROZEN_KINDS
    ),
    Action("lock.volume", "Hold volume", "Locks", lambda w: w.toggle_lock("volume"), "Ctrl+Shift+V"),
    Action("lock.width", "Hold widest", "Locks", lambda w: w.toggle_lock("width"), "Ctrl+Shift+W"),
    Action("lock.area", "Hold length × width", "Locks", lambda w: w.toggle_lock("length_times_width"), "Ctrl+Shift+A"),
    Action("lock.zone.fore", "Lock all ahead of the cursor", "Locks", lambda w: w.lock_zone(ahead=True)),
    Action("lock.zone.aft", "Lock all behind the cursor", "Locks", lambda w: w.lock_zone(ahead=False)),
    Action("lock.free", "Unlock all zones", "Locks", lambda w: w.free_zones()),
    Action("view.brief", "Brief", "View", lambda w: w.show_view("brief"), "Ctrl+1"),
    Action("view.shape", "Shape", "View", lambda w: w.show_view("shape"), "Ctrl+2"),
    Action("view.units", "Metric or inch", "View", lambda w: w.toggle_units(), "Ctrl+U"),
    Action("view.metric", "Metric", "View/Units", lambda w: w.session.set_system(System.METRIC)),
    Action("view.inch", "Feet, inches and pounds", "View/Units", lambda w: w.session.set_system(System.INCH)),
    Action("view.theme", "Light or dark", "View", lambda w: w.toggle_theme(), "Ctrl+T"),
    Action("view.x1", "Profile at true height", "View/Profile", lambda w: w.shape.bench.set_stretch(1.0), "Alt+1"),
    Action("view.x2", "Profile ×2", "View/Profile", lambda w: w.shape.bench.set_stretch(2.0), "Alt+2"),
    Action("view.x5", "Profile ×5", "View/Profile", lambda w: w.shape.bench.set_stretch(5.0), "Alt+5"),
    Action("view.zero.tail", "Zero at the tail", "View/Zero", lambda w: w.set_zero("tail")),
    Action("view.zero.nose", "Zero at the nose", "View/Zero", lambda w: w.set_zero("nose")),
    Action("view.zero.middle", "Zero at the middle", "View/Zero", lambda w: w.set_zero("middle")),
    Action("view.zero.mast", "Zero at the foil mast", "View/Zero", lambda w: w.set_zero("mast")),
    Action("view.levers", "Go to the levers", "View", lambda w: w.go("levers"), "F6"),
    Action("view.bench", "Go to the bench", "View", lambda w: w.go("bench"), "F7"),
    Action("view.ledger", "Go to the ledger", "View", lambda w: w.go("ledger"), "F8"),
    Action("view.steps", "Go to the steps", "View", lambda w: w.go("steps"), "F9"),
    Action("help.find", "Find an action…", "Help", lambda w: w.find_action(), "Ctrl+K"),
    Action("help.first", "First steps", "Help", lambda w: w.first_steps(), "F1"),
)
