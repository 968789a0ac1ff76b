"""The Ride view and what levers do, driven as a designer would: pages, conditions, why, quiver, coefficients,
levers.
"""

import contextlib
import io
import os
import signal
import time
from dataclasses import replace
from unittest import mock

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from kelvor.core.base.units import DEGREE, KNOT, System
from kelvor.core.brief.brief import Target
from kelvor.core.evaluation import evaluation, jobs
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.pictures import Chart
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.ui.background import runner
from kelvor.ui.ride.ride_requests import RideRequests
from tests.support import some
from tests.ui.case import WindowCase


def dies_unless_there(mark):
    """In a worker: die the first time, answer the second."""
    if mark.exists():
        return "alive"
    mark.touch()
    os._exit(1)


def takes_long(begun, mark):
    """In a worker: something long that leaves a mark when it begins, and another when it is done."""
    begun.touch()
    time.sleep(6)
    mark.touch()


def dies():
    """In a worker: die every time."""
    os._exit(1)


def lives(pid):
    """Whether a process is there."""
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    return True


def fails(job, condition=None):
    """In a worker: a fault of ours."""
    return 1 / 0


class RideCase(WindowCase):
    settles = rides = True

    def setUp(self):
        super().setUp()
        self.riding = self.session.service(RideRequests)
        self.window.show_view("ride")
        self.page = self.window.views["ride"]
        self.ridden()

    def ridden(self):
        self.wait_for(lambda: not self.riding.behind() and self.riding.ride is not None)
        QTest.qWait(180)  # the page follows a few times a second

    def open_named(self, name):
        self.session.file.open_board(
            next(b.id for b in self.session.workshop.store.boards() if b.name.startswith(name))
        )
        self.ridden()

    def row(self, key):
        return next(row for row in self.page.rows.rows() if row.key == key)

    def without_levers(self):
        """Pages are read, not what buys their figures: that takes a ride for every lever."""
        self.enterContext(mock.patch.object(RideRequests, "ask_levers"))
        self.enterContext(mock.patch.object(RideRequests, "ask_sweep"))


class Pages(RideCase):
    def test_every_tile_opens_its_page_with_the_cores_figures(self):
        self.without_levers()
        found = evaluate(self.session.board, self.session.brief)
        for widget, phase in zip(self.window.strip.tiles, PHASES["wing foil"], strict=False):
            self.click(widget, 30, 30)
            self.ridden()
            with self.subTest(phase=phase.name):
                self.assertEqual((self.page.title.text(), self.page.question.text()), (phase.name, phase.question))
                shown = [row.key for row in self.page.rows.rows()]
                self.assertEqual(shown, [key for key in phase.figures if key in found.figures])
                self.assertTrue(self.page.first.chart.isVisible() or self.page.first.drawing.isVisible())
                self.assertIn("Source", self.page.why.text())
        self.page.show_phase("lift_off")
        self.ridden()
        knots = found.figures["least_wind_up"].value / KNOT
        self.assertIn(f"{knots:.1f}", self.row("least_wind_up").value)

    def test_a_phase_that_fails_says_by_how_much_and_a_lever_mends_it(self):
        figure = self.session.results.figures()["least_wind_up"]
        target = Target(figure="least_wind_up", relation="at most", value=figure.value - 2.5 * KNOT)
        self.session.briefs.set(replace(self.session.brief, targets=(target,)))
        self.wait_for(lambda: not self.riding.behind())
        self.page.show_phase("lift_off")
        self.ridden()
        self.assertTrue(self.page.verdict.text().startswith("short by"))
        self.assertIn("short by", self.page.asks.text())
        self.wait_for(lambda: any(b.lever == "length" for b in self.page.buys.buys), 60)
        buy = next(b for b in self.page.buys.buys if b.lever == "length")
        self.assertGreater(buy.bar, 0)  # longer is earlier
        self.page.lever_asked.emit(buy.lever)
        self.assertIs(self.window.stack.currentWidget(), self.shape)
        self.assertEqual(self.shape.levers.list.key(), "length")
        before = self.riding.figures()["least_wind_up"].value
        self.key(self.shape.levers.list, Qt.Key.Key_Right, times=4)
        self.wait_for(lambda: not self.riding.behind())
        self.assertLess(self.riding.figures()["least_wind_up"].value, before)

    def test_the_pinned_step_is_in_every_picture(self):
        self.wait_for(lambda: self.riding.pinned is not None)
        self.page.show_phase("lift_off")
        self.ridden()
        self.assertEqual([(b.name, b.role) for b in self.page.first.chart.behind], [("version 1", "pinned")])
        chart = self.page.first.chart
        chart.setFocus()
        self.key(chart, Qt.Key.Key_Right, times=3)
        self.assertIn("drag", chart.reading())
        self.assertIn("version 1: drag", chart.reading())
        widget = self.page.others[0].drawing
        self.assertEqual(len(widget.behind), 1)
        self.assertFalse(widget.grab().isNull())

    def test_reading_under_the_pointer_is_the_lines_value(self):
        self.page.show_phase("lift_off")
        self.ridden()
        chart = self.page.first.chart
        self.assertIsInstance(chart.chart, Chart)
        QTest.mouseMove(chart, QPoint(chart.width() // 2, chart.height() // 2))
        self.app.processEvents()
        words = chart.reading()
        self.assertRegex(words, r"^\d+\.\d kn: drag \d+ N")

    def test_units_and_other_disciplines(self):
        self.without_levers()
        self.session.set_system(System.INCH)
        for name in some(("Shearwater 76", "Redshank 139", "Martlet", "Kittiwake", "Curlew", "Heron"), 3):
            self.open_named(name)
            for tile in self.window.strip.tiles:
                if tile.isVisible():
                    self.click(tile, 30, 30)
                    QTest.qWait(20)
            with self.subTest(name=name):
                self.assertFalse(self.window.grab().isNull())
                self.assertNotIn("counting", [t.tile.headline for t in self.window.strip.tiles if t.isVisible()])


class Bands(RideCase):
    banded = True

    def test_the_band_is_said_to_be_counted_and_then_names_what_leaves_it_open(self):
        self.without_levers()
        self.open_named("Martlet")
        self.page.show_phase("tow")
        key = self.page.figure_key
        self.assertIn("coefficients being counted", self.row(key).tip)
        narrow = self.riding.figures()[key].band
        self.wait_for(lambda: not self.riding.counting_bands(), 60)
        QTest.qWait(180)
        figure = self.riding.figures()[key]
        self.assertGreater(figure.band, narrow)
        self.assertNotIn("being counted", self.row(key).tip)
        self.assertIn("Left open most by", self.page.why.text())
        self.assertEqual(self.session.results.figures()[key].band, figure.band)
        # another board: its own bands, from the start
        self.open_named("Redshank 139")
        self.assertTrue(next(f for f in self.riding.ride.figures if f.valid).counting)


class Conditions(RideCase):
    def test_the_slider_moves_wind_figures_and_nothing_of_the_brief(self):
        panel = self.page.conditions
        self.page.show_phase("get_going")
        self.ridden()
        before, wind = self.riding.figures()["drive_margin"].value, self.session.brief.wind.speed
        panel.slider.setValue(100)
        self.wait_for(lambda: self.riding.condition.wind > wind)
        self.ridden()
        self.assertGreater(self.riding.figures()["drive_margin"].value, before + 20)
        self.assertEqual(self.session.brief.wind.speed, wind)
        self.assertIn("another condition", self.page.note.text())
        QTest.mouseClick(panel.own, Qt.MouseButton.LeftButton)
        self.ridden()
        self.assertAlmostEqual(self.riding.figures()["drive_margin"].value, before, places=6)

    def test_a_typed_wind_and_a_wrong_one(self):
        field = self.page.conditions.value
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "17 kn")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertAlmostEqual(self.riding.condition.wind, 17 * KNOT, places=9)
        field.selectAll()
        QTest.keyClicks(field, "brisk")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(field.text(), "brisk")  # kept, to be mended
        self.assertAlmostEqual(self.riding.condition.wind, 17 * KNOT, places=9)

    def test_the_range_as_a_curve_with_progress_and_stop(self):
        self.page.show_phase("get_going")
        self.wait_for(lambda: len(self.riding.sweep) > 10, 60)
        self.assertEqual(len(self.riding.sweep), len(self.riding.pinned_sweep))
        self.page.conditions.refresh("drive_margin")
        curve = self.page.conditions.chart.chart.lines[0]
        self.assertTrue(all(b > a for a, b in zip(curve.y, curve.y[1:], strict=False)))  # more wind, more drive
        self.session.briefs.set(replace(self.session.brief, ride_height=0.33))
        self.wait_for(lambda: self.riding.sweeping()[1] > 0)
        self.assertTrue(self.page.conditions.stop.isVisible() or self.riding.sweeping() == (0, 0))
        self.riding.stop_sweep()
        self.assertEqual(self.riding.sweeping(), (0, 0))

    def test_the_quiver_and_the_gear_in_use(self):
        self.page.tabs.setCurrentIndex(1)
        self.ridden()
        rows = self.page.quiver.rows()
        gear = [row for row in rows if row.key]
        self.assertEqual(len(gear), len(self.session.brief.wings) * len(self.session.brief.foils))
        self.assertTrue(all("from" in row.value for row in gear))
        before = self.riding.figures()["least_wind_up"].value
        self.page.conditions.gear.setCurrentIndex(2)
        self.page.conditions.gear.activated.emit(2)
        self.ridden()
        self.assertGreater(self.riding.figures()["least_wind_up"].value, before)


class Coefficients(RideCase):
    def test_a_coefficient_typed_over_is_followed_and_taken_back(self):
        self.page.coefficients_asked.emit()
        panel = self.window.dialogs.shown[-1]
        row = panel.keys.index("wing_lift_most")
        before = self.riding.figures()["least_wind_up"].value
        panel.table.item(row, 2).setText("1.50")
        self.ridden()
        self.assertEqual(self.session.coefficients.wing_lift_most, 1.5)
        self.assertLess(self.riding.figures()["least_wind_up"].value, before)
        self.assertEqual(panel.table.item(row, 4).text(), "1.20")
        panel.table.item(row, 2).setText("9")
        self.assertIn("0.5 to 2", panel.problem.text())
        self.assertEqual(panel.table.item(row, 2).text(), "9")
        self.assertEqual(self.session.workshop.store.coefficients().wing_lift_most, 1.5)
        self.trigger("edit.undo")
        self.ridden()
        self.assertEqual(self.session.coefficients, HANDBOOK_COEFFICIENTS)
        self.assertAlmostEqual(self.riding.figures()["least_wind_up"].value, before, places=9)


class Levers(RideCase):
    def test_cells_tell_what_a_fair_step_does_in_each_phase(self):
        self.window.show_view("shape")
        self.wait_for(lambda: "length" in self.riding.effects, 60)
        QTest.qWait(300)
        row = self.shape.levers.row("length")
        self.assertEqual(len(row.cells), len(PHASES["wing foil"]))
        self.assertEqual(row.cells[2], 1)  # longer lifts off earlier
        self.assertEqual(row.cells[3], -1)  # and turns harder
        self.assertIn("lift off", row.tip)
        self.assertIn("(±", row.tip)
        self.shape.levers.list.choose("length")
        self.assertIn("Here", self.shape.levers.explains.text())

    def test_what_is_held_meanwhile_is_told(self):
        self.trigger("lock.volume")
        self.window.show_view("shape")
        self.wait_for(lambda: "length" in self.riding.effects and self.riding.effects["length"].held, 60)
        self.assertTrue(self.riding.effects["length"].held)


class Failing(RideCase):
    def test_a_ride_that_fails_is_said_once_and_the_last_one_stays_marked(self):
        good = self.riding.ride
        with mock.patch.object(jobs, "ride_job", fails), contextlib.redirect_stderr(io.StringIO()):
            self.assertTrue(self.shape.levers.pull("volume", "40"))
            self.session.results.settle_now()
            self.wait_for(lambda: "not counted" in self.window.heard.text())
        self.assertIn(
            "The ride was not counted: something went wrong inside Kelvor, ZeroDivisionError", self.window.heard.text()
        )
        self.assertIs(self.riding.ride, good)
        self.assertTrue(self.riding.behind())
        self.assertTrue(next(t.tile for t in self.window.strip.tiles if t.tile.key == "lift_off").stale)
        self.shape.levers.pull("volume", "41")
        self.session.results.settle_now()
        self.ridden()
        self.assertIsNot(self.riding.ride, good)


class Workers(RideCase):
    real_workers = True

    def test_a_newer_question_drops_the_older(self):
        first = self.riding.ride
        for wind in (9, 11, 13, 21):
            self.riding.set_condition(wind * KNOT)
        self.ridden()
        self.assertIsNot(self.riding.ride, first)
        self.assertAlmostEqual(self.riding.ride.condition.wind, 21 * KNOT, places=9)

    def test_a_killed_worker_is_replaced(self):
        killed = runner._pools[runner.POINTER]
        for pid in list(killed._processes):
            os.kill(pid, signal.SIGKILL)
        self.wait_for(lambda: killed._broken or runner._pools.get(runner.POINTER) is not killed, 10)
        self.riding.set_condition(16 * KNOT)
        self.wait_for(
            lambda: self.riding.ride is not None and abs(self.riding.ride.condition.wind - 16 * KNOT) < 1e-9, 30
        )

    def test_float_and_stiffness_are_counted_beside_the_window(self):
        before = self.session.results.evaluation
        with mock.patch.object(evaluation, "float_stage", side_effect=AssertionError("counted in the window")):
            self.shape.levers.pull("volume", "44")
            self.assertTrue(self.session.results.settling())
            self.wait_for(lambda: not self.session.results.settling())
        depth = "float_deck_depth"
        self.assertLess(self.session.results.evaluation.figures[depth].value, before.figures[depth].value - 0.005)
        self.ridden()

    def test_verdicts_count_the_ride_in_whichever_order_they_arrive(self):
        self.shape.levers.pull("volume", "45")
        self.wait_for(lambda: not self.session.results.settling())
        self.ridden()
        known, ride = self.session.results, self.riding.ride
        told = {p.phase.key: p.words for p in known.evaluation.phases}
        floating, stiff = known.evaluation.floating, known.evaluation.stiffness
        self.session.results.forget()
        known.take_ride(ride, self.session.live)  # before the board has settled
        known._take([(floating, stiff)])
        self.assertIs(known.evaluation.ride, ride)
        self.assertEqual({p.phase.key: p.words for p in known.evaluation.phases}, told)

    def test_closing_ends_what_is_under_way(self):
        begun, mark, heard = self.folder / "begun", self.folder / "done", []
        asked = runner.WorkerQuestion(self.window, "It was not done", heard.append, failed=heard.append)
        asked.ask(takes_long, [(begun, mark), (begun, mark)])
        self.wait_for(begun.exists, 20)
        processes = [pid for pool in runner._pools.values() for pid in pool._processes]
        runner.close_workers()
        self.assertFalse(runner._pools)
        self.wait_for(lambda: not any(lives(pid) for pid in processes), 5)
        self.assertFalse(mark.exists())  # nobody waited for it
        asked.drop()

    def test_a_worker_that_dies_over_a_question_is_asked_once_more_and_no_more(self):
        heard, failed = [], []
        asked = runner.WorkerQuestion(self.window, "It was not counted", heard.append, failed=failed.append)
        mark = self.folder / "died"
        asked.ask(dies_unless_there, [(mark,), (mark,)])
        self.wait_for(lambda: bool(heard), 30)
        self.assertEqual(heard, [["alive", "alive"]])
        asked.ask(dies, [()])
        self.wait_for(lambda: not asked.under_way, 30)
        self.assertEqual((len(heard), failed), (1, ["It was not counted: the process that worked on it ended twice."]))
        self.riding.set_condition(17 * KNOT)  # and the next question finds new workers
        self.wait_for(lambda: abs(self.riding.ride.condition.wind - 17 * KNOT) < 1e-9, 30)

    def test_the_bench_is_free_while_the_ride_is_counted(self):
        self.window.show_view("shape")
        start = self.session.board.length
        self.shape.levers.list.choose("length")
        self.key(self.shape.levers.list, Qt.Key.Key_Right)
        self.assertTrue(self.riding.behind())
        self.assertGreater(self.session.board.length, start)
        self.assertTrue(self.window.strip.tiles[2].tile.stale)
        self.wait_for(lambda: not self.window.strip.tiles[2].tile.stale)
        self.assertAlmostEqual(self.session.results.evaluation.figures["lift_off_pitch"].value / DEGREE, 7.0, delta=1.5)


class Targets(RideCase):
    def test_a_figure_of_the_ride_is_a_target_with_its_verdict(self):
        self.open_named("Redshank 139")
        self.window.show_view("brief")
        self.app.processEvents()
        view = self.window.views["brief"]
        words = [label.text() for label in view.targets._verdicts]
        pull = next(w for w, t in zip(words, self.session.brief.targets, strict=True) if t.figure == "pull_to_plane")
        self.assertRegex(pull, r"now \d+ N: (meets|short by|too close)")
        self.assertEqual(view.gear.wing_title.text(), "Kite in use")
        self.assertTrue(view.gear.wing_holder.isVisible())
        self.assertFalse(view.gear.paddle_holder.isVisible())

    def test_a_paddlers_watts_are_typed_and_followed(self):
        self.open_named("Heron")
        self.window.show_view("brief")
        self.app.processEvents()
        view = self.window.views["brief"]
        self.assertTrue(view.gear.paddle_holder.isVisible())
        before = self.riding.figures()["paddle_speed"].value
        field = next(f for f, _ in view.gear._fields if f.accessibleName() == "Rider keeps up")
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "220 W")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(self.session.brief.watts, 220.0)
        self.wait_for(lambda: not self.riding.behind())
        self.assertGreater(self.riding.figures()["paddle_speed"].value, before + 0.2)
