"""Lists, tape, findings, zero and scales: the smaller things a hand or a key does."""

from dataclasses import replace
from math import radians

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QHelpEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from kelvor.core.base.units import System
from kelvor.core.brief.brief import Brief
from kelvor.core.shape.edits.weights import Hold
from kelvor.core.shape.parts.layers import CutAway
from kelvor.ui.background.throttle import Throttle
from kelvor.ui.controls.rows import RowsView
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.shown.shown import Row
from tests.support import plain_board
from tests.ui.case import WindowCase


class Lists(WindowCase):
    def test_keys_walk_over_headings_and_keep_the_choice_in_view(self):
        levers = self.shape.levers.list
        levers.setFocus()
        levers.choose("outline.corner_radius")
        self.key(levers, Qt.Key.Key_Down)
        self.assertEqual(levers.key(), "nose_rocker")  # the heading between them is passed over
        self.key(levers, Qt.Key.Key_Down, times=90)
        last = [row.key for row in levers.rows() if row.key][-1]
        self.assertEqual(levers.key(), last)
        rect = levers.rect_of(last)
        self.assertGreaterEqual(rect.top(), 0)
        self.assertLessEqual(rect.bottom(), levers.height() + 1)
        self.key(levers, Qt.Key.Key_Up, times=120)
        self.assertEqual(levers.key(), "length")

    def test_a_digit_begins_typing_and_leaving_takes_it(self):
        levers = self.shape.levers.list
        levers.setFocus()
        levers.choose("nose_rocker")
        QTest.keyClicks(levers, "8")
        editor = next(e for e in levers.findChildren(type(self.window.tape.reason), "typed") if e.isVisible())
        QTest.keyClicks(editor, "8")
        self.assertEqual(editor.text(), "88")
        self.bench.setFocus()
        self.app.processEvents()
        self.assertEqual(self.lever_text("nose_rocker"), "88.0 mm")

    def test_the_wheel_scrolls_and_a_click_chooses(self):
        ledger = self.shape.ledger
        first = ledger.rect_of("volume").top()
        centre = QPointF(ledger.rect().center())
        event = QWheelEvent(
            centre,
            QPointF(ledger.mapToGlobal(centre.toPoint())),
            QPoint(),
            QPoint(0, -240),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(ledger, event)
        self.assertLess(ledger.rect_of("volume").top(), first)
        self.click(ledger, 40, 40)
        self.assertIn(ledger.key(), [row.key for row in ledger.rows()[5:12]])
        shown = self.session.results.figures()[ledger.key()].definition.label
        self.assertIn(shown, self.shape.why_label.text())

    def test_a_value_is_opened_by_a_click_on_it(self):
        levers = self.shape.levers.list
        rect = levers.rect_of("width")
        self.click(levers, rect.right() - 20, rect.center().y())
        self.type_over(levers, "48")
        self.assertEqual(self.lever_text("width"), "48.0 cm")

    def test_struck_values_and_marks_are_painted(self):
        view = RowsView("Test")
        view.resize(300, 100)
        view.set_rows(
            [Row("", "Group"), Row("a", "Plain", "1.0 cm"), Row("b", "Struck", "2.0 cm", struck=True, mark="!")]
        )
        plain = view.grab().toImage()
        view.set_rows([Row("", "Group"), Row("a", "Plain", "1.0 cm"), Row("b", "Struck", "2.0 cm")])
        self.assertNotEqual(plain, view.grab().toImage())
        view.deleteLater()


class Tape(WindowCase):
    def test_the_menu_of_a_step(self):
        session, dots = self.session, self.window.tape.dots
        first = session.current
        self.shape.levers.pull("volume", "40")
        session.undo()
        self.shape.levers.pull("volume", "36")
        menu = QMenu(dots)
        dots.fill_menu(menu, session.steps[first])
        words = {a.text(): a for a in menu.actions()}
        self.assertEqual(
            list(words),
            ["Go to this step", "Make this the reference", "Mark as", "Keep, drop or park it…", "Branches from here"],
        )
        branches = [a.text() for a in words["Branches from here"].menu().actions()]
        self.assertEqual(len(branches), 2)
        self.assertTrue(any("40.0 L" in b for b in branches) and any("36.0 L" in b for b in branches))
        other = next(a for a in words["Branches from here"].menu().actions() if "40.0 L" in a.text())
        other.trigger()
        self.assertEqual(self.lever_text("volume"), "40.0 L")
        words["Make this the reference"].trigger()
        self.assertEqual(session.overlays.step, first)

    def test_keys_walk_and_pin(self):
        dots = self.window.tape.dots
        dots.setFocus()
        current = self.session.current
        self.key(dots, Qt.Key.Key_Left, times=2)
        self.assertNotEqual(self.session.current, current)
        self.key(dots, Qt.Key.Key_P)
        self.assertEqual(self.session.overlays.step, self.session.current)
        self.key(dots, Qt.Key.Key_Right, times=2)
        self.assertEqual(self.session.current, current)
        self.assertEqual(self.session.workshop.store.left_at(self.session.board_id), current)

    def test_tips_tell_words_and_reason(self):
        dots = self.window.tape.dots
        stop, x = dots.visible()[-1]
        point = QPoint(round(x), 15)
        QApplication.sendEvent(dots, QHelpEvent(QEvent.Type.ToolTip, point, dots.mapToGlobal(point)))
        self.assertIn("Tuck", dots.words(stop))
        self.assertEqual(stop.step.reason, "leans further")

    def test_a_long_history_keeps_the_current_stop_in_view(self):
        for i in range(30):
            self.shape.levers.pull("volume", f"{37 + i % 3 + 0.1 * i:.1f}")
        dots = self.window.tape.dots
        self.assertIn(self.session.current, [stop.step.id for stop, _ in dots.visible()])
        self.assertTrue(all(x < dots.width() for _, x in dots.visible()))


class Remarks(WindowCase):
    def thin(self):
        board = self.session.board
        layers = tuple(
            replace(item, angle=radians(9.5)) if isinstance(item, CutAway) else item for item in board.layers
        )
        tail = board.thickness.with_values(board.thickness.values * [0.86, 1, 1, 1, 1])
        self.session.commit(replace(board, layers=layers, thickness=tail), (), title="Thin tail")
        self.session.results.settle_now()
        self.app.processEvents()

    def test_a_thin_tail_is_said_and_marked_where_it_is(self):
        self.thin()
        self.assertIn("foam at the tail", self.problem())
        self.window.grab()
        rect, words, _ = self.bench.annotations.remarks[0]
        self.assertAlmostEqual(rect.center().x(), self.bench.layout_now().px(0.0), delta=3)
        self.assertIn("Keep", words)
        self.session.undo()
        self.session.results.settle_now()
        self.assertEqual(self.problem(), "Taken back: Thin tail.")

    def test_every_finding_is_one_key_away_and_a_click_shows_its_place(self):
        board = next(e for e in self.session.workshop.store.boards() if e.name.startswith("Tern"))
        self.session.file.open_board(board.id)
        self.session.results.settle_now()
        self.assertTrue(self.problem().startswith("Note: The flange of Rear fin bridges"))
        self.key(self.window, Qt.Key.Key_F4)
        panel = self.window.dialogs.shown[-1]
        finding = self.session.results.evaluation.findings[0]
        item = panel.list.item(0)
        self.assertIn(finding.text, item.text())
        self.assertIn(finding.advice, item.text())
        self.assertIn(f"{finding.place * 100:.0f} cm", item.text())
        self.bench.set_station(1.0)
        panel.list.itemClicked.emit(item)
        self.assertAlmostEqual(self.bench.station, finding.place, places=6)
        # the note is marked on the profile as well, and its mark shows the place
        self.bench.set_station(1.0)
        self.window.grab()
        rect, words, place = self.bench.annotations.remarks[0]
        self.assertIn("bridges", words)
        self.click(self.bench, rect.center().x(), rect.center().y())
        self.assertAlmostEqual(self.bench.station, place, places=6)
        self.session.set_system(System.INCH)
        self.assertRegex(panel.list.item(0).text(), r"bridges [^ ]*\" across the board at 7")

    def test_a_message_does_not_move_the_drawing(self):
        before = self.bench.handle_point(Hold("outline", 2))
        self.session.message.emit("problem", "Something is wrong here. " * 6)
        self.app.processEvents()
        self.assertEqual(self.bench.handle_point(Hold("outline", 2)), before)
        self.assertTrue(self.problem())


class Drawing(WindowCase):
    rides = True

    def test_zero_and_scale(self):
        self.bench.set_station(0.6)
        for datum, shown in (("nose", 145.5 - 60), ("middle", 60 - 145.5 / 2), ("tail", 60.0)):
            self.trigger(f"view.zero.{datum}")
            self.assertAlmostEqual(float(self.bench.station_text().replace("−", "-")), shown, delta=0.06)
        self.assertIn("Section at 60.0", f"Section at {self.shape.section._station_text}")
        self.window.grab()
        rect, stretch = self.bench.annotations.scale_rects[-1]
        self.click(self.bench, rect.center().x(), rect.center().y())
        self.assertEqual((self.bench.stretch, stretch), (5.0, 5.0))
        layout = self.bench.layout_now()
        self.assertAlmostEqual(layout.profile.scale, 5 * layout.plan.scale)
        for held in self.bench.handles():
            if held.line in ("rocker", "thickness"):
                self.assertTrue(layout.profile.top <= self.bench.handle_point(held).y() <= layout.profile.bottom)

    def test_the_plan_is_in_true_proportion_at_every_size(self):
        for size in ((1280, 800), (1900, 1000), (1100, 640)):
            self.window.resize(*size)
            self.app.processEvents()
            layout = self.bench.layout_now()
            self.assertEqual(layout.plan.scale, layout.scale)
            self.assertGreater(layout.strip.bottom - layout.strip.top, 40)
            self.assertLessEqual(layout.px(self.session.board.length), self.bench.width())

    def test_the_strip_reads_at_the_cursor_and_its_chooser(self):
        choice = self.shape.strip_choice
        index = choice.findData("rails.tuck")
        choice.setCurrentIndex(index)
        choice.activated.emit(index)
        self.assertEqual(self.bench.strip, "rails.tuck")
        x, values = self.bench.strip_values()
        self.assertAlmostEqual(float(values.max()), max(v for _, v in self.session.board.rails.tuck.points), places=6)
        held = Hold("rails.tuck", 1)
        y = self.bench.handle_point(held)
        self.mouse(self.bench, QEvent.Type.MouseButtonDblClick, self.bench.layout_now().px(0.4), y.y())
        self.assertEqual(len(self.session.board.rails.tuck.points), 4)
        self.assertGreater(len(x), 100)

    def test_a_board_with_few_features_is_drawn(self):
        board = plain_board(layers=())
        bare = replace(board, fittings=replace(board.fittings, tracks=None, straps=()))
        self.session.file.add_board(bare, Brief(), "Bare")
        self.app.processEvents()
        self.assertFalse(self.window.grab().isNull())
        self.wait_for(lambda: not self.session.service(RideRequests).behind())
        self.assertEqual(self.window.strip.tiles[3].tile.headline, "not for this board")
        self.assertIsNone(self.shape.levers.row("mast"))
        self.session.set_system(System.INCH)
        self.assertFalse(self.window.grab().isNull())


class Bursts(WindowCase):
    def test_done_after_what_is_happening_and_the_last_call_always(self):
        done = []
        value = [0]
        throttle = Throttle(self.window, 40, lambda: done.append(value[0]))
        for i in range(20):
            value[0] = i
            throttle.call()
        self.assertEqual(done, [])  # the hand comes first
        self.wait_for(lambda: done, 2)
        throttle.call()
        value[0] = 20
        throttle.call()
        self.wait_for(lambda: len(done) == 2, 2)
        self.assertEqual(done, [19, 20])
