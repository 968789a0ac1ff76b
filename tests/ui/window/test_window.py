"""The window as a whole: actions, steps, boards, files, units, themes."""

import json
import subprocess
import sys
import types
from unittest import mock

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QDialog,
    QLabel,
    QMenu,
)

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import System
from kelvor.core.shape.edits.weights import Hold
from kelvor.core.shape.parts.layers import ShapingLayer
from kelvor.exchange.documents import board_text
from kelvor.ui.shape.dialogs import ChildDialog, LengthDialog, NewBoardDialog
from kelvor.ui.theme.roles import DARK, LIGHT, contrast
from kelvor.ui.window import views as registry
from kelvor.ui.window.actions.table import Action, all_actions
from kelvor.ui.window.finder import Finder
from kelvor.workshop.store import Store
from tests.ui.case import WindowCase


class Actions(WindowCase):
    SKIP = ("workshop.quit", "workshop.window")

    def test_every_action_runs_and_its_shortcut_is_its_own(self):
        shortcuts = [a.shortcut for a in all_actions() if a.shortcut]
        self.assertEqual(len(shortcuts), len(set(shortcuts)))
        self.assertEqual(len({a.key for a in all_actions()}), len(all_actions()))
        for action in all_actions():
            if action.key in self.SKIP:
                continue
            with self.subTest(action.key):
                self.trigger(action.key)
                for panel in self.window.findChildren(QDialog):
                    self.assertFalse(panel.isModal() and not panel.inherits("QInputDialog"), "nothing stops the work")
                    panel.close()
                self.app.processEvents()

    def test_finder(self):
        self.trigger("help.find")
        finder = self.window.dialogs.shown[-1]
        finder.query.setText("volume hold")
        shown = [finder.list.item(i).text() for i in range(finder.list.count()) if not finder.list.item(i).isHidden()]
        self.assertEqual(len(shown), 1)
        finder.run()
        self.assertEqual(self.session.board.locks.measures, ("volume",))


class Steps(WindowCase):
    def test_pin_branch_and_walk(self):
        session = self.session
        first = session.current
        self.trigger("edit.pin")
        self.assertIn(f"version {session.step().number}", self.window.pinned.text())
        self.assertEqual(self.ledger("volume").aside, "same")
        self.shape.levers.pull("volume", "40")
        self.assertIn("more", self.ledger("volume").aside)
        left = session.current
        session.undo()
        self.assertEqual(session.current, first)
        self.shape.levers.pull("volume", "36")
        self.assertIn("less", self.ledger("volume").aside)
        self.assertEqual({s.parent for s in session.steps.values() if s.id in (left, session.current)}, {first})
        dots = self.window.tape.dots
        shown = next(x for stop, x in dots.visible() if stop.step.id == first)
        self.click(dots, shown, 15)
        self.assertEqual(session.current, first)

    def test_reason_and_freezing_are_kept(self):
        tape = self.window.tape
        self.trigger("edit.reason")
        tape.reason.setText("because the ferry")
        self.key(tape.reason, Qt.Key.Key_Return)
        self.session.versions.freeze(self.session.current, "laminated", "SK-11")
        self.assertIn("laminated SK-11", self.tape_words())
        again = Store.open(self.path)
        step = again.steps(self.session.board_id)[self.session.current]
        self.assertEqual((step.reason, step.frozen), ("because the ferry", (("laminated", "SK-11"),)))
        again.close()

    def test_a_full_disk_keeps_the_step_in_the_window(self):
        full = InputError("the disk is full", where="demo.kelvor", accepts="Nothing is lost")
        with mock.patch.object(self.session.workshop.store, "append", side_effect=full):
            self.shape.levers.pull("volume", "40")
            self.shape.levers.pull("volume", "41")
        self.assertIn(
            "Not saved: the disk is full. Step 9: Volume and 1 more wait in this window.",
            self.window.saving_bar.words.text(),
        )
        self.assertEqual(self.window.tape.state.text(), "2 not saved")
        self.assertEqual(self.lever_text("volume"), "41.0 L")
        # waiting steps must not end up in another board
        mine, other = self.session.board_id, self.session.workshop.store.boards()[0].id
        count = len(self.session.workshop.store.steps(other))
        for leave in (
            lambda: self.session.file.open_board(other),
            lambda: self.session.file.add_board(self.session.board, self.session.brief, "x"),
        ):
            with self.assertRaises(InputError) as caught:
                leave()
            self.assertIn("not all of it is saved yet", str(caught.exception))
        self.assertNotEqual(mine, other)
        self.trigger("workshop.save")
        self.assertEqual((self.session.board_id, len(self.session.workshop.store.steps(other))), (mine, count))
        volumes = [round(s.volume * 1e3, 1) for s in self.session.steps.values()][-2:]
        self.assertEqual(volumes, [40.0, 41.0])
        self.assertEqual(self.window.tape.state.text(), "saved")
        self.assertEqual(self.session.workshop.store.board(self.session.current), self.session.board)

    def test_another_window_on_the_same_file(self):
        other = Store.open(self.path)
        step = other.append(self.session.board_id, self.session.current, self.session.board, (), title="From elsewhere")
        other.close()
        before = self.session.current
        self.session.file.look_elsewhere()
        self.assertIn(step.id, self.session.steps)
        self.assertEqual(self.session.current, before)


class Boards(WindowCase):
    def dialog(self, key, kind):
        self.trigger(key)
        found = self.window.dialogs.shown[-1]
        self.assertIsInstance(found, kind)
        return found

    def test_a_new_board_of_the_size_typed(self):
        panel = self.dialog("board.new", NewBoardDialog)
        panel.name.setText("Turnstone")
        panel.length_field.setText("4'10")
        panel.width_field.setText("wide")
        panel.do.click()
        self.assertIn("not a number", panel.problem.text())
        panel.length_field.setText("4'10\"")
        panel.width_field.setText("52 cm")
        panel.volume.setText("44 L")
        panel.do.click()
        self.app.processEvents()
        board = self.session.board
        self.assertEqual((board.name, board.length), ("Turnstone", 58 * 0.0254))
        self.assertAlmostEqual(self.session.results.figures()["volume"].value, 0.044, delta=2e-6)
        self.assertAlmostEqual(self.session.results.figures()["width"].value, 0.52, delta=1e-4)
        self.assertEqual(self.session.results.evaluation.findings, ())
        self.assertIn("Turnstone", self.window.title.text())

    def test_a_new_board_of_another_discipline_is_driven_by_its_own_gear(self):
        panel = self.dialog("board.new", NewBoardDialog)
        panel.discipline.setCurrentIndex(panel.discipline.findData("slalom"))
        panel.do.click()
        self.app.processEvents()
        brief = self.session.brief
        self.assertEqual(brief.discipline, "slalom")
        sails = {r.uid: r.value for r in self.session.workshop.registers.of("sail")}
        self.assertEqual(len(brief.wings), 3)  # those of the register that were written last
        self.assertEqual({sails[r.uid] for r in brief.refers if r.part == "wing"}, set(brief.wings))
        self.assertEqual(brief.rider.name, "Ronja Vik")

    def test_enter_after_typing_opens_what_was_found(self):
        self.trigger("view.rack")
        rack = self.window.views["rack"]
        QTest.keyClicks(rack.query, "heron")
        QTest.keyClick(rack.query, Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertTrue(self.session.board.name.startswith("Heron"))

    def test_child_and_back_to_its_parent(self):
        parent, step = self.session.board_id, self.session.current
        panel = self.dialog("board.child", ChildDialog)
        panel.name.setText("Knot")
        panel.do.click()
        entry = self.session.workshop.store.boards()[0]
        self.assertEqual((entry.name, entry.parent_step), ("Knot", step))
        self.trigger("view.rack")
        self.window.views["rack"].query.setText("Dunlin")
        self.window.views["rack"].details.open.click()
        self.assertEqual(self.session.board_id, parent)

    def test_length_at_an_end(self):
        length, mast = self.session.board.length, self.session.board.mast_x
        panel = self.dialog("board.length", LengthDialog)
        panel.amount.setText("30 mm")
        panel.do.click()
        self.assertAlmostEqual(self.session.board.length, length - 0.03)
        self.assertAlmostEqual(self.session.board.mast_x, mast - 0.03)

    def test_layers_are_held_switched_and_ordered(self):
        from kelvor.ui.shape.dialogs import LayersDialog

        panel = self.dialog("board.layers", LayersDialog)
        volume = self.session.results.figures()["volume"].value
        panel.list.setCurrentRow(0)
        panel.swap_held()
        first = self.session.board.layers[0]
        self.assertIsInstance(first, ShapingLayer)
        self.assertEqual(first.holds, "rail")
        self.assertGreater(self.session.results.figures()["volume"].value, volume)
        panel.switch()
        self.assertFalse(self.session.board.layers[0].on)
        panel.shift(1)
        self.assertEqual(self.session.board.layers[1].name, first.name)
        panel.list.setCurrentRow(1)
        panel.take_off()
        self.assertNotIn(first.name, [item.name for item in self.session.board.layers])
        panel.close()

    def test_import_tells_what_is_wrong_and_changes_nothing(self):
        good = self.folder / "good.json"
        good.write_text(board_text(self.session.board))
        data = json.loads(good.read_text())
        data["board"]["length"] = "x"
        bad = self.folder / "bad.json"
        bad.write_text(json.dumps(data))
        count = len(self.session.workshop.store.boards())
        self.window.files.import_from(bad)
        self.wait_for(lambda: not self.window.files.imports.running)
        self.assertIn("bad.json: board.length: “x” is not a number", self.problem())
        self.assertEqual(len(self.session.workshop.store.boards()), count)
        self.window.files.import_from(good)
        self.wait_for(lambda: not self.window.files.imports.running)
        self.assertEqual(len(self.session.workshop.store.boards()), count + 1)

    def test_a_bad_workshop_leaves_the_open_one(self):
        bad = self.folder / "bad.kelvor"
        bad.write_text("no")
        board = self.session.board
        self.window.files.open_workshop(bad)
        self.assertIn("no workshop file", self.problem())
        self.assertEqual(self.session.board, board)
        self.shape.levers.pull("volume", "39")
        self.assertEqual(self.lever_text("volume"), "39.0 L")
        fresh = self.folder / "fresh.kelvor"
        self.window.files.create_workshop(fresh)
        self.assertEqual(self.session.workshop.store.path, fresh)
        self.assertEqual(self.window.settings.recent()[0], str(fresh.resolve()))


class Showing(WindowCase):
    def test_units_switch_without_touching_the_board(self):
        board = self.session.board
        self.trigger("view.units")
        self.assertIs(self.session.system, System.INCH)
        self.assertTrue(self.lever_text("width").endswith('"'))
        self.assertIn("lb", self.ledger("mass").value)
        self.trigger("view.units")
        self.assertEqual(self.session.board, board)

    def test_tiles_say_verdict_and_difference(self):
        tiles = {t.tile.key: t.tile for t in self.window.strip.tiles}
        self.assertEqual(list(tiles), ["float", "get_going", "lift_off", "fly", "touch_down"])
        self.assertIn("under", tiles["float"].headline)
        self.assertIn("× version 1", tiles["fly"].headline)
        for tile in tiles.values():
            self.assertTrue(tile.verdict and tile.lines)
        self.click(self.window.strip.tiles[3], 40, 40)
        page = self.window.views["ride"]
        self.assertIs(self.window.stack.currentWidget(), page)
        self.assertEqual(page.title.text(), "Fly")
        self.assertIn("Steiner", page.why.text())
        self.assertIn("±", page.why.text())

    def test_float_follows_when_the_hand_rests(self):
        held_depth = self.session.results.evaluation.figures["float_deck_depth"].value
        self.session.results._timer.setInterval(1500)  # the hand has not rested yet, however slow the machine
        start = self.bench.handle_point(Hold("thickness", 2))
        self.drag(self.bench, start, start - QPointF(0, 15), release=False)
        self.assertTrue(self.window.strip.tiles[0].tile.stale)
        self.wait_for(lambda: not self.window.strip.tiles[0].tile.stale)
        self.assertLess(self.session.results.evaluation.figures["float_deck_depth"].value, held_depth)
        self.key(self.bench, Qt.Key.Key_Escape)

    def test_both_themes_are_readable(self):
        """WCAG 2.1: text 4.5, graphics 3.0."""
        for theme in (LIGHT, DARK):
            for role in ("ink", "quiet", "live", "short"):
                with self.subTest(theme=theme.name, role=role):
                    self.assertGreaterEqual(contrast(getattr(theme, role), theme.paper), 4.5)
            self.assertGreaterEqual(contrast(theme.pinned, theme.paper), 3.0)
            self.assertGreaterEqual(contrast(theme.on_bar_quiet, theme.bar), 4.5)
        light = self.window.grab().toImage()
        self.trigger("view.theme")
        dark = self.window.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
        self.assertLess(dark.pixelColor(640, 300).lightness(), 90)
        self.assertGreater(light.pixelColor(640, 300).lightness(), 200)

    def test_panels_are_reached_by_keys(self):
        for key, widget in (
            ("view.levers", self.shape.levers.list),
            ("view.ledger", self.shape.ledger),
            ("view.steps", self.window.tape.dots),
        ):
            self.trigger(key)
            self.assertIs(self.app.focusWidget(), widget)


class StartPath(WindowCase):
    def test_the_board_is_painted_before_what_its_picture_does_not_need(self):
        """With Qt, NumPy and the standard library alone; float, ride and lists follow by themselves."""
        script = (
            "import sys\nfrom pathlib import Path\n"
            "from kelvor.ui.window.application import make_application, make_window\n"
            "from kelvor.ui.shape.bench.bench import "
            "BenchWidget\n"
            "from kelvor.ui.settings import Settings\nfrom kelvor.workshop.store import Store\n"
            "heavy = 'pydantic trimesh ezdxf reportlab scipy lxml networkx platformdirs multiprocessing "
            "kelvor.exchange kelvor.demo'.split()\n"
            "heavy += ['kelvor.core.' + n for n in 'evaluation.jobs ride.stage tank.floating.stage "
            "build.stiffness.stage tank.planing.states'.split()]\n"
            "paint, seen = BenchWidget.paintEvent, []\n"
            "def painted(bench, event):\n"
            "    paint(bench, event)\n"
            "    seen.append(([n for n in heavy if n in sys.modules], len(bench.tags), len(w.shape.ledger.rows())))\n"
            "BenchWidget.paintEvent = painted\n"
            "app = make_application()\n"
            f"w = make_window(Store.open(Path({str(self.path)!r})), Settings(Path('/nonexistent/s.json')))\nw.show()\n"
            "while not w.session.started: app.processEvents()\n"
            "print(seen[0], len(w.shape.ledger.rows()) > 40, w.strip.tiles[0].tile.headline)"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "([], 7, 0) True deck 51 cm under")


class Binding(WindowCase):
    def test_void_calls_do_not_eat_references(self):
        """PySide6 6.12.0 under Python 3.11 dropped a reference to None on every void call, and died of it after some
        painting.
        """
        before = sys.getrefcount(None)
        for _ in range(20):
            self.bench.repaint()
        self.assertGreater(sys.getrefcount(None) - before, -200)


class MoreLayers(WindowCase):
    def test_a_layer_is_laid_out_by_share_centre_and_edge(self):
        from kelvor.ui.shape.dialogs import LayersDialog

        self.trigger("board.layers")
        panel = self.window.dialogs.shown[-1]
        self.assertIsInstance(panel, LayersDialog)
        panel.list.setCurrentRow(0)
        seen = []
        for _ in range(3):
            panel.lay_out()
            seen.append(self.session.board.layers[0].layout.across)
        self.assertEqual(seen, ["centre", "edge", "share"])
        panel.lay_out()
        name = self.session.board.layers[0].name
        self.assertTrue(self.shape.levers.pull(f"layer.{name}.layout.width", "8 cm"))
        self.assertAlmostEqual(self.session.board.layers[0].layout.width.value(0.7), 0.08)
        panel.close()

    def test_length_between_two_places_and_blends(self):
        self.trigger("board.length")
        panel = self.window.dialogs.shown[-1]
        panel.where.setCurrentIndex(2)
        panel.how.setCurrentIndex(1)
        panel.start.setText("90 cm")
        panel.end.setText("80 cm")
        panel.do.click()
        self.assertIn("first behind the second", panel.problem.text())
        panel.end.setText("120 cm")
        length, mast = self.session.board.length, self.session.board.mast_x
        panel.do.click()
        self.assertAlmostEqual(self.session.board.length, length + 0.02)
        self.assertAlmostEqual(self.session.board.mast_x, mast)
        self.assertIn("between two places", self.tape_words())
        self.assertTrue(self.shape.levers.pull("ruler_blend_fore", "30 cm"))
        self.assertEqual(self.lever_text("ruler_blend_fore"), "30.0 cm")
        self.assertTrue(self.shape.levers.pull("strap.Front strap row.at", "92 cm"))
        self.assertAlmostEqual(self.session.board.fittings.straps[0].at.x(self.session.board.length, mast), 0.92)


class Faults(WindowCase):
    def test_a_fault_is_written_down_and_the_work_goes_on(self):
        from kelvor.ui.window.application import report_faults

        hook = sys.excepthook
        self.addCleanup(setattr, sys, "excepthook", hook)
        report_faults(self.window, self.folder)
        try:
            raise ZeroDivisionError("inside")
        except ZeroDivisionError as error:
            with mock.patch.object(sys, "stderr"):
                sys.excepthook(type(error), error, error.__traceback__)
        self.assertIn("went wrong inside", self.problem())
        self.assertIn("ZeroDivisionError: inside", (self.folder / "fault-report.txt").read_text())
        self.assertTrue(self.shape.levers.pull("volume", "39"))


class AViewOfOnesOwn(WindowCase):
    def test_one_line_stands_in_tabs_menu_finder_help_and_undo(self):
        shut = []

        class Diary(QLabel):
            def shut(self):
                shut.append(True)

        module = types.ModuleType("diary")
        module.diary = lambda window: Diary(window.session.board.name)
        sys.modules["diary"] = module
        self.addCleanup(sys.modules.pop, "diary")
        own = Action(
            "diary.today",
            "Write today down",
            "Board",
            lambda w: w.session.versions.set_reason(w.session.current, "flat"),
        )
        registry.VIEWS.append(registry.View("diary", "Diary", "Ctrl+9", "What was felt.", "diary:diary", (own,)))
        self.addCleanup(registry.VIEWS.pop)
        window = self.open_window()
        self.addCleanup(window.session.workshop.store.close)
        self.assertIn("Diary", [tab.text() for tab in window.tabs.buttons()])
        window.actions_by_key["view.diary"].trigger()
        self.assertEqual(window.stack.currentWidget().text(), self.session.board.name)
        menu = next(m for m in window.findChildren(QMenu) if m.title() == "View")
        self.assertIn("Diary", [item.text() for item in menu.actions()])
        finder = Finder(window, window.actions_by_key)
        finder.query.setText("write today")
        finder.run()
        self.assertEqual(window.session.step().reason, "flat")
        window.actions_by_key["edit.undo"].trigger()
        self.assertNotEqual(window.session.step().reason, "flat")
        self.assertIn("Taken back", window.heard.text())
        window.dialogs.first_steps()
        self.assertTrue(any("What was felt" in label.text() for label in window.dialogs.shown[-1].findChildren(QLabel)))
        window.dialogs.shown[-1].close()
        window.close()
        self.assertEqual(shut, [True])
