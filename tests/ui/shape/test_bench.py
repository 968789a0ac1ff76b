"""The bench: dragging, typing and nudging with the real widgets."""

from dataclasses import replace

from PySide6.QtCore import QEvent, QPointF, Qt

from kelvor.core.base.units import System
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.locks import volume_of, widest
from kelvor.core.shape.board import Locks
from kelvor.core.shape.edits.weights import Hold, place_and_value
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.shown_boards import Shown
from tests.ui.case import WindowCase


class Dragging(WindowCase):
    def test_a_weight_on_the_plan_follows_the_hand(self):
        session, held = self.session, Hold("outline", 2)
        start = self.bench.handle_point(held)
        before, steps, volume = session.board, len(session.steps), session.results.figures()["volume"].value
        shown, far = self.ledger("volume").value, self.bench.handle_point(Hold("rocker", 4))
        up = start - QPointF(0, 18)
        self.drag(self.bench, start, start - QPointF(0, 6), up, release=False)
        self.assertEqual(self.bench.handle_point(Hold("rocker", 4)), far)  # the rest of the drawing stays
        # during the drag: figures and ledger follow, nothing is committed yet
        self.assertGreater(session.results.figures()["volume"].value, volume + 5e-4)
        self.assertNotEqual(self.ledger("volume").value, shown)
        self.assertEqual((session.board, len(session.steps)), (before, steps))
        scale = self.bench.layout_now().plan.scale
        self.assertAlmostEqual(
            place_and_value(session.live.board, held)[1], place_and_value(before, held)[1] + 18 / scale, places=9
        )
        self.window.grab()
        width = 200 * place_and_value(session.live.board, held)[1]
        self.assertTrue(self.bench.annotations.read.startswith(f"{width:.1f} cm at "), self.bench.annotations.read)
        self.mouse(self.bench, QEvent.Type.MouseButtonRelease, up.x(), up.y())
        self.assertEqual(len(session.steps), steps + 1)
        self.assertEqual(session.workshop.store.board(session.current), session.live.board)
        self.assertIn("Width at", self.tape_words())
        self.assertIn("L", self.tape_words())
        self.key(self.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(session.board, before)
        self.key(self.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        self.assertNotEqual(session.board, before)

    def test_rocker_and_thickness_on_the_profile(self):
        for line, index, dy in (("rocker", 4, -12), ("thickness", 2, -9)):
            held = Hold(line, index)
            start, value = self.bench.handle_point(held), place_and_value(self.session.board, held)[1]
            scale = self.bench.layout_now().profile.scale
            self.drag(self.bench, start, start + QPointF(0, dy))
            with self.subTest(line):
                self.assertAlmostEqual(place_and_value(self.session.board, held)[1], value - dy / scale, places=9)

    def test_shift_drags_finer_and_escape_gives_up(self):
        held = Hold("outline", 2)
        start, value = self.bench.handle_point(held), place_and_value(self.session.board, held)[1]
        self.drag(self.bench, start, start - QPointF(0, 20), modifiers=Qt.KeyboardModifier.ShiftModifier)
        scale = self.bench.layout_now().plan.scale
        self.assertAlmostEqual(place_and_value(self.session.board, held)[1], value + 4 / scale, places=9)
        board = self.session.board
        start = self.bench.handle_point(held)
        self.drag(self.bench, start, start - QPointF(0, 20), release=False)
        self.key(self.bench, Qt.Key.Key_Escape)
        self.assertEqual((self.session.board, self.session.live.board), (board, board))

    def test_what_cannot_be_a_board_is_held_and_named(self):
        held = Hold("thickness", 4)
        start, steps = self.bench.handle_point(held), len(self.session.steps)
        last_good = self.session.live.board
        self.drag(self.bench, start, start + QPointF(0, 400), release=False)
        self.assertTrue(any(words in self.problem() for words in ("meet", "No rail", "Thickness at")), self.problem())
        self.assertEqual(self.session.live.board, last_good)
        self.drag(self.bench, self.bench.handle_point(held), start)
        self.assertEqual(len(self.session.steps), steps)

    def test_volume_holds_while_a_weight_is_dragged(self):
        self.trigger("lock.volume")
        volume = volume_of(self.session.board)
        held = Hold("outline", 3)
        start = self.bench.handle_point(held)
        self.drag(self.bench, start, start - QPointF(0, 10))
        self.assertAlmostEqual(volume_of(self.session.board), volume, places=6)
        self.assertIn("paid by thickest", self.tape_words())
        self.assertIn("Holding volume", self.window.locks.text())

    def test_what_paid_is_told_of_a_section_drag_too(self):
        self.trigger("lock.volume")
        panel = self.shape.section
        _, point = panel.grip_points()[0]
        self.drag(panel, point, point - QPointF(9, 0))
        self.assertIn("Rail tuck", self.tape_words())
        self.assertIn("paid by thickest", self.tape_words())

    def test_a_locked_width_refuses_the_drag(self):
        self.session.commit(replace(self.session.board, locks=Locks(measures=("width",))), (), held=True)
        board, start = self.session.board, self.bench.handle_point(Hold("outline", 2))
        self.drag(self.bench, start, start - QPointF(0, 30))
        self.assertIn("locked", self.problem())
        self.assertEqual(self.session.board, board)

    def test_the_cursor_and_its_section(self):
        layout = self.bench.layout_now()
        self.click(self.bench, layout.px(1.0), layout.height - 8)
        self.assertAlmostEqual(self.bench.station, 1.0, delta=0.003)
        measured = self.session.live.geometry
        thick = measured.at(measured.shape.deck - measured.shape.keel, self.bench.station)
        self.assertAlmostEqual(self.shape.section.section.thickness, thick, delta=2e-4)
        self.key(self.bench, Qt.Key.Key_Left, times=5)
        self.assertAlmostEqual(self.bench.station, 0.95, delta=0.003)
        self.assertEqual(self.shape.section.station, self.bench.station)

    def test_section_edges_edit_the_nearest_schedule_point(self):
        panel = self.shape.section
        grip, point = panel.grip_points()[0]
        self.assertEqual(grip.name, "bottom edge")
        before = self.session.board.rails.tuck
        self.drag(panel, point, point - QPointF(9, 0))
        after = self.session.board.rails.tuck
        changed = [i for i, (a, b) in enumerate(zip(before.points, after.points, strict=True)) if a != b]
        nearest = min(range(len(before.points)), key=lambda i: abs(before.points[i][0] - panel.station))
        self.assertEqual(changed, [nearest])
        self.assertGreater(after.points[nearest][1], before.points[nearest][1])
        self.assertIn("Rail tuck", self.tape_words())

    def test_a_schedule_on_the_strip(self):
        self.shape.levers.list.choose("rails.chamfer")
        self.assertEqual(self.bench.strip, "rails.chamfer")
        held = Hold("rails.chamfer", 1)
        start, value = self.bench.handle_point(held), place_and_value(self.session.board, held)[1]
        self.drag(self.bench, start, start - QPointF(0, 8))
        self.assertGreater(place_and_value(self.session.board, held)[1], value)


class Weights(WindowCase):
    def test_add_nudge_and_take_off(self):
        layout, live = self.bench.layout_now(), self.session.live
        x = 0.5
        y = layout.plan.y(live.geometry.at(live.geometry.shape.half_width, x))
        self.mouse(self.bench, QEvent.Type.MouseButtonDblClick, layout.px(x), y)
        self.assertEqual(len(self.session.board.outline.batten.weights), 6)
        added = Hold("outline", 2)
        self.assertAlmostEqual(place_and_value(self.session.board, added)[0], x, delta=0.002)
        self.bench._choose(added)
        steps, value = len(self.session.steps), place_and_value(self.session.board, added)[1]
        self.key(self.bench, Qt.Key.Key_Up, times=3)
        self.assertAlmostEqual(place_and_value(self.session.board, added)[1], value + 0.003, places=9)
        self.assertEqual(len(self.session.steps), steps + 3)  # each one is on the disk
        stops = self.window.tape.dots.stops()
        self.assertEqual(len(stops), len({s.step.id for s in stops}))
        self.assertEqual(sum(1 for s in stops if s.step.gesture), 1)  # and they fold to one stop
        self.session.undo()
        self.assertAlmostEqual(place_and_value(self.session.board, added)[1], value, places=9)
        self.session.redo()
        self.key(self.bench, Qt.Key.Key_Delete)
        self.assertEqual(len(self.session.board.outline.batten.weights), 5)

    def test_tab_walks_and_enter_begins(self):
        self.bench.setFocus()
        self.key(self.bench, Qt.Key.Key_Return)
        first = self.bench.chosen
        self.key(self.bench, Qt.Key.Key_Tab, times=2)
        self.assertNotEqual(self.bench.chosen, first)
        self.key(self.bench, Qt.Key.Key_Escape)
        self.assertIsNone(self.bench.chosen)

    def test_ruler_and_knuckle_by_menu(self):
        from PySide6.QtWidgets import QMenu

        menu = QMenu(self.bench)
        self.bench.weight_menu(menu, Hold("rocker", 1))
        words = [a.text() for a in menu.actions()]
        self.assertEqual(words, ["Take the ruler off", "Make it a knuckle", "Take the weight off"])
        menu.actions()[0].trigger()
        self.assertIsNone(self.session.board.rocker.weights[1].ruler)
        self.assertIn("take the ruler off", self.tape_words())


class Menus(WindowCase):
    """Menus of the drawing."""

    def menu_at(self, point, choose=None):
        menu = self.bench.menu_at(point)
        if choose is not None:
            next(a for a in menu.actions() if choose in a.text()).trigger()
            self.app.processEvents()
        return [action.text() for action in menu.actions()]

    def on_line(self, x):
        measured, layout = self.session.live.geometry, self.bench.layout_now()
        return QPointF(layout.px(x), layout.plan.y(measured.at(measured.shape.half_width, x)))

    def test_a_weight_is_laid_where_the_line_was_pressed(self):
        before = len(self.session.board.outline.batten.weights)
        self.assertEqual(self.menu_at(self.on_line(0.55), choose="Lay a weight here"), ["Lay a weight here"])
        weights = self.session.board.outline.batten.weights
        self.assertEqual(len(weights), before + 1)
        self.assertLess(min(abs(w.x - 0.55) for w in weights), 3e-3)
        again = self.menu_at(self.on_line(0.55))
        self.assertIn("Take the weight off", again)
        self.assertEqual(self.menu_at(QPointF(3, 3)), [])

    def test_what_a_weight_refuses_is_said_and_nothing_changes(self):
        board = self.session.board
        last = Hold("rocker", len(board.rocker.weights) - 1)
        self.menu_at(self.bench.handle_point(last), choose="Lay a ruler")
        self.assertIn("this is the last", self.problem())
        self.assertEqual(self.session.board, board)

    def test_the_menu_of_a_weight_makes_knuckles_and_takes_them_back(self):
        held = Hold("rocker", 2)
        shown = self.menu_at(self.bench.handle_point(held), choose="knuckle")
        self.assertEqual(self.bench.chosen, held)
        self.assertIn("Make it a knuckle", shown)
        self.assertTrue(self.session.board.rocker.weights[2].knuckle)
        self.assertIn("make it a knuckle", self.tape_words())
        self.menu_at(self.bench.handle_point(held), choose="Make it smooth")
        self.assertFalse(self.session.board.rocker.weights[2].knuckle)

    def test_what_cannot_be_is_said(self):
        weights = self.session.board.outline.batten.weights
        self.bench.add_weight("outline", weights[1].x)
        self.assertIn("There is a weight there already", self.problem())
        last = len(self.session.board.rocker.weights) - 1
        self.bench._choose(Hold("rocker", last))
        steps = len(self.session.steps)
        self.bench.remove_chosen()
        self.assertIn("holds the line there and stays", self.problem())
        self.assertEqual(len(self.session.steps), steps)


class Typing(WindowCase):
    def tag(self, lever):
        self.window.grab()
        return next(t for t in self.bench.tags if t.lever == lever)

    def test_a_dimension_takes_typed_values_in_any_unit(self):
        for typed, metres in (("50", 0.5), ("19 1/2 in", 19.5 * 0.0254), ("505 mm", 0.505)):
            tag = self.tag("width")
            self.click(self.bench, tag.rect.center().x(), tag.rect.center().y())
            self.type_over(self.bench, typed)
            with self.subTest(typed):
                self.assertAlmostEqual(widest(self.session.board), metres, delta=2e-5)
                self.assertIn("Max width", self.tape_words())

    def test_nonsense_keeps_what_was_typed(self):
        tag, board = self.tag("width"), self.session.board
        self.click(self.bench, tag.rect.center().x(), tag.rect.center().y())
        for typed, words in (
            ("wide", "not a number"),
            ("4 kg", "not a unit"),
            ("0.2 mm", "must lie between"),
            ("20 m", "must lie between"),
        ):
            editor = self.type_over(self.bench, typed)
            self.assertIn(words, self.problem())
            self.assertEqual(editor.text(), typed)
            self.assertTrue(editor.isVisible())
        self.assertEqual(self.session.board, board)
        self.key(editor, Qt.Key.Key_Escape)
        self.assertFalse(any(e.isVisible() for e in self.bench.findChildren(type(editor), "typed")))

    def test_levers_are_typed_and_nudged_by_keys(self):
        levers = self.shape.levers.list
        levers.setFocus()
        levers.choose("nose_rocker")
        self.key(levers, Qt.Key.Key_Return)
        self.type_over(levers, "95")
        self.assertEqual(self.lever_text("nose_rocker"), "95.0 mm")
        self.assertIn("chop", self.shape.levers.explains.text())
        self.key(levers, Qt.Key.Key_Right)
        self.assertEqual(self.lever_text("nose_rocker"), "105.0 mm")
        self.key(levers, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier, times=2)
        self.assertEqual(self.lever_text("nose_rocker"), "101.0 mm")
        levers.choose("rails.apex")
        self.key(levers, Qt.Key.Key_Return)
        self.type_over(levers, "70/30")
        self.assertEqual(self.lever_text("rails.apex"), "70/30")

    def test_feet_and_inches_through_two_unit_changes(self):
        levers = self.shape.levers.list
        levers.choose("length")
        levers.begin_typing()
        self.type_over(levers, "5'8 1/2\"")
        length = self.session.board.length
        self.assertAlmostEqual(length, 68.5 * 0.0254, places=12)
        for system, shown in ((System.INCH, "5'8 1/2\""), (System.METRIC, "174.0 cm"), (System.INCH, "5'8 1/2\"")):
            self.session.set_system(system)
            self.assertEqual(self.lever_text("length"), shown)
            levers.begin_typing()
            editor = next(e for e in levers.findChildren(type(self.window.tape.reason), "typed") if e.isVisible())
            self.key(editor, Qt.Key.Key_Return)  # nothing typed, nothing drifts
            self.assertEqual(self.session.board.length, length)


class ManyBoards(WindowCase):
    rides = True

    def test_three_boards_stand_on_the_bench_by_adding_to_a_list(self):
        session, bench = self.session, self.bench
        store = session.workshop.store
        boards = [store.board(store.left_at(e.id)) for e in store.boards() if e.name.startswith(("Tern", "Heron"))]
        self.assertEqual(len(boards), 2)
        before = bench.grab().toImage()
        alone = bench.layout_now()
        session.overlays.show_beside(
            [Shown(evaluate_live(board, session.brief), board.name, slide=0.05) for board in boards]
        )
        layout, scene = bench.layout_now(), bench.scene()
        self.assertEqual([other.role for other in scene.others], ["pinned", "beside", "beside"])
        longest = max(board.length for board in boards)
        self.assertLess(layout.px(longest + 0.05), bench.width())  # all of them are in view
        self.assertLess(layout.scale, alone.scale)
        shown = bench.grab().toImage()
        tip = layout.px(longest + 0.05)
        self.assertNotEqual(shown, before)
        near = [
            shown.pixelColor(round(tip) + dx, round(layout.plan.zero) + dy) for dx in (-1, 0, 1) for dy in range(-9, 10)
        ]
        self.assertTrue(
            any(c.blue() - c.green() > 40 for c in near), "its tip is drawn in the colour of what lies beside"
        )
        self.assertEqual(len(scene.strip_others), 3)
        session.overlays.show_beside(
            [replace(other, slide=other.slide + 0.04) for other in session.overlays.beside]
        )  # slid, they are drawn anew
        self.assertNotEqual(bench.grab().toImage(), shown)
        session.overlays.show_beside([replace(other, slide=0.05) for other in session.overlays.beside])
        scene = bench.scene()
        self.assertTrue(
            all(values.max() <= scene.strip_band.value(scene.strip_band.top) for _, _, values in scene.strip_others)
        )
        self.wait_for(lambda: len(self.shape.section._behind) == 3)
        # every page of the ride shows all of them
        session.results.settle_now()
        self.wait_for(lambda: not session.service(RideRequests).under_way(), seconds=90)
        self.trigger("view.ride")
        self.window.views["ride"].show_phase("lift_off")
        names = ["version 1", *(board.name for board in boards)]
        self.assertEqual([behind.name for behind in self.window.views["ride"].first.chart.behind], names)
        self.window.views["ride"].first.chart.reading_at = 2.0
        self.assertTrue(all(f"; {name}: drag " in self.window.views["ride"].first.chart.reading() for name in names))
        self.trigger("view.shape")
        # the hand works on the one that is live, and the drawing stays under it
        held = Hold("outline", 2)
        start = bench.handle_point(held)
        self.drag(bench, start, start - QPointF(0, 12), release=False)
        self.assertEqual(bench.layout_now(), layout)
        self.mouse(bench, QEvent.Type.MouseButtonRelease, start.x(), start.y() - 12)
        self.assertEqual(len(bench.scene().others), 3)
        session.file.open_board(next(e.id for e in session.workshop.store.boards() if e.name.startswith("Plover")))
        self.assertEqual(session.overlays.beside, [])
