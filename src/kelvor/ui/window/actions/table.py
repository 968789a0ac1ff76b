"""All actions, as data: one table feeds menus, shortcuts, the finder and the tests."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, get_args

from kelvor.core.base.units import System
from kelvor.core.base.values import frozen
from kelvor.core.history.steps import FROZEN_KINDS, FrozenAs
from kelvor.core.levers.additions import BOTTOM, DECK
from kelvor.core.levers.rocker_lines import ROCKER_LINES, RockerLine
from kelvor.core.shape.checks.fairness import LINES
from kelvor.core.shape.curves.outline import NoseKind, TailKind
from kelvor.core.shape.parts.fin_sets import ARRANGEMENTS, Arrangement
from kelvor.ui.shape.section_panel import SECTION_MODES
from kelvor.ui.water.own_boards import OurBoards
from kelvor.ui.window.views import VIEWS

if TYPE_CHECKING:
    from kelvor.ui.window.main_window import MainWindow

Run = Callable[["MainWindow"], None]


@frozen
class Action:
    """One action. `menu` is where it is found; "" keeps it out of the menus."""

    key: str
    label: str
    menu: str
    run: Run
    shortcut: str = ""
    everywhere: bool = False
    """Whether its key works from small windows too."""


def _show(view: str, window: MainWindow) -> None:
    window.show_view(view)


def _freeze(kind: FrozenAs, window: MainWindow) -> None:
    window.dialogs.freeze(kind)


def _tail(kind: TailKind, window: MainWindow) -> None:
    window.edits.set_tail(kind)


def _nose(kind: NoseKind, window: MainWindow) -> None:
    window.edits.set_nose(kind)


def _layer(key: str, window: MainWindow) -> None:
    window.edits.add_layer(key)


def _fins(kind: Arrangement, window: MainWindow) -> None:
    window.edits.set_fins(kind)


def _fitting(kind: str, window: MainWindow) -> None:
    window.edits.add_fitting(kind)


def _fitting_off(kind: str, window: MainWindow) -> None:
    window.edits.fittings_off(kind)


def _mill(window: MainWindow) -> None:
    from kelvor.ui.build.view import BuildView  # made when first asked for

    window.show_view("build")
    view = window.views["build"]
    assert isinstance(view, BuildView)
    view.tabs.setCurrentWidget(view.mill)


TAILS = get_args(TailKind)
NOSES = get_args(NoseKind)
_FIN_WORDS = {
    "none": "No fins",
    "single": "Single fin",
    "2+1": "Centre fin and side fins",
    "twin": "Twin fins",
    "three": "Three fins",
    "four": "Four fins",
    "five boxes": "Five boxes",
    "four ends": "Four fins at the corners",
}
_FITTING_WORDS = (
    ("tracks", "Foil tracks"),
    ("foil box", "Deep foil box"),
    ("mast track", "Mast track"),
    ("strap row", "Strap or insert row"),
    ("vent", "Vent"),
    ("leash plug", "Leash plug"),
    ("handle", "Handle"),
    ("pad", "Deck pad"),
)
_OFF_WORDS = (
    ("tracks", "Foil tracks or box"),
    ("mast track", "Mast track"),
    ("straps", "All strap rows"),
    ("plugs", "Vents, plugs and handles"),
    ("pads", "Deck pads"),
)


def _edge(line: str, window: MainWindow) -> None:
    window.lay_edge(line=line)


def _line(line: RockerLine, window: MainWindow) -> None:
    window.shape.bench.set_line(line)


def _sections(mode: str, window: MainWindow) -> None:
    window.shape.section.set_mode(mode)


def _set_base(kind: str) -> Run:
    return lambda w: w.edits.relevel(kind)  # type: ignore[arg-type]


ACTIONS: tuple[Action, ...] = (
    Action("workshop.new", "New workshop…", "Workshop", lambda w: w.files.new_workshop(), "Ctrl+Shift+N"),
    Action("workshop.open", "Open workshop…", "Workshop", lambda w: w.files.ask_workshop(), "Ctrl+O"),
    Action("workshop.window", "Another window on this workshop", "Workshop", lambda w: w.files.another_window()),
    Action("workshop.save", "Save again what waits", "Workshop", lambda w: w.files.save(), "Ctrl+S"),
    Action("workshop.copy", "Save a copy of everything…", "Workshop", lambda w: w.files.ask_copy(), "Ctrl+Shift+S"),
    Action("compare.felt", "The least that is felt…", "Workshop", lambda w: w.comparing().ledger.ask_felt()),
    Action("compare.page", "Page of the boards compared…", "Workshop", lambda w: w.comparing().ledger.ask_page()),
    Action("workshop.feel", "Words that mean the same…", "Workshop", lambda w: w.dialogs.show_feel()),
    Action("workshop.copies", "Dated copies on closing…", "Workshop", lambda w: w.dialogs.show_copies()),
    Action("workshop.workers", "Long work on other machines…", "Workshop", lambda w: w.dialogs.show_workers()),
    Action("workshop.quit", "Close", "Workshop", lambda w: w.close_window(), "Ctrl+Q"),
    Action("board.new", "New board…", "Board", lambda w: w.dialogs.new_board(), "Ctrl+N"),
    Action(
        "board.readings",
        "Board from readings: tape, gauge, table, drawing…",
        "Board",
        lambda w: w.dialogs.board_from_readings(),
        "Ctrl+Shift+M",
    ),
    Action("board.child", "Child of this step…", "Board", lambda w: w.dialogs.child_board(), "Ctrl+Shift+C"),
    Action("board.import", "Import a board (JSON)…", "Board", lambda w: w.files.import_board(), "Ctrl+I"),
    Action("board.export", "Hand out: mesh, drawing, templates…", "Board", lambda w: w.dialogs.hand_out(), "Ctrl+E"),
    Action(
        "board.sheet",
        "Material sheet: cloth, resin, order…",
        "Board",
        lambda w: w.files.material_sheet(),
        "Ctrl+Shift+E",
    ),
    Action("board.papers", "Ship card and care sheet…", "Board", lambda w: w.papers.ship_papers()),
    Action("board.measures", "Measure sheet: what it should read…", "Board", lambda w: w.papers.measure_sheet()),
    Action("build.orders", "Orders, shopping list, custom or moulded…", "Board", lambda w: w.dialogs.show_orders()),
    Action("build.proof", "Proof load of the chosen made board…", "Board", lambda w: w.dialogs.show_proof()),
    Action("build.mill", "Cut the core on the simulated mill", "Board", _mill),
    Action("build.materials", "Materials and rates…", "Board", lambda w: w.dialogs.show_materials()),
    Action("ride.coefficients", "Coefficients of drive and ride…", "Board", lambda w: w.dialogs.show_coefficients()),
    Action("build.schedule", "Schedule: order of work and cures…", "Board", lambda w: w.dialogs.show_schedule()),
    Action("build.weights", "What boards weigh…", "Board", lambda w: w.dialogs.show_weights()),
    Action(
        "board.seek", "Seek the least change that meets targets…", "Board", lambda w: w.dialogs.seek(), "Ctrl+Shift+F"
    ),
    Action("board.says", "The rider says…", "Board", lambda w: w.dialogs.rider_says(), "Ctrl+Shift+Y"),
    Action("board.trade", "Trade-off between two figures…", "Board", lambda w: w.dialogs.trade_off(), "Ctrl+Shift+J"),
    Action("board.notes", "Notes of rule, patent, name, safety…", "Board", lambda w: w.dialogs.show_board_notes()),
    Action("board.length", "Length at…", "Board", lambda w: w.dialogs.length_at(), "Ctrl+L"),
    *(Action(f"board.tail.{kind}", f"{kind.capitalize()} tail", "Board/Tail", partial(_tail, kind)) for kind in TAILS),
    *(Action(f"board.nose.{kind}", f"{kind.capitalize()} nose", "Board/Nose", partial(_nose, kind)) for kind in NOSES),
    Action("board.winger", "Winger at the cursor", "Board/Outline", lambda w: w.edits.add_winger("winger")),
    Action("board.hip", "Hip at the cursor", "Board/Outline", lambda w: w.edits.add_winger("hip")),
    Action("board.wingers.off", "Take wingers and hips off", "Board/Outline", lambda w: w.edits.wingers_off()),
    Action("board.parallel", "Parallel run at the cursor", "Board/Outline", lambda w: w.edits.parallel_run()),
    Action("board.mirrored", "Same end for end, or not", "Board/Outline", lambda w: w.edits.toggle_mirrored()),
    Action(
        "board.side_wall", "Plain side wall, or rounded rail", "Board/Outline", lambda w: w.edits.toggle_side_wall()
    ),
    *(
        Action(f"board.layer.{key}", words, "Board/Add a bottom layer", partial(_layer, key))
        for key, (words, _) in BOTTOM.items()
    ),
    *(
        Action(f"board.deck.{key}", words, "Board/Add a deck feature", partial(_layer, key))
        for key, (words, _) in DECK.items()
    ),
    *(Action(f"board.fins.{kind}", _FIN_WORDS[kind], "Board/Fin set", partial(_fins, kind)) for kind in ARRANGEMENTS),
    *(
        Action(f"board.fitting.{kind}", words, "Board/Add a fitting at the cursor", partial(_fitting, kind))
        for kind, words in _FITTING_WORDS
    ),
    *(
        Action(f"board.fitting.off.{kind}", words, "Board/Take fittings off", partial(_fitting_off, kind))
        for kind, words in _OFF_WORDS
    ),
    Action(
        "board.layers",
        "Bottom layers: hold, order, switch…",
        "Board",
        lambda w: w.dialogs.edit_layers(),
        "Ctrl+Shift+L",
    ),
    Action("board.base.table", "On the table", "Board/Lay it", _set_base("table")),
    Action("board.base.flat", "On a straight edge along the aft flat", "Board/Lay it", _set_base("aft flat")),
    Action("board.base.tracks", "On the track plane", "Board/Lay it", _set_base("tracks")),
    Action("board.base.middle", "Tangent at the middle", "Board/Lay it", _set_base("middle")),
    Action("edit.undo", "Undo", "Edit", lambda w: w.session.undo(), "Ctrl+Z"),
    Action("edit.redo", "Redo", "Edit", lambda w: w.session.redo(), "Ctrl+Shift+Z"),
    Action("edit.reason", "Write why", "Edit", lambda w: w.tape.reason.setFocus(), "Ctrl+R"),
    Action("edit.decide", "Keep, drop or park this version…", "Edit", lambda w: w.dialogs.decide(), "Ctrl+J"),
    Action(
        "edit.pin", "Make this the reference", "Edit", lambda w: w.session.versions.pin(w.session.current), "Ctrl+P"
    ),
    Action("edit.unpin", "Take the reference off", "Edit", lambda w: w.session.versions.pin(None), "Ctrl+Shift+P"),
    *(
        Action(f"edit.freeze.{kind}", kind.capitalize(), "Edit/Mark this step as", partial(_freeze, kind))
        for kind in FROZEN_KINDS
    ),
    Action("lock.volume", "Hold volume", "Locks", lambda w: w.edits.toggle_lock("volume"), "Ctrl+Shift+V"),
    Action("lock.width", "Hold max width", "Locks", lambda w: w.edits.toggle_lock("width"), "Ctrl+Shift+W"),
    Action(
        "lock.area", "Hold length × width", "Locks", lambda w: w.edits.toggle_lock("length_times_width"), "Ctrl+Shift+A"
    ),
    Action("lock.zone.fore", "Lock all ahead of the cursor", "Locks", lambda w: w.edits.lock_zone(ahead=True)),
    Action("lock.zone.aft", "Lock all behind the cursor", "Locks", lambda w: w.edits.lock_zone(ahead=False)),
    Action("lock.free", "Unlock all zones", "Locks", lambda w: w.edits.free_zones()),
    Action("view.solid", "Solid board, or the drawing", "View", lambda w: w.toggle_solid(), "Ctrl+D"),
    Action("view.edge", "Straight edge on, off", "View/Straight edge", lambda w: w.toggle_edge(), "Ctrl+G"),
    *(
        Action(f"view.edge.{line}", f"Straight edge on the {line}", "View/Straight edge", partial(_edge, line))
        for line in LINES
    ),
    Action(
        "view.edge.length", "Straight edge of another length…", "View/Straight edge", lambda w: w.dialogs.ask_edge()
    ),
    *(
        Action(f"view.line.{line}", f"Take the {line} line in hand", "View/Rocker line", partial(_line, line))
        for line in ROCKER_LINES
    ),
    Action("view.reshape", "Reshape an old board…", "View", lambda w: w.dialogs.reshape(), "Ctrl+Shift+R"),
    Action(
        "view.absorber",
        "What takes up a change of a rocker line…",
        "View/Rocker line",
        lambda w: w.dialogs.choose_absorber(),
    ),
    *(
        Action(f"view.sections.{mode}", words, "View/Sections", partial(_sections, mode))
        for mode, words in SECTION_MODES.items()
    ),
    Action("view.units", "Metric or inch", "View", lambda w: w.toggle_units(), "Ctrl+U"),
    Action("view.metric", "Metric", "View/Units", lambda w: w.session.set_system(System.METRIC)),
    Action("view.inch", "Feet, inches and pounds", "View/Units", lambda w: w.session.set_system(System.INCH)),
    Action("water.log", "Log a session…", "Water", lambda w: w.dialogs.log_session(), "Alt+L"),
    Action(
        "view.ours",
        "Figures by our own boards, or plain",
        "View",
        lambda w: w.session.service(OurBoards).turn(),
        "Ctrl+Shift+O",
    ),
    Action("view.theme", "Light or dark", "View", lambda w: w.toggle_theme(), "Ctrl+T"),
    Action("view.x1", "Profile at true height", "View/Profile", lambda w: w.shape.bench.set_stretch(1.0), "Alt+1"),
    Action("view.x2", "Profile ×2", "View/Profile", lambda w: w.shape.bench.set_stretch(2.0), "Alt+2"),
    Action("view.x5", "Profile ×5", "View/Profile", lambda w: w.shape.bench.set_stretch(5.0), "Alt+5"),
    Action("view.zero.tail", "Zero at the tail", "View/Zero", lambda w: w.edits.set_zero("tail")),
    Action("view.zero.nose", "Zero at the nose", "View/Zero", lambda w: w.edits.set_zero("nose")),
    Action("view.zero.middle", "Zero at the middle", "View/Zero", lambda w: w.edits.set_zero("middle")),
    Action("view.zero.mast", "Zero at the foil mast", "View/Zero", lambda w: w.edits.set_zero("mast")),
    Action("view.findings", "Worth a look: warnings and notes…", "View", lambda w: w.dialogs.show_findings(), "F4"),
    Action("view.levers", "Go to the levers", "View", lambda w: w.go("levers"), "F6"),
    Action("view.bench", "Go to the bench", "View", lambda w: w.go("bench"), "F7"),
    Action("view.ledger", "Go to the ledger", "View", lambda w: w.go("ledger"), "F8"),
    Action("view.steps", "Go to the steps", "View", lambda w: w.go("steps"), "F9"),
    Action("help.find", "Find an action…", "Help", lambda w: w.dialogs.find_action(), "Ctrl+K"),
    Action("help.guide", "Guide", "Help", lambda w: w.dialogs.guide(), "F1", everywhere=True),
    Action("help.first", "First steps", "Help", lambda w: w.dialogs.first_steps()),
)


def all_actions() -> list[Action]:
    """Every action of a window: those of the table, one that shows each view, and the views' own."""
    shown = [Action(f"view.{view.key}", view.words, "View", partial(_show, view.key), view.shortcut) for view in VIEWS]
    first = next(i for i, action in enumerate(ACTIONS) if action.menu == "View")
    return [*ACTIONS[:first], *shown, *ACTIONS[first:], *(action for view in VIEWS for action in view.actions)]
